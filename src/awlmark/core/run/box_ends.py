"""What stands at the end of a leg: what goes on behind it, and whether it is in the weather."""

from __future__ import annotations

from awlmark.core.run.line import WET, Line, Walked


def beyond(line: Line, walked: Walked) -> Walked | None:
    """The leg that goes on behind the end of another; None at the charger."""
    return line.legs[walked.number] if walked.number < len(line.legs) else None


def wet_box(walked: Walked, after: Walked | None) -> bool:
    """Whether the box at the end of a leg stands in the weather."""
    return walked.place_after in WET or walked.place in WET or (after is not None and after.place in WET)
