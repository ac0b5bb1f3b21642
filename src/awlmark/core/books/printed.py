"""Reading the shipped CSV tables of a rule book: printed units, a source and a status line on top.

A ``-`` is the printed dash (not allowed); a blank cell is unknown.
"""

from __future__ import annotations

import csv
import functools
from pathlib import Path
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

DASH: Final = 0.0
"""How a printed dash stands in an array of ratings or factors: nothing is allowed there."""


class Printed(msgspec.Struct, frozen=True):
    """One printed table."""

    name: str
    source: str
    status: str
    rows: tuple[dict[str, str], ...]

    def column(self, name: str) -> tuple[str, ...]:
        """The cells of one column as text."""
        return tuple(row[name] for row in self.rows)

    def numbers(self, name: str) -> NDArray[np.float64]:
        """One column as floats, shape (rows,): a dash is :data:`DASH`, a blank NaN."""
        return np.array([number(cell) for cell in self.column(name)])


def number(cell: str) -> float:
    """A table cell as a float: dash to :data:`DASH`, blank to NaN."""
    return DASH if cell == "-" else float(cell) if cell else float("nan")


@functools.cache
def read_table(folder: Path, name: str) -> Printed:
    """One shipped table of a folder by its file name without ``.csv``."""
    text = (folder / f"{name}.csv").read_text(encoding="utf-8")
    heads = [line for line in text.splitlines() if line.startswith("#")]
    told = dict(line.lstrip("# ").split(": ", 1) for line in heads)
    head, *cells = csv.reader(line for line in text.splitlines() if not line.startswith("#"))
    rows = tuple(dict(zip(head, row, strict=True)) for row in cells)
    return Printed(name, told["source"], told["status"], rows)


def table_names(folder: Path) -> tuple[str, ...]:
    """Every shipped table of a folder."""
    return tuple(sorted(path.stem for path in folder.glob("*.csv")))
