"""The menu under the pointer is about the thing there; tables are sorted, widened and remember it; all of one is copied."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QContextMenuEvent
from PyQt6.QtWidgets import QApplication, QMenu

from umbra_awl.desk.access.chart.map import AccessMap
from umbra_awl.desk.app import build
from umbra_awl.desk.frame.judged.finding_line import FindingLine
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.parts.pointed import acts_of
from umbra_awl.desk.parts.rows_table import RowsTable, natural
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme


def words_of(widget, at):
    return {act.words: act for act in acts_of(widget, widget.mapToGlobal(at))}


def place_of(sheet, cell):
    """Where a cell of the sheet lies, in its viewport."""
    grid, sizes = sheet.sheet, sheet.sheet.sizes
    x = (
        sizes.left
        + (cell.column + (0.7 if cell.slot == 2 else 0.3)) * sizes.column
        - sheet.horizontalScrollBar().value()
    )
    y = sizes.head + grid.tops[cell.row] + sizes.row / 2 - sheet.verticalScrollBar().value()
    return QPoint(int(x), int(y))


def test_a_crossing_under_the_pointer_is_taken_in_hand_and_punched(demo_window):
    demo_window.stages.open("routes", "sheet")
    bench, sheet = demo_window.bench, demo_window.stages["routes"].sheet
    bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    at = place_of(sheet, sheet.cursor_cell)
    bench.select(Selection())
    acts = words_of(sheet.viewport(), at)
    assert (bench.selection.service, bench.selection.destination) == ("blackfell-dmr", "isles-wide")
    before = len(bench.plan.routes)
    acts["Take it out"].do()
    assert len(bench.plan.routes) == before - 1
    words_of(sheet.viewport(), at)["Punch it"].do()
    assert len(bench.plan.routes) == before
    words_of(sheet.viewport(), at)["Trace it"].do()
    assert demo_window.stages["routes"].pages.name == "trace"


def test_many_crossings_stay_in_hand_under_the_pointer(demo_window):
    demo_window.stages.open("routes", "sheet")
    bench, sheet = demo_window.bench, demo_window.stages["routes"].sheet
    sheet.select_shown()
    many = bench.selection.many
    acts = words_of(sheet.viewport(), place_of(sheet, sheet.cursor_cell))
    assert bench.selection.many == many
    acts["Take these out"].do()
    assert len(bench.plan.routes) < 3


def test_a_finding_is_repaired_shown_put_aside_and_copied_from_its_menu(demo_window):
    line = demo_window.findChildren(FindingLine)[0]
    acts = words_of(line.head, QPoint(5, 5))
    assert line.finding.repair.label in acts
    acts["Copy the finding"].do()
    assert line.finding.text in QApplication.clipboard().text()
    before = demo_window.bench.plan
    acts[line.finding.repair.label].do()
    assert demo_window.bench.plan is not before


def test_the_map_offers_to_look_around_from_there(demo_window):
    demo_window.stages.open("access", "around")
    (chart,) = demo_window.stages["access"].findChildren(AccessMap)
    asked = []
    chart.place_asked.connect(asked.append)
    for x in range(10, chart.width(), 40):
        acts = words_of(chart, QPoint(x, 12))
        if "Look around from here" in acts:
            acts["Look around from here"].do()
            break
    assert len(asked) == 1


def test_the_menu_key_is_about_what_has_the_keyboard(demo_window, monkeypatch):
    demo_window.stages.open("log", "entries")
    table = demo_window.stages["log"].entries.table
    table.setFocus()
    menus = []
    monkeypatch.setattr(QMenu, "popup", lambda menu, *_at: menus.append([item.text() for item in menu.actions()]))
    at = demo_window.rect().center()
    event = QContextMenuEvent(QContextMenuEvent.Reason.Keyboard, at, demo_window.mapToGlobal(at))
    QApplication.sendEvent(demo_window, event)
    assert menus
    if table.model().rowCount():
        assert "Copy the whole table" in menus[0]


@pytest.fixture
def table(qtbot, qapp):
    made = RowsTable(Theme(qapp), "A table of the tests")
    qtbot.addWidget(made)
    made.resize(400, 300)
    made.show_rows(("Name", "MHz"), [("b", "438.6125"), ("a", "99.5"), ("c", "")], ("stop", "", ""))
    return made


def test_a_table_is_sorted_by_its_numbers_and_still_tells_the_rows_as_given(table):
    chosen = []
    table.chosen.connect(chosen.append)
    table.choose(0)
    table.sort_column(1)
    assert [table.text(at, 0) for at in range(3)] == ["a", "b", "c"]
    assert table.row_now == 0
    table.setCurrentIndex(table.texts.index(0, 0))
    assert chosen[-1] == 1
    table.sort_column(1)
    assert [table.text(at, 0) for at in range(3)] == ["c", "b", "a"]
    table.sort_column(1)
    assert [table.text(at, 0) for at in range(3)] == ["b", "a", "c"]
    assert table.texts.data(table.texts.index(0, 0), Qt.ItemDataRole.ForegroundRole) is not None


def test_numbers_come_before_words_and_empty_cells_last():
    assert sorted(["b", "", "10 km", "−3", "2,5"], key=natural) == ["−3", "2,5", "10 km", "b", ""]


@pytest.mark.parametrize("leaves", [True, False])
def test_how_columns_are_liked_comes_back_in_the_next_run(qtbot, qapp, tmp_path, monkeypatch, leaves):
    path = tmp_path / "window.json"
    first = build(qapp, Settings(path), synchronous=True)
    qtbot.addWidget(first)
    one = RowsTable(first.theme, "Kept")
    qtbot.addWidget(one)
    one.show_rows(("Name", "MHz"), [("b", "2"), ("a", "10")])
    one.sort_column(0)
    written = []
    monkeypatch.setattr(first.theme.columns, "_changed", written.append, raising=True)
    for wide in range(180, 223):
        one.horizontalHeader().resizeSection(0, wide)
    assert written == []  # a drag is many steps
    monkeypatch.undo()
    if leaves:
        one.show()
        one.hide()
    else:
        qtbot.waitUntil(lambda: dict(first.theme.columns.of("Kept").widths).get("Name") == 222)
    second = build(qapp, Settings(path), synchronous=True)
    qtbot.addWidget(second)
    two = RowsTable(second.theme, "Kept")
    qtbot.addWidget(two)
    two.resize(600, 300)
    two.show_rows(("Name", "MHz"), [("b", "2"), ("a", "10")])
    assert two.text(0, 0) == "a"
    assert two.columnWidth(0) == 222
