"""Taking a place: the edit that moves a hotspot with its services, and which radios must be written again."""

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from umbra_awl.core.facts.bands import Band, band_at
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.on_hotspot import move_hotspot, stands_well, widest
from umbra_awl.core.hotspot.place.occupied import Occupied, User, neighbour_users, occupied, own_users, users_of
from umbra_awl.core.hotspot.place.ruler import RulerPlace, RulerQuestion
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Hotspot, Listened, Plan
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.core.radio.memory import Memory

NEAR_KM = 150.0
"""How far around a hotspot the directory is asked; beyond the horizon of every hill there is nothing to disturb."""


class Touched(NamedTuple):
    """A radio that must be written again, and how many of its channels change."""

    name: str
    channels: int


def asked_for(
    index: PlanIndex, access: AccessPoint, hotspot: Hotspot | None, raster_hz: int = 12_500
) -> RulerQuestion | None:
    """What a place is sought for: the hotspot as it is, in the band it stands in; None where it has no service or no band."""
    if not access.services:
        return None
    service = access.services[0]
    band = band_at(index.bands, service.rx_hz) or next(iter(index.bands), None)
    if band is None:
        return None
    sent = widest(access, service)
    listened = hotspot.listened if hotspot is not None else ()
    return RulerQuestion(index.plan.station, band, sent, service.tx_hz - service.rx_hz, raster_hz, listened)


def in_band(asked: RulerQuestion, band: Band) -> RulerQuestion:
    """The same in another band."""
    return asked._replace(band=band)


def place_of(plan: Plan, access: AccessPoint, trip: str = "") -> Position | None:
    """Where a hotspot stands: on a trip at its place, else where it is noted, else at the station."""
    for item in plan.trips:
        if item.key == trip:
            return Position(item.lat, item.lon)
    if access.lat is not None and access.lon is not None:
        return Position(access.lat, access.lon)
    station = plan.station
    return Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else None


def around(plan: Plan, access: AccessPoint, listed: Iterable[AccessPoint], place: Position | None) -> Occupied:
    """Everything in use around a place: the plan's own, the directory's, the neighbours' hotspots."""
    own = {(item.call, service.rx_hz) for item in plan.access for service in item.services}
    users: list[User] = [*own_users(plan, access.key), *neighbour_users(plan.station.neighbours)]
    for item in listed:
        if not any((item.call, service.rx_hz) in own for service in item.services):
            users += users_of(item)
    return occupied(users, place)


def take_place(index: PlanIndex, access: AccessPoint, place: RulerPlace) -> Edit:
    """Move a hotspot, all its services and so every radio to a place. Raises EditRefused where it may not stand there."""
    if not access.services:
        raise EditRefused(f"{access.site} has no service yet. Add one at Access first.")
    if not stands_well(index, access, access.services[0], place.hz, place.tx_hz):
        raise EditRefused(
            f"{format_mhz(place.hz)} MHz is not inside licence and band with the whole width, or lies in a satellite segment. "
            "Choose another place."
        )
    return move_hotspot(index, access, place.hz, place.tx_hz, f"Move {access.site} to {format_mhz(place.hz)} MHz")


def touched(plan: Plan, access: AccessPoint, memories: Mapping[str, Memory]) -> list[Touched]:
    """The radios whose channels come from a hotspot, by what is fitted to them."""
    services = {service.key for service in access.services}
    routes = {route.key for route in plan.routes if route.service in services}
    made: list[Touched] = []
    for radio in plan.radios:
        memory = memories.get(radio.key)
        count = sum(channel.route in routes for channel in memory.channels) if memory is not None else 0
        if count:
            made.append(Touched(radio.name, count))
    return made


def note_heard(hotspot: Hotspot, heard: Listened) -> Edit:
    """Note what was heard on a frequency on one day. What is heard adds up; a quiet look takes nothing back that day."""
    that_day = [item for item in hotspot.listened if (item.hz, item.day) == (heard.hz, heard.day)]
    kept = tuple(item for item in hotspot.listened if item.heard or item not in that_day)
    what = f"heard: {heard.heard}" if heard.heard else "nothing heard"
    sentence = f"Note for {format_mhz(heard.hz)}: {what}"

    def apply(plan: Plan) -> Plan:
        if not heard.heard and any(item.heard for item in that_day):
            raise EditRefused(
                f"{format_mhz(heard.hz)} MHz was heard today already, so today is no quiet day. Listen again on another day."
            )
        return set_fields(HOTSPOTS, hotspot.key, sentence, listened=(*kept, heard)).apply(plan)

    return Edit(sentence, apply)
