"""Boxes, bodies and elbows on wire of 4 AWG and larger, and splices in bodies (314.16(C), 314.28)."""

from __future__ import annotations

import functools
import math
from fractions import Fraction
from typing import Final

from awlmark.core.books.nec.edition import MORE, nec
from awlmark.core.books.nec.sizing.boxes import contents_of, large, needed_in3, sums_of
from awlmark.core.books.nec.sizing.work import worked
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.quantities import INCH_M, draw_trade_size, print_gauge
from awlmark.core.run.box_ends import beyond
from awlmark.core.run.line import Walked

STRAIGHT: Final = 8.0
ANGLE: Final = 6.0
"""Length of a pull box over the largest raceway, 314.28(A)."""
CABLE_AS: Final = "EMT"
"""Raceway that stands for a cable of large wire in 314.28(A): the smallest that would take its conductors."""


def tell_pull_boxes(t: Teller) -> list[Finding]:
    """Every pull box, body and pull elbow on the way that its wire or its splices ask something of."""
    found = list[Finding | None]()
    big = large(t.book, t.size)
    for walked in t.case.line.legs:
        end = walked.leg.end
        if end == "box" and big:
            found.append(_pull_box(t, walked))
        elif end == "body" and walked.leg.spliced:
            found.append(_spliced_body(t, walked))
        elif end == "body" and big:
            found.append(_body(t, walked))
        elif end == "pull elbow" and (big or walked.leg.spliced):
            found.append(_elbow(t, walked))
    return [finding for finding in found if finding is not None]


def _largest_pipe(t: Teller, walked: Walked) -> str | None:
    """Largest raceway that meets at the end of a leg, a cable by the raceway its wires would take; None while open."""
    sizes = [_pipe_of(t, each) for each in (walked, beyond(t.case.line, walked)) if each is not None]
    known = [size for size in sizes if size is not None]
    return max(known, key=_inches) if len(known) == len(sizes) else None


def _pipe_of(t: Teller, walked: Walked) -> str | None:
    if not walked.method.cable:
        section = t.case.line.section_at((walked.start_m + walked.end_m) / 2)
        trade = -1 if section is None else int(worked(t).fills.trade[t.row, section.number])
        return t.book.trade_sizes[trade] if trade >= 0 else None
    area = float(worked(t).fills.area_mm2[t.row])
    limits = nec(t.book).fill_mm2[t.book.raceways.index(CABLE_AS), MORE]
    fits = [size for size, limit in zip(t.book.trade_sizes, limits.tolist(), strict=True) if area <= limit + 1e-6]
    return fits[0] if fits else None


@functools.cache
def _inches(trade_size: str) -> float:
    """A trade size as a number of inches."""
    return float(sum(Fraction(piece) for piece in trade_size.replace("-", " ").split()))


def _pull_box(t: Teller, walked: Walked) -> Finding | None:
    """314.28: eight times the largest raceway for a straight pull, six for an angle or a splice."""
    pipe, long = _largest_pipe(t, walked), walked.leg.box_long_m
    cite, place = t.book.cite("pull_box"), {"at_m": walked.end_m, "where": walked.leg.id}
    if pipe is None:
        text = f"{print_gauge(t.size)} at leg {walked.number}: which raceway its box goes by is not known here."
        return Finding(f"box:{walked.leg.id}", UNREAD, "Pull box", text, cite, **place)  # type: ignore[arg-type]
    needed, text = _long_wanted(t.size, pipe, walked.turn_deg > 1e-6 or walked.leg.spliced)
    severity = UNREAD if long is None else grade(long / INCH_M, needed, "least", stepped=True)
    fixes: tuple[Fix, ...] = ()
    if severity != HOLDS:
        inches = math.ceil(needed)
        fixes = (Fix(f"Box of {inches:g} in", (Put(f"legs[{walked.leg.id}].box_long_m", inches * INCH_M),)),)
    return Finding(
        f"box:{walked.leg.id}", severity, "Pull box", text + (" How long is it?" if long is None else ""), cite,
        found=None if long is None else long / INCH_M, needed=needed, unit="in", fixes=fixes,
        ask=f"leg {walked.number} box long " if long is None else "", **place,  # type: ignore[arg-type]
    )  # fmt: skip


