"""Steps of the raceway or cable itself: trenches, walls, fitting, boxes, and the charger on its wall."""

from __future__ import annotations

from typing import Final

from awlmark.core.build.hours import ended_legs, fitting_hours, hours_for
from awlmark.core.build.step import Step
from awlmark.core.quantities import print_length
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design

RACEWAY: Final = "Raceway"
CABLE: Final = "Cable"
TAPE_SHARE: Final = 0.5
"""Of a trench's hours: half to dig it, half to fill it; common practice."""


def raceway_steps(design: Design) -> list[Step]:
    """Trenches, walls, pipe, boxes; then the cable, and only then its staples; the charger on its wall."""
    session = session_of(design)
    found, units = [], design.job.units
    new = [walked for walked in design.line.legs if not walked.leg.reused]
    trenches = sum(walked.leg.direction == "trench" for walked in new)
    walls = sum(walked.crosses for walked in new)
    for walked in design.line.legs:
        leg = walked.leg
        name = f"leg {walked.number}"
        if leg.reused:
            # Pipe that is there already.
            continue
        if leg.direction == "trench":
            cover = "" if leg.cover_m is None else f", {print_length(leg.cover_m, units)} of cover"
            found += [
                Step(
                    f"dig:{leg.id}",
                    session,
                    "Dig the trench",
                    f"{print_length(leg.length_m, units)}{cover}; spoil aside.",
                    _middle(walked),
                    hours_for(design, "trench") * TAPE_SHARE / trenches,
                    2,
                    ("shovel or trencher",),
                ),
                Step(
                    f"lay:{leg.id}",
                    session,
                    f"Lay {name}",
                    "Glue and lay; the inspector sees it open.",
                    _middle(walked),
                    hours_for(design, "bed") / trenches,
                    2,
                    ("saw", "reamer"),
                ),
                Step(
                    f"fill:{leg.id}",
                    session,
                    "Backfill",
                    "Ribbon half way down, no stones against the pipe.",
                    _middle(walked),
                    hours_for(design, "trench") * TAPE_SHARE / trenches,
                    1,
                    ("tamper",),
                ),
            ]
        elif walked.crosses:
            passed = "floor or ceiling" if walked.heading[2] else "wall"
            how = "drill it a size larger" if walked.method.cable else "sleeve or nipple through"
            text = f"Drill {leg.wall or f'the {passed}'}, {how}, look behind first."
            found.append(
                Step(
                    f"through:{leg.id}",
                    session,
                    f"Through the {passed}, {name}",
                    text,
                    walked.start_m,
                    hours_for(design, "through") / walls,
                    1,
                    ("hammer drill", "long bit"),
                )
            )
    held = [walked for walked in new if walked.leg.mount != "fished"]
    mounted = [walked for walked in held if not walked.crosses and walked.leg.direction != "trench"]
    # A line that is nothing but walls and trenches is fitted there.
    share = fitting_hours(design) / max(len(mounted), 1)
    found += [_fit(walked, share, session, units) for walked in mounted if not walked.method.cable]
    ended = ended_legs(design)
    for walked in ended:
        title = f"{walked.leg.end.capitalize()} at leg {walked.number}"
        text = "Fixed on its own, cover off until the wire is in."
        hours = hours_for(design, "end") / len(ended)
        found.append(Step(f"end:{walked.leg.id}", session, title, text, walked.end_m, hours, 1, ("drill", "level")))
    if any(section.method.cable for section in design.line.sections):
        # A cable is held where it lies: it is run before it is stapled.
        text = (
            "In one piece; no bend tighter than five times its width, seven for MC "
            f"({design.book.clause('cable_bend')}); clamp at both ends, a quarter inch of jacket inside."
        )
        hours = hours_for(design, "cable")
        found.append(Step("cable", session, "Run the cable", text, design.line.length_m / 2, hours, 2))
    found += [_fit(walked, share, session, units) for walked in mounted if walked.method.cable]
    slips = [walked for walked in design.line.legs if walked.leg.slip]
    for walked in slips:
        title, hours = f"Slip joint, leg {walked.number}", hours_for(design, "slip") / len(slips)
        text = "Set it open as far as the day's temperature asks; straps loose enough to slide."
        found.append(Step(f"slip:{walked.leg.id}", session, title, text, _middle(walked), hours))
    end = design.line.length_m
    text = "Into stud, backing, masonry or post, at the height of its instructions."
    found.append(
        Step(
            "mount",
            session,
            "Mount the charger",
            text,
            end,
            hours_for(design, "mount") + (0.0 if mounted else fitting_hours(design)),
            2,
            ("drill", "level"),
        )
    )
    return found


def session_of(design: Design) -> str:
    """Session in which the way is made: of a line that is cable alone there is no raceway."""
    return CABLE if all(section.method.cable for section in design.line.sections) else RACEWAY


def _fit(walked: Walked, share: float, session: str, units: str) -> Step:
    """Pipe strapped, or cable stapled, on one leg."""
    cable = walked.method.cable
    what = "Staple" if cable else "Fit and strap"
    tools = ("hammer",) if cable else ("saw", "reamer", "level", *(("bender",) if _by_hand(walked) else ()))
    title = f"{what} leg {walked.number}, {walked.method.name}"
    text = f"{print_length(walked.leg.length_m, units)} {walked.leg.direction}; supports as marked on the tape."
    return Step(f"fit:{walked.leg.id}", session, title, text, _middle(walked), share, 1, tools)


def _by_hand(walked: Walked) -> bool:
    turned = walked.turn_deg > 1e-6 and walked.leg.bend == "hand"
    return turned or walked.leg.offset_m is not None or walked.leg.saddle_m is not None


def _middle(walked: Walked) -> float:
    return (walked.start_m + walked.end_m) / 2
