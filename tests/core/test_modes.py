"""Each mode for itself: what opens it and how that is said, what does not exist in it, what a channel holds and hears."""

import pytest

from tests.days import TODAY
from umbra_awl.core.modes.opening import OnAir, first_shut
from umbra_awl.core.modes.table import KIND_WORDS, KINDS_OF, MODES, conditions, networks_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Call,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Mapped,
    Network,
    Plan,
    Route,
    Service,
)
from umbra_awl.core.radio.memory import Channel, Memory

HZ = 438_612_500
LATTICE = Network("lattice", "Lattice", "dmr", disconnect=Call(999000), local_group=8, dial_low=8001, dial_high=8099)
ACCESS = AccessPoint("a", "Q0SIG", "Signal Down", "repeater")


def channel(mode, **fields):
    return Channel(1, "x", mode, HZ, HZ, **fields)


def service(air):
    return Service("s", HZ, HZ, air)


@pytest.mark.parametrize(
    ("mode", "air", "head", "line"),
    [
        ("fm", FmAir("88.5"), "FM 88.5", "FM 88.5"),
        ("fm", FmAir(), "FM", "FM"),
        ("dmr", DmrAir(6), "DMR cc 6", "DMR cc6"),
        ("dmr", DmrAir(0), "DMR cc 0", "DMR cc0"),
        ("dstar", DstarAir("C"), "D-STAR C", "D-STAR C"),
        ("fusion", FusionAir(dgid_tx=4), "Fusion 04", "Fusion DG-ID 04"),
        ("fusion", FusionAir(), "Fusion", "Fusion DG-ID 00"),
    ],
)
def test_what_opens_an_access_point_is_said(mode, air, head, line):
    assert MODES[mode].head(air) == head
    assert MODES[mode].line(air) == line


@pytest.mark.parametrize(
    ("made", "said", "brief"),
    [
        (channel("fm", tone_tx="103.5"), "FM  tone 103.5", "103.5"),
        (channel("dmr", color_code=2, slot=1), "cc 2  slot 1", "cc2 s1"),
        (channel("dstar", ur="CQCQCQ  ", rpt1="Q0SIG  B"), "CQCQCQ··", "B"),
        (channel("fusion", way="DN", dgid_tx=7), "DN  DG-ID 07", "DN 07"),
    ],
)
def test_a_channel_in_few_words(made, said, brief):
    assert (MODES[made.mode].said(made), MODES[made.mode].brief(made)) == (said, brief)


@pytest.mark.parametrize(
    ("made", "fault"),
    [
        (channel("dmr", slot=0), ""),
        (channel("dmr", slot=1, color_code=15), ""),
        (channel("dmr", slot=2, color_code=0), ""),
        (channel("dmr", slot=3), "slot 3"),
        (channel("dmr", slot=1, color_code=16), "color code 16"),
        (channel("fusion", dgid_tx=99, dgid_rx=0), ""),
        (channel("fusion", dgid_tx=100), "100"),
        (channel("fusion", dgid_tx=1, dgid_rx=-1), "-1"),
        (channel("fm"), ""),
    ],
)
def test_channels_that_are_none(made, fault):
    found = MODES[made.mode].channel_fault(made)
    assert bool(found) == bool(fault)
    assert fault in found


@pytest.mark.parametrize(
    ("mode", "air", "field", "better"),
    [
        ("fm", FmAir("88.4"), "tone_tx", "88.5"),
        ("fm", FmAir("loud"), "", ""),
        ("dmr", DmrAir(16), "", None),
    ],
)
def test_values_that_do_not_exist_and_the_nearest_that_does(mode, air, field, better):
    (found,) = MODES[mode].faults(air)
    assert (found.field, found.better) == (field, better)
    assert ("nearest" in found.text) == bool(field)


def test_values_that_exist_are_no_faults():
    for mode, air in (
        ("fm", FmAir("88.5")),
        ("fm", FmAir()),
        ("dmr", DmrAir(15)),
        ("dmr", DmrAir(0)),
        ("dstar", DstarAir()),
    ):
        assert list(MODES[mode].faults(air)) == []


