"""A region of the window: one focused widget that paints a drawing, with a list as its twin."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QLineF, QPoint, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import (
    QAccessibleInterface,
    QContextMenuEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QStackedLayout, QToolTip, QWidget

from awlmark.desk.tips import tip
from awlmark.draw.kit.picture import Hit, Picture
from awlmark.draw.kit.repaint_areas import damage
from awlmark.ink.fonts import face_font
from awlmark.ink.painter import color, paint

if TYPE_CHECKING:
    from PySide6.QtWidgets import QListWidget, QListWidgetItem

ACT_ROLE = Qt.ItemDataRole.UserRole


MOST_ZOOM = 8.0
STEP = 1.2
"""A notch of the wheel."""


class Canvas(QWidget):
    """Paints a picture; Tab reaches it, arrows step through what it shows, Return takes it."""

    acted = Signal(str)
    typed = Signal(str)
    dragged = Signal(str, QPointF)
    dropped = Signal(str, QPointF)
    asked = Signal(QPointF, QPoint)
    """Second button, or the menu key: where in the drawing, and where on the screen."""
    doubled = Signal(QPointF)
    hovered = Signal(QPointF)
    left = Signal()
    resized = Signal()
    stepped = Signal(int)
    """Place of the area that the arrows came to."""
    shown_anew = Signal(int)
    """Another drawing is shown; how many areas answered in the last."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.picture = Picture(1, 1)
        self.scheme = "light"
        self.rubber: tuple[QPointF, QPointF] | None = None
        self.ghost: QRectF | None = None
        """Outline of what is dragged; goes with the rubber line."""
        self.guides: list[QLineF] = []
        """Lines that it is drawn to."""
        self.tag = ""
        """Its size, told beside the mouse."""
        self.grabbed = QPointF()
        """Where the mouse was pressed last."""
        self.at = -1
        """Place of the area in hand among those that answer; -1 where none is."""
        self.spoken: QAccessibleInterface | None = None
        """What a screen reader is told of it, once one asks."""
        self._pressed: Hit | None = None
        self.scale = 1.0
        """How much larger than it is drawn everything is shown, by View > Text size."""
        self.zooms = False
        """Whether the wheel zooms it."""
        self.zoom, self.offset = 1.0, QPointF()
        self._panned: QPointF | None = None
        """Where a pan began, less the offset then."""

    def show_picture(self, picture: Picture, scheme: str) -> None:
        """Show a drawing; what did not change is not painted again."""
        # The frame of what has the focus lies over the drawing and may have moved with it.
        same = scheme == self.scheme and not self.hasFocus() and self.zoom == 1.0
        areas = damage(self.picture, picture) if same else None
        before = len(self.picture.hits)
        self.picture, self.scheme = picture, scheme
        if self.at >= len(picture.hits):
            self.at = -1
        self.shown_anew.emit(before)
        if areas is None:
            self.update()
        times = self.scale
        for left, top, right, bottom in areas or ():
            area = QRectF(left * times, top * times, (right - left) * times, (bottom - top) * times)
            self.update(area.toAlignedRect())

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        areas = None
        if self.zoom > 1.0:
            painter.fillRect(event.rect(), color("sheet", self.scheme))
            painter.translate(self.offset)
            painter.scale(self._times, self._times)
        else:
            painter.scale(self.scale, self.scale)
            if event.rect() != self.rect():
                region: Iterable[QRect] = event.region()  # type: ignore[assignment]
                times = self.scale
                areas = [
                    (area.x() / times, area.y() / times, (area.x() + area.width()) / times,
                     (area.y() + area.height()) / times)
                    for area in region
                ]  # fmt: skip
        paint(painter, self.picture, self.scheme, within=areas)
        if self.rubber is not None:
            pen = QPen(color("scribe", self.scheme), 3, Qt.PenStyle.DashLine)
            painter.setPen(pen)
            painter.drawLine(*self.rubber)
            if self.ghost is not None:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(self.ghost)
                painter.setPen(QPen(color("note", self.scheme), 1, Qt.PenStyle.DashLine))
                painter.drawLines(self.guides)
                self._paint_tag(painter)
        if self.hasFocus():
            pen = QPen(color("scribe", self.scheme), 3)
            pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            hit = self._focused()
            if hit is not None:
                painter.drawRect(QRectF(hit.x - 3.5, hit.y - 3.5, hit.w + 7, hit.h + 7))
            else:
                painter.drawRect(QRectF(2.5, 2.5, self.width() / self.scale - 5, self.height() / self.scale - 5))
        painter.end()

    def _paint_tag(self, painter: QPainter) -> None:
        """The size of what is dragged, beside the mouse and within the drawing."""
        if not self.tag or self.rubber is None:
            return
        painter.setFont(face_font("draw", 17))
        wide, at = painter.fontMetrics().horizontalAdvance(self.tag) + 16, self.rubber[1]
        left = min(at.x() + 18, self.picture.width - wide - 4)
        box = QRectF(left, min(at.y() + 18, self.picture.height - 30), wide, 26)
        painter.setPen(QPen(color("scribe", self.scheme), 2))
        painter.setBrush(color("sheet", self.scheme))
        painter.drawRoundedRect(box, 3, 3)
        painter.setPen(color("ink", self.scheme))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, self.tag)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.fit()
        self.resized.emit()

    def _focused(self) -> Hit | None:
        return self.picture.hits[self.at] if 0 <= self.at < len(self.picture.hits) else None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Up: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1}
        key = Qt.Key(event.key())
        plain = event.modifiers() in (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.KeypadModifier)
        if key == Qt.Key.Key_Home and self.zooms and self.zoom > 1:
            self.fit()
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End) and plain and self.picture.hits:
            self.step_to(0 if key == Qt.Key.Key_Home else len(self.picture.hits) - 1)
        elif key in steps and plain and self.picture.hits:
            self.step_to((self.at + steps[key]) % len(self.picture.hits))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and plain:
            hit = self._focused()
            if hit is not None and hit.act:
                self.acted.emit(hit.act)
        elif (
            event.text() and event.text().isprintable() and not event.modifiers() & Qt.KeyboardModifier.ControlModifier
        ):
            self.typed.emit(event.text())
        else:
            super().keyPressEvent(event)

    def step_to(self, place: int) -> None:
        """Take the area at a place in hand."""
        self.at = place
        self.update()
        self.stepped.emit(place)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.grabbed = self.seen(event.position())
            self._pressed = self.picture.at(self.grabbed.x(), self.grabbed.y())
            if self._pressed is None and self.zoom > 1:
                self._panned = event.position() - self.offset

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.doubled.emit(self.seen(event.position()))

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        hit = self._focused()
        if event.reason() == QContextMenuEvent.Reason.Keyboard and hit is not None:
            middle = QPointF(hit.x + hit.w / 2, hit.y + hit.h / 2)
            self.asked.emit(middle, self.mapToGlobal(self.shown(middle).toPoint()))
        else:
            self.asked.emit(self.seen(QPointF(event.pos())), event.globalPos())

    # -- zoom and pan -----------------------------------------------------------------------------------------------

    @property
    def _times(self) -> float:
        """Pixels of the widget to one of the drawing."""
        return self.zoom * self.scale

    def seen(self, where: QPointF) -> QPointF:
        """A point of the widget in the drawing."""
        return (where - self.offset) / self._times

    def shown(self, where: QPointF) -> QPointF:
        """A point of the drawing in the widget."""
        return where * self._times + self.offset

    def zoom_at(self, where: QPointF, times: float) -> None:
        """Zoom about a point that stays where it is; never smaller than whole."""
        zoom = min(max(self.zoom * times, 1.0), MOST_ZOOM)
        self._look_at(where - self.seen(where) * (zoom * self.scale), zoom)

    def fit(self) -> None:
        """The whole drawing again."""
        self._look_at(QPointF(), 1.0)

    def _look_at(self, offset: QPointF, zoom: float) -> None:
        """Keep the drawing over the whole widget."""
        left, top = self.width() * (1 - zoom), self.height() * (1 - zoom)
        self.zoom = zoom
        self.offset = QPointF(min(max(offset.x(), left), 0.0), min(max(offset.y(), top), 0.0))
        self.update()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if not self.zooms or not event.angleDelta().y():
            super().wheelEvent(event)
            return
        self.zoom_at(event.position(), STEP ** (event.angleDelta().y() / 120))
        event.accept()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._panned is not None:
            self._look_at(event.position() - self._panned, self.zoom)
            return
        where = self.seen(event.position())
        if self._pressed is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self.dragged.emit(self._pressed.act, where)
            return
        self.hovered.emit(where)
        hit = self.picture.at(where.x(), where.y())
        shape = Qt.CursorShape.PointingHandCursor if hit is not None and hit.act else Qt.CursorShape.ArrowCursor
        if self.cursor().shape() != shape:
            self.setCursor(shape)

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.left.emit()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        pressed, self._pressed, self._panned = self._pressed, None, None
        if pressed is None or event.button() != Qt.MouseButton.LeftButton:
            return
        where = self.seen(event.position())
        if (
            pressed.x <= where.x() <= pressed.x + pressed.w
            and pressed.y <= where.y() <= pressed.y + pressed.h
            and pressed.act
        ):
            self.acted.emit(pressed.act)
        self.dropped.emit(pressed.act, where)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ToolTip:
            at = self.seen(QPointF(event.pos()))  # type: ignore[attr-defined]
            hit = self.picture.at(at.x(), at.y())
            QToolTip.showText(event.globalPos(), tip(hit.says) if hit else "", self)  # type: ignore[attr-defined]
            return True
        return super().event(event)


