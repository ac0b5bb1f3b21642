"""Wires as people count them: so many of a gauge, with their insulation, carrying current or not."""

from __future__ import annotations

import re
from typing import Final

from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.job.leg import Bundle
from awlmark.core.job.model import Job
from awlmark.core.quantities import read_length, read_number

DEAD: Final = ("ground", "dead", "spare")
"""Words for wires that carry no current."""


def read_bundle(text: str, job: Job, field: str = "others") -> Bundle:
    """Wires as people count them: ``3x12``, ``3x12 thhn``, ``1x12 ground``, ``1x0.55in cable``.

    Raises
    ------
    InputError
        When count, gauge or insulation cannot be read.
    """
    match = re.fullmatch(r"(\d{1,3})\s*x\s*(\S+)((?:\s+\S+)*)", text)
    if match is None:
        accepted = "count x gauge, such as 3x12 thwn-2, 1x12 ground, 1x0.55in cable"
        raise InputError(field, f"Can't read '{text[:40]}'.", accepted)
    count, what, rest = int(read_number(match[1], field, 1, 100)), match[2], match[3].split()
    carries = not any(word in DEAD for word in rest)
    kinds = [word for word in rest if word not in DEAD]
    if kinds == ["cable"]:
        return Bundle(count=count, diameter_m=read_length(what, f"{field}, cable diameter", job.units), carries=carries)
    book = open_book(job.code)
    if len(kinds) > 1 or (kinds and kinds[0] not in book.insulations):
        known = ", ".join((*book.insulations, "cable", *DEAD))
        raise InputError(field, f"Can't read '{' '.join(rest)[:40]}'.", f"an insulation or a word of {known}")
    size = book.read_size(what, book.sizes, field)
    return Bundle(count=count, size=size, insulation=kinds[0] if kinds else "thwn-2", carries=carries)
