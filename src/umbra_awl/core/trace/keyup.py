"""A key-up followed hop by hop: you, guard, radio, access point, network, far side (FM and DMR)."""

from collections.abc import Mapping
from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.fit.memory import Channel, Contact
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    FmAir,
    Hotspot,
    Network,
    OwnedRadio,
    Route,
    Service,
)
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.trace.listeners import listeners_of
from umbra_awl.core.trace.model import Hop, HopState, Trace


class Path(NamedTuple):
    """All that a key-up passes."""

    plan: PlanIndex
    radio: OwnedRadio
    fit: Fit
    channel: Channel
    route: Route
    access: AccessPoint
    service: Service
    destination: Destination
    network: Network | None

    @property
    def contact(self) -> Contact | None:
        """The contact that the channel calls."""
        return self.fit.memory.contacts[self.channel.contact - 1] if self.channel.contact else None

    @property
    def where(self) -> str:
        """The access point as people say it."""
        return self.access.call or self.access.site


class _Stop(NamedTuple):
    text: str
    detail: str


def trace(index: PlanIndex, fits: Mapping[str, Fit], radio_key: str, route_key: str) -> Trace:
    """Follow a key-up of one radio on the channel of one route. Raises KeyError for a radio or route not in the plan."""
    radio, route = index.radios[radio_key], index.routes[route_key]
    access, service, destination = index.parts(route)
    fit = fits[radio_key]
    channel = fit.channel_of(route_key)
    if channel is None:
        return _left_out(index, fit, radio, route)
    path = Path(index, radio, fit, channel, route, access, service, destination, index.network_of(service))
    hops = [_you(path)]
    for hop in (_guard, _radio, _access, _network):
        made = hop(path)
        if made is None:
            continue
        hops.append(made if all(item.state == "pass" for item in hops) else made._replace(state="dark"))
    listeners = listeners_of(index, fits, path.radio, path.channel, path.route)
    reached = all(item.state == "pass" for item in hops)
    hearing = [item.who for item in listeners if item.hears]
    text = ", ".join(hearing) if hearing else "nobody in this plan"
    state: HopState = "dark" if not reached else "pass" if hearing else "stop"
    hops.append(
        Hop("far", "Far side", state, text, "Listen first, key, wait a second for the path to open, then speak.")
    )
    return Trace(route_key, radio_key, tuple(hops), listeners if reached else ())


