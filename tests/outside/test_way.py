"""The way of the line against printed tables, closed forms and fine sums."""

import itertools
import math
import unittest

from awlmark.core.books import open_book
from awlmark.core.books.nec.printed import printed
from awlmark.core.books.nec.run.cover import least_cover_m
from awlmark.core.books.nec.run.support_table import support
from awlmark.core.parts.sticks import elbow_take_m
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.bend_marks import bend_radius_m, exact_factors, gain_m, mark_offset, outside_m, trade_factors
from awlmark.core.run.expansion import movement_m
from awlmark.core.run.pull_tension import Piece, conductor_weight, pull, wedging
from awlmark.core.run.supports import strap_offsets

BOOK = open_book("nec-2023")
EMT = BOOK.methods["emt"]


class Sources(unittest.TestCase):
    def test_every_table_says_where_it_comes_from(self) -> None:
        for name in ("burial_300_5", "supports", "bender_takeup", "bending_multipliers", "bend_radius_ch9_t2"):
            self.assertTrue(printed(name).source and printed(name).status)


class Tables(unittest.TestCase):
    def test_cover_of_table_300_5(self) -> None:
        # Published: NEC Table 300.5, from memory.
        for surface, buried, metal, plastic in (
            ("soil", 24, 6, 18), ("concrete", 18, 6, 12), ("building", 0, 0, 0), ("slab", 18, 4, 4),
            ("street", 24, 24, 24), ("drive", 18, 18, 18),
        ):  # fmt: skip
            for method, inches in (
                ("uf", buried),
                ("rmc", metal),
                ("imc", metal),
                ("pvc40", plastic),
                ("emt", plastic),
            ):
                with self.subTest(surface=surface, method=method):
                    self.assertAlmostEqual(least_cover_m(BOOK.methods[method], surface) / INCH_M, inches)

    def test_supports_of_articles_334_to_358(self) -> None:
        # Published: NEC 358.30, 344.30, Table 352.30, 334.30, 350.30, from memory.
        for method, size, feet, inches in (
            ("emt", "3/4", 10, 36), ("rmc", "3/4", 10, 36), ("pvc40", "1", 3, 36), ("pvc40", "1-1/4", 5, 36),
            ("pvc80", "3", 6, 36), ("nm", None, 4.5, 12), ("lfmc", "1", 4.5, 12), ("ent", "1", 3, 36),
        ):  # fmt: skip
            between, end, _clause = support(BOOK.methods[method], size)
            self.assertAlmostEqual(between / FOOT_M, feet)
            self.assertAlmostEqual(end / INCH_M, inches)

    def test_straps_never_stand_further_apart_than_allowed(self) -> None:
        for feet in (1, 5, 6.1, 9.9, 22, 64, 300):
            places = [0.0, *strap_offsets(feet * FOOT_M, 10 * FOOT_M, 36 * INCH_M), feet * FOOT_M]
            self.assertLessEqual(places[1], 36 * INCH_M + 1e-9)
            self.assertLessEqual(feet * FOOT_M - places[-2], 36 * INCH_M + 1e-9)
            for one, other in itertools.pairwise(places[1:-1]):
                self.assertLessEqual(other - one, 10 * FOOT_M + 1e-9)

    def test_pvc_moves_as_table_352_44_prints(self) -> None:
        # Published: NEC Table 352.44, inches per 100 ft by change in degF, from memory; printed to a hundredth.
        for fahrenheit, inches in (
            (5, 0.20),
            (25, 1.01),
            (50, 2.03),
            (70, 2.84),
            (100, 4.06),
            (140, 5.68),
            (200, 8.11),
        ):
            moved = movement_m(100 * FOOT_M, fahrenheit / 1.8) / INCH_M
            self.assertAlmostEqual(moved, inches, delta=0.0051)

    def test_25_feet_move_an_inch_over_100_degrees(self) -> None:
        # Common practice, no source.
        self.assertAlmostEqual(movement_m(25 * FOOT_M, 100 / 1.8) / INCH_M, 1.0, delta=0.02)

    def test_radii_of_chapter_9_table_2(self) -> None:
        # Published: NEC Chapter 9 Table 2, from memory.
        for size, one_shot, other in (("1/2", 4, 4), ("3/4", 4.5, 5), ("1", 5.75, 6), ("1-1/4", 7.25, 8)):
            self.assertAlmostEqual(bend_radius_m(EMT, size) / INCH_M, one_shot)
            self.assertAlmostEqual(bend_radius_m(EMT, size, one_shot=False) / INCH_M, other)


