"""Sheets for the site: steps for those who build and for the electrician, torque, and what energising waits for."""

from __future__ import annotations

from awlmark.core.build.step import Step
from awlmark.core.build.steps import RESTORE, left_to_electrician, rests_of, steps_of, tools_of
from awlmark.core.build.torque import dials_of, held_back, print_torque, unread
from awlmark.core.finding import UNREAD
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design
from awlmark.paper.pages import Column, Sheets

STEP_COLUMNS = (
    Column("", 6, right=True),
    Column("Step", 30),
    Column("How", 62),
    Column("At", 14, right=True),
    Column("h × hands", 14, right=True),
)


def steps_sheets(sheets: Sheets) -> None:
    """Two sheets of steps, the electrician's apart; tools, what is worn, torque."""
    design = sheets.design
    steps = steps_of(design)
    for title, theirs in (("Steps", False), ("Steps for the electrician", True)):
        sheets.section(title, 260)
        for session, rest in rests_of(design.book).items():
            rows = [
                _step_row(design, number, step)
                for number, step in enumerate(steps, 1)
                if step.session == session and left_to_electrician(design, step) == theirs
            ]
            if rows:
                sheets.heading(session)
                sheets.table(STEP_COLUMNS, rows, tick=True)
                sheets.lines(rest, 9, role="ink2")
    sheets.heading("Tools, and what is worn")
    sheets.lines(", ".join(tools_of(design)) + ".")
    sheets.heading("Torque: seat, tighten, wiggle, tighten, mark")
    source = {
        "label": "its label",
        "instructions": "instructions",
        "annex": f"{design.book.build.torque_source}, fallback",
    }
    screws = []
    for dial in dials_of(design):
        told = (
            "read it off the part" if dial.lbf_in is None else print_torque(dial.lbf_in, design.book.build.torque_unit)
        )
        screws.append((dial.name, told, source.get(dial.source, ""), ("", "once", "wiggled", "twice")[dial.done]))
    columns = (Column("Screw", 24), Column("Torque", 44), Column("From", 24), Column("Tight", 14))
    sheets.table(columns, screws, tick=True)
    if design.job.build.tool:
        sheets.lines(f"Tool: {design.job.build.tool}")
    for note in design.job.build.notes:
        sheets.lines(f"Note: {note.text}" + (f" (picture {note.photo})" if note.photo else ""))


def energise_sheet(sheets: Sheets) -> None:
    """Whether power may come back: only with every torque read, or with a reason that prints here."""
    design = sheets.design
    sheets.section("Energise", 150)
    dial = held_back(design)
    if dial is not None:
        names = ", ".join(one.told for one in unread(design))
        text = f"The torque is not read of: {names}. Read it off each part's label, or give a reason."
        sheets.marked(UNREAD, "Held back: power stays off", text, [design.book.cite("torque")])
        return
    if unread(design):
        names = ", ".join(one.told for one in unread(design))
        sheets.heading("Energised with a torque unread")
        sheets.lines(f"Not read of: {names}. Reason: {design.job.build.overruled}")
    else:
        sheets.lines("Every torque is read.")
    steps = steps_of(design)
    first = next(number for number, step in enumerate(steps) if step.id == RESTORE)
    rows = [_step_row(design, number, step) for number, step in enumerate(steps[first:], first + 1)]
    sheets.table(STEP_COLUMNS, rows, tick=True)
    sheets.lines("Energised by _________________________   on ______________   at ______", 10)


def _step_row(design: Design, number: int, step: Step) -> tuple[str, ...]:
    done = design.job.build.done.get(step.id, "")
    how = step.text + (f" Done {done}." if done else "")
    hours = f"{step.hours:.1f}" + (f" × {step.hands}" if step.hands > 1 else "")
    return f"{number}", step.title, how, print_length(step.at_m, design.job.units), hours
