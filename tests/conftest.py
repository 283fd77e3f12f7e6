"""What all tests share: the demo plan, its index, profiles, and a place for files."""

import os

import pytest
from hypothesis import HealthCheck, Phase, settings

from tests.days import TODAY
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
settings.register_profile(
    "usual",
    deadline=None,
    max_examples=20,  # by day; the night tries more
    phases=[phase for phase in Phase if phase is not Phase.explain],  # explaining traces every line: minutes for a plan
    print_blob=True,
    database=None,
    derandomize=True,  # the same examples each time: what is green stays green
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.function_scoped_fixture],
)
settings.register_profile("night", settings.get_profile("usual"), max_examples=40)
settings.register_profile("explore", settings.get_profile("usual"), derandomize=False, max_examples=200)
settings.load_profile(os.environ.get("EXAMPLES", "usual"))


@pytest.fixture
def plan():
    return demo_plan(TODAY)


@pytest.fixture
def index(plan):
    return PlanIndex(plan, TODAY)


@pytest.fixture(scope="session")
def profiles():
    return shipped_profiles()
