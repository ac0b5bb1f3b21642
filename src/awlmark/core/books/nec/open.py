"""The American book, put together: its tables, and its rules for every stage.

Rules of the stages behind the circuit are imported when they are first asked: a quote on the command line needs none.
"""

from __future__ import annotations

import functools
from collections.abc import Sequence
from typing import TYPE_CHECKING

from awlmark.core.books.book import Book
from awlmark.core.books.nec.checked import CHECKED, LEFT_OUT
from awlmark.core.books.nec.edition import (
    COLUMNS_C,
    NIPPLE_M,
    ROOF_CLEAR_M,
    TABLE_AMBIENT_C,
    NecBook,
    clause_of,
    nec,
    tables,
)
from awlmark.core.books.nec.panel.buses import WAYS, buses, feeder_drop, whole_drop_finding
from awlmark.core.books.nec.panel.demand import CONTINUOUS_EXTRA
from awlmark.core.books.nec.panel.demand_check import bus_findings
from awlmark.core.books.nec.panel.equipment import CLEAR_M, panel_findings, surge_wanted
from awlmark.core.books.nec.panel.feeders import feeder_findings
from awlmark.core.books.nec.parts.end_items import count_ends
from awlmark.core.books.nec.parts.part_names import item_name
from awlmark.core.books.nec.run.cover import trench_findings
from awlmark.core.books.nec.run.physical_damage import EDGE_M, guard_findings
from awlmark.core.books.nec.run.support_table import support
from awlmark.core.books.nec.sizing.audits import PARTS
from awlmark.core.books.nec.sizing.boxes import OFFERED, PULL_BOX, box_name, standard_boxes
from awlmark.core.books.nec.sizing.drop import drop_along, drop_volts
from awlmark.core.books.nec.sizing.fill import fill_limit, judge_bore, judge_fill
from awlmark.core.books.nec.sizing.links import links
from awlmark.core.books.nec.sizing.opening import (
    CONNECTIONS,
    CONTINUOUS,
    DEFAULT_INSULATION,
    SMALLEST_BREAKER_A,
    judged_sizes,
    open_circuit,
)
from awlmark.core.books.nec.sizing.outlet import gfci_rows, needs_gfci
from awlmark.core.books.nec.sizing.permitted_uses import place_findings, uses_rows
from awlmark.core.books.nec.sizing.requirements import BUSHING_FROM
from awlmark.core.books.nec.sizing.sleeve import sleeve_size
from awlmark.core.books.nec.sizing.tell import TELL
from awlmark.core.books.nec.sizing.terminals import fallback_torque
from awlmark.core.books.nec.sizing.work import CHECKS, cuts, full_a, work_out
from awlmark.core.books.rules import BuildRules, CircuitRules, Goods, PanelRules, PlaceRules, ProveRules, RunRules
from awlmark.core.panel.leg_balance import leg_findings
from awlmark.core.panel.spaces import space_findings
from awlmark.core.parts.example_prices import example_hours, example_prices
from awlmark.core.parts.run_items import count_way, count_wire
from awlmark.core.quantities import FOOT_M, INCH_M, print_gauge
from awlmark.core.run.bends import check_bends
from awlmark.core.run.buildable import odd_findings
from awlmark.core.run.expansion import expansion_findings
from awlmark.core.run.in_the_way import obstacle_findings
from awlmark.core.run.storeys import storey_findings
from awlmark.core.run.walls import wall_findings

if TYPE_CHECKING:
    from awlmark.core.build.step import Step
    from awlmark.core.prove.test import Test
    from awlmark.core.solve.design import Design


def _free_a(book: Book, metal: int, size: int, column_c: int) -> float:
    return float(nec(book).ampacity_a[metal, COLUMNS_C.index(column_c), size])


def _steps(design: Design) -> Sequence[Step]:
    from awlmark.core.books.nec.work.steps import work_steps

    return work_steps(design)


