"""The network against an independent solver; heat against hand formulas and the ampacity table."""

from __future__ import annotations

import math
import unittest

import numpy as np
from dss import DSS

from awlmark.core.prove.network import CONTACT_OHM, SERVICE_OHM, CircuitNetwork, Faults, circuit_of, solve_network
from awlmark.core.prove.thermal import Thermal, heat_run, steady, thermal_of
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.outside import cases
from tests.support import straight


def engine_volts(circuit: CircuitNetwork, faults: Faults, amps: float) -> tuple[float, float]:
    """Volts between the hots at panel and charger, and from each hot to the bar, by the independent engine."""
    text, engine = DSS.Text, DSS.ActiveCircuit
    text.Command = "clear"
    kv = 0.12 * faults.source
    ohm = SERVICE_OHM + circuit.feeder_ohm
    text.Command = f"new circuit.c phases=1 basekv={kv} bus1=s.1 pu=1 angle=0 r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
    angle = math.degrees(math.atan2(circuit.legs[1].imag, circuit.legs[1].real))
    text.Command = f"new vsource.two phases=1 basekv={kv} bus1=s.2 pu=1 angle={angle} r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
    wire = circuit.wire_ohm * faults.wire_factor + CONTACT_OHM
    loose = wire + faults.loose_ohm.get("charger 1", 0.0)
    lines = (
        ("up", "s", "b", ohm, ohm),
        ("lug", "b", "p", CONTACT_OHM, CONTACT_OHM),
        ("wire", "p", "e", loose, wire),
    )
    for name, start, end, one, two in lines:
        text.Command = (
            f"new line.{name} phases=2 bus1={start}.1.2 bus2={end}.1.2 rmatrix=[{one} | 0 {two}] xmatrix=[0 | 0 0] "
            "cmatrix=[0 | 0 0] length=1 units=none"
        )
    between = abs(circuit.legs[0] - circuit.legs[1]) / 1000
    text.Command = (
        f"new load.car phases=1 bus1=e.1.2 kv={between} kw={between * amps} pf=1 model=5 vminpu=0.3 vmaxpu=1.5"
    )
    text.Command = "set tolerance=1e-10"
    text.Command = "solve"
    found = []
    for name in ("line.lug", "line.wire"):
        engine.SetActiveElement(name)
        real = engine.ActiveCktElement.Voltages
        # Far end of each line: the second bus's two conductors.
        found.append(abs(complex(real[4], real[5]) - complex(real[6], real[7])))
    return found[0], found[1]


class NetworkAgainstEngine(unittest.TestCase):
    source = cases.OPENDSS

    def test_healthy_and_faulted(self) -> None:
        designs = (solve(demo_job()), solve(straight(32, 180, circuit__size="6")),
                   solve(straight(40, 90, supply__system="120/208")))  # fmt: skip
        for design in designs:
            circuit = circuit_of(design)
            for faults in (
                Faults(), Faults(source=0.95), Faults(wire_factor=1.6), Faults(loose_ohm={"charger 1": 0.03}),
                Faults(source=1.03, wire_factor=1.2, loose_ohm={"charger 1": 0.01}),
            ):  # fmt: skip
                made = solve_network(circuit, faults, amps=circuit.charge_a)
                panel, charger = engine_volts(circuit, faults, circuit.charge_a)
                with self.subTest(system=design.job.supply.system, faults=faults):
                    self.assertAlmostEqual(made.between("panel 1", "panel 2"), panel, delta=0.01)
                    self.assertAlmostEqual(made.between("charger 1", "charger 2"), charger, delta=0.01)
                    self.assertAlmostEqual(made.amps, circuit.charge_a, places=6)


class HeatAgainstHand(unittest.TestCase):
    def test_at_table_ampacity_a_conductor_sits_at_its_column(self) -> None:
        # NEC Table 310.16 in air of 30 C: published ampacities, from memory; within 5 %.
        for charge, size, metal in (
            (16, "12", "cu"),
            (40, "8", "cu"),
            (48, "6", "cu"),
            (80, "3", "cu"),
            (64, "2", "al"),
        ):
            design = solve(straight(charge, 40, circuit__size=size, circuit__material=metal))
            thermal, book = thermal_of(design), design.book
            column = design.circuit.terminal_c
            amps = book.ampacity_a[("cu", "al").index(metal), {60: 0, 75: 1}[column], book.size_index(size)]
            found = steady(thermal, float(amps), 30.0)[0]
            self.assertAlmostEqual(found, column, delta=0.05 * column, msg=size)

    def test_the_wire_alone_follows_its_time_constant(self) -> None:
        # One node: T = air + rise (1 - e^(-t / tau)), tau = C / (G - I2 R alpha), textbook form.
        thermal = thermal_of(solve(demo_job()))
        times = np.linspace(60.0, 5400.0, 40)
        made = heat_run(thermal, np.zeros(1), np.array([48.0]), 20.0, times)[:, 0]
        slope = thermal.wire_w_k - 48**2 * thermal.ohm_m * thermal.alpha
        tau = thermal.wire_j_k / slope
        rise = 48**2 * thermal.ohm_m * (1 + thermal.alpha * (20 - 75)) / slope
        self.assertTrue(np.allclose(made, 20 + rise * (1 - np.exp(-times / tau)), atol=0.02))

    def test_the_steady_terminal_balances_its_heat(self) -> None:
        # What the joint makes and the wire brings goes out to the air: checked by hand from the found temperatures.
        thermal = thermal_of(solve(demo_job()), Faults(loose_ohm={"charger 1": 0.01}))
        wire, lug, *_rest = steady(thermal, 48.0, 20.0)
        made = 48**2 * thermal.lug_ohm + 0.05 * (wire - lug)
        out = 0.045 * (1 + (lug - 20) / 60) * (lug - 20)
        self.assertAlmostEqual(made, out, places=4)

    def test_a_night_and_a_day_in_a_blink(self) -> None:
        thermal = thermal_of(solve(demo_job()))
        self.assertIsInstance(thermal, Thermal)
        day = heat_run(thermal, np.array([0.0, 28800.0]), np.array([48.0, 0.0]), 10.0, np.linspace(60, 86400, 1440))
        self.assertEqual(day.shape, (1440, 4))
        self.assertAlmostEqual(day[-1, 0], 10.0, delta=0.1)
