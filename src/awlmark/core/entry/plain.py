"""Plain words of the trade, put into the words that are read: ``40 amps`` is ``40a``, ``60 kwh`` is ``battery 60``."""

from __future__ import annotations

import functools
import re

from awlmark.core.shipped import shipped_rows


@functools.cache
def _rows(where: str) -> tuple[tuple[re.Pattern[str], str], ...]:
    """What is said and what it means, compiled, of whole entries or of parts."""
    return tuple(
        (re.compile(rf"(?<!\S)(?:{row['said']})(?!\S)", re.IGNORECASE), row["means"])
        for row in shipped_rows(__file__, "plain_words.csv")
        if row["where"] == where
    )


def whole_entry(text: str) -> str:
    """A whole entry in the words that are read; unchanged where no plain saying fits it."""
    plain = " ".join(text.split())
    for said, means in _rows("whole"):
        match = said.fullmatch(plain)
        if match:
            return match.expand(means)
    return text


def plain_words(text: str) -> list[str]:
    """The words of a decision or a quote, plain sayings put into words that are read, joining words left out."""
    plain = " ".join(text.lower().split())
    for said, means in _rows("part"):
        plain = said.sub(means, plain)
    return plain.split()
