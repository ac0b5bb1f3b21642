"""The five marks: painted shapes, never glyphs; they differ in shape as well as in colour."""

from __future__ import annotations

from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT
from awlmark.draw.kit.picture import Picture

NAMES = {"holds": "Holds", "note": "Note", "tight": "Tight", "stop": "Stop", "unread": "Unread"}


def mark(picture: Picture, severity: str, x: float, y: float, size: float = 12.0, on_tape: bool = False) -> None:
    """Paint a mark centred on a point.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    severity : str
        ``holds``, ``note``, ``tight``, ``stop`` or ``unread``.
    x, y : float
        Centre [px].
    size : float
        Height [px].
    on_tape : bool
        Use the colours that stand out on the yellow tape.
    """
    half = size / 2
    role = (f"tape{severity}" if severity != HOLDS else "tapeink") if on_tape else severity
    if severity == HOLDS:
        picture.line(x - half * 0.5, y + half, x + half * 0.5, y - half, role, 2.0)
    elif severity == NOTE:
        picture.disc(x, y, half - 1, role, 2.0)
    elif severity == TIGHT:
        points = [(x - half, y + half * 0.85), (x + half, y + half * 0.85), (x, y - half * 0.9)]
        picture.path(points, fill=role, closed=True)
    elif severity == STOP:
        picture.box(x - half, y - half, size, size, fill=role)
        inner = half * 0.5
        cross = "ontape" if on_tape else "onstop"
        picture.line(x - inner, y - inner, x + inner, y + inner, cross, 2.0)
        picture.line(x - inner, y + inner, x + inner, y - inner, cross, 2.0)
    else:
        picture.disc(x, y, half - 1, role, 1.6, dash=True)
