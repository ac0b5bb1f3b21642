"""The floor: cords, heights, spots, working space."""

import itertools
import math
import random
import unittest

import numpy as np
from msgspec.structs import replace

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding
from awlmark.core.job.cars import PORTS
from awlmark.core.job.edit import Put, put
from awlmark.core.job.floor import Bay
from awlmark.core.job.model import Job
from awlmark.core.options.fixes import fork
from awlmark.core.place.reach import ANY_CAR, car_shape, port_of, reaches
from awlmark.core.place.shortest_path import CLEAR_M, Point, Shape, crosses, length, meets, rectangle, taut
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.support import entered, straight


def brute_force(start: Point, end: Point, things: list[Shape]) -> float:
    """Shortest way over a fine grid, eight ways a step: nothing shared with the code under test."""
    step = 0.1
    low, high = -3.0, 9.0
    count = round((high - low) / step) + 1
    xs = low + step * np.arange(count)
    grid = np.array([(x, y) for x in xs for y in xs])
    blocked = np.zeros(len(grid), dtype=bool)
    for thing in things:
        inside = np.ones(len(grid), dtype=bool)
        for (x, y), (x2, y2) in zip(thing, (*thing[1:], thing[0]), strict=True):
            inside &= (x2 - x) * (grid[:, 1] - y) - (y2 - y) * (grid[:, 0] - x) > 1e-9
        blocked |= inside
    blocked = blocked.reshape(count, count)
    far = np.full((count, count), math.inf)
    far[tuple(round((value - low) / step) for value in start)] = 0.0
    ways = [(a, b) for a, b in itertools.product((-2, -1, 0, 1, 2), repeat=2) if math.gcd(a, b) == 1]

    def shifted(field: np.ndarray, a: int, b: int, outside: float) -> np.ndarray:
        moved = np.full_like(field, outside)
        moved[max(a, 0) : count + min(a, 0), max(b, 0) : count + min(b, 0)] = field[
            max(-a, 0) : count + min(-a, 0), max(-b, 0) : count + min(-b, 0)
        ]
        return moved

    # A step may not jump over a blocked square: those it passes between have to be free as well.
    barred = {}
    for a, b in ways:
        near = [(x, y) for x in range(min(a, 0), max(a, 0) + 1) for y in range(min(b, 0), max(b, 0) + 1)]
        barred[a, b] = np.any([shifted(blocked, x, y, True) for x, y in near], axis=0)
    for _ in range(400):
        before = far
        for a, b in ways:
            step_far = shifted(far, a, b, math.inf) + math.hypot(a, b) * step
            far = np.minimum(far, np.where(barred[a, b], math.inf, step_far))
        far = np.where(blocked, math.inf, far)
        if np.array_equal(far, before):
            break
    return float(far[tuple(round((value - low) / step) for value in end)])


class Strings(unittest.TestCase):
    def test_a_free_string_is_straight(self) -> None:
        self.assertEqual(taut((0, 0), (3, 4), []), [(0, 0), (3, 4)])
        self.assertEqual(length(taut((0, 0), (3, 4), [rectangle(10, 10, 2, 2)])), 5)

    def test_round_one_rectangle(self) -> None:
        thing = rectangle(2, 0, 2, 2)
        path = taut((0, 0), (4, 0), [thing])
        self.assertEqual(len(path), 4)
        # Over the two upper (or lower) corners: 2 x sqrt(2) + 2, and what it keeps off the corners.
        self.assertAlmostEqual(length(path), 2 * math.sqrt(2) + 2, delta=4 * CLEAR_M)

    def test_against_a_fine_grid(self) -> None:
        chance = random.Random(4)
        for _ in range(6):
            things = [
                rectangle(
                    chance.uniform(1, 5), chance.uniform(1, 5), chance.uniform(0.5, 2.5), chance.uniform(0.5, 2.5)
                )
                for _ in range(3)
            ]
            start, end = (0.0, 0.0), (6.0, 6.0)
            exact, grid = length(taut(start, end, things)), brute_force(start, end, things)
            # Steps in sixteen directions overestimate by 2.8 % at most, and corners are passed a step or two off.
            self.assertLessEqual(exact, grid + 0.02)
            self.assertGreaterEqual(exact, grid / 1.028 - 0.4)

    def test_touching_an_edge_is_not_crossing_it(self) -> None:
        thing = rectangle(1, 1, 2, 2)
        rows = (
            ((0, 2), (2, 2), False), ((-1, 1), (3, 1), True), ((-1, 3), (3, 3), False), ((0, 0), (2, 2), True),
            ((-1, 0), (0, 0), False), ((1, 2), (1, 5), False), ((1, 1), (1, 5), True), ((5, 5), (6, 6), False),
        )  # fmt: skip
        for start, end, expected in rows:
            with self.subTest(start=start, end=end):
                found = crosses(np.array([start], dtype=float), np.array([end], dtype=float), thing)
                self.assertEqual(bool(found[0]), expected)
                self.assertEqual(meets([start, end], thing), expected)

    def test_walled_in_there_is_no_way(self) -> None:
        walls = [rectangle(0, 2, 6, 1), rectangle(0, -2, 6, 1), rectangle(2.5, 0, 1, 5), rectangle(-2.5, 0, 1, 5)]
        self.assertEqual(taut((0, 0), (9, 0), walls), [])
        self.assertFalse(meets([], walls[0]))


