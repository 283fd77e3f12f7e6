import threading

from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.store import Document, write_plan
from umbra_awl.desk import opening
from umbra_awl.desk.jobs import Jobs


def test_a_large_plan_is_opened_away_from_the_interface_thread(qtbot, tmp_path, monkeypatch):
    jobs = Jobs()
    said, taken, threads = [], [], []
    real_open = Document.open.__func__

    def noticed(kind, path, now):
        threads.append(threading.current_thread())
        return real_open(kind, path, now)

    monkeypatch.setattr(Document, "open", classmethod(noticed))
    monkeypatch.setattr(opening, "AT_ONCE_BYTES", 10)
    path = tmp_path / "large.awl.json"
    write_plan(path, Plan(name="Large"))
    refused = []
    door = opening.Opening(jobs, Clock(), lambda text, _kind: said.append(text), taken.append, lambda: bool(refused))
    assert door.open(path)
    qtbot.waitUntil(lambda: bool(taken), timeout=5000)
    assert threads[0] is not threading.main_thread()
    assert "Opening" in said[0]
    taken.pop().close()
    path.write_bytes(b"{ no plan at all")
    door.open(path)
    qtbot.waitUntil(lambda: len(said) == 3, timeout=5000)
    assert "was not opened" in said[2]
    assert not taken
    path.unlink()
    write_plan(path, Plan(name="Large"))
    refused.append("a transfer")
    door.open(path)
    qtbot.waitUntil(lambda: len(threads) == 3 and not jobs.busy, timeout=5000)
    qtbot.wait(50)
    assert not taken
    jobs.close()
    Document.open(path, Clock().local()).close()  # it was let go of again
