"""Build, Prove and the practice bench, by keyboard."""

from __future__ import annotations

from unittest import mock

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog

from awlmark.core.build.steps import steps_of
from awlmark.core.build.torque import dials_of
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import FileError
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.job.file import save_job
from awlmark.core.prove.instruments import take
from awlmark.core.prove.test import tests_of
from awlmark.core.standing import site_findings, stage_mark
from awlmark.data import demo_job
from awlmark.desk.session import fresh_job
from awlmark.desk.window import Window
from awlmark.draw.kit.picture import Photo
from tests.desk.support import DeskCase

CONTROL, ALT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier


class SiteCase(DeskCase):
    def reach(self, window: Window, hit_id: str) -> None:
        """Step through the drawing with the arrow keys to what it shows, and take it with Return."""
        canvas = window.scenes.drawing.canvas
        canvas.setFocus()
        for _ in range(len(canvas.picture.hits) + 1):
            QTest.keyClick(canvas, Qt.Key.Key_Right)
            if canvas._focused() is not None and canvas._focused().id == hit_id:
                self.key(canvas, Qt.Key.Key_Return)
                return
        self.fail(f"{hit_id} is not reached")

    def said(self, window: Window) -> str:
        return " ".join(text.text for text in window.scenes.drawing.canvas.picture.texts())


