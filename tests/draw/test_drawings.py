"""Drawings as display lists: what stands where, at a true scale."""

import itertools
import math
import unittest
import xml.etree.ElementTree as ET

from msgspec.structs import replace

from awlmark.core.circuit.evaluate import size_severity
from awlmark.core.job.edit import Put, put
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.solve.design import beside, solve
from awlmark.core.standing import line_state, stage_mark
from awlmark.data import demo_job
from awlmark.draw.figures.bore import outside_mm, strands
from awlmark.draw.figures.unfold import CUT, WALL, YARD, unfold
from awlmark.draw.frame.ladder import draw_ladder, rungs
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.frame.loupe import draw_loupe
from awlmark.draw.frame.status_strip import draw_sill
from awlmark.draw.frame.tape import TapeScale, draw_tape, scale_of
from awlmark.draw.kit.labels import Labels
from awlmark.draw.kit.packing import pack
from awlmark.draw.kit.picture import Box, Disc, Outline, Picture, Segment, set_width, shorten, text_width, typeset, wrap
from awlmark.draw.kit.severity_marks import NAMES, mark
from awlmark.draw.kit.svg import svg
from awlmark.draw.stages.parts_view import draw_parts
from awlmark.draw.stages.prove_view import draw_prove
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.stages.wire_view import draw_wire
from awlmark.draw.view_state import Look, in_hand, money
from tests.drawn import given, settings, st
from tests.support import design, legs, straight

DEMO = solve(demo_job())


def words(picture: Picture) -> str:
    """All texts of a drawing."""
    return " | ".join(text.text for text in picture.texts())


class Packing(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.lists(st.floats(0.5, 3.0), min_size=1, max_size=8))
    def test_circles_lie_apart_and_inside(self, radii: list[float]) -> None:
        # Fill of 40 % and less always leaves room.
        bore = math.sqrt(sum(radius**2 for radius in radii) / 0.35) + max(radii)
        circles = pack(bore, radii)
        for (x, y, radius), wanted in zip(circles, radii, strict=True):
            self.assertEqual(radius, wanted)
            self.assertLessEqual(math.hypot(x, y) + radius, bore + 1e-6)
        for one, other in itertools.combinations(circles, 2):
            self.assertGreaterEqual(math.hypot(one[0] - other[0], one[1] - other[1]), one[2] + other[2] - 1e-6)

    def test_the_heap_hangs_lowest(self) -> None:
        circles = pack(10, [2, 2, 1])
        self.assertAlmostEqual(sum(x * r * r for x, _y, r in circles), 0, places=6)
        self.assertLess(sum(y * r * r for _x, y, r in circles), 0)
        self.assertEqual(pack(10, []), [])


class Unfolding(unittest.TestCase):
    def line(self, *readings):  # type: ignore[no-untyped-def]
        return solve(straight(48, 10).with_run(legs=legs(*readings))).line

    def test_the_demo_makes_a_wall_a_cut_and_a_yard(self) -> None:
        strips = unfold(DEMO.line)
        self.assertEqual([[panel.kind for panel in strip.panels] for strip in strips], [[WALL, CUT], [YARD]])
        for strip in strips:
            for panel in strip.panels:
                for laid in panel.laid:
                    self.assertAlmostEqual(math.hypot(laid.u2 - laid.u, laid.z2 - laid.z), laid.walked.leg.length_m)

    def test_panels_never_overlap_and_the_line_runs_on(self) -> None:
        way = (
            ("left", 9, "corner"),
            ("left", 4, "corner"),
            ("right", 3, "bend"),
            ("up", 2, "corner"),
            ("left", 5, "charger"),
        )
        for readings in (
            way,
            (("right", 9, "corner"), ("left", 4, "charger")),
            (("up", 2, "bend"), ("out", 1, "body"), ("left", 4, "charger")),
            # A wall that the line only climbs still has its own ground.
            (("right", 9, "corner"), ("up", 4, "corner"), ("right", 4, "charger")),
            (("left", 9, "corner"), ("up", 4, "corner"), ("left", 4, "charger")),
        ):
            for strip in unfold(self.line(*readings)):
                spans = sorted((panel.left, panel.right) for panel in strip.panels)
                for one, other in itertools.pairwise(spans):
                    self.assertLessEqual(one[1], other[0] + 1e-9)
                    self.assertGreater(min(one[1] - one[0], other[1] - other[0]), 0.1)
                for panel in strip.panels:
                    for laid in panel.laid:
                        self.assertTrue(
                            panel.left - 1e-9 <= min(laid.u, laid.u2) <= max(laid.u, laid.u2) <= panel.right + 1e-9
                        )

    def test_going_left_round_a_corner_stays_joined(self) -> None:
        strip = unfold(self.line(("left", 9, "corner"), ("left", 4, "charger")))[0]
        self.assertAlmostEqual(strip.panels[0].laid[-1].u2, strip.panels[1].laid[0].u)


