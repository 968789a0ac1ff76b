"""Reading and writing files with care: bounded, whole or not at all, and over nothing that nobody said yes to."""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import re
import socket
import stat
import time
from collections.abc import Iterator
from functools import cache
from pathlib import Path

from kelvor.core.base.errors import InputError

LARGEST_DOCUMENT = 8 * 1024 * 1024
"""No board or brief is larger than this [bytes]."""
APPLICATION_ID = 0x4B4C5652
"""Marks our workshops among all SQLite files."""
SQLITE_HEADER = b"SQLite format 3\x00"
_TEMPORARY = ".kelvor-"
_LEFT = re.compile(r"\.kelvor-(?P<host>[0-9a-f]{8})-(?P<process>\d{1,10})-[0-9a-f]{8}(\.[^/]{0,11}(-journal)?)?")
OLD = 3600.0
"""What is half written and younger is left alone [s]."""


class AlreadyThere(InputError):
    """A file of this name is there, and nobody has said that it may be written over."""


def read_text(path: Path) -> str:
    """A document's text, without a byte order mark.

    Raises
    ------
    InputError
        When it is missing, no regular file, too large, unreadable or not UTF-8.
    """
    where = str(path)
    regular(path)
    try:
        return path.read_bytes().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError(
            f"the file is not text in UTF-8 (byte {error.start + 1})", where=where, accepts="Save it as UTF-8"
        ) from None
    except OSError as error:
        raise InputError(refusal_reason(error), where=where) from None


def read_bytes(path: Path, largest: int, what: str) -> bytes:
    """A file whole; `what` its kind is called in several, such as “tracks”.

    Raises
    ------
    InputError
        When it is missing, no regular file, larger than `largest` bytes, or cannot be read.
    """
    regular(path, largest, what)
    try:
        with open(path, "rb") as file:
            found = file.read(largest + 1)
    except OSError as error:
        raise InputError(refusal_reason(error), where=str(path)) from None
    if len(found) > largest:  # it grew meanwhile
        raise InputError("it is being written to", where=str(path), accepts="Try again once it is whole")
    return found


def regular(path: Path, largest: int = LARGEST_DOCUMENT, what: str = "documents") -> None:
    """Refuses what is missing, no regular file, or larger than `largest` bytes, the limit of `what`; raises
    InputError.
    """
    where = str(path)
    try:
        found = path.stat()
    except (OSError, ValueError) as error:
        raise InputError(
            refusal_reason(error) if isinstance(error, OSError) else "this is no file name", where=where
        ) from None
    if stat.S_ISDIR(found.st_mode):
        raise InputError("this is a folder", where=where, accepts="Give a file")
    if not stat.S_ISREG(found.st_mode):
        raise InputError("this is no regular file", where=where, accepts="Give a file on a disk")
    if found.st_size > largest:
        raise InputError(
            f"the file has {found.st_size / 1e6:.0f} MB",
            where=where,
            accepts=f"{what.capitalize()} of up to {largest / 1e6:.0f} MB are read",
        )


def refusal_reason(error: OSError) -> str:
    """Why the machine refused, in a few words."""
    words = {
        errno.ENOENT: "there is no such file or folder",
        errno.EACCES: "no permission",
        errno.EPERM: "no permission",
        errno.EROFS: "the folder is read-only",
        errno.ENOSPC: "the disk is full",
        errno.EDQUOT: "the disk quota is used up",
        errno.EISDIR: "this is a folder",
        errno.ENOTDIR: "part of the path is not a folder",
        errno.ENAMETOOLONG: "the name is too long",
        errno.EFBIG: "the file would become too large for this disk",
        errno.ELOOP: "the link leads in a circle",
    }
    return words.get(error.errno or 0, error.strerror or "the file cannot be used")


def is_workshop(path: Path) -> bool:
    """Whether a file is a workshop of ours, by its mark; a damaged one that is still named so counts too."""
    try:
        with open(path, "rb") as file:
            header = file.read(72)
    except OSError:
        return path.suffix == ".kelvor"
    marked = header[:16] == SQLITE_HEADER and int.from_bytes(header[68:72], "big") == APPLICATION_ID
    return marked or (path.suffix == ".kelvor" and bool(header))


def is_database(path: Path) -> bool:
    """Whether a file is an SQLite database, or the journal of one that lies beside it: no file to be written over."""
    for ending in ("-journal", "-wal", "-shm"):
        if path.name.endswith(ending) and path.with_name(path.name.removesuffix(ending)).exists():
            return True
    try:
        with open(path, "rb") as file:
            return file.read(16) == SQLITE_HEADER
    except OSError:
        return False


