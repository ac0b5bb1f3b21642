"""Spots as whole jobs: the run led to each equals the same run typed by hand; the charger stands where the run ends."""

import unittest

import msgspec

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import UNREAD
from awlmark.core.job.edit import put
from awlmark.core.job.model import Job, new_job
from awlmark.core.options.spots import lead_to, spot_ways
from awlmark.core.place.floor import free_name, in_wall, snapped, stretched, words_for
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import Design, solve
from awlmark.data import demo_job


def typed(job: Job, *entries: str) -> Job:
    for text in entries:
        job = read_entry(text, job).job
    return job


def garage(*entries: str) -> Job:
    return typed(
        new_job(), "48a", "service 200", "up 3 emt indoor", "right 12", "down 4 charger", "room Garage 24x20 at -4 -20",
        *entries,
    )  # fmt: skip


class Spots(unittest.TestCase):
    def way(self, design: Design, pin: str) -> Job:
        return lead_to(design, next(one for one in design.job.site.pins if one.id == pin))

    def same(self, led: Job, by_hand: Job) -> None:
        """The same line, the same circuit, the same list and the same price."""
        one, other = solve(led), solve(by_hand)
        for mine, theirs in zip(one.line.legs, other.line.legs, strict=True):
            self.assertAlmostEqual(mine.leg.length_m, theirs.leg.length_m, places=3)
            self.assertEqual((mine.place, mine.method.key), (theirs.place, theirs.method.key))
            for a, b in zip(mine.end, theirs.end, strict=True):
                self.assertAlmostEqual(a, b, places=3)
        assert one.circuit is not None and other.circuit is not None
        self.assertEqual((one.circuit.size, one.circuit.breaker_a), (other.circuit.size, other.circuit.breaker_a))
        self.assertEqual([part.key for part in one.parts], [part.key for part in other.parts])
        self.assertAlmostEqual(one.cost, other.cost, places=2)

    def test_across_the_yard_it_is_the_run_typed_by_hand(self) -> None:
        design = solve(demo_job())
        led = self.way(design, "c")
        self.assertEqual(
            [leg.direction for leg in led.legs], ["up", "right", "through", "down", "trench", "left", "up"]
        )
        # The same, leg by leg: the trench is shorter, turns to the south and comes up there.
        by_hand = typed(demo_job(), "open run", "pin C here", "leg 5 50 8", "rub 6", "left 14 pvc40 buried",
                        "leg 6 cover 24in", "leg 6 surface soil", "up 4 pvc40 outdoor", "charger")  # fmt: skip
        trench = by_hand.legs[4]
        by_hand = by_hand.with_run(legs=(
            *by_hand.legs[:5], msgspec.structs.replace(trench, id=by_hand.legs[5].id, direction="left",
            length_m=by_hand.legs[5].length_m, slip=False, place="buried"), by_hand.legs[6],
        ))  # fmt: skip
        last = led.legs[-1]
        by_hand = by_hand.with_run(legs=(*by_hand.legs[:6], msgspec.structs.replace(last, id=by_hand.legs[6].id)))
        self.same(led, by_hand)

    def test_round_the_walls_of_a_garage_the_shorter_way(self) -> None:
        job = garage("pin A at 12 0", "pin A here", "pin B at 20 -9", "pin C at -4 -6")
        design = solve(job)
        east, west = self.way(design, "b"), self.way(design, "c")
        self.same(east, garage("pin A at 12 0", "pin B at 20 -9", "pin C at -4 -6", "pin B here", "open run", "rub",
                               "leg 2 20", "corner", "right 9", "down 4", "charger"))  # fmt: skip
        self.assertEqual([leg.direction for leg in west.legs], ["up", "left", "left", "down"])
        self.assertEqual([leg.end for leg in west.legs], ["bend", "corner", "bend", "charger"])
        self.assertEqual(west.legs[1].length_m, round(4 * FOOT_M, 4))

    def test_what_the_plan_does_not_tell_is_said(self) -> None:
        job = garage("pin A at 12 0", "pin A here", "pin B at 8 -10", "pin C at 40 -8")
        ways = {way.pin: way for way in spot_ways(solve(job))}
        self.assertIsNone(ways["b"].job)
        self.assertIn("away from every wall", ways["b"].why)
        self.assertIn("No wall is passed", ways["c"].why)
        floor = typed(new_job(), "48a", "up 1 emt indoor", "through floor 10in", "up 4", "charger", "pin A at 3 0")
        with self.assertRaises(InputError):
            lead_to(solve(floor), floor.site.pins[0])
        self.assertEqual(spot_ways(solve(typed(new_job(), "pin A at 3 0"))), ())

    def test_lengths_that_only_the_plan_tells_are_guessed(self) -> None:
        led = self.way(solve(demo_job()), "c")
        self.assertEqual(led.guessed, tuple(f"legs[{leg.id}].length_m" for leg in led.legs[4:]))
        self.assertEqual(solve(led).verdict, UNREAD)
        way = next(one for one in spot_ways(solve(demo_job())) if one.pin == "b")
        self.assertEqual((way.price, way.job), (0.0, demo_job()))


