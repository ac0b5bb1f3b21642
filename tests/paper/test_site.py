"""Steps, screws and tests on paper: what is done, what is read and what is struck stands there as it was typed."""

import unittest

from awlmark.core.build.steps import steps_of
from awlmark.core.build.torque import dials_of, unread
from awlmark.core.entry.read import read_entry
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.paper.packet import packet_pages
from awlmark.paper.test_form import test_pages


def typed(*entries: str) -> Job:
    """The demo after some entries."""
    job = demo_job()
    for entry in entries:
        job = read_entry(entry, job).job
    return job


def words(job: Job, title: str) -> str:
    """All words of the pages with a title."""
    pages = [page for page in packet_pages(solve(job)) if any(text.text.startswith(title) for text in page.texts())]
    return " ".join(text.text for page in pages for text in page.texts())


def test_words(job: Job) -> str:
    """All words of the test sheet."""
    return " ".join(text.text for page in test_pages(solve(job)) for text in page.texts())


class Steps(unittest.TestCase):
    def test_every_step_is_on_one_of_the_two_sheets(self) -> None:
        told = words(demo_job(), "Steps")
        for number, step in enumerate(steps_of(solve(demo_job())), 1):
            self.assertIn(step.title, told)
            self.assertIn(f" {number} ", f" {told} ")

    def test_a_done_step_carries_its_time(self) -> None:
        job = typed("done 1")
        first = steps_of(solve(job))[0]
        self.assertIn(job.build.done[first.id], words(job, "Steps"))

    def test_every_screw_stands_there_and_an_unread_one_says_so(self) -> None:
        job = typed("torque panel-G 35 in-lb")
        told = words(job, "Steps")
        for dial in dials_of(solve(job)):
            self.assertIn(dial.name, told)
        self.assertIn("35 lbf-in", told)
        pages = [text.text for page in packet_pages(solve(job)) for text in page.texts()]
        self.assertEqual(pages.count("read it off the part"), len(unread(solve(job))))

    def test_names_keep_their_letters_within_a_sentence(self) -> None:
        told = words(demo_job(), "Energise")
        for dial in unread(solve(demo_job())):
            self.assertIn(dial.name[0].lower() + dial.name[1:], told)


class Tests(unittest.TestCase):
    def test_every_test_has_its_row_and_band(self) -> None:
        job = typed("read dead 1-2 0 V")
        told = test_words(job)
        for test in tests_of(solve(job)):
            self.assertIn(test.key, told)

    def test_a_reading_stands_beside_its_test_and_a_struck_one_with_its_reason(self) -> None:
        told = test_words(typed("read charger loaded 233.1 V"))
        self.assertIn("233.1 V", told)
        struck = test_words(
            typed("read charger loaded 133.1 V", "strike 1 probe slipped", "read charger loaded 233.1 V")
        )
        self.assertIn("233.1 V", struck)

    def test_metric_jobs_are_told_in_celsius(self) -> None:
        told = test_words(put(typed("read lug 60 min 31 C"), Put("units", "m")))
        self.assertIn("°C", told)
        self.assertNotIn("°F", told)
