"""The standard CTCSS tones and DCS codes, as texts such as “103.5”, “D023N” and “D023I”.

Source: TIA-603 (50 CTCSS tones from 67.0 to 254.1 Hz; octal DCS codes, normal or inverted).
"""

import re

from umbra_awl.core.facts.late_pattern import LatePattern

CTCSS: tuple[str, ...] = tuple(
    """
    67.0 69.3 71.9 74.4 77.0 79.7 82.5 85.4 88.5 91.5 94.8 97.4 100.0 103.5 107.2 110.9 114.8 118.8 123.0 127.3
    131.8 136.5 141.3 146.2 151.4 156.7 159.8 162.2 165.5 167.9 171.3 173.8 177.3 179.9 183.5 186.2 189.9 192.8
    196.6 199.5 203.5 206.5 210.7 218.1 225.7 229.1 233.6 241.8 250.3 254.1
    """.split()
)
DCS_CODES: tuple[str, ...] = tuple(
    """
    023 025 026 031 032 036 043 047 051 053 054 065 071 072 073 074 114 115 116 122 125 131 132 134 143 145 152
    155 156 162 165 172 174 205 212 223 225 226 243 244 245 246 251 252 255 261 263 265 266 271 274 306 311 315
    325 331 332 343 346 351 356 364 365 371 411 412 413 423 431 432 445 446 452 454 455 462 464 465 466 503 506
    516 523 526 532 546 565 606 612 624 627 631 632 654 662 664 703 712 723 731 732 734 743 754
    """.split()
)
DCS: tuple[str, ...] = tuple(f"D{code}{sense}" for code in DCS_CODES for sense in "NI")
TONES: tuple[str, ...] = ("", *CTCSS, *DCS)
_INDEX = {tone: number for number, tone in enumerate(TONES)}


NO_TONE = frozenset(
    """
    - – — / . 0 0.0 none no off nil n/a na open csq carrier aus kein keine keiner ohne non aucun aucune sans sin ninguno
    ninguna no-tone senza nessuno nessuna sem nenhum nenhuma geen zonder ingen utan uden brak bez
    """.split()
) | {""}
"""How people write in a column of tones that there is none."""
_WITHOUT = frozenset("no none without ohne kein keine sans sin senza sem geen zonder carrier open".split())
_FEW_WORDS = 3
_CODED = LatePattern(
    r"R?D|0\d\d\s*-?\s*(?:[NIR]|INV|NORM|REV|$)|[1-5]\d$|6[0-6]$|DPL|\d{3}\s*-?\s*(?:[NIR]\b|INV|NORM|REV)"
)
_DCS_SHAPE = LatePattern(
    r"(R)?\s*(?:D|DCS|DTCS|DPL)?\s*[-:=]?\s*(\d{1,3})\s*[-/]?\s*(N|I|R|INV\w*|NORM\w*|REV\w*)?(?<![-/ ])"
)


class ToneError(ValueError):
    """A text that is no standard tone; the message offers the nearest."""


def tone_index(tone: str) -> int:
    """Place of a tone in TONES (0 is no tone): the number a radio image keeps. Raises ToneError."""
    try:
        return _INDEX[tone]
    except KeyError:
        raise ToneError(f"“{tone}” is not a standard tone or code.") from None


def is_tone(tone: str) -> bool:
    """Whether the text is the empty tone, a standard CTCSS tone or a standard DCS code."""
    return tone in _INDEX


def parse_tone(text: str) -> str:
    """The standard tone that a typed text means: “103,5 Hz” → “103.5”, “TSQL 88.5” → “88.5”, “023”, “DPL 23” → “D023N”, “-” → “”.

    Three digits that begin with 0 and whole numbers below the lowest tone are a DCS code. R (reversed) is inverted. Raises
    ToneError naming the nearest standard tone.
    """
    if is_no_tone(text):
        return ""
    plain = _plain(text)
    tone = _as_dcs(plain) if _CODED.match(plain) else _as_ctcss(plain)
    if tone in _INDEX:
        return tone
    raise ToneError(f"“{text.strip()}” is not a standard tone or code.{_hint(plain)}")


def is_no_tone(text: str) -> bool:
    """Whether a text says that there is no tone, in one of the larger European languages; an empty one does too."""
    plain = re.sub(r"[.:]+$", "", text.strip().casefold().replace(",", "."))
    return plain in NO_TONE or (plain.split()[0] in _WITHOUT and len(plain.split()) <= _FEW_WORDS)


def _plain(text: str) -> str:
    """A text in capitals without its unit and the words that only say what it is."""
    plain = text.strip().upper().removesuffix("HZ").strip().replace(",", ".")
    return re.sub(r"^(TSQL|CTCSS|TONE|PL|CT|T)\s*[-:=]?\s*(?=\d)", "", plain)


def is_burst(text: str) -> bool:
    """Whether a text means the burst of 1750 Hz that wakes a repeater up; it is none of the tones that go along."""
    return re.fullmatch(r"(TONE )?(BURST )?1750(\.0)?( BURST)?", _plain(text)) is not None


def _as_dcs(plain: str) -> str:
    shape = _DCS_SHAPE.fullmatch(plain)
    if shape is None:
        return plain
    inverted = bool(shape[1]) != ((shape[3] or "N")[0] in "IR")
    return f"D{shape[2].zfill(3)}{'I' if inverted else 'N'}"


def _as_ctcss(plain: str) -> str:
    return f"{float(plain):.1f}" if re.fullmatch(r"\d{1,3}(\.\d+)?", plain) else plain


def nearest_ctcss(tone_hz: float) -> str:
    """The standard CTCSS tone closest to a frequency in hertz."""
    return min(CTCSS, key=lambda tone: abs(float(tone) - tone_hz))


def _hint(plain: str) -> str:
    if re.fullmatch(r"\d{1,3}(\.\d+)?", plain):
        return f" The nearest is {nearest_ctcss(float(plain))} Hz."
    return " Type a tone such as 103.5, or a code such as D023N."
