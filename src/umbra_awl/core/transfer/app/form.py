"""What a phone app keeps of a radio, as a value and as an open file that can be handed on (docs/formats.md)."""

from pathlib import Path
from typing import Literal

import msgspec
from msgspec.structs import replace

from umbra_awl.core.facts.dstar import field_fault
from umbra_awl.core.keep.limits import MB, read_within
from umbra_awl.core.keep.versions import form_fault
from umbra_awl.core.radio.memory import AccessEntry, CallSign
from umbra_awl.core.transfer.errors import AppFormError

FORMAT = "umbra-awl app list"
VERSION = 1
MOST_BYTES = 4 * MB
MOST_ROWS = 10_000
Send = Literal["", "key", "by itself"]
Units = Literal["", "km/h", "knots"]


class AppSettings(msgspec.Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """What an app sets on a radio; empty and None mean: left as it is. `power` is a step from 0."""

    call: str = ""
    note: str = ""
    message: str = ""
    power: int | None = None
    data: Send = ""
    fast_data: bool | None = None
    position: str = ""
    units: Units = ""


class AppList(msgspec.Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """An app's list for one kind of radio."""

    model: str
    access_list: tuple[AccessEntry, ...] = ()
    call_signs: tuple[CallSign, ...] = ()
    settings: AppSettings = AppSettings()
    format: str = FORMAT
    version: int = VERSION


def app_bytes(made: AppList) -> bytes:
    """A list as the bytes of its file."""
    return msgspec.json.format(msgspec.json.encode(made), indent=1) + b"\n"


def read_app_file(path: Path) -> AppList:
    """The list in a file. Raises OSError and AppFormError."""
    return parse_app(read_within(path, MOST_BYTES))


def parse_app(data: bytes) -> AppList:
    """The list in some bytes. Raises AppFormError with a sentence."""
    if len(data) > MOST_BYTES:
        raise AppFormError("The list is larger than any radio's.")
    try:
        made = msgspec.json.decode(data, type=AppList)
    except (msgspec.DecodeError, UnicodeError, RecursionError) as error:
        raise AppFormError(f"This is no list of a phone app: {error}.") from None
    if fault := form_fault("The list", (made.format, made.version), (FORMAT, VERSION)):
        raise AppFormError(fault)
    if len(made.access_list) + len(made.call_signs) > MOST_ROWS:
        raise AppFormError(f"The list has more than {MOST_ROWS:,} lines.")
    for entry in made.access_list:
        if field_fault(entry.rpt1) or not 0 < entry.rx_hz < 3_000_000_000 or not 0 < entry.tx_hz < 3_000_000_000:
            raise AppFormError(f"The line “{entry.name[:20]}” of the list is no access point.")
    return made


def to_hand_on(made: AppList) -> AppList:
    """The list as it may be given to another person: without who one is, and without one's own message."""
    return replace(made, settings=AppSettings(units=made.settings.units))
