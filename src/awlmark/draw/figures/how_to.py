"""How one step is done: what, with which tools and hands, where on the line; and what was noted on site."""

from __future__ import annotations

from pathlib import Path

from awlmark.core.build.step import Step
from awlmark.core.build.steps import left_to_electrician, steps_of
from awlmark.core.quantities import draw_length
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width, wrap

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
    more = ", the last first" if len(notes) > rows else ""
    picture.text(left + 12, top + 14, f"Notes, {len(notes)}{more}", 13, BOLD, "ink2")
        13,
        BOLD,
        "ink2",
    )
    y = top + 20
    for note in tuple(reversed(notes))[:rows]:
        words = left + 12
        if note.photo:
            picture.photo(left + 12, y, THUMB * 4 / 3, THUMB, str(Path(folder) / note.photo))
            words += THUMB * 4 / 3 + 8
        for number, line in enumerate(wrap(note.text, TEXT, 13, right - words - 8)[:2]):
            picture.text(words, y + 17 + 17 * number, line, 13)
        says = f"Note: {note.text}" + (f", photo {note.photo}" if note.photo else "")
        picture.hit(left + 8, y - 2, right - left - 12, THUMB + 2, note.id, says, f"photo:{note.photo}")
        y += THUMB + 4
