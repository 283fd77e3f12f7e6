import os
import random
import signal
import subprocess
import sys
import time
from datetime import datetime
from pathlib import Path

import pytest

from tests.core.dying import kill
from tests.days import LOCAL
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.plan.disk import journal
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, rename_plan
from umbra_awl.core.plan.edit.history import History
from umbra_awl.core.plan.errors import StoreError

NOW = datetime(2026, 11, 24, 3, 0, 0)


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


def test_an_edit_is_kept_by_the_journal_without_saving(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Renamed"))
    kill(document)
    reopened = Document.open(path, LOCAL)
    assert reopened.plan.name == "Renamed"
    assert reopened.recovered == 1
    assert reopened.unsaved
    reopened.close()


def test_saving_folds_the_journal_into_the_file(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Renamed"))
    document.save(NOW)
    assert not document.unsaved
    document.close()
    assert read_plan(path).name == "Renamed"
    assert not journal.journal_path(path).exists()


def test_undo_and_redo_give_the_very_same_values_back(path, plan):
    document = Document.open(path, LOCAL)
    first = document.plan
    document.edit(rename_plan("A"))
    document.edit(rename_plan("B"))
    document.undo()
    document.undo()
    assert document.plan is first
    assert not document.undo()
    document.redo()
    document.redo()
    assert document.plan.name == "B"
    document.close()


def test_an_edit_after_undo_forgets_what_was_undone(plan):
    history = History(plan).after(rename_plan("A")).undone().after(rename_plan("C"))
    assert not history.future
    assert history.plan.name == "C"


def test_an_edit_that_changes_nothing_leaves_no_step(plan):
    history = History(plan)
    assert history.after(rename_plan(plan.name)) is history


def test_a_refused_edit_changes_nothing(path):
    document = Document.open(path, LOCAL)

    def refuse(_plan):
        raise EditRefused("No.")

    before = document.plan
    with pytest.raises(EditRefused):
        document.edit(Edit("Refuse", refuse))
    assert document.plan is before
    document.close()


def test_a_torn_last_line_loses_only_the_last_edit(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document.edit(rename_plan("B"))
    kill(document)
    place = journal.journal_path(path)
    place.write_bytes(place.read_bytes()[:-7])
    again = Document.open(path, LOCAL)
    assert again.plan.name == "A"
    again.close()


def test_killed_between_saving_and_the_new_journal(path):
    """The plan file is already the new one, the journal still the old one: its edits must not be done twice."""
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    data = plan_bytes(document.plan)
    document._journal.saving(journal.digest(data))
    write_over(path, data)
    kill(document)
    again = Document.open(path, LOCAL)
    assert again.plan.name == "A"
    assert again.recovered == 0
    again.close()


def test_killed_after_announcing_a_save_that_never_came(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document._journal.saving(journal.digest(plan_bytes(document.plan)))
    kill(document)
    again = Document.open(path, LOCAL)
    assert again.plan.name == "A"
    assert again.recovered == 1
    again.close()


def test_a_file_changed_outside_sets_the_journal_aside(path, plan):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    kill(document)
    path.write_bytes(plan_bytes(rename_plan("Outside").apply(plan)))
    again = Document.open(path, LOCAL)
    assert again.plan.name == "Outside"
    assert "set aside" in again.notes[0]
    assert any("journal.aside" in item.name for item in path.parent.iterdir())
    again.close()


def test_one_plan_in_two_windows_is_refused(path):
    first = Document.open(path, LOCAL)
    with pytest.raises(StoreError, match="open in another window"):
        Document.open(path, LOCAL)
    first.close()


def test_saves_are_kept_by_date_and_can_be_read_the_first_state_too(path, plan):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document.save(NOW)
    document.edit(rename_plan("B"))
    document.save(NOW.replace(hour=4))
    document.close()
    saves = list_saves(path)
    assert [item.when for item in saves] == ["2026-11-24 04:00:00", "2026-11-24 03:00:00", "2026-11-24 03:00:00"]
    assert [read_plan(item.path).name for item in saves] == ["B", "A", plan.name]


def test_a_full_disk_while_saving_keeps_the_old_file_and_the_edits(path, plan, monkeypatch):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    before = path.read_bytes()

    def full(_handle):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StoreError, match="no space left on device"):
        document.save(NOW)
    monkeypatch.undo()
    assert path.read_bytes() == before
    assert document.plan.name == "A"
    assert document.unsaved
    assert not [item for item in path.parent.iterdir() if item.name.startswith(".awl-")]
    document.close()
    again = Document.open(path, LOCAL)
    assert again.plan.name == "A"
    again.close()


def test_a_full_disk_while_journalling_refuses_the_edit_whole(path, monkeypatch):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    real = os.write

    def half(handle, data):
        return real(handle, data[: len(data) // 2])

    monkeypatch.setattr(os, "write", half)
    with pytest.raises(StoreError, match="The edit was not done"):
        document.edit(rename_plan("B"))
    monkeypatch.undo()
    assert document.plan.name == "A"
    document.edit(rename_plan("C"))
    kill(document)
    again = Document.open(path, LOCAL)
    assert again.plan.name == "C"
    again.close()


@pytest.mark.parametrize(
    ("make", "words"), [(lambda _place: None, "There is no file"), (lambda place: place.mkdir(), "is a folder")]
)
def test_what_cannot_be_opened_is_said(tmp_path, make, words):
    place = tmp_path / "x.awl.json"
    make(place)
    with pytest.raises(StoreError, match=words):
        Document.open(place, LOCAL)


def test_a_damaged_file_is_not_touched(path):
    path.write_bytes(b"{ damaged")
    with pytest.raises(StoreError, match="untouched"):
        Document.open(path, LOCAL)
    assert path.read_bytes() == b"{ damaged"
    assert not journal.journal_path(path).exists()


def test_a_folder_that_does_not_exist_refuses_a_new_plan(tmp_path, plan):
    with pytest.raises(StoreError, match="cannot be written"):
        Document.create(tmp_path / "no" / "x.awl.json", plan, LOCAL)


_WORKER = """
import sys
from pathlib import Path
from umbra_awl.core.keep.clock import RUNNING
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.disk.store import Document
document = Document.open(Path(sys.argv[1]), RUNNING.local())
print(document.plan.name, flush=True)
at = int(document.plan.name.split()[-1]) if document.plan.name[-1:].isdigit() else 0
while True:
    at += 1
    document.edit(rename_plan(f"Plan {at}"))
    print(at, flush=True)
    if at % 5 == 0:
        document.save(RUNNING.local())
"""


@pytest.mark.parametrize("seed", range(6))
def test_kills_at_random_moments_lose_at_most_the_last_edit(path, seed):
    """Several rounds on one file: each starts where the last one was killed. `make bench` counts to a thousand."""
    chance = random.Random(seed)
    for _round in range(3):
        last = kill_once(path, chance.uniform(0.02, 0.12))
        document = Document.open(path, LOCAL)
        number = int(document.plan.name.split()[-1]) if document.plan.name.startswith("Plan ") else 0
        assert number >= last, "an edit that was shown as done is missing"
        document.close()


def kill_once(path: Path, after_s: float) -> int:
    """Edit and save in a process of its own, kill it, and give the last edit it had reported."""
    process = subprocess.Popen([sys.executable, "-c", _WORKER, str(path)], stdout=subprocess.PIPE, text=True)
    process.stdout.readline()
    time.sleep(after_s)
    process.send_signal(signal.SIGKILL)
    printed = process.stdout.read().split("\n")
    process.wait()
    process.stdout.close()
    return int(printed[-2]) if len(printed) > 1 else 0
