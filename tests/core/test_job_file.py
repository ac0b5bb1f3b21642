"""The job's file: nothing lost, nothing half written, nothing foreign taken for a job."""

import json
import os
import random
import re
import signal
import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from awlmark.core.design import solve
from awlmark.core.errors import AwlmarkError, FileError, InputError
from awlmark.core.job import autosave, file
from awlmark.core.job.edit import Put, add_leg, put, remove_leg, value_at
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import new_job
from awlmark.data import demo_job
from tests.support import LONG, straight


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        self.path = self.folder / "job.awlmark"


class SavesAndReads(Folder):
    def test_round_trip_is_exact(self) -> None:
        job = demo_job()
        file.save_job(job, self.path)
        self.assertEqual(file.read_job(self.path), job)
        self.assertEqual(file.dumps(file.read_job(self.path)), self.path.read_bytes())

    def test_the_previous_copy_is_kept(self) -> None:
        first, second = straight(32), straight(48)
        file.save_job(first, self.path)
        file.save_job(second, self.path)
        self.assertEqual(file.read_job(file.previous_copy(self.path)), first)
        self.assertEqual(file.read_job(self.path), second)
        self.assertEqual(len(list(self.folder.iterdir())), 2)

    def test_unknown_keys_survive_at_every_depth(self) -> None:
        raw = json.loads(file.dumps(demo_job()))
        raw["permit"] = {"number": 7}
        raw["charger"]["colour"] = "grey"
        raw["legs"][2]["photo"] = ["a.jpg"]
        raw["extra"] = 3
        job = file.loads(json.dumps(raw).encode())
        edited = put(job, Put("legs[leg-3].length_m", 0.5))
        again = json.loads(file.dumps(edited))
        self.assertEqual(again["permit"], {"number": 7})
        self.assertEqual(again["charger"]["colour"], "grey")
        self.assertEqual(again["legs"][2]["photo"], ["a.jpg"])
        self.assertEqual(again["extra"], 3)

    def test_refuses_what_is_no_job_in_words(self) -> None:
        good = file.dumps(demo_job())
        cases = {
            b"": "damaged",
            good[: len(good) // 2]: "damaged",
            b"[1, 2]": "no Awlmark job",
            b'{"format": "other"}': "no Awlmark job",
            good.replace(b'"version": 2', b'"version": 3'): "newer",
            good.replace(b'"version": 2', b'"version": "x"'): "version",
            re.sub(rb'"length_m": 6.70\d+', b'"length_m": -3', good): "leg 2 length",
            re.sub(rb'"length_m": 6.70\d+', b'"length_m": 1e30', good): "leg 2 length",
            re.sub(rb'"length_m": 6.70\d+', b'"length_m": "far"', good): "length_m",
            good.replace(b'"direction": "trench"', b'"direction": "sideways"'): "direction",
            good.replace(b'"code": "nec-2023"', b'"code": "nec-1899"'): "rule book",
            b'{"format": "awlmark-job", "version": 1}': "lacks id",
            b"[" * 200_000: "nested",
            b'{"format": "awlmark-job", "version": 1, "id": "x", "legs": '
            + b"[" * 100_000
            + b"]" * 100_000
            + b"}": "nested",
            b"\xff\xfe\x00": "damaged",
        }
        for data, word in cases.items():
            with self.subTest(word=word, data=data[:40]), self.assertRaises(FileError) as caught:
                file.loads(data, "It")
            self.assertIn(word, str(caught.exception))

    def test_version_1_wrote_no_where_nobody_had_been_asked(self) -> None:
        old = json.loads(file.dumps(demo_job()))
        old["version"] = 1
        old["charger"] |= {"separate": False, "disconnect": False}
        old["legs"][2]["fire"] = False
        old["legs"][1]["fire"] = True
        job = file.loads(json.dumps(old).encode(), "It")
        self.assertEqual((job.charger.separate, job.charger.disconnect), (None, None))
        self.assertEqual([leg.fire for leg in job.legs[1:3]], [True, None])
        for broken in ({"legs": None}, {"legs": 5}, {"charger": 7}):
            with self.subTest(broken=broken), self.assertRaises(FileError):
                file.loads(json.dumps(old | broken).encode(), "It")

    def test_missing_unreadable_and_huge_files(self) -> None:
        for path in (self.folder / "none.awlmark", self.folder):
            with self.assertRaises(FileError):
                file.read_job(path)
        with mock.patch.object(file, "LARGEST_BYTES", 100):
            file_path = self.folder / "big.awlmark"
            file_path.write_bytes(b" " * 200)
            with self.assertRaisesRegex(FileError, "larger"):
                file.read_job(file_path)

    def test_a_full_disk_leaves_the_good_copy_untouched(self) -> None:
        file.save_job(straight(32), self.path)
        before = self.path.read_bytes()
        full = OSError(28, "No space left on device")
        with mock.patch("os.fsync", side_effect=full), self.assertRaisesRegex(FileError, "disk is full"):
            file.save_job(straight(48), self.path)
        self.assertEqual(self.path.read_bytes(), before)
        self.assertEqual(list(self.folder.iterdir()), [self.path])

    def test_a_really_full_device_is_told(self) -> None:
        with self.assertRaises(FileError):
            file.save_job(straight(48), Path("/dev/full/job.awlmark"))

    def test_a_folder_that_refuses_is_told(self) -> None:
        refused = PermissionError(13, "Permission denied")
        with mock.patch("tempfile.mkstemp", side_effect=refused), self.assertRaisesRegex(FileError, "read-only"):
            file.save_job(straight(48), self.path)
        with self.assertRaisesRegex(FileError, "no such"):
            file.save_job(straight(48), self.folder / "not" / "there.awlmark")

    def test_schema_describes_the_file(self) -> None:
        schema = file.schema()
        job = schema["$defs"]["Job"]["properties"]
        self.assertEqual(set(json.loads(file.dumps(demo_job()))), set(job))

    @settings(max_examples=2000 if LONG else 150, deadline=None)
    @given(st.integers(0, 2**32), st.integers(1, 6))
    def test_mutated_files_are_read_or_refused(self, seed: int, bites: int) -> None:
        chance = random.Random(seed)
        data = bytearray(SMALL)
        for _ in range(bites):
            at = chance.randrange(len(data))
            kind = chance.randrange(4)
            if kind == 0:
                data[at] = chance.randrange(256)
            elif kind == 1:
                del data[at : at + chance.randrange(1, 40)]
            elif kind == 2:
                data[at:at] = chance.choice([b"null", b"-1", b"1e999", b"{", b"]", b'"', b"0", b"true", b"NaN"])
            else:
                start = chance.randrange(len(data))
                data[at:at] = data[start : start + chance.randrange(1, 60)]
        try:
            solve(file.loads(bytes(data)))
        except AwlmarkError as refused:
            self.assertTrue(str(refused))

    def test_edits_by_path(self) -> None:
        job = demo_job()
        self.assertEqual(value_at(job, "legs[leg-2].direction"), "right")
        self.assertEqual(put(job, Put("prices[wire:cu:6:thwn-2]", "2.00")).prices["wire:cu:6:thwn-2"], "2.00")
        self.assertNotIn("reducer", put(job, Put("prices[reducer]", None)).prices)
        for path in ("nothing", "legs[leg-99].end", "a b"):
            with self.assertRaises(InputError):
                put(job, Put(path, 1))
        with self.assertRaises(InputError):
            put(job, Put("charger.nameplate_a", float("nan")))

    def test_legs_come_and_go(self) -> None:
        job = demo_job()
        longer = add_leg(job, Leg(id="leg-9", direction="up", length_m=1), 2)
        self.assertEqual([leg.id for leg in longer.legs][2], "leg-9")
        self.assertEqual(remove_leg(longer, "leg-9"), job)


SMALL = file.dumps(replace(demo_job(), prices={}))


class Autosaves(Folder):
    def test_work_survives_kill_9(self) -> None:
        script = textwrap.dedent(
            """
            import sys, time
            from awlmark.core.job import autosave
            from awlmark.data import demo_job
            autosave.keep(demo_job(), None)
            print("kept", flush=True)
            time.sleep(60)
            """
        )
        environment = {**os.environ, "XDG_STATE_HOME": str(self.folder)}
        process = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, env=environment)
        assert process.stdout is not None
        self.assertEqual(process.stdout.readline(), b"kept\n")
        state = self.folder / "awlmark"
        self.assertEqual(autosave.left_behind(state), ([], []))
        process.send_signal(signal.SIGKILL)
        process.wait()
        process.stdout.close()
        rescues, unreadable = autosave.left_behind(state)
        self.assertEqual((rescues[0].job, unreadable), (demo_job(), []))
        autosave.drop(rescues[0].job.id, state)
        self.assertEqual(autosave.left_behind(state), ([], []))

    def test_unreadable_autosaves_are_named_not_removed(self) -> None:
        broken = self.folder / "autosave" / "x.awlmark"
        broken.parent.mkdir()
        broken.write_bytes(b"nothing of use")
        self.assertEqual(autosave.left_behind(self.folder), ([], [broken]))
        self.assertTrue(broken.exists())

    def test_a_foreign_id_stays_inside_the_folder(self) -> None:
        job = replace(new_job(), id="../../etc/passwd")
        copy = autosave.keep(job, None, self.folder)
        self.assertEqual(copy.parent, self.folder / "autosave")
