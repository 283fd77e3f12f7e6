"""“What did I change last?”: plan, radios, hotspots and log as one dated list, in words, with nobody's ID."""

from datetime import datetime, timedelta

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hands.changed_last import changed_last, plan_changes
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import keep_save
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Proof
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.core.transfer.held import shelf_of
from umbra_awl.core.transfer.image import merge
from umbra_awl.standins.radio.device import factory_image

NOW = datetime(2026, 12, 1, 10, 0)


def recolored(plan, code=9):
    def one(access):
        if access.key != "blackfell":
            return access
        services = tuple(
            replace(item, air=replace(item.air, color_code=code)) if item.mode == "dmr" else item
            for item in access.services
        )
        return replace(access, services=services)

    return replace(plan, access=tuple(map(one, plan.access)))


def test_what_differs_between_two_plans_is_said_thing_by_thing(plan):
    fewer = replace(plan, routes=plan.routes[1:], zones=())
    told = plan_changes(plan, fewer)
    assert any(text.startswith("the route ") and text.endswith(" removed") for text in told)
    assert any(text.startswith("the zone ") and text.endswith(" removed") for text in told)
    moved = replace(plan.destinations[3], name="Another name")
    named = replace(plan, destinations=(*plan.destinations[:3], moved, *plan.destinations[4:]))
    (text,) = plan_changes(plan, named)
    assert "Another name" in text
    assert "→" in text
    assert plan_changes(plan, plan) == ()
    assert plan_changes(plan, replace(plan, station=replace(plan.station, height_m=9.0))) == ("the station changed",)


def test_nobodys_number_is_told(plan):
    person = Destination("bob", "Odile", "private", plan.destinations[1].network, 9_990_077)
    before = replace(plan, destinations=(*plan.destinations, person))
    after = replace(plan, destinations=(*plan.destinations, replace(person, number=9_997_654)))
    (told,) = plan_changes(before, after)
    assert "Odile" in told
    assert "9997654" not in told


@pytest.fixture
def worked(plan, profiles, tmp_path):
    """A plan that was saved twice and edited since, a radio that was read twice, a hotspot that was proven."""
    path = tmp_path / "p.awl.json"
    older = recolored(plan)
    path.write_bytes(plan_bytes(plan))
    keep_save(path, plan_bytes(older), NOW - timedelta(days=2))
    keep_save(path, plan_bytes(plan), NOW - timedelta(days=1))
    index, profile = PlanIndex(plan, TODAY), profiles["tarn16"]
    memory = fit(index, index.radios["tarn"], profile).memory
    shelf, blank = shelf_of(path, "tarn"), factory_image(profile, "one")
    fewer = replace(memory, channels=memory.channels[:-2])
    shelf.keep(fewer, merge(blank, fewer, profile), NOW - timedelta(hours=5))
    shelf.keep(memory, merge(blank, memory, profile), NOW - timedelta(hours=1))
    proof = Proof("echo", "2026-11-30")
    edited = set_fields(HOTSPOTS, plan.hotspots[0].key, "x", proofs=(proof,)).apply(plan)
    return edited, path


def test_one_list_has_them_all_the_latest_first(worked):
    plan, path = worked
    failed = Entry("k", "2026-12-01T09:30:00Z", grade="failed", route=plan.routes[0].key, note="nothing came back")
    found = changed_last(plan, path, [failed])
    words = [f"{item.what}: {item.words}" for item in found]
    assert any("color" in text and text.startswith("plan: ") for text in words) or any(
        "Blackfell" in text for text in words
    )
    assert any(text.startswith("Tarn 16: read: 2 more") for text in words)
    assert any(text.startswith("Tarn 16: read, ") and text.endswith("and kept") for text in words)
    assert any("“echo” was seen" in text for text in words)
    assert any(text.startswith("log: ") and "failed: nothing came back" in text for text in words)
    dated = [item.when for item in found if item.when != "now"]
    assert dated == sorted(dated, reverse=True)
    assert len(changed_last(plan, path, [failed], most=2)) == 2


def test_a_plan_that_was_never_saved_and_a_damaged_save_are_no_trouble(plan, tmp_path):
    path = tmp_path / "p.awl.json"
    assert [item for item in changed_last(plan, path) if item.what == "plan"] == []
    path.write_bytes(plan_bytes(plan))
    keep_save(path, b"{", NOW)
    keep_save(path, plan_bytes(recolored(plan)), NOW + timedelta(days=1))
    assert all(item.when == "now" for item in changed_last(plan, path) if item.what == "plan")
