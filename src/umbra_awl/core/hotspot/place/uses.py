"""What the stretches of a band are for: the usual table by region with its source, or the operator's own."""

from functools import cache
from pathlib import Path

import msgspec

from umbra_awl.core.facts.bands import Region
from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.model import Station, Use, UseKind

SHIPPED = Path(__file__).with_name("uses.toml")
FORMAT = "umbra-awl band uses"
KIND_WORDS: dict[UseKind, str] = {
    "hotspots": "links and hotspots",
    "calling": "calling",
    "beacons": "beacons",
    "weak": "weak signals",
    "links": "links and control",
    "satellites": "satellites",
    "other": "another use",
}


class UsesError(ValueError):
    """A file of uses that cannot be used; the message says why."""


class _Stretch(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    low_hz: int
    high_hz: int
    kind: UseKind
    words: str = ""


class _Region(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    number: Region
    source: str
    use: tuple[_Stretch, ...]


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    region: tuple[_Region, ...]
    format: str = FORMAT
    version: int = 1


def parse_uses(text: str, source: str = "The uses") -> dict[int, tuple[Use, ...]]:
    """Region to its uses, from a TOML text. Raises UsesError."""
    file = from_toml(text, _File, (FORMAT, 1), source, UsesError)
    return {
        region.number: tuple(
            Use(item.low_hz, item.high_hz, item.kind, item.words, region.source) for item in region.use
        )
        for region in file.region
    }


@cache
def shipped_uses() -> dict[int, tuple[Use, ...]]:
    """The table that comes with the application."""
    return parse_uses(SHIPPED.read_text("utf-8"), SHIPPED.name)


def uses_of(station: Station) -> tuple[Use, ...]:
    """The uses in force at a station: its own table, or its region's."""
    return station.uses or shipped_uses().get(station.region, ())
