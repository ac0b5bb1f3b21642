"""Unfolding the walls: the line laid flat, panel by panel, as the walker sees it."""

from __future__ import annotations

import math
from typing import Final

import msgspec

from awlmark.core.run.line import INSIDE, Line, Walked

WALL: Final = "wall"
CUT: Final = "cut"
YARD: Final = "yard"
WRAP_M: Final = 50.0
"""A strip longer than this goes on in another row."""
MOST_ROWS: Final = 3
_MARGIN_M: Final = 0.45
_LEAD_M: Final = 0.9
"""Wall shown beyond the line's ends, and before its start at the panel."""


class Laid(msgspec.Struct, gc=False, frozen=True):
    """One leg laid flat: along the strip and up, in metres."""

    walked: Walked
    u: float
    z: float
    u2: float
    z2: float
    share: float = 0.0
    share2: float = 1.0
    """Part of the leg that is laid here; less than all where a long strip is wrapped."""

    def at(self, at_m: float) -> tuple[float, float] | None:
        """Along and up at a place on the tape [m]; None where that lies on another row."""
        share = self.walked.share_at(at_m)
        if not self.share - 1e-9 <= share <= self.share2 + 1e-9 or self.share2 == self.share:
            return None
        part = (share - self.share) / (self.share2 - self.share)
        return self.u + (self.u2 - self.u) * part, self.z + (self.z2 - self.z) * part


class Panel(msgspec.Struct):
    """One wall, one wall cut through, or one stretch of yard."""

    kind: str
    laid: list[Laid]
    leftward: bool = False
    """Whether the line comes onto it going left."""
    left: float = 0.0
    right: float = 0.0
    """Edges along the strip [m]."""


class Strip(msgspec.Struct):
    """Panels side by side at one scale, in the order the line comes to them."""

    outdoors: bool
    panels: list[Panel]
    onward: bool = False
    """Whether it goes on where the row above ended."""

    @property
    def left_m(self) -> float:
        """Left edge of the leftmost panel [m]."""
        return min(panel.left for panel in self.panels)

    @property
    def right_m(self) -> float:
        """Right edge of the rightmost panel [m]."""
        return max(panel.right for panel in self.panels)

    @property
    def width_m(self) -> float:
        """Width of all panels [m]."""
        return self.right_m - self.left_m

    def heights_m(self) -> tuple[float, float]:
        """Lowest and highest point of the line [m]."""
        levels = [z for panel in self.panels for laid in panel.laid for z in (laid.z, laid.z2)]
        return min(levels), max(levels)


def unfold(line: Line) -> list[Strip]:
    """Lay a walked line flat.

    Inside walls and the walls cut through make one strip, outdoor stretches the next. A wall that the line comes to
    going left is unfolded to the left of those before it, otherwise to the right; panels never overlap.
    """
    strips: list[Strip] = []
    edges = 0.0, 0.0
    for panel, steps in _panels(line):
        outdoors = panel.kind == YARD
        if not strips or (strips[-1].outdoors != outdoors):
            strips.append(Strip(outdoors, []))
            edges = 0.0, 0.0
        _place(strips[-1], panel, steps, edges)
        strips[-1].panels.append(panel)
        edges = min(edges[0], panel.left), max(edges[1], panel.right)
    for strip in strips:
        outer = max(strip.panels, key=lambda panel: panel.right), min(strip.panels, key=lambda panel: panel.left)
        for panel, way in zip(outer, (1, -1), strict=True):
            if panel.kind != CUT:
                beyond = _LEAD_M if panel is strip.panels[0] and panel.kind == WALL else _MARGIN_M
                panel.right += beyond if way > 0 else 0.0
                panel.left -= beyond if way < 0 else 0.0
    return [row for strip in strips for row in _rows(strip)]


def _rows(strip: Strip) -> list[Strip]:
    """A long strip of one panel in rows of one width, so that its words stay readable."""
    rows = min(MOST_ROWS, math.ceil(strip.width_m / WRAP_M))
    if rows < 2 or len(strip.panels) > 1:
        return [strip]
    panel, wide = strip.panels[0], strip.width_m / rows
    found: list[Strip] = []
    for row in range(rows):
        left = panel.left + wide * (rows - 1 - row if panel.leftward else row)
        pieces = [piece for laid in panel.laid if (piece := _clip(laid, left, left + wide)) is not None]
        if pieces:
            found.append(
                Strip(strip.outdoors, [Panel(panel.kind, pieces, panel.leftward, left, left + wide)], bool(found))
            )
    return found


def _clip(laid: Laid, left: float, right: float) -> Laid | None:
    """The part of a leg between two edges; a leg across them is kept where it stands."""
    if abs(laid.u2 - laid.u) < 1e-9:
        return laid if left <= laid.u < right else None
    if left <= min(laid.u, laid.u2) and max(laid.u, laid.u2) <= right:
        return laid
    shares = sorted((edge - laid.u) / (laid.u2 - laid.u) for edge in (left, right))
    start, end = max(shares[0], 0.0), min(shares[1], 1.0)
    if end - start < 1e-9:
        return None
    across = laid.u2 - laid.u
    return Laid(laid.walked, laid.u + across * start, laid.z, laid.u + across * end, laid.z2, start, end)


_Step = tuple[Walked, float, float]
"""A leg with where it begins and ends along its panel [m]."""


def _panels(line: Line) -> list[tuple[Panel, list[_Step]]]:
    panels: list[tuple[Panel, list[_Step]]] = []
    steps: list[_Step] = []
    u, sign, before = 0.0, 1.0, ""
    for walked in line.legs:
        way, level = walked.leg.direction, walked.heading[2] == 0
        crossing = walked.crosses and level
        kind = CUT if crossing else WALL if walked.place in INSIDE else YARD
        if kind != before:
            u, steps = 0.0, []
            panels.append((Panel(kind, [], sign < 0), steps))
        sign = 1.0 if way == "right" else -1.0 if way == "left" else sign
        start = u
        if level:
            u += sign * walked.leg.length_m
        steps.append((walked, start, u))
        before = "" if crossing or walked.leg.end == "corner" else kind
    return panels


def _place(strip: Strip, panel: Panel, steps: list[_Step], edges: tuple[float, float]) -> None:
    """Lay a panel at the edge of the strip that the line leaves by, of its left and its right one [m]."""
    ends = [u for _walked, _start, u in steps]
    low, high = min(0.0, *ends), max(0.0, *ends)
    leftward = panel.leftward and bool(strip.panels)
    near = high if leftward else low
    touches = abs(near) < 1e-9
    lead = 0.0 if panel.kind == CUT or touches or not strip.panels else _MARGIN_M
    edge = edges[0 if leftward else 1]
    shift = edge - lead - high if leftward else edge + lead - low
    panel.laid = [Laid(each, u + shift, each.start[2], u2 + shift, each.end[2]) for each, u, u2 in steps]
    # A wall that the line only climbs is seen a little beyond it too.
    beyond = _MARGIN_M if high - low < 1e-9 and panel.kind != CUT else 0.0
    panel.left, panel.right = (low + shift - beyond, edge) if leftward else (edge, high + shift + beyond)
