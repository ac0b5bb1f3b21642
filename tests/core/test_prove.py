"""Expected values, the log, what readings mean, the instruments and the practice bench."""

from __future__ import annotations

import datetime as dt
import random
import unittest

import numpy as np

from awlmark.core.books.nec.work.planted import PLANTED
from awlmark.core.books.nec.work.volts import ground_open, pattern
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import dumps, loads
from awlmark.core.job.model import Job
from awlmark.core.job.site_records import Reading
from awlmark.core.parts.run_items import span_length
from awlmark.core.prove.at_setting import by_setting, drop_split, points_of
from awlmark.core.prove.diagnose import guard_setting, heat, meanings, sag, why_only
from awlmark.core.prove.instruments import take
from awlmark.core.prove.log import judge, judged, latest, out_of_order, read_log, read_value, write_log
from awlmark.core.prove.network import CONTACT_OHM, SERVICE_OHM, Faults, circuit_of, solve_network
from awlmark.core.prove.planted import applicable
from awlmark.core.prove.practice import Score, answer, card, exercise, readings
from awlmark.core.prove.remind import reminders
from awlmark.core.prove.split import fitting
from awlmark.core.prove.test import tests_of
from awlmark.core.prove.thermal import an_hour, charging, heat_run, steady, thermal_of
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import Design, solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import refused, straight

DEMO = solve(demo_job())


def typed(job: Job, *entries: str) -> Job:
    """A job after entries."""
    for entry in entries:
        job = read_entry(entry, job).job
    return job


def logged(design: Design, faults: Faults | None = None) -> Job:
    """A job with every test read off the instruments."""
    units = {"V": "V", "ohm": "ohm", "A": "A", "kW": "kW", "C": "C"}
    job = put(design.job, Put("prove.ambient_c", 20.0))
    for test in tests_of(solve(job)):
        value = take(solve(job), test, faults or Faults())
        job = typed(job, f"read {test.key} {value:.6f} {units[test.unit]}")
    return job


