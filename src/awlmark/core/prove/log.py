"""The log: readings taken in, judged, struck through with a reason, signed; never removed."""

from __future__ import annotations

import csv
import hashlib
import io
import re
from pathlib import Path
from typing import Final

import msgspec

from awlmark.core.decimals import unmistakable
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD
from awlmark.core.job.disk import rows_of_csv
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.site_records import MOST_READINGS, Reading, Signature, Waived
from awlmark.core.plain import cell
from awlmark.core.prove.test import YES, Test, tests_of
from awlmark.core.quantities import print_temperature
from awlmark.core.solve.design import Design

_VALUE: Final = re.compile(r"(?P<over>>|over )?\s*(?P<value>-?\d+(?:[.,]\d+)*)\s*(?P<unit>[a-zµμ°Ω]*)", re.IGNORECASE)
UNITS: Final[dict[str, tuple[str, float]]] = {
    "v": ("V", 1.0), "mv": ("V", 0.001), "a": ("A", 1.0), "ma": ("A", 0.001), "kw": ("kW", 1.0), "w": ("kW", 0.001),
    "ohm": ("ohm", 1.0), "ohms": ("ohm", 1.0), "ω": ("ohm", 1.0), "mohm": ("ohm", 0.001), "milliohm": ("ohm", 0.001),
    "kohm": ("ohm", 1e3), "megohm": ("ohm", 1e6), "gohm": ("ohm", 1e9), "c": ("C", 1.0), "°c": ("C", 1.0),
    "f": ("F", 1.0), "°f": ("F", 1.0), "ms": ("ms", 1.0), "s": ("ms", 1000.0), "ka": ("A", 1000.0),
}  # fmt: skip
POSSIBLE: Final = {
    "V": (0.0, 300.0), "ohm": (0.0, 1e13), "A": (0.0, 200.0), "kW": (0.0, 50.0), "C": (-40.0, 200.0),
    "ms": (0.0, 10_000.0), YES: (0.0, 1.0),
}  # fmt: skip
"""What an instrument can show here; outside it nobody read what they think."""
FAULT_A: Final = 200_000.0
"""The most that a fault current can be [A]."""
LINES_V: Final = 500.0
"""The most between two lines of three [V]."""
PASSED: Final = {"yes": 1.0, "pass": 1.0, "ok": 1.0, "right": 1.0, "no": 0.0, "fail": 0.0, "wrong": 0.0}
"""How it is said that a test is passed or not."""
HEADS: Final = ("test", "value", "unit", "when", "who", "instrument", "conditions", "struck", "signed", "origin")
MOST_BYTES: Final = 4 * 2**20
MADE_UP: Final = "made up"
"""Origin of readings in an invented job."""
LOAD_TESTS: Final = ("amps", "{charger} loaded", "lug 60 min")
"""With a car there, these as well: what it draws, the volts under load, the heat at an hour."""
KILO: Final = 1000.0
EARLY_MIN: Final = 45.0
"""Heat read sooner proves nothing; common practice [min]."""


class Judged(msgspec.Struct, frozen=True):
    """A reading against its band."""

    reading: Reading
    test: Test | None
    severity: str
    text: str


