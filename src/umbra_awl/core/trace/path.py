"""All that one key-up passes, and the reasons that can stop it."""

from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, Hotspot, Network, OwnedRadio, Route, Service
from umbra_awl.core.radio.memory import Channel, Contact
from umbra_awl.core.trace.model import Hop, HopKind

NOTHING_BACK = "You key up and nothing comes back: no courtesy tone, no display."


class Path(NamedTuple):
    """A route on one radio, with everything around it."""

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


class TraceStop(NamedTuple):
    """Why a hop does not let a key-up through: short, in full, what the operator notices, which rules' repairs help."""

    text: str
    detail: str
    notice: str = ""
    mends: tuple[str, ...] = ()

    def hop(self, kind: HopKind, title: str) -> Hop:
        """The stopped hop."""
        return Hop(kind, title, "stop", self.text, self.detail, self.notice, self.mends)


def hotspot_of(index: PlanIndex, access: AccessPoint) -> Hotspot | None:
    """The settings of the hotspot that an access point is, if it is one."""
    return next((item for item in index.plan.hotspots if item.access == access.key), None)


def listens(index: PlanIndex, access: AccessPoint, service: Service) -> tuple[int, int]:
    """Where the access point listens (hertz) and with which color code; a hotspot's own settings decide."""
    hotspot = _serving(index, access, service)
    return (service.tx_hz if hotspot is None else hotspot.receive_hz), _color(service, hotspot)


def sends(index: PlanIndex, access: AccessPoint, service: Service) -> tuple[int, int]:
    """Where the access point sends (hertz) and with which color code; a hotspot's own settings decide."""
    hotspot = _serving(index, access, service)
    return (service.rx_hz if hotspot is None else hotspot.transmit_hz), _color(service, hotspot)


def _serving(index: PlanIndex, access: AccessPoint, service: Service) -> Hotspot | None:
    """The hotspot's settings where they decide: none has FM."""
    return hotspot_of(index, access) if service.mode != "fm" else None


def _color(service: Service, hotspot: Hotspot | None) -> int:
    """The color code that is waited for, 0 where the mode has none."""
    mode = mode_of(service)
    return mode.color(service.air) if hotspot is None or not mode.color_coded else hotspot.color_code


def encryption_stop(path: Path) -> TraceStop | None:
    """The stop of a radio that would encrypt."""
    if not path.channel.encrypted:
        return None
    detail = "Nobody understands it, and amateur stations do not encrypt."
    return TraceStop("encryption is on", detail, "Others hear garble.", ("encryption-on",))


def _deaf_stop(path: Path) -> TraceStop | None:
    """The stop of a radio that listens beside where the access point sends."""
    sent_hz, _color = sends(path.plan, path.access, path.service)
    if path.channel.rx_hz == sent_hz:
        return None
    off = abs(path.channel.rx_hz - sent_hz)
    notice = "You may be heard, and hear nothing back."
    return TraceStop(
        f"answers on {format_mhz(sent_hz)}",
        f"The radio listens {off / 1e6:g} MHz beside it.",
        notice,
        ("hotspot-differs",),
    )


def _duplex_stop(path: Path) -> TraceStop | None:
    """The stop of a hotspot that is set to duplex with one frequency, or to simplex with two."""
    hotspot = _serving(path.plan, path.access, path.service)
    if hotspot is None or not hotspot.deaf:
        return None
    said, there = ("duplex", "one frequency") if hotspot.duplex else ("simplex", "two frequencies")
    return TraceStop(f"is set to {said}", f"It has {there}, and stays deaf.", NOTHING_BACK, ("hotspot-duplex",))


def frequency_stop(path: Path, heard_hz: int) -> TraceStop | None:
    """The stop of a radio that sends beside where it is listened for, or listens beside where it is answered.

    On simplex one is listened for where one listens: whoever is there hears and sends on the same frequency.
    """
    if path.access.kind == "simplex" and path.channel.tx_hz != path.channel.rx_hz:
        return TraceStop(
            f"others listen on {format_mhz(path.channel.rx_hz)}",
            f"The radio sends {abs(path.channel.tx_hz - path.channel.rx_hz) / 1e6:g} MHz beside it: a shift is left on.",
            "The transmit light comes on and nobody answers.",
            ("offset-on-simplex",),
        )
    if path.channel.tx_hz == heard_hz:
        return _deaf_stop(path) or _duplex_stop(path)
    off = abs(path.channel.tx_hz - heard_hz)
    return TraceStop(
        f"listens on {format_mhz(heard_hz)}",
        f"The radio sends {off / 1e6:g} MHz beside it.",
        "The transmit light comes on and nothing answers.",
        ("hotspot-differs", "offset-short", "offset-on-simplex"),
    )
