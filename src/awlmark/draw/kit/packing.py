"""Conductors lying in the bottom of a round pipe, as they would."""

from __future__ import annotations

import math

Circle = tuple[float, float, float]
"""x, y (up) and radius."""


def pack(bore: float, radii: list[float]) -> list[Circle]:
    """Lay circles in a pipe, largest first, each where it comes to lie lowest.

    Parameters
    ----------
    bore : float
        Inside radius, any unit.
    radii : list of float
        Radii, same unit.

    Returns
    -------
    list of Circle
        In the order of ``radii``, centre of the pipe at (0, 0). The heap is turned so that its weight lies at the
        bottom. A circle that finds no room is laid in the middle: the fill check says so in words.
    """
    order = sorted(range(len(radii)), key=lambda index: -radii[index])
    placed: dict[int, Circle] = {}
    for index in order:
        placed[index] = _lowest(bore, radii[index], list(placed.values()))
    heap = [placed[index] for index in range(len(radii))]
    return _settle(heap)


def _lowest(bore: float, radius: float, others: list[Circle]) -> Circle:
    reach = bore - radius
    spots: list[tuple[float, float]] = [(0.0, -reach)] if reach >= 0 else []
    for number, one in enumerate(others):
        spots += _meet((0.0, 0.0, reach), (one[0], one[1], one[2] + radius))
        for other in others[number + 1 :]:
            spots += _meet((one[0], one[1], one[2] + radius), (other[0], other[1], other[2] + radius))
    free = [
        (y, x)
        for x, y in spots
        if math.hypot(x, y) <= reach + 1e-6
        and all(math.hypot(x - other[0], y - other[1]) >= radius + other[2] - 1e-6 for other in others)
    ]
    y, x = min(free, default=(0.0, 0.0))
    return (x, y, radius)


def _meet(one: Circle, other: Circle) -> list[tuple[float, float]]:
    """Where two circles cross."""
    across, up = other[0] - one[0], other[1] - one[1]
    apart = math.hypot(across, up)
    if apart < 1e-12 or apart > one[2] + other[2] or apart < abs(one[2] - other[2]):
        return []
    along = (one[2] ** 2 - other[2] ** 2 + apart**2) / (2 * apart)
    side = math.sqrt(max(0.0, one[2] ** 2 - along**2))
    x, y = one[0] + along * across / apart, one[1] + along * up / apart
    return [(x + side * up / apart, y - side * across / apart), (x - side * up / apart, y + side * across / apart)]


def _settle(heap: list[Circle]) -> list[Circle]:
    """Turn the heap round the pipe's axis until its weight hangs lowest."""
    weight = sum(circle[2] ** 2 for circle in heap)
    if weight == 0:
        return heap
    x = sum(circle[0] * circle[2] ** 2 for circle in heap) / weight
    y = sum(circle[1] * circle[2] ** 2 for circle in heap) / weight
    if math.hypot(x, y) < 1e-9:
        return heap
    turn = -math.pi / 2 - math.atan2(y, x)
    cosine, sine = math.cos(turn), math.sin(turn)
    return [(cx * cosine - cy * sine, cx * sine + cy * cosine, radius) for cx, cy, radius in heap]
