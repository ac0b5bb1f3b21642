"""Starts the demo: a window where there is a display, PNGs of the main views in build/shots/ where there is none."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parent.parent


def main() -> int:
    """Run the demo; returns its exit status."""
    if os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"):
        return subprocess.run([sys.executable, "-m", "awlmark", "demo"], check=False).returncode
    print("No display: drawing the demo offscreen.")
    shots = ROOT / "build" / "shots"
    status = subprocess.run([sys.executable, str(ROOT / "tools" / "shots.py"), str(shots)], check=False).returncode
    job = ROOT / "src" / "awlmark" / "data" / "cider-yard.awlmark"
    status = status or subprocess.run([sys.executable, "-m", "awlmark", "check", str(job)], check=False).returncode
    if status == 0:
        print(f"The main views of the demo are in {shots.relative_to(ROOT)}/. With a display this opens the window.")
    return status


if __name__ == "__main__":
    sys.exit(main())
