"""Earth fault: protective conductor, loop impedance, disconnection, electrode.

A TN circuit above the device's table leaves a fault to the residual-current device alone (411.4.5): tight. A TT
circuit always does.
"""

from __future__ import annotations

import functools
import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats, Ints
from awlmark.core.books.bs7671.edition import U0, bs, operating, volts_limit
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.factors import column_of
from awlmark.core.books.bs7671.sizing.opening import SOCKETS, terminal_c
from awlmark.core.books.printed import number
from awlmark.core.circuit.case import Case, Table
from awlmark.core.circuit.terms import Terms

RESIDUAL_MA: Final = 30.0
INSTANT_S: Final = 0.1
"""An MCB within its table opens at once."""
RESIDUAL_S: Final = next(
    float(row["most_ms"]) / 1000
    for row in printed("rcd_times").rows
    if (row["kind"], row["required"]) == ("general", "yes")
)
"""Longest a 30 mA device may take at its rated current."""
TOUCH_V: Final = volts_limit("RA x IdN")
STEADY_OHM: Final = 200.0
"""An electrode above this may not stay (note to Table 41.5)."""
COLD: Final = 0.8
"""Of the table's loop, what a reading on cold conductors may show (practice)."""
FUSE: Final = "bs88-2"
CHOSEN: Final = "b"


class EarthFault(msgspec.Struct, frozen=True, eq=False):
    """Sums of every row. Axes: N rows, Z sections."""

    system: str | None
    ze_ohm: float
    """Loop outside the installation; the electrode in TT; NaN while unread."""
    cpc: Ints
    """Size index, shape (N, Z); -1 where the cable is not made so."""
    cpc_mm2: Floats
    r1r2_20_ohm: Floats
    """Cold, shape (N,) [ohm]."""
    r1r2_ohm: Floats
    zs_ohm: Floats
    limit_ohm: Floats
    """Of the device, shape (N,) [ohm]; NaN where its table is silent."""
    most_s: Floats
    """Disconnection time asked for [s]."""
    clears_s: Floats
    """Time the heat of the fault lasts [s]."""
    adiabatic_mm2: Floats
    """Shape (N, Z)."""
    table_mm2: Floats
    """Table 54.7, shape (N,)."""


def earthing(job_pen: str | None, system: str | None) -> str | None:
    """How the charger is earthed: an island of its own is TT."""
    return "tt" if job_pen == "island" else system


def ze_ohm(case: Case) -> float:
    """Loop outside the installation [ohm]: as told, else the usual greatest value of the system; in TT the electrode,
    or the loop measured through it. NaN while unread."""
    supply = case.job.supply
    system = earthing(case.job.charger.pen, supply.earthing)
    if system is None:
        return math.nan
    if system == "tt":
        own = supply.ra_ohm if supply.ra_ohm is not None else supply.ze_ohm
        if case.job.charger.pen == "island":
            own = supply.ra_ohm
        return math.nan if own is None else own
    return usual_ze(system) if supply.ze_ohm is None else supply.ze_ohm


def usual_ze(system: str) -> float:
    """Usual greatest loop that a distributor declares [ohm]."""
    return next(float(row["ze_usual_most_ohm"]) for row in printed("earthing").rows if row["system"] == system)


def most_seconds(case: Case, device_a: float) -> float:
    """Disconnection time of a final circuit (Table 41.1, 411.3.2) [s]."""
    system = earthing(case.job.charger.pen, case.job.supply.earthing) or "tn"
    socket = case.job.charger.connection in SOCKETS
    quick = device_a <= (63 if socket else 32)
    rows = [row for row in printed("disconnection_times").rows if row["system"] == system[:2]]
    return float(rows[0 if quick else 1]["most_s"])


@functools.cache
def _zs_table(device: str) -> dict[float, float]:
    if device == "d":
        return {float(row["rating_a"]): number(row["zs_ohm"]) for row in printed("max_zs_41_3_d").rows}
    rows = printed("max_zs_41_3").rows
    return {float(row["rating_a"]): float(row["zs_ohm"]) for row in rows if row["type"].lower() == device}


@functools.cache
def _fuse_table(seconds: float) -> dict[float, float]:
    found = {}
    for name in ("fuse_zs", "fuse_zs_two_readers"):
        for row in printed(name).rows:
            if row["standard"] == FUSE and float(row["disconnection_s"]) == seconds and row["zs_ohm"]:
                found[float(row["rating_a"])] = float(row["zs_ohm"])
    return found


def largest_zs(device: str, rating_a: float, seconds: float) -> float:
    """Greatest loop that opens a device in time [ohm]; NaN where its table is silent.

    Type D goes by its row of 0.4 s throughout; a fuse by the row of its time, 0.4 or 5 s.
    """
    table = _fuse_table(0.4 if seconds <= 0.4 else 5.0) if device == FUSE else _zs_table(device)
    return table.get(rating_a, math.nan)


@functools.cache
def table_54_7(line_mm2: float) -> float:
    """Least protective conductor without a sum, same metal as the line [mm2]."""
    for row in printed("t54_7_cpc").rows:
        if line_mm2 <= float(row["line_to_mm2"] or math.inf):
            return float(row["cpc_mm2"]) if row["cpc_mm2"] else line_mm2 / (2 if row["rule"] == "S/2" else 1)
    raise ValueError(line_mm2)


