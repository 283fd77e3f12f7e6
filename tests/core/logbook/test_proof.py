"""What proofs are worth: hearing and being heard, age, what has changed, what to prove next."""

from datetime import UTC, datetime, timedelta

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.logbook.adif import adif_text, read_adif
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.logbook.proof import age_of, proof_words, proofs, prove_next, share_of, stood_on
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.parts import HOTSPOTS

NOW = datetime(2026, 11, 27, tzinfo=UTC)
WW, ISLES = "travel-dmr>worldwide@2", "travel-dmr>isles-wide@2"


def entry(key, grade, route=WW, days=1, **more):
    return Entry(key, (NOW - timedelta(days=days)).strftime("%Y-%m-%dT%H:%M:%SZ"), grade, route, **more)


def proof(index, *entries, route=WW):
    return proofs(index, entries, NOW)[route]


def test_hearing_and_being_heard_are_two_proofs(index):
    heard = proof(index, entry("a", "heard-it"))
    assert (heard.hears, heard.is_heard, heard.sound) == (True, False, False)
    both = proof(index, entry("a", "heard-it"), entry("b", "own-key"))
    assert (both.grade, both.hears, both.is_heard, both.sound) == ("own-key", True, True, True)
    assert proof(index, entry("a", "echo")).sound
    assert proof(index).grade == ""


def test_the_best_grade_counts_and_the_latest_of_it(index):
    found = proof(index, entry("a", "answered", days=9), entry("b", "answered", days=3), entry("c", "heard-it", days=1))
    assert (found.grade, found.entry) == ("answered", "b")


def test_a_failure_after_a_proof_makes_it_doubtful_and_one_before_does_not(index):
    after = proof(index, entry("a", "echo", days=5), entry("b", "failed", days=1, note="no beep"))
    assert (after.grade, after.failed, after.sound) == ("echo", "no beep", False)
    assert proof(index, entry("b", "failed", days=9), entry("a", "echo", days=5)).sound
    only = proof(index, entry("b", "failed"))
    assert (only.grade, only.failed) == ("failed", "no reason noted")


def test_what_was_simulated_never_counts(index):
    found = proof(index, entry("a", "answered", by="simulation"))
    assert (found.grade, found.simulated, found.sound) == ("", True, False)


@pytest.mark.parametrize(("days", "age"), [(0, "fresh"), (89, "fresh"), (90, "fading"), (364, "fading"), (365, "old")])
def test_age_fades_a_proof(index, days, age):
    assert age_of(entry("a", "echo", days=days).utc, NOW) == age
    assert proof(index, entry("a", "echo", days=days)).sound is (age != "old")
    assert age_of("nonsense", NOW) == "old"


def test_a_change_of_what_it_stood_on_makes_it_doubtful_and_says_which(index, plan):
    made = entry("a", "echo", stood=stood_on(index, index.routes[WW]))
    assert proof(index, made).changed == ()
    moved = PlanIndex(set_fields(HOTSPOTS, "travel", "Move", transmit_hz=434_000_000).apply(plan), TODAY)
    assert proof(moved, made).changed == ("hotspot's transmit 435.5000 → 434.0000",)
    other = PlanIndex(set_air("travel-dmr", "Code", color_code=3).apply(plan), TODAY)
    assert proof(other, made).changed == ("color code 1 → 3",)
    routes = tuple(replace(item, color_code=7) if item.key == WW else item for item in plan.routes)
    held = entry("b", "echo", stood={"color code": "5"})
    assert proof(PlanIndex(replace(plan, routes=routes), TODAY), held).changed == ("color code 5 → 7",)
    assert not proof(other, made).sound


def test_shares_add_up(index):
    found = proofs(
        index, [entry("a", "echo"), entry("b", "failed", ISLES), entry("c", "heard-it", "travel-dmr>echo@2")], NOW
    )
    shares = share_of(found, [WW, ISLES, "travel-dmr>echo@2", "travel-dmr>disconnect@2", "gone"])
    assert shares == (4, 1, 1, 1, 1)
    assert shares.share == 0.25
    assert share_of(found, []).share == 0.0


def test_the_next_key_ups_prove_most_first_and_an_echo_where_there_is_one(index, profiles):
    fits = {item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios}
    found = proofs(index, [], NOW)
    listed = prove_next(index, found, fits)
    counts = [len(item.proves) for item in listed]
    assert counts == sorted(counts, reverse=True)
    assert index.parts(index.routes[listed[0].route])[2].kind == "echo"
    proven = [key for item in listed for key in item.proves]
    assert len(proven) == len(set(proven))
    assert prove_next(index, {WW: proof(index, entry("a", "echo"))}, fits) == ()
    assert len(prove_next(index, found, fits, most=2)) == 2


