"""Values that no job can hold, refused at the edge."""

from __future__ import annotations

import math
from typing import Any

from awlmark.core.errors import InputError
from awlmark.core.job.driving import MOST_CARS, PORTS, SHARINGS, Need
from awlmark.core.job.face import (
    BREAKER_KINDS,
    CONDITIONS,
    KNOCKOUT_SIDES,
    KNOCKOUT_STATES,
    MOST_KNOCKOUTS,
    MOST_SPACES,
    DeadFront,
)
from awlmark.core.job.leg import BENDS, BODIES, CROSSING, DIRECTIONS, ENDS, MOST_LEGS, MOUNTS, PLACES, SURFACES
from awlmark.core.job.model import (
    CHARGE_RANGE_A,
    DROP_FORMS,
    DROP_RANGE_PERCENT,
    EDITIONS,
    GFCI_READINGS,
    MATERIALS,
    MOST_CONDUCTORS,
    OCCUPANCIES,
    PREFERENCES,
    Job,
)
from awlmark.core.job.site import AREA_KINDS, FIXINGS, MOST_PINS, MOST_SITE, NOSES, THING_KINDS, Area, Bay, Pin, Thing
from awlmark.core.job.supply import DEMAND_METHODS, LOAD_KINDS, LOAD_LEGS, MOST_BOARDS, MOST_LOADS, SPOTS, SYSTEMS
from awlmark.core.job.works import MOST_READINGS, TORQUE_SOURCES
from awlmark.core.quantities import LONGEST_M, print_length, read_money, read_number


def _choice(field: str, value: str | None, known: tuple[str, ...] | dict[str, Any]) -> None:
    if value is not None and value not in known:
        raise InputError(field, f"Can't use '{value[:60]}'.", "one of " + ", ".join(known))


def _within(field: str, value: float | None, low: float, high: float, unit: str) -> None:
    if value is not None and not (math.isfinite(value) and low <= value <= high):
        problem, accepted = f"{value:g} {unit} is out of reach.", f"{low:g} to {high:g} {unit}"
        if unit == "m" and math.isfinite(value):
            # Nobody has to know the other unit.
            problem = f"{value:.4g} m ({print_length(value)}) is out of reach."
            accepted += f" ({print_length(low)} to {print_length(high)})"
        raise InputError(field, problem, accepted)


def _check_need(need: Need) -> None:
    if len(need.cars) > MOST_CARS:
        raise InputError("cars", f"{len(need.cars)} cars are too many for one circuit.", f"up to {MOST_CARS}")
    if len({car.id for car in need.cars}) != len(need.cars):
        raise InputError("cars", "Two cars carry the same id.", "an id of its own for every car")
    _choice("sharing", need.sharing, SHARINGS)
    _within("cold factor", need.cold_factor, 1.0, 3.0, "times")
    _within("charging efficiency", need.efficiency, 0.5, 1.0, "(share)")
    for price in (need.price, *(window.price for window in need.windows)):
        read_money(price, "energy price")
    for window in need.windows:
        _within("price window", window.from_h, 0, 24, "h")
        _within("price window", window.to_h, 0, 24, "h")
    for car in need.cars:
        name = car.name
        _choice(f"{name} port", car.port, PORTS)
        _within(f"{name} battery", car.battery_kwh, 1, 1000, "kWh")
        _within(f"{name} use", car.use_kwh_per_km, 0.02, 3, "kWh/km")
        _within(f"{name} on-board charger", car.onboard_kw, 0.5, 50, "kW")
        _within(f"{name} level", car.level_percent, 0, 100, "%")
        _within(f"{name} arrival", car.arrive_h, 0, 24, "h")
        _within(f"{name} leaving", car.leave_h, 0, 24, "h")
        _within(f"{name} port height", car.port_m, 0, 3, "m")
        _within(f"{name} length", car.long_m, 1, 12, "m")
        _within(f"{name} width", car.wide_m, 0.5, 4, "m")
        if len(car.km) != 7:
            raise InputError(f"{name} week", f"{len(car.km)} days make no week.", "seven distances, Monday first")
        for day in car.km:
            _within(f"{name} distance", day, 0, 2000, "km")


