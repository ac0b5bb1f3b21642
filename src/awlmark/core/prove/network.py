"""The designed circuit as an electrical network: source, feeder, branch, contacts, charger; healthy or with faults.

Nodal analysis with NumPy, complex volts, so that a star is told as truly as two legs across from
each other. Every joint is a resistance, an open one a very large one; the meter's own resistance closes what floats,
as it does on site.
"""

from __future__ import annotations

import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.job.model import MATERIALS
from awlmark.core.job.supply import SYSTEMS
from awlmark.core.panel.bus import feeder_ohm
from awlmark.core.solve.design import Design

CONTACT_OHM: Final = 0.0003
"""A sound joint; common practice, from memory."""
SERVICE_OHM: Final = 0.02
"""One conductor of the utility's side, transformer with it: about 1 V a leg at 48 A; from memory, it varies."""
BOND_OHM: Final = 0.005
METER_OHM: Final = 10e6
TESTER_OHM: Final = 10.0
"""What a loop tester puts between its probes: 23 A for a moment; common practice."""
OPEN_OHM: Final = 1e9
LEAK_OHM: Final = 1e13
"""Leak to earth that keeps the matrix regular where a point floats; negligible otherwise [ohm]."""
AT_BUS, PEN, SEPARATE, ELECTRODE = "at bus", "pen", "separate", "electrode"
"""How neutral and earth of a supply belong together: bonded at its bus, one conductor up to the cut-out, two all the
way, or an electrode of the installation's own."""


class Source(msgspec.Struct, frozen=True):
    """Where the circuit is fed from: lines, earthing, and what everything is called there."""

    legs: tuple[complex, ...]
    """Volts of every line against the neutral."""
    letters: tuple[str, ...]
    """Of the lines, as terminals name them."""
    pair: tuple[str, str]
    """The two wires that a charger with one load hangs on."""
    earth: str = "G"
    ends: tuple[str, str] = ("panel", "charger")
    """First word of every point: at the board, and at the charger."""
    line_ohm: float = SERVICE_OHM
    """One line of the utility's side."""
    neutral_ohm: float = SERVICE_OHM
    """Its neutral; of a supply with a PEN this conductor is the earth too."""
    earthing: str = AT_BUS
    earth_ohm: float = 0.0
    """Its earth conductor, where that is one of its own."""
    electrode_ohm: float = OPEN_OHM
    """From the main earthing terminal to the ground."""
    island_ohm: float | None = None
    """Electrode of the charger's own, where it hangs on no other earth."""
    phased: bool = False
    """Whether every line carries a load of its own to the neutral."""


class Faults(msgspec.Struct, frozen=True):
    """What is wrong with the circuit; nothing by default."""

    loose_ohm: dict[str, float] = {}
    """Added resistance at a point, in ohm."""
    open_at: tuple[str, ...] = ()
    """Points whose conductor is not connected."""
    same_leg: bool = False
    """Both hots landed on leg A."""
    neutral_for_hot: bool = False
    """The second hot landed on the neutral bar."""
    crossed: tuple[str, str] | None = None
    """Two wires that have changed places between the ends."""
    source: float = 1.0
    """Supply over its nominal volts."""
    service_neutral_ohm: float = 0.0
    """Added in the utility's neutral."""
    electrode_ohm: float = 0.0
    """Added at the electrode, such as by dry soil."""
    lost_pen: bool = False
    """Whether the utility's combined conductor is broken."""
    house_a: tuple[float, ...] = ()
    """Other loads of the house on each leg [A]."""
    neighbours: tuple[tuple[complex, float], ...] = ()
    """Loads on other lines of the street, to the supply's neutral before this house: volts and ohm."""
    wire_factor: float = 1.0
    """Resistance of the branch over that of the design, such as for a thinner wire."""
    trips_ms: float | None = None
    """What the residual device takes, where that is not the usual time."""
    no_function: str = ""
    """Key of a test by the maker that fails."""


HEALTHY: Final = Faults()


class Solved(msgspec.Struct, frozen=True, eq=False):
    """Volts of every point, against earth."""

    volts: dict[str, complex]
    amps: float
    """Of the charger."""

    def between(self, one: str, other: str) -> float:
        """What a meter shows between two points [V]."""
        return abs(self.volts[one] - self.volts[other])


