from datetime import date

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QInputDialog, QLabel, QMenu, QPushButton

from tests.days import TODAY
from umbra_awl.core.agenda.next_steps import WaysIn, Where, done_shares, first_open, next_steps
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.plan.edit.edits import Edit, EditRefused
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import ScanList
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.parts.asking import CANCEL
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Act, Choice, Field
from umbra_awl.desk.station.conventions import parse_call, parse_number, parse_span
from umbra_awl.desk.station.networks import AddNetwork
from umbra_awl.desk.transfer.cable import shelf_panel


@pytest.fixture
def card(qtbot):
    made = FieldList()
    qtbot.addWidget(made)
    made.show()
    return made


def test_enter_commits_escape_reverts(qtbot, card):
    got = []
    field = Field("Name", "old", commit=lambda text: got.append(text) or "")
    card.show_fields([field])
    card.edit("Name")
    card._editing.setText("new")
    qtbot.keyClick(card._editing, Qt.Key.Key_Escape)
    assert got == []
    card.edit("Name")
    card._editing.setText(" new ")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert got == ["new"]


def test_a_refusal_is_shown_under_its_field_and_goes_when_put_right(qtbot, card):
    card.show_fields([Field("A", "1", commit=lambda text: "" if text == "2" else "Only 2 will do."), Field("B", "x")])
    card.edit("A")
    card._editing.setText("3")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert card._fault.isVisible()
    assert card._fault.text() == "Only 2 will do."
    card._editing.setText("2")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert not card._fault.isVisible()
    assert card._values["A"].hasFocus()


def test_filling_the_card_anew_keeps_the_focus_on_the_same_field(qtbot, card):
    fields = [Field("A", "1", commit=lambda _text: ""), Field("B", "2", commit=lambda _text: "")]
    card.show_fields(fields)
    card.activateWindow()
    qtbot.waitUntil(lambda: card.isActiveWindow() and card._values["B"].isVisible())
    card._values["B"].setFocus()
    card.show_fields(fields)
    assert card._values["B"].hasFocus()


def test_choices_open_as_a_menu_and_are_done(qtbot, card):
    got = []
    card.show_fields(
        [Field("Slot", "1", choices=[Choice("1", lambda: got.append(1), True), Choice("2", lambda: got.append(2))])]
    )
    card.edit("Slot")
    menu = card.findChild(QMenu)
    assert [action.text() for action in menu.actions()] == ["● 1", "○ 2"]
    menu.actions()[1].trigger()
    assert got == [2]
    menu.close()


def test_halves_share_a_line(qtbot, card):
    card.show_fields(
        [Field("A", "1", half=True), Field("B", "2", half=True), Field("C", "3"), Field("D", "4", half=True)]
    )
    qtbot.wait(10)
    tops = {name: widget.y() for name, widget in card._values.items()}
    assert tops["A"] == tops["B"] < tops["C"] < tops["D"]


def test_actions_are_done(qtbot, card):
    got = []
    card.show_fields([], [Act("Go", lambda: got.append("went"), main=True)], note="A note.")
    qtbot.mouseClick(card.findChild(QPushButton), Qt.MouseButton.LeftButton)
    assert got == ["went"]


def test_the_command_table_takes_no_key_twice(window):
    table = CommandTable(window.bench)
    table.add("one", "One", int, "Ctrl+1")
    with pytest.raises(ValueError, match="exist already"):
        table.add("two", "Two", int, "Ctrl+1")
    with pytest.raises(ValueError, match="exist already"):
        table.add("one", "One again", int)
    assert [command.words for command in table] == ["One"]


def test_every_command_has_its_own_key_and_words(window):
    keys = [command.keys for command in window.commands if command.keys]
    assert len(keys) == len(set(keys))
    words = [command.words for command in window.commands]
    assert len(words) == len(set(words))


def test_long_work_tells_its_failure(qtbot):
    jobs, got = Jobs(), []

    def fail():
        raise RuntimeError("no")

    jobs.start(fail, got.append, lambda error: got.append(str(error)))
    qtbot.waitUntil(lambda: bool(got))
    assert got == ["no"]
    jobs.close()


def test_after_closing_nothing_is_delivered(qtbot):
    jobs, got = Jobs(), []
    jobs.latest("x", lambda: 1, got.append)
    jobs.close()
    jobs.tell(lambda: got.append(2))
    qtbot.wait(20)
    assert got == []


