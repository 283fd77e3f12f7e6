"""Settings files as keys and values: INI, JSON, KEY=VALUE. Writing changes only the values that are asked for.

A key is told as “section.key” (INI), as a path of names (JSON, “modem.tx”), or as it stands (KEY=VALUE). Everything else of the
file stays byte for byte (in JSON: every other value stays, the layout of the file is what `json` writes): a mark of the byte
order, how keys are written, comments behind values. Of a key that stands twice the last one counts, in reading as in writing.
"""

import json
import re
from typing import Any, Literal, NamedTuple

Form = Literal["ini", "json", "env"]
FORM_WORDS: dict[Form, str] = {"ini": "INI", "json": "JSON", "env": "KEY=VALUE"}
MOST_KEYS, MOST_DEPTH = 5_000, 12
_SECTION = re.compile(r"\s*\[([^\[\]]+)\]\s*(?:[;#].*)?$")
BOM = "\ufeff"
_MARK = re.compile("[;#]")
_NAME = re.compile(r"(\s*(?:export\s+)?)([A-Za-z_][\w .\-]*)\Z")


class FormError(ValueError):
    """A settings file that cannot be read; the message says why."""


def form_of(text: str) -> Form:
    """Which form a text is in, by how it begins."""
    text = text.removeprefix(BOM)
    if text.lstrip().startswith("{"):
        return "json"
    return "ini" if any(_SECTION.match(line) for line in text.splitlines()[:400]) else "env"


def read_pairs(text: str, form: Form) -> dict[str, str]:
    """Every key of a file with its value as text; the last of several alike counts. Raises FormError."""
    text = text.removeprefix(BOM)
    made = _flat(_json(text)) if form == "json" else _lines(text, form)
    if not made:
        raise FormError("There is no setting in it: a key, an equals sign, a value, or a JSON object.")
    if len(made) > MOST_KEYS:
        raise FormError(f"It has more than {MOST_KEYS} settings and is no hotspot's.")
    return made


def _lines(text: str, form: Form) -> dict[str, str]:
    made: dict[str, str] = {}
    section = ""
    for line in text.splitlines():
        head = _SECTION.match(line) if form == "ini" else None
        if head is not None:
            section = head[1].strip()
            continue
        pair = None if line.lstrip()[:1] in {"#", ";", ""} else _pair(line)
        if pair is not None:
            made[_named(section, pair.key)] = _bare(pair.value)
    return made


class _Pair(NamedTuple):
    """A line of key and value in its pieces: what is before, the key, the sign between with its blanks, the value, a remark."""

    lead: str
    key: str
    equals: str
    value: str
    remark: str


def _pair(line: str) -> _Pair | None:
    """A line in its pieces, each looked at once however long it is; None where it is no pair."""
    sign = next((mark for mark in line if mark in "=:"), "")
    left, _sign, right = line.partition(sign) if sign else (line, "", "")
    bare = left.rstrip()
    name = _NAME.match(bare) if sign else None
    if name is None or (sign == ":" and right[:1] not in {" ", "\t", ""}):
        return None
    value, remark = _apart(right.strip())
    before = right[: len(right) - len(right.lstrip())] if value or remark else right
    return _Pair(name[1], name[2], f"{left[len(bare) :]}{sign}{before}", value, remark)


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


def _named(section: str, key: str) -> str:
    return f"{section}.{key.strip()}" if section else key.strip()


def _bare(value: str) -> str:
    """A value without its quotation marks."""
    quoted = len(value) >= 2 and value[0] == value[-1] and value[0] in "\"'"
    return value[1:-1] if quoted else value


def write_pairs(text: str, form: Form, values: dict[str, str]) -> str:
    """The file with these values in place of its own; keys that it has not are added. Raises FormError."""
    for value in values.values():
        if any(not char.isprintable() for char in value):
            raise FormError("A value has a line break or a control character in it; settings files cannot hold that.")
    mark = BOM if text.startswith(BOM) else ""
    text = text.removeprefix(BOM)
    return mark + (_write_json(text, values) if form == "json" else _write_lines(text, form, values))


