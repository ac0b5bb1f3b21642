"""What stands on the papers beside the circuit: for whom, where, by whom, under which permit."""

from typing import Annotated, Final

from awlmark.core.job.limits import OneOf, Text
from awlmark.core.job.node import Node

SIZES: Final = ("letter", "a4")
USUAL: Final = {"ft": "letter", "m": "a4"}
"""By the job's units."""


class Papers(Node, frozen=True, kw_only=True):
    """Names and numbers that a permit office asks for; empty while nobody has typed them."""

    customer: Annotated[str, Text(80)] = ""
    address: Annotated[str, Text(120)] = ""
    """Of the site."""
    permit: Annotated[str, Text(40, called="permit number")] = ""
    designer: Annotated[str, Text(80)] = ""
    licence: Annotated[str, Text(40)] = ""
    paper: Annotated[str | None, OneOf(SIZES, "paper")] = None
    """None goes by the job's units."""
