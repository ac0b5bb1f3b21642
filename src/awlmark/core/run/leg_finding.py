"""A finding about the run, at its place on the tape."""

from __future__ import annotations

from typing import Any

from awlmark.core.finding import Finding
from awlmark.core.run.line import Walked


def about_leg(walked: Walked, kind: str, severity: str, title: str, text: str, cite: str, **more: Any) -> Finding:
    """A finding about one leg: its id tells the kind and the leg; by default at its middle."""
    place = {"at_m": (walked.start_m + walked.end_m) / 2} | more
    return Finding(f"{kind}:{walked.leg.id}", severity, title, text, cite, where=walked.leg.id, stage="run", **place)


def named(walked: Walked) -> str:
    """A leg in two words."""
    return f"leg {walked.number}"


def legs_text(legs: list[Walked]) -> str:
    """Legs by their numbers: ``leg 3``, ``legs 1, 2 and 5``."""
    numbers = [str(walked.number) for walked in legs]
    if len(numbers) == 1:
        return f"leg {numbers[0]}"
    return f"legs {', '.join(numbers[:-1])} and {numbers[-1]}"
