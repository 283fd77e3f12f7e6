"""Seeds of slips in a plan: for each slip the ways to make it in this very plan, as an operator would have made it.

A seed offers plans with the slip, with what was touched; which of them is taken is decided by the findings: it must be found.
"""

import random
from collections.abc import Callable, Iterator, Mapping
from itertools import pairwise
from types import MappingProxyType
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.facts.tones import TONES
from umbra_awl.core.plan.edit.edit_access import set_air, set_service, swap_offset
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    DmrAir,
    FmAir,
    OwnedRadio,
    Plan,
    Route,
    ScanList,
    Service,
    Zone,
)
from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.plan.privacy import is_person

_SATELLITES_HZ = (435_500_000, 145_900_000)
_STEP_HZ = 12_500


class OfferedDrill(NamedTuple):
    """A plan with a slip, and what was touched, for the words of the symptom."""

    plan: Plan
    route: str = ""
    access: str = ""
    destination: str = ""
    radio: str = ""


Seed = Callable[[PlanIndex, random.Random], Iterator[OfferedDrill]]


def _mixed(items: list[Any], chance: random.Random) -> list[Any]:
    chance.shuffle(items)
    return items


def _routes(index: PlanIndex, chance: random.Random, mode: str = "") -> list[Route]:
    found = [route for route in index.plan.routes if not mode or index.services[route.service][1].mode == mode]
    return _mixed([item for item in found if not item.receive_only], chance)


def _services(index: PlanIndex, chance: random.Random, mode: str = "") -> list[tuple[AccessPoint, Service]]:
    used = {route.service for route in index.plan.routes}
    found = [pair for key, pair in index.services.items() if key in used and (not mode or pair[1].mode == mode)]
    return _mixed(found, chance)


def _with_route(plan: Plan, route: Route, **fields: Any) -> Plan:
    made = replace(route, **fields)
    zones = tuple(
        replace(item, members=tuple(made.key if key == route.key else key for key in item.members))
        for item in plan.zones
    )
    scans = tuple(
        replace(item, members=tuple(made.key if key == route.key else key for key in item.members))
        for item in plan.scans
    )
    routes = tuple(made if item is route else item for item in plan.routes)
    return replace(plan, routes=routes, zones=zones, scans=scans)


