"""What the drawings ask of this book: bars of Iz section by section, cards of cables, the chain, Zs along the run."""

from __future__ import annotations

import math
from typing import Final

from msgspec.structs import replace

from awlmark.core.books.book import NO, Method
from awlmark.core.books.bs7671.edition import bs
from awlmark.core.books.bs7671.parts.cable_items import wide_mm
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.current import made_in
from awlmark.core.books.bs7671.sizing.earth_fault import COLD, worst_section
from awlmark.core.books.bs7671.sizing.factors import NAMES, column_of, section_factors
from awlmark.core.books.bs7671.sizing.opening import phases, terminal_c
from awlmark.core.books.bs7671.sizing.requirements import indoors, residual_type
from awlmark.core.books.bs7671.sizing.work import BsWork
from awlmark.core.circuit.case import Case, drop_limit
from awlmark.core.circuit.cuts import Card, Chip, Cut, Face, Outline
from awlmark.core.finding import HOLDS, STOP, UNREAD
from awlmark.core.run.line import INSIDE, Section
from awlmark.core.run.method_use import use_severity
from awlmark.core.solve.design import Design

SHEATH_MM: Final = 1.6
ARMOUR_MM: Final = 1.25
BEDDING_MM: Final = 1.0
"""Sheath, wires and bedding of an armoured cable, where its outside is not in the table; from memory."""


def cuts(design: Design) -> tuple[Cut, ...]:
    """The chosen size on every section, with the size below and above where each governs."""
    work = design.evaluated.work if design.evaluated is not None else None
    if not isinstance(work, BsWork) or design.circuit is None or design.case is None:
        return ()
    found, case, book = work.carried, design.case, design.book
    if not found.factors:
        return ()
    at = book.sizes.index(design.circuit.size)
    sold = [made_in(bs(book), section.method.key) for section in case.sections]
    made = [index for index in range(len(book.sizes)) if all(sizes[index] for sizes in sold)]
    near = [index for index in made if index in (_below(made, at), at, _above(made, at))]
    shown: list[Cut] = []
    for index in near:
        numbers = range(len(case.sections)) if index == at else _telling(work, index)
        for number in numbers:
            left = float(found.by_section_a[number, index])
            needed = design.circuit.breaker_a
            severity = UNREAD if math.isnan(left) else HOLDS if left >= needed - 1e-9 else STOP
            factors = tuple((name.title(), float(getattr(found.factors[number], name))) for name in NAMES)
            shown.append(
                Cut(book.sizes[index], _where(case.sections[number]), float(found.tabulated_a[number, index]), factors,
                    left, needed, severity, index == at)
            )  # fmt: skip
    return tuple(shown)


def _below(made: list[int], at: int) -> int:
    return max((index for index in made if index < at), default=-1)


def _above(made: list[int], at: int) -> int:
    return min((index for index in made if index > at), default=-1)


def _telling(work: BsWork, size: int) -> list[int]:
    """Of a size that is not taken, the section that governs."""
    return [work.carried.governing(size)]


def _where(section: Section) -> str:
    """``wall, 40 C``: a section in a few words."""
    reference = {"duct": "in duct", "direct": "in the ground", "tray": "on a tray"}
    told = reference.get(section.method.key.rpartition("-")[2], "")
    place = section.legs[0].place
    told = told or ("outside" if place not in INSIDE else "loft" if place == "attic" else "wall")
    warm = [leg.leg.ambient_c for leg in section.legs if leg.leg.ambient_c is not None]
    return f"{told}, {max(warm):g} °C" if warm else told


def cards(design: Design, section: Section) -> tuple[Card, ...]:
    """The section's own cable, and two others that may lie there."""
    if design.case is None or design.circuit is None:
        return ()
    book, own = bs(design.book), section.method.key
    others = [key for key in book.chips if key != own and _other(key, own, design)]
    others.sort(key=lambda key: not _may(book.methods[key], section))
    return tuple(_card(design, design.case, section, key) for key in (own, *others)[:3])


def _other(key: str, own: str, design: Design) -> bool:
    kind = design.book.methods[key].made_as
    return kind != design.book.methods[own].made_as and not (kind == "te" and key != "te-clipped")


def _may(method: Method, section: Section) -> bool:
    """Whether a way to run it may lie in the whole section, wet and buried as it is."""
    inside = any(walked.place in INSIDE for walked in section.legs)
    return use_severity(method, section) != STOP and not (inside and indoors(method.key) == NO)