def _check_supply(job: Job) -> None:
    """Boards form a tree under the service; loads and the circuit hang on boards that exist."""
    if len(job.boards) > MOST_BOARDS or len(job.loads) > MOST_LOADS:
        raise InputError("panels", "More boards or loads than a job holds.", f"up to {MOST_BOARDS} and {MOST_LOADS}")
    feeds = {board.id: board.fed_by for board in job.boards}
    if len(feeds) != len(job.boards) or "" in feeds or len({load.id for load in job.loads}) != len(job.loads):
        raise InputError("panels", "Two boards or loads carry the same id.", "an id of its own for each")
    for name, at in (("circuit", job.supply.board), *((load.name, load.board) for load in job.loads)):
        if at and at not in feeds:
            raise InputError(f"{name} panel", f"There is no panel '{at[:40]}'.", ", ".join(["(service)", *feeds]))
    for board in job.boards:
        seen, at = {board.id}, board.fed_by
        while at:
            if at in seen or at not in feeds:
                raise InputError(
                    f"{board.name} feed", "Its feed leads nowhere or in a ring.", "a panel nearer the service"
                )
            seen.add(at)
            at = feeds[at]
        _within(f"{board.name} feeder", board.feeder_a, 15, 4000, "A")
        _within(f"{board.name} feeder length", board.feeder_length_m, 0.01, LONGEST_M, "m")
        _choice(f"{board.name} feeder metal", board.feeder_material, MATERIALS)
    for load in job.loads:
        _choice(f"{load.name} kind", load.kind, LOAD_KINDS)
        _within(f"{load.name} load", load.va, 1, 1e6, "VA")
        _within(f"{load.name} count", load.count, 1, 50, "of them")
        _choice(f"{load.name} leg", load.leg, LOAD_LEGS)
    _check_dead_front(job.dead_front)
    knockouts = [knockout.id for knockout in job.dead_front.knockouts]
    if job.supply.knockout and job.supply.knockout not in knockouts:
        raise InputError(
            "knockout",
            f"There is no knockout '{job.supply.knockout[:40]}'.",
            ", ".join(knockouts) or "none is entered yet",
        )
    if job.meter is not None:
        _within("meter data, interval", job.meter.interval_s, 60, 3600, "s")
        _within("meter data, step", job.meter.step_w, 1, 1e6, "W")
    demand = job.demand
    _choice("demand method", demand.method, DEMAND_METHODS)
    _within("floor area", demand.floor_m2, 1, 5000, "m2")
    _within("small-appliance circuits", demand.small_appliance, 0, 20, "circuits")
    _within("laundry circuits", demand.laundry, 0, 10, "circuits")
    _within("measured demand", demand.measured_a, 0, 4000, "A")
    _within("set point", demand.set_point_a, 15, 4000, "A")
    if demand.shares and demand.shares not in {load.id for load in job.loads}:
        raise InputError("shared circuit", "The load it would share with is gone.", "a load of this job")


