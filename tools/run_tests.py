"""Runs the modules of tests in processes, as many at a time as the machine has processors.

A large module has a process of its own; small ones of one folder share one, for starting one takes longer than they do.

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
SHARED = {"tests.core": 5, "tests.outside": 5, "tests.draw": 5, "tests.paper": 2, "tests.desk": 3}
"""Small modules to a process, by folder."""
KEEPS = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
"""Each of the many processes that a run starts would read every module anew where nothing compiled is kept."""
SMALL = 16_000
"""Bytes of a small module."""


def modules() -> list[str]:
    """Every module of tests, the largest first: what takes long had better not begin last."""
    found = sorted((ROOT / "tests").rglob("test_*.py"), key=lambda path: -path.stat().st_size)
    return [".".join(path.relative_to(ROOT).with_suffix("").parts) for path in found]


def batches(wanted: list[str]) -> list[str]:
    """Modules by process, those of one joined by blanks, in their order."""
    found: list[str] = []
    small: dict[str, list[str]] = {}
    for module in wanted:
        folder = module.rpartition(".")[0]
        path = ROOT / f"{module.replace('.', '/')}.py"
        if folder in SHARED and path.is_file() and path.stat().st_size < SMALL:
            small.setdefault(folder, []).append(module)
        else:
            found.append(module)
    shared = [
        " ".join(together[start : start + SHARED[folder]])
        for folder, together in small.items()
        for start in range(0, len(together), SHARED[folder])
    ]
    return shared + found


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
            print(f"{number:3} {module}: {ran} tests, {seconds:.1f} s{'' if status == 0 else ', FAILED'}", flush=True)
            if status or not counted:
                failed.append(module)
                print(said, flush=True)
    print(f"{tests} tests in {time.monotonic() - began:.0f} s: {'FAILED ' + ', '.join(failed) if failed else 'ok'}")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())
