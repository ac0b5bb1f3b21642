"""Text stays text: on screen, on paper, in cells, calendars and drawings."""

import csv
import io
import random
import re
import unittest
import zipfile
from xml.etree import ElementTree

from msgspec.structs import replace

from awlmark.core.job.edit import Put, put
from awlmark.core.job.site_records import Reading, Signature
from awlmark.core.parts.price_file import write_book
from awlmark.core.plain import cell, printed, shown
from awlmark.core.prove.log import write_log
from awlmark.core.prove.remind import reminders
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.draw.kit.picture import Picture, shorten, text_width, wrap
from awlmark.export import WRITERS

EVIL = "a\x07b\r\nATTENDEE:x <img src=q>&amp;\u202egnp.exe"
"""Bell, line ends, another format's property, markup, a turn of the reading direction."""


class Plain(unittest.TestCase):
    def test_what_cannot_be_seen_is_shown_as_what_it_is_and_left_out_of_paper(self) -> None:
        self.assertEqual(shown("a\x07b\n"), "a\\x07b\\n")
        self.assertEqual(printed("a\x07b\r\nc\u202ed"), "ab cd")
        for text in ("60 A, 2-pole", "3/4 EMT – 16°", "1\u00a0A", ""):
            self.assertEqual((shown(text), printed(text)), (text, text))

    def test_no_cell_is_a_formula(self) -> None:
        for text in ("=1+1", "+1", "-1", "@SUM(A1)", "\t=1", "\r=1", "\x00=1", "\n=1"):
            self.assertRegex(cell(text), r"^'|^ ", repr(text))
        self.assertEqual(cell("wire"), "wire")

    def test_a_screen_shows_and_a_page_leaves_out(self) -> None:
        screen, page = Picture(10, 10), Picture(10, 10, paper=True)
        for picture in (screen, page):
            picture.text(0, 0, "a\x07b")
        self.assertEqual([text.text for text in screen.texts() + page.texts()], ["a\\x07b", "ab"])

    def test_cutting_a_text_is_as_before_and_takes_no_longer_than_the_text(self) -> None:
        def slow(text: str, face: str, size: float, width: float) -> str:
            if text_width(text, face, size) <= width:
                return text
            while text and text_width(text + "…", face, size) > width:
                text = text[:-1]
            return text.rstrip() + "…"

        chance = random.Random(5)
        letters = "AVTo.,y 10′iWmf-€"
        for _ in range(3000):
            text = "".join(chance.choice(letters) for _ in range(chance.randrange(40)))
            at = chance.choice(("text", "bold", "draw")), chance.uniform(8, 30), chance.uniform(0, 300)
            self.assertEqual(shorten(text, *at), slow(text, *at), (text, at))
        self.assertLess(len(shorten("word " * 2_000_000, "text", 13, 200)), 60)

    def test_a_word_too_wide_for_its_line_is_broken(self) -> None:
        lines = wrap("see " + "x" * 400 + " here", "text", 13, 200)
        self.assertTrue(all(text_width(line, "text", 13) <= 200 for line in lines))
        self.assertEqual("".join(lines).replace(" ", ""), "see" + "x" * 400 + "here")


class Leaving(unittest.TestCase):
    """A job whose every name is somebody's trick: what leaves Awlmark reads back as what it is."""

    @classmethod
    def setUpClass(cls) -> None:
        job = demo_job()
        reading = Reading(id="r1", test="=cmd()", value=None, raw="\t=1", who="@x", conditions="\r=2")
        signature = Signature(revision=1, who=EVIL, when="2026-11-03 10:00", digest="x")
        job = put(
            job,
            Put("id", "i-X-EVIL"),
            Put("name", EVIL),
            Put("currency", "\x07$"),
            Put("supply.panel_name", EVIL[:40]),
            Put("price_notes", {"charger:48": "=1"}),
            Put("prove.readings", (reading,)),
            Put("prove.signatures", (signature,)),
            Put("loads", tuple(replace(load, name=EVIL) for load in job.loads)),
            Put("site.areas", tuple(replace(area, name=EVIL) for area in job.site.areas)),
        )
        cls.design = solve(job)

    def test_every_drawing_is_well_formed(self) -> None:
        for name in ("walls.svg", "bends.svg"):
            text = WRITERS[name](self.design)
            assert isinstance(text, str)
            root = ElementTree.fromstring(text)
            self.assertNotIn("img", {element.tag.rpartition("}")[2] for element in root.iter()})

    def test_the_drawing_for_cad_reads_back_with_its_text_in_one_piece(self) -> None:
        import ezdxf

        text = WRITERS["walls.dxf"](self.design)
        assert isinstance(text, str)
        document = ezdxf.read(io.StringIO(text))  # type: ignore[attr-defined]
        told = [entity.dxf.text for entity in document.modelspace().query("TEXT")]
        self.assertTrue(any("ATTENDEE" in line for line in told))
        self.assertFalse(any(re.search(r"[\x00-\x1f]", line) for line in told))

    def test_no_cell_of_a_list_is_a_formula(self) -> None:
        for text in (WRITERS["parts.csv"](self.design), write_book(self.design.job), write_log(self.design)):
            assert isinstance(text, str)
            for row in csv.reader(io.StringIO(text)):
                for one in row:
                    self.assertNotRegex(one, r"^[=+@\t\r]|^-(?!\d)|[\x00-\x08]")

    def test_the_workbook_is_written_and_holds_no_control_characters(self) -> None:
        data = WRITERS["parts.xlsx"](self.design)
        assert isinstance(data, bytes)
        with zipfile.ZipFile(io.BytesIO(data)) as book:
            self.assertNotIn(b"\x07", b"".join(book.read(name) for name in book.namelist()))

    def test_a_calendar_gets_no_line_that_is_not_its_own(self) -> None:
        lines = reminders(self.design.job).replace("\r\n ", "").split("\r\n")
        known = ("BEGIN", "END", "VERSION", "PRODID", "UID", "DTSTAMP", "DTSTART", "SUMMARY", "DESCRIPTION", "RRULE")
        for line in lines[:-1]:
            self.assertIn(re.split("[:;]", line)[0], known)
        self.assertEqual(len([line for line in lines if line.startswith("ATTENDEE")]), 0)
