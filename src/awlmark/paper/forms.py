"""Forms that a rule book asks for, printed one after another: fields, tables, lines to sign on."""

from __future__ import annotations

from awlmark.core.build.form import Form
from awlmark.draw.kit.picture import BOLD, TEXT, shorten, wrap
from awlmark.paper.pages import MARGIN, Column, Sheets

NAME: float = 104.0
ROW: float = 17.0


def form_sheets(sheets: Sheets) -> None:
    """Every form of the book; nothing where it has none."""
    for form in sheets.design.book.build.forms(sheets.design):
        _form(sheets, form)


def _form(sheets: Sheets, form: Form) -> None:
    sheets.section(form.title, 200)
    if form.says:
        sheets.lines(form.says, 9, role="ink2")
    _fields(sheets, form)
    if form.heads:
        columns = tuple(Column(head, wide) for head, wide in zip(form.heads, form.widths, strict=True))
        sheets.table(columns, list(form.rows), tick=form.heads[-1] == "Outcome", size=9.0)
    _signed(sheets, form)


def _fields(sheets: Sheets, form: Form) -> None:
    """Two columns of names and values; what is not known is a line to write on."""
    half = sheets.width / 2
    sheets.y += 6 if form.fields else 0
    for first in range(0, len(form.fields), 2):
        pair = form.fields[first : first + 2]
        lines = [wrap(value, TEXT, 9.5, half - NAME - 14) or [""] for _name, value in pair]
        tall = ROW + 12 * (max(len(line) for line in lines) - 1)
        sheets.room(tall + 4)
        for number, ((name, value), told) in enumerate(zip(pair, lines, strict=True)):
            x, y = MARGIN + number * half, sheets.y + 13
            sheets.page.text(x, y, shorten(name, TEXT, 9, NAME - 6), 9, role="ink2")
            for row, line in enumerate(told):
                sheets.page.text(x + NAME, y + 12 * row, line, 9.5, BOLD)
            if not value:
                sheets.page.line(x + NAME, y + 2, x + half - 12, y + 2, "ink2", 0.6)
        sheets.y += tall


def _signed(sheets: Sheets, form: Form) -> None:
    if not form.signed:
        return
    sheets.room(44)
    wide = sheets.width / len(form.signed)
    sheets.y += 22
    for number, who in enumerate(form.signed):
        x = MARGIN + number * wide
        sheets.page.line(x, sheets.y, x + wide - 14, sheets.y, "ink", 0.8)
        told = "made up, not to be signed" if sheets.design.job.made_up else f"{who}, date"
        sheets.page.text(x, sheets.y + 11, told, 8.5, role="ink2")
    sheets.y += 18
