"""How the values of a guessed column are written: units and decimals, words, what stands for nothing, codes in digits."""

import re

from umbra_awl.core.columns.asked import our_word, plain_digits, unknown_words
from umbra_awl.core.columns.fields import FIELDS, What
from umbra_awl.core.columns.guess_words import NONE_WORDS, VALUE_WORDS
from umbra_awl.core.columns.layout import FileColumn, Unit
from umbra_awl.core.columns.sample import Sample
from umbra_awl.core.facts.tone_kinds import with_sense
from umbra_awl.core.facts.tones import ToneError

_PAIRED = frozenset({"shift", "width", "call_kind", "kind"})


def column_for(sample: Sample, at: int, what: What, field: str) -> FileColumn:
    """The column of a sample with a field (empty: none), written as its values suggest."""
    values = sample.values(at)
    title = sample.headings[at]
    if not field:
        constant = values[0] if values and set(values) == {values[0]} and len(values) == len(sample.rows) else ""
        return FileColumn(title, fixed=constant)
    kind = FIELDS[what][field].kind
    if kind == "hz":
        unit, places = _written(values, offset=field.startswith("offset"), title=title)
        return FileColumn(title, field, unit=unit, places=places)
    if kind == "word":
        words = _words(field, values)
        nothing = {"tone_kind": "none", "shift": "off"}.get(field)
        if nothing is not None and nothing not in words and len(values) < len(sample.rows):
            words[nothing] = ""
        if FIELDS[what][field].words == ("off", "on") and "off" not in words and len(values) < len(sample.rows):
            words["off"] = ""
        return FileColumn(title, field, words=words, asked=unknown_words(title, FIELDS[what][field], field, values))
    if field.startswith("code_"):
        return _of_codes(title, field, values)
    blank = next((value for value in values if value.casefold() in NONE_WORDS), "") if kind == "text" else ""
    join = next((mark for mark in ("|", ";", ",", "/") if any(mark in value for value in values)), ";")
    return (
        FileColumn(title, field, blank=blank, join=join) if kind == "names" else FileColumn(title, field, blank=blank)
    )


def _of_codes(title: str, field: str, values: list[str]) -> FileColumn:
    """A column of codes, in three digits where the sample writes them so; or of their senses, in the words that it uses."""
    if field != "code_sense":
        return FileColumn(title, field, length=3 if values and all(map(plain_digits, values)) else 0)
    words: dict[str, str] = {}
    for value in dict.fromkeys(values):
        try:
            words.setdefault("".join(with_sense("D023N", value, at)[-1] for at in (0, 1)), value)
        except ToneError:
            continue
    return FileColumn(title, field, words=words | _opposite_senses(words))


def _opposite_senses(words: dict[str, str]) -> dict[str, str]:
    """Senses that the sample does not show, in two letters where it writes them so."""
    shown = next(iter(words.values()), "")
    if len(shown) > 2 or not shown:
        return {}
    other = "R" if any("R" in word for word in words.values()) else "I"
    made = {ours: ours.replace("I", other) for ours in ("NN", "NI", "IN", "II")}
    return {
        ours: word if len(shown) == 2 else word[0]
        for ours, word in made.items()
        if ours not in words and (len(shown) == 2 or ours in {"NN", "II"})
    }


_UNIT_SAID = re.compile(r"(?<![A-Za-z])([MkK]?)[Hh][Zz]\b")
_UNITS: dict[str, Unit] = {"M": "MHz", "k": "kHz", "K": "kHz", "": "Hz"}


def _written(values: list[str], *, offset: bool, title: str) -> tuple[Unit, int]:
    """Unit and decimals that a column's frequencies are written in: as its heading says, else by their size.

    Receivers lie between 1 and 3,000 MHz; a shift is 0.6 to 10 MHz.
    """
    numbers = [
        float(value.replace(",", ".").replace("−", "-"))
        for value in values
        if re.fullmatch(r"[+\-−]?\d+([.,]\d+)?", value)
    ]
    largest = max(map(abs, numbers), default=0.0)
    hertz, kilohertz = (50_000, 50) if offset else (3_000_000, 3_000)
    by_size: Unit = "Hz" if largest >= hertz else "kHz" if largest >= kilohertz else "MHz"
    said = _UNIT_SAID.search(title)
    unit = _UNITS[said[1]] if said is not None else by_size
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
    if field == "shift" and found.get("-") == "-":
        found["+"] = "+"
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
