"""Runs the modules of tests in processes, as many at a time as the machine has processors.

Modules of one folder share a process as far as it has room, for starting one takes longer than many of them do.

``python tools/run_tests.py [MODULE ...]``; exit status 1 where a test fails, and then what its module said.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor, as_completed
from pathlib import Path

ROOT = Path(__file__).parent.parent
ROOM = {"tests.core": 110_000, "tests.desk": 50_000}
"""Bytes of modules to a process, by folder."""
USUAL_ROOM = 80_000
KEEPS = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
"""Each of the many processes that a run starts would read every module anew where nothing compiled is kept."""


def modules() -> list[str]:
    """Every module of tests, the largest first: what takes long had better not begin last."""
    found = sorted((ROOT / "tests").rglob("test_*.py"), key=lambda path: -path.stat().st_size)
    return [".".join(path.relative_to(ROOT).with_suffix("").parts) for path in found]


def batches(wanted: list[str]) -> list[str]:
    """Modules by process, those of one joined by blanks; the fullest process first."""
    found: list[tuple[int, list[str]]] = []
    open_ones: dict[str, tuple[int, list[str]]] = {}
    for module in wanted:
        folder = module.rpartition(".")[0]
        path = ROOT / f"{module.replace('.', '/')}.py"
        size = path.stat().st_size if path.is_file() else 0
        filled, together = open_ones.get(folder, (0, []))
        if together and filled + size > ROOM.get(folder, USUAL_ROOM):
            found.append((filled, together))
            filled, together = 0, []
        open_ones[folder] = filled + size, [*together, module]
    return [" ".join(together) for _size, together in sorted([*found, *open_ones.values()], key=lambda one: -one[0])]


def run(modules: str) -> tuple[int, str, float]:
    """Exit status, output and seconds of the modules of one process."""
    began = time.monotonic()
    words = [sys.executable, "-W", "error", "-m", "unittest", *modules.split()]
    done = subprocess.run(words, cwd=ROOT, capture_output=True, text=True, errors="replace", check=False, env=KEEPS)
    return done.returncode, done.stdout + done.stderr, time.monotonic() - began


def main() -> int:
    """Run them; returns the exit status."""
    wanted = batches(sys.argv[1:] or modules())
    workers = len(os.sched_getaffinity(0))
    print(f"{len(wanted)} processes of tests, {workers} at a time", flush=True)
    began, tests, failed = time.monotonic(), 0, []
    with ThreadPoolExecutor(workers) as pool:
        waiting = {pool.submit(run, module): module for module in wanted}
        for number, one in enumerate(as_completed(waiting), 1):
            module = waiting[one]
            status, said, seconds = one.result()
            counted = re.search(r"^Ran (\d+) tests?", said, re.MULTILINE)
            tests += int(counted[1]) if counted else 0
            ran = counted[1] if counted else "no"
            name, how = module.replace("tests.", ""), "" if status == 0 else ", FAILED"
            print(f"{number:3} {name}: {ran} tests, {seconds:.1f} s{how}", flush=True)
            if status or not counted:
                failed.append(module)
                print(said, flush=True)
    print(f"{tests} tests in {time.monotonic() - began:.0f} s: {'FAILED ' + ', '.join(failed) if failed else 'ok'}")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
