"""The guide: every line of it is typed, every picture stands; the first look round."""

import re
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from awlmark.core.entry.read import read_entry
from awlmark.core.finding import HOLDS
from awlmark.core.job.model import Job
from awlmark.core.solve.design import solve
from awlmark.core.standing import stage_mark
from awlmark.data import demo_job
from awlmark.desk.dialogs.guide import guide_text
from awlmark.desk.session import fresh_job
from awlmark.desk.tour import STOPS
from tests.desk.support import DeskCase

DOCS = Path(__file__).parents[2] / "docs"
STAGES = ("need", "panel", "place", "run", "wire", "parts", "build", "prove")


def lines() -> list[str]:
    """What the guide says to type, in its order; a line with ``# 18 times`` as often."""
    found = []
    for block in re.findall(r"^```\n(.*?)^```", guide_text(), re.MULTILINE | re.DOTALL):
        for line in block.splitlines():
            words, _, note = line.partition("#")
            found += [words.strip()] * (int(note.split()[0]) if note else 1)
    return found


class Guided(DeskCase):
    def typed(self) -> Job:
        job = fresh_job()
        for line in lines():
            if line != "help":
                job = read_entry(line, job).job
        return job

    def test_every_line_reads_and_leads_to_a_signed_sheet(self) -> None:
        job = self.typed()
        design = solve(job)
        self.assertEqual(design.verdict, HOLDS, [one.title for one in design.findings if one.severity != HOLDS])
        self.assertEqual({stage: stage_mark(design, stage) for stage in STAGES}, dict.fromkeys(STAGES, HOLDS))
        self.assertEqual(job.prove.signatures[-1].who, "R. Vale")
        # Its circuit is the one that ships as the demo.
        self.assertAlmostEqual(design.cost, solve(demo_job()).cost, places=2)

    def test_the_first_lines_do_in_the_window_what_they_do_here(self) -> None:
        window = self.open(fresh_job())
        for line in lines()[:40]:
            self.type(window, line)
            self.assertEqual(window.entry.line.text(), "", line)
        self.assertEqual(len(window.session.job.loads), 4)

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
