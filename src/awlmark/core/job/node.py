"""The base of every struct in the document."""

from typing import Any

import msgspec


class Node(msgspec.Struct, frozen=True, kw_only=True, omit_defaults=False):
    """Base of every struct in the document."""

    extra: dict[str, Any] = {}
