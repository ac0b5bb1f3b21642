"""The stages in order: a job becomes a design."""

from __future__ import annotations

import itertools
from typing import Final

import msgspec
from msgspec.structs import replace

from awlmark.core.books import Book, open_book
from awlmark.core.circuit.case import Case, open_case
from awlmark.core.circuit.evaluate import Evaluated
from awlmark.core.circuit.findings import tell
from awlmark.core.circuit.pull_check import StretchPull, pull_findings
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding, Fix, ranked, worst
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import SYSTEMS, Supply
from awlmark.core.memo import Memo
from awlmark.core.need.plan import NeedPlan
from awlmark.core.panel.bus import Bus
from awlmark.core.parts.cutting import cut, cut_exactly
from awlmark.core.parts.fits import fit_findings
from awlmark.core.parts.run_items import span_length, spans
from awlmark.core.parts.shop import shop_findings, shop_of
from awlmark.core.parts.sticks import Piece, Stick, pieces_of
from awlmark.core.parts.takeoff import Part, list_parts
from awlmark.core.place.check import end_findings, height_findings
from awlmark.core.place.end_spot import placed, with_spot_first
from awlmark.core.run.line import INSIDE, Line, Section, Walked, walk
from awlmark.core.run.storeys import standings
from awlmark.core.run.supports import straps, support_findings
from awlmark.core.solve.pick_circuit import Circuit, opened, pick_circuit, pull_circuit, sizes_of
from awlmark.core.solve.surroundings import around, of_panel

