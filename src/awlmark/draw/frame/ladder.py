"""The ladder: what draws on the left, what carries on the right, standard ratings around the need."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from awlmark.core.books.words import cap
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import mark

WIDTH: Final = 192
RUNGS: Final = 9
UNREAD_A: Final = 60.0
UNREAD_PLAIN_A: Final = 40.0
"""Where the need stands while nobody has read the charger: with the quarter for a continuous load, and without [A]."""
SMALL_A, SMALL_NEED_A = 10.0, 13.0
USUAL_TOP_A, LARGE_A, LARGE_NEED_A = 63.0, 100.0, 50.0
"""Ends of a ladder whose need is the charging current, and what makes it longer [A]."""
LONGEST_SIZE: Final = 6
"""Letters of a size that stand beside its metal; longer ones go without their unit."""
_LEFT, _RIGHT = 66.0, 94.0
_GAP = 20.0


def rungs(design: Design) -> list[float]:
    """Nine standard ratings with the need's own two from the top, or lower where a larger breaker is pinned [A].

    Where the need is the charging current itself: the smallest device and those up to 63 A, more where these are asked.
    """
    ratings = design.book.ratings_a
    usual = _unread_a(design)
    need, breaker = (design.circuit.need_a, design.circuit.breaker_a) if design.circuit else (usual, usual)
    if design.book.circuit.load_share == 1:
        low = SMALL_A if need < SMALL_NEED_A else design.book.circuit.least_breaker_a
        high = LARGE_A if max(need, breaker) > LARGE_NEED_A else USUAL_TOP_A
        return [float(rating) for rating in ratings if low <= rating <= high]
    at, top = (int(np.searchsorted(ratings, amps - 1e-9)) for amps in (need, breaker))
    start = max(0, min(max(at - 6, min(top - RUNGS + 1, at - 1)), len(ratings) - RUNGS))
    return [float(rating) for rating in ratings[start : start + RUNGS]]


def _unread_a(design: Design) -> float:
    """Where the need stands while nobody has read the charger: an usual one of the book's country [A]."""
    return UNREAD_A if design.book.circuit.load_share > 1 else UNREAD_PLAIN_A


def draw_ladder(design: Design, height: float) -> Picture:
    """Draw the ladder.

    Parameters
    ----------
    design : Design
        Solved job.
    height : float
        Height of the region [px].
    """
    picture = Picture(WIDTH, height)
    picture.box(0, 0, WIDTH, height, fill="ground")
    picture.box(0, 0, WIDTH, 44, fill="well")
    first, service = design.book.words.first, design.book.panel.supply_a(design.job)
    picture.text(12, 19, f"{first} {service:g} A" if service else f"{first} ?", 13, BOLD)
    _supply(picture, design)
    picture.text(12, 66, "draws", 13, role="ink2")
    picture.text(WIDTH - 12, 66, "carries", 13, role="ink2", anchor=END)
    ratings = rungs(design)
    top, bottom = 96.0, height - 26.0
    ys = [bottom - (bottom - top) * number / max(len(ratings) - 1, 1) for number in range(len(ratings))]

    def level(amps: float) -> float:
        return float(np.interp(amps, ratings, ys))

    for x in (_LEFT, _RIGHT):
        picture.line(x, top - 14, x, bottom + 12, "ink", 1.6)
    need_y = level(design.circuit.need_a) if design.circuit else None
    for y in ys:
        picture.line(_LEFT - 4, y, _LEFT, y)
        picture.line(_RIGHT, y, _RIGHT + 4, y)
    taken: list[float] = []
    if design.circuit is not None and need_y is not None:
        taken = _chain(picture, design, level, need_y)
    else:
        unread = level(_unread_a(design))
        picture.line(8, unread, WIDTH - 8, unread, "scribe", 2, dash=True)
        picture.text(12, unread - 7, "need ?", 13, BOLD)
    for rating, y in zip(ratings, ys, strict=True):
        picture.box(_LEFT + 1, y - 8, _RIGHT - _LEFT - 2, 16, fill="ground")
        picture.text((_LEFT + _RIGHT) / 2, y + 6, f"{rating:g}", 16, DRAW, anchor=MIDDLE)
        says = f"{cap(design.book.words.breaker)} of {rating:g} A: pin it"
        picture.hit(_LEFT, y - 10, _RIGHT - _LEFT, 20, f"rung-{rating:g}", says, f"scribe:breaker {rating:g}")
    _allowed(picture, design, list(zip(ratings, ys, strict=True)), need_y, taken)
    picture.line(WIDTH - 0.5, 0, WIDTH - 0.5, height, "edge")
    return picture


