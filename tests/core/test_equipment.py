"""What the panel itself allows, how its legs share the load, and how its spaces are written."""

import unittest

from msgspec.structs import replace

from awlmark.core.entry.read import read_entry
from awlmark.core.entry.spaces import SLOT_COLUMNS, read_slot_cell, slot_cells, sorted_breakers
from awlmark.core.entry.supply_facts import PANEL_FACTS, supply_facts
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.panel_face import Breaker, DeadFront, Knockout
from awlmark.core.job.supply import Board, Load
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.panel.leg_balance import leg_amps
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.support import refused, straight

CLEAR = {"clear_wide_m": 30 * INCH_M, "clear_deep_m": 36 * INCH_M, "clear_high_m": 78 * INCH_M}


def panel(*breakers: Breaker, **fields: object) -> Job:
    """A 12-space panel with everything in order but what the test changes."""
    front = DeadFront(**({"spaces": 12, "breakers": breakers} | CLEAR | fields))
    return put(straight(48, 20, supply__service_a=200.0), Put("dead_front", front))


def found(job: Job, finding_id: str) -> Finding:
    finding = solve(job).finding(finding_id)
    assert finding is not None, finding_id
    return finding


class Findings(unittest.TestCase):
    def mended(self, job: Job, finding_id: str) -> Job:
        """Take the first fix of a stop and see it mended."""
        made = solve(job)
        quote = quote_fixes(made, found(job, finding_id))[0]
        after = solve(quote.job).finding(finding_id)
        self.assertTrue(after is None or after.severity == HOLDS, after)
        return quote.job

    def test_a_panel_nobody_described_is_asked_about(self) -> None:
        made = solve(put(straight(48, 20), Put("dead_front", DeadFront())))
        asked = {finding.id for finding in made.findings if finding.severity == UNREAD}
        self.assertEqual(asked, {"space", "family", "working-space", "panel-age"})
        self.assertFalse({finding.id for finding in made.findings} & {"tandem", "fillers", "solar", "line-lugs"})

    def test_breaker_types(self) -> None:
        wrong = panel(Breaker(id="a", space=1, family="ZZ"), families=("YF", "YF-T"))
        self.assertEqual(found(wrong, "family").severity, STOP)
        right = put(wrong, Put("dead_front.breakers[a].family", " yf-t "))
        self.assertEqual(found(right, "family").severity, HOLDS)
        unread = put(wrong, Put("dead_front.breakers[a].family", ""))
        self.assertEqual(found(unread, "family").severity, HOLDS)

    def test_tandems_and_quads_only_where_the_label_allows(self) -> None:
        job = panel(Breaker(id="a", space=3, name="attic", tandem=True), tandem_from=9)
        self.assertEqual(found(job, "tandem").severity, STOP)
        self.assertGreaterEqual(self.mended(job, "tandem").dead_front.breakers[0].space, 9)
        quad = panel(Breaker(id="q", space=1, poles=2, quad=True))
        self.assertIn("none of its spaces", found(quad, "tandem").text)
        self.assertEqual(found(quad, "tandem").fixes, ())

    def test_open_spaces_want_fillers_and_the_list_counts_them(self) -> None:
        job = panel(Breaker(id="a", space=1), opened=(1, 5, 7), fillers=(7,))
        self.assertIn("open at 5", found(job, "fillers").text)
        closed = self.mended(job, "fillers")
        part = next(part for part in solve(closed).parts if part.key == "filler")
        self.assertEqual(part.quantity, 2)

    def test_moves_leave_no_hole_in_the_cover(self) -> None:
        crowded = panel(*(Breaker(id=f"b{n}", space=n) for n in (1, 4, 5, 8, 9, 12)), spaces=12)
        full = put(crowded, Put("dead_front.breakers", (*crowded.dead_front.breakers, Breaker(id="x", space=2))))
        full = put(full, Put("dead_front.breakers", (*full.dead_front.breakers, Breaker(id="y", space=11))))
        moved = self.mended(full, "space")
        self.assertIsNone(solve(moved).finding("fillers"))

    def test_an_idle_breaker_may_go_once_both_ends_are_proved(self) -> None:
        breakers = [Breaker(id=f"b{n}", space=n) for n in range(1, 12)]
        idle = replace(breakers[2], idle=True, name="kiln", proved_panel=True)
        job = panel(*breakers[:2], idle, *breakers[3:])
        stop = found(job, "space")
        self.assertEqual(stop.severity, STOP)
        self.assertIn("prove kiln idle", stop.text)
        proved = put(job, Put("dead_front.breakers[b3].proved_load", True))
        self.assertIn("aking out kiln", found(proved, "space").text)
        self.assertEqual(len(self.mended(proved, "space").dead_front.breakers), 10)

    def test_solar_on_the_bus_by_either_rule_of_705_12(self) -> None:
        # 200 A main and 40 A back-fed on a 200 A bus: exactly 120 %, at the far end.
        solar = Breaker(id="s", space=9, poles=2, kind="back-fed", rating_a=40.0)
        job = panel(solar, bus_a=200.0)
        self.assertEqual(found(job, "solar").severity, HOLDS)
        self.assertEqual(found(put(job, Put("dead_front.bus_a", None)), "solar").severity, UNREAD)
        # At the near end the 120 % rule is lost, but all breakers together (40 and the charger's 60) stay below 200.
        near = put(job, Put("dead_front.breakers[s].space", 1))
        # That sum speaks only once every breaker is entered.
        self.assertEqual(found(near, "solar").severity, UNREAD)
        near = put(near, Put("dead_front.complete", True))
        self.assertEqual(found(near, "solar").severity, HOLDS)
        loads = tuple(Breaker(id=f"d{n}", space=n, poles=2, rating_a=60.0) for n in (2, 6))
        loaded = put(near, Put("dead_front.breakers", (*near.dead_front.breakers, *loads)))
        self.assertEqual(found(loaded, "solar").severity, STOP)
        self.assertEqual(found(put(loaded, Put("dead_front.bus_a", 225.0)), "solar").severity, HOLDS)

    def test_working_space_of_110_26(self) -> None:
        self.assertEqual(found(panel(), "working-space").severity, HOLDS)
        for field, value in (("wide", 29 * INCH_M), ("deep", 35 * INCH_M), ("high", 77 * INCH_M)):
            job = put(panel(), Put(f"dead_front.clear_{field}_m", value))
            self.assertIn(field, found(job, "working-space").text)
            self.assertEqual(found(job, "working-space").severity, STOP)
        self.assertEqual(found(put(panel(), Put("dead_front.clear_deep_m", None)), "working-space").severity, UNREAD)

    def test_old_panels_and_line_lugs(self) -> None:
        self.assertEqual(found(panel(condition="obsolete"), "panel-age").severity, STOP)
        self.assertIn("electrician", found(panel(condition="obsolete"), "panel-age").text)
        self.assertEqual(found(panel(condition="worn"), "panel-age").severity, TIGHT)
        self.assertIsNone(solve(panel(condition="sound")).finding("panel-age"))
        self.assertIn("stay live", found(panel(), "line-lugs").text)

    def test_neutral_and_ground_past_the_service(self) -> None:
        job = put(panel(), Put("boards", (Board(id="shed", name="shed", feeder_a=100.0),)))
        self.assertIsNone(solve(job).finding("bonded:shed"))
        job = put(job, Put("supply.board", "shed"))
        self.assertEqual(found(job, "bonded:shed").severity, UNREAD)
        self.assertEqual(found(put(job, Put("boards[shed].bonded", True)), "bonded:shed").severity, STOP)
        self.mended(put(job, Put("boards[shed].bonded", True)), "bonded:shed")

    def test_the_knockout_the_run_begins_at(self) -> None:
        holes = (
            Knockout(id="k1", trade_size="3/4"),
            Knockout(id="k2", side="bottom", trade_size="1/2", state="used", below_top_m=0.75),
            Knockout(id="k3", side="left", trade_size="1-1/4"),
        )
        job = put(panel(knockouts=holes), Put("supply.knockout", "k1"), Put("legs[leg-1].method", "emt"))
        self.assertEqual(found(job, "knockout").severity, HOLDS)
        used = put(job, Put("supply.knockout", "k2"))
        self.assertEqual(found(used, "knockout").severity, STOP)
        self.mended(used, "knockout")
        self.assertAlmostEqual(
            solve(job).line.legs[0].start[2] - solve(used).line.legs[0].start[2], 0.75, msg="the run begins lower"
        )
        self.assertEqual(found(put(job, Put("supply.knockout", "k3")), "knockout").severity, NOTE)
        small = put(job, Put("legs[leg-1].trade_size", "1"))
        self.assertEqual(found(small, "knockout").severity, TIGHT)
        with refused(self, "knockout k1 size"):
            put(job, Put("dead_front.knockouts[k1].trade_size", "7/8")) and solve(
                put(job, Put("dead_front.knockouts[k1].trade_size", "7/8"))
            )


