"""Tables of a log as other hands write them: headings, days, hours and modes by their habits, as ADIF fields.

Days such as 03/04 are taken day first, unless another day of the same table can only be month first.
"""

import re
from collections.abc import Mapping
from datetime import UTC, datetime
from types import MappingProxyType

from umbra_awl.core.directory.lists.values import parse_day
from umbra_awl.core.facts.modes import of_mode
from umbra_awl.core.logbook.adif import MODES, mode_said
from umbra_awl.core.tables.rows import Table

_OWN = "APP_UMBRAAWL_"
_HEADINGS: Mapping[str, str] = MappingProxyType({
    "call": "CALL", "callsign": "CALL", "station": "CALL", "theircall": "CALL", "worked": "CALL",
    "name": "NAME", "operator": "NAME", "opname": "NAME",
    "qth": "QTH", "place": "QTH", "city": "QTH", "location": "QTH",
    "date": "QSO_DATE", "qsodate": "QSO_DATE", "day": "QSO_DATE",
    "time": "TIME_ON", "timeon": "TIME_ON", "utctime": "TIME_ON", "timeutc": "TIME_ON", "dateutc": "QSO_DATE",
    "starttime": "TIME_ON",
    "utc": "UTC", "datetime": "UTC", "datetimeutc": "UTC", "timestamp": "UTC", "when": "UTC",
    "freq": "FREQ", "frequency": "FREQ", "mhz": "FREQ", "frequencymhz": "FREQ",
    "mode": "MODE", "submode": "SUBMODE",
    "rst": "RST_RCVD", "rstrcvd": "RST_RCVD", "report": "RST_RCVD", "rstr": "RST_RCVD", "rstsent": "RST_SENT",
    "comment": "COMMENT", "note": "COMMENT", "notes": "COMMENT", "remarks": "COMMENT",
    "grid": "GRIDSQUARE", "locator": "GRIDSQUARE", "gridsquare": "GRIDSQUARE",
    "mycall": "STATION_CALLSIGN", "stationcallsign": "STATION_CALLSIGN", "owncall": "STATION_CALLSIGN",
    "mygrid": "MY_GRIDSQUARE", "mygridsquare": "MY_GRIDSQUARE", "mylocator": "MY_GRIDSQUARE", "here": "MY_CITY",
    "confirmed": "QSL_RCVD", "qsl": "QSL_RCVD", "qslrcvd": "QSL_RCVD",
    "ber": f"{_OWN}BER", "rssi": f"{_OWN}RSSI", "route": f"{_OWN}ROUTE", "grade": f"{_OWN}GRADE", "radio": f"{_OWN}RADIO",
    "spot": f"{_OWN}SPOT", "path": f"{_OWN}PATH",
})  # fmt: skip
"""Headings as they are met, in small letters without marks, to the ADIF field that they stand for."""
_SHORT = re.compile(r"(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+\d{2,4}")
_HOUR = re.compile(
    r"(?P<clock>\d{3,6}|\d{1,2}[:.h]\d{2}(?:[:.m]\d{2}(?:\.\d+)?)?)\s*(?:(?P<half>[ap])\.?m\.?)?\s*(?:z|utc|gmt)?"
)
_MONTHS = 12


def day_first(table: Table) -> bool:
    """Whether days of a table are day first: its own days tell, and where they do not they are."""
    at = next((at for at, head in enumerate(table.headers) if _heading(head) in {"QSO_DATE", "UTC"}), None)
    if at is None:
        return True
    cells = (row.cells[at] for row in table.rows() if at < len(row.cells))
    pairs = [(int(found[1]), int(found[2])) for cell in cells if (found := _SHORT.match(cell.strip()))]
    return any(one > _MONTHS for one, _two in pairs) or all(two <= _MONTHS for _one, two in pairs)


def _heading(head: str) -> str | None:
    return _HEADINGS.get(re.sub(r"[^a-z0-9]", "", head.casefold()))


def fields_of(cells: Mapping[str, str], *, day_first: bool = True) -> dict[str, str]:
    """The ADIF fields of a row by another hand's headings."""
    found: dict[str, str] = {}
    for head, cell in cells.items():
        name = _heading(head)
        if name is None or name in found:
            found[f"CSV_{re.sub(r'[^A-Z0-9]+', '_', head.upper())[:40]}"] = cell
        else:
            found[name] = cell
    if "UTC" in found:
        day, time = _in_one(found.pop("UTC").strip())
        found.setdefault("QSO_DATE", day)
        found.setdefault("TIME_ON", time)
    found["QSO_DATE"] = _day(found.get("QSO_DATE", "").strip(), day_first=day_first)
    found["TIME_ON"] = _time(found.get("TIME_ON", "").strip())
    if mode := mode_said(found.get("MODE", "")):
        found["MODE"], found["SUBMODE"] = of_mode(MODES, mode)
    return found


def _in_one(text: str) -> tuple[str, str]:
    """Day and hour in UTC that stand in one cell; one with its distance from UTC is moved there."""
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        day, _, time = text.replace("T", " ").partition(" ")
        return day, time
    if moment.tzinfo is not None:
        moment = moment.astimezone(UTC)
    return f"{moment:%Y%m%d}", f"{moment:%H%M%S}"


def _day(text: str, *, day_first: bool) -> str:
    """A day as ADIF has it, from “2026-11-26”, “20261126” or “26.11.2026”; as it is where it is none of these."""
    if re.fullmatch(r"\d{8}", text):
        return text
    try:
        return parse_day(text, day_first=day_first).replace("-", "") if len(re.findall(r"\d+", text)) > 2 else text
    except ValueError:
        return text


def _time(text: str) -> str:
    """An hour as ADIF has it, from “18:05”, “9:05:30”, “1805Z” or “6:05 pm”; empty where it is none of these."""
    found = _HOUR.fullmatch(text.casefold())
    if found is None:
        return ""
    parts = re.findall(r"\d+", found["clock"])
    digits = "".join(part.zfill(2) for part in parts[:3]) if len(parts) > 1 else parts[0].zfill(4)
    half = found["half"]
    if not half:
        return digits
    hour = int(digits[:2])
    return f"{hour % 12 + (12 if half == 'p' else 0):02d}{digits[2:]}" if 1 <= hour <= 12 else ""
