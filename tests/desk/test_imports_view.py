"""The imports page: columns to correct, review before taking, undo, services; every bad file said in a sentence."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton

from umbra_awl.core.directory.lists.layout import parse_layout
from umbra_awl.core.directory.taking import take_entries
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.standins.launch import RegistryProcess

OLD = "call;site;mhz;offset\nQ0AAA;Hill;145.7125;-0.6\nQ0BBB;Cairn;438.7875;+7.6\n"
NEW = "call;site;mhz;offset\nQ0AAA;Hill;145.7250;-0.6\nQ0CCC;Quay;439.25;-7.6\n"
CHANGED_TOO = "confirmed 2025-05-20 → 2026-10-11; remark none → Color code changed"


@pytest.fixture
def stage(window, demo):
    window._directory_path = demo.directory
    window.stages.open("access")
    window.stages["access"].show_page("imports")
    return window.stages["access"]


@pytest.fixture
def files(tmp_path):
    (tmp_path / "club.csv").write_text(OLD, "utf-8")
    (tmp_path / "club-newer.csv").write_text(NEW, "utf-8")
    return tmp_path


def idle(qtbot, stage):
    qtbot.waitUntil(lambda: not stage.directory.tasks.work, timeout=20_000)
    QTest.qWait(10)


def go(qtbot, stage, path, what=None):
    stage.imports.open(path, what)
    stage.imports.mapping.go()
    idle(qtbot, stage)
    return stage.imports.review


def take(qtbot, stage, path):
    review = go(qtbot, stage, path)
    review.take()
    idle(qtbot, stage)


def press(qtbot, widget, text):
    QTest.qWait(10)
    made = next(item for item in widget.findChildren(QAbstractButton) if item.text() == text and item.isVisible())
    qtbot.mouseClick(made, Qt.MouseButton.LeftButton)


def column_of(mapping, field):
    return next(box for box in mapping.boxes if box.currentData() == field)


def test_columns_are_shown_beside_sample_rows_and_corrected(qtbot, stage, files):
    stage.imports.open(files / "club.csv")
    mapping = stage.imports.mapping
    assert [box.currentData() for box in mapping.boxes] == ["call", "site", "rx", "offset"]
    assert mapping.grid.item(1, 2).text() == "145.7125"
    assert "CSV, semicolon, utf-8" in mapping._lead.text()
    box = column_of(mapping, "rx")
    box.setCurrentIndex(0)
    assert "No column is chosen for Output" in mapping.fault.text()
    assert not mapping._go.isEnabled()
    box.setCurrentIndex(box.findData("site"))
    assert "Two columns are chosen for Site" in mapping.fault.text()
    box.setCurrentIndex(box.findData("rx"))
    mapping.offset.setText("about seven")
    mapping.go()
    assert "is not an offset" in mapping.fault.text()
    mapping.offset.setText("-7,6")
    assert mapping.layout_now().offset_70cm_mhz == 7.6


def test_a_named_layout_is_kept_and_used_for_the_next_file(qtbot, stage, files):
    stage.imports.open(files / "club.csv")
    mapping = stage.imports.mapping
    mapping.name.setText("Club list")
    box = column_of(mapping, "site")
    box.setCurrentIndex(box.findData("place"))
    mapping.go()
    idle(qtbot, stage)
    kept = parse_layout((stage.directory.folder / "layouts" / "club-list.toml").read_text("utf-8"))
    assert kept.columns["place"] == "site"
    stage.imports.open(files / "club-newer.csv")
    assert "The kept layout “Club list” fits" in mapping._lead.text()
    assert column_of(mapping, "place") is not None


def test_a_newer_directory_is_merged_and_undone(qtbot, stage, files, window):
    take(qtbot, stage, files / "club.csv")
    directory = stage.directory
    key = next(entry.key for entry in directory.store.all_entries() if entry.access.call == "Q0AAA")
    directory.own.set_private(key, "site", "My hill")
    review = go(qtbot, stage, files / "club-newer.csv")
    assert stage.imports.mapping.source.text() == "club"
    assert [(line.change.kind, line.change.label) for line in review.lines.items] == [
        ("changed", "Q0AAA Hill"),
        ("vanished", "Q0BBB Cairn"),
        ("added", "Q0CCC Quay"),
    ]
    words = review.lines.change_words(review.lines.items[0])
    assert words == "yours stays: site; FM output 145.7125 → 145.7250; FM input 145.1125 → 145.1250"
    assert directory.store.entry(key).access.services[0].rx_hz == 145_712_500  # nothing taken yet
    review.take()
    idle(qtbot, stage)
    entry = directory.store.entry(key)
    assert (entry.access.site, entry.access.services[0].rx_hz) == ("My hill", 145_725_000)
    assert "1 new, 1 changed" in window.message.text()
    stage.imports.batches_view.selectRow(0)
    press(qtbot, stage.imports, "Undo the selected import")
    idle(qtbot, stage)
    assert directory.store.entry(key).access.services[0].rx_hz == 145_712_500
    assert "Undone" in window.message.text()
    assert [batch.undone for batch in directory.store.batches()][:2] == [1, 0]


def test_own_edits_are_given_up_only_when_asked(qtbot, stage, files):
    take(qtbot, stage, files / "club.csv")
    key = next(entry.key for entry in stage.directory.store.all_entries() if entry.access.call == "Q0AAA")
    stage.directory.own.set_private(key, "site", "My hill")
    review = go(qtbot, stage, files / "club-newer.csv")
    assert not review.lines.give_up
    press(qtbot, review, "Take the list's values")
    assert "the list's values are taken" in review.lines.change_words(review.lines.items[0])
    review.take()
    idle(qtbot, stage)
    assert stage.directory.store.entry(key).access.site == "Hill"


def test_entries_used_in_the_plan_are_marked_first(qtbot, stage, demo):
    review = go(qtbot, stage, demo.plan.parent / "velmar-directory-newer.csv")
    said = [(line.change.label, review.lines.change_words(line)) for line in review.lines.items]
    assert said[:4] == [
        ("Q0NES Cairnlow", f"in the plan; DMR color code 2 → 3; {CHANGED_TOO}"),
        ("Q0HAR Harrowquay", "in the plan; no longer listed"),
        ("Q0OSS Little Oss", "in the plan; no longer listed"),
        ("Q0QUA Quayside", ""),
    ]
    assert {text.removeprefix("in the plan; ") for _label, text in said[4:]} == {"as before"}


def test_the_report_is_shown_and_saved(qtbot, stage, tmp_path, window):
    (tmp_path / "bad.csv").write_text(
        "call,site,mhz,offset\nQ0AAA,Hill,145.7125,-0.6\nQ0BBB,Cairn,high,\n,,145.7,\n", "utf-8"
    )
    review = go(qtbot, stage, tmp_path / "bad.csv", "access")
    assert review._report_title.text() == "3 rows read, 2 mended, 2 refused"
    review.export(FilePlace(tmp_path / "report.csv"))
    assert "is not a frequency" in (tmp_path / "report.csv").read_text("utf-8")
    review.export(FilePlace(tmp_path / "no" / "report.csv"))
    assert "cannot be written" in window.message.text()


def test_going_back_leaves_everything(qtbot, stage, files):
    review = go(qtbot, stage, files / "club.csv")
    press(qtbot, review, "Back")
    assert stage.imports.currentWidget() is stage.imports.mapping
    press(qtbot, stage.imports.mapping, "Back")
    assert stage.imports.currentIndex() == 0
    assert [batch.file for batch in stage.directory.store.batches()] == ["velmar-directory.csv"]


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "is empty"),
        (b"\0\1\2\3" * 50, "is not text"),
        (b"<html></html>", "is a page"),
        (b"x" * 3_000_000, "longer than"),
    ],
)
def test_bad_files_are_said_and_change_nothing(stage, window, tmp_path, data, words):
    (tmp_path / "bad.csv").write_bytes(data)
    stage.imports.open(tmp_path / "bad.csv")
    assert words in window.message.text()
    assert stage.imports.currentIndex() == 0


def test_stopping_an_import_takes_nothing(qtbot, stage, window, tmp_path):
    rows = "".join(f"Q0AAA,Site {at},145.7125,-0.6\n" for at in range(20_000))
    (tmp_path / "long.csv").write_text(f"call,site,mhz,offset\n{rows}", "utf-8")
    stage.imports.open(tmp_path / "long.csv")
    stage.imports.mapping.go()
    assert stage.directory.tasks.work.startswith("Reading")
    stage.imports.mapping.go()
    assert "Wait for it, or stop it" in window.message.text()
    stage.directory.tasks.stop()
    idle(qtbot, stage)
    assert "was stopped; nothing was taken" in window.message.text()


def test_a_file_is_fetched_from_a_service_after_a_cut(qtbot, stage, window):
    with RegistryProcess(access=40, people=3_000, faults=["cut@60000"]) as service:
        stage.imports.address.setText(service.address)
        press(qtbot, stage.imports, "Ask what it offers")
        idle(qtbot, stage)
        fetches = [item for item in stage.imports.findChildren(QAbstractButton) if item.text() == "Fetch"]
        assert len(fetches) == 3
        qtbot.mouseClick(fetches[1], Qt.MouseButton.LeftButton)
        idle(qtbot, stage)
        assert "try again to go on from there" in window.message.text()
        qtbot.mouseClick(fetches[1], Qt.MouseButton.LeftButton)
        idle(qtbot, stage)
    mapping = stage.imports.mapping
    assert stage.imports.currentWidget() is mapping
    assert mapping.what.currentData() == "people"
    mapping.go()
    idle(qtbot, stage)
    assert stage.directory.store.counts()["people"] > 2_900
    stage.imports.services.ask_service()
    idle(qtbot, stage)
    assert "does not answer" in window.message.text()
    assert window.settings.kept.service == service.address


def test_undo_without_any_import(qtbot, empty_window, tmp_path):
    empty_window.plans.new(tmp_path / "new.awl.json")
    empty_window.stages.open("access")
    stage = empty_window.stages["access"]
    stage.show_page("imports")
    stage.imports.undo_selected()
    assert "no import to undo" in empty_window.message.text()


def test_a_file_that_goes_away_is_said(qtbot, stage, files, window):
    stage.imports.open(files / "club.csv")
    (files / "club.csv").unlink()
    stage.imports.mapping.go()
    qtbot.waitUntil(lambda: "cannot be read any more" in window.message.text())
    stage.imports.mapping.what.setCurrentIndex(0)
    stage.imports.mapping.go()
    idle(qtbot, stage)
    assert "cannot be read any more" in window.message.text()
    assert [batch.file for batch in stage.directory.store.batches()] == ["velmar-directory.csv"]


def test_what_a_newer_file_changes_of_the_plan_is_found_there_and_taken(qtbot, window, stage, files):
    take(qtbot, stage, files / "club.csv")
    entry = next(item for item in stage.directory.store.all_entries() if item.access.call == "Q0AAA")
    edit, _haul, _keys = take_entries(window.bench.plan, [entry])
    assert window.bench.do(edit)

    def found():
        return [item for item in window.bench.worked.results.findings if item.rule.name == "entry-changed"]

    idle(qtbot, stage)
    assert not found()
    (files / "club.csv").write_text(NEW, "utf-8")
    take(qtbot, stage, files / "club.csv")
    qtbot.waitUntil(lambda: bool(found()), timeout=10_000)
    assert found()[0].text == "The directory has Q0AAA FM with output 145.7250, input 145.1250 now."
    assert window.bench.do(found()[0].repair.edit)
    hill = next(item for item in window.bench.plan.access if item.call == "Q0AAA")
    assert hill.services[0].rx_hz == 145_725_000
    qtbot.waitUntil(lambda: not found(), timeout=10_000)


def test_a_column_that_looks_like_ours_and_is_not_used_is_told_while_columns_are_chosen(stage, tmp_path):
    path = tmp_path / "odd.csv"
    path.write_text("call;mhz;shift;Position\nQ0AAA;145.7125;-0.6;46\nQ0BBB;145.7250;-0.6;31\n", "utf-8")
    stage.imports.open(path)
    assert "“Position” is not used; it looks like “Position”" in stage.imports.mapping.fault.text()
    assert stage.imports.mapping._go.isEnabled()


LINES = (
    "call;site;mhz;offset;mode;lat;lon;confirmed\nQ0AAA;Hill;438.8250;-7.6;DMR;46.48;-31.12;{today}\n"
    "Q0BBB;Cairn;438.7500;+7.6;DMR;46.46;-31.10;{today}\nQ0CCC;Far;439.1000;-7.6;FM;48.1;-29.9;{today}\n"
)


@pytest.fixture
def lines(qtbot, stage, window, tmp_path):
    path = tmp_path / "lines.csv"
    path.write_text(LINES.format(today=window.bench.clock.today().isoformat()), "utf-8")
    return go(qtbot, stage, path)


def shown_row(review, call):
    row = next(at for at, line in enumerate(review.lines.items) if line.change.label.startswith(call))
    review.lines_view.setCurrentIndex(review.lines.index(row, 1))
    return row


def test_every_line_says_what_it_is_on_the_air_and_what_is_doubtful(lines):
    row = shown_row(lines, "Q0BBB")
    cells = [lines.lines.data(lines.lines.index(row, at)) for at in range(1, 8)]
    assert cells[:3] == ["Q0BBB", "Cairn", "438.7500"]
    assert cells[3] == "446.3500 +7.6000"
    assert cells[4].startswith("DMR")
    assert cells[5].endswith(("km", "mi"))
    assert "out of band" in cells[6]
    assert lines._add.text() == "Add 1 to the plan"


def test_ticked_lines_go_into_the_plan_with_their_repairs_and_network_in_one_step(qtbot, stage, window, lines):
    shown_row(lines, "Q0BBB")
    press(qtbot, lines, "Swap the sign: 431.1500")
    assert lines._add.text() == "Add 2 to the plan"
    row = shown_row(lines, "Q0CCC")
    qtbot.keyClick(lines.lines_view, Qt.Key.Key_Space)
    assert lines.lines.data(lines.lines.index(row, 0), Qt.ItemDataRole.CheckStateRole) == Qt.CheckState.Checked
    qtbot.keyClick(lines.lines_view, Qt.Key.Key_Space)
    assert lines.networks.chosen() == {"dmr": "Lattice"}
    before = window.bench.plan
    qtbot.mouseClick(lines._add, Qt.MouseButton.LeftButton)
    idle(qtbot, stage)
    added = [item for item in window.bench.plan.access if item not in before.access]
    assert [(item.call, item.services[0].tx_hz, item.services[0].air.network) for item in added] == [
        ("Q0AAA", 431_225_000, "lattice"),
        ("Q0BBB", 431_150_000, "lattice"),
    ]
    assert {"Q0AAA", "Q0BBB", "Q0CCC"} <= {item.access.call for item in stage.directory.store.all_entries()}
    window.bench.steps.back()
    assert window.bench.plan.access == before.access


def test_a_list_may_be_kept_without_touching_the_plan(qtbot, stage, window, lines):
    before = window.bench.plan
    press(qtbot, lines, "Keep in the directory")
    idle(qtbot, stage)
    assert window.bench.plan is before
    assert any(item.access.call == "Q0AAA" for item in stage.directory.store.all_entries())


def test_a_list_from_a_message_is_pasted_and_judged(qtbot, demo_window):
    from PyQt6.QtWidgets import QApplication

    demo_window.stages.open("access", "imports")
    imports = demo_window.stages["access"].imports
    clipboard = QApplication.clipboard()
    clipboard.setText("Good evening to all")
    imports.paste()
    assert "Nothing pasted is a list" in demo_window.message.text()
    clipboard.setText("Q0XYA Fell top 145.7375 -0.6 tone 88.5 HM86\nQ0XYB Quay 438.9125 -7.6 DMR CC3 HM86")
    imports.batches_view.setFocus()
    qtbot.keyClick(imports, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: imports.currentWidget() is imports.mapping, timeout=20_000)
    imports.mapping._go.click()
    qtbot.waitUntil(lambda: imports.currentWidget() is imports.review, timeout=20_000)
    calls = {change.label[:5] for change in imports.review.incoming.changes}
    assert calls == {"Q0XYA", "Q0XYB"}
