"""The Hotspots pages in the window: keyboard, wrong input, what is told; nothing secret stays anywhere."""

import os
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from tests.desk.test_routes_stage import choose, edit_field
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.hotspot.logs.symptoms import shipped_symptoms
from umbra_awl.core.hotspot.match.layout import guessed
from umbra_awl.core.hotspot.seek.errors import NoHotspotError
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.core.plan.edit.edits import Edit, drop_item, set_fields
from umbra_awl.core.plan.model import Reading
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.hotspots.ask_secret import SecretSheet
from umbra_awl.desk.hotspots.place.use_sheet import LineError, UseSheet, parse_neighbours, parse_uses_text, uses_text


@pytest.fixture
def stage(demo_window):
    demo_window.stages.open("hotspots", "path")
    made = demo_window.stages["hotspots"]
    made.spot.choose("travel")
    return made


def show(window, page):
    window.stages.open("hotspots", page)
    return window.stages["hotspots"]


def test_the_ruler_by_keyboard_and_taking_a_place_tells_what_changes(demo_window, stage, qtbot):
    page = show(demo_window, "place").place
    ruler = page.picture.ruler
    assert "stands here now" in dict(page.picture.marks).values() or page.picture.marks
    assert ruler.place(page.picture.at).hz == 435_500_000
    assert page.verdict.text().startswith("It must move: ")
    assert not page.take.isEnabled()
    page.best.choose(0)
    assert ruler.place(page.picture.at).state == "good"
    assert page.take.isEnabled()
    page.take_focus()
    before = page.picture.at
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Left, Qt.Key.Key_Minus, Qt.Key.Key_Plus):
        QTest.keyClick(page.picture, key)
    assert page.picture.at == before + 1
    assert format_mhz(int(ruler.hz[before + 1])) in page.picture.accessibleName()
    QTest.keyClick(page.picture, Qt.Key.Key_Home)
    assert page.picture.at == 0
    assert not page.take.isEnabled()
    page.best.choose(1)
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    page.taking.take_it()
    plan = demo_window.bench.plan
    assert plan.hotspots[1].transmit_hz == page._best[1].hz or plan.hotspots[1].transmit_hz == ruler.best()[1].hz
    assert any("Changed: Tarn 16" in text and "to be written again" in text for text in told)
    assert any("key-up" in text for text in told)
    demo_window.bench.steps.back()
    assert demo_window.bench.plan.hotspots[1].transmit_hz == 435_500_000


def test_the_directory_is_on_the_ruler_and_a_trip_moves_it(demo_window, stage):
    page = show(demo_window, "place").place
    words = " ".join(page.picture.ruler.users.words)
    assert "Q0BLK" in words
    page._go_to("nessa")
    assert page.where.text() == "Nessa"
    page._take_band("2 m")
    assert page.picture.ruler.asked.band.name == "2 m"


def test_what_was_heard_is_noted_and_the_score_learns(demo_window, stage):
    page = show(demo_window, "place").place
    page.best.choose(0)
    at = page.picture.at
    before = page.picture.ruler.place(at).score
    page.listen.typed.setText("two talking")
    QTest.keyClick(page.listen.typed, Qt.Key.Key_Return)
    assert demo_window.bench.plan.hotspots[1].listened[0].heard == "two talking"
    assert page.picture.ruler.place(at).score < before
    assert page.listen.table.text(0, 1) == "two talking"


