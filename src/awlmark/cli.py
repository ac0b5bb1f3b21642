"""The ``awlmark`` command. Its options and its JSON are a contract; see docs/architecture.md."""

from __future__ import annotations

import argparse
import os
import re
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn

import awlmark
from awlmark.core.errors import AwlmarkError, InputError
from awlmark.terminal import nearest, run_command, wants_a_display

if TYPE_CHECKING:
    from awlmark.core.job.leg import Bundle
    from awlmark.core.job.model import Job
    from awlmark.core.solve.design import Design

COMMANDS = ("demo", "size", "fill", "check", "compare", "export", "schema")
EXPORTS = ("parts.csv", "parts.xlsx", "walls.dxf", "walls.svg", "bends.svg", "packet.pdf", "tests.pdf", "log.csv")
FILL_NOT_ASKED = ("what else is in the pipe", "bends and pull", "heat of neighbours", "wet or dry", "supports")
"""What a bare fill says nothing about."""
_BUNDLE = re.compile(r"(?P<count>\d{1,4})\s*x\s*(?P<what>[^:]+)(?::(?P<kind>.+))?", re.ASCII)


class _Parser(argparse.ArgumentParser):
    """An argument parser that says what is wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise _UsageError(message)


class _UsageError(AwlmarkError):
    """Words the command line does not know."""


def main(arguments: list[str] | None = None) -> int:
    """Run the command; returns the exit status.

    0 no stop, 1 a stop, 2 what cannot be used or done here, 3 what nobody foresaw, 130 stopped by Ctrl+C.
    """
    return run_command(_run, sys.argv[1:] if arguments is None else arguments)


def _run(given: list[str]) -> int:
    if not given or given[0] not in COMMANDS:
        if given and given[0] in ("-h", "--help", "--version"):
            _desk_parser().parse_args(given)
        if given == ["help"]:
            _desk_parser().print_help()
            return 0
        options = _desk_parser().parse_args(given)
        return _desk(options.file and _asked_file(options.file))
    command, rest = given[0], given[1:]
    if command == "demo":
        _Parser(prog="awlmark demo").parse_args(rest)
        return _desk(None, demo=True)
    return {"size": _size, "fill": _fill, "check": _check, "compare": _compare, "export": _export, "schema": _schema}[
        command
    ](rest)


def _asked_file(name: str) -> str:
    """A file that is there, or whose earlier copy is; else the word is told to be neither file nor command."""
    from awlmark.core.job.disk import previous_copy

    path = Path(name)
    if path.exists() or previous_copy(path).exists():
        return name
    if os.sep in name or path.suffix:
        raise _UsageError(f"There is no file '{name}'.")
    raise _UsageError(f"'{name}' is no command and no file.{nearest(name, COMMANDS)} Commands: {', '.join(COMMANDS)}.")


def _desk_parser() -> _Parser:
    parser = _Parser(
        prog="awlmark",
        description="Design the branch circuit for an electric-vehicle charger.",
        epilog="Commands: "
        + ", ".join(COMMANDS)
        + ". Exit status: 0 no stop, 1 a stop, 2 what cannot be used or done here, 3 what nobody foresaw. "
        "Planning aid only: local code and a licensed electrician decide.",
        allow_abbrev=False,
    )
    parser.add_argument("file", nargs="?", help="job file to open")
    parser.add_argument("--version", action="version", version=f"awlmark {awlmark.__version__}")
    return parser


def _desk(file: str | None, *, demo: bool = False) -> int:
    import gc

    wants_a_display()
    gc.disable()  # start-up makes much and frees little; the desk collects by itself when the hand rests
    from awlmark.desk.start import start

    return start(Path(file) if file else None, demo=demo)


def _print_json(values: Any) -> None:
    import json

    print(json.dumps(values, indent=1, ensure_ascii=False, allow_nan=False))


# -- size ------------------------------------------------------------------------------------------------------------


def _size(given: list[str]) -> int:
    parser = _Parser(prog="awlmark size", allow_abbrev=False)
    for name in ("charge-a", "length"):
        parser.add_argument(f"--{name}", required=True)
    for name in (
        "code",
        "system",
        "connection",
        "method",
        "material",
        "insulation",
        "ambient",
        "extra-ccc",
        "terminal",
    ):
        parser.add_argument(f"--{name}")
    for name in ("max-drop", "size", "trade-size", "ground-size", "other-conductors", "place", "occupancy"):
        parser.add_argument(f"--{name}")
    parser.add_argument("--format", choices=("text", "json"), default="text")
    options = parser.parse_args(_glue_negatives(given))

    from awlmark.core.report import circuit_text, circuit_values
    from awlmark.core.solve.design import solve

    design = solve(_size_job(options))
    if options.format == "json":
        _print_json(circuit_values(design))
    else:
        print("\n".join(circuit_text(design, quote=True)))
    return 1 if design.stops else 0


def _glue_negatives(given: list[str]) -> list[str]:
    """Join ``--ambient -5C`` to ``--ambient=-5C``: a value may begin with a minus, an option never stands for one."""
    glued: list[str] = []
    for word in given:
        if glued and re.fullmatch(r"--[a-z-]+", glued[-1]) and re.match(r"-[\d.∞in]", word):
            glued[-1] += "=" + word
        else:
            glued.append(word)
    return glued


def _size_job(options: argparse.Namespace) -> Job:
    from awlmark.core import quantities as q
    from awlmark.core.books import open_book
    from awlmark.core.job import model as m
    from awlmark.core.job.leg import PLACES, Leg
    from awlmark.core.job.supply import Supply
    from awlmark.core.job.values import check_values
    from awlmark.core.shelf import EDITIONS, NEWEST

    edition = _choice("code", options.code or NEWEST, EDITIONS)
    book = open_book(edition)
    place = _choice("place", options.place or "indoor", PLACES)
    method = _choice("method", options.method or book.usual[place], tuple(book.methods))
    trade = None
    if options.trade_size is not None:
        if book.methods[method].cable:
            raise InputError("trade size", f"{book.methods[method].name} is a cable and has none.", "a raceway method")
        trade = q.read_trade_size(options.trade_size, book.trade_sizes_of(book.methods[method]))
    terminal = None
    if options.terminal is not None:
        terminal = int(_choice("terminal", options.terminal.upper().removesuffix("C").strip(), ("60", "75")))
    leg = Leg(
        id="leg-1",
        direction="right",
        length_m=q.read_length(options.length),
        end="charger",
        place=place,
        method=method,
        trade_size=trade,
        ambient_c=q.read_temperature(options.ambient) if options.ambient is not None else None,
    )
    circuit = m.Circuit(
        material=_choice("material", options.material, m.MATERIALS),
        insulation=_choice("insulation", options.insulation, book.insulations),
        size=q.read_gauge(options.size, book.sizes) if options.size is not None else None,
        ground_size=q.read_gauge(options.ground_size, book.sizes, "ground size") if options.ground_size else None,
        max_drop_percent=_number(options.max_drop, "max-drop", *m.DROP_RANGE_PERCENT, "%", 3.0),
        extra_ccc=_count(options.extra_ccc, "extra-ccc"),
        others=_bundles(options.other_conductors, "other-conductors") if options.other_conductors else (),
    )
    return check_values(
        m.new_job(
            code=edition,
            occupancy=_choice("occupancy", options.occupancy or "dwelling", m.OCCUPANCIES),
            supply=Supply(
                system=_choice("system", options.system or "120/240", tuple(book.systems)),
                place=place,
                terminal_c=terminal,
            ),
            charger=m.Charger(
                nameplate_a=_number(options.charge_a, "charge-a", *m.CHARGE_RANGE_A, "A"),
                connection=(options.connection or "hardwired").lower(),
                terminal_c=terminal,
            ),
            circuit=circuit,
            legs=(leg,),
        )
    )


def _choice(field: str, value: str | None, known: tuple[str, ...]) -> Any:
    if value is None:
        return None
    if value.lower() not in known:
        raise InputError(field, f"Can't use '{value[:60]}'.", "one of " + ", ".join(known))
    return value.lower()


def _number(text: str | None, field: str, low: float, high: float, unit: str, default: float = 0.0) -> float:
    from awlmark.core.quantities import read_number

    return default if text is None else read_number(text, field, low, high, unit)


def _count(text: str | None, field: str) -> int:
    value = _number(text, field, 0, 100, "")
    if value != int(value):
        raise InputError(field, f"'{text}' is no whole number.", "0 to 100")
    return int(value)


def _bundles(text: str, field: str) -> tuple[Bundle, ...]:
    """Read ``3x6:thwn-2,1x10:thwn-2,1x0.55in:cable``."""
    from awlmark.core import quantities as q
    from awlmark.core.books import open_book
    from awlmark.core.job.leg import MOST_CONDUCTORS, Bundle
    from awlmark.core.shelf import NEWEST

    book = open_book(NEWEST)
    found = []
    for word in text.split(","):
        match = _BUNDLE.fullmatch(word.strip().lower())
        count = int(match["count"]) if match else 0
        if match is None or not 1 <= count <= MOST_CONDUCTORS:
            accepted = f"count x size : insulation, such as 3x6:thwn-2 (1 to {MOST_CONDUCTORS} of each)"
            raise InputError(field, f"Can't read '{word.strip()[:60]}'.", accepted)
        kind = match["kind"] or "thwn-2"
        if kind == "cable":
            diameter = q.read_length(match["what"], f"{field}, cable diameter")
            if diameter > 0.15:
                raise InputError(field, f"A cable {match['what']} thick is out of reach.", "a diameter up to 6in")
            found.append(Bundle(count=count, diameter_m=diameter))
            continue
        _choice(f"{field}, insulation", kind, (*book.insulations, "cable"))
        found.append(Bundle(count=count, size=q.read_gauge(match["what"], book.sizes, field), insulation=kind))
    return tuple(found)


# -- fill ------------------------------------------------------------------------------------------------------------


def _fill(given: list[str]) -> int:
    parser = _Parser(prog="awlmark fill", allow_abbrev=False)
    for name in ("raceway", "trade-size", "conductors"):
        parser.add_argument(f"--{name}", required=True)
    parser.add_argument("--length")
    parser.add_argument("--format", choices=("text", "json"), default="text")
    options = parser.parse_args(_glue_negatives(given))

    from awlmark.core import quantities as q
    from awlmark.core.books import open_book
    from awlmark.core.shelf import NEWEST

    book = open_book(NEWEST)
    pipes = tuple(key for key, method in book.methods.items() if not method.cable)
    method = book.methods[_choice("raceway", options.raceway, pipes)]
    trade = q.read_trade_size(options.trade_size, book.trade_sizes_of(method))
    length = q.read_length(options.length) if options.length is not None else None
    if book.circuit.fill is None:
        raise InputError("rule book (code)", f"{book.title} has no rule for fill.", "another book")
    told = book.circuit.fill(book, method, trade, _bundles(options.conductors, "conductors"), length)
    if options.format == "json":
        _print_json({**told, "not_asked": list(FILL_NOT_ASKED)})
    else:
        verdict = "holds as far as asked (fill)" if told["holds"] else "stop: overfull"
        print(f"{verdict}: {told['fill_percent']} % of {told['limit_percent']} % in {trade} {method.name}")
        if told["jam_ratio"] is not None:
            print(f"jam ratio {told['jam_ratio']} (2.8 to 3.2 can wedge)")
        print(f"Not asked: {', '.join(FILL_NOT_ASKED)}")
    return 0 if told["holds"] else 1


# -- files -----------------------------------------------------------------------------------------------------------


def _check(given: list[str]) -> int:
    parser = _Parser(prog="awlmark check", allow_abbrev=False)
    parser.add_argument("file")
    parser.add_argument("--format", choices=("text", "json"), default="text")
    parser.add_argument("--accept-overrules", action="store_true", help="a stop that was overruled leaves status 0")
    options = parser.parse_args(given)

    from awlmark.core.job.file import read_job
    from awlmark.core.report import circuit_text, job_values
    from awlmark.core.solve.design import settled, solve

    design = settled(solve(read_job(Path(options.file))))
    if options.format == "json":
        _print_json(job_values(design))
    else:
        cost = f"{design.job.currency}{design.cost:,.2f}"
        print(design.job.name)
        print("\n".join(circuit_text(design)))
        print(f"Parts      {'from ' if design.unpriced else ''}{cost}, {len(design.parts)} lines")
    return _status(design, options.accept_overrules)


def _status(design: Design, accept_overrules: bool) -> int:
    """1 where a rule is broken; one that was overruled counts as broken unless it is said to be accepted."""
    return 1 if design.stops or (design.overruled and not accept_overrules) else 0


def _compare(given: list[str]) -> int:
    parser = _Parser(prog="awlmark compare", allow_abbrev=False)
    parser.add_argument("file")
    parser.add_argument("--format", choices=("text", "json"), default="text")
    parser.add_argument("--top", default="10")
    parser.add_argument("--rank", default="price")
    parser.add_argument("--where", default="", help="conditions such as 'drop<=2,material=cu'")
    options = parser.parse_args(given)

    from awlmark.core.job.file import read_job
    from awlmark.core.options.compare import compare, read_filters
    from awlmark.core.quantities import read_number
    from awlmark.core.report import comparison_text, comparison_values

    job = read_job(Path(options.file))
    where = read_filters(options.where)
    found = compare(job, int(read_number(options.top, "top", 1, 1000)), options.rank, where=where)
    if options.format == "json":
        _print_json(comparison_values(job, found))
    else:
        print("\n".join(comparison_text(job, found)))
    return 0 if found.holding else 1


def _export(given: list[str]) -> int:
    parser = _Parser(prog="awlmark export", allow_abbrev=False)
    parser.add_argument("file")
    parser.add_argument("--to", required=True)
    parser.add_argument("--only", default=",".join(EXPORTS))
    parser.add_argument("--names", default="plain", help="job: each file begins with the job's name")
    parser.add_argument("--accept-overrules", action="store_true", help="a stop that was overruled leaves status 0")
    options = parser.parse_args(given)
    own_names = _choice("names", options.names, ("plain", "job")) == "job"
    wanted = [_choice("only", name.strip(), EXPORTS) for name in options.only.split(",")]

    from awlmark.core.job.file import read_job
    from awlmark.core.solve.design import solve
    from awlmark.paper import write_all

    design = solve(read_job(Path(options.file)))
    for path in write_all(design, Path(options.to), tuple(wanted), own_names=own_names):
        print(path)
    return _status(design, options.accept_overrules)


def _schema(given: list[str]) -> int:
    _Parser(prog="awlmark schema").parse_args(given)

    from awlmark.core.job.file import schema

    _print_json(schema())
    return 0
