"""The pictures that `make demo` draws where there is no display, and `make shots` for the README."""

import importlib.util
import os
import re
from pathlib import Path
from unittest import mock

from PySide6.QtGui import QImage

from tests.desk.support import DeskCase
from tests.support import LONG

ROOT = Path(__file__).parent.parent.parent


class Shots(DeskCase):
    def test_every_view_is_drawn_and_the_readme_shows_each(self) -> None:
        with mock.patch.dict(os.environ):
            spec = importlib.util.spec_from_file_location("shots", ROOT / "tools" / "shots.py")
            assert spec is not None and spec.loader is not None
            shots = importlib.util.module_from_spec(spec)
            spec.loader.exec_module(shots)
            # What the window has to do is done when asked; nothing waits for the clock.
            shots.settle = lambda _application: self.settle()
            names = {name for name, _view, _mode in shots.VIEWS}
            # Each view in the long target, every third here: other tests show every stage.
            shots.VIEWS = shots.VIEWS[:: 1 if LONG else 3]
            made = shots.main(self.folder)
        self.assertEqual({path.stem for path in made}, {name for name, _view, _mode in shots.VIEWS})
        self.assertLess(len(names), 20)
        for path in made:
            image = QImage(str(path))
            self.assertEqual((image.width(), image.height()), (1280, 800), path.stem)
        shown = set(re.findall(r"docs/screenshots/([a-z-]+)\.png", (ROOT / "README.md").read_text(encoding="utf-8")))
        self.assertEqual(shown, names)
        self.assertEqual({path.stem for path in (ROOT / "docs" / "screenshots").glob("*.png")}, names)