class AtTheEnd(unittest.TestCase):
    def test_the_charger_stands_where_the_run_ends_on_the_side_of_its_line(self) -> None:
        design = solve(garage("bay One at 12 -9 facing 90", "cord 20ft"))
        (pin,) = design.placed.site.pins
        self.assertEqual(design.job.site.pins, ())
        self.assertAlmostEqual(pin.x_m, 12 * FOOT_M)
        self.assertLess(pin.y_m, 0.0)  # on the room's side of its wall
        self.assertAlmostEqual(pin.height_m, design.line.legs[-1].end[2], places=3)
        self.assertIsNotNone(design.finding("reach"))
        fixing = design.finding("fixing")
        assert fixing is not None
        # What it is screwed to is asked, and whatever answers sets the spot.
        answered = put(design.job, *fixing.fixes[0].edits)
        self.assertEqual((answered.site.pins[0].x_m, answered.site.pins[0].fixing), (pin.x_m, "stud"))
        said = typed(design.job, "pin A masonry")
        self.assertEqual(said.site.pins[0].fixing, "masonry")
        # It goes with the run.
        longer = solve(typed(design.job, "leg 2 15"))
        self.assertAlmostEqual(longer.placed.site.pins[0].x_m, 15 * FOOT_M)

    def test_an_empty_floor_asks_nothing(self) -> None:
        design = solve(typed(new_job(), "48a", "up 3 emt indoor", "right 12", "down 4 charger"))
        self.assertIs(design.placed, design.job)
        self.assertIsNone(design.finding("fixing"))

    def test_what_it_is_screwed_to_is_asked_out_of_a_trench_too(self) -> None:
        design = solve(typed(demo_job(), "pin A rub", "pin B rub", "pin C rub"))
        self.assertIsNone(design.placed.site.pins[0].fixing)
        self.assertIsNotNone(design.finding("fixing"))


class ByHand(unittest.TestCase):
    def test_an_edge_is_drawn_to_what_stands_near(self) -> None:
        job = garage()
        east = 20 * FOOT_M
        snap = snapped(job, (east + 0.1, -3.02, 2.0, 1.0), 0.2)
        self.assertEqual((round(snap.box[0], 3), round(snap.east_m[0], 3)), (round(east, 3), round(east, 3)))
        self.assertAlmostEqual(snap.box[1] / FOOT_M * 2, round(snap.box[1] / FOOT_M * 2), places=3)
        spot = snapped(job, (3.6, 0.1, 0, 0), 0.2, end=(3.66, 0.0))
        self.assertEqual(spot.box[:2], (3.66, 0.0))

    def test_pulled_edges_move_and_the_others_stay(self) -> None:
        box = (1.0, 1.0, 3.0, 2.0)
        job = new_job()
        for edges, (across, up) in {"e": (1, 0), "n": (0, 1), "sw": (-1, -1), "ne": (1, 1)}.items():
            x, y, wide, deep = stretched(job, box, edges, (across * 1.0, up * 1.0), 0.01).box
            self.assertAlmostEqual(x + wide if "w" in edges else x, 4.0 if "w" in edges else 1.0, places=3)
            self.assertAlmostEqual(y + deep if "s" in edges else y, 3.0 if "s" in edges else 1.0, places=3)
            self.assertGreater(wide + deep, 5.5)
        # Never through itself.
        self.assertGreater(stretched(job, box, "e", (-9.0, 0.0), 0.01).box[2], 0)

    def test_a_door_finds_its_wall(self) -> None:
        job = garage()
        wall = in_wall(job, (19.6 * FOOT_M, -10 * FOOT_M, 3 * FOOT_M, 0.5 * FOOT_M), 1.0).box
        self.assertAlmostEqual(wall[0] + wall[2] / 2, 20 * FOOT_M, places=3)
        self.assertLess(wall[2], wall[3])
        words, _size = words_for(job, "door", free_name(job, "door"), wall)
        door = read_entry(words, job).job.site.things[0]
        self.assertAlmostEqual(door.deep_m, 3 * FOOT_M, places=3)

    def test_what_is_let_go_is_read_as_it_was_dropped(self) -> None:
        for units in ("ft", "m"):
            job = typed(garage(), f"units {units}")
            for kind in ("room", "canopy", "walk", "other", "bay", "pin"):
                box = snapped(job, (3.1, -4.2, 2.0, 3.0), 0.0).box
                words, part = words_for(job, kind, free_name(job, kind), box)
                self.assertIn(part, words)
                site = read_entry(words, job).job.site
                made = (site.areas[1:] or site.things or site.bays or site.pins)[-1]
                x = made.x_m - (box[2] / 2 if kind == "bay" else 0)
                self.assertAlmostEqual(x, box[0], delta=0.002)


if __name__ == "__main__":
    unittest.main()
