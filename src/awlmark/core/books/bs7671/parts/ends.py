"""What the two ends of the circuit ask for, and parts in words."""

from __future__ import annotations

import functools
from typing import Final

import numpy as np

from awlmark.core.arrays import Ints
from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.earth_fault import FUSE
from awlmark.core.books.bs7671.sizing.requirements import residual_type
from awlmark.core.books.bs7671.sizing.tell_circuit import device_kind
from awlmark.core.job.by_length import bought
from awlmark.core.job.model import Job
from awlmark.core.parts.tally import Tally
from awlmark.core.run.line import Line

POLES: Final = {2: "double-pole", 4: "four-pole"}


def count_ends(tally: Tally) -> None:
    """Device with its residual device, and what stands at the far end."""
    case = tally.table.case
    device = case.job.circuit.device or "b"
    ratings = sorted({rating for rating in tally.table.breaker_a.tolist() if rating < float("inf")})
    kind = residual_type(case.job).lower()
    if ratings:
        index = np.searchsorted(ratings, np.minimum(tally.table.breaker_a, ratings[-1]))[tally.table.group]
        apart = case.job.circuit.residual_apart
        keys = tuple(_device_key(case.poles, rating, device, kind, apart=apart) for rating in ratings)
        tally.put("Panel", keys, index, 1.0, "panel")
        if apart or device == FUSE or any(device_kind(rating, device) == "mcb" for rating in ratings):
            tally.add("Panel", f"rccb:{case.poles}:63:{kind}30", "panel")
    _supply(tally)
    _point(tally)
    tally.add("Sundries", "labels", "panel")


def _supply(tally: Tally) -> None:
    """What a board without room, or a supply that is held to a limit, asks for."""
    case = tally.table.case
    job = case.job
    if job.demand.managed:
        tally.add("Boxes and outlets", "clamp sensor", "panel")
        long_m = case.line.length_m + job.makeup.panel_tail_m + job.makeup.unit_tail_m
        tally.add("Wire", "cable:data:cu:0.5:4", "panel", bought(long_m, job.units), job.units)
    if job.charger.pen == "island":
        tally.add("Panel", "electrode", "charger")


def _point(tally: Tally) -> None:
    """The unit or outlet with what parts it and what it stands on."""
    case = tally.table.case
    job, line = case.job, case.line
    outlet = job.charger.connection if job.charger.connection in OUTLETS else ""
    tally.add("Boxes and outlets", outlet or ("charger:22" if case.hots == 3 else "charger:7"), "charger")
    if job.charger.pen == "v":
        tally.add("Boxes and outlets", "pen device", "charger")
    if job.charger.disconnect or (job.charger.disconnect is None and not outlet and out_of_sight(line)):
        tally.put("Boxes and outlets", *_isolator(tally), 1.0, "charger")
    if on_post(job, line):
        tally.add("Fixings", "post", "charger")


def _isolator(tally: Tally) -> tuple[tuple[str, ...], Ints]:
    """Rotary isolators by the rating of each row's device."""
    ratings = sorted({rating for rating in tally.table.breaker_a.tolist() if rating < float("inf")}) or [0.0]
    index = np.searchsorted(ratings, np.minimum(tally.table.breaker_a, ratings[-1]))[tally.table.group]
    made = [next((a for a in ISOLATORS_A if a >= rating), rating) for rating in ratings]
    distinct = tuple(dict.fromkeys(made))
    which = np.array([distinct.index(a) for a in made])
    return tuple(f"rotary isolator:{a:g}" for a in distinct), which[index]


def out_of_sight(line: Line) -> bool:
    """Whether a wall, a floor or the ground lies between the board and the point; an isolator beside it is practice."""
    return any(walked.crosses or walked.leg.direction == "trench" for walked in line.legs)


def on_post(job: Job, line: Line) -> bool:
    """Whether the point stands on a post: told so, or its line comes straight out of the ground and no spot is told."""
    pin = next((pin for pin in job.site.pins if pin.id == job.site.pin), None)
    if pin is not None and pin.fixing is not None:
        return pin.fixing == "post"
    if not line.legs or not line.closed:
        return False
    last, before = line.legs[-1], line.legs[-2:-1]
    rises = last.heading[2] > 0 and any(walked.leg.direction == "trench" for walked in before)
    return last.leg.end == "post" or rises


def _device_key(poles: int, rating: float, device: str, residual: str, *, apart: bool) -> str:
    sold = device_kind(rating, device)
    sold = "mcb" if apart and sold == "rcbo" else sold
    if sold == FUSE:
        return f"{FUSE}:{poles}:{rating:g}"
    return f"{sold}:{poles}:{rating:g}:{device.upper()}" + (f":{residual}30" if sold == "rcbo" else "")


OUTLETS: Final = ("ev13", "ind16", "ind32")
ISOLATORS_A: Final = (40.0, 63.0, 100.0)
"""Rotary isolators that are made [A]; common practice."""
OF_CONDUIT: Final = {
    "stick": "stick", "saddle": "strap", "adaptor": "adapter and locknut", "coupling": "coupling", "elbow": "elbow",
}  # fmt: skip


