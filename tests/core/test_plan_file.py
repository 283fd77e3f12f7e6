"""The plan file held by a window: refusals in words, no handle left behind, the lock that goes along, left-overs cleaned."""

import os
from pathlib import Path

import pytest

from umbra_awl.core.keep import atomic
from umbra_awl.core.keep import lock as lock_module
from umbra_awl.core.keep.lock import BusyError, locked
from umbra_awl.core.plan.disk import plan_file
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.plan_file import PlanFile, read_bytes
from umbra_awl.core.plan.errors import StoreError


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


def handles():
    return len(list(Path("/proc/self/fd").iterdir()))


@pytest.fixture(autouse=True)
def _nothing_left_open():
    before = handles()
    yield
    assert handles() == before


@pytest.mark.parametrize("read", [read_bytes, PlanFile])
def test_what_cannot_be_read_is_said(tmp_path, read, monkeypatch):
    with pytest.raises(StoreError, match=r"no file “.*none\.awl\.json”. Check the name"):
        read(tmp_path / "none.awl.json")
    with pytest.raises(StoreError, match=r"is a folder. Choose a plan file ending in \.awl\.json"):
        read(tmp_path)
    long = tmp_path / "long.awl.json"
    long.write_bytes(bytes(9))
    monkeypatch.setattr(plan_file, "PLAN_BYTES", 8)
    with pytest.raises(StoreError, match="cannot be read"):
        read(long)


def test_a_file_that_is_open_is_refused_and_nothing_stays_open(path):
    first = PlanFile(path)
    with pytest.raises(StoreError, match="open in another window"):
        PlanFile(path)
    first.close()
    PlanFile(path).close()


def test_a_file_that_is_just_being_replaced_is_refused(path, monkeypatch):
    monkeypatch.setattr(plan_file, "is_same", lambda _handle, _path: False)
    with pytest.raises(StoreError, match="open in another window"):
        PlanFile(path)


def test_a_refused_lock_leaves_no_handle(path):
    handle = locked(path, os.O_RDWR)
    with pytest.raises(BusyError):
        locked(path, os.O_RDWR)
    os.close(handle)


def test_a_lock_on_a_file_that_lost_its_name_leaves_no_handle(path, monkeypatch):
    real, seen = lock_module.is_same, []
    monkeypatch.setattr(lock_module, "is_same", lambda *item: (bool(seen) and real(*item)) or seen.append(1))
    handle = locked(path, os.O_RDWR)
    assert (real(handle, path), len(seen)) == (True, 1)
    os.close(handle)


def test_left_overs_of_a_write_that_was_killed_are_cleaned_at_opening(path):
    left = path.with_name(f"{atomic._left_over_stem(path)}999-1")
    left.write_bytes(b"half")
    PlanFile(path).close()
    assert list(path.parent.iterdir()) == [path]


def test_an_unchanged_stamp_is_not_read_again(path, monkeypatch):
    file = PlanFile(path)
    monkeypatch.setattr(plan_file, "read_within", lambda *_: pytest.fail("read for nothing"))
    assert file.outside() == "same"
    file.close()


def test_a_touched_file_is_read_once_and_its_stamp_remembered(path, monkeypatch):
    file = PlanFile(path)
    os.utime(path, ns=(1, 1))
    assert file.outside() == "same"
    monkeypatch.setattr(plan_file, "read_within", lambda *_: pytest.fail("read for nothing"))
    assert file.outside() == "same"
    file.close()


def test_changed_gone_and_unreadable(path):
    file = PlanFile(path)
    path.write_bytes(file.data.replace(b"Wren", b"Nerw"))
    assert file.outside() == "changed"
    path.unlink()
    assert file.outside() == "gone"
    path.mkdir()
    assert file.outside() == "changed"
    path.rmdir()
    file.close()


def test_replacing_takes_the_lock_along_and_lets_go_of_the_old_file(path):
    file = PlanFile(path)
    before = handles()
    for text in (b"one", b"two"):
        file.replace(text)
        assert (path.read_bytes(), file.data, file.outside()) == (text, text, "same")
        assert handles() == before
        with pytest.raises(StoreError, match="open in another window"):
            PlanFile(path)
    file.close()
    PlanFile(path).close()


def test_a_new_plan_file_is_its_owners_alone_and_an_old_one_keeps_its_mode(path):
    file = PlanFile(path)
    path.chmod(0o640)
    file.replace(b"one")
    assert path.stat().st_mode & 0o777 == 0o640
    path.unlink()
    file.replace(b"two")
    assert path.stat().st_mode & 0o777 == 0o600
    file.close()


def test_a_replacement_that_fails_leaves_no_handle_and_the_file_as_it_was(path, monkeypatch):
    file, before, open_now = PlanFile(path), path.read_bytes(), handles()
    monkeypatch.setattr(os, "replace", lambda *_: (_ for _ in ()).throw(OSError("no")))
    monkeypatch.setattr(type(path), "replace", lambda *_: (_ for _ in ()).throw(OSError("no")))
    with pytest.raises(OSError, match="no"):
        file.replace(b"new")
    assert (path.read_bytes(), handles(), file.outside()) == (before, open_now, "same")
    file.close()


def test_taking_theirs_holds_their_file(path):
    file = PlanFile(path)
    before = handles()
    other = path.with_name("theirs")
    other.write_bytes(b"theirs")
    other.replace(path)
    assert file.read_again() == b"theirs"
    assert (file.data, file.outside(), handles()) == (b"theirs", "same", before)
    with pytest.raises(StoreError, match="open in another window"):
        PlanFile(path)
    file.close()
    PlanFile(path).close()
