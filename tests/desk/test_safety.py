"""Work is never lost: autosave, errors on any thread, files that others write too, signals, languages, screens."""

import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path
from unittest import mock

from PySide6.QtCore import QThread
from PySide6.QtWidgets import QApplication, QMessageBox

from awlmark.core.job import autosave, disk, file
from awlmark.core.record import UnforeseenError, log_file
from awlmark.data import demo_job
from awlmark.desk.dialogs.files import FileDesk
from awlmark.desk.guard import Guard
from awlmark.desk.keeper import AUTOSAVE_MS
from awlmark.desk.session import fresh_job
from awlmark.desk.tables.table import Table
from awlmark.desk.window import Window
from tests.desk.support import DeskCase
from tests.support import LONG, OFFSCREEN, straight


class SafeCase(DeskCase):
    """A state folder of its own for each test."""

    def setUp(self) -> None:
        super().setUp()
        patched = mock.patch.dict(os.environ, {"XDG_STATE_HOME": str(self.folder / "state")})
        patched.start()
        self.addCleanup(patched.stop)

    def autosaves(self) -> list[Path]:
        return sorted((self.folder / "state" / "awlmark" / "autosave").glob("*.awlmark"))

    def orphan(self, copy: Path) -> None:
        """Make an autosave look like that of a process that is gone."""
        head, _, body = copy.read_bytes().partition(b"\n")
        copy.write_bytes(json.dumps({**json.loads(head), "process": "1-1"}).encode() + b"\n" + body)

    def run_script(self, body: str, *words: str, **more: str) -> subprocess.Popen[str]:
        """Another Awlmark: a real window on the offscreen platform."""
        lines = textwrap.dedent(body)
        environment = {**os.environ, "QT_QPA_PLATFORM": OFFSCREEN, "XDG_CONFIG_HOME": str(self.folder), **more}
        process = subprocess.Popen(
            [sys.executable, "-W", "ignore", "-c", lines, *words], stdout=subprocess.PIPE, stderr=subprocess.PIPE,
            env=environment, text=True,
        )  # fmt: skip
        self.addCleanup(process.communicate)
        self.addCleanup(process.kill)
        return process


class Keeping(SafeCase):
    def test_a_killed_window_leaves_its_work_to_be_offered(self) -> None:
        process = self.run_script(
            """
            from awlmark.core.job import autosave
            from awlmark.data import demo_job
            from awlmark.desk import start
            application = start.make_application()
            window = start.make_window(demo_job())
            window.show()
            window._commit("32a")
            while not list(autosave.state_folder().glob("autosave/*.awlmark")):
                application.processEvents()
            print("kept", flush=True)
            application.exec()
            """
        )
        assert process.stdout is not None
        self.assertEqual(process.stdout.readline(), "kept\n")
        process.send_signal(signal.SIGKILL)
        process.wait()
        window = self.open(fresh_job())
        self.answers = ["Open it"]
        self.assertTrue(window.files.recover())
        self.assertEqual(window.session.job.charger.nameplate_a, 32)
        self.assertTrue(window.session.unsaved)
        self.assertEqual(len(self.autosaves()), 1, "the rescue's own copy is this window's now")
        window.session.put_away()
        self.assertEqual(self.autosaves(), [])

    def test_edits_that_never_rest_are_kept_all_the_same(self) -> None:
        window = self.open(demo_job())
        keeper = window.session.keeper
        with mock.patch.object(keeper, "_since") as since, mock.patch.object(keeper._pool, "start") as begun:
            since.isValid.side_effect = [False, True, True, True]
            since.elapsed.side_effect = [AUTOSAVE_MS - 1, AUTOSAVE_MS, AUTOSAVE_MS + 1]
            for text in ("32a", "40a", "48a", "32a"):
                window._commit(text)
            self.assertEqual(begun.call_count, 2, "each edit that comes late enough is kept at once")
            self.assertTrue(keeper._soon.isSingleShot())
        self.assertLessEqual(keeper._soon.interval(), 500)

    def test_an_edit_does_not_put_off_the_keeping_of_the_one_before(self) -> None:
        window = self.open(demo_job())
        keeper = window.session.keeper
        window._commit("32a")
        with mock.patch.object(keeper._soon, "start") as again:
            window._commit("40a")
            again.assert_not_called()
        self.until(self.autosaves)
        self.assertIn("40.0", self.autosaves()[0].read_text(encoding="utf-8"))

    def test_work_that_is_back_at_its_file_needs_no_autosave(self) -> None:
        window = self.open(demo_job())
        self.type(window, "32a")
        self.until(self.autosaves)
        window.undo()
        self.until(lambda: not self.autosaves())

    def test_two_windows_on_one_job_keep_their_work_apart(self) -> None:
        one, other = self.open(demo_job()), self.open(demo_job())
        for window in (one, other):
            self.type(window, "32a")
            window.session.keep_now()
        self.assertEqual(len(self.autosaves()), 2)
        other.session.put_away()
        self.assertEqual(len(self.autosaves()), 1)

    def test_a_name_that_is_no_text_is_kept_saved_and_closed(self) -> None:
        odd = Path(os.fsdecode(bytes(self.folder) + b"/gar\xe7on.awlmark"))
        file.save_job(demo_job(), odd)
        window = self.open(fresh_job())
        self.assertTrue(window.files.open(odd))
        self.type(window, "32a")
        self.until(self.autosaves)
        self.assertTrue(window.files.save())
        self.assertEqual(file.read_job(odd).charger.nameplate_a, 32)