class RunScene(unittest.TestCase):
    def test_legs_are_drawn_at_one_true_scale_a_strip(self) -> None:
        picture = draw_run(DEMO, Look(), 792, 562)
        strokes = [s for s in picture.shapes if isinstance(s, Segment) and s.width == 3.0 and s.role == "scribe"]
        walls = [s for s in strokes if s.y > 184 and s.y2 < 480]
        lengths = {round(abs(s.x2 - s.x) + abs(s.y2 - s.y), 1) for s in walls}
        self.assertTrue(any(abs(one / other - 22 / 3) < 0.02 for one in lengths for other in lengths))

    def test_every_leg_answers_and_speaks(self) -> None:
        picture = draw_run(DEMO, Look(), 792, 562)
        for leg in DEMO.job.legs:
            self.assertTrue(
                any(hit.id == leg.id and hit.act.startswith(("awl:", "leg:")) for hit in picture.hits), leg.id
            )
        for said in ("Walls, unfolded", "Yard, cut through", "Body", "Charger", "of cover", "of stone"):
            self.assertIn(said, words(picture))

    def test_an_open_end_can_be_pulled_and_an_empty_tape_asks(self) -> None:
        opened = solve(put(demo_job(), Put("legs[leg-6].end", "bend")))
        picture = draw_run(opened, Look(), 792, 562)
        self.assertTrue(any(hit.act == "pull" for hit in picture.hits))
        self.assertGreater(picture.pixels_per_m, 0)
        empty = draw_run(solve(demo_job().with_run(legs=())), Look(), 792, 562)
        self.assertIn("Where does the line leave the panel?", words(empty))
        self.assertEqual({hit.act for hit in empty.hits}, {f"type:{way} " for way in ("up", "down", "left", "right")})

    def test_a_stop_is_marked_at_its_place(self) -> None:
        broken = solve(put(demo_job(), *(Put(f"legs[leg-{n}].trade_size", "1/2") for n in (4, 5, 6))))
        at = broken.finding("fill:2").at_m
        self.assertAlmostEqual(at, DEMO.line.sections[1].start_m)
        for picture in (draw_run(broken, Look(), 792, 562), draw_tape(broken, Look(), 1280)):
            self.assertTrue(any(hit.act == "select:fill:2" for hit in picture.hits))


class Tape(unittest.TestCase):
    def test_marks_stand_at_their_feet(self) -> None:
        picture, scale = draw_tape(DEMO, Look(), 1280), scale_of(DEMO, 1280)
        for walked in DEMO.line.legs:
            hit = next(hit for hit in picture.hits if hit.id == walked.leg.id)
            self.assertAlmostEqual(hit.x + hit.w / 2, scale.x(walked.end_m))
        self.assertEqual((scale.x(0), scale.x(DEMO.line.length_m)), (180, 1160))

    @given(st.floats(0, 1))
    def test_scale_reads_back(self, share: float) -> None:
        scale = TapeScale(30.0, 1280)
        self.assertAlmostEqual(scale.at_m(scale.x(share * 30)), share * 30, places=9)
        self.assertEqual(scale.at_m(-50), 0)

    def test_the_line_breaks_by_six_pixels(self) -> None:
        broken = design(48, 40, method="nm", circuit__size="6")
        gaps = [
            s for s in draw_tape(broken, Look(), 1280).shapes if isinstance(s, Box) and s.w == 6 and s.fill == "ground"
        ]
        self.assertEqual(len(gaps), len([stop for stop in broken.stops if stop.at_m is not None]))


