"""Decimal commas: read where they can mean nothing else, asked about where they can."""

from __future__ import annotations

import re
from typing import Final

from awlmark.core.errors import InputError

WORDS: Final = frozenset((
    "name", "customer", "client", "address", "permit", "designer", "licence", "license", "from", "overrule", "saw",
    "strike", "except", "sign", "note",
))  # fmt: skip
"""First words of entries that are kept as they are typed."""
_NUMBER: Final = re.compile(r"(?<![\w.,])\d+(?:[.,]\d+)+(?![\d.,]*[.,]\d)")
_THOUSANDS: Final = re.compile(r"[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?", re.ASCII)
_COMMA: Final = re.compile(r"-?\d+,\d+", re.ASCII)


def unmistakable(text: str) -> str | None:
    """A number with commas in it as it can only be meant, with a point; None where it could be meant in two ways.

    ``1,250,000`` holds thousands, ``0,42`` and ``12,5`` hold decimals; ``1,250`` may be either. A text without commas
    stays as it is, and so does one that is no such number.
    """
    plain = text.strip()
    if "," not in plain:
        return plain
    if _THOUSANDS.fullmatch(plain):
        return plain.replace(",", "") if plain.count(",") > 1 or "." in plain else None
    return plain.replace(",", ".") if _COMMA.fullmatch(plain) else plain


def with_points(text: str) -> str:
    """What is typed where decimals stand behind a comma, its numbers with points.

    A comma with a blank behind it parts two words, as ever; ``1.234,5`` is a thousand and more. Entries that begin with
    one of :data:`WORDS` are kept.

    Raises
    ------
    InputError
        For a number such as ``1.500``, which there may be fifteen hundred or one and a half, and for ``1,500``: so
        thousands are printed here. In metres both are read, as lengths are printed to the millimetre.
    """
    first = text.split(maxsplit=1)[0].lower() if text.strip() else ""
    if first in WORDS:
        return text
    return _NUMBER.sub(lambda match: _pointed(match[0], text[match.end() :]), text)


def _pointed(number: str, behind: str) -> str:
    commas, points = number.count(","), number.count(".")
    whole, *groups = re.split(r"[.,]", number)
    if commas + points == 1 and len(groups[0]) == 3 and 0 < int(whole) < 1000 and not re.match(r"\s*m\b", behind):
        digits = groups[0].rstrip("0") or "0"
        meant = f"{whole}{groups[0]}", f"{whole},{digits}{'0' if len(digits) == 3 else ''}"
        raise InputError("number", f"'{number}' may be {meant[0]} or {meant[1]}.", ", or ".join(meant))
    if commas + points == 1:
        return number.replace(",", ".")
    if commas == 1 and number.rindex(",") > number.rindex(".") and all(len(group) == 3 for group in groups[:-1]):
        return number.replace(".", "").replace(",", ".")
    if commas or not all(len(group) == 3 for group in groups) or not 0 < int(whole) < 1000:
        return number
    return number.replace(".", "")
