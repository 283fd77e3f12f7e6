"""Talk groups, reflectors and rooms of the directory: importing and finding them.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import re
from typing import NamedTuple

from umbra_awl.core.directory.errors import ImportCancelledError, StoreFailedError
from umbra_awl.core.directory.importing import Cancelled, Progress, ReportLine, never, no_progress
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import PeopleTaken
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.dmr import talk_group_fault
from umbra_awl.core.plan.model import Destination, DestinationKind
from umbra_awl.core.tables.rows import Table


class ListedTarget(NamedTuple):
    """A talk group, reflector or room that could become a destination."""

    id: int
    network: str
    number: int | None
    name: str
    kind: str
    country: str

    def destination(self, key: str, network: str) -> Destination:
        """The destination it makes on a network of the plan (its key)."""
        kinds: dict[str, DestinationKind] = {"reflector": "reflector", "room": "room"}
        kind = kinds.get(self.kind, "group")
        return Destination(key, self.name, kind, network, self.number, text="" if kind == "group" else self.name)


def _kind(text: str, name: str) -> str:
    plain = text.lower()
    if "reflector" in plain or re.fullmatch(r"[A-Z]{3}\d{3}.*", name):
        return "reflector"
    return "room" if "room" in plain else "group"


def import_targets(
    store: Store,
    table: Table,
    layout: TableLayout,
    now: str,
    progress: Progress = no_progress,
    cancelled: Cancelled = never,
) -> PeopleTaken:
    """Take destinations in, in one transaction; those of the same source are replaced.

    Raises CancelledError, StoreFailedError, ReadError.
    """
    source = layout.source or table.name
    at = {field: table.headers.index(column) for field, column in layout.columns.items() if column in table.headers}
    report: list[ReportLine] = []
    rows: dict[tuple[object, ...], tuple[object, ...]] = {}
    for number, row in enumerate(table.rows()):
        if number % 500 == 0:
            progress(number)
            if cancelled():
                raise ImportCancelledError("The import was stopped; nothing was taken.")
        text = {field: row.cells[place].strip() if place < len(row.cells) else "" for field, place in at.items()}
        digits = re.sub(r"\D", "", text.get("number", ""))
        value = int(digits) if digits and len(digits) <= 9 else None
        name, kind = text.get("name", "") or digits, _kind(text.get("kind", ""), text.get("name", ""))
        fault = row.fault or ("" if name else "It has neither a number nor a name.")
        fault = fault or (talk_group_fault(value) if kind == "group" else "")
        if fault:
            report.append(ReportLine(row.line, "refused", fault))
            continue
        made = (text.get("network", ""), value, name, kind, text.get("country", ""))
        rows[made[:4]] = made
    with store.writing() as db:
        before = {
            tuple(row)
            for row in db.execute("SELECT network, number, name, kind, country FROM target WHERE source = ?", (source,))
        }
        now_there = set(rows.values())
        added, gone = len(now_there - before), len(before - now_there)
        batch = db.execute(
            "INSERT INTO batch (what, source, file, at, taken, mended, refused, added, changed, vanished) "
            "VALUES ('destinations', ?, ?, ?, ?, 0, ?, ?, 0, ?)",
            (source, table.name, now, len(rows), len(report), added, gone),
        ).lastrowid
        db.execute("INSERT INTO undo VALUES (?, 'targets', ?)", (batch, _encoded(before)))
        _put(store, source, batch or 0, list(rows.values()))
    return PeopleTaken(batch or 0, len(rows), added, 0, gone, report)


def _encoded(rows: set[tuple[object, ...]]) -> str:
    import json

    return json.dumps(sorted((list(row) for row in rows), key=str))


def _put(store: Store, source: str, batch: int, rows: list[tuple[object, ...]]) -> None:
    store.db.execute("DELETE FROM target WHERE source = ?", (source,))
    store.db.executemany(
        "INSERT OR IGNORE INTO target (network, number, name, kind, country, source, batch) VALUES (?, ?, ?, ?, ?, ?, ?)",
        [(*row, source, batch) for row in rows],
    )


def undo_targets(store: Store, batch: int) -> None:
    """Take back an import of destinations. Raises StoreFailedError when nothing is kept of it."""
    import json

    row = store.db.execute("SELECT before FROM undo WHERE batch = ? AND key = 'targets'", (batch,)).fetchone()
    found = next((item for item in store.batches() if item.id == batch), None)
    if row is None or found is None:
        raise StoreFailedError("That import is not there any more.")
    with store.writing() as db:
        _put(store, found.source, batch, [tuple(item) for item in json.loads(row[0])])
        db.execute("DELETE FROM undo WHERE batch = ?", (batch,))
        db.execute("UPDATE batch SET undone = 1 WHERE id = ?", (batch,))


def search_targets(store: Store, text: str, most: int = 200) -> list[ListedTarget]:
    """Destinations whose number begins with a text or whose name or network holds it, numbers in order."""
    plain = text.strip()
    like = "%" + plain.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%"
    rows = store.db.execute(
        "SELECT id, network, number, name, kind, country FROM target WHERE name LIKE ? ESCAPE '\\' OR network LIKE ? ESCAPE '\\' "
        "OR CAST(number AS TEXT) LIKE ? ESCAPE '\\' ORDER BY network, number, name LIMIT ?",
        (like, like, like[1:], most),
    )
    return list(map(ListedTarget._make, rows))
