"""What a circuit that stands is judged by, part by part; and local rules, told beside the clause they change."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.bs7671.sizing.work import worked
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, STOP, Finding, Fix
from awlmark.core.job.edit import Put

PARTS: Final[dict[str, tuple[str, ...]]] = {
    "breaker": ("breaker", "zs", "rcd", "kA"),
    "wire": ("conductor", "drop", "place", "terminals", "beside"),
    "ground": ("cpc", "electrode", "local:ground"),
    "raceway": ("fill",),
    "receptacle": ("socket",),
    "panel": ("demand", "tails", "earth", "bonding", "pme"),
}
"""Parts of a circuit, and the findings that speak of each."""


def tell_local(t: Teller) -> list[Finding]:
    """Local rules in force."""
    local, book, found = t.case.job.local, t.book, []
    if local.least_ground is not None:
        least = float(book.metal_mm2[book.size_index(local.least_ground)])
        smallest = min((float(size) for size in worked(t).fault.cpc_mm2[t.row]), default=least)
        short = smallest < least - 1e-9
        fixes = (Fix("Larger protective conductor", (Put("circuit.ground_size", local.least_ground),)),)
        text = f"Whoever signs wants a protective conductor of {book.print_size(local.least_ground)} at least."
        cite = f"local rule; {book.cite('cpc')}"
        found.append(
            Finding("local:ground", STOP if short else HOLDS, "Local rule", text, cite, found=smallest, needed=least,
                    unit="mm²", where="line", fixes=fixes if short else ())
        )  # fmt: skip
    told = (
        (local.least_raceway, "raceway", f"Whoever signs wants {local.least_raceway} mm conduit at least.", "fill"),
        (local.drop_mandatory, "drop", "The drop limit is a rule here, not advice.", "drop"),
        (local.label, "label", f"A label is wanted: {local.label}.", "rcd"),
    )
    for active, kind, text, rule in told:
        if active:
            cite = f"local rule; {book.cite(rule)}"
            found.append(Finding(f"local:{kind}", HOLDS, "Local rule", text, cite, where="line"))
    return found
