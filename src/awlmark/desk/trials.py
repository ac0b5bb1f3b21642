"""Other ways to do the whole job, solved once for each design and only where they are shown."""

from __future__ import annotations

from typing import TYPE_CHECKING

from awlmark.core.options.fixes import Quote, fork
from awlmark.core.solve.design import Design
from awlmark.draw.view_state import Look

if TYPE_CHECKING:
    from awlmark.core.options.side_by_side import Side
    from awlmark.core.options.spots import SpotWay


class Trials:
    """What the Place scene and the page of whole jobs show beside the job in hand."""

    def __init__(self) -> None:
        self._forks: tuple[Quote, ...] = ()
        self._spots: tuple[SpotWay, ...] = ()
        self._sides: tuple[Side, ...] = ()
        self._placed: Design | None = None
        """The design whose ends and spots are at hand."""
        self._sided: Design | None = None

    def forks(self, design: Design) -> tuple[Quote, ...]:
        """Outlet or hardwire at the line's end, once they are priced."""
        return self._forks if self._placed is design else ()

    def spots(self, design: Design) -> tuple[SpotWay, ...]:
        """Each spot of the floor with a run of its own, once they are priced."""
        return self._spots if self._placed is design else ()

    def sides(self, design: Design) -> tuple[Side, ...]:
        """Outlet or hardwire, pipe or cable, copper or aluminium, once they are priced."""
        return self._sides if self._sided is design else ()

    def wanted(self, design: Design, look: Look) -> bool:
        """Whether something that is shown still waits for its price."""
        if look.stage == "place":
            return self._placed is not design
        return look.stage == "wire" and look.wire_page == "jobs" and self._sided is not design

    def make(self, design: Design, look: Look) -> bool:
        """Solve what is wanted; whether anything came of it."""
        if not self.wanted(design, look):
            return False
        if look.stage == "place":
            from awlmark.core.options.spots import spot_ways

            self._forks, self._spots, self._placed = fork(design), spot_ways(design), design
            return bool(self._forks or self._spots)
        from awlmark.core.options.side_by_side import sides

        self._sides, self._sided = sides(design), design
        return True
