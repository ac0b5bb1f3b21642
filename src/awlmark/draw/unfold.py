"""Unfolding the walls: the line laid flat, panel by panel, as the walker sees it."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.run.line import INSIDE, Line, Walked

WALL: Final = "wall"
CUT: Final = "cut"
YARD: Final = "yard"
_SIGN: Final = {
    "right": 1.0,
    "left": -1.0,
    "up": 0.0,
    "down": 0.0,
    "through": 1.0,
    "in": 1.0,
    "out": 1.0,
    "trench": 1.0,
}


class Laid(msgspec.Struct, frozen=True):
    """One leg laid flat: along the strip and up, in metres."""

    walked: Walked
    u: float
    z: float
    u2: float
    z2: float


class Panel(msgspec.Struct):
    """One wall, one wall cut through, or one stretch of yard."""

    kind: str
    laid: list[Laid]
    left: float = 0.0
    right: float = 0.0
    """Edges along the strip [m]."""


class Strip(msgspec.Struct):
    """Panels side by side at one scale."""

    outdoors: bool
    panels: list[Panel]

    @property
    def width_m(self) -> float:
        """Width of all panels [m]."""
        return self.panels[-1].right - self.panels[0].left

    def heights_m(self) -> tuple[float, float]:
        """Lowest and highest point of the line [m]."""
        levels = [z for panel in self.panels for laid in panel.laid for z in (laid.z, laid.z2)]
        return min(levels), max(levels)


def unfold(line: Line) -> list[Strip]:
    """Lay a walked line flat.

    Inside walls and the walls cut through make one strip, outdoor stretches the next. Within a strip panels follow each
    other without overlapping, whichever way the line runs on them.
    """
    strips: list[Strip] = []
    for panel in _panels(line):
        outdoors = panel.kind == YARD
        if not strips or (strips[-1].outdoors != outdoors):
            strips.append(Strip(outdoors, []))
        _place(strips[-1], panel)
        strips[-1].panels.append(panel)
    for strip in strips:
        if strip.panels[-1].kind != CUT:
            strip.panels[-1].right += 0.45
    return strips


def _panels(line: Line) -> list[Panel]:
    panels: list[Panel] = []
    u = 0.0
    after_break = True
    for walked in line.legs:
        crossing = walked.leg.direction in ("through", "in", "out") and walked.heading[2] == 0
        kind = CUT if crossing else WALL if walked.place in INSIDE else YARD
        if after_break or panels[-1].kind != kind:
            panels.append(Panel(kind, []))
            u = 0.0
        along = 0.0 if walked.heading[2] != 0 else _SIGN[walked.leg.direction] * walked.leg.length_m
        panels[-1].laid.append(Laid(walked, u, walked.start[2], u + along, walked.end[2]))
        u += along
        after_break = crossing or walked.leg.end == "corner"
    return panels


def _place(strip: Strip, panel: Panel) -> None:
    """Shift a panel to the right edge of the strip, with some wall beyond the line's own ends."""
    ends = [u for laid in panel.laid for u in (laid.u, laid.u2)]
    low, high = min(ends), max(ends)
    margin = 0.0 if panel.kind == CUT else 0.45
    lead = 0.9 if not strip.panels and panel.kind == WALL else margin
    edge = strip.panels[-1].right if strip.panels else 0.0
    follows = bool(strip.panels) and abs(panel.laid[0].u - low) < 1e-9
    shift = edge + (0.0 if follows else lead) - low
    panel.laid = [Laid(laid.walked, laid.u + shift, laid.z, laid.u2 + shift, laid.z2) for laid in panel.laid]
    panel.left = edge
    panel.right = high + shift
