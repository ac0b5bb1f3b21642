"""The chain in words: breaker, conductor, heat, protection, ground, drop."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from awlmark.core.books.nec.edition import COLUMNS_C, nec
from awlmark.core.books.nec.sizing.drop import holds_to_m, lost_volts
from awlmark.core.books.nec.sizing.opening import CONTINUOUS, current_carrying
from awlmark.core.books.nec.sizing.work import worked
from awlmark.core.circuit.case import drop_limit
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS
from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import FOOT_M, print_amps, print_gauge, print_length, print_temperature

FORM_NAMES: Final = {
    "table 8": "Table 8, dc at 75 °C",
    "table 9": "Table 9, ac with reactance",
    "working": "Table 8 at working temperature",
}


def tell_breaker(t: Teller) -> Finding:
    """Breaker against 125 % of the charging current."""
    need, charge = t.need_a, t.case.charge_a
    right = float(t.book.next_rating(np.array([max(need, 15.0)]))[0])
    severity = t.severity("breaker")
    beyond = np.isinf(t.breaker_a)
    fixes: tuple[Fix, ...] = ()
    if severity == STOP:
        open_it = Fix(f"{right:g} A breaker", (Put("circuit.breaker_a", None), Put("circuit.size", None)))
        fixes = (() if np.isinf(right) else (open_it,)) + t.lower_setting(t.breaker_a)
    return Finding(
        id="breaker",
        severity=severity,
        title="Breaker",
        text=(
            f"No standard breaker reaches {print_amps(need)}."
            if beyond
            else f"{print_amps(charge)} of charging counts as {print_amps(need)}; the breaker is {t.breaker_a:g} A."
        ),
        cite=t.book.cite("breaker"),
        found=None if beyond else t.breaker_a,
        needed=need,
        unit="A",
        sums=(f"{charge:g} A × {CONTINUOUS:g} = {need:g} A",),
        where="panel",
        at_m=0.0,
        fixes=fixes,
    )


def tell_conductor(t: Teller) -> Finding:
    """Terminal ampacity against 125 % of the charging current."""
    found = float(worked(t).carried.terminal_a[t.group, t.hot])
    column = worked(t).carried.column_c[t.group]
    limited = [s.method for s in t.case.sections if s.limit_c is not None and s.limit_c <= column]
    spare = found - t.need_a
    stop = t.severity("conductor") == STOP
    what = f"As {limited[0].name}, {t.wire}" if limited else t.wire
    text = (
        f"{METAL_NAMES[t.metal].capitalize()} has no rating in {print_gauge(t.size)}."
        if found <= 0
        else f"{what} carries {print_amps(found)} at {column} °C. The charger counts as {print_amps(t.need_a)}: "
        + (f"{print_amps(-spare)} short." if stop else f"{print_amps(spare)} to spare.")
    )
    cite = f"{t.book.title} {limited[0].ampacity_cite}" if limited else t.book.cite("conductor")
    return Finding(
        id="conductor",
        severity=t.severity("conductor"),
        title="Conductor at its terminals",
        text=text,
        cite=cite,
        found=found,
        needed=t.need_a,
        unit="A",
        sums=(
            f"{t.case.charge_a:g} A × {CONTINUOUS:g} = {t.need_a:g} A",
            f"{print_gauge(t.size)}, {column} °C column: {found:g} A",
        ),
        where="panel",
        at_m=0.0,
        fixes=(t.right_size() + t.conduit() + t.lower_setting(found)) if stop else (),
    )


def tell_heat(t: Teller) -> Finding:
    """Ampacity after heat and bundling, or the temperature that is missing."""
    severity = t.severity("heat")
    carried = worked(t).carried
    heats = carried.heats[t.group]
    factored = float(carried.factored_a[t.group, t.hot])
    by_column = nec(t.book).ampacity_a[MATERIALS.index(t.metal), :, t.hot]
    if severity == UNREAD:
        missing = next(section for section in t.case.sections if section.ambient_c is None)
        spot = next(walked for walked in missing.legs if walked.ambient_c is None)
        alike = [one for one in t.case.line.legs if one.place == spot.place and one.ambient_c is None]
        return Finding(
            id="heat",
            severity=UNREAD,
            title="Temperature not read",
            text=f"How hot does the {spot.place} get where leg {spot.number} runs? Type it, such as 50C.",
            cite=t.book.cite("heat"),
            needed=t.case.charge_a,
            unit="A",
            at_m=(spot.start_m + spot.end_m) / 2,
            where=spot.leg.id,
            ask=f"leg {spot.number} ambient " if len(alike) == 1 else f"{spot.place} ",
        )
    each = [by_column[COLUMNS_C.index(h.column_c)] * (h.ambient_factor * h.bundling_factor) for h in heats]
    worst = int(carried.governing[t.group, t.hot]) if each else -1
    sums = [f"{print_gauge(t.size)}: {factored:g} A"]
    where, at_m, spot_text = "line", None, ""
    if worst >= 0:
        heat, section = heats[worst], t.case.sections[worst]
        base = by_column[COLUMNS_C.index(heat.column_c)]
        product = f"{base:g} A × {heat.ambient_factor:.2f}"
        ambient = print_temperature(heat.ambient_c or 0.0, t.case.job.units)
        if heat.bundling_factor < 1:
            product += f" × {heat.bundling_factor:.2f}"
        sums = [f"{heat.column_c} °C column at {ambient}", f"{product} = {factored:.1f} A"]
        if heat.bundling_factor < 1:
            sums.append(f"{current_carrying(t.case) + section.beside} conductors carry current")
        hottest = _holds_to_c(t, base * heat.bundling_factor, COLUMNS_C.index(heat.column_c))
        if hottest is not None:
            sums.append(f"holds to air of {print_temperature(hottest, t.case.job.units)}")
        where, at_m = section.legs[0].leg.id, section.start_m
        spot_text = f" in the {section.method.name}"
    stop = severity == STOP
    return Finding(
        id="heat",
        severity=severity,
        title="Heat and bundling",
        text=(
            f"After heat and neighbours {t.wire} carries {print_amps(factored)}{spot_text}; "
            f"{print_amps(t.case.charge_a)} is asked of it."
        ),
        cite=t.book.cite("heat"),
        found=factored,
        needed=t.case.charge_a,
        unit="A",
        sums=tuple(sums),
        where=where,
        at_m=at_m,
        fixes=(t.right_size() + t.lower_setting(factored * CONTINUOUS)) if stop else (),
    )


def _holds_to_c(t: Teller, base_a: float, column: int) -> float | None:
    """Hottest air whose factor still leaves the charging current [degC]; None where none does."""
    holds = [
        float(top)
        for top, factors in zip(nec(t.book).ambient_to_c, nec(t.book).ambient_factor, strict=True)
        if base_a * float(factors[column]) >= t.case.charge_a - 1e-9
    ]
    return max(holds, default=None)


def tell_protection(t: Teller) -> Finding:
    """Breaker against the largest that protects the wire."""
    most = float(worked(t).carried.allowed_breaker_a[t.group, t.hot])
    usable = float(worked(t).carried.usable_a[t.group, t.hot])
    stop = t.severity("protection") == STOP
    small = most < t.book.next_rating(np.array([usable]))[0] if not np.isnan(usable) else False
    at_least = max(t.need_a, 15.0)
    lower = t.case.job.circuit.breaker_a is not None and most >= at_least
    right = float(t.book.next_rating(np.array([at_least]))[0])
    opened = Fix(f"{right:g} A breaker", (Put("circuit.breaker_a", None),))
    return Finding(
        id="protection",
        severity=t.severity("protection"),
        title="Breaker protects the wire",
        text=f"The largest breaker that protects {t.wire} here is {most:g} A; this one is {t.breaker_a:g} A.",
        cite=t.book.cite("small" if small else "protection"),
        found=t.breaker_a,
        needed=most,
        unit="A",
        sense="most",
        sums=(f"usable {usable:.1f} A, next standard size {most:g} A",) if not np.isnan(usable) else (),
        where="panel",
        at_m=0.0,
        fixes=(((opened,) if lower else ()) + t.right_size() + t.lower_setting(most)) if stop else (),
    )


def tell_ground(t: Teller) -> Finding:
    """The ground, and how it grew."""
    grounds = worked(t).grounds
    if t.case.raceway_ground:
        names = ", ".join(dict.fromkeys(section.method.name for section in t.case.sections))
        return Finding(
            id="ground",
            severity=HOLDS,
            title="Raceway as ground",
            text=f"The {names} is the ground: all joints tight, bonding bushings where rings are left.",
            cite=t.book.cite("raceway_ground"),
            where="line",
            fixes=(Fix("Pull a wire ground", (Put("circuit.raceway_ground", False),)),),
        )
    severity = t.severity("ground")
    cabled = bool(grounds.cable.any())
    cite = t.book.cite("ground_growth")
    if severity == UNREAD:
        names = ", ".join(section.method.name for section in t.case.sections if section.method.cable)
        return Finding(
            id="ground",
            severity=UNREAD,
            title="Ground not read",
            ask="ground " if cabled else "",
            text=f"Which ground does the {names} carry? Read it off the cable and pin the ground size."
            + (" The table's own is doubtful." if bool(grounds.doubtful[t.row]) else "")
            if cabled
            else f"The ground table ends at 400 A; the breaker is {t.breaker_a:g} A.",
            cite=t.book.cite("ground"),
            where="line",
        )
    size = t.book.sizes[int(grounds.size[t.row])]
    base = t.book.sizes[int(grounds.base[t.row])]
    needed = float(grounds.needed_cmil[t.row])
    found = float(nec(t.book).cmil[int(grounds.size[t.row])])
    least = int(worked(t).carried.smallest[t.group])
    grown = least < t.hot
    shared = t.case.job.circuit.shared_ground_a
    breaker = max(t.breaker_a, shared or 0.0)
    whole = f"a {breaker:g} A breaker asks for {needed:,.0f}."
    sums = [f"{breaker:g} A breaker: {print_gauge(base)}"]
    if shared is not None:
        sums.append(f"one ground shared, the largest breaker of its circuits counts: {t.book.cite('shared_ground')}")
    if grown:
        table = nec(t.book).cmil
        sums.append(
            f"{table[t.book.size_index(base)]:,.0f} × {table[t.hot]:,.0f} / {table[least]:,.0f} = {needed:,.0f}"
        )
    sums.append(f"{print_gauge(size)}: {found:,.0f} circular mils")
    if severity == HOLDS:
        text = f"A {print_gauge(size)} {METAL_NAMES[t.metal]} ground serves the {breaker:g} A breaker"
        text += ", grown with the hots." if grown else "."
    elif severity == TIGHT:
        text = f"{print_gauge(size)} lies a hair under the {needed:,.0f} circular mils needed; your inspector decides."
        if bool(grounds.as_made[t.row]):
            text = (
                f"The cable's {print_gauge(size)} ground serves the {breaker:g} A breaker; with hots larger than "
                f"{print_gauge(t.book.sizes[least])} it would grow: your inspector decides."
            )
    else:
        text = f"The ground has {found:,.0f} circular mils; " + (
            f"hots grown from {print_gauge(t.book.sizes[least])} ask for {needed:,.0f}."
            if grown and needed > nec(t.book).cmil[t.book.size_index(base)] + 1e-6
            else whole
        )
    fixes: list[Fix] = []
    if severity != HOLDS:
        if t.case.job.circuit.ground_size is not None:
            fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
        if cabled:
            fixes += t.conduit()
        if grown:
            size_back = t.book.sizes[least]
            fixes.append(Fix(f"{print_gauge(size_back)} hots, more drop", (Put("circuit.size", size_back),)))
    return Finding(
        id="ground",
        severity=severity,
        title="Ground",
        text=text,
        cite=t.book.cite("shared_ground") if shared is not None else cite if grown else t.book.cite("ground"),
        found=found,
        needed=needed,
        unit="cmil",
        sums=tuple(sums),
        where="line",
        fixes=tuple(fixes),
    )


def tell_drop(t: Teller) -> Finding:
    """Volts left at the charger."""
    case, volts = t.case, float(t.seen.drop_v[t.row])
    percent, limit = 100 * volts / case.volts, drop_limit(case)
    severity = t.severity("drop")
    length = print_length(case.line.length_m, case.job.units)
    every = lost_volts(case)[MATERIALS.index(t.metal)] / case.volts * 100
    weight = "the rule here" if case.job.local.drop_mandatory else "advice"
    good = np.flatnonzero((every <= limit + 1e-9) & (worked(t).carried.terminal_a[t.group] > 0))
    reach_m = holds_to_m(case, MATERIALS.index(t.metal), t.hot)
    far = print_length(round(reach_m, 1), case.job.units) if reach_m < 1e5 else "any length"
    if case.job.units == "ft" and reach_m < 1e5:
        far = f"{math.floor(reach_m / FOOT_M):g} ft"
    fixes: list[Fix] = []
    if severity != HOLDS:
        if len(good) and int(good[0]) > t.hot:
            size = t.book.sizes[int(good[0])]
            fixes.append(Fix(f"{print_gauge(size)} {METAL_NAMES[t.metal]}", (Put("circuit.size", size),)))
        if percent > 0:
            fixes += t.lower_setting(CONTINUOUS * case.charge_a * min(1.0, limit / percent) - 1e-6)
    return Finding(
        id="drop",
        severity=severity,
        title="Voltage drop",
        text=(
            f"{volts:.1f} V of {case.volts:g} V stay in the wire over {length}: {percent:.2f} %, "
            f"leaving {case.volts - volts:.1f} V. {limit:g} % is {weight}."
        ),
        cite=t.book.cite("drop"),
        found=percent,
        needed=limit,
        unit="%",
        sense="most",
        sums=(
            f"{case.charge_a:g} A × {volts / case.charge_a:.4f} Ω out and back = {volts:.2f} V",
            f"{FORM_NAMES[case.job.circuit.drop_form]}, over {length}",
            f"{print_gauge(t.size)} holds to {far} at {case.charge_a:g} A and {limit:g} %",
        ),
        where="line",
        at_m=case.line.length_m,
        fixes=tuple(fixes),
    )
