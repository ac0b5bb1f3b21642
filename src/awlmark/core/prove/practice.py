"""Practice: a planted fault to find on the bench, and cards with one mistake. Never a job's own log."""

from __future__ import annotations

import random
from pathlib import Path
from typing import Final

import msgspec

from awlmark.core.errors import FileError
from awlmark.core.job.autosave import state_folder
from awlmark.core.job.disk import write_file
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job_diff import facts
from awlmark.core.prove.expect import tests_of
from awlmark.core.prove.instruments import take
from awlmark.core.prove.network import HEALTHY, CircuitNetwork, Faults, circuit_of
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design, solve

LEVELS: Final = ("first", "second", "third")


class Planted(msgspec.Struct, frozen=True):
    """One fault, and what gives it away."""

    key: str
    name: str
    why: str
    """What it does, and which reading tells."""
    level: int
    faults: Faults = HEALTHY
    seen: str = ""
    """What the eye finds, where no meter does."""


def _joined(key: str, level: int, name: str, why: str, faults: Faults) -> Planted:
    """A fault of how the circuit is joined."""
    return Planted(key, name, why, level, faults)


def _looked(key: str, level: int, name: str, why: str, seen: str) -> Planted:
    """A fault that the eye finds."""
    return Planted(key, name, why, level, seen=seen)


PLANTED: Final = (
    _joined(
        "leg missing", 0, "A leg is missing",
        "One pole is open: nothing between the hots, one hot dead.", Faults(open_at=("panel 2",)),
    ),
    _joined(
        "same leg", 0, "Both hots on one leg",
        "They share a leg: 120 V to ground from both, nothing between.", Faults(same_leg=True),
    ),
    _joined(
        "neutral for hot", 0, "Second hot landed on neutral",
        "120 V between the hots, nothing from the second to ground.", Faults(neutral_for_hot=True),
    ),
    _joined(
        "low supply", 0, "Low supply",
        "Below 228 V without any load: it comes from before the panel.", Faults(source=0.93),
    ),
    _joined(
        "ground open", 1, "Ground is open",
        "Full volts between the hots, none to ground: only that test shows it.", Faults(open_at=("charger G",)),
    ),
    _joined(
        "loose lug", 1, "Loose lug at the charger",
        "More sag than the wire explains, and a terminal hotter than its wire.", Faults(loose_ohm={"charger 1": 0.014}),
    ),
    _joined(
        "thin wire", 1, "A thinner wire than planned",
        "Loop, sag and the wire's own heat too large together: no joint, the gauge.", Faults(wire_factor=1.6),
    ),
    _joined(
        "loose breaker", 2, "Loose lug at the breaker",
        "The branch sags too much; the charger's end stays cool.", Faults(loose_ohm={"panel 1": 0.016}),
    ),
    _joined(
        "loose neutral", 2, "Loose neutral of the service",
        "The legs drift apart when the house draws: near 90 and 150 V.",
        Faults(service_neutral_ohm=2.0, house_a=(40.0, 12.0)),
    ),
    _looked(
        "dial high", 1, "Set above the breaker",
        "The unit would draw more than the breaker carries for long.", "the dial inside the unit stands at 80 A",
    ),
    _looked(
        "browned", 1, "Browned insulation",
        "Heat has been there before: cut back to sound wire, or replace.", "brown insulation at the lug",
    ),
    _looked(
        "tandem", 1, "Tandem in the wrong place",
        "This panel takes tandems only where its label says.", "a tandem breaker above the marked spaces",
    ),
    _looked(
        "full box", 2, "Overfull box",
        "More wire in the box than its volume allows.", "a box bulging with 6 AWG splices",
    ),
    _looked(
        "sensor", 2, "Current sensor reversed",
        "Load management takes what is drawn for what is given back.", "the sensor's arrow points to the load",
    ),
)  # fmt: skip
"""Faults of the bench; those with ``seen`` are found by eye."""


def applicable(circuit: CircuitNetwork | None) -> tuple[Planted, ...]:
    """The faults of the bench that a meter shows on a circuit: one with a single hot has no second to misplace."""
    if circuit is None:
        return ()
    joined = [each for each in PLANTED if not each.seen and (circuit.ground or each.key != "ground open")]
    if circuit.hots == 2:
        return tuple(joined)
    missing = _joined("leg missing", 0, "A leg is missing", "The hot is open: nothing to neutral, nothing to ground.",
                      Faults(open_at=("panel 1",)))  # fmt: skip
    single = {"leg missing": missing, "same leg": None, "neutral for hot": None}
    kept = [single.get(each.key, each) for each in joined]
    return tuple(each for each in kept if each is not None)


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


def exercise(seed: int, level: int, design: Design | None = None) -> Exercise:
    """A fault at a level (0 to 2), the same for the same seed; with it four others to choose from.

    On a design only faults that its circuit can have are planted; without a circuit any of the bench.
    """
    dice = random.Random(seed * 7 + level)
    seen = [each for each in PLANTED if each.seen]
    circuit = None if design is None else circuit_of(design)
    every = list(PLANTED) if circuit is None else [*applicable(circuit), *seen]
    planted = dice.choice([each for each in every if each.level <= level])
    others = [each for each in every if each.key != planted.key]
    choices = [planted, *dice.sample(others, 4)]
    dice.shuffle(choices)
    return Exercise(seed, level, planted, tuple(choices))


def readings(design: Design, one: Exercise) -> dict[str, float]:
    """What the instruments show on the faulty circuit, by test."""
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


MISTAKES: Final = (
    Put("circuit.breaker_a", 50.0), Put("circuit.size", "8"), Put("circuit.ground_size", "12"),
    Put("legs[leg-5].trade_size", "1/2"), Put("circuit.insulation", "thhn"), Put("legs[leg-5].method", "nm"),
    Put("legs[leg-5].cover_m", 0.2), Put("charger.connection", "14-30"), Put("legs[leg-3].length_m", 0.001), None,
)  # fmt: skip
"""Made in the demo; the engine says what each breaks. None leaves it as it is."""


def card(seed: int, base: Job, level: int = 0) -> Card:
    """A card from a seed: the base job with one mistake made in it, judged by the engine itself."""
    dice = random.Random(seed)
    mistake = MISTAKES[dice.randrange(len(MISTAKES))]
    charge = dice.choice((40.0, 48.0))
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
        text = f"{leg.direction} {long}, {walked.method.name}, {walked.place}{cover}{wall}"
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
