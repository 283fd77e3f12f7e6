"""The Access stage in the window: list, map, verdicts, taking, trips, tracks, people, destinations."""

from datetime import timedelta

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QLabel

from tests.days import TODAY
from umbra_awl.core.directory.nearest import NearestWanted
from umbra_awl.core.directory.receiver_fix import FixError, ReceiverFix
from umbra_awl.desk.access import here_sheet
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.known.directory import LookedAtPlace
from umbra_awl.desk.parts.saving import FilePlace


@pytest.fixture
def stage(window, demo):
    """The Access stage on the demo's directory."""
    window._directory_path = demo.directory
    window.stages.open("access")
    return window.stages["access"]


def spot(stage, call, site=""):
    return next(item for item in stage.directory.survey.spots if item.access.call == call and site in item.access.site)


def choose(stage, call, site=""):
    found = spot(stage, call, site)
    assert stage.list.choose(found.key)
    return found


def texts(widget):
    QTest.qWait(10)
    labels = [item.text() for item in widget.findChildren(QLabel) if item.isVisible()]
    return labels + [item.text() for item in widget.findChildren(QAbstractButton) if item.isVisible()]


def press(qtbot, widget, text):
    QTest.qWait(10)
    made = next(item for item in widget.findChildren(QAbstractButton) if item.text() == text and item.isVisible())
    qtbot.mouseClick(made, Qt.MouseButton.LeftButton)


def commit(qtbot, card, label, text):
    card.edit(label)
    card._editing.setText(text)
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)


def test_the_list_is_ranked_and_speaks(qtmodeltester, stage):
    model = stage.list.model()
    qtmodeltester.check(model)
    spots = stage.directory.survey.spots
    assert [item.km for item in spots if item.km is not None] == sorted(
        item.km for item in spots if item.km is not None
    )
    first = model.data(model.index(0), Qt.ItemDataRole.AccessibleTextRole)
    assert first.startswith("Q4WRN Home spot, in the plan. 0.0 km")
    assert "Verdict: sane" in first


def test_choosing_in_the_list_shows_the_numbers_and_marks_the_map(stage):
    choose(stage, "Q0STB")
    said = " ".join(texts(stage.around.detail))
    assert "8.78 km  NW 325°  HN46jm" in said
    assert "44 dB above what is needed" in said
    assert "Median path loss" in said
    assert "103.4" in said
    assert stage.around.map.selected == spot(stage, "Q0STB").entry.id