class Expecting(unittest.TestCase):
    def test_bands_hold_the_healthy_circuit(self) -> None:
        for design in (
            DEMO,
            solve(straight(32, 40, charger__connection="14-50")),
            solve(straight(16, 30, method="nm")),
        ):
            for test in tests_of(design):
                value = take(design, test)
                self.assertLessEqual(test.low, value + 1e-9, test.key)
                self.assertGreaterEqual(test.high, value, test.key)

    def test_continuity_goes_by_length_and_gauge(self) -> None:
        found = {test.key: test for test in tests_of(DEMO)}
        # Table 8: 6 AWG 0.491 ohm a kft at 75 C, 10 AWG stranded 1.24; its note 2 brings both to 20 C.
        cold = 1 + 0.00323 * (20 - 75)
        length = span_length(DEMO.case, list(DEMO.line.sections)) / FOOT_M / 1000
        self.assertAlmostEqual(length * 1000, 105.2, delta=0.8)
        self.assertAlmostEqual(found["ohm 1-2"].expected, 2 * 0.491 * cold * length, delta=0.0002)
        self.assertAlmostEqual(found["ohm G"].expected, (0.491 + 1.24) * cold * length, delta=0.0005)
        # The next thinner gauge, 8 AWG at 0.778, is out of its band, and a run too short for a meter says so.
        self.assertLess(found["ohm 1-2"].high, 2 * 0.778 * cold * length)
        short = {test.key: test for test in tests_of(solve(straight(48, 6)))}
        self.assertIn("not told by ohms", short["ohm 1-2"].source)
        # By Table 9 the drop counts reactance; a meter reads dc.
        nine = {test.key: test for test in tests_of(solve(put(demo_job(), Put("circuit.drop_form", "table 9"))))}
        self.assertEqual(nine["ohm 1-2"].expected, found["ohm 1-2"].expected)

    def test_volts_in_range_a(self) -> None:
        # ANSI C84.1 Range A, from memory: 114 to 126 and 228 to 252 V.
        bands = {test.key: (round(test.low), round(test.high)) for test in tests_of(DEMO) if test.stage == "live"}
        self.assertEqual(bands["charger 1-2"], (228, 252))
        self.assertEqual(bands["panel 1-N"], (114, 126))

    def test_the_sag_splits_into_branch_feeder_and_service(self) -> None:
        split = drop_split(DEMO)
        # The branch's own drop by Table 8, and two joints of it at each end.
        self.assertAlmostEqual(split["branch"], DEMO.circuit.drop_v + 4 * 0.0003 * 48, delta=0.01)
        self.assertEqual(split["feeder"], 0.0)
        self.assertGreater(split["service"], 0.5)

    def test_every_setting_has_its_amps_volts_and_power(self) -> None:
        told = by_setting(DEMO)
        # 60 A breaker: settings to 48 A, 625.42 and 210.20(A).
        self.assertEqual([at.amps for at in told], [12, 16, 20, 24, 30, 32, 36, 40, 48])
        ohms = 2 * (SERVICE_OHM + DEMO.circuit.drop_v / 48 / 2) + 4 * CONTACT_OHM
        for at in told:
            # Ohm's law over service, branch and joints; both hots carry the same current.
            self.assertAlmostEqual(at.volts, 240 - at.amps * ohms, delta=0.15, msg=at.amps)
            self.assertAlmostEqual(at.kw, at.amps * at.volts / 1000, places=9)
        self.assertAlmostEqual(told[-1].kw, next(t.expected for t in tests_of(DEMO) if t.key == "kw"), places=9)
        one_leg = by_setting(solve(straight(12, 30, charger__connection="5-15")))
        self.assertTrue(all(at.volts < 120 for at in one_leg))
        self.assertEqual(by_setting(solve(straight(None, 20))), ())

    def test_one_leg_and_no_circuit(self) -> None:
        plug = solve(straight(12, 30, charger__connection="5-15"))
        self.assertIn("charger 1-N", {test.key for test in tests_of(plug)})
        self.assertNotIn("charger 2", points_of(plug))
        self.assertEqual(tests_of(solve(straight(None, 20))), ())
        self.assertEqual(drop_split(solve(straight(None, 20))), {})

    def test_a_208_volt_supply_reads_208(self) -> None:
        made = solve(straight(32, 20, supply__system="120/208"))
        found = {test.key: test.expected for test in tests_of(made)}
        self.assertAlmostEqual(found["charger 1-2"], 207.8, places=1)


