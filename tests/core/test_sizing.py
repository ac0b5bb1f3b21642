"""The sizing rules that the command-line contract fixes, one test a rule."""

import unittest

from awlmark.core.books import open_book
from awlmark.core.books.nec.sizing.fill import judge_fill
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.leg import Bundle
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.solve.design import solve
from tests.support import design, refused, straight


class Chain(unittest.TestCase):
    def assert_severity(self, made, finding: str, severity: str) -> None:  # type: ignore[no-untyped-def]
        found = made.finding(finding)
        self.assertIsNotNone(found, finding)
        self.assertEqual(found.severity, severity, found.text)

    def circuit(self, *args, **kwargs):  # type: ignore[no-untyped-def]
        made = design(*args, **kwargs)
        self.assertIsNotNone(made.circuit)
        return made.circuit


class BreakerAndConductor(Chain):
    def test_breaker_is_the_smallest_standard_one_at_125_percent_and_15_at_least(self) -> None:
        for charge, breaker in {
            48: 60,
            40: 50,
            32: 40,
            24: 30,
            16: 20,
            12: 15,
            8: 15,
            36: 45,
            80: 100,
            44: 60,
            1: 15,
        }.items():
            self.assertEqual(self.circuit(charge, 20).breaker_a, breaker, charge)

    def test_conductor_carries_125_percent_in_the_terminal_column(self) -> None:
        for charge, size in {48: "6", 40: "8", 32: "8", 24: "10", 16: "12", 12: "14", 64: "4", 80: "3"}.items():
            self.assertEqual(self.circuit(charge, 20).size, size, charge)

    def test_sixty_degree_terminals_take_the_sixty_degree_column(self) -> None:
        made = design(48, 20, charger__terminal_c=60)
        self.assertEqual((made.circuit.size, made.circuit.usable_a), ("4", 70))

    def test_unmarked_terminals_are_asked_for(self) -> None:
        made = design(48, 20, charger__terminal_c=None)
        self.assertEqual(made.circuit.size, "6")
        self.assert_severity(made, "terminals", UNREAD)
        self.assertIsNone(design(48, 20).finding("terminals"))

    def test_above_100_amps_the_75_degree_column_counts_without_a_marking(self) -> None:
        made = design(96, 20, charger__terminal_c=60, supply__terminal_c=60)
        self.assertEqual((made.circuit.breaker_a, made.circuit.terminal_c, made.circuit.size), (125, 75, "1"))
        self.assertIsNone(made.finding("terminals"))

    def test_48_amps_on_a_50_amp_breaker_stops(self) -> None:
        made = design(48, 20, circuit__breaker_a=50)
        self.assert_severity(made, "breaker", STOP)
        quotes = quote_fixes(made, made.finding("breaker"))
        self.assertEqual([quote.worst for quote in quotes], [HOLDS, UNREAD])
        # Who sets the lower limit behind its lock is asked.
        self.assertEqual(solve(quotes[1].job).not_asked[0].id, "set-by")

    def test_small_conductors_keep_their_breakers(self) -> None:
        for size, most in {"14": 15, "12": 20, "10": 30}.items():
            made = design(12, 20, circuit__size=size, circuit__breaker_a=float(most))
            self.assert_severity(made, "protection", HOLDS)
            above = design(12, 20, circuit__size=size, circuit__breaker_a=float(most + 5 if most > 15 else 20))
            self.assert_severity(above, "protection", STOP)

    def test_next_standard_size_up_protects(self) -> None:
        # 6 AWG NM: 55 A is no standard rating, so a 60 A breaker protects it; it still does not serve 48 A.
        made = design(40, 20, method="nm", circuit__size="6", circuit__breaker_a=60.0)
        self.assert_severity(made, "protection", HOLDS)
        self.assert_severity(
            design(40, 20, method="nm", circuit__size="6", circuit__breaker_a=70.0), "protection", STOP
        )

    def test_a_lower_setting_counts_only_when_restricted_and_fixed(self) -> None:
        lowered = {"charger__setting_a": 32.0}
        self.assertEqual(self.circuit(48, 20, **lowered).charge_a, 48)
        self.assertEqual(self.circuit(48, 20, **lowered, charger__setting_restricted=True).charge_a, 32)
        plugged = {**lowered, "charger__setting_restricted": True, "charger__connection": "14-50"}
        self.assertEqual(self.circuit(48, 20, **plugged).charge_a, 48)
        self.assert_severity(design(48, 20, **lowered), "setting", NOTE)


