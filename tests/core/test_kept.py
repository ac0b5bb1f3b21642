"""What is kept from one edit to the next never tells anything else than working it out anew."""

import random
import unittest
from unittest import mock

from awlmark.core.books import open_book
from awlmark.core.circuit import evaluate as checks
from awlmark.core.errors import InputError
from awlmark.core.job import limits
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.parts import cutting, shop, sticks
from awlmark.core.solve import surroundings
from awlmark.core.solve.design import Design, beside, solve
from awlmark.data import demo_job

EDITS = (
    Put("legs[leg-2].length_m", 9.2),
    Put("legs[leg-2].length_m", 0.4),
    Put("legs[leg-6].length_m", 2.0),
    Put("legs[leg-6].length_m", 12.0),
    Put("legs[leg-6].ambient_c", 45.0),
    Put("legs[leg-1].trade_size", "1"),
    Put("legs[leg-4].end", "box"),
    Put("supply.panel_top_m", 1.4),
    Put("supply.service_a", 100.0),
    Put("demand.floor_m2", 300.0),
    Put("demand.managed", True),
    Put("charger.nameplate_a", 40.0),
    Put("charger.connection", "14-50"),
    Put("circuit.breaker_a", 70.0),
    Put("circuit.material", "al"),
    Put("prices[wire:cu:6:thwn-2]", "2.10"),
    Put("stock", {"screw": "40"}),
    Put("code", "nec-2017"),
    Put("units", "m"),
    Put("dead_front.condition", "rusted"),
    Put("makeup.panel_tail_m", 2.0),
    Put("site.low_c", -20.0),
)


def told(design: Design) -> tuple[object, ...]:
    """All that a design says."""
    other = beside(design)
    return design.verdict, design.findings, design.circuit, design.parts, design.buses, other and other.circuit


def forget() -> None:
    """Lose everything kept."""
    surroundings._kept.clear()
    sticks._kept.clear()
    shop._last.clear()
    checks._kept.clear()
    cutting._quick.cache_clear()


class Keeps(unittest.TestCase):
    def test_a_walk_of_edits_tells_the_same_with_and_without_what_is_kept(self) -> None:
        dice, job, changed = random.Random(3), demo_job(), 0
        for _ in range(90):
            edit = dice.choice(EDITS)
            try:
                job = put(job if dice.random() < 0.8 else demo_job(), edit)
                kept = told(solve(job))
            except InputError:
                continue
            forget()
            self.assertEqual(kept, told(solve(job)), edit)
            changed += 1
        self.assertGreater(changed, 60)

    def test_legs_and_papers_leave_what_stands_around_alone_and_the_rest_does_not(self) -> None:
        job, book = demo_job(), open_book("nec-2023")
        first = surroundings.around(job, book, 48.0, 2)
        self.assertIs(surroundings.around(put(job, EDITS[0]), book, 48.0, 2), first)
        self.assertIs(surroundings.around(put(job, Put("prices[screw]", "0.2")), book, 48.0, 2), first)
        self.assertIsNot(surroundings.around(put(job, Put("supply.service_a", 100.0)), book, 48.0, 2), first)
        self.assertIsNot(surroundings.around(job, book, 32.0, 2), first)

    def test_what_stands_around_cannot_look_at_legs_or_papers(self) -> None:
        job = demo_job()
        bare = surroundings._of(job).bare
        self.assertEqual(bare.legs, ())
        self.assertEqual(bare.prices, {})
        for name in set(Job.__struct_fields__) - set(surroundings.APART):
            self.assertIs(getattr(bare, name), getattr(job, name))

    def test_only_so_much_is_kept(self) -> None:
        book = open_book("nec-2023")
        for number in range(3 * surroundings.MOST_KEPT):
            surroundings.around(put(demo_job(), Put("supply.service_a", 100.0 + number)), book, 48.0, 2)
        self.assertLessEqual(len(surroundings._kept), surroundings.MOST_KEPT)


class Checks(unittest.TestCase):
    def test_an_edit_is_checked_though_the_rest_stands(self) -> None:
        job = demo_job()
        bad = (
            Put("legs[leg-3].length_m", -1.0),
            Put("need.cold_factor", 9.0),
            Put("supply.board", "nowhere"),
            Put("site.low_c", 80.0),
            Put("stock", {"screw": "many"}),
            Put("charger.cord_m", 40.0),
            Put("prices[screw@1]", "3"),
        )
        for edit in bad:
            with self.subTest(edit.path), self.assertRaises(InputError):
                put(job, edit)

    def test_legs_that_stand_are_not_looked_at_again(self) -> None:
        job = demo_job()
        with mock.patch.object(limits.Within, "check", autospec=True) as check:
            put(job, Put("legs[leg-2].length_m", 4.0))
        asked = {call.args[1] for call in check.call_args_list if call.args[1].startswith("leg ")}
        self.assertEqual({field.rpartition(" ")[0] for field in asked if "length" in field}, {"leg 2"})
        self.assertFalse(any(field.startswith(("leg 1 ", "leg 3 ")) for field in asked), asked)
