"""The Supply scene of a board that is a row of ways: cut-out and earth, the row itself, and what it has to carry."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.words import cap
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.job.supply import Device
from awlmark.core.quantities import print_amps
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width
from awlmark.draw.kit.severity_marks import NAMES, mark

EARTH_TALL: Final = 246.0
ROW_TALL: Final = 158.0
LINE: Final = 24.0
USUAL_WAYS: Final = 10
SYSTEMS: Final = {
    "tn-c-s": "TN-C-S (PME)", "tn-s": "TN-S", "tt": "TT",
}  # fmt: skip
BONDS: Final = ("water", "gas", "oil", "steel")


def draw_supply(picture: Picture, design: Design, top: float) -> None:
    """Draw the page.

    Parameters
    ----------
    picture : Picture
        The scene.
    design : Design
        Solved job.
    top : float
        From where there is room [px].
    """
    width = picture.width
    split = round(width * 0.58)
    _cutout(picture, design, (8.0, top + 4, split - 6.0, top + EARTH_TALL))
    _facts(picture, design, (split + 4.0, top + 4, width - 8.0, top + EARTH_TALL))
    row = top + EARTH_TALL + 10
    _row(picture, design, (8.0, row, width - 8.0, row + ROW_TALL))
    _demand(picture, design, (8.0, row + ROW_TALL + 10, width - 8.0, picture.height - 6))


def _card(picture: Picture, area: tuple[float, float, float, float], title: str) -> None:
    left, top, right, bottom = area
    picture.box(left, top, right - left, bottom - top, "edge", 1, "sheet", 4)
    picture.text(left + 12, top + 20, title, 13, BOLD, "ink2")


def _told(value: float | None, unit: str) -> str:
    return "not read" if value is None else f"{value:g} {unit}"


def _cutout(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """From the distributor's cable to the main switch, with the earth as it goes home."""
    left, top, right, bottom = area
    supply = design.job.supply
    _card(picture, area, "Cut-out and earth")
    y, x = top + 88, left + 60
    step = (right - left - 150) / 2
    boxes = (
        ("Cut-out", _told(supply.cutout_a, "A"), "cut-out ", supply.cutout_a is None),
        ("Meter, tails", _told(supply.tails_mm2, "mm²"), "tails ", supply.tails_mm2 is None),
        ("Main switch", _told(supply.service_a, "A"), "main ", supply.service_a is None),
    )
    _live(picture, left + 8, x - 44, y)
    for number, (name, told, words, unread) in enumerate(boxes):
        middle = x + number * step + 16
        if number:
            _live(picture, middle - step + 44, middle - 44, y)
        picture.box(middle - 44, y - 34, 88, 62, "ink", 1.6, "ground", 4, dash=unread)
        picture.text(middle, y - 44, name, 13, anchor=MIDDLE)
        picture.text(middle, y + 4, told, 16 if not unread else 13, DRAW if not unread else TEXT, anchor=MIDDLE)
        picture.hit(middle - 44, y - 58, 88, 86, f"supply-{number}", f"{name}: {told}; type it", f"type:{words}")
    _earth(picture, design, (x + 16, y + 28, x + step + 16, bottom))


def _live(picture: Picture, start: float, end: float, y: float) -> None:
    """Line and neutral, rimmed as wires are everywhere."""
    for role, at in (("brown", y), ("blue", y + 10)):
        picture.line(start, at, end, at, "edge", 6)
        picture.line(start, at, end, at, role, 4)