def _supply(picture: Picture, design: Design) -> None:
    """What the tightest bus leaves with this line on it; a dashed ring while nothing else is entered."""
    known = [bus for bus in design.buses if bus.spare_a is not None]
    if not known:
        mark(picture, "unread", 18, 33, 10)
        picture.text(28, 37, "its other loads", 13, role="ink2")
        picture.hit(0, 0, WIDTH, 44, "service", _service_says(design), "stage:panel")
        return
    tightest = min(known, key=lambda bus: bus.spare_a or 0.0)
    spare = tightest.spare_a or 0.0
    mark(picture, design.mark(f"demand:{tightest.id}"), 18, 33, 10)
    where = "" if tightest.id == "service" else f", {tightest.name}"
    told = f"{abs(spare):.0f} A {'spare' if spare >= 0 else 'over'}{where}"
    picture.text(28, 37, shorten(told, TEXT, 13, WIDTH - 36), 13, role="ink2")
    picture.hit(0, 0, WIDTH, 44, "service", f"{tightest.name}: {told} with this line", "stage:panel")


def _service_says(design: Design) -> str:
    first, service = design.book.words.first, design.book.panel.supply_a(design.job)
    known = f"{first} {service:g} A" if service else f"{first} not read"
    return f"{known}. What else hangs on it is not entered, so spare amps are not worked out."


def _allowed(
    picture: Picture, design: Design, rungs_at: list[tuple[float, float]], need_y: float | None, taken: list[float]
) -> None:
    """Grey: the setting and the smallest wire that each rung allows, where nothing else stands."""
    shown = ""
    charge_y = max((shape.y for shape in picture.texts() if shape.text.startswith("set ")), default=0.0)
    for rating, y in rungs_at:
        if need_y is not None and y < need_y + 12:
            break
        if need_y is None and rating >= _unread_a(design):
            break
        setting = rating / design.book.circuit.load_share
        if y + 5 > charge_y + 18 and setting in design.book.circuit.settings_a:
            picture.text(12, y + 5, f"set {setting:g}", 13, role="ink2")
            says = f"{cap(design.book.words.charger)} of {setting:g} A: take it"
            picture.hit(6, y - 9, _LEFT - 12, 20, f"set-{setting:g}", says, f"scribe:{setting:g}a")
        size = _smallest(design, rating)
        if size and size != shown and all(abs(y + 5 - other) > 18 for other in taken):
            picture.line(_RIGHT + 4, y, _RIGHT + 14, y, "edge")
            picture.text(WIDTH - 12, y + 5, design.book.print_size(size), 13, role="ink2", anchor=END)
            shown = size


def _smallest(design: Design, rating: float) -> str:
    """Smallest size whose terminal ampacity reaches a rating, in the metal of the design."""
    if design.evaluated is None:
        return ""
    group = int(design.evaluated.table.group[design.row])
    enough = np.flatnonzero(design.evaluated.work.rated_a[group] >= rating)
    return design.book.sizes[int(enough[0])] if len(enough) else ""


def _chain(picture: Picture, design: Design, level: Callable[[float], float], need_y: float) -> list[float]:
    """The chain from setting to need; returns the baselines of the labels at the right."""
    circuit = design.circuit
    assert circuit is not None
    share = design.book.circuit.load_share
    if share == 1:
        return _plain_chain(picture, design, level, need_y)
    charge_y = max(level(circuit.charge_a), need_y + 44)
    picture.line(8, need_y, WIDTH - 8, need_y, "scribe", 3)
    picture.text(12, need_y - 8, f"need {circuit.need_a:g}", 13, BOLD)
    x = _LEFT - 10
    picture.line(x, charge_y - 4, x, need_y + 9, "scribe", 1.6)
    picture.path([(x, need_y + 2), (x - 4, need_y + 10), (x + 4, need_y + 10)], fill="scribe", closed=True)
    picture.text(12, (charge_y + need_y) / 2 + 5, f"× {share:g}", 13)
    picture.text(12, charge_y + 6, f"set {circuit.charge_a:g}", 13, BOLD)
    says = (
        f"The charger draws {circuit.charge_a:g} A; {100 * share:g} % of it, {circuit.need_a:g} A, has to be carried."
    )
    picture.hit(4, need_y - 22, _LEFT - 8, charge_y - need_y + 34, "charger", says, "select:breaker")
    return _labels(picture, design, level, need_y)


