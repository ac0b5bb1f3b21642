"""How warm it gets: conductor, terminal, plug and receptacle as lumped masses, heated by the square of the current."""

from __future__ import annotations

import functools
import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.job.model import MATERIALS
from awlmark.core.prove.network import CONTACT_OHM, HEALTHY, Faults
from awlmark.core.solve.design import Design

ALPHA: Final = {"cu": 0.00323, "al": 0.00330}
"""Change of resistance per kelvin at 75 C, a handbook's figures; from memory."""
AIR_C: Final = 30.0
"""Air of the ampacity table."""
VOLUME_J: Final = {"cu": 3.45e6, "al": 2.42e6, "jacket": 2.0e6}
"""Heat capacity by volume [J/(m3 K)]; handbook values of the metals, the plastic's from memory."""
LUG_W_K: Final = 0.045
LUG_J_K: Final = 60.0
LUG_WIRE_W_K: Final = 0.05
"""A terminal: to the air, its mass, and along the wire that is in it; common practice, from memory."""
BODY_W_K: Final = 0.09
BODY_J_K: Final = 220.0
PLUG_W_K: Final = 0.05
PLUG_J_K: Final = 90.0
PLUG_BODY_W_K: Final = 0.10
PLUG_OHM: Final = 0.0006
"""A blade in its contact; a good receptacle, from memory."""
COOLING_K: Final = 60.0
"""A small hot thing sheds heat faster: at this rise twice as much a kelvin; convection and radiation, from memory."""
NODES: Final = ("wire", "lug", "body", "plug")
"""Order of the temperatures; body and plug stay with the air where the charger is hardwired."""


RAMP_S: Final = (0.0, 5.0, 10.0, 15.0)
"""A car takes its current in steps over some seconds, a quarter more at each of these; common practice."""
GUARD_C: Final = 75.0
"""Blades of the plug at which the unit's own guard halves the current; from memory, units differ."""


def charging(amps: float) -> tuple[Floats, Floats]:
    """What a car draws from when it is told so much: times [s] and currents [A], for :func:`heat_run`."""
    share = np.arange(1, len(RAMP_S) + 1) / len(RAMP_S)
    return np.array(RAMP_S), amps * share


class Thermal(msgspec.Struct, frozen=True):
    """The circuit as masses and the paths between them."""

    ohm_m: float
    """Of the conductor at 75 C [ohm/m]."""
    alpha: float
    wire_w_k: float
    """From a metre of conductor to the air."""
    wire_j_k: float
    lug_ohm: float
    plug_ohm: float
    """Both blades together; 0 where the charger is hardwired."""
    limit_c: float
    """Column that its terminals are rated for."""


def thermal_of(design: Design, faults: Faults = HEALTHY, point: str = "charger 1") -> Thermal | None:
    """The masses of a design; None before there is a circuit.

    A metre of conductor gives off what holds it at its column's temperature when it carries the table's ampacity in air
    of 30 C: so the model stands where the table does.
    """
    made = design.circuit
    if made is None or design.case is None:
        return None
    book, metal = design.book, MATERIALS.index(made.material)
    size, column = book.sizes.index(made.size), made.terminal_c
    table = book.circuit.free_a(book, metal, size, column)
    ohm_m = float(book.ohm_per_km[metal, size]) / 1000
    if not table > 0:
        # The table allows no current in it, or is silent: there is nothing to stand on.
        return None
    hot = ohm_m * (1 + ALPHA[made.material] * (column - 75))
    core = float(book.metal_mm2[size])
    kind = book.insulations.index(made.insulation) if made.insulation else 0
    area = float(book.area_mm2[kind, size])
    jacket = max((1.6 * core if math.isnan(area) else area) - core, 0.0)
    plug = 2 * PLUG_OHM if design.job.charger.connection not in book.circuit.wired else 0.0
    return Thermal(
        ohm_m=ohm_m * faults.wire_factor,
        alpha=ALPHA[made.material],
        wire_w_k=table**2 * hot / (column - AIR_C),
        wire_j_k=(core * VOLUME_J[made.material] + jacket * VOLUME_J["jacket"]) * 1e-6,
        lug_ohm=CONTACT_OHM + faults.loose_ohm.get(point, 0.0),
        plug_ohm=plug,
        limit_c=float(column),
    )


def _more(rise_k: float) -> float:
    """How much more heat goes out for each kelvin at a rise."""
    return 1.0 + max(rise_k, 0.0) / COOLING_K


def _rates(thermal: Thermal, temps: Floats, amps: float, air_c: float) -> Floats:
    """Change of every temperature [K/s]."""
    wire, lug, body, plug = temps
    square = amps * amps
    along = LUG_WIRE_W_K * (wire - lug)
    # A metre of wire hardly feels its end; the end feels the wire.
    heat = square * thermal.ohm_m * (1 + thermal.alpha * (wire - 75.0))
    d_wire = (heat - thermal.wire_w_k * (wire - air_c)) / thermal.wire_j_k
    plugged = thermal.plug_ohm > 0
    lug_out, body_out = LUG_W_K * _more(lug - air_c), BODY_W_K * _more(body - air_c)
    plug_out = PLUG_W_K * _more(plug - air_c)
    to_body = PLUG_BODY_W_K * (lug - body) if plugged else 0.0
    d_lug = (square * thermal.lug_ohm + along - lug_out * (lug - air_c) - to_body) / LUG_J_K
    if not plugged:
        return np.array([d_wire, d_lug, 0.0, 0.0])
    blades = PLUG_BODY_W_K * (plug - body)
    d_body = (to_body + blades - body_out * (body - air_c)) / BODY_J_K
    d_plug = (square * thermal.plug_ohm - blades - plug_out * (plug - air_c)) / PLUG_J_K
    return np.array([d_wire, d_lug, d_body, d_plug])


