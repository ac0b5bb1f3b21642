"""Load management over a year: against a plain loop, step by step, and the facts of the trade."""

import math
import unittest

import numpy as np
from msgspec.structs import replace

from awlmark.core.books.nec.panel.buses import buses
from awlmark.core.errors import InputError
from awlmark.core.finding import STOP, TIGHT
from awlmark.core.job.cars import Car, Need
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import Load, Meter
from awlmark.core.panel.load_management import (
    allowed_a,
    even_kw,
    invented_for,
    load_year,
    nights_of,
    simulate_nights,
    ways,
)
from awlmark.core.panel.meter_data import Metered, demand_edits, doubts, invented_year, keep, kept
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import refused, straight

CAR = Car(id="c", battery_kwh=60, use_kwh_per_km=0.2, km=(60.0,) * 7, arrive_h=18, leave_h=6, onboard_kw=11.5)


def by_steps(need: Need, metered: Metered, allowed: np.ndarray, volts: float, charge_a: float) -> tuple[int, int]:
    """Nights and full nights, one step after another, one car: nothing shared with the code under test."""
    step_h = metered.interval_s / 3600
    car, owed, nights, full = need.cars[0], 0.0, 0, 0
    first_h = metered.starts[0] % 86400 / 3600
    steps = len(allowed)
    for day in range(int(steps * step_h // 24)):
        begin = round((24 * day + car.arrive_h - first_h) / step_h)
        end = begin + round(((car.leave_h - car.arrive_h) % 24) / step_h)
        if end > steps:
            continue
        owed = min(owed + car.km[0] * car.use_kwh_per_km, car.battery_kwh)
        for step in range(begin, end):
            kw = min(allowed[step], charge_a) * volts / 1000
            got = min(owed / need.efficiency, min(kw, car.onboard_kw or math.inf) * step_h)
            owed -= got * need.efficiency
        nights += 1
        full += owed <= 0.01
    return nights, full


def two_by_steps(need: Need, allowed: np.ndarray, charge_a: float) -> tuple[int, int]:
    """Nights and full nights of two cars that come one hour after another, by quarter-hours, from midnight on."""
    days, owed, full = len(allowed) // 96, [0.0, 0.0], 0
    nights = sum((day * 24 + 30) * 4 <= len(allowed) for day in range(days))
    for day in range(nights):
        for n, car in enumerate(need.cars):
            owed[n] = min(owed[n] + car.km[0] * car.use_kwh_per_km, car.battery_kwh)
        for step in range(int(day * 96 + 18 * 4), int(day * 96 + 30 * 4)):
            left = min(allowed[step], charge_a)
            for n, car in enumerate(need.cars):
                here = step >= day * 96 + car.arrive_h * 4 and owed[n] > 1e-9
                amps = min(allowed[step], charge_a) / 2 if need.sharing == "half" else left
                if not here or amps < 6 - 1e-9:
                    continue
                kw = min(amps * 0.24, car.onboard_kw)
                owed[n] -= min(kw * 0.25 * need.efficiency, owed[n])
                left = 0.0 if need.sharing == "turns" else left - kw / 0.24
        full += max(owed) <= 0.01 * need.efficiency
    return nights, full


class Nights(unittest.TestCase):
    def test_a_year_against_step_after_step(self) -> None:
        year = invented_year(peak_kw=20)
        others = even_kw(year) * 1000 / 240
        for most, km in ((60, 60.0), (60, 200.0), (45, 150.0), (200, 60.0)):
            need = Need(cars=(replace(CAR, km=(km,) * 7),))
            allowed = allowed_a(others, 40, most)
            found = simulate_nights(need, year, allowed, 240, 40, 200)
            self.assertEqual((found.nights, found.full), by_steps(need, year, allowed, 240, 40), (most, km))

    def test_below_six_amps_it_pauses(self) -> None:
        left = allowed_a(np.array([0.0, 30.0, 54.0, 54.1, 70.0]), 40, 60)
        np.testing.assert_allclose(left, [40, 30, 6, 0, 0])

    def test_hours_held_back_and_paused(self) -> None:
        # A flat 50 A under a 60 A set point: 10 A are left of 40 all night; 12 kWh at 2.4 kW take 5.6 h of each night.
        flat = Metered(np.arange(96 * 10) * 900.0, np.full(960, 12.0), 900.0)
        need = Need(cars=(CAR,))
        allowed = allowed_a(even_kw(flat) * 1000 / 240, 40, 60)
        found = simulate_nights(need, flat, allowed, 240, 40, 60)
        self.assertEqual((found.nights, found.full, found.paused_h, found.over_h), (9, 9, 0.0, 0.0))
        self.assertEqual(found.held_h, 9 * math.ceil(12 / 0.9 / 2.4 / 0.25) * 0.25)
        paused = simulate_nights(need, flat, allowed_a(even_kw(flat) * 1000 / 240, 40, 55), 240, 40, 60)
        self.assertEqual((paused.full, paused.paused_h), (0, 9 * 12.0))

    def test_two_cars_share_as_the_job_says(self) -> None:
        flat = Metered(np.arange(96 * 10) * 900.0, np.zeros(960), 900.0)
        cars = (replace(CAR, km=(250.0,) * 7, onboard_kw=None), replace(CAR, id="d", km=(50.0,) * 7, onboard_kw=None))
        full = {
            sharing: simulate_nights(Need(cars=cars, sharing=sharing), flat, np.full(960, 24.0), 240, 24, None).full
            for sharing in ("half", "turns", "managed")
        }
        # 12 h at 5.76 kW give 62 kWh in the battery: both together need 60; half of it does not fill the first.
        self.assertEqual(full["half"], 0)
        self.assertEqual(full["managed"], full["turns"])
        self.assertGreater(full["managed"], full["half"])

    def test_the_least_current_holds_for_each_of_two_cars(self) -> None:
        flat = Metered(np.arange(96 * 20) * 900.0, np.zeros(1920), 900.0)
        cars = (replace(CAR, km=(20.0,) * 7, onboard_kw=None), replace(CAR, id="d", km=(20.0,) * 7, onboard_kw=None))
        for sharing, allowed, each_fills in (
            # 8 A are 4 A each: neither charges. 12 A are the least for both.
            ("half", 8.0, False), ("half", 11.9, False), ("half", 12.0, True),
            # One after the other takes all 8 A; left over from 8 A while the first charges is nothing.
            ("turns", 8.0, True), ("managed", 8.0, True),
        ):  # fmt: skip
            found = simulate_nights(Need(cars=cars, sharing=sharing), flat, np.full(1920, allowed), 240, 40, None)
            self.assertEqual((found.nights, found.full), (19, 19 if each_fills else 0), (sharing, allowed))

    def test_two_cars_step_by_step(self) -> None:
        dice = np.random.default_rng(7)
        year = Metered(np.arange(96 * 40) * 900.0, np.zeros(96 * 40), 900.0)
        for number in range(24):
            km = [float(dice.integers(20, 260)) for _ in range(2)]
            cars = tuple(replace(CAR, id=str(n), km=(km[n],) * 7, arrive_h=18 + n) for n in range(2))
            need = Need(cars=cars, sharing=("half", "turns", "managed")[number % 3])
            allowed = np.where(dice.random(3840) < 0.4, 0.0, dice.uniform(6, 40, 3840))
            found = simulate_nights(need, year, allowed, 240, 40, None)
            self.assertEqual((found.nights, found.full), two_by_steps(need, allowed, 40), (number, km))

    @settings(max_examples=40, deadline=None)
    @given(st.floats(10, 150), st.floats(6, 80), st.integers(0, 5))
    def test_sensors_never_let_the_supply_pass_its_set_point(self, most: float, charge: float, seed: int) -> None:
        others = np.random.default_rng(seed).uniform(0, most, 500)
        total = others + allowed_a(others, charge, most)
        self.assertTrue((total <= most + 1e-9).all())

    @settings(max_examples=15, deadline=None)
    @given(st.floats(20, 100), st.floats(1, 40))
    def test_a_higher_set_point_never_fills_fewer_nights(self, most: float, more: float) -> None:
        year = Metered(np.arange(96 * 30) * 900.0, invented_year(peak_kw=15).kw[: 96 * 30], 900.0)
        others = even_kw(year) * 1000 / 240
        full = [
            simulate_nights(Need(cars=(CAR,)), year, allowed_a(others, 32, point), 240, 32, None).full
            for point in (most, most + more)
        ]
        self.assertLessEqual(*full)


class Ways(unittest.TestCase):
    def test_the_demo_offers_sensors_sharing_and_a_lower_setting(self) -> None:
        job = demo_job()
        year = invented_for(job)
        self.assertAlmostEqual(year.highest_kw * 1000 / 240, solve(job).buses[0].others_a, delta=1.3)
        found = {way.key: way for way in ways(job, year, 48)}
        self.assertEqual(set(found), {"sensors", "shared", "lower"})
        self.assertEqual(found["sensors"].nights.full, found["sensors"].nights.nights)
        for way in found.values():
            self.assertTrue(way.buy and way.label and way.test)
            taken = put(job, *way.edits)
            self.assertEqual(solve(taken).stops, (), way.key)
        self.assertIn("120 A", found["sensors"].label)
        # The wash heater's 25 A breaker carries 20 A for hours.
        self.assertIn(Put("charger.setting_a", 20.0), found["shared"].edits)

    def test_a_shared_circuit_counts_the_larger_of_the_two(self) -> None:
        job = straight(48, 20, supply__service_a=100.0)
        loads = (Load(id="t", name="Tub", va=7200.0), Load(id="o", name="Lamps", va=4800.0, kind="general"))
        job = replace(job, occupancy="other", loads=loads)
        apart, together = (buses(one, 48, 240)[0] for one in (put(job, Put("demand.shares", "t")), job))
        self.assertAlmostEqual(together.needed_a, 20 + 30 + 1.25 * 48)
        self.assertAlmostEqual(apart.needed_a, 20 + 1.25 * 48)
        small = buses(put(job, Put("demand.shares", "t")), 12, 240)[0]
        self.assertAlmostEqual(small.needed_a, 20 + 1.25 * 12 + (7200 - 12 * 240) / 240)
        made = solve(put(job, Put("demand.shares", "t")))
        self.assertEqual(made.finding("sharing").severity, TIGHT)
        older = solve(put(job, Put("demand.shares", "t"), Put("code", "nec-2017")))
        self.assertEqual(older.finding("sharing").severity, STOP)
        self.assertTrue(any("Test:" in line for line in made.finding("sharing").sums))
        self.assertTrue(any(part.key == "management:switch" for part in made.parts))
        with refused(self, "shared circuit"):
            put(job, Put("demand.shares", "gone"))

    def test_the_set_point_holds_the_charger(self) -> None:
        job = put(demo_job(), Put("demand.managed", True), Put("demand.set_point_a", 120.0))
        made = solve(job)
        self.assertAlmostEqual(made.finding("management").found, 120 - made.buses[0].others_a)
        self.assertTrue(any("120 A" in line for line in made.finding("management").sums))
        starved = solve(put(job, Put("demand.set_point_a", 84.0)))
        self.assertEqual(starved.finding("management").severity, TIGHT)

    def test_without_a_rating_or_a_charger_nothing_is_offered(self) -> None:
        job = put(demo_job(), Put("supply.service_a", None))
        self.assertEqual(ways(job, invented_year(), 48), ())
        self.assertEqual(ways(demo_job(), invented_year(), 0), ())
        self.assertEqual(len(nights_of(put(demo_job(), Put("need.cars", ()))).cars), 1)


class Picture(unittest.TestCase):
    def test_hours_and_curves_are_the_data(self) -> None:
        job, year = demo_job(), invented_year(peak_kw=20)
        drawn = load_year(job, year, 48)
        self.assertEqual(drawn.others_a.shape, (365, 24))
        hour = year.kw.reshape(365, 24, 4).max(axis=2) * 1000 / 240
        np.testing.assert_allclose(drawn.others_a, hour)
        self.assertTrue((np.diff(drawn.curve_a) <= 0).all() and (np.diff(drawn.with_a) <= 0).all())
        self.assertTrue((drawn.with_a >= drawn.curve_a - 1e-9).all())
        self.assertIs(load_year(job, year, 48), drawn, "kept by its input")
        self.assertIs(load_year(put(job, Put("name", "Other")), year, 48), drawn, "a name changes nothing")

    def test_gaps_stay_empty(self) -> None:
        starts = np.concatenate([np.arange(96.0), np.arange(960.0, 1056.0)]) * 900
        drawn = load_year(demo_job(), Metered(starts, np.ones(192), 900.0), 48)
        self.assertEqual(drawn.others_a.shape[0], 11)
        self.assertTrue(np.isnan(drawn.others_a[5]).all())


class Kept(unittest.TestCase):
    def test_a_job_keeps_a_year_to_its_step(self) -> None:
        year = invented_year(peak_kw=12)
        again = kept(keep(year, "year.csv"))
        np.testing.assert_array_equal(again.starts, year.starts)
        self.assertLessEqual(float(np.abs(again.kw - year.kw).max()), 0.005 + 1e-9)
        self.assertLess(len(keep(year, "x").counts), 80_000)
        large = Metered(year.starts, year.kw * 100, 900.0)
        self.assertLess(float(np.abs(kept(keep(large, "x")).kw - large.kw).max()), 0.03)

    def test_gaps_and_solar_survive(self) -> None:
        starts = np.array([0.0, 900.0, 3600.0])
        again = kept(keep(Metered(starts, np.array([1.0, -2.5, 3.0]), 900.0), "x"))
        np.testing.assert_array_equal(again.starts, starts)
        np.testing.assert_allclose(again.kw, [1, -2.5, 3])

    def test_damaged_data_are_named(self) -> None:
        good = keep(invented_year(), "x")
        for bad in (
            replace(good, counts="!"), replace(good, counts=good.counts[:100]), replace(good, start="yesterday"),
            replace(good, counts=""), replace(good, interval_s=0), replace(good, step_w=0),
        ):  # fmt: skip
            with self.subTest(bad.start), self.assertRaises(InputError) as caught:
                solve(put(straight(48, 20), Put("meter", bad)))
            self.assertEqual(caught.exception.field.split(",")[0], "meter data")

    def test_a_job_with_a_year_solves_and_is_measured(self) -> None:
        job: Job = put(straight(48, 20, supply__service_a=200.0), *demand_edits(invented_year(peak_kw=9), 240, "y.csv"))
        self.assertIsInstance(job.meter, Meter)
        self.assertEqual(job.demand.method, "measured")
        self.assertAlmostEqual(solve(job).buses[0].others_a, 9000 / 240 * 1.25, places=1)

    def test_missing_seasons_are_named(self) -> None:
        year = invented_year()
        spring = Metered(year.starts[: 96 * 120], year.kw[: 96 * 120], 900.0)
        self.assertEqual(spring.missing_months()[:2], ("May", "Jun"))
        self.assertIn("Jul", doubts(spring))
        self.assertEqual(doubts(year), "")
