"""What opens a service, by all the columns of a row that speak of it: tones, codes, which is in force, color codes in between.

`text` is a row's cells by field name; a field is there where its column is. What was mended goes into `mended` as sentences.
"""

import re
from collections.abc import Mapping

from umbra_awl.core.directory.lists.values import parse_amount, parse_opens
from umbra_awl.core.facts.modes import code_in
from umbra_awl.core.facts.tone_kinds import TonesTold, in_force, read_code, tone_kind_of, with_sense
from umbra_awl.core.facts.tones import ToneError, is_burst, parse_tone
from umbra_awl.core.plan.model import Mode

_LONGEST = 80
SPACED_CALL = re.compile(r"([A-Z0-9]{3,7})\s+([A-Z])")
"""A call sign with a letter behind it, as some write it in eight characters."""
_TONE_IN_MODE = re.compile(
    r"(?<![\w.])(D\d{3}[NIR]?|DCS[ -]?\d{2,3}|(?:6|7|8|9|1\d|2[0-5])\d?[.,]\d)(?![\w.])", re.IGNORECASE
)
_SAYS_ITS_MODE: tuple[tuple[Mode, re.Pattern[str]], ...] = (
    ("dmr", re.compile(r"(cc|colou?r code|colou?r)\s*[:=]?\s*\d{1,2}", re.IGNORECASE)),
    ("dstar", re.compile(r"(module?|port)\s*[:=]?\s*[A-Z]", re.IGNORECASE)),
    ("fusion", re.compile(r"dg-?\s?id\s*[:=]?\s*\d{1,2}", re.IGNORECASE)),
)


def mode_opened(text: Mapping[str, str]) -> Mode:
    """The mode that what opens a row's service speaks of; FM where nothing does."""
    if text.get("color_code"):
        return "dmr"
    for field in ("opens", "tone"):
        for mode, shape in _SAYS_ITS_MODE:
            if shape.fullmatch(text.get(field, "")[:_LONGEST]):
                return mode
    return "dstar" if text.get("module") else "fusion" if text.get("dgid") else "fm"


def fm_opened(text: Mapping[str, str], with_dmr: bool, mended: list[str]) -> tuple[str, str, bool]:
    """Tone sent, tone sent back, and whether a burst opens it instead, of an FM service."""
    kind = tone_kind_of(text.get("tone_kind", ""))
    if "tone_kind" in text and kind in {None, "mixed"}:
        mended.append(f"“{text['tone_kind'][:20]}” does not say which tone is in force; none is taken")
    if "tone_kind" in text and kind in {None, "none", "mixed"}:
        return "", "", False
    burst = any(is_burst(text.get(field, "")) for field in ("tone", "opens"))
    told = TonesTold("" if burst else _tone(text, with_dmr, mended), _tone_back(text, mended), _code(text, mended))
    if kind is not None and "tone_kind" in text:
        return (*in_force(kind, told), burst)
    if told.tone and told.code and told.tone != told.code:
        mended.append(f"tone {told.tone} and code {told.code}, and no column says which is in force; the tone is taken")
    return told.tone or ("" if burst else told.code), told.back, burst


def _tone(text: Mapping[str, str], with_dmr: bool, mended: list[str]) -> str:
    for field in ("tone", "opens"):
        plain = text.get(field, "")
        try:
            found = parse_opens(plain, dmr=with_dmr and field == "opens")
        except ValueError as error:
            mended.append(f"tone kept as it stands: {error}")
            return plain[:12].replace(",", ".")
        if found.tone is not None:
            return found.tone
        if found.color_code is not None and not with_dmr:
            mended.append(f"“{plain[:20]}” is a color code, and FM has none; it is left out")
    return _tone_in(text.get("mode", ""))


def _tone_in(mode: str) -> str:
    """The tone that some write behind the mode's name: “FM 88.5”, “FM D023N”."""
    found = _TONE_IN_MODE.search(mode[:_LONGEST])
    try:
        return parse_tone(found[1]) if found else ""
    except ToneError:
        return ""


def _tone_back(text: Mapping[str, str], mended: list[str]) -> str:
    try:
        return parse_opens(text.get("tone_rx", ""), dmr=False).tone or ""
    except ValueError as error:
        mended.append(f"tone sent back left out: {error}")
        return ""


def _code(text: Mapping[str, str], mended: list[str]) -> str:
    """The code of a column that holds codes only, as the column of senses beside it has it."""
    try:
        return with_sense(read_code(text.get("code", "")[:_LONGEST]), text.get("code_sense", ""))
    except ToneError as error:
        mended.append(f"code left out: {error}")
        return ""


def color_of(text: Mapping[str, str], mended: list[str]) -> int:
    """The color code of a DMR service: behind the mode's name, or from any column that holds one; 1 where none is told."""
    if (code := code_in(text.get("mode", ""))) is not None and not text.get("color_code"):
        return code
    for field in ("color_code", "opens", "tone"):
        plain = text.get(field, "")
        try:
            found = parse_opens(plain, dmr=True) if plain else None
        except ValueError:
            continue
        if found is not None and found.color_code is not None:
            return found.color_code
    mended.append("no color code given, taken as 1")
    return 1


def dgid_of(text: Mapping[str, str]) -> int:
    """The DG-ID that opens it; 00 where none of two digits is told."""
    told = text.get("dgid") or next(filter(None, (_group_in(text.get(field, "")) for field in ("opens", "tone"))), "")
    behind = _GROUP_BEHIND.search(text.get("mode", "")[:_LONGEST])
    found = parse_amount(told or (behind[1] if behind else ""))
    return int(found) if found is not None and found < 100 else 0


_GROUP_BEHIND = re.compile(r"\bDG-?\s?ID\s*[:=]?\s*(\d{1,2})\b", re.IGNORECASE)
_MODULE_BEHIND = re.compile(r"(?:D-?STAR|DV)\s*[-,:(/]?\s*(?:(?:MODULE?|PORT)\s*)?([A-Z])\b(?![-/])")


def _group_in(text: str) -> str:
    """The group number that some write among what opens each: “DG-ID 10”, “10”."""
    found = re.fullmatch(r"(?:DG-?\s?ID\s*[:=]?\s*)?(\d{1,2})", text.strip(), re.IGNORECASE)
    return found[1] if found else ""


def module_of(text: Mapping[str, str], mended: list[str]) -> str:
    """The module's letter, from its column, behind the call sign in eight characters or the mode; empty where not told."""
    told = (text.get("module") or text.get("opens") or text.get("tone", "")).strip().upper()
    spaced = SPACED_CALL.fullmatch(text.get("call", "").strip().upper())
    behind = spaced or _MODULE_BEHIND.search(text.get("mode", "")[:_LONGEST].upper())
    letter = (
        told[-1:]
        if re.fullmatch(r"[A-Z]|(MODULE?|PORT)\s*[:=]?\s*[A-Z]", told)
        else behind[behind.lastindex or 1]
        if behind
        else ""
    )
    if not letter:
        mended.append("no D-STAR module told; it is asked before anything is sent")
    return letter
