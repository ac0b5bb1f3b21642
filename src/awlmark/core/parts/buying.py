"""Rounding to what is sold: by the piece or foot, or in coils and boxes, whichever comes cheapest together."""

from __future__ import annotations

import functools
import math

import msgspec


class Bought(msgspec.Struct, gc=False, frozen=True):
    """What to ask for at the counter."""

    quantity: float
    """All of it, at least what is needed."""
    packs: tuple[tuple[float, int], ...] = ()
    """Size of pack and how many; size 1 is by the piece or foot."""
    cost: float | None = None
    """None while no price is known."""


Packs = tuple[tuple[float, float], ...]
"""Sizes of pack and the price of one."""


@functools.lru_cache(maxsize=2048)
def buy(needed: float, each: float | None, packs: Packs, pieces: tuple[float, ...] = ()) -> Bought:
    """The cheapest way to come to at least what is needed, found exactly.

    Parameters
    ----------
    needed : float
        How many; parts of one are bought whole.
    each : float or None
        Price by the piece; None where it is not sold so.
    packs : tuple of (float, float)
        Sizes of pack and the price of one.
    pieces : tuple of float
        Lengths that must each come out of one coil, as wire does; empty for what may be made up of any packs.

    Notes
    -----
    A covering knapsack, by dynamic programming over the whole units still missing; lengths go by the cheapest way to
    share them out among coils.
    """
    units = math.ceil(needed - 1e-9)
    if not packs:
        return Bought(float(units), ((1.0, units),), None if each is None else round(each * units, 2))
    if pieces:
        return _lengths(pieces, each, packs)
    offers = [*([(1, each)] if each is not None else []), *((int(size), price) for size, price in packs)]
    real = {1: 1.0, **{int(size): size for size, _price in packs}}
    # Cheapest way to cover so many units, the largest pack last among equals so that few pieces are carried.
    best: list[tuple[float, int, int]] = [(0.0, 0, 0)]
    for missing in range(1, units + 1):
        best.append(
            min(
                (round(best[max(missing - size, 0)][0] + price, 4), best[max(missing - size, 0)][1] + 1, size)
                for size, price in offers
            )
        )
    counts: dict[float, int] = {}
    left = units
    while left > 0:
        size = best[left][2]
        counts[real[size]] = counts.get(real[size], 0) + 1
        left -= size
    total = sum(size * count for size, count in counts.items())
    return Bought(total, tuple(sorted(counts.items(), reverse=True)), round(best[units][0], 2))


MOST_SHARED = 8
"""Lengths shared out among coils exactly; with more each is bought by itself."""


def _lengths(pieces: tuple[float, ...], each: float | None, packs: Packs) -> Bought:
    """Unbroken lengths, each out of one coil, several out of the same where that comes cheaper."""

    def one(total: float) -> tuple[float, float] | None:
        """Cheapest single purchase of a length: its price and the size of pack, 1 by the unit."""
        offers = [(price, size) for size, price in packs if size >= total - 1e-9]
        if each is not None:
            offers.append((each * math.ceil(total - 1e-9), 1.0))
        return min(offers, default=None)

    alone = len(pieces) > MOST_SHARED
    best: dict[int, tuple[float, tuple[tuple[float, float], ...]] | None] = {0: (0.0, ())}
    whole = (1 << len(pieces)) - 1
    for left in range(1, whole + 1) if not alone else ():
        lowest, best[left] = left & -left, None
        part = left
        while part:
            rest = best[left ^ part] if part & lowest else None
            offer = one(sum(piece for at, piece in enumerate(pieces) if part >> at & 1)) if rest is not None else None
            if rest is not None and offer is not None:
                total = sum(piece for at, piece in enumerate(pieces) if part >> at & 1)
                made = rest[0] + offer[0], (*rest[1], (offer[1], total))
                here = best[left]
                if here is None or made[0] < here[0] - 1e-9:
                    best[left] = made
            part = (part - 1) & left
    found = best.get(whole)
    if alone:
        singles = [(one(piece), piece) for piece in pieces]
        if all(offer is not None for offer, _piece in singles):
            taken = tuple((offer[1], piece) for offer, piece in singles if offer is not None)
            found = sum(offer[0] for offer, _piece in singles if offer is not None), taken
    needed = float(sum(math.ceil(piece - 1e-9) for piece in pieces))
    if found is None:
        # No coil is long enough, and it is not sold by the unit.
        return Bought(needed, ((1.0, int(needed)),), None)
    counts: dict[float, int] = {}
    for size, length in found[1]:
        counts[size] = counts.get(size, 0) + (math.ceil(length - 1e-9) if size == 1 else 1)
    total = sum(size * count for size, count in counts.items())
    return Bought(float(total), tuple(sorted(counts.items(), reverse=True)), round(found[0], 2))
