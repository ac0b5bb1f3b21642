"""The bends of a line that are made by hand, each with its marks."""

from __future__ import annotations

import functools
from typing import Final

import msgspec

from awlmark.core.book.tables import number, printed
from awlmark.core.errors import InputError
from awlmark.core.quantities import FOOT_M, INCH_M, draw_trade_size
from awlmark.core.run.line import Line, Walked
from awlmark.core.run.marks import (
    METHODS,
    Marked,
    mark_back_to_back,
    mark_offset,
    mark_saddle3,
    mark_saddle4,
    mark_stub,
)

STICK_M: Final = 10 * FOOT_M
"""Raceway comes in such lengths."""


class HandBend(msgspec.Struct, frozen=True):
    """One bend, or group of bends, on one stick."""

    leg_id: str
    number: int
    """Of the leg."""
    at_m: float
    """On the tape [m]."""
    pipe: str
    """Trade size and method, as people write them."""
    marked: Marked | None
    """None where it cannot be marked so; ``why`` tells."""
    why: str = ""


@functools.cache
def outside_m(method: str, trade_size: str) -> float:
    """Outside diameter of a raceway [m]; nothing known is an inch."""
    for row in printed("raceway_outside_diameter").rows:
        if row["raceway"] == method.upper() and row["trade_size"] == trade_size:
            return number(row["outside_diameter_in"]) * INCH_M
    return INCH_M


def hand_bends(line: Line, trades: tuple[str | None, ...]) -> tuple[HandBend, ...]:
    """Every bend that is made by hand.

    Parameters
    ----------
    line : Line
        The walked line.
    trades : tuple of str or None
        Trade size by section.
    """
    trade_of = {walked.leg.id: trades[section.number] for section in line.sections for walked in section.legs}
    found: list[HandBend] = []
    for place, walked in enumerate(line.legs):
        trade = trade_of.get(walked.leg.id)
        if trade is None or walked.method.key not in METHODS:
            continue
        following = line.legs[place + 1] if place + 1 < len(line.legs) else None
        for at_m, doing in _shapes(walked, following, trade):
            try:
                marked, why = doing(), ""
            except InputError as problem:
                marked, why = None, f"{problem.problem} It wants {problem.accepted}."
            pipe = f"{draw_trade_size(trade)} {walked.method.name}"
            found.append(HandBend(walked.leg.id, walked.number, at_m, pipe, marked, why))
    return tuple(found)


def _shapes(walked: Walked, following: Walked | None, trade: str):  # type: ignore[no-untyped-def]
    """What is bent within a leg and at its end: the place on the tape, and how it is marked."""
    leg, method = walked.leg, walked.method.key
    middle = walked.start_m + leg.length_m / 2
    out = outside_m(method, trade)
    half = min(leg.length_m / 2, STICK_M / 2)
    if leg.offset_m is not None:
        yield middle, functools.partial(mark_offset, trade, half, leg.offset_m, leg.offset_deg)
    if leg.saddle_m is not None and leg.saddle_wide_m:
        yield middle, functools.partial(mark_saddle4, trade, half, leg.saddle_wide_m, leg.saddle_m, leg.offset_deg)
    elif leg.saddle_m is not None:
        yield middle, functools.partial(mark_saddle3, trade, half, leg.saddle_m)
    if leg.bend != "hand" or following is None or walked.pulls or abs(walked.turn_deg - 90) > 1:
        return
    stub = min(leg.length_m, following.leg.length_m, STICK_M - 12 * INCH_M)
    twice = following.leg.bend == "hand" and not following.pulls and following.leg.length_m < STICK_M / 2
    if twice and abs(following.turn_deg - 90) <= 1 and leg.length_m < STICK_M / 3:
        yield (
            walked.end_m,
            functools.partial(mark_back_to_back, method, trade, leg.length_m, following.leg.length_m, out),
        )
    else:
        yield walked.end_m, functools.partial(mark_stub, method, trade, stub, out)
