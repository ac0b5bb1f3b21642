"""The command line is a contract."""

import contextlib
import io
import json
import os
import socket
import subprocess
import sys
import tempfile
import unittest
import xml.etree.ElementTree as ET
from pathlib import Path
from unittest import mock

from awlmark import terminal
from awlmark.cli import main
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import save_job
from awlmark.core.job.model import Overrule
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import LONG, straight


def run(*words: str) -> tuple[int, str, str]:
    """Exit status, stdout and stderr of one command."""
    out, err = io.StringIO(), io.StringIO()
    with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
        try:
            status = main(list(words))
        except SystemExit as stop:
            status = int(stop.code or 0)
    return status, out.getvalue(), err.getvalue()


def size(text: str) -> dict[str, object]:
    """JSON of ``awlmark size``."""
    status, out, _err = run("size", *text.split(), "--format", "json")
    told = json.loads(out)
    told["status"] = status
    return told  # type: ignore[no-any-return]


def really(*words: str, out: int | None = subprocess.PIPE, **environment: str) -> subprocess.CompletedProcess[bytes]:
    """The command in a process of its own, without a display unless one is given."""
    names = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    plain = {name: value for name, value in os.environ.items() if name not in names}
    return subprocess.run(
        [sys.executable, "-m", "awlmark", *words], stdout=out, stderr=subprocess.PIPE, env=plain | environment,
        check=False, timeout=120,
    )  # fmt: skip


class Troubles(unittest.TestCase):
    """Every end that is no answer: one line, its own exit status, no traceback."""

    def told(self, done: subprocess.CompletedProcess[bytes], status: int) -> str:
        lines = done.stderr.decode().splitlines()
        self.assertEqual((done.returncode, len(lines)), (status, 1), done.stderr)
        self.assertTrue(lines[0].startswith("awlmark: "))
        return lines[0]

    def test_output_that_cannot_be_written(self) -> None:
        with Path("/dev/full").open("wb") as full:
            for words in (("size", "--charge-a", "48", "--length", "120ft"), ("schema",)):
                self.assertIn("no space", self.told(really(*words, out=full.fileno()), 2))

    def test_a_terminal_that_knows_no_degrees(self) -> None:
        plain = {"LC_ALL": "C", "PYTHONUTF8": "0", "PYTHONCOERCECLOCALE": "0"}
        done = really("size", "--charge-a", "48", "--length", "120ft", **plain)
        self.assertEqual((done.returncode, done.stderr), (0, b""))
        self.assertIn(b" deg C", done.stdout)

    def test_what_nobody_foresaw_is_3_and_logged(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.dict(os.environ, {"XDG_STATE_HOME": folder}),
            mock.patch("awlmark.cli._size", side_effect=ZeroDivisionError("deep")),
        ):
            status, _out, err = run("size")
            self.assertEqual((status, err.count("\n")), (3, 1))
            log = Path(folder, "awlmark", "awlmark.log")
            self.assertIn(str(log), err)
            self.assertIn("deep", log.read_text(encoding="utf-8"))
            self.assertEqual(log.stat().st_mode & 0o777, 0o600)

    def test_words_that_are_neither_command_nor_file(self) -> None:
        self.assertIn("Did you mean 'size'?", run("sizes")[2])
        self.assertIn("no file", run("nowhere/x.awlmark")[2])
        self.assertEqual([run("sizes")[0], run("nowhere/x.awlmark")[0], run("help")[0]], [2, 2, 0])
        self.assertIn("Exit status", run("help")[1])

    def test_no_display_is_said_with_what_works_without_one(self) -> None:
        self.assertIn("awlmark check FILE", self.told(really("demo"), 2))
        with tempfile.TemporaryDirectory() as folder:
            nobody = {
                "DISPLAY": ":4711",
                "WAYLAND_DISPLAY": "wayland-7",
                "XDG_RUNTIME_DIR": folder,
                "QT_QPA_PLATFORM": "",
            }
            for told, shown in (
                (nobody, "wayland-7 and :4711"), (nobody | {"WAYLAND_DISPLAY": ""}, "display :4711 does"),
                (nobody | {"WAYLAND_DISPLAY": "", "DISPLAY": "localhost:4711.0"}, "localhost:4711.0"),
                (nobody | {"WAYLAND_DISPLAY": "", "DISPLAY": ":"}, "display : does"),
                (nobody | {"WAYLAND_DISPLAY": "", "DISPLAY": "nonsense"}, "display nonsense does"),
                (nobody | {"WAYLAND_DISPLAY": "", "DISPLAY": f"unix:{folder}/none:0"}, "none:0 does"),
            ):  # fmt: skip
                with mock.patch.dict(os.environ, told):
                    status, _out, said = run("demo")
                    self.assertEqual(status, 2)
                    self.assertIn(shown, said)
            with socket.socket(socket.AF_UNIX) as compositor, mock.patch.dict(os.environ, nobody):
                compositor.bind(str(Path(folder) / "wayland-7"))
                compositor.listen()
                terminal.wants_a_display()
            with (
                mock.patch.dict(os.environ, nobody | {"DISPLAY": f"{folder}/x:0"}),
                socket.socket(socket.AF_UNIX) as line,
            ):
                line.bind(f"{folder}/x")
                line.listen()
                terminal.wants_a_display()
            with socket.create_server(("localhost", 0)) as line:
                number = line.getsockname()[1] - terminal.FIRST_PORT
                with mock.patch.dict(os.environ, nobody | {"DISPLAY": f"localhost:{number}.0"}):
                    terminal.wants_a_display()

    def test_ctrl_c_is_one_line(self) -> None:
        with mock.patch("awlmark.cli._size", side_effect=KeyboardInterrupt):
            self.assertEqual(run("size"), (130, "", "awlmark: stopped\n"))


