"""The edges of a club's band plan: they come only where they are narrower than mine, since more is a matter of my licence."""

from collections.abc import Iterable
from typing import NamedTuple

from umbra_awl.core.facts.bands import Band, bands_for
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import Station


class Narrowed(NamedTuple):
    """The station's bands with the club's edges where those are inside of them, and what of the club's is outside, in words."""

    bands: tuple[Band, ...]
    outside: str


def narrowed(station: Station, offered: Iterable[Band]) -> Narrowed:
    """Narrow the station's bands. A band that the club's plan does not speak of stays as it is."""
    given, present, made = tuple(offered), bands_for(station.region, station.bands), list[Band]()
    for band in present:
        inside = [
            Band(band.name, max(band.low_hz, item.low_hz), min(band.high_hz, item.high_hz), item.source or band.source)
            for item in given
            if item.low_hz < band.high_hz and band.low_hz < item.high_hz
        ]
        same = any(item.low_hz <= band.low_hz and band.high_hz <= item.high_hz for item in given)
        made += [band] if same or not inside else inside
    outside = [
        item
        for item in given
        if not any(band.low_hz <= item.low_hz and item.high_hz <= band.high_hz for band in present)
    ]
    bands = station.bands if tuple(made) == present else tuple(made)
    return Narrowed(bands, _outside(outside))


def _outside(bands: list[Band]) -> str:
    if not bands:
        return ""
    told = ", ".join(f"{item.name} {format_mhz(item.low_hz)} to {format_mhz(item.high_hz)} MHz" for item in bands)
    return (
        f"It reaches further than your bands: {told}. That was not taken: no file widens what you may send on. "
        "Where your licence allows more, set the edges at Station."
    )
