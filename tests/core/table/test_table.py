"""A table full of radios: each recognised, offered to its owner, nobody's own channels lost, the list kept."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.label import label_of, labels_pdf
from umbra_awl.core.paper.loading import loaded_how, loaded_words
from umbra_awl.core.plan.edit.edit_station import set_guard
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Channel, Contact, Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.interlock import must_not_send
from umbra_awl.core.transfer.shelf import print_of
from umbra_awl.core.transfer.table.keep_own import ZONE, with_own
from umbra_awl.core.transfer.table.recognise import differs, own_channels, recognise
from umbra_awl.core.transfer.table.roster import Done, Roster, read_roster, roster_file, seats, write_roster
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.demo.furnish import club_plan
from umbra_awl.standins.radio.device import factory_image

TARN = shipped_profiles()["tarn16"]
INDEX = PlanIndex(club_plan(demo_plan(TODAY), TODAY), TODAY)
MEMORIES = {radio.key: fit(INDEX, radio, TARN).memory for radio in INDEX.plan.radios}
PRINTS = {key: print_of(memory) for key, memory in MEMORIES.items()}
OWN = Channel(1, "MY SPOT", "dmr", 438_100_000, 438_100_000, color_code=3, slot=1, contact=1)


def seats_of(roster=Roster()):  # noqa: B008
    return seats(INDEX, roster, PRINTS)


def done(radio, unit):
    return Done(radio, unit, "2026-11-26 10:00", PRINTS[radio])


def told(unit, memory, roster=Roster()):  # noqa: B008
    return recognise(unit, memory, roster, seats_of(roster), list(MEMORIES.values()))


def test_a_fresh_radio_is_offered_to_the_first_who_waits():
    first, second = [radio.key for radio in INDEX.plan.radios[:2]]
    assert told("u1", Memory("tarn16")).seat.radio == first
    assert told("u2", Memory("tarn16"), Roster((done(first, "u1"),))).seat.radio == second


def test_a_radio_that_was_here_before_is_known_by_its_unit():
    key = INDEX.plan.radios[2].key
    found = told("u9", Memory("tarn16"), Roster((done(key, "u9"),)))
    assert (found.seat.radio, found.how) == (key, "unit")
    assert "it is done" in found.text


def test_a_radio_with_a_members_call_sign_is_offered_to_that_member():
    found = told("", Memory("tarn16", call="Q2DEL"))
    assert (found.seat.call, found.how) == ("Q2DEL", "call")


def test_a_second_radio_of_an_owner_and_a_strangers_are_told():
    key = next(radio.key for radio in INDEX.plan.radios if "Q2DEL" in radio.name)
    again = told("u2", Memory("tarn16", call="Q2DEL"), Roster((done(key, "u1"),)))
    assert again.seat.radio != key
    assert "second one" in again.beware
    assert "Q9ODL, who is not at this table" in told("u3", Memory("tarn16", call="Q9ODL")).beware


def test_when_all_are_done_nobody_is_offered():
    roster = Roster(tuple(done(radio.key, f"u{at}") for at, radio in enumerate(INDEX.plan.radios)))
    found = told("new", Memory("tarn16"), roster)
    assert found.seat is None
    assert "all of them are done" in found.text


def test_a_plan_that_changed_makes_a_seat_due_again():
    key = INDEX.plan.radios[0].key
    roster = Roster((replace(done(key, "u1"), holds="another"),))
    assert seats_of(roster)[0].state == "again"
    assert "changed since" in told("u1", Memory("tarn16"), roster).text


def test_one_radio_sits_at_one_seat_only():
    one, two = [radio.key for radio in INDEX.plan.radios[:2]]
    roster = Roster().with_done(done(one, "u1")).with_done(done(two, "u1"))
    assert [item.radio for item in roster.done] == [two]


def test_the_list_survives_and_a_damaged_one_is_set_aside(tmp_path):
    path = roster_file(tmp_path / "club.awl.json")
    assert path.name == "club.table.json"
    roster = Roster((done(INDEX.plan.radios[0].key, "u1"),))
    write_roster(path, roster)
    assert read_roster(path) == roster
    path.write_bytes(b"{broken")
    assert read_roster(path) == Roster()
    assert path.with_name("club.table.json.damaged").read_bytes() == b"{broken"


def held_with_own(key):
    memory = MEMORIES[key]
    contact = Contact(len(memory.contacts) + 1, "MINE", 4299001)
    own = replace(OWN, number=len(memory.channels) + 1, contact=contact.number)
    return replace(memory, channels=(*memory.channels, own), contacts=(*memory.contacts, contact))


def test_somebodys_own_channels_are_found_and_kept_behind_the_plans():
    one, two = [radio.key for radio in INDEX.plan.radios[:2]]
    held = held_with_own(one)
    own = own_channels(held, list(MEMORIES.values()))
    assert [channel.name for channel in own] == ["MY SPOT"]
    assert "somebody's own: MY SPOT" in told("u", held).beware
    radio = INDEX.radios[two]
    made = with_own(MEMORIES[two], own, held, TARN, INDEX.owners.station_of(radio))
    kept = made.channels[-1]
    assert (kept.name, kept.color_code, made.zones[-1].name) == ("MY SPOT", 3, ZONE)
    assert made.contacts[kept.contact - 1].call == 4299001
    assert must_not_send(INDEX, radio, TARN, made) == []
    back = decode(merge(factory_image(TARN), made, TARN), TARN)
    assert [channel.name for channel in back.channels] == [channel.name for channel in made.channels]
    assert own_channels(back, list(MEMORIES.values())) == (back.channels[-1],)


def test_own_channels_only_listen_where_one_may_not_send():
    key = INDEX.plan.radios[0].key
    guarded = PlanIndex(set_guard(True, "q2ans").apply(INDEX.plan), TODAY)
    radio = guarded.radios[key]
    held = held_with_own(key)
    memory = fit(guarded, radio, TARN).memory
    made = with_own(memory, own_channels(held, [memory]), held, TARN, guarded.owners.station_of(radio))
    assert all(channel.receive_only for channel in made.channels)
    beyond = replace(OWN, tx_hz=446_500_000)
    made = with_own(MEMORIES[key], (beyond,), held, TARN, INDEX.owners.station_of(INDEX.radios[key]))
    assert made.channels[-1].receive_only


def test_own_channels_take_only_the_room_there_is():
    key = INDEX.plan.radios[0].key
    station, memory = INDEX.owners.station_of(INDEX.radios[key]), MEMORIES[key]
    own = tuple(replace(OWN, number=at, name=f"OWN {at}", contact=0) for at in range(1, 41))
    held = replace(memory, channels=own)
    made = with_own(memory, own, held, TARN, station)
    assert len(made.channels) - len(memory.channels) == TARN.limits.zone_channels
    assert made.zones[-1].members == tuple(range(len(memory.channels) + 1, len(made.channels) + 1))
    assert [channel.number for channel in made.channels] == list(range(1, len(made.channels) + 1))
    full = replace(TARN, limits=replace(TARN.limits, channels=len(memory.channels)))
    assert with_own(memory, own, held, full, station) is memory
    full = replace(TARN, limits=replace(TARN.limits, zones=len(memory.zones)))
    assert with_own(memory, own, held, full, station) is memory
    assert with_own(memory, (), held, TARN, station) is memory


def test_what_each_differs_in_is_said_without_ids():
    one = INDEX.plan.radios[0].key
    found = {item.field: item for item in differs(MEMORIES["tarn-q2edd"], MEMORIES[one])}
    assert (found["call sign"].mine, found["call sign"].theirs) == ("Q2EDD", "Q2ANS")
    assert found["DMR ID"].mine == "none yet"
    assert int(found["receive-only channels"].mine) > 0
    assert "999" not in repr(found)


def test_labels_tell_the_call_and_zones_and_no_id():
    made = [label_of(memory, key, loaded_words(TARN), "2026-11-26") for key, memory in MEMORIES.items()]
    assert made[0].zones
    assert "9994301" not in repr(made)
    data = labels_pdf(made * 3, "Club")
    assert data.startswith(b"%PDF")


@pytest.mark.parametrize("key", list(shipped_profiles()))
def test_every_radio_says_how_it_is_loaded(key):
    profile = shipped_profiles()[key]
    lines = loaded_how(profile)
    assert lines
    assert any("By card" in line for line in lines) == profile.by_card
    assert any("By cable" in line for line in lines) == profile.by_cable
