"""A list line by line before it is taken: nearest first, what speaks against each, what is ticked at first, one network asked."""

import sqlite3
from contextlib import closing
from datetime import date

import pytest
from msgspec.structs import replace

from umbra_awl.core.directory.errors import StoreFailedError
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.judged import chosen_entries, judging, on_network, without_network
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.sanity import KnownGround
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.taking import take_entries
from umbra_awl.core.facts.bands import BANDS
from umbra_awl.core.plan.model import Plan, Station
from umbra_awl.core.tables.table import open_table

LIST = """Call;Site;MHz;Shift;Mode;Opens with;Lat;Lon;Confirmed
Q0FAR;Ostrand;439,1000;-7,6;DMR;CC1;48,10;-29,90;2026-11-01
Q0NEW;Torside;438,8250;-7,6;DMR;CC4;46,44;-31,20;2026-10-01
Q0NEW;Torside;439,2000;-7,6;FM;88,5;46,44;-31,20;2026-10-01
Q0QUA;Quayside;439,0500;-7,6;FM;94,8;46,47;-31,12;2026-10-01
Q0NES;Cairnlow;438,7875;+7,6;DMR;CC2;46,61;-30,95;2026-10-01
Q0OLX;Old Quay;145,6500;-0,6;FM;88,5;46,46;-31,15;2019-10-01
Q0NOP;Nowhere;439,3000;-7,6;FM;88,5;;;2026-10-01
"""
NAMES = ("Q0QUA", "Q0OLX", "Q0NEW", "Q0NEW", "Q0NES", "Q0FAR", "Q0NOP")


@pytest.fixture
def store(tmp_path):
    with closing(Store(tmp_path / "store.db")) as made:
        yield made


def looked_at(tmp_path, store, plan, text=LIST):
    path = tmp_path / "club.csv"
    path.write_text(text, "utf-8")
    table = open_table(path)
    ground = KnownGround(BANDS[1], None, date(2026, 12, 1), {})
    return judging(store, read_incoming(store, table, replace(guess(table), source="club")), plan, ground)


@pytest.fixture
def plan():
    return Plan(station=Station(lat=46.47, lon=-31.11))


def calls(found):
    return tuple(line.change.label.split()[0] for line in found.lines)


def test_the_nearest_comes_first_and_what_has_no_position_last(tmp_path, store, plan):
    found = looked_at(tmp_path, store, plan)
    assert calls(found) == NAMES
    assert [line.km is None for line in found.lines] == [False] * 6 + [True]
    assert found.lines[0].km < 2
    assert found.lines[5].km > 180


def test_ticked_at_first_is_what_is_near_and_nothing_speaks_against(tmp_path, store, plan):
    found = looked_at(tmp_path, store, plan)
    assert {key.split("/")[1] for key, _at in found.ticked_at_first()} == {"Q0QUA", "Q0NEW"}
    assert looked_at(tmp_path, store, Plan()).ticked_at_first() == frozenset()


def test_each_service_is_judged_for_itself_and_a_repair_makes_it_sane(tmp_path, store, plan):
    found = looked_at(tmp_path, store, plan)
    line = next(item for item in found.lines if item.change.label.startswith("Q0NES"))
    doubt = found.judged(line, {}).doubts[0]
    assert (doubt.rule, doubt.grade) == ("out-of-band", "wrong")
    mended = found.judged(line, {line.change.key: dict(doubt.mend.edits)})
    assert (mended.service.tx_hz, mended.doubts) == (431_187_500, ())
    torside = [found.judged(item, {}) for item in found.lines if item.change.label.startswith("Q0NEW")]
    assert [item.service.mode for item in torside] == ["dmr", "fm"]
    assert [item.untold for item in torside] == ["", ""]
    open_one = looked_at(tmp_path, store, plan, LIST.replace("94,8", ""))
    assert open_one.judged(open_one.lines[0], {}).untold == "no tone told: open?"


def test_only_ticked_services_go_into_the_plan_on_the_network_that_was_chosen(tmp_path, store, plan):
    found = looked_at(tmp_path, store, plan)
    ticked = frozenset(line.mark for line in found.lines if line.change.label.startswith("Q0NEW") and line.at == 0)
    take(store, found.incoming, "2026-12-01T10:00:00")
    entries = chosen_entries(store.all_entries(), ticked)
    assert without_network(entries[0].access.services) == {"dmr"}
    edit, _haul, _keys = take_entries(plan, [on_network(item, {"dmr": "Lattice"}) for item in entries])
    after = edit.apply(plan)
    assert [(item.call, [held.mode for held in item.services]) for item in after.access] == [("Q0NEW", ["dmr"])]
    assert [item.name for item in after.networks] == ["Lattice"]


def test_a_list_looked_at_again_says_what_is_in_the_plan_and_what_stayed(tmp_path, store, plan):
    first = looked_at(tmp_path, store, plan)
    take(store, first.incoming, "2026-12-01T10:00:00")
    edit, _haul, _keys = take_entries(plan, [item for item in store.all_entries() if item.access.call == "Q0QUA"])
    after = edit.apply(plan)
    newer = LIST.replace("94,8", "103,5").replace("Q0FAR;Ostrand", "Q0FAX;Ostrand")
    again = looked_at(tmp_path, store, after, newer)
    kinds = [(line.change.label.split()[0], line.change.kind) for line in again.lines]
    assert kinds[:3] == [("Q0QUA", "changed"), ("Q0FAR", "vanished"), ("Q0FAX", "added")]
    assert {kind for _call, kind in kinds[3:]} == {"same"}
    assert again.lines[0].change.key in again.incoming.used
    assert not any(key.split("/")[1] == "Q0QUA" for key, _at in again.ticked_at_first())


def key_of(found, call):
    return next(line.change.key for line in found.lines if line.change.label.startswith(call))


def test_what_is_shown_is_what_would_stand_own_edits_with_it(tmp_path, store, plan):
    first = looked_at(tmp_path, store, plan)
    take(store, first.incoming, "2026-12-01T10:00:00")
    key = key_of(first, "Q0NES")
    store.set_edit(key, "dmr-438/tx_hz", 431_187_500, "2026-12-01")
    again = looked_at(tmp_path, store, plan, LIST.replace("CC2", "CC3"))
    line = next(item for item in again.lines if item.change.key == key)
    assert again.judged(line, {}).service.tx_hz == 431_187_500
    assert again.judged(line, {}).doubts == ()
    assert line.mark in again.ticked_at_first()
    assert again.judged(line, {}, {key}).service.tx_hz == 446_387_500, "given up, the list's own value stands"


def test_a_list_and_its_repairs_are_taken_whole_or_not_at_all(tmp_path, store, plan, monkeypatch):
    found = looked_at(tmp_path, store, plan)
    mends = {key_of(found, "Q0NES"): {"dmr-438/tx_hz": 431_187_500}}

    def fails(*_words):
        raise sqlite3.OperationalError("disk is full")

    monkeypatch.setattr(store, "put_edit", fails)
    with pytest.raises(StoreFailedError):
        take(store, found.incoming, "2026-12-01T10:00:00", mends=mends)
    assert list(store.all_entries()) == []
    assert store.batches() == []
    monkeypatch.undo()
    take(store, found.incoming, "2026-12-01T10:00:00", mends=mends)
    entry = next(item for item in store.all_entries() if item.access.call == "Q0NES")
    assert entry.access.services[0].tx_hz == 431_187_500
