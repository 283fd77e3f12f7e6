"""Zip archives of other hands, opened only where their list of contents is short (ZIP File Format Specification, §4.3)."""

import struct
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from typing import BinaryIO

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.limits import LimitError

_END, _END_SIZE, _MOST_COMMENT = b"PK\x05\x06", 22, 0xFFFF
_FAR, _FAR_SIZE = b"PK\x06\x07", 20
_LONGEST_ENTRY = 400
"""Bytes of one entry of the list: the longest that is reckoned with; names and extras of what is taken here stay below."""


@contextmanager
def zip_within(file: BinaryIO, members: int) -> Iterator[zipfile.ZipFile]:
    """An archive of at most so many entries, folders among them. Raises LimitError for more, BadZipFile for what is none.

    The library reads the whole list before it tells how long it is, so its length is looked at first.
    """
    if _list_bytes(file) > members * _LONGEST_ENTRY:
        raise LimitError(f"it lists more than the {counted(members, 'file')} and folders that are taken")
    file.seek(0)
    with zipfile.ZipFile(file) as opened:
        if len(opened.infolist()) > members:
            raise LimitError(
                f"it lists {counted(len(opened.infolist()), 'file')} and folders; up to {members:,} are taken"
            )
        yield opened


def _list_bytes(file: BinaryIO) -> int:
    """How many bytes the list of contents takes, by the archive's own end. Raises BadZipFile."""
    size = file.seek(0, 2)
    begin = max(0, size - _MOST_COMMENT - _END_SIZE - _FAR_SIZE)
    file.seek(begin)
    tail = file.read()
    at = tail.rfind(_END)
    if at < 0 or len(tail) - at < _END_SIZE:
        raise zipfile.BadZipFile("File is not a zip file")
    length = int(struct.unpack_from("<L", tail, at + 12)[0])
    if at >= _FAR_SIZE and tail[at - _FAR_SIZE : at - _FAR_SIZE + 4] == _FAR:
        return max(length if length != 0xFFFFFFFF else 0, _far_bytes(file, tail[at - _FAR_SIZE : at]))
    return length


def _far_bytes(file: BinaryIO, locator: bytes) -> int:
    """The same from the end record of a large archive."""
    file.seek(max(0, min(struct.unpack_from("<Q", locator, 8)[0], file.seek(0, 2))))
    record = file.read(56)
    if len(record) < 56:
        raise zipfile.BadZipFile("Its end record is cut short")
    return int(struct.unpack_from("<Q", record, 40)[0])