class Bending(unittest.TestCase):
    def test_multipliers_are_cosecants_rounded(self) -> None:
        # The trade prints them to a tenth or so: within 4 %; shrink to a sixteenth of an inch, within 0.05.
        for angle in (10, 15, 22.5, 30, 45, 60):
            trades, exact = trade_factors(EMT, angle), exact_factors(angle)
            self.assertAlmostEqual(exact[0], 1 / math.sin(math.radians(angle)))
            self.assertAlmostEqual(exact[1], math.tan(math.radians(angle) / 2))
            self.assertLess(abs(trades[0] - exact[0]) / exact[0], 0.045, angle)
            self.assertLess(abs(trades[1] - exact[1]), 0.08, angle)

    def test_an_exact_offset_closes(self) -> None:
        # Along the sloped piece the pipe rises by the depth, and is longer than its shadow by the shrink.
        for angle in (20.0, 30.0, 45.0, 55.0):
            marked = mark_offset(EMT, "3/4", 2.0, 0.15, angle, exact=True)
            sloped = marked.marks[1].at_m - marked.marks[0].at_m
            self.assertAlmostEqual(sloped * math.sin(math.radians(angle)), 0.15)
            self.assertAlmostEqual(sloped - sloped * math.cos(math.radians(angle)), marked.shrink_m)

    def test_an_elbow_reaches_its_radius_and_its_straight_ends(self) -> None:
        # Common practice: a bought elbow is made to the radius of Table 2 with 1-1/2 to 2 in of straight at each end;
        # from the corner of its centre lines to its end in inches.
        for size, inches in (("1/2", 5.5), ("3/4", 6.0), ("1", 7.625), ("1-1/4", 9.25), ("1-1/2", 10.25), ("2", 11.5)):
            with self.subTest(size=size):
                take, radius = elbow_take_m(EMT, size) / INCH_M, bend_radius_m(EMT, size) / INCH_M
                self.assertAlmostEqual(take, inches)
                # Walked along its centre line in many small chords it is shorter than its two legs by what a right
                # angle saves.
                steps = 20_000
                arc = [
                    (radius * math.sin(at * math.pi / 2 / steps), radius * math.cos(at * math.pi / 2 / steps))
                    for at in range(steps + 1)
                ]
                walked = sum(math.dist(a, b) for a, b in itertools.pairwise(arc)) + 2 * (take - radius)
                self.assertAlmostEqual(2 * take - walked, gain_m(radius, 0.0), places=6)

    def test_gain_of_a_bender_against_geometry(self) -> None:
        # Benders print 2-5/8, 3-1/4, 4 and 5-5/8 in of gain (common practice). Their shoes are rounder than the least
        # radius of Table 2, so geometry at that radius gives less, by an inch at most.
        for size, told in (("1/2", 2.625), ("3/4", 3.25), ("1", 4.0), ("1-1/4", 5.625)):
            least = gain_m(bend_radius_m(EMT, size), outside_m(EMT, size)) / INCH_M
            self.assertLess(least, told)
            self.assertLess(told - least, 1.05)


class Pulling(unittest.TestCase):
    def test_a_bend_is_the_capstan_equation(self) -> None:
        for friction, degrees in ((0.5, 90.0), (0.35, 180.0), (0.2, 45.0)):
            pulled = pull([Piece(0.0, 0.0, degrees, 0.2)], 0.0, friction, start_n=100.0)
            self.assertAlmostEqual(pulled.most_n, 100 * math.exp(friction * math.radians(degrees)))
            self.assertAlmostEqual(pulled.sidewall_n_m, pulled.most_n / 0.2)

    def test_a_bend_against_a_fine_sum(self) -> None:
        # Many small turns, each adding friction times the force that presses the wire onto the bend.
        tension, steps, angle = 100.0, 200_000, math.pi / 2
        for _ in range(steps):
            tension += 0.35 * tension * angle / steps
        exact = pull([Piece(0.0, 0.0, 90.0)], 0.0, 0.35, start_n=100.0).most_n
        self.assertAlmostEqual(tension, exact, delta=1e-3 * exact)

    def test_straights_level_up_and_down(self) -> None:
        level = pull([Piece(10.0)], 5.0, 0.5).most_n
        self.assertAlmostEqual(level, 10 * 5 * 0.5)
        self.assertAlmostEqual(pull([Piece(10.0, 1.0)], 5.0, 0.5).most_n, 50)
        self.assertEqual(pull([Piece(10.0, -1.0)], 5.0, 0.5).most_n, 0)

    def test_weight_of_building_wire(self) -> None:
        # Makers' lists, from memory: 6 AWG copper THHN about 95 lb, 10 AWG about 38 lb per 1000 ft; within 8 %.
        at = BOOK.insulations.index("thwn-2")
        for size, pounds in (("6", 95.0), ("10", 38.0)):
            number = BOOK.size_index(size)
            newtons = conductor_weight(float(BOOK.metal_mm2[number]), float(BOOK.area_mm2[at, number]), "cu")
            self.assertAlmostEqual(newtons * 304.8 / 4.4482, pounds, delta=0.08 * pounds)

    def test_three_wires_wedge_more_in_a_tight_bore(self) -> None:
        self.assertGreater(wedging(0.007, 0.018, 3), wedging(0.007, 0.03, 3))
        self.assertEqual(wedging(0.007, 0.018, 1), 1)
        # Cradled, bore three times the wire: 1 + 4/3 x (1/2)^2.
        self.assertAlmostEqual(wedging(0.01, 0.03, 3), 4 / 3)
