"""What the driving asks for."""

import unittest

import msgspec
import numpy as np

from awlmark.core.books import open_book
from awlmark.core.entry.cars import (
    CAR_FACTS,
    MILE_KM,
    SHARED_FACTS,
    add_car,
    read_clock,
    read_use,
    read_windows,
    remove_car,
)
from awlmark.core.entry.cars import (
    DAYS as WEEK,
)
from awlmark.core.errors import InputError
from awlmark.core.finding import NOTE, TIGHT
from awlmark.core.job.cars import MOST_CARS, SHARINGS, Car, Need, PriceWindow
from awlmark.core.job.edit import Put, put
from awlmark.core.need.charging import COLD_DAYS, DAYS, currents_a, parked_h, price_steps, ramps, simulate_year
from awlmark.core.need.plan import OUTLET, plan_need, reason
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import refused, straight

SEDAN = Car(id="a", battery_kwh=60, use_kwh_per_km=0.25 / MILE_KM, km=(40 * MILE_KM,) * 7)
PORTABLE = open_book("nec-2023").portable
CURRENTS_A = currents_a(PORTABLE)
PLACES = {float(amps): place for place, amps in enumerate(CURRENTS_A) if place != OUTLET}


STEP_MIN = 3
"""Every hour of the cases below is a whole number of these steps."""


def slow_year(need: Need, place: int, volts: float) -> tuple[int, float, float, float]:
    """One current, stepped by three minutes: mornings short, kWh drawn, cost, and power squared by the hour."""
    cars, hours = need.cars, STEP_MIN / 60
    circuit = CURRENTS_A[place] * (120 if place == OUTLET else volts) / 1000
    most = [min(circuit, car.onboard_kw or circuit) for car in cars]
    first = min(car.arrive_h for car in cars)
    comes = [round((car.arrive_h - first) % 24 * 60) for car in cars]
    leaves = [come + round(parked_h(car) * 60) for come, car in zip(comes, cars, strict=True)]
    stored = [car.battery_kwh * car.level_percent / 100 for car in cars]
    use = [
        [
            car.km[(day + 3) % 7] * car.use_kwh_per_km * (need.cold_factor if day % DAYS in COLD_DAYS else 1)
            for day in range(DAYS + 1)
        ]
        for car in cars
    ]
    price = [price_at(need, (first + minute / 60) % 24) for minute in range(72 * 60)]
    short, drawn, cost, squared = 0, 0.0, 0.0, 0.0
    for day in range(DAYS):
        stored = [max(kwh - used[day], 0.0) for kwh, used in zip(stored, use, strict=True)]
        for minute in range(0, max(leaves), STEP_MIN):
            wants = [
                min(most[n], (car.battery_kwh - stored[n]) / need.efficiency / hours) if here else 0
                for n, car in enumerate(cars)
                for here in [comes[n] <= minute < leaves[n]]
            ]
            if not any(wants):
                continue
            if len(cars) > 1 and need.sharing == "half":
                wants = [min(want, circuit / len(cars)) for want in wants]
            elif len(cars) > 1 and need.sharing == "turns":
                order = sorted(range(len(cars)), key=lambda n: comes[n])
                turn = next((n for n in order if wants[n] > 1e-9), None)
                wants = [want * (n == turn) for n, want in enumerate(wants)]
            elif len(cars) > 1 and sum(wants) > circuit:
                # The level to which everybody may be filled, found by halving.
                low, high = 0.0, circuit
                for _ in range(40):
                    level = (low + high) / 2
                    low, high = (level, high) if sum(min(want, level) for want in wants) <= circuit else (low, level)
                wants = [min(want, low) for want in wants]
            for n, kw in enumerate(wants):
                stored[n] += kw * hours * need.efficiency
            drawn += sum(wants) * hours
            cost += sum(wants) * hours * price[minute]
            squared += sum(wants) ** 2 * hours
        short += any(stored[n] < min(use[n][day + 1], car.battery_kwh) - 1e-6 for n, car in enumerate(cars))
    return short, drawn, cost, squared


def price_at(need: Need, clock: float) -> float:
    """The price of a minute; of windows that overlap the last one counts."""
    price = float(need.price)
    for window in need.windows:
        one, other = window.from_h, window.to_h
        if one <= clock < other or (other < one and (clock >= one or clock < other)):
            price = float(window.price)
    return price


