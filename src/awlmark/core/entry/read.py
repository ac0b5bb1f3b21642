"""Reading what is typed in the Entry: a leg, a decision, or a whole quote, as one edit of the job."""

from __future__ import annotations

import re
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.books.book import Book
from awlmark.core.entry.circuit import standard_a
from awlmark.core.entry.legs import ENDS, KINDS, end_leg, method_named
from awlmark.core.entry.nearest import nearest
from awlmark.core.entry.plain import plain_words, whole_entry
from awlmark.core.entry.word import Reading, Typed
from awlmark.core.entry.words import by_name, every_name
from awlmark.core.errors import InputError
from awlmark.core.job import edit as e
from awlmark.core.job.book_pins import family
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import PLACES, Leg
from awlmark.core.job.model import CHARGE_RANGE_A, Job
from awlmark.core.job.selection import Spot
from awlmark.core.job.values import check_values
from awlmark.core.quantities import (
    FOOT_M,
    read_length,
    read_number,
)
from awlmark.core.shelf import CODES

METALS: Final = {"cu": "cu", "copper": "cu", "al": "al", "aluminium": "al", "aluminum": "al"}
OUTLETS: Final = ("outlet", "receptacle", "socket", "plug")
"""Words for an outlet; the usual one where none is named."""
PLAIN: Final = ("general:scribe_words", "general:leg_words", "general:place_words")
"""Readers whose words are said in plain ways too: lengths, places, pipe or cable."""
FINISHED: Final = "finished"
"""A wall that is closed: cable is fished inside it."""
_POWER: Final = re.compile(r"(\d+(?:\.\d+)?)\s*kw", re.ASCII)
MORE_LINES_KW: Final = 8.0
"""Above this a charger takes more lines than one."""
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
    try:
        return _read(text, job, spot)
    except InputError as problem:
        names = open_book(job.code).words.fields
        if problem.field not in names:
            raise
        raise InputError(names[problem.field], problem.problem, problem.accepted) from problem


def _read(text: str, job: Job, spot: Spot | None) -> Reading:
    """One entry, its fields named as they are declared."""
    text = whole_entry(text.strip())
    words = text.lower().replace("↑", "up ").replace("↓", "down ").replace("←", "left ").replace("→", "right ").split()
    if not words:
        raise InputError("entry", "Nothing typed.", open_book(job.code).words.hint)
    # Behind a leg's number another word may stand, which has readings of its own: mount inside.
    inner = words[2:3] if words[0] == "leg" else []
    known = by_name(job.code)
    own = bool(inner) and inner[0] in known and inner[0] != "place"
    if words[0] in known and known[words[0]].reader in PLAIN and not own:
        words = [words[0], *plain_words(" ".join(words[1:]))]
    typed = Typed(words, text, job, spot or Spot())
    if len(words) == 1 and words[0] in ENDS:
        says, edits = end_leg(ENDS[words[0]], job)
        return _edited(says, job, *edits)
    word = known.get(words[0])
    if word is None and words[0] in every_name():
        raise InputError(words[0], f"{open_book(job.code).title} has no '{words[0]}'.", open_book(job.code).words.hint)
    if word is None or (len(words) == 1 and words[0] in (*KINDS, *OUTLETS)):
        return _decision(typed)
    if len(words) == 1 and not word.alone:
        raise InputError(word.name, "There is more to say.", f"such as {word.example}")
    found = word.read(typed)
    return found if isinstance(found, Reading) else _edited(found[0], job, *found[1])


def _edited(says: str, job: Job, *edits: Put) -> Reading:
    return Reading(says, e.put(job, *edits))


