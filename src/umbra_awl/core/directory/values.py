"""Single values as directories write them: frequencies in any unit, offsets in numbers or words, modes, dates, numbers.

A value that had to be mended comes with how; one that cannot be used raises ValueError with a sentence.
"""

import re
from datetime import date
from typing import Literal, NamedTuple

from umbra_awl.core.facts.frequency import FrequencyError, parse_hz, parse_offset_hz
from umbra_awl.core.facts.tones import ToneError, parse_tone
from umbra_awl.core.plan.model import Mode

_UNITLESS = re.compile(r"\d+([.,]\d+)*")
_MODE_WORDS: tuple[tuple[str, Mode], ...] = (
    (r"\bdmr\b|\btier ?2\b|\btier ?ii\b", "dmr"),
    (r"\bd-?\s?star\b|\bdv\b", "dstar"),
    (r"\bc4fm\b|\bfusion\b|\bsystem fusion\b|\bsf\b", "fusion"),
    (r"(?<!c4)\bn?w?fm\b|\banalog\w*\b|\bf3e\b", "fm"),
)


def parse_any_hz(text: str) -> int:
    """Hertz from a frequency in Hz, kHz or MHz; without a unit the size tells which. Raises FrequencyError."""
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


class Offset(NamedTuple):
    """What an offset's text says: its sign (0 simplex, None not told) and its size in hertz (None not told)."""

    sign: int | None
    size_hz: int | None


_SIMPLEX = re.compile(r"(simplex|none|off|no|s|0+([.,]0+)?|0?\s*[mk]?hz|−|–|/)", re.IGNORECASE)
_MINUS = re.compile(r"(?:\bdup|\bduplex|\bshift)?\s*[-−–]|minus|neg\w*|\bdown\b", re.IGNORECASE)
_PLUS = re.compile(r"\+|plus|pos\w*|\bup\b", re.IGNORECASE)


def parse_offset(text: str) -> Offset:
    """The offset in a text such as “-7,6”, “600 kHz minus”, “DUP-”, “simplex”, “-7600”. Raises ValueError."""
    plain = text.strip()
    if not plain:
        return Offset(None, None)
    if _SIMPLEX.fullmatch(plain):
        return Offset(0, 0)
    sign = -1 if _MINUS.search(plain) else 1 if _PLUS.search(plain) else None
    number = re.search(r"\d+(?:[.,]\d+)?\s*(?:[kmg]?hz)?", plain, re.IGNORECASE)
    if number is None:
        if sign is None:
            raise ValueError(f"“{plain}” is no offset: neither a size nor plus, minus or simplex.")
        return Offset(sign, None)
    return Offset(sign, _size_hz(number[0].strip()))


def _size_hz(text: str) -> int:
    try:
        if re.search(r"hz", text, re.IGNORECASE):
            return parse_offset_hz(text)
        value = float(text.replace(",", "."))
        return parse_offset_hz(f"{text} {'MHz' if value < 100 else 'kHz' if value < 100_000 else 'Hz'}")
    except FrequencyError as error:
        raise ValueError(str(error)) from None


def parse_modes(text: str) -> list[Mode]:
    """The modes named in a text such as “FM/DMR” or “C4FM”, in a fixed order; empty when none is."""
    plain = text.lower().replace("_", " ")
    return [mode for pattern, mode in _MODE_WORDS if re.search(pattern, plain)]


class Opens(NamedTuple):
    """What opens an access point: a tone or a color code, whichever the text says; `mended` tells what was changed."""

    tone: str | None = None
    color_code: int | None = None
    mended: str = ""


def parse_opens(text: str, dmr: bool) -> Opens:
    """A tone or color code from one column: “CC6”, “6” (on DMR), “103,5”, “D023N”. Raises ValueError."""
    plain = text.strip()
    code = re.fullmatch(r"(?:cc|color code|colour code)?\s*[:=]?\s*(\d{1,2})(?:\.0)?", plain, re.IGNORECASE)
    if code and (dmr or not plain[0].isdigit()):
        return Opens(color_code=int(code[1]))
    if not plain or plain.lower() in {"-", "–", "none", "no", "carrier", "csq"}:
        return Opens()
    try:
        return Opens(tone=parse_tone(re.sub(r"^(ctcss|pl|tone|t)\s*", "", plain, flags=re.IGNORECASE)))
    except ToneError as error:
        raise ValueError(str(error)) from None


def parse_day(text: str, *, day_first: bool = True) -> str:
    """An ISO date from a date in any usual order; empty for an empty text. Raises ValueError."""
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
