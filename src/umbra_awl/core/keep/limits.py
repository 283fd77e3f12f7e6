"""How much is read of anything, and from what: regular files only, up to a size, so that every input ends in time and memory.

The sizes are several times what real files come to; each reader names the one that holds for it.
"""

import os
import stat
from pathlib import Path
from typing import BinaryIO

MB = 1_000_000
PLAN_BYTES = 48 * MB
JOURNAL_BYTES = 128 * MB
MEMORY_BYTES = 64 * MB
SETTINGS_BYTES = 256_000
LOG_BYTES = 8 * MB
TABLE_BYTES = 100 * MB
"""A table is read row by row; this is far more than any directory, and little enough to be gone through."""
WHOLE_TABLE_BYTES = 40 * MB
"""A form that can only be taken whole."""
SERVICE_LIST_BYTES = 4 * MB
MOST_CELLS = 400
MOST_CELL_CHARACTERS = 100_000
MOST_ROWS = 1_200_000
MOST_PROPERTY_NAMES = 2_000


class LimitError(OSError):
    """Something larger than what is read, or no regular file; the message is a sentence without the name."""

    def __init__(self, sentence: str) -> None:
        super().__init__(sentence)
        self.strerror = sentence


def open_regular(path: Path) -> BinaryIO:
    """A regular file, open for reading; a pipe or device is refused at once in place of waiting for it. Raises OSError."""
    handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
    try:
        kind = os.fstat(handle).st_mode
        if stat.S_ISDIR(kind):
            raise IsADirectoryError(21, "It is a folder", str(path))
        if not stat.S_ISREG(kind):
            raise LimitError("it is a pipe or a device and no file")
        return os.fdopen(handle, "rb")
    except BaseException:
        os.close(handle)
        raise


def read_within(path: Path, most: int) -> bytes:
    """All bytes of a regular file of at most so many. Raises OSError, LimitError among them."""
    with open_regular(path) as file:
        return rest_within(file, most)


def rest_within(file: BinaryIO, most: int) -> bytes:
    """What is left of an open file, at most so many bytes. Raises LimitError for more."""
    data = file.read(most + 1)
    if len(data) > most:
        raise LimitError(f"it is larger than {size_words(most)}")
    return data


def plain_reason(error: Exception) -> str:
    """Why something could not be read, without the name of the file and without numbers of the system."""
    if isinstance(error, UnicodeDecodeError):
        return "it is no text"
    return (error.strerror if isinstance(error, OSError) else None) or str(error) or type(error).__name__


def size_words(count: int) -> str:
    """A number of bytes as people say it."""
    return f"{count / MB:.0f} MB" if count >= MB else f"{count / 1000:.0f} KB"
