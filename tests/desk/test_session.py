"""What the session does later, behind the window's back, and only once."""

import gc
import os
import subprocess
import sys
import textwrap
import threading
from unittest import mock

from PySide6.QtCore import QTimer

from awlmark.core.job.edit import Put, put
from awlmark.core.options.fixes import fork, fork_ways
from awlmark.core.parts.cutting import plan_of
from awlmark.data import demo_job
from awlmark.desk.session import MOST_PENCILS, Session
from awlmark.desk.start import settled
from tests.desk.support import DeskCase

LONG = Put("legs[leg-2].length_m", 7.31)


class Later(DeskCase):
    def prices(self, window) -> list[str]:  # type: ignore[no-untyped-def]
        """What the ways to end the line are told to cost."""
        return [hit.says for hit in window.scenes.drawing.canvas.picture.hits if hit.id.startswith("fork-")]

    def test_ways_to_end_the_line_show_at_once_and_their_prices_follow(self) -> None:
        window = self.open(demo_job())
        # However long the painting takes, the prices come when the test lets them.
        window.pricing.setInterval(10**6)
        window.session.see(stage="place")
        self.application.processEvents()
        first = self.prices(window)
        self.assertEqual(len(first), 1 + len(window.session.design.book.goods.forks))
        self.assertTrue(all("price to come" in says for says in first), first)
        self.settle()
        priced = self.prices(window)
        self.assertTrue(all("leaves" in says for says in priced), priced)
        self.assertIn("as it is", priced[0])
        window.session.apply("longer", put(window.session.job, LONG))
        self.application.processEvents()
        self.assertTrue(all("price to come" in says for says in self.prices(window)))
        self.settle()
        self.assertTrue(all("leaves" in says for says in self.prices(window)))

    def test_a_way_taken_before_its_price_came_is_the_way_that_was_drawn(self) -> None:
        window = self.open(demo_job())
        window.pricing.setInterval(10**6)
        window.session.see(stage="place")
        self.application.processEvents()
        self.assertEqual(window.session.trials.forks(window.session.design), ())
        window.acts.do("fork:1")
        self.assertEqual(window.session.job.charger.connection, window.session.design.book.goods.forks[0])

    def test_ways_and_their_prices_stand_in_one_order(self) -> None:
        design = Session(demo_job()).design
        self.assertEqual([quote.fix for quote in fork(design)], list(fork_ways(design)))
        for quote in fork(design):
            self.assertEqual(quote.job.charger.connection, quote.fix.edits[0].value)
        self.assertEqual(fork_ways(Session(put(demo_job(), Put("charger.nameplate_a", None))).design), ())

    def test_garbage_is_collected_when_the_hand_rests_and_on_the_windows_own_thread(self) -> None:
        window = self.open(demo_job())
        looks: list[threading.Thread] = []

        def seen(phase: str, _info: dict[str, int]) -> None:
            if phase == "stop":
                looks.append(threading.current_thread())

        assert window.tidying is not None
        for timer in self.application.findChildren(QTimer):
            # Other windows of this run have theirs; and no machine is so slow that an edit lasts a minute.
            timer.setInterval(60_000)
        gc.callbacks.append(seen)
        self.addCleanup(gc.callbacks.remove, seen)
        for number in range(25):
            window.session.apply("longer", put(demo_job(), Put("legs[leg-2].length_m", 7 + number / 100)))
            self.application.processEvents()
        self.assertEqual(looks, [])
        self.ring(window.tidying)
        self.assertEqual(looks, [threading.main_thread()])
        self.assertFalse(gc.isenabled())

    def test_what_start_up_made_is_looked_at_no_more(self) -> None:
        self.open(demo_job())
        self.addCleanup(gc.unfreeze)
        settled()
        self.assertGreater(gc.get_freeze_count(), 10_000)

    def test_quick_edits_start_one_search_when_the_hand_rests(self) -> None:
        window = self.open(demo_job())
        session = window.session
        session._cuts_soon.setInterval(60_000)
        session.see(stage="parts")
        self.ring(session._cuts_soon)
        session._workers.waitForDone()
        self.settle()
        with mock.patch.object(session, "behind", wraps=session.behind) as behind:
            open_one = None
            for number in range(6):
                session.apply("edit", put(session.job, Put("legs[leg-2].length_m", 5.03 + 0.11 * number)))
                self.application.processEvents()
                plans = [
                    plan_of(session.design.pieces(section), section.method.stick_m)
                    for section in session.design.line.sections
                ]
                open_one = any(not plan.proved and not plan.rounds for plan in plans)
                self.assertEqual(behind.call_count, 0)
            self.ring(session._cuts_soon)
            self.assertEqual(behind.call_count, int(bool(open_one)))

    def test_nothing_is_searched_once_the_window_is_put_away(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="parts")
        self.application.processEvents()
        window.session.put_away()
        session = window.session
        for timer in (session._cuts_soon, session._warm_soon, session.keeper._soon):
            self.assertFalse(timer.isActive())

    def test_a_typed_price_that_is_refused_leaves_the_old_one_standing(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="parts")
        self.settle()
        table = window.scenes.parts
        row = next(row for row, key in enumerate(table.keys) if key and table.text(row, 3))
        before = table.text(row, 3)
        table.type_over(row, 3, "twelve")
        self.settle()
        self.assertEqual(table.text(row, 3), before)
        table.type_over(row, 3, "1.44")
        self.settle()
        self.assertEqual(table.text(row, 3), "1.44")
        window.session.undo()
        self.settle()
        self.assertEqual(table.text(row, 3), before)

    def test_pencils_keep_the_last_few_and_flip(self) -> None:
        session = Session(demo_job())
        names = []
        for number in range(MOST_PENCILS + 2):
            session.apply("edit", put(session.job, Put("legs[leg-2].length_m", 5.0 + number)))
            names.append(session.keep_pencil())
        self.assertEqual(len(session.pencils), MOST_PENCILS)
        self.assertEqual(len({name for name, _job, _design in session.pencils}), MOST_PENCILS)
        pen, kept = session.job, session.pencils[0][1]
        session.flip(0)
        self.assertEqual((session.job, session.pencils[0][1]), (kept, pen))
        session.undo()
        self.assertEqual(session.job, pen)
        session.rub_pencils()
        self.assertEqual(session.pencils, [])


class Start(DeskCase):
    def test_the_desk_starts_without_what_later_stages_need(self) -> None:
        script = textwrap.dedent(
            """
            import sys
            from awlmark.desk.start import show
            from PySide6.QtWidgets import QApplication
            window = show(True)
            for _ in range(5):
                QApplication.instance().processEvents()
            late = ("scipy", "ezdxf", "openpyxl", "defusedxml", "awlmark.paper", "awlmark.export",
                    "awlmark.core.options.compare", "awlmark.core.prove.thermal", "awlmark.draw.stages.build_view",
                    "awlmark.draw.stages.prove_view")
            print([name for name in late if name in sys.modules])
            window.session.put_away()
            """
        )
        environment = {**os.environ, "XDG_STATE_HOME": str(self.folder), "XDG_CONFIG_HOME": str(self.folder)}
        command = [sys.executable, "-c", script]
        done = subprocess.run(command, capture_output=True, text=True, check=True, env=environment)
        self.assertEqual(done.stdout.splitlines()[-1], "[]")
