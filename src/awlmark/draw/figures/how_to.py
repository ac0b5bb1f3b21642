"""How one step is done: what, with which tools and hands, where on the line; and what was noted on site."""

from __future__ import annotations

from pathlib import Path

from awlmark.core.build.step import Step
from awlmark.core.build.steps import left_to_electrician, steps_of
from awlmark.core.quantities import draw_length
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, fold, shorten, text_width

Area = tuple[float, float, float, float]
"""Left, top, right, bottom [px]."""
SKETCH = 92.0
THUMB = 36.0
ROUND = 1.5
"""How much of the line is drawn before and behind the mark, in lengths of its leg."""


def draw_how_to(picture: Picture, design: Design, step: Step, area: Area) -> None:
    """A card for one step, with the mark it stands at drawn on its leg."""
    left, top, right, bottom = area
    steps = steps_of(design)
    number, done = steps.index(step) + 1, design.job.build.done.get(step.id, "")
    picture.text(left + 12, top + 19, f"Step {number} of {len(steps)}, {step.session}", 13, BOLD, "ink2")
    _button(picture, "Legs", "Back to the legs", "step:", right - 8, top + 5, "how-legs")
    y = top + 42
    picture.text(left + 12, y, shorten(step.title, BOLD, 15, right - left - 24), 15, BOLD)
    told = [step.text]
    if left_to_electrician(design, step):
        told.append("An electrician does this.")
    room = max(int((bottom - 40 - y) / 17), 1)
    hands = f"{step.hands} pair{'s' if step.hands > 1 else ''} of hands"
    facts = f"{step.hours:.1f} h, {hands}" + (f"; {', '.join(step.tools)}" if step.tools else "")
    said = fold(" ".join(told), TEXT, 13, right - left - 24, room)
    for line in said:
        y += 17
        picture.sentence(left + 12, y, line, 13)
    # What has to be done comes before what it takes.
    for line in fold(facts, TEXT, 13, right - left - 24, room - len(said)):
        y += 18
        picture.text(left + 12, y, line, 13, role="ink2")
    foot = bottom - 34
    if foot - y > SKETCH * 0.6:
        _sketch(picture, design, step, (left + 12, y + 8, right - 12, foot))
    words, act = ("Not done", f"scribe:done {number} no") if done else ("Done", f"scribe:done {number}")
    _button(picture, words, f"{step.title}: {words.lower()}", act, left + 12, bottom - 29, "how-done", at_left=True)
    picture.text(right - 12, bottom - 12, f"done {done}" if done else "not done yet", 13, role="ink2", anchor=END)


def _button(
    picture: Picture, name: str, says: str, act: str, x: float, y: float, hit_id: str, *, at_left: bool = False
) -> None:
    wide = text_width(name, BOLD, 13) + 20
    left = x if at_left else x - wide
    picture.box(left, y, wide, 22, "scribe", 1.2, "sheet", 3)
    picture.text(left + wide / 2, y + 16, name, 13, BOLD, "scribe", MIDDLE)
    picture.hit(left, y, wide, 22, hit_id, says, act)


def _sketch(picture: Picture, design: Design, step: Step, area: Area) -> None:
    """The leg that a step is done on, its neighbours beside it, and the mark where it is done."""
    at_m, its_leg = step.at_m, step.id.partition(":")[2]
    own = next((walked for walked in design.line.legs if walked.leg.id == its_leg), None)
    here = own or design.line.leg_at(at_m)
    if here is None:
        return
    left, top, right, bottom = area
    shown = [walked for walked in design.line.legs if abs(walked.number - here.number) <= 1]
    points = _flat(shown, here)
    xs, ys = [x for x, _y in points], [y for _x, y in points]
    wide, deep = max(xs) - min(xs) or 1.0, max(ys) - min(ys) or 0.1
    scale = min((right - left - 60) / wide, (bottom - top - 44) / deep)
    middle = (right + left) / 2 - (min(xs) + wide / 2) * scale, (bottom + top) / 2 + 4 + (min(ys) + deep / 2) * scale
    drawn = [(middle[0] + x * scale, middle[1] - y * scale) for x, y in points]
    for number, walked in enumerate(shown):
        role, width = ("scribe", 4.0) if walked is here else ("edge", 2.0)
        dash = walked.place == "buried" or walked.crosses
        picture.line(*drawn[number], *drawn[number + 1], role, width, dash=dash)
        if walked is not here:
            continue
        (x, y), (x2, y2) = drawn[number], drawn[number + 1]
        share = walked.share_at(min(max(at_m, walked.start_m), walked.end_m))
        spot = x + (x2 - x) * share, y + (y2 - y) * share
        picture.disc(*spot, 6, "ink", 2, "tape")
        told = f"leg {walked.number}, {draw_length(walked.leg.length_m, design.job.units)}"
        level = abs(x2 - x) >= abs(y2 - y)
        at = ((x + x2) / 2, min(y, y2) - 10) if level else (max(x, x2) + 12, (y + y2) / 2 + 5)
        picture.text(*at, told, 16, DRAW, anchor=MIDDLE if level else "start")
    told = f"at {draw_length(at_m, design.job.units)} of the tape"
    picture.text((left + right) / 2, bottom - 2, told, 16, DRAW, "ink2", MIDDLE)
    picture.hit(left, top, right - left, bottom - top, "how-mark", f"{told}; the awl goes there", f"awl:{at_m:.4f}")


def _flat(legs: list[Walked], here: Walked) -> list[tuple[float, float]]:
    """The legs drawn flat: level ones onward, upright ones up or down; neighbours no longer than matters."""
    most = max(here.leg.length_m, 0.3) * ROUND
    points, sign = [(0.0, 0.0)], 1.0
    for walked in legs:
        long = max(min(walked.leg.length_m, most), most * 0.12)
        if walked.leg.direction == "left":
            sign = -1.0
        elif walked.leg.direction == "right":
            sign = 1.0
        x, y = points[-1]
        points.append((x, y + walked.heading[2] * long) if walked.heading[2] else (x + sign * long, y))
    return points


def draw_notes(picture: Picture, design: Design, folder: str, area: Area) -> None:
    """What was noted on site, the last first, each photo small beside its words."""
    left, top, right, bottom = area
    notes = design.job.build.notes
    rows = int((bottom - top - 18) / (THUMB + 4))
    if not notes or rows < 1:
        return
    more = ", the last first" if len(notes) > rows else ""
    picture.text(left + 12, top + 14, f"Notes, {len(notes)}{more}", 13, BOLD, "ink2")
    y = top + 20
    for note in tuple(reversed(notes))[:rows]:
        words = left + 12
        if note.photo:
            picture.photo(left + 12, y, THUMB * 4 / 3, THUMB, str(Path(folder) / note.photo))
            words += THUMB * 4 / 3 + 8
        for number, line in enumerate(fold(note.text, TEXT, 13, right - words - 8, 2)):
            picture.text(words, y + 17 + 17 * number, line, 13)
        says = f"Note: {note.text}" + (f", photo {note.photo}" if note.photo else "")
        picture.hit(left + 8, y - 2, right - left - 12, THUMB + 2, note.id, says, f"photo:{note.photo}")
        y += THUMB + 4
