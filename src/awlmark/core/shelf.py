"""The shelf of rule books: the codes that a job may name, and the module that opens each."""

from __future__ import annotations

from typing import Final

EDITIONS: Final = ("nec-2017", "nec-2020", "nec-2023")
"""Offered by the desk; the newest stands last."""
NEWEST: Final = EDITIONS[-1]
SHELF: Final[dict[str, str]] = {
    **dict.fromkeys(EDITIONS, "awlmark.core.books.nec.open"),
    "bs7671-2018a2": "awlmark.core.books.bs7671.open",
}
"""Module by code; each has a function ``open_edition(code)`` that gives the book."""
CODES: Final = tuple(SHELF)
"""All that a job may name."""