class Heat(Chain):
    def test_factors_come_from_the_insulations_own_column(self) -> None:
        # 6 AWG at 50 C: THWN-2 75 A x 0.82 = 61.5 A; the 75 C column would give 65 x 0.75 = 48.75 A.
        hot = put(straight(48, 20), Put("legs[leg-1].ambient_c", 50.0))
        self.assertAlmostEqual(solve(hot).circuit.usable_a, 61.5)

    def test_usable_is_the_lower_of_terminal_and_factored(self) -> None:
        self.assertEqual(self.circuit(48, 20).usable_a, 65)

    def test_ambient_rows_are_never_interpolated(self) -> None:
        for celsius, factor in {
            30.0: 1.0,
            30.5: 0.96,
            35.0: 0.96,
            36.0: 0.91,
            40.0: 0.91,
            10.0: 1.15,
            -20.0: 1.15,
        }.items():
            job = put(straight(48, 20, circuit__size="6"), Put("legs[leg-1].ambient_c", celsius))
            self.assertAlmostEqual(solve(job).finding("heat").found, 75 * factor, msg=str(celsius))

    def test_attic_and_roof_temperatures_have_to_be_read(self) -> None:
        for place in ("attic", "roof"):
            made = design(48, 20, place=place)
            self.assertEqual(made.verdict, UNREAD)
            self.assertIsNone(made.circuit.usable_a)
            self.assert_severity(made, "heat", UNREAD)

    def test_roof_adds_33_degrees_but_not_for_xhhw2(self) -> None:
        # 30 + 33 = 63 C: 0.65 of 75 A.
        job = put(straight(32, 20, place="roof", circuit__size="6"), Put("legs[leg-1].ambient_c", 30.0))
        self.assertAlmostEqual(solve(job).finding("heat").found, 48.75)
        exempt = put(job, Put("circuit.insulation", "xhhw-2"))
        self.assertAlmostEqual(solve(exempt).finding("heat").found, 75)

    def test_bundling_counts_extra_conductors(self) -> None:
        # 2 own + 2 extra = 4: 80 %. 75 x 0.8 = 60 A.
        made = design(48, 20, circuit__size="6", circuit__extra_ccc=2)
        self.assertAlmostEqual(made.finding("heat").found, 60)
        self.assert_severity(made, "extra-conductors", NOTE)
        self.assertAlmostEqual(design(48, 20, circuit__size="6", circuit__extra_ccc=1).finding("heat").found, 75)

    def test_a_208_volt_neutral_counts_as_current_carrying(self) -> None:
        plugged = {"charger__connection": "14-50", "circuit__extra_ccc": 1, "circuit__size": "8"}
        self.assertAlmostEqual(design(32, 20, **plugged).finding("heat").found, 55)
        self.assertAlmostEqual(design(32, 20, **plugged, supply__system="120/208").finding("heat").found, 44)

    def test_nm_is_held_to_60_with_90_for_factors_and_uf_to_60_throughout(self) -> None:
        job = put(straight(32, 20, method="nm", circuit__size="8"), Put("legs[leg-1].ambient_c", 50.0))
        self.assertAlmostEqual(solve(job).finding("heat").found, 55 * 0.82)
        self.assertEqual(solve(job).circuit.usable_a, 40)
        buried = put(straight(32, 20, method="uf", circuit__size="8"), Put("legs[leg-1].ambient_c", 50.0))
        self.assertAlmostEqual(solve(buried).finding("heat").found, 40 * 0.58)

    def test_xhhw_is_75_where_wet(self) -> None:
        wet = put(
            straight(32, 20, place="outdoor", circuit__insulation="xhhw", circuit__size="8"),
            Put("legs[leg-1].ambient_c", 40.0),
        )
        self.assertAlmostEqual(solve(wet).finding("heat").found, 50 * 0.88)

    def test_a_printed_dash_is_a_stop_and_plastic_above_50_is_one(self) -> None:
        job = put(straight(32, 20, method="uf", circuit__size="8"), Put("legs[leg-1].ambient_c", 60.0))
        self.assert_severity(solve(job), "heat", STOP)
        for celsius, severity in ((50.0, None), (51.0, STOP)):
            job = put(straight(32, 20, method="pvc40"), Put("legs[leg-1].ambient_c", celsius))
            found = solve(job).finding("hot:1")
            self.assertEqual(found and found.severity, severity)


