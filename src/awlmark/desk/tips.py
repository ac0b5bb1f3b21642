"""Tooltips that are text."""

from __future__ import annotations

import html

from awlmark.core.plain import shown


def tip(text: str) -> str:
    """A tooltip that shows a text as it stands: names of jobs and loads are no markup, whatever they look like."""
    return f"<qt>{html.escape(shown(text))}</qt>" if text else ""
