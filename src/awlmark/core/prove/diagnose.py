"""What readings mean: patterns of volts, sag beyond the design, heat brought to one current, slow charging."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import Book
from awlmark.core.books.words import Words, cap
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT
from awlmark.core.prove.at_setting import drop_split, pair_of
from awlmark.core.prove.log import Judged, latest
from awlmark.core.prove.meaning import Meaning
from awlmark.core.prove.network import circuit_of
from awlmark.core.prove.test import BREAKER, FACE, LEADS_OHM, RANGE_A
from awlmark.core.quantities import print_temperature
from awlmark.core.solve.design import Design

UPSTREAM_OHM: Final = 5.0 / 48.0
"""Real services and their transformers sag up to 5 V at 48 A before it is worth a word; common practice."""
GUARD_SHARE: Final = 0.15
"""A unit that guards itself from heat draws about half its current, within this share; common practice."""
SAG_SPARE_V: Final = 0.5
"""Sag this far over the design's is told; a meter and the utility's side are not known better."""
UPSTREAM: Final = "Upstream of the "
UNPLACED: Final = "Sag beyond the wire"
JOINT: Final = "A joint of the branch"
THIN: Final = "Thinner wire than designed"
THIN_DO: Final = "Read the size off the jacket; replace it, or set the charging current down."
WHERE_DO: Final = "Read both ends and the wire after an hour: one hot end is a joint, all of them warm the size."
HOT_SHARE: Final = 1.35
"""A rise over the designed one that is told; common practice."""
END_SHARE: Final = 1.25
"""And over the wire's own, so that it is the end and not the wire."""
LEAST_RISE_K: Final = 0.5
"""Designed rises below this tell nothing [K]."""
HOT_RISE_K: Final = 45.0
"""Rise at full current that a sound joint does not reach; common practice."""


def sag(
    design: Design, charger_idle: float, charger_loaded: float, amps: float, panel_idle: float | None = None,
    panel_loaded: float | None = None,
) -> Meaning:  # fmt: skip
    """Sag under load against the design: how many ohm too many, and on which side of the panel.

    Parameters
    ----------
    design : Design
        The circuit.
    charger_idle, charger_loaded : float
        Between the hots at the charger, without load and charging [V].
    amps : float
        Flowing [A].
    panel_idle, panel_loaded : float, optional
        The same at the panel; without them the side is not known.
    """
    split, words = drop_split(design), design.book.words
    full = design.circuit.charge_a if design.circuit is not None else amps
    share = amps / full if full else 1.0
    whole = charger_idle - charger_loaded
    branch_planned = split.get("branch", 0.0) * share
    upstream_planned = (split.get("service", 0.0) + split.get("feeder", 0.0)) * share
    usual_up = max(upstream_planned, UPSTREAM_OHM * amps)
    if panel_idle is None or panel_loaded is None:
        over = whole - branch_planned - usual_up
        if over <= SAG_SPARE_V:
            return Meaning(
                HOLDS, "Sag as designed", f"{whole:.1f} V under load; the branch explains {branch_planned:.1f} V."
            )
        ohm = over / amps
        text = f"{whole:.1f} V of sag where the branch explains {branch_planned:.1f} V: {ohm * 1000:.0f} mΩ too many."
        return Meaning(TIGHT, UNPLACED, text, f"Read the {words.panel} under load too: that tells which side.")
    upstream = panel_idle - panel_loaded
    branch = whole - upstream
    over_branch, over_up = branch - branch_planned, upstream - usual_up
    if max(over_branch, over_up) <= SAG_SPARE_V:
        return Meaning(HOLDS, "Sag as designed", f"Branch {branch:.1f} V, before it {upstream:.1f} V.")
    if over_branch >= over_up:
        milli = over_branch / amps * 1000
        watts = over_branch * amps
        text = f"The branch sags {branch:.1f} V, designed {branch_planned:.1f}: {milli:.0f} mΩ too many,"
        text += f" {watts:.0f} W in one place."
        return Meaning(STOP, JOINT, text, _joint_do(words))
    milli = over_up / amps * 1000
    text = f"The {words.panel} itself sags {upstream:.1f} V, usually up to {usual_up:.1f}: {milli:.0f} mΩ too many."
    return Meaning(
        TIGHT, UPSTREAM + words.panel, text, f"{cap(words.feeder)} terminals, main, then the {words.utility}."
    )


