"""Random British circuits, asked of the program and of the second sizing."""

from __future__ import annotations

import argparse
import math
import random

from awlmark.core.report import circuit_values
from awlmark.core.solve.design import solve
from awlmark.quote import COMMON, OF_BOOK, size_job
from tests.outside.second_bs import ROWS, SIZES, second

METHODS = tuple(row["method"] for row in ROWS["wiring_methods"])
BURIED = {
    "swa-duct": ("duct-touching", "duct-250", "bunched"),
    "swa-direct": ("direct-touching", "direct-250", "bunched"),
}
NEAR = 0.0006


def question(chance: random.Random) -> dict:
    """A question as an installer might ask it, and some that nobody would."""
    pick = chance.choice
    connection = pick(("tethered", "tethered", "type2", "ev13", "ind16", "ind32"))
    method = pick(METHODS)
    three = pick((False, False, True)) and not method.startswith("te")
    charge = pick({"ev13": (10, 13, 8), "ind16": (16, 10, 20), "ind32": (32, 20, 40)}.get(connection, (
        10, 13, 16, 20, 25, 32, 32, 32, 40, 63)))  # fmt: skip
    earthing = pick(("tn-c-s", "tn-c-s", "tn-s", "tt"))
    size = pick((None, None, None, "2.5", "4", "6", "10", "16"))
    return {
        "charge": charge,
        "length": round(chance.choice((chance.uniform(0.5, 12), chance.uniform(1, 60), chance.uniform(5, 240))), 2),
        "system": "400" if three else "230",
        "connection": connection,
        "method": method,
        "device": pick((None, None, "b", "c", "d", "bs88-2")),
        "breaker": pick((None, None, None, 16, 20, 25, 32, 40, 50, 63)),
        "earthing": earthing,
        "ze": pick((None, 0.12, 0.2, 0.35, 0.6, 0.8)),
        "ra": round(chance.uniform(1, 400), 1) if earthing == "tt" or chance.random() < 0.2 else None,
        "pen": pick((None, None, "i", "ii", "iii", "iv", "v", "indoors", "none")) if earthing == "tn-c-s" else None,
        "ambient": pick((None, None, 18, 25, 30, 32, 35, 41, 45, 50)),
        "ground": pick((20, 20, 8, 12, 15, 22, 25, 33)),
        "soil": pick((2.5, 2.5, 0.5, 0.9, 1.2, 2.2, 2.8, 3.0)),
        "circuits": pick((1, 1, 1, 2, 3, 4, 6)),
        "spread": pick((None, *BURIED.get(method, ("bunched", "wall", "tray", "ladder")))),
        "insulated": pick((0, 0, 0, 40, 50, 75, 150, 200, 300, 400, 450, 900)) if method.endswith("clipped") else 0,
        "terminal": pick((70, 70, 90)),
        "size": size,
        "cpc": pick((None, *SIZES[:5])) if size and method.startswith("singles") else None,
        "trade": pick((None, None, "20", "25", "32")) if method in ("singles-conduit", "singles-wall") else None,
        "max_drop": pick((None, None, None, 3.0, 4.0)),
        "supply": pick(("public", "public", "private")),
    }  # fmt: skip


def asked(q: dict) -> argparse.Namespace:
    """The same in words of the command line."""
    options = dict.fromkeys([name.replace("-", "_") for name in (*COMMON, *OF_BOOK)])
    told = {
        "code": "bs7671-2018a2", "charge_a": q["charge"], "length": f"{q['length']}m", "system": q["system"],
        "connection": q["connection"], "method": q["method"], "device": q["device"], "breaker": q["breaker"],
        "earthing": q["earthing"], "ze": q["ze"], "ra": q["ra"], "pen": q["pen"],
        "ambient": None if q["ambient"] is None else f"{q['ambient']}C", "ground_temp": f"{q['ground']}C",
        "soil": q["soil"], "circuits": q["circuits"], "spread": q["spread"], "insulated": f"{q['insulated']}mm",
        "terminal": q["terminal"], "size": q["size"], "ground_size": q["cpc"], "trade_size": q["trade"],
        "max_drop": q["max_drop"], "supply": q["supply"],
    }  # fmt: skip
    options |= {name: None if value is None else f"{value}" for name, value in told.items()}
    return argparse.Namespace(**options)


def differences(q: dict) -> list[str]:
    """Where the two differ."""
    told, mine = circuit_values(solve(size_job(asked(q)))), second(q)
    if mine.get("none"):
        says = {finding["id"]: finding["severity"] for finding in told["findings"]}
        return [] if says["conductor"] in ("stop", "unread") else ["none is enough"]
    earth, raceway = told["earth"], told["raceway"] or {}
    pairs = {
        "breaker": (told["breaker"]["rating_a"], mine["breaker"]), "size": (told["conductor"]["size"], mine["size"]),
        "iz": (told["ampacity_a"], mine["iz"]), "it": (told["tabulated_a"], mine["it"]),
        "volts": (told["drop"]["volts"], mine["volts"]), "percent": (told["drop"]["percent"], mine["percent"]),
        "limit": (told["drop"]["limit_percent"], mine["limit"]), "cpc": (told["ground"]["size"], mine["cpc"]),
        "r1r2": (earth["r1r2_20_ohm"], mine["r1r2_20"]), "zs": (earth["zs_ohm"], mine["zs"]),
        "zs limit": (earth["limit_ohm"], mine["zs_limit"]), "time": (earth["time_s"], mine["seconds"]),
        "heat": (earth["adiabatic_mm2"], mine["heat"]), "trade": (raceway.get("trade_size"), mine.get("trade")),
        "verdict": (told["verdict"], mine["verdict"]),
    }  # fmt: skip
    if "share" in mine and not math.isnan(mine["share"]) and mine["trade"]:
        pairs["share"] = (raceway.get("fill_percent"), mine["share"])
    says = {finding["id"]: finding["severity"] for finding in told["findings"]}
    pairs |= {f"says {name}": (says.get(name), value) for name, value in mine["severity"].items()}
    return [f"{name}: {one} and {other}" for name, (one, other) in pairs.items() if not _same(name, one, other)]


def _same(name: str, one: object, other: object) -> bool:
    if isinstance(one, float | int) and isinstance(other, float | int):
        return abs(one - other) <= (0.0051 if name in ("iz", "share") else NEAR)
    return one == other


def campaign(many: int, seed: int) -> list[tuple[dict, list[str]]]:
    """Questions on which the two differ, each with the differences."""
    chance = random.Random(seed)
    asked_for = (question(chance) for _ in range(many))
    return [(q, found) for q in asked_for if (found := differences(q))]
