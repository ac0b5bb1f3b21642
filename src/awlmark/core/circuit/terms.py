"""The outcome of one check over a whole table."""

from __future__ import annotations

import msgspec
import numpy as np

from awlmark.core.arrays import Flags, Floats
from awlmark.core.finding import ROUNDING, UNREAD, grade


class Terms(msgspec.Struct, frozen=True, eq=False):
    """Found and needed of one check, shape (N,) or (N, Z); NaN in ``found`` means the check does not apply."""

    found: Floats
    needed: Floats
    sense: str = "least"
    stepped: bool = False
    advice: bool = False
    """A passed limit is tight, never a stop."""
    near: float | Floats = 0.0
    """How far beyond its limit, as a share of it, a measure is still only tight; a number, or of the same shape."""
    unknown: Flags | None = None
    """Where a value is missing that the check needs, same shape."""

    def spare(self) -> Floats:
        """Room left, as a share of what is needed; negative where the limit is passed, NaN where it does not apply."""
        room = self.found - self.needed if self.sense == "least" else self.needed - self.found
        result: Floats = room / np.where(self.needed == 0, 1.0, np.abs(self.needed))
        return result

    def broken(self, spare: Floats) -> Flags:
        """Where the check is a stop, same shape as ``found``, from :meth:`spare`."""
        if self.advice:
            return np.zeros(self.found.shape, dtype=bool)
        beyond: Flags = spare < -(self.near + ROUNDING)
        return beyond if self.unknown is None else beyond & ~self.unknown

    def severity(self, at: tuple[int, ...]) -> str:
        """Severity of one cell; empty where the check does not apply."""
        if self.unknown is not None and self.unknown[at]:
            return UNREAD
        found, needed = float(self.found[at]), float(self.needed[at])
        if found != found:
            return ""
        near = self.near if isinstance(self.near, float) else float(self.near[at])
        return grade(found, needed, self.sense, advice=self.advice, stepped=self.stepped, near=near)
