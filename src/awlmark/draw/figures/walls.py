"""The walls and the yard that a line lies on, unfolded at one scale."""

from __future__ import annotations

import itertools
import math
from typing import Final

import msgspec

from awlmark.core.books.words import Words, cap
from awlmark.core.finding import HOLDS, UNREAD, Finding
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.core.run.framing import STUD_M
from awlmark.core.run.in_the_way import OnWall, on_wall
from awlmark.core.run.line import Walked
from awlmark.core.run.storeys import STOREY_M, height_of, standings, storey_of
from awlmark.core.solve.design import Design
from awlmark.draw.figures.plan import LEFT, MOST_SCALE, RIGHT
from awlmark.draw.figures.unfold import CUT, WALL, YARD, Laid, Panel, Strip
from awlmark.draw.kit.bundle import bundles
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, text_width
from awlmark.draw.view_state import Look

PANEL_TALL_M: Final = 0.75
PANEL_WIDE_M: Final = 0.36
LOFT_M: Final = 0.75
"""Shown above a line that runs over a ceiling [m]."""
WORDY: Final = 80.0
"""Walls at least so wide are named each, whatever stands beside them [px]."""
UNFRAMED: Final = ("attic", "crawl", "roof", "outdoor")
"""Places over or under a room, where no studs are drawn."""
PLACE_NAMES: Final = {
    "indoor": "Indoors", "garage": "Garage", "attic": "Attic", "crawl": "Crawl space", "roof": "Roof",
}  # fmt: skip


def place_name(place: str, words: Words) -> str:
    """A place over its walls, as the book calls it; empty for what has no name there."""
    return cap(words.places[place]) if place in words.places else PLACE_NAMES.get(place, "")


FINEST: Final = 3.0
"""Studs nearer together than this on the screen are too fine to tell the corners between them [px]."""
STUDS: Final = 8.0
"""Studs nearer together than this are not drawn [px]."""
NAMED: Final = 40.0
"""Walls narrower than this have no room for a name [px]."""


def levels_of(strip: Strip, design: Design) -> tuple[float, float]:
    """Lowest and highest level to show [m]: floor to ceiling inside, below the trench to above the post outdoors."""
    low, high = strip.heights_m()
    if strip.outdoors:
        buried = any(laid.walked.place == "buried" for panel in strip.panels for laid in panel.laid)
        return (low if buried else min(low, 0.0)) - 0.35, high + 0.35
    # What runs over a ceiling begins its wall there, or comes to it by a leg that passes one.
    ends = [(panel.laid[0].walked.place, panel.laid[-1].walked.place_after) for panel in strip.panels]
    above = any(start in UNFRAMED or (end in UNFRAMED and end != "outdoor") for start, end in ends)
    # A room over a floor has its own height over that floor, one under it hangs as far below.
    passed = [laid.walked for panel in strip.panels for laid in panel.laid if laid.walked.crosses]
    rises = [walked for walked in passed if _room(walked.place_after)]
    rooms = [walked.end[2] + _tall(design, walked.number) for walked in rises if walked.heading[2] > 0]
    cellars = [walked.end[2] - _tall(design, walked.number) for walked in rises if walked.heading[2] < 0]
    top = max(_tall(design, strip.panels[0].laid[0].walked.number - 1), high + (LOFT_M if above else 0.2), *rooms)
    return min(0.0, low - 0.2, *(deep - 0.1 for deep in cellars if deep < -0.1)), top + 0.12


def _tall(design: Design, at: int) -> float:
    """Floor to ceiling of the storey that the leg at this place of the line stands on [m]."""
    storeys = design.job.site.storeys
    return height_of(storeys, standings(design.line.legs, storeys)[at].number)


def _room(place: str) -> bool:
    return place in PLACE_NAMES and place not in UNFRAMED


