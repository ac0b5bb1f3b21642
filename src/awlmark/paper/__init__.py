"""What leaves on paper, beside the other exports."""

from __future__ import annotations

import importlib
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from awlmark.core.solve.design import Design, settled
from awlmark.export import WRITERS as FILES
from awlmark.export import file_name, write_exports

if TYPE_CHECKING:
    from awlmark.draw.kit.picture import Picture
    from awlmark.paper.pages import Sheets


def _packet(design: Design) -> bytes:
    from awlmark.paper.packet import packet_pdf

    return packet_pdf(design)


def _tests(design: Design) -> bytes:
    from awlmark.paper.test_form import tests_pdf

    return tests_pdf(design)


def _log(design: Design) -> str:
    from awlmark.core.prove.log import write_log

    return write_log(design)


WRITERS: dict[str, Callable[[Design], str | bytes]] = {
    **FILES,
    "packet.pdf": _packet,
    "tests.pdf": _tests,
    "log.csv": _log,
}
"""Every file that can be written, by its name."""


def _pages(part: Callable[[Sheets], object]) -> Callable[[Design], list[Picture]]:
    """One sheet on pages of its own; no pages where it has nothing to say."""

    def pages(design: Design) -> list[Picture]:
        from awlmark.paper.pages import Sheets

        sheets = Sheets(settled(design))
        part(sheets)
        return sheets.finished()

    return pages


def _packet_pages(design: Design) -> list[Picture]:
    from awlmark.paper.packet import packet_pages

    return packet_pages(settled(design))


def _sheet(module: str, name: str) -> Callable[[Sheets], object]:
    """A sheet by where it is made, brought in when it is first printed."""
    return lambda sheets: getattr(importlib.import_module(f"awlmark.paper.{module}"), name)(sheets)


PRINTS: dict[str, Callable[[Design], list[Picture]]] = {
    "The whole packet": _packet_pages,
    "Panel schedule and load sheet": _pages(_sheet("permit", "panel_sheets")),
    "List, by aisle": _pages(_sheet("packet", "list_sheet")),
    "Cut list": _pages(_sheet("packet", "cut_sheet")),
    "Steps": _pages(_sheet("site_pages", "steps_sheets")),
    "Labels": _pages(_sheet("packet", "label_sheet")),
    "Test sheet": _pages(_sheet("test_form", "test_sheet")),
    "Quote": _pages(_sheet("packet", "quote_sheet")),
}
"""What can be printed alone, by the name it goes by."""


def prints(design: Design) -> dict[str, Callable[[Design], list[Picture]]]:
    """What of a design can be printed alone: its rule book's own forms too, and the board as the book calls it."""
    words = design.book.words
    named = {"Panel schedule and load sheet": f"{words.board} schedule and load sheet"}
    found = {named.get(name, name): pages for name, pages in PRINTS.items()}
    if design.circuit is not None and design.book.build.forms(design):
        found["Certificate data and schedules"] = _pages(_sheet("forms", "form_sheets"))
    return found


def write_all(
    design: Design,
    folder: Path,
    names: tuple[str, ...],
    said: Callable[[str], object] = str,
    *,
    own_names: bool = False,
) -> list[Path]:
    """Write files into a folder, each whole or not at all; ``said`` hears the name of each before it is made.

    ``own_names``: each begins with the job's own name.

    Raises
    ------
    FileError
        When the folder cannot be made or a file not written.
    """
    writers = {file_name(design.job, name) if own_names else name: WRITERS[name] for name in names}
    return write_exports(settled(design), folder, writers, said)
