"""The British papers, read back by an independent reader."""

import io
import os
import unittest

from tests.support import OFFSCREEN

os.environ.setdefault("QT_QPA_PLATFORM", OFFSCREEN)

from pypdf import PdfReader

from awlmark.core.entry.read import read_entry
from awlmark.core.job.model import Job
from awlmark.core.solve.design import solve
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.start import make_application
from awlmark.paper.packet import packet_pdf
from tests.desk.support import guide_lines

KEEP = make_application()


def read(job: Job) -> list[str]:
    """The text of every page of a packet, its line breaks as spaces."""
    pages = PdfReader(io.BytesIO(packet_pdf(solve(job)))).pages
    return [" ".join(page.extract_text().split()) for page in pages]


class Papers(unittest.TestCase):
    whole: str

    @classmethod
    def setUpClass(cls) -> None:
        job = demo_job(FOUNDRY)
        for line in guide_lines("guide_bs7671.md"):
            job = read_entry(line, job).job if line.startswith(("read", "torque", "tight", "done", "designer")) else job
        cls.whole = " ".join(read(job))

    def test_certificate_data_and_schedules_hold_what_was_told_and_read(self) -> None:
        whole = self.whole
        after = {name: whole[whole.index(name) :] for name in (
            "For the certificate of a new circuit", "Schedule of inspections", "Schedule of test results",
            "Notice to the distributor", "Set-up record",
        )}  # fmt: skip
        certificate = "For the certificate of a new circuit"
        for name, told in (
            (certificate, "Earthing system TN-C-S (PME)"), (certificate, "Demand with the point 66.6 A a phase"),
            (certificate, "Ze 0.310 Ω Fault current 745.0 A Cut-out fuse 80 A Main switch 100 A"),
            ("Schedule of inspections", "the unit's own functions: d.c. detection, answer to a lost pen"),
            ("Schedule of test results", "Device RCBO B40"),
            ("Schedule of test results", "Most Zs 1.09 ohm; 0.87 cold"),
            ("Schedule of test results", "R1+R2 0.110 Ω"), ("Schedule of test results", "Zs 0.420 Ω"),
            ("Schedule of test results", "Opens at 30 mA 24 ms"), ("Schedule of test results", "Functions all passed"),
            ("Notice to the distributor", "66.6 A a phase: apply to the distributor first."),
            ("Set-up record", "Set current 32 A"),
        ):  # fmt: skip
            with self.subTest(told):
                self.assertIn(told.lower(), after[name].lower())
        # An invented job is never signed as a record.
        self.assertIn("made up, not to be signed", after[certificate])

    def test_list_steps_and_labels(self) -> None:
        for told in ("979.70", "SWA gland kit 20", "Prove dead", "Circuit chart", "VAT"):
            with self.subTest(told):
                self.assertIn(told, self.whole)
