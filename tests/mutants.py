"""Mutates everything the program reads, then lives with what it takes: solves, draws, exports, prints, reads back.

``python -m tests.mutants --seed 41 --count 2000`` prints every mutant that ended in anything but an answer or a refusal
in words: an exception of another kind, more than five seconds of processor time, an output that cannot be read back. A
mutant is known by kind, seed and number, and can be made again.
"""

from __future__ import annotations

import argparse
import copy
import csv
import functools
import io
import json
import os
import random
import resource
import signal
import sys
import tempfile
import traceback
import zipfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager, redirect_stderr, redirect_stdout
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import msgspec
import openpyxl

from awlmark.cli import NAMES, main
from awlmark.core.entry.cars import add_car
from awlmark.core.entry.read import read_entry
from awlmark.core.entry.words import words
from awlmark.core.errors import AwlmarkError, UnclearError
from awlmark.core.job import file
from awlmark.core.job.edit import Put, put
from awlmark.core.job.limits import Many, OneOf, Text, Within, fields_of, nodes_of
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.options.fixes import fork, quote_fixes
from awlmark.core.panel.load_management import invented_for
from awlmark.core.panel.meter import Choices, read_meter
from awlmark.core.panel.meter_data import demand_edits, kept, write_csv
from awlmark.core.parts.price_file import read_book, write_book
from awlmark.core.prove.log import load_log, log_edits, write_log
from awlmark.core.prove.remind import reminders
from awlmark.core.report import circuit_text, job_values
from awlmark.core.shelf import NEWEST
from awlmark.core.solve.design import Design, beside, settled, solve
from awlmark.data import demo_job
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import STAGES, Look
from awlmark.export import WRITERS
from awlmark.options import EXPORTS
from tests.support import entered, straight

HANG_S = 5.0
"""Processor time that no mutant takes."""
MOST_BYTES = 2**30
STRANGE: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 2, 3, 7, 1000, 2**31, 2**63, -(2**63), 10**30, 0.0, -0.0, 1e-300, 1e300, -1e300, 0.1,
    60, 75, 1e9, "", " ", "0", "-1", "-5", "1e5", "NaN", "inf", "x", "]", "[", "a]", "a.b[c]", "x" * 10_000, "\x00",
    "\x07", "\r\n", "=1+1", "<b>x",
    "\u202e", "\U0001f642", "é", "6", "250", "1/0", "3/4", "1-1/4", "emt", "nm", "cu", "al",
    "box", "charger", "panel", "leg-1", [], {}, [[]], [None], [0], ["x"], {"x": "3"}, {"wire:cu": "3"}, {"": ""},
)  # fmt: skip


class HangError(BaseException):
    """More processor time than any mutant may take."""


@contextmanager
def bounded() -> Iterator[None]:
    """End what takes more than :data:`HANG_S` of this process's time."""

    def ring(_number: int, _frame: object) -> None:
        raise HangError

    before = signal.signal(signal.SIGPROF, ring)
    signal.setitimer(signal.ITIMER_PROF, HANG_S)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)
        signal.signal(signal.SIGPROF, before)


# -- jobs ------------------------------------------------------------------------------------------------------------


@functools.cache
def jobs() -> tuple[Any, ...]:
    """Jobs as plain JSON, each with something the others have not."""
    demo = demo_job()
    year = put(demo, *demand_edits(invented_for(demo), 240.0, "invented"))
    typed = (
        "80a; up 3 emt; right 60 k; al; tail yes; disconnect yes",
        "48a; up 3; right 20 nm box; down 3 emt k",
        "40a; 14-50; up 3 nm; right 20; out 8in stud; right 5 k",
        "48a; down 3 pvc40; out 12in; trench 60; up 4 pvc80 k; leg 3 cover 18in",
    )
    found = [demo, put(year, *add_car(demo)), straight(48, 40, place="attic"), *map(entered, typed)]
    slim = [msgspec.structs.replace(job, prices=dict(list(job.prices.items())[:30])) for job in found]
    return tuple(json.loads(file.dumps(job)) for job in (demo, *slim))


