"""What another program holds in columns of its own stays with its channel; new channels are asked for once a column."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.foreign import keep_foreign
from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet

SHEET = Sheet(
    "channels", "channels.csv",
    (
        FileColumn("No", "number"), FileColumn("Name", "name"), FileColumn("RX", "rx", unit="MHz"),
        FileColumn("TX", "tx", unit="MHz"), FileColumn("Squelch"), FileColumn("Group", fixed="A"),
    ),
)  # fmt: skip
LAYOUT = ColumnLayout("Own", (SHEET,), newline="lf")
OLD = (
    "No,Name,RX,TX,Squelch,Group,Vox,Note\n1,BLK FM,438.9,431.3,3,A,off,mine\n2,HAR FM,439.0,431.4,5,A,off,\n"
    "3,GONE,145.5,145.5,3,A,off,x\n"
)
NEW = "No,Name,RX,TX,Squelch,Group\n1,HAR FM,439.0,431.4,,A\n2,BLACKFELL,438.9,431.3,,A\n3,NEW ONE,145.6,145.0,,A\n"


def rows(text):
    return list(csv.DictReader(io.StringIO(text)))


def test_other_columns_stay_with_their_channel_by_name_and_else_by_frequencies():
    kept = keep_foreign(OLD.encode(), NEW, SHEET, LAYOUT)
    har, black, new = rows(kept.text)
    assert kept.text.splitlines()[0] == OLD.splitlines()[0]
    assert (har["Squelch"], har["Vox"], har["Note"]) == ("5", "off", "")
    assert (black["Name"], black["Squelch"], black["Note"]) == ("BLACKFELL", "3", "mine")
    assert (kept.stayed, kept.new, kept.columns) == (2, 1, ("Squelch", "Vox", "Note"))
    assert (new["Vox"], new["Squelch"]) == ("off", "")


def test_what_all_have_alike_goes_to_new_ones_and_what_differs_is_asked_once_a_column():
    kept = keep_foreign(OLD.encode(), NEW, SHEET, LAYOUT)
    assert [(ask.title, ask.rows, ask.values[0]) for ask in kept.asks] == [("Squelch", 1, "3"), ("Note", 1, "mine")]
    told = keep_foreign(OLD.encode(), NEW, SHEET, LAYOUT, {"Squelch": "7", "Note": ""})
    assert told.asks == ()
    assert rows(told.text)[2]["Squelch"] == "7"


def test_our_own_columns_are_always_ours_and_those_that_were_not_there_come_behind():
    old = "Name,RX,TX,Vox\nBLK FM,1,2,on\n"
    new = "No,Name,RX,TX,Squelch,Group\n1,BLK FM,438.9,431.3,,A\n"
    kept = keep_foreign(old.encode(), new, SHEET, LAYOUT)
    assert kept.text == "Name,RX,TX,Vox,No,Squelch,Group\nBLK FM,438.9,431.3,on,1,,A\n"


def test_where_a_name_stands_twice_nothing_of_one_goes_to_the_other():
    old = "Name,RX,TX,Vox\nBLK,438.9,431.3,on\nBLK,439.0,431.4,off\n"
    new = "No,Name,RX,TX,Squelch,Group\n1,BLK,439.0,431.4,,A\n2,BLK,145.5,145.5,,A\n"
    first, second = rows(keep_foreign(old.encode(), new, SHEET, LAYOUT).text)
    assert (first["Vox"], second["Vox"]) == ("off", "")


def test_a_file_without_other_columns_is_written_as_it_is():
    old = NEW.replace("Squelch,", "").replace(",,A", ",A")
    sheet = Sheet("channels", "channels.csv", tuple(item for item in SHEET.column if item.title != "Squelch"))
    assert keep_foreign(old.encode(), old, sheet, LAYOUT).text == old


@pytest.mark.parametrize(
    ("old", "why"), [(b"\xff\xfe\x00", "not written as utf-8"), (b"Name,Name\na,b\n", "one heading twice")]
)
def test_what_cannot_be_read_is_told_and_nothing_is_guessed(old, why):
    with pytest.raises(ColumnsError, match=why):
        keep_foreign(old, NEW, SHEET, LAYOUT)


def test_lines_before_the_headings_stay_ours_and_semicolons_are_no_commas():
    sheet = Sheet("channels", "c.csv", SHEET.column, lead=("# of this program",))
    layout = ColumnLayout("Own", (sheet,), delimiter=";", newline="crlf", quote=True)
    old = '# of that program\r\n"Name";"Vox"\r\n"BLK FM";"on; loud"\r\n'
    new = '# of this program\r\n"No";"Name";"RX";"TX";"Squelch";"Group"\r\n"1";"BLK FM";"438.9";"431.3";"";"A"\r\n'
    kept = keep_foreign(old.encode(), new, sheet, layout).text
    assert kept.splitlines()[0] == "# of this program"
    assert kept.splitlines()[2] == '"BLK FM";"on; loud";"1";"438.9";"431.3";"";"A"'


_NAMES = st.lists(st.sampled_from([f"CH {at}" for at in range(12)]), unique=True, min_size=1, max_size=8)


@given(_NAMES, _NAMES, st.lists(st.sampled_from(["1", "2", "x;y", 'a"b', ""]), min_size=8, max_size=8))
def test_every_channel_that_stays_keeps_what_stood_beside_it(before, after, values):
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["Name", "Own thing"])
    writer.writerows([name, values[at]] for at, name in enumerate(before))
    new = "No,Name,RX,TX,Squelch,Group\n" + "".join(f"{at},{name},{at},{at},,A\n" for at, name in enumerate(after))
    kept = keep_foreign(out.getvalue().encode(), new, SHEET, LAYOUT)
    held = dict(zip(before, values, strict=False))
    for row in rows(kept.text):
        if row["Name"] in held:
            assert row["Own thing"] == held[row["Name"]]
    assert [row["Name"] for row in rows(kept.text)] == after
