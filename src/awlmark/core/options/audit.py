"""An existing circuit, looked at with everything pinned: what it may honestly be set to, what is wrong, what to do."""

from __future__ import annotations

from typing import Final

import msgspec

from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.weakest_link import honest_setting
from awlmark.core.finding import LOWER, STOP, Finding
from awlmark.core.solve.design import Design

KEEP: Final = "keep"
LOOK: Final = "look first"
"""Nothing speaks against it, and something it hangs on nobody has read."""
CUT_BACK: Final = "cut back"
REPLACE: Final = "replace"
ABANDON: Final = "abandon"


class Verdict(msgspec.Struct, frozen=True):
    """What to do with one part."""

    part: str
    do: str
    why: str


class Audit(msgspec.Struct, frozen=True):
    """The answer."""

    setting_a: float | None
    """Highest honest charging current as units are set [A]; None where it may not be used at all."""
    wrong: tuple[str, ...]
    parts: tuple[Verdict, ...]


def audit(design: Design) -> Audit:
    """Judge a circuit as it is pinned.

    Cutting back, a lower setting, helps the parts whose rating is too small for the current; what is wrong whatever
    the current is has to be replaced; browned insulation and an obsolete panel end the circuit's use.

    Parameters
    ----------
    design : Design
        With gauge, breaker and what else is there pinned.
    """
    if design.evaluated is None or design.circuit is None:
        return Audit(None, ("The charging current is not read.",), ())
    teller = Teller(design.evaluated, design.row)
    there, words = design.job.existing, design.book.words
    setting = honest_setting(design.book.circuit.links(teller), design.book.circuit.settings_a)
    wrong = [f"{finding.title}: {finding.text}" for finding in design.findings if finding.severity == STOP]
    verdicts = [_judge(design, part, kinds) for part, kinds in design.book.circuit.audits.items() if _has(design, part)]
    if there.browned:
        wrong.append(f"Insulation is browned: heat has aged it. Cut back to sound copper, or the {words.wire} goes.")
        verdicts = [Verdict("wire", ABANDON, "browned insulation") if one.part == "wire" else one for one in verdicts]
    if there.browned or there.melted or there.loose:
        why = "melted" if there.melted else f"browned {words.wire}s in it" if there.browned else "loose or hot contacts"
        verdicts = [Verdict("receptacle", REPLACE, why) if one.part == "receptacle" else one for one in verdicts]
    if there.melted:
        wrong.append(
            f"Outlet or plug has melted: replace the {words.receptacle}, cut the {words.wire}s back to sound copper, "
            "torque, and read its heat at an hour."
        )
    if there.double_tap:
        wrong.append(f"Two {words.wire}s share a {words.breaker}'s terminal that is made for one.")
        verdicts = [
            Verdict("breaker", REPLACE, f"double tap: part the {words.wire}s") if one.part == "breaker" else one
            for one in verdicts
        ]
    if there.loose:
        wrong.append("Something is loose or has run hot: find it, make it new, then tighten to its torque.")
    usable = not any(one.do in (REPLACE, ABANDON) for one in verdicts) and not (there.loose or there.melted)
    return Audit(setting if usable else None, tuple(wrong), tuple(verdicts))


def _has(design: Design, part: str) -> bool:
    if part == "receptacle":
        return design.job.charger.connection in design.book.receptacles
    if part == "box":
        return any(walked.leg.end in ("box", "body") for walked in design.line.legs)
    return not (part == "raceway" and all(section.method.cable for section in design.line.sections))


def _judge(design: Design, part: str, kinds: tuple[str, ...]) -> Verdict:
    broken = [finding for finding in design.stops if _kind(finding) in kinds or finding.id in kinds]
    if not broken:
        asked = [one.title.lower() for one in design.not_asked if _kind(one) in kinds or one.id in kinds]
        return Verdict(part, LOOK, ", ".join(dict.fromkeys(asked))) if asked else Verdict(part, KEEP, "holds")
    helped = all(_current_helps(finding) for finding in broken)
    settings = design.book.circuit.settings_a
    lower = [amps for amps in settings if amps < design.circuit.charge_a] if design.circuit else []
    if helped and lower and design.job.charger.connection not in design.book.receptacles:
        return Verdict(part, CUT_BACK, broken[0].title.lower())
    return Verdict(part, REPLACE, broken[0].title.lower())


def _kind(finding: Finding) -> str:
    return finding.id.split(":")[0]


def _current_helps(finding: Finding) -> bool:
    """Whether a lower charging current mends a finding: it offers a lower setting."""
    return any(fix.kind == LOWER for fix in finding.fixes)
