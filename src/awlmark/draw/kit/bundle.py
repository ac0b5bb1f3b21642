"""Long lines: neighbours too small to be told apart are drawn, and answer, together."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

TINY: Final = 9.0
"""Drawn smaller than this, a leg has no room for marks of its own [px]."""
FEW: Final = 4
"""Fewer tiny neighbours than this stay by themselves."""
SEEN: Final = 0.8
"""A bend nearer than this to the straight beside it is not seen [px]."""
_SEEN_TWICE: Final = SEEN * SEEN
ROOM: Final = 40.0
"""Enough for a leg or a stretch to stay by itself wherever bundles are made [px]."""
WIDE: Final = 45.0
"""Extent at which a bundle is full [px]."""


def bundles(sizes: Sequence[float], tiny: float = TINY, full: float = WIDE) -> list[tuple[int, int]]:
    """Put tiny neighbours together.

    Parameters
    ----------
    sizes : sequence of float
        Extent of each, in order [px]; inf for what has to stay by itself.
    tiny : float
        Below this they are put together [px].
    full : float
        Extent from which on a bundle takes no more [px].

    Returns
    -------
    list of (int, int)
        First and past the last of every bundle, in order; most hold one.
    """
    found: list[tuple[int, int]] = []
    at = 0
    while at < len(sizes):
        end, wide = at, 0.0
        while end < len(sizes) and sizes[end] < tiny and wide < full:
            wide += sizes[end]
            end += 1
        if end - at < FEW:
            end = at + 1
        found.append((at, end))
        at = end
    return found


def many(bundle: tuple[int, int]) -> bool:
    """Whether a bundle holds more than one; several such in a row are drawn as one line."""
    return bundle[1] - bundle[0] > 1


def bent(points: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
    """The points at which a line visibly bends, and its ends."""
    if len(points) < 3:
        return list(points)
    found = [points[0]]
    (before_x, before_y), (x, y) = points[:2]
    for x2, y2 in points[2:]:
        along_x, along_y, across, down = x - before_x, y - before_y, x2 - before_x, y2 - before_y
        area = along_x * down - along_y * across
        turned = along_x * (x2 - x) + along_y * (y2 - y) < 0
        if turned or area * area > _SEEN_TWICE * (across * across + down * down):
            found.append((x, y))
            before_x, before_y = x, y
        x, y = x2, y2
    return [*found, (x, y)]


def width_for_all(lengths: Sequence[float], width: float) -> float:
    """Width of a drawing in which each of some lengths stands, and answers, by itself [px].

    What a drawing's list twin is read off: a list has room for all.
    """
    shortest = min((length for length in lengths if length > 0), default=0.0)
    return max(width, sum(lengths) / shortest * ROOM) if shortest else width
