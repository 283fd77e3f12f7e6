"""The directory's store: one SQLite file. Imported values, private edits and notes are kept apart and joined when read.

One `Store` belongs to one thread; several may be open on one file (write-ahead log). Everything that writes is one transaction.
"""

import json
import sqlite3
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any, NamedTuple

import msgspec

from umbra_awl.core.directory.connection import connect, decoded
from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.directory.private import with_edits
from umbra_awl.core.facts.bands import BANDS, band_at
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.plan.model import AccessPoint

SCHEMA = Path(__file__).with_name("schema.sql")
VERSION = 1
MODE_BITS: ByMode[int] = {"fm": 1, "dmr": 2, "dstar": 4, "fusion": 8}
KIND_BITS = {"repeater": 0, "hotspot": 16, "simplex": 32, "receive": 48}
BAND_BITS = {"2 m": 1, "70 cm": 2}
_WIDE = BANDS[2]
_encode = msgspec.json.Encoder().encode


_TABLES = {"access": "entry", "people": "people", "destinations": "target"}


class StoredEntry(NamedTuple):
    """An access point of the directory as it stands: private edits applied. Dates are ISO texts; `gone` when it vanished."""

    id: int
    key: str
    access: AccessPoint
    source: str
    seen: str
    gone: str
    note: str
    edited: bool


class Batch(NamedTuple):
    """One import: counts of rows and of what it did."""

    id: int
    what: str
    source: str
    file: str
    at: str
    taken: int
    mended: int
    refused: int
    added: int
    changed: int
    vanished: int
    undone: int


def encoded(access: AccessPoint) -> str:
    """An access point as the text that is stored and compared."""
    return _encode(access).decode()


def columns_of(access: AccessPoint) -> tuple[Any, ...]:
    """What of an access point can be searched: call, site, lat, lon, modes with the kind, bands, confirmed."""
    modes, bands = KIND_BITS[access.kind], 0
    for service in access.services:
        modes |= MODE_BITS[service.mode]
        band = band_at(_WIDE, service.rx_hz)
        bands |= BAND_BITS[band.name] if band else 0
    return (access.call, access.site, access.lat, access.lon, modes, bands, access.confirmed)


def words_of(access: AccessPoint) -> str:
    """The words by which an entry is found."""
    outputs = " ".join(f"{service.rx_hz / 1e6:.4f}" for service in access.services)
    return f"{access.call} {access.site} {access.place} {outputs}"


