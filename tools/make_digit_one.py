"""Gives the digit 1 of the drawing face a flag and a foot, so that it is no l; its width stays as it was.

Run on the face as its makers ship it; the outcome is what lies in src/awlmark/ink/fonts.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Final

from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

FONT: Final = Path(__file__).parent.parent / "src" / "awlmark" / "ink" / "fonts" / "routed-gothic.ttf"
STEM: Final = [(156, 736), (196, 736), (224, 708), (224, 28), (196, 0), (156, 0), (128, 28), (128, 708)]
FLAG: Final = [(150, 734), (190, 734), (206, 690), (76, 556), (52, 548), (30, 556), (20, 580), (28, 604)]
FOOT: Final = [(56, 96), (296, 96), (324, 68), (324, 28), (296, 0), (56, 0), (28, 28), (28, 68)]


def main(source: Path) -> None:
    """Draw the glyph anew, in the same stroke."""
    font = TTFont(source)
    pen = TTGlyphPen(font.getGlyphSet())
    for contour in (STEM, FLAG, FOOT):
        pen.moveTo(contour[0])
        for point in contour[1:]:
            pen.lineTo(point)
        pen.closePath()
    width, _left = font["hmtx"]["one"]
    font["glyf"]["one"] = pen.glyph()
    font["hmtx"]["one"] = (width, 20)
    font.save(FONT)


if __name__ == "__main__":
    main(Path(sys.argv[1]) if len(sys.argv) > 1 else FONT)
