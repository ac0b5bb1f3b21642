"""A word that can be typed, and what was typed with it."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from typing import NamedTuple

import msgspec

from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot

Told = tuple[str, tuple[Put, ...]]
"""An entry in words, and the edits it stands for."""


class Typed(NamedTuple):
    """What was typed, and where."""

    words: list[str]
    """In small letters, the first one names the word."""
    text: str
    """As it was typed, without blanks round it."""
    job: Job
    spot: Spot
    """Leg, section, part and finding in hand."""


class Reading(msgspec.Struct, frozen=True):
    """An entry, read: its echo in words, the name of the undo step and the job it would make."""

    says: str
    job: Job
    act: str = ""
    """Act of the desk that it asks for instead of an edit, such as ``menu:undo``."""


Reader = Callable[[Typed], Told]


class Word(msgspec.Struct, frozen=True):
    """A first word: reading, suggestions, the card behind F1 and the list of words are made from these."""

    name: str
    stage: str
    """Stage it belongs to; empty for what belongs to the whole job."""
    help: str
    """What it is for, in one line."""
    example: str
    reader: str
    """What reads it: ``module:function``, or ``module:table:key``; imported when the word is typed."""
    others: tuple[str, ...] = ()
    """Other names, or its like, read the same way."""
    alone: bool = True
    """Whether it may stand alone."""
    choices: tuple[str, ...] = ()
    """Words that may stand behind it, where there are only so many."""

    kept: tuple[str, ...] = ()
    """Names of other books under which it is read too, without being told."""

    @property
    def names(self) -> tuple[str, ...]:
        """Every name of it."""
        return (self.name, *self.others)

    def read(self, typed: Typed) -> Told | Reading:
        """Read an entry that begins with it.

        Raises
        ------
        InputError
            Where it cannot be read.
        """
        module, name, *key = self.reader.split(":")
        found = getattr(importlib.import_module(f"awlmark.core.entry.{module}"), name)
        reader: Callable[[Typed], Told | Reading] = found[key[0]] if key else found
        return reader(typed)
