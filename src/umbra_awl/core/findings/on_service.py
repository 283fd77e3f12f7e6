"""Rules on one service of an access point: its frequencies, its tones and color code, and its hotspot's settings."""

from collections.abc import Iterator

from umbra_awl.core.facts.bands import SATELLITE_SEGMENTS, band_at
from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.facts.frequency import format_mhz, format_offset
from umbra_awl.core.facts.tones import is_tone, nearest_ctcss
from umbra_awl.core.facts.width import on_raster
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.plan.edit_access import set_air, set_service, swap_offset
from umbra_awl.core.plan.edits import Edit, set_fields, together
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, FmAir, Hotspot, Service
from umbra_awl.core.plan.permit import Permit, band_permit
from umbra_awl.core.routes.punch import set_route

OUT_OF_BAND = Rule(
    "out-of-band", "stop", "Transmits outside the band",
    "A transmitter outside the amateur bands disturbs other services and breaks the licence. A wrong offset sign in a "
    "directory is the usual reason; when the other sign leads into the band, it is probably the right one.",
)  # fmt: skip
OUT_OF_LICENCE = Rule(
    "out-of-licence", "stop", "Transmits where the licence does not reach",
    "The licence decides on which bands you may transmit. Such channels are fitted as receive-only.",
)  # fmt: skip
WOULD_BE_OUT = Rule(
    "would-be-out", "note", "Would transmit where it must not",
    "Nothing is punched through this service yet, so nothing transmits. Put it right before you do.",
)  # fmt: skip
BAD_TONE = Rule(
    "unknown-tone", "stop", "Not a standard tone",
    "Radios know the 50 standard CTCSS tones and the standard DCS codes. Any other value cannot be written.",
)  # fmt: skip
BAD_COLOR = Rule(
    "unknown-color-code", "stop", "Not a color code",
    "DMR has the color codes 0 to 15. With a wrong one the repeater neither hears you nor opens your speaker.",
)  # fmt: skip
SATELLITE = Rule(
    "hotspot-in-satellite-segment", "stop", "Hotspot in a satellite segment",
    "145.8-146.0 and 435-438 MHz are kept for satellites, whose weak signals a hotspot next door drowns. Some hotspots "
    "refuse to start there and say so only in their log.",
)  # fmt: skip
HOTSPOT_DIFFERS = Rule(
    "hotspot-differs", "stop", "Hotspot and radio do not meet",
    "Radio and hotspot must agree to the hertz: the radio hears where the hotspot transmits and sends where it listens.",
)  # fmt: skip
HOTSPOT_COLOR = Rule(
    "hotspot-color-differs", "stop", "Hotspot has another color code",
    "With two different color codes neither side opens for the other.",
)  # fmt: skip
OFF_RASTER = Rule(
    "off-raster", "note", "Between two channels",
    "Channels lie on a raster of 6.25 or 5 kHz. A frequency between them is most often a slip of one digit.",
)  # fmt: skip

_RASTER_STEP_HZ = 12_500
_FREE_START_HZ = 434_000_000