class Charging(unittest.TestCase):
    def test_rates_of_the_trade(self) -> None:
        # Common practice: a sedan at 3.5 to 4 mi/kWh gains 3 to 5, 11, 28 to 30, 38 to 40 and 44 to 45 miles an hour.
        known = ramps(msgspec.structs.replace(SEDAN, use_kwh_per_km=0.235 / MILE_KM), Need(), 240, PORTABLE)
        miles = known.km_per_h / MILE_KM
        for place, low, high in (
            (OUTLET, 3, 6),
            (PLACES[16], 11, 15),
            (PLACES[32], 28, 30),
            (PLACES[40], 36, 40),
            (PLACES[48], 43, 46),
        ):
            self.assertTrue(low <= miles[place] <= high, miles[place])
        for amps, kilowatts in ((48, 11.5), (40, 9.6), (32, 7.7), (24, 5.8), (16, 3.84)):
            self.assertAlmostEqual(known.kw[PLACES[amps]], kilowatts, delta=0.05)
        self.assertAlmostEqual(known.kw[OUTLET], 1.44)

    def test_the_cars_own_charger_ends_the_gain(self) -> None:
        held = ramps(msgspec.structs.replace(SEDAN, onboard_kw=7.7), Need(), 240, PORTABLE)
        self.assertEqual(held.kw[-1], 7.7)
        plan = plan_need(Need(cars=(msgspec.structs.replace(SEDAN, onboard_kw=7.7),)), 240, PORTABLE)
        self.assertEqual(CURRENTS_A[plan.useful_to], 32)

    def test_the_year_against_small_steps(self) -> None:
        car = Car(
            id="v",
            battery_kwh=80,
            use_kwh_per_km=0.28,
            onboard_kw=11,
            km=(200, 210, 190, 220, 200, 60, 0),
            arrive_h=19.25,
            leave_h=5.5,
        )
        need = Need(cars=(car,), cold_factor=1.3, price="0.25", windows=(PriceWindow(from_h=23, to_h=6, price="0.1"),))
        self.against_steps(need, OUTLET, PLACES[24], PLACES[40], PLACES[80])

    def against_steps(self, need: Need, *places: int) -> None:
        year = simulate_year(need, 240, PORTABLE)
        for place in places:
            with self.subTest(sharing=need.sharing, place=place):
                short, drawn, cost, squared = slow_year(need, place, 240)
                self.assertEqual(year.short_nights[place], short)
                # By turns the second car loses the rest of the step in which the first one fills up.
                close = 2e-3 if need.sharing == "turns" and len(need.cars) > 1 else 1e-6
                self.assertAlmostEqual(year.drawn_kwh[place], drawn, delta=drawn * close)
                self.assertAlmostEqual(year.cost[place], cost, delta=cost * 0.003)
                self.assertAlmostEqual(year.squared_kw2h[place], squared, delta=squared * 0.005)

    def test_two_cars_against_small_steps(self) -> None:
        # Prices that change off the quarter-hour, one car that comes later, on-board chargers below the circuit.
        windows = (PriceWindow(from_h=22.7, to_h=6.1, price="0.09"), PriceWindow(from_h=17.3, to_h=20.9, price="0.38"))
        one = Car(id="a", battery_kwh=60, use_kwh_per_km=0.2, km=(180.0,) * 7, onboard_kw=7.2, arrive_h=20, leave_h=5)
        two = msgspec.structs.replace(one, id="b", km=(220.0, 10, 150, 90, 300, 0, 60), arrive_h=18.4, leave_h=6.2)
        for sharing in SHARINGS:
            need = Need(cars=(one, two), sharing=sharing, price="0.21", windows=windows, cold_factor=1.25)
            self.against_steps(need, PLACES[48])

    def test_four_cars_against_small_steps(self) -> None:
        cars = tuple(
            Car(id=name, battery_kwh=kwh, use_kwh_per_km=0.2, km=(km,) * 7, onboard_kw=kw, arrive_h=at, leave_h=until)
            for name, kwh, km, kw, at, until in (
                ("a", 60, 120.0, 7.2, 20.0, 5.0), ("b", 40, 90.0, 3.6, 18.4, 6.2), ("c", 75, 200.0, 11.0, 21.5, 7.0),
                ("d", 50, 60.0, None, 17.0, 23.0),
            )
        )  # fmt: skip
        for sharing in ("turns", "managed"):
            need = Need(cars=cars, sharing=sharing, price="0.21", cold_factor=1.25)
            short, drawn, _cost, _squared = slow_year(need, PLACES[48], 240)
            year = simulate_year(need, 240, PORTABLE)
            with self.subTest(sharing):
                # By turns the steps lose up to one of theirs at every change of cars.
                close = 1e-2 if sharing == "turns" else 3e-3
                self.assertAlmostEqual(year.drawn_kwh[PLACES[48]], drawn, delta=drawn * close)
                self.assertLessEqual(abs(int(year.short_nights[PLACES[48]]) - short), 3)

    def test_by_turns_is_one_after_the_other(self) -> None:
        car = Car(id="a", battery_kwh=60, use_kwh_per_km=0.2, km=(180.0,) * 7, onboard_kw=7.2, arrive_h=20, leave_h=5)
        year = simulate_year(Need(cars=(car, msgspec.structs.replace(car, id="b")), sharing="turns"), 240, PORTABLE)
        # Nine hours of 7.2 kW a night are all that one of them at a time can take, whatever the circuit.
        self.assertEqual(year.short_nights[PLACES[48]], 365)
        self.assertAlmostEqual(year.drawn_kwh[PLACES[48]], 365 * 9 * 7.2)

    def test_the_last_morning_is_a_cold_one(self) -> None:
        car = Car(id="a", battery_kwh=20, use_kwh_per_km=0.2, km=(80.0,) * 7, onboard_kw=1.9, arrive_h=20, leave_h=6)
        year = simulate_year(Need(cars=(car,), cold_factor=1.2), 240, PORTABLE)
        short, *_rest = slow_year(Need(cars=(car,), cold_factor=1.2), PLACES[16], 240)
        self.assertEqual(year.short_nights[PLACES[16]], short)

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 300), st.integers(0, 300), st.sampled_from(SHARINGS), st.integers(0, 23), st.integers(0, 23))
    def test_more_amps_never_leave_more_mornings_short_and_energy_is_kept(
        self, one: int, two: int, sharing: str, arrive: int, leave: int
    ) -> None:
        cars = (
            Car(id="a", km=(float(one),) * 7, arrive_h=float(arrive), leave_h=float(leave)),
            Car(id="b", km=(float(two),) * 7, onboard_kw=7.0),
        )
        need = Need(cars=cars, sharing=sharing)
        year = simulate_year(need, 240, PORTABLE)
        self.assertTrue(np.all(np.diff(year.drawn_kwh[1:]) >= -1e-6))
        self.assertTrue(np.all(np.diff(year.short_nights[1:]) <= 0))
        driven = sum(min(car.km[0] * car.use_kwh_per_km, car.battery_kwh) for car in cars) * DAYS
        room = sum(car.battery_kwh for car in cars)
        self.assertLessEqual(year.drawn_kwh[-1] * need.efficiency, driven + room + 1e-6)

    def test_sharing(self) -> None:
        cars = (Car(id="a", km=(150.0,) * 7), Car(id="b", km=(150.0,) * 7))
        short = {
            how: simulate_year(Need(cars=cars, sharing=how), 240, PORTABLE).short_nights[PLACES[20]] for how in SHARINGS
        }
        self.assertLessEqual(short["managed"], short["half"])
        alone = simulate_year(Need(cars=cars[:1]), 240, PORTABLE).short_nights[PLACES[20]]
        self.assertLessEqual(alone, short["managed"])

    def test_prices_by_the_clock(self) -> None:
        need = Need(price="0.2", windows=(PriceWindow(from_h=22, to_h=6, price="0.1"),))
        starts, prices = price_steps(need)
        for clock in (0.0, 5.9, 6.0, 21.9, 22.0, 23.5):
            self.assertEqual(prices[np.searchsorted(starts, clock, side="right") - 1], price_at(need, clock), clock)


