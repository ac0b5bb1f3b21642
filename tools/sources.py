"""Writes docs/sources.md from the source and status lines of the shipped tables."""

from __future__ import annotations

from pathlib import Path

from awlmark.core.books.nec.printed import names, printed

TARGET = Path(__file__).parent.parent / "docs" / "sources.md"
HEAD = """# Sources

Every shipped table with its source and status, made from the tables' own first lines by `python tools/sources.py`. Most
were recalled from memory several times separately and keep the cells on which at least two agree; no printed page was
seen. Where a result hangs on a doubted statement, Awlmark says "your inspector decides".

| Table | Source | Status | Rows |
|---|---|---|---|
"""
TAIL = """
`core/parts/prices.csv`: invented example prices for a new job to start from; put your own over them.

Checks against the world stand in `tests/outside/`, each tagged published, common-practice, from-memory or
independent-solver.
"""


def page() -> str:
    """The whole page."""
    rows = []
    for name in names():
        table = printed(name)
        cells = (cell.replace("|", "\\\\|") for cell in (table.source, table.status))
        rows.append(f"| `{name}.csv` | {' | '.join(cells)} | {len(table.rows)} |\n")
    return HEAD + "".join(rows) + TAIL


if __name__ == "__main__":
    TARGET.write_text(page(), encoding="utf-8")
