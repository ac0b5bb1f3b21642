"""Whether what is bought and bent fits between the corners of the line."""

from __future__ import annotations

from awlmark.core.books import Book
from awlmark.core.finding import NOTE, TIGHT, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.parts.marking import hand_bends
from awlmark.core.parts.sticks import runs_of
from awlmark.core.quantities import draw_trade_size, print_length
from awlmark.core.run.leg_finding import about_leg
from awlmark.core.run.line import Line


def fit_findings(job: Job, line: Line, trades: tuple[str | None, ...], book: Book) -> list[Finding]:
    """Fittings closer together than they are long, and bends by hand that cannot be made as drawn.

    Parameters
    ----------
    job : Job
        For the home units.
    line : Line
        The walked line.
    trades : tuple of str or None
        Trade size by section.
    book : Book
        For the edition's name.
    """
    found = []
    by_id = {walked.leg.id: walked for walked in line.legs}
    for section in line.sections:
        trade = trades[section.number]
        if trade is None or section.method.cable or section.method.flexible:
            continue
        for leg_id, missing, spare in runs_of(line, section).tight(trade):
            walked = by_id[leg_id]
            cut = missing <= spare + 1e-9
            read, short = print_length(walked.leg.length_m, job.units), print_length(missing, job.units)
            pipe, at = draw_trade_size(trade), f"leg {walked.number}"
            text = f"The {pipe} fittings at both ends of {at} take {short} more than its {read}."
            text += (
                " Cut their straight ends back, or bend one by hand." if cut else " Use a body, or bend one by hand."
            )
            ends = [walked.leg, *([line.legs[walked.number - 2].leg] if walked.number > 1 else [])]
            turns = [leg for leg in ends if leg.end == "bend" and leg.bend == "elbow"]
            fixes = tuple(
                Fix(f"Body at leg {by_id[leg.id].number}", (Put(f"legs[{leg.id}].end", "body"),)) for leg in turns
            )
            title = "Fittings close" if cut else "Fittings do not fit"
            cite = f"common practice; {book.cite('fittings')}"
            found.append(about_leg(walked, "fittings", TIGHT, title, text, cite, fixes=fixes))
    for bend in hand_bends(line, trades):
        if bend.marked is None:
            walked = by_id[bend.leg_id]
            elbow = Fix("A bought elbow", (Put(f"legs[{bend.leg_id}].bend", "elbow"),))
            fixes = (elbow,) if walked.leg.bend == "hand" else ()
            text = f"Leg {bend.number}: {bend.why}"
            found.append(about_leg(walked, "bend", NOTE, "Bend by hand", text, "common practice", fixes=fixes))
    return found
