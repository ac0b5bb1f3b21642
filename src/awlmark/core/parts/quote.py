"""What the whole job comes to: parts, tax, hours, margin, rebate; and what was really paid."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal

import msgspec

from awlmark.core.job.model import Job
from awlmark.core.parts.pricebook import example_hours
from awlmark.core.parts.takeoff import Part


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


def rates(job: Job) -> dict[str, float]:
    """Hours by kind of part: the user's own over the examples."""
    return {**example_hours(), **{kind: float(text) for kind, text in job.hours.items()}}


def kind_hours(parts: tuple[Part, ...], job: Job) -> dict[str, float]:
    """Hours of one person by kind of part; common practice until the user's own rates stand over it."""
    each = rates(job)
    counted: dict[str, float] = {}
    for part in parts:
        kind = part.key.partition(":")[0]
        counted[kind] = counted.get(kind, 0.0) + each.get(kind, 0.0) * part.quantity
    return counted


def cents(amount: float) -> float:
    """An amount to whole cents, halves up as a till does; what floating point hides of a half is given back."""
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
