"""The tray of the Place scene: what can be dragged onto the floor, each a small drawing with its word."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

from awlmark.draw.kit.picture import BOLD, MIDDLE, TEXT, Picture

WIDE: Final = 84.0
"""Width of the tray [px]."""
TOP: Final = 26.0
NAMES: Final = {
    "room": "Room", "canopy": "Roof", "walk": "Path", "bay": "Bay, car", "door": "Door",
    "other": "Thing", "pin": "Spot",
}  # fmt: skip
SAYS: Final = {
    "room": "a room with walls", "canopy": "a roof on posts", "walk": "where people walk or drive",
    "bay": "a parking bay with a car", "door": "a door; it finds its wall", "other": "something that stands in the way",
    "pin": "a spot where the charger may hang",
}  # fmt: skip


def draw_tray(picture: Picture, top: float, bottom: float) -> None:
    """Draw the tray between two levels at the left edge."""
    picture.box(0, top, WIDE, bottom - top, fill="ground")
    picture.line(WIDE + 0.5, top, WIDE + 0.5, bottom, "edge")
    picture.text(WIDE / 2, top + 18, "Drag out", 13, TEXT, "ink2", MIDDLE)
    tall = (bottom - top - TOP - 4) / len(NAMES)
    for number, (kind, name) in enumerate(NAMES.items()):
        y = top + TOP + number * tall
        picture.box(5, y, WIDE - 10, tall - 4, "edge", 1, "sheet", 3)
        room = tall - 4 - 18
        _FIGURES[kind](picture, WIDE / 2, y + 3 + room / 2, max(room - 6, 6.0))
        picture.text(WIDE / 2, y + tall - 9, name, 13, BOLD, anchor=MIDDLE)
        says = f"{name}: {SAYS[kind]}; drag it onto the floor, or press to set one in its middle"
        picture.hit(5, y, WIDE - 10, tall - 4, f"tray-{kind}", says, f"tray:{kind}")


def _room(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.box(x - tall * 0.8, y - tall / 2, tall * 1.6, tall, "ink", 2.4, "ground")


def _roof(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.box(x - tall * 0.8, y - tall / 2, tall * 1.6, tall, "ink2", 1.2, dash=True)
    for across in (-0.8, 0.8):
        for down in (-0.5, 0.5):
            picture.box(x + across * tall - 2, y + down * tall - 2, 4, 4, fill="ink2")


def _path(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.box(x - tall * 0.9, y - tall * 0.3, tall * 1.8, tall * 0.6, "edge", 1, hatch="slant:edge")


def _bay(picture: Picture, x: float, y: float, tall: float) -> None:
    wide = tall * 1.9
    picture.box(x - wide / 2, y - tall / 2, wide, tall, "ink2", 1, dash=True)
    picture.box(x - wide * 0.38, y - tall * 0.32, wide * 0.76, tall * 0.64, "ink", 1.4, "well", 3)
    picture.line(x + wide * 0.2, y - tall * 0.3, x + wide * 0.2, y + tall * 0.3, "edge")


def _door(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.line(x - tall, y + tall / 2, x - tall / 2, y + tall / 2, "ink", 2.4)
    picture.line(x + tall / 2, y + tall / 2, x + tall, y + tall / 2, "ink", 2.4)
    picture.line(x - tall / 2, y + tall / 2, x - tall / 2, y - tall / 2, "ink", 1.4)
    picture.sweep(x - tall / 2, y + tall / 2, tall, 0, 90, "edge", 1)


def _thing(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.box(x - tall * 0.8, y - tall * 0.4, tall * 1.6, tall * 0.8, "edge", 1.2, "sheet")


def _spot(picture: Picture, x: float, y: float, tall: float) -> None:
    picture.disc(x, y, tall / 2, "scribe", 2, "sheet")
    picture.box(x - 2, y - 2, 4, 4, fill="scribe")


_FIGURES: Final[dict[str, Callable[[Picture, float, float, float], None]]] = {
    "room": _room, "canopy": _roof, "walk": _path, "bay": _bay, "door": _door, "other": _thing, "pin": _spot,
}  # fmt: skip
