"""The stages in order: a job becomes a design."""

from __future__ import annotations

import msgspec
import numpy as np

from awlmark.core.around import around, of_panel
from awlmark.core.book import Book, open_book
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, ranked, worst
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS, SYSTEMS, Job
from awlmark.core.need.plan import NeedPlan
from awlmark.core.panel.buses import Bus, whole_drop_finding
from awlmark.core.parts.cutting import cut, cut_exactly
from awlmark.core.parts.shop import shop_findings, shop_of
from awlmark.core.parts.sticks import Piece, Stick, pieces_of
from awlmark.core.parts.takeoff import Part, count_items, list_parts, row_cost
from awlmark.core.parts.tally import Item
from awlmark.core.place.check import end_findings
from awlmark.core.run.bends import check_bends
from awlmark.core.run.expansion import expansion_findings
from awlmark.core.run.guard import guard_findings
from awlmark.core.run.line import Line, Section, walk
from awlmark.core.run.odd import odd_findings
from awlmark.core.run.supports import support_findings
from awlmark.core.run.trench import trench_findings
from awlmark.core.run.walls import wall_findings
from awlmark.core.wire.case import CONTINUOUS, Case, open_case, span
from awlmark.core.wire.checks import Evaluated, contenders, evaluate, pick
from awlmark.core.wire.outlet import needs_gfci
from awlmark.core.wire.pulling import StretchPull, pull_findings, pulls, wires_of
from awlmark.core.wire.words import tell


class Circuit(msgspec.Struct, frozen=True):
    """The circuit that was picked."""

    charge_a: float
    need_a: float
    breaker_a: float
    poles: int
    gfci: bool
    size: str
    material: str
    insulation: str | None
    """None where all of the run is cable."""
    hots: int
    neutral: bool
    ground: str | None
    """None while unread, or where the raceway is the ground."""
    raceway_ground: bool
    terminal_c: int
    usable_a: float | None
    """None while a temperature is unread [A]."""
    volts: float
    drop_v: float
    drop_percent: float
    trade_sizes: tuple[str | None, ...]
    """By section; None for cable, or where none fits."""
    fill_percent: tuple[float | None, ...]
    limit_percent: tuple[float | None, ...]


class Design(msgspec.Struct, frozen=True, eq=False):
    """A job, solved: everything the drawings and papers show."""

    job: Job
    book: Book
    line: Line
    findings: tuple[Finding, ...]
    verdict: str
    case: Case | None = None
    """None while the charging current is unread."""
    evaluated: Evaluated | None = None
    row: int = -1
    circuit: Circuit | None = None
    need: NeedPlan | None = None
    """None without a car."""
    buses: tuple[Bus, ...] = ()
    """From the service to the circuit's own board; empty while nothing else is entered."""
    pulls: tuple[StretchPull, ...] = ()
    """Pulling force of every stretch of raceway; empty while a size is unread."""
    parts: tuple[Part, ...] = ()

    @property
    def cost(self) -> float:
        """Sum of the priced lines."""
        return round(sum(part.total or 0.0 for part in self.parts), 2)

    @property
    def unpriced(self) -> int:
        """Lines whose price is unread; the cost is then a least."""
        return sum(1 for part in self.parts if part.each is None)

    @property
    def stops(self) -> tuple[Finding, ...]:
        """Broken rules."""
        return tuple(finding for finding in self.findings if finding.broken)

    def finding(self, finding_id: str) -> Finding | None:
        """A finding by its id."""
        return next((finding for finding in self.findings if finding.id == finding_id), None)

    def pieces(self, section: Section) -> list[Piece]:
        """What has to be cut for a section of raceway; nothing for cable."""
        if section.method.cable:
            return []
        trade = self.circuit.trade_sizes[section.number] if self.circuit is not None else None
        return pieces_of(self.line, section, trade)

    def sticks(self, section: Section) -> list[Stick]:
        """A section's sticks with the pieces cut from them."""
        return cut(self.pieces(section))

    def section_at(self, at_m: float) -> Section | None:
        """Section that lies at a point of the tape."""
        for section in self.line.sections:
            if at_m <= section.end_m + 1e-9:
                return section
        return self.line.sections[-1] if self.line.sections else None


def solve(job: Job) -> Design:
    """Solve a job: fill what is open, check what is pinned.

    Parameters
    ----------
    job : Job
        The document.

    Returns
    -------
    Design
        With every finding, worst first.

    Raises
    ------
    InputError
        For a name or size that the book does not have.
    """
    book = open_book(job.code)
    line = walk(job, book)
    case = open_case(job, book, line)
    there = around(job, book, case.charge_a, case.hots)
    findings = [*there.of_need, *_run_findings(job, line, book), *there.of_supply, *there.of_place]
    if line.closed:
        findings += end_findings(job, line.legs[-1].end, book)
    findings += there.of_balance
    if job.meter is not None:
        from awlmark.core.panel.metered import kept

        kept(job.meter)  # damaged data are refused where they come in
    if case.charge_a <= 0 or job.supply.system not in book.systems:
        findings += of_panel(job, book, 0.0, None)
        question = Finding(
            id="charger",
            severity=UNREAD,
            title="Charger not read",
            text="How many amps does the charger draw? Type its nameplate, such as 48a.",
            cite=book.cite("breaker"),
            where="charger",
        )
        if case.charge_a > 0:
            question = _no_book(job, book)
        found = ranked(_overruled(job, [question, *findings]))
        return Design(job, book, line, found, worst(found), need=there.need, buses=there.buses)
    return _solve_case(case, findings, there.need, there.buses)


