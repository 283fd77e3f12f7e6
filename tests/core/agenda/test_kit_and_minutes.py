"""What goes along on a trip, and the ten minutes before a net."""

from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from umbra_awl.core.agenda.kit import kit
from umbra_awl.core.agenda.ten_minutes import NetKnown, ten_minutes
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.logbook.proof import RouteProof
from umbra_awl.core.plan.edit.edit_station import set_guard
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Trip

NOW = datetime(2026, 11, 27, 18, 0, tzinfo=UTC)
TRIP = Trip("week", "Nessa", 46.4, -31.0, "2026-12-01", "2026-12-07")


@pytest.fixture
def known(index, profiles):
    fits = {radio.key: fit(index, radio, profiles[radio.profile]) for radio in index.plan.radios}
    return NetKnown(fits, profiles)


def test_a_kit_is_what_the_plans_radios_and_hotspots_need(index, profiles):
    items = {item.key: item for item in kit(index, profiles, TRIP)}
    radio = index.plan.radios[0]
    assert f"radio {radio.key}" in items
    assert "7 days" in items[f"charger {radio.key}"].why
    assert "power bank" in items
    assert items["phone"].words.startswith("Phone")
    assert {"field cards", "road sheet", "licence", "card reader"} <= items.keys()
    assert len(items) == len(kit(index, profiles, TRIP)), "each thing once"


def test_a_radio_that_stays_at_home_needs_nothing(index, profiles):
    radios = tuple(replace(radio, trips=()) for radio in index.plan.radios)
    alone = PlanIndex(replace(index.plan, radios=radios, hotspots=()), index.today)
    assert [item.key for item in kit(alone, profiles, TRIP)] == ["licence"]


def by_title(checks):
    return {check.title: check for check in checks}


def test_before_a_net_what_is_not_in_order_stands_first(index, known):
    net = index.plan.nets[0]
    checks = ten_minutes(index, known, net, NOW)
    states = [check.state for check in checks]
    assert states == sorted(states, key={"look": 0, "ok": 1, "ask": 2}.get)
    found = by_title(checks)
    assert net.name in found["Time"].words
    assert found["Memory"].state == "look"
    assert {"Listen", "Quiet place", "Sound", "Paper"} <= found.keys()


def test_what_is_known_to_be_in_order_is_said_so(index, known):
    net = next(item for item in index.plan.nets if item.route)
    good = known._replace(
        holding=frozenset(known.fits),
        proofs={net.route: RouteProof(net.route, "answered", True, True, "2026-11-20T10:00:00Z")},
    )
    found = by_title(ten_minutes(index, good, net, NOW))
    assert found["Memory"].state == "ok"
    assert found["Proof"].state == "ok"
    worse = good._replace(proofs={net.route: good.proofs[net.route]._replace(changed=("tone 88.5 → 103.5",))})
    assert by_title(ten_minutes(index, worse, net, NOW))["Proof"].state == "look"


def test_with_the_guard_on_one_listens(index, known):
    net = next(item for item in index.plan.nets if item.route)
    plan = index.plan
    for identity in plan.station.identities:
        plan = set_guard(True, identity.key).apply(plan)
    guarded = PlanIndex(plan, index.today)
    assert "Listen only" in by_title(ten_minutes(guarded, known, net, NOW))["Licence"].words