def _notes(design: Design, connection: str, gfci: bool) -> tuple[str, ...]:
    from awlmark.core.books.nec.parts.connections import connection_notes

    return connection_notes(design, connection, gfci)


def _tests(design: Design) -> Sequence[Test]:
    from awlmark.core.books.nec.work.expect import expect

    return expect(design)


CIRCUIT = CircuitRules(
    load_share=CONTINUOUS,
    least_breaker_a=SMALLEST_BREAKER_A,
    connections=CONNECTIONS,
    insulation=DEFAULT_INSULATION,
    terminals_c=(60, 75),
    open_case=open_circuit,
    offered=judged_sizes,
    work=work_out,
    checks=CHECKS,
    lost_v=drop_volts,
    drop_along=drop_along,
    tell=TELL,
    free_a=_free_a,
    fill_limit=fill_limit,
    full_a=full_a,
    audits=PARTS,
    links=links,
    residual=needs_gfci,
    residual_rows=gfci_rows,
    compared_insulations=("thwn-2", "xhhw-2", "rhw-2"),
    quote_words=("extra-ccc", "occupancy"),
    places=place_findings,
    place_rows=uses_rows,
    bore=judge_bore,
    cuts=cuts,
    fill=judge_fill,
)
PANEL = PanelRules(
    buses=buses,
    ways=WAYS,
    supply=(bus_findings, feeder_findings, space_findings),
    balance=leg_findings,
    equipment=panel_findings,
    whole_drop=whole_drop_finding,
    feeder_drop=feeder_drop,
    continuous_extra=CONTINUOUS_EXTRA,
)
PLACE = PlaceRules(
    inside_m=18 * INCH_M,
    outside_m=24 * INCH_M,
    cord_m=25 * FOOT_M,
    clear_m=CLEAR_M,
)
RUN = RunRules(
    most_bend_deg=360.0,
    support=support,
    air_c=TABLE_AMBIENT_C,
    nipple_m=NIPPLE_M,
    roof_clear_m=ROOF_CLEAR_M,
    edge_m=EDGE_M,
    findings=(
        check_bends, trench_findings, expansion_findings, wall_findings, guard_findings, odd_findings,
        obstacle_findings, storey_findings,
    ),
)  # fmt: skip
GOODS = Goods(
    name=item_name,
    hours=example_hours,
    counts=(count_wire, count_way, count_ends),
    boxes=OFFERED,
    every_box=tuple(standard_boxes()),
    box=box_name,
    more_boxes=(PULL_BOX,),
    sleeve=sleeve_size,
    bushing_from=BUSHING_FROM,
    other_insulation={"thwn-2": "xhhw-2", "xhhw-2": "thwn-2", "rhw-2": "xhhw-2"},
    forks=("14-50", "6-50"),
    connection_notes=_notes,
    prices=example_prices,
    surge=surge_wanted,
)
BUILD = BuildRules(
    steps=_steps,
    screw=lambda wire: {"G": "Ground bar", "N": "Neutral bar"}.get(wire, f"Breaker {wire}"),
    torque=fallback_torque,
    torque_source=clause_of("annex"),
)


@functools.cache
def _prove() -> ProveRules:
    from awlmark.core.books.nec.work.planted import MISTAKES, PLANTED, SINGLE
    from awlmark.core.books.nec.work.volts import read_volts

    return ProveRules(tests=_tests, volts=read_volts, planted=PLANTED, single=SINGLE, mistakes=MISTAKES)


def open_edition(code: str) -> NecBook:
    """One edition of the American book, such as ``nec-2023``."""
    return NecBook(
        **tables(code),
        print_size=print_gauge,
        checked=CHECKED,
        left_out=LEFT_OUT,
        circuit=CIRCUIT,
        panel=PANEL,
        place=PLACE,
        run=RUN,
        goods=GOODS,
        build=BUILD,
        prove_rules=_prove,
    )
