"""What is typed into the tables of the scene, taken into the job or put back."""

from __future__ import annotations

from PySide6.QtCore import QObject

from awlmark.core.job.edit import Put, put
from awlmark.desk.commands import Acts
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session


class Typed(QObject):
    """Listens to the tables; a cell that cannot be taken keeps its old text, and the Entry says why."""

    def __init__(self, session: Session, scenes: Scenes, acts: Acts) -> None:
        super().__init__(scenes)
        self.session, self.scenes, self.acts = session, scenes, acts
        scenes.part_typed.connect(self._part_typed)
        scenes.chosen_part.connect(self._part_chosen)
        scenes.fact_typed.connect(self._fact_typed)
        scenes.load_typed.connect(self._load_typed)
        scenes.supply_typed.connect(self._supply_typed)
        scenes.loads_sorted.connect(self._loads_sorted)
        scenes.slot_typed.connect(self._slot_typed)
        scenes.reread.connect(self._reread)
        scenes.pasting.connect(self._pasting)
        scenes.chosen_leg.connect(lambda at_m: session.see(at_m=at_m))

    def _part_typed(self, key: str, word: str, text: str) -> None:
        self.session.part_key = key
        if word == "price" and not text.strip():
            opened = Put(f"prices[{key}]", None)
            self.acts.act(lambda: self.session.apply("price open", put(self.session.job, opened)))
        else:
            self.acts.act(lambda: self.acts.scribe(f"{word} {text.strip() or 'none'}"))

    def _pasting(self, begins: bool) -> None:
        """What one paste types is one step to undo, and none where nothing of it could be taken."""
        stack = self.session.undo_stack
        if begins:
            stack.beginMacro("typed block")
            return
        stack.endMacro()
        made = stack.command(stack.count() - 1)
        if made is not None and made.childCount() == 0:
            made.setObsolete(True)
            stack.undo()

    def _fact_typed(self, row: int, column: int, text: str) -> None:
        self.acts.act(lambda: self.acts.take_fact(row, column, text))

    def _load_typed(self, row: int, column: int, text: str) -> None:
        self.acts.act(lambda: self.acts.take_load(row, column, text))

    def _supply_typed(self, row: int, text: str) -> None:
        self.acts.act(lambda: self.acts.take_supply(row, text))

    def _loads_sorted(self, column: int) -> None:
        self.acts.act(lambda: self.acts.sort_loads(column))

    def _slot_typed(self, row: int, column: int, text: str) -> None:
        self.acts.act(lambda: self.acts.take_slot(row, column, text))

    def _part_chosen(self, key: str) -> None:
        self.session.part_key = key

    def _reread(self, entry: str) -> None:
        self.acts.act(lambda: self.acts.scribe(entry))
