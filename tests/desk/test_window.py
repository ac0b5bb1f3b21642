"""The desk, driven as a person drives it."""

from pathlib import Path
from unittest import mock

from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QTextBrowser

from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD
from awlmark.core.job import file
from awlmark.core.job.edit import Put, put
from awlmark.core.parts.cutting import plan_of
from awlmark.data import demo_job
from awlmark.desk.actions import ACTIONS, MENUS
from awlmark.desk.dialogs.leaving import ExportDialog, PrintDialog, print_pages, printer_for
from awlmark.desk.session import fresh_job
from awlmark.desk.tables.parts_table import EACH
from awlmark.paper import PRINTS, WRITERS
from tests.desk.support import DeskCase
from tests.drawn import given, settings, st
from tests.support import legs, straight


class Scribing(DeskCase):
    def test_the_demos_run_takes_under_40_keys_with_arrows_and_letters(self) -> None:
        window = self.open(fresh_job())
        line, keys = window.entry.line, 0
        for arrow, text in (
            (Qt.Key.Key_Up, "3"), (Qt.Key.Key_Right, "22"), (None, "t 1 4 lb"), (Qt.Key.Key_Down, "5"), (None, "d 64"),
            (Qt.Key.Key_Up, "4"), (None, "k"), (None, "48a"),
        ):  # fmt: skip
            if arrow is not None:
                self.key(line, arrow)
                keys += 1
            keys += self.type(window, text)
        self.assertLess(keys, 40)
        design = window.session.design
        self.assertAlmostEqual(design.line.length_m, demo_job_length(), places=9)
        self.assertTrue(design.line.closed)
        self.assertEqual((design.circuit.breaker_a, design.circuit.size, design.circuit.ground), (60, "6", "10"))
        self.assertEqual(design.stops, ())
        self.assertGreater(len(design.parts), 12)

    def test_words_do_as_well_as_arrows(self) -> None:
        window = self.open(fresh_job())
        for text in ("up 3", "right 22", "through 16in stone body", "down 5", "trench 64", "up 4", "charger", "48a"):
            self.type(window, text)
        self.assertEqual(window.session.design.finding("run"), None)
        self.assertEqual(window.session.undo_stack.count(), 8)
        self.assertEqual(window.entry.undo.text(), "Undo: charger 48 A")

    def test_a_quote_from_nothing(self) -> None:
        window = self.open(fresh_job())
        self.type(window, "48a 60ft emt")
        self.assertAlmostEqual(window.session.design.line.length_m, 60 * 0.3048)
        self.assertTrue(window.session.job.guessed)
        self.assertEqual(window.session.design.finding("guessed").severity, UNREAD)
        window.session.see(finding="guessed")
        self.settle()
        self.click(window.loupe.canvas, "fix0")
        self.assertEqual(window.session.job.guessed, ())
        self.assertIsNone(window.session.design.finding("guessed"))

    def test_what_cannot_be_read_stays_put_and_loses_nothing(self) -> None:
        window = self.open(demo_job())
        before = window.session.job
        for text in (
            "3 2 2",
            "up",
            "up nine",
            "pony",
            "breaker 61",
            "size 7",
            "nm al",
            "ambient 30",
            "up 99999",
            "1/8 emt",
        ):
            window.entry.line.clear()
            self.type(window, text)
            self.assertEqual(window.entry.line.text(), text)
            self.assertEqual(window.entry.echo.property("trouble"), "true")
            self.assertIn("Accepted", window.entry.echo.text())
        self.assertIs(window.session.job, before)

    def test_numpad_enter_commits_too_and_escape_clears(self) -> None:
        window = self.open(fresh_job())
        QTest.keyClicks(window.entry.line, "up 3")
        self.key(window.entry.line, Qt.Key.Key_Enter)
        self.assertEqual(len(window.session.job.legs), 1)
        QTest.keyClicks(window.entry.line, "down")
        self.key(window.entry.line, Qt.Key.Key_Escape)
        self.assertEqual(window.entry.line.text(), "")

    def test_pulling_the_lines_end_types_the_reading(self) -> None:
        window = self.open(fresh_job())
        self.type(window, "up 3")
        self.type(window, "right 10")
        canvas = window.scenes.drawing.canvas
        hit = next(hit for hit in canvas.picture.hits if hit.id == "handle")
        start = QPoint(round(hit.x + hit.w / 2), round(hit.y + hit.h / 2))
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
        QTest.mouseMove(canvas, start + QPoint(30, 4))
        QTest.mouseMove(canvas, start + QPoint(40, 5))
        self.settle()
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=start + QPoint(40, 5))
        self.settle()
        self.assertRegex(window.entry.line.text(), r"^right \d+' ")
        self.assertTrue(window.entry.line.selectedText())
        QTest.keyClicks(window.entry.line, "4")
        self.key(window.entry.line, Qt.Key.Key_Return)
        self.assertAlmostEqual(window.session.design.line.length_m, 17 * 0.3048)

    def test_readings_can_be_typed_over_in_the_legs_table(self) -> None:
        window = self.open(demo_job())
        self.key(window, Qt.Key.Key_L, Qt.KeyboardModifier.AltModifier)
        legs = window.scenes.legs
        self.assertTrue(legs.isVisible())
        legs.type_over(1, 2, "20")
        self.settle()
        self.assertAlmostEqual(window.session.job.legs[1].length_m, 20 * 0.3048)
        legs.type_over(1, 2, "rubbish")
        self.settle()
        self.assertEqual(legs.text(1, 2), "20' 0\"")
        self.assertEqual(window.entry.echo.property("trouble"), "true")


