"""A line from storey to storey: words, heights over each floor, what the floor asks, the list."""

import unittest
from math import isclose

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.edit import put
from awlmark.core.job.model import Job, new_job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.storeys import STOREY_M, standings
from awlmark.core.solve.design import Design, solve
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import Look


def line(*entries: str) -> Job:
    job = new_job()
    for text in ("40a", "service 200", *entries):
        job = read_entry(text, job).job
    return job


def floors(design: Design) -> tuple[float, ...]:
    return tuple(floor.level_m for floor in standings(design.line.legs, design.job.site.storeys))


BASEMENT = ("up 2 emt indoor", "right 20", "up through the floor 10in garage", "up 4 garage charger")


class Storeys(unittest.TestCase):
    def test_a_floor_is_passed_the_way_it_is_said_or_the_line_runs(self) -> None:
        level = ("up 2 emt indoor", "right 20")
        for words, heading, wall in (
            ("through floor", 1, "floor"), ("through ceiling", 1, "ceiling"), ("up through the floor", 1, "floor"),
            ("down through floor 12in", -1, "floor"), ("through the slab", 1, "floor"),
            ("through concrete floor 8in", 1, "concrete floor"),
        ):  # fmt: skip
            with self.subTest(words):
                job = line(*level, words)
                rise, passed = job.legs[-2:]
                self.assertEqual((rise.direction, passed.direction), ("up" if heading > 0 else "down", "through"))
                self.assertEqual(passed.wall, wall)
                self.assertEqual(solve(job).line.legs[-1].heading[2], heading)
                self.assertIn(f"legs[{rise.id}].length_m", job.guessed)
                self.assertIn(f"legs[{passed.id}].place", job.guessed)
        # Where it runs upright already nothing is put before it.
        self.assertEqual(len(line("up 3 emt indoor", "through floor 10in").legs), 2)
        self.assertEqual(solve(line("down 2 emt indoor", "through floor 10in")).line.legs[-1].heading[2], -1)
        self.assertEqual(line(*level, "through ceiling").legs[-1].place, None)
        self.assertEqual(solve(line(*level, "through ceiling")).line.end_place, "attic")
        with self.assertRaises(InputError):
            read_entry("through floor", line(*BASEMENT))

    def test_heights_count_from_the_floor_that_a_leg_stands_on(self) -> None:
        design = solve(line(*BASEMENT))
        slab = design.line.legs[3]
        self.assertTrue(isclose(slab.leg.length_m, 10 * INCH_M))
        self.assertEqual(floors(design)[-1], slab.end[2])
        self.assertEqual(floors(design)[:4], (0.0, 0.0, 0.0, 0.0))
        height = design.finding("height")
        assert height is not None
        self.assertIn("4' 0\"", height.text)
        # Down and up again leads back to the floor before; below the panel a storey is taken as eight feet.
        there = line("up 2 emt indoor", "up through floor 10in", "right 9", "down through floor 10in", "down 2")
        self.assertEqual(floors(solve(there))[-1], 0.0)
        below = line("down 2 emt garage", "through floor 10in", "down 1", "right 20")
        levels = floors(solve(below))
        self.assertTrue(isclose(levels[-1], solve(below).line.legs[2].end[2] - STOREY_M, abs_tol=0.5))
        self.assertIsNone(next((one for one in solve(below).findings if one.id.startswith("floor")), None))

    def test_a_storey_has_a_name_and_a_height_of_its_own(self) -> None:
        job = read_entry("storey Basement 7 6", line(*BASEMENT[:2])).job
        self.assertEqual([(one.name, one.number) for one in job.site.storeys], [("Basement", 0)])
        # What goes on rises to the ceiling that is told, from the height the line has.
        through = read_entry("up through the floor 10in garage", job).job
        rise = through.legs[2]
        start = solve(job).line.legs[-1].end[2]
        self.assertTrue(isclose(start + rise.length_m, 7.5 * FOOT_M))
        design = solve(read_entry("up 4 garage charger", through).job)
        self.assertIsNone(design.finding("leg-4-storey"))
        # Told otherwise than it is drawn, either of the two gives way.
        other = read_entry("storey Basement 8", design.job).job
        finding = next(one for one in solve(other).findings if one.title == "Storey")
        self.assertIn("Basement is told as 8' 0\" high; leg 4 passes its ceiling at 7' 6\"", finding.text)
        for fix in finding.fixes:
            mended = solve(put(other, *fix.edits))
            self.assertFalse([one for one in mended.findings if one.title == "Storey"], fix.label)
        above = read_entry("storey 1 Garage 9ft", design.job).job
        self.assertEqual([one.name for one in above.site.storeys], ["Basement", "Garage"])
        said = " ".join(text.text for text in draw_run(solve(above), Look(stage="run"), 900, 600).texts())
        self.assertIn("Basement", said)
        self.assertEqual(read_entry("storey 1 open", above).job.site.storeys, job.site.storeys)
        # The awl says which storey is meant where no number does.
        spot = Spot(leg_id=design.job.legs[-1].id)
        self.assertEqual(read_entry("storey Workshop", design.job, spot).job.site.storeys[1].number, 1)
        for wrong in ("storey", "storey 3ft", "storey +4 Loft", "storey Cellar x 3y"):
            with self.subTest(wrong), self.assertRaises(InputError):
                read_entry(wrong, design.job)

    def test_a_storey_never_stood_on_hangs_by_its_own_height(self) -> None:
        job = line("down 2 emt garage", "through floor 10in", "down 1", "right 20")
        told = read_entry("storey -1 Cellar 7ft", job).job
        here, there = floors(solve(job))[-1], floors(solve(told))[-1]
        self.assertTrue(isclose(there - here, STOREY_M - 7 * FOOT_M))

    def test_only_the_floor_itself_is_asked_about_fire_and_sealed(self) -> None:
        design = solve(line(*BASEMENT))
        asked = [one for one in design.findings if one.title == "Fire wall"]
        self.assertEqual(len(asked), 1)
        self.assertIn("floor or ceiling", asked[0].text)
        sealed = solve(read_entry("leg 4 fire", line(*BASEMENT)).job)
        self.assertTrue(any("fire seal" in part.key for part in sealed.parts))
        self.assertFalse(any("fire seal" in part.key for part in design.parts))

    def test_the_sums_are_those_of_the_same_length_on_one_storey(self) -> None:
        up = solve(line(*BASEMENT))
        flat = solve(line("up 2 emt indoor", "right 20", "up 5 4", "charger"))
        self.assertTrue(isclose(up.line.length_m, flat.line.length_m))
        assert up.circuit is not None and flat.circuit is not None
        self.assertTrue(isclose(up.circuit.drop_percent, flat.circuit.drop_percent, rel_tol=1e-9))
        self.assertEqual((up.circuit.size, up.circuit.breaker_a), (flat.circuit.size, flat.circuit.breaker_a))
        self.assertAlmostEqual(up.line.upright_m / FOOT_M, 2 + 0.5 + 10 / 12 + 4)

    def test_cable_through_a_wooden_floor_wants_a_hole_through_concrete_a_sleeve(self) -> None:
        for floor, sleeve in (("floor 10in", False), ("concrete floor 8in", True)):
            job = line("up 2 nm indoor", "right 20", f"through {floor} garage", "up 4 garage charger")
            parts = [part.key for part in solve(job).parts]
            self.assertEqual(any("wall sleeve" in key for key in parts), sleeve, floor)

    def test_what_hangs_overhead_is_told_over_the_floor_of_its_own_storey(self) -> None:
        """Cable on a garage wall three feet above that floor can be hit, however high above the basement it is."""
        above = line("up 2 emt indoor box", "up through floor 10in garage", "up 3 nm", "right 9", "charger")
        design = solve(read_entry("leg 4 mount surface", above).job)
        level = design.line.legs[-1]
        self.assertGreater(level.start[2], 2.1)
        titles = {one.title for one in design.findings if one.where == level.leg.id}
        self.assertIn("Unprotected cable", titles)
        self.assertNotIn("Open overhead", titles)
