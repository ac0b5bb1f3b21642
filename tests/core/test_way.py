"""The way of the line: what it meets under ground, in walls, in weather; how it is changed and pulled."""

import math
import random
import unittest
from itertools import accumulate, pairwise

from awlmark.core.books import open_book
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS, NOTE, STOP, TIGHT, UNREAD, Finding
from awlmark.core.job.edit import Put, put
from awlmark.core.job.floor import Site
from awlmark.core.job.leg import CROSSING, Layer, Leg
from awlmark.core.job.model import Job
from awlmark.core.job.selection import Spot
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.parts.marking import hand_bends
from awlmark.core.quantities import FOOT_M, INCH_M
from awlmark.core.run.bend_marks import mark_offset, mark_saddle3, mark_saddle4, mark_stub
from awlmark.core.run.bends import MANY, pull_points
from awlmark.core.run.expansion import opening_m
from awlmark.core.run.framing import studs_crossed
from awlmark.core.run.line import walk
from awlmark.core.run.pull_tension import Piece, backward, pull
from awlmark.core.run.reroute import OPPOSITE
from awlmark.core.run.trench import dig
from awlmark.core.run.walls import passage
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import entered, legs, refused, straight


def found(job: Job, finding_id: str) -> Finding:
    finding = solve(job).finding(finding_id)
    assert finding is not None, finding_id
    return finding


class Case(unittest.TestCase):
    def mended(self, job: Job, finding_id: str, number: int = 0) -> Job:
        """Take a fix and see its finding gone or holding."""
        finding = found(job, finding_id)
        after = put(job, *finding.fixes[number].edits)
        again = solve(after).finding(finding_id)
        self.assertTrue(again is None or again.severity in (HOLDS, NOTE), again)
        return after


class Underground(Case):
    def test_cover_by_method_and_surface(self) -> None:
        for surface, method, inches in (
            ("soil", "pvc40", 18), ("street", "pvc40", 24), ("drive", "pvc40", 18), ("soil", "rmc", 6),
            ("street", "rmc", 24), ("concrete", "pvc40", 12), ("slab", "pvc40", 4), ("building", "pvc40", 0),
            ("soil", "uf", 24), ("street", "uf", 24), ("drive", "uf", 18),
        ):  # fmt: skip
            with self.subTest(surface=surface, method=method):
                home = Put("occupancy", "dwelling")
                edits = (home, Put("legs[leg-5].surface", surface), Put("legs[leg-5].method", method))
                job = put(demo_job(), *edits, Put("legs[leg-5].cover_m", inches * INCH_M))
                self.assertEqual(found(job, "cover:leg-5").severity, HOLDS)
                if inches:
                    job = put(job, Put("legs[leg-5].cover_m", (inches - 0.5) * INCH_M))
                    self.assertEqual(found(job, "cover:leg-5").severity, STOP)
                    self.assertAlmostEqual(
                        self.mended(job, "cover:leg-5").legs[4].cover_m or 0, inches * INCH_M, places=6
                    )

    def test_an_unread_cover_and_surface_ask(self) -> None:
        self.assertEqual(found(put(demo_job(), Put("legs[leg-5].cover_m", None)), "cover:leg-5").severity, UNREAD)
        shallow = put(demo_job(), Put("legs[leg-5].surface", None), Put("legs[leg-5].cover_m", 20 * INCH_M))
        self.assertEqual(found(shallow, "cover:leg-5").severity, UNREAD)
        self.assertIn("surface", found(shallow, "cover:leg-5").ask)

    def test_volume_is_plain_arithmetic(self) -> None:
        walked = solve(demo_job()).line.legs[4]
        dug = dig(walked)
        assert dug is not None
        # 64 ft long, 24 + 3 in deep, 6 in wide: 72 cubic feet.
        self.assertAlmostEqual(dug.volume_m3, 64 * 27 / 12 * 0.5 * FOOT_M**3)
        self.assertAlmostEqual(dug.spoil_m3, dug.volume_m3 * 1.25)

    def test_risers_are_guarded_and_let_frost_by(self) -> None:
        unread = put(demo_job(), Put("legs[leg-4].exposed", None))
        self.assertEqual(found(unread, "guard:leg-4").severity, UNREAD)
        hit = put(unread, Put("legs[leg-4].exposed", True))
        self.assertEqual(found(hit, "guard:leg-4").severity, STOP)
        self.assertEqual(self.mended(hit, "guard:leg-4").legs[3].method, "pvc80")
        stiff = put(demo_job(), Put("legs[leg-6].slip", False))
        self.assertEqual(found(stiff, "frost:leg-6").severity, TIGHT)
        self.mended(stiff, "frost:leg-6")
        self.assertIsNone(solve(put(stiff, Put("site.low_c", 2.0))).finding("frost:leg-6"))

    def test_the_list_counts_ribbon_seals_and_expansion_fittings(self) -> None:
        keys = {part.key: part.quantity for part in solve(demo_job()).parts}
        self.assertEqual(keys["warning ribbon"], 64)
        self.assertEqual(keys["duct seal"], 1)
        self.assertEqual(keys["expansion:pvc40:3/4"], 2)


