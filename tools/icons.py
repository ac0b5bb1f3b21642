"""Writes the program's icon as PNG in the usual sizes: `python tools/icons.py HICOLOR`."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Final

from PySide6.QtGui import QGuiApplication

from awlmark.desk.start import icon

SIZES: Final = (16, 22, 24, 32, 48, 64, 128, 256)


def main(folder: Path) -> None:
    """Write one PNG a size."""
    for size in SIZES:
        place = folder / f"{size}x{size}" / "apps" / "awlmark.png"
        place.parent.mkdir(parents=True, exist_ok=True)
        picture = icon().pixmap(size, size)
        if picture.isNull() or not picture.save(str(place)):
            raise SystemExit(f"The icon could not be drawn at {size} pixels.")


if __name__ == "__main__":
    application = QGuiApplication(sys.argv[:1])
    main(Path(sys.argv[1]))