def check_service(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """All findings of one service."""
    yield from _check_transmit(index, access, service)
    yield from _check_raster(access, service)
    if isinstance(service.air, FmAir):
        yield from _check_tone(access, service, service.air)
    elif isinstance(service.air, DmrAir) and service.air.color_code not in COLOR_CODES:
        text = f"{access.call} has the color code {service.air.color_code}; 0 to 15 exist."
        yield Finding(BAD_COLOR, Target("service", service.key), text)
    if access.kind == "hotspot":
        yield from _check_hotspot(index, access, service)


def _check_transmit(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    permit = band_permit(index.plan.station, service.tx_hz)
    if permit.allowed:
        return
    routes = [route for route in index.plan.routes if route.service == service.key]
    if routes and all(route.receive_only for route in routes):
        return
    rule = OUT_OF_BAND if permit.kind == "band" else OUT_OF_LICENCE
    text = _sum_words(service, permit.reason)
    repair = _swap(index, access, service, permit)
    if repair is not None:
        text += f" With the other sign it is {format_mhz(2 * service.rx_hz - service.tx_hz)}."
    elif routes:
        repair = _receive_only(index, access, service)
    yield Finding(rule if routes else WOULD_BE_OUT, Target("service", service.key), text, repair)


def _swap(index: PlanIndex, access: AccessPoint, service: Service, permit: Permit) -> Repair | None:
    """The offset with its other sign, where that leads into the band; a hotspot's own setting goes along."""
    other_hz = 2 * service.rx_hz - service.tx_hz
    if permit.kind != "band" or other_hz == service.tx_hz or not band_permit(index.plan.station, other_hz).allowed:
        return None
    label = f"Swap the sign on {access.call or access.site}"
    swap = swap_offset(access, service)
    hotspots = [item for item in index.plan.hotspots if item.access == access.key and service.mode == "dmr"]
    if access.kind != "hotspot" or not (hotspots or band_at(SATELLITE_SEGMENTS, other_hz)):
        return Repair(label, swap)
    if _dmr_count(access) > 1 or not _stands_well(index, other_hz):
        return None
    steps = [set_fields("hotspots", item.key, label, receive_hz=other_hz) for item in hotspots]
    return Repair(label, together(swap.sentence, [swap, *steps]))


def _receive_only(index: PlanIndex, access: AccessPoint, service: Service) -> Repair | None:
    keys = [key for key, route in index.routes.items() if route.service == service.key and not route.receive_only]
    if not keys:
        return None
    name = access.call or access.site
    steps = [set_route(index, key, "Receive only", receive_only=True) for key in keys]
    return Repair(f"Only listen to {name}", together(f"Make the routes through {name} receive-only", steps))


def _sum_words(service: Service, reason: str) -> str:
    """The reason, led in by the sum of receive frequency and offset where there is an offset."""
    offset = service.tx_hz - service.rx_hz
    if not offset:
        return reason
    signed = format_offset(offset)
    return f"{format_mhz(service.rx_hz)} {signed[0]} {signed[1:]} = {reason}"


def _check_raster(access: AccessPoint, service: Service) -> Iterator[Finding]:
    off = [hz for hz in (service.rx_hz, service.tx_hz) if not on_raster(hz)]
    if off:
        text = f"{access.call or access.site} is on {format_mhz(off[0])} MHz; look whether a digit slipped."
        yield Finding(OFF_RASTER, Target("service", service.key), text)


def _check_tone(access: AccessPoint, service: Service, air: FmAir) -> Iterator[Finding]:
    for field in ("tone_tx", "tone_rx"):
        tone = getattr(air, field)
        if not is_tone(tone):
            yield tone_finding(
                Target("service", service.key),
                tone,
                f"{access.call or access.site} has the tone “{tone}”.",
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


def _check_hotspot(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    segment = next((band for hz in (service.rx_hz, service.tx_hz) if (band := band_at(SATELLITE_SEGMENTS, hz))), None)
    if segment is not None:
        text = f"{format_mhz(service.rx_hz)} MHz lies in {format_mhz(segment.low_hz)} to {format_mhz(segment.high_hz)}."
        yield Finding(SATELLITE, Target("service", service.key), text, _move_out(index, access, service))
    for hotspot in index.plan.hotspots:
        if hotspot.access == access.key and service.mode == "dmr":
            yield from _check_agreement(index, access, service, hotspot)


def _agree(index: PlanIndex, access: AccessPoint, service: Service, hotspot: Hotspot) -> Repair | None:
    """The radios follow the hotspot where it stands well; else the hotspot follows the radios, where they do."""
    if _stands_well(index, hotspot.transmit_hz, hotspot.receive_hz):
        pair = {"rx_hz": hotspot.transmit_hz, "tx_hz": hotspot.receive_hz}
        return Repair(
            "Set the radios to the hotspot", set_service(service.key, f"Tune the radios to {access.site}", **pair)
        )
    if _stands_well(index, service.rx_hz, service.tx_hz) and _dmr_count(access) == 1:
        pair = {"transmit_hz": service.rx_hz, "receive_hz": service.tx_hz}
        edit = set_fields("hotspots", hotspot.key, f"Note that {access.site} is set to the radios' frequencies", **pair)
        return Repair("Set the hotspot to the radios", edit)
    return None


def _stands_well(index: PlanIndex, *frequencies_hz: int) -> bool:
    """Whether frequencies lie inside licence and band and outside the satellite segments."""
    station = index.plan.station
    return all(band_permit(station, hz).allowed and not band_at(SATELLITE_SEGMENTS, hz) for hz in frequencies_hz)


def _dmr_count(access: AccessPoint) -> int:
    return sum(service.mode == "dmr" for service in access.services)


def _move_out(index: PlanIndex, access: AccessPoint, service: Service) -> Repair | None:
    shift = service.tx_hz - service.rx_hz
    free = _free_hz(index, shift)
    if free is None or (service.mode == "dmr" and _dmr_count(access) > 1):
        return None
    label = f"Move to {format_mhz(free)} MHz"
    steps = [set_service(service.key, label, rx_hz=free, tx_hz=free + shift)]
    steps += [
        set_fields("hotspots", item.key, label, transmit_hz=free, receive_hz=free + shift)
        for item in index.plan.hotspots
        if item.access == access.key and service.mode == "dmr"
    ]
    return Repair(label, together(f"Move {access.site} to {format_mhz(free)} MHz", steps))


def _free_hz(index: PlanIndex, shift: int) -> int | None:
    """The first raster step from 434 MHz that is in licence and band and 25 kHz away from everything in the plan."""
    used = [hz for _access, item in index.all_services() for hz in (item.rx_hz, item.tx_hz)]
    for step in range(80):
        hz = _FREE_START_HZ + step * _RASTER_STEP_HZ
        pair = (hz, hz + shift)
        allowed = all(
            band_permit(index.plan.station, item).allowed and not band_at(SATELLITE_SEGMENTS, item) for item in pair
        )
        if allowed and all(abs(item - other) >= 2 * _RASTER_STEP_HZ for item in pair for other in used):
            return hz
    return None


def _check_agreement(index: PlanIndex, access: AccessPoint, service: Service, hotspot: Hotspot) -> Iterator[Finding]:
    target = Target("hotspot", hotspot.key)
    own = (hotspot.transmit_hz, hotspot.receive_hz)
    if own != (service.rx_hz, service.tx_hz):
        text = (
            f"{access.site} transmits on {format_mhz(own[0])} and hears {format_mhz(own[1])}; "
            f"the radios hear {format_mhz(service.rx_hz)} and send on {format_mhz(service.tx_hz)}."
        )
        yield Finding(HOTSPOT_DIFFERS, target, text, _agree(index, access, service, hotspot), service.key)
    if isinstance(service.air, DmrAir) and hotspot.color_code != service.air.color_code:
        text = f"{access.site} is set to color code {hotspot.color_code}, the radios to {service.air.color_code}."
        edit = set_air(service.key, f"Take the color code of {access.site}", color_code=hotspot.color_code)
        repair = Repair(f"Use color code {hotspot.color_code}", edit) if hotspot.color_code in COLOR_CODES else None
        yield Finding(HOTSPOT_COLOR, target, text, repair, service.key)
