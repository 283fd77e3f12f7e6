"""The list of access points around: the nearest that the radio can use, a file of its own, proven by the radio's own list."""

import csv
import io
from datetime import date

import pytest

from tests.core.card.bench import PROFILES, Bench
from tests.days import TODAY
from umbra_awl.core.directory.store import Store
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.plan.edit.edit_station import set_guard
from umbra_awl.core.transfer.around.carry import around_found, send_around
from umbra_awl.core.transfer.around.rows import around_csv, around_list, sources_in
from umbra_awl.core.transfer.errors import NoCardError, RadioFullError
from umbra_awl.demo.fresh import demo_plan, lay_out_directory

HOME = Position(46.5, -31.0)
FELL = PROFILES["fell-d2"]
STATION = demo_plan(TODAY).station
TODAY = date(2026, 11, 26)


@pytest.fixture
def store(tmp_path):
    made = Store(lay_out_directory(tmp_path, TODAY))
    yield made
    made.close()


@pytest.fixture
def bench(tmp_path):
    made = Bench(tmp_path / "bench")
    made.out()
    return made


def test_the_nearest_of_its_modes_come_first(store):
    found = around_list(store, HOME, FELL, STATION)
    assert found.room == 1200
    assert {line[5] for line in found.lines} <= {"fm", "dstar"}
    assert any(line[2].endswith("G") and len(line[2]) == 8 for line in found.lines if line[5] == "dstar")
    only = around_list(store, HOME, FELL, STATION, fm=False)
    assert {line[5] for line in only.lines} == {"dstar"}
    assert all(len(line[0]) <= FELL.display.length for line in found.lines)


def test_what_one_may_not_send_on_stays_out(store):
    found = around_list(store, HOME, FELL, STATION)
    assert found.held, "the directory lists an input outside the band"
    assert all(430 <= float(line[4]) <= 440 or 144 <= float(line[4]) <= 146 for line in found.lines)
    guarded = around_list(store, HOME, FELL, set_guard(True).apply(demo_plan(TODAY)).station)
    assert guarded.lines == ()
    assert guarded.held


def test_the_body_is_a_table_that_anybody_can_read(store):
    made = around_list(store, HOME, FELL, STATION)
    rows = list(csv.DictReader(io.StringIO(around_csv(made).decode())))
    assert len(rows) == len(made.lines)
    assert [row["Call sign"] for row in rows] == [line[1] for line in made.lines]
    first = rows[0]
    assert (float(first["Receive MHz"]), first["Latitude"][:2]) == (float(made.lines[0][3]), "46")
    assert 700 < made.far_km < 800


def test_it_is_filled_from_the_directories_that_are_chosen(store):
    assert [name for name, _count in sources_in(store)] == ["velmar-directory"]
    whole = around_list(store, HOME, FELL, STATION)
    assert around_list(store, HOME, FELL, STATION, sources=frozenset({"velmar-directory"})).lines == whole.lines
    assert around_list(store, HOME, FELL, STATION, sources=frozenset({"elsewhere"})).lines == ()


def test_no_more_than_it_has_room_for(store):
    from msgspec.structs import replace

    small = replace(FELL, card=replace(FELL.card, around=replace(FELL.card.around, records=2)))
    found = around_list(store, HOME, small, STATION)
    assert len(found.lines) == 2
    assert [line[:2] for line in found.lines] == [
        line[:2] for line in around_list(store, HOME, FELL, STATION).lines[:2]
    ]


def test_there_and_back_apart_from_the_memories(store, bench):
    body = around_csv(around_list(store, HOME, FELL, STATION))
    before = bench.image
    send_around(bench.root, FELL, bench.looker, body, TODAY)
    found = around_found(bench.looker.look(bench.root, FELL), body)
    assert (found.sent, found.day, found.taken) == (True, "2026-11-26", False)
    bench.back()
    bench.radio.around.list_in()
    for _time in range(FELL.card.yes):
        bench.radio.answer(yes=True)
    assert bench.radio.lines[0] == "COPIED"
    bench.radio.around.list_out()
    bench.radio.power()
    bench.radio.push_out()
    found = around_found(bench.looker.look(bench.root, FELL), body)
    assert (found.taken, found.own_rows) == (True, body.count(b"\n") - 1)
    assert bench.image == before


def test_a_list_too_long_and_a_card_that_is_away_are_refused(bench):
    long = b"head\n" + b"line\n" * 1201
    with pytest.raises(RadioFullError, match="holds 1200"):
        send_around(bench.root, FELL, bench.looker, long, TODAY)
    bench.back()
    with pytest.raises(NoCardError):
        send_around(bench.root, FELL, bench.looker, b"head\n", TODAY)
    with pytest.raises(NoCardError, match="keeps no list"):
        send_around(bench.root, PROFILES["crag-f3"], bench.looker, b"head\n", TODAY)
