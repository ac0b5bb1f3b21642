"""What each test of 643 should show, worked out from the design, in the order it is made."""

from __future__ import annotations

import itertools
from typing import Final

import numpy as np

from awlmark.core.books.bs7671.edition import volts_limit
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.earth_fault import COLD, RESIDUAL_MA, STEADY_OHM, TOUCH_V, earthing, usual_ze
from awlmark.core.books.bs7671.sizing.opening import PHASES
from awlmark.core.books.bs7671.sizing.work import worked
from awlmark.core.books.bs7671.work.source import ENDS, largest_fault
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.parts.run_items import span_length, spans
from awlmark.core.prove.at_setting import at_setting
from awlmark.core.prove.heat_tests import heat_tests
from awlmark.core.prove.log import last_reading
from awlmark.core.prove.network import HEALTHY, CircuitNetwork, circuit_of, solve_network
from awlmark.core.prove.test import AIR_C, LEADS_OHM, YES, Test
from awlmark.core.solve.design import Design

DEAD_V: Final = volts_limit("dead: a proved tester")
PRACTICE: Final = "common practice"
LEAST_IR_OHM: Final = 1e6
"""500 V d.c., Table 64."""
USUAL_IR_OHM: Final = 2e8
"""New work shows more; common practice."""
BOND_OHM: Final = 0.05
"""A sound main bond with its clamp; common practice."""
TELLS: Final = 0.10
"""What length, temperature and the wire itself leave open; common practice."""
TRIPS_MS: Final = 28.0
"""A sound general device at its rated current; common practice, from memory."""
READ_OHM: Final = 0.005
"""Half of the last digit that a loop tester shows."""
STRAY_V: Final = 10.0
"""Neutral to earth, nothing drawn: more is asked about; common practice."""
BREAKS_A: Final = 6000.0
"""Breaking capacity of a device whose label nobody has read: the usual one, and the safe side."""
LOADED_PERCENT: Final = 1.0


def expect(design: Design) -> tuple[Test, ...]:
    """Every test of a design, in working order; none before there is a circuit."""
    circuit = circuit_of(design)
    if circuit is None or design.evaluated is None:
        return ()
    return (
        *_dead(circuit), *_continuity(design, circuit), *_insulation(design, circuit), *_polarity(design),
        *_volts(design, circuit), *_loops(design, circuit), *_residual(design), *_function(design, circuit),
        *_charging(design, circuit), *heat_tests(design),
    )  # fmt: skip


def band_v(what: str) -> tuple[float, float]:
    """Lowest and highest volts of the shipped table, by the beginning of a name."""
    row = next(row for row in printed("voltage_limits").rows if row["what"].startswith(what))
    return float(row["low"]), float(row["high"])


def _pairs(circuit: CircuitNetwork) -> list[tuple[str, str]]:
    """Every two wires: lines with one another, with neutral and with earth, neutral with earth."""
    return list(itertools.combinations(circuit.wires, 2))


def _dead(circuit: CircuitNetwork) -> list[Test]:
    source = f"{PRACTICE}; tester proved before and after"
    return [
        Test(f"dead {one}-{other}", "dead", f"Dead, {one} to {other}", "V", 0.0, 0.0, DEAD_V, source, True,
             (circuit.at(0, one), circuit.at(0, other)), must=True)
        for one, other in _pairs(circuit)
    ]  # fmt: skip


def ambient_factor(air_c: float) -> float:
    """From a conductor at 20 C to one at the air's temperature, On-Site Guide Table I2, the nearest row."""
    rows = [row for row in printed("r1_r2_multipliers").rows if row["kind"] == "ambient"]
    return float(min(rows, key=lambda row: abs(float(row["key"]) - air_c))["multiplier"])


def cold_ohms(design: Design) -> tuple[float, float, float]:
    """Line with protective conductor, line with neutral, and the first with the next thinner line, with tails [ohm]."""
    assert design.evaluated is not None and design.case is not None and design.circuit is not None
    case, made, book = design.case, design.circuit, design.book
    fault = worked(Teller(design.evaluated, design.row)).fault
    whole = sum(span_length(case, sections) for _cable, sections in spans(case))
    more = whole / max(design.line.length_m, 1e-9)
    air = AIR_C if design.job.prove.ambient_c is None else design.job.prove.ambient_c
    per = ambient_factor(air) * more
    loop_ohm = float(fault.r1r2_20_ohm[design.row]) * per
    at = book.sizes.index(made.size)
    ohm20 = book.ohm20_per_km  # type: ignore[attr-defined]
    line, thinner = (float(ohm20[index]) * design.line.length_m / 1000 * per for index in (at, max(at - 1, 0)))
    return loop_ohm, 2 * line, loop_ohm + thinner - line