class Heating(unittest.TestCase):
    def test_a_night_ends_at_the_steady_state(self) -> None:
        thermal = thermal_of(DEMO)
        made = heat_run(thermal, np.zeros(1), np.array([48.0]), 20.0, np.array([60.0, 36000.0]))
        self.assertTrue(np.allclose(made[1], steady(thermal, 48.0, 20.0), atol=0.05))

    @settings(max_examples=25)
    @given(st.floats(5, 80), st.floats(0.5, 20), st.floats(-10, 40))
    def test_more_current_is_never_cooler(self, amps: float, more: float, air: float) -> None:
        thermal = thermal_of(DEMO)
        self.assertTrue((steady(thermal, amps + more, air) >= steady(thermal, amps, air) - 1e-9).all())

    @settings(max_examples=25)
    @given(st.floats(0, 0.05), st.floats(0.0001, 0.05))
    def test_a_tighter_contact_is_never_hotter(self, loose: float, more: float) -> None:
        tight, slack = (thermal_of(DEMO, Faults(loose_ohm={"charger 1": ohm})) for ohm in (loose, loose + more))
        self.assertTrue((steady(slack, 48.0, 20.0) >= steady(tight, 48.0, 20.0) - 1e-9).all())

    def test_the_guard_cuts_back(self) -> None:
        made = solve(straight(32, 20, charger__connection="14-50"))
        thermal = thermal_of(made)
        times = np.linspace(600.0, 14400.0, 24)
        free = heat_run(thermal, np.zeros(1), np.array([32.0]), 45.0, times)
        held = heat_run(thermal, np.zeros(1), np.array([32.0]), 45.0, times, cut_back_c=50.0)
        self.assertGreater(free[-1, 3], 54)
        self.assertLess(held[-1, 3], 50)
        self.assertLess(held[:, 3].max(), 50.01)
        self.assertTrue((held[:, 3] < free[:, 3]).all())
        early = np.array([30.0, 120.0])
        cool = heat_run(thermal, np.zeros(1), np.array([32.0]), 45.0, early)
        self.assertLess(cool[-1, 3], 50)
        same = heat_run(thermal, np.zeros(1), np.array([32.0]), 45.0, early, cut_back_c=50.0)
        self.assertTrue(np.allclose(cool, same, atol=0.01))

    def test_a_car_takes_its_current_in_steps(self) -> None:
        at_s, amps = charging(48.0)
        self.assertEqual((amps.tolist(), float(at_s[0])), ([12.0, 24.0, 36.0, 48.0], 0.0))
        # Fifteen seconds of it leave no trace after an hour, and a little less warmth after a minute.
        thermal = thermal_of(DEMO)
        early, late = np.array([60.0]), np.array([7200.0])
        for times, least, most in ((early, 0.05, 2.0), (late, -0.01, 0.02)):
            at_once = heat_run(thermal, np.zeros(1), np.array([48.0]), 20.0, times)
            stepped = heat_run(thermal, at_s, amps, 20.0, times)
            self.assertTrue(least <= at_once[0, 0] - stepped[0, 0] <= most)

    def test_five_minutes_prove_nothing(self) -> None:
        temps = an_hour(DEMO, 20.0)
        self.assertLess(temps[5, 1] - 20, 0.4 * (temps[60, 1] - 20))

    def test_an_hour_is_kept_by_wire_current_and_air_alone(self) -> None:
        longer = solve(put(demo_job(), Put("legs[leg-2].length_m", 9.0)))
        self.assertIs(an_hour(longer, 20.0), an_hour(DEMO, 20.0))
        self.assertGreater(an_hour(DEMO, 30.0)[60, 1], an_hour(DEMO, 20.0)[60, 1] + 8)
        thicker = solve(put(demo_job(), Put("circuit.size", "4")))
        self.assertLess(an_hour(thicker, 20.0)[60, 0], an_hour(DEMO, 20.0)[60, 0])
        times = np.array([300.0, 3600.0])
        asked = heat_run(thermal_of(DEMO), *charging(48.0), 20.0, times)
        self.assertTrue(np.allclose(asked, an_hour(DEMO, 20.0)[[5, 60]], atol=0.01))


