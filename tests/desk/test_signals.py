"""Asked to end by the system, the window closes as by its own button: exit code 0, the edits in the journal, no lock left."""

import os
import signal
import subprocess
import sys
import time

import pytest

from tests.days import LOCAL
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.desk.frame.plans.demo_window import launch_demo


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT, signal.SIGHUP])
def test_a_signal_closes_the_window(tmp_path, plan, how):
    file = tmp_path / "p.awl.json"
    file.write_bytes(plan_bytes(plan))
    state = tmp_path / "state"
    places = {f"XDG_{name}_HOME": str(state) for name in ("STATE", "DATA", "CONFIG", "CACHE")}
    environment = {**os.environ, **places, "QT_QPA_PLATFORM": "offscreen"}
    run = subprocess.Popen([sys.executable, "-m", "umbra_awl", str(file)], env=environment, stderr=subprocess.PIPE)
    with run:
        until = time.monotonic() + 30
        while not list(state.rglob("*.log*")) and run.poll() is None and time.monotonic() < until:
            time.sleep(0.05)
        os.kill(run.pid, how)
        assert run.wait(20) == 0, run.stderr.read().decode()
    document = Document.open(file, LOCAL)  # raises where the plan is still locked
    assert document.plan == plan
    document.close()


def test_the_demo_started_from_the_window_runs_and_closes_when_asked(tmp_path, monkeypatch):
    state = tmp_path / "state"
    for name in ("STATE", "DATA", "CONFIG", "CACHE"):
        monkeypatch.setenv(f"XDG_{name}_HOME", str(state))
    monkeypatch.setenv("QT_QPA_PLATFORM", "offscreen")
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    with (tmp_path / "errors").open("w+b") as errors, launch_demo(errors) as run:
        until = time.monotonic() + 40
        while not list(tmp_path.glob("*/*.port")) and run.poll() is None and time.monotonic() < until:
            time.sleep(0.05)
        ports = list(tmp_path.glob("*/*.port"))
        while not list(state.rglob("*.log*")) and run.poll() is None and time.monotonic() < until:
            time.sleep(0.05)
        os.kill(run.pid, signal.SIGTERM)
        assert run.wait(20) == 0, (tmp_path / "errors").read_text()
    assert ports, "its simulated radios are there"
    assert not any(port.is_symlink() for port in ports), "and end with it"
    assert not list(state.rglob("*.awl.json")), "nothing of the demo is among this user's plans"
