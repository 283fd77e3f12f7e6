"""A window on a fresh demo, results computed at once; nothing may be left running after a test."""

import gc
import shutil
import threading
from pathlib import Path
from types import MappingProxyType

import pytest
from PyQt6 import sip
from PyQt6.QtWidgets import QApplication

from tests.days import TODAY
from umbra_awl.demo.fresh import lay_out
from umbra_awl.desk.app import STYLE, build, set_demo_ports
from umbra_awl.desk.frame.window import MainWindow
from umbra_awl.desk.settings import Settings

MANY = 150
"""So many widgets without a window are in cycles that the quick collection does not see."""


@pytest.fixture(scope="session")
def qapp_args():
    return ["umbra-awl", *STYLE]


@pytest.fixture(scope="session")
def laid_out(tmp_path_factory):
    """A demo that is laid out once, for copies of it."""
    return lay_out(tmp_path_factory.mktemp("laid-out") / "demo", TODAY)


@pytest.fixture
def demo(laid_out, tmp_path):
    old, new = laid_out.plan.parent, tmp_path / "demo"
    shutil.copytree(old, new)

    def moved(radios):
        return {
            key: tuple(new / item.relative_to(old) if isinstance(item, Path) else item for item in row)
            for key, row in radios.items()
        }

    return laid_out._replace(
        plan=new / laid_out.plan.relative_to(old),
        radios=moved(laid_out.radios),
        directory=new / laid_out.directory.relative_to(old),
        cards=MappingProxyType(moved(laid_out.cards)),
    )


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
    made = built(qapp, directory)
    qtbot.waitUntil(made.isActiveWindow)
    yield made
    made.runner.cancel()
    qtbot.waitUntil(lambda: not made.runner.running, timeout=10_000)
    let_go(made)


def built(qapp, directory):
    made = build(qapp, Settings(), synchronous=True, directory=directory)
    made.theme.choose("light")
    made.resize(1280, 800)
    made.show()
    made.activateWindow()
    return made


def let_go(made):
    made.close()
    assert not [thread for thread in threading.enumerate() if thread.name.startswith("results")]
    for window in (made, *(other for other in QApplication.topLevelWidgets() if isinstance(other, MainWindow))):
        if not sip.isdeleted(window):
            sip.delete(window)  # a window that lingers is polished anew with every later one
    gc.collect(1)  # its own collector has gone with it
    if len(QApplication.allWidgets()) > MANY:
        gc.unfreeze()
        gc.collect()


@pytest.fixture
def window(empty_window, demo):
    open_demo(empty_window, demo)
    return empty_window


def open_demo(window, demo):
    window.plans.open(demo.plan)
    set_demo_ports(window, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
