"""What a job says stays in the words, units and clauses of its own country."""

import re
import unittest
from collections.abc import Iterable

from awlmark.core.begin.ways import shipped
from awlmark.core.job.edit import put
from awlmark.core.job.model import Job
from awlmark.core.run.method_use import method_edits
from awlmark.core.solve.design import solve
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.session import fresh_job
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.frame.loupe import draw_loupe
from awlmark.draw.stages.wire_view import draw_wire
from awlmark.draw.view_state import Look
from tests import said
from tests.core.test_bs_job import yard
from tests.support import entered

WRONG = (
    "earthing tt", "earthing open", "ze open", "pen none", "pen open", "dc open", "rcd ac", "device c40",
    "cut-out open", "bond water open", "bond size open", "ev13", "32a", "own no", "extension yes", "looped yes",
    "main open",
    "cpc 1.5", "leg 2 ambient open", "leg 1 te 102", "leg 4 conduit", "4", "pfc 9", "breaks 6ka",
    "region open", "board plastic", "cord open", "private supply",
)  # fmt: skip
"""Mistakes and facts nobody told, so that what is said of each is read too."""
BEGUN = (
    "", "32a", "32a; up 1; right 5; out 0.3 brick; right 3; down 1; k", "32a; up 1; 63 conduit; right 3; down 1; k",
    "32a; up 1; trunking; right 3; corner; left 2; k", "7.4kw; type2; tt; up 1; swa; out; trench 20; up 1; k",
    "32a; sub-board Forge 40a; on Forge; up 1; right 5; k",
)  # fmt: skip
"""Jobs somewhere on their way."""


def foreign(texts: Iterable[tuple[str, str]], words: re.Pattern[str], sorts: str = "") -> list[str]:
    """Texts with a word of the other country, and where they stand."""
    found = []
    for where, text in texts:
        if where.startswith(("refusal code", "refusal hours")):
            continue  # the names of all rule books; keys of the price book, the same in every country
        words_in = sorted({match[0] for match in words.finditer(said.ALLOWED.sub("", text))})
        if words_in:
            found.append(f"{sorts}{where} {words_in}: {text[:160]}")
    return found


class Said(unittest.TestCase):
    def test_no_american_word_shows_in_a_british_job(self) -> None:
        demo = demo_job(FOUNDRY)
        self.assertEqual(foreign(said.of_words(demo), said.AMERICAN), [])
        self.assertEqual(foreign(said.everything(solve(demo)), said.AMERICAN), [])
        for way in shipped(FOUNDRY):
            design = solve(way.job)
            for texts in (said.of_findings(design), said.of_design(design), said.of_papers(design)):
                self.assertEqual(foreign(texts, said.AMERICAN, way.name), [])

    def test_nor_in_what_is_said_of_mistakes_and_of_what_nobody_told(self) -> None:
        jobs: list[tuple[str, Job]] = [("three phases: ", yard(system="400"))]
        demo = demo_job(FOUNDRY)
        for words in WRONG:
            jobs.append((f"{words}: ", entered(words, demo)))
        for words, job in jobs:
            design = solve(job)
            for texts in (said.of_findings(design), said.of_design(design), said.fixes_of(design)):
                self.assertEqual(foreign(texts, said.AMERICAN, words), [])

    def test_nor_in_a_job_that_is_only_begun(self) -> None:
        for text in BEGUN:
            design = solve(entered(text, fresh_job(FOUNDRY)))
            for texts in (said.of_findings(design), said.of_design(design)):
                self.assertEqual(foreign(texts, said.AMERICAN, text), [])
            for name, picture in said.pictures(design):
                if name.endswith(("lane", "loupe")) or " " not in name:
                    texts = ((name, words) for words in said.of_picture(picture))
                    self.assertEqual(foreign(texts, said.AMERICAN, text), [])

    def test_every_way_to_run_it_draws_what_is_made_and_what_is_not(self) -> None:
        demo = demo_job(FOUNDRY)
        sections = solve(demo).line.sections
        for method in solve(demo).book.methods:
            job = put(demo, *(edit for section in sections for edit in method_edits(section, method)))
            design, look = solve(job), Look(stage="wire", at_m=9.0)
            with self.subTest(method):
                for picture in (draw_wire(design, None, look, 792, 560, ()), draw_lane(design, look, 1280),
                                draw_loupe(design, look, 560)):  # fmt: skip
                    self.assertGreater(len(picture.shapes), 5)
                    texts = (("", words) for words in said.of_picture(picture))
                    self.assertEqual(foreign(texts, said.AMERICAN, method), [])

    def test_no_british_word_shows_in_an_american_job(self) -> None:
        demo = demo_job()
        self.assertEqual(foreign(said.of_words(demo), said.BRITISH), [])
        for job in (demo, *(way.job for way in shipped()[:2])):
            design = solve(job)
            self.assertEqual(foreign(said.everything(design), said.BRITISH), [])
            self.assertEqual(foreign(said.fixes_of(design), said.BRITISH), [])

    def test_the_search_finds_what_it_looks_for(self) -> None:
        self.assertEqual(len(foreign([("a", "Lift the dead front."), ("b", "3 ft"), ("c", "14-50")], said.AMERICAN)), 3)
        self.assertEqual(len(foreign([("a", "Consumer unit"), ("b", "£3"), ("c", "Zs 0.4")], said.BRITISH)), 3)
