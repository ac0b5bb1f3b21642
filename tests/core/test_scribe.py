"""What can be typed, and what it does to the job."""

import contextlib
import unittest
from pathlib import Path

from msgspec.structs import replace

from awlmark.core.entry.read import read_entry
from awlmark.core.entry.words import card, listed, words
from awlmark.core.errors import InputError
from awlmark.core.job.edit import value_at
from awlmark.core.job.file import dumps, loads
from awlmark.core.job.model import new_job
from awlmark.core.job.selection import Spot
from awlmark.core.quantities import FOOT_M
from awlmark.core.shelf import NEWEST
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.core.test_bs_job import CODE, yard
from tests.drawn import given, settings, st
from tests.support import LONG, refused

SPOT = Spot(leg_id="leg-2", section_legs=("leg-1", "leg-2", "leg-3"), part_key="breaker:2:60")


BEFORE = {
    "diversity": "load lathe 3kw motor",
    "slot": "spaces 20", "knockout": "spaces 20", "kind": "load tub 30a", "feeder": "panel shed 60a",
    "on": "panel shed 60a", "strike": "read dead 1-2 0 V", "clearfloor": "room Shop 24x20 at -4 -20",
    "attic": "leg 1 place attic", "body": "leg 3 body",
    "appliance": "occupancy dwelling", "laundry": "occupancy dwelling", "pool": "occupancy dwelling",
    "shares": "load Dryer 30a", "rest": "done 1; done 2; done 3; done 4",
}  # fmt: skip
"""What has to be there before an example can be read."""
BRITISH_SPOT = Spot(leg_id="b", section_legs=("a", "b", "c"), part_key="rcbo:2:40:B:a30")
BRITISH = {
    "diversity": "load lathe 3kw motor", "kind": "load lathe 3kw motor", "distribution": "sub-board press house 60a",
    "on": "sub-board press house 60a", "strike": "read dead l-n 0 V", "clearfloor": "room Casting floor 8x6 at -1 -6",
    "rest": "done 1; done 2; done 3; done 4", "share": "load lathe 3kw motor",
}  # fmt: skip
BRITISH_EXAMPLES = {"on": "on press house", "clearfloor": "clearfloor Casting floor"}
EXAMPLES = {"on": "on shed", "clearfloor": "clearfloor Shop", "move": "move 11 to 1"}


class Words(unittest.TestCase):
    def test_every_word_is_on_the_card_and_its_example_reads(self) -> None:
        for code in (NEWEST, CODE):
            self._read_all(code)

    def _read_all(self, code: str) -> None:
        told = " ".join(" ".join(row) for row in card(code))
        british = code == CODE
        spot = replace(BRITISH_SPOT if british else SPOT, finding_id="drop", finding_text="It drops.")
        for word in words(code):
            for name in word.names:
                self.assertIn(name, told)
            job = yard() if british else demo_job()
            for text in filter(None, (BRITISH if british else BEFORE).get(word.name, "").split("; ")):
                job = read_entry(text, job, spot).job
            if word.stage == "run" and word.reader.endswith("scribe_words"):
                job = read_entry("open run", job, spot).job
            example = (BRITISH_EXAMPLES if british else EXAMPLES).get(word.name, word.example)
            with self.subTest(example):
                if word.name in ("sign", "energise", "done", "tight"):
                    # They wait for what the site has to tell; that they say so is enough here.
                    with contextlib.suppress(InputError):
                        read_entry(example, job, spot)
                    continue
                self.assertTrue(read_entry(example, job, spot).says)
            self.assertEqual(example.split()[0], word.name)

    def test_no_name_is_taken_twice_and_what_may_not_stand_alone_says_what_is_missing(self) -> None:
        for code, job in ((NEWEST, demo_job()), (CODE, yard())):
            names = [name for word in words(code) for name in word.names]
            self.assertEqual(len(names), len(set(names)))
            for word in words(code):
                if not word.alone:
                    with self.assertRaisesRegex(InputError, "There is more to say"):
                        read_entry(word.name, job)

    def test_the_page_of_words_is_the_tables(self) -> None:
        page = Path(__file__).parents[2] / "docs" / "words.md"
        self.assertEqual(page.read_text(encoding="utf-8"), listed())


