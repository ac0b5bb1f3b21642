"""Setting labels where they cross neither each other nor the edge."""

from __future__ import annotations

from awlmark.draw.picture import DRAW, END, MIDDLE, START, TEXT, Picture, set_width, typeset

_CELL = 48.0
"""Side of a square of the grid that areas are kept in, so that a look at the neighbours is enough [px]."""
Area = tuple[float, float, float, float]


class Labels:
    """Keeps track of where words already stand in a drawing."""

    def __init__(self, picture: Picture, left: float, top: float, right: float, bottom: float) -> None:
        self.picture = picture
        self.bounds = (left, top, right, bottom)
        self._grid: dict[tuple[int, int], list[Area]] = {}

    def block(self, x: float, y: float, w: float, h: float) -> None:
        """Keep words off an area."""
        self._take((x, y, x + w, y + h))

    def put(
        self, text: str, spots: list[tuple[float, float, str]], size: float = 13.0, face: str = TEXT, role: str = "ink",
        plate: str = "",
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

        Returns
        -------
        bool
            Whether a spot was free.
        """
        width = set_width(text, face, size)
        # Lengths stand in the drawing face, larger, and their fractions reach below the line.
        tall, deep = size, size * 0.26
        for _piece, its_face, its_size in typeset(text, face, size):
            if its_face == DRAW:
                tall, deep = max(tall, its_size), max(deep, its_size * 0.34)
        for x, y, anchor in spots:
            left = x - {START: 0.0, MIDDLE: width / 2, END: width}[anchor]
            area = (left - 2, y - tall * 0.82, left + width + 2, y + deep)
            if self._free(area):
                self._take(area)
                if plate:
                    self.picture.box(area[0], area[1], area[2] - area[0], area[3] - area[1], fill=plate)
                self.picture.sentence(left, y, text, size, face, role)
                return True
        return False

    def _free(self, area: Area) -> bool:
        left, top, right, bottom = self.bounds
        if area[0] < left or area[1] < top or area[2] > right or area[3] > bottom:
            return False
        for cell in _cells(area):
            for other in self._grid.get(cell, ()):
                if area[2] > other[0] and area[0] < other[2] and area[3] > other[1] and area[1] < other[3]:
                    return False
        return True

    def _take(self, area: Area) -> None:
        for cell in _cells(area):
            self._grid.setdefault(cell, []).append(area)


def _cells(area: Area) -> list[tuple[int, int]]:
    across = range(int(area[0] // _CELL), int(area[2] // _CELL) + 1)
    return [(x, y) for y in range(int(area[1] // _CELL), int(area[3] // _CELL) + 1) for x in across]
