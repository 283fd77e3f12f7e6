"""A plan on disk: open with recovery, journalled edits, atomic durable save, a dated history of saves."""

import contextlib
from datetime import datetime
from pathlib import Path

from umbra_awl.core.keep.atomic import real_path, write_new
from umbra_awl.core.keep.lock import BusyError
from umbra_awl.core.keep.naming import free_path
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import PlanFormError, PlanWriter, parse_plan, plan_bytes
from umbra_awl.core.plan.disk.journal import Journal, digest
from umbra_awl.core.plan.disk.patch import PatchError
from umbra_awl.core.plan.disk.plan_file import Outside, PlanFile, open_elsewhere, read_bytes
from umbra_awl.core.plan.disk.recovery import Recovered, recover
from umbra_awl.core.plan.disk.saves import SUFFIX, Save, keep_save, list_saves
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.edit.history import History
from umbra_awl.core.plan.errors import ChangedOutsideError, StoreError, TakenError, why
from umbra_awl.core.plan.model import Plan

_STAMP = "%Y-%m-%d %H.%M.%S"


def read_plan(path: Path) -> Plan:
    """The plan in a file, without opening it for work. Raises StoreError."""
    return _parsed(path, read_bytes(path))


def _parsed(path: Path, data: bytes) -> Plan:
    try:
        return parse_plan(data)
    except PlanFormError as error:
        raise StoreError(
            f"“{path.name}” was not opened. {error} The file is untouched; older saves may help."
        ) from None


class Document:
    """One open plan file: the present history, its journal, and whether the file on disk is up to date."""

    def __init__(self, path: Path, file: PlanFile, journal: Journal, saved: Plan, recovered: Recovered) -> None:
        self.path = path
        self.history = History(recovered.plan)
        self.recovered = recovered.edits
        self.notes = recovered.notes
        self._file = file
        self._journal = journal
        self._writer = PlanWriter()
        self._saved_plan = saved

    @classmethod
    def open(cls, path: Path, now: datetime) -> "Document":
        """Open a plan file for work and replay what its journal holds. Raises StoreError; touches nothing then.

        `now` names what has to be kept aside.
        """
        file = PlanFile(path)
        try:
            saved = _parsed(path, file.data)
            journal = _open_journal(path, file.real)
        except StoreError:
            file.close()
            raise
        try:
            recovered = recover(journal, saved, file.digest, now)
        except OSError as error:
            journal.close()
            file.close()
            raise StoreError(
                f"“{path.name}” cannot be worked on: {why(error)}. Free some space and try again."
            ) from None
        return cls(path, file, journal, saved, recovered)

    @classmethod
    def create(cls, path: Path, plan: Plan, now: datetime) -> "Document":
        """Save a new plan where nothing is yet, and open it. Raises StoreError; TakenError when something is there."""
        write_plan(path, plan)
        return cls.open(path, now)

    @property
    def news(self) -> str:
        """What opening brought back from the journal, and what of it did not come back; empty where there was nothing."""
        count = "One unsaved edit" if self.recovered == 1 else f"{self.recovered} unsaved edits"
        back = f"{count} came back from the journal. Save to keep; undo is not possible beyond this point."
        return " ".join((*self.notes, *([back] if self.recovered else ())))

    @property
    def real(self) -> Path:
        """The file itself, behind every link; journal, saves and backups lie beside it."""
        return self._file.real

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
        """Take a step that leads to a plan which could be opened again, and only such a one."""
        if after is self.history:
            return False
        faults = structure_faults(after.plan, self.plan)
        if faults:
            raise EditRefused(f"The edit was not done: the plan could not be opened again. {faults[0]}")
        try:
            self._renew_journal()
            self._journal.append(sentence, self.plan, after.plan)
        except PatchError as error:
            raise EditRefused(f"The edit was not done: {error}. Type it again without that.") from None
        except OSError as error:
            raise StoreError(f"The edit was not done: the journal cannot be written, {why(error)}.") from None
        self.history = after
        return True

    def _renew_journal(self) -> None:
        """Make the journal anew with all unsaved edits when somebody has removed it. Raises OSError."""
        if self._journal.there:
            return
        fresh = Journal(self.real)
        self._journal.close()
        self._journal = fresh
        fresh.start(self._file.digest)
        if self.unsaved:
            fresh.append("Unsaved edits", self._saved_plan, self.plan)

    def sync(self) -> None:
        """Make the journal survive a power cut; call it off the interface thread. A failure is left to the next save."""
        with contextlib.suppress(OSError):
            self._journal.sync()

    def outside(self) -> Outside:
        """Whether the file on disk is still what was opened or saved here: “same”, “changed” or “gone”."""
        return self._file.outside()

    def save(self, now: datetime, *, over_theirs: bool = False) -> None:
        """Replace the file atomically and durably, and keep a dated copy. Raises StoreError; the old file stays then.

        A file that was changed from outside is not replaced unless `over_theirs`: ChangedOutsideError. What it held goes
        among the dated saves first.
        """
        outside = self.outside()
        if outside == "changed" and not over_theirs:
            raise ChangedOutsideError(
                f"“{self.path.name}” was changed by another program since it was opened or saved here. Nothing was saved; "
                "choose whether to keep yours, take theirs, or keep both."
            )
        self._keep_first(now, theirs=outside == "changed")
        data = self._writer.bytes_of(self.plan)
        becoming = digest(data)
        try:
            self._renew_journal()
            self._journal.saving(becoming)
            self._file.replace(data)
        except OSError as error:
            raise StoreError(
                f"“{self.path.name}” was not saved: {why(error)}. The file on disk is the last good one and your edits "
                "are kept. Free some space, or save a copy elsewhere."
            ) from None
        self._saved_plan, self.recovered = self.plan, 0
        with contextlib.suppress(OSError):  # the save itself is done; history and a shorter journal are comforts
            self._journal.start(becoming)
            keep_save(self.real, data, now)

    def _keep_first(self, now: datetime, *, theirs: bool) -> None:
        """Keep among the dated saves what the file holds: the first state of all, and what another program wrote.

        Raises StoreError when theirs cannot be kept.
        """
        try:
            if theirs:
                keep_save(self.real, read_bytes(self.real), now)
            elif not list_saves(self.real):
                keep_save(self.real, self._file.data, now)
        except OSError as error:
            if theirs:
                raise StoreError(f"Nothing was saved: their state cannot be kept, {why(error)}.") from None

    def take_theirs(self, now: datetime) -> None:
        """Go on from what another program wrote into the file; undo leads back to yours. Raises StoreError.

        Yours goes among the dated saves as well.
        """
        theirs = _parsed(self.path, read_bytes(self.real))
        mine = self._writer.bytes_of(self.plan)
        try:
            keep_save(self.real, mine, now)
            self._file.read_again()
            self._renew_journal()
            self._journal.start(self._file.digest)
        except OSError as error:
            raise StoreError(f"Theirs was not taken: {why(error)}. Your edits are kept.") from None
        self.history = self.history.after(Edit("Take the file as it was changed outside", lambda _plan: theirs))
        self._saved_plan, self.recovered = self.plan, 0

    def keep_both(self, now: datetime) -> Path:
        """Save yours under another name beside the file and go on from theirs; where yours is. Raises StoreError."""
        stem = self.real.name.removesuffix(SUFFIX)
        mine = free_path(self.real.parent, f"{stem} (mine {now:{_STAMP}})", SUFFIX)
        write_plan(mine, self.plan)
        self.take_theirs(now)
        return mine

    def saves(self) -> list[Save]:
        """The dated saves, newest first."""
        return list_saves(self.real)

    def close(self) -> None:
        """Let go of the file. Unsaved edits stay in the journal and come back at the next opening."""
        self._journal.close(remove=not self.unsaved)
        self._file.close()


