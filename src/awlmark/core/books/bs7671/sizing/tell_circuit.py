"""The chain in words: device, conductor, drop, protective conductor, loop, conduit."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from awlmark.core.books.bs7671.edition import CHOSEN, TRUNKING, U0, bs, ratings_of
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.conduit import stretches, terms_of
from awlmark.core.books.bs7671.sizing.current import made_in
from awlmark.core.books.bs7671.sizing.drop import drop_each
from awlmark.core.books.bs7671.sizing.earth_fault import (
    COLD,
    FUSE,
    RESIDUAL_MA,
    STEADY_OHM,
    TOUCH_V,
    largest_zs,
    most_seconds,
    worst_section,
)
from awlmark.core.books.bs7671.sizing.factors import NAMES
from awlmark.core.books.bs7671.sizing.opening import MODE_3, charge_most_a
from awlmark.core.books.bs7671.sizing.work import worked
from awlmark.core.circuit.case import drop_limit
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.weakest_link import Link
from awlmark.core.finding import STOP, TIGHT, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.quantities import print_amps, print_length

LARGE: Final = tuple(row["size_mm"] for row in printed("conduit_factors_large_two_readers").rows)
"""Conduits whose terms two readers brought."""
OUTLETS: Final = {"ev13": "13 A ", "ind16": "16 A industrial ", "ind32": "32 A industrial "}
DEVICE_NAMES: Final = {"b": "type B", "c": "type C", "d": "type D", FUSE: "BS 88-2 fuse"}


def device_name(t: Teller) -> str:
    """The device in words: ``40 A type B``."""
    if t.breaker_a == math.inf:
        return "device, of which none is large enough"
    return f"{t.breaker_a:g} A {DEVICE_NAMES[t.case.job.circuit.device or 'b']}"


def tell_device(t: Teller) -> Finding:
    """Ib <= In."""
    severity, need = t.severity("breaker"), t.need_a
    fixes: list[Fix] = []
    if t.breaker_a == float("inf"):
        text = f"No device carries {print_amps(need)}."
    else:
        text = f"{device_name(t)} carries the design current of {print_amps(need)}."
    if severity == STOP and t.breaker_a != math.inf:
        text = f"{device_name(t)} is smaller than the design current of {print_amps(need)}."
        if t.case.job.circuit.breaker_a is not None:
            fixes.append(Fix("Device open", (Put("circuit.breaker_a", None),)))
        fixes += t.lower_setting(t.breaker_a)
    return Finding(
        id="breaker", severity=severity, title="Device", text=text, cite=t.book.cite("breaker"),
        found=None if t.breaker_a == float("inf") else t.breaker_a, needed=need, unit="A",
        sums=() if t.breaker_a == math.inf else (f"Ib {need:g} A <= In {t.breaker_a:g} A, not raised by a quarter",),
        where="panel",
        fixes=tuple(fixes),
    )  # fmt: skip


def tell_conductor(t: Teller) -> Finding:
    """In <= Iz, with the section that governs."""
    found, severity = worked(t).carried, t.severity("conductor")
    usable = float(found.usable_a[t.hot])
    if not len(found.factors):
        return Finding("conductor", UNREAD, "Conductor", "No leg is entered yet.", t.book.cite("conductor"))
    at = found.governing(t.hot)
    section, factors = t.case.sections[at], found.factors[at]
    tabulated = float(found.tabulated_a[at, t.hot])
    product = " x ".join(f"{name.title()} {getattr(factors, name):.2f}" for name in NAMES)
    sums: tuple[str, ...] = (f"It {tabulated:g} A x {product} = {usable:.2f} A",)
    way = bs(t.book).ways[section.method.key]
    bunched = any(leg.leg.spread == "bunched" for leg in section.legs)
    rules = {
        "ca": "ground_temperature" if way.ground else "ambient",
        "cg": "buried_grouping" if way.ground and not bunched else "grouping",
        "ci": "insulation", "cs": "soil", "cc": "buried",
    }  # fmt: skip
    sums += tuple(
        f"{name.title()} {getattr(factors, name):.2f}: {t.book.clause(rules[name])}"
        for name in NAMES
        if getattr(factors, name) == getattr(factors, name) and abs(getattr(factors, name) - 1) > 1e-9
    )
    where, fixes, ask = section.legs[0].leg.id, list[Fix](), ""
    text = f"{t.wire}, {section.method.name}: Iz {usable:.1f} A against a {device_name(t)}."
    if tabulated == 0:
        text = f"{section.method.name.capitalize()} has no cores for three phases."
        book = bs(t.book)
        made = made_in(book, section.method.key)
        if not made[t.hot]:
            sold = ", ".join(size for size, here in zip(book.sizes, made, strict=True) if here)
            text = f"{section.method.name.capitalize()} is used in {sold} mm², not in {t.size}."
        sums = ()
    elif severity == UNREAD:
        missing = ", ".join(factors.missing) or f"what {t.wire} carries so"
        text = f"Not read: {missing}. Leg {section.legs[0].number}, {section.method.name}."
        ask = f"leg {section.legs[0].number} "
        if "the temperature there" in factors.missing:
            ask += "ground " if way.ground else "ambient "
        elif "the length in insulation" in factors.missing:
            ask += "insulated "
    if severity == STOP:
        fits = _rating_below(t, usable)
        if t.need_a <= fits + 1e-9:
            fixes.append(Fix(f"Device of {fits:g} A", (Put("circuit.breaker_a", fits),)))
        fixes += [*t.right_size(), *t.lower_setting(fits)]
    return Finding(
        id="conductor", severity=severity, title="Conductor", text=text, cite=t.book.cite("conductor"),
        found=None if usable != usable else usable, needed=None if t.breaker_a == math.inf else t.breaker_a,
        unit="A", sums=sums, where=where,
        fixes=tuple(fixes), ask=ask,
    )  # fmt: skip


def _rating_below(t: Teller, amps: float) -> float:
    """Largest standard rating that a conductor allows [A]."""
    fitting = t.book.ratings_a[t.book.ratings_a <= amps + 1e-9]
    return float(fitting[-1]) if len(fitting) else 0.0


def tell_drop(t: Teller) -> Finding:
    """Volts left at the charger."""
    case, volts = t.case, float(t.seen.drop_v[t.row])
    percent, limit, severity = 100 * volts / case.volts, drop_limit(case), t.severity("drop")
    every = drop_each(case)
    length = print_length(case.line.length_m, case.job.units)
    text = (
        f"{volts:.2f} V of {case.volts:g} V stay in the cable over {length}: {percent:.2f} %, "
        f"leaving {case.volts - volts:.1f} V; {limit:g} % is the limit."
    )
    if severity == UNREAD:
        text = "The tables have no drop for this conductor."
    sums = tuple(
        f"{every[at, t.hot]:.4g} mV/A/m x {case.charge_a:g} A x {section.length_m:.2f} m / 1000"
        for at, section in enumerate(case.sections)
    )
    fixes: list[Fix] = []
    if severity in (TIGHT, STOP):
        lengths = np.array([section.length_m for section in case.sections])
        lost = 100 * (every * lengths[:, None]).sum(axis=0) * case.charge_a / 1000 / case.volts
        for at in np.flatnonzero(lost <= limit + 1e-9):
            if at > t.hot:
                fixes.append(Fix(t.book.print_size(t.book.sizes[int(at)]), (Put("circuit.size", t.book.sizes[at]),)))
                break
        fixes += t.lower_setting(case.charge_a * min(1.0, limit / percent) - 1e-6 if percent > 0 else case.charge_a)
    return Finding(
        id="drop", severity=severity, title="Voltage drop", text=text, cite=t.book.cite("drop"),
        found=None if percent != percent else percent, needed=limit, unit="%", sense="most", sums=sums, where="line",
        at_m=case.line.length_m, fixes=tuple(fixes),
    )  # fmt: skip


def tell_cpc(t: Teller) -> Finding:
    """Protective conductor by its table or by the adiabatic sum."""
    fault, severity = worked(t).fault, t.severity("cpc")
    if not fault.cpc.shape[1]:
        return Finding("cpc", UNREAD, "Protective conductor", "No leg is entered yet.", t.book.cite("cpc"))
    at = int(worst_section(fault)[t.row])
    size, zs = float(fault.cpc_mm2[t.row, at]), float(fault.zs_ohm[t.row])
    heat, table = float(fault.adiabatic_mm2[t.row, at]), float(fault.table_mm2[t.row])
    k = bs(t.book).ways[t.case.sections[at].method.key].adiabatic_k
    sums = [f"{t.book.clause('cpc_table')}: {table:g} mm² beside a line of {t.size} mm²"]
    if heat == heat:
        seconds = float(fault.clears_s[t.row])
        sums.append(f"230 V / {zs:.4f} ohm = {U0 / zs:.0f} A; x sqrt({seconds:g} s) / {k:g} = {heat:.2f} mm²")
    text = f"{size:g} mm² protective conductor is enough, {'by the table' if size >= table else 'by its heat'}."
    ask = ""
    if size != size:
        text = f"{t.case.sections[at].method.name.capitalize()} is not made with a line of {t.size} mm²."
    elif severity == UNREAD and zs != zs:
        text, ask = f"{size:g} mm² is judged by the heat of a fault, and that by the loop (Ze).", "ze "
    elif severity == UNREAD:
        text = (
            f"{size:g} mm² is below what {t.book.clause('cpc_table')} and the heat of a fault ask for "
            f"({heat:.2f} mm²): read the device's let-through, or take a larger one."
        )
        ask = "cpc "
    return Finding(
        id="cpc", severity=severity, title="Protective conductor", text=text, cite=t.book.cite("cpc"),
        found=None if size != size else size, needed=min(heat, table) if heat == heat else table, unit="mm²",
        sums=tuple(sums), where="line", ask=ask,
    )  # fmt: skip


def tell_zs(t: Teller) -> list[Finding]:
    """Loop against the device's table; the electrode in TT."""
    fault = worked(t).fault
    if fault.system == "tt":
        return [_electrode(t)]
    device = t.case.job.circuit.device or "b"
    severity, seconds = t.severity("zs"), float(fault.most_s[t.row])
    zs, limit = float(fault.zs_ohm[t.row]), float(fault.limit_ohm[t.row])
    rule = "fuse_5s" if device == FUSE and seconds > 0.4 else "type_d" if device == "d" else "zs"
    sums: tuple[str, ...] = (
        f"Zs = {fault.ze_ohm:g} + {fault.r1r2_20_ohm[t.row]:.4f} x "
        f"{fault.r1r2_ohm[t.row] / (fault.r1r2_20_ohm[t.row] or 1.0):.2f} = {zs:.4f} ohm",
        f"{device_name(t)} opens within {seconds:g} s to {limit:g} ohm; {COLD * limit:.3f} ohm measured cold",
    )
    text, ask = f"The loop of {zs:.3f} ohm opens a {device_name(t)} in time, to {limit:g} ohm.", ""
    fixes: list[Fix] = []
    if severity == UNREAD:
        text, ask, sums = "How is the supply earthed, and what is its loop (Ze)?", "pme", ()
        if fault.system is not None:
            text, ask = f"The table has no loop for a {device_name(t)}.", "device "
            if limit == limit:
                text, ask = "The loop hangs on a conductor that is not read.", "size "
    elif zs > limit:
        text = f"The loop of {zs:.3f} ohm is over {limit:g} ohm for a {device_name(t)}: the RCD alone opens a fault."
        rule = "zs_rcd"
        better = largest_zs("b", t.breaker_a, most_seconds(t.case, t.breaker_a))
        if device != "b" and zs <= better:
            fixes.append(Fix("Type B", (Put("circuit.device", "b"),)))
    return [
        Finding(
            id="zs", severity=severity, title="Earth-fault loop", text=text, cite=t.book.cite(rule),
            found=None if zs != zs else zs, needed=None if limit != limit else limit, unit="ohm", sense="most",
            sums=sums, where="line", fixes=tuple(fixes), ask=ask,
        )
    ]  # fmt: skip