def test_the_band_plan_and_neighbours_are_lines_that_can_be_changed(demo_window, stage):
    bench = demo_window.bench
    sheet = UseSheet(demo_window, bench)
    sheet.uses.setPlainText("434.0 – 434.1  nonsense  x")
    sheet.take()
    assert "no use" in sheet.fault.text()
    sheet.uses.setPlainText("434.0 – 434.1  hotspots  ours\n")
    sheet.near.setPlainText("434.3/434.5 Corin's")
    sheet.take()
    assert [(item.low_hz, item.words) for item in bench.plan.station.uses] == [(434_000_000, "ours")]
    assert bench.plan.station.neighbours[0].other_hz == 434_500_000
    for text in ("434.2 – 434.1  hotspots", "x – 434.1  hotspots"):
        with pytest.raises(LineError):
            parse_uses_text(text, "")
    with pytest.raises(LineError):
        parse_neighbours("twelve")
    assert parse_uses_text(uses_text(bench.plan), "your own table") == bench.plan.station.uses
    sheet.deleteLater()


def test_the_sheet_masks_ids_until_asked_and_the_plan_follows_a_row(demo_window, stage):
    page = show(demo_window, "match").match
    spot = stage.spot
    from umbra_awl.demo.hotspots import settings_text

    spot.settings = settings_text(demo_window.bench.plan, "travel", {"id": "999421701", "color_code": "7"})
    spot.source = "a file"
    spot.changed.emit()
    row = next(item for item in page.picture.rows if item.field.key == "id")
    assert row.plan == "999••••02"
    assert row.to_hotspot == "cut"
    demo_window.bench.show_ids(True)
    assert next(item for item in page.picture.rows if item.field.key == "id").plan == "999421702"
    assert page.reach("Color code")
    QTest.keyClick(page.picture, Qt.Key.Key_Return)
    assert demo_window.bench.plan.hotspots[1].color_code == 7
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    assert page.reach("Logs in as")
    assert page.picture.rows[page.picture.at].field.key == "id"
    QTest.keyClick(page.picture, Qt.Key.Key_Return)
    assert "Change it in the hotspot" in told[-1]


def test_settings_files_are_opened_and_written_without_a_password(demo_window, stage, tmp_path, monkeypatch):
    from umbra_awl.desk.hotspots.match import settings_file
    from umbra_awl.desk.parts.saving import FilePlace

    page = show(demo_window, "match").match
    path = tmp_path / "mine.ini"
    path.write_text("[Self]\nOwnCall=Q9ODL\n[Air]\nTxFreq=434.5\n[Page]\nPassword=hush-hush\n")
    page.file.open_file(path)
    assert stage.spot.held["call"] == "Q9ODL"
    assert "nothing lost" in page.tried.text()
    demo_window.bench.do(set_fields(HOTSPOTS, "travel", "x", transmit_hz=434_012_500, receive_hz=434_012_500))
    monkeypatch.setattr(settings_file, "ask_place", lambda *_a, **_k: FilePlace(path, replace=True))
    asked = []

    def none_of_them(_parent, _title, _question, labels, ticked, _go):
        asked.append((labels, ticked))
        return ()

    before = path.read_text()
    monkeypatch.setattr(settings_file, "ask_choices", none_of_them)
    page.file.ask_save()
    assert path.read_text() == before, "nothing that was guessed is written before it is confirmed"
    assert any("Self.OwnCall = Q9ODL" in label for label in asked[0][0])
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    monkeypatch.setattr(settings_file, "ask_choices", lambda *given: [one for one in given[3] if "OwnCall" in one])
    page.file.ask_save()
    text = path.read_text()
    assert "OwnCall=Q4WRN" in text
    assert "TxFreq=434.5" in text, "what was not ticked stays"
    assert "Not in it, since no key is known for it" in told[-1]
    assert "Password=hush-hush" in text  # it was there; it is neither read nor changed
    (tmp_path / "none.ini").write_bytes(b"\x00\xff")
    page.file.open_file(tmp_path / "none.ini")
    assert not stage.spot.settings


READINGS = (
    ("0", "x"), ("-300", "9.0"), ("900", "9.5"), ("300", "0.4"), ("0", "2.4"), ("600", "2.5"), ("-150", "5.4"), ("750", "5.4"),
    ("150", "0.9"), ("450", "0.9"),
)  # fmt: skip


