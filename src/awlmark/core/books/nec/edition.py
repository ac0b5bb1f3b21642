"""One edition of the rule book, its tables turned into arrays once."""

from __future__ import annotations

import cmath
import functools
import math
from typing import Any, Final

import numpy as np

from awlmark.core.arrays import Floats, Ints
from awlmark.core.books.book import Bending, Book, Method, Portable, Receptacle
from awlmark.core.books.nec.facts import Facts, facts_of
from awlmark.core.books.nec.printed import number, printed
from awlmark.core.job.model import MATERIALS
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.shelf import NEWEST

INCH2_MM2: Final = 645.16
KFT_KM: Final = 0.3048
COLUMNS_C: Final = (60, 75, 90)
"""Temperature columns of the ampacity and ambient tables [degC]."""
FILL_PERCENT: Final = np.array([60.0, 53.0, 31.0, 40.0])
"""Limits of Chapter 9: nipple (note 4), one, two, more than two conductors [percent]."""
NIPPLE, ONE, TWO, MORE = range(4)
TABLE_AMBIENT_C: Final = 30.0
"""Air that Table 310.16 is printed for."""
STICK_M: Final = 10 * FOOT_M
"""Raceway comes in such lengths, 344.130 and its like."""
ROOF_CLEAR_M: Final = 0.875 * INCH_M
"""At this height above a roof and more its adder falls away, 310.15(B)(2)."""
NIPPLE_M: Final = 24 * INCH_M
"""Longest nipple, Chapter 9 note 4."""
MM2_PER_CMIL: Final = 5.067074791e-4
SECOND_LEG: Final = {"120/240": -1.0 + 0j, "120/208": cmath.exp(2j * math.pi / 3)}
"""Second leg over the first by supply system: across from it, or a third of a turn away."""


class NecBook(Book, frozen=True, eq=False, kw_only=True):
    """Tables of one edition.

    Axes: S conductor sizes (smallest first), M materials (cu, al), C temperature columns, I insulations,
    R raceways, T trade sizes, K rows of the ground table.
    """

    cmil: Floats
    """Circular mils, shape (S,)."""
    ampacity_a: Floats
    """Table 310.16 [A], shape (M, C, S); nought where the table prints a dash."""
    resistance: Floats
    """Table 8 dc resistance at 75 C [ohm/km], shape (M, 2, S): stranded, solid (stranded where none is made solid)."""
    compact_area_mm2: Floats
    """Table 5A, shape (I, S)."""
    dry_c: Ints
    wet_c: Ints
    """Index of the ampacity column of each insulation, dry and wet, shape (I,); -1 where it is not allowed."""
    bore_area_mm2: Floats
    """Inside areas [mm2], shape (R, T)."""
    fill_mm2: Floats
    """Areas at 60, 53, 31 and 40 percent [mm2], shape (R, 4, T): the share of Table 1 times the printed area.

    Annex C counts so too: the printed, rounded share would let 11 instead of 12 6 AWG into 1-1/4 EMT.
    """
    small_breaker_a: Floats
    """Largest breaker on small conductors (240.4(D)), shape (M, S) [A]; inf on larger ones."""
    ground_to_a: Floats
    ground_size: Ints
    """Table 250.122: ratings (K,) and size indices (M, K)."""
    ambient_to_c: Floats
    ambient_factor: Floats
    """Upper ends (rows,) and factors (rows, C); nought where the table prints a dash."""
    adjust_from: Floats
    adjust_factor: Floats
    cable_doubt: frozenset[tuple[str, str]]
    """Cables, by method and hot size, whose ground is doubtful in the table."""
    facts: Facts
    """What the editions say differently."""

    def ambient_row(self, celsius: float) -> Floats:
        """Correction factors for an ambient temperature, shape (C,): the next warmer row, never between rows."""
        at = int(np.searchsorted(self.ambient_to_c, celsius - 1e-9))
        if at == len(self.ambient_to_c):
            return np.zeros(len(COLUMNS_C))
        row: Floats = self.ambient_factor[at]
        return row

    def adjustment(self, conductors: int) -> float:
        """Adjustment factor for a number of current-carrying conductors in one raceway."""
        at = int(np.searchsorted(self.adjust_from, conductors, side="right")) - 1
        return 1.0 if at < 0 else float(self.adjust_factor[at])


def nec(book: Book) -> NecBook:
    """An open book with the tables of this one.

    Raises
    ------
    TypeError
        For another book: its rules never come here.
    """
    if not isinstance(book, NecBook):
        raise TypeError(f"{book.title} is another book.")
    return book


def clause_of(rule: str, edition: str = NEWEST) -> str:
    """Clause of a rule, for what is named without an open book; the newest edition's where all have the same."""
    return _clauses(edition)[rule]


