"""Voltage drop against an independent power-flow engine."""

import unittest

from dss import DSS

from awlmark.core.job.model import SYSTEMS
from tests.outside import cases
from tests.support import LONG, design

ANGLE = {"120/240": 180.0, "120/208": 120.0}


def solved_volts(system: str, ohm_each: float, amps: float, hots: int) -> tuple[float, float]:
    """Volts at source and load of two conductors with a constant-current load between them."""
    between, to_neutral = SYSTEMS[system]
    if system == "120/208":
        to_neutral = between / 3**0.5
    volts = between if hots == 2 else to_neutral
    engine = DSS.ActiveCircuit
    text = DSS.Text
    text.Command = "clear"
    text.Command = (
        f"new circuit.c phases=1 basekv={to_neutral / 1000} bus1=s.1 pu=1 angle=0 r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
    )
    if hots == 2:
        text.Command = (
            f"new vsource.two phases=1 basekv={to_neutral / 1000} bus1=s.2 pu=1 angle={ANGLE[system]} "
            "r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
        )
    bus = "s.1.2", "e.1.2"
    if hots == 1:
        bus = "s.1.0", "e.1.2"
    text.Command = (
        f"new line.l phases=2 bus1={bus[0]} bus2={bus[1]} rmatrix=[{ohm_each} | 0 {ohm_each}] xmatrix=[0 | 0 0] "
        "cmatrix=[0 | 0 0] length=1 units=none"
    )
    load = f"kv={volts / 1000} kw={volts * amps / 1000} pf=1 model=5 vminpu=0.3 vmaxpu=1.5"
    text.Command = f"new load.car phases=1 bus1=e.1.2 {load}"
    text.Command = "set tolerance=1e-9"
    text.Command = "solve"
    engine.SetActiveElement("load.car")
    real = engine.ActiveCktElement.Voltages
    one, two = complex(real[0], real[1]), complex(real[2], real[3])
    return volts, abs(one - two)


class DropAgainstSolver(unittest.TestCase):
    def test_grid_of_sizes_and_lengths(self) -> None:
        self.assertEqual(cases.OPENDSS.tag, cases.SOLVER)
        sizes = ("14", "12", "10", "8", "6", "4", "2", "1/0", "4/0") if LONG else ("10", "6", "2")
        charges = {"14": 12.0, "12": 16.0, "10": 24.0, "8": 32.0}
        systems = (("120/240", "hardwired", 2), ("120/208", "hardwired", 2), ("120/240", "5-20", 1))
        for system, connection, hots in systems:
            for size in sizes:
                for feet in (10, 60, 120, 250):
                    amps = charges.get(size, 48.0) if connection == "hardwired" else 16.0
                    made = design(
                        amps,
                        feet,
                        method="emt",
                        circuit__size=size,
                        supply__system=system,
                        charger__connection=connection,
                    ).circuit
                    ohm = float(made.drop_v) / amps / 2
                    source, load = solved_volts(system, ohm, amps, hots)
                    with self.subTest(system=system, size=size, feet=feet):
                        self.assertAlmostEqual(made.volts, source)
                        # The engine's current is in phase with the load's own volts, ours with the source's: the
                        # same for a resistive loop.
                        self.assertAlmostEqual(made.volts - made.drop_v, load, delta=0.001 * made.volts)
                        self.assertAlmostEqual(made.drop_v, source - load, delta=0.001 * made.drop_v + 1e-4)
