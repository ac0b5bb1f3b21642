"""What is bought by length: in the job's own unit, and what becomes of its prices when that unit changes."""

from __future__ import annotations

import math
from typing import Final

from msgspec.structs import replace

from awlmark.core.job.model import Job
from awlmark.core.quantities import FOOT_M

KINDS: Final = (
    "wire", "cable", "flexible", "control cable", "warning ribbon", "pull string", "copper tail", "warning tape",
    "duct", "sleeving", "tails", "earth",
)  # fmt: skip
"""Kinds of part that are sold by length, by the first word of their key."""
UNIT_M: Final = {"ft": FOOT_M, "m": 1.0}
"""What is sold of them at least [m], by the unit of the job."""


def bought(length_m: float, units: str) -> float:
    """A length as it is bought: whole feet, or whole metres [ft or m, as ``units`` says]."""
    return float(math.ceil(length_m / UNIT_M[units] - 1e-6))


def in_units(job: Job, units: str) -> Job:
    """The job in another unit of length: prices, hours, stock and coils of what is sold by length go along.

    There and back gives the same again: prices keep six decimals, coils two.
    """
    if units == job.units:
        return job
    more = UNIT_M[units] / UNIT_M[job.units]
    return replace(
        job,
        units=units,
        prices={
            _coil(key, 1 / more): text if "@" in key else _told(text, key, more, money=True)
            for key, text in job.prices.items()
        },
        price_notes={_coil(key, 1 / more): text for key, text in job.price_notes.items()},
        hours={kind: _told(text, kind, more) for kind, text in job.hours.items()},
        stock={key: _told(text, key, 1 / more) for key, text in job.stock.items()},
        delivered={key: _told(text, key, 1 / more) for key, text in job.delivered.items()},
    )


def _long(key: str) -> bool:
    return key.partition(":")[0].partition("@")[0] in KINDS


def _told(text: str, key: str, more: float, *, money: bool = False) -> str:
    """A price or a number of a unit, told for the other one; of what is no length as it is."""
    if not _long(key):
        return text
    told = _plain(float(text) * more, 6)
    whole, dot, part = told.partition(".")
    return f"{whole}.{part:0<2}" if money and (dot or "." in text) else told


def _coil(key: str, more: float) -> str:
    """The key of a coil with its length in the other unit."""
    plain, pack, size = key.rpartition("@")
    return f"{plain}@{_plain(float(size) * more, 2)}" if pack and _long(key) else key


def _plain(value: float, places: int) -> str:
    whole = round(value)
    # What came from a whole number comes back to it.
    near = abs(value - whole) < (0.02 if places == 2 else 1e-5)
    return f"{whole}" if near else f"{value:.{places}f}".rstrip("0").rstrip(".")
