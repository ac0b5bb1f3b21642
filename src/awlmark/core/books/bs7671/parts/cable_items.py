"""What cable takes on its way: glands and banjos, cleats or clips by its diameter, seals, tape and duct."""

from __future__ import annotations

import functools
import math
from typing import Final

import numpy as np

from awlmark.core.books.book import Method
from awlmark.core.books.bs7671.edition import clauses
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.job.by_length import bought
from awlmark.core.parts.tally import Tally
from awlmark.core.parts.way_items import Face
from awlmark.core.run.line import INSIDE, Section, Walked
from awlmark.core.run.supports import held, strap_number, upright

CLEATS_MM: Final = (15, 17, 20, 23)
"""Cleats on the list by the diameter they close on; half a millimetre is what makers' cables differ by [mm]."""
CLEAT_SPARE_MM: Final = 0.5
FIRE_CLIP_M: Final = 1.0
"""Farthest between the metal clips that hold soft cable overhead when plastic has melted; common practice [m]."""
UNREAD: Final = "?"


@functools.cache
def wide_mm(kind: str, size: str, cores: int) -> float | None:
    """Outside of a cable, of a flat one its larger side [mm]; None where the tables are blank.

    Parameters
    ----------
    kind : {"te", "swa"}
        Twin and earth, or armoured.
    size : str
        Of its lines [mm2].
    cores : int
        All of them.
    """
    if kind == "te":
        rows = printed("twin_earth_outline_two_readers").rows
        told = next((row["width_mm"] for row in rows if row["mm2"] == size), "")
    else:
        told = _armoured(size, cores)["overall_mm"]
    return float(told) if told else None


def _armoured(size: str, cores: int) -> dict[str, str]:
    blank = {"overall_mm": "", "gland": ""}
    return next((row for row in printed("swa").rows if (row["mm2"], row["cores"]) == (size, f"{cores}")), blank)


@functools.cache
def support(method: Method, size: str | None, up: bool = False) -> tuple[float, float, str]:
    """Farthest between clips, cleats or saddles, and from an end [m], and the clause.

    Cable goes by its outside (Table D1), conduit by its own (Table D2); where that is not known, by the closest row of
    its kind. A leg is divided evenly, half a space at each end.
    """
    table, unit = ("clip_spacing", 1000.0) if method.cable else ("conduit_supports", 1.0)
    column = ("upright" if up else "level") + ("_mm" if method.cable else "_m")
    wide = _outside(method, size)
    rows = [row for row in printed(table).rows if row["kind"] == method.support and row[column]]
    fits = [row for row in rows if wide is None or _within(row, wide)]
    apart = min(float(row[column]) for row in fits or rows) / unit
    return apart, apart / 2, clauses()["supports"]


def _outside(method: Method, size: str | None) -> float | None:
    if size is None:
        return None
    if not method.cable:
        return float(size) if size.isdigit() else None
    conductors, _, cores = size.partition("x")
    return wide_mm(method.cable_kind, conductors, int(cores))


def _within(row: dict[str, str], wide: float) -> bool:
    return float(row["above_mm"]) < wide <= float(row["to_mm"] or "inf")


def _by_size(tally: Tally, keys: list[str]) -> tuple[tuple[str, ...], np.ndarray]:
    """Distinct keys of a list by conductor size, and which of them each row takes."""
    distinct = tuple(dict.fromkeys(keys))
    return distinct, np.array([distinct.index(key) for key in keys])[tally.table.hot]


def count_glands(tally: Tally, method: Method, ends: list[str]) -> None:
    """A gland at every end, with its banjo and locknut where the cable is armoured; marks on cores of other colours."""
    case, sizes = tally.table.case, tally.table.case.book.sizes
    legs = {walked.leg.id: walked for walked in case.line.legs}
    if method.cable_kind == "te":
        tally.many("Fittings", "gland:stuffing:20", ends, float(len(ends)))
        tally.add("Sundries", "sleeving", ends[0], bought(SLEEVED_M * len(ends), tally.units), tally.units)
        return
    for number, end in enumerate(ends):
        dry = _dry(legs[end], last=number == len(ends) - 1)
        chart = [_armoured(size, case.conductors)["gland"] or UNREAD for size in sizes]
        keys, index = _by_size(tally, [f"gland:{'bw' if dry else 'cw'}:{size}" for size in chart])
        tally.put("Fittings", keys, index, 1.0, end)
    if case.conductors == 3:
        # Made in brown, black and grey: the black is marked as neutral, the grey as earth, at both ends.
        tally.many("Sundries", "marking sleeve", [end for end in ends for _core in range(2)], 2.0 * len(ends))


