"""Guessing a layout from sample files: encoding, delimiter, headings, which column is which field, how values are written.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import csv
import io
import re
from collections.abc import Callable, Iterable
from functools import partial
from typing import NamedTuple

from umbra_awl.core.columns.asked import folded_heading, our_word, plain_digits, unknown_words, which_tone
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS, NEEDED, What
from umbra_awl.core.columns.guess_words import HEADINGS, NONE_WORDS, VALUE_WORDS
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet, Unit
from umbra_awl.core.directory.sides import Columns, frequency_columns, is_usual_shift
from umbra_awl.core.tables.headings import joined_headings
from umbra_awl.core.tables.table import delimiter_of, encodings_of

SAMPLE_ROWS = 200
_ENOUGH, _EXACT = 70.0, 100.0
_MOST_LEAD = 12
_SHORT = 3
_PAIRED = frozenset({"shift", "width", "call_kind", "kind"})


class Sample(NamedTuple):
    """One file as it was found: its encoding, delimiter, lines before the headings, headings, and first rows.

    Where headings take two lines the first is among those before, and `above` has both joined.
    """

    file: str
    encoding: str
    delimiter: str
    lead: tuple[str, ...]
    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    above: tuple[str, ...] = ()

    @property
    def called(self) -> tuple[str, ...]:
        """What each column is called: its heading, with the line above it where headings take two."""
        return self.above or self.headings

    def values(self, at: int) -> list[str]:
        """The values in a column, blanks left out."""
        return [row[at].strip() for row in self.rows if at < len(row) and row[at].strip()]


MOST_COLUMNS = 300


def take_sample(file: str, data: bytes) -> Sample:
    """The first rows of a file. Raises ColumnsError for anything that is no table."""
    if not data.strip():
        raise ColumnsError(f"“{file}” is empty.")
    if data.startswith(b"PK") or (b"\0" in data[:4_000] and not data.startswith((b"\xff\xfe", b"\xfe\xff"))):
        raise ColumnsError(f"“{file}” is not text. Save it as CSV from the program it comes from.")
    encoding, legacy = encodings_of(data[:65_536])
    try:
        text = data.decode(encoding)
    except UnicodeDecodeError:
        encoding, text = legacy, data.decode(legacy, "replace")
    delimiter = delimiter_of(text.lstrip("\ufeff")[:65_536])
    try:
        lines = list(_first(csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), delimiter=delimiter)))
    except csv.Error as error:
        raise ColumnsError(f"“{file}” cannot be read as a table: {error}.") from None
    at = _headings_at(lines)
    if at >= len(lines) or len(lines[at]) < 2:
        raise ColumnsError(f"“{file}” has no columns: one value a line, whatever the delimiter.")
    if len(lines[at]) > MOST_COLUMNS:
        raise ColumnsError(
            f"“{file}” has {len(lines[at]):,} columns; no radio's file has more than {MOST_COLUMNS}. Choose another file."
        )
    both = joined_headings(lines[at], lines[at + 1], lines[at + 2 :]) if at + 1 < len(lines) else None
    at += both is not None
    lead = tuple(delimiter.join(cells) for cells in lines[:at])
    heads = tuple(cell.strip() or f"Column {place}" for place, cell in enumerate(lines[at], 1))
    rows = tuple(tuple(row) for row in lines[at + 1 :] if any(row))
    return Sample(file, encoding, delimiter, lead, heads, rows, tuple(both or ()))


def _first(reader: Iterable[list[str]]) -> list[list[str]]:
    found: list[list[str]] = []
    for cells in reader:
        found.append(cells)
        if len(found) > SAMPLE_ROWS:
            break
    return found


def _headings_at(lines: list[list[str]]) -> int:
    """The first line that is as wide as most and not mostly numbers."""
    widths = [len(cells) for cells in lines if any(cells)]
    usual = max(set(widths), key=widths.count) if widths else 0
    for at, cells in enumerate(lines[:_MOST_LEAD]):
        filled = [cell for cell in cells if cell.strip()]
        if len(cells) >= usual and len(filled) * 2 > len(cells):
            return at
    return 0


def guess_layout(files: list[Sample], name: str) -> ColumnLayout:
    """The likeliest layout of some files; it may lack what the operator must choose. Raises ColumnsError without a file."""
    if not files:
        raise ColumnsError("Choose at least one sample file.")
    sheets = tuple(guess_sheet(sample) for sample in files)
    first = files[0]
    numbers = [value for sample in files for at in range(len(sample.headings)) for value in sample.values(at)]
    commas = sum(bool(re.fullmatch(r"-?\d+,\d{1,6}", value)) for value in numbers)
    points = sum(bool(re.fullmatch(r"-?\d+\.\d{1,6}", value)) for value in numbers)
    decimal = "," if commas > points and first.delimiter != "," else "."
    return ColumnLayout(name, sheets, delimiter=first.delimiter, decimal=decimal, encoding=first.encoding)  # type: ignore[arg-type]


def guess_sheet(sample: Sample, what: What | None = None) -> Sheet:
    """The likeliest columns of one file; what it holds is guessed too unless given."""
    whats = (what,) if what else tuple(FIELDS)
    ranked = [
        (_score(kind, found, sample.file), kind, found)
        for kind in whats
        if (found := _matched(sample, kind)) is not None
    ]
    _points, kind, found = max(ranked, key=lambda item: item[0])
    columns = tuple(column_for(sample, at, kind, found.get(at, "")) for at in range(len(sample.headings)))
    return Sheet(kind, sample.file, which_tone(columns), sample.lead)


def _score(what: What, found: dict[int, str], file: str) -> tuple[bool, bool, int, bool]:
    """What a file holds: it has the needed columns, its name says so, it has many of the columns."""
    fields = set(found.values())
    whole = all(fields.intersection(group) for group in NEEDED[what])
    said = all(word.rstrip("s") in file.lower() for word in what.split())
    return whole, said, len(fields), what == "channels"


def _matched(sample: Sample, what: What) -> dict[int, str]:
    """Column to field: the best pairs first, each once; numbered members each get their place."""
    pairs: list[tuple[float, int, str]] = []
    seen: set[str] = set()
    for at, heading in enumerate(sample.called):
        if (folded := heading.strip().casefold()) in seen:
            continue  # which of two of one name is meant is asked, and the second is told as not used
        seen.add(folded)
        values = sample.values(at)
        pairs += [(-_fit(heading, values, what, field), at, field) for field in FIELDS[what]]
        worded = [field for field, spec in FIELDS[what].items() if spec.kind == "word"]
        pairs += [(-_EXACT, at, field) for field in worded if _is_called(heading, what, field)]
    found: dict[int, str] = {}
    for minus, at, field in sorted(pairs):
        if -minus >= _ENOUGH and at not in found and field not in found.values():
            found[at] = field
    if what == "channels":
        _pair_up(sample, found)
    return {at: _signed_or_not(field, sample, at, set(found.values())) for at, field in found.items()}


def _pair_up(sample: Sample, found: dict[int, str]) -> None:
    """Two columns of frequencies are a pair, whatever the second is called: a channel is not simplex by an unknown word."""
    if "rx" in found.values() and not _TELL_THE_INPUT.isdisjoint(found.values()):
        return
    width = len(sample.headings)
    rows = [(*row, *[""] * width)[:width] for row in sample.rows]
    held = [at for at in frequency_columns(Columns(sample.called, rows)) if found.get(at) in {None, "rx", "tx"}]
    heard = next((at for at in held if found.get(at) == "rx"), None)
    others = [at for at in held if at != heard]
    if heard is not None and len(others) == 1:
        found[others[0]] = "tx"
    elif heard is None and len(held) == 2:
        found[held[0]], found[held[1]] = ("rx", "tx") if found.get(held[0]) != "tx" else ("tx", "rx")
    else:
        free = [at for at in range(width) if at not in found and sample.values(at)]
        shifts = [at for at in free if all(map(is_usual_shift, sample.values(at)))]
        found.update(dict.fromkeys(shifts[:1], "offset"))


_TELL_THE_INPUT = frozenset({"tx", "offset", "offset_size", "shift"})


def _signed_or_not(field: str, sample: Sample, at: int, taken: set[str]) -> str:
    """A column of offsets that never shows a sign tells only sizes, unless its heading says that it is signed."""
    if field != "offset" or "offset_size" in taken or "signed" in folded_heading(sample.called[at]).split():
        return field
    return field if any(re.match(r"[+\-−–—]", value) for value in sample.values(at)) else "offset_size"


def _phrases(what: What, field: str) -> list[str]:
    return HEADINGS.get(f"{what}.{field}", HEADINGS.get(field, "")).split("|")


def _is_called(heading: str, what: What, field: str) -> bool:
    """Whether a heading is just what a field is called: then words that are not understood are asked about."""
    return folded_heading(heading) in _phrases(what, field)


def _fit(heading: str, values: list[str], what: What, field: str) -> float:
    """0 to about 110: how well a heading and its values suit a field."""
    from rapidfuzz import fuzz

    plain = folded_heading(heading)
    phrases = _phrases(what, field)
    near = (fuzz.token_sort_ratio(plain, phrase) for phrase in phrases if len(phrase) > _SHORT)
    score = 100.0 if plain in phrases else max(near, default=0.0)
    return score + _evidence(FIELDS[what][field].kind, field, values) if score >= _ENOUGH - 14 else 0.0


def _evidence(kind: str, field: str, values: list[str]) -> float:
    """Points for or against, from the values."""
    if not values:
        return 0.0
    if field in _OF_VALUES:
        return _OF_VALUES[field](values)
    if kind == "hz":
        share = sum(bool(re.fullmatch(r"[+\-−–—]?\s*\d+([.,]\d+)?", value)) for value in values) / len(values)
    elif kind == "number":
        share = sum(plain_digits(value) for value in values) / len(values)
    elif kind == "word":
        share = sum(our_word(field, value) is not None for value in values) / len(values)
    elif field in {"tone_tx", "tone_rx"}:
        share = sum(bool(re.search(r"\d", value)) or value.casefold() in NONE_WORDS for value in values) / len(values)
    else:
        return 0.0
    return 12.0 * share - (45.0 if share < 0.3 else 0.0)


def _evidence_of_numbers(values: list[str], *, counting: float) -> float:
    """Numbers of rows count up; what else counts up is no ID."""
    if len(values) > 1 and _counts_up(values):
        return counting
    share = sum(plain_digits(value) for value in values) / len(values)
    return 12.0 * share - (60.0 if share < _FEW else 0.0)


def _evidence_of_names(values: list[str]) -> float:
    """Names are words, and mostly each its own."""
    digits = sum(plain_digits(value) for value in values)
    if digits * 2 > len(values):
        return -40.0
    return -20.0 if len(values) > 1 and len(set(values)) * 2 <= len(values) else 6.0


def _evidence_of_zones(values: list[str]) -> float:
    return 6.0 if len(set(values)) < len(values) else 0.0


def _evidence_of_contacts(values: list[str]) -> float:
    return -30.0 if all(plain_digits(value) for value in values) else 0.0


_FEW = 0.5
_OF_VALUES: dict[str, Callable[[list[str]], float]] = {
    "name": _evidence_of_names,
    "zone": _evidence_of_zones,
    "contact": _evidence_of_contacts,
    "number": partial(_evidence_of_numbers, counting=16.0),
    "call": partial(_evidence_of_numbers, counting=-30.0),
}


def _counts_up(values: list[str]) -> bool:
    """Whether a column only numbers its rows."""
    return all(plain_digits(value) for value in values) and [int(value) - int(values[0]) for value in values] == list(
        range(len(values))
    )


def column_for(sample: Sample, at: int, what: What, field: str) -> FileColumn:
    """The column of a sample with a field (empty: none), written as its values suggest."""
    values = sample.values(at)
    title = sample.headings[at]
    if not field:
        constant = values[0] if values and set(values) == {values[0]} and len(values) == len(sample.rows) else ""
        return FileColumn(title, fixed=constant)
    kind = FIELDS[what][field].kind
    if kind == "hz":
        unit, places = _written(values)
        return FileColumn(title, field, unit=unit, places=places)
    if kind == "word":
        words = _words(field, values)
        if FIELDS[what][field].words == ("off", "on") and "off" not in words and len(values) < len(sample.rows):
            words["off"] = ""
        return FileColumn(title, field, words=words, asked=unknown_words(title, FIELDS[what][field], field, values))
    blank = next((value for value in values if value.casefold() in NONE_WORDS), "") if kind == "text" else ""
    join = next((mark for mark in ("|", ";", ",", "/") if any(mark in value for value in values)), ";")
    return (
        FileColumn(title, field, blank=blank, join=join) if kind == "names" else FileColumn(title, field, blank=blank)
    )


def _written(values: list[str]) -> tuple[Unit, int]:
    """Unit and decimals that a column's frequencies are written in: receivers lie between 1 and 3,000 MHz."""
    numbers = [
        float(value.replace(",", ".").replace("−", "-"))
        for value in values
        if re.fullmatch(r"[+\-−]?\d+([.,]\d+)?", value)
    ]
    largest = max(map(abs, numbers), default=0.0)
    unit: Unit = "Hz" if largest >= 3_000_000 else "kHz" if largest >= 3_000 else "MHz"
    decimals = [len(re.split(r"[.,]", value)[1]) if re.search(r"[.,]", value) else 0 for value in values]
    same = len(set(decimals)) == 1
    return unit, decimals[0] if same and decimals else -1


