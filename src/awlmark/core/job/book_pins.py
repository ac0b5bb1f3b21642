"""What of a job is told in the words of its rule book, and is opened when another family of books is opened.

A size 6 of one book is another wire in the other: nothing of it may be read by the wrong book.
"""

from __future__ import annotations

from typing import Any, Final

from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Charger, Circuit, Job, LocalRules
from awlmark.core.job.supply import Supply
from awlmark.core.shelf import SHELF

PINS: Final = {
    "circuit": (
        Circuit(),
        ("breaker_a", "device", "residual", "material", "insulation", "size", "ground_size", "shared_ground_a",
         "raceway_ground", "copper_tail", "compact", "max_drop_percent", "drop_form", "extra_ccc", "others"),
    ),
    "charger": (
        Charger(), ("connection", "terminal_c", "lug", "most_breaker_a", "pigtail", "plug", "disconnect_lug"),
    ),
    "supply": (Supply(), ("terminal_c", "lug", "knockout")),
    "local": (LocalRules(), ("least_ground", "least_raceway")),
}  # fmt: skip
"""Fields by the part of the job, with what they are while they are open."""
OF_LEG: Final = (
    "method", "trade_size", "sleeve", "sleeve_size", "box", "box_in3", "ring_in3", "box_others", "box_device", "body",
    "spread",
)  # fmt: skip
OF_BOARD: Final = ("feeder_size", "feeder_ground")
WORDS: Final = {
    "breaker_a": "rating", "size": "conductor size", "ground_size": "earth size", "lug": "terminals",
    "max_drop_percent": "drop limit", "terminal_c": "marks of terminals", "most_breaker_a": "largest breaker",
}  # fmt: skip
_LEG: Final = Leg(id="-", direction="up", length_m=1.0)


def family(code: str) -> str:
    """Books of one family read each other's sizes."""
    return SHELF.get(code, code)


def book_pins(job: Job) -> dict[str, Any]:
    """Paths of what is pinned in the words of the book, each with what it is while open."""
    found: dict[str, Any] = {}
    for part, (bare, names) in PINS.items():
        held = getattr(job, part)
        found |= {f"{part}.{name}": getattr(bare, name) for name in names if getattr(held, name) != getattr(bare, name)}
    for leg in job.legs:
        found |= {
            f"legs[{leg.id}].{name}": getattr(_LEG, name)
            for name in OF_LEG
            if getattr(leg, name) != getattr(_LEG, name)
        }
    for board in job.boards:
        found |= {f"boards[{board.id}].{name}": None for name in OF_BOARD if getattr(board, name) is not None}
    if job.dead_front.knockouts:
        found["dead_front.knockouts"] = ()
    if job.overrules:
        found["overrules"] = ()
    return found


def pins_in_words(paths: dict[str, Any]) -> str:
    """What is pinned, counted: ``conductor size, method of 3 legs, prices``."""
    counted: dict[str, int] = {}
    for path in paths:
        last = path.rpartition(".")[2]
        word = WORDS.get(last, last.replace("_", " ").removesuffix(" a"))
        of_legs = " of legs" if path.startswith("legs[") else " of boards" if path.startswith("boards[") else ""
        counted[word + of_legs] = counted.get(word + of_legs, 0) + 1
    return ", ".join(word if many == 1 else f"{word} ({many})" for word, many in counted.items())
