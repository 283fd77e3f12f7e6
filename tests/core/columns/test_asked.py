"""What a sample does not say is asked, and never replaced by what comes second."""

import pytest

from umbra_awl.core.columns.csv_guess import guess_layout, guess_sheet
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.layout import (
    ColumnLayout,
    FileColumn,
    Sheet,
    faults,
    going_blank,
    parse_layout,
    save_layout,
)
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.columns.written import with_written


def sheet_of(text, name="channels.csv"):
    return guess_sheet(take_sample(name, text.encode()))


def column(sheet, title):
    return next(item for item in sheet.column if item.title == title)


CONTACTS = "Name,Number,Call type\nIsles,99900,Gruppenruf\nOdile,9990077,Einzelruf\nVel,99901,Gruppenruf\n"


def test_words_that_nobody_knows_are_asked_and_the_column_is_nothing_else():
    sheet = sheet_of(CONTACTS, "contacts.csv")
    kind = column(sheet, "Call type")
    assert kind.field == "kind"
    assert "“Gruppenruf”, “Einzelruf”" in kind.asked
    layout = ColumnLayout("Mine", (sheet,))
    assert any("Call type" in text for text in faults(layout))


def test_an_answer_ends_the_question(tmp_path):
    sheet = sheet_of(CONTACTS, "contacts.csv")
    told = with_written(column(sheet, "Call type"), "group=Gruppenruf, private=Einzelruf", "contacts")
    assert told.asked == ""
    columns = tuple(told if item.title == "Call type" else item for item in sheet.column)
    layout = ColumnLayout("Mine", (Sheet("contacts", "contacts.csv", columns),))
    assert not faults(layout)
    rows = read_files({"contacts.csv": CONTACTS.encode()}, layout).tables["contacts"]
    assert [row["kind"] for row in rows] == ["group", "private", "group"]
    with pytest.raises(ColumnsError):
        save_layout(ColumnLayout("Asked", (sheet,)), tmp_path)


def test_a_private_call_never_becomes_a_group_call_by_a_word_that_is_not_known():
    columns = (
        FileColumn("Name", "name"),
        FileColumn("Number", "call"),
        FileColumn("Call type", "kind", words={"group": "Gruppenruf"}),
    )
    layout = ColumnLayout("Mine", (Sheet("contacts", "contacts.csv", columns),))
    found = read_files({"contacts.csv": CONTACTS.encode()}, layout)
    assert [row["name"] for row in found.tables["contacts"]] == ["Isles", "Vel"]
    assert any("left out" in fault.text for fault in found.faults)


@pytest.mark.parametrize(
    ("heads", "asked"),
    [
        ("Tone out,Tone in", True),
        ("Tone 1,Tone 2", True),
        ("Tone A,Tone B", True),
        ("TX tone,RX tone", False),
        ("CTCSS encode,CTCSS decode", False),
    ],
)
def test_two_tones_of_which_none_says_which_is_sent_are_asked(heads, asked):
    sheet = sheet_of(f"Name,RX,TX,{heads}\nA,439.1,431.5,88.5,103.5\nB,439.2,431.6,77.0,88.5\n")
    tones = [item for item in sheet.column if "one" in item.title or "CTCSS" in item.title]
    if asked:
        assert all(item.asked for item in tones if item.field)
        assert {item.field for item in tones} <= {"", "tone_tx", "tone_rx"}
        assert not any(item.field and not item.asked for item in tones)
    else:
        assert [item.field for item in tones] == ["tone_tx", "tone_rx"]
        assert not any(item.asked for item in tones)


def test_power_in_words_of_others_is_asked_and_never_silently_low():
    sheet = sheet_of("Name,RX,TX,Power\nA,439.1,431.5,schwächlich\nB,439.2,431.6,mächtig\n")
    power = column(sheet, "Power")
    assert power.field == "power"
    assert "“schwächlich”, “mächtig”" in power.asked
    known = column(sheet_of("Name,RX,TX,Power\nA,439.1,431.5,Low\nB,439.2,431.6,High\n"), "Power")
    assert (known.asked, known.words) == ("", {"0": "Low", "1": "High"})
    assert not column(sheet_of("Name,RX,TX,Power\nA,439.1,431.5,0\nB,439.2,431.6,1\n"), "Power").asked


def test_columns_that_go_out_blank_are_named():
    sheet = sheet_of("Name,RX,TX,Zzyx,Colour\nA,439.1,431.5,qx,red\nB,439.2,431.6,qy,red\n")
    assert going_blank(ColumnLayout("x", (sheet,))) == ("Zzyx (channels.csv)",)


def test_a_layout_with_a_question_in_it_cannot_be_used():
    from umbra_awl.core.columns.layout import layout_text

    text = layout_text(guess_layout([take_sample("contacts.csv", CONTACTS.encode())], "Mine"))
    with pytest.raises(ColumnsError, match="Gruppenruf"):
        parse_layout(text)
