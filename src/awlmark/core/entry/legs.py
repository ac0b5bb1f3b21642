"""What is typed of a leg: a new one, its end, a new reading of one that stands."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.books import Book, open_book
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, add_leg, next_leg_id, put, remove_leg
from awlmark.core.job.leg import CROSSING, PLACES, Leg
from awlmark.core.job.model import Job
from awlmark.core.quantities import print_length, read_length, read_number
from awlmark.core.run.line import INSIDE, Walked, walk
from awlmark.core.run.storeys import standings, storey_of

WAYS: Final = {
    "up": "up", "u": "up", "↑": "up",
    "down": "down", "dn": "down", "↓": "down",
    "left": "left", "l": "left", "←": "left",
    "right": "right", "r": "right", "→": "right",
    "through": "through", "thru": "through", "t": "through",
    "trench": "trench", "d": "trench", "dig": "trench",
    "out": "out", "in": "in",
}  # fmt: skip
ENDS: Final = {
    "corner": "corner", "c": "corner",
    "box": "box", "b": "box",
    "body": "body", "lb": "body",
    "elbow": "pull elbow",
    "post": "post",
    "charger": "charger", "k": "charger",
    "bend": "bend",
}  # fmt: skip
SLABS: Final = {"floor": "floor", "ceiling": "ceiling", "slab": "floor"}
RISE_M: Final = 0.1524
"""From a level leg to the slab over it, until somebody reads it: 6 in."""
WALLS: Final = ("stone", "brick", "block", "concrete", "wood", "stucco", "stud")
KINDS: Final = {"cable": True, "pipe": False, "conduit": False}
"""Words for a kind of method, and whether it is a cable; the usual one of the kind is taken."""
Told = tuple[str, Job]
"""The echo of an entry and the job it makes."""


def new_leg(words: list[str], job: Job) -> Told:
    """A direction, a length, and what follows it: end, method, place, wall, cover.

    Raises
    ------
    InputError
        When a word cannot be read, the length is missing, or the line ends at the charger already.
    """
    book = open_book(job.code)
    words, passed = _passed(words)
    if passed:
        return _through(words, passed, job)
    way = WAYS[words[0]]
    length_words: list[str] = []
    rest = words[1:]
    while rest and not _is_word(rest[0], tuple(book.methods)):
        length_words.append(rest.pop(0))
    # A wall may be passed before anybody has measured it: its thickness is asked for on the line.
    wall = way in CROSSING
    if not length_words and not wall:
        raise InputError("leg", f"How far {way}?", "a length behind the direction, such as up 3 or right 22 6")
    length = read_length(" ".join(length_words), f"leg {way}", job.units, zero=wall) if length_words else 0.0
    fields: dict[str, object] = {}
    while rest:
        word = rest.pop(0)
        if word in ENDS:
            fields["end"] = ENDS[word]
        elif method_named(word, book):
            fields["method"] = method_named(word, book)
        elif word in PLACES:
            fields["place"] = word
        elif word in WALLS:
            fields["wall"] = word
        elif word == "cover" and rest:
            fields["cover_m"] = read_length(" ".join(rest), "cover", job.units)
            rest = []
        else:
            ends = ", ".join(dict.fromkeys(ENDS.values()))
            raise InputError("leg", f"Can't read '{word}'.", f"an end ({ends}), a method or a place")
    if job.legs and job.legs[-1].end == "charger":
        raise InputError(
            "leg", "The line already ends at the charger.", "open run, to take the charger off its end first"
        )
    fields = _carried_on(job, way, fields) | fields
    leg = Leg(id=next_leg_id(job), direction=way, length_m=length, **fields)  # type: ignore[arg-type]
    told = print_length(length, job.units) if length else "a wall not measured yet"
    return f"leg {len(job.legs) + 1}, {way} {told}", add_leg(job, leg)


def method_named(word: str, book: Book) -> str | None:
    """A method by its key, or the usual one of its kind: ``cable``, ``pipe``; None for another word."""
    if word in book.methods:
        return word
    if word in book.short_methods:
        return book.short_methods[word]
    if word not in KINDS:
        return None
    return next((key for key, each in book.methods.items() if each.chip and each.cable is KINDS[word]), None)


def _passed(words: list[str]) -> tuple[list[str], str]:
    """``through floor 10in``, ``up through the ceiling``: the words without the floor, and which it is."""
    plain = [word for word in words if word not in ("the", "a")]
    slab = next((word for word in plain if word in SLABS), "")
    if not slab or plain[0] not in ("through", "thru", "t", "up", "u", "down", "dn"):
        return words, ""
    return [word for word in plain if word not in (*SLABS, "through", "thru", "t")], SLABS[slab]


def _through(words: list[str], slab: str, job: Job) -> Told:
    """Through a floor or a ceiling, up or down as the line runs, as it is said, or as the storey has it.

    Where the line runs level a short rise to the slab is scribed first; that, and where it comes out, is guessed.
    """
    if job.legs and job.legs[-1].end == "charger":
        raise InputError(
            "leg", "The line already ends at the charger.", "open run, to take the charger off its end first"
        )
    said = next((WAYS[word] for word in words if word in ("up", "u", "down", "dn")), "")
    rest = [word for word in words if word not in ("up", "u", "down", "dn")]
    line = walk(job, open_book(job.code)).legs
    upright = line[-1].heading[2] if line else 0.0
    above = line[-1].place_after if line else job.supply.place
    runs = ("up" if upright > 0 else "down") if upright else ""
    way = said or runs or ("down" if slab == "floor" and above in ("attic", "roof") else "up")
    guessed: list[str] = []
    if runs != way:
        rise = Leg(id=next_leg_id(job), direction=way, length_m=_rise_m(job, line, way), **_carried_on(job, way, {}))  # type: ignore[arg-type]
        guessed.append(f"legs[{rise.id}].length_m")
        job = add_leg(job, rise)
    before = {leg.id for leg in job.legs}
    # The reading stands first, wherever it was said.
    says, job = new_leg(["through", *sorted(rest, key=lambda word: not word[0].isdigit())], job)
    leg = next(leg for leg in job.legs if leg.id not in before)
    passed = Put(f"legs[{leg.id}].wall", f"{leg.wall} {slab}".strip())
    # A floor leads to rooms, a ceiling under a roof to the attic; which it is, the site says.
    beyond = leg.place or (None if slab == "ceiling" and way == "up" else "indoor")
    edits = [passed] if beyond == leg.place else [passed, Put(f"legs[{leg.id}].place", beyond)]
    if leg.place is None:
        guessed.append(f"legs[{leg.id}].place")
    job = put(job, *edits)
    told = says.replace("through", f"{way} through the {slab}", 1)
    return told, msgspec.structs.replace(job, guessed=(*job.guessed, *guessed))


def _rise_m(job: Job, line: tuple[Walked, ...], way: str) -> float:
    """From where the line is to the ceiling over it, where its storey's height is told; else a little."""
    floor = standings(line, job.site.storeys)[-1]
    high = storey_of(job.site.storeys, floor.number).high_m
    if not line or high is None or way == "down":
        return RISE_M
    return max(floor.level_m + high - line[-1].end[2], RISE_M)


