"""Interval data: what is read, what is left out, and what it says."""

import datetime as dt
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

import numpy as np

from awlmark.core.errors import FileError, UnclearError
from awlmark.core.panel import meter_csv
from awlmark.core.panel.meter import Choices, read_meter
from awlmark.core.panel.meter_data import Metered, covers, demand_edits, doubts, invented_year, write_csv
from tests.drawn import given, settings, st
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


class FileCase(unittest.TestCase):
    """Reads what a test writes."""

    def read(self, text: str | bytes, choices: Choices | None = None) -> Metered:
        holder = tempfile.NamedTemporaryFile(dir=STATE, delete=False)  # noqa: SIM115 - closed by the context below
        with holder:
            holder.write(text.encode() if isinstance(text, str) else text)
        path = Path(holder.name)
        self.addCleanup(path.unlink)
        return read_meter(path, choices=choices)


class Reading(FileCase):
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
        start, most = dt.datetime(2024, 1, 1), 6_000
        text = "\n".join(f"{start + dt.timedelta(minutes=n)},0.01" for n in range(most + 3))
        with mock.patch.object(meter_csv, "MOST_ROWS", most):
            read = self.read("start,kWh\n" + text)
        self.assertEqual(len(read.kw), most)
        self.assertIn(f"everything after row {most + 1}", read.left_out[-1])


def hours(count: int, value: str = "0.5", shape: str = "%Y-%m-%d %H:%M", minutes: int = 60) -> list[str]:
    """Rows of even steps from 1 January 2025."""
    start = dt.datetime(2025, 1, 1)
    return [f"{(start + dt.timedelta(minutes=minutes * n)).strftime(shape)},{value}" for n in range(count)]


