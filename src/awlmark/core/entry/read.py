"""Reading what is typed in the Entry: a leg, a decision, or a whole quote, as one edit of the job."""

from __future__ import annotations

import re
from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.books.nec.edition import Method
from awlmark.core.circuit.case import CONNECTIONS
from awlmark.core.entry.circuit import CIRCUIT_WORDS
from awlmark.core.entry.legs import ENDS, WAYS, change_leg, end_leg, leg_named, new_leg, rub_leg
from awlmark.core.entry.panel import SUPPLY_WORDS
from awlmark.core.entry.parts import PARTS_WORDS
from awlmark.core.entry.place import PLACE_WORDS
from awlmark.core.entry.run import LEG_WORDS, RUN_WORDS
from awlmark.core.entry.site_facts import FACT_WORDS
from awlmark.core.entry.terminals import (
    cable_words,
    form_words,
    local_words,
    lug_words,
    raceway_words,
    seen_words,
    shared_words,
)
from awlmark.core.errors import InputError
from awlmark.core.job import edit as e
from awlmark.core.job.edit import Put
from awlmark.core.job.leg import PLACES, Leg
from awlmark.core.job.model import CHARGE_RANGE_A, EDITIONS, Job, Overrule
from awlmark.core.job.selection import Spot
from awlmark.core.job.values import check_values
from awlmark.core.quantities import (
    FOOT_M,
    print_gauge,
    print_length,
    read_length,
    read_money,
    read_number,
    read_temperature,
    read_trade_size,
)

METALS: Final = {"cu": "cu", "copper": "cu", "al": "al", "aluminium": "al", "aluminum": "al"}
WIRE_WORDS: Final = {
    **CIRCUIT_WORDS,
    "local": local_words,
    "form": form_words,
    "seen": seen_words,
    "lug": lug_words,
    "bond": raceway_words,
    "shared": shared_words,
    "cable": cable_words,
    **FACT_WORDS,
}
BUILD_WORDS: Final = ("done", "electrician", "torque", "tight", "built", "note", "energise")
PROVE_WORDS: Final = ("read", "strike", "except", "sign", "air")
"""First words that the site's modules read; those are imported when one is typed."""
HINT: Final = "a leg such as up 3 or right 22 6, or a decision such as 48a, 6 cu, 3/4 emt, breaker 60"
_AMPS: Final = re.compile(r"(\d+(?:\.\d+)?)\s*a", re.ASCII)


class Reading(msgspec.Struct, frozen=True):
    """An entry, read: its echo in words, the name of the undo step and the job it would make."""

    says: str
    job: Job


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
    spot = spot or Spot()
    if words[0] in WAYS:
        return Reading(*new_leg(words, job))
    if words[0] == "rub":
        return Reading(*rub_leg(words, job))
    if len(words) == 1 and words[0] in ENDS:
        says, edits = end_leg(ENDS[words[0]], job)
        return _edited(says, job, *edits)
    named = {
        "leg": _one_leg,
        "ambient": _ambient, "cover": _cover, "place": _place, "price": _price, "name": _name, "code": _code,
        "overrule": _overrule, "open": _open, "run": _finish,
    }  # fmt: skip
    if words[0] in named:
        return named[words[0]](words, text, job, spot)
    if words[0] in SUPPLY_WORDS:
        says, edits = SUPPLY_WORDS[words[0]](words, text, job)
        return _edited(says, job, *edits)
    if words[0] in WIRE_WORDS:
        says, edits = WIRE_WORDS[words[0]](words, text, job)
        return _edited(says, job, *edits)
    if words[0] in PLACE_WORDS and len(words) > 1:
        says, edits = PLACE_WORDS[words[0]](text.strip(), job)
        return _edited(says, job, *edits)
    if words[0] in PARTS_WORDS:
        if words[0] == "came":
            from awlmark.core.entry.check_in import came_words

            says, edits = came_words(words, job, spot)
        else:
            says, edits = PARTS_WORDS[words[0]](words, job, spot)
        return _edited(says, job, *edits)
    if words[0] in BUILD_WORDS:
        from awlmark.core.entry import build

        says, edits = build.BUILD_WORDS[words[0]](words, text, job)
        return _edited(says, job, *edits)
    if words[0] in PROVE_WORDS:
        from awlmark.core.entry import prove

        says, edits = prove.PROVE_WORDS[words[0]](words, text, job)
        return _edited(says, job, *edits)
    if words[0] in RUN_WORDS:
        says, edits = RUN_WORDS[words[0]](words, job, spot)
        return _edited(says, job, *edits)
    return _decision(words, text, job, spot)


def _edited(says: str, job: Job, *edits: Put) -> Reading:
    return Reading(says, e.put(job, *edits))


