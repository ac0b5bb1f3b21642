"""A rule book that nobody wrote: three sizes, two checks, one pipe and one cable, for the tests alone."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from unittest import mock

import numpy as np

from awlmark.core import books, shelf
from awlmark.core.arrays import Flags, Floats
from awlmark.core.books.book import EARTH, LINE, NEUTRAL, YES, Bending, Book, Conductor, Method, Portable
from awlmark.core.books.rules import (
    BuildRules,
    Check,
    CircuitRules,
    Goods,
    PanelRules,
    PlaceRules,
    ProveRules,
    RunRules,
)  # fmt: skip
from awlmark.core.build.fitting import raceway_steps
from awlmark.core.build.step import Step
from awlmark.core.circuit.case import Case, Table, Work
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.terms import Terms
from awlmark.core.circuit.weakest_link import Link, tell_weakest
from awlmark.core.finding import Finding
from awlmark.core.job.model import Job
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.parts.run_items import count_way, count_wire
from awlmark.core.parts.tally import Tally
from awlmark.core.prove.network import circuit_of
from awlmark.core.prove.test import Test
from awlmark.core.run.bends import check_bends
from awlmark.core.run.line import Line
from awlmark.core.run.walls import wall_findings
from awlmark.core.solve.design import Design

CODE = "toy-1"
SIZES = ("S", "M", "L")
CARRIES_A = np.array([20.0, 40.0, 80.0])
WIRES = (Conductor(LINE, "L", "brown"), Conductor(NEUTRAL, "N", "blue"), Conductor(EARTH, "E", "green"))
BENDING = Bending({"20": (0.1, 0.12), "32": (0.15, 0.18)}, {}, (), {"20": (0.03, 0.02), "32": (0.03, 0.02)}, {})


def method(key: str, name: str, *, cable: bool) -> Method:
    """A method with the traits of a plain one."""
    return Method(
        key=key, name=name, cable=cable, raceway=-1 if cable else 0, support=key, metal=False, factor_c=None,
        limit_c=None, insulated_c=None, largest="", aluminium=False, solid_to="", outdoors=YES, buried=YES,
        hottest_c=None, place_cite="", ampacity_cite="", bend_cite="bends", flexible=False, soft=cable, hit_cite="",
        guards_riser=False, joint="" if cable else "glued", bends="", grows=False, ground_path=False, around="pvc",
        sun="yes", screw_proof=False, rusts=False, cover_group="", nipple="", family="", bushed=False, stronger="",
        alternative="", chip=1, compared=1, stick_m=0.0 if cable else 3.0, bending=BENDING,
    )  # fmt: skip


def open_case(job: Job, book: Book, line: Line) -> Case:
    """One line and a neutral, whatever is connected."""
    return Case(
        job=job, book=book, line=line, charge_a=job.charger.nameplate_a or 0.0, receptacle=None, wires=WIRES, hots=1,
        neutral=True, volts=SYSTEMS[job.supply.system][1], raceway_ground=False,
    )  # fmt: skip


def work(table: Table) -> Work:
    """Every size carries what the table says; a pipe takes the smallest trade size up to M."""
    groups, rows, sections = len(table.breaker_a), len(table.hot), len(table.case.sections)
    carried = np.tile(CARRIES_A, (groups, 1))
    enough = carried >= table.breaker_a[:, None]
    smallest = np.where(enough.any(axis=1), np.argmax(enough, axis=1), len(SIZES)).astype(float)
    pipe = np.array([not section.method.cable for section in table.case.sections], dtype=bool)
    trade = np.where(pipe[None, :], np.where(table.hot[:, None] > 1, 1, 0), -1).reshape(rows, sections)
    fits = np.ones((rows, sections, 2), dtype=bool)
    return Work((70,) * groups, carried, carried, smallest, carried, table.hot, trade, fits)


def lost(table: Table) -> Floats:
    """Two volts, a volt and half a volt, by size."""
    return np.array([2.0, 1.0, 0.5])[table.hot]


def breaker(table: Table, _work: Work) -> Terms:
    """The breaker carries the charge."""
    found = np.nan_to_num(table.breaker_a[table.group], posinf=0.0)
    return Terms(found, np.full(found.shape, table.case.charge_a), stepped=True)


def carries(table: Table, done: Work) -> Terms:
    """The size carries what the breaker lets through."""
    needed = np.nan_to_num(table.breaker_a[table.group], posinf=1e4)
    return Terms(done.usable_a[table.group, table.hot], needed, stepped=True)


def tell(t: Teller) -> list[Finding]:
    """Both checks in words."""
    return [
        Finding("breaker", t.severity("breaker"), "Breaker", f"{t.breaker_a:g} A.", t.book.cite("breaker")),
        Finding("carries", t.severity("carries"), "Size", f"{t.wire} carries it.", t.book.cite("carries")),
    ]


def count_end(tally: Tally) -> None:
    """A breaker and the unit."""
    ratings = sorted(set(tally.table.breaker_a.tolist()))
    index = np.searchsorted(ratings, tally.table.breaker_a)[tally.table.group]
    tally.put("Panel", tuple(f"mcb:{rating:g}" for rating in ratings), index, 1.0, "panel")
    tally.add("Boxes and outlets", "unit", "charger")


def steps(design: Design) -> Sequence[Step]:
    """Off, fit, on."""
    off, on = Step("off", "Power down", "Off", "Lock it.", 0.0), Step("restore", "Close and energise", "On", "Go.", 0.0)
    return [off, *raceway_steps(design), on]


def tests(design: Design) -> Sequence[Test]:
    """One test of volts."""
    circuit = circuit_of(design)
    volts = abs(circuit.legs[0]) if circuit is not None else 0.0
    return [Test("volts", "live", "Volts", "V", volts, volts * 0.9, volts * 1.1, "toy", False, ("panel 1", "panel N"))]


def all_sizes(case: Case, _metal: int, _insulation: int) -> Flags:
    """Every size may be taken."""
    return np.ones(len(case.book.sizes), dtype=bool)


PROVE = ProveRules(tests=tests)


def open_edition(code: str) -> Book:
    """The toy book."""
    silent = np.full((1, 3), 6.0)
    return Book(
        key=code, title="Toy 1", clauses={"breaker": "one", "carries": "two"}, systems={"230": 0j}, sizes=SIZES,
        print_size=lambda size: f"{size} toys", metal_mm2=np.array([2.5, 6.0, 16.0]),
        ohm_per_km=np.array([[7.0, 3.0, 1.2]] * 2), insulations=("plain",), area_mm2=silent, diameter_mm=silent,
        compact_diameter_mm=silent, raceways=("PIPE",), trade_sizes=("20", "32"), bore_mm=np.array([[17.0, 28.0]]),
        ratings_a=np.array([16.0, 32.0, 63.0]),
        methods={"pipe": method("pipe", "Pipe", cable=False), "flat": method("flat", "Flat", cable=True)},
        usual=dict.fromkeys(("indoor", "garage", "attic", "crawl", "outdoor", "roof", "buried"), "pipe"),
        receptacles={}, portable=Portable(10.0, 230.0, ()), cable_ground={"flat": {"S": "S", "M": "S", "L": "M"}},
        circuit=CircuitRules(
            load_share=1.0, least_breaker_a=16.0, connections=("hardwired",), insulation={"cu": "plain", "al": "plain"},
            compared_insulations=("plain",), terminals_c=(70,), open_case=open_case, offered=all_sizes, work=work,
            checks=(Check("breaker", breaker), Check("carries", carries, of_size=True)), lost_v=lost,
            drop_along=lambda case, _metal, size: [(0.0, 0.0), (case.line.length_m, float(size))],
            tell=(tell, tell_weakest), free_a=lambda _book, _metal, size, _column: float(CARRIES_A[size]),
            links=lambda t: (Link(f"{t.size} wire", float(CARRIES_A[t.hot]), "a larger one"),),
        ),
        panel=PanelRules(), place=PlaceRules(clear_m=(0.7, 0.7, 2.0)),
        run=RunRules(
            most_bend_deg=270.0, support=lambda _method, _size, _upright: (1.5, 0.3, "clips"), air_c=30.0,
            findings=(check_bends, wall_findings),
        ),
        goods=Goods(name=lambda key: key.replace(":", " "), counts=(count_wire, count_way, count_end),
                    bushing_from="L", boxes=("joint box",), box=lambda *_at: "joint box"),
        build=BuildRules(steps=steps), prove_rules=lambda: PROVE,
    )  # fmt: skip


@contextmanager
def on_the_shelf() -> Iterator[str]:
    """The toy book stands on the shelf while this lasts; gives its code."""
    with mock.patch.dict(shelf.SHELF, {CODE: "tests.toy_book"}):
        books.open_book.cache_clear()
        yield CODE
    books.open_book.cache_clear()
