"""Cutting ten-foot sticks: which piece comes out of which stick."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.line import Section

STICK_M: Final = 10 * FOOT_M
KERF_M: Final = INCH_M / 16
"""Lost at each saw cut, common practice for a hacksaw or tubing cutter."""


class Piece(msgspec.Struct, frozen=True):
    """One length of raceway between joints or fittings."""

    leg_id: str
    start_m: float
    length_m: float


class Stick(msgspec.Struct):
    """One bought stick and the pieces cut from it."""

    pieces: list[Piece]
    left_m: float = STICK_M
    """What is left over [m]."""

    def take(self, piece: Piece) -> bool:
        """Cut a piece off what is left; whether it was long enough. The last of a stick needs no cut."""
        if abs(self.left_m - piece.length_m) < 1e-9:
            self.left_m = 0.0
        elif self.left_m >= piece.length_m + KERF_M:
            self.left_m -= piece.length_m + KERF_M
        else:
            return False
        self.pieces.append(piece)
        return True


def pieces_of(section: Section) -> list[Piece]:
    """Pieces of a section: every leg in whole sticks and one rest."""
    found = []
    for walked in section.legs:
        done = 0.0
        while walked.leg.length_m - done > 1e-6:
            length = min(STICK_M, walked.leg.length_m - done)
            found.append(Piece(walked.leg.id, walked.start_m + done, length))
            done += length
    return found


def cut(pieces: list[Piece]) -> list[Stick]:
    """Pack pieces into sticks, longest first, each into the first stick with room.

    First fit, longest first, needs at most 11/9 of the fewest sticks plus one (common practice in cutting; the bound is
    Johnson's, 1973, from memory).
    """
    sticks: list[Stick] = []
    roomy: list[Stick] = []
    shortest = min((piece.length_m for piece in pieces), default=0.0)
    for piece in sorted(pieces, key=lambda piece: (-piece.length_m, piece.start_m)):
        stick = next((stick for stick in roomy if stick.take(piece)), None)
        if stick is None:
            stick = Stick([])
            if not stick.take(piece):
                # Within a kerf of the whole stick: the saw takes the rest.
                stick.pieces, stick.left_m = [piece], 0.0
            sticks.append(stick)
            roomy.append(stick)
        if stick.left_m < shortest - 1e-9:
            # Nothing that is still to come fits; it need not be tried again.
            roomy.remove(stick)
    return sticks
