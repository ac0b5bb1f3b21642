"""Writing what leaves Awlmark: lists and drawings in open formats."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable
from pathlib import Path

from awlmark.core.errors import FileError
from awlmark.core.job.disk import write_file
from awlmark.core.job.model import Job
from awlmark.core.parts.takeoff import shop_lines
from awlmark.core.plain import cell
from awlmark.core.report import marks_in_words
from awlmark.core.solve.design import Design
from awlmark.draw.kit.svg import svg
from awlmark.draw.stages.bends_view import true_size
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import Look

MOST_LETTERS = 60
SHEET = (1280.0, 800.0)
"""Size of the exported wall drawing [px]."""


def parts_csv(design: Design) -> str:
    """The list as CSV text, as it is asked for at the counter: item, quantity, unit, price, total, aisle, marks."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["item", "qty", "unit", "each", "total", "currency", "aisle", "mark", "key"])
    for line in shop_lines(design.parts, design.job.prices):
        each = "" if line.each is None else f"{line.each:.2f}"
        total = "" if line.total is None else f"{line.total:.2f}"
        told = (line.name, design.job.currency, line.part.aisle, marks_in_words(design, line.part.marks), line.part.key)
        names = [cell(text) for text in told]
        writer.writerow([names[0], f"{line.count:g}", line.unit, each, total, *names[1:]])
    return out.getvalue()


def walls_svg(design: Design) -> str:
    """Plan, unfolded walls and yard as SVG text."""
    title = f"{design.job.name}: walls, {design.book.title}"
    return svg(draw_run(design, Look(at_m=-1.0), *SHEET, controls=False), title)


def bends_svg(design: Design) -> str:
    """Marks of the bends made by hand, at true size, as SVG text."""
    return svg(true_size(design), f"{design.job.name}: bends by hand")


def _parts_xlsx(design: Design) -> bytes:
    from awlmark.export.xlsx import parts_xlsx

    return parts_xlsx(design)


def _walls_dxf(design: Design) -> str:
    from awlmark.export.dxf import walls_dxf

    return walls_dxf(design)


WRITERS: dict[str, Callable[[Design], str | bytes]] = {
    "parts.csv": parts_csv,
    "parts.xlsx": _parts_xlsx,
    "walls.dxf": _walls_dxf,
    "walls.svg": walls_svg,
    "bends.svg": bends_svg,
}


def folder_name(job: Job) -> str:
    """A folder for a job, by its name: letters, digits and strokes only."""
    plain = re.sub(r"[^\w]+", "-", job.name.lower()).strip("-")
    return plain[:MOST_LETTERS].rstrip("-") or "job"


def file_name(job: Job, name: str) -> str:
    """A file of a job, its name before it: ``cider-yard-north-bay-parts.csv``."""
    return f"{folder_name(job)}-{name}"


def write_exports(
    design: Design,
    folder: Path,
    writers: dict[str, Callable[[Design], str | bytes]],
    said: Callable[[str], object] = str,
) -> list[Path]:
    """Write exports into a folder, each whole or not at all; ``said`` hears the name of each before it is made.

    Raises
    ------
    FileError
        When the folder cannot be made or a file not written.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise FileError(f"Can't make the folder {folder}: {(problem.strerror or str(problem)).lower()}.") from problem
    made = []
    for name, write in writers.items():
        said(name)
        path = folder / name
        write_file(path, write(design))
        made.append(path)
    return made
