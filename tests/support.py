"""What the tests share: short ways to a job, a state folder of their own."""

from __future__ import annotations

import atexit
import os
import shutil
import tempfile
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Charger, Job, new_job
from awlmark.core.job.supply import Supply
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import Design, solve

STATE = Path(tempfile.mkdtemp(prefix="awlmark-tests-"))
os.environ["XDG_STATE_HOME"] = str(STATE / "state")
os.environ["XDG_CONFIG_HOME"] = str(STATE / "config")
os.environ["LC_ALL"] = "C.UTF-8"  # no region, whatever the tests run in; those of regions start programs of their own
OFFSCREEN = f"offscreen:configfile={Path(__file__).parent.parent / 'tools' / 'offscreen.json'}"
"""The platform without a monitor, with a screen that has room for every window."""
atexit.register(shutil.rmtree, STATE, ignore_errors=True)
LONG = bool(os.environ.get("AWLMARK_LONG"))
"""The long target: more mutations, larger grids."""


TOLD = (
    Put("supply.service_a", 400.0), Put("supply.spot", "clear"), Put("supply.fault_a", 8000.0),
    Put("supply.breaks_a", 10_000.0), Put("demand.complete", True), Put("demand.floor_m2", 100.0),
    Put("dead_front.spaces", 20), Put("dead_front.complete", True), Put("dead_front.families", ("YF",)),
    Put("dead_front.condition", "sound"), Put("dead_front.clear_wide_m", 0.8), Put("dead_front.clear_deep_m", 1.0),
    Put("dead_front.clear_high_m", 2.1), Put("charger.listed", True), Put("charger.unvented", True),
    Put("charger.exports", False), Put("charger.guarded", True), Put("charger.separate", False),
    Put("charger.living", False), Put("site.low_c", 5.0), Put("site.high_c", 15.0),
)  # fmt: skip
"""Everything of supply, panel and unit that a visit to the site answers, each so that it holds."""


def told(job: Job) -> Job:
    """A job whose questions about supply, panel, unit and every leg are answered, each so that it holds."""
    edits = [*TOLD]
    if job.charger.connection != "hardwired":
        edits += [Put("charger.plug", job.charger.connection), Put("charger.flexible", True)]
    for leg in job.legs:
        edits += [
            Put(f"legs[{leg.id}].{field}", value)
            for field, value in (
                ("exposed", False), ("fire", False), ("edge_m", 0.05), ("beside", 0), ("insulated", False),
                ("deck_clear", True),
            )
        ]  # fmt: skip
    return put(job, *edits)


def entered(text: str, job: Job | None = None) -> Job:
    """A job as it is typed: entries parted by semicolons, on an empty job with both ends marked 75 C."""
    if job is None:
        marked = Put("supply.terminal_c", 75), Put("charger.terminal_c", 75)
        job = put(new_job("Boat club, slip gate"), *marked)
    for entry in filter(None, (part.strip() for part in text.split(";"))):
        job = read_entry(entry, job).job
    return job


@contextmanager
def refused(case: unittest.TestCase, *fields: str) -> Iterator[None]:
    """What happens inside is refused with a sentence that names one of these fields and what would be accepted."""
    with case.assertRaises(InputError) as caught:
        yield
    case.assertIn(caught.exception.field, fields)
    case.assertTrue(caught.exception.problem and caught.exception.accepted)


def straight(
    charge_a: float | None = 48, feet: float = 60, *, method: str | None = None, place: str | None = None, **edits: Any
) -> Job:
    """A straight run to the charger, both ends marked 75 C and everything told; edits are paths, ``__`` for a dot."""
    leg = Leg(id="leg-1", direction="right", length_m=feet * FOOT_M, end="charger", method=method, place=place)
    job = new_job(
        "Boat club, slip gate",
        charger=Charger(nameplate_a=charge_a, terminal_c=75),
        supply=Supply(terminal_c=75),
        legs=(leg,),
    )
    puts = [Put(path.replace("__", "."), value) for path, value in edits.items()]
    return put(told(put(job, *puts)), *puts)


def design(*args: Any, **kwargs: Any) -> Design:
    """A straight job, solved."""
    return solve(straight(*args, **kwargs))


def legs(*readings: tuple[str, float, str]) -> tuple[Leg, ...]:
    """Legs from (direction, feet, end)."""
    return tuple(
        Leg(id=f"leg-{number}", direction=way, length_m=feet * FOOT_M, end=end)
        for number, (way, feet, end) in enumerate(readings, 1)
    )