class Cars(unittest.TestCase):
    def test_ports_turn_with_the_car(self) -> None:
        car = demo_job().need.cars[0]
        bay = Bay(id="b", name="b", x_m=10, y_m=5, heading_deg=90)
        # Nose north: its left is west.
        for port, east, north in (("front", 0, 0.5), ("rear", 0, -0.5), ("left", -0.5, 0), ("right", 0.5, 0)):
            x, y = port_of(replace(car, port=port), bay, "in")
            self.assertAlmostEqual(x, 10 + east * car.wide_m)
            self.assertAlmostEqual(y, 5 + north * car.long_m)
            x, y = port_of(replace(car, port=port), bay, "out")
            self.assertAlmostEqual(x, 10 - east * car.wide_m)

    def test_every_port_lies_on_the_cars_outline(self) -> None:
        bay = Bay(id="b", name="b", x_m=0, y_m=0, heading_deg=33)
        for port in PORTS:
            car = replace(demo_job().need.cars[0], port=port)
            shape = car_shape(car, bay, "in")
            spot = np.array(port_of(car, bay, "in"))
            away = min(
                abs((b[0] - a[0]) * (spot[1] - a[1]) - (b[1] - a[1]) * (spot[0] - a[0])) / math.dist(a, b)
                for a, b in zip(shape, (*shape[1:], shape[0]), strict=True)
            )
            self.assertAlmostEqual(away, 0)

    def test_the_demo_reaches_every_way_from_b_only(self) -> None:
        job = demo_job()
        cord = job.charger.cord_m or 0
        by_pin = {pin.id: [r.needs_m <= cord for r in reaches(job) if r.pin == pin.id] for pin in job.site.pins}
        self.assertEqual(by_pin["b"], [True, True])
        self.assertEqual(by_pin["a"], [False, False])
        self.assertIn(False, by_pin["c"])


