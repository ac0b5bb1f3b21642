"""What is read from outside is bounded before it begins, and every trouble is one sentence that names its place."""

import csv
import io
import random
import tempfile
import time
import unittest
import zipfile
from pathlib import Path

import openpyxl

from awlmark.core.books.nec.parts.part_names import item_name
from awlmark.core.errors import AwlmarkError, FileError, InputError
from awlmark.core.job.edit import put
from awlmark.core.panel.meter import read_meter
from awlmark.core.parts.price_file import book_edits, read_book, read_rows, write_book
from awlmark.core.prove.log import load_log, log_edits
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.support import LONG

WIRE = "wire:cu:6:thwn-2"


class Importing(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def write(self, name: str, content: str | bytes) -> Path:
        path = self.folder / name
        path.write_bytes(content.encode() if isinstance(content, str) else content)
        return path

    def workbook(self) -> bytes:
        book = openpyxl.Workbook()
        for row in (["key", "each", "note"], [WIRE, 1.5, "counter"], ["charger:48", 500, ""]):
            book.active.append(row)
        out = io.BytesIO()
        book.save(out)
        return out.getvalue()

    def repacked(self, name: str, change: object) -> bytes:
        """A workbook one of whose members is changed."""
        out = io.BytesIO()
        with (
            zipfile.ZipFile(io.BytesIO(self.workbook())) as old,
            zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new,
        ):
            for member in old.namelist():
                data = old.read(member)
                new.writestr(member, change(data) if member == name else data)  # type: ignore[operator]
        return out.getvalue()


class Workbooks(Importing):
    SHEET = "xl/worksheets/sheet1.xml"

    def test_a_bomb_is_refused_before_it_unpacks(self) -> None:
        cell = b"<row r='4'><c r='A4' t='inlineStr'><is><t>" + b"x" * (80 * 2**20) + b"</t></is></c></row></sheetData>"
        path = self.write("bomb.xlsx", self.repacked(self.SHEET, lambda data: data.replace(b"</sheetData>", cell)))
        self.assertLess(path.stat().st_size, 2**20)
        with self.assertRaisesRegex(FileError, "unpacks to more"):
            read_rows(path)

    def test_stray_cells_far_out_cost_nothing(self) -> None:
        far = b"<row r='900000'><c r='XFD900000'><v>1</v></c></row></sheetData>"
        wide = b"<row r='9'><c r='XFD9'><v>1</v></c></row>" + far
        for stray in (far, wide):
            path = self.write(
                "far.xlsx", self.repacked(self.SHEET, lambda data, put=stray: data.replace(b"</sheetData>", put))
            )
            began = time.process_time()
            try:
                self.assertIn(["key", "each", "note"], [row[:3] for row in read_rows(path)])
            except FileError as told:
                self.assertIn("rows", str(told))
            self.assertLess(time.process_time() - began, 20, "processor seconds; a minute before")

    def test_damaged_ones_are_one_sentence(self) -> None:
        whole = self.workbook()
        changes = (
            lambda data: data[: len(data) // 2],
            lambda data: b"<!DOCTYPE a [<!ENTITY b 'c'>]>" + data,
            lambda data: data.replace(b"<v>1.5</v>", b"<v>one</v>"),
            lambda data: data.replace(b't="n"', b't="s"'),
            lambda data: data.replace(b"<row", b"<raw"),
            lambda data: b"",
        )
        files = [self.repacked(self.SHEET, change) for change in changes]
        files += [self.repacked("xl/workbook.xml", change) for change in changes]
        chance = random.Random(7)
        for _ in range(2000 if LONG else 60):
            broken = bytearray(whole)
            for _ in range(chance.randrange(1, 8)):
                broken[chance.randrange(len(broken))] = chance.randrange(256)
            files.append(bytes(broken))
        for data in files:
            path = self.write("broken.xlsx", data)
            try:
                put(demo_job(), *read_book(path, demo_job()))
            except AwlmarkError as told:
                self.assertLess(len(str(told)), 300)

    def test_a_huge_cell_is_named(self) -> None:
        book = openpyxl.Workbook()
        book.active.append(["key", "each"])
        book.active.append(["k" * 30_000, 1])
        path = self.folder / "cell.xlsx"
        book.save(path)
        with self.assertRaisesRegex(InputError, "cell A2"):
            read_rows(path)


class Tables(Importing):
    def test_size_rows_and_fields_are_bounded_in_no_time(self) -> None:
        book = self.write("big.csv", "key,each\n" + "x" * (5 * 2**20))
        log = self.write("log.csv", "test,value\n" + "x,1\n" * (2**21))
        field = self.write("field.csv", 'test,value\n"' + "x" * 200_000 + '",1\n')
        began = time.process_time()
        for read in (lambda: read_rows(book), lambda: load_log(log), lambda: load_log(field)):
            with self.assertRaises(FileError) as told:
                read()
            self.assertRegex(str(told.exception), "larger|rows|line 2")
        self.assertLess(time.process_time() - began, 20, "processor seconds; more than a minute before")

    def test_no_plain_file_and_no_text(self) -> None:
        for path in (self.folder, Path("/dev/zero"), self.folder / "none.csv", self.write("x.csv", b"\xff\xfe\x00")):
            for read in (read_rows, load_log, read_meter):
                try:
                    read(path)
                except FileError as told:
                    self.assertIn(path.name, str(told))
                else:
                    self.fail(f"{path} was read")

    def test_a_key_that_names_nothing_is_taken_and_goes_out_again(self) -> None:
        odd = (
            "wire:cu:xx:thwn-2",
            "wire:x",
            "wire",
            "cable:nm:zz:6:2",
            "cable",
            "breaker:x",
            "box:",
            "stick:emt",
            "own part",
        )
        text = "key,each\n" + "".join(f"{key},1\n" for key in odd)
        job = put(demo_job(), *read_book(self.write("odd.csv", text), demo_job()))
        for key in odd:
            self.assertTrue(item_name(key))
        rows = list(csv.DictReader(io.StringIO(write_book(job))))
        self.assertLessEqual(set(odd), {row["key"] for row in rows})
        with self.assertRaisesRegex(InputError, "cell A2"):
            read_book(self.write("bad.csv", "key,each\na]b,1\n"), demo_job())

    def test_more_readings_than_a_log_holds_are_refused(self) -> None:
        design = solve(demo_job())
        rows = [["test", "value"], *[["dead 1-2", "0"]] * 6000]
        with self.assertRaisesRegex(InputError, "readings"):
            put(demo_job(), *log_edits(rows, design))
        self.assertEqual(put(demo_job(), *log_edits(rows[:3], design)).prove.readings[1].id, "r2")

    def test_stopping_ends_a_book_between_rows(self) -> None:
        book = openpyxl.Workbook()
        book.active.append(["key", "each"])
        for number in range(1500):
            book.active.append([f"part {number}", 1])
        path = self.folder / "long.xlsx"
        book.save(path)

        def stop(share: float) -> None:
            raise FileError("stopped")

        with self.assertRaisesRegex(FileError, "stopped"):
            read_rows(path, stop)
        self.assertEqual(len(book_edits(read_rows(path), demo_job())[0].value), len(demo_job().prices) + 1500)


class MeterFiles(Importing):
    def espi(self, **changes: str) -> Path:
        head = changes.get("head", '<?xml version="1.0"?>')
        kind = f"<ReadingType><powerOfTenMultiplier>{changes.get('power', '0')}</powerOfTenMultiplier></ReadingType>"
        block = "".join(
            f"<IntervalReading><timePeriod><start>{1735689600 + 900 * n}</start></timePeriod><value>250</value>"
            "</IntervalReading>"
            for n in range(8)
        )
        text = f'{head}<feed xmlns="http://naesb.org/espi">{kind}<IntervalBlock>{block}</IntervalBlock></feed>'
        return self.write("year.xml", text)

    def test_multipliers_and_encodings_that_no_meter_has(self) -> None:
        self.assertAlmostEqual(float(read_meter(self.espi()).kw[0]), 1.0)
        for power in ("400", "inf", "nan", "1e9", "-400"):
            with self.subTest(power), self.assertRaises(FileError):
                read_meter(self.espi(power=power))
        for name in ("x", "hex", "utf-99"):
            with self.subTest(name), self.assertRaises(FileError):
                read_meter(self.espi(head=f'<?xml version="1.0" encoding="{name}"?>'))

    def test_a_file_of_unreadable_rows_and_of_repeated_hours_is_done_in_its_length(self) -> None:
        many = 200_000 if LONG else 40_000
        unread = "time,kWh\n" + "".join(f"{n}th of May,soon\n" for n in range(many))
        twice = "time,kWh\n" + "2025-11-02 01:00,1.5\n" * many + "2025-11-02 02:00,1\n2025-11-02 03:00,1\n"
        began = time.process_time()
        with self.assertRaises(FileError):
            read_meter(self.write("unread.csv", unread))
        self.assertEqual(len(read_meter(self.write("twice.csv", twice)).kw), 3)
        self.assertLess(time.process_time() - began, 30)
