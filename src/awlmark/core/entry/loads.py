"""What is typed of the loads on a panel, and of the panels they hang on."""

from __future__ import annotations

import re
from typing import Final

from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import LOAD_KINDS, SYSTEMS, Board, Load
from awlmark.core.panel.leg_balance import leg_of_load
from awlmark.core.quantities import read_number

_LOAD: Final = re.compile(r"(\d+(?:\.\d+)?)\s*(kw|kva|w|va|a)(?:\s*(?:at\s*)?(\d{3})\s*v)?", re.ASCII)
LOAD_COLUMNS: Final = ("Load", "Draws", "Kind", "Count", "Panel", "Leg")
SHARED_COLUMNS: Final = ("Load", "Draws", "Kind", "Count", "Board", "Share")
"""Columns of the table of loads: by the leg each hangs on, or by its share of diversity."""
SERVICE: Final = "service"
CONNECTED: Final = "connected"
"""What other occupancies than dwellings count by: every load whole."""


def load_columns(job: Job) -> tuple[str, ...]:
    """Columns of the table of loads, as the job's rule book asks for them."""
    return SHARED_COLUMNS if open_book(job.code).panel.shares else LOAD_COLUMNS


def read_va(text: str, job: Job, field: str = "load") -> float:
    """A load [VA] from ``4.5 kW``, ``1200 W``, ``30 A`` (at the system's volts) or ``12 A 120 V``.

    Raises
    ------
    InputError
        When the unit is missing or the value is out of reach.
    """
    match = _LOAD.fullmatch(text.strip().lower())
    if match is None:
        raise InputError(field, f"Can't read '{text.strip()}'.", "such as 4.5 kW, 1200 W or 30 A")
    volts = float(match[3]) if match[3] else SYSTEMS[job.supply.system][0]
    factor = {"kw": 1000.0, "kva": 1000.0, "w": 1.0, "va": 1.0, "a": volts}[match[2]]
    return read_number(str(float(match[1]) * factor), field, 1, 1e6)


def print_va(va: float) -> str:
    """A load in kilovolt-amperes."""
    return f"{va / 1000:g} kW"


def load_cells(job: Job, load: Load) -> tuple[str, ...]:
    """One load as the cells of its row."""
    if open_book(job.code).panel.shares:
        last = "whole" if load.share_percent is None else f"{load.share_percent:g} %"
    else:
        last = load.leg or (f"({found})" if (found := leg_of_load(job, load)) else "both")
    kind = f"{load.kind}?" if load.guessed else load.kind
    return (load.name, print_va(load.va), kind, str(load.count), board_name(job, load.board), last)


def board_name(job: Job, board: str) -> str:
    """Name of a board; the service panel has none of its own."""
    return next((one.name for one in job.boards if one.id == board), open_book(job.code).words.service)


def board_of(job: Job, text: str, field: str) -> str:
    """Id of the board that a text names.

    Raises
    ------
    InputError
        When there is none of that name.
    """
    plain = " ".join(text.lower().split())
    if plain in ("", SERVICE, "service panel", open_book(job.code).words.service):
        return ""
    for board in job.boards:
        if plain in (board.name.lower(), board.id):
            return board.id
    words = open_book(job.code).words
    known = ", ".join([words.service, *(board.name for board in job.boards)])
    raise InputError(field, f"There is no {words.sub_panel} '{text.strip()[:40]}'.", known)


def read_load_cell(job: Job, row: int, column: int, text: str) -> tuple[Put, ...]:
    """Edits that a typed cell of the loads' table means; the row behind the last one makes a new load.

    Raises
    ------
    InputError
        Naming the column and what it takes.
    """
    new = row >= len(job.loads)
    if new and not text.strip():
        return ()
    load = Load(id=_free_id(job), name="Load", va=1500.0, guessed=True) if new else job.loads[row]
    fields = _load_field(job, column, text)
    if column == 0 and load.guessed:
        fields["kind"] = guess_kind(text)
    if not new and column == 0 and not text.strip():
        return (Put("loads", tuple(other for other in job.loads if other.id != load.id)),)
    from msgspec.structs import replace

    changed = replace(load, **fields)
    if new:
        return (Put("loads", (*job.loads, changed)),)
    return tuple(Put(f"loads[{load.id}].{name}", value) for name, value in fields.items())


