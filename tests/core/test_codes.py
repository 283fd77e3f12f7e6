"""One code for each site and each destination of a display: said in one way, apart by more than a cut, blanks kept."""

import re
from itertools import combinations

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.edit.history import History
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DmrAir, DstarAir, OwnedRadio, Plan, Route, Service
from umbra_awl.core.radio.display import NameRules
from umbra_awl.core.routes.apart import Spoken
from umbra_awl.core.routes.kept import better_codes, codes_kept, keep_codes, name_anew
from umbra_awl.core.routes.names import name_routes
from umbra_awl.core.routes.names_edit import set_style
from umbra_awl.core.routes.ways import RouteWay, Sayable, ways_of

CAPITALS = " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-+/."
ANY = CAPITALS + "abcdefghijklmnopqrstuvwxyz"
SITES = [
    ("Q0BLK", "Blackfell"), ("Q0NES", "Cairnlow"), ("Q0HAR", "Harrowquay"), ("Q0OSS", "Little Oss"),
    ("Q0GEU", "Great Europe"), ("Q0GEA", "Great Europa"), ("Q0TRK", "Torrick Head"), ("Q0TRN", "Torrick North"),
    ("Q0SIG", "Signal Down"), ("Q0SGH", "Signal Hill"), ("Q4WRN", "Home spot"), ("Q4WRN", "Travel spot"),
]  # fmt: skip
TOS = [
    "Local", "Isles-wide", "Great Velmar", "Nessa and Torrick", "Exercise", "Atlantic English", "Worldwide slow-speech",
    "Worldwide", "Echo test", "Dialled reflectors", "Disconnect", "Northern Reach", "Southern Reach", "Amber Coast",
    "Channel 47",
]  # fmt: skip


def grid(sites=SITES, tos=TOS):
    """Every site with every destination."""
    access = tuple(
        AccessPoint(
            f"a{at}",
            call,
            site,
            "hotspot" if "spot" in site else "repeater",
            services=(Service(f"s{at}", 438_000_000 + 12_500 * at, 430_400_000 + 12_500 * at, DmrAir()),),
        )
        for at, (call, site) in enumerate(sites)
    )
    destinations = tuple(Destination(f"d{at}", name, number=99_900 + at) for at, name in enumerate(tos))
    routes = tuple(Route(f"s{at}", item.key, 2) for at in range(len(sites)) for item in destinations)
    return Plan(access=access, destinations=destinations, routes=routes)


def cut_of(one, other):
    """Whether one text is the other without letters at the end of its words."""
    pairs = list(zip(one.split(), other.split(), strict=False))
    same_words = len(one.split()) == len(other.split())
    return same_words and all(a.startswith(b) or b.startswith(a) for a, b in pairs)


@pytest.mark.parametrize("length", [8, 10, 12, 16])
@pytest.mark.parametrize("upper", [True, False])
def test_twelve_sites_and_fifteen_destinations(length, upper):
    plan = grid()
    names = name_routes(PlanIndex(plan, TODAY), plan.routes, NameRules(length, CAPITALS if upper else ANY, upper))
    assert len({named.name for named in names.values()}) == len(plan.routes)
    sites: dict[str, set[str]] = {}
    tos: dict[str, set[str]] = {}
    for key, named in names.items():
        service, to = re.fullmatch(r"(.*)>(.*)@2", key).groups()
        site, _blank, said = named.name.partition(" ")
        assert len(named.name) <= length
        assert said
        sites.setdefault(service, set()).add(site)
        tos.setdefault(to, set()).add(said)
    for said in (sites, tos):
        assert all(len(ways) == 1 for ways in said.values()), "one way to say each"
        codes = [way.casefold() for ways in said.values() for way in ways]
        assert not [pair for pair in combinations(codes, 2) if cut_of(*pair)]
    invented = [way for ways in tos.values() for way in ways if re.search(r"\d", way) and "47" not in way]
    assert not invented, "no number that is not the destination's own"
    assert next(iter(tos["d14"])).endswith("47"), "digits stay"


def test_a_blank_is_lost_only_where_it_finds_no_room():
    plan = grid(SITES[:3], ["VLR001 C", "VLR001 A"])
    wide = name_routes(PlanIndex(plan, TODAY), plan.routes, NameRules(16, ANY, False))
    assert wide["s0>d0@2"].name == "BLK VLR001 C"
    tight = name_routes(PlanIndex(plan, TODAY), plan.routes, NameRules(11, ANY, False))
    assert tight["s0>d0@2"].name == "BLK VLR001C"


@pytest.mark.parametrize(
    ("one", "other", "meet"),
    [
        ("Great Europe", "Great Europ", True),
        ("GtEurope", "Gt Europ", True),
        ("WW", "WW Slow", False),
        ("N Reach", "S Reach", False),
        ("Velm", "Vlmr", False),
    ],
)
def test_what_may_be_taken_for_another(one, other, meet):
    spoken = Spoken()
    spoken.take("one", RouteWay(one, 0.0, False))
    assert bool(spoken.met("other", RouteWay(other, 0.0, True))) == meet


