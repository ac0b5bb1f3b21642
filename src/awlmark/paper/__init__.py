"""What leaves on paper, beside the other exports."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from awlmark.core.solve.design import Design, settled
from awlmark.export import WRITERS as FILES
from awlmark.export import write_exports


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


def write_all(design: Design, folder: Path, names: tuple[str, ...], said: Callable[[str], object] = str) -> list[Path]:
    """Write files into a folder, each whole or not at all; ``said`` hears the name of each before it is made.

    Raises
    ------
    FileError
        When the folder cannot be made or a file not written.
    """
    return write_exports(settled(design), folder, {name: WRITERS[name] for name in names}, said)