def _joint_do(words: Words) -> str:
    return f"Off, prove dead, retorque {words.breaker}, boxes and {words.charger}."


def _degrees(rise_k: float, units: str) -> str:
    """A rise of temperature [K] in the degrees that the job speaks."""
    return f"{rise_k:.0f} °C" if units == "m" else f"{rise_k * 1.8:.0f} °F"


def heat(
    rise_k: float,
    amps: float,
    full_a: float,
    *,
    wire_rise_k: float | None = None,
    minutes: float = 60.0,
    units: str = "ft",
) -> Meaning:
    """A rise over the air brought to the circuit's own current: it goes with the square.

    Parameters
    ----------
    rise_k : float
        Of plug or terminal over the air [K].
    amps, full_a : float
        Flowing when it was read, and what the circuit charges at [A].
    units : {"ft", "m"}
        Of the job.
    wire_rise_k : float, optional
        Of the wire beside it: a hot joint on a cool wire is a contact, both hot is the wire.
    minutes : float
        At that current.
    """
    scaled = rise_k * (full_a / amps) ** 2 if amps > 0 else 0.0
    told = f"{_degrees(rise_k, units)} over the air at {amps:g} A is {_degrees(scaled, units)} at {full_a:g} A"
    if minutes < 45:
        return Meaning(
            NOTE,
            "Too early",
            f"{told}, and still rising: heat needs an hour at steady current.",
            "Read again after an hour.",
        )
    if scaled <= HOT_RISE_K:
        return Meaning(HOLDS, "Heat as it should be", f"{told}.")
    contact = wire_rise_k is None or rise_k > 1.5 * wire_rise_k
    where = "a contact: the joint is hotter than its wire" if contact else "the wire: it is as hot as the joint"
    do = (
        "Off now. Remake the joint, replace what has browned."
        if contact
        else "Check the size, bundling and the air around it."
    )
    return Meaning(STOP, "Too hot", f"{told}. It is {where}.", do)


def why_only(
    design: Design,
    found_a: float,
    *,
    volts: float | None = None,
    plug_c: float | None = None,
    cord_a: float | None = None,
) -> tuple[Meaning, ...]:
    """Why the charger draws no more than this: the likeliest first.

    Parameters
    ----------
    design : Design
        The circuit and the cars.
    found_a : float
        Clamped [A].
    volts : float, optional
        At the charger under load.
    plug_c : float, optional
        Temperature at the plug.
    cord_a : float, optional
        Rating on the cord or adapter.
    """
    job, made = design.job, design.circuit
    if made is None:
        return ()
    found: list[tuple[float, Meaning]] = []

    def offer(limit: float, title: str, text: str, do: str) -> None:
        found.append((abs(limit - found_a), Meaning(NOTE, title, text, do)))

    if made.charge_a:
        offer(
            made.charge_a,
            "Setting",
            f"The circuit charges at {made.charge_a:g} A.",
            "Read switch and app; they must agree.",
        )
    for car in job.need.cars:
        if car.onboard_kw is not None:
            limit = car.onboard_kw * 1000 / made.volts
            offer(
                limit,
                "The car",
                f"{car.name} takes {car.onboard_kw:g} kW: {limit:.1f} A at {made.volts:g} V.",
                "Nothing is wrong.",
            )
    if cord_a is not None:
        offer(cord_a, "The cord", f"Cord or adapter is rated {cord_a:g} A.", "A cord rated for the circuit.")
    share, name = design.book.circuit.load_share, design.book.words.breaker
    if share > 1:
        text, do = f"{100 / share:.0f} percent of {made.breaker_a:g} A.", f"Some units are set by the {name}."
        offer(made.breaker_a / share, f"The {name}", text, do)
    half = made.charge_a / 2
    if plug_c is not None and plug_c > 60 and abs(found_a - half) <= GUARD_SHARE * half:
        offer(made.charge_a / 2, "Heat cut-back", f"{print_temperature(plug_c)} at the plug: it guards itself.",
              "A symptom, no cure: find the hot contact.")  # fmt: skip
    if volts is not None and volts < 0.9 * made.volts:
        offer(found_a, "Low volts", f"{volts:.0f} V under load.", "Split the sag: read both ends.")
    return tuple(meaning for _off, meaning in sorted(found, key=lambda each: each[0]))


