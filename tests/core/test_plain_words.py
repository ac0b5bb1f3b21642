"""Plain words of the trade in the Entry: other names, whole quotes, nearest words, suggestions, every fact."""

import unittest
from math import isclose

from msgspec.structs import replace

from awlmark.core.entry.cars import CAR_FACTS, SHARED_FACTS
from awlmark.core.entry.nearest import strays
from awlmark.core.entry.need import CAR_WORDS
from awlmark.core.entry.read import read_entry
from awlmark.core.entry.suggest import MOST, suggest
from awlmark.core.entry.supply_facts import supply_facts
from awlmark.core.entry.words import words
from awlmark.core.errors import InputError
from awlmark.core.job.edit import put
from awlmark.core.job.model import Job, new_job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import FOOT_M, MILE_KM
from awlmark.core.shelf import NEWEST
from awlmark.data import demo_job


def typed(text: str, job: Job | None = None) -> Job:
    return read_entry(text, job or new_job()).job


class PlainWords(unittest.TestCase):
    def test_a_quote_uses_every_word_or_names_the_one_it_cannot_use(self) -> None:
        leg = typed("48a 220ft buried pvc40").legs[0]
        self.assertEqual((leg.place, leg.method, round(leg.length_m / FOOT_M)), ("buried", "pvc40", 220))
        leg = typed("48a 60ft 1 emt").legs[0]
        self.assertEqual((leg.trade_size, leg.method), ("1", "emt"))
        job = typed("32 amps outlet 25 ft cable in the garage finished")
        leg = job.legs[0]
        self.assertEqual(
            (leg.place, leg.method, leg.mount, job.charger.connection), ("garage", "nm", "fished", "14-50")
        )
        for text, word in (("48a 60ft zzz emt", "zzz"), ("48a 60ft emt gold", "gold"), ("48a 60ft 9 emt", "9")):
            with self.assertRaises(InputError) as refused:
                read_entry(text, new_job())
            self.assertIn(f"'{word}'", str(refused.exception))

    def test_the_same_said_in_other_words_is_the_same(self) -> None:
        line = typed("48a 60ft emt")
        for one, other in (
            ("40a", "40 amps"), ("hardwired", "hard wired"), ("14-50", "plug"), ("14-50", "outlet 14-50"),
            ("emt", "pipe"), ("emt", "metal conduit"), ("pvc40", "plastic pipe"), ("leg 1 75ft", "75ft"),
            ("leg 1 75ft", "75 feet"), ("leg 1 75ft", "length 75"), ("daily 40 mi", "40 miles a day"),
            ("battery 60", "60 kWh"), ("floor 1900ft2", "1,900 sq ft"), ("service 200", "200 amp service"),
            ("mount fished", "finished wall"), ("nm", "cable"),
        ):  # fmt: skip
            with self.subTest(other):
                self.assertEqual(typed(other, line), typed(one, line))

    def test_legs_are_said_in_plain_words_too(self) -> None:
        line = typed("up 3")
        for one, other, job in (
            ("up 3 indoor", "up 3 ft in the basement", None), ("up 3 emt indoor", "up 3 pipe cellar", None),
            ("right 22 nm garage", "right 22 feet cable in the garage", None), ("right 10in", "right 10 in", None),
            ("right 5 outdoor", "right 5 outside", None), ("up 3 charger", "up 3 ft charger", None),
            ("leg 1 emt", "leg 1 pipe", line), ("leg 1 outdoor", "leg 1 outside", line),
            ("place indoor", "place basement", line), ("leg 1 place crawl", "leg 1 place crawl space", line),
            ("leg 1 75in", "leg 1 75 inches", line), ("mount inside", "leg 1 mount inside", line),
        ):  # fmt: skip
            with self.subTest(other):
                there = new_job() if job is None else job
                self.assertEqual(typed(other, replace(there, id="x")), typed(one, replace(there, id="x")))

    def test_what_a_quote_says_by_its_kind_alone_is_guessed(self) -> None:
        job = typed("32a outlet 25ft cable garage")
        self.assertLessEqual({"charger.connection", "legs[leg-1].method"}, set(job.guessed))
        told = typed("32a 14-50 25ft nm garage")
        self.assertFalse({"charger.connection", "legs[leg-1].method"} & set(told.guessed))

    def test_a_bare_length_changes_the_only_leg_and_never_guesses_among_several(self) -> None:
        with self.assertRaises(InputError) as refused:
            read_entry("75ft", demo_job())
        self.assertIn("leg 2 75ft", refused.exception.accepted)

    def test_an_unknown_word_is_named_with_the_nearest_known_ones(self) -> None:
        for text, stray, near in (("battrey 60", "battrey", "battery"), ("48a 60ft emmt", "emmt", "emt")):
            with self.assertRaises(InputError) as refused:
                read_entry(text, new_job())
            self.assertIn(f"'{stray}'", refused.exception.problem)
            self.assertTrue(refused.exception.accepted.startswith(near))
            (found,) = strays(text, new_job())
            self.assertEqual((text[found.start : found.end], found.near[0]), (stray, near))

    def test_every_fact_of_the_tables_has_a_word(self) -> None:
        """A value typed by its word is the one typed in its table."""
        job = typed("car Van")
        car = job.need.cars[0]
        values = {
            "Battery": "60", "Use": "3.5 mi/kWh", "On-board charger": "11 kW", "Level now": "40", "Port": "rear left",
            "Plugged in from": "18:30", "Leaves at": "7:15", "Winter takes, times": "1.4",
            "Charging efficiency": "0.88",
            "Price a kWh": "0.15", "Other prices by hour": "22-6 0.09", "Cars share": "turns",
            "Fuel it replaces": "3.60 at 28 mpg",
            "System": "120/208", "Small-appliance circuits": "3", "Laundry circuits": "2",
            "Charger in the 40 % pool": "yes", "Highest demand of a year": "60",
        }  # fmt: skip
        days = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
        tried = 0
        for word in words(NEWEST):
            _table, _, key = word.reader.partition("NEED_WORDS:")
            if not key or key in ("daily", "weekdays"):
                continue
            facts = {fact.label: fact for fact in (*CAR_FACTS, *SHARED_FACTS, *supply_facts(job))}
            says = read_entry(word.example, job).says if key != "shares" else ""
            label = next((label for label in facts if label.lower() in says.lower()), None)
            if label is None or (text := values.get(label, "40 mi" if key in days else "")) == "":
                self.assertEqual(key, "shares")
                continue
            with self.subTest(word.name):
                by_table = put(job, *facts[label].read(text, job, car if facts[label] in CAR_FACTS else None))
                self.assertEqual(read_entry(f"{word.name} {text}", job).job, by_table)
                tried += 1
        self.assertGreaterEqual(tried, len(values) + len(days) - 2)
        self.assertLessEqual({"battery", "daily", "monday"}, set(CAR_WORDS))

    def test_a_week_is_filled_at_once_and_a_car_is_made_when_there_is_none(self) -> None:
        job = typed("40 miles a day")
        self.assertEqual(len(job.need.cars), 1)
        self.assertTrue(all(isclose(km, 40 * MILE_KM) for km in job.need.cars[0].km))
        job = typed("weekdays 10", job)
        self.assertTrue(isclose(job.need.cars[0].km[4], 10 * MILE_KM) and isclose(job.need.cars[0].km[5], 40 * MILE_KM))
        job = typed("car Cart", job)
        job = typed("car 2 battery 30", job)
        self.assertEqual([car.battery_kwh for car in job.need.cars][1], 30)
        self.assertEqual(read_entry("battery 44", job, Spot(car=1)).job.need.cars[1].battery_kwh, 44)

    def test_undo_and_help_ask_the_desk_and_edit_nothing(self) -> None:
        job = demo_job()
        for text, act in (("undo", "menu:undo"), ("redo", "menu:redo"), ("help", "menu:keys")):
            reading = read_entry(text, job)
            self.assertEqual((reading.act, reading.job), (act, job))


