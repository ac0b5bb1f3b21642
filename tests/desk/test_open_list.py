"""The list of what is open: counter, arrows, scope, bars, notes that were seen, fixes with two marks."""

from awlmark.core.begin.ways import begin, shipped
from awlmark.core.entry.read import read_entry
from awlmark.core.finding import HOLDS, NOTE, RANK, UNREAD, Finding
from awlmark.core.job.file import dumps, loads
from awlmark.core.options.fixes import quote_fixes
from awlmark.core.solve.design import solve
from awlmark.core.standing import closest_first, distance, seen_by
from awlmark.data import demo_job
from awlmark.draw.frame.open_list import listed
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import in_hand
from tests.desk.support import DeskCase


def words(picture: Picture) -> str:
    return " ".join(text.text for text in picture.texts())


def way(number: int):  # type: ignore[no-untyped-def]
    job = shipped()[number].job
    assert job is not None
    return begin(job)


class OpenList(DeskCase):
    def test_it_counts_what_is_open_and_the_arrows_go_through_all_of_it(self) -> None:
        window = self.open(way(4))
        session, canvas = window.session, window.loupe.canvas
        open_ones, held = listed(session.design, session.look)
        self.assertEqual(len(open_ones) + len(held), len(session.design.findings))
        self.assertTrue(all(finding in open_ones for finding in session.design.not_asked))
        self.assertIn(f"{len(open_ones)} open", words(canvas.picture))
        self.assertIn(f"{len(held)} hold", words(canvas.picture))
        met = []
        for _ in range(len(open_ones) + len(held)):
            finding = in_hand(session.design, session.look)
            assert finding is not None
            met.append(finding.id)
            self.click(canvas, "list:1")
        self.assertEqual(met, [finding.id for finding in (*open_ones, *held)])
        ranks = [RANK[finding.severity] for finding in open_ones]
        self.assertEqual(ranks, sorted(ranks))
        self.click(canvas, "list:-1")
        finding = in_hand(session.design, session.look)
        self.assertEqual(finding and finding.id, met[-1])

    def test_a_row_unfolds_and_the_scope_narrows_it_to_the_stage(self) -> None:
        window = self.open(way(4))
        window.session.see(stage="panel")
        row = next(hit for hit in window.loupe.canvas.picture.hits if hit.id.startswith("row-"))
        self.click(window.loupe.canvas, row.id)
        self.assertEqual(window.session.look.finding, row.id.removeprefix("row-"))
        self.click(window.loupe.canvas, "scope-Panel")
        open_ones, held = listed(window.session.design, window.session.look)
        self.assertEqual({finding.stage for finding in (*open_ones, *held)}, {"panel"})
        finding = in_hand(window.session.design, window.session.look)
        self.assertEqual(finding and finding.stage, "panel")
        self.click(window.sill.canvas, "line")
        self.assertTrue(window.session.look.all_stages)

    def test_what_holds_is_folded_away_closest_first_and_can_be_read(self) -> None:
        window = self.open(demo_job())
        before = len([hit for hit in window.loupe.canvas.picture.hits if hit.id.startswith("row-")])
        self.click(window.loupe.canvas, "fold")
        rows = [hit for hit in window.loupe.canvas.picture.hits if hit.id.startswith("row-")]
        self.assertGreaterEqual(len(rows), before)
        _open, held = listed(window.session.design, window.session.look)
        self.assertEqual(held, closest_first(held))

    def test_a_note_is_seen_kept_and_printed_until_it_says_something_else(self) -> None:
        job = read_entry("breaker 45", demo_job()).job
        window = self.open(job)
        note = next(one for one in window.session.design.findings if one.severity == NOTE and not one.ask)
        window.session.see(finding=note.id)
        self.settle()
        self.click(window.loupe.canvas, "seen")
        self.assertEqual(window.entry.line.text(), "saw ")
        self.type(window, "R. Vale")
        found = window.session.design.finding(note.id)
        assert found is not None
        self.assertEqual(seen_by(window.session.job, found), "R. Vale")
        self.assertNotIn(found, listed(window.session.design, window.session.look)[0])
        again = loads(dumps(window.session.job))
        self.assertEqual(seen_by(again, found), "R. Vale")
        other = Finding(found.id, NOTE, found.title, "It says more now.", found.cite)
        self.assertEqual(seen_by(again, other), "")

    def test_a_fix_shows_its_own_mark_and_the_lines_in_words(self) -> None:
        design = solve(read_entry("breaker 45", demo_job()).job)
        quotes = quote_fixes(design, design.findings[0])
        self.assertEqual((quotes[0].own, quotes[0].worst), (HOLDS, HOLDS))
        self.assertEqual((quotes[1].own, quotes[1].worst, quotes[1].count > 0), (HOLDS, UNREAD, True))
        window = self.open(design.job)
        told = words(window.loupe.canvas.picture)
        for part in ("this holds", "line: all holds", "line: 1 unread"):
            self.assertIn(part, told)

    def test_distances_are_said_in_words(self) -> None:
        def one(found: float | None, needed: float | None, sense: str, unit: str, severity: str = HOLDS) -> str:
            return distance(Finding("a", severity, "A", "a.", "", found, needed, unit, sense))

        self.assertEqual(one(65, 60, "least", "A"), "5 A to spare")
        self.assertEqual(one(45, 60, "least", "A"), "15 A short")
        self.assertEqual(one(40.3, 40, "most", "%"), "0.3% over")
        self.assertEqual(one(60, 60, "least", "A"), "just enough")
        self.assertEqual(one(None, None, "least", "", UNREAD), "not read")
