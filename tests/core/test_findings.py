import pytest
from hypothesis import given
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.findings.evaluate import Evaluator, findings_of
from umbra_awl.core.findings.model import Target
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edit_station import (
    set_call,
    set_granted,
    set_guard,
    set_identity,
    set_ids,
    set_licence,
    set_station,
)
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.edit.history import History
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Phone, RadioId, ScanList, Static, Zone
from umbra_awl.core.plan.parts import ACCESS, DESTINATIONS, RADIOS
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route

PROFILES = shipped_profiles()


def found(plan):
    return findings_of(PlanIndex(plan, TODAY), PROFILES)


def rules(plan):
    return sorted(item.rule.name for item in found(plan))


def one(plan, rule):
    return next(item for item in found(plan) if item.rule.name == rule)


def test_the_demo_has_its_honest_faults_and_no_others(plan):
    assert rules(plan) == [
        "color-code-differs",
        "command-left-on",
        "hotspot-in-satellite-segment",
        "names-meet",
        "out-of-band",
        "wifi-name-case",
    ]


def test_repairing_them_all_leaves_nothing(plan):
    for _again in range(6):
        plan = found(plan)[0].repair.edit.apply(plan)
    assert found(plan) == ()


def test_the_out_of_band_finding_shows_its_sum_and_offers_the_other_sign(plan):
    finding = one(plan, "out-of-band")
    assert finding.text.startswith("438.7875 + 7.6000 = 446.3875 MHz is outside the amateur bands.")
    assert finding.repair.label == "Swap the sign on Q0NES"
    assert "431.1875" in finding.text


def test_where_the_other_sign_does_not_help_the_repair_is_to_listen_only(plan):
    far = set_service("cairnlow-dmr", "x", tx_hz=460_000_000).apply(plan)
    finding = one(far, "out-of-band")
    assert finding.repair.label == "Only listen to Q0NES"
    assert "out-of-band" not in rules(finding.repair.edit.apply(far))


def test_outside_the_licence(plan):
    narrow = set_licence("x", bands=("70 cm",)).apply(plan)
    assert rules(narrow).count("out-of-licence") == 3  # the others on 2 m only listen
    assert "the licence allows 70 cm" in one(narrow, "out-of-licence").text


@pytest.mark.parametrize(
    ("change", "rule"),
    [
        (set_guard(True), "guard-on"),
        (set_granted(False), "guard-on"),
        (set_call("wren", "q4wrn"), "call-sign"),
        (set_ids("wren", (RadioId(999421),)), "dmr-id"),
        (set_ids("wren", ()), "dmr-id"),
        (set_air("blackfell-fm", "x", tone_tx="103.4"), "unknown-tone"),
        (set_air("blackfell-dmr", "x", color_code=16), "unknown-color-code"),
        (set_air("blackfell-dmr", "x", slots=(1,)), "slot-not-used"),
        (set_air("blackfell-dmr", "x", static=(Static(1, "isles-wide"),)), "static-on-other-slot"),
        (set_air("blackfell-dmr", "x", network=""), "no-such-crossing"),
        (set_service("blackfell-fm", "x", rx_hz=145_712_400), "off-raster"),
        (set_service("home-dmr", "x", rx_hz=434_625_000), "hotspot-differs"),
        (set_air("home-dmr", "x", color_code=3), "hotspot-color-differs"),
        (set_fields(DESTINATIONS, "isles-wide", "x", number=None), "contact-missing"),
        (set_fields(DESTINATIONS, "isles-wide", "x", number=16_777_215), "number-out-of-range"),
        (set_fields(DESTINATIONS, "echo", "x", call="group"), "wrong-call-kind"),
        (set_fields(DESTINATIONS, "isles-wide", "x", network="elsewhere"), "no-such-crossing"),
        (set_fields(RADIOS, "tarn", "x", profile="unheard-of"), "unknown-profile"),
        (set_service("blackfell-dmr", "x", tx_hz=437_852_500), "offset-short"),
        (set_service("calling-fm", "x", tx_hz=144_900_000), "offset-on-simplex"),
        (set_service("weather-fm", "x", tx_hz=161_312_500), "offset-on-simplex"),
        (set_air("signal-b", "x", module="G"), "module-letter"),
        (set_air("signal-b", "x", module="b2"), "module-letter"),
        (set_air("travel-dstar", "x", module="D"), "same-call-and-module"),
        (set_fields(ACCESS, "signal-down", "x", call=""), "access-call-missing"),
        (set_identity("wren", "x", dstar_call="q4 wrn*"), "my-blank"),
        (set_licence("x", granted=False, guard=False), "guard-lifted-early"),
        (set_station("x", phone=Phone("Wren-away", 5.0)), "phone-band"),
        (set_fields(DESTINATIONS, "odile", "x", text="not a call"), "field-padding"),
        (set_service("harrowquay-fm", "x", rx_hz=434_600_000), "hotspot-next-to"),
    ],
)
def test_each_slip_of_the_plan_is_found(plan, change, rule):
    assert rule in rules(change.apply(plan))