class ReadsEntries(unittest.TestCase):
    def test_decisions(self) -> None:
        cases = {
            "48a": ("charger.nameplate_a", 48),
            "40A": ("charger.nameplate_a", 40),
            "14-50": ("charger.connection", "14-50"),
            "hardwired": ("charger.connection", "hardwired"),
            "6": ("circuit.size", "6"),
            "6 awg": ("circuit.size", "6"),
            "1/0": ("circuit.size", "1/0"),
            "6 cu": ("circuit.size", "6"),
            "4 al": ("circuit.material", "al"),
            "copper": ("circuit.material", "cu"),
            "aluminum": ("circuit.material", "al"),
            "size 2": ("circuit.size", "2"),
            "size open": ("circuit.size", None),
            "thhn": ("circuit.insulation", "thhn"),
            "breaker 70": ("circuit.breaker_a", 70),
            "breaker open": ("circuit.breaker_a", None),
            "ground 8": ("circuit.ground_size", "8"),
            "ground open": ("circuit.ground_size", None),
            "drop 2": ("circuit.max_drop_percent", 2),
            "drop 2.5%": ("circuit.max_drop_percent", 2.5),
            "set 32 locked": ("charger.setting_restricted", True),
            "set 32": ("charger.setting_a", 32),
            "set open": ("charger.setting_a", None),
            "emt": ("legs[leg-2].method", "emt"),
            "3/4 pvc40": ("legs[leg-2].trade_size", "3/4"),
            "1-1/4 rmc": ("legs[leg-3].trade_size", "1-1/4"),
            "6 nm": ("legs[leg-1].method", "nm"),
            "ambient 45C": ("legs[leg-2].ambient_c", 45),
            "ambient 104 F": ("legs[leg-2].ambient_c", 40),
            "ambient open": ("legs[leg-2].ambient_c", None),
            "cover 18in": ("legs[leg-5].cover_m", 18 * FOOT_M / 12),
            "place garage": ("legs[leg-2].place", "garage"),
            "place open": ("legs[leg-2].place", None),
            "price 21.5": ("prices[breaker:2:60]", "21.50"),
            "name North bay, second post": ("name", "North bay, second post"),
            "code 2017": ("code", "nec-2017"),
            "code nec 2020": ("code", "nec-2020"),
            "service 200": ("supply.service_a", 200),
            "leg 2 21 6": ("legs[leg-2].length_m", 21.5 * FOOT_M),
            "box": ("legs[leg-6].end", "box"),
            "c": ("legs[leg-6].end", "corner"),
            "on service": ("supply.board", ""),
            "open run": ("legs[leg-6].end", "bend"),
        }
        for text, (path, value) in cases.items():
            with self.subTest(text):
                reading = read_entry(text, demo_job(), SPOT)
                found = value_at(reading.job, path)
                if isinstance(value, float):
                    self.assertAlmostEqual(found, value)
                else:
                    self.assertEqual(found, value)
                self.assertTrue(reading.says)

    def test_legs(self) -> None:
        cases = {
            "up 3": ("up", 3.0, "bend"),
            "u 3": ("up", 3.0, "bend"),
            "↑3": ("up", 3.0, "bend"),
            "right 22 6": ("right", 22.5, "bend"),
            "r 22' 6\"": ("right", 22.5, "bend"),
            "left 10 c": ("left", 10.0, "corner"),
            "down 5 box": ("down", 5.0, "box"),
            "t 16in stone lb": ("through", 16 / 12, "body"),
            "through 1 4 body": ("through", 16 / 12, "body"),
            "d 64": ("trench", 64.0, "bend"),
            "trench 64 cover 24in": ("trench", 64.0, "bend"),
            "out 10in elbow": ("out", 10 / 12, "pull elbow"),
            "in 1": ("in", 1.0, "bend"),
            "up 4 k": ("up", 4.0, "charger"),
            "up 1.2m pvc80 outdoor": ("up", 1.2 / FOOT_M, "bend"),
        }
        for text, (way, feet, end) in cases.items():
            with self.subTest(text):
                leg = read_entry(text, new_job()).job.legs[0]
                self.assertEqual((leg.direction, leg.end), (way, end))
                self.assertAlmostEqual(leg.length_m, feet * FOOT_M)
        self.assertEqual(read_entry("t 16in stone", new_job()).job.legs[0].wall, "stone")
        self.assertAlmostEqual(read_entry("d 9 cover 24in", new_job()).job.legs[0].cover_m, 2 * FOOT_M)
        self.assertEqual(read_entry("up 1 pvc80 outdoor", new_job()).job.legs[0].place, "outdoor")

    def test_loads_and_panels(self) -> None:
        job = read_entry("load tub 30a", new_job()).job
        self.assertEqual((job.loads[0].name, job.loads[0].va, job.loads[0].kind), ("tub", 7200, "fixed"))
        job = read_entry("load wall oven 4.5 kW range", job).job
        self.assertEqual((job.loads[1].name, job.loads[1].va, job.loads[1].kind), ("wall oven", 4500, "range"))
        job = read_entry("on shed", read_entry("panel shed 60a", job).job).job
        self.assertEqual((job.boards[0].feeder_a, job.supply.board), (60, job.boards[0].id))
        self.assertIsNone(read_entry("panel post", job).job.boards[1].feeder_a)
        for text in ("load", "load tub", "load tub heavy", "load 30a", "panel", "on moon", "load tub 30 miles"):
            with self.subTest(text), refused(self, "load", "panel"):
                read_entry(text, job)

    def test_spaces_and_slots(self) -> None:
        job = read_entry("spaces 20 tandem 13", new_job()).job
        self.assertEqual((job.dead_front.spaces, job.dead_front.tandem_from), (20, 13))
        for text in ("slot 1 40a 2p press", "slot 5 20a", "slot 15 15a tandem lamps", "slot 2 100a 2p main fixed"):
            job = read_entry(text, job).job
        press, plain, lamps, main = job.dead_front.breakers
        self.assertEqual((press.space, press.rating_a, press.poles, press.name), (1, 40, 2, "press"))
        self.assertEqual((plain.space, plain.poles, plain.name), (5, 1, ""))
        self.assertTrue(lamps.tandem and main.fixed)
        self.assertEqual(len(read_entry("slot 3 free", job).job.dead_front.breakers), 3)
        for text in (
            "slot",
            "slot 99 20a",
            "slot 20 2p 30a",
            "slot 5 3a",
            "slot 5 open",
            "move 5",
            "move 4 to 5",
            "move 2 to 9",
            "bus 2a",
            "condition shiny",
            "clear 30in 36in",
            "knockout",
            "knockout front 3/4",
            "knockout top 9",
            "knockout k1 run",
            "spaces",
            "spaces 7",
            "spaces x",
            "spaces 20 tandem",
        ):
            with self.subTest(text), self.assertRaises(InputError):
                read_entry(text, job)

    def test_quotes(self) -> None:
        for text, method in (("48a 60ft emt", "emt"), ("32a 40' nm", "nm"), ("48a 18m", None)):
            job = read_entry(text, new_job()).job
            self.assertEqual((job.legs[0].method, job.legs[0].end), (method, "charger"))
            self.assertTrue(job.guessed)

    def test_rubbing_out(self) -> None:
        self.assertEqual(read_entry("rub", demo_job()).job.legs[-1].id, "leg-5")
        self.assertEqual(read_entry("rub 1", demo_job()).job.legs[0].id, "leg-2")

    def test_opening_everything(self) -> None:
        job = demo_job()
        for text in ("6 cu", "breaker 60", "ground 10", "1 pvc40"):
            job = read_entry(text, job, SPOT).job
        opened = read_entry("open", job).job.circuit
        self.assertEqual((opened.size, opened.material, opened.breaker_a, opened.ground_size), (None, None, None, None))

    def test_refusals_name_what_would_do(self) -> None:
        barred = (
            "", "pony", "up", "up far", "up 3 sideways", "3 2 2", "k 3", "breaker", "breaker 61", "breaker 60 70",
            "ground 7", "size", "drop", "drop 0", "ambient", "ambient 30", "ambient 500C", "place", "place moon",
            "price", "price x", "name", "code", "code 1999", "service 3", "set", "set x", "open door", "leg", "leg 9 3",
            "leg 2", "rub 9", "9/4 emt", "6 8 cu", "cover", "up 3", "0a", "nana", "48a 60ft emt",
        )  # fmt: skip
        for text in barred:
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_entry(text, demo_job(), SPOT)
            self.assertTrue(caught.exception.accepted)
        for text in ("k", "rub", "emt", "ambient 30C", "cover 2", "open run", "place garage", "price 3"):
            with (
                self.subTest(f"empty: {text}"),
                refused(self, "ambient temperature", "cover", "end", "method", "open", "place", "price", "rub"),
            ):
                read_entry(text, new_job())