class Walls:
    """One strip of walls, walls cut through, or yard: what stands there before the line does."""

    def __init__(
        self, picture: Picture, design: Design, look: Look, strip: Strip, top: float, width: float, height: float,
        fixed: float | None = None,
    ) -> None:  # fmt: skip
        self.picture, self.design, self.look, self.strip = picture, design, look, strip
        self.stops = design.stops
        self.lesser: dict[str, list[Finding]] = {}
        """What is marked on each leg beside the stops, worst first."""
        for finding in itertools.takewhile(lambda finding: finding.severity != HOLDS, design.findings):
            # An end that is still open shows the handle to pull on by.
            told = (finding.stage == "run" or finding.severity == UNREAD) and finding.id != "run"
            if told and finding.at_m is not None and not finding.broken:
                self.lesser.setdefault(finding.where, []).append(finding)
        self.top, self.width, self.height = top, width, height
        self.stood = standings(design.line.legs, design.job.site.storeys)
        self.low, self.high = levels_of(strip, design)
        self.ceiling = self.high - 0.12
        self.scale = min(
            (width - LEFT - RIGHT) / max(strip.width_m, 0.5), (height - 46) / (self.high - self.low), MOST_SCALE
        )
        self.scale = self.scale if fixed is None else fixed
        self.left = LEFT - strip.left_m * self.scale
        slack = (height - 46 - (self.high - self.low) * self.scale) / 2
        self.base = top + height - 20 - max(0.0, slack)
        self.labels = Labels(picture, 4, top + 24, width - 4, top + height - 2)
        self._things_named: list[tuple[str, list[tuple[float, float, str]]]] = []
        """Names of what stands against the walls, set when the line has its lengths."""
        self._named = ""
        """Room of the wall drawn last."""
        self._slab: Walked | None = None
        """Ceiling or floor that the line passed last."""

    def x(self, u: float) -> float:
        """Along the strip [px]."""
        return self.left + u * self.scale

    def y(self, z: float) -> float:
        """Up the wall [px]."""
        return self.base - (z - self.low) * self.scale

    def _walls(self) -> None:
        """Walls, walls cut through and yard; neighbouring walls too narrow for a name as one."""
        panels = self.strip.panels
        kinds = {WALL: self._wall, CUT: self._cut, YARD: self._yard}
        sizes = [(each.right - each.left) * self.scale if each.kind == WALL else math.inf for each in panels]
        for start, past in bundles(sizes, NAMED, math.inf):
            if past - start == 1:
                kinds[panels[start].kind](panels[start])
                continue
            for _name, group in itertools.groupby(panels[start:past], key=self._place_of):
                many = list(group)
                left, right = min([each.left for each in many]), max([each.right for each in many])
                self._wall(msgspec.structs.replace(many[0], left=left, right=right))
                top, tall = round(self.y(self.ceiling)), round(self.y(0.0)) - round(self.y(self.ceiling))
                edges = {round(self.x(each.left) - 0.5) for each in many} if self.scale * STUD_M >= FINEST else set()
                self.picture.tiles([(edge, top, 1, tall) for edge in sorted(edges)], "edge")

    def _wall(self, panel: Panel) -> None:
        """Floor over floor where the line passes a ceiling: framing in rooms, bare above and below them."""
        x, x2 = self.x(panel.left), self.x(panel.right)
        floors, slabs = self._floors(panel)
        for low, high, place in floors:
            top, bottom, room = self.y(high), self.y(low), place not in UNFRAMED
            self.picture.box(x, top, x2 - x, bottom - top, fill="ground" if room else "sheet")
            studs = math.ceil((panel.right - panel.left) / STUD_M)
            if room and STUD_M * self.scale >= STUDS:
                head, tall = round(top), round(bottom) - round(top)
                places = [round(x + number * STUD_M * self.scale - 0.5) for number in range(1, studs)]
                self.picture.tiles([(at, head, 1, tall) for at in places], "faint")
        floor, ceiling = self.y(floors[0][0]), self.y(self.ceiling)
        self.picture.line(x, floor, x2, floor, "ink", 1.6)
        self.picture.box(x, ceiling - 5, x2 - x, 5, "edge", 1, "well")
        for low, high in slabs:
            thick = max(4.0, (high - low) * self.scale)
            self.picture.box(x, self.y(high), x2 - x, thick, "edge", 1, "well", hatch="slant")
            self.labels.block(x, self.y(high), x2 - x, thick)
        if panel is not self.strip.panels[0]:
            self.picture.line(x, ceiling, x, floor, "edge", 1, dash=True)
        for low, high, place in floors:
            name, lowest = self._called(low, place), low == floors[0][0]
            # A narrow wall of the room before says so by standing beside it.
            if name and (name != self._named or x2 - x >= WORDY or not lowest):
                y = self.y(low) + 14 if lowest else self.y(high) + 18
                self.labels.put(name, [(x + 6, y, START), (x2 - 8, y, END)], 13, TEXT, "ink2")
        self._named = self._place_of(panel)

    def _place_of(self, panel: Panel) -> str:
        return place_name(panel.laid[0].walked.place, self.design.book.words)

    def _called(self, level: float, place: str) -> str:
        """A storey's own name, or that of its place."""
        storeys = self.design.job.site.storeys
        told = [storey_of(storeys, floor.number).name for floor in self.stood if abs(floor.level_m - level) < 0.05]
        return next(filter(None, told), "") or place_name(place, self.design.book.words)

    def _floors(self, panel: Panel) -> tuple[list[tuple[float, float, str]], list[tuple[float, float]]]:
        """What lies over each other on a wall: lowest and highest level and place of each, and the slabs between."""
        passed = [laid.walked for laid in panel.laid if laid.walked.crosses and laid.walked.heading[2]]
        here = panel.laid[0].walked.place
        if not passed and self._slab is not None and here in (self._slab.place, self._slab.place_after):
            passed = [self._slab]
        if not passed:
            return [(min(0.0, self.low + 0.1) if here == "crawl" else 0.0, self.ceiling, here)], []
        self._slab = passed[-1]
        # Between two places there is one floor, wherever the line passes it and however it was read.
        slabs: dict[tuple[str, str], tuple[float, float]] = {}
        for walked in passed:
            if walked.heading[2] > 0:
                slabs.setdefault((walked.place, walked.place_after), (walked.start[2], walked.end[2]))
            else:
                slabs.setdefault((walked.place_after, walked.place), (walked.end[2], walked.start[2]))
        levels = sorted((level, places) for places, level in slabs.items())
        places = [below for _level, (below, _above) in levels] + [levels[-1][1][1]]
        slab = levels[0][0][0]
        under = slab < STOREY_M / 2
        below = [floor.level_m for floor in self.stood if floor.level_m < slab]
        lowest = max(below, default=slab - STOREY_M) if under and _room(places[0]) else 0.0
        lows = [self.low + 0.1 if places[0] == "crawl" else lowest, *[high for (_low, high), _places in levels]]
        highs = [*[low for (low, _high), _places in levels], self.ceiling]
        return list(zip(lows, highs, places, strict=True)), [level for level, _places in levels]

    def _cut(self, panel: Panel) -> None:
        x, x2 = self.x(panel.left), self.x(panel.right)
        top, bottom = self.y(self.ceiling), self.y(min(0.0, self.low + 0.1))
        # A wall that nobody measured yet has to be seen all the same.
        unread = x2 - x < 1e-6
        wide = 8.0 if unread else x2 - x
        self.picture.box(x, top, wide, bottom - top, "ink", 1.4, "well", hatch="slant", dash=unread)
        self.labels.block(x, top, wide, bottom - top)

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
        if before is None or not before.crosses or panel is not self.strip.panels[0]:
            return
        entry, thick = self.x(first.u), min(max(before.leg.length_m * self.scale, 6.0), 26.0)
        top, bottom = self.y(self.high), self.top + self.height - 4
        left = entry + 1 if panel.leftward else entry - thick - 1
        self.picture.box(left, top, thick, bottom - top, "ink", 1.2, "well", hatch="slant")
        self.labels.block(left, top, thick, bottom - top)
        if before.leg.end in ("body", "box", "pull elbow"):
            self.picture.box(entry - 5, self.y(first.z) - 8, 10, 16, "ink", 1.8, "sheet", 3)
            self.labels.block(entry - 5, self.y(first.z) - 8, 10, 16)

    def _things(self) -> None:
        """What stands against each wall, from its foot to its top: the line has to go round it."""
        things = self.design.job.site.things
        if not things:
            return
        for panel in self.strip.panels:
            first = panel.laid[0]
            if panel.kind == WALL and first.share == 0.0 and (panel.right - panel.left) * self.scale >= NAMED:
                for seen in on_wall(first.walked, things):
                    self._thing(panel, first.u, seen)

    def _thing(self, panel: Panel, zero: float, seen: OnWall) -> None:
        thing = seen.thing
        x, x2 = self.x(zero + seen.left_m), self.x(zero + seen.right_m)
        left, right = max(x, self.x(panel.left)), min(x2, self.x(panel.right))
        if right - left < 3:
            return
        top, foot = self.y(thing.high_m), self.y(thing.low_m)
        self.picture.box(left, top, right - left, foot - top, "edge", 1.2, "sheet")
        if thing.kind == "door":
            self.picture.disc(right - 7, (top + foot) / 2 + 6, 2, fill="edge")
        middle, fits = (left + right) / 2, text_width(thing.name, TEXT, 13) < right - left - 6
        beside = (right + 5, (top + foot) / 2 + 5, START)
        spots = [(middle, (top + foot) / 2 + 5 if fits else top - 6, MIDDLE), beside]
        spots += [(left - 5, beside[1], END), (middle, foot + 16, MIDDLE)]
        self._things_named.append((thing.name, spots))
        units = self.design.job.units
        rises = f"{draw_length(thing.low_m, units)} to " if thing.low_m else ""
        says = f"{thing.name} on this wall, {rises}{draw_length(thing.high_m, units)} high"
        self.picture.hit(left, top, right - left, foot - top, f"wall-{thing.id}", says)

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
        name = self.design.panel_name
        self.labels.put(
            name, [(left - 6, top + tall / 2 + 5, END), (left + wide + 6, top + tall / 2 + 5, START)], 13, BOLD
        )
        self.picture.hit(left, top, wide, tall, "panel", f"{name}: zero of the tape", "awl:0")
