"""What the scenes of Panel, Place, Run and pencil show, read from their display lists."""

import unittest

from awlmark.core.entry.cars import add_car
from awlmark.core.entry.read import read_entry
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.options.fixes import fork
from awlmark.core.panel.load_management import invented_for
from awlmark.core.panel.meter_data import demand_edits
from awlmark.core.panel.rearrange import cells
from awlmark.core.solve.design import solve
from awlmark.core.standing import stage_mark
from awlmark.data import demo_job
from awlmark.draw.figures.floor_plan import floor_of
from awlmark.draw.kit.palette import DARK, LIGHT
from awlmark.draw.kit.picture import Picture, Tiles
from awlmark.draw.kit.svg import svg
from awlmark.draw.stages.bends_view import TRUE_PX_PER_M, bends_of, true_size
from awlmark.draw.stages.need_view import draw_need
from awlmark.draw.stages.panel_view import draw_panel
from awlmark.draw.stages.pencil_view import draw_pencils
from awlmark.draw.stages.place_view import draw_place
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import STAGES, Look

SIZE = (790.0, 560.0)


def sentences(picture: Picture) -> str:
    return " | ".join(hit.says for hit in picture.hits)


def words(picture: Picture) -> str:
    return " ".join(text.text for text in picture.texts())


def panel(job: Job, page: str = "spaces") -> Picture:
    return draw_panel(solve(job), Look(stage="panel", page=page), *SIZE)


def with_year() -> Job:
    job = demo_job()
    return put(job, *demand_edits(invented_for(job), 240.0, "year.csv"))


class DeadFront(unittest.TestCase):
    def test_every_space_answers_and_tells_its_leg(self) -> None:
        picture = panel(demo_job())
        front = demo_job().dead_front
        slots = {hit.id: hit for hit in picture.hits if hit.id.startswith("slot-")}
        self.assertEqual(len(slots), front.spaces)
        for breaker in front.breakers:
            for space in cells(breaker):
                self.assertIn(breaker.name, slots[f"slot-{space}"].says)
        for space in (1, 2, 5, 6):
            self.assertIn("leg A", slots[f"slot-{space}"].says)
        for space in (3, 4, 7, 8):
            self.assertIn("leg B", slots[f"slot-{space}"].says)
        self.assertIn("idle, proved at the panel and the load", slots["slot-11"].says)
        self.assertIn("line lugs: stay live", words(picture))

    def test_moves_are_numbered_in_their_order(self) -> None:
        job = read_entry("spaces 12", put(demo_job(), Put("dead_front.breakers", ()))).job
        for space in (1, 2, 4, 5, 8, 9, 11, 12):
            job = read_entry(f"slot {space} 20a circuit{space}", job).job
        picture = panel(job)
        self.assertIn("space", words(picture))
        self.assertRegex(words(picture), r"circuit\d+, space \d+: to \d+")

    def test_what_speaks_against_the_panel_can_be_chosen(self) -> None:
        job = read_entry("condition obsolete", demo_job()).job
        hit = next(hit for hit in panel(job).hits if hit.id == "finding-panel-age")
        self.assertEqual(hit.act, "select:panel-age")
        self.assertIn("Stop", hit.says)
        self.assertEqual(stage_mark(solve(job), "panel"), "stop")

    def test_knockouts_say_what_they_are(self) -> None:
        told = sentences(panel(demo_job()))
        for part in ("at the top, free, the run begins here", "at the left, used", "at the bottom, blocked"):
            self.assertIn(part, told)

    def test_an_uncounted_panel_asks_for_its_spaces(self) -> None:
        empty = put(demo_job(), Put("dead_front.breakers", ()), Put("dead_front.spaces", 0))
        self.assertIn("How many spaces", words(panel(empty)))


class Year(unittest.TestCase):
    def test_squares_curve_and_ways(self) -> None:
        picture = panel(with_year(), "year")
        told = sentences(picture)
        self.assertIn("365 days by the hour", told)
        self.assertIn("Duration curve", told)
        for way in ("sensors", "shared", "lower"):
            hit = next(hit for hit in picture.hits if hit.id == f"way-{way}")
            self.assertEqual(hit.act, f"way:{way}")
            self.assertRegex(hit.says, r"\d+ of \d+ nights full")
        tiles = [shape for shape in picture.shapes if isinstance(shape, Tiles)]
        self.assertGreater(sum(len(one.rects) for one in tiles), 300)
        for one in tiles:
            self.assertIn(one.fill, LIGHT)
            self.assertIn(one.fill, DARK)
            self.assertTrue(all(w >= 0 and h > 0 for _x, _y, w, h in one.rects))

    def test_it_can_be_written_as_svg(self) -> None:
        text = svg(panel(with_year(), "year"), "year")
        self.assertIn("<path", text)
        self.assertTrue(text.rstrip().endswith("</svg>"))

    def test_without_data_it_asks_and_without_a_rating_it_says_so(self) -> None:
        self.assertIn("Try an invented year", words(panel(demo_job(), "year")))
        unread = put(with_year(), Put("supply.service_a", None))
        self.assertIn("needed to try them", words(panel(unread, "year")))


