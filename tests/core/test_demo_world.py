"""The demo is a world: its directory has people and destinations, and its files can be tried."""

from contextlib import closing

from umbra_awl.core.columns.csv_guess import guess_sheet, take_sample
from umbra_awl.core.directory.people_search import search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.targets import search_targets
from umbra_awl.core.tables.table import open_table
from umbra_awl.demo.fresh import lay_out
from umbra_awl.demo.furnish import furnish


def test_a_furnished_demo_has_people_destinations_and_files(tmp_path):
    demo = lay_out(tmp_path)
    made = furnish(demo, 600)
    assert made.people > 590
    assert made.targets >= 15
    with closing(Store(demo.directory)) as store:
        kinds = {item.kind for item in search_targets(store, "")}
        assert {"group", "reflector", "room"} <= kinds
        found = search_people(store, "999")
        assert found
    old, messy = made.files
    sheet = guess_sheet(take_sample(old.name, old.read_bytes()))
    assert len(sheet.column) > 5
    assert len(open_table(messy).headers) > 5