class Suggestions(unittest.TestCase):
    def test_they_begin_with_what_is_typed_tell_what_they_do_and_the_value_now(self) -> None:
        job, spot = demo_job(), Spot("leg-2")
        found = suggest("ser", job, spot, "panel")
        self.assertEqual((found[0].text, found[0].now), ("service ", "150 A"))
        self.assertEqual(suggest("place g", job, spot, "run")[0].text, "place garage")
        self.assertEqual(suggest("48a 60ft em", new_job(), Spot(), "run")[0].text, "48a 60ft emt")
        self.assertEqual(suggest("battrey", job, spot, "need")[0].text, "battery ")
        self.assertEqual(suggest("zzyx", job, spot, "run"), ())
        self.assertEqual(suggest("miles", job, spot, "need")[0].text, "daily ")

    def test_there_are_at_most_six_and_what_they_put_into_the_entry_goes_on_reading(self) -> None:
        job, spot = demo_job(), Spot("leg-2")
        for letter in "abcdefghijklmnopqrstuvwxyz":
            found = suggest(letter, job, spot, "run")
            self.assertLessEqual(len(found), MOST)
            for one in found:
                with self.subTest(one.text):
                    self.assertTrue(one.does)
                    self.assertTrue(suggest(one.text, job, spot, "run") or not one.text.endswith(" "))