class Deciding(DeskCase):
    def test_the_nm_mistake_breaks_the_line_and_its_fixes_work(self) -> None:
        window = self.open(straight(48, 40))
        self.type(window, "6 nm")
        self.assertEqual(window.session.design.verdict, STOP)
        self.assertIn("Broken", " ".join(text.text for text in window.sill.canvas.picture.texts()))
        self.assertEqual(len(window.session.look.quotes), 3)
        for number in range(3):
            self.click(window.loupe.canvas, f"fix{number}")
            self.assertEqual(window.session.design.stops, ())
            self.assertTrue(window.session.undo_stack.undoText().startswith("fix: "))
            window.undo()
            self.settle()
            self.assertEqual(window.session.design.verdict, STOP)
        self.key(window.entry.line, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.design.stops, ())

    def test_every_decision_can_be_pinned_and_opened(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="wire", at_m=1.0)
        self.settle()
        canvas, job = window.scenes.drawing.canvas, lambda: window.session.job
        self.click(canvas, "bore-cu-0-1")
        self.assertEqual(job().legs[0].trade_size, "1")
        self.click(canvas, "bore-cu-0-1")
        self.assertIsNone(job().legs[0].trade_size)
        self.click(canvas, "amps-cu-4")
        self.assertEqual(job().circuit.size, "4")
        self.click(canvas, "amps-cu-4")
        self.assertIsNone(job().circuit.size)
        self.click(canvas, "metal-al")
        self.assertEqual((job().circuit.material, window.session.design.circuit.material), ("al", "al"))
        self.click(canvas, "metal-al")
        self.assertIsNone(job().circuit.material)
        self.click(canvas, "method-mc")
        self.assertEqual({leg.method for leg in job().legs[:3]}, {"mc"})
        self.click(canvas, "charger-60")
        self.assertEqual(job().charger.terminal_c, 60)
        self.click(canvas, "charger-60")
        self.assertIsNone(job().charger.terminal_c)
        for text, path in (("breaker 70", "breaker_a"), ("ground 8", "ground_size"), ("xhhw-2", "insulation")):
            self.type(window, text)
            self.assertIsNotNone(getattr(job().circuit, path))
        self.key(window.entry.line, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
        window.open_decisions()
        self.assertTrue(
            all(getattr(job().circuit, f) is None for f in ("breaker_a", "ground_size", "insulation", "size"))
        )

    def test_keys_step_sizes_metals_methods_marks_and_findings(self) -> None:
        window = self.open(demo_job())
        alt = Qt.KeyboardModifier.AltModifier
        line = window.entry.line
        self.key(line, Qt.Key.Key_Down, alt)
        self.assertEqual(window.session.job.charger.nameplate_a, 40)
        self.key(line, Qt.Key.Key_Up, alt)
        window.session.see(stage="wire")
        self.key(line, Qt.Key.Key_Up, alt)
        self.assertEqual(window.session.job.legs[0].trade_size, "1")
        self.key(line, Qt.Key.Key_M, alt)
        self.assertEqual(window.session.design.circuit.material, "al")
        self.key(line, Qt.Key.Key_M, alt)
        self.key(line, Qt.Key.Key_Y, alt)
        self.assertNotEqual(window.session.job.legs[0].method, None)
        window.session.see(at_m=0.0)
        self.key(line, Qt.Key.Key_BracketRight)
        self.assertAlmostEqual(window.session.look.at_m, 3 * 0.3048)
        self.key(line, Qt.Key.Key_BracketLeft)
        self.assertEqual(window.session.look.at_m, 0)
        self.type(window, "6 nm")
        before = window.session.look.finding
        self.key(line, Qt.Key.Key_N, alt)
        self.assertNotEqual(window.session.look.finding, before)

    def test_prices_are_typed_over_in_the_list(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_6, Qt.KeyboardModifier.ControlModifier)
        table = window.scenes.parts
        self.assertTrue(table.isVisible())
        before = window.session.design.cost
        # Sticks of EMT, a dollar more each.
        part = next(part for part in window.session.design.parts if part.key == "stick:emt:3/4")
        row = table.keys.index(part.key)
        table.type_over(row, EACH, "13.40")
        self.settle()
        self.assertAlmostEqual(window.session.design.cost, before + part.quantity)
        table.type_over(row, EACH, "twelve")
        self.settle()
        self.assertEqual(table.text(row, EACH), "13.40")
        self.assertIn("price", window.entry.echo.text())
        table.type_over(row, EACH, "")
        self.settle()
        self.assertEqual(window.session.design.unpriced, 1)
        self.assertIn("from", " ".join(text.text for text in window.sill.canvas.picture.texts()))
        table.go_to(row, EACH)
        self.type(window, "price 3")
        self.assertEqual(window.session.design.unpriced, 0)

    def test_stock_check_in_and_receipts_are_typed_in_the_list(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_6, Qt.KeyboardModifier.ControlModifier)
        table, before = window.scenes.parts, window.session.design.cost
        row = next(at for at in range(table.rows.rowCount()) if "PVC 40 stick" in (table.text(at, 0) or ""))
        table.type_over(row, 5, "3")
        self.settle()
        self.assertAlmostEqual(window.session.design.cost, before - 3 * 6.10)
        self.assertEqual((table.text(row, 1), table.text(row, 2)), ("8", "5"))
        table.type_over(row, 6, "4")
        self.settle()
        self.assertIsNotNone(window.session.design.finding("came:stick:pvc40:3/4"))
        table.type_over(row, 7, "twelve")
        self.settle()
        self.assertEqual(table.text(row, 7), "")
        self.assertIn("paid", window.entry.echo.text())
        window.acts.do("partspage:quote")
        self.type(window, "rate 60")
        said = " ".join(text.text for text in window.scenes.drawing.canvas.picture.texts())
        self.assertIn("What it comes to", said)
        self.assertIn("at $60", said)

    def test_fewer_sticks_are_found_behind_the_window(self) -> None:
        feet = (5, 5, 4, 3.4, 3.3, 3.2, 2.5, 2.4, 6.6, 1.9)
        run = legs(*(("right", length, "box") for length in feet[:-1]), ("right", feet[-1], "charger"))
        window = self.open(put(straight(48, 20), Put("legs", run)))
        section = window.session.design.line.sections[0]
        self.key(window.entry.line, Qt.Key.Key_6, Qt.KeyboardModifier.ControlModifier)
        self.ring(window.session._cuts_soon)

        def settled() -> bool:
            # The plan is found on another thread; the list follows once the window has heard of it.
            plan = plan_of(window.session.design.pieces(section), section.method.stick_m)
            sticks = next(part for part in window.session.design.parts if part.key.startswith("stick"))
            return bool(plan.proved or plan.rounds) and sticks.quantity == plan.number

        self.until(settled)

    def test_an_unread_temperature_is_asked_for(self) -> None:
        window = self.open(straight(48, 40))
        self.type(window, "place attic")
        self.assertEqual(window.session.design.verdict, UNREAD)
        self.type(window, "ambient 45C")
        self.assertEqual(window.session.design.verdict, HOLDS)


class Undoing(DeskCase):
    ENTRIES = (
        "up 3",
        "right 9 6",
        "t 8in",
        "k",
        "open run",
        "6 nm",
        "size open",
        "48a",
        "32a",
        "emt",
        "rub",
        "leg 1 4",
        "breaker 60",
        "code 2017",
        "b",
        "d 20",
        "slot 5 30a",
        "move 5 to 19",
        "pin B at 80 0",
        "cord 18ft",
        "split 1 at 1",
        "surface drive",
        "local terminals 60",
        "overrule because it is so",
        "load tub 30a",
    )

    def test_undo_after_any_edits_returns_the_same_bytes(self) -> None:
        window = self.open(demo_job())

        @settings(max_examples=15, deadline=None)
        @given(st.lists(st.sampled_from(self.ENTRIES), min_size=1, max_size=8))
        def edit_and_undo(entries: list[str]) -> None:
            window.session.open(demo_job(), None)
            start = file.dumps(window.session.job)
            for text in entries:
                window.entry.line.setText(text)
                window._commit(text)
            end = file.dumps(window.session.job)
            while window.session.undo_stack.canUndo():
                window.undo()
            self.assertEqual(file.dumps(window.session.job), start)
            while window.session.undo_stack.canRedo():
                window.redo()
            self.assertEqual(file.dumps(window.session.job), end)

        edit_and_undo()
        window.entry.line.clear()

    def test_keys_reach_undo_from_the_empty_entry(self) -> None:
        window = self.open(fresh_job())
        self.type(window, "up 3")
        self.key(window.entry.line, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.job.legs, ())
        control_shift = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
        self.key(window.entry.line, Qt.Key.Key_Z, control_shift)
        self.assertEqual(len(window.session.job.legs), 1)


class Reading(DeskCase):
    def test_the_sheets_tell_what_they_should(self) -> None:
        window = self.open(demo_job())
        for action, told in (
            ("connections", ("14-50", "EV-duty", "ground-fault", "Hardwired".lower())),
            ("audit", ("Highest honest setting", "48 A, locked", "keep")),
            ("tables", ("NEC 2017", "PVC 40", "if listed for it", "ground-fault")),
            ("checked", ("Box volume", "weakest link", "label on the part wins")),
        ):
            window.actions_by_id[action].trigger()
            self.settle()
            dialog = next(one for one in window.findChildren(QDialog) if one.isVisible())
            text = dialog.findChild(QTextBrowser).toPlainText()
            for part in told:
                with self.subTest(action=action, part=part):
                    self.assertIn(part, text)
            dialog.close()
            self.settle()

    def test_overruling_names_the_finding_in_the_slip(self) -> None:
        window = self.open(straight(48, 20, circuit__breaker_a=50.0))
        window.session.see(finding="breaker")
        self.type(window, "overrule inspector agreed on site")
        self.assertEqual(window.session.design.finding("breaker").severity, NOTE)
        self.assertEqual(window.session.job.overrules[0].finding, "breaker")
        window.undo()
        self.assertEqual(window.session.design.finding("breaker").severity, STOP)


class Filing(DeskCase):
    def saved(self) -> Path:
        path = self.folder / "cider.awlmark"
        file.save_job(demo_job(), path)
        return path

    def test_new_open_save_save_as_recent_revert(self) -> None:
        window, path = self.open(fresh_job()), self.saved()
        window.files.ask_open = lambda: path  # type: ignore[method-assign]
        window.open_job()
        self.assertEqual((window.session.job, window.session.path), (demo_job(), path))
        self.assertEqual(window.files.recent(), [str(path)])
        self.type(window, "32a")
        self.assertTrue(window.windowTitle().startswith("* "))
        window.save()
        self.assertEqual(file.read_job(path).charger.nameplate_a, 32)
        self.assertFalse(window.session.unsaved)
        self.type(window, "24a")
        window.revert()
        self.assertEqual(window.session.job.charger.nameplate_a, 32)
        window.undo()
        self.assertEqual(window.session.job.charger.nameplate_a, 24)
        other = self.folder / "other.awlmark"
        window.files.ask_save = lambda: other  # type: ignore[method-assign]
        window.save_as()
        self.assertEqual(file.read_job(other).charger.nameplate_a, 24)
        self.assertEqual(window.files.recent(), [str(other), str(path)])
        window.new_job()
        self.assertEqual((window.session.job.legs, window.session.path), ((), None))
        recent = window.actions_by_id["recent"].menu()
        recent.aboutToShow.emit()
        recent.actions()[1].trigger()
        self.assertEqual(window.session.job.charger.nameplate_a, 32)

    def test_unsaved_work_is_never_dropped_unasked(self) -> None:
        window = self.open(demo_job())
        self.type(window, "32a")
        job = window.session.job
        for leave in (window.new_job, window.open_job, window.open_demo, window.close):
            self.answers = ["Stay here"]
            leave()
            self.assertIs(window.session.job, job)
            self.assertTrue(window.isVisible())
        target = self.folder / "kept.awlmark"
        window.files.ask_save = lambda: target  # type: ignore[method-assign]
        self.answers = ["Save"]
        window.close()
        self.assertFalse(window.isVisible())
        self.assertEqual(file.read_job(target), job)

    def test_a_save_that_fails_is_told_and_keeps_the_work(self) -> None:
        window = self.open(demo_job())
        self.type(window, "32a")
        window.files.ask_save = lambda: Path("/proc/no/such.awlmark")  # type: ignore[method-assign]
        window.save()
        self.assertIn("Not saved", self.asked[-1])
        self.assertTrue(window.session.unsaved)
        self.answers = ["Save"]
        self.assertFalse(window.files.may_leave())

    def test_a_damaged_file_offers_the_copy_before(self) -> None:
        window, path = self.open(fresh_job()), self.saved()
        file.save_job(straight(32), path)
        path.write_bytes(path.read_bytes()[:300])
        self.answers = ["Open the earlier copy"]
        self.assertTrue(window.files.open(path))
        self.assertIn("6 legs", self.asked[-1])
        self.assertEqual(window.session.job, demo_job())
        self.assertTrue(window.session.unsaved)
        lonely = self.folder / "lonely.awlmark"
        lonely.write_bytes(b"{")
        self.assertFalse(window.files.open(lonely))
        self.assertIn("no earlier copy", self.asked[-1])
        self.assertEqual(window.session.job, demo_job())

    def test_export_asks_what_and_where_and_before_it_replaces(self) -> None:
        window = self.open(demo_job())
        window.export()
        dialog = window.findChild(ExportDialog)
        dialog.folder.setText(str(self.folder / "out"))
        own = self.folder / "out" / "cider-yard-north-bay"
        self.assertIn("The folder is made.", dialog.where.text())
        dialog.write()
        self.assertEqual({path.name for path in own.iterdir()}, {f"cider-yard-north-bay-{name}" for name in WRITERS})
        self.assertTrue(dialog.open_folder.isEnabled())
        with mock.patch("PySide6.QtGui.QDesktopServices.openUrl") as opened:
            dialog.open_folder.click()
        self.assertEqual(Path(opened.call_args[0][0].toLocalFile()), own)
        # What stands there is another's until it is said otherwise.
        listed = own / "cider-yard-north-bay-parts.csv"
        listed.write_text("mine")
        for name, tick in dialog.ticks.items():
            tick.setChecked(name in ("parts.csv", "walls.svg"))
        for answer, left in (("Cancel", "mine"), ("Leave them", "mine"), ("Replace them", "item")):
            self.answers.append(answer)
            dialog.write()
            self.assertEqual(listed.read_text()[:4], left, answer)
        dialog.close()
        # The answers are remembered.
        window.export()
        again = [one for one in window.findChildren(ExportDialog) if one.isVisible()][-1]
        self.assertEqual((again.names, again.folder.text()), (("parts.csv", "walls.svg"), str(self.folder / "out")))
        again.own.setChecked(False)
        self.assertEqual(again.target, self.folder / "out")
        again.folder.setText("/proc/nowhere")
        again.write()
        self.assertIn("Can't make the folder", again.where.text())
        again.close()

    def test_what_is_printed_is_seen_first(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
        dialog = window.findChild(PrintDialog)
        self.assertEqual(dialog.list.count(), len(PRINTS))
        for row in range(dialog.list.count()):
            dialog.list.setCurrentRow(row)
            self.assertTrue(dialog.pages(), dialog.list.item(row).text())
        dialog.list.setCurrentRow(list(PRINTS).index("Labels"))
        dialog.fields["customer"].setText("Press house trust")
        dialog.paper.setCurrentText("A4")
        dialog.preview()
        self.assertEqual(window.session.undo_stack.undoText(), "head of the papers")
        self.assertEqual((window.session.job.papers.customer, dialog.pages()[0].width), ("Press house trust", 595.0))
        self.settle()
        self.assertTrue(dialog.shown.isVisible())
        dialog.shown.close()
        pages = dialog.pages()
        printer = printer_for(pages)
        path = self.folder / "labels.pdf"
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(path))
        print_pages(printer, pages)
        page = PdfReader(path).pages[0]
        self.assertAlmostEqual(float(page.mediabox.width), pages[0].width, delta=1)
        self.assertIn("Shut off at", " ".join(page.extract_text().split()))
        dialog.close()

    def test_a_job_that_nobody_named_takes_the_name_of_its_file(self) -> None:
        window = self.open(fresh_job())
        window.files.ask_save = lambda: self.folder / "Malt house.awlmark"  # type: ignore[method-assign]
        self.assertTrue(window.files.save())
        self.assertEqual(window.session.job.name, "Malt house")
        self.assertFalse(window.session.unsaved)


class Reaching(DeskCase):
    def test_shortcuts_are_unique_and_clear_of_menu_letters(self) -> None:
        keys = [QKeySequence(act.keys).toString() for act in ACTIONS if act.keys]
        self.assertEqual(len(keys), len(set(keys)))
        letters = {f"Alt+{title[title.index('&') + 1].upper()}" for _key, title in MENUS}
        self.assertFalse(letters & set(keys))
        for key, _title in MENUS:
            marks = [
                act.text[act.text.index("&") + 1].lower() for act in ACTIONS if act.menu == key and "&" in act.text
            ]
            self.assertEqual(len(marks), len(set(marks)), key)

    def test_every_action_stands_in_a_menu_and_does_something(self) -> None:
        window = self.open(demo_job())
        for act in ACTIONS:
            if act.method:
                self.assertTrue(callable(getattr(window, act.method)), act.id)
                self.assertIn(act.id, window.actions_by_id)
        for sheet in ("checked", "about"):
            window.actions_by_id[sheet].trigger()
            self.settle()
            dialogs = [child for child in window.findChildren(QDialog) if child.isVisible()]
            self.assertEqual(len(dialogs), 1, sheet)
            dialogs[0].reject()
            self.settle()

    def test_f6_reaches_every_region_and_a_list_stands_for_every_drawing(self) -> None:
        window = self.open(demo_job())
        seen = []
        for _ in range(len(window._stops())):
            self.key(QApplication.focusWidget(), Qt.Key.Key_F6)
            seen.append(QApplication.focusWidget())
        self.assertEqual(len({id(widget) for widget in seen}), len(window._stops()))
        for region in window.regions:
            region.focus_target().setFocus()
            self.assertTrue(region.canvas.accessibleName())
            self.key(region.canvas, Qt.Key.Key_L, Qt.KeyboardModifier.AltModifier)
            rows = window.scenes.legs.rows.rowCount() if region is window.scenes.drawing else region.list.count()
            self.assertGreater(rows, 0, region.name)
            self.key(QApplication.focusWidget(), Qt.Key.Key_L, Qt.KeyboardModifier.AltModifier)

    def test_the_slips_list_holds_every_finding(self) -> None:
        window = self.open(straight(48, 40))
        self.type(window, "6 nm")
        window.why()
        self.key(QApplication.focusWidget(), Qt.Key.Key_L, Qt.KeyboardModifier.AltModifier)
        rows = [window.loupe.list.item(at).text() for at in range(window.loupe.list.count())]
        # Three fixes and every finding; what the drawing says beyond them stands behind.
        told = rows[3 : 3 + len(window.session.design.findings)]
        for finding in window.session.design.findings:
            self.assertTrue(any(finding.title in row or finding.text in row for row in told), finding.title)
        self.assertTrue(rows[0].startswith("Fix 1"))
        window.loupe.list.itemActivated.emit(window.loupe.list.item(1))
        self.settle()
        self.assertEqual(window.session.design.stops, ())

    def test_arrows_and_return_take_what_a_drawing_shows(self) -> None:
        window = self.open(demo_job())
        canvas = window.sill.canvas
        canvas.setFocus()
        for _ in range(6):  # the job's name stands first
            self.key(canvas, Qt.Key.Key_Right)
        self.assertIn("Wire", canvas.picture.hits[canvas.at].says)
        self.key(canvas, Qt.Key.Key_Return)
        self.assertEqual(window.session.look.stage, "wire")
        QTest.keyClicks(canvas, "up")
        self.assertEqual(window.entry.line.text(), "up")
        self.assertIs(QApplication.focusWidget(), window.entry.line)

    def test_light_and_dark(self) -> None:
        window = self.open(demo_job())
        before = window.grab().toImage().pixelColor(600, 400).lightness()
        window.go_dark()
        self.settle()
        self.assertLess(window.grab().toImage().pixelColor(600, 400).lightness(), before - 60)
        self.assertEqual(self.settings.value("mode"), "dark")
        window.go_light()
        self.settle()
        self.assertEqual(window.grab().toImage().pixelColor(600, 400).lightness(), before)

    def test_true_size_is_set_once_by_a_card_and_remembered(self) -> None:
        window = self.open(demo_job())
        said = " ".join(text.text for text in window.loupe.canvas.picture.texts())
        self.assertIn("not to size", said)
        window.actions_by_id["true-size"].trigger()
        self.settle()
        dialog = next(child for child in window.findChildren(QDialog) if child.isVisible())
        dialog.slider.setValue(50)
        dialog.accept()
        self.settle()
        self.assertEqual(window.session.look.pixels_per_mm, 5.0)
        self.assertIn("true size", " ".join(text.text for text in window.loupe.canvas.picture.texts()))
        again = self.open(demo_job())
        self.assertEqual(again.session.look.pixels_per_mm, 5.0)

    def test_the_awl_is_dragged_along_the_tape(self) -> None:
        window = self.open(demo_job())
        canvas = window.tape.canvas
        hit = next(hit for hit in canvas.picture.hits if hit.id == "awl")
        start = QPoint(round(hit.x + 7), 8)
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=start)
        QTest.mouseMove(canvas, QPoint(600, 8))
        QTest.mouseMove(canvas, QPoint(670, 8))
        self.settle()
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=QPoint(670, 8))
        self.assertAlmostEqual(window.session.look.at_m, window.session.design.line.length_m / 2, delta=0.05)


def demo_job_length() -> float:
    """Length of the demo's line [m]."""
    return sum(leg.length_m for leg in demo_job().legs)
