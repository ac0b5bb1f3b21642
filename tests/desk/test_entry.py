"""The Entry in the real window: shortcuts, suggestions, unknown words, the panel of words, chips."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtTest import QTest

from awlmark.core.job.model import new_job
from awlmark.core.quantities import FOOT_M
from awlmark.data import demo_job
from awlmark.desk.actions import ACTIONS
from awlmark.desk.entry import EDITS
from tests.desk.support import DeskCase


class Shortcuts(DeskCase):
    def test_every_one_works_while_the_caret_is_in_the_entry(self) -> None:
        """Pressed for real on the empty Entry, and again with something typed in it."""
        window = self.open(demo_job())
        window.actions_by_id["stop-reading"].setEnabled(True)
        window.actions_by_id["revert"].setEnabled(True)
        for action in ("undo", "redo"):
            window.actions_by_id[action].setEnabled(True)
        pressed: list[str] = []
        for act in ACTIONS:
            if act.keys:
                # A menu looks its method up by name when it is triggered.
                setattr(window, act.method, lambda name=act.id: pressed.append(name))
        for text in ("", "48"):
            for act in (act for act in ACTIONS if act.keys):
                keys = QKeySequence(act.keys)
                combination = keys[0]
                strong = combination.keyboardModifiers() & Qt.KeyboardModifier.ControlModifier
                if act.keys == "Escape" or (text and strong and combination.key() in EDITS):
                    continue  # edits what is typed; Escape clears it
                with self.subTest(f"{act.keys} with '{text}' typed"):
                    window.entry.line.setText(text)
                    window.entry.line.setFocus()
                    pressed.clear()
                    QTest.keyClick(window.entry.line, combination.key(), combination.keyboardModifiers())
                    self.assertEqual(pressed, [act.id])
                    self.assertEqual(window.entry.line.text(), text)


class Suggesting(DeskCase):
    def test_tab_takes_the_chosen_one_and_down_chooses_the_next(self) -> None:
        window = self.open(demo_job())
        line = window.entry.line
        QTest.keyClicks(line, "bre")
        self.assertGreaterEqual(len(window.offers.found), 2)
        shown = [hit.says for hit in window.lane.canvas.picture.hits]
        self.assertTrue(any("breaker" in says and "now open" in says for says in shown))
        at = next(n for n, one in enumerate(window.offers.found) if one.text == "breaker ")
        for _ in range(at):
            QTest.keyClick(line, Qt.Key.Key_Down)
        QTest.keyClick(line, Qt.Key.Key_Tab)
        self.assertEqual(line.text(), "breaker ")
        self.assertTrue(line.hasFocus())
        QTest.keyClicks(line, "70")
        QTest.keyClick(line, Qt.Key.Key_Return)
        self.assertEqual(window.session.job.circuit.breaker_a, 70)
        self.assertEqual(window.offers.found, ())
        self.assertFalse(any(hit.id.startswith("suggestion") for hit in window.lane.canvas.picture.hits))

    def test_a_click_takes_one_and_a_low_window_shows_them_too(self) -> None:
        window = self.open(demo_job(), 1120, 680)
        self.assertFalse(window.lane.isVisible())
        QTest.keyClicks(window.entry.line, "amb")
        self.assertTrue(window.lane.isVisible())
        self.settle()
        self.click(window.lane.canvas, "suggestion-0")
        self.assertEqual(window.entry.line.text(), "ambient ")
        window.entry.line.clear()
        self.assertFalse(window.lane.isVisible())

    def test_words_that_nothing_knows_are_underlined_where_they_stand(self) -> None:
        window = self.open(new_job())
        QTest.keyClicks(window.entry.line, "48a zzz 60ft emt")
        self.assertEqual(window.entry.line.strays, ((4, 7),))
        self.assertIn("'zzz'", window.entry.echo.text())
        before = window.entry.line.grab().toImage()
        window.entry.mark_strays(())
        self.assertNotEqual(window.entry.line.grab().toImage(), before)
        window.entry.line.clear()
        QTest.keyClicks(window.entry.line, "name Zzyx yard")
        self.assertEqual(window.entry.line.strays, ())

    def test_undo_redo_and_help_are_typed(self) -> None:
        window = self.open(new_job())
        for text in ("48a 60ft emt", "75ft", "undo"):
            QTest.keyClicks(window.entry.line, text)
            QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.job.legs[0].length_m / FOOT_M, 60)
        for text in ("redo", "help"):
            QTest.keyClicks(window.entry.line, text)
            QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.job.legs[0].length_m / FOOT_M, 75)
        assert window._words is not None
        self.assertTrue(window._words.isVisible())


class Panel(DeskCase):
    def test_f1_opens_it_a_search_narrows_it_and_a_pick_stands_in_the_entry(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="need")
        QTest.keyClick(window.entry.line, Qt.Key.Key_F1)
        panel = window._words
        assert panel is not None
        self.assertTrue(panel.isVisible())
        self.assertFalse(window.loupe.isVisible())
        self.assertEqual(panel.tree.topLevelItem(1).text(0), "Need")
        QTest.keyClicks(panel.search, "far day")
        shown = [row.text(0) for _head, rows in panel._groups for row in rows if not row.isHidden()]
        self.assertTrue(any(text.startswith("daily 40 mi") for text in shown))
        self.assertLess(len(shown), 15)
        QTest.keyClick(panel.search, Qt.Key.Key_Return)
        self.assertIn("40 mi", window.entry.line.text())
        self.assertTrue(window.entry.line.hasFocus())
        QTest.keyClick(window.entry.line, Qt.Key.Key_F1)
        self.assertFalse(panel.isVisible())
        self.assertTrue(window.loupe.isVisible())

    def test_marks_and_terms_are_explained_there(self) -> None:
        window = self.open(demo_job())
        window.key_card()
        assert window._words is not None
        text = " ".join(row.text(0) for _head, rows in window._words._groups for row in rows)
        for term in (
            "holds",
            "unread",
            "note",
            "tight",
            "stop",
            "awl",
            "slip",
            "rung",
            "2p",
            "draws",
            "carries",
            "pin B at 87 0",
            "slot 1 30a 2p dryer",
            "Alt+K",
        ):
            self.assertIn(term, text)


class Chips(DeskCase):
    def test_a_line_is_ended_by_hand(self) -> None:
        window = self.open(new_job())
        chips = {chip.text(): chip for chip in window.entry.chips.findChildren(type(window.entry.chips.children()[1]))}
        self.assertTrue(window.entry.chips.isVisible())
        QTest.mouseClick(chips["Up"], Qt.MouseButton.LeftButton)
        QTest.keyClicks(window.entry.line, "3")
        QTest.keyClick(window.entry.line, Qt.Key.Key_Return)
        QTest.mouseClick(chips["Box"], Qt.MouseButton.LeftButton)
        self.assertEqual(window.session.job.legs[0].end, "box")
        QTest.mouseClick(chips["Charger"], Qt.MouseButton.LeftButton)
        self.assertEqual([leg.end for leg in window.session.job.legs], ["charger"])
        self.assertFalse(window.entry.chips.isVisible())
        self.assertTrue(window.entry.undo.isVisible())
