"""A first hour, counted: a careful installer's whole job, and three quotes, from the start sheet in the real window."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from awlmark.core.finding import STOP, UNREAD
from awlmark.core.quantities import FOOT_M
from awlmark.desk.session import fresh_job
from awlmark.desk.window import Window
from tests.desk.support import DeskCase

MOST_KEYS, MOST_CLICKS = 150, 60
QUOTE_KEYS = 40


class Counted(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        self.keys = self.clicks = 0

    def begin(self) -> Window:
        self.keys = self.clicks = 0
        window = self.open(fresh_job())
        window.session.see(start=True)
        self.settle()
        return window

    def say(self, window: Window, text: str) -> None:
        self.keys += self.type(window, text)

    def press(self, window: Window, key: Qt.Key, modifier: Qt.KeyboardModifier) -> None:
        """A key with its modifier counts twice."""
        self.key(window.entry.line, key, modifier)
        self.keys += 2

    def walk(self, window: Window, answers: dict[str, str]) -> None:
        """Every question of the walk: an answer of our own, or Enter."""
        while (one := window.walking.now()) is not None:
            if one.path in answers:
                self.say(window, answers[one.path])
            else:
                self.key(window.entry.line, Qt.Key.Key_Return)
                self.keys += 1

    def answer(self, window: Window, typed: dict[str, str]) -> None:
        """What is open, one by one down the list: the first fix that is offered, or its words typed."""
        for _ in range(60):
            found = window.session.design.not_asked
            if not found:
                return
            before = window.session.job
            for finding in found:
                window.session.see(finding=finding.id)
                self.settle()
                self.clicks += 1
                if window.session.look.quotes:
                    self.click(window.loupe.canvas, "fix0")
                    self.clicks += 1
                elif finding.ask in typed:
                    self.click(window.loupe.canvas, "ask")
                    self.clicks += 1
                    self.say(window, typed[finding.ask])
                if window.session.job != before:
                    break
            self.assertNotEqual(window.session.job, before, [finding.title for finding in found])

    def test_a_basement_to_a_garage_above_with_loads_and_car(self) -> None:
        """40 A; outlet on cable, and hardwired in pipe: everything that is asked is answered."""
        for answers in ({"charger.connection": "outlet", "legs[leg-1].method": "cable"}, {}):
            window = self.begin()
            self.say(window, "4")
            self.walk(window, answers)
            for text in ("40 miles a day", "60 kwh", "1900 sq ft", "load range 40a", "load dryer 30a", "load ac 30a"):
                self.say(window, text)
            self.answer(
                window, {"leg 5 box ": "50in3", "spaces ": "30", "accepts ": "YF", "clear ": "30in 36in 78in"}
            )  # fmt: skip
            design = window.session.design
            self.assertEqual([finding.title for finding in design.findings if finding.severity in (UNREAD, STOP)], [])
            assert design.circuit is not None
            self.assertEqual(design.circuit.breaker_a, 50)
            self.assertLess(self.keys, MOST_KEYS)
            self.assertLess(self.clicks, MOST_CLICKS)

    def test_three_quotes_each_to_a_right_list(self) -> None:
        window = self.begin()
        self.say(window, "48a 60ft emt")
        keys = [part.key for part in window.session.design.parts]
        self.assertLess(self.keys, QUOTE_KEYS)
        self.assertIn("breaker:2:60", keys)
        self.assertTrue(any(key.startswith("stick:emt") for key in keys))

        window = self.begin()
        self.say(window, "32a 14-50 25ft nm garage finished")
        keys = [part.key for part in window.session.design.parts]
        self.assertLess(self.keys, QUOTE_KEYS)
        for key in ("receptacle:14-50", "breaker:2:40:gfci", "cable:nm:cu:8:3", "old-work support"):
            self.assertIn(key, keys)
        self.assertFalse([key for key in keys if key.startswith(("staple", "stick", "wire:"))])

        window = self.begin()
        self.say(window, "5")
        self.walk(window, {"charger.nameplate_a": "48", "legs[leg-5].length_m": "220ft"})
        self.press(window, Qt.Key.Key_K, Qt.KeyboardModifier.AltModifier)
        self.press(window, Qt.Key.Key_M, Qt.KeyboardModifier.AltModifier)
        self.press(window, Qt.Key.Key_I, Qt.KeyboardModifier.AltModifier)
        self.assertLess(self.keys, QUOTE_KEYS)
        self.assertTrue(window.session.look.pencils)
        pen, (_name, _job, pencil) = window.session.design, window.session.pencils[0]
        assert pen.circuit is not None and pencil.circuit is not None
        self.assertEqual({pen.circuit.material, pencil.circuit.material}, {"cu", "al"})
        self.assertAlmostEqual(window.session.job.legs[4].length_m / FOOT_M, 220)
        for design in (pen, pencil):
            keys = [part.key for part in design.parts]
            self.assertTrue(any(key.startswith("stick:pvc40") for key in keys))
            self.assertIn("warning ribbon", keys)
        QTest.keyClick(window.entry.line, Qt.Key.Key_Escape)
