"""A bare quote: words of the command line become a job of one leg."""

from __future__ import annotations

import argparse
import re
from typing import Any, Final

from msgspec.structs import replace

from awlmark.core import quantities as q
from awlmark.core.books import Book, open_book
from awlmark.core.errors import InputError
from awlmark.core.job import model as m
from awlmark.core.job.leg import MOST_CONDUCTORS, PLACES, Bundle, Leg
from awlmark.core.job.supply import EARTHINGS, Supply
from awlmark.core.job.values import check_values
from awlmark.core.shelf import CODES, NEWEST

COMMON: Final = (
    "code", "system", "connection", "method", "material", "insulation", "ambient", "terminal", "max-drop", "size",
    "trade-size", "ground-size", "other-conductors", "place",
)  # fmt: skip
"""Options of every rule book."""
OF_BOOK: Final = (
    "extra-ccc", "occupancy", "device", "breaker", "earthing", "ze", "ra", "pen", "ground-temp", "soil", "circuits",
    "spread", "insulated", "supply",
)  # fmt: skip
"""Options that only the books take which name them."""
_BUNDLE: Final = re.compile(r"(?P<count>\d{1,4})\s*x\s*(?P<what>[^:]+)(?::(?P<kind>.+))?", re.ASCII)


def book_of(code: str | None) -> Book:
    """The rule book of a quote; the newest American one unless told."""
    return open_book(choice("code", code or NEWEST, CODES))


def size_job(options: argparse.Namespace) -> m.Job:
    """The job that a quote asks about.

    Raises
    ------
    InputError
        Naming the option, and what is accepted.
    """
    book = book_of(options.code)
    _refuse_foreign(options, book)
    rules = book.circuit
    place = choice("place", options.place, PLACES)
    method = choice("method", options.method or book.usual[place or "indoor"], tuple(book.methods))
    place = place or rules.usual_place(method)
    trade = None
    if options.trade_size is not None:
        if book.methods[method].cable:
            raise InputError("trade size", f"{book.methods[method].name} is a cable and has none.", "a raceway method")
        trade = book.read_trade(options.trade_size, book.trade_sizes_of(book.methods[method]), "trade size")
    terminal = None
    if options.terminal is not None:
        marked = tuple(f"{each}" for each in rules.terminals_c)
        terminal = int(choice("terminal", options.terminal.upper().removesuffix("C").strip(), marked))
    leg = Leg(
        id="leg-1",
        direction="right",
        length_m=q.read_length(options.length, units=book.units),
        end="charger",
        place=place,
        method=method,
        trade_size=trade,
        ambient_c=q.read_temperature(options.ambient) if options.ambient is not None else None,
    )
    told = options.other_conductors
    circuit = m.Circuit(
        material=choice("material", options.material, m.MATERIALS),
        insulation=choice("insulation", options.insulation, book.insulations),
        size=book.read_size(options.size, book.sizes, "conductor size") if options.size is not None else None,
        ground_size=book.read_size(options.ground_size, book.sizes, "ground size") if options.ground_size else None,
        max_drop_percent=number(options.max_drop, "max-drop", *m.DROP_RANGE_PERCENT, "%") if options.max_drop else None,
        extra_ccc=count(options.extra_ccc, "extra-ccc"),
        others=read_bundles(told, "other-conductors", book) if told else (),
    )
    job = m.new_job(
        code=book.key,
        units=book.units,
        currency=book.currency,
        occupancy=choice("occupancy", options.occupancy or "dwelling", m.OCCUPANCIES),
        supply=Supply(
            system=choice("system", options.system or next(iter(book.systems)), tuple(book.systems)),
            place=place,
            terminal_c=terminal,
        ),
        charger=m.Charger(
            nameplate_a=number(options.charge_a, "charge-a", *m.CHARGE_RANGE_A, "A"),
            connection=choice("connection", options.connection or rules.connections[0], rules.connections),
            terminal_c=terminal,
        ),
        circuit=circuit,
        legs=(leg,),
    )
    return check_values(rules.quote(_with_own(job, options, book)))


