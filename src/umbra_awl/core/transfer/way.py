"""A way into a radio: read it, write what was compared, prove it, restore a backup, whatever it goes through.

The steps are the same for every way; `carry.py` says what each means by cable. What is read is kept on the shelf, only what was
compared with that very reading is written, and nothing counts as written before it was read back and found equal.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from datetime import datetime
from typing import TYPE_CHECKING, NamedTuple, Protocol

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import (
    Compared,
    Follow,
    HeldMemory,
    WrittenMemory,
    read_radio,
    restore_radio,
    write_radio,
)
from umbra_awl.core.transfer.errors import RadioError
from umbra_awl.core.transfer.link import Link, Transport
from umbra_awl.core.transfer.protocols import BlockLine
from umbra_awl.core.transfer.shelf import Backup, Shelf

if TYPE_CHECKING:
    from umbra_awl.core.transfer.people.carry import PeopleHeld, PeopleWritten

OpenLine = Callable[[str, int], Transport]


class Way(Protocol):
    """One way that a single radio is fed by. Its methods take their time; they raise TransferError and nothing else."""

    def why_not(self) -> str:
        """Why it cannot be used now, in a sentence with what to do; empty when it can."""

    def read(self, now: datetime, follow: Follow) -> HeldMemory:
        """What the radio holds, whole, with the backup kept of it."""

    def write(self, held: HeldMemory, compared: Compared, follow: Follow) -> WrittenMemory:
        """Write what was compared with that reading, and prove it."""

    def restore(self, backup: Backup, now: datetime, follow: Follow, *, other_unit: bool = False) -> WrittenMemory:
        """Bring a backup back, and prove it; what the radio holds now is kept first."""


class Cable(NamedTuple):
    """By a serial line: the port's name, the radio's profile and shelf; `open_line` makes the line."""

    port: str
    profile: Profile
    shelf: Shelf
    open_line: OpenLine

    def why_not(self) -> str:
        """Why no cable can be used."""
        if not self.profile.by_cable:
            return f"{self.profile.name} has no programming cable; its memory goes in by {self.profile.ways_in[0]}."
        return "" if self.port else "No port is chosen. Connect the cable and choose the port it appears on."

    def read(self, now: datetime, follow: Follow) -> HeldMemory:
        """Read the radio over the line, and take note of the people in it."""
        with self._line() as line:
            held = read_radio(line, self.profile, self.shelf, now, follow)
            if isinstance(line, Link):
                self._note_people(line)
            return held

    def _note_people(self, link: Link) -> None:
        """What people the radio holds, where it keeps any; a radio that does not tell keeps what is known of it."""
        if self.profile.people is None or not any(item.people for item in self.profile.firmware):
            return
        from umbra_awl.core.transfer.people.carry import read_people
        from umbra_awl.core.transfer.people.mark import note_people

        with suppress(RadioError):
            held = read_people(link, self.profile)
            note_people(self.shelf, held.rows, held.digest.hex(), held.stamp, held.unit)

    def write(self, held: HeldMemory, compared: Compared, follow: Follow) -> WrittenMemory:
        """Write over the line, read back, compare."""
        with self._line() as line:
            return write_radio(line, self.profile, self.shelf, held, compared, follow)

    def restore(self, backup: Backup, now: datetime, follow: Follow, *, other_unit: bool = False) -> WrittenMemory:
        """Restore over the line."""
        with self._line() as line:
            return restore_radio(line, self.profile, self.shelf, backup, now, follow, other_unit=other_unit)

    def people(self) -> "PeopleHeld":
        """What the radio's people region holds."""
        from umbra_awl.core.transfer.people.carry import read_people

        with self._link() as link:
            return read_people(link, self.profile)

    def write_people(self, body: bytes, stamp: str, follow: Follow) -> "tuple[PeopleHeld, PeopleWritten]":
        """Write a people region and prove it; what the radio then holds."""
        from umbra_awl.core.transfer.people.carry import read_people, write_people

        with self._link() as link:
            written = write_people(link, self.profile, body, stamp, follow)
            return read_people(link, self.profile), written

    @contextmanager
    def _line(self) -> Iterator[BlockLine]:
        """The line that the profile asks for: a driver's, or the one of this package."""
        if self.profile.way:
            from umbra_awl.core.drivers.registry import DRIVERS

            with DRIVERS.line(self.port, self.profile) as line:
                yield line
        else:
            with self._link() as link:
                yield link

    @contextmanager
    def _link(self) -> Iterator[Link]:
        line = self.open_line(self.port, self.profile.line.baud)
        try:
            yield Link(line)
        finally:
            line.close()


def by_cable(port: str, profile: Profile, shelf: Shelf) -> Cable:
    """The cable on a port of this computer."""
    from umbra_awl.core.transfer.serial_line import SerialLine

    return Cable(port, profile, shelf, SerialLine)