class Building(SiteCase):
    def test_steps_and_screws_by_keyboard(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_7, CONTROL)
        self.assertEqual(window.session.look.stage, "build")
        self.assertIn("Power down, then prove dead", self.said(window))
        self.assertEqual(stage_mark(window.session.design, "build"), UNREAD)
        self.reach(window, "step-permit")
        self.assertIn("permit", window.session.job.build.done)
        for dial in dials_of(window.session.design):
            self.type(window, f"torque {dial.id} 45 in-lb")
            for _ in range(3):
                self.reach(window, f"dial-{dial.id}")
        self.assertTrue(all(dial.done == 3 for dial in dials_of(window.session.design)))
        for _ in range(len(steps_of(window.session.design)) - 1):
            self.type(window, "done")
        self.assertEqual(stage_mark(window.session.design, "build"), HOLDS)
        self.key(window.entry.line, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(stage_mark(window.session.design, "build"), UNREAD)

    def test_a_click_tells_how_a_step_is_done_and_its_box_ticks(self) -> None:
        window = self.open(demo_job())
        window.show_build()
        self.settle()
        canvas = window.scenes.drawing.canvas
        leg = window.session.job.legs[2].id
        self.click(canvas, f"how-through:{leg}")
        self.assertNotIn(f"through:{leg}", window.session.job.build.done)
        said = self.said(window)
        for told in ("Through the wall, leg 3", "hammer drill, long bit", "1 pair of hands", "leg 3,"):
            self.assertIn(told, said)
        self.assertAlmostEqual(window.session.look.at_m, window.session.design.line.legs[2].start_m)
        self.click(canvas, "how-done")
        self.assertIn(f"through:{leg}", window.session.job.build.done)
        self.assertIn("Not done", self.said(window))
        self.click(canvas, "how-legs")
        self.assertIn("planned", self.said(window))
        self.click(canvas, "step-permit")
        self.assertIn("permit", window.session.job.build.done)

    def test_steps_are_numbered_without_gaps(self) -> None:
        window = self.open(demo_job())
        window.show_build()
        self.settle()
        texts = [text.text for text in window.scenes.drawing.canvas.picture.texts()]
        steps = steps_of(window.session.design)
        down = [number for number, step in enumerate(steps, 1) if step.session == "Power down"]
        self.assertIn(f"{down[0]} to {down[-1]}  Power down, above", texts)
        for number in range(1, 30):
            self.assertIn(f"{number}", texts)

    def test_a_dial_is_dragged_and_its_value_typed_over(self) -> None:
        window = self.open(demo_job())
        window.show_build()
        self.settle()
        canvas, line = window.scenes.drawing.canvas, window.entry.line
        hit = next(hit for hit in canvas.picture.hits if hit.id == "dial-panel-1")
        middle = QPoint(round(hit.x + hit.w / 2), round(hit.y + 44))
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=middle + QPoint(-20, 20))
        QTest.mouseMove(canvas, middle + QPoint(-30, -2))
        QTest.mouseMove(canvas, middle + QPoint(0, -34))
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=middle + QPoint(0, -34))
        self.settle()
        # Straight up is half way round its scale of a hundred.
        self.assertEqual((line.text(), line.selectedText()), ("torque panel-1 50 in-lb", "50"))
        self.assertEqual(window.session.job.build.torques, ())
        QTest.keyClicks(line, "45")
        self.key(line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.job.build.torques[0].lbf_in, 45)
        self.click(canvas, "dial-panel-1")
        self.assertTrue(window.session.job.build.torques[0].tight)
        self.click(canvas, "dial-panel-2")
        self.assertEqual(line.text(), "torque panel-2 ")

    def test_a_session_that_ends_asks_whether_the_work_stops_there(self) -> None:
        window = self.open(demo_job())
        window.show_build()
        steps = steps_of(window.session.design)
        prepare = sum(step.session == "Prepare" for step in steps)
        for _ in range(prepare):
            self.assertFalse(any(one.id == "build:rest" for one in site_findings(window.session.design, "build")))
            self.type(window, "done")
        asked = next(one for one in site_findings(window.session.design, "build") if one.id == "build:rest")
        self.assertIn("nothing is open", asked.text)
        self.type(window, "rest")
        self.assertEqual(window.session.job.build.rested, {"Prepare": "stopped"})
        self.assertFalse(any(one.id == "build:rest" for one in site_findings(window.session.design, "build")))
        window.undo()
        self.type(window, "rest no")
        self.assertEqual(window.session.job.build.rested, {"Prepare": "went on"})
        self.type(window, "done")
        self.type(window, "rest")
        self.assertIn("No session of the work has just ended", window.entry.echo.text())

    def test_a_photo_stands_small_beside_its_note(self) -> None:
        image = QImage(64, 48, QImage.Format.Format_RGB32)
        image.fill(QColor(200, 30, 30))
        image.save(str(self.folder / "rock.png"))
        path = self.folder / "yard.awlmark"
        save_job(read_entry("note rock at 40 ft photo rock.png", demo_job()).job, path)
        window = self.open(fresh_job())
        window.files.open(path)
        window.show_build()
        self.settle()
        canvas = window.scenes.drawing.canvas
        photo = next(shape for shape in canvas.picture.shapes if isinstance(shape, Photo))
        seen = canvas.grab().toImage()
        ratio = seen.devicePixelRatio()
        middle = seen.pixelColor(round((photo.x + photo.w / 2) * ratio), round((photo.y + photo.h / 2) * ratio))
        self.assertEqual((middle.red(), middle.green()), (200, 30))
        with mock.patch("PySide6.QtGui.QDesktopServices.openUrl") as opened:
            self.click(canvas, "note-1")
        self.assertEqual(opened.call_args[0][0].toLocalFile(), str((self.folder / "rock.png").resolve()))
        (self.folder / "rock.png").unlink()
        self.click(canvas, "note-1")
        self.assertIn("There is no picture at", window.entry.echo.text())

    def test_power_down_keeps_its_order(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_7, CONTROL)
        self.reach(window, "step-dead")
        self.assertNotIn("dead", window.session.job.build.done)
        self.assertIn("comes before", window.entry.echo.text())

    def test_the_slip_tells_of_an_unread_torque_and_offers_the_fallback(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_7, CONTROL)
        said = " ".join(text.text for text in window.loupe.canvas.picture.texts())
        self.assertIn("No torque is read", said)
        self.settle()
        # The key begins the reading; the fallback table is taken by hand only.
        self.key(window.entry.line, Qt.Key.Key_Return, CONTROL)
        self.assertTrue(window.entry.line.text().startswith("torque "))
        self.assertEqual(window.session.job.build.torques, ())
        window.entry.line.clear()
        self.click(window.loupe.canvas, "fix0")
        self.assertEqual(window.session.job.build.torques[0].source, "annex")

    def test_a_stage_of_the_site_offers_no_fix_of_another(self) -> None:
        window = self.open(demo_job())
        window.show_build()
        self.settle()
        self.assertTrue(window.session.look.quotes)
        window.show_prove()
        self.settle()
        self.assertEqual(window.session.look.quotes, ())
        before = window.session.job
        # The next test is asked for instead; its answer is begun, nothing is taken.
        window.take_first_fix()
        self.settle()
        self.assertEqual(window.session.job, before)
        self.assertTrue(window.entry.line.text().startswith("read "))

    def test_as_built_beside_planned(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_7, CONTROL)
        self.type(window, "built 5 64 3")
        self.assertIn("64′ 3″", self.said(window))
        self.assertEqual(window.session.design.verdict, HOLDS)


