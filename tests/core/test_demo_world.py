"""The demo is a world: its directory has people and destinations, and its files can be tried."""

from contextlib import closing

from tests.days import TODAY
from umbra_awl.core.columns.csv_guess import guess_sheet
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.directory.people_search import search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.targets import search_targets
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.tables.table import open_table
from umbra_awl.demo.fresh import lay_out
from umbra_awl.demo.furnish import CLUB_PLAN, furnish


def test_a_furnished_demo_has_people_destinations_and_files(tmp_path):
    demo = lay_out(tmp_path, TODAY)
    made = furnish(demo, TODAY, 600)
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


def test_the_clubs_table_has_six_members_with_radios_of_one_kind(tmp_path):
    demo = lay_out(tmp_path, TODAY)
    furnish(demo, TODAY, people=10)
    plan = read_plan(tmp_path / CLUB_PLAN)
    index = PlanIndex(plan, TODAY)
    members = plan.station.identities[1:]
    assert len({who.call for who in members}) == len(plan.radios) == 6
    assert {radio.profile for radio in plan.radios} == {"tarn16"}
    profile = shipped_profiles()["tarn16"]
    fits = {radio.identity: fit(index, radio, profile).memory for radio in plan.radios}
    assert len({memory.call for memory in fits.values()}) == 6
    sending = {who: sum(not channel.receive_only for channel in memory.channels) for who, memory in fits.items()}
    assert sending["q2edd"] == 0, "her licence is not granted yet"
    assert all(count for who, count in sending.items() if who != "q2edd")
    assert not plan.hotspots
    assert not structure_faults(plan)
