"""What a merge says, word by word: things by their names, fields in words, values cut, counts, and band plans at their edges."""

import pytest
from msgspec.structs import replace

from umbra_awl.core.facts.bands import BANDS, Band
from umbra_awl.core.hands.kinds import BandPlan, band_plan_text, parse_band_plan
from umbra_awl.core.hands.merge import GONE, ORDER, KeptSide, MergeTaken, Question
from umbra_awl.core.hands.words import Wordings


@pytest.fixture
def words(plan):
    return Wordings(plan, plan, plan)


def test_things_are_called_by_the_names_they_have(words, plan, index):
    route = plan.routes[0]
    hotspot = plan.hotspots[0]
    assert words.thing(("routes", route.key)) == f"the route {index.labels.of(route)}"
    assert words.thing(("routes", "gone>x@1")) == "the route gone>x@1"
    assert words.thing(("hotspots", hotspot.key)) == f"the hotspot {index.access[hotspot.access].by_site}"
    assert words.thing(("networks", plan.networks[0].key)) == f"the network {plan.networks[0].name}"
    assert words.thing(("routes",)) == "the routes"
    assert words.thing(("routes", ORDER)) == "the routes"
    assert words.thing(("station", "licence")) == "the station"
    assert words.thing(("name",)) == "the plan"
    assert words.thing(("other",)) == "other"


def test_a_hotspot_without_its_access_point_and_a_route_without_its_ends_are_called_by_their_keys(plan):
    bare = Wordings(replace(plan, access=(), routes=(), hotspots=plan.hotspots), replace(plan, routes=()))
    assert bare.thing(("hotspots", plan.hotspots[0].key)) == f"the hotspot {plan.hotspots[0].key}"


def test_what_is_inside_a_thing_is_said_behind_it(words, plan):
    access = next(item for item in plan.access if len(item.services) > 1)
    service = next(item for item in access.services if item.mode == "dmr")
    assert (
        words.thing(("access", access.key, "services", service.key, "air"))
        == f"the {_word('access')} {access.by_site}, DMR"
    )
    assert words.thing(("access", access.key, "services", "none", "air")) == f"the {_word('access')} {access.by_site}"
    assert words.thing(("access", access.key, "services")) == f"the {_word('access')} {access.by_site}"
    assert words.thing(("station", "identities", "me", "call")) == "the station, me"
    assert words.thing(("station", "identities")) == "the station"


def _word(part):
    from umbra_awl.core.plan.parts import PARTS

    return PARTS[part].word


@pytest.mark.parametrize(("path", "field"), [
    (("routes", "x"), ""), (("name",), "name"), (("station",), ""), (("routes", ORDER), "order"),
    (("routes", "x", "power"), "power"),
    (("access", "x", "services", "y"), ""), (("access", "x", "services", "y", "rx_hz"), "receive frequency"),
    (("station", "identities", "me"), ""), (("station", "identities", "me", "ids", "a"), ""),
    (("station", "height_m"), "height m"),
    (("access", "x", "color_code"), "color code"), (("access", "services"), ""),
])  # fmt: skip
def test_fields_in_words(path, field):
    assert Wordings.field(path) == field


def test_values_in_words(words, plan):
    route, network = plan.routes[0], plan.networks[0]
    assert words.value(("routes", "x", "power"), GONE) == "not there"
    assert words.value(("routes", "x"), route) == "there, changed"
    assert words.value(("access", "x", "services", "y", "rx_hz"), 438_612_500) == "438.6125 MHz"
    assert words.value(("access", "x", "note_hz"), "438") == "438"
    assert words.value(("routes", "x", "encrypted"), True) == "yes"
    assert words.value(("routes", "x", "encrypted"), False) == "no"
    assert words.value(("routes", "x", "name"), "") == words.value(("routes", "x", "name"), None) == "none"
    assert words.value(("routes", "x", "number"), 0) == "0"
    assert words.value(("destinations", "x", "network"), network.key) == network.name
    assert words.value(("destinations", "x", "network"), "") == "none"
    assert words.value(("zones", "x", "members"), (route.key,)) == words.thing(("routes", route.key)).removeprefix(
        "the route "
    )
    assert words.value(("zones", "x", "members"), ()) == "none"
    first, second = plan.networks[:2] if len(plan.networks) > 1 else (network, network)
    assert words.value(("networks", ORDER), (second.key, first.key)) == f"{second.name}, {first.name}"
    assert words.value(("station", ORDER), ("b", "a")) == "b, a"


def test_a_thing_within_is_its_fields_without_its_key(words, plan):
    access = next(item for item in plan.access if item.services)
    said = words.value(("access", access.key, "services", access.services[0].key), access.services[0])
    assert said.startswith("receive frequency 438.6125 MHz, transmit frequency ")
    assert len(said) <= 60


@pytest.mark.parametrize(("length", "ends"), [(59, "x"), (60, "x"), (61, "…")])
def test_long_values_are_cut_at_sixty(words, length, ends):
    said = words.value(("routes", "x", "name"), "x" * length)
    assert len(said) == min(length, 60)
    assert said.endswith(ends)


