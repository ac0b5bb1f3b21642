"""The Run scene: floor plan above, walls unfolded and the yard cut through below."""

from __future__ import annotations

import math
from typing import Final

import msgspec

from awlmark.core.design import Design
from awlmark.core.finding import Finding
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.run.guard import STUD_M, nail_plates
from awlmark.core.run.line import Walked
from awlmark.core.run.supports import straps
from awlmark.draw.bundle import bent, bundles
from awlmark.draw.labels import Labels
from awlmark.draw.look import Look
from awlmark.draw.marks import mark
from awlmark.draw.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, text_width
from awlmark.draw.plan import LEFT, MOST_SCALE, RIGHT, draw_plan, draw_question
from awlmark.draw.tape import end_label
from awlmark.draw.unfold import CUT, WALL, YARD, Laid, Panel, Strip, unfold

PANEL_TALL_M: Final = 0.75
PANEL_WIDE_M: Final = 0.36
CEILING_M: Final = 2.44
TINY: Final = 12.0
"""Legs drawn shorter than this get no words of their own: there would be no room [px]."""
CROWDED: Final = 16.0
"""Neighbouring legs drawn shorter than this have no room for boxes and straps [px]."""
NAMED: Final = 24.0
"""Walls narrower than this have no room for a name [px]."""


