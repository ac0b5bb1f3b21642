"""Interval data: what is read, what is left out, and what it says."""

import datetime as dt
import tempfile
import time
import unittest
from pathlib import Path

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from awlmark.core.errors import FileError
from awlmark.core.panel.meter import MOST_ROWS, read_meter
from awlmark.core.panel.metered import Metered, invented_year, write_csv
from tests.support import STATE

ESPI = """<?xml version="1.0"?>
<feed xmlns="http://www.w3.org/2005/Atom"><entry><content>
<ReadingType xmlns="http://naesb.org/espi"><powerOfTenMultiplier>{power}</powerOfTenMultiplier><uom>{uom}</uom></ReadingType>
</content></entry><entry><content><IntervalBlock xmlns="http://naesb.org/espi">{readings}</IntervalBlock></content></entry></feed>
"""


def espi(metered: Metered, power: int = 0, uom: int = 72) -> str:
    """Green Button XML of interval data."""
    readings = "".join(
        f"<IntervalReading><timePeriod><duration>{metered.interval_s:.0f}</duration><start>{start:.0f}</start></timePeriod>"
        f"<value>{kw * metered.interval_s / 3600 * 1000 / 10**power:.0f}</value></IntervalReading>"
        for start, kw in zip(metered.starts, metered.kw, strict=True)
    )
    return ESPI.format(power=power, uom=uom, readings=readings)


