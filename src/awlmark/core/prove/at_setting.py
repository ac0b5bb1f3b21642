"""What the designed circuit shows under load: at each setting, where its volts are lost, and where probes go."""

from __future__ import annotations

import msgspec

from awlmark.core.prove.network import CircuitNetwork, circuit_of, solve_network
from awlmark.core.solve.design import Design


class AtSetting(msgspec.Struct, frozen=True):
    """What the charger shows at one of its settings."""

    amps: float
    volts: float
    """At the charger, under load, with a usual service."""
    kw: float


def by_setting(design: Design) -> tuple[AtSetting, ...]:
    """Amps, volts and power at every setting the circuit may be given, the smallest first; none without a circuit."""
    circuit = circuit_of(design)
    if circuit is None or design.circuit is None:
        return ()
    most = max(design.circuit.breaker_a / design.book.circuit.load_share, circuit.charge_a)
    steps = sorted({*(amps for amps in design.book.circuit.settings_a if amps <= most + 1e-9), circuit.charge_a})
    return tuple(at_setting(circuit, amps) for amps in steps)


def at_setting(circuit: CircuitNetwork, amps: float) -> AtSetting:
    """What the charger shows at one current [A]."""
    made = solve_network(circuit, amps=amps)
    volts = [made.between(circuit.at(1, one), circuit.at(1, other)) for one, other in circuit.loads]
    return AtSetting(amps, volts[0], amps * sum(volts) / 1000)


def pair_of(circuit: CircuitNetwork) -> tuple[str, str]:
    """The two wires that feed the charger; of a load on several lines the first of them and the neutral."""
    return circuit.loads[0]


def drop_split(design: Design) -> dict[str, float]:
    """Sag at the charger under load by where it arises [V]: service, feeder and branch."""
    circuit = circuit_of(design)
    if circuit is None:
        return {}
    idle, loaded = solve_network(circuit), solve_network(circuit, amps=circuit.charge_a)
    pair = pair_of(circuit)
    charger = tuple(circuit.at(1, wire) for wire in pair)
    bus = tuple(f"bus {wire}" for wire in pair)
    whole = idle.between(charger[0], charger[1]) - loaded.between(charger[0], charger[1])
    upstream = idle.between(bus[0], bus[1]) - loaded.between(bus[0], bus[1])
    feeder = min(2 * circuit.feeder_ohm * loaded.amps, upstream)
    return {"service": upstream - feeder, "feeder": feeder, "branch": whole - upstream}


def points_of(design: Design) -> tuple[str, ...]:
    """Points a probe can touch."""
    circuit = circuit_of(design)
    if circuit is None:
        return ()
    return circuit.points
