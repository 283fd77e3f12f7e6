"""Zones and scan lists: what a rule gathers, what the hand orders, and the edits that make them."""

from collections import Counter
from collections.abc import Iterable
from typing import Any, Literal

from msgspec.structs import replace

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.plan.edits import Edit, EditRefused, add_item, fresh_key, set_fields, without
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, GroupBy, OwnedRadio, Plan, Route, RouteList, ScanList, Service, Zone

RULE_WORDS: dict[GroupBy, str] = {
    "access": "one for each access point",
    "place": "one for each place",
    "mode": "one for each mode",
    "trip": "one for each trip",
    "everything": "everything in one",
    "hand": "by hand",
}


def group_of(by: GroupBy, access: AccessPoint, service: Service) -> str:
    """The group that a rule puts a service's routes into."""
    if by == "access":
        return access.key
    if by == "place":
        return access.place or access.site
    return service.mode if by == "mode" else ""


def rule_members(index: PlanIndex, by: GroupBy) -> dict[str, tuple[str, ...]]:
    """Every group of a rule with its route keys, in the order of punching."""
    gathered: dict[str, list[str]] = {}
    for key, route in index.routes.items():
        access, service = index.services[route.service]
        gathered.setdefault(group_of(by, access, service), []).append(key)
    return {group: tuple(keys) for group, keys in gathered.items()}


def trip_members(index: PlanIndex, trip: str) -> tuple[str, ...]:
    """The routes through the access points that a trip takes along, in the order of punching."""
    along = next((item.access for item in index.plan.trips if item.key == trip), ())
    return tuple(key for key, route in index.routes.items() if index.services[route.service][0].key in along)


def counts_of_all(index: PlanIndex, lists: Iterable[RouteList], modes: Iterable[str] = MODE_WORDS) -> dict[str, int]:
    """List key to how many of its routes a radio of these modes carries; lists with a hand-made part are gathered."""
    carried = frozenset(modes)
    able = {service.key for _access, service in index.all_services() if service.mode in carried}
    punched = Counter(route.service for route in index.plan.routes if route.service in able)
    rules: dict[GroupBy, Counter[str]] = {}
    found: dict[str, int] = {}
    for item in lists:
        if item.by in {"hand", "trip"} or item.members:
            members = members_of_all(index, (item,))[item.key]
            found[item.key] = sum(index.routes[key].service in able for key in members)
            continue
        if item.by not in rules:
            groups: Counter[str] = Counter()
            rules[item.by] = groups
            for access, service in index.all_services():
                groups[group_of(item.by, access, service)] += punched[service.key]
        found[item.key] = rules[item.by][item.of]
    return found


def members_of_all(index: PlanIndex, lists: Iterable[RouteList]) -> dict[str, tuple[str, ...]]:
    """List key to its route keys: the hand's first, then what the rule gathers. One pass for each rule in use."""
    rules: dict[GroupBy, dict[str, tuple[str, ...]]] = {}
    found: dict[str, tuple[str, ...]] = {}
    for item in lists:
        if item.by == "hand":
            found[item.key] = item.members
            continue
        if item.by == "trip":
            by_rule = trip_members(index, item.of)
        else:
            if item.by not in rules:
                rules[item.by] = rule_members(index, item.by)
            by_rule = rules[item.by].get(item.of, ())
        if not item.members:
            found[item.key] = by_rule
            continue
        held = frozenset(item.members)
        found[item.key] = (*item.members, *(key for key in by_rule if key not in held))
    return found


def zones_in_force(index: PlanIndex) -> tuple[Zone, ...]:
    """The plan's zones; without any, one for each access point that has routes."""
    return index.plan.zones or zones_by_rule(index, "access")


def zones_by_rule(index: PlanIndex, by: GroupBy) -> tuple[Zone, ...]:
    """The zones that a rule makes from the routes of now; they keep gathering later ones."""
    if by == "trip":
        return tuple(Zone(f"trip-{trip.key}", trip.name, "trip", trip.key) for trip in index.plan.trips)
    zones: list[Zone] = []
    for group in rule_members(index, by):
        key = fresh_key(f"{by}-{group}" if group else by, (zone.key for zone in zones))
        zones.append(Zone(key, _group_name(index, by, group), by, group))
    return tuple(zones)