WORDS = (
    "up", "right", "3", "2 6", "t", "16in", "stone", "d", "k", "slot", "5", "30a", "2p", "idle", "proved", "both",
    "move", "to", "pin", "A", "at", "-4", "cord", "20ft", "split", "round", "wide", "slide", "offset", "saddle",
    "box", "4 x 2-1/8 square", "surface", "street", "layers", "plaster 1in,", "site", "-15C", "40C", "local", "nm",
    "no", "form", "table 9", "lug", "charger", "copper", "seen", "browned", "overrule", "why not", "bus", "200a",
    "accepts", "YF", "clear", "knockout", "top", "3/4", "room", "Shed", "10x8", "bay", "facing", "90", "local",
    "ground", "8", "label", "bond", "raceway", "load", "tub", "on", "panel", "0", "",
)  # fmt: skip


class AnyWords(unittest.TestCase):
    @settings(max_examples=400 if LONG else 150, deadline=None)
    @given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=7))
    def test_no_words_make_a_traceback_and_every_refusal_says_what_would_do(self, words: list[str]) -> None:
        try:
            reading = read_entry(" ".join(words), demo_job(), SPOT)
        except InputError as told:
            self.assertTrue(told.field and told.problem and told.accepted)
            return
        self.assertTrue(reading.says)
        try:
            made = solve(reading.job)
        except InputError as told:
            self.assertTrue(told.accepted)
            return
        self.assertTrue(made.findings)
        self.assertEqual(loads(dumps(reading.job), "words"), reading.job)
