"""What is typed about the supply: loads, sub-panels, spaces."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Final

from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import LOAD_KINDS
from awlmark.core.panel.facts import add_board, add_load, board_of, read_va
from awlmark.core.panel.slots import (
    read_clear,
    read_condition,
    read_families,
    read_knockout,
    read_slot,
    read_spaces,
    slot_cells,
)
from awlmark.core.panel.spaces import move_breaker, owner_of
from awlmark.core.quantities import read_number

Told = tuple[str, tuple[Put, ...]]
"""The echo and the edits of one entry."""


def load_words(words: list[str], text: str, job: Job) -> Told:
    """``load tub 30a``, ``load range 12 kw range``: another load on the circuit's own panel."""
    match = re.fullmatch(r"load\s+(\D[^\d]*?)\s+(\d.*)", text.strip(), re.IGNORECASE)
    if match is None:
        raise InputError(
            "load", "What is it, and what does it draw?", "such as load tub 30a, or load range 12 kw range"
        )
    name, rest = match[1].strip(), match[2].strip().lower()
    kind = next((kind for kind in sorted(LOAD_KINDS, key=len, reverse=True) if rest.endswith(" " + kind)), "fixed")
    value = rest.removesuffix(kind).strip() if rest.endswith(" " + kind) else rest
    return f"load {name}", add_load(job, name[:40], read_va(value, job), kind)


def panel_words(words: list[str], text: str, job: Job) -> Told:
    """``panel shed 60a``: a sub-panel under the service, with its feeder."""
    match = re.fullmatch(r"panel\s+(.+?)(?:\s+(\d+)\s*a)?", text.strip(), re.IGNORECASE)
    if match is None:
        raise InputError("panel", "A panel wants a name.", "such as panel shed 60a")
    feeder = read_number(match[2], "feeder", 15, 4000) if match[2] else None
    return f"panel {match[1]}", add_board(job, match[1][:40], feeder)


def on_words(words: list[str], text: str, job: Job) -> Told:
    """``on shed``: the panel the circuit hangs on."""
    board = board_of(job, " ".join(words[1:]), "panel")
    return f"on {' '.join(words[1:]) or 'service'}", (Put("supply.board", board),)


def spaces_words(words: list[str], text: str, job: Job) -> Told:
    """``spaces 20``, ``spaces 20 tandem 13``: spaces of the panel, and from which on it takes tandems."""
    edits = read_spaces(words[1:])
    return " ".join(words), edits


def slot_words(words: list[str], text: str, job: Job) -> Told:
    """``slot 1 30a 2p dryer``, ``slot 5 idle``, ``slot 5 free``: what is in a space."""
    edits = read_slot(words[1:], job)
    old = owner_of(job.dead_front, int(words[1])) if words[1].isdigit() else None
    was = f" (was {', '.join(filter(None, slot_cells(old)[2:5]))})" if old else ""
    return " ".join(words) + was, edits


def move_words(words: list[str], text: str, job: Job) -> Told:
    """``move 5 to 11``: a device into another space, or two of one width round."""
    match = re.fullmatch(r"move\s+(\d{1,2})\s+(?:to\s+)?(\d{1,2})", " ".join(words))
    if match is None:
        raise InputError("move", "From which space to which?", "such as move 5 to 11")
    return " ".join(words), move_breaker(job, int(match[1]), int(match[2]))


def bus_words(words: list[str], text: str, job: Job) -> Told:
    """``bus 200a``: rating of the bus bars."""
    rating = None if words[1:] == ["open"] else read_number(" ".join(words[1:]), "bus rating", 15, 4000, "a")
    return " ".join(words), (Put("dead_front.bus_a", rating),)


def accepts_words(words: list[str], text: str, job: Job) -> Told:
    """``accepts QX, QX-T``: breaker types on the panel's label."""
    return text.strip(), read_families(text.strip()[len("accepts") :])


def knockout_words(words: list[str], text: str, job: Job) -> Told:
    """``knockout top 3/4``, ``knockout k1 run``."""
    return " ".join(words), read_knockout(words[1:], job)


def clear_words(words: list[str], text: str, job: Job) -> Told:
    """``clear 30in 36in 78in``: room before the panel."""
    return " ".join(words), read_clear(words[1:], job)


def condition_words(words: list[str], text: str, job: Job) -> Told:
    """``condition worn``: of the panel."""
    return " ".join(words), read_condition(words[1:])


SUPPLY_WORDS: Final[dict[str, Callable[[list[str], str, Job], Told]]] = {
    "load": load_words, "panel": panel_words, "on": on_words, "spaces": spaces_words, "slot": slot_words,
    "move": move_words, "bus": bus_words, "accepts": accepts_words, "knockout": knockout_words,
    "clear": clear_words, "condition": condition_words,
}  # fmt: skip
"""First words of entries about the supply, and what reads them."""
