"""The plan file itself: locked while it is open, read within limits, replaced whole, and looked at for changes from outside."""

import os
from contextlib import suppress
from pathlib import Path
from typing import Literal, NamedTuple

from umbra_awl.core.keep.atomic import clean_left_overs, real_path, write_over
from umbra_awl.core.keep.limits import PLAN_BYTES, open_regular, read_within, rest_within
from umbra_awl.core.keep.lock import BusyError, holder_words, is_same, lock
from umbra_awl.core.plan.disk.journal import digest
from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.core.plan.errors import StoreError, why

Outside = Literal["same", "changed", "gone"]


class Stamp(NamedTuple):
    """What tells without reading that a file is the one it was: which file, its length, when it was written and touched."""

    device: int
    number: int
    size: int
    written_ns: int
    touched_ns: int

    @classmethod
    def of(cls, found: os.stat_result) -> "Stamp":
        """The stamp in what the system tells of a file."""
        return cls(found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns, found.st_ctime_ns)


def read_bytes(path: Path) -> bytes:
    """The bytes of a plan file. Raises StoreError."""
    try:
        return read_within(path, PLAN_BYTES)
    except OSError as error:
        raise unreadable(path, error) from None


def unreadable(path: Path, error: OSError) -> StoreError:
    """Why a plan file cannot be read, as a sentence."""
    if isinstance(error, FileNotFoundError):
        return StoreError(f"There is no file “{path}”. Check the name, or make a new plan.")
    if isinstance(error, IsADirectoryError):
        return StoreError(f"“{path}” is a folder. Choose a plan file ending in {SUFFIX}.")
    return StoreError(f"“{path}” cannot be read: {why(error)}.")


def open_elsewhere(path: Path, real: Path) -> StoreError:
    """Why a plan cannot be opened that another window holds, and who that is."""
    return StoreError(f"“{path.name}” is open in another window: {holder_words(real)}. Close it there first.")


class PlanFile:
    """A plan file held by this window: the real file behind every link, locked under whatever name it is reached."""

    def __init__(self, path: Path) -> None:
        """Lock and read it. Raises StoreError, also when it is open in another window."""
        self.real = real_path(path)
        try:
            file = open_regular(self.real)
        except OSError as error:
            raise unreadable(path, error) from None
        try:
            lock(file.fileno())
            if not is_same(file.fileno(), self.real):
                raise BusyError("It is just being replaced.")
            self.data = rest_within(file, PLAN_BYTES)
            self._stamp = Stamp.of(os.fstat(file.fileno()))
            self._held = os.dup(file.fileno())
        except BusyError:
            raise open_elsewhere(path, self.real) from None
        except OSError as error:
            raise unreadable(path, error) from None
        finally:
            file.close()
        self.digest = digest(self.data)
        clean_left_overs(self.real)

    def outside(self) -> Outside:
        """Whether the file is still what was read or written here last."""
        try:
            stamp = Stamp.of(self.real.stat())
        except OSError:
            return "gone"
        if stamp == self._stamp:
            return "same"
        try:
            data = read_within(self.real, PLAN_BYTES)
        except OSError:
            return "changed"
        if digest(data) != self.digest:
            return "changed"
        self._stamp = stamp
        return "same"

    def read_again(self) -> bytes:
        """What the file holds now, taken as the state to go on from. Raises StoreError."""
        self.data = read_bytes(self.real)
        self.digest = digest(self.data)
        self._stamp = Stamp.of(self.real.stat())
        with suppress(OSError):
            handle = os.open(self.real, os.O_RDONLY | os.O_CLOEXEC | os.O_NONBLOCK)
            lock(handle)
            self._hold(handle)
        return self.data

    def replace(self, data: bytes) -> None:
        """Write new bytes in place of the file, durably; the new file is locked before it takes the name. Raises OSError."""
        claimed: list[int] = []
        try:
            write_over(self.real, data, private=True, claim=lambda handle: claimed.append(os.dup(handle)))
        except BaseException:
            for handle in claimed:
                os.close(handle)
            raise
        self._hold(*claimed)
        self.data, self.digest = data, digest(data)
        self._stamp = Stamp.of(self.real.stat())

    def _hold(self, handle: int) -> None:
        """Hold another, locked file in place of the one held so far."""
        os.close(self._held)
        self._held = handle

    def close(self) -> None:
        """Let go of the file."""
        os.close(self._held)
