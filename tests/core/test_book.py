"""What a book is to the rest: asked, never known. A toy book solves, lists, steps, prints and draws."""

import ast
import io
import re
import tokenize
import unittest
from pathlib import Path

from msgspec.structs import replace

from awlmark import core
from awlmark.core.books import open_book
from awlmark.core.build.steps import hours_of, next_step, steps_of
from awlmark.core.build.torque import dials_of
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import Charger, Job, new_job
from awlmark.core.job.supply import Supply
from awlmark.core.prove.test import tests_of
from awlmark.core.report import circuit_text, job_values
from awlmark.core.solve.design import Design, solve
from awlmark.core.standing import stage_mark
from tests.toy_book import on_the_shelf

FOLDER = Path(core.__file__).parent
CLAUSE = re.compile(r"\b[1-9]\d\d\.\d+(?! V)|\bArticles? \d|\bTable \d\d\d|\bAnnex [A-Z]|\bChapter 9\b")
DRAWN = ("need", "panel", "place", "run", "wire", "parts", "build", "prove")


def toy_job(code: str, charge: float = 30.0, method: str | None = None) -> Job:
    """A run of three legs under the toy book."""
    legs = (
        Leg(id="leg-1", direction="up", length_m=1.0, method=method),
        Leg(id="leg-2", direction="right", length_m=7.5, end="box"),
        Leg(id="leg-3", direction="down", length_m=1.2, end="charger"),
    )
    job = replace(new_job("Net loft, east slip"), code=code, units="m", currency="£")
    return replace(job.with_run(legs=legs, charger=Charger(nameplate_a=charge)), supply=Supply(system="230"))


class Toy(unittest.TestCase):
    def setUp(self) -> None:
        self.code = self.enterContext(on_the_shelf())

    def solved(self, charge: float = 30.0, method: str | None = None) -> Design:
        return solve(toy_job(self.code, charge, method))

    def test_it_solves(self) -> None:
        for charge, size, breaker in ((10, "S", 16), (30, "M", 32), (60, "L", 63)):
            circuit = self.solved(charge).circuit
            assert circuit is not None
            self.assertEqual((circuit.size, circuit.breaker_a, circuit.hots, circuit.volts), (size, breaker, 1, 230))
        broken = self.solved(90)
        self.assertEqual(broken.verdict, "stop")
        self.assertEqual({one.id for one in broken.stops}, {"breaker", "carries"})
        self.assertEqual(broken.finding("carries").cite, "Toy 1 two")  # type: ignore[union-attr]
        cited = {finding.cite for finding in self.solved().findings}
        self.assertFalse({cite for cite in cited if CLAUSE.search(cite)})

    def test_it_lists(self) -> None:
        parts = {(part.key, part.name.partition(", ")[2]): part.quantity for part in self.solved().parts}
        colours = {detail for (key, detail) in parts if key.startswith("wire:")}
        self.assertEqual(colours, {"brown", "blue", "green"})
        self.assertEqual(parts["stick:pipe:20", ""], 4)
        self.assertEqual(parts["mcb:32", ""], 1)
        self.assertEqual(parts["box:joint box", ""], 1)
        cable = {part.key for part in self.solved(method="flat").parts}
        self.assertIn("cable:flat:cu:M:2", cable)

    def test_it_has_steps_screws_and_tests(self) -> None:
        design = self.solved()
        self.assertEqual(steps_of(design)[0].id, "off")
        self.assertEqual(next_step(design), steps_of(design)[0])
        self.assertTrue(hours_of(design))
        self.assertEqual({dial.wire for dial in dials_of(design)}, {"L", "N", "E"})
        self.assertEqual([test.expected for test in tests_of(design)], [230.0])
        self.assertEqual({stage_mark(design, stage) for stage in DRAWN} - {"holds", "note", "unread", "tight"}, set())

    def test_it_prints(self) -> None:
        from awlmark.export import parts_csv
        from awlmark.paper.packet import packet_pages

        design = self.solved()
        words = " ".join(text.text for page in packet_pages(design) for text in page.texts())
        for wanted in ("Toy 1", "M toys"):
            self.assertIn(wanted, words)
        self.assertFalse(re.findall(r"\bAWG\b|\bNEC\b", words))
        self.assertIn("stick:pipe:20", parts_csv(design))
        self.assertIn("M toys", " ".join(circuit_text(design)))
        self.assertEqual(job_values(design)["verdict"], design.said)

    def test_it_draws(self) -> None:
        from awlmark.draw.frame.ladder import draw_ladder
        from awlmark.draw.frame.lane import draw_lane
        from awlmark.draw.frame.loupe import draw_loupe
        from awlmark.draw.frame.status_strip import draw_sill
        from awlmark.draw.frame.tape import draw_tape
        from awlmark.draw.stages.build_view import draw_build
        from awlmark.draw.stages.need_view import draw_need
        from awlmark.draw.stages.panel_view import draw_panel
        from awlmark.draw.stages.parts_view import draw_parts
        from awlmark.draw.stages.place_view import draw_place
        from awlmark.draw.stages.prove_view import draw_prove
        from awlmark.draw.stages.run_view import draw_run
        from awlmark.draw.stages.wire_view import draw_wire
        from awlmark.draw.view_state import Look

        size = 800.0, 600.0
        scenes = {
            "need": draw_need, "panel": draw_panel, "run": draw_run, "parts": draw_parts, "build": draw_build,
            "prove": draw_prove,
            "place": lambda design, look, *size: draw_place(design, look, (), *size),
            "wire": lambda design, look, *size: draw_wire(design, None, look, *size),
        }  # fmt: skip
        for design in (self.solved(), self.solved(method="flat"), self.solved(90)):
            for stage, draw in scenes.items():
                look = Look(stage=stage)
                drawings = [draw_lane(design, look, 1200), draw_loupe(design, look, 500), draw_tape(design, look, 1200)]
                drawings += [draw_sill(design, look, 1200), draw_ladder(design, 500), draw(design, look, *size)]
                words = " ".join(text.text for picture in drawings for text in picture.texts())
                self.assertFalse(re.findall(r"\bAWG\b|\bNEC\b|\b120 V\b", words), stage)


