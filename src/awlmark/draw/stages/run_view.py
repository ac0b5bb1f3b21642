"""The Run scene: floor plan above, walls unfolded and the yard cut through below."""

from __future__ import annotations

from typing import Final

from awlmark.core.solve.design import Design
from awlmark.draw.figures.plan import LEFT, MOST_SCALE, RIGHT, draw_measures, draw_plan, draw_question
from awlmark.draw.figures.unfold import Strip, unfold
from awlmark.draw.figures.wall_strip import StripView
from awlmark.draw.figures.walls import levels_of
from awlmark.draw.kit.picture import BOLD, MIDDLE, TEXT, Picture
from awlmark.draw.view_state import Look

PLAN: Final = 134.0
DEEP_PLAN: Final = 160.0
"""Height of the plan over the walls, at least and at most [px]."""
PAGE: Final = 116.0
"""Width of the key of a page [px]."""


def draw_run(design: Design, look: Look, width: float, height: float, *, controls: bool = True) -> Picture:
    """Draw the Run scene.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        The awl's place.
    width, height : float
        Size of the scene [px].
    controls : bool
        Whether what only the desk answers to is drawn; a drawing that leaves has none of it.
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    if not design.line.legs:
        draw_question(picture, design.book.words)
        return picture
    if look.run_page == "bends":
        from awlmark.draw.stages.bends_view import draw_bends

        draw_bends(picture, design, 38.0, width, height)
        _pages(picture, look, width)
        return picture
    plan = _plan_height(design, width) if height >= 520 else 96.0
    draw_plan(picture, design, width, plan, at_m=look.seen_m)
    draw_measures(picture, design, width - (2 * PAGE + 78 if controls else 40))
    strips = unfold(design.line)
    top = plan
    for strip, tall in zip(strips, _share_room(design, strips, width, height - plan), strict=True):
        picture.line(0, top + 0.5, width, top + 0.5, "edge")
        StripView(picture, design, look, strip, top, width, tall).draw()
        top += tall
    if controls:
        _pages(picture, look, width)
    return picture


def _plan_height(design: Design, width: float) -> float:
    """Height of the plan [px]: a line that runs far out from its first wall gets more of it."""
    legs = design.line.legs
    east, north = ([0.0, *(walked.end[axis] for walked in legs)] for axis in (0, 1))
    across, deep = max(east) - min(east), max(north) - min(north)
    scale = min((width - LEFT - RIGHT) / max(across, 0.5), MOST_SCALE)
    return min(max(deep * scale + 84, PLAN), DEEP_PLAN)


def _pages(picture: Picture, look: Look, width: float) -> None:
    """Two pages of one stage: the line, and the bends made by hand."""
    for number, (page, name) in enumerate((("line", "Line"), ("bends", "Bends by hand"))):
        wide = PAGE
        left, here = width - 8 - wide * (2 - number), look.run_page == page
        fill, role = ("notefill", "scribe") if here else ("ground", "edge")
        picture.box(left, 5, wide - 6, 22, role, 2 if here else 1, fill, 3)
        picture.text(left + (wide - 6) / 2, 21, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        says = name + (", shown" if here else "")
        picture.hit(left, 5, wide - 6, 22, f"run-{page}", says, f"runpage:{page}")


def _share_room(design: Design, strips: list[Strip], width: float, room: float) -> list[float]:
    """Heights of the strips [px]: each what its width can use, up to a fair share; what is left goes to all."""
    if len(strips) == 1:
        return [room]
    wanted = [_wanted_height(design, strip, width) for strip in strips]
    given = [0.0] * len(strips)
    for place, number in enumerate(sorted(range(len(strips)), key=lambda number: wanted[number])):
        given[number] = min(wanted[number], (room - sum(given)) / (len(strips) - place))
    spare = (room - sum(given)) / len(strips)
    return [tall + spare for tall in given]


def _wanted_height(design: Design, strip: Strip, width: float) -> float:
    low, high = levels_of(strip, design)
    scale = min((width - LEFT - RIGHT) / max(strip.width_m, 0.5), MOST_SCALE)
    return max(120.0, scale * (high - low) + 52)