def test_readings_typed_with_the_keyboard_lead_to_a_correction(demo_window, stage):
    page = show(demo_window, "calibrate").curve
    page.take_focus()
    for offset, share in READINGS:
        page.offset.setText(offset)
        page.rate.setText(share)
        QTest.keyClick(page.rate, Qt.Key.Key_Return)
        assert bool(page.fault.text()) == (share == "x")
    hotspot = demo_window.bench.plan.hotspots[1]
    assert len(hotspot.readings) == len(READINGS) - 1
    assert "Known: +" in page.told.text() or "take the middle, +" in page.told.text()
    page.take()
    assert abs(demo_window.bench.plan.hotspots[1].rx_correction_hz - 300) < 60
    page.table.choose(0)
    page.leave_out()
    assert demo_window.bench.plan.hotspots[1].readings[0].left_out
    page._choose("transmit")
    assert page.readings == ()
    page._choose("receive")
    page.begin_anew()
    assert demo_window.bench.plan.hotspots[1].readings == ()


def test_wifi_names_are_compared_as_they_are_typed_and_passwords_stay_in_the_fields(qtbot, demo_window, stage):
    page = show(demo_window, "wifi").wifi
    assert "capital" in page.verdict.text()
    page.known.setText("Harrowquay-7; Wren-Away")
    page.known.editingFinished.emit()
    assert "The same" in page.verdict.text()
    page.one.setText("Wren’s secret")
    page.other.setText("Wren's secret")
    assert "curly" in page.same.text()
    document = demo_window.bench.document
    demo_window.bench.save()
    for path in document.path.parent.rglob("*"):
        if path.is_file():
            assert b"s secret" not in path.read_bytes()
    page.five.click()
    assert demo_window.bench.plan.station.phone.band_ghz == 5.0
    page.schools["pose"].click()
    assert demo_window.bench.plan.hotspots[1].school == "pose"
    choose(page.kind.card, "Kind of phone", "Birch")
    assert any("Drawer › Waves" in stop.what for stop in page.steps.stops)
    edit_field(qtbot, page.kind.card, "Sharing sits at", "Knobs, Give")
    edit_field(qtbot, page.kind.card, "Page seen at", "203.0.113.9")
    phone = demo_window.bench.plan.station.phone
    assert (phone.platform, phone.menu, phone.page, phone.band_ghz) == ("Birch", "Knobs, Give", "203.0.113.9", 5.0)
    assert any("203.0.113.9, as seen before" in stop.what for stop in page.steps.stops)


def test_a_log_is_opened_followed_and_its_cause_is_the_headline(demo_window, stage, tmp_path, qtbot):
    page = show(demo_window, "find").seek
    path = tmp_path / "spot.log"
    path.write_text(
        "2026-11-26 20:31:09 dmr: login to m.invalid refused: wrong password\n2026-11-26 20:31:10 frob: x\n"
    )
    page.sources.open_log(path)
    assert page.told.text() == "The master refuses the password."
    assert page.faults.text(0, 0) == "cause"
    assert page.unknown.text(0, 1).endswith("frob: x")
    page.sources.follow_log(path)
    with path.open("a") as file:
        file.write("2026-11-26 20:40:00 host: starting, image x\n2026-11-26 20:41:00 modem: ready on 1\n")
    page.sources.follow()
    assert "No fault" in page.told.text()
    demo_window.stages.open("hotspots", "path")
    assert not page.timer.isActive()
    page.sources.open_log(tmp_path / "none.log")
    page.sources.open_log(tmp_path)


def test_symptoms_ask_only_what_cannot_be_seen(demo_window, stage):
    page = show(demo_window, "find").seek
    panel = page.symptoms
    panel.choose(next(item for item in shipped_symptoms().symptom if item.key == "not-here"))
    assert panel.yes.isVisible()
    panel.answer("yes")
    assert "capital" in panel.question.text()
    panel._go()
    assert stage.pages.name == "wifi"


