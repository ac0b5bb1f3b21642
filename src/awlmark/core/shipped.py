"""Tables that ship beside the modules that read them: comma-separated, lines that begin with # are remarks."""

from __future__ import annotations

import csv
from pathlib import Path


def shipped_rows(module: str, name: str) -> list[dict[str, str]]:
    """Rows of a table that lies beside a module, by the names of its columns.

    Parameters
    ----------
    module : str
        ``__file__`` of the module.
    name : str
        Name of the table's file.
    """
    text = (Path(module).parent / name).read_text(encoding="utf-8")
    return list(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))