def _electrode(t: Teller) -> Finding:
    """RA x IdN <= 50 V, and an electrode that stays."""
    ohm = worked(t).fault.ze_ohm
    most = TOUCH_V / RESIDUAL_MA * 1000
    if ohm != ohm:
        return Finding(
            "electrode", UNREAD, "Electrode", "What does the earth electrode measure?", t.book.cite("electrode"),
            needed=STEADY_OHM, unit="ohm", sense="most", where="panel", ask="ra ",
        )  # fmt: skip
    severity = grade(ohm, STEADY_OHM, "most", near=most / STEADY_OHM - 1)
    volts = ohm * RESIDUAL_MA / 1000
    text = f"{ohm:g} ohm x {RESIDUAL_MA:g} mA = {volts:.1f} V of {TOUCH_V:g} V."
    if severity == TIGHT and ohm > STEADY_OHM:
        text += f" Above {STEADY_OHM:g} ohm an electrode may not stay so."
    return Finding(
        "electrode", severity, "Electrode", text, t.book.cite("electrode" if severity != TIGHT else "electrode_steady"),
        found=ohm, needed=STEADY_OHM if severity != STOP else most, unit="ohm", sense="most", where="panel",
    )  # fmt: skip


def tell_fills(t: Teller) -> list[Finding]:
    """Every conduit against its cables."""
    found, fills = [], worked(t).fills
    for section in t.case.sections:
        severity = t.severity("fill", section.number)
        if section.method.raceway == TRUNKING and section.trade_size is None:
            found.append(
                Finding(f"fill:{section.number + 1}", UNREAD, "Trunking not read", "What size is the trunking?",
                        t.book.cite("fill"), where=section.legs[0].leg.id, ask="50x50 trunking", site=True)
            )  # fmt: skip
        if not severity:
            continue
        trade = int(fills.trade[t.row, section.number])
        size = t.book.trade_sizes[trade] if trade >= 0 else CHOSEN[-1]
        share = 100 * float(fills.share[t.row, section.number, t.book.trade_sizes.index(size)])
        worst = max(stretches(section), key=lambda each: (each.bends, each.length_m))
        earth = t.book.sizes[int(worked(t).fault.cpc[t.row, section.number])]
        trunking = section.trade_size is not None and "x" in size
        cables = terms_of(t.case, t.size, earth, trunking=trunking, short=worst.short)
        text = f"The cables take {share:.1f} % of the term of {size} mm {section.method.name}."
        if severity == UNREAD:
            text = "The tables have no term for this: put a drawing-in box, or read the conduit's own."
        elif severity == STOP:
            text = f"{size} mm is not enough: {share:.1f} % of its term." + ("" if trade >= 0 else " None chosen is.")
        larger = [
            other
            for other in t.book.trade_sizes_of(section.method)
            if fills.fits[t.row, section.number, t.book.trade_sizes.index(other)]
        ]
        fixes = []
        if severity == STOP and larger and section.trade_size is not None:
            edits = tuple(
                Put(f"legs[{each.leg.id}].trade_size", larger[0]) for each in section.legs if each.leg.trade_size
            )
            fixes.append(Fix(f"{larger[0]} mm", edits))
        found.append(
            Finding(
                id=f"fill:{section.number + 1}", severity=severity, title="Room in the conduit", text=text,
                cite=t.book.cite("large_conduit" if size in LARGE else "fill"),
                found=None if share != share else share, needed=100.0, unit="%",
                sense="most", where=section.legs[0].leg.id, fixes=tuple(fixes),
                sums=(f"terms {cables:g}; {worst.length_m:g} m, {worst.bends} bends between drawing-in points",),
            )
        )  # fmt: skip
    return found


def links(t: Teller) -> tuple[Link, ...]:
    """Every link with a rating of its own: device, conductor, outlet."""
    found = []
    if t.breaker_a != float("inf"):
        found.append(Link(f"{t.breaker_a:g} A device", t.breaker_a, "a larger device"))
    usable = float(worked(t).carried.usable_a[t.hot])
    if usable == usable:
        found.append(Link(f"{t.book.print_size(t.size)} cable", _rating_below(t, usable), "a larger cable"))
    most = charge_most_a(t.case.job.charger.connection)
    if t.case.job.charger.connection not in MODE_3:
        found.append(Link(f"{OUTLETS.get(t.case.job.charger.connection, '')}socket-outlet", most, "a charge point"))
    return tuple(found)


def device_kind(breaker_a: float, device: str) -> str:
    """What the device is sold as: an RCBO where it is made in that rating, else an MCB behind an RCCB; or a fuse."""
    if device == FUSE:
        return FUSE
    return "rcbo" if breaker_a in ratings_of("rcbo") else "mcb"


def chain(t: Teller) -> list[Finding]:
    """In the order of the chain."""
    return [tell_device(t), tell_conductor(t), tell_drop(t), tell_cpc(t), *tell_zs(t), *tell_fills(t)]
