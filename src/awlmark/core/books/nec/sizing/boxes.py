"""Boxes: volume by what is in them, and which standard box is enough."""

from __future__ import annotations

import functools
from typing import Final

import msgspec

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import clause_of
from awlmark.core.books.nec.facts import facts_of
from awlmark.core.books.nec.printed import number, printed
from awlmark.core.books.nec.sizing.work import worked
from awlmark.core.circuit.case import Case
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, UNREAD, Finding, Fix, grade
from awlmark.core.job.edit import Put
from awlmark.core.quantities import INCH_M, print_gauge
from awlmark.core.run.box_ends import beyond, wet_box
from awlmark.core.run.line import Walked

LARGEST_COUNTED: Final = "6"
"""Table 314.16(B) ends here; larger wire goes by the pull-box rule 314.28."""
WIDE_GANGS: Final = 2
"""Gangs of a device wider than two inches, 314.16(B)(4)."""
OFFERED: Final = ("4 x 1-1/2 square", "4 x 2-1/8 square", "4-11/16 x 1-1/2 square", "4-11/16 x 2-1/8 square")
"""Boxes proposed for a splice or a pull, in the order of their price; common practice."""
RINGED: Final = " with its ring"
BY_VOLUME: Final = "by its volume"
"""Name on the list of a box that is chosen by the volume marked in it."""
PULL_BOX: Final = f"as long as {clause_of('pull_box_rule')} asks"
"""Name on the list of a box for 4 AWG and larger, whose length its finding tells."""
LOOP_M: Final = 12 * INCH_M
"""An unbroken loop this long counts twice, twice the 6 in of 300.14: 314.16(B)(1)."""


class Contents(msgspec.Struct, frozen=True):
    """What counts in one box."""

    conductors: tuple[tuple[str, int], ...]
    """Size and how many count."""
    grounds: tuple[str, ...]
    """Sizes of the wire grounds that enter."""
    clamps: bool = False
    device_size: str | None = None
    """Largest wire on a device in it; None without one."""
    gangs: int = 1
    loops: bool = False
    """Whether wires that pass unbroken lie in a loop long enough to count twice."""


@functools.cache
def allowance_in3(size: str) -> float | None:
    """Volume of one conductor [in3], Table 314.16(B); None where the table ends."""
    row = next((row for row in printed("box_allowance_314_16_b").rows if row["size"] == size), None)
    return None if row is None else number(row["volume_in3"])


@functools.cache
def standard_boxes() -> dict[str, float]:
    """Volumes of the standard metal boxes [in3], Table 314.16(A)."""
    return {row["description"]: number(row["min_volume_in3"]) for row in printed("boxes_314_16_a").rows}


def needed_in3(contents: Contents, edition: str) -> float | None:
    """Volume that the parts in a box ask for [in3], 314.16(B); None where a size is beyond the table.

    Conductors one allowance each; all clamps together one of the largest; a device two of the largest wire on it for
    each gang; grounds together one of the largest, and from 2020 a quarter more for each beyond four.

    Examples
    --------
    Six 6 AWG at 5.0, three grounds of 10 AWG at 2.5 together, clamps one of the largest:

    >>> needed_in3(Contents(conductors=(("6", 6),), grounds=("10", "10", "10"), clamps=True), "nec-2023")
    37.5
    """
    total, largest = 0.0, 0.0
    for size, count in contents.conductors:
        each = allowance_in3(size)
        if each is None:
            return None
        total += each * count
        largest = max(largest, each)
    grounds = [allowance_in3(size) for size in contents.grounds]
    if None in grounds:
        return None
    ground = max((each for each in grounds if each is not None), default=0.0)
    total += ground * (1 + facts_of(edition).more_grounds * max(len(grounds) - 4, 0))
    if contents.clamps:
        total += largest
    if contents.device_size is not None:
        total += 2 * contents.gangs * (allowance_in3(contents.device_size) or 0.0)
    return total


