"""Conductor sizes that are typed, in the words of the job's rule book."""

from __future__ import annotations

from awlmark.core.books import open_book
from awlmark.core.job.model import Job


def read_size(text: str, job: Job, field: str = "conductor size") -> str:
    """Read a conductor size of the job's book.

    Raises
    ------
    InputError
        When the book has no such size.
    """
    book = open_book(job.code)
    return book.read_size(text, book.sizes, field)
