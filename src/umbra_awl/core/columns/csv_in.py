"""Reading the files of a layout into a memory: every fault with its file and line, nothing taken when a column is missing."""

import csv
import io
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from umbra_awl.core.columns.cells import CellError, read_cell
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import BETWEEN, FIELDS, NEEDED, Plain, What
from umbra_awl.core.columns.layout import ColumnLayout, Sheet
from umbra_awl.core.facts.wording import within
from umbra_awl.core.keep.cells import unguarded

MOST_ROWS = 400_000
UNREAD = "input unread"
"""In a row: the title of a column that would tell what is sent on and was not understood."""
_NEVER_GUESSED = frozenset({"mode", "kind", "call_kind"})
"""What is not understood here makes another channel or contact of the row: a private call never becomes a group call."""
_OF_THE_INPUT = frozenset({"tx", "offset", "offset_size", "shift"})


class RowFault(NamedTuple):
    """A row that could not be used, or a cell in it."""

    file: str
    line: int
    text: str


class Sheets(NamedTuple):
    """The plain rows of each table read, the faults, and the columns that the layout does not know."""

    tables: dict[What, list[Plain]]
    faults: tuple[RowFault, ...]
    unknown: tuple[str, ...]


def read_files(files: Mapping[str, bytes], layout: ColumnLayout) -> Sheets:
    """The rows of a layout's files; files not given are passed over. Raises ColumnsError when one does not suit it."""
    tables: dict[What, list[Plain]] = {}
    faults: list[RowFault] = []
    unknown: list[str] = []
    for sheet in layout.sheet:
        data = files.get(sheet.file)
        if data is not None:
            rows = list(_rows(_decoded(data, sheet, layout), sheet, layout))
            tables[sheet.what] = list(_table(rows, sheet, layout, faults, unknown))
    if not tables:
        there = ", ".join(sheet.file for sheet in layout.sheet)
        raise ColumnsError(f"None of the files of “{layout.name}” is given. It has {there}.")
    return Sheets(tables, tuple(faults), tuple(unknown))


def _decoded(data: bytes, sheet: Sheet, layout: ColumnLayout) -> str:
    try:
        return data.decode(layout.encoding).lstrip("\ufeff")
    except UnicodeDecodeError as error:
        raise ColumnsError(
            f"{sheet.file} is not {layout.encoding} at byte {error.start}. Choose its encoding in the layout."
        ) from None


def _rows(text: str, sheet: Sheet, layout: ColumnLayout) -> Iterator[tuple[int, list[str]]]:
    """Line number and cells, without the lines before the headings."""
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=layout.delimiter)
    try:
        for at, cells in enumerate(reader):
            if at >= len(sheet.lead) and any(cell.strip() for cell in cells):
                yield reader.line_num, cells
            if at > MOST_ROWS:
                raise ColumnsError(f"{sheet.file} has more than {MOST_ROWS:,} rows; no radio's file has.")
    except csv.Error as error:
        raise ColumnsError(f"{sheet.file} cannot be read at line {reader.line_num}: {error}.") from None


def _table(
    rows: list[tuple[int, list[str]]], sheet: Sheet, layout: ColumnLayout, faults: list[RowFault], unknown: list[str]
) -> Iterator[Plain]:
    places = _places(rows, sheet, unknown)
    gathered: dict[str, Plain] = {}
    for line, cells in rows[1:] if sheet.headings else rows:
        plain = _plain(line, cells, places, sheet, layout, faults)
        if plain is None:
            continue
        if "member" in plain or "members" in plain or "members" in gathered.get(plain.get("name", ""), {}):
            _gather(plain, gathered)
        else:
            yield plain
    yield from gathered.values()


def _places(rows: list[tuple[int, list[str]]], sheet: Sheet, unknown: list[str]) -> dict[int, int]:
    """Column of the layout to column of the file. Raises ColumnsError naming what is missing and needed."""
    if not sheet.headings:
        return {at: at for at in range(len(sheet.column))}
    heads = [unguarded(cell.strip().lstrip("\ufeff")).casefold() for cell in rows[0][1]] if rows else []
    places = _found_places([column.title.strip().casefold() for column in sheet.column], heads)
    known = FIELDS[sheet.what]
    there = {sheet.column[at].field for at in places}
    for group in NEEDED[sheet.what]:
        if not there.intersection(group):
            wanted = [column.title for column in sheet.column if column.field in group]
            columns = " or ".join(f"“{title}”" for title in wanted) or " or ".join(
                known[field].label for field in group
            )
            raise ColumnsError(
                f"{sheet.file} has no column {columns}. It has: {', '.join(rows[0][1][:12]) if rows else 'nothing'}."
            )
    titles = {column.title.strip().casefold() for column in sheet.column}
    unknown += [
        f"{sheet.file}: {cell}" for cell in (rows[0][1] if rows else []) if cell.strip().casefold() not in titles
    ]
    return places


def _found_places(titles: list[str], heads: list[str]) -> dict[int, int]:
    """Where each title stands among headings; of several of one name each is its own, in their order."""
    places: dict[int, int] = {}
    for at, title in enumerate(titles):
        stands = [place for place, head in enumerate(heads) if head == title]
        turn = titles[:at].count(title)
        if stands:
            places[at] = stands[min(turn, len(stands) - 1)]
    return places


def _plain(
    line: int, cells: list[str], places: dict[int, int], sheet: Sheet, layout: ColumnLayout, faults: list[RowFault]
) -> Plain | None:
    """A row's values; None when a needed one is missing or wrong."""
    known, plain = FIELDS[sheet.what], Plain()
    members: list[str] = []
    sound = True
    for at, place in places.items():
        column = sheet.column[at]
        field = known.get(column.field)
        if field is None:
            continue
        try:
            value = read_cell(cells[place] if place < len(cells) else "", column, field, layout)
        except CellError as error:
            lost = column.field in _NEVER_GUESSED
            faults.append(
                RowFault(sheet.file, line, f"{column.title}: {error}{' The row is left out.' if lost else ''}")
            )
            sound = sound and not lost and not any(column.field in group for group in NEEDED[sheet.what])
            if column.field in _OF_THE_INPUT:
                plain[UNREAD] = column.title
            continue
        if value is None:
            continue
        if column.at:
            members.append(value)
        else:
            plain[column.field] = value
    if members:
        plain["members"] = BETWEEN.join(members)
    return plain if sound and _whole(plain, line, sheet, faults) else None


def _whole(plain: Plain, line: int, sheet: Sheet, faults: list[RowFault]) -> bool:
    for group in NEEDED[sheet.what]:
        if group[0] != "members" and not any(plain.get(field) for field in group):
            label = FIELDS[sheet.what][group[0]].label
            faults.append(RowFault(sheet.file, line, f"There is no {within(label)}; the row is left out."))
            return False
    return True


def _gather(plain: Plain, gathered: dict[str, Plain]) -> None:
    """Put a row of a list's single member to its list."""
    name = plain.get("name", "")
    before = gathered.setdefault(name, {key: value for key, value in plain.items() if key not in {"member", "members"}})
    held = before["members"].split(BETWEEN) if before.get("members") else []
    new = plain["members"].split(BETWEEN) if "members" in plain else [plain["member"]] if "member" in plain else []
    before["members"] = BETWEEN.join([*held, *new])