def _overruled(job: Job, findings: list[Finding]) -> list[Finding]:
    """Findings that the user set aside stay as notes, with the reason; what is missing cannot be set aside."""
    reasons = {one.finding: one.reason for one in job.overrules}
    if not reasons:
        return findings
    return [
        msgspec.structs.replace(
            finding,
            severity=NOTE,
            title=f"Overruled: {finding.title}",
            sums=(f"Overruled: {reasons[finding.id]}", *finding.sums),
        )
        if finding.id in reasons and finding.severity in (STOP, TIGHT)
        else finding
        for finding in findings
    ]


def _no_book(job: Job, book: Book) -> Finding:
    """A supply that the open rule book does not speak of: need, panel and run are worked out, the wire is not."""
    return Finding(
        id="rule-book",
        severity=UNREAD,
        title="Rule book not here",
        text=f"{book.title} sizes no circuits on a {job.supply.system} V single-phase supply; its book comes later.",
        cite=book.title,
        where="panel",
    )


def _run_findings(job: Job, line: Line, book: Book) -> list[Finding]:
    found = [*check_bends(line, book), *trench_findings(job, line, book), *expansion_findings(job, line, book)]
    found += [*wall_findings(job, line, book), *guard_findings(job, line, book), *odd_findings(job, line, book)]
    if job.guessed:
        found.append(_guessed(job, book))
    if not line.closed:
        last = job.legs[-1].id if job.legs else ""
        found.append(
            Finding(
                id="run",
                severity=UNREAD,
                title="Line not finished",
                text="The line stops short of the charger. K ends it there; an arrow adds a leg."
                if job.legs
                else "Where does the line leave the panel? Press an arrow and type the first reading.",
                cite=book.title,
                at_m=line.length_m,
                where=last,
                stage="run",
            )
        )
    return found


def _guessed(job: Job, book: Book) -> Finding:
    """What a quick quote assumed, until the user confirms it."""
    fields = {path.rpartition(".")[2] for path in job.guessed}
    names = ", ".join(name for name in ("direction", "place", "method") if name in fields) or "some values"
    first = job.legs[0].id if job.legs else ""
    return Finding(
        id="guessed",
        severity=UNREAD,
        title="Guessed",
        text=f"This quote guesses the {names} of the run. Type what you read on site, or take it as it is.",
        cite=book.title,
        where=first,
        stage="run",
        fixes=(Fix("It is so", (Put("guessed", ()),)),),
    )


def _pick_circuit(case: Case) -> tuple[Evaluated, int, list[Item], int]:
    """Span, check, price and pick: the one way to a circuit.

    Returns
    -------
    evaluated : Evaluated
        The checked table.
    row : int
        The row picked.
    items : list of Item
        What the contenders need.
    place : int
        Which of the contenders that row is.
    """
    evaluated = evaluate(span(case))
    table, rows = evaluated.table, contenders(evaluated)
    contending = msgspec.structs.replace(table, group=table.group[rows], hot=table.hot[rows])
    items = count_items(contending, evaluated.grounds.size[rows], evaluated.fills.trade[rows])
    place = 0
    if len(rows) > 1:
        cost, priced = row_cost(items, shop_of(case.job))
        place = pick(evaluated, rows, cost, bool(priced.all()))
    return evaluated, int(rows[place]), items, place


def _solve_case(case: Case, others: list[Finding], need: NeedPlan | None, passed: tuple[Bus, ...]) -> Design:
    job, book = case.job, case.book
    evaluated, row, items, place = _pick_circuit(case)
    circuit = _circuit(evaluated, row)
    volts = SYSTEMS[job.supply.system][0]
    others = others + whole_drop_finding(job, passed, volts, book, circuit.drop_percent)
    others += of_panel(job, book, circuit.breaker_a, circuit.trade_sizes[0] if circuit.trade_sizes else None)
    others += _loss(circuit, need, job, book)
    pulled = _pulls(case, evaluated, row, circuit)
    if len(job.legs) > 1:
        # A bare quote of one leg says nothing about where the wire is pulled in.
        others += pull_findings(pulled, book.title)
        others += support_findings(job, case.line, circuit.trade_sizes, book)
    parts = list_parts(items, place, shop_of(job))
    if job.delivered or job.gone:
        needed: dict[str, float] = {}
        for part in parts:
            needed[part.key] = needed.get(part.key, 0.0) + part.quantity
        others += shop_findings(job, case.line, book, needed, circuit.trade_sizes)
    findings = ranked(_overruled(job, tell(evaluated, row) + others))
    return Design(
        job,
        book,
        case.line,
        findings,
        worst(findings),
        case,
        evaluated,
        row,
        circuit,
        need,
        passed,
        pulled,
        parts,
    )


