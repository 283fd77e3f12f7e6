"""Drills in the window: five kinds by keyboard, a fault found on a copy, nothing of one's own touched, progress kept here."""

import hashlib
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from tests.days import TODAY
from umbra_awl.core.drills.fault import Maker
from umbra_awl.core.drills.rounds import is_right
from umbra_awl.core.drills.schedule import read_practice
from umbra_awl.core.drills.way import way_case
from umbra_awl.core.hotspot.wifi.secrets import MemoryStore
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.desk.hotspots.match.match_page import MatchPage
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.parts.saving import FilePlace


@pytest.fixture
def page(demo_window):
    demo_window.stages.open("log", "drills")
    made = demo_window.stages["log"].drills
    made.fault.jobs = lambda: Jobs(synchronous=True)
    yield made
    made.fault.end()


@pytest.fixture
def said(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    return told


def prints(folder):
    """What every file of a folder holds, but for progress and the directory's own side files."""
    return {
        path: hashlib.sha256(path.read_bytes()).hexdigest()
        for path in sorted(Path(folder).rglob("*"))
        if path.is_file() and path.name != "practice.json" and not path.name.startswith("directory.sqlite")
    }


def case(window, *keys):
    return Maker(window.bench.plan, window.bench.profiles.snapshot(), TODAY).case(3, len(keys), keys)


def choose(bar, key):
    bar.cause.setCurrentIndex(bar.cause.findData(key))
    bar.name_it()


def test_a_fault_is_found_on_a_copy_and_explained_and_nothing_of_ones_own_is_touched(demo_window, page, said):
    demo_window.plans.save()
    plan, before = demo_window.bench.plan, prints(demo_window.bench.document.path.parent)
    page.fault.open_case(case(demo_window, "encrypted"))
    drill = page.fault.window_
    assert "hidden" in drill.findings._nothing([])
    assert drill.bench.worked.results.findings == ()
    assert drill.foot.count.text() == "Findings are hidden"
    told = []
    drill.bench.said.connect(lambda text, _kind: told.append(text))
    drill.stages.open("transfer")
    assert "practice copy" in told[-1]
    assert drill.stages.current != "transfer"
    assert not drill.bench.open(demo_window.bench.document.path)
    drill.stages.open("hotspots", "find")
    spot = drill.stages["hotspots"].spot
    drill.runner.ways.set_spot(spot.key, "http://127.0.0.1:9")
    told.clear()
    spot.ask()
    assert not spot.running
    assert "practice copy" in told[-1]
    assert drill.bar.looks >= 1
    choose(drill.bar, "padding")
    assert "it is not" in told[-1]
    choose(drill.bar, "encrypted")
    drill.bar.judge_it()
    assert "Named 1 of 1, repaired 0 of 1" in told[-1]
    fault = drill.bar.case.faults[0]
    drill.bench.do(fault.finding.repair.edit)
    drill.book.add([drill.book.new_entry(next(iter(drill.bench.index.routes)), grade="echo")], "Log in the copy")
    drill.bar.judge_it()
    assert drill.bar.over
    assert fault.finding.text in drill.bar.told.text()
    assert fault.finding.rule.why in drill.bar.told.text()
    assert "1 of 1 found" in page.fault.told.text()
    assert page.coach.practice.cards["fault encrypted"].right == 1
    folder = drill.folder
    assert folder.exists()
    page.fault.end()
    assert not folder.exists()
    assert demo_window.bench.plan is plan
    assert prints(demo_window.bench.document.path.parent) == before
    assert demo_window.book.entries == ()


def test_giving_up_shows_what_it_was_and_it_comes_back_tomorrow(demo_window, page):
    page.fault.open_case(case(demo_window, "copied-slot", "wide-for-narrow"))
    drill = page.fault.window_
    drill.bar.end()
    assert drill.bench.worked.results.findings
    for item in drill.bar.case.faults:
        assert item.finding.text in drill.bar.told.text()
        assert page.coach.practice.cards[f"fault {item.slip.key}"].box == 0
    assert not drill.bar.judge.isEnabled()


def test_a_copy_of_a_practice_plan_says_what_it_is(demo_window, page, tmp_path):
    page.fault.open_case(case(demo_window, "encrypted"))
    window = page.fault.window_
    assert window.plans.copy(FilePlace(tmp_path / "copy.awl.json"))
    assert "practice copy" in read_plan(tmp_path / "copy.awl.json").name
    assert window.plans.share(FilePlace(tmp_path / "shared.awl.json"))
    assert "practice copy" in read_plan(tmp_path / "shared.awl.json").name


def test_a_drill_begins_with_what_is_due_and_one_at_a_time(demo_window, page, monkeypatch):
    monkeypatch.setattr(page.fault, "_first", lambda _due, _seed: "id-short")
    page.fault.source.setCurrentIndex(page.fault.source.findData("demo"))
    page.fault.begin()
    first = page.fault.window_
    assert first.bar.case.faults[0].slip.key == "id-short"
    page.fault.begin()
    assert page.fault.window_ is first
    assert "open already" in page.fault.told.text()
    demo_window.bench.closing.emit()
    assert page.fault.window_ is None


def test_what_lies_beside_the_plan_is_looked_at_answered_and_explained(demo_window, page, monkeypatch):
    monkeypatch.setattr(page.fault, "_first", lambda _due, _seed: "saved-not-sent")
    page.fault.begin()
    way = page.fault.way
    page.fault.look(0)
    page.fault.look(0)
    page.fault.cause.setCurrentIndex(page.fault.cause.findData("saved-not-sent"))
    page.fault.repairs.setCurrentRow((way.right + 1) % len(way.repairs))
    page.fault.answer_way()
    assert "The cause is right, the way on is not, with 1 looks" in page.fault.told.text()
    assert page.coach.practice.cards["fault saved-not-sent"].right == 0
    page.fault.show_way(way_case(demo_window.bench.index, "wrong-model", 1))
    page.fault.cause.setCurrentIndex(page.fault.cause.findData("wrong-model"))
    page.fault.repairs.setCurrentRow(page.fault.way.right)
    page.fault.answer_way()
    assert page.fault.told.text().startswith("Right")
    assert page.fault.way.finding in page.fault.told.text()


def test_a_memory_is_keyed_in_by_the_computers_keys_from_the_sheet_then_by_heart(demo_window, page):
    demo_window.bench.choose_radio("tarn")
    demo_window.commands.run("drill-keys")
    keypad, task = page.keys, page.keys.task
    named = {task.keypad.enter: Qt.Key.Key_Return, task.keypad.leave: Qt.Key.Key_Escape,
             task.keypad.up: Qt.Key.Key_Up, task.keypad.down: Qt.Key.Key_Down}  # fmt: skip

    def press(key):
        if key in named:
            QTest.keyClick(keypad, named[key])
        elif key.isdigit():
            QTest.keyClick(keypad, key)
        else:
            keypad.press(key)

    for step in task.entered.steps:
        for key in step.keys:
            press(key)
    keypad.judge()
    assert keypad.told.text().startswith("Right")
    assert "keys; the cheapest way takes" in keypad.count.text()
    assert page.coach.practice.cards["keys tarn"].right == 0  # from the sheet it is not known yet
    keypad.another()
    keypad.toggle_heart()
    assert keypad.sheet_title.text() == "By heart"
    for step in keypad.task.entered.steps:
        for key in step.keys:
            press(key)
    keypad.judge()
    assert page.coach.practice.cards["keys tarn"].right == 1


def test_a_slip_on_the_keypad_is_told_when_it_is_made_and_keys_are_clicked(demo_window, page):
    demo_window.bench.choose_radio("tarn")
    page.show_way("keys")
    keypad = page.keys
    for key in ("LIST", "0", "4", "7", "6"):
        keypad.buttons[key].click()
    assert keypad.bottom.text() == "76___"
    keypad.buttons["LIST"].click()
    assert "2 of 5 digits" in keypad.told.text()
    keypad.judge()
    assert "Nothing is saved" in keypad.told.text()


def test_a_round_of_fields_and_figures_is_answered_by_keyboard(demo_window, page):
    demo_window.commands.run("drill-questions")
    panel, kinds = page.questions, set()
    answered = 0
    while panel.question is not None:
        question = panel.question
        kinds.add(question.kind)
        if question.pieces:
            order = question.answer.split("\n")
            for at, step in enumerate(order):
                while panel.pieces.texts().index(step) > at:
                    panel.pieces.setCurrentRow(panel.pieces.texts().index(step))
                    QTest.keyClick(panel.pieces, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
            panel.go.click()
        elif question.choices:
            panel.choices.setCurrentRow(question.choices.index(question.answer))
            panel.go.click()
        else:
            panel.typed.setText(question.answer)
            QTest.keyClick(panel.typed, Qt.Key.Key_Return)
        assert panel.told.text().startswith("Right"), question
        assert is_right(question, question.answer)
        answered += 1
        panel.go_on()
    assert answered == panel.count == 8
    assert len(kinds) >= 3
    assert "8 of 8 right" in panel.ask.text()
    kept = read_practice(page.coach.path)
    assert sum(card.right for card in kept.cards.values()) == 8
    assert f"{len(page.coach.questions()) - 8} never asked" in page.told.text()


def test_a_wrong_answer_tells_the_right_one_and_why(demo_window, page):
    page.show_way("questions")
    panel = page.questions
    panel.left = [item for item in page.coach.questions().values() if item.kind == "D-STAR fields"][:1]
    panel._next()
    panel.typed.setText("CQ")
    assert panel.places.isVisibleTo(panel)
    assert panel.places.accessibleName().endswith("CQ······")
    panel.go_on()
    assert panel.so_far.text(0, 0) == f"No: {panel.question.ask}"
    assert panel.told.text().startswith("No: it is ")
    assert "·" in panel.told.text() or len(panel.question.answer.strip()) == 8
    assert page.coach.practice.cards[panel.question.key].box == 0


def test_where_progress_cannot_be_kept_it_is_said(demo_window, page, said, monkeypatch):
    page.coach.path.parent.mkdir(parents=True, exist_ok=True)
    page.coach.path.mkdir()
    page.coach.answer("fault padding", right=True)
    assert "cannot be kept" in said[-1]


def test_nothing_in_the_practice_window_reaches_a_radio_a_hotspot_or_a_service(
    demo_window, page, monkeypatch, tmp_path
):
    from umbra_awl.core.directory.download import OfferedFile

    page.fault.open_case(case(demo_window, "encrypted"))
    drill = page.fault.window_
    told, begun = [], []
    drill.bench.said.connect(lambda text, _kind: told.append(text))
    port = tmp_path / "port"
    port.write_text("a port that must not be opened")
    drill.runner.set_port(str(port))
    drill.stages.open("hotspots", "find")
    drill.stages.open("access", "imports")
    seek, imports = drill.stages["hotspots"].seek.seek, drill.stages["access"].imports
    seek.name.setText("spot.invalid")
    imports.address.setText("http://registry.invalid")
    for name in ("start", "latest", "keep"):
        monkeypatch.setattr(drill.bench.jobs, name, lambda *_args, **_named: begun.append(1))
    monkeypatch.setattr(drill.directory.tasks, "run", lambda *_args: begun.append(1))
    own = type("Own", (), {"network": None, "device": ""})()
    offered = OfferedFile("a.csv", "access", "a list", 1, "", "2026-11-27")
    reaching = (
        drill.runner.read, seek.by_name, lambda: seek.look_at(own), imports.services.ask_service,
        lambda: imports.services.fetch(offered),
        drill.stages["hotspots"].spot.ask, lambda: drill.commands.run("read"),
    )  # fmt: skip
    for does in reaching:
        told.clear()
        does()
        assert begun == []
        assert "practice copy" in told[-1]
    assert not drill.runner.running
    page.fault.end()


def test_what_is_typed_in_practice_reaches_no_key_store_and_is_refused_before(demo_window, page, monkeypatch):
    page.fault.open_case(case(demo_window, "encrypted"))
    drill = page.fault.window_
    told, asked = [], []
    drill.bench.said.connect(lambda text, _kind: told.append(text))
    monkeypatch.setattr(
        "umbra_awl.desk.hotspots.match.match_page.ask_secret", lambda *_all: asked.append(1) or "hush-hush"
    )
    drill.stages.open("hotspots", "match")
    spot = drill.stages["hotspots"].spot
    assert spot.secrets is drill.bench.secrets is not demo_window.bench.secrets
    assert isinstance(spot.secrets.store, MemoryStore)
    match = drill.findChildren(MatchPage)[0]
    for act in (match.ask_page, match.ask_key, match.ask_master):
        act()
    assert asked == []
    assert "practice copy" in told[-1]
