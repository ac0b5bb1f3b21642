"""The cars, their weeks, and what energy costs them."""

from typing import Annotated, Final

from awlmark.core.job.limits import Amount, Many, OneOf, Within
from awlmark.core.job.node import Node

SHARINGS: Final = ("half", "turns", "managed")
PORTS: Final = ("front left", "front right", "front", "left", "right", "rear left", "rear right", "rear")
MOST_CARS: Final = 12


class Car(Node, frozen=True, kw_only=True):
    """One vehicle and its week."""

    id: str
    name: str = "Car"
    battery_kwh: Annotated[float, Within(1, 1000, "kWh")] = 60.0
    use_kwh_per_km: Annotated[float, Within(0.02, 3, "kWh/km", "use")] = 0.18
    onboard_kw: Annotated[float | None, Within(0.5, 50, "kW", "on-board charger")] = None
    """Most its own charger takes; None while unread."""
    level_percent: Annotated[float, Within(0, 100, "%")] = 50.0
    port: Annotated[str, OneOf(PORTS)] = "front left"
    port_m: Annotated[float, Within(0, 3, "m", "port height")] = 0.9
    """Height of its port [m]."""
    long_m: Annotated[float, Within(1, 12, "m", "length")] = 4.8
    wide_m: Annotated[float, Within(0.5, 4, "m", "width")] = 1.9
    km: Annotated[tuple[float, ...], Many(7, least=7, each=Within(0, 2000, "km"), called="distance")] = (50.0,) * 7
    """Driven each weekday, Monday first [km]."""
    arrive_h: Annotated[float, Within(0, 24, "h", "arrival")] = 18.0
    leave_h: Annotated[float, Within(0, 24, "h", "leaving")] = 7.0
    """Plugged in from, and away again by, hour of the day."""


class PriceWindow(Node, frozen=True, kw_only=True):
    """Hours of the day with a price of their own; may pass midnight."""

    from_h: Annotated[float, Within(0, 24, "h")]
    to_h: Annotated[float, Within(0, 24, "h")]
    price: Annotated[str, Amount(called="energy price")]


class Need(Node, frozen=True, kw_only=True):
    """How much driving the charger has to fill up again."""

    cars: Annotated[tuple[Car, ...], Many(MOST_CARS, called="cars")] = ()
    sharing: Annotated[str, OneOf(SHARINGS, "sharing")] = "managed"
    """How several cars use one circuit: ``half``, an even part each; ``turns``, one after the other; ``managed``, each
    what the others leave."""
    cold_factor: Annotated[float, Within(1, 3, "times", "cold factor")] = 1.0
    """What driving takes in December to February, as a multiple."""
    efficiency: Annotated[float, Within(0.5, 1, "(share)", "charging efficiency")] = 0.90
    """Share of the energy drawn that reaches the battery; common practice."""
    quiet_waived: bool = False
    """Whether the owner waives the hours in which charging waits by default."""
    price: Annotated[str, Amount(called="energy price")] = "0.15"
    fuel_per_l: Annotated[float | None, Within(0.01, 100, "a litre", "fuel price")] = None
    """Price of the fuel it replaces [currency/l]; None while nobody compares."""
    fuel_km_per_l: Annotated[float | None, Within(0.5, 100, "km/l", "fuel use")] = None
    windows: Annotated[tuple[PriceWindow, ...], Many(24, called="price windows")] = ()
