"""What the tests share: short ways to a job, a state folder of their own."""

from __future__ import annotations

import atexit
import os
import shutil
import tempfile
from pathlib import Path
from typing import Any

from awlmark.core.design import Design, solve
from awlmark.core.job.edit import Put, put
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Charger, Job, new_job
from awlmark.core.job.supply import Supply
from awlmark.core.quantities import FOOT_M

STATE = Path(tempfile.mkdtemp(prefix="awlmark-tests-"))
os.environ["XDG_STATE_HOME"] = str(STATE / "state")
os.environ["XDG_CONFIG_HOME"] = str(STATE / "config")
atexit.register(shutil.rmtree, STATE, ignore_errors=True)
LONG = bool(os.environ.get("AWLMARK_LONG"))
"""The long target: more mutations, larger grids."""


def straight(
    charge_a: float | None = 48, feet: float = 60, *, method: str | None = None, place: str | None = None, **edits: Any
) -> Job:
    """A straight run to the charger with both ends marked 75 C; keyword edits are paths with ``__`` for a dot."""
    leg = Leg(id="leg-1", direction="right", length_m=feet * FOOT_M, end="charger", method=method, place=place)
    job = new_job(
        "Boat club, slip gate",
        charger=Charger(nameplate_a=charge_a, terminal_c=75),
        supply=Supply(terminal_c=75),
        legs=(leg,),
    )
    return put(job, *(Put(path.replace("__", "."), value) for path, value in edits.items()))


def design(*args: Any, **kwargs: Any) -> Design:
    """A straight job, solved."""
    return solve(straight(*args, **kwargs))


def legs(*readings: tuple[str, float, str]) -> tuple[Leg, ...]:
    """Legs from (direction, feet, end)."""
    return tuple(
        Leg(id=f"leg-{number}", direction=way, length_m=feet * FOOT_M, end=end)
        for number, (way, feet, end) in enumerate(readings, 1)
    )