def implied_volts(kilowatts: float, amps: float, nominal_v: float) -> list[Meaning]:
    """Volts that a unit's display and a clamp come to, where these are low: 7.2 kW at 32 A is 225 V."""
    volts = kilowatts * 1000 / amps
    if volts >= nominal_v * (1 - RANGE_A):
        return []
    text = f"{kilowatts:g} kW at {amps:g} A is {volts:.0f} V: the supply sags, or the car takes less than is shown."
    return [Meaning(NOTE, "Less power than amps", text, "Read the volts under load beside it.")]


def guard_setting(design: Design, found_a: float) -> Meaning:
    """Dial, switch or app against the circuit, at each visit."""
    made = design.circuit
    if made is None:
        return Meaning(NOTE, "No circuit yet", "There is nothing to hold it against.")
    most = made.breaker_a / design.book.circuit.load_share
    if found_a > most + 1e-9:
        name = design.book.words.breaker
        text = f"Set to {found_a:g} A; {made.breaker_a:g} A of {name} carry {most:g} A of charging."
        return Meaning(STOP, "Set above the circuit", text, "Set it down, and lock it.")
    if found_a > made.charge_a + 1e-9:
        return Meaning(
            TIGHT,
            "Set above the design",
            f"Set to {found_a:g} A, designed for {made.charge_a:g} A.",
            "Set it down, or solve again.",
        )
    return Meaning(HOLDS, "Setting holds", f"Set to {found_a:g} A; the circuit carries {most:g} A.")


def branch(now: dict[str, Judged], sagged: Meaning | None, air_c: float | None, book: Book) -> list[Meaning]:
    """Where the branch has too much resistance: at an end, or all along, as a thinner wire has.

    Sag and the loop's ohms tell that there is too much; the ends' heat against the wire's tells where. Without it the
    ground's loop does: a thin wire adds to it half of what it adds to the loop of the hots, a joint all or nothing.

    Parameters
    ----------
    now : dict
        The latest readings that count, by test.
    sagged : Meaning or None
        What the sag says.
    air_c : float or None
        Air when the heat was read [degC].
    """
    rules, words = book.prove, book.words
    rises = {place: _rise(now.get(f"{place} 60 min"), air_c) for place in ("lug", BREAKER, "wire")}
    over = {key: _over(now.get(key)) for key in (*rules.loops, rules.earth_loop)}
    loop = max((share for key, share in over.items() if share is not None and key != rules.earth_loop), default=None)
    wide = [key for key, share in over.items() if share is not None and not _within(now[key])]
    hot = {place: share for place, share in rises.items() if share is not None and share > HOT_SHARE}
    wire = rises["wire"] or 1.0
    ends = {place: share for place, share in hot.items() if place != "wire" and share > END_SHARE * wire}
    before = sagged is not None and sagged.title.startswith(UPSTREAM)
    beyond = sagged is not None and sagged.severity != HOLDS and not before
    if ends:
        place = max(ends, key=lambda end: ends[end])
        where = f"at the {words.breaker if place == BREAKER else words.charger}"
        text = f"The terminal {where} warms {ends[place]:.1f} times as much as a sound one, its wire does not."
        return [Meaning(STOP, f"Joint {where}", text, "Off, prove dead, remake it; replace what has browned.")]
    if "wire" in hot and (beyond or wide):
        text = f"The wire itself warms {hot['wire']:.1f} times as much as designed, and its resistance is too large."
        return [Meaning(STOP, THIN, text, THIN_DO)]
    split = _split(over, loop, now, book) if beyond or wide else None
    unsplit = split is None and sagged is not None and sagged.title == UNPLACED
    if sagged is not None and (before or unsplit or not (beyond or wide)):
        return [sagged]
    if split is not None or not (beyond or wide):
        return [split] if split is not None else []
    told = sagged.text if beyond and sagged is not None else f"{wide[0]}: more than the design's ohms and their band."
    known = all(share is not None for share in rises.values())
    return [Meaning(STOP, JOINT, told, _joint_do(words) if known else WHERE_DO)]


