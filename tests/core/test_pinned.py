"""Links of the circuit pinned and opened by what is typed, each bad value named with what would do."""

import unittest

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put, value_at
from awlmark.core.job.model import Job
from awlmark.core.solve.design import solve
from awlmark.data import demo_job

GOOD = (
    ("breaker 60", "circuit.breaker_a", 60.0),
    ("breaker open", "circuit.breaker_a", None),
    ("ground 8", "circuit.ground_size", "8"),
    ("ground open", "circuit.ground_size", None),
    ("size 4", "circuit.size", "4"),
    ("size 1/0", "circuit.size", "1/0"),
    ("size open", "circuit.size", None),
    ("drop 2.5%", "circuit.max_drop_percent", 2.5),
    ("service 200", "supply.service_a", 200.0),
    ("set 40", "charger.setting_a", 40.0),
    ("set open", "charger.setting_a", None),
)
BAD = (
    ("breaker 55", "breaker", "no standard rating"),
    ("breaker", "breaker", "more to say"),
    ("breaker sixty", "breaker", ""),
    ("size 5", "conductor size", ""),
    ("ground 9", "ground size", ""),
    ("drop 0", "drop limit", ""),
    ("drop much", "drop limit", ""),
    ("service 5", "service rating", ""),
    ("set 400", "set", ""),
)


def typed(text: str, job: Job) -> Job:
    """A job after an entry."""
    return read_entry(text, job).job


class Pins(unittest.TestCase):
    def test_each_word_pins_or_opens_its_link(self) -> None:
        for text, path, value in GOOD:
            with self.subTest(text):
                self.assertEqual(value_at(typed(text, demo_job()), path), value)

    def test_a_bad_value_names_its_field_and_what_would_do(self) -> None:
        for text, field, problem in BAD:
            with self.subTest(text), self.assertRaises(InputError) as caught:
                typed(text, demo_job())
            self.assertIn(field.split()[0], caught.exception.field.lower())
            self.assertIn(problem, caught.exception.problem)
            self.assertTrue(caught.exception.accepted)

    def test_a_locked_setting_counts_and_an_unlocked_one_does_not(self) -> None:
        self.assertEqual(solve(typed("set 32 locked", demo_job())).circuit.charge_a, 32)
        self.assertEqual(solve(typed("set 32", demo_job())).circuit.charge_a, 48)

    def test_pinning_what_the_solver_chose_changes_nothing(self) -> None:
        open_one = solve(demo_job())
        for text in (f"size {open_one.circuit.size}", f"breaker {open_one.circuit.breaker_a:g}", "ground 10"):
            with self.subTest(text):
                pinned = solve(typed(text, demo_job()))
                self.assertEqual((pinned.circuit, pinned.parts), (open_one.circuit, open_one.parts))

    def test_a_preference_picks_among_the_same_rows(self) -> None:
        ways = ("price", "low loss", "easy pull")
        price, loss, easy = (solve(put(demo_job(), Put("circuit.prefer", way))) for way in ways)
        self.assertLess(loss.circuit.drop_v, price.circuit.drop_v)
        self.assertLessEqual(price.cost, loss.cost)
        self.assertEqual(easy.circuit.size, "6")
        self.assertFalse(loss.stops or easy.stops)