def test_pasted_devices_and_names_that_nobody_knows(demo_window, stage):
    page = show(demo_window, "find").seek.seek
    page.pasted.setPlainText("192.0.2.14 q4wrn-travel\n192.0.2.15 other")
    assert page.addresses == ["192.0.2.14", "192.0.2.15"]
    page._take_names(("x.local", []))
    assert "Nobody here knows" in page.told.text()


def test_what_it_says_is_of_one_hotspot_and_goes_with_another(demo_window, stage):
    spot = stage.spot
    spot.status = Status("x", "up")
    spot.password = "hush-hush"
    spot.choose("home")
    assert spot.status is None
    assert spot.password == ""


def test_an_answer_that_comes_late_is_not_taken_for_another(demo_window, stage):
    spot = stage.spot
    took = []
    spot.work._end("home", None, took.append, "late")
    assert took == []
    spot.work._fail("travel", NoHotspotError("Nothing answers at x"))
    assert "Nothing answers" in stage.head.state.text()
    spot.set_address("")
    spot.ask()
    assert "No address yet" in stage.head.state.text()


def test_the_path_leads_to_where_a_step_is_done_and_rungs_are_noted(demo_window, stage):
    page = show(demo_window, "path").pages.currentWidget()
    page.take_focus()
    QTest.keyClick(page.thread_, Qt.Key.Key_Return)
    assert stage.pages.name == "place"
    show(demo_window, "path")
    page.ladder.setFocus()
    QTest.keyClick(page.ladder, Qt.Key.Key_Return)
    assert [item.rung for item in demo_window.bench.plan.hotspots[1].proofs] == ["display"]
    page.choose_part("board", "rush-stick")
    assert "does not fit" in page._fault.text()


def test_a_path_is_finished_by_eye_where_no_page_can_be_asked(demo_window, stage):
    page = show(demo_window, "path").pages.currentWidget()
    page.take_focus()
    count = len(page._steps)
    for at in range(count):
        page.thread_._go(at)
        if not page._steps[at].done:
            QTest.keyClick(page.eye, Qt.Key.Key_Space)
    assert all(step.done for step in page._steps)
    told = {step.key: step.seen for step in page._steps}
    assert told["password"].startswith("seen by eye on 20")
    assert told["parts"] == "by the plan"
    assert demo_window.bench.plan.hotspots[1].by_eye
    page.thread_._go(count - 1)
    assert page.eye.text() == "Not seen after all"
    QTest.keyClick(page.eye, Qt.Key.Key_Space)
    assert not page._steps[-1].done
    demo_window.bench.steps.back()
    assert page._steps[-1].done


def test_without_a_hotspot_the_pages_teach_and_begin(demo_window):
    bench = demo_window.bench
    for key in ("home", "travel"):
        bench.do(drop_item(HOTSPOTS, key, "x"))
    stage = show(demo_window, "place")
    assert stage.pages.is_blank
    stage._note()
    assert {item.access for item in bench.plan.hotspots} == {"home-spot", "travel-spot"}
    bench.do(Edit("x", lambda plan: replace(plan, hotspots=(), access=plan.access[:5], routes=(), trips=())))
    stage.pages.look_again()
    assert stage.pages.is_blank
    show(demo_window, "phone")


def test_pairing_begins_as_it_is_met_old_stuck_or_by_cable(demo_window, qtbot):
    stage = show(demo_window, "phone")
    demo_window.bench.choose_radio("fell")
    page = stage.phone
    page.stand("old")
    assert "forget the old pairing" in page.told.text()
    qtbot.mouseClick(page.main, Qt.MouseButton.LeftButton)
    assert "delete “another phone”" in page.told.text()
    page.stand("stuck")
    assert "cure" in page.proof.text()
    assert "forget the radio" in page.told.text()
    page.stand("new")
    assert "DRAWER › Friends › Reach them" in page.told.text()
    assert page.link.text() == "by wireless"
    page.reach_by("cable")
    for _time in range(12):
        if not page.main.isEnabled():
            break
        qtbot.mouseClick(page.main, Qt.MouseButton.LeftButton)
    assert page.told.text() == "Paired and proven."
    assert not any("pair" in move.do.get("do", "") for move in page.past)