def _write_lines(text: str, form: Form, values: dict[str, str]) -> str:
    ending = "\r\n" if "\r\n" in text else "\n"
    made: list[str] = []
    lines, section = text.split("\n"), ""
    last = _last_lines(lines, form)
    left = {name: value for name, value in values.items() if name not in last}
    for at, line in enumerate(lines):
        bare = line.rstrip("\r")
        head = _SECTION.match(bare) if form == "ini" else None
        if head is not None:
            made += _missing(left, section, ending)
            section = head[1].strip()
        pair = None if bare.lstrip()[:1] in {"#", ";", ""} else _pair(bare)
        name = _named(section, pair.key) if pair is not None else ""
        if pair is not None and name in values and last[name] == at:
            tail = bare[len(bare.rstrip()) :] + ("\r" if line.endswith("\r") else "")
            told = _quoted_like(pair.value, values[name])
            apart = " " if told and pair.remark and not pair.remark[0].isspace() else ""
            line = f"{pair.lead}{pair.key}{pair.equals}{told}{apart}{pair.remark}{tail}"  # noqa: PLW2901
        made.append(line)
    rest = "".join(_rest(left, form, section, ending))
    return (_ended("\n".join(made), ending) if rest else "\n".join(made)) + rest


def _last_lines(lines: list[str], form: Form) -> dict[str, int]:
    """Where each key stands for the last time: that one counts."""
    found: dict[str, int] = {}
    section = ""
    for at, line in enumerate(lines):
        bare = line.rstrip("\r")
        head = _SECTION.match(bare) if form == "ini" else None
        if head is not None:
            section = head[1].strip()
            continue
        pair = None if bare.lstrip()[:1] in {"#", ";", ""} else _pair(bare)
        if pair is not None:
            found[_named(section, pair.key)] = at
    return found


def _missing(left: dict[str, str], section: str, ending: str) -> list[str]:
    """What belongs into a section that ends here and was not in it."""
    if not section:
        return []
    mine = [name for name in left if name.startswith(f"{section}.")]
    cr = ending[:-1]
    return [f"{name[len(section) + 1 :]}={left.pop(name)}{cr}" for name in mine]


def _rest(left: dict[str, str], form: Form, section: str, ending: str) -> list[str]:
    """What is left at the end: into the last section, or sections of their own."""
    made = [line + "\n" for line in _missing(left, section, ending)]
    for name, value in left.items():
        head, dot, key = name.rpartition(".")
        if form == "ini" and dot and head != section:
            made.append(f"[{head}]{ending}")
            section = head
        made.append(f"{key if form == 'ini' else name}={value}{ending}")
    return made


def _ended(text: str, ending: str) -> str:
    return text if not text or text.endswith("\n") else text + ending


def _quoted_like(before: str, value: str) -> str:
    quoted = len(before) >= 2 and before[0] == before[-1] and before[0] in "\"'"
    return f"{before[0]}{value}{before[0]}" if quoted and before[0] not in value else value


def _json(text: str) -> dict[str, Any]:
    try:
        found = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise FormError(f"It is no readable JSON: {str(error)[:120]}.") from None
    if not isinstance(found, dict):
        raise FormError("It is JSON, but no object of settings.")
    return found


def _flat(value: dict[str, Any], head: str = "", depth: int = 0) -> dict[str, str]:
    if depth > MOST_DEPTH:
        raise FormError("It is nested too deeply to be settings.")
    made: dict[str, str] = {}
    for key, item in value.items():
        name = f"{head}.{key}" if head else key
        if isinstance(item, dict):
            made |= _flat(item, name, depth + 1)
        elif isinstance(item, list):
            made[name] = " ".join(_json_text(part) for part in item if not isinstance(part, dict | list))
        else:
            made[name] = _json_text(item)
    return made


def _json_text(item: object) -> str:
    if isinstance(item, bool):
        return "true" if item else "false"
    return "" if item is None else str(item)


def _write_json(text: str, values: dict[str, str]) -> str:
    whole = _json(text or "{}")
    for name, value in values.items():
        *heads, last = name.split(".")
        at = whole
        for head in heads:
            inner = at.setdefault(head, {})
            if not isinstance(inner, dict):
                raise FormError(f"“{head}” is a single value in the file, and “{name}” wants settings inside it.")
            at = inner
        at[last] = _like(at.get(last), value)
    return json.dumps(whole, ensure_ascii=False, indent=2) + "\n"


def _like(before: object, value: str) -> object:
    """A value in the kind that stood there before."""
    if isinstance(before, bool) and value.lower() in {"true", "false", "yes", "no", "1", "0"}:
        return value.lower() in {"true", "yes", "1"}
    if isinstance(before, list):
        parts = value.split()
        return (
            [int(part) for part in parts]
            if all(isinstance(item, int) for item in before) and all(part.lstrip("-").isdecimal() for part in parts)
            else parts
        )
    if isinstance(before, int) and not isinstance(before, bool) and re.fullmatch(r"-?\d{1,18}", value):
        return int(value)
    if isinstance(before, float):
        try:
            return float(value)
        except ValueError:
            return value
    return value
