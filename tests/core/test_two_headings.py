"""Headings of two lines: groups over columns, units under names; read as one, and written back as they were."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.tables.headings import joined_headings
from umbra_awl.core.tables.table import open_table

GROUPS = """Call,Site,Receive,,Transmit,,Place,
,,MHz,Tone,MHz,Tone,Lat,Lon
Q0BLK,Blackfell,145.7125,,145.1125,103.5,46.52,-31.05
Q0HAR,Harrowquay,439.2500,88.5,431.6500,88.5,46.47,-31.12
Q0OSS,Little Oss,145.6375,,145.0375,,46.38,-30.96
"""
UNITS = """Name,RX Frequency,TX Frequency,Power
text,MHz,MHz,W
Blackfell,145.7125,145.1125,5
Harrowquay,439.2500,431.6500,5
"""


def table_of(tmp_path, text):
    path = tmp_path / "list.csv"
    path.write_text(text)
    return open_table(path)


def test_groups_over_columns_are_joined_and_no_line_of_them_is_a_repeater(tmp_path):
    table = table_of(tmp_path, GROUPS)
    assert table.headers == [
        "Call", "Site", "Receive MHz", "Receive Tone", "Transmit MHz", "Transmit Tone", "Lat", "Lon",
    ]  # fmt: skip
    rows = list(table.rows())
    assert [row.cells[0] for row in rows] == ["Q0BLK", "Q0HAR", "Q0OSS"]
    columns = guess(table, "access").columns
    assert columns["rx"] == "Receive MHz"
    assert columns["tx"] == "Transmit MHz"
    assert columns["lat"] == "Lat"


def test_units_under_names_are_no_row(tmp_path):
    table = table_of(tmp_path, UNITS)
    assert table.headers[1] == "RX Frequency MHz"
    assert len(list(table.rows())) == 2


@pytest.mark.parametrize("text", [
    "Call,Note,MHz,Tone\nQ0BLK,x,145.7125,none\nQ0HAR,y,439.2500,88.5\n",
    "Call,,MHz,Tone\nQ0BLK,x,145.7125,none\nQ0HAR,y,439.2500,88.5\n",
    "Name,Kind\nnone,words\nmore,words\n",
])  # fmt: skip
def test_a_first_row_is_not_taken_for_a_heading(tmp_path, text):
    table = table_of(tmp_path, text)
    assert len(list(table.rows())) == 2
    assert table.headers[0] in {"Call", "Name"}


def test_another_programs_file_with_two_lines_is_understood_and_keeps_both():
    numbered = GROUPS.replace("Call,Site,", "Number,Name,")
    for at, call in enumerate(("Q0BLK", "Q0HAR", "Q0OSS"), 1):
        numbered = numbered.replace(call, str(at))
    sample = take_sample("channels.csv", numbered.encode())
    assert sample.lead[-1].startswith("Number,Name,Receive")
    layout = guess_layout([sample], "theirs")
    fields = {column.field for column in layout.sheet[0].column}
    assert {"rx", "tx", "tone_rx", "tone_tx"} <= fields
    assert [column.title for column in layout.sheet[0].column][2:6] == ["MHz", "Tone", "MHz", "Tone"]


CELLS = st.lists(st.text(max_size=6), max_size=6)


@given(CELLS, CELLS, st.lists(CELLS, max_size=4))
def test_whatever_stands_there_no_digit_becomes_a_heading(first, second, body):
    made = joined_headings(first, second, body)
    if made is not None:
        assert len(made) == max(len(first), len(second))
        assert not any(char.isdigit() for cell in second for char in cell)
