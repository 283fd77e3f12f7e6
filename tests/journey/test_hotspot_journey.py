"""Hotspots in the real window against the simulated ones: card to echo, faults, calibration, Wi-Fi, pairing."""

import contextlib
import re

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.core.hotspot.logs.ladder import RUNGS
from umbra_awl.core.hotspot.logs.reading import read_log_bytes
from umbra_awl.core.hotspot.seek.talk import Talk
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.demo.hotspots import settings_text
from umbra_awl.desk.app import set_demo_spots
from umbra_awl.desk.hotspots.wifi import wifi_page
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.standins.hotspot.faults import FAULT_LINES
from umbra_awl.standins.launch import HotspotProcess

pytestmark = pytest.mark.journey
PACE = 300.0
BY_ECHO = next(rung for rung in RUNGS if rung.key == "echo")


@pytest.fixture
def stage(demo_window):
    demo_window.stages.open("hotspots", "path")
    made = demo_window.stages["hotspots"]
    made.spot.choose("travel")
    return made


@contextlib.contextmanager
def bench_spot(window, tmp_path, text="", **more):
    path = tmp_path / "spot.ini"
    path.write_text(text)
    with HotspotProcess(path, pace=PACE, **more) as process:
        set_demo_spots(window, {"travel": process.address})
        yield process


def asked(window, stage, qtbot, wanted=lambda _spot: True):
    """Ask the hotspot, again and again, until it says what is wanted."""

    def enough():
        if not stage.spot.running and stage.spot.status is not None and stage.spot.status.up and wanted(stage.spot):
            return True
        if not stage.spot.running:
            stage.spot.ask()
        return False

    qtbot.waitUntil(enough, timeout=20_000)


def idle(stage, qtbot):
    qtbot.waitUntil(lambda: not stage.spot.running, timeout=20_000)


def take_best_place(window, stage):
    window.stages.open("hotspots", "place")
    stage.place.best.choose(0)
    QTest.keyClick(stage.place.take, Qt.Key.Key_Space)


def test_from_an_empty_card_to_the_echo(demo_window, stage, qtbot, tmp_path, monkeypatch):
    window, bench = demo_window, demo_window.bench
    path = lambda: {step.key: step.done for step in stage.pages.currentWidget()._steps}  # noqa: E731
    take_best_place(window, stage)
    for day in ("2026-11-24", "2026-11-25", "2026-11-26"):
        stage.place.listen.typed.clear()
        QTest.keyClick(stage.place.listen.add, Qt.Key.Key_Space)
        listened = tuple(replace(item, day=day) for item in stage.spot.hotspot.listened)
        bench.do(set_fields(HOTSPOTS, "travel", "x", listened=listened))
    window.stages.open("hotspots", "path")
    assert path()["place"]
    card = tmp_path / "card"
    card.mkdir()
    monkeypatch.setattr("umbra_awl.desk.hotspots.path_page.QFileDialog.getExistingDirectory", lambda *_a: str(card))
    monkeypatch.setattr("umbra_awl.desk.hotspots.path_page.ask_secret", lambda *_a: "hush-hush")
    QTest.keyClick(stage.pages.currentWidget().wifi, Qt.Key.Key_Space)
    assert path()["wifi"]
    assert b"hush-hush" in next(card.iterdir()).read_bytes()
    with bench_spot(window, tmp_path):
        asked(window, stage, qtbot)
        assert path()["address"]
        assert not path()["log"]
        monkeypatch.setattr("umbra_awl.desk.hotspots.match.match_page.ask_secret", lambda *_a: "of-my-own")
        window.stages.open("hotspots", "match")
        QTest.keyClick(stage.match.key, Qt.Key.Key_Space)
        idle(stage, qtbot)
        assert bench.plan.hotspots[1].locked
        stage.match.take_focus()
        QTest.keyClick(stage.match.main, Qt.Key.Key_Space)
        idle(stage, qtbot)
        assert "Applied" in stage.head.state.text(), stage.head.state.text()
        asked(window, stage, qtbot, lambda spot: spot.status.modem == "ready")
        QTest.keyClick(stage.match.link, Qt.Key.Key_Space)
        idle(stage, qtbot)
        assert stage.spot.status.linked == "99900"
        assert not any(row.cut for row in stage.spot.rows()), [row for row in stage.spot.rows() if row.cut]
        window.stages.open("hotspots", "path")
        page = stage.pages.currentWidget()
        page._open(len(page._steps) - 1)
        idle(stage, qtbot)
        assert stage.spot.own.ladder().highest >= RUNGS.index(BY_ECHO)
        assert all(path().values()), path()
        assert stage.spot.own.ladder().words.startswith("The echo comes back")
    for file in bench.document.path.parent.rglob("*"):
        assert not file.is_file() or (
            b"hush-hush" not in file.read_bytes() + b"" and b"of-my-own" not in file.read_bytes()
        )


