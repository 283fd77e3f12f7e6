"""The frames of texts and pictures (described in docs/formats.md), in the same frame as the programming line has.

From the computer: KEY and UNKEY work the transmitter; TEXT, OFFER, BLOCK, POLL and END go over the air while it is keyed. The
radio answers KEYED, and SENT when a frame has gone out. From the far side come READY, HAVE, DONE and REFUSED, and its own TEXT.
"""

import struct
from enum import IntEnum

import msgspec

ID_BYTES = 4
MOST_BLOCKS = 4_096
MOST_PICTURE_BYTES = 600_000
_BLOCK = struct.Struct(f"<{ID_BYTES}sH")
_HAVE = struct.Struct(f"<{ID_BYTES}sH")


class AirKind(IntEnum):
    """Types of frames."""

    KEY = 0x21
    UNKEY = 0x22
    TEXT = 0x24
    OFFER = 0x25
    BLOCK = 0x26
    POLL = 0x27
    END = 0x28
    KEYED = 0xA1
    SENT = 0xA2
    READY = 0xA5
    HAVE = 0xA7
    DONE = 0xA8
    REFUSED = 0xFE


OVER_THE_AIR = frozenset({
    AirKind.TEXT, AirKind.OFFER, AirKind.BLOCK, AirKind.POLL, AirKind.END,
    AirKind.READY, AirKind.HAVE, AirKind.DONE, AirKind.REFUSED,
})  # fmt: skip
"""What goes out while the transmitter is keyed, from either side."""


class AirFormError(ValueError):
    """A payload that is not what its frame says; the message says why."""


class PictureOffer(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """What a picture is, before it comes: from whom and to whom, size, quality, bytes, blocks, their length, its SHA-256."""

    call: str
    to: str
    width: int
    height: int
    quality: str
    length: int
    blocks: int
    block: int
    sha256: str
    sent: str = ""

    @property
    def key(self) -> bytes:
        """The bytes that name it in every block."""
        return bytes.fromhex(self.sha256[: 2 * ID_BYTES])


class Text(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """A text: from whom, to whom (empty for all), what, where from if the sender lets that be known."""

    call: str
    text: str
    to: str = ""
    position: str = ""


def offer_payload(offer: PictureOffer) -> bytes:
    """The payload of an OFFER."""
    return msgspec.json.encode(offer)


def read_offer(payload: bytes) -> PictureOffer:
    """What an OFFER says. Raises AirFormError for one that cannot be."""
    try:
        offer = msgspec.json.decode(payload, type=PictureOffer)
    except (msgspec.DecodeError, UnicodeError, RecursionError) as error:
        raise AirFormError(f"The offer of a picture is garbled: {error}.") from None
    sound = 0 < offer.length <= MOST_PICTURE_BYTES and 0 < offer.blocks <= MOST_BLOCKS and 0 < offer.block <= 4_000
    if not sound or -(-offer.length // offer.block) != offer.blocks:
        raise AirFormError("The offered picture is larger than is taken, or its blocks do not add up.")
    if len(offer.sha256) != 64 or not set(offer.sha256) <= set("0123456789abcdef"):
        raise AirFormError("The offered picture has no checksum.")
    if not 0 < offer.width <= 4_096 or not 0 < offer.height <= 4_096 or max(map(len, (offer.call, offer.to))) > 16:
        raise AirFormError("The offered picture has a size or a call sign that cannot be.")
    return offer


def text_payload(text: Text) -> bytes:
    """The payload of a TEXT."""
    return msgspec.json.encode(text)


def read_text(payload: bytes) -> Text:
    """What a TEXT says. Raises AirFormError."""
    try:
        text = msgspec.json.decode(payload, type=Text)
    except (msgspec.DecodeError, UnicodeError, RecursionError) as error:
        raise AirFormError(f"A text came in garbled: {error}.") from None
    if len(text.text) > 2_000 or max(map(len, (text.call, text.to, text.position))) > 40:
        raise AirFormError("A text came in that is longer than any radio sends.")
    return text


def block_payload(key: bytes, number: int, data: bytes) -> bytes:
    """The payload of a BLOCK: which picture, which block of it from 0, its bytes."""
    return _BLOCK.pack(key, number) + data


def read_block(payload: bytes) -> tuple[bytes, int, bytes]:
    """Picture, number and bytes of a BLOCK. Raises AirFormError."""
    if len(payload) < _BLOCK.size:
        raise AirFormError("A block came in cut short.")
    key, number = _BLOCK.unpack_from(payload)
    return key, number, payload[_BLOCK.size :]


def have_payload(key: bytes, held: set[int], blocks: int) -> bytes:
    """The payload of READY or HAVE: which picture, how many blocks it has, and a bit for each that is there."""
    bits = bytearray(-(-blocks // 8))
    for number in held:
        bits[number // 8] |= 1 << (number % 8)
    return _HAVE.pack(key, blocks) + bytes(bits)


def read_have(payload: bytes) -> tuple[bytes, set[int]]:
    """Picture and numbers of the blocks that are there. Raises AirFormError."""
    if len(payload) < _HAVE.size:
        raise AirFormError("An answer came in cut short.")
    key, blocks = _HAVE.unpack_from(payload)
    bits = payload[_HAVE.size :]
    if blocks > MOST_BLOCKS or len(bits) < -(-blocks // 8):
        raise AirFormError("An answer came in that does not say what is there.")
    return key, {number for number in range(blocks) if bits[number // 8] >> (number % 8) & 1}
