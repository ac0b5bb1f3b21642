"""Measures how quick the program is: every figure a ratio against a baseline taken in turn in the same run.

Machines are shared and change their pace from minute to minute; a ratio does not. Absolute times stand beside it.
"""

from __future__ import annotations

import compileall
import contextlib
import csv
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from xml.parsers import expat

import numpy as np

STAGES = ("need", "panel", "place", "run", "wire", "parts", "build", "prove")
ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))
STATE = tempfile.mkdtemp(prefix="awlmark-bench-")
OFFSCREEN = f"offscreen:configfile={ROOT / 'tools' / 'offscreen.json'}"
ENVIRONMENT = {**os.environ, "QT_QPA_PLATFORM": OFFSCREEN, "XDG_STATE_HOME": STATE, "XDG_CONFIG_HOME": STATE}
# Installed packages are compiled beforehand; so must ours be, or every start would compile them.
ENVIRONMENT.pop("PYTHONDONTWRITEBYTECODE", None)

BARE = """
from PySide6.QtWidgets import QApplication, QWidget
class W(QWidget):
    def paintEvent(self, event):
        super().paintEvent(event)
        QApplication.instance().painted = True
a = QApplication([])
a.painted = False
w = W()
w.resize(1280, 800)
w.show()
while not a.painted:
    a.processEvents()
"""
DEMO = """
import gc
gc.disable()  # as the command does
from PySide6.QtWidgets import QApplication
from awlmark.desk.start import show
w = show(True)
a = QApplication.instance()
a.painted = False
from PySide6.QtCore import QEvent, QObject
class Eye(QObject):
    def eventFilter(self, thing, event):
        if event.type() == QEvent.Type.Paint:
            a.painted = True
        return False
eye = Eye()
w.scenes.drawing.canvas.installEventFilter(eye)
while not a.painted:
    a.processEvents()
a.processEvents()
"""
WIDE = """
from awlmark.core.options import compare
from awlmark.data import demo_job
import numpy, time
narrow = compare.span_wide
def widened(count):
    # The rows of the demo over and over: as many as asked, each worked out anew.
    def wide(case, breakers):
        table = narrow(case, 25)
        times = max(1, round(count / 7 / len(table.hot)))  # seven methods
        groups = len(table.breaker_a)
        rows = ("breaker_a", "material", "insulation", "hot")
        return compare.Table(
            case=case,
            **{name: numpy.tile(getattr(table, name), times) for name in rows},
            group=numpy.concatenate([table.group + groups * number for number in range(times)]),
        )
    return wide
def seconds(count):
    compare.span_wide = widened(count)
    began = time.perf_counter()
    found = compare.compare(demo_job())
    return (time.perf_counter() - began) * count / found.candidates
"""
PEAK = """
import resource
print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)
import os
os._exit(0)
"""


def wide(count: int) -> tuple[float, int]:
    """Time to compare so many candidates [s] and the peak memory of a process that does [KiB]."""
    out = subprocess.run(
        [sys.executable, "-c", f"{WIDE}\nseconds(9000)\nprint(seconds({count}))" + PEAK],
        env=ENVIRONMENT, capture_output=True, text=True, check=True,
    )  # fmt: skip
    taken, peak = out.stdout.split()
    return float(taken), int(peak)


def child(script: str) -> tuple[float, int]:
    """Wall time [s] and peak memory [KiB] of a script in a process of its own."""
    began = time.perf_counter()
    out = subprocess.run(
        [sys.executable, "-c", script + PEAK], env=ENVIRONMENT, capture_output=True, text=True, check=True
    )
    return time.perf_counter() - began, int(out.stdout.split()[-1])


def alternate(one: Callable[[], float], other: Callable[[], float], rounds: int) -> tuple[float, float]:
    """Medians of two measurements taken in turns, so that both see the same machine."""
    pairs = [(one(), other()) for _ in range(rounds)]
    return statistics.median(a for a, _ in pairs), statistics.median(b for _, b in pairs)


