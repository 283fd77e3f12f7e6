"""The log as it may be given away: where one was, and from which spot, only as exactly as the station's privacy allows."""

from collections.abc import Iterable

from msgspec.structs import replace

from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.model import Privacy

_SQUARE = 6
_SAID = frozenset(
    "MODE SUBMODE BAND BAND_RX RST_SENT RST_RCVD PROP_MODE QSO_DATE_OFF TIME_OFF CONTEST_ID SRX STX SRX_STRING STX_STRING "
    "CQZ ITUZ DXCC CONT COUNTRY IOTA QSL_SENT QSLSDATE QSLRDATE".split()
)
"""Other programs' fields that both stations know of a contact (ADIF 3.1.4, QSO fields)."""
_HERE = frozenset(
    "MY_LAT MY_LON MY_GRIDSQUARE MY_GRIDSQUARE_EXT MY_ALTITUDE MY_CITY MY_CNTY MY_STATE MY_COUNTRY MY_DXCC MY_IOTA".split()
)
"""And those of where one is; not the street, which no locator tells."""


def given_away(entries: Iterable[Entry], privacy: Privacy) -> tuple[Entry, ...]:
    """Entries without notes, and of where one was what may be told: all with an exact position, else the square of six, or none.

    Of other programs' fields only those are left that are known to tell nothing private; what is not known is not given.
    """
    return tuple(_told(entry, privacy) for entry in entries)


def _told(entry: Entry, privacy: Privacy) -> Entry:
    known = _SAID | _HERE if privacy == "exact" else _SAID
    more = {name: value for name, value in entry.more.items() if name.upper() in known}
    if privacy == "exact":
        return replace(entry, note="", more=more)
    square = entry.my_locator[:_SQUARE] if privacy == "locator" else ""
    here = entry.here if privacy == "locator" else ""
    return replace(entry, my_locator=square, spot="", path="", here=here, note="", more=more)
