"""The steps of the work as the book has them, and what is asked of them: the next one, hours, tools, whose they are."""

from __future__ import annotations

import functools
from typing import Final

from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.build.step import Step
from awlmark.core.parts.quote import OWN
from awlmark.core.solve.design import Design

RESTS: Final = {
    "Prepare": "Rest here: nothing is open.",
    "Raceway": "Rest here: the pipe is empty, its ends closed.",
    "Cable": "Rest here: the cable is dead, its ends coiled and taped.",
    "Power down": "Do not rest here: go on, or restore power and begin again.",
    "Pull and land": "Rest only with every conductor landed or capped and the cover on.",
    "Close and energise": "Done.",
}
"""Sessions in their order; between two of them the work may rest for the night."""
NIGHTS: Final = {
    "Prepare": "Then nothing is open, and what came is under cover.",
    "Raceway": "Then the pipe is empty, its ends and every box closed, the trench filled or fenced.",
    "Cable": "Then the cable is dead, its ends coiled, taped and out of reach, the trench filled or fenced.",
    "Pull and land": "Then every conductor is landed or capped, the cover is on, the new breaker off and locked.",
}
"""Sessions after which the work may stop for the night, and what has to be so then; common practice."""
RESTORE: Final = "restore"
"""The step that energises: it waits for every torque and for the dead tests."""
DEAD_TESTS: Final = "dead-tests"
LANDINGS: Final = ("land-ground", "land-breaker", "land-charger")


def rests_of(book: Book) -> dict[str, str]:
    """Sessions in their order, each with what is told where it ends."""
    return book.build.rests or RESTS


def nights_of(book: Book) -> dict[str, str]:
    """Sessions after which the work may stop for the night, and what has to be so then."""
    return book.build.nights or NIGHTS


@functools.lru_cache(maxsize=2)
def steps_of(design: Design) -> tuple[Step, ...]:
    """Every step of a design that has a circuit; none before that."""
    if design.circuit is None or not design.line.legs:
        return ()
    # What a step takes besides its parts is the same in every job.
    own = design.book.build.own_hours or OWN
    return tuple(
        replace(step, hours=step.hours + own.get(step.id.partition(":")[0], 0.0))
        for step in design.book.build.steps(design)
    )


def left_to_electrician(design: Design, step: Step) -> bool:
    """Whether a step is theirs, by its nature or by the user's choice."""
    return step.electrician or step.id in design.job.build.electrician


def next_step(design: Design) -> Step | None:
    """The first step that is not done."""
    return next((step for step in steps_of(design) if step.id not in design.job.build.done), None)


def hours_of(design: Design) -> tuple[tuple[str, float], ...]:
    """Hours of one person by session: the steps' own sum, which the quote goes by."""
    found: dict[str, float] = {}
    for step in steps_of(design):
        found[step.session] = found.get(step.session, 0.0) + step.hours
    return tuple((session, round(hours, 2)) for session, hours in found.items())


def tools_of(design: Design) -> tuple[str, ...]:
    """Tools that the steps name, each once, and what is worn."""
    named = dict.fromkeys(tool for step in steps_of(design) for tool in step.tools)
    return (*named, design.book.build.wear) if named else ()