def test_a_secret_is_asked_with_the_store_it_may_go_to(demo_window, stage):
    class Box:
        def __init__(self):
            self.held = {}

        def get_password(self, _service, name):
            return self.held.get(name)

        def set_password(self, _service, name, password):
            self.held[name] = password

    from umbra_awl.core.hotspot.wifi.secrets import Secrets

    box = Box()
    sheet = SecretSheet(demo_window, Secrets(box), "wifi:x", "Password", "For x.")
    sheet.typed.setText("short")
    assert "at least 8" in sheet._look()
    sheet.typed.setText("hush-hush")
    sheet.keep.setChecked(True)
    assert sheet._look() == ""
    assert box.held == {"wifi:x": "hush-hush"}
    sheet.deleteLater()


def test_a_plan_edit_while_the_page_is_hidden_is_seen_when_it_shows(demo_window, stage):
    page = show(demo_window, "calibrate").curve
    show(demo_window, "path")
    made = (Reading(0, 10, 1_000),)
    demo_window.bench.do(set_fields(HOTSPOTS, "travel", "x", readings=made))
    show(demo_window, "calibrate")
    assert page.table.text(0, 0) == "+0"


def test_nothing_is_set_to_send_without_a_licence(demo_window, stage, monkeypatch):
    from umbra_awl.core.plan.edit.edit_station import set_guard

    bench, told = demo_window.bench, []
    bench.do(set_guard(True))
    bench.said.connect(lambda text, kind: told.append((kind, text)))
    monkeypatch.setattr(stage.spot.work, "run", lambda *_a: pytest.fail("something was sent"))
    stage.spot.orders.apply()
    stage.spot.orders.link("99900")
    page = show(demo_window, "match").match
    monkeypatch.setattr(
        "umbra_awl.desk.hotspots.match.settings_file.ask_place", lambda *_a, **_k: pytest.fail("a file was asked for")
    )
    page.file.ask_save()
    assert [kind for kind, _text in told] == ["stop"] * 3
    assert all("guard is on" in text for _kind, text in told)


def test_who_called_is_told_by_the_directory(demo_window, stage, tmp_path):
    page = show(demo_window, "find").seek
    with demo_window.directory.store.writing() as db:
        db.execute("INSERT INTO people VALUES (9990077, 'Q9ODL', 'Odile', 'Stenby', 'Velmar', 'x')")
    path = tmp_path / "spot.log"
    path.write_text("2026-11-26 20:41:00 dmr slot 2: network Q9ODL (9990077) to 99900, 8.0 s, loss 1 %\n")
    page.sources.open_log(path)
    assert page.calls.text(0, 1) == "Q9ODL Odile"
    assert page.calls.text(0, 4) == "from the network, 8 s, loss 1 %"


def test_a_hidden_page_does_nothing_until_it_is_seen(demo_window, stage):
    from umbra_awl.desk.hotspots.seen import Seen

    page = show(demo_window, "match").match
    show(demo_window, "path")
    shown = []
    seen = Seen(page, lambda: shown.append(1))
    for _time in range(3):
        seen.changed()
    assert len(shown) == 1
    show(demo_window, "match")
    assert len(shown) == 2
    seen.changed()
    assert len(shown) == 3