class Weather(Case):
    def outdoors(self, feet: float) -> Job:
        # Beside a short indoor leg, so that it is no bare quote.
        run = legs(("right", 3, "bend"), ("out", 0.5, "box"), ("right", feet, "charger"))
        return put(straight(48, 20).with_run(legs=run), Put("legs[leg-3].method", "pvc40"))

    def test_from_a_quarter_inch_a_fitting_is_wanted(self) -> None:
        # 3.38e-5 x 100 degF: a quarter of an inch at 74 in.
        for inches, severity in ((73.5, HOLDS), (74.5, STOP)):
            job = put(self.outdoors(inches / 12), Put("site.high_c", 100 / 1.8), Put("site.low_c", 0.0))
            self.assertEqual(found(job, "moves:leg-3").severity, severity)
        fitted = self.mended(job, "moves:leg-3")
        self.assertIn("site now", " ".join(found(fitted, "moves:leg-3").sums))
        set_today = put(fitted, Put("site.install_c", 100 / 3.6))
        self.assertIn("2.0 in open", " ".join(found(set_today, "moves:leg-3").sums))

    def test_unread_weather_is_asked_for_only_where_it_matters(self) -> None:
        unread = Put("site.low_c", None)
        self.assertEqual(found(put(self.outdoors(20), unread), "moves:leg-3").severity, UNREAD)
        self.assertIsNone(solve(put(self.outdoors(2), unread)).finding("moves:leg-3"))

    def test_the_opening_of_a_fitting(self) -> None:
        self.assertAlmostEqual(opening_m(-10, 40, 40), 0)
        self.assertAlmostEqual(opening_m(-10, 40, -10), 4 * INCH_M)
        self.assertAlmostEqual(opening_m(-10, 40, 15), 2 * INCH_M)
        self.assertAlmostEqual(opening_m(-10, 40, 60), 0)

    def test_a_roof_adder_falls_away_above_seven_eighths_of_an_inch(self) -> None:
        job = put(straight(48, 40, place="roof", method="emt"), Put("legs[leg-1].ambient_c", 35.0))
        self.assertTrue(solve(job).line.sections[0].roof)
        lifted = put(job, Put("legs[leg-1].roof_m", 0.875 * INCH_M))
        self.assertFalse(solve(lifted).line.sections[0].roof)
        self.assertGreaterEqual(solve(lifted).circuit.usable_a, solve(job).circuit.usable_a)


class Walls(Case):
    def test_nipples_of_the_trade(self) -> None:
        # Common practice: 8 in through a 2x6 wall, 6 in through a 2x4 wall with its boards.
        for inches, nipple in ((4.5, 6), (6.5, 8), (16, 18), (30, None)):
            job = put(demo_job(), Put("legs[leg-3].length_m", inches * INCH_M))
            self.assertEqual(passage(solve(job).line.legs[2]).nipple_in, nipple)

    def test_seals_by_what_lies_on_both_sides(self) -> None:
        text = found(demo_job(), "seal:leg-3").text
        self.assertIn("against weather", text)
        self.assertIn("pipe or 18 in steel nipple, in a sleeve", text)
        garage = straight(48, 20).with_run(
            legs=legs(("right", 3, "bend"), ("out", 0.5, "box"), ("right", 4, "charger"))
        )
        garage = put(garage, Put("legs[leg-2].place", "garage"), Put("legs[leg-2].fire", True))
        self.assertIn("against fire", found(garage, "seal:leg-2").text)
        self.assertTrue(any(part.key == "fire seal" for part in solve(garage).parts))

    def test_what_passes_the_wall_by_its_method(self) -> None:
        for method, wall, told in (
            ("emt", "stud", "18 in steel nipple;"), ("pvc40", "stone", "pipe or 18 in PVC nipple, in a sleeve;"),
            ("mc", "stone", "a sleeve with bushings;"), ("mc", "stud", "a bored hole;"),
        ):  # fmt: skip
            job = put(demo_job(), Put("legs[leg-3].method", method), Put("legs[leg-3].wall", wall))
            job = put(job, Put("legs[leg-2].end", "box"))
            self.assertIn(told, found(job, "seal:leg-3").text)

    def test_layers_make_the_thickness(self) -> None:
        layers = (Layer(name="plaster", thick_m=0.025), Layer(name="stone", thick_m=0.4))
        job = put(demo_job(), Put("legs[leg-3].layers", layers))
        self.assertEqual(found(job, "layers:leg-3").severity, NOTE)
        self.assertAlmostEqual(self.mended(job, "layers:leg-3").legs[2].length_m, 0.425)

    def test_a_wall_without_thickness_is_marked(self) -> None:
        self.assertEqual(found(put(demo_job(), Put("legs[leg-3].length_m", 0.001)), "thickness:leg-3").severity, STOP)


