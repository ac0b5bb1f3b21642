"""What a rule book answers; :func:`open_book` opens one by its code.

The engine, the stages and the drawings ask a :class:`Book` and import none: a book is found on the shelf by its code.
"""

from __future__ import annotations

import functools
import importlib

from awlmark.core.books.book import Book
from awlmark.core.errors import InputError
from awlmark.core.shelf import SHELF

__all__ = ["Book", "open_book"]


@functools.cache
def open_book(code: str) -> Book:
    """One edition of a rule book.

    Parameters
    ----------
    code : str
        Such as ``nec-2023``.

    Raises
    ------
    InputError
        For a code that is not on the shelf.
    """
    if code not in SHELF:
        raise InputError("rule book (code)", f"Can't use '{code[:40]}'.", "one of " + ", ".join(SHELF))
    opened: Book = importlib.import_module(SHELF[code]).open_edition(code)
    return opened
