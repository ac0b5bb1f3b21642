"""The sums themselves: each for one number or for arrays of them, with its clause and a worked case.

The checks of this package are these over a table; whoever wants to know how a number comes about can ask here.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeVar

import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.nec.sizing.opening import CONTINUOUS

Number = TypeVar("Number", float, Floats)


def continuous_a(charge_a: Number) -> Number:
    """Current that a charging load counts as, 125 % of it.

    Parameters
    ----------
    charge_a : float or ndarray
        Charging current [A].

    Returns
    -------
    float or ndarray
        Current that breaker and conductor are sized for [A]. Source: NEC 625.41, 625.42, 210.19(A)(1).

    Examples
    --------
    >>> continuous_a(48.0)
    60.0
    """
    return CONTINUOUS * charge_a


def derated_ampacity_a(table_a: Number, ambient_factor: float, bundling_factor: float) -> Number:
    """Ampacity after heat and bundling.

    Parameters
    ----------
    table_a : float or ndarray
        Ampacity of the insulation's own column, Table 310.16 [A].
    ambient_factor, bundling_factor : float
        Tables 310.15(B)(1) and 310.15(C)(1).

    Returns
    -------
    float or ndarray
        Factored ampacity [A]. Source: NEC 310.15(A) to (C).

    Examples
    --------
    6 AWG copper, 75 A in the 90 C column, at 45 C (0.87) with four to six conductors (0.80):

    >>> round(derated_ampacity_a(75.0, 0.87, 0.80), 1)
    52.2
    """
    return table_a * (ambient_factor * bundling_factor)


def grown_ground_cmil(base_cmil: Number, hot_cmil: Number, least_hot_cmil: Number) -> Number:
    """Area that the equipment ground needs where the hots are larger than they have to be.

    Parameters
    ----------
    base_cmil : float or ndarray
        Ground that the breaker asks for, Table 250.122 [circular mils].
    hot_cmil : float or ndarray
        The hots as they are [circular mils].
    least_hot_cmil : float or ndarray
        The smallest hots that carry the load after factors [circular mils].

    Returns
    -------
    float or ndarray
        Needed area, never above that of the hots [circular mils]. Source: NEC 250.122(A), (B).

    Examples
    --------
    60 A asks for 10 AWG copper (10,380); 6 AWG would do (26,240) and 4 AWG is pulled (41,740):

    >>> round(grown_ground_cmil(10380.0, 41740.0, 26240.0))
    16511
    """
    grown = np.maximum(hot_cmil, least_hot_cmil) / least_hot_cmil
    needed: Number = np.minimum(base_cmil * grown, hot_cmil)
    return needed


def loop_ohm(ohm_per_km: Number, length_m: float) -> Number:
    """Resistance of the two conductors that carry the current.

    Parameters
    ----------
    ohm_per_km : float or ndarray
        Of one conductor, Chapter 9 Table 8 or 9 [ohm/km].
    length_m : float
        On the tape [m].

    Returns
    -------
    float or ndarray
        Out and back [ohm]. Source: Ohm's law; both wires of a two-wire load.

    Examples
    --------
    6 AWG copper, 0.491 ohm per 1000 ft at 75 C, over 120 ft:

    >>> round(loop_ohm(0.491 / 0.3048, 36.576), 4)
    0.1178
    """
    return 2 * ohm_per_km * length_m / 1000


def drop_v(charge_a: float, volts: float, ohm: Number, reactance_ohm: Number | float = 0.0) -> Number:
    """Volts lost between panel and charger, whose draw is at unity power factor.

    Parameters
    ----------
    charge_a, volts : float
        Charging current [A]; volts at the panel between the wires that carry it [V].
    ohm, reactance_ohm : float or ndarray
        Of the loop [ohm].

    Returns
    -------
    float or ndarray
        Drop [V]: what is left is sqrt(V^2 - (I X)^2) - I R. Source: the triangle of the two drops.

    Examples
    --------
    >>> round(drop_v(48.0, 240.0, 0.1178), 2)
    5.65
    """
    if not np.any(reactance_ohm):
        return charge_a * ohm
    across = np.maximum(volts**2 - (charge_a * reactance_ohm) ** 2, 0.0)
    lost: Number = volts - (np.sqrt(across) - charge_a * ohm)
    return lost


def fill_percent(areas_mm2: Sequence[float], bore_area_mm2: float) -> float:
    """Share of a raceway that wires take.

    Parameters
    ----------
    areas_mm2 : sequence of float
        Of every conductor with its insulation, Chapter 9 Table 5 [mm2].
    bore_area_mm2 : float
        Whole inside of the raceway, Table 4 [mm2].

    Returns
    -------
    float
        Fill [percent]; at most 53 for one wire, 31 for two, 40 for more, 60 in a nipple. Source: Chapter 9 Table 1.

    Examples
    --------
    Two 6 AWG and one 10 AWG THWN-2 (32.71 and 13.61 mm2) in 3/4 EMT (343.9 mm2):

    >>> round(fill_percent([32.71, 32.71, 13.61], 343.9), 1)
    23.0
    """
    return 100 * sum(areas_mm2) / bore_area_mm2