def test_an_edit_on_something_gone_is_said(window):
    def gone(_plan):
        raise KeyError("x")

    assert not window.bench.do(Edit("Gone", gone))
    assert "no longer in the plan" in window.message.text()

    def refuse(_plan):
        raise EditRefused("Because.")

    assert not window.bench.do(Edit("Refuse", refuse))
    assert window.message.text() == "Because."


def test_refusals_go_when_something_is_done(window):
    window.bench.say("No.", "stop")
    assert window.message.text() == "No."
    window.findings.repair_first()
    assert window.message.text().startswith("Repaired")


@pytest.mark.parametrize(
    ("text", "call"),
    [("999097 private", (999097, "private")), ("9 group", (9, "group")), ("8", (8, "group")), ("", None)],
)
def test_calls_as_people_type_them(text, call):
    made = parse_call(text)
    assert (made and (made.number, made.kind)) == call


@pytest.mark.parametrize("text", ["x", "8 sideways", "1e3", "9" * 12])
def test_what_is_no_call(text):
    with pytest.raises(ValueError, match=r"not a number|neither"):
        parse_call(text)


def test_ranges():
    assert parse_span("8001-8099") == parse_span("8001 – 8099") == (8001, 8099)
    assert parse_span("") == (None, None)
    for text in ("8099-8001", "8001", "8001-"):
        with pytest.raises(ValueError, match=r"backwards|two numbers"):
            parse_span(text)
    assert parse_number(" 15 ") == 15


def test_adding_a_network(qtbot, window):
    form = AddNetwork(window.bench, window)
    qtbot.addWidget(form)
    form._done.click()
    assert "Give the network a name" in form.fault.text()
    form.name.setText("Farnet")
    form.echo.setText("x")
    form._done.click()
    assert "is not a number" in form.fault.text()
    form.echo.setText("9990 private")
    form._done.click()
    assert window.bench.plan.networks[-1].echo.number == 9990


def test_scan_lists_beside_the_sheet(window, monkeypatch):
    stage = window.stages["routes"]
    stage.show_page("zones")
    stage.zones.show_kind(ScanList)
    assert stage.zones.chosen().name == "FM watch"
    monkeypatch.setattr(QInputDialog, "getText", lambda *_words, **_more: ("Trip", True))
    window.bench.select(Selection("travel-dmr", "worldwide", 2))
    stage.zones.acts.add()
    assert window.bench.plan.scans[-1].members == ("travel-dmr>worldwide@2",)
    monkeypatch.setattr(QInputDialog, "getText", lambda *_words, **_more: ("", True))
    stage.zones.acts.rename()
    assert "needs a name" in window.message.text()
    stage.zones.acts.remove()
    assert len(window.bench.plan.scans) == 1


def test_a_finding_on_a_scan_list_leads_there(window):
    from msgspec.structs import replace

    long = ScanList("all", "Everything", "everything")
    window.bench.do(Edit("x", lambda plan: replace(plan, scans=(*plan.scans, long))))
    finding = next(item for item in window.bench.worked.results.findings if item.rule.name == "scan-over-limit")
    window.stages.open("station")
    window.bench.show(finding.target)
    assert window.stages.current == "routes"
    assert window.stages["routes"].zones.chosen() == long


def test_many_findings_are_cut_and_said(window):
    from msgspec.structs import replace

    def encrypt(plan):
        groups = [item.key for item in plan.destinations if item.kind == "group"]
        more = [
            replace(plan.routes[6], destination=key, slot=slot, encrypted=True) for key in groups for slot in (1, 2)
        ]
        zones = tuple(replace(zone, members=()) for zone in plan.zones)
        return replace(plan, routes=tuple(more), zones=zones, scans=())

    window.bench.do(Edit("Encrypt all", encrypt))
    total = len(window.bench.worked.results.findings)
    assert total > 60
    assert len(window.findings.cards()) == 40
    assert f"… and {len(window.findings.here) - 40} more, less grave. Repair these first." in [
        item.text() for item in window.findings.findChildren(QLabel)
    ]


def test_folding_the_findings(qtbot, window):
    qtbot.keyClick(window, Qt.Key.Key_F9)
    assert not window.findings._scroll.isVisible()
    qtbot.keyClick(window, Qt.Key.Key_F9)
    assert window.findings._scroll.isVisible()


def test_the_course_by_mouse_and_arrow_keys(qtbot, window):
    qtbot.mouseClick(window.course, Qt.MouseButton.LeftButton, pos=QPoint(int(window.course._left(3)) + 20, 20))
    assert window.stages.current == "radios"
    window.course.setFocus()
    qtbot.keyClick(window.course, Qt.Key.Key_Right)
    assert window.stages.current == "transfer"


