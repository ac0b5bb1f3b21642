"""Ways a line usually goes, the walk along it, and a job in one row of the shelf."""

import contextlib
import datetime as dt
import tempfile
import unittest
from math import isclose
from pathlib import Path

from msgspec.structs import replace

from awlmark.core.begin.summary import summarise
from awlmark.core.begin.walk import answer, question, questions
from awlmark.core.begin.ways import KEPT, asked, begin, keep, own, shipped
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Job, new_job
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import solve
from awlmark.data import FOUNDRY, demo_job


def walked(job: Job) -> Job:
    """A job with every question answered as it is guessed."""
    while found := questions(job):
        job = answer(job, found[0].path, "").job
    return job


class Ways(unittest.TestCase):
    def test_six_ship_each_with_a_whole_line_and_only_guesses(self) -> None:
        self.assertEqual(len(shipped()), 6)
        for way in shipped():
            assert way.job is not None
            with self.subTest(way.name):
                job = begin(way.job)
                self.assertNotEqual(job.id, way.job.id)
                design = solve(job)
                self.assertTrue(design.line.closed)
                self.assertEqual(design.verdict == "holds", False)
                self.assertEqual({one.path for one in questions(job)}, set(job.guessed))
                self.assertEqual(job.guessed, asked(job.legs))
                for leg in job.legs:
                    self.assertIn(f"legs[{leg.id}].length_m", job.guessed)

    def test_the_walk_ends_with_nothing_guessed_and_the_same_list(self) -> None:
        for way in shipped():
            assert way.job is not None
            job = begin(way.job)
            done = walked(job)
            with self.subTest(way.name):
                self.assertEqual(done.guessed, ())
                self.assertLessEqual(len(job.guessed) + 2, 19)  # with its number and Enter: under 20 keys
                before, after = solve(job), solve(done)
                self.assertEqual([part.quantity for part in before.parts], [part.quantity for part in after.parts])
                self.assertIsNone(after.finding("guessed"))

    def test_five_ship_for_britain_and_each_is_walked_in_its_own_words(self) -> None:
        ways = shipped(FOUNDRY)
        self.assertEqual([way.job.id for way in ways], ["b1-beside", "b2-loft", "b3-outbuilding", "b4-outlet", "b5-tt"])
        for way in ways:
            job = begin(way.job)
            with self.subTest(way.name):
                self.assertEqual(job.code, FOUNDRY)
                self.assertEqual({one.path for one in questions(job)}, set(job.guessed))
                self.assertLessEqual(len(job.guessed) + 2, 20)  # with its number and Enter
                for one in questions(job):
                    kept = answer(job, one.path, one.text).job
                    self.assertEqual(replace(kept, guessed=()), replace(job, guessed=()), one.label)
                design, done = solve(job), solve(walked(job))
                self.assertTrue(design.line.closed)
                self.assertEqual(done.job.guessed, ())
                self.assertEqual([part.key for part in design.parts], [part.key for part in done.parts])
                self.assertFalse(done.stops, [one.text for one in done.stops])
        self.assertEqual([way.job.supply.earthing for way in ways], [*["tn-c-s"] * 4, "tt"])
        self.assertTrue(all("supply.earthing" in way.job.guessed for way in ways))

    def test_a_shop_keeps_its_own_and_a_file_that_is_none_is_told_and_left_alone(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "patterns"
            path = keep(demo_job(), "Press house, to the yard", "Out and across.", folder)
            damaged = folder / "a-damaged.awlmark"
            damaged.write_text("{}")
            (kept,) = [way for way in own(folder) if way.job is not None]
            self.assertEqual((kept.name, kept.says), ("Press house, to the yard", "Out and across."))
            assert kept.job is not None
            self.assertEqual(kept.job.guessed, asked(demo_job().legs))
            self.assertEqual((kept.job.prove.readings, kept.job.build.done), ((), {}))
            (told,) = [way for way in own(folder) if way.job is None]
            self.assertIn("no pattern", told.says)
            self.assertEqual(damaged.read_text(), "{}")
            self.assertTrue(path.exists())
        self.assertEqual(own(Path("/nowhere")), ())

    def test_a_way_tells_nothing_of_a_site_that_it_does_not_guess(self) -> None:
        """Neither those that ship nor one kept of a job that was read, built and proved."""
        told = demo_job()
        for text in ("leg 3 fire no", "leg 2 exposed no", "leg 1 edge 2in", "terminals 75", "kind so"):
            with contextlib.suppress(InputError):
                told = read_entry(text, told).job
        with tempfile.TemporaryDirectory() as name:
            keep(told, "Kept", "A line.", Path(name))
            ways = (*shipped(), *own(Path(name)))
        allowed = {"name", "note", "id", "guessed", "prices", "hours", "buying", "currency"}
        allowed |= {"units", "code", "occupancy"}
        for way in ways:
            assert way.job is not None
            with self.subTest(way.name):
                bare = new_job()
                for field in way.job.__struct_fields__:
                    if field in allowed or getattr(way.job, field) == getattr(bare, field):
                        continue
                    self.assertIn(field, ("run", "supply", "existing"))
                supply = replace(way.job.supply, service_a=None, place="indoor")
                self.assertEqual(supply, bare.supply)
                self.assertEqual(replace(way.job.existing, breaker=None), bare.existing)
                if way.job.existing.breaker is not None:
                    self.assertIn("existing.breaker", way.job.guessed)
                charger = replace(way.job.charger, nameplate_a=None, connection="hardwired")
                self.assertEqual(charger, bare.charger)
                self.assertEqual(way.job.circuit, bare.circuit)
                for leg in way.job.legs:
                    course = Leg(**{one: getattr(leg, one) for one in KEPT})
                    self.assertEqual(leg, course)
                    if leg.mount is not None:
                        self.assertIn(f"legs[{leg.id}].mount", way.job.guessed)


class Walk(unittest.TestCase):
    def job(self, number: int) -> Job:
        way = shipped()[number - 1].job
        assert way is not None
        return begin(way)

    def test_an_answer_is_read_by_the_same_words_as_everything_else(self) -> None:
        job = self.job(5)
        for path, text in (
            ("charger.nameplate_a", "48"), ("charger.connection", "outlet"), ("supply.service_a", "150"),
            ("legs[leg-5].length_m", "220ft"), ("legs[leg-5].cover_m", "2ft"), ("legs[leg-3].wall", "brick"),
            ("legs[leg-1].place", "garage"), ("legs[leg-5].surface", "drive"),
        ):  # fmt: skip
            job = answer(job, path, text).job
            self.assertNotIn(path, job.guessed)
        self.assertEqual((job.charger.nameplate_a, job.charger.connection, job.supply.service_a), (48, "14-50", 150))
        self.assertTrue(isclose(job.legs[4].length_m, 220 * FOOT_M) and isclose(job.legs[4].cover_m or 0, 2 * FOOT_M))
        self.assertEqual((job.legs[2].wall, job.legs[0].place, job.legs[4].surface), ("brick", "garage", "drive"))

    def test_a_method_that_is_answered_once_is_meant_for_every_leg_that_had_it(self) -> None:
        job = answer(self.job(2), "legs[leg-1].method", "cable").job
        self.assertEqual({leg.method for leg in job.legs}, {"nm"})
        job = answer(self.job(5), "legs[leg-1].method", "nm").job
        self.assertEqual([leg.method for leg in job.legs], ["nm", "nm", None, "pvc40", "pvc40", "pvc40"])

    def test_other_words_are_taken_and_the_question_stays(self) -> None:
        job = self.job(2)
        reading = answer(job, "legs[leg-2].length_m", "box")
        self.assertEqual(reading.job.legs[1].end, "box")
        self.assertIn("legs[leg-2].length_m", reading.job.guessed)
        with self.assertRaises(InputError):
            answer(job, "legs[leg-2].length_m", "zzyx")
        with self.assertRaises(InputError):
            question(read_entry("rub", job).job, "legs[leg-4].length_m")

    def test_what_stands_there_is_shown_as_it_would_be_typed(self) -> None:
        job = self.job(2)
        for one in questions(job):
            with self.subTest(one.label):
                kept = answer(job, one.path, one.text).job
                self.assertEqual(replace(kept, guessed=()), replace(job, guessed=()))
                self.assertTrue(answer(job, one.path, one.text + " ").job)


class Shelf(unittest.TestCase):
    def test_a_job_in_one_row(self) -> None:
        today = dt.date(2026, 5, 2)
        found = summarise(demo_job(), today)
        self.assertEqual((found.name, found.mark, found.price), ("Cider yard, north bay", "holds", "$1,289"))
        self.assertEqual(summarise(new_job(), today).due, "no line yet")
        way = shipped()[0].job
        assert way is not None
        self.assertEqual(summarise(way, today).due, f"{len(way.guessed)} readings guessed")
        broken = read_entry("breaker 50", demo_job()).job
        self.assertEqual((summarise(broken, today).mark, summarise(broken, today).due[:11]), ("stop", "line broken"))