class Size(unittest.TestCase):
    def test_keys_of_the_contract(self) -> None:
        told = size("--charge-a 48 --length 120ft")
        wanted = {
            "verdict",
            "charge_a",
            "needed_a",
            "breaker",
            "conductor",
            "neutral",
            "ground",
            "ampacity_a",
            "drop",
            "raceway",
            "findings",
            "not_asked",
        }
        self.assertEqual(set(told) - {"status"}, wanted)
        # What only a visit tells is no finding of a bare quote, and no hold either.
        asked = {one["id"] for one in told["not_asked"]}
        self.assertLessEqual({"terminals", "demand:service", "space", "family", "working-space", "fault"}, asked)
        self.assertFalse({one["id"] for one in told["findings"] if one["severity"] == "unread"})
        self.assertEqual(told["breaker"], {"rating_a": 60, "poles": 2, "gfci": False})
        self.assertEqual(told["conductor"], {"size": "6", "material": "cu", "insulation": "thwn-2", "count": 2})
        self.assertEqual(told["ground"], {"size": "10", "material": "cu"})
        self.assertEqual((told["charge_a"], told["needed_a"], told["ampacity_a"], told["neutral"]), (48, 60, 65, None))
        self.assertEqual(set(told["drop"]), {"volts", "percent", "at_charger_v"})
        self.assertEqual(set(told["raceway"]), {"type", "trade_size", "fill_percent", "limit_percent"})
        for finding in told["findings"]:
            self.assertEqual(set(finding), {"id", "severity", "cite", "text", "found", "needed", "unit"})
        self.assertEqual((told["verdict"], told["status"]), ("note", 0))

    def test_heads_its_answer_with_what_was_looked_at(self) -> None:
        status, out, _err = run("size", "--charge-a", "48", "--length", "60ft", "--terminal", "75")
        self.assertEqual(status, 0)
        self.assertIn("HOLDS as far as asked by NEC 2023: breaker, wire, ground, pipe, drop", out)
        self.assertIn("Not asked", out)

    def test_what_a_quote_leans_on_is_asked_even_there(self) -> None:
        for words, finding in (
            ("--material al --trade-size 1", "lug:panel"), ("--place buried", "cover:leg-1"),
            ("--method ac --place attic --ambient 30C", "insulated:1"), ("--size 1/0 --trade-size 2", "lug:charger"),
        ):  # fmt: skip
            with self.subTest(words=words):
                told = size(f"--charge-a 48 --length 60ft --terminal 75 {words}")
                self.assertEqual(told["verdict"], "unread")
                self.assertIn(finding, {one["id"] for one in told["findings"] if one["severity"] == "unread"})
        self.assertEqual(size("--charge-a 48 --length 20ft --method nm --size 1/0")["status"], 1)

    def test_two_equal_wires_name_note_7_and_the_printed_limit(self) -> None:
        told = size("--charge-a 12 --length 20ft --terminal 75 --connection 5-20")
        self.assertIn(told["raceway"]["limit_percent"], (31, 40))

    def test_every_option(self) -> None:
        told = size(
            "--charge-a 32 --length 60 --code nec-2020 --system 120/208 --connection 14-50 --method pvc40 "
            "--material al --insulation xhhw-2 --ambient 104F --extra-ccc 2 --terminal 60 --max-drop 2 "
            "--place outdoor --occupancy other"
        )
        self.assertEqual(told["conductor"]["material"], "al")
        self.assertEqual(told["neutral"]["size"], told["conductor"]["size"])
        self.assertTrue(told["breaker"]["gfci"])
        self.assertEqual(told["status"], 0)
        pinned = size(
            "--charge-a 48 --length 60 --size 4 --trade-size 1 --ground-size 8 --other-conductors 4x10:thwn-2"
        )
        self.assertEqual(
            (pinned["conductor"]["size"], pinned["raceway"]["trade_size"], pinned["ground"]["size"]), ("4", "1", "8")
        )

    def test_a_stop_exits_1(self) -> None:
        told = size("--charge-a 48 --length 60 --method nm --size 6")
        self.assertEqual((told["verdict"], told["status"], told["raceway"]), ("stop", 1, None))
        self.assertEqual(run("size", "--charge-a", "48", "--length", "60", "--method", "nm", "--size", "6")[0], 1)

    def test_attic_without_ambient_is_unread_with_status_0(self) -> None:
        told = size("--charge-a 48 --length 60 --place attic")
        self.assertEqual((told["verdict"], told["ampacity_a"], told["status"]), ("unread", None, 0))
        self.assertEqual(size("--charge-a 48 --length 60 --place attic --ambient 50C")["ampacity_a"], 61.5)

    def test_terminal_given_leaves_no_note(self) -> None:
        self.assertEqual(size("--charge-a 48 --length 60 --terminal 75")["verdict"], "holds")
        self.assertEqual(size("--charge-a 48 --length 60 --terminal 60")["conductor"]["size"], "4")

    def test_120_volts(self) -> None:
        told = size("--charge-a 12 --length 30 --connection 5-20")
        self.assertEqual((told["conductor"]["count"], told["breaker"]["poles"]), (1, 1))
        self.assertIsNotNone(told["neutral"])

    def test_unusable_input_is_one_line_naming_the_field(self) -> None:
        cases = {
            "--charge-a nan --length 10": "charge-a",
            "--charge-a 0 --length 10": "charge-a",
            "--charge-a -5 --length 10": "charge-a",
            "--charge-a 1e9 --length 10": "charge-a",
            "--charge-a 48 --length 0": "length",
            "--charge-a 48 --length -3": "length",
            "--charge-a 48 --length 99999999": "length",
            "--charge-a 48": "length",
            "--charge-a 48 --length 10 --size 7": "conductor size",
            "--charge-a 48 --length 10 --code nec-1999": "code",
            "--charge-a 48 --length 10 --system 480": "system",
            "--charge-a 48 --length 10 --connection 10-30": "connection",
            "--charge-a 48 --length 10 --method rope": "method",
            "--charge-a 48 --length 10 --material steel": "material",
            "--charge-a 48 --length 10 --material al --method nm": "material",
            "--charge-a 48 --length 10 --material al --method mc": "material",
            "--charge-a 48 --length 10 --material al --method uf": "material",
            "--charge-a 48 --length 10 --insulation silk": "insulation",
            "--charge-a 48 --length 10 --ambient 30": "ambient",
            "--charge-a 48 --length 10 --ambient 900C": "ambient",
            "--charge-a 48 --length 10 --extra-ccc 1.5": "extra-ccc",
            "--charge-a 48 --length 10 --terminal 90": "terminal",
            "--charge-a 48 --length 10 --max-drop 0": "max-drop",
            "--charge-a 48 --length 10 --trade-size 9": "trade size",
            "--charge-a 48 --length 10 --trade-size 3/4 --method nm": "trade size",
            "--charge-a 48 --length 10 --ground-size x": "ground size",
            "--charge-a 48 --length 10 --other-conductors four": "other-conductors",
            "--charge-a 48 --length 10 --other-conductors 0x6": "other-conductors",
            "--charge-a 48 --length 10 --place moon": "place",
            "--charge-a 48 --length 10 --occupancy castle": "occupancy",
            "--charge-a 48 --length 10 --nonsense 1": "nonsense",
        }
        for text, field in cases.items():
            status, out, err = run("size", *text.split())
            with self.subTest(text):
                self.assertEqual((status, out), (2, ""))
                self.assertEqual(err.count("\n"), 1)
                self.assertIn(field, err)

    @settings(max_examples=1500 if LONG else 120, deadline=None)
    @given(
        st.lists(
            st.one_of(
                st.sampled_from(
                    ["size", "fill", "check", "export", "schema", "--charge-a", "--length", "--to", "--conductors"]
                ),
                st.sampled_from(
                    ["--format", "json", "text", "--size", "6", "--method", "emt", "--raceway", "3/4", "-1", "nan"]
                ),
                st.text(max_size=12),
            ),
            min_size=1,
            max_size=10,
        )
    )
    def test_no_words_make_a_traceback(self, words: list[str]) -> None:
        if words[0] not in ("size", "fill", "check", "export", "schema"):
            words = ["size", *words]
        status, _out, err = run(*words)
        self.assertIn(status, (0, 1, 2))
        if status == 2:
            self.assertEqual(err.count("\n"), 1)


