"""Moving and stretching what stands on the floor."""

from __future__ import annotations

from awlmark.core.job.edit import Put, value_at
from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M


def _snapped(metres: float, job: Job) -> float:
    """To the inch, or to the centimetre in a metric job."""
    snap = INCH_M if job.units == "ft" else 0.01
    return round(round(metres / snap) * snap, 4)


def moved(job: Job, path: str, east_m: float, north_m: float) -> tuple[Put, ...]:
    """Edits that move an area, a thing, a spot or a bay.

    Parameters
    ----------
    job : Job
        The document.
    path : str
        Of what is moved, such as ``site.pins[a]``.
    east_m, north_m : float
        How far [m].
    """
    x, y = value_at(job, f"{path}.x_m") + east_m, value_at(job, f"{path}.y_m") + north_m
    return Put(f"{path}.x_m", _snapped(x, job)), Put(f"{path}.y_m", _snapped(y, job))


def resized(job: Job, path: str, east_m: float, north_m: float) -> tuple[Put, ...]:
    """Edits that move the south-east corner of an area or a thing; its other corner stays."""
    least = INCH_M if job.units == "ft" else 0.02
    wide = max(_snapped(value_at(job, f"{path}.wide_m") + east_m, job), least)
    was, south = value_at(job, f"{path}.deep_m"), value_at(job, f"{path}.y_m")
    deep = max(_snapped(was - north_m, job), least)
    return Put(f"{path}.wide_m", wide), Put(f"{path}.deep_m", deep), Put(f"{path}.y_m", round(south + was - deep, 4))
