"""Locks on files: held by one process at a time, gone when it ends, however it ends.

The lock lies on the file itself and not on its name, so that a link or a second name of the same file is the same lock. Since a
name may come to stand for another file while it is being locked, the name is looked at once more afterwards.
"""

import fcntl
import os
from pathlib import Path


class BusyError(OSError):
    """Another process, or another part of this one, holds the file."""


def locked(path: Path, flags: int, mode: int = 0o600) -> int:
    """Open and lock a file; its handle. Raises BusyError, OSError.

    Whoever makes and removes such a file at the same time never owns a lock on a file that has no name any more.
    """
    while True:
        handle = os.open(path, flags | os.O_CLOEXEC | os.O_NONBLOCK, mode)
        try:
            lock(handle)
        except BaseException:
            os.close(handle)
            raise
        if is_same(handle, path):
            return handle
        os.close(handle)


def lock(handle: int) -> None:
    """Lock an open file. Raises BusyError, OSError."""
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        raise BusyError("The file is held elsewhere.") from None


def is_same(handle: int, path: Path) -> bool:
    """Whether a name still stands for the open file."""
    try:
        there = path.stat()
    except OSError:
        return False
    here = os.fstat(handle)
    return (here.st_dev, here.st_ino) == (there.st_dev, there.st_ino)