class Fill(unittest.TestCase):
    def fill(self, text: str) -> tuple[int, dict[str, object]]:
        status, out, _err = run("fill", *text.split(), "--format", "json")
        return status, json.loads(out)

    def test_contract(self) -> None:
        status, told = self.fill("--raceway emt --trade-size 3/4 --conductors 3x6:thwn-2,1x10:thwn-2 --length 18in")
        self.assertEqual(
            set(told),
            {"fill_percent", "limit_percent", "area_in2", "internal_area_in2", "jam_ratio", "holds", "not_asked"},
        )
        self.assertEqual((status, told["limit_percent"], told["jam_ratio"]), (0, 60, None))

    def test_limits_by_count(self) -> None:
        for conductors, limit in (("1x2", 53), ("2x6", 31), ("3x6", 40)):
            self.assertEqual(
                self.fill(f"--raceway emt --trade-size 1 --conductors {conductors}")[1]["limit_percent"], limit
            )

    def test_overfull_exits_1_and_a_cable_counts_by_its_larger_diameter(self) -> None:
        self.assertEqual(self.fill("--raceway emt --trade-size 3/4 --conductors 5x12:thwn-2,3x6:thwn-2")[0], 1)
        status, told = self.fill("--raceway pvc40 --trade-size 1 --conductors 1x0.74in:cable")
        self.assertEqual((status, told["limit_percent"]), (0, 53))
        self.assertEqual(self.fill("--raceway pvc40 --trade-size 1 --conductors 1x0.76in:cable")[0], 1)

    def test_equal_is_by_diameter_not_by_name(self) -> None:
        told = self.fill("--raceway pvc40 --trade-size 3/4 --conductors 2x6:thwn-2,1x6:thhn")[1]
        self.assertEqual(told["jam_ratio"], 3.17)
        self.assertIsNone(
            self.fill("--raceway pvc40 --trade-size 3/4 --conductors 2x6:thwn-2,1x6:xhhw-2")[1]["jam_ratio"]
        )

    def test_text(self) -> None:
        status, out, _err = run("fill", "--raceway", "emt", "--trade-size", "3/4", "--conductors", "3x6")
        self.assertEqual(status, 0)
        self.assertIn("28.5 %", out)


