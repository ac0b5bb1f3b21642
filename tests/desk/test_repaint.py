"""Only what changed is painted again, and nothing of what was there before is left over."""

import random
from unittest import mock

import numpy as np
from PySide6.QtCore import QPoint
from PySide6.QtGui import QImage, QPainter

from awlmark.core.job.edit import Put, put
from awlmark.data import demo_job
from awlmark.desk.region import Canvas
from awlmark.desk.window import Window
from awlmark.draw.kit.picture import Picture
from awlmark.draw.view_state import STAGE_NAMES
from awlmark.ink import painter as inked
from tests.desk.support import DeskCase

EDITS = (
    (Put("legs[leg-2].length_m", 7.1),),
    (Put("circuit.size", "4"),),
    (Put("charger.nameplate_a", 40.0),),
    (Put("legs[leg-4].end", "box"),),
    (Put("circuit.material", "al"), Put("circuit.size", None)),
    (Put("units", "m"),),
    (Put("supply.panel_name", "Mill board"),),
    (Put("legs[leg-1].trade_size", "1/2"),),
)


ROUNDING = 8
"""Of 255: what a clipped painter may round otherwise at an edge; nobody sees it."""


class Repaints(DeskCase):
    def agree(self, window: Window, what: str) -> None:
        """The screen shows every drawing as it would be painted from nothing."""
        kind = QImage.Format.Format_RGB32
        screen = window.screen().grabWindow(window.winId()).toImage().convertToFormat(kind)
        fresh = window.grab().toImage().convertToFormat(kind)
        one, other = (
            np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), image.width(), 4).astype(int)
            for image in (screen, fresh)
        )
        for region in window.regions:
            if region.isVisible():
                corner, size = region.canvas.mapTo(window, QPoint(0, 0)), region.canvas.size()
                area = np.s_[corner.y() : corner.y() + size.height(), corner.x() : corner.x() + size.width(), :3]
                self.assertLessEqual(np.abs(one[area] - other[area]).max(), ROUNDING, f"{region.name}: {what}")

    def test_the_screen_equals_a_fresh_painting_after_every_edit(self) -> None:
        window = self.open(demo_job())
        dice, different = random.Random(5), 0
        for stage in STAGE_NAMES:
            window.session.see(stage=stage)
            self.settle()
            for edits in dice.sample(EDITS, 3):
                before = {region.name: region.canvas.picture.shapes for region in window.regions}
                window.session.apply("edit", put(window.session.job, *edits))
                self.settle()
                self.agree(window, f"{stage}, {edits}")
                different += sum(region.canvas.picture.shapes != before[region.name] for region in window.regions)
        self.assertGreater(different, 25)

    def test_the_awl_leaves_no_trace(self) -> None:
        window = self.open(demo_job())
        for stage in ("run", "wire", "build"):
            window.session.see(stage=stage)
            for at_m in (0.0, 3.0, 11.0, 30.0):
                window.session.see(at_m=at_m)
                self.settle()
                self.agree(window, f"{stage}, awl at {at_m}")

    def test_an_unchanged_drawing_is_not_painted_and_a_small_change_paints_a_small_part(self) -> None:
        painted: dict[Canvas, float] = {}
        kept = Canvas.paintEvent

        def watched(canvas, event):  # type: ignore[no-untyped-def]
            area = sum(rect.width() * rect.height() for rect in event.region())
            painted[canvas] = painted.get(canvas, 0.0) + area / (canvas.width() * canvas.height())
            kept(canvas, event)

        Canvas.paintEvent = watched  # type: ignore[method-assign]
        self.addCleanup(setattr, Canvas, "paintEvent", kept)
        window = self.open(demo_job())
        window.session.see(stage="wire")
        self.settle()
        painted.clear()
        window.session.apply("a little longer", put(demo_job(), Put("legs[leg-2].length_m", 6.81)))
        self.settle()
        self.assertNotIn(window.ladder.canvas, painted)
        self.assertLess(painted.get(window.loupe.canvas, 0.0), 0.5)
        self.assertGreaterEqual(painted[window.tape.canvas], 1.0)


class Stamps(DeskCase):
    LOOKS = (
        ("ink", 2.0, "", False),
        ("unread", 1.6, "", True),
        ("scribe", 2.0, "sheet", False),
        ("", 1.0, "stop", False),
    )

    def painted(self, discs: list[tuple[float, float, float]], ratio: float, stamped: float) -> np.ndarray:
        """Discs of every look on white, as dots of a screen."""
        picture = Picture(120, 160)
        for number, look in enumerate(self.LOOKS):
            for x, y, r in discs:
                picture.disc(x, y + 36 * number, r, *look)
        image = QImage(round(120 * ratio), round(160 * ratio), QImage.Format.Format_RGB32)
        image.setDevicePixelRatio(ratio)
        image.fill(0xFFFFFFFF)
        painter = QPainter(image)
        with mock.patch.object(inked, "STAMPED", stamped):
            inked.paint(painter, picture, "light")
        painter.end()
        return np.frombuffer(image.constBits(), np.uint8).astype(int)

    def test_a_stamped_disc_looks_like_a_drawn_one(self) -> None:
        at = [(20.0, 20.0, 5.0), (40.25, 20.5, 2.2), (60.75, 20.25, 11.0), (90.5, 20.0, 6.5)]
        for ratio in (1.0, 1.5, 2.0):
            stamped, drawn = (self.painted(at, ratio, limit) for limit in (inked.STAMPED, 0.0))
            self.assertLess(drawn.min(), 100)
            # The last colour of a blend is rounded once more.
            self.assertLessEqual(np.abs(stamped - drawn).max(), ROUNDING, ratio)

    def test_a_stamp_stands_within_an_eighth_of_a_pixel(self) -> None:
        # So far a disc may be from its place: seen as a difference of shade at its rim, an eighth of full at most.
        at = [(20.1, 20.9, 5.0), (40.4, 20.6, 6.0)]
        shade = np.abs(self.painted(at, 1.0, inked.STAMPED) - self.painted(at, 1.0, 0.0)).max()
        self.assertGreater(shade, 0)
        self.assertLess(shade, 255 / 8 * 2)
