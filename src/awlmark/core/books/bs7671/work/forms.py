"""What the papers of a new circuit ask for, in words of our own: certificate data, inspections, test results, the
circuit chart, the distributor's notice and the set-up record. The model forms are only named."""

from __future__ import annotations

from awlmark.core.books.bs7671.panel.demand import least_rating
from awlmark.core.books.bs7671.panel.ways import new_place
from awlmark.core.books.bs7671.sizing.requirements import residual_type
from awlmark.core.books.bs7671.sizing.work import BsWork
from awlmark.core.build.form import Form
from awlmark.core.prove.log import latest, print_value
from awlmark.core.prove.test import tests_of
from awlmark.core.quantities import print_length
from awlmark.core.solve.design import Design

SYSTEMS = {"tn-c-s": "TN-C-S (PME)", "tn-s": "TN-S", "tt": "TT"}


def forms(design: Design) -> tuple[Form, ...]:
    """Every form of a design that has a circuit."""
    if design.circuit is None:
        return ()
    return (
        _certificate(design),
        _inspections(design),
        _results(design),
        _chart(design),
        _notice(design),
        _setup(design),
    )


def _read(design: Design, key: str) -> str:
    """The latest reading of a test in words; empty while nobody has read it."""
    each = latest(design).get(key)
    if each is None or each.test is None:
        return ""
    value = each.reading.value
    return each.reading.raw if value is None else print_value(value, each.test.unit, "m")


def _number(value: float | None, unit: str) -> str:
    return "" if value is None else f"{value:g} {unit}"


def _certificate(design: Design) -> Form:
    job, supply, made = design.job, design.job.supply, design.circuit
    assert made is not None
    fuse = least_rating(job)
    phases = "three, 400 V" if supply.system == "400" else "one, 230 V"
    fields = (
        ("Client", job.papers.customer), ("Address", job.papers.address), ("Work", f"New circuit: {job.name}"),
        ("Designed by", job.papers.designer), ("Registration", job.papers.licence),
        ("Earthing system", SYSTEMS.get(supply.earthing or "", "")), ("Phases, volts, 50 Hz", phases),
        ("Ze", _read(design, "Ze") or _number(supply.ze_ohm, "ohm, declared")),
        ("Fault current", _read(design, "pfc") or _number(supply.fault_a, "A")),
        ("Cut-out fuse", _number(supply.cutout_a, "A")), ("Main switch", _number(supply.service_a, "A")),
        ("Tails", _number(supply.tails_mm2, "mm²")), ("Earthing conductor", _number(supply.earth_mm2, "mm²")),
        ("Bonding conductor", _number(supply.bonding.mm2, "mm²")),
        ("Electrode", _read(design, "Ra") or _number(supply.ra_ohm, "ohm")),
        ("Demand with the point", _number(round(design.buses[0].needed_a, 1) if design.buses else None, "A a phase")),
        ("Against", _number(fuse, "A")), ("Next inspection", ""),
    )  # fmt: skip
    return Form("Electrical installation: certificate data", "For the certificate of a new circuit; whoever signs it "
                "fills in the rest.", fields, signed=("Designer", "Installer", "Inspected and tested by"))  # fmt: skip


def _inspections(design: Design) -> Form:
    job = design.job
    rows = [
        "The distributor's equipment is sound, and its people have been told or asked",
        "Earthing arrangement and main bonding as the design has them",
        "Consumer unit: rating, enclosure, free ways, barriers, blanks, busbar",
        "Device, residual device and their ratings as the design has them",
        "Cable type, size and route as drawn; supports, metal ones overhead; bends",
        "Cable in walls and floors in a zone, deep, or guarded; passages sealed",
        "Glands, armour and protective conductor continuous; terminals torqued",
        "Cores by their colours or sleeved; every conductor on its own terminal",
        "Isolation and switching off at the board and at the point",
        "Weather and knocks: enclosure, lead and outlet as its maker asks",
        "Labels, notices and chart in place",
        "The unit's own functions: d.c. detection, answer to a lost PEN, set current",
    ]
    if any(walked.leg.direction == "trench" for walked in design.line.legs):
        rows.insert(6, "Buried cable: depth, duct or bedding, tape, seen before the trench was filled")
    if job.charger.pen == "island":
        rows.append("An earth of its own: nothing earthed by the supply within reach")
    numbered = tuple((f"{number}", text, "") for number, text in enumerate(rows, 1))
    return Form("Schedule of inspections", "Tick what was looked at and is right; cross what is not, and say why.",
                heads=("", "What was looked at", "Outcome"), widths=(6, 100, 20), rows=numbered)  # fmt: skip


