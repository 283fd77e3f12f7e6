"""Zones and scan lists: what a rule gathers, what the hand orders, and the edits that make them."""

from collections import Counter
from collections.abc import Iterable
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.facts.modes import MODE_WORDS, of_mode
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, add_item, fresh_key, fresh_keys, set_fields, without
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import AccessPoint, GroupBy, OwnedRadio, Plan, Route, RouteList, ScanList, Service, Zone
from umbra_awl.core.plan.parts import RADIOS, SCANS, ZONES, Part

RULE_WORDS: dict[GroupBy, str] = {
    "access": "one for each access point",
    "place": "one for each place",
    "mode": "one for each mode",
    "trip": "one for each trip",
    "home": "home and away, from the trips",
    "everything": "everything in one",
    "hand": "by hand",
}


LONGEST_HANG_S = 60.0


def group_of(by: GroupBy, access: AccessPoint, service: Service) -> str:
    """The group that a rule puts a service's routes into."""
    if by == "access":
        return access.key
    if by == "place":
        return access.place or access.site
    return service.mode if by == "mode" else ""


def rule_members(index: PlanIndex, by: GroupBy) -> dict[str, tuple[str, ...]]:
    """Every group of a rule with its route keys, in the order of punching."""
    return index.memo(("groups of a rule", by), lambda: _rule_members(index, by))


def _groups(index: PlanIndex, by: GroupBy) -> dict[str, str]:
    """Service key to the group that a rule puts its routes into."""

    def make() -> dict[str, str]:
        return {key: group_of(by, access, service) for key, (access, service) in index.services.items()}

    return index.memo(("groups of services", by), make, ("access",))


def _rule_members(index: PlanIndex, by: GroupBy) -> dict[str, tuple[str, ...]]:
    group = _groups(index, by)
    gathered: dict[str, list[str]] = {}
    for key, route in index.routes.items():
        gathered.setdefault(group[route.service], []).append(key)
    return {name: tuple(keys) for name, keys in gathered.items()}


def trip_members(index: PlanIndex, trip: str) -> tuple[str, ...]:
    """The routes through the access points that a trip takes along, in the order of punching."""
    along = frozenset(next((item.access for item in index.plan.trips if item.key == trip), ()))
    return tuple(key for key, route in index.routes.items() if index.services[route.service][0].key in along)


def home_members(index: PlanIndex) -> tuple[str, ...]:
    """The routes through access points that no trip takes along, in the order of punching."""
    away = {key for trip in index.plan.trips for key in trip.access}
    return tuple(key for key, route in index.routes.items() if index.services[route.service][0].key not in away)


def counts_of_all(index: PlanIndex, lists: Iterable[RouteList], modes: Iterable[str] = MODE_WORDS) -> dict[str, int]:
    """List key to how many of its routes a radio of these modes carries; lists with a hand-made part are gathered."""
    carried = frozenset(modes)
    able = {service.key for _access, service in index.all_services() if service.mode in carried}
    punched = {key: len(routes) for key, routes in index.by_service.items() if key in able}
    rules: dict[GroupBy, Counter[str]] = {}
    found: dict[str, int] = {}
    for item in lists:
        if item.by in {"hand", "trip", "home"} or item.members:
            members = members_of_all(index, (item,))[item.key]
            found[item.key] = sum(index.routes[key].service in able for key in members)
            continue
        if item.by not in rules:
            groups: Counter[str] = Counter()
            rules[item.by] = groups
            of = _groups(index, item.by)
            for key, count in punched.items():
                groups[of[key]] += count
        found[item.key] = rules[item.by][item.of]
    return found


def members_of_all(index: PlanIndex, lists: Iterable[RouteList]) -> dict[str, tuple[str, ...]]:
    """List key to its route keys: the hand's first, then what the rule gathers. One pass for each rule in use."""
    found: dict[str, tuple[str, ...]] = {}
    for item in lists:
        if item.by == "hand":
            found[item.key] = item.members
            continue
        by_rule = _gathered(index, item)
        if not item.members:
            found[item.key] = by_rule
            continue
        held = frozenset(item.members)
        found[item.key] = (*item.members, *(key for key in by_rule if key not in held))
    return found


