"""May one transmit here? The receive-only guard, the band edges and the licence, in that order."""

from typing import NamedTuple

from umbra_awl.core.facts.bands import Band, band_at, bands_for, nearest_band
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import Licence, Station


class Permit(NamedTuple):
    """An answer with its reason; `kind` is “”, “guard”, “band” or “licence”."""

    allowed: bool
    kind: str
    reason: str


ALLOWED = Permit(True, "", "")


def transmit_permit(station: Station, tx_hz: int) -> Permit:
    """Whether the station may transmit on a frequency in hertz, and if not, why, in a sentence."""
    return (
        guard_permit(station.licence)
        if station.licence.guard or not station.licence.granted
        else band_permit(station, tx_hz)
    )


def guard_permit(licence: Licence) -> Permit:
    """The answer of the receive-only guard."""
    if not licence.granted:
        return Permit(False, "guard", "Receive-only until the licence is granted.")
    if licence.guard:
        return Permit(
            False, "guard", "The receive-only guard is on; lift it at Station when you are ready to transmit."
        )
    return ALLOWED


def band_permit(station: Station, tx_hz: int) -> Permit:
    """The answer of the band edges and of the licence's bands, guard aside."""
    bands = bands_for(station.region, station.bands)
    band = band_at(bands, tx_hz)
    if band is None:
        return Permit(False, "band", f"{format_mhz(tx_hz)} MHz is outside the amateur bands.{_how_far(bands, tx_hz)}")
    licence = station.licence
    if licence.bands and band.name not in licence.bands:
        allowed = " and ".join(licence.bands)
        return Permit(False, "licence", f"{format_mhz(tx_hz)} MHz is in {band.name}; the licence allows {allowed}.")
    return ALLOWED


def _how_far(bands: tuple[Band, ...], tx_hz: int) -> str:
    near = nearest_band(bands, tx_hz)
    if near is None:
        return ""
    return f" {near.name} is {format_mhz(near.low_hz)} to {format_mhz(near.high_hz)}."


def transmit_state(station: Station) -> str:
    """The transmit state in plain words for the top line."""
    licence = station.licence
    permit = guard_permit(licence)
    if not permit.allowed:
        return "Receive-only until the licence is granted" if not licence.granted else "Receive-only: the guard is on"
    where = " and ".join(licence.bands) or "all amateur bands"
    power = f", {licence.max_watts:g} W" if licence.max_watts else ""
    step = f"{licence.step} licence, " if licence.step else ""
    return f"May transmit: {step}{where}{power}"