def test_a_device_that_is_only_asked_is_given_no_password(demo_window, stage, qtbot, monkeypatch):
    """Not the kept one either: whoever answers at an address may be a stranger."""
    seen = []

    class Asked(BaseHTTPRequestHandler):
        def do_GET(self):
            seen.append(self.headers.get("Authorization"))
            self.send_response(404)
            self.send_header("Content-Length", "0")
            self.end_headers()

        def log_message(self, *_args):
            pass

    server = HTTPServer(("127.0.0.1", 0), Asked)
    thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05})
    thread.start()
    try:
        spot = stage.spot
        monkeypatch.setattr(spot.secrets, "get", lambda _what: "kept-one")
        spot.set_address(f"127.0.0.1:{server.server_port}")
        spot.password = "hush-hush"
        spot.ask()
        qtbot.waitUntil(lambda: not spot.running, timeout=10_000)
        assert seen == [None]
        assert spot.orders._opened().talk.key == "hush-hush"
        spot.set_address("another.test")
        assert (spot.password, spot.settings, spot.log) == ("", "", None)
    finally:
        server.shutdown()
        thread.join()
        server.server_close()


def test_walking_through_found_devices_asks_nobody_and_a_press_asks_one(demo_window, stage, monkeypatch):
    page = show(demo_window, "find").seek.seek
    asked = []
    monkeypatch.setattr(stage.spot, "ask", lambda: asked.append(stage.spot.address))
    page.pasted.setPlainText("192.0.2.14 q4wrn-travel\n192.0.2.15 other")
    page.table.setFocus()
    for _time in range(3):
        QTest.keyClick(page.table, Qt.Key.Key_Down)
    page.pasted.setPlainText("192.0.2.16 third")
    page._take(-1)
    assert asked == []
    page.table.choose(0)
    QTest.keyClick(page.table, Qt.Key.Key_Return)
    assert asked == ["192.0.2.16"]


def test_own_ids_in_a_log_are_masked_until_asked_for(demo_window, stage, tmp_path):
    page = show(demo_window, "find").seek
    path = tmp_path / "spot.log"
    path.write_text("x dmr: login refused: unknown ID 999421701\nx frob: 9994217 here\n")
    page.sources.open_log(path)
    shown = [page.faults.text(0, 4), page.unknown.text(0, 1)]
    assert not any("9994217" in text for text in shown)
    assert all("999••••" in text for text in shown)
    demo_window.bench.show_ids(True)
    assert "999421701" in page.faults.text(0, 4)


def test_what_failed_for_one_hotspot_is_not_said_of_another(demo_window, stage):
    stage.spot.fault = ""
    stage.spot.work._fail("home", NoHotspotError("Nothing answers at x"))
    assert stage.spot.fault == ""


def test_a_late_answer_of_another_address_proves_nothing(demo_window, stage, monkeypatch):
    spot, begun = stage.spot, []
    show(demo_window, "match")
    spot.set_address("http://127.0.0.1:9")
    monkeypatch.setattr(demo_window.bench.jobs, "start", lambda _work, done, failed: begun.append((done, failed)))
    spot.ask()
    spot.set_address("http://127.0.0.1:10")
    begun[0][0]((Status(name="late", state="up"), "", read_log("")))
    assert spot.status is None
    assert not spot.running
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    spot.orders.give_key("another one")
    assert len(begun) == 1
    assert "Ask it first" in told[-1]


def test_a_guessed_layout_sets_nothing_and_says_so(demo_window, stage, monkeypatch):
    spot, begun, told = stage.spot, [], []
    show(demo_window, "match")
    demo_window.bench.do(set_fields(HOTSPOTS, spot.key, "x", transmit_hz=434_012_500, receive_hz=434_012_500))
    spot.set_address("http://127.0.0.1:9")
    spot.layout = guessed("[Modem]\nTXFrequency=434612500\nCallsign=Q4WRN\n")
    monkeypatch.setattr(demo_window.bench.jobs, "start", lambda *_all: begun.append(_all))
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    spot.orders.apply()
    assert not begun
    assert "is not confirmed" in told[-1]


