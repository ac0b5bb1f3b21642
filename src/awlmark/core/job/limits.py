"""What a field of the document may hold, declared where the field stands, and one check that goes by it.

A declaration is an annotation: ``Annotated[float | None, Within(0, 3, "m")]``. A field without one goes by its type: a
finite number, a text of some length, a list of some length. So nothing in a job is without a limit.
"""

from __future__ import annotations

import functools
import math
import re
from collections.abc import Callable
from typing import Annotated, Any, Final, get_args, get_origin

import msgspec

from awlmark.core.errors import InputError
from awlmark.core.job.node import Node
from awlmark.core.quantities import print_length

LARGEST: Final = 1e9
LONGEST_TEXT: Final = 200
LONGEST_NAME: Final = 120
LONGEST_NOTE: Final = 4000
MOST_ITEMS: Final = 2000
MOST_KEYS: Final = 20_000
_ID: Final = re.compile(r"[^\[\]\x00-\x1f\x7f]{1,64}")
_KEY: Final = re.compile(r"[^\[\]\x00-\x1f\x7f]{1,120}")
_PACK: Final = re.compile(r"\d{1,6}(\.\d{1,2})?", re.ASCII)
_AMOUNT: Final = re.compile(r"\d{1,7}(\.\d{1,6})?", re.ASCII)
_UNITS: Final = re.compile(r"_(m|m2|a|c|h|deg|w|s|va|in3|lbf_in|kw|kwh|kwh_per_km|percent|per_h)$")


class Rule(msgspec.Struct, frozen=True):
    """What a field may hold; ``called`` is its name in messages, instead of the words of its own name."""

    def outline(self) -> dict[str, Any]:
        """The same in the words of JSON Schema."""
        return {}


class Named(Rule, frozen=True):
    """A struct whose fields go by its name in messages."""

    called: str = ""


class Unnamed(Rule, frozen=True):
    """A struct that messages do not speak of: its fields go by their own names."""

    called: str = ""


class Within(Rule, frozen=True):
    """A finite number between two bounds, both included."""

    low: float = -LARGEST
    high: float = LARGEST
    unit: str = ""
    called: str = ""

    def outline(self) -> dict[str, Any]:
        return {"minimum": self.low, "maximum": self.high}

    def check(self, field: str, value: float) -> None:
        if math.isfinite(value) and self.low <= value <= self.high:
            return
        problem, accepted = f"{value:g} {self.unit} is out of reach.", f"{self.low:g} to {self.high:g} {self.unit}"
        if self.unit == "m" and abs(value) < 1e6:
            # Nobody has to know the other unit.
            problem = f"{value:.4g} m ({print_length(value)}) is out of reach."
            accepted += f" ({print_length(self.low)} to {print_length(self.high)})"
        raise InputError(field, " ".join(problem.split()), accepted.strip())


class OneOf(Rule, frozen=True):
    """One of a few values."""

    known: tuple[Any, ...] = ()
    called: str = ""

    def outline(self) -> dict[str, Any]:
        return {"enum": list(self.known)}

    def check(self, field: str, value: Any) -> None:
        if value not in self.known:
            said = f"'{value[:60]}'" if isinstance(value, str) else f"{value:g}"
            raise InputError(field, f"Can't use {said}.", "one of " + ", ".join(map(str, self.known)))


class Text(Rule, frozen=True):
    """A text of some length, whole letters only."""

    most: int = LONGEST_TEXT
    called: str = ""

    def outline(self) -> dict[str, Any]:
        return {"maxLength": self.most}

    def check(self, field: str, value: str) -> None:
        if len(value) > self.most:
            raise InputError(field, f"{len(value):,} letters are too many.", f"up to {self.most:,}")
        if not value.isascii():
            try:
                value.encode("utf-8")
            except UnicodeEncodeError as problem:
                raise InputError(field, "It holds what is no letter.", "text in UTF-8") from problem


class Matches(Rule, frozen=True):
    """A text of a set form."""

    pattern: str = ""
    accepted: str = ""
    called: str = ""

    def outline(self) -> dict[str, Any]:
        return {"pattern": f"^{self.pattern}$"}

    def check(self, field: str, value: str) -> None:
        if not re.fullmatch(self.pattern, value, re.ASCII):
            raise InputError(field, f"Can't use '{value[:60]}'.", self.accepted)


