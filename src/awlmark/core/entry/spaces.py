"""Spaces, devices and knockouts of a panel as people write them."""

from __future__ import annotations

import re
from typing import Any, Final

from msgspec.structs import replace

from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import (
    BREAKER_KINDS,
    CONDITIONS,
    KNOCKOUT_SIDES,
    KNOCKOUT_STATES,
    MOST_SPACES,
    Breaker,
    DeadFront,
    Knockout,
)
from awlmark.core.panel.rearrange import cells
from awlmark.core.panel.spaces import leg_of, owner_of
from awlmark.core.quantities import print_length, read_length, read_number

SLOT_COLUMNS: Final = ("Space", "Leg", "Feeds", "Rating", "Form", "Type", "Does", "Idle", "Proved")
FORMS: Final = ("1p", "2p", "tied", "tandem", "quad")
PROOFS: Final = ("no", "panel", "load", "both")
_SAMPLE: Final = "such as slot 1 30a 2p dryer, slot 7 idle proved panel, or slot 5 free"


def form_of(breaker: Breaker) -> str:
    """How a device takes its space."""
    if breaker.tandem or breaker.quad or breaker.tied:
        return "tandem" if breaker.tandem else "quad" if breaker.quad else "tied"
    return f"{breaker.poles}p"


def proof_of(breaker: Breaker) -> str:
    """Which ends of an idle device's wire are proved."""
    return PROOFS[breaker.proved_panel + 2 * breaker.proved_load]


def slot_cells(breaker: Breaker) -> tuple[str, ...]:
    """One device as the cells of its row."""
    return (
        " ".join(str(space) for space in cells(breaker)),
        " ".join(leg_of(space) for space in cells(breaker)),
        breaker.name,
        "" if breaker.rating_a is None else f"{breaker.rating_a:g} A",
        form_of(breaker),
        breaker.family,
        "stays" if breaker.fixed and breaker.kind == "branch" else breaker.kind,
        "yes" if breaker.idle else "no",
        proof_of(breaker),
    )


def read_slot_cell(job: Job, row: int, column: int, text: str) -> tuple[Put, ...]:
    """Edits that a typed cell of the devices' table means; the row behind the last one makes a new device.

    Raises
    ------
    InputError
        Naming the column and what it takes.
    """
    front, plain = job.dead_front, " ".join(text.split())
    if row >= len(front.breakers):
        if not plain:
            return ()
        if column != 0:
            raise InputError("Space", "A device begins with its space.", f"1 to {front.spaces}")
        return read_slot(plain.lower().split(), job)
    old = sorted_breakers(front)[row]
    if column == 0 and not plain:
        return (Put("dead_front.breakers", tuple(one for one in front.breakers if one.id != old.id)),)
    fields = _cell_fields(SLOT_COLUMNS[column], plain)
    return tuple(Put(f"dead_front.breakers[{old.id}].{name}", value) for name, value in fields.items())


def sorted_breakers(front: DeadFront) -> tuple[Breaker, ...]:
    """Devices in the order of their spaces."""
    return tuple(sorted(front.breakers, key=lambda breaker: breaker.space))


def _cell_fields(column: str, plain: str) -> dict[str, Any]:
    low = plain.lower()
    if column == "Space":
        return {"space": int(read_number(low.split()[0], column, 1, MOST_SPACES))}
    if column == "Feeds":
        return {"name": plain[:30]}
    if column == "Rating":
        return {"rating_a": read_number(low, column, 5, 400, "a") if low else None}
    if column == "Form":
        return _form(_one_of(low, FORMS, column))
    if column == "Type":
        return {"family": plain[:30]}
    if column == "Does":
        kind = _one_of(low, ("stays", *BREAKER_KINDS), column)
        return {"fixed": kind == "stays", "kind": "branch" if kind == "stays" else kind}
    if column == "Idle":
        return {"idle": _one_of(low, ("yes", "no"), column) == "yes"}
    if column == "Proved":
        at = PROOFS.index(_one_of(low, PROOFS, column))
        return {"proved_panel": bool(at & 1), "proved_load": bool(at & 2)}
    raise InputError(column, "That follows from the space.", "a new space in the first column")


