"""A form of a book's own: fields with what is known of them, a table, lines to sign on."""

from __future__ import annotations

import msgspec


class Form(msgspec.Struct, frozen=True):
    """One form."""

    title: str
    says: str = ""
    """What it is for, in a sentence."""
    fields: tuple[tuple[str, str], ...] = ()
    """Name and value; an empty value is a line to write on."""
    heads: tuple[str, ...] = ()
    widths: tuple[int, ...] = ()
    rows: tuple[tuple[str, ...], ...] = ()
    """A table under the fields."""
    signed: tuple[str, ...] = ()
    """Who signs it."""
