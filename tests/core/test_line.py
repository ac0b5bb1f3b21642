"""Walking the legs; bends, supports; counting and cutting."""

import itertools
import math
import unittest

from awlmark.core.books.nec.edition import STICK_M
from awlmark.core.books.nec.run.support_table import support
from awlmark.core.finding import HOLDS, STOP
from awlmark.core.job.edit import Put, put
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.parts.cutting import cut
from awlmark.core.parts.sticks import KERF_M, Piece
from awlmark.core.quantities import FOOT_M
from awlmark.core.run.supports import strap_offsets
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, st
from tests.support import legs, straight


def walked(*readings):  # type: ignore[no-untyped-def]
    """Line of a job with the given legs."""
    return solve(straight(48, 10).with_run(legs=legs(*readings))).line


class Walking(unittest.TestCase):
    def test_the_demos_line(self) -> None:
        made = solve(demo_job())
        line = made.line
        self.assertAlmostEqual(line.length_m, (3 + 22 + 16 / 12 + 5 + 64 + 4) * FOOT_M)
        self.assertEqual([round(stretch.bends_deg) for stretch in line.stretches], [90, 180])
        self.assertEqual([section.method.key for section in line.sections], ["emt", "pvc40"])
        self.assertEqual([leg.place for leg in line.legs], ["indoor"] * 3 + ["outdoor", "buried", "outdoor"])
        end = line.legs[-1].end
        self.assertAlmostEqual(end[0], (22 + 16 / 12 + 64) * FOOT_M)
        self.assertAlmostEqual(end[2] - made.job.supply.panel_top_m, 2 * FOOT_M)
        self.assertEqual(made.verdict, HOLDS)

    def test_left_and_right_are_as_you_face_the_wall(self) -> None:
        inside = walked(("right", 4, "corner"), ("right", 3, "charger"))
        self.assertAlmostEqual(inside.legs[-1].end[1], -3 * FOOT_M)
        self.assertAlmostEqual(inside.legs[0].turn_deg, 90)
        left = walked(("left", 4, "corner"), ("left", 3, "charger"))
        self.assertAlmostEqual(left.legs[-1].end[0], -4 * FOOT_M)
        self.assertAlmostEqual(left.legs[-1].end[1], -3 * FOOT_M)

    def test_out_turns_the_walker_round(self) -> None:
        line = walked(("up", 1, "bend"), ("out", 1, "body"), ("right", 5, "charger"))
        self.assertEqual([leg.place for leg in line.legs], ["indoor", "indoor", "outdoor"])
        self.assertAlmostEqual(line.legs[-1].end[0], -5 * FOOT_M)

    def test_through_and_trench_keep_the_heading(self) -> None:
        line = walked(
            ("left", 2, "bend"),
            ("through", 1, "body"),
            ("down", 2, "bend"),
            ("trench", 9, "bend"),
            ("up", 1, "charger"),
        )
        self.assertAlmostEqual(line.legs[-1].end[0], -12 * FOOT_M)
        self.assertEqual(line.legs[3].place, "buried")
        ceiling = walked(("up", 3, "bend"), ("through", 1, "bend"), ("right", 5, "charger"))
        self.assertEqual(ceiling.legs[-1].place, "attic")

    def test_what_the_walker_cannot_do_is_still_drawn(self) -> None:
        for readings in (
            (("up", 2, "bend"), ("down", 2, "charger")),
            (("trench", 3, "charger"),),
            (("in", 1, "charger"),),
        ):
            self.assertTrue(walked(*readings).closed)


class Bends(unittest.TestCase):
    ZIGZAG = tuple((("up", "right")[n % 2], 3.0, "bend") for n in range(5))

    def test_more_than_360_stops_and_a_pull_point_mends(self) -> None:
        exact = straight(48, 10).with_run(legs=legs(*self.ZIGZAG[:4], ("up", 3, "charger")))
        self.assertEqual(solve(exact).finding("bends:1").severity, HOLDS)
        made = solve(straight(48, 10).with_run(legs=legs(*self.ZIGZAG, ("right", 3, "charger"))))
        finding = made.finding("bends:1")
        self.assertEqual((finding.severity, finding.found, finding.where), (STOP, 450, "leg-5"))
        for quote in quote_fixes(made, finding):
            self.assertEqual(solve(quote.job).stops, (), quote.fix.label)

    def test_a_body_turns_the_line_without_a_bend(self) -> None:
        line = walked(("up", 3, "body"), ("right", 3, "charger"))
        self.assertEqual(line.bends_deg, 0)

    def test_cable_has_no_bend_limit(self) -> None:
        job = straight(32, 10).with_run(legs=legs(*self.ZIGZAG, ("right", 3, "charger")))
        job = put(job, *(Put(f"legs[{leg.id}].method", "nm") for leg in job.legs))
        self.assertIsNone(solve(job).finding("bends:1"))


