"""The sheet with all modes: pairs, routing fields, rooms, patterns, rectangles, names, trace, findings put aside."""

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QLineEdit

from tests.desk.test_routes_stage import choose, click, edit_field, keys_of, place
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import AccessPoint, FmAir, Route, ScanList, Service, Zone
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.parts.cards.adding import AddAccess, AddDestination
from umbra_awl.desk.routes.copying import CopyPattern

CTRL_SHIFT = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def stage(window):
    window.stages.open("routes")
    return window.stages["routes"]


@pytest.fixture
def sheet(stage):
    return stage.sheet


@pytest.fixture
def inspector(stage):
    return stage.inspector


def test_a_pair_is_punched_together_and_each_half_on_its_own(qtbot, window, sheet):
    window.bench.select(Selection("signal-c", "vlr001-e", 1))
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert keys_of(window)[-2:] == ["signal-c>vlr001-e@1", "signal-c>vlr001-e@2"]
    qtbot.keyClick(sheet, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
    assert keys_of(window)[-1] == "signal-c>vlr001-e@2"
    assert "signal-c>vlr001-e@1" not in keys_of(window)
    window.bench.steps.back()
    window.bench.steps.back()
    assert "signal-c>vlr001-e@2" not in keys_of(window)


def test_clicks_choose_link_or_talk(qtbot, window, sheet):
    sheet.show_mode("dstar")
    click(qtbot, sheet, "home-dstar", "vlr001-c", 2)
    assert window.bench.route.key == "home-dstar>vlr001-c@2"
    click(qtbot, sheet, "home-dstar", "vlr001-c", 1)
    assert "home-dstar>vlr001-c@1" not in keys_of(window)  # the cell was chosen: the second click fills its link
    sheet.grab()


def test_a_mode_leaves_its_services_and_what_they_reach(window, stage, sheet):
    stage.modes.buttons[3].click()
    assert list(sheet.sheet.at) == ["signal-b", "signal-c", "home-dstar", "travel-dstar"]
    assert "isles-wide" not in sheet.sheet.destinations
    assert "vlr001-a" in sheet.sheet.destinations
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    assert stage.modes.marked == 0  # what is shown elsewhere is not hidden
    assert "isles-wide" in sheet.sheet.destinations


def test_the_boxes_show_the_fields_and_mark_what_is_wrong(window, inspector):
    window.bench.choose_radio("fell")
    window.bench.select(Selection("signal-b", "vlr001-c", 2))
    assert inspector.boxes.fields().ur == "VLR001CL"
    assert inspector.boxes._faults == {"ur"}
    assert "Wrong: UR" in inspector.boxes.accessibleName()
    inspector.boxes.grab()
    assert inspector.order.text().startswith("1. Key the link memory")
    window.bench.select(Selection("signal-b", "local"))
    assert inspector.boxes._faults == frozenset()
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    assert inspector.boxes.isHidden()
    assert inspector.order.isHidden()


def test_fields_are_pasted_and_read_back(qtbot, window, inspector):
    window.bench.select(Selection("signal-b", "vlr001-a", 2))
    edit_field(qtbot, inspector.card, "Paste", "UR:VLR001CL RPT1:Q4WRN··D")
    assert (window.bench.route.ur, window.bench.route.rpt1, window.bench.route.rpt2) == ("VLR001CL", "Q4WRN  D", None)
    rules = {
        item.rule.name for item in window.bench.worked.results.findings if item.target.key == "signal-b>vlr001-a@2"
    }
    assert rules == {"command-left-on", "rpt-differs"}
    edit_field(qtbot, inspector.card, "Paste", "CQCQCQ")
    assert window.bench.route.ur is None
    edit_field(qtbot, inspector.card, "Paste", "RPT1=Q0SIG__B")
    assert window.bench.route.rpt1 is None
    inspector.card.edit("Paste")
    qtbot.keyClick(inspector.card._editing, Qt.Key.Key_Return)
    assert "no fields in that" in inspector.card._fault.text()


def test_ways_and_dg_ids_of_a_channel(qtbot, window, inspector):
    window.bench.select(Selection("torrick-fusion", "velmar-commons"))
    choose(inspector.card, "Sends", "VW")
    assert window.bench.route.way == "VW"
    edit_field(qtbot, inspector.card, "DG-ID", "12")
    assert window.bench.route.dgid_tx == 12
    edit_field(qtbot, inspector.card, "DG-ID", "40")
    assert window.bench.route.dgid_tx is None
    edit_field(qtbot, inspector.card, "Hears", "140")
    assert "00 to 99 exist" in inspector.card._fault.text()


def test_services_of_every_mode_are_edited_in_place(qtbot, window, inspector):
    bench = window.bench

    def air(key):
        return bench.index.services[key][1].air

    bench.select(Selection(service="travel-dstar"))
    edit_field(qtbot, inspector.card, "Module", "g")
    assert "used by commands" in inspector.card._fault.text()
    qtbot.keyClick(inspector.card._editing, Qt.Key.Key_Escape)
    edit_field(qtbot, inspector.card, "Module", "m")
    assert air("travel-dstar").module == "M"
    choose(inspector.card, "Data", "slow and fast")
    assert air("travel-dstar").data == "fast"
    edit_field(qtbot, inspector.card, "Wi-Fi", "Wren-Away, Harrowquay-7")
    assert "wifi-name-case" not in {item.rule.name for item in bench.worked.results.findings}
    bench.select(Selection(service="torrick-fusion"))
    edit_field(qtbot, inspector.card, "Leads to", "40 velmar commons, 55 Sea Room")
    assert [(item.dgid, item.destination) for item in air("torrick-fusion").mapped] == [
        (40, "velmar-commons"),
        (55, "sea-room"),
    ]
    edit_field(qtbot, inspector.card, "Leads to", "55 Nowhere")
    assert "not a DG-ID with a destination" in inspector.card._fault.text()
    bench.select(Selection(service="blackfell-dmr"))
    choose(inspector.card, "Group lists", "all of its slot")
    choose(inspector.card, "Carries", "Exercise, slot 2")
    assert air("blackfell-dmr").hears == "slot"
    assert ("exercise", 2) in [(item.destination, item.slot) for item in air("blackfell-dmr").static]


def test_destinations_of_every_mode_are_edited_in_place(qtbot, window, inspector):
    window.bench.select(Selection(destination="vlr001-a"))
    edit_field(qtbot, inspector.card, "Module", "VLR001")
    assert "not a call with its module" in inspector.card._fault.text()
    qtbot.keyClick(inspector.card._editing, Qt.Key.Key_Escape)
    edit_field(qtbot, inspector.card, "Module", "vlr001 b")
    assert window.bench.index.destinations["vlr001-a"].text == "VLR001 B"
    window.bench.select(Selection(destination="sea-room"))
    edit_field(qtbot, inspector.card, "Number", "40021")
    assert window.bench.index.destinations["sea-room"].number == 40021
    window.bench.select(Selection(destination="odile"))
    edit_field(qtbot, inspector.card, "Call sign", "nobody")
    assert "not formed like a call sign" in inspector.card._fault.text()


def test_a_dstar_hotspot_from_nothing_to_a_clean_trace(qtbot, empty_window, tmp_path):
    from umbra_awl.core.plan.model import Identity, Licence, OwnedRadio, Plan, Station

    window = empty_window
    licence = Licence("Full", True, guard=False)
    station = Station((Identity("me", "Q4WRN", "Wren", dstar_note="HAND"),), licence)
    plan = Plan(name="Fresh", station=station, radios=(OwnedRadio("fell", "Fell D2", "fell-d2", "me"),))
    assert window.bench.opening.create(tmp_path / "fresh.awl.json", plan)
    access = AddAccess(window.bench, window)
    qtbot.addWidget(access)
    access.call.setText("Q4WRN")
    access.site.setText("Pocket")
    access.receive.setText("434.0125")
    access.kind.setCurrentText("hotspot")
    access.mode.setCurrentText("D-STAR")
    assert access.form.labelForField(access.opens).text() == "Module"
    assert "module" in access.attempt()
    access.opens.setText("L")
    assert "used by commands" in access.attempt()
    access.opens.setText("D")
    assert access.attempt() == ""
    for kind, name, text in (("reflector module", "", "vlr001c"), ("disconnect or unlink", "Unlink", "")):
        target = AddDestination(window.bench, window)
        qtbot.addWidget(target)
        target.kind.setCurrentText(kind)
        target.name.setText(name)
        target.number.setText(text)
        assert target.attempt() == ""
    window.stages.open("routes")
    sheet = window.stages["routes"].sheet
    window.bench.select(Selection("pocket-dstar", "vlr001-c", 1))
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert [item.rule.name for item in window.bench.worked.results.findings] == ["no-unlink"]
    qtbot.keyClick(window, Qt.Key.Key_R, Qt.KeyboardModifier.ControlModifier)
    assert window.bench.worked.results.findings == ()
    assert [(route.destination, route.slot) for route in window.bench.plan.routes] == [
        ("vlr001-c", 1),
        ("vlr001-c", 2),
        ("unlink", 0),
    ]
    for slot in (1, 2):
        window.bench.select(Selection("pocket-dstar", "vlr001-c", slot))
        assert window.bench.trace().reaches
        assert {hop.state for hop in window.ribbon.hops()} == {"pass"}


def test_copying_a_pattern_shows_what_is_left_out_before_it_is_done(qtbot, window):
    form = CopyPattern(window.bench, "blackfell-dmr", window)
    qtbot.addWidget(form)
    form.target.setCurrentIndex(form.target.findData("travel-dmr"))
    assert form.says.text() == "Copy the pattern of Q0BLK to Q4WRN: 5 routes, 2 left out."
    assert form.left.count() == 2
    form.target.setCurrentIndex(form.target.findData("harrowquay-fm"))
    assert not form.done_.isEnabled()
    form.target.setCurrentIndex(form.target.findData("travel-dmr"))
    before = window.bench.plan
    form.copy()
    assert len(window.bench.plan.routes) == len(before.routes) + 5
    window.bench.steps.back()
    assert window.bench.plan == before


def entries(menu):
    return [action.text().partition("\t")[0] for action in menu.actions() if not action.isSeparator()]


def test_both_schools_on_one_repeater_from_the_menu(window, stage):
    window.bench.select(Selection(service="cairnlow-dmr"))
    stage.work.fill()
    names = entries(stage.work.menu)
    assert "A channel for each talk group it always carries" in names
    assert "One channel, and dial the rest" in names
    for words in ("A channel for each", "One channel"):
        stage.work.fill()
        next(action for action in stage.work.menu.actions() if action.text().startswith(words)).trigger()
    mine = {route.destination for route in window.bench.plan.routes if route.service == "cairnlow-dmr"}
    assert {"local", "dialled", "disconnect", "isles-wide", "nessa-torrick", "echo"} <= mine
    window.commands["rows-columns"].does()
    assert stage.work.menu.isVisible()
    stage.work.menu.close()
    window.bench.select(Selection())
    stage.work.fill()
    assert "Select a crossing" in entries(stage.work.menu)[-1]


def test_as_another_service_from_the_menu(window, stage):
    window.bench.select(Selection(service="home-dmr"))
    stage.work.fill()
    pattern = next(action.menu() for action in stage.work.menu.actions() if action.text() == "As another service")
    next(action for action in pattern.actions() if action.text().startswith("Blackfell, DMR")).trigger()
    assert "Copy the pattern of Q0BLK to Q4WRN" in window.message.text()
    assert "Not done" in window.message.text()


def test_rows_and_columns_by_command(window, stage):
    window.bench.select(Selection(destination="exercise"))
    window.commands["fill-row"].does()
    assert {"home-dmr", "travel-dmr"} <= {
        route.service for route in window.bench.plan.routes if route.destination == "exercise"
    }
    window.bench.select(Selection(service="signal-c"))
    stage.sheet.show_mode("dstar")
    window.commands["fill-column"].does()
    assert "signal-c>odile@0" in keys_of(window)
    window.bench.select(Selection())
    window.commands["fill-row"].does()
    assert "Select a destination first" in window.message.text()


def drag(sheet, start, end):
    viewport = sheet.viewport()
    QTest.mousePress(viewport, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(viewport, start + QPoint(9, 9))
    QTest.mouseMove(viewport, end)
    QTest.mouseRelease(viewport, Qt.MouseButton.LeftButton, pos=end)


def test_a_dragged_rectangle_is_edited_as_one(qtbot, window, sheet, inspector):
    before = window.bench.plan
    drag(sheet, place(sheet, "blackfell-dmr", "isles-wide", 1), place(sheet, "cairnlow-dmr", "exercise", 2))
    assert len(window.bench.selection.many) == 8
    assert inspector.title() == "8 crossings, 7 punched"
    choose(inspector.card, "Power", "low")
    assert window.bench.plan.routes != before.routes
    assert sum(route.power == "low" for route in window.bench.plan.routes) == 7
    choose(inspector.card, "Zone", "FM")
    window.bench.steps.back()
    window.bench.steps.back()
    assert window.bench.plan == before
    qtbot.keyClick(sheet, Qt.Key.Key_Delete)
    assert len(window.bench.plan.routes) == len(before.routes) - 7
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert window.bench.selection.many == ()


def test_a_rectangle_by_keys_is_punched_and_moved(qtbot, window, sheet):
    window.bench.select(Selection("home-dmr", "ostrand", 1))
    for _step in range(2):
        qtbot.keyClick(sheet, Qt.Key.Key_Down, CTRL_SHIFT)
    assert len(window.bench.selection.many) == 3
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert len([key for key in keys_of(window) if key.endswith("@1") and "home-dmr>" in key]) >= 3
    qtbot.keyClick(sheet, Qt.Key.Key_2)
    assert "home-dmr>ostrand@2" in keys_of(window)
    assert "on 3 routes" in window.message.text()
    sheet.grab()


def test_ctrl_a_selects_what_filter_and_mode_have_left(qtbot, window, sheet):
    sheet.show_mode("dmr")
    sheet.filter.setText("world")
    qtbot.keyClick(sheet, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert len(window.bench.selection.many) == 2 * 4
    assert set(window.bench.routes_of_many) >= {"home-dmr>worldwide@2", "travel-dmr>worldwide@2"}


def test_renaming_by_house_style_shows_on_every_radio(qtbot, window, stage):
    window.commands["names"].does()
    names = stage.names
    assert names.model.columnCount() == 5
    assert names.summary.text() == "Each site and each destination is said in one way on a radio. No two names meet."
    row = next(at for at in range(names.model.rowCount()) if names.model.route(at).key == "blackfell-dmr>isles-wide@2")

    def shown():
        return [names.model.data(names.model.index(row, column)) for column in range(5)]

    assert shown()[1:3] == ["BLK ISLES", "BLK Isles"]
    card = names.side.card
    choose(card, "Order", "call sign first")
    choose(card, "Talk groups", "by number")
    choose(card, "Between", "a dash")
    assert shown()[2] == "Q0BLK-99900"
    edit_field(qtbot, card, "Own short", "Velmar")
    assert "Velmar=Vm" in card._fault.text()
    qtbot.keyClick(card._editing, Qt.Key.Key_Escape)
    edit_field(qtbot, card, "Own short", "Velmar=Vm")
    assert window.bench.plan.names.shorts[0].short == "Vm"
    names.table.selectRow(row)
    names.table.activated.emit(names.model.index(row, 1))
    assert window.bench.route.key == "blackfell-dmr>isles-wide@2"
    names.grab()
    for _step in range(4):
        window.bench.steps.back()
    assert shown()[1:3] == ["BLK ISLES", "BLK Isles"]


def test_names_once_kept_stay_and_are_chosen_anew_by_hand(window, stage):
    window.bench.choose_radio("tarn")
    stage.show_page("names")
    card = stage.names.side.card
    before = {key: named.name for key, named in window.bench.fit.names.items()}
    choose(card, "Names stay", "Keep them now")
    assert window.bench.radio.codes
    shop = AccessPoint("hall", "Q0HOM", "Home hall", services=(Service("hall-fm", 145_737_500, 145_137_500, FmAir()),))
    access = Edit(
        "A hall",
        lambda plan: replace(plan, access=(*plan.access, shop), routes=(*plan.routes, Route("hall-fm", "local"))),
    )
    assert window.bench.do(access)
    now = {key: named.name for key, named in window.bench.fit.names.items()}
    assert before.items() <= now.items()
    choose(card, "Names stay", "Choose them anew")
    assert not window.bench.radio.codes
    for _step in range(4):
        window.bench.steps.back()
    assert {key: named.name for key, named in window.bench.fit.names.items()} == before


def test_each_style_is_tried_before_it_is_taken(window, stage):
    window.bench.choose_radio("tarn")
    stage.show_page("names")
    choices = list(stage.names.side._fields(window.bench.plan.names)[0].choices)
    assert [choice.word.partition("   ")[0] for choice in choices] == [
        "place first",
        "call sign first",
        "destination first",
    ]
    assert choices[0].word.endswith("BLK LOCAL")
    assert choices[2].word.partition("   ")[2].startswith("LOCAL BLK")


def test_a_name_that_would_meet_another_is_said_at_once(qtbot, window, inspector):
    window.bench.select(Selection("blackfell-dmr", "exercise", 2))
    edit_field(qtbot, inspector.card, "Name", "Blk echo")
    assert window.message.text().startswith("On Tarn 16 that is cut to the same as “Blackfell Echo test”")


def test_the_one_touch_key_and_the_phone(qtbot, window, inspector):
    window.stages.open("radios")
    stage = window.stages["radios"].report
    choose(stage.card, "Call key", "Echo test")
    assert window.bench.plan.radios[0].one_touch == "echo"
    memory = window.bench.fit.memory
    assert memory.contacts[memory.one_touch - 1].call == 999097
    window.bench.choose_radio("fell")
    assert "Call key" not in stage.card._values
    window.stages.open("routes")
    window.bench.select(Selection(service="travel-dmr"))
    choose(inspector.card, "Shares on", "5 GHz")
    edit_field(qtbot, inspector.card, "Phone", "Wren-away")
    assert "phone-band" in {item.rule.name for item in window.bench.worked.results.findings}
    edit_field(qtbot, inspector.card, "Phone", " ")
    assert window.bench.plan.station.phone is None


def test_the_names_model_is_sound(qtbot, window, stage, qtmodeltester):
    stage.show_page("names")
    qtmodeltester.check(stage.names.model)


def visible_words(widget):
    from PyQt6.QtWidgets import QLabel

    QTest.qWait(10)
    return " ".join(label.text() for label in widget.findChildren(QLabel) if label.isVisible())


def test_the_trace_in_full_offers_the_repair(qtbot, window, stage):
    window.bench.choose_radio("fell")
    window.bench.select(Selection("signal-b", "vlr001-c", 2))
    qtbot.mouseClick(window.ribbon, Qt.MouseButton.LeftButton)
    page = stage.traces
    assert stage.pages.name == "trace"
    assert [row[1] for row in page.path.rows()] == ["You", "Guard", "Radio", "Q0SIG B", "Gateway", "Skein", "Far side"]
    assert [row[0] for row in page.path.rows()][-2:] == ["stop", "dark"]
    assert "You notice" in page.chain.accessibleName()
    assert [hop.title for hop in window.ribbon.hops()] == [row[1] for row in page.path.rows()]
    page.grab()
    qtbot.wait(1)
    mend = next(
        made
        for made in page.findChildren(QAbstractButton)
        if made.text().startswith("Put UR back") and made.isVisible()
    )
    qtbot.mouseClick(mend, Qt.MouseButton.LeftButton)
    assert {row[0] for row in page.path.rows()} == {"pass"}
    assert "Heard by" in visible_words(page)


def test_a_route_is_followed_on_a_radio_that_has_its_mode(window):
    window.bench.choose_radio("tarn")
    window.bench.select(Selection("torrick-fusion", "velmar-commons"))
    assert window.ribbon.hops()[0].text.startswith("Crag F3")
    window.bench.select(Selection("signal-b", "vlr001-a", 2))
    assert window.ribbon.hops()[0].text.startswith("Fell D2")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    assert window.ribbon.hops()[0].text.startswith("Tarn 16")


def test_why_nothing_is_heard(qtbot, window, stage):
    window.bench.choose_radio("moor")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    window.commands["silent"].does()
    page = stage.traces
    assert page.title.text().endswith("opens")
    choice = page._call.call
    at = next(at for at in range(choice.count()) if choice.itemText(at) == "Q0BLK slot 1 to Great Velmar")
    choice.setCurrentIndex(at)
    assert page.title.text().endswith("stays silent")
    assert ("stop", "keeps it shut", "Listens on slot 2, not 1.", "") in page.path.rows()
    assert "BLK Great Velmar opens for this call" in visible_words(page)
    window.bench.select(Selection())
    assert page.title.text() == "Which route?"


def visible_button(card, text):
    return next(made for made in card.findChildren(QAbstractButton) if made.text() == text)


def test_a_finding_is_put_aside_with_its_reason_and_heeded_again(qtbot, window):
    card = next(made for made in window.findings.cards() if made.finding.rule.name == "names-meet")
    card.head.click()
    qtbot.mouseClick(visible_button(card, "Aside"), Qt.MouseButton.LeftButton)
    typing = card.findChild(QLineEdit)
    qtbot.keyClick(typing, Qt.Key.Key_Return)
    assert "Give a reason" in window.message.text()
    qtbot.keyClicks(typing, "I know them apart")
    qtbot.keyClick(typing, Qt.Key.Key_Return)
    assert window.bench.plan.silenced[0].reason == "I know them apart"
    assert len(window.findings.cards()) == 5
    fold = next(made for made in window.findings.findChildren(QAbstractButton) if made.text() == "1 put aside")
    qtbot.mouseClick(fold, Qt.MouseButton.LeftButton)
    assert "Because: I know them apart" in visible_words(window.findings)
    heed = [
        made
        for made in window.findings.findChildren(QAbstractButton)
        if made.text() == "Mind it again" and made.isVisible()
    ]
    qtbot.mouseClick(heed[0], Qt.MouseButton.LeftButton)
    assert window.bench.plan.silenced == ()
    band = next(made for made in window.findings.cards() if made.finding.rule.name == "out-of-band")
    band.head.click()
    assert "Aside" not in [made.text() for made in band.findChildren(QAbstractButton)]


def test_all_of_one_kind_are_repaired_at_once(qtbot, window):
    from umbra_awl.core.routes.punch import set_route

    for key in ("blackfell-dmr>exercise@2", "blackfell-dmr>echo@2"):
        window.bench.do(set_route(window.bench.index, key, "x", color_code=2))
    card = next(made for made in window.findings.cards() if made.finding.rule.name == "color-code-differs")
    card.head.click()
    qtbot.mouseClick(visible_button(card, "Repair all 3 of this kind"), Qt.MouseButton.LeftButton)
    assert "color-code-differs" not in {item.rule.name for item in window.bench.worked.results.findings}
    assert window.message.text().startswith("Repair 3 findings")


def test_zones_on_radios_halves_and_hand_order(qtbot, window, stage):
    stage.show_page("zones")
    zones = stage.zones
    zones.choose(Zone, "nessa")
    choose(zones.card, "On", "Tarn 16")
    assert "nessa" not in window.bench.plan.radios[0].zones
    choose(zones.card, "Half", "Moor 4K, half B")
    assert window.bench.plan.radios[1].halves == ("home", "nessa")
    keys = [zones._members.key_at(at) for at in range(4)]
    zones.drop(keys[3], 0)
    assert [zones._members.key_at(at) for at in range(4)] == [keys[3], *keys[:3]]
    zones.reorder()
    assert [zones._members.key_at(at) for at in range(4)] == keys
    zones._members.setCurrentRow(0)
    qtbot.keyClick(zones._members, Qt.Key.Key_Delete)
    assert "by rule" in window.message.text()
    zones.grab()


def test_a_scan_list_has_a_priority_and_waits(qtbot, window, stage):
    stage.show_page("zones")
    zones = stage.zones
    zones.choose(ScanList, "fm-watch")
    choose(zones.card, "Priority", "Q0BLK to Local")
    assert window.bench.plan.scans[0].priority == "blackfell-fm>local@0"
    edit_field(qtbot, zones.card, "Waits", "12,5")
    assert window.bench.plan.scans[0].hang_s == 12.5
    assert "scan-hang-over-limit" in {item.rule.name for item in window.bench.worked.results.findings}
    edit_field(qtbot, zones.card, "Waits", "long")
    assert "Type seconds" in zones.card._fault.text()


def test_a_radio_without_a_cable_shows_its_own_way_and_says_so_at_the_cable(window):
    window.bench.choose_radio("crag")
    window.stages.open("transfer")
    stage = window.stages["transfer"]
    assert stage.pages.name == "slot"
    window.commands["read"].does()
    assert "No card is chosen" in window.runner.fault
    stage.show_page("cable")
    assert stage.pages.is_blank
    assert "Crag F3 takes its memory by memory card" in stage.pages._blank.shown.text
    window.bench.choose_radio("tarn")
    assert stage.pages.name == "cable"
    assert not stage.pages.is_blank


def test_a_weather_channel_is_only_listened_to(qtbot, window):
    form = AddAccess(window.bench, window)
    qtbot.addWidget(form)
    form.site.setText("Coast radio")
    form.receive.setText("161.85")
    form.kind.setCurrentText("listened to only")
    assert form.attempt() == ""
    window.stages.open("routes")
    window.bench.select(Selection("coast-radio-fm", "local"))
    qtbot.keyClick(window.stages["routes"].sheet, Qt.Key.Key_Space)
    route = window.bench.route
    channel = window.bench.worked.results.fits["tarn"].channel_of(route.key)
    assert channel is None or channel.receive_only
    assert "out-of-band" not in {
        item.rule.name for item in window.bench.worked.results.findings if "coast" in item.target.key
    }


def test_what_transmits_is_told_as_the_guard_has_it(window, inspector):
    from umbra_awl.core.plan.edit.edit_station import set_guard

    def shown():
        return inspector.card._values["Transmits"].whole

    window.stages.open("routes")
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    assert shown() == "yes"
    window.bench.do(set_guard(True))
    assert shown() == "yes, once the guard is lifted"


def test_a_burst_of_1750_hz_and_a_tone_back_are_asked_for_and_told(qtbot, window):
    from umbra_awl.core.routes.order import order_of_use

    form = AddAccess(window.bench, window)
    qtbot.addWidget(form)
    form.call.setText("Q0OLD")
    form.receive.setText("145.650")
    form.offset.setText("-0.6")
    form.opens.setText("1750 Hz")
    form.back.setText("DCS 023")
    assert form.attempt() == ""
    _access, service = window.bench.index.services["q0old-fm"]
    assert (service.air.burst, service.air.tone_tx, service.air.tone_rx) == (True, "", "D023N")
    window.stages.open("routes")
    window.bench.select(Selection("q0old-fm", "local"))
    qtbot.keyClick(window.stages["routes"].sheet, Qt.Key.Key_Space)
    assert "burst of 1750 Hz" in order_of_use(window.bench.index, window.bench.route)[0]
    assert any("burst of 1750 Hz" in hop.detail for hop in window.bench.trace().hops)
    assert not [item for item in window.bench.worked.results.findings if item.target.key == "q0old-fm"]


def test_what_to_say_follows_the_route_and_answers_a_call_that_is_heard(window, stage):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    stage.show_page("trace")
    card = stage.traces.speaking
    assert "CQ on Isles-wide, this is Q4WRN" in visible_words(card)
    QTest.keyClicks(card.heard, "q7qby")
    assert "Q7QBY: Quebec Seven Quebec Bravo Yankee." in visible_words(card)
    window.bench.select(Selection("home-dmr", "echo", 2))
    assert "CQ" not in visible_words(card)


def test_without_a_route_in_hand_the_trace_offers_those_with_findings_first(qtbot, demo_window):
    demo_window.stages.open("routes", "trace")
    page = demo_window.stages["routes"].traces
    page.take_focus()
    assert page.choice.hasFocus()
    found = [row[2] for row in page.choice.texts.rows]
    assert found[0]
    assert found == sorted(found, key=lambda text: not text)
    qtbot.keyClick(page.choice, Qt.Key.Key_Down)
    wanted = page.choice.text(1, 0)
    qtbot.keyClick(page.choice, Qt.Key.Key_Return)
    assert not page.choice.isVisible()
    assert page.title.text().startswith(wanted)
    assert page.chain.rows()
    assert demo_window.focusWidget() in page.tabs.buttons
