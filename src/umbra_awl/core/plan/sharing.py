"""A copy of a plan to be given away: no IDs unless told otherwise, no Wi-Fi names, positions as exact as their owner allows."""

from msgspec.structs import replace

from umbra_awl.core.facts.earth import Position, locator_of, parse_locator
from umbra_awl.core.plan.model import AccessPoint, Plan, Privacy


def private_position(lat: float, lon: float, privacy: Privacy) -> Position | None:
    """A position as it may be sent or exported: exact, the middle of its locator's square of six, or none."""
    if privacy == "none":
        return None
    return Position(lat, lon) if privacy == "exact" else parse_locator(locator_of(lat, lon))


def shareable(plan: Plan, *, with_ids: bool = False) -> Plan:
    """The plan as it may be shared: IDs left out, the station's and its hotspots' positions by its privacy, no dates of steps."""
    station = plan.station
    identities = station.identities if with_ids else tuple(replace(item, ids=()) for item in station.identities)
    lat = lon = None
    if station.lat is not None and station.lon is not None:
        lat, lon = private_position(station.lat, station.lon, station.privacy) or (None, None)
    access = tuple(_rounded(item, station.privacy) if item.kind == "hotspot" else item for item in plan.access)
    station = replace(station, identities=identities, lat=lat, lon=lon, phone=None)
    hotspots = tuple(replace(item, wifi=()) for item in plan.hotspots)
    return replace(plan, station=station, access=access, hotspots=hotspots, steps=())


def _rounded(access: AccessPoint, privacy: Privacy) -> AccessPoint:
    """Hotspots stand at home, so they tell where home is."""
    if access.lat is None or access.lon is None:
        return access
    lat, lon = private_position(access.lat, access.lon, privacy) or (None, None)
    return replace(access, lat=lat, lon=lon)
