"""Nothing holds that was not asked: whole jobs with one fact left out, and the same jobs told another way."""

from __future__ import annotations

import random
import unittest
from typing import Any, NamedTuple

from awlmark.core.books import open_book
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.run.line import READ_AMBIENT, walk
from awlmark.core.solve.design import Design, solve
from tests.support import LONG, entered, told

ROUTES = (
    "up 3 {m}; right 20; down 4 k",
    "up 3 {m}; right 6; t 6in stud; right 10 garage; down 4 k",
    "up 2 {m}; right 3; up 4 attic; right 24; down 4 indoor k",
    "right 8 {m} box; right 10; down 4 k",
    "right 10; out 8in lb; down 4 {o}; d 40 {o} cover 18in; up 4 {o} k",
    "right 10; out 8in lb; right 12 {o}; down 2 {o} k",
    "right 4; out 8in lb; down 4 {o}; d 30 {o} cover 24in; up 4 {o} lb; in 8in; right 8 garage k",
)
INSIDE_METHODS = ("emt", "nm", "mc", "ac", "ent", "fmc", "rmc", "pvc40")
OUTSIDE_METHODS = ("pvc40", "pvc80", "rmc", "uf")
AMPS = (("hardwired", 24), ("hardwired", 48), ("hardwired", 80), ("14-50", 40), ("6-30", 24), ("5-20", 16))


class Fact(NamedTuple):
    """One thing that only the site knows: its path, how it stands while unread, and an answer that hurts."""

    path: str
    unread: Any
    bad: Any


FACTS = (
    Fact("supply.service_a", None, 15.0),
    Fact("supply.spot", None, "closet"),
    Fact("supply.fault_a", None, 100_000.0),
    Fact("supply.breaks_a", None, 1000.0),
    Fact("supply.lug.copper_only", None, True),
    Fact("charger.lug.copper_only", None, True),
    Fact("demand.floor_m2", None, 5000.0),
    Fact("dead_front.condition", None, "obsolete"),
    Fact("dead_front.clear_wide_m", None, 0.1),
    Fact("dead_front.clear_deep_m", None, 0.1),
    Fact("dead_front.clear_high_m", None, 0.1),
    Fact("dead_front.spaces", 0, 0),
    Fact("dead_front.families", (), ()),
    Fact("charger.listed", None, False),
    Fact("charger.unvented", None, False),
    Fact("charger.exports", None, True),
    Fact("charger.guarded", None, False),
    Fact("charger.plug", None, "tt-30"),
    Fact("charger.flexible", None, False),
    Fact("charger.disconnect", None, False),
    Fact("charger.living", None, True),
    Fact("site.low_c", None, -40.0),
    Fact("boards[b].feeder_a", None, 15.0),
    Fact("boards[b].feeder_size", None, "14"),
    Fact("boards[b].feeder_ground", None, "14"),
    Fact("boards[b].bonded", None, True),
    Fact("boards[b].electrode", None, False),
    Fact("boards[b].disconnect", None, False),
    Fact("boards[b].complete", False, False),
)
LEG_FACTS = (
    Fact("exposed", None, True),
    Fact("edge_m", None, 0.0),
    Fact("beside", None, 8),
    Fact("insulated", None, True),
    Fact("deck_clear", None, False),
    Fact("cover_m", None, 0.0),
    Fact("surface", None, "street"),
    Fact("ambient_c", None, 70.0),
    Fact("splice_al", None, False),
    Fact("box_long_m", None, 0.05),
)


def a_job(dice: random.Random) -> Job:
    """A whole job with everything answered as it should be."""
    connection, amps = dice.choice(AMPS)
    inner, outer = dice.choice(INSIDE_METHODS), dice.choice(OUTSIDE_METHODS)
    first = "" if connection == "hardwired" else f"{connection}; "
    edition, occupancy = dice.choice(("2017", "2020", "2023")), dice.choice(("dwelling", "other"))
    text = f"{first}{amps}a; code {edition}; occupancy {occupancy}; {dice.choice(ROUTES).format(m=inner, o=outer)}"
    if dice.random() < 0.3 and not {inner, outer} & {"nm", "mc", "ac", "uf"}:
        text += "; al; lug panel both 14 to 300; lug charger both 14 to 300"
    job = told(entered(text))
    edits = [Put("charger.disconnect", True), Put("charger.disconnect_lug.copper_only", False)]
    edits += [Put("charger.disconnect_lug.most", "300"), Put("site.low_c", 18.0), Put("site.high_c", 22.0)]
    for leg in job.legs:
        path = f"legs[{leg.id}]"
        edits += [Put(f"{path}.mount", dice.choice(("surface", "inside"))), Put(f"{path}.ambient_c", 28.0)]
        if leg.direction == "trench":
            edits.append(Put(f"{path}.surface", "soil"))
        if leg.end in ("box", "body"):
            edits += [Put(f"{path}.spliced", True), Put(f"{path}.splice_al", True), Put(f"{path}.box_in3", 900.0)]
            edits.append(Put(f"{path}.box_long_m", 1.0))
        if leg.method == "uf" and leg.direction != "trench":
            edits.append(Put(f"{path}.sleeve", "rmc"))
    edits.append(Put("circuit.cable_wide_m", 0.012))
    if dice.random() < 0.4:
        job = entered("panel b 200a; on b; feeder b 4/0 cu 30ft ground 4 apart building yes electrode yes", job)
        job = entered("feeder b disconnect yes; loads all", job)
        edits = [Put(edit.path.replace("[b]", "[board-1]"), edit.value) for edit in edits]
    return put(job, *edits)


