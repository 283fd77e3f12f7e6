"""A stand-in ends with whoever started it, however that ended."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

STARTER = """
import sys, time
from pathlib import Path
from umbra_awl.standins.launch import RadioProcess
radio = RadioProcess("tarn16", Path(sys.argv[1]) / "radio.bin", Path(sys.argv[1]) / "radio.port")
print(radio._process.pid, flush=True)
time.sleep(60)
"""


def alive(pid):
    """Whether a process runs; one that has ended and was not waited for does not."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except OSError:
        return False


@pytest.mark.parametrize("how", [signal.SIGKILL, signal.SIGTERM])
def test_a_stand_in_does_not_outlive_its_starter(tmp_path, how):
    starter = subprocess.Popen([sys.executable, "-c", STARTER, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    with starter:
        radio = int(starter.stdout.readline())
        assert alive(radio)
        os.kill(starter.pid, how)
        starter.wait(10)
        until = time.monotonic() + 10
        while alive(radio) and time.monotonic() < until:
            time.sleep(0.02)
    assert not alive(radio)
    assert not (tmp_path / "radio.port").is_symlink(), "it has put its port away"
