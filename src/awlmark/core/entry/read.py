"""Reading what is typed in the Entry: a leg, a decision, or a whole quote, as one edit of the job."""

from __future__ import annotations

import re
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.books.book import Method
from awlmark.core.entry.legs import ENDS, end_leg
from awlmark.core.entry.word import Reading, Typed
from awlmark.core.entry.words import by_name
from awlmark.core.errors import InputError
from awlmark.core.job import edit as e
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import PLACES, Leg
from awlmark.core.job.model import CHARGE_RANGE_A, Job
from awlmark.core.job.selection import Spot
from awlmark.core.job.values import check_values
from awlmark.core.quantities import (
    FOOT_M,
    print_gauge,
    read_length,
    read_number,
    read_trade_size,
)

METALS: Final = {"cu": "cu", "copper": "cu", "al": "al", "aluminium": "al", "aluminum": "al"}
HINT: Final = "a leg such as up 3 or right 22 6, or a decision such as 48a, 6 cu, 3/4 emt, breaker 60"
_AMPS: Final = re.compile(r"(\d+(?:\.\d+)?)\s*a", re.ASCII)


def read_entry(text: str, job: Job, spot: Spot | None = None) -> Reading:
    """Read one entry.

    Parameters
    ----------
    text : str
        What was typed: ``up 3``, ``t 16in stone lb``, ``d 64``, ``k``, ``48a``, ``6 nm``, ``3/4 emt``, ``ambient 45C``.
    job : Job
        The job it edits.
    spot : Spot, optional
        Leg, section and part in hand.

    Raises
    ------
    InputError
        When it cannot be read, or would leave a value out of range; the text can stay where it is.
    """
    words = (
        text.strip()
        .lower()
        .replace("↑", "up ")
        .replace("↓", "down ")
        .replace("←", "left ")
        .replace("→", "right ")
        .split()
    )
    if not words:
        raise InputError("entry", "Nothing typed.", HINT)
    typed = Typed(words, text.strip(), job, spot or Spot())
    if len(words) == 1 and words[0] in ENDS:
        says, edits = end_leg(ENDS[words[0]], job)
        return _edited(says, job, *edits)
    word = by_name().get(words[0])
    if word is None:
        return _decision(typed)
    if len(words) == 1 and not word.alone:
        raise InputError(word.name, "There is more to say.", f"such as {word.example}")
    found = word.read(typed)
    return found if isinstance(found, Reading) else _edited(found[0], job, *found[1])


def _edited(says: str, job: Job, *edits: Put) -> Reading:
    return Reading(says, e.put(job, *edits))


def _decision(typed: Typed) -> Reading:
    """Charger, wire, pipe and method in any order; with a length on an empty tape, a whole quote."""
    words, text, job, spot = typed
    book = open_book(job.code)
    edits: list[Put] = []
    says: list[str] = []
    method = trade = length = place = None
    plain = " ".join(words)
    if re.fullmatch(r"\d+[\d/]*\s+awg", plain):
        words = [words[0]]
    for at, word in enumerate(words):
        amps = _AMPS.fullmatch(word)
        if amps:
            value = read_number(amps[1], "charger nameplate", *CHARGE_RANGE_A)
            edits.append(Put("charger.nameplate_a", value))
            says.append(f"charger {value:g} A")
        elif word in book.circuit.connections:
            edits.append(Put("charger.connection", word))
            says.append(word)
        elif word in METALS:
            edits.append(Put("circuit.material", METALS[word]))
            says.append(word)
        elif word in book.methods:
            method = word
        elif word in book.insulations:
            edits.append(Put("circuit.insulation", word))
            says.append(word.upper())
        elif word in book.sizes and (
            len(words) == 1 or (at + 1 < len(words) and _wants_gauge(words[at + 1], book.methods))
        ):
            edits.append(Put("circuit.size", word))
            says.append(print_gauge(word))
        elif not job.legs and length is None and re.search(r"['′]|ft|[\d.]m$", word):
            length = read_length(word, "length", job.units)
        elif word in PLACES and not job.legs and place is None:
            place = word
        elif at + 1 < len(words) and words[at + 1] in book.methods and not book.methods[words[at + 1]].cable:
            trade = read_trade_size(word, book.trade_sizes_of(book.methods[words[at + 1]]))
        else:
            told = "" if len(words) == 1 else f" in '{text.strip()[:60]}'"
            raise InputError("entry", f"Can't read '{word[:40]}'{told}.", HINT)
    if length is not None:
        return _quote(job, edits, says, length, method, trade, place)
    if place is not None:
        raise InputError("entry", f"'{place}' wants a length on an empty tape.", "such as 48a 220ft buried pvc40")
    if method is not None:
        edits += _method_edits(job, spot, method, trade)
        says.append(f"{trade + ' ' if trade else ''}{book.methods[method].name}")
    return _edited(", ".join(says), job, *edits)


def _wants_gauge(following: str, methods: dict[str, Method]) -> bool:
    """Whether a number before this word is a gauge: a metal or a cable, not a raceway (that takes a trade size)."""
    return following in METALS or following == "awg" or (following in methods and methods[following].cable)


def _method_edits(job: Job, spot: Spot, method: str, trade: str | None) -> list[Put]:
    book = open_book(job.code)
    legs = spot.section_legs or tuple(leg.id for leg in job.legs)
    if not legs:
        raise InputError("method", "There is no leg yet to run it on.", "a first leg such as up 3")
    kind = book.methods[method]
    size = None if trade is None else read_trade_size(trade, book.trade_sizes_of(kind))
    edits = []
    for leg_id in legs:
        edits += [Put(f"legs[{leg_id}].method", method), Put(f"legs[{leg_id}].trade_size", size)]
    return edits


def _quote(
    job: Job, edits: list[Put], says: list[str], length: float, method: str | None, trade: str | None, place: str | None
) -> Reading:
    """A quote from nothing: one straight leg to the charger; everything assumed is remembered as guessed."""
    leg = Leg(
        id="leg-1", direction="right", length_m=length, end="charger", method=method, trade_size=trade, place=place
    )
    quoted = e.put(e.add_leg(job, leg), *edits)
    told = {"direction": None, "place": place, "method": method}
    guessed = tuple(f"legs[leg-1].{field}" for field, value in told.items() if value is None)
    long = f"{length / FOOT_M:g} ft" if job.units == "ft" else f"{length:g} m"
    pipe = f"{trade} {method}" if trade else method
    said = ", ".join(part for part in (*says, long, place, pipe) if part)
    return Reading(f"quote: {said}", check_values(replace(quoted, guessed=guessed)))
