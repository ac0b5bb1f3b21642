"""The ``awlmark`` command. Its options and its JSON are a contract; see docs/architecture.md."""

from __future__ import annotations

import argparse
import os
import re
import sys
from pathlib import Path
from textwrap import wrap
from typing import TYPE_CHECKING, Any, NoReturn

import awlmark
from awlmark.core.errors import AwlmarkError, InputError
from awlmark.core.shelf import NEWEST
from awlmark.handover import hand_over, path_of
from awlmark.options import COMMANDS, EXPORTS, command, statuses, told
from awlmark.terminal import nearest, run_command, wants_a_display, wants_libraries

if TYPE_CHECKING:
    from awlmark.core.solve.design import Design

NAMES = tuple(each.name for each in COMMANDS)
FILL_NOT_ASKED = ("what else is in the pipe", "bends and pull", "heat of neighbours", "wet or dry", "supports")
"""What a bare fill says nothing about."""


class _Parser(argparse.ArgumentParser):
    """An argument parser that says what is wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise _UsageError(message)


class _UsageError(AwlmarkError):
    """Words the command line does not know."""


def _parser(name: str) -> _Parser:
    """The parser of a command, from its table."""
    made = command(name)
    parser = _Parser(
        prog=f"awlmark {name}", description=made.says, allow_abbrev=False,
        formatter_class=argparse.RawDescriptionHelpFormatter,
        epilog="\n".join(["Examples:", *(f"  {example}" for example in made.examples), "", *wrap(statuses(), 78)]),
    )  # fmt: skip
    for option in made.options:
        says = told(option).replace("%", "%%")
        if not option.name.startswith("--"):
            parser.add_argument(option.name, metavar=option.value, help=says)
        elif not option.value:
            parser.add_argument(option.name, action="store_true", help=says)
        else:
            parser.add_argument(
                option.name, metavar=option.value, default=option.default, choices=option.choices or None,
                required=option.needed, help=says,
            )  # fmt: skip
    return parser


def main(arguments: list[str] | None = None) -> int:
    """Run the command; returns the exit status.

    0 no stop, 1 a stop, 2 what cannot be used or done here, 3 what nobody foresaw, 130 stopped by Ctrl+C.
    """
    return run_command(_run, sys.argv[1:] if arguments is None else arguments)


def _run(given: list[str]) -> int:
    if not given or given[0] not in NAMES:
        if given and given[0] in ("-h", "--help", "--version"):
            _desk_parser().parse_args(given)
        if given == ["help"]:
            _desk_parser().print_help()
            return 0
        options = _desk_parser().parse_args(given)
        return _desk([_asked_file(name) for name in options.file])
    command, rest = given[0], given[1:]
    if command == "demo":
        return _desk([], demo=True, code=_parser("demo").parse_args(rest).code)
    return {"size": _size, "fill": _fill, "check": _check, "compare": _compare, "export": _export, "schema": _schema}[
        command
    ](rest)


def _asked_file(name: str) -> Path:
    """A file that is there, or whose earlier copy is; else the word is told to be neither file nor command."""
    from awlmark.core.job.disk import previous_copy

    path = path_of(name)
    if path.exists() or previous_copy(path).exists():
        return path
    if os.sep in name or path.suffix:
        raise _UsageError(f"There is no file '{name}'.")
    raise _UsageError(f"'{name}' is no command and no file.{nearest(name, NAMES)} Commands: {', '.join(NAMES)}.")


def _desk_parser() -> _Parser:
    told_of = [f"  {each.name:9}{each.says}" for each in COMMANDS]
    parser = _Parser(
        prog="awlmark",
        description="Design the branch circuit for an electric-vehicle charger.",
        epilog="\n".join([
            "Commands (awlmark COMMAND --help tells each):", *told_of, "", *wrap(statuses(), 78), "",
            "Planning aid only: local code and a licensed electrician decide.",
        ]),
        formatter_class=argparse.RawDescriptionHelpFormatter,
        allow_abbrev=False,
    )  # fmt: skip
    parser.add_argument("file", nargs="*", help="jobs to open, by path or file:// address; each in a window of its own")
    parser.add_argument("--version", action="version", version=f"awlmark {awlmark.__version__}")
    return parser


def _desk(files: list[Path], *, demo: bool = False, code: str = NEWEST) -> int:
    import gc

    wants_a_display()
    if hand_over({"files": [str(path.absolute()) for path in files], "demo": code if demo else None}):
        return 0
    wants_libraries()
    gc.disable()  # start-up makes much and frees little; the desk collects by itself when the hand rests
    from awlmark.desk.start import start

    return start(files, demo=demo, code=code)


def _print_json(values: Any) -> None:
    import json

    print(json.dumps(values, indent=1, ensure_ascii=False, allow_nan=False))


# -- size ------------------------------------------------------------------------------------------------------------


def _size(given: list[str]) -> int:
    from awlmark.quote import size_job

    options = _parser("size").parse_args(_glue_negatives(given))

    from awlmark.core.report import circuit_text, circuit_values
    from awlmark.core.solve.design import solve

    design = solve(size_job(options))
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


# -- fill ------------------------------------------------------------------------------------------------------------


def _fill(given: list[str]) -> int:
    options = _parser("fill").parse_args(_glue_negatives(given))

    from awlmark.core import quantities as q
    from awlmark.quote import book_of, choice, count, read_bundles

    book = book_of(options.code)
    rules = book.circuit
    named = rules.fill_raceways or {key: key for key, method in book.methods.items() if not method.cable}
    raceway = choice("raceway", options.raceway, tuple(named))
    method = book.methods[named[raceway]]
    trade = book.read_trade(options.trade_size, book.trade_sizes_of(method), "trade size")
    length = q.read_length(options.length, units=book.units) if options.length is not None else None
    if rules.fill is None:
        raise InputError("rule book (code)", f"{book.title} has no rule for fill.", "another book")
    if options.bends is not None and not rules.fill_raceways:
        raise InputError("bends", f"Bends play no part in the fill of {book.title}.", "no --bends")
    bundles = read_bundles(options.conductors, "conductors", book)
    told = rules.fill(book, method, trade, bundles, length, count(options.bends, "bends"))
    if options.format == "json":
        _print_json({**told, "not_asked": list(FILL_NOT_ASKED)})
    else:
        verdict = "holds as far as asked (fill)" if told["holds"] else "stop: overfull"
        name = raceway if rules.fill_raceways else method.name
        print(f"{verdict}: {told['fill_percent']} % of {told['limit_percent']} % in {trade} {name}")
        if told.get("jam_ratio") is not None:
            print(f"jam ratio {told['jam_ratio']} (2.8 to 3.2 can wedge)")
        print(f"Not asked: {', '.join(FILL_NOT_ASKED)}")
    return 0 if told["holds"] else 1


# -- files -----------------------------------------------------------------------------------------------------------


def _check(given: list[str]) -> int:
    options = _parser("check").parse_args(given)

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
    options = _parser("compare").parse_args(given)

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
    options = _parser("export").parse_args(given)
    from awlmark.quote import choice

    own_names = choice("names", options.names, ("plain", "job")) == "job"
    wanted = [choice("only", name.strip(), EXPORTS) for name in options.only.split(",")]

    from awlmark.core.job.file import read_job
    from awlmark.core.solve.design import solve
    from awlmark.paper import write_all

    design = solve(read_job(Path(options.file)))
    for path in write_all(design, Path(options.to), tuple(wanted), own_names=own_names):
        print(path)
    return _status(design, options.accept_overrules)


def _schema(given: list[str]) -> int:
    _parser("schema").parse_args(given)

    from awlmark.core.job.file import schema

    _print_json(schema())
    return 0