class Ladder(unittest.TestCase):
    def test_nine_ratings_around_the_need(self) -> None:
        self.assertEqual(rungs(DEMO), [25, 30, 35, 40, 45, 50, 60, 70, 80])
        self.assertEqual(len(rungs(design(12, 20))), 9)
        self.assertEqual(len(rungs(design(200, 20))), 9)
        past = design(48, 20, circuit__breaker_a=100.0, circuit__size="6")
        self.assertEqual((rungs(past)[-1], rungs(past)[0] < 60), (100, True))
        told = {hit.id: hit.sentence for hit in draw_ladder(past, 562).hits}
        self.assertIn("breaker 100", told["breaker"])

    def test_chain_is_written(self) -> None:
        said = words(draw_ladder(DEMO, 562))
        for told in ("Service 150 A", "need 60", "set 48", "breaker 60", "6 AWG 65", "× 1.25"):
            self.assertIn(told, said)
        self.assertIn("need ?", words(draw_ladder(solve(straight(None, 20)), 562)))
        self.assertIn("14-50", words(draw_ladder(design(32, 20, charger__connection="14-50"), 562)))

    def test_what_falls_short_stands_under_the_need(self) -> None:
        picture = draw_ladder(design(48, 40, method="nm", circuit__size="6"), 562)
        level = {text.text: text.y for text in picture.texts()}
        self.assertGreater(level["6 AWG 55"], level["need 60"])


class LoupeAndLane(unittest.TestCase):
    def test_bores_are_true_to_each_other(self) -> None:
        picture = draw_loupe(DEMO, Look(at_m=20.0, pixels_per_mm=4.0), 562)
        radii = [shape.r for shape in picture.shapes if isinstance(shape, Disc)]
        book, method = DEMO.book, DEMO.line.sections[1].method
        self.assertTrue(any(abs(r - outside_mm(book, method, "3/4") * 2) < 1e-6 for r in radii))
        self.assertTrue(any(abs(r - strands(DEMO)[0].diameter_mm * 2) < 1e-6 for r in radii))
        self.assertIn("true size", words(picture))
        self.assertIn("not to size", words(draw_loupe(DEMO, Look(), 562)))

    def test_the_slip_shows_found_needed_sum_clause_and_fixes(self) -> None:
        broken = design(48, 40, method="nm", circuit__size="6")
        finding = in_hand(broken, Look())
        look = Look(quotes=quote_fixes(broken, finding))
        picture = draw_loupe(broken, look, 562)
        said = words(picture)
        for told in ("Stop", "found 55 A", "at least 60", "48 A × 1.25 = 60 A", "NEC 2023 334.80"):
            self.assertIn(told, said)
        self.assertEqual([hit.act for hit in picture.hits if hit.act.startswith("fix")], ["fix:0", "fix:1", "fix:2"])

    def test_the_finding_in_hand(self) -> None:
        self.assertEqual(in_hand(DEMO, Look(finding="drop")).id, "drop")
        self.assertEqual(in_hand(DEMO, Look(finding="gone")).severity, "holds")
        self.assertIsNone(in_hand(replace_findings(DEMO), Look()))

    def test_lanes(self) -> None:
        self.assertIn("180°", words(draw_lane(DEMO, Look(stage="run"), 1280)))
        volts = words(draw_lane(DEMO, Look(stage="wire", at_m=DEMO.line.length_m), 1280))
        self.assertIn("6 Cu 235.3", volts)
        self.assertIn("235.3 V here", volts)
        for mandatory, how in ((False, "tight"), (True, "stop")):
            made = design(48, 400, circuit__size="6", local__drop_mandatory=mandatory)
            lane = draw_lane(made, Look(stage="wire"), 1280)
            told = {hit.id: str(hit.sentence) for hit in lane.hits}
            self.assertEqual(made.mark("drop"), how)
            self.assertTrue(told[f"volts-{made.book.size_index('6')}"].endswith(NAMES[how]))
            self.assertIn(how, {text.role for text in lane.texts() if text.text.startswith("6 Cu")})
        self.assertIn("11 sticks", words(draw_lane(DEMO, Look(stage="parts"), 1280)))
        self.assertIn("Nothing scribed", words(draw_lane(solve(demo_job().with_run(legs=())), Look(), 1280)))


