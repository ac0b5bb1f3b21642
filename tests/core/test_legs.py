"""Legs by their number, walls nobody measured, methods that change in a bend, and what a line measures."""

import unittest

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import NOTE, STOP, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import FOOT_M, INCH_M, print_length, read_length
from awlmark.core.report import job_values
from awlmark.core.solve.design import Design, solve
from awlmark.data import demo_job
from tests.support import legs, refused, straight


def typed(job: Job, *entries: str) -> Job:
    for entry in entries:
        job = read_entry(entry, job).job
    return job


def scribed(*readings: tuple[str, float, str]) -> Design:
    return solve(straight(40, 20).with_run(legs=legs(*readings)))


class ByNumber(unittest.TestCase):
    def test_every_word_of_a_leg_goes_to_the_leg_that_is_named(self) -> None:
        # The awl stands on the first leg; the number wins.
        spot = Spot(leg_id="leg-1")
        for entry, field, wanted in (
            ("leg 5 ambient 50C", "ambient_c", 50.0),
            ("leg 5 place buried", "place", "buried"),
            ("leg 5 cover 30in", "cover_m", 30 * INCH_M),
            ("leg 5 surface soil", "surface", "soil"),
            ("leg 5 offset 4in", "offset_m", 4 * INCH_M),
            ("leg 5 box", "end", "box"),
            ("leg 5 stone", "wall", "stone"),
            ("leg 5 rmc", "method", "rmc"),
            ("leg 5 21 6", "length_m", 21.5 * FOOT_M),
            ("leg 5 left", "direction", "left"),
            ("leg 5 up 21 6", "length_m", 21.5 * FOOT_M),
        ):
            with self.subTest(entry=entry):
                after = read_entry(entry, demo_job(), spot).job
                self.assertEqual(getattr(after.legs[4], field), wanted)
                self.assertEqual([leg for leg in after.legs if leg.id != "leg-5"],
                                 [leg for leg in demo_job().legs if leg.id != "leg-5"])  # fmt: skip

    def test_a_place_is_answered_for_all_its_legs_at_once(self) -> None:
        run = legs(("up", 3, "bend"), ("in", 1, "box"), ("up", 2, "bend"), ("right", 9, "charger"))
        job = straight(40, 20).with_run(legs=run)
        job = put(job, Put("legs[leg-3].place", "attic"), Put("legs[leg-4].place", "attic"))
        asked = solve(job).finding("heat")
        assert asked is not None
        self.assertEqual(asked.ask, "attic ")
        answered = typed(job, f"{asked.ask}55C")
        self.assertEqual([leg.ambient_c for leg in answered.legs], [None, None, 55.0, 55.0])
        self.assertEqual([leg.ambient_c for leg in typed(answered, "attic open").legs], [None] * 4)
        with refused(self, "roof"):
            read_entry("roof 60C", job)

    def test_a_leg_is_turned(self) -> None:
        reading = read_entry("leg 2 left 21 6", demo_job())
        self.assertEqual((reading.job.legs[1].direction, reading.says), ("left", "leg 2, 21' 6\", left"))

    def test_what_no_leg_can_be_is_named(self) -> None:
        for entry, told in (
            ("leg 9 box", "1 to 6"), ("leg 2", "leg 2 21 6"), ("leg 2 charger", "last leg"), ("leg 2 sideways", "feet"),
            ("leg 2 place moon", "attic"),
        ):  # fmt: skip
            with self.subTest(entry=entry), self.assertRaises(InputError) as caught:
                read_entry(entry, demo_job())
            self.assertIn(told, f"{caught.exception.problem} {caught.exception.accepted}")

    def test_a_question_begins_its_own_answer(self) -> None:
        job = straight(40, 20).with_run(legs=legs(("up", 3, "bend"), ("in", 1, "box"), ("up", 2, "charger")))
        job = put(job, Put("legs[leg-3].place", "attic"))
        asked = solve(job).finding("heat")
        assert asked is not None
        self.assertEqual(asked.severity, UNREAD)
        answered = solve(typed(job, f"{asked.ask}50C"))
        self.assertNotEqual(answered.finding("heat").severity, UNREAD)


class Walls(unittest.TestCase):
    def test_a_wall_nobody_measured_is_drawn_and_asked_about(self) -> None:
        for entry in ("t", "t 0", "out box"):
            with self.subTest(entry=entry):
                job = typed(straight(40, 20), "open run", entry, "right 5", "k")
                asked = solve(job).finding("thickness:leg-2")
                assert asked is not None
                self.assertEqual((asked.severity, asked.ask), (UNREAD, "leg 2 "))
                told = solve(typed(job, f"{asked.ask}8in"))
                self.assertIsNone(told.finding("thickness:leg-2"))
                self.assertIsNotNone(told.finding("seal:leg-2"))

    def test_a_sheet_of_paper_is_no_wall(self) -> None:
        job = typed(straight(40, 20), "open run", "t 1/8in", "right 5", "k")
        self.assertEqual(solve(job).finding("thickness:leg-2").severity, STOP)  # type: ignore[union-attr]

    def test_other_legs_have_a_length(self) -> None:
        for entry in ("up", "up 0", "d 0"):
            with self.subTest(entry=entry), refused(self, "leg", "leg trench", "leg up"):
                read_entry(entry, straight(40, 20, legs=()))


