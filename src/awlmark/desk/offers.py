"""What the Entry offers while something is typed."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from awlmark.desk.entry import ARROWS, EntryBar
from awlmark.desk.session import Session

if TYPE_CHECKING:
    from awlmark.core.entry.suggest import Suggestion


class Offers:
    """Suggestions for what stands in the Entry; Tab takes the chosen one, Down and Up choose."""

    def __init__(self, session: Session, entry: EntryBar, changed: Callable[[], None]) -> None:
        self.session, self.entry, self._changed = session, entry, changed
        self.found: tuple[Suggestion, ...] = ()
        self.chosen = 0
        entry.line.offered.connect(self.step)
        entry.line.took.connect(lambda: self.take(self.chosen))

    def follow(self, text: str) -> None:
        """Suggest anew for a text; nothing for a bare direction, which waits for its reading."""
        found: tuple[Suggestion, ...] = ()
        if text.strip() and text not in ARROWS.values() and self.session.look.practice is None:
            from awlmark.core.entry.suggest import suggest

            found = suggest(text, self.session.job, self.session.spot, self.session.look.stage)
        self.entry.line.offers = len(found)
        if found != self.found:
            self.found, self.chosen = found, 0
            self._changed()

    def strays(self, text: str) -> tuple[tuple[int, int], ...]:
        """Where words stand in a text that nothing knows; the one still being typed may become a known one."""
        from awlmark.core.entry.nearest import strays

        typing = len(text) if self.found else -1
        return tuple((one.start, one.end) for one in strays(text, self.session.job) if one.end != typing)

    def step(self, way: int) -> None:
        """Choose the next one, or the one before."""
        if self.found:
            self.chosen = (self.chosen + way) % len(self.found)
            self._changed()

    def take(self, number: int) -> None:
        """Put a suggestion into the Entry, to be gone on with or taken by Enter."""
        if number < len(self.found):
            self.entry.line.setText(self.found[number].text)
            self.entry.line.setFocus()