def _check_site(job: Job) -> None:
    """Rectangles of some size, pins and bays with ids of their own, temperatures the right way round."""
    site, charger = job.site, job.charger
    groups: tuple[tuple[str, tuple[Area | Thing | Pin | Bay, ...]], ...] = (
        ("areas", site.areas), ("things", site.things), ("pins", site.pins), ("bays", site.bays)
    )  # fmt: skip
    for name, many in groups:
        ids = [one.id for one in many]
        if len(set(ids)) != len(ids):
            raise InputError(name, f"Two of the {name} carry the same id.", "an id of its own for each")
        most = MOST_PINS if name == "pins" else MOST_SITE
        if len(ids) > most:
            raise InputError(name, f"{len(ids)} {name} are too many.", f"up to {most}")
        for one in many:
            _within(f"{one.name}, east of the panel", one.x, -1000, 1000, "m")
            _within(f"{one.name}, north of the panel", one.y, -1000, 1000, "m")
    rectangles: tuple[Area | Thing, ...] = (*site.areas, *site.things)
    for rectangle in rectangles:
        _choice(f"{rectangle.name} kind", rectangle.kind, AREA_KINDS if isinstance(rectangle, Area) else THING_KINDS)
        _within(f"{rectangle.name} width", rectangle.wide, 0.02, 1000, "m")
        _within(f"{rectangle.name} depth", rectangle.deep, 0.02, 1000, "m")
    for thing in site.things:
        _within(f"{thing.name} low", thing.low, 0, 20, "m")
        _within(f"{thing.name} high", thing.high, thing.low + 0.02, 20, "m")
    for pin in site.pins:
        _choice(f"{pin.name} fixing", pin.fixing, FIXINGS)
        _within(f"{pin.name} height", pin.height_m, 0, 5, "m")
    if site.pin and site.pin not in {pin.id for pin in site.pins}:
        raise InputError(
            "pin", f"There is no pin '{site.pin[:40]}'.", ", ".join(pin.id for pin in site.pins) or "a pin"
        )
    for bay in site.bays:
        for nose in bay.noses:
            _choice(f"{bay.name} nose", nose, NOSES)
    for field, value in (
        ("coldest", site.low_c),
        ("hottest", site.high_c),
        ("temperature at installing", site.install_c),
    ):
        _within(field, value, -60, 85, "C")
    if site.low_c is not None and site.high_c is not None and site.low_c > site.high_c:
        raise InputError("coldest", f"{site.low_c:g} C is above the hottest, {site.high_c:g} C.", "a colder one")
    _within("cord", charger.cord_m, 0.3, 7.7, "m")
    _within("maker's lowest height", charger.band_low_m, 0, 3, "m")
    _within("maker's highest height", charger.band_high_m, 0, 3, "m")


def _check_dead_front(front: DeadFront) -> None:
    """No two devices in one space, none outside the panel. What the panel does not allow is a finding, not refused."""
    if front.spaces not in range(MOST_SPACES + 1) or front.spaces % 2:
        raise InputError("spaces", f"{front.spaces} spaces make no panel.", f"an even number up to {MOST_SPACES}")
    if len({breaker.id for breaker in front.breakers}) != len(front.breakers):
        raise InputError("breakers", "Two breakers carry the same id.", "an id of its own for each")
    taken: dict[int, str] = {}
    for breaker in front.breakers:
        name = breaker.name or f"breaker in space {breaker.space}"
        if breaker.poles not in (1, 2):
            raise InputError(name, f"{breaker.poles} poles fit no space here.", "1 or 2")
        if breaker.tandem and (breaker.poles == 2 or breaker.tied or breaker.quad):
            raise InputError(name, "A tandem takes one space.", "one pole and tandem, or two poles")
        if breaker.quad and breaker.poles != 2:
            raise InputError(name, "A quad takes two spaces.", "two poles and quad")
        _choice(f"{name} kind", breaker.kind, BREAKER_KINDS)
        _within(f"{name} rating", breaker.rating_a, 5, 400, "A")
        for space in (breaker.space, breaker.space + 2)[: 2 if breaker.tied else breaker.poles]:
            if not 1 <= space <= front.spaces:
                raise InputError(name, f"There is no space {space}.", f"1 to {front.spaces}")
            if space in taken:
                raise InputError(name, f"Space {space} is taken by {taken[space]}.", "a free space")
            taken[space] = name
    for space in (*front.opened, *front.fillers, *front.free):
        if not 1 <= space <= max(front.spaces, 1):
            raise InputError("open space", f"There is no space {space}.", f"1 to {front.spaces}")
    _choice("panel condition", front.condition, CONDITIONS)
    _within("bus rating", front.bus_a, 15, 4000, "A")
    for field, value in (("wide", front.clear_wide_m), ("deep", front.clear_deep_m), ("high", front.clear_high_m)):
        _within(f"working space, {field}", value, 0, 20, "m")
    _check_knockouts(front)