class Findings(unittest.TestCase):
    def found(self, job: Job, finding_id: str) -> Finding:
        finding = solve(job).finding(finding_id)
        assert finding is not None, finding_id
        return finding

    def test_reach(self) -> None:
        job = demo_job()
        self.assertEqual(self.found(job, "reach").severity, HOLDS)
        self.assertEqual(self.found(put(job, Put("site.pin", "c")), "reach").severity, TIGHT)
        far = self.found(put(job, Put("site.pin", "a")), "reach")
        self.assertEqual(far.severity, STOP)
        self.assertIn("No extension", far.text)
        self.assertEqual(far.fixes[0].edits, (Put("site.pin", "b"),))
        self.assertEqual(self.found(put(job, Put("charger.cord_m", None)), "reach").severity, UNREAD)
        walked = read_entry("walk Way to the press 4x20 at 88 -18", job).job
        self.assertIn("lies across Way", self.found(walked, "reach").text)

    def test_the_string_goes_round_the_car_beside(self) -> None:
        floor = ("room Garage 24x22 at -4 -22", "bay Left at 2 -12 facing 90 nose in", "pin B at 20 -6", "cord 25ft")
        job = straight(48, 20)
        for entry in floor:
            job = read_entry(entry, job).job
        alone = reaches(job)[0]
        beside = reaches(read_entry("bay Right at 14 -12 facing 90", job).job)[0]
        self.assertGreater(beside.needs_m, alone.needs_m + 0.1)
        (car,) = job.need.cars or (ANY_CAR,)
        right = rectangle(14 * FOOT_M, -12 * FOOT_M, car.long_m, car.wide_m, 90)
        self.assertTrue(meets(list(alone.path), right))
        self.assertFalse(meets(list(beside.path), right))
        # Two names for one spot: only one car stands there.
        same = reaches(read_entry("bay Other at 2.5 -12 facing 90", job).job)[0]
        self.assertAlmostEqual(same.needs_m, alone.needs_m)

    def test_heights_of_625_50_and_of_the_maker(self) -> None:
        job = demo_job()
        for inches, severity in ((24, HOLDS), (23.5, STOP)):
            low = put(job, Put("site.pins[b].height_m", inches * INCH_M))
            self.assertEqual(self.found(low, "height").severity, severity)
        indoors = put(job, Put("site.pin", "a"), Put("site.pins[a].x_m", 5.0), Put("site.pins[a].y_m", -1.0))
        self.assertEqual(self.found(put(indoors, Put("site.pins[a].height_m", 18 * INCH_M)), "height").severity, HOLDS)
        self.assertEqual(self.found(put(indoors, Put("site.pins[a].height_m", 17 * INCH_M)), "height").severity, STOP)
        self.assertEqual(self.found(put(job, Put("charger.band_high_m", 1.0)), "band").severity, STOP)
        self.assertEqual(self.found(put(job, Put("site.pins[b].fixing", None)), "fixing").severity, UNREAD)

    def test_the_working_space_is_kept(self) -> None:
        bench = read_entry("bench Vice 4x2 at 1 -3", demo_job()).job
        self.assertEqual(self.found(bench, "way:thing-4").severity, STOP) if solve(bench).finding(
            "way:thing-4"
        ) else None
        self.assertTrue([f for f in solve(bench).findings if f.id.startswith("way:") and f.severity == STOP])
        door = read_entry("door Side door 3x6in at -1 -5", demo_job()).job
        self.assertTrue([f for f in solve(door).findings if f.id.startswith("way:") and f.severity == NOTE])
        self.assertFalse([f for f in solve(demo_job()).findings if f.id.startswith("way:")])

    def test_line_and_spot_meet(self) -> None:
        apart = put(demo_job(), Put("site.pins[b].x_m", 20.0))
        self.assertEqual(self.found(apart, "end").severity, NOTE)
        mended = put(apart, *self.found(apart, "end").fixes[0].edits)
        self.assertIsNone(solve(mended).finding("end"))

    def test_the_fork_is_rated_and_priced_as_whole_jobs(self) -> None:
        made = solve(demo_job())
        ways = fork(made)
        self.assertEqual(
            [quote.fix.label for quote in ways], ["Hardwired, 48 A", "Outlet 14-50, 40 A", "Outlet 6-50, 40 A"]
        )
        self.assertEqual(ways[0].price, 0)
        for quote in ways:
            again = solve(quote.job)
            self.assertAlmostEqual(quote.price, round(again.cost - made.cost, 2))
            self.assertEqual(quote.worst, again.verdict)


