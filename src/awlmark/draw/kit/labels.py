"""Setting labels where they cross neither each other nor the edge."""

from __future__ import annotations

import functools

from awlmark.draw.kit.picture import BOLD, DRAW, MIDDLE, TEXT, Picture, left_of, set_width, typeset

_CELL = 96.0
"""Side of a square of the grid that areas are kept in, so that a look at the neighbours is enough [px]."""
_ROW = 1 << 20
"""Squares of a row: more than any drawing has."""
Area = tuple[float, float, float, float]

RING = 7.0
"""Radius of the ring round a leg's number."""


class Labels:
    """Keeps track of where words already stand in a drawing."""

    def __init__(self, picture: Picture, left: float, top: float, right: float, bottom: float) -> None:
        self.picture = picture
        self.bounds = (left, top, right, bottom)
        self._grid: dict[int, list[Area]] = {}

    def block(self, x: float, y: float, w: float, h: float) -> None:
        """Keep words off an area."""
        area = (x, y, x + w, y + h)
        self._take(area, _cells(area))

    def put(
        self, text: str, spots: list[tuple[float, float, str]], size: float = 13.0, face: str = TEXT, role: str = "ink",
        plate: str = "", number: int = 0,
    ) -> bool:  # fmt: skip
        """Set a label at the first free spot.

        Parameters
        ----------
        text : str
            The label; lengths in it take the drawing face.
        spots : list of (float, float, str)
            Baseline points with their anchor, best first.
        size, face, role :
            As for :meth:`Picture.text`.
        plate : str
            Fill of a plate under the words; none when empty.
        number : int
            Of a leg, in a ring before the words; nought for none.

        Returns
        -------
        bool
            Whether a spot was free.
        """
        width, rise, deep = _measured(text, size, face)
        ring = 2 * RING + 4 if number else 0.0
        width += ring
        for x, y, anchor in spots:
            left = left_of(x, width, anchor)
            area = (left - 2, y - rise, left + width + 2, y + deep)
            cells = _cells(area)
            if self._free(area, cells):
                self._take(area, cells)
                if plate:
                    self.picture.box(area[0], area[1], area[2] - area[0], area[3] - area[1], fill=plate)
                if number:
                    self.picture.disc(left + RING, y - size * 0.34, RING, role, 1)
                    self.picture.text(left + RING, y - size * 0.34 + 3.2, f"{number}", 9, BOLD, role, MIDDLE)
                self.picture.sentence(left + ring, y, text, size, face, role)
                return True
        return False

    def _free(self, area: Area, cells: list[int]) -> bool:
        left, top, right, bottom = area
        least_x, least_y, most_x, most_y = self.bounds
        if left < least_x or top < least_y or right > most_x or bottom > most_y:
            return False
        grid = self._grid
        for cell in cells:
            if cell in grid:
                for x, y, x2, y2 in grid[cell]:
                    if right > x and left < x2 and bottom > y and top < y2:
                        return False
        return True

    def _take(self, area: Area, cells: list[int]) -> None:
        for cell in cells:
            self._grid.setdefault(cell, []).append(area)


@functools.lru_cache(maxsize=4096)
def _measured(text: str, size: float, face: str) -> tuple[float, float, float]:
    """Width of a label, and how far it reaches above and below its line [px]."""
    tall, deep = size, size * 0.26
    # Lengths stand in the drawing face, larger, and their fractions reach below the line.
    for _piece, its_face, its_size in typeset(text, face, size):
        if its_face == DRAW:
            tall, deep = max(tall, its_size), max(deep, its_size * 0.34)
    return set_width(text, face, size), tall * 0.82, deep


def _cells(area: Area) -> list[int]:
    """Squares of the grid that an area lies on, row by row, each as one number."""
    left, top, right, bottom = area
    first, last = int(left // _CELL), int(right // _CELL) + 1
    low, high = int(top // _CELL), int(bottom // _CELL)
    if low == high:
        return list(range(_ROW * low + first, _ROW * low + last))
    return [cell for row in range(low, high + 1) for cell in range(_ROW * row + first, _ROW * row + last)]