@pytest.mark.parametrize(
    ("name", "length", "best"),
    [
        ("Signal Down", 9, "Signal"),
        ("Great Velmar", 8, "Velmar"),
        ("Northern Reach", 7, "N Reach"),
        ("Emergency Net", 6, "Emcy"),
        ("North-east", 4, "NE"),
        ("Talkgroup 9", 5, "TG 9"),
    ],
)
def test_the_telling_word_and_customary_short_forms(name, length, best):
    fitting = [way.text for way in ways_of(Sayable(name), NameRules(16, ANY, False), ()) if len(way.text) <= length]
    assert fitting[0] == best


def test_link_and_talk_memories_are_alike_but_for_the_mark():
    service = Service("s", 438_450_000, 430_850_000, DstarAir("B", network="n"))
    access = AccessPoint("a", "Q0SIG", "Signal Down", services=(service,))
    to = Destination("d", "VLR001 C", "reflector", text="VLR001 C")
    plan = Plan(access=(access,), destinations=(to,), routes=(Route("s", "d", 1), Route("s", "d", 2)))
    names = [item.name for item in name_routes(PlanIndex(plan, TODAY), plan.routes, NameRules(16, ANY, False)).values()]
    assert names == ["Signal +VLR001 C", "Signal VLR001 C"]


def on_two_bands(*hz):
    services = tuple(Service(f"s{at}", rx, rx, DmrAir()) for at, rx in enumerate(hz))
    plan = grid(SITES[:1], TOS[:1])
    access = replace(plan.access[0], services=services)
    return replace(plan, access=(access,), routes=tuple(Route(item.key, "d0", 2) for item in services))


def test_two_services_of_one_site_are_told_apart_by_band_or_kilohertz():
    bands = on_two_bands(145_612_500, 438_612_500)
    assert [
        item.name for item in name_routes(PlanIndex(bands, TODAY), bands.routes, NameRules(16, ANY, False)).values()
    ] == [
        "Blackfell 2m Loc",
        "Blackfell 70 Loc",
    ]
    alike = on_two_bands(438_612_500, 438_650_000)
    names = [
        item.name for item in name_routes(PlanIndex(alike, TODAY), alike.routes, NameRules(16, ANY, False)).values()
    ]
    assert names[0].split()[1:2] == ["612"]
    assert names[1].split()[1:2] == ["650"]


RULES = NameRules(10, CAPITALS, True)


def kept_plan():
    plan = replace(grid(SITES[:2], TOS[:3]), radios=(OwnedRadio("tarn", "Tarn 16", "tarn16"),))
    edit = keep_codes(PlanIndex(plan, TODAY), plan.radios[0], plan.routes, RULES)
    return edit.apply(plan)


def names_of(plan):
    return {
        key: item.name
        for key, item in name_routes(
            PlanIndex(plan, TODAY), plan.routes, RULES, kept=codes_kept(plan.radios[0])
        ).items()
    }


def test_a_later_site_renames_nothing_that_is_kept():
    plan = kept_plan()
    more = grid()
    later = replace(more, radios=plan.radios)
    assert names_of(plan).items() <= names_of(later).items()
    assert keep_codes(PlanIndex(plan, TODAY), plan.radios[0], plan.routes, RULES) is None, "nothing new to keep"


def test_a_better_choice_is_offered_and_taken_by_hand():
    tight = kept_plan()
    radio = tight.radios[0]
    fewer = replace(tight, routes=tuple(route for route in tight.routes if route.destination == "d0"))
    offered = better_codes(PlanIndex(fewer, TODAY), radio, fewer.routes, RULES)
    assert all(item.now != item.then and item.names for item in offered)
    anew = name_anew(radio).apply(fewer)
    assert anew.radios[0].codes == ()
    assert better_codes(PlanIndex(anew, TODAY), anew.radios[0], anew.routes, RULES) == []


def test_another_house_style_gives_the_names_anew():
    plan = kept_plan()
    styled = set_style("By call", replace(plan.names, lead="call")).apply(plan)
    assert styled.radios[0].codes == ()


def test_undo_takes_back_what_was_kept_together_with_the_edit_before_it():
    plan = replace(grid(SITES[:2], TOS[:3]), radios=(OwnedRadio("tarn", "Tarn 16", "tarn16"),))
    named = Edit("Call it Club", lambda old: replace(old, name="Club"))
    keep = keep_codes(PlanIndex(plan, TODAY), plan.radios[0], plan.routes, RULES)._replace(follows=True)
    history = History(plan).after(named).after(keep)
    assert history.next_back == "Call it Club"
    assert history.undone().plan == plan
    assert history.undone().redone().plan == history.plan
    alone = History(plan).after(keep)
    assert alone.next_back == ""
    assert alone.undone().plan == plan
