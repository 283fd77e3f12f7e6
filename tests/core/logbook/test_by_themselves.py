"""Entries that nobody types: out of a hotspot's log, and out of the simulation, which proves nothing."""

from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.logbook.from_hotspot import entries_of, utc_of
from umbra_awl.core.logbook.from_play import entries_of_play
from umbra_awl.core.logbook.place_words import locator_in, words_to_say
from umbra_awl.core.logbook.proof import proofs
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.play import Play
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.demo.fresh import demo_plan

OWN = (
    "2026-11-26 20:40:00 dmr slot {slot}: radio Q4WRN (9994217) to {to}, 3.0 s, loss 0 %, BER 1.20 %, 10800 bits, "
    "offset +0 Hz\n"
)
BACK = "2026-11-26 20:40:08 dmr slot {slot}: network Q4WRN (9994217) to {to}, 3.0 s, loss 0 %\n"


@pytest.fixture(scope="module")
def index():
    return PlanIndex(demo_plan(TODAY), TODAY)


@pytest.fixture(scope="module")
def home(index):
    found = next(item for item in index.plan.hotspots if index.access[item.access].site == "Home spot")
    return replace(found, time_zone="Etc/UTC")


def test_an_own_over_becomes_an_entry_on_its_route_with_its_ber(index, home):
    (made,) = entries_of(index, home, read_log(OWN.format(slot=1, to=99900)))
    assert made.route == "home-dmr>isles-wide@1" or index.routes[made.route].destination == "isles-wide"
    assert (made.grade, made.ber, made.by, made.utc) == ("own-key", 1.2, "hotspot", "2026-11-26T20:40:00Z")
    assert made.proves
    found = proofs(index, [made], datetime(2026, 11, 27, tzinfo=UTC))[made.route]
    assert found.is_heard
    assert not found.hears


def test_the_same_line_gives_nothing_twice_and_others_overs_nothing(index, home):
    text = OWN.format(slot=1, to=99900)
    (made,) = entries_of(index, home, read_log(text))
    assert entries_of(index, home, read_log(text + text), [made.key]) == ()
    assert entries_of(index, home, read_log(text.replace("Q4WRN (9994217)", "Q3AMB (9990001)"))) == ()
    assert entries_of(index, home, read_log(OWN.format(slot=1, to=123456))) == ()
    assert entries_of(index, home, read_log(text.replace("2026-11-26", "2026-99-99"))) == ()


def test_an_echo_that_comes_back_is_a_proof_of_both_ways(index, home):
    echo = next(r for r in index.plan.routes if r.destination == "echo" and r.service == "home-dmr")
    text = OWN.format(slot=echo.slot, to=999097)
    assert entries_of(index, home, read_log(text))[0].grade == "own-key"
    (made,) = entries_of(index, home, read_log(text + BACK.format(slot=echo.slot, to=9994217)))
    assert (made.grade, made.route) == ("echo", echo.key)


def test_a_logs_hour_is_taken_in_the_hotspots_zone_and_a_simulated_one_proves_nothing(index, home):
    assert utc_of("2026-07-01 20:40:00", "Atlantic/Azores").hour == 20
    assert utc_of("2026-12-01 20:40:00", "Atlantic/Azores").hour == 21
    assert utc_of("2026-12-01 20:40:00", "Nowhere/Town") is None
    (made,) = entries_of(
        index, replace(home, time_zone="Etc/GMT+2"), read_log(OWN.format(slot=1, to=99900)), by="simulation"
    )
    assert made.utc == "2026-11-26T22:40:00Z"
    assert not made.proves
    assert proofs(index, [made], datetime(2026, 11, 27, tzinfo=UTC))[made.route].simulated


def test_simulated_overs_are_marked_once_each_and_never_prove(index):
    profiles = shipped_profiles()
    fits = {item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios}
    key = next(c.route for c in fits["tarn"].memory.channels if c.route and not c.receive_only)
    play = Play(make_setting(index, fits, ListeningChoice("tarn", (key,))), 3)
    play.do("press")
    play.advance(4.0)
    began = datetime(2026, 11, 27, 10, 0, tzinfo=UTC)
    assert entries_of_play(index, "tarn", play.keyer.done, began, "x") == ()  # it has not ended yet
    play.do("release")
    play.advance(8.0)
    (made,) = entries_of_play(index, "tarn", play.keyer.done, began, "x")
    assert made.by == "simulation"
    assert made.route == key
    assert entries_of_play(index, "tarn", play.keyer.done, began, "x", [made.key]) == ()
    found = proofs(index, [made], datetime(2026, 11, 28, tzinfo=UTC))[key]
    assert (found.grade, found.sound, found.simulated) == ("", False, True)


def test_the_words_to_say_name_the_place_and_the_path(index):
    trip = index.plan.trips[0]
    assert words_to_say("Q4WRN", "", "") == ""
    assert words_to_say("Q4WRN", "Cairnlow", "") == "Say: “Q4WRN, operating from Cairnlow”."
    assert trip.name in words_to_say("Q4WRN", "", "", trip=trip)
    assert words_to_say("Q4WRN", "", "home hotspot") == "Say: “Q4WRN, through my home hotspot”."
    assert words_to_say("", "", "the ferry's Wi-Fi").startswith("Say: “your call sign, through the ferry")
    assert locator_in("HN46kl") == "HN46kl"
    assert locator_in("46.47, -31.11") == "HN46kl"
    assert locator_in("hill above the bay, HN46kl") == "HN46kl"
    assert locator_in("only on the balcony") == locator_in(", HN46kl") == locator_in("balcony, upstairs") == ""
