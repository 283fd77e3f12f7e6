"""Small files of settings as TOML: read into a value, with one sentence for whatever is wrong; written; named.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
import tomllib
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import msgspec

from umbra_awl.core.keep.limits import SETTINGS_BYTES, read_within
from umbra_awl.core.keep.naming import free_path, readable_name
from umbra_awl.core.keep.versions import form_fault

_Value = TypeVar("_Value", bound=msgspec.Struct)


_QUOTED = re.compile(r"\"[^\"\n]*\"|'[^'\n]*'")
_APART = re.compile(r"[,=\[\]{}#]")
_MOST_DOTS, _MOST_DIGITS = 32, 400


def _check_shape(text: str) -> None:
    """Raise ValueError for keys of more parts than any settings have, and for endless numbers: they cost minutes to read."""
    for line in text.splitlines():
        if len(line) <= _MOST_DOTS:
            continue
        bare = _QUOTED.sub("q", line).replace(" ", "").replace("\t", "")
        for piece in _APART.split(bare):
            if piece.count(".") > _MOST_DOTS or (
                len(piece) > _MOST_DIGITS and piece.replace("_", "").strip("+-").isdecimal()
            ):
                raise ValueError("no settings")


def from_toml(
    text: str,
    kind: type[_Value],
    head: tuple[str, int],
    source: str,
    refused: Callable[[str], Exception],
    plainly: Callable[[str], str] = lambda detail: f"{detail}.",
) -> _Value:
    """The value in a TOML text whose `format` and `version` are those of `head`.

    Raises what `refused` makes of a sentence; `plainly` says in words what the decoder found wrong.
    """
    form, version = head
    try:
        _check_shape(text)
        found = tomllib.loads(text)
        fault = form_fault(source, (found.get("format", form), found.get("version", version)), head)
        value = msgspec.convert(found, kind) if not fault else None
    except tomllib.TOMLDecodeError as error:
        raise refused(f"{source} is not readable TOML and cannot be used: {error}.") from None
    except ValueError as error:
        if isinstance(error, msgspec.ValidationError):
            raise refused(f"{source} cannot be used. {plainly(str(error))}") from None
        raise refused(f"{source} holds a number or a key that no settings have, and cannot be used.") from None
    except (RecursionError, MemoryError):
        raise refused(f"{source} is nested too deeply to be settings and cannot be used.") from None
    if value is None:  # of another form: what it holds was not even looked at
        raise refused(fault)
    return value


def to_toml(value: msgspec.Struct, head: tuple[str, int]) -> str:
    """A value as TOML, its `format` and `version` first, plain values before tables; `from_toml` gives it back."""
    import tomlkit

    plain: dict[str, Any] = {
        key: _without_none(item) for key, item in msgspec.to_builtins(value).items() if item is not None
    }
    plain = {
        "format": head[0],
        "version": head[1],
        **{key: plain[key] for key in plain if key not in {"format", "version"}},
    }
    document = tomlkit.document()
    for key in sorted(plain, key=lambda name: isinstance(plain[name], dict)):
        document.add(key, tomlkit.item(plain[key]))
    return tomlkit.dumps(document)


def _without_none(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _without_none(item) for key, item in value.items() if item is not None}
    return [_without_none(item) for item in value] if isinstance(value, list | tuple) else value


def text_of(path: Path) -> str:
    """The text of a small file of settings. Raises OSError, UnicodeDecodeError."""
    return read_within(path, SETTINGS_BYTES).decode("utf-8")


def place_for(folder: Path, name: str, otherwise: str, name_in: Callable[[Path], str | None]) -> Path:
    """Where something with a name is kept in a folder: the file that holds that very name already, or a free one.

    `name_in` says which name a file holds, None for one that cannot be read. Two names never share a file.
    """
    known = (path for path in sorted(folder.glob("*.toml")) if name_in(path) == name)
    return next(known, None) or free_path(folder, readable_name(name, otherwise), ".toml")
