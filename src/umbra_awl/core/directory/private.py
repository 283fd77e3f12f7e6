"""Private edits: single fields of an access point that the operator holds apart from what a directory says.

A field is named by its path: “site”, “lat”, “confirmed”, “dmr-438/tx_hz”, “fm-145/air/tone_tx”.
"""

from collections.abc import Mapping
from typing import Any

from msgspec.structs import replace

from umbra_awl.core.plan.model import AccessPoint, Service

OF_ACCESS = ("call", "site", "place", "kind", "lat", "lon", "confirmed", "watts", "height_m")
FIELD_WORDS = {
    "call": "call sign",
    "site": "site",
    "place": "place",
    "kind": "kind",
    "lat": "latitude",
    "lon": "longitude",
    "confirmed": "confirmed",
    "watts": "power",
    "height_m": "antenna height",
    "rx_hz": "output",
    "tx_hz": "input",
    "color_code": "color code",
    "tone_tx": "tone",
    "tone_rx": "tone sent back",
    "width_hz": "width",
    "network": "network",
    "slots": "slots",
    "module": "module",
    "note": "remark",
}


def with_edits(access: AccessPoint, edits: Mapping[str, Any]) -> AccessPoint:
    """An access point with private edits in place; edits of services that are no longer there wait unused."""
    whole = {field: value for field, value in edits.items() if field in OF_ACCESS}
    services = tuple(_edited(service, edits) for service in access.services)
    if not whole and services == access.services:
        return access
    return replace(access, services=services, **whole)


def _edited(service: Service, edits: Mapping[str, Any]) -> Service:
    for path, value in edits.items():
        key, _, field = path.partition("/")
        if key != service.key or not field:
            continue
        part, _, inner = field.partition("/")
        if part == "air" and inner in service.air.__struct_fields__:
            kept = tuple(value) if isinstance(value, list) else value
            service = replace(service, air=replace(service.air, **{inner: kept}))
        elif part in {"rx_hz", "tx_hz"}:
            service = replace(service, **{part: int(value)})
    return service


def differences(old: AccessPoint, new: AccessPoint) -> dict[str, tuple[Any, Any]]:
    """Fields that differ, by path, with the old and the new value; a service that came or went under its key."""
    found = {
        field: (getattr(old, field), getattr(new, field))
        for field in (*OF_ACCESS, "note")
        if getattr(old, field) != getattr(new, field)
    }
    was, now = ({service.key: service for service in access.services} for access in (old, new))
    for key in dict.fromkeys((*was, *now)):
        one, other = was.get(key), now.get(key)
        if one is None or other is None:
            found[key] = (one and "there", other and "there")
            continue
        for field in ("rx_hz", "tx_hz"):
            if getattr(one, field) != getattr(other, field):
                found[f"{key}/{field}"] = (getattr(one, field), getattr(other, field))
        for field in other.air.__struct_fields__ if type(one.air) is type(other.air) else ():
            if getattr(one.air, field) != getattr(other.air, field):
                found[f"{key}/air/{field}"] = (getattr(one.air, field), getattr(other.air, field))
    return found


def field_words(path: str) -> str:
    """A path as operators read it: “dmr-438/tx_hz” → “DMR input”."""
    if path in FIELD_WORDS:
        return FIELD_WORDS[path]
    key, _, field = path.partition("/")
    mode = key.partition("-")[0].upper()
    inner = field.rpartition("/")[2]
    return f"{mode} {FIELD_WORDS.get(inner, inner or 'service')}".strip()
