"""No text runs into another, none is cut, at every size; advances match the fonts; every mark tells by shape."""

import itertools
import os
import subprocess
import sys
import textwrap

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetricsF, QImage, QPainter

from awlmark.core.begin.summary import Summary
from awlmark.core.begin.ways import Way, begin, shipped
from awlmark.core.entry.cars import add_car
from awlmark.core.entry.read import read_entry
from awlmark.core.job.edit import Put, put
from awlmark.core.job.leg import Bundle
from awlmark.core.job.model import Job
from awlmark.core.panel.load_management import invented_for
from awlmark.core.panel.meter_data import demand_edits
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.session import fresh_job
from awlmark.draw.kit.picture import Picture, Text, _advances, text_width
from awlmark.draw.stages.start_view import Shelved, draw_start
from awlmark.ink.fonts import face_font
from awlmark.ink.painter import paint
from tests.core import test_bs_job
from tests.desk.support import DeskCase
from tests.support import LONG, legs, straight

VIEWS = (
    "need", "panel", "panel:spaces", "panel:year", "place", "run", "run:bends", "wire", "wire:jobs",
    "parts", "parts:quote",
    "parts:pencils", "build", "prove", "prove:practice",
)  # fmt: skip
BRITISH = ("foundry", "three phases")
SIZES = ((1120, 680), (1280, 800), (1920, 1080))


def jobs() -> dict[str, Job]:
    """Jobs whose drawings differ most."""
    demo = demo_job()
    return {
        "demo": demo,
        "empty": fresh_job(),
        "foundry": demo_job(FOUNDRY),
        "three phases": test_bs_job.yard(system="400"),
        "no charger yet": put(demo, Put("charger.nameplate_a", None)),
        "open end": put(demo, Put("legs[leg-6].end", "bend")),
        "broken cable": straight(48, 40, method="nm", circuit__size="6"),
        "receptacle, neighbours": put(
            straight(32, 84.5, charger__connection="14-50", charger__terminal_c=None),
            Put("circuit.others", (Bundle(count=4, size="10"),)),
        ),
        "aluminium, kcmil": straight(160, 310, circuit__material="al", supply__service_a=400.0),
        "corners": demo.with_run(
            legs=legs(
                ("up", 2.6, "bend"),
                ("left", 11.3, "corner"),
                ("left", 7, "box"),
                ("up", 2, "bend"),
                ("left", 30, "pull elbow"),
                ("out", 0.7, "body"),
                ("down", 3, "charger"),
            )
        ),
        "many bends": demo.with_run(
            legs=legs(
                *[(("up", "right", "down", "right")[n % 4], 2 + n % 3, "bend") for n in range(14)], ("up", 1, "charger")
            )
        ),
        "full panel": full_panel(),
        "long": straight(48, 890),
        "attic": straight(48, 60, place="attic"),
        "metric": put(
            replace(demo, name="A long name for a cider yard in the north bay by the orchard"), Put("units", "m")
        ),
    }


def full_panel() -> Job:
    """Every kind of device in 42 spaces, everything wrong that can be, a year of data, two cars."""
    forms = ("1p", "2p", "tandem", "quad", "tied", "1p idle proved both", "2p idle", "2p solar", "1p fixed")
    job = read_entry("spaces 42 tandem 19", demo_job()).job
    for number, space in enumerate(range(19, 42, 4)):
        for shift in (0, 1):
            words = f"slot {space + shift} 20a {forms[(2 * number + shift) % len(forms)]} some long name {space}"
            job = read_entry(words, job).job
    for text in ("slot 14 open", "slot 16 filler", "accepts ZZ", "condition worn", "clear 20in 20in 60in", "bus 125a"):
        job = read_entry(text, job).job
    year = demand_edits(invented_for(job), 240.0, "a-long-name-of-a-file-of-interval-data.csv")
    return put(job, *year, *add_car(job))


def extent(text: Text) -> tuple[float, float, float, float]:
    """Left, top, right, bottom of the letters' body."""
    left = text.left
    return left, text.y - text.size * 0.68, left + text_width(text.text, text.face, text.size), text.y


