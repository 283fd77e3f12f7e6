"""Nets in the window: added by keyboard, changed, clashing, imported and saved, reminded of, reached; who is awake."""

from datetime import UTC, datetime, timedelta

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication

from umbra_awl.core.agenda.net_edits import add_net
from umbra_awl.core.keep.clock import Clock
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import Net
from umbra_awl.desk.log import net_files, nets_page
from umbra_awl.desk.parts.saving import FilePlace

NOW = datetime(2026, 11, 27, 19, 0, tzinfo=UTC)  # a Friday


@pytest.fixture
def page(demo_window, monkeypatch):
    demo_window.bench.clock = Clock(NOW)
    monkeypatch.setattr(nets_page, "home_zone", lambda: "Etc/UTC")
    demo_window.bench.do(Edit("Without nets", lambda plan: replace(plan, nets=())))
    demo_window.stages.open("log", "nets")
    return demo_window.stages["log"].nets


@pytest.fixture
def said(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    return told


def put(window, *nets):
    for net in nets:
        window.bench.do(add_net(window.bench.plan, net))


FRIDAY = Net("", "Isles net", "isles-wide", begins="2026-11-06", at="19:30", days=(4,))
DAILY = Net("", "Slow round", "slow-speech", begins="2026-11-06", at="20:00", every="day", minutes=45)


def test_a_net_is_added_by_keyboard_and_taken_back(demo_window, page):
    def fill():
        sheet = QApplication.activeModalWidget()
        QTest.keyClicks(sheet.name, "Isles net")
        sheet.whom.setCurrentIndex(sheet.whom.findData("isles-wide"))
        QTest.keyClicks(sheet.days, "Fri")
        QTest.keyClick(sheet.at, Qt.Key.Key_Return)  # no hour yet: the usual one is taken
        seen.append(sheet.told.text())

    seen = []
    QTimer.singleShot(0, fill)
    demo_window.commands.run("log-net-add")
    assert "every Friday" in seen[0]
    assert [item.name for item in demo_window.bench.plan.nets] == ["Isles net"]
    assert "Isles net, in 0 h 30 min" in page.told.text() or "in 30 min" in page.told.text()
    assert "Isles net Friday 19:30" in page.week.accessibleName()
    demo_window.bench.steps.back()
    assert demo_window.bench.plan.nets == ()


def test_a_wrong_hour_is_refused_under_its_field_and_a_right_one_is_taken(demo_window, page):
    put(demo_window, FRIDAY)
    page.fields.edit("At")
    typing = demo_window.focusWidget()
    typing.selectAll()
    QTest.keyClicks(typing, "7 pm")
    QTest.keyClick(typing, Qt.Key.Key_Return)
    assert typing.isVisible()
    assert demo_window.bench.plan.nets[0].at == "19:30"
    typing.selectAll()
    QTest.keyClicks(typing, "20:15")
    QTest.keyClick(typing, Qt.Key.Key_Return)
    assert demo_window.bench.plan.nets[0].at == "20:15"


@pytest.mark.parametrize(
    ("label", "text", "field", "value"),
    [("On", "Mon, Wed", "days", (0, 2)), ("So many", "2", "step", 2), ("Reminder", "never", "remind_minutes", -1),
     ("Reminder", "30 min", "remind_minutes", 30),
     ("Not on", "2026-12-25", "skips", ("2026-12-25",)), ("Lasts", "90 min", "minutes", 90),
     ("Time zone", "Europe/Athens", "time_zone", "Europe/Athens"), ("Last day", "", "until", "")],
)  # fmt: skip
def test_each_field_takes_what_is_typed(demo_window, page, label, text, field, value):
    put(demo_window, FRIDAY)
    shown = next(item for item in page._editor.fields(page.net) if item.label == label)
    assert shown.commit(text) == ""
    assert getattr(demo_window.bench.plan.nets[0], field) == value
    wrong = {"On": "Someday", "So many": "two", "Not on": "Christmas", "Time zone": "Here"}.get(label)
    assert wrong is None or shown.commit(wrong)


def test_two_nets_at_one_time_are_told_and_drawn_under_one_another(demo_window, page):
    put(demo_window, FRIDAY, DAILY)
    assert "meet at the same time, 4 times" in page.clash.text()
    tonight = [item for item in page.week.blocks if item.row == 0]
    assert {item.clash for item in tonight} == {True}
    one, other = (page.week.rect_of(item) for item in tonight)
    assert not one.intersects(other)
    assert not page.week.grab().isNull()


def test_nets_are_walked_by_arrows_and_clicked(demo_window, page):
    put(demo_window, FRIDAY, DAILY)
    page.take_focus()
    first = page.in_hand
    QTest.keyClick(page.week, Qt.Key.Key_Right)
    assert page.in_hand != first
    block = next(item for item in page.week.blocks if item.meeting.net == first)
    QTest.mouseClick(page.week, Qt.MouseButton.LeftButton, pos=page.week.rect_of(block).center().toPoint())
    assert page.in_hand == first
    page.take_route()
    assert demo_window.bench.route.destination == page.net.destination


def test_a_net_without_a_way_says_what_is_missing(demo_window, page, said):
    put(demo_window, Net("", "Somewhere", begins="2026-11-27"))
    assert "Say whom it calls" in page.way.text()
    page.take_route()
    assert "Say whom it calls" in said[-1]


def test_a_calendar_goes_out_and_comes_in_as_one_step(demo_window, page, said, tmp_path, monkeypatch):
    put(demo_window, FRIDAY, DAILY)
    monkeypatch.setattr(net_files, "ask_place", lambda *_asked: FilePlace(tmp_path / "nets.ics"))
    page.files.ask_save()
    page.files.bring_in(tmp_path / "nets.ics")
    assert "2 were there already" in said[-1]
    demo_window.bench.steps.back()
    demo_window.bench.steps.back()
    page.files.bring_in(tmp_path / "nets.ics")
    assert [item.name for item in demo_window.bench.plan.nets] == ["Isles net", "Slow round"]
    demo_window.bench.steps.back()
    assert demo_window.bench.plan.nets == ()
    (tmp_path / "wrong.ics").write_bytes(b"nothing of the kind")
    page.files.bring_in(tmp_path / "wrong.ics")
    assert "was not read" in said[-1]


def test_who_is_awake_follows_the_hour_and_says_where_else(demo_window, page):
    demo_window.bench.clock = Clock(NOW - timedelta(hours=6))  # 19:00 on the Amber Coast
    page.refresh()
    assert page.table.text(0, 0) == "Amber Coast"
    assert page.table.text(0, 4) == "call now"
    page.table.choose(next(at for at, item in enumerate(page.ranked) if item.name == "Northern Reach"))
    assert "Try Amber Coast" in page.else_.text()


def test_on_a_trip_the_week_is_in_its_zone(demo_window, page):
    put(demo_window, FRIDAY)
    trip = demo_window.bench.plan.trips[0]
    page.seen_from.setCurrentIndex(page.seen_from.findData(trip.key))
    assert page.zone == trip.time_zone
    assert f"in {trip.time_zone}" in page.week.accessibleName()


def test_one_is_reminded_once(demo_window, page, said):
    put(demo_window, FRIDAY)
    watch = demo_window.reminders
    watch.look()
    assert not any("begins" in text for text in said)
    demo_window.bench.clock = Clock(NOW + timedelta(minutes=16))
    watch.look()
    watch.look()
    assert sum("Isles net begins in 14 min" in text for text in said) == 1


def test_ten_minutes_before_is_ticked_to_the_end(qtbot, page, monkeypatch):
    from umbra_awl.desk.log.ten_minutes_sheet import TenMinutesSheet

    shown = []
    monkeypatch.setattr(TenMinutesSheet, "exec", lambda sheet: shown.append(sheet))  # noqa: PLW0108  (a method)
    page.check.click()
    assert not shown
    page.bench.steps.back()  # the plan's own nets are there again
    qtbot.waitUntil(lambda: page.net is not None and page.bench.worked.fresh)
    page.check.click()
    (sheet,) = shown
    assert "left to look at" in sheet.left.text()
    assert sheet.ticks
    before = int(sheet.left.text().split()[0])
    for tick in sheet.ticks:
        tick.setChecked(True)
    assert sheet.left.text().startswith(("All of it", str(before - len(sheet.ticks))))
    wanted = []
    page.bench.where_wanted.connect(wanted.append)
    show = next(item for item in sheet.findChildren(QAbstractButton) if item.text() == "Show")
    show.click()
    assert wanted
