"""Which key of somebody's settings is which of our fields: by the words people use, and by what the value looks like."""

import re
from collections.abc import Collection, Iterable
from itertools import islice

from rapidfuzz import fuzz

from umbra_awl.core.facts.frequency import FrequencyError, parse_hz
from umbra_awl.core.hotspot.match.fields import FIELDS, MatchField, Values, same
from umbra_awl.core.hotspot.match.layout import SettingKey, Unit
from umbra_awl.core.plan.model import Mode

ENOUGH = 74.0
MOST_GUESSED = 800
"""No hotspot has more settings; of a longer file the first ones are looked at."""
_MODES: dict[str, Mode] = {
    "dmr": "dmr",
    "dstar": "dstar",
    "d-star": "dstar",
    "fusion": "fusion",
    "c4fm": "fusion",
    "fm": "fm",
}
_ON = frozenset({"0", "1", "true", "false", "yes", "no", "on", "off"})
_VALUE_BONUS, _VALUE_MALUS = 14.0, 30.0


def guess_keys(pairs: dict[str, str], planned: Values | None = None) -> tuple[SettingKey, ...]:
    """A key for each field that is found, each used once; switches of single modes besides.

    `planned` are the values that the plan has for this very hotspot: a key that holds one of them is the best evidence there is,
    the likeness of words the weakest.
    """
    wanted = planned or {}
    held = {
        (field.key, name): _holds(field, value, wanted.get(field.key, ""))
        for field in FIELDS
        for name, value in islice(pairs.items(), MOST_GUESSED)
    }
    others = of_other_sections(pairs, {name for (_field, name), points in held.items() if points >= _SURE})
    rated = [
        (_score(field, name, pairs[name]) + held[field.key, name], at, field, name)
        for at, field in enumerate(FIELDS)
        for name in islice(pairs, MOST_GUESSED)
        if name not in others
    ]
    rated.sort(key=lambda item: (-item[0], item[1]))
    made: dict[str, SettingKey] = {}
    used: set[str] = set()
    for score, _at, field, name in rated:
        if (
            score < ENOUGH
            or field.key in made
            or name in used
            or (field.kind == "hz" and not _unit(field, pairs[name]))
        ):
            continue
        made[field.key] = SettingKey(field.key, name, _unit(field, pairs[name]), asked=True)
        used.add(name)
    switches = [SettingKey("modes", name, mode=mode, asked=True) for name, mode in _switches(pairs) if name not in used]
    return (*made.values(), *(switches if "modes" not in made else ()))


_NUMBERED = re.compile(r"(\d+|\b[A-Za-z])$")
"""How sections that are alike differ: “0” and “1”, “Spot 1” and “Spot 2”, “Radio A” and “Radio B”."""


def of_other_sections(pairs: Iterable[str], sure: Collection[str]) -> set[str]:
    """The keys of sections that are like one that surely is this hotspot's: they are another one's. `sure` are keys of it."""
    alike: dict[str, dict[str, list[str]]] = {}
    for name in pairs:
        parts = name.split(".")
        for depth in range(1, len(parts)):
            section = ".".join(parts[:depth])
            if (shape := _NUMBERED.sub("#", section)) != section:
                alike.setdefault(shape, {}).setdefault(section, []).append(name)
    found: set[str] = set()
    for sections in alike.values():
        mine = [section for section, names in sections.items() if any(name in sure for name in names)]
        if len(mine) == 1:
            found.update(name for section, names in sections.items() if section != mine[0] for name in names)
    return found


_SURE, _HINT = 70.0, 12.0
_TELLING = frozenset({"hz", "call"})


def _holds(field: MatchField, value: str, planned: str) -> float:
    """Points for a key that holds what is planned: many where hardly anything else has such a value, few where much has."""
    if not planned or not value.strip() or field.kind == "secret":
        return 0.0
    if field.kind == "hz":
        return _SURE if (unit := _unit(field, value)) and same(field, f"{value.strip()} {unit}", planned) else 0.0
    if not same(field, value, planned):
        return 0.0
    bare = planned.strip().lstrip("+-0")
    least = _MOST_COMMON_DIGITS - (field.kind == "offset") if bare.isdecimal() else _MOST_COMMON_LETTERS
    telling = field.kind in _TELLING or len(bare) >= least
    return _SURE if telling else _HINT


_MOST_COMMON_DIGITS, _MOST_COMMON_LETTERS = 3, 5
"""Numbers and words that are as long are hardly anything else's; a correction of two digits neither."""


def _tokens(name: str) -> str:
    parted = re.sub(r"([a-z])([A-Z])", r"\1 \2", name)
    return re.sub(r"[\W_]+", " ", parted).strip().lower()


def _score(field: MatchField, name: str, value: str) -> float:
    told = _tokens(name)
    last = _tokens(name.rpartition(".")[2])
    joined = last.replace(" ", "")
    asked = max(
        max(fuzz.ratio(ask, last), fuzz.ratio(ask.replace(" ", ""), joined), 0.9 * fuzz.token_set_ratio(ask, told))
        for ask in (field.words.lower(), *field.asks)
    )
    fits = _fits(field, value)
    return asked + (_VALUE_BONUS if fits else -_VALUE_MALUS if fits is False else 0.0)


_SHAPES = {
    "offset": re.compile(r"[+-]?\d{1,5}"),
    "call": re.compile(r"[A-Za-z0-9]{1,3}\d[A-Za-z]{1,4}"),
    "yes": re.compile("|".join((*_ON, "duplex", "simplex")), re.IGNORECASE),
    "id": re.compile(r"\d{6,9}"),
    "number": re.compile(r"\d{1,2}"),
    "module": re.compile("[A-Za-z]"),
    "modes": re.compile(r".*(dmr|d-?star|fusion|c4fm).*", re.IGNORECASE),
}


def _fits(field: MatchField, value: str) -> bool | None:
    """Whether a value looks like one of a field; None where nothing can be told."""
    text = value.strip()
    if field.kind == "hz" and text:
        return _unit(field, text) != ""
    shape = _SHAPES.get(field.key, _SHAPES.get(field.kind))
    return shape.fullmatch(text) is not None if shape is not None and text else None


def _unit(field: MatchField, value: str) -> Unit:
    """The unit in which a frequency is written, by its size."""
    if field.kind != "hz":
        return ""
    text = value.strip()
    for unit, low, high in (("Hz", 1e8, 1.3e9), ("kHz", 1e5, 1.3e6), ("MHz", 100, 1_300)):
        try:
            if low <= float(text) < high:
                parse_hz(f"{text} {unit}")
                return unit  # type: ignore[return-value]
        except (ValueError, FrequencyError):
            return ""
    return ""


def _switches(pairs: dict[str, str]) -> list[tuple[str, Mode]]:
    """Keys that switch one mode on: named after it, with a value of yes or no."""
    made: list[tuple[str, Mode]] = []
    for name, value in pairs.items():
        words = _tokens(name).replace("d star", "dstar").split()
        mode = next((_MODES[word] for word in words if word in _MODES), None)
        named_so = words[-1:] in (["enable"], ["enabled"], ["on"]) or (len(words) <= 2 and words[-1] in _MODES)
        if mode is not None and named_so and value.strip().lower() in _ON and all(mode != held for _name, held in made):
            made.append((name, mode))
    return made
