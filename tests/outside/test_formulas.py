"""The sums of the rule book, each with its worked case, run as they stand in the docstrings."""

import doctest
import unittest

import numpy as np

from awlmark.core.books.nec.sizing import boxes, formulas


class Worked(unittest.TestCase):
    def test_every_worked_case_comes_out(self) -> None:
        for module in (formulas, boxes):
            failed, tried = doctest.testmod(module)
            self.assertEqual(failed, 0, module.__name__)
            self.assertGreater(tried, 0, module.__name__)

    def test_every_public_sum_has_one_and_takes_arrays(self) -> None:
        for name in ("continuous_a", "derated_ampacity_a", "grown_ground_cmil", "loop_ohm", "drop_v", "fill_percent"):
            self.assertIn(">>>", getattr(formulas, name).__doc__)
        several = np.array([10.0, 20.0])
        np.testing.assert_allclose(formulas.continuous_a(several), [12.5, 25.0])
        np.testing.assert_allclose(formulas.grown_ground_cmil(several, several * 4, several * 2), [20, 40])
        np.testing.assert_allclose(formulas.drop_v(10.0, 240.0, several / 10, several * 0), [10, 20])
        # A reactance of an ohm at 10 A of 240 V: 240 - sqrt(240^2 - 10^2) more than the resistance takes.
        self.assertAlmostEqual(formulas.drop_v(10.0, 240.0, 1.0, 1.0), 10 + 240 - (240**2 - 100) ** 0.5)
