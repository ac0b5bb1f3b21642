"""What the way itself takes: wire, pipe, fittings, straps, seals, boxes."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Final

import numpy as np

from awlmark.core.books.book import EARTH, Method
from awlmark.core.circuit.case import Case
from awlmark.core.job.by_length import bought
from awlmark.core.names import METAL_NAMES
from awlmark.core.parts.cutting import plan_for
from awlmark.core.parts.sticks import Runs, micrometres, runs_of
from awlmark.core.parts.tally import Tally, sized, taken
from awlmark.core.parts.way_items import Face, count_met, count_staples, count_straps, count_trench, stone_faces
from awlmark.core.run.box_ends import beyond, wet_box
from awlmark.core.run.line import Section, Walked

RAINTIGHT: Final = "rain-tight "
"""What the joints and connectors of a thin tube are in the weather."""
SLICK_DEG: Final = 180.0
"""Past so much bend in one stretch wire is pulled with lubricant; common practice."""


def spans(case: Case) -> list[tuple[bool, list[Section]]]:
    """Neighbouring sections that one set of conductors passes through: raceways together, each kind of cable alone."""
    found: list[tuple[bool, list[Section]]] = []
    for section in case.sections:
        cable = section.method.cable
        if found and found[-1][0] == cable and (not cable or found[-1][1][-1].method.made_as == section.method.made_as):
            found[-1][1].append(section)
        else:
            found.append((cable, [section]))
    return found


def span_length(case: Case, sections: list[Section]) -> float:
    """Length of one conductor through neighbouring sections with what it takes to land it [m]."""
    makeup, legs = case.job.makeup, [walked for section in sections for walked in section.legs]
    first, last = sections[0].number == 0, sections[-1].number == len(case.sections) - 1
    inside = sum(makeup.box_loop_m for walked in legs[:-1] if walked.pulls)
    tails = (makeup.panel_tail_m if first else makeup.box_loop_m) + (makeup.unit_tail_m if last else makeup.box_loop_m)
    return sum(section.length_m for section in sections) + inside + tails


def cut_length(case: Case, sections: list[Section]) -> float:
    """Length bought for neighbouring sections, waste included, in whole units of the job [ft or m]."""
    more = 1 + case.job.buying.waste_percent / 100
    return bought(more * span_length(case, sections), case.job.units)


@functools.cache
def _wire_keys(sizes: tuple[str, ...], insulations: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(f"wire:{m}:{s}:{i}" for m in METAL_NAMES for i in insulations for s in sizes)


CableEnds = Callable[[Tally, Method, list[str]], None]
"""Counts what a cable enters enclosures by: its method, and the legs of its ends in order, two for a box between."""


def count_clamps(tally: Tally, method: Method, ends: list[str]) -> None:
    """A clamp at every end; an insulating bushing wherever armour is cut under one."""
    for kind in ("clamp", "anti-short bushing") if method.bushed else ("clamp",):
        tally.many("Fittings", f"{kind}:{method.made_as}", ends, float(len(ends)))


def count_wire(tally: Tally, cable_ends: CableEnds = count_clamps) -> None:
    """Conductors by colour, cable with what it enters by, in whole units with the waste that the job sets."""
    table, ground = tally.table, tally.ground
    case, book = table.case, table.case.book
    insulation, metal = table.insulation[table.group], table.material[table.group]
    sizes = len(book.sizes)
    base = (metal * len(book.insulations) + insulation) * sizes
    # One array for all spans, so that the tally knows them for the same wire.
    hots, grounds, cables = base + table.hot, np.where(ground < 0, -1, base + ground), metal * sizes + table.hot
    for cable, sections in spans(case):
        long = cut_length(case, sections)
        marks = [walked.leg.id for section in sections for walked in section.legs]
        if cable:
            made, method = sections[0].method, sections[0].method.made_as
            ways = case.hots + case.neutral
            keys = tuple(f"cable:{method}:{m}:{s}:{ways}" for m in METAL_NAMES for s in book.sizes)
            tally.put("Wire", keys, cables, long, *marks, unit=tally.units, pieces=(long,))
            # One where it begins, one where it ends, and one on each side of every box between.
            boxes = [walked.leg.id for section in sections for walked in section.legs[:-1] if walked.leg.end == "box"]
            twice = [its_id for its_id in boxes for _side in range(2)]
            cable_ends(tally, made, [marks[0], *twice, marks[-1]])
            if case.hots == 2 and not case.neutral:
                tally.add("Sundries", "marking tape", marks[0], float(not tally.has("marking tape")))
            continue
        keys = _wire_keys(book.sizes, book.insulations)
        for wire in case.wires:
            index = grounds if wire.role == EARTH else hots
            tally.put("Wire", keys, index, long, *marks, unit=tally.units, detail=wire.colour, pieces=(long,))


def count_way(
    tally: Tally,
    held: Callable[[Tally, Section, list[Face]], None] = count_staples,
    met: Callable[[Tally, Section], None] = count_met,
    trench: Callable[[Tally], None] = count_trench,
) -> None:
    """Section by section: sticks and their joints, straps or staples, seals, plates, boxes and bodies.

    Parameters
    ----------
    held, met, trench : callable
        Count what holds a cable, what the legs of a section meet, and what the ground takes.
    """
    case = tally.table.case
    stone = stone_faces(case.line)
    for section in case.sections:
        if section.method.cable:
            held(tally, section, stone)
        elif section.method.flexible:
            _flexible(tally, section, stone)
        else:
            _raceway(tally, section, stone)
        met(tally, section)
        _ends(tally, section)
    _boxes(tally)
    trench(tally)
    pipes = [section for section in case.sections if not section.method.cable]
    if pipes:
        long = bought(sum(section.length_m for section in pipes), tally.units)
        tally.add("Sundries", "pull string", pipes[0].legs[0].leg.id, long, tally.units)
    glued = [section for section in pipes if section.method.joint == "glued"]
    for section in glued:
        tally.add("Sundries", "cement", section.legs[0].leg.id, float(section is glued[0]))
    hard = [stretch for stretch in case.line.stretches if stretch.raceway and stretch.bends_deg > SLICK_DEG + 1e-6]
    for stretch in hard:
        tally.add("Sundries", "lubricant", stretch.leg_id, float(stretch is hard[0]))


def _flexible(tally: Tally, section: Section, stone: list[Face]) -> None:
    """Raceway that comes in coils: by the length, with a connector at both ends of every length."""
    number, legs = section.number, section.legs
    long = bought(section.length_m, tally.units)
    marks = [walked.leg.id for walked in legs]
    tally.put(
        "Raceway",
        sized("flexible", section.method, tally.table.case),
        tally.columns[number],
        long,
        *marks,
        unit=tally.units,
    )
    inside = [walked.leg.id for walked in legs[:-1] if walked.pulls]
    last = legs[-1]
    unit = last.leg.end in ("charger", "post")
    tally.fit("Fittings", "connector", number, legs[0].leg.id, *inside, *inside, *([] if unit else [last.leg.id]))
    # Into the unit from below or beside a whip turns; common practice.
    tally.fit("Fittings", "angle connector", number, *([last.leg.id] if unit else []))
    count_straps(tally, section, stone)


def _raceway(tally: Tally, section: Section, stone: list[Face]) -> None:
    number, legs, case = section.number, section.legs, tally.table.case
    runs = runs_of(case.line, section)
    tally.fit("Raceway", "elbow", number, *runs.elbows)
    _sticks(tally, section, runs, len(runs.elbows) + runs.meets - runs.chains)
    joint = section.method.joint
    belled, threaded = joint == "glued", joint == "threaded"
    ends, hubs = _open_ends(legs)
    wet = section.wet and joint == "screwed"
    # Plastic is glued into the hubs of its own bodies, heavy pipe screwed; a thin tube has a connector there.
    joined = ends if belled or threaded else ends + hubs
    tally.fit("Fittings", "adapter and locknut" if belled else f"{RAINTIGHT * wet}connector", number, *joined)
    least = case.book.goods.bushing_from
    large = tally.table.hot >= (case.book.sizes.index(least) if least else len(case.book.sizes))
    if large.any():
        keys = sized("bushing", section.method, case)
        # Bodies have their own smooth throats.
        bare = ends[1:] if _at_body(case, number) and not legs[0].leg.reused else ends
        throats = bare[:-1] if legs[-1].leg.end in ("body", "pull elbow") and not legs[-1].leg.reused else bare
        if throats:
            tally.put("Fittings", keys, tally.columns[number], np.where(large, float(len(throats)), 0.0), *throats)
    count_straps(tally, section, stone)


def _open_ends(legs: tuple[Walked, ...]) -> tuple[list[str], list[str]]:
    """Ends of new pipe, in order: at boxes and where the section begins and ends, and in bodies between."""
    ends: list[str] = []
    hubs: list[str] = []
    for at, walked in enumerate(legs):
        if walked.leg.reused:
            continue
        if at == 0:
            ends.append(walked.leg.id)
        elif legs[at - 1].pulls:
            (ends if legs[at - 1].leg.end == "box" else hubs).append(legs[at - 1].leg.id)
        if at + 1 == len(legs):
            ends.append(walked.leg.id)
        elif walked.pulls:
            (ends if walked.leg.end == "box" else hubs).append(walked.leg.id)
    return ends, hubs


def _at_body(case: Case, number: int) -> bool:
    """Whether a section begins where the one before it ends in a body."""
    return number > 0 and case.sections[number - 1].legs[-1].leg.end in ("body", "pull elbow")


def _sticks(tally: Tally, section: Section, runs: Runs, joints: int) -> None:
    """Sticks and couplings, whose number goes by what the fittings of a row's trade size take up."""
    book, index = tally.table.case.book, tally.columns[section.number]
    belled, whole_um = section.method.joint == "glued", micrometres(section.method.stick_m)
    sticks, couplings = np.zeros(len(book.trade_sizes) + 1), np.zeros(len(book.trade_sizes) + 1)
    for at in (*([-1] if bool((index < 0).any()) else ()), *taken(index)):
        trade = book.trade_sizes[at] if at >= 0 else None
        kinds = runs.kinds(trade)
        sticks[at] = plan_for(kinds, section.method.stick_m).number
        # One piece more than joints in every run; an elbow is a piece that brings no end of its own.
        number = sum([many for length_um, many in kinds if not (belled and length_um == whole_um)])
        couplings[at] = max(0, number + joints + (runs.whole_runs(trade) if belled else 0))
    marks = [walked.leg.id for walked in section.legs]
    joint = f"{RAINTIGHT * (section.wet and section.method.joint == 'screwed')}coupling"
    for aisle, kind, count in (("Raceway", "stick", sticks), ("Fittings", joint, couplings)):
        if count.any():
            tally.put(aisle, sized(kind, section.method, tally.table.case), index, count[index], *marks)


