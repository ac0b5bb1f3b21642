"""What could be typed next: up to six words that fit what stands in the Entry, what each does, and the value now."""

from __future__ import annotations

from typing import Final, NamedTuple

from awlmark.core.books import open_book
from awlmark.core.entry.legs import KINDS
from awlmark.core.entry.nearest import nearest
from awlmark.core.entry.read import FINISHED, OUTLETS
from awlmark.core.entry.word import Reading, Typed, Word
from awlmark.core.entry.words import by_name, words
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.edit import put, value_at
from awlmark.core.job.leg import PLACES
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import print_length

MOST: Final = 6
_UNITS: Final = {"a": "A", "kwh": "kWh", "kw": "kW", "percent": "%", "h": "h", "v": "V", "va": "VA"}


class Suggestion(NamedTuple):
    """One thing that could be typed."""

    text: str
    """What the Entry would hold."""
    shown: str
    """The word, or the example."""
    does: str
    now: str
    """The value it has now; empty where it has none of its own."""


def suggest(text: str, job: Job, spot: Spot, stage: str) -> tuple[Suggestion, ...]:
    """Up to six suggestions for what is being typed, those of a stage first.

    Parameters
    ----------
    text : str
        What stands in the Entry so far.
    job : Job
        The job in hand.
    spot : Spot
        Leg, section, part and car in hand.
    stage : str
        Stage in hand; its words come first.
    """
    typed = text.lower().lstrip()
    if not typed.strip():
        return ()
    first, blank, rest = typed.partition(" ")
    if blank:
        return _behind(first, rest, job, spot) if first in by_name(job.code) else _phrase(text, job)
    found = sorted(words(job.code), key=lambda word: (word.stage != stage, bool(word.stage)))
    begin = [word for word in found if any(name.startswith(first) and len(first) < 20 for name in word.names)]
    # What is spelt out stands first: it is what Enter would take.
    begin.sort(key=lambda word: first not in word.names)
    told = [_word(word, job, spot) for word in begin[:MOST]]
    if 1 < len(first) < 20 and len(told) < MOST:
        told += _decisions(first, job)
        about = [word for word in found if word not in begin and first in word.help.lower().split()]
        told += [_word(word, job, spot) for word in about[:MOST]]
    if not told:
        told = [_word(by_name(job.code)[near], job, spot) for near in nearest(first, job) if near in by_name(job.code)]
    return tuple(told[:MOST])


def _word(word: Word, job: Job, spot: Spot) -> Suggestion:
    text = word.name if word.alone else f"{word.name} "
    return Suggestion(text, word.example, word.help, _now(word.example, job, spot))


def _decisions(first: str, job: Job) -> list[Suggestion]:
    """Methods, places to plug in, metals and places that begin so."""
    book = open_book(job.code)
    material = job.circuit.material or "open"
    told = [Suggestion(key, key, f"{each.name} as the wiring method", "") for key, each in book.methods.items()]
    told += [
        Suggestion(key, key, "how the charger is connected", job.charger.connection) for key in book.circuit.connections
    ]
    told += [Suggestion(key, key, "the usual outlet, or the one named behind it", "") for key in OUTLETS[:2]]
    told += [Suggestion(key, key, f"the usual {key}", "") for key in KINDS]
    told += [Suggestion(key, key, "metal of the conductors", material) for key in ("copper", "aluminium")]
    if not job.legs:
        told += [Suggestion(key, key, "where the quoted line lies", "") for key in PLACES]
        told.append(Suggestion(FINISHED, FINISHED, "cable inside a closed wall", ""))
    return [one for one in told if one.text.startswith(first)]


def _phrase(text: str, job: Job) -> tuple[Suggestion, ...]:
    """What may end the last word of a decision or a quote."""
    before, _, last = text.rpartition(" ")
    found = _decisions(last.lower(), job) if last else []
    return tuple(one._replace(text=f"{before} {one.text}") for one in found[:MOST] if one.text != last.lower())


def _behind(first: str, rest: str, job: Job, spot: Spot) -> tuple[Suggestion, ...]:
    """What may stand behind a word: its choices that begin so, or its example."""
    word = by_name(job.code)[first]
    sample = word.example.partition(" ")[2]
    behind = dict.fromkeys((*([sample] if sample and sample not in word.choices else []), *word.choices))
    fits = [choice for choice in behind if choice.lower().startswith(rest) and choice.lower() != rest]
    if not fits or rest in behind:
        return ()
    now = _now(word.example, job, spot)
    return tuple(Suggestion(f"{first} {choice}", f"{word.name} {choice}", word.help, now) for choice in fits[:MOST])


def _now(example: str, job: Job, spot: Spot) -> str:
    """What stands now where an example would put its value; empty where there is no such place, or no one value."""
    word = by_name(job.code)[example.lower().split()[0]]
    try:
        found = word.read(Typed(example.lower().split(), example, job, spot))
        if isinstance(found, Reading):
            return ""
        edits = found[1]
        if not edits:
            return ""
        put(job, *edits)
        return _printed(edits[0].path, value_at(job, edits[0].path), job)
    except AwlmarkError:
        # An example wants what this job may not have, such as a second leg: then it has no value either.
        return ""


def _printed(path: str, value: object, job: Job) -> str:
    field = path.rpartition(".")[2]
    unit = field.rpartition("_")[2]
    if value is None or value == "":
        return "open" if path.startswith("circuit.") else "not told"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float | int):
        return print_length(value, job.units) if unit == "m" else f"{value:g} {_UNITS.get(unit, '')}".strip()
    return value if isinstance(value, str) and len(value) < 24 else ""