def _group_name(index: PlanIndex, by: GroupBy, group: str) -> str:
    if by == "access":
        return index.access[group].site
    if by == "mode":
        return MODE_WORDS[group]
    return group or "Everything"


def make_zones(by: GroupBy) -> Edit:
    """Replace the rule-made zones by those of another rule; zones made by hand stay."""

    def apply(plan: Plan) -> Plan:
        made = zones_by_rule(PlanIndex(plan), by)
        kept = tuple(zone for zone in plan.zones if zone.by == "hand")
        used = {zone.key for zone in kept}
        fresh = tuple(replace(zone, key=fresh_key(zone.key, used)) for zone in made)
        radios = tuple(
            replace(radio, zones=None, halves=()) if radio.zones is not None or radio.halves else radio
            for radio in plan.radios
        )
        return replace(plan, zones=(*fresh, *kept), radios=radios)

    return Edit(f"Make zones: {RULE_WORDS[by]}", apply)


def collection_of(item: RouteList) -> Literal["zones", "scans"]:
    """Which of the plan's collections a list belongs to."""
    return "zones" if isinstance(item, Zone) else "scans"


def word_of(item: RouteList) -> str:
    """What operators call such a list."""
    return "zone" if isinstance(item, Zone) else "scan list"


def add_list(index: PlanIndex, kind: type[Zone] | type[ScanList], name: str, routes: Iterable[Route] = ()) -> Edit:
    """Add a zone or scan list by hand, with these routes."""
    collection = "zones" if kind is Zone else "scans"
    key = fresh_key(name, (item.key for item in getattr(index.plan, collection)))
    made = kind(key, name, members=tuple(route.key for route in routes))
    return add_item(collection, made, f"Add the {word_of(made)} {name}")


def remove_list(item: RouteList) -> Edit:
    """Remove a zone or scan list; its routes stay in the plan."""

    def apply(plan: Plan) -> Plan:
        collection = collection_of(item)
        plan = replace(plan, **{collection: without(getattr(plan, collection), {item.key})})
        if collection == "scans":
            return plan
        return replace(plan, radios=tuple(_radio_without(radio, item.key) for radio in plan.radios))

    return Edit(f"Remove the {word_of(item)} {item.name}", apply)


def _radio_without(radio: OwnedRadio, zone: str) -> OwnedRadio:
    if radio.zones and zone in radio.zones:
        radio = replace(radio, zones=tuple(key for key in radio.zones if key != zone))
    if zone in radio.halves:
        radio = replace(radio, halves=tuple("" if key == zone else key for key in radio.halves))
    return radio


def change_list(item: RouteList, sentence: str, **fields: Any) -> Edit:
    """Change fields of one zone or scan list."""
    return set_fields(collection_of(item), item.key, sentence, **fields)


def rename_list(item: RouteList, name: str) -> Edit:
    """Give a zone or scan list another name. Raises EditRefused for an empty one."""
    if not name.strip():
        raise EditRefused(f"A {word_of(item)} needs a name. Type what the radio's display should say.")
    return change_list(item, f"Rename the {word_of(item)} {item.name} to {name}", name=name)


def toggle_member(index: PlanIndex, item: RouteList, route: Route) -> Edit:
    """Put a route into a list by hand, or take it out. Refused where a rule put it in."""
    current = members_of_all(index, (item,))[item.key]
    label = index.label(route)
    if route.key not in current:
        return change_list(item, f"Add {label} to {item.name}", members=(*item.members, route.key))
    if item.by != "hand":
        raise EditRefused(f"{item.name} gathers its routes by rule. Fill the hole, or make a {word_of(item)} by hand.")
    kept = tuple(key for key in item.members if key != route.key)
    return change_list(item, f"Take {label} out of {item.name}", members=kept)


def move_member(index: PlanIndex, item: RouteList, key: str, by: int) -> Edit:
    """Move a route up (by < 0) or down within a list; from then on the hand orders it."""
    order = list(members_of_all(index, (item,))[item.key])
    at = order.index(key)
    to = min(max(at + by, 0), len(order) - 1)
    order.insert(to, order.pop(at))
    return change_list(item, f"Move {index.label(index.routes[key])} in {item.name}", members=tuple(order))
