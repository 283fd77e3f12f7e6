"""Writing a memory through a layout: one file after another, and what did not fit, said row by row."""

import csv
import io
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.columns.cells import CellError, write_cell
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import BETWEEN, FIELDS, MemoryRows, Plain
from umbra_awl.core.columns.layout import ColumnLayout, Sheet
from umbra_awl.core.columns.sendable import why_left_out
from umbra_awl.core.columns.tones import for_columns
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.radio.memory import Memory

People = tuple[tuple[int, str, str, str, str], ...]


class Notes:
    """Sentences on what was left out; the same one of several rows is said once, with how many."""

    def __init__(self) -> None:
        self._found: dict[str, list[str]] = {}

    def add(self, text: str, about: str = "") -> None:
        """Say something, of a row by its name."""
        self._found.setdefault(text, []).append(about)

    def lines(self) -> tuple[str, ...]:
        """The sentences in the order they came up first."""
        return tuple(f"{text}{_whom(names)}" for text, names in self._found.items())


def _whom(names: list[str]) -> str:
    named = [name for name in names if name]
    if not named:
        return ""
    more = f" and {len(named) - 1} more" if len(named) > 1 else ""
    return f" ({named[0]}{more})"


class WrittenFile(NamedTuple):
    """The files by name, and sentences on what had to be left out or does not fit a column."""

    files: dict[str, bytes]
    notes: tuple[str, ...]


def write_files(memory: Memory, layout: ColumnLayout, people: People = ()) -> WrittenFile:
    """A memory as the files of a layout. Raises ColumnsError for a character that the layout's encoding has not."""
    files: dict[str, bytes] = {}
    notes = Notes()
    rows = MemoryRows(sendable(memory, layout, notes), people)
    for sheet in layout.sheet:
        text = _sheet_text(rows.rows(sheet.what), sheet, layout, notes)
        try:
            files[sheet.file] = text.encode(layout.encoding)
        except UnicodeEncodeError as error:
            lost = text[error.start]
            raise ColumnsError(
                f"{sheet.file}: “{lost}” cannot be written as {layout.encoding}. Choose utf-8, or another name."
            ) from None
    return WrittenFile(files, notes.lines())


def sendable(memory: Memory, layout: ColumnLayout, notes: Notes) -> Memory:
    """The memory without channels that would send otherwise than they must once they are written through a layout."""
    left: set[str] = set()
    for row in MemoryRows(memory).rows("channels"):
        if why := why_left_out(row, layout):
            notes.add(why, row.get("name", ""))
            left.add(row["number"])
    if not left:
        return memory
    return replace(memory, channels=tuple(item for item in memory.channels if str(item.number) not in left))


def sheet_rows(plain: list[Plain], sheet: Sheet, layout: ColumnLayout, notes: Notes) -> list[list[str]]:
    """A table's rows as cells, headings not included; what does not fit goes into the notes and stays blank."""
    if sheet.rows and len(plain) > sheet.rows:
        over = counted(len(plain) - sheet.rows, "more is", "more are")
        notes.add(f"{sheet.file} takes {counted(sheet.rows, 'row')}; {over} left out.")
        plain = plain[: sheet.rows]
    places = range(len(sheet.column))
    rows = (for_columns(row, sheet) for row in _spread(plain, sheet))
    return [[_cell(row, at, sheet, layout, notes) for at in places] for row in rows]


def _spread(plain: list[Plain], sheet: Sheet) -> list[Plain]:
    """Lists as rows: one for each member where a column asks for single members without saying which."""
    alone = any(column.field == "member" and not column.at for column in sheet.column)
    if not alone:
        return plain
    return [{**row, "member": name} for row in plain for name in row.get("members", "").split(BETWEEN)]


def _cell(row: Plain, at: int, sheet: Sheet, layout: ColumnLayout, notes: Notes) -> str:
    column = sheet.column[at]
    field = FIELDS[sheet.what].get(column.field)
    value = row.get(column.field)
    if column.at:
        members = row.get("members", "").split(BETWEEN)
        value = members[column.at - 1] if column.at <= len(members) else None
    try:
        return write_cell(value, column, field, layout)
    except CellError as error:
        notes.add(f"{sheet.file}, {column.title}: {error}", row.get("name", ""))
        return column.blank


def _sheet_text(plain: list[Plain], sheet: Sheet, layout: ColumnLayout, notes: Notes) -> str:
    out = io.StringIO()
    for line in sheet.lead:
        out.write(line + layout.line_end)
    writer = csv.writer(
        out,
        delimiter=layout.delimiter,
        lineterminator=layout.line_end,
        quoting=csv.QUOTE_ALL if layout.quote else csv.QUOTE_MINIMAL,
    )
    if sheet.headings:
        writer.writerow([guarded(column.title) for column in sheet.column])
    writer.writerows(sheet_rows(plain, sheet, layout, notes))
    return out.getvalue()
