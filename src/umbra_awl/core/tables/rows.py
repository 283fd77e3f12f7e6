"""Rows under headers, whatever file they come from."""

import re
from collections.abc import Callable, Iterator
from typing import Any, NamedTuple

_NUMBER = re.compile(r"[+\-−]?\d+([.,:]\d+)*\s*\w{0,3}")


class Row(NamedTuple):
    """A row with the number of its line or record, from 1; `fault` is the sentence when it could not be read."""

    line: int
    cells: list[str]
    fault: str = ""
    mended: str = ""


class Table(NamedTuple):
    """Headers, what was noticed about the file, and a function that begins its rows anew.

    `head` holds its first readable rows where they were looked at already, so that nobody opens the file again for them.
    """

    name: str
    kind: str
    headers: list[str]
    rows: Callable[[], Iterator[Row]]
    encoding: str = ""
    delimiter: str = ""
    headless: bool = False
    head: tuple[list[str], ...] | None = None


def headers_of(cells: list[str]) -> tuple[list[str], bool]:
    """Headers made of a first row, and whether the file has none (its first row is numbers already)."""
    numbers = sum(bool(_NUMBER.fullmatch(cell.strip())) for cell in cells)
    if numbers * 2 > len(cells):
        return [f"Column {at}" for at in range(1, len(cells) + 1)], True
    found: dict[str, None] = {}
    times: dict[str, int] = {}
    for at, cell in enumerate(cells, 1):
        name = wanted = cell.strip().lstrip("\ufeff") or f"Column {at}"
        while name in found:
            times[wanted] = times.get(wanted, 1) + 1
            name = f"{wanted} {times[wanted]}"
        found[name] = None
    return list(found), False


def cell_text(value: Any) -> str:
    """A value of a spreadsheet or of JSON as a CSV would hold it."""
    if value is None:
        return ""
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e15:
        return str(int(value))
    if hasattr(value, "isoformat"):
        return str(value.isoformat())[:10]
    return str(value).strip()
