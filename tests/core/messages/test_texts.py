"""Texts: length, recipient, spelling, position; the history; who may send what."""

import os
from datetime import UTC, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.messages.blocks import Arrived, make_offer
from umbra_awl.core.messages.carriers import shipped_carriers
from umbra_awl.core.messages.frames import Text
from umbra_awl.core.messages.history import NAME, MessageHistory, Said, proven, utc_stamp
from umbra_awl.core.messages.permit import etiquette, least_power, may_send
from umbra_awl.core.messages.spelling import misspelt
from umbra_awl.core.messages.texts import Draft, draft_fault, make_text, position_words
from umbra_awl.core.plan.index import PlanIndex


@pytest.fixture
def fits(index, profiles):
    return {radio.key: fit(index, radio, profiles[radio.profile]) for radio in index.plan.radios}


DSTAR = shipped_carriers()["dstar"]


@pytest.mark.parametrize(
    ("draft", "words"),
    [
        (Draft(""), "nothing to send"),
        (Draft("   "), "nothing to send"),
        (Draft("x" * 203), "3 characters too long"),
        (Draft("a\x07b"), "cannot be shown"),
        (Draft("hello", "no call"), "."),
        (Draft("hello", "Q3AMB"), ""),
        (Draft("hello"), ""),
    ],
)
def test_what_keeps_a_text_from_going_out(draft, words):
    fault = draft_fault(draft, DSTAR)
    assert bool(fault) == bool(words)
    assert words in fault


def test_the_position_goes_along_as_exactly_as_the_plan_lets_it(plan):
    station = plan.station
    assert len(make_text(Draft("hello"), "Q4WRN", replace(station, privacy="locator")).position) in {4, 6}
    assert " " in position_words(replace(station, privacy="exact"))
    assert position_words(replace(station, privacy="none")) == ""
    assert make_text(Draft("hello", position=False), "Q4WRN", station).position == ""
    assert make_text(Draft("hello", " q3amb "), "Q4WRN", station).to == "Q3AMB"


def test_misspelt_words_are_marked_and_the_fields_own_are_not():
    text = "Plese meet at Q0BLK on 438.6125 MHz, QRX 5, repeater is lound"
    found = misspelt(text)
    assert [text[item.at : item.at + item.length] for item in found] == ["Plese", "lound"]
    assert "please" in found[0].better
    assert misspelt("Wir kommen später", "de") == ()
    with pytest.raises(ValueError, match="no dictionary"):
        misspelt("x", "tlh")


@given(st.text(max_size=60))
def test_spelling_never_fails_and_marks_what_is_there(text):
    for item in misspelt(text):
        assert text[item.at : item.at + item.length]


def test_a_text_is_proven_by_an_answer_only():
    said = [
        Said("t1", "mine", "Q4WRN", "Q3AMB", "one"),
        Said("t2", "theirs", "Q9ODL", "", "other"),
        Said("t3", "mine", "Q4WRN", "", "to all"),
        Said("t4", "theirs", "Q3AMB", "Q4WRN", "yes"),
        Said("t5", "mine", "Q4WRN", "Q3AMB", "later"),
    ]
    assert proven(said) == {0, 2}


def test_a_disk_that_takes_a_part_at_a_time_gets_the_whole_line(tmp_path, monkeypatch):
    real = os.write
    monkeypatch.setattr(os, "write", lambda handle, data: real(handle, bytes(data)[:7]))
    history = MessageHistory(tmp_path)
    history.keep_text(Text("Q4WRN", "a text that is longer than seven bytes", "Q3AMB"), "mine", "2026-11-27T10:00:00Z")
    assert [item.text for item in history.read()] == ["a text that is longer than seven bytes"]


def test_a_pipe_in_place_of_the_history_is_refused_and_not_waited_for(tmp_path):
    os.mkfifo(tmp_path / NAME)
    with pytest.raises(OSError, match=NAME):
        MessageHistory(tmp_path).keep_text(Text("Q4WRN", "hello", "Q3AMB"), "mine", "2026-11-27T10:00:00Z")


