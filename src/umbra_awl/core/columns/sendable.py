"""Which channels may be written through a layout: only those that say in it what they must not do, and read back no stronger.

Another program makes channels of what stands in the columns. A channel that must not transmit and does not say so there
transmits; a power or a frequency that does not come back is another one. Such rows are left out, with the reason.
"""

from umbra_awl.core.columns.cells import CellError, read_cell, write_cell
from umbra_awl.core.columns.fields import FIELDS, Plain
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet

_MOVES = frozenset({"rx", "tx", "shift", "offset", "offset_size"})
"""What says where a channel sends."""


def why_left_out(row: Plain, layout: ColumnLayout) -> str:
    """Why a channel is not written through a layout; empty where it may be. `row` is its values by field name."""
    for sheet in layout.sheet:
        if sheet.what == "channels" and (why := _in_sheet(row, sheet, layout)):
            return why
    return ""


def _in_sheet(row: Plain, sheet: Sheet, layout: ColumnLayout) -> str:
    columns = {column.field: column for column in sheet.column if column.field}
    if row.get("receive_only") == "on":
        column = columns.get("receive_only")
        if column is None:
            return "No column says “receive only”: channels that must not transmit are left out"
        if _back(row["receive_only"], column, layout) != "on":
            return (
                f"Column “{column.title}” does not say “receive only” so that it reads back: such channels are left out"
            )
    if "power" in columns and not _no_stronger(row.get("power", "0"), columns["power"], layout):
        return f"Column “{columns['power'].title}” does not hold the power: such channels are left out"
    for name, column in columns.items():
        if name in _MOVES and (lost := _lost(row.get(name), column, layout)):
            return f"Column “{column.title}” does not hold the frequency: such channels are left out. {lost}".rstrip()
    return ""


def _back(value: str | None, column: FileColumn, layout: ColumnLayout) -> str | None:
    """What a value reads back as; None where it cannot be written, or is blank."""
    field = FIELDS["channels"][column.field]
    try:
        return read_cell(write_cell(value, column, field, layout), column, field, layout)
    except CellError:
        return None


def _no_stronger(value: str, column: FileColumn, layout: ColumnLayout) -> bool:
    back = _back(value, column, layout)
    return back is not None and back.isdecimal() and int(back) <= int(value)


def _lost(value: str | None, column: FileColumn, layout: ColumnLayout) -> str:
    """Why a frequency or a shift does not come back, in words; empty where it does, or where there is none and nothing does."""
    field = FIELDS["channels"][column.field]
    try:
        back = read_cell(write_cell(value, column, field, layout), column, field, layout)
    except CellError as error:
        return str(error)
    none = {None, "", "off", "0"}
    return "" if back == value or (value in none and back in none) else f"It reads back as “{back or 'nothing'}”."
