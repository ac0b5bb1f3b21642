"""The terminals at both ends and between: metal, gauges they take, torque, and the copper tail."""

from __future__ import annotations

import functools
from typing import Final

import msgspec
import numpy as np

from awlmark.core.books import Book
from awlmark.core.books.nec.edition import COLUMNS_C, nec
from awlmark.core.books.nec.printed import number, printed
from awlmark.core.books.nec.sizing.ampacity import terminal_column
from awlmark.core.books.nec.sizing.opening import CONTINUOUS, LARGE_CIRCUIT_A
from awlmark.core.circuit.case import Case
from awlmark.core.circuit.chosen_row import Teller
from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD, Finding, Fix
from awlmark.core.job.edit import Put
from awlmark.core.job.model import MATERIALS
from awlmark.core.job.supply import Lug
from awlmark.core.names import METAL_NAMES
from awlmark.core.quantities import is_kcmil, print_gauge, print_label_torque, print_length

BREAKER_TAKES: Final = ((30.0, "8"), (60.0, "4"), (100.0, "1"))
DEVICE_TAKES: Final = ((20.0, "10"), (60.0, "6"))
"""Largest gauge that common breakers, and units and outlets, of a rating up to this take; common practice."""


@functools.cache
def fallback_torque(size: str) -> float | None:
    """Torque for a slotted lug of a gauge where no label tells it [lbf-in], Annex I, Table I.1; None beyond it."""
    for row in printed("torque_annex_i").rows:
        if row["screw"] != "slotted":
            continue
        low, _, high = row["size_or_screw"].removesuffix(" AWG").removesuffix(" kcmil").partition("-")
        ends = [_order(low), _order(high or low)]
        if min(ends) <= _order(size) <= max(ends):
            return number(row["torque_lbf_in"])
    return None


def _order(size: str) -> float:
    """Gauges in the order of their thickness."""
    if "/" in size:
        return float(size.split("/")[0])
    value = float(size)
    return value if is_kcmil(size) else 1 - value


class Landing(msgspec.Struct, frozen=True):
    """One place where the circuit lands in terminals."""

    end: str
    """Id in findings: ``panel``, ``charger``, ``disconnect``."""
    whose: str
    """In words, such as ``the unit's``."""
    lug: Lug
    path: str
    word: str
    """First words of the entry that reads its label."""
    metal: str
    size: str
    where: str
    at_m: float


def landings(t: Teller) -> list[Landing]:
    """Every terminal in the order of the run, with the metal and the gauge that land in it."""
    job, length = t.case.job, t.case.line.length_m
    tail = job.circuit.copper_tail and t.metal == "al"
    metal, size = ("cu", tail_size(t.case, t.breaker_a)) if tail else (t.metal, t.size)
    far = "the receptacle's" if t.case.receptacle is not None else "the charger's"
    found = [
        Landing("panel", "the breaker's", job.supply.lug, "supply.lug", "lug panel", t.metal, t.size, "panel", 0.0)
    ]
    if job.charger.disconnect:
        lug = job.charger.disconnect_lug
        path = "charger.disconnect_lug"
        found.append(
            Landing("disconnect", "the disconnect's", lug, path, "lug disconnect", metal, size, "charger", length)
        )
    if job.charger.pigtail is None:
        lug = job.charger.lug
        found.append(Landing("charger", far, lug, "charger.lug", "lug charger", metal, size, "charger", length))
    return found


def tail_size(case: Case, breaker_a: float) -> str:
    """Gauge of a copper tail behind aluminium: the smallest that carries the load and that the breaker protects."""
    copper, book = MATERIALS.index("cu"), nec(case.book)
    amps = book.ampacity_a[copper, COLUMNS_C.index(terminal_column(case, breaker_a))]
    protects = np.minimum(book.next_rating(amps), book.small_breaker_a[copper])
    fits = (amps >= CONTINUOUS * case.charge_a - 1e-9) & (protects >= breaker_a - 1e-9)
    return book.sizes[int(np.argmax(fits))] if fits.any() else book.sizes[-1]


@functools.lru_cache(maxsize=256)
def usual_most(book: Book, metal: str, breaker_a: float, takes: tuple[tuple[float, str], ...] = DEVICE_TAKES) -> str:
    """Largest gauge that terminals of a breaker's rating are sure to take.

    A listed device takes the wire that its rating asks for in the 60 C column up to 100 A, in the 75 C column above
    (110.14(C)); what is larger goes by its label.
    """
    column = COLUMNS_C.index(60 if breaker_a <= LARGE_CIRCUIT_A else 75)
    carries = nec(book).ampacity_a[MATERIALS.index(metal), column] >= breaker_a - 1e-9
    at = int(np.argmax(carries)) if carries.any() else len(book.sizes) - 1
    common = next((size for amps, size in takes if breaker_a <= amps + 1e-9), book.sizes[0])
    return book.sizes[max(at, book.size_index(common))]


