"""Straps and staples: how far apart, and where on a leg."""

from __future__ import annotations

import functools
import math

from awlmark.core.book.edition import Method
from awlmark.core.book.tables import printed
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.line import Walked

_PVC_ROWS = {"1/2": "PVC 1/2-1", "3/4": "PVC 1/2-1", "1": "PVC 1/2-1", "1-1/4": "PVC 1-1/4 to 2"} | {
    "1-1/2": "PVC 1-1/4 to 2",
    "2": "PVC 1-1/4 to 2",
    "2-1/2": "PVC 2-1/2 to 3",
    "3": "PVC 2-1/2 to 3",
}


@functools.cache
def spacing(method: Method, trade_size: str | None) -> tuple[float, float]:
    """Farthest between supports and farthest from an end.

    Parameters
    ----------
    method : Method
        Wiring method.
    trade_size : str or None
        Needed for PVC, whose table goes by size; the closest spacing when None.

    Returns
    -------
    tuple of float
        Between supports, and from a box or fitting [m]. Source: supports.csv, sections named there.
    """
    name = _PVC_ROWS[trade_size or "1"] if method.support == "PVC" else method.support
    row = next(row for row in printed("supports").rows if row["method"] == name)
    return float(row["max_spacing_ft"]) * FOOT_M, float(row["within_in_of_box"]) * INCH_M


def strap_offsets(length_m: float, between_m: float, from_end_m: float) -> list[float]:
    """Where the fewest straps stand on a leg that is fixed at both ends.

    Returns
    -------
    list of float
        Distances from the start of the leg [m], evenly spread.
    """
    if length_m <= 2 * from_end_m + 1e-9:
        return [length_m / 2]
    inner = length_m - 2 * from_end_m
    gaps = max(1, math.ceil(inner / between_m - 1e-9))
    return [from_end_m + inner * step / gaps for step in range(gaps + 1)]


@functools.lru_cache(maxsize=4096)
def _offsets(method: Method, trade_size: str | None, length_m: float) -> tuple[float, ...]:
    return tuple(strap_offsets(length_m, *spacing(method, trade_size)))


def straps(walked: Walked, trade_size: str | None) -> list[float]:
    """Places of the straps of a leg along the tape [m]; none in a wall or a trench."""
    if walked.leg.direction in ("through", "in", "out", "trench") or walked.place == "buried":
        return []
    return [walked.start_m + offset for offset in _offsets(walked.method, trade_size, walked.leg.length_m)]
