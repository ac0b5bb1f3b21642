"""A drawing for screen readers: a canvas whose answering areas are children, each with its sentence, place and act."""

from __future__ import annotations

import functools

import shiboken6
from PySide6.QtCore import QObject, QPoint, QPointF, QRect, QRectF
from PySide6.QtGui import QAccessible, QAccessibleEvent, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget

from awlmark.desk import announce
from awlmark.desk.region import Canvas
from awlmark.draw.kit.picture import Hit


class Drawing(QAccessibleWidget):
    """A canvas: its children are what the drawing shows, in the order of the arrow keys."""

    def __init__(self, canvas: Canvas) -> None:
        super().__init__(canvas, QAccessible.Role.Canvas)
        self.canvas = canvas
        self._areas: list[Area] = []
        """By their place; made when asked for, and kept while the canvas lives."""
        canvas.stepped.connect(self._stepped)
        canvas.shown_anew.connect(self._shown_anew)
        canvas.destroyed.connect(functools.partial(_forget, self._areas))

    def childCount(self) -> int:
        return len(self.canvas.picture.hits)

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        if not 0 <= index < self.childCount():
            return None
        return self._area(index)

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return child.place if isinstance(child, Area) else -1

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        where = self.canvas.seen(self.canvas.mapFromGlobal(QPoint(x, y)).toPointF())
        hit = self.canvas.picture.at(where.x(), where.y())
        return None if hit is None else self.child(self.canvas.picture.hits.index(hit))

    def focusChild(self) -> QAccessibleInterface | None:  # type: ignore[override]
        return self.child(self.canvas.at) if self.canvas.hasFocus() else None

    def text(self, kind: QAccessible.Text) -> str:
        if kind == QAccessible.Text.Value and self.child(self.canvas.at) is not None:
            return f"{self.canvas.at + 1} of {self.childCount()}"
        return str(super().text(kind))

    def _stepped(self, place: int) -> None:
        """The focus went to another area."""
        self._send(QAccessible.Event.Focus, place)

    def _shown_anew(self, before: int) -> None:
        """Another drawing is shown, where there were so many areas: some came, went, or say something else."""
        now = self.childCount()
        kind = QAccessible.Event.ObjectCreated if now > before else QAccessible.Event.ObjectDestroyed
        for place in range(min(before, now), max(before, now)):
            self._send(kind, place)
        if self.canvas.hasFocus() and 0 <= self.canvas.at < now:
            self._send(QAccessible.Event.NameChanged, self.canvas.at)

    def _area(self, place: int) -> Area:
        while len(self._areas) <= place:
            self._areas.append(Area(self, len(self._areas)))
        return self._areas[place]

    def _send(self, kind: QAccessible.Event, place: int) -> None:
        announce.send(QAccessibleEvent(self._area(place), kind))


class Area(QAccessibleWidget):
    """What stands at one place of a drawing's order: a button where Return takes it, a graphic where it only tells."""

    def __init__(self, drawing: Drawing, place: int) -> None:
        super().__init__(drawing.canvas)
        self.drawing, self.place = drawing, place

    @property
    def hit(self) -> Hit | None:
        """The answering area; none once the drawing has fewer."""
        canvas = self.drawing.canvas
        hits = canvas.picture.hits if shiboken6.isValid(canvas) else []
        return hits[self.place] if self.place < len(hits) else None

    def isValid(self) -> bool:
        return self.hit is not None

    def object(self) -> QObject | None:  # type: ignore[override]
        # It is no widget: the canvas is its parent's.
        return None

    def parent(self) -> QAccessibleInterface:
        return self.drawing

    def childCount(self) -> int:
        return 0

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def focusChild(self) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def rect(self) -> QRect:
        hit, canvas = self.hit, self.drawing.canvas
        if hit is None:
            return QRect()
        corner, opposite = QPointF(hit.x, hit.y), QPointF(hit.x + hit.w, hit.y + hit.h)
        area = QRectF(canvas.shown(corner), canvas.shown(opposite)).toRect()
        return area.translated(canvas.mapToGlobal(QPoint()))

    def role(self) -> QAccessible.Role:
        hit = self.hit
        return QAccessible.Role.Button if hit is not None and hit.act else QAccessible.Role.Graphic

    def state(self) -> QAccessible.State:
        state = QAccessible.State()
        hit, canvas = self.hit, self.drawing.canvas
        if hit is None:
            state.invalid = True
            return state
        state.focusable = True
        state.focused = canvas.hasFocus() and canvas.at == self.place
        state.invisible = not canvas.isVisible()
        return state

    def text(self, kind: QAccessible.Text) -> str:
        hit = self.hit
        if hit is None:
            return ""
        if kind == QAccessible.Text.Name:
            return hit.says
        if kind in (QAccessible.Text.Description, QAccessible.Text.Value):
            return f"{self.place + 1} of {self.drawing.childCount()}"
        return ""

    def actionNames(self) -> list[str]:
        hit = self.hit
        found = [self.setFocusAction()]
        return [self.pressAction(), *found] if hit is not None and hit.act else found

    def doAction(self, name: str) -> None:
        hit, canvas = self.hit, self.drawing.canvas
        if hit is None:
            return
        if name == self.setFocusAction():
            canvas.setFocus()
            canvas.step_to(self.place)
        elif name == self.pressAction() and hit.act:
            canvas.acted.emit(hit.act)


def _forget(areas: list[Area]) -> None:
    """Its canvas is gone: Qt keeps what it was told of until it is told otherwise."""
    for area in areas:
        QAccessible.deleteAccessibleInterface(QAccessible.uniqueId(area))
    areas.clear()


def _interface(_kind: str, thing: QObject) -> QAccessibleInterface | None:
    """Qt asks for every object that somebody reads; only drawings are told of here."""
    if not isinstance(thing, Canvas):
        return None
    if thing.spoken is None:
        thing.spoken = Drawing(thing)
    return thing.spoken


@functools.cache
def install() -> None:
    """Tell of drawings from now on; once is enough."""
    QAccessible.installFactory(_interface)
