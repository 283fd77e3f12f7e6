"""Files of our own with a header and a checksum: `mark | header length u32 | header (JSON) | body | SHA-256 over all before`."""

import struct
from hashlib import sha256

SUM = 32
MOST_HEADER = 4_096
_LENGTH = struct.Struct("<I")


class SealError(ValueError):
    """Bytes that are no whole file; the message says why, without the file's name."""


def seal(mark: bytes, header: bytes, body: bytes) -> bytes:
    """The bytes of a file."""
    data = mark + _LENGTH.pack(len(header)) + header + body
    return data + sha256(data).digest()


def unseal(mark: bytes, data: bytes) -> tuple[bytes, bytes]:
    """Header and body in some bytes. Raises SealError."""
    head = len(mark) + _LENGTH.size
    if data[: len(mark)] != mark:
        raise SealError("it is a file of another kind")
    if len(data) < head + SUM:
        raise SealError("it breaks off")
    length = _LENGTH.unpack_from(data, len(mark))[0]
    if length > MOST_HEADER or len(data) < head + length + SUM:
        raise SealError("it breaks off")
    if sha256(data[:-SUM]).digest() != data[-SUM:]:
        raise SealError("it is damaged: its checksum does not match")
    return data[head : head + length], data[head + length : -SUM]
