"""What a driver is: for each kind of entry point one small protocol. `docs/adding.md` tells how one is written.

Entry points (`importlib.metadata`), each the name of a class that is made without arguments, or of an object:

- `umbra_awl.ways`: a `WayDriver`, a line to a radio;
- `umbra_awl.codecs`: a `CodecDriver`, between the bytes of a radio's memory and ours.

`python -m umbra_awl.conformance PACKAGE` tries them as the program will.
"""

from contextlib import AbstractContextManager
from typing import NamedTuple, Protocol

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.protocols import BlockLine, Codec

WAYS, CODECS = "umbra_awl.ways", "umbra_awl.codecs"
GROUPS = (WAYS, CODECS)


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