def whole_process(words: list[str]) -> float:
    """Wall time of one command [s]."""
    began = time.perf_counter()
    subprocess.run(words, env=ENVIRONMENT, check=True, capture_output=True)
    return time.perf_counter() - began


def checks(rows: int, sections: int) -> Callable[[], None]:
    """The fixed piece of NumPy work: 25 vectorised checks over a table of so many rows and sections."""
    dice = np.random.default_rng(7)
    found, needed = dice.uniform(1, 9, (25, rows, sections)), dice.uniform(1, 9, (25, rows, sections))

    def work() -> None:
        stops, shortfall = np.zeros(rows, dtype=int), np.zeros(rows)
        for one, limit in zip(found, needed, strict=True):
            spare = (one - limit) / np.where(limit == 0, 1.0, np.abs(limit))
            broken = spare < -1e-9
            stops += broken.sum(axis=1)
            np.maximum(shortfall, np.where(broken, -spare, 0.0).max(axis=1), out=shortfall)

    return work


def seconds(work: Callable[[], object]) -> float:
    """Wall time of a piece of work [s]."""
    began = time.perf_counter()
    work()
    return time.perf_counter() - began


Row = tuple[str, float, float, float]
"""What, found and baseline [s], and the ratio that is wanted."""


def edits() -> list[Row]:
    """Edit to repaint of all regions by stage against painting the whole window once; and solve() alone."""
    os.environ.update(ENVIRONMENT)
    from tests.core.test_bs_job import yard
    from tests.support import legs

    from awlmark.core.job.edit import Put, put
    from awlmark.core.options.compare import compare
    from awlmark.core.solve.design import solve
    from awlmark.data import demo_job
    from awlmark.desk.start import make_application, make_window, settled

    application = make_application()
    window = make_window(demo_job())
    window.resize(1280, 800)
    window.show()
    settled()  # as the desk does once it stands
    found: list[Row] = []

    def edited(stage: str, name: str, wanted: tuple[float, float]) -> None:
        window.session.see(stage=stage)
        for _ in range(8):
            application.processEvents()
        taken, painted = [], []
        for number in range(90):
            job = put(window.session.job, Put("legs[leg-2].length_m", 5 + 0.013 * number))
            began = time.perf_counter()
            window.session.apply("bench", job)
            application.processEvents()
            took = time.perf_counter() - began
            for _ in range(3):
                application.processEvents()
            once = seconds(window.grab)
            if number >= 10:
                taken.append(took)
                painted.append(once)
        whole = statistics.median(painted)
        found.append((f"edit to repaint, {name}, median", statistics.median(taken), whole, wanted[0]))
        found.append((f"edit to repaint, {name}, p95", statistics.quantiles(taken, n=20)[-1], whole, wanted[1]))

    for stage in STAGES:
        edited(stage, stage, (0.5, 0.8))
    rows = [("right", 3, "body"), ("up", 1, "corner"), ("right", 3, "box"), ("down", 1, "body")] * 50
    window.session.open(demo_job().with_run(legs=legs(*rows[:-1], ("down", 1, "charger"))), None)
    edited("run", "200 legs", (1.2, 1.2))
    job = demo_job()
    design = solve(job)
    assert design.evaluated is not None
    work = checks(len(design.evaluated.stops), len(design.line.sections))
    solved, plain = alternate(lambda: seconds(lambda: solve(job)), lambda: seconds(work), 200)
    found.append(("solve() against 25 checks of its table", solved, plain, 1.0))
    british = yard()
    one, other = alternate(lambda: seconds(lambda: solve(british)), lambda: seconds(lambda: solve(job)), 60)
    found.append(("solve() of a British job, of the demo", one, other, 1.0))
    opened = put(british, Put("circuit.breaker_a", None))
    one, other = alternate(lambda: seconds(lambda: compare(opened)), lambda: seconds(lambda: compare(job)), 5)
    found.append(("compare a British job, the demo", one, other, 1.0))
    window.session.put_away()
    return found


