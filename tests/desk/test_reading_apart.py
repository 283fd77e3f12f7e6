"""What others made is read away from the interface thread: no method of the desk reads a file itself."""

import ast
from pathlib import Path

import pytest

from umbra_awl import desk
from umbra_awl.core.keep.apart import ApartError
from umbra_awl.desk.jobs import Jobs

READS = set(
    """
    read_within open_regular read_bytes read_text read_plan read_profile read_layout read_pack read_pack_file read_track
    read_settings_file read_settings_layout read_memory_file read_app_file read_ics read_ics_file read_log_file
    read_log_bytes read_csv read_file read_entries_file open_picture calls_in_log_file begun_layout parse_layout
    parse_memory parse_app parse_profile take_sample read_files xlsx_table open_table
    """.split()
)
OWN = {
    ("settings", "__init__"): "the window's own settings, before there is a window",
    ("directory", "coast"): "shipped with the application",
    ("plan_menu", "open_older"): "the plan's own dated saves",
    ("settings_file", "ask_save"): "the settings file that is written over, at most 256 KB",
    ("actions", "ask_make"): "the pack that was made here this moment",
    ("actions", "_own_files"): "one's own files, each at most 256 KB",
    ("actions", "_kept"): "one's own files, each at most 256 KB",
    ("air_job", "_overheard"): "a frame of the data port, at most a few hundred bytes",
}


def read_by_themselves(tree):
    """Methods that read a file in their own body, outside of a function that is handed on."""
    for owner in (node for node in ast.walk(tree) if isinstance(node, ast.ClassDef)):
        for method in (node for node in owner.body if isinstance(node, ast.FunctionDef)):
            waiting = list(method.body)
            while waiting:
                node = waiting.pop()
                if isinstance(node, ast.Lambda | ast.FunctionDef):
                    continue
                if isinstance(node, ast.Call):
                    name = getattr(node.func, "id", getattr(node.func, "attr", ""))
                    if name in READS:
                        yield method.name, name
                waiting.extend(ast.iter_child_nodes(node))


def test_no_method_of_the_desk_reads_a_file_itself():
    found = {
        (path.stem, method): name
        for path in Path(desk.__file__).parent.rglob("*.py")
        for method, name in read_by_themselves(ast.parse(path.read_text()))
    }
    assert not {place: name for place, name in found.items() if place not in OWN}
    assert not OWN.keys() - found.keys(), "excused for nothing"


def test_a_method_that_reads_is_found():
    bad = "class A:\n def b(self, p):\n  if p:\n   self.c = read_plan(p)\n"
    bad += " def ok(self, p):\n  self.jobs.latest(lambda: read_plan(p))"
    assert list(read_by_themselves(ast.parse(bad))) == [("b", "read_plan")]


def slow():
    import time

    time.sleep(60)


def broken(_path):
    raise ValueError("no such thing")


@pytest.fixture
def jobs(qtbot):
    made = Jobs()
    yield made
    made.close()


def test_reading_is_done_in_a_process_that_can_be_stopped(jobs, qtbot, monkeypatch):
    from umbra_awl.core.keep import apart as bounds

    monkeypatch.setattr(bounds.apart, "__kwdefaults__", {"bounds": bounds.Bounds(0.5)})
    failed, done = [], []
    jobs.read("slow", slow, done=done.append, failed=failed.append)
    qtbot.waitUntil(lambda: bool(failed), timeout=20_000)
    assert isinstance(failed[0], ApartError)
    assert not done


def test_a_fault_of_what_is_read_reaches_the_window(jobs, qtbot, tmp_path):
    failed = []
    jobs.read("broken", broken, tmp_path, done=lambda _: None, failed=failed.append)
    qtbot.waitUntil(lambda: bool(failed), timeout=20_000)
    assert str(failed[0]) == "no such thing"
