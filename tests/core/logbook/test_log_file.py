"""The log's file: what was acknowledged is there, whatever is torn, killed or damaged."""

import os
import random
import resource
import signal
import subprocess
import sys
import time

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.keep.lock import locked
from umbra_awl.core.logbook.log_file import HEAD, LogError, LogFile, LogSnapshot, held_in
from umbra_awl.core.logbook.model import Entry


def entry(at, **more):
    return Entry(f"k{at}", f"2026-11-27T10:{at % 60:02d}:00Z", call="Q3AMB", **more)


@pytest.fixture
def log(tmp_path):
    return LogFile(tmp_path / "log" / "wren.awl-log")


def test_entries_come_back_changed_ones_once_and_those_taken_out_not(log):
    assert log.read() == LogSnapshot((), (), 0)
    log.put([entry(1), entry(2)])
    log.put([entry(1, note="on the balcony")])
    log.take_out(["k2"])
    held = log.read()
    assert held.entries == (entry(1, note="on the balcony"),)
    assert held.sound_bytes == log.path.stat().st_size
    assert log.path.read_bytes().count(b"\n") == 5  # nothing is ever written over


@given(st.integers(0, 400), st.binary(max_size=30))
def test_a_torn_end_is_cut_off_and_costs_nothing_that_was_whole(cut, rubbish):
    import tempfile
    from pathlib import Path

    with tempfile.TemporaryDirectory() as name:
        log = LogFile(Path(name) / "log")
        log.put([entry(1)])
        whole = log.path.read_bytes()
        log.put([entry(2)])
        data = log.path.read_bytes()
        torn = data[len(whole) :][: min(cut, len(data) - len(whole) - 1)] + rubbish.replace(b"\n", b"")
        sound = torn == data[len(whole) : -1]  # only its break is missing
        log.path.write_bytes(whole + torn)
        assert len(log.read().entries) == 1 + sound
        told = log.put([entry(3)])
        held = log.read()
        assert [item.key for item in held.entries] == ["k1", *(["k2"] if sound else []), "k3"]
        assert held.damaged == ()
        assert bool(told) == bool(torn and not sound)
        assert not torn or sound or log.aside.read_bytes() == torn + b"\n"


def test_a_damaged_line_is_told_by_its_number_and_the_rest_stays(log):
    log.put([entry(at) for at in range(4)])
    lines = log.path.read_bytes().split(b"\n")
    lines[2] = lines[2][:30] + b"X" + lines[2][31:]
    log.path.write_bytes(b"\n".join(lines))
    held = log.read()
    assert held.damaged == (3,)
    assert [item.key for item in held.entries] == ["k0", "k2", "k3"]


@pytest.mark.parametrize("data", [b"x", b"{}\n", b"umbra-awl log 2\n", b"somebody's notes\nof years\n", b"\0" * 99])
def test_what_is_no_log_is_refused_and_not_written_to(log, data):
    with pytest.raises(LogError, match="no log"):
        held_in(data)
    log.path.parent.mkdir()
    log.path.write_bytes(data)
    with pytest.raises(LogError, match="no log"):
        log.put([entry(1)])
    assert log.path.read_bytes() == data


@pytest.mark.parametrize("length", range(len(HEAD)))
def test_a_kill_while_the_head_was_written_costs_nothing(log, length):
    log.path.parent.mkdir()
    log.path.write_bytes(HEAD[:length])
    assert log.read() == LogSnapshot((), (), 0)
    log.put([entry(1)])
    assert log.read().entries == (entry(1),)


@given(st.binary(max_size=200))
def test_hostile_bytes_behind_the_head_are_damaged_lines(data):
    held = held_in(HEAD + data)
    assert held.entries == ()
    assert len(held.damaged) == data.count(b"\n")


