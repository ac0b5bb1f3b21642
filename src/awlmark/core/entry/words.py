"""Every first word that can be typed, from words.csv: reading, the card behind F1 and docs/words.md come from it."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.entry.word import Word
from awlmark.core.shipped import shipped_rows

DECISIONS: Final = (
    ("48a", "charger nameplate"),
    ("6 cu, 4 al", "gauge and metal of the conductor"),
    ("6 nm, 3/4 emt, pvc40", "method, and size, of the section under the awl"),
    ("14-50, hardwired", "how the charger is connected"),
    ("48a 60ft emt", "a whole quote on an empty tape"),
    ("[ and ]", "previous and next mark, while the Entry is empty"),
)
"""What can be typed beside those words: decisions that name themselves."""


@functools.cache
def words(code: str = "") -> tuple[Word, ...]:
    """Every word, in the order of the work; those that one rule book has, where its code is told."""
    if code:
        return tuple(word for word in words() if code.startswith(word.book))
    return tuple(
        Word(
            row["name"], row["stage"], row["help"], row["example"], row["reader"], tuple(row["others"].split()),
            row["alone"] == "yes", tuple(filter(None, row["choices"].split("|"))), row["book"],
        )
        for row in shipped_rows(__file__, "words.csv")
    )  # fmt: skip


@functools.cache
def by_name(code: str = "") -> dict[str, Word]:
    """Words by every name they have; those that one rule book has, where its code is told."""
    return {name: word for word in words(code) for name in word.names}


def card() -> list[tuple[str, str]]:
    """What can be typed, with an example first and what it is for, in the order of the work."""
    told = [
        (word.example, word.help + (f" (also {', '.join(word.others)})" if word.others else "")) for word in words()
    ]
    return [*DECISIONS, *told]


def listed() -> str:
    """The same as the page docs/words.md."""
    head = (
        "# What can be typed\n\nMade from src/awlmark/core/entry/words.csv.\n\n"
        "| such as | what it is for |\n| --- | --- |\n"
    )
    return head + "".join(f"| `{example}` | {told} |\n" for example, told in card())
