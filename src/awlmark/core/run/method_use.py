"""Where a wiring method may run by its own traits, and the edits that give a section another one."""

from __future__ import annotations

from awlmark.core.books.book import LISTED, NO, YES, Method
from awlmark.core.finding import HOLDS, NOTE, STOP
from awlmark.core.job.edit import Put
from awlmark.core.run.line import Section


def use_severity(method: Method, section: Section) -> str:
    """Whether a wiring method may lie where a section lies: holds, a stop, or a note where it must be listed for it."""
    use = method.buried if section.buried else method.outdoors if section.wet else YES
    return {YES: HOLDS, LISTED: NOTE, NO: STOP}[use]


def method_edits(section: Section, method: str | None) -> tuple[Put, ...]:
    """Edits that give a whole section another wiring method (None: the usual one) and open its trade size."""
    edits: list[Put] = []
    for walked in section.legs:
        edits.append(Put(f"legs[{walked.leg.id}].method", method))
        if walked.leg.trade_size is not None:
            edits.append(Put(f"legs[{walked.leg.id}].trade_size", None))
    return tuple(edits)
