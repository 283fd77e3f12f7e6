"""What was wrong in files, said once for all rows that it holds of, and not row by row."""

import re
from collections.abc import Iterable

from umbra_awl.core.columns.csv_in import RowFault

_FIRST, _NAMED = 3, re.compile(r"“([^”]*)”(:?) (.*)", re.DOTALL)


def told_once(faults: Iterable[RowFault]) -> list[str]:
    """The faults as sentences in their order; those that differ in their line, or in the thing they name first, are one."""
    grouped: dict[tuple[str, str, bool], list[str]] = {}
    for item in faults:
        if item.line:
            grouped.setdefault((item.file, item.text, True), []).append(str(item.line))
            continue
        named = _NAMED.fullmatch(item.text)
        if named is None:
            grouped.setdefault(("", item.text, False), []).append("")
        else:
            grouped.setdefault((named[2], named[3], False), []).append(f"“{named[1]}”")
    return [_sentence(*key, places) for key, places in grouped.items()]


def _sentence(lead: str, text: str, by_line: bool, places: list[str]) -> str:
    places = list(dict.fromkeys(places))
    more = len(places) - _FIRST
    listed = ", ".join(places[:_FIRST]) + (f" and {more} more" if more > 0 else "")
    if by_line:
        return f"{lead}, {'line' if len(places) == 1 else 'lines'} {listed}: {text}"
    return f"{listed}{lead if len(places) == 1 else ':'} {text}".strip() if places != [""] else text
