"""The Need scene: a day at home with a ramp for every charging current, and a card for each."""

from __future__ import annotations

from typing import Final

import numpy as np

from awlmark.core.entry.cars import in_miles, print_distance
from awlmark.core.entry.words import by_name
from awlmark.core.job.cars import Car
from awlmark.core.need.charging import parked_h
from awlmark.core.need.costs import by_outlet, costs
from awlmark.core.need.plan import OUTLET, NeedPlan, reason
from awlmark.core.quantities import MILE_KM, print_clock
from awlmark.core.solve.design import Design
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, START, TEXT, Picture, shorten
from awlmark.draw.view_state import Look

_CARDS: Final = 92.0
_LEFT, _RIGHT = 64.0, 20.0

MOST_CHIPS: Final = 3
"""Cars whose chips stand side by side."""


def draw_need(design: Design, look: Look, width: float, height: float) -> Picture:
    """Draw the day, the ramps and the cards.

    Parameters
    ----------
    design : Design
        Solved job.
    look : Look
        Which car's day is shown.
    width, height : float
        Size of the drawing [px].
    """
    picture = Picture(width, height)
    picture.box(0, 0, width, height, fill="sheet")
    plan = design.need
    if plan is None:
        middle, y = width / 2, height / 2
        picture.text(middle, y - 34, "Which car comes home to this line?", 24, BOLD, anchor=MIDDLE)
        picture.text(
            middle, y - 6, "Its week and its battery say how many amps are enough.", 15, role="ink2", anchor=MIDDLE
        )
        picture.box(middle - 70, y + 16, 140, 34, "scribe", 2, "sheet", 4)
        picture.text(middle, y + 38, "Put a car in", 15, BOLD, "scribe", MIDDLE)
        picture.hit(middle - 70, y + 16, 140, 34, "add-car", "Put a car in", "car:add")
        return picture
    chosen, cars = _chosen(design, plan), design.job.need.cars
    shown = min(look.car, len(cars) - 1)
    chips = _cars(picture, cars, shown)
    picture.text(16, 24, shorten(reason(plan), BOLD, 15, width - 32 - chips), 15, BOLD)
    told = [line for line in (_outlet_words(design, plan), _cost_words(design, plan, chosen)) if line]
    for number, line in enumerate(told):
        picture.text(16, 43 + 18 * number, shorten(line, TEXT, 13, width - 32 - (chips if not number else 0)), 13)
        picture.hit(
            12, 31 + 18 * number, width - 24 - chips, 17, f"need-told-{number}", line, ("", "type:fuel ")[number]
        )
    _chart(picture, design, plan, (chosen, shown), (58.0 + 18 * len(told), height - _CARDS - 14))
    _cards(picture, design, plan, (chosen, shown), height - _CARDS)
    return picture


def _outlet_words(design: Design, plan: NeedPlan) -> str:
    """What an ordinary outlet would still do."""
    outlet, job = by_outlet(design.job.need, plan), design.job
    if not outlet.day_km:
        return ""
    mornings = f"{outlet.short} mornings of a year short" if outlet.short else "no morning short"
    night, day = print_distance(outlet.night_km, job), print_distance(outlet.day_km, job)
    return f"{outlet.volts:g} V, {outlet.amps:g} A: still {night} of the day's {day} a night, {mornings}."


def _cost_words(design: Design, plan: NeedPlan, chosen: int) -> str:
    """Cost of a distance, and beside it fuel's where that is typed."""
    job = design.job
    found = costs(job.need, plan, chosen) if chosen >= 0 else None
    if found is None:
        return ""
    unit, each = ("mile", MILE_KM) if in_miles(job) else ("km", 1.0)
    told = f"{job.currency}{found.per_km * each:.3f} a {unit} here"
    if found.fuel_per_km is None or found.saved is None:
        return f"{told}. Beside fuel? Type {by_name(job.code)['fuel'].example}."
    less = f"{job.currency}{abs(found.saved):,.0f} a year {'less' if found.saved >= 0 else 'more'}"
    return f"{told}, {job.currency}{found.fuel_per_km * each:.3f} by fuel: {less}."


