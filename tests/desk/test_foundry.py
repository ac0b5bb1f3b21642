"""The bell foundry: typed from an empty tape to the signed schedule, and a British pattern by the mouse alone."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD
from awlmark.core.job.model import Job
from awlmark.core.prove.log import must_tests
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import solve
from awlmark.core.standing import STAGES, stage_mark
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.dialogs.leaving import PrintDialog
from awlmark.desk.session import fresh_job
from tests.desk.support import DeskCase, guide_lines, meter_file

TYPED = (
    "code bs", "name Bell foundry, tail yard", "pme", "ze 0.35", "cut-out 80", "tails 25", "bond water yes", "ways 10",
    "load blower 2.2kw motor", "load lathe 3kw motor", "load lights 0.92kw general", "load mixer 1.84kw motor", "32a",
    "tethered", "maker 40", "pen iv", "up 0.6", "right 3.4", "out 0.35 brick", "right 5.2", "down 2.4",
    "d 5.05 cover 600mm", "up 1", "k", "swa", "leg 6 swa duct", "leg 1 ambient 40C", "leg 2 ambient 40C",
)  # fmt: skip
"""The line from empty, in the order of the tape."""
COSTS = {
    "cable:swa:cu:6:2": 79.00, "gland:bw:20": 4.60, "gland:cw:20": 6.90, "cleat:17": 14.26, "plug and screw": 2.48,
    "rcbo:2:40:B:a30": 41.00, "duct:63": 13.20, "warning tape": 0.96, "wall sleeve": 4.50, "charger:7": 640.00,
    "post": 145.00, "rotary isolator:40": 23.00, "marking sleeve": 0.80, "labels": 4.00,
}  # fmt: skip
"""What each part comes to without tax, invented prices: 979.70 in all [pounds]."""
SCHEDULES = "Certificate data and schedules"


class Foundry(DeskCase):
    def check(self, job: Job) -> None:
        """Every number of the worked example: sums of lines of the tables, worked by hand."""
        design = solve(job)
        made, work = design.circuit, design.evaluated.work
        four, six = design.book.sizes.index("4"), design.book.sizes.index("6")
        self.assertEqual((made.size, made.breaker_a, made.charge_a), ("6", 40.0, 32.0))
        for amps, worked in zip(work.carried.by_section_a[:, six], (49 * 0.87, 46 * 0.90, 49.0), strict=True):
            self.assertAlmostEqual(float(amps), worked, 9)
        self.assertAlmostEqual(float(work.carried.by_section_a[0, four]), 38 * 0.87, 9)
        self.assertAlmostEqual(made.usable_a, 41.4, 9)
        self.assertAlmostEqual(made.drop_v, 7.3 * 32 * 18 / 1000, 9)
        self.assertEqual((round(made.drop_v, 3), round(made.drop_percent, 3)), (4.205, 1.828))
        self.assertEqual(round(made.volts - made.drop_v, 1), 225.8)
        zs, limit = float(work.fault.zs_ohm[design.row]), float(work.fault.limit_ohm[design.row])
        self.assertAlmostEqual(zs, 0.35 + 6.16 * 18 / 1000 * 1.20, 4)
        self.assertEqual((round(zs, 4), round(limit, 2), round(0.8 * limit, 3)), (0.4831, 1.09, 0.872))
        self.assertEqual(round(float(work.fault.adiabatic_mm2[design.row].max()), 2), 1.05)
        bus = design.buses[0]
        amps = tuple(round(value, 2) for value in (bus.others_a, bus.needed_a, bus.rating_a - bus.needed_a))
        self.assertEqual(amps, (34.61, 66.61, 13.39))
        self.assertEqual(design.finding("distributor").severity, NOTE)
        self.assertAlmostEqual(design.line.length_m, 18.0, 9)
        self.assertEqual((round(design.cost, 2), design.unpriced), (979.70, 0))
        self.assertEqual({part.key: round(part.bought.cost, 2) for part in design.parts}, COSTS)
        tests = {test.key: (test.low, test.high) for test in tests_of(design)}
        self.assertEqual(tests["board L-N"], (216.2, 253.0))
        self.assertEqual(tests["RCD 30 mA"], (0.0, 300.0))
        self.assertLess(tests["Ze"][1], 0.36)
        self.assertTrue(tests["R1+R2"][0] < 0.1087 < tests["R1+R2"][1])

    def test_typed_from_empty_every_number_is_the_worked_one(self) -> None:
        window = self.open(fresh_job())
        window.session.see(start=True)
        self.settle()
        for line in TYPED:
            self.type(window, line)
            self.assertEqual(window.entry.line.text(), "", line)
        self.check(window.session.job)
        self.check(demo_job(FOUNDRY))

    def test_the_guide_leads_to_a_signed_schedule_by_the_keyboard_alone(self) -> None:
        lines = guide_lines("guide_bs7671.md")
        self.assertTrue(set(TYPED) <= set(lines), set(TYPED) - set(lines))
        window = self.open(fresh_job())
        self.type_guide(window, lines[:-1])
        self.check(window.session.job)
        self.type(window, lines[-1])
        signed = window.session.design
        self.assertEqual(signed.job.prove.signatures[-1].who, "R. Vale")
        self.assertFalse([one.id for one in signed.findings if one.severity in (STOP, UNREAD)])
        marks = {stage: stage_mark(signed, stage) for stage in STAGES}
        self.assertEqual(marks, dict.fromkeys(STAGES, HOLDS) | {"panel": NOTE})
        self.key(window.entry.line, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
        dialog = window.findChild(PrintDialog)
        dialog.list.setFocus()
        while dialog.list.currentItem().text() != SCHEDULES:
            row = dialog.list.currentRow()
            self.key(dialog.list, Qt.Key.Key_Down)
            self.assertGreater(dialog.list.currentRow(), row)
        self.read_back(dialog, ("0.42", "24 ms", "0.11", "500", "R. Vale", "745"))
        self.key(dialog, Qt.Key.Key_Escape)

    def read_back(self, dialog: PrintDialog, wanted: tuple[str, ...]) -> None:
        """The schedules that the dialog would print."""
        text = "\n".join(text.text for page in dialog.pages() for text in page.texts())
        for words in wanted:
            self.assertIn(words, text)

    def test_a_pattern_goes_to_its_schedule_by_the_mouse_alone(self) -> None:
        """Book, pattern, walk, answers, readings off a tester's file, the print: no key is pressed."""
        window = self.open(fresh_job())
        window.session.see(start=True)
        self.settle()
        for _ in range(5):
            if window.session.job.code == FOUNDRY:
                break
            self.click(window.sheet.region.canvas, "lines-code")
        self.assertEqual(window.session.job.code, FOUNDRY)
        self.click(window.sheet.region.canvas, "way-1")
        while window.session.look.walk:
            self.click(window.loupe.canvas, "walk:keep")
        for _ in range(60):
            hits = {hit.id for hit in window.loupe.canvas.picture.hits}
            if "fix0" not in hits:
                break
            before = window.session.job
            self.click(window.loupe.canvas, "fix0")
            if window.session.job is before:
                break
        self.click(window.sill.canvas, "prove")
        design = window.session.design
        path = self.folder / "readings.csv"
        meter_file(design, path)
        window.files.ask_book = lambda _title, _kinds: path  # type: ignore[attr-defined]
        self.click(window.scenes.drawing.canvas, "take-1")
        self.read(window)
        self.assertEqual(len(window.session.job.prove.readings), len(must_tests(design)))
        window.actions_by_id["print"].trigger()
        self.settle()
        dialog = window.findChild(PrintDialog)
        row = next(row for row in range(dialog.list.count()) if dialog.list.item(row).text() == SCHEDULES)
        where = dialog.list.visualItemRect(dialog.list.item(row)).center()
        QTest.mouseClick(dialog.list.viewport(), Qt.MouseButton.LeftButton, pos=where)
        self.settle()
        self.assertEqual(dialog.list.currentItem().text(), SCHEDULES)
        self.read_back(dialog, ("R1+R2", "Zs", "120 ms"))
        dialog.close()
