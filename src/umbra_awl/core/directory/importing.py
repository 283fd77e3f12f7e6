"""Importing access points: rows are read into a list of what would change, looked at, and taken in one transaction.

Nothing of the store changes before `take`. Local notes and private edits win over what comes, unless the operator says otherwise.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import json
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping
from operator import attrgetter
from types import MappingProxyType
from typing import NamedTuple

from umbra_awl.core.directory.connection import decoded
from umbra_awl.core.directory.errors import ImportCancelledError, StoreFailedError
from umbra_awl.core.directory.lists.entry import RefusedError, RowReader, join, told_twice
from umbra_awl.core.directory.lists.guess import sides_told
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.lists.sides import Known
from umbra_awl.core.directory.private import differences
from umbra_awl.core.directory.store import Store, columns_of, encoded, put_look_ups
from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.plan.model import AccessPoint
from umbra_awl.core.tables.rows import Table

_EVERY = 500
_kind_of = attrgetter("kind")

Progress = Callable[[int], None]
Cancelled = Callable[[], bool]


def no_progress(_rows: int) -> None:
    """For callers who do not watch."""


def never() -> bool:
    """For callers who do not cancel."""
    return False


class ReportLine(NamedTuple):
    """What happened to a row: “mended” or “refused”, and how or why."""

    line: int
    what: str
    text: str


class EntryChange(NamedTuple):
    """One entry as an import would change it: “added”, “changed” or “vanished”; the fields that differ; held by private edits."""

    kind: str
    key: str
    label: str
    fields: dict[str, tuple[object, object]]
    held: tuple[str, ...] = ()


class IncomingEntries(NamedTuple):
    """What an import would do. `bodies` is key to encoded access point; `used` are keys of entries that the plan holds.

    `older` says so where the file's newest confirmation is before the newest that is known of its source.
    """

    source: str
    file: str
    bodies: dict[str, str]
    report: list[ReportLine]
    rows: int
    changes: list[EntryChange]
    used: frozenset[str] = frozenset()
    older: str = ""

    def count(self, kind: str) -> int:
        """How many entries would be added, changed, or have vanished."""
        return self.counts().get(kind, 0)

    def counts(self) -> Counter[str]:
        """How many entries of each kind of change there are."""
        return Counter(map(_kind_of, self.changes))

    def lines(self, what: str) -> int:
        """How many rows were mended or refused."""
        return len({line.line for line in self.report if line.what == what})


def known_of(store: Store, incoming: IncomingEntries) -> Iterator[tuple[str, AccessPoint]]:
    """Key and stored access point of every entry that would change or has vanished."""
    keys = {change.key for change in incoming.changes if change.kind != "added"}
    for key, body in store.db.execute("SELECT key, body FROM entry WHERE source = ?", (incoming.source,)):
        if key in keys:
            yield key, decoded(body)


def pairs_of(store: Store) -> Known:
    """Gives the pairs, heard and sent on, of the entries with a call sign."""

    def pairs(call: str) -> list[tuple[int, int]]:
        rows = store.db.execute("SELECT body FROM entry WHERE call = ?", (call,))
        return [(service.rx_hz, service.tx_hz) for (body,) in rows for service in decoded(body).services]

    return pairs


def entry_key(source: str, access: AccessPoint) -> str:
    """What names an entry: its source, call sign and site. A new position or frequency does not make it another one."""
    return f"{source}/{access.call}/{access.site.casefold()}"


def read_incoming(
    store: Store, table: Table, layout: TableLayout, progress: Progress = no_progress, cancelled: Cancelled = never
) -> IncomingEntries:
    """Read a table by a layout and compare it with the store. Raises CancelledError, ReadError; changes nothing."""
    source = layout.source or table.name
    report: list[ReportLine] = []
    made: dict[str, AccessPoint] = {}
    rows = 0
    reader = RowReader(layout, table.headers)
    sides = sides_told(table, layout, pairs_of(store))
    report.extend(ReportLine(1, "mended", text) for text in filter(None, (sides, *reader.unsaid())))
    for key, access, line in _made(table, reader, source, report, progress, cancelled):
        rows += 1
        if key in made and (twice := told_twice(made[key], access)):
            report.append(ReportLine(line, "mended", twice))
        made[key] = join(made[key], access) if key in made else access
    report.extend(ReportLine(1, "mended", text) for text in reader.afterwards())
    bodies = {key: encoded(access) for key, access in made.items()}
    changes = list(_changes(store, source, bodies, made))
    return IncomingEntries(
        source, table.name, bodies, report, rows, changes, older=_older(store, source, made.values())
    )


def _older(store: Store, source: str, made: Iterable[AccessPoint]) -> str:
    """A word where a file seems to be older than what is known of its source already."""
    newest = max((access.confirmed for access in made), default="")
    known = store.db.execute("SELECT coalesce(max(confirmed), '') FROM entry WHERE source = ?", (source,)).fetchone()[0]
    if not newest or newest >= known:
        return ""
    return (
        f"This file looks older than what is known of {source}: its newest confirmation is of {newest}, "
        f"the newest known of {known}."
    )


def _made(
    table: Table, reader: RowReader, source: str, report: list[ReportLine], progress: Progress, cancelled: Cancelled
) -> Iterator[tuple[str, AccessPoint, int]]:
    seen: set[str] = set()
    for at, row in enumerate(table.rows()):
        if at % _EVERY == 0:
            progress(at)
            if cancelled():
                raise ImportCancelledError("The import was stopped; nothing was taken.")
        if row.fault:
            report.append(ReportLine(row.line, "refused", row.fault))
            continue
        try:
            access, mended = reader.read(row.cells)
        except RefusedError as error:
            report.append(ReportLine(row.line, "refused", str(error)))
            continue
        key = entry_key(source, access)
        if key in seen and _twice(access, seen, key):
            report.append(ReportLine(row.line, "mended", "given twice; joined with the first"))
        seen.update((key, *(f"{key} {service.key}" for service in access.services)))
        report.extend(ReportLine(row.line, "mended", text) for text in filter(None, (row.mended, *mended)))
        yield key, access, row.line


def _twice(access: AccessPoint, seen: set[str], key: str) -> bool:
    return all(f"{key} {service.key}" in seen for service in access.services)


def _label(access: AccessPoint) -> str:
    return f"{access.call} {access.site}".strip()


def _changes(store: Store, source: str, bodies: dict[str, str], made: dict[str, AccessPoint]) -> Iterator[EntryChange]:
    before = {
        key: (body, gone)
        for key, body, gone in store.db.execute("SELECT key, body, gone FROM entry WHERE source = ?", (source,))
    }
    edited: dict[str, list[str]] = {}
    for key, field in store.db.execute("SELECT key, field FROM private"):
        edited.setdefault(key, []).append(field)
    for key, body in bodies.items():
        if key not in before:
            yield EntryChange("added", key, _label(made[key]), {})
        elif before[key][0] != body or before[key][1]:
            new = made[key]
            fields: dict[str, tuple[object, object]] = dict(differences(decoded(before[key][0]), new))
            if before[key][1]:
                fields["listed"] = ("vanished", "again")
            yield EntryChange("changed", key, _label(new), fields, tuple(edited.get(key, ())))
    for key, (body, gone) in before.items():
        if key not in bodies and not gone:
            yield EntryChange("vanished", key, _label(decoded(body)), {}, tuple(edited.get(key, ())))


def take(
    store: Store,
    incoming: IncomingEntries,
    now: str,
    give_up: Iterable[str] = (),
    mends: Mapping[str, Mapping[str, object]] = MappingProxyType({}),
) -> int:
    """Take what comes into the store, in one transaction; the import's number.

    `give_up` are keys of entries whose private edits the operator lets go; `mends` are key to field and value that are kept as
    private edits; `now` is an ISO date and time. Raises StoreFailedError.
    """
    with store.writing() as db:
        counts = [incoming.count(kind) for kind in ("added", "changed", "vanished")]
        row = (
            "access",
            incoming.source,
            incoming.file,
            now,
            incoming.rows,
            incoming.lines("mended"),
            incoming.lines("refused"),
        )
        batch = db.execute(
            "INSERT INTO batch (what, source, file, at, taken, mended, refused, added, changed, vanished) "
            "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (*row, *counts),
        ).lastrowid
        assert batch is not None  # noqa: S101  (a row was inserted)
        by_kind: dict[str, list[EntryChange]] = {"added": [], "changed": [], "vanished": []}
        for change in incoming.changes:
            by_kind[change.kind].append(change)
        for change in (*by_kind["changed"], *by_kind["vanished"]):
            _remember(store, batch, change.key)
        _add(store, batch, incoming, by_kind["added"])
        for key in give_up:
            db.execute("DELETE FROM private WHERE key = ?", (key,))
        for change in by_kind["changed"]:
            db.execute("UPDATE entry SET body = ?, gone = '' WHERE key = ?", (incoming.bodies[change.key], change.key))
            store.renew(change.key)
        db.executemany(
            "UPDATE entry SET gone = ? WHERE key = ?", [(now[:10], change.key) for change in by_kind["vanished"]]
        )
        new = {change.key for change in by_kind["added"]}
        there = [(batch, key) for key in incoming.bodies if key not in new]
        db.executemany("UPDATE entry SET batch = ? WHERE key = ?", there)
        for key, fields in mends.items():
            for field, value in fields.items():
                store.put_edit(key, field, value, now[:10])
    return batch


def _remember(store: Store, batch: int, key: str) -> None:
    body, gone = store.db.execute("SELECT body, gone FROM entry WHERE key = ?", (key,)).fetchone()
    before = json.dumps({"body": body, "gone": gone, "private": store.edits_of(key)})
    store.db.execute("INSERT INTO undo VALUES (?, ?, ?)", (batch, key, before))


def _add(store: Store, batch: int, incoming: IncomingEntries, added: list[EntryChange]) -> None:
    db = store.db
    first = db.execute("SELECT coalesce(max(id), 0) + 1 FROM entry").fetchone()[0]
    items = [(first + at, change.key, decoded(incoming.bodies[change.key])) for at, change in enumerate(added)]
    db.executemany(
        "INSERT INTO entry (id, key, source, batch, body, call, site, lat, lon, modes, bands, confirmed) "
        "VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        ((n, key, incoming.source, batch, incoming.bodies[key], *columns_of(access)) for n, key, access in items),
    )
    put_look_ups(db, [(n, access) for n, _key, access in items])
    db.executemany("INSERT INTO undo VALUES (?, ?, NULL)", sorted((batch, key) for _n, key, _access in items))
    held = {row[0] for row in db.execute("SELECT DISTINCT key FROM private")}
    for _n, key, _access in items:
        if key in held:
            store.renew(key)


def undo_import(store: Store, batch: int) -> None:
    """Take back the newest import of a source. Raises StoreFailedError when a newer one stands on it."""
    found = next((item for item in store.batches() if item.id == batch), None)
    if found is None or found.undone:
        raise StoreFailedError("That import is not there any more.")
    newer = [
        item
        for item in store.batches()
        if item.source == found.source and item.what == found.what and item.id > batch and not item.undone
    ]
    if newer:
        raise StoreFailedError(
            f"A newer import of {found.source} ({newer[-1].file}) stands on this one. Undo that one first."
        )
    with store.writing() as db:
        for key, before in db.execute("SELECT key, before FROM undo WHERE batch = ?", (batch,)).fetchall():
            if before is None:
                _drop(store, key)
            else:
                _restore(store, key, json.loads(before))
        earlier = db.execute(
            "SELECT max(id) FROM batch WHERE what = 'access' AND source = ? AND id < ? AND NOT undone",
            (found.source, batch),
        ).fetchone()[0]
        db.execute("UPDATE entry SET batch = ? WHERE batch = ?", (earlier or batch, batch))
        db.execute("DELETE FROM undo WHERE batch = ?", (batch,))
        db.execute("UPDATE batch SET undone = 1 WHERE id = ?", (batch,))


def _drop(store: Store, key: str) -> None:
    row = store.db.execute("SELECT id FROM entry WHERE key = ?", (key,)).fetchone()
    if row is None:
        return
    for table, column in (("output", "entry"), ("entry_box", "id"), ("entry_words", "rowid"), ("entry", "id")):
        store.db.execute(f"DELETE FROM {table} WHERE {column} = ?", row)  # noqa: S608  (names from the line above)


def _restore(store: Store, key: str, before: dict[str, object]) -> None:
    store.db.execute("UPDATE entry SET body = ?, gone = ? WHERE key = ?", (before["body"], before["gone"], key))
    private = before["private"]
    if isinstance(private, dict):
        store.db.executemany(
            "INSERT OR IGNORE INTO private VALUES (?, ?, ?, ?)",
            [(key, field, json.dumps(value), "") for field, value in private.items()],
        )
    store.renew(key)


def report_csv(report: Iterable[ReportLine]) -> str:
    """The report of mended and refused rows as CSV."""
    import csv
    import io

    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(("line", "what", "why or how"))
    writer.writerows([guarded(str(cell)) for cell in line] for line in report)
    return out.getvalue()
