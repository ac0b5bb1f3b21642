"""The base of every struct in the document."""

from __future__ import annotations

from typing import Any

import msgspec


class Node(msgspec.Struct, frozen=True, kw_only=True, omit_defaults=False):
    """Base of every struct in the document."""

    extra: dict[str, Any] = {}
