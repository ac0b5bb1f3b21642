"""The Build scene: power down in order, a dial for every screw, legs as built, the steps."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Final

from awlmark.core.build.built import deviation
from awlmark.core.build.step import Step
from awlmark.core.build.steps import left_to_electrician, next_step, steps_of
from awlmark.core.build.torque import N_M_PER_LBF_IN, Dial, dials_of
from awlmark.core.quantities import draw_length
from awlmark.core.solve.design import Design
from awlmark.draw.figures.how_to import draw_how_to, draw_notes
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten
from awlmark.draw.kit.severity_marks import mark
from awlmark.draw.view_state import Look

POWER_TALL: Final = 132.0
DIALS_TALL: Final = 172.0
MOST_DIALS: Final = 8
DIAL_MIDDLE: Final = 44.0
"""From the top of what answers for a dial to its middle [px]."""
MOST_LBF_IN: Final = 100.0
_ROW: Final = 17.0
TICKS: Final = ("tight", "wiggle", "again")


def draw_build(design: Design, look: Look, width: float, height: float, folder: str = "") -> Picture:
    """Draw the Build scene.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Which step is told in full.
    width, height : float
        Size of the scene [px].
    folder : str
        Where photos are looked for whose notes name no other.
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    steps = steps_of(design)
    if not steps:
        middle, y = width / 2, height / 2
        picture.text(middle, y - 14, "There is nothing to build yet.", 24, BOLD, anchor=MIDDLE)
        picture.text(
            middle, y + 14, "Scribe the line and read the charger; the steps follow.", 15, role="ink2", anchor=MIDDLE
        )
        return picture
    _power(picture, design, steps, width)
    picture.line(0, POWER_TALL + 0.5, width, POWER_TALL + 0.5, "edge")
    _dials(picture, design, width)
    top = POWER_TALL + DIALS_TALL
    split = min(330.0, width * 0.44)
    picture.line(0, top + 0.5, width, top + 0.5, "edge")
    picture.line(split + 0.5, top, split + 0.5, height, "edge")
    told = next((step for step in steps if step.id == look.step_told), None)
    if told is not None:
        draw_how_to(picture, design, told, (0.0, top, split, height))
    else:
        _legs(picture, design, folder, (top, split, height))
    _steps(picture, design, steps, (top, split, width, height))
    return picture


def _power(picture: Picture, design: Design, steps: tuple[Step, ...], width: float) -> None:
    """Shut-down in its order; what stays live; the way back."""
    done = design.job.build.done
    rules = design.book.build
    down = [(number, step) for number, step in enumerate(steps, 1) if step.session == rules.isolate]
    picture.text(12, 20, rules.isolate_head, 13, BOLD, "ink2")
    left, gap = 62.0, (width - 124) / max(len(down) - 1, 1)
    picture.line(left, 46, left + gap * (len(down) - 1), 46, "scribe", 2.4)
    now = next((step for _number, step in down if step.id not in done), None)
    for place, (number, step) in enumerate(down):
        x, ticked = left + place * gap, step.id in done
        picture.disc(x, 46, 13, "scribe", 2.4 if step == now else 1.6, "scribe" if ticked else "sheet")
        if ticked:
            picture.path([(x - 5, 46), (x - 1, 51), (x + 6, 41)], "sheet", 2.4)
        else:
            picture.text(x, 51, f"{number}", 13, BOLD, "scribe", MIDDLE)
        picture.text(x, 78, shorten(step.title, BOLD, 13, gap - 6), 13, BOLD if step == now else TEXT, anchor=MIDDLE)
        when = done.get(step.id, "")[-5:]
        picture.text(x, 94, when, 13, role="ink2", anchor=MIDDLE)
        says = f"{step.title}: {step.text}" + (f" Done {done[step.id]}" if ticked else "")
        act = f"scribe:done {number} no" if ticked else f"scribe:done {number}"
        picture.hit(x - gap / 2 + 2, 30, gap - 4, 70, f"step-{step.id}", says, act)
    half = width / 2
    picture.box(12, 102, half - 18, 24, "stop", 1.2, "stopfill", hatch="slant:stop")
    told = rules.stays_live if half > 360 else rules.stays_live.partition(":")[0]
    picture.plate(half / 2, 119, told, 13, BOLD, "stop", MIDDLE, "stopfill")
    picture.hit(12, 102, half - 18, 24, "stays-live", rules.stays_live)
    picture.box(half + 6, 102, half - 18, 24, "edge", 1, "ground")
    told = rules.comes_back
    picture.text(half + 16, 119, shorten(told, TEXT, 13, half - 38), 13)
    picture.hit(half + 6, 102, half - 18, 24, "back-on", told)