class Place(unittest.TestCase):
    def draw(self, job: Job) -> Picture:
        design = solve(job)
        return draw_place(design, Look(stage="place"), fork(design), *SIZE)

    def test_the_floor_is_to_scale_both_ways(self) -> None:
        floor = floor_of(solve(demo_job()), *SIZE)
        for x, y in ((0.0, 0.0), (12.5, -3.25), (-4.0, 7.0)):
            back = floor.metres(*floor.at(x, y))
            self.assertAlmostEqual(back[0], x)
            self.assertAlmostEqual(back[1], y)

    def test_spots_cars_things_and_ends_answer(self) -> None:
        picture = self.draw(demo_job())
        ids = {hit.id for hit in picture.hits}
        self.assertTrue({"pin-a", "pin-b", "pin-c", "bay-bay-1", "working-space", "heights", "end-a", "fork-0"} <= ids)
        told = sentences(picture)
        for part in ("Spot B, 4′ 0″ up, chosen", "Van, nose in, at North bay", "Spot A: Stop", "Hardwired, 48 A: $0"):
            self.assertIn(part, told)
        self.assertIn("maker's band", words(picture))

    def test_a_thing_in_the_working_space_is_marked(self) -> None:
        job = read_entry("bench Vice 3x2 at 0 -2", demo_job()).job
        self.assertIn("in the working space", sentences(self.draw(job)))

    def test_every_nose_and_both_cars_can_be_drawn(self) -> None:
        job = put(demo_job(), *add_car(demo_job()))
        for turn in (0, 37, 90, 180, 270):
            self.assertTrue(self.draw(put(job, Put("site.bays[bay-1].heading_deg", float(turn)))).hits)

    def test_no_spot_and_no_car_are_drawn_too(self) -> None:
        self.assertTrue(self.draw(put(demo_job(), Put("site.pins", ()), Put("site.pin", ""))).hits)
        self.assertTrue(self.draw(put(demo_job(), Put("site.bays", ()), Put("need.cars", ()))).hits)


class Run(unittest.TestCase):
    def test_fittings_on_the_line_answer(self) -> None:
        picture = draw_run(solve(demo_job()), Look(), *SIZE)
        told = sentences(picture)
        self.assertIn("Leg 4: expansion fitting", told)
        self.assertIn("Wash heater on this wall", told)
        self.assertEqual(set(picture.leg_scale), {leg.id for leg in demo_job().legs})

    def test_a_long_trench_goes_on_in_rows(self) -> None:
        long = put(demo_job(), Put("legs[leg-5].length_m", 160.0), Put("site.pins", ()), Put("site.pin", ""))
        self.assertIn("Yard, cut through, onward", words(draw_run(solve(long), Look(), *SIZE)))
        self.assertNotIn("onward", words(draw_run(solve(demo_job()), Look(), *SIZE)))

    def test_bends_by_hand_at_true_size(self) -> None:
        job = put(demo_job(), Put("legs[leg-1].bend", "hand"), Put("legs[leg-2].offset_m", 0.1))
        design = solve(job)
        bends = bends_of(design)
        self.assertEqual([bend.leg_id for bend in bends], ["leg-1", "leg-2"])
        picture = true_size(design)
        marks = [mark.at_m for bend in bends for mark in (bend.marked.marks if bend.marked else ())]
        strokes = {round(shape.x, 2) for shape in picture.shapes if getattr(shape, "role", "") == "scribe"}
        for at_m in marks:
            self.assertIn(round(20 + at_m * TRUE_PX_PER_M, 2), strokes)
        # 96 pixels to the inch: the check bar of four inches is 384 wide.
        self.assertAlmostEqual(next(shape for shape in picture.shapes[1:] if hasattr(shape, "w")).w, 384)  # type: ignore[attr-defined]
        told = words(draw_run(design, Look(run_page="bends"), *SIZE))
        self.assertIn("Leg 1: 90° stub, ¾ EMT", told)

    def test_a_bend_that_does_not_fit_says_why(self) -> None:
        job = put(demo_job(), Put("legs[leg-1].bend", "hand"), Put("legs[leg-1].length_m", 0.1))
        told = words(draw_run(solve(job), Look(run_page="bends"), *SIZE))
        self.assertIn("begin before the stick's end", told)


class Pencils(unittest.TestCase):
    def test_only_what_differs_is_named(self) -> None:
        pen, pencil = solve(demo_job()), solve(put(demo_job(), Put("charger.nameplate_a", 32.0)))
        picture = draw_pencils(pen, [("Pencil 1", pencil)], *SIZE)
        labels = {hit.id.removeprefix("differs-") for hit in picture.hits if hit.id.startswith("differs-")}
        self.assertTrue({"Charging", "Breaker", "Conductor"} <= labels)
        self.assertFalse({"Rule book", "Run", "Service"} & labels)
        self.assertEqual(next(hit for hit in picture.hits if hit.id == "pencil-1").act, "flip:0")
        same = draw_pencils(pen, [("Pencil 1", pen)], *SIZE)
        self.assertIn("Nothing: the lines are the same.", words(same))

    def test_an_open_line_stands_beside_a_closed_one(self) -> None:
        unread = solve(put(demo_job(), Put("charger.nameplate_a", None)))
        self.assertTrue(draw_pencils(unread, [("Pencil 1", solve(demo_job()))], *SIZE).hits)


class Stages(unittest.TestCase):
    def test_every_stage_has_a_mark(self) -> None:
        for job in (demo_job(), put(demo_job(), Put("need.cars", ())), put(demo_job(), Put("legs", ()))):
            for stage in STAGES:
                self.assertIn(stage_mark(solve(job), stage), ("holds", "note", "tight", "stop", "unread"))

    def test_the_second_cars_day_is_its_own(self) -> None:
        job = put(demo_job(), *add_car(demo_job()))
        first, second = (words(draw_need(solve(job), Look(car=number), *SIZE)) for number in (0, 1))
        self.assertNotEqual(first, second)
        self.assertIn("home 19:00", first)
        self.assertIn("home 18:00", second)
