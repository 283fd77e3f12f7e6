"""Logs by other ways: a named pipe and a service's journal, read on without waiting, whatever the other end does."""

import os
import stat
import time

import pytest

from umbra_awl.core.hotspot.logs.reading import read_log_bytes
from umbra_awl.core.hotspot.logs.streams import GrowingLog, JournalLog, follow, let_go


def until(followed, wanted, seconds=5.0):
    end = time.monotonic() + seconds
    while wanted not in followed.data and time.monotonic() < end:
        followed.more()
        time.sleep(0.02)
    return wanted in followed.data


def test_a_named_pipe_is_read_by_whole_lines_and_never_waited_for(tmp_path):
    path = tmp_path / "spot.pipe"
    os.mkfifo(path)
    followed = follow(path)
    begun = time.monotonic()
    assert not followed.more()
    assert time.monotonic() - begun < 1
    with path.open("wb", buffering=0) as out:
        out.write(b"one\ntw")
        assert followed.more()
        assert followed.data == b"one\n"
        assert not followed.more()
        out.write(b"o\n")
        assert followed.more()
    assert followed.data == b"one\ntwo\n"
    assert not followed.more(), "the other end may come back"
    let_go(followed)
    let_go(None)


def test_a_file_is_followed_as_before(tmp_path):
    (tmp_path / "spot.log").write_bytes(b"one\n")
    followed = follow(tmp_path / "spot.log")
    assert isinstance(followed, GrowingLog)
    assert followed.more()
    let_go(followed)


def fake_journal(folder, body):
    path = folder / "journalctl"
    path.write_text(f"#!/bin/sh\n{body}\n")
    path.chmod(path.stat().st_mode | stat.S_IXUSR)
    return str(path)


def test_the_journal_of_a_service_is_read_on_as_it_grows_and_its_command_ended(tmp_path):
    line = "2026-11-26T20:40:00+0000 host spot[1]: dmr slot 2: radio Q4WRN to 99900, 3.2 s, loss 0 %, BER 1.2 %"
    told = tmp_path / "told"
    command = fake_journal(tmp_path, f'echo "$@" > {told}\necho "{line}"\nexec sleep 60')
    followed = JournalLog("spot.service", command)
    assert until(followed, b"BER 1.2 %")
    assert read_log_bytes(followed.data).calls[0].call == "Q4WRN"
    assert "--follow" in told.read_text()
    assert "--unit spot.service" in told.read_text()
    let_go(followed)
    assert followed._process.returncode is not None


def test_a_journal_that_ends_is_told(tmp_path):
    followed = JournalLog("spot.service", fake_journal(tmp_path, "exit 1"))
    with pytest.raises(OSError, match="has ended"):
        until(followed, b"never")
    let_go(followed)


@pytest.mark.parametrize("unit", ["", "-f", "--file=/etc/passwd", "a b", "x;y", "a" * 200, "é"])
def test_only_the_name_of_a_service_is_asked_for(unit):
    with pytest.raises(OSError, match="no name of a service"):
        JournalLog(unit)


def test_without_a_journal_it_is_said_what_to_do():
    with pytest.raises(OSError, match="Open the log's file"):
        JournalLog("spot.service", "no-such-command-here")
