"""The start sheet: ways a line may go, the jobs on the shelf, doors to everything else."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

import msgspec

from awlmark.core.begin.summary import Summary
from awlmark.core.begin.ways import Way
from awlmark.core.standing import STAGES
from awlmark.draw.figures.way_sketch import draw_way
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, fold, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark

SHELF_SHARE: Final = 0.42
"""Of the width, what the shelf takes."""
HEAD: Final = 78.0
ROW: Final = 62.0
GONE: Final = "gone"
BROKEN: Final = "broken"
WAITING: Final = "waiting"


class Shelved(msgspec.Struct, frozen=True):
    """One file on the shelf."""

    path: str
    file: str
    """Name of the file and its folder, as text."""
    touched: str
    """When it was changed last, in words."""
    summary: Summary | None
    trouble: str = ""
    """``gone``, ``broken`` or ``waiting``; empty where the summary stands."""
    told: str = ""
    """What is the matter."""


def draw_start(
    ways: Sequence[Way],
    shelved: Sequence[Shelved],
    chosen: int,
    filtered: str,
    width: float,
    height: float,
    starts_with: tuple[str, str] = ("", ""),
) -> Picture:
    """Draw the start sheet.

    Parameters
    ----------
    ways : sequence of Way
        Ways to begin with, in their order.
    shelved : sequence of Shelved
        What the shelf shows, the last touched first.
    chosen : int
        Row of the shelf that Enter opens; -1 for none.
    filtered : str
        What the shelf is filtered by; empty shows all.
    width, height : float
        Size of the sheet [px].
    starts_with : tuple of str
        Rule book and unit of length that new lines start with, as they are shown.
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    split = round(width * (1 - SHELF_SHARE))
    _ways(picture, ways, split, height)
    right = split - 16.0
    for told, which in zip(reversed(starts_with), ("units", "code"), strict=True):
        wide = text_width(told, BOLD, 13) + 18
        if not told:
            continue
        picture.box(right - wide, 16, wide, 26, "edge", 1, "ground", 4)
        picture.text(right - wide + 9, 34, told, 13, BOLD)
        picture.hit(
            right - wide, 16, wide, 26, f"lines-{which}", f"New lines start with {told}: change it", f"lines:{which}"
        )
        right -= wide + 6
    picture.box(split, 0, width - split, height, fill="ground")
    picture.line(split, 0, split, height, "edge")
    _shelf(picture, shelved, chosen, filtered, split + 18, width - 20, height)
    return picture


