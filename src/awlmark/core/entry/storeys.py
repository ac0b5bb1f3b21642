"""What is typed of a storey: its name and how high it is from floor to ceiling."""

from __future__ import annotations

import re
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.floor import Storey
from awlmark.core.quantities import print_length, read_length
from awlmark.core.run.line import walk
from awlmark.core.run.storeys import standings, storey_of

ACCEPTED: Final = "such as storey basement 7 6, storey 1 garage 9ft or storey 1 open"


def storey_words(typed: Typed) -> Told:
    """``storey Basement 7 6``: of the floor that the leg in hand stands on; ``storey 1 Garage``: one over the panel's.

    Raises
    ------
    InputError
        When nothing is said of it, the line has no such storey, or its height cannot be read.
    """
    job = typed.job
    legs = walk(job, open_book(job.code)).legs
    stood = standings(legs, job.site.storeys)
    ours = {floor.number for floor in stood}
    at = next((place for place, walked in enumerate(legs) if walked.leg.id == typed.spot.leg_id), 0)
    number, words = stood[at].number, typed.text.split()[1:]
    if words and re.fullmatch(r"[+-]?\d", words[0]) and (int(words[0]) in ours or words[0][0] in "+-"):
        number = int(words.pop(0))
        if number not in ours:
            has = ", ".join(f"{each:+}" if each else "0, the panel's own" for each in sorted(ours))
            raise InputError("storey", f"The line never stands on storey {number:+}.", f"one of {has}")
    if not words:
        raise InputError("storey", "What of the storey?", ACCEPTED)
    old = storey_of(job.site.storeys, number)
    others = tuple(each for each in job.site.storeys if each.number != number)
    if words == ["open"]:
        return f"storey {number:+} not told", (Put("site.storeys", others),)
    name, high = _read(words, typed)
    new: Storey = replace(old, name=name or old.name, high_m=old.high_m if high is None else high)
    told = print_length(new.high_m, job.units) + " high" if new.high_m is not None else "height not told"
    storeys = tuple(sorted((*others, new), key=lambda each: each.number))
    return f"storey {number:+}, {new.name or 'without a name'}, {told}", (Put("site.storeys", storeys),)


def _read(words: list[str], typed: Typed) -> tuple[str, float | None]:
    """A name, and the height behind it where one stands there."""
    digit = next((place for place, word in enumerate(words) if word[0].isdigit()), len(words))
    name = " ".join(words[:digit])[:40]
    height = " ".join(words[digit:]).removesuffix(" high")
    return name, read_length(height, "storey height", typed.job.units) if height else None
