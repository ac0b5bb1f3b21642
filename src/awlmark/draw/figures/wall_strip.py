"""The line on one strip of its walls: legs, straps, fittings, lengths and ends."""

from __future__ import annotations

import functools
import itertools
import math
from typing import Final

from awlmark.core.books.words import Words
from awlmark.core.finding import Finding
from awlmark.core.job.leg import Leg
from awlmark.core.quantities import draw_length
from awlmark.core.run.framing import nail_plates
from awlmark.core.run.line import Walked
from awlmark.core.standing import unread_length
from awlmark.draw.figures.unfold import Laid
from awlmark.draw.figures.walls import Walls
from awlmark.draw.frame.tape import end_label
from awlmark.draw.kit.bundle import bent, bundles
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture
from awlmark.draw.kit.severity_marks import NAMES, mark

TINY: Final = 12.0
"""Legs drawn shorter than this get no words of their own: there would be no room [px]."""
CROWDED: Final = 16.0
"""Neighbouring legs drawn shorter than this have no room for boxes and straps [px]."""
LONG: Final = 24
"""On a strip of more legs than this their words would stand in each other's way."""
CROWDED_LONG: Final = 30.0
"""What is too short for boxes and straps on such a strip [px]."""


class StripView(Walls):
    """Draws one strip of panels at one scale."""

    def draw(self) -> None:
        """Draw the strip."""
        title = "Yard, cut through" if self.strip.outdoors else "Walls, unfolded"
        title += ", onward" if self.strip.onward else ""
        self.picture.text(12, self.top + 19, title, 13, BOLD, "ink2")
        self._walls()
        laid = [laid for panel in self.strip.panels for laid in panel.laid]
        # Laid flat, a leg lies or stands: one of its two extents is nought.
        sizes = [(abs(here.u2 - here.u) + abs(here.z2 - here.z)) * self.scale for here in laid]
        if laid[-1].walked is self.design.line.legs[-1]:
            # The last one, which is pulled on from, stands by itself.
            sizes[-1] = math.inf
        found = bundles(sizes, CROWDED if len(laid) <= LONG else CROWDED_LONG)
        together = [(laid[start:past], self._points(laid[start:past])) for start, past in found]
        extents = [_extent(points) for _many, points in together]
        for left, top, right, bottom in extents:
            self.labels.block(left - 4, top - 4, right - left + 8, bottom - top + 8)
        self._things()
        self._rule()
        if laid[0].walked.number == 1 and not self.strip.onward:
            self._panel(laid[0])
        for crowded, group in itertools.groupby(together, key=lambda each: len(each[0]) > 1):
            if crowded:
                self.picture.path(bent([point for _many, points in group for point in points]), "scribe", 3.0)
        alone = [many[0] for many, _points in together if len(many) == 1]
        for (many, _points), extent in zip(together, extents, strict=True):
            if len(many) > 1:
                self._bundle(many, extent)
            else:
                self._leg(many[0])
        for here in sorted(alone, key=lambda here: here.walked.leg.length_m):
            self._length(here)
        for here in alone:
            self._end(here)
        for name, spots in self._things_named:
            self.labels.put(name, spots, 13, TEXT, "ink2")
        for here in alone:
            self._marks(here)
        self._awl(laid)

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

    def _bundle(self, many: list[Laid], extent: tuple[float, float, float, float]) -> None:
        """Legs too small for anything of their own: where their line breaks, and one answer for all."""
        self.picture.leg_scale.update(dict.fromkeys([laid.walked.leg.id for laid in many], self.scale))
        left, top, right, bottom = extent
        first, last = many[0].walked, many[-1].walked
        says = functools.partial(_legs_say, first, last, self.design.job.units)
        act = f"leg:{first.leg.id}:{(first.start_m + first.end_m) / 2:.4f}"
        self.picture.hit(left - 5, top - 5, right - left + 10, bottom - top + 10, first.leg.id, says, act)
        shown = -math.inf
        for laid in many if self.stops else ():
            for finding in self._stops_on(laid.walked):
                spot = laid.at(finding.at_m or 0.0)
                if spot is not None and abs(self.x(spot[0]) - shown) >= TINY:
                    shown = self.x(spot[0])
                    self._stop(finding, spot)

    def _leg(self, laid: Laid) -> None:
        walked = laid.walked
        x, y, x2, y2 = self.x(laid.u), self.y(laid.z), self.x(laid.u2), self.y(laid.z2)
        if walked.leg.id == self.look.asked_leg:
            # What the walk asks is lit: a pale band under the leg.
            self.picture.line(x, y, x2, y2, "notefill", 18.0)
        self.picture.line(x, y, x2, y2, "scribe", 3.0, dash=unread_length(self.design.job, walked.leg.id))
        for at_m in self.design.straps(walked):
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
        says = functools.partial(_leg_says, walked, self.design.job.units, self.design.book.words)
        self.picture.hit(
            min(x, x2) - 5, min(y, y2) - 5, abs(x2 - x) + 10, abs(y2 - y) + 10, walked.leg.id, says,
            f"leg:{walked.leg.id}:{(walked.start_m + walked.end_m) / 2:.4f}",
        )  # fmt: skip

    def _marks(self, laid: Laid) -> None:
        """What stands on a leg: of several at one place the worst is seen; the slip's list holds them all."""
        walked = laid.walked
        marked: list[tuple[float, float]] = []
        for finding in (*self._stops_on(walked), *self.lesser.get(walked.leg.id, ())):
            spot = laid.at(finding.at_m or 0.0)
            if spot is None or any(math.dist(spot, other) * self.scale < TINY for other in marked):
                continue
            marked.append(spot)
            if finding.broken:
                self._stop(finding, spot)
            else:
                self._mark(finding, spot)

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

    def _mark(self, finding: Finding, spot: tuple[float, float]) -> None:
        """What holds only with a note, is tight, or is not read yet, at its place."""
        x, y = self.x(spot[0]), self.y(spot[1])
        self.picture.disc(x, y, 7.5, fill="sheet")
        mark(self.picture, finding.severity, x, y, 12)
        says = f"{NAMES[finding.severity]}: {finding.text}"
        self.picture.hit(x - 8, y - 8, 16, 16, finding.id, says, f"select:{finding.id}")

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
        plates = nail_plates(walked, self.design.book.run.edge_m)
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
        told = end == "charger" or walked is self.design.line.legs[-1] or (walked.crosses and face == BOLD)
        if walked.leg.length_m * self.scale < TINY and not told:
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
        if laid.walked.crosses:
            self._thickness(laid)
            return
        x, y, x2, y2 = self.x(laid.u), self.y(laid.z), self.x(laid.u2), self.y(laid.z2)
        if max(abs(x2 - x), abs(y2 - y)) < TINY or laid.share > 0:
            return
        leg, units = laid.walked.leg, self.design.job.units
        length = draw_length(leg.length_m, units)
        if leg.built_m is not None:
            length += f" built {draw_length(leg.built_m, units)}"
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
        self.labels.put(length, spots, *self._lettering(laid))

    def _lettering(self, laid: Laid) -> tuple[float, str, str, str, int]:
        """Size, face, role, plate and number of a leg's length: on paper smaller, with the leg's number before it."""
        paper = self.picture.paper
        return (13.0 if paper else 20.0), DRAW, "ink", "", (laid.walked.number if paper else 0)

    def _thickness(self, laid: Laid) -> None:
        leg, number = laid.walked.leg, laid.walked.number if self.picture.paper else 0
        upright = bool(laid.walked.heading[2])
        what = f" of {leg.wall}" if leg.wall else " of ceiling" if upright else " wall"
        says = f"{draw_length(leg.length_m, self.design.job.units)}{what}" if leg.length_m else "not measured"
        if upright:
            x, ends = self.x(laid.u), sorted((self.y(laid.z), self.y(laid.z2)))
            sides = ((x + 14, START), (x - 14, END))
            spots = [(at, y, anchor) for y in (ends[0] - 7, ends[1] + 19) for at, anchor in sides]
            self.labels.put(says, spots, 13, number=number)
            return
        left, right = sorted((self.x(laid.u), self.x(laid.u2)))
        foot = self.y(min(0.0, self.low + 0.1)) + 17
        spots = [((left + right) / 2, foot, MIDDLE), (left, foot, START), (right, foot, END)]
        high = [(right + 6, foot - up, START) for up in (30, 50, 80)] + [
            (left - 6, foot - up, END) for up in (30, 50, 80)
        ]
        self.labels.put(says, spots + high, 13, number=number)

    def _awl(self, laid: list[Laid]) -> None:
        walked = self.design.line.leg_at(self.look.seen_m)
        for here in laid:
            spot = here.at(self.look.seen_m) if here.walked is walked else None
            if spot is not None:
                self.picture.disc(self.x(spot[0]), self.y(spot[1]), 5, "ink", 2, "tape")
                return


