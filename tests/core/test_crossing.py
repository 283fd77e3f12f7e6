"""Every way that a crossing is possible, and every reason why one is not, in words."""

import pytest

from tests.days import TODAY
from umbra_awl.core.modes.behaviour import Crossing
from umbra_awl.core.modes.fusion import fusion_way, mapped_dgid
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Mapped,
    Network,
    Plan,
    Service,
)
from umbra_awl.core.routes.crossing import crossing

NETWORKS = (
    Network("lattice", "Lattice", "dmr"),
    Network("reach", "Reach", "dmr", dial_low=4000, dial_high=4999),
    Network("skein", "Skein", "dstar"),
)
ONE = Crossing(True, (0,), "")
PLAIN = {
    "fm": FmAir(),
    "dmr": DmrAir(1, "lattice"),
    "dstar": DstarAir("B", network="skein"),
    "fusion": FusionAir(network="commons"),
}


def cross(air, destination, *, kind="repeater", call="Q0BLK", site="Blackfell"):
    service = Service("s", 438_000_000, 430_400_000, air)
    access = AccessPoint("a", call, site, kind, "", (service,))
    plan = Plan(networks=NETWORKS, access=(access,), destinations=(destination,))
    return crossing(PlanIndex(plan, TODAY), access, service, destination)


def to(kind, network="", **fields):
    return Destination("d", "Wide Net", kind, network, **fields)


POSSIBLE = {
    "fm": {"local"},
    "dmr": {"local", "group", "private", "echo", "disconnect"},
    "dstar": {"local", "reflector", "direct", "repeater", "station", "echo", "info", "disconnect"},
    "fusion": {"local", "room"},
}


@pytest.mark.parametrize("mode", PLAIN)
@pytest.mark.parametrize(
    "kind",
    [
        "local",
        "group",
        "private",
        "echo",
        "disconnect",
        "dial",
        "reflector",
        "direct",
        "repeater",
        "station",
        "info",
        "room",
    ],
)
def test_each_mode_reaches_what_it_can(mode, kind):
    verdict = cross(PLAIN[mode], to(kind, text="VLR001 C"))
    assert verdict.possible is (kind in POSSIBLE[mode])
    assert verdict.possible is bool(verdict.slots)
    assert verdict.possible is not bool(verdict.reason)


def test_places_are_one_of_a_slot_or_a_pair_of_memories():
    assert cross(PLAIN["fm"], to("local")) == ONE
    assert cross(PLAIN["dmr"], to("group")) == Crossing(True, (1, 2), "")
    assert cross(DmrAir(1, "lattice", (2,)), to("group")) == Crossing(True, (2,), "")
    assert cross(PLAIN["dstar"], to("reflector", text="VLR001 C")) == Crossing(True, (1, 2), "")
    assert cross(PLAIN["dstar"], to("direct", text="Q0SIG B")) == Crossing(True, (1, 2), "")
    for kind in ("local", "repeater", "station", "echo", "info", "disconnect"):
        assert cross(PLAIN["dstar"], to(kind, text="Q0SIG B")) == ONE
    assert cross(PLAIN["fusion"], to("local")) == ONE


def test_another_mode_is_said_with_the_mode_and_the_kind():
    assert "Q0BLK is FM here: it reaches whoever listens to it, not Wide Net" in cross(PLAIN["fm"], to("group")).reason
    assert cross(PLAIN["dmr"], to("room")).reason == "Wide Net (room) is not reached by DMR."


def test_without_a_call_the_site_is_named():
    assert "Blackfell is FM here" in cross(PLAIN["fm"], to("group"), call="").reason
    assert "No time slot of Blackfell" in cross(DmrAir(1, "lattice", ()), to("group"), call="").reason


def test_what_is_only_listened_to_gets_a_channel_for_local_alone():
    assert cross(PLAIN["dmr"], to("local"), kind="receive").possible
    assert cross(PLAIN["dmr"], to("group"), kind="receive").reason == (
        "Q0BLK is only listened to. “Local” gives it a channel."
    )


def test_networks_keep_apart_and_are_named():
    assert cross(PLAIN["dmr"], to("group", "lattice")).possible
    assert cross(PLAIN["dmr"], to("group", "reach")).reason == "Wide Net is on Reach; Q0BLK is on Lattice."
    assert cross(DmrAir(1, ""), to("group", "reach")).reason == "Wide Net is on Reach; Q0BLK is on no network."
    assert cross(PLAIN["dmr"], to("group", "nowhere")).reason == "Wide Net is on nowhere; Q0BLK is on Lattice."
    assert cross(DmrAir(1, "lattice", also=("reach",)), to("group", "reach")).possible


def test_dialling_needs_a_network_that_has_numbers_for_it():
    assert cross(DmrAir(1, "reach"), to("dial", "reach")).possible
    assert cross(DmrAir(1, "reach"), to("dial")).possible
    assert cross(PLAIN["dmr"], to("dial")).reason == "Lattice has no dialled reflectors."
    assert cross(DmrAir(1, ""), to("dial")).reason == "Q0BLK has no dialled reflectors."
    assert cross(DmrAir(1, "lattice", also=("reach",)), to("dial", "reach")).possible
    assert cross(DmrAir(1, "reach", also=("lattice",)), to("dial", "lattice")).reason.startswith("Lattice has no")


def test_a_repeater_without_slots_carries_nothing():
    assert cross(DmrAir(1, "lattice", ()), to("group")).reason == (
        "No time slot of Q0BLK may be used. Allow one in its settings."
    )


def test_dstar_without_a_gateway_reaches_who_listens():
    alone = DstarAir("C", gateway=False, network="skein")
    assert cross(alone, to("local")) == ONE
    for kind in ("reflector", "station", "echo"):
        assert cross(alone, to(kind, text="VLR001 C")).reason == (
            "Q0BLK module C has no gateway; it reaches only who listens to it."
        )


@pytest.mark.parametrize(
    ("kind", "needs"), [("reflector", True), ("direct", True), ("repeater", True), ("station", False)]
)
def test_dstar_targets_need_a_module_where_they_are_linked_or_routed(kind, needs):
    without = cross(PLAIN["dstar"], to(kind, text="somewhere else"))
    assert without.possible is not needs
    if needs:
        assert without.reason == ("Wide Net has no call and module, such as “VLR001 C”. Give them at the destination.")
    named = Destination("d", "VLR001 C", kind)
    assert cross(PLAIN["dstar"], named).possible, "the name will do where it is one"
    assert cross(PLAIN["dstar"], Destination("d", "VLR001 C", kind, text="somewhere else")).possible is not needs


def test_fusion_reaches_what_a_digital_group_id_leads_to_or_what_its_node_connects():
    mapped = FusionAir(mapped=(Mapped(21, "x"), Mapped(22, "d")))
    for kind in ("room", "echo", "disconnect"):
        assert cross(mapped, to(kind)) == ONE
    assert cross(FusionAir(node=True), to("room")) == ONE
    assert cross(FusionAir(node=False), to("room")).reason == (
        "Q0BLK maps no DG-ID to Wide Net and takes no connect command."
    )
    for node in (True, False):
        assert "is a command on the radio's own node page" in cross(FusionAir(node=node), to("echo")).reason
    assert (mapped_dgid(mapped, to("room")), mapped_dgid(FusionAir(), to("room"))) == (22, None)


def test_how_a_fusion_radio_sends_by_rule():
    assert fusion_way(FusionAir(("VW", "DN"))) == "VW"
    assert fusion_way(FusionAir(())) == "DN"
    assert fusion_way(FusionAir(("VW",), auto_mode=True)) == "AMS"
