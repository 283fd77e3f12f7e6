"""Files of earlier days are opened, now and for ever: every plan that the demo ever was; what is newer is told."""

from pathlib import Path

import pytest

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.index import PlanIndex

PLANS = sorted((Path(__file__).parent.parent / "data" / "plans").glob("*.awl.json"))


@pytest.mark.parametrize("path", PLANS, ids=lambda path: path.name[:2])
def test_a_plan_of_earlier_days_opens_fits_and_comes_back(path, profiles):
    plan = read_plan(path)
    assert plan.access
    assert plan.routes
    index = PlanIndex(plan, TODAY)
    for radio in plan.radios:
        assert fit(index, radio, profiles[radio.profile]).memory.channels
    assert parse_plan(plan_bytes(plan)) == plan


def test_they_are_all_there():
    assert len(PLANS) >= 9


def test_a_plan_of_a_newer_program_is_told_and_not_touched(tmp_path):
    path = tmp_path / "new.awl.json"
    data = PLANS[-1].read_bytes().replace(b'"version":1', b'"version":99').replace(b'"version": 1', b'"version": 99')
    path.write_bytes(data)
    with pytest.raises(StoreError, match=r"newer|update|version"):
        read_plan(path)
    assert path.read_bytes() == data
