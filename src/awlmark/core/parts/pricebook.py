"""The example prices a new job starts with; the job keeps its own copy."""

from __future__ import annotations

import csv
import functools
from pathlib import Path


@functools.cache
def example_prices() -> dict[str, str]:
    """Invented prices by key, decimal text. Callers must not change the dictionary."""
    text = (Path(__file__).parent / "prices.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return {row["key"]: row["each"] for row in rows}
