"""Rules on one service of an access point: its frequencies, its tones and color code, and its hotspot's settings."""

from collections.abc import Callable, Iterator
from typing import Any

from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.facts.repeaters import USUAL_OFFSETS_HZ
from umbra_awl.core.facts.tones import is_tone, nearest_ctcss
from umbra_awl.core.facts.width import on_raster
from umbra_awl.core.findings.guarded import each_guarded
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.findings.on_dmr import check_dmr_service
from umbra_awl.core.findings.on_dstar import check_dstar_service
from umbra_awl.core.findings.on_fusion import check_fusion_service
from umbra_awl.core.findings.on_hotspot import HOTSPOT_CHECKS, move_hotspot, move_out, one_pair, stands_well
from umbra_awl.core.findings.on_pair import check_pair
from umbra_awl.core.findings.on_settings import check_hotspot_settings
from umbra_awl.core.modes.table import sent_by
from umbra_awl.core.plan.edit.edit_access import set_air, set_service, swap_offset
from umbra_awl.core.plan.edit.edits import Edit, together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, FmAir, Service
from umbra_awl.core.plan.permit import Permit, band_permit
from umbra_awl.core.routes.punch import set_route

OUT_OF_BAND = Rule(
    "out-of-band",
    "stop",
    "Transmits outside the band",
    "A transmitter outside the amateur bands disturbs other services and breaks the licence. A wrong offset sign in a "
    "directory is the usual reason; when the other sign leads into the band, it is probably the right one.",
    safety=True,
)
OUT_OF_LICENCE = Rule(
    "out-of-licence",
    "stop",
    "Transmits where the licence does not reach",
    "The licence decides on which bands you may transmit. Such channels are fitted as receive-only.",
    safety=True,
)
OVER_EDGE = Rule(
    "over-band-edge",
    "stop",
    "Reaches over the band's edge",
    "An emission has width: around its carrier it occupies 6 to 16 kHz, by mode. All of it must lie inside band and licence, so "
    "the carrier keeps half of that away from the edge. Such channels are fitted as receive-only.",
    safety=True,
)
WOULD_BE_OUT = Rule(
    "would-be-out",
    "note",
    "Would transmit where it must not",
    "Nothing is punched through this service yet, so nothing transmits. Put it right before you do.",
)
BAD_TONE = Rule(
    "unknown-tone",
    "stop",
    "Not a standard tone",
    "Radios know the 50 standard CTCSS tones and the standard DCS codes. Any other value cannot be written.",
)
SHIFT_SHORT = Rule(
    "offset-short",
    "warn",
    "Offset a digit short",
    "An offset takes effect only after its last digit: 7.6 MHz typed into five places as 0.76 sends ten times too near. Such an "
    "offset is not customary anywhere, and ten times it is.",
)
SHIFT_LEFT = Rule(
    "offset-on-simplex",
    "warn",
    "Offset left on a simplex channel",
    "On a simplex channel one hears and sends on the same frequency. An offset left on from the last repeater sends where "
    "nobody listens.",
)
OFF_RASTER = Rule(
    "off-raster",
    "note",
    "Between two channels",
    "Channels lie on a raster of 6.25 or 5 kHz. A frequency between them is most often a slip of one digit.",
)


