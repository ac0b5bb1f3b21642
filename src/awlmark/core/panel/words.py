"""What is typed about the supply: loads, sub-panels, spaces."""

from __future__ import annotations

import re

from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import LOAD_KINDS, Job
from awlmark.core.panel.facts import add_board, add_load, board_of, read_slot, read_spaces, read_va
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
    """``slot 1 30a 2p dryer``, ``slot 5 20a``, ``slot 5 free``: what is in a space."""
    return " ".join(words), read_slot(words[1:], job)
