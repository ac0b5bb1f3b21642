"""Pulling the line's end with the mouse: plumb or level, to the inch, as words for the Entry."""

from __future__ import annotations

import re

from PySide6.QtCore import QObject, QPointF

from awlmark.core.job.model import Job
from awlmark.core.quantities import INCH_M, print_length
from awlmark.core.solve.design import Design
from awlmark.desk.commands import Acts
from awlmark.desk.entry import EntryBar
from awlmark.desk.region import Canvas
from awlmark.desk.session import Session
from awlmark.draw.figures.wall_strip import onward
from awlmark.draw.frame.tape import scale_of
from awlmark.draw.kit.picture import Picture


class Pull(QObject):
    """The mouse: the awl along the tape, the line's end across the scene, a breaker from space to space."""

    def __init__(self, session: Session, scene: Canvas, tape: Canvas, entry: EntryBar, acts: Acts) -> None:
        super().__init__(scene)
        self.acts = acts
        self.session, self.scene, self.tape, self.entry = session, scene, tape, entry
        tape.dragged.connect(self._drag_awl)
        tape.hovered.connect(self._hover)
        tape.left.connect(lambda: self.session.see(over_m=None))
        scene.dragged.connect(self._drag_end)
        scene.dropped.connect(self._drop_end)
        scene.dragged.connect(self._drag_breaker)
        scene.dropped.connect(self._drop_breaker)
        scene.dragged.connect(self._drag_leg)
        scene.dropped.connect(self._drop_leg)
        scene.dragged.connect(self._drag_probe)
        scene.dropped.connect(self._drop_probe)

    def _drag_awl(self, act: str, where: QPointF) -> None:
        if act.partition(":")[0] == "awl":
            self.session.see(at_m=self._place(where), over_m=None)

    def _hover(self, where: QPointF) -> None:
        """Everything answers for the point under the mouse; the awl, and what is typed for it, stay where they are."""
        if self.session.design.line.legs:
            self.session.see(over_m=self._place(where))

    def _place(self, where: QPointF) -> float:
        design = self.session.design
        return min(scale_of(design, self.tape.width() / self.tape.scale).at_m(where.x()), design.line.length_m)

    def _drag_end(self, act: str, where: QPointF) -> None:
        if act == "pull":
            start, end, words = pull_reading(self.session.design, self.scene.picture, where)
            self.scene.rubber = (start, end)
            self.scene.update()
            self.entry.line.setText(words)

    def preview(self, job: Job | None) -> None:
        """Show the leg that an entry would add, dashed, while it is typed; nothing for any other entry."""
        legs = job.legs if job is not None else ()
        added = len(legs) == len(self.session.job.legs) + 1
        ends = onward(self.scene.picture, legs[-1]) if added and self.session.look.stage == "run" else None
        found = None if ends is None else (QPointF(*ends[0]), QPointF(*ends[1]))
        if found != self.scene.rubber:
            self.scene.rubber = found
            self.scene.update()

    def _drop_end(self, act: str, where: QPointF) -> None:
        """The reading stands in the Entry, its number chosen, so that the tape's own can be typed over it."""
        if act == "pull" and self.scene.rubber is not None:
            self.scene.rubber = None
            self.scene.update()
            self.entry.line.setFocus()
            text = self.entry.line.text()
            space = text.find(" ") + 1
            self.entry.line.setSelection(space, len(text) - space)

    def _drag_probe(self, act: str, where: QPointF) -> None:
        if act.startswith("probe:"):
            hit = next((hit for hit in self.scene.picture.hits if hit.act == act), None)
            if hit is not None:
                self.scene.rubber = (QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2), where)
                self.scene.update()

    def _drop_probe(self, act: str, where: QPointF) -> None:
        """A probe let go over another point stands there."""
        if not act.startswith("probe:") or self.scene.rubber is None:
            return
        self.scene.rubber = None
        self.scene.update()
        there = self.scene.picture.at(where.x(), where.y())
        if there is not None and there.act.startswith("probe:") and there.act != act:
            self.acts.bench.move(act[6:], there.act[6:])

    def _drag_breaker(self, act: str, where: QPointF) -> None:
        space = _space_of(act)
        hit = next((hit for hit in self.scene.picture.hits if hit.id == f"slot-{space}"), None)
        if hit is not None:
            self.scene.rubber = (QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2), where)
            self.scene.update()

    def _drop_breaker(self, act: str, where: QPointF) -> None:
        """Let go over another space: the same words as typed, so the same checks and the same undo."""
        space = _space_of(act)
        if not space or self.scene.rubber is None:
            return
        self.scene.rubber = None
        self.scene.update()
        there = self.scene.picture.at(where.x(), where.y())
        onto = _space_of(there.act) if there is not None else ""
        if onto and onto != space:
            self.acts.act(lambda: self.acts.scribe(f"move {space} to {onto}"))

    def _drag_leg(self, act: str, where: QPointF) -> None:
        if act.startswith("leg:"):
            hit = next((hit for hit in self.scene.picture.hits if hit.act == act), None)
            if hit is not None:
                self.scene.rubber = (QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2), where)
                self.scene.update()

    def _drop_leg(self, act: str, where: QPointF) -> None:
        """A leg let go aside of where it was: its neighbours follow, to the inch."""
        if not act.startswith("leg:") or self.scene.rubber is None:
            return
        start, self.scene.rubber = self.scene.rubber[0], None
        self.scene.update()
        hit = next((hit for hit in self.scene.picture.hits if hit.act == act), None)
        design, scale = self.session.design, self.scene.picture.leg_scale.get(act.split(":")[1])
        across, down = where.x() - start.x(), where.y() - start.y()
        if hit is None or not scale or max(abs(across), abs(down)) < 6:
            return
        level = hit.w >= hit.h
        way = ("down" if down > 0 else "up") if level else ("right" if across > 0 else "left")
        snap = INCH_M if design.job.units == "ft" else 0.01
        length = round(abs(down if level else across) / scale / snap) * snap
        number = next(n for n, leg in enumerate(design.job.legs, 1) if leg.id == act.split(":")[1])
        if length > 0:
            self.acts.act(lambda: self.acts.scribe(f"slide {number} {way} {print_length(length, design.job.units)}"))


