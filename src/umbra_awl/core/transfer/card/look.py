"""What is found on a memory card: the radio's own folder, its files and what they say of themselves.

Nothing on a card is trusted: no link is followed, only regular files of a card's size are read, names are only shown. What was
read once and has not changed since is not read again.
"""

import os
import stat
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.keep.limits import MB
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import Card
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, body_digest, parse
from umbra_awl.core.transfer.errors import CardFileError
from umbra_awl.core.transfer.protocols import RadioIdentity
from umbra_awl.core.transfer.unit import of_image

SUFFIX = ".AWC"
MOST_BYTES = 16 * MB
MOST_FILES = 400
_FOLDER = os.O_RDONLY | os.O_DIRECTORY | os.O_NOFOLLOW | os.O_CLOEXEC
_FILE = os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK | os.O_CLOEXEC
_Key = tuple[str, str, int, int, int]


class OnCard(NamedTuple):
    """A file in the radio's folder: its name, header and body's digest, which single radio's, or why it cannot be used."""

    name: str
    header: CardHeader | None
    digest: str = ""
    fault: str = ""
    unit: str = ""

    @property
    def sound(self) -> bool:
        """Whether it can be used."""
        return self.header is not None and not self.fault


class CardView(NamedTuple):
    """A card as it was found. `present`: it is here; `folder`: the radio has one on it; `others` are folders of other radios.

    `locked`: it cannot be written; `free` bytes are left; `foreign` counts what else lies on it; `fault` is about the folder.
    """

    root: Path
    present: bool = False
    folder: str = ""
    files: tuple[OnCard, ...] = ()
    lists: tuple[OnCard, ...] = ()
    others: tuple[str, ...] = ()
    foreign: int = 0
    locked: bool = False
    free: int = 0
    fault: str = ""

    def memories(self, by: str) -> list[OnCard]:
        """The memories of this radio's kind that “radio” or “computer” has put there; newest first."""
        found = [item for item in self.files if item.sound and item.header is not None and item.header.by == by]
        return sorted(found, key=_number, reverse=True)


def _number(item: OnCard) -> tuple[int, str]:
    return (item.header.number if item.header is not None else 0, item.name)


class Looker:
    """Looks at a card again and again; remembers what it has read. Not for two threads at once."""

    def __init__(self) -> None:
        self._known: dict[_Key, OnCard] = {}

    def look(self, root: Path, profile: Profile, models: Iterable[Profile] = ()) -> CardView:
        """What is on the card whose top folder is `root`; never raises for what a card holds."""
        card = profile.card
        if card is None or not root.is_dir():
            return CardView(root)
        try:
            names = sorted(item.name for item in root.iterdir())
        except OSError:
            return CardView(root)
        named = {other.card.folder.casefold(): other.name for other in models if other.card is not None}
        own = next((name for name in names if name.casefold() == card.folder.casefold()), "")
        others = tuple(named[name.casefold()] for name in names if name.casefold() in named and name != own)
        free, locked = _room(root)
        view = CardView(root, True, "", (), (), others, len(names) - len(others) - bool(own), locked, free)
        return self._into(view, root / own, profile, card) if own else view

    def _into(self, view: CardView, place: Path, profile: Profile, card: Card) -> CardView:
        try:
            files = self._files(place, card.backup, profile)
            lists = self._files(place, card.around.folder, profile) if card.around is not None else ()
        except OSError as error:
            if not view.root.is_dir():
                return CardView(view.root)
            why = "it is a link that leads elsewhere" if place.is_symlink() else (error.strerror or str(error)).lower()
            return view._replace(fault=f"“{place.name}” on the card cannot be used: {why}.")
        return view._replace(folder=place.name, files=files, lists=lists)

    def _files(self, place: Path, folder: str, profile: Profile) -> tuple[OnCard, ...]:
        """The radio's files in a folder of its own, matched without regard to case. Raises OSError for a folder that is none."""
        with _opened(str(place)) as top:
            inner = next((name for name in _names(top) if name.casefold() == folder.casefold()), "")
            if not inner:
                return ()
            with _opened(inner, top) as inside:
                names = sorted(name for name in _names(inside) if name.upper().endswith(SUFFIX))
                return tuple(self._file(inside, f"{place}/{inner}", name, profile) for name in names[-MOST_FILES:])

    def _file(self, folder: int, place: str, name: str, profile: Profile) -> OnCard:
        try:
            seen = os.stat(name, dir_fd=folder, follow_symlinks=False)
        except OSError as error:
            return OnCard(name, None, fault=(error.strerror or str(error)).lower())
        key = (place, name, seen.st_ino, seen.st_size, seen.st_mtime_ns)
        if key not in self._known:
            self._known[key] = _described(folder, name, profile)
        return self._known[key]


