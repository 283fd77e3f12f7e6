"""The memory (codeplug) of one radio as a value: what fitting makes, what an image is read into."""

import base64
import binascii
from pathlib import Path
from typing import Any

import msgspec

from umbra_awl.core.keep.limits import MEMORY_BYTES, read_within
from umbra_awl.core.keep.versions import form_fault
from umbra_awl.core.plan.model import Admit, CallKind, Mode

FORMAT = "umbra-awl memory"
VERSION = 1


class _Row(msgspec.Struct, frozen=True, gc=False, omit_defaults=True, forbid_unknown_fields=True):
    """Base of a memory's rows."""


class Channel(_Row, frozen=True):
    """One channel. Frequencies in hertz; `contact` and `group_list` count from 1, 0 is none; power is a step from 0.

    `ur`, `rpt1`, `rpt2` are D-STAR's fields of eight characters; `zero_offset` makes the memory duplex with an offset of 0.
    `way` and the DG-IDs are System Fusion's.
    """

    number: int
    name: str
    mode: Mode
    rx_hz: int
    tx_hz: int
    receive_only: bool = False
    tone_tx: str = ""
    tone_rx: str = ""
    width_hz: int = 12_500
    power: int = 0
    color_code: int = 0
    slot: int = 0
    contact: int = 0
    group_list: int = 0
    admit: Admit = "always"
    promiscuous: bool = False
    encrypted: bool = False
    route: str = ""
    ur: str = ""
    rpt1: str = ""
    rpt2: str = ""
    zero_offset: bool = False
    way: str = ""
    dgid_tx: int = 0
    dgid_rx: int = 0


class Contact(_Row, frozen=True):
    """A number to call, and how."""

    number: int
    name: str
    call: int
    kind: CallKind = "group"


class MemoryList(_Row, frozen=True):
    """A named list of numbers: contacts for a receive group list, channels for a zone or scan list.

    A scan list has a `priority` channel (0 for none) and stays `hang_ms` milliseconds after a call.
    """

    number: int
    name: str
    members: tuple[int, ...] = ()
    priority: int = 0
    hang_ms: int = 0


class AccessEntry(_Row, frozen=True):
    """One line of a D-STAR radio's access list: RPT1 and RPT2 of eight characters, frequencies in hertz as the radio has them."""

    number: int
    name: str
    rpt1: str
    rpt2: str
    rx_hz: int
    tx_hz: int


class CallSign(_Row, frozen=True):
    """One of a D-STAR radio's call-sign memories: what goes into UR, eight characters."""

    number: int
    name: str
    ur: str


class Room(_Row, frozen=True):
    """One of a System Fusion radio's room memories."""

    number: int
    name: str
    room: int


class KeyPress(_Row, frozen=True):
    """What one press of a key does."""

    key: str
    press: str
    action: str


class HeldOption(_Row, frozen=True):
    """A setting of the radio's own, as the plan wants it."""

    label: str
    value: str


class HeldSettings(_Row, frozen=True):
    """What holds for the whole radio; None, zero and empty mean: left as the radio has it.

    `free_tuning` is whether the radio sends where it is tuned freely, outside its memories.
    """

    startup: str | None = None
    quick_texts: tuple[str, ...] = ()
    position: str | None = None
    time_out_s: int = 0
    auto_offset: bool | None = None
    keys: tuple[KeyPress, ...] = ()
    free_tuning: bool | None = None
    options: tuple[HeldOption, ...] = ()


class Memory(_Row, frozen=True):
    """All we own of one radio's memory.

    `note` and `alias` go along with calls (D-STAR, DMR); `one_touch` is the contact of the one-touch key, 0 for none;
    `halves` are the zones that the display's halves show, by number.
    """

    profile: str
    radio: str = ""
    call: str = ""
    dmr_id: int = 0
    channels: tuple[Channel, ...] = ()
    contacts: tuple[Contact, ...] = ()
    group_lists: tuple[MemoryList, ...] = ()
    zones: tuple[MemoryList, ...] = ()
    scans: tuple[MemoryList, ...] = ()
    note: str = ""
    alias: str = ""
    one_touch: int = 0
    halves: tuple[int, ...] = ()
    access_list: tuple[AccessEntry, ...] = ()
    call_signs: tuple[CallSign, ...] = ()
    rooms: tuple[Room, ...] = ()
    settings: HeldSettings = HeldSettings()


class MemoryFormError(ValueError):
    """Bytes that are not a sound memory file; the message says why."""


class _File(msgspec.Struct, omit_defaults=True):
    format: str
    version: int
    sha256: str
    memory: msgspec.Raw
    image: str = ""
    unit: str = ""


def memory_bytes(memory: Memory, image: bytes = b"", unit: str = "") -> bytes:
    """A memory as a file: JSON with a checksum over its content; `image` is the radio's own bytes, kept as they were.

    `unit` names the single radio it was read from.
    """
    body = msgspec.json.encode(memory)
    kept = base64.b64encode(image).decode()
    return msgspec.json.encode(_File(FORMAT, VERSION, _mark(body, kept, unit), msgspec.Raw(body), kept, unit)) + b"\n"


def _mark(body: bytes, image: str, unit: str) -> str:
    from hashlib import sha256

    return sha256(body + image.encode() + unit.encode()).hexdigest()


def read_memory_file(path: Path) -> Memory:
    """The memory in a file. Raises OSError and MemoryFormError."""
    return parse_memory(read_within(path, MEMORY_BYTES))[0]


def parse_memory(data: bytes) -> tuple[Memory, bytes]:
    """The memory and the image in a file's bytes. Raises MemoryFormError."""
    memory, image, _unit = parse_backup(data)
    return memory, image


def parse_backup(data: bytes) -> tuple[Memory, bytes, str]:
    """The memory, the image and which single radio they are of, in a file's bytes. Raises MemoryFormError."""
    try:
        file = msgspec.json.decode(data, type=_File)
        if fault := form_fault("The memory file", (file.format, file.version), (FORMAT, VERSION)):
            raise MemoryFormError(fault)
        body = bytes(file.memory)
        if _mark(body, file.image, file.unit) != file.sha256:
            raise MemoryFormError("The memory file is damaged: its checksum does not match. Take another copy.")
        return msgspec.json.decode(body, type=Memory), base64.b64decode(file.image, validate=True), file.unit
    except (msgspec.DecodeError, UnicodeError, binascii.Error, RecursionError) as error:
        raise MemoryFormError(f"The file is not a memory: {error}.") from None


def without_routes(memory: Memory) -> Memory:
    """The memory as a radio holds it: without the plan's route keys and the radio's name in the plan."""
    channels = tuple(msgspec.structs.replace(channel, route="") for channel in memory.channels)
    return msgspec.structs.replace(memory, radio="", channels=channels)


def memory_schema() -> dict[str, Any]:
    """The JSON Schema of the memory part of the file."""
    return msgspec.json.schema(Memory)
