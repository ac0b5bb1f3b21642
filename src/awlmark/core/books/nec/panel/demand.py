"""Counting the demand, line by line, like a worksheet (NEC Article 220)."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

import msgspec

from awlmark.core.books.nec.edition import clause_of
from awlmark.core.books.nec.facts import facts_of
from awlmark.core.books.nec.printed import printed
from awlmark.core.job.model import Job
from awlmark.core.job.supply import Load
from awlmark.core.panel.bus import Row, Sheet
from awlmark.core.quantities import SQUARE_FOOT_M2

LIGHTING_VA: Final = 3.0
"""General lighting and receptacles of a dwelling [VA/ft2]."""
CONTINUOUS_EXTRA: Final = 0.25
"""Continuous load counts a quarter more on a feeder and on the service of a business (215.2, 230.42(A)(1))."""
CONTINUOUS_KINDS: Final = ("lighting", "charging")
"""Loads that run three hours and more; in a dwelling its lamps are in the general lighting."""
COMPRESSORS: Final = ("cooling", "heat pump")
CIRCUIT_VA: Final = 1500.0
"""Each small-appliance and laundry circuit [VA], 220.52."""
LEAST_DRYER_VA: Final = 5000.0
"""220.54."""
OPTIONAL_FIRST_VA: Final = {"optional": 10_000.0, "existing": 8_000.0}
OPTIONAL_REST: Final = 0.40
HEATING: Final = ("heat", "heat 4+", "heat pump", "cooling")


def charger_va(job: Job, charge_a: float, volts: float) -> float:
    """What the charger counts as before any pool [VA]: its rating, and 7200 VA at least from 2023.

    220.57 stands in Part III; whether it reaches into the optional methods is read both ways, and the safe side taken.
    """
    rated = charge_a * volts
    return max(rated, facts_of(job.code).charger_least_va) if charge_a > 0 else rated


def service_sheet(job: Job, charge_a: float, volts: float, charger: float | None = None) -> Sheet:
    """Demand on the service by the job's method.

    Parameters
    ----------
    job : Job
        Loads, facts of the dwelling, method.
    charge_a : float
        Charging current that counts [A].
    volts : float
        System voltage between the legs [V].
    charger : float, optional
        Charger load when management holds it below its rating [VA].

    Returns
    -------
    Sheet
        For other occupancies than dwellings every load counts whole, with a quarter of the largest motor.
    """
    unit = charger_va(job, charge_a, volts) if charger is None else charger
    if job.demand.method == "measured" and job.demand.measured_a is not None:
        return _measured(job, unit, volts)
    if job.occupancy != "dwelling":
        return _connected(list(job.loads), unit)
    if job.demand.method == "standard":
        return _standard(job, unit)
    return _optional(job, unit)


def _general(job: Job) -> list[Row]:
    """Lighting by area and the required circuits."""
    demand, rows = job.demand, []
    if demand.floor_m2 is not None:
        feet = demand.floor_m2 / SQUARE_FOOT_M2
        rows.append(
            Row(
                f"General lighting, {feet:,.0f} ft² at 3 VA",
                feet * LIGHTING_VA,
                feet * LIGHTING_VA,
                clause_of("lighting", job.code),
            )
        )
    for count, name in ((demand.small_appliance, "Small-appliance circuits"), (demand.laundry, "Laundry circuits")):
        if count:
            rows.append(
                Row(f"{name}, {count} at 1,500 VA", count * CIRCUIT_VA, count * CIRCUIT_VA, clause_of("circuits"))
            )
    return rows


def _optional(job: Job, unit: float) -> Sheet:
    """220.82, and 220.83 for a dwelling that stands: a first part whole, the rest at 40 %, heating or cooling apart."""
    method = "existing" if job.demand.method == "existing" else "optional"
    first, cite = OPTIONAL_FIRST_VA[method], clause_of("demand_existing" if method == "existing" else "optional")
    rows = _general(job)
    # Where no heating or cooling is added, what is there lies in the pool like the rest (220.83(A)).
    pooled = () if method == "existing" and job.demand.heat_added is False else HEATING
    for load in job.loads:
        if load.kind not in pooled:
            rows.append(Row(_named(load), load.va * load.count, load.va * load.count, cite))
    pool = sum(row.connected_va for row in rows) + (unit if job.demand.pool else 0.0)
    counted = min(pool, first) + max(pool - first, 0.0) * OPTIONAL_REST
    heat, heat_row = _heating(job, method) if pooled else (0.0, [])
    whole = sum(row.connected_va for row in rows)
    own_pool = min(whole, first) + max(whole - first, 0.0) * OPTIONAL_REST
    rows = [msgspec.structs.replace(row, counted_va=0.0, pooled=True) for row in rows]
    if unit and job.demand.pool:
        rows.append(Row("Charger", unit, 0.0, _charger_cite(job, unit), pooled=True))
    rows.append(Row(f"First {first:,.0f} VA whole", min(pool, first), min(pool, first), cite))
    if pool > first:
        rows.append(Row("The rest at 40 %", pool - first, (pool - first) * OPTIONAL_REST, cite))
    rows += heat_row
    if unit and not job.demand.pool:
        rows.append(Row("Charger, whole", unit, unit, _charger_cite(job, unit)))
    added = counted - own_pool if job.demand.pool else unit
    return Sheet(method, tuple(rows), own_pool + heat, added)


def _heating(job: Job, method: str) -> tuple[float, list[Row]]:
    """The largest of heating and cooling, each at its share (220.82(C)); 220.83 counts it whole."""
    share = {"heat": 0.65, "heat 4+": 0.40, "heat pump": 1.0, "cooling": 1.0}
    if method == "existing":
        share = dict.fromkeys(share, 1.0)
    by_kind = {kind: sum(load.va * load.count for load in job.loads if load.kind == kind) for kind in HEATING}
    heat_pump = by_kind["heat pump"]
    # Supplementary heat beside a heat pump counts at 65 %.
    backup = 0.65 if method == "optional" and heat_pump else share["heat"]
    choices = {
        "Cooling": by_kind["cooling"],
        "Heat": heat_pump + by_kind["heat"] * backup + by_kind["heat 4+"] * share["heat 4+"],
    }
    name = max(choices, key=lambda key: choices[key])
    if choices[name] <= 0:
        return 0.0, []
    connected = by_kind["cooling"] if name == "Cooling" else heat_pump + by_kind["heat"] + by_kind["heat 4+"]
    cite = clause_of("existing_heat" if method == "existing" else "optional_heat")
    return choices[name], [Row(f"{name}, the larger", connected, choices[name], cite)]


def _standard(job: Job, unit: float) -> Sheet:
    """Article 220 Part III: lighting by steps, cooking and dryers by table, fixed ones, larger of heat and cool."""
    general = _general(job)
    total = sum(row.connected_va for row in general)
    rows = [msgspec.structs.replace(row, counted_va=0.0, pooled=True) for row in general]
    steps = min(total, 3000.0) + 0.35 * min(max(total - 3000.0, 0.0), 117_000.0) + 0.25 * max(total - 120_000.0, 0.0)
    if total:
        rows.append(
            Row(
                "Lighting by steps: 3,000 whole, to 120,000 at 35 %",
                total,
                steps,
                clause_of("lighting_steps", job.code),
            )
        )
    fixed = [load for load in job.loads if load.kind in ("fixed", "general", *CONTINUOUS_KINDS)]
    rows += _fixed(fixed)
    rows += _ranges([load for load in job.loads if load.kind == "range"])
    rows += _dryers([load for load in job.loads if load.kind == "dryer"])
    motors = [load for load in job.loads if load.kind == "motor"]
    rows += [Row(_named(load), load.va * load.count, load.va * load.count, clause_of("motors")) for load in motors]
    heat = sum(load.va * load.count for load in job.loads if load.kind in ("heat", "heat 4+", "heat pump"))
    cool = sum(load.va * load.count for load in job.loads if load.kind == "cooling")
    if max(heat, cool):
        rows.append(Row("Heating or cooling, the larger", max(heat, cool), max(heat, cool), clause_of("heat_or_cool")))
    # A compressor that counts is a motor too.
    counted = "cooling" if cool >= heat else "heat pump"
    rows += _quarter([*motors, *(load for load in job.loads if load.kind == counted)])
    others = sum(row.counted_va for row in rows)
    if unit:
        rows.append(Row("Charger", unit, unit, _charger_cite(job, unit)))
    return Sheet("standard", tuple(rows), others, unit, _continuous(job.loads, ("charging",)))


def _quarter(motors: list[Load]) -> list[Row]:
    """A quarter of the largest motor on top (220.50, 430.24)."""
    largest = max((load.va for load in motors), default=0.0)
    return [Row("A quarter of the largest motor", largest, largest / 4, clause_of("largest_motor"))] if largest else []


def _continuous(loads: Iterable[Load], kinds: tuple[str, ...]) -> float:
    return sum(load.va * load.count for load in loads if load.kind in kinds)


def _charger_cite(job: Job, unit: float) -> str:
    least = facts_of(job.code).charger_least_va
    return clause_of("charger_least" if unit <= least + 1e-6 else "charger_load", job.code)


def _fixed(loads: list[Load]) -> list[Row]:
    """Fastened-in-place appliances: four or more at 75 % (220.53)."""
    share = 0.75 if sum(load.count for load in loads if load.kind == "fixed") >= 4 else 1.0
    return [
        Row(
            _named(load),
            load.va * load.count,
            load.va * load.count * (share if load.kind == "fixed" else 1.0),
            clause_of("fixed"),
        )
        for load in loads
    ]


def _ranges(loads: list[Load]) -> list[Row]:
    """Table 220.55: column C, note 1 above 12 kW; columns A and B for smaller ones where they come to less (note 3)."""
    table = printed("ranges_220_55").rows
    kilowatts = [load.va / 1000 for load in loads for _ in range(load.count)]
    if not kilowatts:
        return []
    if len(kilowatts) > len(table):
        # The table shipped ends here: what it does not cover counts whole, on the safe side.
        whole = sum(kilowatts) * 1000
        return [Row(f"Cooking, {len(kilowatts)} of them, whole", whole, whole, clause_of("ranges"))]
    row = table[len(kilowatts) - 1]
    counted = float(row["c_kw"])
    average = sum(max(kw, 12.0) for kw in kilowatts) / len(kilowatts)
    if average > 12:
        counted *= 1 + 0.05 * int(average - 12 + 0.5)
    if max(kilowatts) <= 8.75:
        small = [kw for kw in kilowatts if kw < 3.5]
        large = [kw for kw in kilowatts if kw >= 3.5]
        shares = [(small, "a_percent"), (large, "b_percent")]
        by_share = sum(sum(part) * float(table[len(part) - 1][column]) / 100 for part, column in shares if part)
        counted = min(counted, by_share)
    total = sum(kilowatts)
    return [
        Row(f"Cooking, {len(kilowatts)} of {total:g} kW", total * 1000, min(counted, total) * 1000, clause_of("ranges"))
    ]


def _dryers(loads: list[Load]) -> list[Row]:
    """Table 220.54: 5,000 VA each at least."""
    table = printed("dryers_220_54").rows
    units = [max(load.va, LEAST_DRYER_VA) for load in loads for _ in range(load.count)]
    if not units:
        return []
    share = float(table[len(units) - 1]["percent"]) / 100 if len(units) <= len(table) else 1.0
    return [Row(f"Dryers, {len(units)}", sum(units), sum(units) * share, clause_of("dryers"))]


def _connected(loads: list[Load], unit: float) -> Sheet:
    """Every load whole, a quarter of the largest motor on top."""
    rows = [Row(_named(load), load.va * load.count, load.va * load.count) for load in loads]
    rows += _quarter([load for load in loads if load.kind in ("motor", *COMPRESSORS)])
    others = sum(row.counted_va for row in rows)
    if unit:
        rows.append(Row("Charger", unit, unit, clause_of("charger_load")))
    return Sheet("connected", tuple(rows), others, unit, _continuous(loads, CONTINUOUS_KINDS))


def _measured(job: Job, unit: float, volts: float) -> Sheet:
    """220.87: the highest demand of a year times 125 %, and the new load."""
    highest = (job.demand.measured_a or 0.0) * volts
    rows = [Row("Highest demand of a year, times 125 %", highest, highest * 1.25, clause_of("demand_measured"))]
    if unit:
        rows.append(Row("Charger, whole", unit, unit, clause_of("demand_measured")))
    return Sheet("measured", tuple(rows), highest * 1.25, unit)


def feeder_sheet(job: Job, loads: list[Load], unit: float) -> Sheet:
    """Demand on a feeder: its loads by the tables of the standard method, without the dwelling's own lighting."""
    if job.occupancy != "dwelling":
        return _connected(loads, unit)
    own = msgspec.structs.replace(
        job,
        loads=tuple(loads),
        demand=msgspec.structs.replace(job.demand, floor_m2=None, small_appliance=0, laundry=0, method="standard"),
    )
    return _standard(own, unit)


def _named(load: Load) -> str:
    return f"{load.name}, {load.count} of them" if load.count > 1 else load.name
