"""A second sizing by the British tables, written apart from the program: plain loops over the shipped CSV files."""

from __future__ import annotations

import csv
import math
from pathlib import Path

import awlmark

TABLES = Path(awlmark.__file__).parent / "core" / "books" / "bs7671" / "tables"
SIZES = ("1.5", "2.5", "4", "6", "10", "16", "25", "35", "50")
MCBS = (16, 20, 25, 32, 40, 50, 63, 80, 100, 125)
MOST_A = {"ev13": 10, "ind16": 16, "ind32": 32}
ORDER = ("holds", "note", "tight", "unread", "stop")


def table(name: str) -> list[dict[str, str]]:
    """The rows of one file."""
    lines = [line for line in (TABLES / f"{name}.csv").read_text(encoding="utf-8").splitlines() if line[:1] != "#"]
    return list(csv.DictReader(lines))


ROWS = {path.stem: table(path.stem) for path in TABLES.glob("*.csv")}


def cell(name: str, key: str, value: str, column: str) -> float | None:
    """One cell; None where it is blank or there is no such row."""
    for row in ROWS[name]:
        if row[key] == value:
            return float(row[column]) if row[column] else None
    return None


def beyond(name: str, key: str, value: float, column: str) -> float | None:
    """The cell of the first row at or beyond a value."""
    for row in ROWS[name]:
        if float(row[key]) >= value - 1e-9:
            return float(row[column]) if row[column] else None
    return None


def factors(q: dict, method: dict[str, str], kind: str) -> list[float | None]:
    """Ca, Cg, Ci, Cs, Cc."""
    ground = method["ambient"] == "ground"
    if ground:
        ca = beyond("t4b2_ground_temp", "c", q["ground"], kind)
    elif q["ambient"] is None:
        ca = None if method["reference"] in ("100", "101") else 1.0
    else:
        ca = beyond("t4b1_ambient", "c", q["ambient"], kind)
    spread = q["spread"] or method["group"]
    grouped = [row for name in ("t4c1_grouping", "t4c2_t4c3_buried_groups") for row in ROWS[name]]
    row = next(row for row in grouped if row["key"] == spread)
    text = row.get(f"n{q['circuits']}")
    cg = float(text) if text else None
    ci: float | None = 1.0
    if q["insulated"]:
        ci = None
        if method["reference"] == "C":
            ci = 0.5 if q["insulated"] > 400 else beyond("t52_2_insulation", "length_mm", q["insulated"], "factor")
    cs: float | None = 1.0
    if ground:
        cs = beyond("t4b3_soil", "km_per_w", q["soil"], "in_duct" if "duct" in method["method"] else "direct")
    return [ca, cg, ci, cs, float(method["cc"])]


def made(family: str, size: str) -> bool:
    """Whether a cable is sold so."""
    column = {"te": "te", "sw": "swa", "si": "singles"}[family]
    return any(row["mm2"] == size and row[column] == "yes" for row in ROWS["conductor_sizes"])


def r20(size: str) -> float:
    """Class 2 at 20 C [ohm/km]."""
    return float(next(row["cu_ohm_per_km"] for row in ROWS["iec60228_class2_resistance_20C"] if row["mm2"] == size))


def by_table_54_7(mm2: float) -> float:
    """Least protective conductor."""
    return mm2 if mm2 <= 16 else 16.0 if mm2 <= 35 else mm2 / 2


def grade(found: float, limit: float) -> str:
    """A measure against a most."""
    if found > limit * (1 + 1e-9):
        return "tight"
    return "tight" if (limit - found) / limit < 0.05 - 1e-12 else "holds"


