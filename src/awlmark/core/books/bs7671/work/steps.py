"""The steps of the work in their order: notify and survey, route, isolate, terminate, close and energise."""

from __future__ import annotations

from typing import Final

from awlmark.core.books.bs7671.panel.ways import MODULES, find_place
from awlmark.core.books.bs7671.parts.ends import on_post
from awlmark.core.books.bs7671.work.labels import notices
from awlmark.core.books.bs7671.work.sessions import CLOSE, ISOLATE, ROUTE, SURVEY, TERMINATE
from awlmark.core.build.hours import ended_legs, fitting_hours, hours_for, takes_parts
from awlmark.core.build.step import Step
from awlmark.core.build.steps import RESTORE
from awlmark.core.build.torque import Dial, dials_of, print_torque
from awlmark.core.quantities import print_length
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design

TAPE_SHARE: Final = 0.5
"""Of a trench's hours: half to dig it, half to fill it; common practice."""
TOLD: Final = {
    "england": "Part P: notify building control, or certify through a scheme.",
    "wales": "Part P: notify building control, or certify through a scheme; Wales has rules of its own for points.",
    "scotland": "Building standards: a warrant, or a certifier of construction.",
    "ni": "Building regulations of Northern Ireland; one distributor.",
}
"""Who hears of the work, by region; doubtful, check."""


def work_steps(design: Design) -> list[Step]:
    """Every step of a design that has a circuit and a line."""
    return [step for session in (_survey, _route, _isolate, _terminate, _close) for step in session(design)]


def _step(key: str, session: str, title: str, text: str, **more: object) -> Step:
    return Step(key, session, title, text, **{"at_m": 0.0, **more})  # type: ignore[arg-type]


def _survey(design: Design) -> list[Step]:
    job = design.job
    distributor = design.finding("distributor")
    text = TOLD.get(job.supply.region or "", "Whose building rules go, and who certifies: type region england.")
    text += f" Distributor: {distributor.text}" if distributor is not None else ""
    found = [
        _step("permit", SURVEY, "Notify", text),
        _step("check-in", SURVEY, "Check what came", "Count the parts against the list before anything is isolated."),
    ]
    trench = [walked for walked in design.line.legs if walked.leg.direction == "trench"]
    if trench:
        text = "Ask for the plans of buried services and scan the line before the first spade."
        found.append(_step("locate", SURVEY, "Find what is buried", text, at_m=trench[0].start_m))
    text = "Cut-out, tails, earthing, bonding, main switch, free ways, makers' torques: read, do not guess."
    found.append(_step("look", SURVEY, "Look at the supply", text, tools=("torch",)))
    return found


def _route(design: Design) -> list[Step]:
    """Trenches and walls; conduit with its boxes; the cable and what holds it; the unit on its wall or post."""
    found, units = list[Step](), design.job.units
    new = [walked for walked in design.line.legs if not walked.leg.reused]
    trenches = sum(walked.leg.direction == "trench" for walked in new)
    walls = sum(walked.crosses for walked in new)
    for walked in new:
        if walked.leg.direction == "trench":
            found += _trench(design, walked, trenches)
        elif walked.crosses:
            what = "floor or ceiling" if walked.heading[2] else "wall"
            slope = "" if walked.heading[2] else ", falling outwards"
            text = f"Drill {walked.leg.wall or f'the {what}'} for a sleeve{slope}; look behind first; seal it after."
            found.append(
                _step(f"through:{walked.leg.id}", ROUTE, f"Through the {what}, leg {walked.number}", text,
                      at_m=walked.start_m, hours=hours_for(design, "through") / walls,
                      tools=("hammer drill", "long bit"))
            )  # fmt: skip
    held = [one for one in new if not one.crosses and one.leg.direction != "trench" and one.leg.mount != "fished"]
    share = fitting_hours(design) / max(len(held), 1)
    found += [_fit(walked, share, units) for walked in held if not walked.method.cable]
    ended = ended_legs(design)
    for walked in ended:
        found.append(
            _step(f"end:{walked.leg.id}", ROUTE, f"{walked.leg.end.capitalize()} at leg {walked.number}",
                  "Fixed on its own, cover off until the conductors are in.", at_m=walked.end_m,
                  hours=hours_for(design, "end") / len(ended), tools=("drill", "level"))
        )  # fmt: skip
    if any(section.method.cable for section in design.line.sections):
        times = design.book.clause("bends")
        text = f"In one piece; armoured bent no tighter than six diameters, flat four widths ({times})."
        found.append(
            _step("cable", ROUTE, "Run the cable", text, at_m=design.line.length_m / 2, hands=2,
                  hours=hours_for(design, "cable"))
        )  # fmt: skip
    found += [_fit(walked, share, units) for walked in held if walked.method.cable]
    where = "Set the post plumb in concrete, then the unit" if on_post(design.job, design.line) else "Fix the unit"
    text = f"{where} at its maker's height; outdoors IPX4, no vehicle, bath or pool near."
    found.append(
        _step("mount", ROUTE, "Fix the charge point", text,
              at_m=design.line.length_m, hands=2, tools=("drill", "level"),
              hours=hours_for(design, "mount") + (0.0 if held else fitting_hours(design)))
    )  # fmt: skip
    return found