def _decision(typed: Typed) -> Reading:
    """Charger, wire, pipe and method in any order; with a length on an empty tape, a whole quote."""
    text, job, spot = typed.text, typed.job, typed.spot
    words = plain_words(text)
    book = open_book(job.code)
    edits: list[Put] = []
    says: list[str] = []
    usual: list[str] = []
    """What was said by its kind alone: a quote takes the usual one, and guesses it."""
    method = trade = length = place = mount = None
    if re.fullmatch(r"\d+[\d/]*\s+awg", " ".join(words)):
        words = [words[0]]
    for at, word in enumerate(words):
        amps = _AMPS.fullmatch(word)
        following = words[at + 1] if at + 1 < len(words) else ""
        if amps:
            value = read_number(amps[1], "charger nameplate", *CHARGE_RANGE_A)
            edits.append(Put("charger.nameplate_a", value))
            says.append(f"charger {value:g} A")
        elif book.power_v and (power := _POWER.fullmatch(word)):
            edits += _of_power(float(power[1]), job, book)
            says.append(f"charger {word}")
        elif word in book.systems and len(words) == 1:
            edits.append(Put("supply.system", word))
            says.append(f"{word} V")
        elif (word, following) in (("3", "phase"), ("1", "phase")) and book.power_v:
            edits.append(Put("supply.system", list(book.power_v)[word == "3"]))
            says.append(f"{word} phase")
        elif word == "phase" and at and book.power_v:
            continue
        elif device := re.fullmatch(rf"({'|'.join(book.curves) or '(?!)'})(\d+)", word):
            edits += [Put("circuit.device", device[1]), Put("circuit.breaker_a", standard_a(device[2], book))]
            says.append(f"device {word}")
        elif word in OUTLETS and following in book.circuit.connections:
            continue  # named by the word behind it
        elif word in book.circuit.connections or (word in OUTLETS and book.goods.forks):
            connection = word if word in book.circuit.connections else book.goods.forks[0]
            edits.append(Put("charger.connection", connection))
            usual += ["charger.connection"] if word in OUTLETS else []
            says.append(connection if connection == "hardwired" else f"outlet {connection}")
        elif word in METALS:
            edits.append(Put("circuit.material", METALS[word]))
            says.append(word)
        elif f"{word}-{following}" in book.methods:
            method = f"{word}-{following}"
        elif at and f"{words[at - 1]}-{word}" in book.methods:
            continue  # named with the word before it
        elif method_named(word, book):
            method = method_named(word, book)
            usual += ["legs[leg-1].method"] if word in KINDS else []
        elif word in book.insulations:
            edits.append(Put("circuit.insulation", word))
            says.append(word.upper())
        elif following and book.short_methods and re.fullmatch(r"[\d.]+", word) and _cable_before(following, book):
            size = _size_of(word, _cable_before(following, book) or "", book)
            edits.append(Put("circuit.size", size))
            says.append(book.print_size(size))
        elif word in book.sizes and (len(words) == 1 or (following and _wants_gauge(following, book))):
            edits.append(Put("circuit.size", word))
            says.append(book.print_size(word))
        elif not job.legs and length is None and re.search(r"['′]|ft|[\d.]m$", word):
            length = read_length(word, "length", job.units)
        elif word in PLACES and not job.legs and place is None:
            place = word
        elif word == FINISHED and not job.legs:
            mount = "fished"
        elif at and book.short_methods and (cable := _cable_before(words[at - 1], book)) and re.match(r"\d", word):
            size = _size_of(word, cable, book)
            edits.append(Put("circuit.size", size))
            says.append(book.print_size(size))
        elif following and (piped := method_named(following, book)) and not book.methods[piped].cable:
            trade = book.read_trade(word, book.trade_sizes_of(book.methods[piped]), "trade size")
        elif len(words) == 1 and len(job.legs) == 1 and re.fullmatch(r"\d.*(?:ft|in|m|['′\"″])", word):
            return read_entry(f"leg 1 {word}", job, spot)
        else:
            raise _unknown(word, text, job)
    if length is not None:
        return _quote(job, edits, says, usual, Leg(
            id="leg-1", direction="right", length_m=length, end="charger", method=method, trade_size=trade,
            place=place, mount=mount,
        ))  # fmt: skip
    if place is not None:
        raise InputError(
            "entry", f"'{place}' wants a length on an empty tape.", f"such as {book.words.decisions[-1][0]}"
        )
    if method is not None:
        edits += _method_edits(job, spot, method, trade)
        says.append(f"{trade + ' ' if trade else ''}{book.methods[method].name}")
    if not edits:
        raise InputError("entry", f"Can't read '{text[:60]}'.", book.words.hint)
    return _edited(", ".join(says), job, *edits)


