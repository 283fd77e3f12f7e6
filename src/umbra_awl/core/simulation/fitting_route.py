"""Which routes of a plan a scene can be played on, and which others go with them."""

from collections.abc import Callable, Iterator, Mapping
from types import MappingProxyType

import msgspec

from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.table import KIND_WORDS
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Mode, Route, Service
from umbra_awl.core.plan.places import LINKS, TALKS, is_pair
from umbra_awl.core.simulation.ears import slot_on
from umbra_awl.core.simulation.parameters import figures, pattern_of
from umbra_awl.core.simulation.posts import post_facts

_TALKED = frozenset({"group", "reflector", "room", "local"})


class SceneNeeds(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """What a route must be.

    Kinds of destination and of access point, a mode or any, one frequency or two (`half`), the group carried from the start
    (`joined`), another group there (`other`, on the same slot: `same_slot`), one on demand, the memory that talks, so many
    routes of the same service (`scan`), on both slots (`two_slots`), any digital mode (`digital`).
    """

    kinds: tuple[str, ...]
    access: tuple[str, ...]
    mode: Mode | None = None
    half: bool | None = None
    joined: bool = False
    other: bool = False
    same_slot: bool = False
    on_demand: bool = False
    talks: bool = False
    scan: int = 0
    two_slots: bool = False
    digital: bool = False

    @property
    def named(self) -> tuple[str, ...]:
        """The conditions that are set, by name."""
        return tuple(name for name in FITS if getattr(self, name))

    def words(self) -> str:
        """What is wanted, in words."""
        what = " or ".join(KIND_WORDS[kind] for kind in self.kinds)
        where = " or ".join(self.access)
        how = {True: ", one frequency", False: ", two frequencies", None: ""}[self.half]
        return f"a {what} through a {where}{how}{f', {MODE_WORDS[self.mode]}' if self.mode else ''}"


FITS: Mapping[str, str] = MappingProxyType(
    {
        "other": "A second talk group there as well.",
        "same_slot": "Both on one slot.",
        "on_demand": "One that is not always carried, on a network with a quiet time.",
        "talks": "The memory that talks of a pair.",
        "scan": "As many groups there as it scans.",
    }
)
"""What each further condition means."""


def routes_for(index: PlanIndex, fit: Fit | None, needs: SceneNeeds, *, spoiled: bool = False) -> Iterator[Route]:
    """Routes of a radio on which a scene can be played, those the radio may send on first."""
    if fit is None:
        return
    sends: dict[str, bool] = {channel.route: not channel.receive_only for channel in fit.memory.channels}
    fitting = [route for route in index.plan.routes if route.key in sends and _fits(index, fit, needs, route)]

    def rank(route: Route) -> tuple[bool, bool, bool]:
        wide = pattern_of(index.plan, index.destinations[route.destination]).kind == "wide"
        return (
            not sends[route.key],
            not spoiled and _has_own_values(route),
            needs.other and not needs.same_slot and not wide,
        )

    yield from sorted(fitting, key=rank)


def _has_own_values(route: Route) -> bool:
    """Whether a hand changed what the access point asks for: such a route may not pass."""
    fields = ("color_code", "tone_tx", "ur", "rpt1", "rpt2", "way", "dgid_tx")
    return any(getattr(route, name) is not None for name in fields)


def _fits(index: PlanIndex, fit: Fit, needs: SceneNeeds, route: Route) -> bool:
    access, service, destination = index.parts(route)
    if destination.kind not in needs.kinds or access.kind not in needs.access or needs.mode not in {None, service.mode}:
        return False
    tests: tuple[Callable[[], bool], ...] = (
        lambda: needs.half is None or _half(index, access, service) == needs.half,
        lambda: not needs.digital or service.mode != "fm",
        lambda: not needs.on_demand or _on_demand(index, service, destination),
        lambda: not needs.talks or (is_pair(service, destination) and route.slot == TALKS),
        lambda: not (needs.other or needs.scan) or bool(companions(index, fit, needs, route)),
    )
    return all(test() for test in tests)


def _half(index: PlanIndex, access: AccessPoint, service: Service) -> bool:
    return post_facts(index, access, service, figures(index.plan.evening)).half


def _on_demand(index: PlanIndex, service: Service, destination: Destination) -> bool:
    network = index.network_of(service)
    static = {item.destination for item in getattr(service.air, "static", ())}
    started = {item.startup for item in index.plan.hotspots}
    return bool(network and network.quiet_minutes) and destination.key not in static | started


def companions(index: PlanIndex, fit: Fit, needs: SceneNeeds, route: Route) -> tuple[Route, ...]:
    """The other routes of the same service that a scene plays with; none where there are too few."""
    if not (needs.other or needs.scan):
        return ()
    on_radio = {channel.route for channel in fit.memory.channels}
    here = [
        item
        for item in index.by_service.get(route.service, ())
        if item.key in on_radio and item.destination != route.destination and item.slot != LINKS - 1
        if index.destinations[item.destination].kind in _TALKED - {"local"}
    ]
    slot = slot_on(index, route.service, route.slot)
    if needs.same_slot or needs.other:
        here = [item for item in here if item.slot == slot]
    if needs.two_slots:
        here = [item for item in here if item.slot != slot]
    wanted = needs.scan - 1 if needs.scan else 1
    return tuple(here[:wanted]) if len(here) >= wanted else ()