def _gathered(index: PlanIndex, item: RouteList) -> tuple[str, ...]:
    """What a list's rule gathers."""
    if item.by == "trip":
        return index.memo(("trip", item.of), lambda: trip_members(index, item.of))
    if item.by == "home":
        return index.memo("home", lambda: home_members(index))
    return rule_members(index, item.by).get(item.of, ())


def zones_in_force(index: PlanIndex) -> tuple[Zone, ...]:
    """The plan's zones; without any, one for each access point that has routes."""
    return index.plan.zones or index.memo("zones by access", lambda: zones_by_rule(index, "access"))


def zones_by_rule(index: PlanIndex, by: GroupBy) -> tuple[Zone, ...]:
    """The zones that a rule makes from the routes of now; they keep gathering later ones."""
    if by == "trip":
        return tuple(Zone(f"trip-{trip.key}", trip.name, "trip", trip.key) for trip in index.plan.trips)
    if by == "home":
        return (Zone("home", "Home", "home"), *zones_by_rule(index, "trip"))
    groups = list(rule_members(index, by))
    keys = fresh_keys(f"{by}-{group}" if group else by for group in groups)
    return tuple(Zone(key, _group_name(index, by, group), by, group) for key, group in zip(keys, groups, strict=True))


def _group_name(index: PlanIndex, by: GroupBy, group: str) -> str:
    if by == "access":
        return index.access[group].site
    if by == "mode":
        return of_mode(MODE_WORDS, group)
    return group or "Everything"


def make_zones(by: GroupBy) -> Edit:
    """Replace the rule-made zones by those of another rule; zones made by hand stay."""

    def apply(plan: Plan) -> Plan:
        made = zones_by_rule(PlanIndex(plan, NO_DAY), by)
        kept = tuple(zone for zone in plan.zones if zone.by == "hand")
        used = {zone.key for zone in kept}
        fresh = tuple(replace(zone, key=fresh_key(zone.key, used)) for zone in made)
        radios = tuple(
            replace(radio, zones=None, halves=()) if radio.zones is not None or radio.halves else radio
            for radio in plan.radios
        )
        return replace(plan, zones=(*fresh, *kept), radios=radios)

    return Edit(f"Make zones: {RULE_WORDS[by]}", apply)


def part_of(item: RouteList) -> Part[Any]:
    """Which part of the plan a list belongs to."""
    return ZONES if isinstance(item, Zone) else SCANS


def add_list(index: PlanIndex, kind: type[Zone] | type[ScanList], name: str, routes: Iterable[Route] = ()) -> Edit:
    """Add a zone or scan list by hand, with these routes."""
    part = ZONES if kind is Zone else SCANS
    key = fresh_key(name, (item.key for item in part.of(index.plan)))
    made = kind(key, name, members=tuple(route.key for route in routes))
    return add_item(part_of(made), made, f"Add the {part.word} {name}")


def remove_list(item: RouteList) -> Edit:
    """Remove a zone or scan list; its routes stay in the plan."""

    def apply(plan: Plan) -> Plan:
        part = part_of(item)
        plan = part.put(plan, without(part.of(plan), {item.key}))
        if part is SCANS:
            return plan
        return replace(plan, radios=tuple(_radio_without(radio, item.key) for radio in plan.radios))

    return Edit(f"Remove the {part_of(item).word} {item.name}", apply)


def _radio_without(radio: OwnedRadio, zone: str) -> OwnedRadio:
    if radio.zones and zone in radio.zones:
        radio = replace(radio, zones=tuple(key for key in radio.zones if key != zone))
    if zone in radio.halves:
        radio = replace(radio, halves=tuple("" if key == zone else key for key in radio.halves))
    return radio


def change_list(item: RouteList, sentence: str, **fields: Any) -> Edit:
    """Change fields of one zone or scan list."""
    return set_fields(part_of(item), item.key, sentence, **fields)


