"""Jobs that ship: the cider yard."""

from __future__ import annotations

from importlib import resources

from awlmark.core.job.file import loads
from awlmark.core.job.model import Job


def demo_job() -> Job:
    """The shipped demo: "Cider yard, north bay"."""
    return loads((resources.files("awlmark.data") / "cider-yard.awlmark").read_bytes(), "The demo")
