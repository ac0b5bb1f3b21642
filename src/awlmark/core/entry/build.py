"""What is typed while building: steps done, torque, as-built readings, notes."""

from __future__ import annotations

import datetime as dt
from typing import Final

from awlmark.core.books import open_book
from awlmark.core.build.step import Step
from awlmark.core.build.steps import DEAD_TESTS, RESTORE, next_step, nights_of, steps_of
from awlmark.core.build.torque import Dial, dials_of, print_torque, read_torque, set_torque, tick, want_torques
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.site_records import Note
from awlmark.core.quantities import print_length, read_length, read_number
from awlmark.core.solve.design import Design, solved


def _step(design: Design, text: str) -> Step:
    steps = steps_of(design)
    if not steps:
        raise InputError("step", "There are no steps before the circuit is worked out.", "a line and a charger first")
    if not text:
        found = next_step(design)
        if found is None:
            raise InputError("step", "Every step is done.", "undo <number> takes one back")
        return found
    return steps[int(read_number(text, "step", 1, len(steps))) - 1]


def clock() -> str:
    """Now, to the minute, as the log writes it."""
    return dt.datetime.now().isoformat(sep=" ", timespec="minutes")


def done_words(typed: Typed) -> Told:
    """``done``, ``done 4``, ``done 4 no``: a step is done, in its order."""
    words, job = typed.words, typed.job
    back = words[-1] == "no"
    design = solved(job)
    step = _step(design, " ".join(words[1 : len(words) - back]))
    number = steps_of(design).index(step) + 1
    if back:
        kept = {key: when for key, when in job.build.done.items() if key != step.id}
        return f"step {number} not done", (Put("build.done", kept),)
    if step.session == design.book.build.isolate:
        before = [each for each in steps_of(design) if each.session == step.session]
        missing = [each for each in before[: before.index(step)] if each.id not in job.build.done]
        if missing:
            raise InputError(
                "done", f"{missing[0].title} comes before {step.title}.", "these steps in their order only"
            )
    if step.id == RESTORE:
        if DEAD_TESTS not in job.build.done:
            raise InputError(
                "done", "The dead tests come before power: continuity and insulation.", "done for the step Dead tests"
            )
        want_torques(design, "done")
    return f"step {number} done", (Put(f"build.done[{step.id}]", clock()),)


def electrician_words(typed: Typed) -> Told:
    """``electrician 11``: left to one; ``electrician 11 no``."""
    words, job = typed.words, typed.job
    back = words[-1] == "no"
    step = _step(solved(job), " ".join(words[1 : len(words) - back]))
    kept = tuple(one for one in job.build.electrician if one != step.id)
    return f"{step.title}: {'ours' if back else 'left to an electrician'}", (
        Put("build.electrician", kept if back else (*kept, step.id)),
    )


def _dial(design: Design, name: str) -> Dial:
    dials = dials_of(design)
    found = next((dial for dial in dials if name in (dial.id.lower(), dial.name.lower().replace(" ", ""))), None)
    if found is None:
        raise InputError(
            "torque", f"No screw is called '{name[:20]}'.", ", ".join(dial.id for dial in dials) or "a circuit"
        )
    return found


def torque_words(typed: Typed) -> Told:
    """``torque charger-1 50 in-lb``, ``torque panel-1 annex``, ``torque tool 0417, checked in May``."""
    words, text, job = typed.words, typed.text, typed.job
    rest = text.strip().split(None, 1)[1] if len(words) > 1 else ""
    if words[1:2] == ["tool"]:
        return "torque tool", (Put("build.tool", rest[4:].strip()[:60]),)
    dial = _dial(solved(job), words[1] if len(words) > 1 else "")
    value = " ".join(words[2:])
    if value == "annex":
        if dial.fallback is None:
            raise InputError("torque", "The book has no value for this wire.", "the value on the part's label")
        return f"{dial.name}: {open_book(job.code).build.torque_source}, {dial.fallback:g} lbf-in", set_torque(
            job, dial, lbf_in=dial.fallback, source="annex", tight=False, wiggled=False, again=False
        )
    source = "instructions" if value.endswith(" instructions") else "label"
    unit = open_book(job.code).build.torque_unit
    lbf_in = read_torque(value.removesuffix(" instructions"), unit=unit)
    return f"{dial.name}: {print_torque(lbf_in, unit)}", set_torque(
        job, dial, lbf_in=round(lbf_in, 2), source=source, tight=False, wiggled=False, again=False
    )