def _check_knockouts(front: DeadFront) -> None:
    if len(front.knockouts) > MOST_KNOCKOUTS:
        raise InputError("knockouts", f"{len(front.knockouts)} knockouts are too many.", f"up to {MOST_KNOCKOUTS}")
    if len({knockout.id for knockout in front.knockouts}) != len(front.knockouts):
        raise InputError("knockouts", "Two knockouts carry the same id.", "an id of its own for each")
    for knockout in front.knockouts:
        _choice(f"knockout {knockout.id} side", knockout.side, KNOCKOUT_SIDES)
        _choice(f"knockout {knockout.id} state", knockout.state, KNOCKOUT_STATES)
        _within(f"knockout {knockout.id}, below the top", knockout.below_top_m, 0, 3, "m")


def _check_money(job: Job) -> None:
    """Sizes of packs, counts and sums, which people type as text."""
    for key in job.prices:
        plain, pack, size = key.rpartition("@")
        if pack:
            read_number(size, f"pack of {plain[:40]}", 2, 100000)
    for name, counts in (("stock", job.stock), ("came", job.delivered), ("hours", job.hours)):
        for key, text in counts.items():
            read_number(text, f"{name} of {key[:40]}", 0, 100000)
    for key, text in job.paid.items():
        read_money(text, f"paid for {key[:40]}")


def _check_legs(job: Job, before: Job | None) -> None:
    """Legs with ids of their own, each value within reach; those of a job checked before stand."""
    if len(job.legs) > MOST_LEGS:
        raise InputError("legs", f"{len(job.legs)} legs are too many.", f"up to {MOST_LEGS}")
    if len({leg.id for leg in job.legs}) != len(job.legs):
        raise InputError("legs", "Two legs carry the same id.", "an id of its own for every leg")
    known = set() if before is None else set(map(id, before.legs))
    for number, leg in enumerate(job.legs, 1):
        if id(leg) in known:
            continue
        name = f"leg {number}"
        _choice(f"{name} direction", leg.direction, DIRECTIONS)
        _choice(f"{name} end", leg.end, ENDS)
        _choice(f"{name} place", leg.place, PLACES)
        # A wall whose thickness nobody has measured yet is drawn and asked about, not refused.
        _within(f"{name} length", leg.length_m, 0 if leg.direction in CROSSING else 1e-4, LONGEST_M, "m")
        _within(f"{name} built", leg.built_m, 1e-4, LONGEST_M, "m")
        _within(f"{name} ambient", leg.ambient_c, -60, 85, "C")
        _within(f"{name} cover", leg.cover_m, 0, 10, "m")
        _choice(f"{name} surface", leg.surface, SURFACES)
        _choice(f"{name} bend", leg.bend, BENDS)
        _choice(f"{name} mounting", leg.mount, MOUNTS)
        _within(f"{name} offset", leg.offset_m, 0.001, 5, "m")
        _choice(f"{name} body", leg.body, BODIES)
        _within(f"{name} cables beside it", leg.beside, 0, MOST_CONDUCTORS, "cables")
        _within(f"{name} box volume", leg.box_in3, 1, 2000, "in3")
        _within(f"{name} extension ring", leg.ring_in3, 1, 500, "in3")
        _within(f"{name} box length", leg.box_long_m, 0.02, 3, "m")
        _within(f"{name} saddle", leg.saddle_m, 0.001, 1, "m")
        _within(f"{name} saddle width", leg.saddle_wide_m, 0, 3, "m")
        _within(f"{name} offset angle", leg.offset_deg, 5, 90, "degrees")
        _within(f"{name} distance from the edge", leg.edge_m, 0, 1, "m")
        _within(f"{name} height above the roof", leg.roof_m, 0, 10, "m")
        for layer in leg.layers:
            _within(f"{name} layer {layer.name}", layer.thick_m, 0.0005, 3, "m")


