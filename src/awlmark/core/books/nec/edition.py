"""One edition of the rule book, its tables turned into arrays once."""

from __future__ import annotations

import functools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats, Ints
from awlmark.core.books.nec.printed import number, printed
from awlmark.core.errors import InputError
from awlmark.core.job.model import EDITIONS, MATERIALS

INCH2_MM2: Final = 645.16
KFT_KM: Final = 0.3048
COLUMNS_C: Final = (60, 75, 90)
"""Temperature columns of the ampacity and ambient tables [degC]."""
FILL_PERCENT: Final = np.array([60.0, 53.0, 31.0, 40.0])
"""Limits of Chapter 9: nipple (note 4), one, two, more than two conductors [percent]."""
NIPPLE, ONE, TWO, MORE = range(4)


class Method(msgspec.Struct, frozen=True, eq=False):
    """One wiring method of methods.csv."""

    key: str
    name: str
    cable: bool
    raceway: int
    support: str
    metal: bool
    factor_c: int | None
    limit_c: int | None
    insulated_c: int | None
    """Column it may not pass in thermal insulation [degC]."""
    largest: str
    """Largest copper size its article lets it be made in; empty where it names none."""
    aluminium: bool
    solid_to: str
    outdoors: str
    buried: str
    hottest_c: float | None
    place_cite: str
    ampacity_cite: str
    bend_cite: str
    flexible: bool
    """Whether it comes in coils and is bent as it lies: no sticks, elbows or couplings."""
    soft: bool
    """Whether a nail gets through it, 300.4(A) and (D)."""
    hit_cite: str
    """Clause by which it may not be where it can be hit; empty for what a blow does not get through."""
    guards_riser: bool
    """Whether it guards what comes out of the ground where it can be hit, 300.5(D)(4)."""
    joint: str
    """``glued``, ``threaded``, ``screwed``, or empty."""
    bends: str
    """How it is bent by hand: ``shoe``, ``heat``, or empty."""
    grows: bool
    """Whether warmth lengthens it so that it wants expansion fittings, 352.44."""
    ground_path: bool
    """Whether it may be the equipment ground, 250.118."""
    around: str
    """What lies round the wires: ``steel``, ``al``, ``pvc`` (Table 9)."""
    sun: bool
    """Whether it stands the sun without a marking."""
    screw_proof: bool
    """Whether roof screws do not get through it, 300.4(E)."""
    rusts: bool
    """Whether it rusts in the earth, 300.6."""
    cover_group: str
    """Its group in Table 300.5."""
    nipple: str
    """What passes a wall with it: ``steel``, ``PVC``, or empty."""
    family: str
    """Raceways of one family are joined by a coupling."""
    bushed: bool
    """Whether its armour is cut under an insulating bushing, 320.40."""
    stronger: str
    alternative: str
    """Methods offered in its place: where it can be hit, and where it is not to be had."""
    chip: int
    compared: int
    """Its place among the methods that are offered at a click, and compared; nought for none."""

    @property
    def guards(self) -> bool:
        """Whether a blow does not get through it: rigid pipe over a cable, 334.15(B)."""
        return not self.cable and not self.flexible and not self.hit_cite


class Receptacle(msgspec.Struct, frozen=True):
    """One receptacle configuration."""

    config: str
    amps: float
    neutral: bool
    hots: int


class Book(msgspec.Struct, frozen=True, eq=False):
    """Tables of one edition.

    Axes: S conductor sizes (smallest first), M materials (cu, al), C temperature columns, I insulations,
    R raceways, T trade sizes, K rows of the ground table.
    """

    key: str
    sizes: tuple[str, ...]
    cmil: Floats
    """Circular mils, shape (S,)."""
    ampacity_a: Floats
    """Table 310.16 [A], shape (M, C, S); nought where the table prints a dash."""
    resistance: Floats
    """Table 8 dc resistance at 75 C [ohm/km], shape (M, 2, S): stranded, solid (stranded where none is made solid)."""
    insulations: tuple[str, ...]
    area_mm2: Floats
    """Table 5 areas [mm2], shape (I, S); NaN where the table is silent."""
    diameter_mm: Floats
    """Table 5 diameters [mm], shape (I, S)."""
    compact_area_mm2: Floats
    compact_diameter_mm: Floats
    """Table 5A, shape (I, S)."""
    dry_c: Ints
    wet_c: Ints
    """Index of the ampacity column of each insulation, dry and wet, shape (I,); -1 where it is not allowed."""
    raceways: tuple[str, ...]
    trade_sizes: tuple[str, ...]
    bore_mm: Floats
    """Inside diameters [mm], shape (R, T); NaN where not made."""
    bore_area_mm2: Floats
    """Inside areas [mm2], shape (R, T)."""
    fill_mm2: Floats
    """Areas at 60, 53, 31 and 40 percent [mm2], shape (R, 4, T): the share of Table 1 times the printed area.

    Annex C counts so too: the printed, rounded share would let 11 instead of 12 6 AWG into 1-1/4 EMT.
    """
    outside_mm: dict[tuple[str, str], float]
    """Outside diameters [mm] by (raceway, trade size)."""
    ratings_a: Floats
    """Standard breaker ratings of 15 A and more [A]."""
    ratings_and_none_a: Floats
    """The same, and inf for a need above them."""
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
    methods: dict[str, Method]
    usual: dict[str, str]
    receptacles: dict[str, Receptacle]
    cable_ground: dict[str, dict[str, str]]
    """Ground by method and hot size, as cables are made."""
    cable_doubt: frozenset[tuple[str, str]]
    """Cables, by method and hot size, whose ground is doubtful in the table."""
    title: str
    """The edition as people write it."""
    clauses: dict[str, str]
    """Clause of each rule in this edition, with its title."""

    @property
    def systems(self) -> tuple[str, ...]:
        """Supply systems that this rule book sizes circuits for."""
        return ("120/240", "120/208")

    def cite(self, rule: str) -> str:
        """Clause of a rule in this edition."""
        return self.clauses[rule]

    def size_index(self, size: str) -> int:
        """Position of a conductor size; -1 when the book has none such."""
        return self.sizes.index(size) if size in self.sizes else -1

    def bore(self, method: Method, trade_size: str) -> float:
        """Inside diameter of a raceway [mm]; NaN where it is not made."""
        return float(self.bore_mm[method.raceway, self.trade_sizes.index(trade_size)])

    def next_rating(self, amps: Floats) -> Floats:
        """Smallest standard rating at or above each current [A]; inf above the table."""
        at = np.searchsorted(self.ratings_a, amps - 1e-9)
        return self.ratings_and_none_a[at]

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

    @property
    def chips(self) -> tuple[str, ...]:
        """Methods that are offered at a click, in their order."""
        found = [key for key, each in self.methods.items() if each.chip]
        return tuple(sorted(found, key=lambda key: self.methods[key].chip))

    @property
    def compared(self) -> tuple[str, ...]:
        """Methods that are compared, in their order."""
        found = [key for key, each in self.methods.items() if each.compared]
        return tuple(sorted(found, key=lambda key: self.methods[key].compared))

    def trade_sizes_of(self, method: Method) -> tuple[str, ...]:
        """Trade sizes a raceway is made in."""
        made = np.isfinite(self.bore_mm[method.raceway])
        return tuple(size for size, is_made in zip(self.trade_sizes, made, strict=True) if is_made)


