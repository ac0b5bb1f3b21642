"""What each test should show, worked out from the design, with its band and where that comes from."""

from __future__ import annotations

from typing import Final

from msgspec.structs import replace

from awlmark.core.job.model import MATERIALS
from awlmark.core.parts.run_items import span_length, spans
from awlmark.core.prove.at_setting import at_setting, pair_of
from awlmark.core.prove.heat_tests import heat_tests
from awlmark.core.prove.log import last_reading
from awlmark.core.prove.network import circuit_of, solve_network
from awlmark.core.prove.test import AIR_C, LEADS_OHM, RANGE_A, Test
from awlmark.core.prove.thermal import ALPHA
from awlmark.core.solve.design import Design

DEAD_V: Final = 3.0
"""A sound tester shows less than this on a dead circuit; common practice."""
TELLS_OHM: Final = 0.015
"""Half a gauge has to make this much for a meter with nulled leads to tell it; common practice [ohm]."""
TELLS_SHARE: Final = 0.10
"""What length, temperature and the wire itself leave open; common practice."""
RACEWAY_OHM: Final = 0.001
"""A raceway that is the ground; its tables give no dc resistance."""
INSULATION_OHM: Final = 1e6
"""Least insulation at 500 V; common practice."""
LOADED_PERCENT: Final = 1.0
"""Of its volts, a reading under load may differ from the design: the utility's side is not known better."""


def expect(design: Design) -> tuple[Test, ...]:
    """Every test of a design, in working order; none before there is a circuit."""
    circuit = circuit_of(design)
    if circuit is None:
        return ()
    idle = solve_network(circuit, plugged=False)
    loaded = solve_network(circuit, amps=circuit.charge_a)
    hots = ["1", "2"][: circuit.hots]
    found: list[Test] = []
    pairs = [pair_of(circuit)]
    pairs += [(hot, "G") for hot in hots]
    for one, other in pairs:
        points = f"panel {one}", f"panel {other}"
        found.append(Test(f"dead {one}-{other}", "dead", f"Dead, {one} to {other}", "V", 0.0, 0.0, DEAD_V,
                          "common practice; tester proved before and after", True, points))  # fmt: skip
    wire, thinner, ground = cold_ohms(design)
    names = ("ohm 1-2", "Loop of the hots") if circuit.hots == 2 else ("ohm 1-N", "Loop of hot and neutral")
    found.append(_ohms(names[0], f"{names[1]}, far ends joined", 2 * wire, 2 * thinner, ("1", "2", "N")))
    if circuit.ground:
        name = "Ground with one hot, far ends joined"
        found.append(_ohms("ohm G", name, ground + wire, ground + thinner, ("1", "2", "G")))
    for hot in hots:
        found.append(Test(f"megohm {hot}-G", "insulation", f"Insulation, {hot} to ground, charger off", "ohm", 5e8,
                          INSULATION_OHM, 1e13, "common practice, 500 V", True, None))  # fmt: skip
    for end in ("panel", "charger"):
        wires = [("1", "2")] if circuit.hots == 2 else []
        wires += [(hot, "N") for hot in hots] if circuit.neutral or end == "panel" else []
        wires += [(hot, "G") for hot in hots] if circuit.ground else []
        for one, other in wires:
            points = f"{end} {one}", f"{end} {other}"
            volts = idle.between(*points)
            low, high = volts * (1 - RANGE_A), volts * (1 + RANGE_A)
            name = f"{end.capitalize()}, {one} to {other}, no load"
            found.append(
                Test(
                    f"{end} {one}-{other}",
                    "live",
                    name,
                    "V",
                    volts,
                    low,
                    high,
                    "ANSI C84.1 Range A",
                    other == "G",
                    points,
                )
            )
    pair = pair_of(circuit)
    amps = circuit.charge_a
    flowing = min(last_reading(design, "amps") or amps, amps)
    for end in ("panel", "charger"):
        points = f"{end} {pair[0]}", f"{end} {pair[1]}"
        # The sag is the circuit's; where it begins is what the supply gave without load.
        empty, sag = idle.between(*points), (idle.between(*points) - loaded.between(*points)) * flowing / amps
        volts = (last_reading(design, f"{end} {'-'.join(pair)}") or empty) - sag
        spare = volts * LOADED_PERCENT / 100
        source = "the design, from the volts read without load" if volts != empty - sag else "the design"
        found.append(Test(f"{end} loaded", "charge", f"{end.capitalize()}, {flowing:g} A flowing", "V", volts,
                          volts - spare, volts + spare, f"{source}, with a usual service", False, points))  # fmt: skip
    found.append(Test("amps", "charge", "Clamp on one hot", "A", amps, amps * 0.95, amps * 1.005, "the setting", True,
                      below_is_load=True))  # fmt: skip
    most = max(design.circuit.breaker_a / design.book.circuit.load_share, amps) if design.circuit is not None else amps
    name, cite = "Setting read off dial, switch or app", design.book.cite("setting_read")
    found.append(Test("setting", "charge", name, "A", amps, 6.0, most, cite, True))
    there = last_reading(design, "charger loaded")
    kilowatts = at_setting(circuit, amps).kw if there is None and flowing == amps else flowing * (there or volts) / 1000
    low, high = kilowatts * 0.93, kilowatts * 1.03
    found.append(Test("kw", "charge", "Power as the charger shows it", "kW", kilowatts, low, high, "volts by amps"))
    must = ("dead", "continuity", "insulation")
    needed = {test.key for test in found if test.stage in must}
    needed |= {test.key for test in found if test.stage == "live" and not test.key.endswith("N")}
    needed |= {"charger 1-N"} if circuit.hots == 1 else set()
    return (*(replace(test, must=test.key in needed) for test in found), *heat_tests(design))


def cold_ohms(design: Design) -> tuple[float, float, float]:
    """One hot of the dead branch, the same in the next thinner gauge, and its ground [ohm]: dc, cold, with its tails.

    Table 8 gives ohms at 75 C; dead wire is at the site's own temperature (note 2 of the table).
    """
    made, book = design.circuit, design.book
    assert made is not None and design.case is not None
    metal, at = MATERIALS.index(made.material), book.sizes.index(made.size)
    air = AIR_C if design.job.prove.ambient_c is None else design.job.prove.ambient_c
    length_m = sum(span_length(design.case, sections) for _cable, sections in spans(design.case))
    per_ohm = (1 + ALPHA[made.material] * (air - 75.0)) * length_m / 1000
    table = book.ohm_per_km[metal]
    ground = float(table[book.sizes.index(made.ground)]) * per_ohm if made.ground else RACEWAY_OHM
    return float(table[at]) * per_ohm, float(table[max(at - 1, 0)]) * per_ohm, ground


def _ohms(key: str, name: str, ohms: float, thinner: float, wires: tuple[str, ...]) -> Test:
    """A band narrow enough to show one gauge less, where a meter can; elsewhere it says that ohms cannot."""
    halfway = (thinner - ohms) / 2
    tells = halfway >= max(TELLS_OHM, TELLS_SHARE * ohms)
    high = ohms + halfway if tells else ohms * (1 + TELLS_SHARE) + LEADS_OHM
    source = "Table 8 by length, cold, with its tails; leads nulled"
    source += "" if tells else "; one gauge less is not told by ohms on so short a wire"
    low = max(ohms * (1 - 2 * TELLS_SHARE) - 0.01, 0.0)
    return Test(key, "continuity", name, "ohm", ohms, low, high, source, True, wires=wires)
