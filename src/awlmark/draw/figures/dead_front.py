"""The dead front: numbered spaces, bus legs alternating, what is in them, knockouts, and the moves that make room."""

from __future__ import annotations

from typing import Final

from awlmark.core.entry.spaces import form_of
from awlmark.core.entry.supply_facts import PANEL_FACTS
from awlmark.core.finding import HOLDS, STOP
from awlmark.core.job.panel_face import Breaker, Knockout
from awlmark.core.panel.rearrange import OUT, Freed, Move, cells, fewest_moves, takes_tandems
from awlmark.core.panel.spaces import leg_of, new_breaker, untold
from awlmark.core.quantities import draw_trade_size
from awlmark.core.solve.design import Design
from awlmark.draw.kit.picture import BOLD, DRAW, END, MIDDLE, TEXT, Picture, shorten, text_width, wrap
from awlmark.draw.kit.severity_marks import NAMES, mark

_WIDE: Final = 424.0
_BAND: Final = 42.0
"""Above and below the spaces: knockouts, and the line lugs inside the box."""
_FACT_WORDS: Final = ("bus ", "accepts ", "condition ", "clear ")
"""What a click on each fact of the panel begins to type."""


def draw_dead_front(picture: Picture, design: Design, top: float, width: float, height: float) -> None:
    """Draw the panel's spaces at the left; at the right the moves, the panel's facts and what speaks against it.

    Parameters
    ----------
    picture : Picture
        Drawing to add to.
    design : Design
        Its job's dead front.
    top, width, height : float
        Where the drawing begins, and its size [px].
    """
    front = design.job.dead_front
    if front.spaces == 0:
        middle, y = width / 2, (top + height) / 2
        picture.text(middle, y - 14, "How many spaces has the panel?", 24, BOLD, anchor=MIDDLE)
        picture.text(middle, y + 14, "Type them, then what is in each.", 15, role="ink2", anchor=MIDDLE)
        picture.text(middle, y + 42, "spaces 20", 18, DRAW, "scribe", MIDDLE)
        return
    freed = fewest_moves(front)
    made = _new(design)
    rows = front.spaces // 2
    tall = min(28.0, (height - top - 2 * _BAND - 8) / rows)
    first = top + _BAND + 4
    _box(picture, design, first, tall * rows)
    for space in range(1, front.spaces + 1):
        covered = made is not None and space in cells(made)
        _space(picture, design, freed, space, (first, tall), covered)
    if made is not None:
        _charger(picture, made, (first, tall))
    _beside(picture, design, freed, (_WIDE + 18, top + 18, width - 12, height))


def _new(design: Design) -> Breaker | None:
    """The circuit's own breaker where it will stand; None where something has to be moved for it first."""
    if design.circuit is None:
        return None
    made = new_breaker(design.job, design.circuit.hots, design.circuit.breaker_a)
    return None if made is None or made[1] else made[0]


def _charger(picture: Picture, one: Breaker, area: tuple[float, float]) -> None:
    """The new breaker over the spaces it will take."""
    first, tall = area
    middle, right = _WIDE / 2 + 4, one.space % 2 == 0
    y, left, wide = first + (one.space - 1) // 2 * tall, middle + 6 if right else 54.0, middle - 60
    deep = tall * len(cells(one)) - 2
    picture.box(left, y + 1, wide, deep, "scribe", 2, "notefill", dash=True)
    if tall >= 13:
        told = shorten(f"{one.rating_a:g} A {one.name}, new", BOLD, 13, wide - 12)
        picture.text(left + 6, y + deep / 2 + 5, told, 13, BOLD, "scribe")
    spaces = " and ".join(f"{space}" for space in cells(one))
    says = f"New breaker in {spaces}: {one.rating_a:g} A, {one.poles}-pole, for the charger"
    picture.hit(left, y, wide, deep, "new-breaker", says, f"type:slot {one.space} ")


def _box(picture: Picture, design: Design, first: float, deep: float) -> None:
    """The enclosure, the line lugs that stay live, the knockouts around it."""
    picture.box(22, first - 24, _WIDE - 36, deep + 34, "ink", 1.6, "ground", 4)
    picture.box(60, first - 20, _WIDE - 112, 15, "stop", 1, "stopfill", hatch="slant:stop")
    picture.plate(_WIDE / 2 + 4, first - 8, "line lugs: stay live", 13, BOLD, "stop", MIDDLE, "stopfill")
    sides: dict[str, list[Knockout]] = {}
    for knockout in design.job.dead_front.knockouts:
        sides.setdefault(knockout.side, []).append(knockout)
    for side, there in sides.items():
        for number, knockout in enumerate(there):
            if side in ("top", "bottom"):
                x = 22 + (_WIDE - 36) * (number + 1) / (len(there) + 1)
                y = first - 35 if side == "top" else first + deep + 21
            else:
                x = 13.0 if side == "left" else _WIDE - 5
                y = first + deep * (number + 1) / (len(there) + 1)
            _knockout(picture, design, knockout, x, y)


