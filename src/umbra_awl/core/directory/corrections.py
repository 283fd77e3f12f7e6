"""Listings found wrong on the air: private edits of entries with their days, as a file to send to whoever keeps the list."""

import csv
import io
import json
from collections.abc import Iterable
from typing import Any, NamedTuple

from umbra_awl.core.directory.private import field_words
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.plan.model import AccessPoint

HEADERS = ("day", "call", "site", "list", "field", "listed", "found", "remark", "by")
_HERTZ = frozenset({"rx_hz", "tx_hz"})


class Correction(NamedTuple):
    """One value of a listing that was found to be another on the air."""

    day: str
    call: str
    site: str
    source: str
    field: str
    listed: str
    found: str
    remark: str


def corrections(store: Store) -> list[Correction]:
    """Every correction in the store, the latest first; an edit that says what the list says by now is none."""
    rows = store.db.execute(
        "SELECT private.at, entry.key, private.field, private.value, entry.source, coalesce(note.text, '')"
        " FROM private JOIN entry ON entry.key = private.key LEFT JOIN note ON note.key = entry.key"
        " ORDER BY private.at DESC, entry.call, private.field"
    ).fetchall()
    found = (_correction(store.imported(key), *rest) for key, *rest in ((row[1], row[0], *row[2:]) for row in rows))
    return [item for item in found if item is not None]


def _correction(
    listed: AccessPoint | None, day: str, field: str, value: str, source: str, remark: str
) -> Correction | None:
    if listed is None:
        return None
    now, was = json.loads(value), listed_value(listed, field)
    if now == was:
        return None
    return Correction(
        day[:10], listed.call, listed.site, source, field_words(field), shown(field, was), shown(field, now), remark
    )


def listed_value(access: AccessPoint, field: str) -> Any:
    """What a list says in a field, named by its path as private edits are; None where it has no such part."""
    key, _, inner = field.partition("/")
    if not inner:
        return getattr(access, key, None)
    service = next((item for item in access.services if item.key == key), None)
    part: Any = service.air if service is not None and inner.startswith("air/") else service
    value = getattr(part, inner.removeprefix("air/"), None) if part is not None else None
    return list(value) if isinstance(value, tuple) else value


def shown(field: str, value: Any) -> str:
    """A value as a list has it: frequencies in MHz, an empty one as none."""
    if field.rpartition("/")[2] in _HERTZ and isinstance(value, int):
        return f"{format_mhz(value)} MHz"
    return "none" if value in ("", None) else ", ".join(map(str, value)) if isinstance(value, list) else str(value)


def corrections_csv(found: Iterable[Correction], by: str) -> str:
    """Corrections as CSV; `by` is the call sign of who found them, as far as they want it told."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADERS)
    writer.writerows([guarded(str(cell)) for cell in (*item, by)] for item in found)
    return out.getvalue()
