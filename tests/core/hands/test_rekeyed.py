"""Things under other keys: what points to them follows, what no table names stays."""

import pytest

from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.core.plan.sharing import Rekeyed

KEYS = {"access": {"a": "b"}, "route": {"r1": "q1", "r2": "q2"}, "network": {"a": "n"}}


@pytest.mark.parametrize(("by", "of", "after"), [("access", "a", "b"), ("access", "x", "x"), ("mode", "a", "a")])
def test_a_zone_of_one_access_point_follows_its_key_and_another_kind_does_not(by, of, after):
    assert Rekeyed(KEYS).walked(Zone("z", "Z", by=by, of=of)).of == after


def test_members_follow_and_those_that_no_table_names_stay_in_their_order():
    made = Rekeyed(KEYS).walked(ScanList("s", "S", by="hand", members=("r2", "other", "r1"), priority="r1"))
    assert made.members == ("q2", "other", "q1")
    assert made.priority == "q1"


def test_what_no_table_concerns_is_the_same_value():
    zone = Zone("z", "Z", by="mode", of="dmr")
    assert Rekeyed({"access": {}}).walked(zone) is zone
    assert Rekeyed({"access": {}}).walked((zone, zone)) == (zone, zone)
    assert Rekeyed({"access": {}}).walked("text") == "text"
