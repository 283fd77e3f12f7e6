import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QPoint, QRect, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QInputDialog, QLineEdit

from tests.days import TODAY
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination
from umbra_awl.core.routes.punch import punch
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.parts.cards.adding import AddAccess, AddDestination
from umbra_awl.desk.sheet.grid import NO_SERVICE, NOBODY
from umbra_awl.desk.sheet.layout import SheetLayout


@pytest.fixture
def sheet(window):
    window.stages.open("routes")
    return window.stages["routes"].sheet


@pytest.fixture
def inspector(window):
    return window.stages["routes"].inspector


def place(sheet, service, destination, slot=0):
    """The middle of a cell's half in the viewport."""
    row, column, _slot = sheet.sheet.cell_of(service, destination)
    sizes = sheet.sheet.sizes
    share = {1: 0.25, 2: 0.75}.get(slot, 0.5)
    return QPoint(
        round(sizes.left + (column + share) * sizes.column), sizes.head + sheet.sheet.tops[row] + sizes.row // 2
    )


def click(qtbot, sheet, *where):
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=place(sheet, *where))


def keys_of(window):
    return [route.key for route in window.bench.plan.routes]


def test_a_click_on_a_hole_that_is_offered_punches_it_and_a_second_quick_one_does_nothing(qtbot, window, sheet):
    at = place(sheet, "blackfell-dmr", "worldwide", 2)
    qtbot.mouseMove(sheet.viewport(), at)
    qtbot.waitUntil(lambda: sheet.hands.hover is not None)
    assert sheet.viewport().cursor().shape() == Qt.CursorShape.PointingHandCursor
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert window.bench.selection[:3] == ("blackfell-dmr", "worldwide", 2)
    assert "blackfell-dmr>worldwide@2" in keys_of(window)
    assert sheet.hands.hover is None
    qtbot.mouseDClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at + QPoint(4, 8))
    assert "blackfell-dmr>worldwide@2" in keys_of(window)


def test_a_click_beside_the_hole_selects_and_one_more_on_the_selected_cell_punches(qtbot, window, sheet):
    at = place(sheet, "blackfell-dmr", "worldwide", 2) + QPoint(9, 9)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert window.bench.selection[:3] == ("blackfell-dmr", "worldwide", 2)
    assert "blackfell-dmr>worldwide@2" not in keys_of(window)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert "blackfell-dmr>worldwide@2" in keys_of(window)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert "blackfell-dmr>worldwide@2" not in keys_of(window)


def test_a_click_in_the_shade_only_selects(qtbot, window, sheet):
    sheet.show_mode("fusion")
    before = window.bench.plan
    click(qtbot, sheet, "home-fusion", "leave-room")
    assert window.bench.selection[:2] == ("home-fusion", "leave-room")
    assert window.bench.plan is before


def test_arrow_keys_walk_past_heads_and_stay_with_the_service(qtbot, window, sheet):
    window.bench.select(Selection("home-dmr", "local", 1))
    qtbot.keyClick(sheet, Qt.Key.Key_Down)
    assert window.bench.selection[:2] == ("home-dmr", "isles-wide")
    qtbot.keyClick(sheet, Qt.Key.Key_Left)
    assert window.bench.selection.service == "cairnlow-dmr"
    qtbot.keyClick(sheet, Qt.Key.Key_End)
    assert window.bench.selection.service == "travel-dmr"
    qtbot.keyClick(sheet, Qt.Key.Key_Up)
    assert window.bench.selection[:2] == ("travel-dmr", "local")


def test_ctrl_and_an_arrow_go_to_the_next_network(qtbot, window, sheet):
    window.bench.select(Selection("home-dmr", "worldwide", 2))
    seen = []
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Up):
        qtbot.keyClick(sheet, key, Qt.KeyboardModifier.ControlModifier)
        seen.append(window.bench.selection[:2])
    assert seen[0] == ("home-dstar", "vlr001-a"), "the nearest that carries it"
    assert seen[1] == seen[2] == ("home-fusion", "velmar-commons"), "at the last one it stays"
    assert seen[3][1] == "vlr001-a"
    assert not window.bench.selection.many


