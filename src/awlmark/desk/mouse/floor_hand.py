"""What stands on the floor, by hand: out of the tray, moved, pulled by its edges, its size typed meanwhile."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final

from PySide6.QtCore import QLineF, QObject, QPointF, QRectF

from awlmark.core.job.edit import Put, put, value_at
from awlmark.desk.commands import Acts
from awlmark.desk.entry import EntryBar
from awlmark.desk.region import Canvas
from awlmark.desk.session import Session

if TYPE_CHECKING:
    from awlmark.core.place.floor import Snap
    from awlmark.draw.figures.floor_plan import Floor

NEAR: Final = 9.0
"""An edge that comes so near to another is drawn to it [px]."""
DOOR_NEAR: Final = 40.0
"""A door is drawn into a wall that lies so near [px]."""
STILL: Final = 6.0
"""Less than this is no drag [px]."""


class FloorHand(QObject):
    """Drags on the Place scene; what is let go is the same words as typed, or one named step."""

    def __init__(self, session: Session, scene: Canvas, entry: EntryBar, acts: Acts) -> None:
        super().__init__(scene)
        self.session, self.scene, self.entry, self.acts = session, scene, entry, acts
        self._told = ""
        """What the Entry was given while something is dragged; other text in it was typed."""
        scene.dragged.connect(self._drag)
        scene.dropped.connect(self._drop)
        acts.floor = self._act

    # -- by a click -------------------------------------------------------------------------------------------------

    def _act(self, kind: str, which: str) -> None:
        if self._told:
            return  # the end of a drag, told by where it is let go
        if kind == "lead":
            self._lead(which)
        elif kind == "tray":
            from awlmark.draw.figures.floor_plan import plan_height

            picture = self.scene.picture
            self._put_down(which, QPointF(picture.width / 2, plan_height(picture.height) / 2))
        elif kind == "move":
            self._choose(which)

    def _lead(self, pin_id: str) -> None:
        """Lead the run to a spot."""
        self.session.trials.make(self.session.design, self.session.look)
        way = next((each for each in self.session.trials.spots(self.session.design) if each.pin == pin_id), None)
        if way is not None and way.job is not None:
            name = next(pin.name for pin in way.job.site.pins if pin.id == pin_id)
            self.session.apply(f"run led to {name}", way.job)

    def _choose(self, what: str) -> None:
        """A click on a spot chooses it; of anything else it shows the handles, and begins its words."""
        kind, _, its_id = what.partition(":")
        if kind == "pin":
            if self.session.job.site.pins:
                self.session.apply(f"spot {its_id.upper()}", put(self.session.job, Put("site.pin", its_id)))
            return
        self.session.see(held=its_id)
        if kind in ("area", "thing"):
            one = value_at(self.session.job, f"site.{kind}s[{its_id}]")
            self.entry.line.clear()
            self.entry.type(f"{one.kind} {one.name} ")

    # -- by dragging ------------------------------------------------------------------------------------------------

    def _floor(self) -> Floor:
        from awlmark.draw.figures.floor_plan import floor_of

        return floor_of(self.session.design, self.scene.picture.width, self.scene.picture.height)

    def _snap(self, act: str, where: QPointF) -> Snap | None:
        """Where what is dragged would come to lie."""
        from awlmark.core.place.floor import FROM_TRAY, box_of, in_wall, snapped, stretched

        floor, job, line = self._floor(), self.session.job, self.session.design.line
        near, end = NEAR / floor.scale, line.legs[-1].end[:2] if line.closed else None
        does, kind, *rest = act.split(":")
        if does == "tray":
            _name, wide, deep = FROM_TRAY[kind]
            x, y = floor.metres(where.x(), where.y())
            box = (x - wide / 2, y - deep / 2, wide, deep)
            return in_wall(job, box, DOOR_NEAR / floor.scale) if kind == "door" else snapped(job, box, near, end=end)
        if kind == "pin" and not job.site.pins:
            return None  # the charger stands where the run ends, until a spot is set
        one, gone = value_at(job, f"site.{kind}s[{rest[0]}]"), where - self.scene.grabbed
        by = gone.x() / floor.scale, -gone.y() / floor.scale
        x, y, wide, deep = box_of(one)
        if does == "move":
            return snapped(job, (x + by[0], y + by[1], wide, deep), near, rest[0], end)
        return stretched(job, (x, y, wide, deep), rest[1], by, near, rest[0])

    def _words(self, act: str, snap: Snap) -> tuple[str, str]:
        """The entry that lets it lie there, and its size or place to be typed over."""
        from awlmark.core.place.floor import free_name, print_box, words_for

        job = self.session.job
        does, kind, *rest = act.split(":")
        if does == "tray":
            return words_for(job, kind, free_name(job, kind), snap.box)
        one = value_at(job, f"site.{kind}s[{rest[0]}]")
        if kind in ("pin", "bay"):
            place = print_box(job, snap.box)[1]
            turn = f" facing {one.heading_deg:g}" if kind == "bay" else ""
            return f"{kind} {one.name} at {place}{turn}", place
        words, size = words_for(job, one.kind, one.name, snap.box)
        if kind == "thing":
            low, high = (print_box(job, (0, 0, value, 0))[0].partition("x")[0] for value in (one.low_m, one.high_m))
            words += (f" low {low}" if one.low_m else "") + f" high {high}"
        return words, size

    def _drag(self, act: str, where: QPointF) -> None:
        if not act.startswith(("tray:", "move:", "stretch:")):
            return
        snap = self._snap(act, where)
        if snap is None:
            return
        from awlmark.draw.figures.floor_plan import plan_height

        scene, floor = self.scene, self._floor()
        (wide, deep), (left, top) = snap.box[2:], floor.at(snap.box[0], snap.box[1] + snap.box[3])
        if act.startswith("tray:bay") or not wide:
            wide, deep = max(wide, 0.3), max(deep, 0.3)
        scene.ghost = QRectF(left, top, wide * floor.scale, deep * floor.scale)
        size = scene.picture.width, plan_height(scene.picture.height)
        scene.guides = [
            *(QLineF(at, 0, at, size[1]) for at in (floor.at(east, 0)[0] for east in snap.east_m)),
            *(QLineF(0, at, size[0], at) for at in (floor.at(0, north)[1] for north in snap.north_m)),
        ]
        words, told = self._words(act, snap)
        line = self.entry.line
        if not self._told or line.text() == self._told:
            line.setText(words)
            start = words.rfind(told)
            line.setSelection(start, len(told))
            self._told = words
        # After the Entry, whose own preview wipes the rubber line.
        scene.tag = told.replace("x", " by ") if wide > 0.3 else told
        scene.rubber = (where, where)
        scene.update()

    def _drop(self, act: str, where: QPointF) -> None:
        """Let go: it lies there, and its size stands in the Entry to be typed over; what was typed meanwhile counts."""
        if not act.startswith(("tray:", "move:", "stretch:")) or not self._told:
            return
        told, self._told = self._told, ""
        self.scene.rubber = self.scene.ghost = None
        self.scene.guides, self.scene.tag = [], ""
        self.scene.update()
        if (where - self.scene.grabbed).manhattanLength() < STILL:
            self.entry.line.clear()
            does, _, which = act.partition(":")
            self._act(does, which)
            return
        if told and self.entry.line.text() != told:
            self.entry.line.setFocus()
            return
        self.entry.line.clear()
        snap = self._snap(act, where)
        if snap is None:
            return
        from awlmark.core.place.floor import boxed, moved
        from awlmark.draw.figures.floor_plan import plan_height

        does, kind, *rest = act.split(":")
        if does == "tray":
            if where.y() < plan_height(self.scene.picture.height):
                self._put_down(kind, where)
            return
        path = f"site.{kind}s[{rest[0]}]"
        edits = moved(path, snap.box) if does == "move" else boxed(path, snap.box)
        words, size = self._words(act, snap)
        name = value_at(self.session.job, f"{path}.name")
        self.acts.act(lambda: self.session.apply(f"{does} {name}", put(self.session.job, *edits)))
        self.session.see(held="" if kind == "pin" else rest[0])
        if does == "stretch":
            self._offer(words, size)

    def _put_down(self, kind: str, where: QPointF) -> None:
        """One from the tray: the same words as typed; its size stands in the Entry."""
        act = f"tray:{kind}"
        snap = self._snap(act, where)
        if snap is None:
            return
        words, size = self._words(act, snap)
        if self.acts.act(lambda: self.acts.scribe(words)):
            self._offer(words, size)

    def _offer(self, words: str, size: str) -> None:
        """Words in the Entry with their size selected: Enter does nothing new, another size typed over it does."""
        start = words.rfind(size)
        self.entry.line.setText(words)
        self.entry.line.setFocus()
        self.entry.line.setSelection(start, len(size))