@pytest.mark.parametrize(
    ("entries", "words"),
    [
        ((), "never tried"),
        ((entry("a", "answered", by="simulation"),), "never tried, only simulated"),
        ((entry("a", "failed", note="no beep"),), "tried on 2026-11-26, and failed: no beep"),
        ((entry("a", "heard-it"),), "heard the repeater on 2026-11-26, that one is heard is not proven"),
        ((entry("a", "heard-by"),), "heard by somebody on 2026-11-26, that one hears is not proven"),
        ((entry("a", "echo", days=100),), "echo came back on 2026-08-19, fading"),
        ((entry("a", "echo", days=400),), "echo came back on 2025-10-23, over a year old"),
        (
            (entry("a", "echo", days=5, stood={"slot": "1"}), entry("b", "failed", note="no beep")),
            "echo came back on 2026-11-22, failed since: no beep, doubtful, for it has changed: slot 1 → 2",
        ),
    ],
)
def test_a_proof_is_said_in_words(index, entries, words):
    assert proof_words(proof(index, *entries)) == words


def test_what_a_proof_stands_on_is_the_routes_own(index):
    stood = stood_on(index, index.routes[WW], "tarn")
    assert {"receive", "transmit", "color code", "slot", "hotspot's receive", "correction", "radio"} <= stood.keys()
    assert stood["destination"] == str(index.destinations["worldwide"].number)
    assert "radio" not in stood_on(index, index.routes[WW], "gone")
    local = next(item for item in index.plan.routes if index.parts(item)[1].mode == "fm")
    assert "slot" not in stood_on(index, local)
    assert "hotspot's receive" not in stood_on(index, local)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"receive_only": True}, "transmitting on → receive-only"),
        ({"encrypted": True}, "encryption off → on"),
        ({"power": "low"}, "power auto → low"),
        ({"hears": ()}, "receive group list by rule: own → nobody"),
        ({"hears": ("worldwide", "isles-wide")}, "receive group list by rule: own → isles-wide worldwide"),
        ({"admit": "free"}, "busy rule"),
    ],
)
def test_whatever_a_radio_holds_of_a_route_makes_its_proof_doubtful_when_it_changes(plan, index, fields, words):
    made = entry("a", "echo", stood=stood_on(index, index.routes[WW]))
    routes = tuple(replace(item, **fields) if item.key == WW else item for item in plan.routes)
    found = proof(PlanIndex(replace(plan, routes=routes), TODAY), made)
    assert len(found.changed) == 1
    assert words in found.changed[0]
    assert not found.sound


def test_a_hotspots_setting_makes_it_doubtful_too(index, plan):
    made = entry("a", "echo", stood=stood_on(index, index.routes[WW]))
    for fields in ({"color_code": 9}, {"duplex": not index.plan.hotspots[1].duplex}, {"tx_correction_hz": 120}):
        moved = PlanIndex(set_fields(HOTSPOTS, "travel", "x", **fields).apply(plan), TODAY)
        assert len(proof(moved, made).changed) == 1


def test_an_fm_route_stands_on_the_tone_both_ways_and_the_width(index, plan):
    route = next(item for item in plan.routes if index.services[item.service][1].mode == "fm")
    made = entry("a", "echo", route.key, stood=stood_on(index, route))
    for fields in ({"tone_rx": "67.0"}, {"width_hz": 25_000}, {"tone_tx": "254.1"}):
        routes = tuple(replace(item, **fields) if item.key == route.key else item for item in plan.routes)
        changed = PlanIndex(replace(plan, routes=routes), TODAY)
        assert proof(changed, made, route=route.key).changed


def test_an_echo_of_yesterday_counts_before_an_answer_of_years_ago(index):
    found = proof(index, entry("a", "answered", days=800), entry("b", "echo", days=1))
    assert (found.grade, found.entry, found.age, found.sound) == ("echo", "b", "fresh", True)
    assert "over a year old" not in proof_words(found)
    only = proof(index, entry("a", "answered", days=800), entry("b", "heard-it", days=1))
    assert (only.is_heard, only.sound) == (False, False)


def test_what_a_proof_stood_on_survives_adif(index):
    made = entry("a", "echo", stood=stood_on(index, index.routes[WW]))
    back = read_adif(adif_text([made])).entries[0]
    assert back.stood == made.stood
    assert proof(index, back).changed == ()


