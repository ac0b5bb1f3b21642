"""The packet read back by an independent reader: its text, its page boxes, its labels measured."""

from __future__ import annotations

import io
import os
import subprocess
import sys
import tempfile
import unittest
from itertools import pairwise
from pathlib import Path
from typing import Any
from unittest import mock

from tests.support import OFFSCREEN

os.environ.setdefault("QT_QPA_PLATFORM", OFFSCREEN)

from pypdf import PdfReader
from pypdf.generic import ContentStream

from awlmark.core.build.torque import dials_of
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import FileError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import save_job
from awlmark.core.job.model import Job, Overrule, Seen
from awlmark.core.names import CAUTION
from awlmark.core.prove.at_setting import by_setting
from awlmark.core.solve.design import Design, settled, solve
from awlmark.data import demo_job
from awlmark.desk.start import make_application
from awlmark.draw.figures.wall_strip import StripView
from awlmark.paper import WRITERS, write_all
from awlmark.paper.drawings import LABEL, SCALES, best_scale, points_per_m
from awlmark.paper.packet import packet_pages, packet_pdf
from tests.support import legs, straight

KEEP = make_application()


def read(job: Job) -> PdfReader:
    """A job's packet, opened."""
    return PdfReader(io.BytesIO(packet_pdf(solve(job))))


def text(job: Job) -> list[str]:
    """The text of every page."""
    return [page.extract_text() for page in read(job).pages]


def said(job: Job) -> list[str]:
    """What every page says, before it is a PDF: reading one back takes seconds, and the demo's is read."""
    return [" ".join(" ".join(line.text for line in page.texts()).split()) for page in packet_pages(solve(job))]


