"""Demand sheets against the worked examples of Annex D, line by line."""

import unittest

from awlmark.core.books.nec.panel.demand import service_sheet
from awlmark.core.job.model import new_job
from awlmark.core.job.supply import Demand, Load, Supply
from awlmark.core.panel.bus import Sheet
from awlmark.core.quantities import SQUARE_FOOT_M2
from tests.outside import cases


def sheet(
    method: str, feet: float, *loads: Load, charge_a: float = 0.0, code: str = "nec-2023", **demand: object
) -> Sheet:
    """Sheet of a dwelling of so many square feet."""
    facts = Demand(method=method, floor_m2=feet * SQUARE_FOOT_M2, **demand)  # type: ignore[arg-type]
    return service_sheet(new_job(loads=loads, demand=facts, code=code, supply=Supply(service_a=100)), charge_a, 240)


def load(name: str, va: float, kind: str = "fixed", count: int = 1) -> Load:
    """One load with its name as id."""
    return Load(id=name, name=name, va=va, kind=kind, count=count)


class AnnexD(unittest.TestCase):
    source = cases.ANNEX_D

    def assert_rows(self, told: Sheet, **wanted: float) -> None:
        found = {row.text: row.counted_va for row in told.rows}
        for start, counted in wanted.items():
            key = next(text for text in found if text.lower().startswith(start.replace("_", " ")))
            self.assertAlmostEqual(found[key], counted, places=3, msg=key)

    def test_d1_a_one_family_dwelling(self) -> None:
        told = sheet("standard", 1500, load("range", 12000, "range"), load("dryer", 5500, "dryer"))
        self.assert_rows(told, lighting=5100, cooking=8000, dryers=5500)
        self.assertAlmostEqual(told.total_va, 18_600, places=3)
        self.assertEqual(round(told.total_va / 240), 78)

    def test_d2_a_optional_heating_the_larger(self) -> None:
        told = sheet(
            "optional",
            1500,
            load("range", 12000, "range"),
            load("water heater", 2500),
            load("dishwasher", 1200),
            load("dryer", 5000, "dryer"),
            load("space heat, five rooms", 9000, "heat 4+"),
            load("room cooling", 6 * 230, "cooling"),
        )
        self.assert_rows(told, first=10_000, the_rest=7_880, heat=3_600)
        self.assertAlmostEqual(told.total_va, 21_480, places=3)
        self.assertEqual(round(told.total_va / 240), 90)

    def test_d2_b_optional_cooling_the_larger(self) -> None:
        told = sheet(
            "optional",
            1500,
            load("ovens", 4000, "range", 2),
            load("cooktop", 5100, "range"),
            load("water heater", 4500),
            load("dishwasher", 1200),
            load("washer and dryer", 5000, "dryer"),
            load("room cooling", 7 * 240, "cooling", 6),
            load("bathroom heater", 1500, "heat"),
        )
        self.assert_rows(told, first=10_000, the_rest=9_120, cooling=10_080)
        self.assertAlmostEqual(told.total_va, 29_200, places=3)
        self.assertEqual(round(told.total_va / 240), 122)

    def test_d2_c_optional_with_a_heat_pump(self) -> None:
        told = sheet(
            "optional",
            2000,
            load("range", 12000, "range"),
            load("water heater", 4500),
            load("dishwasher", 1200),
            load("dryer", 5000, "dryer"),
            load("heat pump", 24 * 240, "heat pump"),
            load("backup heat", 15000, "heat"),
        )
        self.assert_rows(told, first=10_000, the_rest=9_280, heat=15_510)
        self.assertAlmostEqual(told.total_va, 34_790, places=3)
        self.assertEqual(round(told.total_va / 240), 145)


