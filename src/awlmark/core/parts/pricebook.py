"""The example prices a new job starts with; the job keeps its own copy."""

from __future__ import annotations

import csv
import functools
from importlib import resources


@functools.cache
def example_prices() -> dict[str, str]:
    """Invented prices by key, decimal text. Callers must not change the dictionary."""
    text = (resources.files("awlmark.core.parts") / "prices.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    return {row["key"]: row["each"] for row in rows}