def test_a_log_that_is_just_written_by_another_is_told(log):
    log.put([entry(1)])
    handle = locked(log.path, os.O_RDWR)
    try:
        with pytest.raises(LogError, match="just being written"):
            LogFile(log.path, patience_s=0.05).put([entry(2)])
        assert [item.key for item in log.read().entries] == ["k1"]  # reading goes on
    finally:
        os.close(handle)


def test_a_place_that_cannot_be_written_is_told(tmp_path):
    (tmp_path / "file").write_text("")
    with pytest.raises(LogError, match="cannot be written"):
        LogFile(tmp_path / "file" / "log").put([entry(1)])


WRITER = """
import sys
from pathlib import Path
from umbra_awl.core.logbook.log_file import LogFile
from umbra_awl.core.logbook.model import Entry
log, begin = LogFile(Path(sys.argv[1])), int(sys.argv[2])
for at in range(begin, begin + 100_000):
    log.put([Entry(f"k{at}", "2026-11-27T10:00:00Z", call="Q3AMB", note="x" * 200)])
    print(at, flush=True)
"""


def killed_while_writing(path, begin, chance):
    """Start a writer, kill it at a random moment; the numbers it acknowledged."""
    writer = subprocess.Popen([sys.executable, "-c", WRITER, str(path), str(begin)], stdout=subprocess.PIPE, text=True)
    assert writer.stdout.readline()
    time.sleep(chance.uniform(0.0, 0.05))
    os.kill(writer.pid, signal.SIGKILL)
    told = [begin, *(int(line) for line in writer.stdout.read().split("\n") if line.strip().isdigit())]
    writer.wait()
    writer.stdout.close()
    return told


def test_no_acknowledged_entry_is_missing_after_kills_at_random_moments(log):
    chance, acknowledged, begin = random.Random(3), set(), 0
    for _kill in range(6):
        told = killed_while_writing(log.path, begin, chance)
        acknowledged.update(told)
        begin = max(told) + 2
    held = log.read()
    assert acknowledged <= {int(item.key[1:]) for item in held.entries}
    assert held.damaged == ()


def test_a_torn_end_longer_than_what_follows_leaves_nothing_behind(log):
    log.put([entry(1)])
    with log.path.open("ab") as file:
        file.write(b"0badc0de " + b"x" * 200_000)
    log.put([entry(2)])
    held = log.read()
    assert ([item.key for item in held.entries], held.damaged) == (["k1", "k2"], ())
    assert log.path.read_bytes().endswith(b"}\n")


def test_a_full_disk_leaves_the_log_as_long_as_it_was(log):
    log.put([entry(1)])
    before = log.path.read_bytes()
    low, high = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (len(before) + 40, high))
    try:
        with pytest.raises(LogError, match="cannot be written"):
            log.put([entry(2)])
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, (low, high))
    assert log.path.read_bytes() == before


SHARED = """
import sys
from pathlib import Path
from umbra_awl.core.logbook.log_file import LogFile
from umbra_awl.core.logbook.model import Entry
log, who = LogFile(Path(sys.argv[1]), 60.0), sys.argv[2]
for at in range(50):
    log.put([Entry(f"{who}-{at}", "2026-11-27T10:00:00Z", call="Q3AMB", note="x" * 200)])
"""


def test_four_writers_wait_for_one_another_and_none_is_refused(log):
    writers = [
        subprocess.Popen([sys.executable, "-c", SHARED, str(log.path), f"w{at}"], stderr=subprocess.PIPE, text=True)
        for at in range(4)
    ]
    for writer in writers:
        _out, told = writer.communicate(timeout=120)
        assert writer.returncode == 0, told
    held = log.read()
    assert len(held.entries) == 200
    assert held.damaged == ()


def test_a_change_by_somebody_else_is_seen_by_its_mark(log):
    assert log.mark() == ()
    log.put([entry(1)])
    mark = log.mark()
    assert log.mark() == mark
    assert log.sizes[1] == mark[2] == log.path.stat().st_size
    LogFile(log.path).put([entry(2)])
    assert log.mark() != mark
    log.path.unlink()
    assert log.mark() == ()