def steady(thermal: Thermal, amps: float, air_c: float) -> Floats:
    """Temperatures after a long time at one current [C], shape (4,), in the order of ``NODES``."""
    square = amps * amps
    slope = thermal.wire_w_k - square * thermal.ohm_m * thermal.alpha
    if slope <= 0:
        return np.full(4, np.inf)
    wire = air_c + square * thermal.ohm_m * (1 + thermal.alpha * (air_c - 75.0)) / slope
    heat = np.array([square * thermal.lug_ohm + LUG_WIRE_W_K * (wire - air_c), 0.0, square * thermal.plug_ohm])
    joined = PLUG_BODY_W_K if thermal.plug_ohm > 0 else 0.0
    out = np.array([LUG_W_K, BODY_W_K, PLUG_W_K])
    paths = np.array([[LUG_WIRE_W_K + joined, -joined, 0.0], [-joined, 2 * joined, -joined], [0.0, -joined, joined]])
    rise = np.zeros(3)
    for _ in range(200):
        # What goes out grows with the rise: half way to the next guess each time, which cannot swing.
        guess = np.linalg.solve(paths + np.diag(out * (1.0 + np.maximum(rise, 0.0) / COOLING_K)), heat)
        if np.abs(guess - rise).max() < 1e-9:
            break
        rise = (rise + guess) / 2
    return np.array([wire, *(air_c + rise)])


def heat_run(
    thermal: Thermal, at_s: Floats, amps: Floats, air_c: float, seconds: Floats, *, cut_back_c: float | None = None
) -> Floats:
    """Temperatures over time.

    Parameters
    ----------
    thermal : Thermal
        The masses.
    at_s, amps : ndarray, shape (K,)
        Times from which each current flows [s], the first 0, and the currents [A].
    air_c : float
        Air [C].
    seconds : ndarray, shape (T,)
        Times asked for, rising [s].
    cut_back_c : float, optional
        Plug temperature at which the charger halves its current, as its own guard does.

    Returns
    -------
    ndarray, shape (T, 4)
        In the order of ``NODES`` [C].
    """
    from scipy.integrate import solve_ivp

    def too_hot(_at: float, temps: Floats, _drawn: float) -> float:
        return math.inf if cut_back_c is None else cut_back_c - float(temps[3])

    too_hot.terminal = cut_back_c is not None  # type: ignore[attr-defined]
    too_hot.direction = -1  # type: ignore[attr-defined]
    found = np.empty((len(seconds), len(NODES)))
    temps, share, last = np.full(len(NODES), air_c), 1.0, float(seconds[-1]) + 1.0
    for number, start in enumerate(at_s.tolist()):
        end = float(at_s[number + 1]) if number + 1 < len(at_s) else max(last, start + 1.0)
        while start < end:
            # The guard halves the current once and stays there, as a unit does until it is reset.
            wanted = [*seconds[(seconds >= start) & (seconds < end)].tolist(), end]
            guarded = too_hot if cut_back_c is not None and share == 1.0 else None
            made = solve_ivp(
                lambda _at, now, drawn: _rates(thermal, now, drawn, air_c), (start, end), temps, method="LSODA",
                t_eval=wanted, rtol=1e-6, atol=1e-4, args=(float(amps[number]) * share,), events=guarded,
            )  # fmt: skip
            inside = np.asarray(made.t) < end
            if inside.any():
                found[np.searchsorted(seconds, np.asarray(made.t)[inside])] = np.asarray(made.y).T[inside]
            if made.status == 1:
                start, temps, share = float(made.t_events[0][0]), made.y_events[0][0], 0.5
            else:
                start, temps = end, made.y[:, -1]
    return found


def guard_of(thermal: Thermal) -> float | None:
    """Where the unit guards itself [C]: only a plug has a sensor, else None."""
    return GUARD_C if thermal.plug_ohm > 0 else None


@functools.lru_cache(maxsize=32)
def _hour(thermal: Thermal, amps: float, air_c: float) -> Floats:
    """Kept by all that goes into it: most edits leave wire and current alone."""
    times = np.linspace(0.0, 3600.0, 61)
    times[0] = 1.0
    found = heat_run(thermal, *charging(amps), air_c, times, cut_back_c=guard_of(thermal))
    found.setflags(write=False)
    return found


def an_hour(design: Design, air_c: float) -> Floats | None:
    """Temperatures of an hour's charging, minute by minute [C], shape (61, 4); None where nothing is known."""
    thermal = thermal_of(design)
    return None if thermal is None or design.circuit is None else _hour(thermal, design.circuit.charge_a, air_c)
