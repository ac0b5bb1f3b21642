"""Voltage drop against an independent power-flow engine."""

import unittest

from dss import DSS

from awlmark.core.books import open_book
from awlmark.core.job.edit import Put, put
from awlmark.core.job.supply import SYSTEMS, Board, Load
from awlmark.core.solve.design import solve
from tests.outside import cases
from tests.support import LONG, design, straight

BOOK = open_book("nec-2023")
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


def solved_feeder(ohm_feeder: float, ohm_branch: float, other_a: float, charge_a: float) -> tuple[float, float]:
    """Volts at a sub-panel and at a charger beyond it: two lines in a row, constant currents at both ends."""
    engine, text = DSS.ActiveCircuit, DSS.Text
    text.Command = "clear"
    text.Command = "new circuit.c phases=1 basekv=0.12 bus1=s.1 pu=1 angle=0 r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
    text.Command = "new vsource.two phases=1 basekv=0.12 bus1=s.2 pu=1 angle=180 r1=1e-9 x1=1e-9 r0=1e-9 x0=1e-9"
    for name, start, end, ohm in (("f", "s", "p", ohm_feeder), ("b", "p", "e", ohm_branch)):
        text.Command = (
            f"new line.{name} phases=2 bus1={start}.1.2 bus2={end}.1.2 rmatrix=[{ohm} | 0 {ohm}] xmatrix=[0 | 0 0] "
            "cmatrix=[0 | 0 0] length=1 units=none"
        )
    for name, bus, amps in (("other", "p", other_a), ("car", "e", charge_a)):
        text.Command = (
            f"new load.{name} phases=1 bus1={bus}.1.2 kv=0.24 kw={0.24 * amps} pf=1 model=5 vminpu=0.3 vmaxpu=1.5"
        )
    text.Command = "set tolerance=1e-9"
    text.Command = "solve"
    found = []
    for name in ("other", "car"):
        engine.SetActiveElement(f"load.{name}")
        real = engine.ActiveCktElement.Voltages
        found.append(abs(complex(real[0], real[1]) - complex(real[2], real[3])))
    return found[0], found[1]


class DropAgainstSolver(unittest.TestCase):
    source = cases.OPENDSS

    def test_feeder_and_branch_of_unequal_conductors(self) -> None:
        for feeder, branch, metal in (("4", "6", "cu"), ("1", "8", "cu"), ("2", "6", "al")):
            job = put(
                straight(40, 90, method="emt", circuit__size=branch, supply__service_a=200.0),
                Put("occupancy", "other"),
                Put("boards", (Board(id="shed", feeder_a=100.0, feeder_size=feeder, feeder_material=metal),)),
                Put("boards[shed].feeder_length_m", 120 * 0.3048),
                Put("loads", (Load(id="l", name="Tub", va=20 * 240.0, board="shed"),)),
                Put("supply.board", "shed"),
            )
            made = solve(job)
            at = BOOK.size_index(feeder)
            ohm_feeder = float(BOOK.resistance[("cu", "al").index(metal), 0, at]) * 120 * 0.3048 / 1000
            ohm_branch = made.circuit.drop_v / 40 / 2
            _panel, car = solved_feeder(ohm_feeder, ohm_branch, 20, 40)
            whole = (240 - car) / 240 * 100
            self.assertAlmostEqual(made.finding("drop-whole").found, whole, delta=0.001 * whole, msg=feeder)

    def test_grid_of_sizes_and_lengths(self) -> None:
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
