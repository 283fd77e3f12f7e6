"""A world out of a plan: which access points, groups and listeners a radio and its routes bring with them."""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Service
from umbra_awl.core.plan.places import is_pair
from umbra_awl.core.simulation.ears import Heard, Listening, calls_of, group_of, listening, slot_on
from umbra_awl.core.simulation.network import Place
from umbra_awl.core.simulation.parameters import Pattern, figures, pattern_of
from umbra_awl.core.simulation.posts import PostFacts, post_facts
from umbra_awl.core.simulation.receiver import Stance, StanceKind
from umbra_awl.core.simulation.told import far_lane
from umbra_awl.core.simulation.world import Setting

CALLERS = ("Q7QBY", "Q3AMB", "Q5OST", "Q2SAB", "Q8LOW", "Q6HET", "Q1VAN", "Q9FAR")
"""Other people of the simulated world; no such call sign is given to anybody."""
_SILENT = frozenset({"echo", "disconnect", "info", "dial", "private", "station"})


class ListeningChoice(NamedTuple):
    """What of a radio is looked at: its routes (they bring access points and groups along), and how it listens.

    `scan` is a scan list's key, `hour` the local hour at the beginning; `sat_down`: one's own hotspots were keyed up before;
    `whole`: the access points of all its channels are there, for whoever turns the knob.
    """

    radio: str
    routes: tuple[str, ...]
    stance: StanceKind = "channel"
    scan: str = ""
    hour: float | None = None
    sat_down: bool = False
    whole: bool = False


class NoSetting(ValueError):
    """Nothing can be played with this choice; the message says why and what to do."""


def make_setting(index: PlanIndex, fits: Mapping[str, Fit], choice: ListeningChoice) -> Setting:
    """The world of one radio and some of its routes. Raises NoSetting."""
    fit = fits.get(choice.radio)
    if fit is None or not fit.memory.channels:
        raise NoSetting("This radio has no channel yet. Punch a hole at Routes, or choose another radio.")
    routes = tuple(key for key in choice.routes if fit.channel_of(key) is not None)
    if not routes:
        raise NoSetting("None of these routes is on this radio. Choose another radio, or look at Radios why.")
    known = figures(index.plan.evening)
    joined = _joined(index, routes) if choice.sat_down and known["joins_first"] else ()
    services = {index.routes[key].service for key in routes}
    reached = {index.routes[key].service for key in _on_radio(index, fit)} if choice.whole else set()
    posts = {key: post_facts(index, *index.services[key], known) for key in _with_neighbours(index, services | reached)}
    near = {key: posts[key] for key in _with_neighbours(index, services)}
    calls = tuple(dict.fromkeys((*calls_of(index, _on_radio(index, fit)), *_always(index, posts))))
    ears = listening(index, fit, calls)
    return Setting(
        index,
        fits,
        choice.radio,
        known,
        posts,
        ears,
        make_stance(index, fit, ears, routes, choice),
        (*_carried(index, posts, routes), *joined),
        dict(_patterns(index, near, routes)),
        dict(_far(index, routes)),
        CALLERS,
        known["from_hour"] if choice.hour is None else choice.hour,
    )


def _on_radio(index: PlanIndex, fit: Fit) -> list[str]:
    return [channel.route for channel in fit.memory.channels if channel.route in index.routes]


def _with_neighbours(index: PlanIndex, services: set[str]) -> Iterator[str]:
    """The services themselves, and the others of the same hotspots."""
    spots = {index.services[key][0].key for key in services if index.services[key][0].kind == "hotspot"}
    for key, (access, _service) in index.services.items():
        if key in services or access.key in spots:
            yield key


def _always(index: PlanIndex, posts: Iterable[str]) -> Iterator[Heard]:
    """What access points always carry, on the air there."""
    for key in posts:
        for item in getattr(index.services[key][1].air, "static", ()):
            if item.destination in index.destinations:
                yield (key, item.slot, group_of(index.destinations[item.destination], key))