class WireAndParts(unittest.TestCase):
    def test_copper_beside_aluminium(self) -> None:
        other = beside(DEMO)
        said = words(draw_wire(DEMO, other, Look(stage="wire"), 792, 562))
        self.assertIn("Copper, 2 × 6 + 1 × 10 AWG", said)
        self.assertIn("Aluminium, 2 × 4 + 1 × 8 AWG", said)
        self.assertIn("65 A, 5 to spare", said)
        self.assertIn("50 A, 10 short", said)

    def test_cable_has_no_aluminium_beside_it(self) -> None:
        cable = design(32, 40, method="nm")
        self.assertIsNone(beside(cable))
        said = words(draw_wire(cable, None, Look(stage="wire"), 792, 562))
        self.assertIn("Aluminium: not offered here", said)
        for told in ("10/2: 30 A", "8/2: 40 A", "6/2: 55 A"):
            self.assertIn(told, said)

    def test_a_size_is_marked_by_its_heat_and_its_breaker_too(self) -> None:
        # 6/2 at 60 C: terminals carry 55 A, 70 C air leaves 75 A x 0.58 = 43.5 A of the same size (Table 310.15(B)(1)).
        look = Look(stage="wire")
        hot = design(44, 20, method="nm", circuit__size="6", **{"legs[leg-1].ambient_c": 70.0})
        told = {hit.id: hit.sentence for hit in draw_wire(hot, None, look, 792, 562).hits}
        self.assertEqual(hot.mark("conductor"), "holds")
        self.assertEqual(hot.mark("heat"), "stop")
        self.assertIn(NAMES["stop"], told["cable-6"])
        past = design(48, 20, circuit__size="6", circuit__breaker_a=100.0)
        self.assertEqual((past.mark("conductor", "heat"), past.mark("protection")), ("holds", "stop"))
        self.assertIn("65 A, at most 70", words(draw_wire(past, beside(past), look, 792, 562)))

    def test_the_scene_marks_the_chosen_row_as_the_findings_do(self) -> None:
        seen = set()
        for charge, size, air, trade in itertools.product(
            (16, 32, 48, 80), (None, "10", "6", "2"), (20.0, 40.0, 65.0), (None, "1/2", "3/4", "1")
        ):
            edits = {"legs[leg-1].ambient_c": air, "legs[leg-1].trade_size": trade}
            made = design(charge, 30, method="emt", circuit__size=size, **edits)
            table, row = made.evaluated.table, made.row
            group, hot = int(table.group[row]), int(table.hot[row])
            mark_of = size_severity(made.evaluated, group, hot)
            self.assertEqual(mark_of, made.mark("conductor", "heat", "protection"))
            at = made.book.trade_sizes.index(made.circuit.trade_sizes[0] or "4")
            judged = made.book.circuit.bore(table, made.evaluated.work, row, 0, at)
            assert judged is not None
            bore = judged.severity
            self.assertEqual(bore, made.mark("fill:1", "jam:1"), (charge, size, air, trade))
            seen |= {("size", mark_of), ("bore", bore)}
        # A size within 5 % of the charge is past what its breaker may protect, so none is merely tight.
        both = {(kind, how) for kind in ("size", "bore") for how in ("holds", "stop")}
        self.assertEqual(seen, both | {("bore", "tight")})

    def test_the_jam_window_is_shown_for_three_equal(self) -> None:
        made = design(48, 40, method="pvc40", circuit__ground_size="6")
        self.assertIn("jam 3.17", words(draw_wire(made, beside(made), Look(stage="wire"), 792, 562)))

    def test_a_wire_that_runs_away_is_drawn_up_to_where_the_model_ends(self) -> None:
        made = design(80, 40, method="emt", circuit__size="14")
        picture = draw_prove(made, Look(stage="prove"), 792, 562)
        self.assertLess(len(picture.shapes), 2000)
        self.assertIn("300 °C", words(picture).replace("572 °F", "300 °C"))

    def test_sticks_and_conductors(self) -> None:
        said = words(draw_parts(DEMO, Look(stage="parts"), 792, 360))
        for told in ("Sticks of 10 ft", "leg 1, ", "left over ", "6 AWG black", "6 AWG red", "10 AWG green", "cut "):
            self.assertIn(told, said)
        self.assertIn("follows the line", words(draw_parts(solve(straight(None, 20)), Look(stage="parts"), 792, 330)))


