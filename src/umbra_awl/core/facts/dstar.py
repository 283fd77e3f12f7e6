"""The call-sign fields of D-STAR: eight characters padded with spaces, and the note of four.

Source: the published D-STAR system specification (JARL, STD 7.0), radio header: MY 8 + 4 characters, capitals, digits and spaces.
"""

import re

FIELD_LENGTH = 8
_FIELD = re.compile(r"[A-Z0-9/ ]{1,8}")
_NOTE = re.compile(r"[A-Z0-9 ]{0,4}")


def padded(text: str) -> str:
    """A field of exactly eight characters."""
    return text[:FIELD_LENGTH].ljust(FIELD_LENGTH)


def field_fault(text: str) -> str:
    """Why a text cannot be a call-sign field, as a sentence; empty when it can."""
    if _FIELD.fullmatch(text) and text.strip():
        return ""
    return f"“{text}” is not a call-sign field: one to eight capitals, digits or spaces."


def note_fault(text: str) -> str:
    """Why a text cannot be the note behind one's own call sign; empty when it can."""
    return (
        "" if _NOTE.fullmatch(text) else f"“{text}” is not a note: at most four capitals or digits, for example HAND."
    )
