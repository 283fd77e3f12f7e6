"""No page of the demo leaves more than a third of its canvas empty, by what is painted; those that may are named, with why."""

import numpy as np
import pytest
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest

from umbra_awl.desk.held.workbench import Selection
from umbra_awl.desk.stages import STAGES

BLOCK = 32
MOST = 1 / 3
TEACHES = "nothing is there yet in the demo: the page teaches and leads on"
OTHER_WAY = "another radio goes this way: the page says so and leads there"
EXCUSED = {
    ("access", "people"): TEACHES,
    ("access", "destinations"): TEACHES,
    ("access", "imports"): "before a list is opened: its preview fills the page",
    ("radios", "people"): OTHER_WAY,
    ("transfer", "lists"): OTHER_WAY,
    ("transfer", "app"): OTHER_WAY,
    ("transfer", "slot"): OTHER_WAY,
    ("transfer", "cable"): "before the radio is read: the change sheet fills the page",
    ("transfer", "keys"): "before the first memory: only what must stand before it",
    ("transfer", "ports"): "before a port is asked: the steps to another firmware fill the page",
    ("transfer", "table"): "one owner in the demo: a seat for each owner fills the page",
    ("transfer", "bring"): "before a file is chosen: the memories fill the page",
    ("log", "entries"): TEACHES,
    ("log", "drills"): "before a drill is begun",
    ("radios", "settings"): "a radio with few settings of its own",
    ("onair", "messages"): "before anything is said: the talk fills the page",
    ("radios", "own"): "seven radios to begin from: more of one's own fill the page",
    ("hotspots", "find"): "before a log is opened",
}  # fmt: skip


def emptiness(widget):
    """The share of a widget's blocks that are plain together with all their neighbours."""
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    bits = image.bits()
    bits.setsize(image.sizeInBytes())
    pixels = np.frombuffer(bits, np.uint32).reshape(image.height(), image.bytesPerLine() // 4)[:, : image.width()]
    rows, columns = pixels.shape[0] // BLOCK, pixels.shape[1] // BLOCK
    blocks = pixels[: rows * BLOCK, : columns * BLOCK].reshape(rows, BLOCK, columns, BLOCK).swapaxes(1, 2)
    blocks = blocks.reshape(rows, columns, -1)
    plain = (blocks == blocks[:, :, :1]).all(axis=2)
    around = np.pad(plain, 1, constant_values=True)
    places = [(down, across) for down in range(3) for across in range(3)]
    return float(np.all([around[d : d + rows, a : a + columns] for d, a in places], axis=0).mean())


@pytest.mark.parametrize("key", ["station", *(pytest.param(key, marks=pytest.mark.night) for key in list(STAGES)[1:])])
def test_a_page_fills_its_canvas(demo_window, key):
    demo_window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    found = {}
    for page in STAGES[key].pages:
        demo_window.stages.open(key, page)
        QTest.qWait(300 if page == "card" else 80)
        found[page] = emptiness(demo_window.canvas.currentWidget())
    told = {page: f"{share:.0%}" for page, share in found.items() if share > MOST and (key, page) not in EXCUSED}
    assert not told


def test_the_measure_sees_an_empty_and_a_full_page(demo_window):
    from PyQt6.QtWidgets import QLabel

    empty = QLabel()
    empty.resize(600, 400)
    assert emptiness(empty) == 1
    demo_window.stages.open("station", "me")
    QTest.qWait(80)
    assert emptiness(demo_window.canvas.currentWidget()) < 0.1


def test_every_excuse_is_of_a_page_that_is_there():
    assert {(key, page) for key, page in EXCUSED} <= {
        (key, page) for key, entry in STAGES.items() for page in entry.pages
    }
