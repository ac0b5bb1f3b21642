"""Cost of driving by charger and by fuel, and what an ordinary outlet would still do; by hand from the same facts."""

import unittest

import numpy as np

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.need.costs import by_outlet, costs
from awlmark.core.quantities import MILE_KM
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.draw.stages.need_view import draw_need
from awlmark.draw.view_state import Look

US_GALLON_L = 3.785411784
"""231 cubic inches, NIST Handbook 44 Appendix C."""


def typed(*entries: str) -> Job:
    job = demo_job()
    for text in entries:
        job = read_entry(text, job).job
    return job


class Costs(unittest.TestCase):
    def test_a_mile_by_charger_is_energy_through_its_efficiency_at_the_flat_price(self) -> None:
        job = put(typed("winter 1", "tariff 0.20"), Put("need.windows", ()))
        design = solve(job)
        assert design.need is not None
        found = costs(job.need, design.need, design.need.enough)
        assert found is not None
        per_km = job.need.cars[0].use_kwh_per_km / job.need.efficiency * 0.20
        # The simulated year has 365 days and not quite 52 weeks and a day, and begins part full.
        self.assertAlmostEqual(found.per_km / per_km, 1.0, delta=0.01)

    def test_fuel_is_price_over_way(self) -> None:
        job = typed("fuel 3.60 at 28 mpg")
        design = solve(job)
        assert design.need is not None
        found = costs(job.need, design.need, design.need.enough)
        assert found is not None and found.fuel_per_km is not None and found.saved is not None
        self.assertAlmostEqual(found.fuel_per_km * MILE_KM, 3.60 / 28, places=9)
        self.assertAlmostEqual(found.saved, (found.fuel_per_km - found.per_km) * found.year_km)
        metric = typed("fuel 1.65/l at 7 l/100km")
        self.assertAlmostEqual(metric.need.fuel_per_l / metric.need.fuel_km_per_l, 1.65 * 7 / 100)
        self.assertAlmostEqual(typed("fuel 1.00/l at 28 mpg").need.fuel_km_per_l, 28 * MILE_KM / US_GALLON_L)
        self.assertIsNone(typed("fuel 3.60 at 28 mpg", "fuel none").need.fuel_per_l)
        for wrong in ("fuel 3.60", "fuel at 28 mpg", "fuel 3.60 at 0 mpg", "fuel 3.60 at 28"):
            with self.subTest(wrong), self.assertRaises(InputError):
                typed(wrong)

    def test_nothing_is_said_where_mornings_stay_short_or_nobody_drives(self) -> None:
        job = demo_job()
        plan = solve(job).need
        assert plan is not None
        self.assertIsNone(costs(job.need, plan, 0))
        still = put(job, Put("need.cars[car-1].km", (0.0,) * 7)) if job.need.cars[0].id == "car-1" else job
        if still is not job:
            idle = solve(still).need
            assert idle is not None
            self.assertIsNone(costs(still.need, idle, idle.enough))

    def test_an_outlet_still_brings_what_a_night_of_it_holds(self) -> None:
        job = demo_job()
        plan = solve(job).need
        assert plan is not None
        car, outlet = job.need.cars[0], by_outlet(job.need, plan)
        hours = (car.leave_h - car.arrive_h) % 24
        by_hand = outlet.volts * outlet.amps / 1000 * hours * job.need.efficiency / car.use_kwh_per_km
        self.assertAlmostEqual(outlet.night_km, by_hand, delta=0.01 * by_hand)
        self.assertAlmostEqual(outlet.day_km, float(np.mean(car.km)))

    def test_both_are_told_on_the_stage(self) -> None:
        design = solve(typed("fuel 3.60 at 28 mpg"))
        told = " ".join(text.text for text in draw_need(design, Look(stage="need"), 792, 348).texts())
        self.assertIn("by fuel:", told)
        self.assertIn("120 V, 12 A: still", told)
        clock = next(hit for hit in draw_need(design, Look(), 792, 348).hits if hit.id == "clock-leaves")
        self.assertTrue(clock.act.startswith("edit:car 1 leaves \t"))


if __name__ == "__main__":
    unittest.main()
