"""The scene: one drawing a stage, its tables beside or instead of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from awlmark.desk.region import Region
from awlmark.desk.session import Session
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import panel_page

if TYPE_CHECKING:
    from awlmark.desk.tables.facts_table import FactsTable
    from awlmark.desk.tables.legs_table import LegsTable
    from awlmark.desk.tables.parts_table import PartsTable
    from awlmark.desk.tables.slots_table import SlotsTable
    from awlmark.desk.tables.supply_tables import SupplyTables
    from awlmark.desk.tables.table import Table


class Scenes(QWidget):
    """Drawing above, the list of parts below on its stage; the legs' table as the Run drawing's twin."""

    part_typed = Signal(str, str, str)
    """Key of a part, the word of its column and the text typed."""
    chosen_part = Signal(str)
    load_typed = Signal(int, int, str)
    """Row, column and text of a load."""
    supply_typed = Signal(int, str)
    """Row and text of a fact of the supply."""
    slot_typed = Signal(int, int, str)
    """Row, column and text of a device in the panel."""
    fact_typed = Signal(int, int, str)
    """Row, column and text of a fact."""
    pasting = Signal(bool)
    """Whether what is typed now comes from one paste."""
    loads_sorted = Signal(int)
    """Column that the loads are to stand by."""
    reread = Signal(str)
    """The entry that a cell typed in the legs' table stands for."""
    chosen_leg = Signal(float)

    def __init__(self, session: Session, typed: Callable[[], str]) -> None:
        super().__init__()
        self.session = session
        self._entry = typed
        """What stands in the Entry."""
        self.drawing = Region("scene", "Scene", self._build)
        self._parts: PartsTable | None = None
        self._legs: LegsTable | None = None
        self._facts: FactsTable | None = None
        self._supply: SupplyTables | None = None
        self._slots: SlotsTable | None = None
        self.scale = 1.0
        """By View > Text size."""
        self._upper = QStackedWidget()
        self._upper.addWidget(self.drawing)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._upper)

    @property
    def parts(self) -> PartsTable:
        """The list of parts, made when first asked for."""
        if self._parts is None:
            from awlmark.desk.tables.parts_table import PartsTable

            self._parts = PartsTable()
            self._parts.set_scale(self.scale)
            self._parts.pasting.connect(self.pasting)
            self._parts.hide()
            self._parts.part_typed.connect(self.part_typed)
            self._parts.chosen.connect(self.chosen_part)
            self.layout().addWidget(self._parts)  # type: ignore[union-attr]
        return self._parts

    @property
    def facts(self) -> FactsTable:
        """The facts of the cars, made when first asked for."""
        if self._facts is None:
            from awlmark.desk.tables.facts_table import FactsTable

            self._facts = FactsTable()
            self._facts.set_scale(self.scale)
            self._facts.pasting.connect(self.pasting)
            self._facts.hide()
            self._facts.typed.connect(self.fact_typed)
            self.layout().addWidget(self._facts)  # type: ignore[union-attr]
        return self._facts

    @property
    def supply(self) -> SupplyTables:
        """Loads and facts of the supply, made when first asked for."""
        if self._supply is None:
            from awlmark.desk.tables.supply_tables import SupplyTables

            self._supply = SupplyTables()
            for table in (self._supply.loads, self._supply.facts):
                table.set_scale(self.scale)
            self._supply.loads.pasting.connect(self.pasting)
            self._supply.facts.pasting.connect(self.pasting)
            self._supply.hide()
            self._supply.load_typed.connect(self.load_typed)
            self._supply.fact_typed.connect(self.supply_typed)
            self._supply.sorted.connect(self.loads_sorted)
            self.layout().addWidget(self._supply)  # type: ignore[union-attr]
        return self._supply

    @property
    def legs(self) -> LegsTable:
        """The legs as a table, made when first asked for."""
        if self._legs is None:
            from awlmark.desk.tables.legs_table import LegsTable

            self._legs = LegsTable()
            self._legs.set_scale(self.scale)
            self._legs.pasting.connect(self.pasting)
            self._legs.reread.connect(self.reread)
            self._legs.chosen.connect(self.chosen_leg)
            self._upper.addWidget(self._legs)
        return self._legs

    @property
    def slots(self) -> SlotsTable:
        """The devices of the panel as a table, made when first asked for."""
        if self._slots is None:
            from awlmark.desk.tables.slots_table import SlotsTable

            self._slots = SlotsTable()
            self._slots.set_scale(self.scale)
            self._slots.pasting.connect(self.pasting)
            self._slots.typed.connect(self.slot_typed)
            self._upper.addWidget(self._slots)
        return self._slots

    @property
    def _legs_shown(self) -> bool:
        return self._legs is not None and self._upper.currentWidget() is self._legs

    @property
    def _slots_shown(self) -> bool:
        return self._slots is not None and self._upper.currentWidget() is self._slots

    def _build(self, width: float, height: float) -> Picture:
        """The drawing of the stage; each is imported when it is first shown, so that the window stands sooner."""
        session = self.session
        stage = session.look.stage
        if session.look.big:
            from awlmark.draw.stages.big_view import draw_big

            return draw_big(session.design, session.look, self._entry(), width, height)
        if session.look.pencils:
            from awlmark.draw.stages.pencil_view import draw_pencils

            kept = [(name, design) for name, _job, design in session.pencils]
            return draw_pencils(session.design, kept, width, height)
        if stage == "need":
            from awlmark.draw.stages.need_view import draw_need

            return draw_need(session.design, session.look, width, height)
        if stage == "panel":
            from awlmark.draw.stages.panel_view import draw_panel

            return draw_panel(session.design, session.look, width, height)
        if stage == "place":
            from awlmark.draw.stages.place_view import draw_place

            forks, spots = session.trials.forks(session.design), session.trials.spots(session.design)
            return draw_place(session.design, session.look, forks, width, height, spots)
        if stage == "run":
            from awlmark.draw.stages.run_view import draw_run

            return draw_run(session.design, session.look, width, height)
        if stage == "wire":
            from awlmark.draw.stages.wire_view import draw_wire

            sides = session.trials.sides(session.design)
            return draw_wire(session.design, session.beside, session.look, width, height, sides)
        if stage == "build":
            from awlmark.draw.stages.build_view import draw_build

            folder = str(session.path.parent) if session.path is not None else ""
            return draw_build(session.design, session.look, width, height, folder)
        if stage == "prove":
            from awlmark.draw.stages.prove_view import draw_prove

            return draw_prove(session.design, session.look, width, height)
        from awlmark.draw.stages.parts_view import draw_parts

        return draw_parts(session.design, session.look, width, height)

    def show_stage(self, stage: str) -> None:
        """Arrange the scene for a stage."""
        self.drawing.canvas.setAccessibleName(f"{self.session.design.book.words.stages[stage]} scene")
        # Whole jobs side by side, or a reading as large as can be, take the tables' room.
        pencils = self.session.look.pencils or self.session.look.big
        stage = "pencils" if pencils else stage
        if stage == "build":
            self.session.warm_up()
        page = panel_page(self.session.design, self.session.look)
        if (self._legs_shown and stage != "run") or (self._slots_shown and (stage, page) != ("panel", "spaces")):
            self._upper.setCurrentWidget(self.drawing)
        amps = page == "amps" and not pencils
        facts = stage == "need" and bool(self.session.job.need.cars) and not pencils
        if stage == "parts":
            self.session.settle_cuts()
            from awlmark.draw.stages.parts_view import parts_height

            room = self.height() / self.scale
            tall = parts_height(self.session.design, self.session.look, room)
            self._upper.setFixedHeight(round(tall * self.scale))
        elif stage == "panel" and amps:
            self._upper.setFixedHeight(round(self.height() * 0.56))
        elif facts:
            self._upper.setFixedHeight(round(max(320.0 * self.scale, self.height() * 0.62)))
        else:
            self._upper.setMinimumHeight(0)
            self._upper.setMaximumHeight(16777215)
        if (self._parts is not None and not self._parts.isHidden()) != (stage == "parts"):
            self.parts.setVisible(stage == "parts")
            self.refresh_tables()
        if (self._supply is not None and not self._supply.isHidden()) != (stage == "panel" and amps):
            self.supply.setVisible(stage == "panel" and amps)
            self.refresh_tables()
        if (self._facts is not None and not self._facts.isHidden()) != facts:
            self.facts.setVisible(facts)
            self.refresh_tables()
        self.layout().activate()  # type: ignore[union-attr]

    def refresh_tables(self) -> None:
        """Fill the tables that are shown."""
        if self._parts is not None and not self._parts.isHidden():
            self.parts.fill(self.session.design)
        if self._facts is not None and not self._facts.isHidden():
            self.facts.fill(self.session.design)
        if self._supply is not None and not self._supply.isHidden():
            self.supply.fill(self.session.design)
        if self._legs_shown:
            self.legs.fill(self.session.design)
            self._describe(self.legs)
        if self._slots_shown:
            self.slots.fill(self.session.design)
            self._describe(self.slots)

    def _describe(self, table: Table) -> None:
        """Tell a reader what the drawing says beyond its table's cells."""
        cells = [cell.text for row in table.rows.cells for cell in row]
        picture = self.drawing.draw()
        said = [*cells, *(says for says, _act in picture.answers())]
        beside = [says for says, _act in picture.answers() if says not in cells]
        table.setAccessibleDescription("; ".join([*beside, *picture.left_over(said)]))

    def set_scale(self, scale: float) -> None:
        """Show drawings and tables so much larger than they are drawn."""
        self.scale = scale
        self.drawing.set_scale(scale)
        for table in self._tables():
            table.set_scale(scale)
        self.show_stage(self.session.look.stage)

    def _tables(self) -> list[Table]:
        """Tables that were made so far."""
        supply = [] if self._supply is None else [self._supply.loads, self._supply.facts]
        made = (self._parts, self._facts, self._legs, self._slots, *supply)
        return [table for table in made if table is not None]

    def swap(self) -> None:
        """Swap the drawing with its list: the legs' table on Run, the devices' on Panel, or the drawing's own."""
        look = self.session.look
        if look.pencils:
            self.drawing.swap()
            return
        if look.stage == "run":
            twin: QWidget = self.legs
        elif look.stage == "panel" and panel_page(self.session.design, look) == "spaces":
            twin = self.slots
        else:
            self.drawing.swap()
            return
        self._upper.setCurrentWidget(self.drawing if self._upper.currentWidget() is twin else twin)
        self.refresh_tables()
        self.drawing.refresh()
        self.focus_target().setFocus()

    def focus_target(self) -> QWidget:
        """What F6 goes to."""
        shown = self._upper.currentWidget()
        return self.drawing.focus_target() if shown is self.drawing or shown is None else shown

    def resizeEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().resizeEvent(event)
        self.show_stage(self.session.look.stage)
