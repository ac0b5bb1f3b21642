"""The practice bench: hatched borders, a planted fault, five answers; it never touches a job's log."""

from __future__ import annotations

from typing import Final

from awlmark.core.prove.log import print_value
from awlmark.core.prove.practice import LEVELS, Card, readings
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import Design
from awlmark.draw.figures.bench import BORDER, draw_bench, striped
from awlmark.draw.kit.picture import BOLD, END, MIDDLE, TEXT, Picture, shorten, wrap
from awlmark.draw.view_state import Look

_ROW: Final = 18.0


def draw_practice(picture: Picture, design: Design, look: Look, width: float, height: float) -> None:
    """Draw the practice bench.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        The circuit that is practised on.
    look : Look
        With the exercise, the answer given and the score.
    width, height : float
        Size of the scene [px].
    """
    practice = look.practice
    assert practice is not None
    striped(picture, 0, 0, width, height)
    picture.text(20, 30, "Practice, not a test of this job", 15, BOLD, "tight")
    score = practice.score
    told = f"{score.right} of {score.tried} right" if score.tried else "nothing answered yet"
    picture.text(width - 20, 30, f"{LEVELS[practice.exercise.level]} level, {told}", 13, role="ink2", anchor=END)
    one = practice.exercise
    if isinstance(one, Card):
        _card(picture, one, (44.0, width * 0.56, height))
        choices = [(title, title, title == one.answer) for title in one.choices]
        _answers(picture, look, choices, (40.0, width * 0.56, width, height))
        return
    draw_bench(picture, design, look, (40.0, width - 8, 236.0), one.planted.faults)
    top, split = 286.0, width * 0.44
    picture.line(BORDER, top, width - BORDER, top, "edge")
    _readings(picture, design, look, (top, split, height))
    choices = [(choice.key, choice.name, choice.key == one.planted.key) for choice in one.choices]
    _answers(picture, look, choices, (top, split, width, height))


def _readings(picture: Picture, design: Design, look: Look, area: tuple[float, float, float]) -> None:
    top, right, bottom = area
    practice = look.practice
    assert practice is not None
    picture.text(20, top + 20, "Ohms, amps, heat; probe the volts", 13, BOLD, "ink2")
    found, y = readings(design, practice.exercise), top + 40
    if practice.exercise.planted.seen:
        picture.text(20, y, f"You see {practice.exercise.planted.seen}.", 13, BOLD)
        y += _ROW
    for test in tests_of(design):
        if y > bottom - BORDER - 6:
            break
        # Volts are for the probes: these are the other instruments.
        if (
            test.unit == "V"
            or test.stage == "insulation"
            or test.key in ("kw", "setting")
            or test.key.endswith(" 5 min")
        ):
            continue
        value = found[test.key]
        picture.text(20, y, shorten(test.key, TEXT, 13, right - 150), 13)
        out = not test.low - 1e-9 <= value <= test.high
        told = "open" if test.unit == "ohm" and value > 1e6 else print_value(value, test.unit, design.job.units)
        picture.text(right - 20, y, told, 13, BOLD if out else TEXT, anchor=END)
        picture.hit(16, y - 13, right - 30, _ROW, f"shown-{test.key}", f"{test.name}: {told}")
        y += _ROW


def _card(picture: Picture, one: Card, area: tuple[float, float, float]) -> None:
    """The facts of a design that may have a mistake."""
    top, right, bottom = area
    picture.text(20, top + 16, "Find the mistake, if there is one", 13, BOLD, "ink2")
    y = top + 40
    for label, told in one.facts:
        if y > bottom - BORDER - 8:
            return
        picture.text(20, y, label, 13, role="ink2")
        for line in wrap(told, TEXT, 13, right - 160):
            if y > bottom - BORDER - 8:
                return
            picture.sentence(140, y, line, 13)
            y += _ROW
        y += 3


def _answers(
    picture: Picture, look: Look, choices: list[tuple[str, str, bool]], area: tuple[float, float, float, float]
) -> None:
    """Answers to choose from, each with its key, its name and whether it is right."""
    top, left, right, bottom = area
    practice = look.practice
    assert practice is not None
    picture.text(left + 12, top + 20, "What is wrong?", 13, BOLD, "ink2")
    y = top + 32
    for number, (key, name, right_one) in enumerate(choices, 1):
        chosen = practice.answered == key
        shown = bool(practice.answered)
        role = "scribe" if shown and right_one else "stop" if chosen else "edge"
        picture.box(left + 12, y, right - left - 32, 28, role, 2 if shown and (chosen or right_one) else 1,
                    "notefill" if shown and right_one else "ground", 3)  # fmt: skip
        picture.text(left + 24, y + 19, f"{number}  {name}", 13, BOLD if shown and right_one else TEXT)
        if shown and chosen and not right_one:
            picture.line(left + 22, y + 14, right - 30, y + 14, "stop", 1.2)
        act = "" if shown else f"answer:{key}"
        picture.hit(left + 12, y, right - left - 32, 28, f"answer-{key}", name, act)
        y += 33
    if practice.answered:
        for line in wrap(practice.told, TEXT, 15, right - left - 40):
            y += 20
            picture.text(left + 14, y, line, 15)
        picture.box(left + 12, bottom - 80, 120, 30, "scribe", 2, "sheet", 4)
        picture.text(left + 72, bottom - 60, "Another", 15, BOLD, "scribe", MIDDLE)
        again = "practice:card" if isinstance(practice.exercise, Card) else "practice:next"
        picture.hit(left + 12, bottom - 80, 120, 30, "practice-next", "Another one", again)
    is_card = isinstance(practice.exercise, Card)
    x = right - 20 - 4 * 76
    picture.box(x, bottom - 46, 70, 30, "scribe" if is_card else "edge", 1, "notefill" if is_card else "ground", 3)
    picture.text(x + 35, bottom - 26, "cards", 13, BOLD if is_card else TEXT, anchor=MIDDLE)
    picture.hit(x, bottom - 46, 70, 30, "practice-card", "Cards: find the mistake in a design", "practice:card")
    for number, level in enumerate(LEVELS):
        x = right - 20 - (3 - number) * 76
        here = practice.exercise.level == number and not is_card
        picture.box(
            x, bottom - 46, 70, 30, "scribe" if here else "edge", 2 if here else 1, "notefill" if here else "ground", 3
        )
        picture.text(x + 35, bottom - 26, level, 13, BOLD if here else TEXT, anchor=MIDDLE)
        picture.hit(x, bottom - 46, 70, 30, f"practice-{number}", f"{level} level", f"practice:{number}")
