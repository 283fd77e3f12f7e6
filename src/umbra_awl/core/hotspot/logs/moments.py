"""When a line was written: the moment at its head in the forms that logs have, as one form.

Sources: ISO 8601 and RFC 3339 (2026-11-26T20:31:04Z); RFC 3164, 4.1.2, whose moment (Nov 26 20:31:04) has no year.
"""

import re
from datetime import UTC, date, datetime, timedelta

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_TIME = r"(?P<time>\d{2}:\d{2}:\d{2})(?P<part>[.,]\d+)?\s*(?P<zone>Z|[+-]\d{2}:?\d{2})?"
_FORMS = (
    re.compile(rf"(?P<year>\d{{4}})[-/.](?P<month>\d{{2}})[-/.](?P<day>\d{{2}})[T ]{_TIME}"),
    re.compile(rf"(?P<day>\d{{1,2}})[./](?P<month>\d{{1,2}})[./](?P<year>\d{{4}}),?\s+{_TIME}"),
    re.compile(rf"(?P<name>[A-Za-z]{{3}})\s+(?P<day>\d{{1,2}})\s+(?:(?P<year>\d{{4}})\s+)?{_TIME}"),
)
_EPOCH = re.compile(r"\W{0,2}(1[5-9]\d{8}|2\d{9})(?:\d{3})?(?:[.,]\d+)?\b")
"""Seconds, or thousandths, since 1970, from 2017 on."""
_TIME_ALONE = re.compile(r"\W{0,2}(\d{1,2}:\d{2}(?::\d{2})?)\b")
_WITHIN = 60
"""The moment stands in so many characters at the head of a line, behind a level or a mark."""


def moment_of(line: str, today: date | None = None) -> str:
    """The moment of a line as “2026-11-26 20:31:04”, with its zone where it has one; empty where it has none.

    A moment without a year is of the latest such day up to `today`, one day of grace for another zone; without `today` it is
    left as it stands.
    """
    for form in _FORMS:
        found = form.search(line[:_WITHIN])
        if found is not None:
            return _said(found, today)
    seconds = _EPOCH.match(line)
    if seconds is not None:
        return datetime.fromtimestamp(int(seconds[1]), UTC).strftime("%Y-%m-%d %H:%M:%S+00:00")
    return ""


def shown_moment(line: str, today: date | None = None) -> str:
    """The moment of a line as it is shown: a time without its day too, else the head of the line as it stands."""
    alone = _TIME_ALONE.match(line)
    return moment_of(line, today) or (alone[1] if alone is not None else line[:19])


def _said(found: re.Match[str], today: date | None) -> str:
    part = found.groupdict()
    name = (part.get("name") or "").casefold()
    if name and name not in MONTHS:
        return ""
    month = MONTHS.index(name) + 1 if name else int(part["month"])
    year = int(part["year"]) if part.get("year") else _year(month, int(part["day"]), today)
    if not year:
        return f"{found[0]}".strip()
    zone = (part["zone"] or "").replace("Z", "+00:00")
    return f"{year:04d}-{month:02d}-{int(part['day']):02d} {part['time']}{zone}"


def _year(month: int, day: int, today: date | None) -> int:
    """The year of the latest such day that is not after tomorrow; 0 where it cannot be known."""
    if today is None:
        return 0
    for year in range(today.year + 1, today.year - 8, -1):
        try:
            if date(year, month, day) <= today + timedelta(days=1):
                return year
        except ValueError:
            continue
    return 0
