"""One truth about a key-up: what the trace lets through has no finding that says otherwise, and what it stops has one."""

import pytest
from hypothesis import example, given
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from tests.slips import PROFILES, each_slip, slipped, slips, sound_plan
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_access import set_service
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.trace.keyup import trace
from umbra_awl.core.trace.silent import why_silent

_DOUBT = "the plan's figure is doubted; the trace takes the plan at its word"
_ANSWER = "the call arrives; it is the answer that would not be heard"
_OTHER = "it does not concern this mode"
ARRIVES_ALL_THE_SAME = {
    "offset-short": _DOUBT,
    "offset-unusual": _DOUBT,
    "pair-swapped": _DOUBT,
    "id-as-group": _DOUBT,
    "number-twice": _DOUBT,
    "call-sign": "the call sign is spoken; where a header carries it, MY has a rule of its own",
    "my-differs": "the gateway that was told of the call knows who it is",
    "my-note": "the radio cuts the note",
    "id-shared": "the call passes as somebody else's",
    "id-suffix": "the suffix is a hotspot's login",
    "hotspots-same-id": "one of the two is thrown out later",
    "hotspot-id-missing": "it logs in with the first ID",
    "hotspot-next-to": "others are disturbed",
    "hotspot-on-calling": "others are disturbed",
    "group-list-lacks-own": _ANSWER,
    "tone-on-receive": _ANSWER,
    "dg-id-on-receive": _ANSWER,
    "width-differs": "it is faint or distorted and arrives",
    "other-modes-settings": "they do nothing here",
    "dial-without-local": "it links; there is nothing to talk on",
    "static-on-other-slot": "it arrives and occupies both slots",
    "simplex-two-slots": "many radios ignore the slot",
    "same-call-and-module": "the radio's list refuses one, and the first one works",
    "tone-differs": "the access point wants none",
    "wifi-name-case": "the road is another matter",
}
ONLY_OF = {
    "dmr-id": {"dmr"},
    "my-blank": {"dstar"},
    "hotspot-color-differs": {"dmr"},
    "module-letter": {"dstar"},
    "slot-not-used": {"dmr"},
}
"""Findings on what several modes share that concern some of them: a slot is kept in the plan for all, and sent by DMR alone."""


def _mine(index, found, radio, route):
    """The stop and look findings on a route and on what it stands on."""
    plan, (access, service, destination) = index.plan, index.parts(route)
    near = {("route", route.key), ("service", service.key), ("destination", destination.key), ("radio", radio.key)}
    near |= {("hotspot", item.key) for item in plan.hotspots if item.access == access.key}
    identity = next(
        (item for item in plan.station.identities if not radio.identity or item.key == radio.identity), None
    )
    near |= {("identity", identity.key)} if identity else set()
    near |= {("licence", "")}
    for item in found:
        of = ONLY_OF.get(item.rule.name)
        elsewhere = item.target.kind == "hotspot" and item.part not in {"", service.key}
        if (
            item.severity != "note"
            and tuple(item.target) in near
            and not elsewhere
            and (of is None or service.mode in of)
        ):
            yield item


def look(plan):
    """Every route of every radio: nothing reaches against a finding, nothing is stopped without one. How many there were."""
    keyed = 0
    index = PlanIndex(plan, TODAY)
    found = findings_of(index, PROFILES)
    fits = {radio.key: fit(index, radio, PROFILES[radio.profile]) for radio in plan.radios}
    for radio in plan.radios:
        for channel in fits[radio.key].memory.channels:
            keyed += 1
            route = index.routes[channel.route]
            access = index.parts(route)[0]
            traced = trace(index, fits, radio.key, route.key)
            mine = list(_mine(index, found, radio, route))
            against = [item.rule.name for item in mine if item.rule.name not in ARRIVES_ALL_THE_SAME]
            where = f"{radio.name}: {channel.name}"
            if traced.reaches:
                assert not against, f"{where} reaches, and there is {against}"
            elif not (route.receive_only or access.kind == "receive"):
                assert mine, f"{where} stops at {traced.broken} without a finding"
    return keyed


def test_a_plan_without_slips_reaches_everywhere():
    look(sound_plan())


@example([(1, 131, 11)])
@given(slips)
@examples(150, deadline=None)
def test_trace_and_findings_agree_on_plans_with_slips(made):
    look(slipped(made))


@pytest.mark.night
def test_trace_and_findings_agree_on_every_slip_at_every_thing():
    wrong = {}
    for name, plan in each_slip():
        try:
            look(plan)
        except AssertionError as error:
            wrong[name] = str(error).splitlines()[0]
    assert not wrong


def test_a_shift_left_on_a_simplex_channel_is_heard_by_nobody():
    plan = set_service("calling-fm", "x", tx_hz=144_900_000).apply(sound_plan())
    index = PlanIndex(plan, TODAY)
    fits = {radio.key: fit(index, radio, PROFILES[radio.profile]) for radio in plan.radios}
    routes = [(radio.key, channel.route) for radio in plan.radios for channel in fits[radio.key].memory.channels]
    on_calling = [pair for pair in routes if pair[1].startswith("calling-fm")]
    assert on_calling
    for radio, route in on_calling:
        traced = trace(index, fits, radio, route)
        assert not traced.reaches
        assert "others listen on 145.5000" in " ".join(hop.text for hop in traced.hops)
    look(plan)


@pytest.mark.parametrize(("hears", "words"), [((), "is empty"), (("echo",), "does not have it")])
def test_an_emptied_or_foreign_group_list_is_not_said_to_hold_the_channels_own_group(hears, words):
    plan = sound_plan()
    key = next(
        route.key
        for route in plan.routes
        if route.service == "blackfell-dmr"
        and not route.promiscuous
        and route.destination not in {"echo", "disconnect"}
    )
    routes = tuple(replace(route, hears=hears) if route.key == key else route for route in plan.routes)
    index = PlanIndex(replace(plan, routes=routes), TODAY)
    fitted = {item.key: fit(index, item, PROFILES[item.profile]) for item in plan.radios}
    radio = next(name for name, one in fitted.items() if (held := one.channel_of(key)) and not held.promiscuous)
    route = index.routes[key]
    found = why_silent(index, fitted, radio, key, (route.service, route.destination, route.slot))
    told = " ".join(item.text for item in found.conditions)
    assert "is in its receive group list" not in told
    assert words in told