class Proving(SiteCase):
    def test_every_test_is_a_row_whose_box_takes_a_reading(self) -> None:
        window = self.open(demo_job())
        window.show_prove()
        self.settle()
        canvas, line = window.scenes.drawing.canvas, window.entry.line
        seen: set[str] = set()
        keys = {test.key for test in tests_of(window.session.design)}
        while True:
            hits = {hit.id for hit in canvas.picture.hits}
            seen |= {hit.removeprefix("test-") for hit in hits if hit.startswith("test-")}
            if "record-next" not in hits:
                break
            self.click(canvas, "record-next")
        self.assertEqual(seen, keys)
        self.click(canvas, "record-back")
        window.session.see(record_from=-1)
        self.settle()
        self.click(canvas, "test-dead 1-2")
        self.assertEqual(line.text(), "read dead 1-2 ")
        QTest.keyClicks(line, "0 V")
        self.key(line, Qt.Key.Key_Return)
        row = next(hit for hit in canvas.picture.hits if hit.id == "test-dead 1-2")
        self.assertIn("0.0 V", row.says)
        # A reading is struck from its mark, and stays to be seen.
        self.click(canvas, "log-1")
        self.assertEqual(line.text(), "strike 1 ")
        QTest.keyClicks(line, "probe on paint")
        self.key(line, Qt.Key.Key_Return)
        self.assertEqual(window.session.job.prove.readings[0].struck, "probe on paint")
        window.session.see(record_from=99)
        self.settle()
        self.assertTrue(any("struck: probe on paint" in hit.says for hit in canvas.picture.hits))

    def test_the_bench_stands_apart_from_the_record(self) -> None:
        window = self.open(demo_job())
        window.show_prove()
        self.settle()
        canvas = window.scenes.drawing.canvas
        self.assertFalse([hit for hit in canvas.picture.hits if hit.id.startswith(("bench-", "point-"))])
        self.click(canvas, "prove-bench")
        self.assertTrue([hit for hit in canvas.picture.hits if hit.id.startswith("point-")])
        self.assertFalse([hit for hit in canvas.picture.hits if hit.id.startswith("test-")])

    def test_from_signed_design_to_signed_test_sheet(self) -> None:
        window = self.open(demo_job())
        self.type(window, "energise maker gives none")
        self.key(window.entry.line, Qt.Key.Key_8, CONTROL)
        # The simulated meter teaches: what is noted off it stays on its own list, and never reaches the job.
        before = window.session.job
        window.session.see(prove_page="bench")
        for hit in ("bench-breaker", "point-charger 1", "point-charger 2", "clamp", "bench-charge", "clamp"):
            self.reach(window, hit)
        self.assertIs(window.session.job, before)
        self.assertEqual(len(window.session.look.scratch), 2)
        self.assertTrue(window.session.look.scratch[1][1].startswith("23"), window.session.look.scratch)
        self.assertFalse([hit for hit in window.scenes.drawing.canvas.picture.hits if hit.act.startswith("scribe:")])
        design = window.session.design
        self.type(window, "sign R. Vale")
        self.assertIn("nothing new to sign", window.entry.echo.text())
        window.entry.line.clear()
        for test in tests_of(design):
            test = next(one for one in tests_of(window.session.design) if one.key == test.key)
            self.type(window, f"read {test.key} {take(design, test):.4f} {test.unit} by Vale")
        self.type(window, "sign R. Vale")
        job = window.session.job
        self.assertEqual([mark.who for mark in job.prove.signatures], ["R. Vale"])
        self.assertEqual(stage_mark(window.session.design, "prove"), HOLDS)
        target = self.folder / "log.csv"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(target), "")):
            window.save_log()
        text = target.read_text(encoding="utf-8")
        self.assertIn("charger loaded", text)
        self.assertEqual(text.count("made up"), len(job.prove.readings))
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(self.folder / "r.ics"), "")):
            window.save_reminders()
        self.assertIn("VCALENDAR", (self.folder / "r.ics").read_text(encoding="utf-8"))
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(str(target), "")):
            window.read_log()
            self.read(window)
        self.assertEqual(len(window.session.job.prove.readings), 2 * len(job.prove.readings))

    def test_reminders_wait_for_a_signature_and_a_bad_log_is_told(self) -> None:
        window = self.open(demo_job())
        window.save_reminders()
        self.assertIn("Nothing is signed", window.entry.echo.text())
        bad = self.folder / "bad.csv"
        bad.write_text("a,b\n1,2\n", encoding="utf-8")
        with mock.patch.object(QFileDialog, "getOpenFileName", return_value=(str(bad), "")):
            window.read_log()
            self.read(window)
        self.assertIn("test and value", window.entry.echo.text())
        self.assertEqual(window.session.job.prove.readings, ())

    def test_a_struck_reading_stays_in_sight(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_8, CONTROL)
        self.type(window, "read dead 1-2 60 V")
        self.assertIn("60", self.said(window))
        self.type(window, "strike 1 probe on paint")
        self.assertEqual(window.session.job.prove.readings[0].struck, "probe on paint")
        self.assertIn("60", self.said(window))


