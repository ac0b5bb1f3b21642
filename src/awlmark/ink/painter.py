"""Painting a display list with QPainter."""

from __future__ import annotations

import functools
import itertools
import math
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Final

from PySide6.QtCore import QLineF, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetricsF,
    QImage,
    QImageReader,
    QPainter,
    QPen,
    QPixmap,
    QPolygonF,
    QStaticText,
)

from awlmark.draw.kit.palette import PALETTES
from awlmark.draw.kit.picture import (
    Box,
    Disc,
    Outline,
    Photo,
    Picture,
    Segment,
    Sweep,
    Text,
    Tiles,
    left_of,
    text_width,
)
from awlmark.draw.kit.repaint_areas import Rect, bounds, meets
from awlmark.ink.fonts import face_font

_HATCHES = {
    "slant": Qt.BrushStyle.BDiagPattern,
    "cross": Qt.BrushStyle.DiagCrossPattern,
    "earth": Qt.BrushStyle.Dense7Pattern,
}


STAMPED: Final = 12.0
"""Discs up to this radius are stamped [px]: most are marks, alike but for their place."""
STEPS: Final = 4
"""Places a pixel at which a stamp can stand."""


@functools.cache
def color(role: str, scheme: str) -> QColor:
    """Colour of a role in a scheme."""
    palette: Mapping[str, str] = PALETTES[scheme]
    return QColor(palette[role])


@functools.cache
def _pen(role: str, width: float, dash: bool, scheme: str) -> QPen:
    if not role:
        return QPen(Qt.PenStyle.NoPen)
    pen = QPen(color(role, scheme), width)
    pen.setCapStyle(Qt.PenCapStyle.SquareCap if width < 3 and not dash else Qt.PenCapStyle.FlatCap)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    if dash:
        pen.setDashPattern([4 / max(width, 1), 3 / max(width, 1)])
    return pen


@functools.cache
def _straight(role: str, width: float, dash: bool, scheme: str) -> QPen:
    """Pen for strokes along an axis: Qt draws those up to 1 px wide dot by dot, wider ones as one area."""
    return _pen(role, width if dash else max(width, 1.001), dash, scheme)


@functools.cache
def _brush(role: str, hatch: str, scheme: str) -> QBrush:
    if hatch:
        kind, _, tint = hatch.partition(":")
        return QBrush(color(tint or "edge", scheme), _HATCHES[kind])
    return QBrush(color(role, scheme)) if role else QBrush(Qt.BrushStyle.NoBrush)


@functools.lru_cache(maxsize=12)
def _hatched(fill: str, hatch: str, scheme: str, wide: int, tall: int) -> QPixmap:
    """A hatched fill drawn once: to cut an area out of it takes a tenth of the time of fill and hatch."""
    sheet = QPixmap(wide, tall)
    sheet.fill(color(fill, scheme))
    painter = QPainter(sheet)
    painter.fillRect(sheet.rect(), _brush("", hatch, scheme))
    painter.end()
    return sheet


@functools.lru_cache(maxsize=16)
def _rects(rects: tuple[tuple[int, int, int, int], ...]) -> list[QRect]:
    return [QRect(*rect) for rect in rects]


@functools.lru_cache(maxsize=24)
def _photo(path: str, wide: int, tall: int, _changed: float) -> QImage:
    """A picture read once and small; a null one where the file holds none."""
    reader = QImageReader(path)
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid():
        reader.setScaledSize(size.scaled(wide, tall, Qt.AspectRatioMode.KeepAspectRatio))
    return reader.read()


def _paint_photo(painter: QPainter, shape: Photo, scheme: str) -> None:
    ratio = painter.device().devicePixelRatioF()
    try:
        changed = Path(shape.path).stat().st_mtime
    except (OSError, ValueError):
        changed = -1.0  # the dashed box says that there is none
    wide, tall = round(shape.w * ratio), round(shape.h * ratio)
    image = _photo(shape.path, wide, tall, changed) if changed >= 0 else QImage()
    if image.isNull():
        painter.setPen(_pen("unread", 1, True, scheme))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(QRectF(shape.x, shape.y, shape.w, shape.h))
        painter.drawLine(QLineF(shape.x, shape.y + shape.h, shape.x + shape.w, shape.y))
        return
    w, h = image.width() / ratio, image.height() / ratio
    painter.drawImage(QRectF(shape.x + (shape.w - w) / 2, shape.y + (shape.h - h) / 2, w, h), image)


