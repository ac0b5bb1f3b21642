"""The Run scene's surroundings: ceilings, things on walls, marks at their place, the floor round the line."""

import unittest

from awlmark.core.entry.read import read_entry
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import Design, solve
from awlmark.data import demo_job
from awlmark.draw.figures.plan import LEFT, draw_measures, draw_plan
from awlmark.draw.figures.unfold import unfold
from awlmark.draw.figures.walls import Walls
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.kit.picture import Box, Outline, Picture, Segment
from awlmark.draw.stages.big_view import draw_big
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import Look
from tests.support import legs, straight

RUN = Look(stage="run")


def scribed(*readings: tuple[str, float, str], entries: tuple[str, ...] = ()) -> Design:
    job = straight(40, 20).with_run(legs=legs(*readings))
    for entry in entries:
        job = read_entry(entry, job).job
    return solve(job)


def drawn(design: Design, look: Look = RUN) -> Picture:
    return draw_run(design, look, 792, 562)


def words(picture: Picture) -> list[str]:
    return [text.text for text in picture.texts()]


class Ceilings(unittest.TestCase):
    loft = (("up", 3, "bend"), ("through", 1, "box"), ("right", 12, "bend"), ("down", 0.5, "charger"))

    def walls(self, design: Design) -> Walls:
        picture = Picture(792, 400)
        return Walls(picture, design, RUN, unfold(design.line)[0], 0.0, 792, 400)

    def test_a_ceiling_that_is_passed_lies_between_room_and_attic(self) -> None:
        design = scribed(*self.loft)
        walls = self.walls(design)
        (floors, slabs) = walls._floors(walls.strip.panels[0])
        # The panel's top is 5 ft up: the ceiling lies at 8 ft and is 1 ft thick.
        self.assertEqual([place for _low, _high, place in floors], ["indoor", "attic"])
        self.assertEqual([round(level / FOOT_M, 6) for level in slabs[0]], [8, 9])
        self.assertEqual(floors[0][1], slabs[0][0])
        self.assertEqual(floors[1][0], slabs[0][1])
        picture = drawn(design)
        self.assertIn("Attic", words(picture))
        self.assertIn("Indoors", words(picture))
        hatched = [shape for shape in picture.shapes if isinstance(shape, Box) and shape.hatch == "slant"]
        self.assertEqual(len(hatched), 1)
        self.assertIn(" of ceiling", " ".join(words(picture)))

    def test_one_ceiling_however_often_it_is_passed(self) -> None:
        back = (("up", 0.5, "bend"), ("right", 3, "bend"), ("down", 0.5, "box"), ("through", 0.9, "box"))
        walls = self.walls(scribed(*self.loft[:3], *back, ("down", 3, "charger")))
        _floors, slabs = walls._floors(walls.strip.panels[0])
        self.assertEqual(len(slabs), 1)

    def test_no_ceiling_where_none_is_passed(self) -> None:
        picture = drawn(scribed(("up", 2, "bend"), ("right", 9, "charger")))
        self.assertNotIn("Attic", words(picture))
        self.assertFalse([shape for shape in picture.shapes if isinstance(shape, Box) and shape.hatch])


class Things(unittest.TestCase):
    def test_doors_and_ducts_stand_on_the_wall_they_belong_to(self) -> None:
        run = (("right", 10, "corner"), ("right", 12, "charger"))
        for entry, left, right, low, high in (
            ("door Side 3x6in at 4 0", 4, 7, 0, 80 / 12),
            ("other Duct 2x1 at 5 -1 low 6 6 high 8", 5, 7, 6.5, 8),
            # On the second wall, which runs south from the corner 10 ft east: 4 to 7 ft along it.
            ("door Side 6inx3 at 9.75 -7", 14, 17, 0, 80 / 12),
        ):
            with self.subTest(entry=entry):
                design = scribed(*run, entries=(entry,))
                picture = drawn(design)
                hit = next(hit for hit in picture.hits if hit.id.startswith("wall-"))
                scale = picture.leg_scale["leg-1"] * FOOT_M
                panel = next(hit for hit in picture.hits if hit.id == "leg-1")
                start = panel.x + 5
                self.assertAlmostEqual((hit.x - start) / scale, left, places=3)
                self.assertAlmostEqual((hit.x + hit.w - start) / scale, right, places=3)
                # The line lies 5 ft up.
                level = panel.y + 5
                self.assertAlmostEqual((level - hit.y) / scale, high - 5, places=3)
                self.assertAlmostEqual((hit.y + hit.h - level) / scale, 5 - low, places=3)

    def test_things_across_the_room_are_not_on_the_wall(self) -> None:
        picture = drawn(scribed(("right", 10, "charger"), entries=("bench Vice 6x2 at 2 -9",)))
        self.assertFalse([hit for hit in picture.hits if hit.id.startswith("wall-")])


