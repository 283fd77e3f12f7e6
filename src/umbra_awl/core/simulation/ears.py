"""What a radio's channels open for, worked out once: conditions of its modes, for every call that may be on the air.

The verdict is the modes' own (`core/modes`), as the trace and “why do I hear nothing?” ask it.
"""

from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.opening import OnAir, first_shut
from umbra_awl.core.modes.table import conditions
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.trace.silent import on_air

Heard = tuple[str, int, str]
"""A service, a slot of it, and the group that is called there."""


class Listening(NamedTuple):
    """A channel of a radio: where its route leads, what opens it, and why what is near it does not.

    `noise` are services whose digital calls it hears as noise, `near` the slots of its own access point's service.
    """

    channel: Channel
    route: str
    service: str
    slot: int
    group: str
    opens: frozenset[Heard]
    shut: Mapping[Heard, str]
    noise: frozenset[str]


def group_of(destination: Destination, service: str) -> str:
    """What names a call's group: the destination, and the service too where it stays on it."""
    return f"{destination.key} {service}" if destination.kind == "local" else destination.key


def destination_of(group: str) -> str:
    """The key of the destination in a group's name."""
    return group.partition(" ")[0]


def slot_on(index: PlanIndex, service: str, slot: int) -> int:
    """The slot of a route as the air has it: the places of a D-STAR pair are one channel."""
    return slot if index.services[service][1].mode == "dmr" else 0


def listening(index: PlanIndex, fit: Fit, calls: Iterable[Heard]) -> tuple[Listening, ...]:
    """Every channel of a fitted radio with what it opens for among some calls."""
    heard = [(call, _as_air(index, call)) for call in calls]
    return tuple(_listening(index, fit, channel, heard) for channel in fit.memory.channels)


def _as_air(index: PlanIndex, call: Heard) -> OnAir:
    service, slot, group = call
    return on_air(index, service, destination_of(group), slot)


def _listening(index: PlanIndex, fit: Fit, channel: Channel, heard: list[tuple[Heard, OnAir]]) -> Listening:
    opens: set[Heard] = set()
    shut: dict[Heard, str] = {}
    noise: set[str] = set()
    for call, air in heard:
        if air.hz != channel.rx_hz:
            continue
        if channel.mode == "fm" and air.mode != "fm":
            noise.add(call[0])
        fault = first_shut(conditions(fit.memory, channel, air))
        if fault is None:
            opens.add(call)
        else:
            shut[call] = fault.text
    route = index.routes.get(channel.route)
    service = route.service if route is not None else ""
    slot = slot_on(index, service, route.slot) if route is not None else channel.slot
    group = group_of(index.destinations[route.destination], service) if route is not None else ""
    return Listening(channel, channel.route, service, slot, group, frozenset(opens), shut, frozenset(noise))


def calls_of(index: PlanIndex, routes: Iterable[str]) -> Iterator[Heard]:
    """The calls that come to routes, each once."""
    seen: set[Heard] = set()
    for key in routes:
        route = index.routes[key]
        slot = slot_on(index, route.service, route.slot)
        call = (route.service, slot, group_of(index.destinations[route.destination], route.service))
        if call not in seen:
            seen.add(call)
            yield call