def severities(design: Design) -> dict[str, str]:
    return {finding.id: finding.severity for finding in design.findings}


def tried(job: Job, fact: Fact, value: Any) -> Design | None:
    """The job with a fact standing so; None where a job cannot hold it."""
    try:
        return solve(put(job, Put(fact.path, value)))
    except InputError:
        return None


class SilentHolds(unittest.TestCase):
    """Where one answer to a question would break a job, no answer at all must not hold."""

    def facts(self, job: Job) -> list[Fact]:
        found = [fact for fact in FACTS if "[b]" not in fact.path]
        found += [
            Fact(fact.path.replace("[b]", f"[{board.id}]"), fact.unread, fact.bad)
            for board in job.boards
            for fact in FACTS
            if "[b]" in fact.path
        ]
        # Elsewhere than in attics and on roofs the air is taken at the table's own 30 C, and the finding says so.
        hot = {walked.leg.id for walked in walk(job, open_book(job.code)).legs if walked.place in READ_AMBIENT}
        return found + [
            Fact(f"legs[{leg.id}].{fact.path}", fact.unread, fact.bad)
            for leg in job.legs
            for fact in LEG_FACTS
            if fact.path != "ambient_c" or leg.id in hot
        ]

    def test_what_could_hurt_is_asked(self) -> None:
        dice, asked, jobs = random.Random(15), set[str](), 0
        while jobs < (150 if LONG else 7):
            job = a_job(dice)
            whole = solve(job)
            if whole.circuit is None:
                continue
            jobs += 1
            before = severities(whole)
            for fact in self.facts(job):
                bad = tried(job, fact, fact.bad)
                empty = fact.bad == fact.unread
                worse = bad is not None and any(
                    severity not in (HOLDS, before.get(its_id, HOLDS)) for its_id, severity in severities(bad).items()
                )
                resized = bad is not None and bad.circuit is not None and bad.circuit.size != whole.circuit.size
                if not (worse or resized or empty):
                    continue
                unread = tried(job, fact, fact.unread)
                assert unread is not None
                new = {
                    finding.id
                    for finding in unread.findings
                    if finding.severity != HOLDS and before.get(finding.id) != finding.severity
                }
                kind = fact.path.rpartition(".")[2]
                with self.subTest(job=jobs, fact=fact.path):
                    self.assertTrue(new, f"{fact.path} is left out and nobody asks; {[leg.method for leg in job.legs]}")
                    self.assertNotEqual(unread.verdict, HOLDS)
                    asked.add(kind)
        wanted = {fact.path.rpartition(".")[2] for fact in (*FACTS, *LEG_FACTS)}
        if LONG:
            self.assertEqual(wanted - asked, set(), "facts that no job of the search leaned on")

    def test_every_question_begins_its_answer_or_offers_one(self) -> None:
        dice = random.Random(4)
        for _ in range(20):
            job = a_job(dice)
            bare = put(job, *(Put(f"legs[{leg.id}].exposed", None) for leg in job.legs), Put("supply.spot", None))
            for finding in solve(bare).not_asked:
                with self.subTest(finding=finding.id):
                    self.assertTrue(finding.ask or finding.fixes, finding.text)


class ToldAnotherWay(unittest.TestCase):
    """Splitting a plain leg, reversing it twice, renaming and reordering never change a verdict."""

    def same(self, one: Job, other: Job) -> None:
        first, second = solve(one), solve(other)
        self.assertEqual(first.verdict, second.verdict)
        self.assertEqual({f.title for f in first.stops}, {f.title for f in second.stops})
        kinds = [{f.title for f in design.findings if f.severity == UNREAD} for design in (first, second)]
        self.assertEqual(*kinds)

    def test_many(self) -> None:
        dice = random.Random(8)
        for number in range(60 if LONG else 10):
            job = a_job(dice)
            plain = [
                at for at, leg in enumerate(job.legs, 1) if leg.direction not in ("in", "out", "through", "trench")
            ]
            at = dice.choice(plain)
            with self.subTest(job=number, leg=at):
                self.same(job, entered(f"split {at} at 1", job))
                self.same(job, entered(f"reverse {at}; reverse {at}", job))
                self.same(job, entered("name Mill race, sluice end", job))
                self.same(job, put(job, Put("loads", tuple(reversed(job.loads)))))
                edits = [Put(f"loads[{load.id}].name", f"load {load.id}") for load in job.loads]
                self.same(job, put(job, *edits))


if __name__ == "__main__":
    unittest.main()