def _plain_chain(picture: Picture, design: Design, level: Callable[[float], float], need_y: float) -> list[float]:
    """The setting at its own height; above it, dashed, the device's rating, which the cable has to reach."""
    circuit = design.circuit
    assert circuit is not None
    picture.line(8, need_y, WIDTH - 8, need_y, "scribe", 3)
    picture.text(12, need_y - 8, f"set {circuit.charge_a:g}", 13, BOLD)
    picture.text(12, need_y + 17, "Ib", 13, role="ink2")
    says = f"The unit draws {circuit.charge_a:g} A, the design current Ib; its device may not be smaller."
    picture.hit(4, need_y - 22, _LEFT - 8, 44, "charger", says, "select:breaker")
    if circuit.breaker_a < float("inf"):
        y = level(circuit.breaker_a)
        if need_y - y > _GAP:
            picture.line(8, y, _LEFT - 2, y, "scribe", 1.4, dash=True)
            picture.text(12, y - 6, f"In {circuit.breaker_a:g}", 13, BOLD)
        says = f"The device of {circuit.breaker_a:g} A: what the cable has to carry after every factor"
        picture.hit(4, y - 20, _LEFT - 8, 22, "device", says, "select:conductor")
    return _labels(picture, design, level, need_y)


def _labels(picture: Picture, design: Design, level: Callable[[float], float], need_y: float) -> list[float]:
    """What carries, as labels beside the right post: what passes the need above its line, the rest below it."""
    circuit = design.circuit
    assert circuit is not None
    carriers = sorted(_carriers(design))
    above = [carrier for carrier in carriers if carrier[0] > circuit.need_a + 1e-9]
    below = [carrier for carrier in reversed(carriers) if carrier[0] <= circuit.need_a + 1e-9]
    placed, at = [], need_y + 12.0
    for carrier in above:
        at = min(level(carrier[0]) + 5, at - _GAP)
        placed.append((at, carrier))
    at = need_y
    for carrier in below:
        at = max(level(carrier[0]) + 5, at + _GAP)
        placed.append((at, carrier))
    for y, (amps, text, severity, finding) in placed:
        picture.line(_RIGHT, level(amps), _RIGHT + 10, y - 5, "edge")
        left = min(_RIGHT + 26, WIDTH - 5 - text_width(text, BOLD, 13))
        mark(picture, severity, left - 9, y - 5, 10)
        picture.text(left, y, text, 13, BOLD)
        picture.hit(_RIGHT + 6, y - 16, WIDTH - _RIGHT - 8, 21, finding, f"{text} A carries", f"select:{finding}")
    return [y for y, _ in placed]


def _carriers(design: Design) -> list[tuple[float, str, str, str]]:
    """Amps, label, mark and finding of what carries the current."""
    circuit = design.circuit
    assert circuit is not None
    found = [
        (
            circuit.breaker_a,
            design.book.circuit.device_label(design.job, circuit.breaker_a),
            design.mark("breaker", "protection"),
            "breaker",
        )
    ]
    if circuit.usable_a is not None:
        size = design.book.print_size(circuit.size)
        size = circuit.size if len(size) > LONGEST_SIZE else size
        found.append(
            (circuit.usable_a, f"{size} {circuit.usable_a:.0f}", design.mark("conductor", "heat"), "conductor")
        )
    receptacle = design.book.receptacles.get(design.job.charger.connection)
    if receptacle is not None:
        mark_of = design.mark("receptacle", "receptacle-load", "socket")
        own = "socket" if design.finding("socket") is not None else "receptacle"
        found.append((receptacle.amps, f"{receptacle.config}", mark_of, own))
    return found
