"""The frame: what is typed is never lost, next steps and findings lead to their field, what belongs to a page is beside it."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QDialog, QLabel, QTableView, QWidget

from umbra_awl.core.plan.edit.edit_station import set_call, set_station
from umbra_awl.desk.app import build
from umbra_awl.desk.finding_fields import FIELDS
from umbra_awl.desk.frame.sheets.glossary import Glossary
from umbra_awl.desk.held.workbench import Selection
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.typing import Typing, ValueButton
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stages import STAGES

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def label_of_focus(window):
    """The label of the field that has the keyboard, and the widget itself."""
    QTest.qWait(5)
    widget = window.focusWidget()
    for fields in window.findChildren(FieldList):
        for label, value in fields._values.items():
            if value is widget:
                return label
        if fields._editing is widget and widget is not None:
            return fields._label
    return (widget.property("field") if widget is not None else "") or type(widget).__name__


def type_into(qtbot, window, stage, page, label, text):
    """Begin to type a value and leave it unfinished."""
    window.stages.open(stage, page)
    QTest.qWait(5)
    assert window.stages[stage].reach(label)
    button = window.focusWidget()
    assert isinstance(button, ValueButton)
    qtbot.keyClick(button, Qt.Key.Key_Return)
    typing = window.focusWidget()
    assert isinstance(typing, Typing)
    typing.selectAll()
    qtbot.keyClicks(typing, text)
    return typing


# what is typed


def call(window):
    return window.bench.plan.station.identities[0].call


LEAVINGS = {
    "tab": lambda qtbot, window, typing: qtbot.keyClick(typing, Qt.Key.Key_Tab),
    "enter": lambda qtbot, window, typing: qtbot.keyClick(typing, Qt.Key.Key_Return),
    "another field": lambda qtbot, window, typing: window.top.finder.setFocus(),
    "saving": lambda qtbot, window, typing: window.commands.run("save"),
    "another stage": lambda qtbot, window, typing: window.commands.run("stage-routes"),
    "another page": lambda qtbot, window, typing: window.stages["station"].show_page("networks"),
    "closing": lambda qtbot, window, typing: window.close(),
}


@pytest.mark.parametrize("how", LEAVINGS)
def test_a_value_being_typed_is_taken_however_it_is_left(qtbot, window, how):
    typing = type_into(qtbot, window, "station", "who", "Call sign", "Q4WRX")
    LEAVINGS[how](qtbot, window, typing)
    QTest.qWait(5)
    assert call(window) == "Q4WRX"


def test_esc_alone_drops_what_was_typed(qtbot, window):
    typing = type_into(qtbot, window, "station", "who", "Call sign", "Q4WRX")
    qtbot.keyClick(typing, Qt.Key.Key_Escape)
    assert call(window) == "Q4WRN"
    assert label_of_focus(window) == "Call sign"


def test_the_keyboard_stays_where_the_hands_are(qtbot, window):
    typing = type_into(qtbot, window, "station", "who", "Call sign", "Q4WRX")
    qtbot.keyClick(typing, Qt.Key.Key_Return)
    assert label_of_focus(window) == "Call sign"
    typing = type_into(qtbot, window, "station", "who", "Call sign", "Q4WRY")
    qtbot.keyClick(typing, Qt.Key.Key_Tab)
    assert label_of_focus(window) == "Name"


def test_a_refused_value_keeps_the_window_open_until_it_is_dropped(qtbot, window):
    typing = type_into(qtbot, window, "station", "who", "Call sign", "nonsense")
    window.close()
    assert window.isVisible()
    assert "Esc" in window.message.text()
    qtbot.keyClick(typing, Qt.Key.Key_Escape)
    window.close()
    assert not window.isVisible()


def test_a_refused_value_stays_where_it_was_and_closing_leads_there_once(qtbot, window):
    typing = type_into(qtbot, window, "station", "who", "Call sign", "nonsense")
    window.commands.run("stage-routes")
    assert window.stages.current == "routes"
    assert (typing.text(), typing.isHidden()) == ("nonsense", False)
    window.commands.run("save")
    assert "Saved, but without “nonsense” at Call sign" in window.message.text()
    assert window.focusWidget() is typing
    window.stages.open("radios")
    window.close()
    assert window.isVisible()
    assert (window.stages.current, window.stages["station"].pages.name) == ("station", "me")
    assert window.focusWidget() is typing
    assert "Closing once more leaves without it" in window.message.text()
    window.close()
    assert not window.isVisible()


def test_the_system_is_not_kept_waiting_by_a_refused_value(qtbot, window):
    type_into(qtbot, window, "station", "who", "Call sign", "nonsense")
    window.end()
    assert not window.isVisible()


def test_nothing_is_filled_anew_under_the_hands(qtbot, window):
    typing = type_into(qtbot, window, "station", "who", "Name", "Wren of")
    window.bench.do(set_station("Move", lat=46.5, lon=-31.2))
    window.bench.do(set_call("wren", "Q4WRX"))
    assert window.focusWidget() is typing
    assert typing.text() == "Wren of"
    qtbot.keyClick(typing, Qt.Key.Key_Return)
    identity = window.bench.plan.station.identities[0]
    assert (identity.name, identity.call) == ("Wren of", "Q4WRX")


def test_a_new_person_is_seen_and_named_at_once(window):
    window.stages.open("station", "who")
    window.stages["station"].who.add()
    QTest.qWait(5)
    fresh = window.bench.plan.station.identities[-1].key
    card = window.stages["station"].who.cards[fresh]
    assert card.isAncestorOf(window.focusWidget())
    assert label_of_focus(window) == "Call sign"


# a selection that was left is gone


def test_a_rectangle_that_was_left_is_not_filled(qtbot, window):
    sheet = window.stages["routes"].sheet
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    sheet.setFocus()
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Right):
        qtbot.keyClick(sheet, key, CTRL | SHIFT)
    assert len(window.bench.selection.many) > 1
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    before = window.bench.plan.routes
    sizes = sheet.sheet.sizes
    at = QPoint(sizes.left + 5 * sizes.column + 10, sizes.head + sheet.sheet.tops[1] + 2)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert window.bench.selection.many == ()
    qtbot.keyClick(sheet, Qt.Key.Key_Delete)
    gone = {route.key for route in before} - {route.key for route in window.bench.plan.routes}
    assert all(key.split(">")[1].startswith("local@") for key in gone)
    assert len(gone) <= 1


def test_a_run_that_lost_the_keyboard_is_not_painted(qtbot, window):
    sheet = window.stages["routes"].sheet
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    sheet.setFocus()
    qtbot.keyPress(sheet, Qt.Key.Key_Shift)
    qtbot.keyClick(sheet, Qt.Key.Key_Down, SHIFT)
    window.top.finder.setFocus()
    sheet.setFocus()
    before = window.bench.plan.routes
    qtbot.keyRelease(sheet, Qt.Key.Key_Shift)
    assert window.bench.plan.routes == before


# the next step, and findings


def test_each_step_of_an_empty_plan_leads_to_its_field(qtbot, empty_window, tmp_path, monkeypatch):
    window = empty_window
    window.plans.new(tmp_path / "p.awl.json")
    asked = []
    monkeypatch.setattr(QDialog, "exec", lambda self: asked.append(self.windowTitle()) or 0)
    wanted = {
        "Give your call sign": "Call sign",
        "Say where you are": "Position",
        "Say which licence you hold, or wait for": "Class",
        "Say when the licence is granted": "Granted",
        "Take the access points around you": "SpotList",
        "Add whom you want to reach": "Add a destination",
        "Punch the routes you use": "PressButton",  # what begins on a sheet without anything to cross
        "Say which radios you own": "Add radios",
        "Lift the guard when you are ready to transmit": "Guard",
    }
    for step in window.agenda.steps:
        if step.words not in wanted:
            assert step.done, step.words
            continue
        window.stages.go_to_step(step)
        asked_for = asked.pop() if asked else ""
        assert wanted[step.words] in {asked_for, label_of_focus(window)}, step.words


def test_the_next_step_comes_back_with_the_one_after_it(qtbot, empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "p.awl.json")
    assert window.foot.step.words == "Give your call sign"
    qtbot.keyClick(window, Qt.Key.Key_Return, CTRL)
    assert label_of_focus(window) == "Call sign"
    window.bench.do(set_call("owner", "Q9ODL"))
    assert window.foot.step.words == "Say where you are"
    assert window.foot.next.text() == "Say where you are"
    qtbot.mouseClick(window.foot.next, Qt.MouseButton.LeftButton)
    assert label_of_focus(window) == "Position"


def test_show_puts_the_cursor_into_the_field_a_finding_is_about(window):
    told = []
    for finding in window.bench.worked.results.findings:
        window.bench.show_finding(finding)
        told.append((finding.rule.name, label_of_focus(window)))
    for rule, label in told:
        assert label in FIELDS.get(rule, ("PunchSheet",)) or label == "PunchSheet", told
    assert sum(label != "PunchSheet" for _rule, label in told) >= 4, told


def test_every_field_of_a_rule_is_a_rule_of_the_book():
    from umbra_awl.core.findings.rules import all_rules

    assert set(FIELDS) <= set(all_rules())


# what belongs to a page


def test_findings_stand_where_they_concern_and_elsewhere_is_one_line(window):
    assert len(window.findings.here) == 6
    window.stages.open("station", "who")
    assert window.findings.here == []
    assert window.foot.count.text() == "6 elsewhere"
    assert not window.findings.isVisible()
    window.toggle_findings()
    assert window.findings.isVisible()
    window.toggle_findings()
    window.stages.open("radios", "memory")
    assert window.findings.isVisible()
    assert window.findings.cards() == []


def test_one_finding_is_open_at_a_time(window):
    first, second = window.findings.cards()[:2]
    first.head.click()
    assert first.is_open
    second.head.click()
    assert (first.is_open, second.is_open) == (False, True)
    second.head.click()
    assert not second.is_open


@pytest.mark.parametrize("key", STAGES)
def test_the_canvas_has_the_room_it_is_promised(window, key):
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    for page in STAGES[key].pages:
        window.stages.open(key, page)
        QTest.qWait(20)
        stage = window.stages[key]
        beside = stage.pages.accompanied
        least = (860, 600) if beside else (1240, 620)
        assert stage.width() >= least[0], (page, stage.width())
        assert stage.height() >= least[1], (page, stage.height())
        assert window.ribbon.isVisible() == (page in STAGES[key].traced)


def test_the_border_can_be_dragged_and_is_remembered(window):
    window.beside.setSizes([760, 420])
    window.beside.splitterMoved.emit(760, 1)
    assert window.settings.kept.side_width == window.beside.side.parentWidget().width()


# one history


def test_undo_takes_private_edits_back_in_their_turn(window, demo):
    window._directory_path = demo.directory
    bench, directory = window.bench, window.directory
    key = next(entry.key for entry in directory.store.all_entries() if entry.access.call == "Q0HAR")

    def note():
        return directory.store.entry(key).note

    bench.do(set_call("wren", "Q4WRX"))
    directory.own.set_note(key, "quiet in the morning")
    directory.own.set_private(key, "site", "Harbour quay")
    bench.do(set_call("wren", "Q4WRY"))
    bench.steps.back()
    assert (call(window), note()) == ("Q4WRX", "quiet in the morning")
    bench.steps.back()
    assert directory.store.entry(key).access.site != "Harbour quay"
    bench.steps.back()
    assert (call(window), note()) == ("Q4WRX", "")
    assert "note on Q0HAR" in window.message.text()
    bench.steps.back()
    assert call(window) == "Q4WRN"
    for _step in range(4):
        bench.steps.again()
    assert (call(window), note()) == ("Q4WRY", "quiet in the morning")
    assert directory.store.entry(key).access.site == "Harbour quay"


# doors


def test_the_doors_begin_without_a_file_dialog(empty_window, tmp_path, monkeypatch, qtbot):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    window = empty_window
    window.welcome.take_focus()
    qtbot.mouseClick(window.welcome.doors["I have a radio that is programmed"], Qt.MouseButton.LeftButton)
    assert (window.stages.current, window.stages["transfer"].pages.name) == ("transfer", "bring")
    assert window.bench.document.path.parent == tmp_path / "umbra-awl" / "plans"
    assert window.plans.begin()
    assert window.bench.document.path.name == "plan-2.awl.json"
    monkeypatch.setattr("PyQt6.QtWidgets.QInputDialog.getText", lambda *_all, **_more: ("Hills", True))
    window.commands.run("save")
    assert window.bench.plan.name == "Hills"


def test_what_people_type_finds_the_command(window):
    from umbra_awl.desk.frame.find.finding_words import rank
    from umbra_awl.desk.frame.find.offers import offers
    from umbra_awl.desk.frame.find.synonyms import SYNONYMS

    names = {command.name for command in window.commands}
    assert set(SYNONYMS) <= names
    found = list(offers(window.bench, window.commands))
    for typed, words in (
        ("guard", "Licence and receive-only guard"),
        ("backup", "Read, compare, write by cable"),
        ("export", "Files for another program"),
        ("csv", "Files for another program"),
        ("gpx", "Import a directory"),
        ("text size", "Larger text"),
        ("radius", "Show what is on the air around you"),
        ("rename", "Name the plan"),
        ("calendar", "When can I be on the air?"),
    ):
        assert words in [offer.words for offer in rank(found, typed)], typed
    assert rank(found, "", ("Go to Radios",))[0].words == "Go to Radios"


def test_several_radios_of_one_profile_for_somebody_else(window):
    window.stages.open("radios")
    stage = window.stages["radios"]
    stage.add(window.bench.profiles["tarn16"], "odile", 3)
    made = window.bench.plan.radios[-3:]
    assert [radio.name for radio in made] == ["Tarn 16 Q9ODL", "Tarn 16 Q9ODL (2)", "Tarn 16 Q9ODL (3)"]
    assert {radio.identity for radio in made} == {"odile"}
    assert window.bench.radio_key == made[0].key
    window.bench.steps.back()
    assert len(window.bench.plan.radios) == 4


def test_focus_stops_are_named(window):
    for key, entry in STAGES.items():
        for page in entry.pages:
            window.stages.open(key, page)
            QTest.qWait(5)
            for widget in window.findChildren(QWidget):
                stop = widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus and widget.isEnabled()
                if stop and type(widget).__module__.startswith("umbra_awl"):
                    text = widget.text() if isinstance(widget, QAbstractButton) else ""
                    assert widget.accessibleName() or text, (key, page, type(widget).__name__)


def copied(qtbot, window):
    clipboard = QGuiApplication.clipboard()
    clipboard.setText("")
    qtbot.keyClick(window.focusWidget(), Qt.Key.Key_C, CTRL)
    return clipboard.text()


def test_ctrl_c_copies_what_is_selected_wherever_it_is(qtbot, window):
    window.stages.open("routes", "sheet")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    window.stages["routes"].sheet.setFocus()
    assert copied(qtbot, window) == "Blackfell\tDMR cc 6\tIsles-wide\t2"
    window.stages.open("station", "who")
    assert window.stages["station"].reach("Call sign")
    assert copied(qtbot, window) == "Q4WRN"
    window.stages.open("transfer", "files")
    table = window.stages["transfer"].files.findChild(QTableView)
    table.setFocus()
    table.setCurrentIndex(table.model().index(0, 0))
    assert "\t" in copied(qtbot, window)
    window.course.setFocus()
    assert copied(qtbot, window) == ""
    assert "Nothing is selected here" in window.message.text()


def test_the_words_used_here_are_told_in_the_window(qtbot, window, monkeypatch):
    shown = []
    monkeypatch.setattr(Glossary, "exec", lambda self: shown.append(self) or 0)
    window.commands.run("words")
    texts = " ".join(label.text() for label in shown[0].findChildren(QLabel))
    assert "punch, hole" in texts
    assert "a repeater, a hotspot, or a frequency" in texts


BLANKS = {
    ("access", "people"): "Nobody yet",
    ("access", "destinations"): "No talk groups, reflectors or rooms yet",
    ("routes", "sheet"): "No access point yet",
    ("routes", "names"): "No route yet",
    ("routes", "trace"): "No route yet",
    **{("radios", page): "No radio yet" for page in ("memory", "settings", "people")},
    **{("transfer", page): "No radio yet" for page in ("cable", "keys", "card", "files")},
}


@pytest.mark.parametrize(("stage", "page"), BLANKS)
def test_a_page_with_nothing_to_show_teaches_and_leads_on(qtbot, empty_window, tmp_path, monkeypatch, stage, page):
    window, asked = empty_window, []
    monkeypatch.setattr(QDialog, "exec", lambda self: asked.append(self.windowTitle()) or 0)
    window.plans.new(tmp_path / "p.awl.json")
    window.stages.open(stage, page)
    pages = window.stages[stage].pages
    assert pages.is_blank
    blank = pages._blank
    assert blank.shown.title == BLANKS[stage, page]
    assert window.focusWidget() is blank.begin, "the step to begin has the keyboard"
    assert not window.beside.side.isVisible()
    qtbot.keyClick(blank.begin, Qt.Key.Key_Space)
    assert asked or (window.stages.current, pages.name) != (stage, page)


def test_a_blank_page_fills_as_soon_as_there_is_something(empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "p.awl.json")
    window.stages.open("radios", "memory")
    pages = window.stages["radios"].pages
    assert pages.is_blank
    window.stages["radios"].add(window.bench.profiles["tarn16"])
    assert not pages.is_blank
    assert window.beside.side.isVisible()
    window.bench.steps.back()
    assert pages.is_blank


def walked(qtbot, window):
    """The parts of the window in the order in which Tab comes to them, from the top."""
    parts = {"top": window.top, "course": window.course, "canvas": window.canvas, "side": window.beside.side}
    parts |= {"findings": window.findings, "foot": window.foot}
    window.top.finder.setFocus()
    seen, places = [], []
    for _time in range(200):
        qtbot.keyClick(window.focusWidget(), Qt.Key.Key_Tab)
        now = window.focusWidget()
        if now is window.top.finder:
            return seen, places
        name = next((name for name, part in parts.items() if part is now or part.isAncestorOf(now)), "?")
        if not seen or seen[-1] != name:
            seen.append(name)
        places.append((name, now))
    raise AssertionError("Tab does not come back")


@pytest.mark.parametrize(
    ("stage", "page"), [("routes", "sheet"), ("station", "who"), ("access", "around"), ("radios", "memory")]
)
def test_tab_goes_by_reading_order_findings_last(qtbot, window, stage, page):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    window.stages.open(stage, page)
    QTest.qWait(20)
    seen, places = walked(qtbot, window)
    order = ["top", "course", "canvas", "side", "findings", "foot"]
    assert seen == [name for name in order if name in seen] or seen == [
        *[name for name in order if name in seen],
        "top",
    ]
    cards = [item for item in window.canvas.findChildren(FieldList) if item.isVisible()]
    for card in cards:
        inside = [at for at, (_name, item) in enumerate(places) if card.isAncestorOf(item)]
        assert inside == list(range(inside[0], inside[0] + len(inside))) if inside else True, (
            "a card is gone through whole"
        )
    if "findings" in seen:
        assert seen.index("findings") > seen.index("canvas")


class FakeRun:
    """A second run of the program that ends when told."""

    def __init__(self, complaint=b""):
        self.code, self.complaint, self.count = None, complaint, 0

    def __call__(self, errors):
        errors.write(self.complaint)
        self.count += 1
        return self

    def poll(self):
        return self.code


def test_the_demo_opens_once_in_a_window_of_its_own_and_touches_nothing_here(qtbot, empty_window):
    run = FakeRun()
    window = empty_window
    window.demo._launch = run
    before = window.settings.kept
    qtbot.mouseClick(window.welcome.doors["Show me"], Qt.MouseButton.LeftButton)
    assert "a window of its own" in window.message.text()
    qtbot.mouseClick(window.welcome.doors["Show me"], Qt.MouseButton.LeftButton)
    assert run.count == 1
    assert "open already" in window.message.text()
    assert window.bench.document is None
    assert window.settings.kept == before
    run.code = 0
    qtbot.waitUntil(lambda: not window.demo._look.isActive())
    window.welcome.doors["Show me"].click()
    assert run.count == 2
    run.code = 0


def test_a_demo_that_cannot_start_says_why(qtbot, empty_window):
    run = FakeRun(b"Traceback\nOSError: no room\n")
    run.code = 1
    empty_window.demo._launch = run
    empty_window.demo.start()
    qtbot.waitUntil(lambda: "OSError: no room" in empty_window.message.text())


@pytest.mark.parametrize(("kept", "width"), [(1, 240), (3_999, 1280 * 0.42), (-5, 0), (10**9, 0)])
def test_a_width_that_makes_no_sense_is_not_taken(qtbot, qapp, tmp_path, demo, kept, width):
    file = tmp_path / "window.json"
    file.write_text(f'{{"side_width": {kept}}}')
    settings = Settings(file)
    assert settings.kept.side_width == (kept if width else 0)
    made = build(qapp, settings, synchronous=True, directory=tmp_path / "d" / "directory.sqlite")
    qtbot.addWidget(made)
    made.resize(1280, 800)
    made.show()
    made.plans.open(demo.plan)
    shown = made.beside._right.width()
    assert 240 <= shown <= int(0.42 * 1280) + 1
    made.close()


def test_a_guard_that_is_not_lifted_stays(window, monkeypatch):
    from umbra_awl.core.plan.edit.edit_station import set_guard
    from umbra_awl.desk.parts.asking import CANCEL
    from umbra_awl.desk.station import licence_fields

    window.bench.do(set_guard(True))
    monkeypatch.setattr(licence_fields, "ask", lambda *_all: CANCEL)
    licence_fields.lift_guard(window.bench, "")
    assert window.bench.plan.station.licence.guard
    monkeypatch.setattr(licence_fields, "ask", lambda *_all: licence_fields.LIFT)
    licence_fields.lift_guard(window.bench, "")
    assert not window.bench.plan.station.licence.guard
