"""Decimal commas are read where they can mean nothing else, and asked about where they can."""

import unittest

from awlmark.core.decimals import WORDS, unmistakable, with_points
from awlmark.core.entry.words import every_name
from awlmark.core.errors import InputError
from awlmark.core.prove.log import read_value
from awlmark.core.quantities import read_money


class Commas(unittest.TestCase):
    def test_what_is_typed_where_decimals_stand_behind_a_comma(self) -> None:
        for typed, read in (
            ("swing 3,8", "swing 3.8"), ("right 12,25 box", "right 12.25 box"),
            ("load lathe 3,5 kw", "load lathe 3.5 kw"),
            ("ze 0,350", "ze 0.350"), ("load oven 4.500,5 w", "load oven 4500.5 w"), ("1.250.000", "1250000"),
            ("ze 0.350", "ze 0.350"), ("right 3.830 m", "right 3.830 m"), ("right 3,830m", "right 3.830m"),
            ("ze 1,2340", "ze 1.2340"), ("right 3.83", "right 3.83"),
            ("48a, 18,5m emt", "48a, 18.5m emt"), ("others 3x12,2x10", "others 3x12,2x10"), ("read il 103, 100", None),
            ("windows 22-6 0,09, 17-21 0,31", "windows 22-6 0.09, 17-21 0.31"), ("device c40", None), ("", None),
            ("3/4 emt 0,5", "3/4 emt 0.5"), ("read lug 2026-05-12 15:10", None), ("ambient -3,5C", "ambient -3.5C"),
        ):  # fmt: skip
            with self.subTest(typed=typed):
                self.assertEqual(with_points(typed), typed if read is None else read)

    def test_a_thousand_and_a_half_or_one_and_a_half_is_asked(self) -> None:
        for typed in (
            "load lathe 1.500 w",
            "price 12.500",
            "fault 6.000",
            "cover 1.200mm",
            "load oven 6,000 va",
            "1,234",
        ):
            with self.subTest(typed=typed), self.assertRaises(InputError) as caught:
                with_points(typed)
            self.assertIn("may be", str(caught.exception))

    def test_names_and_notes_are_kept(self) -> None:
        self.assertLessEqual(set(WORDS), every_name())
        for word in WORDS:
            text = f"{word} box 3,5 by the door, 1.500 seen"
            self.assertEqual(with_points(text), text)

    def test_money(self) -> None:
        told = {
            "12.50": "12.50",
            "12,50": "12.50",
            "1,289.50": "1289.50",
            "£0,5": "0.50",
            "2,000,000.00": None,
            "7": "7.00",
        }
        for text, value in told.items():
            with self.subTest(text=text):
                if value is None:
                    self.assertRaises(InputError, read_money, text)
                else:
                    self.assertEqual(read_money(text), value)
        for text in ("1,289", "1,2,3", "12,", ",5", "1.234,50"):
            with self.subTest(text=text):
                self.assertRaises(InputError, read_money, text)

    def test_readings_off_a_tester_s_file(self) -> None:
        self.assertEqual(read_value("0,42", "ohm")[0], 0.42)
        self.assertEqual(read_value("0,420 ohm", "ohm")[0], 0.42)
        self.assertEqual(read_value("240,4 V", "V")[0], 240.4)
        for text in ("1,289", "1,2,3", "1.2.3"):
            value, why = read_value(text, "ohm")
            self.assertIsNone(value)
            self.assertIn(text, why)

    def test_a_number_without_a_comma_stays(self) -> None:
        for text in ("3.5", "1.500", "x", "1,5,6", "a,5"):
            self.assertEqual(unmistakable(text), text)