def _trench(design: Design, walked: Walked, trenches: int) -> list[Step]:
    leg, middle = walked.leg, (walked.start_m + walked.end_m) / 2
    cover = "" if leg.cover_m is None else f", {print_length(leg.cover_m, design.job.units)} of cover"
    hours = hours_for(design, "trench") * TAPE_SHARE / trenches
    duct, long = walked.method.key.endswith("duct"), print_length(leg.length_m, design.job.units)
    laid = "Duct, a draw cord in it, its ends stopped." if duct else "On 50 mm of sand, 50 mm over it, covers or tape."
    return [
        _step(f"dig:{leg.id}", ROUTE, "Dig the trench", f"{long}{cover}; spoil aside.",
              at_m=middle, hours=hours, hands=2, tools=("shovel or mini digger",)),
        _step(f"lay:{leg.id}", ROUTE, f"Lay leg {walked.number}", f"{laid} Photograph it open.", at_m=middle,
              hours=hours_for(design, "bed") / trenches, hands=2),
        _step(f"fill:{leg.id}", ROUTE, "Backfill", "Warning tape 150 mm below the top, no stones against the cable.",
              at_m=middle, hours=hours, tools=("rammer",)),
    ]  # fmt: skip


def _fit(walked: Walked, share: float, units: str) -> Step:
    method, cable = walked.method, walked.method.cable
    what = f"{method.held_by.capitalize()} leg {walked.number}" if cable else f"Conduit of leg {walked.number}"
    text = f"{print_length(walked.leg.length_m, units)} {walked.leg.direction}; spaced as marked on the tape."
    if cable and not walked.heading[2]:
        text += " Where it could fall across a way out in a fire, metal holds it."
    tools = ("hammer",) if method.cable_kind == "te" else ("drill", "driver")
    return _step(f"fit:{walked.leg.id}", ROUTE, what, text, at_m=(walked.start_m + walked.end_m) / 2, hours=share,
                 tools=tools)  # fmt: skip


def _isolate(design: Design) -> list[Step]:
    rows = (
        ("crew", "Tell everyone", "Who is on the supply knows; freezers, alarms, medical things are seen to.", ()),
        ("branches", "Circuits off", "One by one, so that the main switch opens without load.", ()),
        ("main", "Main switch off", "Tails and the switch's incoming side stay live. The cut-out's fuse is drawn "
         "by the distributor's people alone.", ()),
        ("lock", "Lock off and sign", "Your lock, your notice; the key stays with you.", ("lock", "notice")),
        ("try-1", "Prove the tester", "On a proving unit or something known live: it must show it.",
         ("two-pole tester", "proving unit")),
        ("dead", "Prove dead", "Line to neutral, line to earth, neutral to earth, at what you will touch.",
         ("two-pole tester",)),
        ("try-2", "Prove the tester again", "A tester that died tells nothing.", ("two-pole tester", "proving unit")),
    )  # fmt: skip
    return [_step(key, ISOLATE, title, text, tools=tools, electrician=True) for key, title, text, tools in rows]


