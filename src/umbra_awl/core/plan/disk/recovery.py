"""What comes back from a journal at opening: the edits that fit, and in words what did not.

Nothing is thrown away: what cannot be read, does not fit, or belongs to another state of the file is kept in a file beside it.
"""

from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.atomic import write_new
from umbra_awl.core.keep.naming import free_path
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk import patch as patches
from umbra_awl.core.plan.disk.journal import Journal, Record, contents_of, digest, edits_since, record_line
from umbra_awl.core.plan.model import Plan

_STAMP = "%Y-%m-%d %H.%M.%S"


class Recovered(NamedTuple):
    """The plan with the edits that came back, how many they are, and sentences on what did not come back."""

    plan: Plan
    edits: int
    notes: tuple[str, ...] = ()


class Replayed(NamedTuple):
    """The plan after the edits that fit, how many did, and why the next one did not."""

    plan: Plan
    done: int
    why: str = ""


def replay(plan: Plan, records: list[Record]) -> Replayed:
    """Do edits again as long as they fit and leave a plan of sound structure."""
    for done, record in enumerate(records):
        try:
            after = patches.apply(plan, record.patch or patches.Patch())
        except patches.PatchError as error:
            return Replayed(plan, done, str(error))
        faults = structure_faults(after, plan)
        if faults:
            return Replayed(plan, done, faults[0])
        plan = after
    return Replayed(plan, len(records))


def recover(journal: Journal, saved: Plan, saved_digest: str, now: datetime) -> Recovered:
    """Bring back what the journal holds for a saved plan, and leave the journal so that new edits go on from there.

    Raises OSError when what does not come back cannot be kept.
    """
    data = journal.read()
    contents = contents_of(data)
    edits = edits_since(contents.records, saved_digest)
    if edits is None:
        return _other_state(journal, saved, saved_digest, data, now)
    replayed = replay(saved, edits)
    notes: list[str] = []
    if contents.unread:
        kept = _keep_aside(journal.path, data[contents.sound_bytes :], now)
        journal.cut(contents.sound_bytes)
        notes.append(
            f"{counted(contents.unread, 'record')} at the journal's end could not be read; kept in “{kept.name}”."
        )
    misfits = edits[replayed.done :]
    if misfits:
        kept = _keep_aside(journal.path, b"".join(map(record_line, misfits)), now)
        notes.append(f"{counted(len(misfits), 'edit')} did not come back: {replayed.why}. Kept in “{kept.name}”.")
        _rewrite(journal, saved_digest, edits[: replayed.done])
    if replayed.plan == saved:  # undone again before it ended: nothing is left to recover
        journal.start(saved_digest)
        return Recovered(saved, 0, tuple(notes))
    return Recovered(replayed.plan, replayed.done, tuple(notes))


def _rewrite(journal: Journal, saved_digest: str, edits: list[Record]) -> None:
    """The journal anew, with these edits only, so that the next ones follow on what is in force."""
    journal.start(saved_digest)
    for record in edits:
        journal.put(record)


def _other_state(journal: Journal, saved: Plan, saved_digest: str, data: bytes, now: datetime) -> Recovered:
    """A journal that is empty, unreadable from its first line, or written for other bytes than the file holds now."""
    contents = contents_of(data)
    lost = sum(record.kind == "edit" for record in contents.records)
    notes: tuple[str, ...] = ()
    if lost or contents.unread:
        kept = _keep_aside(journal.path, data, now)
        notes = (_why_other(lost, contents.unread, kept.name),)
    journal.start(saved_digest)
    return Recovered(saved, 0, notes)


def _why_other(lost: int, unread: int, kept: str) -> str:
    if not lost:
        return f"The journal could not be read ({counted(unread, 'record')}); it is kept in “{kept}”."
    edits = f"{counted(lost, 'edit that belongs', 'edits that belong')} to its earlier state"
    torn = f" and {counted(unread, 'record')} that could not be read" if unread else ""
    return f"The plan file was changed outside. {edits}{torn} were set aside in “{kept}”."


def _keep_aside(journal: Path, data: bytes, now: datetime) -> Path:
    """Keep bytes of a journal beside it, under the date; the file. The same bytes are kept once."""
    mark = digest(data).rpartition("-")[2]
    for known in journal.parent.glob(f"{journal.name}.aside *{mark}"):
        return known
    path = free_path(journal.parent, f"{journal.name}.aside {now:{_STAMP}} {mark}", "")
    write_new(path, data, private=True)
    return path