def _left_out(index: PlanIndex, fit: Fit, radio: OwnedRadio, route: Route) -> Trace:
    reason = next((line.reason for line in fit.report.lines if line.key == route.key and line.kind == "left out"), "")
    access, service, destination = index.parts(route)
    network = index.network_of(service)
    hops = [
        Hop("you", "You", "stop", f"not on {radio.name}", reason),
        Hop("access", access.call or access.site, "dark", access.site),
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
    permit = transmit_permit(path.plan.station_of(path.radio), path.channel.tx_hz)
    if not permit.allowed:
        words = {"guard": "receive-only", "band": "out of band", "licence": "outside the licence"}
        short = (
            f"{format_mhz(path.channel.tx_hz)} is {words[permit.kind]}" if permit.kind != "guard" else "receive-only"
        )
        return Hop("guard", "Guard", "stop", short, permit.reason)
    if path.channel.receive_only:
        held = next((item for item in path.fit.report.of_kind("receive-only") if item.key == path.route.key), None)
        return Hop("guard", "Guard", "stop", "receive-only channel", held.reason if held else "")
    return Hop(
        "guard", "Guard", "pass", "may transmit", f"{format_mhz(path.channel.tx_hz)} MHz is in band and licence."
    )


def _radio(path: Path) -> Hop:
    channel = path.channel
    sends = f"{format_mhz(channel.tx_hz)}"
    if channel.encrypted:
        return Hop(
            "radio", "Radio", "stop", "encryption is on", "Nobody understands it, and amateur stations do not encrypt."
        )
    if channel.mode == "fm":
        tone = f", tone {channel.tone_tx}" if channel.tone_tx else ""
        return Hop("radio", "Radio", "pass", f"{sends} FM{tone}")
    if path.contact is None:
        return Hop("radio", "Radio", "stop", "no contact to call", "A DMR channel needs the number it calls.")
    kind = "private call " if path.contact.kind == "private" else "talk group "
    return Hop(
        "radio",
        "Radio",
        "pass",
        f"{sends}, cc {channel.color_code}, slot {channel.slot}",
        f"Calls {kind}{path.contact.call}.",
    )


def _access(path: Path) -> Hop:
    heard_hz, color = _listens(path)
    stop = _frequency_stop(path, heard_hz) or _opening_stop(path, color)
    if stop:
        return Hop("access", path.where, "stop", stop.text, stop.detail)
    text = f"{format_mhz(heard_hz)} in"
    if isinstance(path.service.air, DmrAir):
        text += f", cc {color}, slot {path.channel.slot}"
    return Hop("access", path.where, "pass", text, f"{path.access.site} hears you.")


def _listens(path: Path) -> tuple[int, int]:
    """Where the access point listens (hertz) and with which color code; a hotspot's own settings decide."""
    hotspot: Hotspot | None = next((item for item in path.plan.plan.hotspots if item.access == path.access.key), None)
    if hotspot is not None and path.service.mode == "dmr":
        return hotspot.receive_hz, hotspot.color_code
    color = path.service.air.color_code if isinstance(path.service.air, DmrAir) else 0
    return path.service.tx_hz, color


def _frequency_stop(path: Path, heard_hz: int) -> _Stop | None:
    if path.channel.tx_hz == heard_hz:
        return None
    off = abs(path.channel.tx_hz - heard_hz)
    return _Stop(f"listens on {format_mhz(heard_hz)}", f"The radio sends {off / 1e6:g} MHz beside it.")


def _opening_stop(path: Path, color: int) -> _Stop | None:
    air, channel = path.service.air, path.channel
    if isinstance(air, FmAir):
        if air.tone_tx and channel.tone_tx != air.tone_tx:
            return _Stop(
                f"wants tone {air.tone_tx}",
                f"The channel sends {channel.tone_tx or 'none'}; the repeater stays closed.",
            )
        return None
    if channel.color_code != color:
        return _Stop(
            f"has color code {color}", f"The channel has {channel.color_code}; the access point does not hear it."
        )
    if isinstance(air, DmrAir) and channel.slot not in air.slots:
        return _Stop(f"does not use slot {channel.slot}", "Nobody listens on that slot.")
    return None


def _network(path: Path) -> Hop | None:
    if path.service.mode == "fm":
        return None
    network = path.network
    if network is None:
        local = path.destination.kind == "local"
        return Hop(
            "network", "Network", "pass" if local else "stop", "stays local" if local else "no network behind it"
        )
    contact = path.contact
    text, detail, carried = _carried(path, network, contact)
    return Hop("network", network.name, "pass" if carried else "stop", text, detail)


def _carried(path: Path, network: Network, contact: Contact | None) -> tuple[str, str, bool]:
    kind = path.destination.kind
    if contact is None:
        return "no number", "", False
    if kind == "echo" or (network.echo and contact.call == network.echo.number):
        right = network.echo is None or network.echo.kind == contact.kind
        how = network.echo.kind if network.echo else contact.kind
        return f"{contact.call} echo", f"Answers to a {how} call.", right
    if kind == "disconnect":
        right = network.disconnect is None or (network.disconnect.number, network.disconnect.kind) == (
            contact.call,
            contact.kind,
        )
        return f"{contact.call} disconnect", "Drops what was joined on demand or dialled.", right
    if kind == "dial":
        return (
            f"dialled through {contact.call}",
            f"Dial {network.dial_low} to {network.dial_high} first; then talk here.",
            True,
        )
    if kind == "local" or contact.call == network.local_group:
        return (
            f"{contact.call} local",
            "Stays on this access point, or goes to a dialled reflector while one is linked.",
            True,
        )
    return _group_carried(path, network, contact)


def _group_carried(path: Path, network: Network, contact: Contact) -> tuple[str, str, bool]:
    air = path.service.air
    static = isinstance(air, DmrAir) and any(
        (item.slot, item.destination) == (path.channel.slot, path.destination.key) for item in air.static
    )
    if static:
        return f"{contact.call} static", "This access point always carries it on this slot.", True
    quiet = f" and leaves after {network.quiet_minutes} minutes of quiet" if network.quiet_minutes else ""
    return f"{contact.call} on demand", f"Your key-up joins it{quiet}.", True
