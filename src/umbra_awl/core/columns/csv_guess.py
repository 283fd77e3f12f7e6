"""Guessing a layout from sample files: encoding, delimiter, headings, which column is which field, how values are written.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
from collections.abc import Callable
from functools import partial

from umbra_awl.core.columns.asked import folded_heading, our_word, plain_digits, which_tone
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.fields import FIELDS, NEEDED, What
from umbra_awl.core.columns.guess_words import HEADINGS, NONE_WORDS
from umbra_awl.core.columns.guess_written import column_for
from umbra_awl.core.columns.layout import ColumnLayout, Sheet
from umbra_awl.core.columns.sample import Sample
from umbra_awl.core.columns.tones import with_idle
from umbra_awl.core.directory.lists.sides import Columns, frequency_columns, is_usual_shift
from umbra_awl.core.facts.tone_kinds import read_code
from umbra_awl.core.facts.tones import ToneError

_ENOUGH, _EXACT = 70.0, 100.0
_SHORT = 3


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
    cells = [dict(zip(sample.headings, row, strict=False)) for row in sample.rows]
    return Sheet(kind, sample.file, with_idle(which_tone(columns), cells), sample.lead)


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
        worded = [field for field, spec in FIELDS[what].items() if spec.kind == "word" and not _is_size(field, values)]
        pairs += [(-_EXACT, at, field) for field in worded if _is_called(heading, what, field)]
    found: dict[int, str] = {}
    for minus, at, field in sorted(pairs):
        if -minus >= _ENOUGH and at not in found and field not in found.values():
            found[at] = field
    if what == "channels":
        _pair_up(sample, found)
    return {at: _signed_or_not(field, sample, at, set(found.values())) for at, field in found.items()}


def _is_size(field: str, values: list[str]) -> bool:
    """Whether a column called a direction holds shifts with their sizes."""
    return field == "shift" and any(is_usual_shift(value) and value.strip("+-−–0., ") for value in values)


def _pair_up(sample: Sample, found: dict[int, str]) -> None:
    """Two columns of frequencies are a pair, whatever the second is called: a channel is not simplex by an unknown word."""
    if "rx" in found.values() and not _TELL_THE_INPUT.isdisjoint(found.values()):
        _drop_doubtful_input(sample, found)
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


def _drop_doubtful_input(sample: Sample, found: dict[int, str]) -> None:
    """Where an offset tells the input, a column that is only called something like it is another: the frequency of a link."""
    at = next((place for place, field in found.items() if field == "tx"), None)
    if (
        at is not None
        and _TELL_THE_INPUT & set(found.values()) != {"tx"}
        and not _is_called(sample.called[at], "channels", "tx")
    ):
        del found[at]


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
    if not values and plain not in phrases:
        return 0.0  # nothing stands in it that would tell
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


def _evidence_of_codes(values: list[str]) -> float:
    """Codes of three digits, or none."""
    share = sum(_is_code(value) for value in values) / len(values)
    return 12.0 * share - (60.0 if share < _FEW else 0.0)


def _is_code(value: str) -> bool:
    try:
        read_code(value[:80])
    except ToneError:
        return False
    return True


_FEW = 0.5
_OF_VALUES: dict[str, Callable[[list[str]], float]] = {
    "name": _evidence_of_names,
    "zone": _evidence_of_zones,
    "contact": _evidence_of_contacts,
    "code_tx": _evidence_of_codes,
    "code_rx": _evidence_of_codes,
    "number": partial(_evidence_of_numbers, counting=16.0),
    "call": partial(_evidence_of_numbers, counting=-30.0),
}


def _counts_up(values: list[str]) -> bool:
    """Whether a column only numbers its rows."""
    return all(plain_digits(value) for value in values) and [int(value) - int(values[0]) for value in values] == list(
        range(len(values))
    )
