"""The example prices a new job starts with; the job keeps its own copy."""

from __future__ import annotations

import csv
import functools
from pathlib import Path


@functools.cache
def example_hours() -> dict[str, float]:
    """Hours of one person by kind of part; common practice, from memory. Callers must not change the dictionary."""
    return {row["kind"]: float(row["hours"]) for row in _rows("labour.csv")}


@functools.cache
def example_prices() -> dict[str, str]:
    """Invented prices by key, decimal text. Callers must not change the dictionary."""
    return {row["key"]: row["each"] for row in _rows("prices.csv")}


def _rows(name: str) -> list[dict[str, str]]:
    text = (Path(__file__).parent / name).read_text(encoding="utf-8")
    return list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))
