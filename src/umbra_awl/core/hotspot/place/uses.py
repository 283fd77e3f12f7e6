"""What the stretches of a band are for: the usual table by region with its source, or the operator's own."""

from functools import cache
from pathlib import Path

import msgspec
from msgspec.structs import replace

from umbra_awl.core.facts.bands import Region
from umbra_awl.core.keep.toml_form import from_toml
from umbra_awl.core.plan.edits import Edit, EditRefused
from umbra_awl.core.plan.model import Plan, Station, Use, UseKind

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


def set_use(before: Use | None, after: Use | None) -> Edit:
    """Put a stretch in place of another, add one (`before` None) or take one out (`after` None).

    The table becomes the plan's own. Refused where a stretch would end before it begins.
    """
    if after is not None and after.low_hz >= after.high_hz:
        raise EditRefused("That stretch would end before it begins. Type the lower edge first.")

    def apply(plan: Plan) -> Plan:
        kept = [item for item in uses_of(plan.station) if item != before]
        made = tuple(sorted((*kept, *((after,) if after else ())), key=lambda item: item.low_hz))
        usual = shipped_uses().get(plan.station.region, ())
        return replace(plan, station=replace(plan.station, uses=() if made == usual else made))

    named = after or before
    words = named.words or KIND_WORDS[named.kind] if named is not None else "nothing"
    return Edit(f"{'Note' if after else 'Take out'} what a stretch is for: {words}", apply)
