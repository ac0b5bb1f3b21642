"""Legs within framing: how many studs they are bored through, and the plates that keep nails off them."""

from __future__ import annotations

import math
from typing import Final

from awlmark.core.quantities import INCH_M
from awlmark.core.run.line import Walked

STUD_M: Final = 16 * INCH_M
"""Framing on its centres, and the length of a plate along it; common practice."""


def in_framing(walked: Walked) -> bool:
    """Whether a leg lies within framing that nails may reach.

    Fished along a stud it may lie anywhere in its bay; fished across the studs it is bored through them as any other.
    """
    fished = walked.leg.mount == "fished" and walked.heading[2] == 0
    return (walked.leg.mount == "inside" or fished) and not walked.crosses and walked.place != "buried"


def studs_crossed(walked: Walked) -> int:
    """Studs or joists that a leg inside the framing is bored through."""
    if not in_framing(walked) or walked.heading[2] != 0:
        return 0
    return math.floor(walked.leg.length_m / STUD_M + 1e-9)


def nail_plates(walked: Walked, edge_m: float) -> int:
    """Steel plates a leg wants: one a stud bored nearer its edge than this [m], end to end along one it runs beside."""
    near = walked.leg.edge_m is not None and walked.leg.edge_m < edge_m - 1e-9
    if not near or not walked.method.soft or not in_framing(walked):
        return 0
    return studs_crossed(walked) if walked.heading[2] == 0 else math.ceil(walked.leg.length_m / STUD_M - 1e-9)
