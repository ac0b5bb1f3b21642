"""What is typed into the tables of the scene, taken into the job or put back."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer

from awlmark.core.job.edit import Put, put
from awlmark.desk.commands import Acts
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session


class Typed(QObject):
    """Listens to the tables; a cell that cannot be taken shows its old text again, and the Entry says why."""

    def __init__(self, session: Session, scenes: Scenes, acts: Acts) -> None:
        super().__init__(scenes)
        self.session, self.scenes, self.acts = session, scenes, acts
        scenes.part_typed.connect(self._part_typed)
        scenes.chosen_part.connect(self._part_chosen)
        scenes.fact_typed.connect(self._fact_typed)
        scenes.load_typed.connect(self._load_typed)
        scenes.supply_typed.connect(self._supply_typed)
        scenes.slot_typed.connect(self._slot_typed)
        scenes.reread.connect(self._reread)
        scenes.chosen_leg.connect(lambda at_m: session.see(at_m=at_m))

    def _part_typed(self, key: str, word: str, text: str) -> None:
        self.session.part_key = key
        if word == "price" and not text.strip():
            done = self.acts.act(
                lambda: self.session.apply("price open", put(self.session.job, Put(f"prices[{key}]", None)))
            )
        else:
            done = self.acts.act(lambda: self.acts.scribe(f"{word} {text.strip() or 'none'}"))
        if not done:
            QTimer.singleShot(0, self, self.scenes.refresh_tables)

    def _fact_typed(self, row: int, column: int, text: str) -> None:
        if not self.acts.act(lambda: self.acts.take_fact(row, column, text)):
            QTimer.singleShot(0, self, self.scenes.refresh_tables)

    def _load_typed(self, row: int, column: int, text: str) -> None:
        if not self.acts.act(lambda: self.acts.take_load(row, column, text)):
            QTimer.singleShot(0, self, self.scenes.refresh_tables)

    def _supply_typed(self, row: int, text: str) -> None:
        if not self.acts.act(lambda: self.acts.take_supply(row, text)):
            QTimer.singleShot(0, self, self.scenes.refresh_tables)

    def _slot_typed(self, row: int, column: int, text: str) -> None:
        if not self.acts.act(lambda: self.acts.take_slot(row, column, text)):
            QTimer.singleShot(0, self, self.scenes.refresh_tables)

    def _part_chosen(self, key: str) -> None:
        self.session.part_key = key

    def _reread(self, entry: str) -> None:
        if not self.acts.act(lambda: self.acts.scribe(entry)):
            QTimer.singleShot(0, self, self.scenes.refresh_tables)
