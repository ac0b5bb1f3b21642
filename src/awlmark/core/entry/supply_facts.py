"""Facts of the supply and its loads as people write them."""

from __future__ import annotations

from typing import Final

from awlmark.core.books import open_book
from awlmark.core.books.words import Words
from awlmark.core.entry.cars import Fact
from awlmark.core.entry.loads import CONNECTED, board_name, board_of
from awlmark.core.entry.sizes import read_size
from awlmark.core.entry.spaces import clear_text, read_clear, read_condition, read_families
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, value_at
from awlmark.core.job.model import MATERIALS, Job
from awlmark.core.job.supply import DEMAND_METHODS, HOUSEHOLD, SYSTEMS, Board, Demand
from awlmark.core.quantities import SQUARE_FOOT_M2, print_length, read_length, read_number


def _amps(label: str, path: str) -> Fact:
    def value(job: Job) -> float | None:
        found: float | None = value_at(job, path)
        return found

    return Fact(
        label,
        lambda job, _car: "" if value(job) is None else f"{value(job):g} A",
        lambda text, _job, _car: (Put(path, read_number(text, label, 0, 4000, "a") if text.strip() else None),),
    )


def _count(label: str, field: str) -> Fact:
    return Fact(
        label,
        lambda job, _car: str(getattr(job.demand, field)),
        lambda text, _job, _car: (Put(f"demand.{field}", int(read_number(text, label, 0, 20))),),
    )


