"""What the plan says of a hotspot, and what a radio holds for it, field by field."""

from collections.abc import Callable, Iterable

from umbra_awl.core.facts.dstar import rpt_field
from umbra_awl.core.hotspot.match.fields import Values
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FusionAir,
    Hotspot,
    Identity,
    Service,
)
from umbra_awl.core.radio.memory import Channel, Memory

GATEWAY_LETTER = "G"


def full_id(identity: Identity | None, label: str) -> str:
    """The ID that a hotspot logs in with: the one of that label, or the first; empty where there is none."""
    ids = identity.ids if identity is not None else ()
    held = next((item for item in ids if item.label == label), ids[0] if ids else None)
    return str(held.full) if held is not None else ""


def plan_says(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> Values:
    """What the plan wants a hotspot to be set to."""
    owner = index.plan.station.identities[0] if index.plan.station.identities else None
    made: Values = {"call": access.call or (owner.call if owner is not None else "")}
    by_mode = {item.mode: item for item in access.services}
    if "dmr" in by_mode:
        made["id"] = full_id(owner, hotspot.id_label)
        made["color_code"] = str(hotspot.color_code)
    made |= {
        "tx_hz": str(hotspot.transmit_hz),
        "rx_hz": str(hotspot.receive_hz),
        "rx_correction": str(hotspot.rx_correction_hz),
        "tx_correction": str(hotspot.tx_correction_hz),
        "modes": " ".join(item.mode for item in access.services),
        "duplex": "yes" if hotspot.duplex else "no",
        "password": "set",
    }
    for service in access.services:
        made |= _air_says(index, access, service)
    start = next((item for item in index.plan.destinations if item.key == hotspot.startup), None)
    told = {
        "modem": hotspot.modem,
        "startup": startup_text(start) if start is not None else "",
        "time_zone": hotspot.time_zone,
        "display": hotspot.display,
        "host": hotspot.host,
        "public_place": hotspot.public_place,
        "about": hotspot.about,
    }
    return {key: value for key, value in {**made, **told}.items() if value}


def _air_says(index: PlanIndex, access: AccessPoint, service: Service) -> Values:
    air = service.air
    if isinstance(air, DmrAir):
        network = index.network_of(service)
        made = {"slot": " ".join(map(str, air.slots))}
        return made | ({"master": network.master} if network is not None and network.master else {})
    if isinstance(air, DstarAir):
        return {"module": air.module, **routing(access.call, air.module)}
    return {"dgid": str(air.dgid_tx)} if isinstance(air, FusionAir) else {}


def routing(call: str, module: str) -> Values:
    """The two routing fields of a D-STAR access point with a gateway: eight characters each, the letter in position 8."""
    return {"rpt1": rpt_field(call, module), "rpt2": rpt_field(call, GATEWAY_LETTER)}


def startup_text(destination: Destination) -> str:
    """What a hotspot is told to link to at its start: a number, or a reflector with its module."""
    return destination.text or (str(destination.number) if destination.number is not None else destination.name)


def radio_says(memory: Memory, access: AccessPoint, routes: Iterable[str]) -> Values:
    """What a radio's memory holds for a hotspot: where its channels differ among themselves all values are told."""
    wanted = set(routes)
    channels = [item for item in memory.channels if item.route in wanted] or _by_frequency(memory, access)
    if not channels:
        return {}
    made: Values = {
        "tx_hz": _all(channels, lambda item: str(item.rx_hz)),
        "rx_hz": _all(channels, lambda item: str(item.tx_hz)),
        "duplex": "yes" if any(item.rx_hz != item.tx_hz for item in channels) else "no",
    }
    dmr, dstar, fusion = ([item for item in channels if item.mode == mode] for mode in ("dmr", "dstar", "fusion"))
    if dmr:
        made["color_code"] = _all(dmr, lambda item: str(item.color_code))
        made["slot"] = _all(dmr, lambda item: str(item.slot))
    if dstar:
        made["call"] = memory.call
        made["module"] = _all(dstar, lambda item: item.rpt1[7:8].strip() or "none")
        made["rpt1"] = _all(dstar, lambda item: item.rpt1 or "blank")
        made["rpt2"] = _all(dstar, lambda item: item.rpt2 or "blank")
    if fusion:
        made["dgid"] = _all(fusion, lambda item: str(item.dgid_tx))
    return made


def _by_frequency(memory: Memory, access: AccessPoint) -> list[Channel]:
    """The channels on a hotspot's frequencies, where a memory does not tell which route each is."""
    pairs = {(item.rx_hz, item.tx_hz) for item in access.services}
    return [item for item in memory.channels if (item.rx_hz, item.tx_hz) in pairs]


def _all(channels: list[Channel], of: Callable[[Channel], str]) -> str:
    return " ".join(dict.fromkeys(of(item) for item in channels))