def contents_of(case: Case, walked: Walked, size: str, ground: int) -> Contents | None:
    """What the box at the end of a leg holds; None while a ground is unread (-1).

    Parameters
    ----------
    case : Case
        The circuit.
    walked : Walked
        The leg before the box; what goes on behind it counts as well.
    size : str
        Gauge of the hots.
    ground : int
        Size index of the ground.
    """
    if ground < 0:
        return None
    after = beyond(case.line, walked) or walked
    wires = case.hots + case.neutral
    cabled = walked.method.cable or after.method.cable
    # Where cable comes in, or wires are spliced, each wire has two ends in the box; pulled through it counts once,
    # and twice where its loop is long.
    cut = walked.leg.spliced or cabled
    loops = not cut and case.job.makeup.box_loop_m >= LOOP_M - 1e-9
    ends = 2 if cut else 1
    grounds = [] if case.raceway_ground else [case.book.sizes[ground]] * ends
    conductors = [(size, wires * (2 if loops else ends))]
    for bundle in walked.leg.box_others:
        if bundle.diameter_m is None and bundle.carries:
            conductors.append((bundle.size, bundle.count))
        elif bundle.diameter_m is None:
            grounds += [bundle.size] * bundle.count
    device = walked.leg.box_device
    return Contents(tuple(conductors), tuple(grounds), clamps=cabled, device_size=device, loops=loops)


def box_name(case: Case, walked: Walked, size: str, ground: int) -> str:
    """The box to buy for the end of a leg: as typed, or the smallest offered that is enough for a wire size."""
    if walked.leg.box is not None:
        return walked.leg.box
    if large(case.book, size):
        return PULL_BOX
    contents = contents_of(case, walked, size, ground)
    needed = None if contents is None else needed_in3(contents, case.job.code)
    if needed is None or walked.leg.box_in3 is not None:
        return OFFERED[-1]
    return box_of(walked, needed)[0].removesuffix(RINGED)


def large(book: Book, size: str) -> bool:
    """Whether a gauge is beyond the volume rule: its boxes go by the pull-box rule 314.28."""
    return book.sizes.index(size) > book.sizes.index(LARGEST_COUNTED)


def tell_boxes(t: Teller) -> list[Finding]:
    """Every box of small wire on the way, and the one behind a receptacle."""
    found = list[Finding | None]()
    if not large(t.book, t.size):
        found += [_box(t, walked) for walked in t.case.line.legs if walked.leg.end == "box"]
    if t.case.receptacle is not None:
        found.append(_outlet_box(t))
    elif t.case.job.charger.pigtail is not None:
        found.append(_pigtail_box(t))
    return [finding for finding in found if finding is not None]


def sums_of(contents: Contents) -> tuple[str, ...]:
    """What a box's volume is made of, a line each."""
    sums = [", ".join(f"{count} × {print_gauge(size)}" for size, count in contents.conductors)]
    if contents.loops:
        sums[0] += ", each loop counted twice"
    if contents.grounds:
        sums.append(f"{len(contents.grounds)} grounds, one allowance of {print_gauge(contents.grounds[0])}")
    if contents.clamps:
        sums.append("clamps, one allowance")
    if contents.device_size is not None:
        sums.append(f"device, {2 * contents.gangs} allowances of {print_gauge(contents.device_size)}")
    return tuple(sums)


def _box(t: Teller, walked: Walked) -> Finding | None:
    contents = contents_of(t.case, walked, t.size, int(worked(t).grounds.size[t.row]))
    needed = None if contents is None else needed_in3(contents, t.case.job.code)
    if contents is None or needed is None:
        return None
    leg = walked.leg
    what = f"The box at leg {walked.number} has to hold {needed:g} in³"
    place = {"at_m": walked.end_m, "where": leg.id, "sums": sums_of(contents)}
    if wet_box(walked, beyond(t.case.line, walked)) and leg.box is None and leg.box_in3 is None:
        text = f"{what} and stands in the weather: one marked for wet places, with gasketed cover and rain-tight hubs."
        text += " Read its volume off it."
        return Finding(
            f"box:{leg.id}", UNREAD, "Box in the weather", text, t.book.cite("wet_box"), needed=needed,
            unit="in3", ask=f"leg {walked.number} box ", site=True, **place,  # type: ignore[arg-type]
        )  # fmt: skip
    return _judged(f"box:{leg.id}", "Box volume", what, walked, needed, t, place)