def paint(
    painter: QPainter, picture: Picture, scheme: str, *, paper: bool = False, within: Sequence[Rect] | None = None
) -> None:
    """Paint a display list.

    Parameters
    ----------
    painter : QPainter
        Open painter, scaled as the target wants.
    picture : Picture
        What to paint.
    scheme : {"light", "dark", "contrast"}
        Which palette.
    paper : bool
        For a page whose text is to be read back: plain text without font features.
    within : sequence of Rect, optional
        Areas that the painter is clipped to; what meets none of them is left out.
    """
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ratio = painter.device().devicePixelRatioF()
    for shape in picture.shapes:
        if within is not None and not meets(bounds(shape), within):
            continue
        if isinstance(shape, Text):
            painter.setPen(color(shape.role, scheme))
            (_paint_words if paper else _paint_text)(painter, shape)
        elif isinstance(shape, Segment):
            pen = _straight if shape.x == shape.x2 or shape.y == shape.y2 else _pen
            painter.setPen(pen(shape.role, shape.width, shape.dash, scheme))
            painter.drawLine(QLineF(shape.x, shape.y, shape.x2, shape.y2))
        elif isinstance(shape, Box):
            _paint_box(painter, shape, scheme, paper)
        elif isinstance(shape, Disc):
            _paint_disc(painter, shape, scheme, None if paper else ratio)
        elif isinstance(shape, Sweep):
            painter.setPen(_pen(shape.role, shape.width, False, scheme))
            box = QRectF(shape.x - shape.r, shape.y - shape.r, 2 * shape.r, 2 * shape.r)
            painter.drawArc(box, round(shape.start * 16), round(shape.span * 16))
        elif isinstance(shape, Photo):
            _paint_photo(painter, shape, scheme)
        elif isinstance(shape, Tiles):
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(_brush(shape.fill, "", scheme))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
            painter.drawRects(_rects(shape.rects))
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        elif isinstance(shape, Outline):
            painter.setPen(_pen(shape.role, shape.width, shape.dash, scheme))
            points = [(shape.x, shape.y), *shape.points]
            if shape.closed:
                painter.setBrush(_brush(shape.fill, "", scheme))
                painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in points]))
            else:
                # Stroke by stroke: a long polyline is stroked as one outline, which takes many times as long.
                painter.drawLines([QLineF(x, y, x2, y2) for (x, y), (x2, y2) in itertools.pairwise(points)])


def _paint_text(painter: QPainter, text: Text) -> None:
    laid, ascent, width, font = _laid(text.text, text.face, round(text.size))
    painter.setFont(font)
    painter.drawStaticText(QPointF(left_of(text.x, width, text.anchor), text.y - ascent), laid)


def _paint_words(painter: QPainter, text: Text) -> None:
    """Text for a page that is to be read back.

    Readers of PDF lose digits that a font feature has swapped: words are set one by one in plain figures, each as wide
    as the layout counts on.
    """
    size = round(text.size)
    font = face_font(text.face, size, tabular=False)
    painter.setFont(font)
    at, words, x = 0, text.text.split(" "), left_of(text.x, text_width(text.text, text.face, size), text.anchor)
    for number, word in enumerate(words, 1):
        if word:
            start = x + text_width(text.text[:at], text.face, size)
            painter.save()
            painter.translate(start, text.y)
            painter.scale(text_width(word, text.face, size) / (_plain_width(word, font) or 1.0), 1.0)
            painter.drawText(QPointF(0, 0), word + (" " if number < len(words) else ""))
            painter.restore()
        at += len(word) + 1


@functools.lru_cache(maxsize=4096)
def _plain_width(text: str, font: QFont) -> float:
    """Width of a text without font features, measured large so that nothing is rounded."""
    large = QFont(font)
    large.setPixelSize(1000)
    return QFontMetricsF(large).horizontalAdvance(text) * font.pixelSize() / 1000