class Unforeseen(SafeCase):
    def setUp(self) -> None:
        super().setUp()
        self.addCleanup(setattr, sys, "excepthook", sys.excepthook)

    def guarded(self) -> Window:
        window = self.open(demo_job())
        # Taken back before the window goes, and its guard with it.
        wake = signal.set_wakeup_fd(-1)
        self.addCleanup(signal.set_wakeup_fd, wake)
        for name in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
            self.addCleanup(signal.signal, name, signal.getsignal(name))
        Guard(window)
        return window

    def test_an_error_on_the_windows_thread_is_logged_and_told_with_the_work_kept(self) -> None:
        window = self.guarded()
        self.type(window, "32a")
        try:
            raise RuntimeError("unforeseen")
        except RuntimeError as problem:
            sys.excepthook(RuntimeError, problem, problem.__traceback__)
        self.until(lambda: self.asked)
        self.assertIn("RuntimeError", self.asked[-1])
        self.assertIn("kept in the autosave", self.asked[-1])
        self.assertIn("unforeseen", log_file().read_text(encoding="utf-8"))
        self.assertEqual(len(self.autosaves()), 1)

    def test_an_error_behind_the_window_is_told_on_its_thread_and_ends_the_waiting(self) -> None:
        window = self.guarded()
        self.type(window, "32a")
        here, told_on, came = QThread.currentThread(), [], []
        window.files.tell = lambda title, text: told_on.append((QThread.currentThread(), text))  # type: ignore[method-assign]

        def work() -> object:
            raise OverflowError("10 to the 400")

        window.session.behind(work, came.append)
        self.until(lambda: came and told_on)
        self.assertIsInstance(came[0], UnforeseenError)
        self.assertIs(told_on[0][0], here)
        self.assertIn("OverflowError", told_on[0][1])
        self.assertIn("10 to the 400", log_file().read_text(encoding="utf-8"))
        self.assertEqual(len(self.autosaves()), 1)

    def test_reading_that_meets_something_unforeseen_lets_go_of_stop_reading(self) -> None:
        window = self.guarded()
        path = self.folder / "year.csv"
        path.write_text("x", encoding="utf-8")
        with (
            mock.patch("awlmark.core.panel.meter.sort_rows", side_effect=ZeroDivisionError),
            mock.patch("awlmark.core.panel.meter_csv.csv_rows"),
        ):
            window.files.ask_meter = lambda: path  # type: ignore[method-assign]
            window.read_meter()
            self.assertTrue(window.actions_by_id["stop-reading"].isEnabled())
            self.until(lambda: not window.actions_by_id["stop-reading"].isEnabled())
        self.assertIn("unforeseen", window.entry.echo.text())

    def test_an_error_in_the_autosave_itself_waits_for_nobody(self) -> None:
        window = self.guarded()
        with mock.patch.object(autosave, "keep", side_effect=UnicodeEncodeError("utf-8", "x", 0, 1, "no text")):
            self.type(window, "32a")
            self.until(lambda: self.asked)
        self.assertIn("Save your work now", " ".join([window.entry.echo.text(), *self.asked]))
        self.assertTrue(window.files._save_to(self.folder / "kept.awlmark"))

    def test_one_box_at_a_time(self) -> None:
        window = self.guarded()
        guard = next(child for child in window.children() if isinstance(child, Guard))
        told: list[str] = []

        def tell(_title: str, text: str) -> None:
            told.append(text)
            guard._tell("Another", "")

        window.files.tell = tell  # type: ignore[method-assign]
        guard._tell("First", "")
        self.assertEqual(len(told), 1)

    def test_a_log_that_cannot_be_written_is_said(self) -> None:
        window = self.guarded()
        (self.folder / "state").write_text("no folder", encoding="utf-8")
        try:
            raise RuntimeError("unforeseen")
        except RuntimeError as problem:
            sys.excepthook(RuntimeError, problem, problem.__traceback__)
        self.until(lambda: self.asked)
        self.assertIn("No log could be written", self.asked[-1])
        (self.folder / "state").unlink()
        self.assertFalse(window.session.unsaved)

    def test_signals_end_the_desk_with_the_work_kept(self) -> None:
        for number in (signal.SIGINT, signal.SIGTERM):
            process = self.run_script(
                """
                from awlmark.data import demo_job
                from awlmark.desk import start
                plain = start.show
                def show(demo):
                    from PySide6.QtCore import QTimer
                    window = plain(demo)
                    window._commit("32a")
                    QTimer.singleShot(0, lambda: print("edited", flush=True))
                    return window
                start.show = show
                raise SystemExit(start.start([], demo=True))
                """
            )
            assert process.stdout is not None
            self.assertEqual(process.stdout.readline(), "edited\n")
            process.send_signal(number)
            self.assertEqual(process.wait(), 0, process.stderr)
            rescues, _unreadable = autosave.left_behind()
            self.assertEqual([rescue.job.charger.nameplate_a for rescue in rescues], [32])
            autosave.forget(rescues[0].copy)


