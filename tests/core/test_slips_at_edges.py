"""Slip rules at their edges: how many make a custom, which letter is free, what one place off says."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from tests.slips import PROFILES, sound_plan
from umbra_awl.core.facts.repeaters import CALLING
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.findings.on_directory import check_directory
from umbra_awl.core.findings.on_dstar import BLANK_RPT, free_letter
from umbra_awl.core.findings.on_fusion import BAD_WAY, DGID_DEAF
from umbra_awl.core.findings.on_pair import check_pair
from umbra_awl.core.findings.on_settings import check_hotspot_settings
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FusionAir,
    Identity,
    Licence,
    Mapped,
    Network,
    Plan,
    RadioId,
    Route,
    Service,
    Station,
)

LICENSED = Station(
    (Identity("me", "Q4WRN", "Wren", (RadioId(9_994_217),)),), Licence("Full", granted=True, guard=False)
)


def repeaters(*offsets, rx=439_000_000):
    """A plan of repeaters on 70 cm with these offsets, the first one on another output than the rest."""

    def one(at, offset):
        heard = rx + 25_000 * at
        return AccessPoint(
            f"a{at}", f"Q{at}REP", f"Site {at}", "repeater", "", (Service(f"s{at}", heard, heard + offset, DmrAir(1)),)
        )

    access = tuple(one(at, offset) for at, offset in enumerate(offsets))
    return Plan(station=LICENSED, access=access)


def pair_of(plan, at=0):
    index = PlanIndex(plan, TODAY)
    access = plan.access[at]
    return [(item.rule.name, item) for item in check_pair(index, access, access.services[0])]


LOW, ODD = -7_600_000, -5_000_000


@pytest.mark.parametrize(
    ("offsets", "rule"),
    [
        ((7_600_000 - 15_200_000,) * 4, ""),
        ((ODD, LOW, LOW, LOW), "offset-unusual"),
        ((ODD, LOW, LOW), ""),
        ((ODD, LOW, LOW, LOW, ODD, ODD, ODD), ""),
        ((ODD, LOW, LOW, LOW, ODD, ODD), "offset-unusual"),
        ((-3_000_000, LOW), "offset-unusual"),
        ((-760_000, LOW, LOW, LOW), ""),
    ],
)
def test_three_others_that_are_more_than_half_make_a_custom(offsets, rule):
    found = pair_of(repeaters(*offsets))
    assert [name for name, _item in found] == ([rule] if rule else [])


@pytest.mark.parametrize(
    ("others", "swapped"),
    [((LOW,), False), ((LOW, LOW), True), ((LOW, LOW, ODD), False), ((LOW, LOW, LOW, ODD, ODD), True)],
)
def test_two_others_of_one_mind_or_three_tell_a_swapped_pair(others, swapped):
    first = AccessPoint(
        "x", "Q9REP", "X", "repeater", "", (Service("x", 434_000_000, 439_000_000 + 2_600_000, DmrAir(1)),)
    )
    first = replace(first, services=(replace(first.services[0], rx_hz=432_300_000, tx_hz=432_300_000 - LOW),))
    plan = repeaters(*others)
    plan = replace(plan, access=(first, *plan.access))
    rules = [name for name, _item in pair_of(plan)]
    assert ("pair-swapped" in rules) == swapped or rules == ["pair-swapped"]


def test_a_swap_is_offered_only_where_one_may_send_then():
    plan = repeaters(7_600_000, LOW, LOW, LOW, rx=431_000_000)
    plan = replace(plan, access=(plan.access[0], *repeaters(LOW, LOW, LOW, LOW).access[1:]))
    ((_rule, item),) = [pair for pair in pair_of(plan) if pair[0] == "pair-swapped"]
    assert item.repair is not None
    narrow = replace(plan, station=replace(plan.station, licence=replace(plan.station.licence, bands=("2 m",))))
    found = [one for name, one in pair_of(narrow) if name == "pair-swapped"]
    assert all(one.repair is None for one in found)


def dstar(*modules, call="Q0SIG"):
    def one(at, module):
        step = 25_000 * at
        return Service(f"d{at}", 439_500_000 + step, 431_900_000 + step, DstarAir(module, "sk"))

    services = tuple(one(at, module) for at, module in enumerate(modules))
    return Plan(
        station=LICENSED,
        networks=(Network("sk", "Skein", "dstar"),),
        access=(AccessPoint("a", call, "Signal", "repeater", "", services),),
    )


def rules_of(plan):
    return {(item.rule.name, item.target.key): item for item in findings_of(PlanIndex(plan, TODAY), PROFILES)}


def test_a_free_letter_is_the_bands_own_and_nobody_elses_of_the_call():
    plan = dstar("")
    index = PlanIndex(plan, TODAY)
    assert free_letter(index, plan.access[0], plan.access[0].services[0]) == "B"
    taken = dstar("", "B")
    index = PlanIndex(taken, TODAY)
    assert free_letter(index, taken.access[0], taken.access[0].services[0]) == "C"
    far = dstar("B").access[0]
    stranger = replace(far, key="b", call="Q7OTH", services=(replace(far.services[0], key="z"),))
    other = replace(taken, access=(dstar("").access[0], stranger))
    index = PlanIndex(other, TODAY)
    assert free_letter(index, other.access[0], other.access[0].services[0]) == "B"


def test_a_small_letter_is_repaired_to_the_letter_that_the_far_side_has():
    plan = dstar("b", "C")
    item = rules_of(plan)["module-letter", "d0"]
    assert item.repair.edit.apply(plan).access[0].services[0].air.module == "B"
    wrong = dstar("G", "C")
    assert rules_of(wrong)["module-letter", "d0"].repair.edit.apply(wrong).access[0].services[0].air.module == "B"


def test_a_call_without_room_before_its_module_is_told_and_never_cut():
    plan = dstar("B", call="Q0SIGNAL")
    item = rules_of(plan)["access-call-long", "d0"]
    assert "8 characters" in item.text
    assert ("access-call-long", "d0") not in rules_of(dstar("B", call="Q0SIGNA"))


def test_whoever_links_and_cannot_unlink_is_told_only_where_it_links():
    plan = replace(
        dstar("B"),
        destinations=(
            Destination("ref", "Ref", "reflector", "", None, text="VLR001 C"),
            Destination("un", "Unlink", "disconnect"),
        ),
    )
    for slot, told in ((1, True), (2, False)):
        routed = replace(plan, routes=(Route("d0", "ref", slot),))
        assert (("no-unlink", "d0") in rules_of(routed)) == told
    both = replace(plan, routes=(Route("d0", "ref", 1), Route("d0", "un", 0)))
    assert ("no-unlink", "d0") not in rules_of(both)


def test_both_rpt_fields_are_told_each_with_its_own_repair():
    plan = replace(
        dstar("B"),
        destinations=(Destination("loc", "Local", "local"),),
        routes=(Route("d0", "loc", 0, rpt1="Q0SIG  C", rpt2=" Q0SIG G"),),
    )
    found = [item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.target.kind == "route"]
    assert {(item.rule.name, item.part) for item in found} >= {("rpt-differs", "rpt1"), ("field-padding", "rpt2")}
    for item in found:
        if item.part in {"rpt1", "rpt2"}:
            assert getattr(item.repair.edit.apply(plan).routes[0], item.part) is None


def test_a_dg_id_that_leads_elsewhere_is_told_and_one_that_is_merely_another_is_not():
    air = FusionAir(network="co", mapped=(Mapped(12, "room"),))
    plan = Plan(
        station=LICENSED,
        networks=(Network("co", "Commons", "fusion"),),
        access=(AccessPoint("a", "Q0TRK", "Torrick", "repeater", "", (Service("f", 439_500_000, 431_900_000, air),)),),
        destinations=(Destination("loc", "Local", "local"), Destination("room", "Room", "room", "co", 40_010)),
    )
    for sent, told in ((12, True), (13, False), (0, False)):
        routed = replace(plan, routes=(Route("f", "loc", 0, dgid_tx=sent),))
        assert (("dg-id-differs", "f>loc@0") in rules_of(routed)) == told
    wrong = rules_of(replace(plan, routes=(Route("f", "room", 0, dgid_tx=0),)))["dg-id-differs", "f>room@0"]
    assert "for Room" in wrong.text
    ten = replace(plan.access[0].services[0], air=FusionAir(network="co", dgid_tx=10))
    plain = replace(plan, access=(replace(plan.access[0], services=(ten,)),))
    other = rules_of(replace(plain, routes=(Route("f", "loc", 0, dgid_tx=0),)))["dg-id-differs", "f>loc@0"]
    assert "for Local" not in other.text


def test_a_dg_id_that_does_not_exist_is_mended_at_the_access_point_and_not_in_its_map():
    bad = FusionAir(network="co", dgid_tx=100, mapped=(Mapped(101, "room"),))
    plan = Plan(
        station=LICENSED,
        networks=(Network("co", "Commons", "fusion"),),
        access=(AccessPoint("a", "Q0TRK", "Torrick", "repeater", "", (Service("f", 439_500_000, 431_900_000, bad),)),),
        destinations=(Destination("room", "Room", "room", "co", 40_010),),
    )
    found = [item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.rule.name == "unknown-dg-id"]
    repaired = {item.part: item.repair for item in found}
    assert repaired["dgid_tx"].edit.apply(plan).access[0].services[0].air.dgid_tx == 0
    assert repaired["map room"] is None


def hotspot_findings(plan):
    return [item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.target.kind == "hotspot"]


def test_a_hotspots_own_settings_are_told_once_and_of_that_hotspot():
    sound = sound_plan()
    first, *rest = sound.hotspots
    wrong = replace(sound, hotspots=(replace(first, duplex=not first.duplex, id_label="gone"), *rest))
    found = [(item.rule.name, item.target.key) for item in hotspot_findings(wrong)]
    assert sorted(found) == [("hotspot-duplex", first.key), ("hotspot-id-missing", first.key)]
    nameless = replace(wrong, station=replace(wrong.station, identities=()))
    assert "hotspot-id-missing" not in [item.rule.name for item in hotspot_findings(nameless)]
    without = replace(wrong, station=replace(wrong.station, identities=(replace(wrong.station.identities[0], ids=()),)))
    assert "hotspot-id-missing" not in [item.rule.name for item in hotspot_findings(without)]
    unlabelled = replace(sound, hotspots=(replace(first, id_label=""), *rest))
    assert "hotspot-id-missing" not in [item.rule.name for item in hotspot_findings(unlabelled)]


@pytest.mark.parametrize(
    ("privacy", "told", "found"),
    [
        ("exact", "Harrowquay", 0), ("locator", "Harrowquay", 1), ("locator", "west coast", 0), ("locator", "HN46", 0),
        ("locator", "HN46kl", 0), ("locator", "HN46kl25", 1), ("none", "HN46", 1), ("none", "west coast", 0), ("none", "", 0),
    ],
)  # fmt: skip
def test_what_a_hotspot_tells_of_its_place_is_held_against_the_stations_privacy(privacy, told, found):
    sound = sound_plan()
    station = replace(sound.station, privacy=privacy, place="Harrowquay", lat=46.47, lon=-31.11)
    wrong = replace(
        sound, station=station, hotspots=(replace(sound.hotspots[0], public_place=told), *sound.hotspots[1:])
    )
    made = [item for item in hotspot_findings(wrong) if item.rule.name == "hotspot-public-place"]
    assert len(made) == found
    if made:
        mended = made[0].repair.edit.apply(wrong)
        assert mended.hotspots[0].public_place == ("HN46kl" if privacy == "locator" else "")


def test_numbers_to_dial_have_two_ends_and_a_private_number_of_a_person_is_not_made_a_group():
    def of(number):
        plan = Plan(
            station=LICENSED,
            networks=(Network("lat", "Lattice", "dmr", local_group=9, dial_low=8_001, dial_high=8_099),),
            access=(
                AccessPoint(
                    "a", "Q0BLK", "B", "repeater", "", (Service("s", 438_600_000, 431_000_000, DmrAir(6, "lat")),)
                ),
            ),
            destinations=(Destination("d", "Dialled", "dial", "lat", number),),
            routes=(Route("s", "d", 1),),
        )
        return ("dial-out-of-range", "s>d@1") in rules_of(plan)

    assert [of(number) for number in (8_000, 8_001, 8_099, 8_100)] == [True, False, False, True]


LATTICE = Network("lat", "Lattice", "dmr", echo=None)
MINE = Service("s", 438_600_000, 431_000_000, DmrAir(6, "lat"))


def on_lattice(*destinations, access=None, services=(MINE,), routes=()):
    made = access or AccessPoint("a", "Q0BLK", "Blackfell", "repeater", "", services)
    return Plan(station=LICENSED, networks=(LATTICE,), access=(made,), destinations=destinations, routes=routes)


def test_a_group_that_is_called_privately_is_made_a_group_call_and_a_person_is_not():
    for kind, mended in (("group", True), ("private", False)):
        called = Destination("d", "Called", kind, "lat", 4_299, call="private")
        found = rules_of(on_lattice(called, routes=(Route("s", "d", 1),)))["private-number", "s>d@1"]
        assert (found.repair is not None) is mended
        if mended:
            assert found.repair.edit.apply(on_lattice(called)).destinations[0].call == "group"


def against(plan, entries=None, numbers=None):
    return list(check_directory(PlanIndex(plan, TODAY), Known(entries=entries or {}, numbers=numbers or {})))


def test_the_directory_is_told_where_it_changed_and_the_plan_did_not_follow():
    new = replace(MINE, air=DmrAir(7, "lat"))
    taken = AccessPoint("a", "Q0BLK", "Blackfell", "repeater", "", (MINE,), entry="e", listed=(MINE,))
    listed = replace(taken, services=(new,))
    (found,) = against(on_lattice(access=taken), {"e": listed})
    assert "color code 7 now" in found.text
    mended = found.repair.edit.apply(on_lattice(access=taken)).access[0]
    assert mended.services[0].air.color_code == 7
    assert mended.listed == (new,)
    assert against(on_lattice(access=replace(taken, services=(new,))), {"e": listed}) == []
    assert against(on_lattice(access=taken), {"e": taken}) == []
    assert "no longer in the directory" in against(on_lattice(access=taken), {"e": None})[0].text


def test_of_two_services_of_a_mode_the_one_on_the_same_output_is_meant():
    other = Service("t", 439_000_000, 431_400_000, DmrAir(3, "lat"))
    taken = AccessPoint("a", "Q0BLK", "Blackfell", "repeater", "", (MINE, other), entry="e", listed=(MINE, other))
    changed = replace(other, air=DmrAir(4, "lat"))
    (found,) = against(on_lattice(access=taken), {"e": replace(taken, services=(MINE, changed))})
    assert found.target.key == "t"
    moved = replace(MINE, rx_hz=438_650_000, tx_hz=431_050_000)
    one = replace(taken, services=(MINE,), listed=(MINE,))
    (found,) = against(on_lattice(access=one), {"e": replace(one, services=(moved,))})
    assert "output 438.6500, input 431.0500" in found.text
    assert against(on_lattice(access=one), {"e": replace(one, services=(moved, changed))}) == []


def test_groups_that_are_on_no_list_are_told_only_where_most_are_on_it():
    groups = tuple(Destination(f"d{at}", f"Group {at}", "group", "lat", 4_200 + at) for at in range(4))
    listed = {"lattice": frozenset({4_200, 4_201, 4_202})}
    assert [item.target.key for item in against(on_lattice(*groups), numbers=listed)] == ["d3"]
    assert against(on_lattice(*groups), numbers={"lattice": frozenset({4_200, 4_201})}) == []
    assert against(on_lattice(*groups)) == []


@pytest.mark.parametrize(
    ("kind", "blank", "told"),
    [
        ("local", {"rpt2": ""}, False), ("local", {"rpt1": ""}, True), ("local", {"rpt1": "", "rpt2": ""}, True),
        ("reflector", {"rpt2": ""}, True), ("reflector", {"rpt1": ""}, True), ("local", {}, False),
    ],
)  # fmt: skip
def test_only_rpt2_may_be_blank_and_only_on_local(kind, blank, told):
    target = Destination(
        "d", "Local" if kind == "local" else "VLR001 A", kind, "", text="VLR001 A" if kind != "local" else ""
    )
    plan = dstar("B")
    plan = replace(plan, destinations=(target,))
    plan = replace(plan, routes=(Route("d0", "d", 1 if kind != "local" else 0, **blank),))
    found = [item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.rule.name == BLANK_RPT.name]
    assert bool(found) is told


def fusion(routes=(), **air):
    service = Service("f", 439_500_000, 431_900_000, FusionAir(network="co", **air))
    return Plan(
        station=LICENSED,
        networks=(Network("co", "Commons", "fusion"),),
        access=(AccessPoint("a", "Q0TRK", "Torrick", "repeater", "", (service,)),),
        destinations=(Destination("loc", "Local", "local"),),
        routes=routes,
    )


@pytest.mark.parametrize(("ways", "told"), [((), True), (("XX",), True), (("DN",), False), (("DN", "XX"), True)])
def test_a_way_to_send_is_one_that_there_is(ways, told):
    assert (BAD_WAY.name in {name for name, _target in rules_of(fusion(ways=ways))}) is told


@pytest.mark.parametrize(("heard", "told"), [(None, False), (0, False), (10, False), (12, True)])
def test_a_channel_that_opens_for_another_dg_id_stays_deaf(heard, told):
    plan = fusion((Route("f", "loc", 0, dgid_rx=heard),), dgid_tx=10, dgid_rx=10)
    found = rules_of(plan)
    assert ((DGID_DEAF.name, "f>loc@0") in found) is told
    if told:
        assert found[DGID_DEAF.name, "f>loc@0"].repair.edit.apply(plan).routes[0].dgid_rx is None


def test_a_hotspot_of_two_modes_is_told_once_and_only_its_own():
    sound = sound_plan()
    first = sound.hotspots[0]
    access = next(item for item in sound.access if item.key == first.access)
    calling = CALLING[sound.station.region][0].hz
    two = (
        replace(access.services[0], rx_hz=calling, tx_hz=calling),
        Service("second", calling, calling, DstarAir("B")),
    )
    index = PlanIndex(
        replace(sound, access=(replace(access, services=two),), hotspots=(replace(first, id_label="gone"),)), TODAY
    )
    found = [item.rule.name for one in two for item in check_hotspot_settings(index, index.access[access.key], one)]
    assert found.count("hotspot-on-calling") == 1
    assert found.count("hotspot-id-missing") == 1
    elsewhere = replace(index.plan, hotspots=(replace(first, id_label="gone", access="other"),))
    index = PlanIndex(elsewhere, TODAY)
    made = list(check_hotspot_settings(index, index.access[access.key], index.access[access.key].services[0]))
    assert "hotspot-id-missing" not in [item.rule.name for item in made]
