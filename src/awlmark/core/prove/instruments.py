"""Simulated instruments: meter, clamp, insulation tester, thermometer, on the designed circuit, healthy or faulty."""

from __future__ import annotations

import functools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.prove.network import HEALTHY, Faults, circuit_of, solve_network
from awlmark.core.prove.test import AIR_C, BREAKER, FACE, YES, Test
from awlmark.core.prove.thermal import NODES, Thermal, charging, guard_of, heat_run, thermal_of
from awlmark.core.solve.design import Design

SOUND_OHM: Final = 5e8
"""What an insulation tester shows on sound wire: more than its scale; common practice."""


class Bench(msgspec.Struct, frozen=True):
    """How the circuit stands while an instrument is held to it."""

    closed: bool = False
    """Branch breaker closed."""
    amps: float = 0.0
    """Charging current asked for."""
    minutes: float = 0.0
    """At that current."""
    faults: Faults = HEALTHY


def meter_volts(design: Design, bench: Bench, one: str, other: str) -> float:
    """What a meter shows between two points [V]."""
    circuit = circuit_of(design)
    if circuit is None:
        return 0.0
    made = solve_network(circuit, bench.faults, amps=bench.amps, closed=bench.closed, plugged=bench.amps > 0,
                         meter=(one, other))  # fmt: skip
    return made.between(one, other)


def clamp_amps(design: Design, bench: Bench) -> float:
    """What a clamp shows on a hot [A]."""
    circuit = circuit_of(design)
    if circuit is None or not bench.closed:
        return 0.0
    return solve_network(circuit, bench.faults, amps=bench.amps).amps


def temperature(design: Design, bench: Bench, place: str, air_c: float = AIR_C) -> float:
    """What a thermometer shows on a node of the thermal model [C]."""
    circuit = circuit_of(design)
    if circuit is None or bench.minutes <= 0:
        return air_c
    thermal = thermal_of(design, bench.faults, circuit.at(0 if place == BREAKER else 1, circuit.lines[0]))
    if thermal is None:
        return air_c
    return _warm(thermal, bench.amps, bench.minutes, air_c)[
        NODES.index({BREAKER: "lug", FACE: "body"}.get(place, place))
    ]


@functools.lru_cache(maxsize=256)
def _warm(thermal: Thermal, amps: float, minutes: float, air_c: float) -> tuple[float, ...]:
    found = heat_run(thermal, *charging(amps), air_c, np.array([minutes * 60.0]), cut_back_c=guard_of(thermal))
    return tuple(found[0].tolist())


def take(design: Design, test: Test, faults: Faults = HEALTHY) -> float:
    """What the right instrument shows for a test on the circuit as it stands, in the test's unit [V, ohm, A, kW, C]."""
    circuit = circuit_of(design)
    if circuit is None:
        return 0.0
    full = circuit.charge_a
    if test.stage in ("dead", "live"):
        bench = Bench(closed=test.stage == "live", faults=faults)
        assert test.probes is not None
        # Dead means the breaker open: probes stand at its load side.
        return meter_volts(design, bench, *test.probes)
    if test.stage == "continuity":
        wires = test.wires or circuit.wires
        loose = sum(ohms for point, ohms in faults.loose_ohm.items() if point.split()[-1] in wires)
        opened = any(point.split()[-1] in wires for point in faults.open_at)
        return 1e7 if opened else test.expected * faults.wire_factor + loose
    if test.stage == "insulation":
        return SOUND_OHM
    if test.stage == "polarity":
        return float(faults.crossed is None)
    if test.stage == "loop":
        return design.book.prove.loop(circuit, test, faults)
    if test.unit == YES:
        return float(test.key != faults.no_function)
    if test.stage == "residual":
        return test.expected if faults.trips_ms is None else faults.trips_ms
    if test.key == "setting":
        return full
    if test.key == "amps":
        return clamp_amps(design, Bench(closed=True, amps=full, faults=faults))
    if test.key == "kw":
        made = solve_network(circuit, faults, amps=full)
        return made.amps * sum(made.between(circuit.at(1, a), circuit.at(1, b)) for a, b in circuit.loads) / 1000
    if test.stage == "charge":
        assert test.probes is not None
        return meter_volts(design, Bench(closed=True, amps=full, faults=faults), *test.probes)
    place, minutes = test.key.split()[:2]
    air = AIR_C if design.job.prove.ambient_c is None else design.job.prove.ambient_c
    drawn = clamp_amps(design, Bench(closed=True, amps=full, faults=faults))
    return temperature(design, Bench(True, drawn, float(minutes), faults), place, air)