def _ways(picture: Picture, ways: Sequence[Way], width: float, height: float) -> None:
    picture.text(24, 40, "Which way does your line go?", 24, BOLD)
    picture.text(
        24, 62, "Pick the nearest by a click or its number. Readings are guessed and dashed; each is then asked.",
        13, role="ink2",
    )  # fmt: skip
    columns = 2 if len(ways) <= 6 else 3
    rows = max(-(-len(ways) // columns), 1)
    wide = (width - 48 - 12 * (columns - 1)) / columns
    tall = min((height - HEAD - 14) / rows - 10, 220.0)
    said = [fold(way.says, TEXT, 13, wide - 56, max(int((tall - 28) / 2 / 15), 2)) for way in ways]
    lines = max([2, *(len(each) for each in said)])
    for number, way in enumerate(ways):
        left = 24 + (number % columns) * (wide + 12)
        top = HEAD + (number // columns) * (tall + 10)
        sketch = tall - 28 - 15 * lines
        picture.box(left, top, wide, tall, "edge", 1, fill="sheet", radius=4)
        if way.job is not None:
            draw_way(picture, way.job.legs, left + 1.5, top + 1.5, wide - 3, sketch - 3)
        picture.line(left, top + sketch, left + wide, top + sketch, "faint")
        role = "ink" if way.job is not None else "edge"
        picture.box(left + 10, top + sketch + 10, 26, 26, role, 1.5, fill="sheet", radius=5)
        picture.text(left + 23, top + sketch + 29, str(number + 1), 17, DRAW, role, MIDDLE)
        picture.text(left + 46, top + sketch + 19, shorten(way.name, BOLD, 14, wide - 56), 14, BOLD, role)
        for line, words in enumerate(said[number]):
            picture.text(left + 46, top + sketch + 35 + 15 * line, words, 13, role="ink2")
        act = f"begin:{number}" if way.job is not None else ""
        picture.hit(left, top, wide, tall, f"way-{number}", f"{number + 1}, {way.name}. {way.says}", act)


def _shelf(
    picture: Picture, shelved: Sequence[Shelved], chosen: int, filtered: str, left: float, right: float, height: float
) -> None:
    picture.text(left, 40, "On the shelf", 15, BOLD)
    count = f"{len(shelved)} found for '{shorten(filtered, TEXT, 13, 120)}'" if filtered else f"{len(shelved)} jobs"
    picture.text(left + 104, 40, count, 13, role="ink2")
    picture.text(right, 40, "Put a folder here", 13, BOLD, "scribe", END)
    picture.hit(right - 130, 22, 130, 28, "folder", "Put every job of a folder on the shelf", "door:folder")
    doors_top = height - 92
    room = int((doors_top - 56) // (ROW + 6))
    first = max(0, min(chosen - room + 1, len(shelved) - room)) if chosen >= room else 0
    for place, one in enumerate(shelved[first : first + room]):
        _row(picture, one, first + place, first + place == chosen, left, right, 56 + place * (ROW + 6))
    if not shelved:
        told = "Nothing on the shelf fits." if filtered else "Nothing here yet. What you save stands here."
        picture.text(left, 80, told, 13, role="ink2")
    more = len(shelved) - first - room
    if more > 0:
        picture.text(right, doors_top - 6, f"{more} more; type to find one", 13, role="ink2", anchor=END)
    wide = (right - left - 12) / 2
    doors = (
        ("Look round a finished job", "demo", "menu:demo"), ("Open a file", "Ctrl+O", "menu:open"),
        ("Practice bench", "Alt+P", "door:practice"), ("Start from a blank tape", "Esc", "door:blank"),
    )  # fmt: skip
    for number, (name, key, act) in enumerate(doors):
        x, y = left + (number % 2) * (wide + 12), doors_top + 4 + (number // 2) * 42
        picture.box(x, y, wide, 36, "edge", 1, fill="sheet", radius=4)
        picture.text(x + 12, y + 23, name, 13, BOLD)
        picture.text(x + wide - 10, y + 23, key, 13, role="ink2", anchor=END)
        picture.hit(x, y, wide, 36, f"door-{number}", f"{name}, {key}", act)


def _row(picture: Picture, one: Shelved, number: int, here: bool, left: float, right: float, top: float) -> None:
    fill = "notefill" if here else "sheet"
    picture.box(left, top, right - left, ROW, "scribe" if here else "edge", 2 if here else 1, fill=fill, radius=4)
    found = one.summary
    if found is None or one.trouble:
        name = found.name if found else one.file
        picture.text(left + 38, top + 23, shorten(name, BOLD, 14, right - left - 190), 14, BOLD, "edge")
        picture.text(left + 38, top + 44, shorten(one.told, TEXT, 13, right - left - 60), 13, role="ink2")
        act = "" if one.trouble == WAITING else f"drop:{number}"
        if act:
            picture.text(right - 12, top + 23, "Take it off", 13, BOLD, "scribe", END)
        picture.hit(left, top, right - left, ROW, f"shelf-{number}", f"{name}: {one.told}")
        if act:
            picture.hit(right - 96, top + 4, 94, 28, f"drop-{number}", f"Take {name} off the shelf", act)
        if one.trouble == GONE:
            picture.text(right - 112, top + 23, "Find it", 13, BOLD, "scribe", END)
            picture.hit(
                right - 166, top + 4, 62, 28, f"find-{number}", f"Find {name} in its new place", f"find:{number}"
            )
        return
    mark(picture, found.mark, left + 20, top + 19)
    picture.text(left + 38, top + 23, shorten(found.name, BOLD, 14, right - left - 150), 14, BOLD)
    picture.text(right - 12, top + 23, found.price, 14, BOLD, anchor=END)
    for stroke in range(len(STAGES)):
        x = left + 40 + 7 * stroke
        role, width = ("ink", 2) if stroke < found.reached else ("edge", 1)
        picture.line(x, top + 45, x + 4, top + 35, role, width)
    picture.text(left + 102, top + 44, found.stage, 13, BOLD)
    picture.text(left + 152, top + 44, one.touched, 13, role="ink2")
    role = "stop" if found.mark == "stop" else "ink"
    due = shorten(found.due, TEXT, 13, right - left - 290)
    picture.sentence(right - 12, top + 44, due, 13, role=role, anchor=END)
    says = (
        f"{found.name}: {NAMES[found.mark]}, {found.price}, {found.reached} of {len(STAGES)} stages told, "
        f"{one.touched}, {found.due}. {one.file}"
    )
    picture.hit(left, top, right - left, ROW, f"shelf-{number}", says, f"shelf:{number}")
