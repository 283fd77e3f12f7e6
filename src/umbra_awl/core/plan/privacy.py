"""What of a plan may be told to others, field by field: said once, here; what is not said here is private.

Sharing and every export follow these tables. A field may be public, rounded (a position, as exactly as its owner allows), told
only where the position is told exactly, an own ID (told only where asked for), a part with rules of its own, or private.
Keys and what points to them are public in so far as they are made anew from public names.
"""

from typing import Any, Literal, NamedTuple

import msgspec

from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.dstar import read_ur
from umbra_awl.core.plan import model
from umbra_awl.core.plan.air import Value
from umbra_awl.core.plan.habits import Habits


class PrivacyRule(NamedTuple):
    """How a field is treated; `of` is the kind of thing that a key names or that is pointed to.

    `key` names its thing. `needs` points to another thing, and goes with it; `ref` points to one, or to several, that may go.
    """

    kind: Literal["public", "rounded", "exact", "id", "part", "first", "key", "needs", "ref", "private"]
    of: str = ""


PUBLIC, ROUNDED, EXACT, OWN_ID = PrivacyRule("public"), PrivacyRule("rounded"), PrivacyRule("exact"), PrivacyRule("id")
PART, FIRST, PRIVATE = PrivacyRule("part"), PrivacyRule("first"), PrivacyRule("private")
Fields = dict[str, PrivacyRule]


def _key(of: str) -> PrivacyRule:
    return PrivacyRule("key", of)


def _needs(of: str) -> PrivacyRule:
    return PrivacyRule("needs", of)


def _ref(of: str) -> PrivacyRule:
    return PrivacyRule("ref", of)


def _public(*names: str) -> Fields:
    return dict.fromkeys(names, PUBLIC)


def _private(*names: str) -> Fields:
    return dict.fromkeys(names, PRIVATE)