def _judged(
    finding_id: str, title: str, what: str, walked: Walked, needed: float, t: Teller, place: dict[str, object]
) -> Finding:
    """A box against the volume it has to hold: as typed, as marked, or the smallest standard one that is enough."""
    name, volume = box_of(walked, needed)
    path = f"legs[{walked.leg.id}].box"
    larger = [other for other in OFFERED if standard_boxes()[other] >= needed - 1e-9]
    fixes = tuple(Fix(f"{other} box", (Put(path, other), Put(f"{path}_in3", None))) for other in larger[:2])
    bought = walked.leg.box is None and walked.leg.box_in3 is None
    ask, severity = "", STOP if volume is None else grade(volume, needed, "least", stepped=bought)
    if bought and severity == STOP:
        # No standard box is enough: one is bought by the volume on its label, and that has to be read.
        severity, ask = UNREAD, f"leg {walked.number} box "
        text = f"{what}, beyond standard boxes: choose one by its marked volume, type that."
    else:
        text = f"{what}; {name} has {volume:g} in³." if volume is not None else f"{what}; {name} has not."
    return Finding(
        id=finding_id, severity=severity, title=title, text=text, cite=t.book.cite("box"), found=volume,
        needed=needed, unit="in3", fixes=fixes if severity != HOLDS else (), ask=ask, **place,  # type: ignore[arg-type]
    )  # fmt: skip


def box_of(walked: Walked, needed: float) -> tuple[str, float | None]:
    """The box in hand and its volume [in3]: as typed, as read off it, or the smallest offered that is enough."""
    ring, boxes = walked.leg.ring_in3 or 0.0, standard_boxes()
    name, volume = walked.leg.box, walked.leg.box_in3
    if volume is not None:
        name = name or "the box"
    elif name is not None:
        volume = boxes.get(name)
    else:
        name = next((each for each in OFFERED if boxes[each] + ring >= needed - 1e-9), OFFERED[-1])
        volume = boxes[name]
    return (f"{name}{RINGED}" if ring else name), None if volume is None else volume + ring


def outlet_contents(case: Case, size: str, ground: int) -> Contents | None:
    """What the box behind a receptacle holds; None while the ground is unread, or for wire beyond the volume rule.

    A face wider than two inches counts twice a gang.
    """
    receptacle = case.receptacle
    if ground < 0 or receptacle is None or large(case.book, size):
        return None
    wide = receptacle.amps > 20
    cable = bool(case.sections) and case.sections[-1].method.cable
    grounds = () if case.raceway_ground else (case.book.sizes[ground],)
    return Contents(((size, case.hots + case.neutral),), grounds, cable, size, WIDE_GANGS if wide else 1)


def outlet_box_name(case: Case, size: str, ground: int) -> str:
    """The box to buy behind a receptacle; ``by its volume`` where no standard box is enough."""
    last = case.line.legs[-1] if case.line.legs else None
    if last is not None and last.leg.box is not None:
        return last.leg.box
    contents = outlet_contents(case, size, ground)
    needed = None if contents is None else needed_in3(contents, case.job.code)
    fits = [name for name in OFFERED if needed is not None and standard_boxes()[name] >= needed - 1e-9]
    return fits[0] if fits and (last is None or last.leg.box_in3 is None) else BY_VOLUME


def _outlet_box(t: Teller) -> Finding | None:
    """The box behind a receptacle, and the plate it asks for."""
    contents = outlet_contents(t.case, t.size, int(worked(t).grounds.size[t.row]))
    receptacle, legs = t.case.receptacle, t.case.line.legs
    needed = None if contents is None else needed_in3(contents, t.case.job.code)
    if receptacle is None or contents is None or needed is None or not legs:
        return None
    plate = "two-gang" if receptacle.amps > 20 else "one-gang"
    what = f"The box behind the {receptacle.config}, with a {plate} plate, has to hold {needed:g} in³"
    place = {"at_m": t.case.line.length_m, "where": "charger", "sums": sums_of(contents)}
    return _judged("outlet-box", "Box of the receptacle", what, legs[-1], needed, t, place)


def _pigtail_box(t: Teller) -> Finding | None:
    """The unit's own wiring box or the box beside it, where its leads are spliced to the run (314.16, 110.3(B))."""
    size, legs = str(t.case.job.charger.pigtail), t.case.line.legs
    ground = int(worked(t).grounds.size[t.row])
    if ground < 0 or not legs or large(t.book, t.size) or large(t.book, size):
        return None
    wires, grounds = t.case.hots + t.case.neutral, (t.book.sizes[ground], size)
    cable = legs[-1].method.cable
    contents = Contents(((t.size, wires), (size, wires)), grounds, cable)
    needed = needed_in3(contents, t.case.job.code)
    if needed is None:
        return None
    what = f"The unit's {print_gauge(size)} leads are spliced to {print_gauge(t.size)} in a box that has to hold"
    place = {"at_m": t.case.line.length_m, "where": "charger", "sums": sums_of(contents)}
    return _judged("pigtail-box", "Box of the unit's leads", f"{what} {needed:g} in³", legs[-1], needed, t, place)
