"""The Log pages in the window: proving by keyboard and mouse, undo, ADIF in and out, wrong input."""

from datetime import timedelta

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.days import MOMENT
from umbra_awl.core.directory.corrections import corrections
from umbra_awl.core.logbook.joining import join, read_file
from umbra_awl.core.logbook.log_file import NAME, LogError, LogFile
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.log import entry_files, proof_page, wrong_sheet
from umbra_awl.desk.parts.saving import FilePlace

ISLES = "blackfell-dmr>isles-wide@2"


@pytest.fixture
def stage(demo_window):
    demo_window.stages.open("log", "proof")
    return demo_window.stages["log"]


@pytest.fixture
def said(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    return told


def take(window, key):
    route = window.bench.index.routes[key]
    window.bench.select(Selection(route.service, route.destination, route.slot))


def on_disk(stage):
    return LogFile(stage.book.file.path).read().entries


def test_a_proof_is_logged_by_keyboard_and_taken_back(demo_window, stage, said):
    page = stage.proof
    take(demo_window, ISLES)
    assert "never tried" in page.map.accessibleName()
    page.card.grade.setCurrentIndex(page.card.grade.findData("answered"))
    QTest.keyClicks(page.card.call, "q9odl")
    QTest.keyClicks(page.card.ber, "0,8 %")
    QTest.keyClicks(page.card.report, "good, a little low")
    QTest.keyClick(page.card.report, Qt.Key.Key_Return)
    (entry,) = on_disk(stage)
    assert (entry.call, entry.ber, entry.grade, entry.route) == ("Q9ODL", 0.8, "answered", ISLES)
    assert entry.stood["color code"] == "6"
    assert "answered on" in page.map.accessibleName()
    assert "1 of" in page.shares.text()
    demo_window.bench.steps.back()
    assert on_disk(stage) == ()
    assert "never tried" in page.map.accessibleName()
    demo_window.bench.steps.again()
    assert len(on_disk(stage)) == 1


def test_two_windows_that_log_in_the_same_second_keep_both(demo_window, stage):
    made = [stage.book.new_entry(ISLES, grade="echo") for _at in range(50)]
    assert len({item.key for item in made}) == 50


def test_what_is_written_after_another_plan_was_opened_is_not_shown_nor_undone_there(
    demo_window, stage, said, tmp_path
):
    entry = stage.book.new_entry(ISLES, grade="echo")
    elsewhere = LogFile(tmp_path / "elsewhere" / "log.awl-log")
    elsewhere.put([entry])
    stage.book.writing.added(elsewhere, ((entry,), ()), "Log one")
    assert stage.book.entries == ()
    assert not any("Log one" in text for text in said)
    demo_window.bench.steps.back()
    assert elsewhere.read().entries == (entry,)


def test_an_import_that_ends_after_another_plan_was_opened_goes_nowhere(demo_window, stage, said, tmp_path):
    demo_window.stages.open("log", "entries")
    found = join((), read_file(b"<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<EOR>"))
    assert len(found.fresh) == 1
    stage.entries.files._brought("a.adi", tmp_path / "log.awl-log", found)
    assert on_disk(stage) == ()
    assert "nothing was imported" in said[-1]


def test_a_change_makes_a_proof_doubtful_and_undo_makes_it_sound_again(demo_window, stage):
    take(demo_window, ISLES)
    stage.proof.card.log_it()
    demo_window.bench.do(set_air("blackfell-dmr", "Another code", color_code=7))
    assert "color code 6 → 7" in stage.proof.told.text()
    demo_window.bench.steps.back()
    assert "doubtful" not in stage.proof.told.text()


@pytest.mark.parametrize(("ber", "words"), [("much", "no rate"), ("140", "between 0 and 100"), ("-1", "between")])
def test_a_wrong_rate_is_refused(demo_window, stage, said, ber, words):
    take(demo_window, ISLES)
    stage.proof.card.ber.setText(ber)
    stage.proof.card.log_it()
    assert words in said[-1]
    assert on_disk(stage) == ()


def test_the_map_is_walked_by_arrows_and_by_mouse(demo_window, stage):
    page = stage.proof
    page.take_focus()
    seen = set()
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_Right, Qt.Key.Key_Left):
        QTest.keyClick(page.map, key)
        assert demo_window.bench.route is not None
        seen.add(demo_window.bench.route.key)
    assert len(seen) >= 3
    cell = page.map.sheet.cell_of("blackfell-dmr", "isles-wide")
    sizes, view = page.map.sheet.sizes, page.map.view()
    at = QPoint(
        sizes.left - view.x + cell.column * sizes.column + 30, sizes.head - view.y + page.map.sheet.tops[cell.row] + 8
    )
    QTest.mouseClick(page.map.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert demo_window.bench.route.key == ISLES


def test_every_grade_age_and_doubt_is_drawn(demo_window, stage):
    old = (MOMENT - timedelta(days=500)).strftime("%Y-%m-%dT%H:%M:%SZ")
    routes = list(demo_window.bench.index.routes)
    grades = ["failed", "heard-it", "own-key", "echo", "heard-by", "answered"]
    made = [
        replace(stage.book.new_entry(route, grade=grade), key=f"k{at}", **({"utc": old} if at % 2 else {}))
        for at, (route, grade) in enumerate(zip(routes, grades * 3, strict=False))
    ]
    made.append(replace(stage.book.new_entry(routes[3], grade="failed", note="gone"), key="later"))
    made.append(replace(stage.book.new_entry(routes[20], grade="echo"), key="doubt", stood={"slot": "9"}))
    stage.book.add(made, "Log many")
    assert not stage.proof.map.viewport().grab().isNull()
    assert stage.book.proofs[routes[3]].failed == "gone"


def test_what_to_prove_next_is_saved_for_the_pocket(demo_window, stage, tmp_path, monkeypatch):
    monkeypatch.setattr(proof_page, "ask_place", lambda *_asked: FilePlace(tmp_path / "next.txt"))
    stage.save_next()
    text = (tmp_path / "next.txt").read_text("utf-8")
    assert "prove next" in text
    assert "1. " in text
    assert "knob" in text
    assert "Not while driving" in text


def test_what_is_proven_is_saved_as_a_sheet_and_as_csv(demo_window, stage, qtbot, tmp_path, monkeypatch):
    take(demo_window, ISLES)
    stage.proof.card.log_it()
    qtbot.waitUntil(lambda: bool(stage.book.proofs[ISLES].grade))
    monkeypatch.setattr(proof_page, "ask_place", lambda *_asked: FilePlace(tmp_path / "proven.csv"))
    stage.proof.save_csv()
    assert f"{ISLES},answered," in (tmp_path / "proven.csv").read_text("utf-8-sig")
    monkeypatch.setattr(proof_page, "ask_place", lambda *_asked: FilePlace(tmp_path / "proven.pdf"))
    demo_window.commands.run("log-sheet")
    qtbot.waitUntil((tmp_path / "proven.pdf").exists, timeout=10000)
    assert (tmp_path / "proven.pdf").read_bytes().startswith(b"%PDF")


def test_adif_goes_out_and_comes_in_and_what_is_there_is_left(demo_window, stage, said, tmp_path, monkeypatch):
    take(demo_window, ISLES)
    stage.proof.card.log_it()
    demo_window.stages.open("log", "entries")
    page = stage.entries
    monkeypatch.setattr(entry_files, "ask_place", lambda *_asked: FilePlace(tmp_path / "out.adi"))
    monkeypatch.setattr(entry_files, "ask", lambda *_all: entry_files.MYSELF)
    page.files.ask_adif()
    page.files.bring_in(tmp_path / "out.adi")
    assert "1 were there already" in said[-1]
    (tmp_path / "in.adi").write_text(
        "by another hand <EOH>\n<CALL:5>Q7QBY<QSO_DATE:8>20250101<TIME_ON:4>1200<STRANGE:3>abc<EOR>\n<CALL:5>Q2SAB<EOR>"
    )
    page.files.bring_in(tmp_path / "in.adi")
    assert len(on_disk(stage)) == 2
    message = demo_window.message
    assert "1 with something wrong" in message.text()
    demo_window.bench.say("Something else.", "say")
    demo_window.bench.plan_changed.emit()
    assert "1 with something wrong" in message.text(), "what came of a file is said until it is closed"
    assert "Something else" not in message.text()
    message.close_all()
    assert not message.text()
    assert on_disk(stage)[-1].more == {"STRANGE": "abc"}
    page.search.setText("q7qby")
    assert [item.call for item in page.shown] == ["Q7QBY"]
    page.table.choose(0)
    page.take_out()
    assert len(on_disk(stage)) == 1
    demo_window.bench.steps.back()
    assert len(on_disk(stage)) == 2
    page.files.bring_in(tmp_path / "missing.adi")
    assert "cannot be read" in said[-1]


def test_csv_is_written_with_formulas_made_harmless(demo_window, stage, tmp_path, monkeypatch):
    take(demo_window, ISLES)
    stage.proof.card.note.setText("=1+1")
    stage.proof.card.log_it()
    monkeypatch.setattr(entry_files, "ask_place", lambda *_asked: FilePlace(tmp_path / "out.csv"))
    monkeypatch.setattr(entry_files, "ask", lambda *_all: entry_files.OTHERS)
    stage.entries.files.ask_csv()
    text = (tmp_path / "out.csv").read_text("utf-8")
    assert f",answered,{ISLES}," in text
    assert "\n=1" not in text
    assert ",=1+1" not in text


def test_a_damaged_log_is_told_and_goes_on(demo_window, stage):
    take(demo_window, ISLES)
    stage.proof.card.log_it()
    path = stage.book.file.path
    path.write_bytes(path.read_bytes() + b"rubbish\n")
    stage.book.read()
    assert "damaged" in stage.proof.told.text()
    path.write_bytes(b"something else")
    stage.book.read()
    assert "no log" in stage.book.trouble
    assert len(stage.book.entries) == 1


def test_a_route_is_chosen_by_name_and_every_field_is_written(demo_window, stage, said):
    card = stage.proof.card
    card.route.setFocus()
    card.route.setText("q0blk isles-wide")
    QTest.keyClick(card.route, Qt.Key.Key_Return)
    assert demo_window.bench.route.key == ISLES
    for field, text in ((card.call, "q3amb"), (card.name, "Am-ber"), (card.rssi, "-95 dBm"), (card.spot, "HN46kl"),
                        (card.path, "home hotspot"), (card.here, "Cairnlow")):  # fmt: skip
        QTest.keyClicks(field, text)
    assert card.say.text() == "Say: “Q4WRN, operating from Cairnlow, through my home hotspot”."
    QTest.keyClick(card.note, Qt.Key.Key_Return)
    (entry,) = on_disk(stage)
    assert (entry.name, entry.rssi_dbm, entry.my_locator, entry.path, entry.here) == (
        "Am-ber", -95, "HN46kl", "home hotspot", "Cairnlow",
    )  # fmt: skip
    card.route.setText("blackfell")
    card.take_route()
    assert "called so" in said[-1]


def test_shares_are_told_by_zone_and_by_trip(demo_window, stage):
    page, plan = stage.proof, demo_window.bench.plan
    take(demo_window, ISLES)
    page.card.log_it()
    told = {}
    for at in range(page.scope.count()):
        page.scope.setCurrentIndex(at)
        told[page.scope.itemText(at)] = page.shares.text()
    assert {f"Zone {item.name}" for item in plan.zones} <= told.keys()
    assert {f"Trip {item.name}" for item in plan.trips} <= told.keys()
    assert told["All routes"].startswith("1 of")


def test_an_entry_is_confirmed_and_people_are_made_of_the_log(demo_window, stage, said):
    take(demo_window, ISLES)
    stage.proof.card.call.setText("Q3AMB")
    stage.proof.card.log_it()
    demo_window.stages.open("log", "entries")
    page = stage.entries
    page.table.choose(0)
    page.toggle_confirmed()
    assert on_disk(stage)[0].confirmed == "Y"
    assert "confirmed" in page.table.text(0, 3)
    demo_window.bench.steps.back()
    assert on_disk(stage)[0].confirmed == ""
    page.take_people()
    assert demo_window.bench.radio.people.log_calls == ("Q3AMB",)
    assert demo_window.bench.radio.people.from_log


def test_an_import_that_confirms_is_undone_to_what_was_there(demo_window, stage, tmp_path):
    take(demo_window, ISLES)
    stage.proof.card.call.setText("Q3AMB")
    stage.proof.card.log_it()
    (entry,) = on_disk(stage)
    day, time = entry.utc[:10].replace("-", ""), entry.utc[11:16].replace(":", "")
    (tmp_path / "their.csv").write_text(f"date,time,call,mode,qsl\n{day},{time},Q3AMB,DMR,Y\n{day},{time},Q7QBY,DMR,\n")
    demo_window.stages.open("log", "entries")
    # the same contact: their log knows no route of ours
    stage.book.add([replace(entry, route="")], "Without its route")
    stage.entries.files.bring_in(tmp_path / "their.csv")
    assert sorted((item.call, item.confirmed) for item in on_disk(stage)) == [("Q3AMB", "Y"), ("Q7QBY", "")]
    demo_window.bench.steps.back()
    assert [(item.call, item.confirmed) for item in on_disk(stage)] == [("Q3AMB", "")]


def test_a_wrong_listing_is_corrected_in_one_step_and_goes_out_as_a_file(demo_window, stage, tmp_path, monkeypatch):
    key = next(item.key for item in demo_window.bench.plan.routes if item.service == "cairnlow-dmr")
    take(demo_window, key)
    before = demo_window.bench.plan
    monkeypatch.setattr(wrong_sheet, "ask_place", lambda *_asked: FilePlace(tmp_path / "send.csv"))

    def fill():
        sheet = QApplication.activeModalWidget()
        sheet.what.setCurrentIndex(sheet.what.findData("opens"))
        QTest.keyClicks(sheet.value, "99")
        QTest.keyClick(sheet.value, Qt.Key.Key_Return)
        refused.append(sheet.fault.text())
        sheet.value.setText("9")
        QTest.keyClick(sheet.value, Qt.Key.Key_Return)

    refused = []
    QTimer.singleShot(0, fill)
    demo_window.commands.run("log-wrong")
    assert "not a color code" in refused[0]
    _access, service = demo_window.bench.index.services["cairnlow-dmr"]
    assert service.air.color_code == 9
    assert ",9," in (tmp_path / "send.csv").read_text("utf-8-sig")
    while demo_window.bench.plan != before:
        demo_window.bench.steps.back()
    assert corrections(demo_window.directory.store) != []
    demo_window.bench.steps.back()
    assert corrections(demo_window.directory.store) == []


def test_own_overs_of_a_hotspots_log_come_in_by_themselves_once(demo_window, said, tmp_path):
    demo_window.stages.open("hotspots", "find")
    log = tmp_path / "spot.log"
    log.write_text(
        "2026-11-26 20:40:00 dmr slot 1: radio Q4WRN (9994217) to 99900, 3.0 s, loss 0 %, BER 1.20 %, 10800 bits, offset +0 Hz\n"
    )
    seek = demo_window.stages["hotspots"].seek
    seek.sources.open_log(log)
    seek.sources.open_log(log)
    (entry,) = demo_window.book.file.read().entries
    assert (entry.by, entry.ber, entry.grade) == ("hotspot", 1.2, "own-key")
    assert sum("Own overs out of the log" in text for text in said) == 1
    demo_window.stages.open("log", "proof")
    assert demo_window.book.proofs[entry.route].is_heard


def test_simulated_overs_are_logged_as_such_and_prove_nothing(demo_window, said):
    demo_window.stages.open("onair", "lanes")
    lanes = demo_window.stages["onair"].lanes
    lanes.log_overs()
    assert "practice plan" in said[-1]
    take(demo_window, ISLES)
    lanes.stand.choose("free")
    lanes.log_overs()
    assert "No over of yours" in said[-1]
    lanes.stand.do("press")
    lanes.stand.time.forward()
    lanes.stand.do("release")
    lanes.stand.time.pause()
    lanes.log_overs()
    lanes.log_overs()
    (entry,) = demo_window.book.file.read().entries
    assert entry.by == "simulation"
    assert not demo_window.book.proofs[entry.route].grade
    assert demo_window.book.proofs[entry.route].simulated


def test_what_is_typed_stays_until_it_is_on_the_disk(demo_window, stage, said, monkeypatch):
    card = stage.proof.card
    take(demo_window, ISLES)

    def full(_file, _entries):
        raise LogError("The log cannot be written (No space left on device). Make room, then write it again.")

    with monkeypatch.context() as patched:
        patched.setattr(LogFile, "put", full)
        card.call.setText("q9odl")
        card.report.setText("good")
        card.log_it()
        assert "Make room" in said[-1]
        assert (card.call.text(), card.report.text()) == ("q9odl", "good")
    card.log_it()
    assert (card.call.text(), card.report.text()) == ("", "")
    assert [item.call for item in on_disk(stage)] == ["Q9ODL"]


def test_entries_of_another_window_are_seen_and_a_log_that_was_taken_away_is_told_and_written_anew(
    demo_window, stage, said
):
    book = stage.book
    book.add([book.new_entry(ISLES, grade="echo")], "Log one")
    book.look()
    other = book.new_entry(ISLES, grade="answered")
    LogFile(book.file.path).put([other])
    book.look()
    assert [item.grade for item in book.entries] == ["echo", "answered"]
    moved = book.file.path.with_name("moved")
    book.file.path.rename(moved)
    book.look()
    assert "moved or removed" in said[-1]
    assert len(book.entries) == 2, "all of it is still here"
    book.add([book.new_entry(ISLES, grade="failed")], "Log three")
    assert [item.grade for item in on_disk(stage)] == ["echo", "answered", "failed"]
    assert "moved or removed" not in book.trouble
    book.look()
    before = len(said)
    moved.replace(book.file.path)
    book.look()
    assert "replaced the log: 1 entry is" in " ".join(said[before:])
    assert len(book.entries) == 2


def test_a_log_gets_nothing_of_another_plans_log_that_is_still_in_hand(demo_window, stage, tmp_path, monkeypatch):
    book = stage.book
    book.add([book.new_entry(ISLES, grade="echo")], "Log one")
    made = book.new_entry(ISLES, grade="answered")
    elsewhere = LogFile(tmp_path / "elsewhere" / NAME)
    monkeypatch.setattr(LogBook, "file", property(lambda _book: elsewhere))  # opened, and not read yet
    book.add([made], "Log in the other one")
    assert [item.key for item in elsewhere.read().entries] == [made.key]


def test_what_is_not_understood_is_never_logged_as_the_route_in_hand(demo_window, stage, said):
    take(demo_window, ISLES)
    card = stage.proof.card
    for typed in ("moonbase", "echo"):
        card.route.setText(typed)
        card.log_it()
        assert "called so" in said[-1]
        assert not stage.book.entries
    card.route.setText("home spot echo dmr")
    card.log_it()
    (entry,) = on_disk(stage)
    assert (entry.route, entry.grade, entry.radio) == ("home-dmr>echo@2", "echo", demo_window.bench.radio_key)
    card.call.setText("no call")
    card.log_it()
    assert "formed like a call sign" in said[-1]
    assert len(on_disk(stage)) == 1


def test_the_radio_is_named_and_can_be_changed(demo_window, stage):
    take(demo_window, ISLES)
    card = stage.proof.card
    assert card.radio.currentText() == demo_window.bench.radio.name
    other = next(item for item in demo_window.bench.plan.radios if item.key != demo_window.bench.radio_key)
    card.radio.setCurrentIndex(card.radio.findData(other.key))
    card.radio.activated.emit(card.radio.currentIndex())
    card.log_it()
    assert on_disk(stage)[-1].radio == other.key


def test_the_line_offers_routes_by_every_word_they_are_called_by(demo_window, stage):
    field = stage.proof.card.route
    field.completer().splitPath("home spot echo")
    offered = field.completer().model().stringList()
    assert any("Echo" in item for item in offered)
    assert all("Q4WRN" in item for item in offered)
