"""The log as it may be given away: where one was, and from which spot, only as exactly as the station's privacy allows."""

from collections.abc import Iterable

from msgspec.structs import replace

from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.model import Privacy

_SQUARE = 6
_SPEAKS = frozenset(
    "MY_LAT MY_LON MY_GRIDSQUARE MY_GRIDSQUARE_EXT MY_ALTITUDE MY_STREET MY_POSTAL_CODE MY_CITY".split()
)
"""What other programs' fields say of where one is."""


def given_away(entries: Iterable[Entry], privacy: Privacy) -> tuple[Entry, ...]:
    """Entries without what tells where one lives: notes, spots and ways are left out; the locator is the square of six, or none.

    With a position that may be told exactly, all of it goes but notes.
    """
    return tuple(_told(entry, privacy) for entry in entries)


def _told(entry: Entry, privacy: Privacy) -> Entry:
    if privacy == "exact":
        return replace(entry, note="")
    square = entry.my_locator[:_SQUARE] if privacy == "locator" else ""
    here = entry.here if privacy == "locator" else ""
    more = {name: value for name, value in entry.more.items() if name not in _SPEAKS}
    return replace(entry, my_locator=square, spot="", path="", here=here, note="", more=more)
