"""From a messy directory file to trusted access points and a route, without typing a frequency; then a newer file."""

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

NASTY = Path(__file__).parents[1] / "data" / "nasty.csv"
CTRL = Qt.KeyboardModifier.ControlModifier


def idle(qtbot, directory):
    qtbot.waitUntil(lambda: not directory.tasks.work, timeout=20_000)
    QTest.qWait(20)


def bring(qtbot, stage, path):
    """Open a file, compare, take: with Enter on the buttons that have the focus or are the filled ones."""
    stage.imports.open(path)
    stage.imports.mapping._go.setFocus()
    qtbot.keyClick(stage.imports.mapping._go, Qt.Key.Key_Space)
    idle(qtbot, stage.directory)
    stage.imports.review._take.setFocus()
    qtbot.keyClick(stage.imports.review._take, Qt.Key.Key_Space)
    idle(qtbot, stage.directory)


def access_of(window, call):
    return next(item for item in window.bench.plan.access if item.call == call)


@pytest.mark.journey
def test_from_a_nasty_file_to_a_route_and_a_newer_file(qtbot, empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "mine.awl.json")
    window.stages.open("station")
    station = window.stages["station"]
    station.show_page("place")
    station.place.card.edit("Position")
    QTest.keyClicks(station.place.card._editing, "46 28 N 31 07 W")
    qtbot.keyClick(station.place.card._editing, Qt.Key.Key_Return)
    qtbot.keyClick(window, Qt.Key.Key_2, CTRL)
    stage = window.stages["access"]
    bring(qtbot, stage, NASTY)
    assert "8 new" in window.message.text()
    stage.show_page("around")
    calls = [spot.access.call for spot in stage.directory.survey.spots]
    assert calls[0] == "Q0HAR"
    assert len(calls) == 8

    # the wrong sign is mended from its verdict, then taken: the plan never sees the wrong one
    stage.take_focus()
    while stage.list.selected()[:1] == [] or stage.list.selected()[0].access.call != "Q0NES":
        qtbot.keyClick(stage.list, Qt.Key.Key_Down)
    assert stage.list.selected()[0].doubts[0].mend.label == "Swap the sign: 431.1875"
    stage.around.detail.repair_first()
    assert "kept as your own edit" in window.message.text()
    qtbot.keyClick(stage.list, Qt.Key.Key_Return)
    assert access_of(window, "Q0NES").services[0].tx_hz == 431_187_500
    stage.list.choose(next(spot.key for spot in stage.directory.survey.spots if spot.access.call == "Q0BLK"))
    qtbot.keyClick(stage.list, Qt.Key.Key_Return)
    assert [network.name for network in window.bench.plan.networks] == ["Lattice"]

    # a destination, and a hole in the sheet
    groups = tmp_path / "groups.csv"
    groups.write_text("network,number,name\nLattice,99900,Isles-wide\n", "utf-8")
    stage.imports.open(groups)
    stage.imports.mapping.go()
    idle(qtbot, stage.directory)
    stage.show_page("destinations")
    stage.targets.view.selectAll()
    stage.targets.take()
    qtbot.keyClick(window, Qt.Key.Key_3, CTRL)
    from umbra_awl.desk.held.selection import Selection

    window.bench.select(Selection("cairnlow-dmr", "isles-wide", 1))
    window.stages["routes"].sheet.setFocus()
    qtbot.keyClick(window.stages["routes"].sheet, Qt.Key.Key_Space)
    assert [route.key for route in window.bench.plan.routes] == ["cairnlow-dmr>isles-wide@1"]
    assert not [item for item in window.bench.worked.results.findings if item.rule.name == "out-of-band"]

    # a newer file: the private edit wins, what is used in the plan is marked
    newer = tmp_path / "nasty-newer.csv"
    text = NASTY.read_text("latin-1").replace("CC2;46,61", "CC3;46,61").replace("Q0OSS;", "Q0OSX;")
    newer.write_bytes(text.encode("latin-1"))
    qtbot.keyClick(window, Qt.Key.Key_2, CTRL)
    stage.show_page("imports")
    stage.imports.open(newer)
    stage.imports.mapping.source.setText("nasty")
    stage.imports.mapping.go()
    idle(qtbot, stage.directory)
    review = stage.imports.review
    first = review.lines.items[0]
    assert first.change.label == "Q0NES Cairnlow"
    assert review.lines.change_words(first).startswith("in the plan; yours stays: DMR input")
    assert {line.change.kind for line in review.lines.items} == {"changed", "vanished", "added", "same"}
    review.take()
    idle(qtbot, stage.directory)
    entry = stage.directory.store.entry("nasty/Q0NES/cairnlow")
    assert (entry.access.services[0].tx_hz, entry.access.services[0].air.color_code) == (431_187_500, 3)

    # undo everything of the plan, and the import
    for _step in range(20):
        window.bench.steps.back()
    assert window.bench.plan.access == ()
    stage.imports.undo_selected()
    idle(qtbot, stage.directory)
    assert stage.directory.store.entry("nasty/Q0NES/cairnlow").access.services[0].air.color_code == 2


@pytest.mark.journey
def test_the_keyboard_alone_finds_its_way(qtbot, window, demo):
    window._directory_path = demo.directory
    qtbot.keyClick(window, Qt.Key.Key_2, CTRL)
    stage = window.stages["access"]
    assert stage.list.hasFocus()
    qtbot.keyClick(stage.list, Qt.Key.Key_Down)
    assert stage.around.detail._title.text() != "Nothing selected"
    seen = []
    for _time in range(4):
        qtbot.keyClick(window, Qt.Key.Key_F6)
        seen.append(window.focusWidget())
    assert len({id(widget) for widget in seen}) >= 3
    stage.around.map.setFocus()
    for key in (Qt.Key.Key_N, Qt.Key.Key_N):
        qtbot.keyClick(stage.around.map, key)
    before = len(window.bench.plan.access)
    stage.list.choose(next(spot.key for spot in stage.directory.survey.spots if spot.access.call == "Q0OLD"))
    qtbot.keyClick(stage.around.map, Qt.Key.Key_Return)
    assert len(window.bench.plan.access) == before + 1
    finder = window.top.finder
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(finder, "trips")
    qtbot.keyClick(finder, Qt.Key.Key_Return)
    assert stage.pages.name == "trips"
