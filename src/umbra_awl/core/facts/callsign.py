"""Call-sign syntax: a prefix with a letter, a digit, and one to four more characters that end in a letter.

Source: ITU Radio Regulations article 19 (formation of call signs in the amateur service), nos. 19.68 and 19.69.
"""

import re

_SHAPE = re.compile(r"(?:[A-Z]{1,2}|[A-Z][0-9]|[0-9][A-Z])[0-9][A-Z0-9]{0,3}[A-Z]")


def call_sign_fault(text: str) -> str:
    """Why a text is not a call sign, as a sentence; empty when it is one."""
    if not text:
        return "No call sign is given."
    if text != text.upper() or " " in text:
        return f"“{text}” should be in capitals without spaces."
    if not _SHAPE.fullmatch(text):
        return f"“{text}” is not formed like a call sign: letters, one digit, one to four letters, for example Q4WRN."
    return ""


def tidy_call_sign(text: str) -> str:
    """A typed call sign in capitals without blanks, or the number 0 for a letter O left as typed."""
    return re.sub(r"\s+", "", text).upper()


def call_suffix(call: str) -> str:
    """The letters after the call sign's digit, which people use as a short site name: “Q0BLK” → “BLK”."""
    shape = re.fullmatch(r"[A-Z]{0,2}[0-9]?[A-Z]?[0-9]([A-Z]+)", call.upper())
    return shape[1] if shape else call.upper()
