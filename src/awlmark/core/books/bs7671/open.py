"""The British book, put together: its tables, and its rules for the circuit."""

from __future__ import annotations

import functools
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any, Final

from awlmark.core.books.book import Book
from awlmark.core.books.bs7671.checked import CHECKED, LEFT_OUT
from awlmark.core.books.bs7671.edition import (
    AIR_C,
    KEY,
    BsBook,
    bs,
    print_mm2,
    read_bore,
    read_mm2,
    tables,
)
from awlmark.core.books.bs7671.panel.demand import buses, feeder_drop
from awlmark.core.books.bs7671.panel.supply_check import supply_findings, whole_drop
from awlmark.core.books.bs7671.panel.ways import new_place, way_findings
from awlmark.core.books.bs7671.parts.cable_items import count_glands, count_ground, count_held, count_passed, support
from awlmark.core.books.bs7671.parts.ends import AISLES, aisle_of, count_ends, part_name, usual_hours, usual_prices
from awlmark.core.books.bs7671.place import BEST_M, ISLAND_M, point_findings
from awlmark.core.books.bs7671.quote import quoted, usual_place
from awlmark.core.books.bs7671.run.way import cover_findings, passage_findings, zone_findings
from awlmark.core.books.bs7671.sizing.conduit import RACEWAYS, judge_fill
from awlmark.core.books.bs7671.sizing.drop import drop_along, drop_percent, drop_volts
from awlmark.core.books.bs7671.sizing.earth_fault import FUSE
from awlmark.core.books.bs7671.sizing.factors import column_of
from awlmark.core.books.bs7671.sizing.local_rules import PARTS, tell_local
from awlmark.core.books.bs7671.sizing.opening import CONNECTIONS, FIXED, LEAST_DEVICE_A, offered, open_circuit
from awlmark.core.books.bs7671.sizing.requirements import requirements
from awlmark.core.books.bs7671.sizing.tell_circuit import chain, device_kind, links
from awlmark.core.books.bs7671.sizing.work import CHECKS, work_out
from awlmark.core.books.bs7671.words import WORDS
from awlmark.core.books.bs7671.work.sessions import ISOLATE, NIGHTS, RESTS, WEAR
from awlmark.core.books.rules import (
    BuildRules,
    CircuitRules,
    Goods,
    PanelRules,
    PlaceRules,
    ProveRules,
    RunRules,
)  # fmt: skip
from awlmark.core.circuit.weakest_link import tell_weakest
from awlmark.core.errors import InputError
from awlmark.core.job.leg import MakeUp
from awlmark.core.parts.run_items import count_way, count_wire
from awlmark.core.run.storeys import storey_findings

if TYPE_CHECKING:
    from awlmark.core.build.form import Form
    from awlmark.core.build.step import Step
    from awlmark.core.circuit.cuts import Cut
    from awlmark.core.job.model import Job
    from awlmark.core.prove.test import Test
    from awlmark.core.solve.design import Design

IMPERIAL_L: Final = 4.54609
QUIET_H: Final = ((8.0, 11.0), (16.0, 22.0))
"""Hours of a weekday in which a unit for private use waits by default in Great Britain; doubtful, check [h]."""
HEADS: Final = {
    "dead": "Proved dead", "continuity": "Continuity", "insulation": "Insulation, 500 V", "polarity": "Polarity",
    "live": "Volts, nothing drawn", "loop": "Loop and fault current", "residual": "Residual device",
    "function": "Functions", "charge": "Charging", "heat": "Heat, one hour",
}  # fmt: skip
BOX = "conduit box"
SETTINGS_A = (6.0, 10.0, 13.0, 16.0, 20.0, 25.0, 32.0)
"""Charging currents that units are set to, common practice."""


SHORT = {
    "swa": "swa-clipped", "t&e": "te-clipped", "te": "te-clipped", "clipped": "te-clipped",
    "conduit": "singles-conduit", "trunking": "singles-trunking",
    "100": "te-100", "101": "te-101", "102": "te-102", "103": "te-103",
}  # fmt: skip


def _free_a(book: Book, _metal: int, size: int, column_c: int) -> float:
    """Clipped cable, one phase, in the table's air [A]."""
    way = bs(book).ways["swa-clipped" if column_c == 90 else "te-clipped"]
    return float(way.current_a[column_of(column_c), 0, size])


def _values(design: Design, values: dict[str, Any]) -> dict[str, Any]:
    from awlmark.core.books.bs7671.sizing.values import more_values

    return more_values(design, values)


def _rows(design: Design) -> list[tuple[str, str]]:
    from awlmark.core.books.bs7671.sizing.values import more_rows

    return more_rows(design)


def _drawn() -> Any:
    """What only drawings ask is loaded when the first one does."""
    from awlmark.core.books.bs7671.sizing import drawn

    return drawn


def _cuts(design: Design) -> tuple[Cut, ...]:
    found: tuple[Cut, ...] = _drawn().cuts(design)
    return found


def _label(job: Job, rating_a: float) -> str:
    """``RCBO B40``, or the fuse or MCB that stands apart from its residual device."""
    device = job.circuit.device or "b"
    sold = device_kind(rating_a, device)
    if sold == FUSE:
        return f"fuse {rating_a:g}"
    return f"{'MCB' if job.circuit.residual_apart else sold.upper()} {device.upper()}{rating_a:g}"


