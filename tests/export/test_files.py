"""Exports read back by the libraries that others would open them with."""

import io
import itertools
import math
import os
import subprocess
import sys
import unittest
import zipfile

import ezdxf
import openpyxl
from ezdxf import recover

from awlmark.core.job.edit import Put, put
from awlmark.core.parts.takeoff import shop_lines
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.draw.figures.oneline import one_line_boxes
from awlmark.export import WRITERS
from awlmark.export.dxf import LAYERS, walls_dxf
from awlmark.export.xlsx import parts_xlsx


class Steady(unittest.TestCase):
    def test_every_process_writes_the_same_bytes(self) -> None:
        script = (
            "import hashlib; from awlmark.core.solve.design import solve; from awlmark.data import demo_job; "
            "from awlmark.export import WRITERS; made = solve(demo_job()); "
            "print([(n, hashlib.sha256(t if isinstance(t, bytes) else t.encode()).hexdigest()) "
            "for n, w in WRITERS.items() for t in [w(made)]])"
        )
        told = set()
        # Two seeds under which the order of a set of names differs, and a third.
        for seed in ("1", "4", "9"):
            environment = {**os.environ, "PYTHONHASHSEED": seed}
            words = [sys.executable, "-c", script]
            told.add(subprocess.run(words, env=environment, capture_output=True, text=True, check=True).stdout)
        self.assertEqual(len(told), 1)


class Spreadsheet(unittest.TestCase):
    def test_numbers_are_numbers_and_totals_formulas(self) -> None:
        design = solve(demo_job())
        sheet = openpyxl.load_workbook(io.BytesIO(parts_xlsx(design))).active
        self.assertEqual(sheet.freeze_panes, "A2")
        self.assertEqual([cell.value for cell in sheet[1]][:5], ["Item", "Qty", "Unit", "Each", "Total"])
        total = 0.0
        lines = shop_lines(design.parts, design.job.prices)
        for row, line in enumerate(lines, 2):
            self.assertEqual(sheet.cell(row, 1).value, line.name)
            self.assertEqual(sheet.cell(row, 2).value, line.count)
            self.assertEqual(sheet.cell(row, 5).value, f"=ROUND(B{row}*D{row},2)")
            total += round(sheet.cell(row, 2).value * sheet.cell(row, 4).value, 2)
        self.assertAlmostEqual(total, design.cost, places=2)
        last = len(lines) + 1
        self.assertEqual(sheet.cell(last + 1, 5).value, f"=SUM(E2:E{last})")

    def test_text_that_looks_like_a_formula_stays_text(self) -> None:
        design = solve(put(demo_job(), Put("currency", "=1+1")))
        cell = openpyxl.load_workbook(io.BytesIO(parts_xlsx(design))).active.cell(2, 6)
        self.assertEqual((cell.value, cell.data_type), ("=1+1", "s"))

    def test_an_unread_price_leaves_its_cells_empty(self) -> None:
        design = solve(put(demo_job(), Put("prices", {})))
        sheet = openpyxl.load_workbook(io.BytesIO(parts_xlsx(design))).active
        self.assertIsNone(sheet.cell(2, 4).value)
        self.assertIn("without a price", sheet.cell(len(design.parts) + 2, 1).value)

    def test_the_same_job_gives_the_same_bytes(self) -> None:
        one, other = (parts_xlsx(solve(demo_job())) for _ in range(2))
        self.assertEqual(one, other)
        with zipfile.ZipFile(io.BytesIO(one)) as archive:
            self.assertEqual({info.date_time[0] for info in archive.infolist()}, {2026})


class Drawing(unittest.TestCase):
    def read(self, text: str) -> ezdxf.document.Drawing:
        document, auditor = recover.read(io.BytesIO(text.encode("utf-8")))
        self.assertFalse(auditor.has_errors, auditor.errors)
        self.assertFalse(auditor.has_fixes, auditor.fixes)
        return document

    def test_it_opens_clean_with_layers_named_by_trade(self) -> None:
        document = self.read(walls_dxf(solve(demo_job())))
        self.assertTrue(set(LAYERS) <= {layer.dxf.name for layer in document.layers})
        used = {entity.dxf.layer for entity in document.modelspace()}
        self.assertTrue({"RACEWAY", "TRENCH", "STRAP", "PANEL", "CHARGER", "WALL", "DIMENSION", "ONE-LINE"} <= used)

    def test_the_line_is_at_true_scale_in_plan_and_walls(self) -> None:
        for units, per_metre in (("ft", 1 / 0.0254), ("m", 1.0)):
            design = solve(put(demo_job(), Put("units", units)))
            document = self.read(walls_dxf(design))
            self.assertEqual(document.units, 1 if units == "ft" else 6)
            drawn = sum(
                math.dist(line.dxf.start, line.dxf.end)
                for line in document.modelspace().query("LINE")
                if line.dxf.layer in ("RACEWAY", "TRENCH", "CABLE")
            )
            level = sum(walked.leg.length_m for walked in design.line.legs if walked.heading[2] == 0)
            # Every leg once on its wall, every level one again in the plan.
            self.assertAlmostEqual(drawn, (design.line.length_m + level) * per_metre, places=3)

    def test_the_one_line_names_every_box_from_service_to_charger_and_joins_them(self) -> None:
        design = solve(demo_job())
        boxes = one_line_boxes(design)
        space = self.read(walls_dxf(design)).modelspace()
        frames = [line for line in space.query("LWPOLYLINE") if line.dxf.layer == "ONE-LINE"]
        joints = [line for line in space.query("LINE") if line.dxf.layer == "ONE-LINE"]
        self.assertEqual((len(frames), len(joints)), (len(boxes), len(boxes) - 1))
        letters = {text.dxf.text for text in space.query("TEXT")}
        for name, lines in boxes:
            self.assertLessEqual({name, *lines}, letters)
        spans = sorted((max(y for _x, y, *_rest in frame), min(y for _x, y, *_rest in frame)) for frame in frames)
        for (top, _low), (_top, low) in itertools.pairwise(spans):
            self.assertLess(top, low, "boxes stand apart")
        right = max(x for frame in frames for x, *_rest in frame)
        walls = [x for line in space.query("LINE") if line.dxf.layer == "RACEWAY" for x in (line.dxf.start.x,)]
        self.assertLess(right, min(walls))

    def test_the_same_job_gives_the_same_bytes(self) -> None:
        self.assertEqual(walls_dxf(solve(demo_job())), walls_dxf(solve(demo_job())))

    def test_an_empty_tape_and_a_long_one_are_written_too(self) -> None:
        self.read(walls_dxf(solve(put(demo_job(), Put("legs", ())))))
        self.read(walls_dxf(solve(put(demo_job(), Put("legs[leg-5].length_m", 190.0)))))


class Every(unittest.TestCase):
    def test_every_writer_is_stable(self) -> None:
        for name, write in WRITERS.items():
            with self.subTest(name):
                self.assertEqual(write(solve(demo_job())), write(solve(demo_job())))
