"""The British book, put together: its tables, and its rules for the circuit."""

from __future__ import annotations

import functools
from typing import TYPE_CHECKING, Any

from awlmark.core.books.book import Book, Method
from awlmark.core.books.bs7671.checked import CHECKED, LEFT_OUT
from awlmark.core.books.bs7671.edition import (
    AIR_C,
    KEY,
    BsBook,
    bs,
    clauses,
    print_mm2,
    read_bore,
    read_mm2,
    tables,
)
from awlmark.core.books.bs7671.panel.demand import buses, feeder_drop
from awlmark.core.books.bs7671.panel.supply_check import supply_findings, whole_drop
from awlmark.core.books.bs7671.panel.ways import way_findings
from awlmark.core.books.bs7671.parts.ends import count_ends, part_name, usual_prices
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.quote import quoted, usual_place
from awlmark.core.books.bs7671.run.way import cover_findings, passage_findings, zone_findings
from awlmark.core.books.bs7671.sizing.conduit import RACEWAYS, judge_fill
from awlmark.core.books.bs7671.sizing.drop import drop_along, drop_percent, drop_volts
from awlmark.core.books.bs7671.sizing.factors import column_of
from awlmark.core.books.bs7671.sizing.local_rules import PARTS, tell_local
from awlmark.core.books.bs7671.sizing.opening import CONNECTIONS, LEAST_DEVICE_A, offered, open_circuit
from awlmark.core.books.bs7671.sizing.requirements import requirements
from awlmark.core.books.bs7671.sizing.tell_circuit import chain, links
from awlmark.core.books.bs7671.sizing.work import CHECKS, work_out
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
from awlmark.core.parts.run_items import count_way, count_wire
from awlmark.core.run.storeys import storey_findings

if TYPE_CHECKING:
    from awlmark.core.solve.design import Design

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


def _support(method: Method, _trade: str | None) -> tuple[float, float, str]:
    """The closest spacing of its kind, whatever its size: between supports and from an end [m], and the clause."""
    table, unit = ("clip_spacing", 1000.0) if method.cable else ("conduit_supports", 1.0)
    level = "level_mm" if method.cable else "level_m"
    spaced = [float(row[level]) for row in printed(table).rows if row["kind"] == method.support and row[level]]
    return min(spaced) / unit, min(spaced) / unit, clauses()["supports"]


def _values(design: Design, values: dict[str, Any]) -> dict[str, Any]:
    from awlmark.core.books.bs7671.sizing.values import more_values

    return more_values(design, values)


def _rows(design: Design) -> list[tuple[str, str]]:
    from awlmark.core.books.bs7671.sizing.values import more_rows

    return more_rows(design)


CIRCUIT = CircuitRules(
    load_share=1.0,
    least_breaker_a=LEAST_DEVICE_A,
    connections=CONNECTIONS,
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
)


RUN = RunRules(
    most_bend_deg=float("inf"),
    support=_support,
    air_c=AIR_C,
    findings=(cover_findings, zone_findings, passage_findings, storey_findings),
)
PANEL = PanelRules(
    buses=buses, supply=(supply_findings,), equipment=way_findings, whole_drop=whole_drop, feeder_drop=feeder_drop
)


@functools.cache
def _prove() -> ProveRules:
    return ProveRules()


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
        decider="whoever signs decides",
        checked=CHECKED,
        left_out=LEFT_OUT,
        circuit=CIRCUIT,
        panel=PANEL,
        place=PlaceRules(),
        run=RUN,
        goods=Goods(
            name=part_name,
            prices=usual_prices,
            counts=(count_wire, count_way, count_ends),
            bushing_from="",
            boxes=(BOX,),
            box=lambda *_at: BOX,
            forks=("type2", "ev13"),
        ),
        build=BuildRules(),
        prove_rules=_prove,
    )
