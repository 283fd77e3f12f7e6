"""The Station stage in the window: the lead-time chart by mouse and keys, identities, licences, bands, place, estimates."""

import pytest
from icalendar import Calendar
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QLabel

from tests.days import TODAY
from tests.desk.test_routes_stage import choose
from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.plan.disk.file_form import parse_plan
from umbra_awl.core.plan.model import RadioId
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.desk.stages import STAGES
from umbra_awl.desk.station.calculator import parse_amount
from umbra_awl.desk.station.identity_fields import parse_id
from umbra_awl.desk.station.step_fields import parse_days


@pytest.fixture
def stage(window, demo):
    window._directory_path = demo.directory
    window.stages.open("station", "when")
    QTest.qWait(10)
    return window.stages["station"]


def commit(qtbot, card, label, text):
    card.edit(label)
    card._editing.setText(text)
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)


def fault(card):
    return card._fault.text()


def escape(qtbot, card):
    qtbot.keyClick(card._editing, Qt.Key.Key_Escape)


def step(window, key):
    return next(item for item in window.bench.plan.steps if item.key == key)


# the chart


def test_it_opens_on_whoever_waits_and_says_the_day(stage):
    assert stage.steps.step_card._values["Step"].text() == "Licence"
    assert stage.lead.who == "odile"
    assert stage.lead._title.text().startswith("On the air: likely ")
    assert "simulated runs" in stage.lead._lead.text()
    assert "listen, practise, prepare the plan" in stage.lead._lead.text()
    assert "Licence: " in stage.lead.chart.accessibleName()


def test_steps_are_chosen_by_keys_and_mouse(qtbot, stage):
    chart = stage.lead.chart
    chart.setFocus()
    qtbot.keyClick(chart, Qt.Key.Key_Down)
    assert chart.current == "id"
    assert stage.steps.step_card._values["Step"].text() == "DMR ID"
    box = chart.row_box(4)
    qtbot.mouseClick(chart, Qt.MouseButton.LeftButton, pos=QPoint(60, round(box.center().y())))
    assert chart.current == "listen"
    qtbot.keyClick(chart, Qt.Key.Key_Return)
    assert stage.steps.step_card._values["Step"].hasFocus()


def test_space_marks_a_step_done_and_the_day_moves(qtbot, stage, window):
    chart = stage.lead.chart
    chart.choose("licence")
    before = stage.lead.drawn.forecast
    qtbot.keyClick(chart, Qt.Key.Key_Space)
    assert step(window, "licence").done == TODAY.isoformat()
    assert stage.lead.drawn.forecast.p50 < before.p50
    assert {bar.step.key for bar in stage.lead.drawn.bars if bar.ready} >= {"id"}
    window.bench.steps.back()
    assert stage.lead.drawn.forecast == before


def test_a_steps_fields(qtbot, stage, window):
    stage.lead.chart.choose("account")
    card = stage.steps.step_card
    commit(qtbot, card, "Days", "2 - 3 - 9")
    assert (step(window, "account").low, step(window, "account").high) == (2, 9)
    commit(qtbot, card, "Days", "5 - 3 - 9")
    assert "shortest, likely, longest" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "Days", "soon")
    assert "three numbers of days" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "Began", "today")
    commit(qtbot, card, "Done", "31.12.2026")
    assert (step(window, "account").started, step(window, "account").done) == (TODAY.isoformat(), "2026-12-31")
    commit(qtbot, card, "Done", "some day")
    assert "is not a date" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "Step", "Account on Lattice")
    assert "Account on Lattice" in [bar.step.name for bar in stage.lead.drawn.bars]


def test_waiting_in_a_ring_is_refused_in_the_window(stage, window):
    from umbra_awl.desk.station.step_fields import step_fields

    waits = next(field for field in step_fields(window.bench, step(window, "licence")) if field.label == "Waits for")
    next(choice for choice in waits.choices if choice.word == "First call").does()
    assert "in a ring" in window.message.text()
    assert step(window, "licence").after == ()


def test_templates_add_remove_and_calendar(qtbot, stage, window, tmp_path):
    stage.lead.choose("wren")
    assert stage.lead._start.isVisibleTo(stage.lead)
    stage.lead.use(1)
    assert [bar.step.name for bar in stage.lead.drawn.bars if bar.done] == ["Licence"]
    stage.lead.add("Raise the mast")
    assert stage.lead.drawn.bars[-1].step.name == "Raise the mast"
    stage.lead.chart.choose(stage.lead.drawn.bars[-1].step.key)
    remove = next(action for action in stage.lead.menu().actions() if action.text().startswith("Remove"))
    assert remove.text() == "Remove “Raise the mast”"
    remove.trigger()
    assert "Raise the mast" not in {item.name for item in window.bench.plan.steps}
    stage.lead.save_calendar(FilePlace(tmp_path / "air.ics"))
    assert Calendar.from_ical((tmp_path / "air.ics").read_bytes()).walk("VEVENT")
    stage.lead.save_calendar(FilePlace(tmp_path / "no" / "air.ics"))
    assert "cannot be written" in window.message.text()