_LIST: Fields = _public("name", "by", "of") | {"members": _ref("route")}
RULES: dict[type[msgspec.Struct], Fields] = {
    model.Plan: _public("format", "version", "name")
    | dict.fromkeys(("station", "names", "networks", "access", "destinations", "routes", "zones", "scans"), PART)
    | {"radios": PART, "hotspots": PART, "nets": PART}
    | _private("trips", "steps", "silenced", "evening"),
    model.Station: {"identities": FIRST, "bands": PART, "lat": ROUNDED, "lon": ROUNDED, "place": EXACT}
    | _public("region", "privacy")
    | _private("licence", "height_m", "phone", "home_wifi", "neighbours", "habits", "heard")
    | {"uses": PART},
    model.Identity: {"key": _key("identity"), "ids": PART}
    | _public("call", "dstar_call")
    | _private("name", "dstar_note", "fusion_name", "startup", "licence", "alias", "shares_licence"),
    model.RadioId: {"number": OWN_ID, "suffix": OWN_ID} | _private("label"),
    model.Licence: _private("step", "granted", "granted_on", "bands", "max_watts", "guard"),
    model.BandHeard: _private("hz", "utc", "words"),
    Habits: _private("time_out", "settings", "updates", "texts"),
    model.Phone: _private("sharing", "band_ghz", "sleeps", "platform", "menu", "page"),
    model.HomeWifi: _private("name", "band_ghz"),
    model.Neighbour: _private("hz", "other_hz", "note"),
    model.Use: _public("low_hz", "high_hz", "kind", "words", "source"),
    Band: _public(*Band.__struct_fields__),
    model.NameStyle: _public("lead", "separator", "capitals", "numbers") | {"shorts": PART},
    model.Short: _public("word", "short"),
    model.Network: {"key": _key("network"), "echo": PART, "disconnect": PART}
    | _public("name", "mode", "master", "local_group", "dial_low", "dial_high", "quiet_minutes", "prefix"),
    model.Call: _public("number", "kind"),
    model.FmAir: _public("tone_tx", "tone_rx", "width_hz", "burst"),
    model.DmrAir: {"network": _ref("network"), "static": PART, "also": _ref("network")}
    | _public("color_code", "slots", "admit", "hears"),
    model.Static: {"destination": _needs("destination")} | _public("slot"),
    model.DstarAir: {"network": _ref("network")} | _public("module", "gateway", "data"),
    model.FusionAir: {"network": _ref("network"), "mapped": PART}
    | _public("ways", "dgid_tx", "dgid_rx", "auto_mode", "node"),
    model.Mapped: {"destination": _needs("destination")} | _public("dgid"),
    model.Service: {"key": _key("service"), "air": PART} | _public("rx_hz", "tx_hz") | _private("note"),
    model.AccessPoint: {"key": _key("access"), "services": PART}
    | _public("call", "site", "kind", "place", "lat", "lon", "confirmed", "watts", "height_m")
    | _private("note", "entry", "listed"),
    model.Destination: {"key": _key("destination"), "network": _ref("network")}
    | _public("name", "kind", "number", "call", "text", "time_zone")
    | _private("radio"),
    model.Route: {"service": _needs("service"), "destination": _needs("destination"), "hears": _ref("destination")}
    | _public("slot", "name", "power", "receive_only", "promiscuous", "encrypted", "color_code", "tone_tx", "tone_rx")
    | _public("width_hz", "admit", "ur", "rpt1", "rpt2", "way", "dgid_tx", "dgid_rx"),
    model.Zone: _LIST | {"key": _key("zone")},
    model.ScanList: _LIST | {"key": _key("scan"), "priority": _ref("route")} | _public("hang_s"),
    model.OwnedRadio: {
        "key": _key("radio"),
        "identity": _needs("identity"),
        "settings": PART,
        "names": PART,
        "powers": PART,
        "style": PART,
    }
    | {"zones": _ref("zone"), "one_touch": _ref("destination"), "halves": _ref("zone"), "cut": _ref("zone")}
    | {"leave": _ref("route"), "first": _ref("route")}
    | _public("name", "profile", "school", "firmware", "hardware")
    | _private("trips", "people", "codes", "updated"),
    model.GivenCode: _private("kind", "key", "said"),
    model.PinnedName: {"route": _needs("route")} | _public("name"),
    model.PinnedPower: {"route": _needs("route")} | _public("step"),
    model.OptionSetting: _private("option", "value"),
    model.RadioSettings: {"keys": PART, "options": PART}
    | _public("time_out_s", "auto_offset", "free_tuning", "data_by_itself", "fast_data", "units")
    | _private("startup", "quick_texts", "position", "message"),
    model.KeySetting: _public("key", "press", "action"),
    model.PeopleChoice: _private(
        "countries", "regions", "within_km", "by_talk_groups", "from_log", "log_calls", "picked"
    )
    | _private("everybody", "sort"),
    model.Hotspot: {"key": _key("hotspot"), "access": _needs("access")}
    | _public("transmit_hz", "receive_hz", "color_code", "duplex")
    | _public("modem", "board", "computer", "image")
    | _private("id_label", "wifi", "rx_correction_hz", "tx_correction_hz", "startup", "time_zone", "display", "host")
    | _private("school", "locked", "readings", "listened", "proofs", "by_eye", "public_place", "about"),
    model.Reading: _private("offset_hz", "errors", "bits", "side", "day", "celsius", "left_out"),
    model.Listened: _private("hz", "day", "heard"),
    model.Proof: _private("rung", "day"),
    model.Trip: _private("key", "name", "lat", "lon", "begins", "ends", "zone", "access", "time_zone", "reminders")
    | _private("rehearsed", "packed"),
    model.Net: {"key": _key("net"), "destination": _ref("destination"), "route": _ref("route")}
    | _public("name", "time_zone", "begins", "at", "minutes", "every", "step", "days", "nth", "until", "skips")
    | _private("remind_minutes", "note"),
    model.Reminder: _private("text", "days_before", "done"),
    model.Step: _private(
        "key", "name", "low", "likely", "high", "after", "office", "waiting", "needs", "who", "started"
    )
    | _private("done"),
    model.Evening: _private("traffic", "assumed"),
    model.Traffic: _private("destination", "kind", "conversations_per_h", "overs", "over_s", "gap_s", "source"),
    model.Assumed: _private("name", "value"),
    model.Silence: _private("rule", "kind", "thing", "part", "reason"),
}
OWN_ACCESS: Fields = RULES[model.AccessPoint] | {
    "lat": ROUNDED, "lon": ROUNDED, "place": EXACT, "confirmed": PRIVATE, "watts": PRIVATE, "height_m": PRIVATE,
}  # fmt: skip
"""An access point of one's own stands where one lives: a hotspot, a simplex frequency."""
_OWN_KINDS = frozenset({"hotspot", "simplex"})
_CONVENTIONS = frozenset({"echo", "disconnect", "local", "dial"})
_PERSONS = frozenset({"private", "station"})


def rules_of(value: msgspec.Struct) -> Fields:
    """The rules of a thing's fields."""
    if isinstance(value, model.AccessPoint) and value.kind in _OWN_KINDS:
        return OWN_ACCESS
    return RULES.get(type(value), {})


def is_person(destination: model.Destination) -> bool:
    """Whether a destination is somebody: a private call or a station's call sign, not a network's echo or disconnect."""
    if destination.kind in _PERSONS:
        return True
    return destination.call == "private" and destination.kind not in _CONVENTIONS


def is_withheld(value: Any) -> bool:
    """Whether a whole thing is left out: other people, and routes that a hand pointed at somebody's station."""
    if isinstance(value, model.Destination):
        return is_person(value)
    return isinstance(value, model.Route) and value.ur is not None and read_ur(value.ur).kind == "station"


def parts_of(plan: type[Value] = model.Plan) -> set[type[msgspec.Struct]]:
    """Every kind of thing that a plan may hold, for checking that each of its fields has a rule."""
    found: set[type[msgspec.Struct]] = set()
    open_types: list[Any] = [msgspec.inspect.type_info(plan)]
    while open_types:
        info = open_types.pop()
        if isinstance(info, msgspec.inspect.StructType):
            if info.cls in found:
                continue
            found.add(info.cls)
            open_types += [field.type for field in info.fields]
        open_types += getattr(info, "types", ())
        open_types += [item for item in (getattr(info, "item_type", None),) if item is not None]
        open_types += getattr(info, "item_types", ())
    return found