def _of_power(kilowatts: float, job: Job, book: Book) -> list[Put]:
    """Charging current of a power, on three phases where one cannot carry it; a usual setting where it is near one."""
    one, *more = book.power_v
    three = bool(more) and (kilowatts > MORE_LINES_KW or job.supply.system in more)
    system = more[0] if three else one
    amps = 1000 * kilowatts / book.power_v[system]
    near = min(book.circuit.settings_a, key=lambda setting: abs(setting - amps))
    value = near if abs(near - amps) <= 0.03 * amps else round(amps, 2)
    return [Put("charger.nameplate_a", value), Put("supply.system", system)]


def _unknown(word: str, text: str, job: Job) -> InputError:
    """What to say of a word that cannot be used, with the nearest ones that can."""
    word_typed = word if word in text.lower() else text.lower()
    told = "" if text.lower() == word_typed else f" in '{text[:60]}'"
    foreign = _of_another_book(word, job)
    if foreign is not None:
        return foreign
    near = nearest(word, job)
    problem = f"Can't read '{word_typed[:40]}'{told}."
    length = re.fullmatch(r"\d.*(?:ft|in|m|['′\"″])", word)
    if length and job.legs:
        accepted = f"its leg too, such as leg 2 {word}, or a direction, such as right {word}"
    else:
        hint = open_book(job.code).words.hint
        accepted = f"{' or '.join(near)}; or {hint}" if near else hint
    return InputError("entry", problem, accepted)


def _of_another_book(word: str, job: Job) -> InputError | None:
    """A connection or a method that only the other rule books know."""
    book = open_book(job.code)
    for other in (open_book(code) for code in CODES if family(code) != family(job.code)):
        if word in other.circuit.connections:
            return InputError("connection", f"{word} is not used here.", ", ".join(book.circuit.connections))
        if word in other.methods:
            return InputError("method", f"{word} is not used here.", ", ".join(book.chips))
    return None


def _cable_before(word: str, book: Book) -> str | None:
    """The cable that a word names, behind which its size may stand."""
    method = method_named(word, book)
    return method if method is not None and book.methods[method].cable else None


def _size_of(word: str, cable: str, book: Book) -> str:
    """A size that a cable is made in.

    Raises
    ------
    InputError
        Saying what it is made in.
    """
    made = tuple(book.cable_ground.get(cable, book.sizes))
    try:
        return book.read_size(word, made, "conductor size")
    except InputError:
        name = book.methods[cable].short or book.methods[cable].name
        raise InputError("conductor size", f"Can't read '{word}'.", f"{name} is made in {' '.join(made)}") from None


def _wants_gauge(following: str, book: Book) -> bool:
    """Whether a number before this word is a gauge: a metal or a cable, not a raceway (that takes a trade size)."""
    method = method_named(following, book)
    return following in METALS or following == "awg" or (method is not None and book.methods[method].cable)


def _method_edits(job: Job, spot: Spot, method: str, trade: str | None) -> list[Put]:
    book = open_book(job.code)
    legs = spot.section_legs or tuple(leg.id for leg in job.legs)
    if not legs:
        raise InputError("method", "There is no leg yet to run it on.", "a first leg such as up 3")
    kind = book.methods[method]
    if kind.cable and book.run.one_piece and not any(leg.method for leg in job.legs):
        legs = tuple(leg.id for leg in job.legs)
    size = None if trade is None else book.read_trade(trade, book.trade_sizes_of(kind), "trade size")
    edits = []
    for leg_id in legs:
        edits += [Put(f"legs[{leg_id}].method", method), Put(f"legs[{leg_id}].trade_size", size)]
    return edits


def _quote(job: Job, edits: list[Put], says: list[str], usual: list[str], leg: Leg) -> Reading:
    """A quote from nothing: one straight leg to the charger; everything assumed is remembered as guessed."""
    quoted = e.put(e.add_leg(job, leg), *edits)
    told = {"direction": None, "place": leg.place, "method": leg.method}
    guessed = tuple(f"legs[leg-1].{field}" for field, value in told.items() if value is None)
    guessed = tuple(dict.fromkeys((*usual, *guessed)))
    long = f"{leg.length_m / FOOT_M:g} ft" if job.units == "ft" else f"{leg.length_m:g} m"
    pipe = f"{leg.trade_size} {leg.method}" if leg.trade_size else leg.method
    closed = "fished in a finished wall" if leg.mount == "fished" else None
    said = ", ".join(part for part in (*says, long, leg.place, closed, pipe) if part)
    return Reading(f"quote: {said}", check_values(replace(quoted, guessed=guessed)))