def test_today_tells_what_can_be_done_now(stage):
    said = [item.text() for item in stage.steps.step.findChildren(QAbstractButton)]
    assert {"Licence", "Listen first", "Prepare the plan"} <= set(said)
    assert "First call" not in said
    assert "asked for, wait" in [item.text() for item in stage.steps.step.findChildren(QLabel)]


@pytest.mark.parametrize(
    ("text", "days"),
    [
        ("1 - 2 - 7", (1, 2, 7)),
        ("1/2/7", (1, 2, 7)),
        ("0,5 – 1 – 2", (0.5, 1, 2)),
        ("3", (3, 3, 3)),
        ("1 to 2 to 3", (1, 2, 3)),
    ],
)
def test_days_as_people_type_them(text, days):
    assert parse_days(text) == days


# identities and licences


def test_ids_with_labels_and_suffixes(qtbot, stage, window):
    stage.show_page("who")
    card = stage.who.cards["wren"]
    commit(qtbot, card, "DMR ID 2", "9994217 07 attic")
    assert window.bench.plan.station.identities[0].ids[1] == RadioId(9994217, "attic", "07")
    commit(qtbot, card, "DMR ID 2", "9994217 02")
    assert "there already" in fault(card)
    escape(qtbot, card)
    QTest.qWait(10)
    press = next(item for item in card.findChildren(QAbstractButton) if item.text() == "Add an ID" and item.isVisible())
    qtbot.mouseClick(press, Qt.MouseButton.LeftButton)
    assert window.bench.plan.station.identities[0].ids[-1].suffix == "01"
    assert "9994217" not in window.bench.document.history.past[-1].sentence


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("9994217", RadioId(9994217)),
        ("999421702", RadioId(9994217, "", "02")),
        ("9994217-02 travel spot", RadioId(9994217, "travel spot", "02")),
    ],
)
def test_ids_as_people_type_them(text, found):
    assert parse_id(text) == found
    assert found.full == int(f"9994217{found.suffix}")


@pytest.mark.parametrize("text", ["", "999421", "12345678", "99942171234", "999x217"])
def test_what_is_no_id(text):
    with pytest.raises(ValueError, match=r"."):
        parse_id(text)


def test_the_fields_of_the_other_modes(qtbot, stage, window):
    card = stage.who.cards["odile"]
    assert card._values["D-STAR"].text() == "Q9ODL··· /····"
    commit(qtbot, card, "D-STAR note", "hand")
    commit(qtbot, card, "D-STAR", "q9odl  a")
    odile = window.bench.plan.station.identities[1]
    assert (odile.dstar_note, odile.dstar_call) == ("HAND", "Q9ODL  A")
    commit(qtbot, card, "D-STAR", "far too long")
    assert "is not a call-sign field" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "D-STAR note", "HANDY")
    assert "is not a note" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "Start-up", "x" * 40)
    assert "40 characters" in fault(card)


def test_each_person_has_a_licence_of_their_own(stage, window):
    stage.show_page("licence")
    assert stage.licence._whose.text() == "Licence of Odile"
    assert stage.licence.licence_card._values["Granted"].text() == "not yet"
    shown = [made for made in stage.me.findChildren(QAbstractButton) if made.isVisible() and made.isCheckable()]
    next(made for made in shown if made.text() == "Wren").click()
    assert stage.lead.who == "wren"
    assert stage.licence._whose.text() == "Licence of Wren"
    assert stage.licence.licence_card._values["Granted"].text() == "yes"


def test_the_date_and_power_of_a_licence(qtbot, stage, window):
    stage.show_page("licence")
    stage.lead.choose("wren")
    card = stage.licence.licence_card
    commit(qtbot, card, "Since", "12.03.2025")
    commit(qtbot, card, "Power", "50 W")
    licence = window.bench.plan.station.licence
    assert (licence.granted_on, licence.max_watts) == ("2025-03-12", 50)
    commit(qtbot, card, "Power", "loud")
    assert "is not a power" in fault(card)


# bands and place


def test_a_band_of_ones_own_and_who_sets_it(qtbot, stage, window):
    stage.show_page("bands")
    bands = stage.bands
    bands.name.setText("1.2 GHz")
    bands.edges.setText("1240 - 1300")
    qtbot.keyClick(bands.edges, Qt.Key.Key_Return)
    assert [band.name for band in window.bench.index.bands] == ["2 m", "70 cm", "1.2 GHz"]
    commit(qtbot, bands.table.cards["1.2 GHz"], "Set by", "Velmar band plan 2026")
    assert window.bench.index.bands[2].source == "Velmar band plan 2026"
    bands.name.setText("2 m")
    bands._add()
    assert "in the table already" in bands.fault.text()
    bands.name.setText("6 m")
    bands.edges.setText("52 - 50")
    bands._add()
    assert "before it begins" in bands.fault.text()
    take_out = next(
        item for item in bands.table.cards["1.2 GHz"].findChildren(QAbstractButton) if item.text() == "Take it out"
    )
    qtbot.mouseClick(take_out, Qt.MouseButton.LeftButton)
    assert window.bench.plan.station.bands == ()


