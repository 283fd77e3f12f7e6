"""The plan file under other hands: other programs, links, other names, modes, folders that vanish."""

import os
import shutil
from datetime import datetime

import pytest
from msgspec.structs import replace

from tests.core.dying import kill
from tests.days import LOCAL
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.journal import journal_path
from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan, replace_plan, write_plan
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.errors import ChangedOutsideError, StoreError, TakenError

NOW = datetime(2026, 11, 24, 12, 0, 0)


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


@pytest.fixture
def theirs(plan):
    return replace(plan, name="Theirs")


def in_place(path, data):
    path.write_bytes(data)


def by_another_file(path, data):
    other = path.with_name("sync.tmp")
    other.write_bytes(data)
    other.replace(path)


def with_the_old_time(path, data):
    """Same length, same time: only the checksum tells."""
    before = path.stat()
    path.write_bytes(data[: before.st_size].ljust(before.st_size))
    os.utime(path, ns=(before.st_atime_ns, before.st_mtime_ns))


@pytest.mark.parametrize("write", [in_place, by_another_file])
def test_a_file_changed_outside_is_not_saved_over_unasked(path, theirs, write):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Mine"))
    write(path, plan_bytes(theirs))
    assert document.outside() == "changed"
    with pytest.raises(ChangedOutsideError, match="keep yours, take theirs, or keep both"):
        document.save(NOW)
    assert read_plan(path) == theirs
    document.save(NOW, over_theirs=True)
    assert read_plan(path).name == "Mine"
    assert "Theirs" in [read_plan(save.path).name for save in list_saves(path)]
    assert document.outside() == "same"
    document.close()


def test_a_change_that_keeps_length_and_time_is_noticed_and_a_touch_is_none(path, plan):
    document = Document.open(path, LOCAL)
    path.touch()
    path.chmod(0o640)
    assert document.outside() == "same"
    with_the_old_time(path, plan_bytes(plan).replace(b"Home, town", b"Town, home"))
    assert document.outside() == "changed"
    document.close()


def test_theirs_can_be_taken_and_undo_leads_back(path, theirs):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Mine"))
    path.write_bytes(plan_bytes(theirs))
    document.take_theirs(NOW)
    assert (document.plan, document.unsaved, document.outside()) == (theirs, False, "same")
    assert read_plan(list_saves(path)[0].path).name == "Mine"
    document.undo()
    assert (document.plan.name, document.unsaved) == ("Mine", True)
    kill(document)
    again = Document.open(path, LOCAL)
    assert (again.plan.name, again.recovered) == ("Mine", 1)
    again.close()


def test_both_can_be_kept(path, theirs):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Mine"))
    path.write_bytes(plan_bytes(theirs))
    mine = document.keep_both(NOW)
    assert read_plan(mine).name == "Mine"
    assert document.plan == read_plan(path) == theirs
    document.close()


def test_theirs_that_is_no_plan_is_refused_and_mine_stays(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Mine"))
    path.write_bytes(b"<<<<<<< conflict")
    with pytest.raises(StoreError, match="was not opened"):
        document.take_theirs(NOW)
    assert document.plan.name == "Mine"
    document.save(NOW, over_theirs=True)
    assert read_plan(path).name == "Mine"
    document.close()


def test_a_file_that_was_removed_is_saved_anew(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Mine"))
    path.unlink()
    assert document.outside() == "gone"
    document.save(NOW)
    assert read_plan(path).name == "Mine"
    document.close()


def test_a_link_is_saved_through_and_stays(path, tmp_path):
    link = tmp_path / "elsewhere" / "link.awl.json"
    link.parent.mkdir()
    link.symlink_to(path)
    document = Document.open(link, LOCAL)
    document.edit(rename_plan("Mine"))
    document.save(NOW)
    assert link.is_symlink()
    assert read_plan(path).name == "Mine"
    assert list_saves(path)
    assert not list_saves(link)
    document.close()


@pytest.mark.parametrize("make", [lambda path, name: name.symlink_to(path), os.link])
def test_one_plan_under_two_names_is_open_once(path, tmp_path, make):
    other = tmp_path / "other.awl.json"
    make(path, other)
    document = Document.open(path, LOCAL)
    with pytest.raises(StoreError, match="open in another window"):
        Document.open(other, LOCAL)
    document.close()
    Document.open(other, LOCAL).close()


def test_after_a_save_the_new_file_is_locked_too(path, tmp_path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document.save(NOW)
    journal_path(path).unlink()  # even where somebody removes the journal with its lock
    with pytest.raises(StoreError, match="open in another window"):
        Document.open(path, LOCAL)
    document.close()


def test_modes_are_kept_and_everything_new_is_for_its_owner_alone(path):
    path.chmod(0o640)
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    document.save(NOW)
    assert path.stat().st_mode & 0o777 == 0o640
    assert journal_path(path).stat().st_mode & 0o777 == 0o600
    document.close()
    write_plan(path.with_name("new.awl.json"), document.plan)
    assert path.with_name("new.awl.json").stat().st_mode & 0o777 == 0o600


def test_a_journal_that_is_a_link_is_refused_and_what_it_points_to_stays(path, tmp_path):
    victim = tmp_path / "victim"
    victim.write_text("precious")
    journal_path(path).symlink_to(victim)
    with pytest.raises(StoreError, match="journal beside it cannot be written"):
        Document.open(path, LOCAL)
    assert victim.read_text() == "precious"


def test_a_pipe_in_place_of_a_plan_is_refused_at_once(tmp_path):
    pipe = tmp_path / "pipe.awl.json"
    os.mkfifo(pipe)
    with pytest.raises(StoreError, match="no file"):
        Document.open(pipe, LOCAL)


def test_a_folder_that_vanishes_refuses_the_next_edit(path):
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("A"))
    shutil.rmtree(path.parent)
    with pytest.raises(StoreError, match="The edit was not done"):
        document.edit(rename_plan("B"))
    with pytest.raises(StoreError, match="was not saved"):
        document.save(NOW)
    document.close()


def test_a_new_plan_never_replaces_anything_and_an_unsound_one_is_not_written(path, plan, tmp_path):
    with pytest.raises(TakenError, match="is there already"):
        Document.create(path, replace(plan, name="New"), LOCAL)
    assert read_plan(path) == plan
    broken = replace(plan, routes=(*plan.routes, replace(plan.routes[0], slot=3)))
    for write in (write_plan, lambda place, made: replace_plan(place, made, NOW)):
        with pytest.raises(StoreError, match="only 1 and 2"):
            write(tmp_path / "broken.awl.json", broken)
    assert not (tmp_path / "broken.awl.json").exists()


def test_replacing_a_plan_keeps_what_was_there_and_refuses_one_that_is_open(path, plan, theirs):
    document = Document.open(path, LOCAL)
    with pytest.raises(StoreError, match="open in another window"):
        replace_plan(path, theirs, NOW)
    document.close()
    replace_plan(path, theirs, NOW)
    assert read_plan(path) == theirs
    assert read_plan(list_saves(path)[0].path) == plan
