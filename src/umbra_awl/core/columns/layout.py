"""CSV layouts: which of our fields stands in which column of somebody's files and how it is written, both ways, as TOML."""

from collections import Counter
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS, NEEDED, What
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.toml_form import from_toml, place_for, text_of, to_toml

FORMAT = "umbra-awl columns"
VERSION = 1
LONGEST_NAME = 120
SHIPPED = Path(__file__).parent / "layouts"
Unit = Literal["", "MHz", "kHz", "Hz"]
UNIT_HZ = {"": 1_000_000, "MHz": 1_000_000, "kHz": 1_000, "Hz": 1}


class _Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Base of a layout's parts."""


class FileColumn(_Part, frozen=True):
    """One column: its title, our field, and how values are written.

    `unit` and `places` (decimals; -1: as many as needed) for frequencies, `words` ours to theirs, `blank` what stands where there
    is nothing, `fixed` what stands there always, `length` the most characters, `join` what stands between joined names, `at`
    which member of a list (from 1) when each has a column, `idle` what stands where another column says that this one is not
    in force, `asked` a question that has to be answered before it is used.
    """

    title: str
    field: str = ""
    unit: Unit = ""
    places: int = -1
    words: dict[str, str] = {}
    blank: str = ""
    fixed: str = ""
    length: int = 0
    join: str = ";"
    at: int = 0
    idle: str = ""
    asked: str = ""

    def blank_always(self) -> bool:
        """Whether nothing is ever written into it."""
        return not self.field and not self.fixed


class Sheet(_Part, frozen=True):
    """One file: what it holds, its name, its columns, the lines before the headings, the most rows it takes (0: any)."""

    what: What
    file: str
    column: tuple[FileColumn, ...]
    lead: tuple[str, ...] = ()
    headings: bool = True
    rows: int = 0


class ColumnLayout(_Part, frozen=True):
    """A set of files. `decimal` is the mark in numbers, `quote` whether every cell stands in quotation marks."""

    name: str
    sheet: tuple[Sheet, ...]
    summary: str = ""
    delimiter: str = ","
    decimal: Literal[".", ","] = "."
    encoding: str = "utf-8"
    newline: Literal["crlf", "lf"] = "crlf"
    quote: bool = False
    format: str = FORMAT
    version: int = VERSION

    @property
    def line_end(self) -> str:
        """What ends a line."""
        return "\r\n" if self.newline == "crlf" else "\n"


def faults(layout: ColumnLayout) -> list[str]:
    """What keeps a layout from being used, as sentences; empty when it can be."""
    return list(_faults(layout))


def _faults(layout: ColumnLayout) -> Iterator[str]:
    if not layout.name.strip():
        yield "The layout needs a name."
    if len(layout.delimiter) != 1:
        yield f"“{layout.delimiter}” is not a delimiter: one character, for example a comma, semicolon or tab."
    if layout.delimiter == layout.decimal and not layout.quote:
        yield f"“{layout.decimal}” cannot be both the delimiter and the decimal mark unless cells are quoted."
    try:
        "x".encode(layout.encoding)
    except LookupError:
        yield f"“{layout.encoding}” is not an encoding that is known here. utf-8 suits most programs."
    if not layout.sheet:
        yield "The layout names no file."
    names = [sheet.file for sheet in layout.sheet]
    for name, count in Counter(names).items():
        if count > 1:
            yield f"Two files have the name “{name}”."
        if not _is_file_name(name):
            yield f"“{name}” is not a file name. Give a plain one, such as channels.csv."
    for sheet in layout.sheet:
        yield from _sheet_faults(sheet)


def _is_file_name(name: str) -> bool:
    """A name that stays in the folder it is put into, and that a disk takes."""
    plain = name.isprintable() and not set(name) & set("/\\")
    return bool(name) and plain and not name.startswith(".") and len(name.encode(errors="replace")) <= LONGEST_NAME


def _sheet_faults(sheet: Sheet) -> Iterator[str]:
    known = FIELDS[sheet.what]
    titles = [column.title for column in sheet.column]
    for title, count in Counter(titles).items():
        if count > 1:
            fields = " and ".join(
                known[item.field].label if item.field in known else item.field or "nothing"
                for item in sheet.column
                if item.title == title
            )
            yield f"In {sheet.file} the column “{title}” stands for two fields: {fields}. Give one of them another column."
    used: set[tuple[str, int]] = set()
    for column in sheet.column:
        if column.asked:
            yield f"In {sheet.file}: {column.asked}"
        if column.field and column.field not in known:
            yield f"In {sheet.file}, “{column.field}” is not a field of {sheet.what}."
            continue
        if column.field and (column.field, column.at) in used:
            yield f"In {sheet.file}, two columns are chosen for {known[column.field].label}. Leave one of them out."
        used.add((column.field, column.at))
        yield from _sends_faults(sheet, column)
        doubled = [word for word, count in Counter(column.words.values()).items() if count > 1]
        if doubled:
            yield f"In {sheet.file}, column “{column.title}” writes two of our words as “{doubled[0]}”."
    chosen = {field for field, _at in used}
    for group in NEEDED[sheet.what]:
        if not chosen.intersection(group):
            words = " or ".join(known[field].label for field in group)
            yield f"In {sheet.file}, no column is chosen for {words}."


