"""“Why do I hear nothing?”: a call that somebody makes, and what keeps one channel of one radio from opening for it."""

from collections.abc import Iterator, Mapping
from itertools import chain, islice
from typing import NamedTuple

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, FmAir, FusionAir, Route, Service
from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.routes.calls import call_through
from umbra_awl.core.routes.crossing import crossing, mapped_dgid
from umbra_awl.core.trace.opening import Condition, OnAir, conditions, first_shut
from umbra_awl.core.trace.path import sends


class Silence(NamedTuple):
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
    air = service.air
    if isinstance(air, FmAir):
        return OnAir(hz, "fm", tone=air.tone_rx)
    if isinstance(air, DmrAir):
        call = call_through(index, service, destination)
        number, kind = (call.number, call.kind) if call is not None else (0, "group")
        return OnAir(hz, "dmr", color, slot or next(iter(air.slots), 0), number, kind)
    if isinstance(air, FusionAir):
        return OnAir(hz, "fusion", dgid=mapped_dgid(air, destination) or air.dgid_tx)
    return OnAir(hz, "dstar")


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
) -> Silence:
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
    opens = (item.name for item in fit.memory.channels if first_shut(conditions(fit.memory, item, air)) is None)
    if channel is None:
        line = fit.report.why_away(route)
        text = f"{index.radios[radio].name} has no channel for {index.label(index.routes[route])}. {line}".strip()
        return Silence(said, "", (Condition("no", text),), next(opens, ""))
    found = list(conditions(fit.memory, channel, air))
    instead = next(opens, "") if first_shut(tuple(found)) is not None else ""
    found.extend(_sent_on(index, access, service, destination, slot))
    return Silence(said, channel.name, tuple(found), instead)


def _sent_on(
    index: PlanIndex, access: AccessPoint, service: Service, destination: Destination, slot: int
) -> Iterator[Condition]:
    """Whether the access point sends the call on at all: what it always carries, what has to be joined or linked first."""
    where, air = access.by_call, service.air
    if isinstance(air, DmrAir) and destination.kind == "group":
        static = [item.slot for item in air.static if item.destination == destination.key]
        if slot in static:
            yield Condition("yes", f"{where} always carries {destination.name} on slot {slot}.")
        elif static:
            yield Condition(
                "no", f"{where} always carries it on slot {static[0]}, not {slot}.", ("static-on-other-slot",)
            )
        else:
            yield Condition("perhaps", f"{where} sends it on only after somebody there has keyed up on it.")
    elif is_pair(service, destination):
        link = index.routes.get(f"{service.key}>{destination.key}@{LINKS}")
        how = "by your link memory, or by somebody there" if link is not None else "by somebody there"
        yield Condition("perhaps", f"{where} sends it on only while it is linked, {how}.")
    elif destination.kind == "room" and isinstance(air, FusionAir) and mapped_dgid(air, destination) is None:
        yield Condition("perhaps", f"{where} sends it on only while it is connected to that room.")
    elif destination.kind in {"echo", "info", "disconnect"}:
        yield Condition("perhaps", "The answer comes to whoever asked; others may hear it on the same access point.")