def _one_of(value: str, known: tuple[str, ...], field: str) -> str:
    if value not in known:
        raise InputError(field, f"Can't use '{value[:40]}'.", "one of " + ", ".join(known))
    return value


def _form(form: str) -> dict[str, Any]:
    return {
        "poles": 2 if form in ("2p", "quad") else 1,
        "tied": form == "tied",
        "tandem": form == "tandem",
        "quad": form == "quad",
    }


def read_spaces(words: list[str]) -> tuple[Put, ...]:
    """Edits of ``20`` or ``20 tandem 13``: spaces, and the lowest that takes tandems.

    Raises
    ------
    InputError
        When it is no even number of spaces.
    """
    if len(words) not in (1, 3) or (len(words) == 3 and words[1] != "tandem"):
        raise InputError("spaces", "How many has the panel?", "such as spaces 20, or spaces 20 tandem 13")
    count = int(read_number(words[0], "spaces", 0, MOST_SPACES))
    lowest = int(read_number(words[2], "tandem spaces from", 1, MOST_SPACES)) if len(words) == 3 else None
    return (Put("dead_front.spaces", count), Put("dead_front.tandem_from", lowest))


def read_slot(words: list[str], job: Job) -> tuple[Put, ...]:
    """Edits of ``1 30a 2p dryer``, ``7 idle proved load``, ``9 solar 20a 2p``, ``5 open``, ``5 filler``, ``5 free``.

    On a device that stands only what is typed changes.

    Raises
    ------
    InputError
        When the space is missing, or a word contradicts.
    """
    if not words:
        raise InputError("slot", "Which space, and what is in it?", _SAMPLE)
    front = job.dead_front
    if words in (["rest", "free"], ["all"]):
        return (Put("dead_front.complete", True),)
    space, rest = int(read_number(words[0], "slot", 1, MOST_SPACES)), words[1:]
    old = owner_of(front, space)
    kept = tuple(one for one in front.breakers if one is not old)
    if rest in (["free"], ["empty"]):
        freed = {space, *(cells(old) if old is not None else ())}
        return (Put("dead_front.breakers", kept), Put("dead_front.free", tuple(sorted({*front.free, *freed}))))
    if rest in (["open"], ["filler"], ["closed"]):
        return _cover(front, space, rest[0])
    fields = _slot_fields(rest)
    if old is not None:
        return (Put("dead_front.breakers", (*kept, replace(old, **fields))),)
    taken = {one.id for one in front.breakers}
    free_id = next(f"b{number}" for number in range(1, 500) if f"b{number}" not in taken)
    return (
        Put("dead_front.breakers", (*kept, Breaker(id=free_id, space=space, **fields))),
        Put("dead_front.opened", tuple(one for one in front.opened if one != space)),
        Put("dead_front.fillers", tuple(one for one in front.fillers if one != space)),
    )


def _cover(front: DeadFront, space: int, state: str) -> tuple[Put, ...]:
    """The cover over an empty space: broken open, closed by a filler, or whole."""
    if owner_of(front, space) is not None:
        raise InputError("slot", f"Space {space} has a breaker in it.", "an empty space, or slot n free first")
    opened, fillers = set(front.opened) - {space}, set(front.fillers) - {space}
    if state != "closed":
        opened.add(space)
    if state == "filler":
        fillers.add(space)
    return (Put("dead_front.opened", tuple(sorted(opened))), Put("dead_front.fillers", tuple(sorted(fillers))))


