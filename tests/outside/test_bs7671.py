"""The British book against worked examples, physics, and a second sizing from the tables alone."""

import contextlib
import io
import json
import math
import unittest
from typing import Any

from awlmark.cli import main
from tests.outside.bs_campaign import campaign

CODE = "bs7671-2018a2"


def size(words: str) -> dict[str, Any]:
    """What the command line says of a circuit, with its exit status."""
    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        status = main(["size", "--code", CODE, *words.split(), "--format", "json"])
    told: dict[str, Any] = json.loads(out.getvalue()) if out.getvalue() else {}
    return {**told, "status": status}


def severities(told: dict[str, Any]) -> dict[str, str]:
    """Severity by finding."""
    return {finding["id"]: finding["severity"] for finding in told["findings"]}


class Examples(unittest.TestCase):
    """Worked by hand from the shipped tables: common arithmetic of the Regulations, no published source."""

    def check(self, words: str, **wanted: Any) -> dict[str, Any]:
        told = size(words)
        found = {
            "size": told["conductor"]["size"], "volts": told["drop"]["volts"], "percent": told["drop"]["percent"],
            "cpc": told["ground"]["size"], "zs": told["earth"]["zs_ohm"], "limit": told["earth"]["limit_ohm"],
            "iz": told["ampacity_a"], "breaker": told["breaker"]["rating_a"], "verdict": told["verdict"],
            "cold": told["earth"]["measured_limit_ohm"], "it": told["tabulated_a"],
        }  # fmt: skip
        for name, value in wanted.items():
            if isinstance(value, float):
                self.assertAlmostEqual(
                    found[name], value, delta=0.006 if name == "iz" else 0.0006, msg=f"{words}: {name}"
                )
            else:
                self.assertEqual(found[name], value, f"{words}: {name}")
        return told

    def test_01_clipped_on_tn_s(self) -> None:
        self.check("--charge-a 32 --length 9m --method te-clipped --earthing tn-s --ze 0.80", size="4", volts=3.168,
                   percent=1.377, cpc="1.5", zs=0.9805, limit=1.37, verdict="holds")  # fmt: skip

    def test_02_forty_amps_as_the_maker_asks(self) -> None:
        self.check("--charge-a 32 --breaker 40 --length 22m --method te-clipped --ze 0.35", size="6", volts=5.139,
                   percent=2.234, cpc="2.5", zs=0.6269, limit=1.09, cold=0.872, verdict="holds")  # fmt: skip

    def test_03_stud_wall(self) -> None:
        self.check("--charge-a 32 --length 14m --method te-102 --ze 0.35", size="6", iz=35.0, volts=3.27,
                   percent=1.422, zs=0.5262, verdict="holds")  # fmt: skip

    def test_04_hot_loft(self) -> None:
        self.check("--charge-a 32 --length 20m --method te-100 --ambient 45C --ze 0.35", size="10", iz=35.55,
                   volts=2.816, percent=1.224, zs=0.5046, verdict="holds")  # fmt: skip
        unread = size("--charge-a 32 --length 20m --method te-100 --ze 0.35")
        self.assertEqual((unread["verdict"], unread["ampacity_a"]), ("unread", None))
        self.assertEqual(severities(unread)["conductor"], "unread")
        self.assertIsNone(unread["factors"]["ca"])

    def test_05_far_armoured(self) -> None:
        self.check("--charge-a 32 --length 64m --method swa-clipped --earthing tn-s --ze 0.80", size="10",
                   volts=9.011, percent=3.918, zs=1.0811, limit=1.37, verdict="holds")  # fmt: skip
        for pinned, percent in (("4", 9.79), ("6", 6.50)):
            told = size(f"--charge-a 32 --length 64m --method swa-clipped --earthing tn-s --ze 0.80 --size {pinned}")
            self.assertAlmostEqual(told["drop"]["percent"], percent, delta=0.006)
            self.assertEqual(severities(told)["drop"], "tight")

    def test_06_direct_in_cold_ground(self) -> None:
        self.check("--charge-a 32 --length 30m --method swa-direct --ground-temp 15C --ze 0.35", size="4",
                   iz=34.965, volts=10.56, percent=4.591, zs=0.6819, verdict="holds")  # fmt: skip

    def test_07_three_phases(self) -> None:
        words = "--system 400 --charge-a 32 --length 28m --method singles-conduit --circuits 2 --ambient 35C --ze 0.35"
        self.check(f"{words} --pen v", size="10", it=50.0, iz=37.6, volts=3.405, percent=0.851, zs=0.4730,
                   verdict="holds")  # fmt: skip
        told = size(f"{words} --pen iv")
        self.assertEqual((severities(told)["pme"], told["status"]), ("stop", 1))
        self.assertEqual(told["breaker"]["poles"], 4)

    def test_08_marked_13_a_outlet(self) -> None:
        words = "--connection ev13 --length 35m --method te-clipped --ze 0.35"
        self.check(f"{words} --charge-a 10", breaker=16, size="1.5", iz=20.0, volts=10.15, percent=4.413, cpc="1.0",
                   zs=1.6184, limit=2.73, verdict="holds")  # fmt: skip
        self.check(f"{words} --charge-a 10 --size 2.5", volts=6.30, percent=2.739)
        told = size(f"{words} --charge-a 13")
        self.assertEqual((severities(told)["socket"], told["status"], told["needed_a"]), ("stop", 1, 13))

    def test_09_type_c_over_its_loop(self) -> None:
        words = "--charge-a 32 --breaker 40 --length 30m --method swa-clipped --size 6 --ze 0.35"
        told = self.check(f"{words} --device c", volts=7.008, percent=3.047, zs=0.5718, limit=0.55, verdict="tight")
        self.assertEqual(severities(told)["zs"], "tight")
        self.check(f"{words} --device b", limit=1.09, verdict="holds")

    def test_10_electrode(self) -> None:
        words = "--charge-a 32 --length 10m --method te-clipped --earthing tt"
        told = self.check(f"{words} --ra 240", size="4", volts=3.52, percent=1.530, verdict="tight")
        self.assertEqual(severities(told)["electrode"], "tight")
        self.assertNotIn("zs", severities(told))
        self.assertEqual(severities(size(f"{words} --ra 90"))["electrode"], "holds")
        self.assertEqual(severities(size(f"{words} --ra 1700"))["electrode"], "stop")
        self.assertEqual(severities(size(words))["electrode"], "unread")

    def test_11_conduit(self) -> None:
        for words, terms, room, percent, holds in (
            ("3x6:pvc70 --trade-size 20 --length 4m --bends 2", 174, 213, 81.69, True),
            ("6x6:pvc70 --trade-size 20 --length 4m --bends 2", 348, 213, 163.38, False),
            ("6x6:pvc70 --trade-size 25 --length 4m --bends 2", 348, 388, 89.69, True),
            ("3x6:pvc70 --trade-size 20 --length 2.5m", 264, 460, 57.39, True),
        ):
            out = io.StringIO()
            with contextlib.redirect_stdout(out):
                asked = ["fill", "--code", CODE, "--raceway", "pvc-conduit", "--format", "json", "--conductors"]
                status = main([*asked, *words.split()])
            told = json.loads(out.getvalue())
            self.assertEqual((told["cable_terms"], told["conduit_term"]), (terms, room))
            self.assertEqual((told["fill_percent"], told["holds"], status), (percent, holds, 1 - holds))
            self.assertNotIn("jam_ratio", told)

    def test_12_in_insulation(self) -> None:
        self.check("--charge-a 32 --length 8m --method te-clipped --insulated 100mm --ambient 35C --ze 0.35",
                   size="6", iz=34.46, volts=1.869, percent=0.813, zs=0.4507, verdict="holds")  # fmt: skip
        told = size("--charge-a 32 --length 8m --method te-clipped --insulated 100mm --ambient 35C --size 4")
        self.assertAlmostEqual(told["ampacity_a"], 27.13, delta=0.006)

    def test_the_yard(self) -> None:
        """18 m of armoured cable, most of it clipped by a furnace and in a duct: the duct governs."""
        self.check("--charge-a 32 --breaker 40 --length 18m --method swa-duct --ze 0.35", size="6", iz=41.4,
                   volts=4.205, percent=1.828, zs=0.4831, limit=1.09)  # fmt: skip
        self.check("--charge-a 32 --breaker 40 --length 18m --method swa-clipped --ambient 40C --ze 0.35", size="6",
                   iz=42.63)  # fmt: skip
        self.assertAlmostEqual(230 / 0.4831 * math.sqrt(0.1) / 143, 1.05, delta=0.005)


class SecondSizing(unittest.TestCase):
    def test_random_circuits_are_sized_alike(self) -> None:
        """Five thousand and more by hand: ``campaign(5000, seed)``."""
        self.assertEqual(campaign(700, 11), [])