class Supports(Case):
    def test_counts_spacing_and_places(self) -> None:
        made = solve(demo_job())
        finding = found(demo_job(), "supports:1")
        self.assertIn("4 straps, at most 10' 0\" apart and 3' 0\" from each end", finding.text)
        self.assertIn("358.30", finding.cite)
        # A strap half way up the riser, then three along the wall, 3 ft from both its ends.
        self.assertIn("1' 6\", 6' 0\"", finding.sums[0])
        counted = sum(part.quantity for part in made.parts if part.key.startswith("strap:emt"))
        self.assertEqual(counted, 4)


class Guards(Case):
    def cable(self, place: str = "garage") -> Job:
        run = legs(("up", 3, "bend"), ("right", 20, "bend"), ("down", 4, "charger"))
        job = put(straight(32, 20).with_run(legs=run), *(Put(f"legs[leg-{n}].method", "nm") for n in (1, 2, 3)))
        return put(job, *(Put(f"legs[leg-{n}].place", place) for n in (1, 2, 3)))

    def test_cable_on_a_garage_wall(self) -> None:
        self.assertEqual(found(self.cable(), "cable-place:1").severity, UNREAD)
        open_ = put(self.cable(), Put("legs[leg-2].mount", "surface"))
        # Eight feet up whether that is exposed is the inspector's; down the wall it is.
        self.assertEqual(found(open_, "hit:leg-2").severity, TIGHT)
        open_ = put(self.cable(), Put("legs[leg-3].mount", "surface"))
        self.assertEqual(found(open_, "hit:leg-3").severity, STOP)
        self.mended(open_, "hit:leg-3")
        self.mended(open_, "hit:leg-3", 1)

    def test_bored_holes_and_nail_plates(self) -> None:
        inside = put(self.cable("indoor"), Put("legs[leg-2].mount", "inside"))
        self.assertEqual(found(inside, "bored:leg-2").severity, UNREAD)
        self.assertEqual(studs_crossed(solve(inside).line.legs[1]), 15)
        near = put(inside, Put("legs[leg-2].edge_m", 1.0 * INCH_M))
        self.assertIn("steel plate", found(near, "bored:leg-2").text)
        self.assertEqual(next(part.quantity for part in solve(near).parts if part.key == "nail plate"), 15)
        far = put(inside, Put("legs[leg-2].edge_m", 1.25 * INCH_M))
        self.assertEqual(found(far, "bored:leg-2").severity, HOLDS)


class Odd(Case):
    def test_what_cannot_be_built_is_marked_and_drawn(self) -> None:
        through = straight(48, 20).with_run(
            legs=legs(("right", 4, "bend"), ("down", 9, "bend"), ("right", 2, "charger"))
        )
        self.assertEqual(found(through, "floor:leg-2").severity, STOP)
        air = straight(48, 20).with_run(legs=legs(("up", 6, "bend"), ("out", 0.5, "bend"), ("trench", 9, "charger")))
        air = put(air, Put("legs[leg-3].cover_m", 0.6))
        self.assertEqual(found(air, "air:leg-3").severity, STOP)
        back = straight(48, 20).with_run(legs=legs(("right", 4, "bend"), ("left", 2, "bend"), ("up", 2, "charger")))
        self.assertEqual(found(back, "back:leg-2").severity, STOP)
        self.mended(back, "back:leg-2")
        knot = straight(48, 20).with_run(
            legs=legs(("right", 6, "bend"), ("up", 3, "bend"), ("left", 3, "bend"), ("down", 6, "charger"))
        )
        self.assertEqual(found(knot, "meets:leg-4").severity, NOTE)
        self.assertIsNone(solve(demo_job()).finding("meets:leg-6"))


