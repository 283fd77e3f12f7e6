"""Logs that come by other ways than a file: a service's journal, a named pipe, a page, a broker. Read on without waiting."""

import os
import re
import shutil
import stat
import subprocess
from pathlib import Path

from umbra_awl.core.hotspot.logs.polled import BrokerLog, PolledLog
from umbra_awl.core.hotspot.logs.reading import LOG_MOST_BYTES
from umbra_awl.core.keep.limits import open_regular, rest_within

_UNIT = re.compile(r"[A-Za-z0-9][A-Za-z0-9:_.@\\-]{0,120}")
_FIRST_LINES = "4000"
_AT_ONCE = 1_000_000


class GrowingLog:
    """A log file that grows: `more` reads what came since, and begins anew where the file was replaced or cut off."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._at = 0
        self._file: tuple[int, int] = (0, 0)
        self.data = b""

    def more(self) -> bool:
        """Read on; whether anything came. Raises OSError, LimitError among them."""
        with open_regular(self._path) as file:
            state = self._path.stat()
            if (state.st_dev, state.st_ino) != self._file or state.st_size < self._at:
                self._file, self._at, self.data = (state.st_dev, state.st_ino), 0, b""
            file.seek(self._at)
            data = rest_within(file, LOG_MOST_BYTES)
        whole = data[: data.rfind(b"\n") + 1]
        self._at += len(whole)
        self.data = (self.data + whole)[-LOG_MOST_BYTES:]
        return bool(whole)


class StreamLog:
    """What comes out of an open file descriptor; `more` reads what is there just now, `data` is the latest of it."""

    def __init__(self, number: int) -> None:
        os.set_blocking(number, False)
        self._number = number
        self._open = True
        self.data = b""
        self._rest = b""

    def more(self) -> bool:
        """Read on; whether a whole line came. Raises OSError where it has ended."""
        try:
            data = os.read(self._number, _AT_ONCE) if self._open else b""
        except BlockingIOError:
            return False
        if not data:
            return self._at_end()
        whole, mark, self._rest = (self._rest + data).rpartition(b"\n")
        self._rest = self._rest[-LOG_MOST_BYTES:]
        self.data = (self.data + whole + mark)[-LOG_MOST_BYTES:]
        return bool(mark)

    def _at_end(self) -> bool:
        """Nothing is there: the other end has not opened it, or has gone."""
        return False

    def close(self) -> None:
        """Let it go."""
        if self._open:
            self._open = False
            os.close(self._number)


class JournalLog(StreamLog):
    """The journal of a service, from some time back and on as it grows."""

    def __init__(self, unit: str, command: str = "journalctl") -> None:
        """Raises OSError for a name that is none, and where there is no journal."""
        if _UNIT.fullmatch(unit) is None:
            raise OSError(
                f"“{unit[:40]}” is no name of a service. Type it as the system lists it, for example spot.service."
            )
        found = shutil.which(command)
        if found is None:
            raise OSError("This system keeps no journal that can be asked (journalctl). Open the log's file instead.")
        words = [found, "--follow", "--no-pager", "--lines", _FIRST_LINES, "--output", "short-iso", "--unit", unit]
        ours, theirs = os.pipe()
        try:
            self._process = subprocess.Popen(words, stdin=subprocess.DEVNULL, stdout=theirs, stderr=subprocess.DEVNULL)
        finally:
            os.close(theirs)
        super().__init__(ours)
        self._unit = unit

    def _at_end(self) -> bool:
        raise OSError(f"The journal of {self._unit} has ended. Is there a service of that name, and may you read it?")

    def close(self) -> None:
        """End the command."""
        super().close()
        self._process.terminate()
        try:
            self._process.wait(3)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait(3)


Followed = GrowingLog | StreamLog | PolledLog | BrokerLog


def is_pipe(path: Path) -> bool:
    """Whether a path is a named pipe."""
    try:
        return stat.S_ISFIFO(path.stat().st_mode)
    except OSError:
        return False


def follow(path: Path) -> Followed:
    """A log to be followed: a file that grows, or a named pipe. Raises OSError."""
    return StreamLog(os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)) if is_pipe(path) else GrowingLog(path)


def let_go(followed: Followed | None) -> None:
    """Follow it no more."""
    if followed is not None and not isinstance(followed, GrowingLog):
        followed.close()