def _on_routes(mode: str, *choices: dict[str, Any]) -> Seed:
    """A slip that sets fields of one route of a mode."""

    def seed(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
        for route in _routes(index, chance, mode):
            for fields in choices:
                if any(getattr(route, name) != value for name, value in fields.items()):
                    yield OfferedDrill(
                        _with_route(index.plan, route, **fields), route.key, destination=route.destination
                    )

    return seed


def _route_through(index: PlanIndex, service: Service) -> str:
    return next((route.key for route in index.by_service.get(service.key, ())), "")


def _offset_sign(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for access, service in _services(index, chance):
        if access.kind == "repeater" and service.rx_hz != service.tx_hz:
            yield OfferedDrill(
                swap_offset(access, service).apply(index.plan), _route_through(index, service), access.key
            )


def _offset_short(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for access, service in _services(index, chance):
        offset = service.tx_hz - service.rx_hz
        if access.kind == "repeater" and offset:
            plan = set_service(service.key, "x", tx_hz=service.rx_hz + round(offset / 10)).apply(index.plan)
            yield OfferedDrill(plan, _route_through(index, service), access.key)


def _offset_left_on(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for access, service in _services(index, chance):
        if access.kind == "simplex":
            for hz in (-600_000, -7_600_000, 600_000):
                plan = set_service(service.key, "x", tx_hz=service.rx_hz + hz).apply(index.plan)
                yield OfferedDrill(plan, _route_through(index, service), access.key)


def _digit_off(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    numbered = [item for item in index.plan.destinations if item.number is not None and not is_person(item)]
    for item in _mixed(numbered, chance):
        digits = str(item.number)
        for at in range(len(digits) - 1, -1, -1):
            for digit in "0123456789":
                number = int(f"{digits[:at]}{digit}{digits[at + 1 :]}")
                if number != item.number and number > 0:
                    yield _destination(index, item.key, number=number)


def _destination(index: PlanIndex, key: str, **fields: Any) -> OfferedDrill:
    """A plan with fields of a destination changed; where a network's own number is meant, it is typed out by hand."""
    items = tuple(replace(item, **fields) if item.key == key else item for item in index.plan.destinations)
    route = next((item.key for item in index.plan.routes if item.destination == key), "")
    return OfferedDrill(replace(index.plan, destinations=items), route, destination=key)


def _group_for_private(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for item in _mixed(list(index.plan.destinations), chance):
        yield _destination(index, item.key, call="private" if item.call == "group" else "group")


def _no_contact(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for item in _mixed([item for item in index.plan.destinations if item.number is not None], chance):
        yield _destination(index, item.key, number=None)


def _copied_slot(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    keys = set(index.routes)
    for route in _routes(index, chance, "dmr"):
        other = 2 if route.slot == 1 else 1
        if f"{route.service}>{route.destination}@{other}" not in keys:
            plan = _with_route(index.plan, route, slot=other)
            yield OfferedDrill(plan, f"{route.service}>{route.destination}@{other}", destination=route.destination)


def _copied_color_code(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    codes = [service.air.color_code for _a, service in index.services.values() if isinstance(service.air, DmrAir)]
    for route in _routes(index, chance, "dmr"):
        air = index.services[route.service][1].air
        other = [code for code in (*codes, 3) if isinstance(air, DmrAir) and code != air.color_code]
        yield OfferedDrill(
            _with_route(index.plan, route, color_code=other[0]), route.key, destination=route.destination
        )


def _tone_on_receive(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for access, service in _services(index, chance, "fm"):
        air = service.air
        if access.kind == "repeater" and isinstance(air, FmAir) and not air.tone_rx:
            route = next((item for item in index.by_service.get(service.key, ()) if not item.receive_only), None)
            if route is not None:
                tone = air.tone_tx or next(item for item in TONES if item)
                yield OfferedDrill(_with_route(index.plan, route, tone_rx=tone), route.key, access.key)


def _id_short(index: PlanIndex, _chance: random.Random) -> Iterator[OfferedDrill]:
    identities = index.plan.station.identities
    for at, identity in enumerate(identities):
        if identity.ids:
            ids = (replace(identity.ids[0], number=identity.ids[0].number // 10), *identity.ids[1:])
            made = (*identities[:at], replace(identity, ids=ids), *identities[at + 1 :])
            yield OfferedDrill(replace(index.plan, station=replace(index.plan.station, identities=made)))


def _with_radio(plan: Plan, radio: OwnedRadio, **fields: Any) -> Plan:
    return replace(plan, radios=tuple(replace(item, **fields) if item is radio else item for item in plan.radios))


def _names_meet(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    long = "channel of one long name"
    for radio in _mixed(list(index.plan.radios), chance):
        modes = {route.key: index.services[route.service][1].mode for route in index.plan.routes}
        there = _routes(index, chance)
        for one, other in pairwise(there):
            if modes[one.key] == modes[other.key]:
                plan = _with_route(index.plan, one, name=f"{long} one")
                yield OfferedDrill(_with_route(plan, other, name=f"{long} two"), one.key, radio=radio.key)


def _zone_too_long(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    zone = Zone("everything-drill", "Everything", "everything")
    for radio in _mixed(list(index.plan.radios), chance):
        plan = replace(index.plan, zones=(*index.plan.zones, zone))
        zones = (*(radio.zones or tuple(item.key for item in index.plan.zones)), zone.key)
        yield OfferedDrill(_with_radio(plan, radio, zones=zones), radio=radio.key)


def _scan_too_long(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    scan = ScanList("everything-drill", "Everything", "everything")
    for radio in _mixed(list(index.plan.radios), chance):
        yield OfferedDrill(replace(index.plan, scans=(*index.plan.scans, scan)), radio=radio.key)


def _command_left(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for route in _routes(index, chance, "dstar"):
        _access, service, destination = index.parts(route)
        if is_pair(service, destination) and route.slot != LINKS and len(destination.text) == 8:
            yield OfferedDrill(
                _with_route(index.plan, route, ur=f"{destination.text[:6]}{destination.text[7]}L"), route.key
            )


def _padding(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for route in _routes(index, chance, "dstar"):
        access, service, _destination = index.parts(route)
        module = getattr(service.air, "module", "")
        if access.call and module and access.kind == "repeater":
            yield OfferedDrill(_with_route(index.plan, route, rpt1=f"{access.call} {module}".ljust(8)), route.key)


def _duplex_missing(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for route in _routes(index, chance, "dstar"):
        if index.parts(route)[0].kind == "hotspot":
            yield OfferedDrill(_with_route(index.plan, route, rpt1=" " * 8, rpt2=" " * 8), route.key)


def _two_alike(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    there = _services(index, chance, "dstar")
    for access, service in there:
        for other, twin in there:
            if other.key != access.key and access.kind == other.kind == "hotspot" and access.call == other.call:
                plan = set_air(service.key, "x", module=getattr(twin.air, "module", "")).apply(index.plan)
                yield OfferedDrill(plan, _route_through(index, service), access.key)


def _hotspot_apart(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for hotspot in _mixed(list(index.plan.hotspots), chance):
        other = hotspot.transmit_hz + (0 if hotspot.duplex else _STEP_HZ)
        moved = replace(hotspot, receive_hz=hotspot.receive_hz + _STEP_HZ, transmit_hz=other)
        yield OfferedDrill(_with_hotspot(index.plan, hotspot.key, moved), access=hotspot.access)


def _with_hotspot(plan: Plan, key: str, made: Any) -> Plan:
    return replace(plan, hotspots=tuple(made if item.key == key else item for item in plan.hotspots))


def _satellites(index: PlanIndex, chance: random.Random) -> Iterator[OfferedDrill]:
    for hotspot in _mixed(list(index.plan.hotspots), chance):
        for hz in _SATELLITES_HZ:
            moved = replace(hotspot, receive_hz=hz, transmit_hz=hz, duplex=False)
            plan = _with_hotspot(index.plan, hotspot.key, moved)
            access = next(item for item in plan.access if item.key == hotspot.access)
            services = tuple(replace(item, rx_hz=hz, tx_hz=hz) for item in access.services)
            swapped = replace(access, services=services)
            rows = tuple(swapped if item.key == access.key else item for item in plan.access)
            yield OfferedDrill(replace(plan, access=rows), access=access.key)


def _wifi_case(index: PlanIndex, _chance: random.Random) -> Iterator[OfferedDrill]:
    phone = index.plan.station.phone
    if phone is None or not phone.sharing:
        return
    for hotspot in index.plan.hotspots:
        for at, name in enumerate(hotspot.wifi):
            if name == phone.sharing and name.swapcase() != name:
                wifi = (*hotspot.wifi[:at], name.swapcase(), *hotspot.wifi[at + 1 :])
                yield OfferedDrill(
                    _with_hotspot(index.plan, hotspot.key, replace(hotspot, wifi=wifi)), access=hotspot.access
                )


def _five_ghz(index: PlanIndex, _chance: random.Random) -> Iterator[OfferedDrill]:
    phone = index.plan.station.phone
    access = next((item.access for item in index.plan.hotspots if item.wifi), "")
    if phone is not None:
        station = replace(index.plan.station, phone=replace(phone, band_ghz=5.0))
        yield OfferedDrill(replace(index.plan, station=station), access=access)


def _licence(**fields: Any) -> Seed:
    def seed(index: PlanIndex, _chance: random.Random) -> Iterator[OfferedDrill]:
        station = index.plan.station
        yield OfferedDrill(replace(index.plan, station=replace(station, licence=replace(station.licence, **fields))))

    return seed


SEEDS: Mapping[str, Seed] = MappingProxyType({
    "offset-sign": _offset_sign,
    "offset-short": _offset_short,
    "offset-left-on": _offset_left_on,
    "digit-off": _digit_off,
    "group-for-private": _group_for_private,
    "no-contact": _no_contact,
    "copied-color-code": _copied_color_code,
    "copied-slot": _copied_slot,
    "group-list": _on_routes("dmr", {"hears": ()}),
    "tone-on-receive": _tone_on_receive,
    "wide-for-narrow": _on_routes("fm", {"width_hz": 25_000}),
    "id-short": _id_short,
    "names-meet": _names_meet,
    "zone-too-long": _zone_too_long,
    "scan-too-long": _scan_too_long,
    "digital-on-fm": _on_routes("fm", {"color_code": 1}),
    "encrypted": _on_routes("dmr", {"encrypted": True}),
    "padding": _padding,
    "command-left": _command_left,
    "duplex-missing": _duplex_missing,
    "two-alike": _two_alike,
    "hotspot-apart": _hotspot_apart,
    "satellites": _satellites,
    "wifi-case": _wifi_case,
    "five-ghz": _five_ghz,
    "guard-forgotten": _licence(guard=True),
    "guard-early": _licence(granted=False, granted_on="", guard=False),
})  # fmt: skip
"""How each slip is made in a plan, by its key."""
