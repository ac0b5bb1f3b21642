"""Cutting stock by patterns: linear programming with columns made as they help, then whole numbers."""

from __future__ import annotations

import itertools
import math

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, linprog, milp

from awlmark.core.arrays import Floats, Ints

MOST_NODES = 200_000
"""Steps that all searches for patterns may take together: about a second, and the same on every machine."""
MOST_COLUMNS = 400
MOST_BRANCHES = 4000
"""Nodes of the whole-number program."""
GRID_M = 1e-6
"""Lengths are rounded to this for the pattern search [m]: all of a stick's together stay far under a kerf."""
MOST_PATTERNS = 5000
"""Up to so many ways to fill a stick all of them are tried, and the plan is proved."""


def fewest(
    lengths: list[float], stick: float, kerf: float, most_nodes: int = MOST_NODES
) -> tuple[tuple[tuple[int, ...], ...], int]:
    """Share lengths out among the fewest sticks.

    Parameters
    ----------
    lengths : list of float
        To be cut [m].
    stick, kerf : float
        Length of a stick and what a cut loses [m].
    most_nodes : int
        Steps that the search for patterns may take: work, not time, so that one job gives one plan everywhere.

    Returns
    -------
    sticks : tuple of tuple of int
        Places of the lengths in each stick.
    least : int
        No plan can do with fewer: the linear program's value, rounded up, or what the whole one proved.
    """
    left = [most_nodes]
    # The last piece of a stick needs no cut, so a stick holds pieces and kerfs up to its length and one kerf more.
    rounded = [math.floor(length / GRID_M + 1e-3) + math.floor(kerf / GRID_M) for length in lengths]
    room = math.floor(stick / GRID_M + 1e-3) + math.ceil(kerf / GRID_M)
    sizes = sorted(set(rounded), reverse=True)
    kinds = [[place for place, length in enumerate(rounded) if length == size] for size in sizes]
    wanted = np.array([len(kind) for kind in kinds])
    widths = np.minimum(np.array(sizes), room)
    most = np.minimum(room // widths, wanted)
    columns, bound = list(np.diag(most)), 0.0
    every = _every_pattern(widths.tolist(), wanted.tolist(), room)
    if every is not None:
        columns = every
    while every is None and left[0] > 0 and len(columns) < MOST_COLUMNS:
        solved = linprog(np.ones(len(columns)), A_ub=-np.stack(columns, 1), b_ub=-wanted, method="highs")
        if solved.x is None:
            break
        worth = -solved.ineqlin.marginals
        column, value, whole_search = _best_pattern(worth, widths, wanted, room, left)
        if not whole_search and value <= 1 + 1e-9:
            break
        # Farley's bound: no pattern is worth more than value, so no plan beats this.
        if whole_search:
            bound = max(bound, float(worth @ wanted) / max(value, 1.0))
        if value <= 1 + 1e-9:
            break
        columns.append(column)
    whole = milp(
        np.ones(len(columns)),
        constraints=LinearConstraint(np.stack(columns, 1), wanted, np.inf),
        integrality=np.ones(len(columns)),
        bounds=Bounds(0, np.inf),
        options={"node_limit": MOST_BRANCHES},
    )
    least = math.ceil(bound - 1e-6)
    if every is not None and whole.status == 0:
        least = round(whole.fun)
    if whole.x is None:
        return tuple((place,) for place in range(len(lengths))), least
    return _dealt(np.rint(whole.x).astype(int), columns, kinds), least


def _every_pattern(widths: list[int], wanted: list[int], room: int) -> list[Ints] | None:
    """All ways to fill a stick that leave no room for another piece; None where there are too many to try."""
    found: list[Ints] = []
    taken = [0] * len(widths)

    def fill(depth: int, left: int) -> bool:
        if depth == len(widths):
            full = all(taken[at] == wanted[at] or left < width for at, width in enumerate(widths))
            if full and any(taken):
                found.append(np.array(taken))
            return len(found) <= MOST_PATTERNS
        for count in range(min(left // widths[depth], wanted[depth]), -1, -1):
            taken[depth] = count
            if not fill(depth + 1, left - count * widths[depth]):
                return False
        taken[depth] = 0
        return True

    # The walk itself is bounded too: every way down the tree ends in at most one pattern.
    return found if len(widths) <= 24 and fill(0, room) else None


def _best_pattern(
    worth: Floats, widths: Ints, wanted: Ints, room: int, left_nodes: list[int]
) -> tuple[Ints, float, bool]:
    """The pattern worth most, its worth, and whether the search came to its end.

    A bounded knapsack, depth first with the fractional bound; every step is taken off ``left_nodes``.
    """
    order = sorted(range(len(widths)), key=lambda at: -worth[at] / widths[at])
    best: list[int] = [0] * len(widths)
    top = 0.0
    taken = [0] * len(widths)

    def search(depth: int, left: int, value: float) -> bool:
        nonlocal best, top
        left_nodes[0] -= 1
        if left_nodes[0] < 0:
            return False
        if value > top + 1e-12:
            best, top = list(taken), value
        if depth == len(order):
            return True
        at = order[depth]
        if value + worth[at] / widths[at] * left <= top + 1e-12:
            return True
        for count in range(min(left // int(widths[at]), int(wanted[at])), -1, -1):
            taken[at] = count
            if not search(depth + 1, left - count * int(widths[at]), value + count * float(worth[at])):
                return False
        taken[at] = 0
        return True

    finished = search(0, room, 0.0)
    return np.array(best), top, finished


def _dealt(counts: Ints, columns: list[Ints], kinds: list[list[int]]) -> tuple[tuple[int, ...], ...]:
    """Pieces dealt to the sticks of the chosen patterns; a pattern with room to spare may stay short."""
    left = [list(kind) for kind in kinds]
    sticks = []
    for column in itertools.chain.from_iterable(map(itertools.repeat, columns, counts.tolist())):
        stick = [left[kind].pop() for kind, many in enumerate(column.tolist()) for _ in range(many) if left[kind]]
        if stick:
            sticks.append(tuple(stick))
    return tuple(sticks)