def _yes_no(label: str, field: str) -> Fact:
    def read(text: str, _job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower()
        if plain not in ("yes", "no"):
            raise InputError(label, f"Can't use '{text.strip()[:40]}'.", "yes or no")
        return (Put(f"demand.{field}", plain == "yes"),)

    return Fact(label, lambda job, _car: "yes" if getattr(job.demand, field) else "no", read)


def _method() -> Fact:
    def known(job: Job) -> tuple[str, ...]:
        return DEMAND_METHODS if job.occupancy == "dwelling" else (CONNECTED, "measured")

    def read(text: str, job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower()
        if plain not in known(job):
            raise InputError("Method", f"Can't use '{text.strip()[:40]}'.", "one of " + ", ".join(known(job)))
        return (Put("demand.method", "optional" if plain == CONNECTED else plain),)

    def show(job: Job, _car: object) -> str:
        return job.demand.method if job.demand.method in known(job) else CONNECTED

    return Fact("Method", show, read)


def _floor() -> Fact:
    def show(job: Job, _car: object) -> str:
        area = job.demand.floor_m2
        return "" if area is None else f"{area / SQUARE_FOOT_M2:.0f} ft2" if job.units == "ft" else f"{area:g} m2"

    def read(text: str, job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower().replace("²", "2")
        if not plain:
            return (Put("demand.floor_m2", None),)
        metres = plain.endswith("m2") or (job.units == "m" and not plain.endswith("ft2"))
        area = read_number(plain.removesuffix("m2").removesuffix("ft2"), "Floor area", 1, 50_000)
        return (Put("demand.floor_m2", area if metres else area * SQUARE_FOOT_M2),)

    return Fact("Floor area", show, read)


def _hangs_on() -> Fact:
    return Fact(
        "Circuit hangs on",
        lambda job, _car: board_name(job, job.supply.board),
        lambda text, job, _car: (Put("supply.board", board_of(job, text, "Circuit hangs on")),),
    )


def _board_facts(board: Board, words: Words) -> tuple[Fact, ...]:
    path = f"boards[{board.id}]"

    def now(job: Job) -> Board:
        return next(one for one in job.boards if one.id == board.id)

    return (
        Fact(
            f"{board.name}: {words.feeder}",
            lambda job, _car: "" if now(job).feeder_a is None else f"{now(job).feeder_a:g} A",
            lambda text, _job, _car: (
                Put(f"{path}.feeder_a", read_number(text, words.feeder, 15, 4000, "a") if text.strip() else None),
            ),
        ),
        Fact(
            f"{board.name}: fed from",
            lambda job, _car: board_name(job, now(job).fed_by),
            lambda text, job, _car: (Put(f"{path}.fed_by", board_of(job, text, f"{board.name}: fed from")),),
        ),
        Fact(
            f"{board.name}: {words.feeder} {words.wire}",
            lambda job, _car: f"{now(job).feeder_size} {now(job).feeder_material}" if now(job).feeder_size else "",
            lambda text, job, _car: _feeder_wire(text, job, path),
        ),
        Fact(
            f"{board.name}: {words.feeder} length",
            lambda job, _car: _length_text(job, now(job).feeder_length_m),
            lambda text, job, _car: (
                Put(
                    f"{path}.feeder_length_m",
                    read_length(text, f"{words.feeder} length", job.units) if text.strip() else None,
                ),
            ),
        ),
        Fact(
            f"{board.name}: neutral and {words.earth}",
            lambda job, _car: {None: "", True: "joined", False: "apart"}[now(job).bonded],
            lambda text, _job, _car: (Put(f"{path}.bonded", _joined(text)),),
        ),
    )


def _joined(text: str) -> bool | None:
    known = {"": None, "joined": True, "apart": False}
    plain = text.strip().lower()
    if plain not in known:
        raise InputError("neutral and ground", f"Can't use '{text.strip()[:40]}'.", "apart, joined, or nothing")
    return known[plain]


def _length_text(job: Job, metres: float | None) -> str:
    return "" if metres is None else print_length(metres, job.units)


def _feeder_wire(text: str, job: Job, path: str) -> tuple[Put, ...]:
    """``2 al``, ``6 cu`` or ``6``: size and metal of a feeder."""
    words = text.lower().split()
    if not words:
        return (Put(f"{path}.feeder_size", None),)
    metal = words[-1] if words[-1] in MATERIALS else "cu"
    size = " ".join(words[:-1] if words[-1] in MATERIALS else words)
    found = read_size(size, job, "Feeder wire")
    return (Put(f"{path}.feeder_size", found), Put(f"{path}.feeder_material", metal))


def _clear() -> Fact:
    return Fact(
        "Free room before it",
        lambda job, _car: clear_text(job),
        lambda text, job, _car: read_clear(
            text.lower().split(" x ") if " x " in text else text.lower().split() or ["open"], job
        ),
    )


PANEL_FACTS: Final[tuple[Fact, ...]] = (
    Fact(
        "Bus bars",
        lambda job, _car: "" if job.dead_front.bus_a is None else f"{job.dead_front.bus_a:g} A",
        lambda text, _job, _car: (
            Put("dead_front.bus_a", read_number(text, "Bus bars", 15, 4000, "a") if text.strip() else None),
        ),
    ),
    Fact(
        "Accepts types",
        lambda job, _car: ", ".join(job.dead_front.families),
        lambda text, _job, _car: read_families(text),
    ),
    Fact(
        "Condition",
        lambda job, _car: job.dead_front.condition or "",
        lambda text, _job, _car: read_condition(text.lower().split() or ["open"]),
    ),
    _clear(),
)
"""Facts of the panel itself, beside the table of its devices."""


def _system() -> Fact:
    def read(text: str, job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower().removesuffix("v").strip()
        book = open_book(job.code)
        known = tuple(book.systems) if book.power_v else tuple(SYSTEMS)
        if plain not in known:
            raise InputError("System", f"Can't use '{text.strip()[:40]}'.", "one of " + ", ".join(known))
        return (Put("supply.system", plain),)

    return Fact("System", lambda job, _car: f"{job.supply.system} V", read)


def _set_point() -> Fact:
    return Fact(
        "Sensors hold it to",
        lambda job, _car: "" if job.demand.set_point_a is None else f"{job.demand.set_point_a:g} A",
        lambda text, _job, _car: (
            Put("demand.set_point_a", read_number(text, "Set point", 15, 4000, "a") if text.strip() else None),
        ),
    )


def _shares() -> Fact:
    def read(text: str, job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower()
        load = next((one for one in job.loads if one.name.lower() == plain), None)
        if plain and load is None:
            raise InputError(
                "Shares a circuit with",
                f"There is no load '{text.strip()[:40]}'.",
                ", ".join(one.name for one in job.loads) or "a load, once one is entered",
            )
        return (Put("demand.shares", load.id if load else ""),)

    def show(job: Job, _car: object) -> str:
        return next((one.name for one in job.loads if one.id == job.demand.shares), "")

    return Fact("Shares a circuit with", show, read)


_SUPPLY: Final[tuple[Fact, ...]] = (
    _system(),
    _amps("Service", "supply.service_a"),
    _hangs_on(),
    _yes_no("Load management", "managed"),
    _set_point(),
    _shares(),
)
_DWELLING: Final[tuple[Fact, ...]] = (
    _method(),
    _floor(),
    _count("Small-appliance circuits", "small_appliance"),
    _count("Laundry circuits", "laundry"),
    _yes_no("Charger in the 40 % pool", "pool"),
    _amps("Highest demand of a year", "demand.measured_a"),
)


def supply_facts(job: Job) -> tuple[Fact, ...]:
    """Facts of a job's supply: what every job has, a dwelling's own, two for each sub-panel."""
    book = open_book(job.code)
    boards = tuple(fact for board in job.boards for fact in _board_facts(board, book.words))
    if book.panel.shares:
        first = _amps(book.words.first, book.panel.first_path)
        managed = _yes_no(book.panel.managed, "managed")
        return (_system(), first, _hangs_on(), managed, _set_point(), _diversity(), _DWELLING[-1], *boards)
    dwelling = _DWELLING if job.occupancy == "dwelling" else (_method(), _DWELLING[-1])
    return (*_SUPPLY, *dwelling, *boards)


def _diversity() -> Fact:
    """By the table for a household, or every load by its own share."""

    def read(text: str, _job: Job, _car: object) -> tuple[Put, ...]:
        plain = text.strip().lower()
        if plain not in ("", "none", HOUSEHOLD):
            raise InputError("Diversity", f"Can't use '{text.strip()[:40]}'.", f"{HOUSEHOLD} or none")
        return (Put("demand.method", HOUSEHOLD if plain == HOUSEHOLD else Demand().method),)

    return Fact("Diversity", lambda job, _car: HOUSEHOLD if job.demand.method == HOUSEHOLD else "none", read)
