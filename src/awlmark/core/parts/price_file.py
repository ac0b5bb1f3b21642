"""The price book as a file: CSV out and in, XLSX in; stock and delivered lists come the same way."""

from __future__ import annotations

import csv
import io
import warnings
from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

from awlmark.core.books import open_book
from awlmark.core.errors import AwlmarkError, FileError, InputError
from awlmark.core.job.by_length import KINDS, UNIT_M
from awlmark.core.job.disk import read_bounded, rows_of_csv
from awlmark.core.job.edit import Put
from awlmark.core.job.limits import PartKey
from awlmark.core.job.model import Job
from awlmark.core.plain import cell
from awlmark.core.quantities import read_money, read_number

COLUMNS: Final = ("key", "part", "each", "unit", "currency", "note", "stock", "came", "paid")
"""Of the file; key is needed, and at least one that can be taken in."""
TAKEN: Final = ("each", "note", "stock", "came", "paid")
MOST_ROWS: Final = 20000
MOST_BYTES: Final = 4 * 2**20
MOST_UNPACKED: Final = 64 * 2**20
MOST_COLUMNS: Final = 64
LONGEST_CELL: Final = 500
ROWS_A_TICK: Final = 500
Progress = Callable[[float], None]
"""Told the share that is done; it may raise to stop the reading."""


def write_book(job: Job) -> str:
    """Every price of a job as CSV text, with its note, and what is in stock, came and was paid."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    keys = dict.fromkeys((*job.prices, *job.stock, *job.delivered, *job.paid))
    for key in keys:
        plain, _, pack = key.partition("@")
        name = open_book(job.code).goods.name(plain) + (f", pack of {pack}" if pack else "")
        unit = job.units if plain.partition(":")[0] in KINDS and not pack else "each"
        held = (job.price_notes, job.stock, job.delivered, job.paid)
        cells = [job.prices.get(key, ""), unit, job.currency, *(table.get(key, "") for table in held)]
        writer.writerow([cell(text) for text in (key, name, *cells)])
    return out.getvalue()


def read_book(path: Path, job: Job, progress: Progress = lambda share: None) -> tuple[Put, ...]:
    """Edits that take in a price book, a stock list or a delivered list.

    Raises
    ------
    FileError
        For a file that cannot be read or is too large.
    InputError
        Naming the cell: a missing column, a price that is none, another currency, a formula.
    """
    return book_edits(read_rows(path, progress), job)


def read_rows(path: Path, progress: Progress = lambda share: None) -> list[list[str]]:
    """Cells of a price book, row by row.

    Raises
    ------
    FileError
        For a file that cannot be read, or is larger than any price book.
    InputError
        For a formula, naming its cell.
    """
    if path.suffix.lower() == ".xlsx":
        return _xlsx(path, progress)
    return rows_of_csv(path, MOST_BYTES, MOST_ROWS, "price book")


def _xlsx(path: Path, progress: Progress) -> list[list[str]]:
    from zipfile import ZipFile

    from openpyxl import load_workbook

    data = io.BytesIO(read_bounded(path, MOST_BYTES, "price book"))
    found: list[list[str]] = []
    try:
        with ZipFile(data) as packed:
            # The reader never takes more of a member than its head says.
            if sum(member.file_size for member in packed.infolist()) > MOST_UNPACKED:
                raise FileError(f"{path.name} unpacks to more than {MOST_UNPACKED // 2**20} MiB: no price book does.")
        with warnings.catch_warnings():
            # What it misses beside the cells is nothing to a price book.
            warnings.simplefilter("ignore")
            sheet = load_workbook(data, read_only=True).worksheets[0]
        for number, row in enumerate(sheet.iter_rows(max_row=MOST_ROWS + 2, max_col=MOST_COLUMNS, values_only=True), 1):
            if number % ROWS_A_TICK == 0:
                progress(number / MOST_ROWS)
            if number > MOST_ROWS + 1:
                raise FileError(f"{path.name} has more than {MOST_ROWS:,} rows, which no price book has.")
            cells = [_cell(value, number, column) for column, value in enumerate(row)]
            if any(cells):
                found.append(cells)
    except AwlmarkError:
        raise
    except Exception as problem:
        # Its readers raise whatever they meet in a damaged file: each is one sentence to the user.
        at = f" behind row {len(found)}" if found else ""
        raise FileError(f"{path.name} is damaged or no XLSX workbook{at} ({type(problem).__name__}).") from problem
    return found


def _cell(value: Any, row: int, column: int) -> str:
    text = "" if value is None else f"{value:.10g}" if isinstance(value, float) else str(value)
    if len(text) > LONGEST_CELL:
        raise InputError(_place(row, column), f"{len(text):,} letters are too many.", f"up to {LONGEST_CELL}")
    if text.startswith("="):
        raise InputError(
            _place(row, column), f"A formula, {text[:30]}.", "its value: paste the numbers, not the formulas"
        )
    return text


def _place(row: int, column: int) -> str:
    return f"cell {chr(ord('A') + column)}{row}" if column < 26 else f"row {row}"


def book_edits(rows: list[list[str]], job: Job) -> tuple[Put, ...]:
    """Edits of a job that take in rows of a price book.

    Raises
    ------
    InputError
        Naming the cell that cannot be taken.
    """
    if not rows:
        raise InputError("price book", "It is empty.", f"a first row with {', '.join(COLUMNS)}")
    heads = [cell.strip().lower() for cell in rows[0]]
    taken = [name for name in TAKEN if name in heads]
    if "key" not in heads or not taken:
        missing = "key" if "key" not in heads else "each"
        raise InputError("price book", f"The column '{missing}' is missing.", f"a first row with {', '.join(COLUMNS)}")
    tables = {"each": "prices", "note": "price_notes", "stock": "stock", "came": "delivered", "paid": "paid"}
    held = {name: dict(getattr(job, table)) for name, table in tables.items()}
    for number, row in enumerate(rows[1:], 2):
        cells = dict(zip(heads, (cell.strip().removeprefix("'") for cell in row), strict=False))
        key = cells.get("key", "")
        if not key:
            continue
        PartKey(True).check(_place(number, heads.index("key")), key)
        money = cells.get("currency", "")
        if money and money != job.currency:
            at = _place(number, heads.index("currency"))
            raise InputError(
                at, f"The price is in {money[:12]}, the job in {job.currency}.", f"prices in {job.currency}"
            )
        unit = cells.get("unit", "")
        if unit in UNIT_M and unit != job.units:
            at = _place(number, heads.index("unit"))
            raise InputError(at, f"Priced by the {unit}, the job buys in {job.units}.", f"prices by the {job.units}")
        for name in taken:
            text = cells.get(name, "")
            if text:
                held[name][key] = _value(name, text, _place(number, heads.index(name)))
    return tuple(Put(tables[name], held[name]) for name in taken)


def _value(name: str, text: str, place: str) -> str:
    if name == "note":
        return text[:120]
    if text.startswith("="):
        raise InputError(place, f"A formula, {text[:30]}.", "its value: paste the numbers, not the formulas")
    if name in ("each", "paid"):
        return read_money(text, place)
    return f"{read_number(text, place, 0, 100000):g}"
