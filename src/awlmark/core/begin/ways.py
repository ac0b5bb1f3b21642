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

from awlmark.core.entry.legs import SLABS
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.file import loads, read_job, save_job
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job
from awlmark.core.job.site_records import Build, Prove
from awlmark.core.parts.example_prices import example_prices

SUFFIX: Final = ".awlmark"
SHIPPED: Final = Path(__file__).parent / "ways"


class Way(msgspec.Struct, frozen=True):
    """A way a line may go, or a file that was taken for one."""

    name: str
    says: str
    job: Job | None
    """None where the file is no way; ``says`` tells why."""


@functools.cache
def shipped() -> tuple[Way, ...]:
    """The ways that ship, in their order."""
    return tuple(_way(loads(path.read_bytes(), path.name)) for path in sorted(SHIPPED.glob(f"*{SUFFIX}")))


def own(folder: Path) -> tuple[Way, ...]:
    """A shop's own ways; a file that is none is told and left alone."""
    found = []
    for path in sorted(folder.glob(f"*{SUFFIX}")) if folder.is_dir() else ():
        try:
            job = read_job(path)
        except AwlmarkError as problem:
            found.append(Way(path.stem, f"This file is no pattern: {problem}", None))
            continue
        if not job.legs or not job.guessed:
            found.append(Way(path.stem, "This file is no pattern: it has no line, or guesses nothing.", None))
        else:
            found.append(_way(job))
    return tuple(found)


def _way(job: Job) -> Way:
    return Way(job.name, job.note, job)


def begin(way: Job) -> Job:
    """A new job that goes this way; its readings stay guessed until each is answered."""
    prices = dict(way.prices) or dict(example_prices())
    return replace(way, id=os.urandom(16).hex(), name="New job", note="", made_up=False, prices=prices)


def keep(job: Job, name: str, says: str, folder: Path) -> Path:
    """Keep a job's line as a way: what belongs to its site and its log goes, every reading is guessed.

    Raises
    ------
    AwlmarkError
        When the file cannot be written.
    """
    legs = tuple(replace(leg, built_m=None) for leg in job.legs)
    bare = replace(job, name=name, note=says, guessed=asked(legs)).with_run(
        legs=legs, overrules=(), build=Build(), prove=Prove()
    )
    folder.mkdir(parents=True, exist_ok=True)
    path = folder / f"{''.join(letter if letter.isalnum() else '-' for letter in name.lower())[:60]}{SUFFIX}"
    save_job(bare, path)
    return path


def asked(legs: tuple[Leg, ...]) -> tuple[str, ...]:
    """What the site has to answer for a line, in the order of the walk: charger, service, then leg by leg."""
    found = ["charger.nameplate_a", "charger.connection", "supply.service_a"]
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
        if leg.surface is not None:
            found.append(f"{path}.surface")
        # Beyond the wall it lies outdoors, until it goes in again.
        outside = leg.direction == "out" or (outside and leg.direction != "in")
    return tuple(found)
