"""The British tables, turned into arrays once."""

from __future__ import annotations

import functools
import math
import re
from typing import Any, Final

import msgspec
import numpy as np

from awlmark.core.arrays import Floats
from awlmark.core.books.book import LISTED, NO, YES, Bending, Book, Method, Portable, Receptacle
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.printed import number
from awlmark.core.errors import InputError

KEY: Final = "bs7671-2018a2"
TITLE: Final = "BS 7671 A2"
DOUBTFUL: Final = ", doubtful, check"
"""Stands behind a clause that is not sure."""
TERMINALS_C: Final = (70, 90)
INSULATIONS: Final = ("pvc70", "xlpe90")
"""What a conductor's working temperature goes by, in the order of :data:`TERMINALS_C`."""
AIR_C: Final = 30.0
GROUND_C: Final = 20.0
SOIL: Final = 2.5
"""What the current tables stand for [degC, degC, K m/W]."""
U0: Final = 230.0
"""Volts from a line to earth."""
CONDUIT, TRUNKING = range(2)
CHOSEN: Final = ("20", "25", "32")
"""Conduits that are chosen while the size is open."""
LARGE_FROM: Final = "32"
WHERE: Final = {"yes": YES, "no": NO, "conduit": LISTED}
CHIPS: Final = {
    "te-clipped": "T&E", "te-101": "T&E loft", "swa-clipped": "SWA", "swa-duct": "SWA duct",
    "singles-conduit": "Conduit", "singles-trunking": "Trunking",
}  # fmt: skip
"""Methods that are offered at a click, with a short name."""


class Way(msgspec.Struct, frozen=True, eq=False):
    """What one wiring method takes from the tables.

    Axes: C working temperature (70, 90 C), P phases (one, three), S sizes.
    """

    reference: str
    """Reference method: ``A`` to ``E``, ``100`` to ``103``."""
    current_a: Floats
    """Shape (C, P, S) [A]; NaN where the tables are silent, nought where the cable lacks the cores."""
    mv: Floats
    """Drop, shape (C, P, S) [mV/A/m]; NaN where the tables are silent."""
    insulation: tuple[str, str]
    """Of the factors, at terminals of 70 and 90 C."""
    group: str
    """How circuits lie together unless told: a key of the tables of grouping."""
    ground: bool
    """Whether it lies in the ground, and goes by its temperature."""
    soil: str
    """Column of the soil table; empty in air."""
    cc: float
    cpc: str
    """``core`` of the cable, or a ``wire`` of its own."""
    clipped: bool
    """Whether its rating is that of clipped cable, which the factors of insulation go with."""
    loft: bool
    """Whether it lies above a ceiling, where the air has to be read."""
    adiabatic_k: float


class BsBook(Book, frozen=True, eq=False, kw_only=True):
    """Tables of the British book. Axes: M metals, S sizes."""

    ways: dict[str, Way]
    ohm20_per_km: Floats
    """Class 2 conductors at 20 C, shape (S,) [ohm/km]."""

    def trade_sizes_of(self, method: Method) -> tuple[str, ...]:
        """Sizes a conduit or trunking is sold in; their bores are not in the tables."""
        return trunking_sizes() if method.raceway == TRUNKING else conduit_sizes()


def bs(book: Book) -> BsBook:
    """An open book with the tables of this one.

    Raises
    ------
    TypeError
        For another book: its rules never come here.
    """
    if not isinstance(book, BsBook):
        raise TypeError(f"{book.title} is another book.")
    return book


def tables() -> dict[str, Any]:
    """The tables by the fields of :class:`BsBook`; the rules are put beside them."""
    made = printed("conductor_sizes").rows
    sizes = tuple(row["mm2"] for row in made)
    class2 = {row["mm2"]: row for row in printed("iec60228_class2_resistance_20C").rows}
    copper, aluminium = (
        np.array([number(class2[size][f"{metal}_ohm_per_km"]) for size in sizes]) for metal in ("cu", "al")
    )
    warm = operating("pvc70-in-cable")
    trades = (*conduit_sizes(), *trunking_sizes())
    across = np.tile(_singles_mm2(sizes), (len(INSULATIONS), 1))
    diameter = 2 * np.sqrt(across / np.pi)
    return {
        "key": KEY,
        "title": TITLE,
        "clauses": clauses(),
        "systems": {"230": 0j, "400": 0j},
        "power_v": {"230": U0, "400": 3 * U0},
        "sizes": sizes,
        "metal_mm2": np.array([float(size) for size in sizes]),
        "ohm_per_km": np.stack([copper, aluminium]) * warm,
        "ohm20_per_km": copper,
        "insulations": INSULATIONS,
        "area_mm2": across,
        "diameter_mm": diameter,
        "compact_diameter_mm": diameter,
        "raceways": ("conduit", "trunking"),
        "trade_sizes": trades,
        "bore_mm": np.full((2, len(trades)), np.nan),
        "ratings_a": np.array([float(row["rating_a"]) for row in _device("mcb")]),
        "methods": {row["method"]: _method(row) for row in printed("wiring_methods").rows},
        "usual": {row["place"]: row["method"] for row in printed("usual_methods").rows},
        "receptacles": _outlets(),
        "portable": Portable(10.0, U0, ("ev13",), (16.0, 20.0, 25.0, 32.0)),
        "cable_ground": {
            row["method"]: _cpc_as_made(row["method"])
            for row in printed("wiring_methods").rows
            if row["kind"] == "cable"
        },
        "ways": {row["method"]: _way(row, sizes) for row in printed("wiring_methods").rows},
    }


