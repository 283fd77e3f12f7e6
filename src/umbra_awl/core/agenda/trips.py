"""Trips: a place and dates make a bundle of access points, a zone, a time zone and reminders."""

import re
from collections.abc import Callable, Iterable
from datetime import date, datetime
from functools import cache
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

from msgspec.structs import replace

from umbra_awl.core.facts.earth import Position
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, fresh_key, swap_item, without
from umbra_awl.core.plan.model import Plan, Reminder, Trip, Zone

REMINDERS = (
    Reminder("Check the licence conditions and band plan of the place", 14),
    Reminder("Teach the travel hotspot the phone's sharing, and try it", 7),
    Reminder("Write the plan with the trip's zone into the radios", 3),
    Reminder("Print or save the field card", 2),
    Reminder("Charge batteries; pack antenna, cable, charger", 1),
)


def nautical_zone(lon: float) -> str:
    """The time zone that a longitude suggests, where no better is known: “Etc/GMT+2” is two hours behind UTC."""
    hours = round(lon / 15)
    return "Etc/GMT" if not hours else f"Etc/GMT{-hours:+d}"


@cache
def _zones() -> frozenset[str]:
    """The names of all time zones; listed once, since that looks through the disk."""
    return frozenset(available_timezones())


_FIXED = re.compile(r"(?:utc|gmt)\s*(?:([+\-−])\s*(\d{1,2}))?", re.IGNORECASE)


def zone_typed(text: str) -> str:
    """A time zone as people type it, by its name in the database: “UTC−2” is “Etc/GMT+2”; what is no such text stays."""
    found = _FIXED.fullmatch(text.strip())
    if found is None:
        return text.strip()
    sign, hours = found.groups()
    if not hours or not int(hours):
        return "Etc/UTC"
    return f"Etc/GMT{'-' if sign == '+' else '+'}{int(hours)}"


def zone_words(name: str) -> str:
    """A time zone as people read it: the database counts “Etc/GMT+2” the other way round, it is “UTC−2”."""
    if name in {"Etc/UTC", "Etc/GMT", "UTC"}:
        return "UTC"
    hours = name.removeprefix("Etc/GMT")
    return f"UTC{'−' if hours[0] == '+' else '+'}{hours[1:]}" if hours != name and hours else name


def zone_fault(name: str) -> str:
    """Why a text is no time zone; empty when it is one."""
    if name in _zones():
        return ""
    return f"“{name}” is not a time zone. Type a name such as Atlantic/Azores, or UTC−2."


def local_time(name: str, now: datetime, told: Callable[[datetime], str] = "{:%H:%M}".format) -> str:
    """The hour of the day in a time zone, with its distance from UTC: “14:30 (UTC−2)”. `told` says how the hour is told."""
    there = now.astimezone(ZoneInfo(name))
    hours = (there.utcoffset() or there - there).total_seconds() / 3600
    sign = "+" if hours > 0 else "−" if hours < 0 else "±"
    return f"{told(there)} (UTC{sign}{abs(hours):g})"


def dates_fault(begins: str, ends: str) -> str:
    """Why two texts are no dates of a trip; empty when they are. Both may be empty."""
    try:
        first, last = (date.fromisoformat(text) if text else None for text in (begins, ends))
    except ValueError:
        return "Dates read like 2026-12-01."
    if first and last and last < first:
        return "The trip would end before it begins."
    return "" if first or not last else "Give the first day too."


def add_trip(
    plan: Plan, name: str, place: Position, begins: str = "", ends: str = "", access: Iterable[str] = ()
) -> Edit:
    """Make a trip with its zone and the usual reminders. Raises EditRefused for a name or dates that cannot be."""
    fault = dates_fault(begins, ends) if name.strip() else "A trip needs a name, for example the place it goes to."
    if fault:
        raise EditRefused(fault)
    key = fresh_key(name, (item.key for item in plan.trips))
    zone_key = fresh_key(f"trip-{key}", (item.key for item in plan.zones))
    zone = Zone(zone_key, name, "trip", key)
    trip = Trip(key, name, *place, begins, ends, zone_key, tuple(access), nautical_zone(place.lon), REMINDERS)
    return Edit(f"Plan the trip {name}", lambda old: replace(old, trips=(*old.trips, trip), zones=(*old.zones, zone)))


def set_trip(key: str, sentence: str, **fields: Any) -> Edit:
    """Change fields of a trip."""

    def apply(plan: Plan) -> Plan:
        trips = swap_item(plan.trips, key, lambda trip: replace(trip, **fields))
        trip = next(item for item in trips if item.key == key)
        fault = dates_fault(trip.begins, trip.ends)
        if fault:
            raise EditRefused(fault)
        return replace(plan, trips=trips)

    return Edit(sentence, apply)


def take_along(trip: Trip, access: Iterable[str]) -> Edit:
    """Take access points of the plan along on a trip."""
    keys = tuple(dict.fromkeys((*trip.access, *access)))
    return set_trip(trip.key, f"Take {len(keys) - len(trip.access)} along on {trip.name}", access=keys)


def remove_trip(trip: Trip) -> Edit:
    """Take a trip and its zone out; access points and routes stay."""

    def apply(plan: Plan) -> Plan:
        radios = tuple(
            replace(radio, zones=tuple(key for key in radio.zones if key != trip.zone))
            if radio.zones and trip.zone in radio.zones
            else radio
            for radio in plan.radios
        )
        return replace(
            plan, trips=without(plan.trips, {trip.key}), zones=without(plan.zones, {trip.zone}), radios=radios
        )

    return Edit(f"Remove the trip {trip.name}", apply)
