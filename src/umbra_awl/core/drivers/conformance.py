"""The checks that an author runs on a driver: what the program asks of one, tried on the example that the driver gives itself.

Each check is a function that raises NotMetError with a sentence; whatever else it raises is a failure too.
"""

import random
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from functools import partial
from itertools import chain, repeat
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.drivers.other_checks import HOTSPOT_CHECKS, READER_CHECKS, NotMetError, require
from umbra_awl.core.drivers.protocols import CODECS, HOTSPOTS, READERS, WAYS, CodecDriver, Example, WayDriver
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import CancelledError, ImageError, TransferError
from umbra_awl.core.transfer.protocols import Block, BlockLine, Watch

SEED = 20_261_201
_HOSTILE, _FLIPS = 200, 2_000
_SLOW_S = 5.0


class CheckResult(NamedTuple):
    """A check: its words, and why it failed; empty where it holds."""

    words: str
    fault: str = ""


def conformance(group: str, driver: Any) -> Iterator[CheckResult]:
    """Run every check of a driver's kind, one after another."""
    for words, check in _CHECKS[group](driver).items():
        yield CheckResult(words, _fault(check))


def _fault(check: Callable[[], object]) -> str:
    try:
        check()
    except NotMetError as error:
        return str(error) or "It does not hold."
    except Exception as error:  # noqa: BLE001  (whatever a driver raises is what the author must hear of)
        return f"{type(error).__name__}: {error}"
    return ""


# codecs


def _with_image(driver: CodecDriver, check: Callable[[CodecDriver, Example], None]) -> None:
    check(driver, driver.example())


def sample_memory(profile: Profile, names: str = "CHECK") -> Memory:
    """A small memory that every radio of a profile can hold: three channels, the last of them only listens."""
    made: list[Channel] = []
    span, sends = profile.receive[0], profile.transmit[0]
    for at in range(3):
        rx_hz = (span.low_hz + (at + 1) * 25_000) // 12_500 * 12_500
        tx_hz = (sends.low_hz + (at + 1) * 25_000) // 12_500 * 12_500
        name = f"{names}{at}"[: profile.display.length]
        dmr = profile.modes[0] == "dmr"
        channel = Channel(at + 1, name, profile.modes[0], rx_hz, tx_hz, receive_only=at == 2)
        made.append(replace(channel, color_code=at + 1, slot=1) if dmr else channel)
    return Memory(profile.key, channels=tuple(made))


def _unchanged(driver: CodecDriver, example: Example) -> None:
    codec = driver.codec(example.profile)
    merged = codec.merge(example.image, codec.decode(example.image))
    wrong = sum(one != other for one, other in zip(merged, example.image, strict=True))
    require(not wrong, f"Merging what the image holds already changes {wrong} bytes of it.")


def _round_trip(driver: CodecDriver, example: Example) -> None:
    codec, memory = driver.codec(example.profile), sample_memory(example.profile)
    image = codec.merge(example.image, memory)
    require(len(image) == len(example.image), "The image is of another length than before.")
    found = codec.decode(image)
    wanted = [_sense(item) for item in memory.channels]
    require(
        [_sense(item) for item in found.channels] == wanted,
        f"Read back are {found.channels}, put in were {memory.channels}.",
    )


def _sense(channel: Channel) -> tuple[object, ...]:
    """What must come back of a channel; one that only listens may lose where it would send."""
    tx_hz = 0 if channel.receive_only else channel.tx_hz
    return channel.number, channel.name, channel.mode, channel.rx_hz, tx_hz, channel.receive_only


def _held_stays_held(driver: CodecDriver, example: Example) -> None:
    codec, memory = driver.codec(example.profile), sample_memory(example.profile)
    held = replace(memory, channels=tuple(replace(item, receive_only=True) for item in memory.channels))
    found = codec.decode(codec.merge(example.image, held))
    require(
        all(item.receive_only for item in found.channels), "A channel that only listens comes back as one that sends."
    )


def _foreign_stays(driver: CodecDriver, example: Example) -> None:
    codec, chance = driver.codec(example.profile), random.Random(SEED)  # noqa: S311  (examples)
    memory = codec.decode(example.image)
    others = [codec.merge(example.image, sample_memory(example.profile, name)) for name in ("AAAA", "ZZZZ", "1111")]
    emptied = codec.merge(example.image, Memory(example.profile.key))
    ours = {at for at in range(len(example.image)) if len({item[at] for item in (*others, emptied, example.image)}) > 1}
    for at in chance.sample(range(len(example.image)), min(len(example.image), _FLIPS)):
        spoiled = bytearray(example.image)
        spoiled[at] ^= 1 + chance.randrange(255)
        with suppress(ImageError):
            again = codec.decode(bytes(spoiled))
            if at in ours or again != memory:
                continue  # it is of the memory, and may be laid down otherwise
            merged = codec.merge(bytes(spoiled), memory)
            require(merged[at] == spoiled[at], f"The byte at {at} is the radio's own, and it was changed.")


