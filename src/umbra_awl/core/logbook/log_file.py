"""The log's file: one line a record, each with a checksum, only ever appended to; on the disk before it is acknowledged.

An entry that is changed is written again under its key, one that is taken out is a record that says so. A torn last line, from a
kill in the middle of a write, is cut off before the next record; damaged lines elsewhere are told by number and passed over.
"""

import os
import zlib
from collections.abc import Iterable
from pathlib import Path
from typing import Literal, NamedTuple

import msgspec

from umbra_awl.core.keep.atomic import sync_folder
from umbra_awl.core.keep.limits import MB, read_within
from umbra_awl.core.keep.lock import BusyError, holder_words, locked
from umbra_awl.core.logbook.model import Entry

LOG_BYTES = 256 * MB
HEAD = b"umbra-awl log 1\n"


_NO_LOG = "This is no log of this program, or its beginning is damaged. Nothing was changed."


class LogError(Exception):
    """The log cannot be read or written; the message says what, and what to do."""


class Record(msgspec.Struct, frozen=True, omit_defaults=True):
    """A line: an entry put there or changed, or the key of one taken out."""

    kind: Literal["put", "gone"]
    entry: Entry | None = None
    key: str = ""


class Held(NamedTuple):
    """What a log holds: entries in their order, damaged lines by number, and the bytes that are sound."""

    entries: tuple[Entry, ...]
    damaged: tuple[int, ...]
    sound_bytes: int


def record_line(record: Record) -> bytes:
    """A record as a line with its checksum in front."""
    body = msgspec.json.encode(record)
    return b"%08x %s\n" % (zlib.crc32(body), body)


_decode = msgspec.json.Decoder(Record).decode


def parse_line(line: bytes) -> Record | None:
    """The record in a line; None where it is torn or damaged."""
    mark, _, body = line.partition(b" ")
    try:
        sound = len(mark) == 8 and int(mark, 16) == zlib.crc32(body)
        return _decode(body) if sound else None
    except (ValueError, msgspec.DecodeError, RecursionError):
        return None


def held_in(data: bytes) -> Held:
    """What the bytes of a log hold. Raises LogError for bytes that are no log."""
    if HEAD[:-1].startswith(data):  # nothing yet, or a kill while the head was written
        return Held((), (), 0)
    if not data.startswith(HEAD):
        raise LogError(_NO_LOG)
    entries: dict[str, Entry] = {}
    damaged = []
    lines = data.split(b"\n")
    torn = lines.pop()
    for number, line in enumerate(lines[1:], 2):
        record = parse_line(line)
        if record is None:
            damaged.append(number)
        elif record.kind == "put" and record.entry is not None:
            entries[record.entry.key] = record.entry
        else:
            entries.pop(record.key, None)
    return Held(tuple(entries.values()), tuple(damaged), len(data) - len(torn))


class LogFile:
    """One log. It is locked only while something is written, so that another window can read it at any time."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def read(self) -> Held:
        """What it holds; nothing where it is not there yet. Raises LogError."""
        try:
            return held_in(read_within(self.path, LOG_BYTES)) if self.path.exists() else Held((), (), 0)
        except OSError as error:
            raise LogError(f"The log {self.path.name} cannot be read ({error.strerror or error}).") from None

    def put(self, entries: Iterable[Entry]) -> None:
        """Write entries, new or changed; on the disk when this returns. Raises LogError, and then nothing was acknowledged."""
        self._append([Record("put", entry) for entry in entries])

    def take_out(self, keys: Iterable[str]) -> None:
        """Take entries out; the lines stay in the file. Raises LogError."""
        self._append([Record("gone", key=key) for key in keys])

    def _append(self, records: list[Record]) -> None:
        if not records:
            return
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            handle = locked(self.path, os.O_RDWR | os.O_CREAT)
        except BusyError:
            raise LogError(f"The log is just being written: {holder_words(self.path)}. Try again.") from None
        except OSError as error:
            raise LogError(
                f"The log cannot be written ({error.strerror or error}). Make room, or let it be written."
            ) from None
        try:
            self._write(handle, b"".join(map(record_line, records)))
        except OSError as error:
            raise LogError(
                f"The log cannot be written ({error.strerror or error}). Make room, then write it again."
            ) from None
        finally:
            os.close(handle)

    def _write(self, handle: int, data: bytes) -> None:
        """Append behind the last whole line; on a failure the file is as long as before. Raises LogError for what is no log."""
        size = os.fstat(handle).st_size
        begun = os.pread(handle, len(HEAD), 0)
        if begun != HEAD and not HEAD[:-1].startswith(begun):
            raise LogError(_NO_LOG)
        whole = self._whole(handle, size)
        if whole != size:
            os.ftruncate(handle, whole)
        begin = b"" if whole else HEAD
        os.lseek(handle, whole, os.SEEK_SET)
        view = memoryview(begin + data)
        try:
            while view:
                view = view[os.write(handle, view) :]
            os.fsync(handle)
            if begin:
                sync_folder(self.path.parent)
        except OSError:
            os.ftruncate(handle, whole)
            raise

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
