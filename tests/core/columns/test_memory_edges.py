"""A memory out of plain rows at its edges: numbers, modes, contacts, lists; and files with a row or a column too many."""

import pytest

from umbra_awl.core.columns.csv_guess import guess_sheet
from umbra_awl.core.columns.csv_in import MOST_ROWS, Sheets, read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.foreign import asked_of, with_foreign
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.columns.written import with_written
from umbra_awl.core.radio.memory import Memory


def memory_of(**tables):
    maker = MemoryMaker(Sheets({name.replace("_", " "): rows for name, rows in tables.items()}, (), ()))
    return maker.make(), [fault.text for fault in maker.faults]


def channel(name, rx=145_700_000, **fields):
    return {"name": name, "rx": str(rx), "tx": str(rx - 600_000), **fields}


def test_numbers_begin_with_one_where_none_is_told():
    memory, _told = memory_of(channels=[channel("A"), channel("B", number="0"), channel("C")])
    assert [item.number for item in memory.channels] == [1, 2, 3]
    assert [item.power for item in memory.channels] == [0, 0, 0]


def test_a_mode_of_dstar_or_fusion_has_its_own_fields_and_no_other():
    memory, _told = memory_of(
        channels=[
            channel("D", mode="dstar", ur="CQCQCQ", rpt1="Q0BLK  B", zero_offset="on"),
            channel("Y", mode="fusion", way="auto", dgid_tx="12"),
            channel("Z", mode="fusion"),
            channel("E", mode="dstar"),
        ]
    )
    first, second, third, fourth = memory.channels
    assert (first.ur, first.rpt1, first.rpt2, first.zero_offset) == ("CQCQCQ  ", "Q0BLK  B", " " * 8, True)
    assert fourth.zero_offset is False
    assert (second.way, second.dgid_tx, second.dgid_rx) == ("auto", 12, 0)
    assert (third.dgid_tx, third.dgid_rx) == (0, 0)


def test_a_dmr_row_without_a_slot_or_a_color_code_tells_so_once():
    memory, told = memory_of(
        channels=[channel("A", mode="dmr"), channel("B", mode="dmr"), channel("C", mode="dmr", color_code="0")]
    )
    assert [(item.color_code, item.slot) for item in memory.channels] == [(1, 0), (1, 0), (0, 0)]
    assert [item.promiscuous or item.encrypted for item in memory.channels] == [False] * 3
    assert told == ["2 channels tell no color code; 1 is taken."]


def test_a_contact_is_one_for_each_number_and_kind_and_called_by_any_of_its_names():
    memory, told = memory_of(
        contacts=[
            {"name": "Wide", "call": "4299", "kind": "group"},
            {"name": "World", "call": "4299", "kind": "group"},
            {"name": "Wren", "call": "9990001", "kind": "private"},
            {"name": "", "call": "99901"},
        ],
        channels=[
            channel("A", mode="dmr", color_code="1", contact="World"),
            channel("B", mode="dmr", color_code="1", contact_number="9990001", contact="Someone", call_kind="private"),
            channel("C", mode="dmr", color_code="1", contact_number="9990001"),
            channel("D", mode="dmr", color_code="1", contact="Someone"),
            channel("E", mode="dmr", color_code="1"),
        ],
    )
    assert [(item.number, item.name, item.call, item.kind) for item in memory.contacts] == [
        (1, "Wide", 4299, "group"), (2, "Wren", 9_990_001, "private"), (3, "99901", 99_901, "group"),
        (4, "9990001", 9_990_001, "group"),
    ]  # fmt: skip
    assert [item.contact for item in memory.channels] == [1, 2, 4, 2, 0]
    assert told == []


