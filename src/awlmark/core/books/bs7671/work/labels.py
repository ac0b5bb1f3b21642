"""Notices and labels that a circuit asks for, from the shipped list, in words of our own."""

from __future__ import annotations

from awlmark.core.books.bs7671.printed import printed
from awlmark.core.solve.design import Design


def notices(design: Design) -> list[tuple[str, str]]:
    """What each notice says, and where it goes."""
    job = design.job
    supply, charger = job.supply, job.charger
    buried = any(walked.leg.direction == "trench" for walked in design.line.legs)
    wanted = {
        "circuit": True,
        "ev13": charger.connection == "ev13",
        "bond": "yes" in (supply.bonding.water, supply.bonding.gas, supply.bonding.oil, supply.bonding.steel),
        "rcd": job.occupancy != "dwelling",
        "inspect": job.occupancy != "dwelling",
        "dual": bool(charger.exports),
        "limit": job.demand.managed,
        "earth": charger.pen == "island",
        "isolator": any(part.key.startswith("rotary isolator") for part in design.parts),
        "buried": buried,
    }
    limit = job.demand.set_point_a or supply.cutout_a
    told = {"amps": f"{limit:g}" if limit is not None else "…"}
    return [
        (row["says"].format(**told), row["where"]) for row in printed("labels").rows if wanted.get(row["key"], False)
    ]