def test_one_and_two_set_the_slot_and_alt_punches_both(qtbot, window, sheet):
    window.bench.select(Selection("home-dmr", "ostrand"))
    qtbot.keyClick(sheet, Qt.Key.Key_2)
    assert keys_of(window)[-1] == "home-dmr>ostrand@2"
    qtbot.keyClick(sheet, Qt.Key.Key_1)
    assert keys_of(window)[-1] == "home-dmr>ostrand@1"
    qtbot.keyClick(sheet, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    assert keys_of(window)[-2:] == ["home-dmr>ostrand@1", "home-dmr>ostrand@2"]
    qtbot.keyClick(sheet, Qt.Key.Key_Delete)
    assert not [key for key in keys_of(window) if "ostrand" in key]


def down_with_shift_held(sheet):
    """An arrow key while Shift stays down; qtbot's keyClick would let go of Shift each time."""
    QApplication.sendEvent(sheet, QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier))


def test_shift_and_arrows_paint_a_run_as_one_step(qtbot, window, sheet):
    before = window.bench.plan
    window.bench.select(Selection("home-dmr", "ostrand", 1))
    for _step in range(3):
        down_with_shift_held(sheet)
    assert len(sheet.hands.run.cells) == 4
    QTest.keyRelease(sheet, Qt.Key.Key_Shift)
    assert len(window.bench.plan.routes) == len(before.routes) + 4
    window.bench.steps.back()
    assert window.bench.plan == before


def test_escape_drops_a_run(qtbot, window, sheet):
    before = window.bench.plan
    window.bench.select(Selection("home-dmr", "ostrand", 1))
    down_with_shift_held(sheet)
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    QTest.keyRelease(sheet, Qt.Key.Key_Shift)
    assert window.bench.plan is before


def test_an_impossible_crossing_says_why_and_changes_nothing(qtbot, window, sheet, inspector):
    window.bench.select(Selection("harrowquay-fm", "worldwide"))
    before = window.bench.plan
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert window.bench.plan is before
    assert "Q0HAR is FM here" in window.message.text()


def test_the_filter_leaves_only_what_matches(qtbot, window, sheet):
    qtbot.keyClicks(sheet.filter, "world")
    assert [row.name for row in sheet.sheet.rows if row.destination] == ["Worldwide slow-speech", "Worldwide"]
    sheet.filter.setText("nothing of that name")
    sheet.viewport().repaint()
    sheet.filter.clear()
    assert len(sheet.sheet.destinations) == len(window.bench.plan.destinations)


def test_punching_repaints_one_cell_and_lays_nothing_out_anew(qtbot, window, sheet):
    window.bench.select(Selection("home-dmr", "ostrand", 1))
    before = sheet.sheet
    qtbot.keyClick(sheet, Qt.Key.Key_Space)
    assert sheet.sheet is before


def edit_field(qtbot, card, label, text, key=Qt.Key.Key_Return):
    card.edit(label)
    typing = card._editing
    assert isinstance(typing, QLineEdit)
    typing.selectAll()
    qtbot.keyClicks(typing, text)
    qtbot.keyClick(typing, key)


def test_editing_in_place(qtbot, window, sheet, inspector):
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    edit_field(qtbot, inspector.card, "Transmit", "-7.6")
    assert window.bench.index.services["cairnlow-dmr"][1].tx_hz == 431_187_500
    edit_field(qtbot, inspector.card, "Receive", "438,8 MHz")
    assert window.bench.index.services["cairnlow-dmr"][1].rx_hz == 438_800_000


def test_a_wrong_frequency_stays_open_with_its_reason(qtbot, window, sheet, inspector):
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    before = window.bench.plan
    edit_field(qtbot, inspector.card, "Receive", "14x.5")
    assert window.bench.plan is before
    assert "is not a frequency" in inspector.card._fault.text()
    qtbot.keyClick(inspector.card._editing, Qt.Key.Key_Escape)
    assert inspector.card._editing is None
    assert not inspector.card._fault.isVisible()


def test_a_name_of_ones_own_and_back_to_the_rule(qtbot, window, sheet, inspector):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    edit_field(qtbot, inspector.card, "Name", "Club net")
    assert window.bench.worked.results.fits["tarn"].names["blackfell-dmr>isles-wide@2"].name == "CLUB NET"
    edit_field(qtbot, inspector.card, "Name", "by rule")
    assert window.bench.route.name == ""


def test_service_and_destination_can_be_edited_and_removed(qtbot, window, sheet, inspector):
    head = QPoint(sheet.sheet.sizes.left + 5 * sheet.sheet.sizes.column - 10, 20)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=head)
    assert window.bench.selection == Selection(service="little-oss-fm")
    edit_field(qtbot, inspector.card, "Tone", "103,5")
    assert window.bench.index.services["little-oss-fm"][1].air.tone_tx == "103.5"
    window.bench.select(Selection(destination="exercise"))
    edit_field(qtbot, inspector.card, "Number", "99906")
    assert window.bench.index.destinations["exercise"].number == 99906
    edit_field(qtbot, inspector.card, "Number", "many")
    assert "Type digits only" in inspector.card._fault.text()