def _dials(picture: Picture, design: Design, width: float) -> None:
    dials = dials_of(design)[:MOST_DIALS]
    tool = design.job.build.tool
    picture.text(12, POWER_TALL + 20, "Torque, from each part's label", 13, BOLD, "ink2")
    told = f"tool {tool}" if tool else "which tool? torque tool 0417, checked in May"
    picture.text(width - 12, POWER_TALL + 20, shorten(told, TEXT, 13, width - 240), 13, role="ink2", anchor=END)
    picture.hit(width - 300, POWER_TALL + 6, 290, 20, "torque-tool", told, "type:torque tool ")
    wide = (width - 24) / max(len(dials), 1)
    for number, dial in enumerate(dials):
        _dial(picture, design, dial, 12 + (number + 0.5) * wide, POWER_TALL + 78, min(wide, 120.0))


def full_scale(dial: Dial) -> float:
    """Torque at the end of a dial's scale [lbf in]."""
    return MOST_LBF_IN if (dial.lbf_in or 0) <= MOST_LBF_IN else 400.0


def on_dial(lbf_in: float, unit: str) -> str:
    """A torque as its dial shows it: inch-pounds, or newton metres to a tenth."""
    return f"{lbf_in * N_M_PER_LBF_IN:.1f}" if unit == "N m" else f"{lbf_in:g}"


def _dial(picture: Picture, design: Design, dial: Dial, x: float, y: float, wide: float) -> None:
    """An arc from nought to a hundred inch-pounds, the target on it, the needle where it stands."""
    radius = 38.0
    full = full_scale(dial)

    def angle(value: float) -> float:
        return 225.0 - 270.0 * min(value / full, 1.0)

    if dial.lbf_in is None:
        for part in range(0, 270, 18):
            picture.sweep(x, y, radius, 225 - part - 9, 9, "unread", 2)
        picture.text(x, y + 8, "?", 24, DRAW, "unread", MIDDLE)
    else:
        picture.sweep(x, y, radius, -45, 270, "well", 7)
        picture.sweep(x, y, radius, angle(dial.lbf_in) - 7, 14, "scribe", 7)
        turned = math.radians(angle(dial.lbf_in if dial.done else 0.0))
        picture.line(x, y, x + 26 * math.cos(turned), y - 26 * math.sin(turned), "ink", 2)
        picture.disc(x, y, 4, fill="ink")
        picture.text(x, y + 32, on_dial(dial.lbf_in, design.book.build.torque_unit), 22, DRAW, anchor=MIDDLE)
    picture.text(x, y + 52, shorten(dial.name, BOLD, 13, wide - 4), 13, BOLD, anchor=MIDDLE)
    source = {
        "label": "its label",
        "instructions": "instructions",
        "annex": f"{design.book.build.torque_source}, fallback",
    }.get(dial.source, "read it off")
    picture.text(x, y + 68, shorten(source, TEXT, 13, wide - 4), 13, role="ink2", anchor=MIDDLE)
    for number in range(3):
        left = x - 27 + number * 20
        picture.box(left, y + 75, 14, 14, "ink", 1.2, "sheet")
        if number < dial.done:
            picture.path([(left + 3, y + 82), (left + 6, y + 86), (left + 12, y + 77)], "ink", 2)
    done = ", ".join(TICKS[: dial.done]) or "not begun"
    unit = design.book.build.torque_unit
    said = "newton metres" if unit == "N m" else "inch-pounds"
    value = "torque not read" if dial.lbf_in is None else f"{on_dial(dial.lbf_in, unit)} {said}, {source}"
    picture.hit(
        x - wide / 2 + 2,
        y - DIAL_MIDDLE,
        wide - 4,
        136,
        f"dial-{dial.id}",
        f"{dial.name}: {value}; {done}",
        f"dial:{dial.id}",
    )


def _legs(picture: Picture, design: Design, folder: str, area: tuple[float, float, float]) -> None:
    """Every leg, planned beside built."""
    top, right, bottom = area
    units = design.job.units
    picture.text(12, top + 19, "Legs", 13, BOLD, "ink2")
    picture.text(right - 150, top + 19, "planned", 13, role="ink2", anchor=END)
    picture.text(right - 72, top + 19, "built", 13, role="ink2", anchor=END)
    y, most = top + 40, 0.0762
    for number, walked in enumerate(design.line.legs, 1):
        if y > bottom - 66:
            picture.text(12, y, f"and {len(design.line.legs) - number + 1} more in the list", 13, role="ink2")
            break
        leg = walked.leg
        picture.text(12, y, f"{number}  {leg.direction}", 13)
        picture.text(right - 150, y, draw_length(leg.length_m, units), 16, DRAW, "ink2", END)
        told, over = "type it", 0.0
        if leg.built_m is not None:
            told, over = draw_length(leg.built_m, units), leg.built_m - leg.length_m
            picture.text(right - 72, y, told, 16, DRAW, "scribe", END)
            if abs(over) > 1e-4:
                picture.box(right - 36, y - 9, 30 * max(-1.0, min(over / most, 1.0)), 8, fill="note")
        picture.line(right - 36, y - 11, right - 36, y + 2, "edge")
        says = f"Leg {number} {leg.direction}, planned {draw_length(leg.length_m, units)}, built {told}"
        picture.hit(8, y - 14, right - 12, 20, f"built-{leg.id}", says, f"type:built {number} ")
        y += 20
    draw_notes(picture, design, folder, (0.0, y - 10, right, bottom - 46))
    found = deviation(design)
    if found is not None:
        long = draw_length(abs(found.spare_m), units)
        short, wire = found.spare_m < 0, design.book.words.wire
        told = f"{wire} {long} short" if short else f"{wire} reaches, {long} over"
        picture.sentence(12, bottom - 32, told, 13, BOLD if short else TEXT, "tight" if short else "ink")
    built = sum(leg.built_m if leg.built_m is not None else leg.length_m for leg in design.job.legs)
    picture.line(12, bottom - 24, right - 44, bottom - 24, "edge")
    picture.text(12, bottom - 8, "line", 13, BOLD)
    picture.text(right - 150, bottom - 8, draw_length(design.line.length_m, units), 16, DRAW, anchor=END)
    picture.text(right - 72, bottom - 8, draw_length(built, units), 16, DRAW, "scribe", END)