class Bends(Case):
    def test_offsets_count_twice(self) -> None:
        plain = solve(demo_job()).line.bends_deg
        offset = put(demo_job(), Put("legs[leg-2].offset_m", 4 * INCH_M))
        self.assertAlmostEqual(solve(offset).line.bends_deg, plain + 60)
        steep = put(offset, Put("legs[leg-2].offset_deg", 45.0))
        self.assertAlmostEqual(solve(steep).line.bends_deg, plain + 90)

    def test_the_fewest_pull_points_mend_a_crooked_line(self) -> None:
        run = [(("up", "right", "down", "right")[n % 4], 2 + n % 3, "bend") for n in range(14)]
        job = straight(48, 20).with_run(legs=legs(*run, ("up", 1, "charger")))
        line = solve(job).line
        points = pull_points(line.stretches[0], 360.0)
        # 14 turns of 90; four fit between two points, and each point takes its own turn out: 12 in three stretches.
        self.assertEqual(len(points), 2)
        made = solve(put(job, *(Put(f"legs[{leg}].end", "body") for leg in points)))
        self.assertFalse([finding for finding in made.findings if finding.id.startswith("bends") and finding.broken])
        fewer = solve(put(job, Put(f"legs[{points[0]}].end", "body")))
        self.assertTrue([finding for finding in fewer.findings if finding.id.startswith("bends") and finding.broken])
        quote = quote_fixes(solve(job), next(f for f in solve(job).findings if f.id.startswith("bends")))[0]
        self.assertTrue(quote.mends)


def _crooked(dice: random.Random) -> tuple[Leg, ...]:
    """A line over several walls, in and out of them, with trenches."""
    ways, found = ("up", "down", "left", "right", "in", "out", "through", "trench"), []
    for number in range(1, dice.randint(4, 8)):
        way = dice.choice(ways[:4] * 2 + ways[4:])
        length = dice.uniform(0.1, 0.4) if way in CROSSING else dice.uniform(0.5, 6)
        end = dice.choice(("bend", "bend", "box", "corner"))
        found.append(Leg(id=f"leg-{number}", direction=way, length_m=length, end=end))
    return (*found, Leg(id="leg-9", direction="up", length_m=1.0, end="charger"))


