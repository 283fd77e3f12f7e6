"""Written through any layout, a channel that must not transmit reads back as one that does not, or is left out and told."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet, faults, parse_layout
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Licence
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PLAN = demo_plan(TODAY)
TARN = shipped_profiles()["tarn16"]
LICENSED = fit(PlanIndex(PLAN, TODAY), PLAN.radios[0], TARN).memory
HELD = fit(
    PlanIndex(replace(PLAN, station=replace(PLAN.station, licence=Licence())), TODAY), PLAN.radios[0], TARN
).memory
BASE = (
    FileColumn("Name", "name"), FileColumn("Mode", "mode"),
    FileColumn("RX", "rx", unit="MHz"), FileColumn("TX", "tx", unit="MHz"),
)  # fmt: skip
GOOD = FileColumn("RX only", "receive_only", words={"off": "no", "on": "yes"})


def layout(*columns):
    return ColumnLayout("Club", (Sheet("channels", "c.csv", (*BASE, *columns)),))


def back(memory, with_layout):
    written = write_files(memory, with_layout)
    return written, MemoryMaker(read_files(written.files, with_layout), memory.profile).make()


def no_wider(memory, after):
    before = {item.name: item for item in memory.channels}
    return [
        item.name
        for item in after.channels
        if not item.receive_only
        and (
            before[item.name].receive_only
            or before[item.name].tx_hz != item.tx_hz
            or before[item.name].power < item.power
        )
    ]


def test_a_layout_that_says_it_keeps_every_channel():
    written, made = back(HELD, layout(GOOD))
    assert len(made.channels) == len(HELD.channels)
    assert all(item.receive_only for item in made.channels)
    assert written.notes == ()


@pytest.mark.parametrize(
    "columns",
    [
        (),
        (FileColumn("RO", "receive_only", words={"on": ""}, blank="no"),),
        (FileColumn("RO", "receive_only", words={"off": "o", "on": "on"}, length=1),),
        (FileColumn("RO", "receive_only", words={"off": "no", "on": " "}),),
    ],
)
def test_where_it_is_not_said_the_rows_are_left_out_and_told(columns):
    written, made = back(HELD, layout(*columns))
    assert made.channels == ()
    assert "left out" in " ".join(written.notes)
    assert str(len(HELD.channels) - 1) in " ".join(written.notes)


@pytest.mark.parametrize(
    ("column", "words"),
    [
        (FileColumn("RO", "receive_only", words={"off": "yes", "on": "no"}), "the opposite"),
        (FileColumn("RX only", "receive_only", words={"on": "off"}), "the opposite"),
        (FileColumn("TX allowed", "receive_only", words={"off": "no", "on": "yes"}), "the opposite"),
        (FileColumn("RO", "receive_only", fixed="no"), "one of both"),
        (FileColumn("RO", "receive_only", at=3), "no list"),
        (FileColumn("P", "power", words={"0": "high", "1": "low"}), "calls the lowest power high"),
        (FileColumn("Shifted", "offset", words={"-7600000": "0"}), "is a frequency"),
    ],
)
def test_a_column_that_says_the_opposite_is_no_column(column, words):
    found = faults(layout(column, *(() if column.field == "receive_only" else (GOOD,))))
    assert words in " ".join(found)


def test_the_opposite_is_right_where_the_heading_is_about_sending():
    assert faults(layout(FileColumn("TX allowed", "receive_only", words={"off": "yes", "on": "no"}))) == []


def test_such_a_file_is_refused_as_a_layout():
    with pytest.raises(ColumnsError, match="opposite"):
        parse_layout(
            'format = "umbra-awl columns"\nversion = 1\nname = "Club"\n[[sheet]]\nwhat = "channels"\nfile = "c.csv"\n'
            'column = [{ title = "N", field = "name" }, { title = "R", field = "rx" }, '
            '{ title = "RO", field = "receive_only", words = { off = "yes", on = "no" } }]\n'
        )


texts = st.sampled_from(["", "no", "yes", "off", "on", "0", "1", "x", " ", "maybe", "=1"])
columns_of_any_kind = st.builds(
    FileColumn,
    st.sampled_from(["RO", "TX allowed", "Flag"]),
    st.just("receive_only"),
    words=st.dictionaries(st.sampled_from(["on", "off"]), texts),
    blank=texts,
    length=st.integers(0, 3),
)
powers = st.builds(
    FileColumn,
    st.just("Power"),
    st.just("power"),
    words=st.dictionaries(st.sampled_from(["0", "1", "2"]), st.sampled_from(["low", "high", "mid", "", "1 W"])),
    blank=st.sampled_from(["", "high"]),
)


@given(columns_of_any_kind, powers, st.sampled_from([-1, 0, 3, 6]))
def test_through_any_layout_nothing_sends_that_did_not(column, power, places):
    made = ColumnLayout(
        "Any",
        (Sheet("channels", "c.csv", (*BASE[:3], FileColumn("TX", "tx", unit="MHz", places=places), column, power)),),
    )
    if faults(made):
        return
    for memory in (HELD, LICENSED):
        assert no_wider(memory, back(memory, made)[1]) == []
