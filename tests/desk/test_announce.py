"""What a screen reader is told: verdict, refusal, echo, the finding in hand, and where in a drawing the focus is."""

from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent, QAccessibleEvent

from awlmark.data import demo_job
from awlmark.desk import announce
from tests.desk.support import DeskCase


class Heard(DeskCase):
    def setUp(self) -> None:
        super().setUp()
        self.heard: list[tuple[str, bool]] = []

        def listen(event: QAccessibleEvent) -> None:
            assert isinstance(event, QAccessibleAnnouncementEvent)
            urgent = event.politeness() == QAccessible.AnnouncementPoliteness.Assertive
            self.heard.append((event.message(), urgent))

        listening = mock.patch.object(announce, "send", listen)
        listening.start()
        self.addCleanup(listening.stop)

    def words(self) -> str:
        return "\n".join(words for words, _urgent in self.heard)

    def test_a_changed_verdict_is_told_once(self) -> None:
        window = self.open(demo_job())
        self.heard.clear()
        self.type(window, "breaker 30")
        told = [words for words, _urgent in self.heard if words.startswith("The line: ")]
        self.assertEqual(len(told), 1, self.heard)
        self.assertEqual(told[0], f"The line: {window.session.design.said}")
        self.type(window, "name Another yard")
        self.assertEqual(len([words for words, _urgent in self.heard if words.startswith("The line: ")]), 1)

    def test_a_refusal_breaks_in_and_an_echo_waits_for_the_hand_to_rest(self) -> None:
        window = self.open(demo_job())
        self.heard.clear()
        self.type(window, "right banana")
        self.assertTrue(any(urgent and "banana" in words for words, urgent in self.heard), self.heard)
        self.heard.clear()
        window.entry.line.setText("right 4 6")
        self.settle()
        self.assertEqual(self.heard, [])
        self.ring(window.entry.told._rest)
        self.assertEqual([urgent for _words, urgent in self.heard], [False])

    def test_the_finding_in_hand_is_told(self) -> None:
        window = self.open(demo_job())
        self.heard.clear()
        window.session.see(finding="drop")
        self.settle()
        self.assertIn(window.session.design.finding("drop").text, self.words())

    def test_a_drawing_says_where_its_focus_is(self) -> None:
        window = self.open(demo_job())
        canvas = window.ladder.canvas
        count = len(canvas.picture.hits)
        self.assertGreater(count, 3)
        canvas.setFocus()
        spoken = QAccessible.queryAccessibleInterface(canvas)
        self.assertEqual((spoken.role(), spoken.childCount()), (QAccessible.Role.Canvas, count))
        for key, at in ((Qt.Key.Key_End, count), (Qt.Key.Key_Home, 1), (Qt.Key.Key_Down, 2)):
            self.key(canvas, key)
            area = spoken.focusChild()
            self.assertTrue(area.state().focused)
            self.assertEqual(area.text(QAccessible.Text.Name), canvas.picture.hits[at - 1].says)
            self.assertEqual(area.text(QAccessible.Text.Description), f"{at} of {count}")
            self.assertEqual(spoken.text(QAccessible.Text.Value), f"{at} of {count}")
