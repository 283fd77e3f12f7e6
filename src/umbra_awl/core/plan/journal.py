"""The journal beside a plan: every edit at once, so that a kill loses at most the last one.

One JSON line a record, each with a checksum of its own. The first says which saved bytes the edits start from; a
“saving” record, written before the plan file is replaced, says which bytes the edits so far have become. A record is
handed to the system before the edit shows, which survives a kill; `sync` makes it survive a power cut too.
"""

import fcntl
import os
import zlib
from pathlib import Path

import msgspec

from umbra_awl.core.plan import patch as patches
from umbra_awl.core.plan.model import Plan


class JournalBusyError(OSError):
    """The plan is open in another window."""


class Record(msgspec.Struct, frozen=True, omit_defaults=True):
    """A line of the journal: its kind (“base”, “edit”, “saving”), a digest or a sentence, and a patch."""

    kind: str
    text: str = ""
    patch: patches.Patch | None = None


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
    except (ValueError, msgspec.DecodeError):
        return None


def read_records(path: Path) -> list[Record]:
    """The sound records of a journal up to the first torn one; empty when there is no journal."""
    try:
        lines = path.read_bytes().split(b"\n")
    except FileNotFoundError:
        return []
    records: list[Record] = []
    for line in lines:
        record = parse_line(line) if line else None
        if record is None:
            break
        records.append(record)
    return records


def edits_since(records: list[Record], saved: str) -> list[Record] | None:
    """The edits to replay on the saved file with that digest; None when the journal belongs to other bytes."""
    starts = [at for at, item in enumerate(records) if item.kind in {"base", "saving"} and item.text == saved]
    if not starts:
        return None
    return [item for item in records[starts[-1] :] if item.kind == "edit"]


def replay(plan: Plan, records: list[Record]) -> tuple[Plan, int]:
    """The plan after the edits that fit, and how many did."""
    done = 0
    for record in records:
        if record.patch is None:
            break
        try:
            plan = patches.apply(plan, record.patch)
        except (msgspec.ValidationError, IndexError, KeyError):
            break
        done += 1
    return plan, done


class Journal:
    """The open journal of one plan file, locked against a second window."""

    def __init__(self, plan_path: Path) -> None:
        self.path = journal_path(plan_path)
        self._handle = os.open(self.path, os.O_RDWR | os.O_CREAT | os.O_APPEND, 0o644)
        try:
            fcntl.flock(self._handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            os.close(self._handle)
            raise JournalBusyError(f"“{plan_path.name}” is open in another window. Close it there first.") from None

    def start(self, saved: str) -> None:
        """Begin anew from saved bytes with this digest. Raises OSError."""
        os.ftruncate(self._handle, 0)
        self._write(Record("base", saved))

    def append(self, sentence: str, old: Plan, new: Plan) -> None:
        """Record an edit. Raises OSError (disk full); a torn line is cut off again."""
        self._write(Record("edit", sentence, patches.difference(old, new)))

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
        if remove:
            self.path.unlink(missing_ok=True)
        os.close(self._handle)