class Logging(unittest.TestCase):
    def test_readings_are_read_with_their_units(self) -> None:
        for raw, unit, value in (
            ("240.4 V", "V", 240.4), ("240.4", "V", 240.4), ("50 mohm", "ohm", 0.05), ("500 Mohm", "ohm", 5e8),
            (">500 megohm", "ohm", 5e8), ("90 F", "C", 32.222), ("32C", "C", 32), ("11.4 kW", "kW", 11.4),
            ("47900 mA", "A", 47.9),
        ):  # fmt: skip
            self.assertAlmostEqual(read_value(raw, unit)[0], value, places=3, msg=raw)

    def test_what_makes_no_sense_is_kept_and_marked(self) -> None:
        for raw, unit in (("-3 ohm", "ohm"), ("500 V", "V"), ("90 F", "V"), ("twelve", "A"), ("12 parsec", "A")):
            value, why = read_value(raw, unit)
            self.assertIsNone(value, raw)
            self.assertTrue(why)
        job = typed(demo_job(), "read charger 1-G 300 V")
        self.assertEqual(judged(solve(job))[0].severity, STOP)
        job = typed(demo_job(), "read ohm G -4 ohm")
        kept = job.prove.readings[0]
        self.assertEqual((kept.value, kept.raw), (None, "-4 ohm"))
        self.assertEqual(judge(solve(job), kept).severity, UNREAD)

    def test_milliohm_read_as_ohm_is_out_of_its_band(self) -> None:
        job = typed(demo_job(), "read ohm 1-2 98 ohm")
        self.assertEqual(judged(solve(job))[0].severity, STOP)
        self.assertEqual(judged(solve(typed(demo_job(), "read ohm 1-2 98 mohm")))[0].severity, HOLDS)

    def test_the_next_test_needs_no_name(self) -> None:
        job = typed(demo_job(), "read 0 V", "read 0.4 V by Vale with meter 3")
        self.assertEqual([reading.test for reading in job.prove.readings], ["dead 1-2", "dead 1-G"])
        self.assertEqual((job.prove.readings[1].who, job.prove.readings[1].instrument), ("Vale", "meter 3"))

    def test_struck_stays_with_its_reason(self) -> None:
        job = typed(demo_job(), "read dead 1-2 60 V", "strike 1 probe on paint", "read dead 1-2 0 V")
        self.assertEqual(job.prove.readings[0].struck, "probe on paint")
        self.assertEqual(len(job.prove.readings), 2)
        self.assertEqual(latest(solve(job))["dead 1-2"].severity, HOLDS)
        for text in ("strike 1", "strike 9 no such thing", "strike 2 why"):
            with self.subTest(text), refused(self, "strike"):
                typed(job, text)

    def test_signing_freezes(self) -> None:
        job = typed(logged(DEMO), "energise maker gives none")
        signed = typed(job, "sign R. Vale")
        self.assertEqual({reading.signed for reading in signed.prove.readings}, {1})
        with self.assertRaisesRegex(InputError, "signed"):
            typed(signed, "strike 1 probe on paint")
        with self.assertRaisesRegex(InputError, "nothing new"):
            typed(signed, "sign R. Vale")
        again = typed(signed, "read amps 47.8 A", "sign R. Vale")
        self.assertEqual([mark.revision for mark in again.prove.signatures], [1, 2])
        self.assertNotEqual(again.prove.signatures[0].digest, again.prove.signatures[1].digest)
        self.assertEqual(loads(dumps(again)), again)

    def test_nothing_is_signed_over_a_failure_or_an_unread_torque(self) -> None:
        with self.assertRaisesRegex(InputError, "torque"):
            typed(logged(DEMO), "sign R. Vale")
        bad = typed(demo_job(), "energise maker gives none", "read dead 1-2 118 V")
        with self.assertRaisesRegex(InputError, "fails"):
            typed(bad, "sign R. Vale")
        with self.assertRaisesRegex(InputError, "Who"):
            typed(bad, "sign")

    def test_csv_out_and_in(self) -> None:
        job = typed(demo_job(), "read dead 1-2 0.2 V", "read ohm G -4 ohm", "strike 1 wrong scale used")
        text = write_log(solve(job))
        back = put(demo_job(), *read_log(text, DEMO))
        self.assertEqual([r.value for r in back.prove.readings], [r.value for r in job.prove.readings])
        self.assertEqual(back.prove.readings[0].struck, "wrong scale used")
        self.assertEqual(back.prove.readings[1].raw, "-4 ohm")
        with self.assertRaisesRegex(InputError, "test and value"):
            read_log("a,b\n1,2\n", DEMO)

    def test_times_out_of_order_are_told(self) -> None:
        rows = "test,value,unit,when\ndead 1-2,0,V,2026-05-02 10:00\ndead 1-G,0,V,2026-05-02 09:00\n"
        self.assertEqual(out_of_order(solve(put(demo_job(), *read_log(rows, DEMO)))), (2,))

    def test_reminders_are_a_calendar(self) -> None:
        with refused(self, "reminders"):
            reminders(demo_job())
        signed = typed(logged(DEMO), "energise maker gives none", "sign R. Vale")
        text = reminders(signed)
        self.assertTrue(text.startswith("BEGIN:VCALENDAR\r\nVERSION:2.0\r\n"))
        day = dt.date.fromisoformat(signed.prove.signatures[0].when[:10]) + dt.timedelta(days=21)
        self.assertIn(f"DTSTART;VALUE=DATE:{day:%Y%m%d}", text)
        self.assertIn("RRULE:FREQ=YEARLY", text)
        self.assertEqual(text.count("BEGIN:VEVENT"), text.count("END:VEVENT"))
        self.assertTrue(all(len(line.encode()) <= 75 for line in text.split("\r\n")))