class Ground(Chain):
    def test_by_the_breaker(self) -> None:
        for charge, size in {12: "14", 16: "12", 24: "10", 32: "10", 40: "10", 48: "10", 64: "8", 80: "8"}.items():
            self.assertEqual(self.circuit(charge, 20).ground, size, charge)

    def test_grows_with_the_hots_to_the_tables_rounding(self) -> None:
        # 10,380 x 41,740 / 26,240 = 16,511 circular mils: 8 AWG has 16,510, a hair that the table rounds.
        made = design(48, 150, circuit__size="4")
        self.assertEqual(made.circuit.ground, "8")
        self.assert_severity(made, "ground", TIGHT)
        pinned = design(48, 150, circuit__size="4", circuit__ground_size="8")
        self.assert_severity(pinned, "ground", TIGHT)
        self.assertIn("inspector", pinned.finding("ground").text)
        self.assert_severity(design(48, 150, circuit__size="4", circuit__ground_size="10"), "ground", STOP)

    def test_growth_counts_from_the_minimum_after_factors(self) -> None:
        # At 60 C (0.71) 6 AWG leaves 53 A, still enough for 48 A and its 60 A breaker; bundled to 80 % it is not,
        # so 4 AWG is the minimum and nothing has grown.
        job = put(straight(48, 20, circuit__extra_ccc=2), Put("legs[leg-1].ambient_c", 60.0))
        made = solve(job)
        self.assertEqual((made.circuit.size, made.circuit.ground), ("4", "10"))

    def test_never_larger_than_the_hots(self) -> None:
        made = design(12, 900, circuit__max_drop_percent=20.0, circuit__size="14")
        self.assertEqual(made.circuit.ground, "14")
        grown = design(12, 400, charger__connection="5-15")
        sizes = made.book.sizes
        self.assertLessEqual(sizes.index(grown.circuit.ground), sizes.index(grown.circuit.size))

    def test_cables_come_as_made(self) -> None:
        made = design(32, 200, method="nm")
        self.assertEqual((made.circuit.size, made.circuit.ground), ("6", "10"))
        self.assert_severity(made, "ground", TIGHT)
        self.assert_severity(design(32, 200, method="nm", circuit__ground_size="12"), "ground", STOP)
        conduit = next(quote for quote in quote_fixes(made, made.finding("ground")) if "conduit" in quote.fix.label)
        self.assertEqual(conduit.worst, HOLDS)
        self.assert_severity(design(32, 20, method="nm"), "ground", HOLDS)
        for method in ("ac", "ser"):
            self.assert_severity(design(32, 20, method=method), "ground", UNREAD)
            self.assert_severity(design(32, 20, method=method, circuit__ground_size="10"), "ground", HOLDS)

    def test_aluminium_hots_take_an_aluminium_ground(self) -> None:
        made = design(48, 20, circuit__material="al")
        self.assertEqual((made.circuit.size, made.circuit.ground, made.circuit.insulation), ("4", "8", "xhhw-2"))


