"""What a check says: found, needed, why, the clause, and edits that would mend it."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Final

import msgspec

from awlmark.core.job.edit import Put

HOLDS: Final = "holds"
NOTE: Final = "note"
TIGHT: Final = "tight"
UNREAD: Final = "unread"
STOP: Final = "stop"
RANK: Final = {STOP: 0, UNREAD: 1, TIGHT: 2, NOTE: 3, HOLDS: 4}
"""Worst first."""
TIGHT_MARGIN: Final = 0.05
"""A continuous measure with less than this to spare is tight."""
ROUNDING: Final = 1e-9
"""Share of a limit that the rounding of sums may take without passing it."""


LOWER: Final = "lower"
"""A fix that lowers the charging current."""


class Fix(msgspec.Struct, gc=False, frozen=True):
    """A way out: a short label and the edits that take it."""

    label: str
    edits: tuple[Put, ...]
    kind: str = ""
    """What it does, where somebody goes by that: :data:`LOWER`; never read off the label."""


class Finding(msgspec.Struct, gc=False, frozen=True):
    """One check of one design, in words and numbers."""

    id: str
    severity: str
    title: str
    text: str
    cite: str
    found: float | None = None
    needed: float | None = None
    unit: str = ""
    sense: str = "least"
    """``least``: found must reach needed; ``most``: found must stay below it."""
    sums: tuple[str, ...] = ()
    """The sum behind it, a line each."""
    at_m: float | None = None
    """Where on the tape [m]; None for the circuit as a whole."""
    where: str = ""
    """Id of what it is about: a leg, ``panel``, ``charger``, or nothing."""
    stage: str = "wire"
    fixes: tuple[Fix, ...] = ()
    ask: str = ""
    """Start of the typed entry that supplies the missing value, such as ``leg 5 ambient ``; empty if a fix exists."""
    overruled: bool = False
    """Whether it is a broken rule that the user set aside."""
    site: bool = False
    """Whether only a visit to the site answers it: a bare quote lists it as not asked, a whole job as unread."""

    @property
    def broken(self) -> bool:
        """Whether a mandatory rule is broken."""
        return self.severity == STOP


def worst(findings: Iterable[Finding]) -> str:
    """Worst severity among findings; ``holds`` when there are none."""
    return worst_of(finding.severity for finding in findings)


def worst_of(severities: Iterable[str]) -> str:
    """The worst of some severities; empty ones (a check that does not apply) are left out, ``holds`` when none is."""
    return min(filter(None, severities), key=RANK.__getitem__, default=HOLDS)


def ranked(findings: list[Finding]) -> tuple[Finding, ...]:
    """Findings with the worst first, otherwise in their order."""
    return tuple(sorted(findings, key=lambda finding: RANK[finding.severity]))


def grade(
    found: float, needed: float, sense: str, *, advice: bool = False, stepped: bool = False, near: float = 0.0
) -> str:
    """Severity of one measure; every check, over a table or by itself, is graded here.

    Parameters
    ----------
    found, needed : float
        The measure and its limit, same unit.
    sense : {"least", "most"}
        Which side of the limit holds. Equality holds.
    advice : bool
        A passed limit is tight rather than a stop.
    stepped : bool
        The measure comes in standard steps, so a small margin is not tight.
    near : float
        How far beyond its limit, as a share of it, a measure is still only tight.
    """
    spare = (found - needed if sense == "least" else needed - found) / (abs(needed) or 1.0)
    if spare < -(near + ROUNDING) and not advice:
        return STOP
    if spare < -ROUNDING or (not stepped and needed and spare < TIGHT_MARGIN - 1e-12):
        return TIGHT
    return HOLDS
