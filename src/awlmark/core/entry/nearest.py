"""Words that can be typed, and those nearest to one that cannot be read."""

from __future__ import annotations

import difflib
import functools
import re
from typing import NamedTuple

from awlmark.core.books import open_book
from awlmark.core.entry.legs import ENDS, WALLS, WAYS
from awlmark.core.entry.words import by_name, words
from awlmark.core.job.leg import PLACES
from awlmark.core.job.model import Job

_WORD = re.compile(r"[^\W\d_][\w/-]*")
MOST = 3
IMPERIAL = {"awg", "feet", "foot"}


class Stray(NamedTuple):
    """A word of an entry that nothing knows, where it stands, and the nearest known ones."""

    start: int
    end: int
    near: tuple[str, ...]


@functools.lru_cache(8)
def _offered(code: str) -> frozenset[str]:
    """Known words as a book calls them: without what is only read for the sake of another country's jobs."""
    book = open_book(code)
    hidden = {name for word in words(code) for name in word.kept} | set(book.words.places)
    hidden |= set() if book.units == "ft" else IMPERIAL
    return (_known(code) - hidden) | frozenset(book.words.places.values()) | {word.name for word in words(code)}


@functools.lru_cache(8)
def _known(code: str) -> frozenset[str]:
    book = open_book(code)
    examples = {token.lower() for word in words(code) for token in _WORD.findall(word.example)}
    choices = {token for word in words(code) for said in word.choices for token in _WORD.findall(said)}
    own = {*book.methods, *book.insulations, *book.sizes, *book.circuit.connections}
    plain = {"copper", "aluminium", "aluminum", "cu", "al", "awg", "finished", "outlet", "plug", "pipe", "conduit",
             "amps", "amp", "feet", "foot", "miles", "kwh", "none", "yes", "no", "all"}  # fmt: skip
    return frozenset({*by_name(code), *WAYS, *ENDS, *WALLS, *PLACES, *examples, *choices, *own, *plain})


def nearest(word: str, job: Job) -> tuple[str, ...]:
    """Known words that are spelt much like one, the nearest first."""
    return _nearest(word.lower(), job.code)


@functools.lru_cache(512)
def _nearest(word: str, code: str) -> tuple[str, ...]:
    """Kept: with each key that is pressed the words before it are asked again."""
    return tuple(difflib.get_close_matches(word, _offered(code), MOST, 0.6))


def strays(text: str, job: Job) -> tuple[Stray, ...]:
    """Words of an entry that nothing knows; numbers and what hangs on them are not words."""
    from awlmark.core.entry.plain import plain_words

    known = _known(job.code)
    return tuple(
        Stray(match.start(), match.end(), nearest(match[0], job))
        for match in _WORD.finditer(text)
        if (match.start() == 0 or text[match.start() - 1].isspace())
        and match[0].lower() not in known
        and plain_words(match[0]) == [match[0].lower()]
    )
