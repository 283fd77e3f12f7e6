"""The log in the real window: three proofs, one aged, one changed; 5,000 records; a net over clock changes; drills; a merge."""

from datetime import datetime, timedelta

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from tests.days import MOMENT, TODAY
from umbra_awl.core.agenda.net_edits import add_net
from umbra_awl.core.drills.fault import Maker
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import Edit, rename_plan
from umbra_awl.core.plan.model import Net
from umbra_awl.desk.hands.merge_window import MergeWindow
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.log import nets_page, proof_page
from umbra_awl.desk.parts.saving import FilePlace

pytestmark = pytest.mark.journey
KEY = Qt.Key
FIRST, SECOND, THIRD = "blackfell-dmr>isles-wide@2", "cairnlow-dmr>nessa-torrick@1", "harrowquay-fm>local@0"


def test_three_routes_are_proven_one_ages_one_changes_and_the_pocket_says_what_next(
    demo_window, qtbot, tmp_path, monkeypatch
):
    demo_window.stages.open("log", "proof")
    stage = demo_window.stages["log"]
    card, book = stage.proof.card, demo_window.book
    for key in (FIRST, SECOND, THIRD):
        card.route.setFocus()
        card.route.setText(demo_window.bench.index.labels.of(demo_window.bench.index.routes[key]))
        QTest.keyClick(card.route, KEY.Key_Return)
        QTest.keyClicks(card.call, "q3amb")
        card.grade.setCurrentIndex(card.grade.findData("answered"))
        QTest.keyClick(card.note, KEY.Key_Return)
    assert [book.proofs[key].sound for key in (FIRST, SECOND, THIRD)] == [True, True, True]
    old = next(item for item in book.entries if item.route == SECOND)
    past = (MOMENT - timedelta(days=400)).strftime("%Y-%m-%dT%H:%M:%SZ")
    book.change(old, "It was long ago", utc=past)
    demo_window.bench.do(set_air("blackfell-dmr", "Another code", color_code=7))
    assert book.proofs[SECOND].age == "old"
    assert book.proofs[FIRST].changed == ("color code 6 → 7",)
    assert not stage.proof.map.viewport().grab().isNull()
    listed = [item.route for item in stage.proof.next]
    monkeypatch.setattr(proof_page, "ask_place", lambda *_asked: FilePlace(tmp_path / "next.txt"))
    demo_window.commands.run("log-next")
    text = (tmp_path / "next.txt").read_text("utf-8")
    assert "prove next" in text
    assert any(route in {FIRST, SECOND} or route.startswith(("blackfell", "cairnlow")) for route in listed)
    assert THIRD not in listed


def test_five_thousand_records_by_another_hands_habits_are_imported_and_searched(demo_window, qtbot, tmp_path):
    records = [
        f"<call:5>Q{at % 10}A{chr(65 + at % 26)}{chr(65 + at // 26 % 26)} <QSO_DATE:8:D>2024{at % 12 + 1:02d}{at % 28 + 1:02d}"
        f"<time_on:4>{at % 24:02d}{at // 24 % 60:02d} <mode:2>FM<my_rig:6>Tarn16<comment:{len(str(at)) + 7}>number {at}<eor>"
        for at in range(5_000)
    ]
    path = tmp_path / "their.adi"
    path.write_text("made elsewhere\n<adif_ver:5>3.0.9<eoh>\n" + "\n".join(records) + "\n<call:3>BAD<eor>\n")
    demo_window.stages.open("log", "entries")
    page = demo_window.stages["log"].entries
    page.files.bring_in(path)
    qtbot.waitUntil(lambda: len(demo_window.book.entries) == 5_000, timeout=20_000)
    assert "1 with something wrong (record 5001" in demo_window.message.text()
    page.take_focus()
    QTest.keyClicks(page.search, "number 4321")
    assert [item.note for item in page.shown] == ["number 4321"]
    assert page.shown[0].more["MY_RIG"] == "Tarn16"
    page.search.clear()
    assert "of 5,000 entries" in page.told.text()
    demo_window.bench.steps.back()
    assert demo_window.book.entries == ()


