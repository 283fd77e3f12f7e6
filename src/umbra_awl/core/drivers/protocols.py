"""What a driver is: for each kind of entry point one small protocol. `docs/adding.md` tells how one is written.

Entry points (`importlib.metadata`), each the name of a class that is made without arguments, or of an object:

- `umbra_awl.ways`: a `WayDriver`, a line to a radio;
- `umbra_awl.codecs`: a `CodecDriver`, between the bytes of a radio's memory and ours;
- `umbra_awl.hotspots`: a `HotspotDriver`, between what a hotspot's page answers and our fields;
- `umbra_awl.readers`: a `ReaderDriver`, a list or a log in a form of its own.

`python -m umbra_awl.conformance PACKAGE` tries them as the program will.
"""

from collections.abc import Mapping
from contextlib import AbstractContextManager
from typing import NamedTuple, Protocol

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.protocols import BlockLine, Codec

WAYS, CODECS = "umbra_awl.ways", "umbra_awl.codecs"
HOTSPOTS, READERS = "umbra_awl.hotspots", "umbra_awl.readers"
GROUPS = (WAYS, CODECS, HOTSPOTS, READERS)


class Example(NamedTuple):
    """A radio that the driver is tried with: its profile, its memory as it came, and the port of a simulated one."""

    profile: Profile
    image: bytes = b""
    port: str = ""


class WayDriver(Protocol):
    """A way into a radio."""

    def open(self, port: str, profile: Profile) -> AbstractContextManager[BlockLine]:
        """A line to the radio on a port, closed at the end of the `with` block. Raises OSError where it does not open."""

    def example(self) -> AbstractContextManager[Example]:
        """A simulated radio that answers on its port as long as the `with` block lasts."""


class CodecDriver(Protocol):
    """A codec for the profiles that name it."""

    def codec(self, profile: Profile) -> Codec:
        """The codec for a radio of this profile. Raises ValueError for a profile that it does not know."""

    def example(self) -> Example:
        """A profile and the memory of such a radio, with something of the radio's own in it."""


class TableForm(NamedTuple):
    """A list as it was read: its headings, and its rows of as many cells each."""

    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


class ReaderDriver(Protocol):
    """Reads files of one form. It runs in a process of its own, bounded in time and memory."""

    @property
    def endings(self) -> tuple[str, ...]:
        """The endings of such files, each with its point, in small letters."""

    def read(self, data: bytes) -> TableForm | str:
        """The list in a file, or the lines of the log in it. Raises ValueError for one that is none."""

    def example(self) -> bytes:
        """Such a file, with at least two rows or lines."""


class HotspotDriver(Protocol):
    """A hotspot whose page answers in words of its own."""

    @property
    def paths(self) -> Mapping[str, str]:
        """Where its page answers: for “status”, “settings” and “log” a path from “/” on; what it has not is left out."""

    def status(self, answer: bytes) -> Mapping[str, object]:
        """What an answer says, by the names of `Status` fields. Raises ValueError for one that is another device's."""

    def values(self, answer: bytes) -> Mapping[str, str]:
        """Its settings as our fields (`core/hotspot/match/fields.toml`): hertz, yes and no, modes by key."""

    def written(self, answer: bytes, values: Mapping[str, str]) -> bytes:
        """Its settings with these values in them, all else as it was: what is handed over."""

    def log(self, answer: bytes) -> str:
        """Its log as lines of text."""

    def example(self) -> Mapping[str, bytes]:
        """Its answers, by the same names as the paths."""