def tell_lugs(t: Teller) -> list[Finding]:
    """Every terminal: gauge range, metal, torque; what its label has to say is asked where the wire is unusual."""
    job, book = t.case.job, t.book
    found = [_landing(t, landing) for landing in landings(t)]
    if job.circuit.copper_tail and t.metal == "al":
        text = (
            "Aluminium ends in a splice box listed for both metals, with compound; "
            f"{print_gauge(tail_size(t.case, t.breaker_a))} copper goes on to the charger."
        )
        found.append(Finding("tail", NOTE, "Copper tail", text, book.cite("splice"), where="charger"))
    if t.metal == "al":
        found += _aluminium_splices(t)
    return found


def _landing(t: Teller, at: Landing) -> Finding:
    job, book, lug = t.case.job, t.book, at.lug
    told = {"where": at.where, "at_m": at.at_m}
    metal, gauge = METAL_NAMES[at.metal], print_gauge(at.size)
    cite = book.cite("terminal_metal")
    if at.metal == "al" and lug.copper_only is not False:
        fixes = [t.copper()]
        if at.end != "panel" and not job.circuit.copper_tail:
            fixes.append(Fix("Splice to a copper tail", (Put("circuit.copper_tail", True),)))
        if lug.copper_only:
            text = f"{at.whose.capitalize()} terminals take copper only; aluminium works loose and burns in them."
            return Finding(f"lug:{at.end}", STOP, "Copper-only terminal", text, cite, fixes=tuple(fixes), **told)  # type: ignore[arg-type]
        text = (
            f"Do {at.whose} terminals take aluminium? Most units and many receptacles are for copper only. "
            f"Read the label: metals, gauges; {gauge} {metal} lands there."
        )
        return Finding(
            f"lug:{at.end}", UNREAD, "Terminal not read", text, cite, fixes=tuple(fixes), ask=f"{at.word} ",
            **told,  # type: ignore[arg-type]
        )  # fmt: skip
    sizes = book.sizes
    below = lug.least is not None and sizes.index(at.size) < sizes.index(lug.least)
    above = lug.most is not None and sizes.index(at.size) > sizes.index(lug.most)
    if below or above:
        limit = print_gauge(str(lug.least if below else lug.most))
        which = "small" if below else "large"
        text = f"{gauge} is too {which} for {at.whose} terminals, which take {limit}."
        pin = (Fix(limit, (Put("circuit.size", lug.least if below else lug.most),)),) if at.size == t.size else ()
        return Finding(f"lug:{at.end}", STOP, "Lug range", text, cite, fixes=pin, **told)  # type: ignore[arg-type]
    usual = usual_most(book, at.metal, t.breaker_a, BREAKER_TAKES if at.end == "panel" else DEVICE_TAKES)
    if lug.most is None and sizes.index(at.size) > sizes.index(usual):
        text = (
            f"Do {at.whose} terminals take {gauge}? Up to {print_gauge(usual)} they do; larger goes by the label, "
            "or by a short piece spliced on."
        )
        cite = book.cite("terminal_size")
        return Finding(f"lug:{at.end}", UNREAD, "Terminal not read", text, cite, ask=f"{at.word} ", **told)  # type: ignore[arg-type]
    if lug.torque_lbf_in is not None:
        text = f"Tighten {at.whose} terminals to {lug.torque_lbf_in:g} lbf-in, as their label says."
    else:
        fallback = fallback_torque(at.size)
        rest = (
            f" Where none is marked, {book.clause('annex')} gives {print_label_torque(fallback, job.units)}."
            if fallback
            else ""
        )
        text = f"Torque of {at.whose} terminals: read it off the part, the label wins.{rest}"
    if lug.strip_m is not None:
        text += f" Strip {print_length(lug.strip_m, job.units)}."
    return Finding(f"lug:{at.end}", HOLDS, "Terminal", text, book.cite("torque"), **told)  # type: ignore[arg-type]


def _aluminium_splices(t: Teller) -> list[Finding]:
    """Connectors of every splice on the way, listed for aluminium or not."""
    found = []
    for walked in t.case.line.legs:
        leg = walked.leg
        if leg.end not in ("box", "body") or not leg.spliced or leg.splice_al:
            continue
        path = f"legs[{leg.id}].splice_al"
        text = f"Are the connectors at leg {walked.number} listed for aluminium? Others burn."
        if leg.splice_al is False:
            text = f"The connectors at leg {walked.number} are not listed for aluminium: they burn."
        found.append(
            Finding(
                f"splice:{leg.id}", UNREAD if leg.splice_al is None else STOP, "Aluminium splice", text,
                t.book.cite("splice"), where=leg.id, at_m=walked.end_m,
                fixes=(Fix("Listed for aluminium", (Put(path, True),)),), ask=f"leg {walked.number} connectors ",
            )
        )  # fmt: skip
    return found
