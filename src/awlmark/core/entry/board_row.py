"""What is typed of a consumer unit, a row of ways."""

from __future__ import annotations

import re

from msgspec.structs import replace

from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.supply import MOST_WAYS, UNIT_KINDS, ConsumerUnit, Device
from awlmark.core.quantities import read_number

SAMPLE = "such as way 3 b32 shower, way 1-2 rccb 63 ac, way 8 free, way rest free, way 9 blank, way 3 gone"
_WAY = re.compile(r"(\d+)(?:-(\d+))?")
_MCB = re.compile(r"(b|c|d)(\d+)")


def ways_words(typed: Typed) -> Told:
    """``ways 10``: how many."""
    text = " ".join(typed.words[1:])
    value = None if text == "open" else int(read_number(text, "ways", 1, MOST_WAYS))
    last = max((one.way + one.modules - 1 for one in typed.job.supply.unit.devices), default=0)
    if value is not None and value < last:
        raise InputError("ways", f"A device stands in way {last}.", f"{last} to {MOST_WAYS}")
    return f"ways {text}", (Put("supply.unit.ways", value),)


def unit_words(typed: Typed) -> Told:
    """``board metal``: what it is."""
    text = " ".join(typed.words[1:])
    if text not in (*UNIT_KINDS, "open"):
        raise InputError("board", f"Can't use '{text[:40]}'.", ", ".join((*UNIT_KINDS, "open")))
    return f"consumer unit {text}", (Put("supply.unit.kind", None if text == "open" else text),)


def way_words(typed: Typed) -> Told:
    """``way 3 b32 shower``, ``way 1-2 rccb 63 ac``, ``way 8 free``, ``way rest free``, ``way 3 gone``."""
    words, unit = typed.words[1:], typed.job.supply.unit
    if words[:1] == ["rest"]:
        return _rest(words, unit)
    match = _WAY.fullmatch(words[0]) if words else None
    if match is None or len(words) < 2:
        raise InputError("way", f"Can't read '{' '.join(words)[:40]}'.", SAMPLE)
    first, last = int(match[1]), int(match[2] or match[1])
    most = unit.ways if unit.ways is not None else MOST_WAYS
    if not 1 <= first <= last <= most:
        raise InputError("way", f"There is no way {words[0]}.", f"1 to {most}")
    kept = tuple(one for one in unit.devices if one.way > last or one.way + one.modules - 1 < first)
    free = tuple(way for way in unit.free if not first <= way <= last)
    says = f"way {' '.join(words)}"
    if words[1:] == ["gone"]:
        return says, (Put("supply.unit", replace(unit, devices=kept, free=free)),)
    if words[1:] == ["free"]:
        return says, (Put("supply.unit", replace(unit, devices=kept, free=(*free, *range(first, last + 1)))),)
    device = _device(words[1:], first, last - first + 1, unit)
    return says, (Put("supply.unit", replace(unit, devices=(*kept, device), free=free)),)


def _rest(words: list[str], unit: ConsumerUnit) -> Told:
    """``way rest free``: every way that nothing was told of."""
    if words[1:] != ["free"]:
        raise InputError("way", f"Can't use '{' '.join(words)[:40]}'.", "way rest free, or one way by its number")
    if unit.ways is None:
        raise InputError("way", "How many ways there are is not told.", "ways 10 first")
    taken = {one.way + at for one in unit.devices for at in range(one.modules)}
    free = tuple(way for way in range(1, unit.ways + 1) if way not in taken)
    return "way rest free", (Put("supply.unit", replace(unit, free=free)),)


def _device(words: list[str], way: int, modules: int, unit: ConsumerUnit) -> Device:
    """``b32 shower``, ``rcbo b40 a garage``, ``rccb 63 ac``, ``blank``, ``surge``."""
    taken = {one.id for one in unit.devices}
    its_id = next(f"way-{number}" for number in range(1, 1000) if f"way-{number}" not in taken)
    kind = words[0] if words[0] in ("rcbo", "rccb", "surge", "switch", "blank", "fuse", "mcb") else "mcb"
    rest = words[1:] if words[0] == kind else list(words)
    rating, curve, residual = None, "", ""
    if rest and (rated := _MCB.fullmatch(rest[0])):
        curve, rating = rated[1], float(rated[2])
        rest = rest[1:]
    elif rest and re.fullmatch(r"\d+a?", rest[0]):
        rating = float(rest[0].removesuffix("a"))
        rest = rest[1:]
    elif kind == "mcb":
        raise InputError("way", f"Can't read '{' '.join(words)[:40]}'.", SAMPLE)
    if rest and rest[0] in ("ac", "a", "f", "b") and kind in ("rcbo", "rccb"):
        residual, rest = rest[0], rest[1:]
    return Device(
        id=its_id, way=way, modules=modules, kind=kind, rating_a=rating, curve=curve, residual=residual,
        name=" ".join(rest),
    )  # fmt: skip