@functools.lru_cache(maxsize=2048)
def _laid(text: str, face: str, size: int) -> tuple[QStaticText, float, float, QFont]:
    """A line of text, shaped once, the height of its baseline, its width and its font."""
    font = face_font(face, size)
    laid = QStaticText(text)
    laid.setTextFormat(Qt.TextFormat.PlainText)
    return laid, QFontMetricsF(font).ascent(), text_width(text, face, size), font


def _paint_box(painter: QPainter, box: Box, scheme: str, paper: bool) -> None:
    area = QRectF(box.x, box.y, box.w, box.h)
    if box.radius:
        painter.setPen(_pen(box.role, box.width, box.dash, scheme))
        painter.setBrush(_brush(box.fill, "", scheme))
        painter.drawRoundedRect(area, box.radius, box.radius)
        return
    # Filling and stroking apart takes the painter's short ways.
    if box.fill and box.hatch and not paper:
        dots = area.toRect()
        # In steps, so that an area that grows needs few of them.
        wide, tall = ((dots.width() // 128 + 1) * 128, (dots.height() // 128 + 1) * 128)
        sheet = _hatched(box.fill, box.hatch, scheme, wide, tall)
        painter.drawPixmap(dots.topLeft(), sheet, QRect(0, 0, dots.width(), dots.height()))
    elif box.fill:
        painter.fillRect(area, _brush(box.fill, "", scheme))
    if box.hatch and (paper or not box.fill):
        painter.fillRect(area, _brush("", box.hatch, scheme))
    if box.role:
        painter.setPen(_straight(box.role, box.width, box.dash, scheme))
        x, y, right, bottom = box.x, box.y, box.x + box.w, box.y + box.h
        edges = ((x, y, right, y), (x, bottom, right, bottom), (x, y, x, bottom), (right, y, right, bottom))
        painter.drawLines([QLineF(*edge) for edge in edges])


def _paint_disc(painter: QPainter, disc: Disc, scheme: str, ratio: float | None) -> None:
    """Paint a disc; on a screen of so many whole dots a pixel a small one as its stamp."""
    if ratio is not None and disc.r <= STAMPED and ratio.is_integer():
        x, y = round(disc.x * STEPS), round(disc.y * STEPS)
        looks = disc.role, disc.width, disc.fill, disc.dash
        stamp, reach = _stamp(disc.r, looks, (x % STEPS / STEPS, y % STEPS / STEPS), scheme, ratio)
        painter.drawPixmap(x // STEPS - reach, y // STEPS - reach, stamp)
        return
    _draw_disc(painter, disc, scheme)


@functools.lru_cache(maxsize=1024)
def _stamp(
    r: float, looks: tuple[str, float, str, bool], shift: tuple[float, float], scheme: str, ratio: float
) -> tuple[QPixmap, int]:
    """A small disc drawn once, and how far left of and above its middle it begins [px]."""
    reach = math.ceil(r + looks[1]) + 1
    stamp = QPixmap(round((2 * reach + 1) * ratio), round((2 * reach + 1) * ratio))
    stamp.setDevicePixelRatio(ratio)
    stamp.fill(Qt.GlobalColor.transparent)
    painter = QPainter(stamp)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _draw_disc(painter, Disc(reach + shift[0], reach + shift[1], r, *looks), scheme)
    painter.end()
    return stamp, reach


def _draw_disc(painter: QPainter, disc: Disc, scheme: str) -> None:
    middle = QPointF(disc.x, disc.y)
    if disc.role and disc.fill and disc.width > 1 and not disc.dash:
        # One disc on another: stroking a circle takes longer than filling two.
        painter.setPen(Qt.PenStyle.NoPen)
        for role, r in ((disc.role, disc.r + disc.width / 2), (disc.fill, disc.r - disc.width / 2)):
            painter.setBrush(_brush(role, "", scheme))
            painter.drawEllipse(middle, r, r)
        return
    painter.setPen(_pen(disc.role, disc.width, disc.dash, scheme))
    painter.setBrush(_brush(disc.fill, "", scheme))
    painter.drawEllipse(middle, disc.r, disc.r)
