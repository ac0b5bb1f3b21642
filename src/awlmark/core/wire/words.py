"""One row of the table in words: what was found, what is needed, the sum, the clause and the ways out."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.book.edition import COLUMNS_C
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS
from awlmark.core.quantities import draw_trade_size, print_amps, print_gauge, print_length, print_temperature
from awlmark.core.wire.ampacity import terminal_column
from awlmark.core.wire.case import CONNECTIONS, CONTINUOUS, LARGE_CIRCUIT_A, Case
from awlmark.core.wire.checks import Evaluated
from awlmark.core.wire.drop import loop_resistance
from awlmark.core.wire.fill import JAM_WINDOW, jam_ratio
from awlmark.core.wire.outlet import needs_gfci
from awlmark.core.wire.places import conduit_edits, method_edits, place_findings, wet_finding
from awlmark.core.words import METAL_NAMES

SETTINGS_A: Final = (12.0, 16.0, 20.0, 24.0, 28.0, 30.0, 32.0, 36.0, 40.0, 44.0, 48.0, 56.0, 64.0, 72.0, 80.0)
"""Charging settings offered as a way out, common practice; 28 and 44 only where nothing between is needed."""
OFFERED_SETTINGS_A: Final = tuple(setting for setting in SETTINGS_A if setting not in (28.0, 44.0))



class Teller:
    """Tells the findings of one row."""

    def __init__(self, evaluated: Evaluated, row: int) -> None:
        self.seen = evaluated
        self.case: Case = evaluated.table.case
        self.book = self.case.book
        self.row = row
        table = evaluated.table
        self.group = int(table.group[row])
        self.hot = int(table.hot[row])
        self.size = self.book.sizes[self.hot]
        self.metal = MATERIALS[table.material[self.group]]
        self.insulation = self.book.insulations[table.insulation[self.group]]
        self.breaker_a = float(table.breaker_a[self.group])
        self.need_a = CONTINUOUS * self.case.charge_a
        self.cabled = any(section.method.cable for section in self.case.sections)

    @property
    def wire(self) -> str:
        """The conductor in words."""
        return f"{print_gauge(self.size)} {METAL_NAMES[self.metal]}"

    def severity(self, check: str, section: int | None = None) -> str:
        """Severity of a check on this row; empty where it does not apply."""
        at = (self.row,) if section is None else (self.row, section)
        return self.seen.terms[check].severity(at)

    def findings(self) -> list[Finding]:
        """All findings of the circuit, in the order of the chain."""
        found = [self._breaker(), self._conductor(), self._heat(), self._protection(), self._ground(), self._drop()]
        found[1:1] = self._receptacles()
        for section in self.case.sections:
            if self.severity("fill", section.number):
                found.append(self._fill(section.number))
            if self.severity("jam", section.number):
                found.append(self._jam(section.number))
            wet = self.severity("wet", section.number)
            if wet:
                found.append(wet_finding(self.case, section, self.insulation, self.metal, wet))
        return found + place_findings(self.case) + self._notes()

    # -- ways out ---------------------------------------------------------------------------------------------------

    def _lower_setting(self, most_a: float) -> tuple[Fix, ...]:
        """Set the charger down to what a part carries: only fixed equipment has a setting that counts."""
        charger = self.case.job.charger
        fitting = [setting for setting in OFFERED_SETTINGS_A if CONTINUOUS * setting <= most_a + 1e-9]
        if self.case.receptacle is not None or not fitting or fitting[-1] >= self.case.charge_a:
            return ()
        edits = [Put("charger.setting_a", fitting[-1]), Put("charger.setting_restricted", True)]
        if charger.nameplate_a is None:
            return ()
        return (Fix(f"Set charger to {fitting[-1]:g} A, locked", tuple(edits)),)

    def _right_size(self) -> tuple[Fix, ...]:
        smallest = self.seen.carried.smallest[self.group]
        if smallest >= len(self.book.sizes):
            return ()
        size = self.book.sizes[int(smallest)]
        for section in self.case.sections:
            made = self.book.cable_ground.get(section.method.key)
            if made is not None and size not in made:
                return ()
        edits = [Put("circuit.size", size)]
        if self.case.job.circuit.ground_size is not None:
            edits.append(Put("circuit.ground_size", None))
        return (Fix(f"{print_gauge(size)} {METAL_NAMES[self.metal]}", tuple(edits)),)

    def _conduit(self) -> tuple[Fix, ...]:
        edits = conduit_edits(self.case)
        return (Fix("Singles in conduit instead", edits),) if edits else ()

    # -- the chain --------------------------------------------------------------------------------------------------

    def _breaker(self) -> Finding:
        need, charge = self.need_a, self.case.charge_a
        right = float(self.book.next_rating(np.array([max(need, 15.0)]))[0])
        severity = self.severity("breaker")
        beyond = np.isinf(self.breaker_a)
        fixes: tuple[Fix, ...] = ()
        if severity == STOP:
            open_it = Fix(f"{right:g} A breaker", (Put("circuit.breaker_a", None), Put("circuit.size", None)))
            fixes = (() if np.isinf(right) else (open_it,)) + self._lower_setting(self.breaker_a)
        return Finding(
            id="breaker",
            severity=severity,
            title="Breaker",
            text=(
                f"No standard breaker reaches {print_amps(need)}."
                if beyond
                else f"{print_amps(charge)} of charging counts as {print_amps(need)}; the breaker is {self.breaker_a:g} A."
            ),
            cite=self.book.cite("breaker"),
            found=None if beyond else self.breaker_a,
            needed=need,
            unit="A",
            sums=(f"{charge:g} A × 1.25 = {need:g} A",),
            where="panel",
            at_m=0.0,
            fixes=fixes,
        )

    def _conductor(self) -> Finding:
        found = float(self.seen.carried.terminal_a[self.group, self.hot])
        column = self.seen.carried.column_c[self.group]
        limited = [s.method for s in self.case.sections if s.method.limit_c and s.method.limit_c <= column]
        spare = found - self.need_a
        stop = self.severity("conductor") == STOP
        what = f"As {limited[0].name}, {self.wire}" if limited else self.wire
        text = (
            f"{METAL_NAMES[self.metal].capitalize()} has no rating in {print_gauge(self.size)}."
            if found <= 0
            else f"{what} carries {print_amps(found)} at {column} °C. The charger counts as {print_amps(self.need_a)}: "
            + (f"{print_amps(-spare)} short." if stop else f"{print_amps(spare)} to spare.")
        )
        cite = f"{self.book.title} {limited[0].ampacity_cite}" if limited else self.book.cite("conductor")
        return Finding(
            id="conductor",
            severity=self.severity("conductor"),
            title="Conductor at its terminals",
            text=text,
            cite=cite,
            found=found,
            needed=self.need_a,
            unit="A",
            sums=(
                f"{self.case.charge_a:g} A × 1.25 = {self.need_a:g} A",
                f"{print_gauge(self.size)}, {column} °C column: {found:g} A",
            ),
            where="panel",
            at_m=0.0,
            fixes=(self._right_size() + self._conduit() + self._lower_setting(found)) if stop else (),
        )

    def _heat(self) -> Finding:
        severity = self.severity("heat")
        carried = self.seen.carried
        heats = carried.heats[self.group]
        factored = float(carried.factored_a[self.group, self.hot])
        by_column = self.book.ampacity_a[MATERIALS.index(self.metal), :, self.hot]
        if severity == UNREAD:
            missing = next(section for section in self.case.sections if section.ambient_c is None)
            spot = next(walked for walked in missing.legs if walked.ambient_c is None)
            return Finding(
                id="heat",
                severity=UNREAD,
                title="Temperature not read",
                text=f"How hot does the {spot.place} get where leg {spot.number} runs? Give its ambient temperature.",
                cite=self.book.cite("heat"),
                needed=self.case.charge_a,
                unit="A",
                at_m=spot.start_m,
                where=spot.leg.id,
            )
        each = [by_column[COLUMNS_C.index(h.column_c)] * (h.ambient_factor * h.bundling_factor) for h in heats]
        worst = int(np.argmin(each)) if each else -1
        sums = [f"{print_gauge(self.size)}: {factored:g} A"]
        where, at_m, spot_text = "line", None, ""
        if worst >= 0:
            heat, section = heats[worst], self.case.sections[worst]
            base = by_column[COLUMNS_C.index(heat.column_c)]
            product = f"{base:g} A × {heat.ambient_factor:.2f}"
            ambient = print_temperature(heat.ambient_c or 0.0, self.case.job.units)
            if heat.bundling_factor < 1:
                product += f" × {heat.bundling_factor:.2f}"
            sums = [f"{heat.column_c} °C column at {ambient}", f"{product} = {factored:.1f} A"]
            if heat.bundling_factor < 1:
                sums.append(f"{self.case.current_carrying} conductors carry current")
            where, at_m = section.legs[0].leg.id, section.start_m
            spot_text = f" in the {section.method.name}"
        stop = severity == STOP
        return Finding(
            id="heat",
            severity=severity,
            title="Heat and bundling",
            text=(
                f"After heat and neighbours {self.wire} carries {print_amps(factored)}{spot_text}; "
                f"{print_amps(self.case.charge_a)} is asked of it."
            ),
            cite=self.book.cite("heat"),
            found=factored,
            needed=self.case.charge_a,
            unit="A",
            sums=tuple(sums),
            where=where,
            at_m=at_m,
            fixes=(self._right_size() + self._lower_setting(factored * CONTINUOUS)) if stop else (),
        )

    def _protection(self) -> Finding:
        most = float(self.seen.carried.allowed_breaker_a[self.group, self.hot])
        usable = float(self.seen.carried.usable_a[self.group, self.hot])
        stop = self.severity("protection") == STOP
        small = most < self.book.next_rating(np.array([usable]))[0] if not np.isnan(usable) else False
        at_least = max(self.need_a, 15.0)
        lower = self.case.job.circuit.breaker_a is not None and most >= at_least
        right = float(self.book.next_rating(np.array([at_least]))[0])
        opened = Fix(f"{right:g} A breaker", (Put("circuit.breaker_a", None),))
        return Finding(
            id="protection",
            severity=self.severity("protection"),
            title="Breaker protects the wire",
            text=f"The largest breaker that protects {self.wire} here is {most:g} A; this one is {self.breaker_a:g} A.",
            cite=self.book.cite("small" if small else "protection"),
            found=self.breaker_a,
            needed=most,
            unit="A",
            sense="most",
            sums=(f"usable {usable:.1f} A, next standard size {most:g} A",) if not np.isnan(usable) else (),
            where="panel",
            at_m=0.0,
            fixes=(((opened,) if lower else ()) + self._right_size() + self._lower_setting(most)) if stop else (),
        )

    def _ground(self) -> Finding:
        grounds = self.seen.grounds
        severity = self.severity("ground")
        cabled = bool(grounds.cable.any())
        cite = self.book.cite("ground_growth")
        if severity == UNREAD:
            names = ", ".join(section.method.name for section in self.case.sections if section.method.cable)
            return Finding(
                id="ground",
                severity=UNREAD,
                title="Ground not read",
                text=f"Which ground does the {names} carry? Read it off the cable and pin the ground size."
                if cabled
                else f"The ground table ends at 400 A; the breaker is {self.breaker_a:g} A.",
                cite=self.book.cite("ground"),
                where="line",
            )
        size = self.book.sizes[int(grounds.size[self.row])]
        base = self.book.sizes[int(grounds.base[self.row])]
        needed = float(grounds.needed_cmil[self.row])
        found = float(self.book.cmil[int(grounds.size[self.row])])
        least = int(self.seen.carried.smallest[self.group])
        grown = least < self.hot
        sums = [f"{self.breaker_a:g} A breaker: {print_gauge(base)}"]
        if grown:
            table = self.book.cmil
            sums.append(
                f"{table[self.book.size_index(base)]:,.0f} × {table[self.hot]:,.0f} / {table[least]:,.0f} = {needed:,.0f}"
            )
        sums.append(f"{print_gauge(size)}: {found:,.0f} circular mils")
        if severity == HOLDS:
            text = f"A {print_gauge(size)} {METAL_NAMES[self.metal]} ground serves the {self.breaker_a:g} A breaker"
            text += ", grown with the hots." if grown else "."
        elif severity == TIGHT:
            text = f"{print_gauge(size)} lies a hair under the {needed:,.0f} circular mils needed; your inspector decides."
        else:
            text = f"The ground has {found:,.0f} circular mils; " + (
                f"hots grown from {print_gauge(self.book.sizes[least])} ask for {needed:,.0f}."
                if grown
                else f"a {self.breaker_a:g} A breaker asks for {needed:,.0f}."
            )
        fixes: list[Fix] = []
        if severity != HOLDS:
            if self.case.job.circuit.ground_size is not None:
                fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
            if cabled:
                fixes += self._conduit()
            if grown:
                size_back = self.book.sizes[least]
                fixes.append(Fix(f"{print_gauge(size_back)} hots, more drop", (Put("circuit.size", size_back),)))
        return Finding(
            id="ground",
            severity=severity,
            title="Ground",
            text=text,
            cite=cite if grown else self.book.cite("ground"),
            found=found,
            needed=needed,
            unit="cmil",
            sums=tuple(sums),
            where="line",
            fixes=tuple(fixes),
        )

    def _drop(self) -> Finding:
        case, volts = self.case, float(self.seen.drop_v[self.row])
        percent, limit = 100 * volts / case.volts, case.job.circuit.max_drop_percent
        severity = self.severity("drop")
        length = print_length(case.line.length_m, case.job.units)
        every = case.charge_a * loop_resistance(case)[MATERIALS.index(self.metal)] / case.volts * 100
        good = np.flatnonzero((every <= limit + 1e-9) & (self.seen.carried.terminal_a[self.group] > 0))
        fixes: list[Fix] = []
        if severity != HOLDS:
            if len(good) and int(good[0]) > self.hot:
                size = self.book.sizes[int(good[0])]
                fixes.append(Fix(f"{print_gauge(size)} {METAL_NAMES[self.metal]}", (Put("circuit.size", size),)))
            if percent > 0:
                fixes += self._lower_setting(CONTINUOUS * case.charge_a * min(1.0, limit / percent) - 1e-6)
        return Finding(
            id="drop",
            severity=severity,
            title="Voltage drop",
            text=(
                f"{volts:.1f} V of {case.volts:g} V stay in the wire over {length}: {percent:.2f} %, "
                f"leaving {case.volts - volts:.1f} V. {limit:g} % is {'the rule here' if case.job.local.drop_mandatory else 'advice'}."
            ),
            cite=self.book.cite("drop"),
            found=percent,
            needed=limit,
            unit="%",
            sense="most",
            sums=(
                f"{case.charge_a:g} A × {volts / case.charge_a:.4f} Ω out and back = {volts:.2f} V",
                f"Table 8 at 75 °C, over {length}",
            ),
            where="line",
            at_m=case.line.length_m,
            fixes=tuple(fixes),
        )

    # -- the far end ------------------------------------------------------------------------------------------------

    def _receptacles(self) -> list[Finding]:
        receptacle = self.case.receptacle
        if receptacle is None:
            return []
        rated, found = receptacle.amps, []
        family = receptacle.config.split("-")[0]
        for check, needed, what, cite in (
            ("receptacle", self.breaker_a, f"the breaker is {self.breaker_a:g} A", "receptacle"),
            ("receptacle-load", self.need_a, f"charging counts as {print_amps(self.need_a)}", "receptacle_load"),
        ):
            severity = self.severity(check)
            fixes: list[Fix] = []
            if severity == STOP:
                larger = [
                    other
                    for other in CONNECTIONS[1:]
                    if other.split("-")[0] == family and self.book.receptacles[other].amps >= max(needed, self.need_a)
                ]
                if larger:
                    fixes.append(Fix(f"{larger[0]} receptacle", (Put("charger.connection", larger[0]),)))
                fixes.append(Fix("Hardwire it", (Put("charger.connection", "hardwired"),)))
            found.append(
                Finding(
                    id=check,
                    severity=severity,
                    title="Receptacle",
                    text=f"A {receptacle.config} receptacle is rated {rated:g} A; {what}.",
                    cite=self.book.cite(cite),
                    found=rated,
                    needed=needed,
                    unit="A",
                    where="charger",
                    at_m=self.case.line.length_m,
                    fixes=tuple(fixes),
                )
            )
        return found

    # -- in the pipe ------------------------------------------------------------------------------------------------

    def _fill(self, number: int) -> Finding:
        section, terms = self.case.sections[number], self.seen.terms["fill"]
        severity = self.severity("fill", number)
        trade = int(self.seen.fills.trade[self.row, number])
        largest = self.book.trade_sizes_of(section.method)[-1]
        size = self.book.trade_sizes[trade] if trade >= 0 else largest
        pipe = f"{draw_trade_size(size)} {section.method.name}"
        column = self.case.fill_column(section)
        base = {"id": f"fill:{number + 1}", "title": f"Fill of {pipe}", "cite": self.book.cite("fill")}
        spot = {"at_m": section.start_m, "where": section.legs[0].leg.id}
        if severity == UNREAD:
            text = f"The dimension table is silent on a conductor here; {pipe} can't be judged."
            return Finding(severity=UNREAD, text=text, **base, **spot)  # type: ignore[arg-type]
        found, limit = (float(array[self.row, number]) for array in (terms.found, terms.needed))
        counts = f"{self.case.conductors + sum(b.count for b in self.case.job.circuit.others)} conductors"
        text = f"{counts} fill {found:.1f} % of {pipe}; {limit:.0f} % is the most"
        text += " in a nipple up to 24 in." if section.nipple else "."
        fixes: list[Fix] = []
        if severity in (STOP, TIGHT):
            after = self._larger_pipe(number, trade)
            if after is not None:
                edits = tuple(Put(f"legs[{walked.leg.id}].trade_size", after) for walked in section.legs)
                fixes.append(Fix(f"{draw_trade_size(after)} {section.method.name}", edits))
            if self.case.job.circuit.ground_size is not None:
                fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
        return Finding(
            severity=severity,
            text=text,
            found=found,
            needed=limit,
            unit="%",
            sense="most",
            sums=(
                f"{float(self.seen.fills.area_mm2[self.row]) / 645.16:.4f} of "
                f"{float(self.book.bore_area_mm2[section.method.raceway, self.book.trade_sizes.index(size)]) / 645.16:.3f} in²",
                ("nipple", "one wire", "two wires", "over two wires")[column],
            ),
            fixes=tuple(fixes),
            **base,  # type: ignore[arg-type]
            **spot,  # type: ignore[arg-type]
        )

    def _larger_pipe(self, number: int, trade: int) -> str | None:
        fits = self.seen.fills.fits[self.row, number]
        later = [index for index in np.flatnonzero(fits) if index > trade]
        return self.book.trade_sizes[int(later[0])] if later else None

    def _jam(self, number: int) -> Finding:
        section = self.case.sections[number]
        trade = int(self.seen.fills.trade[self.row, number])
        table = self.seen.table
        compact = self.case.job.circuit.compact and self.metal == "al"
        diameters = self.book.compact_diameter_mm if compact else self.book.diameter_mm
        diameter = float(diameters[table.insulation[self.group], self.hot])
        ratio = jam_ratio(float(self.book.bore_mm[section.method.raceway, trade]), diameter)
        severity = self.severity("jam", number)
        pipe = f"{draw_trade_size(self.book.trade_sizes[trade])} {section.method.name}"
        inside = severity == TIGHT
        fixes: list[Fix] = []
        if inside:
            if self.case.job.circuit.ground_size is not None:
                fixes.append(Fix("Ground by the rule", (Put("circuit.ground_size", None),)))
            after = self._larger_pipe(number, trade)
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
            cite=self.book.cite("jam"),
            found=ratio,
            needed=JAM_WINDOW[1] if ratio >= sum(JAM_WINDOW) / 2 else JAM_WINDOW[0],
            sense="least" if ratio >= sum(JAM_WINDOW) / 2 else "most",
            sums=(
                f"{float(self.book.bore_mm[section.method.raceway, trade]) / 25.4:.3f} / {diameter / 25.4:.3f} in = {ratio:.2f}",
                f"{1.05 * ratio:.2f} in the oval of a bend",
            ),
            at_m=section.start_m,
            where=section.legs[0].leg.id,
            fixes=tuple(fixes),
        )

    # -- notes ------------------------------------------------------------------------------------------------------

    def _notes(self) -> list[Finding]:
        job, book, found = self.case.job, self.book, []
        unmarked = job.supply.terminal_c is None or job.charger.terminal_c is None
        if unmarked and self.breaker_a <= LARGE_CIRCUIT_A and terminal_column(self.case, self.breaker_a) == 75:
            marks = tuple(Put(f"{part}.terminal_c", 75) for part in ("supply", "charger"))
            cool = tuple(Put(f"{part}.terminal_c", 60) for part in ("supply", "charger"))
            found.append(
                Finding(
                    id="terminals",
                    severity=NOTE,
                    title="Terminal markings",
                    text="This holds only if both ends are marked 75 °C, otherwise 60 °C counts. Read both labels.",
                    cite=book.cite("terminals"),
                    where="panel",
                    at_m=0.0,
                    fixes=(Fix("Both are marked 75 °C", marks), Fix("Take 60 °C", cool)),
                )
            )
        setting = job.charger.setting_a
        lowered = setting is not None and job.charger.nameplate_a is not None and setting < job.charger.nameplate_a
        if lowered and self.case.charge_a == job.charger.nameplate_a:
            fixes: tuple[Fix, ...] = ()
            if self.case.receptacle is None:
                fixes = (Fix("Access is restricted", (Put("charger.setting_restricted", True),)),)
            found.append(
                Finding(
                    id="setting",
                    severity=NOTE,
                    title="Charger setting",
                    text="A lower setting counts only on fixed equipment that nobody can raise without a tool or password.",
                    cite=book.cite("setting"),
                    where="charger",
                    at_m=self.case.line.length_m,
                    fixes=fixes,
                )
            )
        if job.circuit.extra_ccc and not job.circuit.others:
            found.append(
                Finding(
                    id="extra-conductors",
                    severity=NOTE,
                    title="Neighbours not named",
                    text=f"{job.circuit.extra_ccc} extra conductors count for heat only; name their sizes to count them in the fill.",
                    cite=book.cite("bundling"),
                    where="line",
                )
            )
        if needs_gfci(self.case, self.breaker_a):
            rule = "gfci_receptacle" if self.case.receptacle else "gfci_hardwired"
            found.append(
                Finding(
                    id="gfci",
                    severity=NOTE,
                    title="Ground-fault breaker",
                    text="This outlet wants a ground-fault breaker; the charger's own protection does not count as one.",
                    cite=book.cite(rule),
                    where="panel",
                    at_m=0.0,
                )
            )
        return found
