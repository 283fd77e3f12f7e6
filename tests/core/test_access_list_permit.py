"""A line of an access list can always be sent on: it goes out only where one may."""

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_station import set_guard
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import AccessEntry
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.interlock import must_not_send

FELL = shipped_profiles()["fell-d2"]


def fitted(plan):
    index = PlanIndex(plan, TODAY)
    return index, index.radios["fell"], fit(index, index.radios["fell"], FELL).memory


def test_while_the_guard_is_on_nothing_that_sends_is_in_the_access_list(plan):
    assert fitted(plan)[2].access_list
    _index, _radio, memory = fitted(set_guard(True).apply(plan))
    assert memory.access_list == ()
    assert all(channel.receive_only for channel in memory.channels)


def test_the_last_look_refuses_a_line_that_would_send(plan):
    import msgspec

    index, radio, memory = fitted(plan)
    assert must_not_send(index, radio, FELL, memory) == []
    beyond = AccessEntry(9, "Beyond", "Q0SIG  B", "Q0SIG  G", 439_000_000, 446_000_000)
    wrong = msgspec.structs.replace(memory, access_list=(*memory.access_list, beyond))
    assert [name for name, _why in must_not_send(index, radio, FELL, wrong)] == ["Beyond"]
    guarded, radio, _memory = fitted(set_guard(True).apply(plan))
    names = [name for name, _why in must_not_send(guarded, radio, FELL, memory)]
    assert set(names) >= {row.name for row in memory.access_list}