def test_a_routes_own_values_come_before_the_access_points():
    local = Destination("l", "Local", "local")
    dstar = MODES["dstar"]
    usual = dstar.usual(ACCESS, DstarAir("B"), local, 0)
    assert usual == {"ur": "CQCQCQ  ", "rpt1": "Q0SIG  B", "rpt2": "Q0SIG  G", "admit": "always"}
    own = dstar.values(Route("s", "l", ur="Q4WRN", rpt1="Q0SIGNAL1", admit="free"), usual)
    assert own == {"ur": "Q4WRN   ", "rpt1": "Q0SIGNAL1", "rpt2": "Q0SIG  G", "admit": "free"}
    assert len(dstar.written("ur", "12345678")) == 8
    dmr = MODES["dmr"]
    assert dmr.values(Route("s", "l", 1), dmr.usual(ACCESS, DmrAir(6), local, 1)) == {"color_code": 6, "admit": "color"}
    assert dmr.values(Route("s", "l", 1, color_code=0), {"color_code": 6, "admit": "color"})["color_code"] == 0
    room = Destination("r", "Sea Room", "room")
    fusion = MODES["fusion"].usual(ACCESS, FusionAir(dgid_tx=5, mapped=(Mapped(40, "r"),), auto_mode=True), room, 0)
    assert fusion == {"way": "AMS", "dgid_tx": 40, "dgid_rx": 0, "admit": "always"}


def test_dialling_in_its_order_with_what_the_network_says():
    index = PlanIndex(Plan(networks=(LATTICE,)), TODAY)
    dmr, air = MODES["dmr"], DmrAir(1, "lattice")
    steps = dmr.order_of_use(index, service(air), Destination("d", "Dial", "dial", "lattice"))
    assert steps[0].startswith("Dial a number from 8001 to 8099")
    assert steps[2] == "Talk on the local talk group 8. Others of the reflector answer there."
    assert steps[3] == "Call 999000 to disconnect; a voice says that nothing is linked."
    bare = dmr.order_of_use(PlanIndex(Plan(), TODAY), service(DmrAir()), Destination("d", "Dial", "dial", number=8012))
    assert bare[0].startswith("Dial 8012")
    assert bare[2:] == ("Talk on the local talk group. Others of the reflector answer there.", "Disconnect when done.")
    assert dmr.order_of_use(index, service(air), Destination("l", "Local", "local")) == ()
    assert networks_of(service(DmrAir(network="lattice", also=("isles",)))) == ("lattice", "isles")
    assert MODES["dmr"].quiet_minutes == 15
    assert MODES["fm"].quiet_minutes == 0


def test_a_call_goes_out_on_the_slot_asked_for_or_the_first_there_is():
    index, group = PlanIndex(Plan(), TODAY), Destination("g", "Exercise", "group", number=99905)
    dmr, two = MODES["dmr"], service(DmrAir(slots=(2,)))
    assert dmr.on_air(index, two, group, OnAir(HZ, "dmr", 1, 0)).slot == 2
    assert dmr.on_air(index, two, group, OnAir(HZ, "dmr", 1, 1)).slot == 1
    assert dmr.on_air(index, service(DmrAir(slots=())), group, OnAir(HZ, "dmr")).slot == 0
    nobody = dmr.on_air(index, two, Destination("l", "Local", "local"), OnAir(HZ, "dmr"))
    assert (nobody.number, nobody.kind) == (0, "group")
    assert MODES["dstar"].on_air(index, service(DstarAir()), group, OnAir(HZ, "dstar", 3, 2)) == OnAir(HZ, "dstar")


def test_who_opens_for_a_call_in_another_mode():
    memory = Memory("x")
    for mode in MODES:
        for other in MODES:
            heard = first_shut(conditions(memory, channel(mode, way="DN"), OnAir(HZ, other))) is None
            assert heard is (mode == other and mode != "dmr"), (mode, other)
    automatic = channel("fusion", way="AMS")
    assert first_shut(conditions(memory, automatic, OnAir(HZ, "fm"))) is None
    assert first_shut(conditions(memory, automatic, OnAir(HZ, "dmr"))) is not None
    assert first_shut(conditions(memory, channel("fm"), OnAir(HZ + 12_500, "fm"))).mends


def test_every_kind_of_destination_has_a_word_and_a_mode():
    assert set().union(*KINDS_OF.values()) == set(KIND_WORDS)
    assert {mode for mode, behaviour in MODES.items() if behaviour.color_coded} == {"dmr"}