def _described(folder: int, name: str, profile: Profile) -> OnCard:
    try:
        file = parse(_read(folder, name))
    except (OSError, CardFileError) as error:
        return OnCard(name, None, fault=getattr(error, "strerror", None) or str(error))
    fault = _misfit(file, profile)
    unit = "" if fault or not _whole(file.header) else of_image(identity_of(file), profile, file.body)
    return OnCard(name, file.header, body_digest(file.body), fault, unit)


def _whole(header: CardHeader) -> bool:
    return header.kind == "memory" and header.scope == "everything"


def identity_of(file: CardFile) -> RadioIdentity:
    """What a file says of the radio that it is of."""
    header = file.header
    return RadioIdentity(header.model, header.firmware, len(file.body), 0, header.unit)


def _misfit(file: CardFile, profile: Profile) -> str:
    """Why a whole file is not this radio's."""
    if file.header.model != profile.key:
        return f"inside it is of a “{file.header.model[:40]}”, not of a {profile.name}"
    if _whole(file.header) and len(file.body) != profile.image.size:
        return f"it holds {len(file.body)} bytes; a {profile.name} has {profile.image.size}"
    return ""


def read_file(root: Path, folders: tuple[str, ...], name: str) -> CardFile:
    """A file of a card, through folders that are no links. Raises OSError, CardFileError."""
    return parse(read_bytes(root, folders, name))


def read_bytes(root: Path, folders: tuple[str, ...], name: str) -> bytes:
    """The bytes of a file of a card, in the same way. Raises OSError, CardFileError."""
    handle = os.open(root, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
    try:
        for part in folders:
            inner = os.open(part, _FOLDER, dir_fd=handle)
            os.close(handle)
            handle = inner
        return _read(handle, name)
    finally:
        os.close(handle)


def _read(folder: int, name: str) -> bytes:
    """The bytes of a regular file of a card's size. Raises OSError, CardFileError."""
    handle = os.open(name, _FILE, dir_fd=folder)
    with os.fdopen(handle, "rb") as file:
        found = os.fstat(handle)
        if not stat.S_ISREG(found.st_mode):
            raise CardFileError("it is no file")
        if found.st_size > MOST_BYTES:
            raise CardFileError(f"it has {found.st_size:,} bytes, more than any radio's")
        return file.read(MOST_BYTES)


@contextmanager
def _opened(name: str, inside: int | None = None) -> Iterator[int]:
    handle = os.open(name, _FOLDER, dir_fd=inside)
    try:
        yield handle
    finally:
        os.close(handle)


def _names(folder: int) -> list[str]:
    """The names in an open folder."""
    with os.scandir(folder) as found:
        return [item.name for item in found]


def _room(root: Path) -> tuple[int, bool]:
    """Bytes free on a card, and whether it cannot be written."""
    try:
        told = os.statvfs(root)
    except OSError:
        return 0, True
    return told.f_bavail * told.f_frsize, bool(told.f_flag & os.ST_RDONLY) or not os.access(root, os.W_OK)
