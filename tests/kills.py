"""Kills a working window without a word, again and again, and looks at what is left.

``python -m tests.kills --count 60 --seed 5`` starts a real window on a file of its own, edits in one of four rhythms,
kills it at a moment of chance, and prints for each: edits made, edits lost, seconds of work lost, what is damaged.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import textwrap
import time
from pathlib import Path
from typing import NamedTuple

from awlmark.core.errors import AwlmarkError
from awlmark.core.job import autosave, disk, file
from awlmark.core.job.model import Job
from awlmark.data import demo_job
from tests.support import OFFSCREEN

RHYTHMS = ("typing", "saving", "steady", "held")
"""A row of entries with pauses; saved after each; an edit each 0.2 s; a key held down, as fast as it goes."""
CHILD = textwrap.dedent(
    """
    import hashlib, json, random, sys, time
    from pathlib import Path
    from PySide6.QtCore import Qt, QTimer
    from PySide6.QtTest import QTest
    from awlmark.core.job import file
    from awlmark.desk import start
    from awlmark.desk.session import fresh_job
    rhythm, path, seed = sys.argv[1], Path(sys.argv[2]), int(sys.argv[3])
    application = start.make_application()
    window = start.make_window(fresh_job())
    window.show()
    window.files.open(path)
    chance, number = random.Random(seed), 0
    window.files.ask = lambda title, text, answers: answers[0]

    def tell(**more):
        digest = hashlib.sha256(file.dumps(window.session.job)).hexdigest()
        print(json.dumps({"at": time.time(), "digest": digest, **more}), flush=True)

    def edit():
        global number
        number += 1
        if rhythm == "held":
            down = Qt.Key.Key_Down if number % 40 > 20 else Qt.Key.Key_Up
            QTest.keyClick(window.entry.line, down, Qt.KeyboardModifier.AltModifier)
        else:
            window._commit(f"leg 2 ambient {20 + number % 31}C")
        tell(saved=False)
        if rhythm == "saving":
            window.save()
            tell(saved=not window.session.unsaved)
        pause = {"typing": chance.randrange(150, 900), "saving": 60, "steady": 200, "held": 0}[rhythm]
        QTimer.singleShot(pause, edit)

    QTimer.singleShot(300, edit)
    print("ready", flush=True)
    application.exec()
    """
)


class Kill(NamedTuple):
    """What one kill cost."""

    rhythm: str
    edits: int
    lost: int
    seconds: float
    """From the first edit that is in no file to the kill."""
    damaged: tuple[str, ...]


def _digest(job: Job) -> str:
    return hashlib.sha256(file.dumps(job)).hexdigest()


def kill_once(rhythm: str, seed: int) -> Kill:
    """Start, edit, kill, look."""
    chance = random.Random(f"{rhythm}:{seed}")
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        path = folder / "yard.awlmark"
        file.save_job(demo_job(), path)
        environment = {
            **os.environ, "XDG_STATE_HOME": str(folder / "state"), "XDG_CONFIG_HOME": str(folder / "config"),
            "QT_QPA_PLATFORM": OFFSCREEN,
        }  # fmt: skip
        words = [sys.executable, "-W", "ignore", "-c", CHILD, rhythm, str(path), str(seed)]
        with subprocess.Popen(words, stdout=subprocess.PIPE, env=environment, text=True) as process:
            assert process.stdout is not None
            assert process.stdout.readline() == "ready\n"
            time.sleep(chance.uniform(0.8, 6.0))
            killed = time.time()
            process.send_signal(signal.SIGKILL)
            told = [json.loads(line) for line in process.stdout.read().splitlines() if line.endswith("}")]
        damaged = []
        kept = {_digest(file.read_job(path))}
        if disk.previous_copy(path).exists():
            kept.add(_digest(file.read_job(disk.previous_copy(path))))
        try:
            rescues, unreadable = autosave.left_behind(folder / "state" / "awlmark")
            damaged += [copy.name for copy in unreadable]
            kept |= {_digest(rescue.job) for rescue in rescues}
        except AwlmarkError as problem:
            damaged.append(str(problem))
        newest = max((n for n, each in enumerate(told) if each["digest"] in kept), default=-1)
        on_disk = file.read_job(path)
        saves = [each["digest"] for each in told if each["saved"]]
        if saves and _digest(on_disk) not in (saves[-1], told[-1]["digest"]):
            damaged.append("told saved, and not on the disk")
        lost = told[newest + 1 :]
        if not told:
            damaged.append("nothing was edited")
        return Kill(rhythm, len(told), len(lost), killed - lost[0]["at"] if lost else 0.0, tuple(damaged))


def run() -> int:
    """Run the campaign from the command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    options = parser.parse_args()
    found = [kill_once(RHYTHMS[n % len(RHYTHMS)], options.seed * 1000 + n) for n in range(options.count)]
    for rhythm in RHYTHMS:
        some = [kill for kill in found if kill.rhythm == rhythm]
        worst = max(some, key=lambda kill: kill.seconds)
        seconds = sorted(kill.seconds for kill in some)
        sys.stdout.write(
            f"{rhythm}: {len(some)} kills, lost at most {worst.seconds:.2f} s ({worst.lost} of {worst.edits} edits), "
            f"median {seconds[len(seconds) // 2]:.2f} s, damaged {[kill.damaged for kill in some if kill.damaged]}\n"
        )
    return int(any(kill.damaged or kill.seconds > 1 for kill in found))


if __name__ == "__main__":
    sys.exit(run())
