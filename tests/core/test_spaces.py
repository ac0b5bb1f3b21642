"""Fewest moves: against every arrangement there is, on small panels."""

import itertools
import random
import time
import unittest

import msgspec

from awlmark.core.finding import HOLDS, NOTE, STOP, UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import new_job
from awlmark.core.job.panel_face import Breaker, DeadFront, Knockout
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.panel.rearrange import OUT, cells, fewest_moves
from awlmark.core.panel.spaces import follow, leg_of, new_breaker, options
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.support import refused, straight


def brute_force(front: DeadFront) -> int | None:
    """Fewest devices that change place or go, over every arrangement of the panel that leaves a pair free."""
    best: int | None = None
    movable = [breaker for breaker in front.breakers if not breaker.stays]
    kept = {space for breaker in front.breakers if breaker.stays for space in cells(breaker)}

    def fill(at: int, taken: set[int], changed: int) -> None:
        nonlocal best
        if best is not None and changed >= best:
            return
        if at == len(movable):
            free = set(range(1, front.spaces + 1)) - taken
            if any(space + 2 in free for space in free):
                best = changed
            return
        breaker = movable[at]
        if breaker.idle and breaker.proved_panel and breaker.proved_load:
            fill(at + 1, taken, changed + 1)
        for space in range(1, front.spaces + 1):
            wide = {space, space + 2} if len(cells(breaker)) == 2 else {space}
            labelled = front.tandem_from is not None and space >= front.tandem_from
            allowed = labelled or space == breaker.space or not (breaker.tandem or breaker.quad)
            if max(wide) <= front.spaces and not wide & taken and allowed:
                fill(at + 1, taken | wide, changed + (space != breaker.space))

    fill(0, kept, 0)
    return best


