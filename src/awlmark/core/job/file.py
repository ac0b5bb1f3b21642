"""Reading and writing the job's file: readable JSON, saved atomically, one previous copy kept.

Keys that this version does not know survive a load and a save. A newer file is refused in words.
"""

from __future__ import annotations

import functools
from pathlib import Path
from typing import Any, Final, get_args, get_origin

import msgspec

from awlmark.core.errors import FileError, InputError
from awlmark.core.job.disk import Stamp, read_bounded, stamp_of, writing
from awlmark.core.job.limits import bare, fields_of, nodes_of, types_of
from awlmark.core.job.model import RUN_FIELDS, Job
from awlmark.core.job.node import Node
from awlmark.core.job.values import check_values

FORMAT: Final = "awlmark-job"
VERSION: Final = 3
LARGEST_BYTES: Final = 16 * 1024 * 1024
SUFFIX: Final = ".awlmark"


def _ask_again(raw: dict[str, Any]) -> dict[str, Any]:
    """Version 1 wrote ``false`` where nobody had been asked; version 2 knows a no from a question."""

    def opened(node: Any, *names: str) -> Any:
        if not isinstance(node, dict):
            return node
        return {key: None if key in names and value is False else value for key, value in node.items()}

    legs = raw.get("legs", [])
    return {
        **raw,
        "charger": opened(raw.get("charger", {}), "separate", "disconnect"),
        "legs": [opened(leg, "fire") for leg in legs] if isinstance(legs, list) else legs,
    }


def _part_run(raw: dict[str, Any]) -> dict[str, Any]:
    """Version 2 had one circuit and its property in one; version 3 parts them, and gives the floor its unit."""
    fields = ("charger", "circuit", "legs", "makeup", "overrules", "build", "prove")
    rest = {key: value for key, value in raw.items() if key not in fields}
    rest["run"] = {key: raw[key] for key in fields if key in raw}
    site = raw.get("site")
    if isinstance(site, dict):
        rest["site"] = {key: _metred(value) for key, value in site.items()}
    return rest


def _metred(things: Any) -> Any:
    """What stands on the floor, its lengths named with their unit."""
    lengths = ("x", "y", "wide", "deep", "low", "high")
    if not isinstance(things, list):
        return things
    return [
        {(f"{key}_m" if key in lengths else key): value for key, value in one.items()} if isinstance(one, dict) else one
        for one in things
    ]


MIGRATIONS: Final[dict[int, Any]] = {1: _ask_again, 2: _part_run}
"""From version number to the function that lifts a raw document to the next one."""


def dumps(job: Job) -> bytes:
    """The job as the bytes of its file."""
    raw = {"format": FORMAT, "version": VERSION, **_flatten(job)}
    return msgspec.json.format(msgspec.json.encode(raw), indent=1) + b"\n"


def _flatten(value: Any) -> Any:
    if isinstance(value, Node):
        fields = {name: _flatten(getattr(value, name)) for name in value.__struct_fields__ if name != "extra"}
        return {**fields, **{key: kept for key, kept in value.extra.items() if key not in fields}}
    if isinstance(value, tuple):
        return [_flatten(item) for item in value]
    return value


def loads(data: bytes, name: str = "The file") -> Job:
    """Read a job from the bytes of a file.

    Parameters
    ----------
    data : bytes
        Contents of the file.
    name : str
        What to call the file in messages.

    Raises
    ------
    FileError
        When the bytes are no job of this or an older version; the message says why.
    """
    if len(data) > LARGEST_BYTES:
        raise FileError(f"{name} is larger than {LARGEST_BYTES // 2**20} MiB, which no job is.")
    try:
        raw = msgspec.json.decode(data)
    except (msgspec.DecodeError, UnicodeDecodeError) as problem:
        raise FileError(f"{name} is damaged or no job file: {problem}.") from problem
    except RecursionError as problem:
        raise FileError(f"{name} is nested deeper than any job.") from problem
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise FileError(f"{name} is no Awlmark job: it does not begin with format '{FORMAT}'.")
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise FileError(f"{name} names no version that can be read.")
    if version > VERSION:
        raise FileError(f"{name} was written by a newer Awlmark (version {version}; this one reads up to {VERSION}).")
    for step in range(version, VERSION):
        raw = MIGRATIONS[step](raw)
    body = {key: value for key, value in raw.items() if key not in ("format", "version")}
    try:
        job: Job = _build(Job, body, "job")
        return check_values(job)
    except msgspec.ValidationError as problem:
        raise FileError(f"{name} is damaged: {problem}.") from problem
    except InputError as problem:
        raise FileError(f"{name} holds a value that can't be used. {problem}") from problem
    except RecursionError as problem:
        raise FileError(f"{name} is nested deeper than any job.") from problem


