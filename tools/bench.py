"""Measures the ratios of docs/architecture.md, each against its baseline in the same run, and prints one table."""

from __future__ import annotations

import compileall
import itertools
import math
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

SLOWED = 1.15
"""Past this share of its fastest pace the machine is not at full speed."""
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


def pace() -> float:
    """Time of a fixed piece of plain Python [ms]: a machine that others use too does not always run at full speed."""
    began, total = time.perf_counter(), 0
    for number in range(10_000):
        total += number * number % 7
    return (time.perf_counter() - began) * 1000


class Paced:
    """Times taken, each between two paces of the machine."""

    def __init__(self) -> None:
        self.taken: list[float] = []
        self.paces = [pace()]

    def add(self, milliseconds: float) -> None:
        """One time, measured just now."""
        self.taken.append(milliseconds)
        self.paces.append(pace())

    def told(self, fastest: float) -> tuple[float, float, float]:
        """95th percentile of what was measured at full speed and of all [ms], and the share at full speed."""
        full = [
            each
            for each, around in zip(self.taken, itertools.pairwise(self.paces), strict=True)
            if max(around) <= SLOWED * fastest
        ]
        most = [statistics.quantiles(times, n=20)[-1] if len(times) > 1 else math.nan for times in (full, self.taken)]
        return most[0], most[1], len(full) / len(self.taken)


def edits() -> tuple[dict[str, tuple[float, float, float]], float]:
    """Edit to repaint of all regions by stage, as :meth:`Paced.told`; and solve() alone, median [ms]."""
    os.environ.update(ENVIRONMENT)
    from tests.support import legs

    from awlmark.core.job.edit import Put, put
    from awlmark.core.solve.design import solve
    from awlmark.data import demo_job
    from awlmark.desk.start import make_application, make_window, settled

    application = make_application()
    window = make_window(demo_job())
    window.resize(1280, 800)
    window.show()
    settled()  # as the desk does once it stands
    found: dict[str, Paced] = {}

    def edited(stage: str) -> Paced:
        window.session.see(stage=stage)
        for _ in range(8):
            application.processEvents()
        taken = Paced()
        for number in range(120):
            job = put(window.session.job, Put("legs[leg-2].length_m", 5 + 0.013 * number))
            began = time.perf_counter()
            window.session.apply("bench", job)
            application.processEvents()
            took = (time.perf_counter() - began) * 1000
            for _ in range(3):
                application.processEvents()
            if number >= 10:
                taken.add(took)
            elif number == 9:
                taken.paces = [pace()]
        return taken

    for stage in STAGES:
        found[stage] = edited(stage)
    rows = [("right", 3, "body"), ("up", 1, "corner"), ("right", 3, "box"), ("down", 1, "body")] * 50
    window.session.open(demo_job().with_run(legs=legs(*rows[:-1], ("down", 1, "charger"))), None)
    found["200 legs"] = edited("run")
    job, taken = demo_job(), []
    for _ in range(300):
        began = time.perf_counter()
        solve(job)
        taken.append((time.perf_counter() - began) * 1000)
    window.session.put_away()
    fastest = statistics.quantiles([each for paced in found.values() for each in paced.paces], n=20)[0]
    return {name: paced.told(fastest) for name, paced in found.items()}, statistics.median(taken)


def years() -> list[tuple[str, float, float]]:
    """Reading a year of quarter-hours, and working out a year of driving: what, found and limit [s]."""
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
    year, found = invented_for(job), []
    path = Path(tempfile.mkstemp(suffix=".data")[1])

    def median(work: Callable[[], object]) -> float:
        taken = []
        for _ in range(5):
            began = time.perf_counter()
            work()
            taken.append(time.perf_counter() - began)
        return statistics.median(taken)

    for kind, text in (("CSV", write_csv(year)), ("XML", espi(year))):
        path.write_text(text, encoding="utf-8")
        found.append((f"a year of quarter-hours, {kind}", median(lambda: read_meter(path)), 1.0))
    path.unlink()
    many = statistics.median(wide(100_000)[0] for _ in range(3))
    found.append(("compare, 100,000 rows, the demo's repeated", many, 1.0))
    two = put(job, *add_car(job)).need
    found.append(
        ("a year of driving, two cars", median(lambda: simulate_year(two, 240.0, open_book(job.code).portable)), 0.1)
    )
    amps = iter(range(20, 40))
    found.append(("a year of management", median(lambda: load_year(job, year, float(next(amps)))), 0.05))
    return found


def main() -> None:
    """Measure and print."""
    compileall.compile_dir(ROOT / "src", quiet=1)
    rows = []
    memory: dict[str, int] = {}

    def timed(name: str, script: str) -> float:
        seconds, memory[name] = child(script)
        return seconds

    bare, demo = alternate(lambda: timed("bare", BARE), lambda: timed("demo", DEMO), 9)
    rows.append(
        (
            "cold start to first painted demo window",
            f"{demo * 1000:.0f} ms",
            f"{bare * 1000:.0f} ms bare window",
            demo / bare,
            2.5,
        )
    )
    ratio = memory["demo"] / memory["bare"]
    rows.append(
        (
            "peak memory of the demo desk",
            f"{memory['demo'] / 1024:.0f} MiB",
            f"{memory['bare'] / 1024:.0f} MiB bare window",
            ratio,
            2.5,
        )
    )
    numpy = [sys.executable, "-c", "import numpy"]
    size = [sys.executable, "-m", "awlmark", "size", "--charge-a", "48", "--length", "120ft"]
    plain, sized = alternate(lambda: whole_process(numpy), lambda: whole_process(size), 15)
    rows.append(
        (
            "awlmark size, whole process",
            f"{sized * 1000:.0f} ms",
            f"{plain * 1000:.0f} ms import numpy",
            sized / plain,
            2.0,
        )
    )
    measured, solved = edits()
    for stage, (full, every, share) in measured.items():
        against = f"16 ms; {full:.1f} in {share:.0%}"
        rows.append((f"edit to repaint, {stage}, p95", f"{every:.1f} ms", against, every / 16, 1.0))
    rows.append(("solve(), median", f"{solved:.2f} ms", "3 ms", solved / 3, 1.0))
    for what, seconds, limit in years():
        rows.append((what, f"{seconds * 1000:.0f} ms", f"{limit * 1000:.0f} ms", seconds / limit, 1.0))
    seconds, peak = wide(1_000_000)
    rows.append(("compare, a million rows, repeated", f"{seconds * 1000:.0f} ms", "10000 ms", seconds / 10, 1.0))
    rows.append(("compare, a million, peak memory", f"{peak / 1024:.0f} MiB", "400 MiB", peak / 1024 / 400, 1.0))
    print(f"{'what':42} {'found':>10}  {'against':>26}  {'ratio':>6}  limit")
    for what, found, against, share, limit in rows:
        print(f"{what:42} {found:>10}  {against:>26}  {share:6.2f}  {limit:.1f}{'' if share <= limit else '  over'}")
    print(
        "Edits: behind the limit stands what the same is in the share made while the machine ran at its own full speed."
    )


if __name__ == "__main__":
    main()