class CircuitNetwork(msgspec.Struct, frozen=True):
    """What the network needs of a design."""

    source: Source
    hots: int
    """Lines of the circuit."""
    neutral: bool
    ground: bool
    wire_ohm: float
    """One hot of the branch, end to end, at its working temperature."""
    neutral_ohm: float
    ground_ohm: float
    feeder_ohm: float
    """One conductor of all feeders together."""
    charge_a: float

    @property
    def legs(self) -> tuple[complex, ...]:
        """Volts of every line of the supply against its neutral."""
        return self.source.legs

    @property
    def lines(self) -> tuple[str, ...]:
        """Letters of the circuit's own lines."""
        return self.source.letters[: self.hots]

    @property
    def wires(self) -> tuple[str, ...]:
        """Letters of everything that is joined at both ends."""
        return (*self.lines, "N", self.source.earth)

    @property
    def loads(self) -> tuple[tuple[str, str], ...]:
        """Pairs of wires that the charger draws its current between."""
        return tuple((line, "N") for line in self.lines) if self.source.phased else (self.source.pair,)

    def at(self, end: int, wire: str) -> str:
        """A point: of the board (0) or the charger (1), by the letter of its wire."""
        return f"{self.source.ends[end]} {wire}"

    @property
    def points(self) -> tuple[str, ...]:
        """Where probes go."""
        return tuple(
            self.at(end, wire)
            for end in (0, 1)
            for wire in self.wires
            if end == 0 or ((wire != "N" or self.neutral) and (wire != self.source.earth or self.ground))
        )


def two_legs(design: Design) -> Source:
    """A supply of legs across from each other, neutral and ground bonded at its bus."""
    system = design.job.supply.system
    leg_v, second = SYSTEMS[system][1], design.book.systems.get(system, 0j)
    one = design.circuit is not None and design.circuit.hots == 1
    return Source((leg_v + 0j, leg_v * second), ("1", "2"), ("1", "N") if one else ("1", "2"))


def circuit_of(design: Design) -> CircuitNetwork | None:
    """The network's numbers from a design; None before there is a circuit."""
    made = design.circuit
    if made is None or made.charge_a <= 0:
        return None
    book, metal = design.book, MATERIALS.index(made.material)
    ground = book.sizes.index(made.ground) if made.ground else -1
    source = (book.prove.source or two_legs)(design)
    # The drop counts the way out and back: half of it is one conductor, by whichever formula the job takes. Of three
    # lines that carry alike it is told between two of them.
    wire = made.drop_v / made.charge_a / (math.sqrt(3) if source.phased and made.hots == 3 else 2)
    return CircuitNetwork(
        source=source,
        hots=made.hots,
        neutral=made.neutral or made.hots == 1,
        ground=made.ground is not None or made.raceway_ground,
        wire_ohm=wire,
        neutral_ohm=wire,
        ground_ohm=float(book.ohm_per_km[metal, ground]) * design.line.length_m / 1000 if ground >= 0 else 0.001,
        feeder_ohm=feeder_ohm(design.job, book),
        charge_a=made.charge_a,
    )