def _earth(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """How the earth goes home: by the supply's neutral, by a conductor of its own, or by a rod."""
    first, top, terminal, bottom = area
    supply = design.job.supply
    system, base = supply.earthing, bottom - 62
    role = "green and yellow" if system else "unread"
    y = base - 14
    if system == "tn-c-s":
        picture.line(first - 20, top, first - 20, y, role, 4)
        picture.line(first - 20, y, terminal, y, role, 4)
        picture.text(first - 12, top + 22, "joined to the neutral here", 13, role="ink2")
    elif system == "tn-s":
        picture.line(first - 68, top - 6, first - 68, y, role, 4)
        picture.line(first - 68, y, terminal, y, role, 4)
        picture.text(first - 58, top + 22, "its own conductor, or the sheath", 13, role="ink2")
    elif system == "tt":
        picture.line(first - 20, y, terminal, y, role, 4)
        picture.line(first - 20, y, first - 20, base + 8, role, 4)
        for number in range(3):
            picture.line(first - 34 + 5 * number, base + 10 + 5 * number, first - 6 - 5 * number,
                         base + 10 + 5 * number, "ink", 2)  # fmt: skip
        picture.text(first + 4, base + 22, f"rod {_told(supply.ra_ohm, 'ohm')}", 13, role="ink2")
    else:
        picture.line(first - 20, y, terminal, y, "unread", 2, dash=True)
    picture.box(terminal - 6, y - 12, 96, 24, "ink", 1.4, "ground", 3)
    picture.text(terminal + 42, y + 5, "earth bar", 13, anchor=MIDDLE)
    told = SYSTEMS.get(system or "", "How is it earthed? pme, tn-s or tt")
    mark(picture, design.mark("pme") if system is None else HOLDS, first - 56, bottom - 19, 11)
    used = picture.text(first - 44, bottom - 14, told, 13, BOLD)
    ze = "Ze not told" if supply.ze_ohm is None else f"Ze {supply.ze_ohm:g} ohm"
    picture.text(first - 44 + used + 12, bottom - 14, ze if system != "tt" else "", 13)
    picture.hit(first - 62, bottom - 32, used + 24, 26, "earthing", f"Earthing: {told}; type it", "type:earthing ")
    picture.hit(first - 40 + used, bottom - 32, 130, 26, "ze", f"{ze}; type it", "type:ze ")


def _facts(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """What was read of the supply, each with its mark; a click types it."""
    left, top, right, bottom = area
    supply = design.job.supply
    _card(picture, area, "Read at the supply")
    fault = _told(None if supply.fault_a is None else supply.fault_a / 1000, "kA")
    breaks = _told(None if supply.breaks_a is None else supply.breaks_a / 1000, "kA")
    looped = {None: "not asked", True: "yes", False: "no"}[supply.looped]
    bonds = ", ".join(
        f"{name} {'?' if getattr(supply.bonding, name) is None else getattr(supply.bonding, name)}" for name in BONDS
    )
    rows = (
        ("Earthing conductor", _told(supply.earth_mm2, "mm²"), "met ", design.mark("earth")),
        ("Bonded", bonds, "bond ", design.mark("bonding")),
        ("Bonding conductor", _told(supply.bonding.mm2, "mm²"), "bond size ", design.mark("bonding")),
        ("Fault current", f"{fault}; device {breaks}", "pfc ", design.mark("kA")),
        ("Looped supply", looped, "looped ", design.mark("looped")),
        ("Board", supply.unit.kind or "not read", "board ", design.mark("unit")),
        ("Region", cap(supply.region) if supply.region else "not told", "region ", HOLDS if supply.region else UNREAD),
    )
    for number, (name, told, words, severity) in enumerate(rows):
        y = top + 44 + number * 28
        if y > bottom - 8:
            break
        mark(picture, severity, left + 18, y - 5, 11)
        used = picture.text(left + 32, y, name, 13)
        room = right - left - 50 - used
        picture.text(right - 12, y, shorten(told, BOLD, 13, room), 13, BOLD, anchor=END)
        picture.hit(left + 6, y - 18, right - left - 12, 26, f"fact-{number}", f"{name}: {told}; type it",
                    f"type:{words}")  # fmt: skip


def _row(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """One row of ways from the main switch, a module each; where the new device goes is lit."""
    left, top, right, bottom = area
    unit, rules = design.job.supply.unit, design.book.panel
    finding = design.finding("ways")
    ways = unit.ways or 0
    title = f"{design.book.words.panel.capitalize()}, {ways} ways" if ways else design.book.words.panel.capitalize()
    _card(picture, area, title)
    told = finding.text if finding is not None else ""
    picture.text(right - 12, top + 20, shorten(told, TEXT, 13, right - left - 220), 13, role="ink2", anchor=END)
    if not ways:
        picture.text((left + right) / 2, (top + bottom) / 2 + 4, "How many ways has it, and which are free?", 15, BOLD,
                     anchor=MIDDLE)  # fmt: skip
        picture.text((left + right) / 2, (top + bottom) / 2 + 28, "ways 10", 18, DRAW, "scribe", MIDDLE)
        picture.hit(left + 6, top + 28, right - left - 12, bottom - top - 34, "ways", "Type how many ways it has",
                    "type:ways ")  # fmt: skip
        return
    first, wide = left + 92.0, min((right - left - 104) / ways, 62.0)
    high, low = top + 34.0, bottom - 30.0
    picture.box(left + 12, high, 72, low - high, "ink", 1.6, "ground", 3)
    picture.text(left + 48, (high + low) / 2 - 6, "main", 13, anchor=MIDDLE)
    main = design.job.supply.service_a
    picture.text(left + 48, (high + low) / 2 + 16, "?" if main is None else f"{main:g}", 18, DRAW, anchor=MIDDLE)
    picture.line(first, low + 4, first + ways * wide, low + 4, "copper", 4)
    held = {way: one for one in unit.devices for way in range(one.way, one.way + one.modules)}
    place = rules.new_place(design) if design.circuit is not None else ()
    for way in range(1, ways + 1):
        x = first + (way - 1) * wide
        picture.text(x + wide / 2, bottom - 8, f"{way}", 13, role="ink2", anchor=MIDDLE)
        one = held.get(way)
        if one is not None and one.way == way:
            _device(picture, one, (x, high, wide * one.modules, low), moved=way in place)
        elif one is None:
            free = way in unit.free
            picture.box(x + 2, high, wide - 4, low - high, "edge", 1, "sheet" if free else "well", 2, dash=True,
                        hatch="" if free else "slant:faint")  # fmt: skip
            says = "free" if free else "not told"
            picture.text(x + wide / 2, (high + low) / 2 + 5, "free" if free else "?", 13, role="ink2", anchor=MIDDLE)
            picture.hit(x, high, wide, low - high, f"way-{way}", f"Way {way}: {says}; type it", f"type:way {way} ")
    if place and design.circuit is not None:
        x, much = first + (place[0] - 1) * wide, wide * len(place)
        picture.box(x + 1, high - 3, much - 2, low - high + 6, "scribe", 3, "notefill", 3)
        label = design.book.circuit.device_label(design.job, design.circuit.breaker_a)
        picture.text(x + much / 2, (high + low) / 2 - 6, shorten(label, BOLD, 13, much - 4), 13, BOLD, "scribe", MIDDLE)
        picture.text(x + much / 2, (high + low) / 2 + 14, "new", 13, role="scribe", anchor=MIDDLE)
        ways_told = " and ".join(str(way) for way in place)
        picture.hit(x, high, much, low - high, "new-device", f"The new {label} in ways {ways_told}", "select:ways")


def _device(picture: Picture, one: Device, area: tuple[float, float, float, float], *, moved: bool) -> None:
    left, top, right, bottom = area[0], area[1], area[0] + area[2], area[3]
    blank = one.kind == "blank"
    picture.box(left + 2, top, right - left - 4, bottom - top, "edge" if blank else "ink", 1.4,
                "well" if blank else "ground", 3, dash=moved)  # fmt: skip
    middle, y = (left + right) / 2, (top + bottom) / 2
    if blank:
        picture.text(middle, y + 5, "blank", 13, role="ink2", anchor=MIDDLE)
    else:
        curve = (one.curve or "").upper()
        rating = f"{curve}{one.rating_a:g}" if one.rating_a else one.kind.upper()
        picture.text(middle, y - 8, rating, 16, DRAW, anchor=MIDDLE)
        kind = f"type {one.residual.upper()}" if one.residual else one.kind.upper()
        picture.text(middle, y + 10, shorten(kind, TEXT, 13, right - left - 6), 13, role="ink2", anchor=MIDDLE)
        picture.text(middle, y + 28, shorten(one.name, TEXT, 13, right - left - 6), 13, anchor=MIDDLE)
    says = f"Way {one.way}: {one.kind} {one.name}".strip() + (", to be moved" if moved else "")
    picture.hit(left, top, right - left, bottom - top, f"way-{one.way}", f"{says}; type another",
                f"type:way {one.way} ")  # fmt: skip


def _demand(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """Every bus as a bar against its device, and the loads that count."""
    left, top, right, bottom = area
    if bottom - top < 60:
        return
    _card(picture, area, "Demand, at one phase")
    if not design.buses:
        picture.text((left + right) / 2, (top + bottom) / 2 + 8, "What else draws? Type load lathe 3kw motor.", 15,
                     anchor=MIDDLE)  # fmt: skip
        return
    bus = design.buses[-1]
    finding = design.finding(f"demand:{bus.id}")
    severity = finding.severity if finding is not None else HOLDS
    most = max(bus.needed_a, bus.rating_a or 0.0) * 1.12 or 1.0
    x, end = left + 12.0, right - 12.0
    pixels = (end - x) / most
    charger = bus.needed_a - bus.others_a
    y = top + 30
    picture.box(x, y, max(bus.others_a * pixels, 1), 22, "edge", 1, "well")
    picture.box(x + bus.others_a * pixels, y, max(charger * pixels, 1), 22, "scribe", 1.4, "notefill")
    others, own = f"others {bus.others_a:.2f} A", f"charge {charger:.2f} A"
    picture.text(x + 8, y + 16, shorten(others, TEXT, 13, bus.others_a * pixels - 10), 13)
    at = x + bus.others_a * pixels + 8
    picture.text(at, y + 16, shorten(own, BOLD, 13, charger * pixels - 10), 13, BOLD)
    if bus.rating_a is not None:
        picture.line(x + bus.rating_a * pixels, y - 5, x + bus.rating_a * pixels, y + 27, "ink", 3)
    spare = bus.spare_a
    words = "fuse not read" if spare is None else f"{abs(spare):.2f} A {'spare' if spare >= 0 else 'over'}"
    told = f"{print_amps(bus.needed_a)} of {'?' if bus.rating_a is None else f'{bus.rating_a:g}'} A, {words}"
    picture.text(end, top + 20, told, 13, BOLD, severity, END)
    mark(picture, severity, end - text_width(told, BOLD, 13) - 12, top + 15, 11)
    picture.hit(x, y - 6, end - x, 34, "demand", f"{bus.name}: {told}, {NAMES[severity]}", f"select:demand:{bus.id}")
    loads = ", ".join(f"{row.text} {row.counted_va / 230:.2f} A" for row in bus.sheet.rows)
    picture.text(x, y + 42, shorten(loads, TEXT, 13, end - x - 130), 13, role="ink2")
    picture.text(end, y + 42, "all loads: Demand", 13, BOLD, "scribe", END)
    picture.hit(end - 130, y + 28, 130, 22, "to-amps", "Every load with its share", "page:amps")
