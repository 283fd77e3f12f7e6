"""Rules on a hotspot's own settings: its ID's label, its duplex flag, where it stands among calling frequencies."""

from collections.abc import Iterator

from umbra_awl.core.facts.earth import PositionError, is_locator, locator_of, parse_position
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.findings.on_hotspot import first_on, move_out
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot, Service, Station
from umbra_awl.core.plan.parts import HOTSPOTS

NO_LABEL = Rule(
    "hotspot-id-missing",
    "warn",
    "ID of the hotspot is not there",
    "A hotspot logs in with one of its owner's IDs. Under a label that nobody has it takes the first one, which another "
    "hotspot may use.",
)
DUPLEX = Rule(
    "hotspot-duplex",
    "warn",
    "Duplex setting against the frequencies",
    "A duplex hotspot hears and sends on two frequencies, a simplex one on one. Set the other way round it stays deaf.",
)
ON_CALLING = Rule(
    "hotspot-on-calling",
    "warn",
    "Hotspot on a calling frequency",
    "A calling frequency belongs to everybody. A hotspot that sends there for hours shuts it for all in reach.",
)
PUBLIC_PLACE = Rule(
    "hotspot-public-place",
    "warn",
    "Hotspot tells more of your place than you allow",
    "What stands as its place on its page and in lists of hotspots is read by everybody, and it mostly stands where one lives. "
    "The station's privacy says how exactly that may be told.",
)
_BESIDE_HZ = 12_500
_SQUARE = 6


def check_hotspot_settings(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """All findings on a hotspot's own settings, told at the first of its services."""
    if service is first_on(access, service):
        yield from _check_calling(index, access, service)
    if service is not access.services[0]:
        return
    for hotspot in index.plan.hotspots:
        if hotspot.access == access.key:
            yield from _check_label(index, access, hotspot)
            yield from _check_duplex(access, hotspot)
            yield from _check_public(index, access, hotspot)


def _check_calling(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    for hz in dict.fromkeys((service.rx_hz, service.tx_hz)):
        near = next((item for item in CALLING[index.plan.station.region] if abs(item.hz - hz) < _BESIDE_HZ), None)
        if near is not None:
            text = f"{access.site} uses {format_mhz(hz)} MHz; {format_mhz(near.hz)} is {near.words}."
            yield Finding(ON_CALLING, Target("service", service.key), text, move_out(index, access, service))
            return


def _check_label(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    identities = index.plan.station.identities
    if not hotspot.id_label or not identities or not identities[0].ids:
        return
    labels = [item.label for item in identities[0].ids]
    if hotspot.id_label not in labels:
        text = f"{access.site} logs in as “{hotspot.id_label}”, and no ID has that label."
        edit = set_fields(HOTSPOTS, hotspot.key, f"Let {access.site} use the first ID", id_label=labels[0])
        yield Finding(NO_LABEL, Target("hotspot", hotspot.key), text, Repair("Use the first ID", edit))


def _check_duplex(access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    two = hotspot.transmit_hz != hotspot.receive_hz
    if not hotspot.deaf:
        return
    said, there = ("duplex", "one frequency") if hotspot.duplex else ("simplex", "two frequencies")
    label = f"Set it to {'duplex' if two else 'simplex'}"
    edit = set_fields(HOTSPOTS, hotspot.key, f"{label}: {access.site}", duplex=two)
    text = f"{access.site} is set to {said} and has {there}."
    yield Finding(DUPLEX, Target("hotspot", hotspot.key), text, Repair(label, edit))


def _check_public(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    """Against the station's privacy: the place by its name, or coordinates, where only a square or nothing may be told."""
    station = index.plan.station
    told = hotspot.public_place
    if not told or station.privacy == "exact":
        return
    placed = station.lat is not None and station.lon is not None and station.privacy == "locator"
    allowed = locator_of(station.lat, station.lon) if placed else ""  # type: ignore[arg-type]
    if told == allowed or not _tells_more(told, station):
        return
    may = f"the square {allowed}" if allowed else "nothing of your place"
    text = f"{access.site} tells everybody “{told}”; your privacy allows {may}."
    label = f"Tell {allowed}" if allowed else "Tell no place"
    edit = set_fields(HOTSPOTS, hotspot.key, f"{label}: {access.site}", public_place=allowed)
    yield Finding(PUBLIC_PLACE, Target("hotspot", hotspot.key), text, Repair(label, edit))


def _tells_more(told: str, station: Station) -> bool:
    """Whether a text has the station's place in it, or a position that is more exact than a locator's six places."""
    if station.place and station.place.casefold() in told.casefold():
        return True
    try:
        parse_position(told)
    except PositionError:
        return False
    return station.privacy == "none" or not is_locator(told) or len(told.strip()) > _SQUARE
