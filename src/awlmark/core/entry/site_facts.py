"""What is typed of the circuit and the unit that is one value each: a word, and the field it fills."""

from __future__ import annotations

from typing import Any, Final

from awlmark.core.books import open_book
from awlmark.core.entry.bundles import read_bundle
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import OCCUPANCIES, PREFERENCES
from awlmark.core.quantities import read_number


def choice(path: str, known: tuple[str, ...], *, opens: bool = False) -> Reader:
    """A word that takes one of a few values; ``open`` takes it back where it may be."""

    def read(typed: Typed) -> Told:
        words = typed.words
        value = " ".join(words[1:])
        if value not in (*known, *(("open",) if opens else ())):
            raise InputError(words[0], f"Can't use '{value[:40]}'.", ", ".join((*known, *(("open",) if opens else ()))))
        return " ".join(words), (Put(path, None if value == "open" else value),)

    return read


def yes_no(path: str, *, opens: bool = True, skip: int = 1) -> Reader:
    """A word that takes yes or no; nothing behind it is a yes, ``open`` takes it back."""
    known: dict[str, bool | None] = {"": True, "yes": True, "no": False} | ({"open": None} if opens else {})

    def read(typed: Typed) -> Told:
        words = typed.words
        value = " ".join(words[skip:])
        if value not in known:
            accepted = ", ".join(word for word in known if word)
            raise InputError(" ".join(words[:skip]), f"Can't use '{value[:40]}'.", accepted)
        return " ".join(words), (Put(path, known[value]),)

    return read


def unit_words(typed: Typed) -> Told:
    """``unit breaker 60``, ``unit pigtail 8``, ``unit listed``, ``unit unvented``, ``unit guarded``: of the charger."""
    words, job = typed.words, typed.job
    what, rest = (words[1] if len(words) > 1 else ""), " ".join(words[2:])
    facts = ("listed", "unvented", "exports", "guarded", "cabinet")
    if what in facts:
        return yes_no(f"charger.{what}", opens=what != "cabinet", skip=2)(typed)
    if what == "breaker":
        most = None if rest == "open" else read_number(rest, "the unit's largest breaker", 15, 400, "a")
        return " ".join(words), (Put("charger.most_breaker_a", most),)
    if what == "pigtail":
        size = None if rest in ("none", "open") else read_size(rest, job, "gauge of its leads")
        return " ".join(words), (Put("charger.pigtail", size),)
    if what == "cord":
        known = {"flexible": True, "building cable": False, "open": None}
        if rest not in known:
            raise InputError("unit cord", f"Can't use '{rest[:40]}'.", ", ".join(known))
        return " ".join(words), (Put("charger.flexible", known[rest]),)
    raise InputError(
        "unit", f"Can't read '{' '.join(words[1:])[:40]}'.",
        f"{open_book(job.code).words.plate_facts}{', '.join(facts)} with yes or no",
    )  # fmt: skip


def plug_words(typed: Typed) -> Told:
    """``plug 14-50``: the plug on the unit's cord, as it is marked."""
    words = typed.words
    value = " ".join(words[1:])
    known = (*open_book(typed.job.code).circuit.connections[1:], "10-30", "10-50", "tt-30", "l6-30")
    if value not in (*known, "open"):
        raise InputError("plug", f"Can't use '{value[:40]}'.", ", ".join((*known, "open")))
    return " ".join(words), (Put("charger.plug", None if value == "open" else value),)


def exists_words(typed: Typed) -> Told:
    """``exists plain``, ``exists gfci``, ``exists none``: the breaker that is there already."""
    words = typed.words
    value = " ".join(words[1:])
    # What guards against faults to earth is a question of its own where the book knows kinds of it.
    known = {"plain": "plain", "gfci": "gfci", "none": None}
    if open_book(typed.job.code).curves:
        del known["gfci"]
    if value not in known:
        raise InputError("exists", f"Can't use '{value[:40]}'.", ", ".join(known))
    return " ".join(words), (Put("existing.breaker", known[value]),)


def others_words(typed: Typed) -> Told:
    """``others 3x12 thwn-2, 1x12 ground``, ``others 1x0.55in cable``, ``others none``: what else is in the pipe."""
    words, job = typed.words, typed.job
    plain = " ".join(words[1:])
    if plain in ("none", "all", "open"):
        edits = [Put("circuit.others_told", plain != "open")]
        if plain == "none":
            edits += [Put("circuit.others", ()), Put("circuit.extra_ccc", 0)]
        return " ".join(words), tuple(edits)
    found = tuple(read_bundle(part.strip(), job) for part in plain.split(",") if part.strip())
    if not found:
        accepted = "such as others 3x12 thwn-2, 1x12 ground; or others none"
        raise InputError("others", "What else is in the pipe?", accepted)
    return " ".join(words), (Put("circuit.others", found), Put("circuit.others_told", True))


def extra_words(typed: Typed) -> Told:
    """``extra 3``: current-carrying conductors beside this circuit's whose gauge nobody knows."""
    words = typed.words
    count = int(read_number(" ".join(words[1:]), "extra conductors", 0, 100))
    return " ".join(words), (Put("circuit.extra_ccc", count),)


FACT_WORDS: Final[dict[str, Any]] = {
    "units": choice("units", ("ft", "m")),
    "occupancy": choice("occupancy", OCCUPANCIES),
    "prefer": choice("circuit.prefer", PREFERENCES),
    "tail": yes_no("circuit.copper_tail", opens=False),
    "compact": yes_no("circuit.compact", opens=False),
    "duplex": yes_no("charger.duplex"),
    "living": yes_no("charger.living"),
    "plug": plug_words,
    "unit": unit_words,
    "exists": exists_words,
    "others": others_words,
    "extra": extra_words,
}
"""First words of entries about the circuit and the unit, and what reads them."""
