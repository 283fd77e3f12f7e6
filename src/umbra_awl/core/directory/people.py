"""People by DMR ID: importing hundreds of thousands.

An import is laid beside the table in use and takes its place in one transaction; the former one is kept for undo.
"""

import sqlite3
from collections.abc import Callable, Iterator
from itertools import islice
from typing import NamedTuple

from umbra_awl.core.directory.errors import ImportCancelledError, StoreFailedError
from umbra_awl.core.directory.importing import Cancelled, Progress, ReportLine, never, no_progress
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.store import PEOPLE_WORDS, Store
from umbra_awl.core.tables.rows import Row, Table

_CHUNK = 4_000
_MOST_LINES = 10_000
_BIT_IDS = 1 << 24
_TABLE = (
    "CREATE TABLE {name} (id INTEGER PRIMARY KEY, call TEXT NOT NULL, name TEXT NOT NULL, place TEXT NOT NULL, "
    "country TEXT NOT NULL, source TEXT NOT NULL)"
)


class PeopleTaken(NamedTuple):
    """What an import of people did."""

    batch: int
    rows: int
    added: int
    changed: int
    vanished: int
    report: list[ReportLine]


class _Seen:
    """Which IDs came already, in two megabytes."""

    def __init__(self) -> None:
        self._bits = bytearray(_BIT_IDS >> 3)
        self._rest: set[int] = set()

    def twice(self, number: int) -> bool:
        if number >= _BIT_IDS:
            before = number in self._rest
            self._rest.add(number)
            return before
        byte, bit = number >> 3, 1 << (number & 7)
        before = bool(self._bits[byte] & bit)
        self._bits[byte] |= bit
        return before


class _Reader:
    """Turns rows into people; what cannot be used goes to the report."""

    def __init__(self, layout: TableLayout, headers: list[str], source: str) -> None:
        at = {field: headers.index(column) for field, column in layout.columns.items() if column in headers}
        self._id, self._call = at["id"], at["call"]
        self._name, self._surname = at.get("name"), at.get("surname")
        self._place, self._region, self._country = at.get("place"), at.get("region"), at.get("country")
        self._source = source
        self._seen = _Seen()
        self.report: list[ReportLine] = []
        self.refused = self.mended = 0

    def _refuse(self, row: Row, why: str) -> None:
        self.refused += 1
        if len(self.report) < _MOST_LINES:
            self.report.append(ReportLine(row.line, "refused", why))

    def people(self, rows: Iterator[Row]) -> Iterator[tuple[object, ...]]:
        """People ready to be stored."""
        most = max(
            filter(None, (self._id, self._call, self._name, self._surname, self._place, self._region, self._country)),
            default=0,
        )
        seen, at_id, at_call, source, country = self._seen, self._id, self._call, self._source, self._country
        named, placed = _pair(self._name, self._surname, " "), _pair(self._place, self._region, ", ")
        for row in rows:
            cells = row.cells
            if row.fault:
                self._refuse(row, row.fault)
                continue
            if len(cells) <= most:
                cells = [*cells, *[""] * (most + 1 - len(cells))]
            text, call = cells[at_id].strip(), cells[at_call].strip().upper()
            if not (text.isascii() and text.isdigit() and len(text) <= 9):
                self._refuse(row, "The ID is not a number of at most nine digits.")
            elif not call:
                self._refuse(row, "There is no call sign.")
            elif seen.twice(number := int(text)):
                self._refuse(row, "The ID was given already on an earlier line; the first one is kept.")
            else:
                if row.mended:
                    self.mended += 1
                    if len(self.report) < _MOST_LINES:
                        self.report.append(ReportLine(row.line, "mended", row.mended))
                yield (
                    number,
                    call,
                    named(cells),
                    placed(cells),
                    "" if country is None else cells[country].strip(),
                    source,
                )


def _pair(one: int | None, other: int | None, between: str) -> Callable[[list[str]], str]:
    """A function that joins two columns of a row, or takes the one that is there."""
    if one is None or other is None:
        at = one if one is not None else other
        return lambda cells: "" if at is None else cells[at].strip()

    def joined(cells: list[str]) -> str:
        first, second = cells[one].strip(), cells[other].strip()
        return f"{first}{between}{second}" if first and second else first or second

    return joined