def _space_of(act: str) -> str:
    """Number of the space that an act of the dead front is about; nothing for other acts."""
    found = re.fullmatch(r"type:slot (\d+) ", act)
    return found[1] if found else ""


def pull_reading(design: Design, picture: Picture, where: QPointF) -> tuple[QPointF, QPointF, str]:
    """Read a pull.

    Parameters
    ----------
    design : Design
        For the home units.
    picture : Picture
        The Run scene, with the line's end in it.
    where : QPointF
        Where the mouse is.

    Returns
    -------
    start, end : QPointF
        Rubber line, snapped plumb or level.
    words : str
        ``right 12' 3"``; one snap long at least.
    """
    handle = next(hit for hit in picture.hits if hit.id == "handle")
    start = QPointF(handle.x + handle.w / 2, handle.y + handle.h / 2)
    across, down = where.x() - start.x(), where.y() - start.y()
    level = abs(across) >= abs(down)
    way = ("right" if across >= 0 else "left") if level else ("down" if down >= 0 else "up")
    snap = INCH_M if design.job.units == "ft" else 0.01
    length = max(1, round(abs(across if level else down) / picture.pixels_per_m / snap)) * snap
    pixels = length * picture.pixels_per_m
    end = QPointF(start)
    if level:
        end.setX(start.x() + (pixels if across >= 0 else -pixels))
    else:
        end.setY(start.y() + (pixels if down >= 0 else -pixels))
    return start, end, f"{way} {print_length(length, design.job.units)}"
