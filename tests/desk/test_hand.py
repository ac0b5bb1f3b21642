"""By hand: menus of the second button, double click, sill and ladder, zoom and pan, a whole job by mouse or by keys."""

import re

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QContextMenuEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from awlmark.core.job.model import new_job
from awlmark.core.prove.log import must_tests
from awlmark.core.quantities import FOOT_M, draw_length
from awlmark.data import demo_job
from awlmark.desk.mouse.pointing import deeds
from awlmark.desk.region import MOST_ZOOM, Canvas
from awlmark.desk.session import fresh_job
from awlmark.desk.window import Window
from awlmark.draw.kit.picture import Hit
from tests.desk.support import DeskCase, meter_file


def middle(hit: Hit) -> QPointF:
    return QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2)


class Hand(DeskCase):
    def hit(self, canvas: Canvas, its_id: str) -> Hit:
        return next(hit for hit in reversed(canvas.picture.hits) if hit.id == its_id)

    def rows(self, window: Window, canvas: Canvas, where: QPointF) -> dict[str, str]:
        """The menu of the second button at a place, its acts by their names."""
        event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, where.toPoint(), QPoint(5, 5))
        QApplication.sendEvent(canvas, event)
        menu = window.pointing.menu
        assert menu is not None
        names = [action.text().split("\t")[0] for action in menu.actions()]
        menu.close()
        found = deeds(window.session, canvas, canvas.picture.at(where.x(), where.y()), where)
        self.assertEqual(names, [deed.name.replace("&", "&&") for deed in found])
        return {deed.name: deed.act for deed in found}

    def test_a_double_click_on_a_leg_or_its_number_edits_it_there(self) -> None:
        window = self.open(demo_job())
        canvas = window.scenes.drawing.canvas
        texts = [text for text in canvas.picture.texts() if text.text == draw_length(22 * FOOT_M)]
        number = texts[-1]
        for where in (middle(self.hit(canvas, "leg-2")), QPointF(number.left + 20, number.y - 8)):
            window.entry.line.clear()
            QTest.mouseDClick(canvas, Qt.MouseButton.LeftButton, pos=where.toPoint())
            self.assertEqual(window.entry.line.text(), "leg 2 22' 0\"")
            self.assertEqual(window.entry.line.selectedText(), "22' 0\"")
        QTest.keyClicks(window.entry.line, "24 6")
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.job.legs[1].length_m / FOOT_M, 24.5)

    def test_every_menu_row_does_what_it_says_or_waits_in_the_entry(self) -> None:
        """On every stage, one of each kind that answers: no act is unknown, nothing raises."""
        tried: set[tuple[str, ...]] = set()
        window = self.open(demo_job())
        for stage in ("need", "panel", "place", "run", "wire", "parts", "build", "prove"):
            window.session.see(stage=stage)
            self.settle()
            for region in window.regions:
                canvas = region.canvas
                for hit in list(canvas.picture.hits):
                    where = middle(hit)
                    for deed in deeds(window.session, canvas, canvas.picture.at(where.x(), where.y()), where):
                        if deed.act.split(":")[0] in ("menu", "practice", "stage", "flip", "bench", "probe", "pull"):
                            continue
                        # Rows that differ in a number or an id alone do the same.
                        kind = (stage, region.name, re.sub(r"[\d.:/-]+", "", f"{hit.id} {deed.name} {deed.act}"))
                        if kind in tried:
                            continue
                        tried.add(kind)
                        with self.subTest(stage=stage, hit=hit.id, deed=deed.name):
                            before = window.session.job
                            window.acts.do(deed.act)
                            if window.session.job != before:
                                window.session.undo()
                            self.assertEqual(window.session.job, before)
                            if deed.act.startswith(("type:", "edit:")):
                                self.assertEqual(window.entry.line.text(), deed.act.partition(":")[2].replace("\t", ""))
                            window.entry.line.clear()
                            window.session.see(stage=stage, pencils=False)

    def test_a_legs_menu_holds_its_typed_words_and_they_read(self) -> None:
        window = self.open(demo_job())
        canvas = window.scenes.drawing.canvas
        where = middle(self.hit(canvas, "leg-2"))
        rows = self.rows(window, canvas, where)
        self.assertIn("Rub it out", rows)
        for deed in deeds(window.session, canvas, canvas.picture.at(where.x(), where.y()), where):
            if deed.typed and deed.name != "A leg before it…":
                with self.subTest(deed.typed):
                    self.assertTrue(window.acts.read(deed.typed).says)
        window.acts.do(rows["Corner at its end"])
        self.assertEqual(window.session.job.legs[1].end, "corner")

    def test_a_mark_is_answered_from_its_menu(self) -> None:
        window = self.open(new_job())
        self.type(window, "48a 60ft emt")
        row = next(hit for hit in window.loupe.canvas.picture.hits if hit.id.startswith("row-"))
        self.assertIn("Set aside, with a reason…", self.rows(window, window.loupe.canvas, middle(row)))

    def test_sill_and_ladder_answer(self) -> None:
        window = self.open(demo_job())
        self.click(window.sill.canvas, "name")
        self.assertEqual(window.entry.line.selectedText(), demo_job().name)
        self.click(window.sill.canvas, "book")
        self.assertEqual(window.entry.line.text(), "code ")
        self.click(window.sill.canvas, "price")
        self.assertEqual((window.session.look.stage, window.session.look.parts_page), ("parts", "quote"))
        self.click(window.ladder.canvas, "rung-70")
        self.assertEqual(window.session.job.circuit.breaker_a, 70)
        self.click(window.ladder.canvas, "set-32")
        self.assertEqual(window.session.job.charger.nameplate_a, 32)

    def test_the_wheel_zooms_about_the_pointer_a_drag_pans_and_home_fits(self) -> None:
        window = self.open(demo_job())
        canvas = window.scenes.drawing.canvas
        at = QPointF(300, 200)
        before = canvas.seen(at)
        turn = QWheelEvent(
            at, canvas.mapToGlobal(at), QPoint(), QPoint(0, 360), Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(canvas, turn)
        self.assertGreater(canvas.zoom, 1.5)
        self.assertAlmostEqual(canvas.seen(at).x(), before.x(), places=6)
        leg = self.hit(canvas, "leg-2")
        inside = canvas.shown(middle(leg))
        canvas.zoom_at(inside, 1.0)
        QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=inside.toPoint())
        self.assertAlmostEqual(window.session.look.at_m, float(leg.act.rpartition(":")[2]), places=3)
        old = QPointF(canvas.offset)
        empty = next(
            QPointF(x, y) for x in range(40, canvas.width(), 15) for y in range(40, canvas.height(), 15)
            if canvas.picture.at(canvas.seen(QPointF(x, y)).x(), canvas.seen(QPointF(x, y)).y()) is None
        ).toPoint()  # fmt: skip
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=empty)
        QTest.mouseMove(canvas, empty + QPoint(-20, -10))
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=empty + QPoint(-20, -10))
        self.assertNotEqual(canvas.offset, old)
        canvas.zoom_at(at, 100)
        self.assertEqual(canvas.zoom, MOST_ZOOM)
        self.key(canvas, Qt.Key.Key_Home)
        self.assertEqual((canvas.zoom, canvas.offset), (1.0, QPointF()))


