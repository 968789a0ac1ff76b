"""Reading and writing files with care: bounded, whole or not at all."""

from __future__ import annotations

import contextlib
import errno
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from kelvor.core.errors import InputError

LARGEST_DOCUMENT = 8 * 1024 * 1024
"""No board or brief is larger than this [bytes]."""


def read_text(path: Path) -> str:
    """A document's text.

    Raises
    ------
    InputError
        When it is missing, a folder, too large, unreadable or not text.
    """
    where = str(path)
    try:
        size = path.stat().st_size
        if path.is_dir():
            raise InputError("this is a folder", where=where, accepts="Give a file")
        if size > LARGEST_DOCUMENT:
            raise InputError(f"the file has {size / 1e6:.0f} MB", where=where,
                             accepts=f"Documents up to {LARGEST_DOCUMENT / 1e6:.0f} MB are read")  # fmt: skip
        return path.read_bytes().decode("utf-8")
    except UnicodeDecodeError as error:
        raise InputError(
            f"the file is not text (byte {error.start})", where=where, accepts="Give a JSON document in UTF-8"
        ) from None
    except OSError as error:
        raise InputError(reason(error), where=where) from None


def reason(error: OSError) -> str:
    """Why the machine refused, in a few words."""
    words = {
        errno.ENOENT: "there is no such file or folder", errno.EACCES: "no permission", errno.EPERM: "no permission",
        errno.EROFS: "the folder is read-only", errno.ENOSPC: "the disk is full", errno.EDQUOT: "the disk quota is used up",
        errno.EISDIR: "this is a folder", errno.ENOTDIR: "part of the path is not a folder", errno.ENAMETOOLONG: "the name is too long",
    }  # fmt: skip
    return words.get(error.errno or 0, error.strerror or "the file cannot be used")


@contextlib.contextmanager
def written_whole(path: Path) -> Iterator[Path]:
    """A temporary path beside `path` that takes its place when the block ends well, and vanishes when it does not.

    Raises
    ------
    InputError
        When the folder cannot be written or the disk is full; whatever stood at `path` is untouched.
    """
    try:
        handle, name = tempfile.mkstemp(prefix=".kelvor-", suffix=path.suffix, dir=path.parent or Path("."))
        os.close(handle)
    except OSError as error:
        raise InputError(reason(error), where=str(path.parent), accepts="Choose a folder you can write to") from None
    temporary = Path(name)
    try:
        yield temporary
        if path.is_dir():
            raise InputError("this is a folder", where=str(path), accepts="Give a file name")
        with open(temporary, "rb+") as file:
            os.fsync(file.fileno())
        umask = os.umask(0)
        os.umask(umask)
        os.chmod(temporary, 0o666 & ~umask)
        os.replace(temporary, path)
    except OSError as error:
        raise InputError(reason(error), where=str(path)) from None
    finally:
        temporary.unlink(missing_ok=True)