class Meaning(unittest.TestCase):
    def test_patterns_of_the_trade(self) -> None:
        # Readings L1-L2, L1-N, L2-N and what they mean: common practice.
        for volts, title, severity in (
            ((240, 120, 120), "As it should be", HOLDS),
            ((0, 120, 120), "Both hots on one leg", STOP),
            ((120, 120, 0), "Second hot on the neutral", STOP),
            ((208, 120, 120), "Three-phase supply", NOTE),
            ((240, 90, 150), "Loose neutral", STOP),
            ((226, 113, 113), "Low supply", TIGHT),
            ((2, 1, 120), "A leg is missing", STOP),
            ((240, 118, 122), "Legs differ", NOTE),
        ):
            found = pattern(*volts)
            self.assertEqual((found.title, found.severity), (title, severity), volts)
        self.assertEqual(ground_open(240, 2, 1).title, "Ground is open")
        self.assertIsNone(ground_open(240, 120, 120))

    def test_seven_and_a_half_volts_over_forty_feet_of_6_awg(self) -> None:
        # Common practice: 7.5 V at 48 A where 40 ft of 6 AWG explains 1.9 V points upstream or to a joint.
        made = solve(straight(48, 40, circuit__size="6"))
        found = sag(made, 240.0, 232.5, 48.0)
        self.assertEqual(found.title, "Sag beyond the wire")
        self.assertIn("branch explains 1.9 V", found.text)
        up = sag(made, 240.0, 232.5, 48.0, 240.0, 234.4)
        self.assertEqual(up.title, "Upstream of the panel")
        joint = sag(made, 240.0, 232.5, 48.0, 240.0, 238.0)
        self.assertEqual((joint.title, joint.severity), ("A joint of the branch", STOP))
        # 5.5 V of sag less 1.94 V designed, over 48 A: 74 milliohm.
        self.assertIn("74 mΩ", joint.text)

    def test_145_f_at_12_a(self) -> None:
        # Common practice: a rise of 65 F at 12 A is 462 F at 32 A.
        found = heat(65 / 1.8, 12.0, 32.0)
        self.assertIn("462 °F at 32 A", found.text)
        self.assertEqual(found.severity, STOP)
        self.assertIn("contact", heat(60, 32, 32, wire_rise_k=15).text)
        self.assertIn("the wire", heat(60, 32, 32, wire_rise_k=55).text)
        self.assertEqual(heat(10, 32, 32, minutes=5).title, "Too early")
        self.assertEqual(heat(20, 32, 32).severity, HOLDS)

    def test_why_only_31_and_a_half_amps(self) -> None:
        found = why_only(solve(straight(40, 40)), 31.5, cord_a=32.0)
        self.assertEqual(found[0].title, "The cord")
        cut = why_only(solve(straight(32, 40, charger__connection="14-50")), 16.0, plug_c=70.0)
        self.assertEqual(cut[0].title, "Heat cut-back")

    def test_the_setting_is_guarded(self) -> None:
        made = solve(straight(40, 40))
        self.assertEqual([guard_setting(made, amps).severity for amps in (48, 40, 32)], [STOP, HOLDS, HOLDS])

    def test_a_loose_lug_is_found_by_sag_and_by_heat(self) -> None:
        loose = Faults(loose_ohm={"charger 1": 0.014})
        found = {meaning.title for meaning in meanings(solve(logged(DEMO, loose)))}
        self.assertTrue({"Joint at the charger", "Too hot"} <= found, found)
        self.assertEqual({meaning.severity for meaning in meanings(solve(logged(DEMO)))}, {HOLDS})


def at_once(design: Design, faults: Faults) -> Job:
    """A job with every test read off the instruments, all readings entered together."""
    job = put(design.job, Put("prove.ambient_c", 20.0))
    read = solve(job)
    taken = tuple(
        Reading(id=f"r{number}", test=test.key, value=take(read, test, faults), raw="taken", when="2026-03-01T10:00")
        for number, test in enumerate(tests_of(read))
    )
    return put(job, Put("prove.readings", taken))


