"""The log as CSV: every field out, and tables of other hands in by their headings. Columns that are not known are kept.

Headings are matched without regard to case, blanks and marks. What has no date and hour cannot be an entry, and is told.
"""

import csv
import io
import re
from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Any

import msgspec

from umbra_awl.core.directory.values import parse_day
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.logbook.adif import Fault, Imported, entry_of, moment_of
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.tables.rows import Table

_FIELDS = tuple(field.name for field in msgspec.structs.fields(Entry) if field.name not in {"stood", "more"})
_MORE, _STOOD = "more ", "stood on "
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
_MODES: Mapping[str, tuple[str, str]] = MappingProxyType({
    "dmr": ("DIGITALVOICE", "DMR"), "dstar": ("DIGITALVOICE", "DSTAR"), "fusion": ("DIGITALVOICE", "C4FM"),
    "systemfusion": ("DIGITALVOICE", "C4FM"), "c4fm": ("DIGITALVOICE", "C4FM"), "fm": ("FM", ""),
})  # fmt: skip


def csv_text(entries: Iterable[Entry]) -> str:
    """Every field of entries, one a row; what proofs stood on and what other programs keep has columns of its own."""
    listed = list(entries)
    stood = sorted({name for item in listed for name in item.stood})
    more = sorted({name for item in listed for name in item.more})
    heads = [*_FIELDS, *(_STOOD + name for name in stood), *(_MORE + name for name in more)]
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(heads)
    for item in listed:
        plain = [_text(getattr(item, name)) for name in _FIELDS]
        beside = [*(item.stood.get(name, "") for name in stood), *(item.more.get(name, "") for name in more)]
        writer.writerow([guarded(cell) for cell in (*plain, *beside)])
    return out.getvalue()


def _text(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


def read_csv(table: Table, taken: Iterable[str] = ()) -> Imported:
    """Entries of a table. `taken` are keys that are there already."""
    own = set(table.headers) >= {"key", "utc", "grade"}
    entries: list[Entry] = []
    faults: list[Fault] = []
    used = set(taken)
    for number, row in enumerate(table.rows(), 1):
        if row.fault:
            faults.append(Fault(number, row.fault))
            continue
        cells = {head: cell.strip() for head, cell in zip(table.headers, row.cells, strict=False) if cell.strip()}
        made = _own_entry(cells) if own else entry_of(_fields(cells), number)
        if isinstance(made, str):
            faults.append(Fault(number, made))
            continue
        while made.key in used:
            made = msgspec.structs.replace(made, key=f"{made.key}x")
        used.add(made.key)
        entries.append(made)
    return Imported(tuple(entries), tuple(faults))


def _own_entry(cells: Mapping[str, str]) -> Entry | str:
    """An entry as this program wrote it."""
    fields: dict[str, Any] = {name: cells[name] for name in _FIELDS if name in cells}
    fields["stood"] = {name.removeprefix(_STOOD): cell for name, cell in cells.items() if name.startswith(_STOOD)}
    fields["more"] = {name.removeprefix(_MORE): cell for name, cell in cells.items() if name.startswith(_MORE)}
    try:
        made = msgspec.convert(fields, Entry, strict=False)
    except msgspec.ValidationError as error:
        return f"it is no entry: {error}"
    moment = made.utc.rstrip("Z").replace("-", "").replace(":", "").split("T")
    return made if len(moment) == 2 and moment_of(*moment) else f"“{made.utc[:30]}” is no moment"


def _fields(cells: Mapping[str, str]) -> dict[str, str]:
    """The ADIF fields of a row by another hand's headings."""
    found: dict[str, str] = {}
    for head, cell in cells.items():
        name = _HEADINGS.get(re.sub(r"[^a-z0-9]", "", head.casefold()))
        if name is None or name in found:
            found[f"CSV_{re.sub(r'[^A-Z0-9]+', '_', head.upper())[:40]}"] = cell
        else:
            found[name] = cell
    if "UTC" in found:
        day, _, time = found.pop("UTC").replace("T", " ").partition(" ")
        found.setdefault("QSO_DATE", day)
        found.setdefault("TIME_ON", time.rstrip("Zz"))
    found["QSO_DATE"] = _day(found.get("QSO_DATE", ""))
    found["TIME_ON"] = re.sub(r"[^0-9]", "", found.get("TIME_ON", ""))[:6]
    if (mode := re.sub(r"[^a-z0-9]", "", found.get("MODE", "").casefold())) in _MODES:
        found["MODE"], found["SUBMODE"] = _MODES[mode]
    return found


def _day(text: str) -> str:
    """A day as ADIF has it, from “2026-11-26”, “20261126” or “26.11.2026”; as it is where it is none of these."""
    digits = re.sub(r"[^0-9]", "", text)
    if len(digits) == 8 and digits[:2] in {"19", "20"}:
        return digits
    try:
        return parse_day(text).replace("-", "")
    except ValueError:
        return text
