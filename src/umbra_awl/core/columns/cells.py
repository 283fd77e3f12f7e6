"""Single cells: our plain values written as a column wants them, and read back."""

import re
from collections.abc import Callable
from decimal import Decimal, InvalidOperation

from umbra_awl.core.columns.asked import our_word
from umbra_awl.core.columns.fields import BETWEEN, ColumnField
from umbra_awl.core.columns.layout import UNIT_HZ, ColumnLayout, FileColumn
from umbra_awl.core.facts.modes import modes_in
from umbra_awl.core.facts.shift import DASHES, Shift, ShiftError, read_direction, read_shift
from umbra_awl.core.facts.tone_kinds import TONE_KINDS, read_code, tone_kind_of
from umbra_awl.core.facts.tones import ToneError, parse_tone
from umbra_awl.core.keep.cells import guarded, unguarded

_TONES = frozenset({"tone_tx", "tone_rx"})
_CODES = frozenset({"code_tx", "code_rx"})
_ALSO_OTHERWISE = frozenset({"admit", "width", "mode"})
"""Fields that many files say in more than one word: “Always” for one channel, “Off” for the next."""
_MOST_HZ = 10_000_000_000
_TONE_SHAPE = re.compile(r"\d{2,3}[.,]\d|D\d{3}[NI]")


class CellError(ValueError):
    """A cell that cannot be read or written; the message says why."""


def write_cell(value: str | None, column: FileColumn, field: ColumnField | None, layout: ColumnLayout) -> str:
    """A plain value as a cell; a missing one as the column's blank. Raises CellError when it does not fit the column.

    What a spreadsheet would run is guarded: names and texts, and a layout's own words where they begin as a formula does.
    """
    text = _cell_text(value, column, field, layout)
    own_words = field is None or field.kind in {"word", "hz", "number"} or text == column.blank
    return text if own_words and not text.startswith(("=", "@", "\t", "\r")) else guarded(text)


def _cell_text(value: str | None, column: FileColumn, field: ColumnField | None, layout: ColumnLayout) -> str:
    if field is None:
        return column.fixed
    if value is None or not value.strip():
        return column.blank
    if field.kind == "hz":
        text = _from_hz(int(value), column, layout)
    elif field.kind == "names":
        text = column.join.join(value.split(BETWEEN))
    else:
        if field.kind == "word" and column.words and value not in column.words:
            raise CellError(f"There is no word for “{value}” in this column.")
        text = column.words.get(value, value)
        if column.field in _TONES and layout.decimal == ",":
            text = text.replace(".", ",")
    if column.length and len(text) > column.length:
        raise CellError(f"“{text}” has {len(text)} characters; the column takes {column.length}.")
    return text


def _from_hz(hz: int, column: FileColumn, layout: ColumnLayout) -> str:
    value = Decimal(hz) / UNIT_HZ[column.unit]
    if column.places >= 0:
        shown = f"{value:.{column.places}f}"
        if Decimal(shown) != value:
            raise CellError(f"{value} {column.unit or 'MHz'} needs more than {column.places} decimals.")
    else:
        shown = f"{value:f}".rstrip("0").rstrip(".") if "." in f"{value:f}" else f"{value:f}"
    return shown.replace(".", layout.decimal)


def read_cell(text: str, column: FileColumn, field: ColumnField, layout: ColumnLayout) -> str | None:
    """The plain value of a cell; None for a blank one. Raises CellError with a sentence."""
    text = unguarded(text)
    bare = text.strip()
    if column.field == "tone_kind" and not bare:
        return "none"
    if not bare or bare == column.blank.strip():
        return _word(bare, column) if bare and column.words else None
    if column.field in {"offset", "offset_size"}:
        return _offset(bare, column, layout)
    if field.kind == "word":
        return _in_words(bare, column, field)
    return _of_kind(text, bare, column, field, layout)


def _in_words(bare: str, column: FileColumn, field: ColumnField) -> str:
    """Our word for theirs; a mode or a direction also as people write it otherwise."""
    if column.field == "tone_kind" and (kind := _word(bare, column) or tone_kind_of(bare)) in TONE_KINDS:
        return str(kind)
    if column.field in {"mode", "shift"} and _word(bare, column) not in field.words:
        if column.field == "shift":
            return _as_shift(bare, read_direction)
        if len(modes_in(bare)) == 1:
            return bare
    if (
        column.field in _ALSO_OTHERWISE
        and _word(bare, column) is None
        and (word := our_word(column.field, bare)) is not None
    ):
        return word
    return _known_word(bare, column, field)


def _of_kind(text: str, bare: str, column: FileColumn, field: ColumnField, layout: ColumnLayout) -> str:
    if field.kind == "hz":
        return str(_to_hz(bare, column, layout))
    if field.kind == "names":
        return BETWEEN.join(filter(None, map(str.strip, bare.split(column.join))))
    return _number(bare) if field.kind == "number" else _text(text, bare, column)


def _offset(bare: str, column: FileColumn, layout: ColumnLayout) -> str:
    """Hertz where the cell is a number in the column's unit, else the text where it tells a shift in another way."""
    try:
        return str(_to_hz(bare, column, layout))
    except CellError:
        return _as_shift(bare, read_shift)


def _as_shift(bare: str, read: Callable[[str], Shift]) -> str:
    try:
        read(bare)
    except ShiftError as error:
        raise CellError(str(error)) from None
    return bare


def _word(bare: str, column: FileColumn) -> str | None:
    """Our word for theirs; theirs itself where no words are given."""
    folded = bare.casefold()
    for ours, theirs in column.words.items():
        if theirs.casefold() == folded:
            return ours
    return None if column.words else folded


def _known_word(bare: str, column: FileColumn, field: ColumnField) -> str:
    word = _word(bare, column)
    if word is None:
        known = ", ".join(column.words.get(item, item) for item in field.words)
        raise CellError(f"“{bare}” is not known here; it knows {known}.")
    if word not in field.words:
        raise CellError(f"“{bare}” is none of {', '.join(field.words)}.")
    return word


def _number(bare: str) -> str:
    plain = bare.removesuffix(".0")
    if not (plain.isascii() and plain.isdigit() and len(plain) <= 10):
        raise CellError(f"“{bare}” is not a number.")
    return str(int(plain))


def _text(text: str, bare: str, column: FileColumn) -> str:
    if column.field in _TONES:
        for ours, theirs in column.words.items():
            if theirs == bare:
                return ours
        try:
            return parse_tone(bare)
        except ToneError as error:
            if _TONE_SHAPE.fullmatch(bare):
                return bare.replace(",", ".")  # no standard tone, but a finding can say so
            raise CellError(str(error)) from None
    if column.field in _CODES:
        try:
            return read_code(bare)
        except ToneError as error:
            raise CellError(str(error)) from None
    if column.field in {"ur", "rpt1", "rpt2"}:
        return text.rstrip("\r\n").upper().ljust(8)
    return bare


def _to_hz(bare: str, column: FileColumn, layout: ColumnLayout) -> int:
    plain = bare.translate(DASHES).replace(" ", "")
    plain = plain.replace(",", ".") if layout.decimal == "," or "." not in plain else plain
    try:
        hz = Decimal(plain) * UNIT_HZ[column.unit]
    except InvalidOperation:
        raise CellError(f"“{bare}” is not a frequency in {column.unit or 'MHz'}.") from None
    if not hz.is_finite() or abs(hz) > _MOST_HZ or hz != hz.to_integral_value():
        raise CellError(f"“{bare}” {column.unit or 'MHz'} is no frequency in whole hertz.")
    return int(hz)
