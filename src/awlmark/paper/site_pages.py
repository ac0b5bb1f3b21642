"""Sheets for the site: steps for those who build and for the electrician, torque, and the test sheet."""

from __future__ import annotations

from awlmark.core.build.step import Step
from awlmark.core.build.steps import RESTORE, RESTS, SESSIONS, left_to_electrician, steps_of, tools_of
from awlmark.core.build.torque import dials_of, held_back, print_torque, unread
from awlmark.core.finding import UNREAD
from awlmark.core.prove.at_setting import by_setting
from awlmark.core.prove.diagnose import meanings
from awlmark.core.prove.log import judge, print_value
from awlmark.core.prove.test import Test, tests_of
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, Picture
from awlmark.draw.kit.severity_marks import NAMES
from awlmark.paper.pages import Column, Sheets
from awlmark.paper.pdf import write_pdf

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
        sheets.begin(title)
        for session in SESSIONS:
            rows = [
                _step_row(design, number, step)
                for number, step in enumerate(steps, 1)
                if step.session == session and left_to_electrician(design, step) == theirs
            ]
            if rows:
                sheets.heading(session)
                sheets.table(STEP_COLUMNS, rows, tick=True)
                sheets.lines(RESTS[session], 9, role="ink2")
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
        told = "read it off the part" if dial.lbf_in is None else print_torque(dial.lbf_in)
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
    sheets.begin("Energise")
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


def _settings(sheets: Sheets) -> None:
    """What the charger should show at each of its settings."""
    units = sheets.design.job.units
    rows = [
        tuple(print_value(value, unit, units) for value, unit in ((at.amps, "A"), (at.volts, "V"), (at.kw, "kW")))
        for at in by_setting(sheets.design)
    ]
    if rows:
        sheets.heading("At each setting, usual service")
        columns = (
            Column("Setting", 20, right=True),
            Column("At the charger", 24, right=True),
            Column("Power", 20, right=True),
        )
        sheets.table(columns, rows, size=9.0)


def _step_row(design: Design, number: int, step: Step) -> tuple[str, ...]:
    done = design.job.build.done.get(step.id, "")
    how = step.text + (f" Done {done}." if done else "")
    hours = f"{step.hours:.1f}" + (f" × {step.hands}" if step.hands > 1 else "")
    return f"{number}", step.title, how, print_length(step.at_m, design.job.units), hours


def test_sheet(sheets: Sheets) -> None:
    """Every test with its band and what was read; struck readings with their reasons; what the readings mean."""
    design = sheets.design
    units, tests = design.job.units, {test.key: test for test in tests_of(design)}
    sheets.begin("Test sheet")
    if design.job.made_up:
        sheets.stamped("Made up")
        sheets.lines("Made up: an invented job and invented readings. No test of a real circuit.", 11, BOLD)
    rows = []
    for number, reading in enumerate(design.job.prove.readings, 1):
        each = judge(design, reading)
        found = reading.raw
        if each.test is not None and reading.value is not None:
            found = print_value(reading.value, each.test.unit, units)
        verdict = f"struck: {reading.struck}" if reading.struck else NAMES[each.severity]
        name = each.test.name if each.test else reading.test
        band = _band(each.test, units) if each.test else ""
        who = ", ".join(part for part in (reading.who, reading.instrument) if part)
        signed = f"{reading.signed}" if reading.signed else ""
        rows.append((f"{number}", reading.when, name, found, band, verdict, who, signed))
    columns = (
        Column("", 5, right=True), Column("When", 30), Column("Test", 38), Column("Found", 16, right=True),
        Column("Expected", 28, right=True), Column("", 16), Column("By", 16), Column("Rev", 7, right=True),
    )  # fmt: skip
    sheets.table(columns, rows, size=9.0)
    missing = [test.name for key, test in tests.items() if key not in {one.test for one in design.job.prove.readings}]
    if missing:
        sheets.heading("Not read")
        sheets.lines("; ".join(missing) + ".")
    _settings(sheets)
    meant = meanings(design)
    if meant:
        sheets.heading("What the readings mean")
        for meaning in meant:
            sheets.marked(meaning.severity, meaning.title, meaning.text, [meaning.do] if meaning.do else [])
    if design.job.prove.waived:
        sheets.heading("Signed over, with reasons")
        for one in design.job.prove.waived:
            sheets.lines(f"{tests[one.test].name if one.test in tests else one.test}: {one.reason}")
    sheets.heading("Signed")
    for mark in design.job.prove.signatures:
        sheets.lines(f"Revision {mark.revision}: {mark.who}, {mark.when}, {mark.digest}")
    if not design.job.prove.signatures:
        sheets.lines("Not signed.")


def _band(test: Test, units: str) -> str:
    if test.high > 1e9:
        return f"{print_value(test.low, test.unit, units)} up"
    return f"{print_value(test.low, test.unit, units)} to {print_value(test.high, test.unit, units)}"


def test_pages(design: Design) -> list[Picture]:
    """The test sheet on its own pages."""
    sheets = Sheets(design)
    test_sheet(sheets)
    return sheets.finished()


def tests_pdf(design: Design) -> bytes:
    """The test sheet as PDF."""
    return write_pdf(test_pages(design), f"{design.job.name}: test sheet")