def _card(design: Design, case: Case, section: Section, key: str) -> Card:
    book = bs(design.book)
    method, own = book.methods[key], key == section.method.key
    column, phase = column_of(terminal_c(case)), phases(case)
    same = [one for one in case.sections if one.method.made_as == method.made_as] if own else [section]
    carried = []
    for one in same:
        moved = one if own else replace(one, method=method)
        product = section_factors(case, moved, column).product
        carried.append(book.ways[moved.method.key].current_a[column, phase] * product)
    made = [index for index in range(len(book.sizes)) if made_in(book, key)[index]]
    assert design.circuit is not None
    needed, at = design.circuit.breaker_a, book.sizes.index(design.circuit.size)
    worst = {index: float(min(amps[index] for amps in carried)) for index in made}
    enough = next((index for index in made if worst[index] >= needed - 1e-9), made[-1])
    middle = at if own and at in made else enough
    shown = [index for index in (_below(made, middle), middle, _above(made, middle)) if index in made]
    sizes = tuple(
        (book.sizes[index], worst[index],
         STOP if not own and not _may(method, section) else UNREAD if math.isnan(worst[index])
         else HOLDS if worst[index] >= needed - 1e-9 else STOP)
        for index in (shown if own else shown[-2:])
    )  # fmt: skip
    scope = "all the way" if own and len(same) == len(case.sections) else _where(section)
    return Card(key, method.short or method.name, scope, own, sizes)


def chips(design: Design) -> tuple[Chip, ...]:
    """The chain link by link."""
    work = design.evaluated.work if design.evaluated is not None else None
    made, case = design.circuit, design.case
    if not isinstance(work, BsWork) or made is None or case is None or not work.carried.factors:
        return ()
    row, fault = design.row, work.fault
    usable = "unread" if made.usable_a is None else f"{made.usable_a:.4g}"
    zs, limit = float(fault.zs_ohm[row]), float(fault.limit_ohm[row])
    loop = "Zs unread" if math.isnan(zs) else f"Zs {zs:.3f}" + ("" if math.isnan(limit) else f" of {limit:.2f}")
    needs = float(fault.adiabatic_mm2[row, int(worst_section(fault)[row])])
    found = [
        Chip(f"Ib {made.charge_a:g} to In {made.breaker_a:g}", "breaker"),
        Chip(f"In {made.breaker_a:g} to Iz {usable}", "conductor"),
        Chip(f"drop {made.drop_percent:.2f} of {drop_limit(case):g} %", "drop"),
        Chip(loop, "zs"),
        Chip(f"E {made.ground or 'unread'} mm²" + ("" if math.isnan(needs) else f", needs {needs:.2f}"), "cpc"),
        Chip(f"RCD 30 mA, type {residual_type(design.job)}", "rcd"),
    ]
    pen = design.finding("pme")
    if pen is not None:
        answer = design.job.charger.pen
        said = f"({answer})" if answer in ("i", "ii", "iii", "iv", "v") else answer or "unread"
        found.append(Chip(f"PEN by {said}", "pme"))
    supply = design.job.supply
    if supply.fault_a is not None and supply.breaks_a is not None:
        found.append(Chip(f"{supply.fault_a:g} A of {supply.breaks_a / 1000:g} kA", "kA"))
    else:
        found.append(Chip("fault current unread", "kA"))
    return tuple(found)


def faces(design: Design) -> tuple[Face, ...]:
    """Zs along the run, from Ze to the far end."""
    work = design.evaluated.work if design.evaluated is not None else None
    if not isinstance(work, BsWork) or design.circuit is None or not design.line.legs:
        return ()
    fault, row = work.fault, design.row
    ze, end = fault.ze_ohm, float(fault.zs_ohm[row])
    if math.isnan(ze) or math.isnan(end):
        return ()
    limit, long_m = float(fault.limit_ohm[row]), design.line.length_m
    limits: tuple[tuple[float, str, str], ...] = ()
    if not math.isnan(limit):
        limits = ((limit, f"limit {limit:.2f}", STOP), (COLD * limit, f"cold {COLD * limit:.3f}", "tight"))
    per_m = (end - ze) / long_m if long_m > 0 else 0.0
    told = f"{ze:.3g} + {per_m:.4f} a metre, warm"
    return (Face("zs", "Zs along the run", "ohm", ((0.0, ze), (long_m, end)), limits, told),)


def outline(kind: str, size: str, cores: int, across_mm: float) -> Outline:
    """A cable's outside, from the tables or from its cores.

    Parameters
    ----------
    kind : {"te", "swa"}
        Twin and earth, or armoured.
    across_mm : float
        Diameter of one core with its insulation [mm].
    """
    told = wide_mm(kind, size, cores)
    if kind == "te":
        rows = {row["mm2"]: float(row["height_mm"]) for row in printed("twin_earth_outline_two_readers").rows}
        wide = told if told is not None else 2.6 * across_mm + 3
        return Outline(wide, rows.get(size, across_mm + 2.5), False, told is not None)
    bundle = across_mm * {2: 2.0, 3: 2.155, 4: 2.414, 5: 2.701}.get(cores, 3.0)
    wide = told if told is not None else bundle + 2 * (SHEATH_MM + ARMOUR_MM + BEDDING_MM)
    return Outline(wide, wide, True, told is not None)