class Practising(SiteCase):
    def test_an_answer_is_told_where_the_score_cannot_be_kept(self) -> None:
        window = self.open(demo_job())
        window.practise()
        key = window.session.look.practice.exercise.planted.key
        refused = FileError("Can't write the score: the disk is full.")
        with mock.patch("awlmark.core.prove.practice.write_file", side_effect=refused):
            self.reach(window, f"answer-{key}")
        self.assertEqual(window.session.look.practice.answered, key)
        self.assertTrue(window.session.look.practice.told)
        self.assertIn("disk is full", window.entry.echo.text())

    def test_a_fault_is_found_and_the_job_is_untouched(self) -> None:
        window = self.open(demo_job())
        before = window.session.job
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        practice = window.session.look.practice
        right, tried = practice.score.right, practice.score.tried
        self.assertIn("Practice, not a test of this job", self.said(window))
        self.assertNotIn("log-meter", {hit.id for hit in window.scenes.drawing.canvas.picture.hits})
        self.reach(window, "bench-breaker")
        self.reach(window, "point-charger 1")
        self.reach(window, "point-charger G")
        self.reach(window, f"answer-{practice.exercise.planted.key}")
        now = window.session.look.practice
        self.assertEqual((now.score.right, now.score.tried), (right + 1, tried + 1))
        self.assertIn(practice.exercise.planted.why.split(":")[0].split(".")[0][:20], self.said(window))
        self.reach(window, "practice-next")
        self.assertEqual(window.session.look.practice.answered, "")
        self.reach(window, "practice-2")
        self.assertEqual(window.session.look.practice.exercise.level, 2)
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.assertIsNone(window.session.look.practice)
        self.assertEqual(window.session.job, before)

    def test_nothing_typed_while_practising_reaches_the_job(self) -> None:
        window = self.open(demo_job())
        before = window.session.job
        self.key(window.entry.line, Qt.Key.Key_8, CONTROL)
        self.assertIn("ask", {hit.id for hit in window.loupe.canvas.picture.hits})
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.assertNotIn("ask", {hit.id for hit in window.loupe.canvas.picture.hits})
        self.type(window, "read dead 1-2 0 V")
        self.assertIs(window.session.job, before)
        self.assertEqual(window.entry.line.text(), "read dead 1-2 0 V", "what was typed is kept")
        self.assertIn("belongs to no job", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.assertNotIn("belongs to no job", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertEqual(len(window.session.job.prove.readings), 1)
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.key(window.entry.line, Qt.Key.Key_6, CONTROL)
        self.assertIsNone(window.session.look.practice, "another stage is of the job again")

    def test_probes_are_dragged_and_the_score_is_kept(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        canvas = window.scenes.drawing.canvas

        def spot(point: str) -> QPoint:
            hit = next(hit for hit in canvas.picture.hits if hit.id == f"point-{point}")
            return QPoint(round(hit.x + hit.w / 2), round(hit.y + hit.h / 2))

        self.click(canvas, "point-panel 1")
        for start, end, probes in (
            ("panel 1", "charger 1", ("charger 1", "")), ("panel G", "charger G", ("charger 1", "charger G")),
        ):  # fmt: skip
            QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=spot(start))
            QTest.mouseMove(canvas, spot(end))
            QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=spot(end))
            self.settle()
            self.assertEqual(window.session.look.probes, probes)
        before = window.session.look.practice.score.tried
        self.reach(window, f"answer-{window.session.look.practice.exercise.choices[0].key}")
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.assertEqual(window.session.look.practice.score.tried, before + 1)

    def test_cards_are_answered_too(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_P, ALT)
        self.reach(window, "practice-card")
        card = window.session.look.practice.exercise
        right, tried = window.session.look.practice.score.right, window.session.look.practice.score.tried
        self.assertIn("Find the mistake, if there is one", self.said(window))
        wrong = next(title for title in card.choices if title != card.answer)
        self.reach(window, f"answer-{wrong}")
        now = window.session.look.practice
        self.assertEqual((now.score.right, now.score.tried), (right, tried + 1))
        self.assertIn(card.answer, now.told)
        self.reach(window, "practice-next")
        self.assertEqual(window.session.look.practice.answered, "")


class Pencils(SiteCase):
    def test_one_leg_is_taken_over_from_pencil(self) -> None:
        window = self.open(demo_job())
        window.keep_pencil()
        self.type(window, "leg 2 25")
        self.type(window, "leg 4 6")
        window.show_pencils()
        self.settle()
        self.reach(window, "take-1-leg-2")
        legs = {leg.id: round(leg.length_m / 0.3048, 2) for leg in window.session.job.legs}
        self.assertEqual((legs["leg-2"], legs["leg-4"]), (22.0, 6.0))
        # A leg that was rubbed out comes back in its place.
        self.type(window, "rub 3")
        self.reach(window, "take-1-leg-3")
        self.assertEqual([leg.id for leg in window.session.job.legs], [f"leg-{n}" for n in range(1, 7)])