def test_the_ribbon_reads_out_where_it_stops(window):
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    assert window.ribbon.accessibleName().endswith("Stops at Guard")
    window.bench.select(Selection("blackfell-fm", "worldwide"))
    assert window.ribbon.hops() == ()


def test_restoring_asks_first(window, demo, monkeypatch):
    window.stages.open("transfer")
    asked = []
    monkeypatch.setattr(shelf_panel, "ask", lambda *words: asked.append(words) or CANCEL)
    shelf = window.runner.shelf()
    from datetime import datetime

    from umbra_awl.core.radio.memory import Memory

    shelf.keep(Memory("tarn16"), b"image", datetime(2026, 11, 24))
    window.runner.changed.emit()
    window.stages["transfer"].changes.side.restore()
    assert len(asked) == 1
    assert not window.runner.running


def test_steps_lead_through_an_empty_plan(plan):
    from umbra_awl.desk.frame.plans.plan_menu import new_plan

    def steps_of(plan, *more):
        return next_steps(PlanIndex(plan, TODAY), date(2026, 11, 26), *more)

    written = frozenset(radio.key for radio in plan.radios)
    pages = dict.fromkeys(written, "cable")
    left = [step for step in steps_of(plan, (), WaysIn(pages, written)) if not step.done]
    assert {step.where.stage for step in left} == {"hotspots"}
    assert len(left) == 3 * len(plan.hotspots)
    todo = [step for step in steps_of(new_plan()) if not step.done]
    assert todo[0].words == "Give your call sign"
    assert todo[0].where == Where("station", "who", "Call sign")
    assert "Give your DMR ID, once you have it" not in [step.words for step in todo]
    stops = [item for item in findings_of(PlanIndex(plan, TODAY), shipped_profiles()) if item.severity == "stop"]
    step = first_open(steps_of(plan, stops, WaysIn(pages, written)))
    assert (step.words, step.finding) == (f"Repair what stops: {len(stops)} findings", stops[0])
    assert done_shares(steps_of(plan, (), WaysIn(pages, frozenset({"tarn"}))))["transfer"] == 1 / len(plan.radios)


def test_words_that_find_no_room_go_into_a_menu_and_the_chosen_one_stays(qtbot):
    from umbra_awl.desk.parts.tabs import Tabs

    asked = []
    tabs = Tabs(("Memory", "Settings", "People", "Which radio?", "Own profile"), asked.append)
    qtbot.addWidget(tabs)
    tabs.mark(4)
    tabs.resize(900, 30)
    tabs.show()
    assert not tabs._more.isVisible()
    tabs.resize(260, 30)
    shown = [made.text() for made in tabs.buttons if made.isVisible()]
    assert "Own profile" in shown
    assert len(shown) < 5
    assert tabs._more.isVisible()
    tabs._open()
    menu = tabs.findChildren(QMenu)[-1]
    assert [action.text() for action in menu.actions()] == [made.text() for made in tabs.buttons if made.isHidden()]
    menu.actions()[0].trigger()
    menu.close()
    assert len(asked) == 1


def test_words_in_the_menu_come_back_when_there_is_room_again(qtbot, window):
    """Beside something that stretches: what is asked for counts every word, also those in the menu just now."""
    from PyQt6.QtWidgets import QLabel, QSizePolicy, QWidget

    from umbra_awl.desk.parts.tabs import Tabs
    from umbra_awl.desk.parts.widgets import row

    host, tabs, label = QWidget(), Tabs(("Punch sheet", "Names", "Trace"), int), QLabel("a count of routes")
    label.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
    line = row(host)
    line.addWidget(tabs)
    line.addWidget(label, 1)
    qtbot.addWidget(host)
    host.resize(120, 40)
    host.show()
    tabs.mark(0)
    assert tabs.buttons[2].isHidden()
    host.resize(900, 40)
    qtbot.waitUntil(lambda: not any(made.isHidden() for made in tabs.buttons), timeout=3_000)


def test_a_text_of_second_rank_is_shown_whole_or_not_at_all(qtbot):
    from umbra_awl.desk.parts.widgets import Whole

    label = Whole()
    qtbot.addWidget(label)
    label.setText("55 routes, 15 services")
    label.resize(400, 20)
    label.show()
    wide = label.grab().toImage()
    assert label.fits
    label.resize(40, 20)
    assert not label.fits
    narrow = label.grab().toImage()
    assert {narrow.pixel(x, y) for x in range(narrow.width()) for y in range(narrow.height())} == {narrow.pixel(0, 0)}
    assert len({wide.pixel(x, y) for x in range(200) for y in range(wide.height())}) > 1
