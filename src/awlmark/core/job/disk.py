"""Files written whole or not at all, with the mode, the owner and the links they had."""

from __future__ import annotations

import contextlib
import csv
import errno
import hashlib
import io
import os
import secrets
import stat
from collections.abc import Iterator
from pathlib import Path
from typing import Final

import msgspec

from awlmark.core.errors import FileError

LONGEST_NAME: Final = 255
"""Bytes of a file's name, on every file system in use."""
PRIVATE_FILE: Final = 0o600
PRIVATE_FOLDER: Final = 0o700
_SPARE: Final = ".awl-"
_SUFFIX: Final = ".part"


class Stamp(msgspec.Struct, frozen=True):
    """What a file was when it was read or written: by its contents, not by its times."""

    digest: str
    size: int
    mtime_ns: int


def write_file(path: Path, content: str | bytes) -> None:
    """Write a file whole or not at all; text in UTF-8.

    Raises
    ------
    FileError
        When folder or disk refuses. ``path`` is then as it was.
    """
    with writing(path) as temporary:
        temporary.write_bytes(content.encode("utf-8") if isinstance(content, str) else content)


@contextlib.contextmanager
def writing(path: Path, *, keep_previous: bool = False, mode: int | None = None) -> Iterator[Path]:
    """A temporary file beside ``path`` that takes its place once the block has written it whole.

    A link stays a link: what it leads to is written. Mode, owner and attributes of a file that is there are kept;
    ``mode`` sets those of a new one and of an old one alike. A file with further names (hard links) is written through
    all of them, from a whole copy beside it.

    Raises
    ------
    FileError
        When folder or disk refuses. ``path`` is then as it was.
    """
    temporary: Path | None = None
    try:
        place = Path(os.path.realpath(path))
        clear_spares(place.parent)
        there = _stat(place)
        if there is not None and not stat.S_ISREG(there.st_mode):
            raise OSError(errno.EINVAL, "it is no plain file")
        temporary = _spare(place.parent, 0o666 if there is None and mode is None else PRIVATE_FILE)
        yield temporary
        with temporary.open("rb+") as written:
            os.fsync(written.fileno())
        if mode is not None:
            temporary.chmod(mode)
        elif there is not None:
            _dress(temporary, place, there)
        if keep_previous and there is not None:
            _keep_previous(place, linked=there.st_nlink > 1)
        if there is not None and there.st_nlink > 1:
            _write_through(temporary, place)
        else:
            temporary.replace(place)
            temporary = None
        _sync_folder(place.parent)
    except OSError as problem:
        raise FileError(f"Can't write {path}: {reason(problem)}. What was there is untouched.") from problem
    finally:
        if temporary is not None:
            temporary.unlink(missing_ok=True)


def read_bounded(path: Path, most_bytes: int, what: str) -> bytes:
    """A file's bytes, no more than a file of its kind ever has.

    Raises
    ------
    FileError
        Where it cannot be read, is no plain file, or is larger; the message names it and the reason.
    """
    try:
        if path.exists() and not path.is_file():
            raise FileError(f"Can't read {path.name}: it is no plain file.")
        with path.open("rb") as source:
            data = source.read(most_bytes + 1)
    except OSError as problem:
        raise FileError(f"Can't read {path.name}: {reason(problem)}.") from problem
    except ValueError as problem:
        raise FileError(f"Can't read {path.name!r}: no file has such a name.") from problem
    if len(data) > most_bytes:
        size = f"{most_bytes // 2**20} MiB" if most_bytes >= 2**20 else f"{most_bytes // 2**10} KiB"
        raise FileError(f"{path.name} is larger than {size}, which no {what} is.")
    return data


def rows_of_csv(path: Path, most_bytes: int, most_rows: int, what: str) -> list[list[str]]:
    """Rows of a file of comma-separated text in UTF-8, empty ones left out.

    Raises
    ------
    FileError
        Where it cannot be read, is no text, or has more rows or bytes than a file of its kind; the row is named.
    """
    try:
        text = read_bounded(path, most_bytes, what).decode("utf-8-sig")
    except UnicodeDecodeError as problem:
        raise FileError(f"{path.name} is not text in UTF-8: save it as CSV in UTF-8.") from problem
    rows: list[list[str]] = []
    reader = csv.reader(io.StringIO(text.replace("\0", "")))
    try:
        for row in reader:
            if any(cell.strip() for cell in row):
                rows.append(row)
            if len(rows) > most_rows + 1:
                raise FileError(f"{path.name} has more than {most_rows:,} rows, which no {what} has.")
    except csv.Error as problem:
        raise FileError(f"{path.name} is no CSV that can be read, line {reader.line_num}: {problem}.") from problem
    return rows


def previous_copy(path: Path) -> Path:
    """Where the copy before the last save is kept; a name with no room for its mark loses its end."""
    name = os.fsencode(path.name)[: LONGEST_NAME - 1].decode("utf-8", errors="ignore")
    whole = len(os.fsencode(path.name)) < LONGEST_NAME
    return path.with_name((path.name if whole else name) + "~")


