"""What has to be asked of a sample: words that nobody knows here, and two tones of which none says which is sent."""

import re

from msgspec.structs import replace

from umbra_awl.core.columns.fields import ColumnField
from umbra_awl.core.columns.guess_words import VALUE_WORDS
from umbra_awl.core.columns.layout import FileColumn
from umbra_awl.core.facts.modes import code_in
from umbra_awl.core.facts.wording import within
from umbra_awl.core.tables.headings import plain_words

_MOST_ASKED = 6
_SIDES_SAID = frozenset("tx rx send sent sends receive received decode encode transmit sq squelch tsql access".split())


def our_word(field: str, value: str) -> str | None:
    """Our word for a value of a field of words; None where it is not known."""
    folded = value.casefold().strip()
    known = VALUE_WORDS.get(field, {})
    for ours, theirs in known.items():
        if folded == ours or folded in theirs.split("|"):
            return ours
    if field not in _BY_PIECES or (field == "mode" and code_in(value) is not None):
        return None
    pieces = {piece for piece in re.split(r"[\s\-/()+]+", folded) if len(piece) > 1}
    meant = {ours for ours, theirs in known.items() if pieces & {ours, *theirs.split("|")}}
    return meant.pop() if len(meant) == 1 else None


_BY_PIECES = frozenset({"mode", "width", "call_kind", "kind"})
"""Fields whose words are understood where one piece of them is known, and none means another: “D-Digital”, “group (all)”."""


def plain_digits(value: str) -> bool:
    """Whether a value is digits that int() takes: superscripts count as digits too, and are none."""
    return value.isascii() and value.isdigit()


def folded_heading(heading: str) -> str:
    """A heading as plain words, without a unit."""
    return plain_words(re.sub(r"\b(mhz|khz|hz)\b", "", heading, flags=re.IGNORECASE))


def unknown_words(title: str, spec: ColumnField, field: str, values: list[str]) -> str:
    """What has to be asked of a column of words, as a sentence; empty where all of them are known."""
    if field == "power" and all(map(plain_digits, values)):
        return ""
    strange = [value for value in dict.fromkeys(values) if our_word(field, value) is None]
    if not strange:
        return ""
    told = ", ".join(f"“{value[:24]}”" for value in strange[:_MOST_ASKED])
    pairs = ", ".join(f"{ours}=…" for ours in spec.words[:3]) or "0=…, 1=…"
    return (
        f"“{title}” is the {within(spec.label)} by its heading, and {told} {'is' if len(strange) == 1 else 'are'} not known. Say "
        f"what each means, such as {pairs}, or give it no field."
    )


def which_tone(columns: tuple[FileColumn, ...]) -> tuple[FileColumn, ...]:
    """Two columns of tones whose headings do not say which is sent are asked about: “out” of the radio, or of the repeater."""
    tones = [item for item in columns if item.field in {"tone_tx", "tone_rx"}]
    if len(tones) < 2 or any(_SIDES_SAID.intersection(folded_heading(item.title).split()) for item in tones):
        return columns
    one, other = (item.title for item in tones)
    asked = (
        f"“{one}” and “{other}” are two tones, and which of them the radio sends is not said. Choose the field of each."
    )
    return tuple(replace(item, asked=asked) if item in tones else item for item in columns)
