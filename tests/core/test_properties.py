"""What must hold for every job."""

import re
import unittest

from awlmark.core.books.nec.sizing.opening import CONNECTIONS
from awlmark.core.circuit.case import drop_limit, open_case, span
from awlmark.core.circuit.evaluate import evaluate
from awlmark.core.errors import InputError
from awlmark.core.finding import UNREAD
from awlmark.core.job.edit import Put, put
from awlmark.core.job.model import Job
from awlmark.core.solve.design import solve
from tests.drawn import assume, given, settings, st
from tests.support import LONG, straight

EXAMPLES = settings(max_examples=300 if LONG else 60, deadline=None)
CHARGES = st.sampled_from([8.0, 12.0, 16.0, 24.0, 32.0, 40.0, 48.0, 64.0, 80.0])
METHODS = st.sampled_from(["emt", "pvc40", "pvc80", "rmc", "nm", "mc", "uf", "lfmc", "fmc", "ser"])
AMBIENTS = st.integers(-10, 80).map(float)


@st.composite
def straight_jobs(draw: st.DrawFn) -> Job:
    """A straight job with some decisions pinned."""
    job = straight(
        draw(CHARGES),
        draw(st.integers(1, 400)),
        method=draw(METHODS),
        charger__connection=draw(st.sampled_from(CONNECTIONS)),
    )
    job = put(
        job,
        Put("legs[leg-1].ambient_c", draw(AMBIENTS)),
        Put("code", draw(st.sampled_from(["nec-2017", "nec-2020", "nec-2023"]))),
    )
    pins = {
        "circuit.size": [None, None, "10", "6", "2"],
        "circuit.ground_size": [None, None, None, "10", "6"],
        "circuit.breaker_a": [None, None, 40.0, 60.0],
        "charger.terminal_c": [None, 60, 75],
        "circuit.material": [None, "cu", "al"],
        "circuit.extra_ccc": [0, 0, 2, 6],
    }
    return put(job, *(Put(path, draw(st.sampled_from(values))) for path, values in pins.items()))


class Properties(unittest.TestCase):
    @EXAMPLES
    @given(straight_jobs(), st.integers(1, 200))
    def test_a_longer_run_never_gets_a_smaller_wire_or_less_drop(self, job: Job, more: int) -> None:
        job = put(job, Put("circuit.size", None), Put("circuit.ground_size", None))
        try:
            short = solve(job)
        except InputError:
            assume(False)
        # A nipple is free of bundling, so a longer run may only be compared beyond it; and once no size meets the limit
        # the least loss is taken, whatever its size.
        assume(not short.line.sections[0].nipple and short.circuit.drop_percent <= 3)
        long = solve(put(job, Put("legs[leg-1].length_m", job.legs[0].length_m + more * 0.3)))
        assume(long.circuit.drop_percent <= 3 and len(long.stops) == len(short.stops))
        sizes = short.book.sizes
        self.assertGreaterEqual(sizes.index(long.circuit.size), sizes.index(short.circuit.size))
        same = solve(
            put(
                job,
                Put("circuit.size", short.circuit.size),
                Put("legs[leg-1].length_m", job.legs[0].length_m + more * 0.3),
            )
        )
        self.assertGreater(same.circuit.drop_v, short.circuit.drop_v)

    @EXAMPLES
    @given(straight_jobs(), AMBIENTS)
    def test_a_hotter_place_never_carries_more(self, job: Job, celsius: float) -> None:
        job = put(job, Put("circuit.size", "6"))
        try:
            cool, hot = sorted((job.legs[0].ambient_c or 0.0, celsius))
            one, other = (solve(put(job, Put("legs[leg-1].ambient_c", at))) for at in (cool, hot))
        except InputError:
            assume(False)
        self.assertLessEqual(other.finding("heat").found, one.finding("heat").found)
        self.assertLessEqual(other.circuit.usable_a, one.circuit.usable_a)

    @EXAMPLES
    @given(straight_jobs())
    def test_never_a_design_with_a_stop_while_one_without_exists(self, job: Job) -> None:
        try:
            made = solve(job)
            seen = evaluate(span(open_case(job, made.book, made.line)))
        except InputError:
            assume(False)
        if seen.stops[made.row] == 0:
            return
        # While the size is open the drop limit binds: only rows that meet it compete.
        meets = seen.drop_v / made.circuit.volts * 100 <= drop_limit(seen.table.case) + 1e-9
        rivals = (seen.stops == 0) & (meets if job.circuit.size is None and meets.any() else True)
        self.assertFalse(rivals.any())

    @EXAMPLES
    @given(straight_jobs())
    def test_pinning_what_the_solver_chose_changes_nothing(self, job: Job) -> None:
        try:
            made = solve(job)
        except InputError:
            assume(False)
        circuit = made.circuit
        assume(circuit.breaker_a != float("inf") and circuit.ground)
        pinned = solve(
            put(
                job,
                Put("circuit.size", circuit.size),
                Put("circuit.breaker_a", circuit.breaker_a),
                Put("circuit.ground_size", circuit.ground),
            )
        )
        self.assertEqual(pinned.circuit, circuit)
        told, before = ({f.id: f.severity for f in design.findings} for design in (pinned, made))
        if before["ground"] == UNREAD:
            # A cable whose ground no table is sure of: who pins it has read it.
            del told["ground"], before["ground"]
        self.assertEqual(told, before)

    @EXAMPLES
    @given(straight_jobs())
    def test_findings_speak_plainly(self, job: Job) -> None:
        try:
            made = solve(job)
        except InputError:
            assume(False)
        for finding in made.findings:
            self.assertLessEqual(len(finding.text.split()), 26, finding.text)
            said = set(re.findall(r"[a-z]+", finding.text.lower()))
            self.assertFalse(said & {"invalid", "error", "please", "safe", "legal", "nan", "inf"}, finding.text)
            self.assertTrue(finding.cite.startswith(("NEC", "common practice")), finding.id)