@pytest.mark.parametrize(
    ("key", "fields", "rule"),
    [
        ("blackfell-dmr>isles-wide@2", {"encrypted": True}, "encryption-on"),
        ("blackfell-dmr>isles-wide@2", {"hears": ("exercise",)}, "group-list-lacks-own"),
        ("blackfell-dmr>isles-wide@2", {"hears": ()}, "group-list-lacks-own"),
        ("blackfell-dmr>isles-wide@2", {"color_code": 16}, "unknown-color-code"),
        ("blackfell-fm>local@0", {"tone_tx": "88.5"}, "tone-differs"),
        ("blackfell-fm>local@0", {"tone_tx": "88.6"}, "unknown-tone"),
        ("blackfell-fm>local@0", {"tone_rx": "103.5"}, "tone-on-receive"),
        ("blackfell-fm>local@0", {"width_hz": 25_000}, "width-differs"),
        ("blackfell-fm>local@0", {"color_code": 6, "promiscuous": True}, "other-modes-settings"),
        ("blackfell-dmr>isles-wide@2", {"tone_tx": "103.5"}, "other-modes-settings"),
        ("signal-b>vlr001-a@2", {"ur": "VLR001 A"}, "field-padding"),
        ("signal-b>vlr001-a@1", {"ur": "VLR001CL"}, "ur-differs"),
        ("signal-b>local@0", {"ur": "Q9ODL"}, "ur-differs"),
        ("travel-dstar>vlr001-c@2", {"rpt1": "", "rpt2": ""}, "rpt-blank"),
        ("signal-b>local@0", {"rpt1": "Q0SIG  C"}, "rpt-differs"),
        ("signal-b>local@0", {"rpt2": "Q0SIG G"}, "field-padding"),
    ],
)
def test_each_slip_of_a_channel_is_found_and_can_be_repaired(plan, index, key, fields, rule):
    slipped = set_route(index, key, "Slip", **fields).apply(plan)
    finding = one(slipped, rule)
    assert finding.target == Target("route", key)
    assert finding.repair is not None
    assert rule not in rules(finding.repair.edit.apply(slipped))


@pytest.mark.parametrize(
    ("change", "rule"),
    [
        (set_service("blackfell-dmr", "x", tx_hz=437_852_500), "offset-short"),
        (set_service("calling-fm", "x", tx_hz=144_900_000), "offset-on-simplex"),
        (set_air("signal-b", "x", module="G"), "module-letter"),
        (set_air("travel-dstar", "x", module="D"), "same-call-and-module"),
        (set_identity("wren", "x", dstar_call="q4 wrn*"), "my-blank"),
        (set_licence("x", granted=False, guard=False), "guard-lifted-early"),
        (set_station("x", phone=Phone("Wren-away", 5.0)), "phone-band"),
        (set_service("harrowquay-fm", "x", rx_hz=434_600_000), "hotspot-next-to"),
    ],
)
def test_slips_of_the_plan_that_can_be_repaired(plan, change, rule):
    slipped = change.apply(plan)
    assert rule not in rules(one(slipped, rule).repair.edit.apply(slipped))


