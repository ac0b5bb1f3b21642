"""Jobs that ship: the cider yard, and under the British book the bell foundry."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from awlmark.core.job.book_pins import family
from awlmark.core.job.file import loads
from awlmark.core.job.model import Job
from awlmark.core.shelf import CODES, NEWEST

FOUNDRY: Final = "bs7671-2018a2"
FILES: Final = {NEWEST: "cider-yard.awlmark", FOUNDRY: "bell-foundry.awlmark"}
"""Shipped job by the code that it is made under."""


def demo_job(code: str = NEWEST) -> Job:
    """The shipped demo of a rule book's family: "Cider yard, north bay", or "Bell foundry, tail yard"."""
    known = {family(made): name for made, name in FILES.items()}
    name = known[family(code if code in CODES else NEWEST)]
    return loads((Path(__file__).parent / name).read_bytes(), "The demo")
