"""Every first word that can be typed, by rule book: reading, suggestions, the card behind F1 and docs/words.md."""

from __future__ import annotations

import functools
from typing import Final

from awlmark.core.books import open_book
from awlmark.core.entry.word import Word
from awlmark.core.job.book_pins import family
from awlmark.core.job.model import Job
from awlmark.core.shelf import CODES
from awlmark.core.shipped import shipped_rows

ARROWS: Final = ("[ and ]", "previous and next mark, while the Entry is empty")


AWAY: Final = "-"
"""Stands for the help of a word that a family has not."""


@functools.cache
def words(code: str) -> tuple[Word, ...]:
    """Every word that can be typed under a rule book, in the order of the work.

    A family's own row of the same name stands in its place, and its blanks keep what stands in words.csv.
    """
    common = {row["name"]: row for row in shipped_rows(__file__, "words.csv")}
    own = open_book(code).words.typed
    for row in shipped_rows(__file__, own) if own else ():
        common[row["name"]] = {**common.get(row["name"], {}), **{key: text for key, text in row.items() if text}}
    return tuple(
        Word(
            row.get("called") or row["name"], row.get("stage", ""), row["help"], row["example"], row["reader"],
            tuple(row.get("others", "").split()), row["alone"] == "yes",
            tuple(filter(None, row.get("choices", "").split("|"))),
            (row["name"],) if row.get("called") else (),
        )
        for row in common.values() if row["help"] != AWAY
    )  # fmt: skip


@functools.cache
def by_name(code: str) -> dict[str, Word]:
    """Words by every name they have under a rule book; a word's own name goes before another's second one."""
    known = words(code)
    seconds = {name: word for word in known for name in (*word.others, *word.kept)}
    return seconds | {word.name: word for word in known}


@functools.cache
def every_name() -> frozenset[str]:
    """Names of the words of every rule book."""
    return frozenset(name for code in CODES for name in by_name(code))


def such(job: Job, name: str) -> str:
    """What would be accepted behind a word: ``such as cord 5m``."""
    return f"such as {by_name(job.code)[name].example}"


def card(code: str) -> list[tuple[str, str]]:
    """What can be typed under a book, with an example first and what it is for, in the order of the work."""
    told = [
        (word.example, word.help + (f" (also {', '.join(word.others)})" if word.others else ""))
        for word in words(code)
    ]  # fmt: skip
    return [*open_book(code).words.decisions, ARROWS, *told]


def listed() -> str:
    """The same as the page docs/words.md: every family of books with its own."""
    head = "# What can be typed\n\nMade from src/awlmark/core/entry/words.csv and words_bs7671.csv.\n"
    for own in dict.fromkeys(family(code) for code in CODES):
        code = next(code for code in CODES if family(code) == own)
        head += f"\n## {open_book(code).words.law}\n\n| such as | what it is for |\n| --- | --- |\n"
        head += "".join(f"| `{example}` | {told} |\n" for example, told in card(code))
    return head