def _results(design: Design) -> Form:
    made = design.circuit
    assert made is not None
    work = design.evaluated.work if design.evaluated is not None else None
    zs = float(work.fault.limit_ohm[design.row]) if isinstance(work, BsWork) else float("nan")
    ways = new_place(design)
    device = design.book.circuit.device_label(design.job, made.breaker_a)
    line = (made.hots == 3 and "L1") or "L"
    fields = (
        ("Circuit", " and ".join(str(way) for way in ways)), ("Feeds", design.job.name), ("Device", device),
        ("Breaks", _number(design.job.supply.breaks_a, "A")),
        ("Residual device", f"30 mA, type {residual_type(design.job)}"),
        ("Most Zs", "" if zs != zs else f"{zs:.2f} ohm; {0.8 * zs:.2f} cold"),
        ("Conductors", design.book.print_wires(made.hots + 1, made.size, made.ground)),
        ("Method", ", ".join(dict.fromkeys(section.method.name for section in design.line.sections))),
        ("Length", print_length(design.line.length_m, design.job.units)),
        ("R1+R2", _read(design, "R1+R2")), (f"Insulation {line} to E", _read(design, f"IR {line}-E")),
        (f"Insulation {line} to N", _read(design, f"IR {line}-N")), ("Insulation N to E", _read(design, "IR N-E")),
        ("Polarity", _read(design, "polarity")), ("Zs", _read(design, "Zs")),
        ("Opens at 30 mA", _read(design, "RCD 30 mA")),
        ("Test button", _read(design, "RCD button")), ("Functions", _functions(design)), ("Remarks", ""),
    )  # fmt: skip
    used = ", ".join(dict.fromkeys(one.instrument for one in design.job.prove.readings if one.instrument))
    return Form("Schedule of test results", f"Instruments: {used}" if used else "", fields, signed=("Tested by",))


def _functions(design: Design) -> str:
    told = [_read(design, test.key) for test in tests_of(design) if test.stage == "function"]
    return "" if "" in told else "all passed" if all(one == "yes" for one in told) else "not all passed"


def _chart(design: Design) -> Form:
    made, unit = design.circuit, design.job.supply.unit
    assert made is not None
    rows = [
        (f"{one.way}" + (f" to {one.way + one.modules - 1}" if one.modules > 1 else ""), one.name or one.kind,
         f"{(one.curve or '').upper()}{one.rating_a:g}" if one.rating_a else one.kind.upper(), "")
        for one in unit.devices if one.kind != "blank"
    ]  # fmt: skip
    ways = new_place(design)
    wires = design.book.print_wires(made.hots + 1, made.size, made.ground)
    label = design.book.circuit.device_label(design.job, made.breaker_a)
    rows.append(
        (" to ".join(str(way) for way in (ways[:1] + ways[-1:])), f"charge point: {design.job.name}", label, wires)
    )
    rows.sort(key=lambda row: int(row[0].partition(" ")[0] or 99))
    return Form("Circuit chart", "Beside the consumer unit.", heads=("Way", "Feeds", "Device", "Conductors"),
                widths=(12, 60, 30, 40), rows=tuple(rows))  # fmt: skip


def _notice(design: Design) -> Form:
    job, supply, made = design.job, design.job.supply, design.circuit
    assert made is not None
    demand = design.buses[0] if design.buses else None
    told = design.finding("distributor")
    fields = (
        ("Site", job.papers.address), ("Supply number", ""), ("Installer", job.papers.designer),
        ("Points", "1"), ("Rated", f"{made.charge_a:g} A a phase, {'three phases' if made.hots == 3 else 'one phase'}"),
        ("Feeds back", {None: "", True: "yes", False: "no"}[job.charger.exports]),
        ("Demand without it", _number(None if demand is None else round(demand.others_a, 1), "A")),
        ("Demand with it", _number(None if demand is None else round(demand.needed_a, 1), "A")),
        ("Held to", _number(job.demand.set_point_a, "A, by load curtailment") if job.demand.managed else "no limit"),
        ("Cut-out fuse", _number(supply.cutout_a, "A")),
        ("Looped", {None: "", True: "yes", False: "no"}[supply.looped]), ("Unit: maker and type", ""),
    )  # fmt: skip
    return Form("Notice to the distributor", told.text if told is not None else "", fields, signed=("Installer",))


def _setup(design: Design) -> Form:
    job, made = design.job, design.circuit
    assert made is not None
    waits = "waived by the owner" if job.need.quiet_waived else "as it comes: waits at weekday peaks"
    fields = (
        ("Set current", f"{made.charge_a:g} A"), ("Behind whose lock", job.charger.set_by),
        ("Load limit", _number(job.demand.set_point_a, "A") if job.demand.managed else "none"),
        ("Charging hours", waits), ("Answer to a lost PEN", job.charger.pen or ""),
        ("6 mA d.c.", {None: "", True: "in the unit", False: "not in the unit: type B"}[job.charger.dc_6ma]),
        ("Serial number", ""), ("Software", ""), ("Handed over to", ""),
    )  # fmt: skip
    return Form("Set-up record", "As the maker's instructions ask for it.", fields, signed=("Set up by", "Owner"))
