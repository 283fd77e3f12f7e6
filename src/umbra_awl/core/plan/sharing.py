"""A copy of a plan to be given away: of each thing what the rules of privacy permit, under keys made anew from public names."""

from collections.abc import Iterable
from functools import cache
from typing import Any, NamedTuple

import msgspec
from msgspec import NODEFAULT
from msgspec.structs import replace

from umbra_awl.core.facts.earth import Position, locator_of, parse_locator
from umbra_awl.core.plan.edit.edits import fresh_keys
from umbra_awl.core.plan.model import Plan, Privacy, Route, Zone
from umbra_awl.core.plan.privacy import PRIVATE, PrivacyRule, is_withheld, rules_of

_GONE = object()
"""Stands for a thing that may not be told at all."""
OWNER = "owner"


def private_position(lat: float, lon: float, privacy: Privacy) -> Position | None:
    """A position as it may be sent or exported: exact, the middle of its locator's square of six, or none."""
    if privacy == "none":
        return None
    return Position(lat, lon) if privacy == "exact" else parse_locator(locator_of(lat, lon))


def shareable(plan: Plan, *, with_ids: bool = False) -> Plan:
    """The plan as it may be shared; own IDs only where told so. Nobody is licensed in it: its reader is somebody else."""
    told = _Told(plan.station.privacy, with_ids)
    permitted: Plan = told.walked(plan)
    renamed: Plan = _Renamed(permitted).walked(permitted)
    return replace(renamed, zones=tuple(_known_groups(renamed)))


def _known_groups(plan: Plan) -> Iterable[Zone]:
    """Zones whose rule gathers something that is still there: a trip's, or the place of a hotspot at home, is not."""
    access = {item.key for item in plan.access}
    places = {item.place or item.site for item in plan.access}
    there: dict[str, set[str]] = {"access": access, "place": places, "trip": set()}
    return (zone for zone in plan.zones if zone.by not in there or zone.of in there[zone.by])


class _Field(NamedTuple):
    name: str
    default: Any


@cache
def _fields(kind: type[msgspec.Struct]) -> tuple[_Field, ...]:
    """The fields of a kind of thing with what each is when it is not told; NODEFAULT where there is no such value."""
    return tuple(
        _Field(field.name, field.default if field.default_factory is NODEFAULT else field.default_factory())
        for field in msgspec.structs.fields(kind)
    )


class _Walk:
    """Goes through a thing and all it holds, field by field with the rule of each.

    A thing that comes out with a field that must not be told and cannot be left out is gone whole.
    """

    def walked(self, value: Any) -> Any:
        """What becomes of a thing, a tuple of things, or a plain value; _GONE where nothing does."""
        if isinstance(value, tuple):
            return tuple(item for one in value if (item := self.walked(one)) is not _GONE)
        if not isinstance(value, msgspec.Struct):
            return value
        rules, changed = rules_of(value), {}
        for name, default in _fields(type(value)):
            now = getattr(value, name)
            new = self._value(rules.get(name, PRIVATE), now, default)
            if new is _GONE or new is NODEFAULT:
                return _GONE
            if new is not now:
                changed[name] = new
        return self._finished(replace(value, **changed) if changed else value)

    def _value(self, rule: PrivacyRule, now: Any, default: Any) -> Any:
        raise NotImplementedError

    def _finished(self, value: Any) -> Any:
        raise NotImplementedError


class _Told(_Walk):
    """Leaves out of each thing what may not be told."""

    def __init__(self, privacy: Privacy, with_ids: bool) -> None:
        self._privacy: Privacy = privacy
        self._with_ids = with_ids

    def walked(self, value: Any) -> Any:
        return _GONE if isinstance(value, msgspec.Struct) and is_withheld(value) else super().walked(value)

    def _value(self, rule: PrivacyRule, now: Any, default: Any) -> Any:
        if rule.kind in {"part", "first"}:
            told = self.walked(now[:1] if rule.kind == "first" else now)
            return default if told is _GONE else told
        hidden = (
            rule.kind == "private"
            or (rule.kind == "id" and not self._with_ids)
            or (rule.kind == "exact" and self._privacy != "exact")
        )
        return default if hidden else now

    def _finished(self, value: Any) -> Any:
        """A thing with its position as exactly as its owner allows."""
        if not any(rule.kind == "rounded" for rule in rules_of(value).values()) or None in {value.lat, value.lon}:
            return value
        lat, lon = private_position(value.lat, value.lon, self._privacy) or (None, None)
        return replace(value, lat=lat, lon=lon)


class Rekeyed(_Walk):
    """Gives things other keys, and follows what points to them; what a table of keys does not name stays as it is."""

    def __init__(self, keys: dict[str, dict[str, str]]) -> None:
        self._keys = keys

    def _value(self, rule: PrivacyRule, now: Any, default: Any) -> Any:  # noqa: ARG002  (what others fall back on)
        if rule.kind in {"part", "first"}:
            return self.walked(now)
        if not rule.of or not now:
            return now
        known = self._keys.get(rule.of, {})
        return tuple(known.get(item, item) for item in now) if isinstance(now, tuple) else known.get(now, now)

    def _finished(self, value: Any) -> Any:
        """A zone of one access point names it by its key."""
        grouped = isinstance(value, Zone) and value.by == "access"
        return replace(value, of=self._keys["access"].get(value.of, value.of)) if grouped else value


class _Renamed(_Walk):
    """Gives things keys made of their public names, and lets what points to gone things go."""

    def __init__(self, plan: Plan) -> None:
        self._keys: dict[str, dict[str, str]] = {
            "identity": {item.key: OWNER for item in plan.station.identities},
            "network": _fresh((item.key, item.name) for item in plan.networks),
            "access": _fresh((item.key, item.by_site) for item in plan.access),
            "destination": _fresh((item.key, item.name) for item in plan.destinations),
            "scan": _fresh((item.key, item.name) for item in plan.scans),
            "radio": _fresh((item.key, item.name) for item in plan.radios),
            "zone": _fresh((item.key, item.name) for item in plan.zones),
            "net": _fresh((item.key, item.name) for item in plan.nets),
        }
        access = self._keys["access"]
        services = ((one.key, f"{access[item.key]}-{one.mode}") for item in plan.access for one in item.services)
        self._keys["service"] = _fresh(services)
        self._keys["hotspot"] = _fresh((item.key, access.get(item.access, "hotspot")) for item in plan.hotspots)
        walked = ((route.key, self.walked(route)) for route in plan.routes)
        self._keys["route"] = {key: item.key for key, item in walked if isinstance(item, Route)}

    def _value(self, rule: PrivacyRule, now: Any, default: Any) -> Any:
        if rule.kind in {"part", "first"}:
            return self.walked(now)
        if not rule.of or not now:
            return now
        known = self._keys[rule.of]
        if isinstance(now, tuple):
            return tuple(known[item] for item in now if item in known)
        return known.get(now, _GONE if rule.kind in {"needs", "key"} else default)

    def _finished(self, value: Any) -> Any:
        """A zone of one access point names it by its key."""
        grouped = isinstance(value, Zone) and value.by == "access"
        return replace(value, of=self._keys["access"].get(value.of, "")) if grouped else value


def _fresh(named: Iterable[tuple[str, str]]) -> dict[str, str]:
    """Old key to new one, made of a name."""
    pairs = tuple(named)
    return dict(zip((key for key, _name in pairs), fresh_keys(name for _key, name in pairs), strict=True))
