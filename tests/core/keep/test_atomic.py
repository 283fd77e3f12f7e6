"""Files are replaced whole or not at all, through links, with their mode; new ones never over old ones."""

import fcntl
import os
import stat
import subprocess
import sys

import pytest

from umbra_awl.core.keep import atomic
from umbra_awl.core.keep.atomic import clean_left_overs, write_new, write_over


def mode(path):
    return stat.S_IMODE(path.stat().st_mode)


@pytest.fixture
def path(tmp_path):
    made = tmp_path / "a.json"
    made.write_bytes(b"old")
    return made


def test_a_link_is_followed_and_stays_a_link(tmp_path, path):
    link = tmp_path / "link.json"
    link.symlink_to(path)
    write_over(link, b"new")
    assert link.is_symlink()
    assert path.read_bytes() == b"new"


def test_a_replaced_file_keeps_its_mode_and_a_private_new_one_is_for_its_owner(tmp_path, path):
    path.chmod(0o640)
    write_over(path, b"new", private=True)
    assert mode(path) == 0o640
    write_over(tmp_path / "b.json", b"new", private=True)
    write_new(tmp_path / "c.json", b"new", private=True)
    assert [mode(tmp_path / name) for name in ("b.json", "c.json")] == [0o600, 0o600]


def test_other_new_files_have_the_mode_that_the_system_is_set_to(tmp_path):
    before = os.umask(0o027)
    try:
        write_new(tmp_path / "a.csv", b"x")
    finally:
        os.umask(before)
    assert mode(tmp_path / "a.csv") == 0o640


def test_a_new_file_never_replaces_anything(tmp_path, path):
    dangling = tmp_path / "dangling"
    dangling.symlink_to(tmp_path / "nowhere")
    for place in (path, dangling, tmp_path):
        with pytest.raises(FileExistsError):
            write_new(place, b"new")
    assert path.read_bytes() == b"old"
    assert sorted(item.name for item in tmp_path.iterdir()) == ["a.json", "dangling"]


def test_where_hard_links_are_unknown_a_new_file_is_exclusive_all_the_same(tmp_path, path, monkeypatch):
    def unknown(*_names):
        raise OSError(95, "Operation not supported")

    monkeypatch.setattr(os, "link", unknown)
    write_new(tmp_path / "b.json", b"new")
    assert (tmp_path / "b.json").read_bytes() == b"new"
    real = os.path.lexists
    monkeypatch.setattr(os.path, "lexists", lambda _path: False)  # it came between looking and writing
    with pytest.raises(FileExistsError):
        write_new(path, b"new")
    monkeypatch.setattr(os.path, "lexists", real)
    assert path.read_bytes() == b"old"


def test_of_two_processes_that_write_at_once_one_wins_and_the_other_is_told(tmp_path):
    code = (
        "import sys\nfrom pathlib import Path\nfrom umbra_awl.core.keep.atomic import write_new\n"
        "sys.stdin.readline()\n"
        "try: write_new(Path(sys.argv[1]), sys.argv[2].encode() * 100_000); print('wrote')\n"
        "except FileExistsError: print('told')"
    )
    path = tmp_path / "one"
    both = [
        subprocess.Popen(
            [sys.executable, "-c", code, str(path), name], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )
        for name in "ab"
    ]
    for process in both:
        process.stdin.write("go\n")
        process.stdin.flush()
    said = sorted(process.communicate()[0].strip() for process in both)
    assert said == ["told", "wrote"]
    assert path.read_bytes() in {b"a" * 100_000, b"b" * 100_000}


def test_a_full_disk_leaves_what_was_there(path, monkeypatch):
    def full(_handle):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    for write in (lambda: write_over(path, b"new"), lambda: write_new(path.with_name("b"), b"new")):
        with pytest.raises(OSError, match="No space"):
            write()
    assert [(item.name, item.read_bytes()) for item in path.parent.iterdir()] == [("a.json", b"old")]


def test_what_interrupted_writers_left_goes_and_what_is_being_written_stays(path):
    write_over(path, b"new")
    stem = atomic._left_over_stem(path)
    idle, busy, other = (path.with_name(name) for name in (f"{stem}1-1", f"{stem}2-1", ".awl-000000000000-1-1"))
    for item in (idle, busy, other):
        item.write_bytes(b"half")
    with busy.open("rb+") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        assert clean_left_overs(path) == 1
    assert sorted(item.name for item in path.parent.iterdir()) == sorted([path.name, busy.name, other.name])


def test_a_name_as_long_as_names_may_be(tmp_path):
    path = tmp_path / ("n" * 255)
    write_over(path, b"x")
    write_over(path, b"y")
    assert path.read_bytes() == b"y"


@pytest.mark.parametrize("make", [os.mkfifo, os.mkdir])
def test_what_is_no_file_is_never_replaced_by_one(tmp_path, make):
    path = tmp_path / "out"
    make(path)
    kind = path.lstat().st_mode
    for through in (True, False):
        with pytest.raises(OSError, match="no file"):
            write_over(path, b"x", through_links=through)
    link = tmp_path / "link"
    link.symlink_to(path)
    with pytest.raises(OSError, match="no file"):
        write_over(link, b"x")
    assert path.lstat().st_mode == kind
    assert [item.name for item in tmp_path.iterdir() if item.name not in {"out", "link"}] == []
