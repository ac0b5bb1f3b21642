"""Which role is painted on which: every text, stroke and mark of a drawing with what lies under it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from awlmark.draw.kit.picture import Box, Disc, Outline, Picture, Segment, Shape, Sweep, Text, Tiles

GROUNDS = {"ground", "sheet", "well", "notefill", "stopfill", "tightfill", "tape", ""}
"""Areas that something is written on; none of them is a mark."""
GRID = {"faint", "well"}
"""Lines that part rows or count along, and the course of a gauge: what they measure is lettered, and drawn in ink."""
METALS = {"copper", "aluminium"}
WIRES = {"black", "red", "white", "green", "green and yellow", "brown", "blue", "grey", "core", *METALS}
"""Colours of what is drawn in its own: inside a cable a core lies on another, each within a rim of ink."""


def contrast(one: str, other: str) -> float:
    """Contrast ratio of two colours (WCAG 2)."""

    def light(colour: str) -> float:
        parts = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
        red, green, blue = (part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
        return 0.2126 * red + 0.7152 * green + 0.0722 * blue

    bright, dim = sorted((light(one), light(other)), reverse=True)
    return (bright + 0.05) / (dim + 0.05)


def _covers(shape: Shape, x: float, y: float) -> bool:
    if isinstance(shape, Box):
        return shape.x <= x <= shape.x + shape.w and shape.y <= y <= shape.y + shape.h
    if isinstance(shape, Disc):
        return (x - shape.x) ** 2 + (y - shape.y) ** 2 <= shape.r**2
    if isinstance(shape, Tiles):
        return any(left <= x <= left + wide and top <= y <= top + tall for left, top, wide, tall in shape.rects)
    if not isinstance(shape, Outline) or not shape.closed:
        return False
    points, inside = [(shape.x, shape.y), *shape.points], False
    for (x1, y1), (x2, y2) in zip(points, [*points[1:], points[0]], strict=True):
        if (y1 > y) != (y2 > y) and x < (x2 - x1) * (y - y1) / (y2 - y1) + x1:
            inside = not inside
    return inside


def _spots(shape: Shape) -> list[tuple[float, float]]:
    """Where a text or a stroke is looked at: along it, just outside what it goes round."""
    if isinstance(shape, Text):
        return [(shape.left + 1, shape.y - shape.size * 0.3)]
    if isinstance(shape, Segment):
        return [(shape.x + (shape.x2 - shape.x) * part, shape.y + (shape.y2 - shape.y) * part) for part in (0, 0.5, 1)]
    if isinstance(shape, Sweep):
        return [(shape.x + shape.r, shape.y)]
    if isinstance(shape, Disc):
        return [(shape.x - shape.r - 1, shape.y), (shape.x + shape.r + 1, shape.y)]
    if isinstance(shape, Box):
        return [(shape.x - 1, shape.y - 1), (shape.x + shape.w + 1, shape.y + shape.h + 1)]
    assert isinstance(shape, Outline)
    return [(shape.x, shape.y), *shape.points[:2]]


def _same_place(one: Shape, other: Shape) -> bool:
    """Whether one is drawn right over the other."""
    if type(one) is not type(other) or (one.x, one.y) != (other.x, other.y):
        return False
    kinds = ("x2", "y2", "r", "points")
    return all(getattr(one, name) == getattr(other, name) for name in kinds if hasattr(one, name))


Pair = tuple[str, frozenset[str], frozenset[str]]


def painted(picture: Picture, background: str) -> Iterator[Pair]:
    """Kind (``text`` or ``mark``), its roles, and the roles it lies on; one of those against one of these tells it.

    A fill may have an outline, a stroke a rim, and a mark may reach over the edge of what it lies on. The tiles of a
    year of hours are shades of one scale, which is lettered.
    """
    fills: list[Shape] = []
    before: Shape | None = None
    for shape in picture.shapes:
        fill, role = str(getattr(shape, "fill", "")), str(getattr(shape, "role", ""))
        if isinstance(shape, Text):
            yield "text", frozenset({role}), _under(fills, shape, background)
        elif not isinstance(shape, Tiles) and not (role in GRID or (not role and fill in GROUNDS)):
            shown = {role, fill} - {""}
            if before is not None and _same_place(shape, before):
                shown.add(str(getattr(before, "role", "") or getattr(before, "fill", "")))
            yield "mark", frozenset(shown), _under(fills, shape, background)
        if fill:
            fills.append(shape)
        before = shape


def _under(fills: Sequence[Shape], shape: Shape, background: str) -> frozenset[str]:
    """What is painted where a shape comes to lie."""

    def at(x: float, y: float) -> str:
        found = (str(getattr(under, "fill", "")) for under in reversed(fills) if _covers(under, x, y))
        return next(found, background)

    return frozenset(at(*spot) for spot in _spots(shape))
