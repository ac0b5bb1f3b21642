"""The example prices a new job starts with; the job keeps its own copy."""

from __future__ import annotations

import functools

from awlmark.core.shipped import shipped_rows


@functools.cache
def example_hours() -> dict[str, float]:
    """Hours of one person by kind of part; common practice, from memory. Callers must not change the dictionary."""
    return {row["kind"]: float(row["hours"]) for row in shipped_rows(__file__, "labour.csv")}


@functools.cache
def example_prices() -> dict[str, str]:
    """Invented prices by key, decimal text. Callers must not change the dictionary."""
    return {row["key"]: row["each"] for row in shipped_rows(__file__, "prices.csv")}
