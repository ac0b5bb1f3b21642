"""Which piece comes out of which stick: at once, and proved where it can be."""

from __future__ import annotations

import functools
from collections import Counter
from typing import Final

import msgspec

from awlmark.core.parts.sticks import KERF_M, Kinds, Piece, Stick, kinds_of, least_sticks

_SHORT: Final = 1e-9
_known: dict[tuple[Kinds, float], CutPlan] = {}
"""Plans that the exact search has found, by what was to be cut from which stick; they only ever get better."""
MOST_KNOWN: Final = 256


class CutPlan(msgspec.Struct, gc=False, frozen=True):
    """How sticks are cut. Pieces of one length are alike, and so are sticks with the same pieces."""

    patterns: tuple[tuple[int, tuple[int, ...]], ...]
    """So many sticks, each cut into these lengths [µm]."""
    least: int
    """No plan can do with fewer."""
    rounds: int = 0
    """Searches that went into it: 0 for the quick one."""

    @property
    def number(self) -> int:
        """Sticks in all."""
        return sum([times for times, _lengths in self.patterns])

    @property
    def proved(self) -> bool:
        """Whether no plan needs fewer sticks."""
        return self.number == self.least

    def dealt(self, pieces: list[Piece]) -> list[list[int]]:
        """Which of the pieces that the plan was made for come out of each stick, by their place among them."""
        places: dict[int, list[int]] = {}
        for place in reversed(range(len(pieces))):
            places.setdefault(pieces[place].um, []).append(place)
        sticks = [lengths for times, lengths in self.patterns for _ in range(times)]
        return [[places[length].pop() for length in lengths] for lengths in sticks]


def cut(pieces: list[Piece], stick_m: float) -> list[Stick]:
    """Pack pieces into sticks of a length [m] by the best plan known.

    The quick plan takes the longest first, each into the first stick with room: at most 11/9 of the fewest sticks plus
    one (Johnson, 1973, from memory). Where that is not proved the fewest, :func:`cut_exactly` may have found better.
    """
    found = []
    for places in plan_of(pieces, stick_m).dealt(pieces):
        stick = Stick([], stick_m)
        for place in sorted(places, key=lambda place: (-pieces[place].length_m, pieces[place].start_m)):
            if not stick.take(pieces[place]):
                # Within a kerf of the whole stick: the saw takes the rest.
                stick.pieces.append(pieces[place])
                stick.left_m = 0.0
        found.append(stick)
    return found


def plan_of(pieces: list[Piece], stick_m: float) -> CutPlan:
    """The best plan known for some pieces out of sticks of a length [m]."""
    return plan_for(kinds_of(pieces), stick_m)


def plan_for(kinds: Kinds, stick_m: float) -> CutPlan:
    """The best plan known for some lengths out of sticks of a length [m]."""
    known = _known.get((kinds, stick_m))
    return known if known is not None else _quick(kinds, stick_m)


@functools.lru_cache(maxsize=64)
def _quick(kinds: Kinds, stick_m: float) -> CutPlan:
    shortest = kinds[-1][0] / 1e6 if kinds else 0.0
    roomy: list[_Alike] = []
    closed: list[_Alike] = []
    begun = 0
    for length_um, many in kinds:
        still: list[_Alike] = []
        # After the sticks with room, allow opening up to `many` new ones.
        for alike in (*roomy, (begun, many, stick_m, ())):
            first, times, left, lengths = alike
            count, rest = _taken(left, length_um, many, stick_m) if many else (0, left)
            if count:
                full = min(many // count, times)
                over = many - full * count if full < times else 0
                shares = [(full, count, rest)]
                if over:
                    shares.append((1, over, _taken(left, length_um, over, stick_m)[1]))
                for number, taken, leaves in shares:
                    # Lengths come longest first: a remainder below the shortest length can be closed.
                    into = still if leaves >= shortest - _SHORT else closed
                    if number:
                        into.append((first, number, leaves, lengths + (length_um,) * taken))
                    first, times, many = first + number, times - number, many - number * taken
            if not lengths:
                begun = first
            elif times:
                still.append((first, times, left, lengths))
        roomy = still
    sticks = sorted(roomy + closed)
    return CutPlan(tuple([(times, lengths) for _first, times, _left, lengths in sticks]), least_sticks(kinds, stick_m))


_Alike = tuple[int, int, float, tuple[int, ...]]
"""Neighbouring sticks cut alike so far: the first, how many, what is left of each [m], its lengths [µm]."""


def _taken(left: float, length_um: int, most: int, stick_m: float) -> tuple[int, float]:
    """How many of a length a stick gives, up to some number, and what is left of it [m]."""
    length, count = length_um / 1e6, 0
    sawn = length + KERF_M
    # A whole stick always gives one: within a kerf of its length the saw takes the rest.
    while count < most and (left >= sawn or abs(left - length) < _SHORT or left == stick_m):
        left = left - sawn if left > sawn else 0.0
        count += 1
    return count, left


def cut_exactly(pieces: list[Piece], stick_m: float) -> CutPlan:
    """The fewest sticks, by integer programming; kept for every later :func:`cut` of the same lengths.

    Pieces of one length are alike: the program chooses how many sticks follow each pattern of lengths, patterns being
    added while one would help (column generation), and then asks for whole numbers. What it does not prove within the
    work it may do is the best found, with the least it could be.

    Parameters
    ----------
    pieces : list of Piece
        What is to be cut.
    stick_m : float
        Length of a stick [m].
    """
    quick = plan_of(pieces, stick_m)
    if quick.proved or quick.rounds:
        return quick
    from awlmark.core.parts.patterns import fewest

    sticks, least = fewest([piece.length_m for piece in pieces], stick_m, KERF_M)
    patterns = Counter([tuple(sorted([pieces[place].um for place in stick], reverse=True)) for stick in sticks])
    better = None
    if len(sticks) < quick.number:
        alike = tuple([(times, lengths) for lengths, times in patterns.items()])
        better = CutPlan(alike, max(least, quick.least), 1)
    found = better or msgspec.structs.replace(quick, least=max(least, quick.least), rounds=1)
    while len(_known) >= MOST_KNOWN:
        _known.pop(next(iter(_known)))
    _known[kinds_of(pieces), stick_m] = found
    return found
