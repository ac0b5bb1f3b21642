"""What is typed about the supply: loads, sub-panels, spaces."""

from __future__ import annotations

import re
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.loads import add_board, add_load, board_of, guess_kind, read_va
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.spaces import (
    read_clear,
    read_condition,
    read_families,
    read_knockout,
    read_slot,
    read_spaces,
    slot_cells,
)
from awlmark.core.entry.supply_facts import supply_facts
from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.entry.words import such
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS
from awlmark.core.job.supply import DEMAND_METHODS, LOAD_KINDS, RACEWAY, SPOTS
from awlmark.core.panel.spaces import move_breaker, owner_of
from awlmark.core.quantities import read_length, read_number

"""The echo and the edits of one entry."""


def load_words(typed: Typed) -> Told:
    """``load tub 30a``, ``load range 12 kw range``: another load on the circuit's own panel."""
    text, job = typed.text, typed.job
    match = re.fullmatch(r"load\s+(\D[^\d]*?)\s+(\d.*)", text.strip(), re.IGNORECASE)
    if match is None:
        raise InputError(
            "load", "What is it, and what does it draw?", "such as load tub 30a, or load range 12 kw range"
        )
    name, rest = match[1].strip(), match[2].strip().lower()
    kind = next((kind for kind in sorted(LOAD_KINDS, key=len, reverse=True) if rest.endswith(" " + kind)), None)
    value = rest.removesuffix(kind).strip() if kind else rest
    guess = f", {guess_kind(name)} by its name" if kind is None else f", {kind}"
    return f"load {name}{guess}", add_load(job, name[:40], read_va(value, job), kind)


def kind_words(typed: Typed) -> Told:
    """``kind tub fixed``, ``kind so``: what a load is, or that every guess is right."""
    words, job = typed.words, typed.job
    if words[1:] in (["so"], ["all", "so"]):
        return "kinds of loads are as guessed", tuple(Put(f"loads[{load.id}].guessed", False) for load in job.loads)
    plain = " ".join(words[1:])
    load = next((one for one in job.loads if plain.startswith(one.name.lower() + " ")), None)
    kind = plain[len(load.name) :].strip() if load is not None else ""
    if load is None or kind not in LOAD_KINDS:
        known = ", ".join(one.name for one in job.loads) or "a load, once one is entered"
        raise InputError("kind", f"Can't read '{plain[:40]}'.", f"a load ({known}) and one of {', '.join(LOAD_KINDS)}")
    path = f"loads[{load.id}]"
    return " ".join(words), (Put(f"{path}.kind", kind), Put(f"{path}.guessed", False))


def loads_words(typed: Typed) -> Told:
    """``loads all``, ``loads all no``: the loads entered on the circuit's own panel are all it has."""
    words, job = typed.words, typed.job
    if words[1:] not in (["all"], ["none"], ["all", "no"]):
        raise InputError("loads", f"Can't read '{' '.join(words[1:])[:40]}'.", "loads all, loads none or loads all no")
    path = f"boards[{job.supply.board}].complete" if job.supply.board else "demand.complete"
    return " ".join(words), (Put(path, words[-1] != "no"),)


def feeder_words(typed: Typed) -> Told:
    """``feeder shed 2 al 60ft ground 6``, ``feeder shed building yes electrode yes``, ``feeder shed apart``."""
    words, job = typed.words, typed.job
    plain = " ".join(words[1:])
    board = next((one for one in job.boards if f"{plain} ".startswith(one.name.lower() + " ")), None)
    if board is None:
        book = open_book(job.code).words
        known = ", ".join(one.name for one in job.boards) or f"a {book.sub_panel} first, {such(job, 'panel')}"
        raise InputError(book.feeder, f"There is no {book.sub_panel} '{plain[:30]}'.", known)
    path, rest = f"boards[{board.id}]", plain[len(board.name) :].split()
    edits: list[Put] = []
    while rest:
        word = rest.pop(0)
        value = rest[0] if rest else ""
        if word in ("building", "electrode", "disconnect"):
            if value not in ("yes", "no", "open"):
                raise InputError(f"feeder, {word}", f"Can't use '{value[:20]}'.", "yes, no or open")
            field = "outbuilding" if word == "building" else word
            edits.append(Put(f"{path}.{field}", {"yes": True, "no": False}.get(rest.pop(0))))
        elif word == "ground":
            if value in ("raceway", "open"):
                edits.append(Put(f"{path}.feeder_ground", None if rest.pop(0) == "open" else RACEWAY))
            else:
                size = read_size(value, job, "feeder's ground")
                rest = rest[1:]
                edits.append(Put(f"{path}.feeder_ground", size))
        elif word in ("apart", "joined"):
            edits.append(Put(f"{path}.bonded", word == "joined"))
        elif word in MATERIALS:
            edits.append(Put(f"{path}.feeder_material", word))
        elif re.fullmatch(r"\d+(?:\.\d+)?(?:ft|m|')", word):
            edits.append(
                Put(
                    f"{path}.feeder_length_m",
                    read_length(word, f"{open_book(job.code).words.feeder} length", job.units),
                )
            )
        elif re.fullmatch(r"\d+a", word):
            edits.append(Put(f"{path}.feeder_a", read_number(word, "feeder", 15, 4000, "a")))
        elif word != "awg":
            edits.append(Put(f"{path}.feeder_size", read_size(word, job, f"{open_book(job.code).words.feeder} size")))
    if not edits:
        raise InputError("feeder", "What of it?", f"size and length, {such(job, 'feeder')}")
    return " ".join(words), tuple(edits)