def _singles_mm2(sizes: tuple[str, ...]) -> Floats:
    """Area of a single with its insulation, shape (S,) [mm2]: the terms of Table E5 are that area, within the print."""
    terms: dict[str, float] = {}
    for row in printed("trunking_cable_terms").rows:
        if row["insulation"] == "thermoplastic":
            terms[row["mm2"]] = float(row["term"])
    return np.array([terms.get(size, np.nan) for size in sizes])


def _outlets() -> dict[str, Receptacle]:
    """Outlets by the steady charging they are good for; a unit with its own lead is none."""
    return {
        row["connection"]: Receptacle(row["connection"], float(row["charge_most_a"]), True, 1)
        for row in printed("sockets").rows
        if row["connection"] != "tethered"
    }


@functools.cache
def clauses() -> dict[str, str]:
    """Clause of each rule; what is not sure says so."""
    return {row["rule"]: row["clause"] + DOUBTFUL * bool(row["doubted"]) for row in printed("clauses").rows}


def _device(kind: str) -> list[dict[str, str]]:
    return [row for row in printed("device_ratings").rows if row["device"] == kind]


@functools.cache
def ratings_of(kind: str) -> tuple[float, ...]:
    """Ratings that a kind of device is made in: ``mcb``, ``rcbo``, ``bs88-2`` [A]."""
    return tuple(float(row["rating_a"]) for row in _device(kind))


@functools.cache
def operating(key: str) -> float:
    """From the resistance at 20 C to that at working temperature, such as ``pvc70-in-cable``."""
    rows = printed("r1_r2_multipliers").rows
    return next(float(row["multiplier"]) for row in rows if (row["kind"], row["key"]) == ("operating", key))


@functools.cache
def conduit_sizes() -> tuple[str, ...]:
    """Conduits by their outside diameter [mm]."""
    named = dict.fromkeys(row["size_mm"] for row in printed("conduit_factors").rows)
    return tuple(sorted(named, key=int))


@functools.cache
def trunking_sizes() -> tuple[str, ...]:
    """Trunkings by height and width [mm]."""
    return printed("trunking_factors").column("size_mm")


def _cpc_as_made(method: str) -> dict[str, str]:
    """Protective core by line size, in every size of 1.5 mm2 and more that a cable is made in."""
    kind = "te" if method.startswith("te") else "swa"
    made = [row["mm2"] for row in printed("conductor_sizes").rows if row[kind] == "yes"]
    cpc = {row["mm2"]: row["cpc_mm2"] for row in printed("twin_earth").rows} if kind == "te" else {}
    return {size: cpc.get(size, size) for size in made if float(size) >= least_size()}


@functools.cache
def volts_limit(what: str) -> float:
    """Upper bound of the shipped table of volts, by the beginning of its name; a factor stands there too."""
    return next(float(row["high"]) for row in printed("voltage_limits").rows if row["what"].startswith(what))


def least_size() -> float:
    """Smallest conductor of a power circuit in copper, Table 52.3 [mm2]."""
    return 1.5


def _way(row: dict[str, str], sizes: tuple[str, ...]) -> Way:
    armoured = row["method"].startswith("swa")
    phases = (row["column_1ph"], row["column_3ph"])
    currents = []
    for table in (row["current_70"], row["current_90"] or row["current_70"]):
        currents.append([_column(table, column, sizes) for column in phases])
    drops = []
    for number_, table in enumerate((row["drop_70"], row["drop_90"] or row["drop_70"])):
        named = [row[name].split("|") for name in ("drop_1ph", "drop_3ph")]
        one, three = (_column(table, names[min(number_, len(names) - 1)], sizes, silent=np.nan) for names in named)
        # A cable without the cores for three phases is a stop; its drop is told by the one-phase column all the same.
        drops.append([one, three if row["drop_3ph"] else one * math.sqrt(3) / 2])
    ground = row["ambient"] == "ground"
    return Way(
        reference=row["reference"],
        current_a=np.array(currents),
        mv=np.array(drops),
        insulation=INSULATIONS if row["current_90"] else (INSULATIONS[0], INSULATIONS[0]),
        group=row["group"],
        ground=ground,
        soil=("in_duct" if row["method"].endswith("duct") else "direct") if ground else "",
        cc=float(row["cc"]),
        cpc=row["cpc"],
        clipped=row["reference"] == "C",
        loft=row["reference"] in ("100", "101"),
        adiabatic_k=adiabatic_k(INSULATIONS[1] if armoured else INSULATIONS[0]),
    )