CIRCUIT = CircuitRules(
    load_share=1.0,
    least_breaker_a=LEAST_DEVICE_A,
    connections=CONNECTIONS,
    wired=("tethered", "type2", FIXED),
    insulation={"cu": "pvc70"},
    terminals_c=(70, 90),
    metals=("cu",),
    settings_a=SETTINGS_A,
    open_case=open_circuit,
    offered=offered,
    work=work_out,
    checks=CHECKS,
    lost_v=drop_volts,
    drop_along=drop_along,
    drop_percent=drop_percent,
    audits=PARTS,
    tell=(chain, requirements, tell_weakest, tell_local),
    free_a=_free_a,
    links=links,
    fill=judge_fill,
    fill_raceways=RACEWAYS,
    compared_insulations=("pvc70",),
    quote=quoted,
    quote_words=(
        "device",
        "breaker",
        "earthing",
        "ze",
        "ra",
        "pen",
        "ground-temp",
        "soil",
        "circuits",
        "spread",
        "insulated",
        "supply",
    ),
    usual_place=usual_place,
    more_values=_values,
    more_rows=_rows,
    device_label=_label,
    section_cuts=_cuts,
    cards=lambda design, section: _drawn().cards(design, section),
    chips=lambda design: _drawn().chips(design),
    faces=lambda design: _drawn().faces(design),
    outline=lambda *of: _drawn().outline(*of),
)


RUN = RunRules(
    most_bend_deg=float("inf"),
    support=support,
    one_piece=True,
    fixings_on_tape=True,
    air_c=AIR_C,
    findings=(cover_findings, zone_findings, passage_findings, storey_findings),
)
PANEL = PanelRules(
    buses=buses,
    supply=(supply_findings,),
    equipment=way_findings,
    whole_drop=whole_drop,
    feeder_drop=feeder_drop,
    supply_a=lambda job: job.supply.cutout_a,
    new_place=new_place,
    shares=True,
    first_path="supply.cutout_a",
    managed="Load curtailment",
    pages=(("row", "Cut-out and ways"), ("amps", "Demand"), ("year", "A logged year")),
)


@functools.cache
def _prove() -> ProveRules:
    from awlmark.core.books.bs7671.work import planted, source, volts

    return ProveRules(
        tests=_tests, volts=volts.read_volts, source=source.source, loop=source.loop, ends=source.ENDS,
        loops=("R1+Rn",), earth_loop="R1+R2", heads=HEADS,
        heat_names={"lug": "point terminal", "breaker": "board terminal", "wire": "core"},
        instruments=("Loop and residual tester", "Insulation tester"),
        planted=planted.PLANTED, mistakes=planted.MISTAKES, card_amps=(16.0, 32.0),
    )  # fmt: skip


def _forms(design: Design) -> Sequence[Form]:
    from awlmark.core.books.bs7671.work.forms import forms

    return forms(design)


def _labels(design: Design) -> list[tuple[str, str]]:
    from awlmark.core.books.bs7671.work.labels import notices

    return notices(design)


def _steps(design: Design) -> Sequence[Step]:
    from awlmark.core.books.bs7671.work.steps import work_steps

    return work_steps(design)


def _tests(design: Design) -> Sequence[Test]:
    from awlmark.core.books.bs7671.work.expect import expect

    return expect(design)


def open_edition(code: str) -> BsBook:
    """The British book by its code."""
    if code != KEY:
        raise InputError("rule book (code)", f"Can't use '{code[:40]}'.", KEY)
    return BsBook(
        **tables(),
        print_size=print_mm2,
        read_size=read_mm2,
        read_trade=read_bore,
        short_methods=SHORT,
        units="m",
        currency="£",
        asks=(
            "charger.nameplate_a",
            "charger.connection",
            "supply.earthing",
            "supply.cutout_a",
            "charger.pen",
            "charger.dc_6ma",
        ),
        miles=True,
        gallon_l=IMPERIAL_L,
        quiet_h=lambda job: () if job.supply.region == "ni" else QUIET_H,
        curves=("b", "c", "d"),
        words=WORDS,
        decider="whoever signs decides",
        checked=CHECKED,
        left_out=LEFT_OUT,
        circuit=CIRCUIT,
        panel=PANEL,
        place=PlaceRules(best_m=BEST_M, island_m=ISLAND_M, point=point_findings),
        run=RUN,
        goods=Goods(
            name=part_name,
            tails=MakeUp(panel_tail_m=1.0, unit_tail_m=0.5, box_loop_m=0.3),
            prices=usual_prices,
            counts=(
                functools.partial(count_wire, cable_ends=count_glands),
                functools.partial(count_way, held=count_held, met=count_passed, trench=count_ground),
                count_ends,
            ),
            aisles=AISLES,
            aisle=aisle_of,
            hours=usual_hours,
            bushing_from="",
            boxes=(BOX,),
            box=lambda *_at: BOX,
            forks=("type2", "ev13"),
        ),
        build=BuildRules(
            steps=_steps,
            screw=lambda wire: {"E": "Board E", "N": "Board N"}.get(wire, f"Device {wire}"),
            forms=_forms,
            labels=_labels,
            torque_unit="N m",
            rests=RESTS,
            nights=NIGHTS,
            isolate=ISOLATE,
            isolate_head="Isolate, then prove dead",
            stays_live="Meter tails stay live: shield them",
            comes_back="Back on: main switch, then circuit by circuit, the new one last",
            wear=WEAR,
        ),
        prove_rules=_prove,
    )
