"""A window on a fresh demo, results computed at once; nothing may be left running after a test."""

import threading

import pytest

from umbra_awl.demo.fresh import lay_out
from umbra_awl.desk.app import STYLE, build, set_demo_ports
from umbra_awl.desk.settings import Settings


@pytest.fixture(scope="session")
def qapp_args():
    return ["umbra-awl", *STYLE]


@pytest.fixture
def demo(tmp_path):
    return lay_out(tmp_path / "demo")


@pytest.fixture
def empty_window(qtbot, qapp, tmp_path):
    yield from opened(qtbot, qapp, tmp_path / "directory" / "directory.sqlite")


@pytest.fixture
def demo_window(qtbot, qapp, demo):
    """A window on the demo with its directory too."""
    for made in opened(qtbot, qapp, demo.directory):
        open_demo(made, demo)
        yield made


def opened(qtbot, qapp, directory):
    made = build(qapp, Settings(), synchronous=True, directory=directory)
    made.theme.choose("light")
    made.resize(1280, 800)
    made.show()
    made.activateWindow()
    qtbot.waitUntil(made.isActiveWindow)
    qtbot.addWidget(made)
    yield made
    made.runner.cancel()
    qtbot.waitUntil(lambda: not made.runner.running, timeout=10_000)
    made.close()
    assert not [thread for thread in threading.enumerate() if thread.name.startswith("results")]


@pytest.fixture
def window(empty_window, demo):
    open_demo(empty_window, demo)
    return empty_window


def open_demo(window, demo):
    window.plans.open(demo.plan)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