class Store:
    """Reads and small writes; imports are in `importing.py`."""

    def __init__(self, path: Path) -> None:
        """Open or make the store. Raises StoreFailedError."""
        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self.db = connect(path)
            self.db.execute("PRAGMA journal_mode=WAL")
            self.db.execute("PRAGMA synchronous=NORMAL")
            self.db.execute("PRAGMA cache_size=-16000")
            self._prepare()
        except (sqlite3.Error, OSError) as error:
            raise StoreFailedError(
                f"The directory store “{path.name}” cannot be opened ({error}). Move the file away to begin a new one."
            ) from None
        except StoreFailedError as error:
            raise StoreFailedError(f"“{path.name}” cannot be opened. {error}") from None

    def _prepare(self) -> None:
        version = self.db.execute("PRAGMA user_version").fetchone()[0]
        if version > VERSION:
            raise sqlite3.DatabaseError("it was made by a newer version")
        if version == 0:
            self.db.executescript("BEGIN;" + SCHEMA.read_text("utf-8") + "COMMIT;")
            _make_people_words(self.db)

    @contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """One transaction: all of it or nothing. Raises StoreFailedError when the disk does not take it."""
        try:
            self.db.execute("BEGIN IMMEDIATE")
            yield self.db
            self.db.execute("COMMIT")
        except sqlite3.Error as error:
            self._roll_back()
            raise StoreFailedError(
                f"The directory could not be written ({error}); it is as before. Try again."
            ) from None
        except BaseException:
            self._roll_back()
            raise

    def _roll_back(self) -> None:
        with suppress(StoreFailedError, sqlite3.Error):
            if self.db.in_transaction:
                self.db.execute("ROLLBACK")

    def close(self) -> None:
        """Let go of the file."""
        self.db.close()

    def batches(self) -> list[Batch]:
        """All imports, the newest first."""
        return [Batch(*row) for row in self.db.execute("SELECT * FROM batch ORDER BY id DESC")]

    def sources(self, what: str) -> list[str]:
        """The sources that were imported."""
        rows = self.db.execute(
            "SELECT source, max(id) FROM batch WHERE what = ? AND NOT undone GROUP BY source ORDER BY 2 DESC", (what,)
        )
        return [row[0] for row in rows]

    def counts(self) -> dict[str, int]:
        """How many entries, people and destinations are kept."""
        return {what: self.db.execute(f"SELECT count(*) FROM {table}").fetchone()[0] for what, table in _TABLES.items()}  # noqa: S608

    def holds(self, what: str) -> bool:
        """Whether there is any of “access”, “people” or “destinations”."""
        return self.db.execute(f"SELECT 1 FROM {_TABLES[what]} LIMIT 1").fetchone() is not None  # noqa: S608

    def entries(self, ids: Iterable[int]) -> list[StoredEntry]:
        """Entries by their numbers, in that order; those no longer there are left out."""
        wanted = list(ids)
        found: dict[int, StoredEntry] = {}
        for low in range(0, len(wanted), 500):
            part = wanted[low : low + 500]
            marks = ",".join("?" * len(part))
            for row in self.db.execute(f"{_ENTRY} WHERE entry.id IN ({marks})", part):
                found[row[0]] = _entry(row)
        return [found[number] for number in wanted if number in found]

    def entry(self, key: str) -> StoredEntry | None:
        """The entry of a key."""
        row = self.db.execute(f"{_ENTRY} WHERE entry.key = ?", (key,)).fetchone()
        return _entry(row) if row else None

    def of_call(self, call: str, key: str) -> list[StoredEntry]:
        """Entries of a call sign or a key, vanished ones too."""
        query = f"{_ENTRY} WHERE entry.key = ? OR (entry.call = ? AND entry.call != '') LIMIT 20"
        return [_entry(row) for row in self.db.execute(query, (key, call))]

    def imported(self, key: str) -> AccessPoint | None:
        """What the directory itself says of an entry, private edits aside."""
        row = self.db.execute("SELECT body FROM entry WHERE key = ?", (key,)).fetchone()
        return decoded(row[0]) if row else None

    def all_entries(self) -> Iterator[StoredEntry]:
        """Every entry that has not vanished, by call sign, for exports."""
        for row in self.db.execute(f"{_ENTRY} WHERE entry.gone = '' ORDER BY entry.call, entry.key"):
            yield _entry(row)

    def edits_of(self, key: str) -> dict[str, Any]:
        """The private edits of an entry: field to value."""
        rows = self.db.execute("SELECT field, value FROM private WHERE key = ?", (key,))
        return {field: json.loads(value) for field, value in rows}

    def set_edit(self, key: str, field: str, value: Any, today: str) -> None:
        """Keep a private edit of one field; None takes it back. Raises StoreFailedError."""
        with self.writing():
            self.put_edit(key, field, value, today)

    def put_edit(self, key: str, field: str, value: Any, today: str) -> None:
        """The same inside a transaction that is going on."""
        if value is None:
            self.db.execute("DELETE FROM private WHERE key = ? AND field = ?", (key, field))
        else:
            self.db.execute(
                "INSERT OR REPLACE INTO private VALUES (?, ?, ?, ?)", (key, field, json.dumps(value), today)
            )
        self.renew(key)

    def all_edits(self) -> dict[str, dict[str, Any]]:
        """Every private edit: key of the entry to field and value."""
        found: dict[str, dict[str, Any]] = {}
        for key, field, value in self.db.execute("SELECT key, field, value FROM private"):
            found.setdefault(key, {})[field] = json.loads(value)
        return found

    def set_note(self, key: str, text: str, today: str) -> None:
        """Keep a local note of an entry; an empty one takes it away. Raises StoreFailedError."""
        with self.writing() as db:
            if text:
                db.execute("INSERT OR REPLACE INTO note VALUES (?, ?, ?)", (key, text, today))
            else:
                db.execute("DELETE FROM note WHERE key = ?", (key,))

    def renew(self, key: str) -> None:
        """Work out anew what an entry is with its private edits, inside a transaction."""
        row = self.db.execute("SELECT id, body, own FROM entry WHERE key = ?", (key,)).fetchone()
        if row is None:
            return
        number, body, _own = row
        imported = decoded(body)
        edited = with_edits(imported, self.edits_of(key))
        own = encoded(edited) if edited != imported else None
        self.db.execute(
            "UPDATE entry SET own=?, call=?, site=?, lat=?, lon=?, modes=?, bands=?, confirmed=? WHERE id=?",
            (own, *columns_of(edited), number),
        )
        self.db.execute("DELETE FROM output WHERE entry = ?", (number,))
        self.db.execute("DELETE FROM entry_box WHERE id = ?", (number,))
        self.db.execute("DELETE FROM entry_words WHERE rowid = ?", (number,))
        put_look_ups(self.db, [(number, edited)])


PEOPLE_WORDS = (
    "CREATE VIRTUAL TABLE {name} USING fts5 (words, content='', columnsize=0, detail=none, prefix='1 2 3 4', "
    "tokenize='unicode61 remove_diacritics 2')"
)
_ENTRY = """SELECT entry.id, entry.key, coalesce(entry.own, entry.body), entry.source, batch.at, entry.gone,
  coalesce(note.text, ''), entry.own IS NOT NULL
  FROM entry JOIN batch ON batch.id = entry.batch LEFT JOIN note ON note.key = entry.key"""


def _entry(row: tuple[Any, ...]) -> StoredEntry:
    return StoredEntry(row[0], row[1], decoded(row[2]), row[3], row[4][:10], row[5], row[6], bool(row[7]))


def put_look_ups(db: sqlite3.Connection, items: list[tuple[int, AccessPoint]]) -> None:
    """Put numbered access points into the look-ups by output, position and words."""
    outputs = sorted((service.rx_hz, n) for n, a in items for service in a.services)  # in the table's own order
    db.executemany("INSERT OR IGNORE INTO output VALUES (?2, ?1)", outputs)
    db.executemany(
        "INSERT INTO entry_box VALUES (?, ?, ?, ?, ?)",
        [(n, a.lat, a.lat, a.lon, a.lon) for n, a in items if a.lat is not None and a.lon is not None],
    )
    db.executemany("INSERT INTO entry_words (rowid, words) VALUES (?, ?)", [(n, words_of(a)) for n, a in items])


def _make_people_words(db: sqlite3.Connection) -> None:
    db.execute("CREATE INDEX IF NOT EXISTS people_call ON people (call)")
    db.execute(PEOPLE_WORDS.format(name="people_words"))
