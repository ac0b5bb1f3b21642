"""The lane above the tape: turns, volts or sticks, on the tape's own scale."""

from __future__ import annotations

import functools
import itertools
import math
from typing import Final

import numpy as np

from awlmark.core.books.words import cap
from awlmark.core.circuit.case import drop_limit
from awlmark.core.circuit.cuts import Face
from awlmark.core.circuit.evaluate import drop_severity
from awlmark.core.circuit.pull_check import StretchPull
from awlmark.core.finding import HOLDS
from awlmark.core.job.model import MATERIALS
from awlmark.core.quantities import draw_length, print_force
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design
from awlmark.draw.frame.tape import TapeScale, scale_of
from awlmark.draw.kit.bundle import bundles, many
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES
from awlmark.draw.view_state import Look

HEIGHT: Final = 72
VOLTS: Final = "volts"
"""The face of the lane that every book has."""
WORD: Final = 30.0
"""Neighbours shorter than this have no room for words of their own [px]."""
FULL_TURN_DEG: Final = 360.0
"""Height of the drawing of turns where the book sets no limit."""


def draw_lane(design: Design, look: Look, width: float) -> Picture:
    """Draw the lane of the stage shown.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Stage and awl.
    width : float
        Width of the window [px].
    """
    picture = Picture(width, HEIGHT)
    picture.box(0, 0, width, HEIGHT, fill="sheet")
    picture.line(0, 0.5, width, 0.5, "edge")
    scale = scale_of(design, width)
    if not design.line.legs:
        _title(picture, "Nothing scribed", "shows here with", "the first leg")
        return picture
    # Under everything else, so that it crosses no word.
    picture.line(scale.x(look.seen_m), 4, scale.x(look.seen_m), HEIGHT, "edge", 1)
    {
        "need": _volts,
        "panel": _volts,
        "place": _heights,
        "run": _turns,
        "wire": _volts,
        "parts": _sticks,
        "build": _steps,
        "prove": _proved,
    }[look.stage](picture, design, look, scale)
    return picture


def _title(picture: Picture, *lines: str) -> None:
    for number, line in enumerate(lines):
        picture.text(16, 22 + number * 19, line, 13, TEXT if number else BOLD, "ink2")


_Word = tuple[str, list[tuple[float, float, str]], str, str]
"""A label to come: words, spots, face, role."""


