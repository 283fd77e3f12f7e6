"""What the inspector says of a selected service or destination: fields with their edits."""

from collections.abc import Callable
from functools import partial
from typing import Any

from umbra_awl.core.facts.dmr import COLOR_CODES, talk_group_fault
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, format_offset, parse_hz, parse_offset_hz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.facts.tones import ToneError, parse_tone
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ, width_word
from umbra_awl.core.plan.edit_access import set_air, set_service
from umbra_awl.core.plan.edits import set_fields
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, FmAir, Network, Service
from umbra_awl.core.plan.permit import band_permit
from umbra_awl.core.routes.calls import called
from umbra_awl.desk.parts.label_card import Choice, Field
from umbra_awl.desk.workbench import Workbench


def frequency_fields(bench: Workbench, access: AccessPoint, service: Service) -> list[Field]:
    """Receive, transmit and what opens the access point, editable."""
    key, where = service.key, access.call or access.site
    permit = band_permit(bench.plan.station, service.tx_hz)
    offset = service.tx_hz - service.rx_hz
    tone = "stop" if not permit.allowed else ""
    sent = (
        f"{format_mhz(service.tx_hz)}  {format_offset(offset)}" if offset else f"{format_mhz(service.tx_hz)}  simplex"
    )
    fields = [
        Field(
            "Receive",
            f"{format_mhz(service.rx_hz)} MHz",
            True,
            commit=_hz(bench, key, where, "rx_hz"),
            text=format_mhz(service.rx_hz),
        ),
        Field(
            "Transmit",
            sent,
            True,
            tone,
            _transmit(bench, service, where),
            text=format_mhz(service.tx_hz),
            tip=permit.reason or _OFFSET_TIP,
        ),
    ]
    if isinstance(service.air, DmrAir):
        fields.append(Field("Color code", str(service.air.color_code), True, commit=_color(bench, key, where)))
    elif isinstance(service.air, FmAir):
        fields.append(Field("Tone", service.air.tone_tx or "none", True, commit=_tone(bench, key, where)))
        widths = [
            Choice(
                width_word(hz),
                partial(bench.do, set_air(key, f"Make {where} {width_word(hz)}", width_hz=hz)),
                hz == service.air.width_hz,
            )
            for hz in (NARROW_HZ, WIDE_HZ)
        ]
        fields.append(Field("Width", width_word(service.air.width_hz), choices=widths))
    return fields


_OFFSET_TIP = "Type the frequency, or an offset with its sign, for example -7.6"


