"""The radio itself, without a line: a memory file, and what it answers to each frame."""

import os
import struct
from collections.abc import Callable
from hashlib import shake_128
from pathlib import Path

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.frames import (
    Frame,
    FrameKind,
    LinkRefusal,
    block_payload,
    pack_identity,
    unpack_block,
    unpack_read,
)
from umbra_awl.core.transfer.protocols import RadioIdentity
from umbra_awl.standins.radio.faults import Faults
from umbra_awl.standins.radio.loader import Loader
from umbra_awl.standins.radio.people_region import PeopleRegion

_OF_LOADING = frozenset({FrameKind.LOAD_BEGIN, FrameKind.LOAD_WRITE, FrameKind.LOAD_END})
_OF_PEOPLE = frozenset(
    {
        FrameKind.PEOPLE,
        FrameKind.PEOPLE_BEGIN,
        FrameKind.PEOPLE_WRITE,
        FrameKind.PEOPLE_SUMS,
        FrameKind.PEOPLE_END,
    }
)


def factory_image(profile: Profile, unit: str = "1") -> bytes:
    """A radio's memory as it leaves the factory: settings of its own everywhere, our tables empty of meaning.

    `unit` tells single radios apart: what the factory adjusted in each is its own.
    """
    state, image = 0x2545F491, bytearray(profile.image.size)
    for at in range(0, len(image), 4):
        state = (state * 1_664_525 + 1_013_904_223) & 0xFFFFFFFF
        struct.pack_into("<I", image, at, state)
    own = profile.image.unit
    image[own.at : own.at + own.length] = shake_128(unit.encode()).digest(own.length)
    return bytes(image)


class SimulatedRadio:
    """Answers frames from a memory file. Each block written goes to the file at once, as into a radio's flash."""

    def __init__(self, profile: Profile, memory: Path, faults: Faults) -> None:
        self.loader = Loader(profile, memory, faults.battery)
        self._people = PeopleRegion(profile, memory, lambda: self.loader.variant) if profile.people else None
        self.on = True
        self._profile = profile
        self._faults = faults
        self._file = os.open(memory, os.O_RDWR)
        self._open = False
        self._written = 0
        self._seen = 0
        self.display = "READY"

    def answer(self, frame: Frame) -> Frame | None:
        """The frame to send back, or None when the radio stays silent."""
        if self._faults.silent or not self.on:
            return None
        try:
            kind, payload = self._act(FrameKind(frame.kind), frame.payload)
        except (ValueError, struct.error):
            kind, payload = FrameKind.REFUSED, bytes([LinkRefusal.UNKNOWN]) + b"unknown request"
        return Frame(kind, frame.sequence, payload)

    def _act(self, kind: FrameKind, payload: bytes) -> tuple[FrameKind, bytes]:
        acts: dict[FrameKind, Callable[[], tuple[FrameKind, bytes]]] = {
            FrameKind.IDENTIFY: lambda: (FrameKind.IDENTITY, pack_identity(self._identity())),
            FrameKind.READ: lambda: self._read(payload),
            FrameKind.BEGIN: self._begin,
            FrameKind.WRITE: lambda: self._write(payload),
            FrameKind.END: self._end,
        }
        if kind in _OF_LOADING:
            return self.loader.answer(kind, payload, self._lose_people)
        if self.loader.loading and kind != FrameKind.IDENTIFY:
            return self._refuse(LinkRefusal.LOADING, "loading state")
        if self._people is not None:
            acts |= {item: lambda: self._of_people(kind, payload) for item in _OF_PEOPLE}
        return acts[kind]() if kind in acts else self._refuse(LinkRefusal.UNKNOWN, "unknown request")

    def _lose_people(self) -> None:
        self.display = "LOADED"
        if self._people is not None:
            self._people.forget()

    def switch(self, *, on: bool, keys: bool = False) -> None:
        """Switch it off or on; with `keys` held it comes up in loading state."""
        self.on, self._open = on, False
        if on:
            self.loader.switch_on(keys=keys)
        self.display = ("LOADING STATE" if self.loader.loading else "READY") if on else ""

    def _of_people(self, kind: FrameKind, payload: bytes) -> tuple[FrameKind, bytes]:
        if self._people is None or (self._faults.locked and kind != FrameKind.PEOPLE):
            return self._refuse(LinkRefusal.WRITE_LOCKED, "locked")
        self.display = "PEOPLE"
        return self._people.answer(kind, payload)

    def _end(self) -> tuple[FrameKind, bytes]:
        self._open, self.display = False, "RESTARTED"
        return FrameKind.ENDED, b""

    def _begin(self) -> tuple[FrameKind, bytes]:
        if self._faults.locked:
            return self._refuse(LinkRefusal.WRITE_LOCKED, "locked")
        self._open, self._written, self.display = True, 0, "WRITING"
        return FrameKind.BEGUN, b""

    def _identity(self) -> RadioIdentity:
        model = "fell-d2" if self._faults.wrong_model else self._profile.key
        return RadioIdentity(
            model, self.loader.version, self._profile.image.size, self._profile.line.block, self._serial()
        )

    def _serial(self) -> str:
        """The number on its back, where it tells it: made of what the factory put into it."""
        own = self._profile.image.unit
        return os.pread(self._file, own.length, own.at).hex()[:12].upper() if self._profile.serial else ""

    @staticmethod
    def _refuse(code: LinkRefusal, text: str) -> tuple[FrameKind, bytes]:
        return FrameKind.REFUSED, bytes([code]) + text.encode()

    def _inside(self, at: int, length: int) -> bool:
        return 0 < length <= self._profile.line.block and at + length <= self._profile.image.size

    def _read(self, payload: bytes) -> tuple[FrameKind, bytes]:
        at, length = unpack_read(payload)
        if not self._inside(at, length):
            return self._refuse(LinkRefusal.BAD_ADDRESS, "no such address")
        self.display = f"READING {100 * (at + length) // self._profile.image.size} %"
        return FrameKind.BLOCK, block_payload(at, os.pread(self._file, length, at))

    def _write(self, payload: bytes) -> tuple[FrameKind, bytes]:
        at, data = unpack_block(payload)
        if not self._open:
            return self._refuse(LinkRefusal.NOT_BEGUN, "not in programming state")
        if not self._inside(at, len(data)):
            return self._refuse(LinkRefusal.BAD_ADDRESS, "no such address")
        if self._faults.full and self._written >= 4 * self._profile.line.block:
            return self._refuse(LinkRefusal.FULL, "memory full")
        os.pwrite(self._file, data, at)
        self._written += len(data)
        self.display = f"WRITING {self._written} BYTES"
        return FrameKind.WRITTEN, payload[:4]

    def spoil(self, data: bytes) -> bytes:
        """The bytes of an answer, one bit turned in every so-many-th when that fault is asked for."""
        self._seen += 1
        if self._faults.corrupt_every and self._seen % self._faults.corrupt_every == 0:
            spoiled = bytearray(data)
            spoiled[len(spoiled) // 2] ^= 0x10
            return bytes(spoiled)
        return data

    def close(self) -> None:
        """Close the memory file."""
        os.close(self._file)
        if self._people is not None:
            self._people.close()
