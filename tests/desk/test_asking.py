"""Any number asked in the window: each page's figures are those shown there, and are recomputed from what the sheet shows."""

import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import Reading
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.core.simulation.evenings import many_evenings
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.desk.access.detail import Detail
from umbra_awl.desk.asked import figures_on
from umbra_awl.desk.frame.sheets.ask_sheet import AskSheet


def asked(window, stage, page):
    window.stages.open(stage, page)
    shown = window.stages[stage]
    return {item.key: item for item in figures_on((shown, window.beside.side))}


def sound(figure):
    assert figure.again() == pytest.approx(figure.value, rel=1e-6, abs=1e-6)
    return figure


def test_reach_exposure_battery_and_lead_time_are_asked_where_they_stand(demo_window):
    demo_window.stages.open("access", "around")
    spot = next(item for item in demo_window.directory.survey.spots if item.reach is not None)
    demo_window.stages["access"].findChild(Detail).show_spot(spot)
    reach = sound(asked(demo_window, "access", "around")["reach"])
    assert reach.value == pytest.approx(spot.reach.margin_db)
    exposure = sound(asked(demo_window, "station", "exposure")["exposure"])
    assert f"{exposure.value:.2f} m" in demo_window.stages["station"].exposure.result.text()
    battery = sound(asked(demo_window, "station", "battery")["battery"])
    assert f"{battery.value:.1f} hours" in demo_window.stages["station"].battery.result.text()
    assert sound(asked(demo_window, "station", "when")["lead"]).value >= 0


def test_place_offset_people_evening_and_proof_are_asked_where_they_stand(demo_window, qtbot):
    place = sound(asked(demo_window, "hotspots", "place")["place"])
    assert f"{place.value:.0f} of 100" in demo_window.stages["hotspots"].place.verdict.text()
    hotspot = demo_window.stages["hotspots"].spot.hotspot
    readings = tuple(Reading(hz, errors, 11_520) for hz, errors in ((-400, 900), (0, 60), (200, 40), (600, 700)))
    demo_window.bench.do(set_fields(HOTSPOTS, hotspot.key, "Readings", readings=readings))
    offset = sound(asked(demo_window, "hotspots", "calibrate")["offset"])
    assert f"{offset.value:+.0f} Hz" in demo_window.stages["hotspots"].curve.main.text()
    demo_window.bench.choose_radio("moor")
    assert sound(asked(demo_window, "radios", "people")["people"]).value == 0
    proven = sound(asked(demo_window, "log", "proof")["proven"])
    assert f"({proven.value:.0f} %)" in demo_window.stages["log"].proof.shares.text()
    assert asked(demo_window, "onair", "evening") == {}
    index, fits = demo_window.bench.index, demo_window.bench.worked.results.fits
    keys = tuple(channel.route for channel in fits["moor"].memory.channels if channel.route)[:4]
    evening = demo_window.stages["onair"].evening
    evening.result = many_evenings(make_setting(index, fits, ListeningChoice("moor", keys)), keys, 6)
    assert sound(asked(demo_window, "onair", "evening")["missed"]).value == 100 * evening.result.missed.value


def test_a_number_is_asked_by_its_key_and_read_by_keyboard(demo_window):
    demo_window.stages.open("station", "exposure")
    seen = []

    def look():
        sheet = QApplication.activeModalWidget()
        assert isinstance(sheet, AskSheet)
        seen.append(
            (
                sheet.title.text(),
                sheet.lines.texts.rows,
                sheet.inputs.texts.rows,
                sheet.most.text(),
                sheet.source.text(),
            )
        )
        QTest.keyClick(sheet, Qt.Key.Key_Escape)

    QTimer.singleShot(0, look)
    demo_window.commands.run("ask")
    (title, lines, inputs, most, source) = seen[0]
    assert "Distance to keep" in title
    assert any("sqrt" in cell for row in lines for cell in row)
    assert any("power at the antenna" in row[0] for row in inputs)
    assert all(row[3] for row in inputs)
    assert "power at the antenna" in most
    assert "OET" in source


def test_a_page_without_numbers_says_where_they_are(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    demo_window.stages.open("log", "nets")
    demo_window.commands.run("ask")
    assert "Numbers can be asked where they stand" in told[-1]