class Reading(unittest.TestCase):
    def read(self, text: str | bytes) -> Metered:
        holder = tempfile.NamedTemporaryFile(dir=STATE, delete=False)  # noqa: SIM115 - closed by the context below
        with holder:
            holder.write(text.encode() if isinstance(text, str) else text)
        path = Path(holder.name)
        self.addCleanup(path.unlink)
        return read_meter(path)

    def test_a_year_of_quarter_hours_in_csv_and_xml_within_a_second(self) -> None:
        year = invented_year()
        for text in (write_csv(year), espi(year)):
            began = time.process_time()
            read = self.read(text)
            # A guard only; `make bench` holds the second.
            self.assertLess(time.process_time() - began, 10)
            self.assertEqual((len(read.kw), read.interval_s, read.left_out), (35_040, 900, ()))
            self.assertAlmostEqual(read.highest_kw, year.highest_kw, delta=0.003)
            self.assertAlmostEqual(read.days, 365)
            self.assertEqual(read.missing(), [])

    def test_columns_and_units_are_found(self) -> None:
        for head, row, kw in (
            ("Start,Usage (kWh)", "2025-01-01 {at},0.5", 2.0),
            ("Interval start,Demand kW", "2025-01-01T{at}:00,2", 2.0),
            ("DATE,START TIME,END TIME,USAGE,UNITS,COST", "01/01/2025,{at},x,500,Wh,$0.10", 2.0),
            ("date;time;value [W]", "01.01.2025;{at};2000", 2.0),
            ("Account 12\nAddress nowhere\n\nTime,Consumption kWh", "1/1/2025 {at},0.5", 2.0),
        ):
            rows = "\n".join(
                row.format(at=f"{hour:02d}:{minute:02d}") for hour in range(3) for minute in (0, 15, 30, 45)
            )
            with self.subTest(head):
                read = self.read(f"{head}\n{rows}\n")
                self.assertEqual((len(read.kw), read.interval_s, read.left_out), (12, 900, ()))
                np.testing.assert_allclose(read.kw, kw)

    def test_gaps_bad_rows_and_backward_times_are_named(self) -> None:
        lines = ["start,kWh", "2025-01-01 00:00,1", "2025-01-01 00:15,x", "2025-01-01 00:30,1", "2024-12-30 00:00,1"]
        lines += ["2025-01-01 00:45,1", "2025-01-01 01:00,99999999", "", "2025-01-01 01:15"]
        lines += [f"2025-01-01 {hour:02d}:{minute:02d},1" for hour in range(2, 5) for minute in (0, 15, 30, 45)]
        read = self.read("\n".join(lines))
        told = " | ".join(read.left_out)
        for row in ("row 3", "row 5", "row 7", "row 9"):
            self.assertIn(row, told)
        self.assertEqual(len(read.missing()), 2)
        self.assertIn("gaps", read.words())

    def test_the_autumn_hour_told_twice_is_kept_once_at_its_higher(self) -> None:
        base = dt.datetime(2025, 11, 2, 0, 0)
        clock = [base + dt.timedelta(minutes=15 * n) for n in range(8)]
        clock += [base + dt.timedelta(minutes=60 + 15 * n) for n in range(8)]
        rows = [f"{at:%Y-%m-%d %H:%M},{0.1 * (n + 1):.1f}" for n, at in enumerate(clock)]
        read = self.read("start,kWh\n" + "\n".join(rows))
        self.assertEqual((len(read.kw), read.left_out), (12, ()))
        self.assertAlmostEqual(read.kw[4], 0.9 / 0.25)

    def test_solar_is_seen(self) -> None:
        self.assertTrue(self.read("start,kWh\n2025-01-01 00:00,1\n2025-01-01 00:15,-1\n").exports())
        self.assertFalse(invented_year().exports())

    def test_powers_of_ten_and_other_units(self) -> None:
        year = invented_year(interval_s=3600)
        self.assertAlmostEqual(self.read(espi(year, power=-3)).highest_kw, year.highest_kw, places=3)
        with self.assertRaisesRegex(FileError, "unit 38"):
            self.read(espi(year, uom=38))

    def test_what_ran_back_counts_against_what_was_delivered(self) -> None:
        # ESPI flow directions: 1 delivered to the customer, 19 received from it; codes from memory.
        year = invented_year(interval_s=3600)
        both = ""
        for direction, share in ((1, 1.0), (19, 2.0)):
            part = espi(Metered(year.starts, year.kw * share, 3600.0))
            part = part.replace("<uom>", f"<flowDirection>{direction}</flowDirection><uom>")
            both += part[part.index("<entry>") : part.index("</feed>")]
        read = self.read(f'<feed xmlns="http://www.w3.org/2005/Atom">{both}</feed>')
        self.assertEqual((len(read.kw), read.left_out), (8760, ()))
        np.testing.assert_allclose(read.kw, -year.kw, atol=0.003)
        self.assertTrue(read.exports())

    def test_bombs_rubbish_and_wrong_files_are_refused_in_words(self) -> None:
        bomb = '<?xml version="1.0"?><!DOCTYPE b [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><feed>&b;</feed>'
        for text in (
            bomb,
            "<feed>",
            "",
            "hello",
            "a,b\n1,2\n",
            "start,kWh\n",
            "start,kWh\nx,y\n",
            ";;start,kWh\n1;2\n",
            "end time,kWh\n1,2\n",
            b"\x00\xff\xfe",
        ):
            with self.subTest(text[:20]), self.assertRaises(FileError):
                self.read(text)
        with self.assertRaises(FileError):
            read_meter(STATE / "not-there.csv")
        daily = "start,kWh\n" + "\n".join(f"2025-01-{day:02d} 00:00,20" for day in range(1, 20))
        with self.assertRaisesRegex(FileError, "24 hours"):
            self.read(daily)

    @settings(max_examples=60, deadline=None)
    @given(st.binary(max_size=300))
    def test_no_bytes_make_a_traceback(self, data: bytes) -> None:
        for start in (b"start,kWh\n", b"<feed", b""):
            try:
                self.read(start + data)
            except FileError as refused:
                self.assertTrue(str(refused))

    def test_zones_and_clocks_are_named(self) -> None:
        at = [f"2025-03-09T{hour:02d}:{minute:02d}:00{zone}" for hour, zone in ((0, "-05:00"), (1, "-05:00"),
              (3, "-04:00"), (4, "-04:00")) for minute in (0, 15, 30, 45)]  # fmt: skip
        read = self.read("start,kWh\n" + "\n".join(f"{one},0.5" for one in at))
        self.assertIn("clocks went forward", read.words())
        self.assertIn("zone changes (-04:00, -05:00)", read.words())
        universal = self.read("start,kWh\n2025-01-01 00:00Z,1\n2025-01-01 00:15Z,1\n")
        self.assertIn("universal time", universal.words())
        shifted = espi(invented_year(interval_s=3600)).replace(
            "<entry>", '<entry><content><LocalTimeParameters xmlns="http://naesb.org/espi"><tzOffset>-18000</tzOffset>'
            "</LocalTimeParameters></content></entry><entry>", 1
        )  # fmt: skip
        read = self.read(shifted)
        self.assertIn("-5 h", read.words())
        self.assertEqual(read.starts[0], invented_year().starts[0] - 18000)

    def test_a_month_of_gap_is_told_in_days(self) -> None:
        rows = [f"2025-{month:02d}-01 {hour:02d}:00,1" for month in (1, 2) for hour in range(24)]
        self.assertIn("30 days from 2025-01-02", self.read("start,kWh\n" + "\n".join(rows)).words())

    def test_progress_is_told_and_can_stop_the_reading(self) -> None:
        for text in (write_csv(invented_year()), espi(invented_year())):
            shares: list[float] = []
            path = STATE / "progress.data"
            path.write_text(text)
            self.addCleanup(path.unlink, missing_ok=True)
            read_meter(path, shares.append)
            self.assertGreater(len(shares), 5)
            self.assertEqual(shares, sorted(shares))
            self.assertLessEqual(shares[-1], 1)

            def stop(share: float) -> None:
                raise FileError("stopped")

            with self.assertRaisesRegex(FileError, "stopped"):
                read_meter(path, stop)

    def test_a_million_rows_are_kept_to_the_limit_and_say_so(self) -> None:
        rows = "".join(f"{1_700_000_000 + 60 * n}\n" for n in range(2))  # times that are no dates are refused in words
        with self.assertRaises(FileError):
            self.read("start,kWh\n" + rows)
        start = dt.datetime(2024, 1, 1)
        text = "\n".join(f"{start + dt.timedelta(minutes=n)},0.01" for n in range(MOST_ROWS + 3))
        read = self.read("start,kWh\n" + text)
        self.assertEqual(len(read.kw), MOST_ROWS)
        self.assertIn(f"everything after row {MOST_ROWS + 2}", read.left_out[-1])


class Inventing(unittest.TestCase):
    def test_the_same_seed_gives_the_same_year(self) -> None:
        np.testing.assert_array_equal(invented_year(3).kw, invented_year(3).kw)
        self.assertFalse(np.array_equal(invented_year(3).kw, invented_year(4).kw))
