"""What the values of a column say of it: which of them a field could hold, and what that speaks for where no heading does."""

import re
from collections.abc import Callable

from umbra_awl.core.directory.lists.layout import What
from umbra_awl.core.directory.lists.sides import is_frequency
from umbra_awl.core.directory.lists.values import is_status, on_air
from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.earth import PositionError, parse_locator, parse_position
from umbra_awl.core.facts.modes import modes_in
from umbra_awl.core.facts.shift import ShiftError, read_direction, read_shift
from umbra_awl.core.facts.tone_kinds import read_code, tone_kind_of
from umbra_awl.core.facts.tones import ToneError, is_burst, is_no_tone, parse_tone
from umbra_awl.core.facts.width import parse_width

MOST_VALUES = 0.8
_SURE = 58.0


def share_of(values: list[str], holds: Callable[[str], object]) -> float:
    """The share of values that hold something, 0 to 1."""
    return sum(1 for value in values if holds(value)) / len(values) if values else 0.0


_LARGEST_SHIFT_HZ = 50_000_000


def _is_locator(text: str) -> bool:
    try:
        parse_locator(text)
    except PositionError:
        return False
    return len(text) >= 4


_ONE_NUMBER = re.compile(r"[+\-−]?\d{1,3}[.,]\d+")


def _is_pair(text: str) -> bool:
    if _ONE_NUMBER.fullmatch(text):  # “46,52” is one angle with a decimal comma, though it might be two whole ones
        return False
    try:
        parse_position(text)
    except PositionError:
        return False
    return not _is_locator(text)


def _is_call(text: str) -> bool:
    return not call_sign_fault(tidy_call_sign(text)) and not _is_locator(text)


def _is_shift(text: str) -> bool:
    try:
        found = read_shift(text)
    except ShiftError:
        return False
    return found.size_hz is None or found.size_hz < _LARGEST_SHIFT_HZ


def _is_size(text: str) -> bool:
    """A shift with its size; where all only tell the direction, it is a column of directions, whatever it is called."""
    return any(map(str.isdigit, text)) and _is_shift(text)


def _is_direction(text: str) -> bool:
    try:
        return read_direction(text).size_hz in {None, 0}
    except ShiftError:
        return False


def _is_tone(text: str) -> bool:
    try:
        return parse_tone(text) != "" and not is_frequency(text)
    except ToneError:
        return is_burst(text)


def _is_code(text: str) -> bool:
    try:
        return read_code(text[:80]) != ""
    except ToneError:
        return False


_NUMBERLIKE = re.compile(r"[+\-−]?\d{1,3}([.,]\d+)?")


def _is_angle(text: str) -> bool:
    return bool(re.fullmatch(r"\s*[NSEWO]?\s*[+\-−]?\d{1,3}\D?.*", text))


TESTS: dict[str, Callable[[str], object]] = {
    "rx": is_frequency,
    "tx": is_frequency,
    "call": _is_call,
    "locator": _is_locator,
    "position": _is_pair,
    "lat": _is_angle,
    "lon": _is_angle,
    "mode": lambda text: modes_in(text[:80]),
    "id": lambda text: re.fullmatch(r"\d{6,9}", text),
    "number": lambda text: re.fullmatch(r"\d{1,8}", text),
    "sign": _is_direction,
    "color_code": lambda text: re.fullmatch(r"(cc)?\s*\d{1,2}", text, re.IGNORECASE),
    "opens": lambda text: re.fullmatch(r"(cc\s*\d{1,2}|d\d{3}\w?|\d{2,3}[.,]\d)", text, re.IGNORECASE),
    "confirmed": lambda text: re.search(r"\d{4}|\d{1,2}[./]\d{1,2}[./]\d{2}", text),
    "tone": lambda text: _is_tone(text) or is_no_tone(text),
    "tone_rx": lambda text: _is_tone(text) or is_no_tone(text),
    "tone_kind": tone_kind_of,
    "code": _is_code,
    "code_sense": lambda text: re.fullmatch(r"[NIR]{1,2}|norm\w*|inv\w*|rev\w*", text, re.IGNORECASE),
    "lat_side": lambda text: text.strip().upper() in {"N", "S"},
    "lon_side": lambda text: text.strip().upper() in {"E", "W", "O"},
    "status": lambda text: on_air(text) is not None,
    "module": lambda text: re.fullmatch(r"[A-Z]", text),
    "dgid": lambda text: re.fullmatch(r"\d{1,2}", text),
    "offset": _is_size,
    "height": _NUMBERLIKE.match,
    "watts": _NUMBERLIKE.match,
    "width": lambda text: parse_width(text[:80]) is not None,
}
SPEAKING = {
    "lat_side": 40.0,
    "lon_side": 40.0,
    "rx": 66.0,
    "tone": 60.0,
    "call": 66.0,
    "locator": 66.0,
    "position": 60.0,
    "id": 50.0,
    "mode": 62.0,
}
"""What values alone say where the heading says nothing; the others need a heading."""


def evidence(field: str, values: list[str], what: What) -> float:
    """Points for or against, from the values."""
    test = TESTS.get(field)
    if test is None or not values:
        return 0.0
    share = share_of(values, test)
    if share < 0.3:
        return -70.0
    if field == "status" and share_of(values, is_status) >= MOST_VALUES:
        return _SURE
    points = SPEAKING.get(field, 8.0) * share
    return points if what != "people" or field != "locator" else 0.0