class Planning(unittest.TestCase):
    def test_the_demo_needs_its_48_amps(self) -> None:
        made = solve(demo_job())
        self.assertEqual(CURRENTS_A[made.need.enough], 48)
        self.assertIn("40 A leaves", reason(made.need))
        self.assertIsNone(made.finding("short-nights"))

    def test_too_little_is_tight_and_its_fix_fills_the_nights(self) -> None:
        made = solve(put(demo_job(), Put("charger.nameplate_a", 32.0)))
        finding = made.finding("short-nights")
        self.assertEqual((finding.severity, finding.stage), (TIGHT, "need"))
        quote = quote_fixes(made, finding)[0]
        self.assertIsNone(solve(quote.job).finding("short-nights"))

    def test_too_much_is_a_note(self) -> None:
        made = solve(put(demo_job(), Put("charger.nameplate_a", 80.0)))
        self.assertEqual(made.finding("car-limit").severity, NOTE)
        self.assertEqual(quote_fixes(made, made.finding("car-limit"))[0].job.charger.nameplate_a, 48)

    def test_little_driving_is_served_by_an_outlet(self) -> None:
        need = Need(cars=(msgspec.structs.replace(SEDAN, km=(30.0,) * 7),))
        self.assertEqual(plan_need(need, 240, PORTABLE).enough, OUTLET)
        self.assertIn("120 V", reason(plan_need(need, 240, PORTABLE)))

    def test_what_no_current_fills_is_said(self) -> None:
        need = Need(cars=(Car(id="a", km=(900.0,) * 7, battery_kwh=200, onboard_kw=7),))
        self.assertTrue(reason(plan_need(need, 240, PORTABLE)).startswith("No current"))

    def test_no_car_no_plan_and_nothing_changes(self) -> None:
        self.assertIsNone(solve(straight(48, 20)).need)

    def test_values_are_refused_at_the_edge(self) -> None:
        job = demo_job()
        for path, value in (
            ("need.cars[car-1].battery_kwh", 0.0),
            ("need.cars[car-1].use_kwh_per_km", float("nan")),
            ("need.cars[car-1].km", (1.0,) * 6),
            ("need.cars[car-1].km", (-1.0,) * 7),
            ("need.cars[car-1].port", "top"),
            ("need.cars[car-1].arrive_h", 25.0),
            ("need.efficiency", 1.5),
            ("need.price", "dear"),
            ("need.sharing", "never"),
            ("need.cars", (SEDAN,) * 2),
        ):
            with self.subTest(path), self.assertRaises(InputError):
                put(job, Put(path, value))