def _turns(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    _title(picture, "Turns since a pull", "point, and the", "pull (thin line)")
    labels = Labels(picture, 170, 1, picture.width, HEIGHT)
    low, high = HEIGHT - 10.0, 16.0
    most_deg = design.book.run.most_bend_deg
    limited = math.isfinite(most_deg)
    most = max([most_deg if limited else FULL_TURN_DEG, *(stretch.bends_deg for stretch in design.line.stretches)])
    if limited:
        limit = low - (low - high) * most_deg / most
        picture.line(scale.left, limit, scale.right, limit, "tight", 1.2, dash=True)
        labels.put(f"{most_deg:.0f}° most", [(scale.right + 8, limit + 5, START)], 13, TEXT, "tight")
    # Both lines first, so that none runs through the words of the other.
    pulls = _pulls(picture, design, scale, (low, high))
    bends = _bends(picture, design, scale, (low, high), most)
    for words, spots, face, role in (_turned_here(design, look, scale), *bends, *pulls):
        labels.put(words, spots, 13, face, role, plate="sheet")


def _bends(picture: Picture, design: Design, scale: TapeScale, levels: tuple[float, float], most: float) -> list[_Word]:
    """Degrees since the last pull point; of stretches too short to be told apart the most. Returns its words."""
    low, high = levels

    def y(degrees: float) -> float:
        return low - (low - high) * degrees / most

    pixels = (scale.right - scale.left) / scale.length_m
    stretches = design.line.stretches
    most_bent = max(stretches, key=lambda each: each.bends_deg, default=None)
    # One line after the other, each of one colour: only what is bent too much is red.
    lines: list[tuple[str, list[tuple[float, float]]]] = [("scribe", [(scale.left, low)])]
    words = list[_Word]()
    for first, past in bundles([(stretch.end_m - stretch.start_m) * pixels for stretch in stretches], WORD):
        stretch = max(stretches[first:past], key=lambda each: each.bends_deg)
        start, end = stretches[first].start_m, stretches[past - 1].end_m
        x, x2 = scale.x(start), scale.x(end)
        role = "stop" if stretch.bends_deg > design.book.run.most_bend_deg + 1e-6 else "scribe"
        if role != lines[-1][0]:
            lines.append((role, [lines[-1][1][-1]]))
        points = lines[-1][1]
        if past - first > 1:
            points += [(x, y(stretch.bends_deg)), (x2, y(stretch.bends_deg)), (x2, low)]
        else:
            points += [(scale.x(at), y(degrees)) for at, degrees in _degrees(stretch.legs)]
        says = functools.partial(_turns_say, (start, end), past - first, stretch.bends_deg, design)
        picture.hit(x, 1, max(x2 - x, 4), HEIGHT - 2, f"turns-{stretch.leg_id}", says, f"awl:{stretch.end_m:.4f}")
        if stretch.bends and (past - first == 1 or stretch is most_bent):
            level = y(stretch.bends_deg) - 6
            spots = [(x2 - 6, level, END), ((x + x2) / 2, level, MIDDLE), (x2 + 6, level + 20, START)]
            words.append((f"{stretch.bends_deg:.0f}°", spots, BOLD, "ink"))
    for role, points in lines:
        picture.path(points, role, 2)
    return words


def _turns_say(span_m: tuple[float, float], count: int, degrees: float, design: Design) -> str:
    many_ones = f"{count} stretches, at most " if count > 1 else ""
    units, most_deg = design.job.units, design.book.run.most_bend_deg
    told = f"{draw_length(span_m[0], units)} to {draw_length(span_m[1], units)}: {many_ones}"
    most = f", {most_deg:.0f} at most" if math.isfinite(most_deg) else ""
    return f"{told}{degrees:.0f} degrees of bend between pull points{most}"


def _turned_here(design: Design, look: Look, scale: TapeScale) -> _Word:
    """What the wire has been turned by, and pulls with, at the awl."""
    at_m, x = look.seen_m, scale.x(look.seen_m)
    stretch = design.line.stretch_at(at_m)
    assert stretch is not None
    turned = [degrees for at, degrees in _degrees(stretch.legs) if at <= at_m + 1e-9 and at < stretch.end_m]
    told = f"{turned[-1] if turned else 0:.0f}° here"
    pull = next((one for one in design.pulls if one.start_m <= at_m <= one.end_m + 1e-9), None)
    if pull is not None:
        places, tensions = zip(*sorted(pull.along), strict=True)
        told += f", {print_force(float(np.interp(at_m, places, tensions)), design.job.units)}"
    spots = [(x + side, y, anchor) for y in (HEIGHT / 2 + 5, 14.0) for side, anchor in ((6, START), (-6, END))]
    return told, spots, BOLD, "ink2"


def _degrees(legs: tuple[Walked, ...]) -> list[tuple[float, float]]:
    """Degrees behind the wire along one stretch: place on the tape [m] and how many, before and after each bend."""
    degrees, found = 0.0, []
    for walked in legs:
        if walked.offset_deg:
            middle = (walked.start_m + walked.end_m) / 2
            found.append((middle, degrees))
            degrees += walked.offset_deg
            found.append((middle, degrees))
        found.append((walked.end_m, degrees))
        if walked is legs[-1]:
            degrees = 0.0
        elif walked.turn_deg > 0.5:
            degrees += walked.turn_deg
        found.append((walked.end_m, degrees))
    return found


def _pulls(picture: Picture, design: Design, scale: TapeScale, levels: tuple[float, float]) -> list[_Word]:
    """Tension along every stretch; of stretches too short to be told apart the hardest. Returns its words."""
    low, high = levels
    worst = max(design.pulls, key=lambda one: one.usual_n, default=None)
    hardest = max((one.pull.peak[1] for one in design.pulls), default=0.0)
    words: list[_Word] = []
    if not hardest:
        return words
    pixels = (scale.right - scale.left) / scale.length_m
    together = bundles([(one.end_m - one.start_m) * pixels for one in design.pulls], WORD)
    for crowded, group in itertools.groupby(together, key=many):
        spans = [design.pulls[first:past] for first, past in group]
        for along in [_hardest(spans)] if crowded else [span[0].along for span in spans]:
            picture.path([(scale.x(at), low - (low - high) * 0.8 * each / hardest) for at, each in along], "edge", 1.2)
    for first, past in together:
        found = design.pulls[first:past]
        if past - first > 1 and not any(one is worst for one in found):
            continue
        force = print_force(max(one.usual_n for one in found), design.job.units)
        middle = (scale.x(found[0].start_m) + scale.x(found[-1].end_m)) / 2
        spots = [(middle, low - 3, MIDDLE), (middle, high + 18, MIDDLE)]
        words.append((f"pull {force}", spots, TEXT, "ink2"))
    return words


def _hardest(spans: list[tuple[StretchPull, ...]]) -> tuple[tuple[float, float], ...]:
    """The hardest pull in each of some spans that follow each other: place on the tape [m] and tension [N]."""
    along = [(spans[0][0].start_m, 0.0)]
    for span in spans:
        most = max([one.pull.peak[1] for one in span])
        along += [(span[0].start_m, most), (span[-1].end_m, most)]
    return (*along, (spans[-1][-1].end_m, 0.0))


def _steps(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    from awlmark.draw.stages.build_view import draw_steps_lane

    _title(picture, "Steps at their marks", "filled: done", "blue ring: now")
    draw_steps_lane(picture, design, scale.x)


def _proved(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    from awlmark.draw.stages.prove_view import draw_volts_lane

    _title(picture, "Volts while charging", "band from the plan,", "rings are readings")
    draw_volts_lane(picture, design, scale.x)


def _heights(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    """How high the line lies along the tape."""
    legs, units = design.line.legs, design.job.units
    floor = f"{design.book.words.panel}'s floor"
    _title(picture, "Height along the", "line, above the", floor)
    levels = [legs[0].start[2], *(walked.end[2] for walked in legs)]
    low, high = min(0.0, *levels), max(levels)
    bottom, top = HEIGHT - 12.0, 16.0

    def y(level: float) -> float:
        return bottom - (bottom - top) * (level - low) / max(high - low, 0.1)

    labels = Labels(picture, 170, 1, picture.width, HEIGHT)
    picture.line(scale.left, y(0.0), scale.right, y(0.0), "edge", 1)
    points = [(scale.left, y(levels[0]))]
    for walked in legs:
        points += [(scale.x(walked.start_m), y(walked.start[2])), (scale.x(walked.end_m), y(walked.end[2]))]
    picture.path(points, "scribe", 2.4)
    for walked in legs:
        if walked.heading[2] == 0 and not walked.crosses:
            x, x2, level = scale.x(walked.start_m), scale.x(walked.end_m), walked.start[2]
            told = f"{draw_length(abs(level), units)} {'up' if level >= 0 else 'down'}"
            says = f"Leg {walked.number} lies {told}, above the {floor}"
            picture.hit(min(x, x2), 1, max(abs(x2 - x), 4), HEIGHT - 2, f"height-{walked.leg.id}", says)
            middle = (x + x2) / 2
            labels.put(told, [(middle, y(level) - 6, MIDDLE), (middle, y(level) + 17, MIDDLE)], 16, DRAW)


def _volts(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    """Volts along the run, or another face of the lane where the book has one and it is turned to."""
    faces = {face.key: face for face in design.book.circuit.faces(design)} if look.stage == "wire" else {}
    if faces:
        _turn(picture, tuple(faces.values()), look)
    shown = faces.get(look.lane, next(iter(faces.values()), None)) if look.lane != VOLTS else None
    if shown is not None:
        _face(picture, design, look, scale, shown)
        return
    _volts_face(picture, design, look, scale, titled=not faces)


def _turn(picture: Picture, faces: tuple[Face, ...], look: Look) -> None:
    """The lane's faces as buttons, in the place of its title."""
    known = [*((face.key, face.name) for face in faces), (VOLTS, "Volts along the run")]
    for number, (key, name) in enumerate(known[:2]):
        here = look.lane == key or (look.lane not in dict(known) and not number)
        y = 7 + 31 * number
        role, fill = ("scribe", "notefill") if here else ("edge", "ground")
        picture.box(10, y, 152, 26, role, 2 if here else 1, fill, 3)
        picture.text(20, y + 18, shorten(name, BOLD, 13, 134), 13, BOLD if here else TEXT)
        picture.hit(10, y, 152, 26, f"lane-{key}", name + (", shown" if here else ": show it"), f"lane:{key}")


def _face(picture: Picture, design: Design, look: Look, scale: TapeScale, face: Face) -> None:
    """One quantity from the board to the far end, under its limits."""
    most = max([value for value, _word, _mark in face.limits] + [value for _at, value in face.points]) * 1.08
    top, bottom = 8.0, HEIGHT - 8.0

    def level(value: float) -> float:
        return bottom - (bottom - top) * value / most

    labels = Labels(picture, 170, 1, picture.width, HEIGHT)
    points = [(scale.x(at), level(value)) for at, value in face.points]
    picture.path([(points[0][0], bottom), *points, (points[-1][0], bottom)], fill="notefill", closed=True)
    picture.path(points, "scribe", 3)
    for value, word, severity in face.limits:
        picture.line(scale.left, level(value), scale.right, level(value), severity, 1.4, dash=True)
        spots = [(scale.right + 8, level(value) + shift, START) for shift in (5, -3, 13, -9, 19)]
        labels.put(word, spots, 13, TEXT, severity)
    first, last = face.points[0][1], face.points[-1][1]
    end = f"{last:.3f} {face.unit}"
    labels.put(end, [(scale.right + 8, level(last) + shift, START) for shift in (5, 13, 21, -5)], 13, BOLD)
    labels.put(f"{first:.3g} {face.unit}", [(scale.left + 8, level(first) - 7, START)], 13, BOLD, plate="sheet")
    middle = (scale.left + scale.right) / 2
    labels.put(face.told, [(middle, bottom - 3, MIDDLE), (middle - 160, bottom - 3, MIDDLE)], 13, TEXT, "ink2")
    picture.disc(points[-1][0], points[-1][1], 4, "scribe", 2, "sheet")
    limits = "; ".join(word for _value, word, _mark in face.limits)
    says = f"{face.name}: {first:.3g} to {end}, {face.told}" + (f"; {limits}" if limits else "")
    picture.hit(scale.left, 1, scale.right - scale.left, HEIGHT - 2, f"face-{face.key}", says)


def _volts_face(picture: Picture, design: Design, look: Look, scale: TapeScale, *, titled: bool) -> None:
    circuit, case, evaluated = design.circuit, design.case, design.evaluated
    if circuit is None or case is None or evaluated is None:
        _title(picture, "Volts at full draw", f"{design.book.words.charger} not read")
        return
    if titled:
        _title(
            picture, "Volts at full draw", f"{circuit.volts:g} V at the start,", f"{circuit.charge_a:g} A all the way"
        )
    group = int(evaluated.table.group[design.row])
    hot, metal = int(evaluated.table.hot[design.row]), MATERIALS.index(circuit.material)
    smallest = int(min(evaluated.work.smallest[group], hot))
    shown = sorted({max(0, smallest - 1), hot, min(hot + 1, len(design.book.sizes) - 1)})
    limit = drop_limit(case)
    curves = {index: design.book.circuit.drop_along(case, metal, index) for index in shown}
    curves = {index: curve for index, curve in curves.items() if not math.isnan(curve[-1][1])}
    if hot not in curves:
        picture.text(scale.left + 12, HEIGHT / 2 + 5, "The table is silent on this size here: no volts are drawn.", 13,
                     role="ink2")  # fmt: skip
        return
    shown = list(curves)
    deepest = max([limit * 1.15, *(points[-1][1] for points in curves.values())])
    top, bottom = 12.0, HEIGHT - 12.0

    def level(percent: float) -> float:
        return top + (bottom - top) * percent / deepest

    labels = Labels(picture, 170, 1, picture.width, HEIGHT)
    picture.line(scale.left, level(limit), scale.right, level(limit), "tight", 1.2, dash=True)
    at_percent = _percent_at(curves[hot], look.seen_m)
    severities = {index: drop_severity(case, curves[index][-1][1]) for index in shown}
    for index in shown:
        points = [(scale.x(at), level(percent)) for at, percent in curves[index]]
        role = "scribe" if severities[index] == HOLDS else severities[index]
        picture.path(points, role, 3 if index == hot else 1.2)
    for index in sorted(shown, key=lambda index: index != hot):
        volts = circuit.volts * (1 - curves[index][-1][1] / 100)
        role = "ink" if severities[index] == HOLDS else severities[index]
        y = level(curves[index][-1][1]) + 5
        text = f"{design.book.sizes[index]} {circuit.material.title()} {volts:.1f}"
        spots = [(scale.right + 8, y + shift, START) for shift in (0, 8, -8, 16, -16, 24, -24)]
        lost = f"{curves[index][-1][1]:.2f} percent lost: {NAMES[severities[index]]}"
        there = design.book.words.charger
        says = f"{design.book.print_size(design.book.sizes[index])}: {volts:.1f} volts at the {there}, {lost}"
        picture.hit(scale.right + 4, y - 14, 112, 17, f"volts-{index}", says)
        labels.put(text, spots, 13, BOLD if index == hot else TEXT, role)
    labels.put(f"{limit:g}% below", [(scale.left + 60, level(limit) + 4, START)], 13, TEXT, "tight", plate="sheet")
    here = f"{circuit.volts * (1 - at_percent / 100):.1f} V here"
    x = scale.x(look.seen_m)
    spots = [(x + 6, top + 14, START), (x - 6, bottom + 6, END), (x + 6, bottom + 6, START), (x - 6, top + 14, END)]
    labels.put(here, spots, 13, BOLD, plate="sheet")


def _percent_at(curve: list[tuple[float, float]], at_m: float) -> float:
    for (start, low), (end, high) in itertools.pairwise(curve):
        if at_m <= end + 1e-9 and end > start:
            return low + (high - low) * (at_m - start) / (end - start)
    return curve[-1][1]


def _sticks(picture: Picture, design: Design, look: Look, scale: TapeScale) -> None:
    stick_word = design.book.words.stick
    if all(section.method.cable for section in design.line.sections):
        _title(picture, "Cable in place", "in one piece,", "box to box")
    else:
        _title(picture, f"{cap(stick_word)}s in place", "number as above,", "rests shaded")
    number, top, tall = 0, 22.0, 26.0
    for section in design.line.sections:
        x, x2 = scale.x(section.start_m), scale.x(section.end_m)
        if section.method.cable:
            picture.box(x, top + 6, x2 - x, tall - 12, "edge", 1, "well", 6)
            picture.hit(x, top, x2 - x, tall, f"cable-{section.number}", f"{section.method.name} cable, in one piece")
            if text_width(section.method.name, TEXT, 13) < x2 - x - 6:
                picture.text((x + x2) / 2, top + 18, section.method.name, 13, anchor=MIDDLE)
            continue
        for stick in design.sticks(section):
            number += 1
            for piece in stick.pieces:
                x, x2 = scale.x(piece.start_m), scale.x(piece.start_m + piece.length_m)
                whole = len(stick.pieces) == 1 and stick.left_m < 1e-6
                picture.box(x, top, x2 - x, tall, "edge", 1, "well" if whole else "notefill")
                length, start = (draw_length(at, design.job.units) for at in (piece.length_m, piece.start_m))
                says = f"{cap(stick_word)} {number}: {length} from {start}"
                picture.hit(x, top, x2 - x, tall, piece.leg_id, says, f"awl:{piece.start_m + piece.length_m / 2:.4f}")
                if text_width(f"{number}", BOLD, 13) < x2 - x - 2:
                    picture.text((x + x2) / 2, top + 18, f"{number}", 13, BOLD, anchor=MIDDLE)
    if number:
        picture.text(scale.right + 8, top + 18, f"{number} {stick_word}s", 13, BOLD)