class OthersToo(SafeCase):
    def saved(self) -> tuple[Window, Path]:
        path = self.folder / "yard.awlmark"
        file.save_job(demo_job(), path)
        window = self.open(fresh_job())
        self.assertTrue(window.files.open(path))
        self.type(window, "32a")
        return window, path

    def by_another(self, path: Path) -> None:
        file.save_job(straight(24, 5), path)

    def test_keep_mine_leaves_theirs_as_the_previous_copy(self) -> None:
        window, path = self.saved()
        self.by_another(path)
        self.answers = ["Keep mine"]
        self.assertTrue(window.files.save())
        self.assertEqual(file.read_job(path).charger.nameplate_a, 32)
        self.assertEqual(file.read_job(disk.previous_copy(path)).charger.nameplate_a, 24)
        self.assertTrue(window.files.save())
        self.assertEqual(len(self.asked), 1, "asked once, not again")

    def test_keep_theirs_can_be_undone(self) -> None:
        window, path = self.saved()
        self.by_another(path)
        self.answers = ["Keep theirs"]
        self.assertTrue(window.files.save())
        self.assertEqual(window.session.job.charger.nameplate_a, 24)
        self.assertFalse(window.session.unsaved)
        window.undo()
        self.assertEqual(window.session.job.charger.nameplate_a, 32)

    def test_keep_both_has_two_files(self) -> None:
        window, path = self.saved()
        self.by_another(path)
        self.answers = ["Keep both"]
        self.assertTrue(window.files.save())
        self.assertEqual(window.session.path, self.folder / "yard (2).awlmark")
        self.assertEqual(file.read_job(path).charger.nameplate_a, 24)
        self.assertEqual(file.read_job(self.folder / "yard (2).awlmark").charger.nameplate_a, 32)

    def test_staying_changes_nothing_and_a_file_that_went_is_told(self) -> None:
        window, path = self.saved()
        self.by_another(path)
        self.assertFalse(window.files.save())
        self.assertTrue(window.session.unsaved)
        path.unlink()
        self.answers = ["Save it there again"]
        self.assertTrue(window.files.save())
        self.assertEqual(file.read_job(path).charger.nameplate_a, 32)
        self.assertIn("taken away", self.asked[-1])

    def test_one_file_in_two_windows_is_told(self) -> None:
        path = self.folder / "yard.awlmark"
        file.save_job(demo_job(), path)
        process = self.run_script(
            """
            import sys
            from pathlib import Path
            from awlmark.desk import start
            from awlmark.desk.session import fresh_job
            application = start.make_application()
            window = start.make_window(fresh_job())
            window.files.open(Path(sys.argv[1]))
            print("open", flush=True)
            application.exec()
            """,
            str(path),
        )
        assert process.stdout is not None
        self.assertEqual(process.stdout.readline(), "open\n")
        window = self.open(fresh_job())
        self.assertTrue(window.files.open(path))
        self.assertIn("another window", self.asked[-1])

    def test_a_recovered_job_never_hides_the_one_asked_for(self) -> None:
        first, second = self.folder / "first.awlmark", self.folder / "second.awlmark"
        for path in (first, second):
            file.save_job(demo_job(), path)
            self.orphan(autosave.keep(straight(24, 5), path, autosave.new_document()))
        window = self.open(fresh_job())
        self.answers = ["Ask again later"]
        self.assertFalse(window.files.recover(second))
        self.assertEqual((len(self.asked), window.files.waiting), (1, 1), "only work on the file that was asked for")
        self.answers = ["Open it"]
        self.assertTrue(window.files.recover(second))
        self.assertEqual(window.session.path, second)

    def test_a_rescue_whose_file_was_written_since_asks_before_it_saves(self) -> None:
        path = self.folder / "yard.awlmark"
        copy = autosave.keep(straight(24, 5), path, autosave.new_document())
        self.orphan(copy)
        os.utime(copy, (1, 1))
        file.save_job(demo_job(), path)
        window = self.open(fresh_job())
        self.answers = ["Open it"]
        self.assertTrue(window.files.recover())
        self.assertTrue(window.session.changed_on_disk)

    def test_letting_go_and_then_not_choosing_keeps_the_work(self) -> None:
        window, _path = self.saved()
        self.until(self.autosaves)
        window.files.ask_open = lambda: None  # type: ignore[method-assign]
        self.answers = ["Don't save"]
        window.open_job()
        self.assertEqual(len(self.autosaves()), 1)

    def test_names_are_text_in_every_box(self) -> None:
        window = self.open(demo_job())
        seen: list[object] = []

        def run(box: QMessageBox) -> int:
            seen.append(box.textFormat())
            box.buttons()[0].click()
            return 0

        with mock.patch.object(QMessageBox, "exec", run):
            FileDesk.ask(window.files, "<b>t</b>", "<h1>Licence expired</h1>", ("Go on",))
        self.assertEqual(str(seen[0]).rpartition(".")[2], "PlainText")