class Legs(unittest.TestCase):
    def uneven(self) -> Job:
        breakers = (Breaker(id="k", space=1, name="kettle"), Breaker(id="h", space=5, name="Heater"))
        job = panel(*breakers)
        loads = (
            Load(id="1", name="Kettle", va=2400),
            Load(id="2", name="heater", va=1800),
            Load(id="3", name="Tub", va=4800),
        )
        return put(job, Put("loads", loads))

    def test_loads_lie_where_their_breakers_are(self) -> None:
        job = self.uneven()
        # Space 1 and 5 lie on leg A: 20 A and 15 A; the tub lies on both with 20 A, the charger with 48 A.
        self.assertEqual(leg_amps(job, 48, True), (20 + 15 + 20 + 48, 20 + 48))
        self.assertEqual(leg_amps(put(job, Put("loads[1].leg", "B")), 0, False), (15 + 20, 20 + 20))
        self.assertIsNone(leg_amps(put(job, Put("dead_front.breakers", ())), 48, True))

    def test_uneven_legs_are_told_and_evened(self) -> None:
        job = self.uneven()
        finding = found(job, "legs")
        self.assertEqual(finding.severity, NOTE)
        quote = quote_fixes(solve(job), finding)[0]
        after = leg_amps(quote.job, 48, True)
        assert after is not None
        self.assertEqual(abs(after[0] - after[1]), 5)
        self.assertEqual(found(quote.job, "legs").severity, HOLDS)


