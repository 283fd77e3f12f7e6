import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMessageBox

from tests.days import LOCAL
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.desk.frame.plans import plan_menu
from umbra_awl.desk.frame.plans.plan_menu import new_plan
from umbra_awl.desk.parts import saving
from umbra_awl.desk.parts.asking import CANCEL, ask


@pytest.fixture
def answers(monkeypatch):
    """What the file and text dialogs answer next."""
    given = {"asked": []}

    def names(*_words, **_more):
        save = given.get("save", "")
        return (save.pop(0) if isinstance(save, list) else save), ""

    def answer(_parent, _title, question, answers):
        given["asked"].append((question, answers))
        return given.get("answer", CANCEL)

    monkeypatch.setattr(QFileDialog, "getSaveFileName", names)
    monkeypatch.setattr(plan_menu, "ask", answer)
    monkeypatch.setattr(saving, "ask", answer)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_words: (given.get("open", ""), ""))
    monkeypatch.setattr(QInputDialog, "getText", lambda *_words, **_more: given.get("text", ("", False)))
    return given


def labels(menu):
    return [action.text().split("\t")[0] for action in menu.actions() if action.text()]


def test_the_menu_offers_what_can_be_done(window):
    menu = window.plans.menu()
    assert labels(menu) == [
        "New plan",
        "New plan in a file …",
        "Open …",
        "Recent",
        "Save",
        "Save a copy …",
        "Save a copy to share …",
        "Name the plan …",
        "From other hands",
        "Open an older save",
    ]
    menu.deleteLater()


def test_a_new_plan_gets_its_suffix_and_opens(window, answers, tmp_path):
    answers["save"] = str(tmp_path / "mine")
    window.plans.ask_new()
    assert window.bench.document.path == tmp_path / "mine.awl.json"
    assert read_plan(tmp_path / "mine.awl.json") == new_plan()


@pytest.fixture
def other_plan(tmp_path, plan):
    """A plan of somebody else's beside the open one."""
    path = tmp_path / "other.awl.json"
    path.write_bytes(plan_bytes(plan))
    return path


@pytest.mark.parametrize("typed", ["other", "other.awl.json"])
def test_a_new_plan_never_replaces_one_that_is_there(window, answers, other_plan, plan, typed):
    """The dialog asked about the name as typed; what counts is the name with its ending."""
    answers["save"] = str(other_plan.with_name(typed))
    before = window.bench.document.path
    window.plans.ask_new()
    assert answers["asked"][0][1] == ["Open it", "Choose another name"]
    assert read_plan(other_plan) == plan
    assert window.bench.document.path == before
    answers["answer"] = "Open it"
    window.plans.ask_new()
    assert window.bench.document.path == other_plan


def test_another_name_can_be_chosen_for_a_new_plan(window, answers, other_plan, plan, tmp_path):
    answers.update(save=[str(other_plan), str(tmp_path / "mine")], answer="Choose another name")
    window.plans.ask_new()
    assert window.bench.document.path == tmp_path / "mine.awl.json"
    assert read_plan(other_plan) == plan


def test_a_new_plan_onto_one_that_comes_meanwhile_is_refused(window, other_plan, plan):
    """As when another process was quicker between asking and writing."""
    window.plans.new(other_plan)
    assert "is there already" in window.message.text()
    assert read_plan(other_plan) == plan


def test_a_copy_replaces_only_when_that_is_answered_and_keeps_what_was_there(window, answers, other_plan, plan):
    window.findings.repair_first()
    answers["save"] = str(other_plan)
    window.plans.ask_copy()
    assert read_plan(other_plan) == plan
    answers["answer"] = "Replace it"
    window.plans.ask_copy()
    assert read_plan(other_plan) == window.bench.plan != plan
    assert read_plan(list_saves(other_plan)[0].path) == plan


