"""What every desktop program has: a full menu, help offline, files dropped, a menu under the pointer, settings, size."""

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QContextMenuEvent, QDragEnterEvent, QDropEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QDialog, QLabel, QMenu

from umbra_awl.desk.frame.background import tell_desktop
from umbra_awl.desk.frame.full_menu import MENUS, full_menu, page_menu
from umbra_awl.desk.frame.plans.dropping import WAYS, drop
from umbra_awl.desk.frame.sheets.help_sheet import HelpSheet, help_texts
from umbra_awl.desk.frame.sheets.settings_sheet import SettingsSheet
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stages import STAGES, TITLES


def leaves(menu):
    for action in menu.actions():
        inner = action.menu()
        if inner is not None:
            yield from leaves(inner)
        elif action.text():
            yield action


def test_every_command_stands_in_the_full_menu_with_its_keys_and_why_it_cannot_be_done(demo_window):
    menu = full_menu(demo_window, demo_window.bench, demo_window.commands, demo_window.icons)
    assert [action.text().replace("&", "") for action in menu.actions()] == list(MENUS)
    told = {action.text().partition("\t")[0]: action for action in leaves(menu)}
    assert set(told) == {command.words for command in demo_window.commands}
    assert told["Undo"].text() == "Undo\tCtrl+Z"
    for command in demo_window.commands:
        why = command.when(demo_window.bench)
        assert told[command.words].isEnabled() == (not why)
        assert not why or told[command.words].toolTip() == why
    told["Change between light and dark"].trigger()
    assert demo_window.theme.choice in {"light", "dark"}


def test_without_a_plan_what_needs_one_says_so(empty_window):
    menu = full_menu(empty_window, empty_window.bench, empty_window.commands, empty_window.icons)
    save = next(action for action in leaves(menu) if action.text().startswith("Save the plan"))
    assert not save.isEnabled()
    assert "Open a plan" in save.toolTip()


@pytest.mark.parametrize(("key", "page"), [(key, page) for key, entry in STAGES.items() for page in entry.pages])
def test_every_page_has_help(key, page):
    text = help_texts()[key][page]
    assert 60 < len(text) < 600
    assert text.endswith(".")


def test_there_is_no_help_for_pages_that_are_not_there():
    for key, texts in help_texts().items():
        if key != "anywhere":
            assert set(texts) == set(STAGES[key].pages)


def test_help_shows_the_page_and_its_keys(demo_window):
    sheet = HelpSheet(demo_window, demo_window.commands, "routes", "Routes", "sheet")
    shown = [label.text() for label in sheet.findChildren(QLabel)]
    assert help_texts()["routes"]["sheet"] in shown
    assert "Keys at Routes" in shown
    assert "Ctrl+Z" in shown


def test_keys_of_a_desktop(demo_window, monkeypatch):
    shown, popped = [], []
    monkeypatch.setattr(QDialog, "exec", lambda sheet: shown.append(type(sheet).__name__) or 0)
    monkeypatch.setattr(QMenu, "popup", lambda *_given: popped.append(1))
    for name in ("help", "window-settings", "menu"):
        demo_window.commands.run(name)
    assert shown == ["HelpSheet", "SettingsSheet"]
    assert popped == [1]
    demo_window.stages.open("log", "entries")
    demo_window.commands.run("page-search")
    assert "earch" in QApplication.focusWidget().accessibleName() + QApplication.focusWidget().placeholderText()
    demo_window.stages.open("radios", "own")
    demo_window.commands.run("page-search")
    assert demo_window.top.isAncestorOf(QApplication.focusWidget())


def test_settings_hold_at_once_and_next_time(demo_window):
    sheet = SettingsSheet(demo_window, demo_window.bench, demo_window.theme, demo_window.settings)
    sheet._take_theme("dark")
    sheet._take_scale(1.15)
    sheet._measure("mark", ",")
    assert (demo_window.theme.choice, demo_window.theme.scale) == ("dark", 1.15)
    kept = demo_window.settings.kept
    assert (kept.theme, kept.scale, kept.mark) == ("dark", 1.15, ",")


def test_a_menu_under_the_pointer_has_the_acts_of_the_page(demo_window, monkeypatch):
    demo_window.stages.open("routes", "sheet")
    menu = page_menu(demo_window, demo_window.bench, demo_window.commands, TITLES["routes"])
    words = [action.text().partition("\t")[0] for action in leaves(menu)]
    assert "Copy what is selected" in words
    assert len(words) > 5
    popped = []
    monkeypatch.setattr(QMenu, "popup", lambda *_given: popped.append(1))
    at = demo_window.rect().center()
    event = QContextMenuEvent(QContextMenuEvent.Reason.Keyboard, at, demo_window.mapToGlobal(at))
    QApplication.sendEvent(demo_window, event)
    assert popped == [1]


