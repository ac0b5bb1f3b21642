"""The shipped tables of the American book."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from awlmark.core.books.printed import DASH, Printed, number, read_table, table_names

__all__ = ["DASH", "FOLDER", "Printed", "names", "number", "printed"]

FOLDER: Final = Path(__file__).parent / "tables"


def printed(name: str) -> Printed:
    """One shipped table by its file name without ``.csv``."""
    return read_table(FOLDER, name)


def names() -> tuple[str, ...]:
    """Every shipped table."""
    return table_names(FOLDER)
