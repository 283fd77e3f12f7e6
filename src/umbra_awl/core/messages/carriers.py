"""What each mode carries beside voice: texts of a length, pictures or not, at which rate."""

from collections.abc import Mapping
from functools import cache
from pathlib import Path
from types import MappingProxyType

import msgspec

from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.model import DataSpeed, Mode

SHIPPED = Path(__file__).with_name("carriers.toml")
FORMAT = "umbra-awl carriers"


class CarrierError(ValueError):
    """A file of carriers that cannot be used; the message says why."""


class Carrier(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """One mode: useful bits a second beside voice (`slow_bps`) and without it (`fast_bps`), the longest text in characters.

    `needs` says what would be needed where pictures or texts do not go.
    """

    mode: Mode
    words: str
    text_length: int
    slow_bps: int
    fast_bps: int
    pictures: bool
    source: str = ""
    needs: str = ""

    def rate_bps(self, speed: DataSpeed, *, voice: bool = False) -> int:
        """The useful rate of a radio that does data at this speed, with somebody speaking or not. Speech slows it down."""
        return self.fast_bps if speed == "fast" and not voice else self.slow_bps


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    carrier: tuple[Carrier, ...]
    format: str = FORMAT
    version: int = 1


def parse_carriers(text: str, source: str = "The carriers") -> Mapping[Mode, Carrier]:
    """Carriers by mode from a TOML text. Raises CarrierError."""
    file = from_toml(text, _File, (FORMAT, 1), source, CarrierError)
    return MappingProxyType({item.mode: item for item in file.carrier})


@cache
def shipped_carriers() -> Mapping[Mode, Carrier]:
    """The carriers that ship with the application."""
    return parse_carriers(SHIPPED.read_text("utf-8"))