def tight_words(typed: Typed) -> Told:
    """``tight``, ``tight charger-1``: the next of tighten, wiggle, tighten; without a name the next screw."""
    words, job = typed.words, typed.job
    design = solved(job)
    name = words[1] if len(words) > 1 else ""
    dial = _dial(design, name) if name else next((dial for dial in dials_of(design) if dial.done < 3), None)
    if dial is None:
        raise InputError("tight", "Every screw is tight.", "torque <screw> <value> to begin one again")
    return f"{dial.name}: {('tight', 'wiggled', 'tight again', 'tight again')[dial.done]}", tick(
        job, dial, design.book.build.torque_unit
    )


def built_words(typed: Typed) -> Told:
    """``built 2 22 1``: leg 2 as it was built; ``built 2 as planned``; ``built take 2`` takes it as the plan."""
    words, job = typed.words, typed.job
    if len(words) < 3:
        raise InputError("built", "Which leg, and how long?", "such as built 2 22 1, or built take 2")
    take = words[1] == "take"
    number = int(read_number(words[2 if take else 1], "leg", 1, max(len(job.legs), 1)))
    leg = job.legs[number - 1]
    if take:
        if leg.built_m is None:
            raise InputError("built", f"Leg {number} has no as-built reading.", "such as built 2 22 1")
        return f"leg {number} planned as built", (
            Put(f"legs[{leg.id}].length_m", leg.built_m),
            Put(f"legs[{leg.id}].built_m", None),
        )
    rest = " ".join(words[2:])
    value = None if rest == "as planned" else read_length(rest, f"leg {number}, built", job.units)
    told = "as planned" if value is None else print_length(value, job.units)
    return f"leg {number} built {told}", (Put(f"legs[{leg.id}].built_m", value),)


def note_words(typed: Typed) -> Told:
    """``note rock at 40 ft``, ``note rock photo pics/7.jpg``: kept with the job."""
    text, job = typed.text, typed.job
    body, _, photo = text.strip()[4:].strip().partition(" photo ")
    if not body:
        raise InputError("note", "What is to be noted?", "some words, and photo <file> where there is one")
    number = len(job.build.notes) + 1
    return f"note {number}", (
        Put("build.notes", (*job.build.notes, Note(id=f"note-{number}", text=body[:300], photo=photo.strip()[:300]))),
    )


def energise_words(typed: Typed) -> Told:
    """``energise inspector read the torque``: energise with a torque unread, for this reason; ``energise none``."""
    words, text = typed.words, typed.text
    reason = text.strip().split(None, 1)[1].strip() if len(words) > 1 else ""
    if reason != "none" and len(reason.split()) < 2:
        raise InputError(
            "energise",
            "It wants a reason, in words; the reason prints.",
            "such as energise label unreadable, maker rang",
        )
    return "energise despite unread torque", (Put("build.overruled", "" if reason == "none" else reason[:200]),)


def rest_words(typed: Typed) -> Told:
    """``rest``: stop for the night where a session has just ended; ``rest no``: go on."""
    words, job = typed.words, typed.job
    design = solved(job)
    nights = nights_of(design.book)
    steps, step = steps_of(design), next_step(design)
    number = steps.index(step) if step is not None else 0
    ended = steps[number - 1].session if number else ""
    if step is None or not ended or ended == step.session or ended not in nights:
        raise InputError(
            "rest", "No session of the work has just ended.", f"rest between two sessions, such as {next(iter(nights))}"
        )
    if words[1:] not in ([], ["no"]):
        raise InputError("rest", f"Can't read '{' '.join(words[1:])[:20]}'.", "rest, or rest no")
    if words[1:]:
        return f"{ended} done, going on", (Put(f"build.rested[{ended}]", "went on"),)
    return f"{ended} done, stopped. {nights[ended]}", (Put(f"build.rested[{ended}]", "stopped"),)


BUILD_WORDS: Final = {
    "rest": rest_words,
    "done": done_words,
    "electrician": electrician_words,
    "torque": torque_words,
    "tight": tight_words,
    "built": built_words,
    "note": note_words,
    "energise": energise_words,
}
"""First words of entries about building, and what reads them."""