@pytest.mark.parametrize("fault", sorted(FAULT_LINES))
def test_each_seeded_fault_is_found_by_the_log_and_the_tree_leads_there(demo_window, stage, qtbot, tmp_path, fault):
    window = demo_window
    take_best_place(window, stage)
    text = settings_text(window.bench.plan, "travel")
    spoiled = {
        "frequency-refused": (r"sends=\d+", "sends=436000000"),
        "wrong-modem": ("type=simplex-70", "type=duplex-2"),
        "no-mode": ("=on", "=off"),
    }.get(fault)
    if spoiled:
        text = re.sub(*spoiled, text)
    plain = () if spoiled or fault == "no-network" else (fault,)
    with bench_spot(window, tmp_path, text, faults=plain, wifi="" if fault == "no-network" else "Harrowquay-7"):
        asked(window, stage, qtbot)
        window.stages.open("hotspots", "find")
        assert stage.spot.log.cause.rule.key == fault
        assert stage.seek.told.text() == stage.spot.log.cause.rule.means
        assert stage.seek.todo.text()
        no_modem = fault in {"frequency-refused", "wrong-modem", "port-busy", "firmware-old", "no-mode"}
        panel = stage.seek.symptoms
        panel._symptom = next(
            item for item in _symptoms() if item.key == ("no-picture" if no_modem else "nobody-answers")
        )
        panel.refresh()
        assert panel.go.isVisible(), panel.question.text()
        if spoiled or fault == "login-twice":
            assert any(row.cut for row in stage.spot.rows()) or fault == "login-twice"


def _symptoms():
    from umbra_awl.core.hotspot.logs.symptoms import shipped_symptoms

    return shipped_symptoms().symptom


def test_calibrated_to_the_end_by_keying(demo_window, stage, qtbot, tmp_path):
    window, bench = demo_window, demo_window.bench
    take_best_place(window, stage)
    with bench_spot(window, tmp_path, settings_text(bench.plan, "travel"), error_hz=-640, seed=4):
        asked(window, stage, qtbot, lambda spot: spot.status.modem == "ready")
        window.stages.open("hotspots", "calibrate")
        page = stage.curve
        for _time in range(14):
            qtbot.waitUntil(lambda: page.advice is not None, timeout=10_000)
            if page.advice.offset_hz is None:
                break
            page.offset.setText(f"{page.advice.offset_hz:+d}")
            count = len(page.readings)
            QTest.keyClick(page.key, Qt.Key.Key_Space)
            qtbot.waitUntil(lambda count=count: len(page.readings) == count + 1, timeout=10_000)
            idle(stage, qtbot)
        assert page.advice.offset_hz is None
        assert "Stop here" in page.told.text() or "take the middle" in page.told.text()
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        assert abs(bench.plan.hotspots[1].rx_correction_hz + 640) < 90
        window.stages.open("hotspots", "match")
        assert next(row for row in stage.match.picture.rows if row.field.key == "rx_correction").to_hotspot == "cut"
        stage.match.apply()
        idle(stage, qtbot)
        asked(window, stage, qtbot)
        assert next(row for row in stage.match.picture.rows if row.field.key == "rx_correction").to_hotspot == "joined"