class Languages(unittest.TestCase):
    def test_the_window_starts_where_the_capital_of_i_has_a_dot(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            made = (
                subprocess.run(
                    ["localedef", "-i", "tr_TR", "-f", "UTF-8", f"{folder}/tr_TR.UTF-8"],
                    capture_output=True,
                    check=False,
                )
                if Path("/usr/share/i18n/locales/tr_TR").exists()
                else None
            )
            if made is None or not Path(folder, "tr_TR.UTF-8").exists():
                self.skipTest("this machine cannot make the locale")
            script = textwrap.dedent(
                """
                import locale
                locale.setlocale(locale.LC_ALL, "tr_TR.UTF-8")
                from awlmark.desk import start
                window = start.show(True)
                print(window.session.keeper._soon.interval())
                """
            )
            environment = {
                **os.environ, "LC_ALL": "tr_TR.UTF-8", "LOCPATH": folder, "QT_QPA_PLATFORM": OFFSCREEN,
                "XDG_STATE_HOME": folder, "XDG_CONFIG_HOME": folder,
            }  # fmt: skip
            told = subprocess.run(
                [sys.executable, "-c", script], env=environment, capture_output=True, text=True, check=False
            )
        self.assertEqual((told.returncode, told.stdout.strip()), (0, str(AUTOSAVE_MS)), told.stderr)


class Screens(SafeCase):
    def on_screen(self, wide: int, high: int, scale: str = "1") -> dict[str, list[int]]:
        """Where the first window of an Awlmark stands on a screen, and its Entry within it."""
        screen = {"name": "it", "x": 0, "y": 0, "width": wide, "height": high, "logicalDpi": 96, "logicalBaseDpi": 96}
        config = self.folder / f"{wide}.json"
        config.write_text(json.dumps({"screens": [{**screen, "dpr": 1}]}), encoding="utf-8")
        process = self.run_script(
            """
            import json
            from awlmark.data import demo_job
            from awlmark.desk import start
            application = start.make_application()
            window = start.make_window(demo_job())
            window.show()
            for _ in range(8):
                application.processEvents()
            def corners(widget):
                spot = widget.mapToGlobal(widget.rect().topLeft())
                return [spot.x(), spot.y(), spot.x() + widget.width(), spot.y() + widget.height()]
            frame, room = window.frameGeometry(), window.screen().availableGeometry()
            told = {"window": frame.getCoords(), "room": room.getCoords(), "entry": corners(window.entry)}
            print(json.dumps(told | {"drawn": [window.view.widget().width(), window.view.widget().height()]}))
            print(window.width(), window.height())
            window.resize(777, 444)
            window.close()
            """,
            QT_QPA_PLATFORM=f"offscreen:configfile={config}",
            QT_SCALE_FACTOR=scale,
        )
        out, err = process.communicate()
        self.assertEqual(process.returncode, 0, err)
        first, second = out.splitlines()
        told: dict[str, list[int]] = json.loads(first)
        return told | {"size": [int(word) for word in second.split()]}

    def test_the_first_window_and_its_entry_are_on_every_screen(self) -> None:
        for wide, high, scale in ((1366, 768, "1"), (1024, 600, "1"), (1920, 1080, "2"), (1920, 1080, "1")):
            with self.subTest(screen=(wide, high, scale)):
                (self.folder / "awlmark" / "awlmark.ini").unlink(missing_ok=True)
                told = self.on_screen(wide, high, scale)
                for name in ("window", "entry"):
                    left, top, right, bottom = told[name]
                    self.assertGreaterEqual((left, top), tuple(told["room"][:2]))
                    self.assertLessEqual(right, told["room"][2] + 1)
                    self.assertLessEqual(bottom, told["room"][3] + 1)
                self.assertGreaterEqual(told["drawn"], [1120, 560], "drawings are whole, and scroll below the sill")

    def test_size_is_kept_for_the_next_time(self) -> None:
        self.on_screen(1920, 1080)
        self.assertEqual(self.on_screen(1920, 1080)["size"], [777, 444])

    def test_a_focused_drawing_scrolls_into_sight(self) -> None:
        window = self.open(demo_job(), 800, 460)
        for _ in range(len(window._stops())):
            window.next_region()
            self.settle()
            widget = QApplication.focusWidget()
            assert widget is not None
            self.assertFalse(widget.visibleRegion().isEmpty(), widget.accessibleName())


class Homes(SafeCase):
    def test_where_nothing_can_be_written_it_starts_works_and_says_what_is_not_kept(self) -> None:
        script = """
            from PySide6.QtCore import QTimer
            from awlmark.desk import start
            from awlmark.desk.window import Window
            application = start.make_application()
            def work():
                try:
                    hand(next(one for one in application.topLevelWidgets() if isinstance(one, Window)))
                finally:
                    application.quit()
            def hand(window):
                window.entry.line.setText("breaker 70")
                window.entry.line.returnPressed.emit()
                window.take_text_size(110)
                window.session.keeper.keep()
                window.session.keeper._pool.waitForDone()
                application.processEvents()
                print(window.session.job.circuit.breaker_a, window.entry.echo.text(), flush=True)
                window.session.put_away()
                window.session.undo_stack.setClean()
                window.close()
            QTimer.singleShot(0, work)
            print(start.start([], demo=True), flush=True)
            """
        for home in ({"HOME": "/proc"}, {"HOME": ""}):
            gone = {"XDG_STATE_HOME": "", "XDG_CONFIG_HOME": "", "TMPDIR": str(self.folder)}
            out, err = self.run_script(script, **(gone | home)).communicate()
            with self.subTest(home=home):
                self.assertEqual(err, "")
                said, status = out.splitlines()
                self.assertTrue(said.startswith("70.0 "), said)
                self.assertEqual("Can't keep an autosave" in said, home["HOME"] == "/proc", said)
                self.assertEqual(status, "0")


class Cells(SafeCase):
    TEXTS = (
        "", " ", "0", "-1", "1e400", "nan", "x" * 300, "\x07", "=1+1", "<b>x</b>", "]", "a.b[c]", "🙂", "12in",
        "5' 6-1/2", "48a", "20", "240 V", "yes", "no", "open", "60 a 2p", "1/0", "30C", "3/4 emt", "1,5", "Monday",
    )  # fmt: skip

    def test_whatever_is_typed_into_a_cell_is_taken_or_refused_in_words(self) -> None:
        window = self.open(demo_job())
        unforeseen: list[object] = []
        self.addCleanup(setattr, sys, "excepthook", sys.excepthook)
        sys.excepthook = lambda kind, problem, trace: unforeseen.append(problem)
        chance = random.Random(17)
        self.type(window, "spaces 20")
        window.add_car()
        for _ in range(4000 if LONG else 120):
            stage, page = chance.choice(
                (("need", "amps"), ("panel", "amps"), ("panel", "spaces"), ("run", "amps"), ("parts", "amps"))
            )
            window.session.see(stage=stage, page=page)
            if stage == "run" or page == "spaces":
                window.scenes.swap()
            tables = [table for table in window.findChildren(Table) if table.isVisible() and table.rows.rowCount()]
            if not tables:
                continue
            table = chance.choice(tables)
            row, column = chance.randrange(table.rows.rowCount()), chance.randrange(table.rows.columnCount())
            table.type_over(row, column, chance.choice(self.TEXTS))
            self.application.processEvents()
            self.assertEqual(unforeseen, [])
        window.session.keeper._pool.waitForDone()
        self.assertEqual(file.loads(file.dumps(window.session.job)), window.session.job)
