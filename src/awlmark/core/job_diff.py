"""What differs between whole jobs: facts side by side, only those that are not the same."""

from __future__ import annotations

from collections.abc import Sequence

from awlmark.core.build.steps import hours_of
from awlmark.core.errors import InputError
from awlmark.core.job.book_pins import family
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.names import METAL_NAMES
from awlmark.core.need.charging import parked_h
from awlmark.core.parts.quote import estimate
from awlmark.core.quantities import draw_trade_size, print_amps, print_clock, print_length
from awlmark.core.solve.design import Design


def facts(design: Design) -> dict[str, str]:
    """A job in short: label and text, in the order of the chain."""
    job, circuit, line = design.job, design.circuit, design.line
    told = {"Rule book": design.book.title, "Service": print_amps(job.supply.service_a or 0.0)}
    told["Run"] = f"{print_length(line.length_m, job.units)}, {line.bends_deg:.0f}°"
    told["Ends at"] = next((pin.name for pin in job.site.pins if pin.id == job.site.pin), "the line's end")
    if circuit is None:
        return told
    metal = METAL_NAMES[circuit.material]
    kind = f" {circuit.insulation.upper()}" if circuit.insulation else ""
    told["Charging"] = f"{circuit.charge_a:g} A, {job.charger.connection}"
    told["Breaker"] = f"{circuit.breaker_a:g} A" + (", ground-fault" if circuit.gfci else "")
    told["Conductor"] = f"{circuit.hots} × {design.book.print_size(circuit.size)} {metal}{kind}"
    told["Ground"] = (
        design.book.print_size(circuit.ground) if circuit.ground else "raceway" if circuit.raceway_ground else "unread"
    )
    pipes = [
        f"{draw_trade_size(trade)} {section.method.name}" if trade else section.method.name
        for section, trade in zip(line.sections, circuit.trade_sizes, strict=True)
    ]
    told["Raceway"] = ", ".join(dict.fromkeys(pipes))
    told["At the charger"] = f"{circuit.volts - circuit.drop_v:.1f} V, {circuit.drop_percent:.2f} % lost"
    if design.pulls:
        told["Hardest pull"] = max(design.pulls, key=lambda one: one.usual_n).pull.says
    if design.need is not None and job.need.cars:
        place = design.need.place_of(circuit.charge_a, job.charger.connection in design.book.portable.connections)
        hours = float(design.need.ramps[0].day_h[place])
        late = hours > parked_h(job.need.cars[0])
        told["Full by"] = "not by morning" if late else print_clock(float(design.need.ramps[0].full_by_h[place]))
        told["Short mornings"] = f"{int(design.need.year.short_nights[place])} a year"
    told["Lines to buy"] = f"{len(design.parts)}"
    sums = estimate(job, design.parts, hours_of(design))
    told["Hours"] = f"{sums.all_hours:.1f}"
    if sums.total != sums.parts:
        told["Quote"] = f"{job.currency}{sums.total:,.2f}"
    return told


def differences(designs: Sequence[Design]) -> list[tuple[str, tuple[str, ...]]]:
    """Facts that are not the same in all designs: label, and the text of each."""
    every = [facts(design) for design in designs]
    labels = dict.fromkeys(label for one in every for label in one)
    rows = [(label, tuple(one.get(label, "") for one in every)) for label in labels]
    return [(label, texts) for label, texts in rows if len(set(texts)) > 1]


def different_parts(one: Design, other: Design) -> list[tuple[str, float, float]]:
    """Lines of the list whose quantity differs: name, how many here, how many there."""
    here = {part.name: part.quantity for part in one.parts}
    there = {part.name: part.quantity for part in other.parts}
    return [
        (name, here.get(name, 0.0), there.get(name, 0.0))
        for name in dict.fromkeys((*here, *there))
        if abs(here.get(name, 0.0) - there.get(name, 0.0)) > 1e-9
    ]


def take_leg(job: Job, other: Job, leg_id: str) -> Job:
    """A job with one leg as another has it: in the place of its own, or put in where it stands there.

    Raises
    ------
    InputError
        When the other job has no such leg, or is told in the words of another rule book.
    """
    if family(job.code) != family(other.code):
        raise InputError("leg", "The pencil line goes by another rule book.", "a line drawn by the same book")
    at = next((place for place, leg in enumerate(other.legs) if leg.id == leg_id), None)
    if at is None:
        raise InputError("leg", "That leg is not in the pencil line.", "a leg that is drawn there")
    taken = other.legs[at]
    if any(leg.id == leg_id for leg in job.legs):
        return put(job, Put(f"legs[{leg_id}]", taken))
    before = {leg.id for leg in other.legs[:at]}
    place = max((number + 1 for number, leg in enumerate(job.legs) if leg.id in before), default=0)
    return put(job, Put("legs", (*job.legs[:place], taken, *job.legs[place:])))
