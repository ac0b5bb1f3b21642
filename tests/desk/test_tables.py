"""The one table of the desk by hand: typed over, picked from, copied, pasted, gone down in."""

from PySide6.QtCore import QItemSelection, QItemSelectionModel, QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit

from awlmark.data import demo_job
from awlmark.desk.tables.legs_table import END, METHOD, PLACE, READING
from awlmark.desk.tables.table import Table
from tests.desk.support import DeskCase


class Typing(DeskCase):
    def legs(self) -> tuple[object, Table]:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_4, Qt.KeyboardModifier.ControlModifier)
        window.scenes.swap()
        self.settle()
        return window, window.scenes.legs

    def edit(self, table: Table, row: int, column: int) -> QLineEdit | QComboBox:
        """Open the editor of a cell, as F2 does."""
        table.go_to(row, column)
        table.setFocus()
        QTest.keyClick(table, Qt.Key.Key_F2)
        # The editor before it may not be gone yet.
        boxes = [box for box in table.findChildren(QComboBox) if box.isVisible()]
        return boxes[-1] if boxes else [line for line in table.findChildren(QLineEdit) if line.isVisible()][-1]

    def test_enter_takes_what_is_typed_and_goes_down(self) -> None:
        window, legs = self.legs()
        editor = self.edit(legs, 0, READING)
        QTest.keyClicks(editor, "9")
        QTest.keyClick(editor, Qt.Key.Key_Return)
        self.settle()
        self.assertEqual((legs.currentIndex().row(), legs.currentIndex().column()), (1, READING))
        self.assertEqual(legs.text(0, READING), "9' 0\"")
        QTest.keyClick(legs, Qt.Key.Key_Return)
        self.assertEqual(legs.currentIndex().row(), 2)
        self.assertEqual(window.session.undo_stack.count(), 1)

    def test_escape_leaves_the_cell_as_it_was(self) -> None:
        window, legs = self.legs()
        before = legs.text(0, READING)
        editor = self.edit(legs, 0, READING)
        QTest.keyClicks(editor, "9")
        QTest.keyClick(editor, Qt.Key.Key_Escape)
        self.settle()
        self.assertEqual((legs.text(0, READING), window.session.undo_stack.count()), (before, 0))

    def test_place_method_and_end_are_picked(self) -> None:
        window, legs = self.legs()
        for column, picked, shown in ((METHOD, "imc", "IMC"), (END, "box", "box"), (PLACE, "garage", "garage")):
            box = self.edit(legs, 1, column)
            self.assertIsInstance(box, QComboBox)
            box.setCurrentText(picked)
            box.activated.emit(box.currentIndex())
            self.settle()
            self.assertEqual(legs.text(1, column), shown)
        walked = window.session.design.line.legs[1]
        self.assertEqual((walked.method.key, walked.leg.end, walked.place), ("imc", "box", "garage"))

    def test_a_block_is_copied_and_pasted_as_one_step(self) -> None:
        window, legs = self.legs()
        chosen = QItemSelection(legs.rows.index(0, READING), legs.rows.index(1, READING))
        legs.selectionModel().select(chosen, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        QTest.keySequence(legs, "Ctrl+C")
        self.assertEqual(QApplication.clipboard().text(), "\n".join(legs.text(row, READING) for row in (0, 1)))
        before = [leg.length_m for leg in window.session.job.legs]
        QApplication.clipboard().setText("7\n8\nlong\n")
        legs.go_to(0, READING)
        QTest.keySequence(legs, "Ctrl+V")
        self.settle()
        self.assertEqual([legs.text(row, READING) for row in (0, 1)], ["7' 0\"", "8' 0\""])
        self.assertIn("long", window.entry.echo.text())
        self.assertEqual(window.session.undo_stack.count(), 1)
        window.undo()
        self.assertEqual([leg.length_m for leg in window.session.job.legs], before)
        QApplication.clipboard().setText("nothing\nof this")
        QTest.keySequence(legs, "Ctrl+V")
        self.assertFalse(window.session.undo_stack.canRedo() and window.session.undo_stack.count() > 1)
        self.assertEqual([leg.length_m for leg in window.session.job.legs], before)

    def test_loads_are_pasted_row_by_row(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
        loads, known = window.scenes.supply.loads, len(window.session.job.loads)
        loads.go_to(known, 0)
        QApplication.clipboard().setText("Kiln\t6 kW\tfixed\nHoist\t12 A\tmotor")
        QTest.keySequence(loads, "Ctrl+V")
        self.settle()
        added = window.session.job.loads[known:]
        self.assertEqual([(load.name, load.kind) for load in added], [("Kiln", "fixed"), ("Hoist", "motor")])
        self.assertEqual(loads.rows.rowCount(), known + 3)

    def test_headings_and_what_is_worked_out_cannot_be_typed_over(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="parts")
        self.settle()
        table = window.scenes.parts
        heading = table.keys.index("")
        self.assertFalse(table.type_over(heading, 0, "x") or table.type_over(heading + 1, 0, "x"))
        self.assertEqual(table.columnSpan(heading, 0), 8)
        self.assertEqual(window.session.undo_stack.count(), 0)

    def test_the_second_button_tells_what_can_be_done_with_a_cell_and_its_row(self) -> None:
        window, legs = self.legs()
        before = window.session.job
        table = self.ask(legs, 1, READING)
        self.assertEqual(
            table, ["Type over it", "Copy", "Paste from here on", "Empty it", "The other way", "Rub it out"]
        )
        legs.menu.actions()[-1].trigger()
        self.settle()
        self.assertEqual(len(window.session.job.legs), len(before.legs) - 1)
        window.undo()
        self.ask(legs, 0, 0)
        self.assertFalse(legs.menu.actions()[0].isEnabled())
        self.key(window.entry.line, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
        loads, names = window.scenes.supply.loads, [load.name for load in before.loads]
        self.assertEqual(self.ask(loads, 1, 1)[-2:], ["Another row", "Remove the row"])
        loads.menu.actions()[-1].trigger()
        self.settle()
        self.assertEqual([load.name for load in window.session.job.loads], [names[0], *names[2:]])
        self.ask(loads, 0, 0)
        loads.menu.actions()[-2].trigger()
        self.assertEqual((loads.currentIndex().row(), loads.state()), (len(names) - 1, Table.State.EditingState))

    def ask(self, table: Table, row: int, column: int) -> list[str]:
        """Ask for the menu of a cell; the names in it."""
        where = table.visualRect(table.rows.index(row, column)).center()
        event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, where, table.mapToGlobal(where))
        QApplication.sendEvent(table.viewport(), event)
        self.settle()
        found = [one.text().partition("\t")[0] for one in table.menu.actions() if one.text()]
        table.menu.close()
        self.settle()
        return found

    def test_a_heading_puts_the_loads_in_order(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
        loads = window.scenes.supply.loads
        head, draws = loads.horizontalHeader(), [load.va for load in window.session.job.loads]
        self.assertNotEqual(draws, sorted(draws))
        at = QPoint(head.sectionViewportPosition(1) + 8, head.height() // 2)
        QTest.mouseClick(head.viewport(), Qt.MouseButton.LeftButton, pos=at)
        self.settle()
        self.assertEqual([load.va for load in window.session.job.loads], sorted(draws))
        QTest.mouseClick(head.viewport(), Qt.MouseButton.LeftButton, pos=at)
        self.settle()
        self.assertEqual([load.va for load in window.session.job.loads], sorted(draws, reverse=True))
        window.undo()
        window.undo()
        self.assertEqual([load.va for load in window.session.job.loads], draws)