def solve_network(
    circuit: CircuitNetwork,
    faults: Faults = HEALTHY,
    *,
    amps: float = 0.0,
    closed: bool = True,
    plugged: bool = True,
    meter: tuple[str, str] | None = None,
    meter_ohm: float = METER_OHM,
) -> Solved:
    """Volts everywhere.

    Parameters
    ----------
    circuit : CircuitNetwork
        The designed circuit.
    faults : Faults
        What is wrong.
    amps : float
        What the charger draws [A].
    closed : bool
        Whether the branch breaker is closed.
    plugged : bool
        Whether the charger is connected; without it nothing ties the far ends together.
    meter : tuple of str, optional
        Points its probes are at: its own resistance pulls together what floats, as it does on site.
    meter_ohm : float
        That resistance [ohm].

    Notes
    -----
    The charger takes its current whatever the volts are (it regulates); the current stands as a load resistance that is
    found by iteration.
    """
    supply, wires = circuit.source, circuit.wires
    buses = {wire: f"bus {wire}" for wire in (*supply.letters, "N")}
    met = "bus N" if supply.earthing == AT_BUS else "met"
    ends = [circuit.at(end, wire) for end in (0, 1) for wire in wires]
    nodes = {name: at for at, name in enumerate(dict.fromkeys((*buses.values(), met, *ends)))}
    size = len(nodes)
    ohm = CONTACT_OHM
    base = np.zeros((size, size), dtype=complex)
    right = np.zeros(size, dtype=complex)

    def tie(one: str, other: str, ohms: float) -> None:
        a, b, siemens = nodes[one], nodes[other], 1 / max(ohms, 1e-9)
        base[a, a] += siemens
        base[b, b] += siemens
        base[a, b] -= siemens
        base[b, a] -= siemens

    def fed(node: str, volts: complex, ohms: float) -> None:
        at, siemens = nodes[node], 1 / max(ohms, 1e-9)
        base[at, at] += siemens
        right[at] += volts * siemens

    for letter, volts in zip(supply.letters, supply.legs, strict=True):
        fed(buses[letter], volts * faults.source, supply.line_ohm + circuit.feeder_ohm)
    if faults.lost_pen:
        fed("bus N", 0j, OPEN_OHM)
    else:
        fed("bus N", 0j, supply.neutral_ohm + circuit.feeder_ohm + faults.service_neutral_ohm)
    for volts, ohms in faults.neighbours:
        fed("bus N", volts, ohms)
    if supply.earthing == PEN:
        tie(met, "bus N", ohm)
    elif supply.earthing == SEPARATE:
        fed(met, 0j, supply.earth_ohm)
    if met != "bus N":
        fed(met, 0j, supply.electrode_ohm + faults.electrode_ohm)
    for letter, volts, load in zip(supply.letters, supply.legs, faults.house_a, strict=False):
        if load:
            tie(buses[letter], "bus N", abs(volts) / load)
    breaker = ohm if closed else OPEN_OHM
    for number, wire in enumerate(circuit.lines):
        wrong = buses[circuit.lines[0]] if faults.same_leg else "bus N" if faults.neutral_for_hot else buses[wire]
        point = circuit.at(0, wire)
        tie(buses[wire] if number != 1 else wrong, point, OPEN_OHM if point in faults.open_at else breaker)
    neutral, earth = circuit.at(0, "N"), circuit.at(0, supply.earth)
    tie("bus N", neutral, OPEN_OHM if neutral in faults.open_at else breaker if supply.earthing != AT_BUS else ohm)
    tie(met, earth, OPEN_OHM if earth in faults.open_at else BOND_OHM if supply.earthing == AT_BUS else ohm)
    if supply.island_ohm is not None:
        fed(circuit.at(1, supply.earth), 0j, supply.island_ohm + faults.electrode_ohm)
    ohms_of = dict.fromkeys(circuit.lines, circuit.wire_ohm) | {"N": circuit.neutral_ohm}
    for wire in wires:
        point = circuit.at(1, wire)
        there = (wire != supply.earth or (circuit.ground and supply.island_ohm is None)) and (
            wire != "N" or circuit.neutral
        )
        factor = faults.wire_factor if wire != supply.earth else 1.0
        # Probes stand on the screws: a loose joint at either end lies between them.
        joint = ohm + faults.loose_ohm.get(point, 0.0) + faults.loose_ohm.get(circuit.at(0, wire), 0.0)
        ohms = ohms_of.get(wire, circuit.ground_ohm) * factor + joint
        tie(circuit.at(0, _crossed(wire, faults)), point, OPEN_OHM if point in faults.open_at or not there else ohms)
    for name in nodes:
        base[nodes[name], nodes[name]] += 1 / LEAK_OHM
    if meter is not None:
        tie(meter[0], meter[1], meter_ohm)
    pairs = [(nodes[circuit.at(1, one)], nodes[circuit.at(1, other)]) for one, other in circuit.loads]
    drawn, held = 0.0, [0.0] * len(pairs)
    volts_at = np.linalg.solve(base, right)
    for _ in range(40 if amps > 0 and plugged and closed else 0):
        across = [abs(volts_at[a] - volts_at[b]) for a, b in pairs]
        wanted = [amps / volts if volts > 1.0 else 0.0 for volts in across]
        if all(math.isclose(one, other, rel_tol=1e-10) for one, other in zip(wanted, held, strict=True)):
            break
        held = wanted
        loaded = base.copy()
        for (a, b), siemens in zip(pairs, wanted, strict=True):
            loaded[a, a] += siemens
            loaded[b, b] += siemens
            loaded[a, b] -= siemens
            loaded[b, a] -= siemens
        volts_at = np.linalg.solve(loaded, right)
        drawn = abs(volts_at[pairs[0][0]] - volts_at[pairs[0][1]]) * wanted[0]
    return Solved({name: complex(volts_at[at]) for name, at in nodes.items()}, float(drawn))


def _crossed(wire: str, faults: Faults) -> str:
    """Where a wire begins that should begin at its own letter."""
    if faults.crossed is None or wire not in faults.crossed:
        return wire
    one, other = faults.crossed
    return other if wire == one else one


def loop_ohm(circuit: CircuitNetwork, end: int, faults: Faults = HEALTHY, to: str = "") -> float:
    """What a loop tester shows at an end, between the first line and another wire (earth unless told) [ohm].

    It draws a current and reads how far the volts sag.
    """
    wire = to or circuit.source.earth
    one, other = circuit.at(end, circuit.lines[0]), circuit.at(end, wire)
    idle = solve_network(circuit, faults, plugged=False)
    # A known resistance between the points, small against the meter's own.
    loaded = solve_network(circuit, faults, plugged=False, meter=(one, other), meter_ohm=TESTER_OHM)
    volts = loaded.between(one, other)
    return TESTER_OHM * (idle.between(one, other) / volts - 1) if volts > 1e-6 else OPEN_OHM
