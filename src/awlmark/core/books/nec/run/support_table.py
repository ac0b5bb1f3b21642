"""Distances between straps and staples, as the articles of the methods have them."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.books.book import Method
from awlmark.core.books.nec.printed import printed
from awlmark.core.quantities import FOOT_M, INCH_M

_PVC_ROWS: Final = {
    "1/2": "PVC 1/2-1", "3/4": "PVC 1/2-1", "1": "PVC 1/2-1", "1-1/4": "PVC 1-1/4 to 2", "1-1/2": "PVC 1-1/4 to 2",
    "2": "PVC 1-1/4 to 2", "2-1/2": "PVC 2-1/2 to 3", "3": "PVC 2-1/2 to 3",
}  # fmt: skip
"""Row of the table by trade size."""


@functools.cache
def support(method: Method, trade_size: str | None, _upright: bool = False) -> tuple[float, float, str]:
    """Farthest between supports and farthest from an end.

    Parameters
    ----------
    method : Method
        Wiring method.
    trade_size : str or None
        Needed for PVC, whose table goes by size; the closest spacing when None.

    Returns
    -------
    tuple
        Between supports, and from a box or fitting [m]; the clause. Source: supports.csv, sections named there.
    """
    name = _PVC_ROWS[trade_size or "1"] if method.support == "PVC" else method.support
    row = next(row for row in printed("supports").rows if row["method"] == name)
    between, end = float(row["max_spacing_ft"]) * FOOT_M, float(row["within_in_of_box"]) * INCH_M
    return between, end, row["section"].split(" ")[0]
