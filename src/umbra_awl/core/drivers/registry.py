"""Which drivers are installed, which were switched on, and the one place through which they are called.

A driver is somebody else's code: it is loaded only when the operator switched it on; whatever it raises becomes a DriverError
that names it; a line of one is handed only blocks of what was compared.
"""

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from importlib.metadata import EntryPoint, entry_points
from typing import Any, NamedTuple, TypeVar

from umbra_awl.core.drivers.protocols import CODECS, GROUPS, HOTSPOTS, READERS, WAYS
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.errors import DriverError, TransferError
from umbra_awl.core.transfer.protocols import Block, BlockLine, Codec, RadioIdentity, Watch

_Given = TypeVar("_Given")
_WORDS = {
    WAYS: "a way into a radio",
    CODECS: "the memory of a radio",
    HOTSPOTS: "a hotspot that answers in its own words",
    READERS: "a list or a log in its own form",
}


class InstalledDriver(NamedTuple):
    """A driver as it was found: its kind, its name, the package it comes from with its version."""

    group: str
    name: str
    package: str
    version: str

    @property
    def key(self) -> str:
        """By what it is switched on: another version of the package is switched on anew."""
        return f"{self.group}:{self.name}:{self.package}:{self.version}"

    @property
    def words(self) -> str:
        """It in a line."""
        return f"{self.name}: {_WORDS[self.group]}, from {self.package} {self.version}"


def contained(name: str, call: Callable[..., _Given], *given: object) -> _Given:
    """What a driver gives. Raises DriverError for whatever it raises but for errors of a transfer."""
    try:
        return call(*given)
    except TransferError:
        raise
    except (Exception, SystemExit) as error:
        raise DriverError(
            f"The driver “{name}” failed: {type(error).__name__}: {str(error)[:200]}. Nothing more was sent by it. "
            "Ask its author, or switch it off in the settings."
        ) from error


def _bytes(given: object) -> bytes:
    """What should be bytes. Raises TypeError: a number would become that many zeros."""
    if not isinstance(given, bytes | bytearray):
        raise TypeError(f"bytes were wanted, {type(given).__name__} was given")
    return bytes(given)


def _identity(found: RadioIdentity) -> RadioIdentity:
    return RadioIdentity(str(found.model), str(found.firmware), int(found.size), int(found.block), str(found.serial))


class ContainedLine:
    """A driver's line: what it raises names it, what it answers is looked at before it is believed."""

    def __init__(self, name: str, line: BlockLine) -> None:
        self._name, self._line = name, line

    def identify(self) -> RadioIdentity:
        """Ask the radio who it is."""
        return contained(self._name, lambda: _identity(self._line.identify()))

    def read_blocks(self, places: Sequence[tuple[int, int]], watch: Watch) -> list[bytes]:
        """What the radio holds at places."""
        return contained(self._name, lambda: [_bytes(item) for item in self._line.read_blocks(places, watch)])

    def begin(self) -> None:
        """Tell the radio that writing begins."""
        contained(self._name, self._line.begin)

    def write_blocks(self, blocks: Sequence[Block], watch: Watch) -> None:
        """Write blocks."""
        contained(self._name, self._line.write_blocks, blocks, watch)

    def end(self) -> None:
        """Tell the radio that all was written."""
        contained(self._name, self._line.end)


class ContainedCodec(NamedTuple):
    """A driver's codec: what it raises names it, what it gives is looked at."""

    name: str
    inner: Codec

    def decode(self, image: bytes) -> Memory:
        """The memory in an image."""
        found = contained(self.name, self.inner.decode, image)
        if not isinstance(found, Memory):
            raise DriverError(
                f"The driver “{self.name}” gave no memory. Ask its author, or switch it off in the settings."
            )
        return found

    def merge(self, image: bytes, memory: Memory) -> bytes:
        """The image with a memory in it."""
        return contained(self.name, lambda: _bytes(self.inner.merge(image, memory)))


class Drivers:
    """The drivers of this program's run; `points` gives the installed entry points of a group."""

    def __init__(self, points: Callable[[str], Sequence[EntryPoint]] | None = None) -> None:
        self._points = points or (lambda group: tuple(entry_points(group=group)))
        self._on: frozenset[str] = frozenset()
        self._loaded: dict[str, Any] = {}

    def installed(self) -> list[InstalledDriver]:
        """All that are installed; none of them is loaded for that."""
        return [
            found for group in GROUPS for point in self._points(group) if (found := _found(group, point)) is not None
        ]

    def switch_on(self, keys: frozenset[str]) -> None:
        """Have these drivers in force, and no others."""
        self._on = keys
        self._loaded = {key: made for key, made in self._loaded.items() if key in keys}

    def is_on(self, driver: InstalledDriver) -> bool:
        """Whether a driver is in force."""
        return driver.key in self._on

    @property
    def keys(self) -> frozenset[str]:
        """Which are in force, to have the same in force elsewhere."""
        return self._on

    def names(self, group: str) -> list[str]:
        """The names of a group's drivers that are in force."""
        return (
            [item.name for item in self.installed() if item.group == group and item.key in self._on] if self._on else []
        )

    def load(self, group: str, name: str) -> Any:
        """The driver of a name. Raises DriverError where it is not installed, not switched on, or fails to load."""
        called = {
            found.key: (found, point)
            for point in self._points(group)
            if (found := _found(group, point)) and found.name == name
        }
        on = [key for key in called if key in self._on]
        if not called:
            raise DriverError(
                f"This needs the driver “{name}”, which is not installed here. Install its package; until then nothing is lost."
            )
        if not on:
            packages = ", ".join(f"{found.package} {found.version}" for found, _point in called.values())
            raise DriverError(
                f"The driver “{name}” ({packages}) is installed and not switched on. "
                "Switch it on in the settings (Ctrl ,) if you trust where it comes from."
            )
        if len(on) > 1:
            raise DriverError(f"Two drivers called “{name}” are switched on. Switch one of them off in the settings.")
        if on[0] not in self._loaded:
            self._loaded[on[0]] = _made(name, called[on[0]][1])
        return self._loaded[on[0]]

    def codec(self, profile: Profile) -> Codec:
        """The codec that a profile names. Raises DriverError."""
        driver = self.load(CODECS, profile.codec)
        return ContainedCodec(profile.codec, contained(profile.codec, driver.codec, profile))

    @contextmanager
    def line(self, port: str, profile: Profile) -> Iterator[BlockLine]:
        """A line of the way that a profile names, closed afterwards whatever happens. Raises DriverError."""
        driver = self.load(WAYS, profile.way)
        opened = contained(profile.way, driver.open, port, profile)
        line = contained(profile.way, opened.__enter__)
        try:
            yield ContainedLine(profile.way, line)
        finally:
            contained(profile.way, opened.__exit__, None, None, None)


def _found(group: str, point: EntryPoint) -> InstalledDriver | None:
    package = point.dist
    return InstalledDriver(group, point.name, package.name, package.version) if package is not None else None


def _made(name: str, point: EntryPoint) -> Any:
    loaded = contained(name, point.load)
    return contained(name, loaded) if isinstance(loaded, type) else loaded


DRIVERS = Drivers()
"""Those in force in this run."""
