"""A listing found wrong on the air: what follows for the plan, and the dated file that goes to whoever keeps the list."""

import csv
import io

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.directory.corrections import corrections, corrections_csv
from umbra_awl.core.directory.found_wrong import GONE, OTHER, SIGN, change_for, listed_service, listing_of, ways_wrong
from umbra_awl.core.directory.store import Store
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.demo.fresh import demo_plan, lay_out_directory


@pytest.fixture
def store(tmp_path):
    made = Store(lay_out_directory(tmp_path, TODAY))
    yield made
    made.close()


@pytest.fixture(scope="module")
def index():
    return PlanIndex(demo_plan(TODAY), TODAY)


def test_every_way_a_listing_can_be_wrong_has_its_change(index):
    today = "2026-11-27"
    typed = {
        "opens": {"fm": "88.5", "dmr": "7", "dstar": "A", "fusion": "12"},
        "back": "77.0",
        "output": "438.5",
        "input": "-7.6",
    }
    for access, service in index.services.values():
        for way in ways_wrong(service):
            text = typed.get(way.name, "moved to the tower")
            text = text[service.mode] if isinstance(text, dict) else text
            made = change_for(access, service, "s", way.name, text, today)
            if way.name in {GONE, OTHER}:
                assert made.edit is None
                assert today in made.note
                continue
            after = PlanIndex(made.edit.apply(index.plan), TODAY).services[service.key][1]
            path = made.field.removeprefix("s/")
            value = getattr(after.air, path[4:]) if path.startswith("air/") else getattr(after, path)
            assert value == made.value


@pytest.mark.parametrize(("way", "text"), [("opens", "99"), ("output", "soon"), (OTHER, ""), ("opens", "-1")])
def test_what_cannot_be_is_refused(index, way, text):
    access, service = index.services["blackfell-dmr"]
    with pytest.raises(ValueError, match=r"exist|cannot|not|Say"):
        change_for(access, service, "s", way, text, "2026-11-27")


def test_the_file_to_send_says_what_is_listed_and_what_was_found(store, index):
    access, service = index.services["cairnlow-dmr"]
    entry = listing_of(store, access, service)
    key = listed_service(entry.access, service)
    made = change_for(access, service, key, SIGN, "", "2026-11-27")
    assert corrections(store) == []
    store.set_edit(entry.key, made.field, made.value, "2026-11-27")
    store.set_note(entry.key, "=heard it myself", "2026-11-27")
    (found,) = corrections(store)
    assert (found.day, found.call, found.field) == ("2026-11-27", access.call, "DMR input")
    assert found.listed.endswith("MHz")
    assert found.listed != found.found
    (head, line) = csv.reader(io.StringIO(corrections_csv([found], "Q4WRN")))
    assert line[-1] == "Q4WRN"
    assert line[head.index("remark")].startswith("'=")
    listed = next(item.tx_hz for item in store.imported(entry.key).services if item.key == key)
    store.set_edit(entry.key, made.field, listed, "2026-11-28")
    assert corrections(store) == []  # the list says so by now


def test_a_service_is_matched_by_mode_and_frequency(index):
    access, service = index.services["blackfell-dmr"]
    assert listed_service(access, service) == service.key
    assert listed_service(replace(access, services=()), service) == ""
    assert listed_service(None, service) == ""
