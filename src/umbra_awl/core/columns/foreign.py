"""Columns that hold nothing of ours, kept: what another program has in them stays with its channel when files are written anew.

A row stays where its name, or else its pair of frequencies, is the same and stands once on both sides. Its other columns come
back as they were. A new row gets what all others have alike; where they differ it has to be asked, once for a column.
"""

import csv
import io
import os
from collections import Counter
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.columns.cells import CellError, read_cell
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS, told_of
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet
from umbra_awl.core.facts.modes import EVERY_MODE
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.keep.limits import TABLE_BYTES, read_within

MOST_OFFERED = 6


class ForeignAsk(NamedTuple):
    """What is asked of a column: its title, how many rows are new, and the values that the others have, the commonest first."""

    file: str
    title: str
    rows: int
    values: tuple[str, ...]


class FileKept(NamedTuple):
    """A file with what stood in it kept: its text, how many rows stayed and how many are new, the columns kept, what is asked."""

    text: str
    stayed: int
    new: int
    columns: tuple[str, ...]
    asks: tuple[ForeignAsk, ...]


class _Old(NamedTuple):
    """The file that is there: its headings and its rows of as many cells."""

    titles: list[str]
    rows: list[list[str]]


def keep_foreign(
    old: bytes, new: str, sheet: Sheet, layout: ColumnLayout, answers: Mapping[str, str] | None = None
) -> FileKept:
    """A file written anew with the other columns of the one that is there. `answers` are values by title for new rows.

    Raises ColumnsError where the file that is there cannot be read by the layout.
    """
    held = _read(old, sheet, layout)
    ours = list(csv.reader(io.StringIO("\n".join(new.splitlines()[len(sheet.lead) :])), delimiter=layout.delimiter))
    body = ours[1:] if sheet.headings else ours
    titles = [column.title for column in sheet.column]
    told = {column.title for column in sheet.column if not column.blank_always()}
    others = [title for title in held.titles if title not in told]
    stays = _partners(held, body, sheet)
    fresh = [at for at in range(len(body)) if at not in stays]
    fill, asks = _for_new(held, others, len(fresh), sheet.file, answers or {})
    order = [*held.titles, *(title for title in titles if title not in held.titles)]
    rows = []
    for at, cells in enumerate(body):
        mine = dict(zip(titles, cells, strict=False))
        before = dict(zip(held.titles, held.rows[stays[at]], strict=True)) if at in stays else fill
        if at in stays:
            kept = [title for title in held.titles if title in told and _stays(title, before, mine, sheet, layout)]
            mine |= {title: before[title] for title in kept}
        rows.append(
            [mine.get(title, "") if title in told else before.get(title, mine.get(title, "")) for title in order]
        )
    return FileKept(_text(order, rows, sheet, layout), len(stays), len(fresh), tuple(others), asks)


def _stays(title: str, before: Mapping[str, str], now: Mapping[str, str], sheet: Sheet, layout: ColumnLayout) -> bool:
    """Whether a cell that is there stays: it says the same, or it is of another mode than the channel's."""
    if (
        sheet.what == "channels"
        and not now.get(title, "").strip()
        and _of_another_mode(title, before, now, sheet, layout)
    ):
        return True
    return _says_the_same(title, before, now, sheet, layout)


def _of_another_mode(
    title: str, before: Mapping[str, str], now: Mapping[str, str], sheet: Sheet, layout: ColumnLayout
) -> bool:
    """Whether a column speaks of another mode than that of a channel, which it keeps."""
    column = next((item for item in sheet.column if item.field == "mode"), None)
    field = next(item.field for item in sheet.column if item.title == title)
    if column is None or not any(field in told_of(mode) for mode in EVERY_MODE):
        return False
    was, mode = (_read_as(column, cells.get(column.title, ""), sheet, layout) for cells in (before, now))
    return was == mode and mode in EVERY_MODE and field not in told_of(mode)


def _read_as(column: FileColumn, cell: str, sheet: Sheet, layout: ColumnLayout) -> str | None:
    try:
        return read_cell(cell, column, FIELDS[sheet.what][column.field], layout)
    except CellError:
        return None


def _says_the_same(
    title: str, before: Mapping[str, str], now: Mapping[str, str], sheet: Sheet, layout: ColumnLayout
) -> bool:
    """Whether a cell that is there reads as the new one does: then it stays as somebody wrote it."""
    column = next(item for item in sheet.column if item.title == title)
    field = FIELDS[sheet.what].get(column.field)
    if field is None or before[title] == now.get(title, ""):
        return False
    try:
        was, is_now = (read_cell(cell, column, field, layout) for cell in (before[title], now.get(title, "")))
    except CellError:
        return False
    return was == is_now