def test_files_that_are_dropped_go_where_they_belong(demo_window, demo, tmp_path, qtbot):
    took = []
    window = demo_window
    for stage, page in (("log", "nets"), ("hotspots", "match")):
        window.stages.open(stage, page)
    window.stages["log"].nets.files.bring_in = lambda path: took.append(("nets", path.name))
    window.stages["hotspots"].match.file.open_file = lambda path: took.append(("settings", path.name))
    window.hands.look_into = lambda path: took.append(("pack", path.name))
    files = [tmp_path / name for name in ("a.ics", "b.ini", "c.zip", "d.what")]
    for path in files:
        path.write_bytes(b"x")
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path)) for path in files])
    held = (Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    for event in (QDragEnterEvent(QPoint(10, 10), *held), QDropEvent(QPointF(10, 10), *held)):
        QApplication.sendEvent(window, event)
    assert took == [("nets", "a.ics"), ("settings", "b.ini"), ("pack", "c.zip")]
    assert "belongs nowhere here" in window.message.text()


def test_the_window_comes_back_in_its_size(qtbot, qapp, tmp_path):
    from umbra_awl.desk.app import build

    path = tmp_path / "window.json"
    first = build(qapp, Settings(path), synchronous=True)
    qtbot.addWidget(first)
    first.resize(1111, 777)
    first.show()
    first.close()
    QTest.qWait(20)
    second = build(qapp, Settings(path), synchronous=True)
    qtbot.addWidget(second)
    assert (second.width(), second.height()) == (1111, 777)


@pytest.mark.parametrize("ending", sorted(ending for way in WAYS for ending in way.endings))
@pytest.mark.parametrize("plan", ["new", *(pytest.param(plan, marks=pytest.mark.night) for plan in ("demo", "none"))])
def test_every_kind_of_file_that_is_dropped_is_taken_or_said(request, qtbot, tmp_path, ending, plan):
    """A file with nothing of its kind in it, on the demo, on a new plan and with no plan at all: never silence, never a fault."""
    window = request.getfixturevalue("demo_window" if plan == "demo" else "empty_window")
    if plan == "new":
        window.plans.new(tmp_path / "p.awl.json")
    path = tmp_path / f"file{ending}"
    path.write_bytes(b"\0\1\2\3" * 50)
    before = window.bench.plan
    window.message.close_all()
    drop(window, path, window.plans.open, window.hands.look_into)

    def answered():
        hotspots = window.stages.get("hotspots")
        return bool(window.message.text()) or (
            ending == ".log" and hotspots.spot.log is not None and hotspots.seek.isVisible()
        )

    qtbot.waitUntil(answered, timeout=10_000)
    assert window.bench.plan is before


def test_long_work_that_ends_while_one_looks_elsewhere_is_told_once(demo_window, qtbot, monkeypatch):
    window, told = demo_window, []
    window.background.tell = lambda head, text: told.append((head, text))
    monkeypatch.setattr("umbra_awl.desk.frame.background.LONG_S", 0.0)
    monkeypatch.setattr(type(window), "isActiveWindow", lambda _window: False)
    plain = window.windowTitle()
    window.bench.jobs.start(lambda: 7, lambda _seven: window.bench.say("Seven was found."), lambda _error: None)
    assert window.windowTitle() == f"Working … {plain}"
    qtbot.waitUntil(lambda: bool(told))
    assert told == [("Umbra Awl has done", "Seven was found.")]
    assert window.windowTitle() == f"Done: {plain}"
    QApplication.sendEvent(window, QEvent(QEvent.Type.WindowActivate))
    assert window.windowTitle() == plain


def test_short_work_or_work_that_is_watched_is_not_told(demo_window, qtbot):
    window, told, ended = demo_window, [], []
    window.background.tell = lambda *words: told.append(words)
    window.bench.jobs.long_ended.connect(ended.append)
    window.bench.jobs.start(lambda: 7, lambda _seven: None, lambda _error: None)
    qtbot.waitUntil(lambda: bool(ended))
    assert told == []
    assert not window.windowTitle().startswith(("Working", "Done"))


def test_without_a_desktop_no_notice_is_shown(monkeypatch):
    class Away:
        def isConnected(self):  # noqa: N802 (the toolkit names it)
            return False

    monkeypatch.setattr("PyQt6.QtDBus.QDBusConnection.sessionBus", Away)
    assert tell_desktop("x", "y") is False


def test_work_whose_result_cannot_be_shown_ends_all_the_same(demo_window, qtbot):
    ended = []
    demo_window.bench.jobs.long_ended.connect(ended.append)
    with qtbot.captureExceptions():
        demo_window.bench.jobs.start(lambda: 7, lambda _seven: 1 / 0, lambda _error: None)
        qtbot.waitUntil(lambda: bool(ended))
    assert not demo_window.windowTitle().startswith("Working")


def test_what_was_changed_last_is_one_list(demo_window):
    from umbra_awl.core.plan.edit.edits import Edit
    from umbra_awl.desk.frame.sheets.changed_sheet import ChangedSheet

    bench = demo_window.bench
    bench.do(Edit("No zones", lambda plan: replace(plan, zones=())))
    demo_window.plans.save()
    bench.do(Edit("No scan lists", lambda plan: replace(plan, scans=())))
    sheet = ChangedSheet(demo_window, bench, demo_window.theme, ())
    rows = sheet.table.texts.rows
    assert rows[0][0] == "now"
    assert any("scan list" in row[2] for row in rows)
    assert "changed" in [command.name for command in demo_window.commands.offered()]
