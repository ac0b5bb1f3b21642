"""A metre job is spoken to in metres: what the American book and its goods are named by stays, nothing else."""

import re
import unittest

from awlmark.core.build.steps import steps_of
from awlmark.core.job.edit import Put, put
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.mutants import drawings

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