def test_the_history_outlives_a_torn_line(tmp_path):
    history = MessageHistory(tmp_path / "messages")
    assert history.read() == ()
    history.keep_text(Text("Q4WRN", "first", "Q3AMB", "HN46"), "mine", "2026-11-27T10:00:00Z")
    path = tmp_path / "messages" / NAME
    path.write_bytes(path.read_bytes() + b'{"utc":"torn')
    history.keep_text(Text("Q3AMB", "second"), "theirs", "2026-11-27T10:01:00Z", "arrived")
    assert [item.text for item in history.read()] == ["first", "second"]
    assert path.stat().st_mode & 0o077 == 0


def test_a_picture_is_kept_with_call_size_quality_and_utc(tmp_path):
    history = MessageHistory(tmp_path)
    offer = make_offer(b"jpegjpeg", "Q3AMB", "", (320, 240), "even")
    moment = utc_stamp(datetime(2026, 11, 27, 10, 0, tzinfo=UTC))
    said = history.keep_picture(Arrived(offer, b"jpegjpeg"), "theirs", moment)
    assert all(word in said.file for word in ("100000Z", "q3amb", "320x240", "even")) or "Q3AMB" in said.file
    assert (tmp_path / said.file).read_bytes() == b"jpegjpeg"
    again = history.keep_picture(Arrived(replace(offer, call="../../x", quality="../y"), b"other"), "theirs", moment)
    assert (tmp_path / again.file).parent == tmp_path
    assert "unknown" in again.file
    assert [item.file for item in history.read()] == [said.file, again.file]


def sends(index, fits, profiles, radio, route, what):
    return may_send(index, fits, radio, route, profiles[index.radios[radio].profile], what)


def test_guard_and_licence_hold_for_data_too(plan, index, fits, profiles):
    assert sends(index, fits, profiles, "fell", "signal-b>local@0", "picture").refusal == ""
    guarded = PlanIndex(
        replace(plan, station=replace(plan.station, licence=replace(plan.station.licence, guard=True))), TODAY
    )
    refits = {"fell": fit(guarded, guarded.radios["fell"], profiles["fell-d2"])}
    assert "receive-only" in sends(guarded, refits, profiles, "fell", "signal-b>local@0", "text").refusal.lower()


def test_what_a_mode_does_not_carry_is_told_with_what_it_needs(index, fits, profiles):
    fusion = sends(index, fits, profiles, "crag", "torrick-fusion>local@0", "picture").refusal
    assert all(word in fusion for word in ("camera microphone", "repeater", "hotspots"))
    assert "no pictures" in sends(index, fits, profiles, "tarn", "blackfell-dmr>local@1", "picture").refusal
    assert sends(index, fits, profiles, "tarn", "blackfell-dmr>local@1", "text").refusal == ""
    assert "voice only" in sends(index, fits, profiles, "tarn", "blackfell-fm>local@0", "text").refusal


def test_the_speed_is_what_both_radio_and_access_point_have(index, fits, profiles):
    assert sends(index, fits, profiles, "fell", "signal-b>local@0", "picture").speed == "fast"
    assert sends(index, fits, profiles, "fell", "signal-c>local@0", "picture").speed == "slow"


def test_the_least_power_that_should_do_is_proposed(index, profiles):
    own = least_power(index, profiles["fell-d2"], index.access["travel-spot"])
    assert own.step == 0
    far = least_power(index, profiles["fell-d2"], index.access["signal-down"])
    assert far.watts in profiles["fell-d2"].power_watts
    assert far.why


def test_power_grows_with_the_distance_and_begins_low_where_it_is_not_known(index, profiles):
    from msgspec.structs import replace as changed

    profile, access = profiles["fell-d2"], index.access["signal-down"]
    near = least_power(index, profile, access)
    far_off = changed(access, lat=access.lat + 3.0)
    far = least_power(index, profile, far_off)
    assert near.step < far.step == len(profile.power_watts) - 1
    assert far.watts == profile.power_watts[-1]
    assert "no margin" in far.why
    assert "dB to spare" in near.why
    unknown = least_power(index, profile, changed(access, lat=None, lon=None))
    assert (unknown.step, unknown.watts) == (0, profile.power_watts[0])
    assert "not known" in unknown.why
    assert "beside you" in least_power(index, profile, changed(far_off, kind="hotspot")).why


