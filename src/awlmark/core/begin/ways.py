"""Ways a line usually goes: jobs whose readings are guessed; those that ship, and a shop's own.

A way is a job's file. Its name is the title, its note one plain sentence, and what it guesses stands in ``guessed`` in
the order in which it is asked on site.
"""

from __future__ import annotations

import functools
import os
from pathlib import Path
from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.books import open_book
from awlmark.core.entry.legs import SLABS
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.book_pins import family
from awlmark.core.job.file import loads, read_job, save_job
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import NEW_NAME, Charger, Job, new_job
from awlmark.core.job.supply import Supply
from awlmark.core.shelf import NEWEST

SUFFIX: Final = ".awlmark"
KEPT: Final = (
    "id", "direction", "length_m", "end", "place", "method", "cover_m", "wall", "surface", "bend", "body", "mount",
    "sleeve", "reused",
)  # fmt: skip
"""Of a leg, its course and what it is made of; the rest was read at a site."""
USUAL_SERVICE_A: Final = 200.0
USUAL_CHARGER_A: Final = 40.0
"""Guessed where a kept line tells none; common practice."""
SHIPPED: Final = Path(__file__).parent / "ways"


class Way(msgspec.Struct, frozen=True):
    """A way a line may go, or a file that was taken for one."""

    name: str
    says: str
    job: Job | None
    """None where the file is no way; ``says`` tells why."""


@functools.cache
def shipped(code: str = NEWEST) -> tuple[Way, ...]:
    """The ways that ship for the family of a rule book, in their order."""
    made = (_way(loads(path.read_bytes(), path.name)) for path in sorted(SHIPPED.glob(f"*{SUFFIX}")))
    return tuple(way for way in made if way.job is not None and family(way.job.code) == family(code))


def own(folder: Path, code: str = NEWEST) -> tuple[Way, ...]:
    """A shop's own ways for the family of a rule book; a file that is none is told and left alone."""
    found = []
    for path in sorted(folder.glob(f"*{SUFFIX}")) if folder.is_dir() else ():
        try:
            job = read_job(path)
        except AwlmarkError as problem:
            found.append(Way(path.stem, f"This file is no pattern: {problem}", None))
            continue
        if not job.legs or not job.guessed:
            found.append(Way(path.stem, "This file is no pattern: it has no line, or guesses nothing.", None))
        elif family(job.code) == family(code):
            found.append(_way(job))
    return tuple(found)


def _way(job: Job) -> Way:
    return Way(job.name, job.note, job)


def begin(way: Job) -> Job:
    """A new job that goes this way; its readings stay guessed until each is answered."""
    prices = dict(way.prices) or dict(open_book(way.code).goods.prices())
    return replace(way, id=os.urandom(16).hex(), name=NEW_NAME, note="", made_up=False, prices=prices)


def keep(job: Job, name: str, says: str, folder: Path) -> Path:
    """Keep a job's line as a way: its course, what it is made of and the shop's prices; every reading is guessed.

    Whatever was seen or told at its site stays there: at the next one it has to be asked again.

    Raises
    ------
    AwlmarkError
        When the file cannot be written.
    """
    legs = tuple(Leg(**{field: getattr(leg, field) for field in KEPT}) for leg in job.legs)
    bare = new_job(
        name, note=says, code=job.code, units=job.units, occupancy=job.occupancy, currency=job.currency,
        prices=job.prices, hours=job.hours, buying=job.buying, guessed=asked(legs, job.code), legs=legs,
        supply=_bare_supply(job),
        charger=Charger(
            nameplate_a=job.charger.nameplate_a or USUAL_CHARGER_A, connection=job.charger.connection
        ),
        makeup=job.makeup,
    )  # fmt: skip
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / f"{''.join(letter if letter.isalnum() else '-' for letter in name.lower())[:60]}{SUFFIX}"
    save_job(bare, path)
    return path


def _bare_supply(job: Job) -> Supply:
    """What a way guesses of the supply: its system and place, and what the book asks for first."""
    if "supply.service_a" in open_book(job.code).asks:
        return Supply(service_a=job.supply.service_a or USUAL_SERVICE_A, place=job.supply.place)
    there = job.supply
    return Supply(system=there.system, earthing=there.earthing, cutout_a=there.cutout_a, place=there.place)


def asked(legs: tuple[Leg, ...], code: str = NEWEST) -> tuple[str, ...]:
    """What the site has to answer for a line, in the order of the walk: charger, supply, then leg by leg."""
    found = list(open_book(code).asks)
    if any(leg.reused for leg in legs):
        found.append("existing.breaker")
    methods: set[str | None] = set()
    outside = False
    for leg in legs:
        path = f"legs[{leg.id}]"
        if leg.method is not None and leg.method not in methods:
            methods.add(leg.method)
            found.append(f"{path}.method")
        if leg.place is not None and not outside:
            found.append(f"{path}.place")
        found.append(f"{path}.length_m")
        if leg.wall and not any(slab in leg.wall for slab in SLABS):
            found.append(f"{path}.wall")
        if leg.cover_m is not None:
            found.append(f"{path}.cover_m")
        if leg.mount is not None:
            found.append(f"{path}.mount")
        if leg.ambient_c is not None:
            found.append(f"{path}.ambient_c")
        if leg.surface is not None:
            found.append(f"{path}.surface")
        # Beyond the wall it lies outdoors, until it goes in again.
        outside = leg.direction == "out" or (outside and leg.direction != "in")
    return tuple(found)