def _slot_fields(words: list[str]) -> dict[str, Any]:
    fields: dict[str, Any] = {}
    names = []
    rest = list(words)
    while rest:
        word = rest.pop(0)
        if re.fullmatch(r"\d+(\.\d+)?a", word):
            fields["rating_a"] = read_number(word, "slot rating", 5, 400, "a")
        elif word in FORMS:
            fields |= _form(word)
        elif word == "fixed":
            fields["fixed"] = True
        elif word in ("main", "back-fed", "solar", "branch"):
            fields["kind"] = "back-fed" if word == "solar" else word
            names += [word] if word in ("main", "solar") else []
        elif word in ("idle", "used"):
            fields["idle"] = word == "idle"
        elif word == "proved" and rest and rest[0] in PROOFS:
            at = PROOFS.index(rest.pop(0))
            fields |= {"proved_panel": True} if at & 1 else {}
            fields |= {"proved_load": True} if at & 2 else {}
            fields |= {"proved_panel": False, "proved_load": False} if at == 0 else {}
        elif word in ("clamped", "unclamped"):
            fields["clamped"] = word == "clamped"
        elif word == "source" and rest:
            fields["source_a"] = read_number(rest.pop(0), "source", 0.5, 400, "a")
        elif word == "type" and rest:
            fields["family"] = rest.pop(0)[:30].upper()
        else:
            names.append(word)
    if names:
        fields["name"] = " ".join(names)[:30]
    return fields


def read_knockout(words: list[str], job: Job) -> tuple[Put, ...]:
    """Edits of ``top 3/4``, ``left 1 down 6in``, ``k1 used``, ``k1 run`` or ``k1 rub``.

    Raises
    ------
    InputError
        When it names neither a side nor a knockout that stands.
    """
    from awlmark.core.books import open_book

    front = job.dead_front
    known = {knockout.id: knockout for knockout in front.knockouts}
    if words and words[0] in KNOCKOUT_SIDES and len(words) >= 2:
        size = open_book(job.code).read_trade(words[1], open_book(job.code).trade_sizes, "knockout size")
        down = read_length(" ".join(words[3:]), "knockout, down", job.units) if words[2:3] == ["down"] else 0.0
        new_id = next(f"k{number}" for number in range(1, 100) if f"k{number}" not in known)
        new = Knockout(id=new_id, side=words[0], trade_size=size, below_top_m=down)
        return (Put("dead_front.knockouts", (*front.knockouts, new)),)
    if len(words) == 2 and words[0] in known:
        if words[1] == "rub":
            kept = tuple(one for one in front.knockouts if one.id != words[0])
            left = () if job.supply.knockout != words[0] else (Put("supply.knockout", ""),)
            return (*left, Put("dead_front.knockouts", kept))
        if words[1] == "run":
            return (Put("supply.knockout", "" if job.supply.knockout == words[0] else words[0]),)
        if words[1] in KNOCKOUT_STATES:
            return (Put(f"dead_front.knockouts[{words[0]}].state", words[1]),)
    raise InputError(
        "knockout",
        f"Can't read '{' '.join(words)[:40]}'.",
        "a side and a size such as top 3/4 or left 1 down 6in; or its name and run, used, blocked, free, rub",
    )


def read_clear(words: list[str], job: Job) -> tuple[Put, ...]:
    """Edits of ``30in 36in 78in``: free width, depth and height before the panel; ``open`` clears them.

    Raises
    ------
    InputError
        When it is not three lengths.
    """
    fields = ("wide", "deep", "high")
    if words == ["open"]:
        return tuple(Put(f"dead_front.clear_{field}_m", None) for field in fields)
    if len(words) != 3:
        raise InputError(
            "clear", "How wide, deep and high is the room free?", "three lengths, such as clear 30in 36in 78in"
        )
    return tuple(
        Put(f"dead_front.clear_{field}_m", read_length(word, f"working space, {field}", job.units))
        for field, word in zip(fields, words, strict=True)
    )


def clear_text(job: Job) -> str:
    """The measured room before the panel; nothing while it is unread."""
    front = job.dead_front
    read = (front.clear_wide_m, front.clear_deep_m, front.clear_high_m)
    return "" if None in read else " x ".join(print_length(value or 0.0, job.units) for value in read)


def read_condition(words: list[str]) -> tuple[Put, ...]:
    """Edits of ``sound``, ``worn``, ``obsolete`` or ``open``."""
    word = _one_of(" ".join(words), (*CONDITIONS, "open"), "panel condition")
    return (Put("dead_front.condition", None if word == "open" else word),)


def read_families(text: str) -> tuple[Put, ...]:
    """Edits of a list of breaker types as the panel's label names them, parted by commas."""
    found = tuple(one.strip()[:30] for one in text.split(",") if one.strip())
    return (Put("dead_front.families", found[:20]),)