class Drop(Chain):
    def test_twice_the_current_times_length_times_table_8(self) -> None:
        # 2 x 48 A x 120 ft x 0.491 ohm/kft = 5.656 V of 240 V.
        circuit = self.circuit(48, 120)
        self.assertAlmostEqual(circuit.drop_v, 2 * 48 * 0.120 * 0.491, places=6)
        self.assertAlmostEqual(circuit.drop_percent, 100 * circuit.drop_v / 240)

    def test_nm_from_14_to_10_is_solid(self) -> None:
        self.assertAlmostEqual(self.circuit(24, 50, method="nm").drop_v, 2 * 24 * 0.050 * 1.21, places=6)
        self.assertAlmostEqual(self.circuit(24, 50).drop_v, 2 * 24 * 0.050 * 1.24, places=6)
        self.assertAlmostEqual(self.circuit(32, 50, method="nm").drop_v, 2 * 32 * 0.050 * 0.778, places=6)

    def test_open_sizes_grow_until_the_limit_holds(self) -> None:
        made = design(48, 250)
        # 4 AWG would lose 7.39 V, 3.08 %.
        self.assertEqual((made.circuit.size, made.circuit.ground), ("3", "6"))
        self.assertLessEqual(made.circuit.drop_percent, 3)

    def test_a_pinned_size_beyond_the_limit_is_tight_or_a_stop_where_mandatory(self) -> None:
        self.assert_severity(design(48, 250, circuit__size="6"), "drop", TIGHT)
        self.assert_severity(design(48, 250, circuit__size="6", local__drop_mandatory=True), "drop", STOP)

    def test_120_and_208_volt_supplies(self) -> None:
        one = self.circuit(12, 50, charger__connection="5-15", circuit__size="14")
        self.assertAlmostEqual(one.drop_percent, 100 * 2 * 12 * 0.050 * 3.14 / 120, places=6)
        two = self.circuit(32, 50, supply__system="120/208")
        self.assertEqual(two.volts, 208)


class Raceway(Chain):
    def test_smallest_trade_size_within_fill(self) -> None:
        # 2 x 0.0507 + 0.0211 = 0.1225 of 0.304 is 40.3 %: 1/2 is too small, 3/4 it is.
        circuit = self.circuit(48, 20)
        self.assertEqual(circuit.trade_sizes, ("3/4",))
        self.assertAlmostEqual(circuit.fill_percent[0], 100 * 0.1225 / 0.533, places=4)

    def test_note_7_rounds_equal_conductors_only(self) -> None:
        # 1 EMT at 40 %: 0.346 / 0.0366 = 9.45 of 8 AWG; 1-1/4 PVC 80: 0.495 / 0.0507 = 9.76 of 6 AWG, 9 only;
        # 1/2 RMC: 0.125 / 0.0133 = 9.40. 3/4 FMC: 0.213 / 0.0366 = 5.82 of 8 AWG, so six equal ones do fit.
        book = open_book("nec-2023")
        method = book.methods["fmc"]
        self.assertTrue(judge_fill(book, method, "3/4", (Bundle(count=6, size="8"),))["holds"])
        mixed = (Bundle(count=5, size="8"), Bundle(count=1, size="8", insulation="xhhw-2"))
        self.assertFalse(judge_fill(book, method, "3/4", mixed)["holds"])
        pinned = {"circuit__ground_size": "8", "circuit__size": "8", "charger__connection": "14-50"}
        job = put(straight(32, 20, method="fmc", **pinned), Put("circuit.others", (Bundle(count=2, size="8"),)))
        self.assertEqual(solve(job).circuit.trade_sizes, ("3/4",))

    def test_nipple_of_24_inches_fills_to_60_without_bundling(self) -> None:
        made = design(48, 2, circuit__extra_ccc=8)
        self.assertEqual((made.circuit.trade_sizes, made.circuit.limit_percent), (("1/2",), (60.0,)))
        self.assertAlmostEqual(made.finding("heat").found, 75)
        self.assertEqual(design(48, 2.1).circuit.limit_percent, (40.0,))

    def test_overfull_pins_stop_with_a_size_that_fits(self) -> None:
        job = put(straight(48, 20), Put("legs[leg-1].trade_size", "1/2"))
        made = solve(job)
        self.assert_severity(made, "fill:1", STOP)
        self.assertEqual(quote_fixes(made, made.finding("fill:1"))[0].worst, HOLDS)

    def test_three_equal_6_awg_in_three_quarter_pvc_can_jam(self) -> None:
        job = put(straight(48, 20, method="pvc40", circuit__ground_size="6"), Put("legs[leg-1].trade_size", "3/4"))
        made = solve(job)
        self.assert_severity(made, "jam:1", TIGHT)
        self.assertAlmostEqual(made.finding("jam:1").found, 3.17, places=2)
        self.assertTrue(all(quote.worst == HOLDS for quote in quote_fixes(made, made.finding("jam:1"))))

    def test_others_count_in_fill_and_heat_and_a_cable_as_one_conductor(self) -> None:
        others = put(straight(48, 20, circuit__size="6"), Put("circuit.others", (Bundle(count=5, size="12"),)))
        made = solve(others)
        self.assertAlmostEqual(made.finding("heat").found, 75 * 0.7)
        self.assertEqual(made.circuit.trade_sizes, ("3/4",))
        cable = put(straight(48, 20), Put("circuit.others", (Bundle(count=1, diameter_m=0.0127),)))
        self.assertEqual(solve(cable).circuit.trade_sizes, ("1",))

    def test_dry_insulation_stops_in_wet_raceway(self) -> None:
        made = design(48, 20, place="outdoor", circuit__insulation="thhn")
        self.assert_severity(made, "wet:1", STOP)
        self.assertEqual(quote_fixes(made, made.finding("wet:1"))[0].worst, HOLDS)


