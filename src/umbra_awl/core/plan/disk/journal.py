"""The journal beside a plan: every edit at once, so that a kill loses at most the last one.

One JSON line a record, each with a checksum of its own. The first says which saved bytes the edits start from; a
“saving” record, written before the plan file is replaced, says which bytes the edits so far have become. A record is
handed to the system before the edit shows, which survives a kill; `sync` makes it survive a power cut too.
"""

import os
import zlib
from pathlib import Path
from typing import NamedTuple

import msgspec

from umbra_awl.core.keep.limits import JOURNAL_BYTES
from umbra_awl.core.keep.lock import is_same, locked
from umbra_awl.core.plan.disk import patch as patches
from umbra_awl.core.plan.model import Plan

_CHUNK = 1 << 20


class Record(msgspec.Struct, frozen=True, omit_defaults=True):
    """A line of the journal: its kind (“base”, “edit”, “saving”), a digest or a sentence, and a patch."""

    kind: str
    text: str = ""
    patch: patches.Patch | None = None


class Contents(NamedTuple):
    """What a journal holds: the sound records, the bytes they take, and how many lines after them cannot be read."""

    records: list[Record]
    sound_bytes: int
    unread: int


def digest(data: bytes) -> str:
    """What names a state of the saved file: its length and two checksums. It tells states apart; it guards no secret."""
    return f"{len(data)}-{zlib.crc32(data):08x}-{zlib.adler32(data):08x}"


def journal_path(plan_path: Path) -> Path:
    """Where the journal of a plan file lies."""
    return plan_path.with_name(plan_path.name + ".journal")


def record_line(record: Record) -> bytes:
    """A record as a line with its checksum in front."""
    body = msgspec.json.encode(record)
    return b"%08x %s\n" % (zlib.crc32(body), body)


def parse_line(line: bytes) -> Record | None:
    """The record in a line, or None when the line is torn or damaged."""
    mark, _, body = line.partition(b" ")
    try:
        sound = len(mark) == 8 and int(mark, 16) == zlib.crc32(body)
        return msgspec.json.decode(body, type=Record) if sound else None
    except (ValueError, msgspec.DecodeError, RecursionError):
        return None


def contents_of(data: bytes) -> Contents:
    """The sound records up to the first line that is torn or damaged; a line without its end counts as torn."""
    records: list[Record] = []
    start = 0
    while (end := data.find(b"\n", start)) >= 0:
        record = parse_line(data[start:end])
        if record is None:
            break
        records.append(record)
        start = end + 1
    rest = [line for line in data[start:].split(b"\n") if line]
    return Contents(records, start, len(rest))


def edits_since(records: list[Record], saved: str) -> list[Record] | None:
    """The edits to replay on the saved file with that digest; None when the journal belongs to other bytes."""
    starts = [at for at, item in enumerate(records) if item.kind in {"base", "saving"} and item.text == saved]
    if not starts:
        return None
    return [item for item in records[starts[-1] :] if item.kind == "edit"]


class Journal:
    """The open journal of one plan file, locked against a second window."""

    def __init__(self, plan_path: Path) -> None:
        """Open or make it. Raises BusyError, OSError; a link in its place is refused."""
        self.path = journal_path(plan_path)
        self._handle = locked(self.path, os.O_RDWR | os.O_CREAT | os.O_APPEND | os.O_NOFOLLOW)

    @property
    def there(self) -> bool:
        """Whether the journal still has its name; somebody may have removed it, or its whole folder."""
        return is_same(self._handle, self.path)

    def read(self) -> bytes:
        """All of its bytes, at most as many as are ever read. Raises OSError."""
        size = min(os.fstat(self._handle).st_size, JOURNAL_BYTES)
        parts: list[bytes] = []
        at = 0
        while at < size and (part := os.pread(self._handle, min(_CHUNK, size - at), at)):
            parts.append(part)
            at += len(part)
        return b"".join(parts)

    def cut(self, end: int) -> None:
        """Cut off what comes after so many bytes. Raises OSError."""
        os.ftruncate(self._handle, end)

    def start(self, saved: str) -> None:
        """Begin anew from saved bytes with this digest. Raises OSError."""
        os.ftruncate(self._handle, 0)
        self._write(Record("base", saved))

    def put(self, record: Record) -> None:
        """Record what was recorded before. Raises OSError."""
        self._write(record)

    def append(self, sentence: str, old: Plan, new: Plan) -> None:
        """Record an edit. Raises PatchError for what would not come back, OSError (disk full); a torn line is cut off."""
        patch = patches.difference(old, new)
        patches.check(old, new, patch)
        self._write(Record("edit", _writable(sentence), patch))

    def saving(self, becoming: str) -> None:
        """Record that the edits so far are about to become saved bytes with this digest.

        Handed to the system before the file is replaced, which a kill cannot undo. Should a power cut keep the new file
        and lose this line, the journal is set aside at the next opening; the file already holds all its edits.
        """
        self._write(Record("saving", becoming))

    def _write(self, record: Record) -> None:
        line = record_line(record)
        end = os.fstat(self._handle).st_size
        try:
            written = os.write(self._handle, line)
            if written != len(line):
                raise OSError(28, "No space left on device")
        except OSError:
            os.ftruncate(self._handle, end)
            raise

    def sync(self) -> None:
        """Make the records survive a power cut. May take tens of milliseconds; call it off the interface thread."""
        os.fsync(self._handle)

    def close(self, *, remove: bool = False) -> None:
        """Let go of the journal; remove it when the plan is saved and nothing is left in it."""
        if remove and self.there:
            self.path.unlink(missing_ok=True)
        os.close(self._handle)


def _writable(text: str) -> str:
    return text.encode("utf-8", "replace").decode()
