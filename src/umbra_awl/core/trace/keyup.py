"""A key-up followed hop by hop: you, guard, radio, access point, gateway, network, far side."""

from collections.abc import Callable, Mapping
from itertools import chain
from typing import Any

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.calls import network_reached
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio, Route
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.plan.places import LINKS, is_pair
from umbra_awl.core.routes.crossing import crossing
from umbra_awl.core.routes.order import order_of_use
from umbra_awl.core.trace import on_dmr, on_dstar, on_fm, on_fusion
from umbra_awl.core.trace.listeners import listeners_of
from umbra_awl.core.trace.model import Hop, HopState, Trace
from umbra_awl.core.trace.path import Path

_GUARD_RULES = {
    "guard": ("guard-on", "radio-of-nobody"),
    "band": ("out-of-band", "would-be-out"),
    "edge": ("over-band-edge", "would-be-out"),
    "licence": ("out-of-licence",),
}
_GUARD_WORDS = {"band": "out of band", "edge": "over the band's edge", "licence": "outside the licence"}

_HOPS: ByMode[tuple[Callable[[Path, Any], Hop | None], ...]] = {
    "fm": on_fm.HOPS,
    "dmr": on_dmr.HOPS,
    "dstar": on_dstar.HOPS,
    "fusion": on_fusion.HOPS,
}
"""The hops between guard and far side, as each mode has them."""


def trace(index: PlanIndex, fits: Mapping[str, Fit], radio_key: str, route_key: str) -> Trace:
    """Follow a key-up of one radio on the channel of one route. Raises KeyError for a radio or route not in the plan."""
    radio, route = index.radios[radio_key], index.routes[route_key]
    access, service, destination = index.parts(route)
    fit = fits[radio_key]
    channel = fit.channel_of(route_key)
    if channel is None:
        return _left_out(index, fit, radio, route)
    network = network_reached(index, service, destination)
    path = Path(index, radio, fit, channel, route, access, service, destination, network)
    hops = [_you(path)]
    for made in chain([_guard(path)], (hop(path, service.air) for hop in _HOPS[service.mode])):
        if made is not None:
            hops.append(made if all(item.state == "pass" for item in hops) else made._replace(state="dark"))
    nowhere = _leads_nowhere(path)
    if nowhere is not None and all(item.state == "pass" for item in hops):
        hops.append(nowhere)
    listeners = listeners_of(index, fits, path.radio, path.channel, path.route)
    reached = all(item.state == "pass" for item in hops)
    hops.append(_far(reached, [item.who for item in listeners if item.hears]))
    return Trace(route_key, radio_key, tuple(hops), listeners if reached else (), _order(path))


def _order(path: Path) -> tuple[str, ...]:
    """The order of use on this radio: one that has no memory to link with says so in place of naming it."""
    steps = order_of_use(path.plan, path.route)
    links = f"{path.service.key}>{path.destination.key}@{LINKS}"
    if steps and is_pair(path.service, path.destination) and path.fit.channel_of(links) is None:
        missing = (
            f"{path.radio.name} has no memory that links {path.destination.name}: punch it, or link from its lists."
        )
        return (missing, *steps[1:])
    return steps


def _leads_nowhere(path: Path) -> Hop | None:
    """The stop of a service that does not carry the destination; None where it does."""
    verdict = crossing(path.plan, path.access, path.service, path.destination)
    if verdict.possible:
        return None
    title = path.network.name if path.network else "Network"
    return Hop("network", title, "stop", "leads nowhere", verdict.reason, "Nobody answers.", ("no-such-crossing",))


def _left_out(index: PlanIndex, fit: Fit, radio: OwnedRadio, route: Route) -> Trace:
    reason = fit.report.why_away(route.key)
    access, service, destination = index.parts(route)
    network = network_reached(index, service, destination)
    hops = [
        Hop("you", "You", "stop", f"not on {radio.name}", reason, "The channel is not there to choose."),
        Hop("access", access.by_call, "dark", access.site),
        Hop("far", "Far side", "dark", destination.name),
    ]
    if network is not None:
        hops.insert(2, Hop("network", network.name, "dark", destination.name))
    return Trace(route.key, radio.key, tuple(hops), ())


def _you(path: Path) -> Hop:
    zone = next((item for item in path.fit.memory.zones if path.channel.number in item.members), None)
    place = f", zone {zone.name}, knob {zone.members.index(path.channel.number) + 1}" if zone else ", in no zone"
    return Hop("you", "You", "pass", f"{path.radio.name}{place}", f"The display shows {path.channel.name}.")


def _guard(path: Path) -> Hop:
    sent = sent_by(path.service, path.route).at(path.channel.tx_hz)
    permit = transmit_permit(path.plan.owners.station_of(path.radio), sent)
    refuses = "The radio refuses to transmit and gives its error tone."
    if path.access.kind == "receive":
        return Hop("guard", "Guard", "stop", "receive-only channel", f"{path.where} is only listened to.", refuses)
    if not permit.allowed:
        where = f"{format_mhz(path.channel.tx_hz)} is"
        short = f"{where} {_GUARD_WORDS[permit.kind]}" if permit.kind != "guard" else "receive-only"
        return Hop("guard", "Guard", "stop", short, permit.reason, refuses, _GUARD_RULES[permit.kind])
    if path.channel.receive_only:
        held = next((item for item in path.fit.report.of_kind("receive-only") if item.key == path.route.key), None)
        return Hop("guard", "Guard", "stop", "receive-only channel", held.reason if held else "", refuses)
    return Hop(
        "guard", "Guard", "pass", "may transmit", f"{format_mhz(path.channel.tx_hz)} MHz is in band and licence."
    )


def _far(reached: bool, hearing: list[str]) -> Hop:
    text = ", ".join(hearing) if hearing else "nobody in this plan"
    state: HopState = "dark" if not reached else "pass" if hearing else "stop"
    detail = "Listen first, key, wait a second for the path to open, then speak."
    return Hop("far", "Far side", state, text, detail)
