"""The job's file: nothing lost, nothing half written, nothing foreign taken for a job."""

import json
import os
import random
import re
import signal
import stat
import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path
from unittest import mock

import msgspec
from msgspec.structs import replace

from awlmark.core.errors import AwlmarkError, FileError
from awlmark.core.job import autosave, disk, file, limits, presence
from awlmark.core.job.edit import Put, add_leg, put, remove_leg, value_at
from awlmark.core.job.leg import Leg
from awlmark.core.job.model import RUN_FIELDS, Job, new_job
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.drawn import given, settings, st
from tests.support import LONG, refused, straight

OLDER = Path(__file__).parent.parent / "data" / "cider-yard-2.awlmark"


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
        self.assertEqual(file.read_job(disk.previous_copy(self.path)), first)
        self.assertEqual(file.read_job(self.path), second)
        self.assertEqual(len(list(self.folder.iterdir())), 2)

    def test_unknown_keys_survive_at_every_depth(self) -> None:
        raw = json.loads(file.dumps(demo_job()))
        raw["permit"] = {"number": 7}
        raw["run"]["charger"]["colour"] = "grey"
        raw["run"]["legs"][2]["photo"] = ["a.jpg"]
        raw["extra"] = 3
        job = file.loads(json.dumps(raw).encode())
        edited = put(job, Put("legs[leg-3].length_m", 0.5))
        again = json.loads(file.dumps(edited))
        self.assertEqual(again["permit"], {"number": 7})
        self.assertEqual(again["run"]["charger"]["colour"], "grey")
        self.assertEqual(again["run"]["legs"][2]["photo"], ["a.jpg"])
        self.assertEqual(again["extra"], 3)

    def test_refuses_what_is_no_job_in_words(self) -> None:
        good = file.dumps(demo_job())
        cases = {
            b"": "damaged",
            good[: len(good) // 2]: "damaged",
            b"[1, 2]": "no Awlmark job",
            b'{"format": "other"}': "no Awlmark job",
            good.replace(b'"version": 3', b'"version": 4'): "newer",
            good.replace(b'"version": 3', b'"version": "x"'): "version",
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
        old = json.loads(OLDER.read_bytes())
        old["version"] = 1
        old["charger"] |= {"separate": False, "disconnect": False}
        old["legs"][2]["fire"] = False
        old["legs"][1]["fire"] = True
        job = file.loads(json.dumps(old).encode(), "It")
        self.assertEqual((job.charger.separate, job.charger.disconnect), (None, None))
        self.assertEqual([leg.fire for leg in job.legs[1:3]], [True, None])
        for broken in ({"legs": None}, {"legs": 5}, {"charger": 7}, {"site": {"pins": 3}}, {"site": {"pins": [7]}}):
            with self.subTest(broken=broken), self.assertRaises(FileError):
                file.loads(json.dumps(old | broken).encode(), "It")

    def test_the_demo_of_version_2_is_the_demo(self) -> None:
        """Version 2 had the circuit among the property's own fields, and the floor without its unit."""
        raw = json.loads(OLDER.read_bytes())
        self.assertEqual(raw["version"], 2)
        self.assertEqual(file.read_job(OLDER), demo_job())
        raw["legs"][1]["photo"] = ["a.jpg"]
        raw["site"]["pins"][0]["seen"] = True
        kept = json.loads(file.dumps(file.loads(json.dumps(raw).encode())))
        self.assertEqual(kept["run"]["legs"][1]["photo"], ["a.jpg"])
        self.assertIs(kept["site"]["pins"][0]["seen"], True)

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
        with mock.patch("os.open", side_effect=refused), self.assertRaisesRegex(FileError, "read-only"):
            file.save_job(straight(48), self.path)
        with self.assertRaisesRegex(FileError, "no such"):
            file.save_job(straight(48), self.folder / "not" / "there.awlmark")

    def test_schema_describes_the_file(self) -> None:
        schema = file.schema()
        job = schema["$defs"]["Job"]["properties"]
        self.assertEqual(set(json.loads(file.dumps(demo_job()))), set(job))

    def test_every_field_of_the_document_has_a_limit_and_the_schema_tells_it(self) -> None:
        for kind in limits.nodes_of(Job):
            checked = {field.name for field in limits.fields_of(kind)}
            for field in msgspec.structs.fields(kind):
                plain = limits._unwrap(field.type)[0]
                self.assertTrue(field.name in checked or plain is bool or field.name == "extra", f"{kind}.{field.name}")
        parts = file.schema()["$defs"]
        self.assertEqual(parts["Leg"]["properties"]["ambient_c"]["maximum"], 85)
        self.assertIn(None, parts["Leg"]["properties"]["surface"]["enum"])
        self.assertEqual(parts["Bay"]["properties"]["noses"]["minItems"], 1)
        self.assertEqual(parts["Need"]["properties"]["sharing"]["enum"], ["half", "turns", "managed"])

    def test_values_that_nothing_can_be_made_of_are_refused_by_name(self) -> None:
        bad = {
            "name": "x" * 10_000, "id": "a]", "prices": {"breaker:2:60": "abc"}, "stock": {"a]b": "1"},
            "currency": "dollars and cents", "meter": {"source": "x", "start": "soon", "interval_s": 900, "step_w": 10,
            "counts": ""}, "buying": {"tax_percent": -1}, "makeup": {"box_loop_m": 1e300},
            "prove": {"ambient_c": 2147483648}, "local": {"label": "y" * 999}, "gone": ["z" * 500],
            "delivered": {"x": "-3"}, "hours": {"wire": "inf"}, "paid": {"wire": "1e3"},
            "build": {"done": {"a": "b" * 999}},
            "site": {"bays": [{"id": "b", "name": "North", "x_m": 1, "y_m": 2, "noses": []}]},
            "need": {"price": "NaN"},
        }  # fmt: skip
        for name, value in bad.items():
            raw = json.loads(file.dumps(demo_job()))
            (raw["run"] if name in RUN_FIELDS else raw)[name] = value
            with self.subTest(name), self.assertRaisesRegex(FileError, "can't be used") as caught:
                file.loads(json.dumps(raw).encode(), "It")
            self.assertLess(len(str(caught.exception)), 300)

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
            with refused(self, "path"):
                put(job, Put(path, 1))
        with refused(self, "charger nameplate"):
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
            autosave.keep(demo_job(), None, autosave.new_document())
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
        autosave.forget(rescues[0].copy)
        self.assertEqual(autosave.left_behind(state), ([], []))

    def test_unreadable_autosaves_are_put_aside_and_told_once(self) -> None:
        broken = self.folder / "autosave" / "x.awlmark"
        broken.parent.mkdir()
        broken.write_bytes(b"nothing of use")
        aside = self.folder / "unreadable" / "x.awlmark"
        self.assertEqual(autosave.left_behind(self.folder), ([], [aside]))
        self.assertEqual(aside.read_bytes(), b"nothing of use")
        self.assertEqual(autosave.left_behind(self.folder), ([], []))

    def test_a_foreign_id_stays_inside_the_folder(self) -> None:
        job = replace(new_job(), id="../../etc/passwd")
        copy = autosave.keep(job, None, autosave.new_document(), self.folder)
        self.assertEqual(copy.parent, self.folder / "autosave")

    def test_two_documents_of_one_job_are_kept_apart(self) -> None:
        one, other = autosave.new_document(), autosave.new_document()
        copies = [autosave.keep(demo_job(), self.path, name, self.folder) for name in (one, other)]
        autosave.drop(one, self.folder)
        self.assertEqual([copy.exists() for copy in copies], [False, True])

    def test_autosaves_are_for_their_owner_alone(self) -> None:
        copy = autosave.keep(demo_job(), None, autosave.new_document(), self.folder)
        self.assertEqual(stat.S_IMODE(copy.stat().st_mode), 0o600)
        self.assertEqual(stat.S_IMODE(copy.parent.stat().st_mode), 0o700)

    def test_a_name_of_bytes_that_are_no_text_is_kept_and_found_again(self) -> None:
        odd = Path(os.fsdecode(bytes(self.folder) + b"/gar\xe7on.awlmark"))
        copy = autosave.keep(demo_job(), odd, autosave.new_document(), self.folder)
        head, _, body = copy.read_bytes().partition(b"\n")
        mine = json.loads(head)["process"].encode()
        copy.write_bytes(head.replace(mine, b"1-1") + b"\n" + body)
        rescues, _unreadable = autosave.left_behind(self.folder)
        self.assertEqual([Path(rescue.path) for rescue in rescues if rescue.path], [odd])
        file.save_job(demo_job(), odd)
        self.assertEqual(file.read_job(odd), demo_job())

    def test_a_home_that_nobody_has_and_a_folder_that_is_no_whole_path(self) -> None:
        with mock.patch.dict(os.environ, {"XDG_STATE_HOME": "not/whole"}):
            self.assertTrue(autosave.state_folder().is_absolute())
        with (
            mock.patch.dict(os.environ, {"XDG_STATE_HOME": ""}),
            mock.patch.object(Path, "home", side_effect=RuntimeError("no home")),
        ):
            self.assertIn(str(os.getuid()), str(autosave.state_folder()))


OLD, NEW = straight(32), straight(48)


class Disk(Folder):
    def mode(self, path: Path) -> int:
        return stat.S_IMODE(path.stat().st_mode)

    def test_mode_of_what_was_there_is_kept_and_a_new_file_goes_by_the_umask(self) -> None:
        before = os.umask(0o027)
        self.addCleanup(os.umask, before)
        file.save_job(OLD, self.path)
        self.assertEqual(self.mode(self.path), 0o640)
        for mode in (0o600, 0o664, 0o444):
            self.path.chmod(mode)
            file.save_job(NEW, self.path)
            self.assertEqual(self.mode(self.path), mode)
            self.assertEqual(self.mode(disk.previous_copy(self.path)), mode)

    def test_a_link_stays_a_link_and_its_target_is_written(self) -> None:
        target = self.folder / "store" / "real.awlmark"
        target.parent.mkdir()
        file.save_job(OLD, target)
        self.path.symlink_to(target)
        file.save_job(NEW, self.path)
        self.assertTrue(self.path.is_symlink())
        self.assertEqual(file.read_job(target), NEW)
        previous = disk.previous_copy(target)
        self.assertFalse(previous.is_symlink())
        self.assertEqual(file.read_job(previous), OLD)

    def test_every_name_of_a_file_sees_the_save_and_the_previous_copy_does_not(self) -> None:
        file.save_job(OLD, self.path)
        other = self.folder / "other.awlmark"
        os.link(self.path, other)
        file.save_job(NEW, self.path)
        self.assertEqual(file.read_job(other), NEW)
        self.assertEqual(self.path.stat().st_ino, other.stat().st_ino)
        self.assertEqual(file.read_job(disk.previous_copy(self.path)), OLD)

    def test_attributes_stay_with_a_file(self) -> None:
        file.save_job(OLD, self.path)
        try:
            os.setxattr(self.path, "user.yard", b"north")
        except OSError:
            self.skipTest("no attributes on this file system")
        file.save_job(NEW, self.path)
        self.assertEqual(os.getxattr(self.path, "user.yard"), b"north")

    def test_the_longest_name_is_saved_with_its_previous_copy(self) -> None:
        long = self.folder / ("b" * (255 - len(file.SUFFIX)) + file.SUFFIX)
        for job in (OLD, NEW):
            file.save_job(job, long)
        self.assertEqual(file.read_job(long), NEW)
        self.assertEqual(file.read_job(disk.previous_copy(long)), OLD)

    def test_what_a_kill_left_is_cleared_and_nobody_elses(self) -> None:
        machine, alive = disk._machine(), disk.process_mark(os.getpid())
        names = (f".awl-{machine}-999999999-1-aa.part", f".awl-{machine}-{alive}-aa.part", ".awl-0000-1-1-aa.part")
        for name in (*names, ".other.part"):
            (self.folder / name).touch()
        file.save_job(OLD, self.path)
        left = {path.name for path in self.folder.iterdir()}
        self.assertEqual(left, {names[1], names[2], ".other.part", self.path.name})

    def test_a_change_by_somebody_else_is_seen_and_a_touch_is_none(self) -> None:
        stamp = file.save_job(OLD, self.path)
        self.assertFalse(disk.changed_since(self.path, stamp))
        os.utime(self.path, ns=(1, 1))
        self.assertFalse(disk.changed_since(self.path, stamp))
        self.path.write_bytes(self.path.read_bytes().replace(b"32", b"48"))
        self.assertTrue(disk.changed_since(self.path, stamp))
        self.path.unlink()
        self.assertTrue(disk.changed_since(self.path, stamp))

    def test_a_job_that_could_not_be_read_again_is_not_saved(self) -> None:
        file.save_job(OLD, self.path)
        large = demo_job()
        with mock.patch.object(file, "LARGEST_BYTES", 2000), self.assertRaisesRegex(FileError, "prices"):
            file.save_job(large, self.path)
        self.assertEqual(file.read_job(self.path), OLD)

    def test_a_file_open_in_another_process_is_known(self) -> None:
        script = textwrap.dedent(
            """
            import sys
            from pathlib import Path
            from awlmark.core.job import presence
            print(presence.claim(Path(sys.argv[1])), flush=True)
            sys.stdin.read()
            """
        )
        link = self.folder / "link.awlmark"
        link.symlink_to(self.path)
        environment = {**os.environ, "XDG_STATE_HOME": str(self.folder)}
        words = [sys.executable, "-c", script, str(link)]
        with (
            mock.patch.dict(os.environ, environment),
            subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, env=environment) as process,
        ):
            assert process.stdout is not None
            self.assertEqual(process.stdout.readline(), b"False\n")
            self.assertTrue(presence.claim(self.path))
            process.kill()
            process.wait()
            self.assertFalse(presence.claim(self.path))
            presence.release(self.path)
            self.assertEqual(list((self.folder / "awlmark" / "open").iterdir()), [])
