"""What has to be cut: lengths of raceway between fittings, less what the fittings take up."""

from __future__ import annotations

import functools
import math
from collections.abc import Sequence
from typing import Final

import msgspec

from awlmark.core.book.tables import number, printed
from awlmark.core.job.model import Leg
from awlmark.core.quantities import INCH_M
from awlmark.core.run.hand import STICK_M, outside_m
from awlmark.core.run.line import Line, Section, Walked
from awlmark.core.run.marks import bend_radius_m, exact_factors, gain_m

KERF_M: Final = INCH_M / 16
"""Lost at each saw cut, common practice for a hacksaw or tubing cutter."""
CLEAR_M: Final = 2.0 * INCH_M
"""A joint keeps this far from where a bend begins; common practice."""


class Piece(msgspec.Struct, frozen=True):
    """One length of raceway between joints or fittings."""

    leg_id: str
    start_m: float
    """On the tape [m]."""
    length_m: float
    """To cut [m]."""


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


@functools.cache
def elbow_take_m(trade_size: str) -> float:
    """From the corner of a bought elbow to its end [m]: radius (Chapter 9 Table 2) and its straight part."""
    return bend_radius_m(trade_size) + _takes_m(trade_size, "elbow_straight_in")


@functools.cache
def _takes_m(trade_size: str, column: str) -> float:
    """What a fitting takes up beside its bend [m]; a size beyond the table takes the largest row's."""
    rows = printed("fitting_takes").rows
    row = next((row for row in rows if row["trade_size"] == trade_size), rows[-1])
    return number(row[column]) * INCH_M


def is_elbow(walked: Walked) -> bool:
    """Whether a bought elbow stands at the end of a leg."""
    return not walked.pulls and walked.turn_deg > 1e-6 and walked.leg.bend == "elbow"


def pieces_of(line: Line, section: Section, trade_size: str | None) -> list[Piece]:
    """Pieces of a section, cut to length.

    A reading goes from corner to corner: elbows and bodies take up their part of it. Bends made by hand stay in the
    stick: a 90 saves its gain, an offset costs its shrink. No piece is longer than a stick, no joint lies in a bend.

    Parameters
    ----------
    line : Line
        The walked line.
    section : Section
        Neighbouring legs of one raceway.
    trade_size : str or None
        Without one nothing is known of the fittings, and readings are cut as they are.

    """
    start = section.start_m
    kept = lengths_of(line, section, trade_size).pieces
    return [Piece(piece.leg_id, piece.start_m + start, piece.length_m) for piece in kept]


class Lengths(msgspec.Struct, frozen=True):
    """What is to be cut for a section, as if it began at the panel."""

    pieces: tuple[Piece, ...]
    each_m: tuple[float, ...]
    """Their lengths, to a micrometre [m]."""
    whole: int
    """How many of them are whole sticks."""


def lengths_of(line: Line, section: Section, trade_size: str | None) -> Lengths:
    """What is to be cut for a section, kept for the next one who asks."""
    first = section.legs[0].number
    # Legs that an edit leaves alone are the same objects: what was worked out for them stands.
    before = line.legs[first - 2] if first > 1 else None
    shape = tuple([(id(walked.leg), walked.turn_deg) for walked in section.legs])
    key = trade_size, section.method.key, shape, None if before is None else (id(before.leg), before.turn_deg)
    kept = _kept.get(key)
    if kept is None:
        while len(_kept) >= MOST_KEPT:
            _kept.pop(next(iter(_kept)))
        pieces = tuple(_pieces(section, before, trade_size))
        each = tuple([round(piece.length_m, 6) for piece in pieces])
        whole = sum(1 for length in each if abs(length - STICK_M) < 1e-6)
        kept = _kept[key] = Lengths(pieces, each, whole), (*section.legs, before)
    return kept[0]


_kept: dict[object, tuple[Lengths, object]] = {}
"""Pieces by what they follow from, each with the legs themselves, so that no other leg can take their identity."""
MOST_KEPT: Final = 256