def _one_leg(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    """``leg 2 21 6``, ``leg 2 ambient 45C``: of a leg by its number, wherever the awl stands."""
    number, leg = leg_named(words, job)
    rest = words[2:]
    if (rest[0] in ("ambient", "place", *LEG_WORDS) and len(rest) > 1) or rest[-1] in open_book(job.code).methods:
        return read_entry(" ".join(rest), job, replace(spot, leg_id=leg.id, section_legs=(leg.id,)))
    if rest[0] in LEG_WORDS and rest[0] not in ENDS:
        return read_entry(rest[0], job, replace(spot, leg_id=leg.id))
    says, edits = change_leg(number, rest, job)
    return _edited(says, job, *edits)


def _leg_in_hand(job: Job, spot: Spot, field: str) -> Leg:
    found = next((leg for leg in job.legs if leg.id == spot.leg_id), job.legs[-1] if job.legs else None)
    if found is None:
        raise InputError(field, "There is no leg in hand.", "a first leg such as up 3")
    return found


def _ambient(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    leg = _leg_in_hand(job, spot, "ambient temperature")
    value = None if words[1:] == ["open"] else read_temperature(" ".join(words[1:]))
    says = f"leg {job.legs.index(leg) + 1}, ambient {' '.join(words[1:])}"
    return _edited(says, job, Put(f"legs[{leg.id}].ambient_c", value))


def _cover(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    trench = next((leg for leg in reversed(job.legs) if leg.direction == "trench"), None)
    if trench is None:
        raise InputError("cover", "There is no trench yet.", "a trench leg first, such as trench 64")
    value = read_length(" ".join(words[1:]), "cover", job.units)
    return _edited(f"cover {print_length(value, job.units)}", job, Put(f"legs[{trench.id}].cover_m", value))


def _place(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    leg = _leg_in_hand(job, spot, "place")
    value = words[1] if len(words) == 2 else ""
    if value not in (*PLACES, "open"):
        raise InputError("place", f"Can't use '{' '.join(words[1:])}'.", f"one of {', '.join(PLACES)}, open")
    path = f"legs[{leg.id}].place"
    return _edited(f"leg {job.legs.index(leg) + 1}, {value}", job, Put(path, None if value == "open" else value))


def _price(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    if spot.part_key is None:
        raise InputError("price", "Which part?", "a part chosen in the list of the Parts stage")
    value = read_money(" ".join(words[1:]))
    return _edited(f"price {value}", job, Put(f"prices[{spot.part_key}]", value))


def _name(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    name = text.strip()[4:].strip()
    if not name or len(name) > 120:
        raise InputError("name", "A job wants a name.", "1 to 120 letters")
    return _edited(f"name {name}", job, Put("name", name))


def _code(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    wanted = "-".join(words[1:])
    match = next((edition for edition in EDITIONS if wanted and (wanted == edition or edition.endswith(wanted))), None)
    if match is None:
        raise InputError("rule book (code)", f"Can't use '{' '.join(words[1:])}'.", "one of " + ", ".join(EDITIONS))
    return _edited(f"rule book {match}", job, Put("code", match))


def _overrule(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    """``overrule inspector agreed``: the finding in hand set aside, with its reason; ``overrule none`` undoes it."""
    if spot.finding_id is None:
        raise InputError("overrule", "There is no finding in hand.", "a finding chosen in the slip")
    kept = tuple(one for one in job.overrules if one.finding != spot.finding_id)
    reason = text.strip()[len("overrule") :].strip()
    if reason == "none":
        return _edited("finding no longer overruled", job, Put("overrules", kept))
    if len(reason.split()) < 2:
        sample = "such as overrule inspector agreed on site"
        raise InputError("overrule", "It wants a reason, in words; the reason prints.", sample)
    new = Overrule(finding=spot.finding_id, reason=reason[:200])
    return _edited(f"overrule: {reason}", job, Put("overrules", (*kept, new)))


def _open(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    """``open``: every decision of the circuit open again; ``open run``: the charger off the line's end."""
    if words[1:] == ["run"]:
        if not job.legs or job.legs[-1].end != "charger":
            raise InputError("open", "The line is open already.", "a line that ends at a charger")
        return _edited("line open at its end", job, Put(f"legs[{job.legs[-1].id}].end", "bend"))
    if len(words) > 1:
        raise InputError("open", f"Can't open '{' '.join(words[1:])}'.", "open, or open run")
    fields = ("breaker_a", "material", "insulation", "size", "ground_size")
    edits = [Put(f"circuit.{field}", None) for field in fields]
    edits += [Put(f"legs[{leg.id}].trade_size", None) for leg in job.legs if leg.trade_size is not None]
    return _edited("all decisions open", job, *edits)


def _finish(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    says, edits = end_leg("charger", job)
    return _edited(says, job, *edits)


def _decision(words: list[str], text: str, job: Job, spot: Spot) -> Reading:
    """Charger, wire, pipe and method in any order; with a length on an empty tape, a whole quote."""
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
        elif word in CONNECTIONS:
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
