"""The shelf: dated backups of what each radio held, and the mark of a write that has not been proven yet."""

import json
from datetime import datetime
from hashlib import sha256
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.fit.memory import Memory, MemoryFormError, memory_bytes, parse_memory
from umbra_awl.core.plan.files import sync_folder, write_atomic
from umbra_awl.core.transfer.errors import ShelfError

SUFFIX = ".memory.json"
_STAMP = "%Y-%m-%d %H.%M.%S"


class Backup(NamedTuple):
    """A kept image: its file and when it was read."""

    path: Path
    when: str


class Unfinished(NamedTuple):
    """A write that began and was not proven: the backup made before it, and digests of the images before and after."""

    backup: str
    before: str
    after: str


def digest(image: bytes) -> str:
    """What names an image."""
    return sha256(image).hexdigest()


class Shelf:
    """The backups of one radio, in one folder."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def keep(self, memory: Memory, image: bytes, now: datetime) -> Backup:
        """Keep an image durably under its date; the newest one is not doubled. Raises ShelfError."""
        newest = next(iter(self.backups()), None)
        if newest is not None and self._same(newest, image):
            return newest
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            path = self._free(now)
            write_atomic(path, memory_bytes(memory, image))
        except OSError as error:
            why = (error.strerror or str(error)).lower()
            raise ShelfError(
                f"No backup could be kept in “{self.folder}”: {why}. Nothing was written to the radio."
            ) from None
        return Backup(path, self._when(path))

    def _free(self, now: datetime) -> Path:
        stamp = f"{now:{_STAMP}}"
        path, number = self.folder / f"{stamp}{SUFFIX}", 2
        while path.exists():
            path, number = self.folder / f"{stamp} {number}{SUFFIX}", number + 1
        return path

    def _same(self, backup: Backup, image: bytes) -> bool:
        try:
            return self.load(backup)[1] == image
        except ShelfError:
            return False

    @staticmethod
    def _when(path: Path) -> str:
        day, _, time = path.name.removesuffix(SUFFIX).partition(" ")
        return f"{day} {time.replace('.', ':')}"

    def backups(self) -> list[Backup]:
        """The backups, newest first."""
        names = sorted(self.folder.glob(f"*{SUFFIX}"), reverse=True) if self.folder.is_dir() else []
        return [Backup(path, self._when(path)) for path in names]

    @staticmethod
    def load(backup: Backup) -> tuple[Memory, bytes]:
        """The memory and image of a backup. Raises ShelfError."""
        try:
            return parse_memory(backup.path.read_bytes())
        except (OSError, MemoryFormError) as error:
            raise ShelfError(f"The backup of {backup.when} cannot be used. {error}") from None

    @property
    def _mark(self) -> Path:
        return self.folder / "unfinished.json"

    def begin(self, unfinished: Unfinished) -> None:
        """Mark, durably, that a write begins. Raises ShelfError."""
        try:
            write_atomic(self._mark, json.dumps(unfinished._asdict()).encode())
        except OSError as error:
            raise ShelfError(f"The write was not begun: its mark cannot be kept ({error.strerror}).") from None

    def finish(self) -> None:
        """Take the mark away: the radio is known to hold one whole memory."""
        self._mark.unlink(missing_ok=True)
        if self.folder.is_dir():
            sync_folder(self.folder)

    def unfinished(self) -> Unfinished | None:
        """The write that was not proven, or None."""
        try:
            return Unfinished(**json.loads(self._mark.read_bytes()))
        except FileNotFoundError:
            return None
        except (OSError, ValueError, TypeError):
            return Unfinished("", "", "")

    def backup_before(self, unfinished: Unfinished) -> Backup | None:
        """The backup that was made before an unproven write; the newest when its name is lost."""
        backups = self.backups()
        return next((item for item in backups if item.path.name == unfinished.backup), backups[0] if backups else None)
