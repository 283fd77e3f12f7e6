"""A plan on disk: open with recovery, journalled edits, atomic durable save, a dated history of saves."""

import contextlib
import os
import re
from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.plan.edits import Edit
from umbra_awl.core.plan.files import write_atomic
from umbra_awl.core.plan.form import PlanFormError, PlanWriter, parse_plan, plan_bytes
from umbra_awl.core.plan.history import History
from umbra_awl.core.plan.journal import (
    Journal,
    JournalBusyError,
    digest,
    edits_since,
    read_records,
    replay,
)
from umbra_awl.core.plan.model import Plan

MOST_SAVES = 60
SUFFIX = ".awl.json"
_STAMP = "%Y-%m-%d %H.%M.%S"


class StoreError(Exception):
    """A plan that could not be opened or saved; the message says what happened, to what, and what to do."""


class Save(NamedTuple):
    """An older save of a plan."""

    path: Path
    when: str


def history_folder(path: Path) -> Path:
    """Where the dated saves of a plan file lie."""
    return path.with_name(path.name.removesuffix(SUFFIX) + ".saves")


def read_plan(path: Path) -> Plan:
    """The plan in a file, without opening it for work. Raises StoreError."""
    return _parsed(path, _read(path))


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except FileNotFoundError:
        raise StoreError(f"There is no file “{path}”. Check the name, or make a new plan.") from None
    except IsADirectoryError:
        raise StoreError(f"“{path}” is a folder. Choose a plan file ending in {SUFFIX}.") from None
    except OSError as error:
        raise StoreError(f"“{path}” cannot be read: {_words(error)}.") from None


def _parsed(path: Path, data: bytes) -> Plan:
    try:
        return parse_plan(data)
    except PlanFormError as error:
        raise StoreError(
            f"“{path.name}” was not opened. {error} The file is untouched; older saves may help."
        ) from None


def _words(error: OSError) -> str:
    return (error.strerror or str(error)).lower()


