import subprocess
import sys
import threading

from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.disk.store import Document, write_plan
from umbra_awl.core.plan.model import Plan
from umbra_awl.desk.held import opening
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
    door = opening.Opening(
        jobs, Clock(), lambda text, _kind: said.append(text), taken.append, lambda: bool(refused), lambda: True
    )
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


def test_a_plan_that_was_begun_meanwhile_is_not_taken_away_by_one_that_arrives(
    qtbot, empty_window, tmp_path, monkeypatch
):
    monkeypatch.setattr(opening, "AT_ONCE_BYTES", 10)
    bench, gate = empty_window.bench, threading.Event()
    real_open = Document.open.__func__
    closed = []

    def slow(kind, path, now):
        gate.wait(5)
        document = real_open(kind, path, now)
        real_close = document.close
        document.close = lambda: (closed.append(path.name), real_close())
        return document

    for name in ("large", "larger"):
        write_plan(tmp_path / f"{name}.awl.json", Plan(name=name))
    bench.jobs = Jobs()
    bench.opening._jobs = bench.jobs
    monkeypatch.setattr(Document, "open", classmethod(slow))
    assert bench.open(tmp_path / "large.awl.json")
    assert bench.open(tmp_path / "larger.awl.json")
    assert bench.opening.create(tmp_path / "mine.awl.json", Plan(name="Mine"))
    gate.set()
    qtbot.waitUntil(lambda: len(closed) == 2, timeout=5_000)
    assert bench.plan.name == "Mine"
    bench.jobs.close()


def test_the_first_window_loads_no_more_than_it_needs():
    slow = (
        "{'logging', 'typing_extensions', 'hashlib', 'subprocess', 'json', 'numpy', 'scipy', 'serial', 'PIL', 'simpy'}"
    )
    code = (
        "import sys\nfrom umbra_awl.desk.app import application, build\nfrom umbra_awl.desk.settings import Settings\n"
    )
    code += "app = application()\nw = build(app, Settings())\nw.show()\napp.processEvents()\n"
    code += f"assert not {slow} & set(sys.modules), {slow} & set(sys.modules)"
    subprocess.run([sys.executable, "-c", code], check=True)
