"""A metre job is spoken to in metres: what the American book and its goods are named by stays, nothing else."""

import math
import re
import unittest

from awlmark.core.build.steps import steps_of
from awlmark.core.job.edit import Put, put
from awlmark.core.parts.price_file import book_edits
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.mutants import drawings
from tests.support import refused

IMPERIAL = re.compile(r"\b(\d+(\.\d+)? ?(in|ft|lbf|yd)|lbf|feet|foot|inches|\d+ by \d+ in)\b|°F|\d\"|\d' \d|\d[″′]")
BOOKS_OWN = re.compile(r"\(\d+ lbf-in\)|stick, 10 ft|PVC 40 in|PVC 80 in|bag of 50 lb|4 in, or the print")
"""Label torques as labels print them, behind newton metres; sticks as they are sold; a pipe ``in`` a metal."""


class Metres(unittest.TestCase):
    def left(self, text: str) -> bool:
        return bool(IMPERIAL.search(BOOKS_OWN.sub("", text)))

    def test_no_sentence_of_a_metre_job_speaks_in_feet_inches_or_pounds(self) -> None:
        design = solve(put(demo_job(), Put("units", "m")))
        said = [f"{f.title} {f.text} {' '.join(f.sums)}" for f in design.findings]
        said += [fix.label for finding in design.findings for fix in finding.fixes]
        said += [f"{step.title} {step.text}" for step in steps_of(design)]
        for picture in drawings(design):
            said += [text.text for text in picture.texts()] + [sentence for sentence, _act in picture.answers()]
        self.assertGreater(len(said), 500)
        self.assertEqual(sorted({text for text in said if self.left(text)}), [])

    def test_the_foot_job_does(self) -> None:
        self.assertTrue(any(self.left(finding.text) for finding in solve(demo_job()).findings))

    def test_what_is_sold_by_length_is_bought_in_metres(self) -> None:
        feet, metres = solve(demo_job()), solve(put(demo_job(), Put("units", "m")))
        kinds = {part.key.partition(":")[0] for part in feet.parts if part.unit == "ft"}
        self.assertLessEqual({"wire", "pull string", "warning ribbon"}, kinds)
        long = {part.key: part for part in metres.parts if part.unit == "m"}
        self.assertEqual({key.partition(":")[0] for key in long}, kinds)
        self.assertFalse([part.key for part in metres.parts if part.unit == "ft"])
        for part in feet.parts:
            if part.unit == "ft":
                self.assertEqual(long[part.key].quantity, math.ceil(part.quantity * FOOT_M - 0.3048))
        # A whole metre is at most 2.3 ft more than what is needed, a whole foot 1.
        self.assertLess(abs(metres.cost / feet.cost - 1), 0.02)
        hours = [sum(step.hours for step in steps_of(design)) for design in (feet, metres)]
        self.assertLess(abs(hours[1] / hours[0] - 1), 0.02)

    def test_prices_coils_hours_and_stock_go_along_and_come_back(self) -> None:
        wire = "wire:cu:6:thwn-2"
        entered = {
            f"prices[{wire}]": "0.79", f"prices[{wire}@500]": "60.00", "prices[screw@100]": "9", "hours[wire]": "0.01",
            "hours[box]": "0.4", f"stock[{wire}]": "106", "stock[screw]": "12", f"delivered[{wire}]": "50",
            f"price_notes[{wire}@500]": "Tuesday",
        }  # fmt: skip
        job = put(demo_job(), *(Put(path, value) for path, value in entered.items()))
        there = put(job, Put("units", "m"))
        self.assertEqual(there.prices[wire], "2.591864")
        self.assertEqual(there.prices[f"{wire}@152.4"], "60.00")
        self.assertEqual((there.prices["screw@100"], there.stock["screw"], there.hours["box"]), ("9", "12", "0.4"))
        self.assertAlmostEqual(float(there.stock[wire]), 106 * FOOT_M, places=5)
        self.assertEqual(there.price_notes[f"{wire}@152.4"], "Tuesday")
        self.assertEqual(put(there, Put("units", "ft")), job)
        self.assertIs(put(job, Put("units", "ft")).prices, job.prices)
        bought = {part.key: part for part in solve(put(there, Put("stock", {}))).parts}[wire].bought
        self.assertEqual(dict(bought.packs).get(152.4), 1)

    def test_a_price_book_in_the_other_unit_is_refused_by_its_cell(self) -> None:
        rows = [["key", "each", "unit"], ["wire:cu:6:thwn-2", "0.79", "ft"], ["screw", "0.2", "each"]]
        self.assertTrue(book_edits(rows, demo_job()))
        with refused(self, "cell C2"):
            book_edits(rows, put(demo_job(), Put("units", "m")))
