"""The hops of System Fusion: way and DG-ID the radio sends, what the access point takes, the room behind it."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.fusion import DIGITAL, WAY_WORDS, room_fault, shown_dgid
from umbra_awl.core.modes.fusion import mapped_dgid, takes_dgid, wanted_dgid
from umbra_awl.core.plan.model import FusionAir
from umbra_awl.core.trace.model import Hop
from umbra_awl.core.trace.path import Path, TraceStop, frequency_stop, listens


def radio_hop(path: Path, _air: FusionAir) -> Hop:
    """What the radio sends."""
    channel = path.channel
    text = f"{format_mhz(channel.tx_hz)} {channel.way}, DG-ID {shown_dgid(channel.dgid_tx)}"
    return Hop("radio", "Radio", "pass", text, f"Sends {WAY_WORDS.get(channel.way, channel.way)}.")


def access_hop(path: Path, air: FusionAir) -> Hop:
    """What the access point takes."""
    heard_hz, _color = listens(path.plan, path.access, path.service)
    stop = frequency_stop(path, heard_hz) or _way_stop(path, air) or _dgid_stop(path, air)
    if stop:
        return stop.hop("access", path.where)
    text = f"{format_mhz(heard_hz)} in, DG-ID {shown_dgid(path.channel.dgid_tx)}"
    return Hop("access", path.where, "pass", text, f"{path.access.site} hears you.")


def _way_stop(path: Path, air: FusionAir) -> TraceStop | None:
    way = path.channel.way
    digital = way in DIGITAL and way in air.ways
    if digital or way == "AMS" or (way == "FM" and air.auto_mode):
        return None
    takes = " and ".join(air.ways) + (" and FM" if air.auto_mode else "")
    notice = "Your transmission is not repeated; FM sounds open on a digital repeater only to yourself."
    return TraceStop(f"takes {takes} only", f"The channel sends {way}.", notice, ("way-differs", "unknown-way"))


def _dgid_stop(path: Path, air: FusionAir) -> TraceStop | None:
    sent, wanted = path.channel.dgid_tx, wanted_dgid(air, path.destination)
    if takes_dgid(air, path.destination, sent):
        return None
    detail = f"The channel sends DG-ID {shown_dgid(sent)}; it stays closed, or leads elsewhere."
    return TraceStop(
        f"wants DG-ID {shown_dgid(wanted)}",
        detail,
        "Nothing answers, or another room does.",
        ("dg-id-differs", "unknown-dg-id"),
    )


def room_hop(path: Path, air: FusionAir) -> Hop | None:
    """The room that the call comes to."""
    network, destination = path.network, path.destination
    if destination.kind == "local":
        return (
            Hop("network", network.name, "pass", "stays local", "Or in the room that is connected.")
            if network
            else None
        )
    title = network.name if network else "Network"
    if mapped_dgid(air, destination) is not None:
        text = f"DG-ID {shown_dgid(path.channel.dgid_tx)} leads to {destination.name}"
        return Hop("network", title, "pass", text, f"{path.where} maps it.")
    fault = room_fault(destination.number) if destination.kind == "room" and air.node else ""
    if fault:
        return TraceStop("no room's number", fault, "Nothing is connected.", ("room-number",)).hop("network", title)
    if destination.kind == "room" and air.node:
        text = f"room {destination.number or '?'}, once connected"
        return Hop("network", title, "pass", text, f"Connect to {destination.number or 'it'} first, then talk here.")
    stop = TraceStop(
        "nothing leads there", f"{path.where} maps no DG-ID to it.", "Nobody answers.", ("no-such-crossing",)
    )
    return stop.hop("network", title)


HOPS = (radio_hop, access_hop, room_hop)