class Document:
    """One open plan file: the present history, its journal, and whether the file on disk is up to date."""

    def __init__(
        self, path: Path, history: History, journal: Journal, *, saved: Plan, recovered: int, note: str = ""
    ) -> None:
        self.path = path
        self.history = history
        self.recovered = recovered
        self.note = note
        self._journal = journal
        self._writer = PlanWriter()
        self._saved_plan = saved

    @classmethod
    def open(cls, path: Path) -> "Document":
        """Open a plan file for work and replay what its journal holds. Raises StoreError; touches nothing then."""
        data = _read(path)
        plan = _parsed(path, data)
        saved = digest(data)
        journal = _open_journal(path)
        records = read_records(journal.path)
        edits = edits_since(records, saved) if records else []
        note = ""
        if edits is None:
            note = _set_aside(journal.path)
            edits = []
        saved_plan = plan
        plan, recovered = replay(plan, edits)
        if plan == saved_plan:
            plan, recovered = saved_plan, 0  # undone again before it ended: nothing is left to recover
        try:
            if not recovered:
                journal.start(saved)
        except OSError as error:
            journal.close()
            raise StoreError(
                f"“{path.name}” cannot be worked on: {_words(error)}. Free some space and try again."
            ) from None
        return cls(path, History(plan), journal, saved=saved_plan, recovered=recovered, note=note)

    @classmethod
    def create(cls, path: Path, plan: Plan) -> "Document":
        """Save a new plan and open it. Raises StoreError."""
        data = plan_bytes(plan)
        try:
            write_atomic(path, data)
        except OSError as error:
            raise StoreError(f"“{path}” cannot be written: {_words(error)}. Choose another folder.") from None
        return cls.open(path)

    @property
    def plan(self) -> Plan:
        """The present plan."""
        return self.history.plan

    @property
    def unsaved(self) -> bool:
        """Whether the file on disk differs from the present plan (the journal holds the difference)."""
        return self._saved_plan is not self.plan and self._saved_plan != self.plan

    def edit(self, edit: Edit) -> bool:
        """Do an edit and journal it; False when it changes nothing. Raises EditRefused or StoreError, plan unchanged."""
        return self._move(edit.sentence, self.history.after(edit))

    def undo(self) -> bool:
        """Go one step back; False when there is none. Raises StoreError."""
        return self._move("Undo", self.history.undone())

    def redo(self) -> bool:
        """Go one step forward; False when there is none. Raises StoreError."""
        return self._move("Redo", self.history.redone())

    def _move(self, sentence: str, after: History) -> bool:
        if after is self.history:
            return False
        try:
            self._journal.append(sentence, self.plan, after.plan)
        except OSError as error:
            raise StoreError(f"The edit was not done: the journal cannot be written, {_words(error)}.") from None
        self.history = after
        return True

    def sync(self) -> None:
        """Make the journal survive a power cut; call it off the interface thread. A failure is left to the next save."""
        with contextlib.suppress(OSError):
            self._journal.sync()

    def save(self, now: datetime) -> None:
        """Replace the file atomically and durably, and keep a dated copy. Raises StoreError; the old file stays then."""
        data = self._writer.bytes_of(self.plan)
        becoming = digest(data)
        try:
            self._journal.saving(becoming)
            write_atomic(self.path, data)
        except OSError as error:
            raise StoreError(
                f"“{self.path.name}” was not saved: {_words(error)}. The file on disk is the last good one and your edits "
                "are kept. Free some space, or save a copy elsewhere."
            ) from None
        self._saved_plan, self.recovered = self.plan, 0
        with contextlib.suppress(OSError):  # the save itself is done; history and a shorter journal are comforts
            self._journal.start(becoming)
            keep_save(self.path, now)

    def save_copy(self, path: Path) -> None:
        """Write the present plan to another file. Raises StoreError."""
        try:
            write_atomic(path, plan_bytes(self.plan))
        except OSError as error:
            raise StoreError(f"“{path}” was not written: {_words(error)}. Choose another folder.") from None

    def saves(self) -> list[Save]:
        """The dated saves, newest first."""
        return list_saves(self.path)

    def close(self) -> None:
        """Let go of the file. Unsaved edits stay in the journal and come back at the next opening."""
        self._journal.close(remove=not self.unsaved)


def _open_journal(path: Path) -> Journal:
    try:
        return Journal(path)
    except JournalBusyError as error:
        raise StoreError(str(error)) from None
    except OSError as error:
        raise StoreError(
            f"The folder of “{path.name}” cannot be written: {_words(error)}. Copy the plan elsewhere."
        ) from None


def _set_aside(journal: Path) -> str:
    kept = journal.with_name(f"{journal.name}.{datetime.now():{_STAMP}}")
    kept.write_bytes(journal.read_bytes())
    return f"The plan file was changed outside. Edits that belong to its earlier state were set aside in “{kept.name}”."


def keep_save(path: Path, now: datetime) -> None:
    """Keep the plan file as it is now under its date, and let the oldest go beyond sixty. Raises OSError."""
    folder = history_folder(path)
    folder.mkdir(exist_ok=True)
    kept = folder / f"{now:{_STAMP}}{SUFFIX}"
    kept.unlink(missing_ok=True)
    try:
        os.link(path, kept)  # saves replace the file, never write into it, so a link is a true copy
    except OSError:
        kept.write_bytes(path.read_bytes())
    for old in list_saves(path)[MOST_SAVES:]:
        old.path.unlink(missing_ok=True)


def list_saves(path: Path) -> list[Save]:
    """The dated saves of a plan file, newest first; empty when there are none."""
    folder = history_folder(path)
    names = sorted(folder.glob(f"*{SUFFIX}"), reverse=True) if folder.is_dir() else []
    dated = (
        item for item in names if re.fullmatch(r"\d{4}-\d\d-\d\d \d\d\.\d\d\.\d\d", item.name.removesuffix(SUFFIX))
    )
    return [Save(item, item.name.removesuffix(SUFFIX).replace(".", ":")) for item in dated]
