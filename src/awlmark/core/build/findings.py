"""What the slip says while building; it never changes the verdict of the design."""

from __future__ import annotations

import functools

from awlmark.core.build.built import deviation
from awlmark.core.build.steps import LANDINGS, RESTORE, left_to_electrician, next_step, nights_of, rests_of, steps_of
from awlmark.core.build.torque import dials_of, print_torque, set_torque, unread
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, ranked
from awlmark.core.job.edit import Put
from awlmark.core.quantities import print_label_torque, print_length
from awlmark.core.solve.design import Design


@functools.lru_cache(maxsize=2)
def build_findings(design: Design) -> tuple[Finding, ...]:
    """Torque not read, the next step, and what the built line changes; worst first."""
    return ranked([*_torques(design), *_half_landed(design), *_next(design), *_built(design)])


def _half_landed(design: Design) -> list[Finding]:
    """Landed at one end only: a circuit is not left so in a live panel."""
    steps = {step.id: step for step in steps_of(design)}
    landings = [its_id for its_id in LANDINGS if its_id in steps]
    done = [its_id for its_id in landings if its_id in design.job.build.done]
    if not done or len(done) == len(landings) or RESTORE in design.job.build.done:
        return []
    words = design.book.words
    left = " and ".join(steps[its_id].title.lower() for its_id in landings if its_id not in done)
    text = (
        f"Half landed: still to come is {left}. Do not leave it so in a live {words.panel}: the far end capped and "
        f"clamped, the {words.breaker} off and locked, the cover on."
    )
    return [Finding("build:half", TIGHT, "Half landed", text, "common practice", at_m=0.0, stage="build")]


def _torques(design: Design) -> list[Finding]:
    found, job = [], design.job
    for dial in unread(design):
        fixes: tuple[Fix, ...] = ()
        if dial.fallback is not None:
            edits = set_torque(job, dial, lbf_in=dial.fallback, source="annex", tight=False, wiggled=False, again=False)
            fixes = (
                Fix(f"{design.book.build.torque_source}: {print_label_torque(dial.fallback, design.job.units)}", edits),
            )
        text = f"No torque is read for {dial.name}. The part's label wins; it is never guessed."
        severity = NOTE if job.build.overruled else UNREAD
        at_m = 0.0 if dial.end == "panel" else design.line.length_m
        sums = (
            "Holds back power and the signature, nothing else.",
            *((f"Set aside: {job.build.overruled}",) if job.build.overruled else ()),
        )
        found.append(
            Finding(
                f"build:torque:{dial.id}",
                severity,
                "Torque",
                text,
                design.book.cite("torque"),
                sums=sums,
                at_m=at_m,
                stage="build",
                fixes=fixes,
                ask=f"torque {dial.id} " if severity == UNREAD else "",
            )
        )
    for dial in dials_of(design):
        if dial.lbf_in is not None and 0 < dial.done < 3:
            now = ("", "wiggle it", "tighten it again")[dial.done]
            unit = design.book.build.torque_unit
            told = print_torque(dial.lbf_in, unit) if unit == "N m" else print_label_torque(dial.lbf_in)
            text = f"{dial.name}: {now}. {told}."
            at_m = 0.0 if dial.end == "panel" else design.line.length_m
            found.append(
                Finding(f"build:tight:{dial.id}", NOTE, "Half way", text, "common practice", at_m=at_m, stage="build")
            )
    return found


def _next(design: Design) -> list[Finding]:
    steps, step = steps_of(design), next_step(design)
    if not steps:
        return []
    if step is None:
        return [
            Finding(
                "build:next",
                HOLDS,
                "All built",
                f"Every step is done. {design.book.words.stages['prove']} is next.",
                "common practice",
                stage="build",
            )
        ]
    whose = " An electrician does this." if left_to_electrician(design, step) else ""
    number = steps.index(step) + 1
    text = f"Step {number} of {len(steps)}: {step.title}. {step.text}{whose}"
    sums = [f"{step.hours:.1f} h, {step.hands} pair{'s' if step.hands > 1 else ''} of hands"]
    sums += [f"tools: {', '.join(step.tools)}"] if step.tools else []
    before = steps[number - 2].session if number > 1 else step.session
    ended = before if before != step.session else ""
    sums += [rests_of(design.book)[ended]] if ended else []
    nights = nights_of(design.book)
    asked = [_rest(ended, nights[ended])] if ended in nights and ended not in design.job.build.rested else []
    return [
        *asked,
        Finding(
            "build:next", NOTE, "Next step", text, "common practice", sums=tuple(sums), at_m=step.at_m, stage="build"
        ),
    ]


def _rest(session: str, so: str) -> Finding:
    """A session has ended: whether the work stops there, and what has to be so if it does."""
    fixes = (
        Fix("Stop here: it is so", (Put(f"build.rested[{session}]", "stopped"),)),
        Fix("Going on", (Put(f"build.rested[{session}]", "went on"),)),
    )
    text = f"{session} is done. Stop for the night? {so}"
    return Finding("build:rest", UNREAD, "Stop here?", text, "common practice", stage="build", fixes=fixes, ask="rest")


def _built(design: Design) -> list[Finding]:
    found = deviation(design)
    if found is None:
        return []
    units, words = design.job.units, design.book.words
    way = "longer" if found.longer_m >= 0 else "shorter"
    text = f"The line as built is {print_length(abs(found.longer_m), units)} {way} than planned. "
    severity = HOLDS
    if found.spare_m < 0:
        severity = TIGHT
        text += f"The {words.wire} that was cut is {print_length(-found.spare_m, units)} short of its tails."
    else:
        text += f"The {words.wire} reaches, {print_length(found.spare_m, units)} to spare."
    if found.worse:
        severity = STOP if found.design.stops else TIGHT
        text += f" No longer holds: {', '.join(dict.fromkeys(found.worse))}."
    return [
        Finding(
            "build:built",
            severity,
            "As built",
            text,
            "worked out again as built",
            at_m=design.line.length_m,
            stage="build",
        )
    ]