def test_the_duplex_remedy_is_said_for_a_simplex_hotspot_only(plan, index):
    blank = {"rpt1": "", "rpt2": ""}
    travel = set_route(index, "travel-dstar>vlr001-c@2", "x", **blank).apply(plan)
    assert "duplex with an offset of zero" in one(travel, "rpt-blank").text
    far = set_route(index, "signal-b>local@0", "x", **blank).apply(plan)
    assert "duplex" not in one(far, "rpt-blank").text


def test_a_reflector_memory_that_is_neither_link_nor_talk(plan):
    from umbra_awl.core.plan.model import Route

    lone = replace(plan, routes=(*plan.routes, Route("signal-c", "vlr001-e"), Route("signal-c", "unlink")))
    finding = one(lone, "slot-not-used")
    assert "one that talks; this one is neither" in finding.text
    assert finding.repair.label == "Make it the memory that links"
    assert "signal-c>vlr001-e@1" in {route.key for route in finding.repair.edit.apply(lone).routes}


def test_a_direct_link_comes_with_its_advice(plan, index):
    from umbra_awl.core.routes.punch import punch

    linked = punch(index, "home-dstar", "signal-direct").apply(plan)
    finding = one(linked, "direct-link")
    assert finding.target.key == "home-dstar>signal-direct@1"
    assert "would hear only each other" in finding.text
    assert "prefer" in finding.rule.why


def test_a_link_without_an_unlink_is_told_and_repaired(plan, index):
    from umbra_awl.core.routes.punch import fill

    bare = fill(index, [index.routes["signal-b>unlink@0"]]).apply(plan)
    finding = one(bare, "no-unlink")
    assert finding.repair.edit.apply(bare).routes[-1].key == "signal-b>unlink@0"


def test_promiscuous_channels_hear_without_a_list(plan, index):
    wide = set_route(index, "blackfell-dmr>isles-wide@2", "x", hears=(), promiscuous=True).apply(plan)
    assert "group-list-lacks-own" not in rules(wide)


def test_lists_over_a_radios_limit(plan):
    long = replace(plan, zones=(Zone("all", "All", "everything"),), scans=(ScanList("all", "All", "everything"),))
    names = rules(long)
    assert names.count("zone-over-limit") == 1
    assert names.count("scan-over-limit") == 1
    assert "scan-over-limit" not in rules(one(long, "scan-over-limit").repair.edit.apply(long))


def test_an_id_is_never_in_a_findings_text(plan):
    short = set_ids("wren", (RadioId(99942170),)).apply(plan)
    assert "99942170" not in one(short, "dmr-id").text


def stops_of(findings):
    """Stop-level findings by rule and thing; a route is the same one when its slot was changed."""
    return {(item.rule.name, item.target.key.partition("@")[0]) for item in findings if item.severity == "stop"}


@examples(120)
@given(plans())
def test_every_repair_removes_its_finding_adds_no_stop_and_undoes_exactly(plan):
    before = found(plan)
    stops = stops_of(before)
    for finding in before:
        if finding.repair is None:
            continue
        history = History(plan).after(finding.repair.edit)
        after = found(history.plan)
        assert finding.key not in {item.key for item in after}, finding
        fresh = stops_of(after) - stops
        assert not fresh, (finding, fresh)
        assert history.undone().plan == plan


@given(plans(), plans())
def test_looking_again_only_where_needed_finds_the_same(one_plan, other):
    evaluator = Evaluator(PROFILES)
    for plan in (one_plan, other, one_plan):
        assert [item.key for item in evaluator.evaluate(PlanIndex(plan, TODAY))] == [item.key for item in found(plan)]


def test_an_edit_leaves_untouched_findings_the_same_objects(plan, index):
    evaluator = Evaluator(PROFILES)
    first = evaluator.evaluate(index)
    renamed = set_fields(DESTINATIONS, "worldwide", "x", name="World").apply(plan)
    second = evaluator.evaluate(PlanIndex(renamed, TODAY))
    kept = [item for item in second if any(item is other for other in first)]
    assert {item.rule.name for item in kept} >= {"color-code-differs"}


def test_every_finding_explains_itself(plan):
    broken = set_route(PlanIndex(plan, TODAY), "blackfell-dmr>isles-wide@2", "x", encrypted=True).apply(plan)
    for finding in found(broken):
        assert finding.rule.why.endswith(".")
        assert finding.text.endswith(".")
