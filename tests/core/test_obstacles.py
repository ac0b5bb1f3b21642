"""What stands on the walls that the line takes, and the ways round it."""

import unittest

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import NOTE
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.in_the_way import on_wall
from awlmark.core.solve.design import Design, solve
from tests.support import legs, straight


def standing(*entries: str, run: tuple[tuple[str, float, str], ...]) -> Job:
    job = straight(40, 20).with_run(legs=legs(*run))
    for entry in entries:
        job = read_entry(entry, job).job
    return job


class Across(unittest.TestCase):
    # The panel's top is 5 ft up; its wall lies along y = 0.
    level = (("right", 20, "charger"),)

    def told(self, job: Job) -> list[str]:
        return [finding.id for finding in solve(job).findings if finding.id.startswith("across:")]

    def gone_round(self, job: Job, number: int) -> Design:
        finding = next(finding for finding in solve(job).findings if finding.id.startswith("across:"))
        after = solve(put(job, *finding.fixes[number].edits))
        self.assertEqual(self.told(after.job), [])
        # What goes round comes back: the line ends where it did.
        for was, now in zip(solve(job).line.legs[-1].end, after.line.legs[-1].end, strict=True):
            self.assertAlmostEqual(was, now)
        return after

    def test_a_level_leg_goes_over_a_door_and_under_a_duct(self) -> None:
        job = standing("door Side 3x6in at 8 0", run=self.level)
        finding = solve(job).finding("across:leg-1")
        assert finding is not None
        self.assertEqual((finding.severity, finding.at_m), (NOTE, 8 * FOOT_M))
        # A door is 6 ft 8 in high: 20 in above the line, and 2 in clear; two legs of 22 in more.
        after = self.gone_round(job, 0)
        self.assertAlmostEqual(after.line.length_m, (20 + 2 * 22 / 12) * FOOT_M)
        duct = standing("other Duct 2x1 at 6 -1 low 4 6 high 6 6", run=self.level)
        labels = [fix.label for fix in solve(duct).finding("across:leg-1").fixes]  # type: ignore[union-attr]
        self.assertEqual(labels[::2], ['Round it, down 8"', "Round it, up 1' 8\""])
        self.assertEqual(labels[1::2], [label + ", with a body" for label in labels[::2]])
        for number in range(2):
            self.gone_round(duct, number)

    def test_what_the_line_misses_is_not_told(self) -> None:
        for entry in (
            "door Side 3x6in at 22 0",  # beyond its end
            "bench Vice 6x2 at 2 -2",  # lower than it
            "other Duct 2x1 at 6 -1 low 7 high 8",  # higher
            "heater Tank 2x2 at 8 -3",  # a foot off the wall
            "other Shelf 2x1 at 6 -9",  # across the room
        ):
            with self.subTest(entry=entry):
                self.assertEqual(self.told(standing(entry, run=self.level)), [])

    def test_inside_the_framing_only_what_stands_in_the_wall_is_in_the_way(self) -> None:
        for entry, inside in (("heater Tank 2x2 at 8 -2 high 6", []), ("door Side 3x6in at 8 -0.25", ["across:leg-1"])):
            with self.subTest(entry=entry):
                job = standing(entry, run=self.level)
                self.assertEqual(self.told(job), ["across:leg-1"])
                self.assertEqual(self.told(put(job, Put("legs[leg-1].mount", "inside"))), inside)

    def test_upright_legs_and_other_walls(self) -> None:
        run = (("right", 10, "corner"), ("right", 6, "bend"), ("up", 4, "charger"))
        # The second wall runs south from the corner, 10 ft east of the panel, seen from the west; the riser stands
        # 6 ft along it and goes from 5 to 9 ft.
        for entry, told in (
            ("other Duct 6inx2 at 9 6in -7 low 7 high 8", ["across:leg-3"]),
            ("door Side 6inx3 at 9 9in -5", ["across:leg-2"]),
            ("door Side 6inx3 at 9 9in -11", []),
        ):
            entry = entry.replace("9 6in", "9.5").replace("9 9in", "9.75")
            with self.subTest(entry=entry):
                self.assertEqual(self.told(standing(entry, run=run)), told)
        aside = self.gone_round(standing("other Duct 6inx2 at 9.5 -7 low 7 high 8", run=run), 0)
        self.assertAlmostEqual(aside.line.length_m, (20 + 2 * 14 / 12) * FOOT_M)

    def test_seen_as_the_walker_sees_them(self) -> None:
        job = standing("heater Tank 2x2 at 4 -3", run=(("right", 10, "corner"), ("right", 6, "charger")))
        first, second = solve(job).line.legs
        (seen,) = on_wall(first, job.site.things)
        self.assertAlmostEqual(seen.left_m, 4 * FOOT_M)
        self.assertAlmostEqual(seen.right_m, 6 * FOOT_M)
        self.assertAlmostEqual(seen.off_m, 1 * FOOT_M)
        self.assertEqual(on_wall(second, job.site.things), [])

    def test_no_way_round_where_the_leg_ends_in_it(self) -> None:
        job = standing("door Side 3x6in at 18 0", run=self.level)
        self.assertEqual(solve(job).finding("across:leg-1").fixes, ())  # type: ignore[union-attr]

    def test_heights_are_typed_or_usual(self) -> None:
        job = standing("door Side 3x6in at 8 0", "other Duct 2x1 at 6 -1 low 7 high 8 6", run=self.level)
        self.assertEqual([(thing.low_m, round(thing.high_m / INCH_M, 3)) for thing in job.site.things],
                         [(0.0, 80.0), (7 * FOOT_M, 102.0)])  # fmt: skip
        with self.assertRaises(InputError) as caught:
            read_entry("other Duct 2x1 at 6 -1 low 8 high 7", job)
        self.assertIn("Duct high", caught.exception.field)


if __name__ == "__main__":
    unittest.main()
