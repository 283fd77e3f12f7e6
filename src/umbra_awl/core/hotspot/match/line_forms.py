"""Settings a line each: INI, KEY=VALUE, key: value, sections by indentation, key and value parted by a blank.

`walk` names every line that holds a value by its section and key; reading and writing go by it. Lines that are lists, texts over
several lines or remarks are nobody's and stay.
"""

import re
from collections.abc import Iterator
from typing import Literal, NamedTuple

LineForm = Literal["ini", "env", "indented", "words"]
_SECTION = re.compile(r"\s*\[([^\[\]]+)\]\s*(?:[;#].*)?$")
_MARK = re.compile("[;#]")
_NAME = re.compile(r"(\s*(?:-\s+)?(?:export\s+)?)([A-Za-z_][\w .\-]*)\Z")
_ITEM = re.compile(r"(\s*)-(\s+|$)")
_WORDS = re.compile(r"(\s*(?:set\s+)?)([A-Za-z_][\w.\-]*)([ \t]+)(\S.*)")
_MOST_LOOKED_AT, _MOSTLY = 400, 0.8


class LinePair(NamedTuple):
    """A line of key and value in its pieces: what is before, the key, the sign between with its blanks, the value, a remark."""

    lead: str
    key: str
    equals: str
    value: str
    remark: str


class NamedLine(NamedTuple):
    """A line: its number from 0, the section it stands in or begins, its name where it holds a value, and its pieces."""

    at: int
    section: str
    name: str
    pair: LinePair | None


def line_form(text: str) -> LineForm:
    """Which form lines are in."""
    lines = text.splitlines()[:_MOST_LOOKED_AT]
    if any(_SECTION.match(line) for line in lines):
        return "ini"
    telling = [line for line in lines if not _is_remark(line)]
    if any(_begins_section(lines, at) for at in range(len(lines))):
        return "indented"
    by_words = sum(_WORDS.fullmatch(line) is not None for line in telling)
    signs = sum(pair_in(line, "env") is not None for line in telling)
    return "words" if telling and by_words > signs and by_words >= _MOSTLY * len(telling) else "env"


def _is_remark(line: str) -> bool:
    return line.lstrip()[:1] in {"#", ";", ""}


def _begins_section(lines: list[str], at: int) -> bool:
    """Whether a line is a key without a value, with lines of its own below: deeper ones, or items of a list."""
    line = lines[at].rstrip("\r")
    pair = None if _is_remark(line) else pair_in(line, "indented")
    if pair is None or pair.value or ":" not in pair.equals:
        return False
    below = next((item for item in lines[at + 1 :] if not _is_remark(item)), "")
    mine = len(pair.lead)
    return _depth(below) > mine or (_ITEM.match(below) is not None and _depth(below) >= mine)


def _depth(line: str) -> int:
    return len(line) - len(line.lstrip())


def pair_in(line: str, form: LineForm) -> LinePair | None:
    """A line in its pieces, each looked at once however long it is; None where it is no pair."""
    if form == "words":
        found = _WORDS.fullmatch(line.rstrip())
        return LinePair(found[1], found[2], found[3], *_apart(found[4])) if found is not None else None
    sign = next((mark for mark in line if mark in "=:"), "")
    left, _sign, right = line.partition(sign) if sign else (line, "", "")
    bare = left.rstrip()
    name = _NAME.match(bare) if sign else None
    if name is None or (sign == ":" and right[:1] not in {" ", "\t", ""}) or ("-" in name[1] and form != "indented"):
        return None
    value, remark = _apart(right.strip())
    before = right[: len(right) - len(right.lstrip())] if value or remark else right
    return LinePair(name[1], name[2], f"{left[len(bare) :]}{sign}{before}", value, remark)


def _apart(text: str) -> tuple[str, str]:
    """A value and the remark behind it, with the blanks between; within quotation marks there is none."""
    if text[:1] in {'"', "'"}:
        end = text.find(text[0], 1)
        behind = text[end + 1 :]
        return (text[: end + 1], behind) if end > 0 and _begins_remark(behind) else (text, "")
    if text[:1] in {";", "#"}:
        return "", text
    marks = (found.start() for found in _MARK.finditer(text))
    at = next((at for at in marks if text[at - 1].isspace()), -1)
    value = text[:at].rstrip() if at > 0 else text
    return value, text[len(value) :]


def _begins_remark(text: str) -> bool:
    return text[:1].isspace() and text.lstrip()[:1] in {";", "#"}


def named(section: str, key: str) -> str:
    """A key with its section."""
    return f"{section}.{key.strip()}" if section else key.strip()


def walk(lines: list[str], form: LineForm) -> Iterator[NamedLine]:
    """Every line with its section, and its name where it holds a value."""
    if form == "indented":
        yield from _walk_indented(lines)
        return
    section = ""
    for at, line in enumerate(lines):
        bare = line.rstrip("\r")
        head = _SECTION.match(bare) if form == "ini" else None
        if head is not None:
            section = head[1].strip()
        pair = None if head is not None or _is_remark(bare) else pair_in(bare, form)
        yield NamedLine(at, section, named(section, pair.key) if pair is not None else "", pair)


class _Level(NamedTuple):
    depth: int
    name: str
    item: bool