def _rise(each: Judged | None, air_c: float | None) -> float | None:
    """Rise over the air as a share of the designed one."""
    if each is None or each.test is None or each.reading.value is None or air_c is None:
        return None
    planned = each.test.expected - air_c
    return (each.reading.value - air_c) / planned if planned > LEAST_RISE_K else None


def _over(each: Judged | None) -> float | None:
    """Ohms over the expected ones, as a share of them."""
    if each is None or each.test is None or each.reading.value is None or each.test.expected <= 0:
        return None
    return each.reading.value / each.test.expected - 1


def _within(each: Judged) -> bool:
    assert each.test is not None and each.reading.value is not None
    return each.reading.value <= each.test.high


def _split(over: dict[str, float | None], loop: float | None, now: dict[str, Judged], book: Book) -> Meaning | None:
    """Gauge or joint, by what both loops have too much of; None where the meter is too coarse for it."""
    earth, words = book.prove.earth_loop, book.words
    ground = over[earth]
    key = next((key for key in book.prove.loops if over[key] is not None), None)
    if loop is None or ground is None or key is None:
        return None
    extra, beside = (share * now[name].test.expected for share, name in ((loop, key), (ground, earth)))  # type: ignore[union-attr]
    if extra < 2 * LEADS_OHM:
        return None
    if 0.35 <= beside / extra <= 0.65:
        text = f"Both loops read too much, the {words.hot}s' {extra:.2g} ohm, the {words.ground}'s {beside:.2g}: "
        text += f"one {words.hot}'s half of it."
        return Meaning(STOP, THIN, text, THIN_DO)
    text = f"The loop reads {extra:.2g} ohm too much, all of it in one place."
    return Meaning(STOP, JOINT, text, _joint_do(words))


def meanings(design: Design) -> tuple[Meaning, ...]:
    """What the log's latest readings point at, worst first."""
    now = {key: each for key, each in latest(design).items() if each.reading.value is not None}
    found: list[Meaning] = []

    def value(key: str) -> float | None:
        each: Judged | None = now.get(key)
        return None if each is None else each.reading.value

    found += design.book.prove.volts(design, value)
    circuit, (near, far) = circuit_of(design), design.book.prove.ends
    pair = "-".join(pair_of(circuit)) if circuit is not None else ""
    idle, loaded, amps = value(f"{far} {pair}"), value(f"{far} loaded"), value("amps")
    sagged = None
    if idle is not None and loaded is not None and amps:
        sagged = sag(design, idle, loaded, amps, value(f"{near} {pair}"), value(f"{near} loaded"))
    found += branch(now, sagged, design.job.prove.ambient_c, design.book)
    setting = value("setting")
    if setting is not None:
        found.append(guard_setting(design, setting))
    if amps and design.circuit is not None and amps < 0.95 * design.circuit.charge_a:
        found += why_only(design, amps, volts=loaded, plug_c=value("plug 60 min"))[:3]
    air, wire = design.job.prove.ambient_c, value("wire 60 min")
    if air is not None and amps and design.circuit is not None:
        full = design.circuit.charge_a
        for place in ("lug", BREAKER, "plug", FACE):
            hour, early = value(f"{place} 60 min"), value(f"{place} 5 min")
            beside = None if wire is None or place != "lug" else wire - air
            if hour is not None:
                found.append(heat(hour - air, amps, full, wire_rise_k=beside, units=design.job.units))
            elif early is not None:
                found.append(heat(early - air, amps, full, minutes=5.0, units=design.job.units))
    shown = value("kw")
    if shown is not None and amps and design.circuit is not None:
        found += implied_volts(shown, amps, design.circuit.volts)
    order = (STOP, TIGHT, NOTE, HOLDS)
    return tuple(sorted(found, key=lambda meaning: order.index(meaning.severity)))