_ONWARD: Final = {"right": (1, 0), "left": (-1, 0), "up": (0, -1), "down": (0, 1)}
"""Right and down on the screen, by direction along a wall."""


def onward(picture: Picture, leg: Leg) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Where a leg would lead from the line's end, as the Run scene stands [px]; None where it leaves the wall."""
    handle = next((hit for hit in picture.hits if hit.id == "handle"), None)
    if handle is None or leg.direction not in _ONWARD:
        return None
    x, y, long = handle.x + handle.w / 2, handle.y + handle.h / 2, leg.length_m * picture.pixels_per_m
    across, down = _ONWARD[leg.direction]
    return (x, y), (x + across * long, y + down * long)


def _legs_say(first: Walked, last: Walked, units: str) -> str:
    return f"Legs {first.number} to {last.number}: {draw_length(last.end_m - first.start_m, units)}"


def _leg_says(walked: Walked, units: str, words: Words) -> str:
    length, place = draw_length(walked.leg.length_m, units), words.place(walked.place)
    return f"Leg {walked.number}: {walked.leg.direction} {length}, {walked.method.name}, {place}"


def _extent(points: list[tuple[float, float]]) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of a line [px]."""
    across, down = zip(*points, strict=True)
    return min(across), min(down), max(across), max(down)