def _hz(bench: Workbench, key: str, where: str, field: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            hz = parse_hz(text)
        except FrequencyError as error:
            return str(error)
        bench.do(set_service(key, f"Tune {where} to {format_mhz(hz)}", **{field: hz}))
        return ""

    return commit


def _transmit(bench: Workbench, service: Service, where: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            signed = text[:1] in {"+", "-", "−"}
            hz = service.rx_hz + parse_offset_hz(text) if signed else parse_hz(text)
        except FrequencyError as error:
            return str(error)
        bench.do(set_service(service.key, f"Let {where} be reached on {format_mhz(hz)}", tx_hz=hz))
        return ""

    return commit


def whole_number(text: str, allowed: range, what: str) -> int | str:
    """The number in a text, or the reason why it is none."""
    if not text.isascii() or not text.isdigit() or int(text) not in allowed:
        return f"“{text}” is not {what}: {allowed.start} to {allowed.stop - 1} exist."
    return int(text)


def _color(bench: Workbench, key: str, where: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        code = whole_number(text, COLOR_CODES, "a color code")
        if isinstance(code, str):
            return code
        bench.do(set_air(key, f"Set the color code of {where} to {code}", color_code=code))
        return ""

    return commit


def _tone(bench: Workbench, key: str, where: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            tone = parse_tone(text)
        except ToneError as error:
            return str(error)
        bench.do(set_air(key, f"Set the tone of {where} to {tone or 'none'}", tone_tx=tone))
        return ""

    return commit


def service_fields(bench: Workbench, access: AccessPoint, service: Service) -> list[Field]:
    """The fields of a service and its access point."""
    site = _text_field(bench, "access", access.key, "Site", "site", access.site)
    call = _text_field(bench, "access", access.key, "Call sign", "call", access.call, mono=True)
    fields = [site, call, Field("Kind", access.kind), Field("Mode", MODE_WORDS[service.mode])]
    fields += frequency_fields(bench, access, service)
    if isinstance(service.air, DmrAir):
        network = bench.index.network_of(service)
        fields.append(_network_field(bench, access, service, network))
        fields.append(_slots_field(bench, access, service, service.air))
    fields.append(_text_field(bench, "access", access.key, "Place", "place", access.place))
    fields.append(
        Field(
            "Confirmed",
            access.confirmed or "never",
            commit=_text_commit(bench, "access", access.key, "confirmed"),
            text=access.confirmed,
        )
    )
    fields.append(_text_field(bench, "access", access.key, "Note", "note", access.note))
    return fields


def _network_field(bench: Workbench, access: AccessPoint, service: Service, network: Network | None) -> Field:
    options = [
        Choice(
            "none",
            lambda: bench.do(set_air(service.key, f"Take {access.call} off its network", network="")),
            network is None,
        )
    ]
    options += [
        Choice(
            item.name,
            partial(bench.do, set_air(service.key, f"Put {access.call} on {item.name}", network=item.key)),
            item is network,
        )
        for item in bench.plan.networks
        if item.mode == service.mode
    ]
    return Field("Network", network.name if network else "none", choices=options)


def _slots_field(bench: Workbench, access: AccessPoint, service: Service, air: DmrAir) -> Field:
    words = {(1, 2): "1 and 2", (1,): "1 only", (2,): "2 only"}
    options = [
        Choice(
            text,
            partial(bench.do, set_air(service.key, f"Use slot {text} of {access.call}", slots=slots)),
            slots == air.slots,
        )
        for slots, text in words.items()
    ]
    return Field("Slots", words.get(air.slots, "none"), choices=options)


def _text_commit(bench: Workbench, collection: str, key: str, field: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_fields(collection, key, f"Set {field} to {text or 'nothing'}", **{field: text}))
        return ""

    return commit


def _text_field(
    bench: Workbench, collection: str, key: str, label: str, field: str, value: str, *, mono: bool = False
) -> Field:
    return Field(label, value, mono, commit=_text_commit(bench, collection, key, field), text=value)


def destination_fields(bench: Workbench, destination: Destination) -> list[Field]:
    """The fields of a destination."""
    network = bench.index.networks.get(destination.network)
    call = called(destination, network)
    fields = [
        _text_field(bench, "destinations", destination.key, "Name", "name", destination.name),
        Field("Kind", destination.kind),
        Field("Network", network.name if network else "through the air"),
        Field(
            "Number",
            str(call.number) if call else "none",
            True,
            commit=_number(bench, destination),
            text=str(call.number) if call else "",
        ),
    ]
    kinds = [
        Choice(f"{kind} call", partial(bench.do, _call_kind(destination, kind)), bool(call and call.kind == kind))
        for kind in ("group", "private")
    ]
    fields.append(Field("Called as", f"{call.kind} call" if call else "–", choices=kinds))
    return fields


def _call_kind(destination: Destination, kind: str) -> Any:
    return set_fields("destinations", destination.key, f"Make {destination.name} a {kind} call", call=kind)


def _number(bench: Workbench, destination: Destination) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text.isascii() or not text.isdigit():
            return f"“{text}” is not a number. Type digits only, for example 99900."
        fault = talk_group_fault(int(text))
        if fault:
            return fault
        bench.do(
            set_fields(
                "destinations", destination.key, f"Set the number of {destination.name} to {text}", number=int(text)
            )
        )
        return ""

    return commit
