"""Frequencies as integer hertz: reading what people type, printing what they can compare."""

import re

from umbra_awl.core.facts.late_pattern import LatePattern

LOWEST_HZ = 100_000
HIGHEST_HZ = 4_000_000_000
_SHAPE = LatePattern(r"([+\-−]?)\s*(\d[\d \u00a0_]*)(?:[.,](\d+))?\s*([a-z]*)", re.IGNORECASE)
_UNIT_HZ = {"": 1_000_000, "mhz": 1_000_000, "m": 1_000_000, "khz": 1_000, "k": 1_000, "hz": 1, "ghz": 1_000_000_000}


class FrequencyError(ValueError):
    """A text that is not a frequency; the message says why and what would be."""


def parse_hz(text: str) -> int:
    """Hertz from a typed frequency; MHz when no unit is given, decimal point or comma.

    Raises FrequencyError with a sentence for the operator.
    """
    hz = _signed_hz(text)
    if not LOWEST_HZ <= hz <= HIGHEST_HZ:
        raise FrequencyError(
            f"“{text.strip()}” is {hz} Hz, outside 0.1 to 4000 MHz. Type megahertz, for example 145.7125."
        )
    return hz


def parse_offset_hz(text: str) -> int:
    """Hertz, signed, from a typed offset such as “-7.6” or “+600 kHz”; MHz when no unit is given."""
    hz = _signed_hz(text)
    if abs(hz) > 100_000_000:
        raise FrequencyError(f"“{text.strip()}” is an offset of more than 100 MHz. Type megahertz, for example -7.6.")
    return hz


def _signed_hz(text: str) -> int:
    shape = _SHAPE.fullmatch(text.strip())
    if shape is None:
        raise FrequencyError(
            f"“{text.strip()}” is not a frequency. Type megahertz, for example 145.7125 or 145,7125 MHz."
        )
    sign, whole, decimals, unit = shape.groups()
    per_unit = _UNIT_HZ.get(unit.lower())
    if per_unit is None:
        raise FrequencyError(f"“{unit}” is not a unit of frequency. Use Hz, kHz, MHz or GHz.")
    digits = re.sub(r"\D", "", whole)
    scaled = int(digits + (decimals or "")) * per_unit
    parts: int = 10 ** len(decimals or "")
    hz, rest = divmod(scaled, parts)
    if rest:
        raise FrequencyError(f"“{text.strip()}” is finer than one hertz. Leave out the last digits.")
    return -hz if sign in {"-", "−"} else hz


def format_mhz(hz: int) -> str:
    """Megahertz with four decimals, more only where the value needs them: 145712500 → “145.7125”."""
    whole, rest = divmod(hz, 1_000_000)
    decimals = f"{rest:06d}"
    return f"{whole}.{decimals[:4]}{decimals[4:].rstrip('0')}"


def format_offset(hz: int) -> str:
    """Signed megahertz of an offset: -7600000 → “−7.6000”; zero has no sign."""
    sign = "+" if hz > 0 else "−" if hz < 0 else ""
    return sign + format_mhz(abs(hz))
