"""The log's file: one line a record, each with a checksum, only ever appended to; on the disk before it is acknowledged.

An entry that is changed is written again under its key, one that is taken out is a record that says so. A torn last line, from a
kill in the middle of a write, is set aside before the next record, in a file beside the log; one that lacks only its break
counts. Damaged lines elsewhere are told by number and passed over. A log that is just being written is waited for.
"""

import os
import zlib
from collections.abc import Iterable
from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.keep.atomic import sync_folder
from umbra_awl.core.keep.limits import MB, read_within
from umbra_awl.core.keep.lock import PATIENCE_S, BusyError, holder_words, waited_for
from umbra_awl.core.logbook.model import Entry

NAME = "log.awl-log"
"""The log lies under this name in the folder of the plan."""
LOG_BYTES = 256 * MB
HEAD = b"umbra-awl log 1\n"


_NO_LOG = "This is no log of this program, or its beginning is damaged. Nothing was changed."


class LogError(Exception):
    """The log cannot be read or written; the message says what, and what to do."""


class LogRecord(msgspec.Struct, frozen=True, omit_defaults=True):
    """A line: an entry put there or changed, or the key of one taken out."""

    kind: Literal["put", "gone"]
    entry: Entry | None = None
    key: str = ""


class LogSnapshot(NamedTuple):
    """What a log holds: entries in their order, damaged lines by number, and the bytes that are sound."""

    entries: tuple[Entry, ...]
    damaged: tuple[int, ...]
    sound_bytes: int


def record_line(record: LogRecord) -> bytes:
    """A record as a line with its checksum in front."""
    body = msgspec.json.encode(record)
    return b"%08x %s\n" % (zlib.crc32(body), body)


_decode = msgspec.json.Decoder(LogRecord).decode


def parse_line(line: bytes) -> LogRecord | None:
    """The record in a line; None where it is torn or damaged."""
    mark, _, body = line.partition(b" ")
    try:
        sound = len(mark) == 8 and int(mark, 16) == zlib.crc32(body)
        return _decode(body) if sound else None
    except (ValueError, msgspec.DecodeError, RecursionError):
        return None


def held_in(data: bytes) -> LogSnapshot:
    """What the bytes of a log hold. Raises LogError for bytes that are no log."""
    if HEAD[:-1].startswith(data):  # nothing yet, or a kill while the head was written
        return LogSnapshot((), (), 0)
    if not data.startswith(HEAD):
        raise LogError(_NO_LOG)
    entries: dict[str, Entry] = {}
    damaged = []
    lines = data.split(b"\n")
    torn = lines.pop()
    if torn and parse_line(torn) is not None:  # whole, but for the break that a kill left out
        lines.append(torn)
        torn = b""
    for number, line in enumerate(lines[1:], 2):
        record = parse_line(line)
        if record is None:
            damaged.append(number)
        elif record.kind == "put" and record.entry is not None:
            entries[record.entry.key] = record.entry
        else:
            entries.pop(record.key, None)
    return LogSnapshot(tuple(entries.values()), tuple(damaged), len(data) - len(torn))


class LogFile:
    """One log. It is locked only while something is written, so that another window can read it at any time."""

    def __init__(self, path: Path, patience_s: float = PATIENCE_S) -> None:
        self.path, self._patience_s = path, patience_s
        self.sizes = (0, 0)
        """How long it was before and after what was written here last: who knew another length has not seen what came between."""

    def read(self) -> LogSnapshot:
        """What it holds; nothing where it is not there yet. Raises LogError."""
        try:
            return held_in(read_within(self.path, LOG_BYTES)) if self.path.exists() else LogSnapshot((), (), 0)
        except OSError as error:
            raise LogError(f"The log {self.path.name} cannot be read ({error.strerror or error}).") from None

    @property
    def aside(self) -> Path:
        """Where it is kept what was torn."""
        return self.path.with_name(f"{self.path.name}.torn")

    def mark(self) -> tuple[int, ...]:
        """What tells whether somebody else has written, replaced or removed it since: the same numbers, nothing has happened."""
        try:
            found = self.path.stat()
        except OSError:
            return ()
        return found.st_dev, found.st_ino, found.st_size, found.st_mtime_ns

    def put(self, entries: Iterable[Entry]) -> str:
        """Write entries, new or changed; on the disk when this returns. What is to be told besides; empty for nothing.

        Raises LogError, and then nothing was acknowledged.
        """
        return self._append([LogRecord("put", entry) for entry in entries])

    def take_out(self, keys: Iterable[str]) -> str:
        """Take entries out; the lines stay in the file. What is to be told besides. Raises LogError."""
        return self._append([LogRecord("gone", key=key) for key in keys])

    def _append(self, records: list[LogRecord]) -> str:
        if not records:
            return ""
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            handle = waited_for(self.path, os.O_RDWR | os.O_CREAT, self._patience_s)
        except BusyError:
            raise LogError(f"The log is just being written: {holder_words(self.path)}. Try again.") from None
        except OSError as error:
            raise LogError(
                f"The log cannot be written ({error.strerror or error}). Make room, or let it be written."
            ) from None
        try:
            return self._write(handle, b"".join(map(record_line, records)))
        except OSError as error:
            raise LogError(
                f"The log cannot be written ({error.strerror or error}). Make room, then write it again."
            ) from None
        finally:
            os.close(handle)

    def _write(self, handle: int, data: bytes) -> str:
        """Append behind the last whole line; on a failure the file is as long as before. Raises LogError for what is no log."""
        told = ""
        size = os.fstat(handle).st_size
        begun = os.pread(handle, len(HEAD), 0)
        if begun != HEAD and not HEAD[:-1].startswith(begun):
            raise LogError(_NO_LOG)
        whole = self._whole(handle, size)
        begin = b"" if whole else HEAD
        if whole != size:
            torn = os.pread(handle, size - whole, whole)
            if parse_line(torn) is not None:
                whole, begin = size, b"\n"
            else:
                told = self._set_aside(torn)
                os.ftruncate(handle, whole)
        os.lseek(handle, whole, os.SEEK_SET)
        view = memoryview(begin + data)
        try:
            while view:
                view = view[os.write(handle, view) :]
            os.fsync(handle)
            if begin == HEAD:
                sync_folder(self.path.parent)
        except OSError:
            os.ftruncate(handle, whole)
            raise
        self.sizes = (size, whole + len(begin) + len(data))
        return told

    def _set_aside(self, torn: bytes) -> str:
        """Keep what a kill left of a line. Raises OSError."""
        if HEAD.startswith(torn):
            return ""
        with self.aside.open("ab") as file:
            file.write(torn + b"\n")
            file.flush()
            os.fsync(file.fileno())  # it is there before it is cut off
        return f"The log ended in a torn line, now set aside in “{self.aside.name}”: an entry that was never shown as logged."

    @staticmethod
    def _whole(handle: int, size: int) -> int:
        """Up to where the file ends in whole lines."""
        at = size
        while at > 0:
            start = max(0, at - 65_536)
            found = os.pread(handle, at - start, start).rfind(b"\n")
            if found >= 0:
                return start + found + 1
            at = start
        return 0
