"""Long lines: neighbours too small to be told apart are drawn, and answer, together."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from typing import Final

TINY: Final = 9.0
"""Drawn smaller than this, a leg has no room for marks of its own [px]."""
FEW: Final = 4
"""Fewer tiny neighbours than this stay by themselves."""
SEEN: Final = 0.8
"""A bend nearer than this to the straight beside it is not seen [px]."""
ROOM: Final = 40.0
"""Enough for a leg or a stretch to stay by itself wherever bundles are made [px]."""
WIDE: Final = 45.0
"""Extent at which a bundle is full [px]."""


def bundles(sizes: Sequence[float], tiny: float = TINY) -> list[tuple[int, int]]:
    """Put tiny neighbours together.

    Parameters
    ----------
    sizes : sequence of float
        Extent of each, in order [px]; inf for what has to stay by itself.
    tiny : float
        Below this they are put together [px].

    Returns
    -------
    list of (int, int)
        First and past the last of every bundle, in order; most hold one.
    """
    found: list[tuple[int, int]] = []
    at = 0
    while at < len(sizes):
        end, wide = at, 0.0
        while end < len(sizes) and sizes[end] < tiny and wide < WIDE:
            wide += sizes[end]
            end += 1
        if end - at < FEW:
            end = at + 1
        found.append((at, end))
        at = end
    return found


def bent(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """The points at which a line visibly bends, and its ends."""
    found = list(points[:1])
    for (x, y), (x2, y2) in itertools.pairwise(points[1:]):
        before_x, before_y = found[-1]
        across, down = x2 - before_x, y2 - before_y
        area = (x - before_x) * down - (y - before_y) * across
        turned = (x - before_x) * (x2 - x) + (y - before_y) * (y2 - y) < 0
        if turned or area * area > SEEN * SEEN * (across * across + down * down):
            found.append((x, y))
    return [*found, *points[-1:]] if len(points) > 1 else found


def width_for_all(lengths: Sequence[float], width: float) -> float:
    """Width of a drawing in which each of some lengths stands, and answers, by itself [px].

    What a drawing's list twin is read off: a list has room for all.
    """
    shortest = min((length for length in lengths if length > 0), default=0.0)
    return max(width, sum(lengths) / shortest * ROOM) if shortest else width