class Ways(unittest.TestCase):
    def test_pipes_that_change_in_a_bend_want_a_fitting(self) -> None:
        job = straight(40, 20).with_run(legs=legs(("right", 5, "bend"), ("up", 3, "charger")))
        job = put(job, Put("legs[leg-1].method", "pvc40"))
        told = solve(job).finding("changes:leg-1")
        assert told is not None
        self.assertEqual((told.severity, told.at_m), (NOTE, 5 * FOOT_M))
        for fix in told.fixes:
            self.assertIsNone(solve(put(job, *fix.edits)).finding("changes:leg-1"))

    def test_cable_becomes_wire_in_a_box_only(self) -> None:
        job = straight(40, 20).with_run(legs=legs(("right", 5, "bend"), ("up", 3, "charger")))
        job = put(job, Put("legs[leg-1].method", "nm"), Put("legs[leg-2].method", "emt"))
        told = solve(job).finding("changes:leg-1")
        assert told is not None
        self.assertEqual((told.severity, [fix.label for fix in told.fixes]), (STOP, ["Box there"]))
        self.assertIsNone(solve(put(job, *told.fixes[0].edits)).finding("changes:leg-1"))
        self.assertIsNone(solve(demo_job()).finding("changes:leg-3"))

    def test_a_line_meets_itself_where_it_crosses(self) -> None:
        found = scribed(("right", 10, "bend"), ("up", 4, "bend"), ("left", 5, "bend"), ("down", 6, "charger"))
        meets = found.finding("meets:leg-4")
        assert meets is not None
        # 10 + 4 + 5 ft, and 4 ft down to the first leg.
        self.assertAlmostEqual(meets.at_m or 0, 23 * FOOT_M)

    def test_a_trench_wants_a_way_down(self) -> None:
        for readings, severity in (
            ((("up", 3, "body"), ("trench", 20, "charger")), STOP),
            ((("right", 3, "bend"), ("out", 0.7, "body"), ("trench", 20, "charger")), NOTE),
            ((("right", 3, "bend"), ("out", 0.7, "body"), ("down", 6, "bend"), ("trench", 20, "charger")), None),
            ((("out", 0.7, "body"), ("down", 3, "bend"), ("trench", 20, "bend"), ("trench", 9, "charger")), None),
        ):
            with self.subTest(readings=readings):
                told = [finding for finding in scribed(*readings).findings if finding.id.startswith("air:")]
                self.assertEqual([finding.severity for finding in told], [severity] if severity else [])

    def test_lengths_are_told_in_the_units_of_the_job(self) -> None:
        low = scribed(("down", 7, "bend"), ("right", 3, "charger"))
        self.assertIn("2' 0\" below the floor", low.finding("floor:leg-1").text)  # type: ignore[union-attr]
        metric = solve(put(low.job, Put("units", "m")))
        self.assertIn("0.610 m below the floor", metric.finding("floor:leg-1").text)  # type: ignore[union-attr]


class Sun(unittest.TestCase):
    def test_the_sun_heats_plastic_pipe_beyond_the_air(self) -> None:
        # Common practice, from memory: 30 degF on top of the air. 4 ft from -12 to 40 °C, and to 56.7 °C in the sun.
        for sun, inches in ((False, 48 * 3.38e-5 * 52 * 1.8), (True, 48 * 3.38e-5 * (52 * 1.8 + 30))):
            told = solve(put(demo_job(), Put("legs[leg-6].sun", sun))).finding("moves:leg-6")
            assert told is not None
            self.assertAlmostEqual(told.found or 0, inches, places=3)

    def test_cable_in_the_sun_is_marked_for_it(self) -> None:
        job = put(demo_job(), Put("legs[leg-6].sun", True))
        self.assertIsNone(solve(job).finding("sun:leg-6"))
        cable = put(job, Put("legs[leg-6].method", "uf"), Put("legs[leg-5].end", "box"))
        self.assertEqual(solve(cable).finding("sun:leg-6").severity, NOTE)  # type: ignore[union-attr]


class Measured(unittest.TestCase):
    def test_what_the_demos_line_measures(self) -> None:
        found = solve(demo_job())
        # 3 + 22 + 1 1/3 + 5 + 64 + 4 ft; up and down 3 + 5 + 4.
        self.assertAlmostEqual(found.line.length_m, (99 + 1 / 3) * FOOT_M)
        self.assertAlmostEqual(found.line.upright_m, 12 * FOOT_M)
        self.assertEqual({name: round(m / FOOT_M, 3) for name, m in found.line.by_method.items()},
                         {"EMT": 26.333, "PVC 40": 73.0})  # fmt: skip
        # Tails of 4 ft and 18 in, and a loop of 12 in at the body.
        self.assertAlmostEqual(found.wire_m or 0, (99 + 1 / 3 + 4 + 1.5 + 1) * FOOT_M)
        run = job_values(found)["run"]
        self.assertAlmostEqual(run["upright_m"], 12 * FOOT_M, places=3)
        self.assertIsNone(solve(put(demo_job(), Put("charger.nameplate_a", None))).wire_m)

    def test_small_lengths_are_printed_in_inches(self) -> None:
        for inches, text in ((1.25, '1 1/4"'), (0.625, '5/8"'), (8, '8"'), (0, "0' 0\""), (12, "1' 0\""), (-2, '-2"')):
            self.assertEqual(print_length(inches * INCH_M), text)
            if inches > 0:
                self.assertAlmostEqual(read_length(text), inches * INCH_M)


if __name__ == "__main__":
    unittest.main()