class Outlets(Chain):
    def test_receptacle_against_breaker_and_charger(self) -> None:
        self.assert_severity(design(32, 20, charger__connection="14-50"), "receptacle", HOLDS)
        made = design(48, 20, charger__connection="14-50")
        self.assert_severity(made, "receptacle", STOP)
        self.assert_severity(made, "receptacle-load", STOP)
        self.assert_severity(design(24, 20, charger__connection="6-20"), "receptacle", STOP)
        self.assert_severity(design(48, 20, charger__connection="14-60"), "receptacle", HOLDS)

    def test_gfci_by_edition(self) -> None:
        cases = {
            ("nec-2017", "14-50", "indoor", 40): True,
            ("nec-2017", "14-60", "indoor", 48): False,
            ("nec-2020", "14-60", "indoor", 48): True,
            ("nec-2017", "hardwired", "outdoor", 32): False,
            ("nec-2020", "hardwired", "outdoor", 32): True,
            ("nec-2020", "hardwired", "outdoor", 48): False,
            ("nec-2020", "hardwired", "garage", 32): False,
            ("nec-2023", "hardwired", "garage", 32): True,
            ("nec-2023", "hardwired", "garage", 48): False,
            ("nec-2023", "hardwired", "indoor", 32): False,
        }
        for (code, connection, place, charge), wanted in cases.items():
            with self.subTest(code=code, connection=connection, place=place, charge=charge):
                made = design(charge, 20, place=place, code=code, charger__connection=connection)
                self.assertEqual(made.circuit.gfci, wanted)
        own = {"place": "garage", "code": "nec-2023", "local__garage_hardwired_gfci": False}
        self.assertFalse(design(32, 20, **own).circuit.gfci)

    def test_aluminium_cable_is_refused_as_input(self) -> None:
        for method in ("nm", "mc", "uf", "ac"):
            with refused(self, "conductor material"):
                design(32, 20, method=method, circuit__material="al")


class NamedMistake(Chain):
    def test_48_amps_on_6_awg_nm_breaks_with_three_working_fixes(self) -> None:
        made = design(48, 40, method="nm", circuit__size="6")
        self.assertEqual(made.verdict, STOP)
        finding = made.stops[0]
        self.assertEqual((finding.id, finding.found, finding.needed), ("conductor", 55, 60))
        self.assertIn("5 A short", finding.text)
        quotes = quote_fixes(made, finding)
        self.assertEqual(len(quotes), 3)
        for quote in quotes:
            self.assertTrue(quote.mends)
            self.assertEqual(solve(quote.job).stops, (), quote.fix.label)