def _refuse_foreign(options: argparse.Namespace, book: Book) -> None:
    for name in OF_BOOK:
        if getattr(options, name.replace("-", "_")) is not None and name not in book.circuit.quote_words:
            takes = ", ".join(f"--{word}" for word in (*COMMON, *book.circuit.quote_words))
            raise InputError(name, f"{book.title} does not use --{name}.", takes)


def _with_own(job: m.Job, options: argparse.Namespace, book: Book) -> m.Job:
    """The words of its own that a book takes; what is not told of the leg's neighbours is none."""
    if "circuits" not in book.circuit.quote_words:
        return job
    told = options.breaker
    ratings = tuple(f"{rating:g}" for rating in book.ratings_a)
    circuits = count(options.circuits, "circuits") if options.circuits is not None else 1
    if circuits < 1:
        raise InputError("circuits", "The circuit itself is one.", "1 to 100")
    leg = replace(
        job.legs[0],
        beside=circuits - 1,
        spread=options.spread or "",
        insulated_m=q.read_length(options.insulated, "insulated", "m", zero=True) if options.insulated else 0.0,
        ground_c=q.read_temperature(options.ground_temp, "ground temperature") if options.ground_temp else None,
        soil=number(options.soil, "soil", 0.2, 10, "K m/W") if options.soil else None,
    )
    return replace(
        job.with_run(
            legs=(leg,),
            circuit=replace(
                job.circuit,
                device=choice("device", options.device, m.DEVICES),
                breaker_a=float(choice("breaker", told.strip().upper().removesuffix("A"), ratings)) if told else None,
            ),
            charger=replace(job.charger, pen=choice("pen", options.pen, m.PEN_ANSWERS)),
        ),
        supply=replace(
            job.supply,
            earthing=choice("earthing", options.earthing, EARTHINGS),
            ze_ohm=number(options.ze, "ze", 0.001, 5000, "ohm") if options.ze else None,
            ra_ohm=number(options.ra, "ra", 0.1, 5000, "ohm") if options.ra else None,
            private=choice("supply", options.supply or "public", ("public", "private")) == "private",
        ),
    )


def choice(field: str, value: str | None, known: tuple[str, ...]) -> Any:
    """A word that is one of some; None where it is not told.

    Raises
    ------
    InputError
        Naming the field and what is known.
    """
    if value is None:
        return None
    if value.lower() not in known:
        raise InputError(field, f"Can't use '{value[:60]}'.", "one of " + ", ".join(known))
    return value.lower()


def number(text: str | None, field: str, low: float, high: float, unit: str, default: float = 0.0) -> float:
    """A number between two bounds; the default where it is not told."""
    return default if text is None else q.read_number(text, field, low, high, unit)


def count(text: str | None, field: str) -> int:
    """A whole number to 100; none where it is not told."""
    value = number(text, field, 0, 100, "")
    if value != int(value):
        raise InputError(field, f"'{text}' is no whole number.", "0 to 100")
    return int(value)


def read_bundles(text: str, field: str, book: Book) -> tuple[Bundle, ...]:
    """Read ``3x6:thwn-2,1x10:thwn-2,1x0.55in:cable``.

    Raises
    ------
    InputError
        Naming the word that can't be read.
    """
    found = []
    usual = book.circuit.insulation["cu"]
    for word in text.split(","):
        match = _BUNDLE.fullmatch(word.strip().lower())
        many = int(match["count"]) if match else 0
        if match is None or not 1 <= many <= MOST_CONDUCTORS:
            accepted = f"count x size : insulation, such as 3x6:{usual} (1 to {MOST_CONDUCTORS} of each)"
            raise InputError(field, f"Can't read '{word.strip()[:60]}'.", accepted)
        kind = match["kind"] or usual
        if kind == "cable":
            diameter = q.read_length(match["what"], f"{field}, cable diameter", book.units)
            if diameter > 0.15:
                raise InputError(field, f"A cable {match['what']} thick is out of reach.", "a diameter up to 6in")
            found.append(Bundle(count=many, diameter_m=diameter))
            continue
        choice(f"{field}, insulation", kind, (*book.insulations, "cable"))
        found.append(Bundle(count=many, size=book.read_size(match["what"], book.sizes, field), insulation=kind))
    return tuple(found)
