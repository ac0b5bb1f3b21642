"""The region of the desktop: decimal commas, dates, paper, units and the rule book of a first job."""

import json
import os
import subprocess
import sys
import textwrap
from unittest import mock

from PySide6.QtCore import QLocale

from awlmark.core.shelf import NEWEST
from awlmark.desk import regional
from tests.desk.support import DeskCase
from tests.support import OFFSCREEN

WINDOW = """
import json
from awlmark.desk import regional, start
application = start.make_application()
window = start.show(False)
job = window.session.job
told = {"code": job.code, "units": job.units, "paper": job.papers.paper,
        "day": regional.day(1.7e9), "moment": regional.moment(1.7e9)}
window.session.see(start=False)
def type(text):
    window.entry.line.setText(text)
    window.entry.line.returnPressed.emit()
    return window.entry.echo.text()
told["said"] = [type(text) for text in ("name Yard 3,5", "right 3,8m", "right 1.500", "load oven 3,5 kw")]
told["name"] = window.session.job.name
told["length"] = sum(leg.length_m for leg in window.session.job.legs)
told["va"] = [load.va for load in window.session.job.loads]
window.session.see(stage="panel")
window.typed._load_typed(0, 1, "4,25 kw")
window.typed._load_typed(0, 0, "oven 2,5")
told["typed"] = [[load.name, load.va] for load in window.session.job.loads]
print(json.dumps(told))
window.session.put_away()
"""


class Regions(DeskCase):
    def told(self, **environment: str) -> dict[str, object]:
        """What a window says in a region; its own settings and state, nothing kept."""
        clean = {name: value for name, value in os.environ.items() if not name.startswith(("LC_", "LANG"))}
        homes = {"XDG_STATE_HOME": str(self.folder), "XDG_CONFIG_HOME": str(self.folder)}
        done = subprocess.run(
            [sys.executable, "-W", "error", "-c", textwrap.dedent(WINDOW)], capture_output=True, text=True, check=False,
            env={**clean, **homes, "QT_QPA_PLATFORM": OFFSCREEN, **environment},
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, done.stderr)
        found: dict[str, object] = json.loads(done.stdout.splitlines()[-1])
        return found

    def test_commas_where_the_region_writes_them(self) -> None:
        told = self.told(LC_ALL="de_DE.UTF-8", TZ="Europe/Berlin")
        self.assertEqual((told["code"], told["units"], told["paper"]), ("nec-2023", "m", None))  # its usual one is A4
        self.assertEqual((told["day"], told["moment"]), ("14.11.2023", "14.11.2023 23:13"))
        self.assertEqual(told["name"], "Yard 3,5")
        self.assertAlmostEqual(told["length"], 3.8)  # type: ignore[arg-type]
        self.assertIn("may be 1500 or 1,5", told["said"][2])  # type: ignore[index]
        self.assertEqual((told["va"], told["typed"]), ([3500.0], [["oven 2,5", 4250.0]]))

    def test_points_where_the_region_writes_those(self) -> None:
        told = self.told(LANG="en_US.UTF-8", LC_PAPER="de_DE.UTF-8", TZ="Pacific/Kiritimati")
        self.assertEqual((told["code"], told["units"], told["paper"]), ("nec-2023", "ft", "a4"))
        self.assertEqual((told["day"], told["moment"]), ("11/15/2023", "11/15/2023 12:13\u202fPM"))
        self.assertIn("Can't read", told["said"][1])  # type: ignore[index]
        self.assertEqual((told["va"], told["typed"]), ([], [["oven 2,5", 1500.0]]))  # guessed: its amps were refused

    def test_the_british_book_at_home(self) -> None:
        told = self.told(LANG="en_GB.UTF-8")
        self.assertEqual((told["code"], told["units"], told["paper"]), ("bs7671-2018a2", "m", None))
        self.assertEqual(told["day"], "14/11/2023")

    def test_where_no_region_is_told(self) -> None:
        nowhere = mock.patch.object(QLocale, "system", staticmethod(QLocale.c))
        with nowhere, mock.patch.dict(os.environ, {"LC_ALL": "C"}):
            self.assertEqual((regional.first_code(), regional.first_units(), regional.first_paper()),
                             (NEWEST, "ft", ""))  # fmt: skip
            self.assertEqual(regional.day(1.7e9), "2023-11-14")
            self.assertEqual(regional.typed("swing 3,8"), "swing 3,8")
