import pytest
from PyQt6.QtWidgets import QFileDialog, QInputDialog

from umbra_awl.core.plan.store import read_plan
from umbra_awl.desk.frame.plan_menu import new_plan


@pytest.fixture
def answers(monkeypatch):
    """What the file and text dialogs answer next."""
    given = {}
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_words: (given.get("save", ""), ""))
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_words: (given.get("open", ""), ""))
    monkeypatch.setattr(QInputDialog, "getText", lambda *_words, **_more: given.get("text", ("", False)))
    return given


def labels(menu):
    return [action.text().split("\t")[0] for action in menu.actions() if action.text()]


def test_the_menu_offers_what_can_be_done(window):
    menu = window.plans.menu()
    assert labels(menu) == [
        "New plan …",
        "Open …",
        "Recent",
        "Save",
        "Save a copy …",
        "Save a copy to share …",
        "Name the plan …",
        "Open an older save",
    ]
    menu.deleteLater()


def test_a_new_plan_gets_its_suffix_and_opens(window, answers, tmp_path):
    answers["save"] = str(tmp_path / "mine")
    window.plans.ask_new()
    assert window.bench.document.path == tmp_path / "mine.awl.json"
    assert read_plan(tmp_path / "mine.awl.json") == new_plan()


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
    assert "was not written" in window.message.text()


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
    assert len(older.actions()) == 1
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
    from umbra_awl.core.plan.store import Document

    elsewhere = Document.open(demo.plan)
    empty_window.plans.open(demo.plan)
    assert "open in another window" in empty_window.message.text()
    assert empty_window.bench.document is None
    elsewhere.close()
