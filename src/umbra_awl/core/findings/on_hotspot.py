"""Rules on a hotspot: where it stands, that it agrees with the radios, its slots, its phone."""

from bisect import bisect
from collections.abc import Iterator

from msgspec.structs import replace

from umbra_awl.core.facts.bands import SATELLITE_SEGMENTS, Band
from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.modes.table import mode_of, sent_by
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.edit.edits import Edit, set_fields, together
from umbra_awl.core.plan.hotspots import MOST_CORRECTION_HZ
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, Hotspot, Phone, Route, Service
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.core.plan.permit import band_permit
from umbra_awl.core.routes.punch import set_route

SATELLITE = Rule(
    "hotspot-in-satellite-segment",
    "stop",
    "Hotspot in a satellite segment",
    "145.8-146.0 and 435-438 MHz are kept for satellites, whose weak signals a hotspot next door drowns. Some hotspots "
    "refuse to start there and say so only in their log.",
    safety=True,
)
HOTSPOT_DIFFERS = Rule(
    "hotspot-differs",
    "stop",
    "Hotspot and radio do not meet",
    "Radio and hotspot must agree to the hertz: the radio hears where the hotspot transmits and sends where it listens.",
)
HOTSPOT_COLOR = Rule(
    "hotspot-color-differs",
    "stop",
    "Hotspot has another color code",
    "With two different color codes neither side opens for the other.",
)
NEIGHBOUR = Rule(
    "hotspot-next-to",
    "warn",
    "Hotspot next to another access point",
    "A hotspot on or next to a repeater's input or output, or a calling frequency, disturbs it and is disturbed.",
)
WAITS_FOR_SELF = Rule(
    "hotspot-admit",
    "note",
    "Would wait for its own hotspot",
    "A simplex hotspot sends on the radio's own transmit frequency. “Channel free” and “color code free” then keep the radio "
    "from answering. “Always” is common there; both schools exist, and this note can be silenced.",
)
WIFI_CASE = Rule(
    "wifi-name-case",
    "warn",
    "Wi-Fi name differs in a letter",
    "The name of a Wi-Fi network is matched letter for letter: capitals count, and a curly quote is not a plain one. With "
    "one letter in another case the hotspot does not find the phone.",
)
PHONE_BAND = Rule(
    "phone-band",
    "warn",
    "Phone shares on 5 GHz",
    "Many hotspot boards know 2.4 GHz only and do not see a phone on 5 GHz. Phones have a switch for compatibility.",
)

_RASTER_STEP_HZ = 12_500
_FREE_START_HZ = 434_000_000
_5_GHZ = 5.0


CORRECTION = Rule(
    "hotspot-correction",
    "stop",
    "Correction is another frequency",
    "A correction puts right what an oscillator is off: some hundred hertz, at worst a few thousand. What is more moves the "
    "transmitter onto another frequency than the one the plan shows.",
    safety=True,
)
HOTSPOT_OUT = Rule(
    "hotspot-out-of-band",
    "stop",
    "Hotspot transmits where it must not",
    "A hotspot is a station of yours: what it sends must lie inside band and licence with its whole width, like what the radio "
    "sends.",
    safety=True,
)


