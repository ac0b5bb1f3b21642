"""One row of the table in words: every finding, in the order of the chain."""

from __future__ import annotations

from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.evaluate import Evaluated
from awlmark.core.finding import Finding


def tell(evaluated: Evaluated, row: int) -> list[Finding]:
    """All findings of one row.

    Parameters
    ----------
    evaluated : Evaluated
        Checked table.
    row : int
        Which row of it.
    """
    teller = Teller(evaluated, row)
    return [finding for rule in teller.book.circuit.tell for finding in rule(teller)]
