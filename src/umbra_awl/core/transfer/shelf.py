"""The shelf: dated backups of what each radio held, and the mark of a write that has not been proven yet."""

import re
from datetime import datetime
from hashlib import sha256
from pathlib import Path
from typing import NamedTuple, TypeVar

import msgspec

from umbra_awl.core.keep.atomic import sync_folder, write_new, write_over
from umbra_awl.core.keep.limits import MEMORY_BYTES, SETTINGS_BYTES, read_within
from umbra_awl.core.radio.memory import Memory, MemoryFormError, memory_bytes, parse_backup
from umbra_awl.core.transfer.errors import ShelfError
from umbra_awl.core.transfer.unit import differ

SUFFIX = ".memory.json"
_RADIO = "radio.json"
_Value = TypeVar("_Value")
_STAMP = "%Y-%m-%d %H.%M.%S"
_NAME = re.compile(r"(\d{4}-\d\d-\d\d \d\d\.\d\d\.\d\d)(?: (?:no )?(\d{1,9}))?")


class Backup(NamedTuple):
    """A kept image: its file, when it was read, its number in order."""

    path: Path
    when: str
    number: int = 0


class Stored(NamedTuple):
    """What a backup holds: the memory, the radio's image, and which single radio it is of (empty: not known)."""

    memory: Memory
    image: bytes
    unit: str


class Unfinished(msgspec.Struct, frozen=True):
    """A write that began and was not proven: the backup to bring back, digests of the images before and after, which radio."""

    backup: str = ""
    before: str = ""
    after: str = ""
    unit: str = ""


class KnownRadio(msgspec.Struct, frozen=True):
    """Which single radio was read last under this plan's radio, and the print of the plan's memory that it was found to hold."""

    unit: str = ""
    holds: str = ""


def digest(image: bytes) -> str:
    """What names an image."""
    return sha256(image).hexdigest()


