"""What can go wrong with a directory, beside reading a file.

SourceError
├── ReadError            a file cannot be read as what it should be (both in `core/tables/errors.py`)
├── LayoutError          a layout that cannot be used
├── StoreFailedError     the store cannot be opened, read or written
├── CancelledError       the operator stopped it; the store is as before
└── DownloadError        a service does not give what was asked for
"""

from umbra_awl.core.tables.errors import SourceError


class LayoutError(SourceError):
    """A layout that cannot be used."""


class StoreFailedError(SourceError):
    """The store cannot be opened, read or written."""


class ImportCancelledError(SourceError):
    """The operator stopped it."""


class DownloadError(SourceError):
    """A service does not give what was asked for."""