def read_plainly(path: Path, kind: str) -> None:
    """The file read and its numbers converted, nothing else."""
    if kind == "CSV":
        with path.open(encoding="utf-8", newline="") as file:
            for row in csv.reader(file):
                with contextlib.suppress(ValueError):
                    float(row[-1])
        return
    parser, texts = expat.ParserCreate(), []
    parser.buffer_text = True
    parser.CharacterDataHandler = texts.append
    parser.Parse(path.read_bytes(), True)
    for text in texts:
        with contextlib.suppress(ValueError):
            float(text)


def years() -> list[Row]:
    """Reading a year of quarter-hours, comparing 100,000 candidates, and a year worked out."""
    from tests.core.test_meter import espi

    from awlmark.core.books import open_book
    from awlmark.core.entry.cars import add_car
    from awlmark.core.job.edit import put
    from awlmark.core.need.charging import simulate_year
    from awlmark.core.panel.load_management import invented_for, load_year
    from awlmark.core.panel.meter import read_meter
    from awlmark.core.panel.meter_data import write_csv
    from awlmark.data import demo_job

    job = demo_job()
    year, found = invented_for(job), list[Row]()
    path = Path(tempfile.mkstemp(suffix=".data")[1])
    for kind, text in (("CSV", write_csv(year)), ("XML", espi(year))):
        path.write_text(text, encoding="utf-8")
        read, plain = alternate(
            lambda: seconds(lambda: read_meter(path)),
            lambda kind=kind: seconds(lambda: read_plainly(path, kind)),  # type: ignore[misc]
            5,
        )
        found.append((f"a year of quarter-hours, {kind}", read, plain, 1.5))
    path.unlink()
    pass_over = checks(100_000, 6)
    many, plain = alternate(lambda: wide(100_000)[0], lambda: seconds(pass_over), 3)
    found.append(("compare, 100,000 candidates", many, plain, 3.0))
    two, portable = put(job, *add_car(job)).need, open_book(job.code).portable
    amps = iter(range(20, 40))
    small = checks(10_000, 6)
    driven, plain = alternate(lambda: seconds(lambda: simulate_year(two, 240.0, portable)), lambda: seconds(small), 5)
    found.append(("a year of driving, two cars", driven, plain, 2.0))
    held, plain = alternate(lambda: seconds(lambda: load_year(job, year, float(next(amps)))), lambda: seconds(small), 5)
    found.append(("a year of management", held, plain, 1.0))
    return found


def main() -> None:
    """Measure and print."""
    compileall.compile_dir(ROOT / "src", quiet=1)
    memory: dict[str, int] = {}

    def timed(name: str, script: str) -> float:
        taken, memory[name] = child(script)
        return taken

    bare, demo = alternate(lambda: timed("bare", BARE), lambda: timed("demo", DEMO), 9)
    numpy = [sys.executable, "-c", "import numpy"]
    size = [sys.executable, "-m", "awlmark", "size", "--charge-a", "48", "--length", "120ft"]
    plain, sized = alternate(lambda: whole_process(numpy), lambda: whole_process(size), 15)
    rows: list[Row] = [("cold start to a painted demo, bare window", demo, bare, 2.0)]
    rows += [("awlmark size, import numpy", sized, plain, 1.3), *edits(), *years()]
    print(f"{'what':44} {'found':>10} {'baseline':>10}  {'ratio':>6}  wanted")
    peak = memory["demo"] / memory["bare"]
    mark = "" if peak <= 1.8 else "  over"
    sizes = f"{memory['demo'] / 1024:>6.0f} MiB {memory['bare'] / 1024:>6.0f} MiB"
    print(f"{'peak memory of the demo desk, bare window':44} {sizes}  {peak:6.2f}  1.8{mark}")
    for what, found, against, wanted in rows:
        ratio = found / against
        mark = "" if ratio <= wanted else "  over"
        print(f"{what:44} {found * 1000:>7.2f} ms {against * 1000:>7.2f} ms  {ratio:6.2f}  {wanted:.1f}{mark}")


if __name__ == "__main__":
    main()
