"""A way into a radio: read it, write what was compared, prove it, restore a backup, whatever it goes through.

The steps are the same for every way; `carry.py` says what each means by cable. What is read is kept on the shelf, only what was
compared with that very reading is written, and nothing counts as written before it was read back and found equal.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import datetime
from typing import NamedTuple, Protocol

from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.carry import Compared, Follow, Held, Written, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.link import Link, Transport
from umbra_awl.core.transfer.shelf import Backup, Shelf

OpenLine = Callable[[str, int], Transport]


class Way(Protocol):
    """One way that a single radio is fed by. Its methods take their time; they raise TransferError and nothing else."""

    def why_not(self) -> str:
        """Why it cannot be used now, in a sentence with what to do; empty when it can."""

    def read(self, now: datetime, follow: Follow) -> Held:
        """What the radio holds, whole, with the backup kept of it."""

    def write(self, held: Held, compared: Compared, follow: Follow) -> Written:
        """Write what was compared with that reading, and prove it."""

    def restore(self, backup: Backup, now: datetime, follow: Follow, *, other_unit: bool = False) -> Written:
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

    def read(self, now: datetime, follow: Follow) -> Held:
        """Read the radio over the line."""
        with self._link() as link:
            return read_radio(link, self.profile, self.shelf, now, follow)

    def write(self, held: Held, compared: Compared, follow: Follow) -> Written:
        """Write over the line, read back, compare."""
        with self._link() as link:
            return write_radio(link, self.profile, self.shelf, held, compared, follow)

    def restore(self, backup: Backup, now: datetime, follow: Follow, *, other_unit: bool = False) -> Written:
        """Restore over the line."""
        with self._link() as link:
            return restore_radio(link, self.profile, self.shelf, backup, now, follow, other_unit=other_unit)

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
