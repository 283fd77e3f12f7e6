"""Putting a file onto a card, whole or not at all: a new file, flushed, renamed, read back. Nothing else there is touched."""

import errno
import os
from pathlib import Path

from umbra_awl.core.keep.atomic import clean_left_overs, write_over
from umbra_awl.core.transfer.card.form import CardFile, pack
from umbra_awl.core.transfer.card.look import read_bytes
from umbra_awl.core.transfer.errors import (
    CardError,
    CardFileError,
    CardFullError,
    CardGoneError,
    CardLockedError,
    NotProvenError,
)

_FULL = frozenset({errno.ENOSPC, errno.EDQUOT, errno.EFBIG})
_LOCKED = frozenset({errno.EROFS, errno.EACCES, errno.EPERM})
ROOM_BESIDE = 65_536
"""Bytes left free on a card, so that the radio still has room for its own small files."""


def put_file(root: Path, folders: tuple[str, ...], name: str, file: CardFile) -> int:
    """Put a file into a folder of the card and read it back; the bytes written. Raises CardError, NotProvenError.

    Until it has its name the file that was there before stays whole, whatever happens.
    """
    data = pack(file)
    try:
        place = _folder(root, folders)
        _require_room(place, len(data))
        clean_left_overs(place / name)
        write_over(place / name, data, through_links=False)
        _prove(root, folders, name, data)
    except OSError as error:
        raise card_error(error, root) from None
    return len(data)


def _prove(root: Path, folders: tuple[str, ...], name: str, data: bytes) -> None:
    """Read a file back from the card. Raises OSError, NotProvenError."""
    try:
        back = read_bytes(root, folders, name)
    except CardFileError as error:
        raise NotProvenError(_other_than_sent(name, str(error))) from None
    if back != data:
        raise NotProvenError(_other_than_sent(name, "it holds something else"))


def _other_than_sent(name: str, why: str) -> str:
    return f"“{name}” reads back from the card otherwise than it was sent: {why}. Send it again, or take another card."


def _folder(root: Path, folders: tuple[str, ...]) -> Path:
    """The folder to write into, made where it is not there; never one that a link leads to. Raises OSError, CardError."""
    if not root.is_dir():
        raise FileNotFoundError(errno.ENOENT, os.strerror(errno.ENOENT), str(root))
    place = root
    for part in folders:
        place /= part
        if place.is_symlink():
            raise CardFileError(f"“{part}” on the card is a link that leads elsewhere. Nothing was sent.")
        place.mkdir(exist_ok=True)
    return place


def _require_room(place: Path, count: int) -> None:
    told = os.statvfs(place)
    free = told.f_bavail * told.f_frsize
    if told.f_flag & os.ST_RDONLY:
        raise OSError(errno.EROFS, os.strerror(errno.EROFS))
    if free < count + ROOM_BESIDE:
        raise CardFullError(
            f"The card has {free:,} bytes left and {count + ROOM_BESIDE:,} are needed. Free some room on it, then send again. "
            "What was on it is untouched."
        )


def card_error(error: OSError, root: Path) -> CardError:
    """What an error of the system means for a card."""
    if error.errno in _FULL:
        return CardFullError("The card is full. Free some room on it, then send again. What was on it is untouched.")
    if error.errno in _LOCKED:
        return CardLockedError(
            "The card does not let itself be written: slide its small lock back, or see whether this computer may write there. "
            "Nothing was sent."
        )
    if not root.is_dir() or error.errno in {errno.ENOENT, errno.EIO, errno.ENODEV, errno.ENXIO, errno.ENOTDIR}:
        return CardGoneError(
            "The card went away in the middle. Put it in again: what was on it before is whole, and it is looked at anew."
        )
    return CardError(f"The card cannot be written: {(error.strerror or str(error)).lower()}. Nothing was sent.")