class Marks(unittest.TestCase):
    def test_each_stands_at_its_place_and_answers(self) -> None:
        job = put(demo_job(), Put("legs[leg-4].exposed", None), Put("site.low_c", None))
        design = solve(job)
        picture = drawn(design)
        told = {hit.id: hit for hit in picture.hits if hit.act.startswith("select:")}
        finding = design.finding("guard:leg-4")
        assert finding is not None
        self.assertEqual(finding.severity, UNREAD)
        hit, leg = told["guard:leg-4"], next(hit for hit in picture.hits if hit.id == "leg-4")
        self.assertAlmostEqual(hit.x + hit.w / 2, leg.x + leg.w / 2)
        self.assertAlmostEqual(hit.y + hit.h / 2, leg.y + leg.h / 2)
        self.assertTrue(hit.says.startswith("Unread: Can anything hit leg 4"))
        self.assertIs(picture.at(hit.x + 8, hit.y + 8), hit)

    def test_what_holds_is_not_marked(self) -> None:
        shown = [hit.act.removeprefix("select:") for hit in drawn(solve(demo_job())).hits if hit.act[:7] == "select:"]
        # The expansion fittings answer for what they hold.
        self.assertEqual(set(shown), {"moves:leg-4", "moves:leg-6"})
        self.assertTrue(all(finding.severity == HOLDS for finding in solve(demo_job()).findings))

    def test_an_unmeasured_wall_is_seen(self) -> None:
        design = scribed(("right", 5, "bend"), ("through", 1, "box"), ("right", 5, "charger"))
        unread = solve(put(design.job, Put("legs[leg-2].length_m", 0.0)))
        picture = drawn(unread)
        self.assertIn("not measured", words(picture))
        dashed = [shape for shape in picture.shapes if isinstance(shape, Box) and shape.dash and shape.hatch]
        self.assertEqual([shape.w for shape in dashed], [8.0])
        self.assertEqual(unread.finding("thickness:leg-2").severity, UNREAD)  # type: ignore[union-attr]

    def test_only_what_is_bent_too_much_is_red_in_the_lane(self) -> None:
        zigzag = [("up", 1, "bend"), ("right", 1, "bend")] * 3
        design = scribed(*zigzag, ("right", 2, "box"), ("up", 2, "bend"), ("right", 4, "charger"))
        lines = [shape for shape in draw_lane(design, RUN, 1280).shapes if isinstance(shape, Outline)]
        roles = [shape.role for shape in lines if shape.width == 2]
        self.assertEqual(roles, ["scribe", "stop", "scribe"])


class Floor(unittest.TestCase):
    def plan(self, job: Job, at_m: float = -1.0) -> Picture:
        picture = Picture(792, 134)
        draw_plan(picture, solve(job), 792, 134, at_m=at_m)
        return picture

    def test_the_gap_to_the_spot_is_drawn_and_told(self) -> None:
        self.assertFalse([text for text in words(self.plan(demo_job())) if "short of" in text])
        short = put(demo_job(), Put("legs[leg-5].length_m", 60 * FOOT_M))
        picture = self.plan(short)
        self.assertIn("4′ 0″ short of B", "".join(words(picture)))
        dashed = [shape for shape in picture.shapes if isinstance(shape, Segment) and shape.role == "unread"]
        scale = dashed[0].x2 - dashed[0].x
        whole = next(hit for hit in drawn(solve(short)).hits if hit.id == "measures")
        self.assertGreater(whole.w, scale)

    def test_nothing_of_the_floor_leaves_the_plan(self) -> None:
        far = read_entry("room Barn 200x300 at -50 -150", demo_job()).job
        for shape in self.plan(far).shapes:
            if isinstance(shape, Segment):
                for x, y in ((shape.x, shape.y), (shape.x2, shape.y2)):
                    self.assertTrue(0 <= x <= 792 and 0 <= y <= 134, shape)

    def test_the_awl_stands_where_the_tape_says(self) -> None:
        discs = [
            shape for shape in self.plan(demo_job(), 0.9144 + 3.3528).shapes if getattr(shape, "fill", "") == "tape"
        ]
        # Half way along the 22 ft that follow 3 ft upright.
        end = [shape for shape in self.plan(demo_job(), 7.62).shapes if getattr(shape, "fill", "") == "tape"]
        self.assertEqual(len(discs), 1)
        self.assertAlmostEqual(discs[0].x - (LEFT + 24), (end[0].x - (LEFT + 24)) / 2, places=3)

    def test_what_the_line_measures_is_told(self) -> None:
        picture = Picture(792, 134)
        draw_measures(picture, solve(demo_job()), 500)
        self.assertEqual(
            picture.hits[0].says,
            "The line: 99′ 4″ on the tape, 12′ 0″ of it upright, each wire 105′ 10″ with tails, EMT 26′ 4″, "
            "PVC 40 73′ 0″",
        )


class Big(unittest.TestCase):
    def test_the_leg_at_the_awl_or_what_is_typed(self) -> None:
        design = solve(demo_job())
        tall = [text for text in draw_big(design, Look(at_m=12.0), "", 792, 562).texts() if text.size == 160]
        self.assertEqual([text.text for text in tall], ["64′ 0″"])
        typed = draw_big(design, Look(), "right 12 6 5/8", 792, 562)
        reading = max(typed.texts(), key=lambda text: text.size)
        self.assertEqual(reading.text, "right 12 6 5/8")
        # However long it is, it stays inside.
        self.assertLess(reading.size, 160)
        empty = draw_big(solve(put(demo_job(), Put("legs", ()))), Look(), "", 792, 562)
        self.assertIn("nothing scribed yet", words(empty))


if __name__ == "__main__":
    unittest.main()
