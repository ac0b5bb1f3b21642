"""What has to be cut: lengths of raceway between fittings, less what the fittings take up."""

from __future__ import annotations

import functools
import math
from collections import Counter
from collections.abc import Iterable
from typing import Final

import msgspec

from awlmark.core.books.book import Method
from awlmark.core.memo import Memo
from awlmark.core.quantities import INCH_M
from awlmark.core.run.bend_marks import bend_radius_m, exact_factors, hand_gain_m, hand_radius_m, hand_reach_m
from awlmark.core.run.line import Line, Section, Walked

KERF_M: Final = INCH_M / 16
"""Lost at each saw cut, common practice for a hacksaw or tubing cutter."""
CLEAR_M: Final = 2.0 * INCH_M
"""A joint keeps this far from where a bend begins; common practice."""


class Piece(msgspec.Struct, gc=False, frozen=True):
    """One length of raceway between joints or fittings."""

    leg_id: str
    start_m: float
    """On the tape [m]."""
    length_m: float
    """To cut [m]."""

    @property
    def um(self) -> int:
        """Its length [µm]."""
        return micrometres(self.length_m)


Kinds = tuple[tuple[int, int], ...]
"""What is to be cut: each length [µm] once, the longest first, and how many of it."""


def micrometres(length_m: float) -> int:
    """A length to the micrometre [µm]: what differs by less is cut alike."""
    return int(length_m * 1e6 + 0.5)


def kinds_of(pieces: Iterable[Piece]) -> Kinds:
    """Like lengths together."""
    return _kinds(Counter([piece.um for piece in pieces]))


def _kinds(counts: Counter[int]) -> Kinds:
    return tuple(sorted(counts.items(), reverse=True))


class Bend(msgspec.Struct, gc=False, frozen=True):
    """A bend by hand, or a group of them, in a run of raceway between fittings."""

    walked: Walked
    turns: bool
    """Whether it is the turn at the leg's end; else the offset or saddle within the leg."""
    at_m: float
    """Corner of a turn, or where the leg begins that the rest lies in, along the run [m]."""
    start_m: float
    end_m: float
    """Where the bend lies, with what is kept clear of joints [m]."""


class Stick(msgspec.Struct):
    """One bought stick and the pieces cut from it."""

    pieces: list[Piece]
    left_m: float
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


def elbow_take_m(method: Method, trade_size: str) -> float:
    """From the corner of a bought elbow to its end [m]: its radius and its straight part."""
    return bend_radius_m(method, trade_size) + _takes_m(method, trade_size)[0]


def _takes_m(method: Method, trade_size: str) -> tuple[float, float]:
    """What an elbow takes up beside its bend, and a body [m]; a size beyond the table takes its largest row's."""
    known = method.bending.takes_m
    return known[trade_size] if trade_size in known else list(known.values())[-1]


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
    return runs_of(line, section).pieces(trade_size, section.start_m)


