"""Whatever is typed of the line and the floor is refused in words, or makes a job that can be solved and drawn."""

import math
import random
import unittest

from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.finding import HOLDS
from awlmark.core.job.leg import PLACES
from awlmark.core.job.model import Job
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.place.reach import reaches
from awlmark.core.quantities import FOOT_M
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from awlmark.draw.frame.lane import draw_lane
from awlmark.draw.frame.tape import draw_tape
from awlmark.draw.stages.place_view import draw_place
from awlmark.draw.stages.run_view import draw_run
from awlmark.draw.view_state import Look
from tests.support import LONG

LENGTHS = ("0", "1", "3", "8", "12 6", "16in", "1/2in", "2ft")
METHODS = ("emt", "pvc40", "pvc80", "nm", "uf", "mc", "rmc", "lfmc", "ent", "ser")
ENDS = ("box", "body", "corner", "lb", "elbow", "post", "bend")
WAYS = ("up", "down", "left", "right", "t", "out", "in", "d")
ABOUT_LEGS = (
    "{way} {length} {end}", "{way} {length} {method}", "{way}", "leg {number} {length}", "leg {number} {end}",
    "leg {number} {method}", "leg {number} ambient {degrees}C", "leg {number} place {place}",
    "leg {number} offset {length}", "leg {number} saddle {length} wide {length}", "leg {number} sun",
    "leg {number} slip", "leg {number} fire", "leg {number} layers plaster {length}, stone {length}",
    "leg {number} cover {length}", "leg {number} surface street", "leg {number} mount inside",
    "leg {number} edge {length}", "leg {number} bent hand", "leg {number} sleeve emt", "split {number} at {length}",
    "insert {number} {way} {length}", "round {number} at {length} {way} {length} wide {length}", "reverse {number}",
    "slide {number} {way} {length}", "rub {number}", "open run", "k", "built {number} {length}",
    "site -12C to {degrees}C", "32a", "80a", "14-50", "hardwired",
)  # fmt: skip
ABOUT_THE_FLOOR = (
    "other Duct {length}x{length} at {east} {north} low {length} high {length}", "door Side 3x6in at {east} {north}",
    "room Shop 20x20 at {east} {north}", "bench Vice 6x2 at {east} {north}", "pin A at {east} {north}", "pin A here",
    "pin B here", "bay South at {east} {north} facing {degrees}", "cord 12ft", "cord open",
)  # fmt: skip


def entry(dice: random.Random) -> str:
    pattern = dice.choice(ABOUT_LEGS if dice.random() < 0.7 else ABOUT_THE_FLOOR)
    while "{length}" in pattern:
        pattern = pattern.replace("{length}", dice.choice(LENGTHS), 1)
    return pattern.format(
        way=dice.choice(WAYS), end=dice.choice(ENDS), method=dice.choice(METHODS), number=dice.randint(1, 9),
        degrees=dice.randint(-20, 70), place=dice.choice(PLACES), east=dice.randint(-12, 30),
        north=dice.randint(-20, 10),
    )  # fmt: skip


class AnyWords(unittest.TestCase):
    def drawn(self, job: Job) -> None:
        design = solve(job)
        look = Look(stage="run", at_m=design.line.length_m / 2)
        for picture in (
            draw_run(design, look, 792, 562), draw_place(design, look, (), 792, 562), draw_lane(design, look, 1280),
            draw_tape(design, look, 1280),
        ):  # fmt: skip
            self.assertTrue(all(says for says, _act in picture.answers()))
        open_ones = [finding for finding in design.findings if finding.severity != HOLDS and finding.fixes]
        for finding in open_ones[:2]:
            quote_fixes(design, finding)

    def test_it_is_refused_in_words_or_drawn(self) -> None:
        for seed in range(40 if LONG else 2):
            dice, job, taken = random.Random(seed), demo_job(), 0
            for _ in range(60):
                text = entry(dice)
                with self.subTest(seed=seed, entry=text):
                    try:
                        job = read_entry(text, job).job
                    except InputError as problem:
                        self.assertTrue(problem.field and problem.problem and problem.accepted)
                        continue
                    taken += 1
                    self.drawn(job)
            self.assertGreater(taken, 15)

    def test_a_spot_from_which_no_way_leads_to_one_car(self) -> None:
        # A second car stands over the post of B.
        job = read_entry("bay Over at 87 2 facing 0", demo_job()).job
        ways = [reach.needs_m for reach in reaches(job) if reach.pin == "b"]
        self.assertTrue(any(math.isinf(way) for way in ways) and min(ways) < 20 * FOOT_M)
        self.drawn(job)
        card = next(hit for hit in draw_place(solve(job), Look(), (), 792, 562).hits if hit.id == "end-b")
        self.assertIn("no way leads to one car", card.says)


if __name__ == "__main__":
    unittest.main()
