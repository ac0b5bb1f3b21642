"""What holds the way and what it meets: straps, staples, walls, trenches, nails."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from awlmark.core.job.by_length import bought
from awlmark.core.parts.tally import Tally, sized, taken
from awlmark.core.quantities import FOOT_M
from awlmark.core.run.framing import nail_plates, studs_crossed
from awlmark.core.run.line import Line, Section, Vector, Walked
from awlmark.core.run.supports import held, strap_number
from awlmark.core.run.trench import dig, ribbon_m
from awlmark.core.run.walls import SLEEVE, masonry, passage

SAME_WALL_M: Final = 0.05
"""Two legs nearer than this to one plane are on the same wall."""
SAND_BAG_M3: Final = (FOOT_M**3) / 2
"""A bag of 50 lb; common practice."""


Face = tuple[Vector, Vector]
"""A wall seen from one side: the way into it, and a point on it [m]."""


def stone_faces(line: Line) -> list[Face]:
    """Both sides of every wall of stone or the like that the line passes: what it passes tells of what a wall is."""
    found: list[Face] = []
    for walked in line.legs:
        if walked.crosses and not walked.heading[2] and masonry(walked):
            east, north, _up = walked.heading
            found += [(walked.heading, walked.start), ((-east, -north, 0.0), walked.end)]
    return found


def fixing_of(walked: Walked, stone: list[Face]) -> str:
    """What holds a strap of a leg: an anchor on a wall of stone, a block on a roof, else a screw; a post is of wood."""
    on_stone = any(
        walked.facing == facing and abs(_off(walked.start, point, facing)) < SAME_WALL_M for facing, point in stone
    )
    if walked.place == "roof" and not walked.heading[2]:
        return "roof block"
    return "anchor" if on_stone and walked.leg.end != "post" else "screw"


def _off(one: Vector, other: Vector, way: Vector) -> float:
    return sum((a - b) * c for a, b, c in zip(one, other, way, strict=True))


def count_straps(tally: Tally, section: Section, stone: list[Face]) -> None:
    """Straps, whose spacing goes by the trade size of the row, each with what holds it."""
    case, index = tally.table.case, tally.columns[section.number]
    walls: dict[str, list[Walked]] = {}
    for walked in held(section.legs):
        walls.setdefault(fixing_of(walked, stone), []).append(walked)
    for fixing, legs in walls.items():
        by_size, counted = np.zeros(len(case.book.trade_sizes)), dict[tuple[float, ...], int]()
        for at in taken(index):
            # Most methods are held alike in every size.
            size = case.book.trade_sizes[at]
            level, above = (case.book.run.support(section.method, size, up)[:2] for up in (False, True))
            apart = *level, *above
            if apart not in counted:
                counted[apart] = strap_number(case.book, section.method, legs, size)
            by_size[at] = counted[apart]
        if by_size.any():
            quantity, marks = np.where(index < 0, 0.0, by_size[index]), [walked.leg.id for walked in legs]
            tally.put("Fittings", sized("strap", section.method, case), index, quantity, *marks)
            tally.put("Fixings", (fixing,), None, quantity, *marks)


def count_staples(tally: Tally, section: Section, stone: list[Face]) -> None:
    """Staples of a cable, but where pipe sleeves it; bored studs hold it but for its ends."""
    case, legs = tally.table.case, held(section.legs)
    bored = [walked for walked in legs if studs_crossed(walked) and not walked.leg.sleeve]
    stapled = [walked for walked in legs if walked not in bored and not walked.leg.sleeve]
    marks = [walked.leg.id for walked in legs if not walked.leg.sleeve]
    ends = sum((walked is section.legs[0]) + (walked.pulls or walked is section.legs[-1]) for walked in bored)
    count = strap_number(case.book, section.method, stapled, None) + ends
    tally.many("Fittings", f"staple:{section.method.made_as}", marks if count else (), float(count))
    for walked in legs:
        sleeve = walked.leg.sleeve
        if not sleeve:
            continue
        size = case.book.goods.sleeve(case.book, walked, case.job.circuit.cable_wide_m)
        straps = float(strap_number(case.book, case.book.methods[sleeve], [walked], size))
        tally.add("Fittings", f"strap:{sleeve}:{size or '?'}", walked.leg.id, straps)
        tally.add("Fixings", fixing_of(walked, stone), walked.leg.id, straps)


def count_trench(tally: Tally) -> None:
    """Ribbon over every trench, and the sand it is bedded in where its depth is read."""
    line = tally.table.case.line
    ribbon = ribbon_m(line)
    trenches = [walked for walked in line.legs if walked.leg.direction == "trench" and not walked.leg.reused]
    if ribbon:
        marks = [walked.leg.id for walked in trenches]
        tally.many("Sundries", "warning ribbon", marks, bought(ribbon, tally.units), tally.units)
    dug = [found for walked in line.legs if not walked.leg.reused and (found := dig(walked)) is not None]
    bags = float(math.ceil(sum(found.sand_m3 for found in dug) / SAND_BAG_M3 - 1e-6))
    tally.many("Sundries", "sand", [walked.leg.id for walked in trenches], bags)


def count_met(tally: Tally, section: Section) -> None:
    """What the legs of a section meet: movement, nails, walls, a sleeve."""
    case, cable = tally.table.case, section.method.cable
    if section.method.grows:
        slips = [walked.leg.id for walked in section.legs if walked.leg.slip]
        tally.fit("Fittings", "expansion", section.number, *slips)
    for walked in [walked for walked in section.legs if walked.leg.edge_m is not None]:
        plates = nail_plates(walked, case.book.run.edge_m)
        if plates:
            tally.add("Fixings", "nail plate", walked.leg.id, plates)
    for walked in [walked for walked in section.legs if walked.leg.sleeve] if cable else ():
        leg = walked.leg
        size = case.book.goods.sleeve(case.book, walked, case.job.circuit.cable_wide_m) or "?"
        stick_m = case.book.methods[leg.sleeve or ""].stick_m
        if stick_m:
            tally.add("Raceway", f"stick:{leg.sleeve}:{size}", leg.id, math.ceil(leg.length_m / stick_m - 1e-9))
        else:
            long = bought(leg.length_m, tally.units)
            tally.add("Raceway", f"flexible:{leg.sleeve}:{size}", leg.id, long, tally.units)
        tally.add("Fittings", f"bushing:{leg.sleeve}:{size}", leg.id, 2.0)
    for walked in [one for one in section.legs if one.leg.mount == "fished" and one.leg.end == "box"]:
        tally.add("Fixings", "old-work support", walked.leg.id)
    for walked in [walked for walked in section.legs if walked.crosses]:
        there = passage(walked)
        if walked.leg.reused:
            continue
        beyond = case.line.legs[walked.number].place if walked.number < len(case.line.legs) else walked.place_after
        if walked.heading[2] > 0 and beyond == "roof":
            tally.add("Fixings", "roof flashing", walked.leg.id)
        if there.sleeved or there.kind == SLEEVE:
            tally.add("Fixings", "wall sleeve", walked.leg.id)
        if there.fire:
            tally.add("Sundries", "fire seal", walked.leg.id)
        elif there.weather or there.warm_to_cold:
            tally.add("Sundries", "duct seal", walked.leg.id)
