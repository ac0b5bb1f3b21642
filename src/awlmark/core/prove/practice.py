"""Practice: a planted fault to find on the bench, and cards with one mistake. Never a job's own log."""

from __future__ import annotations

import random
from pathlib import Path
from typing import Final

import msgspec

from awlmark.core.books import Book, open_book
from awlmark.core.errors import FileError
from awlmark.core.job.autosave import state_folder
from awlmark.core.job.disk import write_file
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job_diff import facts
from awlmark.core.prove.instruments import take
from awlmark.core.prove.network import circuit_of
from awlmark.core.prove.planted import Planted, applicable
from awlmark.core.prove.test import tests_of
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design, solve

LEVELS: Final = ("first", "second", "third")


class Exercise(msgspec.Struct, frozen=True):
    """One fault to find."""

    seed: int
    level: int
    planted: Planted
    choices: tuple[Planted, ...]


class Score(msgspec.Struct, frozen=True):
    """How it went; kept apart from every job."""

    tried: int = 0
    right: int = 0
    history: tuple[tuple[int, str, str], ...] = ()
    """Seed, what it was, what was answered."""


def exercise(seed: int, level: int, book: Book, design: Design | None = None) -> Exercise:
    """A fault at a level (0 to 2), the same for the same seed; with it four others to choose from.

    On a design only faults that its circuit can have are planted; without a circuit any of the bench.
    """
    dice = random.Random(seed * 7 + level)
    seen = [each for each in book.prove.planted if each.seen]
    circuit = None if design is None else circuit_of(design)
    every = list(book.prove.planted) if circuit is None else [*applicable(book, circuit), *seen]
    planted = dice.choice([each for each in every if each.level <= level])
    others = [each for each in every if each.key != planted.key]
    choices = [planted, *dice.sample(others, 4)]
    dice.shuffle(choices)
    return Exercise(seed, level, planted, tuple(choices))


def readings(design: Design, one: Exercise) -> dict[str, float]:
    """What the instruments show on the faulty circuit, by test, each in its test's unit [V, ohm, A, kW, C]."""
    return {test.key: take(design, test, one.planted.faults) for test in tests_of(design)}


def answer_card(one: Card, title: str, score: Score) -> tuple[bool, str, Score]:
    """Whether the mistake was found, the finding's own words, and the score after it."""
    right = title == one.answer
    stops = solve(one.job).stops
    why = stops[0].text if stops else "Nothing is broken: every rule checked holds."
    told = why if right else f"It was: {one.answer}. {why}"
    after = Score(score.tried + 1, score.right + right, (*score.history, (one.seed, one.answer, title))[-200:])
    return right, told, after


def answer(one: Exercise, key: str, score: Score) -> tuple[bool, str, Score]:
    """Whether it was found, why, and the score after it."""
    right = key == one.planted.key
    told = one.planted.why if right else f"It was: {one.planted.name}. {one.planted.why}"
    after = Score(score.tried + 1, score.right + right, (*score.history, (one.seed, one.planted.key, key))[-200:])
    return right, told, after


class Card(msgspec.Struct, frozen=True):
    """A design with one mistake, or none."""

    seed: int
    level: int
    job: Job
    answer: str
    """Title of the finding that breaks it; ``It holds`` where none does."""
    choices: tuple[str, ...]
    facts: tuple[tuple[str, str], ...]
    """What is shown of it."""


def card(seed: int, base: Job, level: int = 0) -> Card:
    """A card from a seed: the base job with one mistake made in it, judged by the engine itself."""
    dice, rules = random.Random(seed), open_book(base.code).prove
    mistakes = rules.mistakes
    mistake = mistakes[dice.randrange(len(mistakes))]
    charge = dice.choice(rules.card_amps)
    start = put(base, Put("charger.nameplate_a", charge))
    job = put(start, mistake) if mistake is not None else start
    design = solve(job)
    stops = design.stops
    right = stops[0].title if stops else "It holds"
    broken = {stop.title for stop in stops}
    titles = sorted({finding.title for finding in design.findings if finding.needed is not None} - broken)
    choices = [right, *dice.sample(titles, min(3, len(titles)))]
    if right != "It holds":
        choices.append("It holds")
    dice.shuffle(choices)
    return Card(seed, level, job, right, tuple(choices), card_facts(design))


def card_facts(design: Design) -> tuple[tuple[str, str], ...]:
    """What a card shows: the circuit in short and every leg, without any verdict."""
    job = design.job
    told = {label: text for label, text in facts(design).items() if label not in ("Lines to buy", "Hours", "Quote")}
    told["Setting"] = f"{job.charger.nameplate_a:g} A nameplate"
    for walked in design.line.legs:
        leg = walked.leg
        cover = "" if leg.cover_m is None else f", {print_length(leg.cover_m, job.units)} of cover"
        wall = f", {leg.wall}" if leg.wall else ""
        long = print_length(leg.length_m, job.units)
        text = f"{leg.direction} {long}, {walked.method.name}, {design.book.words.place(walked.place)}{cover}{wall}"
        told[f"Leg {walked.number}"] = text
    return tuple(told.items())


def _score_file() -> Path:
    return state_folder() / "practice.json"


def load_score() -> Score:
    """The score kept from before; none where nothing, or nothing that can be read, was kept."""
    try:
        return msgspec.json.decode(_score_file().read_bytes(), type=Score)
    except FileNotFoundError:
        return Score()
    except (OSError, msgspec.DecodeError) as problem:
        text = f"The practice score in {_score_file()} can't be read: move it away to begin anew."
        raise FileError(text) from problem


def save_score(score: Score) -> None:
    """Keep the score, apart from every job.

    Raises
    ------
    FileError
        When the state folder refuses.
    """
    path = _score_file()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise FileError(f"Can't make {path.parent} for the practice score.") from problem
    write_file(path, msgspec.json.encode(score))
