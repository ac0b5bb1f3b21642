"""Every bus between meter and charger."""

import unittest

from msgspec.structs import replace

from awlmark.core.books.nec.panel.buses import buses
from awlmark.core.entry.supply_facts import supply_facts
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, STOP, TIGHT, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.supply import Board, Demand, Load
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.solve.design import solve
from tests.drawn import given, settings, st
from tests.support import refused, straight


def shed(charge_a: float = 48, others_va: float = 9 * 240, feeder_a: float | None = 60, **fields: object) -> Job:
    """A charger on a sub-panel with one other load, in other occupancy: every load counts whole."""
    job = straight(charge_a, 40, supply__service_a=150.0)
    load = Load(id="l", name="Tub", va=others_va, board="shed")
    return replace(
        job,
        occupancy="other",
        boards=(Board(id="shed", name="shed panel", feeder_a=feeder_a),),
        loads=(load,),
        supply=replace(job.supply, board="shed"),
        **fields,
    )


class Buses(unittest.TestCase):
    def test_48_amps_beside_9_need_69_not_57(self) -> None:
        service, feeder = buses(shed(), 48, 240)
        # The service of a business carries the quarter too (230.42(A)(1)).
        self.assertAlmostEqual(service.needed_a, 69)
        self.assertAlmostEqual(feeder.needed_a, 69)
        self.assertEqual(solve(shed(feeder_a=70)).finding("demand:shed").severity, TIGHT)
        self.assertEqual(solve(shed(feeder_a=60)).finding("demand:shed").severity, STOP)
        self.assertEqual(solve(shed(feeder_a=80)).finding("demand:shed").severity, HOLDS)

    def test_feeder_drop_joins_the_branchs(self) -> None:
        job = put(
            shed(feeder_a=100),
            Put("boards[shed].feeder_size", "4"),
            Put("boards[shed].feeder_length_m", 100 * 0.3048),
        )
        made = solve(job)
        # 57 A x 2 x 100 ft x 0.308 ohm/kft = 3.511 V of 240 V, and the branch: 48 A x 2 x 40 ft x 0.491.
        feeder = 100 * 57 * 2 * 0.1 * 0.308 / 240
        branch = 100 * 48 * 2 * 0.040 * 0.491 / 240
        self.assertAlmostEqual(made.finding("drop-whole").found, feeder + branch, places=6)
        self.assertEqual(made.finding("drop-whole").severity, HOLDS)
        far = put(job, Put("boards[shed].feeder_length_m", 300 * 0.3048))
        self.assertEqual(solve(far).finding("drop-whole").severity, TIGHT)
        self.assertIsNone(solve(put(job, Put("boards[shed].feeder_size", None))).finding("drop-whole"))
        fact = next(fact for fact in supply_facts(job) if fact.label.endswith("feeder wire"))
        again = put(job, *fact.read("2 al", job, None)).boards[0]
        self.assertEqual((again.feeder_size, again.feeder_material), ("2", "al"))

    def test_an_unread_feeder_is_asked_for(self) -> None:
        self.assertEqual(solve(shed(feeder_a=None)).finding("demand:shed").severity, UNREAD)

    def test_a_hot_tub_on_a_60_amp_feeder_stops_and_every_way_out_works(self) -> None:
        # Below 30 A the 2023 floor of 7,200 VA counts: 24 + 30 + a quarter of 24 A makes 60.
        made = solve(shed(40, 24 * 240, 60))
        finding = made.finding("demand:shed")
        self.assertEqual(finding.severity, STOP)
        quotes = quote_fixes(made, finding)
        self.assertEqual(len(quotes), 3)
        labels = " ".join(quote.fix.label for quote in quotes)
        for told in ("Set charger to 24 A", "Load management", "service panel"):
            self.assertIn(told, labels)
        for quote in quotes:
            self.assertEqual(solve(quote.job).stops, (), quote.fix.label)

    def test_management_holds_the_charger_to_what_is_left(self) -> None:
        made = solve(put(shed(40, 30 * 240, 60), Put("demand.managed", True)))
        self.assertAlmostEqual(made.finding("management").found, 0.8 * 60 - 30)
        older = solve(put(shed(40, 30 * 240, 60), Put("demand.managed", True), Put("code", "nec-2020")))
        self.assertAlmostEqual(older.finding("management").found, (60 - 30) / 1.25)
        starved = solve(put(shed(40, 55 * 240, 60), Put("demand.managed", True)))
        self.assertEqual(starved.finding("management").severity, TIGHT)
        self.assertIn("waits", starved.finding("management").text)
        free = solve(put(shed(40, 240, 100), Put("demand.managed", True)))
        self.assertEqual(free.finding("management").severity, HOLDS)

    def test_every_board_on_the_way_is_checked(self) -> None:
        job = shed()
        deeper = replace(
            job,
            boards=(*job.boards, Board(id="post", name="post panel", fed_by="shed", feeder_a=70)),
            supply=replace(job.supply, board="post"),
        )
        self.assertEqual([bus.id for bus in buses(deeper, 48, 240)], ["service", "shed", "post"])
        self.assertAlmostEqual(buses(deeper, 48, 240)[2].needed_a, 60)

    def test_a_supply_nobody_told_is_asked_about(self) -> None:
        job = straight(48, 40)
        job = replace(job, demand=Demand(), supply=replace(job.supply, service_a=None))
        made = solve(job)
        self.assertEqual(made.buses, ())
        self.assertEqual(made.finding("demand:service").severity, UNREAD)
        self.assertEqual(made.said, "holds as far as asked")

    def test_dwelling_methods_reach_the_service(self) -> None:
        job = replace(
            straight(48, 40), demand=Demand(floor_m2=150.0), loads=(Load(id="r", name="Range", va=12000, kind="range"),)
        )
        for service, severity in ((125.0, HOLDS), (100.0, STOP)):
            made = solve(put(job, Put("supply.service_a", service)))
            self.assertEqual(made.finding("demand:service").severity, severity)
        for lacking in (Put("supply.service_a", None), Put("demand.floor_m2", None)):
            asked = solve(put(job, lacking)).finding("demand:service")
            self.assertEqual(asked.severity, UNREAD)
            self.assertTrue(asked.ask)

    @settings(max_examples=60, deadline=None)
    @given(
        st.floats(1, 60_000), st.floats(1, 60_000), st.sampled_from(["standard", "optional", "existing"]), st.booleans()
    )
    def test_more_load_never_leaves_more_amps(self, one: float, more: float, method: str, pool: bool) -> None:
        base = replace(
            straight(32, 20, supply__service_a=200.0), demand=Demand(method=method, floor_m2=120.0, pool=pool)
        )
        jobs = [replace(base, loads=(Load(id="a", name="A", va=va),)) for va in (one, one + more)]
        less, greater = (buses(job, 32, 240)[0] for job in jobs)
        self.assertGreaterEqual(less.spare_a, greater.spare_a - 1e-9)

    def test_facts_of_the_supply_read_back_and_land(self) -> None:
        for job in (shed(), replace(shed(), occupancy="dwelling"), replace(shed(), occupancy="dwelling", units="m")):
            for text in ("Floor area", "Highest demand of a year", "Service"):
                fact = next((fact for fact in supply_facts(job) if fact.label == text), None)
                if fact is not None:
                    job = put(job, *fact.read("120", job, None))
                    self.assertIn("120", fact.show(job, None))
            for fact in supply_facts(job):
                again = put(job, *fact.read(fact.show(job, None), job, None))
                self.assertEqual(fact.show(again, None), fact.show(job, None), fact.label)
                if fact.label not in ("Floor area", "Highest demand of a year", "Service", "shed panel: feeder"):
                    with self.assertRaises(InputError, msg=fact.label):
                        fact.read("rubbish", job, None)

    def test_every_field_can_be_reached_by_its_path(self) -> None:
        job = shed()
        for part in ("supply", "charger", "circuit", "need", "demand", "makeup", "local"):
            node = getattr(job, part)
            for field in node.__struct_fields__:
                if field != "extra":
                    self.assertEqual(put(job, Put(f"{part}.{field}", getattr(node, field))), job)

    def test_rings_strangers_and_nonsense_are_refused(self) -> None:
        job = shed()
        for path, value in (
            ("boards[shed].fed_by", "shed"),
            ("boards[shed].fed_by", "nowhere"),
            ("supply.board", "nowhere"),
            ("loads[l].board", "nowhere"),
            ("loads[l].va", -5.0),
            ("loads[l].va", float("inf")),
            ("loads[l].kind", "mystery"),
            ("demand.method", "guess"),
            ("boards[shed].feeder_a", 0.0),
        ):
            with (
                self.subTest(path, value=value),
                refused(
                    self,
                    "Tub kind",
                    "Tub load",
                    "Tub panel",
                    "circuit panel",
                    "demand method",
                    "shed panel feed",
                    "shed panel feeder",
                ),
            ):
                put(job, Put(path, value))
