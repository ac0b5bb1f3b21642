"""What the two ends of the circuit ask for, and parts in words."""

from __future__ import annotations

import functools
from typing import Final

import numpy as np

from awlmark.core.books.bs7671.printed import printed
from awlmark.core.books.bs7671.sizing.earth_fault import FUSE
from awlmark.core.books.bs7671.sizing.requirements import residual_type
from awlmark.core.books.bs7671.sizing.tell_circuit import device_kind
from awlmark.core.parts.tally import Tally

POLES: Final = {2: "double-pole", 4: "four-pole"}


def count_ends(tally: Tally) -> None:
    """Device with its residual device, and what stands at the far end."""
    case = tally.table.case
    device = case.job.circuit.device or "b"
    ratings = sorted({rating for rating in tally.table.breaker_a.tolist() if rating < float("inf")})
    kind = residual_type(case.job).lower()
    if ratings:
        index = np.searchsorted(ratings, np.minimum(tally.table.breaker_a, ratings[-1]))[tally.table.group]
        keys = tuple(_device_key(case.poles, rating, device, kind) for rating in ratings)
        tally.put("Panel", keys, index, 1.0, "panel")
        if device == FUSE or any(device_kind(rating, device) == "mcb" for rating in ratings):
            tally.add("Panel", f"rccb:{case.poles}:63:{kind}30", "panel")
    unit = {"ev13": "ev13", "ind16": "ind16", "ind32": "ind32"}.get(case.job.charger.connection)
    tally.add("Boxes and outlets", unit or ("charger:22" if case.hots == 3 else "charger:7"), "charger")
    tally.add("Sundries", "labels", "panel")


def _device_key(poles: int, rating: float, device: str, residual: str) -> str:
    sold = device_kind(rating, device)
    if sold == FUSE:
        return f"{FUSE}:{poles}:{rating:g}"
    return f"{sold}:{poles}:{rating:g}:{device.upper()}" + (f":{residual}30" if sold == "rcbo" else "")


ALIKE: Final = {
    "clip:te": "staple:te", "plug and screw": "screw", "warning tape": "warning ribbon",
}  # fmt: skip
"""Keys of the shipped list that the count calls otherwise."""
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
    return ALIKE.get(listed, listed)


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
    return key.replace(":", " ").replace("singles-conduit", "mm conduit")


WORDS: Final = {
    "clamp:te": "cable gland or grommet for twin and earth", "clamp:swa": "SWA gland with banjo, read the gland chart",
    "staple:swa": "cleat for SWA by its diameter", "box:conduit box": "conduit box with lid",
    "ground screw": "earth terminal in the box",
}  # fmt: skip