def make_private(folder: Path) -> None:
    """A folder that only its owner looks into, made where it is wanting."""
    if not folder.is_dir():
        folder.parent.mkdir(parents=True, exist_ok=True)
        folder.mkdir(mode=PRIVATE_FOLDER, exist_ok=True)
    if stat.S_IMODE(folder.stat().st_mode) & 0o077:
        folder.chmod(PRIVATE_FOLDER)


def stamp_of(path: Path, content: bytes | None = None) -> Stamp | None:
    """What a file is now; None where there is none that can be read."""
    try:
        data = path.read_bytes() if content is None else content
        seen = path.stat()
    except OSError:
        return None
    return Stamp(hashlib.sha256(data).hexdigest(), seen.st_size, seen.st_mtime_ns)


def changed_since(path: Path, stamp: Stamp | None) -> bool:
    """Whether somebody else has written, or taken away, a file since it was stamped; a mere touch is no change."""
    seen = _stat(path)
    if stamp is None:
        return False
    if seen is None:
        return True
    if (seen.st_size, seen.st_mtime_ns) == (stamp.size, stamp.mtime_ns):
        return False
    now = stamp_of(path)
    return now is None or now.digest != stamp.digest


def process_mark(pid: int) -> str:
    """A process by its number and the tick it started at: numbers come round again, pairs do not.

    Raises
    ------
    OSError
        Where no such process runs.
    """
    try:
        text = Path(f"/proc/{pid}/stat").read_text(encoding="utf-8", errors="replace")
    except (FileNotFoundError, PermissionError):
        # Without /proc a number alone has to do.
        os.kill(pid, 0)
        return f"{pid}-0"
    return f"{pid}-{text.rpartition(')')[2].split()[19]}"


def runs(mark: str) -> bool:
    """Whether the process of a mark still runs."""
    try:
        return process_mark(int(mark.partition("-")[0])) == mark
    except (OSError, ValueError, IndexError):
        return False


def clear_spares(folder: Path) -> None:
    """Take away temporary files of an Awlmark on this machine that no longer runs."""
    here = _machine()
    with contextlib.suppress(OSError), os.scandir(folder) as found:
        # A folder that cannot be listed or cleared is left as it is; writing into it will tell.
        for entry in found:
            if entry.name.startswith(_SPARE) and entry.name.endswith(_SUFFIX):
                machine, _, rest = entry.name.removeprefix(_SPARE).removesuffix(_SUFFIX).partition("-")
                if machine == here and not runs(rest.rpartition("-")[0]):
                    Path(entry.path).unlink(missing_ok=True)


def reason(problem: OSError) -> str:
    """Why the system refused, in words."""
    if problem.errno == errno.ENOSPC:
        return "the disk is full"
    if problem.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        return "the folder or file is read-only for you"
    if problem.errno == errno.ENOENT:
        return "there is no such file or folder"
    if problem.errno == errno.ENAMETOOLONG:
        return "its name is too long for this disk"
    return (problem.strerror or str(problem)).lower()


def _machine() -> str:
    return hashlib.sha256(os.uname().nodename.encode()).hexdigest()[:8]


def _spare(folder: Path, mode: int) -> Path:
    """A new empty file in a folder, its name short whatever the file's own is; the system applies the umask."""
    mark = process_mark(os.getpid())
    path = folder / f"{_SPARE}{_machine()}-{mark}-{secrets.token_hex(4)}{_SUFFIX}"
    os.close(os.open(path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, mode))
    return path


def _stat(path: Path) -> os.stat_result | None:
    try:
        return path.stat()
    except FileNotFoundError:
        return None


def _dress(temporary: Path, place: Path, there: os.stat_result) -> None:
    """Give a new file owner, attributes and mode of the one it replaces, as far as this user may."""
    owned = temporary.stat()
    mode = stat.S_IMODE(there.st_mode)
    if (owned.st_uid, owned.st_gid) != (there.st_uid, there.st_gid):
        try:
            os.chown(temporary, there.st_uid, there.st_gid)
        except PermissionError:
            # Somebody else's file: what its group might do must not fall to another group.
            mode &= ~0o070
    with contextlib.suppress(OSError):
        # Attributes that a file system or this user's rights do not allow stay behind.
        for name in os.listxattr(place):
            os.setxattr(temporary, name, os.getxattr(place, name))
    temporary.chmod(mode)


def _write_through(temporary: Path, place: Path) -> None:
    """Write into the very file that has further names; the whole copy goes only when that is on the disk."""
    with temporary.open("rb") as source, place.open("r+b") as target:
        target.write(source.read())
        target.truncate()
        target.flush()
        os.fsync(target.fileno())


def _keep_previous(path: Path, *, linked: bool) -> None:
    """Hard-link the good file under the previous name, so that at no moment neither exists."""
    spare = _spare(path.parent, PRIVATE_FILE)
    try:
        if linked:
            raise OSError(errno.EMLINK, "its further names will change with it")
        spare.unlink()
        os.link(path, spare)
    except OSError:
        # File systems without hard links (memory sticks), and files that have several, get a plain copy.
        spare.write_bytes(path.read_bytes())
        spare.chmod(stat.S_IMODE(path.stat().st_mode))
    spare.replace(previous_copy(path))


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