def _cars(picture: Picture, cars: tuple[Car, ...], shown: int) -> float:
    """With several cars a chip for each, to show its day; returns the width they take."""
    if len(cars) < 2:
        return 0.0
    wide = 116.0
    # Of many those round the one shown; the others are a click further.
    first = max(0, min(shown - MOST_CHIPS // 2, len(cars) - MOST_CHIPS))
    chips = cars[first : first + MOST_CHIPS]
    for place, car in enumerate(chips):
        number = first + place
        left, here = picture.width - 12 - wide * (len(chips) - place), number == shown
        fill, role = ("notefill", "scribe") if here else ("ground", "edge")
        picture.box(left, 8, wide - 6, 26, role, 2 if here else 1, fill, 3)
        name = shorten(car.name, BOLD, 13, wide - 18)
        picture.text(left + (wide - 6) / 2, 26, name, 13, BOLD if here else TEXT, anchor=MIDDLE)
        says = f"{car.name}'s day" + (", shown" if here else "")
        picture.hit(left, 8, wide - 6, 26, f"car-{number}", says, f"day:{number}")
    return wide * len(chips)


def _chosen(design: Design, plan: NeedPlan) -> int:
    """Place of the job's own charging current; -1 while it is unread."""
    if design.circuit is None:
        return -1
    return plan.place_of(design.circuit.charge_a, design.job.charger.connection in plan.portable.connections)


def _chart(
    picture: Picture, design: Design, plan: NeedPlan, which: tuple[int, int], edges: tuple[float, float]
) -> None:
    """The day of one car: ``which`` holds the place of the charging current and of the car."""
    (chosen, shown), (top, bottom) = which, edges
    car, ramps, job = design.job.need.cars[shown], plan.ramps[shown], design.job
    day_km = max(float(np.mean(car.km)), 1.0)
    start_h = np.floor(car.arrive_h) - 2
    right = picture.width - _RIGHT

    def x(hours: float) -> float:
        return _LEFT + (right - _LEFT) * (hours - float(start_h)) / 24

    def y(km: float) -> float:
        return bottom - 20 - (bottom - 38 - top) * km / day_km

    leave = car.arrive_h + parked_h(car)
    labels = Labels(picture, 0, top - 4, picture.width, bottom + 8)
    inside = min(x(leave), right)
    picture.box(x(car.arrive_h), top + 18, inside - x(car.arrive_h), bottom - 38 - top, fill="ground")
    for begins, ends in plan.quiet:
        # Hours that wait are hatched: no ramp rises there.
        for shift in (0.0, 24.0):
            left, far = max(begins + shift, car.arrive_h), min(ends + shift, leave, float(start_h) + 24)
            if far > left:
                picture.box(x(left), top + 18, x(far) - x(left), bottom - 38 - top, "edge", 1, hatch="slant:edge")
                picture.hit(x(left), top + 18, x(far) - x(left), bottom - 38 - top, f"quiet-{begins + shift:g}",
                            f"{print_clock(begins)} to {print_clock(ends)}: charging waits by default on weekdays",
                            "type:smart waived")  # fmt: skip
    for window in design.job.need.windows:
        for shift in (0.0, 24.0):
            end = window.to_h if window.to_h > window.from_h else window.to_h + 24
            left, far = max(window.from_h + shift, start_h), min(end + shift, start_h + 24)
            if far > left:
                cheap = float(window.price) <= float(job.need.price)
                picture.box(x(left), top + 2, x(far) - x(left), 15, fill="notefill" if cheap else "tightfill")
                told = f"{job.currency}{window.price}"
                labels.put(told, [((x(left) + x(far)) / 2, top + 14, MIDDLE)], 13, TEXT, "ink2")
    for hour in range(0, 25, 2 if (right - _LEFT) / 12 >= 54 else 4):
        at = x(float(start_h) + hour)
        picture.line(at, bottom - 20, at, bottom - 15, "edge")
        labels.put(print_clock(float(start_h) + hour), [(at, bottom, MIDDLE)], 16, DRAW, "ink2")
    picture.line(_LEFT, bottom - 20, right, bottom - 20, "ink", 1.4)
    picture.line(_LEFT, y(day_km), right, y(day_km), "edge", 1, dash=True)
    picture.text(_LEFT - 8, y(day_km) + 5, print_distance(day_km, job), 13, anchor=END)
    picture.text(_LEFT - 8, bottom - 16, print_distance(0, job), 13, role="ink2", anchor=END)
    order = sorted(range(len(plan.amps)), key=lambda place: place == chosen)
    for place in order:
        hours = float(ramps.day_h[place])
        stay = min(hours, leave - ramps.begins_h, float(start_h) + 24 - ramps.begins_h)
        gained = day_km * stay / hours if hours > 0 else day_km
        role = "scribe" if place == chosen else "edge"
        begins = ramps.begins_h
        foot, tip = (x(begins), y(0)), (x(begins + stay), y(gained))
        picture.line(
            *foot, *tip, role, 3.0 if place == chosen else 1.2, dash=place > plan.useful_to and place != chosen
        )
        if place == chosen and stay >= hours - 1e-9:
            picture.line(*tip, inside, tip[1], role, 3.0)
            picture.disc(tip[0], tip[1], 4, fill="scribe")
        elif stay < hours - 1e-9:
            picture.disc(tip[0], tip[1], 3.4, "tight", 1.6, "sheet")
    for place in sorted(range(len(plan.amps)), key=lambda place: (place != chosen, place)):
        hours = min(float(ramps.day_h[place]), leave - ramps.begins_h)
        gained = day_km * hours / float(ramps.day_h[place])
        told = f"{plan.amps[place]:.0f} A" + (" plug" if place == OUTLET else "")
        along, up = x(ramps.begins_h + hours * 0.62), y(gained * 0.62)
        if place <= plan.useful_to and along < right:
            spots = [(along + 8, up + 4, START), (along - 8, up + 4, END)]
            labels.put(told, spots, 13, BOLD if place == chosen else TEXT, plate="ground")
    picture.line(inside, top + 18, inside, bottom - 20, "tight", 1.4, dash=True)
    labels.put(
        f"leaves {print_clock(car.leave_h)}",
        [(inside + 6, bottom - 26, START), (inside - 6, bottom - 26, END)],
        13,
        TEXT,
        "tight",
    )
    middle = (top + bottom) / 2
    labels.put(f"home {print_clock(car.arrive_h)}", [(x(car.arrive_h) - 6, middle, END)], 13, TEXT, "ink2")
    number = shown + 1
    for name, word, clock, left in (
        ("home", "arrives", car.arrive_h, x(car.arrive_h) - 86), ("leaves", "leaves", car.leave_h, inside - 84),
    ):  # fmt: skip
        told = print_clock(clock)
        at = middle - 14 if name == "home" else bottom - 42
        says = f"{car.name} {name} {told}: a click types another time"
        picture.hit(left, at, 84, 20, f"clock-{name}", says, f"edit:car {number} {word} \t{told}")


def _cards(picture: Picture, design: Design, plan: NeedPlan, which: tuple[int, int], top: float) -> None:
    """One card a current: kilowatts, when the day is filled, short mornings, cost of the year."""
    (chosen, shown), year = which, plan.year
    ramps = plan.ramps[shown]
    heads = ("amps", "kW", "full by", "short")
    for number, head in enumerate(heads):
        picture.text(12, top + 17 + number * 20, head, 13, role="ink2")
    left = 60.0
    wide = (picture.width - left - 10) / len(plan.amps)
    for place, amps in enumerate(plan.amps):
        x, middle = left + place * wide, left + (place + 0.5) * wide
        here, faded = place == chosen, place > plan.useful_to
        if here or place == plan.enough:
            role = "scribe" if here else "edge"
            picture.box(x + 1, top, wide - 2, 84, role, 2 if here else 1, "notefill" if here else "ground", 3)
        role = "edge" if faded else "ink"
        picture.text(middle, top + 18, f"{amps:.0f}" + ("p" if place == OUTLET else ""), 17, DRAW, role, MIDDLE)
        picture.text(middle, top + 37, f"{ramps.kw[place]:.1f}", 13, role=role, anchor=MIDDLE)
        late = ramps.day_h[place] > 24
        picture.text(
            middle,
            top + 57,
            "never" if late else print_clock(float(ramps.full_by_h[place])),
            13,
            role=role,
            anchor=MIDDLE,
        )
        short = int(year.short_nights[place])
        picture.text(middle, top + 77, f"{short}", 13, BOLD if short else TEXT, "tight" if short else role, MIDDLE)
        says = _card_says(design, plan, place, shown)
        picture.hit(x, top, wide, 86, f"charge-{place}", says, f"charge:{place}")


def _card_says(design: Design, plan: NeedPlan, place: int, shown: int) -> str:
    """A card as a sentence."""
    ramps, year, miles = plan.ramps[shown], plan.year, in_miles(design.job)
    gain = ramps.km_per_h[place] / (MILE_KM if miles else 1)
    outlet = f" at {plan.portable.volts:g} volts" if place == OUTLET else ""
    return (
        f"{plan.amps[place]:.0f} amps{outlet}: {ramps.kw[place]:.1f} kilowatts, "
        f"{gain:.0f} {'miles' if miles else 'kilometres'} an hour, {ramps.day_h[place]:.1f} hours a day, "
        f"{ramps.from_20_to_80_h[place]:.1f} hours from 20 to 80 percent, "
        f"{int(year.short_nights[place])} short mornings and {design.job.currency}{year.cost[place]:,.0f} a year"
    )
