"""Sheets to read: what is checked, ways to connect, tables, about."""

from __future__ import annotations

import html
from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QTextBrowser, QVBoxLayout, QWidget

import awlmark
from awlmark.core.books import Book
from awlmark.core.books.words import cap
from awlmark.core.job.model import Job
from awlmark.core.solve.design import Design


def _sheet(parent: QWidget, title: str, body: str) -> QDialog:
    dialog = QDialog(parent)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    dialog.setWindowTitle(title)
    dialog.resize(640, 560)
    text = QTextBrowser()
    text.setHtml(body)
    buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
    buttons.rejected.connect(dialog.reject)
    column = QVBoxLayout(dialog)
    column.addWidget(text)
    column.addWidget(buttons)
    dialog.open()
    return dialog


def _rows(rows: list[tuple[str, str]]) -> str:
    cells = "".join(f"<tr><td><b>{html.escape(a)}</b></td><td>{html.escape(b)}</td></tr>" for a, b in rows)
    return f"<table cellpadding=4>{cells}</table>"


def show_checked(parent: QWidget, book: Book) -> QDialog:
    """What a book checks, and what it leaves out."""
    told = [[f"<li>{html.escape(line)}</li>" for line in lines] for lines in (book.checked, book.left_out)]
    lists = [f"<ul>{''.join(lines)}</ul>" for lines in told]
    body = f"<h3>Checked by {html.escape(book.title)}</h3>{lists[0]}<h3>Not checked here</h3>{lists[1]}"
    body += f"<p>{html.escape(book.words.caution)}</p>"
    return _sheet(parent, "What is checked here", body)


def show_tables(parent: QWidget, job: Job) -> QDialog:
    """The tables behind two verdicts: where ground-fault breakers are wanted, and where each method may run."""
    from awlmark.core.books import open_book

    book = open_book(job.code)
    heads = ("Edition", "Connection", "Place", "up to 50 A", "above 50 A")
    rows = book.circuit.residual_rows(job)
    body = f"<h3>Ground-fault breaker, {job.occupancy}</h3>" + _grid(heads, rows) if rows else ""
    body += f"<h3>Where methods may run, {html.escape(book.title)}</h3>"
    body += _grid(
        ("Method", "Indoors", "Outdoors and wet", "Underground", "Hottest air", "Clause"), book.circuit.place_rows(book)
    )
    body += f"<p>{html.escape(book.words.caution)}</p>"
    return _sheet(parent, "Tables behind the verdicts", body)


def _grid(heads: tuple[str, ...], rows: Sequence[tuple[str, ...]]) -> str:
    head = "".join(f"<th align=left>{html.escape(name)}</th>" for name in heads)
    lines = "".join(f"<tr>{''.join(f'<td>{html.escape(cell)}</td>' for cell in row)}</tr>" for row in rows)
    return f"<table cellpadding=4><tr>{head}</tr>{lines}</table>"


def show_connections(parent: QWidget, design: Design) -> QDialog:
    """Every way to connect the charger."""
    from awlmark.core.options.connections import advise
    from awlmark.draw.kit.severity_marks import NAMES

    rows = [
        (
            way.connection,
            f"{way.charge_a:g} A, {way.kw:g} kW",
            f"{way.breaker_a:g} A" + (", ground-fault" if way.gfci else ""),
            "neutral" if way.neutral else "",
            f"{'' if way.priced else 'from '}{'+' if way.price > 0 else ''}{design.job.currency}{way.price:,.0f}",
            NAMES[way.worst],
            "; ".join(way.notes),
        )
        for way in advise(design)
    ]
    words = design.book.words
    heads = ("Connection", "Most", cap(words.breaker), "", "Price", "Leaves", "What comes along")
    body = f"<h3>How the {words.charger} may be connected</h3>"
    body += _grid(heads, rows) if rows else f"<p>Type what it draws first, such as {words.decisions[0][0]}.</p>"
    return _sheet(parent, "Ways to connect", body + f"<p>{html.escape(words.caution)}</p>")


def show_audit(parent: QWidget, design: Design) -> QDialog:
    """The circuit as it is pinned: setting, what is wrong, what to do with each part."""
    from awlmark.core.options.audit import audit

    found = audit(design)
    setting = f"{found.setting_a:g} A, locked" if found.setting_a is not None else "none: it may not be used as it is"
    wrong = "".join(f"<li>{html.escape(line)}</li>" for line in found.wrong) or "<li>nothing that was looked at</li>"
    rows = [(design.book.words.part(one.part), one.do, one.why) for one in found.parts]
    body = (
        f"<h3>Highest honest setting</h3><p><b>{html.escape(setting)}</b></p><h3>What is wrong</h3><ul>{wrong}</ul>"
        f"<h3>Part by part</h3>{_grid(('Part', 'Do', 'Why'), rows)}"
        f"<p>Pin what is there: {design.book.words.pins}; type what you saw: seen browned, seen double tap.</p>"
    )
    return _sheet(parent, "Audit of a circuit that is there", body + f"<p>{html.escape(design.book.words.caution)}</p>")


def show_about(parent: QWidget, book: Book) -> QDialog:
    """Version, caution, licences."""
    body = (
        f"<h3>Awlmark {awlmark.__version__}</h3><p>Designs the branch circuit for an electric-vehicle charger.</p>"
        f"<p><b>{html.escape(book.words.caution)}</b></p><p>Licence: Apache-2.0. Typefaces: Atkinson Hyperlegible "
        "Next and Routed Gothic, both under the SIL Open Font License 1.1, shipped with their licences.</p>"
    )
    return _sheet(parent, "About Awlmark", body)