def test_what_is_wide_is_marked_and_directly_only_the_radio_counts(index, fits, profiles):
    assert sends(index, fits, profiles, "fell", "signal-b>vlr001-a@2", "picture").wide
    assert not sends(index, fits, profiles, "fell", "signal-b>local@0", "picture").wide


def test_etiquette_warns_of_a_whole_reflector(index):
    assert "whole reflector" in etiquette(index, "signal-b>vlr001-a@2", "picture")[0]
    local = etiquette(index, "signal-b>local@0", "picture")
    assert local[0].startswith("Ask whether")
    assert any("Least power" in text for text in local)
    assert any("Leave the repeater" in text for text in local)
    assert "Nothing here is private." in etiquette(index, "signal-b>local@0", "text")


def test_a_radio_without_data_sends_neither_text_nor_picture(index, fits, profiles):
    from msgspec.structs import replace as changed

    dumb = changed(profiles["fell-d2"], extras=changed(profiles["fell-d2"].extras, data="none"))
    for what in ("text", "picture"):
        going = may_send(index, fits, "fell", "signal-b>local@0", dumb, what)
        assert "does no data by this access point" in going.refusal
        assert going.speed == "none"
    assert not may_send(index, fits, "tarn", "blackfell-dmr>local@1", changed(dumb), "text").refusal, (
        "DMR texts need none"
    )


def test_between_two_radios_directly_the_access_points_speed_does_not_count(plan, index, fits, profiles):
    access, service, _destination = index.parts(index.routes["signal-b>local@0"])
    slow = replace(service, air=replace(service.air, data="none"))
    for kind, speed in (("repeater", "none"), ("simplex", "fast")):
        points = tuple(
            replace(item, kind=kind, services=tuple(slow if one.key == slow.key else one for one in item.services))
            if item.key == access.key
            else item
            for item in plan.access
        )
        changed_index = PlanIndex(replace(plan, access=points), TODAY)
        refits = {"fell": fit(changed_index, changed_index.radios["fell"], profiles["fell-d2"])}
        assert sends(changed_index, refits, profiles, "fell", "signal-b>local@0", "text").speed == speed


def test_where_the_trace_stops_nothing_is_sent_and_its_words_say_why(plan, index, fits, profiles):
    key = "signal-b>local@0"
    routes = tuple(replace(item, rpt1="Q0SIG  C") if item.key == key else item for item in plan.routes)
    broken = PlanIndex(replace(plan, routes=routes), TODAY)
    refits = {"fell": fit(broken, broken.radios["fell"], profiles["fell-d2"])}
    assert "RPT1 is Q0SIG··C" in sends(broken, refits, profiles, "fell", key, "text").refusal


def test_what_is_done_before_and_after_is_told_for_each_kind(index):
    text = etiquette(index, "signal-b>local@0", "text")
    near, wide = (etiquette(index, key, "picture") for key in ("signal-b>local@0", "signal-b>vlr001-a@2"))
    assert "in use" in text[0]
    assert not any("power" in line for line in text)
    assert any("direct frequency" in line for line in near)
    assert "agree on another place first" in wide[0]
    assert not any("direct frequency" in line for line in wide)
    for steps in (near, wide):
        assert any("Least power" in line for line in steps)
        assert steps[-1] == "Nothing here is private."


def test_the_least_power_is_the_first_that_has_the_margin_exactly(index, profiles, monkeypatch):
    from umbra_awl.core.estimate.reach import LIKELY_DB
    from umbra_awl.core.messages import permit

    profile, access = profiles["fell-d2"], index.access["signal-down"]
    margins = iter([LIKELY_DB - 0.1, LIKELY_DB, LIKELY_DB + 9])
    real = permit.best_reach(access, 5.0, permit.hand_of(index.plan))
    monkeypatch.setattr(permit, "best_reach", lambda *_given: real._replace(margin_db=next(margins)))
    assert least_power(index, profile, access).step == 1
    for gap in ({"lat": None}, {"lon": None}):
        assert "not known" in least_power(index, profile, replace(access, **gap)).why