class Awkward(FileCase):
    """Files as utilities hand them out, none of them misread quietly."""

    def test_thousands_in_a_comma_file_keep_their_peaks(self) -> None:
        rows = hours(14 * 24, "345.5")
        rows[66] = rows[66].replace("345.5", '"9,769"')
        read = self.read("start,usage Wh\n" + "\n".join(rows))
        self.assertEqual(read.lost, 0)
        self.assertAlmostEqual(read.highest_kw, 9.769)

    def test_a_comma_that_may_be_either_is_asked(self) -> None:
        rows = [row.replace(",x", ';"2,345"') for row in hours(30, "x")]
        text = "start;usage kWh\n" + "\n".join(rows)
        with self.assertRaises(UnclearError) as asked:
            self.read(text)
        self.assertEqual((asked.exception.what, asked.exception.answers), ("comma", ("thousands", "decimals")))
        self.assertIn("2,345", str(asked.exception))
        self.assertAlmostEqual(self.read(text, Choices(comma="decimals")).highest_kw, 2.345)
        self.assertAlmostEqual(self.read(text, Choices(comma="thousands")).highest_kw, 2345)

    def test_a_comma_that_the_column_decides_is_not_asked(self) -> None:
        for values, highest in ((("2,345", "0,512"), 2.345), (("2,345", "1,5"), 2.345), (("1.234,5", "2,345"), 1234.5)):
            text = "start;usage kWh\n" + "\n".join(f"2025-01-01 {hour:02d}:00;{values[hour % 2]}" for hour in range(24))
            with self.subTest(values=values):
                self.assertAlmostEqual(self.read(text).highest_kw, highest)

    def test_what_is_left_out_is_counted_right(self) -> None:
        rows = hours(400)
        rows[10:210] = [row.replace("0.5", "?") for row in rows[10:210]]
        read = self.read("start,kWh\n" + "\n".join(rows))
        self.assertEqual(read.lost, 200)
        self.assertIn("200 rows left out", read.words())
        self.assertEqual(len(read.left_out), 21)

    def test_an_interval_that_changes_counts_each_value_by_its_own(self) -> None:
        start = dt.datetime(2025, 1, 1)
        rows = [f"{start + dt.timedelta(hours=n)},1.0" for n in range(24 * 30)]
        later = start + dt.timedelta(days=30)
        rows += [f"{later + dt.timedelta(minutes=15 * n)},{2.0 if n == 50 else 0.5}" for n in range(4 * 24 * 30)]
        read = self.read("start,kWh\n" + "\n".join(rows))
        self.assertAlmostEqual(read.highest_kw, 8.0)
        self.assertAlmostEqual(read.days, 60)
        self.assertEqual(read.interval_s, 900)
        self.assertIn("interval changes (15 and 60 minutes)", read.words())

    def test_day_first_dates(self) -> None:
        rows = hours(35_040, "0.25", "%d/%m/%Y %H:%M", 15)
        rows[9000] = rows[9000].replace("0.25", "2.25")
        read = self.read("start,kWh\n" + "\n".join(rows))
        self.assertEqual((len(read.kw), read.lost), (35_040, 0))
        self.assertAlmostEqual(read.highest_kw, 9.0)

    def test_an_order_of_day_and_month_that_nothing_decides_is_asked(self) -> None:
        # Twelve days run on evenly one way only; a single day does not.
        rows = [f"{day:02d}/01/2025 {hour:02d}:00,0.5" for day in range(1, 12) for hour in range(24)]
        self.assertAlmostEqual(self.read("start,kWh\n" + "\n".join(rows)).days, 11)
        one = "start,kWh\n" + "\n".join(f"03/04/2025 {hour:02d}:00,0.5" for hour in range(24))
        with self.assertRaises(UnclearError) as asked:
            self.read(one)
        self.assertEqual(asked.exception.what, "order")
        march = self.read(one, Choices(order="month"))
        self.assertEqual(dt.datetime.fromtimestamp(march.starts[0], dt.UTC).month, 3)

    def test_autumn_hours_of_every_year_and_with_zones(self) -> None:
        for zones in (("", ""), ("-04:00", "-05:00")):
            rows = []
            for year, day in ((2024, 3), (2025, 2)):
                for number, hour in enumerate((0, 1, 1, 2, 3)):
                    zone = zones[number >= 2]
                    rows.append(f"{year}-11-{day:02d} {hour:02d}:00:00{zone},{9.0 if number == 2 else 1.0}")
            read = self.read("start,kWh\n" + "\n".join(rows))
            with self.subTest(zones=zones):
                self.assertEqual((len(read.kw), read.lost), (8, 0))
                self.assertEqual(sorted(read.kw.tolist())[-2:], [9.0, 9.0])
                self.assertEqual(read.words().count("told twice"), 2)

    def test_newest_first_and_am_pm(self) -> None:
        rows = [
            f"{dt.datetime(2025, 1, 20, 23) - dt.timedelta(hours=n):%m/%d/%Y %I:%M:%S %p},{n % 7}" for n in range(400)
        ]
        read = self.read("start,kWh\n" + "\n".join(rows))
        self.assertEqual((len(read.kw), read.lost), (400, 0))
        self.assertTrue((np.diff(read.starts) == 3600).all())
        self.assertEqual(read.kw[-1], 0)

    def test_units_in_words_and_unknown_ones(self) -> None:
        for head, value, kw in (
            ("usage MWh", "0.002", 2.0),
            ("usage watts", "1500", 1.5),
            ("demand kilowatts", "2", 2.0),
        ):
            with self.subTest(head):
                self.assertAlmostEqual(self.read(f"start,{head}\n" + "\n".join(hours(30, value))).highest_kw, kw)
        text = "start,usage\n" + "\n".join(hours(30, "500"))
        with self.assertRaises(UnclearError) as asked:
            self.read(text)
        self.assertEqual(asked.exception.what, "unit")
        self.assertAlmostEqual(self.read(text, Choices(unit="Wh")).highest_kw, 0.5)
        with self.assertRaisesRegex(UnclearError, "therms"):
            self.read("start,usage,units\n" + "\n".join(row + ",therms" for row in hours(30)))

    def test_generation_beside_consumption(self) -> None:
        rows = [row.replace(",x", ",36,2") for row in hours(9000, "x")]
        read = self.read("start,Generation kWh,Consumption kWh\n" + "\n".join(rows))
        self.assertAlmostEqual(read.highest_kw, 2)
        self.assertTrue(read.exports())
        self.assertFalse(covers(read))
        self.assertIn("solar", doubts(read))

    def test_two_columns_of_use_are_asked(self) -> None:
        text = "start,Usage A kWh,Usage B kWh\n" + "\n".join(row.replace(",x", ",1,3") for row in hours(30, "x"))
        with self.assertRaises(UnclearError) as asked:
            self.read(text)
        self.assertEqual(asked.exception.answers, ("usage a kwh", "usage b kwh"))
        self.assertAlmostEqual(self.read(text, Choices(column="usage b kwh")).highest_kw, 3)

    def test_a_demand_is_taken_only_from_data_that_cover_the_rule(self) -> None:
        week = self.read("start,kWh\n" + "\n".join(hours(24 * 7)))
        self.assertEqual([edit.path for edit in demand_edits(week, 240, "w")], ["meter"])
        self.assertIn("too few", doubts(week))
        year = invented_year()
        self.assertEqual({edit.path for edit in demand_edits(year, 240, "y")},
                         {"meter", "demand.measured_a", "demand.method"})  # fmt: skip
        without_july = year.starts[(year.starts // 86400 < 20270) | (year.starts // 86400 > 20301)]
        kept = np.isin(year.starts, without_july)
        gap = Metered(year.starts[kept], year.kw[kept], 900.0)
        self.assertEqual(gap.missing_months(), ("Jul",))

    def test_reading_type_and_clock_behind_the_blocks_and_blocks_newest_first(self) -> None:
        year = invented_year(interval_s=3600)
        text = espi(year, power=-3)
        begin, end = text.index("<entry>"), text.index("</entry>") + len("</entry>")
        kind, block = text[begin:end], text[end : text.index("</feed>")]
        clock = (
            '<entry><content><LocalTimeParameters xmlns="http://naesb.org/espi"><tzOffset>-18000</tzOffset>'
            "</LocalTimeParameters></content></entry>"
        )
        read = self.read(text[:begin] + block + kind + clock + "</feed>")
        self.assertAlmostEqual(read.highest_kw, year.highest_kw, places=3)
        self.assertEqual(read.starts[0], year.starts[0] - 18000)
        cut = block.index("<IntervalReading>", len(block) // 2)
        open_, close = block[: block.index("<IntervalReading>")], "</IntervalBlock></content></entry>"
        first, second = block[block.index("<IntervalReading>") : cut], block[cut : block.rindex(close)]
        turned = text[:begin] + kind + open_ + second + close + open_ + first + close + "</feed>"
        back = self.read(turned)
        self.assertEqual((len(back.kw), back.lost), (8760, 0))


class Inventing(unittest.TestCase):
    def test_the_same_seed_gives_the_same_year(self) -> None:
        np.testing.assert_array_equal(invented_year(3).kw, invented_year(3).kw)
        self.assertFalse(np.array_equal(invented_year(3).kw, invented_year(4).kw))