def test_each_line_and_the_folder_are_on_the_disk_before_it_is_acknowledged(log, monkeypatch):
    from umbra_awl.core.logbook import log_file

    synced, folders = [], []
    real = os.fsync
    monkeypatch.setattr(log_file.os, "fsync", lambda handle: synced.append(os.fstat(handle).st_size) or real(handle))
    monkeypatch.setattr(log_file, "sync_folder", folders.append)
    log.put([entry(1)])
    assert synced == [log.path.stat().st_size]
    assert folders == [log.path.parent], "a new file's name is kept as well"
    log.put([entry(2)])
    assert synced[1:] == [log.path.stat().st_size]
    assert len(folders) == 1
    with log.path.open("ab") as file:
        file.write(b"torn")
    log.put([entry(3)])
    assert synced[2] == log.aside.stat().st_size == len(b"torn\n")
    log.put([])
    assert len(synced) == 4


def test_what_a_write_began_from_and_ended_at_is_known_to_the_byte(log):
    log.put([entry(1)])
    first = log.path.stat().st_size
    assert log.sizes == (0, first)
    log.put([entry(2)])
    assert log.sizes == (first, log.path.stat().st_size)
    whole = log.path.read_bytes()
    log.path.write_bytes(whole[:-1])  # a kill took the last break; the line counts
    log.put([entry(3)])
    assert log.sizes == (len(whole) - 1, log.path.stat().st_size)
    assert log.read().damaged == ()
    assert log.read().sound_bytes == log.path.stat().st_size
    log.path.write_bytes(whole[:-1])
    assert log.read() == LogSnapshot((entry(1), entry(2)), (), len(whole) - 1)


def test_a_mark_has_eight_digits_and_a_line_that_says_nothing_changes_nothing(log):
    import zlib

    body = b'{"kind":"put","entry":{"key":"k9","utc":"2026-11-27T10:00:00Z"}}'
    mark = b"%x" % zlib.crc32(body)
    log.put([entry(1)])
    for line in (b"0" + mark.rjust(8, b"0") + b" " + body, b"00000000 " + body):
        assert held_in(HEAD + line + b"\n").damaged == (2,)
    log.take_out(["k7"])
    empty = b'{"kind":"put"}'
    with log.path.open("ab") as file:
        file.write(b"%08x %s\n" % (zlib.crc32(empty), empty))
    assert log.read().entries == (entry(1),)


@pytest.mark.parametrize("missing", [65_534, 65_535, 65_536, 65_537, 140_000])
def test_a_torn_end_of_any_length_is_set_aside_whole(log, missing):
    log.put([entry(1)])
    whole = log.path.read_bytes()
    log.path.write_bytes(whole + b"x" * missing)
    told = log.put([entry(2)])
    assert "set aside" in told
    assert log.aside.read_bytes() == b"x" * missing + b"\n"
    assert log.read() == LogSnapshot((entry(1), entry(2)), (), log.path.stat().st_size)


def test_a_file_without_any_break_is_no_log_or_begun_anew(log):
    log.path.parent.mkdir()
    log.path.write_bytes(HEAD[:-1])
    assert log.put([entry(1)]) == ""
    assert not log.aside.exists()
    assert log.read().entries == (entry(1),)


def test_a_log_that_cannot_be_read_is_told(log, monkeypatch):
    log.put([entry(1)])
    monkeypatch.setattr("umbra_awl.core.logbook.log_file.LOG_BYTES", 10)
    with pytest.raises(LogError, match="cannot be read"):
        log.read()


def test_a_folder_that_is_there_already_is_fine_and_others_are_made(tmp_path):
    deep = LogFile(tmp_path / "a" / "b" / "c.awl-log")
    deep.put([entry(1)])
    deep.put([entry(2)])
    assert len(deep.read().entries) == 2