def import_people(
    store: Store,
    table: Table,
    layout: TableLayout,
    now: str,
    progress: Progress = no_progress,
    cancelled: Cancelled = never,
) -> PeopleTaken:
    """Take people in, in one transaction; those of the same source are replaced.

    Raises CancelledError, StoreFailedError, ReadError.
    """
    source = layout.source or table.name
    reader = _Reader(layout, table.headers, source)
    with store.writing() as db:
        _begin_beside(db, source)
        rows = 0
        people = reader.people(table.rows())
        while chunk := list(islice(people, _CHUNK)):
            db.executemany("INSERT OR REPLACE INTO people_new VALUES (?,?,?,?,?,?)", chunk)
            rows += len(chunk)
            progress(rows)
            if cancelled():
                raise ImportCancelledError("The import was stopped; the people are as before.")
        counts = _compare(db, source)
        _fill_words(db, progress, rows, cancelled)
        _put_in_place(db)
        batch = db.execute(
            "INSERT INTO batch (what, source, file, at, taken, mended, refused, added, changed, vanished) "
            "VALUES ('people', ?, ?, ?, ?, ?, ?, ?, ?, ?)",
            (source, table.name, now, rows, reader.mended, reader.refused, *counts),
        ).lastrowid
    return PeopleTaken(batch or 0, rows, *counts, reader.report)


def _begin_beside(db: sqlite3.Connection, source: str) -> None:
    db.execute("DROP TABLE IF EXISTS people_new")
    db.execute("DROP TABLE IF EXISTS people_words_new")
    db.execute(_TABLE.format(name="people_new"))
    db.execute("INSERT INTO people_new SELECT * FROM people WHERE source != ?", (source,))


def _compare(db: sqlite3.Connection, source: str) -> tuple[int, int, int]:
    """Added, changed, vanished of a source."""
    if db.execute("SELECT 1 FROM people LIMIT 1").fetchone() is None:
        return (db.execute("SELECT count(*) FROM people_new").fetchone()[0], 0, 0)
    new, old = ("people_new n LEFT JOIN people o ON o.id = n.id", "people o LEFT JOIN people_new n ON n.id = o.id")
    differs = "(o.call, o.name, o.place, o.country) != (n.call, n.name, n.place, n.country)"
    queries = (
        f"SELECT count(*) FROM {new} WHERE n.source = ? AND o.id IS NULL",  # noqa: S608
        f"SELECT count(*) FROM {new} WHERE n.source = ? AND {differs}",  # noqa: S608
        f"SELECT count(*) FROM {old} WHERE o.source = ? AND n.id IS NULL",  # noqa: S608
    )
    added, changed, vanished = (db.execute(query, (source,)).fetchone()[0] for query in queries)
    return added, changed, vanished


def _fill_words(db: sqlite3.Connection, progress: Progress, rows: int, cancelled: Cancelled) -> None:
    db.execute(PEOPLE_WORDS.format(name="people_words_new"))
    low = -1
    while True:
        high = db.execute(
            "SELECT max(id) FROM (SELECT id FROM people_new WHERE id > ? ORDER BY id LIMIT 20000)", (low,)
        ).fetchone()[0]
        if high is None:
            return
        db.execute(
            "INSERT INTO people_words_new (rowid, words) SELECT id, name || ' ' || place || ' ' || country FROM people_new "
            "WHERE id > ? AND id <= ?",
            (low, high),
        )
        low = high
        progress(rows)
        if cancelled():
            raise ImportCancelledError("The import was stopped; the people are as before.")


def _put_in_place(db: sqlite3.Connection) -> None:
    """The new tables become those in use; those in use are kept for undo."""
    db.execute("DROP TABLE IF EXISTS people_old")
    db.execute("DROP TABLE IF EXISTS people_words_old")
    _swap(db, "old", "new")


def _swap(db: sqlite3.Connection, aside: str, use: str) -> None:
    db.execute("DROP INDEX IF EXISTS people_call")
    for name in ("people", "people_words"):
        db.execute(f"ALTER TABLE {name} RENAME TO {name}_{aside}")
        db.execute(f"ALTER TABLE {name}_{use} RENAME TO {name}")
    db.execute("CREATE INDEX people_call ON people (call)")


def undo_people(store: Store, batch: int) -> None:
    """Take back the newest import of people. Raises StoreFailedError when it is not the newest or nothing is kept."""
    newest = store.db.execute("SELECT max(id) FROM batch WHERE what = 'people' AND NOT undone").fetchone()[0]
    kept = store.db.execute("SELECT 1 FROM sqlite_master WHERE name = 'people_old'").fetchone()
    if newest != batch or kept is None:
        raise StoreFailedError("Only the newest import of people can be undone, and only once.")
    with store.writing() as db:
        _swap(db, "gone", "old")
        db.execute("DROP TABLE people_gone")
        db.execute("DROP TABLE people_words_gone")
        db.execute("UPDATE batch SET undone = 1 WHERE id = ?", (batch,))


def people_listed_on(store: Store) -> str:
    """The ISO day on which the store's people were taken last; empty when none were."""
    row = store.db.execute("SELECT max(at) FROM batch WHERE what = 'people' AND undone = 0").fetchone()
    return str(row[0] or "")[:10]
