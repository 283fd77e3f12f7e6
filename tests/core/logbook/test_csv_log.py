"""The log as CSV: every field out and in again, other hands' tables by their headings, what cannot be taken is told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.logbook.test_adif import ENTRIES
from tests.examples import examples
from umbra_awl.core.logbook.adif import AdifFault, Imported
from umbra_awl.core.logbook.csv_log import csv_text, read_csv
from umbra_awl.core.logbook.joining import join
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.tables.table import open_table


def read(tmp_path, text):
    path = tmp_path / "log.csv"
    path.write_text(text, "utf-8")
    return read_csv(open_table(path))


@given(st.lists(ENTRIES, min_size=1, max_size=4, unique_by=lambda item: item.key))
@examples(40)
def test_every_field_goes_out_and_comes_in_again(tmp_path_factory, made):
    back = read(tmp_path_factory.mktemp("csv"), csv_text(made))
    assert back.faults == ()
    assert csv_text(back.entries) == csv_text(made)


def test_another_hands_table_is_read_by_its_headings_and_what_is_strange_is_kept(tmp_path):
    found = read(
        tmp_path,
        "Date,Time (UTC),Callsign,Op name,Mode,Freq,RST rcvd,Antenna\n"
        "2026-11-26,18:05,Q3AMB,Amber,DMR,431.0125,good,whip\n26.11.2026,18:06,Q9ODL,,FM,,,\n,,Q7QBY,,,,,\n",
    )
    first = found.entries[0]
    assert (first.utc, first.call, first.name, first.mode, first.hz) == (
        "2026-11-26T18:05:00Z", "Q3AMB", "Amber", "dmr", 431_012_500,
    )  # fmt: skip
    assert first.report == "good"
    assert first.more == {"CSV_ANTENNA": "whip"}
    assert found.entries[1].utc == "2026-11-26T18:06:00Z"
    assert [item.number for item in found.faults] == [3]
    assert "no date and time" in found.faults[0].words


def test_one_column_may_hold_day_and_hour(tmp_path):
    found = read(tmp_path, "when,call\n2026-11-26T18:05:09Z,Q3AMB\n2026-11-26 18:05,Q9ODL\n")
    assert [item.utc for item in found.entries] == ["2026-11-26T18:05:09Z", "2026-11-26T18:05:00Z"]


def test_what_comes_confirmed_confirms_what_is_there_and_nothing_is_doubled():
    held = [Entry("a", "2026-11-26T18:05:09Z", call="Q3AMB", mode="dmr", note="mine")]
    come = Entry("z", "2026-11-26T18:05:40Z", call="q3amb", mode="dmr", confirmed="Y")
    found = join(held, Imported((come, come), ()))
    assert found.fresh == ()
    assert [(item.key, item.note, item.confirmed) for item in found.confirmed] == [("a", "mine", "Y")]
    assert "1 confirmed by the other side" in found.words
    assert join(found.confirmed, Imported((come,), ())).moved == ()


@pytest.mark.parametrize(
    ("day", "hour", "utc"),
    [
        ("20.11.2026", "18:05", "2026-11-20T18:05:00Z"), ("19/03/2025", "9:05:30", "2025-03-19T09:05:30Z"),
        ("20261126", "1805Z", "2026-11-26T18:05:00Z"), ("2026/11/26", "6:05 pm", "2026-11-26T18:05:00Z"),
        ("2026-11-26", "12:05 a.m.", "2026-11-26T00:05:00Z"), ("26.11.26", "18h05", "2026-11-26T18:05:00Z"),
        ("2026-11-26", "905 UTC", "2026-11-26T09:05:00Z"), ("2026-11-26", "18:05:09.250", "2026-11-26T18:05:09Z"),
        ("2026-11-26", "25:00", ""), ("2026-11-26", "13:05 pm", ""), ("11/2026", "18:05", ""), ("2026-11-26", "1:5", ""),
    ],
)  # fmt: skip
def test_days_and_hours_of_other_hands(tmp_path, day, hour, utc):
    found = read(tmp_path, f"date,time,call\n{day},{hour},Q3AMB\n")
    assert [item.utc for item in found.entries] == ([utc] if utc else [])
    assert len(found.faults) == (not utc)


def test_an_hour_with_its_distance_from_utc_is_moved_there(tmp_path):
    found = read(tmp_path, "utc,call\n2026-11-27T00:30:00+01:00,Q3AMB\n2026-11-26T18:05:00,Q9ODL\n")
    assert [item.utc for item in found.entries] == ["2026-11-26T23:30:00Z", "2026-11-26T18:05:00Z"]


@pytest.mark.parametrize(
    ("days", "first"),
    [
        (("03/04/2026", "11/26/2026"), "2026-03-04"),
        (("03/04/2026", "26/11/2026"), "2026-04-03"),
        (("03/04/2026",), "2026-04-03"),
    ],
)
def test_the_order_of_day_and_month_is_told_by_the_whole_table(tmp_path, days, first):
    rows = "".join(f"{day},18:05,Q3AMB\n" for day in days)
    assert read(tmp_path, f"date,time,call\n{rows}").entries[0].utc.startswith(first)


def mine(key, at="18:05", **more):
    return Entry(key, f"2026-11-26T{at}:09Z", **{"call": "Q3AMB", "mode": "dmr", **more})


def test_the_other_sides_record_knows_no_route_and_is_the_same_contact():
    held = [mine("a", route="home-dmr>worldwide@2")]
    found = join(held, Imported((mine("z", confirmed="V", mode=""),), ()))
    assert (found.fresh, [item.route for item in found.confirmed]) == ((), ["home-dmr>worldwide@2"])
    other = join(held, Imported((mine("z", mode="dstar"), mine("y", route="home-dmr>echo@2")), ()))
    assert [item.key for item in other.fresh] == ["z", "y"]
    silent = join([mine("a", call="", route="r")], Imported((mine("z", call=""), mine("y", call="", route="r")), ()))
    assert [item.key for item in silent.fresh] == ["z"]


@pytest.mark.parametrize(("at", "confirmed"), [("18:05", 1), ("18:20", 1), ("17:50", 1), ("18:21", 0), ("17:49", 0)])
def test_a_confirmation_by_another_clock_confirms_the_one_it_can_mean(at, confirmed):
    come = mine("z", at, confirmed="Y")
    found = join([mine("a")], Imported((come,), ()))
    assert (len(found.confirmed), len(found.fresh)) == (confirmed, 1 - confirmed)
    several = join([mine("a"), mine("b", "18:09")], Imported((mine("z", "18:07", confirmed="Y"),), ()))
    assert (several.confirmed, [item.key for item in several.fresh]) == ((), ["z"])


def test_what_fits_to_the_minute_comes_before_what_is_near():
    come = (mine("y", "18:10", confirmed="Y"), mine("z", confirmed="Y"))
    found = join([mine("a")], Imported(come, ()))
    assert [item.key for item in found.fresh] == ["y"]
    assert [item.key for item in found.confirmed] == ["a"]
    told = join([], Imported(come, tuple(AdifFault(at, "no date") for at in range(1, 7))))
    assert told.words == (
        "2 new entries, 6 with something wrong (record 1: no date; record 2: no date; record 3: no date; record 4: no date, "
        "and 2 more)."
    )
    assert join([], Imported((), ())).words == "There is no record in the file."
