"""The bench in the window: probes, switches, practice."""

from __future__ import annotations

import random

from msgspec.structs import replace

from awlmark.desk.session import Session
from awlmark.draw.view_state import Practice


class BenchActs:
    """What a click on the bench does."""

    def __init__(self, session: Session) -> None:
        self.session = session

    def probe(self, point: str) -> None:
        """The probe that was moved longer ago goes to a point; on its own point it comes off."""
        black, red = self.session.look.probes
        if point in (black, red):
            probes = ("" if point == black else black, "" if point == red else red)
        elif not black:
            probes = (point, red)
        elif not red:
            probes = (black, point)
        else:
            probes = (red, point)
        self.session.see(probes=probes)

    def move(self, start: str, end: str) -> None:
        """The probe at one point goes to another; from a point without one, the probe that is free does."""
        probes = self.session.look.probes
        if start not in probes:
            self.probe(end)
            return
        black, red = (end if point == start else "" if point == end else point for point in probes)
        self.session.see(probes=(black, red))

    def switch(self, what: str) -> None:
        """Breaker or charging, on or off, or a note on the bench's own list; with the breaker off nothing charges."""
        look = self.session.look
        if what.startswith("note "):
            what, _, shown = what.removeprefix("note ").partition("|")
            self.session.see(scratch=(*look.scratch, (what, shown))[-20:])
        elif what == "closed":
            self.session.see(bench_closed=not look.bench_closed, bench_amps=False)
        else:
            self.session.see(bench_amps=not look.bench_amps, bench_closed=True)

    def practise(self, what: str) -> None:
        """Begin to practise, take another fault, another level, or go back to the job."""
        from awlmark.core.prove.practice import exercise, load_score

        now = self.session.look.practice
        if what == "off":
            self.session.see(practice=None, probes=("", ""), bench_closed=False, bench_amps=False)
            return
        score = now.score if now else load_score()
        if what == "card":
            self._card(now.exercise.level if now else 0, score)
            return
        level = int(what) if what.isdigit() else now.exercise.level if now else 0
        made = Practice(
            exercise(random.randrange(1_000_000), level, self.session.design.book, self.session.design), score
        )
        self.session.see(
            stage="prove", pencils=False, practice=made, probes=("", ""), bench_closed=False, bench_amps=False
        )

    def _card(self, level: int, score: object) -> None:
        """A card: the demo with one mistake in it, or none."""
        from awlmark.core.prove.practice import card
        from awlmark.data import demo_job

        made = Practice(card(random.randrange(1_000_000), demo_job(self.session.job.code), level), score)
        self.session.see(stage="prove", pencils=False, practice=made)

    def answer(self, key: str) -> None:
        """Conclude; the learner is told why."""
        from awlmark.core.prove.practice import Card, answer, answer_card, save_score

        now = self.session.look.practice
        if now is None or now.answered:
            return
        one = now.exercise
        judge = answer_card if isinstance(one, Card) else answer
        _right, told, score = judge(one, key, now.score)
        self.session.see(practice=replace(now, answered=key, told=told, score=score))
        # Told first: where the score cannot be kept, the answer still stands there, and the reason in the Entry.
        save_score(score)