_NO = frozenset(
    "no off 0 false n none never disabled - nein aus non non. nao não nej ei nie nee inactif inativo inactivo désactivé".split()
)
_YES = frozenset("yes on 1 true y x enabled ja ein oui si sí sim tak kyllä actif ativo activo activé".split())
_LOW = frozenset("low lo l min lowest niedrig bas bajo basso laag låg niska".split())
_HIGH = frozenset("high hi h max highest hoch haut alto hoog hög wysoka".split())
_PERMITS = ("transmit", "tx", "send", "senden", "émission", "emission", "emisión", "trasmissione")
_FORBIDS = (
    "only",
    "rx",
    "receive",
    "inhibit",
    "prohibit",
    "no ",
    "nur",
    "lock",
    "disable",
    "listen",
    "block",
    "forbid",
    "sperre",
    "interdi",
    "bloque",
    "blocco",
    "blokk",
)


def _sends_faults(sheet: Sheet, column: FileColumn) -> Iterator[str]:
    """What would have a column say the opposite of what keeps a channel from sending, or sends it stronger."""
    if column.field and column.fixed:
        yield f"In {sheet.file}, column “{column.title}” stands for a field and is fixed as well. It can be one of both."
    if column.at and column.field not in {"member", "members"}:
        yield f"In {sheet.file}, column “{column.title}” has a place in a list, and is no list."
    if column.words and column.field in {"rx", "tx", "offset", "offset_size"}:
        yield f"In {sheet.file}, column “{column.title}” is a frequency: no words stand for it."
    said = {ours: theirs.strip().casefold() for ours, theirs in column.words.items()}
    title = column.title.casefold()
    permits = any(word in title for word in _PERMITS) and not any(word in title for word in _FORBIDS)
    wrong = (_YES, _NO) if permits else (_NO, _YES)
    if column.field == "receive_only" and (said.get("on") in wrong[0] or said.get("off") in wrong[1]):
        yield f"In {sheet.file}, column “{column.title}” would say the opposite: channels that must not transmit would."
    if column.field == "power" and said:
        steps = sorted(said, key=lambda step: (len(step), step))
        if said[steps[0]] in _HIGH or said[steps[-1]] in _LOW:
            yield f"In {sheet.file}, column “{column.title}” calls the lowest power high. Turn the words round."


def going_blank(layout: ColumnLayout) -> tuple[str, ...]:
    """The columns that nothing is written into, as “title (file)”."""
    return tuple(
        f"{column.title} ({sheet.file})" for sheet in layout.sheet for column in sheet.column if column.blank_always()
    )


def parse_layout(text: str, source: str = "The layout") -> ColumnLayout:
    """The layout in a TOML text. Raises ColumnsError."""
    layout = from_toml(text, ColumnLayout, (FORMAT, VERSION), source, ColumnsError)
    wrong = faults(layout)
    if wrong:
        raise ColumnsError(f"{source} cannot be used. {wrong[0]}")
    return layout


def read_layout(path: Path) -> ColumnLayout:
    """The layout in a file. Raises ColumnsError."""
    try:
        return parse_layout(text_of(path), f"“{path.name}”")
    except (OSError, UnicodeDecodeError) as error:
        raise ColumnsError(f"“{path.name}” cannot be read: {plain_reason(error)}.") from None


def layout_text(layout: ColumnLayout) -> str:
    """A layout as TOML; reading it gives the same value back."""
    return to_toml(layout, (FORMAT, VERSION))


def save_layout(layout: ColumnLayout, folder: Path) -> Path:
    """Keep a layout under its name; the file. Raises ColumnsError and leaves what was kept before."""
    wrong = faults(layout)
    if wrong:
        raise ColumnsError(f"The layout is not kept. {wrong[0]}")
    path = place_for(folder, layout.name, "layout", _name_in)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        write_over(path, layout_text(layout).encode())
    except OSError as error:
        raise ColumnsError(f"The layout cannot be kept: {error.strerror or error}.") from None
    return path


def _name_in(path: Path) -> str | None:
    try:
        return read_layout(path).name
    except ColumnsError:
        return None


@cache
def shipped_layouts() -> tuple[ColumnLayout, ...]:
    """The layouts that come with the application."""
    return tuple(parse_layout(path.read_text("utf-8"), path.name) for path in sorted(SHIPPED.glob("*.toml")))


def own_layouts(folder: Path) -> tuple[list[ColumnLayout], list[str]]:
    """The operator's own layouts in a folder, and a sentence for each file that cannot be used."""
    found: list[ColumnLayout] = []
    wrong: list[str] = []
    for path in sorted(folder.glob("*.toml")):
        try:
            found.append(read_layout(path))
        except ColumnsError as error:
            wrong.append(str(error))
    return found, wrong