class Shelf:
    """The backups of one radio, in one folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def keep(self, memory: Memory, image: bytes, now: datetime, unit: str = "") -> Backup:
        """Keep an image durably under its date; the newest one is not doubled. Raises ShelfError."""
        backups = self.backups()
        if backups and self._same(backups[0], image, unit):
            return backups[0]
        number = (backups[0].number if backups else 0) + 1
        data = memory_bytes(memory, image, unit)
        try:
            self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            while True:
                path = self.folder / f"{now:{_STAMP}} no {number:04d}{SUFFIX}"
                try:
                    write_new(path, data, private=True)
                    break
                except FileExistsError:
                    number += 1
        except OSError as error:
            why = (error.strerror or str(error)).lower()
            raise ShelfError(
                f"No backup could be kept in “{self.folder}”: {why}. Nothing was written to the radio."
            ) from None
        return _backup(path) or Backup(path, path.name, number)

    def _same(self, backup: Backup, image: bytes, unit: str) -> bool:
        try:
            stored = self.load(backup)
        except ShelfError:
            return False
        return stored.image == image and stored.unit == unit

    def backups(self) -> list[Backup]:
        """The backups, newest first: by the order they were made in, whatever the clock said."""
        if not self.folder.is_dir():
            return []
        found = [item for path in self.folder.glob(f"*{SUFFIX}") if (item := _backup(path)) is not None]
        return sorted(found, key=lambda item: (item.number, item.when), reverse=True)

    @staticmethod
    def load(backup: Backup) -> Stored:
        """What a backup holds. Raises ShelfError."""
        try:
            return Stored(*parse_backup(read_within(backup.path, MEMORY_BYTES)))
        except (OSError, MemoryFormError) as error:
            raise ShelfError(f"The backup of {backup.when} cannot be used. {error}") from None

    def _mark_for(self, unit: str) -> Path:
        """Where the mark of a write to one single radio lies: several of a kind may pass over one shelf."""
        return self.folder / (f"unfinished {digest(unit.encode())[:8]}.json" if unit else "unfinished.json")

    def begin(self, unfinished: Unfinished) -> None:
        """Mark, durably, that a write begins; what the radio was found to hold counts no more. Raises ShelfError."""
        try:
            write_over(self._mark_for(unfinished.unit), msgspec.json.encode(unfinished), private=True)
        except OSError as error:
            raise ShelfError(f"The write was not begun: its mark cannot be kept ({error.strerror}).") from None
        self.remember_held("")

    def finish(self, unit: str = "") -> None:
        """Take the marks of a single radio away: it is known to hold one whole memory. Raises ShelfError."""
        try:
            for path, mark in self._marks():
                if not differ(mark.unit, unit):
                    path.unlink(missing_ok=True)
            if self.folder.is_dir():
                sync_folder(self.folder)
        except OSError as error:
            raise ShelfError(f"The mark of the write cannot be taken away ({error.strerror}); read again.") from None

    def unfinished(self, unit: str = "") -> Unfinished | None:
        """The write that was not proven, to a single radio or to any; None when there is none.

        A mark that cannot be read still says that there was one, to whichever radio.
        """
        return next((mark for _path, mark in self._marks() if not differ(mark.unit, unit)), None)

    def _marks(self) -> list[tuple[Path, Unfinished]]:
        paths = sorted(self.folder.glob("unfinished*.json")) if self.folder.is_dir() else []
        return [(path, _mark_in(path)) for path in paths]

    def backup_before(self, unfinished: Unfinished) -> Backup | None:
        """The backup that was made before an unproven write; the newest when its name is lost."""
        backups = self.backups()
        return next((item for item in backups if item.path.name == unfinished.backup), backups[0] if backups else None)

    def beside(self, name: str, kind: type[_Value], otherwise: _Value) -> _Value:
        """What is kept beside the backups under a name; `otherwise` where nothing sound is."""
        try:
            return msgspec.json.decode(read_within(self.folder / name, SETTINGS_BYTES), type=kind)
        except (OSError, ValueError, RecursionError, msgspec.DecodeError):
            return otherwise

    def keep_beside(self, name: str, value: object) -> None:
        """Keep something durably beside the backups. Raises ShelfError."""
        try:
            self.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            write_over(self.folder / name, msgspec.json.encode(value), private=True)
        except OSError as error:
            raise ShelfError(f"The shelf cannot be written: {error.strerror}.") from None

    def known(self) -> KnownRadio:
        """What is known of the radio that was read last; nothing where none was."""
        return self.beside(_RADIO, KnownRadio, KnownRadio())

    def known_unit(self) -> str:
        """Which single radio was read last; empty when none was."""
        return self.known().unit

    def remember_unit(self, unit: str) -> None:
        """Remember which single radio was read; what it holds is to be compared anew. Raises ShelfError."""
        known = self.known()
        if known.holds or (unit and unit != known.unit):
            self.keep_beside(_RADIO, KnownRadio(unit or known.unit))

    def remember_held(self, holds: str) -> None:
        """Remember the print of the plan's memory that the radio was found to hold; empty for another one. Raises ShelfError."""
        known = self.known()
        if holds != known.holds:
            self.keep_beside(_RADIO, KnownRadio(known.unit, holds))


def print_of(memory: Memory) -> str:
    """What names a plan's memory, whatever else a radio holds beside it."""
    return digest(msgspec.json.encode(memory))


def _mark_in(path: Path) -> Unfinished:
    try:
        return msgspec.json.decode(read_within(path, SETTINGS_BYTES), type=Unfinished)
    except (OSError, ValueError, RecursionError, msgspec.DecodeError):
        return Unfinished()


def _backup(path: Path) -> Backup | None:
    shape = _NAME.fullmatch(path.name.removesuffix(SUFFIX))
    if shape is None:
        return None
    day, _, time = shape[1].partition(" ")
    return Backup(path, f"{day} {time.replace('.', ':')}", int(shape[2] or 1))
