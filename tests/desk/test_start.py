"""The start sheet and the walk in the real window."""

import shutil
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

import awlmark.data
from awlmark.core.finding import HOLDS
from awlmark.core.job.file import save_job
from awlmark.core.quantities import FOOT_M
from awlmark.data import demo_job
from awlmark.desk.session import fresh_job
from awlmark.desk.window import Window
from tests.desk.support import DeskCase

DEMO = Path(awlmark.data.__file__).parent / "cider-yard.awlmark"


class Start(DeskCase):
    def sheet(self, width: int = 1280, height: int = 800) -> Window:
        window = self.open(fresh_job(), width, height)
        window.session.see(start=True)
        self.settle()
        return window

    def test_a_pattern_by_keys_leads_to_a_complete_list_in_under_twenty(self) -> None:
        window = self.sheet()
        presses = self.type(window, "2")
        self.assertEqual(window.pages.currentIndex(), 0)
        while window.session.look.walk:
            self.assertEqual(window.entry.line.selectedText(), window.entry.line.text())
            self.key(window.entry.line, Qt.Key.Key_Return)
            presses += 1
        self.assertLess(presses, 20)
        design = window.session.design
        self.assertEqual(window.session.job.guessed, ())
        self.assertTrue(design.parts and design.circuit)
        self.assertIn("Every reading is yours", window.entry.echo.text())

    def test_and_by_the_mouse_in_under_twenty_five_clicks(self) -> None:
        window = self.sheet()
        self.click(window.sheet.region.canvas, "way-2")
        clicks = 1
        while window.session.look.walk:
            self.click(window.loupe.canvas, "walk:keep")
            clicks += 1
        self.assertLess(clicks, 25)
        self.assertEqual(window.session.job.guessed, ())

    def test_the_leg_that_is_asked_is_lit_on_the_wall(self) -> None:
        window = self.sheet()
        self.type(window, "2")
        picture = window.scenes.drawing.canvas.picture
        band = [shape for shape in picture.shapes if getattr(shape, "role", "") == "notefill"]
        self.assertEqual(band, [])  # the charger is asked first
        while (one := window.walking.now()) is not None and one.path != "legs[leg-2].length_m":
            self.key(window.entry.line, Qt.Key.Key_Return)
        picture = window.scenes.drawing.canvas.picture
        (band,) = [shape for shape in picture.shapes if getattr(shape, "role", "") == "notefill"]
        leg = next(hit for hit in reversed(picture.hits) if hit.id == "leg-2")
        self.assertTrue(leg.x <= band.x <= leg.x + leg.w and leg.y <= band.y <= leg.y + leg.h)

    def test_a_reading_is_typed_over_taken_back_and_asked_again(self) -> None:
        window = self.sheet()
        self.type(window, "5")
        walking = window.walking
        while (one := walking.now()) is not None and one.path != "legs[leg-5].length_m":
            self.key(window.entry.line, Qt.Key.Key_Return)
        step = window.session.look.step
        QTest.keyClicks(window.entry.line, "220ft")
        self.assertIn("220", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.job.legs[4].length_m / FOOT_M, 220)
        self.key(window.entry.line, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(window.session.look.step, step)
        self.assertEqual(window.entry.line.text(), "220' 0\"")
        QTest.keyClicks(window.entry.line, "zzyx")
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertEqual(window.entry.line.selectedText(), "zzyx")
        self.assertEqual(window.session.look.step, step)
        self.assertIn("zzyx", window.entry.echo.text())
        window.entry.line.setText("")
        self.key(window.entry.line, Qt.Key.Key_Escape)
        self.assertEqual(window.session.look.walk, ())
        self.assertTrue(window.session.job.guessed)
        window.actions_by_id["walk"].trigger()
        self.assertTrue(window.session.look.walk)

    def test_another_job_ends_the_walk_and_clears_its_reading(self) -> None:
        window = self.sheet()
        self.type(window, "2")
        self.assertTrue(window.entry.line.text())
        window.session.open(demo_job(), None)
        self.settle()
        self.assertEqual((window.entry.line.text(), window.session.look.walk), ("", ()))

    def test_the_shelf_shows_each_file_as_what_it_is_and_a_filter_opens_one(self) -> None:
        window = self.sheet()
        good, bad, gone = (self.folder / f"{name}.awlmark" for name in ("good", "bad", "gone"))
        shutil.copy(DEMO, good)
        bad.write_text("{}")
        for path in (gone, bad, good):
            window.files.remember(path)
        shelf = window.sheet.shelf
        self.until(lambda: [row.trouble for row in shelf.rows()].count("waiting") == 0)
        found = {Path(row.path).stem: row for row in shelf.rows()}
        self.assertEqual({name: row.trouble for name, row in found.items()},
                         {"good": "", "bad": "broken", "gone": "gone"})  # fmt: skip
        assert found["good"].summary is not None
        self.assertEqual((found["good"].summary.mark, found["good"].summary.price), (HOLDS, "$1,289"))
        self.assertEqual(bad.read_text(), "{}")
        QTest.keyClicks(window.entry.line, "press house")
        self.assertIn("Cider yard", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertEqual(window.session.job.name, demo_job().name)
        self.assertEqual(window.pages.currentIndex(), 0)
        window.session.see(start=True)
        self.settle()
        window.files.ask_open = lambda: good  # type: ignore[method-assign]
        at = next(n for n, row in enumerate(window.sheet._rows) if row.path == str(gone))
        self.click(window.sheet.region.canvas, f"find-{at}")
        self.assertEqual(window.session.path, good)
        self.assertNotIn(str(gone), [row.path for row in shelf.rows()])

    def test_down_goes_to_the_next_row_that_fits(self) -> None:
        window = self.sheet()
        names = ("Cider yard, press house", "Cider yard, store")
        for name in names:
            path = self.folder / f"{name}.awlmark"
            save_job(replace(demo_job(), name=name), path)
            window.files.remember(path)
        self.until(lambda: all(row.summary for row in window.sheet.shelf.rows()))
        QTest.keyClicks(window.entry.line, "cider")
        first, second = (row.summary.name for row in window.sheet.shelf.rows("cider"))
        self.assertIn(f"Enter opens {first}.", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_Down)
        self.assertIn(f"Enter opens {second}.", window.entry.echo.text())
        self.key(window.entry.line, Qt.Key.Key_Down)
        self.key(window.entry.line, Qt.Key.Key_Up)
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertEqual(window.session.job.name, second)

    def test_a_changed_file_is_read_again_and_a_folder_is_put_on_the_shelf(self) -> None:
        window = self.sheet()
        folder = self.folder / "yard"
        folder.mkdir()
        path = folder / "one.awlmark"
        shutil.copy(DEMO, path)
        shelf = window.sheet.shelf
        shelf.put_folder(folder)
        self.until(lambda: all(row.summary for row in shelf.rows()) and shelf.rows())
        path.write_text(path.read_text().replace("Cider yard, north bay", "Kiln house"))
        self.until(lambda: [row.summary.name for row in shelf.rows() if row.summary] == ["Kiln house"])

    def test_new_lines_start_with_the_book_and_the_unit_that_were_chosen(self) -> None:
        window = self.sheet()
        book = window.session.job.code
        self.click(window.sheet.region.canvas, "lines-units")
        self.click(window.sheet.region.canvas, "lines-code")
        self.assertEqual(window.session.job.units, "m")
        self.assertNotEqual(window.session.job.code, book)
        chosen = window.session.job.code
        self.type(window, "1")
        job = window.session.job
        self.assertEqual((job.code, job.units), (chosen, "m"))
        self.assertTrue(job.guessed)
        self.assertEqual(window.session.unsaved, True)
        window.session.undo_stack.setClean()
        window.new_job()
        self.assertEqual((window.session.job.code, window.session.job.units), (chosen, "m"))

    def test_what_can_be_typed_is_shown_from_here_too(self) -> None:
        window = self.sheet()
        self.key(window.entry.line, Qt.Key.Key_F1)
        assert window._words is not None
        self.assertTrue(window._words.isVisible())
        self.assertEqual(window.pages.currentIndex(), 0)

    def test_a_quote_is_priced_and_a_blank_tape_is_one_key_away(self) -> None:
        window = self.sheet()
        self.type(window, "48a 60ft emt")
        self.assertEqual((len(window.session.job.legs), window.pages.currentIndex()), (1, 0))
        other = self.sheet()
        self.key(other.entry.line, Qt.Key.Key_Escape)
        self.assertEqual(other.pages.currentIndex(), 0)
        self.assertEqual(other.session.job.legs, ())

    def test_a_line_is_kept_as_a_pattern_and_stands_on_the_sheet(self) -> None:
        window = self.open(demo_job())
        window.keep_way()
        self.assertIn("Kept as the pattern", window.entry.echo.text())
        self.assertEqual(window.sheet.ways()[-1].name, demo_job().name)
        window.session.undo_stack.setClean()
        window.new_job()
        self.settle()
        self.type(window, "7")
        self.assertEqual(len(window.session.job.legs), len(demo_job().legs))
        self.assertTrue(window.session.look.walk)