class Charger(unittest.TestCase):
    HOUSE = (load("range", 12000, "range"), load("dryer", 5000, "dryer"), load("water heater", 4500))

    def test_whole_outside_the_pool_or_in_it(self) -> None:
        without = sheet("optional", 2000, *self.HOUSE).total_va
        whole = sheet("optional", 2000, *self.HOUSE, charge_a=48).total_va
        pooled = sheet("optional", 2000, *self.HOUSE, charge_a=48, pool=True).total_va
        self.assertAlmostEqual(whole - without, 48 * 240)
        self.assertAlmostEqual(pooled - without, 0.4 * 48 * 240)

    def test_7200_va_floor_from_2023(self) -> None:
        for code, counted in (("nec-2017", 3840), ("nec-2020", 3840), ("nec-2023", 7200)):
            told = sheet("standard", 2000, *self.HOUSE, charge_a=16, code=code)
            self.assertAlmostEqual(told.charger_va, counted)

    def test_existing_dwelling_counts_8_kva_whole(self) -> None:
        told = sheet("existing", 2000, *self.HOUSE)
        pool = 6000 + 3000 + 1500 + 21_500
        self.assertAlmostEqual(told.total_va, 8000 + 0.4 * (pool - 8000))

    def test_measured(self) -> None:
        told = sheet("measured", 2000, measured_a=60.0, charge_a=40)
        self.assertAlmostEqual(told.total_va / 240, 60 * 1.25 + 40)

    def test_four_fixed_appliances_count_at_75_percent(self) -> None:
        three = sheet("standard", 1000, *(load(f"unit {n}", 1000) for n in range(3)))
        four = sheet("standard", 1000, *(load(f"unit {n}", 1000) for n in range(4)))
        self.assertAlmostEqual(four.total_va, three.total_va)

    def test_ranges_above_12_kw_and_small_ones(self) -> None:
        told = sheet("standard", 1000, load("range", 15_600, "range"))
        # 15.6 kW: four steps of 5 % on 8 kW (the major fraction counts).
        self.assertAlmostEqual(next(r.counted_va for r in told.rows if r.text.startswith("Cooking")), 9600)
        small = sheet("standard", 1000, load("cooktop", 5000, "range"))
        self.assertAlmostEqual(next(r.counted_va for r in small.rows if r.text.startswith("Cooking")), 4000)

    def test_what_the_tables_do_not_reach_counts_whole(self) -> None:
        cooking = sheet("standard", 1000, load("range", 8000, "range", 26))
        self.assertAlmostEqual(next(r.counted_va for r in cooking.rows if r.text.startswith("Cooking")), 208_000)
        many = sheet("standard", 1000, load("dryer", 5000, "dryer", 24))
        self.assertAlmostEqual(next(r.counted_va for r in many.rows if r.text.startswith("Dryers")), 120_000)

    def test_rows_of_the_range_and_dryer_tables(self) -> None:
        # NEC Tables 220.55 and 220.54, from memory; 220.54 gives 47 less one percent for each dryer above eleven.
        for count, kw in ((3, 14), (8, 23), (12, 27), (25, 40)):
            told = sheet("standard", 1000, load("range", 12_000, "range", count))
            self.assertAlmostEqual(next(r.counted_va for r in told.rows if r.text.startswith("Cooking")), kw * 1000)
        for count, percent in ((4, 100), (10, 50), (11, 47), (12, 46), (23, 35)):
            told = sheet("standard", 1000, load("dryer", 5000, "dryer", count))
            counted = next(r.counted_va for r in told.rows if r.text.startswith("Dryers"))
            self.assertAlmostEqual(counted, 50 * count * percent)

    def test_one_more_range_never_counts_less(self) -> None:
        for kind, va in (("range", 12_000), ("range", 8000), ("range", 3000)):
            counted = [
                next(r.counted_va for r in sheet("standard", 1000, load("x", va, kind, n)).rows if "Cooking" in r.text)
                for n in range(1, 26)
            ]
            if va == 12_000:
                self.assertEqual(counted, sorted(counted))
            else:
                # The printed percentages step down now and then faster than one more small range adds.
                self.assertGreater(counted[-1], counted[0])

    def test_small_dryers_count_5_kva(self) -> None:
        told = sheet("standard", 1000, load("dryer", 3000, "dryer"))
        self.assertAlmostEqual(next(r.counted_va for r in told.rows if r.text.startswith("Dryers")), 5000)
