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
OPEN_OHM: Final = 1e9
LEAK_OHM: Final = 1e13
"""Leak to earth that keeps the matrix regular where a point floats; negligible otherwise [ohm]."""
POINTS: Final = ("panel 1", "panel 2", "panel N", "panel G", "charger 1", "charger 2", "charger N", "charger G")
"""Where probes go."""


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
    source: float = 1.0
    """Supply over its nominal volts."""
    service_neutral_ohm: float = 0.0
    """Added in the utility's neutral."""
    house_a: tuple[float, float] = (0.0, 0.0)
    """Other loads of the house on each leg [A]."""
    wire_factor: float = 1.0
    """Resistance of the branch over that of the design, such as for a thinner wire."""


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

    legs: tuple[complex, complex]
    """Source volts of both legs against its neutral."""
    hots: int
    neutral: bool
    ground: bool
    wire_ohm: float
    """One hot of the branch, end to end, at its working temperature."""
    neutral_ohm: float
    ground_ohm: float
    feeder_ohm: float
    """One conductor of all feeders together."""
    charge_a: float


def circuit_of(design: Design) -> CircuitNetwork | None:
    """The network's numbers from a design; None before there is a circuit."""
    made = design.circuit
    if made is None or made.charge_a <= 0:
        return None
    book, metal = design.book, MATERIALS.index(made.material)
    ground = book.sizes.index(made.ground) if made.ground else -1
    # The drop counts the way out and back: half of it is one conductor, by whichever formula the job takes.
    wire = made.drop_v / made.charge_a / 2
    system = design.job.supply.system
    leg_v = SYSTEMS[system][1]
    return CircuitNetwork(
        legs=(leg_v + 0j, leg_v * book.systems.get(system, 0j)),
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

    Notes
    -----
    The charger takes its current whatever the volts are (it regulates); the current stands as a load resistance that is
    found by iteration.
    """
    nodes = {name: at for at, name in enumerate(("bus 1", "bus 2", "bus N", *POINTS))}
    size = len(nodes)
    fixed = (circuit.legs[0] * faults.source, circuit.legs[1] * faults.source)
    ohm = CONTACT_OHM
    base = np.zeros((size, size), dtype=complex)
    right = np.zeros(size, dtype=complex)

    def tie(one: str, other: str, ohms: float) -> None:
        a, b, siemens = nodes[one], nodes[other], 1 / max(ohms, 1e-9)
        base[a, a] += siemens
        base[b, b] += siemens
        base[a, b] -= siemens
        base[b, a] -= siemens

    def source(node: str, volts: complex, ohms: float) -> None:
        at, siemens = nodes[node], 1 / max(ohms, 1e-9)
        base[at, at] += siemens
        right[at] += volts * siemens

    upstream = SERVICE_OHM + circuit.feeder_ohm
    source("bus 1", fixed[0], upstream)
    source("bus 2", fixed[1], upstream)
    source("bus N", 0j, upstream + faults.service_neutral_ohm)
    for leg, load in zip(("bus 1", "bus 2"), faults.house_a, strict=True):
        if load:
            tie(leg, "bus N", abs(circuit.legs[0]) / load)
    breaker = ohm if closed else OPEN_OHM
    second = "bus 1" if faults.same_leg else "bus N" if faults.neutral_for_hot else "bus 2"
    ends = {"1": ("bus 1", breaker), "2": (second if circuit.hots == 2 else "bus N", breaker), "N": ("bus N", ohm)}
    for wire, (bus, joint) in ends.items():
        point = f"panel {wire}"
        tie(bus, point, OPEN_OHM if point in faults.open_at else joint)
    # Neutral and ground are bonded at the service.
    tie("bus N", "panel G", OPEN_OHM if "panel G" in faults.open_at else BOND_OHM)
    wires = {"1": circuit.wire_ohm, "2": circuit.wire_ohm, "N": circuit.neutral_ohm, "G": circuit.ground_ohm}
    for wire, ohms in wires.items():
        point = f"charger {wire}"
        there = (wire != "G" or circuit.ground) and (wire != "N" or circuit.neutral)
        factor = faults.wire_factor if wire in ("1", "2", "N") else 1.0
        # Probes stand on the screws: a loose joint at either end lies between them.
        joint = ohm + faults.loose_ohm.get(point, 0.0) + faults.loose_ohm.get(f"panel {wire}", 0.0)
        tie(f"panel {wire}", point, OPEN_OHM if point in faults.open_at or not there else ohms * factor + joint)
    for name in nodes:
        base[nodes[name], nodes[name]] += 1 / LEAK_OHM
    if meter is not None:
        tie(meter[0], meter[1], METER_OHM)
    far_end = "charger 2" if circuit.hots == 2 else "charger N"
    drawn, resistance = 0.0, math.inf
    volts = np.linalg.solve(base, right)
    for _ in range(40 if amps > 0 and plugged and closed else 0):
        across = abs(volts[nodes["charger 1"]] - volts[nodes[far_end]])
        wanted = across / amps if across > 1.0 else math.inf
        if math.isclose(wanted, resistance, rel_tol=1e-10):
            break
        resistance = wanted
        loaded = base.copy()
        a, b, siemens = nodes["charger 1"], nodes[far_end], 0.0 if math.isinf(wanted) else 1 / wanted
        loaded[a, a] += siemens
        loaded[b, b] += siemens
        loaded[a, b] -= siemens
        loaded[b, a] -= siemens
        volts = np.linalg.solve(loaded, right)
        drawn = abs(volts[a] - volts[b]) * siemens
    return Solved({name: complex(volts[at]) for name, at in nodes.items()}, float(drawn))