def _terminate(design: Design) -> list[Step]:
    assert design.circuit is not None
    job, end = design.job, design.line.length_m
    dials = dials_of(design)
    board = [dial for dial in dials if dial.end == "panel" and dial.wire != "E"]
    far = [dial for dial in dials if dial.end == "charger"]
    earth = [dial for dial in dials if dial.end == "panel" and dial.wire == "E"]
    found = [_step(f"pull:{one.number}", TERMINATE, f"Draw in stretch {one.number}",
                   f"Cord through first, conductors together; {one.pull.says}.", at_m=one.start_m, hands=2,
                   hours=hours_for(design, "pull") / len(design.pulls), tools=("draw tape",))
             for one in design.pulls]  # fmt: skip
    place = find_place(job.supply.unit, MODULES[3 if design.circuit.hots == 3 else 1])
    for device in place.moved if place is not None else ():
        found.append(_step(f"move:{device.id}", TERMINATE, f"Move {device.name or f'way {device.way}'}",
                           "Its conductors reach, the busbar suits, its label and the chart go along.",
                           tools=("torque screwdriver",), electrician=True))  # fmt: skip
    if any(section.method.cable_kind == "swa" for section in design.line.sections):
        text = "Strip, cone over the armour, gland hard home, banjo and locknut to the earth terminal, at both ends. "
        if design.circuit.hots == 1:
            text += "Black core sleeved blue, grey core green and yellow. "
        found.append(_step("glands", TERMINATE, "Gland the cable", f"{text}Earth first.", hours=0.0, hands=1,
                           tools=("gland spanners", "hacksaw or stripper")))  # fmt: skip
    elif any(section.method.cable_kind == "te" for section in design.line.sections):
        text = "Sheath 10 mm into each enclosure through its gland; bare cpc sleeved green and yellow."
        found.append(_step("glands", TERMINATE, "Strip and sleeve the cable", text))
    if takes_parts(design, "manage"):
        text = "Sensor round the incoming line the way its arrow points; the limit set, and its notice beside it."
        found.append(_step("manage", TERMINATE, "Fit the current sensor", text, hours=hours_for(design, "manage"),
                           electrician=True))  # fmt: skip
    if earth:
        text = f"First on and last off: {_values(earth, design)}."
        found.append(_step("land-ground", TERMINATE, "Terminate the cpc", text, tools=("torque screwdriver",),
                           electrician=True))  # fmt: skip
    where = f" in ways {place.way} to {place.way + 1}" if place is not None else ""
    text = f"{cap_device(design)}{where}, busbar or tails home; line and neutral from one device: "
    text += f"{_values(board, design)}."
    found.append(_step("land-breaker", TERMINATE, "Terminate at the board", text, hours=hours_for(design, "breaker"),
                       tools=("torque screwdriver",), electrician=True))  # fmt: skip
    text = f"Earth first here too: {_values(far, design)}. Then its cover and seals."
    found.append(_step("land-charger", TERMINATE, "Terminate at the charge point", text, at_m=end,
                       hours=hours_for(design, "charger"), tools=("torque screwdriver",)))  # fmt: skip
    if job.charger.pen == "island":
        text = "Driven deep, 2 m clear of metal that is earthed by the supply; read it before it is joined."
        found.append(_step("electrode", TERMINATE, "Drive the electrode", text, at_m=end, hours=1.2))
    return found


def cap_device(design: Design) -> str:
    """The new device in a few words."""
    assert design.circuit is not None
    key = next((part.key for part in design.parts if part.key.startswith(("rcbo:", "mcb:", "bs88-2:"))), "")
    return design.book.goods.name(key) if key else f"{design.circuit.breaker_a:g} A device"


def _values(dials: list[Dial], design: Design) -> str:
    told = dict.fromkeys(
        "torque as its maker says" if dial.lbf_in is None else print_torque(dial.lbf_in, design.book.build.torque_unit)
        for dial in dials
    )
    return ", ".join(told) or "torque as its maker says"


def _close(design: Design) -> list[Step]:
    end = design.line.length_m
    labels = "; ".join(f"{says} ({where})" for says, where in notices(design))
    return [
        _step("label", CLOSE, "Labels and chart", f"{labels}.", hours=hours_for(design, "label")),
        _step("dead-tests", CLOSE, "Dead tests", "Before any power: R1+R2 and bonds, insulation at 500 V with the "
              "electronics off, polarity.", at_m=end, tools=("low-ohm meter", "insulation tester")),
        _step("cover", CLOSE, "Covers on", "Blanks in every open way, IP4X on top, all screws, the unit shut.",
              electrician=True),
        _step(RESTORE, CLOSE, "Supply back", "Main switch first, then circuit by circuit, the new one last.",
              electrician=True),
        _step("prove", CLOSE, "Test it live", "Go to Test: Ze, Zs, fault current, residual device, functions; then the "
              "certificate.", at_m=end, tools=("loop and residual tester", "clamp")),
    ]  # fmt: skip
