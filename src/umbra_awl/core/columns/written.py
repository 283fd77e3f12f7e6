"""How a column's values are written, as one line of text that an operator reads and changes."""

import re

from msgspec.structs import replace

from umbra_awl.core.columns.fields import FIELDS, ColumnField, What
from umbra_awl.core.columns.layout import FileColumn
from umbra_awl.core.facts.counting import counted

_HZ = re.compile(r"(MHz|kHz|Hz)(?:\s*,?\s*(\d)\s*decimals?)?", re.IGNORECASE)
_UNITS = {"mhz": "MHz", "khz": "kHz", "hz": "Hz"}


def written(column: FileColumn, what: What) -> str:
    """“MHz, 5 decimals”, “fm=Analog, dmr=Digital”, “nothing is Off”, “joined by ;”, “always green”."""
    field = FIELDS[what].get(column.field)
    if field is None:
        return f"always {column.fixed}" if column.fixed else ""
    parts: list[str] = []
    if field.kind == "hz":
        places = f", {counted(column.places, 'decimal')}" if column.places >= 0 else ""
        parts.append(f"{column.unit or 'MHz'}{places}")
    if column.words:
        parts.append(", ".join(f"{ours}={theirs}" for ours, theirs in column.words.items()))
    if field.kind == "names":
        parts.append(f"joined by {column.join}")
    if column.blank:
        parts.append(f"nothing is {column.blank}")
    if column.idle:
        parts.append(f"unused is {column.idle}")
    if column.length:
        parts.append(f"at most {column.length}")
    return "; ".join(parts)


def with_written(column: FileColumn, text: str, what: What) -> FileColumn:
    """The column written as a text says. Raises ValueError with a sentence on what it may say."""
    field = FIELDS[what].get(column.field)
    if field is None:
        return replace(column, asked="", fixed=text.strip().removeprefix("always ").strip())
    made = replace(column, words={}, blank="", idle="", length=0, places=-1, unit="", asked="")
    for part in filter(None, map(str.strip, re.split(r";(?!\s*$)", text))):
        made = _with_part(made, part, field)
    return made


def _with_part(column: FileColumn, part: str, field: ColumnField) -> FileColumn:
    if part.startswith("nothing is "):
        return replace(column, blank=part.removeprefix("nothing is ").strip())
    if part.startswith("unused is "):
        return replace(column, idle=part.removeprefix("unused is ").strip())
    if part.startswith("joined by ") and field.kind == "names":
        return replace(column, join=part.removeprefix("joined by ").strip() or ";")
    limit = re.fullmatch(r"at most (\d{1,3})", part)
    if limit is not None:
        return replace(column, length=int(limit[1]))
    shape = _HZ.fullmatch(part)
    if shape is not None and field.kind == "hz":
        places = int(shape[2]) if shape[2] else -1
        return replace(column, unit=_UNITS[shape[1].lower()], places=places)
    if "=" in part and field.kind in {"word", "text"}:
        return replace(column, words=_words(part, field))
    raise ValueError(f"“{part}” is not understood. {_help(field)}")


def _words(part: str, field: ColumnField) -> dict[str, str]:
    found: dict[str, str] = {}
    for pair in part.split(", "):
        ours, sign, theirs = (piece.strip() for piece in pair.partition("="))
        if not sign or (field.words and ours not in field.words):
            raise ValueError(f"“{pair}” is not a pair of words. {_help(field)}")
        found[ours] = theirs
    return found


def _help(field: ColumnField) -> str:
    if field.kind == "hz":
        return "Write a unit and decimals: MHz, 5 decimals."
    if field.kind == "word":
        return f"Write our word and theirs: {', '.join(f'{word}=…' for word in field.words[:3])}."
    return "Write what stands for nothing: nothing is Off. Or a limit: at most 16."