class Runs:
    """The raceway of a section, fitting to fitting, and what is cut for it in each trade size that was asked for."""

    def __init__(self, section: Section, before: Walked | None) -> None:
        self.held = tuple([walked.leg for walked in section.legs]), before and before.leg
        """The memo's entry holds these legs, so Python cannot give their ids to other legs while the entry exists."""
        self._start_m = section.start_m
        self._method = section.method
        self._stick_m = section.method.stick_m
        self._straight: dict[tuple[float, int, int], list[Walked]] = {}
        """One leg from fitting to fitting, as most are: by its length and the fittings before and after it."""
        self._bent: list[tuple[list[Walked], int, int]] = []
        """Legs with a bend between them or in them, and the fittings before and after."""
        self._by_size: dict[str | None, Kinds] = {}
        self._whole: dict[str | None, int] = {}
        self.elbows: list[str] = []
        """Legs at whose end a bought elbow stands."""
        self.chains = 0
        """Lengths of pipe without a break: from box, body or pipe that is there already to the next."""
        self.meets = 0
        """Ends that are coupled to pipe that is there already."""
        begins = _PLAIN if before is None else _fitting(before)
        run: list[Walked] = []
        legs = section.legs
        for at, walked in enumerate(legs):
            fitting, leg = _fitting(walked), walked.leg
            if leg.reused:
                # It is there already: nothing is cut for it, and what comes next begins at its end.
                begins, run = _PLAIN, []
                self.meets += not walked.pulls and at + 1 < len(legs) and not legs[at + 1].leg.reused
                continue
            run.append(walked)
            if fitting == _ELBOW:
                self.elbows.append(leg.id)
            meets = at + 1 < len(legs) and legs[at + 1].leg.reused
            ends = walked.pulls or at + 1 == len(legs) or meets
            self.chains += ends
            self.meets += meets and not walked.pulls
            if fitting or ends:
                if len(run) > 1 or leg.offset_m is not None or leg.saddle_m is not None:
                    self._bent.append((run, begins, fitting))
                else:
                    self._straight.setdefault((leg.length_m, begins, fitting), []).append(walked)
                begins, run = fitting, []

    def kinds(self, trade_size: str | None) -> Kinds:
        """What is to be cut in a trade size, like lengths together."""
        kept = self._by_size.get(trade_size)
        if kept is None:
            takes, counts = _takes(self._method, trade_size), Counter[int]()
            for (length_m, before, after), alike in self._straight.items():
                whole, rest = _parted(length_m - takes[before] - takes[after], self._stick_m)
                if whole:
                    counts[micrometres(self._stick_m)] += whole * len(alike)
                if rest:
                    counts[micrometres(rest)] += len(alike)
            counts.update([piece.um for piece in self._bent_pieces(trade_size, 0.0)])
            kept = self._by_size[trade_size] = _kinds(counts)
        return kept

    def pieces(self, trade_size: str | None, start_m: float) -> list[Piece]:
        """What is to be cut in a trade size, in the order of the tape, now that the section begins here [m]."""
        moved_m = start_m - self._start_m
        takes, found = _takes(self._method, trade_size), self._bent_pieces(trade_size, moved_m)
        for (length_m, before, after), alike in self._straight.items():
            whole, rest = _parted(length_m - takes[before] - takes[after], self._stick_m)
            lengths = [self._stick_m] * whole + [rest] * bool(rest)
            for walked in alike:
                begins = walked.start_m + moved_m
                found += [Piece(walked.leg.id, begins + at * self._stick_m, lengths[at]) for at in range(len(lengths))]
        return sorted(found, key=lambda piece: piece.start_m)

    def _bent_pieces(self, trade_size: str | None, moved_m: float) -> list[Piece]:
        return [piece for run in self._runs(trade_size, moved_m) for piece, _begins in run.cuts]

    def whole_runs(self, trade_size: str | None) -> int:
        """Runs from one box or body to the next without an elbow that whole sticks fill: they want one joint fewer."""
        if trade_size in self._whole:
            return self._whole[trade_size]
        takes, found, whole_um = _takes(self._method, trade_size), 0, micrometres(self._stick_m)
        for (length_m, before, after), alike in self._straight.items():
            whole, rest = _parted(length_m - takes[before] - takes[after], self._stick_m)
            filled = micrometres(rest) == whole_um or (whole and not rest)
            found += len(alike) * bool(filled and _ELBOW not in (before, after))
        for run, (_legs, before, after) in zip(self._runs(trade_size, 0.0), self._bent, strict=True):
            whole_ones = [piece.um == whole_um for piece, _begins in run.cuts]
            found += bool(whole_ones and all(whole_ones) and _ELBOW not in (before, after))
        self._whole[trade_size] = found
        return found

    def bends(self, trade_size: str | None, start_m: float) -> list[tuple[Bend, Piece | None, float]]:
        """Every bend by hand with the piece it lies in whole, and where that piece begins in its run [m].

        None for the piece where a joint would lie in the bend: it cannot be made so.
        """
        found = list[tuple[Bend, Piece | None, float]]()
        for run in self._runs(trade_size, start_m - self._start_m):
            for bend in run.bends:
                last = max(
                    (cut for cut in run.cuts if cut[1] <= bend.start_m + CLEAR_M), key=lambda cut: cut[1], default=None
                )
                whole = last is not None and bend.end_m <= last[1] + last[0].length_m + 1e-9
                found.append((bend, last[0], last[1]) if last is not None and whole else (bend, None, 0.0))
        return found

    def tight(self, trade_size: str) -> list[tuple[str, float, float]]:
        """Legs too short for the fittings at their ends: the leg, how much is missing, and how much is spare bend [m].

        What is spare are the straight ends of bought elbows, which can be cut off.
        """
        takes, found = _takes(self._method, trade_size), []
        trim = _takes_m(self._method, trade_size)[0]
        for (length_m, before, after), alike in self._straight.items():
            missing = takes[before] + takes[after] - length_m
            if missing > 1e-6:
                spare = trim * ((before == _ELBOW) + (after == _ELBOW))
                found += [(walked.leg.id, missing, spare) for walked in alike]
        return found

    def _runs(self, trade_size: str | None, moved_m: float) -> list[_Run]:
        takes, found = _takes(self._method, trade_size), []
        for bent, before, after in self._bent:
            run = _Run(trade_size, takes[before], self._stick_m)
            for walked in bent:
                run.leg(walked)
                if walked is not bent[-1]:
                    run.turn(walked)
            run.close(takes[after], moved_m)
            found.append(run)
        return found


def _parted(length_m: float, stick_m: float) -> tuple[int, float]:
    """A straight length as whole sticks and a rest [m]."""
    whole = 0
    while length_m > stick_m:
        whole, length_m = whole + 1, length_m - stick_m
    return whole, length_m if length_m > 1e-6 else 0.0


