"""The log's index: an SQLite full-text table in memory, rebuilt from the entries, searched at every key that is typed.

Every word that is typed must begin some word of an entry, as far as its first eight letters: each beginning has a list of its
own, so that a word that is everywhere is found as soon as a rare one. The latest come first: rows stand in the order of moments.
"""

import re
import sqlite3
import threading
from collections.abc import Callable, Iterable
from typing import NamedTuple

from umbra_awl.core.logbook.model import GRADE_WORDS, Entry

PAGE = 200
_LETTERS = 8
_WORD = re.compile(r"[^\W_]+")  # what the index takes for words: an underscore parts them
_TABLE = """CREATE VIRTUAL TABLE words USING fts5(said, content='', columnsize=0, detail=none, prefix='1 2 3 4 5 6 7 8',
  tokenize='unicode61 remove_diacritics 2')"""


class Hits(NamedTuple):
    """Entries found, the latest first, at most a page of them; and whether there are more."""

    entries: tuple[Entry, ...]
    more: bool


class Index:
    """Searches entries. Made in any thread and asked in any, one at a time."""

    def __init__(self, entries: Iterable[Entry], label: Callable[[str], str] = str) -> None:
        """`label` gives what a route is called."""
        self.entries_of = entries
        self.entries = sorted(entries, key=lambda item: (item.utc, item.key))
        self.labels: dict[str, str] = {}
        self._label = label
        self._lock = threading.Lock()
        self._db = sqlite3.connect(":memory:", check_same_thread=False)
        self._db.execute(_TABLE)
        rows = ((at, self._said(item)) for at, item in enumerate(self.entries, 1))
        self._db.executemany("INSERT INTO words (rowid, said) VALUES (?, ?)", rows)
        self._db.commit()

    def _said(self, item: Entry) -> str:
        """All words by which an entry is found."""
        if item.route and item.route not in self.labels:
            self.labels[item.route] = self._label(item.route)
        words = (
            item.utc, item.call, item.name, item.place, item.report, item.spot, item.here, item.path, item.note, item.mode,
            GRADE_WORDS[item.grade], self.labels.get(item.route, ""), "" if item.proves else "simulated",
            "confirmed" if item.confirmed else "",
        )  # fmt: skip
        return " ".join(words)

    def search(self, text: str, most: int = PAGE) -> Hits:
        """The latest entries that have every word that is typed, at most so many."""
        wanted = [f'"{word[:_LETTERS]}"*' for word in _WORD.findall(text)]
        if not wanted:
            latest = self.entries[-most:][::-1]
            return Hits(tuple(latest), len(self.entries) > most)
        query = "SELECT rowid FROM words WHERE words MATCH ? ORDER BY rowid DESC LIMIT ?"
        with self._lock:
            found = self._db.execute(query, (" AND ".join(wanted), most + 1)).fetchall()
        return Hits(tuple(self.entries[row[0] - 1] for row in found[:most]), len(found) > most)

    def close(self) -> None:
        """Let go of the memory."""
        with self._lock:
            self._db.close()
