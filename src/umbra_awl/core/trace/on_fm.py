"""The hops of FM: what the radio sends, and the tone that opens the access point."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import FmAir
from umbra_awl.core.trace.model import Hop
from umbra_awl.core.trace.path import NOTHING_BACK, Path, TraceStop, encryption_stop, frequency_stop, listens


def radio_hop(path: Path, _air: FmAir) -> Hop:
    """What the radio sends."""
    channel, stop = path.channel, encryption_stop(path)
    if stop:
        return stop.hop("radio", "Radio")
    tone = f", tone {channel.tone_tx}" if channel.tone_tx else ""
    return Hop("radio", "Radio", "pass", f"{format_mhz(channel.tx_hz)} FM{tone}")


def access_hop(path: Path, air: FmAir) -> Hop:
    """What opens the access point."""
    heard_hz, _color = listens(path.plan, path.access, path.service)
    stop = frequency_stop(path, heard_hz) or _tone_stop(path, air)
    if stop:
        return stop.hop("access", path.where)
    after = " once it has heard the burst of 1750 Hz" if air.burst else ""
    return Hop("access", path.where, "pass", f"{format_mhz(heard_hz)} in", f"{path.access.site} hears you{after}.")


def _tone_stop(path: Path, air: FmAir) -> TraceStop | None:
    sent = path.channel.tone_tx
    if not air.tone_tx or sent == air.tone_tx:
        return None
    detail = f"The channel sends {sent or 'none'}; the repeater stays closed."
    return TraceStop(f"wants tone {air.tone_tx}", detail, NOTHING_BACK, ("tone-differs", "unknown-tone"))


HOPS = (radio_hop, access_hop)
