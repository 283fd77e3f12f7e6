"""The frames of the programming line (described in docs/formats.md).

`A5 5A | length u16 | type u8 | sequence u8 | payload | CRC-32 u32`, all little-endian; length counts the payload; the CRC
covers length to payload. A receiver that finds a wrong CRC drops one byte and looks for the next `A5 5A`.
"""

import struct
import zlib
from enum import IntEnum
from typing import NamedTuple

from umbra_awl.core.transfer.protocols import RadioIdentity

MARK = b"\xa5\x5a"
MOST_PAYLOAD = 4096
_LONGEST_SERIAL = 64
_HEAD = struct.Struct("<HBB")
_CRC = struct.Struct("<I")
OVERHEAD = len(MARK) + _HEAD.size + _CRC.size


class FrameKind(IntEnum):
    """Frame types. Replies have the high bit set."""

    IDENTIFY = 0x01
    READ = 0x02
    WRITE = 0x03
    BEGIN = 0x04
    END = 0x05
    PEOPLE = 0x06
    PEOPLE_BEGIN = 0x07
    PEOPLE_WRITE = 0x08
    PEOPLE_SUMS = 0x09
    PEOPLE_END = 0x0A
    LOAD_BEGIN = 0x0B
    LOAD_WRITE = 0x0C
    LOAD_END = 0x0D
    IDENTITY = 0x81
    BLOCK = 0x82
    WRITTEN = 0x83
    BEGUN = 0x84
    ENDED = 0x85
    PEOPLE_HELD = 0x86
    PEOPLE_BEGUN = 0x87
    PEOPLE_WRITTEN = 0x88
    PEOPLE_TOLD = 0x89
    PEOPLE_ENDED = 0x8A
    LOAD_BEGUN = 0x8B
    LOAD_WRITTEN = 0x8C
    LOAD_ENDED = 0x8D
    REFUSED = 0xFF


class LinkRefusal(IntEnum):
    """Why a radio refuses, the first byte of a REFUSED payload; text follows."""

    UNKNOWN = 0
    BAD_ADDRESS = 1
    NOT_BEGUN = 2
    WRITE_LOCKED = 3
    FULL = 4
    LOADING = 5
    BATTERY = 6


class Frame(NamedTuple):
    """One frame: type, sequence number 0-255, payload."""

    kind: int
    sequence: int
    payload: bytes = b""


def encode(frame: Frame) -> bytes:
    """The bytes of a frame on the line."""
    body = _HEAD.pack(len(frame.payload), frame.kind, frame.sequence & 0xFF) + frame.payload
    return MARK + body + _CRC.pack(zlib.crc32(body))


class Decoder:
    """Finds frames in a stream that may be torn, doubled or noisy."""

    def __init__(self) -> None:
        self._buffer = bytearray()
        self.spoiled = 0

    def feed(self, data: bytes) -> list[Frame]:
        """The frames completed by these bytes, in order."""
        self._buffer += data
        frames: list[Frame] = []
        while (frame := self._next()) is not None:
            frames.append(frame)
        return frames

    def _next(self) -> Frame | None:
        while True:
            start = self._buffer.find(MARK)
            if start < 0:
                del self._buffer[: max(0, len(self._buffer) - 1)]
                return None
            del self._buffer[:start]
            if len(self._buffer) < len(MARK) + _HEAD.size:
                return None
            length, kind, sequence = _HEAD.unpack_from(self._buffer, len(MARK))
            if length <= MOST_PAYLOAD:
                end = OVERHEAD + length
                if len(self._buffer) < end:
                    return None
                body = bytes(self._buffer[len(MARK) : end - _CRC.size])
                if _CRC.unpack_from(self._buffer, end - _CRC.size)[0] == zlib.crc32(body):
                    del self._buffer[:end]
                    return Frame(kind, sequence, body[_HEAD.size :])
            self.spoiled += 1
            del self._buffer[:1]


def pack_identity(identity: RadioIdentity) -> bytes:
    """The payload of an IDENTITY frame."""
    serial = f"\0{identity.serial}" if identity.serial else ""
    head = struct.pack("<IH", identity.size, identity.block)
    return head + f"{identity.model}\0{identity.firmware}{serial}".encode()


def unpack_identity(payload: bytes) -> RadioIdentity:
    """The identity in a payload. Raises ValueError."""
    if len(payload) < 6:
        raise ValueError("An identity has at least six bytes.")
    size, block = struct.unpack_from("<IH", payload)
    model, firmware, serial, *_more = (*payload[6:].decode("utf-8", "replace").split("\0"), "", "")
    return RadioIdentity(model, firmware, size, block, serial[:_LONGEST_SERIAL])


_AT = struct.Struct("<I")
_READ = struct.Struct("<IH")


def read_payload(at: int, length: int) -> bytes:
    """The payload of a READ frame: address and number of bytes."""
    return _READ.pack(at, length)


def unpack_read(payload: bytes) -> tuple[int, int]:
    """Address and length in a READ payload. Raises struct.error."""
    at, length = _READ.unpack(payload)
    return at, length


def block_payload(at: int, data: bytes) -> bytes:
    """The payload of a BLOCK or WRITE frame: address, then bytes."""
    return _AT.pack(at) + data


def unpack_block(payload: bytes) -> tuple[int, bytes]:
    """Address and bytes in a BLOCK or WRITE payload. Raises struct.error."""
    return _AT.unpack_from(payload)[0], payload[_AT.size :]
