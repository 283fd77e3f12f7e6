"""The demo's fits, and worlds made of its routes."""

import pytest

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.simulation.setting import Choice, make_setting

TRAVEL = ("travel-dmr>worldwide@2", "travel-dmr>isles-wide@2", "travel-dmr>echo@2")
HOME = ("home-dmr>worldwide@2", "home-dmr>amber-coast@2", "home-dmr>isles-wide@1")


@pytest.fixture
def fits(index, profiles):
    return {radio.key: fit(index, radio, profiles[radio.profile]) for radio in index.plan.radios}


@pytest.fixture
def made(index, fits):
    """Makes a setting of the demo: `made("tarn", routes, stance=…)`."""
    return lambda radio, routes, **more: make_setting(index, fits, Choice(radio, tuple(routes), whole=True, **more))