def check_values(job: Job, before: Job | None = None) -> Job:
    """Refuse values that no job can hold, naming the field; returns the job unchanged.

    Parameters
    ----------
    job : Job
        The document.
    before : Job, optional
        One that was checked: what both share is not looked at again.

    Raises
    ------
    InputError
        For the first value out of range. Sizes against the tables are checked where the book is open.
    """
    _choice("rule book (code)", job.code, EDITIONS)
    _choice("units", job.units, ("ft", "m"))
    _choice("occupancy", job.occupancy, OCCUPANCIES)
    _choice("supply system", job.supply.system, SYSTEMS)
    _choice("panel place", job.supply.place, PLACES)
    _within("service rating", job.supply.service_a, 15, 4000, "A")
    _within("panel top height", job.supply.panel_top_m, 0, 10, "m")
    _within("charger nameplate", job.charger.nameplate_a, *CHARGE_RANGE_A, "A")
    _within("charger setting", job.charger.setting_a, *CHARGE_RANGE_A, "A")
    for field, value in (("charger terminals", job.charger.terminal_c), ("panel terminals", job.supply.terminal_c)):
        if value not in (None, 60, 75):
            raise InputError(field, f"{value} C is no terminal marking here.", "60 or 75")

    def new(*names: str) -> bool:
        return before is None or any(getattr(job, name) is not getattr(before, name) for name in names)

    if new("need"):
        _check_need(job.need)
    if new("boards", "loads", "supply", "dead_front", "meter", "demand"):
        _check_supply(job)
    if new("site", "charger"):
        _check_site(job)
    if new("prices", "stock", "delivered", "hours", "paid"):
        _check_money(job)
    _check_legs(job, before)
    circuit = job.circuit
    _within("breaker", circuit.breaker_a, 15, 400, "A")
    _choice("conductor material", circuit.material, MATERIALS)
    _choice("drop formula", circuit.drop_form, DROP_FORMS)
    _within("largest breaker of the unit", job.charger.most_breaker_a, 15, 400, "A")
    _within("highest handle", job.supply.handle_m, 0, 10, "m")
    _choice("panel's place", job.supply.spot, SPOTS)
    _within("fault current", job.supply.fault_a, 10, 200_000, "A")
    _within("what the breaker interrupts", job.supply.breaks_a, 1000, 200_000, "A")
    _choice("existing breaker", job.existing.breaker, ("plain", "gfci"))
    lugs = ("panel", job.supply.lug), ("charger", job.charger.lug), ("disconnect", job.charger.disconnect_lug)
    for end, lug in lugs:
        _within(f"{end} lug torque", lug.torque_lbf_in, 1, 1000, "lbf-in")
        _within(f"{end} lug strip length", lug.strip_m, 0.002, 0.1, "m")
    _choice("ground-fault reading", job.local.gfci, GFCI_READINGS)
    _choice("preference", circuit.prefer, PREFERENCES)
    _within("drop limit", circuit.max_drop_percent, *DROP_RANGE_PERCENT, "percent")
    _within("breaker of the shared ground", circuit.shared_ground_a, 15, 4000, "A")
    _within("cable width", circuit.cable_wide_m, 0.003, 0.15, "m")
    _within("extra current-carrying conductors", circuit.extra_ccc, 0, MOST_CONDUCTORS, "conductors")
    for bundle in circuit.others:
        _within("other conductors", bundle.count, 1, MOST_CONDUCTORS, "conductors")
        _within("other conductors, cable diameter", bundle.diameter_m, 0.001, 0.15, "m")
    _within("panel tail", job.makeup.panel_tail_m, 0, 10, "m")
    _within("charger tail", job.makeup.unit_tail_m, 0, 10, "m")
    _within("box loop", job.makeup.box_loop_m, 0, 10, "m")
    buying = job.buying
    _within("waste", buying.waste_percent, 0, 50, "%")
    _within("spare", buying.spare_percent, 0, 100, "%")
    _within("tax", buying.tax_percent, 0, 50, "%")
    _within("margin", buying.margin_percent, 0, 300, "%")
    _within("rebate", buying.rebate_percent, 0, 100, "%")
    for field, text in (("rate", buying.rate_per_h), ("rebate cap", buying.rebate_cap)):
        if text is not None:
            read_money(text, field)
    for torque in job.build.torques:
        _within(f"torque of {torque.id}", torque.lbf_in, 1, 1000, "lbf-in")
        _choice(f"torque of {torque.id}, source", torque.source, TORQUE_SOURCES)
    if len(job.prove.readings) > MOST_READINGS:
        raise InputError("log", f"{len(job.prove.readings)} readings are too many.", f"up to {MOST_READINGS}")
    return job
