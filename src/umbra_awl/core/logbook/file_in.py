"""A log's file of another program, by what is in it: ADIF, or a table."""

from collections.abc import Iterable
from pathlib import Path

from umbra_awl.core.keep.limits import read_within
from umbra_awl.core.logbook.adif import Imported
from umbra_awl.core.logbook.csv_log import read_csv
from umbra_awl.core.logbook.joining import read_file
from umbra_awl.core.logbook.log_file import LOG_BYTES
from umbra_awl.core.tables.table import open_table

_TABLES = (".csv", ".tsv", ".txt", ".xlsx")
_ADIF_HEAD = b"<"


def read_entries_file(path: Path, taken: Iterable[str] = ()) -> Imported:
    """The entries of a file: a table by its name's ending, unless it begins like ADIF. `taken` are keys in use.

    Raises OSError, ReadError and ValueError.
    """
    if path.suffix.lower() == ".xlsx":
        return read_csv(open_table(path), taken)
    data = read_within(path, LOG_BYTES)
    if path.suffix.lower() in _TABLES and not data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(_ADIF_HEAD):
        return read_csv(open_table(path), taken)
    return read_file(data, taken)
