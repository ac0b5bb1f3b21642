"""What is kept from one edit to the next never tells anything else than working it out anew."""

import itertools
import random
import unittest
from collections.abc import Iterator
from unittest import mock

import msgspec

from awlmark.core import memo
from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.job import limits
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.solve import surroundings
from awlmark.core.solve.design import Design, beside, solve
from awlmark.data import demo_job
from tests.support import LONG, refused, straight

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


def flips(job: Job) -> Iterator[tuple[str, object]]:
    """Another value for every field of the legs, the circuit, the charger, the supply and the local rules."""
    nodes = {"circuit": job.circuit, "charger": job.charger, "supply": job.supply, "local": job.local}
    nodes |= {f"legs[{leg.id}]": leg for leg in (job.legs[1], job.legs[4])}
    typed = {"size": "4", "ground_size": "6", "trade_size": "1", "method": "rmc", "insulation": "xhhw-2", "least": "12",
             "most": "2/0", "sleeve": "pvc80", "sleeve_size": "2", "box": "4-11/16 x 2-1/8 square", "pigtail": "8",
             "box_device": "10", "least_ground": "6", "least_raceway": "1", "connection": "14-50"}  # fmt: skip
    for path, node in nodes.items():
        for field in msgspec.structs.fields(type(node)):
            old, rule = (
                getattr(node, field.name),
                next((f.rule for f in limits.fields_of(type(node)) if f.name == field.name), None),
            )
            at = f"{path}.{field.name}"
            if field.name in typed:
                yield at, typed[field.name]
            elif isinstance(old, bool) or limits._unwrap(field.type)[0] is bool:
                yield at, not old
            elif isinstance(rule, limits.OneOf):
                yield from [(at, value) for value in rule.known if value != old][: 99 if LONG else 2]
            elif isinstance(rule, limits.Within):
                yield at, type(old or 0.0)(rule.low + (rule.high - rule.low) / (3 if rule.unit != "m" else 40))


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
            memo.clear_all()
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
        job, book = demo_job(), open_book("nec-2023")
        bare = surroundings._bare(surroundings._view(job, book, 48.0, 2))
        self.assertEqual((bare.legs, bare.prices), ((), {}))
        for name in set(Job.__struct_fields__) - set(surroundings.APART):
            self.assertIs(getattr(bare, name), getattr(job, name))

    def test_only_so_much_is_kept_and_all_of_it_goes_at_once(self) -> None:
        made: list[int] = []
        kept = memo.Memo[tuple[int], int](3, lambda view: made.append(view[0]) or view[0])  # type: ignore[func-returns-value]
        for number in (1, 2, 3, 1, 4, 1, 2):
            self.assertEqual(kept((number,)), number)
        self.assertEqual((made, len(kept)), ([1, 2, 3, 4, 2], 3))
        memo.clear_all()
        self.assertEqual(len(kept), 0)

    def test_every_field_counts(self) -> None:
        """Each field of what a circuit follows from is changed once: warm, after other jobs, tells what cold tells."""
        others = [straight(32, 60, method="nm"), straight(80, 70, place="garage"), demo_job()]
        base = put(demo_job(), Put("legs[leg-2].layers", ()))
        changed = 0
        # All of them in the long target, every second here.
        for path, value in itertools.islice(flips(base), 0, None, 1 if LONG else 2):
            try:
                job = put(base, Put(path, value))
                warm = told(solve(job))
            except InputError:
                continue
            memo.clear_all()
            with self.subTest(path=path, value=value):
                cold = told(solve(job))
                self.assertEqual(warm, cold)
            solve(base)
            solve(others[(changed + 1) % 3])
            changed += 1
        self.assertGreater(changed, 90 if LONG else 45)


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
            with (
                self.subTest(edit.path),
                refused(
                    self,
                    "circuit panel",
                    "cold factor",
                    "coldest",
                    "cord",
                    "leg 3 length",
                    "pack of screw",
                    "stock of screw",
                ),
            ):
                put(job, edit)

    def test_legs_that_stand_are_not_looked_at_again(self) -> None:
        job = demo_job()
        with mock.patch.object(limits.Within, "check", autospec=True) as check:
            put(job, Put("legs[leg-2].length_m", 4.0))
        asked = {call.args[1] for call in check.call_args_list if call.args[1].startswith("leg ")}
        self.assertEqual({field.rpartition(" ")[0] for field in asked if "length" in field}, {"leg 2"})
        self.assertFalse(any(field.startswith(("leg 1 ", "leg 3 ")) for field in asked), asked)