def rename_list(item: RouteList, name: str) -> Edit:
    """Give a zone or scan list another name. Raises EditRefused for an empty one."""
    if not name.strip():
        raise EditRefused(f"A {part_of(item).word} needs a name. Type what the radio's display should say.")
    return change_list(item, f"Rename the {part_of(item).word} {item.name} to {name}", name=name)


def toggle_member(index: PlanIndex, item: RouteList, route: Route) -> Edit:
    """Put a route into a list by hand, or take it out. Refused where a rule put it in."""
    current = members_of_all(index, (item,))[item.key]
    label = index.labels.of(route)
    if route.key not in current:
        return change_list(item, f"Add {label} to {item.name}", members=(*item.members, route.key))
    if item.by != "hand":
        raise EditRefused(
            f"{item.name} gathers its routes by rule. Remove the route, or make a {part_of(item).word} by hand."
        )
    kept = tuple(key for key in item.members if key != route.key)
    return change_list(item, f"Take {label} out of {item.name}", members=kept)


def move_member(index: PlanIndex, item: RouteList, key: str, by: int) -> Edit:
    """Move a route up (by < 0) or down within a list; from then on the hand orders it."""
    order = members_of_all(index, (item,))[item.key]
    return place_member(index, item, key, order.index(key) + by)


def place_member(index: PlanIndex, item: RouteList, key: str, to: int) -> Edit:
    """Put a route at a place (from 0) of a list; what stands before it is ordered by hand from then on."""
    order = list(members_of_all(index, (item,))[item.key])
    order.remove(key)
    order.insert(min(max(to, 0), len(order)), key)
    return change_list(item, f"Move {index.labels.of(index.routes[key])} in {item.name}", members=tuple(order))


def drop_hand_order(item: RouteList) -> Edit:
    """Go back to the order of the rule alone. Raises EditRefused for a list that has no rule."""
    if item.by == "hand":
        raise EditRefused(f"{item.name} is made by hand; without its order nothing would be left in it.")
    return change_list(item, f"Order {item.name} by its rule", members=())


def set_radio_zones(index: PlanIndex, radio: OwnedRadio, zone: Zone, *, on: bool) -> Edit:
    """Put a zone on a radio, or leave it off; the plan's zones in their order."""
    every = tuple(item.key for item in index.plan.zones)
    now = set(every if radio.zones is None else radio.zones)
    wanted = now | {zone.key} if on else now - {zone.key}
    zones = None if wanted == set(every) else tuple(key for key in every if key in wanted)
    halves = tuple("" if key == zone.key and not on else key for key in radio.halves)
    sentence = f"{'Put' if on else 'Leave'} {zone.name} {'on' if on else 'off'} {radio.name}"
    return set_fields(RADIOS, radio.key, sentence, zones=zones, halves=halves)


def set_half(radio: OwnedRadio, half: int, zone: Zone | None) -> Edit:
    """Let a half of the display (0 is A) begin with a zone; None leaves it as the radio has it."""
    halves = [*radio.halves, "", ""][: max(2, half + 1)]
    halves[half] = zone.key if zone is not None else ""
    kept = tuple(halves) if any(halves) else ()
    words = f"Show {zone.name} on half {'AB'[half]}" if zone is not None else f"Leave half {'AB'[half]} as it is"
    return set_fields(RADIOS, radio.key, f"{words} of {radio.name}", halves=kept)


def set_scan(scan: ScanList, *, priority: str | None = None, hang_s: float | None = None) -> Edit:
    """Set a scan list's priority route (empty for none) or the seconds it stays after a call. Raises EditRefused."""
    if hang_s is not None and not 0 <= hang_s <= LONGEST_HANG_S:
        raise EditRefused(f"{hang_s:g} s is not a time to wait: 0 to {LONGEST_HANG_S:g} seconds.")
    if priority is not None:
        words = f"Give {scan.name} a priority channel" if priority else f"No priority channel in {scan.name}"
        return change_list(scan, words, priority=priority)
    return change_list(scan, f"Let {scan.name} wait {hang_s:g} s", hang_s=hang_s)
