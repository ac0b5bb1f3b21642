"""What is typed of earthing, residual devices, a lost PEN, and what a cable meets on its way, where the book asks."""

from __future__ import annotations

import re
from typing import Any

from awlmark.core.books import open_book
from awlmark.core.entry.circuit import standard_a
from awlmark.core.entry.general import leg_in_hand
from awlmark.core.entry.word import Told, Typed
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import DEVICES, PEN_ANSWERS, RESIDUAL_TYPES
from awlmark.core.job.supply import BONDED, EARTHINGS, HOUSEHOLD, REGIONS, Demand
from awlmark.core.quantities import read_length, read_number, read_temperature

SYSTEMS = {"pme": "tn-c-s", **{name: name for name in EARTHINGS}}
OPEN = "open"


def _said(typed: Typed) -> str:
    return " ".join(typed.words[1:])


def _one_of(field: str, text: str, known: tuple[str, ...]) -> str | None:
    if text == OPEN:
        return None
    if text not in known:
        raise InputError(field, f"Can't use '{text[:40]}'.", ", ".join((*known, OPEN)))
    return text


def earthing_words(typed: Typed) -> Told:
    """``pme``, ``tn-s``, ``earthing tt``: how the supply is earthed."""
    words = typed.words[1:] if typed.words[0] == "earthing" else typed.words
    found = _one_of("earthing", " ".join(words), tuple(SYSTEMS))
    return f"earthing {found or OPEN}", (Put("supply.earthing", SYSTEMS[found] if found else None),)


def _number(typed: Typed, field: str, path: str, low: float, high: float, unit: str, times: float = 1.0) -> Told:
    text = _said(typed)
    value = None if text == OPEN else times * read_number(text, field, low, high, unit)
    return f"{field} {text}", (Put(path, value),)


def ze_words(typed: Typed) -> Told:
    """``ze 0.35``: loop outside the installation [ohm]."""
    return _number(typed, "ze", "supply.ze_ohm", 0.001, 5000, "ohm")


def ra_words(typed: Typed) -> Told:
    """``ra 90``: the electrode [ohm]."""
    return _number(typed, "ra", "supply.ra_ohm", 0.1, 5000, "ohm")


def pfc_words(typed: Typed) -> Told:
    """``pfc 1.8``, ``pfc 723a``: prospective fault current, in kA where nothing else is said."""
    text = "".join(typed.words[1:])
    if text.endswith("a") and not text.endswith("ka"):
        amps = read_number(text.removesuffix("a"), "pfc", 50, 100_000)
        return f"pfc {amps:g} A", (Put("supply.fault_a", amps),)
    return _number(typed, "pfc", "supply.fault_a", 0.05, 100, "ka", 1000.0)


def private_words(typed: Typed) -> Told:
    """``private supply``, ``private no``."""
    text = _said(typed)
    if text not in ("supply", "yes", "no"):
        raise InputError("private", f"Can't use '{text[:40]}'.", "supply or no")
    return f"{'public' if text == 'no' else 'private'} supply", (Put("supply.private", text != "no"),)


def pen_words(typed: Typed) -> Told:
    """``pen iv``: the answer to a lost PEN."""
    found = _one_of("pen", _said(typed), PEN_ANSWERS)
    return f"lost PEN: {found or OPEN}", (Put("charger.pen", found),)


def device_words(typed: Typed) -> Told:
    """``device c``, ``device c40``: kind of the device, and its rating."""
    text = _said(typed)
    told = re.fullmatch(r"(b|c|d|bs88-2)\s*(\d+)?\s*a?", text)
    if told is None:
        found = _one_of("device", text, DEVICES)
        return f"device {found or OPEN}", (Put("circuit.device", found),)
    edits = [Put("circuit.device", told[1])]
    if told[2]:
        edits.append(Put("circuit.breaker_a", standard_a(told[2], open_book(typed.job.code))))
    return f"device {text}", tuple(edits)


