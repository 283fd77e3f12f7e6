"""Tones and codes in columns of their own, with a column that says which of them is in force: read, and written again."""

from collections.abc import Mapping
from typing import NamedTuple, cast

from msgspec.structs import replace

from umbra_awl.core.columns.fields import Plain
from umbra_awl.core.columns.layout import FileColumn, Sheet
from umbra_awl.core.facts.tone_kinds import ToneKind, TonesTold, in_force, is_code, tone_kind, with_sense

_DIGITS = 3
_LIKEWISE: Mapping[str, tuple[ToneKind, ...]] = {
    "sent": ("sent", "tones"),
    "both": ("both", "tones"),
    "awaited": ("awaited", "tones"),
}
_OWN_COLUMNS = frozenset({"tone_kind", "code_tx", "code_rx", "code_sense"})


class RowTones(NamedTuple):
    """What a row sends and waits for, and what has to be said of it."""

    sent: str
    awaited: str
    told: str = ""


def tones_of(row: Plain) -> RowTones:
    """What a row sends and waits for, by all its columns of tones and codes. Raises ToneError for a sense not understood."""
    sense = row.get("code_sense", "")
    code, code_back = (with_sense(row.get(field, ""), sense, at) for at, field in enumerate(("code_tx", "code_rx")))
    told = TonesTold(row.get("tone_tx", ""), row.get("tone_rx", ""), code, code_back)
    kind = row.get("tone_kind", "")
    if kind == "mixed":
        return RowTones("", "", "a tone one way and a code the other cannot be told from its columns; it has none.")
    if kind:
        sent, awaited = in_force(cast("ToneKind", kind), told)
        return RowTones(sent, with_sense(awaited, sense, 1) if kind == "code" else awaited)
    both = f"a tone ({told.tone}) and a code ({told.code}), and no column says which is in force; the tone is taken."
    return RowTones(told.tone or code, told.back or code_back, both if told.tone and code else "")


def for_columns(row: Plain, sheet: Sheet) -> Plain:
    """A channel's row with its tones and codes told apart, as far as a sheet has columns for that."""
    columns = {column.field: column for column in sheet.column if column.field}
    if sheet.what != "channels" or _OWN_COLUMNS.isdisjoint(columns):
        return row
    made, sent, awaited = dict(row), row.get("tone_tx", ""), row.get("tone_rx", "")
    if "tone_kind" in columns:
        made["tone_kind"] = _kind_in(columns["tone_kind"], sent, awaited)
    if "code_tx" in columns:
        _split(made, columns, "tx", sent)
        _split(made, columns, "rx", awaited)
        if "code_sense" in columns and (is_code(sent) or is_code(awaited)):
            made["code_sense"] = (sent or awaited)[-1] + (awaited or sent)[-1]
    for field in ("tone_tx", "tone_rx", "code_tx", "code_rx", "code_sense"):
        if field in columns and not made.get(field) and columns[field].idle:
            made[field] = columns[field].idle
    return made


def _kind_in(column: FileColumn, sent: str, awaited: str) -> str:
    """The kind as a column's words have it: “both” is also what two columns say."""
    kind = tone_kind(sent, awaited) or "mixed"
    return next((item for item in _LIKEWISE.get(kind, ()) if item in column.words), kind)


def _split(made: Plain, columns: Mapping[str, FileColumn], way: str, tone: str) -> None:
    """A code goes into the column of codes, as digits where those are three and a sense stands beside or is the normal one."""
    field = f"code_{way}"
    if not is_code(tone):
        return
    if field not in columns:
        if made.get("code_tx", "").strip("DNI") == tone[1:4]:  # the kind of tone says that it goes both ways
            made[f"tone_{way}"] = ""
        return
    made[f"tone_{way}"] = ""
    bare = columns[field].length == _DIGITS and ("code_sense" in columns or tone.endswith("N"))
    made[field] = tone[1:4] if bare else tone


def with_idle(columns: tuple[FileColumn, ...], rows: list[Plain]) -> tuple[FileColumn, ...]:
    """Columns of tones with what stands in them where none is in force. `rows` are cells by title."""
    kind = next((column for column in columns if column.field == "tone_kind"), None)
    if kind is None:
        return columns
    unused = [row for row in rows if row.get(kind.title, "").strip() in {kind.words.get("none", ""), ""}]
    return tuple(_idle(column, [row.get(column.title, "").strip() for row in unused]) for column in columns)


def _idle(column: FileColumn, values: list[str]) -> FileColumn:
    """The column with the value that it mostly has where it is not in force."""
    speaks = column.field in {"tone_tx", "tone_rx"} or column.field in _OWN_COLUMNS - {"tone_kind"}
    return replace(column, idle=max(values, key=values.count)) if speaks and any(values) else column