def read_value(text: str, unit: str, within: tuple[float, float] | None = None) -> tuple[float | None, str]:
    """A reading as typed: its value in the test's unit, and why it is none where it makes no sense.

    ``within`` is what an instrument can show, where that is not the unit's own range.
    """
    if unit == YES:
        said = PASSED.get(text.strip().lower())
        return said, "" if said is not None else f"'{text[:30]}' is neither yes nor no."
    match = _VALUE.fullmatch(text.strip())
    if match is None:
        return None, f"'{text[:30]}' is no reading."
    number = unmistakable(match["value"])
    if number is None:
        return None, f"'{text[:30]}' may be thousands or decimals."
    try:
        value, its_unit = float(number), match["unit"].lower()
    except ValueError:
        return None, f"'{text[:30]}' is no reading."
    if match["unit"] in ("Mohm", "MΩ"):
        kind, factor = "ohm", 1e6
    elif not its_unit:
        kind, factor = unit, 1.0
    elif its_unit in UNITS:
        kind, factor = UNITS[its_unit]
    else:
        return None, f"'{match['unit']}' is no unit here; this test is in {unit}."
    value *= factor
    if kind == "F" and unit == "C":
        kind, value = "C", (value - 32) / 1.8
    if kind != unit:
        return None, f"{text.strip()} is in {kind}; this test is in {unit}."
    low, high = within or POSSIBLE[unit]
    if not low <= value <= high:
        return None, f"{text.strip()} cannot be: an instrument shows {low:g} to {high:g} {unit} here."
    return value, ""


def possible(test: Test) -> tuple[float, float]:
    """What an instrument can show on a test, in its unit."""
    low, high = POSSIBLE[test.unit]
    if test.unit == "A" and test.stage == "loop":
        return low, FAULT_A
    return low, LINES_V if test.unit == "V" and test.high > high else high


def judge(design: Design, reading: Reading) -> Judged:
    """A reading against what the design expects."""
    test = next((test for test in tests_of(design) if test.key == reading.test), None)
    if test is None:
        return Judged(reading, None, NOTE, "No test of this design; kept as a note.")
    if reading.value is None:
        return Judged(reading, test, UNREAD, read_value(reading.raw, test.unit, possible(test))[1] or "Not read.")
    if test.low - 1e-12 <= reading.value <= test.high + 1e-12:
        if test.stage == "heat" and minutes_of(test.key) < EARLY_MIN:
            return Judged(reading, test, NOTE, "Within its band, and too early: heat needs an hour at steady current.")
        return Judged(reading, test, HOLDS, "Within its band.")
    side = "above" if reading.value > test.high else "below"
    if side == "below" and test.below_is_load:
        text = "Less than the circuit gives: the car, the cord, its temperature or a setting asks for no more."
        return Judged(reading, test, NOTE, text)
    limit = test.high if side == "above" else test.low
    units = design.job.units
    found, edge = print_value(reading.value, test.unit, units), print_value(limit, test.unit, units)
    said = f"{found} is {side} {edge}, {test.source}."
    return Judged(reading, test, STOP if test.strict else TIGHT, said)


def judged(design: Design) -> tuple[Judged, ...]:
    """Every reading that still counts, in the order it was taken."""
    return tuple(judge(design, reading) for reading in design.job.prove.readings if not reading.struck)


def latest(design: Design) -> dict[str, Judged]:
    """The last reading of each test that still counts."""
    return {each.reading.test: each for each in judged(design)}


def print_value(value: float, unit: str, units: str = "m") -> str:
    """A reading in words; temperatures in the job's home units."""
    if unit == "C":
        return print_temperature(value, units)
    if unit == "ohm":
        if value >= 1e6:
            return f"{value / 1e6:,.0f} MΩ"
        return f"{value:.3f} Ω" if value < 10 else f"{value:,.1f} Ω"
    if unit == YES:
        return "yes" if value else "no"
    if unit == "A" and value >= KILO:
        return f"{value / KILO:.2f} kA"
    return f"{value:.{2 if unit == 'kW' else 0 if unit == 'ms' else 1}f} {unit}"


def last_reading(design: Design, key: str) -> float | None:
    """The last reading of a test that counts and lies within reason; None where there is none."""
    values = [one.value for one in design.job.prove.readings if one.test == key and not one.struck]
    last = values[-1] if values else None
    return last if last is not None and last > 0 else None