def _continuity(design: Design, circuit: CircuitNetwork) -> list[Test]:
    loop_ohm, lines, thinner = cold_ohms(design)
    earth = circuit.source.earth
    guide = "On-Site Guide Table I1 by length, cold, with its tails; leads nulled"
    found = [
        _ohms("R1+R2", f"R1+R2: line and {earth}, far ends joined", loop_ohm, thinner, guide,
              (circuit.lines[0], earth), must=True),
        _ohms("R1+Rn", "Line and neutral, far ends joined", lines, lines + 2 * (thinner - loop_ohm), guide,
              (circuit.lines[0], "N"), must=False),
    ]  # fmt: skip
    bonding = design.job.supply.bonding
    for name in ("water", "gas", "oil", "steel"):
        if getattr(bonding, name) == "yes":
            told = f"Main bond of the {name}, terminal to clamp"
            found.append(Test(f"bond {name}", "continuity", told, "ohm", 0.02, 0.0, BOND_OHM, PRACTICE, must=True,
                              wires=("bond",)))  # fmt: skip
    return found


def _ohms(key: str, name: str, ohms: float, thinner: float, source: str, wires: tuple[str, ...], *, must: bool) -> Test:
    halfway = (thinner - ohms) / 2
    tells = halfway >= max(LEADS_OHM / 2, TELLS * ohms)
    high = ohms + halfway if tells else ohms * (1 + TELLS) + LEADS_OHM
    low = max(ohms * (1 - 2 * TELLS) - 0.01, 0.0)
    return Test(key, "continuity", name, "ohm", ohms, low, high, source, True, must=must, wires=wires)


def _insulation(design: Design, circuit: CircuitNetwork) -> list[Test]:
    source = f"{design.book.cite('insulation_test')}; new work shows 200 MΩ and more"
    return [
        Test(f"IR {one}-{other}", "insulation", f"Insulation, {one} to {other}, 500 V, electronics off", "ohm",
             USUAL_IR_OHM, LEAST_IR_OHM, 1e13, source, True, must=True)
        for one, other in _pairs(circuit)
    ]  # fmt: skip


def _passed(key: str, stage: str, name: str, source: str, *, must: bool = True) -> Test:
    return Test(key, stage, name, YES, 1.0, 1.0, 1.0, source, True, must=must)


def _polarity(design: Design) -> list[Test]:
    name = "Polarity: every wire on its own terminal at both ends"
    return [_passed("polarity", "polarity", name, design.book.cite("polarity"))]


def _volts(design: Design, circuit: CircuitNetwork) -> list[Test]:
    idle = solve_network(circuit, plugged=False)
    one, three = band_v("single phase"), band_v("three phase")
    earths = earthing(design.job.charger.pen, design.job.supply.earthing)
    found = []
    for end in (0, 1):
        for first, second in _pairs(circuit):
            points = circuit.at(end, first), circuit.at(end, second)
            name = f"{ENDS[end].capitalize()}, {first} to {second}, no load"
            key, volts = f"{ENDS[end]} {first}-{second}", idle.between(*points)
            if (first, second) == ("N", circuit.source.earth):
                test = Test(key, "live", name, "V", 0.0, 0.0, STRAY_V, PRACTICE, False, points)
            else:
                low, high = three if second in circuit.lines else one
                strict = second == circuit.source.earth and earths != "tt"
                test = Test(key, "live", name, "V", volts, low, high, "declared supply, ESQCR", strict, points,
                            must=end == 1)  # fmt: skip
            found.append(test)
    return found


def _loops(design: Design, circuit: CircuitNetwork) -> list[Test]:
    job, supply, cite = design.job, design.job.supply, design.book.cite
    system = supply.earthing or "tn-c-s"
    fault = worked(Teller(design.evaluated, design.row)).fault  # type: ignore[arg-type]
    found = []
    if system != "tt":
        told = supply.ze_ohm is not None
        most = max(supply.ze_ohm or 0.0, usual_ze(system)) if told else usual_ze(system)
        expected = supply.ze_ohm if supply.ze_ohm is not None else usual_ze(system)
        most += READ_OHM
        found.append(Test("Ze", "loop", "Ze at the origin, means of earthing parted", "ohm", expected, 0.0, most,
                          f"{cite('loop_test')}; declared for the system", True, must=True))  # fmt: skip
    if system == "tt" or job.charger.pen == "island":
        rod = supply.ra_ohm if supply.ra_ohm is not None else STEADY_OHM / 2
        most = min(STEADY_OHM, TOUCH_V / RESIDUAL_MA * 1000)
        found.append(Test("Ra", "loop", "Earth electrode", "ohm", rod, 0.0, most,
                          f"{cite('electrode')}; above 200 ohm it may not stay", True, must=True))  # fmt: skip
    limit = float(fault.limit_ohm[design.row])
    residual = fault.system == "tt" or not np.isfinite(limit)
    high = TOUCH_V / RESIDUAL_MA * 1000 if residual else COLD * limit
    cold = float(fault.ze_ohm) + cold_ohms(design)[0] if np.isfinite(fault.ze_ohm) else high / 2
    name = "Zs at the point, the 30 mA device not tripping"
    source = "RA x 30 mA to 50 V" if residual else f"0.8 of the device's {limit:.2f} ohm, cold"
    found.append(Test("Zs", "loop", name, "ohm", cold, 0.0, high, source, must=True))
    amps = supply.fault_a if supply.fault_a is not None else largest_fault(circuit, HEALTHY)
    breaks, why = supply.breaks_a or BREAKS_A, f"{cite('fault_current')}; what the device breaks"
    found.append(Test("pfc", "loop", "Prospective fault current at the board", "A", amps, 0.0, breaks, why, True,
                      must=True))  # fmt: skip
    return found