def test_lists_know_their_members_priority_and_hang_and_say_what_is_missing():
    memory, told = memory_of(
        contacts=[{"name": "Local", "call": "9"}],
        channels=[
            channel("A", mode="dmr", color_code="1", group_list="All"),
            channel("B", mode="dmr", color_code="1", group_list="None such"),
            channel("C", mode="dmr", color_code="1"),
        ],
        group_lists=[{"name": "All", "members": "Local"}, {"name": "Bare"}],
        scan_lists=[{"name": "S", "members": "A\x1fB", "priority": "B", "hang": "2500"}, {"name": "T", "members": "A"}],
        zones=[{"name": "Z", "members": "C\x1fA"}],
    )
    assert [(item.number, item.name, item.members) for item in memory.group_lists] == [
        (1, "All", (1,)),
        (2, "Bare", ()),
    ]
    assert [item.group_list for item in memory.channels] == [1, 0, 0]
    assert [(item.members, item.priority, item.hang_ms) for item in memory.scans] == [((1, 2), 2, 2500), ((1,), 0, 0)]
    assert [(item.members, item.priority) for item in memory.zones] == [((3, 1), 0)]
    assert told == ["“B”: opens for “None such”, which is in no list of groups given."]


def test_zones_that_only_the_channels_name_stand_in_the_order_of_their_first_channel():
    memory, _told = memory_of(channels=[channel("A", zone="Two\x1fOne"), channel("B", zone="One"), channel("C")])
    assert [(item.number, item.name, item.members) for item in memory.zones] == [(1, "Two", (1,)), (2, "One", (1, 2))]
    assert memory.scans == ()


def test_tables_beside_the_channels_are_numbered_from_one():
    memory, _told = memory_of(
        call_signs=[{"name": "Ost", "ur": "Q5OST   "}, {"ur": "CQCQCQ  "}],
        rooms=[{"name": "Commons", "room": "21080"}],
        access_list=[
            {"rpt1": "Q0BLK  B", "rx": "439500000"},
            {"rpt1": "Q0SIG  C", "rx": "145700000", "tx": "145100000"},
        ],
    )
    assert [(item.number, item.name, item.ur) for item in memory.call_signs] == [
        (1, "Ost", "Q5OST   "),
        (2, "", "CQCQCQ  "),
    ]
    assert [(item.number, item.name, item.room) for item in memory.rooms] == [(1, "Commons", 21_080)]
    assert [(item.rx_hz, item.tx_hz) for item in memory.access_list] == [
        (439_500_000, 439_500_000),
        (145_700_000, 145_100_000),
    ]


# files


CHANNELS = Sheet("channels", "c.csv", (FileColumn("Name", "name"), FileColumn("RX", "rx"), FileColumn("TX", "tx")))
LAYOUT = ColumnLayout("Own", (CHANNELS,), newline="lf")


def test_a_file_may_have_so_many_rows_and_not_one_more(monkeypatch):
    assert MOST_ROWS == 400_000
    monkeypatch.setattr("umbra_awl.core.columns.csv_in.MOST_ROWS", 3)
    row = b"A,145.7,145.1\n"
    assert len(read_files({"c.csv": b"Name,RX,TX\n" + row * 3}, LAYOUT).tables["channels"]) == 3
    with pytest.raises(ColumnsError, match="has more than 3 rows"):
        read_files({"c.csv": b"Name,RX,TX\n" + row * 4}, LAYOUT)


def test_bytes_of_another_encoding_are_told_by_their_place():
    with pytest.raises(ColumnsError, match=r"c\.csv is not utf-8 at byte 11"):
        read_files({"c.csv": b"Name,RX,TX\n\xff,145.7,145.1\n"}, LAYOUT)


def test_an_input_that_is_not_understood_leaves_the_channel_to_listen_and_a_note_does_not():
    column = (*CHANNELS.column, FileColumn("Slot", "slot"))
    layout = ColumnLayout("Own", (Sheet("channels", "c.csv", column),))
    files = {"c.csv": b"Name,RX,TX,Slot\nA,145.7,there,1\nB,145.7,145.1,two\n"}
    maker = MemoryMaker(read_files(files, layout))
    first, second = maker.make().channels
    assert first.receive_only
    assert not second.receive_only
    assert second.tx_hz == 145_100_000


