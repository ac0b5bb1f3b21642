"""The price book as a file: CSV out and in, XLSX in; stock and delivered lists come the same way."""

from __future__ import annotations

import csv
import io
from pathlib import Path
from typing import Any, Final

from awlmark.core.errors import FileError, InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.parts.names import item_name
from awlmark.core.plain import cell
from awlmark.core.quantities import read_money, read_number

COLUMNS: Final = ("key", "part", "each", "currency", "note", "stock", "came", "paid")
"""Of the file; key is needed, and at least one that can be taken in."""
TAKEN: Final = ("each", "note", "stock", "came", "paid")
MOST_ROWS: Final = 20000
MOST_BYTES: Final = 20_000_000


def write_book(job: Job) -> str:
    """Every price of a job as CSV text, with its note, and what is in stock, came and was paid."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    keys = dict.fromkeys((*job.prices, *job.stock, *job.delivered, *job.paid))
    for key in keys:
        plain, _, pack = key.partition("@")
        name = item_name(plain) + (f", pack of {pack}" if pack else "")
        held = (job.prices, None, job.price_notes, job.stock, job.delivered, job.paid)
        cells = [job.currency if table is None else table.get(key, "") for table in held]
        writer.writerow([cell(text) for text in (key, name, *cells)])
    return out.getvalue()


def read_book(path: Path, job: Job) -> tuple[Put, ...]:
    """Edits that take in a price book, a stock list or a delivered list.

    Raises
    ------
    FileError
        For a file that cannot be read or is too large.
    InputError
        Naming the cell: a missing column, a price that is none, another currency, a formula.
    """
    try:
        if path.stat().st_size > MOST_BYTES:
            raise FileError(f"{path.name} is larger than {MOST_BYTES // 1_000_000} MB: no price book is.")
        rows = _xlsx(path) if path.suffix.lower() == ".xlsx" else _csv(path)
    except OSError as problem:
        raise FileError(f"Can't read {path.name}: {(problem.strerror or str(problem)).lower()}.") from problem
    if len(rows) > MOST_ROWS:
        raise FileError(f"{path.name} has {len(rows):,} rows; up to {MOST_ROWS:,} are taken.")
    return _edits(rows, job)


def _csv(path: Path) -> list[list[str]]:
    try:
        text = path.read_text(encoding="utf-8-sig")
    except UnicodeDecodeError as problem:
        raise FileError(f"{path.name} is not text in UTF-8: save it as CSV in UTF-8.") from problem
    try:
        return [row for row in csv.reader(io.StringIO(text)) if any(cell.strip() for cell in row)]
    except csv.Error as problem:
        raise FileError(f"{path.name} is no CSV: {problem}.") from problem


def _xlsx(path: Path) -> list[list[str]]:
    from zipfile import BadZipFile

    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        sheet = load_workbook(path, read_only=True).worksheets[0]
        found = []
        for number, row in enumerate(sheet.iter_rows(values_only=True), 1):
            if number > MOST_ROWS + 1:
                raise FileError(f"{path.name} has more than {MOST_ROWS:,} rows.")
            cells = [_cell(value, number, column) for column, value in enumerate(row)]
            if any(cells):
                found.append(cells)
    except (BadZipFile, InvalidFileException, KeyError) as problem:
        raise FileError(f"{path.name} is no XLSX workbook.") from problem
    return found


def _cell(value: Any, row: int, column: int) -> str:
    text = "" if value is None else f"{value:.10g}" if isinstance(value, float) else str(value)
    if text.startswith("="):
        raise InputError(
            _place(row, column), f"A formula, {text[:30]}.", "its value: paste the numbers, not the formulas"
        )
    return text


def _place(row: int, column: int) -> str:
    return f"cell {chr(ord('A') + column)}{row}" if column < 26 else f"row {row}"


def _edits(rows: list[list[str]], job: Job) -> tuple[Put, ...]:
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
        money = cells.get("currency", "")
        if money and money != job.currency:
            at = _place(number, heads.index("currency"))
            raise InputError(
                at, f"The price is in {money[:12]}, the job in {job.currency}.", f"prices in {job.currency}"
            )
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