def cpc_sizes(table: Table) -> Ints:
    """Protective conductor of every row and section, shape (N, Z): pinned, as the cable is made, or by Table 54.7.

    Where a run has cable and singles, the singles are no larger than the smallest cable's.
    """
    case, book = table.case, table.case.book
    pinned = case.job.circuit.ground_size
    found = np.empty((len(table.hot), len(case.sections)), dtype=int)
    by_size: dict[str, Ints] = {}
    for number_, section in enumerate(case.sections):
        made = book.cable_ground.get(section.method.key)
        if section.method.key not in by_size:
            chosen = np.full(len(book.sizes), -1)
            for index, size in enumerate(book.sizes):
                if pinned is not None:
                    chosen[index] = book.size_index(pinned)
                elif made is not None:
                    chosen[index] = book.size_index(made.get(size, ""))
                else:
                    least = table_54_7(float(book.metal_mm2[index]))
                    chosen[index] = int(np.searchsorted(book.metal_mm2, least - 1e-9))
            by_size[section.method.key] = chosen
        found[:, number_] = by_size[section.method.key][table.hot]
    cabled = [at for at, section in enumerate(case.sections) if section.method.cable]
    if pinned is None and cabled:
        # Singles between cables carry on with the cables' own conductor.
        least = found[:, cabled].min(axis=1)
        for at in range(len(case.sections)):
            if at not in cabled:
                found[:, at] = np.minimum(found[:, at], least)
    return found


def earth_fault(table: Table) -> EarthFault:
    """Work out the earth fault of every row."""
    case, book = table.case, bs(table.case.book)
    circuit = case.job.circuit
    column = column_of(terminal_c(case))
    cpc = cpc_sizes(table)
    lengths = np.array([section.length_m for section in case.sections])
    ways = [book.ways[section.method.key] for section in case.sections]
    cpc_mm2 = np.where(cpc >= 0, book.metal_mm2[cpc], np.nan)
    each_km = book.ohm20_per_km[table.hot][:, None] + np.where(cpc >= 0, book.ohm20_per_km[cpc], np.nan)
    each = each_km * lengths[None, :] / 1000
    warm = np.array([operating(f"{way.insulation[column]}-in-cable") for way in ways])
    cold_ohm, warm_ohm = each.sum(axis=1), (each * warm[None, :]).sum(axis=1)
    system = earthing(case.job.charger.pen, case.job.supply.earthing)
    ze = ze_ohm(case)
    zs = ze + warm_ohm
    device = circuit.device or CHOSEN
    ratings = table.breaker_a[table.group]
    times = {float(rating): most_seconds(case, float(rating)) for rating in set(ratings.tolist())}
    most = np.array([times[float(rating)] for rating in ratings])
    if system == "tt":
        limit = np.full(len(ratings), residual_limit())
    else:
        limits = {rating: largest_zs(device, rating, seconds) for rating, seconds in times.items()}
        limit = np.array([limits[float(rating)] for rating in ratings])
    opens = np.full(len(ratings), INSTANT_S) if device != FUSE else most
    clears = np.full(len(ratings), RESIDUAL_S) if system == "tt" else np.where(zs <= limit + 1e-9, opens, RESIDUAL_S)
    k = np.array([way.adiabatic_k for way in ways])
    adiabatic = (U0 / zs * np.sqrt(clears))[:, None] / k[None, :]
    by_table = np.array([table_54_7(float(mm2)) for mm2 in book.metal_mm2])[table.hot]
    return EarthFault(
        system, ze, cpc, cpc_mm2, cold_ohm, warm_ohm, zs, limit, most, clears, adiabatic, by_table,
    )  # fmt: skip


def residual_limit() -> float:
    """Greatest electrode with a 30 mA device, Table 41.5 [ohm]."""
    return next(float(row["ra_most_ohm"]) for row in printed("rcd_mA").rows if float(row["idn_ma"]) == RESIDUAL_MA)


def smallest_cpc(fault: EarthFault) -> Ints:
    """Smallest protective conductor over the sections, shape (N,); -1 where one is not made."""
    if not fault.cpc.shape[1]:
        return np.full(len(fault.cpc), -1)
    least: Ints = fault.cpc.min(axis=1)
    return least


def worst_section(fault: EarthFault) -> Ints:
    """Section whose protective conductor has least to spare, shape (N,)."""
    if not fault.cpc.shape[1]:
        return np.zeros(len(fault.cpc), dtype=int)
    needed = np.fmin(fault.adiabatic_mm2, fault.table_mm2[:, None])
    worst: Ints = np.argmin(np.nan_to_num(fault.cpc_mm2 / needed, nan=-1.0), axis=1)
    return worst


def check_cpc(fault: EarthFault) -> Terms:
    """Protective conductor by Table 54.7 or by the adiabatic sum (543.1.3); below both it is unread: under 0.1 s the
    device's let-through counts."""
    rows = np.arange(len(fault.cpc))
    at = worst_section(fault)
    if not fault.cpc.shape[1]:
        silent = np.full(len(rows), np.nan)
        return Terms(silent, silent, stepped=True)
    found = fault.cpc_mm2[rows, at]
    needed = np.fmin(fault.adiabatic_mm2[rows, at], fault.table_mm2)
    unknown = ~(found >= needed - 1e-9)
    return Terms(found, needed, stepped=True, unknown=unknown)


def check_zs(fault: EarthFault) -> Terms:
    """Zs against the device's table: advice, for the residual-current device opens as well (411.4.5)."""
    if fault.system == "tt":
        silent = np.full(len(fault.zs_ohm), np.nan)
        return Terms(silent, fault.limit_ohm, sense="most", advice=True)
    unknown = np.isnan(fault.zs_ohm) | np.isnan(fault.limit_ohm)
    return Terms(fault.zs_ohm, fault.limit_ohm, sense="most", advice=True, unknown=unknown)
