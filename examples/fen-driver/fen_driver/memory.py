"""The memory of the Fen 20: a head of its own, twenty records, a tail of its own.

A record is 24 bytes: receive and transmit in steps of 12.5 kHz (u32 each, 0xFFFFFFFF transmit: it only listens), a tone in tenths
of a hertz (u16, 0 none), two bytes that are the radio's own, and a name of twelve letters. An empty one has 0xFF in all.
"""

import struct
from pathlib import Path

from umbra_awl.core.drivers.protocols import Example
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import read_profile
from umbra_awl.core.transfer.errors import ImageError

HEAD, COUNT, SIZE = 32, 20, 600
STEP_HZ, NEVER = 12_500, 0xFFFF_FFFF
RECORD = struct.Struct("<IIH2s12s")
EMPTY = b"\xff" * RECORD.size
FILE = Path(__file__).parent / "fen.toml"


class FenCodecs:
    """Gives the codec of every profile that names it."""

    def codec(self, profile: Profile) -> "FenCodec":
        """The codec for a radio of this profile."""
        if profile.image.size != SIZE:
            raise ValueError(f"A Fen has {SIZE} bytes of memory, and the profile says {profile.image.size}.")
        return FenCodec(profile.key)

    def example(self) -> Example:
        """The profile, and a memory with two channels and bytes of the radio's own."""
        return Example(read_profile(FILE), factory())


class FenCodec:
    """Between those bytes and a memory."""

    def __init__(self, profile: str) -> None:
        self._profile = profile

    def decode(self, image: bytes) -> Memory:
        """The memory in an image. Raises ImageError."""
        if len(image) != SIZE:
            raise ImageError(f"A Fen has {SIZE} bytes of memory, and these are {len(image)}.")
        found = (_channel(number, _record(image, number)) for number in range(1, COUNT + 1))
        return Memory(self._profile, channels=tuple(item for item in found if item is not None))

    def merge(self, image: bytes, memory: Memory) -> bytes:
        """The image with a memory in it. Raises ImageError."""
        if len(image) != SIZE:
            raise ImageError(f"A Fen has {SIZE} bytes of memory, and these are {len(image)}.")
        made, held = bytearray(image), {item.number: item for item in memory.channels}
        if any(not 1 <= number <= COUNT for number in held):
            raise ImageError(f"A Fen has {COUNT} memories.")
        for number in range(1, COUNT + 1):
            at, before = HEAD + (number - 1) * RECORD.size, _record(image, number)
            channel = held.get(number)
            if channel is None:
                made[at : at + RECORD.size] = before if _channel(number, before) is None else EMPTY
            elif channel != _channel(number, before):
                made[at : at + RECORD.size] = _packed(channel, before)
        return bytes(made)


def _record(image: bytes, number: int) -> bytes:
    at = HEAD + (number - 1) * RECORD.size
    return image[at : at + RECORD.size]


def _channel(number: int, record: bytes) -> Channel | None:
    """The channel in a record; None where it is empty or makes no sense."""
    receive, transmit, tone, _own, name = RECORD.unpack(record)
    if not 0 < receive * STEP_HZ < 3_000_000_000 or tone > 2_541:
        return None
    text = name.rstrip(b"\0 ").decode("ascii", "replace")
    held = transmit == NEVER
    return Channel(
        number,
        text,
        "fm",
        receive * STEP_HZ,
        receive * STEP_HZ if held else transmit * STEP_HZ,
        receive_only=held,
        tone_tx=f"{tone / 10:.1f}" if tone else "",
    )


def _packed(channel: Channel, before: bytes) -> bytes:
    """A record for a channel; the two bytes of the radio's own stay."""
    if channel.mode != "fm":
        raise ImageError("A Fen does FM only.")
    own = before[10:12] if before != EMPTY else b"\0\0"
    try:
        tone = round(float(channel.tone_tx) * 10) if channel.tone_tx else 0
        transmit = NEVER if channel.receive_only else _steps(channel.tx_hz)
        name = channel.name.encode("ascii", "replace")[:12].ljust(12)
        return RECORD.pack(_steps(channel.rx_hz), transmit, tone, own, name)
    except (struct.error, ValueError) as error:
        raise ImageError(f"{channel.name}: {error}.") from None


def _steps(hz: int) -> int:
    if hz % STEP_HZ:
        raise ValueError(f"{hz} Hz is no multiple of {STEP_HZ} Hz")
    return hz // STEP_HZ


def factory() -> bytes:
    """A memory as a radio comes: two channels, the rest empty, and what is the radio's own."""
    made = bytearray(EMPTY * (SIZE // len(EMPTY)))
    made[:HEAD] = bytes(range(HEAD))
    made[HEAD + COUNT * RECORD.size :] = bytes(range(SIZE - HEAD - COUNT * RECORD.size))
    for at, (mhz, name) in enumerate(((145.5, b"CALLING"), (433.5, b"CALLING UP"))):
        record = RECORD.pack(round(mhz * 1e6) // STEP_HZ, round(mhz * 1e6) // STEP_HZ, 0, b"\x5a\xa5", name.ljust(12))
        made[HEAD + at * RECORD.size : HEAD + (at + 1) * RECORD.size] = record
    return bytes(made)
