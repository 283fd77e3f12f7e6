"""Readings of a hotspot in the plan: typed in, taken from its log, put aside; and the correction that follows from them."""

import re
from collections.abc import Iterable

from msgspec.structs import replace

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.calibrate.model import BITS_A_SECOND
from umbra_awl.core.hotspot.logs.reading import HeardCall
from umbra_awl.core.plan.edit.edits import Edit, set_fields, together
from umbra_awl.core.plan.model import Hotspot, Reading, Side
from umbra_awl.core.plan.parts import HOTSPOTS

MOST_READINGS = 400
_MOST_BER = 50.0
"""Per cent: as many wrong bits as tossing a coin gives. What says more counts something else."""
USUAL_SECONDS = 3.0
_NOTHING = frozenset({"-", "–", "none", "nothing", "no"})
_SIDE_FIELD: dict[Side, str] = {"receive": "rx_correction_hz", "transmit": "tx_correction_hz"}
SIDE_WORDS: dict[Side, str] = {"receive": "hearing", "transmit": "sending"}


class ReadingError(ValueError):
    """A text that is no reading; the message says why and what would be."""


def parse_reading(offset: str, rate: str, seconds: str, side: Side, day: str, celsius: str = "") -> Reading:
    """A typed reading: offset in hertz, rate in per cent (“–” where nothing was decoded), seconds keyed. Raises ReadingError."""
    plain = offset.strip().replace("−", "-").removesuffix("Hz").strip()
    if re.fullmatch(r"[+-]?\d{1,4}", plain) is None:
        raise ReadingError(f"“{offset.strip()[:20]}” is no offset. Type hertz, for example -150.")
    keyed = _number(seconds or f"{USUAL_SECONDS:g}", "seconds", 0.5, 600)
    warm = _number(celsius, "a temperature", -40, 80) if celsius.strip() else None
    if rate.strip().lower() in _NOTHING:
        return Reading(int(plain), 0, 0, side, day, warm)
    share = _number(rate.strip().removesuffix("%"), "a rate in per cent", 0, 50) / 100
    bits = round(keyed * BITS_A_SECOND)
    return Reading(int(plain), round(bits * share), bits, side, day, warm)


def _number(text: str, what: str, low: float, high: float) -> float:
    try:
        found = float(text.strip().replace(",", "."))
    except ValueError:
        raise ReadingError(f"“{text.strip()[:20]}” is not {what}.") from None
    if not low <= found <= high:
        raise ReadingError(f"{found:g} is not {what}: {low:g} to {high:g}.")
    return found


def from_overs(overs: Iterable[HeardCall], held: Iterable[Reading], day: str) -> tuple[Reading, ...]:
    """Readings of the receive side out of own overs in a log, oldest first; those that are held already are left out.

    Only overs whose line tells the offset count: what it was set to then cannot be known otherwise.
    """
    there = {(item.offset_hz, item.errors, item.bits) for item in held}
    made: list[Reading] = []
    for over in reversed(tuple(overs)):
        if over.ber is None or over.offset_hz is None or abs(over.offset_hz) > 9_999 or not 0 <= over.ber <= _MOST_BER:
            continue
        bits = min(over.bits or round(over.seconds * BITS_A_SECOND), 10**7)
        reading = Reading(over.offset_hz, round(bits * over.ber / 100), bits, "receive", over.when[:10] or day)
        if bits > 0 and (reading.offset_hz, reading.errors, reading.bits) not in there:
            made.append(reading)
    return tuple(made)


def of_side(hotspot: Hotspot, side: Side) -> tuple[Reading, ...]:
    """The readings of one side."""
    return tuple(item for item in hotspot.readings if item.side == side)


def add_readings(hotspot: Hotspot, readings: Iterable[Reading]) -> Edit:
    """Add readings; only the latest 400 are kept."""
    made = tuple(readings)
    kept = (*hotspot.readings, *made)[-MOST_READINGS:]
    return set_fields(HOTSPOTS, hotspot.key, f"Add {counted(len(made), 'reading')}", readings=kept)


def leave_out(hotspot: Hotspot, reading: Reading) -> Edit:
    """Put a reading aside, or count it again."""
    kept = tuple(replace(item, left_out=not item.left_out) if item is reading else item for item in hotspot.readings)
    word = "Count" if reading.left_out else "Leave out"
    return set_fields(HOTSPOTS, hotspot.key, f"{word} the reading at {reading.offset_hz:+d} Hz", readings=kept)


def begin_anew(hotspot: Hotspot, side: Side) -> Edit:
    """Take the readings of one side out: another board, another temperature."""
    kept = tuple(item for item in hotspot.readings if item.side != side)
    return set_fields(HOTSPOTS, hotspot.key, f"Begin the readings of {SIDE_WORDS[side]} anew", readings=kept)


def take_center(hotspot: Hotspot, side: Side, center_hz: float) -> Edit:
    """Set the correction of one side to an offset, in hertz."""
    hz = round(center_hz)
    sentence = f"Correct {SIDE_WORDS[side]} by {hz:+d} Hz"
    return together(sentence, [set_fields(HOTSPOTS, hotspot.key, sentence, **{_SIDE_FIELD[side]: hz})])