class Facts(unittest.TestCase):
    def test_consumption_in_every_unit(self) -> None:
        for text, per_km in (
            ("4 mi/kWh", 0.25 / MILE_KM), ("250 Wh/mi", 0.25 / MILE_KM), ("25 kWh/100 mi", 0.25 / MILE_KM),
            ("18 kWh/100km", 0.18), ("180 Wh/km", 0.18), ("5 km/kWh", 0.2),
        ):  # fmt: skip
            self.assertAlmostEqual(read_use(text), per_km)
        for text in ("4", "0 mi/kWh", "", "four"):
            with refused(self, "use"):
                read_use(text)

    def test_clock_and_windows(self) -> None:
        for text, hours in (("18", 18), ("18:30", 18.5), ("6:30 pm", 18.5), ("12 am", 0), ("12 pm", 12), ("24", 24)):
            self.assertEqual(read_clock(text, "t"), hours)
        for text in ("25", "24:30", "13 pm", "6:70", "", "noon"):
            with refused(self, "t"):
                read_clock(text, "t")
        found = read_windows("22-6 0.09, 17 to 21 0.31")
        self.assertEqual([(w.from_h, w.to_h, w.price) for w in found], [(22, 6, "0.09"), (17, 21, "0.31")])
        self.assertEqual(read_windows(""), ())
        with refused(self, "price windows"):
            read_windows("always cheap")

    def test_what_is_shown_reads_back(self) -> None:
        for units in ("ft", "m"):
            job = put(demo_job(), Put("units", units))
            car = job.need.cars[0]
            for fact in CAR_FACTS:
                again = put(job, *fact.read(fact.show(job, car), job, car)).need.cars[0]
                self.assertEqual(fact.show(job, again), fact.show(job, car), fact.label)
            for fact in SHARED_FACTS:
                self.assertEqual(
                    fact.show(put(job, *fact.read(fact.show(job, None), job, None)), None), fact.show(job, None)
                )

    def test_on_board_limit_in_amps_or_kilowatts_or_unread(self) -> None:
        job = demo_job()
        fact = next(fact for fact in CAR_FACTS if fact.label == "On-board charger")
        for text, kilowatts in (("32 A", 7.68), ("7.2 kW", 7.2), ("", None)):
            self.assertEqual(put(job, *fact.read(text, job, job.need.cars[0])).need.cars[0].onboard_kw, kilowatts)

    def test_a_day_is_typed_in_miles_or_kilometres(self) -> None:
        job = demo_job()
        fact = next(fact for fact in CAR_FACTS if fact.label == WEEK[2])
        for text, km in (("10", 10 * MILE_KM), ("10 mi", 10 * MILE_KM), ("16 km", 16)):
            self.assertAlmostEqual(put(job, *fact.read(text, job, job.need.cars[0])).need.cars[0].km[2], km)

    def test_cars_come_and_go(self) -> None:
        two = put(demo_job(), *add_car(demo_job()))
        self.assertEqual([car.id for car in two.need.cars], ["car-1", "car-2"])
        self.assertEqual(put(two, *remove_car(two, "car-2")), demo_job())
        many = two
        while len(many.need.cars) < MOST_CARS:
            many = put(many, *add_car(many))
        with refused(self, "cars"):
            put(many, *add_car(many))