def _open_journal(path: Path, real: Path) -> Journal:
    try:
        return Journal(real)
    except BusyError:
        raise open_elsewhere(path, real) from None
    except OSError as error:
        raise StoreError(
            f"“{path.name}” cannot be worked on: its journal beside it cannot be written, {why(error)}. "
            "Copy the plan elsewhere."
        ) from None


def write_plan(path: Path, plan: Plan) -> None:
    """Write a plan as a new file. Raises TakenError when something is there, StoreError when it cannot be written."""
    data = _sound_bytes(path, plan)
    try:
        write_new(path, data, private=True)
    except FileExistsError:
        raise TakenError(
            f"“{path.name}” is there already. Open it, or choose another name; nothing was replaced."
        ) from None
    except OSError as error:
        raise StoreError(f"“{path}” cannot be written: {why(error)}. Choose another folder.") from None


def _sound_bytes(path: Path, plan: Plan) -> bytes:
    """The plan as bytes that can be opened again. Raises StoreError for a plan that could not be."""
    try:
        data = plan_bytes(plan)
        parse_plan(data)
    except (PlanFormError, UnicodeEncodeError) as error:
        raise StoreError(f"“{path.name}” was not written: it could not be opened again. {error}") from None
    return data


def replace_plan(path: Path, plan: Plan, now: datetime) -> None:
    """Write a plan in place of another one that is not open anywhere; what was there goes among its dated saves.

    Raises StoreError, also when it is open in this or another window.
    """
    if not real_path(path).exists():
        write_plan(path, plan)
        return
    data = _sound_bytes(path, plan)
    file = PlanFile(path)
    try:
        keep_save(file.real, file.data, now)
        file.replace(data)
    except OSError as error:
        raise StoreError(f"“{path.name}” was not replaced: {why(error)}. It is as before.") from None
    finally:
        file.close()