def _column(table: str, column: str, sizes: tuple[str, ...], silent: float = 0.0) -> Floats:
    """One column by size; ``silent`` throughout where the method has none."""
    if not column:
        return np.full(len(sizes), silent)
    cells = {row["mm2"]: number(row[column]) for row in printed(table).rows}
    return np.array([cells.get(size, np.nan) for size in sizes])


@functools.cache
def adiabatic_k(insulation: str) -> float:
    """Table 54.3: k of a copper core in a cable or bunched [A s^0.5 / mm2]."""
    rows = printed("adiabatic_k").rows
    asked = ("54.3", "cu", insulation)
    return next(float(row["k"]) for row in rows if (row["table"], row["metal"], row["insulation"]) == asked)


def _method(row: dict[str, str]) -> Method:
    cable, armoured = row["kind"] == "cable", row["method"].startswith("swa")
    stick = 0.0 if cable else 3.0
    place = list(CHIPS).index(row["method"]) + 1 if row["method"] in CHIPS else 0
    return Method(
        key=row["method"], name=row["name"], cable=cable,
        raceway=-1 if cable else TRUNKING if row["kind"] == "trunking" else CONDUIT,
        support="armoured" if armoured else "non-armoured" if cable else "pvc-conduit", metal=False, factor_c=None,
        limit_c=None, insulated_c=None, largest="", aluminium=False, solid_to="2.5", outdoors=WHERE[row["outdoors"]],
        buried=WHERE[row["buried"]], hottest_c=None, place_cite=clauses()["place"], ampacity_cite=clauses()["factors"],
        bend_cite=clauses()["bends"], flexible=False, soft=cable and not armoured, hit_cite="", guards_riser=False,
        joint="" if cable else "glued", bends="", grows=False, ground_path=False,
        around="steel" if armoured else "pvc", sun=armoured, screw_proof=False, rusts=False,
        cover_group="", nipple="", family="" if cable else row["kind"], bushed=False, stronger="", alternative="",
        cable_kind=("swa" if armoured else "te") if cable else "", chip=place, compared=place,
        short=CHIPS.get(row["method"], ""), stick_m=stick,
        fastener="cleat" if armoured else "clip" if cable else "saddle",
        bending=Bending({}, {}, (), {}, {}) if cable else _bending(row["kind"]),
    )  # fmt: skip


def _bending(kind: str) -> Bending:
    """Conduit bent at the closest radius allowed, trunking with its own angles; what fittings take is not known."""
    if kind == "trunking":
        flat = dict.fromkeys(trunking_sizes(), (0.0, 0.0))
        return Bending(flat, {}, (), flat, {size: int(size.split("x")[0]) / 1000 for size in flat})
    times = next(float(row["times"]) for row in printed("bend_radii").rows if row["kind"] == "conduit")
    outside = {size: int(size) / 1000 for size in conduit_sizes()}
    radii = {size: (wide * (times + 0.5), wide * (times + 0.5)) for size, wide in outside.items()}
    return Bending(radii, {}, (), dict.fromkeys(outside, (0.0, 0.0)), outside)


_MM2: Final = re.compile(r"(\d+(?:\.\d+)?)\s*(?:mm2|mm²|mm)?", re.ASCII | re.IGNORECASE)


def print_mm2(size: str) -> str:
    """A size with its unit: ``6 mm2`` with a raised two."""
    return f"{size} mm²"


def read_mm2(text: str, known: tuple[str, ...], field: str) -> str:
    """Read a conductor size: ``6``, ``6mm2``, ``1``.

    Raises
    ------
    InputError
        When the book has no such size.
    """
    match = _MM2.fullmatch(text.strip())
    found = next((size for size in known if match and float(size) == float(match[1])), None)
    if found is None:
        raise InputError(field, f"Can't use '{text.strip()[:40]}'.", f"one of {', '.join(known)} mm²")
    return found


def read_bore(text: str, known: tuple[str, ...], field: str) -> str:
    """Read a conduit or trunking size: ``25``, ``25 mm``, ``50x50``.

    Raises
    ------
    InputError
        When it is not sold so.
    """
    plain = re.sub(r"\s*(mm)?$", "", text.strip().lower()).replace(" ", "")
    if plain not in known:
        raise InputError(field, f"Can't use '{text.strip()[:40]}'.", f"one of {', '.join(known)} mm")
    return plain
