"""Locks on files: held by one process at a time, gone when it ends, however it ends.

The lock lies on the file itself and not on its name, so that a link or a second name of the same file is the same lock. Since a
name may come to stand for another file while it is being locked, the name is looked at once more afterwards.
"""

import fcntl
import os
import pwd
import time
from datetime import datetime
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


PATIENCE_S, _STEP_S = 10.0, 0.004


def waited_for(path: Path, flags: int, patience_s: float = PATIENCE_S, mode: int = 0o600) -> int:
    """The same as `locked`, for what is held for moments: whoever holds it is waited for. Raises BusyError after so long."""
    until, step = time.monotonic() + patience_s, _STEP_S
    while True:
        try:
            return locked(path, flags, mode)
        except BusyError:
            if time.monotonic() >= until:
                raise
        time.sleep(step)
        step = min(2 * step, 0.064)


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


def holder(path: Path) -> int:
    """The number of the process that holds a locked file; 0 where the system does not tell."""
    try:
        there = path.stat()
        table = Path("/proc/locks").read_text("ascii", "replace")
    except OSError:
        return 0
    wanted = f"{os.major(there.st_dev):02x}:{os.minor(there.st_dev):02x}:{there.st_ino}"
    for line in table.splitlines():
        cells = line.split()
        if len(cells) > 5 and cells[1] == "FLOCK" and cells[5] == wanted and cells[4].isdigit():
            return int(cells[4])
    return 0


def holder_words(path: Path) -> str:
    """Who holds a file, as far as the system tells: “this program”, or the process, whose it is and since when."""
    pid = holder(path)
    if pid == os.getpid():
        return "this program already has it open"
    try:
        begun = Path(f"/proc/{pid}").stat() if pid else None
    except OSError:
        begun = None
    if begun is None:
        return "another window has it open"
    since = datetime.fromtimestamp(begun.st_mtime)
    return f"process {pid} of {_user(begun.st_uid)} has it open, begun on {since:%Y-%m-%d at %H:%M}"


def _user(number: int) -> str:
    try:
        return pwd.getpwuid(number).pw_name
    except KeyError:
        return f"user {number}"
