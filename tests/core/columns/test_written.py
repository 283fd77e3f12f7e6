"""How a column is written, as a line of text that is read back to the same."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.columns.layout import FileColumn, shipped_layouts
from umbra_awl.core.columns.written import with_written, written


@pytest.mark.parametrize(
    ("column", "text"),
    [
        (FileColumn("RX", "rx", "MHz", 5), "MHz, 5 decimals"),
        (FileColumn("RX", "rx", "kHz", 1), "kHz, 1 decimal"),
        (FileColumn("RX", "rx"), "MHz"),
        (FileColumn("M", "mode", words={"fm": "Analog", "dmr": "Digital"}), "fm=Analog, dmr=Digital"),
        (FileColumn("T", "tone_tx", blank="Off"), "nothing is Off"),
        (FileColumn("N", "name", length=16), "at most 16"),
        (FileColumn("Z", "zone", join="|", blank="-"), "joined by |; nothing is -"),
        (FileColumn("X", fixed="green"), "always green"),
        (FileColumn("X"), ""),
    ],
)
def test_a_column_says_how_it_is_written(column, text):
    assert written(column, "channels") == text


def test_every_shipped_column_reads_back_to_itself():
    for layout in shipped_layouts():
        for sheet in layout.sheet:
            for column in sheet.column:
                again = with_written(column, written(column, sheet.what), sheet.what)
                assert written(again, sheet.what) == written(column, sheet.what), (layout.name, column)


@pytest.mark.parametrize(
    ("column", "text", "words"),
    [
        (FileColumn("RX", "rx"), "furlongs", "Write a unit and decimals"),
        (FileColumn("M", "mode"), "morse=CW", "is not a pair of words"),
        (FileColumn("M", "mode"), "anything", "Write our word and theirs"),
        (FileColumn("N", "name"), "short", "at most 16"),
    ],
)
def test_what_is_not_understood_says_what_may_be_written(column, text, words):
    with pytest.raises(ValueError, match=words):
        with_written(column, text, "channels")


@given(
    st.sampled_from(["rx", "mode", "name", "zone", "tone_tx", ""]), st.text("MHzk; =,nothig s0123456789", max_size=30)
)
def test_any_text_is_a_way_of_writing_or_a_sentence(field, text):
    try:
        made = with_written(FileColumn("X", field), text, "channels")
    except ValueError as error:
        assert len(str(error)) > 10
        return
    assert made.title == "X"
    assert made.field == field
