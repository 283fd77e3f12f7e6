from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Route
from umbra_awl.core.radio.display import NameRules, fold
from umbra_awl.core.routes.names import name_routes, spell

CAPITALS = " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-+/."
ANY = CAPITALS + "abcdefghijklmnopqrstuvwxyz"
TEN = NameRules(10, CAPITALS, True)
SIXTEEN = NameRules(16, ANY, False)
RULES = st.builds(
    lambda length, upper: NameRules(length, CAPITALS if upper else ANY, upper), st.integers(4, 20), st.booleans()
)


@given(plans(), RULES)
def test_names_are_unique_within_the_length_and_of_known_characters(plan, rules):
    names = name_routes(PlanIndex(plan, TODAY), plan.routes, rules)
    shown = [named.name for named in names.values()]
    assert len(names) == len(plan.routes)
    assert len(set(shown)) == len(shown)
    assert all(0 < len(name) <= rules.length for name in shown)
    assert all(set(name) <= set(rules.characters) for name in shown)


@given(plans(), RULES, st.integers(0, 24))
def test_a_later_route_renames_none_whose_codes_are_kept(plan, rules, count):
    index, first = PlanIndex(plan, TODAY), plan.routes[:count]
    fewer = name_routes(index, first, rules)
    kept = spell(index, list(first), rules, plan.names).kept()
    more = name_routes(index, plan.routes, rules, kept=kept)
    assert {key: more[key].name for key in fewer} == {key: named.name for key, named in fewer.items()}


def test_many_routes_of_one_name_are_told_apart():
    destinations = tuple(Destination(f"d{at}", "Same") for at in range(300))
    from umbra_awl.core.plan.model import AccessPoint, DmrAir, Plan, Service

    access = AccessPoint("a", "Q0BLK", "Blackfell", services=(Service("s", 438_000_000, 430_400_000, DmrAir()),))
    plan = Plan(
        access=(access,), destinations=destinations, routes=tuple(Route("s", item.key, 1) for item in destinations)
    )
    names = name_routes(PlanIndex(plan, TODAY), plan.routes, NameRules(4, CAPITALS, True))
    assert len({named.name for named in names.values()}) == 300


def test_a_pinned_name_is_kept_where_it_fits(plan):
    route = plan.routes[5]
    plan = replace(plan, routes=tuple(replace(item, name="Club") if item is route else item for item in plan.routes))
    names = name_routes(PlanIndex(plan, TODAY), plan.routes, SIXTEEN)
    assert names[route.key].name == "Club"


def test_digits_survive_shortening(plan):
    numbered = replace(plan.destinations[1], name="Channel 47 Longname")
    plan = replace(plan, destinations=(plan.destinations[0], numbered, *plan.destinations[2:]))
    name = name_routes(PlanIndex(plan, TODAY), plan.routes, TEN)["blackfell-dmr>isles-wide@2"].name
    assert "47" in name


def test_folding_drops_accents_and_what_the_display_lacks():
    assert fold("Éire – Öst!", TEN) == "EIRE - OST"


def test_a_code_of_an_eight_character_display_keeps_a_letter_of_a_name_that_has_words():
    from umbra_awl.core.radio.profile_file import shipped_profiles
    from umbra_awl.core.routes.ways import Sayable, ways_of

    rules = shipped_profiles()["syke-f1"].display.rules
    assert rules.length == 8
    for text in ("Hill 60", "Group 11", "Local 7"):
        assert any(char.isalpha() for char in ways_of(Sayable(text), rules, ())[0].text)
        short = min((way for way in ways_of(Sayable(text), rules, ()) if len(way.text) <= 3), key=lambda way: way.cost)
        assert any(char.isalpha() for char in short.text), short


def test_names_given_by_hand_that_differ_in_capitals_only_are_one_name(plan, profiles):
    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.routes.names import name_routes

    routes = list(plan.routes)
    routes[0], routes[1] = replace(routes[0], name="Fell Top"), replace(routes[1], name="FELL TOP")
    changed = replace(plan, routes=tuple(routes))
    index = PlanIndex(changed, TODAY)
    rules = profiles["tarn16"].display.rules
    names = [item.name for item in name_routes(index, changed.routes, rules).values()]
    assert len({name.casefold() for name in names}) == len(names)
    told = [item.text for item in findings_of(index, profiles) if item.rule.name == "names-meet"]
    assert any("Fell Top" in text and "FELL TOP" in text for text in told)