def _steps(picture: Picture, design: Design, steps: tuple[Step, ...], area: tuple[float, float, float, float]) -> None:
    """The steps beside the shut-down, in their order, in two columns."""
    top, left, right, bottom = area
    done, now, isolate = design.job.build.done, next_step(design), design.book.build.isolate
    picture.text(left + 12, top + 19, f"Steps, {len(done)} of {len(steps)} done", 13, BOLD, "ink2")
    picture.text(right - 12, top + 19, "E electrician", 13, role="ink2", anchor=END)
    shown: list[tuple[int, Step | None]] = []
    for number, each in enumerate(steps, 1):
        if each.session != isolate:
            shown.append((number, each))
        elif not shown or shown[-1][1] is not None:
            shown.append((number, None))  # one line for all of it: they stand in the row above
    down = sum(step.session == isolate for step in steps)
    room = int((bottom - top - 30) / _ROW)
    wide = (right - left - 18) / 2
    first = next((place for place, (_number, step) in enumerate(shown) if step == now), 0)
    start = max(0, min(first - room, len(shown) - 2 * room))
    for place, (number, step) in enumerate(shown[start : start + 2 * room]):
        x = left + 10 + (place // room) * wide
        y = top + 40 + (place % room) * _ROW
        if step is None:
            told = f"{number} to {number + down - 1}  {isolate}, above"
            picture.text(x + 4, y, shorten(told, TEXT, 13, wide - 12), 13, role="ink2")
            continue
        ticked, here = step.id in done, step == now
        if here:
            picture.box(x - 2, y - 13, wide - 4, _ROW, "scribe", 1.6, "notefill", 2)
        picture.text(x + 18, y, f"{number}", 13, role="ink2", anchor=END)
        picture.box(x + 23, y - 10, 11, 11, "ink", 1.2, "sheet")
        if ticked:
            picture.path([(x + 25, y - 5), (x + 28, y - 2), (x + 33, y - 9)], "ink", 2)
        theirs = left_to_electrician(design, step)
        room_px = wide - 48 - (18 if theirs else 0)
        face = BOLD if here else TEXT
        picture.text(x + 40, y, shorten(step.title, face, 13, room_px), 13, face)
        if theirs:
            picture.box(x + wide - 22, y - 11, 14, 14, fill="ink")
            picture.text(x + wide - 15, y, "E", 13, BOLD, "sheet", MIDDLE)
        says = f"Step {number}, {step.session}: {step.title}. {step.text}" + (" Electrician." if theirs else "")
        says += f" Done {done[step.id]}" if ticked else ""
        act = f"scribe:done {number} no" if ticked else f"scribe:done {number}"
        picture.hit(x + 36, y - 13, wide - 42, _ROW, f"how-{step.id}", f"How it is done. {says}", f"step:{step.id}")
        picture.hit(x - 2, y - 13, 38, _ROW, f"step-{step.id}", says, act)


def draw_steps_lane(picture: Picture, design: Design, x: Callable[[float], float]) -> None:
    """Steps at their marks on the tape."""
    done, now = design.job.build.done, next_step(design)
    taken: list[list[float]] = [[], [], []]
    numbered = list(enumerate(steps_of(design), 1))
    # What is still to do takes its place first.
    for number, step in sorted(numbered, key=lambda each: (each[1].id in done, each[0])):
        at = x(step.at_m)
        row = next((row for row, spots in enumerate(taken) if all(abs(at - other) > 17 for other in spots)), None)
        if row is None:
            continue
        taken[row].append(at)
        y = 14 + 22 * row
        ticked = step.id in done
        picture.disc(
            at, y, 8, "note" if step == now else "ink", 2.4 if step == now else 1.2, "ink" if ticked else "sheet"
        )
        picture.text(at, y + 4.5, f"{number}", 13, TEXT, "sheet" if ticked else "ink", MIDDLE)
        picture.hit(at - 8, y - 8, 16, 16, f"lane-{step.id}", f"Step {number}: {step.title}", f"awl:{step.at_m:.4f}")
    if now is None:
        mark(picture, "holds", picture.width - 40, 30)
