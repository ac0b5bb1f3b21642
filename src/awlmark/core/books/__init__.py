"""What the rule book says: :func:`open_book` gives one edition, its tables as arrays."""

from awlmark.core.books.nec.edition import Book, open_book

__all__ = ["Book", "open_book"]