def _hostile(driver: CodecDriver, example: Example) -> None:
    codec, chance = driver.codec(example.profile), random.Random(SEED)  # noqa: S311  (examples)
    size, began = len(example.image), time.monotonic()
    for turn in range(_HOSTILE):
        length = (0, 1, size // 2, size + 1)[turn] if turn < 4 else size
        with suppress(ImageError):
            codec.decode(chance.randbytes(length))
    require(time.monotonic() - began < _SLOW_S * _HOSTILE / 10, "Noise is decoded too slowly.")


_CODEC_CHECKS: dict[str, Callable[[CodecDriver, Example], None]] = {
    "what is held already changes nothing": _unchanged,
    "a memory comes back as it went in": _round_trip,
    "a channel that only listens stays so": _held_stays_held,
    "the radio's own bytes stay": _foreign_stays,
    "noise raises ImageError, or is read, and nothing else happens": _hostile,
}


# ways


def _with_radio(driver: WayDriver, check: Callable[[WayDriver, Example], None]) -> None:
    with driver.example() as example:
        check(driver, example)


def _places(profile: Profile) -> list[tuple[int, int]]:
    size, block = profile.image.size, profile.line.block
    return [(at, min(block, size - at)) for at in range(0, size, block)]


def _read(line: BlockLine, profile: Profile) -> bytes:
    return b"".join(line.read_blocks(_places(profile), Watch()))


def _greets(driver: WayDriver, example: Example) -> None:
    with driver.open(example.port, example.profile) as line:
        found = line.identify()
    require(
        found.model == example.profile.key,
        f"It says it is “{found.model}”, and its profile is “{example.profile.key}”.",
    )
    require(
        found.size == example.profile.image.size,
        f"It says {found.size} bytes, the profile {example.profile.image.size}.",
    )


def _reads_alike(driver: WayDriver, example: Example) -> None:
    told: list[tuple[int, int]] = []
    with driver.open(example.port, example.profile) as line:
        places = _places(example.profile)
        one = b"".join(line.read_blocks(places, Watch(lambda done, total: told.append((done, total)))))
        other = _read(line, example.profile)
    require(one == other, "Two readings one after another differ.")
    require(told, "The watch is not told how far it is.")
    require(told[-1] == (len(places), len(places)), f"The watch is told {told[-1]} at the end.")


def _writes(driver: WayDriver, example: Example) -> None:
    profile = example.profile
    with driver.open(example.port, profile) as line:
        before = _read(line, profile)
        at, length = _places(profile)[-1]
        changed = bytes(value ^ 0xFF for value in before[at : at + length])
        line.begin()
        line.write_blocks([Block(at, changed)], Watch())
        line.end()
        after = _read(line, profile)
        line.begin()
        line.write_blocks([Block(at, before[at : at + length])], Watch())
        line.end()
    require(
        after == before[:at] + changed, "What was written is not what is read back, or something else changed with it."
    )


def _stops(driver: WayDriver, example: Example) -> None:
    for cut in range(3):
        asked = chain(repeat(False, cut), repeat(True))
        watch = Watch(cancelled=partial(next, asked))
        with driver.open(example.port, example.profile) as line:
            try:
                line.read_blocks(_places(example.profile), watch)
            except CancelledError:
                continue
        raise NotMetError(f"Stopped after {cut} blocks, it reads on: CancelledError is what is wanted.")
    _reads_alike(driver, example)


def _no_port(driver: WayDriver, example: Example) -> None:
    try:
        with driver.open("no port of this computer", example.profile) as line:
            line.identify()
    except (OSError, TransferError):
        return
    raise NotMetError("A port that is not there opens.")


_WAY_CHECKS: dict[str, Callable[[WayDriver, Example], None]] = {
    "it says which radio it is": _greets,
    "it reads the same twice, and tells how far it is": _reads_alike,
    "what is written is read back, and nothing else changed": _writes,
    "it stops where it is told to, and works again afterwards": _stops,
    "a port that is not there is refused": _no_port,
}


_CHECKS: dict[str, Callable[[Any], dict[str, Callable[[], object]]]] = {
    CODECS: lambda driver: {words: partial(_with_image, driver, check) for words, check in _CODEC_CHECKS.items()},
    WAYS: lambda driver: {words: partial(_with_radio, driver, check) for words, check in _WAY_CHECKS.items()},
    HOTSPOTS: lambda driver: {words: partial(check, driver) for words, check in HOTSPOT_CHECKS.items()},
    READERS: lambda driver: {words: partial(check, driver) for words, check in READER_CHECKS.items()},
}
"""The checks of each kind of driver."""
