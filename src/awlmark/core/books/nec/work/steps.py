"""The steps of the work in their order, made from the design, each at its mark."""

from __future__ import annotations

from awlmark.core.build.fitting import raceway_steps
from awlmark.core.build.hours import hours_for, moves_of, takes_parts
from awlmark.core.build.step import Step
from awlmark.core.build.steps import RESTORE
from awlmark.core.build.torque import Dial, dials_of
from awlmark.core.circuit.pull_check import FORWARD
from awlmark.core.quantities import print_force, print_gauge, print_label_torque, print_length
from awlmark.core.run.pull_tension import PAIR_N
from awlmark.core.solve.design import Design


def work_steps(design: Design) -> list[Step]:
    """Every step of a design that has a circuit and a line."""
    sessions = _prepare, raceway_steps, _power_down, _pull, _land, _close
    return [step for session in sessions for step in session(design)]


def _prepare(design: Design) -> list[Step]:
    trench = [walked for walked in design.line.legs if walked.leg.direction == "trench"]
    panel = design.job.supply.panel_name
    found = [
        Step(
            "permit",
            "Prepare",
            "Permit and outage",
            "Permit in hand; the outage is agreed with everyone on the supply.",
            0.0,
        ),
        Step(
            "check-in",
            "Prepare",
            "Check what came",
            "Count the parts against the list before anything is switched off.",
            0.0,
        ),
    ]
    if trench:
        text = "Buried services are marked by the locating service before the first spade."
        found.append(Step("locate", "Prepare", "Have services located", text, trench[0].start_m))
    found.append(
        Step(
            "look",
            "Prepare",
            f"Read {panel}'s label",
            "Breaker types, lug torque, working space: read, do not guess.",
            0.0,
        )
    )
    return found


def _power_down(design: Design) -> list[Step]:
    panel = design.job.supply.panel_name
    second = any(breaker.kind == "back-fed" for breaker in design.job.dead_front.breakers)
    live = "Line-side lugs stay live with the main off: shield them."
    live += " The second source stays live too: open and lock its own disconnect." if second else ""
    rows = (
        ("crew", "Tell everyone", "Who is on the supply knows; fridges, pumps, alarms are seen to.", ()),
        ("branches", "Branches off", "One by one, so that the main opens without load.", ()),
        ("main", "Main off", live, ()),
        ("lock", "Lock and tag", "Your lock, your name; the key stays with you.", ("lock", "tag")),
        ("try-1", "Try the tester", "On something known live: it must show it.", ("two-pole tester",)),
        ("dead", "Prove dead", f"In {panel}, every pair, at the conductors you will touch.", ("two-pole tester",)),
        ("try-2", "Try it again", "On the same live thing: a tester that died tells nothing.", ("two-pole tester",)),
    )
    return [
        Step(key, "Power down", title, text, 0.0, 0.0, 1, tools, electrician=True) for key, title, text, tools in rows
    ]


def _pull(design: Design) -> list[Step]:
    found = []
    for one in design.pulls:
        usual = one.usual_n
        hands = 2 if usual > PAIR_N / 2.4 else 1
        title = f"Pull stretch {one.number}, {print_force(usual, design.job.units)}"
        text = f"Fed {one.pull.feed}: string through first, conductors staggered and taped; {one.pull.says}."
        at = one.end_m if one.pull.feed == FORWARD else one.start_m
        hours = hours_for(design, "pull") / len(design.pulls)
        found.append(
            Step(f"pull:{one.number}", "Pull and land", title, text, at, hours, hands, ("fish tape or string", "tape"))
        )
    return found


