"""Devices that pair with a phone, as data: where pairing starts, the PIN, what must be set first and where that stands."""

from functools import cache
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.keep.toml_form import from_toml

SHIPPED = Path(__file__).with_name("devices.toml")
FORMAT = "umbra-awl pairing devices"
Start = Literal["app", "phone"]


class DevicesError(ValueError):
    """A file of devices that cannot be used; the message says why."""


class Needed(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A setting of the radio's side, what it must be, and the menus that lead to it."""

    key: str
    words: str
    want: str
    menu: tuple[str, ...] = ()


class PairedDevice(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A device: `starts` is where pairing is begun; `fitted` is hardware it needs, `reset_loses` what a factory reset costs."""

    key: str
    name: str
    starts: Start
    settings: tuple[Needed, ...]
    reset_loses: str
    pin: str = ""
    profiles: tuple[str, ...] = ()
    fitted: str = ""


class Devices(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of devices; `known` is the day (ISO) of that knowledge."""

    device: tuple[PairedDevice, ...]
    known: str
    format: str = FORMAT
    version: int = 1


def parse_devices(text: str, source: str = "The devices") -> Devices:
    """The devices in a TOML text. Raises DevicesError."""
    return from_toml(text, Devices, (FORMAT, 1), source, DevicesError)


@cache
def shipped_devices() -> Devices:
    """The devices that come with the application."""
    return parse_devices(SHIPPED.read_text("utf-8"), SHIPPED.name)


def device_for(profile: str) -> PairedDevice:
    """The device that a radio's profile pairs as; the first kind where none names it."""
    listed = shipped_devices().device
    return next((item for item in listed if profile in item.profiles), listed[0])
