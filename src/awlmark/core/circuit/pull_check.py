"""The pull of the chosen circuit: every stretch of raceway, both ways, at three frictions."""

from __future__ import annotations

import functools
import math
from collections.abc import Callable
from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.books import Book
from awlmark.core.finding import HOLDS, NOTE, TIGHT, Finding
from awlmark.core.quantities import print_force
from awlmark.core.run.bend_marks import bend_radius_m
from awlmark.core.run.bends import MANY
from awlmark.core.run.line import Line
from awlmark.core.run.pull_tension import (
    FRICTION,
    LBF_N,
    PAIR_N,
    SIDEWALL_N_M,
    Piece,
    Pulled,
    backward,
    conductor_weight,
    most_pull_n,
    pull,
    verdict,
    wedging,
)

FORWARD: Final = "from the panel"
BACKWARD: Final = "from the far end"


class Wires(msgspec.Struct, frozen=True):
    """What is pulled."""

    count: int
    """Hots and neutral."""
    metal_mm2: float
    """Of one."""
    weight_n_m: float
    """All of them with their ground."""
    diameter_m: float
    metal: str


class Pull(msgspec.Struct, gc=False, frozen=True, eq=False):
    """The pull through a raceway that begins at nought."""

    length_m: float
    by_friction_n: dict[str, float]
    """Tension at the pulling end, the better way [N]."""
    feed: str
    """End the wire is fed in at: the better way."""
    sidewall_n_m: float
    limit_n: float
    along: tuple[tuple[float, float], ...]
    """Place [m] and tension there [N], usual friction, the better way."""
    peak: tuple[float, float]
    """The largest of them."""
    severity: str
    says: str
    by_feed_n: dict[str, float]
    """Tension at the pulling end by the end it is fed in at, usual friction [N]."""
    """How it was worked out, in words."""


class StretchPull(msgspec.Struct, gc=False, frozen=True, eq=False):
    """One stretch between pull points: its pull, set at its place on the tape."""

    number: int
    start_m: float
    end_m: float
    pull: Pull

    @property
    def usual_n(self) -> float:
        """Tension at the pulling end with usual friction [N]."""
        return self.pull.by_friction_n["usual"]

    @property
    def along(self) -> tuple[tuple[float, float], ...]:
        """Place on the tape [m] and tension there [N], usual friction, the better way."""
        start = self._from_m
        return tuple([(start + at, tension) for at, tension in self.pull.along])

    @property
    def peak(self) -> tuple[float, float]:
        """Where on the tape [m] the tension is largest, and that [N]."""
        at, tension = self.pull.peak
        return self._from_m + at, tension

    @property
    def _from_m(self) -> float:
        # A stretch that is partly cable holds its raceway at its end.
        return self.end_m - self.pull.length_m if self.pull.feed != FORWARD else self.start_m


def wires_of(book: Book, place: tuple[int, int, int, int], hots: int, neutral: bool, metal: str) -> Wires | None:
    """What is pulled; None where the tables are silent about a size.

    Parameters
    ----------
    book : Book
        Areas.
    place : tuple of int
        Insulation, hot, ground and material index; ground -1 where it is unread.
    hots : int
        Conductors that carry the current.
    neutral : bool
        Whether a neutral goes along.
    metal : str
        ``cu`` or ``al``.
    """
    insulation, hot, ground, _material = place
    area = float(book.area_mm2[insulation, hot])
    if math.isnan(area):
        return None
    count = hots + neutral
    weight = count * conductor_weight(float(book.metal_mm2[hot]), area, metal)
    if ground >= 0 and not math.isnan(float(book.area_mm2[insulation, ground])):
        weight += conductor_weight(float(book.metal_mm2[ground]), float(book.area_mm2[insulation, ground]), metal)
    return Wires(count, float(book.metal_mm2[hot]), weight, float(book.diameter_mm[insulation, hot]) / 1000, metal)


_Shape = tuple[tuple[float, float, float, float], ...]
"""Length [m], rise, degrees bent within and degrees turned at its end, of every leg."""


def _pieces(shape: _Shape, radius_m: float) -> list[Piece]:
    """A stretch as straights and bends, in the order of the tape; an offset is two bends in its leg's middle."""
    found = []
    for number, (length_m, rise, within_deg, turn_deg) in enumerate(shape, 1):
        # Where the last one ends the wire is got at: it is not pulled round that turn.
        turned = turn_deg if number < len(shape) and turn_deg > 1e-6 else 0.0
        if within_deg:
            found.append(Piece(length_m / 2, rise, within_deg / 2, radius_m))
            found.append(Piece(0.0, rise, within_deg / 2, radius_m))
            found.append(Piece(length_m / 2, rise, turned, radius_m))
        else:
            found.append(Piece(length_m, rise, turned, radius_m))
    return found


