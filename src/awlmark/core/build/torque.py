"""Every screw of the circuit that has a torque."""

from __future__ import annotations

import re
from typing import Final

import msgspec

from awlmark.core.books.book import EARTH, LINE, NEUTRAL
from awlmark.core.books.words import cap
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.site_records import Torque
from awlmark.core.quantities import read_number
from awlmark.core.solve.design import Design

N_M_PER_LBF_IN: Final = 0.1129848290276167
_UNITS: Final = {
    "lbf-in": 1.0,
    "in-lb": 1.0,
    "lbf-ft": 12.0,
    "ft-lb": 12.0,
    "n m": 1 / N_M_PER_LBF_IN,
    "nm": 1 / N_M_PER_LBF_IN,
}
_TORQUE: Final = re.compile(r"(?P<value>\d+(?:\.\d+)?)\s*(?P<unit>lbf-in|in-lb|lbf-ft|ft-lb|n m|nm)", re.ASCII)


class Dial(msgspec.Struct, frozen=True):
    """One screw."""

    id: str
    name: str
    end: str
    """``panel`` or ``charger``."""
    wire: str
    """Letter of its wire."""
    lbf_in: float | None
    source: str
    """``label``, ``instructions``, ``annex``; empty while unread."""
    fallback: float | None
    """What the book gives where no label tells it."""
    strip_m: float | None
    done: int
    """How far: 0, tight 1, wiggled 2, tightened again 3."""

    @property
    def told(self) -> str:
        """Its name within a sentence: ``charger G``."""
        return self.name[:1].lower() + self.name[1:]


def dials_of(design: Design) -> tuple[Dial, ...]:
    """The screws from the panel to the charger, ground first; none without a circuit."""
    circuit, job = design.circuit, design.job
    if circuit is None:
        return ()
    kept = {torque.id: torque for torque in job.build.torques}
    names = dict(zip(("panel", "charger"), design.book.prove.ends, strict=True))
    known = [wire for wire in design.case.wires if wire.role != EARTH or circuit.ground] if design.case else []
    wires = sorted(known, key=lambda wire: (wire.role != EARTH, wire.role == NEUTRAL))
    found = []
    for end, lug in (("panel", job.supply.lug), ("charger", job.charger.lug)):
        outlet = job.charger.connection not in design.book.circuit.wired
        far = cap(design.book.words.receptacle if outlet else design.book.words.charger)
        for landed in wires:
            wire = landed.letter
            size = circuit.ground if landed.role == EARTH else circuit.size
            name = f"{far} {wire}" if end == "charger" else design.book.build.screw(wire)
            its_id = f"{names[end]}-{wire}"
            torque = kept.get(its_id, Torque(id=its_id))
            value, source = torque.lbf_in, torque.source
            if value is None and lug.torque_lbf_in is not None and landed.role == LINE:
                value, source = lug.torque_lbf_in, "label"
            done = 3 if torque.again else 2 if torque.wiggled else 1 if torque.tight else 0
            found.append(
                Dial(
                    its_id,
                    name,
                    end,
                    wire,
                    value,
                    source if value is not None else "",
                    design.book.build.torque(size or circuit.size),
                    lug.strip_m,
                    done if value is not None else 0,
                )
            )
    return tuple(found)


def print_torque(lbf_in: float, unit: str = "lbf-in") -> str:
    """A torque in newton metres where a book tells them so, else in the three units of the trade."""
    if unit == "N m":
        return f"{lbf_in * N_M_PER_LBF_IN:.1f} N m"
    return f"{lbf_in:g} lbf-in, {lbf_in / 12:.1f} lbf-ft, {lbf_in * N_M_PER_LBF_IN:.1f} N m"


def read_torque(text: str, field: str = "torque", unit: str = "lbf-in") -> float:
    """A torque as typed [lbf-in]: ``50 in-lb``, ``4 ft-lb``, ``5.6 N m``.

    Raises
    ------
    InputError
        Without one of these units: they differ twelvefold.
    """
    match = _TORQUE.fullmatch(text.strip().lower())
    if match is None:
        known = (
            "a value with its unit: 2.5 N m" if unit == "N m" else "a value with its unit: 50 in-lb, 4 ft-lb or 5.6 N m"
        )
        raise InputError(field, f"Can't read '{text[:30]}'.", known)
    value = float(match["value"]) * _UNITS[match["unit"]]
    return read_number(f"{value:.4f}", field, 1, 1000)


def set_torque(job: Job, dial: Dial, **fields: object) -> tuple[Put, ...]:
    """Edits that change one screw."""
    kept = {torque.id: torque for torque in job.build.torques}
    now = kept.get(dial.id) or Torque(id=dial.id, lbf_in=dial.lbf_in, source=dial.source or "label")
    changed = msgspec.structs.replace(now, **fields)
    others = tuple(torque for torque in job.build.torques if torque.id != dial.id)
    return (Put("build.torques", (*others, changed)),)


def tick(job: Job, dial: Dial, unit: str = "lbf-in") -> tuple[Put, ...]:
    """Edits for the next of seat and tighten, wiggle, tighten again.

    Raises
    ------
    InputError
        While the screw's torque is unread.
    """
    if dial.lbf_in is None:
        way = f"its value, such as torque {dial.id} {'2.5 nm' if unit == 'N m' else '50 in-lb'}"
        if dial.fallback:
            way += f", or torque {dial.id} annex for {dial.fallback:g} lbf-in"
        raise InputError(dial.told, "Its torque is not read.", way)
    value = {"lbf_in": dial.lbf_in, "source": dial.source}
    step = min(dial.done + 1, 3)
    return set_torque(job, dial, tight=step >= 1, wiggled=step >= 2, again=step >= 3, **value)


def held_back(design: Design) -> Dial | None:
    """The screw that holds back power and signature: its torque is unread, and nobody gave a reason to go on."""
    return None if design.job.build.overruled else next(iter(unread(design)), None)


def want_torques(design: Design, field: str) -> None:
    """Stop what may not be done over an unread torque.

    Raises
    ------
    InputError
        Naming the first screw that nobody has read.
    """
    dial = held_back(design)
    if dial is not None:
        text = f"The torque of {dial.told} is not read."
        raise InputError(field, text, f"torque {dial.id} and its value, or energise <reason>")


def unread(design: Design) -> tuple[Dial, ...]:
    """Screws whose torque nobody has read."""
    return tuple(dial for dial in dials_of(design) if dial.lbf_in is None)
