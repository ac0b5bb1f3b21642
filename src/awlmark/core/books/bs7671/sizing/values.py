"""What the command line tells of a circuit by this book, beyond the common keys or in their place."""

from __future__ import annotations

import math
from typing import Any

from awlmark.core.books.bs7671.edition import TRUNKING, bs
from awlmark.core.books.bs7671.sizing.earth_fault import COLD, RESIDUAL_MA, worst_section
from awlmark.core.books.bs7671.sizing.factors import NAMES, insulation_of
from awlmark.core.books.bs7671.sizing.opening import MODE_3
from awlmark.core.books.bs7671.sizing.requirements import wanted_type
from awlmark.core.books.bs7671.sizing.tell_circuit import device_kind
from awlmark.core.books.bs7671.sizing.work import worked
from awlmark.core.circuit.case import drop_limit
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.solve.design import Design


def _r(value: float, places: int = 4) -> float | None:
    return round(float(value), places) if math.isfinite(value) else None


def more_values(design: Design, values: dict[str, Any]) -> dict[str, Any]:
    """Keys of this book: device and residual device, cores, factors, limits, earth fault."""
    if design.evaluated is None or design.circuit is None or design.case is None:
        return {}
    t = Teller(design.evaluated, design.row)
    case, circuit, work, fault = design.case, design.circuit, worked(t), worked(t).fault
    device = case.job.circuit.device or "b"
    ways = bs(design.book).ways
    kinds = {ways[section.method.key].cpc for section in case.sections}
    armoured = any(section.method.key.startswith("swa") for section in case.sections)
    flat = any(section.method.key.startswith("te") for section in case.sections)
    cores = None if kinds == {"wire"} else 2 if flat else case.hots + 2 if armoured else None
    insulation = insulation_of(case, circuit.terminal_c)
    wire = {"size": circuit.size, "material": circuit.material, "insulation": insulation}
    mode_3 = case.job.charger.connection in MODE_3
    residual = {"ma": RESIDUAL_MA, "type": wanted_type(t), "dc_6ma": mode_3 and wanted_type(t) != "B"}
    found: dict[str, Any] = {
        "breaker": {
            "rating_a": _r(circuit.breaker_a), "poles": case.poles, "device": device_kind(circuit.breaker_a, device),
            "curve": device.upper() if len(device) == 1 else None, "rcd": residual, "gfci": False,
        },
        "conductor": {**wire, "count": case.hots, "cores": cores},
        "neutral": {**wire, "count": 1},
        "ground": {**values["ground"], "as": "wire" if kinds == {"wire"} else "core"},
        "drop": {**values["drop"], "limit_percent": _r(drop_limit(case), 3)},
    }  # fmt: skip
    found["tabulated_a"], found["factors"] = None, dict.fromkeys(NAMES)
    if work.carried.factors:
        at = work.carried.governing(t.hot)
        found["tabulated_a"] = _r(work.carried.tabulated_a[at, t.hot])
        found["factors"] = {name: _r(getattr(work.carried.factors[at], name)) for name in NAMES}
        limit = float(fault.limit_ohm[t.row])
        found["earth"] = {
            "system": fault.system, "ze_ohm": _r(fault.ze_ohm), "r1r2_20_ohm": _r(fault.r1r2_20_ohm[t.row], 6),
            "r1r2_ohm": _r(fault.r1r2_ohm[t.row], 6), "zs_ohm": _r(fault.zs_ohm[t.row]), "limit_ohm": _r(limit),
            "measured_limit_ohm": _r(COLD * limit), "time_s": _r(fault.most_s[t.row]),
            "adiabatic_mm2": _r(fault.adiabatic_mm2[t.row, int(worst_section(fault)[t.row])]),
        }  # fmt: skip
    if all(section.method.cable or (section.method.raceway == TRUNKING and not section.trade_size)
           for section in case.sections):  # fmt: skip
        found["raceway"] = None
    return found


def more_rows(design: Design) -> list[tuple[str, str]]:
    """The same in text."""
    told = more_values(design, {"ground": {}, "drop": {}})
    if not told or "earth" not in told:
        return []
    earth, factors = told["earth"], told["factors"]
    cut = " ".join(f"{name.title()} {'unread' if value is None else f'{value:.2f}'}" for name, value in factors.items())
    rows = [("Factors", f"It {told['tabulated_a'] or 0:g} A; {cut}")]
    if earth["zs_ohm"] is not None:
        limit = "no table" if earth["limit_ohm"] is None else f"to {earth['limit_ohm']:g} ohm"
        rows.append(
            ("Earth", f"{(earth['system'] or '').upper()}, Zs {earth['zs_ohm']:.3f} {limit} in {earth['time_s']:g} s")
        )
    residual = told["breaker"]["rcd"]
    direct = ", 6 mA d.c. in the unit" if residual["dc_6ma"] else ""
    rows.append(("RCD", f"{residual['ma']:g} mA type {residual['type']}{direct}"))
    return rows
