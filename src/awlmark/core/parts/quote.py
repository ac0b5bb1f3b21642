"""What the whole job comes to: parts, tax, hours, margin, rebate; and what was really paid."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal
from typing import Final

import msgspec

from awlmark.core.books import open_book
from awlmark.core.job.by_length import KINDS, UNIT_M
from awlmark.core.job.model import Job
from awlmark.core.parts.takeoff import Part, hours_each
from awlmark.core.run.line import Line


class Estimate(msgspec.Struct, frozen=True):
    """The sums of a quote, in the job's currency."""

    parts: float
    tax: float
    hours: tuple[tuple[str, float], ...]
    """By session of the work, as its steps come to."""
    labour: float | None
    """None while no rate is set."""
    margin: float
    rebate: float
    total: float
    paid: float
    """Receipts entered so far."""
    planned: float
    """What the same lines were listed at."""

    @property
    def all_hours(self) -> float:
        """Hours of one person."""
        return sum(hours for _step, hours in self.hours)


OWN: Final = {
    "permit": 0.3, "check-in": 0.3, "locate": 0.2, "look": 0.2, "through": 0.5, "crew": 0.1, "branches": 0.1,
    "main": 0.1, "lock": 0.1, "try-1": 0.1, "dead": 0.1, "try-2": 0.1, "land-ground": 0.2, "land-charger": 0.4,
    "dead-tests": 0.4, "cover": 0.2, "restore": 0.1, "prove": 0.8,
}  # fmt: skip
"""What a step takes besides its parts [h], ``locate`` once, ``through`` for each wall; common practice."""


def own_hours(line: Line, *, wire_ground: bool) -> float:
    """What the steps of a line take besides its parts [h]: the same for every circuit on it."""
    new = [walked for walked in line.legs if not walked.leg.reused]
    times = {
        "through": sum(walked.crosses for walked in new),
        "land-ground": int(wire_ground),
        "locate": int(any(walked.leg.direction == "trench" for walked in line.legs)),
    }
    return sum(hours * times.get(step, 1) for step, hours in OWN.items())


def rates(job: Job) -> dict[str, float]:
    """Hours by kind of part, of what is sold by length for one unit of it: the user's own over the examples."""
    book = open_book(job.code)
    more = UNIT_M[job.units] / UNIT_M[book.units]
    given = {
        kind: hours * (more if kind.partition(":")[0] in KINDS else 1.0) for kind, hours in book.goods.hours().items()
    }
    return {**given, **{kind: float(text) for kind, text in job.hours.items()}}


def kind_hours(parts: tuple[Part, ...], job: Job) -> dict[str, float]:
    """Hours of one person by kind of part; common practice until the user's own rates stand over it."""
    each = rates(job)
    counted: dict[str, float] = {}
    for part in parts:
        kind = part.key.partition(":")[0]
        counted[kind] = counted.get(kind, 0.0) + hours_each(part.key, each) * part.quantity
    return counted


def cents(amount: float) -> float:
    """An amount [currency] to whole cents, halves up as a till does, a half that floating point hides too."""
    return float(Decimal(f"{amount:.9f}").quantize(Decimal("0.01"), ROUND_HALF_UP))


def estimate(job: Job, parts: tuple[Part, ...], hours: tuple[tuple[str, float], ...]) -> Estimate:
    """What the job comes to.

    ``hours`` are those of the steps, by session. Tax is on parts; margin on parts and labour; the rebate is a share of
    all before it, up to its cap.
    """
    buying = job.buying
    listed = cents(sum(part.total or 0.0 for part in parts))
    tax = cents(listed * buying.tax_percent / 100)
    labour = None if buying.rate_per_h is None else cents(float(buying.rate_per_h) * sum(h for _step, h in hours))
    margin = cents((listed + (labour or 0.0)) * buying.margin_percent / 100)
    whole = listed + tax + (labour or 0.0) + margin
    rebate = cents(whole * buying.rebate_percent / 100)
    if buying.rebate_cap is not None:
        rebate = min(rebate, float(buying.rebate_cap))
    planned = cents(sum(part.total or 0.0 for part in parts if part.key in job.paid))
    paid = cents(sum(float(text) for text in job.paid.values()))
    return Estimate(listed, tax, hours, labour, margin, rebate, cents(whole - rebate), paid, planned)