def rcd_words(typed: Typed) -> Told:
    """``rcd b``: type of the residual device that is there."""
    found = _one_of("rcd", _said(typed).removeprefix("type "), RESIDUAL_TYPES)
    return f"residual device {found or OPEN}", (Put("circuit.residual", found),)


def dc_words(typed: Typed) -> Told:
    """``dc in unit``, ``dc no``: whether the unit detects smooth direct current."""
    known: dict[str, Any] = {"in unit": True, "yes": True, "no": False, OPEN: None}
    text = _said(typed)
    if text not in known:
        raise InputError("dc", f"Can't use '{text[:40]}'.", ", ".join(known))
    return f"6 mA d.c. {text}", (Put("charger.dc_6ma", known[text]),)


def _of_leg(typed: Typed, field: str, name: str, value: Any) -> Told:
    leg = leg_in_hand(typed.job, typed.spot, field)
    return f"leg {typed.job.legs.index(leg) + 1}, {field} {_said(typed)}", (Put(f"legs[{leg.id}].{name}", value),)


def surrounded_words(typed: Typed) -> Told:
    """``insulated 200mm``, ``insulated no``: length in insulation."""
    text = _said(typed)
    value = None if text == OPEN else 0.0 if text in ("none", "no") else read_length(text, "insulated", "m", zero=True)
    return _of_leg(typed, "insulated", "insulated_m", value)


def spread_words(typed: Typed) -> Told:
    """``spread wall``: how the circuits lie together."""
    text = _said(typed)
    return _of_leg(typed, "spread", "spread", "" if text == OPEN else text)


def soil_words(typed: Typed) -> Told:
    """``soil 1.5`` [K m/W]."""
    text = _said(typed)
    return _of_leg(typed, "soil", "soil", None if text == OPEN else read_number(text, "soil", 0.2, 10, "K m/W"))


def earthtemp_words(typed: Typed) -> Told:
    """``ground 15C``: the ground round a leg; ``ground 6`` is asked for by its own word."""
    text = _said(typed)
    if re.fullmatch(r"[\d.]+(?:\s*mm2?)?", text):
        raise InputError("ground", f"Is '{text}' a temperature?", f"ground {text}C; the protective conductor is cpc 4")
    value = None if text == OPEN else read_temperature(text, "ground")
    return _of_leg(typed, "ground", "ground_c", value)


def cutout_words(typed: Typed) -> Told:
    """``cut-out 80``: the distributor's fuse [A]."""
    return _number(typed, "cut-out", "supply.cutout_a", 5, 800, "a")


def tails_words(typed: Typed) -> Told:
    """``tails 25`` [mm2]."""
    return _number(typed, "tails", "supply.tails_mm2", 1, 300, "mm2")


def met_words(typed: Typed) -> Told:
    """``met 16``: main earthing conductor [mm2]."""
    return _number(typed, "met", "supply.earth_mm2", 1, 300, "mm2")


def looped_words(typed: Typed) -> Told:
    """``looped no``: whether the service feeds a neighbour too."""
    found = _one_of("looped", _said(typed), ("yes", "no"))
    return f"looped {found or OPEN}", (Put("supply.looped", None if found is None else found == "yes"),)


def bond_words(typed: Typed) -> Told:
    """``bond water yes``, ``bond gas none``, ``bond size 10``."""
    words = typed.words[1:]
    if len(words) != 2 or words[0] not in ("water", "gas", "oil", "steel", "size"):
        raise InputError("bond", f"Can't read '{_said(typed)[:40]}'.", "such as bond water yes, bond size 10")
    if words[0] == "size":
        value = None if words[1] == OPEN else read_number(words[1], "bonding conductor", 1, 300, "mm2")
        return f"bonding {words[1]} mm²", (Put("supply.bonding.mm2", value),)
    found = _one_of(f"bond {words[0]}", words[1], BONDED)
    return f"bond {words[0]} {found or OPEN}", (Put(f"supply.bonding.{words[0]}", found),)


def limit_words(typed: Typed) -> Told:
    """``limit 60``: load curtailment [A]."""
    text = _said(typed)
    value = None if text == OPEN else read_number(text, "limit", 6, 800, "a")
    return f"limit {text}", (Put("demand.managed", value is not None), Put("demand.set_point_a", value))