def test_two_columns_of_one_name_are_each_their_own_and_a_missing_second_is_the_last():
    sheet = Sheet(
        "zones", "z.csv",
        (FileColumn("Zone", "name"), FileColumn("Channel", "member", at=1), FileColumn("Channel", "member", at=2)),
    )  # fmt: skip
    layout = ColumnLayout("Own", (sheet,))
    both = read_files({"z.csv": b"Zone,Channel,Channel\nHome,A,B\n"}, layout)
    assert [row["members"].split("\x1f") for row in both.tables["zones"]] == [["A", "B"]]
    assert both.unknown == ()


def test_lists_given_a_row_for_each_member_are_gathered():
    layout = ColumnLayout(
        "Own", (Sheet("zones", "z.csv", (FileColumn("Zone", "name"), FileColumn("Channel", "member"))),)
    )
    found = read_files({"z.csv": b"Zone,Channel\nHome,A\nAway,C\nHome,B\n"}, layout).tables["zones"]
    assert [(row["name"], row["members"].split("\x1f")) for row in found] == [("Home", ["A", "B"]), ("Away", ["C"])]


def test_a_file_without_headings_is_read_by_the_places_of_its_columns():
    layout = ColumnLayout("Own", (Sheet("channels", "c.csv", CHANNELS.column, headings=False),), newline="lf")
    found = read_files({"c.csv": b"A,145.7,145.1\nB,145.6,145.0\n"}, layout)
    assert [row["name"] for row in found.tables["channels"]] == ["A", "B"]
    memory = MemoryMaker(found).make()
    assert write_files(memory, layout).files["c.csv"].splitlines()[0].startswith(b"A,")


def test_only_files_that_are_written_and_that_are_there_are_kept_to(tmp_path):
    other = Sheet("contacts", "k.csv", (FileColumn("Name", "name"), FileColumn("ID", "call")))
    layout = ColumnLayout("Own", (CHANNELS, other), newline="lf")
    (tmp_path / "k.csv").write_bytes(b"Name,ID,Note\nLocal,9,mine\n")
    files = {"c.csv": b"Name,RX,TX\nA,145.7,145.1\n"}
    assert with_foreign(tmp_path, layout, files, {}) == files
    assert asked_of(tmp_path, layout, files) == ()
    (tmp_path / "c.csv").write_bytes(b"Name,RX,TX,Vox\nA,145.7,145.1,on\nB,145.6,145.0,off\n")
    assert with_foreign(tmp_path, layout, files, {})["c.csv"] == b"Name,RX,TX,Vox\nA,145.7,145.1,on\n"
    assert asked_of(tmp_path, layout, files) == ()
    more = {"c.csv": b"Name,RX,TX\nA,145.7,145.1\nC,145.65,145.05\n"}
    (ask,) = asked_of(tmp_path, layout, more)
    assert (ask.title, ask.rows, set(ask.values)) == ("Vox", 1, {"on", "off"})


def test_a_limit_of_one_decimal_is_written_as_one_and_a_sign_of_equality_makes_no_frequency():
    with pytest.raises(ValueError, match="is not understood"):
        with_written(FileColumn("F", "rx"), "a=b", "channels")
    assert with_written(FileColumn("F", "rx"), "kHz, 1 decimal", "channels").places == 1
    assert isinstance(memory_of()[0], Memory)


def test_a_cell_of_ours_that_reads_the_same_stays_as_somebody_wrote_it_also_without_columns_of_others(tmp_path):
    (tmp_path / "c.csv").write_bytes(b"Name,RX,TX\nA,145.70,145.1000\nB,145.6,145.0\n")
    files = {"c.csv": b"Name,RX,TX\nA,145.7,145.1\nB,145.65,145.05\n"}
    assert with_foreign(tmp_path, LAYOUT, files, {})["c.csv"] == b"Name,RX,TX\nA,145.70,145.1000\nB,145.65,145.05\n"


