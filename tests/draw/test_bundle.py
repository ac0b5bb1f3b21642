"""Long lines stay readable: what is too small to be told apart is drawn together, and the list keeps all of it."""

import itertools
import math
import unittest

from awlmark.core.finding import UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.solve.design import Design, solve
from awlmark.data import demo_job
from awlmark.draw.figures.plan import draw_measures
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.frame.tape import draw_tape, scale_of
from awlmark.draw.kit.bundle import FEW, TINY, WIDE, bent, bundles, width_for_all
from awlmark.draw.kit.picture import Outline, Picture
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import Look
from tests.drawn import given, st
from tests.support import legs

RUN = Look(stage="run")


def long_line(count: int, end: str = "corner") -> Design:
    """A line of many short legs, round many corners or along one wall."""
    rows = [("right", 3, "body"), ("up", 1, end), ("right", 3, "box"), ("down", 1, "body")] * (count // 4)
    rows[-1] = ("down", 1, "charger")
    return solve(demo_job().with_run(legs=legs(*rows)))


LONG = long_line(200)
ALONG_A_WALL = long_line(200, "pull elbow")


class Bundles(unittest.TestCase):
    def test_large_ones_stay_alone_and_small_neighbours_go_together(self) -> None:
        self.assertEqual(bundles([50, 3, 3, 3, 3, 50]), [(0, 1), (1, 5), (5, 6)])
        self.assertEqual(bundles([]), [])

    def test_a_few_small_ones_keep_their_own_marks(self) -> None:
        self.assertEqual(bundles([3.0] * (FEW - 1)), [(at, at + 1) for at in range(FEW - 1)])

    def test_what_must_stand_alone_does(self) -> None:
        self.assertEqual(bundles([2.0] * 6 + [math.inf])[-1], (6, 7))

    @given(st.lists(st.floats(0.0, 40.0), max_size=80))
    def test_each_one_is_in_one_bundle_in_order(self, sizes: list[float]) -> None:
        found = bundles(sizes)
        self.assertEqual([at for first, past in found for at in range(first, past)], list(range(len(sizes))))
        for first, past in found:
            if past - first > 1:
                self.assertTrue(all(size < TINY for size in sizes[first:past]))
                self.assertLess(sum(sizes[first : past - 1]), WIDE)

    def test_a_straight_line_keeps_its_ends_and_a_bend_stays(self) -> None:
        self.assertEqual(bent([(0, 0), (1, 0), (2, 0), (5, 0)]), [(0, 0), (5, 0)])
        self.assertEqual(bent([(0, 0), (4, 0), (4, 3), (4, 9)]), [(0, 0), (4, 0), (4, 9)])
        self.assertEqual(bent([(0, 0), (10, 0), (5, 0)]), [(0, 0), (10, 0), (5, 0)])
        self.assertEqual(bent([(1, 2)]), [(1, 2)])
        self.assertEqual(bent([]), [])

    @given(st.lists(st.tuples(st.floats(0, 300), st.floats(0, 60)), min_size=2, max_size=40))
    def test_a_line_without_its_unseen_bends_keeps_its_extent(self, points: list[tuple[float, float]]) -> None:
        kept = bent(points)
        self.assertEqual((kept[0], kept[-1]), (points[0], points[-1]))
        for axis in (0, 1):
            for end in (min, max):
                self.assertAlmostEqual(end(at[axis] for at in kept), end(at[axis] for at in points), delta=2.0)

    def test_at_the_width_for_all_nothing_is_put_together(self) -> None:
        lengths = [walked.leg.length_m for walked in LONG.line.legs]
        width = width_for_all(lengths, 1280)
        self.assertGreater(width, 1280)
        self.assertEqual(len(draw_tape(LONG, RUN, width).hits), len(draw_tape(LONG, RUN, 4 * width).hits))
        self.assertEqual(width_for_all([], 1280), 1280)


class LongLines(unittest.TestCase):
    def test_the_demo_draws_every_mark_by_itself(self) -> None:
        design = solve(demo_job())
        hits = {hit.id for hit in draw_tape(design, RUN, 1280).hits}
        self.assertLessEqual({walked.leg.id for walked in design.line.legs}, hits)

    def test_marks_of_a_long_tape_keep_their_distance_and_show_the_worst(self) -> None:
        picture = draw_tape(LONG, RUN, 1280)
        marks = [hit for hit in picture.hits if hit.act.startswith("awl:")]
        self.assertLess(len(marks), 60)
        middles = sorted(hit.x + hit.w / 2 for hit in marks)
        self.assertGreater(min(b - a for a, b in itertools.pairwise(middles[1:-1])), TINY)
        self.assertTrue(any(" marks from " in hit.says for hit in marks))
        # Wire thin enough that no pull box asks for its length.
        plain = put(LONG.job, Put("circuit.max_drop_percent", 20.0))
        self.assertFalse([finding for finding in solve(plain).findings if finding.severity == UNREAD])
        guessed = solve(put(plain, Put("guessed", (f"legs[{LONG.line.legs[98].leg.id}].length_m",))))
        unread = [
            hit for hit in draw_tape(guessed, RUN, 1280).hits if " marks from " in hit.says and "Unread" in hit.says
        ]
        self.assertEqual([hit.id for hit in unread], [LONG.line.legs[98].leg.id])

    def test_the_list_of_a_long_tape_and_lane_has_every_leg_and_stretch(self) -> None:
        width = width_for_all([walked.leg.length_m for walked in LONG.line.legs], 1280)
        told = [says for says, _act in draw_tape(LONG, RUN, width).answers()]
        self.assertGreaterEqual(len(told), len(LONG.line.legs))
        self.assertFalse(any(" marks from " in says for says in told))
        turns = [says for says, _act in draw_lane(LONG, RUN, width).answers()]
        self.assertEqual(len(turns), len(LONG.line.stretches))

    def test_the_lane_tells_the_worst_of_stretches_it_puts_together(self) -> None:
        picture = draw_lane(LONG, RUN, 1280)
        together = [hit.says for hit in picture.hits if " stretches, at most " in hit.says]
        self.assertTrue(together)
        self.assertTrue(any("at most 90 degrees" in says for says in together))
        texts = [text.text for text in picture.texts()]
        self.assertLessEqual(sum(text.startswith("pull ") for text in texts), 3)

    def test_walls_of_a_long_line_answer_in_bundles_that_hold_all_legs(self) -> None:
        for design in (LONG, ALONG_A_WALL):
            picture = draw_run(design, RUN, 792, 562)
            self.assertLess(len(picture.shapes), 400)
            self.assertEqual(set(picture.leg_scale), {walked.leg.id for walked in design.line.legs})
            spans = [hit.says for hit in picture.hits if hit.says.startswith("Legs ")]
            self.assertTrue(spans)
            held = sum(int(says.split()[3].rstrip(":")) - int(says.split()[1]) + 1 for says in spans)
            alone = sum(1 for hit in picture.hits if hit.says.startswith("Leg "))
            self.assertGreaterEqual(held + alone, len(design.line.legs))

    def test_a_crowded_line_is_drawn_in_one_and_a_crowded_room_named_once(self) -> None:
        picture = draw_run(LONG, RUN, 792, 562)
        self.assertLess(sum(isinstance(shape, Outline) for shape in picture.shapes), 6)
        names = [text.text for text in picture.texts()]
        self.assertEqual(names.count("Indoors"), 1)
        # Another room is another wall, however narrow.
        far = LONG.line.legs[120].leg.id
        garage = solve(put(LONG.job, Put(f"legs[{far}].place", "garage")))
        names = [text.text for text in draw_run(garage, RUN, 792, 562).texts()]
        self.assertEqual((names.count("Indoors"), names.count("Garage")), (1, 1))

    def test_some_dozens_of_legs_are_drawn_as_one_line_too(self) -> None:
        dozens, hundreds = (draw_run(long_line(count), RUN, 792, 562) for count in (48, 200))
        words = Picture(792, 562)
        draw_measures(words, long_line(48), 500)
        self.assertLess(len(dozens.shapes) - len(words.shapes), 220)
        self.assertLess(len(hundreds.shapes), len(dozens.shapes))
        self.assertEqual([text.text for text in dozens.texts()].count("Indoors"), 1)

    def test_the_pull_of_crowded_stretches_is_the_hardest_of_them(self) -> None:
        picture = draw_lane(LONG, RUN, 1280)
        thin = [shape for shape in picture.shapes if isinstance(shape, Outline) and shape.role == "edge"]
        top = min(y for shape in thin for _x, y in shape.points)
        hard = scale_of(LONG, 1280).x(max(LONG.pulls, key=lambda one: one.pull.peak[1]).peak[0])
        there = [
            min(y, y2)
            for shape in thin
            for (x, y), (x2, y2) in itertools.pairwise(((shape.x, shape.y), *shape.points))
            if x - 1e-6 <= hard <= x2 + 1e-6
        ]
        self.assertAlmostEqual(min(there), top)

    def test_shapes_do_not_grow_with_the_legs_past_what_can_be_told_apart(self) -> None:
        for draw in (lambda d: draw_tape(d, RUN, 1280), lambda d: draw_lane(d, RUN, 1280)):
            few, many = (len(draw(long_line(count)).shapes) for count in (100, 200))
            self.assertLess(many, 1.6 * few)