def _residual(design: Design) -> list[Test]:
    cite = design.book.cite
    row = next(
        row for row in printed("rcd_times").rows if row["kind"] == "general" and row["required"] == "yes"
    )  # fmt: skip
    most = float(row["most_ms"])
    return [
        Test("RCD 30 mA", "residual", "Residual device at 30 mA a.c.: time to open", "ms", TRIPS_MS, 0.0, most,
             f"{cite('residual_test')}, one test whatever the type", True, must=True),
        _passed("RCD half", "residual", "At half of that it stays closed", PRACTICE, must=False),
        _passed("RCD button", "residual", "Its test button opens it", cite("functions")),
    ]  # fmt: skip


def _function(design: Design, circuit: CircuitNetwork) -> list[Test]:
    job = design.job
    maker = "by the maker's own test"
    found = []
    if circuit.hots == len(PHASES):
        found.append(
            _passed("rotation", "function", "Phase rotation L1 L2 L3 at both ends", design.book.cite("rotation"))
        )
    if job.charger.connection in ("tethered", "type2", "hardwired"):
        found.append(_passed("pilot states", "function", "Unit with a test plug: waits, charges, stops", maker))
    if job.charger.dc_6ma:
        found.append(_passed("6 mA d.c.", "function", "The unit opens at 6 mA of smooth direct current", maker))
    if job.charger.pen in ("iii", "iv", "v"):
        low, high = band_v("PEN-fault window")
        told = f"PEN-fault device opens outside {low:g} to {high:g} V, within 5 s"
        found.append(_passed("PEN device", "function", told, maker))
    if job.demand.managed:
        found.append(_passed("curtailment", "function", "Charging falls and comes back as the load does", maker))
    return found


def _charging(design: Design, circuit: CircuitNetwork) -> list[Test]:
    idle = solve_network(circuit, plugged=False)
    amps = circuit.charge_a
    flowing = min(last_reading(design, "amps") or amps, amps)
    loaded = solve_network(circuit, amps=amps)
    one, other = circuit.loads[0]
    found, volts = [], 0.0
    sags = []
    for end in (0, 1):
        points = circuit.at(end, one), circuit.at(end, other)
        sags.append((idle.between(*points) - loaded.between(*points)) * flowing / amps)
    for end, sag in enumerate(sags):
        points = circuit.at(end, one), circuit.at(end, other)
        empty = last_reading(design, f"{ENDS[end]} {one}-{other}") or idle.between(*points)
        # Ze is the most the supply may have: how far the board itself sags lies between nothing and that.
        volts = empty - (sag - sags[0])
        spare = volts * LOADED_PERCENT / 100
        found.append(Test(f"{ENDS[end]} loaded", "charge", f"{ENDS[end].capitalize()}, {flowing:g} A flowing", "V",
                          volts, empty - sag - spare, volts + spare, "the design; the supply sags by Ze at most",
                          False, points))  # fmt: skip
    found.append(Test("amps", "charge", "Clamp on one line", "A", amps, amps * 0.95, amps * 1.005, "the setting", True,
                      below_is_load=True))  # fmt: skip
    most = design.circuit.breaker_a if design.circuit is not None else amps
    found.append(Test("setting", "charge", "Setting read off dial, switch or app", "A", amps, 6.0, max(most, amps),
                      design.book.cite("configured"), True))  # fmt: skip
    kilowatts = at_setting(circuit, flowing).kw
    found.append(Test("kw", "charge", "Power as the unit shows it", "kW", kilowatts, kilowatts * 0.93,
                      flowing * volts * len(circuit.loads) / 1000 * 1.03, "volts by amps"))  # fmt: skip
    return found