def told_of(title: str) -> set[str]:
    """Faults of the bench that a meaning points at."""
    return {
        "A leg is missing": {"leg missing"}, "Both hots on one leg": {"same leg"},
        "Second hot on the neutral": {"neutral for hot"},
        "Second hot on the neutral or the ground": {"neutral for hot"},
        "Low supply": {"low supply"}, "Ground is open": {"ground open"}, "Joint at the charger": {"loose lug"},
        "Joint at the breaker": {"loose breaker"}, "Thinner wire than designed": {"thin wire"},
        "Loose neutral": {"loose neutral"},
    }.get(title, set())  # fmt: skip


class Confusion(unittest.TestCase):
    """Twenty circuits, every fault of the bench that a meter shows, every reading taken."""

    def circuits(self) -> list[Design]:
        dice, found = random.Random(20), []
        for number in range(20):
            charge, feet = dice.choice((16.0, 24.0, 32.0, 40.0, 48.0)), dice.uniform(25, 160)
            edits = {}
            if number % 4 == 1:
                edits = {"supply__system": "120/208"}
            elif number % 5 == 2:
                charge = dice.choice((12.0, 16.0))
                edits = {"charger__connection": {12.0: "5-15", 16.0: "5-20"}[charge]}
            elif number % 3 == 0 and charge in (24.0, 40.0):
                edits = {"charger__connection": {24.0: "14-30", 40.0: "14-50"}[charge]}
            found.append(solve(straight(charge, feet, **edits)))
        return found

    def test_every_fault_is_told_from_every_other(self) -> None:
        wrong, tried = [], 0
        for number, design in enumerate(self.circuits()):
            circuit = circuit_of(design)
            for planted in (None, *applicable(DEMO.book, circuit)):
                tried += 1
                job = solve(at_once(design, planted.faults if planted else Faults()))
                stops = [meaning for meaning in meanings(job) if meaning.severity in (STOP, TIGHT)]
                faults = set().union(*(told_of(meaning.title) for meaning in stops))
                if faults != ({planted.key} if planted else set()):
                    wrong.append((number, circuit.hots, planted.key if planted else "sound", [m.title for m in stops]))
        self.assertGreater(tried, 150)
        self.assertLessEqual(len(wrong), 0.05 * tried, wrong)


class Procedure(unittest.TestCase):
    def test_what_is_asked_next_parts_what_is_left(self) -> None:
        bare = put(demo_job(), Put("prove.readings", ()), Put("prove.ambient_c", 20.0), Put("prove.signatures", ()))
        for planted in applicable(DEMO.book, circuit_of(DEMO)):
            job, steps = bare, 0
            # All in order until something is out of its band; then as the diagnosis asks.
            while steps < 40:
                design = solve(job)
                left, splits = fitting(design)
                if left and splits is None:
                    break
                unread = [test for test in tests_of(design) if test.key not in latest(design)]
                test = splits or unread[0]
                if splits is not None:
                    self.assertGreater(len(left), 1)
                value = take(solve(bare), test, planted.faults)
                reading = Reading(id=f"r{steps + 1}", test=test.key, value=value, raw="taken", when="2026-03-01T10:00")
                job, steps = put(job, Put("prove.readings", (*job.prove.readings, reading))), steps + 1
            self.assertIn(planted.key, [one.key for one in left], planted.key)
            self.assertLessEqual(len(left), 2, (planted.key, [one.key for one in left]))

    def test_nothing_is_energised_over_a_dead_test(self) -> None:
        loop = Reading(id="r1", test="ohm 1-2", value=1e7, raw="taken", when="2026-03-01T10:00")
        job = put(demo_job(), Put("prove.readings", (loop,)), Put("prove.signatures", ()))
        _left, splits = fitting(solve(job))
        self.assertTrue(splits is None or splits.stage in ("dead", "continuity"))
        sound = put(job, Put("prove.readings", ()))
        self.assertEqual(fitting(solve(sound)), ((), None))


