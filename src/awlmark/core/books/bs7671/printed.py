"""The shipped tables of the British book."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from awlmark.core.books.printed import Printed, read_table, table_names

FOLDER: Final = Path(__file__).parent / "tables"


def printed(name: str) -> Printed:
    """One shipped table by its file name without ``.csv``."""
    return read_table(FOLDER, name)


def names() -> tuple[str, ...]:
    """Every shipped table."""
    return table_names(FOLDER)