def _check_admit(_index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    air = service.air
    if isinstance(air, DmrAir) and service.rx_hz == service.tx_hz and air.admit != "always":
        text = f"{access.site} is simplex, and its channels wait for “{air.admit} free”."
        edit = set_air(service.key, f"Let radios key up on {access.site} at any time", admit="always")
        yield Finding(WAITS_FOR_SELF, Target("service", service.key), text, Repair("Admit always", edit))


def own_admit(index: PlanIndex, access: AccessPoint, service: Service, route: Route) -> Iterator[Finding]:
    """One channel of a simplex hotspot that waits for its own downlink, where the others do not."""
    waits = route.admit not in {None, "always"} and isinstance(service.air, DmrAir) and service.air.admit == "always"
    if waits and access.kind == "hotspot" and service.rx_hz == service.tx_hz:
        text = f"This channel waits for “{route.admit} free” on {access.site}, which is simplex."
        edit = set_route(index, route.key, "Admit always", admit=None)
        yield Finding(WAITS_FOR_SELF, Target("route", route.key), text, Repair("Admit always", edit))


def _check_settings(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    for hotspot in index.plan.hotspots:
        if hotspot.access == access.key:
            yield from _check_agreement(index, access, service, hotspot)
            if service is access.services[0]:
                yield from _check_phone(index, access, hotspot)
                yield from _check_correction(hotspot)


def _check_own_sending(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    """What the hotspot itself sends, whether or not a radio reaches anybody through it."""
    if service is not first_on(access, service):
        return
    permit = band_permit(index.plan.station, widest(access, service).at(service.rx_hz))
    if not permit.allowed:
        text = f"{access.site} sends on {format_mhz(service.rx_hz)}. {permit.reason}"
        yield Finding(HOTSPOT_OUT, Target("service", service.key), text, move_out(index, access, service))


def _check_correction(hotspot: Hotspot) -> Iterator[Finding]:
    """A correction that is none."""
    for name, word in (("tx_correction_hz", "sending"), ("rx_correction_hz", "hearing")):
        correction: int = getattr(hotspot, name)
        if abs(correction) > MOST_CORRECTION_HZ:
            text = f"Its correction for {word} is {correction:+d} Hz; more than ±{MOST_CORRECTION_HZ} Hz puts nothing right."
            edit = set_fields(HOTSPOTS, hotspot.key, "Set the correction to 0", **{name: 0})
            yield Finding(CORRECTION, Target("hotspot", hotspot.key), text, Repair("Set it to 0, then calibrate", edit))


def widest(access: AccessPoint, service: Service) -> Emission:
    """The widest emission among the services on the same pair of frequencies, on the radio's transmit frequency."""
    pair = (service.rx_hz, service.tx_hz)
    shared = [sent_by(item) for item in access.services if (item.rx_hz, item.tx_hz) == pair]
    return max(shared, key=lambda item: item.width_hz)


def first_on(access: AccessPoint, service: Service) -> Service:
    """The first service of an access point on the same pair of frequencies."""
    pair = (service.rx_hz, service.tx_hz)
    return next(item for item in access.services if (item.rx_hz, item.tx_hz) == pair)


def one_pair(access: AccessPoint) -> bool:
    """Whether all services of an access point share one pair of frequencies, as those of one hotspot board do."""
    return len({(item.rx_hz, item.tx_hz) for item in access.services}) == 1


def stands_well(index: PlanIndex, access: AccessPoint, service: Service, *frequencies_hz: int) -> bool:
    """Whether what a service sends, on some frequencies, lies wholly inside licence and band and outside satellite segments."""
    sent = widest(access, service)
    emissions = [sent.at(hz) for hz in frequencies_hz]
    return all(band_permit(index.plan.station, item).allowed and in_segment(item) is None for item in emissions)


def in_segment(sent: Emission) -> Band | None:
    """The satellite segment that an emission reaches into, or None."""
    return next((item for item in SATELLITE_SEGMENTS if sent.reaches(item.low_hz, item.high_hz)), None)


def move_hotspot(index: PlanIndex, access: AccessPoint, rx_hz: int, tx_hz: int, sentence: str) -> Edit:
    """Tune all services of a hotspot and the hotspot itself to a pair, named from the radio's side, in hertz."""
    steps = [set_service(item.key, sentence, rx_hz=rx_hz, tx_hz=tx_hz) for item in access.services]
    steps += [
        set_fields(HOTSPOTS, item.key, sentence, transmit_hz=rx_hz, receive_hz=tx_hz)
        for item in index.plan.hotspots
        if item.access == access.key
    ]
    return together(sentence, steps)


def _check_place(index: PlanIndex, access: AccessPoint, service: Service) -> Iterator[Finding]:
    target = Target("service", service.key)
    if service is not first_on(access, service):
        return
    sent = widest(access, service)
    for emitted in (sent.at(service.rx_hz), sent.at(service.tx_hz)):
        segment = in_segment(emitted)
        if segment is not None:
            who = access.site if emitted.center_hz == service.rx_hz else f"What radios send to {access.site}"
            text = f"{who}: {_segment_words(emitted, segment)}"
            yield Finding(SATELLITE, target, text, move_out(index, access, service))
            return
    for other, item in index.all_services():
        near = [
            (own, hz) for hz in (item.rx_hz, item.tx_hz) for own in (service.rx_hz, service.tx_hz) if _beside(hz, own)
        ]
        if other is not access and near:
            own_hz, other_hz = near[0]
            beside = f"{other.by_call} on {format_mhz(other_hz)}"
            text = f"{access.site} on {format_mhz(own_hz)} stands beside {beside}."
            yield Finding(NEIGHBOUR, target, text, move_out(index, access, service))
            return


def _segment_words(sent: Emission, segment: Band) -> str:
    edges = f"{format_mhz(segment.low_hz)} to {format_mhz(segment.high_hz)}"
    if segment.holds(sent.center_hz):
        return f"{format_mhz(sent.center_hz)} MHz lies in {edges}."
    return f"{sent.words} on {format_mhz(sent.center_hz)} MHz takes {sent.span_words} and reaches into {edges}."


def _beside(one_hz: int, other_hz: int) -> bool:
    return abs(one_hz - other_hz) <= _RASTER_STEP_HZ


def move_out(index: PlanIndex, access: AccessPoint, service: Service) -> Repair | None:
    """Somewhere else for a whole hotspot: the first free channel; None when there is none or it has several pairs."""
    shift = service.tx_hz - service.rx_hz
    free = _free_hz(index, access, service) if one_pair(access) else None
    if free is None:
        return None
    edit = move_hotspot(index, access, free, free + shift, f"Move {access.site} to {format_mhz(free)} MHz")
    return Repair(f"Move to {format_mhz(free)} MHz", edit)


def _free_hz(index: PlanIndex, access: AccessPoint, service: Service) -> int | None:
    """The first channel in licence and band that is 25 kHz away from everything in the plan: from 434 MHz, then anywhere."""
    shift = service.tx_hz - service.rx_hz
    used = sorted(hz for _access, item in index.all_services() for hz in (item.rx_hz, item.tx_hz))
    for hz in _channels(index, service):
        pair = (hz, hz + shift)
        if all(_far_from(used, item) for item in pair) and stands_well(index, access, service, *pair):
            return hz
    return None


def _channels(index: PlanIndex, service: Service) -> Iterator[int]:
    """Channels of the raster to try: a megahertz from where hotspots are customary, then the band of the service."""
    yield from range(_FREE_START_HZ, _FREE_START_HZ + 80 * _RASTER_STEP_HZ, _RASTER_STEP_HZ)
    for band in index.bands:
        if band.holds(service.rx_hz) or band.holds(service.tx_hz):
            first = -(-band.low_hz // _RASTER_STEP_HZ) * _RASTER_STEP_HZ
            yield from range(first, band.high_hz, _RASTER_STEP_HZ)


def _far_from(used: list[int], hz: int) -> bool:
    """Whether a frequency is two channels away from all of a sorted list."""
    at = bisect(used, hz)
    return all(abs(hz - other) >= 2 * _RASTER_STEP_HZ for other in used[max(at - 1, 0) : at + 1])


def _check_agreement(index: PlanIndex, access: AccessPoint, service: Service, hotspot: Hotspot) -> Iterator[Finding]:
    target = Target("hotspot", hotspot.key)
    own = (hotspot.transmit_hz, hotspot.receive_hz)
    if own != (service.rx_hz, service.tx_hz):
        text = (
            f"{access.site} transmits on {format_mhz(own[0])} and hears {format_mhz(own[1])}; "
            f"the radios hear {format_mhz(service.rx_hz)} and send on {format_mhz(service.tx_hz)}."
        )
        yield Finding(HOTSPOT_DIFFERS, target, text, _agree(index, access, service, hotspot), service.key)
    mode = mode_of(service)
    if mode.color_coded and hotspot.color_code != mode.color(service.air):
        text = f"{access.site} is set to color code {hotspot.color_code}, the radios to {mode.color(service.air)}."
        edit = set_air(service.key, f"Take the color code of {access.site}", color_code=hotspot.color_code)
        repair = Repair(f"Use color code {hotspot.color_code}", edit) if hotspot.color_code in COLOR_CODES else None
        yield Finding(HOTSPOT_COLOR, target, text, repair, service.key)


def _agree(index: PlanIndex, access: AccessPoint, service: Service, hotspot: Hotspot) -> Repair | None:
    """The radios follow the hotspot where it stands well; else the hotspot follows the radios, where they do."""
    if stands_well(index, access, service, hotspot.transmit_hz, hotspot.receive_hz):
        pair = {"rx_hz": hotspot.transmit_hz, "tx_hz": hotspot.receive_hz}
        edit = set_service(service.key, f"Tune the radios to {access.site}", **pair)
        return Repair("Set the radios to the hotspot", edit)
    if stands_well(index, access, service, service.rx_hz, service.tx_hz) and one_pair(access):
        pair = {"transmit_hz": service.rx_hz, "receive_hz": service.tx_hz}
        edit = set_fields(HOTSPOTS, hotspot.key, f"Note that {access.site} is set to the radios' frequencies", **pair)
        return Repair("Set the hotspot to the radios", edit)
    return None


def _check_phone(index: PlanIndex, access: AccessPoint, hotspot: Hotspot) -> Iterator[Finding]:
    phone, target = index.plan.station.phone, Target("hotspot", hotspot.key)
    if phone is None or not phone.sharing or not hotspot.wifi:
        return
    near = [name for name in hotspot.wifi if _alike(name) == _alike(phone.sharing)]
    if near and phone.sharing not in hotspot.wifi:
        text = f"The phone shares “{phone.sharing}”; {access.site} looks for “{near[0]}”."
        names = tuple(phone.sharing if name == near[0] else name for name in hotspot.wifi)
        edit = set_fields(HOTSPOTS, hotspot.key, f"Let {access.site} look for “{phone.sharing}”", wifi=names)
        yield Finding(WIFI_CASE, target, text, Repair(f"Look for “{phone.sharing}”", edit))
    if phone.sharing in hotspot.wifi and phone.band_ghz >= _5_GHZ:
        text = f"The phone shares “{phone.sharing}” on {phone.band_ghz:g} GHz."
        edit = set_station("Let the phone share on 2.4 GHz", phone=replace(phone, band_ghz=Phone().band_ghz))
        yield Finding(PHONE_BAND, target, text, Repair("Share on 2.4 GHz", edit))


def _alike(name: str) -> str:
    return name.casefold().replace("’", "'").replace("‘", "'").replace("”", '"').replace("“", '"').strip()


HOTSPOT_CHECKS = (_check_place, _check_own_sending, _check_admit, _check_settings)
"""The checks of one service of a hotspot; what concerns the whole hotspot is told at its first service."""