def test_a_net_over_clock_changes_on_both_sides_stands_at_the_right_hour(demo_window, monkeypatch):
    bench = demo_window.bench
    bench.do(Edit("Without nets", lambda plan: replace(plan, nets=())))
    bench.do(
        add_net(
            bench.plan, Net("", "Far net", time_zone="America/New_York", begins="2026-03-01", at="19:00", days=(6,))
        )
    )
    monkeypatch.setattr(nets_page, "home_zone", lambda: "Europe/Athens")
    hours = []
    for day in ("2026-03-02", "2026-03-09", "2026-03-23", "2026-03-30"):
        moment = datetime.fromisoformat(f"{day}T00:00:00+00:00") - timedelta(hours=12)
        bench.clock = Clock(moment)
        demo_window.stages.open("log", "nets")
        page = demo_window.stages["log"].nets
        page.refresh()
        hours.append(page.week.blocks[0].begins)
        assert not page.week.grab().isNull()
    # New York moves on 8 March, Athens on 29 March
    assert hours == [2.0, 1.0, 1.0, 2.0]


def test_five_drills_by_keyboard(demo_window, qtbot):
    demo_window.commands.run("drill-questions")
    drills = demo_window.stages["log"].drills
    panel, done = drills.questions, 0
    panel.left = [
        item for item in drills.coach.questions().values() if item.kind in {"Offsets", "Spelling", "D-STAR fields"}
    ][:3]
    panel.count = 3
    panel._next()
    while panel.question is not None:
        QTest.keyClicks(panel.typed, panel.question.answer)
        QTest.keyClick(panel.typed, KEY.Key_Return)
        assert panel.told.text().startswith("Right")
        QTest.keyClick(panel.typed, KEY.Key_Return)
        done += 1
    demo_window.bench.choose_radio("tarn")
    demo_window.commands.run("drill-keys")
    keypad = drills.keys
    for key in ("LIST", "0", "2", "4", "3"):
        QTest.keyClick(keypad, KEY.Key_Return) if key == "LIST" else QTest.keyClicks(keypad, key)
    QTest.keyClick(keypad, KEY.Key_Return)
    assert "2 of 8 digits" in keypad.told.text()
    done += 1
    drills.show_way("fault")
    drills.fault.jobs = lambda: Jobs(synchronous=True)
    case = Maker(demo_window.bench.plan, demo_window.bench.profiles.snapshot(), TODAY).case(3, 1, ["command-left"])
    drills.fault.open_case(case)
    drill = drills.fault.window_
    qtbot.waitExposed(drill)
    drill.bar.cause.setFocus()
    drill.bar.cause.setCurrentIndex(drill.bar.cause.findData("command-left"))
    QTest.keyClick(drill.bar.name, KEY.Key_Space)
    drill.bench.do(case.faults[0].finding.repair.edit)
    QTest.keyClick(drill.bar.judge, KEY.Key_Space)
    assert drill.bar.over
    assert not drill.grab().isNull()
    drills.fault.end()
    assert done + 1 == 5
    assert drills.coach.practice.cards["fault command-left"].right == 1


def test_a_merge_with_conflicts_is_answered_by_keyboard_and_taken_back(demo_window, tmp_path):
    bench = demo_window.bench
    demo_window.plans.save()
    theirs = tmp_path / "theirs.awl.json"
    theirs.write_bytes(
        plan_bytes(rename_plan("Theirs").apply(set_air("blackfell-dmr", "x", color_code=8).apply(bench.plan)))
    )
    bench.do(set_air("blackfell-dmr", "Mine", color_code=7))
    bench.do(rename_plan("Mine"))
    demo_window.plans.save()
    mine, seen = bench.plan, []

    def answer():
        sheet = QApplication.activeModalWidget()
        assert isinstance(sheet, MergeWindow)
        seen.append(len(sheet.found.questions))
        for _question in sheet.found.questions:
            QTest.keyClick(sheet.questions, KEY.Key_T)
        seen.append(sheet.go.text())
        sheet.go.click()

    QTimer.singleShot(300, answer)
    demo_window.hands.merge(theirs)
    assert seen[0] >= 1
    assert seen[1] == "Merge"
    assert bench.plan.name == "Theirs"
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 8
    bench.steps.back()
    assert bench.plan == mine
