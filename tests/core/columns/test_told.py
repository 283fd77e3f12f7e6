"""What was wrong in files is said once a column, not once a row."""

from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.columns.as_found import as_found
from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.csv_in import RowFault, read_files
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.columns.told import told_once

HEAD = "Number,Name,RX Frequency,TX Frequency,Power,Color Code,Time Slot,Contact"


def rows_of(count):
    words = (("Turbo", "A"), ("Eco", "B"))
    lines = [
        f"{at},Chan {at},438.{6000 + 25 * at:04d},431.{25 * at:04d},{words[at % 2][0]},6,{words[at % 2][1]},Local"
        for at in range(1, count + 1)
    ]
    return "\n".join([HEAD, *lines, ""]).encode()


def told(data):
    sample = take_sample("c.csv", data)
    sheets = read_files({"c.csv": data}, as_found(guess_layout([sample], "x"), [sample]))
    maker = MemoryMaker(sheets)
    maker.make()
    return told_once((*sheets.faults, *maker.faults))


def test_sixty_rows_of_a_foreign_word_and_a_missing_contact_are_two_sentences():
    said = told(rows_of(60))
    eco = [text for text in said if "Eco" in text]
    assert len(eco) == 1
    assert eco[0].startswith("c.csv, lines 2, 4, 6 and 27 more: ")
    local = [text for text in said if "Local" in text]
    assert local == ["“Chan 1”, “Chan 2”, “Chan 3” and 57 more: calls “Local”, which is in no list of contacts."]
    assert len(said) <= 4


def test_one_row_is_told_as_one():
    one, other = RowFault("c.csv", 7, "no"), RowFault("channels", 0, "“A”: it only listens.")
    assert told_once([one, other, RowFault("channels", 0, "Two channels tell no width.")]) == [
        "c.csv, line 7: no", "“A”: it only listens.", "Two channels tell no width.",
    ]  # fmt: skip


def test_two_columns_of_one_heading_stay_two():
    data = b"Number,Name,Receive,,Transmit,\n,,MHz,Tone,MHz,Tone\n" + b"".join(
        b"%d,C%d,145.%04d,88.5,145.%04d,103.5\n" % (at, at, 6000 + 125 * at, 125 * at) for at in range(1, 5)
    )
    sample = take_sample("c.csv", data)
    found = as_found(guess_layout([sample], "x"), [sample])
    fields = [column.field for column in found.sheet[0].column]
    assert fields[2:] == ["rx", "tone_rx", "tx", "tone_tx"]


FAULTS = st.builds(
    RowFault, st.sampled_from("ab"), st.integers(0, 3), st.sampled_from(["x", "“n”: y", "“m”: y", "“m” calls z"])
)


@given(st.lists(FAULTS, max_size=12))
def test_nothing_is_lost_and_nothing_is_said_twice(faults):
    said = told_once(faults)
    assert len(said) == len(set(said)) <= len(set(faults))
    for item in faults:
        tail = item.text.rpartition("” ")[2]
        assert any(text.endswith(tail) for text in said)
