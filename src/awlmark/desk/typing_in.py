"""What happens while something is typed: echo, suggestions, preview, chips; on the start sheet and in the walk too."""

from __future__ import annotations

from awlmark.core.errors import InputError
from awlmark.core.finding import NOTE, UNREAD
from awlmark.desk.commands import Acts
from awlmark.desk.entry import EntryBar
from awlmark.desk.mouse.drag import Pull
from awlmark.desk.offers import Offers
from awlmark.desk.region import Region
from awlmark.desk.scenes import Scenes
from awlmark.desk.session import Session
from awlmark.desk.start_sheet import StartSheet, Walking
from awlmark.draw.frame import lane, loupe
from awlmark.draw.frame.suggestions import draw_suggestions
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import in_hand

LANE_FOLDS_BELOW = 720
"""In a window lower than this the lane gives its room to the scene, save for suggestions [px]."""


class Typing:
    """Mixed into the window. A plain class: Qt's classes do not share a child."""

    session: Session
    entry: EntryBar
    acts: Acts
    scenes: Scenes
    offers: Offers
    sheet: StartSheet
    walking: Walking
    pull: Pull
    lane: Region
    scheme: str

    def _draw_lane(self, width: float, _height: float) -> Picture:
        if self.offers.found:
            return draw_suggestions(self.offers.found, self.offers.chosen, width)
        return lane.draw_lane(self.session.design, self.session.look, width)

    def _offered(self) -> None:
        """Suggestions changed: they take the lane's place while something is typed."""
        self.lane.setVisible(
            bool(self.offers.found) or self.lane.window().height() >= LANE_FOLDS_BELOW * self.lane.canvas.scale
        )
        self.lane.refresh(self.scheme)

    def _chip(self, words: str) -> None:
        """A chip types its words; whole ones are taken at once."""
        if words.endswith(" "):
            self.acts.do(f"type:{words}")
        else:
            self.acts.act(lambda: self.acts.scribe(words))
        self.entry.line.setFocus()

    def _echo(self, text: str) -> None:
        if self.session.look.big:
            self.scenes.drawing.refresh()
        if self.session.look.start:
            self.entry.mark_strays(())
            self.entry.say(self.sheet.echo(text))
            return
        if self.session.look.walk:
            self.offers.follow("" if self.walking.untouched(text) else text)
            self.entry.mark_strays(())
            self.entry.say(self.walking.preview(text))
            return
        self.offers.follow(text)
        if not text.strip():
            self.entry.mark_strays(())
            self.pull.preview(None)
            self.entry.say(self._next_keys())
            return
        reading = None
        try:
            reading = self.acts.read(text)
            self.entry.say(reading.says)
            self.entry.mark_strays(())
        except InputError as problem:
            self.entry.say(f"{problem.problem}  {problem.accepted}.")
            self.entry.mark_strays(self.offers.strays(text))
        self.pull.preview(None if reading is None else reading.job)

    def _next_keys(self) -> str:
        """What can be typed now."""
        if self.session.look.practice is not None:
            return "Practice: nothing here reaches a job. Alt+P goes back to it."
        design = self.session.design
        if self.session.look.stage == "place":
            return f"Drag what stands on the floor.  {design.book.words.place_keys}.  F1 shows all words."
        if not design.line.legs:
            return f"An arrow starts the line. Or a whole quote at once: {design.book.words.decisions[-1][0]}"
        if not design.line.closed:
            return "Arrow and reading add a leg.  C corner  T through wall  B box  D trench  K charger"
        finding = in_hand(design, self.session.look)
        more = "F1 shows what can be typed."
        if finding is not None and finding.ask and finding.severity in (UNREAD, NOTE):
            more = f"Ctrl+Enter begins the answer: {finding.ask}…"
        elif finding is not None and finding.fixes:
            more = "Ctrl+Enter takes the first fix."
        return f"Enter takes what you type.  {more}"

    def _draw_loupe(self, _width: float, height: float) -> Picture:
        if self.session.look.walk:
            from awlmark.draw.frame.walk_list import draw_walk

            return draw_walk(self.session.design, self.walking.asked(), self.session.look.step, height)
        return loupe.draw_loupe(self.session.design, self.session.look, height)

    def _sheet_act(self, kind: str, which: str) -> None:
        """An act of the start sheet or of the walk."""
        {
            "lines": lambda: self.sheet.start_with(which),
            "begin": lambda: self.sheet.begin(int(which)),
            "shelf": lambda: self.sheet.row(int(which)),
            "drop": lambda: self.sheet.drop(int(which)),
            "find": lambda: self.sheet.find(int(which)),
            "door": lambda: self.sheet.door(which),
            "ask": lambda: self.walking.to(int(which)),
            "walk": lambda: self.walking.take(which),
        }[kind]()

    def _leave(self) -> None:
        """Escape on an empty Entry, or while a reading is asked."""
        if self.session.look.walk:
            self.walking.leave()
        elif self.session.look.start:
            self.sheet.door("blank")

    def _commit(self, text: str) -> None:
        if self.session.look.walk:
            self.acts.act(lambda: self.walking.answer(text))
            return
        if self.session.look.start and text.strip():
            if self.acts.act(lambda: self.sheet.commit(text)) and not self.session.look.walk:
                self.entry.line.clear()
            return
        if not text.strip():
            return
        if self.acts.act(lambda: self.acts.scribe(text)):
            self.entry.line.clear()
