"""What the inspector says of a selected service or destination: fields with their edits."""

from collections.abc import Callable
from functools import partial
from typing import Any

from umbra_awl.core.facts.dmr import COLOR_CODES
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, format_offset, parse_hz, parse_offset_hz
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.facts.tones import ToneError, is_burst, parse_tone
from umbra_awl.core.facts.width import NARROW_HZ, WIDE_HZ, width_word
from umbra_awl.core.modes.table import MODES, sent_by
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import AccessPoint, DmrAir, FmAir, Mode, Service
from umbra_awl.core.plan.parts import ACCESS
from umbra_awl.core.plan.permit import band_permit
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.cards.hotspot_fields import hotspot_fields
from umbra_awl.desk.parts.cards.mode_fields import mode_fields
from umbra_awl.desk.parts.cards.text_fields import text_commit, text_field, whole_number


def frequency_fields(bench: Workbench, access: AccessPoint, service: Service) -> list[Field]:
    """Receive, transmit and what opens the access point, editable."""
    key, where = service.key, access.by_call
    permit = band_permit(bench.plan.station, sent_by(service))
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
    made = _OPENERS.get(service.mode)
    return fields if made is None else [*fields, *made(bench, key, where, service.air)]


def _color_fields(bench: Workbench, key: str, where: str, air: DmrAir) -> list[Field]:
    return [Field("Color code", str(air.color_code), True, commit=_color(bench, key, where))]


def _tone_fields(bench: Workbench, key: str, where: str, air: FmAir) -> list[Field]:
    widths = [
        Choice(
            width_word(hz),
            partial(bench.do, set_air(key, f"Make {where} {width_word(hz)}", width_hz=hz)),
            hz == air.width_hz,
        )
        for hz in (NARROW_HZ, WIDE_HZ)
    ]
    opener = MODES["fm"].opener(air)
    tip = "103.5, D023, or 1750 for the burst; empty for none"
    tone = Field("Tone", opener or "none", True, commit=_tone(bench, key, where), text=opener, tip=tip)
    tip = "What the repeater sends back; a channel waits for it only where you say so"
    back = Field(
        "Tone back", air.tone_rx or "none", True, commit=_tone_back(bench, key, where), text=air.tone_rx, tip=tip
    )
    return [tone, back, Field("Width", width_word(air.width_hz), choices=widths)]


_OPENERS: dict[Mode, Callable[[Workbench, str, str, Any], list[Field]]] = {"fm": _tone_fields, "dmr": _color_fields}
"""What opens a service, where the mode's own fields do not say it."""

SITE_WORDS = {
    "repeater": "repeater",
    "hotspot": "hotspot",
    "simplex": "simplex frequency",
    "receive": "listened to only",
}
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
        if is_burst(text):
            bench.do(set_air(key, f"Open {where} with the burst of 1750 Hz", tone_tx="", burst=True))
            return ""
        try:
            tone = parse_tone(text)
        except ToneError as error:
            return str(error)
        bench.do(set_air(key, f"Set the tone of {where} to {tone or 'none'}", tone_tx=tone, burst=False))
        return ""

    return commit


def _tone_back(bench: Workbench, key: str, where: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            tone = parse_tone(text)
        except ToneError as error:
            return str(error)
        bench.do(set_air(key, f"Say that {where} sends {tone or 'no tone'} back", tone_rx=tone))
        return ""

    return commit


def service_fields(bench: Workbench, access: AccessPoint, service: Service) -> list[Field]:
    """The fields of a service and its access point."""
    site = text_field(bench, ACCESS, access.key, "Site", "site", access.site)
    call = text_field(bench, ACCESS, access.key, "Call sign", "call", access.call, mono=True)
    fields = [site, call, _kind_field(bench, access), Field("Mode", MODE_WORDS[service.mode])]
    fields += frequency_fields(bench, access, service)
    fields += mode_fields(bench, access, service)
    fields += hotspot_fields(bench, access)
    fields.append(text_field(bench, ACCESS, access.key, "Place", "place", access.place))
    fields.append(
        Field(
            "Confirmed",
            access.confirmed or "never",
            commit=text_commit(bench, ACCESS, access.key, "confirmed"),
            text=access.confirmed,
        )
    )
    fields.append(text_field(bench, ACCESS, access.key, "Note", "note", access.note))
    return fields


def _kind_field(bench: Workbench, access: AccessPoint) -> Field:
    choices = [
        Choice(
            words,
            partial(bench.do, set_fields(ACCESS, access.key, f"Make {access.site} a {words}", kind=kind)),
            kind == access.kind,
        )
        for kind, words in SITE_WORDS.items()
    ]
    return Field("Kind", SITE_WORDS[access.kind], choices=choices)
