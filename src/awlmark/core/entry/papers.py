"""What is typed for the head of every sheet: customer, address, permit, who designed it, paper."""

from __future__ import annotations

from typing import Final

from awlmark.core.entry.word import Reader, Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.papers import SIZES

MOST: Final = {"customer": 80, "address": 120, "permit": 40, "designer": 80, "licence": 40}
"""Letters that each takes."""


def _text(field: str) -> Reader:
    def read(typed: Typed) -> Told:
        text = typed.text.strip().partition(" ")[2].strip()
        if len(text) > MOST[field]:
            raise InputError(field, f"{len(text)} letters are too many for a sheet.", f"up to {MOST[field]} letters")
        value = "" if text.lower() == "none" else text
        return f"{typed.words[0]} {value or 'not told'}", (Put(f"papers.{field}", value),)

    return read


def _paper(typed: Typed) -> Told:
    value = " ".join(typed.words[1:])
    if value not in (*SIZES, "open"):
        raise InputError("paper", f"Can't use '{value[:20]}'.", ", ".join((*SIZES, "open")))
    return f"paper {value}", (Put("papers.paper", None if value == "open" else value),)


PAPER_WORDS: Final[dict[str, Reader]] = {**{field: _text(field) for field in MOST}, "paper": _paper}
"""First words of entries about the papers, and what reads them."""
