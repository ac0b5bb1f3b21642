"""Writes PNGs of the main views from the demo job: `python tools/shots.py FOLDER`."""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="awlmark-shots-")

from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from awlmark.core.job.edit import put
from awlmark.core.job.model import SYSTEMS
from awlmark.core.panel.manage import invented_for
from awlmark.core.panel.metered import demand_edits
from awlmark.data import demo_job
from awlmark.desk.start import make_application, make_window

VIEWS = (
    ("need-light", "need", "light"),
    ("panel-light", "panel", "light"),
    ("panel-spaces-light", "panel:spaces", "light"),
    ("panel-year-light", "panel:year", "light"),
    ("place-light", "place", "light"),
    ("run-light", "run", "light"),
    ("wire-light", "wire", "light"),
    ("parts-light", "parts", "light"),
    ("quote-light", "parts:quote", "light"),
    ("wire-dark", "wire", "dark"),
)


def settle(application: QApplication) -> None:
    """Let the window paint and price its fixes."""
    until = time.monotonic() + 0.1
    while time.monotonic() < until:
        application.processEvents()


def main(folder: Path, width: int = 1280, height: int = 800) -> list[Path]:
    """Write one PNG a view; returns their paths."""
    folder.mkdir(parents=True, exist_ok=True)
    application = make_application()
    settings = QSettings(str(Path(os.environ["XDG_STATE_HOME"]) / "shots.ini"), QSettings.Format.IniFormat)
    job = demo_job()
    year = demand_edits(invented_for(job), SYSTEMS[job.supply.system][0], "an invented year")
    with_year = put(job, *(edit for edit in year if edit.path == "meter"))
    window = make_window(job, settings=settings)
    window.resize(width, height)
    window.show()
    made = []
    for name, stage, mode in VIEWS:
        getattr(window, f"go_{mode}")()
        stage, _, page = stage.partition(":")
        window.session.see(stage=stage, at_m=18.288, page=page or "amps", parts_page=page or "sticks")
        if page == "year":
            window.session.apply("meter data", with_year)
        settle(application)
        path = folder / f"{name}.png"
        window.grab().save(str(path))
        made.append(path)
        if page == "year":
            window.session.undo()
    window.session.put_away()
    return made


if __name__ == "__main__":
    for path in main(Path(sys.argv[1]), *(int(size) for size in sys.argv[2:4])):
        print(path)
