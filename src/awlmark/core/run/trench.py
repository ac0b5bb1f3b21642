"""Underground: legs in the ground, trench and spoil, ribbon, and where the line comes up."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.quantities import INCH_M
from awlmark.core.run.line import Line, Walked

TRENCH_WIDE_M: Final = 6 * INCH_M
"""Width of a trench cut by a narrow spade or chain; common practice."""
BED_M: Final = 3 * INCH_M
"""Sand under and over the raceway; common practice."""
SWELL: Final = 1.25
"""Loose spoil over ground in place; common practice."""


class Trench(msgspec.Struct, frozen=True):
    """What a trench leg takes."""

    length_m: float
    deep_m: float
    volume_m3: float
    spoil_m3: float
    """Loose."""
    sand_m3: float


def buried(walked: Walked) -> bool:
    """Whether a leg lies in the ground: a trench, or one that is said to."""
    return walked.leg.direction == "trench" or (walked.place == "buried" and not walked.crosses)


def in_ground(line: Line) -> list[Walked]:
    """Legs that lie in the ground."""
    return [walked for walked in line.legs if buried(walked)]


def dig(walked: Walked) -> Trench | None:
    """Volume of a trench [m3]; None while its cover is unread."""
    cover = walked.leg.cover_m
    if not buried(walked) or walked.heading[2] != 0 or cover is None:
        return None
    deep, length = cover + BED_M, walked.leg.length_m
    volume = length * deep * TRENCH_WIDE_M
    return Trench(length, deep, volume, volume * SWELL, length * 2 * BED_M * TRENCH_WIDE_M)


def risers(line: Line) -> list[Walked]:
    """Upright legs beside a trench, in the order of the tape; one between two trenches once for each."""
    legs = line.legs
    found = []
    for at in [walked.number - 1 for walked in in_ground(line) if walked.heading[2] == 0]:
        found += [legs[beside] for beside in (at - 1, at + 1) if 0 <= beside < len(legs) and legs[beside].heading[2]]
    return found


def ribbon_m(line: Line) -> float:
    """Warning ribbon over every trench that is dug [m]."""
    return sum(walked.leg.length_m for walked in in_ground(line) if walked.heading[2] == 0 and not walked.leg.reused)
