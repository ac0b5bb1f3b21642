"""What installers get wrong in Britain, each found with its reason; each comes out right again once it is mended."""

import unittest

from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.job.site_records import Reading
from awlmark.core.prove.instruments import take
from awlmark.core.prove.log import latest
from awlmark.core.prove.network import Faults, circuit_of
from awlmark.core.prove.planted import applicable
from awlmark.core.prove.practice import card
from awlmark.core.prove.split import fitting
from awlmark.core.prove.test import tests_of
from awlmark.core.solve.design import Design, solve
from awlmark.data import FOUNDRY, demo_job
from tests.support import entered

WRONG = (
    # What is typed over the demo, the finding, its mark, words of its reason, and what mends it.
    ("own no", "own", STOP, "circuit of its own", "own yes"),
    ("rcd ac", "rcd", STOP, "Type AC", "rcd a"),
    ("pen none", "pme", STOP, "lost PEN", "pen iv"),
    ("pen open", "pme", UNREAD, "lost PEN", "pen iv"),
    ("rcd a; dc no", "rcd", STOP, "type B", "rcd b"),
    ("dc open", "rcd", UNREAD, "6 mA", "dc in unit"),
    ("ev13; 13a", "socket", STOP, "10 A of steady charging", "10a; device b16"),
    ("extension yes", "extension", STOP, "no residual device of its own", "extension no"),
    ("ev13; 10a; device b16", "extension", UNREAD, "reach without an extension", "extension no"),
    ("leg 1 t&e 103; leg 2 t&e 103; 6", "conductor", STOP, "insulated stud wall", "swa; leg 6 swa duct"),
    ("leg 2 t&e 100; 6", "conductor", STOP, "insulation to 100 mm", "swa; leg 6 swa duct"),
    ("ze 0.5; device c40", "zs", TIGHT, "over 0.55 ohm for a 40 A type C", "device b40"),
    ("cut-out open", "demand:service", UNREAD, "no fuse read", "cut-out 80"),
    ("main open", "main", UNREAD, "main switch rated", "main 100"),
    ("main 63", "demand:service", STOP, "The main switch is 63 A", "main 100"),
    ("cut-out 60", "demand:service", STOP, "The cut-out is 60 A", "cut-out 80"),
    ("bond water no", "bonding", STOP, "Not bonded: water", "bond water yes"),
    ("bond water open", "bonding", UNREAD, "water", "bond water yes"),
    ("bond size 4", "bonding", STOP, "10 mm² is the least", "bond size 10"),
    ("device bs88-2; cpc 1", "cpc", UNREAD, "the heat of a fault ask for", "cpc 6"),
    ("device c40; ze 0.1; cpc 1", "cpc", UNREAD, "the heat of a fault ask for", "cpc 6"),
    ("looped yes", "distributor", NOTE, "apply to the distributor first", "looped no; limit 60"),
)  # fmt: skip


def demo() -> Job:
    return demo_job(FOUNDRY)


class Mistakes(unittest.TestCase):
    def test_each_is_found_with_its_reason_and_gone_when_it_is_mended(self) -> None:
        for wrong, its_id, mark, reason, right in WRONG:
            with self.subTest(wrong):
                job = entered(wrong, demo())
                found = solve(job).finding(its_id)
                self.assertEqual(found.severity, mark, found.text)
                self.assertIn(reason, found.text)
                self.assertTrue(found.cite, found.id)
                mended = solve(entered(right, job)).finding(its_id)
                self.assertTrue(mended is None or mended.severity in (HOLDS, NOTE), mended)
                self.assertNotEqual(found.text, "" if mended is None else mended.text)

    def test_a_supply_over_60_a_is_told_to_the_distributor_first(self) -> None:
        found = solve(demo()).finding("distributor")
        self.assertEqual((found.severity, round(found.found, 1), found.needed), (NOTE, 66.6, 60.0))
        held = solve(entered("limit 60", demo())).finding("distributor")
        self.assertIn("tell within 28 days", held.text)

    def test_nothing_of_it_is_wrong_in_the_demo(self) -> None:
        design = solve(demo())
        self.assertFalse([one.id for one in design.findings if one.severity in (STOP, TIGHT, UNREAD)])


SUPPLIES = ("", "earthing tn-s; ze 0.7; pen open", "earthing tt; ze 90; pen open")


class Bench(unittest.TestCase):
    """Simulated instruments on the demo under each way of earthing: none of what they read is a record."""

    def designs(self) -> list[Design]:
        return [solve(entered(text, demo()) if text else demo()) for text in SUPPLIES]

    def out(self, design: Design, faults: Faults) -> list[str]:
        return [one.key for one in tests_of(design) if not one.low - 1e-9 <= take(design, one, faults) <= one.high]

    def test_a_sound_circuit_reads_within_every_band(self) -> None:
        for design in self.designs():
            self.assertEqual(self.out(design, Faults()), [], design.job.supply.earthing)

    def test_every_fault_shows_in_some_test_and_in_its_own(self) -> None:
        own = {
            "reversed polarity": "polarity", "earth open": "R1+R2", "high loop": "Zs", "dry electrode": "Ra",
            "slow residual device": "RCD 30 mA", "dead residual device": "RCD 30 mA", "lost PEN": "board L-N",
            "neutral and earth crossed": "polarity", "PEN device dead": "PEN device",
        }  # fmt: skip
        out: dict[str, set[str]] = {}
        for design in self.designs():
            for planted in applicable(design.book, circuit_of(design)):
                if planted.seen:
                    continue
                shows = self.out(design, planted.faults)
                self.assertTrue(shows, planted.key)
                out.setdefault(planted.key, set()).update(shows)
        for key, test in own.items():
            self.assertIn(test, out[key], key)

    def test_what_is_asked_next_parts_what_is_left(self) -> None:
        bare = demo()
        for planted in applicable(solve(bare).book, circuit_of(solve(bare))):
            if planted.seen:
                continue
            job = bare
            for step in range(60):
                design = solve(job)
                left, splits = fitting(design)
                unread = [one for one in tests_of(design) if one.key not in latest(design)]
                if (left and splits is None) or not unread:
                    break
                test = splits or unread[0]
                value = take(solve(bare), test, planted.faults)
                reading = Reading(id=f"r{step + 1}", test=test.key, value=value, raw="taken", when="2026-03-01T10:00")
                job = put(job, Put("prove.readings", (*job.prove.readings, reading)))
            self.assertIn(planted.key, [one.key for one in left], planted.key)
            self.assertLessEqual(len(left), 3, (planted.key, [one.key for one in left]))

    def test_cards_are_judged_by_the_engine(self) -> None:
        answers = set()
        for seed in range(20):
            one = card(seed, demo())
            stops = solve(one.job).stops
            self.assertEqual(one.answer, stops[0].title if stops else "It holds")
            self.assertIn(one.answer, one.choices)
            answers.add(one.answer)
        self.assertGreater(len(answers), 4)
