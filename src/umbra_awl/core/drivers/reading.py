"""Lists and logs that a driver reads: in a process of its own, bounded in time and memory like every foreign file."""

from collections.abc import Iterator
from pathlib import Path

from umbra_awl.core.drivers.protocols import READERS, TableForm
from umbra_awl.core.drivers.registry import DRIVERS, contained
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.apart import ApartError, apart
from umbra_awl.core.keep.limits import TABLE_BYTES, read_within
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.core.transfer.errors import DriverError

MOST_CELLS_ROW, MOST_ROWS = 400, 1_000_000


def endings_of(name: str) -> tuple[str, ...]:
    """The endings of files that a reader takes. Raises DriverError."""
    driver = DRIVERS.load(READERS, name)
    return tuple(str(item).lower() for item in contained(name, lambda: tuple(driver.endings)))


def all_endings() -> tuple[str, ...]:
    """The endings that the readers in force take; one that fails has none."""
    found: list[str] = []
    for name in DRIVERS.names(READERS):
        try:
            found += endings_of(name)
        except DriverError:
            continue
    return tuple(dict.fromkeys(found))


def kinds_with(kinds: str) -> str:
    """The kinds of files that are offered to be opened, with those that a driver reads."""
    own = " ".join(f"*{item}" for item in all_endings())
    return f"{kinds};;Read by a driver ({own})" if own else kinds


def reader_of(path: Path) -> str:
    """The name of the reader in force that takes a file by its ending; empty where none does. Raises DriverError."""
    names = DRIVERS.names(READERS)
    return next((name for name in names if path.name.lower().endswith(endings_of(name) or ("\0",))), "")


def _read(keys: frozenset[str], name: str, data: bytes) -> TableForm | str:
    """In the other process: what a reader makes of a file's bytes. Raises DriverError."""
    DRIVERS.switch_on(keys)
    driver = DRIVERS.load(READERS, name)
    return contained(name, lambda: looked_at(driver.read(data)))


def looked_at(found: object) -> TableForm | str:
    """What a reader gave, once it is what it should be. Raises TypeError, ValueError."""
    if isinstance(found, str):
        return found
    if not isinstance(found, tuple) or len(found) != 2:
        raise TypeError(f"a TableForm or text was wanted, {type(found).__name__} was given")
    headings = tuple(str(item) for item in found[0])
    rows = tuple(tuple(str(cell) for cell in cells) for cells in found[1])
    if not 0 < len(headings) <= MOST_CELLS_ROW or len(rows) > MOST_ROWS:
        raise ValueError(f"{len(headings)} headings and {counted(len(rows), 'row')} are no list")
    return TableForm(headings, rows)


def read_by_driver(path: Path) -> TableForm | str | None:
    """What the reader in force for a file makes of it; None where none takes it. Raises ReadError."""
    name = ""
    try:
        name = reader_of(path)
        return apart(_read, DRIVERS.keys, name, read_within(path, TABLE_BYTES)) if name else None
    except DriverError as error:
        raise ReadError(f"“{path.name}”: {error}") from None
    except ApartError as error:
        raise ReadError(f"“{path.name}” could not be read by the driver “{name}”: {error.strerror}.") from None
    except OSError as error:
        raise ReadError(f"“{path.name}” cannot be read: {error.strerror or error}.") from None


def driven_table(path: Path) -> Table | None:
    """The list in a file of a driver's form; None where no driver takes it. Raises ReadError."""
    found = read_by_driver(path)
    if found is None:
        return None
    if isinstance(found, str):
        raise ReadError(f"“{path.name}” is a log. Open it at Hotspots, Find and log.")
    form, wide = found, len(found.headings)

    def rows() -> Iterator[Row]:
        for line, cells in enumerate(form.rows, 1):
            yield Row(line, [*cells, *[""] * wide][:wide])

    return Table(path.name, "driver", list(form.headings), rows)


def driven_log(path: Path) -> bytes | None:
    """The log in a file of a driver's form, as UTF-8; None where no driver takes it. Raises ReadError."""
    found = read_by_driver(path)
    if found is None or isinstance(found, str):
        return None if found is None else found.encode("utf-8", "replace")
    raise ReadError(f"“{path.name}” is a list. Bring it in at Access, Directory.")