class Id(Rule, frozen=True):
    """An id that a path can name."""

    called: str = ""

    def check(self, field: str, value: str) -> None:
        if not _ID.fullmatch(value):
            raise InputError(field, f"Can't use '{value[:40]}' as an id.", "1 to 64 letters without brackets")


class PartKey(Rule, frozen=True):
    """The key of a part in price book, stock and lists; ``@100`` behind it is a pack of so many."""

    packs: bool = False
    called: str = ""

    def check(self, field: str, value: str) -> None:
        plain, pack, size = value.rpartition("@") if self.packs else (value, "", "")
        if not _KEY.fullmatch(plain or value):
            raise InputError(field, f"Can't use '{value[:40]}' as a part.", "up to 120 letters without brackets")
        if pack and not (_PACK.fullmatch(size) and 2 <= float(size) <= 100_000):
            raise InputError(f"pack of {plain[:40]}", f"'{size[:20]}' is no size of a pack.", "2 to 100000")


class Amount(Rule, frozen=True):
    """A number in decimal text, such as ``12.50``."""

    high: float = 1_000_000
    called: str = ""

    def check(self, field: str, value: str) -> None:
        if not _AMOUNT.fullmatch(value) or float(value) > self.high:
            raise InputError(field, f"Can't use '{value[:40]}'.", f"a number such as 12.50, from 0 to {self.high:,.0f}")


class Many(Rule, frozen=True):
    """A list of at least and at most so many, each by its own rule."""

    most: int = MOST_ITEMS
    each: Rule | None = None
    least: int = 0
    called: str = ""

    def outline(self) -> dict[str, Any]:
        return {"maxItems": self.most} | ({"minItems": self.least} if self.least else {})

    def check_count(self, field: str, count: int) -> None:
        if self.least <= count <= self.most:
            return
        fixed = self.least == self.most
        accepted = (
            f"{self.most:,}" if fixed else f"{self.least:,} to {self.most:,}" if self.least else f"up to {self.most:,}"
        )
        problem = f"{count:,} are {'not so many' if fixed else 'too many' if count > self.most else 'too few'}."
        raise InputError(field, problem, accepted)


class Keyed(Rule, frozen=True):
    """A table: what its keys and its values may be."""

    key: Rule = PartKey()
    value: Rule = Text()
    called: str = ""


class _Field(msgspec.Struct, frozen=True):
    """One field of a struct, and how it is checked."""

    name: str
    words: str
    rule: Any
    kind: str
    """``node``, ``nodes``, ``list``, ``table``, ``value``, or nothing to check."""
    has_ids: bool = False


def check_fields(node: Node, before: Node | None = None, place: str = "", stem: str = "") -> None:
    """Refuse the first value of a struct, and of all in it, that its field cannot hold.

    Parameters
    ----------
    node : Node
        The struct.
    before : Node, optional
        One that was checked: what both share is not looked at again.
    place : str
        What it is, before the names of its fields in messages.
    stem : str
        The same, for fields whose declaration does not name them.

    Raises
    ------
    InputError
        Naming the field and what would be accepted.
    """
    for field in fields_of(type(node)):
        value = getattr(node, field.name)
        old = None if before is None else getattr(before, field.name)
        if value is None or value is old:
            continue
        called = field.rule.called if field.rule is not None else ""
        words = called or f"{stem} {field.words}"
        _CHECKS[field.kind](field, value, old, " ".join(f"{place} {words}".split()))


def _check_value(field: _Field, value: Any, _old: Any, name: str) -> None:
    field.rule.check(name, value)


def _check_node(field: _Field, value: Node, old: Node | None, name: str) -> None:
    named = field.rule is not None and field.rule.called
    place, stem = ("", "") if isinstance(field.rule, Unnamed) else (name, "") if named else ("", name)
    check_fields(value, old, place, stem)