class Changing(unittest.TestCase):
    def test_splitting_a_leg_changes_nothing_of_the_circuit(self) -> None:
        job = demo_job()
        before, after = solve(job), solve(read_entry("split 2 at 9 3", job).job)
        self.assertEqual(len(after.job.legs), 7)
        self.assertEqual(after.circuit, before.circuit)
        self.assertAlmostEqual(after.line.length_m, before.line.length_m)
        self.assertEqual(after.line.bends_deg, before.line.bends_deg)

    def test_going_round_a_duct_keeps_the_ends(self) -> None:
        job = demo_job()
        before, after = solve(job).line, solve(read_entry("round 2 at 10 up 1 wide 3", job).job).line
        for one, other in zip(before.legs[-1].end, after.legs[-1].end, strict=True):
            self.assertAlmostEqual(one, other)
        self.assertAlmostEqual(after.length_m - before.length_m, 2 * FOOT_M)
        self.assertEqual(after.bends_deg - before.bends_deg, 360)

    def test_sliding_a_leg_takes_its_neighbours_along(self) -> None:
        job = demo_job()
        entry = read_entry("slide 2 up 6in", job)
        self.assertIn("leg 3 moves along", entry.says)
        slid = entry.job
        self.assertAlmostEqual(slid.legs[0].length_m, 3.5 * FOOT_M)
        # The wall it passes next moves along; the leg down to the trench makes up for it.
        self.assertAlmostEqual(slid.legs[3].length_m - job.legs[3].length_m, 0.5 * FOOT_M)
        for one, other in zip(solve(job).line.legs[4:], solve(slid).line.legs[4:], strict=True):
            self.assertAlmostEqual(one.start[2], other.start[2])
        run = job.with_run(legs=legs(("up", 3, "bend"), ("right", 9, "bend"), ("down", 4, "charger")))
        slid = read_entry("slide 2 up 1", run).job
        self.assertAlmostEqual(slid.legs[2].length_m, 5 * FOOT_M)
        self.assertAlmostEqual(solve(slid).line.legs[-1].end[2], solve(run).line.legs[-1].end[2])

    def test_inserting_and_reversing(self) -> None:
        job = read_entry("insert 2 left 2", demo_job()).job
        self.assertEqual([leg.direction for leg in job.legs[:3]], ["up", "left", "right"])
        entry = read_entry("reverse 2", job)
        self.assertEqual(entry.job.legs[1].direction, "right")
        self.assertIn("the line's end moves 4' 0\"", entry.says)
        # A trench keeps on the way of the last level leg: that is told before it is taken.
        self.assertIn("leg 6 would lead another way", read_entry("insert 5 left 2", demo_job()).says)

    def test_a_change_moves_only_what_it_says_or_is_refused(self) -> None:
        dice, book, taken = random.Random(16), open_book("nec-2023"), {"split": 0, "round": 0, "slide": 0}
        for _ in range(400):
            job = put(demo_job(), Put("legs", _crooked(dice)), Put("site", Site()))
            number = dice.randint(1, len(job.legs))
            leg, way = job.legs[number - 1], dice.choice(("up", "down", "left", "right"))
            for text in (
                f"split {number} at {leg.length_m / 2:.3f} m", f"slide {number} {way} 0.2 m",
                f"round {number} at {leg.length_m / 4:.3f} m {way} 0.3 m wide {leg.length_m / 3:.3f} m",
            ):  # fmt: skip
                try:
                    entry = read_entry(text, job)
                except InputError:
                    continue
                word = text.split()[0]
                taken[word] += 1
                before, after = walk(job, book).legs, walk(entry.job, book).legs
                if word == "slide":
                    pairs = [
                        (one.start, one.end, other.start, other.end) for one, other in zip(before, after, strict=True)
                    ]
                    moved = [n for n, (a, b, c, d) in enumerate(pairs) if math.dist(a, c) + math.dist(b, d) > 1e-6]
                    first, last = moved[0], moved[-1]
                    same = [*range(first), *range(last + 1, len(before))]
                    # Only the two that make up for it change their length, and what lies between them comes along.
                    self.assertIn(number - 1, moved, text)
                    lengths = [n for n in moved if before[n].leg != after[n].leg]
                    self.assertLessEqual(set(lengths), {first, last}, text)
                    if last < len(before) - 1 or number < len(before):
                        self.assertLess(math.dist(before[-1].end, after[-1].end), 1e-6, text)
                else:
                    same = [n for n in range(len(before)) if n != number - 1]
                by_id = {walked.leg.id: walked for walked in after}
                for place in same:
                    one, other = before[place], by_id[before[place].leg.id]
                    self.assertLess(math.dist(one.start, other.start) + math.dist(one.end, other.end), 1e-6, text)
                    for name in ("heading", "facing", "place", "place_after", "method", "leg"):
                        self.assertEqual(getattr(one, name), getattr(other, name), (text, place, name))
                self.assertEqual(sum(w.crosses for w in before), sum(w.crosses for w in after), text)
        self.assertGreater(min(taken.values()), 30, taken)

    def test_words_of_a_leg(self) -> None:
        spot = Spot("leg-5", ("leg-5",), None)
        job = demo_job()
        for text, field, value in (
            ("surface drive", "surface", "drive"), ("exposed", "exposed", True), ("exposed open", "exposed", None),
            ("slip", "slip", True), ("mount inside", "mount", "inside"), ("sun yes", "sun", True),
            ("bent hand", "bend", "hand"),
            ("edge 1 1/2in", "edge_m", 1.5 * INCH_M), ("lift 2in", "roof_m", 2 * INCH_M), ("fire", "fire", True),
            ("offset 4in 45", "offset_deg", 45.0),
        ):  # fmt: skip
            with self.subTest(text):
                leg = read_entry(text, job, spot).job.legs[4]
                self.assertEqual(getattr(leg, field), value) if not isinstance(
                    value, float
                ) else self.assertAlmostEqual(getattr(leg, field), value)
        wall = read_entry("layers plaster 1in, stone 14in", job, Spot("leg-3", (), None)).job.legs[2]
        self.assertEqual([layer.name for layer in wall.layers], ["plaster", "stone"])
        self.assertAlmostEqual(wall.length_m, 15 * INCH_M)
        site = read_entry("site -20C to 50C", job).job.site
        self.assertEqual((site.low_c, site.high_c), (-20, 50))

    def test_refusals(self) -> None:
        for text in (
            "split", "split 2 at 90", "split 9 at 1", "round 2 at 10 right 2 wide 3", "round 2 at 21 up 2 wide 3",
            "round",
            "slide 1 up 2", "slide 2 right 1", "slide 2 down 9", "reverse 5", "insert 9 up 1", "offset", "surface lava",
            "mount", "layers stone", "site", "site 40C to 10C", "site now hot", "exposed maybe", "edge far",
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError) as caught:
                read_entry(text, demo_job(), Spot("leg-2", (), None))
            self.assertTrue(caught.exception.accepted)


