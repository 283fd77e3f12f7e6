"""A list that was pasted: from a page, a spreadsheet, a message or a club's sheet, made a table that the reader of lists takes.

A table stays as it is: by tabs, bars, semicolons, commas or gaps of two blanks. Lines of a message are taken apart by what their
words are: call signs, frequencies, shifts, tones, color codes, modes, locators, numbers of groups; what is left is the name.
"""

import csv
import io
import re
from collections.abc import Sequence

from umbra_awl.core.facts.tones import TONES
from umbra_awl.core.tables.errors import SourceError

MOST_CHARACTERS, MOST_LINES = 2_000_000, 20_000
_TONES = frozenset(TONES)
_MHZ = re.compile(r"^\d{2,4}[.,]\d{2,6}$")
_SHIFT = re.compile(r"^[+\-−–±]\d{0,2}(?:[.,]\d{1,4})?$|^[+\-−–]\d{3,5}$")
_CALL = re.compile(r"^[A-Z0-9]{1,2}\d[A-Z]{1,4}(?:[-/][A-Z0-9]{1,3})?$|^Q\d[A-Z]{1,4}$", re.IGNORECASE)
_LOCATOR = re.compile(r"^[A-R]{2}\d{2}(?:[A-X]{2}(?:\d{2})?)?$", re.IGNORECASE)
_COLOR = re.compile(r"^CC[:=]?(\d{1,2})$", re.IGNORECASE)
_CODE = re.compile(r"^D\d{3}[NI]?$", re.IGNORECASE)
_NUMBER = re.compile(r"^(?:TG)?(\d{1,8})$", re.IGNORECASE)
_MODES = {"FM": "FM", "NFM": "FM", "ANALOG": "FM", "ANALOGUE": "FM", "DMR": "DMR", "D-STAR": "D-STAR", "DSTAR": "D-STAR",
          "FUSION": "Fusion", "C4FM": "Fusion"}  # fmt: skip
_NOISE = frozenset(
    {
        "mhz",
        "khz",
        "hz",
        "tone",
        "ctcss",
        "dcs",
        "shift",
        "tg",
        "slot",
        "cc",
        "on",
        "at",
        "-",
        "–",
        "·",
        "output",
        "input",
    }
)
_OPEN = {"Output": "First frequency", "Other frequency": "Second frequency"}
"""Where lines hold two frequencies, which of them is heard is for the reader of lists to decide, or to ask."""
_HEADS = ("Call", "Site", "Mode", "Output", "Other frequency", "Shift", "Tone", "Color code", "Locator")


def pasted_table(text: str) -> str:
    """The CSV of a pasted list. Raises SourceError where nothing in it is a list."""
    if len(text) > MOST_CHARACTERS:
        raise SourceError("That is too much to paste at once. Save it as a file, and choose that.")
    lines = [line for line in text.replace("\r", "\n").split("\n") if line.strip()][:MOST_LINES]
    if not lines:
        raise SourceError("There is no text to paste. Copy the list first: from a page, a message or a spreadsheet.")
    rows = _rows(lines)
    if rows is None:
        rows = _said(lines)
    if len(rows) < 2:
        raise SourceError(
            "Nothing pasted is a list: no line has a frequency with a call sign or name, or a number with a name."
        )
    out = io.StringIO()
    csv.writer(out).writerows(rows)
    return out.getvalue()


def _rows(lines: Sequence[str]) -> list[list[str]] | None:
    """The rows of a table; None where the lines are none."""
    for mark in ("\t", "|", ";", ","):
        counts = [line.count(mark) for line in lines]
        usual = max(set(counts), key=counts.count)
        if usual >= (2 if mark == "," else 1) and counts.count(usual) >= 0.8 * len(lines) and len(lines) > 1:
            return _headed(_by_bars(lines) if mark == "|" else list(csv.reader(lines, delimiter=mark)))
    gaps = [re.split(r"\s{2,}", line.strip()) for line in lines]
    sizes = [len(row) for row in gaps]
    usual = max(set(sizes), key=sizes.count)
    if usual >= 3 and sizes.count(usual) >= 0.8 * len(lines) and len(lines) > 1:
        return _headed([row for row in gaps if len(row) == usual])
    return None


def _by_bars(lines: Sequence[str]) -> list[list[str]]:
    rows = [[cell.strip() for cell in line.strip().strip("|").split("|")] for line in lines]
    return [row for row in rows if not all(set(cell) <= set("-: ") for cell in row)]


def _headed(rows: list[list[str]]) -> list[list[str]]:
    """With a line of headings, where the first line is data already."""
    first = [cell.strip() for cell in rows[0]]
    if any(_MHZ.match(cell) or _NUMBER.match(cell) for cell in first):
        return [[f"Column {at}" for at in range(1, len(first) + 1)], *rows]
    return rows


def _said(lines: Sequence[str]) -> list[list[str]]:
    """Lines of a message: access points where a line has a frequency, else numbers with names."""
    points = [made for line in lines if (made := _point(line)) is not None]
    if points:
        two = any(row[_HEADS.index("Other frequency")] for row in points)
        return [[_OPEN.get(head, head) if two else head for head in _HEADS], *points]
    groups = [made for line in lines if (made := _group(line)) is not None]
    return [["Number", "Name"], *groups] if groups else []


def _words(line: str) -> list[str]:
    return [word for word in re.split(r"[\s,;()\[\]]+(?!\d)|\s+", line.replace("MHz", " ").replace("kHz", " ")) if word]


def _point(line: str) -> list[str] | None:
    found: dict[str, str] = {}
    left: list[str] = []
    for word in _words(line):
        field, value = _field(word.strip(".:"), found)
        if field:
            found.setdefault(field, value)
        elif word.casefold().strip(":.") not in _NOISE:
            left.append(word.strip(":"))
    if "Output" not in found or not (left or "Call" in found):
        return None
    return [" ".join(left) if head == "Site" else found.get(head, "") for head in _HEADS]


def _field(word: str, found: dict[str, str]) -> tuple[str, str]:
    """What a word of a message is; an empty field where it is part of a name."""
    plain = word.replace(",", ".")
    if plain in _TONES and "Output" in found:
        return "Tone", plain
    if _MHZ.match(word) and float(plain) >= 20:
        return ("Other frequency" if "Output" in found else "Output"), plain
    if (shape := _COLOR.match(word)) is not None:
        return "Color code", shape[1]
    if word.upper() in _MODES:
        return "Mode", _MODES[word.upper()]
    for field, form in (("Tone", _CODE), ("Shift", _SHIFT), ("Call", _CALL), ("Locator", _LOCATOR)):
        if form.match(word) and field not in found:
            return field, word.upper() if field != "Shift" else word.replace("−", "-").replace("–", "-")
    return "", ""


def _group(line: str) -> list[str] | None:
    words = _words(line)
    number = next((shape[1] for word in words if (shape := _NUMBER.match(word.strip(":.")))), "")
    name = " ".join(
        word.strip(":") for word in words if not _NUMBER.match(word.strip(":.")) and word.casefold() not in _NOISE
    )
    return [number, name] if number and name else None