def _loss(circuit: Circuit, need: NeedPlan | None, job: Job, book: Book) -> list[Finding]:
    """What the wire turns into heat in a year of the cars' driving, and what that costs."""
    if need is None or circuit.charge_a <= 0:
        return []
    place = need.place_of(circuit.charge_a, job.charger.connection in ("5-15", "5-20"))
    drawn = float(need.year.drawn_kwh[place])
    hours = drawn / (circuit.charge_a * circuit.volts / 1000)
    lost = circuit.drop_v * circuit.charge_a / 1000 * hours
    money = lost * float(need.year.cost[place]) / drawn if drawn else 0.0
    text = f"The wire turns {lost:.0f} kWh a year into heat, {job.currency}{money:.0f}, of {drawn:,.0f} kWh drawn."
    sums = (f"{circuit.drop_v:.2f} V × {circuit.charge_a:g} A over {hours:,.0f} h",)
    return [Finding("loss", HOLDS, "Yearly loss", text, book.cite("drop"), sums=sums, where="line")]


def _pulls(case: Case, evaluated: Evaluated, row: int, circuit: Circuit) -> tuple[StretchPull, ...]:
    table = evaluated.table
    group, ground = int(table.group[row]), int(evaluated.grounds.size[row])
    if circuit.raceway_ground:
        ground = -1
    place = int(table.insulation[group]), int(table.hot[row]), ground, int(table.material[group])
    wires = wires_of(case.book, place, circuit.hots, circuit.neutral, circuit.material)
    return pulls(case.line, case.book, wires, circuit.trade_sizes) if wires else ()


def _circuit(evaluated: Evaluated, row: int) -> Circuit:
    table = evaluated.table
    case, book = table.case, table.case.book
    group, hot = int(table.group[row]), int(table.hot[row])
    usable = float(evaluated.carried.usable_a[group, hot])
    ground = int(evaluated.grounds.size[row])
    fill = evaluated.terms["fill"]
    trades, fills, limits = [], [], []
    for section in case.sections:
        trade = int(evaluated.fills.trade[row, section.number])
        trades.append(book.trade_sizes[trade] if trade >= 0 else None)
        known = trade >= 0 and not (fill.unknown is not None and fill.unknown[row, section.number])
        fills.append(float(fill.found[row, section.number]) if known else None)
        limits.append(float(fill.needed[row, section.number]) if known else None)
    drop = float(evaluated.drop_v[row])
    breaker = float(table.breaker_a[group])
    cabled = bool(case.sections) and all(section.method.cable for section in case.sections)
    return Circuit(
        charge_a=case.charge_a,
        need_a=CONTINUOUS * case.charge_a,
        breaker_a=breaker,
        poles=case.hots,
        gfci=needs_gfci(case, breaker),
        size=book.sizes[hot],
        material=MATERIALS[table.material[group]],
        insulation=None if cabled else book.insulations[table.insulation[group]],
        hots=case.hots,
        neutral=case.neutral,
        ground=book.sizes[ground] if ground >= 0 and not case.raceway_ground else None,
        raceway_ground=case.raceway_ground,
        terminal_c=evaluated.carried.column_c[group],
        usable_a=None if np.isnan(usable) else usable,
        volts=case.volts,
        drop_v=drop,
        drop_percent=100 * drop / case.volts,
        trade_sizes=tuple(trades),
        fill_percent=tuple(fills),
        limit_percent=tuple(limits),
    )


def beside(design: Design) -> Design | None:
    """The same job in the other metal, its sizes open, to draw beside it: the circuit alone, without findings or list.

    None where the run is not offered in that metal.
    """
    if design.circuit is None:
        return None
    other = "al" if design.circuit.material == "cu" else "cu"
    pinned = design.job.circuit
    opened = msgspec.structs.replace(pinned, material=other, size=None, ground_size=None, insulation=None)
    try:
        case = open_case(msgspec.structs.replace(design.job, circuit=opened), design.book, design.line)
    except InputError:
        return None
    evaluated, row, _items, _place = _pick_circuit(case)
    circuit = _circuit(evaluated, row)
    return Design(case.job, case.book, case.line, (), HOLDS, case, evaluated, row, circuit)


def settled(design: Design) -> Design:
    """The design with every cut plan searched to its end, so that two runs never tell two lists."""
    before = [len(stick.pieces) for section in design.line.sections for stick in design.sticks(section)]
    for section in design.line.sections:
        pieces = design.pieces(section)
        if pieces:
            cut_exactly(pieces)
    after = [len(stick.pieces) for section in design.line.sections for stick in design.sticks(section)]
    return design if before == after else solve(design.job)