SIZED_BY: Final = ("heat", "ground", "fill")
"""Findings without which the wire itself is not known, whatever else is asked."""


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
        """Sum of the priced lines [currency]."""
        return round(sum(part.total or 0.0 for part in self.parts), 2)

    @property
    def wire_m(self) -> float | None:
        """Length of one conductor from lug to lug, tails and loops with it [m]; None while the charger is unread."""
        if self.case is None:
            return None
        return sum(span_length(self.case, sections) for _cable, sections in spans(self.case))

    @property
    def unpriced(self) -> int:
        """Lines whose price is unread; the cost is then a least."""
        return sum(1 for part in self.parts if part.each is None)

    @property
    def not_asked(self) -> tuple[Finding, ...]:
        """What nobody has told and a verdict leans on."""
        return tuple(finding for finding in self.findings if finding.severity == UNREAD)

    @property
    def said(self) -> str:
        """The verdict in words: a whole circuit with questions open holds only as far as it was asked."""
        if self.verdict != UNREAD or self.circuit is None or not self.line.closed:
            return self.verdict
        if any(finding.id.split(":")[0] in SIZED_BY and finding.severity == UNREAD for finding in self.findings):
            return UNREAD
        rest = worst([finding for finding in self.findings if finding.severity != UNREAD])
        return "tight as far as asked" if rest == TIGHT else "holds as far as asked"

    @property
    def overruled(self) -> tuple[Finding, ...]:
        """Broken rules that the user set aside with a reason."""
        return tuple(finding for finding in self.findings if finding.overruled)

    @property
    def stops(self) -> tuple[Finding, ...]:
        """Broken rules, which stand first."""
        return tuple(itertools.takewhile(lambda finding: finding.broken, self.findings))

    def finding(self, finding_id: str) -> Finding | None:
        """A finding by its id."""
        return next((finding for finding in self.findings if finding.id == finding_id), None)

    @property
    def panel_name(self) -> str:
        """The board as it was named, or as its book calls it."""
        named = self.job.supply.panel_name
        return self.book.words.board if named == Supply().panel_name else named

    @property
    def placed(self) -> Job:
        """The job with the charger on its floor: at the end of the run where nobody has set a spot."""
        return placed(self.job, self.line)

    def straps(self, walked: Walked) -> list[float]:
        """Places of what holds a leg, along the tape [m]."""
        section = self.line.section_at(walked.end_m)
        known = self.case is not None and self.circuit is not None and section is not None
        size = held_sizes(self.case, self.circuit)[section.number] if known else None  # type: ignore[union-attr,arg-type]
        return straps(self.book, walked, size)

    def mark(self, *finding_ids: str) -> str:
        """Worst severity of some findings by their ids; ``holds`` where none of them stands."""
        return worst(finding for finding in self.findings if finding.id in finding_ids)

    def pieces(self, section: Section) -> list[Piece]:
        """What has to be cut for a section of raceway; nothing for cable and what comes in coils."""
        if section.method.cable or section.method.flexible:
            return []
        trade = self.circuit.trade_sizes[section.number] if self.circuit is not None else None
        return pieces_of(self.line, section, trade)

    def sticks(self, section: Section) -> list[Stick]:
        """A section's sticks with the pieces cut from them."""
        return cut(self.pieces(section), section.method.stick_m)

    @property
    def longest_stick_m(self) -> float:
        """The longest stick that the line's raceways come in [m]: a drawing of sticks is as wide."""
        return max((section.method.stick_m for section in self.line.sections), default=0.0) or 1.0

    def section_at(self, at_m: float) -> Section | None:
        """Section that lies at a point of the tape."""
        return self.line.section_at(at_m)


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
    stands = placed(job, line)
    there = around(stands, book, case.charge_a, case.hots)
    of_place = with_spot_first(there.of_place, stands, job)
    findings = [*there.of_need, *_run_findings(job, line, book), *there.of_supply, *of_place]
    if line.closed:
        end = line.legs[-1]
        findings += end_findings(job, end.end, line.length_m, book)
        high = end.end[2] - standings(line.legs, job.site.storeys)[-1].level_m
        findings += height_findings(job, end.place_after in INSIDE, high, line.length_m, book)
    findings += there.of_balance
    if job.meter is not None:
        from awlmark.core.panel.meter_data import kept

        kept(job.meter)  # damaged data are refused where they come in
    if case.charge_a <= 0 or job.supply.system not in book.systems:
        findings += of_panel(job, book, 0.0, None)
        charge = book.words.decisions[0][0].partition(",")[0]
        question = Finding(
            id="charger",
            severity=UNREAD,
            title="Charger not read",
            text=f"How many amps does the {book.words.charger} draw? Type it, such as {charge}.",
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
        replace(
            finding,
            severity=NOTE,
            overruled=finding.severity == STOP,
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
    found = [finding for rule in book.run.findings for finding in rule(job, line, book)]
    if job.guessed:
        found.append(_guessed(job, book))
    if not line.closed:
        words = book.words
        last = job.legs[-1].id if job.legs else ""
        found.append(
            Finding(
                id="run",
                severity=UNREAD,
                title="Line not finished",
                text=f"The line stops short of the {words.charger}. K ends it there; an arrow adds a leg."
                if job.legs
                else f"Where does the line leave the {words.panel}? Press an arrow and type the first reading.",
                cite=book.title,
                at_m=line.length_m,
                where=last,
                stage="run",
            )
        )
    return found


GUESSES: Final = {
    "nameplate_a": "the charger's amps", "connection": "how it ends", "service_a": "the {service}",
    "breaker": "the {breaker} that is there", "direction": "which way it runs", "length_m": "lengths",
    "method": "pipe or cable", "place": "where it lies", "mount": "on the wall or inside it", "wall": "walls",
    "cover_m": "cover", "surface": "what lies over the trench",
}  # fmt: skip
"""What may be guessed, by its field, in words; in braces those of the book."""


def _guessed(job: Job, book: Book) -> Finding:
    """What a quick quote assumed, until the user confirms it."""
    fields = {path.rpartition(".")[2] for path in job.guessed}
    names = ", ".join(said for field, said in GUESSES.items() if field in fields) or "some values"
    names = names.format(service=book.words.service, breaker=book.words.breaker)
    guessed = (path.partition("]")[0].removeprefix("legs[") for path in job.guessed if path.startswith("legs["))
    first = next(guessed, job.legs[0].id if job.legs else "")
    return Finding(
        id="guessed",
        severity=UNREAD,
        title="Guessed",
        text=f"Guessed so far: {names}. Type what you read on site, or take it as it is.",
        cite=book.title,
        where=first,
        stage="run",
        fixes=(Fix("It is so", (Put("guessed", ()),)),),
    )


def held_sizes(case: Case, circuit: Circuit) -> tuple[str | None, ...]:
    """By section, what its supports go by: a trade size, or a cable's conductors as ``6x3``."""
    cable = f"{circuit.size}x{case.conductors}"
    return tuple(
        cable if section.method.cable else trade
        for section, trade in zip(case.sections, circuit.trade_sizes, strict=True)
    )


def _solve_case(case: Case, others: list[Finding], need: NeedPlan | None, passed: tuple[Bus, ...]) -> Design:
    job, book = case.job, case.book
    picked = pick_circuit(case)
    circuit = picked.circuit
    volts = SYSTEMS[job.supply.system][0]
    others = others + book.panel.whole_drop(job, passed, volts, book, circuit.drop_percent)
    others += of_panel(job, book, circuit.breaker_a, circuit.trade_sizes[0] if circuit.trade_sizes else None)
    others += _loss(circuit, need, job, book)
    pulled = pull_circuit(case, picked)
    others += pull_findings(pulled, f"common practice; {book.cite('pull')}", job.units)
    others += fit_findings(job, case.line, circuit.trade_sizes, book)
    others += support_findings(job, case.line, held_sizes(case, circuit), book)
    others += _reused(job, case, book)
    parts = list_parts(picked.items, picked.place, shop_of(job), book.goods)
    if job.delivered or job.gone:
        needed: dict[str, float] = {}
        for part in parts:
            needed[part.key] = needed.get(part.key, 0.0) + part.quantity
        others += shop_findings(job, case.line, book, needed, sizes_of(circuit))
    findings = ranked(_overruled(job, tell(picked.evaluated, picked.row) + others))
    return Design(
        job,
        book,
        case.line,
        findings,
        worst(findings),
        case,
        picked.evaluated,
        picked.row,
        circuit,
        need,
        passed,
        pulled,
        parts,
    )


def _reused(job: Job, case: Case, book: Book) -> list[Finding]:
    """What else lies in a pipe that is there already: it fills it, warms it, and may share its ground."""
    reused = [walked for walked in case.line.legs if walked.leg.reused and not walked.method.cable]
    if not reused or job.circuit.others or job.circuit.others_told:
        return []
    pipe = book.words.pipe
    text = f"What else lies in the {pipe} of leg {reused[0].number} that is there already? It fills and warms it."
    fixes = (Fix("It is empty", (Put("circuit.others_told", True),)),)
    return [
        Finding(
            "others", UNREAD, f"What else is in the {pipe}", text, book.cite("bundling"), at_m=reused[0].start_m,
            where=reused[0].leg.id, fixes=fixes, ask="others ",
        )
    ]  # fmt: skip


def _loss(circuit: Circuit, need: NeedPlan | None, job: Job, book: Book) -> list[Finding]:
    """What the wire turns into heat in a year of the cars' driving, and what that costs."""
    if need is None or circuit.charge_a <= 0:
        return []
    place = need.place_of(circuit.charge_a, job.charger.connection in book.portable.connections)
    drawn = float(need.year.drawn_kwh[place])
    # The drop goes with the current, the loss with its square: a car that takes less loses far less.
    hours = float(need.year.squared_kw2h[place]) / (circuit.charge_a * circuit.volts / 1000) ** 2
    lost = circuit.drop_v * circuit.charge_a / 1000 * hours
    money = lost * float(need.year.cost[place]) / drawn if drawn else 0.0
    wire, price = book.words.wire, f"{job.currency}{money:.0f}"
    text = f"The {wire} turns {lost:.0f} kWh a year into heat, {price}, of {drawn:,.0f} kWh drawn."
    sums = (f"{circuit.drop_v:.2f} V × {circuit.charge_a:g} A over {hours:,.0f} h at that current, or as much heat",)
    return [Finding("loss", HOLDS, "Yearly loss", text, book.cite("drop"), sums=sums, where="line")]


def beside(design: Design) -> Design | None:
    """The same job in the other metal, its sizes open, to draw beside it: the circuit alone, without findings or list.

    None where the run is not offered in that metal.
    """
    if design.circuit is None:
        return None
    other = "al" if design.circuit.material == "cu" else "cu"
    try:
        case = open_case(design.job.with_run(circuit=opened(design.job.circuit, other)), design.book, design.line)
    except InputError:
        return None
    picked = pick_circuit(case)
    return Design(case.job, case.book, case.line, (), HOLDS, case, picked.evaluated, picked.row, picked.circuit)


def settled(design: Design) -> Design:
    """Finish the exact cutting search of every section, so that the parts list does not depend on timing."""
    before = [len(stick.pieces) for section in design.line.sections for stick in design.sticks(section)]
    for section in design.line.sections:
        pieces = design.pieces(section)
        if pieces:
            cut_exactly(pieces, section.method.stick_m)
    after = [len(stick.pieces) for section in design.line.sections for stick in design.sticks(section)]
    return design if before == after else solve(design.job)


solved: Final[Memo[Job, Design]] = Memo(1, solve)
"""The same as ``solve``, kept for the job asked for last: an entry is read at every key, and the job stays."""