def diversity_words(typed: Typed) -> Told:
    """``diversity lathe 40%``: share of a load, by its name; ``diversity household`` by the table, ``none`` whole."""
    if typed.words[1:] in ([HOUSEHOLD], ["none"]):
        method = HOUSEHOLD if typed.words[1] == HOUSEHOLD else Demand().method
        return f"diversity: {typed.words[1]}", (Put("demand.method", method),)
    *words, share = typed.words[1:]
    name = " ".join(words)
    load = next((each for each in typed.job.loads if each.name.lower() == name), None)
    if load is None:
        raise InputError(
            "diversity", f"There is no load '{name[:40]}'.", ", ".join(one.name for one in typed.job.loads)
        )
    value = None if share == OPEN else read_number(share, "diversity", 0, 100, "%")
    return f"{load.name}, diversity {share}", (Put(f"loads[{load.id}].share_percent", value),)


def zone_words(typed: Typed) -> Told:
    """``zone yes``: cable in a wall where people expect it."""
    found = _one_of("zone", _said(typed), ("yes", "no"))
    return _of_leg(typed, "zone", "zone", None if found is None else found == "yes")


def share_words(typed: Typed) -> Told:
    """``share 40%``: what of the last load counts with the rest."""
    if not typed.job.loads:
        raise InputError("share", "There is no load yet.", "a load first, such as load lathe 3kw motor")
    load, text = typed.job.loads[-1], _said(typed)
    value = None if text == OPEN else read_number(text, "share", 0, 100, "%")
    return f"{load.name}, share {text}", (Put(f"loads[{load.id}].share_percent", value),)


def main_words(typed: Typed) -> Told:
    """``main 100``: rating of the main switch [A]."""
    return _number(typed, "main switch", "supply.service_a", 15, 800, "a")


def region_words(typed: Typed) -> Told:
    """``region scotland``: whose building rules and notification go."""
    found = _one_of("region", _said(typed), REGIONS)
    return f"region {found or OPEN}", (Put("supply.region", found),)


def kind_words(typed: Typed) -> Told:
    """``rcbo``, ``mcb``: one device, or a breaker with a residual device before it."""
    if len(typed.words) > 1:
        raise InputError(typed.words[0], f"Can't read '{_said(typed)[:40]}'.", "rcbo or mcb alone; its rating is b32")
    return f"device: {typed.words[0]}", (Put("circuit.residual_apart", typed.words[0] == "mcb"),)


def smart_words(typed: Typed) -> Told:
    """``smart waived``: the owner lets charging begin at every hour; ``smart default`` takes that back."""
    found = _one_of("smart", _said(typed), ("waived", "default"))
    return f"smart charging {found}", (Put("need.quiet_waived", found == "waived"),)


def island_words(typed: Typed) -> Told:
    """``island clear``: nothing earthed by the supply is near an island's own earth; ``island near``."""
    found = _one_of("island", _said(typed), ("clear", "near"))
    return f"island {found or OPEN}", (Put("charger.island_clear", None if found is None else found == "clear"),)


def own_words(typed: Typed) -> Told:
    """``own yes``, ``own ring``: whether the circuit that is there feeds the point alone."""
    found = _one_of("own", _said(typed), ("yes", "no", "ring"))
    return f"own circuit {found or OPEN}", (Put("circuit.own", None if found is None else found == "yes"),)


def pool_words(typed: Typed) -> Told:
    """``pool no``: whether the point stands within the zones of a bath, shower or pool."""
    found = _one_of("pool", _said(typed), ("yes", "no"))
    return f"zone of a bath or pool {found or OPEN}", (
        Put("charger.water_zone", None if found is None else found == "yes"),
    )


def extension_words(typed: Typed) -> Told:
    """``extension no``: whether a car hangs on an extension lead."""
    found = _one_of("extension", _said(typed), ("yes", "no"))
    return f"extension lead {found or OPEN}", (Put("charger.extension", None if found is None else found == "yes"),)