def draw_run(design: Design, look: Look, width: float, height: float) -> Picture:
    """Draw the Run scene.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        The awl's place.
    width, height : float
        Size of the scene [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if not design.line.legs:
        draw_question(picture)
        return picture
    if look.run_page == "bends":
        from awlmark.draw.bends_view import draw_bends

        draw_bends(picture, design, 38.0, width, height)
        _pages(picture, look, width)
        return picture
    plan = 118.0 if height >= 520 else 92.0
    draw_plan(picture, design, width, plan)
    strips = unfold(design.line)
    top = plan
    for strip, tall in zip(strips, _share_room(strips, width, height - plan), strict=True):
        picture.line(0, top + 0.5, width, top + 0.5, "edge")
        StripView(picture, design, look, strip, top, width, tall).draw()
        top += tall
    _pages(picture, look, width)
    return picture


def _pages(picture: Picture, look: Look, width: float) -> None:
    """Two pages of one stage: the line, and the bends made by hand."""
    for number, (page, name) in enumerate((("line", "Line"), ("bends", "Bends by hand"))):
        wide = 116.0
        left, here = width - 8 - wide * (2 - number), look.run_page == page
        fill, role = ("notefill", "scribe") if here else ("ground", "edge")
        picture.box(left, 5, wide - 6, 22, role, 2 if here else 1, fill, 3)
        picture.text(left + (wide - 6) / 2, 21, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        says = name + (", shown" if here else "")
        picture.hit(left, 5, wide - 6, 22, f"run-{page}", says, f"runpage:{page}")


def _share_room(strips: list[Strip], width: float, room: float) -> list[float]:
    """Heights of the strips [px]: each what its width can use, up to a fair share; what is left goes to all."""
    wanted = [_wanted_height(strip, width) for strip in strips]
    given = [0.0] * len(strips)
    for place, number in enumerate(sorted(range(len(strips)), key=lambda number: wanted[number])):
        given[number] = min(wanted[number], (room - sum(given)) / (len(strips) - place))
    spare = (room - sum(given)) / len(strips)
    return [tall + spare for tall in given]


def _wanted_height(strip: Strip, width: float) -> float:
    low, high = _levels(strip)
    scale = min((width - LEFT - RIGHT) / max(strip.width_m, 0.5), MOST_SCALE)
    return max(120.0, scale * (high - low) + 52)


def _levels(strip: Strip) -> tuple[float, float]:
    """Lowest and highest level to show [m]: floor to ceiling inside, below the trench to above the post outdoors."""
    low, high = strip.heights_m()
    if strip.outdoors:
        buried = any(laid.walked.place == "buried" for panel in strip.panels for laid in panel.laid)
        return (low if buried else min(low, 0.0)) - 0.35, high + 0.35
    return min(0.0, low - 0.2), max(CEILING_M, high + 0.2) + 0.12


class StripView:
    """Draws one strip of panels at one scale."""

    def __init__(
        self, picture: Picture, design: Design, look: Look, strip: Strip, top: float, width: float, height: float,
        fixed: float | None = None,
    ) -> None:  # fmt: skip
        self.picture, self.design, self.look, self.strip = picture, design, look, strip
        self.stops = design.stops
        self.section_of = {walked.leg.id: section for section in design.line.sections for walked in section.legs}
        self.top, self.width, self.height = top, width, height
        self.low, self.high = _levels(strip)
        self.ceiling = self.high - 0.12
        self.scale = min(
            (width - LEFT - RIGHT) / max(strip.width_m, 0.5), (height - 46) / (self.high - self.low), MOST_SCALE
        )
        self.scale = self.scale if fixed is None else fixed
        self.left = LEFT - strip.left_m * self.scale
        slack = (height - 46 - (self.high - self.low) * self.scale) / 2
        self.base = top + height - 20 - max(0.0, slack)
        self.labels = Labels(picture, 4, top + 24, width - 4, top + height - 2)

    @staticmethod
    def levels(strip: Strip) -> tuple[float, float]:
        """Lowest and highest level to show [m]."""
        return _levels(strip)

    def x(self, u: float) -> float:
        """Along the strip [px]."""
        return self.left + u * self.scale

    def y(self, z: float) -> float:
        """Up the wall [px]."""
        return self.base - (z - self.low) * self.scale

    def draw(self) -> None:
        """Draw the strip."""
        title = "Yard, cut through" if self.strip.outdoors else "Walls, unfolded"
        title += ", onward" if self.strip.onward else ""
        self.picture.text(12, self.top + 19, title, 13, BOLD, "ink2")
        self._walls()
        laid = [laid for panel in self.strip.panels for laid in panel.laid]
        sizes = [max(abs(here.u2 - here.u), abs(here.z2 - here.z)) * self.scale for here in laid]
        if laid[-1].walked is self.design.line.legs[-1]:
            # The last one, which is pulled on from, stands by itself.
            sizes[-1] = math.inf
        together = [(laid[start:past], self._points(laid[start:past])) for start, past in bundles(sizes, CROWDED)]
        for _many, points in together:
            self._block(points)
        self._things()
        self._rule()
        if laid[0].walked.number == 1 and not self.strip.onward:
            self._panel(laid[0])
        alone = [many[0] for many, _points in together if len(many) == 1]
        for many, points in together:
            if len(many) > 1:
                self._bundle(many, points)
            else:
                self._leg(many[0])
        for here in sorted(alone, key=lambda here: here.walked.leg.length_m):
            self._length(here)
        for here in alone:
            self._end(here)
        self._awl(laid)

    def _walls(self) -> None:
        """Walls, walls cut through and yard; neighbouring walls too narrow for a name as one."""
        panels = self.strip.panels
        kinds = {WALL: self._wall, CUT: self._cut, YARD: self._yard}
        sizes = [(each.right - each.left) * self.scale if each.kind == WALL else math.inf for each in panels]
        for start, past in bundles(sizes, NAMED):
            if past - start > 1:
                many = panels[start:past]
                left, right = min(each.left for each in many), max(each.right for each in many)
                self._wall(msgspec.structs.replace(many[0], left=left, right=right))
            else:
                kinds[panels[start].kind](panels[start])

    def _points(self, many: list[Laid]) -> list[tuple[float, float]]:
        """Neighbouring legs as one line [px]."""
        left, base, low, scale = self.left, self.base, self.low, self.scale
        points: list[tuple[float, float]] = []
        for laid in many:
            start = left + laid.u * scale, base - (laid.z - low) * scale
            if not points or start != points[-1]:
                points.append(start)
            points.append((left + laid.u2 * scale, base - (laid.z2 - low) * scale))
        return points

    def _block(self, points: list[tuple[float, float]]) -> None:
        across, up = zip(*points, strict=True)
        left, top = min(across), min(up)
        self.labels.block(left - 4, top - 4, max(across) - left + 8, max(up) - top + 8)

    def _bundle(self, many: list[Laid], points: list[tuple[float, float]]) -> None:
        """Legs too small for anything of their own: their line, where it breaks, and one answer for all."""
        self.picture.path(bent(points), "scribe", 3.0)
        self.picture.leg_scale.update(dict.fromkeys([laid.walked.leg.id for laid in many], self.scale))
        across, up = zip(*points, strict=True)
        left, top = min(across), min(up)
        wide, tall = max(across) - left, max(up) - top
        first, last = many[0].walked, many[-1].walked
        length = draw_length(last.end_m - first.start_m, self.design.job.units)
        says = f"Legs {first.number} to {last.number}: {length}"
        act = f"leg:{first.leg.id}:{(first.start_m + first.end_m) / 2:.4f}"
        self.picture.hit(left - 5, top - 5, wide + 10, tall + 10, first.leg.id, says, act)
        shown = -math.inf
        for laid in many if self.stops else ():
            for finding in self._stops_on(laid.walked):
                spot = laid.at(finding.at_m or 0.0)
                if spot is not None and abs(self.x(spot[0]) - shown) >= TINY:
                    shown = self.x(spot[0])
                    self._stop(finding, spot)

    def _wall(self, panel: Panel) -> None:
        x, x2 = self.x(panel.left), self.x(panel.right)
        floor, ceiling = self.y(0.0), self.y(self.ceiling)
        self.picture.box(x, ceiling, x2 - x, floor - ceiling, fill="ground")
        studs = math.ceil((panel.right - panel.left) / STUD_M)
        if STUD_M * self.scale >= 5:
            top, tall = round(ceiling), round(floor) - round(ceiling)
            places = [round(x + number * STUD_M * self.scale - 0.5) for number in range(1, studs)]
            self.picture.tiles([(at, top, 1, tall) for at in places], "faint")
        self.picture.line(x, floor, x2, floor, "ink", 1.6)
        self.picture.box(x, ceiling - 5, x2 - x, 5, "edge", 1, "well")
        if panel is not self.strip.panels[0]:
            self.picture.line(x, ceiling, x, floor, "edge", 1, dash=True)
        self.labels.put(_place_name(panel), [(x + 6, floor + 16, START)], 13, TEXT, "ink2")

    def _cut(self, panel: Panel) -> None:
        x, x2 = self.x(panel.left), self.x(panel.right)
        top, bottom = self.y(self.ceiling), self.y(min(0.0, self.low + 0.1))
        self.picture.box(x, top, x2 - x, bottom - top, "ink", 1.4, "well", hatch="slant")

    def _yard(self, panel: Panel) -> None:
        x, x2 = self.x(panel.left), self.x(panel.right)
        trench = [laid for laid in panel.laid if laid.walked.place == "buried"]
        levels = [laid.z + laid.walked.leg.cover_m for laid in trench if laid.walked.leg.cover_m is not None]
        grade = max(levels) if levels else max(0.0, max((laid.z for laid in trench), default=-0.3) + 0.3)
        y, bottom = self.y(grade), self.top + self.height - 4
        self.picture.box(x, y, x2 - x, bottom - y, fill="ground", hatch="earth:faint")
        self.picture.line(x, y, x2, y, "ink", 1.6)
        self.labels.block(x, y - 1, x2 - x, 2)
        self._house(panel, x)
        for laid in trench:
            cover = laid.walked.leg.cover_m
            if cover:
                level = self.y(laid.z + cover / 2)
                self.picture.line(self.x(laid.u) + 8, level, self.x(laid.u2) - 8, level, "tight", 1.4, dash=True)
            at = self.x(laid.u * 0.82 + laid.u2 * 0.18)
            self.picture.line(at, y, at, self.y(laid.z), "edge", 1, dash=cover is None)
            told = f"{draw_length(cover, self.design.job.units)} of cover" if cover is not None else "cover not read"
            self.labels.block(at - 1, y, 2, self.y(laid.z) - y)
            mid = (y + self.y(laid.z)) / 2 + 5
            self.labels.put(told, [(at + 7, mid, START), (at + 7, y - 6, START)], 13, TEXT, "ink2", plate="ground")
        last = panel.laid[-1]
        if last.walked.leg.end in ("charger", "post") and last.walked.heading[2] > 0:
            left, top = self.x(last.u2) + 3, self.y(last.z2) - 8
            self.picture.box(left, top, 7, y - top + 22, "edge", 1, "well")
            self.labels.block(left, top, 7, y - top + 22)

    def _house(self, panel: Panel, x: float) -> None:
        """The wall that the line has just come through, at the left of the yard."""
        first = panel.laid[0]
        legs = self.design.line.legs
        before = legs[first.walked.number - 2] if first.walked.number > 1 else None
        if before is None or before.leg.direction not in ("through", "in", "out") or panel is not self.strip.panels[0]:
            return
        entry, thick = self.x(first.u), min(before.leg.length_m * self.scale, 26.0)
        top, bottom = self.y(self.high), self.top + self.height - 4
        left = entry + 1 if panel.leftward else entry - thick - 1
        self.picture.box(left, top, thick, bottom - top, "ink", 1.2, "well", hatch="slant")
        self.labels.block(left, top, thick, bottom - top)
        if before.leg.end in ("body", "box", "pull elbow"):
            self.picture.box(entry - 5, self.y(first.z) - 8, 10, 16, "ink", 1.8, "sheet", 3)
            self.labels.block(entry - 5, self.y(first.z) - 8, 10, 16)

    def _things(self) -> None:
        """What stands against the panel's own wall, to its height: the line has to go round it."""
        panel = self.strip.panels[0]
        first = panel.laid[0]
        if panel.kind != WALL or first.walked.number != 1:
            return
        zero = first.u
        for thing in self.design.job.site.things:
            if not -0.7 <= thing.y + thing.deep <= 0.1:
                continue
            x, x2 = (self.x(zero + at) for at in (thing.x, thing.x + thing.wide))
            left, right = max(x, self.x(panel.left)), min(x2, self.x(panel.right))
            if right - left < 3:
                continue
            top, floor = self.y(thing.high), self.y(0.0)
            self.picture.box(left, top, right - left, floor - top, "edge", 1.2, "sheet")
            middle, fits = (left + right) / 2, text_width(thing.name, TEXT, 13) < right - left - 6
            spots = [(middle, (top + floor) / 2 + 5 if fits else top - 6, MIDDLE)]
            self.labels.put(thing.name, spots, 13, TEXT, "ink2")
            says = f"{thing.name} on this wall, {draw_length(thing.high, self.design.job.units)} high"
            self.picture.hit(left, top, right - left, floor - top, f"wall-{thing.id}", says)

    def _rule(self) -> None:
        """Heights at the left edge, in feet or metres."""
        unit = FOOT_M if self.design.job.units == "ft" else 1.0
        step = 5 if unit == FOOT_M else 1
        if self.strip.outdoors or step * unit * self.scale < 20:
            return
        x = 30.0
        self.picture.line(x, self.y(max(self.low, 0.0)), x, self.y(self.high), "edge")
        for number in range(int(self.high / unit) + 1):
            if number * unit < self.low:
                continue
            y = self.y(number * unit)
            long = number % step == 0
            self.picture.line(x - (8 if long else 4), y, x, y, "edge")
            if long:
                self.labels.put(f"{number}", [(x - 11, y + 6, END)], 16, DRAW, "ink2")

    def _panel(self, first: Laid) -> None:
        """The panel hangs under the first reading, or beside it."""
        way = first.walked.leg.direction
        wide, tall = PANEL_WIDE_M * self.scale, PANEL_TALL_M * self.scale
        wide, tall = max(wide, 12.0), max(tall, 22.0)
        x, y = self.x(first.u), self.y(first.z)
        left = x - wide if way == "right" else x if way == "left" else x - wide / 2
        top = y - tall if way == "down" else y if way == "up" else y - tall / 2
        self.picture.box(left, top, wide, tall, "ink", 2, "sheet", 2)
        for row in range(3):
            self.picture.box(left + 3, top + tall * (0.2 + row * 0.24), wide - 6, max(2.0, tall * 0.1), "edge", 0.8)
        self.labels.block(left, top, wide, tall)
        name = self.design.job.supply.panel_name
        self.labels.put(
            name, [(left - 6, top + tall / 2 + 5, END), (left + wide + 6, top + tall / 2 + 5, START)], 13, BOLD
        )
        self.picture.hit(left, top, wide, tall, "panel", f"{name}: zero of the tape", "awl:0")

    def _leg(self, laid: Laid) -> None:
        walked = laid.walked
        x, y, x2, y2 = self.x(laid.u), self.y(laid.z), self.x(laid.u2), self.y(laid.z2)
        self.picture.line(x, y, x2, y2, "scribe", 3.0)
        circuit = self.design.circuit
        section = self.section_of.get(walked.leg.id)
        trade = circuit.trade_sizes[section.number] if circuit and section else None
        for at_m in straps(walked, trade):
            spot = laid.at(at_m)
            if spot is None:
                continue
            sx, sy = self.x(spot[0]), self.y(spot[1])
            if abs(x2 - x) >= abs(y2 - y):
                self.picture.line(sx, sy - 6, sx, sy + 5, "scribe", 1.6)
                self.picture.disc(sx, sy - 7, 2.2, fill="scribe")
            else:
                self.picture.line(sx - 6, sy, sx + 5, sy, "scribe", 1.6)
                self.picture.disc(sx - 7, sy, 2.2, fill="scribe")
        self.picture.leg_scale[walked.leg.id] = self.scale
        if laid.share == 0.0:
            self._fittings(walked, (x, y), (x2, y2))
        for finding in self._stops_on(walked):
            spot = laid.at(finding.at_m or 0.0)
            if spot is not None:
                self._stop(finding, spot)
        says = (
            f"Leg {walked.number}: {walked.leg.direction} {draw_length(walked.leg.length_m, self.design.job.units)}, "
            f"{walked.method.name}, {walked.place}"
        )
        self.picture.hit(
            min(x, x2) - 5, min(y, y2) - 5, abs(x2 - x) + 10, abs(y2 - y) + 10, walked.leg.id, says,
            f"leg:{walked.leg.id}:{(walked.start_m + walked.end_m) / 2:.4f}",
        )  # fmt: skip

    def _stops_on(self, walked: Walked) -> list[Finding]:
        """Broken rules that stand on a leg."""
        return [
            finding
            for finding in self.stops
            if finding.at_m is not None
            and walked.start_m - 1e-9 <= finding.at_m <= walked.end_m
            and (finding.at_m > 0 or walked.number == 1)
        ]

    def _stop(self, finding: Finding, spot: tuple[float, float]) -> None:
        x, y = self.x(spot[0]), self.y(spot[1])
        self.picture.disc(x, y, 9, fill="sheet")
        mark(self.picture, "stop", x, y, 14)
        self.picture.hit(x - 9, y - 9, 18, 18, finding.id, f"Stop: {finding.text}", f"select:{finding.id}")

    def _fittings(self, walked: Walked, start: tuple[float, float], end: tuple[float, float]) -> None:
        """What stands on a leg: slip joint, offset, nail plates."""
        (x, y), (x2, y2) = start, end
        upright = abs(y2 - y) > abs(x2 - x)
        cx, cy = (x + x2) / 2, (y + y2) / 2
        if walked.leg.slip:
            wide, tall = (14, 18) if upright else (18, 14)
            at = (cx, y + (y2 - y) * 0.3) if upright else (cx, cy)
            self.picture.box(at[0] - wide / 2, at[1] - tall / 2, wide, tall, "ink2", 1.4, dash=True)
            self.picture.hit(
                at[0] - wide / 2, at[1] - tall / 2, wide, tall, f"slip-{walked.leg.id}",
                f"Leg {walked.number}: expansion fitting", f"select:moves:{walked.leg.id}",
            )  # fmt: skip
        if walked.leg.offset_m is not None and not upright:
            step = max(walked.leg.offset_m * self.scale, 5.0)
            self.picture.line(cx - 20, cy, cx + 20, cy, "sheet", 5)
            self.picture.path([(cx - 20, cy), (cx - 8, cy), (cx + 8, cy - step), (cx + 20, cy - step)], "scribe", 3)
            self.picture.line(cx + 20, cy - step, cx + 20, cy, "scribe", 1)
        plates = nail_plates(walked)
        for plate in range(plates):
            along = x + (x2 - x) * (plate + 0.5) / plates
            self.picture.box(along - 2, y - 7, 4, 14, "ink2", 1, "faint")

    def _end(self, laid: Laid) -> None:
        walked = laid.walked
        if laid.share2 < 1.0:
            return
        x, y = self.x(laid.u2), self.y(laid.z2)
        end = walked.leg.end
        label = end_label(walked, None)
        if end == "charger":
            self.picture.box(x - 6, y - 17, 12, 20, "ink", 2, "sheet", 2)
            self.labels.block(x - 6, y - 17, 12, 20)
        elif end in ("body", "pull elbow"):
            self.picture.box(x - 5, y - 8, 10, 16, "ink", 1.8, "sheet", 3)
            self.labels.block(x - 5, y - 8, 10, 16)
        elif end == "box":
            self.picture.box(x - 7, y - 7, 14, 14, "ink", 1.8, "sheet")
            self.labels.block(x - 7, y - 7, 14, 14)
        elif walked is self.design.line.legs[-1]:
            self.picture.disc(x, y, 6, "scribe", 2, "sheet")
            self.picture.pixels_per_m = self.scale
            self.picture.hit(
                x - 10, y - 10, 20, 20, "handle", "End of the line: pull it to scribe the next leg", "pull"
            )
            label = "Pull on from here"
        elif walked.turn_deg > 0.5:
            self.picture.line(x - 5, y + 7, x + 5, y - 7, "ink", 2)
        else:
            return
        face = BOLD if end in ("charger", "body", "pull elbow", "box") else TEXT
        if walked.leg.length_m * self.scale < TINY and end != "charger" and walked is not self.design.line.legs[-1]:
            return
        spots = [
            (x + 11, y + 16, START),
            (x + 11, y - 9, START),
            (x - 11, y - 9, END),
            (x - 11, y + 17, END),
            (x + 12, y + 5, START),
        ]
        self.labels.put(label, spots, 13, face, "ink" if face == BOLD else "ink2")

    def _length(self, laid: Laid) -> None:
        if laid.walked.leg.direction in ("through", "in", "out") and laid.walked.heading[2] == 0:
            self._thickness(laid)
            return
        x, y, x2, y2 = self.x(laid.u), self.y(laid.z), self.x(laid.u2), self.y(laid.z2)
        if max(abs(x2 - x), abs(y2 - y)) < TINY or laid.share > 0:
            return
        length = draw_length(laid.walked.leg.length_m, self.design.job.units)
        cx, cy = (x + x2) / 2, (y + y2) / 2
        if abs(x2 - x) >= abs(y2 - y):
            spots = [
                (cx, cy + 24, MIDDLE),
                (cx, cy - 12, MIDDLE),
                (cx + 60, cy + 24, MIDDLE),
                (cx - 60, cy + 24, MIDDLE),
            ]
        else:
            heights = (cy + 7, cy - 6, cy + 20, min(y, y2) + 16, max(y, y2) - 4)
            spots = [spot for at in heights for spot in ((cx + 14, at, START), (cx - 14, at, END))]
        self.labels.put(length, spots, 20, DRAW)

    def _thickness(self, laid: Laid) -> None:
        leg = laid.walked.leg
        says = f"{draw_length(leg.length_m, self.design.job.units)}{f' of {leg.wall}' if leg.wall else ' wall'}"
        left, right = sorted((self.x(laid.u), self.x(laid.u2)))
        foot = self.y(min(0.0, self.low + 0.1)) + 17
        spots = [((left + right) / 2, foot, MIDDLE), (left, foot, START), (right, foot, END)]
        high = [(right + 6, foot - up, START) for up in (30, 50, 80)] + [
            (left - 6, foot - up, END) for up in (30, 50, 80)
        ]
        self.labels.put(says, spots + high, 13)

    def _awl(self, laid: list[Laid]) -> None:
        for here in laid:
            walked = here.walked
            inside = walked.start_m - 1e-9 <= self.look.at_m <= walked.end_m + 1e-9
            spot = here.at(self.look.at_m) if inside else None
            if spot is not None:
                self.picture.disc(self.x(spot[0]), self.y(spot[1]), 5, "ink", 2, "tape")
                return


def _place_name(panel: Panel) -> str:
    return {"indoor": "Indoors", "garage": "Garage", "attic": "Attic", "crawl": "Crawl space"}.get(
        panel.laid[0].walked.place, ""
    )