class Whole(DeskCase):
    def test_a_whole_job_by_the_mouse_alone(self) -> None:
        """Pattern, walk, and the answers that the list offers: no key is pressed."""
        window = self.open(fresh_job())
        window.session.see(start=True)
        self.settle()
        clicks = 1
        self.click(window.sheet.region.canvas, "way-1")
        while window.session.look.walk:
            self.click(window.loupe.canvas, "walk:keep")
            clicks += 1
        before = len(window.session.design.not_asked)
        for _ in range(before):
            if not any(hit.id == "fix0" for hit in window.loupe.canvas.picture.hits):
                self.click(window.loupe.canvas, "list:1")
                clicks += 1
                continue
            self.click(window.loupe.canvas, "fix0")
            clicks += 1
        self.click(window.sill.canvas, "parts")
        self.assertLess(len(window.session.design.not_asked), before)
        self.assertTrue(window.session.design.parts)
        self.assertLess(clicks, 60)
        for stage in ("need", "panel", "place", "run", "wire", "build"):
            self.click(window.sill.canvas, stage)
            self.assertEqual(window.session.look.stage, stage)
        steps = [hit.id for hit in window.scenes.drawing.canvas.picture.hits if hit.id.startswith("how-")]
        self.click(window.scenes.drawing.canvas, steps[0])
        self.click(window.scenes.drawing.canvas, "how-done")
        self.assertEqual(len(window.session.job.build.done), 1)
        self.click(window.sill.canvas, "prove")
        path = self.folder / "readings.csv"
        meter_file(window.session.design, path)
        window.files.ask_book = lambda _title, _kinds: path  # type: ignore[attr-defined]
        self.click(window.scenes.drawing.canvas, "take-1")
        self.read(window)
        self.assertEqual(len(window.session.job.prove.readings), len(must_tests(window.session.design)))

    def test_and_by_the_keyboard_alone(self) -> None:
        window = self.open(fresh_job())
        window.session.see(start=True)
        self.settle()
        presses = self.type(window, "2")
        while window.session.look.walk:
            self.key(window.entry.line, Qt.Key.Key_Return)
            presses += 1
        before = len(window.session.design.not_asked)
        for _ in range(3):
            self.key(window.entry.line, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
            presses += 2
            window.entry.line.clear()
        self.key(window.entry.line, Qt.Key.Key_6, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.look.stage, "parts")
        self.assertLess(len(window.session.design.not_asked), before)
        self.assertLess(presses, 40)
