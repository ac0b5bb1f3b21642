"""Writes PNGs of the main views from the demo job: `python tools/shots.py FOLDER`."""

from __future__ import annotations

import os
import random
import sys
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = f"offscreen:configfile={Path(__file__).parent / 'offscreen.json'}"
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="awlmark-shots-")

from msgspec.structs import replace
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication

from awlmark.core.begin.ways import begin, shipped
from awlmark.core.entry.read import read_entry
from awlmark.core.job.file import save_job
from awlmark.core.job.model import Job
from awlmark.core.prove.instruments import take
from awlmark.core.prove.practice import exercise
from awlmark.core.prove.test import YES, tests_of
from awlmark.core.solve.design import solve
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.session import fresh_job
from awlmark.desk.start import make_application, make_window
from awlmark.desk.window import Window

VIEWS = (
    ("start-light", "start", "light"),
    ("walk-light", "walk", "light"),
    ("open-light", "open", "light"),
    ("need-light", "need", "light"),
    ("panel-light", "panel", "light"),
    ("panel-spaces-light", "panel:spaces", "light"),
    ("place-light", "place", "light"),
    ("run-light", "run", "light"),
    ("wire-light", "wire", "light"),
    ("ways-light", "wire:jobs", "light"),
    ("parts-light", "parts", "light"),
    ("build-light", "build", "light"),
    ("prove-light", "prove", "light"),
    ("practice-light", "prove:practice", "light"),
    ("supply-light", "gb:panel", "light"),
    ("cable-light", "gb:wire", "light"),
    ("cable-dark", "gb:wire", "dark"),
    ("list-light", "gb:parts", "light"),
    ("test-light", "gb:prove", "light"),
)


def settle(application: QApplication) -> None:
    """Let the window paint, price its fixes and come to rest."""
    until = time.monotonic() + 0.5
    while time.monotonic() < until:
        application.processEvents()


def on_site(job: Job) -> Job:
    """The demo some way into the building, with readings off the simulated instruments."""
    entries = [
        "torque panel-G 35 in-lb",
        "torque panel-1 45 in-lb",
        "torque panel-2 45 in-lb",
        "torque charger-1 50 in-lb",
    ]
    entries += (
        ["tight panel-G"] * 3 + ["tight panel-1"] * 2 + ["built 2 22 1", "built 5 64 3", "built 6 3 11", "air 58F"]
    )
    entries += ["torque tool 0417, checked in May", *["done"] * 20]
    for entry in entries:
        job = read_entry(entry, job).job
    design = solve(job)
    for test in tests_of(design)[:-3]:
        job = read_entry(f"read {test.key} {take(design, test):.4f} {test.unit}", job).job
        if test.key == "charger 1-G":
            for entry in ("strike 14 probe on paint", f"read {test.key} 120.1 V"):
                job = read_entry(entry, job).job
    return job


def begun(window: Window, view: str, application: QApplication) -> None:
    """The start sheet with the demo on its shelf, the walk half way, or what is open once it is walked."""
    if view == "start":
        shelf = Path(os.environ["XDG_STATE_HOME"]) / "jobs"
        shelf.mkdir(exist_ok=True)
        broken = read_entry("name Malt kiln, hoist yard", read_entry("breaker 45", demo_job()).job).job
        for name, job in (("cider-yard", demo_job()), ("malt-kiln", broken), ("bell-foundry", demo_job(FOUNDRY))):
            save_job(job, shelf / f"{name}.awlmark")
        window.sheet.shelf.put_folder(shelf)
        window.session.open(fresh_job(), None)
        window.session.see(start=True)
        while any(row.summary is None for row in window.sheet.shelf.rows()):
            settle(application)
        return
    way = shipped()[3].job
    assert way is not None
    window.session.open(read_entry("name Malt house, cart door", begin(way)).job, None)
    if view == "walk":
        window.walking.begin()
        for _ in range(6):
            window.walking.answer("")
    else:
        window.session.see(stage="wire")


def british(window: Window, stage: str) -> None:
    """The British demo at a stage, with the dead tests read off the simulated instruments."""
    job = demo_job(FOUNDRY)
    if stage == "prove":
        design = solve(job)
        random.seed(8)
        for test in tests_of(design)[:13]:
            value = take(design, test)
            said = ("yes" if value else "no") if test.unit == YES else f"{value:.4f} {test.unit}"
            job = read_entry(f"read {test.key} {said}", job).job
    window.session.put_away()
    window.session.open(job, None)
    window.session.see(stage=stage, at_m=14.0, page="")


def main(folder: Path, width: int = 1280, height: int = 800) -> list[Path]:
    """Write one PNG a view; returns their paths."""
    folder.mkdir(parents=True, exist_ok=True)
    application = make_application()
    settings = QSettings(str(Path(os.environ["XDG_STATE_HOME"]) / "shots.ini"), QSettings.Format.IniFormat)
    job = demo_job()
    window = make_window(job, settings=settings)
    window.resize(width, height)
    window.show()
    made = []
    for name, stage, mode in VIEWS:
        getattr(window, f"go_{mode}")()
        if stage in ("start", "walk", "open"):
            begun(window, stage, application)
            settle(application)
            window.grab().save(str(folder / f"{name}.png"))
            made.append(folder / f"{name}.png")
            window.session.put_away()
            window.session.open(job, None)
            continue
        if stage.startswith("gb:"):
            british(window, stage.partition(":")[2])
            settle(application)
            window.grab().save(str(folder / f"{name}.png"))
            made.append(folder / f"{name}.png")
            continue
        stage, _, page = stage.partition(":")
        window.session.see(
            stage=stage, at_m=18.288, page=page or "amps", parts_page=page or "sticks", wire_page=page or "bores"
        )
        if stage in ("build", "prove"):
            window.session.apply("on site", on_site(job))
            random.seed(8)
            if page == "practice":
                window.practise()
                window.session.see(
                    practice=replace(window.session.look.practice, exercise=exercise(11, 1, window.session.design.book))
                )
            window.session.see(probes=("charger 1", "charger 2"), bench_closed=True, bench_amps=True, at_m=0.0)
        settle(application)
        path = folder / f"{name}.png"
        window.grab().save(str(path))
        made.append(path)
        if stage in ("build", "prove"):
            window.session.undo()
    window.session.put_away()
    return made


if __name__ == "__main__":
    for path in main(Path(sys.argv[1]), *(int(size) for size in sys.argv[2:4])):
        print(path)