@functools.cache
def edges() -> dict[str, tuple[Any, ...]]:
    """Values at and beyond the limits of fields, by the field's name."""
    found: dict[str, list[Any]] = {}
    for kind in nodes_of(Job):
        for field in fields_of(kind):
            rule, at = field.rule, found.setdefault(field.name, [])
            if isinstance(rule, Within):
                span = rule.high - rule.low
                at += [
                    rule.low,
                    rule.high,
                    rule.low - 1e-9,
                    rule.high + 1e-9,
                    rule.low + span / 2,
                    rule.low + span / 97,
                ]
            elif isinstance(rule, OneOf):
                at += rule.known
            elif isinstance(rule, Text):
                at += ["x" * rule.most, "W" * rule.most, "\n" * rule.most]
            elif isinstance(rule, Many):
                at += [[], [None] * (rule.most + 1)]
    return {name: tuple(values) for name, values in found.items()}


def _places(node: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    pairs = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    for key, value in pairs:
        yield (*path, key)
        yield from _places(value, (*path, key))


def mutate_job(chance: random.Random) -> bytes:
    """The bytes of a job some of whose values are strange, missing, or taken from elsewhere."""
    raw = copy.deepcopy(chance.choice(jobs()))
    places = list(_places(raw))
    for _ in range(chance.choice((1, 1, 1, 2, 3, 6))):
        *above, last = chance.choice(places)
        node = raw
        try:
            for key in above:
                node = node[key]
            old = node[last]
        except (KeyError, IndexError, TypeError):
            # An earlier bite took that place away.
            continue
        way = chance.random()
        named = edges().get(str(last), ())
        if way < 0.4 and named:
            node[last] = chance.choice(named)
        elif way < 0.75:
            node[last] = chance.choice(STRANGE)
        elif way < 0.85 and isinstance(old, (int, float)) and not isinstance(old, bool):
            node[last] = chance.choice((-old, old * 1e3, old / 1e3, old + 1, int(old)))
        elif way < 0.93 and isinstance(old, list) and old:
            node[last] = chance.choice((old[:-1], old * 2, old[::-1], old * 40, old[1:]))
        elif isinstance(node, dict):
            del node[last]
        else:
            node.append(copy.deepcopy(old))
    data = json.dumps(raw).encode()
    if chance.random() < 0.03:
        data = _bitten(data, chance)
    return data


def _bitten(data: bytes, chance: random.Random) -> bytes:
    """Bytes changed, cut out, doubled or put in."""
    found = bytearray(data)
    for _ in range(chance.randrange(1, 7)):
        at = chance.randrange(len(found) or 1)
        way = chance.randrange(4)
        if way == 0 and found:
            found[at] = chance.randrange(256)
        elif way == 1:
            del found[at : at + chance.randrange(1, 40)]
        elif way == 2:
            found[at:at] = chance.choice(
                (b"null", b"-1", b"1e999", b"{", b'"', b"<", b">", b",", b"\n", b"\xff", b"NaN")
            )
        else:
            found[at:at] = found[at : at + chance.randrange(1, 60)]
    return bytes(found)


def drawings(design: Design) -> Iterator[Picture]:
    """Every stage and what stands round it."""
    from awlmark.draw.frame import ladder, lane, loupe, status_strip, tape
    from awlmark.draw.stages.build_view import draw_build
    from awlmark.draw.stages.need_view import draw_need
    from awlmark.draw.stages.panel_view import draw_panel
    from awlmark.draw.stages.parts_view import draw_parts
    from awlmark.draw.stages.place_view import draw_place
    from awlmark.draw.stages.prove_view import draw_prove
    from awlmark.draw.stages.run_view import draw_run
    from awlmark.draw.stages.wire_view import draw_wire

    size = 800.0, 560.0
    looks = {stage: Look(stage=stage, at_m=design.line.length_m / 2) for stage in STAGES}
    yield draw_need(design, looks["need"], *size)
    for page in ("amps", "spaces", "year"):
        yield draw_panel(design, msgspec.structs.replace(looks["panel"], page=page), *size)
    yield draw_place(design, looks["place"], fork(design), *size)
    for page in ("line", "bends"):
        yield draw_run(design, msgspec.structs.replace(looks["run"], run_page=page), *size)
    yield draw_wire(design, beside(design), looks["wire"], *size)
    for page in ("sticks", "quote"):
        yield draw_parts(design, msgspec.structs.replace(looks["parts"], parts_page=page), *size)
    yield draw_build(design, looks["build"], *size)
    yield draw_prove(design, looks["prove"], *size)
    for stage in STAGES:
        yield status_strip.draw_sill(design, looks[stage], 1280)
        yield loupe.draw_loupe(design, looks[stage], 560)
    yield ladder.draw_ladder(design, 560)
    yield lane.draw_lane(design, looks["run"], 1280)
    yield tape.draw_tape(design, looks["run"], 1280)


def live(job: Job, chance: random.Random) -> None:
    """What a job that loads has to bear."""
    design = solve(job)
    for picture in drawings(design):
        picture.answers()
    assert circuit_text(design)
    json.dumps(job_values(design), allow_nan=False)
    for finding in design.findings[:2]:
        quote_fixes(design, finding)
    for leg in job.legs[:3]:
        solve(put(job, Put(f"legs[{leg.id}].length_m", 1.5)))
    assert file.loads(file.dumps(job)) == job
    for name in ("walls.svg", "bends.svg"):
        ElementTree.fromstring(WRITERS[name](design))
    for text in (WRITERS["parts.csv"](design), write_book(job), write_log(design)):
        assert isinstance(text, str)
        assert len({len(row) for row in csv.reader(io.StringIO(text))}) == 1
    if job.prove.signatures:
        assert reminders(job).endswith("END:VCALENDAR\r\n")
    if job.meter is not None:
        assert write_csv(kept(job.meter))
    if chance.random() < 0.1:
        data = WRITERS["parts.xlsx"](design)
        assert isinstance(data, bytes)
        openpyxl.load_workbook(io.BytesIO(data))
        text = WRITERS["walls.dxf"](design)
        assert isinstance(text, str)
        import ezdxf

        ezdxf.read(io.StringIO(text))  # type: ignore[attr-defined]
    if chance.random() < 0.03:
        from pypdf import PdfReader

        from awlmark.paper.packet import packet_pdf

        assert PdfReader(io.BytesIO(packet_pdf(settled(design)))).pages


def try_job(chance: random.Random) -> None:
    """A job's file."""
    live(file.loads(mutate_job(chance)), chance)


# -- importers -------------------------------------------------------------------------------------------------------


def _on_disk(name: str, data: bytes) -> Path:
    path = Path(tempfile.gettempdir()) / f"awlmark-mutant-{os.getpid()}-{name}"
    path.write_bytes(data)
    return path


@functools.cache
def _sources() -> dict[str, bytes]:
    demo = demo_job()
    design = solve(demo)
    small = msgspec.structs.replace(demo, prices=dict(list(demo.prices.items())[:12]))
    book = openpyxl.Workbook()
    for row in csv.reader(io.StringIO(write_book(small))):
        book.active.append(row)
    packed = io.BytesIO()
    book.save(packed)
    hours = "\n".join(f"2025-0{1 + n // 24}-0{1 + n // 24} {n % 24:02d}:00,{1 + n % 7 / 10:.2f},3" for n in range(96))
    readings = "".join(
        f"<IntervalReading><timePeriod><duration>900</duration><start>{1735689600 + 900 * n}</start></timePeriod>"
        f"<value>{200 + n}</value></IntervalReading>"
        for n in range(40)
    )
    espi = (
        '<?xml version="1.0" encoding="UTF-8"?><feed xmlns="http://www.w3.org/2005/Atom"><entry><content>'
        '<ReadingType xmlns="http://naesb.org/espi"><powerOfTenMultiplier>0</powerOfTenMultiplier><uom>72</uom>'
        "<flowDirection>1</flowDirection></ReadingType></content></entry><entry><content><LocalTimeParameters "
        'xmlns="http://naesb.org/espi"><tzOffset>-18000</tzOffset></LocalTimeParameters></content></entry><entry><content>'
        f'<IntervalBlock xmlns="http://naesb.org/espi">{readings}</IntervalBlock></content></entry></feed>'
    )
    log = "test,value,unit,when,who\r\n" + "".join(
        f"{key},{value},V,2026-11-03 10:0{n},Vale\r\n"
        for n, (key, value) in enumerate((("dead 1-2", 0), ("ohm 1-2", 0.08)))
    )
    assert design
    return {
        "book.csv": write_book(small).encode(), "book.xlsx": packed.getvalue(), "log.csv": log.encode(),
        "meter.csv": f"time,Usage kWh,Cost\n{hours}\n".encode(), "meter.xml": espi.encode(),
    }  # fmt: skip


WORDS = (
    b"-1", b"1e400", b"400", b"inf", b"nan", b"=1+1", b"\t", b"x" * 3000, b"2,345", b"31/12/2025", b"12/31/25", b"72",
    b'encoding="hex"', b"<!ENTITY a 'b'>", b"", b"0", b"99999999999", b"PM", b"+14:00", b"wire:cu:xx", b"a]b",
)  # fmt: skip


def _reworded(data: bytes, chance: random.Random) -> bytes:
    """Bytes of a text one of whose values is another word."""
    import re

    spots = list(re.finditer(rb"[^<>,;\s\"=]+", data))
    for _ in range(chance.choice((1, 1, 2, 4))):
        spot = chance.choice(spots)
        data = data[: spot.start()] + chance.choice(WORDS) + data[spot.end() :]
        spots = spots[: max(1, spots.index(spot))]
    return data


def _mutated(name: str, chance: random.Random) -> bytes:
    data = _sources()[name]
    if name == "book.xlsx":
        if chance.random() < 0.3:
            return _bitten(data, chance)
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
            hurt = chance.choice([name for name in old.namelist() if name.endswith((".xml", ".rels"))])
            for member in old.namelist():
                content = old.read(member)
                if member == hurt:
                    content = (_bitten if chance.random() < 0.4 else _reworded)(content, chance)
                new.writestr(member, content)
        return out.getvalue()
    return (_bitten if chance.random() < 0.4 else _reworded)(data, chance)


def try_meter(chance: random.Random) -> None:
    """Interval data, CSV or XML; what is asked is answered with whatever comes first."""
    name = chance.choice(("meter.csv", "meter.xml"))
    path, choices = _on_disk(name, _mutated(name, chance)), Choices()
    for _ in range(5):
        try:
            found = read_meter(path, choices=choices)
        except UnclearError as asked:
            choices = msgspec.structs.replace(choices, **{asked.what: chance.choice(asked.answers)})
            continue
        live_meter(put(demo_job(), *demand_edits(found, 240.0, name)))
        return


def live_meter(job: Job) -> None:
    """A job that took data in is drawn on its stage, written and read again."""
    from awlmark.draw.stages.panel_view import draw_panel

    draw_panel(solve(job), Look(stage="panel", page="year"), 800, 560)
    assert job.meter is not None
    assert write_csv(kept(job.meter))
    assert file.loads(file.dumps(job)) == job


def try_book(chance: random.Random) -> None:
    """A price book, CSV or XLSX."""
    name = chance.choice(("book.csv", "book.xlsx"))
    job = put(demo_job(), *read_book(_on_disk(name, _mutated(name, chance)), demo_job()))
    design = solve(job)
    assert len({len(row) for row in csv.reader(io.StringIO(write_book(job)))}) == 1
    assert WRITERS["parts.csv"](design)
    assert file.loads(file.dumps(job)) == job


def try_log(chance: random.Random) -> None:
    """A test log."""
    path = _on_disk("log.csv", _mutated("log.csv", chance))
    design = solve(demo_job())
    job = put(demo_job(), *log_edits(load_log(path), design))
    assert write_log(solve(job))
    assert file.loads(file.dumps(job)) == job


# -- words -----------------------------------------------------------------------------------------------------------


MORE_WORDS = (
    "up down left right out in through trench leg kind car price read strike sign except probe 48a 6 nm emt pvc40 "
    "3/4 cu al yes no open 3 12in 5' 6-1/2 1/0 250 -1 0 1e9 nan here at wide k box corner 20ft 30C -300F 14-50 "
    "hardwired a panel ] [ . @ \x00 é 🙂"
)


@functools.cache
def _vocabulary() -> tuple[str, ...]:
    first = [name for word in words(NEWEST) for name in word.names]
    more = MORE_WORDS.split()
    return tuple(dict.fromkeys([*first, *more, "x" * 300]))


def try_entry(chance: random.Random) -> None:
    """What is typed: rows of words, one after another on the job that came of the last."""
    job = chance.choice((demo_job(), entered("48a; up 3; right 20 nm box; down 3 emt k")))
    for _ in range(6):
        text = " ".join(chance.choice(_vocabulary()) for _ in range(chance.randrange(1, 7)))
        leg = chance.choice(job.legs).id if job.legs else None
        try:
            made = read_entry(text, job, Spot(leg, (leg,) if leg else (), "wire:cu:6:thwn-2", "drop")).job
            if made is not None and made != job:
                solve(made)
                job = made
        except AwlmarkError:
            continue
    assert file.loads(file.dumps(job)) == job


def try_command(chance: random.Random) -> None:
    """A command line: never a traceback, always one line where there is no answer."""
    options = (
        "--charge-a", "--length", "--code", "--system", "--method", "--size", "--ambient", "--extra-ccc", "--top",
        "--format", "--raceway", "--trade-size", "--conductors", "--where", "--rank", "--to", "--only", "--place",
        "--max-drop", "--other-conductors", "--material", "--connection",
    )  # fmt: skip
    values = (
        "48", "120ft", "json", "nec-2017", "-1", "1e400", "nan", "", "6", "emt", "x" * 5000, "3x6:thwn-2", "1",
        "/dev/null", "drop<=2", "attic", "30C", "-40F", "1/0", "\x00", "é", ",", "price", *EXPORTS[:2],
    )  # fmt: skip
    command = chance.choice([name for name in NAMES if name not in ("demo", "export")])
    words = [command, *(["/nowhere"] if command in ("check", "compare") else [])]
    if chance.random() < 0.6 and command in ("size", "fill"):
        usual = {"size": ["--charge-a", "48", "--length", "120ft"], "fill": ["--raceway", "emt", "--trade-size", "1",
                 "--conductors", "3x6"]}  # fmt: skip
        words += usual[command]
    for _ in range(chance.randrange(5)):
        words += [chance.choice(options), chance.choice(values)]
    out, err = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(err):
        try:
            status = main(words)
        except SystemExit as stop:
            status = int(stop.code or 0)
    assert status in (0, 1, 2), (words, status, err.getvalue())
    assert err.getvalue().count("\n") == (status == 2), (words, err.getvalue())


KINDS: dict[str, Callable[[random.Random], None]] = {
    "job": try_job, "meter": try_meter, "book": try_book, "log": try_log, "entry": try_entry, "command": try_command,
}  # fmt: skip


def failures(kind: str, seed: int, count: int, start: int = 0) -> list[str]:
    """What went wrong among so many mutants of a kind, each with its number."""
    found = []
    for number in range(start, start + count):
        chance = random.Random(f"{kind}:{seed}:{number}")
        try:
            with bounded():
                KINDS[kind](chance)
        except AwlmarkError as told:
            if not str(told) or len(str(told)) > 2000:
                found.append(f"{kind}:{seed}:{number} said {len(str(told))} letters")
        except (Exception, HangError) as problem:  # noqa: BLE001 - each is what this looks for
            last = traceback.extract_tb(problem.__traceback__)[-1]
            place = f"{Path(last.filename).name}:{last.lineno}"
            found.append(f"{kind}:{seed}:{number} {type(problem).__name__} at {place}: {str(problem)[:160]}")
    used = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
    if used > MOST_BYTES:
        found.append(f"{kind}:{seed} took {used / 2**20:.0f} MiB")
    return found


def run() -> int:
    """Run mutants from the command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--start", type=int, default=0)
    parser.add_argument("--kind", choices=KINDS, nargs="*", default=list(KINDS))
    options = parser.parse_args()
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    bad = 0
    for kind in options.kind:
        found = failures(kind, options.seed, options.count, options.start)
        bad += len(found)
        sys.stdout.write(
            f"{kind}: {options.count} mutants, {len(found)} bad\n" + "".join(f"  {line}\n" for line in found)
        )
        sys.stdout.flush()
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(run())
