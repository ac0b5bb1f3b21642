"""Local rules: what the authority changes, told beside the clause it changes."""

from __future__ import annotations

from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, Finding


def tell_local(t: Teller) -> list[Finding]:
    """Local rules in force, each beside the clause it changes."""
    local, book, found = t.case.job.local, t.book, []
    nm = [section for section in t.case.sections if section.method.key == "nm"]
    if local.nm_forbidden and nm:
        found.append(
            Finding(
                "local:nm", STOP, "Local rule: no NM", "The authority here does not take NM cable.",
                f"local rule; {book.cite('local_cable')}",
                where=nm[0].legs[0].leg.id, at_m=nm[0].start_m, fixes=t.conduit(),
            )
        )  # fmt: skip
    least = book.print_size(local.least_ground) if local.least_ground else ""
    told = (
        (local.terminals_60, "terminals", "The authority takes 60 °C at every terminal up to 100 A.", "terminals"),
        (
            local.least_ground,
            "ground",
            f"The authority wants a ground of {least} at least.",
            "ground_table",
        ),
        (
            local.least_raceway,
            "raceway",
            f"The authority wants {local.least_raceway} raceway at least.",
            "least_raceway",
        ),
        (local.drop_mandatory, "drop", "The drop limit is a rule here, not advice.", "drop_local"),
        (local.gfci != "edition", "gfci", f"Ground-fault breakers here: {local.gfci}.", "gfci_local"),
        (local.surge, "surge", "The authority wants a surge device at the panel; it is on the list.", "surge"),
        (local.label, "label", f"The authority wants a label: {local.label}.", "label"),
    )
    for active, kind, text, rule in told:
        if active:
            cite = f"local rule; {book.cite(rule)}"
            found.append(Finding(f"local:{kind}", HOLDS, "Local rule", text, cite, where="line"))
    return found
