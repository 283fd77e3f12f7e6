"""Another's plan without a common ancestor: things known again by what they are, and what its maker left out taken for untold.

A copy that was made to be given away has keys of its own, and nothing private in it. Taken back into the plan that it came from
it must change nothing; beside another plan a key that is the same by luck must not make two things one.
"""

from collections.abc import Hashable, Iterable
from typing import Any

import msgspec
from msgspec.structs import replace

from umbra_awl.core.plan import model
from umbra_awl.core.plan.authority import default_of
from umbra_awl.core.plan.edit.edits import fresh_keys
from umbra_awl.core.plan.model import AccessPoint, Destination, Plan, Service
from umbra_awl.core.plan.privacy import PRIVATE, rules_of
from umbra_awl.core.plan.sharing import Rekeyed, private_position

Keys = dict[str, dict[str, str]]
Pairs = list[tuple[str, Hashable]]


def aligned(mine: Plan, theirs: Plan) -> Plan:
    """Their plan with my keys for what is the same, keys of their own for what is not, and what they do not tell as in mine."""
    renamed: Plan = Rekeyed(_keys(mine, theirs)).walked(theirs)
    held: dict[str, set[str]] = {}
    for kind, key in _named(renamed):
        held.setdefault(kind, set()).add(key)
    told: Plan = _Untold(mine, held).struct(mine, renamed)
    return told


# keys


def _keys(mine: Plan, theirs: Plan) -> Keys:
    """For each kind of thing their keys, and which each becomes."""
    keys: Keys = {"network": _matched(_networks(mine), _networks(theirs))}
    network = keys["network"]
    keys["access"] = _matched(_access(mine), _access(theirs))
    keys["service"] = _services(mine, theirs, keys["access"])
    keys["destination"] = _matched(_destinations(mine, {}), _destinations(theirs, network))
    for kind, rows in (("zone", "zones"), ("scan", "scans"), ("net", "nets")):
        keys[kind] = _matched(
            *([(item.key, item.name.casefold()) for item in getattr(plan, rows)] for plan in (mine, theirs))
        )
    keys["radio"] = _matched(
        *([(item.key, (item.name.casefold(), item.profile)) for item in plan.radios] for plan in (mine, theirs))
    )
    keys["hotspot"] = _matched(
        [(item.key, item.access) for item in mine.hotspots],
        [(item.key, keys["access"].get(item.access, item.access)) for item in theirs.hotspots],
    )
    keys["identity"] = {item.key: item.key for item in theirs.station.identities}
    changed = {"service": keys["service"], "destination": keys["destination"]}
    keys["route"] = {
        item.key: f"{changed['service'].get(item.service, item.service)}>"
        f"{changed['destination'].get(item.destination, item.destination)}@{item.slot}"
        for item in theirs.routes
    }
    return keys


def _matched(mine: Iterable[tuple[str, Hashable]], theirs: Iterable[tuple[str, Hashable]]) -> dict[str, str]:
    """Their keys, and my key for what is the same; another one where only the key is the same.

    One that has both the key and what it is stays; each of mine is given once.
    """
    own = list(mine)
    others = list(theirs)
    there = dict(own)
    kept = {key: key for key, what in others if there.get(key) == what}
    free: dict[Hashable, list[str]] = {}
    for key, what in own:
        if key not in kept:
            free.setdefault(what, []).append(key)
    made = dict(kept)
    for key, what in others:
        if key not in made and (same := free.get(what)):
            made[key] = same.pop(0)
    return made | _unlike([key for key, _what in others if key not in made], set(there), (key for key, _what in others))


def _unlike(keys: list[str], mine: set[str], theirs: Iterable[str]) -> dict[str, str]:
    """Keys of things that only they have: another one for each that is one of mine by luck."""
    lucky = [key for key in keys if key in mine]
    return {key: key for key in keys} | dict(zip(lucky, fresh_keys(lucky, {*mine, *theirs}), strict=True))


def _networks(plan: Plan) -> Pairs:
    return [(item.key, (item.name.casefold(), item.mode)) for item in plan.networks]


def _access(plan: Plan) -> Pairs:
    return [(item.key, (item.call, item.site.casefold(), item.kind)) for item in plan.access]


