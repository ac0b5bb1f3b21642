"""Widths of a table's columns: what has no room beside the others is wrapped, and at last scrolled to, never cut."""

from __future__ import annotations

from collections.abc import Collection, Sequence


def share(needs: Sequence[float], room: float, wraps: float, fixed: Collection[int]) -> list[int]:
    """Share out a table's width.

    Parameters
    ----------
    needs : sequence of float
        What each column takes with its longest text on one line; nought for one that is hidden [px].
    room : float
        Width of the table [px].
    wraps : float
        A column wider than this can do with as much, its texts in several lines [px].
    fixed : collection of int
        Columns that take nothing of what is left over.

    Returns
    -------
    list of int
        Their widths; together wider than the room only where wrapping does not help [px].
    """
    left = room - sum(needs)
    if left >= 0:
        open_ones = [at for at, need in enumerate(needs) if need and at not in fixed]
        takes = open_ones or [at for at, need in enumerate(needs) if need][-1:]
        widths = [int(need + (left / len(takes) if at in takes else 0)) for at, need in enumerate(needs)]
    else:
        spare = [max(need - wraps, 0.0) for need in needs]
        part = min(-left / sum(spare), 1.0) if any(spare) else 0.0
        widths = [int(need - part * most) for need, most in zip(needs, spare, strict=True)]
    return widths
