"""What differs between two drawings, so that only that is painted again."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, Final

from awlmark.draw.kit.picture import Box, Disc, Outline, Photo, Picture, Segment, Shape, Sweep, Text, Tiles, text_width

Rect = tuple[float, float, float, float]
"""Left, top, right, bottom [px]."""
MOST: Final = 8
"""Areas kept apart; a painter clipped to more is slower than one that paints a little too much."""
NEAR: Final = 12.0
"""Areas closer than this are one [px]."""
LARGE: Final = 0.6
"""Share of a drawing's shapes, or of its area, from which on all of it is painted."""


def _segment(shape: Segment) -> Rect:
    pad = shape.width + 1
    left, right = (shape.x, shape.x2) if shape.x < shape.x2 else (shape.x2, shape.x)
    top, bottom = (shape.y, shape.y2) if shape.y < shape.y2 else (shape.y2, shape.y)
    return left - pad, top - pad, right + pad, bottom + pad


def _photo(shape: Photo) -> Rect:
    return shape.x - 1, shape.y - 1, shape.x + shape.w + 1, shape.y + shape.h + 1


def _box(shape: Box) -> Rect:
    pad = shape.width + 1
    return shape.x - pad, shape.y - pad, shape.x + shape.w + pad, shape.y + shape.h + pad


def _round(shape: Disc | Sweep) -> Rect:
    reach = shape.r + shape.width + 1
    return shape.x - reach, shape.y - reach, shape.x + reach, shape.y + reach


def _outline(shape: Outline) -> Rect:
    # Mitred corners reach beyond the stroke.
    pad = 2 * shape.width + 1
    across, down = [shape.x, *(x for x, _y in shape.points)], [shape.y, *(y for _x, y in shape.points)]
    return min(across) - pad, min(down) - pad, max(across) + pad, max(down) + pad


def _tiles(shape: Tiles) -> Rect:
    rects = shape.rects or ((0, 0, 0, 0),)
    left, top = min(rect[0] for rect in rects), min(rect[1] for rect in rects)
    return left, top, max(x + w for x, _y, w, _h in rects), max(y + h for _x, y, _w, h in rects)


def _text(shape: Text) -> Rect:
    size, left = shape.size, shape.left
    width = text_width(shape.text, shape.face, size)
    # The painter rounds the size; letters may lean out of their advance.
    pad = 0.5 * size + 0.05 * width
    return left - pad, shape.y - 1.3 * size, left + width + pad, shape.y + 0.5 * size


_BOUNDS: Final[dict[type[Shape], Callable[[Any], Rect]]] = {
    Segment: _segment,
    Box: _box,
    Photo: _photo,
    Disc: _round,
    Sweep: _round,
    Outline: _outline,
    Tiles: _tiles,
    Text: _text,
}


def bounds(shape: Shape) -> Rect:
    """Area that a shape's ink stays within [px]."""
    return _BOUNDS[type(shape)](shape)


def meets(one: Rect, others: Sequence[Rect]) -> bool:
    """Whether an area meets any of some others."""
    left, top, right, bottom = one
    return any(left < x2 and x1 < right and top < y2 and y1 < bottom for x1, y1, x2, y2 in others)


def damage(before: Picture, after: Picture) -> list[Rect] | None:
    """Areas in which two drawings may differ; None where that is most of it, or cannot be told.

    Shapes are painted one over the other, so those that both have must follow each other in the same order.
    """
    if (before.width, before.height) != (after.width, after.height):
        return None
    if before.shapes == after.shapes:
        return []
    old, new = set(before.shapes), set(after.shapes)
    gone, come = old - new, new - old
    if len(gone) + len(come) > LARGE * len(new):
        return None
    if [shape for shape in before.shapes if shape not in gone] != [
        shape for shape in after.shapes if shape not in come
    ]:
        return None
    found: list[Rect] = []
    for shape in (*gone, *come):
        found = _with(found, bounds(shape))
    covered = sum((right - left) * (bottom - top) for left, top, right, bottom in found)
    return None if covered > LARGE * after.width * after.height else found


def _with(found: list[Rect], area: Rect) -> list[Rect]:
    """Areas with one more, joined with those it comes near."""
    left, top, right, bottom = area
    apart: list[Rect] = []
    for other in found:
        x1, y1, x2, y2 = other
        if left - NEAR < x2 and x1 < right + NEAR and top - NEAR < y2 and y1 < bottom + NEAR:
            left, top, right, bottom = min(left, x1), min(top, y1), max(right, x2), max(bottom, y2)
        else:
            apart.append(other)
    if len(apart) == MOST:
        x1, y1, x2, y2 = apart.pop()
        left, top, right, bottom = min(left, x1), min(top, y1), max(right, x2), max(bottom, y2)
    return [*apart, (left, top, right, bottom)]
