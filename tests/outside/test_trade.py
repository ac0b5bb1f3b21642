"""Values of the trade: common practice, no source."""

import unittest

from awlmark.core.books import open_book
from awlmark.core.books.nec.sizing.fill import judge_fill
from awlmark.core.finding import HOLDS, STOP, TIGHT
from awlmark.core.job.leg import Bundle
from tests.outside import cases
from tests.support import design

BOOK = open_book("nec-2023")


class TradeValues(unittest.TestCase):
    source = cases.TRADE

    def test_charge_and_circuit(self) -> None:
        for charge, breaker in ((32, 40), (24, 30), (16, 20), (40, 50), (48, 60), (12, 15)):
            self.assertEqual(design(charge, 20).circuit.breaker_a, breaker)

    def test_kilowatts(self) -> None:
        for charge, kilowatts in ((48, 11.5), (40, 9.6), (32, 7.7), (24, 5.8), (16, 3.84)):
            circuit = design(charge, 20).circuit
            self.assertAlmostEqual(circuit.charge_a * circuit.volts / 1000, kilowatts, delta=0.05)

    def test_6_awg_as_nm_and_in_conduit(self) -> None:
        cable = design(48, 20, method="nm", circuit__size="6")
        self.assertEqual((cable.circuit.usable_a, cable.verdict), (55, STOP))
        for method in ("emt", "mc"):
            pipe = design(48, 20, method=method, circuit__size="6")
            self.assertEqual((pipe.circuit.usable_a, pipe.verdict), (65, HOLDS))

    def test_8_awg(self) -> None:
        self.assertEqual(design(32, 20, method="nm", circuit__size="8").circuit.usable_a, 40)
        self.assertEqual(design(32, 20, circuit__size="8").circuit.usable_a, 50)

    def test_ground_is_10_awg_for_40_50_and_60_amps(self) -> None:
        for charge in (32, 40, 48):
            self.assertEqual(design(charge, 20).circuit.ground, "10")

    def test_fill_and_jam_of_three_6_awg(self) -> None:
        three = (Bundle(count=3, size="6"),)
        for raceway, fill, jam in (("emt", 28.5, 3.24), ("pvc40", 29.9, 3.17), ("pvc80", 37.2, 2.84)):
            told = judge_fill(BOOK, BOOK.methods[raceway], "3/4", three)
            self.assertAlmostEqual(told["fill_percent"], fill, delta=0.051)
            self.assertAlmostEqual(told["jam_ratio"], jam, delta=0.0051)

    def test_five_12_and_three_6_awg_overfill_three_quarter_emt(self) -> None:
        told = judge_fill(BOOK, BOOK.methods["emt"], "3/4", (Bundle(count=5, size="12"), Bundle(count=3, size="6")))
        self.assertAlmostEqual(told["fill_percent"], 41.0, delta=0.05)
        self.assertFalse(told["holds"])

    def test_long_run_loses_what_the_trade_says(self) -> None:
        # 40 ft of 6 AWG at 48 A: 1.9 V; 152 ft is where 6 AWG passes 3 %.
        self.assertAlmostEqual(design(48, 40).circuit.drop_v, 1.9, delta=0.05)
        self.assertEqual(design(48, 152).circuit.size, "6")
        self.assertEqual(design(48, 153).circuit.size, "4")

    def test_a_6_awg_ground_where_10_serves_is_what_jams(self) -> None:
        made = design(48, 20, method="pvc40", circuit__ground_size="6")
        self.assertEqual(made.finding("jam:1").severity, TIGHT)
        self.assertIsNone(design(48, 20, method="pvc40").finding("jam:1"))
