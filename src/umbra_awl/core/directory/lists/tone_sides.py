"""Which column of tones is sent and which comes back, seen from the radio: as the headings mean it, never by their order."""

import re
from collections.abc import Mapping

from umbra_awl.core.directory.lists.column_values import TESTS, share_of
from umbra_awl.core.directory.lists.sides import Columns, Sides, meant_by, sends_from_repeater
from umbra_awl.core.tables.headings import plain_words

_TONES = frozenset(
    "tone tones ton tono tom toon tonalite subton subtono subtoon ctcss pl tsq dcs dtcs dpl eingangston ausgangston".split()
)
_ARE_TONES = 0.5


def tone_columns(columns: Columns, told: Mapping[str, str], sides: Sides) -> dict[str, str]:
    """The columns told, with those of tones put to the side that their headings mean.

    A heading that stands twice is chosen once; the other one is told as not used.
    """
    made = {field: column for field, column in told.items() if field not in {"tone", "tone_rx"}}
    sent, back = _of_sides(columns, {*made.values(), sides.heard, sides.sent}) or _of_radio(columns, told, sides)
    return made | {field: column for field, column in (("tone", sent), ("tone_rx", back)) if column}


def _of_sides(columns: Columns, taken: set[str]) -> tuple[str, str] | None:
    """Tones named by the repeater's input and output: the first is what opens it. None where the two are not named so.

    One that says nothing of a side, beside the output's, is the one that opens it.
    """
    held = [
        header
        for at, header in enumerate(columns.headers)
        if header not in taken
        and _TONES & set(plain_words(header[:120]).split())
        and share_of(columns.values(at), TESTS["tone"]) >= _ARE_TONES
    ]
    ins, outs, plain = ([header for header in held if meant_by(header) == side] for side in ("in", "out", ""))
    opens = ins or plain
    return (opens[0], outs[0]) if len(opens) == len(outs) == 1 else None


def _of_radio(columns: Columns, told: Mapping[str, str], sides: Sides) -> tuple[str, str]:
    sent, back = told.get("tone", ""), told.get("tone_rx", "")
    if not sent or re.sub(r" \d+$", "", back) == re.sub(r" \d+$", "", sent):
        return min(filter(None, (sent, back)), key=columns.headers.index, default=""), ""
    if back and sends_from_repeater(sides.heard) and meant_by(sent) in {"tx", "rx"}:
        return (back, sent) if meant_by(sent) == "tx" else (sent, back)
    if back and meant_by(sent) == "rx" and meant_by(back) != "rx":
        return back, sent
    return sent, back


def tones_told(columns: Mapping[str, str]) -> str:
    """Which of two columns of tones is sent, as a sentence; empty where there are not two."""
    sent, back = columns.get("tone", ""), columns.get("tone_rx", "")
    return f"“{sent}” is the tone that is sent, “{back}” the one that comes back." if sent and back else ""
