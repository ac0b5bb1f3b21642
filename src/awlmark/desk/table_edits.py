"""What is typed into the tables of the scene, taken into the job or put back."""

from __future__ import annotations

from typing import Final

from PySide6.QtCore import QObject

from awlmark.core.job.edit import Put, put
from awlmark.desk.commands import Acts
from awlmark.desk.regional import typed
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session

NAMES: Final = frozenset(("Name", "Load", "Feeds", "Type"))
"""Facts and columns that are kept as they are typed: names, and what a label says."""


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
        from awlmark.core.entry.cars import CAR_FACTS, SHARED_FACTS

        job = self.session.job
        fact = (*CAR_FACTS, *SHARED_FACTS)[row]
        car = job.need.cars[column] if row < len(CAR_FACTS) else None

        def take() -> None:
            told = text if fact.label in NAMES else typed(text)
            self.session.apply(f"{fact.label} {text.strip()}", put(job, *fact.read(told, job, car)))

        self.acts.act(take)

    def _load_typed(self, row: int, column: int, text: str) -> None:
        from awlmark.core.entry.loads import load_columns, read_load_cell

        job = self.session.job

        def take() -> None:
            told = text if load_columns(job)[column] in NAMES else typed(text)
            self.session.apply(f"load {text.strip()}", put(job, *read_load_cell(job, row, column, told)))

        self.acts.act(take)

    def _supply_typed(self, row: int, text: str) -> None:
        from awlmark.core.entry.supply_facts import supply_facts

        job = self.session.job
        fact = supply_facts(job)[row]

        def take() -> None:
            self.session.apply(f"{fact.label} {text.strip()}", put(job, *fact.read(typed(text), job, None)))

        self.acts.act(take)

    def _loads_sorted(self, column: int) -> None:
        """Put the loads in the order of a column, or the other way round where they stand so already."""
        from awlmark.core.entry.loads import load_columns, sorted_loads

        job = self.session.job
        edits = sorted_loads(job, column)
        if edits:
            self.acts.act(lambda: self.session.apply(f"loads by {load_columns(job)[column].lower()}", put(job, *edits)))

    def _slot_typed(self, row: int, column: int, text: str) -> None:
        from awlmark.core.entry.spaces import SLOT_COLUMNS, read_slot_cell

        job = self.session.job

        def take() -> None:
            told = text if SLOT_COLUMNS[column] in NAMES else typed(text)
            self.session.apply(f"slot {text.strip()}", put(job, *read_slot_cell(job, row, column, told)))

        self.acts.act(take)

    def _part_chosen(self, key: str) -> None:
        self.session.part_key = key

    def _reread(self, entry: str) -> None:
        self.acts.act(lambda: self.acts.scribe(entry))