def same_file(path: Path, other: Path) -> bool:
    """Whether two paths lead to one file that is there."""
    try:
        return path.samefile(other)
    except (OSError, ValueError):
        return False


def may_write(path: Path, *, over: bool = False) -> Path:
    """Where a file may be written: the path itself, or what a link leads to.

    Raises
    ------
    AlreadyThere
        When a file stands there and `over` was not said.
    InputError
        When it is a workshop or no regular file; `over` does not help then.
    """
    where = str(path)
    try:
        target = Path(os.path.realpath(path))
        found = target.stat()
    except FileNotFoundError:
        return target
    except (OSError, ValueError) as error:
        raise InputError(
            refusal_reason(error) if isinstance(error, OSError) else "this is no file name", where=where
        ) from None
    if stat.S_ISDIR(found.st_mode):
        raise InputError("this is a folder", where=where, accepts="Give a file name")
    if not stat.S_ISREG(found.st_mode):
        raise InputError("this is no regular file, and is left as it is", where=where, accepts="Give another name")
    if is_workshop(target):
        raise InputError("this is a workshop, and is left as it is", where=where, accepts="Give another name")
    if is_database(target):
        raise InputError("this is a database of a program, and is left as it is", where=where, accepts="Another name")
    if not over:
        raise AlreadyThere(
            "a file of this name is there already",
            where=where,
            accepts="Give another name, or --force to write over it",
        )
    return target


@contextlib.contextmanager
def written_whole(path: Path, *, over: bool = False, like: Path | None = None) -> Iterator[Path]:
    """A temporary path beside `path` that takes its place when the block ends well, and vanishes when it does not.

    A file that is replaced keeps its permissions, a new one takes those of `like`; a link keeps leading where it led.

    Raises
    ------
    AlreadyThere, InputError
        As :func:`may_write` says, and when the folder cannot be written or the disk is full; whatever stood at
        `path` is untouched.
    """
    target = may_write(path, over=over)
    swept(target.parent)
    temporary = target.parent / f"{_TEMPORARY}{_host()}-{os.getpid()}-{os.urandom(4).hex()}{target.suffix[:12]}"
    try:
        os.close(os.open(temporary, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600))
    except OSError as error:
        raise InputError(
            refusal_reason(error), where=str(path.parent), accepts="Choose a folder you can write to"
        ) from None
    try:
        yield temporary
        with open(temporary, "rb+") as file:
            os.fsync(file.fileno())
        os.chmod(temporary, _mode(target if like is None else like))
        if over:
            may_write(target, over=True)  # it may have become something else meanwhile
            os.replace(temporary, target)
        else:
            _linked(temporary, target, path)
    except OSError as error:
        raise InputError(refusal_reason(error), where=str(path)) from None
    finally:
        temporary.unlink(missing_ok=True)


def _mode(target: Path) -> int:
    """The permissions a file has, or that a new one gets."""
    try:
        return stat.S_IMODE(target.stat().st_mode)
    except FileNotFoundError:
        umask = os.umask(0)
        os.umask(umask)
        return 0o666 & ~umask


def _linked(temporary: Path, target: Path, path: Path) -> None:
    """Give the temporary file its name, unless somebody else took that name meanwhile."""
    try:
        os.link(temporary, target)
    except FileExistsError:
        may_write(path)
        raise
    except OSError:  # a disk without links
        may_write(path)
        os.replace(temporary, target)


def swept(folder: Path) -> int:
    """Take away what killed processes of ours, of this machine, left half written in a folder an hour ago or earlier;
    how many files that were.
    """
    gone = 0
    with contextlib.suppress(OSError):
        for entry in folder.glob(f"{_TEMPORARY}*"):
            made = _LEFT.fullmatch(entry.name)
            if made is None or made["host"] != _host() or _alive(int(made["process"])):
                continue
            with contextlib.suppress(OSError):
                found = entry.lstat()
                if stat.S_ISREG(found.st_mode) and time.time() - found.st_mtime > OLD:
                    entry.unlink()
                    gone += 1
    return gone


@cache
def _host() -> str:
    """The machine, in eight letters: another one's processes are not ours to judge."""
    return hashlib.sha256(socket.gethostname().encode()).hexdigest()[:8]


def _alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except (OSError, OverflowError):
        return True
    return True
