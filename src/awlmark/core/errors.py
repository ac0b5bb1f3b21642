"""What can go wrong that is not a broken rule (a broken rule is a Finding)."""

from __future__ import annotations

from typing import Final

LONGEST: Final = 1000
"""Letters of a message: more than anybody reads, whatever a file put into it."""


class AwlmarkError(Exception):
    """Anything Awlmark says to its user in words."""

    def __init__(self, message: str = "") -> None:
        super().__init__(message if len(message) <= LONGEST else message[: LONGEST - 1] + "…")


class InputError(AwlmarkError, ValueError):
    """A value that cannot be used.

    Parameters
    ----------
    field : str
        Name of the field, as the user knows it.
    problem : str
        What is wrong with the value.
    accepted : str
        What would be accepted.
    """

    def __init__(self, field: str, problem: str, accepted: str) -> None:
        self.field = field
        self.problem = problem
        self.accepted = accepted
        super().__init__(f"{field}: {problem} Accepted: {accepted}.")


class FileError(AwlmarkError):
    """A file that cannot be read or written; the message says what was kept."""


class UnclearError(FileError):
    """A file that can be read in more than one way: the question, its answers, and the first rows it is about."""

    def __init__(self, name: str, what: str, question: str, answers: tuple[str, ...], rows: tuple[str, ...]) -> None:
        self.what, self.question, self.answers, self.rows = what, question, answers, rows
        shown = "; ".join(rows[:3])
        super().__init__(f"{name}: {question} ({', '.join(answers)}). It begins: {shown}")
