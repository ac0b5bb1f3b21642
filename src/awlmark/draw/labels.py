"""Setting labels where they cross neither each other nor the edge."""

from __future__ import annotations

from awlmark.draw.picture import DRAW, END, MIDDLE, START, TEXT, Picture, set_width, typeset

Area = tuple[float, float, float, float]


class Labels:
    """Keeps track of where words already stand in a drawing."""

    def __init__(self, picture: Picture, left: float, top: float, right: float, bottom: float) -> None:
        self.picture = picture
        self.bounds = (left, top, right, bottom)
        self.taken: list[Area] = []

    def block(self, x: float, y: float, w: float, h: float) -> None:
        """Keep words off an area."""
        self.taken.append((x, y, x + w, y + h))

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
                self.taken.append(area)
                if plate:
                    self.picture.box(area[0], area[1], area[2] - area[0], area[3] - area[1], fill=plate)
                self.picture.sentence(left, y, text, size, face, role)
                return True
        return False

    def _free(self, area: Area) -> bool:
        left, top, right, bottom = self.bounds
        if area[0] < left or area[1] < top or area[2] > right or area[3] > bottom:
            return False
        return all(
            area[2] <= other[0] or area[0] >= other[2] or area[3] <= other[1] or area[1] >= other[3]
            for other in self.taken
        )
