"""Writing files so that a power cut leaves the old one or the new one, never half of either, and nothing is replaced unasked.

A new file is made beside the place, flushed to the disk, and takes the name in one step. A link is followed: what it leads to is
written. A file that is replaced keeps its mode and, where the system allows, its owner; a new one is for its owner alone when it
is `private`. The new file is locked while it is written, so that a left-over one can be told from one at work.
"""

import errno
import fcntl
import os
import zlib
from collections.abc import Callable
from contextlib import suppress
from itertools import count
from pathlib import Path
from stat import S_IMODE, S_ISREG

PRIVATE_MODE = 0o600
_PLAIN_MODE = 0o666
_numbers = count(1)
Claim = Callable[[int], None]


def real_path(path: Path) -> Path:
    """Where a path leads through every link, whether or not something is there."""
    return Path(os.path.realpath(path))


def write_over(
    path: Path, data: bytes, *, private: bool = False, claim: Claim | None = None, through_links: bool = True
) -> None:
    """Write bytes durably in place of whatever is at `path`. Raises OSError; what was there stays then.

    `claim` is given the handle of the new file before it takes the name, to lock it. Without `through_links` a link at `path` is
    replaced itself, and what it leads to stays.
    """
    real = real_path(path) if through_links else path
    before = _stat(real)
    if before is not None and not S_ISREG(before.st_mode):
        raise OSError(errno.EINVAL, "it is a device, a pipe or a folder, and no file", str(path))
    new = _written_beside(real, data, _mode_for(before, private=private), claim)
    try:
        _keep_owner(new, before)
        new.replace(real)
    except BaseException:
        new.unlink(missing_ok=True)
        raise
    sync_folder(real.parent)


def write_new(path: Path, data: bytes, *, private: bool = False, durable: bool = True) -> None:
    """Write bytes where nothing is yet; of two that write at once, one wins. Raises FileExistsError, OSError.

    A copy of what is on the disk already need not be `durable`: that is quicker.
    """
    if os.path.lexists(path):
        raise FileExistsError(errno.EEXIST, os.strerror(errno.EEXIST), str(path))
    new = _written_beside(path, data, _mode_for(None, private=private), None, durable=durable)
    try:
        _take_name(new, path)
    finally:
        new.unlink(missing_ok=True)
    if durable:
        sync_folder(path.parent)


def _take_name(new: Path, path: Path) -> None:
    """Give a finished file a name that nobody has. Raises FileExistsError."""
    try:
        os.link(new, path)
    except FileExistsError:
        raise
    except OSError:  # a file system without hard links: hold the free name, then put the file in its place
        os.close(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, S_IMODE(new.stat().st_mode)))
        new.replace(path)


def _written_beside(path: Path, data: bytes, mode: int, claim: Claim | None, *, durable: bool = True) -> Path:
    """A new file with these bytes in the folder of `path`, flushed. Raises OSError."""
    new = path.with_name(f"{_left_over_stem(path)}{os.getpid()}-{next(_numbers)}")
    handle = os.open(new, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, PRIVATE_MODE)
    try:
        with os.fdopen(handle, "wb") as file:
            with suppress(OSError):  # a file system that knows no locks
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            file.write(data)
            file.flush()
            with suppress(OSError):  # a card's file system has no modes
                os.fchmod(handle, mode)
            if durable:
                os.fsync(handle)
            if claim is not None:
                claim(handle)
    except BaseException:
        new.unlink(missing_ok=True)
        raise
    return new


def _stat(path: Path) -> os.stat_result | None:
    try:
        return path.stat()
    except FileNotFoundError:
        return None


def _mode_for(before: os.stat_result | None, *, private: bool) -> int:
    if before is not None:
        return S_IMODE(before.st_mode) & 0o777
    return PRIVATE_MODE if private else _PLAIN_MODE & ~_umask()


def _umask() -> int:
    """The process's mask, read without changing it for another thread."""
    with suppress(OSError, ValueError, StopIteration):
        lines = Path("/proc/self/status").read_text("ascii").splitlines()
        return int(next(line for line in lines if line.startswith("Umask:")).split()[1], 8)
    return 0o077


def _keep_owner(new: Path, before: os.stat_result | None) -> None:
    if before is not None and (before.st_uid, before.st_gid) != (os.geteuid(), os.getegid()):
        with suppress(OSError):  # only the system's keeper may give files away
            os.chown(new, before.st_uid, before.st_gid)


def _left_over_stem(path: Path) -> str:
    """How the names of unfinished files for `path` begin: short, whatever the name's length."""
    return f".awl-{zlib.crc32(path.name.encode('utf-8', 'surrogateescape')):08x}-"


def clean_left_overs(path: Path) -> int:
    """Take away what interrupted writers of `path` left beside it; how many. What is being written now stays."""
    real, gone = real_path(path), 0
    with suppress(OSError):
        for item in real.parent.glob(f"{_left_over_stem(real)}*"):
            gone += _removed_if_idle(item)
    return gone


def _removed_if_idle(item: Path) -> bool:
    with suppress(OSError):
        handle = os.open(item, os.O_RDWR | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC)
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            item.unlink()
            return True
        finally:
            os.close(handle)
    return False


def sync_folder(folder: Path) -> None:
    """Make a rename in a folder durable. Raises OSError."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