@functools.cache
def _fields(kind: type[Node]) -> tuple[dict[str, Any], frozenset[str]]:
    """A struct's types by name, and the names it can't be made without."""
    types = {name: bare(declared) for name, declared in types_of(kind).items()}
    pairs = zip(kind.__struct_fields__, kind.__struct_defaults__, strict=True)
    return types, frozenset(name for name, default in pairs if default is msgspec.NODEFAULT)


def _build(kind: Any, raw: Any, where: str) -> Any:
    """Turn plain JSON into structs, keeping unknown keys in each struct's ``extra``."""
    if isinstance(kind, type) and issubclass(kind, Node):
        if not isinstance(raw, dict):
            raise msgspec.ValidationError(f"{where} should hold named values")
        hints, required = _fields(kind)
        fields = {
            key: _build(hints[key], value, f"{where}.{key}")
            for key, value in raw.items()
            if key in hints and key != "extra"
        }
        missing = required - set(fields)
        if missing:
            raise msgspec.ValidationError(f"{where} lacks {', '.join(sorted(missing))}")
        return kind(**fields, extra={key: value for key, value in raw.items() if key not in hints or key == "extra"})
    inner = get_args(kind)
    if raw is not None and type(None) in inner and isinstance(inner[0], type) and issubclass(inner[0], Node):
        return _build(inner[0], raw, where)
    if inner and get_origin(kind) is tuple and isinstance(inner[0], type) and issubclass(inner[0], Node):
        if not isinstance(raw, list):
            raise msgspec.ValidationError(f"{where} should be a list")
        return tuple(_build(inner[0], item, f"{where}[{number}]") for number, item in enumerate(raw, 1))
    try:
        return msgspec.convert(raw, kind, strict=True)
    except msgspec.ValidationError as problem:
        raise msgspec.ValidationError(f"{where}: {problem}") from problem


def read_job(path: Path) -> Job:
    """Open a job's file.

    Raises
    ------
    FileError
        When it cannot be read; the message names the file and the reason.
    """
    return read_stamped(path)[0]


def read_stamped(path: Path) -> tuple[Job, Stamp | None]:
    """Open a job's file, and what the file was at that moment.

    Raises
    ------
    FileError
        As :func:`read_job`.
    """
    data = read_bounded(path, LARGEST_BYTES, "job")
    return loads(data, path.name), stamp_of(path, data)


def save_job(job: Job, path: Path) -> Stamp | None:
    """Save atomically; the file that was there becomes the previous copy. Returns what the file is now.

    Raises
    ------
    FileError
        When it cannot be written, or is larger than can be read again. The file that was there is untouched.
    """
    data = dumps(job)
    if len(data) > LARGEST_BYTES:
        parts = [name for name in (*job.__struct_fields__, *RUN_FIELDS) if name not in ("run", "extra")]
        largest = max(parts, key=lambda name: len(msgspec.json.encode(getattr(job, name))))
        raise FileError(
            f"The job comes to {len(data) / 2**20:.1f} MiB, too much to be read again "
            f"({LARGEST_BYTES // 2**20} MiB); most of it is {largest.replace('_', ' ')}."
        )
    with writing(path, keep_previous=True) as temporary:
        temporary.write_bytes(data)
    return stamp_of(path, data)


def _either(told: dict[str, Any], limits: dict[str, Any]) -> dict[str, Any]:
    """Limits of a value, which may be left open where its type allows that."""
    open_too = any(kind.get("type") == "null" for kind in told.get("anyOf", ()))
    return {key: [*kept, None] if key == "enum" and open_too else kept for key, kept in limits.items()}


def schema() -> dict[str, Any]:
    """JSON Schema of the file."""
    outline = msgspec.json.schema(Job)
    for kind in nodes_of(Job):
        part = outline["$defs"][kind.__name__]["properties"]
        part.pop("extra", None)
        for field in fields_of(kind):
            part[field.name] |= _either(part[field.name], field.rule.outline() if field.rule else {})
    job = outline["$defs"]["Job"]
    job["properties"] = {"format": {"const": FORMAT}, "version": {"const": VERSION}, **job["properties"]}
    job["required"] = ["format", "version", *job.get("required", [])]
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Awlmark job", **outline}
