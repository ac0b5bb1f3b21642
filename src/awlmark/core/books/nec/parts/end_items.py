"""What both ends of the line take: breaker, outlet or unit, and what holds and closes them."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.books.nec.edition import nec
from awlmark.core.books.nec.panel.equipment import surge_wanted
from awlmark.core.books.nec.sizing.boxes import outlet_box_name
from awlmark.core.books.nec.sizing.outlet import needs_gfci
from awlmark.core.books.nec.sizing.terminals import tail_size
from awlmark.core.circuit.case import Case
from awlmark.core.job.by_length import bought
from awlmark.core.panel.rearrange import fewest_moves
from awlmark.core.parts.tally import Tally
from awlmark.core.quantities import FOOT_M
from awlmark.core.run.line import WET

MOUNT_SCREWS: Final = 4.0
"""That hold a charging unit; common practice, its own instructions win."""
POST_BAGS: Final = 2.0
"""Of concrete in a post's foot; common practice."""
TAIL_WAY_M: Final = 3 * FOOT_M
"""From a splice box by the unit to it, and through a disconnect between them; common practice."""
SMALL_FACE_A: Final = 20.0
CONTROLLER_BREAKER: Final = "breaker:2:15"


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
    told = [f"type {families}"] if families else []
    told += ["arc-fault too"] if job.charger.living and case.hots == 1 else []
    tally.put("Panel", breakers, index[table.group], 1.0, "panel", detail=", ".join(told))
    lowered = job.charger.nameplate_a is not None and case.charge_a < job.charger.nameplate_a - 1e-9
    if (lowered and nec(case.book).facts.names_setting) or job.demand.managed:
        tally.add("Sundries", "limit label", "charger", float(lowered) + job.demand.managed)
    if job.dead_front.fillers:
        tally.add("Panel", "filler", "panel", float(len(job.dead_front.fillers)))
    if job.demand.managed or job.demand.shares:
        tally.add("Panel", f"management:{'sensors' if job.demand.managed else 'switch'}", "panel")
    if job.demand.managed:
        # The controller's own, two-pole, and what tells the unit how much it may take.
        tally.add("Panel", CONTROLLER_BREAKER, "panel")
        long_m = case.line.length_m + job.makeup.panel_tail_m + job.makeup.unit_tail_m
        tally.add("Wire", "control cable", "panel", bought(long_m, job.units), job.units)
    if job.dead_front.breakers:
        # Moves that nobody has taken in yet.
        tally.add("Panel", "move kit", "panel", float(len(fewest_moves(job.dead_front).moves)))
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
        wet = case.line.end_place in WET
        small = case.receptacle.amps <= SMALL_FACE_A
        marks = ["weather-resistant"] if wet and small else []
        marks += ["tamper-resistant"] if small and job.occupancy == "dwelling" else []
        config = f"receptacle:{case.receptacle.config}"
        tally.put("Boxes and outlets", (config,), None, 1.0, "charger", detail=", ".join(marks))
        _outlet_box(tally, case, wet)
        if case.line.legs and case.line.legs[-1].leg.mount == "fished":
            tally.add("Fixings", "old-work support", "charger")
        tally.add("Boxes and outlets", "wet cover" if wet else "small plate" if small else "plate", "charger")
        tally.add("Fixings", "screw", "charger", 2.0)
        if not case.raceway_ground:
            tally.add("Boxes and outlets", "ground screw", "charger")
    if aluminium.any():
        kind = ("Boxes and outlets", "splice kit") if job.circuit.copper_tail else ("Sundries", "compound")
        places = ("charger",) if job.circuit.copper_tail else ("panel", "charger")
        tally.put(kind[0], (kind[1],), None, aluminium[table.group].astype(float), *places)
    if aluminium.any() and job.circuit.copper_tail:
        tail_m = 2 * job.makeup.box_loop_m + job.makeup.unit_tail_m + TAIL_WAY_M
        long = bought(tail_m, job.units)
        sizes = [tail_size(case, float(rating)) for rating in table.breaker_a]
        gauges = tuple(dict.fromkeys(sizes))
        index = np.array([gauges.index(size) for size in sizes])[table.group]
        keys = tuple(f"copper tail:{gauge}" for gauge in gauges)
        tally.put("Wire", keys, index, aluminium[table.group] * long, "charger", unit=job.units)
        if case.receptacle is None:
            # From the splice box on: into the unit, or into the disconnect first.
            tally.put("Fittings", ("nipple",), None, aluminium[table.group].astype(float), "charger")
    if job.charger.disconnect:
        tally.add("Boxes and outlets", "disconnect", "charger")
        tally.add("Fittings", "nipple", "charger", float(case.receptacle is None))
    if nameplate:
        tally.add("Boxes and outlets", f"charger:{nameplate:g}", "charger")
        _mount(tally, case)


def _outlet_box(tally: Tally, case: Case, wet: bool) -> None:
    """The box behind the receptacle that its finding names, for each row's wires."""
    if wet and not (case.line.legs and case.line.legs[-1].leg.box):
        tally.add("Boxes and outlets", "wet box", "charger")
        return
    sizes = case.book.sizes
    pairs, at = np.unique(tally.table.hot * (len(sizes) + 1) + tally.ground + 1, return_inverse=True)
    names = [
        outlet_box_name(case, sizes[pair // (len(sizes) + 1)], pair % (len(sizes) + 1) - 1) for pair in pairs.tolist()
    ]
    tally.put("Boxes and outlets", tuple(f"box:{name}" for name in names), at.reshape(-1), 1.0, "charger")


def _mount(tally: Tally, case: Case) -> None:
    """What the unit hangs on, by the spot it is pinned to; wood while nobody has looked."""
    pin = next((pin for pin in case.job.site.pins if pin.id == case.job.site.pin), None)
    fixing = pin.fixing if pin else None
    post = fixing == "post" or (bool(case.line.legs) and case.line.legs[-1].leg.end == "post")
    tally.add("Fixings", "sleeve anchor" if fixing == "masonry" else "lag screw", "charger", MOUNT_SCREWS)
    if post:
        tally.add("Fixings", "post", "charger")
        tally.add("Fixings", "concrete", "charger", POST_BAGS)