def _knockout(picture: Picture, design: Design, knockout: Knockout, x: float, y: float) -> None:
    chosen = design.job.supply.knockout == knockout.id
    role = "scribe" if chosen else "edge" if knockout.state == "free" else "ink2"
    picture.disc(x, y, 7, role, 2.4 if chosen else 1.4, "notefill" if chosen else "sheet")
    if knockout.state == "used":
        picture.disc(x, y, 3.5, fill="ink2")
    elif knockout.state == "blocked":
        picture.line(x - 5, y - 5, x + 5, y + 5, "stop", 2)
        picture.line(x - 5, y + 5, x + 5, y - 5, "stop", 2)
    size = draw_trade_size(knockout.trade_size)
    if knockout.side in ("top", "bottom"):
        picture.text(x + 10, y + 5, size, 16, DRAW, role if chosen else "ink2")
    says = f"knockout {knockout.id}, {size} at the {knockout.side}, {knockout.state}" + (
        ", the run begins here" if chosen else ""
    )
    picture.hit(x - 9, y - 9, 40 if knockout.side in ("top", "bottom") else 18, 18, f"knockout-{knockout.id}", says,
                f"scribe:knockout {knockout.id} run")  # fmt: skip


def _space(
    picture: Picture, design: Design, freed: Freed, space: int, area: tuple[float, float], covered: bool
) -> None:
    """One space; its row lies on one leg: dark tabs mark leg A, light ones leg B."""
    first, tall = area
    front, middle = design.job.dead_front, _WIDE / 2 + 4
    right = space % 2 == 0
    y = first + (space - 1) // 2 * tall
    left, wide = (middle + 6 if right else 54.0), middle - 60
    legible = tall >= 13
    if legible:
        picture.text(_WIDE - 18 if right else 50, y + tall / 2 + 5, f"{space}", 13, role="ink2", anchor=END)
    leg = leg_of(space)
    picture.box(middle - 4 if not right else middle, y + 2, 4, tall - 4, fill="ink" if leg == "A" else "edge")
    chosen = freed.pair is not None and space in freed.pair
    one = next((breaker for breaker in front.breakers if space in cells(breaker)), None)
    if one is None:
        if not covered:
            _empty(picture, design, space, (left, y, wide, tall), chosen)
        gaping = space in front.opened and space not in front.fillers
        bare = "not told" if untold(front, (space,)) else "free"
        told = "open, no filler" if gaping else "filler plate" if space in front.opened else bare
        told += ", takes tandems" if takes_tandems(front, space) else ""
    else:
        if space == one.space:
            _device(picture, one, (left, y, wide, tall * len(cells(one))), chosen, legible)
        told = device_words(one)
    picture.hit(left, y, wide, tall, f"slot-{space}", f"space {space}, leg {leg}: {told}", f"type:slot {space} ")


def _empty(picture: Picture, design: Design, space: int, area: tuple[float, float, float, float], chosen: bool) -> None:
    left, y, wide, tall = area
    front = design.job.dead_front
    role = "scribe" if chosen else "edge"
    if space in front.opened:
        filled = space in front.fillers
        picture.box(left, y + 1, wide, tall - 2, "edge" if filled else "stop", 1, "sheet" if filled else "stopfill")
        if tall >= 13:
            told = "filler" if filled else "open"
            picture.text(left + 6, y + tall / 2 + 5, told, 13, TEXT, "ink2" if filled else "stop")
        return
    fill = "notefill" if chosen else ""
    if untold(front, (space,)):
        picture.box(left, y + 1, wide, tall - 2, "unread", 2 if chosen else 1, fill, dash=True)
        if tall >= 13:
            picture.text(left + 6, y + tall / 2 + 5, "not told", 13, TEXT, "unread")
    else:
        picture.box(left, y + 1, wide, tall - 2, role, 2 if chosen else 1, fill, hatch="slant:faint")
    if takes_tandems(front, space):
        # Two short strokes: this space takes a tandem.
        for shift in (8, 12):
            picture.line(left + wide - shift, y + 5, left + wide - shift, y + tall - 5, role, 1.4)


