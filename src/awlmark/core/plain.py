"""Text that stays text, wherever it goes: on screen, on paper, in a spreadsheet's cell, in a calendar."""

from __future__ import annotations

import re
from typing import Final

_CONTROL: Final = re.compile(r"[\x00-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufffe\uffff]")
"""Control characters, and those that turn the reading direction of what follows."""
_FORMULA: Final = ("=", "+", "-", "@", "\t", "\r")


def shown(text: str) -> str:
    """For a screen: control characters as what they are, such as ``\\x07``."""
    if text.isprintable():
        return text
    return _CONTROL.sub(lambda match: repr(match[0])[1:-1], text)


def printed(text: str) -> str:
    """For paper, and for formats that forbid them: control characters left out, a line's end as a space."""
    if text.isprintable():
        return text
    return _CONTROL.sub("", re.sub(r"[\t\r\n]+", " ", text))


def cell(text: str) -> str:
    """A cell of text that no spreadsheet takes for a formula: an apostrophe stands before what could be one."""
    plain = printed(text) if text[:1] not in _FORMULA else text[:1] + printed(text[1:])
    return "'" + plain if plain.startswith(_FORMULA) else plain