def _pieces(section: Section, before: Walked | None, trade_size: str | None) -> list[Piece]:
    takes, start_m = _Takes(trade_size), section.start_m
    found: list[Piece] = []
    run = _Run(takes, start_m, before)
    last = section.legs[-1]
    for walked in section.legs:
        leg = walked.leg
        ends = walked is last or walked.pulls or is_elbow(walked)
        if ends and not run.legs and leg.offset_m is None and leg.saddle_m is None:
            # One straight leg from fitting to fitting, as most are: nothing bent in it.
            taken = takes.of(walked)
            left, at_m = run.length + leg.length_m - taken, walked.start_m - start_m
            while left > 1e-6:
                found.append(Piece(leg.id, at_m, min(left, STICK_M)))
                left, at_m = left - STICK_M, at_m + STICK_M
            run.length = -taken
            continue
        run.leg(walked)
        if ends:
            run.close(walked, found)
            run = _Run(takes, start_m, walked)
        else:
            run.turn(walked)
    return found


class _Takes:
    """What the fittings of one trade size take up of the raceway they join [m]."""

    def __init__(self, trade_size: str | None) -> None:
        self.trade = trade_size
        self.elbow = 0.0 if trade_size is None else elbow_take_m(trade_size)
        self.body = 0.0 if trade_size is None else _takes_m(trade_size, "body_in")

    def of(self, walked: Walked) -> float:
        """Of the fitting at the end of a leg."""
        if walked.leg.end in ("body", "pull elbow"):
            return self.body
        return self.elbow if is_elbow(walked) else 0.0


class _Run:
    """Raceway from one fitting to the next, as long as it is before cutting."""

    def __init__(self, takes: _Takes, start_m: float, before: Walked | None) -> None:
        self.takes, self.start_m = takes, start_m
        self.length = 0.0 if before is None else -takes.of(before)
        self.bends: list[tuple[float, float]] = []
        """Where bends lie in it, from and to [m]."""
        self.legs: list[tuple[float, Walked]] = []

    def leg(self, walked: Walked) -> None:
        self.legs.append((max(self.length, 0.0), walked))
        leg = walked.leg
        if leg.offset_m is not None or leg.saddle_m is not None:
            self._bent(leg)
        else:
            self.length += leg.length_m

    def _bent(self, leg: Leg) -> None:
        """A leg with an offset or a saddle, which take up more than its reading."""
        extra = 0.0
        if leg.offset_m is not None:
            extra += leg.offset_m * exact_factors(leg.offset_deg)[1]
        if leg.saddle_m is not None:
            angle = leg.offset_deg if leg.saddle_wide_m else 22.5
            extra += 2 * leg.saddle_m * exact_factors(angle)[1]
        middle, high = self.length + leg.length_m / 2, leg.offset_m or leg.saddle_m or 0.0
        half = leg.saddle_wide_m / 2 + 6 * high
        self.bends.append((middle - half, middle + half))
        self.length += leg.length_m + extra

    def turn(self, walked: Walked) -> None:
        """A bend made by hand, or none."""
        trade = self.takes.trade
        if walked.turn_deg < 1e-6 or trade is None:
            return
        radius = bend_radius_m(trade)
        corner = self.length
        self.length -= gain_m(radius, outside_m(walked.method.key, trade)) * walked.turn_deg / 90
        self.bends.append((corner - radius - CLEAR_M, corner + radius))

    def close(self, last: Walked, found: list[Piece]) -> None:
        """Add its pieces: whole sticks, and a rest; joints kept off the bends."""
        length = self.length - self.takes.of(last)
        done, at = 0.0, 0
        while length - done > 1e-6:
            step = min(STICK_M, length - done)
            if self.bends and step < length - done - 1e-6:
                step = self._clear(done, step)
            while at + 1 < len(self.legs) and self.legs[at + 1][0] <= done + 1e-6:
                at += 1
            begins, walked = self.legs[at]
            found.append(Piece(walked.leg.id, walked.start_m - self.start_m + (done - begins), step))
            done += step

    def _clear(self, done: float, step: float) -> float:
        """A step that ends before a bend it would have ended in."""
        for start, end in self.bends:
            if start < done + step < end and start - done > CLEAR_M:
                return start - done
        return step


def least_sticks(lengths: Sequence[float]) -> int:
    """No fewer sticks can do: their lengths and kerfs together, and those longer than half a stick."""
    each = [length + KERF_M for length in lengths]
    half = sum(1 for length in lengths if length > STICK_M / 2 + 1e-9)
    # The last piece of a stick needs no cut.
    return max(half, math.ceil(sum(each) / (STICK_M + KERF_M) - 1e-9)) if lengths else 0