def _read(old: bytes, sheet: Sheet, layout: ColumnLayout) -> _Old:
    try:
        text = old.decode(layout.encoding).removeprefix("\ufeff")
    except (UnicodeDecodeError, LookupError):
        raise ColumnsError(
            f"“{sheet.file}” that is there is not written as {layout.encoding}; nothing of it can be kept."
        ) from None
    lines = text.splitlines(keepends=True)[len(sheet.lead) :]
    try:
        rows = [
            row
            for row in csv.reader(io.StringIO("".join(lines)), delimiter=layout.delimiter)
            if any(map(str.strip, row))
        ]
    except csv.Error as error:
        raise ColumnsError(f"“{sheet.file}” that is there cannot be read: {error}.") from None
    if not sheet.headings or not rows:
        return _Old([column.title for column in sheet.column], rows if not sheet.headings else [])
    titles = rows[0]
    if len(set(titles)) < len(titles):
        raise ColumnsError(f"“{sheet.file}” that is there has one heading twice; nothing of it can be kept.")
    return _Old(titles, [(row + [""] * len(titles))[: len(titles)] for row in rows[1:]])


_KEYS: tuple[tuple[str, ...], ...] = (("name",), ("rx", "tx"), ("rx", "offset"))
"""By what a row is known again. The number of a channel tells nothing: what stands behind it is renumbered."""


def _partners(held: _Old, body: Sequence[Sequence[str]], sheet: Sheet) -> dict[int, int]:
    """New row to old row: by name first, else by what is heard and sent on; each only where it stands once on both sides."""
    fields = {column.field: column.title for column in sheet.column if column.field and not column.at}
    ours = [column.title for column in sheet.column]
    found: dict[int, int] = {}
    for keys in _KEYS if sheet.what == "channels" else (*_KEYS, ("call",), ("number",)):
        names = [fields[key] for key in keys if key in fields]
        if len(names) < len(keys) or any(name not in held.titles for name in names):
            continue
        there = _once([tuple(row[held.titles.index(name)].strip() for name in names) for row in held.rows])
        here = _once([tuple(row[ours.index(name)].strip() for name in names) for row in body])
        taken = set(found.values())
        for key, at in here.items():
            if at not in found and key in there and there[key] not in taken and any(key):
                found[at] = there[key]
        if found and keys == ("name",) and len(found) == len(body):
            break
    return found


def _once(keys: Sequence[tuple[str, ...]]) -> dict[tuple[str, ...], int]:
    counts = Counter(keys)
    return {key: at for at, key in enumerate(keys) if counts[key] == 1}


def _for_new(
    held: _Old, others: Sequence[str], many: int, file: str, answers: Mapping[str, str]
) -> tuple[dict[str, str], tuple[ForeignAsk, ...]]:
    """What new rows get in the other columns, and what has to be asked for that."""
    fill: dict[str, str] = {}
    asks: list[ForeignAsk] = []
    for title in others:
        values = Counter(row[held.titles.index(title)] for row in held.rows)
        if title in answers:
            fill[title] = answers[title]
        elif len(values) == 1:
            fill[title] = next(iter(values))
        elif values and many:
            asks.append(
                ForeignAsk(file, title, many, tuple(value for value, _count in values.most_common(MOST_OFFERED)))
            )
    return fill, tuple(asks)


def _text(titles: Sequence[str], rows: Sequence[Sequence[str]], sheet: Sheet, layout: ColumnLayout) -> str:
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
        writer.writerow([guarded(title) for title in titles])
    writer.writerows(rows)
    return out.getvalue()


def _there(folder: Path, sheet: Sheet) -> bytes | None:
    """The file of a sheet that is there; None where there is none. Raises OSError."""
    path = folder / sheet.file
    return read_within(path, TABLE_BYTES) if os.path.lexists(path) else None


def with_foreign(
    folder: Path, layout: ColumnLayout, files: Mapping[str, bytes], answers: Mapping[str, str]
) -> dict[str, bytes]:
    """Files by name with what others have in those that are there. Raises ColumnsError, OSError."""
    made = dict(files)
    for sheet in layout.sheet:
        old = _there(folder, sheet)
        if old is not None and sheet.file in files:
            new = files[sheet.file].decode(layout.encoding)
            made[sheet.file] = keep_foreign(old, new, sheet, layout, answers).text.encode(layout.encoding)
    return made


def asked_of(folder: Path, layout: ColumnLayout, files: Mapping[str, bytes]) -> tuple[ForeignAsk, ...]:
    """What has to be asked before files that are there are written anew. Raises ColumnsError, OSError."""
    found: list[ForeignAsk] = []
    for sheet in layout.sheet:
        old = _there(folder, sheet)
        if old is not None and sheet.file in files:
            found += keep_foreign(old, files[sheet.file].decode(layout.encoding), sheet, layout).asks
    return tuple(found)