class Reading(unittest.TestCase):
    pages: list[str]

    @classmethod
    def setUpClass(cls) -> None:
        cls.pages = text(demo_job())

    def test_every_page_carries_its_frame(self) -> None:
        for number, page in enumerate(self.pages, 1):
            self.assertIn(f"page {number} of {len(self.pages)}", page)
            self.assertIn("Cider yard, north bay", page)
            self.assertIn(CAUTION[:60], page)
            self.assertIn("4 in, or the print is not true", page)
            self.assertNotIn("LINE BROKEN", page)

    def test_every_sheet_is_there(self) -> None:
        whole = "\n".join(self.pages)
        for title in (
            "Circuit for an electric-vehicle charger", "One-line diagram", "Panel schedule and demand",
            "The sums, with their reasons", "Plan and walls", "List, by aisle", "Cut list", "Labels, at true size",
            "Quote",
        ):  # fmt: skip
            self.assertIn(title, whole)

    def test_the_cover_tells_verdict_edition_and_circuit(self) -> None:
        for told in ("Holds by NEC 2023", "60 A, 2-pole", "2 x 6 AWG copper", "235.3 V at the charger", "$1,288.84"):
            self.assertIn(told, self.pages[0])

    def test_every_line_of_the_list_and_every_finding_is_on_paper(self) -> None:
        design, whole = solve(demo_job()), " ".join("\n".join(self.pages).split())
        for part in design.parts:
            self.assertIn(part.name.split(",")[0], whole)
        for finding in design.findings:
            self.assertIn(finding.cite.split(";")[-1].strip()[:20], whole)

    def test_a_broken_line_is_told_on_every_page(self) -> None:
        job = put(demo_job(), Put("circuit.breaker_a", 50.0))
        for page in said(job):
            self.assertIn("LINE BROKEN", page)
        self.assertIn("not to be built", said(job)[0])

    def test_a_note_that_was_seen_prints_by_whom(self) -> None:
        job = read_entry("breaker 45", demo_job()).job
        note = next(one for one in solve(job).findings if one.severity == "note")
        seen = (Seen(finding=note.id, text=note.text, by="R. Vale"),)
        self.assertIn(f"{note.title}: seen by R. Vale", " ".join(text(put(job, Put("seen", seen)))))

    def test_an_overruled_finding_prints_its_reason(self) -> None:
        over = Overrule(finding="breaker", reason="inspector saw it on site")
        job = put(demo_job(), Put("circuit.breaker_a", 50.0), Put("overrules", (over,)))
        self.assertIn("inspector saw it on site", said(job)[0])

    def test_an_empty_tape_still_makes_a_packet(self) -> None:
        for job, asked in (
            (put(demo_job(), Put("legs", ())), "line"),
            (straight(None, 20), "How many amps does the charger draw?"),
        ):
            pages = said(job)
            self.assertIn(asked, pages[0])
            self.assertFalse([page for page in pages if "Steps for the electrician" in page or "Cut plan" in page])

    def test_only_the_energise_sheet_waits_for_a_torque(self) -> None:
        job = demo_job()
        sheet = next(page for page in self.pages if "Energise" in page.split("page")[0][:400])
        self.assertIn("Held back: power stays off", sheet)
        self.assertIn("charger G", sheet)
        self.assertNotIn("Power back", sheet)
        for other in ("Steps", "Labels, at true size", "One-line diagram"):
            self.assertTrue(any(other in page for page in self.pages), other)
        reasoned = "".join(said(read_entry("energise maker gives none", job).job))
        self.assertIn("Reason: maker gives none", reasoned)
        self.assertNotIn("power stays off", reasoned)
        for dial in dials_of(solve(job)):
            job = read_entry(f"torque {dial.id} 40 in-lb", job).job
        told = "".join(said(job))
        self.assertIn("Every torque is read.", told)
        self.assertIn("Energised by", told)

    def test_the_test_sheet_tells_what_each_setting_shows(self) -> None:
        job = read_entry("read dead 1-2 0 V", demo_job()).job
        sheet = next(page for page in said(job) if "At each setting" in page)
        for at in by_setting(solve(job)):
            self.assertIn(f"{at.amps:.1f} A", sheet)
            self.assertIn(f"{at.kw:.2f} kW", sheet)

    def test_bends_by_hand_have_their_sheet(self) -> None:
        job = put(demo_job(), Put("legs[leg-1].bend", "hand"))
        self.assertTrue(any("from its end toward the panel" in page.replace("’", "'") for page in said(job)))

    def test_control_characters_are_left_out(self) -> None:
        told = "".join(said(put(demo_job(), Put("name", "a\x07b\r\nATTENDEE:x \u202eexe"))))
        self.assertIn("ATTENDEE", told)
        self.assertNotRegex(told, "[\x07\u202e]")


