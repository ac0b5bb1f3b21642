"""What differs between two drawings."""

import unittest

from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.draw.kit.picture import Box, Disc, Outline, Picture, Segment, Shape, Sweep, Text, Tiles
from awlmark.draw.kit.repaint_areas import LARGE, MOST, bounds, damage, meets
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import STAGE_NAMES, Look
from tests.drawn import given, st


def drawing(*shapes: Shape, width: float = 400, height: float = 300) -> Picture:
    picture = Picture(width, height)
    picture.shapes = [Box(0, 0, width, height, fill="sheet"), *shapes]
    return picture


def spot(x: float, y: float) -> Disc:
    return Disc(x, y, 3, fill="ink")


MANY = [spot(20 + 30 * n, 20) for n in range(10)]


class Bounds(unittest.TestCase):
    def test_each_kind_stays_within_its_bounds(self) -> None:
        cases: tuple[tuple[Shape, tuple[float, float, float, float]], ...] = (
            (Segment(10, 20, 4, 40, width=2), (3, 19, 11, 41)),
            (Box(5, 6, 10, 20, "ink", 2), (4, 5, 16, 27)),
            (Disc(50, 50, 10, "ink", 2), (39, 39, 61, 61)),
            (Sweep(50, 50, 10, 0, 90, width=2), (39, 39, 61, 61)),
            (Outline(1, 2, ((9, 7), (4, 30)), "ink", 1), (1, 2, 9, 30)),
            (Tiles(0, 0, ((3, 4, 5, 6), (20, 1, 2, 2)), "ink"), (3, 1, 22, 10)),
            (Text(40, 30, "60 A", anchor="middle"), (28, 20, 52, 33)),
        )
        for shape, (left, top, right, bottom) in cases:
            with self.subTest(type(shape).__name__):
                x1, y1, x2, y2 = bounds(shape)
                self.assertLessEqual(x1, left)
                self.assertLessEqual(y1, top)
                self.assertGreaterEqual(x2, right)
                self.assertGreaterEqual(y2, bottom)

    def test_areas_meet_where_they_overlap(self) -> None:
        self.assertTrue(meets((0, 0, 10, 10), [(9, 9, 20, 20)]))
        self.assertFalse(meets((0, 0, 10, 10), [(10, 0, 20, 10), (0, 11, 10, 12)]))


class Damage(unittest.TestCase):
    def test_the_same_drawing_has_none(self) -> None:
        self.assertEqual(damage(drawing(*MANY), drawing(*MANY)), [])

    def test_a_moved_spot_damages_where_it_was_and_where_it_is(self) -> None:
        found = damage(drawing(*MANY, spot(50, 200)), drawing(*MANY, spot(300, 250)))
        assert found is not None
        self.assertEqual(len(found), 2)
        for x, y in ((50, 200), (300, 250)):
            self.assertTrue(meets((x - 3, y - 3, x + 3, y + 3), found))
        self.assertFalse(meets((150, 100, 250, 150), found))

    def test_near_areas_are_one_and_never_more_than_a_few(self) -> None:
        near = damage(drawing(*MANY), drawing(*MANY, spot(100, 100), spot(112, 100)))
        assert near is not None
        self.assertEqual(len(near), 1)
        plenty = [spot(20 + 30 * n, 20) for n in range(12)]
        apart = damage(drawing(*plenty, *MANY), drawing(*plenty, *MANY, *[spot(40 * n, 200) for n in range(10)]))
        assert apart is not None
        self.assertLessEqual(len(apart), MOST)

    def test_all_of_it_where_size_order_or_most_shapes_changed(self) -> None:
        self.assertIsNone(damage(drawing(*MANY), drawing(*MANY, width=401)))
        over, under = Box(10, 10, 20, 20, fill="ink"), Box(15, 15, 20, 20, fill="tape")
        self.assertIsNone(damage(drawing(*MANY, over, under), drawing(*MANY, under, over)))
        self.assertIsNone(damage(drawing(*MANY), drawing(*[spot(one.x, 40) for one in MANY])))
        self.assertIsNone(damage(drawing(*MANY, over), drawing(*MANY, over, over)))

    def test_a_large_area_is_all_of_it(self) -> None:
        self.assertIsNone(damage(drawing(*MANY), drawing(*MANY, Box(0, 0, 400, 300 * LARGE + 5, fill="tape"))))

    @given(st.lists(st.tuples(st.integers(0, 390), st.integers(60, 290)), max_size=6, unique=True))
    def test_every_changed_shape_lies_in_the_damage(self, places: list[tuple[int, int]]) -> None:
        found = damage(drawing(*MANY), drawing(*MANY, *[spot(x, y) for x, y in places]))
        if found is not None:
            self.assertEqual(bool(found), bool(places))
            for x, y in places:
                x1, y1, x2, y2 = bounds(spot(x, y))
                self.assertTrue(any(a <= x1 and b <= y1 and c >= x2 and d >= y2 for a, b, c, d in found))

    def test_moving_the_awl_damages_little_of_a_real_drawing(self) -> None:
        design = solve(demo_job())
        self.assertIn("run", STAGE_NAMES)
        one, other = (draw_run(design, Look(stage="run", at_m=at), 790, 560) for at in (3.0, 4.0))
        found = damage(one, other)
        assert found is not None
        covered = sum((right - left) * (bottom - top) for left, top, right, bottom in found)
        self.assertLess(covered, 0.15 * 790 * 560)
