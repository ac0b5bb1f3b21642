"""A string drawn taut round things: the shortest way from one point to another, seen from above."""

from __future__ import annotations

import heapq
import itertools
import math
from typing import Final

import numpy as np

from awlmark.core.arrays import Floats

Point = tuple[float, float]
Shape = tuple[Point, ...]
"""A convex outline, anticlockwise."""
CLEAR_M: Final = 0.02
"""The string keeps this far off a corner it goes round."""
TOUCH_M: Final = 1e-6


def rectangle(x: float, y: float, wide: float, deep: float, turned_deg: float = 0.0) -> Shape:
    """Outline of a rectangle by its middle, sides and turn."""
    angle = math.radians(turned_deg)
    along, across = (math.cos(angle), math.sin(angle)), (-math.sin(angle), math.cos(angle))
    corners = ((-1, -1), (1, -1), (1, 1), (-1, 1))
    return tuple(
        (x + along[0] * a * wide / 2 + across[0] * b * deep / 2, y + along[1] * a * wide / 2 + across[1] * b * deep / 2)
        for a, b in corners
    )


def crosses(starts: Floats, ends: Floats, shape: Shape) -> np.ndarray[tuple[int], np.dtype[np.bool_]]:
    """Whether segments pass through the inside of a convex outline; touching its edge does not count.

    Parameters
    ----------
    starts, ends : ndarray, shape (N, 2)
        Segments [m].
    shape : tuple of points
        Anticlockwise.

    Returns
    -------
    ndarray of bool, shape (N,)
    """
    way = ends - starts
    enter, leave = np.zeros(len(starts)), np.ones(len(starts))
    alive = np.ones(len(starts), dtype=bool)
    for (x, y), (x2, y2) in zip(shape, (*shape[1:], shape[0]), strict=True):
        length = math.hypot(x2 - x, y2 - y)
        out = np.array([(y2 - y) / length, -(x2 - x) / length])
        # Distance outside this edge at both ends of the segment.
        near = (starts - (x, y)) @ out + TOUCH_M
        rate = way @ out
        with np.errstate(divide="ignore", invalid="ignore"):
            at = -near / rate
        parallel = np.abs(rate) < 1e-12
        alive &= ~(parallel & (near >= 0))
        enter = np.where(~parallel & (rate < 0), np.maximum(enter, at), enter)
        leave = np.where(~parallel & (rate > 0), np.minimum(leave, at), leave)
    long = np.hypot(way[:, 0], way[:, 1])
    found: np.ndarray[tuple[int], np.dtype[np.bool_]] = alive & ((leave - enter) * long > 10 * TOUCH_M)
    return found


def taut(start: Point, end: Point, things: list[Shape]) -> list[Point]:
    """Corners of the shortest way from start to end outside all things; empty when there is none.

    Things are taken in only once the way runs into them: the shortest way round some that misses the rest is the
    shortest round all.

    Parameters
    ----------
    start, end : tuple of float
        Outside every thing, or on its edge [m].
    things : list of outlines
        What it goes round.
    """
    met: list[Shape] = []
    while True:
        path = _shortest(start, end, met)
        more = [thing for thing in things if thing not in met and meets(path, thing)]
        if not more:
            return path
        met += more


def _shortest(start: Point, end: Point, things: list[Shape]) -> list[Point]:
    """Shortest way over the corners of a few things; empty when there is none."""
    if not things:
        return [start, end]
    nodes = [start, end]
    for thing in things:
        middle = (sum(x for x, _ in thing) / len(thing), sum(y for _, y in thing) / len(thing))
        for x, y in thing:
            far = math.hypot(x - middle[0], y - middle[1])
            out = 1 + CLEAR_M / far if far else 1.0
            nodes.append((middle[0] + (x - middle[0]) * out, middle[1] + (y - middle[1]) * out))
    points = np.array(nodes)
    one, two = np.triu_indices(len(nodes), 1)
    blocked = np.zeros(len(one), dtype=bool)
    for thing in things:
        blocked |= crosses(points[one], points[two], thing)
    apart = np.hypot(*(points[one] - points[two]).T)
    ways: list[list[tuple[int, float]]] = [[] for _ in nodes]
    for a, b, far in zip(one[~blocked].tolist(), two[~blocked].tolist(), apart[~blocked].tolist(), strict=True):
        ways[a].append((b, far))
        ways[b].append((a, far))
    best, before = {0: 0.0}, {0: 0}
    waiting = [(0.0, 0)]
    while waiting:
        gone, at = heapq.heappop(waiting)
        if at == 1:
            break
        if gone > best[at]:
            continue
        for onward, far in ways[at]:
            if gone + far < best.get(onward, math.inf):
                best[onward], before[onward] = gone + far, at
                heapq.heappush(waiting, (gone + far, onward))
    if 1 not in best:
        return []
    path = [1]
    while path[-1] != 0:
        path.append(before[path[-1]])
    return [nodes[at] for at in reversed(path)]


def length(path: list[Point]) -> float:
    """Length of a way [m]."""
    return sum(math.dist(a, b) for a, b in itertools.pairwise(path))


def meets(path: list[Point], shape: Shape) -> bool:
    """Whether a way passes over an outline."""
    return any(_passes(start, end, shape) for start, end in itertools.pairwise(path))


def _passes(start: Point, end: Point, shape: Shape) -> bool:
    """:func:`crosses` for one segment: without arrays, for a way has few."""
    across, up = end[0] - start[0], end[1] - start[1]
    enter, leave = 0.0, 1.0
    for (x, y), (x2, y2) in zip(shape, (*shape[1:], shape[0]), strict=True):
        long = math.hypot(x2 - x, y2 - y)
        out_x, out_y = (y2 - y) / long, -(x2 - x) / long
        near = (start[0] - x) * out_x + (start[1] - y) * out_y + TOUCH_M
        rate = across * out_x + up * out_y
        if abs(rate) < 1e-12:
            if near >= 0:
                return False
        elif rate < 0:
            enter = max(enter, -near / rate)
        else:
            leave = min(leave, -near / rate)
    return (leave - enter) * math.hypot(across, up) > 10 * TOUCH_M
