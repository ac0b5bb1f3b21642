"""The cars, their weeks, and what energy costs them."""

from __future__ import annotations

from typing import Final

from awlmark.core.job.node import Node

SHARINGS: Final = ("half", "turns", "managed")
PORTS: Final = ("front left", "front right", "front", "left", "right", "rear left", "rear right", "rear")
MOST_CARS: Final = 2


class Car(Node, frozen=True, kw_only=True):
    """One vehicle and its week."""

    id: str
    name: str = "Car"
    battery_kwh: float = 60.0
    use_kwh_per_km: float = 0.18
    onboard_kw: float | None = None
    """Most its own charger takes; None while unread."""
    level_percent: float = 50.0
    port: str = "front left"
    port_m: float = 0.9
    """Height of its port [m]."""
    long_m: float = 4.8
    wide_m: float = 1.9
    km: tuple[float, ...] = (50.0,) * 7
    """Driven each weekday, Monday first [km]."""
    arrive_h: float = 18.0
    leave_h: float = 7.0
    """Plugged in from, and away again by, hour of the day."""


class PriceWindow(Node, frozen=True, kw_only=True):
    """Hours of the day with a price of their own; may pass midnight."""

    from_h: float
    to_h: float
    price: str


class Need(Node, frozen=True, kw_only=True):
    """How much driving the charger has to fill up again."""

    cars: tuple[Car, ...] = ()
    sharing: str = "managed"
    """How two cars use one circuit: ``half`` each, ``turns`` one after the other, ``managed`` what the other leaves."""
    cold_factor: float = 1.0
    """What driving takes in December to February, as a multiple."""
    efficiency: float = 0.90
    """Share of the energy drawn that reaches the battery; common practice."""
    price: str = "0.15"
    windows: tuple[PriceWindow, ...] = ()