def test_a_copy_onto_an_open_plan_is_refused_wherever_it_is_open(window, answers, other_plan, plan, demo):
    answers.update(save=str(demo.plan), answer="Replace it")
    window.plans.ask_copy()
    assert "is the plan you have open" in window.message.text()
    elsewhere = Document.open(other_plan, LOCAL)
    answers["save"] = str(other_plan)
    window.plans.ask_copy()
    assert "open in another window" in window.message.text()
    assert read_plan(other_plan) == plan
    elsewhere.close()


@pytest.mark.parametrize(
    ("key", "given"), [(Qt.Key.Key_Return, CANCEL), (Qt.Key.Key_Escape, CANCEL), (None, "Replace it")]
)
def test_a_question_is_plain_text_and_its_safe_answer_is_chosen(qtbot, window, key, given):
    seen = []

    def answer():
        box = window.findChild(QMessageBox)
        seen.append((box.text(), box.textFormat()))
        if key is None:
            box.buttons()[0].click()
        else:
            qtbot.keyClick(box, key)

    QTimer.singleShot(50, answer)
    assert ask(window, "Title", "Replace <b>it</b>?", ["Replace it"]) == given
    assert seen == [("Replace <b>it</b>?", Qt.TextFormat.PlainText)]


def test_giving_no_name_does_nothing(window, answers):
    before = window.bench.document.path
    window.plans.ask_new()
    window.plans.ask_open()
    window.plans.ask_copy()
    window.plans.ask_name()
    assert window.bench.document.path == before


def test_opening_another_and_coming_back_by_recent(window, answers, tmp_path, demo):
    answers["save"] = str(tmp_path / "other.awl.json")
    window.plans.ask_new()
    answers["open"] = str(demo.plan)
    window.plans.ask_open()
    assert window.bench.plan.name == "Home, town and Nessa"
    menu = window.plans.menu()
    recent = next(action.menu() for action in menu.actions() if action.text() == "Recent")
    assert [action.text() for action in recent.actions()] == ["velmar.awl.json", "other.awl.json"]
    recent.actions()[1].trigger()
    assert window.bench.document.path.name == "other.awl.json"
    menu.deleteLater()


def test_a_copy_is_written_and_work_goes_on_here(window, answers, tmp_path):
    window.findings.repair_first()
    answers["save"] = str(tmp_path / "copy")
    window.plans.ask_copy()
    assert read_plan(tmp_path / "copy.awl.json") == window.bench.plan
    assert window.bench.document.path.name == "velmar.awl.json"
    assert window.bench.document.unsaved


def test_a_copy_that_cannot_be_written_is_said(window, answers, tmp_path):
    answers["save"] = str(tmp_path / "no" / "folder" / "copy.awl.json")
    window.plans.ask_copy()
    assert "cannot be written" in window.message.text()


def test_a_new_plan_that_cannot_be_written_leaves_the_present_one(window, tmp_path):
    window.plans.new(tmp_path / "no" / "folder" / "x.awl.json")
    assert "cannot be written" in window.message.text()
    assert window.bench.plan.name == "Home, town and Nessa"


def test_naming_the_plan(window, answers):
    answers["text"] = ("Winter", True)
    window.plans.ask_name()
    assert window.top.plan.text().startswith("Winter")


def test_older_saves_are_in_the_menu_and_a_damaged_one_is_said(window):
    window.bench.save()
    menu = window.plans.menu()
    older = next(action.menu() for action in menu.actions() if action.text() == "Open an older save")
    assert len(older.actions()) == 2, "the first state and what was saved"
    save = window.bench.document.saves()[0]
    save.path.unlink()
    save.path.write_bytes(b"{")
    older.actions()[0].trigger()
    assert "was not opened" in window.message.text()
    menu.deleteLater()


def test_the_same_plan_is_not_opened_twice(window, demo):
    window.plans.open(demo.plan)
    assert "is open already" in window.message.text()


def test_a_plan_open_elsewhere_is_refused(empty_window, demo):
    elsewhere = Document.open(demo.plan, LOCAL)
    empty_window.plans.open(demo.plan)
    assert "open in another window" in empty_window.message.text()
    assert empty_window.bench.document is None
    elsewhere.close()
