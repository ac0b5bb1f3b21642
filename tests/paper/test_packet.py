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
from awlmark.core.errors import FileError, InputError
from awlmark.core.finding import HOLDS
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import save_job
from awlmark.core.job.model import Job, Overrule, Seen, new_job
from awlmark.core.names import CAUTION
from awlmark.core.panel.spaces import owner_of
from awlmark.core.prove.at_setting import by_setting
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import Design, settled, solve
from awlmark.data import demo_job
from awlmark.desk.start import make_application
from awlmark.draw.figures.oneline import feeder_words
from awlmark.draw.figures.wall_strip import StripView
from awlmark.draw.kit.palette import LIGHT
from awlmark.draw.stages.panel_view import draw_panel
from awlmark.draw.view_state import Look
from awlmark.paper import WRITERS, write_all
from awlmark.paper.drawings import LABEL, SCALES, best_scale, points_per_m
from awlmark.paper.packet import packet_pages, packet_pdf
from awlmark.paper.pages import A4, LETTER
from tests.support import legs, straight

KEEP = make_application()


def read(job: Job) -> PdfReader:
    """A job's packet, opened."""
    return PdfReader(io.BytesIO(packet_pdf(solve(job))))


def text(job: Job, most: int | None = None) -> list[str]:
    """The text of every page, or of the first few."""
    return [page.extract_text() for page in read(job).pages[:most]]


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
        number = solve(job).findings.index(note) + 1
        self.assertIn(f"{note.title} ({number}): seen by R. Vale", " ".join(text(put(job, Put("seen", seen)), 4)))

    def test_an_overruled_finding_prints_its_reason(self) -> None:
        over = Overrule(finding="breaker", reason="inspector saw it on site")
        job = put(demo_job(), Put("circuit.breaker_a", 50.0), Put("overrules", (over,)))
        self.assertTrue(any("inspector saw it on site" in page for page in said(job)[:2]))

    def test_who_and_where_head_every_sheet(self) -> None:
        job = demo_job()
        for text in ("customer Press house trust", "address 14 Orchard lane", "permit E-0417", "designer R. Vale",
                     "licence EL-204"):  # fmt: skip
            job = read_entry(text, job).job
        pages = said(job)
        for page in pages:
            self.assertIn("Press house trust; 14 Orchard lane; permit E-0417", page)
        self.assertIn("R. Vale, licence EL-204", pages[0])
        self.assertEqual(read_entry("customer none", job).job.papers.customer, "")
        with self.assertRaises(InputError):
            read_entry("permit " + "9" * 60, job)

    def test_paper_goes_by_the_units_unless_it_is_said(self) -> None:
        job = demo_job()
        for paper, units, size in ((None, "ft", LETTER), (None, "m", A4), ("a4", "ft", A4), ("letter", "m", LETTER)):
            told = put(job, Put("units", units), Put("papers.paper", paper))
            page = packet_pages(solve(told))[0]
            self.assertEqual((page.width, page.height), size)
        with self.assertRaises(InputError):
            read_entry("paper a5", job)

    def test_the_printed_schedule_is_the_map(self) -> None:
        design = solve(demo_job())
        page = next(page for page in said(design.job) if "spaces, bus" in page)
        for space in range(1, design.job.dead_front.spaces + 1):
            one = owner_of(design.job.dead_front, space)
            if one is not None:
                self.assertIn(f"{one.rating_a:g} A, {one.poles}-pole, {one.name}", page)
        drawn = draw_panel(design, Look(page="spaces"), 792, 562).hits
        map_says = [hit.says for hit in drawn if hit.id == "new-breaker"]
        self.assertIn("New breaker in 18 and 20: 60 A, 2-pole", map_says[0])
        self.assertIn("60 A, 2-pole, EV charger, new", page)

    def test_what_counts_in_a_pool_is_said_so(self) -> None:
        job = new_job()
        for text in ("48a 60ft emt", "service 200", "1900 sq ft", "load range 8 kw range"):
            job = read_entry(text, job).job
        page = next(page for page in said(job) if "Demand on Service" in page)
        self.assertIn("in the pool", page)
        self.assertNotIn(" 0 kW", page)

    def test_every_open_finding_names_the_number_of_its_sum(self) -> None:
        design = solve(read_entry("breaker 45", demo_job()).job)
        pages = " ".join(said(design.job))
        for number, finding in enumerate(design.findings, 1):
            self.assertIn(f"{number} {finding.title}"[:24], pages)
            if finding.severity != HOLDS:
                self.assertIn(f"{finding.title} ({number})", pages)

    def test_every_word_is_dark_enough_on_paper_in_grey(self) -> None:
        """4.5:1 against white, WCAG 2.1 success criterion 1.4.3; what is only stamped across is pale on purpose."""

        def luminance(colour: str) -> float:
            parts = [int(colour[at : at + 2], 16) / 255 for at in (1, 3, 5)]
            linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
            return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

        for page in packet_pages(solve(read_entry("breaker 45", demo_job()).job)):
            for line in page.texts():
                if line.text != "MADE UP" and line.role != "sheet":
                    self.assertGreaterEqual(1.05 / (luminance(LIGHT[line.role]) + 0.05), 4.5, (line.text, line.role))

    def test_a_feeder_is_told_with_wire_length_and_drop(self) -> None:
        job = new_job()
        for text in ("48a 60ft emt", "service 200", "panel Shed 100a", "feeder Shed 4 cu 80ft", "on Shed",
                     "load lamp 10a"):  # fmt: skip
            job = read_entry(text, job).job
        design = solve(job)
        self.assertEqual(design.buses[-1].name, "Shed")
        words = feeder_words(design, design.buses[-1])
        # Table 8 of Chapter 9: 4 AWG copper, stranded, uncoated, 0.308 ohm a thousand feet.
        volts = 2 * 80 * 0.308 / 1000 * design.buses[-1].sheet.total_va / 240
        self.assertEqual(words, f"4 AWG copper, 80\u2032 0\u2033, {100 * volts / 240:.2f} % drop")
        self.assertTrue(any(words.split(",")[0] in page for page in said(job)))

    def test_legs_carry_their_numbers_on_plan_and_walls(self) -> None:
        design = solve(demo_job())
        page = next(
            page for page in packet_pages(design) if any(line.text.startswith("Plan, 1") for line in page.texts())
        )
        numbers = {line.text for line in page.texts() if line.face == "bold" and line.size == 9 and len(line.text) < 3}
        self.assertEqual(numbers, {f"{walked.number}" for walked in design.line.legs})

    def test_no_heading_stands_alone_at_the_foot_of_a_page(self) -> None:
        for page in packet_pages(solve(demo_job())):
            large = [line for line in page.texts() if line.face == "bold" and line.size >= 13]
            heads = [line for line in large if "holds" not in line.text and line.text != "MADE UP"]
            for head in heads:
                below = [line for line in page.texts() if head.y < line.y < page.height - 66]
                self.assertTrue(below, head.text)

    def test_the_packet_is_short_and_holds_its_test_sheet(self) -> None:
        pages = said(demo_job())
        self.assertLessEqual(len(pages), 14)
        sheet = next(page for page in pages if "counts when all three hold" in page)
        for test in tests_of(solve(demo_job())):
            self.assertIn(test.key, sheet)

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
        page = next(page for page in self.pages if "Held back: power stays off" in page)
        sheet = page.partition("Torque: seat")[2].partition("Labels")[0]
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
        drawn = packet_pages(solve(demo_job()))
        number = next(at for at, page in enumerate(drawn) if any("true size" in text.text for text in page.texts()))
        page = read(demo_job()).pages[number]
        self.assertIn("Labels, at true size", page.extract_text())
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
    def test_the_same_job_gives_the_same_bytes_in_every_process_zone_and_region(self) -> None:
        path = Path(tempfile.mkdtemp()) / "yard.awlmark"
        save_job(demo_job(), path)
        words = [sys.executable, "-m", "awlmark", "export", str(path), "--to", str(path.parent), "--only", "packet.pdf"]
        elsewhere = {"TZ": "Pacific/Kiritimati", "LC_ALL": "de_DE.UTF-8", "LC_PAPER": "de_DE"}
        subprocess.run(words, check=True, capture_output=True, env={**os.environ, **elsewhere})
        made = (path.parent / "packet.pdf").read_bytes(), packet_pdf(solve(demo_job()))
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
