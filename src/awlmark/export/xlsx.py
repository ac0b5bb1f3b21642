"""The list as a spreadsheet: real numbers, totals as formulas, the head frozen; the same job gives the same bytes."""

from __future__ import annotations

import datetime as dt
import io
import zipfile
from typing import Any, Final

from awlmark.core.parts.takeoff import shop_lines
from awlmark.core.plain import printed
from awlmark.core.report import marks_in_words
from awlmark.core.solve.design import Design

FIXED: Final = dt.datetime(2026, 1, 1)
"""Stands where a spreadsheet wants a date: a file tells its job, not the hour it was written."""
HEADS: Final = ("Item", "Qty", "Unit", "Each", "Total", "Currency", "Aisle", "Mark")
WIDTHS: Final = (48, 9, 8, 10, 12, 10, 20, 12)


def parts_xlsx(design: Design) -> bytes:
    """The list as a workbook.

    Parameters
    ----------
    design : Design
        Solved job.
    """
    from openpyxl import Workbook
    from openpyxl.styles import Font

    book = Workbook()
    book.properties.creator = "Awlmark"
    book.properties.created = book.properties.modified = FIXED
    sheet = book.active
    sheet.title = "Parts"
    sheet.append(HEADS)
    for cell, width in zip(sheet[1], WIDTHS, strict=True):
        cell.font = Font(bold=True)
        sheet.column_dimensions[cell.column_letter].width = width
    sheet.freeze_panes = "A2"
    lines = shop_lines(design.parts, design.job.prices)
    for row, line in enumerate(lines, 2):
        _text(sheet.cell(row, 1), line.name)
        sheet.cell(row, 2, line.count)
        _text(sheet.cell(row, 3), line.unit)
        if line.each is not None:
            sheet.cell(row, 4, line.each).number_format = "0.00"
            sheet.cell(row, 5, f"=ROUND(B{row}*D{row},2)").number_format = "0.00"
        for column, text in enumerate(
            (design.job.currency, line.part.aisle, marks_in_words(design, line.part.marks)), 6
        ):
            _text(sheet.cell(row, column), text)
    last = len(lines) + 1
    total = sheet.cell(last + 1, 5, f"=SUM(E2:E{last})" if design.parts else 0)
    total.number_format, total.font = "0.00", Font(bold=True)
    label = sheet.cell(last + 1, 1)
    _text(label, "All of it" + (f", {design.unpriced} lines without a price" if design.unpriced else ""))
    label.font = Font(bold=True)
    raw = io.BytesIO()
    book.save(raw)
    return _steady(raw.getvalue())


def _text(cell: Any, text: str) -> None:
    """Text that stays text, whatever it begins with."""
    cell.value = printed(text)
    cell.data_type = "s"
    if text[:1] in ("=", "+", "-", "@", "\t", "\r"):
        cell.quotePrefix = True


def _steady(data: bytes) -> bytes:
    """The same archive with fixed dates in it and around its members."""
    stamp = FIXED.strftime("%Y-%m-%dT%H:%M:%SZ")
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for name in sorted(old.namelist()):
            content = old.read(name)
            if name == "docProps/core.xml":
                text = content.decode("utf-8")
                for tag in ("created", "modified"):
                    start = text.index(">", text.index(f"dcterms:{tag}")) + 1
                    text = text[:start] + stamp + text[text.index("<", start) :]
                content = text.encode("utf-8")
            member = zipfile.ZipInfo(name, (2026, 1, 1, 0, 0, 0))
            member.compress_type = zipfile.ZIP_DEFLATED
            new.writestr(member, content)
    return out.getvalue()