SLEEVED_M: Final = 0.2
"""Green and yellow sleeving over a bare protective conductor, at each end; common practice [m]."""


def _dry(walked: Walked, *, last: bool) -> bool:
    """Whether an end of a leg lies indoors."""
    return (walked.place_after if last else walked.place) in INSIDE


def count_held(tally: Tally, section: Section, _stone: list[Face]) -> None:
    """Clips of twin and earth with metal ones overhead, or cleats of armoured cable, each with its plug and screw."""
    case, kind = tally.table.case, section.method.cable_kind
    legs = [walked for walked in held(section.legs) if not walked.leg.sleeve]
    if not legs:
        return
    marks = [walked.leg.id for walked in legs]
    sizes = [f"{size}x{case.conductors}" for size in case.book.sizes]
    counts = np.array([float(strap_number(case.book, section.method, legs, size)) for size in sizes])[tally.table.hot]
    if kind == "te":
        tally.put("Fixings", ("clip:te",), None, counts, *marks)
        level = [walked for walked in legs if not upright(walked)]
        metal = sum(math.ceil(walked.leg.length_m / FIRE_CLIP_M - 1e-9) for walked in level)
        tally.many("Fixings", "fire clip", [walked.leg.id for walked in level], float(metal))
        return
    keys, index = _by_size(tally, [f"cleat:{_cleat(size, case.conductors)}" for size in case.book.sizes])
    tally.put("Fixings", keys, index, counts, *marks)
    tally.put("Fixings", ("plug and screw",), None, counts, *marks)


def _cleat(size: str, cores: int) -> str:
    wide = wide_mm("swa", size, cores)
    fits = [mm for mm in CLEATS_MM if wide is not None and wide <= mm + CLEAT_SPARE_MM + 1e-9]
    return f"{fits[0]}" if fits else UNREAD


def count_passed(tally: Tally, section: Section) -> None:
    """A sleeve for every wall or floor that is passed, sealed; another seal where it holds back fire."""
    passed = [walked for walked in section.legs if walked.crosses and not walked.leg.reused]
    tally.many("Sundries", "wall sleeve", [walked.leg.id for walked in passed], float(len(passed)))
    fire = [walked.leg.id for walked in passed if walked.leg.fire]
    tally.many("Sundries", "fire seal", fire, float(len(fire)))


def count_ground(tally: Tally) -> None:
    """Tape over every trench; duct where the cable lies in one, bags of sand where it lies direct."""
    case = tally.table.case
    dug = [
        walked for walked in case.line.legs
        if walked.leg.direction == "trench" and walked.heading[2] == 0 and not walked.leg.reused
    ]  # fmt: skip
    for key, legs in (
        ("warning tape", dug),
        ("duct:63", [walked for walked in dug if walked.method.key.endswith("duct")]),
    ):
        long_m = sum(walked.leg.length_m for walked in legs)
        if legs:
            tally.many("Sundries", key, [one.leg.id for one in legs], bought(long_m, tally.units), tally.units)
    direct = [walked for walked in dug if walked.method.key.endswith("direct") and walked.leg.cover_m is not None]
    bags = math.ceil(sum(walked.leg.length_m for walked in direct) * BED_M2 / BAG_M3 - 1e-9)
    tally.many("Sundries", "sand", [walked.leg.id for walked in direct], float(bags))


BED_M2: Final = 0.3 * 0.1
"""Sand under and over a cable laid direct: 50 mm each in a trench 300 mm wide; common practice [m2]."""
BAG_M3: Final = 0.015
"""Sand in a bag of 25 kg; common practice [m3]."""