class Clauses(unittest.TestCase):
    def test_every_rule_that_is_cited_has_a_clause(self) -> None:
        books = {"nec": open_book("nec-2023"), "bs7671": open_book("bs7671-2018a2")}
        cited: dict[str, set[str]] = {name: set() for name in books}
        for path in FOLDER.rglob("*.py"):
            own = next((name for name in books if FOLDER / "books" / name in path.parents), "nec")
            for match in re.finditer(r"\b(?:cite|clause|clause_of)\(\"(\w+)\"", path.read_text(encoding="utf-8")):
                cited[own].add(match[1])
        self.assertGreater(len(cited["nec"]), 100)
        self.assertGreater(len(cited["bs7671"]), 10)
        for name, book in books.items():
            self.assertEqual(cited[name] - set(book.clauses), set(), name)

    def test_no_clause_stands_in_code(self) -> None:
        """Sentences get theirs from the book; only the book's own modules name their sources in comments."""
        for path in sorted(FOLDER.rglob("*.py")):
            source = path.read_text(encoding="utf-8")
            tree = ast.parse(source)
            told = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
            for node in ast.walk(tree):
                if isinstance(node, ast.Constant) and isinstance(node.value, str) and CLAUSE.search(node.value):
                    own = FOLDER / "books" in path.parents and id(node) in told
                    self.assertTrue(own, f"{path.name}:{node.lineno}: {node.value[:60]}")
            if FOLDER / "books" not in path.parents:
                for token in tokenize.generate_tokens(io.StringIO(source).readline):
                    if token.type == tokenize.COMMENT:
                        self.assertIsNone(CLAUSE.search(token.string), f"{path.name}: {token.string}")

    def test_no_formula_compares_editions_by_name(self) -> None:
        for path in FOLDER.rglob("*.py"):
            tree = ast.parse(path.read_text(encoding="utf-8"))
            told = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
            for node in ast.walk(tree):
                named = isinstance(node, ast.Constant) and re.match(r"nec-20", str(node.value)) and id(node) not in told
                self.assertFalse(named and path.name != "shelf.py", f"{path.name}:{getattr(node, 'lineno', 0)}")
