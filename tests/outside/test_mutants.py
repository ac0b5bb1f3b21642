"""A short run of the mutants of :mod:`tests.mutants`; the long target takes more, and other seeds each time."""

import random
import unittest

from tests import mutants
from tests.support import LONG

COUNTS = {"job": 24, "meter": 24, "book": 15, "log": 20, "entry": 24, "command": 20}


class Mutants(unittest.TestCase):
    def test_none_ends_in_anything_but_an_answer_or_a_refusal_in_words(self) -> None:
        seed = random.randrange(10**9) if LONG else 16
        for kind, count in COUNTS.items():
            with self.subTest(kind=kind, seed=seed):
                self.assertEqual(mutants.failures(kind, seed, count * (80 if LONG else 1)), [])

    def test_the_driver_sees_what_it_looks_for(self) -> None:
        def slow(_chance: random.Random) -> None:
            while True:
                pass

        def breaks(_chance: random.Random) -> None:
            raise ZeroDivisionError

        before = dict(mutants.KINDS), mutants.HANG_S
        try:
            mutants.KINDS |= {"slow": slow, "breaks": breaks}
            mutants.HANG_S = 0.2
            self.assertIn("HangError", mutants.failures("slow", 1, 1)[0])
            self.assertIn("ZeroDivisionError", mutants.failures("breaks", 1, 1)[0])
        finally:
            mutants.KINDS.clear()
            mutants.KINDS |= before[0]
            mutants.HANG_S = before[1]