class Writing(unittest.TestCase):
    def test_a_floor_from_words(self) -> None:
        job = demo_job()
        for text in ("room Shed 10x8 at -20 4", "bay South at 70 -10 facing -90 nose in", "pin A rub", "pin C high 3 6",
                     "pin C here", "cord 24ft", "band 20in to 60in", "clearfloor Bench"):  # fmt: skip
            job = read_entry(text, job).job
        site = job.site
        self.assertEqual([pin.name for pin in site.pins], ["B", "C"])
        self.assertEqual((site.pin, site.bays[-1].noses, site.bays[-1].heading_deg), ("c", ("in",), -90))
        self.assertAlmostEqual(site.areas[-1].x_m, -20 * FOOT_M)
        self.assertAlmostEqual(site.pins[1].height_m, 3.5 * FOOT_M)
        self.assertNotIn("Bench", [thing.name for thing in site.things])
        self.assertAlmostEqual(job.charger.cord_m or 0, 24 * FOOT_M)
        again = read_entry("room Shed 12x8 at -20 4", job).job
        self.assertEqual(len(again.site.areas), len(site.areas))

    def test_refusals(self) -> None:
        for text in (
            "room", "room Shed", "room Shed 10 at 2 2", "pin D at 1 1", "pin", "pin A", "pin B sideways",
            "pin B high up",
            "bay", "bay North at", "cord", "cord 40ft", "band 24in", "clearfloor Moon", "pin A at 9 x",
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_entry(text, put(demo_job(), Put("site.pins", ()), Put("site.pin", "")))
            self.assertTrue(caught.exception.accepted)


class Walls(unittest.TestCase):
    """A room with its spot on the panel's wall, and a car beyond."""

    ROOM = ("48a", "up 3", "right 8 k", "room shop 24x20 at -4 -20", "pin a at 6 -6in", "pin a here", "cord 25ft")

    def job(self, *more: str) -> Job:
        return entered("; ".join((*self.ROOM, *more)))

    def about(self, *more: str) -> Finding:
        finding = solve(self.job(*more)).finding("reach")
        assert finding is not None
        return finding

    def test_a_wall_stops_the_cord(self) -> None:
        outside = self.about("bay drive at 6 9 facing 90 nose in")
        self.assertEqual(outside.severity, STOP)
        self.assertIn("the wall of shop lies between", outside.text)
        self.assertEqual(self.about("bay inside at 6 -10 facing 90 nose in").severity, HOLDS)
        # And from outside a car within is not reached either.
        self.assertEqual(self.about("bay inside at 6 -10 facing 90 nose in", "pin a at 6 1").severity, STOP)

    def test_a_spot_on_the_walls_line_hangs_in_the_room_of_the_car(self) -> None:
        self.assertEqual(self.about("bay inside at 6 -10 facing 90 nose in", "pin a at 6 0").severity, HOLDS)
        self.assertEqual(self.about("bay drive at 6 9 facing 90 nose in", "pin a at 6 0").severity, STOP)

    def test_the_only_door_is_asked_about(self) -> None:
        bay, door = "bay drive at 6 9 facing 90 nose in", "door roller 8x6in at 8 -3in"
        asked = self.about(bay, door)
        self.assertEqual((asked.severity, asked.ask), (UNREAD, "door roller "))
        through = self.about(bay, door, "door roller open")
        self.assertEqual(through.severity, HOLDS)
        self.assertEqual(self.about(bay, door, "door roller stands shut").severity, STOP)
        self.assertEqual(self.about(bay, door, "door roller shut", "door roller unread").severity, UNREAD)
        with self.assertRaisesRegex(InputError, "roller"):
            self.job(bay, door, "door side open")

    def test_no_cord_is_shorter_for_a_wall(self) -> None:
        dice = random.Random(11)
        for _ in range(60):
            x, y, turn = dice.uniform(-30, 30), dice.uniform(-40, 30), dice.choice((0, 90, 180, 270))
            place = f"bay one at {x:.2f} {y:.2f} facing {turn} nose in"
            free = reaches(put(self.job(place), Put("site.areas", ())))[0]
            walled = reaches(self.job(place))[0]
            open_door = reaches(self.job(place, "door roller 8x6in at 8 -3in", "door roller open"))[0]
            self.assertGreaterEqual(walled.needs_m, open_door.needs_m - 1e-9)
            self.assertGreaterEqual(open_door.needs_m, free.needs_m - 0.05)
            port = port_of(ANY_CAR, self.job(place).site.bays[0], "in")
            room = self.job(place).site.areas[0]
            inside_m = min(
                port[0] - room.x_m,
                room.x_m + room.wide_m - port[0],
                port[1] - room.y_m,
                room.y_m + room.deep_m - port[1],
            )
            if abs(inside_m) > 0.3:
                # Without a door the way is there when the port is in the room, and only then.
                middle = self.job(place).site.bays[0]
                self.assertTrue(math.isfinite(walled.needs_m) <= (inside_m > 0), (place, middle))