def _check_nodes(field: _Field, value: tuple[Node, ...], old: tuple[Node, ...] | None, name: str) -> None:
    field.rule.check_count(name, len(value))
    if field.has_ids and len({item.id for item in value}) != len(value):  # type: ignore[attr-defined]
        raise InputError(name, f"Two of the {name} carry the same id.", "an id of its own for each")
    known = set(map(id, old)) if old else set()
    for number, item in enumerate(value, 1):
        if id(item) not in known:
            title = str(getattr(item, "name", ""))[:40] or f"{name.removesuffix('s')} {number}"
            if name in ("layers", "legs") or name.endswith(" layers"):
                title = f"{name.removesuffix('s')} {getattr(item, 'name', '') or number}"
            check_fields(item, None, title)


def _check_list(field: _Field, value: tuple[Any, ...], _old: Any, name: str) -> None:
    field.rule.check_count(name, len(value))
    for item in value:
        field.rule.each.check(name, item)


def _check_table(field: _Field, value: dict[str, str], old: dict[str, str] | None, name: str) -> None:
    if len(value) > MOST_KEYS:
        raise InputError(name, f"{len(value):,} are too many.", f"up to {MOST_KEYS:,}")
    known: dict[str, str] = old or {}
    for key, text in value.items():
        if known.get(key) is not text:
            field.rule.key.check(name, key)
            field.rule.value.check(f"{name} of {key[:40]}", text)


_CHECKS: Final[dict[str, Callable[[_Field, Any, Any, str], None]]] = {
    "value": _check_value, "node": _check_node, "nodes": _check_nodes, "list": _check_list, "table": _check_table,
}  # fmt: skip


@functools.cache
def fields_of(kind: type[Node]) -> tuple[_Field, ...]:
    """Fields of a struct with their rules; what cannot hold anything wrong is left out."""
    found = []
    for name, declared in types_of(kind).items():
        if name == "extra":
            continue
        plain, rule = _unwrap(declared)
        words = _UNITS.sub("", name).replace("_", " ")
        origin, inner = get_origin(plain), get_args(plain)
        if isinstance(plain, type) and issubclass(plain, Node):
            found.append(_Field(name, words, rule, "node"))
        elif origin is tuple and isinstance(inner[0], type) and issubclass(inner[0], Node):
            ids = "id" in inner[0].__struct_fields__
            found.append(_Field(name, words, rule or Many(), "nodes", ids))
        elif origin is tuple:
            rule = rule or Many()
            each = rule.each or _by_type(inner[0], "")
            found.append(_Field(name, words, msgspec.structs.replace(rule, each=each), "list"))
        elif origin is dict:
            found.append(_Field(name, words, rule or Keyed(), "table"))
        elif (usual := rule or _by_type(plain, name)) is not None:
            found.append(_Field(name, words, usual, "value"))
    return tuple(found)


def types_of(kind: type[Node]) -> dict[str, Any]:
    """Types of a struct's fields, with their declarations.

    The structs' modules do without deferred annotations, so that these are no texts to be read again.
    """
    found: dict[str, Any] = {}
    for each in reversed(kind.__mro__):
        found |= vars(each).get("__annotations__", {}) if issubclass(each, Node) else {}
    return found


@functools.cache
def nodes_of(kind: type[Node]) -> tuple[type[Node], ...]:
    """A struct and every struct in it, each once."""
    found = [kind]
    for declared in types_of(kind).values():
        plain = _unwrap(declared)[0]
        inner = get_args(plain)[0] if get_origin(plain) is tuple else plain
        if isinstance(inner, type) and issubclass(inner, Node):
            found += nodes_of(inner)
    return tuple(dict.fromkeys(found))


def bare(kind: Any) -> Any:
    """A field's type without its declaration."""
    return get_args(kind)[0] if get_origin(kind) is Annotated else kind


def _unwrap(kind: Any) -> tuple[Any, Any]:
    """A type without its None and its annotations, and the rule among them."""
    rule = None
    while True:
        if get_origin(kind) is Annotated:
            kind, *notes = get_args(kind)
            rule = next((note for note in notes if isinstance(note, Rule)), rule)
        elif type(None) in get_args(kind):
            kind = next(each for each in get_args(kind) if each is not type(None))
        else:
            return kind, rule


def _by_type(kind: Any, name: str) -> Rule | None:
    """The rule of a field that declares none."""
    if kind is float or kind is int:
        return Within()
    if kind is str:
        return Id() if name == "id" else Text(most=LONGEST_NAME if name == "name" else LONGEST_TEXT)
    return None
