"""Reading what people type, printing what they know."""

import contextlib
import unittest

from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.quantities import (
    FOOT_M,
    INCH_M,
    draw_length,
    draw_trade_size,
    print_amps,
    print_gauge,
    print_length,
    print_near,
    print_temperature,
    read_gauge,
    read_length,
    read_money,
    read_number,
    read_temperature,
    read_trade_size,
)
from tests.drawn import given, st
from tests.support import refused

SIZES = ("14", "12", "10", "8", "6", "4", "1/0", "250")


class Conductors(unittest.TestCase):
    def test_gauges_and_circular_mils_each_with_its_own_unit(self) -> None:
        for told, wanted in (
            ((2, "6", "10"), "2 × 6 + 1 × 10 AWG"),
            ((3, "4/0", None), "3 × 4/0 AWG"),
            ((2, "300", "4"), "2 × 300 kcmil + 1 × 4 AWG"),
            ((2, "500", "250"), "2 × 500 + 1 × 250 kcmil"),
            ((2, "250", None), "2 × 250 kcmil"),
        ):
            self.assertEqual(open_book("nec-2023").print_wires(*told), wanted)


class ReadsLengths(unittest.TestCase):
    def test_every_form_people_type(self) -> None:
        cases = {
            "12": 144, "12 6": 150, "12' 6 5/8\"": 150.625, '150"': 150, "3 2": 38, "3' 2 5/8\"": 38.625, '38"': 38,
            "120ft": 1440, "18in": 18, "16 in": 16, '5/8"': 0.625, "12'6": 150, "12ft 6in": 150, "6½\"": 6.5,
            "12′ 6⅝″": 150.625, "12.5": 150, "1 4": 16, "12' 6-5/8\"": 150.625, "12 6 5/8": 150.625, "12 feet": 144,
        }  # fmt: skip
        for text, inches in cases.items():
            with self.subTest(text):
                self.assertAlmostEqual(read_length(text), inches * INCH_M, places=9)

    def test_metric_forms(self) -> None:
        for text, metres in {"3.8 m": 3.8, "38cm": 0.38, "96cm": 0.96, "150 mm": 0.15}.items():
            self.assertAlmostEqual(read_length(text), metres)
        self.assertAlmostEqual(read_length("2.5", units="m"), 2.5)
        self.assertAlmostEqual(read_length("8' 6\"", units="m"), 102 * INCH_M)

    def test_refuses_what_it_cannot_read_and_names_the_field(self) -> None:
        for text in (
            "",
            "3 2 2",
            "1/0",
            "12 14",
            "-3",
            "0",
            "nan",
            "inf",
            "1e9",
            "9" * 30,
            '5/0"',
            '9/8"',
            "1 m 20",
            "٣",
        ):
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_length(text, "leg up")
            self.assertEqual(caught.exception.field, "leg up")
            self.assertTrue(caught.exception.accepted)

    @given(st.integers(1, 8 * 12 * 9999))
    def test_printed_feet_read_back_exactly(self, eighths: int) -> None:
        metres = eighths * INCH_M / 8
        self.assertAlmostEqual(read_length(print_length(metres)), metres, places=9)
        self.assertAlmostEqual(read_length(draw_length(metres)), metres, places=9)

    @given(st.integers(1, 3_000_000))
    def test_printed_metres_read_back_exactly(self, millimetres: int) -> None:
        text = print_length(millimetres / 1000, "m")
        self.assertAlmostEqual(read_length(text, units="m"), millimetres / 1000, places=9)

    @given(st.text(max_size=30))
    def test_no_text_makes_anything_but_a_length_or_a_refusal(self, text: str) -> None:
        with contextlib.suppress(InputError):
            self.assertGreater(read_length(text), 0)


class ReadsTheRest(unittest.TestCase):
    def test_gauges(self) -> None:
        for text, size in {"6": "6", "#6": "6", "6 AWG": "6", "1/0": "1/0", "250 kcmil": "250"}.items():
            self.assertEqual(read_gauge(text, SIZES), size)
            self.assertEqual(read_gauge(print_gauge(size), SIZES), size)
        for text in ("7", "6/0", "10 mm2", ""):
            with refused(self, "conductor size"):
                read_gauge(text, SIZES)

    def test_trade_sizes(self) -> None:
        known = ("1/2", "3/4", "1", "1-1/4")
        for text, size in {
            "3/4": "3/4",
            "1": "1",
            "1-1/4": "1-1/4",
            "1 1/4 in": "1-1/4",
            '1¼"': "1-1/4",
            "¾": "3/4",
        }.items():
            self.assertEqual(read_trade_size(text, known), size)
        self.assertEqual(draw_trade_size("1-1/4"), "1¼")
        with refused(self, "trade size"):
            read_trade_size("3", known)

    def test_temperatures(self) -> None:
        for text, celsius in {"30C": 30, "86F": 30, "104 f": 40, "-5 °C": -5, "−40C": -40}.items():
            self.assertAlmostEqual(read_temperature(text), celsius)
        for text in ("30", "86K", "400C", "", "nanC"):
            with refused(self, "ambient temperature"):
                read_temperature(text)

    def test_numbers_and_money(self) -> None:
        self.assertEqual(read_number("48 A", "amps", 1, 320, "A"), 48)
        self.assertEqual(read_money("$1,234.5"), "1234.50")
        for text in ("nan", "inf", "-1", "0", "1e3", "321", "", "0x10", "4_8"):
            with self.subTest(text), refused(self, "amps"):
                read_number(text, "amps", 1, 320, "A")
        for text in ("twelve", "-1", "NaN", "1e99", ""):
            with self.subTest(text), refused(self, "price"):
                read_money(text)

    def test_what_is_printed_reads_back(self) -> None:
        for size in SIZES:
            self.assertEqual(read_gauge(print_gauge(size), SIZES), size)
        for fahrenheit in range(-40, 180):
            celsius = round((fahrenheit - 32) * 5 / 9, 6)
            self.assertAlmostEqual(read_temperature(print_temperature(celsius)), celsius, places=5)
        for celsius in range(-40, 85):
            self.assertEqual(read_temperature(print_temperature(celsius, "m")), celsius)
        for tenths in range(10, 3200):
            self.assertAlmostEqual(read_number(print_amps(tenths / 10), "amps", 1, 320, "A"), tenths / 10)
        for size in ("1/2", "3/4", "1", "1-1/4", "2-1/2"):
            self.assertEqual(read_trade_size(draw_trade_size(size), ("1/2", "3/4", "1", "1-1/4", "2-1/2")), size)

    def test_feet_and_metres_agree(self) -> None:
        self.assertAlmostEqual(read_length("10"), 10 * FOOT_M)


class NearALimit(unittest.TestCase):
    def test_one_place_where_a_whole_number_would_hide_the_side(self) -> None:
        for value, limit, told in ((40.3, 40, "40.3"), (39.8, 40, "39.8"), (31.2, 40, "31"), (40.0, 40, "40"),
                                   (59.6, 60, "59.6"), (0.4, 0, "0.4"), (5.2, 0, "5")):  # fmt: skip
            self.assertEqual(print_near(value, limit), told)
