"""Closing the window: saves are finished, transfers are asked about, and nothing keeps it open for ever."""

import threading

import pytest

from tests.desk.faulty_jobs import FaultyJobs
from umbra_awl.desk.app import build, set_demo_ports
from umbra_awl.desk.frame.plans import leaving
from umbra_awl.desk.parts.asking import CANCEL
from umbra_awl.desk.parts.saving import FilePlace, save_later
from umbra_awl.desk.settings import Settings
from umbra_awl.standins.launch import RadioProcess


@pytest.fixture
def jobs():
    return FaultyJobs()


@pytest.fixture
def window(qtbot, qapp, tmp_path, demo, jobs):
    made = build(qapp, Settings(), jobs=jobs, directory=tmp_path / "directory" / "directory.sqlite")
    qtbot.addWidget(made)
    made.show()
    made.plans.open(demo.plan)
    set_demo_ports(made, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    yield made
    made.leaving._force()


def test_a_queued_save_is_finished_before_the_window_closes(qtbot, window, jobs, tmp_path):
    event = jobs.hold("save")
    for name in ("a.pdf", "b.pdf"):
        save_later(window.bench, FilePlace(tmp_path / name), lambda: b"%PDF", "Saved")
    assert not window.close()
    assert "Finishing what is being saved, then closing" in window.message.text()
    assert window.isVisible()
    event.set()
    qtbot.waitUntil(lambda: not window.isVisible(), timeout=10_000)
    assert (tmp_path / "a.pdf").read_bytes() == (tmp_path / "b.pdf").read_bytes() == b"%PDF"


def test_two_saves_of_one_name_are_both_answered(qtbot, window, jobs, tmp_path):
    """The second finds the first in its place: it is told and not dropped."""
    said = []
    window.bench.said.connect(lambda text, _kind: said.append(text))
    for _time in range(2):
        save_later(window.bench, FilePlace(tmp_path / "a.pdf"), lambda: b"%PDF", "Saved")
    qtbot.waitUntil(lambda: not jobs.kept_waiting, timeout=10_000)
    assert said == ["Saved", "“a.pdf” is there already. Choose another name; nothing was replaced."]


def test_a_save_that_never_ends_keeps_the_window_open_within_a_bound(qtbot, window, jobs, tmp_path, monkeypatch):
    event = jobs.hold("save")
    save_later(window.bench, FilePlace(tmp_path / "a.pdf"), lambda: b"%PDF", "Saved")
    window.leaving._bound.setInterval(200)
    monkeypatch.setattr("umbra_awl.desk.jobs.CLOSE_S", 0.2)
    assert not window.close()
    qtbot.waitUntil(lambda: not window.isVisible(), timeout=10_000)
    event.set()


def test_a_transfer_is_asked_about_and_stopped_when_so_answered(qtbot, window, demo, monkeypatch):
    profile, memory, port = demo.radios["moor"]
    window.bench.choose_radio("moor")
    asked = []
    answers = [CANCEL, leaving.STOP]
    monkeypatch.setattr(leaving, "ask", lambda *words: asked.append(words[2]) or answers[len(asked) - 1])
    with RadioProcess(profile, memory, port, speed=0.2):
        window.runner.read()
        qtbot.waitUntil(lambda: window.runner.done_bytes > 0, timeout=10_000)
        assert not window.close()
        assert window.runner.running
        assert "Close all the same?" in asked[0]
        assert not window.close()
        qtbot.waitUntil(lambda: not window.isVisible(), timeout=10_000)
    assert len(asked) == 2


def test_without_anything_under_way_it_closes_at_once(window):
    assert window.close()
    assert not [thread for thread in threading.enumerate() if thread.name.startswith("results")]