def floor_words(typed: Typed) -> Told:
    """``floor 1900 ft2``, ``floor 180 m2``: the dwelling's area."""
    words, job = typed.words, typed.job
    fact = next(fact for fact in supply_facts(replace(job, occupancy="dwelling")) if fact.label == "Floor area")
    return " ".join(words), fact.read("".join(words[1:]), job, None)


def heating_words(typed: Typed) -> Told:
    """``heating added no``: whether heating or cooling is added with this job."""
    words = typed.words
    known = {"yes": True, "no": False, "open": None}
    if words[1:2] != ["added"] or len(words) != 3 or words[2] not in known:
        raise InputError("heating", f"Can't read '{' '.join(words[1:])[:30]}'.", "heating added yes, no or open")
    return " ".join(words), (Put("demand.heat_added", known[words[2]]),)


def demand_words(typed: Typed) -> Told:
    """``demand standard``, ``demand measured 72a``: how the demand is counted."""
    words = typed.words
    method = words[1] if len(words) > 1 else ""
    if method not in DEMAND_METHODS:
        raise InputError("demand", f"Can't use '{method[:30]}'.", ", ".join(DEMAND_METHODS))
    edits = [Put("demand.method", method)]
    if len(words) > 2:
        edits.append(Put("demand.measured_a", read_number(" ".join(words[2:]), "highest demand", 0, 4000, "a")))
    return " ".join(words), tuple(edits)


def management_words(typed: Typed) -> Told:
    """``management yes``, ``management 80a``, ``management by R. Vale 2026-03-01``, ``management no``."""
    words, text = typed.words, typed.text
    value = " ".join(words[1:])
    if value in ("yes", "no"):
        return " ".join(words), (Put("demand.managed", value == "yes"),)
    if words[1:2] == ["by"] and len(words) > 2:
        who = text.strip().split(None, 2)[2][:60]
        return f"management set by {who}", (Put("demand.set_by", who),)
    point = None if value == "open" else read_number(value, "set point", 15, 4000, "a")
    return " ".join(words), (Put("demand.managed", True), Put("demand.set_point_a", point))


def handle_words(typed: Typed) -> Told:
    """``handle 6ft 5in``: centre of the highest breaker handle above the floor."""
    words, job = typed.words, typed.job
    value = None if words[1:] == ["open"] else read_length(" ".join(words[1:]), "highest handle", job.units)
    return " ".join(words), (Put("supply.handle_m", value),)


def spot_words(typed: Typed) -> Told:
    """``spot clear``, ``spot closet``: what the panel's place is."""
    words = typed.words
    value = " ".join(words[1:])
    if value not in (*SPOTS, "open"):
        raise InputError("spot", f"Can't use '{value[:30]}'.", ", ".join((*SPOTS, "open")))
    return " ".join(words), (Put("supply.spot", None if value == "open" else value),)


def _current_words(field: str, path: str, low: float) -> Reader:
    def read(typed: Typed) -> Told:
        """``fault 8.2ka``, ``breaks 10000``."""
        words = typed.words
        value = "".join(words[1:])
        if value == "open":
            return " ".join(words), (Put(path, None),)
        kilo = value.endswith("ka")
        amps = read_number(value.removesuffix("ka").removesuffix("a"), field, 0.001, 1e6) * (1000 if kilo else 1)
        return " ".join(words), (Put(path, read_number(f"{amps:g}", field, low, 200_000)),)

    return read