def test_position_in_any_notation_and_its_privacy(qtbot, stage, window):
    stage.show_page("place")
    card = stage.place.card
    for text in ("46° 36.6′ N, 30° 46.8′ W", "46,61 -30,78", "HN46op"):
        commit(qtbot, card, "Position", text)
        assert window.bench.plan.station.lat == pytest.approx(46.61, abs=0.04)
    commit(qtbot, card, "Position", "far away")
    assert "is not a position" in fault(card)
    escape(qtbot, card)
    commit(qtbot, card, "Antenna", "12,5 m")
    assert window.bench.plan.station.height_m == 12.5
    commit(qtbot, card, "Antenna", "-3")
    assert "lies between 0 and" in fault(card)
    escape(qtbot, card)
    from umbra_awl.core.plan.edit.edit_station import set_station

    window.bench.do(set_station("x", privacy="none"))
    assert "nothing" in [item.text() for item in card.findChildren(QLabel)]


def test_the_position_from_the_directory(qtbot, stage, window):
    stage.place.site.setText("cairnlow")
    qtbot.keyClick(stage.place.site, Qt.Key.Key_Return)
    assert (window.bench.plan.station.place, window.bench.plan.station.lat) == ("Cairnlow", 46.61)
    stage.place.site.setText("atlantis")
    qtbot.keyClick(stage.place.site, Qt.Key.Key_Return)
    assert "No site “atlantis”" in window.message.text()


# estimates


def test_exposure_follows_the_radio_and_says_it_is_an_estimate(qtbot, stage):
    stage.show_page("exposure")
    exposure = stage.exposure
    assert "Keep people 0.34 m" in exposure.result.text()
    exposure.choose("moor")
    assert exposure.values["watts"] == 6.0
    commit(qtbot, exposure.fields, "Talking", "100 %")
    assert "Keep people" in exposure.result.text()
    commit(qtbot, exposure.fields, "Frequency", "7")
    assert "lies between 30 and 2000" in fault(exposure.fields)
    escape(qtbot, exposure.fields)
    exposure.choose("")
    assert exposure.values["gain"] == 2.15
    assert any("Local rules decide" in item.text() for item in exposure.findChildren(QLabel))


def test_battery_hours_follow_the_radio(qtbot, stage):
    battery = stage.battery
    assert battery.result.text().startswith("About 9.6 hours")
    battery.choose("moor")
    assert battery.values["capacity"] == 3100
    commit(qtbot, battery.fields, "Transmit", "95")
    assert "at most 100 %" in battery.result.text()
    commit(qtbot, battery.fields, "Capacity", "a lot")
    assert "is not capacity" in fault(battery.fields)


def test_amounts_as_people_type_them():
    assert parse_amount("2,5 W", 0, 10, "power") == 2.5
    assert parse_amount("50%", 0, 100, "share") == 50


# the whole


def test_a_copy_to_share_leaves_the_ids_out(window, tmp_path):
    window.plans.share(FilePlace(tmp_path / "shared.awl.json"))
    shared = parse_plan((tmp_path / "shared.awl.json").read_bytes())
    assert all(not item.ids for item in shared.station.identities)
    assert "IDs left out" in window.message.text()
    window.plans.share(FilePlace(tmp_path / "no" / "shared.awl.json"))
    assert "cannot be written" in window.message.text()


def test_every_page_draws_in_both_themes_and_sizes(stage, window):
    for theme in ("dark", "light"):
        window.theme.choose(theme)
        for page in STAGES["station"].pages:
            stage.show_page(page)
            assert not window.grab().isNull()
    window.resize(1024, 700)
    window.theme.rescale(1)
    assert not window.grab().isNull()
    window.theme.rescale(-1)


def test_where_people_disagree_one_way_is_chosen_and_findings_follow(qtbot, window):
    window.stages.open("station", "habits")
    stage = window.stages["station"]
    card = stage.me._parts["habits"].card
    assert card.isVisible()
    choose(card, "Time-out timer", "leave it off")
    bench = window.bench
    assert bench.plan.station.habits.time_out == "off"
    bench.do(set_settings(bench.index.radios["moor"], "x", time_out_s=180))
    assert any(item.rule.name == "time-out-set" for item in bench.worked.results.findings)
    bench.steps.back()
    bench.steps.back()
    assert bench.plan.station.habits.time_out == ""
