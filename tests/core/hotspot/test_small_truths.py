"""Small truths of hotspot pages: units that are told, a phone's own correction, quiet days, the Wi-Fi of either school."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.hotspot.match.guess import guess_keys
from umbra_awl.core.hotspot.match.layout import SettingsLayoutError, parse_layout, words_of
from umbra_awl.core.hotspot.pairing.gateway import gateway_sheet
from umbra_awl.core.hotspot.place.after import note_heard
from umbra_awl.core.hotspot.place.terms import heard_at
from umbra_awl.core.paper.road_sheet import IN_HEAD, road_sheet
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.hotspots import HomeWifi
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Listened
from umbra_awl.demo.fresh import demo_plan

PLAN = demo_plan(TODAY)
HEAD = 'format = "umbra-awl settings layout"\nversion = 1\nname = "x"\nform = "ini"\n'


def test_a_frequency_of_a_layout_has_its_unit_and_is_never_guessed():
    with pytest.raises(SettingsLayoutError, match="its unit is not told"):
        parse_layout(HEAD + 'key = [{ field = "tx_hz", at = "a.sends" }]\n')
    assert parse_layout(HEAD + 'key = [{ field = "tx_hz", at = "a.sends", unit = "kHz" }]\n').key[0].unit == "kHz"
    (key,) = guess_keys({"radio.txfrequency": "434612500"})
    assert words_of(key).endswith(" in Hz")
    assert not guess_keys({"radio.txfrequency": "4346125"}), "4.3461 MHz or 434.6125 without its zeros: nobody can tell"


def test_the_phones_own_bridge_begins_at_no_correction_whatever_the_board_has():
    hotspot = replace(PLAN.hotspots[0], rx_correction_hz=-240)
    index = PlanIndex(PLAN, TODAY)
    for shown in (False, True):
        sheet = gateway_sheet(index, index.access[hotspot.access], hotspot, ids_shown=shown)
        fields = {name: value for name, value, _note in sheet.fields}
        assert fields["Correction"] == "0"
        assert ("9994217" in fields["ID"]) == shown


def noted(hotspot, *notes):
    plan = replace(PLAN, hotspots=(hotspot,))
    for day, heard in notes:
        plan = note_heard(plan.hotspots[0], Listened(434_000_000, day, heard)).apply(plan)
    return heard_at(plan.hotspots[0].listened, 434_000_000, 12_500)


def test_what_is_heard_on_a_channel_adds_up_over_a_day_and_a_quiet_look_takes_nothing_back():
    hotspot = replace(PLAN.hotspots[0], listened=())
    heard = noted(hotspot, ("2026-11-30", "voices"), ("2026-11-30", "a beacon"), ("2026-12-01", ""))
    assert (heard.busy, heard.quiet, heard.words) == (2, 1, ("voices", "a beacon"))
    with pytest.raises(EditRefused, match="no quiet day"):
        noted(hotspot, ("2026-11-30", "voices"), ("2026-11-30", ""))
    assert noted(hotspot, ("2026-11-30", ""), ("2026-11-30", "")).quiet == 1
    later = noted(hotspot, ("2026-11-30", ""), ("2026-11-30", "voices"))
    assert (later.busy, later.quiet) == (1, 0)


@pytest.mark.parametrize(("school", "name"), [("teach", "Harrowquay"), ("pose", "Wren-Home")])
def test_the_road_sheet_names_the_wifi_of_its_school_and_no_key_store_that_is_not_there(school, name):
    phone = replace(PLAN.station.phone, sharing="Harrowquay-7")
    station = replace(PLAN.station, phone=phone, home_wifi=HomeWifi("Wren-Home"))
    index = PlanIndex(replace(PLAN, station=station), TODAY)
    sheet = road_sheet(index, replace(PLAN.hotspots[0], school=school), None, passwords=IN_HEAD)
    facts = dict(sheet.facts)
    assert name in facts["Phone shares"]
    assert "key store" not in facts["Passwords"]
    bare = road_sheet(
        PlanIndex(replace(PLAN, station=replace(station, home_wifi=None)), TODAY),
        replace(PLAN.hotspots[0], school="pose"),
        None,
    )
    assert "not noted" in dict(bare.facts)["Phone shares"]