def test_zones_beside_the_sheet(qtbot, window, sheet, monkeypatch):
    stage = window.stages["routes"]
    stage.show_page("zones")
    assert len(sheet.flags.members) == 8
    monkeypatch.setattr(QInputDialog, "getText", lambda *_words, **_more: ("Walks", True))
    window.bench.select(Selection("blackfell-fm", "local"))
    stage.zones.acts.add()
    assert stage.zones.chosen().name == "Walks"
    assert sheet.flags.members == {"blackfell-fm>local@0"}
    window.bench.select(Selection("calling-fm", "local"))
    stage.zones.toggle()
    stage.zones._members.setCurrentRow(1)
    stage.zones.shift(-1)
    assert stage.zones.chosen().members == ("calling-fm>local@0", "blackfell-fm>local@0")
    stage.zones.acts.remove()
    assert len(window.bench.plan.zones) == 7


def test_adding_an_access_point_by_hand(qtbot, window):
    form = AddAccess(window.bench, window)
    qtbot.addWidget(form)
    form.call.setText("q0new")
    form.site.setText("Oldmere")
    form.receive.setText("14x.5")
    assert "is not a frequency" in form.attempt()
    form.receive.setText("438.5")
    form.offset.setText("-7.6")
    form.mode.setCurrentText("DMR")
    assert "Give the color code" in form.attempt()
    form.opens.setText("99")
    assert "0 to 15" in form.attempt()
    form.opens.setText("3")
    form.position.setText("nowhere")
    assert form.attempt()
    form.position.setText("46.47, -31.11")
    assert form.attempt() == ""
    access, service = window.bench.index.services["oldmere-dmr"]
    assert (access.lat, access.lon) == (46.47, -31.11)
    assert (access.call, service.tx_hz, service.air.color_code) == ("Q0NEW", 430_900_000, 3)


def test_a_network_is_made_on_the_spot_as_one_step(qtbot, empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "new.awl.json")
    form = AddAccess(window.bench, window)
    qtbot.addWidget(form)
    form.call.setText("Q0NEW")
    form.receive.setText("438.5")
    form.offset.setText("-7.6")
    form.mode.setCurrentText("DMR")
    form.opens.setText("3")
    assert form.network.box.currentText() == "a new network", "where the plan has none, it is asked for"
    assert "Name the network" in form.attempt()
    form.network.name.setText("Lattice")
    assert form.attempt() == ""
    plan = window.bench.plan
    assert [(item.name, item.mode) for item in plan.networks] == [("Lattice", "dmr")]
    assert plan.access[0].services[0].air.network == plan.networks[0].key
    target = AddDestination(window.bench, window)
    qtbot.addWidget(target)
    target.name.setText("Isles-wide")
    target.number.setText("99900")
    assert target.network.box.currentText() == "Lattice"
    target.network.box.setCurrentText("none")
    assert not target.network.note.isHidden()
    target.network.box.setCurrentText("a new network")
    target.network.name.setText("Lattice")
    assert target.attempt() == ""
    assert len(window.bench.plan.networks) == 1, "a network that is there is not made twice"
    assert window.bench.plan.destinations[0].network == plan.networks[0].key
    window.bench.steps.back()
    window.bench.steps.back()
    assert (window.bench.plan.access, window.bench.plan.networks) == ((), ())


def test_adding_a_destination_by_hand(qtbot, window):
    form = AddDestination(window.bench, window)
    qtbot.addWidget(form)
    assert "Give it a name" in form.attempt()
    form.name.setText("Torrick walkers")
    assert "No number" in form.attempt()
    form.number.setText("99907")
    assert form.attempt() == ""
    assert window.bench.plan.destinations[-1].number == 99907


def test_layout_finds_its_cells_again(index):
    layout = SheetLayout(index)
    for cell in layout.every_cell():
        x, y = cell.column * layout.sizes.column + 3, layout.tops[cell.row] + 3
        found = layout.seen.cell_at(x, y)
        assert (found.row, found.column) == cell[:2]
        service, destination = layout.names([cell])[0]
        assert layout.cell_of(service, destination)[:2] == cell[:2]
    assert layout.seen.cell_at(-5, 40) is None
    lattice = next(at for at, row in enumerate(layout.rows) if row.name == "Lattice")
    assert layout.seen.cell_at(5, layout.tops[lattice] + 3) is None, "the name of a band"
    assert layout.seen.cell_at(10**6, 40) is None
    assert [site for _first, _last, site in layout.site_spans()][:2] == ["Blackfell", "Cairnlow"]


