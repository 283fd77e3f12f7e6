"""The log as CSV: every field out, and tables of other hands in by their headings. Columns that are not known are kept.

Headings are matched without regard to case, blanks and marks. What has no date and hour cannot be an entry, and is told.
"""

import csv
import io
from collections.abc import Iterable, Mapping
from typing import Any

import msgspec

from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.logbook.adif import AdifFault, Imported, entry_of, moment_of
from umbra_awl.core.logbook.csv_habits import day_first, fields_of
from umbra_awl.core.logbook.keys import Keys
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.tables.rows import Table

_FIELDS = tuple(field.name for field in msgspec.structs.fields(Entry) if field.name not in {"stood", "more"})
_MORE, _STOOD = "more ", "stood on "


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
    faults: list[AdifFault] = []
    used = Keys(taken)
    first = day_first(table)
    for number, row in enumerate(table.rows(), 1):
        if row.fault:
            faults.append(AdifFault(number, row.fault))
            continue
        cells = {head: cell.strip() for head, cell in zip(table.headers, row.cells, strict=False) if cell.strip()}
        made = _own_entry(cells) if own else entry_of(fields_of(cells, day_first=first), number)
        if isinstance(made, str):
            faults.append(AdifFault(number, made))
            continue
        key = used.free(made.key)
        entries.append(made if key == made.key else msgspec.structs.replace(made, key=key))
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