def counted_key(listed: str) -> str:
    """Key of the count for a key of the shipped list: a cable by its live cores, conduit by its method."""
    kind, *rest = listed.split(":")
    if kind == "cable" and rest[0] == "swa":
        return ":".join(("cable", *rest[:-1], f"{int(rest[-1]) - 1}"))
    if kind in OF_CONDUIT and rest and rest[0] == "pvc-conduit":
        return f"{OF_CONDUIT[kind]}:singles-conduit:{rest[1]}"
    return listed


@functools.cache
def _listed() -> dict[str, dict[str, str]]:
    return {counted_key(row["key"]): row for row in printed("usual_parts").rows}


def usual_prices() -> dict[str, str]:
    """Invented prices by key of the count [pounds without VAT]."""
    return {key: row["each_gbp"] for key, row in _listed().items() if row["each_gbp"]}


def part_name(key: str) -> str:
    """A price key in words: the shipped list's, else made from the key."""
    listed = _listed().get(key)
    if listed is not None:
        return listed["name"]
    kind, *rest = key.split(":")
    if kind in ("rcbo", "mcb") and len(rest) >= 3:
        told = f"{rest[1]} A {POLES.get(int(rest[0]), 'single-pole')} {kind.upper()} type {rest[2]}"
        return told + (f", {rest[3][1:]} mA type {rest[3][0].upper()}" if len(rest) > 3 else "")
    if kind == "rccb":
        return f"{rest[1]} A {POLES.get(int(rest[0]), 'double-pole')} RCCB, {rest[2][1:]} mA type {rest[2][0].upper()}"
    if kind == "cable" and len(rest) == 4:
        made, _metal, size, live = rest
        return f"{size} mm2 {f'{int(live) + 1}-core SWA' if made == 'swa' else 'twin and earth'}"
    if key in WORDS:
        return WORDS[key]
    if len(rest) == 2 and rest[0] in LED:
        name = f"{LED[rest[0]]} {FITTINGS.get(kind, kind)}"
        return f"{name}, size not read" if rest[1] == "?" else f"{rest[1]} mm {name}"
    return key.replace(":", " ")


LED: Final = {"singles-conduit": "conduit", "singles-wall": "conduit", "singles-trunking": "trunking"}
FITTINGS: Final = {
    "stick": "length", "coupling": "coupler", "elbow": "bend", "adapter and locknut": "adaptor", "strap": "saddle",
}  # fmt: skip
"""What is led in, and what holds it together, where the list does not name it."""
WORDS: Final = {
    "gland:bw:?": "SWA gland, indoor: read the gland chart", "gland:cw:?": "SWA gland, outdoor: read the gland chart",
    "cleat:?": "cleat for SWA: read its diameter", "box:conduit box": "conduit box with lid",
    "ground screw": "earth terminal in the box",
}  # fmt: skip
"""Keys of the count that the shipped list does not have."""

AISLES: Final = (
    "Cable", "Conduit", "Glands", "Fixings", "Consumer unit", "Supply", "Charging", "Sundries",
)  # fmt: skip
COUNTED_IN: Final = {
    "Wire": "Cable", "Raceway": "Conduit", "Fittings": "Conduit", "Boxes and outlets": "Charging",
    "Panel": "Consumer unit", "Fixings": "Fixings", "Sundries": "Sundries",
}  # fmt: skip
"""Aisle of what the shipped list does not have, by the count's own name for it."""
GLANDS: Final = ("gland", "earth nut", "grommet")
IN_BOX: Final = ("box", "ground screw", "wire connector")


def aisle_of(counted: str, key: str) -> str:
    """Aisle of a price key: as the shipped list has it, else by the count's own name for it."""
    listed = _listed().get(key)
    if listed is not None:
        return listed["aisle"]
    kind = key.partition(":")[0]
    return "Glands" if kind in GLANDS else "Conduit" if kind in IN_BOX else COUNTED_IN[counted]


LABOUR: Final = {
    "clip": ("clip",), "cleat": ("cleat",), "gland": ("gland",), "cable:te": ("cable:te",), "cable:swa": ("cable:swa",),
    "wire": ("wire",), "stick": ("stick",), "rcbo": ("rcbo", "mcb", "rccb", FUSE), "cu": ("cu",),
    "charger": ("charger", "ev13", "ind16", "ind32"), "pen device": ("pen device",),
    "isolator": ("isolator", "rotary isolator"), "connector block": ("connector block",), "electrode": ("electrode",),
    "bond clamp": ("bond clamp",), "clamp sensor": ("clamp sensor",), "passage": ("wall sleeve",),
    "trench m": ("warning tape",),
}  # fmt: skip
"""Parts whose fitting each line of the shipped hours covers: a metre of trench is a metre of its tape."""


@functools.cache
def usual_hours() -> dict[str, float]:
    """Hours of one trained person by kind of part; of what is sold by length for a metre."""
    shipped = {row["kind"]: float(row["hours"]) for row in printed("labour").rows}
    return {kind: shipped[line] for line, kinds in LABOUR.items() for kind in kinds}