def make_stance(
    index: PlanIndex, fit: Fit, ears: tuple[Listening, ...], routes: tuple[str, ...], choice: ListeningChoice
) -> Stance:
    """How the radio listens: its channels by their place in `ears`. Raises NoSetting for a scan list that is not on it."""
    place = {ear.route: at for at, ear in enumerate(ears) if ear.route}
    wanted = tuple(place[key] for key in routes if key in place)
    if choice.stance == "channel":
        return Stance("channel", wanted[:1])
    if choice.stance == "watch":
        return Stance("watch", wanted[:2])
    if not choice.scan:
        return Stance("scan", wanted)
    named = next((item for item in index.plan.scans if item.key == choice.scan), None)
    held = next(
        (item for item in fit.memory.scans if named is not None and item.name == _cut(item.name, named.name)), None
    )
    if named is None or held is None:
        raise NoSetting("That scan list is not on this radio. Choose another, or scan a zone.")
    by_number = {ear.channel.number: at for at, ear in enumerate(ears)}
    members = tuple(by_number[number] for number in held.members if number in by_number)
    return Stance("scan", members, by_number.get(held.priority, -1), (held.hang_ms or 3000) / 1000)


def _cut(held: str, named: str) -> str:
    """The held name where it may be the other one cut to a display."""
    return held if named.casefold().startswith(held.casefold()[:4]) else ""


def _carried(
    index: PlanIndex, posts: Mapping[str, PostFacts], routes: tuple[str, ...]
) -> Iterator[tuple[str, Place, str]]:
    for key in posts:
        access, service = index.services[key]
        for item in getattr(service.air, "static", ()):
            if item.destination in index.destinations and item.slot in posts[key].slots:
                yield item.destination, (key, item.slot), "always"
        hotspot = next((item for item in index.plan.hotspots if item.access == access.key), None)
        started = index.destinations.get(hotspot.startup) if hotspot is not None else None
        if started is not None and _reaches(service, started):
            own = (item.slot for item in index.by_crossing.get((key, started.key), ()) if item.slot in posts[key].slots)
            place = (key, next(own, posts[key].slots[-1]))
            yield started.key, place, "always" if service.mode == "dmr" else "link"
    yield from _linked(index, posts, routes)


def _joined(index: PlanIndex, routes: tuple[str, ...]) -> Iterator[tuple[str, Place, str]]:
    """The talk groups of one's own hotspots, which one has keyed up on when one sat down."""
    for key in routes:
        access, service, destination = index.parts(index.routes[key])
        if access.kind == "hotspot" and service.mode == "dmr" and destination.kind == "group":
            yield destination.key, (service.key, slot_on(index, service.key, index.routes[key].slot)), "joined"


def _reaches(service: Service, destination: Destination) -> bool:
    return destination.network in {"", getattr(service.air, "network", "")} and destination.kind in {
        "group",
        "reflector",
        "room",
    }


def _linked(
    index: PlanIndex, posts: Mapping[str, PostFacts], routes: tuple[str, ...]
) -> Iterator[tuple[str, Place, str]]:
    """Access points that are linked are taken to be linked to what the first route through them leads to."""
    done: set[str] = set()
    for key in routes:
        _access, service, destination = index.parts(index.routes[key])
        links = is_pair(service, destination) or destination.kind == "room"
        if links and service.key not in done and service.key in posts:
            done.add(service.key)
            yield destination.key, (service.key, 0), "link"


def _patterns(
    index: PlanIndex, posts: Mapping[str, PostFacts], routes: tuple[str, ...]
) -> Iterator[tuple[str, Pattern]]:
    """Who talks: the groups of the routes, what their access points always carry, and what is local there."""
    always = {item.destination for key in posts for item in getattr(index.services[key][1].air, "static", ())}
    groups: dict[str, Destination] = {
        key: index.destinations[key] for key in sorted(always) if key in index.destinations
    }
    for key in routes:
        _access, service, destination = index.parts(index.routes[key])
        if destination.kind not in _SILENT:
            groups[group_of(destination, service.key)] = destination
    for group, destination in groups.items():
        yield group, pattern_of(index.plan, destination, carried=destination.key in always)


def _far(index: PlanIndex, routes: tuple[str, ...]) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Lanes of far places: the destination itself where it is one place, else other access points and everybody on it."""
    for key in dict.fromkeys(index.routes[route].destination for route in routes):
        destination = index.destinations[key]
        if destination.kind in {"local", "echo", "disconnect", "info", "dial"}:
            continue
        wide = pattern_of(index.plan, destination).kind == "wide"
        zoned = [
            item.name for item in index.plan.destinations if item.time_zone and item.network == destination.network
        ]
        places = tuple(zoned[:2]) if wide and zoned and not destination.time_zone else (destination.name,)
        yield key, tuple(far_lane(place) for place in places)