def _carried_on(job: Job, way: str, fields: dict[str, object]) -> dict[str, object]:
    """Method and mounting that go on from the leg before, while the line stays inside or stays outside.

    What passes a wall takes the method of the leg before it by itself; a trench begins anew.
    """
    if not job.legs or way in (*CROSSING, "trench"):
        return {}
    before = walk(job, open_book(job.code)).legs[-1]
    place = fields.get("place") or before.place_after
    if before.place == "buried" or (before.place in INSIDE) != (place in INSIDE):
        return {}
    typed = [leg.method for leg in job.legs if leg.method is not None]
    found: dict[str, object] = {"method": before.method.key} if typed else {}
    stays = [leg.mount for leg in job.legs if leg.direction not in CROSSING]
    return found | ({"mount": stays[-1]} if stays and stays[-1] is not None else {})


def _is_word(word: str, methods: tuple[str, ...]) -> bool:
    return word in ENDS or word in (*methods, *KINDS) or word in PLACES or word in WALLS or word == "cover"


def end_leg(end: str, job: Job) -> tuple[str, tuple[Put, ...]]:
    """What stands at the end of the last leg."""
    if not job.legs:
        raise InputError("end", f"There is no leg yet to end with a {end}.", "a first leg such as up 3")
    return f"{end} at the end of leg {len(job.legs)}", (Put(f"legs[{job.legs[-1].id}].end", end),)


def rub_leg(words: list[str], job: Job) -> Told:
    """``rub``: the last leg away; ``rub 3``: that one."""
    if not job.legs:
        raise InputError("rub", "There is no leg to rub out.", "a line with legs")
    number = int(read_number(words[1], "leg", 1, len(job.legs))) if len(words) > 1 else len(job.legs)
    return f"rub out leg {number}", remove_leg(job, job.legs[number - 1].id)


def leg_named(words: list[str], job: Job) -> tuple[int, Leg]:
    """The leg that ``leg 2 ...`` is about, and its number."""
    if len(words) < 3 or not job.legs:
        raise InputError("leg", "Which leg, and what of it?", "its number and a reading or word: leg 2 21 6, leg 2 box")
    number = int(read_number(words[1], "leg", 1, len(job.legs)))
    return number, job.legs[number - 1]


def change_leg(number: int, rest: list[str], job: Job) -> tuple[str, tuple[Put, ...]]:
    """``21 6``, ``left 5``, ``box``, ``garage``, ``cover 24in``: a new reading, way, end, place, wall or cover."""
    path = f"legs[{job.legs[number - 1].id}]"
    if rest[0] in WAYS:
        turned = Put(f"{path}.direction", WAYS[rest[0]])
        says, edits = change_leg(number, rest[1:], job) if rest[1:] else (f"leg {number}", ())
        return f"{says}, {WAYS[rest[0]]}", (turned, *edits)
    if len(rest) == 1 and rest[0] in ENDS:
        end = ENDS[rest[0]]
        if end == "charger" and number < len(job.legs):
            last = f"The charger stands at the end of the last leg, {len(job.legs)}."
            raise InputError("leg", last, "rub, or leg 2 box")
        return f"{end} at the end of leg {number}", (Put(f"{path}.end", end),)
    if len(rest) == 1 and rest[0] in WALLS:
        return f"leg {number}, {rest[0]}", (Put(f"{path}.wall", rest[0]),)
    if len(rest) == 1 and rest[0] in PLACES:
        return f"leg {number}, {rest[0]}", (Put(f"{path}.place", rest[0]),)
    if rest[0] == "cover":
        value = read_length(" ".join(rest[1:]), "cover", job.units)
        return f"leg {number}, cover {print_length(value, job.units)}", (Put(f"{path}.cover_m", value),)
    length = read_length(" ".join(rest), f"leg {number}", job.units)
    return f"leg {number}, {print_length(length, job.units)}", (Put(f"{path}.length_m", length),)
