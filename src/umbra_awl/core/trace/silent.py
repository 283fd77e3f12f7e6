"""“Why do I hear nothing?”: a call that somebody makes, and what keeps one channel of one radio from opening for it."""

from collections.abc import Callable, Iterator, Mapping
from itertools import chain, islice
from typing import NamedTuple

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.opening import Condition, OnAir, first_shut
from umbra_awl.core.modes.table import conditions, mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Route, Service
from umbra_awl.core.plan.places import LINKS
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.trace.path import sends


class SilentAnswer(NamedTuple):
    """Every condition between a call and the speaker; `shut` is the first that keeps it shut, None when it opens.

    `instead` is another channel of the same radio that opens for the call, empty when there is none.
    """

    call: str
    channel: str
    conditions: tuple[Condition, ...]
    instead: str = ""

    @property
    def shut(self) -> Condition | None:
        """The first condition that does not hold."""
        return first_shut(self.conditions)


def on_air(index: PlanIndex, service_key: str, destination_key: str, slot: int) -> OnAir:
    """The call as the access point sends it on when somebody calls a destination through it. Raises KeyError."""
    access, service = index.services[service_key]
    destination = index.destinations[destination_key]
    hz, color = sends(index, access, service)
    return mode_of(service).on_air(index, service, destination, OnAir(hz, service.mode, color, slot))


MOST_CALLS = 300


def calls_to_ask(index: PlanIndex, route: Route) -> tuple[tuple[str, str, int], ...]:
    """Calls that somebody might make while one listens on a route: (service, destination, slot), the nearest first.

    First the route's own, then what else its service carries, punched or not, then the routes of other services; at most 300.
    """
    access, service = index.services[route.service]
    here: list[tuple[str, str, int]] = [(route.service, route.destination, route.slot)]
    for destination in index.plan.destinations:
        verdict = crossing(index, access, service, destination)
        here.extend((service.key, destination.key, slot) for slot in verdict.slots if verdict.possible)
    others = ((item.service, item.destination, item.slot) for item in index.plan.routes if item.service != service.key)
    return tuple(islice(dict.fromkeys(chain(here, others)), MOST_CALLS))


def why_silent(
    index: PlanIndex, fits: Mapping[str, Fit], radio: str, route: str, call: tuple[str, str, int]
) -> SilentAnswer:
    """What keeps a radio's channel (by its route) shut for a call: service, destination and slot that somebody uses.

    Raises KeyError for a radio, route, service or destination not in the plan.
    """
    service_key, destination_key, slot = call
    access, service = index.services[service_key]
    destination = index.destinations[destination_key]
    said = f"{destination.name} on {access.by_call}" + (f", slot {slot}" if slot else "")
    fit = fits[radio]
    channel = fit.channel_of(route)
    air = on_air(index, service_key, destination_key, slot)
    if air.kind == "private" and destination.kind in {"echo", "disconnect"}:
        air = air._replace(number=fit.memory.dmr_id or -1)  # what comes back is for whoever asked: this radio
    opens = (item.name for item in fit.memory.channels if first_shut(conditions(fit.memory, item, air)) is None)
    if channel is None:
        line = fit.report.why_away(route)
        text = f"{index.radios[radio].name} has no channel for {index.labels.of(index.routes[route])}. {line}".strip()
        return SilentAnswer(said, "", (Condition("no", text),), next(opens, ""))
    found = list(conditions(fit.memory, channel, air))
    instead = next(opens, "") if first_shut(tuple(found)) is not None else ""
    found.extend(_sent_on(index, access, service, destination, slot))
    return SilentAnswer(said, channel.name, tuple(found), instead)


def _sent_on(
    index: PlanIndex, access: AccessPoint, service: Service, destination: Destination, slot: int
) -> Iterator[Condition]:
    """Whether the access point sends the call on at all: what it always carries, what has to be joined or linked first."""
    asked = _RELAYS.get((service.mode, destination.kind))
    if asked is not None:
        yield from asked(index, access, service, destination, slot)
    elif destination.kind in {"echo", "info", "disconnect"}:
        yield Condition("perhaps", "The answer comes to whoever asked; others may hear it on the same access point.")


def _group_relayed(
    _index: PlanIndex, access: AccessPoint, service: Service, destination: Destination, slot: int
) -> Iterator[Condition]:
    where = access.by_call
    static = [item.slot for item in getattr(service.air, "static", ()) if item.destination == destination.key]
    if slot in static:
        yield Condition("yes", f"{where} always carries {destination.name} on slot {slot}.")
    elif static:
        yield Condition("no", f"{where} always carries it on slot {static[0]}, not {slot}.", ("static-on-other-slot",))
    else:
        yield Condition("perhaps", f"{where} sends it on only after somebody there has keyed up on it.")


def _link_relayed(
    index: PlanIndex, access: AccessPoint, service: Service, destination: Destination, _slot: int
) -> Iterator[Condition]:
    link = index.routes.get(f"{service.key}>{destination.key}@{LINKS}")
    how = "by your link memory, or by somebody there" if link is not None else "by somebody there"
    yield Condition("perhaps", f"{access.by_call} sends it on only while it is linked, {how}.")


def _room_relayed(
    _index: PlanIndex, access: AccessPoint, service: Service, destination: Destination, _slot: int
) -> Iterator[Condition]:
    if not any(item.destination == destination.key for item in getattr(service.air, "mapped", ())):
        yield Condition("perhaps", f"{access.by_call} sends it on only while it is connected to that room.")


_Relayed = Callable[[PlanIndex, AccessPoint, Service, Destination, int], Iterator[Condition]]
_RELAYS: dict[tuple[str, str], _Relayed] = {
    ("dmr", "group"): _group_relayed,
    ("dstar", "reflector"): _link_relayed,
    ("dstar", "direct"): _link_relayed,
    ("fusion", "room"): _room_relayed,
}
"""What decides whether a call is sent on, by mode and kind of destination."""