def test_one_head_of_services_over_bands_of_networks(index):
    layout = SheetLayout(index)
    bands = [row.name for row in layout.rows if row.kind == "group"]
    assert bands == ["Through the air", "Lattice", "Skein", "Commons"]
    assert set(layout.at) == set(index.services)
    assert set(layout.destinations) == set(index.destinations)
    spans = [site for _first, _last, site in layout.site_spans()]
    assert len(spans) == len(set(spans)), "the services of a site stand together"


def test_the_whole_demo_stands_across_without_scrolling_and_forty_scroll_under_a_head_that_stays(window, sheet):
    window.resize(1280, 800)
    QTest.qWait(50)
    assert len(sheet.sheet.columns) == 15
    assert sheet.horizontalScrollBar().maximum() == 0
    window.bench.do(Edit("Add", with_forty))
    bar = sheet.horizontalScrollBar()
    assert bar.maximum() > 0
    assert sheet.sheet.sizes.column >= 45
    names = sheet.viewport().grab(QRect(0, 200, sheet.sheet.sizes.left, 200)).toImage()
    bar.setValue(bar.maximum())
    assert sheet.viewport().grab(QRect(0, 200, sheet.sheet.sizes.left, 200)).toImage() == names
    head = sheet.viewport().grab(QRect(0, 0, sheet.viewport().width(), sheet.sheet.sizes.head)).toImage()
    sheet.verticalScrollBar().setValue(200)
    assert sheet.viewport().grab(QRect(0, 0, sheet.viewport().width(), sheet.sheet.sizes.head)).toImage() == head


def with_forty(plan):
    """A plan with so many more services that forty stand across."""
    model = next(item for item in plan.access if item.key == "harrowquay")
    more = tuple(
        replace(model, key=f"more-{at}", site=f"Site {at}", services=(replace(model.services[0], key=f"more-{at}-fm"),))
        for at in range(25)
    )
    return replace(plan, access=(*plan.access, *more))


def test_control_and_arrows_go_from_band_to_band_with_the_service(index):
    layout = SheetLayout(index)
    start = layout.cell_of("home-dmr", "local")
    lattice = layout.other_band(start, 1)
    assert layout.rows[lattice.row].name == "Isles-wide"
    assert lattice.column == start.column
    assert layout.column(layout.step(lattice, 0, -1)).service == "cairnlow-dmr", "over what cannot be punched"
    assert layout.column(layout.step(lattice, 0, 10**6)).service == "travel-dmr"
    last = layout.other_band(layout.other_band(lattice, 1), 1)
    assert layout.other_band(last, 1) == last


def test_a_destination_whose_network_nobody_carries_says_so(plan):
    lonely = replace(plan, access=())
    layout = SheetLayout(PlanIndex(lonely, TODAY))
    assert {row.name for row in layout.rows if row.kind == "note"} == {NO_SERVICE}
    assert layout.first_cell() is None
    nobody = SheetLayout(PlanIndex(replace(plan, destinations=(), routes=()), TODAY))
    assert [row.name for row in nobody.rows] == ["Through the air", NOBODY]


def with_contacts(plan, count):
    """A plan with so many single stations, the first of which a route uses."""
    stations = [
        Destination(f"st{at}", f"Station {at}", "private", "lattice", 9990100 + at, "private") for at in range(count)
    ]
    plan = replace(plan, destinations=(*plan.destinations, *stations))
    return punch(PlanIndex(plan, TODAY), "home-dmr", "st0").apply(plan)


def test_stations_without_a_route_fold_away(qtbot, window, sheet):
    window.bench.do(Edit("Add", lambda plan: with_contacts(plan, 12)))
    fold = next(row for row in sheet.sheet.rows if row.kind == "fold")
    assert fold.name == "▸ 11 stations without a route"
    assert "st0" in sheet.sheet.destinations
    assert "st1" not in sheet.sheet.destinations
    at = sheet.sheet.rows.index(fold)
    bar = sheet.verticalScrollBar()
    bar.setValue(sheet.sheet.tops[at] - 100)
    where = QPoint(20, sheet.sheet.sizes.head + sheet.sheet.tops[at] - bar.value() + 5)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=where)
    assert "st11" in sheet.sheet.destinations
    sheet.fold("lattice")
    assert "st11" not in sheet.sheet.destinations
    sheet.filter.setText("station 7")
    assert sheet.sheet.destinations == ["st7"]