def _services(mine: Plan, theirs: Plan, access: dict[str, str]) -> dict[str, str]:
    """Services of the same access point are the same where their mode is, the nearest in frequency first."""
    held = {item.key: item for item in mine.access}
    keys: dict[str, str] = {}
    own_keys, other_keys = (
        [service.key for item in plan.access for service in item.services] for plan in (mine, theirs)
    )
    for item in theirs.access:
        own = held.get(access.get(item.key, ""))
        left = list(own.services) if own is not None else []
        for service in item.services:
            best = _nearest(service, left)
            if best is not None:
                left.remove(best)
                keys[service.key] = best.key
    return keys | _unlike([key for key in other_keys if key not in keys], set(own_keys), other_keys)


def _nearest(service: Service, among: list[Service]) -> Service | None:
    alike = [item for item in among if item.mode == service.mode]
    return min(alike, key=lambda item: (item.key != service.key, abs(item.rx_hz - service.rx_hz)), default=None)


def _destinations(plan: Plan, network: dict[str, str]) -> Pairs:
    """A destination is its kind, network and number or text; its name tells only where it has neither."""
    return [
        (item.key, (item.kind, network.get(item.network, item.network), *_what(item))) for item in plan.destinations
    ]


def _what(item: Destination) -> tuple[int | None, str]:
    return item.number, item.text or (item.name if item.number is None else "")


# what is not told


def _named(plan: Plan) -> Iterable[tuple[str, str]]:
    for kind, row in (
        ("network", plan.networks), ("access", plan.access), ("destination", plan.destinations), ("route", plan.routes),
        ("zone", plan.zones), ("scan", plan.scans), ("radio", plan.radios), ("hotspot", plan.hotspots), ("net", plan.nets),
    ):  # fmt: skip
        yield from ((kind, item.key) for item in row)


class _Untold:
    """Fills in from mine what their copy leaves out: private values, rounded places, what points to things that are not in it."""

    def __init__(self, mine: Plan, held: dict[str, set[str]]) -> None:
        self._privacy = mine.station.privacy
        self._held = held

    def struct(self, mine: Any, theirs: Any) -> Any:
        """Their thing with my values where they tell none."""
        rules, changed = rules_of(mine), {}
        for name in theirs.__struct_fields__:
            own, other = getattr(mine, name), getattr(theirs, name)
            if own == other:
                continue
            made = self._field(type(theirs), name, rules.get(name, PRIVATE), own, other)
            if made is not other:
                changed[name] = made
        return self._placed(mine, replace(theirs, **changed) if changed else theirs)

    def _field(self, kind: type[msgspec.Struct], name: str, rule: Any, own: Any, other: Any) -> Any:
        if other == default_of(kind, name) and (rule.kind != "public" or isinstance(own, msgspec.Struct)):
            return own
        if rule.kind == "ref" and isinstance(own, tuple) and isinstance(other, tuple):
            there = self._held.get(rule.of, set())
            return own if tuple(key for key in own if key in there) == other else other
        if isinstance(own, msgspec.Struct) and type(own) is type(other):
            return self.struct(own, other)
        if isinstance(other, tuple):
            things = all(isinstance(item, msgspec.Struct) for item in (*own, *other))
            return self._rows(own, other) if things else other
        return other

    def _rows(self, own: tuple[Any, ...], other: tuple[Any, ...]) -> tuple[Any, ...]:
        if all(hasattr(item, "key") for item in (*own, *other)):
            held = {item.key: item for item in own}
            pairs = ((held.get(item.key), item) for item in other)
            made = tuple(self.struct(one, two) if type(one) is type(two) else two for one, two in pairs)
            return own if made == own else made
        left = iter(own)
        return own if all(any(item == one for one in left) for item in other) else other

    def _placed(self, mine: Any, theirs: Any) -> Any:
        """A place that was rounded to be given away is the place itself."""
        if not isinstance(mine, AccessPoint | model.Station) or None in {mine.lat, mine.lon} or theirs.lat == mine.lat:
            return theirs
        told = private_position(mine.lat, mine.lon, self._privacy)  # type: ignore[arg-type]
        same = told is None or (theirs.lat, theirs.lon) in {tuple(told), (None, None)}
        return replace(theirs, lat=mine.lat, lon=mine.lon) if same else theirs
