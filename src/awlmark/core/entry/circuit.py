"""What is typed to pin a link of the circuit: breaker, sizes, drop limit, service, setting."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import open_book
from awlmark.core.books.book import Book
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import CHARGE_RANGE_A
from awlmark.core.quantities import read_number


def _number_or_open(words: list[str], field: str) -> str | None:
    if len(words) != 2:
        raise InputError(field, "One value belongs behind it.", f"{field} and a value, or {field} open")
    return None if words[1] == "open" else words[1]


def breaker_words(typed: Typed) -> Told:
    """``breaker 60``, ``breaker open``: the rating, a standard one."""
    words, job = typed.words, typed.job
    name = open_book(job.code).words.breaker
    value = _number_or_open(words, words[0])
    rating = None if value is None else read_number(value, name, float(open_book(job.code).ratings_a[0]), 400, "a")
    if rating is not None and rating not in open_book(job.code).ratings_a:
        ratings = ", ".join(f"{known:g}" for known in open_book(job.code).ratings_a)
        raise InputError(name, f"{rating:g} A is no standard rating.", f"one of {ratings}")
    return f"{name} {'open' if rating is None else f'{rating:g} A'}", (Put("circuit.breaker_a", rating),)


def standard_a(text: str, book: Book) -> float:
    """A rating that devices are made in [A].

    Raises
    ------
    InputError
        Saying which those are.
    """
    known = [f"{rating:g}" for rating in book.ratings_a]
    if text not in known:
        raise InputError(book.words.breaker, f"{text} A is no standard rating.", "one of " + ", ".join(known))
    return float(text)


def ground_words(typed: Typed) -> Told:
    """``ground 8``, ``ground open``: the equipment ground's gauge."""
    words, job = typed.words, typed.job
    name = open_book(job.code).words.ground
    value = _number_or_open(words, words[0])
    size = None if value is None else read_size(value, job, f"{name} size")
    return f"{name} {open_book(typed.job.code).print_size(size) if size else 'open'}", (
        Put("circuit.ground_size", size),
    )


def size_words(typed: Typed) -> Told:
    """``size 4``, ``size open``: gauge of the conductors."""
    words, job = typed.words, typed.job
    value = _number_or_open(words, "size")
    size = None if value is None else read_size(value, job)
    return f"conductor {open_book(typed.job.code).print_size(size) if size else 'open'}", (Put("circuit.size", size),)


def drop_words(typed: Typed) -> Told:
    """``drop 3%``: most that the branch may drop."""
    words = typed.words
    value = read_number(" ".join(words[1:]), "drop limit", 0.1, 20, "%")
    return f"drop limit {value:g} %", (Put("circuit.max_drop_percent", value),)


def service_words(typed: Typed) -> Told:
    """``service 150``: rating of the service."""
    words = typed.words
    value = read_number(" ".join(words[1:]), "service rating", 15, 4000, "a")
    return f"service {value:g} A", (Put("supply.service_a", value),)


def setting_words(typed: Typed) -> Told:
    """``set 40``, ``set 40 locked``, ``set open``: what the charger is set to."""
    words, text = typed.words, typed.text
    if words[1:] == ["open"]:
        return "setting open", (
            Put("charger.setting_a", None),
            Put("charger.setting_restricted", False),
        )
    if words[1:2] == ["by"]:
        who = text.strip().split(None, 2)[2:]
        if not who:
            raise InputError("set by", "Who set it?", "a name and a date, such as set by R. Vale 2026-03-01")
        return f"set by {who[0][:60]}", (Put("charger.set_by", who[0][:60]),)
    locked = words[-1] == "locked"
    value = read_number(" ".join(words[1 : len(words) - locked]), "charger setting", *CHARGE_RANGE_A, "a")
    edits = [Put("charger.setting_a", value), Put("charger.setting_restricted", locked)]
    return f"set {value:g} A{', locked' if locked else ''}", tuple(edits)


CIRCUIT_WORDS: Final = {
    "breaker": breaker_words,
    "ground": ground_words,
    "size": size_words,
    "drop": drop_words,
    "service": service_words,
    "set": setting_words,
}
