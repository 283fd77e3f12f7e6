"""Which of the tones that stand beside it is in force: what many programs and lists say in a column of its own.

Such files keep a tone in every row, whether it is used or not. Without the word beside it a tone that nobody sends would be
sent. General usage in the larger European languages; a word that is not known is asked about, never taken for one of these.
"""

import re
from typing import Literal, NamedTuple, get_args

from umbra_awl.core.facts.tones import NO_TONE, ToneError, is_no_tone, parse_tone

ToneKind = Literal["none", "sent", "both", "tones", "awaited", "code", "code sent", "mixed"]
TONE_KINDS: tuple[ToneKind, ...] = get_args(ToneKind)
"""None; a tone sent; sent and awaited; both as their columns say; awaited only; a code both ways; a code sent only;
one of each, of which none can be told here."""
WORDS: dict[ToneKind, str] = {
    "none": "|".join(sorted(NO_TONE - {""})) + "|no tone|not used|disabled",
    "sent": "tone|t|enc|encode|encoder|encode only|tone enc|tone encode|ctcss enc|ctcss encode|ctcss tx|tx tone|tx only|send|sent"
    "|ton|tono|tonalite|tonalité|pl|nur senden|emission|envoi",
    "both": "tsql|t sql|tone sql|tone squelch|ctcss sql|ctcss squelch|ctcss squelch|sql|enc dec|enc/dec|enc+dec|encode decode"
    "|encode/decode|encode+decode|tone both|ctcss both|both|tonsquelch|ton-squelch|beide|les deux|ambos|entrambi",
    "tones": "ctcss|ctcss tx/rx|tones|sub-tone|subtone",
    "awaited": "dec|decode|decoder|decode only|ctcss dec|ctcss decode|rx tone|rx only|receive only|awaited",
    "code": "dcs|dtcs|dpl|code|digital code|dcs both|dcs enc/dec|dcs squelch|dtcs squelch|code squelch",
    "mixed": "cross|mixed|split|tone/dcs|dcs/tone|tone dcs|dcs tone|ctcss/dcs|other",
    "code sent": "dcs enc|dcs encode|dcs sent|dcs tx|dcs encode only|dtcs enc|code sent|code enc",
}
_OF_WORD = {word: kind for kind in reversed(TONE_KINDS) for word in (kind, *WORDS[kind].split("|"))}
_SENSE = re.compile(r"\s*(n\w*|i\w*|r\w*)\s*[-/+ ]?\s*(n\w*|i\w*|r\w*)?\s*", re.IGNORECASE)


class TonesTold(NamedTuple):
    """What the columns of a row hold, standard tones and codes; empty where they hold nothing."""

    tone: str = ""
    back: str = ""
    code: str = ""
    code_back: str = ""


def tone_kind_of(text: str) -> ToneKind | None:
    """The kind that a word means; None where it is not known. An empty text says that there is none."""
    plain = " ".join(text.strip().casefold().split())
    return "none" if not plain else _OF_WORD.get(plain)


def tone_kind(sent: str, awaited: str) -> ToneKind | None:
    """The kind of a channel by its tone or code sent and awaited; None where one is a tone and the other a code."""
    if not sent:
        return "awaited" if awaited else "none"
    if is_code(sent):
        return "code sent" if not awaited else "code" if is_code(awaited) else None
    return "sent" if not awaited else None if is_code(awaited) else "both"


def is_code(tone: str) -> bool:
    """Whether a standard tone is a DCS code."""
    return tone.startswith("D")


def in_force(kind: ToneKind, told: TonesTold) -> tuple[str, str]:
    """What is sent and what is awaited, of what the columns of a row hold."""
    tone, code = told.tone or told.code, told.code or told.tone
    made: dict[ToneKind, tuple[str, str]] = {
        "none": ("", ""),
        "sent": (tone, ""),
        "both": (tone, told.back or tone),
        "tones": (tone, told.back),
        "awaited": ("", told.back or told.code_back or tone),
        "code": (code, told.code_back or code),
        "code sent": (code, ""),
        "mixed": ("", ""),
    }
    return made[kind]


def with_sense(code: str, sense: str, at: int = 0) -> str:
    """A code as a column of senses has it: “N”, “R”, “NR” (sent, awaited), “inverted”; `at` is 0 for what is sent.

    Raises ToneError for a sense that is not understood.
    """
    if not is_code(code) or not sense.strip():
        return code
    found = _SENSE.fullmatch(_two_letters(sense))
    if found is None:
        raise ToneError(f"“{sense[:20]}” is no sense of a code: N (normal) or I (inverted).")
    told = (found[2] if at and found[2] else found[1])[0].upper()
    return f"{code[:-1]}{'N' if told == 'N' else 'I'}"


def _two_letters(sense: str) -> str:
    """“NR” as “N R”: two letters are two senses."""
    plain = sense.strip()
    return " ".join(plain) if re.fullmatch(r"[NIRnir]{2}", plain) else plain


def read_code(text: str) -> str:
    """A standard code from a column that holds codes only: “23”, “023”, “D023N”. Raises ToneError for anything else."""
    if is_no_tone(text):
        return ""
    digits = re.fullmatch(r"(\d{1,3})(?:\.0)?", text.strip())
    code = parse_tone(f"D{digits[1].zfill(3)}N" if digits else text)
    if not is_code(code):
        raise ToneError(f"“{text[:20]}” is no standard code. Type one such as D023N.")
    return code