@functools.cache
def _clauses(edition: str) -> dict[str, str]:
    return {row["rule"]: row[edition] for row in printed("clauses").rows}


def tables(edition: str) -> dict[str, Any]:
    """The tables of one edition by the fields of :class:`NecBook`; the rules are put beside them."""
    title, ratings = edition.upper().replace("-", " "), printed("ocpd_240_6").numbers("rating_a")
    sizes = printed("ampacity_310_16").column("size")
    insulation = printed("insulations")
    raceway = printed("raceway_ch9_t4")
    raceways = tuple(dict.fromkeys(raceway.column("raceway")))
    trade_sizes = tuple(sorted(dict.fromkeys(raceway.column("trade_size")), key=_inches))
    bore_area = _raceway("total_area_in2", raceways, trade_sizes) * INCH2_MM2
    adjust = printed("adjustment_310_15_c1")
    ambient = printed("ambient_310_15_b1")
    ground = printed("egc_250_122")
    dims = _dimensions("insulated_dims_ch9_t5", insulation.column("dims"), sizes)
    compact = _dimensions("compact_al_ch9_t5a", insulation.column("compact_dims"), sizes)
    cables: dict[str, dict[str, str]] = {}
    doubtful = set()
    for row in printed("cable_construction").rows:
        cables.setdefault(row["cable"], {})[row["hot_size"]] = row["ground_size"]
        if row["doubt"]:
            doubtful.add((row["cable"], row["hot_size"]))
    cmil, resistance = _by_size("cmil", sizes, "stranded"), _resistances(sizes)
    return {
        "key": edition,
        "systems": SECOND_LEG,
        "metal_mm2": cmil * MM2_PER_CMIL,
        "ohm_per_km": resistance[:, 0],
        "facts": facts_of(edition),
        "sizes": sizes,
        "cmil": cmil,
        "ampacity_a": np.array([[_ampacity(f"{m}{c}") for c in COLUMNS_C] for m in MATERIALS]),
        "resistance": resistance,
        "insulations": insulation.column("insulation"),
        "area_mm2": dims[1] * INCH2_MM2,
        "diameter_mm": dims[0] * 25.4,
        "compact_area_mm2": compact[1] * INCH2_MM2,
        "compact_diameter_mm": compact[0] * 25.4,
        "dry_c": _columns(insulation.column("dry_c")),
        "wet_c": _columns(insulation.column("wet_c")),
        "raceways": raceways,
        "trade_sizes": trade_sizes,
        "bore_mm": _raceway("internal_diameter_in", raceways, trade_sizes) * 25.4,
        "bore_area_mm2": bore_area,
        "fill_mm2": bore_area[:, None, :] * FILL_PERCENT[None, :, None] / 100,
        "ratings_a": ratings,
        "small_breaker_a": _small_breakers(sizes),
        "ground_to_a": ground.numbers("ocpd_a"),
        "ground_size": np.array([[sizes.index(size) for size in ground.column(m)] for m in MATERIALS]),
        "ambient_to_c": ambient.numbers("c_high"),
        "ambient_factor": np.stack([ambient.numbers(f"f{c}") for c in COLUMNS_C], axis=1),
        "adjust_from": adjust.numbers("n_low"),
        "adjust_factor": adjust.numbers("percent") / 100,
        "methods": {row["method"]: _method(row, raceways) for row in printed("methods").rows},
        "usual": {row["place"]: row["method"] for row in printed("usual_methods").rows},
        "receptacles": _receptacles(),
        "portable": Portable(12.0, 120.0, ("5-20", "5-15")),
        "cable_ground": cables,
        "cable_doubt": frozenset(doubtful),
        "title": title,
        "clauses": _clauses(edition),
    }


def _small_breakers(sizes: tuple[str, ...]) -> Floats:
    most = np.full((len(MATERIALS), len(sizes)), np.inf)
    for row in printed("small_conductors_240_4_d").rows:
        most[MATERIALS.index(row["material"]), sizes.index(row["size"])] = float(row["breaker_a"])
    return most


def _inches(trade_size: str) -> float:
    whole, _, fraction = trade_size.partition("-") if "-" in trade_size else ("", "", trade_size)
    top, _, bottom = fraction.partition("/")
    return float(whole or 0) + float(top) / float(bottom or 1)


def _ampacity(column: str) -> Floats:
    return printed("ampacity_310_16").numbers(column)


def _by_size(column: str, sizes: tuple[str, ...], stranding: str) -> Floats:
    rows = {row["size"]: row[column] for row in printed("conductor_props_ch9_t8").rows if row["stranding"] == stranding}
    return np.array([number(rows.get(size, "")) for size in sizes])


def _resistance(prefix: str, sizes: tuple[str, ...]) -> Floats:
    stranded, solid = (_by_size(f"{prefix}_ohm_per_kft_75C", sizes, kind) for kind in ("stranded", "solid"))
    return np.stack([stranded, np.where(np.isnan(solid), stranded, solid)]) / KFT_KM


