"""The torque dials by hand: where the needle is dragged to stands in the Entry, to be typed over or taken."""

from __future__ import annotations

import math
from typing import Final

from PySide6.QtCore import QObject, QPointF

from awlmark.core.build.torque import dials_of
from awlmark.desk.entry import EntryBar
from awlmark.desk.region import Canvas
from awlmark.desk.session import Session

STEP_LBF_IN: Final = 5.0


class DialHand(QObject):
    """Drags round a dial of the Build scene."""

    def __init__(self, session: Session, scene: Canvas, entry: EntryBar) -> None:
        super().__init__(scene)
        self.session, self.scene, self.entry = session, scene, entry
        scene.dragged.connect(self._drag)
        scene.dropped.connect(self._drop)
        self._turned = False

    def turned(self) -> bool:
        """Whether a drag has just ended: the click that ends it is none."""
        was, self._turned = self._turned, False
        return was

    def _drag(self, act: str, where: QPointF) -> None:
        if not act.startswith("dial:") or (where - self.scene.grabbed).manhattanLength() < 8:
            return
        from awlmark.draw.stages.build_view import DIAL_MIDDLE, full_scale, on_dial

        name = act.partition(":")[2]
        hit = next((one for one in self.scene.picture.hits if one.act == act), None)
        dial = next((one for one in dials_of(self.session.design) if one.id == name), None)
        if hit is None or dial is None:
            return
        across, up = where.x() - hit.x - hit.w / 2, hit.y + DIAL_MIDDLE - where.y()
        # The scale begins at lower left and goes three quarters round.
        share = ((225.0 - math.degrees(math.atan2(up, across))) % 360) / 270
        value = min(max(round(share * full_scale(dial) / STEP_LBF_IN) * STEP_LBF_IN, STEP_LBF_IN), full_scale(dial))
        if share > 1.16:
            value = STEP_LBF_IN  # in the gap, past the beginning
        unit = self.session.design.book.build.torque_unit
        told, typed = (f"{value:g}", "in-lb") if unit == "lbf-in" else (on_dial(value, unit), "nm")
        self._turned = True
        self.entry.line.setText(f"torque {name} {told} {typed}")
        self.entry.line.setSelection(len(f"torque {name} "), len(told))

    def _drop(self, act: str, _where: QPointF) -> None:
        if act.startswith("dial:") and self._turned:
            self.entry.line.setFocus()
            text = self.entry.line.text()
            start = text.rfind(" ", 0, text.rfind(" ")) + 1
            self.entry.line.setSelection(start, text.rfind(" ") - start)
        self._turned = False
