"""Settings in JSON: every value by its path of names, lists of sections by number, and written in place in the file's own layout.

“radios.1.tx” is the value `tx` in the second section of the list `radios`. A list of plain values is one value. Of a name that
stands twice the last one counts, as for every reader of JSON.
"""

import json
import re
from typing import Any, NamedTuple

from umbra_awl.core.hotspot.match.form_error import MOST_DEPTH, FormError

_BLANK = re.compile(r"[ \t\r\n]*")
_PLAIN = re.compile(r"[^\s,\]}]+")
_NUMBER = re.compile(r"-?(0|[1-9]\d{0,17})(\.\d{1,12})?")


class _Value(NamedTuple):
    start: int
    end: int
    value: Any


class _Section(NamedTuple):
    """An object: where it begins and ends, where its first member begins (0: it has none) and its last one ends."""

    start: int
    end: int
    first: int
    last: int


class _Places:
    """Where everything of a text stands; the text is known to be JSON."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.values: dict[str, _Value] = {}
        self.sections: dict[str, _Section] = {}
        self.lists: set[str] = set()
        self._any(self._skip(0), "", 0)

    def _skip(self, at: int) -> int:
        found = _BLANK.match(self.text, at)
        return found.end() if found is not None else at

    def _any(self, at: int, path: str, depth: int) -> int:
        """Where what begins here ends."""
        if depth > MOST_DEPTH and self.text[at] in "{[":
            raise FormError("It is nested too deeply to be settings.")
        if self.text[at] == "{":
            return self._section(at, path, depth)
        end = self._end_of(at)
        held = json.loads(self.text[at:end])
        if isinstance(held, list) and any(isinstance(item, dict | list) for item in held):
            return self._list(at, path, depth)
        self.values[path] = _Value(at, end, held)
        return end

    def _end_of(self, at: int) -> int:
        if self.text[at] == '"':
            return json.decoder.scanstring(self.text, at + 1)[1]  # type: ignore[attr-defined,no-any-return]
        if self.text[at] == "[":
            return json.JSONDecoder().raw_decode(self.text, at)[1]
        found = _PLAIN.match(self.text, at)
        return found.end() if found is not None else at + 1

    def _section(self, start: int, path: str, depth: int) -> int:
        at, first, last = self._skip(start + 1), 0, start + 1
        while self.text[at] != "}":
            first = first or at
            name_end = self._end_of(at)
            name = json.loads(self.text[at:name_end])
            value = self._skip(self._skip(name_end) + 1)
            last = self._any(value, f"{path}.{name}" if path else name, depth + 1)
            at = self._skip(last)
            at = self._skip(at + 1) if self.text[at] == "," else at
        self.sections[path] = _Section(start, at + 1, first, last)
        return at + 1

    def _list(self, start: int, path: str, depth: int) -> int:
        self.lists.add(path)
        at, number = self._skip(start + 1), 0
        while self.text[at] != "]":
            end = self._any(at, f"{path}.{number}", depth + 1)
            number, at = number + 1, self._skip(end)
            at = self._skip(at + 1) if self.text[at] == "," else at
        return at + 1


def _places(text: str) -> _Places:
    try:
        found = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise FormError(f"It is no readable JSON: {str(error)[:120]}.") from None
    if not isinstance(found, dict):
        raise FormError("It is JSON, but no object of settings.")
    return _Places(text)


def read_json(text: str) -> dict[str, str]:
    """Every value of a JSON text by its path, as text; a list of plain values joined by blanks. Raises FormError."""
    return {name: _as_text(place.value) for name, place in _places(text).values.items()}


def _as_text(value: object) -> str:
    if isinstance(value, list):
        return " ".join(map(_as_text, value))
    if isinstance(value, bool):
        return "true" if value else "false"
    return "" if value is None else str(value)


def write_json(text: str, values: dict[str, str]) -> str:
    """The text with these values in place of its own, everything else as it was; what is missing is added. Raises FormError."""
    places = _places(text or "{}")
    new = not places.sections[""].first
    made = places.text
    there = [(places.values[name], value) for name, value in values.items() if name in places.values]
    for place, value in sorted(there, key=lambda item: -item[0].start):
        made = made[: place.start] + _like(place.value, value, made[place.start : place.end]) + made[place.end :]
    for name, value in values.items():
        if name not in places.values:
            made = _added(made, name, value)
    return json.dumps(json.loads(made), ensure_ascii=False, indent=2) + "\n" if new else made


def _like(before: object, value: str, raw: str) -> str:
    """A value in the kind and the notation that stood there before."""
    if isinstance(before, bool) and value.lower() in {"true", "false", "yes", "no", "1", "0"}:
        return "true" if value.lower() in {"true", "yes", "1"} else "false"
    if isinstance(before, list):
        return _list_like(before, value.split(), raw)
    if isinstance(before, int | float) and not isinstance(before, bool) and _NUMBER.fullmatch(value):
        return value
    return json.dumps(value, ensure_ascii=False)


def _list_like(before: list[object], parts: list[str], raw: str) -> str:
    numbers = all(isinstance(item, int) for item in before) and all(map(_NUMBER.fullmatch, parts))
    items = parts if numbers else [json.dumps(part, ensure_ascii=False) for part in parts]
    lead = re.match(r"\[(\s*)", raw)
    end = re.search(r"(\s*)\]$", raw)
    blank = lead[1] if lead is not None else ""
    between = f",{blank}" if "\n" in blank else ", " if ", " in raw or len(before) < _TWO else ","
    return f"[{blank}{between.join(items)}{end[1] if end is not None else ''}]"


_TWO = 2


def _added(text: str, name: str, value: str) -> str:
    """The text with a value that it has not, at the end of the section it belongs to. Raises FormError."""
    places = _places(text)
    heads = name.split(".")
    depth = max(at for at in range(len(heads)) if ".".join(heads[:at]) in places.sections)
    inner = ".".join(heads[: depth + 1])
    if inner in places.lists or (inner in places.values and depth + 1 < len(heads)):
        raise FormError(f"“{heads[depth]}” is a single value in the file, and “{name}” wants settings inside it.")
    made: Any = value
    for head in reversed(heads[depth + 1 :]):
        made = {head: made}
    member = f"{json.dumps(heads[depth], ensure_ascii=False)}: {json.dumps(made, ensure_ascii=False)}"
    section = places.sections[".".join(heads[:depth])]
    if not section.first:
        return f"{text[: section.start + 1]}{member}{text[section.start + 1 :]}"
    blank = (
        text[text.rfind("\n", 0, section.first) : section.first] if "\n" in text[section.start : section.first] else " "
    )
    return f"{text[: section.last]},{blank}{member}{text[section.last :]}"
