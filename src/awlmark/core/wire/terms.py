"""The outcome of one check over a whole table."""

from __future__ import annotations

import msgspec
import numpy as np
from numpy.typing import NDArray

from awlmark.core.book.edition import Floats, Ints
from awlmark.core.finding import HOLDS, STOP, TIGHT, TIGHT_MARGIN, UNREAD

Flags = NDArray[np.bool_]


class Terms(msgspec.Struct, frozen=True, eq=False):
    """Found and needed of one check, shape (N,) or (N, Z); NaN in ``found`` means the check does not apply."""

    found: Floats
    needed: Floats
    sense: str = "least"
    stepped: bool = False
    advice: bool = False
    """A passed limit is tight, never a stop."""
    near: float = 0.0
    """How far beyond its limit, as a share of it, a measure is still only tight."""
    unknown: Flags | None = None
    """Where a value is missing that the check needs, same shape."""

    def spare(self) -> Floats:
        """Room left, as a share of what is needed; negative where the limit is passed, NaN where it does not apply."""
        share = (self.found - self.needed) / np.where(self.needed == 0, 1.0, np.abs(self.needed))
        result: Floats = share if self.sense == "least" else -share
        return result

    def broken(self) -> Flags:
        """Rows on which the check is a stop, same shape as ``found``."""
        if self.advice:
            return np.zeros(self.found.shape, dtype=bool)
        beyond: Flags = self.spare() < -(self.near + 1e-9)
        return beyond if self.unknown is None else beyond & ~self.unknown

    def unread_cells(self) -> Ints:
        """How many cells of each row miss a value, shape (N,)."""
        if self.unknown is None:
            return np.zeros(len(self.found), dtype=int)
        return self.unknown.astype(int) if self.unknown.ndim == 1 else self.unknown.sum(axis=1)

    def severity(self, at: tuple[int, ...]) -> str:
        """Severity of one cell; empty where the check does not apply."""
        if self.unknown is not None and self.unknown[at]:
            return UNREAD
        spare = float(self.spare()[at])
        if np.isnan(spare):
            return ""
        if spare < -(self.near + 1e-9) and not self.advice:
            return STOP
        if spare < -1e-9 or (not self.stepped and spare < TIGHT_MARGIN - 1e-12):
            return TIGHT
        return HOLDS
