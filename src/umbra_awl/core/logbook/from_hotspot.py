"""Own overs out of a hotspot's log as entries: that the hotspot heard them, with the BER, and that the echo came back.

The same line always gives the same key, so a log that is read again brings nothing twice.
"""

from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from msgspec.structs import replace

from umbra_awl.core.hotspot.logs.reading import HeardCall, LogReading, own_overs
from umbra_awl.core.logbook.model import By, Entry, Grade
from umbra_awl.core.logbook.proof import stood_on
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Hotspot, Route

_ECHO_WITHIN = timedelta(seconds=30)
MOST_TAKEN = 300


def entries_of(
    index: PlanIndex, hotspot: Hotspot, reading: LogReading, taken: Iterable[str] = (), by: By = "hotspot"
) -> tuple[Entry, ...]:
    """Entries of the own overs in a hotspot's log that go out on a route of the plan, the earliest first.

    `taken` are keys that are there already. `by` is “simulation” where the hotspot is a simulated one: that proves nothing.
    """
    calls = [item.call for item in index.plan.station.identities if item.call]
    ids = [one.full for item in index.plan.station.identities for one in item.ids]
    known = set(taken)
    made = []
    for over in own_overs(reading, calls, ids)[:MOST_TAKEN]:
        utc, route = utc_of(over.when, hotspot.time_zone), _route(index, hotspot, over)
        key = f"hotspot-{hotspot.key}-{over.when.replace(' ', 'T')}-{over.slot}"
        if utc is None or route is None or key in known:
            continue
        known.add(key)
        grade = _grade(index, hotspot, reading, over, route)
        made.append(replace(_entry(index, route, over), key=key, utc=f"{utc:%Y-%m-%dT%H:%M:%SZ}", by=by, grade=grade))
    return tuple(reversed(made))


def utc_of(when: str, zone: str) -> datetime | None:
    """A log's moment, told in a zone (UTC where none is known); None where it is none."""
    try:
        told = datetime.fromisoformat(when.strip())
        known = told if told.tzinfo is not None else told.replace(tzinfo=ZoneInfo(zone or "Etc/UTC"))
        return known.astimezone(UTC)
    except (ValueError, KeyError, OSError):
        return None


def _route(index: PlanIndex, hotspot: Hotspot, over: HeardCall) -> Route | None:
    """The route of the plan that an over went out on: through this hotspot, to that destination."""
    access = index.access.get(hotspot.access)
    for service in access.services if access is not None else ():
        for route in index.by_service.get(service.key, ()):
            same = not over.mode or service.mode == over.mode.replace("-", "")
            slot = not (over.slot and route.slot) or over.slot == route.slot
            if same and slot and _goes_to(over.to, index.destinations[route.destination]):
                return route
    return None


def _goes_to(to: str, destination: Destination) -> bool:
    said = to.casefold().removeprefix("tg").strip()
    if said.isascii() and said.isdigit():
        return destination.number == int(said)
    return bool(said) and said in {destination.name.casefold(), destination.text.casefold().strip()}


def _grade(index: PlanIndex, hotspot: Hotspot, reading: LogReading, over: HeardCall, route: Route) -> Grade:
    """The echo, where that is what was called and it came back soon; else that one's own key was heard."""
    begun = utc_of(over.when, hotspot.time_zone)
    if index.destinations[route.destination].kind == "echo" and begun is not None:
        for item in reading.calls:
            at = utc_of(item.when, hotspot.time_zone)
            soon = at is not None and begun <= at <= begun + _ECHO_WITHIN + timedelta(seconds=over.seconds)
            if soon and item.way != over.way and item.line != over.line:
                return "echo"
    return "own-key"


def _entry(index: PlanIndex, route: Route, over: HeardCall) -> Entry:
    _access, service, _destination = index.parts(route)
    return Entry(
        "",
        "",
        route=route.key,
        ber=over.ber,
        mode=service.mode,
        hz=service.tx_hz,
        rx_hz=service.rx_hz,
        note=f"{over.seconds:g} s, as the hotspot logged it",
        own_call=over.call,
        stood=stood_on(index, route),
    )