def runs_of(line: Line, section: Section) -> Runs:
    """The raceway of a section, kept for the next one who asks."""
    first = section.legs[0].number
    # Legs that an edit leaves alone are the same objects: what was worked out for them stands.
    before = line.legs[first - 2] if first > 1 else None
    legs, turns = tuple([walked.leg for walked in section.legs]), tuple([walked.turn_deg for walked in section.legs])
    came = None if before is None else (before.leg, before.turn_deg)
    return _runs.keep((section.method, legs, turns, came), lambda: Runs(section, before))


_runs = Memo[object, Runs](48)


_PLAIN, _BODY, _ELBOW = 0, 1, 2
"""What stands at the end of a leg, as far as it takes up raceway."""


def _fitting(walked: Walked) -> int:
    if walked.leg.end in ("body", "pull elbow"):
        return _BODY
    elbow = walked.turn_deg > 1e-6 and walked.leg.bend == "elbow" and not walked.pulls
    return _ELBOW if elbow and not walked.method.flexible else _PLAIN


@functools.cache
def _takes(method: Method, trade_size: str | None) -> tuple[float, float, float]:
    """What nothing, a body and an elbow take up of the raceway they join [m]."""
    if trade_size is None:
        return (0.0, 0.0, 0.0)
    return (0.0, _takes_m(method, trade_size)[1], elbow_take_m(method, trade_size))


class _Run:
    """Raceway from one fitting to the next, bent on its way, as long as it is before cutting."""

    def __init__(self, trade_size: str | None, taken: float, stick_m: float) -> None:
        self.trade = trade_size
        self._stick_m = stick_m
        self.length = -taken
        self.bends: list[Bend] = []
        self.cuts: list[tuple[Piece, float]] = []
        """Its pieces, and where each begins in it [m]."""
        self.legs: list[tuple[float, Walked]] = []

    def leg(self, walked: Walked) -> None:
        self.legs.append((max(self.length, 0.0), walked))
        leg = walked.leg
        if leg.offset_m is not None or leg.saddle_m is not None:
            self._bent(walked)
        else:
            self.length += leg.length_m

    def _bent(self, walked: Walked) -> None:
        """A leg with an offset or a saddle, which take up more than its reading."""
        leg = walked.leg
        extra = 0.0
        if leg.offset_m is not None:
            extra += leg.offset_m * exact_factors(leg.offset_deg)[1]
        if leg.saddle_m is not None:
            angle = leg.offset_deg if leg.saddle_wide_m else 22.5
            extra += 2 * leg.saddle_m * exact_factors(angle)[1]
        begins = self.length
        middle, high = self.length + leg.length_m / 2, leg.offset_m or leg.saddle_m or 0.0
        half = leg.saddle_wide_m / 2 + 6 * high
        self.bends.append(Bend(walked, False, begins, middle - half, middle + half + extra))
        self.length += leg.length_m + extra

    def turn(self, walked: Walked) -> None:
        """A bend made by hand, or none."""
        trade = self.trade
        if walked.turn_deg < 1e-6 or trade is None:
            return
        method, corner = walked.method, self.length
        self.length -= hand_gain_m(method, trade) * walked.turn_deg / 90
        start = corner - hand_reach_m(method, trade) - CLEAR_M
        self.bends.append(Bend(walked, True, corner, start, corner + hand_radius_m(method, trade)))

    def close(self, taken: float, moved_m: float) -> None:
        """Add its pieces, so much further along the tape: whole sticks, and a rest; joints kept off the bends."""
        length = self.length - taken
        done, at = 0.0, 0
        while length - done > 1e-6:
            step = min(self._stick_m, length - done)
            if self.bends and step < length - done - 1e-6:
                step = self._clear(done, step)
            while at + 1 < len(self.legs) and self.legs[at + 1][0] <= done + 1e-6:
                at += 1
            begins, walked = self.legs[at]
            self.cuts.append((Piece(walked.leg.id, walked.start_m + moved_m + (done - begins), step), done))
            done += step

    def _clear(self, done: float, step: float) -> float:
        """A step that ends before the bends it would have ended in; the whole step where there is no room before."""
        ends = done + step
        for bend in reversed(self.bends):
            if bend.start_m < ends < bend.end_m:
                ends = bend.start_m
        return ends - done if ends - done > CLEAR_M else step


def least_sticks(kinds: Kinds, stick_m: float) -> int:
    """No fewer sticks can do: their lengths and kerfs together, and those longer than half a stick [m]."""
    half = sum([many for length_um, many in kinds if length_um / 1e6 > stick_m / 2 + 1e-9])
    # The last piece of a stick needs no cut.
    whole = sum([many * (length_um / 1e6 + KERF_M) for length_um, many in kinds])
    return max(half, math.ceil(whole / (stick_m + KERF_M) - 1e-9))
