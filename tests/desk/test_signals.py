"""Asked to end by the system, the window closes as by its own button: exit code 0, the edits in the journal, no lock left."""

import os
import signal
import subprocess
import sys
import time

import pytest

from umbra_awl.core.plan.file_form import plan_bytes
from umbra_awl.core.plan.store import Document


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
    document = Document.open(file)  # raises where the plan is still locked
    assert document.plan == plan
    document.close()