@functools.cache
def _long_wanted(size: str, trade_size: str, turns: bool) -> tuple[float, str]:
    """How long a pull box has to be [in], and that in words."""
    needed = _inches(trade_size) * (ANGLE if turns else STRAIGHT)
    kind = "an angle pull or a splice, six" if turns else "a straight pull, eight"
    through = f"{print_gauge(size)} through {draw_trade_size(trade_size)}"
    return needed, f"{through}: {kind} times the largest raceway, {needed:g} in."


def _body(t: Teller, walked: Walked) -> Finding | None:
    """Conduit bodies for 4 AWG and larger are long enough only where they are marked so (314.28(A)(3))."""
    pipe = _largest_pipe(t, walked)
    return Finding(
        id=f"body:{walked.leg.id}",
        severity=NOTE,
        title="Conduit body",
        text=_mark_wanted(t.size, pipe or "1"),
        cite=t.book.cite("pull_box_turn"),
        at_m=walked.end_m,
        where=walked.leg.id,
    )


@functools.cache
def _mark_wanted(size: str, trade_size: str) -> str:
    long = f"six times {draw_trade_size(trade_size)} long"
    return f"A body for {print_gauge(size)} must be marked for it, or be {long}. Read its marking."


def _elbow(t: Teller, walked: Walked) -> Finding:
    """Capped and service elbows hold 6 AWG and smaller, and no splices (314.16(C)(3))."""
    why = "holds no splices" if walked.leg.spliced else f"is for 6 AWG and smaller, not {print_gauge(t.size)}"
    path = f"legs[{walked.leg.id}]"
    fixes = [Fix("Conduit body there", (Put(f"{path}.end", "body"), Put(f"{path}.spliced", False)))]
    if walked.leg.spliced:
        fixes.insert(0, Fix("A box instead", (Put(f"{path}.end", "box"),)))
    return Finding(
        id=f"elbow:{walked.leg.id}",
        severity=STOP,
        title="Pull elbow",
        text=f"The pull elbow at leg {walked.number} {why}.",
        cite=t.book.cite("body"),
        at_m=walked.end_m,
        where=walked.leg.id,
        fixes=tuple(fixes),
    )


def _spliced_body(t: Teller, walked: Walked) -> Finding | None:
    """A body holds splices only where a volume is marked on it, and by that volume (314.16(C)(2))."""
    contents = contents_of(t.case, walked, t.size, int(worked(t).grounds.size[t.row]))
    if contents is None:
        return None
    needed = needed_in3(contents, t.case.job.code)
    volume = walked.leg.box_in3
    fixes = (
        Fix("Pull through unspliced", (Put(f"legs[{walked.leg.id}].spliced", False),)),
        Fix("A box instead", (Put(f"legs[{walked.leg.id}].end", "box"),)),
    )
    cite = t.book.cite("body_splice")
    place = {"at_m": walked.end_m, "where": walked.leg.id}
    ask = f"leg {walked.number} box "
    if needed is None:
        text = (
            f"The volume rule ends at 6 AWG: splices of {print_gauge(t.size)} in the body at leg {walked.number} want "
            "one marked for splices of that gauge. A pull box is the sure way."
        )
        return Finding(f"body:{walked.leg.id}", UNREAD, "Splice in a body", text, t.book.cite("body_pull"), fixes=fixes,
                       **place)  # type: ignore[arg-type]  # fmt: skip
    severity = UNREAD if volume is None else grade(volume, needed, "least")
    told = "No volume read off it" if volume is None else f"{volume:g} in³ is marked on it"
    text = f"Splices in the body at leg {walked.number} need {needed:g} in³ marked on it. {told}."
    return Finding(
        f"body:{walked.leg.id}", severity, "Splice in a body", text, cite, found=volume, needed=needed, unit="in3",
        sums=sums_of(contents), fixes=fixes if severity != HOLDS else (), ask=ask if volume is None else "",
        **place,  # type: ignore[arg-type]
    )  # fmt: skip
