"""Values that no radio holds are never cut to bits: the route stays out with the reason, or the image is refused whole."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Channel, Contact, Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.errors import ImageError
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
TARN = PROFILES["tarn16"]


def fitted(plan, key="tarn16"):
    return fit(PlanIndex(plan, TODAY), next(item for item in plan.radios if item.profile == key), PROFILES[key])


def change_service(plan, key, **fields):
    """The plan with one service changed."""
    access = tuple(
        replace(item, services=tuple(replace(one, **fields) if one.key == key else one for one in item.services))
        for item in plan.access
    )
    return replace(plan, access=access)


def with_destination(plan, number):
    """The plan with one group that routes use given another number, and its key."""
    used = {route.destination for route in plan.routes}
    target = next(item for item in plan.destinations if item.kind == "group" and item.key in used)
    changed = tuple(replace(item, number=number) if item is target else item for item in plan.destinations)
    return replace(plan, destinations=changed), target


@pytest.mark.parametrize("number", [-1, 0, 16_777_216, 2**32, 2**40])
def test_a_number_that_cannot_be_called_stays_out_with_the_reason(plan, number):
    wrong, target = with_destination(plan, number)
    made = fitted(wrong)
    assert number not in [item.call for item in made.memory.contacts]
    assert not any(f">{target.key}@" in channel.route for channel in made.memory.channels)
    assert [line.title for line in made.report.lines if "cannot be called" in line.reason]
    image = merge(factory_image(TARN), made.memory, TARN)
    assert len(decode(image, TARN).channels) == len(made.memory.channels)


@given(st.integers(-(2**40), 2**40), st.integers(-(2**34), 2**34), st.integers(-300, 300), st.integers(-(2**40), 2**40))
@examples(40)
def test_whatever_the_plan_holds_is_fitted_and_packed_or_left_out(number, hertz, code, own_id):
    plan, _target = with_destination(demo_plan(TODAY), number)
    service = next(item for access in plan.access for item in access.services if item.mode == "dmr")
    plan = change_service(plan, service.key, tx_hz=hertz, air=replace(service.air, color_code=code))
    owner, *others = plan.station.identities
    ids = (replace(owner.ids[0], number=own_id), *owner.ids[1:])
    station = replace(plan.station, identities=(replace(owner, ids=ids), *others))
    made = fitted(replace(plan, station=station))
    again = decode(merge(factory_image(TARN), made.memory, TARN), TARN)
    assert [(item.rx_hz, item.tx_hz, item.color_code) for item in again.channels] == [
        (item.rx_hz, item.tx_hz, item.color_code) for item in made.memory.channels
    ]
    assert [item.call for item in again.contacts] == [item.call for item in made.memory.contacts]
    assert again.dmr_id == made.memory.dmr_id


@pytest.mark.parametrize(
    "memory",
    [
        Memory("tarn16", contacts=(Contact(1, "X", -1),)),
        Memory("tarn16", contacts=(Contact(1, "X", 2**32),)),
        Memory("tarn16", channels=(Channel(1, "X", "fm", 2**32, 145_500_000),)),
        Memory("tarn16", channels=(Channel(1, "X", "dmr", 439_000_000, 439_000_000, color_code=99),)),
        Memory("tarn16", channels=(Channel(1, "X", "dstar", 439_000_000, 439_000_000),)),
        Memory("tarn16", channels=(Channel(1, "X", "fm", 145_500_000, 145_500_000, way="XX"),)),
        Memory("tarn16", dmr_id=-5),
    ],
)
def test_a_memory_that_has_no_room_in_the_bytes_is_refused_whole(memory):
    image = factory_image(TARN)
    with pytest.raises(ImageError, match="cannot"):
        merge(image, memory, TARN)


def test_dgids_and_frequencies_that_do_not_exist_stay_out(plan):
    crag = next(item for item in plan.radios if item.profile == "crag-f3")
    index = PlanIndex(plan, TODAY)
    route = next(item for item in plan.routes if index.services[item.service][1].mode == "fusion")
    wrong = replace(plan, routes=tuple(replace(item, dgid_tx=120) if item is route else item for item in plan.routes))
    made = fit(PlanIndex(wrong, TODAY), crag, PROFILES["crag-f3"])
    assert made.channel_of(route.key) is None
    assert any("120 is not a DG-ID" in line.reason for line in made.report.lines)
    far = change_service(plan, route.service, tx_hz=-7)
    made = fit(PlanIndex(far, TODAY), crag, PROFILES["crag-f3"])
    assert made.channel_of(route.key) is None
    assert any("nothing to send on" in line.reason for line in made.report.lines)


@pytest.mark.parametrize(
    ("mode", "fields"), [("dmr", {"color_code": 16}), ("fusion", {"dgid_tx": 100}), ("fusion", {"dgid_rx": -1})]
)
def test_a_routes_own_value_is_looked_at_by_itself_whatever_its_crossing_allows(plan, mode, fields):
    services = {item.key for access in plan.access for item in access.services if item.mode == mode}
    profile = next(item.profile for item in plan.radios if mode in PROFILES[item.profile].modes)
    sound = fitted(plan, profile)
    carried = {channel.route for channel in sound.memory.channels}
    route = next(item for item in plan.routes if item.service in services and item.key in carried)
    other = replace(route, slot=3 - route.slot) if route.slot else None
    routes = tuple(replace(item, **fields) if item.key == route.key else item for item in plan.routes)
    if other is not None and other.key not in {item.key for item in plan.routes}:
        routes = (other, *routes)
    made = fitted(replace(plan, routes=routes), profile)
    left = {channel.route for channel in made.memory.channels}
    assert route.key not in left
    assert left >= carried - {route.key}
