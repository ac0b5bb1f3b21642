"""A job in one row of the shelf: its mark, price, how far it came and what is due, without opening it again."""

from __future__ import annotations

import datetime as dt

import msgspec

from awlmark.core.finding import STOP, UNREAD
from awlmark.core.job.model import Job
from awlmark.core.prove.remind import FIRST_DAYS
from awlmark.core.solve.design import Design, solve
from awlmark.core.standing import STAGES, line_state, stage_mark


class Summary(msgspec.Struct, frozen=True):
    """One job as the shelf shows it."""

    name: str
    mark: str
    """Severity of the whole line."""
    state: str
    """The same in words."""
    price: str
    reached: int
    """Stages that are told so far, of eight."""
    due: str
    """What comes next."""
    stage: str = ""
    """Title of the last of them, as the job's rule book calls it."""
    text: str = ""
    """Words that a filter finds it by, beside its name."""


def summarise(job: Job, today: dt.date) -> Summary:
    """Sum a job up for the shelf."""
    design = solve(job)
    mark, state = line_state(design)
    told = [stage for stage in STAGES if stage_mark(design, stage) != UNREAD]
    price = f"{'from ' if design.unpriced else ''}{job.currency}{design.cost:,.0f}" if job.legs else ""
    stage = design.book.words.stages[STAGES[max(len(told) - 1, 0)]]
    return Summary(job.name, mark, state, price, len(told), _due(design, mark, state, today), stage, job.note[:200])


def _due(design: Design, mark: str, state: str, today: dt.date) -> str:
    """The next thing to do: what is broken, what is unsigned, when it is to be looked at again."""
    job = design.job
    if mark == STOP:
        return f"line {state[0].lower()}{state[1:]}"
    if not job.legs:
        return "no line yet"
    if job.guessed:
        return f"{len(job.guessed)} readings guessed"
    if job.prove.readings and not job.prove.signatures:
        return "test sheet not signed"
    if job.prove.signatures:
        when = job.prove.signatures[-1].when[:10]
        try:
            signed = dt.date.fromisoformat(when)
        except ValueError:
            return f"signed {when}"
        first, again = signed + dt.timedelta(days=FIRST_DAYS), signed + dt.timedelta(days=365)
        look = first if first >= today else again
        return f"heat check {'by' if look >= today else 'was due'} {look:%b} {look.day}"
    open_ones = sum(finding.severity == UNREAD for finding in design.findings)
    return f"{open_ones} open" if open_ones else "nothing due"
