"""Pulling wire through a raceway: tension and sidewall pressure along the run, both ways."""

from __future__ import annotations

import math
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.quantities import FOOT_M

FRICTION: Final = {"dry": 0.5, "usual": 0.35, "lubricated": 0.2}
"""Common practice."""
LBF_N: Final = 4.4482216152605
LBF_FT_N_M: Final = LBF_N / FOOT_M
MM2_PER_CMIL: Final = 5.067074791e-4
CONDUCTOR_N_MM2: Final = {"cu": 0.008 * LBF_N / MM2_PER_CMIL, "al": 0.006 * LBF_N / MM2_PER_CMIL}
"""Most pull on conductors by their metal, pulled by an eye; handbooks of cable pulling, from memory."""
GRIP_N: Final = 1000 * LBF_N
"""Most on a basket grip; from memory."""
SIDEWALL_N_M: Final = 300 * LBF_FT_N_M
"""Most pressure of a bend on building wire; makers give 300 to 500 lbf/ft, from memory."""
ALONE_N: Final = 50 * LBF_N
PAIR_N: Final = 120 * LBF_N
"""What one person, and two, pull by hand without strain; common practice."""
GRAVITY: Final = 9.80665
METAL_KG_M3: Final = {"cu": 8890.0, "al": 2703.0}
JACKET_KG_M3: Final = 1350.0


class Piece(msgspec.Struct, gc=False, frozen=True):
    """A straight length of raceway, or a bend."""

    length_m: float
    rise: float = 0.0
    """Sine of its slope in the direction of the tape; bends carry their weight in the straight beside them."""
    bend_deg: float = 0.0
    radius_m: float = 0.15


class Pulled(msgspec.Struct, frozen=True, eq=False):
    """Tension after each piece, and the hardest squeeze."""

    tension_n: Floats
    """Behind each piece in the order it is pulled through, shape (P,)."""
    sidewall_n_m: float
    """Largest pressure of a bend [N/m]."""

    @property
    def most_n(self) -> float:
        """At the pulling end [N]."""
        return float(self.tension_n[-1]) if len(self.tension_n) else 0.0


def conductor_weight(metal_mm2: float, area_mm2: float, metal: str) -> float:
    """Weight of an insulated conductor [N/m], from its metal and its whole area."""
    jacket = max(area_mm2 - metal_mm2, 0.0)
    return (metal_mm2 * METAL_KG_M3[metal] + jacket * JACKET_KG_M3) * 1e-6 * GRAVITY


def wedging(diameter_m: float, bore_m: float, count: int) -> float:
    """How much harder several conductors press on the bore than their weight: the weight correction factor.

    Three lie cradled, 1 + 4/3 (d / (D - d))^2; two 1 / sqrt(1 - (d / (D - d))^2); more are taken as 1.4. Handbooks of
    cable pulling, from memory.
    """
    if count <= 1 or bore_m <= diameter_m:
        return 1.0
    ratio = min(diameter_m / (bore_m - diameter_m), 0.95)
    if count == 2:
        return 1 / math.sqrt(1 - ratio**2)
    return 1 + 4 / 3 * ratio**2 if count == 3 else 1.4


def pull(pieces: list[Piece], weight_n_m: float, friction: float, wedged: float = 1.0, start_n: float = 0.0) -> Pulled:
    """Tension along a raceway, pulled in the order of its pieces.

    A straight adds weight x length x (rise + wedging x friction x level), never below nothing; a bend multiplies by
    e^(wedging x friction x angle), the capstan equation.

    Parameters
    ----------
    pieces : list of Piece
        In the order the wire's head passes them.
    weight_n_m : float
        All conductors [N/m].
    friction : float
        Between jacket and bore.
    wedged : float
        Weight correction factor.
    start_n : float
        Tension at the feeding end [N].
    """
    tension, found, squeeze = start_n, np.zeros(len(pieces)), 0.0
    for number, piece in enumerate(pieces):
        level = math.sqrt(max(1 - piece.rise**2, 0.0))
        tension += weight_n_m * piece.length_m * (piece.rise + wedged * friction * level)
        tension = max(tension, 0.0)
        if piece.bend_deg:
            tension *= math.exp(wedged * friction * math.radians(piece.bend_deg))
            squeeze = max(squeeze, tension / piece.radius_m)
        found[number] = tension
    return Pulled(found, squeeze)


def backward(pieces: list[Piece]) -> list[Piece]:
    """The same raceway pulled from its other end."""
    turned = []
    for piece in reversed(pieces):
        # A bend stands behind its straight; turned round it stands before it.
        if piece.bend_deg:
            turned.append(Piece(0.0, 0.0, piece.bend_deg, piece.radius_m))
        turned.append(Piece(piece.length_m, -piece.rise))
    return turned


def most_pull_n(metal_mm2: float, count: int, metal: str) -> float:
    """Most tension the conductors or the grip stand [N]."""
    return min(CONDUCTOR_N_MM2[metal] * metal_mm2 * count, GRIP_N)


def verdict(most_n: float, limit_n: float, sidewall_n_m: float) -> str:
    """A pull in plain words."""
    if most_n > limit_n or sidewall_n_m > SIDEWALL_N_M:
        return "add a pull point"
    if most_n > PAIR_N:
        return "two people, lubricant and a winch, or a pull point"
    return "two people and lubricant" if most_n > ALONE_N else "one person"
