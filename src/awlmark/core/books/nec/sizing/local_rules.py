"""Local rules: what the authority changes, told beside the clause it changes."""

from __future__ import annotations

from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, Finding


def tell_local(t: Teller) -> list[Finding]:
    """Local rules in force, each beside the clause it changes."""
    local, title, found = t.case.job.local, t.book.title, []
    nm = [section for section in t.case.sections if section.method.key == "nm"]
    if local.nm_forbidden and nm:
        found.append(
            Finding(
                "local:nm", STOP, "Local rule: no NM", "The authority here does not take NM cable.",
                f"local rule; {title} 334.10", where=nm[0].legs[0].leg.id, at_m=nm[0].start_m, fixes=t.conduit(),
            )
        )  # fmt: skip
    told = (
        (local.terminals_60, "terminals", "The authority takes 60 °C at every terminal up to 100 A.", "110.14(C)"),
        (
            local.least_ground,
            "ground",
            f"The authority wants a ground of {local.least_ground} AWG at least.",
            "250.122",
        ),
        (local.least_raceway, "raceway", f"The authority wants {local.least_raceway} raceway at least.", "358.20"),
        (local.drop_mandatory, "drop", "The drop limit is a rule here, not advice.", "210.19 note"),
        (local.gfci != "edition", "gfci", f"Ground-fault breakers here: {local.gfci}.", "210.8, 625.54"),
        (local.surge, "surge", "The authority wants a surge device at the panel; it is on the list.", "230.67"),
        (local.label, "label", f"The authority wants a label: {local.label}.", "110.22"),
    )
    for active, kind, text, clause in told:
        if active:
            cite = f"local rule; {title} {clause}"
            found.append(Finding(f"local:{kind}", HOLDS, "Local rule", text, cite, where="line"))
    return found
