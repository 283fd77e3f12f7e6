"""The connection to the directory's store: whatever a damaged or vanished file makes the database say becomes one sentence.

A page may be damaged anywhere, so the first reading of a row can fail as well as the hundredth.
"""

import sqlite3
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any, ParamSpec, TypeVar

import msgspec

from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.plan.model import AccessPoint

_P = ParamSpec("_P")
_R = TypeVar("_R")
_OWN_FAULTS = (sqlite3.IntegrityError, sqlite3.ProgrammingError, sqlite3.InterfaceError)
_decode = msgspec.json.Decoder(AccessPoint).decode


def _said(act: Callable[_P, _R]) -> Callable[_P, _R]:
    def safely(*args: _P.args, **kwargs: _P.kwargs) -> _R:
        try:
            return act(*args, **kwargs)
        except _OWN_FAULTS:
            raise
        except sqlite3.DatabaseError as error:
            raise unusable(str(error)) from None

    return safely


def unusable(why: str) -> StoreFailedError:
    """The sentence on a store that cannot be read or written."""
    if "full" in why or "locked" in why:
        advice = "Make room on the disk and try again." if "full" in why else "Another program holds it; try again."
        return StoreFailedError(f"The directory could not be written ({why}); it is as before. {advice}")
    return StoreFailedError(
        f"The directory store cannot be read ({why}). Your plans are not in it and are whole. Move the file away to begin a new "
        "store, and import your directories again."
    )


class Cursor(sqlite3.Cursor):
    """A cursor whose faults are sentences."""

    execute = _said(sqlite3.Cursor.execute)
    executemany = _said(sqlite3.Cursor.executemany)
    fetchone = _said(sqlite3.Cursor.fetchone)
    fetchmany = _said(sqlite3.Cursor.fetchmany)
    fetchall = _said(sqlite3.Cursor.fetchall)

    def __next__(self) -> Any:
        """The next row."""
        return _next(self)


_next = _said(sqlite3.Cursor.__next__)


class Connection(sqlite3.Connection):
    """A connection whose cursors say what is wrong."""

    def cursor(self, factory: Any = Cursor) -> Any:
        """A cursor of ours."""
        return super().cursor(factory)

    def execute(self, sql: str, parameters: Any = (), /) -> sqlite3.Cursor:
        """Run one statement. Raises StoreFailedError."""
        made: sqlite3.Cursor = self.cursor().execute(sql, parameters)
        return made

    def executemany(self, sql: str, parameters: Iterable[Any], /) -> sqlite3.Cursor:
        """Run one statement for many rows. Raises StoreFailedError."""
        made: sqlite3.Cursor = self.cursor().executemany(sql, parameters)
        return made


def connect(path: Path) -> Connection:
    """Open a database file. Raises StoreFailedError, sqlite3.Error, OSError."""
    return sqlite3.connect(path, isolation_level=None, check_same_thread=False, timeout=10, factory=Connection)


def decoded(text: str) -> AccessPoint:
    """The access point in a stored text. Raises StoreFailedError when it is none: the page it lies on is damaged."""
    try:
        return _decode(text)
    except (msgspec.DecodeError, UnicodeError, TypeError) as error:
        raise unusable(f"an entry is no entry: {error}") from None