class NothingOverlaps(DeskCase):
    def test_texts_are_whole_and_apart(self) -> None:
        for name, job in jobs().items():
            window = self.open(job)
            if name == "demo":
                window.keep_pencil()
                window.acts.scribe("4 al")
            # Every size for every job in the long target; here for the demo alone.
            for size in SIZES if LONG or name == "demo" else SIZES[:1]:
                window.resize(*size)
                for view in VIEWS:
                    stage, _, page = view.partition(":")
                    if page and name not in ("demo", "full panel", "empty"):
                        continue
                    pencils, run_page = page == "pencils", "bends" if page == "bends" else "line"
                    quote = "quote" if page == "quote" else "sticks"
                    practising = page == "practice"
                    page = page if stage == "panel" and page else "amps" if name not in BRITISH else ""
                    window.session.see(
                        pencils=pencils,
                        run_page=run_page,
                        wire_page="jobs" if page == "jobs" else "bores",
                        parts_page=quote,
                        practice=None,
                    )
                    window.session.see(stage=stage, page=page, at_m=window.session.design.line.length_m * 0.6)
                    if practising:
                        window.practise()
                    self.settle()
                    for region in window.regions:
                        if region.isVisible():
                            with self.subTest(job=name, size=size, view=view, region=region.name):
                                self.judge(region.canvas.picture)
            window.session.put_away()
            window.hide()

    def test_the_start_sheet_and_every_walk(self) -> None:
        long = "A long name for a cider yard in the north bay by the orchard, beside the old press house"
        summary = Summary(long, "stop", "Broken", "from $12,345", 8, "line broken at 123' 11 7/8\"", "")
        rows = [Shelved(f"/{n}", long, "yesterday, 16:10", summary) for n in range(40)]
        rows[3] = Shelved("/gone", long, "", None, "gone", f"The file is not where it was. {long}")
        for width, height in SIZES:
            for shown, filtered in (rows, long), (rows[:2], ""), ([], "zz"):
                for ways in (shipped(), (*shipped(), *(Way(long, long, None) for _ in range(4)))):
                    with self.subTest(size=(width, height), rows=len(shown), ways=len(ways)):
                        self.judge(draw_start(ways, shown, 30 if len(shown) > 30 else -1, filtered, width, height - 72))
        window = self.open(demo_job(), *SIZES[0])
        for way in shipped():
            assert way.job is not None
            window.session.open(begin(way.job), None)
            window.walking.begin()
            for step in range(len(window.session.look.walk)):
                window.walking.to(step)
                self.settle()
                with self.subTest(way=way.name, step=step):
                    self.judge(window.loupe.canvas.picture)

    def judge(self, picture: Picture) -> None:
        texts = [text for text in picture.texts() if text.text.strip()]
        for text in texts:
            left, top, right, bottom = extent(text)
            self.assertGreaterEqual(left, 0, text.text)
            self.assertLessEqual(right, picture.width + 0.5, text.text)
            self.assertGreaterEqual(top, 0, text.text)
            self.assertLessEqual(bottom, picture.height, text.text)
            table = _advances()[text.face]["advance"]
            self.assertEqual([letter for letter in text.text if letter not in table], [], text.text)
            self.assertGreaterEqual(text.size, 16 if text.face == "draw" else 13 if len(text.text) > 1 else 9)
        # From the top down: only those that share some height can meet.
        boxes = sorted(((extent(text), text.text) for text in texts), key=lambda each: each[0][1])
        for at, (one, said) in enumerate(boxes):
            for other, told in itertools.takewhile(lambda each: each[0][1] < one[3] - 0.6, boxes[at + 1 :]):  # noqa: B023
                beside = one[2] <= other[0] + 0.6 or other[2] <= one[0] + 0.6 or other[3] <= one[1] + 0.6
                self.assertTrue(beside, f"{said!r} {one} runs into {told!r} {other}")


class Faces(DeskCase):
    def test_advances_match_the_shipped_fonts(self) -> None:
        for face, size in (("text", 13), ("bold", 15), ("draw", 22)):
            metrics = QFontMetricsF(face_font(face, size))
            for text in ("Where does the line leave the panel?", "60 A, 5 to spare", "AVA To Wy 1", "6 AWG copper"):
                self.assertAlmostEqual(
                    text_width(text, face, size), metrics.horizontalAdvance(text), delta=0.012 * size * len(text) ** 0.5
                )

    def test_twenty_thousand_painter_calls(self) -> None:
        image = QImage(64, 64, QImage.Format.Format_ARGB32)
        painter = QPainter(image)
        picture = Picture(64, 64)
        for number in range(200):
            picture.line(0, number % 64, 64, 3)
            picture.text(2, 20, f"{number}")
        for _ in range(100):
            paint(painter, picture, "light")
        painter.end()
        once = QImage(64, 64, QImage.Format.Format_ARGB32)
        painter = QPainter(once)
        paint(painter, picture, "light")
        painter.end()
        inked = sum(image.pixelColor(x, y).alpha() > 0 for x in range(64) for y in range(64))
        self.assertGreater(inked, 0.9 * sum(once.pixelColor(x, y).alpha() > 0 for x in range(64) for y in range(64)))
        self.assertGreater(inked, 1000)

    def test_double_scale_paints_the_same_layout(self) -> None:
        script = textwrap.dedent(
            """
            import sys
            from awlmark.data import FOUNDRY, demo_job
            from awlmark.desk.start import make_application, make_window
            application = make_application()
            window = make_window(demo_job())
            window.show()
            for _ in range(6):
                application.processEvents()
            image = window.grab().toImage()
            texts = [t.text for region in window.regions for t in region.canvas.picture.texts()]
            print(image.width(), image.height(), len(texts), window.menuBar().height())
            window.session.put_away()
            """
        )
        told = []
        for factor in ("1", "2"):
            environment = {**os.environ, "QT_SCALE_FACTOR": factor}
            out = subprocess.run(
                [sys.executable, "-c", script], capture_output=True, text=True, check=True, env=environment
            ).stdout
            told.append([int(number) for number in out.split()])
        self.assertEqual(told[1][:2], [2 * told[0][0], 2 * told[0][1]])
        self.assertEqual(told[1][2:], told[0][2:])

    def test_the_menu_bar_shows_all_menus_at_the_smallest_window(self) -> None:
        window = self.open(demo_job(), 1120, 680)
        bar = window.menuBar()
        for action in bar.actions():
            area = bar.actionGeometry(action)
            self.assertTrue(area.isValid() and bar.rect().contains(area), action.text())
        self.assertEqual((window.width(), window.height()), (1120, 680))
        self.assertEqual(window.entry.echo.alignment() & Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignLeft)