class Writing(unittest.TestCase):
    def test_words_of_the_panel(self) -> None:
        job = demo_job()
        for text in ("slot 16 30a quad barn", "slot 17 idle proved load", "slot 18 20a 2p solar", "bus 225a",
                     "accepts YF, QX-2", "clear 30in 36in 6'6\"", "condition worn", "knockout right 1 down 6in",
                     "slot 14 open", "move 17 to 19"):  # fmt: skip
            with self.subTest(text):
                if text.startswith("slot 16"):
                    with refused(self, "barn"):
                        read_entry("slot 16 30a quad barn", read_entry("slot 18 20a", job).job)
                    job = read_entry("slot 14 30a quad barn", job).job
                    continue
                if text.startswith("slot 14"):
                    job = read_entry("slot 14 free", job).job
                job = read_entry(text, job).job
        front = job.dead_front
        loft = next(breaker for breaker in front.breakers if breaker.name == "loft")
        self.assertEqual((loft.space, loft.idle, loft.proved_panel, loft.proved_load), (19, True, False, True))
        solar = next(breaker for breaker in front.breakers if breaker.kind == "back-fed")
        self.assertEqual((solar.space, solar.poles, solar.name, solar.stays), (18, 2, "solar", True))
        self.assertEqual((front.bus_a, front.families, front.condition), (225, ("YF", "QX-2"), "worn"))
        self.assertAlmostEqual(front.clear_high_m or 0, 6.5 * FOOT_M)
        self.assertEqual((front.knockouts[-1].side, front.knockouts[-1].trade_size), ("right", "1"))
        self.assertIn(14, front.opened)

    def test_a_slot_keeps_what_is_not_typed_and_says_what_it_was(self) -> None:
        reading = read_entry("slot 5 25a", demo_job())
        lamps = next(breaker for breaker in reading.job.dead_front.breakers if breaker.space == 5)
        self.assertEqual((lamps.name, lamps.rating_a), ("lamps", 25))
        self.assertIn("was lamps, 20 A", reading.says)

    def test_breakers_swap_with_their_like_and_stay_where_they_must(self) -> None:
        moved = read_entry("move 1 to 2", demo_job()).job.dead_front
        where = {breaker.name: breaker.space for breaker in moved.breakers}
        self.assertEqual((where["press"], where["cold store"]), (2, 1))
        fixed = put(demo_job(), Put("dead_front.breakers[b1].kind", "main"))
        for text in ("move 1 to 2", "move 2 to 1", "move 14 to 16", "move 1 to 5"):
            with self.subTest(text), refused(self, "move"):
                read_entry(text, fixed)

    def test_every_cell_of_the_table_reads_back_what_it_shows(self) -> None:
        job = put(demo_job(), Put("dead_front.breakers[b8].proved_load", False))
        for row, breaker in enumerate(sorted_breakers(job.dead_front)):
            for column, text in enumerate(slot_cells(breaker)):
                if SLOT_COLUMNS[column] == "Leg":
                    continue
                edits = read_slot_cell(job, row, column, text)
                self.assertEqual(put(job, *edits), job, (breaker, SLOT_COLUMNS[column]))

    def test_cells_make_change_and_rub_out_devices(self) -> None:
        job = demo_job()
        rows = len(job.dead_front.breakers)
        made = put(job, *read_slot_cell(job, rows, 0, "19"))
        self.assertEqual(len(made.dead_front.breakers), rows + 1)
        self.assertEqual(len(put(job, *read_slot_cell(job, 0, 0, "")).dead_front.breakers), rows - 1)
        self.assertEqual(read_slot_cell(job, rows, 3, ""), ())
        for row, column, text in (
            (0, 1, "A"), (0, 4, "3p"), (0, 6, "mixer"), (0, 7, "maybe"), (0, 8, "half"), (rows, 3, "20 A"), (0, 3, "x"),
        ):  # fmt: skip
            with (
                self.subTest(column=column, text=text),
                refused(self, "Does", "Form", "Idle", "Leg", "Proved", "Rating", "Space"),
            ):
                read_slot_cell(job, row, column, text)

    def test_every_fact_of_the_panel_reads_back_what_it_shows(self) -> None:
        job = put(
            demo_job(),
            Put("boards", (Board(id="shed", name="shed", feeder_a=60.0, bonded=False),)),
            Put("demand.shares", "load-4"),
            Put("demand.set_point_a", 120.0),
            Put("dead_front.clear_deep_m", 42 * INCH_M),
            Put("dead_front.clear_wide_m", 34 * INCH_M),
            Put("dead_front.clear_high_m", 84 * INCH_M),
        )
        for fact in (*PANEL_FACTS, *supply_facts(job)):
            with self.subTest(fact.label):
                # Lengths print to an eighth of an inch: once on that grid, they stay.
                once = put(job, *fact.read(fact.show(job, None), job, None))
                self.assertEqual(fact.show(once, None), fact.show(job, None))
                self.assertEqual(put(once, *fact.read(fact.show(once, None), once, None)), once)
        for fact in PANEL_FACTS[2:]:
            self.assertNotEqual(put(job, *fact.read("", job, None)), job)


class OtherSupplies(unittest.TestCase):
    def test_230_volts_is_prepared_and_says_what_is_missing(self) -> None:
        job = put(demo_job(), Put("supply.system", "230"))
        made = solve(job)
        self.assertEqual(made.finding("rule-book").severity, UNREAD)
        self.assertIsNone(made.circuit)
        assert made.need is not None
        self.assertAlmostEqual(float(made.need.ramps[0].kw[1]), 12 * 230 / 1000)
        quarter = (48 * 230 + 1200) / 4
        counted = sum(row.counted_va for row in made.buses[0].sheet.rows)
        self.assertAlmostEqual(made.buses[0].needed_a, (counted + quarter) / 230)