class Measuring(unittest.TestCase):
    def strokes(self, page: Any) -> list[tuple[float, float, float, float]]:
        """Straight strokes of a page in points, worked out from its content stream."""
        found, matrix, stack = [], (1.0, 0.0, 0.0, 1.0, 0.0, 0.0), []
        at = (0.0, 0.0)
        for operands, operator in ContentStream(page["/Contents"].get_object(), page.pdf).operations:
            if operator == b"q":
                stack.append(matrix)
            elif operator == b"Q":
                matrix = stack.pop()
            elif operator == b"cm":
                a, b, c, d, e, f = (float(value) for value in operands)
                m = matrix
                matrix = (
                    a * m[0] + b * m[2], a * m[1] + b * m[3], c * m[0] + d * m[2], c * m[1] + d * m[3],
                    e * m[0] + f * m[2] + m[4], e * m[1] + f * m[3] + m[5],
                )  # fmt: skip
            elif operator in (b"m", b"l"):
                x, y = (float(value) for value in operands)
                there = matrix[0] * x + matrix[2] * y + matrix[4], matrix[1] * x + matrix[3] * y + matrix[5]
                if operator == b"l":
                    found.append((*at, *there))
                at = there
        return found

    def test_labels_and_the_check_bar_are_true_to_size(self) -> None:
        reader = read(demo_job())
        page = next(page for page in reader.pages if "Labels, at true size" in page.extract_text())
        lengths = [max(abs(x2 - x), abs(y2 - y)) for x, y, x2, y2 in self.strokes(page)]
        for wanted in (*LABEL, 288.0):
            # 3 in by 1 in, and the bar of 4 in at the foot, within a hundredth of an inch.
            self.assertTrue(any(abs(length - wanted) < 0.72 for length in lengths), wanted)

    def test_page_boxes(self) -> None:
        self.assertEqual([float(side) for side in read(demo_job()).pages[0].mediabox], [0, 0, 612, 792])
        metric = read(put(demo_job(), Put("units", "m")))
        self.assertEqual([float(side) for side in metric.pages[0].mediabox], [0, 0, 595, 842])
        self.assertIn("100 mm, or the print is not true", metric.pages[0].extract_text())

    def test_walls_stand_at_the_scale_that_is_printed(self) -> None:
        drawn: list[tuple[float, float]] = []
        before = StripView.draw

        def watched(view: StripView) -> None:
            drawn.append((view.scale, view.strip.width_m))
            before(view)

        with mock.patch.object(StripView, "draw", watched):
            packet_pages(solve(demo_job()))
        self.assertTrue(drawn)
        for scale, _wide in drawn:
            self.assertIn(round(72000 / 25.4 / scale, 6), SCALES)
        self.assertEqual(best_scale(10.0, 500.0), 75)
        self.assertAlmostEqual(points_per_m(100), 28.346, places=3)

    def test_words_keep_within_the_margins(self) -> None:
        for picture in packet_pages(solve(demo_job())):
            for shape in picture.texts():
                self.assertGreater(shape.left, 20)
                self.assertLess(shape.left, picture.width - 20)
                self.assertLess(shape.y, picture.height - 10)

    def test_rows_of_text_do_not_cross(self) -> None:
        for picture in packet_pages(solve(demo_job())):
            lines = sorted({round(shape.y, 1) for shape in picture.texts() if shape.left < 60})
            self.assertFalse([pair for pair in pairwise(lines) if 0.5 < pair[1] - pair[0] < 7.5])


class Writing(unittest.TestCase):
    def test_the_same_job_gives_the_same_bytes_in_every_process(self) -> None:
        path = Path(tempfile.mkdtemp()) / "yard.awlmark"
        save_job(demo_job(), path)
        made = []
        for number in range(2):
            target = path.parent / str(number)
            command = [
                sys.executable,
                "-m",
                "awlmark",
                "export",
                str(path),
                "--to",
                str(target),
                "--only",
                "packet.pdf",
            ]
            subprocess.run(command, check=True, capture_output=True)
            made.append((target / "packet.pdf").read_bytes())
        self.assertEqual(made[0], made[1])
        self.assertLess(len(made[0]), 400_000)

    def test_papers_wait_for_the_exact_cuts(self) -> None:
        feet = (5, 5, 4, 3.4, 3.3, 3.2, 2.5, 2.4, 6.6, 1.9)
        run = legs(*(("right", length, "box") for length in feet[:-1]), ("right", feet[-1], "charger"))
        job = put(straight(48, 20), Put("legs", run))
        done = settled(solve(job))
        sticks = next(part for part in done.parts if part.key.startswith("stick"))
        self.assertEqual(sticks.quantity, sum(len(done.sticks(section)) for section in done.line.sections))

    def test_nothing_half_written_where_the_disk_refuses(self) -> None:
        design: Design = solve(demo_job())
        folder = Path(tempfile.mkdtemp())
        (folder / "taken").write_text("a file", encoding="utf-8")
        with self.assertRaises(FileError):
            write_all(design, folder / "taken", ("parts.csv",))
        target = folder / "out"
        full = mock.patch("os.replace", side_effect=OSError(28, "No space left on device"))
        with full, self.assertRaisesRegex(FileError, "the disk is full"):
            write_all(design, target, ("parts.csv",))
        self.assertEqual([path.name for path in target.iterdir()], [])
        heard: list[str] = []
        write_all(design, target, tuple(WRITERS), heard.append)
        self.assertEqual(heard, list(WRITERS))
        self.assertEqual({path.name for path in target.iterdir()}, set(WRITERS))