class SillAndState(unittest.TestCase):
    def test_state_of_the_line(self) -> None:
        self.assertEqual(line_state(DEMO), ("holds", "Line holds"))
        self.assertEqual(line_state(solve(demo_job().with_run(legs=()))), ("unread", "Nothing scribed"))
        self.assertEqual(line_state(design(48, 40, method="nm", circuit__size="6"))[0], "stop")
        self.assertTrue(line_state(solve(put(demo_job(), Put("legs[leg-6].end", "bend"))))[1].startswith("Open at"))
        self.assertEqual(line_state(design(48, 20, place="attic"))[1], "Unread values")

    def test_marks_of_stages_and_money(self) -> None:
        self.assertEqual([stage_mark(DEMO, stage) for stage in ("run", "wire", "parts")], ["holds"] * 3)
        self.assertEqual(stage_mark(design(48, 20), "parts"), "unread")
        self.assertTrue(money(design(48, 20)).startswith("from "))
        self.assertIn("Broken", words(draw_sill(design(48, 40, method="nm", circuit__size="6"), Look(), 1280)))


class Lettering(unittest.TestCase):
    def test_lengths_take_the_drawing_face(self) -> None:
        pieces = typeset("cut 12' 6 5/8\" at the wall")
        self.assertEqual(
            [(text, face) for text, face, _size in pieces],
            [("cut ", "text"), ("12′ 6⅝″", "draw"), (" at the wall", "text")],
        )

    def test_lines_break_at_spaces_but_not_inside_a_length_or_before_a_unit(self) -> None:
        lines = wrap("5.7 V of 240 V stay in the wire over 120' 0\": 2.36 %, leaving 234.3 V.", "text", 15, 120)
        self.assertEqual(" ".join(lines), "5.7 V of 240 V stay in the wire over 120' 0\": 2.36 %, leaving 234.3 V.")
        for line in lines:
            self.assertLessEqual(set_width(line, "text", 15), 120)
            self.assertNotRegex(line, r"^(V|%|A)\b")

    def test_shortening(self) -> None:
        text = shorten("A long name for a cider yard", "bold", 15, 90)
        self.assertTrue(text.endswith("…"))
        self.assertLessEqual(text_width(text, "bold", 15), 90)
        self.assertEqual(shorten("Yard", "bold", 15, 90), "Yard")

    def test_labels_keep_apart_and_inside(self) -> None:
        labels = Labels(Picture(100, 40), 0, 0, 100, 40)
        self.assertTrue(labels.put("one", [(10, 20, "start")]))
        self.assertFalse(labels.put("two", [(12, 22, "start")]))
        self.assertFalse(labels.put("far too long for it", [(10, 35, "start")]))
        self.assertTrue(labels.put("two", [(12, 22, "start"), (60, 20, "start")]))

    def test_marks_differ_in_shape(self) -> None:
        kinds = set()
        for severity in NAMES:
            picture = Picture(20, 20)
            mark(picture, severity, 10, 10)
            kinds.add(tuple((type(shape).__name__, getattr(shape, "dash", False)) for shape in picture.shapes))
        self.assertEqual(len(kinds), len(NAMES))


class Svg(unittest.TestCase):
    def test_every_shape_is_written_and_escaped(self) -> None:
        picture = Picture(100, 50)
        picture.line(0, 0, 5, 5, dash=True)
        picture.box(1, 1, 5, 5, "ink", fill="sheet", hatch="slant")
        picture.disc(5, 5, 3, fill="copper")
        picture.sweep(5, 5, 3, 225, 90, "ink", 2)
        picture.path([(0, 0), (1, 1)], "ink")
        picture.path([(0, 0), (1, 1), (2, 0)], fill="ink", closed=True)
        picture.text(1, 1, "<5 & 'six\"", face="draw")
        root = ET.fromstring(svg(picture, "A & B").encode())
        kinds = [child.tag.partition("}")[2] for child in root]
        for kind in ("line", "rect", "circle", "path", "polyline", "polygon", "text"):
            self.assertIn(kind, kinds)
        self.assertEqual(root[0].text, "A & B")
        self.assertTrue(any(isinstance(shape, Outline) for shape in picture.shapes))

    def test_the_same_job_gives_the_same_bytes(self) -> None:
        one, other = (svg(draw_run(solve(demo_job()), Look(), 1280, 800), "walls") for _ in range(2))
        self.assertEqual(one, other)


def replace_findings(made):  # type: ignore[no-untyped-def]
    """A design without findings."""
    return replace(made, findings=())
