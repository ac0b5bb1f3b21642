"""Cable fished in a finished wall: 334.30(B)(1) and its like, from memory; clamps for its boxes are common practice."""

import unittest

from awlmark.core.build.steps import steps_of
from awlmark.core.entry.read import read_entry
from awlmark.core.finding import HOLDS, STOP
from awlmark.core.job.model import Job, new_job
from awlmark.core.solve.design import solve


def typed(*entries: str) -> Job:
    job = new_job()
    for text in entries:
        job = read_entry(text, job).job
    return job


class Fished(unittest.TestCase):
    def test_it_hangs_free_and_no_nail_bores_or_staple_is_asked_or_bought(self) -> None:
        job = typed("32a 14-50 25ft nm garage finished")
        design = solve(job)
        found = next(one for one in design.findings if one.title == "Fished")
        self.assertEqual((found.severity, found.cite), (HOLDS, "NEC 2023 334.30(B)(1)"))
        keys = [part.key for part in design.parts]
        self.assertFalse([key for key in keys if key.startswith("staple")])
        self.assertIn("old-work support", keys)
        titles = [one.title for one in design.findings]
        # It may pass studs: that is asked, and a bay along them is not.
        self.assertIn("Bored holes", titles)
        for asked in ("Along the framing", "Cable's place", "Unprotected cable"):
            self.assertNotIn(asked, titles)
        self.assertNotIn("fit:leg-1", [step.id for step in steps_of(design)])

    def test_up_a_bay_no_distance_is_asked(self) -> None:
        job = typed("32a", "up 5 nm garage", "charger", "leg 1 mount fished")
        titles = [one.title for one in solve(job).findings]
        self.assertIn("Fished", titles)
        self.assertFalse({"Bored holes", "Along the framing"} & set(titles))

    def test_open_framing_is_stapled_and_bored_as_before(self) -> None:
        design = solve(typed("32a 14-50 25ft nm garage", "mount inside"))
        self.assertIn("Bored holes", [one.title for one in design.findings])
        self.assertNotIn("old-work support", [part.key for part in design.parts])

    def test_rigid_pipe_cannot_be_fished(self) -> None:
        design = solve(typed("48a 60ft emt", "finished wall"))
        found = next(one for one in design.findings if one.title == "Can't be fished")
        self.assertEqual(found.severity, STOP)
        self.assertEqual([fix.label for fix in found.fixes], ["The wall is opened", "NM there"])
        self.assertEqual(solve(typed("48a 60ft ent", "mount fished")).finding("fished:leg-1").severity, HOLDS)  # type: ignore[union-attr]

    def test_boxes_on_a_fished_leg_are_clamped_into_the_wall(self) -> None:
        job = typed("48a", "up 3 nm box", "right 20", "charger", "leg 1 mount fished", "leg 2 mount fished")
        supports = [part.quantity for part in solve(job).parts if part.key == "old-work support"]
        self.assertEqual(supports, [1.0])
