"""Results kept from one edit to the next, each by the very view that was handed to the function.

A key that is written by hand can miss what the function looks at. Here it cannot: the function gets a view, and the key
is made of that view. Parts of the document in it count by identity, for an edit leaves what it does not touch the same
objects; everything else counts by value. The memo holds the view, so no identity in a key is ever given away.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from typing import Any, Final, Generic, TypeVar

import msgspec

from awlmark.core.job.node import Node

View = TypeVar("View")
Result = TypeVar("Result")
_every: Final[list[Memo[Any, Any]]] = []


def _unmade(view: object) -> Any:
    raise TypeError(f"Nothing is said of how {view!r} is made.")


class Memo(Generic[View, Result]):
    """Results of a function by its view; those asked for last stay.

    Parameters
    ----------
    most : int
        Results that are kept.
    make : callable
        Works a result out from the view, and from nothing else.
    """

    def __init__(self, most: int, make: Callable[[View], Result] = _unmade) -> None:
        self.most, self.make = most, make
        self._kept: dict[object, tuple[View, Result]] = {}
        _every.append(self)

    def __call__(self, view: View) -> Result:
        """The result for a view, worked out where it is not kept."""
        return self.keep(view, lambda: self.make(view))

    def keep(self, view: View, make: Callable[[], Result]) -> Result:
        """The same for a function that needs the things the view is taken from; it may use no more of them."""
        key = key_of(view)
        kept = self._kept.pop(key, None)
        if kept is None:
            kept = view, make()
            while len(self._kept) >= self.most:
                self._kept.pop(next(iter(self._kept)))
        self._kept[key] = kept
        return kept[1]

    def __len__(self) -> int:
        return len(self._kept)

    def clear(self) -> None:
        """Forget every result."""
        self._kept.clear()


def key_of(view: object) -> object:
    """What a view is known by: its fields, one after another."""
    if isinstance(view, msgspec.Struct):
        return (type(view), *[_part(getattr(view, name)) for name in view.__struct_fields__])
    return _part(view)


def _part(value: Any) -> object:
    kind = type(value)
    return (_HOW.get(kind) or _learn(kind))(value)


def _same(value: object) -> object:
    return value


def _tuple(value: tuple[object, ...]) -> object:
    how = _HOW.get
    return tuple([each if (by := how(type(each))) is _same else by(each) if by else _part(each) for each in value])


def _table(value: dict[object, object]) -> object:
    # Structs make an empty table anew each time.
    return id(value) if value else None


_HOW: Final[dict[type, Callable[[Any], object]]] = {
    float: _same, int: _same, str: _same, bool: _same, type(None): _same, tuple: _tuple, dict: _table,
}  # fmt: skip


def _learn(kind: type) -> Callable[[Any], object]:
    """How things of a kind stand in a key: structs that are compared by value by their fields, others as they are."""
    by_value = issubclass(kind, msgspec.Struct) and not issubclass(kind, Node) and kind.__struct_config__.eq
    _HOW[kind] = key_of if by_value else id
    return _HOW[kind]


def clear_all(*, tables: bool = False) -> None:
    """Forget everything that core keeps; of the rule books' tables only when asked, for they never change."""
    for memo in _every:
        memo.clear()
    for name, module in list(sys.modules.items()):
        if name.startswith("awlmark.core") and (tables or not name.startswith("awlmark.core.books.nec.")):
            for thing in list(vars(module).values()):
                if getattr(thing, "__module__", None) == name and hasattr(thing, "cache_clear"):
                    thing.cache_clear()
