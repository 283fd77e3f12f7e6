"""The first sheet of a spreadsheet (Office Open XML, ECMA-376) as rows of text, read as a stream within limits.

Formulas count as what they last came to; numbers in a date's format become ISO dates.
"""

import re
import zipfile
import zlib
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path, PurePosixPath
from typing import BinaryIO, NamedTuple, cast
from xml.parsers.expat import ExpatError

from umbra_awl.core.keep.limits import MB, MOST_CELLS, LimitError, open_regular
from umbra_awl.core.keep.zips import zip_within
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.headings import headings_row
from umbra_awl.core.tables.rows import Row, Table, cell_text, headers_of
from umbra_awl.core.tables.xml_stream import Handler, stream

MOST_FILE = 60 * MB
MOST_SHEET = 30 * MB
MOST_STRINGS = 15 * MB
MOST_PARTS = 5 * MB
_MOST_MEMBERS = 2_000
_UNREADABLE = (
    zipfile.BadZipFile, zlib.error, ExpatError, LookupError, ValueError, RuntimeError, EOFError, NotImplementedError, OSError,
)  # fmt: skip
_BUILT_IN_DATES = frozenset({*range(14, 23), *range(27, 37), 45, 46, 47, *range(50, 59)})
_EPOCH, _EPOCH_1904 = datetime(1899, 12, 30), datetime(1904, 1, 1)


class _Parts(NamedTuple):
    """What is needed beside the sheet: shared texts, which styles are dates, the day that counting begins."""

    texts: list[str]
    dates: list[bool]
    epoch: datetime


def xlsx_table(path: Path) -> Table:
    """The first sheet as a table. Raises ReadError."""
    formulas = [False]

    def rows() -> Iterator[Row]:
        with _opened(path) as book:
            parts = _Parts(_texts(book), _dates(book), _EPOCH_1904 if _counts_from_1904(book) else _EPOCH)
            reader = _SheetReader(parts)
            yield from (
                row for row in _member(book, _first_sheet(book), reader, MOST_SHEET) if row.fault or any(row.cells)
            )
            formulas[0] = reader.formulas

    first = headings_row(rows())
    if first is None:
        if formulas[0]:
            raise ReadError(
                f"“{path.name}” holds formulas without their results. Open it, save it again, or save it as CSV."
            )
        raise ReadError(f"“{path.name}” has no rows on its first sheet.")
    if first.fault:
        raise ReadError(f"“{path.name}” cannot be read as a table. {first.fault}")
    headers, headless = headers_of(first.cells)

    def body() -> Iterator[Row]:
        return (row for row in rows() if headless or row.line > first.line)

    return Table(path.name, "xlsx", headers, body, headless=headless)


@contextmanager
def _opened(path: Path) -> Iterator[zipfile.ZipFile]:
    """The archive, open. Raises ReadError for whatever a damaged one does."""
    try:
        with open_regular(path) as file:
            if path.stat().st_size > MOST_FILE:
                raise LimitError("it is larger than any directory")
            with zip_within(file, _MOST_MEMBERS) as book:
                yield book
    except LimitError as error:
        raise ReadError(f"“{path.name}” is not read: {error.strerror}. Save what matters of it as CSV.") from None
    except ReadError:
        raise
    except _UNREADABLE as error:
        raise ReadError(
            f"“{path.name}” is not a readable spreadsheet ({str(error)[:120]}). Save it again as XLSX, or as CSV."
        ) from None


def _member(book: zipfile.ZipFile, name: str, handler: Handler[Row], most: int) -> Iterator[Row]:
    if book.getinfo(name).file_size > most:
        raise LimitError(f"its sheet is larger than {most // MB} MB")
    with book.open(name) as file:
        yield from stream(cast("BinaryIO", file), handler, most)


def _small(book: zipfile.ZipFile, name: str, handler: Handler[str], most: int) -> list[str]:
    """What a handler makes of a smaller part; nothing where the part is missing."""
    if name not in book.namelist():
        return []
    if book.getinfo(name).file_size > most:
        raise LimitError(f"its texts are larger than {most // MB} MB")
    with book.open(name) as file:
        return list(stream(cast("BinaryIO", file), handler, most))


class _Attributes(Handler[str]):
    """Gathers some attributes of some elements."""

    def __init__(self, wanted: Mapping[str, tuple[str, ...]]) -> None:
        super().__init__()
        self._wanted = wanted
        self._inside: list[str] = []

    def start(self, name: str, attributes: dict[str, str], /) -> None:
        place = f"{self._inside[-1] if self._inside else ''}/{name}"
        self._inside.append(name)
        plain = {key.rpartition(":")[2]: value for key, value in attributes.items()}
        for asked, keys in self._wanted.items():
            if asked in {name, place}:
                self.done.append("\0".join([name, *(plain.get(key, "") for key in keys)]))

    def end(self, _name: str, /) -> None:
        self._inside.pop()


def _found(book: zipfile.ZipFile, part: str, wanted: Mapping[str, tuple[str, ...]]) -> list[list[str]]:
    return [item.split("\0") for item in _small(book, part, _Attributes(wanted), MOST_PARTS)]