def supply_words(typed: Typed) -> Told:
    """``supply new``, ``supply there``: whether service or feeder is new or replaced with this job."""
    words = typed.words
    if words[1:] not in (["new"], ["there"]):
        raise InputError("supply", f"Can't use '{' '.join(words[1:])[:30]}'.", "new or there")
    return " ".join(words), (Put("supply.fresh", words[1] == "new"),)


def panel_words(typed: Typed) -> Told:
    """``panel shed 60a``: a sub-panel under the service, with its feeder."""
    text, job = typed.text, typed.job
    match = re.fullmatch(r"[\w-]+\s+(.+?)(?:\s+(\d+)\s*a)?", text.strip(), re.IGNORECASE)
    book = open_book(job.code).words
    if match is None:
        raise InputError(book.panel, f"A {book.sub_panel} wants a name.", such(job, "panel"))
    feeder = read_number(match[2], book.feeder, 15, 4000) if match[2] else None
    there = next((board for board in job.boards if board.name.lower() == match[1].lower()), None)
    if there is not None and feeder is not None:
        return f"{book.sub_panel} {there.name}, {feeder:g} A", (Put(f"boards[{there.id}].feeder_a", feeder),)
    return f"{book.sub_panel} {match[1]}", add_board(job, match[1][:40], feeder)


def on_words(typed: Typed) -> Told:
    """``on shed``: the panel the circuit hangs on."""
    words, job = typed.words, typed.job
    board = board_of(job, " ".join(words[1:]), "panel")
    return f"on {' '.join(words[1:]) or open_book(job.code).words.service}", (Put("supply.board", board),)


def spaces_words(typed: Typed) -> Told:
    """``spaces 20``, ``spaces 20 tandem 13``: spaces of the panel, and from which on it takes tandems."""
    words = typed.words
    edits = read_spaces(words[1:])
    return " ".join(words), edits


def slot_words(typed: Typed) -> Told:
    """``slot 1 30a 2p dryer``, ``slot 5 idle``, ``slot 5 free``: what is in a space."""
    words, job = typed.words, typed.job
    edits = read_slot(words[1:], job)
    old = owner_of(job.dead_front, int(words[1])) if words[1].isdigit() else None
    was = f" (was {', '.join(filter(None, slot_cells(old)[2:5]))})" if old else ""
    return " ".join(words) + was, edits


def move_words(typed: Typed) -> Told:
    """``move 5 to 11``: a device into another space, or two of one width round."""
    words, job = typed.words, typed.job
    match = re.fullmatch(r"move\s+(\d{1,2})\s+(?:to\s+)?(\d{1,2})", " ".join(words))
    if match is None:
        raise InputError("move", "From which space to which?", "such as move 5 to 11")
    return " ".join(words), move_breaker(job, int(match[1]), int(match[2]))


def bus_words(typed: Typed) -> Told:
    """``bus 200a``: rating of the bus bars."""
    words = typed.words
    rating = None if words[1:] == ["open"] else read_number(" ".join(words[1:]), "bus rating", 15, 4000, "a")
    return " ".join(words), (Put("dead_front.bus_a", rating),)


def accepts_words(typed: Typed) -> Told:
    """``accepts QX, QX-T``: breaker types on the panel's label."""
    text = typed.text
    return text.strip(), read_families(text.strip()[len("accepts") :])


def knockout_words(typed: Typed) -> Told:
    """``knockout top 3/4``, ``knockout k1 run``."""
    words, job = typed.words, typed.job
    return " ".join(words), read_knockout(words[1:], job)


def clear_words(typed: Typed) -> Told:
    """``clear 30in 36in 78in``: room before the panel."""
    words, job = typed.words, typed.job
    return " ".join(words), read_clear(words[1:], job)


def condition_words(typed: Typed) -> Told:
    """``condition worn``: of the panel."""
    words = typed.words
    return " ".join(words), read_condition(words[1:])


SUPPLY_WORDS: Final[dict[str, Reader]] = {
    "load": load_words, "panel": panel_words, "on": on_words, "spaces": spaces_words, "slot": slot_words,
    "move": move_words, "bus": bus_words, "accepts": accepts_words, "knockout": knockout_words,
    "clear": clear_words, "condition": condition_words,
    "kind": kind_words, "loads": loads_words, "feeder": feeder_words, "floor": floor_words,
    "heating": heating_words, "demand": demand_words, "management": management_words,
    "handle": handle_words, "spot": spot_words, "supply": supply_words,
    "fault": _current_words("fault current", "supply.fault_a", 10),
    "breaks": _current_words("what the breaker interrupts", "supply.breaks_a", 1000),
}  # fmt: skip
"""First words of entries about the supply, and what reads them."""