def pulls(line: Line, book: Book, wires: Wires, trades: tuple[str | None, ...]) -> tuple[StretchPull, ...]:
    """Every stretch of raceway.

    Parameters
    ----------
    line : Line
        The walked line.
    book : Book
        Bores.
    wires : Wires
        What is pulled.
    trades : tuple of str or None
        Trade size by section.
    """
    found: list[StretchPull] = []
    lasts = [section.legs[-1].number for section in line.sections]
    pullers = [
        _puller(wires, book.bore(section.method, trade) / 1000, bend_radius_m(section.method, trade))
        if trade is not None and math.isfinite(book.bore(section.method, trade))
        else None
        for section, trade in zip(line.sections, trades, strict=True)
    ]
    mixed = any(section.method.cable for section in line.sections)
    at = 0
    for number, stretch in enumerate(line.stretches, 1):
        inside = [walked for walked in stretch.legs if not walked.method.cable] if mixed else stretch.legs
        if not inside:
            continue
        while lasts[at] < inside[0].number:
            at += 1
        puller = pullers[at]
        if puller is None:
            continue
        shape = tuple([(each.leg.length_m, each.heading[2], each.offset_deg, each.turn_deg) for each in inside])
        found.append(StretchPull(number, stretch.start_m, stretch.end_m, puller(shape)))
    return tuple(found)


@functools.lru_cache(maxsize=64)
def _puller(wires: Wires, bore_m: float, radius_m: float) -> Callable[[_Shape], Pull]:
    """Pulls some wires through a bore; kept by shape, so that an edit elsewhere on the line does not pay for it."""

    @functools.lru_cache(maxsize=1024)
    def pulled(shape: _Shape) -> Pull:
        return _pulled(_pieces(shape, radius_m), wires, bore_m)

    return pulled


def _pulled(pieces: list[Piece], wires: Wires, bore_m: float) -> Pull:
    """A stretch as if it began at the panel."""
    wedged = wedging(wires.diameter_m, bore_m, wires.count)
    orders = {FORWARD: pieces, BACKWARD: backward(pieces)}
    ways = {feed: pull(order, wires.weight_n_m, FRICTION["usual"], wedged) for feed, order in orders.items()}
    feed = min(ways, key=lambda way: ways[way].most_n)
    order, usual = orders[feed], ways[feed]
    best: dict[str, Pulled] = {
        name: usual if name == "usual" else pull(order, wires.weight_n_m, friction, wedged)
        for name, friction in FRICTION.items()
    }
    limit, length = most_pull_n(wires.metal_mm2, wires.count, wires.metal), sum(piece.length_m for piece in pieces)
    at = 0.0 if feed == FORWARD else length
    along = [(at, 0.0)]
    for piece, tension in zip(order, usual.tension_n.tolist(), strict=True):
        at += piece.length_m if feed == FORWARD else -piece.length_m
        along.append((at, tension))
    by_friction = {name: pulled.most_n for name, pulled in best.items()}
    return Pull(
        length_m=length,
        by_friction_n=by_friction,
        feed=feed,
        sidewall_n_m=usual.sidewall_n_m,
        limit_n=limit,
        along=tuple(along),
        peak=max(along, key=lambda place: place[1]),
        severity=_severity(usual.most_n, limit, usual.sidewall_n_m),
        says=verdict(usual.most_n, limit, usual.sidewall_n_m),
        by_feed_n={way: pulled.most_n for way, pulled in ways.items()},
    )


def pull_findings(found: tuple[StretchPull, ...], cite: str, units: str) -> list[Finding]:
    """One finding a stretch, or the hardest of very many; what is too hard to pull is advice, not a broken rule."""
    if len(found) <= MANY:
        return [_about(one, cite, units) for one in found]
    hard = [one for one in found if one.pull.severity != HOLDS]
    hardest = _about(max(found, key=lambda one: one.usual_n), cite, units)
    return [_about(one, cite, units) for one in hard] or [
        replace(hardest, text=f"{len(found)} stretches. {hardest.text}")
    ]


def _severity(most_n: float, limit_n: float, sidewall_n_m: float) -> str:
    over = most_n > limit_n or sidewall_n_m > SIDEWALL_N_M
    return TIGHT if over else NOTE if most_n > PAIR_N else HOLDS


def _about(one: StretchPull, cite: str, units: str) -> Finding:
    """What the pull through one stretch says."""
    kept = one.pull
    unit_n, unit = (1.0, "N") if units == "m" else (LBF_N, "lbf")
    side = ("kN/m", SIDEWALL_N_M / 1000) if units == "m" else ("lbf/ft", 300.0)
    share = kept.sidewall_n_m / SIDEWALL_N_M * side[1]
    sums = (
        ", ".join(f"fed {way} {print_force(newtons, units)}" for way, newtons in kept.by_feed_n.items()),
        f"{unit} by friction: " + ", ".join(f"{name} {n / unit_n:.0f}" for name, n in kept.by_friction_n.items()),
        f"sidewall {share:.{1 if units == 'm' else 0}f} of {side[1]:.{1 if units == 'm' else 0}f} {side[0]}",
    )
    return Finding(
        id=f"pull:{one.number}",
        severity=kept.severity,
        title="Pulling force",
        text=f"Fed {kept.feed}, stretch {one.number} pulls with {print_force(one.usual_n, units)}: {kept.says}.",
        cite=cite,
        found=one.usual_n / unit_n,
        needed=kept.limit_n / unit_n,
        unit=unit,
        sense="most",
        sums=sums,
        at_m=one.end_m,
        stage="run",
    )
