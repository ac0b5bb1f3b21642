"""The panel's face: its spaces, what is in them, and the prepared holes of its box."""

from typing import Annotated, Final

from awlmark.core.job.limits import Many, OneOf, Within
from awlmark.core.job.node import Node

MOST_SPACES: Final = 84
BREAKER_KINDS: Final = ("branch", "main", "back-fed")
"""What a device does: feeds a circuit, feeds the bus, or feeds the bus from a second source such as solar."""
KNOCKOUT_SIDES: Final = ("top", "bottom", "left", "right")
KNOCKOUT_STATES: Final = ("free", "used", "blocked")
CONDITIONS: Final = ("sound", "worn", "obsolete")
MOST_KNOCKOUTS: Final = 24


class Breaker(Node, frozen=True, kw_only=True):
    """One device in the panel; it takes ``space``, and the one below on its side when it has two poles."""

    id: str
    space: Annotated[int, Within(1, MOST_SPACES)]
    name: str = ""
    rating_a: Annotated[float | None, Within(5, 400, "A")] = None
    clamped: bool | None = None
    """Whether a back-fed device is held by a clamp or screw, so that it cannot be pulled off; None while unread."""
    source_a: Annotated[float | None, Within(0.1, 400, "A")] = None
    """Current of the source behind a back-fed device, as its inverter's plate says [A]; None takes the device's own."""
    poles: Annotated[int, OneOf((1, 2))] = 1
    tied: bool = False
    """Two single poles with tied handles count as one two-pole device."""
    tandem: bool = False
    """Two breakers in one space; only where the panel allows it."""
    quad: bool = False
    """Two two-pole breakers in two spaces; only where the panel allows tandems."""
    kind: Annotated[str, OneOf(BREAKER_KINDS)] = "branch"
    family: str = ""
    """Type on its label, as the user types it."""
    fixed: bool = False
    """Not to be moved, whatever it is; mains and back-fed devices never are."""
    idle: bool = False
    """Said to feed nothing any more."""
    proved_panel: bool = False
    proved_load: bool = False
    """Idle, proved at its terminal and at the far end of its wire; only with both may it be taken out."""

    @property
    def stays(self) -> bool:
        """Whether it must keep its place."""
        return self.fixed or self.kind != "branch"

    @property
    def spare(self) -> bool:
        """Idle with proof at both ends: it may be taken out."""
        return self.idle and self.proved_panel and self.proved_load and not self.stays


class Knockout(Node, frozen=True, kw_only=True):
    """A prepared hole in the panel's box; the run may begin at it."""

    id: str
    side: Annotated[str, OneOf(KNOCKOUT_SIDES)] = "top"
    trade_size: str = "3/4"
    state: Annotated[str, OneOf(KNOCKOUT_STATES)] = "free"
    below_top_m: Annotated[float, Within(0, 3, "m", "below the top")] = 0.0
    """Below the top of the box [m]; on a side or the bottom."""


class DeadFront(Node, frozen=True, kw_only=True):
    """Spaces of the panel, odd numbers left and even ones right, and what is in them."""

    spaces: Annotated[int, Within(0, MOST_SPACES, "spaces", "spaces")] = 0
    """0 while nobody has counted them."""
    tandem_from: Annotated[int | None, Within(1, MOST_SPACES, called="tandem spaces")] = None
    """Lowest space that takes tandems; None where the panel takes none."""
    breakers: Annotated[tuple[Breaker, ...], Many(2 * MOST_SPACES, called="breakers")] = ()
    families: Annotated[tuple[str, ...], Many(20, called="breaker types")] = ()
    """Breaker types that the panel's label accepts, as the user types them."""
    bus_a: Annotated[float | None, Within(15, 4000, "A", "bus rating")] = None
    """Rating of the bus bars; None while unread."""
    opened: Annotated[tuple[int, ...], Many(MOST_SPACES, called="open spaces")] = ()
    """Empty spaces whose cover is broken out."""
    free: Annotated[tuple[int, ...], Many(MOST_SPACES, called="free spaces")] = ()
    """Spaces somebody has looked at and found empty; of the others without a device nobody has told."""
    complete: bool = False
    """Whether every device of the panel is entered."""
    fillers: Annotated[tuple[int, ...], Many(MOST_SPACES, called="fillers")] = ()
    """Opened spaces closed again by a filler plate."""
    knockouts: Annotated[tuple[Knockout, ...], Many(MOST_KNOCKOUTS, called="knockouts")] = ()
    condition: Annotated[str | None, OneOf(CONDITIONS, "panel condition")] = None
    clear_wide_m: Annotated[float | None, Within(0, 20, "m", "working space, wide")] = None
    clear_deep_m: Annotated[float | None, Within(0, 20, "m", "working space, deep")] = None
    clear_high_m: Annotated[float | None, Within(0, 20, "m", "working space, high")] = None
    """Free room before the panel; None while unread."""
