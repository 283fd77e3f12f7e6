"""What plan, radio and hotspot must agree on: each field once, with its kind, its words, and what one notices when it differs."""

import re
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, parse_hz
from umbra_awl.core.keep.toml_form import from_toml

Kind = Literal["hz", "offset", "number", "call", "text", "yes", "list", "secret"]
YES = frozenset({"1", "yes", "true", "on", "enabled", "enable", "duplex", "set"})
NO = frozenset({"", "0", "no", "false", "off", "disabled", "disable", "simplex", "default"})


class MatchField(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A field. `asks` are words by which others call it; `radio` whether a radio has a say in it."""

    key: str
    words: str
    kind: Kind
    notice: str
    asks: tuple[str, ...] = ()
    radio: bool = False


class _File(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    field: tuple[MatchField, ...]
    format: str
    version: int


def _shipped() -> tuple[MatchField, ...]:
    text = Path(__file__).with_name("fields.toml").read_text("utf-8")
    return from_toml(text, _File, ("umbra-awl match fields", 1), "fields.toml", ValueError).field


FIELDS: tuple[MatchField, ...] = _shipped()
BY_KEY = {item.key: item for item in FIELDS}
Values = dict[str, str]
"""Field to its value as text: hertz, numbers, words; lists joined by blanks; a field that is not told is not there."""


def same(field: MatchField, one: str, other: str) -> bool:
    """Whether two values of a field mean the same."""
    return plain(field, one) == plain(field, other)


_BOTH = frozenset({"both", "all", "beide", "les deux", "ambos", "entrambi"})


def plain(field: MatchField, text: str) -> str:
    """A value as it is compared: hertz as digits, yes and no, lists in order, blanks at the end left out."""
    if field.kind == "hz":
        return _hertz(text)
    if field.kind in {"offset", "number"}:
        found = re.fullmatch(r"\s*([+\-−]?)0*(\d+)(?:\.0*)?\s*(?:hz)?\s*", text, re.IGNORECASE)
        return f"{'-' if found[1] in {'-', '−'} and found[2] != '0' else ''}{found[2]}" if found else text.strip()
    if field.kind in {"yes", "secret"}:
        return "yes" if text.strip().lower() in YES else "no" if text.strip().lower() in NO else text.strip()
    if field.kind == "list":
        return _list(text, slots=field.key == "slot")
    if field.kind == "call":
        return text.strip().upper()
    return text.rstrip() if field.key in {"rpt1", "rpt2"} else text.strip()


def _list(text: str, *, slots: bool) -> str:
    if slots:
        return "1 2" if text.strip().casefold() in _BOTH else " ".join(sorted(set(re.findall(r"\d+", text))))
    return " ".join(sorted(set(re.split(r"[\s,;/+'\"\[\](){}]+", text.lower())) - {"", "and"}))


def _hertz(text: str) -> str:
    plain_text = text.strip()
    if plain_text.isdecimal() and len(plain_text) >= 7:
        return str(int(plain_text))
    try:
        return str(parse_hz(plain_text))
    except FrequencyError:
        return plain_text


def shown(field: MatchField, text: str) -> str:
    """A value as it is shown."""
    if field.kind == "hz":
        told = _hertz(text)
        return format_mhz(int(told)) if told.isdecimal() else text
    if field.kind == "offset":
        told = plain(field, text)
        return f"{int(told):+d} Hz" if told.lstrip("-").isdecimal() else text
    if field.kind == "secret":
        return {"yes": "set", "no": "the default"}.get(plain(field, text), "set")
    if field.key == "slot":
        return plain(field, text) or text
    if field.key == "duplex":
        return {"yes": "duplex", "no": "simplex"}.get(plain(field, text), text)
    return text.replace(" ", "␣") if field.key in {"rpt1", "rpt2"} else text
