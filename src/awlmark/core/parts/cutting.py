"""Which piece comes out of which stick: at once, and proved where it can be."""

from __future__ import annotations

import functools
import itertools
from typing import Final

import msgspec

from awlmark.core.parts.sticks import KERF_M, Piece, Stick, least_sticks, micrometres
from awlmark.core.run.hand import STICK_M

LIMIT_S: Final = 1.0
"""Time the exact search may take."""
_SHORT: Final = 1e-9
_known: dict[tuple[int, ...], CutPlan] = {}
"""Plans that the exact search has found, by their lengths; they only ever get better."""
MOST_KNOWN: Final = 256


class CutPlan(msgspec.Struct, gc=False, frozen=True):
    """Sticks with their pieces."""

    sticks: tuple[tuple[int, ...], ...]
    """Each stick's pieces, by their place among the lengths."""
    least: int
    """No plan can do with fewer."""
    rounds: int = 0
    """Searches that went into it: 0 for the quick one."""

    @property
    def proved(self) -> bool:
        """Whether no plan needs fewer sticks."""
        return len(self.sticks) == self.least


def cut(pieces: list[Piece]) -> list[Stick]:
    """Pack pieces into sticks by the best plan known.

    The quick plan takes the longest first, each into the first stick with room: at most 11/9 of the fewest sticks plus
    one (Johnson, 1973, from memory). Where that is not proved the fewest, :func:`cut_exactly` may have found better.
    """
    plan = plan_of(pieces)
    found = []
    for places in plan.sticks:
        stick = Stick([])
        for place in sorted(places, key=lambda place: (-pieces[place].length_m, pieces[place].start_m)):
            if not stick.take(pieces[place]):
                # Within a kerf of the whole stick: the saw takes the rest.
                stick.pieces.append(pieces[place])
                stick.left_m = 0.0
        found.append(stick)
    return found


def plan_of(pieces: list[Piece]) -> CutPlan:
    """The best plan known for some pieces."""
    return plan_for(_key(pieces))


def plan_for(each_um: tuple[int, ...]) -> CutPlan:
    """The best plan known for some lengths [µm]."""
    known = _known.get(each_um)
    return known if known is not None else _quick(each_um)


def _key(pieces: list[Piece]) -> tuple[int, ...]:
    return micrometres([piece.length_m for piece in pieces])


@functools.lru_cache(maxsize=64)
def _quick(each_um: tuple[int, ...]) -> CutPlan:
    lengths = [length / 1e6 for length in each_um]
    order = sorted(range(len(lengths)), key=lengths.__getitem__, reverse=True)
    shortest = min(lengths, default=0.0)
    # No two that are longer than half a stick come out of one: each begins its own.
    long = sum([length > STICK_M / 2 for length in lengths])
    sticks = [[place] for place in order[:long]]
    lefts = [max(STICK_M - lengths[place] - KERF_M, 0.0) for place in order[:long]]
    roomy = [at for at, left in enumerate(lefts) if left >= shortest - _SHORT]
    for length, alike in itertools.groupby(order[long:], key=lengths.__getitem__):
        places, done, at, sawn = list(alike), 0, 0, length + KERF_M
        while done < len(places):
            if at == len(roomy):
                roomy.append(len(sticks))
                sticks.append([])
                lefts.append(STICK_M)
            stick, begin = roomy[at], done
            left = lefts[stick]
            while done < len(places) and (left >= sawn or abs(left - length) < _SHORT):
                left = left - sawn if left > sawn else 0.0
                done += 1
            if done > begin:
                sticks[stick] += places[begin:done]
                lefts[stick] = left
            if left < shortest - _SHORT:
                # Nothing that is still to come fits; it need not be tried again.
                del roomy[at]
            else:
                at += 1
    return CutPlan(tuple(map(tuple, sticks)), least_sticks(lengths))


def cut_exactly(pieces: list[Piece], limit_s: float = LIMIT_S) -> CutPlan:
    """The fewest sticks, by integer programming; kept for every later :func:`cut` of the same lengths.

    Pieces of one length are alike: the program chooses how many sticks follow each pattern of lengths, patterns being
    added while one would help (column generation), and then asks for whole numbers. What it does not prove within the
    time is the best found, with the least it could be.

    Parameters
    ----------
    pieces : list of Piece
        What is to be cut.
    limit_s : float
        Time allowed [s].
    """
    quick = plan_of(pieces)
    if quick.proved or quick.rounds:
        return quick
    from awlmark.core.parts.patterns import fewest

    lengths = [piece.length_m for piece in pieces]
    sticks, least = fewest(lengths, STICK_M, KERF_M, limit_s)
    better = CutPlan(sticks, max(least, quick.least), 1) if len(sticks) < len(quick.sticks) else None
    found = better or msgspec.structs.replace(quick, least=max(least, quick.least), rounds=1)
    while len(_known) >= MOST_KNOWN:
        _known.pop(next(iter(_known)))
    _known[_key(pieces)] = found
    return found