def test_a_selected_station_is_unfolded(window, sheet):
    window.bench.do(Edit("Add", lambda plan: with_contacts(plan, 12)))
    window.bench.select(Selection("home-dmr", "st5"))
    assert sheet.cursor_cell is not None


def test_plus_and_minus_zoom_and_nought_is_the_usual_size(qtbot, window, sheet):
    usual = sheet.sheet.sizes
    sheet.setFocus()
    for _time in range(9):
        qtbot.keyClick(sheet, Qt.Key.Key_Minus)
    assert sheet.sheet.sizes.row == round(26 * 0.6)
    sheet.viewport().repaint()
    for _time in range(5):
        qtbot.keyClick(sheet, Qt.Key.Key_Plus)
    assert sheet.sheet.sizes.row > usual.row
    qtbot.keyClick(sheet, Qt.Key.Key_0)
    assert sheet.sheet.sizes == usual


def choose(card, label, word):
    """Open a field's menu and take one of its words."""
    from PyQt6.QtWidgets import QMenu

    card.edit(label)
    menu = card.findChildren(QMenu)[-1]
    next(action for action in menu.actions() if word in action.text()).trigger()
    menu.close()


def test_every_power_step_of_the_radio_at_hand_can_be_chosen(window, sheet, inspector):
    window.bench.choose_radio("moor")
    window.bench.select(Selection("home-dmr", "isles-wide", 1))

    def power():
        return window.bench.fit.channel_of(window.bench.route.key).power

    assert power() == 0, "one's own hotspot needs no more"
    for step, word in enumerate(("0.8 W", "2.2 W", "4.4 W", "6 W")):
        choose(inspector.card, "Power", f"Moor 4K: {word}")
        assert power() == step
    assert window.bench.route.power == "auto", "other radios keep what is proposed"
    choose(inspector.card, "Power", "Moor 4K: as the plan")
    assert power() == 0
    choose(inspector.card, "Power", "highest")
    assert power() == 3


def test_what_can_be_chosen_for_a_route(window, sheet, inspector):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    for label, word, field, value in (
        ("Power", "lowest", "power", "low"),
        ("Hears", "anything", "promiscuous", True),
        ("Admit", "always", "admit", "always"),
        ("Transmits", "only listens", "receive_only", True),
    ):
        choose(inspector.card, label, word)
        assert getattr(window.bench.route, field) == value
    choose(inspector.card, "Slot", "1")
    assert "blackfell-dmr>isles-wide@1" in keys_of(window)


def test_a_copied_color_code_goes_back_to_the_access_points(window, sheet, inspector):
    window.bench.select(Selection("cairnlow-dmr", "exercise", 2))
    choose(inspector.card, "Own cc", "as the access point")
    assert window.bench.route.color_code is None
    assert "color-code-differs" not in [item.rule.name for item in window.bench.worked.results.findings]


def test_what_can_be_chosen_for_a_service(qtbot, window, sheet, inspector):
    window.bench.select(Selection(service="blackfell-dmr"))
    choose(inspector.card, "Slots", "2 only")
    choose(inspector.card, "Network", "none")
    air = window.bench.index.services["blackfell-dmr"][1].air
    assert (air.slots, air.network) == ((2,), "")
    assert "no-such-crossing" in [item.rule.name for item in window.bench.worked.results.findings]
    edit_field(qtbot, inspector.card, "Color code", "16")
    assert "0 to 15 exist" in inspector.card._fault.text()
    window.bench.select(Selection(service="blackfell-fm"))
    choose(inspector.card, "Width", "wide")
    assert window.bench.index.services["blackfell-fm"][1].air.width_hz == 25_000
    edit_field(qtbot, inspector.card, "Site", "Blackfell hill")
    assert window.bench.index.access["blackfell"].site == "Blackfell hill"


def test_a_destination_called_in_the_other_way(window, sheet, inspector):
    window.bench.select(Selection(destination="echo"))
    choose(inspector.card, "Called as", "group call")
    assert "wrong-call-kind" in [item.rule.name for item in window.bench.worked.results.findings]


def test_moving_in_a_zone_by_keyboard(qtbot, window, sheet):
    stage = window.stages["routes"]
    stage.show_page("zones")
    members = stage.zones._members
    members.setCurrentRow(2)
    third = stage.zones._keys()[2]
    qtbot.keyClick(members, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert stage.zones._keys()[1] == third
    stage.zones._select_member(members.item(1))
    qtbot.keyClick(members, Qt.Key.Key_Delete)
    assert "gathers its routes by rule" in window.message.text()
