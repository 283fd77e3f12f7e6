"""Edits of access points, services and destinations."""

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, drop_routes, without
from umbra_awl.core.plan.model import AccessPoint, Air, DmrAir, FusionAir, Plan, Service


def _in_service(plan: Plan, key: str, change: Callable[[Service], Service]) -> Plan:
    for position, access in enumerate(plan.access):
        if any(service.key == key for service in access.services):
            services = tuple(change(item) if item.key == key else item for item in access.services)
            swapped = replace(access, services=services)
            return replace(plan, access=(*plan.access[:position], swapped, *plan.access[position + 1 :]))
    raise EditRefused(f"The service “{key}” is no longer in the plan.")


def set_service(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of a service (frequencies in hertz)."""
    return Edit(sentence, lambda plan: _in_service(plan, key, lambda item: replace(item, **fields)))


def set_air(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of a service's air side: tones, width, color code, slots, what is always carried."""

    def change(item: Service) -> Service:
        air: Air = replace(item.air, **fields)
        return replace(item, air=air)

    return Edit(sentence, lambda plan: _in_service(plan, key, change))


def swap_offset(access: AccessPoint, service: Service) -> Edit:
    """Give a service's offset the other sign."""
    other_hz = 2 * service.rx_hz - service.tx_hz
    sentence = f"Swap the offset sign of {access.call}: transmit on {format_mhz(other_hz)}"
    return set_service(service.key, sentence, tx_hz=other_hz)


def add_access(access: AccessPoint) -> Edit:
    """Add an access point with its services."""

    def apply(plan: Plan) -> Plan:
        taken = {item.key for item in plan.access}
        services = {service.key for item in plan.access for service in item.services}
        if access.key in taken or services.intersection(service.key for service in access.services):
            raise EditRefused(f"“{access.key}” is already in the plan. Choose another name.")
        return replace(plan, access=(*plan.access, access))

    return Edit(f"Add {access.by_call}", apply)


def remove_access(access: AccessPoint) -> Edit:
    """Remove an access point with its routes, and its hotspot."""

    def apply(plan: Plan) -> Plan:
        services = {service.key for service in access.services}
        plan = drop_routes(plan, lambda route: route.service in services)
        hotspots = tuple(item for item in plan.hotspots if item.access != access.key)
        trips = tuple(
            replace(trip, access=tuple(key for key in trip.access if key != access.key))
            if access.key in trip.access
            else trip
            for trip in plan.trips
        )
        return replace(plan, access=without(plan.access, {access.key}), hotspots=hotspots, trips=trips)

    return Edit(f"Remove {access.by_call} and its routes", apply)


def remove_destination(key: str, name: str) -> Edit:
    """Remove a destination with its routes, also from what repeaters always carry and from what channels hear."""

    def apply(plan: Plan) -> Plan:
        plan = drop_routes(plan, lambda route: route.destination == key)
        routes = tuple(
            replace(route, hears=tuple(item for item in route.hears if item != key))
            if route.hears and key in route.hears
            else route
            for route in plan.routes
        )
        access = tuple(_without_destination(item, key) for item in plan.access)
        radios = tuple(replace(radio, one_touch="") if radio.one_touch == key else radio for radio in plan.radios)
        kept = without(plan.destinations, {key})
        return replace(plan, routes=routes, access=access, radios=radios, destinations=kept)

    return Edit(f"Remove the destination {name} and its routes", apply)


def _without_destination(access: AccessPoint, destination: str) -> AccessPoint:
    """The access point without a destination among what it always carries or maps to a DG-ID."""

    def change(item: Service) -> Service:
        field = {DmrAir: "static", FusionAir: "mapped"}.get(type(item.air), "")
        named = getattr(item.air, field, ())
        kept = tuple(entry for entry in named if entry.destination != destination)
        return item if len(kept) == len(named) else replace(item, air=replace(item.air, **{field: kept}))

    services = tuple(change(item) for item in access.services)
    return access if services == access.services else replace(access, services=services)