def add_reading(job: Job, test: Test, raw: str, when: str, who: str = "", instrument: str = "") -> tuple[Put, ...]:
    """Edits that log a reading; what makes no sense is kept as it was typed, and marked unread."""
    readings = job.prove.readings
    value, _why = read_value(raw, test.unit, possible(test))
    new = Reading(id=f"r{len(readings) + 1}", test=test.key, value=value, raw=raw.strip()[:60], when=when, who=who,
                  instrument=instrument)  # fmt: skip
    return (Put("prove.readings", (*readings, new)),)


def strike(job: Job, number: int, reason: str) -> tuple[Put, ...]:
    """Edits that strike a reading through; it stays in the log.

    Raises
    ------
    InputError
        For a reading that is not there, is struck already, was signed, or without a reason.
    """
    readings = job.prove.readings
    if not 1 <= number <= len(readings):
        raise InputError(
            "strike", f"There is no reading {number}.", f"1 to {len(readings)}" if readings else "a reading"
        )
    if readings[number - 1].signed:
        raise InputError("strike", f"Reading {number} was signed and stays as it is.", "a new reading beside it")
    if len(reason.split()) < 2:
        raise InputError("strike", "It wants a reason, in words; the reason stays.", "such as strike 4 probe on paint")
    changed = msgspec.structs.replace(readings[number - 1], struck=reason[:120])
    return (Put("prove.readings", (*readings[: number - 1], changed, *readings[number:])),)


def minutes_of(key: str) -> float:
    """Minutes [min] in the name of a heat test, such as ``lug 60 min``."""
    return float(key.split()[1])


def waive(job: Job, test: Test, reason: str) -> tuple[Put, ...]:
    """Edits that let a test be signed over, unread or out of its band, for a reason that prints.

    Raises
    ------
    InputError
        Without a reason in words.
    """
    if len(reason.split()) < 2:
        raise InputError("except", "It wants a reason, in words; the reason prints.", "such as except kw no display")
    kept = tuple(one for one in job.prove.waived if one.test != test.key)
    return (Put("prove.waived", (*kept, Waived(test=test.key, reason=reason[:160]))),)


def must_tests(design: Design) -> tuple[Test, ...]:
    """Tests without which nobody signs; with a car there, the load and the heat at an hour as well."""
    tests = tests_of(design)
    loaded = [key.format(charger=design.book.prove.ends[1]) for key in LOAD_TESTS] if design.job.need.cars else []
    return tuple(test for test in tests if test.must or test.key in loaded)


def wanting(design: Design) -> tuple[tuple[Test, str], ...]:
    """Tests that keep anybody from signing, each with why: not read, or out of its band, and without a reason."""
    read = latest(design)
    waived = {one.test for one in design.job.prove.waived}
    found = []
    for test in must_tests(design):
        each = read.get(test.key)
        if test.key in waived or (each is not None and each.severity in (HOLDS, NOTE)):
            continue
        found.append((test, "not read" if each is None else each.text))
    return tuple(found)


def sign(design: Design, who: str, when: str) -> tuple[Put, ...]:
    """Edits that freeze every reading so far under a new revision.

    Raises
    ------
    InputError
        Without a name, without readings, while a needed torque is unread, while a strict test fails, or while a test
        that has to be read is not, or lies out of its band, without a reason.
    """
    from awlmark.core.build.torque import want_torques

    job = design.job
    open_ones = [reading for reading in job.prove.readings if not reading.signed]
    if len(who) < 2:
        raise InputError("sign", "Who signs?", "a name, such as sign R. Vale")
    if not open_ones:
        raise InputError("sign", "There is nothing new to sign.", "a reading first")
    waived = {one.test for one in job.prove.waived}
    read = latest(design)
    failing = next((each for key, each in read.items() if each.severity == STOP and key not in waived), None)
    if failing is not None:
        raise InputError(
            "sign",
            f"{failing.test.name if failing.test else 'A test'} fails: {failing.text}",
            "a repair, then a new reading",
        )
    missing = wanting(design)
    if missing:
        names = ", ".join(test.called for test, _why in missing[:5]) + (" and more" if len(missing) > 5 else "")
        test, why = missing[0]
        raise InputError(
            "sign", f"{len(missing)} needed tests do not hold: {names}. {test.name}: {why}",
            f"read {test.called} and its value, or except {test.called} and the reason",
        )  # fmt: skip
    want_torques(design, "sign")
    revision = len(job.prove.signatures) + 1
    frozen = tuple(
        reading if reading.signed else msgspec.structs.replace(reading, signed=revision)
        for reading in job.prove.readings
    )
    mark = Signature(revision=revision, who=who[:60], when=when, digest=digest(design, frozen))
    return Put("prove.readings", frozen), Put("prove.signatures", (*job.prove.signatures, mark))


