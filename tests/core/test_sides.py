"""Outlet or hardwire, pipe or cable, copper or aluminium: each row is the whole job typed so."""

import unittest

from awlmark.core.build.steps import hours_of
from awlmark.core.entry.read import read_entry
from awlmark.core.finding import RANK
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job, new_job
from awlmark.core.options.side_by_side import CABLE, MIXED, PIPE, sides, wiring_of
from awlmark.core.solve.design import solve
from awlmark.data import demo_job


def typed(*entries: str) -> Job:
    job = new_job()
    for text in entries:
        job = read_entry(text, job).job
    return job


class Sides(unittest.TestCase):
    def test_the_job_stands_first_and_every_other_differs_from_it(self) -> None:
        design = solve(demo_job())
        first, *others = sides(design)
        self.assertTrue(first.here)
        self.assertEqual((first.job, first.price, first.worst), (design.job, design.cost, design.verdict))
        self.assertEqual(len({(side.ends, side.wiring, side.metal) for side in (first, *others)}), 1 + len(others))
        self.assertEqual([RANK[side.worst] for side in others], sorted((RANK[s.worst] for s in others), reverse=True))
        self.assertEqual({side.wiring for side in others}, {PIPE, CABLE})

    def test_a_row_is_what_the_same_words_give(self) -> None:
        job = typed("48a 60ft emt indoor", "service 200")
        rows = {(side.ends, side.wiring, side.metal): side for side in sides(solve(job))}
        for key, words in (
            (("Hardwired, 48 A", PIPE, "aluminium"), ("aluminium",)),
            (("Hardwired, 48 A", CABLE, "copper"), ("nm",)),
            (("Outlet 14-50, 40 A", PIPE, "copper"), ("14-50", "40a")),
        ):
            with self.subTest(key):
                by_hand = job
                for text in words:
                    by_hand = read_entry(text, by_hand).job
                design, row = solve(by_hand), rows[key]
                assert design.circuit is not None
                self.assertAlmostEqual(row.price, design.cost, places=2)
                self.assertAlmostEqual(row.volts, design.circuit.volts - design.circuit.drop_v, places=2)
                self.assertEqual(row.breaker_a, design.circuit.breaker_a)
                self.assertIn(design.circuit.size, row.wires)

    def test_hours_are_those_of_the_quote(self) -> None:
        design = solve(demo_job())
        quoted = sum(hours for _step, hours in hours_of(design))
        self.assertAlmostEqual(sides(design)[0].hours, quoted, delta=0.06 * quoted)

    def test_pins_stay_but_for_what_is_compared(self) -> None:
        job = put(demo_job(), Put("circuit.size", "4"), Put("circuit.breaker_a", 60.0))
        for side in sides(solve(job))[1:]:
            self.assertIsNone(side.job.circuit.size)
        self.assertEqual(sides(solve(put(demo_job(), Put("charger.nameplate_a", None)))), ())

    def test_a_run_of_both_is_compared_with_all_of_each(self) -> None:
        job = typed("32a", "up 3 emt indoor box", "right 20 nm", "charger")
        design = solve(job)
        self.assertEqual(wiring_of(design), MIXED)
        self.assertEqual(wiring_of(solve(next(s.job for s in sides(design) if s.wiring == CABLE))), CABLE)
        self.assertEqual(wiring_of(solve(next(s.job for s in sides(design) if s.wiring == PIPE))), PIPE)


if __name__ == "__main__":
    unittest.main()
