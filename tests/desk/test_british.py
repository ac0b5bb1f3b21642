"""The window with a British job: every stage, the list twins, the whole-job table; another book as one undo step."""

from PySide6.QtCore import Qt

from awlmark.data import demo_job
from tests.core import test_bs_job
from tests.core.test_bs_job import CODE, yard
from tests.desk.support import DeskCase

STAGES = ("need", "panel", "place", "run", "wire", "parts", "build", "prove")


class British(DeskCase):
    def test_every_stage_stands(self) -> None:
        for job, wrong in ((test_bs_job.SupplyStage().typed("limit 60"), set()), (yard(system="400"), {"pme"})):
            window = self.open(job)
            for stage in STAGES:
                window.session.see(stage=stage)
                self.settle()
            self.assertEqual(window.session.design.book.key, CODE)
            self.assertEqual({finding.id for finding in window.session.design.stops}, wrong)

    def test_another_book_is_asked_first_and_taken_back_in_one_step(self) -> None:
        window = self.open(demo_job())
        before = window.session.job
        self.type(window, "code bs")
        self.settle()
        self.assertEqual(window.session.job.code, before.code)
        self.assertIn("code bs open", window.entry.echo.text())
        self.type(window, " open")  # what was refused stays, to be gone on with
        self.settle()
        self.assertEqual(window.session.job.code, CODE)
        for stage in STAGES:
            window.session.see(stage=stage)
            self.settle()
        window.session.undo()
        self.assertEqual(window.session.job, before)

    def test_the_yard_is_typed_in_the_window(self) -> None:
        window = self.open(yard())
        for words in ("ze 0.8", "device c40", "neighbours 2", "rcd ac", "pen none"):
            self.type(window, words)
        self.settle()
        told = {finding.id for finding in window.session.design.stops}
        self.assertTrue({"rcd", "pme"} <= told, told)
        self.key(window.entry, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.job.charger.pen, "iv")
