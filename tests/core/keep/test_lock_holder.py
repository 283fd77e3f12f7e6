"""Who holds a locked file is told as far as the system knows it."""

import os
import subprocess
import sys

import pytest

from tests.days import LOCAL
from umbra_awl.core.keep.lock import holder, holder_words, locked
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.errors import StoreError

HOLD = """
import os, sys, time
from pathlib import Path
from umbra_awl.core.keep.clock import RUNNING
from umbra_awl.core.plan.disk.store import Document
held = Document.open(Path(sys.argv[1]), RUNNING.local())
print("held", flush=True)
time.sleep(60)
"""


def test_nobody_holds_a_free_file(tmp_path):
    path = tmp_path / "free"
    path.write_text("x")
    assert holder(path) == holder(tmp_path / "not there") == 0
    handle = locked(path, os.O_RDWR)
    assert holder(path) == os.getpid()
    assert holder_words(path) == "this program already has it open"
    os.close(handle)


def test_a_plan_that_another_process_has_open_says_which(tmp_path, plan):
    path = tmp_path / "p.awl.json"
    path.write_bytes(plan_bytes(plan))
    other = subprocess.Popen([sys.executable, "-c", HOLD, str(path)], stdout=subprocess.PIPE, text=True)
    with other:
        assert other.stdout.readline() == "held\n"
        with pytest.raises(
            StoreError, match=rf"open in another window: process {other.pid} of \S+ has it open, begun on"
        ):
            Document.open(path, LOCAL)
        other.kill()
        other.wait(10)
    Document.open(path, LOCAL).close()