def _walk_indented(lines: list[str]) -> Iterator[NamedLine]:
    levels: list[_Level] = []
    counts: dict[str, int] = {}
    for at, line in enumerate(lines):
        bare = line.rstrip("\r")
        if _is_remark(bare):
            yield NamedLine(at, _path(levels), "", None)
            continue
        depth, item = _depth(bare), _ITEM.match(bare)
        while levels and (
            levels[-1].depth > depth or (levels[-1].depth == depth and (levels[-1].item or item is None))
        ):
            levels.pop()
        if item is not None:
            above = _path(levels)
            counts[above] = counts.get(above, -1) + 1
            levels.append(_Level(depth, str(counts[above]), item=True))
            depth = item.end()
        pair = pair_in(bare, "indented")
        section = _path(levels)
        if pair is not None and _begins_section(lines, at):
            levels.append(_Level(depth, pair.key.strip(), item=False))
            pair = None
        yield NamedLine(at, section, named(section, pair.key) if pair is not None else "", pair)


def _path(levels: list[_Level]) -> str:
    return ".".join(level.name for level in levels)


def read_lines(text: str, form: LineForm) -> dict[str, str]:
    """Every key with its value as text; the last of several alike counts."""
    return {line.name: _bare(line.pair.value) for line in walk(text.splitlines(), form) if line.pair is not None}


def _bare(value: str) -> str:
    """A value without its quotation marks."""
    quoted = len(value) >= 2 and value[0] == value[-1] and value[0] in "\"'"
    return value[1:-1] if quoted else value


def write_lines(text: str, form: LineForm, values: dict[str, str]) -> str:
    """The text with these values in place of its own; what is missing goes to the end of its section."""
    ending = "\r\n" if "\r\n" in text else "\n"
    lines = text.split("\n")
    found = list(walk(lines, form))
    last = {line.name: line.at for line in found if line.pair is not None}
    for name, at in last.items():
        pair = found[at].pair
        if name in values and pair is not None:
            lines[at] = _with_value(lines[at], pair, values[name], form)
    left = {name: value for name, value in values.items() if name not in last}
    if form == "indented":
        return _with_indented("\n".join(lines), left, ending)
    made: list[str] = []
    for at, line in enumerate(lines):
        if at and found[at].section != found[at - 1].section:
            made += _missing(left, found[at - 1].section, ending)
        made.append(line)
    rest = "".join(_rest(left, form, found[-1].section if found else "", ending))
    return (_ended("\n".join(made), ending) if rest else "\n".join(made)) + rest


def _with_value(line: str, pair: LinePair, value: str, form: LineForm) -> str:
    bare = line.rstrip("\r")
    tail = bare[len(bare.rstrip()) :] + ("\r" if line.endswith("\r") else "")
    told = _quoted_like(pair.value, value)
    if form == "indented" and told == value and _MEANS_MORE.search(value) and pair.value[:1] != value[:1]:
        told = '"' + value.replace("\\", "\\\\").replace('"', '\\"') + '"'
    apart = " " if told and pair.remark and not pair.remark[0].isspace() else ""
    equals = pair.equals if pair.equals[-1:].isspace() or "=" in pair.equals or not told else f"{pair.equals} "
    return f"{pair.lead}{pair.key}{equals}{told}{apart}{pair.remark}{tail}"


_MEANS_MORE = re.compile(r"^[\s\[\]{}&*!|>'\"%@`,?-]|: |:$| #|^$")
"""What indented forms read as something other than plain words."""


def _quoted_like(before: str, value: str) -> str:
    quoted = len(before) >= 2 and before[0] == before[-1] and before[0] in "\"'"
    return f"{before[0]}{value}{before[0]}" if quoted and before[0] not in value else value


def _missing(left: dict[str, str], section: str, ending: str) -> list[str]:
    """What belongs into a section that ends here and was not in it."""
    if not section:
        return []
    mine = [name for name in left if name.startswith(f"{section}.")]
    cr = ending[:-1]
    return [f"{name[len(section) + 1 :]}={left.pop(name)}{cr}" for name in mine]


def _rest(left: dict[str, str], form: LineForm, section: str, ending: str) -> list[str]:
    """What is left at the end: into the last section, or sections of their own."""
    made = [line + "\n" for line in _missing(left, section, ending)]
    sign = " " if form == "words" else "="
    for name, value in left.items():
        head, dot, key = name.rpartition(".")
        if form == "ini" and dot and head != section:
            made.append(f"[{head}]{ending}")
            section = head
        made.append(f"{key if form == 'ini' else name}{sign}{value}{ending}")
    return made


def _with_indented(text: str, left: dict[str, str], ending: str) -> str:
    """A text of sections by indentation with what it lacks: behind the last value of its section, else at the end."""
    for name, value in left.items():
        head, _dot, key = name.rpartition(".")
        lines = text.split("\n")
        beside = [line for line in walk(lines, "indented") if line.pair is not None and line.section == head]
        if beside:
            after = beside[-1]
            lead = " " * len(after.pair.lead) if after.pair is not None else ""
            lines.insert(after.at + 1, f"{lead}{key}: {value}{ending[:-1]}")
            text = "\n".join(lines)
        else:
            text = _ended(text, ending) + (
                f"{head}:{ending}  {key}: {value}{ending}" if head else f"{key}: {value}{ending}"
            )
    return text


def _ended(text: str, ending: str) -> str:
    return text if not text or text.endswith("\n") else text + ending