class Region(QWidget):
    """Canvas and list twin; ``Alt+L`` swaps them."""

    acted = Signal(str)

    def __init__(
        self,
        name: str,
        title: str,
        build: Callable[[float, float], Picture],
        rows: Callable[[], list[tuple[str, str]]] | None = None,
    ) -> None:
        super().__init__()
        self.name = name
        self._build = build
        self._rows = rows
        """Sentences and acts of the list, where it holds more than the drawing shows."""
        self.canvas = Canvas(title)
        self._title = title
        self._list: QListWidget | None = None
        self.canvas.acted.connect(self.acted)
        self.canvas.resized.connect(self.refresh)
        self._stack = QStackedLayout(self)
        self._stack.setContentsMargins(0, 0, 0, 0)
        self._stack.addWidget(self.canvas)
        self._scheme = "light"

    @property
    def list(self) -> QListWidget:
        """The drawing's twin, made when first asked for."""
        if self._list is None:
            from PySide6.QtWidgets import QListWidget

            self._list = QListWidget()
            self._list.setAccessibleName(f"{self._title}, as a list")
            self._list.setWordWrap(True)
            self._list.itemActivated.connect(self._activated)
            self._stack.addWidget(self._list)
        return self._list

    @property
    def listed(self) -> bool:
        """Whether the list stands in the drawing's place."""
        return self._stack.currentWidget() is not self.canvas

    def swap(self) -> None:
        """Swap drawing and list."""
        focus = self.focus_target().hasFocus()
        self._stack.setCurrentWidget(self.canvas if self.listed else self.list)
        self.refresh()
        if focus:
            self.focus_target().setFocus()

    def focus_target(self) -> QWidget:
        """The widget F6 goes to."""
        return self.list if self.listed else self.canvas

    def set_scale(self, scale: float) -> None:
        """Show everything so much larger than it is drawn."""
        self.canvas.scale = scale
        self.canvas.fit()
        self.refresh()

    def refresh(self, scheme: str | None = None) -> None:
        """Draw again at the present size."""
        self._scheme = self._scheme if scheme is None else scheme
        if not self.isVisible():
            return
        picture = self.draw()
        self.canvas.show_picture(picture, self._scheme)
        if self.listed:
            self._fill(picture)

    def draw(self) -> Picture:
        """The drawing at the present size."""
        times = self.canvas.scale
        return self._build(self.canvas.width() / times, self.canvas.height() / times)

    def _fill(self, picture: Picture) -> None:
        row = self.list.currentRow()
        self.list.clear()
        rows = self._rows() if self._rows else picture.answers()
        # What nothing of it answers for is told all the same.
        rows = [*rows, *((line, "") for line in picture.left_over(says for says, _act in rows))]
        from PySide6.QtWidgets import QListWidgetItem

        for says, act in rows:
            item = QListWidgetItem(says)
            item.setData(ACT_ROLE, act)
            self.list.addItem(item)
        self.list.setCurrentRow(min(max(row, 0), self.list.count() - 1))

    def _activated(self, item: QListWidgetItem) -> None:
        act = item.data(ACT_ROLE)
        if act:
            self.acted.emit(act)
