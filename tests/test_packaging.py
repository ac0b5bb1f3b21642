"""What stands round the program: help, man page, completions, desktop entry, what Qt needs of the system."""

import configparser
import ctypes
import importlib.util
import os
import re
import subprocess
import sys
import unittest
import xml.etree.ElementTree as ET
from pathlib import Path
from unittest import mock

import awlmark
from awlmark import terminal
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.file import dumps
from awlmark.data import demo_job
from awlmark.options import COMMANDS, STATUSES, told
from awlmark.quote import COMMON, OF_BOOK
from tests.test_cli import run

ROOT = Path(__file__).parent.parent
PACKAGING = ROOT / "packaging"


class Packaging(unittest.TestCase):
    def test_man_page_and_completions_are_the_tables(self) -> None:
        spec = importlib.util.spec_from_file_location("pages", ROOT / "tools" / "pages.py")
        assert spec is not None and spec.loader is not None
        pages = importlib.util.module_from_spec(spec)
        spec.loader.exec_module(pages)
        for name, made in pages.PAGES.items():
            self.assertEqual((PACKAGING / name).read_text(encoding="utf-8"), made(), f"make pages, for {name}")

    def test_every_option_is_told_by_help(self) -> None:
        for command in COMMANDS:
            status, said, _err = run(command.name, "--help")
            flat = " ".join(said.split())
            self.assertEqual(status, 0)
            for option in command.options:
                self.assertIn(option.name if option.name.startswith("-") else option.value, said)
                self.assertIn(" ".join(told(option).split())[:30], flat)
            for example in command.examples:
                self.assertIn(example, said)
            for number, says in STATUSES:
                self.assertIn(f"{number} {says}", flat)

    def test_the_table_has_what_a_quote_takes(self) -> None:
        size = next(command for command in COMMANDS if command.name == "size")
        self.assertEqual({option.name for option in size.options} - {"--charge-a", "--length", "--format"},
                         {f"--{name}" for name in (*COMMON, *OF_BOOK)})  # fmt: skip

    def test_examples_are_read(self) -> None:
        for command in COMMANDS:
            if command.name in ("size", "fill", "schema"):
                for example in command.examples:
                    self.assertIn(run(*example.split()[1:])[0], (0, 1), example)

    def test_bash_completes(self) -> None:
        script = f"source {PACKAGING}/completions/bash/awlmark; COMP_WORDS=(awlmark {{}}); COMP_CWORD={{}}; _awlmark; "
        for words, at, wanted in (
            ("si", 1, "size"),
            ("size --charge", 2, "--charge-a"),
            ("demo --code bs", 3, "bs7671-2018a2"),
        ):
            done = subprocess.run(
                ["bash", "-c", script.format(words, at) + 'echo "${COMPREPLY[@]}"'],
                capture_output=True,
                text=True,
                check=True,
            )
            self.assertIn(wanted, done.stdout.split())

    def test_entry_and_type_belong_together(self) -> None:
        entry = configparser.ConfigParser(interpolation=None)
        entry.optionxform = str  # type: ignore[assignment,method-assign]
        entry.read(PACKAGING / "awlmark.desktop", encoding="utf-8")
        main = entry["Desktop Entry"]
        kinds = ET.parse(PACKAGING / "awlmark-mime.xml").getroot()
        space = "{http://www.freedesktop.org/standards/shared-mime-info}"
        kind = kinds.find(f"{space}mime-type")
        assert kind is not None
        self.assertEqual(main["MimeType"], f"{kind.get('type')};")
        self.assertEqual((main["Icon"], main["Exec"]), ("awlmark", "awlmark %U"))
        match = kind.find(f"{space}magic/{space}match")
        assert match is not None
        self.assertIn(match.get("value", "").encode(), dumps(demo_job())[:110])
        component = ET.parse(PACKAGING / "awlmark.metainfo.xml").getroot()
        self.assertEqual(component.findtext("id"), "awlmark")
        self.assertEqual(next(component.iter("release")).get("version"), awlmark.__version__)
        self.assertIn(f"## {awlmark.__version__} ", (ROOT / "CHANGELOG.md").read_text(encoding="utf-8"))

    def test_what_qt_needs_is_named_before_it_aborts(self) -> None:
        def cdll(name: str) -> object:
            if name == "libxcb-cursor.so.0":
                raise OSError(name)
            return object()

        with mock.patch.object(ctypes, "CDLL", cdll), mock.patch.dict(os.environ):
            for gone in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY"):
                os.environ.pop(gone, None)
            with self.assertRaisesRegex(AwlmarkError, "apt-get install libxcb-cursor0"):
                terminal.wants_libraries()
            os.environ["WAYLAND_DISPLAY"] = "wayland-0"
            terminal.wants_libraries()

    def test_nothing_stands_in_the_sources_that_belongs_to_a_workplace(self) -> None:
        self.assertRegex(awlmark.__version__, r"^\d+\.\d+\.\d+$")
        told_of = (ROOT / "pyproject.toml").read_text(encoding="utf-8")
        self.assertNotIn("http", re.sub(r"(?m)^#.*$", "", told_of))
        self.assertGreaterEqual(sys.version_info, (3, 11))
