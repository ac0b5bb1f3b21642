"""Jobs that ship: the cider yard."""

from __future__ import annotations

from pathlib import Path

from awlmark.core.job.file import loads
from awlmark.core.job.model import Job


def demo_job() -> Job:
    """The shipped demo: "Cider yard, north bay"."""
    return loads((Path(__file__).parent / "cider-yard.awlmark").read_bytes(), "The demo")