def test_what_a_proof_is_before_anything_is_known_and_what_it_stood_on(plan):
    from umbra_awl.core.logbook.proof import RouteProof

    bare = RouteProof("x")
    assert (bare.hears, bare.is_heard, bare.simulated, bare.rank, bare.sound) == (False, False, False, 0, False)
    index = PlanIndex(plan, TODAY)
    fm, dmr = (
        next(route for route in plan.routes if index.services[route.service][1].mode == mode) for mode in ("fm", "dmr")
    )
    for route in (fm, dmr):
        found = stood_on(index, route)
        assert None not in found.values()
        assert "None" not in found.values()
    local = next(route for route in plan.routes if index.destinations[route.destination].kind == "local")
    assert stood_on(index, local)["destination"] == index.destinations[local.destination].name
    reflector = next(route for route in plan.routes if index.destinations[route.destination].text)
    assert stood_on(index, reflector)["destination"] == index.destinations[reflector.destination].text


def test_of_two_equal_proofs_the_later_one_counts_and_a_failure_of_the_same_moment_does_not_undo_it(plan):
    index = PlanIndex(plan, TODAY)
    key = plan.routes[0].key
    moment = "2026-11-20T10:00:00Z"
    stood = stood_on(index, plan.routes[0])
    good = Entry("a", moment, "echo", key, stood=stood)
    same = Entry("b", moment, "failed", key, note="nothing")
    found = proofs(index, [good, same], NOW)[key]
    assert (found.entry, found.failed) == ("a", "")
    later = proofs(index, [good, Entry("c", "2026-11-21T10:00:00Z", "echo", key, stood=stood)], NOW)[key]
    assert later.entry == "c"


def test_whoever_proves_next_begins_with_an_echo_and_never_with_what_only_listens(plan, profiles):
    from umbra_awl.core.fit.fitting import fit
    from umbra_awl.core.logbook.proof import prove_next

    index = PlanIndex(plan, TODAY)
    fits = {radio.key: fit(index, radio, profiles[radio.profile]) for radio in plan.radios}
    made = prove_next(index, proofs(index, [], NOW), fits)
    silent = {channel.route for item in fits.values() for channel in item.memory.channels if channel.receive_only}
    sending = {channel.route for item in fits.values() for channel in item.memory.channels if not channel.receive_only}
    assert not {item.route for item in made} & (silent - sending)
    by_place = {}
    for route in plan.routes:
        by_place.setdefault((route.service, route.slot), []).append(index.destinations[route.destination].kind)
    for item in made:
        route = index.routes[item.route]
        if "echo" in by_place[route.service, route.slot]:
            assert index.destinations[route.destination].kind == "echo"
        else:
            assert index.destinations[route.destination].kind not in {"disconnect", "info", "dial"} or set(
                by_place[route.service, route.slot]
            ) <= {"disconnect", "info", "dial"}


def test_what_came_of_a_file_is_said_whole():
    from umbra_awl.core.logbook.adif import AdifFault, Imported
    from umbra_awl.core.logbook.joining import Joined
    from umbra_awl.core.logbook.joining import join as joined

    def entry(key, call="Q3AMB", utc="2026-11-20T10:00:00Z", **more):
        return Entry(key, utc, "answered", call=call, **more)

    assert Joined((), 0, (), ()).words == "There is no record in the file."
    assert Joined((entry("a"),), 0, (), ()).words == "1 new entries."
    assert Joined((), 2, (), ()).words == "0 new entries, 2 were there already."
    faults = tuple(AdifFault(at, "bad") for at in range(1, 9))
    for count in range(1, 9):
        told = Joined((), 0, faults[:count], ()).words
        assert told.count("record ") == min(count, 4)
        assert ("more" in told) == (count > 4)
    twice = joined([], Imported((entry("a"), entry("b")), ()))
    assert ([item.key for item in twice.fresh], twice.doubled) == (["a"], 1)
    late = entry("x", utc="2026-11-20T10:07:00Z", confirmed="Y")
    held = entry("h")
    for first in ((late, entry("n", call="Q7QBY")), (entry("n", call="Q7QBY"), late)):
        found = joined([held], Imported(first, ()))
        assert [item.key for item in found.confirmed] == ["h"]
        assert [item.key for item in found.fresh] == ["n"]
    early = entry("y", utc="2026-11-20T09:53:00Z", confirmed="Y")
    assert [item.key for item in joined([held], Imported((early,), ())).confirmed] == ["h"]
    alone = joined([], Imported((late, entry("n", call="Q7QBY")), ()))
    assert [item.key for item in alone.fresh] == ["x", "n"], "in the order of the file"
    nameless = joined([], Imported((entry("z", call="", confirmed="Y"),), ()))
    assert [item.key for item in nameless.fresh] == ["z"]
