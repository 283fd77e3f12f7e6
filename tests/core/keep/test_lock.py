"""A lock lies on the file, has one owner, and goes with its process."""

import os
import subprocess
import sys

import pytest

from umbra_awl.core.keep.lock import BusyError, is_same, locked

FLAGS = os.O_RDWR | os.O_CREAT


def test_a_second_owner_is_refused_under_any_name(tmp_path):
    path, other, link = tmp_path / "a", tmp_path / "b", tmp_path / "c"
    handle = locked(path, FLAGS)
    os.link(path, other)
    link.symlink_to(path)
    for name in (path, other, link):
        with pytest.raises(BusyError):
            locked(name, FLAGS)
    os.close(handle)
    os.close(locked(other, FLAGS))


def test_a_name_that_stands_for_another_file_is_noticed(tmp_path):
    path = tmp_path / "a"
    handle = locked(path, FLAGS)
    assert is_same(handle, path)
    path.unlink()
    assert not is_same(handle, path)
    path.touch()
    assert not is_same(handle, path)
    os.close(handle)


def test_a_file_replaced_while_it_is_being_locked_is_locked_anew(tmp_path, monkeypatch):
    import fcntl

    path, real, done = tmp_path / "a", fcntl.flock, []

    def flock(handle, how):
        real(handle, how)
        if not done:
            done.append(path.unlink())

    monkeypatch.setattr(fcntl, "flock", flock)
    handle = locked(path, FLAGS)
    assert is_same(handle, path)
    os.close(handle)


_LOOP = """
import os, sys, time
from pathlib import Path
from umbra_awl.core.keep.lock import BusyError, locked
path, owner = Path(sys.argv[1]), Path(sys.argv[2])
twice = owned = 0
end = time.monotonic() + 1.2
while time.monotonic() < end:
    try:
        handle = locked(path, os.O_RDWR | os.O_CREAT)
    except BusyError:
        continue
    owned += 1
    try:
        os.close(os.open(owner, os.O_CREAT | os.O_EXCL))
    except FileExistsError:
        twice += 1
    else:
        owner.unlink()
    path.unlink()
    os.close(handle)
print(owned, twice)
"""


def test_processes_that_open_and_close_in_a_loop_never_own_it_together(tmp_path):
    arguments = [sys.executable, "-c", _LOOP, str(tmp_path / "lock"), str(tmp_path / "owner")]
    both = [subprocess.Popen(arguments, stdout=subprocess.PIPE, text=True) for _ in range(3)]
    counts = [tuple(map(int, process.communicate()[0].split())) for process in both]
    assert all(owned > 20 for owned, _twice in counts)
    assert sum(twice for _owned, twice in counts) == 0
