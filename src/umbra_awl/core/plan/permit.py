"""May one transmit here? The receive-only guard, the band edges and the licence, in that order.

What is judged is the whole emission and not its carrier: as much spectrum as it occupies must lie inside.
"""

from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.bands import Band, band_at, bands_for, nearest_band
from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import Licence, Station

_RASTER_HZ = 12_500
_MOST_STEPS = 8


class Permit(NamedTuple):
    """An answer with its reason; `kind` is “”, “guard”, “band”, “edge” or “licence”.

    `nearest_hz` is the nearest channel of the raster on which the whole emission may go out, where the carrier is inside and its
    width is not.
    """

    allowed: bool
    kind: str
    reason: str
    nearest_hz: int | None = None


ALLOWED = Permit(True, "", "")


def in_force(licence: Licence, today: date) -> Licence:
    """The licence as it stands on a day: one that is granted on a day to come, or on no day at all, is not granted yet."""
    if not licence.granted or not licence.granted_on:
        return licence
    try:
        begun = date.fromisoformat(licence.granted_on) <= today
    except ValueError:
        begun = False
    return licence if begun else replace(licence, granted=False)


def transmit_permit(station: Station, sent: Emission) -> Permit:
    """Whether the station may send an emission, and if not, why, in a sentence. Its licence is taken as it stands."""
    guard = guard_permit(station.licence)
    return band_permit(station, sent) if guard.allowed else guard


def guard_permit(licence: Licence) -> Permit:
    """The answer of the receive-only guard."""
    if not licence.granted:
        day = f" It counts from {licence.granted_on}." if licence.granted_on else ""
        return Permit(False, "guard", f"Receive-only until the licence is granted.{day}")
    if licence.guard:
        return Permit(
            False, "guard", "The receive-only guard is on; lift it at Station when you are ready to transmit."
        )
    return ALLOWED


def band_permit(station: Station, sent: Emission) -> Permit:
    """The answer of the band edges and of the licence's bands, guard aside."""
    bands = bands_for(station.region, station.bands)
    band = band_at(bands, sent.center_hz)
    if band is None:
        reason = f"{format_mhz(sent.center_hz)} MHz is outside the amateur bands.{_how_far(bands, sent.center_hz)}"
        return Permit(False, "band", reason)
    names = station.licence.bands
    if names and band.name not in names:
        reason = f"{format_mhz(sent.center_hz)} MHz is in {band.name}; the licence allows {' and '.join(names)}."
        return Permit(False, "licence", reason)
    open_ = [item for item in bands if not names or item.name in names]
    if not _covered(open_, sent):
        near = _nearest(open_, sent)
        return Permit(False, "edge", _over_words(band, sent, near), near)
    return ALLOWED


def _covered(bands: Iterable[Band], sent: Emission) -> bool:
    """Whether the whole of an emission lies in bands, which may adjoin."""
    reached = sent.low_hz
    for band in sorted(bands, key=lambda item: item.low_hz):
        if band.low_hz <= reached:
            reached = max(reached, band.high_hz)
    return reached >= sent.high_hz


def _nearest(bands: list[Band], sent: Emission) -> int | None:
    """The nearest carrier on the raster whose whole emission lies in the bands."""
    base = sent.center_hz // _RASTER_HZ * _RASTER_HZ
    steps = [base + step * _RASTER_HZ for step in range(-_MOST_STEPS, _MOST_STEPS + 1)]
    fitting = [hz for hz in steps if _covered(bands, sent.at(hz)) and hz != sent.center_hz]
    return min(fitting, key=lambda hz: abs(hz - sent.center_hz), default=None)


def _over_words(band: Band, sent: Emission, near: int | None) -> str:
    over = max(band.low_hz - sent.low_hz, sent.high_hz - band.high_hz)
    advice = f" The nearest channel that fits is {format_mhz(near)}." if near is not None else ""
    return (
        f"{format_mhz(sent.center_hz)} MHz with {sent.width_hz / 1000:g} kHz of {sent.words} takes {sent.span_words}, "
        f"{over / 1000:g} kHz over the edge of {band.name} ({format_mhz(band.low_hz)} to {format_mhz(band.high_hz)}).{advice}"
    )


def _how_far(bands: tuple[Band, ...], tx_hz: int) -> str:
    near = nearest_band(bands, tx_hz)
    if near is None:
        return ""
    return f" {near.name} is {format_mhz(near.low_hz)} to {format_mhz(near.high_hz)} MHz."


def transmit_state(station: Station) -> str:
    """The transmit state in plain words for the top line; its licence is taken as it stands."""
    licence = station.licence
    if not licence.granted:
        day = f" on {licence.granted_on}" if licence.granted_on else ""
        return f"Receive-only until the licence is granted{day}"
    if licence.guard:
        return "Receive-only: the guard is on"
    where = " and ".join(licence.bands) or "all amateur bands"
    power = f", {licence.max_watts:g} W" if licence.max_watts else ""
    step = f"{licence.step} licence, " if licence.step else ""
    return f"May transmit: {step}{where}{power}"
