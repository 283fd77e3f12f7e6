"""The two ports of a transfer: a line that reads and writes blocks of a radio's memory, a codec between that memory and ours.

`carry.py` keeps the order of safety above them and knows neither. Which ones serve a radio is chosen by its profile: the frames
and tables of this package, or a driver of the operator's own.
"""

from collections.abc import Callable, Sequence
from typing import NamedTuple, Protocol

from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile


class RadioIdentity(NamedTuple):
    """What a radio says of itself: model key, firmware, bytes of memory, largest block in bytes, serial number if it has one."""

    model: str
    firmware: str
    size: int
    block: int
    serial: str = ""


class Block(NamedTuple):
    """Bytes of a radio's memory, from an address on."""

    at: int
    data: bytes


class Watch(NamedTuple):
    """How a caller follows and stops an exchange: told after each answer how many are done; asked whether to stop."""

    progress: Callable[[int, int], None] = lambda _done, _total: None
    cancelled: Callable[[], bool] = lambda: False


class BlockLine(Protocol):
    """A line to a radio. Its methods raise TransferError and nothing else; CancelledError where the watch says stop."""

    def identify(self) -> RadioIdentity:
        """Ask the radio who it is."""

    def read_blocks(self, places: Sequence[tuple[int, int]], watch: Watch) -> list[bytes]:
        """What the radio holds at places (address, number of bytes), in their order."""

    def begin(self) -> None:
        """Tell the radio that writing begins."""

    def write_blocks(self, blocks: Sequence[Block], watch: Watch) -> None:
        """Write blocks, each confirmed by the radio. Only what was compared and has passed the interlock comes here."""

    def end(self) -> None:
        """Tell the radio that all was written and read back."""


class Codec(Protocol):
    """Between the bytes of a radio's memory and ours. Its methods raise ImageError and nothing else."""

    def decode(self, image: bytes) -> Memory:
        """The memory in an image."""

    def merge(self, image: bytes, memory: Memory) -> bytes:
        """The image with a memory in it, of the same length; every byte that is not the memory's stays."""


class Tables(NamedTuple):
    """The codec of profiles that tell where their tables lie."""

    profile: Profile

    def decode(self, image: bytes) -> Memory:
        """The memory in an image."""
        from umbra_awl.core.transfer.image import decode

        return decode(image, self.profile)

    def merge(self, image: bytes, memory: Memory) -> bytes:
        """The image with a memory in it."""
        from umbra_awl.core.transfer.image import merge

        return merge(image, memory, self.profile)


def codec_of(profile: Profile) -> Codec:
    """The codec that a profile asks for. Raises DriverError where it is a driver's that is not there."""
    if not profile.codec:
        return Tables(profile)
    from umbra_awl.core.drivers.registry import DRIVERS

    return DRIVERS.codec(profile)