def test_a_line_that_no_rule_reads_is_told_what_it_means_in_two_presses(demo_window, stage, tmp_path):
    """Every line of its kind is read so from then on, in this log and in the next; the last one is taken back again."""
    seek = show(demo_window, "find").seek
    log = tmp_path / "foreign.log"
    lines = [
        f"Nov 26 20:4{at}:01 spotd: RF uplink from {call} to TG 99900 lasted 3.2 and ber 1.2 %"
        for at, call in enumerate(("Q4WRN", "Q7QBY"))
    ]
    log.write_text("\n".join([*lines, "Nov 26 20:50:01 spotd: fan at 900 rpm"]) + "\n")
    seek.sources.open_log(log)
    assert stage.spot.log.unknown_lines == 3
    at = next(at for at, item in enumerate(stage.spot.log.unknown) if "uplink" in item.text)
    seek.unknown.choose(at)
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    choices = dict(seek._meanings())
    choices["Heard from a radio"]()
    assert [item.call for item in stage.spot.log.calls] == ["Q7QBY", "Q4WRN"]
    assert any("2 lines of this log are read so now" in text for text in told)
    assert [item.call for item in stage.spot.own.overs()] == ["Q4WRN"]
    seek.sources.open_log(log)
    assert stage.spot.log.unknown_lines == 1
    dict(seek._meanings())["Take the last one back"]()
    assert stage.spot.log.unknown_lines == 3
    seek.unknown.choose(next(at for at, item in enumerate(stage.spot.log.unknown) if "fan" in item.text))
    dict(seek._meanings())["Heard from a radio"]()
    assert "No call sign was found" in demo_window.message.text()
    assert stage.spot.log.unknown_lines == 3


def test_a_pipe_and_a_services_journal_are_followed_and_let_go(demo_window, stage, tmp_path, qtbot):
    line = b"2026-11-26 20:40:00 dmr slot 2: radio Q4WRN to 99900, 3.2 s, loss 0 %, BER 1.2 %\n"
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    demo_window.stages.open("hotspots", "find")
    page, path = stage.seek, tmp_path / "spot.pipe"
    os.mkfifo(path)
    page.sources.follow_log(path)
    with path.open("wb", buffering=0) as out:
        out.write(line)
        page.sources.follow()
    assert stage.spot.log.calls[0].call == "Q4WRN"
    assert page.follow.text() == "Stop following"
    page.sources.follow_journal("--file=/etc/passwd")
    assert "no name of a service" in told[-1]
    assert page.follow.text() == "Follow a log …"


def test_a_page_of_records_is_followed_and_a_broker_that_is_not_there_is_told(demo_window, stage, qtbot):
    import json

    class Page(BaseHTTPRequestHandler):
        def do_GET(self):
            record = {"time": "2026-11-26 20:40:00", "mode": "DMR", "call": "Q9ODL", "to": "9", "duration": 8}
            self.send_response(200)
            self.end_headers()
            self.wfile.write(json.dumps([record]).encode())

        def log_message(self, *_args):
            pass

    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    demo_window.stages.open("hotspots", "find")
    page = stage.seek
    assert [text for text, _does in page._other_ways()][1].startswith("A page that answers records")
    server = HTTPServer(("127.0.0.1", 0), Page)
    thread = threading.Thread(target=server.serve_forever, kwargs={"poll_interval": 0.05})
    thread.start()
    try:
        page.sources.follow_page(f"127.0.0.1:{server.server_port}/calls.json")
        qtbot.waitUntil(lambda: stage.spot.log is not None and bool(stage.spot.log.calls), timeout=5_000)
    finally:
        server.shutdown()
        thread.join()
        server.server_close()
    assert stage.spot.log.calls[0].call == "Q9ODL"
    page.sources.follow_broker("127.0.0.1:1/spot")
    assert "No broker answers" in told[-1]
    assert page.follow.text() == "Follow a log …"
