"""View > Text size: drawings, tables and the Entry grow together, and what is pointed at answers where it is seen."""

from unittest import mock

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QFont
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from awlmark.data import demo_job
from awlmark.desk import theme
from awlmark.desk.views import TEXT_PERCENTS
from awlmark.desk.window import Window
from tests.desk.support import DeskCase

CONTROL = Qt.KeyboardModifier.ControlModifier


def sized(points: float) -> QFont:
    """A font of so many points."""
    font = QFont()
    font.setPointSizeF(points)
    return font


class TextSize(DeskCase):
    def test_keys_change_it_and_it_is_remembered(self) -> None:
        window = self.open(demo_job(), 1920, 1080)
        window.session.see(stage="parts")
        self.settle()
        before = window.entry.height(), window.sill.height(), window.scenes.parts.verticalHeader().defaultSectionSize()
        for _ in range(2):
            self.key(window.entry.line, Qt.Key.Key_Plus, CONTROL)
        self.assertEqual(window.text_percent, 125)
        now = window.entry.height(), window.sill.height(), window.scenes.parts.verticalHeader().defaultSectionSize()
        for small, large in zip(before, now, strict=True):
            self.assertAlmostEqual(large / small, 1.25, delta=0.03)
        self.assertEqual(self.settings.value("text_percent"), 125)
        self.key(window.entry.line, Qt.Key.Key_0, CONTROL)
        self.assertEqual(window.text_percent, 100)
        for _ in range(9):
            self.key(window.entry.line, Qt.Key.Key_Minus, CONTROL)
        self.assertEqual(window.text_percent, TEXT_PERCENTS[0])
        window.text_usual()
        self.assertEqual((window.entry.height(), window.sill.height()), before[:2])

    def test_it_follows_the_text_of_the_desktop(self) -> None:
        window = self.open(demo_job())
        tall = window.entry.height()
        desktop = {9.0: 1.0, 11.0: 1.0, 14.0: 1.24, 18.0: 1.6, 30.0: 2.0, 7.5: 0.83}
        for points, scale in desktop.items():
            with mock.patch.object(theme.QFontDatabase, "systemFont", lambda _kind, size=points: sized(size)):
                QApplication.postEvent(window.windowHandle(), QEvent(QEvent.Type.ThemeChange))
                self.settle()
                self.assertAlmostEqual(window.text_scale, scale, places=2)
                self.assertAlmostEqual(window.entry.height() / tall, scale, delta=0.03)
                window.take_text_size(125)
                self.assertAlmostEqual(window.text_scale, min(scale * 1.25, 2.0), delta=0.011)
                window.text_usual()
        with mock.patch.object(theme.QFontDatabase, "systemFont", lambda _kind: sized(14)):
            self.assertAlmostEqual(self.open(demo_job()).text_scale, 1.24, places=2)

    def test_the_state_of_the_line_stays_in_sight_in_a_row_of_its_own(self) -> None:
        window = self.open(demo_job())
        tall = window.sill.height()
        window.take_text_size(160)
        self.settle()
        self.assertAlmostEqual(window.sill.height() / tall, 2 * 1.6, delta=0.05)
        for hit in window.sill.canvas.picture.hits:
            corner = window.sill.canvas.shown(QPointF(hit.x + hit.w, hit.y + hit.h))
            self.assertLessEqual((corner.x(), corner.y()), (window.width(), window.sill.height() + 0.5), hit.id)
        self.click_seen(window, "wire")
        self.assertEqual(window.session.look.stage, "wire")

    def click_seen(self, window: Window, name: str) -> None:
        """Click a part of the sill where it is seen."""
        canvas = window.sill.canvas
        hit = next(hit for hit in canvas.picture.hits if hit.id == name)
        spot = canvas.shown(QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2))
        QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=spot.toPoint())
        self.settle()

    def test_a_click_takes_what_is_seen_there(self) -> None:
        window = self.open(demo_job(), 1920, 1080)
        for percent in (90, 140):
            window.take_text_size(percent)
            window.session.see(stage="wire", wire_page="bores")
            self.settle()
            canvas = window.scenes.drawing.canvas
            hit = next(hit for hit in canvas.picture.hits if hit.id == "wire-jobs")
            middle = QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2)
            at = canvas.shown(middle)
            self.assertAlmostEqual(at.x(), middle.x() * percent / 100, places=6)
            self.assertEqual(canvas.seen(at), middle)
            QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(round(at.x()), round(at.y())))
            self.settle()
            self.assertEqual(window.session.look.wire_page, "jobs", percent)

    def test_the_awl_goes_where_the_tape_is_pressed(self) -> None:
        window = self.open(demo_job(), 1920, 1080)
        window.take_text_size(140)
        self.settle()
        tape = window.tape.canvas
        length = window.session.design.line.length_m
        window.pull._drag_awl("awl:0", tape.seen(tape.shown(QPointF(tape.picture.width - 2, 20))))
        self.assertAlmostEqual(window.session.look.at_m, length)

    def test_the_words_panel_is_made_anew_at_the_size(self) -> None:
        window = self.open(demo_job(), 1920, 1080)
        window.key_card()
        wide = window._words.width()
        window.take_text_size(140)
        window.key_card()
        self.settle()
        self.assertAlmostEqual(window._words.width() / wide, 1.4, delta=0.02)

    def test_the_next_window_begins_with_it_and_a_size_that_is_none_is_the_usual(self) -> None:
        self.settings.setValue("text_percent", "125")
        self.assertEqual(self.open(demo_job()).text_percent, 125)
        self.settings.setValue("text_percent", "huge")
        self.assertEqual(self.open(demo_job()).text_percent, 100)
