"""The guide: every line of it is typed, every picture stands; the first look round."""

import re
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from awlmark.core.finding import HOLDS
from awlmark.core.solve.design import solve
from awlmark.core.standing import STAGES, stage_mark
from awlmark.data import demo_job
from awlmark.desk.dialogs.guide import guide_text
from awlmark.desk.session import fresh_job
from awlmark.desk.tour import STOPS
from tests.desk.support import DeskCase, guide_lines

DOCS = Path(__file__).parents[2] / "docs"


class Guided(DeskCase):
    def test_every_line_typed_key_by_key_leads_through_every_stage(self) -> None:
        window = self.open(fresh_job())
        self.type_guide(window, guide_lines())
        self.assertEqual(len(window.session.job.loads), 4)
        self.assertEqual(window.session.job.prove.signatures[-1].who, "R. Vale")
        design = window.session.design
        self.assertEqual(design.verdict, HOLDS, [one.title for one in design.findings if one.severity != HOLDS])
        # Its circuit is the one that ships as the demo.
        self.assertAlmostEqual(design.cost, solve(demo_job()).cost, places=2)
        for number, stage in enumerate(STAGES, 1):
            self.key(window.entry.line, Qt.Key(Qt.Key.Key_0 + number), Qt.KeyboardModifier.ControlModifier)
            self.assertEqual((window.session.look.stage, stage_mark(window.session.design, stage)), (stage, HOLDS))

    def test_its_pictures_are_those_of_the_docs_and_are_drawn_in_the_program(self) -> None:
        self.assertEqual((DOCS / "guide.md").read_text(encoding="utf-8"), guide_text())
        named = re.findall(r"!\[.*?\]\((.*?)\)", guide_text())
        self.assertGreater(len(named), 7)
        for name in named:
            self.assertTrue((DOCS / name).is_file(), name)
        window = self.open(demo_job())
        window.show_guide()
        self.settle()
        pages = window._guide.pages
        for name in named:
            image = pages.loadResource(2, name)
            self.assertGreater(image.height(), 100, name)
        window._guide.finds.setText("dashed ring")
        QTest.keyClick(window._guide.finds, Qt.Key.Key_Return)
        self.assertEqual(pages.textCursor().selectedText(), "dashed ring")
        window._guide.close()

    def test_the_look_round_has_at_most_eight_stops_and_is_left_at_any_time(self) -> None:
        self.assertLessEqual(len(STOPS), 8)
        window = self.open(demo_job())
        before = window.session.job
        window.look_round()
        self.settle()
        for number, stop in enumerate(STOPS):
            tour = window._tour
            self.assertEqual(tour.count.text(), f"{number + 1} of {len(STOPS)}")
            self.assertEqual(window.session.look.stage, stop.stage)
            self.assertTrue(window.rect().contains(tour.card.geometry()), number)
            framed = window.places()[stop.region]
            self.assertEqual(tour.frame.size(), framed.size())
            QTest.mouseClick(tour.next, Qt.MouseButton.LeftButton)
            self.settle()
        self.assertIsNone(window._tour)
        window.look_round()
        self.settle()
        QTest.keyClick(window._tour.next, Qt.Key.Key_Escape)
        self.settle()
        self.assertIsNone(window._tour)
        self.assertIs(window.session.job, before)