class Practising(unittest.TestCase):
    def test_every_joined_fault_shows_in_some_test(self) -> None:
        for planted in PLANTED:
            if planted.seen:
                continue
            out = [
                test.key
                for test in tests_of(DEMO)
                if not test.low - 1e-9 <= take(DEMO, test, planted.faults) <= test.high
            ]
            self.assertTrue(out, planted.key)

    def test_the_same_seed_gives_the_same_fault_and_levels_grow(self) -> None:
        self.assertEqual(exercise(5, 2, DEMO.book), exercise(5, 2, DEMO.book))
        for level in range(3):
            found = {exercise(seed, level, DEMO.book).planted.key for seed in range(80)}
            self.assertTrue(all(planted.level <= level for planted in PLANTED if planted.key in found))
            self.assertGreater(len(found), 3)
        one = exercise(3, 1, DEMO.book)
        self.assertIn(one.planted, one.choices)
        self.assertEqual(len({choice.key for choice in one.choices}), 5)
        self.assertTrue(readings(DEMO, one))

    def test_the_learner_is_told_why(self) -> None:
        one = exercise(3, 1, DEMO.book)
        right, told, score = answer(one, one.planted.key, Score())
        self.assertEqual((right, score.right, score.tried), (True, 1, 1))
        self.assertEqual(told, one.planted.why)
        wrong = next(choice.key for choice in one.choices if choice.key != one.planted.key)
        right, told, score = answer(one, wrong, score)
        self.assertEqual((right, score.right, score.tried), (False, 1, 2))
        self.assertIn(one.planted.name, told)

    def test_cards_are_judged_by_the_engine(self) -> None:
        answers = set()
        for seed in range(25):
            one = card(seed, demo_job())
            stops = solve(one.job).stops
            self.assertEqual(one.answer, stops[0].title if stops else "It holds")
            self.assertIn(one.answer, one.choices)
            answers.add(one.answer)
        self.assertGreater(len(answers), 4)
        self.assertEqual(card(7, demo_job()), card(7, demo_job()))


class Network(unittest.TestCase):
    def test_what_floats_is_pulled_together_by_the_meter(self) -> None:
        circuit = circuit_of(DEMO)
        opened = Faults(open_at=("charger G",))
        self.assertLess(
            solve_network(circuit, opened, meter=("charger 1", "charger G")).between("charger 1", "charger G"), 3
        )

    def test_a_dead_circuit_reads_nothing(self) -> None:
        made = solve_network(circuit_of(DEMO), closed=False, meter=("panel 1", "panel 2"))
        self.assertLess(made.between("panel 1", "panel 2"), 3)


class Visits(unittest.TestCase):
    def test_a_setting_above_the_circuit_is_told_at_each_visit(self) -> None:
        job = typed(demo_job(), "read setting 60 A")
        self.assertIn("Set above the circuit", {meaning.title for meaning in meanings(solve(job))})
        self.assertEqual(judged(solve(job))[0].severity, STOP)
        fine = typed(demo_job(), "read setting 40 A")
        self.assertEqual(meanings(solve(fine))[0].title, "Setting holds")

    def test_a_low_current_ranks_its_reasons(self) -> None:
        job = typed(demo_job(), "read amps 31.5 A")
        titles = [meaning.title for meaning in meanings(solve(job))]
        self.assertIn("The car", titles)
        self.assertLessEqual(len(titles), 3)


class Edges(unittest.TestCase):
    def test_wire_that_the_table_does_not_allow_makes_no_heat_and_no_trouble(self) -> None:
        from awlmark.draw.stages.prove_view import draw_prove
        from awlmark.draw.view_state import Look

        made = solve(straight(16, 30, circuit__size="14", circuit__material="al"))
        self.assertIsNone(thermal_of(made))
        self.assertFalse([test for test in tests_of(made) if test.stage == "heat"])
        self.assertTrue(draw_prove(made, Look(stage="prove"), 792, 560).texts())

    def test_a_signature_without_a_date_and_a_pack_without_a_size_are_named(self) -> None:
        signed = typed(logged(DEMO), "energise maker gives none", "sign R. Vale")
        mark = signed.prove.signatures[0]
        bad = put(signed, Put("prove.signatures", (type(mark)(revision=1, who="R", when="soon", digest="x"),)))
        with self.assertRaisesRegex(InputError, "soon"):
            reminders(bad)
        with self.assertRaisesRegex(InputError, "pack of wire"):
            put(demo_job(), Put("prices", {"wire@many": "1.00"}))