def conduit(cables: list[str], length: float, trade: str | None) -> tuple[str | None, float]:
    """Conduit and percent of its term; straight, a box every ten metres."""
    long = min(length, 10.0)
    short = long <= 3
    total, silent = 0.0, False
    for size in cables:
        strand = ("solid" if float(size) <= 2.5 else "stranded") if short else "either"
        for row in ROWS["conduit_cable_factors"]:
            if (
                row["table"] == ("E1" if short else "E3")
                and float(row["mm2"]) == float(size)
                and row["strand"] == strand
            ):
                total += float(row["factor"])
                break
        else:
            total, silent = (
                total
                + max(
                    float(row["factor"])
                    for row in ROWS["conduit_cable_factors"]
                    if row["table"] == ("E1" if short else "E3")
                ),
                True,
            )
    found: tuple[str | None, float] = (None, math.nan)
    for size in [trade] if trade else ["20", "25", "32"]:
        if short:
            room = next(
                float(r["factor"]) for r in ROWS["conduit_factors"] if (r["table"], r["size_mm"]) == ("E2", size)
            )
        else:
            rows = [
                r for r in ROWS["conduit_factors"]
                if (r["table"], r["size_mm"], r["bends"]) == ("E4", size, "0") and float(r["length_m"]) >= long - 1e-9
            ]  # fmt: skip
            room = float(min(rows, key=lambda r: float(r["length_m"]))["factor"])
        share = 100 * total / room
        if silent and share <= 100:
            share = math.nan
        found = (size if share <= 100 + 1e-7 or trade else None, share)
        if share <= 100 + 1e-7:
            break
    return found


def protective(family: str, size: str) -> str:
    """Protective conductor as made, or by Table 54.7."""
    if family == "te":
        return next(row["cpc_mm2"] for row in ROWS["twin_earth"] if row["mm2"] == size)
    return size if family == "sw" else next(each for each in SIZES if float(each) >= by_table_54_7(float(size)))


def piped(q: dict) -> bool:
    """Whether it runs in conduit."""
    return q["method"] in ("singles-conduit", "singles-wall")


def overfull(q: dict, size: str, lines: int) -> float:
    """How far a size overfills its conduit [percent]."""
    if not piped(q):
        return 0.0
    share = conduit([size] * (lines + 1) + [q["cpc"] or protective("si", size)], q["length"], q["trade"])[1]
    return max(0.0, share - 100) if share == share else 0.001  # what nobody can tell comes after what fits


