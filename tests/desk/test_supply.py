"""Need and Panel at the desk: cars, loads, buses, the dead front, a measured year."""

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from awlmark.core.entry.cars import add_car
from awlmark.core.finding import HOLDS, STOP
from awlmark.core.job.cars import MOST_CARS
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import dumps
from awlmark.core.job.supply import Demand
from awlmark.core.panel.load_management import invented_for
from awlmark.core.panel.meter import read_meter
from awlmark.core.panel.meter_data import invented_year, kept, write_csv
from awlmark.data import demo_job
from awlmark.desk.file_actions import LEAVE_IT
from awlmark.desk.session import fresh_job
from tests.desk.support import DeskCase
from tests.support import straight


class Needing(DeskCase):
    def test_a_ramp_sets_the_current_and_moves_the_ladder(self) -> None:
        window = self.open(demo_job())
        self.key(window.entry.line, Qt.Key.Key_1, Qt.KeyboardModifier.ControlModifier)
        canvas = window.scenes.drawing.canvas
        self.click(canvas, "charge-6")
        self.assertEqual(window.session.job.charger.nameplate_a, 32)
        self.assertIn("need 40", " ".join(text.text for text in window.ladder.canvas.picture.texts()))
        self.assertEqual(window.session.design.finding("short-nights").severity, "tight")
        self.click(canvas, "charge-0")
        charger = window.session.job.charger
        self.assertEqual((charger.nameplate_a, charger.connection), (12, "5-20"))
        self.click(canvas, "charge-9")
        charger = window.session.job.charger
        self.assertEqual((charger.nameplate_a, charger.connection), (48, "hardwired"))
        self.assertEqual(window.session.design.verdict, HOLDS)

    def test_facts_are_typed_over_and_refused_in_words(self) -> None:
        window = self.open(demo_job())
        window.show_need()
        self.settle()
        facts = window.scenes.facts
        self.assertTrue(facts.isVisible())
        facts.type_over(1, 0, "60 kWh")
        self.settle()
        self.assertEqual(window.session.job.need.cars[0].battery_kwh, 60)
        facts.type_over(2, 0, "plenty")
        self.settle()
        self.assertEqual(facts.text(2, 0), "1.94 mi/kWh")
        self.assertIn("use", window.entry.echo.text())
        window.undo()
        self.settle()
        self.assertEqual(facts.text(1, 0), "100 kWh")

    def test_cars_are_put_in_and_taken_out(self) -> None:
        window = self.open(fresh_job())
        window.show_need()
        self.settle()
        self.click(window.scenes.drawing.canvas, "add-car")
        self.assertEqual(len(window.session.job.need.cars), 1)
        for _ in range(MOST_CARS):
            window.add_car()
        self.assertEqual(len(window.session.job.need.cars), MOST_CARS)
        self.assertIn("too many", window.entry.echo.text())
        for _ in range(MOST_CARS):
            window.remove_car()
        self.settle()
        self.assertIsNone(window.session.design.need)
        self.assertFalse(window.scenes.facts.isVisible())


