"""Shapes set down somewhere else."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from awlmark.draw.kit.picture import Outline, Segment, Shape, Tiles


def moved(shapes: Iterable[Shape], dx: float, dy: float) -> list[Shape]:
    """The same shapes, shifted."""
    found: list[Shape] = []
    for shape in shapes:
        if isinstance(shape, Segment):
            ends = {"x2": shape.x2 + dx, "y2": shape.y2 + dy}
            found.append(replace(shape, x=shape.x + dx, y=shape.y + dy, **ends))
        elif isinstance(shape, Outline):
            points = tuple((x + dx, y + dy) for x, y in shape.points)
            found.append(replace(shape, x=shape.x + dx, y=shape.y + dy, points=points))
        elif isinstance(shape, Tiles):
            rects = tuple((round(x + dx), round(y + dy), w, h) for x, y, w, h in shape.rects)
            found.append(replace(shape, x=shape.x + dx, y=shape.y + dy, rects=rects))
        else:
            found.append(replace(shape, x=shape.x + dx, y=shape.y + dy))
    return found