def test_choosing_on_the_map_moves_the_list(qtbot, stage):
    found = spot(stage, "Q0NES")
    stage.around.map.grab()
    at = stage.around.map._at(found.entry.id)
    x, y = stage.around.map.view.to_px(stage.around.map.points.km[at : at + 1])[0]
    qtbot.mouseClick(stage.around.map, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    assert stage.list.selected()[0].access.call == "Q0NES"


def test_a_wrong_sign_is_repaired_from_its_verdict_as_a_private_edit(qtbot, stage, window):
    choose(stage, "Q0STB")
    press(qtbot, stage.around.detail, "Take 103.5")
    found = spot(stage, "Q0STB")
    assert found.grade == "sane"
    assert found.entry.access.services[0].air.tone_tx == "103.5"
    assert stage.directory.store.imported(found.key).services[0].air.tone_tx == "103.4"
    assert "kept as your own edit" in window.message.text()
    said = " ".join(texts(stage.around.detail))
    assert "103.5  (yours)" in said


def test_fields_of_an_entry_are_edited_in_place(qtbot, stage):
    choose(stage, "Q0LOW".replace("LOW", "OLD"))
    card = stage.around.detail._card
    commit(qtbot, card, "FM sent", "-0.6")
    assert spot(stage, "Q0OLD").access.services[0].tx_hz == 438_725_000 - 600_000
    commit(qtbot, card, "FM sent", "")
    assert spot(stage, "Q0OLD").access.services[0].tx_hz == 431_125_000
    commit(qtbot, card, "Tone", "12.3")
    assert "is not a standard tone" in card._fault.text()
    qtbot.keyClick(card._editing, Qt.Key.Key_Escape)
    commit(qtbot, card, "My note", "Quiet in the morning")
    commit(qtbot, card, "Position", "HN46nk")
    assert (spot(stage, "Q0OLD").entry.note, spot(stage, "Q0OLD").entry.edited) == ("Quiet in the morning", True)
    commit(qtbot, card, "Call sign", "nonsense")
    assert "is not formed like a call sign" in card._fault.text()


def test_a_plans_own_access_point_is_edited_in_the_plan(qtbot, stage, window):
    choose(stage, "Q0NES")
    card = stage.around.detail._card
    commit(qtbot, card, "Transmit", "-7.6")
    assert next(item for item in window.bench.plan.access if item.key == "cairnlow").services[0].tx_hz == 431_187_500
    window.bench.steps.back()
    assert next(item for item in window.bench.plan.access if item.key == "cairnlow").services[0].tx_hz == 446_387_500


def test_enter_takes_into_the_plan_and_undo_takes_it_out(qtbot, stage, window):
    choose(stage, "Q0OLD")
    stage.list.setFocus()
    qtbot.keyClick(stage.list, Qt.Key.Key_Return)
    assert window.bench.plan.access[-1].site == "Oldmere"
    assert spot(stage, "Q0OLD").in_plan
    qtbot.keyClick(stage.list, Qt.Key.Key_Return)
    assert "Already in the plan" in window.message.text()
    window.bench.steps.back()
    assert not spot(stage, "Q0OLD").in_plan


def test_all_within_a_radius_are_taken_as_one_step(stage, window):
    before = window.bench.plan
    stage.taking.within(9)
    taken = {item.site for item in window.bench.plan.access} - {item.site for item in before.access}
    assert taken == {"Lowgate", "Velmar South", "Stenby"}
    window.bench.steps.back()
    assert window.bench.plan == before
    stage.taking.within(0.01)
    assert "Nothing that fits the filters" in window.message.text()


def test_all_along_a_track_are_taken(stage, window, demo):
    stage.taking.along(demo.plan.parent / "ferry-to-nessa.gpx", 4)
    assert "Nessa North" in {item.site for item in window.bench.plan.access}
    stage.taking.along(demo.plan, 4)
    assert "not a readable GPX" in window.message.text()


def test_filters_narrow_list_and_map(qtbot, stage):
    filters = stage.around.filters
    qtbot.mouseClick(filters.modes["dstar"], Qt.MouseButton.LeftButton)
    assert [item.access.call for item in stage.directory.survey.spots] == ["Q4WRN", "Q0SIG", "Q4WRN"]
    assert len(stage.around.map.points.ids) == 2  # the travel hotspot has no place
    qtbot.mouseClick(filters.modes["dstar"], Qt.MouseButton.LeftButton)
    qtbot.keyClicks(filters.text, "oldm")
    qtbot.keyClick(filters.text, Qt.Key.Key_Return)
    assert [item.access.call for item in stage.directory.survey.spots] == ["Q0OLD"]
    filters.text.clear()
    qtbot.keyClick(filters.text, Qt.Key.Key_Return)
    filters.age.setCurrentIndex(4)
    assert stage.directory.wanted.vanished
    filters.age.setCurrentIndex(1)
    assert stage.directory.wanted.since == (TODAY - timedelta(days=183)).isoformat()
    assert "Q0HAR" not in {item.access.call for item in stage.directory.survey.spots}


@pytest.mark.parametrize(
    ("text", "first"), [("HN46ok", "Q0TRK"), ("46.61, -30.78", "Q0NES"), ("cairnlow", "Q0NES"), ("Stenby", "Q0STB")]
)
def test_another_place_is_looked_around(qtbot, stage, text, first):
    stage.place.setText(text)
    qtbot.keyClick(stage.place, Qt.Key.Key_Return)
    assert stage.directory.survey.spots[0].access.call == first
    stage.place.clear()
    qtbot.keyClick(stage.place, Qt.Key.Key_Return)
    assert stage.directory.at_home
    assert stage.directory.survey.spots[0].access.site == "Home spot"


def test_a_place_that_is_none_is_said(qtbot, stage, window):
    stage.place.setText("Atlantis")
    qtbot.keyClick(stage.place, Qt.Key.Key_Return)
    assert "“Atlantis” is not a position" in window.message.text()
    assert "No site of that name" in window.message.text()


def test_without_a_position_nothing_is_taken_by_radius(stage, window):
    from umbra_awl.core.plan.edit.edit_station import set_station

    window.bench.do(set_station("x", lat=None, lon=None))
    stage.taking.within(30)
    assert "Give your position first" in window.message.text()
    assert "Where are you?" in stage.place.placeholderText()


def test_a_track_plays_as_a_moving_position(qtbot, stage, window, demo):
    stage.acts.play(demo.plan.parent / "ferry-to-nessa.gpx")
    playback = stage.around.playback
    assert playback.isVisible()
    playback.go_to(playback.track.length_s)
    assert stage.directory.survey.spots[0].access.call == "Q0NES"
    assert stage.around.map.moving == playback.track.positions[-1]
    playback.go_to(0)
    playback.toggle()
    playback._tick()
    assert playback.second > 0
    playback.toggle()
    playback._slid(500)
    assert playback.second == pytest.approx(playback.track.length_s / 2)
    press(qtbot, playback, "Put away")
    assert (playback.track, stage.around.map.moving, stage.directory.at_home) == (None, None, True)
    stage.acts.play(demo.plan)
    assert "not a readable GPX" in window.message.text()


def test_a_trip_is_planned_with_zone_and_reminders(qtbot, stage, window):
    stage.show_page("trips")
    before = window.bench.plan
    stage.place.setText("Oldmere")
    qtbot.keyClick(stage.place, Qt.Key.Key_Return)
    press(qtbot, stage.side, "Plan a trip to Oldmere")
    trip = window.bench.plan.trips[-1]
    assert trip.name == "Oldmere"
    assert len(trip.access) == 5
    assert window.bench.plan.zones[-1].by == "trip"
    window.bench.steps.back()
    assert window.bench.plan == before


def test_a_trips_fields_and_reminders(qtbot, stage, window):
    from PyQt6.QtWidgets import QCheckBox

    from umbra_awl.desk.parts.cards.field_list import FieldList

    stage.show_page("trips")

    def card():
        return next(item for item in stage.side.findChildren(FieldList) if "First day" in item._values)

    commit(qtbot, card(), "Last day", "2026-11-01")
    assert "before it begins" in card()._fault.text()
    qtbot.keyClick(card()._editing, Qt.Key.Key_Escape)
    commit(qtbot, card(), "Last day", "2026-12-06")
    commit(qtbot, card(), "Time zone", "Mars/Olympus")
    assert "is not a time zone" in card()._fault.text()
    qtbot.keyClick(card()._editing, Qt.Key.Key_Escape)
    QTest.qWait(10)
    next(item for item in stage.side.findChildren(QCheckBox) if item.isVisible()).click()
    trip = window.bench.plan.trips[0]
    assert (trip.ends, trip.reminders[0].done) == ("2026-12-06", True)
    press(qtbot, stage.side, "Take the nearest along")
    assert "nessa-north" in window.bench.plan.trips[0].access


def test_suggestions_of_the_region(stage, window):
    from umbra_awl.core.facts.repeaters import CALLING

    stage.taking.suggested(CALLING[1][0])
    assert "in the plan already" in window.message.text()
    stage.taking.suggested(CALLING[1][1])
    assert window.bench.plan.access[-1].services[0].rx_hz == 433_500_000
    assert window.bench.plan.access[-1].kind == "simplex"
    labels = [action.text() for action in stage.acts.menu().actions()]
    assert "Calling and simplex frequencies" in labels


def test_exports_from_the_window(stage, window, tmp_path):
    stage.acts.export(FilePlace(tmp_path / "shown.csv"), own=False)
    assert "access points exported" in window.message.text()
    stage.acts.export(FilePlace(tmp_path / "plan.geojson"), own=True)
    assert (tmp_path / "plan.geojson").stat().st_size > 500
    stage.acts.export(FilePlace(tmp_path / "plan.doc"), own=True)
    assert "not a form to export" in window.message.text()


def test_destinations_become_the_plans(qtbot, stage, window, tmp_path):
    (tmp_path / "groups.csv").write_text(
        "network,number,name,kind\nLattice,99900,Isles-wide,group\nLattice,4250,Evening round,group\nThreads,,ATL002 B,reflector\n",  # noqa: E501  (one table)
        "utf-8",
    )
    stage.imports.open(tmp_path / "groups.csv", "destinations")
    stage.imports.mapping.go()
    qtbot.waitUntil(lambda: not stage.directory.tasks.work)
    stage.show_page("destinations")
    page = stage.targets
    page.view.selectAll()
    press(qtbot, page, "Add the selected to the plan")
    assert [item.name for item in window.bench.plan.destinations[-2:]] == ["Evening round", "ATL002 B"]
    assert window.bench.plan.networks[-1].name == "Threads"
    page.view.selectAll()
    page.take()
    assert "already" in window.message.text()
    page.text.setText("evening")
    assert [item.name for item in page.rows.items] == ["Evening round"]


def test_people_are_found_while_typing_and_masked(qtbot, stage, window, tmp_path):
    calls = [f"Q1{chr(65 + at // 26)}{chr(65 + at % 26)}" for at in range(300)]
    rows = "".join(f"{9_990_000 + at},{call},Name{at},Stenby\n" for at, call in enumerate(calls))
    (tmp_path / "people.csv").write_text(f"id,call,name,city\n{rows}", "utf-8")
    stage.imports.open(tmp_path / "people.csv", "people")
    stage.imports.mapping.go()
    qtbot.waitUntil(lambda: not stage.directory.tasks.work)
    stage.show_page("people")
    model = stage.people.model
    assert model.rowCount() == 300
    assert [model.data(model.index(row, column)) for row, column in ((0, 0), (299, 1))] == ["999••••", calls[299]]
    qtbot.keyClicks(stage.people.text, "name7")
    assert model.rowCount() == 11
    assert model.data(model.index(0, 1)) == calls[7]
    press(qtbot, stage.people, "Show IDs")
    assert model.data(model.index(0, 0)) == "9990007"
    stage.people.text.clear()
    assert model.rowCount() == 300


def test_the_stage_by_its_commands(qtbot, stage, window):
    for keys, page in ((Qt.Key.Key_P, "people"), (Qt.Key.Key_T, "trips")):
        qtbot.keyClick(window, keys, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
        assert stage.pages.part == page
    window.stages.open("access")
    assert stage.around.map.hasFocus()
    stage.show_page("around")
    window.stages.open("access")
    assert stage.list.hasFocus()


def test_themes_and_text_sizes_draw(stage, window):
    choose(stage, "Q0NES")
    for theme in ("dark", "light"):
        window.theme.choose(theme)
        assert not window.grab().isNull()
    window.theme.rescale(2)
    assert not stage.list.grab().isNull()
    window.theme.rescale(-2)


def test_a_damaged_store_is_said_and_nothing_else_suffers(window, tmp_path):
    (tmp_path / "broken.sqlite").write_bytes(b"not a database" * 100)
    window._directory_path = tmp_path / "broken.sqlite"
    window.stages.open("access")
    assert "cannot be opened" in window.message.text()
    assert window.stages["access"].directory.survey.spots == ()
    window.stages.open("routes")
    assert window.stages.current == "routes"


def test_an_empty_directory_teaches(empty_window, tmp_path):
    empty_window.plans.new(tmp_path / "new.awl.json")
    empty_window.stages.open("access")
    stage = empty_window.stages["access"]
    assert stage.directory.survey.spots == ()
    assert "Where are you?" in stage.place.placeholderText()
    stage.directory.go_to(LookedAtPlace(stage.around.map.centre, "x"))
    assert stage.directory.wanted == NearestWanted()


def test_a_place_chosen_on_the_map_is_where_the_new_access_point_is(window, stage, monkeypatch):
    from PyQt6.QtWidgets import QDialog

    from umbra_awl.core.facts.earth import Position
    from umbra_awl.desk.parts.cards.adding import AddAccess

    shown = []
    monkeypatch.setattr(QDialog, "exec", lambda self: shown.append(self.position.text()) or 0)
    stage.acts.add_by_hand()
    stage.around.map.place_asked.emit(Position(46.61, -31.2))
    stage.acts.add_by_hand()
    assert shown == ["", "46.6100, -31.2000"]
    form = AddAccess(window.bench, window, Position(46.61, -31.2))
    form.call.setText("Q0MAP")
    form.receive.setText("145.5")
    assert form.attempt() == ""
    form.deleteLater()
    assert (window.bench.plan.access[-1].lat, window.bench.plan.access[-1].lon) == (46.61, -31.2)


def test_where_one_worked_from_stands_on_the_map_and_a_place_becomes_the_spot(qtbot, stage, window):
    window.bench.select(Selection("blackfell-dmr", "isles-wide", 2))
    stage.place.setText("HN46kl")
    stage._go()
    log = next(item for item in stage.acts.menu().actions() if item.text() == "Log from the place looked at")
    log.trigger()
    window.stages.open("log", "proof")
    card = window.stages["log"].proof.card
    assert card.spot.text() == "HN46kl"
    card.spot.setText("hill, HN46kl")
    card.log_it()
    qtbot.waitUntil(lambda: len(stage.worked.spots) == 1)
    window.stages.open("access", "around")
    ((_foot, words),) = stage.around.map.flags()
    assert words == "hill, HN46kl: 1 entry, best: answered"
    listed = next(item.menu() for item in stage.acts.menu().actions() if item.text() == "Where I worked from")
    stage.directory.go_to(None)
    listed.actions()[0].trigger()
    assert stage.directory.place.words == "hill, HN46kl"
    (near,) = [at for at, _words in stage.around.map.flags()]
    assert abs(near.x() - stage.around.map.width() / 2) < 2


def test_a_receiver_says_where_i_am_and_my_place_changes_only_where_said(demo_window, qtbot, monkeypatch):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    demo_window.stages.open("access", "around")
    directory, home = demo_window.directory, demo_window.bench.plan.station.lat
    monkeypatch.setattr(here_sheet, "fix_of_gpsd", lambda *_given, **_more: ReceiverFix(46.60, -30.80))
    sheet = here_sheet.HereSheet(demo_window, demo_window.bench, directory)
    assert sheet.source.itemText(0) == "gpsd on this computer"
    assert sheet.attempt() == ""
    qtbot.waitUntil(lambda: directory.place.words.startswith("here, "), timeout=5_000)
    assert "your station's place stays" in told[-1]
    assert demo_window.bench.plan.station.lat == home
    sheet.keep.setChecked(True)
    sheet.attempt()
    qtbot.waitUntil(lambda: demo_window.bench.plan.station.lat == 46.6, timeout=5_000)
    demo_window.bench.steps.back()
    assert demo_window.bench.plan.station.lat == home

    def nothing(*_given, **_more):
        raise FixError("gpsd does not answer. Start it.")

    monkeypatch.setattr(here_sheet, "fix_of_gpsd", nothing)
    sheet.attempt()
    qtbot.waitUntil(lambda: told[-1] == "gpsd does not answer. Start it.", timeout=5_000)


def test_a_trips_kit_is_packed_and_unpacked(qtbot, demo_window):
    from PyQt6.QtWidgets import QCheckBox

    demo_window.stages.open("access", "trips")
    trips = demo_window.stages["access"].trips
    tick = next(item for item in trips.findChildren(QCheckBox) if item.accessibleName().startswith("Licence"))
    tick.setChecked(True)
    assert "licence" in demo_window.bench.plan.trips[0].packed
    texts = [label.text() for label in trips.findChildren(QLabel)]
    assert any(text.startswith("Take along: 1 of") for text in texts)
    demo_window.bench.steps.back()
    assert demo_window.bench.plan.trips[0].packed == ()


def test_what_is_heard_through_the_band_is_noted_and_taken_back(qtbot, demo_window, monkeypatch, tmp_path):
    from umbra_awl.desk.access.listen_sheet import ListenSheet

    demo_window.stages.open("access")
    stage = demo_window.stages["access"]
    stage.directory.look()
    qtbot.waitUntil(lambda: bool(stage.directory.survey.spots), timeout=5_000)
    sheet = ListenSheet(stage, stage.bench, stage.theme, stage.directory, ())
    qtbot.addWidget(sheet)
    sheet.show()
    assert sheet.focusWidget() is sheet.heard
    first = sheet.lines[0].hz
    qtbot.keyClicks(sheet.heard, "Q3AMB")
    qtbot.keyClick(sheet.heard, Qt.Key.Key_Return)
    heard = stage.bench.plan.station.heard
    assert [(item.hz, item.words) for item in heard] == [(first, "Q3AMB")]
    assert sheet.scan.row_now == 1, "on to the next frequency"
    assert "Q3AMB on" in sheet.scan.text(0, 3)
    assert sum(item.own for item in sheet.hours) == 1
    stage.bench.steps.back()
    assert stage.bench.plan.station.heard == ()
    place = FilePlace(tmp_path / "listening.pdf", replace=False)
    monkeypatch.setattr("umbra_awl.desk.access.listen_sheet.ask_place", lambda *_: place)
    sheet._ask_pdf()
    qtbot.waitUntil(place.path.exists, timeout=5_000)
    assert sheet.groups
    sheet.order.choose(0)
    sheet._go()
    assert demo_window.stages.current == "routes"


def test_a_repeater_of_the_map_becomes_a_far_end_and_the_sheet_stands_at_it(qtbot, demo_window):
    demo_window.stages.open("access")
    stage = demo_window.stages["access"]
    stage.directory.look()
    qtbot.waitUntil(lambda: bool(stage.directory.survey.spots), timeout=5_000)
    detail = stage.around.detail
    spots = stage.directory.survey.spots
    detail.show_spot(next(item for item in spots if item.access.call == "Q0SIG"))
    choices = dict(detail._ends())
    words = next(text for text in choices if "routed to" in text)
    choices[words]()
    bench = demo_window.bench
    made = bench.index.destinations[bench.selection.destination]
    assert made.kind == "repeater"
    assert made.text.startswith("Q0SIG ")
    assert demo_window.stages.current == "routes"
    detail.show_spot(next(item for item in spots if all(service.mode == "fm" for service in item.access.services)))
    assert [text for text, _does in detail._ends()] == ["None here: why?"]


def test_a_person_of_the_directory_becomes_a_far_end(qtbot, demo_window):
    from umbra_awl.core.directory.people_search import Person

    demo_window.stages.open("access", "people")
    page = demo_window.stages["access"].people
    assert [text for text, _does in page._ends()] == ["Choose somebody in the table first"]
    page.model._found = [Person(9_995_151, "Q3AMB", "Amber", "Stenby", "Velmar")]
    page.model.layoutChanged.emit()
    page.view.setCurrentIndex(page.model.index(0, 0))
    choices = dict(page._ends())
    next(does for text, does in choices.items() if "private call" in text)()
    bench = demo_window.bench
    assert bench.index.destinations[bench.selection.destination].number == 9_995_151
    bench.steps.back()
    assert not any(item.number == 9_995_151 for item in bench.plan.destinations)