class Supplying(DeskCase):
    def test_three_loads_typed_give_the_demand(self) -> None:
        job = straight(48, 40, supply__service_a=150.0, occupancy="other")
        window = self.open(put(job, Put("demand", Demand())))
        self.key(window.entry.line, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(window.session.design.buses, ())
        loads = window.scenes.supply.loads
        for row, (name, draws) in enumerate((("Press", "30 A"), ("Lamps", "2.4 kW"), ("Pump", "10 A 120 V"))):
            loads.type_over(row, 0, name)
            self.settle()
            loads.type_over(row, 1, draws)
            self.settle()
        self.assertEqual([load.va for load in window.session.job.loads], [7200, 2400, 1200])
        bus = window.session.design.buses[0]
        self.assertEqual([load.kind for load in window.session.job.loads], ["motor", "lighting", "motor"])
        self.assertTrue(all(load.guessed for load in window.session.job.loads))
        self.assertEqual(window.session.design.finding("load-kinds").severity, "unread")
        # Lamps and charger are continuous, and a quarter of the largest motor counts on top.
        self.assertAlmostEqual(bus.needed_a, 30 * 1.25 + 10 * 1.25 + 5 + 48 * 1.25)
        self.assertIn("35 A spare", " ".join(text.text for text in window.ladder.canvas.picture.texts()))
        loads.type_over(0, 1, "lots")
        self.settle()
        self.assertEqual(loads.text(0, 1), "7.2 kW")
        self.assertIn("Draws", window.entry.echo.text())
        loads.type_over(2, 0, "")
        self.settle()
        self.assertEqual(len(window.session.job.loads), 2)

    def test_a_tub_on_a_feeder_stops_the_line_and_the_ways_out_work(self) -> None:
        window = self.open(straight(40, 40, supply__service_a=150.0, occupancy="other"))
        for text in ("panel shed 60a", "on shed", "load tub 24a"):
            self.type(window, text)
        window.show_panel()
        self.settle()
        self.assertEqual(window.session.design.finding("demand:board-1").severity, STOP)
        self.assertIn("over", " ".join(text.text for text in window.ladder.canvas.picture.texts()))
        labels = [quote.fix.label for quote in window.session.look.quotes]
        self.assertEqual(len(labels), 3)
        for number in range(3):
            self.click(window.loupe.canvas, f"fix{number}")
            self.assertEqual(window.session.design.stops, (), labels[number])
            window.undo()
            self.settle()
        self.click(window.scenes.drawing.canvas, "bus-service")
        self.assertEqual(window.session.look.bus, "service")

    def test_meter_data_join_the_sheet(self) -> None:
        window = self.open(straight(48, 40, supply__service_a=200.0))
        path = self.folder / "meter.csv"
        path.write_text(write_csv(invented_year(interval_s=3600)), encoding="utf-8")
        window.files.ask_meter = lambda: path  # type: ignore[method-assign]
        window.read_meter()
        window.session._workers.waitForDone()
        self.settle()
        demand = window.session.job.demand
        self.assertEqual(demand.method, "measured")
        bus = window.session.design.buses[0]
        self.assertAlmostEqual(bus.needed_a, demand.measured_a * 1.25 + 48)
        self.assertIn("365 days", window.entry.echo.text())
        path.write_text("nothing", encoding="utf-8")
        window.read_meter()
        window.session._workers.waitForDone()
        self.settle()
        self.assertEqual(window.entry.echo.property("trouble"), "true")
        window.undo()
        self.assertIsNone(window.session.job.demand.measured_a)

    def test_what_a_file_leaves_open_is_asked_with_its_first_rows(self) -> None:
        window = self.open(straight(48, 40, supply__service_a=200.0))
        path = self.folder / "meter.csv"
        rows = "\n".join(f"2025-01-{day:02d} {hour:02d}:00;2,345" for day in range(1, 32) for hour in range(24))
        path.write_text("start;usage kWh\n" + rows, encoding="utf-8")
        window.files.ask_meter = lambda: path  # type: ignore[method-assign]
        asked: list[tuple[str, tuple[str, ...]]] = []

        def ask(title: str, text: str, answers: tuple[str, ...]) -> str:
            asked.append((text, answers))
            return given

        window.files.ask = ask  # type: ignore[method-assign]
        for given, highest in (("decimals", 2.345), (LEAVE_IT, 2.345)):
            before = window.session.job
            window.read_meter()
            # Once for the question, once with its answer.
            for _ in range(2):
                window.session._workers.waitForDone()
                self.settle()
            if given == LEAVE_IT:
                self.assertIs(window.session.job, before)
                self.assertEqual(window.entry.echo.property("trouble"), "true")
                continue
            assert window.session.job.meter is not None
            self.assertAlmostEqual(max(kept(window.session.job.meter).kw), highest, places=1)
        self.assertEqual({answers for _text, answers in asked}, {("thousands", "decimals", LEAVE_IT)})
        self.assertTrue(all("2,345" in text for text, _answers in asked))

    def test_spaces_are_typed_and_moved(self) -> None:
        window = self.open(straight(48, 40))
        window.show_panel()
        self.settle()
        canvas = window.scenes.drawing.canvas
        self.click(canvas, "page-spaces")
        self.assertFalse(window.scenes.supply.isVisible())
        for text in ("spaces 6", "slot 1 20a lamps", "slot 3 20a plugs", "slot 4 15a bell", "slot 6 15a fan"):
            self.type(window, text)
        self.assertEqual(window.session.design.finding("space").severity, "note")
        self.assertIn("lamps", " ".join(text.text for text in canvas.picture.texts()))
        window.session.see(finding="space")
        self.settle()
        self.click(window.loupe.canvas, "fix0")
        self.assertEqual(window.session.design.finding("space").severity, HOLDS)
        self.click(canvas, "slot-1")
        self.assertEqual(window.entry.line.text(), "slot 1 ")
        window.entry.line.clear()

    def test_facts_of_the_supply_are_typed_over(self) -> None:
        window = self.open(demo_job())
        window.show_panel()
        self.settle()
        facts = window.scenes.supply.facts
        facts.type_over(1, 0, "120 A")
        self.settle()
        self.assertEqual(window.session.job.supply.service_a, 120)
        self.assertEqual(window.session.design.finding("demand:service").severity, STOP)
        facts.type_over(2, 0, "nowhere")
        self.settle()
        self.assertEqual(facts.text(2, 0), "service")
        facts.type_over(3, 0, "yes")
        self.settle()
        self.assertTrue(window.session.job.demand.managed)
        self.assertEqual(window.session.design.stops, ())


class Measuring(DeskCase):
    def test_an_invented_year_is_drawn_and_its_ways_work(self) -> None:
        window = self.open(put(demo_job(), Put("supply.service_a", 130.0)))
        window.show_panel()
        self.settle()
        canvas = window.scenes.drawing.canvas
        self.click(canvas, "page-year")
        self.click(canvas, "ask-invent")
        self.assertEqual(window.session.job.demand.method, "measured")
        self.assertTrue({"year-hours", "year-curve", "way-sensors"} <= {hit.id for hit in canvas.picture.hits})
        self.assertEqual(window.session.design.finding("demand:service").severity, STOP)
        self.click(canvas, "way-sensors")
        self.assertTrue(window.session.job.demand.managed)
        self.assertEqual(window.session.design.stops, ())
        window.undo()
        self.click(canvas, "way-shared")
        self.assertEqual(window.session.job.demand.shares, "load-4")
        path = self.folder / "year.csv"
        window.files.ask_save_csv = lambda: path  # type: ignore[method-assign]
        window.save_meter()
        self.assertEqual(len(read_meter(path).kw), 35_040)

    def test_reading_tells_how_far_it_is_and_can_be_stopped(self) -> None:
        window = self.open(demo_job())
        path = self.folder / "long.csv"
        path.write_text(write_csv(invented_year()), encoding="utf-8")
        window.files.ask_meter = lambda: path  # type: ignore[method-assign]
        before = dumps(window.session.job)
        window.read_meter()
        self.assertTrue(window.actions_by_id["stop-reading"].isEnabled())
        told = set()
        self.until(lambda: told.add(window.entry.echo.text()) or any("%" in text for text in told))
        self.assertTrue(any("Reading long.csv" in text and "%" in text for text in told), told)
        window.actions_by_id["stop-reading"].trigger()
        window.session._workers.waitForDone()
        self.settle()
        self.assertIn("was stopped; nothing was taken", window.entry.echo.text())
        self.assertEqual(dumps(window.session.job), before)
        self.assertFalse(window.actions_by_id["stop-reading"].isEnabled())

    def test_without_data_saving_them_says_so(self) -> None:
        window = self.open(fresh_job())
        window.save_meter()
        self.assertIn("no meter data", window.entry.echo.text())


class DeadFront(DeskCase):
    def drag(self, window, from_id: str, to_id: str) -> None:  # type: ignore[no-untyped-def]
        canvas = window.scenes.drawing.canvas
        spots = []
        for wanted in (from_id, to_id):
            hit = next(hit for hit in reversed(canvas.picture.hits) if hit.id == wanted)
            spots.append(QPoint(round(hit.x + hit.w / 2), round(hit.y + hit.h / 2)))
        QTest.mousePress(canvas, Qt.MouseButton.LeftButton, pos=spots[0])
        QTest.mouseMove(canvas, (spots[0] + spots[1]) / 2)
        QTest.mouseMove(canvas, spots[1])
        QTest.mouseRelease(canvas, Qt.MouseButton.LeftButton, pos=spots[1])
        self.settle()

    def test_breakers_are_dragged_and_refused_in_words(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="panel", page="spaces")
        self.settle()
        self.drag(window, "slot-5", "slot-19")
        where = {breaker.name: breaker.space for breaker in window.session.job.dead_front.breakers}
        self.assertEqual(where["lamps"], 19)
        self.assertEqual(window.session.undo_stack.undoText(), "move 5 to 19")
        self.drag(window, "slot-1", "slot-5")
        self.assertIn("taken by", window.entry.echo.text())
        self.drag(window, "slot-14", "slot-16")
        self.assertIn("Space 14 is empty", window.entry.echo.text())
        self.assertEqual(window.entry.line.text(), "")

    def test_a_knockout_is_where_the_run_begins(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="panel", page="spaces")
        self.settle()
        self.click(window.scenes.drawing.canvas, "knockout-k1")
        self.assertEqual(window.session.job.supply.knockout, "k1")
        self.assertIn("too large", window.session.design.finding("knockout").text)

    def test_the_table_is_the_dead_fronts_twin(self) -> None:
        window = self.open(demo_job())
        window.session.see(stage="panel", page="spaces")
        window.swap_list()
        self.settle()
        table = window.scenes.slots
        self.assertTrue(table.isVisible())
        self.assertEqual(table.text(0, 2), "press")
        table.type_over(2, 3, "25 A")
        self.settle()
        self.assertEqual(window.session.job.dead_front.breakers[2].rating_a, 25)
        table.type_over(2, 0, "1")
        self.settle()
        self.assertIn("taken by", window.entry.echo.text())
        self.assertEqual(table.text(2, 0), "5")
        table.type_over(table.rows.rowCount() - 1, 0, "19")
        self.settle()
        self.assertEqual(len(window.session.job.dead_front.breakers), 12)
        window.session.see(page="amps")
        self.settle()
        self.assertTrue(window.scenes.drawing.isVisible())


class TwoCars(DeskCase):
    def test_each_cars_day_can_be_shown(self) -> None:
        window = self.open(put(demo_job(), *add_car(demo_job())))
        window.show_need()
        self.settle()
        canvas = window.scenes.drawing.canvas
        first = [text.text for text in canvas.picture.texts()]
        self.click(canvas, "car-1")
        self.assertEqual(window.session.look.car, 1)
        self.assertNotEqual([text.text for text in canvas.picture.texts()], first)


class WholeSupply(DeskCase):
    def test_three_loads_a_year_and_a_full_panel_and_the_answer_stands(self) -> None:
        bare = put(demo_job(), Put("loads", ()), Put("dead_front.breakers", ()), Put("supply.service_a", 200.0))
        window = self.open(bare)
        for text in ("load press 7.5 kW motor", "load cold store 4.2 kW cooling", "load lamps 3 kW general"):
            self.type(window, text)
        path = self.folder / "year.csv"
        path.write_text(write_csv(invented_for(window.session.job)), encoding="utf-8")
        window.files.ask_meter = lambda: path  # type: ignore[method-assign]
        window.read_meter()
        window.session._workers.waitForDone()
        self.settle()
        self.assertEqual(window.session.look.page, "year")
        for space in range(1, 21):
            if space not in (6, 9):
                self.type(window, f"slot {space} 20a type yf")
        design = window.session.design
        self.assertEqual(design.buses[0].sheet.method, "measured")
        self.assertGreater(design.buses[0].spare_a, 0)
        self.assertIn("Moving", design.finding("space").text)
        window.session.see(finding="space")
        self.settle()
        self.click(window.loupe.canvas, "fix0")
        design = window.session.design
        self.assertEqual(design.finding("space").severity, HOLDS)
        self.assertEqual(design.stops, ())
        self.assertEqual(design.verdict, HOLDS)
