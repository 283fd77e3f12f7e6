"""Call-sign syntax: a prefix of one to three characters with a letter, a digit, and a suffix that ends in a letter.

The suffix has up to four characters, more on special occasions; a portable sign stands behind a slash, a visited country
before one. Source: ITU Radio Regulations article 19 (formation of call signs in the amateur service), nos. 19.68 to 19.69.
"""

import re

from umbra_awl.core.facts.late_pattern import LatePattern

_BASE = r"(?:[A-Z]{1,2}|[A-Z][0-9]|[0-9][A-Z]{1,2})[0-9][A-Z0-9]{0,6}[A-Z]"
_SHAPE = LatePattern(rf"(?:[A-Z0-9]{{1,4}}/)?({_BASE})(?:/[A-Z0-9]{{1,4}})?")


def call_sign_fault(text: str) -> str:
    """Why a text is not a call sign, as a sentence; empty when it is one."""
    if not text:
        return "No call sign is given."
    if text != text.upper() or " " in text:
        return f"“{text}” should be in capitals without spaces."
    if not _SHAPE.fullmatch(text):
        return f"“{text}” is not formed like a call sign: letters, one digit, letters, for example Q4WRN."
    return ""


def base_call(text: str) -> str:
    """The call sign itself, without a visited country before it or a portable sign behind it: “Q4WRN/P” → “Q4WRN”."""
    shape = _SHAPE.fullmatch(text)
    return shape[1] if shape else text


def tidy_call_sign(text: str) -> str:
    """A typed call sign in capitals without blanks, or the number 0 for a letter O left as typed."""
    return "".join(text.split()).upper()


def call_suffix(call: str) -> str:
    """The letters after the call sign's digit, which people use as a short site name: “Q0BLK” → “BLK”."""
    shape = re.fullmatch(r"(?:[A-Z]{1,2}|[A-Z][0-9]|[0-9][A-Z]{1,2})?[0-9]+([A-Z]+)", base_call(call.upper()))
    return shape[1] if shape else call.upper()