def _first_sheet(book: zipfile.ZipFile) -> str:
    """The archive's name of the first sheet's part. Raises LookupError."""
    sheets = _found(book, "xl/workbook.xml", {"sheet": ("id",)})
    links = {
        key: target
        for _name, key, target in _found(book, "xl/_rels/workbook.xml.rels", {"Relationship": ("Id", "Target")})
    }
    target = links[sheets[0][1]]
    parts: list[str] = []
    for part in (PurePosixPath(target) if target.startswith("/") else PurePosixPath("/xl") / target).parts[1:]:
        parts = parts[:-1] if part == ".." else [*parts, part]
    return "/".join(parts)


def _counts_from_1904(book: zipfile.ZipFile) -> bool:
    return any(
        value in {"1", "true"} for _name, value in _found(book, "xl/workbook.xml", {"workbookPr": ("date1904",)})
    )


def _dates(book: zipfile.ZipFile) -> list[bool]:
    """For each cell style, whether numbers in it are dates."""
    wanted = {"numFmts/numFmt": ("numFmtId", "formatCode"), "cellXfs/xf": ("numFmtId", "applyNumberFormat")}
    own: set[str] = set()
    styles: list[bool] = []
    for name, number, code in _found(book, "xl/styles.xml", wanted):
        if name == "numFmt" and _is_date(code):
            own.add(number)
        elif name == "xf":
            styles.append(number in own or (number.isdecimal() and int(number) in _BUILT_IN_DATES))
    return styles


def _is_date(code: str) -> bool:
    """Whether a number format shows a day: a y, m or d outside quotes, brackets and escapes."""
    return bool(re.search(r"[ymd]", re.sub(r'"[^"]*"|\[[^\]]*\]|\\.|_.', "", code), re.IGNORECASE))


class _Texts(Handler[str]):
    """The shared texts, each of one or several runs; what is only said aloud (phonetic) is passed over."""

    def __init__(self) -> None:
        super().__init__()
        self._aloud = self._wanted = False

    def start(self, name: str, _attributes: dict[str, str], /) -> None:
        if name == "si":
            self.clear()
        elif name == "rPh":
            self._aloud = True
        self._wanted = name == "t" and not self._aloud

    def end(self, name: str, /) -> None:
        self._wanted = False
        if name == "si":
            self.done.append(self.text)
        elif name == "rPh":
            self._aloud = False

    def take(self, text: str, /) -> None:
        if self._wanted:
            super().take(text)


def _texts(book: zipfile.ZipFile) -> list[str]:
    return _small(book, "xl/sharedStrings.xml", _Texts(), MOST_STRINGS)


class _SheetReader(Handler[Row]):
    """Makes rows of a sheet's cells."""

    def __init__(self, book: _Parts) -> None:
        super().__init__()
        self._book = book
        self._line = 0
        self._cells: list[str] = []
        self._fault = ""
        self._column, self._kind, self._style = -1, "", ""
        self._wanted = False
        self.formulas = False

    def start(self, name: str, attributes: dict[str, str], /) -> None:
        if name == "row":
            told = attributes.get("r", "")
            self._line = int(told) if told.isdecimal() and len(told) < 9 else self._line + 1
            self._cells, self._fault, self._column = [], "", -1
        elif name == "c":
            self._column = _column_of(attributes.get("r", ""), self._column + 1)
            self._kind, self._style = attributes.get("t", "n"), attributes.get("s", "")
            self.clear()
        elif name == "f":
            self.formulas = True
        self._wanted = name in {"v", "t"}

    def end(self, name: str, /) -> None:
        self._wanted = False
        if name == "c":
            self._keep()
        elif name == "row":
            self.done.append(Row(self._line, [] if self._fault else self._cells, self._fault))

    def take(self, text: str, /) -> None:
        if self._wanted:
            super().take(text)

    def _keep(self) -> None:
        if self._column >= MOST_CELLS:
            self._fault = f"Row {self._line} has more than {MOST_CELLS:,} columns; that is no row of a directory."
        elif self.too_long:
            self._fault = f"Row {self._line} holds a text longer than any in a directory."
        elif self.text:
            self._cells.extend([""] * (self._column - len(self._cells)))
            self._cells[self._column :] = [self._value()]

    def _value(self) -> str:
        text = self.text
        if self._kind == "s":
            place = int(text) if text.isdecimal() and len(text) < 9 else -1
            return self._book.texts[place].strip() if 0 <= place < len(self._book.texts) else ""
        if self._kind == "b":
            return str(text == "1")
        if self._kind == "d":
            return text[:10]
        return text.strip() if self._kind in {"str", "inlineStr", "e"} else self._number(text)

    def _number(self, text: str) -> str:
        try:
            value = float(text)
        except ValueError:
            return text.strip()
        style = int(self._style) if self._style.isdecimal() and len(self._style) < 9 else -1
        if 0 <= style < len(self._book.dates) and self._book.dates[style]:
            try:
                day = self._book.epoch + timedelta(days=value)
            except (OverflowError, ValueError):
                return text.strip()
            return day.isoformat()[:10]
        return cell_text(value)


def _column_of(reference: str, otherwise: int) -> int:
    """The column, from 0, in a cell's reference such as “AB12”."""
    letters = reference.rstrip("0123456789")
    return _column(letters) if letters else otherwise


@cache
def _column(letters: str) -> int:
    found = 0
    for letter in letters[:4].upper():
        found = found * 26 + ord(letter) - 64
    return found - 1
