"""A part that came as another one: the job is worked out again with what is there."""

from __future__ import annotations

from awlmark.core.books import open_book
from awlmark.core.entry.parts import count_came, part_key
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.parts.shop import Sizes, came_as
from awlmark.core.solve.design import solved
from awlmark.core.solve.pick_circuit import sizes_of


def came_words(typed: Typed) -> Told:
    """``came 4``: so many came; ``came as 8``: it came in another gauge, trade size, rating or box."""
    words, job, spot = typed.words, typed.job, typed.spot
    if words[1:2] != ["as"]:
        return count_came(typed)
    key, design, what = part_key(spot, "came"), solved(job), " ".join(words[2:])
    sizes = sizes_of(design.circuit) if design.circuit else Sizes(None, None, ())
    edits = came_as(job, design.line, open_book(job.code), key, what, sizes)
    if not edits:
        accepted = "a gauge, trade size, rating or box of that part"
        raise InputError("came as", f"Can't take it as '{what[:30]}'.", accepted)
    return f"it came as {what}", edits