def second(q: dict) -> dict:
    """Size one question; keys as the command line has them."""
    method = next(row for row in ROWS["wiring_methods"] if row["method"] == q["method"])
    family = q["method"][:2]
    three = q["system"] == "400" and q["connection"] != "ev13"
    warm = q["terminal"] == 90 and method["current_90"] != ""
    kind = "xlpe90" if warm else "pvc70"
    current = method["current_90" if warm else "current_70"]
    column = method["column_3ph" if three else "column_1ph"]
    mv_column = method["drop_3ph" if three else "drop_1ph"].split("|")
    mv_table = method["drop_90" if warm else "drop_70"]
    mv_name = mv_column[-1] if warm else mv_column[0]
    need = 13 if q["connection"] == "ev13" else q["charge"]
    breaker = q["breaker"] or next((rating for rating in MCBS if rating >= max(16, need)), math.inf)
    out: dict = {"breaker": breaker, "severity": {}}
    says = out["severity"]
    says["breaker"] = "holds" if breaker >= need and breaker < math.inf else "stop"
    told = factors(q, method, kind)
    known = math.prod(value for value in told if value is not None)
    missing = None in told
    lines, volts = (3, 400) if three else (1, 230)
    supply = next(row for row in ROWS["drop_limits"] if row["supply"] == q["supply"])
    limit = float(supply["other_percent"]) + min(0.5, max(0.0, q["length"] - 100) * 0.005)
    limit = q["max_drop"] or limit
    sizes = [size for size in SIZES if made(family, size)]

    def it(size: str) -> float:
        return (cell(current, "mm2", size, column) or 0.0) if column else 0.0

    def drop(size: str) -> float:
        mv = cell(mv_table, "mm2", size, mv_name) if mv_name else None
        return math.nan if mv is None else mv * q["charge"] * q["length"] / 1000

    enough = [size for size in sizes if it(size) * known >= breaker - 1e-9]
    if q["size"]:
        size = q["size"]
    elif enough:
        within = [size for size in enough if 100 * drop(size) / volts <= limit * (1 + 1e-9)]
        # Where none is within the limit: what fits the conduit and loses least.
        size = (
            within[0] if within else min(enough, key=lambda each: (overfull(q, each, lines), drop(each), float(each)))
        )
    else:
        return {**out, "none": True}
    iz = it(size) * known
    out |= {"size": size, "iz": None if missing else iz, "it": it(size)}
    says["conductor"] = "unread" if missing else "holds" if iz >= breaker - 1e-9 else "stop"
    out["volts"], out["percent"], out["limit"] = drop(size), 100 * drop(size) / volts, limit
    says["drop"] = grade(out["percent"], limit)
    cpc = q["cpc"] or protective(family, size)
    out["cpc"] = cpc
    system = "tt" if q["pen"] == "island" else q["earthing"]
    ze = q["ra"] if system == "tt" else q["ze"] or {"tn-c-s": 0.35, "tn-s": 0.80}[system]
    r1r2 = (r20(size) + r20(cpc)) * q["length"] / 1000
    zs = ze + r1r2 * (1.28 if warm else 1.20)
    out |= {"r1r2_20": r1r2, "zs": zs}
    socket = q["connection"] != "tethered"
    quick = breaker <= (63 if socket else 32)
    seconds = (0.2 if quick else 1) if system == "tt" else (0.4 if quick else 5)
    out["seconds"] = seconds
    device = q["device"] or "b"
    if system == "tt":
        most: float | None = 1667.0
        volts_ra = ze * 0.03
        says["electrode"] = "stop" if volts_ra > 50 + 1e-7 else grade(ze, 200)
    else:
        if device == "bs88-2":
            rows = [*ROWS["fuse_zs"], *ROWS["fuse_zs_two_readers"]]
            most = next(
                (float(r["zs_ohm"]) for r in rows if r["standard"] == device and float(r["rating_a"]) == breaker
                 and float(r["disconnection_s"]) == seconds and r["zs_ohm"]), None)  # fmt: skip
        else:
            rows = ROWS["max_zs_41_3_d" if device == "d" else "max_zs_41_3"]
            most = next(
                (float(r["zs_ohm"]) for r in rows if r["type"].lower() == device and float(r["rating_a"]) == breaker),
                None,
            )
        says["zs"] = "unread" if most is None else grade(zs, most)
    out["zs_limit"] = most
    opens = seconds if device == "bs88-2" else 0.1
    if system == "tt" or most is None or zs > most + 1e-9:
        opens = 0.3
    heat = 230 / zs * math.sqrt(opens) / (143 if family == "sw" else 115)
    out["heat"] = heat
    says["cpc"] = "holds" if float(cpc) >= min(heat, by_table_54_7(float(size))) - 1e-9 else "unread"
    if piped(q):
        trade, share = conduit([size] * (lines + 1) + [cpc], q["length"], q["trade"])
        out["trade"], out["share"] = trade, share
        says["fill:1"] = (
            "unread"
            if math.isnan(share)
            else "stop"
            if share > 100 + 1e-7
            else "tight"
            if share > 95 + 1e-7
            else "holds"
        )
    if q["connection"] in MOST_A:
        rated = 32 if q["connection"] == "ev13" else MOST_A[q["connection"]]
        says["socket"] = "stop" if q["charge"] > MOST_A[q["connection"]] or breaker > rated else "holds"
    if q["earthing"] == "tn-c-s":
        pen = q["pen"] or ("v" if three else "iv")
        bad = pen == "none" or (pen == "iv" and three) or (pen == "i" and not three)
        says["pme"] = "stop" if bad else "holds"
        if pen == "ii":
            most_ra = 70 * 230 / (q["charge"] * (253 - 70))
            says["pme"] = "unread" if q["ra"] is None else "holds" if q["ra"] <= most_ra else "stop"
    out["verdict"] = max(says.values(), key=ORDER.index)
    return out
