"""The shelf of rule books: the codes that a job may name, and the module that opens each."""

from __future__ import annotations

from typing import Final

SHELF: Final[dict[str, str]] = dict.fromkeys(("nec-2017", "nec-2020", "nec-2023"), "awlmark.core.books.nec.open")
"""Module by code; each has a function ``open_edition(code)`` that gives the book. The newest edition stands last."""
EDITIONS: Final = tuple(SHELF)
NEWEST: Final = EDITIONS[-1]