def _device(
    picture: Picture, one: Breaker, area: tuple[float, float, float, float], chosen: bool, legible: bool
) -> None:
    left, y, wide, deep = area
    deep -= 2
    fill = "faint" if one.stays else "sheet" if one.idle else "well"
    picture.box(left, y + 1, wide, deep, "scribe" if chosen else "ink", 2 if chosen else 1, fill, dash=one.idle)
    if one.tandem or one.quad:
        picture.line(left, y + 1 + deep / 2, left + wide, y + 1 + deep / 2, "edge", 1)
    right = left + wide - 6
    if one.idle:
        # Two small boxes: proved at the panel, proved at the far end.
        for shift, proved in ((20, one.proved_panel), (6, one.proved_load)):
            x, mid = left + wide - shift - 6, y + deep / 2 - 4
            picture.box(x, mid, 10, 10, "ink", 1, "sheet")
            if proved:
                picture.path([(x + 2, mid + 8), (x + 8, mid + 2)], "ink", 2)
        right -= 32
    if not legible:
        return
    amps = f"{one.rating_a:g} A " if one.rating_a else ""
    extra = f" {form_of(one)}" if one.tandem or one.quad or one.tied else ""
    extra += " stays" if one.stays else " idle" if one.idle else ""
    baseline = y + deep / 2 + 5
    # A name over the middle line of a tandem would be struck through.
    told = shorten(f"{amps}{one.name}{extra}".strip() or "in use", TEXT, 13, right - left - 8)
    if one.tandem or one.quad:
        picture.plate(left + 6, baseline, told, 13, TEXT, "ink", "start", fill)
    else:
        picture.text(left + 6, baseline, told, 13)


def device_words(one: Breaker) -> str:
    """A device in words."""
    told = [one.name or "in use"]
    told += [f"{one.rating_a:g} A"] if one.rating_a else []
    told += [form_of(one)] if form_of(one) not in ("1p", "2p") else []
    told += [f"type {one.family}"] if one.family else []
    told += [one.kind] if one.kind != "branch" else []
    told += ["stays"] if one.stays else []
    if one.idle:
        ends = [name for name, proved in (("panel", one.proved_panel), ("load", one.proved_load)) if proved]
        told.append("idle, " + (f"proved at the {' and the '.join(ends)}" if ends else "not proved"))
    return ", ".join(told)


def _beside(picture: Picture, design: Design, freed: Freed, area: tuple[float, float, float, float]) -> None:
    left, y, right, bottom = area
    picture.text(left, y, "Room for two poles", 13, BOLD, "ink2")
    finding = design.finding("space-told") or design.finding("space")
    for line in wrap(finding.text if finding else "", TEXT, 15, right - left):
        y += 21
        picture.text(left, y, line, 15)
    for number, move in enumerate(freed.moves, 1):
        y += 26
        picture.disc(left + 9, y - 5, 9, "scribe", 1.4, "sheet")
        picture.text(left + 9, y, f"{number}", 13, BOLD, anchor=MIDDLE)
        picture.text(left + 26, y, shorten(_move_words(move), BOLD, 13, right - left - 28), 13, BOLD)
    y = _facts(picture, design, (left, y + 26, right))
    caution = wrap("Panel dead before the cover comes off. The line lugs stay live.", TEXT, 13, right - left)
    foot = bottom - 10 - 17 * (len(caution) - 1)
    _against(picture, design, (left, y + 10, right, foot - 20))
    for number, line in enumerate(caution):
        picture.text(left, foot + 17 * number, line, 13, role="stop")


def _move_words(move: Move) -> str:
    where = "take it out" if move.to_space == OUT else f"to {move.to_space}"
    return f"{move.name}, space {move.from_space}: {where}"


def _facts(picture: Picture, design: Design, area: tuple[float, float, float]) -> float:
    """What the panel's label says; a click begins the words that change it."""
    left, y, right = area
    picture.text(left, y, "On the panel", 13, BOLD, "ink2")
    for fact, words in zip(PANEL_FACTS, _FACT_WORDS, strict=True):
        y += 20
        value = fact.show(design.job, None)
        picture.text(left, y, fact.label, 13)
        beside = left + text_width(fact.label, TEXT, 13) + 10
        lettering = words == "clear " and bool(value)
        told = value or "not read"
        face, size = (DRAW, 16.0) if lettering else (BOLD if value else TEXT, 13.0)
        if lettering and text_width(told, face, size) > right - beside:
            y, beside = y + 20, left
        picture.text(right, y, shorten(told, face, size, right - beside), size, face, "ink" if value else "unread", END)
        says = f"{fact.label}: {value or 'not read'}"
        picture.hit(left, y - 14, right - left, 19, f"panel-{words.strip()}", says, f"type:{words}")
    return y


def _against(picture: Picture, design: Design, area: tuple[float, float, float, float]) -> None:
    """Findings about the panel that do not hold, a line each."""
    left, y, right, bottom = area
    for finding in design.findings:
        if finding.stage != "panel" or finding.severity == HOLDS or finding.id == "space" or y + 20 > bottom:
            continue
        y += 21
        mark(picture, finding.severity, left + 7, y - 5, 9)
        face = BOLD if finding.severity == STOP else TEXT
        picture.text(left + 20, y, shorten(finding.title, face, 13, right - left - 22), 13, face, finding.severity)
        says = f"{finding.title}, {NAMES[finding.severity]}: {finding.text}"
        picture.hit(left, y - 15, right - left, 20, f"finding-{finding.id}", says, f"select:{finding.id}")
