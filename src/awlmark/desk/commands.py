"""What an act of a drawing, a list or a key does to the job or the view."""

from __future__ import annotations

import functools
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from awlmark.core.errors import AwlmarkError, InputError
from awlmark.core.finding import NOTE, RANK, UNREAD
from awlmark.core.job.edit import Put, put, value_at
from awlmark.core.need.plan import OUTLET, choose
from awlmark.core.standing import SITE_STAGES, site_findings
from awlmark.desk.bench_commands import BenchActs
from awlmark.desk.entry import EntryBar
from awlmark.desk.regional import typed
from awlmark.desk.session import Session
from awlmark.draw.view_state import in_hand

if TYPE_CHECKING:
    from awlmark.core.entry.word import Reading


SHEET = ("lines", "begin", "shelf", "drop", "find", "door", "ask", "walk")
"""Acts of the start sheet and of the walk."""
FLOOR = ("lead", "tray", "move", "stretch")
"""Acts of what stands on the floor."""


class Acts:
    """Acts on a session; what cannot be done is said in the Entry."""

    def __init__(self, session: Session, entry: EntryBar) -> None:
        self.session, self.entry = session, entry
        self.bench = BenchActs(session)
        self.menu: Callable[[str], object] = lambda action: None
        """Takes an action of the menus by its id."""
        self.sheet: Callable[[str, str], object] = lambda kind, which: None
        """Takes an act of the start sheet or of the walk."""
        self.floor: Callable[[str, str], object] = lambda kind, which: None
        """Takes an act of what stands on the floor."""
        self.turned: Callable[[], bool] = lambda: False
        """Whether a dial was dragged just now: the click that ends it is none."""
        self.suggest: Callable[[int], object] = lambda number: None
        """Takes a suggestion by its place."""

    def act(self, doing: Callable[[], object]) -> bool:
        """Do something; what cannot be done is said in the Entry and loses nothing."""
        try:
            doing()
        except InputError as problem:
            self.entry.say(f"{problem.field}: {problem.problem} Accepted: {problem.accepted}.", trouble=True)
            return False
        except AwlmarkError as problem:
            self.entry.say(str(problem), trouble=True)
            return False
        return True

    def do(self, act: str) -> None:
        """Take an act that a drawing or its list offers."""
        kind, _, rest = act.partition(":")
        handlers: dict[str, Callable[[], object]] = {
            "stage": lambda: self.session.see(stage=rest, pencils=False, practice=None),
            "flip": lambda: self.session.flip(int(rest)),
            "select": lambda: self._select(rest),
            "awl": lambda: self.session.see(at_m=float(rest)) if rest else None,
            "leg": lambda: self.session.see(at_m=float(rest.rpartition(":")[2])),
            "fix": lambda: self.take_fix(int(rest)),
            "put": lambda: self._put(rest),
            "size": lambda: self._pin_size(rest),
            "trade": lambda: self._pin_trade(rest),
            "method": lambda: self.scribe(rest),
            "scribe": lambda: self.scribe(rest),
            "way": lambda: self._way(rest),
            "menu": lambda: self.menu(rest),
            **{sheet: functools.partial(self.sheet, sheet, rest) for sheet in SHEET},
            "suggest": lambda: self.suggest(int(rest)),
            "charge": lambda: self._charge(int(rest)),
            "day": lambda: self.session.see(car=int(rest)),
            "car": lambda: self._car(rest),
            "provepage": lambda: self.session.see(prove_page=rest),
            "record": lambda: self.session.see(record_from=int(rest)),
            "step": lambda: self._step_told(rest),
            "dial": lambda: self._dial(rest),
            "photo": lambda: self._photo(rest),
            "sheet": lambda: self.session.see(sheet_from=int(rest)),
            "bus": lambda: self.session.see(sheet_from=0, bus=rest, finding=f"demand:{rest}"),
            "runpage": lambda: self.session.see(run_page=rest),
            "probe": lambda: self.bench.probe(rest),
            "bench": lambda: self.bench.switch(rest),
            "practice": lambda: self.bench.practise(rest),
            "answer": lambda: self.bench.answer(rest),
            "takeleg": lambda: self._take_leg(rest),
            "quote": lambda: self.session.see(stage="parts", parts_page="quote", pencils=False),
            "partspage": lambda: self.session.see(parts_page=rest),
            "page": lambda: self.session.see(page=rest),
            "type": lambda: self._type_fresh(rest),
            "edit": lambda: self.offer_words(rest),
            "takefix": lambda: self._take_fix_of(*rest.rsplit(":", 1)),
            "overrule": lambda: self._begin_overrule(rest),
            "wirepage": lambda: self.session.see(wire_page=rest),
            "lane": lambda: self.session.see(lane=rest),
            "side": lambda: self._side(int(rest)),
            "fork": lambda: self._fork(int(rest)),
            **dict.fromkeys(FLOOR, lambda: self.floor(kind, rest)),
            "worst": self.open_all,
            "list": lambda: self.step_list(int(rest)),
            "scope": lambda: self._scope(rest == "1"),
            "fold": lambda: self.session.see(holding=not self.session.look.holding),
            "saw": lambda: self._saw(rest),
            "next": self.next_worst,
            "pull": lambda: None,
        }
        self.act(handlers[kind])

    def _charge(self, place: int) -> None:
        """Take the charging current of a ramp: it is the charger's own from then on."""
        plan = self.session.design.need
        if plan is None:
            return
        amps, edits = float(plan.amps[place]), list(choose(plan, place))
        if place != OUTLET and self.session.job.charger.connection in plan.portable.connections:
            edits.append(Put("charger.connection", "hardwired"))
        where = f" at {plan.portable.volts:g} V" if place == OUTLET else ""
        self.session.apply(f"charger {amps:g} A{where}", put(self.session.job, *edits))

    def _way(self, key: str) -> None:
        """Take one of the ways round a larger supply."""
        from awlmark.core.panel.load_management import load_year
        from awlmark.core.panel.meter_data import kept

        design, job = self.session.design, self.session.job
        if job.meter is None or design.circuit is None:
            return
        year = load_year(job, kept(job.meter), design.circuit.charge_a)
        way = next(way for way in year.ways if way.key == key)
        self.session.apply(way.name, put(job, *way.edits))

    def _take_leg(self, what: str) -> None:
        """One leg over from a pencil line."""
        from awlmark.core.job_diff import take_leg

        number, _, leg_id = what.partition(":")
        name, other, _design = self.session.pencils[int(number)]
        self.session.apply(f"a leg from {name.lower()}", take_leg(self.session.job, other, leg_id))

    def _fork(self, number: int) -> None:
        """Take one way to end the line."""
        self.session.trials.make(self.session.design, self.session.look)
        forks = self.session.trials.forks(self.session.design)
        if number < len(forks):
            self.session.apply(forks[number].fix.label, forks[number].job)

    def _side(self, number: int) -> None:
        """Take one of the whole jobs side by side."""
        self.session.trials.make(self.session.design, self.session.look)
        side = self.session.trials.sides(self.session.design)[number]
        self.session.apply(f"{side.ends}, {side.wiring}, {side.metal}", side.job)

    def _step_told(self, step_id: str) -> None:
        """Tell a step in full, with the awl where it is done."""
        from awlmark.core.build.steps import steps_of

        step = next((one for one in steps_of(self.session.design) if one.id == step_id), None)
        self.session.see(step_told=step_id, **({} if step is None else {"at_m": step.at_m}))

    def _dial(self, name: str) -> None:
        """The next tick of a screw, or its torque while nobody has read it."""
        from awlmark.core.build.torque import dials_of

        if self.turned():
            return
        dial = next(one for one in dials_of(self.session.design) if one.id == name)
        if dial.lbf_in is None:
            self._type_fresh(f"torque {name} ")
        else:
            self.scribe(f"tight {name}")

    def _photo(self, name: str) -> None:
        """Show a photo of the site as the desktop shows pictures."""
        from PySide6.QtCore import QUrl
        from PySide6.QtGui import QDesktopServices

        if not name:
            return
        path = (self.session.path.parent if self.session.path is not None else Path()) / name
        if not path.is_file():
            raise InputError("photo", f"There is no picture at {path}.", "note <words> photo <file>, beside the job")
        QDesktopServices.openUrl(QUrl.fromLocalFile(str(path.resolve())))

    def _car(self, what: str) -> None:
        from awlmark.core.entry.cars import add_car, remove_car

        job = self.session.job
        if what == "add":
            self.session.apply("a car more", put(job, *add_car(job)))
        elif job.need.cars:
            self.session.apply("a car less", put(job, *remove_car(job, job.need.cars[-1].id)))

    def _select(self, finding_id: str) -> None:
        design, stage = self.session.design, self.session.look.stage
        finding = design.finding(finding_id)
        if finding is None and stage in SITE_STAGES:
            finding = next((one for one in site_findings(design, stage) if one.id == finding_id), None)
        at = {} if finding is None or finding.at_m is None else {"at_m": finding.at_m}
        self.session.see(finding=finding_id, practice=None, **at)

    def _type_fresh(self, text: str) -> None:
        self.entry.line.clear()
        self.entry.type(text)

    def offer_words(self, text: str) -> None:
        """Words in the Entry, what stands behind the tab selected, to be typed over."""
        before, _, value = text.partition("\t")
        self._type_fresh(before + value)
        self.entry.line.setSelection(len(before), len(value))

    def _take_fix_of(self, finding_id: str, number: str) -> None:
        """A fix of a finding that need not be in hand, tried before it is taken."""
        finding = self.session.design.finding(finding_id)
        if finding is None or int(number) >= len(finding.fixes):
            return
        fix = finding.fixes[int(number)]
        self.session.apply(f"fix: {fix.label}", put(self.session.job, *fix.edits))

    def _begin_overrule(self, finding_id: str) -> None:
        self._select(finding_id)
        self._type_fresh("overrule ")

    def answer_first(self) -> None:
        """Begin the answer to a question, or take the first fix of what is broken."""
        finding = in_hand(self.session.design, self.session.look)
        if finding is not None and finding.ask and finding.severity in (UNREAD, NOTE):
            self._type_fresh(finding.ask)
        else:
            self.take_fix(0)

    def take_fix(self, number: int) -> None:
        if not self.session.look.quotes:
            self.session.price_fixes()
        quotes = self.session.look.quotes
        finding = in_hand(self.session.design, self.session.look)
        if number < len(quotes):
            self.session.apply(f"fix: {quotes[number].fix.label}", quotes[number].job)
        elif finding is not None and finding.ask:
            self._type_fresh(finding.ask)

    def _put(self, text: str) -> None:
        """Pin a value, or open it again when it is pinned already."""
        path, _, typed = text.partition("=")
        value: object = int(typed) if path.endswith("terminal_c") else typed
        opened = value_at(self.session.job, path) == value
        field = path.rpartition(".")[2].replace("_c", "").replace("_", " ")
        # A spot is chosen or not; every other value that is put is open again as None.
        edits = [Put(path, ("" if path == "site.pin" else None) if opened else value)]
        if path == "circuit.material":
            edits += [Put("circuit.size", None), Put("circuit.ground_size", None), Put("circuit.insulation", None)]
        self.session.apply(f"{field} {'open' if opened else typed}", put(self.session.job, *edits))

    def _pin_size(self, text: str) -> None:
        size, _, metal = text.partition("=")
        circuit = self.session.design.circuit
        pinned = self.session.job.circuit.size == size and circuit is not None and circuit.material == metal
        edits = [Put("circuit.size", None)] if pinned else [Put("circuit.size", size)]
        if circuit is not None and circuit.material != metal:
            edits += [Put("circuit.material", metal), Put("circuit.insulation", None), Put("circuit.ground_size", None)]
        self.session.apply(f"conductor {'open' if pinned else size}", put(self.session.job, *edits))

    def _pin_trade(self, text: str) -> None:
        number, _, size = text.partition("=")
        section = self.session.design.line.sections[int(number)]
        value = None if section.trade_size == size else size
        edits = [Put(f"legs[{walked.leg.id}].trade_size", value) for walked in section.legs]
        self.session.apply(f"{section.method.name} {value or 'size open'}", put(self.session.job, *edits))

    def step(self, way: int) -> None:
        session = self.session
        section = session.design.section_at(session.look.at_m)
        circuit = session.design.circuit
        if session.look.stage == "wire" and section is not None and circuit is not None and not section.method.cable:
            sizes = session.design.book.trade_sizes_of(section.method)
            at = sizes.index(circuit.trade_sizes[section.number] or sizes[-1])
            size = sizes[min(max(at + way, 0), len(sizes) - 1)]
            edits = [Put(f"legs[{walked.leg.id}].trade_size", size) for walked in section.legs]
            session.apply(f"{section.method.name} {size}", put(session.job, *edits))
            return
        now = session.job.charger.nameplate_a or 40.0
        settings = session.design.book.circuit.settings_a
        steps = [amps for amps in settings if (amps > now if way > 0 else amps < now)]
        if steps:
            amps = steps[0] if way > 0 else steps[-1]
            session.apply(f"charger {amps:g} A", put(session.job, Put("charger.nameplate_a", amps)))

    def swap_metal(self) -> None:
        """Copper to aluminium and back."""
        circuit = self.session.design.circuit
        other = "al" if circuit is None or circuit.material == "cu" else "cu"
        self.do(f"put:circuit.material={other}")

    def next_method(self) -> None:
        """The next wiring method for the section under the awl."""
        section = self.session.design.section_at(self.session.look.at_m)
        if section is not None:
            chips, key = self.session.design.book.chips, section.method.key
            self.do(f"method:{chips[(chips.index(key) + 1) % len(chips)] if key in chips else chips[0]}")

    def step_mark(self, way: int) -> None:
        design, at = self.session.design, self.session.look.at_m
        marks = sorted(
            {0.0, *(walked.end_m for walked in design.line.legs), *(f.at_m for f in design.stops if f.at_m is not None)}
        )
        ahead = [mark for mark in marks if (mark > at + 1e-6 if way > 0 else mark < at - 1e-6)]
        if ahead:
            self.session.see(at_m=ahead[0] if way > 0 else ahead[-1])

    def next_worst(self) -> None:
        """The next finding, worst first; round again after the last that does not hold."""
        found = sorted(self.session.design.findings, key=lambda finding: RANK[finding.severity])
        pressing = [finding for finding in found if finding.severity != "holds"] or found
        now = in_hand(self.session.design, self.session.look)
        at = pressing.index(now) if now in pressing else -1
        if pressing:
            self._select(pressing[(at + 1) % len(pressing)].id)

    def open_all(self) -> None:
        """The list of what is open over all stages; from then on the next of it."""
        if not self.session.look.all_stages:
            self.session.see(all_stages=True)
        self.next_worst()

    def step_list(self, way: int) -> None:
        """The next finding of the list, or the one before."""
        from awlmark.draw.frame.open_list import listed

        design, look = self.session.design, self.session.look
        open_ones, held = listed(design, look)
        rows, now = [*open_ones, *held], in_hand(design, look)
        if rows:
            at = rows.index(now) if now in rows else (-1 if way > 0 else 0)
            self._select(rows[(at + way) % len(rows)].id)

    def _scope(self, all_stages: bool) -> None:
        """The list over all stages, or over the one shown, with its worst in hand."""
        from awlmark.draw.frame.open_list import listed

        self.session.see(all_stages=all_stages)
        open_ones, held = listed(self.session.design, self.session.look)
        first = next(iter([*open_ones, *held]), None)
        if first is not None:
            self._select(first.id)

    def _saw(self, finding_id: str) -> None:
        """Begin to tell who has seen a note, with the name that was told last."""
        self._select(finding_id)
        last = self.session.job.seen[-1].by if self.session.job.seen else ""
        self._type_fresh(f"saw {last}")

    def read(self, text: str) -> Reading:
        """Read what is typed against the job in hand.

        Raises
        ------
        InputError
            When it cannot be read, or on the practice bench, where nothing may reach a job.
        """
        from awlmark.core.entry.read import read_entry

        if self.session.look.practice is not None:
            raise InputError("entry", "This is practice, and belongs to no job.", "Go back to the job (Alt+P) first")
        return read_entry(typed(text), self.session.job, self.session.spot)

    def scribe(self, text: str) -> None:
        reading = self.read(text)
        if reading.act:
            self.do(reading.act)
        else:
            self.session.apply(reading.says, reading.job)