def panel(chance: random.Random, spaces: int, fullness: float) -> DeadFront:
    """A panel filled by chance."""
    taken: set[int] = set()
    breakers = []
    tandem_from = chance.choice([None, spaces // 2 + 1])
    for space in chance.sample(range(1, spaces + 1), spaces):
        if space in taken or chance.random() > fullness:
            continue
        kind = chance.random()
        labelled = tandem_from is not None and space >= tandem_from
        wide = kind < 0.35 and space + 2 <= spaces and space + 2 not in taken
        tied = wide and kind < 0.08
        taken |= {space, space + 2} if wide else {space}
        breakers.append(
            Breaker(
                id=f"b{space}",
                space=space,
                poles=2 if wide and not tied else 1,
                tied=tied,
                tandem=not wide and kind > 0.8 and (labelled or kind > 0.95),
                quad=wide and kind > 0.25 and labelled,
                kind=chance.choice(["main", "back-fed"]) if chance.random() < 0.08 else "branch",
                fixed=chance.random() < 0.1,
                idle=chance.random() < 0.25,
                proved_panel=chance.random() < 0.7,
                proved_load=chance.random() < 0.7,
            )
        )
    return DeadFront(spaces=spaces, tandem_from=tandem_from, breakers=tuple(breakers))


class FewestMoves(unittest.TestCase):
    def test_against_every_arrangement(self) -> None:
        chance = random.Random(20)
        seen = set()
        for _ in range(250):
            front = panel(chance, chance.choice([6, 8]), chance.choice([0.5, 0.7, 0.85, 1.0]))
            if chance.random() < 0.3:
                # Doubles on one side, singles with two holes on the other: a pair costs more than one move there.
                left = tuple(Breaker(id=f"d{n}", space=n, poles=2, fixed=chance.random() < 0.2) for n in (1, 5))
                right = chance.sample([2, 4, 6, 8], 2)
                fixed = chance.random() < 0.5
                front = DeadFront(
                    spaces=8, breakers=(*left, *(Breaker(id=f"s{n}", space=n, fixed=fixed) for n in right))
                )
            freed = fewest_moves(front)
            best = brute_force(front)
            seen.add(best)
            self.assertEqual(len(freed.moves) if freed.pair else None, best, front)
        self.assertTrue({None, 0, 1, 2} <= seen, seen)

    def test_moves_can_be_followed_and_free_the_pair(self) -> None:
        chance = random.Random(3)
        for _ in range(200):
            front = panel(chance, 12, 0.8)
            freed = fewest_moves(front)
            if freed.pair is None:
                continue
            where = {breaker.id: breaker.space for breaker in front.breakers}
            for move in freed.moves:
                self.assertEqual(where.pop(move.breaker), move.from_space)
                self.assertNotEqual(move.from_space, move.to_space)
                if move.to_space != OUT:
                    where[move.breaker] = move.to_space
            for breaker in front.breakers:
                self.assertTrue(breaker.id in where or breaker.spare)
            stays = {breaker.space for breaker in front.breakers if breaker.stays}
            after = [msgspec.structs.replace(b, space=where[b.id]) for b in front.breakers if b.id in where]
            self.assertLessEqual(stays, {breaker.space for breaker in after if breaker.stays})
            for breaker in after:
                if breaker.tandem or breaker.quad:
                    moved = any(move.breaker == breaker.id for move in freed.moves)
                    self.assertTrue(not moved or breaker.space >= (front.tandem_from or 99))
            taken = list(itertools.chain.from_iterable(cells(breaker) for breaker in after))
            self.assertEqual(len(taken), len(set(taken)))
            self.assertFalse(set(freed.pair) & set(taken))
            self.assertEqual({leg_of(space) for space in freed.pair}, {"A", "B"})
            settled = put(put(straight(48, 20), Put("dead_front", front)), *follow(front, freed)).dead_front
            self.assertEqual({b.id: b.space for b in settled.breakers}, where)
            self.assertEqual(len(fewest_moves(settled).moves), 0)

    def test_a_nearly_full_panel_of_42_is_quick(self) -> None:
        chance = random.Random(8)
        for _ in range(6):
            breakers = []
            holes = set(chance.sample(range(1, 43), 2))
            taken: set[int] = set(holes)
            for space in range(1, 43):
                if space not in taken:
                    wide = chance.random() < 0.3 and space + 2 <= 42 and space + 2 not in taken
                    taken |= {space, space + 2} if wide else {space}
                    breakers.append(Breaker(id=f"b{space}", space=space, poles=2 if wide else 1))
            began = time.process_time()
            freed = fewest_moves(DeadFront(spaces=42, breakers=tuple(breakers)))
            self.assertIsNotNone(freed.pair)
            # A guard against a runaway search, far above what it takes.
            self.assertLess(time.process_time() - began, 5)

    def test_a_hopeless_panel_of_42_is_quick_to_give_up(self) -> None:
        # Tandem spaces all around, a two-pole device that stays in each second pair: nothing can make a pair.
        stay = [Breaker(id=f"s{n}", space=n, poles=2, fixed=True) for n in range(1, 43) if n % 8 in (1, 2)]
        held = {space for breaker in stay for space in cells(breaker)}
        loose = [Breaker(id=f"t{n}", space=n, tandem=n % 3 == 0) for n in range(1, 43) if n not in held]
        front = DeadFront(spaces=42, tandem_from=1, breakers=(*stay, *loose[1:]))
        began = time.process_time()
        self.assertIsNone(fewest_moves(front).pair)
        self.assertLess(time.process_time() - began, 5)

    def test_more_moves_allowed_never_find_fewer_spaces(self) -> None:
        chance = random.Random(5)
        for _ in range(60):
            front = panel(chance, 10, 0.8)
            loose = DeadFront(
                spaces=10,
                tandem_from=front.tandem_from,
                breakers=tuple(b.__class__(**{**_fields(b), "fixed": False}) for b in front.breakers),
            )
            held, free = fewest_moves(front), fewest_moves(loose)
            if held.pair is not None:
                self.assertIsNotNone(free.pair)
                self.assertLessEqual(len(free.moves), len(held.moves))

    def test_impossible_panels_offer_a_way_out(self) -> None:
        full = DeadFront(spaces=6, tandem_from=3, breakers=tuple(Breaker(id=f"b{n}", space=n) for n in range(1, 7)))
        self.assertIsNone(fewest_moves(full).pair)
        self.assertTrue(any("tandem" in way for way in options(full)))
        self.assertTrue(any("sub-panel" in way for way in options(DeadFront(spaces=6))))

    def test_the_design_says_where_there_is_room(self) -> None:
        front = DeadFront(spaces=6, breakers=(Breaker(id="a", space=1, name="lamps"), Breaker(id="b", space=6)))
        job = put(straight(48, 20), Put("dead_front", front))
        # Spaces that nobody looked into do not hold: they are asked for.
        self.assertIsNone(solve(job).finding("space"))
        self.assertEqual(solve(job).finding("space-told").severity, UNREAD)
        job = put(job, Put("dead_front.free", (2, 3, 4, 5)))
        self.assertEqual(solve(job).finding("space").severity, HOLDS)
        crowded = put(
            job, Put("dead_front.breakers", (*front.breakers, Breaker(id="c", space=3), Breaker(id="d", space=4)))
        )
        made = solve(crowded)
        self.assertEqual(made.finding("space").severity, NOTE)
        quote = quote_fixes(made, made.finding("space"))[0]
        self.assertEqual(solve(quote.job).finding("space").severity, HOLDS)
        full = put(job, Put("dead_front.breakers", tuple(Breaker(id=f"b{n}", space=n) for n in range(1, 7))))
        self.assertEqual(solve(full).finding("space").severity, STOP)
        single = put(full, Put("charger.connection", "5-20"), Put("charger.nameplate_a", 12.0))
        self.assertEqual(solve(single).finding("space").severity, STOP)
        one = put(single, Put("dead_front.breakers", full.dead_front.breakers[:-1]), Put("dead_front.complete", True))
        self.assertEqual(solve(one).finding("space").severity, HOLDS)

    def test_impossible_maps_are_refused_naming_the_device(self) -> None:
        job = straight(48, 20)
        for front in (
            DeadFront(spaces=7),
            DeadFront(spaces=200),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=9),)),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=5, poles=2),)),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=1), Breaker(id="b", space=1))),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=1, poles=2), Breaker(id="b", space=3))),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=1, poles=2, tandem=True),)),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=1, quad=True),)),
            DeadFront(spaces=6, opened=(7,)),
            DeadFront(spaces=6, knockouts=(Knockout(id="k1", side="back"),)),
            DeadFront(spaces=6, breakers=(Breaker(id="a", space=1, poles=3),)),
        ):
            with refused(
                self,
                "breaker 1 poles",
                "breaker in space 1",
                "breaker in space 3",
                "breaker in space 5",
                "breaker in space 9",
                "knockout 1 side",
                "open space",
                "spaces",
            ):
                put(job, Put("dead_front", front))


class TheNewBreaker(unittest.TestCase):
    def test_it_stands_in_the_pair_that_is_free_or_is_freed(self) -> None:
        job = demo_job()
        made = new_breaker(job, 2, 60.0)
        assert made is not None
        one, moves = made
        self.assertEqual((list(cells(one)), moves, one.rating_a), ([18, 20], (), 60.0))
        self.assertIsNone(new_breaker(put(job, Put("existing.breaker", "plain")), 2, 60.0))
        self.assertIsNone(new_breaker(new_job(), 2, 60.0))
        crowded = DeadFront(spaces=6, breakers=tuple(Breaker(id=f"b{n}", space=n) for n in (1, 3, 4, 6)))
        made = new_breaker(put(straight(48, 20), Put("dead_front", crowded)), 2, 60.0)
        assert made is not None
        self.assertTrue(made[1])


def _fields(breaker: Breaker) -> dict[str, object]:
    return {name: getattr(breaker, name) for name in breaker.__struct_fields__}
