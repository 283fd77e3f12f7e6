"""What the trace lets through on a quiet network arrives in the simulation, and what it stops does not: for any plan."""

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.days import TODAY
from tests.strategies import let_out, plans
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.play import Play
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting
from umbra_awl.core.trace.keyup import trace

RADIOS = st.sampled_from(["tarn16", "moor4k", "fell-d2", "crag-f3"])
ANY_PLAN = st.one_of(plans(), plans().map(let_out), plans(tidy=True).map(let_out))


def quiet_verdicts(index, fits, radio):
    """Every route on a radio: key, what the trace says, and a key-up of three seconds on a quiet network."""
    for route in [channel.route for channel in fits[radio].memory.channels if channel.route]:
        play = Play(make_setting(index, fits, ListeningChoice(radio, (route,))), traffic=False)
        keyed = play.keyer.press(route)
        play.advance(3.0)
        play.keyer.release()
        play.advance(30.0)
        yield route, trace(index, fits, radio, route), keyed


def differences(index, fits, radio):
    """Where trace and simulation differ; none should."""
    for route, said, keyed in quiet_verdicts(index, fits, radio):
        hearing = {item.who for item in said.listeners if item.hears} if said.broken is None else set()
        stops = said.broken is not None and said.broken.kind != "far"
        reason = keyed.stopped.reason if keyed.stopped is not None else ""
        if set(keyed.heard_by) != hearing or (stops and reason != said.broken.text):
            yield route, said.broken, keyed.stopped, keyed.heard_by


@given(ANY_PLAN, RADIOS)
@settings(max_examples=12)
def test_trace_and_simulation_say_the_same_on_a_quiet_network(plan, profile):
    index, profiles = PlanIndex(plan, TODAY), shipped_profiles()
    fits = {radio.key: fit(index, radio, profiles[profile]) for radio in plan.radios}
    assert [item for radio in fits for item in differences(index, fits, radio)] == []


def test_they_say_the_same_of_every_route_of_the_demo_and_most_arrive(index, profiles):
    fits = {radio.key: fit(index, radio, profiles[radio.profile]) for radio in index.plan.radios}
    assert [item for radio in fits for item in differences(index, fits, radio)] == []
    verdicts = [keyed for radio in fits for _route, _said, keyed in quiet_verdicts(index, fits, radio)]
    assert sum(bool(keyed.heard_by) for keyed in verdicts) > len(verdicts) / 2
