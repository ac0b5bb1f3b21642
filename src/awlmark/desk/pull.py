"""Pulling the line's end with the mouse: plumb or level, to the inch, as words for the Entry."""

from __future__ import annotations

from PySide6.QtCore import QPointF

from awlmark.core.design import Design
from awlmark.core.quantities import INCH_M, print_length
from awlmark.draw.picture import Picture


def pull_reading(design: Design, picture: Picture, where: QPointF) -> tuple[QPointF, QPointF, str]:
    """Read a pull.

    Parameters
    ----------
    design : Design
        For the home units.
    picture : Picture
        The Run scene, with the line's end in it.
    where : QPointF
        Where the mouse is.

    Returns
    -------
    start, end : QPointF
        Rubber line, snapped plumb or level.
    words : str
        ``right 12' 3"``; one snap long at least.
    """
    handle = next(hit for hit in picture.hits if hit.id == "handle")
    start = QPointF(handle.x + handle.w / 2, handle.y + handle.h / 2)
    across, down = where.x() - start.x(), where.y() - start.y()
    level = abs(across) >= abs(down)
    way = ("right" if across >= 0 else "left") if level else ("down" if down >= 0 else "up")
    snap = INCH_M if design.job.units == "ft" else 0.01
    length = max(1, round(abs(across if level else down) / picture.pixels_per_m / snap)) * snap
    pixels = length * picture.pixels_per_m
    end = QPointF(start)
    if level:
        end.setX(start.x() + (pixels if across >= 0 else -pixels))
    else:
        end.setY(start.y() + (pixels if down >= 0 else -pixels))
    return start, end, f"{way} {print_length(length, design.job.units)}"