def test_a_shift_in_hertz_has_a_sign_where_its_column_has_signs():
    def sent(**fields):
        memory, told = memory_of(channels=[{"name": "A", "rx": "145700000", **fields}])
        return memory.channels[0].tx_hz, memory.channels[0].receive_only, bool(told)

    assert sent(offset="-600000")[0] == 145_100_000
    assert sent(offset="600000")[0] == 146_300_000
    assert sent(offset="0")[:2] == (145_700_000, False)
    assert sent(offset_size="600000", shift="-")[0] == 145_100_000
    assert sent(offset_size="600000", shift="+")[0] == 146_300_000
    assert sent(offset_size="0", shift="off")[:2] == (145_700_000, False)
    assert sent(offset="-600000", shift="+")[1:] == (True, True)


def test_of_a_tone_that_is_told_twice_it_is_said_which():
    _memory, told = memory_of(channels=[channel("A", mode="fm", width="12.5", tone_tx="88.5", code_tx="D023N")])
    assert len(told) == 1
    assert told[0].startswith("“A”: ")


def test_a_group_that_a_channel_opens_to_all_of_is_none_of_another():
    memory, _told = memory_of(channels=[channel("A", mode="dmr", color_code="1", promiscuous="on", encrypted="on")])
    assert memory.channels[0].promiscuous
    assert memory.channels[0].encrypted


# guesses


def guessed(text, what=None):
    """Field by heading, of one file."""
    sheet = guess_sheet(take_sample("x.csv", text.encode()), what)
    return {column.title: column.field for column in sheet.column}


def test_an_empty_column_is_no_shift_and_a_third_frequency_no_input():
    assert guessed("Name,RX,Blank\nA,145.7,\nB,145.6,\n", "channels")["Blank"] == ""
    three = guessed("Name,RX,Offset,Link\nA,145.7,-0.6,438.5\nB,145.6,-0.6,438.6\n", "channels")
    assert (three["RX"], three["Link"]) == ("rx", "")
    assert three["Offset"] in {"offset", "offset_size"}


def test_frequencies_are_paired_only_in_a_list_of_channels():
    two = "Name,RPT1,RX,Spare\nA,Q0BLK  B,438.6,431.0\nB,Q0SIG  C,438.7,431.1\n"
    assert guessed(two, "access list")["Spare"] == ""
    assert guessed(two, "channels")["Spare"] == "tx"


@pytest.mark.parametrize("names", [("Channel Name", "Name"), ("Name", "Channel Name")])
def test_a_name_is_no_number_and_each_its_own(names):
    for others in (("1", "2", "3"), ("Home", "Home", "Home")):
        rows = zip(("BLK", "HAR", "SIG"), others, ("145.7,145.1", "145.6,145.0", "145.65,145.05"), strict=True)
        by_name = ({"Channel Name": name, "Name": other, "": pair} for name, other, pair in rows)
        lines = [",".join([*(row[name] for name in names), row[""]]) for row in by_name]
        assert guessed("\n".join([",".join([*names, "RX", "TX"]), *lines]) + "\n", "channels")["Channel Name"] == "name"


def test_of_two_columns_of_one_name_the_second_is_left_for_its_owner_to_say():
    sheet = guess_sheet(take_sample("x.csv", b"Name,RX,TX,Tone,Tone\nA,145.7,145.1,88.5,94.8\n"), "channels")
    assert [column.field for column in sheet.column][3] in {"tone_tx", "tone_rx"}
    assert [column.field for column in sheet.column][4] == ""


def test_numbers_of_rows_are_no_ids_and_ids_no_numbers_of_rows():
    counting = guessed("Number,Name,ID\n1,Local,9\n2,Wide,4299\n3,Isles,99900\n", "contacts")
    assert (counting["Number"], counting["ID"]) == ("number", "call")