@pytest.mark.parametrize("school", ["teach", "pose"])
def test_both_schools_are_rehearsed_and_the_trip_has_its_road_sheet(
    demo_window, stage, qtbot, tmp_path, monkeypatch, school
):
    window, bench = demo_window, demo_window.bench
    window.stages.open("hotspots", "wifi")
    page = stage.wifi
    QTest.keyClick(page.schools[school], Qt.Key.Key_Space)
    played = lambda: qtbot.waitUntil(lambda: not page.job.running, timeout=20_000)  # noqa: E731
    if school == "pose":
        page.sharing.setText("Harrowquay-7")
        page.sharing.editingFinished.emit()
    else:
        page.play()
        played()
        assert "capital" in page.told.text()
        page.known.setText("Harrowquay-7; Wren-Away")
        page.known.editingFinished.emit()
    faults = {
        "5 GHz": page.five,
        "fell asleep": page.sleeps,
        "before the phone shared": page.first,
        "login page": page.portal,
    }
    for told, box in faults.items():
        QTest.keyClick(box, Qt.Key.Key_Space)
        page.play()
        played()
        assert told in page.told.text(), page.told.text()
        QTest.keyClick(box, Qt.Key.Key_Space)
    page.one.setText("hush-hush")
    page.other.setText("hush-husk")
    page.play()
    played()
    assert "passwords differ" in page.told.text()
    page.other.setText("hush-hush")
    page._take_trip("nessa")
    page.play()
    played()
    assert page.told.text().startswith("It works"), page.told.text()
    target = tmp_path / "road.txt"
    monkeypatch.setattr(wifi_page, "ask_place", lambda *_a, **_k: FilePlace(target))
    page.ask_road()
    qtbot.waitUntil(target.exists, timeout=10_000)
    text = target.read_text()
    assert "Nessa" in text
    assert "Rehearsal: worked" in text
    assert bench.plan.trips[0].rehearsed.startswith("worked ")
    assert "hush" not in text
    assert bench.plan.hotspots[1].school == school


def test_pairing_begun_in_the_wrong_place_and_cured(demo_window, stage, qtbot):
    window = demo_window
    window.bench.choose_radio("fell")
    window.stages.open("hotspots", "phone")
    page = stage.phone
    QTest.keyClick(page.bench, Qt.Key.Key_Space)
    QTest.keyClick(page.wrong, Qt.Key.Key_Space)
    assert "Stuck" in page.proof.text()
    assert "backup" in page.reset.text()
    for _time in range(20):
        if not page.main.isEnabled():
            break
        QTest.keyClick(page.main, Qt.Key.Key_Space)
    assert page.told.text() == "Paired and proven."
    assert "the radio names" in page.proof.text()
    window.stages.open("hotspots", "path")
    assert page._bond is None


def test_a_log_read_from_the_page_is_the_one_the_calls_come_from(demo_window, stage, qtbot, tmp_path):
    window = demo_window
    take_best_place(window, stage)
    with bench_spot(window, tmp_path, settings_text(window.bench.plan, "travel")) as process:
        asked(window, stage, qtbot, lambda spot: spot.status.modem == "ready")
        Talk(process.address)._ask("POST", "/network", b'{"call": "Q9ODL", "to": "99900"}')
        asked(window, stage, qtbot, lambda spot: spot.status.calls)
        window.stages.open("hotspots", "find")
        assert stage.seek.calls.text(0, 1) == "Q9ODL"
        assert read_log_bytes(stage.spot.talk().log()).calls[0].call == "Q9ODL"


def test_a_new_hotspot_from_its_sheet_to_the_echo(demo_window, stage, qtbot, tmp_path, monkeypatch):
    """The sheet by keys, the settings as the plan says, the last step of the path pressed: its own log shows the echo."""
    from umbra_awl.desk.hotspots.add_sheet import AddHotspot

    def by_keys(sheet):
        sheet.show()
        qtbot.waitUntil(lambda: sheet.place.currentData() is not None)
        QTest.keyClicks(sheet.name, "Field spot")
        QTest.keyClick(sheet.name, Qt.Key.Key_Return)
        return int(bool(sheet.key))

    monkeypatch.setattr(AddHotspot, "exec", by_keys)
    window, spot = demo_window, stage.spot
    stage.head.add.setFocus()
    QTest.keyClick(stage.head.add, Qt.Key.Key_Space)
    assert (spot.access.site, stage.pages.name) == ("Field spot", "path")
    page = stage.pages.currentWidget()
    qtbot.waitUntil(lambda: window.bench.worked.fresh)
    path = tmp_path / "field.ini"
    path.write_text(settings_text(window.bench.plan, spot.key))
    with HotspotProcess(path, pace=PACE) as process:
        set_demo_spots(window, {spot.key: process.address})
        asked(window, stage, qtbot, lambda found: found.status.logged_in)
        last = len(page._steps) - 1
        assert not page._steps[last].done
        page._open(last)
        idle(stage, qtbot)
        assert "the echo came back" in stage.head.state.text()
        assert page._steps[last].done
    for _step in range(2):
        window.bench.steps.back()
    assert all(item.site != "Field spot" for item in window.bench.plan.access)
