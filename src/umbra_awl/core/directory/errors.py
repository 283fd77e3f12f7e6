"""What can go wrong with a directory, as one family.

DirectoryError
├── ReadError            a file cannot be read as what it should be
├── LayoutError          a layout that cannot be used
├── StoreFailedError     the store cannot be opened, read or written
├── CancelledError       the operator stopped it; the store is as before
└── DownloadError        a service does not give what was asked for
"""


class DirectoryError(Exception):
    """The message says what happened, to what, and what to do."""


class ReadError(DirectoryError):
    """A file cannot be read as what it should be."""


class LayoutError(DirectoryError):
    """A layout that cannot be used."""


class StoreFailedError(DirectoryError):
    """The store cannot be opened, read or written."""


class CancelledError(DirectoryError):
    """The operator stopped it."""


class DownloadError(DirectoryError):
    """A service does not give what was asked for."""