def test_a_question_says_the_thing_the_field_and_both_sides(words, plan):
    key = plan.networks[0].key
    whole = words.question(Question(("networks", key), plan.networks[0], GONE, GONE))
    assert whole == (f"the network {plan.networks[0].name}", "the whole", "there, changed", "not there")
    part = words.question(Question(("networks", key, "name"), "A", "B", "C"))
    assert part[1:] == ("name", "A", "B")


def test_what_came_is_told_with_what_changed_in_it(plan):
    key = plan.networks[0].key
    renamed = replace(plan, networks=(replace(plan.networks[0], name="Other"), *plan.networks[1:]))
    told = Wordings(plan, renamed, plan)
    came = MergeTaken(("networks", key), "theirs", "changed")
    assert told.taken(came).startswith("theirs: the network")
    assert told.taken(came).endswith(f"changed: name {plan.networks[0].name} → Other")
    mine = Wordings(renamed, plan, plan).taken(came._replace(side="mine"))
    assert mine.endswith("→ Other")
    assert Wordings(plan, renamed).taken(came).endswith(" changed"), "without the plan before nothing can be compared"
    assert told.taken(MergeTaken(("networks", key, "name"), "theirs", "changed")).endswith(", name, changed")
    assert told.taken(MergeTaken(("networks", "new"), "theirs", "added")).endswith("the network new added")
    assert told.taken(MergeTaken(("name",), "mine", "changed")) == "yours: the plan, name, changed"
    assert told.taken(MergeTaken(("networks", "gone"), "theirs", "changed")).endswith("gone changed")


def test_of_many_changes_three_are_told(plan):
    access = next(item for item in plan.access if item.services)
    at = plan.access.index(access)
    service = access.services[0]
    other = replace(service, rx_hz=1, tx_hz=2)
    few = replace(access, note="a", place="b", services=(other, *access.services[1:]))

    def told(item):
        changed = replace(plan, access=(*plan.access[:at], item, *plan.access[at + 1 :]))
        return Wordings(plan, changed, plan).taken(MergeTaken(("access", access.key), "theirs", "changed"))

    said = told(few)
    assert said.count("→") == 3
    assert said.endswith(" …")
    three = told(replace(access, note="a", place="b", call="Q0NEW"))
    assert three.count("→") == 3
    assert not three.endswith(" …")
    inner = told(replace(access, services=(other, *access.services[1:])))
    assert inner.count("→") == 2
    assert "receive frequency" in inner
    assert "transmit frequency" in inner
    fewer = told(replace(access, services=access.services[1:]))
    assert fewer.count("→") == 1


def test_what_stays_ones_own_is_said_once(words):
    paths = (
        ("station", "lat"),
        ("station", "lon"),
        ("version",),
        ("radios", "tarn", "identity"),
        ("routes", "x", "power"),
    )
    assert words.kept(map(KeptSide, paths)) == (
        " Yours alone, whatever theirs says: place, whom a radio is for, power. No file changes these; you do, where they stand."
    )
    assert words.kept([KeptSide(("version",))]) == words.kept([]) == ""


def test_a_side_is_summed_up_by_kinds(words):
    taken = [
        MergeTaken(("routes", "a"), "theirs", "added"), MergeTaken(("routes", "b", "power"), "theirs", "added"),
        MergeTaken(("routes", "b", "name"), "theirs", "added"), MergeTaken(("station", "height_m"), "theirs", "changed"),
        MergeTaken(("zones", "z"), "mine", "removed"),
    ]  # fmt: skip
    assert words.summary(taken, "theirs") == "2 routes added, the station changed"
    assert words.summary(taken, "mine") == "1 zone removed"
    assert words.summary([], "mine") == "nothing"


# band plans


def band_plan(name, low, high):
    return band_plan_text(BandPlan("Club", bands=(Band(name, low, high),)))


def test_the_edges_of_a_region_are_allowed_and_a_hertz_more_is_not():
    for band in {item for row in BANDS.values() for item in row}:
        assert parse_band_plan(band_plan(band.name, band.low_hz, band.high_hz)).bands
    low, high = (pick(item for row in BANDS.values() for item in row if item.name == "2 m") for pick in (
        lambda rows: min(item.low_hz for item in rows), lambda rows: max(item.high_hz for item in rows),
    ))  # fmt: skip
    for edges in ((low - 1, high), (low, high + 1)):
        with pytest.raises(ValueError, match="no amateur band of any region"):
            parse_band_plan(band_plan("2 m", *edges))


@pytest.mark.parametrize(("low", "high", "good"), [
    (85_000_000, 100_000_000, True), (84_999_999, 100_000_000, False), (99, 100, True),
])  # fmt: skip
def test_a_band_of_another_name_is_no_wider_than_any_is(low, high, good):
    text = band_plan("unheard", low, high)
    if good:
        assert parse_band_plan(text).bands
    else:
        with pytest.raises(ValueError, match="no amateur band"):
            parse_band_plan(text)


@pytest.mark.parametrize("edges", [(0, 100), (-1, 100), (100, 100), (100, 99)])
def test_a_stretch_ends_behind_its_beginning(edges):
    with pytest.raises(ValueError, match="ends before it begins"):
        parse_band_plan(band_plan("unheard", *edges))
