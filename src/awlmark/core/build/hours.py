"""Hours of the parts on the list, dealt to the kinds of step that take them: every kind of part once."""

from __future__ import annotations

from typing import Final

from awlmark.core.panel.rearrange import Move, fewest_moves
from awlmark.core.parts.quote import kind_hours
from awlmark.core.run.line import Walked
from awlmark.core.solve.design import Design

TAKEN: Final[dict[str, tuple[str, ...]]] = {
    "trench": ("warning ribbon", "warning tape"), "bed": ("sand", "cement", "duct"), "through": ("wall sleeve",),
    "slip": ("expansion",),
    "end": ("box", "wet box", "ring", "ground screw", "wire connector", "body", "pull elbow"),
    "mount": ("charger", "post", "concrete", "ev13", "ind16", "ind32"),
    "pull": ("wire", "lubricant", "pull string"), "cable": ("cable",),
    "move": ("move kit",),
    "breaker": ("breaker", "filler", "reducing washers", "rcbo", "mcb", "rccb", "bs88-2", "cu", "busbar"),
    "manage": ("management", "control cable", "surge", "clamp sensor"),
    "charger": (
        "receptacle", "wet cover", "plate", "small plate", "disconnect", "nipple", "splice kit", "copper tail",
        "compound", "rotary isolator", "pen device",
    ),
    "seal": ("fire seal", "duct seal"), "label": ("labels", "limit label"),
}  # fmt: skip
"""Kinds of part whose hours belong to one kind of step; those of all other kinds are the fitting of the legs."""


def hours_for(design: Design, step: str) -> float:
    """Hours of the parts that a kind of step takes, for all steps of the kind together."""
    return sum(hours for kind, hours in kind_hours(design.parts, design.job).items() if kind in TAKEN[step])


def fitting_hours(design: Design) -> float:
    """Hours of every part that no other step takes, and of boxes and bodies where the line has no end to put them."""
    taken = {kind for step, kinds in TAKEN.items() if step not in _without(design) for kind in kinds}
    return sum(hours for kind, hours in kind_hours(design.parts, design.job).items() if kind not in taken)


def _without(design: Design) -> set[str]:
    """Kinds of step that a line does not have: their parts go with the fitting."""
    legs = design.line.legs
    new = [walked for walked in legs if not walked.leg.reused]
    here = {
        "trench": any(walked.leg.direction == "trench" for walked in new), "slip": any(w.leg.slip for w in legs),
        "through": any(walked.crosses for walked in new), "end": bool(ended_legs(design)), "pull": bool(design.pulls),
        "cable": any(section.method.cable for section in design.line.sections), "move": bool(moves_of(design)),
        "manage": takes_parts(design, "manage"),
    }  # fmt: skip
    here |= {"bed": here["trench"], "seal": any(walked.crosses for walked in legs)}
    return {step for step, there in here.items() if not there}


def takes_parts(design: Design, step: str) -> bool:
    return any(part.key.partition(":")[0] in TAKEN[step] for part in design.parts)


def ended_legs(design: Design) -> list[Walked]:
    return [walked for walked in design.line.legs if walked.leg.end in ("box", "body", "pull elbow")]


def moves_of(design: Design) -> tuple[Move, ...]:
    """Breakers that have to move before the new one has room, as long as nobody has taken the moves in."""
    return tuple(fewest_moves(design.job.dead_front).moves) if design.job.dead_front.breakers else ()