def _load_field(job: Job, column: int, text: str) -> dict[str, object]:
    name = load_columns(job)[column]
    if column == 0:
        return {"name": text.strip()[:40]}
    if column == 1:
        return {"va": read_va(text, job, name)}
    if column == 2:
        kind = " ".join(text.lower().split()).removesuffix("?")
        if kind not in LOAD_KINDS:
            raise InputError(name, f"Can't use '{text.strip()[:40]}'.", "one of " + ", ".join(LOAD_KINDS))
        return {"kind": kind, "guessed": False}
    if column == 3:
        return {"count": int(read_number(text, name, 1, 50))}
    if column == 4:
        return {"board": board_of(job, text, name)}
    if name == SHARED_COLUMNS[-1]:
        plain = text.strip().lower()
        whole = plain in ("", "whole", "open")
        return {"share_percent": None if whole else read_number(plain, name, 0, 100, "%")}
    leg = text.strip().upper().strip("()")
    if leg not in ("", "A", "B", "BOTH"):
        raise InputError(name, f"Can't use '{text.strip()[:40]}'.", "A, B, or both")
    return {"leg": "" if leg == "BOTH" else leg}


def _free_id(job: Job) -> str:
    taken = {load.id for load in job.loads}
    return next(f"load-{number}" for number in range(1, 1000) if f"load-{number}" not in taken)


_KINDS: Final = (
    ("heat pump", r"heat ?pump|mini ?split"),
    ("fixed", r"water heater|wash heater|geyser|hot tub|tub|spa|sauna|dishwasher|disposal|microwave|tankless"),
    ("cooling", r"ac|a/c|air ?con.*|cooler|cooling|condenser|chiller|cold ?store|cold ?room|freezer"),
    ("range", r"range|oven|cooktop|hob|cooker|stove"),
    ("dryer", r"dryer"),
    ("charging", r"ev|evse|charger|charging|(second|other|car) outlet"),
    ("heat", r"heat|heater|heating|baseboard|furnace|strip"),
    ("motor", r"pump|motor|press|compressor|saw|fan|mill|lathe|opener|lift"),
    ("lighting", r"lights?|lamps?|lighting"),
    ("general", r"plugs?|outlets?|receptacles?|sockets?"),
)  # fmt: skip
"""Kinds that the words of a load's name point at, tried in this order; a guess that somebody confirms."""


def guess_kind(name: str) -> str:
    """What a load most likely is by its name; ``fixed`` where no word of it says more."""
    plain = " ".join(name.lower().replace("-", " ").split())
    for kind, words in _KINDS:
        if re.search(rf"\b(?:{words})\b", plain):
            return kind
    return "fixed"


def add_load(job: Job, name: str, va: float, kind: str | None = None) -> tuple[Put, ...]:
    """Edits that put a load on the circuit's own panel; without a kind it is guessed, and stays so until confirmed."""
    load = Load(
        id=_free_id(job),
        name=name,
        va=va,
        kind=kind or guess_kind(name),
        guessed=kind is None,
        board=job.supply.board,
    )
    return (Put("loads", (*job.loads, load)),)


def sorted_loads(job: Job, column: int) -> tuple[Put, ...]:
    """The loads in the order of a column of their table; turned round where they stand so already."""
    field = {"Draws": "va", "Count": "count"}.get(LOAD_COLUMNS[column])

    def key(load: Load) -> tuple[float, str]:
        return (getattr(load, field), "") if field else (0.0, load_cells(job, load)[column].lower())

    loads = tuple(sorted(job.loads, key=key))
    if loads == job.loads:
        loads = tuple(sorted(job.loads, key=key, reverse=True))
    return (Put("loads", loads),) if loads != job.loads else ()


def add_board(job: Job, name: str, feeder_a: float | None) -> tuple[Put, ...]:
    """Edits that put a sub-panel under the service."""
    taken = {board.id for board in job.boards}
    board_id = next(f"board-{number}" for number in range(1, 100) if f"board-{number}" not in taken)
    return (Put("boards", (*job.boards, Board(id=board_id, name=name, feeder_a=feeder_a))),)
