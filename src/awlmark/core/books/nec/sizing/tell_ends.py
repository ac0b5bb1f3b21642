"""The far end and the pipe in words: receptacle, fill, jam, and what is worth a note."""

from __future__ import annotations

import numpy as np

from awlmark.core.books.nec.edition import FILL_PERCENT, nec
from awlmark.core.books.nec.sizing.ampacity import terminal_column
from awlmark.core.books.nec.sizing.fill import JAM_WINDOW, jam_ratio
from awlmark.core.books.nec.sizing.opening import CONNECTIONS, LARGE_CIRCUIT_A, fill_column
from awlmark.core.books.nec.sizing.outlet import needs_gfci, usual_on
from awlmark.core.books.nec.sizing.work import worked
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.quantities import draw_trade_size, print_amps


def tell_receptacles(t: Teller) -> list[Finding]:
    """Receptacle against breaker and charging current."""
    receptacle = t.case.receptacle
    if receptacle is None:
        return []
    rated, found = receptacle.amps, []
    family = receptacle.config.split("-")[0]
    for check, needed, what, cite in (
        ("receptacle", t.breaker_a, f"the breaker is {t.breaker_a:g} A", "receptacle"),
        ("receptacle-load", t.need_a, f"charging counts as {print_amps(t.need_a)}", "receptacle_load"),
    ):
        severity = t.severity(check)
        fixes: list[Fix] = []
        text, ask = f"A {receptacle.config} receptacle is rated {rated:g} A; {what}.", ""
        if check == "receptacle" and severity == UNREAD:
            text += " A duplex one may be on it, a single one not. Which is it?"
            ask = "duplex "
        elif check == "receptacle" and severity == HOLDS and not usual_on(rated, t.breaker_a):
            severity = TIGHT
            text += " The table has a smaller outlet there; your inspector decides."
            cite = "receptacle_table"
        if severity == STOP:
            larger = [
                other
                for other in CONNECTIONS[1:]
                if other.split("-")[0] == family and t.book.receptacles[other].amps >= max(needed, t.need_a)
            ]
            if larger:
                fixes.append(Fix(f"{larger[0]} receptacle", (Put("charger.connection", larger[0]),)))
            fixes.append(Fix("Hardwire it", (Put("charger.connection", "hardwired"),)))
        found.append(
            Finding(
                id=check,
                severity=severity,
                title="Receptacle",
                text=text,
                ask=ask,
                cite=t.book.cite(cite),
                found=rated,
                needed=needed,
                unit="A",
                where="charger",
                at_m=t.case.line.length_m,
                fixes=tuple(fixes),
            )
        )
    return found


def tell_fill(t: Teller, number: int) -> Finding:
    """Fill of one section."""
    section, terms = t.case.sections[number], t.seen.terms["fill"]
    severity = t.severity("fill", number)
    trade = int(worked(t).fills.trade[t.row, number])
    largest = t.book.trade_sizes_of(section.method)[-1]
    size = t.book.trade_sizes[trade] if trade >= 0 else largest
    pipe = f"{draw_trade_size(size)} {section.method.name}"
    column = fill_column(t.case, section)
    base = {"id": f"fill:{number + 1}", "title": f"Fill of {pipe}", "cite": t.book.cite("fill")}
    spot = {"at_m": section.start_m, "where": section.legs[0].leg.id}
    if severity == UNREAD:
        text = f"The dimension table is silent on a conductor here; {pipe} can't be judged. Parallel sets "
        text += f"({t.book.clause('parallel')}) are not worked out."
        return Finding(severity=UNREAD, text=text, **base, **spot)  # type: ignore[arg-type]
    found, limit = (float(array[t.row, number]) for array in (terms.found, terms.needed))
    counts = f"{t.case.conductors + sum(b.count for b in t.case.job.circuit.others)} conductors"
    nominal = float(FILL_PERCENT[column])
    text = f"{counts} fill {found:.1f} % of {pipe}; {nominal:.0f} % is the most"
    text += " in a nipple up to 24 in." if section.nipple else "."
    if limit > nominal + 1e-9:
        # All of one size: the count may be rounded up from eight tenths.
        text = f"{counts} of one size fill {found:.1f} % of {pipe}: by note 7 they count as {nominal:.0f} %, the most."
        limit = found
    fixes: list[Fix] = []
    if severity in (STOP, TIGHT):
        after = _larger_pipe(t, number, trade)
        if after is not None:
            edits = tuple(Put(f"legs[{walked.leg.id}].trade_size", after) for walked in section.legs)
            fixes.append(Fix(f"{draw_trade_size(after)} {section.method.name}", edits))
        if t.case.job.circuit.ground_size is not None:
            fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
    room = float(nec(t.book).bore_area_mm2[section.method.raceway, t.book.trade_sizes.index(size)])
    return Finding(
        severity=severity,
        text=text,
        found=found,
        needed=limit,
        unit="%",
        sense="most",
        sums=(
            f"{float(worked(t).fills.area_mm2[t.row]) / 645.16:.4f} of {room / 645.16:.3f} in²",
            ("limit of a short nipple", "limit for one wire", "limit for two", "limit for three or more")[column],
            f"{limit - found:.1f} % of the bore left" if found <= limit else f"{found - limit:.1f} % too much",
        ),
        fixes=tuple(fixes),
        **base,  # type: ignore[arg-type]
        **spot,  # type: ignore[arg-type]
    )