def check_service(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """All findings of one service."""
    about, target = (index, access, service), Target("service", service.key)
    yield from each_guarded((_check_transmit, _check_raster, _check_offset, check_pair), target, *about)
    yield from each_guarded((_OF_MODE[service.mode],), target, *about, service.air)
    if access.kind == "hotspot":
        yield from each_guarded((*HOTSPOT_CHECKS, check_hotspot_settings), target, *about)


def _check_offset(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """An offset where there should be none, or one that lost its last digit."""
    target, offset = Target("service", service.key), service.tx_hz - service.rx_hz
    where = access.by_call
    if not offset:
        return
    if access.kind in {"simplex", "receive"}:
        text = f"{where} is simplex on {format_mhz(service.rx_hz)}, and the radios would send on {format_mhz(service.tx_hz)}."
        simplex = sent_by(service).at(service.rx_hz)
        fits = access.kind == "receive" or band_permit(index.plan.station, simplex).allowed
        edit = set_service(service.key, f"Take the offset off {where}", tx_hz=service.rx_hz)
        yield Finding(SHIFT_LEFT, target, text, Repair("Take the offset off", edit) if fits else None)
    elif access.kind == "repeater":
        band = band_at(index.bands, service.rx_hz)
        usual = USUAL_OFFSETS_HZ.get(band.name, ()) if band is not None else ()
        if abs(offset) in usual or abs(10 * offset) not in usual:
            return
        either = (service.rx_hz + 10 * offset, service.rx_hz - 10 * offset)
        allowed = [hz for hz in either if band_permit(index.plan.station, sent_by(service).at(hz)).allowed]
        whole_hz = next(iter(allowed), either[0])
        whole = format_offset(whole_hz - service.rx_hz)
        text = f"{where} has the offset {format_offset(offset)} MHz; {whole} is customary."
        edit = set_service(service.key, f"Make it {whole} on {where}", tx_hz=whole_hz)
        yield Finding(SHIFT_SHORT, target, text, Repair(f"Make it {whole}", edit) if allowed else None)


_RULE_OF_KIND = {"band": OUT_OF_BAND, "edge": OVER_EDGE, "licence": OUT_OF_LICENCE}


def _check_transmit(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    permit = band_permit(index.plan.station, sent_by(service))
    if permit.allowed or access.kind == "receive":
        return
    routes = index.by_service.get(service.key, ())
    if routes and all(route.receive_only for route in routes):
        return
    text = _sum_words(service, permit.reason)
    repair = _swap(index, access, service, permit)
    if repair is not None:
        text += f" With the other sign it is {format_mhz(2 * service.rx_hz - service.tx_hz)}."
    else:
        repair = _to_channel_inside(index, access, service, permit)
    if repair is None and routes:
        repair = _receive_only(index, access, service)
    rule = _RULE_OF_KIND[permit.kind] if routes else WOULD_BE_OUT
    yield Finding(rule, Target("service", service.key), text, repair)


def _to_channel_inside(index: PlanIndex, access: AccessPoint, service: Service, permit: Permit) -> Repair | None:
    """The nearest channel that fits, for what one may move oneself: a simplex frequency, a hotspot's pair."""
    if permit.kind != "edge" or permit.nearest_hz is None:
        return None
    if access.kind == "hotspot":
        return move_out(index, access, service)
    if access.kind != "simplex" or service.rx_hz != service.tx_hz:
        return None
    hz = permit.nearest_hz
    edit = set_service(service.key, f"Move {access.by_call} to {format_mhz(hz)} MHz", rx_hz=hz, tx_hz=hz)
    return Repair(f"Move to {format_mhz(hz)} MHz", edit)


def _swap(index: PlanIndex, access: AccessPoint, service: Service, permit: Permit) -> Repair | None:
    """The offset with its other sign, where that leads into the band; a hotspot's own setting goes along."""
    other_hz = 2 * service.rx_hz - service.tx_hz
    other = sent_by(service).at(other_hz)
    if permit.kind != "band" or other_hz == service.tx_hz or not band_permit(index.plan.station, other).allowed:
        return None
    label = f"Swap the sign on {access.by_call}"
    if access.kind != "hotspot":
        return Repair(label, swap_offset(access, service))
    if not one_pair(access) or not stands_well(index, access, service, other_hz):
        return None
    return Repair(label, move_hotspot(index, access, service.rx_hz, other_hz, swap_offset(access, service).sentence))


def _receive_only(index: PlanIndex, access: AccessPoint, service: Service) -> Repair | None:
    keys = [route.key for route in index.by_service.get(service.key, ()) if not route.receive_only]
    if not keys:
        return None
    name = access.by_call
    steps = [set_route(index, key, "Receive only", receive_only=True) for key in keys]
    return Repair(f"Only listen to {name}", together(f"Make the routes through {name} receive-only", steps))


def _sum_words(service: Service, reason: str) -> str:
    """The reason, led in by the sum of receive frequency and offset where there is an offset."""
    offset = service.tx_hz - service.rx_hz
    if not offset:
        return reason
    signed = format_offset(offset)
    return f"{format_mhz(service.rx_hz)} {signed[0]} {signed[1:]} = {reason}"


def _check_raster(_index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    off = [hz for hz in (service.rx_hz, service.tx_hz) if not on_raster(hz)]
    if off:
        text = f"{access.by_call} is on {format_mhz(off[0])} MHz; look whether a digit slipped."
        yield Finding(OFF_RASTER, Target("service", service.key), text)


def _check_tone(_index: PlanIndex, access: AccessPoint, service: Service, air: FmAir) -> Iterator[Finding]:
    for field in ("tone_tx", "tone_rx"):
        tone = getattr(air, field)
        if not is_tone(tone):
            yield tone_finding(
                Target("service", service.key),
                tone,
                f"{access.by_call} has the tone “{tone}”.",
                lambda good, field=field: set_air(
                    service.key, f"Set the tone of {access.call} to {good}", **{field: good}
                ),
                field,
            )


def tone_finding(target: Target, tone: str, lead: str, mend: object, part: str) -> Finding:
    """The finding on a tone that does not exist; the nearest standard tone is offered when it is near."""
    good = near_tone(tone)
    if good is None or not callable(mend):
        return Finding(BAD_TONE, target, lead, None, part)
    edit: Edit = mend(good)
    return Finding(
        BAD_TONE, target, f"{lead} The nearest standard tone is {good} Hz.", Repair(f"Take {good} Hz", edit), part
    )


def near_tone(tone: str) -> str | None:
    """The standard tone within 1 Hz of a text that is a number, or None."""
    try:
        value = float(tone.replace(",", "."))
    except ValueError:
        return None
    good = nearest_ctcss(value)
    return good if abs(float(good) - value) <= 1 else None


_OF_MODE: ByMode[Callable[[PlanIndex, AccessPoint, Service, Any], Iterator[Finding]]] = {
    "fm": _check_tone,
    "dmr": check_dmr_service,
    "dstar": check_dstar_service,
    "fusion": check_fusion_service,
}