class Files(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        self.path = self.folder / "cider.awlmark"
        save_job(demo_job(), self.path)

    def test_check(self) -> None:
        status, out, _err = run("check", str(self.path), "--format", "json")
        told = json.loads(out)
        self.assertEqual((status, told["verdict"], told["code"]), (0, "holds", "nec-2023"))
        self.assertAlmostEqual(told["run"]["length_m"], 99.3333 * 0.3048, places=3)
        self.assertEqual(told["run"]["bends_deg"], 270)
        self.assertEqual(set(told["parts"][0]), {"item", "qty", "unit", "each", "total", "mark"})
        self.assertAlmostEqual(told["cost"]["total"], sum(part["total"] for part in told["parts"]), places=2)
        self.assertEqual(run("check", str(self.path))[0], 0)
        save_job(straight(48, 40, method="nm", circuit__size="6"), self.path)
        self.assertEqual(run("check", str(self.path))[0], 1)

    def test_an_overruled_stop_still_counts_unless_it_is_accepted(self) -> None:
        job = straight(48, 40, method="nm", circuit__size="6")
        stops = tuple(Overrule(finding=stop.id, reason="inspector agreed on site") for stop in solve(job).stops)
        save_job(put(job, Put("overrules", stops)), self.path)
        self.assertEqual(run("check", str(self.path))[0], 1)
        self.assertEqual(run("check", str(self.path), "--accept-overrules")[0], 0)
        told = json.loads(run("check", str(self.path), "--format", "json")[1])
        self.assertEqual(set(told["overruled"]), {stop.finding for stop in stops})
        target = ("--to", str(self.folder / "o"), "--only", "parts.csv")
        self.assertEqual(run("export", str(self.path), *target)[0], 1)
        self.assertEqual(run("export", str(self.path), *target, "--accept-overrules")[0], 0)

    def test_a_whole_job_with_questions_holds_as_far_as_asked(self) -> None:
        save_job(put(demo_job(), Put("supply.spot", None)), self.path)
        status, out, _err = run("check", str(self.path))
        self.assertEqual(status, 0)
        self.assertIn("HOLDS as far as asked by NEC 2023, 1 question open", out)
        told = json.loads(run("check", str(self.path), "--format", "json")[1])
        self.assertEqual((told["verdict"], told["said"]), ("unread", "holds as far as asked"))
        asked = {"id": "panel-place", "title": "Panel's place", "stage": "panel", "ask": "spot"}
        self.assertEqual(told["not_asked"], [asked])

    def test_compare(self) -> None:
        status, out, _err = run("compare", str(self.path), "--format", "json", "--top", "5")
        told = json.loads(out)
        self.assertEqual((status, len(told["choices"]), told["code"]), (0, 5, "nec-2023"))
        self.assertGreater(told["candidates"], 500)
        first = told["choices"][0]
        self.assertEqual(
            set(first),
            {"method", "connection", "breaker_a", "conductor", "ground", "trade_sizes", "price", "drop_percent",
             "loss_w", "pull_lbf", "hours", "pareto", "broken"},
        )  # fmt: skip
        self.assertEqual(first["broken"], [])
        self.assertEqual(run("compare", str(self.path), "--format", "json", "--top", "5")[1], out)
        status, out, _err = run("compare", str(self.path), "--rank", "loss")
        self.assertIn("circuits looked at", out)
        for words in (
            ("--top", "0"),
            ("--rank", "colour"),
            ("--top", "many"),
            ("--where", "drop"),
            ("--where", "size=5"),
        ):
            status, _out, err = run("compare", str(self.path), *words)
            self.assertEqual((status, err.count("\n")), (2, 1), words)

    def test_export(self) -> None:
        target = self.folder / "out"
        status, out, _err = run("export", str(self.path), "--to", str(target), "--only", "parts.csv,walls.svg")
        self.assertEqual((status, len(out.splitlines())), (0, 2))
        root = ET.parse(target / "walls.svg").getroot()
        self.assertTrue(root.tag.endswith("svg"))
        first = (target / "parts.csv").read_bytes()
        self.assertTrue(first.startswith(b"item,qty,unit,each,total"))
        run("export", str(self.path), "--to", str(target))
        self.assertEqual((target / "parts.csv").read_bytes(), first)

    def test_refusals(self) -> None:
        for words in (
            ("check", str(self.folder / "none.awlmark")),
            ("check", str(self.folder)),
            ("export", str(self.path), "--to", "/proc/nowhere"),
            ("export", str(self.path), "--to", str(self.path)),
            ("export", str(self.path), "--to", str(self.folder), "--only", "song.mp3"),
            ("export", str(self.path)),
            ("check",),
        ):
            status, _out, err = run(*words)
            with self.subTest(words):
                self.assertEqual((status, err.count("\n")), (2, 1))

    def test_schema_and_version(self) -> None:
        self.assertEqual(json.loads(run("schema")[1])["title"], "Awlmark job")
        self.assertIn("awlmark", run("--version")[1])

    def test_size_stays_light(self) -> None:
        script = (
            "import sys; from awlmark.cli import main; main(['size', '--charge-a', '48', '--length', '12']); "
            "print(sorted(m for m in sys.modules if m.split('.')[0] in ('PySide6', 'scipy')))"
        )
        out = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True).stdout
        self.assertEqual(out.splitlines()[-1], "[]")
