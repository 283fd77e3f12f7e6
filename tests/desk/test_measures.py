"""Distances, hours and numbers are told as the desktop's locale asks, or as it was chosen; frequencies never change."""

from datetime import datetime

import pytest
from PyQt6.QtCore import QLocale

from umbra_awl.desk.measures import Measures, chosen, of_locale
from umbra_awl.desk.radios.people_rules import _km
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme, system_scale


@pytest.mark.parametrize(
    ("name", "expected"),
    [("de_DE", Measures("km", "24", ",")), ("en_US", Measures("mi", "12", ".")), ("en_GB", Measures("mi", "24", "."))],
)
def test_the_locale_decides_until_something_is_chosen(name, expected):
    assert of_locale(QLocale(name)) == expected
    assert chosen("", "", "", QLocale(name)) == expected
    assert chosen("km", "24", ".", QLocale(name)) == Measures()
    assert chosen("furlongs", "13", "x", QLocale(name)) == expected, "a damaged choice is none"


def test_distances_and_hours():
    miles, comma = Measures("mi", "12", "."), Measures(mark=",")
    assert miles.distance(16.09344) == "10.0 mi"
    assert comma.distance(12.34) == "12,3 km"
    assert comma.distance(12_345.6) == "12\u202f346 km"
    assert miles.round_distance(5 * 1.609344) == "5 mi"
    assert miles.time(datetime(2026, 11, 26, 14, 5)) == "2:05 pm"
    assert comma.time(datetime(2026, 11, 26, 14, 5)) == "14:05"


def test_the_window_tells_miles_when_asked_and_remembers_it(window, tmp_path):
    window.settings._path = tmp_path / "window.json"
    window.theme.measure(far="km", mark=".")
    window.stages.open("access", "around")
    access = window.stages["access"]
    access.list.setCurrentIndex(access.list.model().index(0, 0))
    before = access.around.detail._where.text()
    assert " km " in before
    window.commands.run("measure-far")
    access.list.setCurrentIndex(access.list.model().index(1, 0))
    access.list.setCurrentIndex(access.list.model().index(0, 0))
    after = access.around.detail._where.text()
    assert " mi " in after
    assert float(after.split()[0]) == pytest.approx(float(before.split()[0]) / 1.609344, abs=0.02)
    access.around.map.grab()
    assert Settings(tmp_path / "window.json").kept.far == "mi"
    window.commands.run("measure-mark")
    assert window.theme.measures.mark == ","


def test_a_distance_may_be_typed_in_miles():
    assert _km("250") == _km("250 km") == 250
    assert _km("150 mi") == pytest.approx(241.4016)
    with pytest.raises(ValueError, match="float"):
        _km("far")


def test_the_text_is_as_large_as_the_desktop_asks_until_it_was_chosen(qapp, monkeypatch):
    assert Theme(qapp, "light").scale == system_scale() == 1.0
    monkeypatch.setattr("umbra_awl.desk.theme.theme.USUAL_DPI", 74.0)
    assert Theme(qapp, "light").scale == 1.3
    assert Theme(qapp, "light", 0.9).scale == 0.9
    monkeypatch.undo()
    Theme(qapp, "light", 1.0)
