"""Makes src/awlmark/draw/advances.json from the shipped fonts: advances and kerning pairs, per mille of the size."""

from __future__ import annotations

import json
import os
import string
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtGui import QFontMetricsF, QGuiApplication, QRawFont

from awlmark.ink.fonts import face_font, load_fonts

EXTRA = "°×÷±−–—…·’“”≤≥Ωµ²³½¼¾⅛⅜⅝⅞′″↑↓←→⌀€£¢&éèüöäß%"
TARGET = Path(__file__).parent.parent / "src" / "awlmark" / "draw" / "advances.json"


def main() -> None:
    application = QGuiApplication([])
    load_fonts()
    letters = string.ascii_letters + string.digits + string.punctuation + " " + EXTRA
    found = {}
    for face in ("text", "bold", "draw"):
        metrics = QFontMetricsF(face_font(face, 1000))
        raw = QRawFont.fromFont(face_font(face, 1000))
        own = [letter for letter in letters if raw.supportsCharacter(ord(letter))]
        advance = {letter: round(metrics.horizontalAdvance(letter), 1) for letter in own}
        kern = {}
        for one in advance:
            for other in advance:
                pair = round(metrics.horizontalAdvance(one + other) - advance[one] - advance[other], 1)
                if abs(pair) > 2:
                    kern[one + other] = pair
        found[face] = {"advance": advance, "kern": kern, "metrics": {"widest": max(advance.values())}}
    TARGET.write_text(json.dumps(found, ensure_ascii=False, separators=(",", ":")) + "\n", encoding="utf-8")
    print({face: (len(table["advance"]), len(table["kern"])) for face, table in found.items()})
    del application


if __name__ == "__main__":
    main()
