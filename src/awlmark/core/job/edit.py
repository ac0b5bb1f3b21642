"""Edits of a job: every one returns a new job; the old one stays as it was."""

from __future__ import annotations

import re
from typing import Any

import msgspec
from msgspec.structs import replace

from awlmark.core.errors import InputError
from awlmark.core.job.book_pins import book_pins, family, pins_in_words
from awlmark.core.job.by_length import UNIT_M, in_units
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import RUN_FIELDS, Job
from awlmark.core.job.values import check_values

_STEP = re.compile(r"(?P<name>[a-z_0-9]+)(?:\[(?P<id>[^\]]+)\])?")


class Put(msgspec.Struct, gc=False, frozen=True):
    """One edit: the value at a path such as ``circuit.size``, ``legs[a3].method`` or ``prices[breaker:2:60]``.

    What belongs to the circuit in hand is named from its run on: ``legs``, not ``run.legs``.
    """

    path: str
    value: Any


def value_at(job: Job, path: str) -> Any:
    """The value that stands at a path."""
    found: Any = job
    for match in _steps(path):
        found = getattr(found, match["name"])
        if match["id"] is not None:
            found = found.get(match["id"]) if isinstance(found, dict) else found[_index(found, match["id"])]
    return found


def put(job: Job, *edits: Put) -> Job:
    """Apply edits one after another and check the values of the outcome.

    Another unit of length takes the prices of what is sold by length along.

    Raises
    ------
    InputError
        When a path leads nowhere or the new value is out of range.
    """
    before = job
    for edit in edits:
        if edit.path == "units" and edit.value in UNIT_M:
            job = in_units(job, edit.value)
        job = _put(job, _steps(edit.path), edit.value)
        job = replace(job, guessed=tuple(path for path in job.guessed if path != edit.path))
    if family(job.code) != family(before.code) and (left := book_pins(job)):
        raise InputError(
            "rule book (code)", f"Another book reads other words: {pins_in_words(left)} would be misread.",
            "these opened in the same step",
        )  # fmt: skip
    return check_values(job, before)


def _steps(path: str) -> list[re.Match[str]]:
    depth, parts, start = 0, [], 0
    for position, letter in enumerate(path):
        depth += (letter == "[") - (letter == "]")
        if letter == "." and depth == 0:
            parts.append(path[start:position])
            start = position + 1
    matches = [_STEP.fullmatch(part) for part in [*parts, path[start:]]]
    if any(match is None for match in matches):
        raise InputError("path", f"Can't follow '{path}'.", "names joined by dots")
    return [match for match in matches if match]


def _index(items: tuple[Any, ...], wanted: str) -> int:
    for position, item in enumerate(items):
        if item.id == wanted:
            return position
    raise InputError("path", f"Nothing has the id '{wanted}'.", "an id that the job holds")


def _put(node: Any, steps: list[re.Match[str]], value: Any) -> Any:
    name, key = steps[0]["name"], steps[0]["id"]
    if isinstance(node, Job) and name in RUN_FIELDS:
        # A path about the circuit in hand begins at its run.
        return replace(node, run=_put(node.run, steps, value))
    if name not in node.__struct_fields__:
        raise InputError("path", f"A job has no '{name}'.", ", ".join(node.__struct_fields__))
    old = getattr(node, name)
    if key is None:
        return replace(node, **{name: value if len(steps) == 1 else _put(old, steps[1:], value)})
    if isinstance(old, dict):
        changed = {other: kept for other, kept in old.items() if other != key}
        return replace(node, **{name: changed if value is None else {**changed, key: value}})
    at = _index(old, key)
    item = value if len(steps) == 1 else _put(old[at], steps[1:], value)
    return replace(node, **{name: (*old[:at], item, *old[at + 1 :])})


def next_leg_id(job: Job) -> str:
    """An id that no leg of the job carries."""
    taken = {leg.id for leg in job.legs}
    number = len(job.legs) + 1
    while f"leg-{number}" in taken:
        number += 1
    return f"leg-{number}"


def add_leg(job: Job, leg: Leg, at: int | None = None) -> Job:
    """Scribe a leg at the end of the line, or before position ``at``."""
    at = len(job.legs) if at is None else at
    return check_values(job.with_run(legs=(*job.legs[:at], leg, *job.legs[at:])))


def remove_leg(job: Job, leg_id: str) -> Job:
    """Rub out one leg and what was overruled about it."""
    at = _index(job.legs, leg_id)
    return job.with_run(legs=job.legs[:at] + job.legs[at + 1 :])