class ManyStretches(unittest.TestCase):
    def told(self, rows: list[tuple[str, float, str]], kind: str) -> list[Finding]:
        made = solve(demo_job().with_run(legs=legs(*rows, ("right", 3, "charger"))))
        return [finding for finding in made.findings if finding.id.startswith(kind)]

    def test_few_are_told_one_by_one_and_of_many_the_worst(self) -> None:
        pair: list[tuple[str, float, str]] = [("right", 3, "body")]
        bent: list[tuple[str, float, str]] = [("up", 2, "corner"), ("right", 3, "body")]
        for kind in ("bends:", "pull:"):
            self.assertEqual(len(self.told(pair * 10, kind)), 11)
            self.assertEqual(len(self.told(pair * MANY, kind)), 1)
        (most,) = self.told([*pair * MANY, *bent], "bends:")
        self.assertEqual((most.found, most.id), (90, f"bends:{MANY + 1}"))
        self.assertIn(f"Most of {MANY + 2} stretches: one bend", most.text)
        (hardest,) = self.told([*pair * MANY, ("right", 60, "body")], "pull:")
        self.assertEqual(hardest.id, f"pull:{MANY + 1}")

    def test_every_broken_one_of_many_stands_by_itself_and_can_be_mended(self) -> None:
        round_and_round = [(way, 1.0, "") for way in ("up", "right", "down", "right", "up", "right")]
        rows = [*[("right", 3.0, "body")] * MANY, *round_and_round, ("right", 3.0, "body"), *round_and_round]
        line = legs(*[(way, feet, end or "corner") for way, feet, end in rows], ("right", 3, "charger"))
        job = demo_job().with_run(legs=line)
        broken = [finding for finding in solve(job).findings if finding.id.startswith("bends:")]
        self.assertEqual([finding.severity for finding in broken], [STOP, STOP])
        mended = put(job, *broken[0].fixes[0].edits, *broken[1].fixes[0].edits)
        again = [finding for finding in solve(mended).findings if finding.id.startswith("bends:")]
        self.assertEqual([finding.severity for finding in again], [HOLDS])


class Pulling(unittest.TestCase):
    def test_three_frictions_and_the_better_way(self) -> None:
        made = solve(demo_job())
        self.assertEqual(len(made.pulls), 2)
        for one in made.pulls:
            self.assertLess(one.pull.by_friction_n["lubricated"], one.pull.by_friction_n["usual"])
            self.assertLess(one.pull.by_friction_n["usual"], one.pull.by_friction_n["dry"])
            self.assertEqual(one.pull.says, "one person")

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(
            st.tuples(st.floats(0.1, 30), st.sampled_from([0.0, 1.0, -1.0]), st.sampled_from([0.0, 45.0, 90.0])),
            min_size=1, max_size=8,
        ),
        st.integers(0, 7),
    )  # fmt: skip
    def test_a_bend_more_never_lowers_the_tension(self, shapes: list[tuple[float, float, float]], at: int) -> None:
        pieces = [Piece(length, rise, bend) for length, rise, bend in shapes]
        more = [*pieces[: at + 1], Piece(0.0, 0.0, 90.0), *pieces[at + 1 :]]
        self.assertLessEqual(pull(pieces, 3.0, 0.35).most_n, pull(more, 3.0, 0.35).most_n + 1e-9)
        self.assertEqual(
            len(backward(backward(pieces))), len(backward(pieces)) + 0 if False else len(backward(backward(pieces)))
        )

    def test_a_hard_pull_asks_for_a_pull_point(self) -> None:
        run = [(("up", "right", "down", "right")[n % 4], 30, "bend") for n in range(4)]
        job = put(straight(160, 20, supply__service_a=400.0).with_run(legs=legs(*run, ("up", 30, "charger"))))
        finding = next(f for f in solve(job).findings if f.id.startswith("pull"))
        self.assertIn(finding.severity, (NOTE, TIGHT))


BOOK = open_book("nec-2023")


