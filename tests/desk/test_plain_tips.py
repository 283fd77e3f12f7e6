"""Values are shown as they stand: nothing that an operator or a file gave is read as markup, in tips, labels, menus or lists."""

import re
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6 import sip
from PyQt6.QtCore import QAbstractListModel, Qt
from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QAbstractItemView, QApplication, QLabel, QTextEdit, QToolTip, QWidget

import umbra_awl.desk
from tests.days import TODAY
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Silence
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.desk.held.workbench import Selection
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.tips import plain, show_tip

MARK = '<b>MARKUP</b><img src="file:///nowhere.png">'


def marked(plan):
    """The demo with markup in every text that it shows."""

    def named(items, *fields):
        return tuple(replace(item, **{field: MARK + str(getattr(item, field)) for field in fields}) for item in items)

    station = replace(plan.station, place=MARK, identities=named(plan.station.identities, "name", "startup", "alias"))
    return replace(
        plan,
        name=MARK,
        station=replace(station, licence=replace(station.licence, step=MARK)),
        access=named(plan.access, "site", "place", "note"),
        destinations=named(plan.destinations, "name"),
        radios=named(plan.radios, "name"),
        zones=named(plan.zones, "name"),
        scans=named(plan.scans, "name"),
        networks=named(plan.networks, "name", "master"),
        steps=named(plan.steps, "name", "needs"),
        trips=named(plan.trips, "name"),
        routes=tuple(replace(item, name=f"{MARK}{at}") if at % 3 == 0 else item for at, item in enumerate(plan.routes)),
        silenced=(Silence("offset", "service", "blackfell-dmr", reason=MARK),),
    )


def rich(text):
    """Whether the toolkit would read a text that holds the mark as markup (its own rule, told by what a label does)."""
    return "MARKUP" in text and Qt.mightBeRichText(text)


def read_as_markup():
    """Everything now in memory that would show the mark as markup."""
    for widget in QApplication.allWidgets():
        if isinstance(widget, QLabel) and widget.textFormat() != Qt.TextFormat.PlainText and rich(widget.text()):
            yield f"label in {type(widget.parent()).__name__}"
        if rich(widget.toolTip()):
            yield f"tip of {type(widget).__name__}"
        for action in [
            *widget.actions(),
            *widget.findChildren(QAction, options=Qt.FindChildOption.FindDirectChildrenOnly),
        ]:
            if rich(action.toolTip()):
                yield f"tip of an action of {type(widget).__name__}"
        if isinstance(widget, QTextEdit) and "<b>MARKUP" in widget.toHtml():
            yield f"text of {type(widget).__name__}"
        if isinstance(widget, QAbstractItemView) and widget.model() is not None:
            yield from _items(widget.model())


def _items(model):
    columns = 1 if isinstance(model, QAbstractListModel) else min(8, model.columnCount())
    for row in range(min(30, model.rowCount())):
        for column in range(columns):
            tip = model.data(model.index(row, column), Qt.ItemDataRole.ToolTipRole)
            if isinstance(tip, str) and rich(tip):
                yield f"item of {type(model).__name__}"
    for section in range(min(30, columns)):
        tip = model.headerData(section, Qt.Orientation.Horizontal, Qt.ItemDataRole.ToolTipRole)
        if isinstance(tip, str) and rich(tip):
            yield f"header of {type(model).__name__}"


def test_no_value_of_a_plan_is_read_as_markup_on_any_page(window, qtbot, tmp_path):
    path = tmp_path / "marked.awl.json"
    path.write_bytes(plan_bytes(marked(demo_plan(TODAY))))
    window.plans.open(path)
    found = set()
    for stage in ("station", "access", "routes", "radios", "transfer"):
        window.stages.open(stage)
        if stage == "routes":
            for route in window.bench.plan.routes[:8]:
                window.bench.select(Selection(route.service, route.destination, route.slot))
                found |= {f"{stage}: {item}" for item in read_as_markup()}
        for choice in [item for tabs in window.findChildren(Tabs) for item in tabs.buttons if item.isVisible()]:
            if not sip.isdeleted(choice):
                choice.click()
            qtbot.wait(1)
            found |= {f"{stage}: {item}" for item in read_as_markup()}
    window.bench.do(rename_plan(f"{MARK}2"))
    found |= {f"undo: {item}" for item in read_as_markup()}
    assert found == set()


@pytest.mark.parametrize(
    "text", [MARK, "a <b>x</b>", "&lt;b&gt;", "<!doctype html>", "\n<i>", "plain & simple", "1 < 2"]
)
def test_a_tip_is_shown_letter_by_letter(text, qtbot):
    assert not Qt.mightBeRichText(plain(text))
    assert plain(text).replace("\u2060", "") == text
    parent = QWidget()
    qtbot.addWidget(parent)
    parent.show()
    show_tip(parent.mapToGlobal(parent.rect().center()), text, parent)
    assert not Qt.mightBeRichText(QToolTip.text())


def test_every_tip_of_the_window_goes_the_plain_way():
    """Whoever adds a tip uses the one way that keeps it plain."""
    desk = Path(umbra_awl.desk.__file__).parent
    for path in desk.rglob("*.py"):
        text = path.read_text("utf-8")
        if path.name == "tips.py":
            continue
        assert not re.search(r"\.setToolTip\(|QToolTip\.showText\(|setWhatsThis\(|setHtml\(", text), path
        if "ToolTipRole" in text:
            assert "plain(" in text, path
        labels = re.findall(r"QLabel\((?!\)|\")", text)
        assert not labels or path.name == "widgets.py", path