@functools.cache
def open_book(edition: str) -> Book:
    """Open one edition of the rule book.

    Parameters
    ----------
    edition : str
        ``nec-2017``, ``nec-2020`` or ``nec-2023``.

    Raises
    ------
    InputError
        When no such edition ships.
    """
    if edition not in EDITIONS:
        raise InputError("rule book (code)", f"Can't use '{edition[:40]}'.", "one of " + ", ".join(EDITIONS))
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
    outside = printed("raceway_outside_diameter").rows
    dims = _dimensions("insulated_dims_ch9_t5", insulation.column("dims"), sizes)
    compact = _dimensions("compact_al_ch9_t5a", insulation.column("compact_dims"), sizes)
    cables: dict[str, dict[str, str]] = {}
    doubtful = set()
    for row in printed("cable_construction").rows:
        cables.setdefault(row["cable"], {})[row["hot_size"]] = row["ground_size"]
        if row["doubt"]:
            doubtful.add((row["cable"], row["hot_size"]))
    return Book(
        key=edition,
        sizes=sizes,
        cmil=_by_size("cmil", sizes, "stranded"),
        ampacity_a=np.array([[_ampacity(f"{m}{c}") for c in COLUMNS_C] for m in MATERIALS]),
        resistance=np.array([_resistance(column, sizes) for column in ("cu_uncoated", "al")]),
        insulations=insulation.column("insulation"),
        area_mm2=dims[1] * INCH2_MM2,
        diameter_mm=dims[0] * 25.4,
        compact_area_mm2=compact[1] * INCH2_MM2,
        compact_diameter_mm=compact[0] * 25.4,
        dry_c=_columns(insulation.column("dry_c")),
        wet_c=_columns(insulation.column("wet_c")),
        raceways=raceways,
        trade_sizes=trade_sizes,
        bore_mm=_raceway("internal_diameter_in", raceways, trade_sizes) * 25.4,
        bore_area_mm2=bore_area,
        fill_mm2=bore_area[:, None, :] * FILL_PERCENT[None, :, None] / 100,
        outside_mm={(row["raceway"], row["trade_size"]): float(row["outside_diameter_in"]) * 25.4 for row in outside},
        ratings_a=ratings,
        ratings_and_none_a=np.append(ratings, np.inf),
        small_breaker_a=_small_breakers(sizes),
        ground_to_a=ground.numbers("ocpd_a"),
        ground_size=np.array([[sizes.index(size) for size in ground.column(m)] for m in MATERIALS]),
        ambient_to_c=ambient.numbers("c_high"),
        ambient_factor=np.stack([ambient.numbers(f"f{c}") for c in COLUMNS_C], axis=1),
        adjust_from=adjust.numbers("n_low"),
        adjust_factor=adjust.numbers("percent") / 100,
        methods={row["method"]: _method(row, raceways) for row in printed("methods").rows},
        usual={row["place"]: row["method"] for row in printed("usual_methods").rows},
        receptacles=_receptacles(),
        cable_ground=cables,
        cable_doubt=frozenset(doubtful),
        title=title,
        clauses={row["rule"]: f"{title} {row[edition]}" for row in printed("clauses").rows},
    )


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
        stronger=row["stronger"],
        alternative=row["alternative"],
        chip=int(row["chip"] or 0),
        compared=int(row["compared"] or 0),
    )


def _receptacles() -> dict[str, Receptacle]:
    found = {}
    for row in printed("receptacles").rows:
        single = row["volts"] == "125"
        found[row["config"]] = Receptacle(
            row["config"], float(row["amps"]), row["neutral"] == "yes", 1 if single else 2
        )
    return found