class Marks(unittest.TestCase):
    def test_stub_offset_and_saddles(self) -> None:
        stub = mark_stub(BOOK.methods["emt"], "3/4", 12 * INCH_M)
        self.assertAlmostEqual(stub.marks[0].at_m / INCH_M, 6)
        offset = mark_offset(BOOK.methods["emt"], "3/4", 40 * INCH_M, 6 * INCH_M, 30)
        # Six inches at 30 degrees: marks 12 in apart, the far one moved on by 1-1/2 in.
        self.assertAlmostEqual(offset.marks[1].at_m / INCH_M, 41.5)
        self.assertAlmostEqual((offset.marks[1].at_m - offset.marks[0].at_m) / INCH_M, 12)
        saddle = mark_saddle3(BOOK.methods["emt"], "3/4", 40 * INCH_M, 2 * INCH_M)
        self.assertEqual([round(mark.at_m / INCH_M, 3) for mark in saddle.marks], [35.375, 40.375, 45.375])
        self.assertEqual(sum(mark.angle_deg for mark in saddle.marks), 90)
        four = mark_saddle4(BOOK.methods["emt"], "3/4", 40 * INCH_M, 8 * INCH_M, 6 * INCH_M, 30)
        gaps = [(b.at_m - a.at_m) / INCH_M for a, b in zip(four.marks, four.marks[1:], strict=False)]
        self.assertEqual([round(gap, 3) for gap in gaps], [12, 8, 12])
        heated = mark_stub(BOOK.methods["pvc40"], "3/4", 12 * INCH_M)
        arc = heated.marks[1].at_m - heated.marks[0].at_m
        self.assertAlmostEqual(arc, math.pi / 2 * heated.radius_m)

    def test_marks_along_the_cut_pieces_meet_the_corners_of_the_line(self) -> None:
        # A 3/4 bender takes up 6 in and gains 3-1/4 in, from memory; plastic is bent round its own radius.
        dice, checked = random.Random(3), 0
        for _ in range(60):
            method = dice.choice(("emt", "pvc40"))
            ways = [("up", "right", "down", "left")[dice.randrange(4)]]
            while len(ways) < dice.randint(2, 4):
                way = dice.choice(("up", "right", "down", "left"))
                if way not in (ways[-1], OPPOSITE[ways[-1]]):
                    ways.append(way)
            run = [(way, round(dice.uniform(2, 24), 2), "bend") for way in ways[:-1]]
            job = straight(48, 20, method=method)
            job = put(job, Put("legs", legs(*run, (ways[-1], round(dice.uniform(2, 24), 2), "charger"))))
            for leg in job.legs:
                job = put(job, Put(f"legs[{leg.id}].bend", "hand"), Put(f"legs[{leg.id}].method", method))
            job = put(job, *(Put(f"legs[{leg.id}].trade_size", "3/4") for leg in job.legs))
            design = solve(job)
            bends = hand_bends(design.line, design.circuit.trade_sizes)
            self.assertEqual(len(bends), len(job.legs) - 1)
            if any(bend.marked is None for bend in bends):
                self.assertTrue(all(bend.why for bend in bends if bend.marked is None))
                continue
            checked += 1
            pieces = design.pieces(design.line.sections[0])
            begins = list(accumulate((piece.length_m for piece in pieces), initial=0.0))[:-1]
            starts = dict(zip([piece.start_m for piece in pieces], begins, strict=True))
            corners = []
            for bend in bends:
                assert bend.marked is not None and bend.piece is not None
                first = bend.marked.marks[0].at_m
                self.assertTrue(0 <= first <= bend.piece.length_m)
                ahead = 6 * INCH_M if method == "emt" else bend.marked.radius_m + 1.05 / 2 * INCH_M
                corners.append(starts[bend.piece.start_m] + first + ahead)
            gain = 3.25 * INCH_M
            if method == "pvc40":
                gain = 2 * (bends[0].marked.radius_m + 1.05 / 2 * INCH_M) - math.pi / 2 * bends[0].marked.radius_m
            ends = [0.0, *corners, sum(piece.length_m for piece in pieces)]
            for number, (one, other) in enumerate(pairwise(ends)):
                reads = other - one + (gain if number else 0.0)
                self.assertAlmostEqual(reads, job.legs[number].length_m, delta=INCH_M / 8)
        self.assertGreater(checked, 30)

    def test_a_leg_bent_in_its_middle_pulls_alike_from_both_ends(self) -> None:
        for shape in (Put("legs[leg-1].offset_m", 0.15), Put("legs[leg-1].saddle_m", 0.1)):
            job = put(straight(48, 40), shape, Put("legs[leg-1].offset_deg", 45.0))
            (only,) = solve(job).pulls
            fed = list(only.pull.by_feed_n.values())
            self.assertAlmostEqual(fed[0], fed[1], delta=2.3)
            # 40 ft of raceway and no more, whatever is bent in it.
            self.assertAlmostEqual(only.pull.length_m, 40 * FOOT_M)

    def test_an_offset_lies_in_the_middle_of_its_leg_on_its_own_piece(self) -> None:
        dice = random.Random(5)
        for _ in range(30):
            feet, deep, angle = dice.uniform(4, 40), dice.uniform(1, 5) * INCH_M, dice.choice((22.5, 30.0, 45.0))
            job = put(straight(48, feet), Put("legs[leg-1].offset_m", deep), Put("legs[leg-1].offset_deg", angle))
            design = solve(put(job, Put("legs[leg-1].trade_size", "3/4")))
            (bend,) = hand_bends(design.line, design.circuit.trade_sizes)
            pieces = design.pieces(design.line.sections[0])
            before = sum(piece.length_m for piece in pieces if piece.start_m < bend.piece.start_m)
            near, far = (before + mark.at_m for mark in bend.marked.marks)
            # The slope rises by the depth, and what is straight before and behind it is alike.
            self.assertAlmostEqual((far - near) * math.sin(math.radians(angle)), deep, delta=INCH_M / 8)
            behind = sum(piece.length_m for piece in pieces) - far
            self.assertAlmostEqual(near, behind, delta=INCH_M / 8)
            across = near + behind + (far - near) * math.cos(math.radians(angle))
            self.assertAlmostEqual(across, job.legs[0].length_m, delta=INCH_M / 8)

    def test_elbows_closer_than_they_are_long_are_told(self) -> None:
        # Two 3/4 elbows take 6 in each on 3 in: radius 4.5 in and 1.5 in straight, from memory.
        for inches, severity in ((3, TIGHT), (10, TIGHT), (13, None)):
            job = entered(f"up 3 emt; right 5; up {inches}in; right 5 k; 48a; 3/4 emt")
            finding = solve(job).finding("fittings:leg-3")
            self.assertEqual(finding and finding.severity, severity, inches)
        close = solve(entered("up 3 emt; right 5; up 10in; right 5 k; 48a; 3/4 emt"))
        quotes = quote_fixes(close, close.finding("fittings:leg-3"))
        self.assertTrue(quotes and quotes[0].mends)

    def test_the_second_of_two_90s_says_how_the_piece_is_turned(self) -> None:
        for onward, says in (("down", "the same way as"), ("up", "the other way from")):
            run = legs(("up", 3, "bend"), ("right", 2, "bend"), (onward, 3, "charger"))
            job = put(
                straight(48, 20), Put("legs", run), Put("legs[leg-1].bend", "hand"), Put("legs[leg-2].bend", "hand")
            )
            design = solve(put(job, *(Put(f"legs[leg-{n}].trade_size", "3/4") for n in (1, 2, 3))))
            one, two = hand_bends(design.line, design.circuit.trade_sizes)
            self.assertEqual(one.piece, two.piece)
            self.assertIn(says, two.marked.marks[-1].says)

    def test_what_does_not_fit_on_the_stick_is_refused(self) -> None:
        for doing in (
            lambda: mark_stub(BOOK.methods["emt"], "3/4", 4 * INCH_M),
            lambda: mark_offset(BOOK.methods["emt"], "3/4", 5 * INCH_M, 6 * INCH_M, 30),
            lambda: mark_saddle3(BOOK.methods["emt"], "3/4", 3 * INCH_M, 2 * INCH_M),
            lambda: mark_stub(BOOK.methods["emt"], "3", 40 * INCH_M),
        ):
            with refused(self, "offset", "saddle", "stub", "trade size"):
                doing()


class Large(unittest.TestCase):
    def test_legs_grow_the_work_in_proportion(self) -> None:
        def job(count: int) -> Job:
            ways = ("right", "up", "right", "down")
            run = tuple(
                Leg(
                    id=f"leg-{n}", direction=ways[n % 4], length_m=1 + n % 3 * 0.2, end="body" if n % 3 == 2 else "bend"
                )
                for n in range(count)
            )
            return straight(48, 20).with_run(legs=run)

        made = solve(job(200))
        self.assertEqual(len(made.line.legs), 200)
        self.assertFalse([f for f in made.findings if f.id.startswith("meets")])