def _words(field: str, values: list[str]) -> dict[str, str]:
    """Our words to theirs, as far as the sample shows them; power steps in the order of their own words."""
    found: dict[str, str] = {}
    if field == "power" and all(value in {"0", "1", "2", "3", "4"} for value in values):
        return {}
    for value in dict.fromkeys(values):
        ours = our_word(field, value)
        if ours is not None and ours not in found:
            found[ours] = value
    if field == "power" and found:
        return {str(step): found[ours] for step, ours in enumerate(sorted(found))}
    return {**found, **_opposites(field, found)}


def _opposites(field: str, found: dict[str, str]) -> dict[str, str]:
    """Words that the sample does not show, by those it does: “plus” beside “minus”, spelled alike."""
    known, made = VALUE_WORDS.get(field, {}), dict[str, str]()
    if field not in _PAIRED:
        return made
    for ours, theirs in known.items():
        for shown, word in found.items():
            places = known.get(shown, "").split("|")
            at = places.index(word.casefold()) if word.casefold() in places else -1
            options = theirs.split("|")
            if ours not in found and ours not in made and shown != "off" and 0 <= at < len(options):
                like = options[at]
                made[ours] = (
                    like.title() if word.istitle() else like.upper() if word.isupper() and word.isalpha() else like
                )
    return made