def _land(design: Design) -> list[Step]:
    assert design.circuit is not None
    dials = dials_of(design)
    panel = [dial for dial in dials if dial.end == "panel" and dial.wire != "G"]
    far = [dial for dial in dials if dial.end == "charger"]
    ground = [dial for dial in dials if dial.end == "panel" and dial.wire == "G"]
    found = [
        Step(
            f"move:{move.breaker}", "Pull and land", f"Move {_device(design, move.breaker)} to {move.to_space}",
            "Its wires reach, or are lengthened in the panel; its handle tie and its label go along.",
            0.0, hours_for(design, "move") / len(moves_of(design)), 1, ("torque driver",), electrician=True
        )
        for move in moves_of(design)
    ]  # fmt: skip
    if takes_parts(design, "manage"):
        text = "Sensors round both line conductors the way their arrows point; the limit set as its label says."
        found.append(
            Step(
                "manage",
                "Pull and land",
                "Fit the controller",
                text,
                0.0,
                hours_for(design, "manage"),
                electrician=True,
            )
        )
    if ground:
        text = "First on and last off: whatever happens after it, a fault has a way home."
        found.append(
            Step(
                "land-ground",
                "Pull and land",
                "Land the ground",
                text,
                0.0,
                0.0,
                1,
                ("torque driver",),
                electrician=True,
            )
        )
    text = f"Strip {_strip(panel)}, seat to the end, tighten, wiggle, tighten: {_values(panel, design.job.units)}."
    found.append(
        Step(
            "land-breaker",
            "Pull and land",
            "Land the breaker",
            text,
            0.0,
            hours_for(design, "breaker"),
            1,
            ("torque driver",),
            electrician=True,
        )
    )
    what = "the receptacle" if design.job.charger.connection != "hardwired" else "the charger"
    text = f"{print_gauge(design.circuit.size)}: {_values(far, design.job.units)}. Ground first here too."
    found.append(
        Step(
            "land-charger",
            "Pull and land",
            f"Land {what}",
            text,
            design.line.length_m,
            hours_for(design, "charger"),
            1,
            ("torque driver",),
        )
    )
    return found


def _device(design: Design, breaker_id: str) -> str:
    """A device of the panel by its name and place."""
    device = next(one for one in design.job.dead_front.breakers if one.id == breaker_id)
    return f"{device.name or 'the device'} from {device.space}"


def _values(dials: list[Dial], units: str) -> str:
    told = dict.fromkeys(
        "read it off the part" if dial.lbf_in is None else print_label_torque(dial.lbf_in, units) for dial in dials
    )
    return ", ".join(told) or "as marked"


def _strip(dials: list[Dial]) -> str:
    found = next((dial.strip_m for dial in dials if dial.strip_m is not None), None)
    return "as its label says" if found is None else print_length(found)


def _close(design: Design) -> list[Step]:
    panel, end = design.job.supply.panel_name, design.line.length_m
    found = []
    walls = sum(walked.crosses for walked in design.line.legs)
    for walked in design.line.legs:
        if walked.crosses:
            hours = hours_for(design, "seal") / walls
            text = "Inside and round the pipe: against weather, warm air, or fire, as the list says."
            found.append(
                Step(f"seal:{walked.leg.id}", "Close and energise", "Seal the wall", text, walked.end_m, hours)
            )
    found += [
        Step(
            "label",
            "Close and energise",
            "Label",
            "Directory line, both ends of the run, what the authority wants.",
            0.0,
            hours_for(design, "label"),
        ),
        Step(
            "dead-tests",
            "Close and energise",
            "Dead tests",
            "Before any power: ends joined, the loop's and the ground's ohms; then 500 V insulation, charger off.",
            end,
            0.0,
            1,
            ("low-ohm meter", "insulation tester"),
        ),
        Step(
            "cover",
            "Close and energise",
            "Covers on",
            f"{panel}'s fillers in every open space, all screws, charger shut.",
            0.0,
            electrician=True,
        ),
        Step(
            RESTORE,
            "Close and energise",
            "Power back",
            "Main first, then branches one by one, the new one last.",
            0.0,
            electrician=True,
        ),
        Step(
            "prove",
            "Close and energise",
            "Prove it live",
            "Go to Prove: volts before the plug, amps by clamp, heat after an hour.",
            end,
            0.0,
            1,
            ("meter", "clamp", "infrared thermometer"),
        ),
    ]
    return found
