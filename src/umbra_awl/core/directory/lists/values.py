"""Single values as directories write them: frequencies in any unit, modes, what opens, dates, numbers.

A value that had to be mended comes with how; one that cannot be used raises ValueError with a sentence.
"""

import re
from datetime import date
from functools import lru_cache
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import FrequencyError, parse_hz
from umbra_awl.core.facts.tones import ToneError, is_no_tone, parse_tone

_LONGEST = 80
"""What is read is remembered, so nothing longer than any such value is."""
_UNITLESS = re.compile(r"\d+([.,]\d+)*")


@lru_cache(maxsize=16_384)
def parse_any_hz(text: str) -> int:
    """Hertz from a frequency in Hz, kHz or MHz; without a unit the size tells which. Raises FrequencyError."""
    if len(text) > _LONGEST:
        raise FrequencyError(f"“{text[:20]} …” is too long for a frequency.")
    plain = text.strip().replace("\u00a0", " ").replace("'", "")
    bare = plain.replace(" ", "")
    if not _UNITLESS.fullmatch(bare):
        return parse_hz(plain)
    marks = re.findall(r"[.,]", bare)
    if len(marks) > 1:  # 438.612.500, or 438,612.5
        last = marks[-1]
        whole = all(len(part) == 3 for part in re.split(r"[.,]", bare)[1:]) and len(set(marks)) == 1
        bare = re.sub(r"[.,]", "", bare) if whole else re.sub(r"[.,](?=.*[.,])", "", bare).replace(last, ".")
    value = float(bare.replace(",", "."))
    unit = "MHz" if value < 10_000 else "kHz" if value < 10_000_000 else "Hz"
    return parse_hz(f"{bare} {unit}")


class Opens(NamedTuple):
    """What opens an access point: a tone or a color code, whichever the text says; `mended` tells what was changed."""

    tone: str | None = None
    color_code: int | None = None
    mended: str = ""


@lru_cache(maxsize=4_096)
def parse_opens(text: str, dmr: bool) -> Opens:
    """A tone or color code from one column: “CC6”, “6” (on DMR), “103,5”, “D023N”. Raises ValueError."""
    if len(text) > _LONGEST:
        raise ValueError(f"“{text[:20]} …” is too long for a tone or a color code.")
    plain = text.strip()
    code = re.fullmatch(r"(?:cc|color code|colour code)?\s*[:=]?\s*(\d{1,2})(?:\.0)?", plain, re.IGNORECASE)
    if code and (dmr or not plain[0].isdigit()):
        return Opens(color_code=int(code[1]))
    if is_no_tone(plain):
        return Opens()
    try:
        return Opens(tone=parse_tone(plain))
    except ToneError as error:
        raise ValueError(str(error)) from None


@lru_cache(maxsize=16_384)
def parse_day(text: str, *, day_first: bool = True) -> str:
    """An ISO date from a date in any usual order; empty for an empty text. Raises ValueError."""
    if len(text) > _LONGEST:
        raise ValueError(f"“{text[:20]} …” is too long for a date.")
    plain = text.strip()
    if not plain:
        return ""
    of_month = re.fullmatch(r"(\d{1,2})[-/.](\d{4})", plain)
    if of_month:
        plain = f"{of_month[2]}-{of_month[1]}"
    year_only = re.fullmatch(r"(19|20)\d\d", plain)
    if year_only:
        return f"{plain}-01-01"
    found = re.match(r"(\d{4})[-/.](\d{1,2})(?:[-/.](\d{1,2}))?", plain)
    if found:
        parts = (int(found[1]), int(found[2]), int(found[3] or 1))
    else:
        other = re.match(r"(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+(\d{2,4})", plain)
        if other is None:
            raise ValueError(f"“{plain[:30]}” is not a date. Dates read like 2026-11-24 or 24.11.2026.")
        one, two, year = int(other[1]), int(other[2]), int(other[3])
        day, month = (one, two) if (day_first and two <= 12) or one > 12 else (two, one)
        parts = (year + 2000 if year < 100 else year, month, day)
    try:
        return date(*parts).isoformat()
    except ValueError:
        raise ValueError(f"“{plain[:30]}” is a day that does not exist.") from None


def parse_amount(text: str) -> float | None:
    """A number with an optional unit, decimal point or comma; None when there is none."""
    found = re.search(r"\d+(?:[.,]\d+)?", text)
    return float(found[0].replace(",", ".")) if found else None


_OFF_THE_AIR = re.compile(
    r"\b(off|off[- ]air|off the air|offline|inactive|inaktiv|inactif|inactivo|inattivo|inativo|down|closed|qrt|silent|dead|"
    r"defunct|out of service|ausser betrieb|au(ß|ss)er betrieb|hors service|fuera de servicio|fuori servizio|buiten dienst|"
    r"planned|geplant|proposed|test only|suspended|no|nein|non|nee)\b"
)
_ON_THE_AIR = re.compile(
    r"\b(on|on[- ]air|on the air|online|active|aktiv|actif|activo|attivo|ativo|actief|up|operational|in betrieb|in service|"
    r"en service|en servicio|in servizio|in dienst|live|ok|qrv|yes|ja|oui|si|sim)\b"
)


_NAUGHT, _TICKED = frozenset({"0", "0.0", "false", "f", "n", "✗"}), frozenset({"1", "1.0", "true", "t", "y", "x", "✓"})


def on_air(text: str) -> bool | None:
    """Whether a text says that a repeater is on the air; None where it says neither."""
    plain = text.strip().casefold()[:_LONGEST]
    if plain in _NAUGHT or _OFF_THE_AIR.search(plain):
        return False
    return True if plain in _TICKED or _ON_THE_AIR.search(plain) else None


_SAYS_OFF = re.compile(
    r"\b(off[- ]?air|off the air|out of (service|order)|not (on the air|in service|working|operational)|no longer on|qrt|defunct|"
    r"silent since|shut down|switched off|closed down|ausser betrieb|au(ß|ss)er betrieb|abgeschaltet|defekt|hors service|arrêté|"
    r"fuera de servicio|fuori servizio|spento|buiten dienst|fora de serviço|inativo|under repair|in repair)\b"
)


def says_off(text: str) -> bool:
    """Whether free words say that a repeater is off the air; a word such as “no” or “down” alone does not."""
    return _SAYS_OFF.search(text.strip().casefold()[:400]) is not None


def is_status(text: str) -> bool:
    """Whether a text alone, without a heading, says that something is or is not on the air."""
    return says_off(text) or text.strip().casefold() in {"qrv", "on air", "on the air", "on-air", "in service"}


SiteKind = Literal["repeater", "hotspot", "simplex"]


def parse_kind(text: str) -> SiteKind:
    """Repeater unless the text says otherwise."""
    plain = text.lower()
    return (
        "hotspot"
        if "hotspot" in plain or "spot" in plain
        else "simplex"
        if "simplex" in plain or "calling" in plain
        else "repeater"
    )