def digest(design: Design, readings: tuple[Reading, ...]) -> str:
    """Twelve letters that stand for a design and its readings."""
    job = design.job.with_run(prove=msgspec.structs.replace(design.job.prove, readings=readings, signatures=()))
    return hashlib.sha256(msgspec.json.encode(job)).hexdigest()[:12]


def write_log(design: Design) -> str:
    """The log as CSV text."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEADS)
    units = {test.key: test.unit for test in tests_of(design)}
    for one in design.job.prove.readings:
        value = one.raw if one.value is None else f"{one.value:g}"
        unit = units.get(one.test, "") if one.value is not None else ""
        cells = (
            one.test,
            value,
            unit,
            one.when,
            one.who,
            one.instrument,
            one.conditions,
            one.struck,
            str(one.signed or ""),
            MADE_UP if design.job.made_up else "",
        )
        writer.writerow([cell(text) for text in cells])
    return out.getvalue()


def read_log(text: str, design: Design) -> tuple[Put, ...]:
    """Edits that take in readings from CSV; tests this design does not have, and values that make no sense, are kept.

    Raises
    ------
    InputError
        For a file without the columns test and value.
    """
    return log_edits([row for row in csv.reader(io.StringIO(text)) if any(cell.strip() for cell in row)], design)


def log_edits(rows: list[list[str]], design: Design) -> tuple[Put, ...]:
    """Edits that take in rows of a log (:func:`read_log`).

    Raises
    ------
    InputError
        For rows without the columns test and value.
    """
    heads = [cell.strip().lower() for cell in rows[0]] if rows else []
    if "test" not in heads or "value" not in heads:
        raise InputError("log", "It has no columns test and value.", f"a first row with {', '.join(HEADS)}")
    tests = {test.key: test for test in tests_of(design)}
    found = list(design.job.prove.readings)
    for row in rows[1:]:
        cells = dict(zip(heads, (cell.strip().removeprefix("'") for cell in row), strict=False))
        raw = f"{cells.get('value', '')} {cells.get('unit', '')}".strip()
        key = cells.get("test", "")
        value = read_value(raw, tests[key].unit, possible(tests[key]))[0] if key in tests else None
        found.append(
            Reading(id=f"r{len(found) + 1}", test=key[:40], value=value, raw=raw[:60], when=cells.get("when", "")[:40],
                    who=cells.get("who", "")[:60], instrument=cells.get("instrument", "")[:60],
                    conditions=cells.get("conditions", "")[:120], struck=cells.get("struck", "")[:120])
        )  # fmt: skip
    return (Put("prove.readings", tuple(found)),)


def load_log(path: Path) -> list[list[str]]:
    """Rows of a log's file.

    Raises
    ------
    FileError
        For a file that cannot be read as text, or is larger than any log.
    """
    return rows_of_csv(path, MOST_BYTES, MOST_READINGS, "test log")


def out_of_order(design: Design) -> tuple[int, ...]:
    """Numbers of readings whose time lies before the one above."""
    found, last = [], ""
    for number, reading in enumerate(design.job.prove.readings, 1):
        if reading.when and last and reading.when < last:
            found.append(number)
        last = max(last, reading.when)
    return tuple(found)
