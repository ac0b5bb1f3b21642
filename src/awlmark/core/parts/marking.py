"""The bends of a line that are made by hand, each with its marks on the very piece of the cut list it lies in."""

from __future__ import annotations

import math

import msgspec

from awlmark.core.books.book import Method
from awlmark.core.errors import InputError
from awlmark.core.parts.sticks import CLEAR_M, Bend, Piece, runs_of
from awlmark.core.quantities import draw_trade_size
from awlmark.core.run.bend_marks import BendMark, Marked, mark_offset, mark_saddle3, mark_saddle4, mark_stub
from awlmark.core.run.line import Line, Vector


class HandBend(msgspec.Struct, frozen=True):
    """One bend, or group of bends, on one piece."""

    leg_id: str
    number: int
    """Of the leg."""
    at_m: float
    """On the tape [m]."""
    pipe: str
    """Trade size and method, as people write them."""
    piece: Piece | None
    """That it is bent in; None where a joint would lie in the bend."""
    marked: Marked | None
    """Marks from the piece's end toward the panel; None where it cannot be marked so: ``why`` tells."""
    why: str = ""


def hand_bends(line: Line, trades: tuple[str | None, ...]) -> tuple[HandBend, ...]:
    """Every bend that is made by hand, along the tape.

    Parameters
    ----------
    line : Line
        The walked line.
    trades : tuple of str or None
        Trade size by section.
    """
    found: list[HandBend] = []
    for section in line.sections:
        trade, method = trades[section.number], section.method
        if trade is None or not method.bends:
            continue
        # What was cut before may be kept from another state of the line: where a leg lies now is asked of the line.
        now = {walked.leg.id: walked for walked in section.legs}
        last: tuple[Bend, Piece] | None = None
        for bend, piece, begins in runs_of(line, section).bends(trade, section.start_m):
            walked = now[bend.walked.leg.id]
            at_m = walked.end_m if bend.turns else (walked.start_m + walked.end_m) / 2
            marked, why = None, "A joint would lie in this bend. It wants a longer leg, a bought elbow or a body."
            if bend.start_m + CLEAR_M < 0:
                why = "It would begin before the stick's end. It wants a longer leg, a bought elbow or a body."
            if bend.turns and abs(walked.turn_deg - 90) > 1:
                continue
            if piece is not None:
                same = last is not None and last[1] == piece
                before = last[0] if last is not None and same else None
                marked, why = _marks(bend, before, method, trade, begins)
                if marked is not None and bend.turns and before is not None and before.turns:
                    onward = line.legs[walked.number].heading
                    marked = _turned(marked, now[before.walked.leg.id].heading, onward)
                last = bend, piece
            pipe = f"{draw_trade_size(trade)} {section.method.name}"
            found.append(HandBend(walked.leg.id, walked.number, at_m, pipe, piece, marked, why))
    return tuple(sorted(found, key=lambda bend: bend.at_m))


def _marks(bend: Bend, before: Bend | None, method: Method, trade: str, begins: float) -> tuple[Marked | None, str]:
    """A bend marked on its piece, or why it cannot be; ``before`` is the bend made before it on the same piece."""
    if before is not None and before.end_m > bend.start_m + CLEAR_M:
        return None, "It would begin before the bend ahead of it ends. It wants a longer leg, an elbow or a body."
    leg, at = bend.walked.leg, bend.at_m - begins
    middle, angle = at + leg.length_m / 2, leg.offset_deg
    try:
        if bend.turns:
            return mark_stub(method, trade, at), ""
        if leg.offset_m is not None:
            far = middle + leg.offset_m / math.tan(math.radians(angle)) / 2
            return mark_offset(method, trade, far, leg.offset_m, angle, exact=True), ""
        assert leg.saddle_m is not None
        if leg.saddle_wide_m:
            near = middle - leg.saddle_wide_m / 2
            return mark_saddle4(method, trade, near, leg.saddle_wide_m, leg.saddle_m, angle, exact=True), ""
        return mark_saddle3(method, trade, middle, leg.saddle_m, exact=True), ""
    except InputError as problem:
        return None, f"{problem.problem} It wants {problem.accepted}."


def _turned(marked: Marked, first: Vector, onward: Vector) -> Marked:
    """A 90 that follows another on its piece says how the piece is turned in the bender.

    ``first`` is the way before the bend ahead of it, ``onward`` the way behind this one: back, on, or aside.
    """
    dot = sum(one * other for one, other in zip(first, onward, strict=True))
    way = "the same way as" if dot < -0.5 else "the other way from" if dot > 0.5 else "turned a quarter from"
    *rest, final = marked.marks
    says = f"{final.says}, {way} the bend before"
    return msgspec.structs.replace(marked, marks=(*rest, BendMark(final.at_m, final.angle_deg, says)))
