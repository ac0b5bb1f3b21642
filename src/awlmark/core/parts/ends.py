"""What both ends of the line take: breaker, outlet or unit, and what holds and closes them."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.panel.equipment import surge_wanted
from awlmark.core.parts.tally import Tally
from awlmark.core.run.line import WET
from awlmark.core.wire.case import Case
from awlmark.core.wire.outlet import needs_gfci

MOUNT_SCREWS: Final = 4.0
"""That hold a charging unit; common practice, its own instructions win."""
POST_BAGS: Final = 2.0
"""Of concrete in a post's foot; common practice."""
SMALL_FACE_A: Final = 20.0


def count_ends(tally: Tally) -> None:
    """Panel and charger."""
    _panel(tally)
    _charger(tally)
    tally.add("Sundries", "labels", "panel")


def _panel(tally: Tally) -> None:
    table, case = tally.table, tally.table.case
    job = case.job
    ratings = sorted(set(table.breaker_a.tolist()))
    index = np.searchsorted(ratings, table.breaker_a)
    breakers = tuple(
        f"breaker:{case.hots}:{rating:g}{':gfci' if needs_gfci(case, rating) else ''}" for rating in ratings
    )
    families = " or ".join(job.dead_front.families)
    tally.put("Panel", breakers, index[table.group], 1.0, "panel", detail=f"type {families}" if families else "")
    if job.dead_front.fillers:
        tally.add("Panel", "filler", "panel", float(len(job.dead_front.fillers)))
    if job.demand.managed or job.demand.shares:
        tally.add("Panel", f"management:{'sensors' if job.demand.managed else 'switch'}", "panel")
    if surge_wanted(job):
        tally.add("Panel", "surge", "panel")
    knockout = next((one for one in job.dead_front.knockouts if one.id == job.supply.knockout), None)
    if knockout is not None and case.sections and not case.sections[0].method.cable:
        wide = case.book.trade_sizes.index(knockout.trade_size)
        smaller = (tally.trade[:, 0] >= 0) & (tally.trade[:, 0] < wide)
        if smaller.any():
            tally.put("Panel", ("reducing washers",), None, smaller.astype(float), "panel")


def _charger(tally: Tally) -> None:
    table, case = tally.table, tally.table.case
    job = case.job
    nameplate = job.charger.nameplate_a
    aluminium = table.material == 1
    if case.receptacle:
        tally.add("Boxes and outlets", f"receptacle:{case.receptacle.config}", "charger")
        tally.add("Boxes and outlets", "box:2-gang deep", "charger")
        wet = case.line.end_place in WET
        small = case.receptacle.amps <= SMALL_FACE_A
        tally.add("Boxes and outlets", "wet cover" if wet else "small plate" if small else "plate", "charger")
        tally.add("Fixings", "screw", "charger", 2.0)
        if not case.raceway_ground:
            tally.add("Boxes and outlets", "ground screw", "charger")
    if aluminium.any():
        kind = ("Boxes and outlets", "splice kit") if job.circuit.copper_tail else ("Sundries", "compound")
        marks = ("charger",) if job.circuit.copper_tail else ("panel", "charger")
        tally.put(kind[0], (kind[1],), None, aluminium[table.group].astype(float), *marks)
    if job.charger.disconnect:
        tally.add("Boxes and outlets", "disconnect", "charger")
    if nameplate:
        tally.add("Boxes and outlets", f"charger:{nameplate:g}", "charger")
        _mount(tally, case)


def _mount(tally: Tally, case: Case) -> None:
    """What the unit hangs on, by the spot it is pinned to; wood while nobody has looked."""
    pin = next((pin for pin in case.job.site.pins if pin.id == case.job.site.pin), None)
    fixing = pin.fixing if pin else None
    post = fixing == "post" or (bool(case.line.legs) and case.line.legs[-1].leg.end == "post")
    tally.add("Fixings", "sleeve anchor" if fixing == "masonry" else "lag screw", "charger", MOUNT_SCREWS)
    if post:
        tally.add("Fixings", "post", "charger")
        tally.add("Fixings", "concrete", "charger", POST_BAGS)