def _larger_pipe(t: Teller, number: int, trade: int) -> str | None:
    fits = worked(t).fills.fits[t.row, number]
    later = [index for index in np.flatnonzero(fits) if index > trade]
    return t.book.trade_sizes[int(later[0])] if later else None


def tell_jam(t: Teller, number: int) -> Finding:
    """Jam ratio of one section."""
    section = t.case.sections[number]
    trade = int(worked(t).fills.trade[t.row, number])
    table = t.seen.table
    compact = t.case.job.circuit.compact and t.metal == "al"
    diameters = t.book.compact_diameter_mm if compact else t.book.diameter_mm
    diameter = float(diameters[table.insulation[t.group], t.hot])
    bore = float(t.book.bore_mm[section.method.raceway, trade])
    ratio = jam_ratio(bore, diameter)
    severity = t.severity("jam", number)
    pipe = f"{draw_trade_size(t.book.trade_sizes[trade])} {section.method.name}"
    inside = severity == TIGHT
    fixes: list[Fix] = []
    if inside:
        if t.case.job.circuit.ground_size is not None:
            fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
        after = _larger_pipe(t, number, trade)
        if after is not None:
            edits = tuple(Put(f"legs[{walked.leg.id}].trade_size", after) for walked in section.legs)
            fixes.append(Fix(f"{draw_trade_size(after)} {section.method.name}", edits))
    return Finding(
        id=f"jam:{number + 1}",
        severity=severity,
        title="Jam ratio",
        text=(
            f"Three equal wires in {pipe}: ratio {ratio:.2f}. Between {JAM_WINDOW[0]} and {JAM_WINDOW[1]} "
            + ("they can wedge in a bend." if inside else "they could wedge; this one stays clear.")
        ),
        cite=t.book.cite("jam"),
        found=ratio,
        needed=JAM_WINDOW[1] if ratio >= sum(JAM_WINDOW) / 2 else JAM_WINDOW[0],
        sense="least" if ratio >= sum(JAM_WINDOW) / 2 else "most",
        sums=(
            f"{bore / 25.4:.3f} / {diameter / 25.4:.3f} in = {ratio:.2f}",
            f"{1.05 * ratio:.2f} in the oval of a bend",
        ),
        at_m=section.start_m,
        where=section.legs[0].leg.id,
        fixes=tuple(fixes),
    )


def tell_notes(t: Teller) -> list[Finding]:
    """Markings, settings, neighbours and ground-fault breaker."""
    job, book, found = t.case.job, t.book, []
    unmarked = job.supply.terminal_c is None or job.charger.terminal_c is None
    if unmarked and t.breaker_a <= LARGE_CIRCUIT_A and terminal_column(t.case, t.breaker_a) == 75:
        marks = tuple(Put(f"{part}.terminal_c", 75) for part in ("supply", "charger"))
        cool = tuple(Put(f"{part}.terminal_c", 60) for part in ("supply", "charger"))
        found.append(
            Finding(
                id="terminals",
                severity=UNREAD,
                site=True,
                title="Terminal markings",
                text="This holds only if both ends, and every splice and switch between them, are marked 75 °C; "
                "otherwise 60 °C counts. Read the labels.",
                cite=book.cite("terminals"),
                where="panel",
                at_m=0.0,
                fixes=(Fix("Both are marked 75 °C", marks), Fix("Take 60 °C", cool)),
            )
        )
    setting = job.charger.setting_a
    lowered = setting is not None and job.charger.nameplate_a is not None and setting < job.charger.nameplate_a
    if lowered and t.case.charge_a == job.charger.nameplate_a:
        fixes: tuple[Fix, ...] = ()
        if t.case.receptacle is None:
            fixes = (Fix("Access is restricted", (Put("charger.setting_restricted", True),)),)
        found.append(
            Finding(
                id="setting",
                severity=NOTE,
                title="Charger setting",
                text="A lower setting counts only on fixed equipment that nobody can raise without a tool or password.",
                cite=book.cite("setting"),
                where="charger",
                at_m=t.case.line.length_m,
                fixes=fixes,
            )
        )
    if job.circuit.extra_ccc and not job.circuit.others:
        found.append(
            Finding(
                id="extra-conductors",
                severity=NOTE,
                title="Neighbours not named",
                text=f"{job.circuit.extra_ccc} extra conductors count for heat only; name their sizes for the fill.",
                cite=book.cite("bundling"),
                where="line",
            )
        )
    if needs_gfci(t.case, t.breaker_a):
        rule = "gfci_receptacle" if t.case.receptacle else "gfci_hardwired"
        found.append(
            Finding(
                id="gfci",
                severity=STOP if job.existing.breaker == "plain" else HOLDS if job.existing.breaker == "gfci" else NOTE,
                title="Ground-fault breaker",
                text=_gfci_words(t),
                cite=book.cite(rule),
                where="panel",
                at_m=0.0,
            )
        )
    return found


def _gfci_words(t: Teller) -> str:
    """What protects the outlet; small ones may have it in the receptacle, an existing plain breaker has it nowhere."""
    receptacle, there = t.case.receptacle, t.case.job.existing.breaker
    own = "the charger's own protection does not count as one."
    if there == "plain":
        return f"The breaker that is there has no ground-fault protection and this outlet wants it; {own}"
    if receptacle is not None and receptacle.hots == 1:
        return f"This outlet wants ground-fault protection, by the breaker or by the receptacle itself; {own}"
    return f"This outlet wants a ground-fault breaker; {own}"