def _resistances(sizes: tuple[str, ...]) -> Floats:
    return np.array([_resistance(column, sizes) for column in ("cu_uncoated", "al")])


def _bending(raceway: str) -> Bending:
    """Radii of Chapter 9 Table 2, what hand benders for EMT take, and what the fittings of a raceway do."""
    radii = {
        row["trade_size"]: (number(row["one_shot_full_shoe_in"]) * INCH_M, number(row["other_bends_in"]) * INCH_M)
        for row in printed("bend_radius_ch9_t2").rows
    }
    benders = {
        row["trade_size"]: (number(row["takeup_in"]) * INCH_M, number(row["gain_in"]) * INCH_M)
        for row in printed("bender_takeup").rows
        if row["raceway"] == "EMT"
    }
    factors = tuple(
        (float(row["angle_deg"]), float(row["multiplier"]), float(row["shrink_per_inch_of_offset_in"]))
        for row in printed("bending_multipliers").rows
    )
    takes = {
        row["trade_size"]: (number(row["elbow_straight_in"]) * INCH_M, number(row["body_in"]) * INCH_M)
        for row in printed("fitting_takes").rows
    }
    outside = {
        row["trade_size"]: number(row["outside_diameter_in"]) * INCH_M
        for row in printed("raceway_outside_diameter").rows
        if row["raceway"] == raceway
    }
    return Bending(radii, benders, factors, takes, outside)


def _dimensions(table: str, types: tuple[str, ...], sizes: tuple[str, ...]) -> tuple[Floats, Floats]:
    """Diameters and areas [in, in2] of every insulation, each shape (I, S)."""
    rows = {(row["type"], row["size"]): row for row in printed(table).rows}
    blank = {"diameter_in": "", "area_in2": ""}
    diameter, area = (
        np.array([[number(rows.get((kind, size), blank)[column]) for size in sizes] for kind in types])
        for column in ("diameter_in", "area_in2")
    )
    return diameter, area


def _columns(cells: tuple[str, ...]) -> Ints:
    return np.array([-1 if cell == "-" else COLUMNS_C.index(int(cell)) for cell in cells])


def _raceway(column: str, raceways: tuple[str, ...], trade_sizes: tuple[str, ...]) -> Floats:
    rows = {(row["raceway"], row["trade_size"]): row[column] for row in printed("raceway_ch9_t4").rows}
    return np.array([[number(rows.get((kind, size), "")) for size in trade_sizes] for kind in raceways])


def _method(row: dict[str, str], raceways: tuple[str, ...]) -> Method:
    return Method(
        key=row["method"],
        name=row["name"],
        cable=row["kind"] == "cable",
        raceway=raceways.index(row["raceway"]) if row["raceway"] else -1,
        support=row["support"],
        metal=row["metal"] == "yes",
        factor_c=int(row["factor_c"]) if row["factor_c"] else None,
        limit_c=int(row["limit_c"]) if row["limit_c"] else None,
        insulated_c=int(row["insulated_c"]) if row["insulated_c"] else None,
        largest=row["largest"],
        aluminium=row["aluminium"] == "yes",
        solid_to=row["solid_to"],
        outdoors=row["outdoors"],
        buried=row["buried"],
        hottest_c=float(row["hottest_c"]) if row["hottest_c"] else None,
        place_cite=row["place_cite"],
        ampacity_cite=row["ampacity_cite"],
        bend_cite=row["bend_cite"],
        flexible=row["flexible"] == "yes",
        soft=row["soft"] == "yes",
        hit_cite=row["hit_cite"],
        guards_riser=row["guards_riser"] == "yes",
        joint=row["joint"],
        bends=row["bends"],
        grows=row["grows"] == "yes",
        ground_path=row["ground_path"] == "yes",
        around=row["around"],
        sun=row["sun"] == "yes",
        screw_proof=row["screw_proof"] == "yes",
        rusts=row["rusts"] == "yes",
        cover_group=row["cover_group"],
        nipple=row["nipple"],
        family=row["family"],
        bushed=row["bushed"] == "yes",
        fished=row["fished"],
        stronger=row["stronger"],
        alternative=row["alternative"],
        chip=int(row["chip"] or 0),
        compared=int(row["compared"] or 0),
        stick_m=STICK_M if row["kind"] == "raceway" and row["flexible"] == "no" else 0.0,
        bending=_bending(row["method"].upper()),
    )


def _receptacles() -> dict[str, Receptacle]:
    found = {}
    for row in printed("receptacles").rows:
        single = row["volts"] == "125"
        found[row["config"]] = Receptacle(
            row["config"], float(row["amps"]), row["neutral"] == "yes", 1 if single else 2
        )
    return found
