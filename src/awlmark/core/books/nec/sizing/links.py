"""What each link of the chain would let the charger draw."""

from __future__ import annotations

import numpy as np

from awlmark.core.books.nec.edition import nec
from awlmark.core.books.nec.sizing.opening import CONTINUOUS
from awlmark.core.books.nec.sizing.work import worked
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.circuit.weakest_link import Link
from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import print_gauge


def links(t: Teller) -> tuple[Link, ...]:
    """Every link with a rating of its own, in the order of the chain; unread ones are left out.

    Parameters
    ----------
    t : Teller
        The row that was picked.
    """
    found, book = [], nec(t.book)
    charger = t.case.job.charger
    if charger.nameplate_a is not None:
        found.append(Link("charger's nameplate", charger.nameplate_a, "a larger unit"))
    if np.isfinite(t.breaker_a):
        found.append(Link(f"{t.breaker_a:g} A breaker", t.breaker_a / CONTINUOUS, "a larger breaker"))
    if t.case.receptacle is not None:
        found.append(Link(f"{t.case.receptacle.config} receptacle", t.case.receptacle.amps / CONTINUOUS, "hardwiring"))
    terminal = float(worked(t).carried.terminal_a[t.group, t.hot])
    column = worked(t).carried.column_c[t.group]
    wire = f"{print_gauge(t.size)} {METAL_NAMES[t.metal]}"
    if terminal > 0:
        found.append(Link(f"{wire} at {column} °C terminals", terminal / CONTINUOUS, "the next size up"))
    factored = float(worked(t).carried.factored_a[t.group, t.hot])
    if np.isfinite(factored) and factored > 0:
        found.append(Link(f"{wire} after heat and bundling", factored, "the next size up, or a cooler way"))
        allowed = float(t.seen.terms["protection"].needed[t.row])
        if np.isfinite(allowed) and allowed > 0:
            found.append(Link(f"largest breaker over {wire}", allowed / CONTINUOUS, "the next size up"))
    ground = t.case.job.circuit.ground_size
    if ground is not None:
        metal = int(t.seen.table.material[t.group])
        carried = [
            float(top)
            for top, size in zip(book.ground_to_a, book.ground_size[metal], strict=True)
            if int(size) <= book.size_index(ground)
        ]
        if carried:
            found.append(Link(f"{print_gauge(ground)} ground", max(carried) / CONTINUOUS, "a larger ground"))
    return tuple(found)
