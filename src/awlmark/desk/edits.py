"""What menus and keys change in the job: each one act of the hand."""

from __future__ import annotations

from awlmark.desk.commands import Acts
from awlmark.desk.session import Session


class Edits:
    """Mixed into the window. A plain class: Qt's classes do not share a child."""

    session: Session
    acts: Acts

    def undo(self) -> None:
        """Take back the last edit."""
        self.session.undo()

    def redo(self) -> None:
        """Make it again."""
        self.session.redo()

    def rub_out(self) -> None:
        """Rub out the last leg."""
        self.acts.act(lambda: self.acts.scribe("rub"))

    def take_first_fix(self) -> None:
        """Take the first fix of the finding in hand; a question's answer is begun, never chosen for the user."""
        self.acts.act(self.acts.answer_first)

    def open_decisions(self) -> None:
        """Open everything that is pinned."""
        self.acts.act(lambda: self.acts.scribe("open"))

    def step_up(self) -> None:
        """One rung or trade size up."""
        self.acts.act(lambda: self.acts.step(1))

    def step_down(self) -> None:
        """One rung or trade size down."""
        self.acts.act(lambda: self.acts.step(-1))

    def swap_metal(self) -> None:
        """Copper to aluminium and back."""
        self.acts.swap_metal()

    def next_method(self) -> None:
        """The next wiring method for the section under the awl."""
        self.acts.next_method()

    def next_worst(self) -> None:
        """The next finding, worst first."""
        self.acts.next_worst()

    def add_car(self) -> None:
        """Another car on the circuit."""
        self.acts.do("car:add")

    def remove_car(self) -> None:
        """The last car off the circuit."""
        self.acts.do("car:remove")
