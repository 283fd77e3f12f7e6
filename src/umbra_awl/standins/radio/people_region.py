"""The people region of a simulated radio: a file of its own beside its memory, and what it says of it."""

import json
import os
import struct
import zlib
from collections.abc import Callable
from pathlib import Path

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Firmware
from umbra_awl.core.transfer.frames import FrameKind, LinkRefusal
from umbra_awl.core.transfer.people.records import DIGEST, people_digest

_STATE = struct.Struct(f"<II{DIGEST}s16s")
_SPAN = struct.Struct("<IHI")
_END = struct.Struct(f"<I{DIGEST}s16s")
_AT = struct.Struct("<I")


class PeopleRegion:
    """Answers the frames about people. While a list is being written the radio counts none."""

    def __init__(self, profile: Profile, memory: Path, firmware: Callable[[], Firmware | None]) -> None:
        self._profile, self._running = profile, firmware
        self._path, self._about = memory.with_suffix(".people"), memory.with_suffix(".people.json")
        self._record = profile.people.record if profile.people is not None else 0
        self._file = os.open(self._path, os.O_RDWR | os.O_CREAT | os.O_CLOEXEC, 0o600)

    @property
    def capacity(self) -> int:
        """How many people the firmware in it holds."""
        firmware = self._running()
        return firmware.people if firmware is not None and self._record else 0

    def forget(self) -> None:
        """Lose the list, as with another firmware."""
        self._tell(0, bytes(DIGEST), b"")

    def _told(self) -> tuple[int, bytes, bytes]:
        try:
            kept = json.loads(self._about.read_text())
            return int(kept["rows"]), bytes.fromhex(kept["digest"]), kept["stamp"].encode("ascii")
        except (OSError, ValueError, KeyError):
            return 0, bytes(DIGEST), b""

    def _tell(self, rows: int, digest: bytes, stamp: bytes) -> None:
        kept = {"rows": rows, "digest": digest.hex(), "stamp": stamp.decode("ascii", "replace").rstrip("\0")}
        write_over(self._about, json.dumps(kept).encode())

    def answer(self, kind: FrameKind, payload: bytes) -> tuple[FrameKind, bytes]:
        """The answer to a frame about people. Raises struct.error."""
        if kind == FrameKind.PEOPLE:
            firmware = self._running()
            name = firmware.name if firmware is not None else ""
            return FrameKind.PEOPLE_HELD, _STATE.pack(self.capacity, *self._told()) + name.encode()
        if kind == FrameKind.PEOPLE_BEGIN:
            if _AT.unpack(payload)[0] > self.capacity:
                return FrameKind.REFUSED, bytes([LinkRefusal.FULL]) + b"too many people"
            self._tell(0, bytes(DIGEST), b"")
            return FrameKind.PEOPLE_BEGUN, b""
        if kind == FrameKind.PEOPLE_WRITE:
            return self._write(payload)
        if kind == FrameKind.PEOPLE_SUMS:
            return FrameKind.PEOPLE_TOLD, self._sums(*_SPAN.unpack(payload))
        return self._end(*_END.unpack(payload))

    def _write(self, payload: bytes) -> tuple[FrameKind, bytes]:
        at, data = _AT.unpack_from(payload)[0], payload[_AT.size :]
        if at + len(data) > self.capacity * self._record:
            return FrameKind.REFUSED, bytes([LinkRefusal.FULL]) + b"no room"
        os.pwrite(self._file, data, at)
        return FrameKind.PEOPLE_WRITTEN, payload[: _AT.size]

    def _sums(self, first: int, count: int, size: int) -> bytes:
        block = self._profile.line.block
        sums = []
        for number in range(first, first + count):
            length = min(block, max(0, size - number * block))
            sums.append(zlib.crc32(os.pread(self._file, length, number * block).ljust(length, b"\xff")))
        return _AT.pack(first) + struct.pack(f"<{len(sums)}I", *sums)

    def _end(self, rows: int, digest: bytes, stamp: bytes) -> tuple[FrameKind, bytes]:
        if people_digest(os.pread(self._file, rows * self._record, 0)) != digest:
            return FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"the list is not whole"
        self._tell(rows, digest, stamp)
        return FrameKind.PEOPLE_ENDED, b""

    def close(self) -> None:
        """Close its file."""
        os.close(self._file)