class Supports(unittest.TestCase):
    def test_spacing_of_the_table(self) -> None:
        methods = solve(straight()).book.methods
        for method, trade, feet, inches in (
            ("emt", "3/4", 10, 36),
            ("pvc40", "1", 3, 36),
            ("pvc40", "1-1/4", 5, 36),
            ("nm", None, 4.5, 12),
        ):
            between, from_end, _clause = support(methods[method], trade)
            self.assertAlmostEqual(between, feet * FOOT_M)
            self.assertAlmostEqual(from_end, inches * FOOT_M / 12)

    @given(st.floats(0.05, 60), st.floats(0.5, 4), st.floats(0.2, 1))
    def test_straps_keep_their_distances_with_the_fewest(self, length: float, between: float, from_end: float) -> None:
        spots = strap_offsets(length, between, from_end)
        self.assertLessEqual(spots[0], from_end + 1e-9)
        self.assertLessEqual(length - spots[-1], from_end + 1e-9)
        for one, other in itertools.pairwise(spots):
            self.assertLessEqual(other - one, between + 1e-9)
        if length > 2 * from_end:
            self.assertGreater(length - 2 * from_end, (len(spots) - 2) * between - 1e-6)


class Counting(unittest.TestCase):
    def counts(self, **edits):  # type: ignore[no-untyped-def]
        made = solve(put(demo_job(), *(Put(path, value) for path, value in edits.items())))
        return {
            part.key + (":" + part.name.rsplit(", ", 1)[-1] if part.key.startswith("wire") else ""): part.quantity
            for part in made.parts
        }

    def test_the_demos_list_by_hand(self) -> None:
        counts = self.counts()
        # 99' 4" + 4 ft at the panel + 1 ft loop at the body + 1.5 ft at the unit = 105' 10": 106 ft each.
        for colour in ("black", "red"):
            self.assertEqual(counts[f"wire:cu:6:thwn-2:{colour}"], 106)
        self.assertEqual(counts["wire:cu:10:thwn-2:green"], 106)
        # EMT: an elbow takes 4.5 + 1.5 in of each leg and the body 1 in: 30 in; then straight on through the wall,
        # 264 + 16 - 6 - 1 = 273 in, two sticks and 33 in: four pieces from three sticks; with the elbow four joints.
        self.assertEqual(counts["stick:emt:3/4"], 3)
        self.assertEqual(counts["elbow:emt:3/4"], 1)
        self.assertEqual(counts["coupling:emt:3/4"], 4)
        self.assertEqual(counts["connector:emt:3/4"], 2)
        # PVC: 60 - 7 = 53 in; 768 - 12 = 756 in, six sticks and 36 in; 48 - 6 = 42 in: nine pieces from eight
        # sticks, two sweeps, ten joints, six of them belled.
        self.assertEqual(counts["stick:pvc40:3/4"], 8)
        self.assertEqual(counts["elbow:pvc40:3/4"], 2)
        self.assertEqual(counts["coupling:pvc40:3/4"], 4)
        self.assertEqual(counts["body:emt:3/4"], 1)
        self.assertEqual((counts["breaker:2:60"], counts["charger:48"]), (1, 1))
        self.assertNotIn("reducer", counts)

    def test_uneven_pipes_want_a_reducer_and_receptacles_their_box(self) -> None:
        self.assertEqual(self.counts(**{"legs[leg-4].trade_size": "1"})["reducer"], 1)
        plugged = self.counts(**{"charger.connection": "14-50", "charger.nameplate_a": 32.0})
        self.assertEqual((plugged["receptacle:14-50"], plugged["breaker:2:40:gfci"]), (1, 1))
        self.assertEqual(plugged["wire:cu:8:thwn-2:white"], 106)

    def test_cable_is_bought_whole(self) -> None:
        made = solve(straight(32, 40, method="nm"))
        keys = {part.key: part.quantity for part in made.parts}
        self.assertEqual(keys["cable:nm:cu:8:2"], 46)
        self.assertEqual(keys["clamp:nm"], 2)
        self.assertNotIn("stick:emt:1/2", keys)

    def test_every_line_has_a_name_and_a_mark(self) -> None:
        for part in solve(demo_job()).parts:
            self.assertTrue(part.name and part.where and part.quantity > 0)
            self.assertNotIn(":", part.name)

    @given(st.lists(st.integers(1, 120), min_size=1, max_size=25))
    def test_cuts_use_every_piece_once_and_no_stick_too_long(self, inches: list[int]) -> None:
        pieces = [Piece(f"leg-{n}", 0.0, value * 0.0254) for n, value in enumerate(inches)]
        sticks = cut(pieces, STICK_M)
        self.assertEqual(sorted(p.leg_id for s in sticks for p in s.pieces), sorted(p.leg_id for p in pieces))
        for stick in sticks:
            used = sum(piece.length_m for piece in stick.pieces)
            self.assertLessEqual(used, STICK_M + 1e-9)
            self.assertLessEqual(abs(used + stick.left_m - STICK_M), KERF_M * len(stick.pieces) + 1e-9)
        self.assertGreaterEqual(len(sticks), math.ceil(sum(inches) / 120 - 1e-9))