def _boxes(tally: Tally) -> None:
    """The boxes that are enough for each row's wires; like ones together."""
    alike: dict[tuple[object, ...], list[Walked]] = {}
    for walked in tally.table.case.line.legs:
        leg = walked.leg
        if leg.end == "box":
            after = beyond(tally.table.case.line, walked)
            if leg.box is None and wet_box(walked, after):
                tally.add("Boxes and outlets", "wet box", leg.id)
                continue
            cables = walked.method.cable, after is not None and after.method.cable
            kind = leg.box, leg.box_in3, leg.ring_in3, leg.spliced, cables, leg.box_others, leg.box_device
            alike.setdefault(kind, []).append(walked)
    for many in alike.values():
        _box(tally, many)


def _box(tally: Tally, many: list[Walked]) -> None:
    table, case, walked = tally.table, tally.table.case, many[0]
    sizes = case.book.sizes
    goods = case.book.goods
    names = tuple(
        dict.fromkeys((*((walked.leg.box,) if walked.leg.box else goods.boxes[-1:]), *goods.boxes, *goods.more_boxes))
    )
    # Hot and ground as one number; the ground is -1 where it is unread.
    pairs, at = np.unique(table.hot * (len(sizes) + 1) + tally.ground + 1, return_inverse=True)
    taken = [
        names.index(goods.box(case, walked, sizes[pair // (len(sizes) + 1)], pair % (len(sizes) + 1) - 1))
        for pair in pairs.tolist()
    ]
    keys = tuple([f"box:{name}" for name in names])
    marks = [each.leg.id for each in many]
    tally.put("Boxes and outlets", keys, np.array(taken)[at.reshape(-1)], float(len(many)), *marks)


def _ends(tally: Tally, section: Section) -> None:
    """What stands at the ends of the legs of a section."""
    case, legs = tally.table.case, section.legs
    boxes = [walked.leg for walked in legs if walked.leg.end == "box"]
    if boxes:
        marks = [leg.id for leg in boxes]
        tally.many("Fixings", "screw", marks, 2.0 * len(boxes))
        if not case.raceway_ground:
            tally.many("Boxes and outlets", "ground screw", marks, float(len(boxes)))
        rings = [leg.id for leg in boxes if leg.ring_in3]
        tally.many("Boxes and outlets", "ring", rings, float(len(rings)))
    if not section.method.cable:
        last = legs[-1] if section.number + 1 < len(case.sections) else None
        for end in ("body", "pull elbow"):
            inside = [walked for walked in legs if walked.leg.end == end and walked is not last]
            plain = [walked.leg.id for walked in inside if walked.leg.body is None]
            tally.fit("Fittings", end, section.number, *plain)
            for walked in inside:
                if walked.leg.body is not None:
                    keys, column = sized(end, section.method, case), tally.columns[section.number]
                    tally.put("Fittings", keys, column, 1.0, walked.leg.id, detail=walked.leg.body)
            if last is not None and last.leg.end == end:
                _between(tally, section, end, last.leg.id)
    spliced = [walked.leg.id for walked in legs if _joined(case, walked)]
    if spliced:
        wires = float(len(case.wires) * len(spliced))
        keys = tuple([f"wire connector:{size}" for size in case.book.sizes])
        tally.put("Boxes and outlets", keys, tally.table.hot, wires, *spliced)


def _joined(case: Case, walked: Walked) -> bool:
    """Whether wires are joined at the end of a leg: spliced, or cut because cable comes in."""
    if walked.leg.end not in ("box", "body"):
        return False
    after = beyond(case.line, walked)
    cabled = walked.method.cable or (after is not None and after.method.cable)
    return walked.leg.spliced or (walked.leg.end == "box" and cabled)


def _between(tally: Tally, section: Section, end: str, mark: str) -> None:
    """A body between two sections, as large as the larger of them, reduced to the other."""
    case = tally.table.case
    here, beyond = tally.columns[section.number], tally.columns[section.number + 1]
    beyond = np.where(beyond < 0, here, beyond)
    tally.put("Fittings", sized(end, section.method, case), np.maximum(here, beyond), 1.0, mark)
    uneven = (here != beyond).astype(float)
    if uneven.any():
        tally.put("Fittings", ("reducer",), None, uneven, mark)
