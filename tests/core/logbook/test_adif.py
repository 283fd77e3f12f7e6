"""ADIF in and out: the same back, other hands' habits, unknown fields, broken records told by number."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.logbook.adif import adif_text, entry_of, moment_of, read_adif, records
from umbra_awl.core.logbook.model import Entry

WORDS = st.text(st.characters(exclude_categories=("Cs", "Cc")), min_size=1, max_size=20).map(str.strip).filter(bool)
FREE = st.one_of(st.just(""), WORDS)
NAMES = st.from_regex(r"[A-Z]{2,8}_[A-Z0-9]{1,6}", fullmatch=True).filter(
    lambda name: not name.startswith(("APP_UMBRAAWL", "MY_CI"))
)
KNOWN = {"QSO_DATE", "TIME_ON", "RST_RCVD", "RST_SENT", "FREQ_RX", "QSL_RCVD", "STATION_CALLSIGN"}
ENTRIES = st.builds(
    Entry,
    key=st.from_regex(r"[a-z0-9]{1,12}", fullmatch=True),
    utc=st.datetimes().filter(lambda at: at.year > 1900).map(lambda at: at.strftime("%Y-%m-%dT%H:%M:%SZ")),
    grade=st.sampled_from(["failed", "heard-it", "own-key", "echo", "heard-by", "answered"]),
    route=FREE,
    radio=FREE,
    call=st.sampled_from(["Q3AMB", "Q7QBY", ""]),
    name=FREE,
    place=FREE,
    report=FREE,
    sent=FREE,
    ber=st.one_of(st.none(), st.sampled_from([0.0, 0.5, 2.25])),
    rssi_dbm=st.one_of(st.none(), st.integers(-130, -30)),
    mode=st.sampled_from(["fm", "dmr", "dstar", "fusion", ""]),
    hz=st.one_of(st.none(), st.integers(1_000_000, 2_000_000_000)),
    rx_hz=st.one_of(st.none(), st.integers(1_000_000, 2_000_000_000)),
    spot=FREE,
    here=FREE,
    path=FREE,
    note=FREE,
    by=st.sampled_from(["hand", "hotspot", "simulation", "file"]),
    confirmed=st.sampled_from(["", "Y", "N", "R"]),
    own_call=st.sampled_from(["Q4WRN", ""]),
    locator=st.sampled_from(["HN46kl", ""]),
    more=st.dictionaries(NAMES.filter(lambda name: name not in KNOWN), WORDS, max_size=3),
)


@given(st.lists(ENTRIES, max_size=5, unique_by=lambda item: item.key))
def test_what_goes_out_comes_in_again_unknown_fields_too(entries):
    found = read_adif(adif_text(entries))
    assert found.faults == ()
    assert list(found.entries) == entries
    assert adif_text(found.entries) == adif_text(entries)


def one(text):
    found = read_adif(text)
    assert len(found.entries) == 1, found
    return found.entries[0]


HABITS = [
    "<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<EOR>",
    "<call:5>Q3AMB <qso_date:8:D>20261127 <time_on:6:T>100000 <eor>",
    "Exported by hand\nfrom somewhere <EOH>\n<CALL:5>Q3AMB\n<QSO_DATE:8>20261127\n<TIME_ON:6>100000\n<EOR>\n",
    "\ufeff<ADIF_VER:5>3.1.4 <EOH> <CALL:5>Q3AMB <QSO_DATE:8>20261127 <TIME_ON:6>100000 <EOR>",
    "< CALL : 5 >Q3AMB<QSO_DATE:8>20261127<TIME_ON:6>100000<EOR>",
    "<CALL:5>Q3AMB<EMPTY:0><QSO_DATE:8>20261127<TIME_ON:6>100000<EOR>",
    "<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:6>100000",
]


@pytest.mark.parametrize("text", HABITS)
def test_the_habits_of_other_hands_are_understood(text):
    found = one(text)
    assert (found.call, found.utc, found.by) == ("Q3AMB", "2026-11-27T10:00:00Z", "file")


def test_lengths_in_bytes_are_understood_too():
    found = one("<NAME:6>Ödön <CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<EOR>")
    assert (found.name, found.call) == ("Ödön", "Q3AMB")


def test_a_wrong_length_is_told_and_the_rest_taken():
    found = read_adif("<CALL:9>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<EOR>")
    assert found.entries[0].call == "Q3AMB"
    assert "length" in found.faults[0].words
    assert found.faults[0].number == 1


def test_records_without_a_moment_are_told_by_their_number():
    text = "".join(
        f"<CALL:5>Q3AMB<QSO_DATE:8>{day}<TIME_ON:4>1000<EOR>" for day in ("20261127", "20261399", "20261128")
    )
    found = read_adif(text)
    assert [item.utc[:10] for item in found.entries] == ["2026-11-27", "2026-11-28"]
    assert [(item.number, "no date" in item.words) for item in found.faults] == [(2, True)]


def test_modes_are_those_of_adif_and_strange_ones_are_kept():
    text = (
        "<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<MODE:12>DIGITALVOICE<SUBMODE:5>DSTAR<FREQ:10>438,450000<EOR>"
    )
    assert (one(text).mode, one(text).hz) == ("dstar", 438_450_000)
    strange = one("<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000<MODE:3>SSB<EOR>")
    assert strange.more == {"MODE": "SSB"}
    assert "<MODE:3>SSB" in adif_text([strange])


@pytest.mark.parametrize(
    ("mode", "submode", "ours"),
    [
        ("DMR", "", "dmr"), ("D-STAR", "", "dstar"), ("C4FM", "", "fusion"), ("Fusion", "", "fusion"), ("FM", "", "fm"),
        ("DIGITALVOICE", "C4FM", "fusion"), ("DIGITALVOICE", "", ""), ("FM", "FREEDV", ""),
    ],
)  # fmt: skip
def test_modes_are_known_however_they_are_written(mode, submode, ours):
    fields = {"QSO_DATE": "20261127", "TIME_ON": "1000", "MODE": mode, "SUBMODE": submode}
    made = entry_of(fields, 1)
    assert made.mode == ours
    assert made.more == ({} if ours else {name: fields[name] for name in ("MODE", "SUBMODE") if fields[name]})


def test_values_may_hold_marks_and_one_too_long_is_left_and_told():
    head = "<CALL:5>Q3AMB<QSO_DATE:8>20261127<TIME_ON:4>1000"
    assert one(f"{head}<COMMENT:5>a<b>c<EOR>").note == "a<b>c"
    assert one(f"{head}<COMMENT:6>ö<b>c <NAME:2>Al<EOR>").note == "ö<b>c"
    assert one(f"{head}<COMMENT:5>x <EOH<NAME:2>Al<EOR>").name == "Al"
    found = read_adif(f"{head}<COMMENT:200000>{'x' * 200_000}<NAME:2>Al<EOR>")
    assert (found.entries[0].note, found.entries[0].name) == ("", "Al")
    assert "longer than is taken" in found.faults[0].words
    several = read_adif(f"<EOH>{head}<EOR>{head}<EOR>", taken=[one(f"{head}<EOR>").key])
    assert len({item.key for item in several.entries}) == 2


def test_keys_that_are_there_already_are_not_used_twice():
    made = Entry("k1", "2026-11-27T10:00:00Z", call="Q3AMB")
    found = read_adif(adif_text([made]), taken=["k1"])
    assert found.entries[0].key != "k1"


@pytest.mark.parametrize(
    ("day", "time", "utc"),
    [
        ("20261127", "1000", "2026-11-27T10:00:00Z"), ("20261127", "930", "2026-11-27T09:30:00Z"),
        ("20261127", "93005", "2026-11-27T09:30:05Z"), (" 20261127", "093005 ", "2026-11-27T09:30:05Z"),
        ("20261127", "99", ""), ("20261127", "193", ""), ("20261127", "0930051", ""), ("20261127", "", ""), ("x", "1000", ""),
    ],
)  # fmt: skip
def test_moments(day, time, utc):
    assert moment_of(day, time) == utc


@given(st.text(max_size=300))
def test_any_text_is_read_or_left(text):
    read_adif(text)
    assert all(isinstance(item.fields, dict) for item in records(text + "<EOR>"))


def test_a_file_of_lengths_that_lead_nowhere_is_read_in_the_time_of_its_bytes():
    text = "<A:99999>é" * 2_000
    (found,) = records(text + "<EOR>")
    assert "length is wrong" in found.fault
    assert found.fields == {"A": "é"}


@given(st.text("aé€", max_size=30), st.text("aé€", min_size=1, max_size=9))
def test_a_length_in_bytes_is_read_as_well_as_one_in_characters(before, value):
    wide = f"<NOTE_A:{len(value.encode())}>{value}<NOTE_B:{len(before)}>{before}<EOR>"
    (found,) = records(wide)
    assert found.fields["NOTE_A"] == value


def test_text_between_fields_is_no_value_and_names_may_have_blanks():
    found = read_adif(
        "<EOH><CALL:5>Q7QBY said loudly <QSO_DATE:8>20260101 then <TIME_ON:4>1200 <MY FIELD:3>abc and so on<EOR>"
    )
    assert found.faults == ()
    assert (found.entries[0].call, found.entries[0].more) == ("Q7QBY", {"MY FIELD": "abc"})
    assert read_adif(adif_text(found.entries)).entries == found.entries


@pytest.mark.parametrize(
    "notes", ["one\r\ntwo", "one\r\n\r\nthree <b> four", "ends\r\n.", "a" * 200 + "\r\n" + "ä" * 90]
)
def test_notes_of_several_lines_come_back_equal(notes):
    text = f"<EOH><CALL:5>Q7QBY<QSO_DATE:8>20260101<TIME_ON:4>1200<NOTES:{len(notes)}>{notes}<EOR>"
    made = read_adif(text).entries
    assert made[0].more["NOTES"] == notes
    assert read_adif(adif_text(made)).entries == made


@pytest.mark.parametrize("freq", ["145500 kHz", "145.5 MHz", "145500000"])
def test_a_frequency_in_another_unit_is_told(freq):
    found = read_adif(f"<EOH><CALL:5>Q7QBY<QSO_DATE:8>20260101<TIME_ON:4>1200<FREQ:{len(freq)}>{freq}<EOR>")
    assert found.entries[0].hz is None
    assert "is not in MHz" in found.faults[0].words


def test_a_strict_reader_that_counts_finds_every_field_we_write():
    made = read_adif(
        "<EOH><CALL:5>Q7QBY<QSO_DATE:8>20260101<TIME_ON:4>1200<COMMENT:6>ä ö ü<NOTES:8>x\r\ny <z>\r\n<EOR>"
    ).entries
    text = adif_text(made)
    at, fields = text.index("<EOH>") + 5, {}
    while not (end := re.match(r"\s*<EOR>", text[at:])):
        tag = re.match(r"\s*<([A-Z0-9_ ]+):(\d+)>", text[at:])
        assert tag, text[at : at + 40]
        at += tag.end()
        fields[tag[1]] = text[at : at + int(tag[2])]
        at += int(tag[2])
    assert end
    assert fields["CALL"] == "Q7QBY"


def fields(text):
    return [(item.fields, item.fault) for item in records(text)]


def test_where_the_head_ends_is_where_the_records_begin():
    record = "<CALL:5>Q3AMB <EOR>"
    for head in ("", "<ADIF_VER:5>3.1.4 <EOH>", "Made by hand <EOH>", "\ufeff <eoh>", "Made by hand, 5 < 6\n"):
        assert fields(head + record) == [({"CALL": "Q3AMB"}, "")]
    late = record + "<NOTE:5><EOH><EOR>" + "<CALL:5>Q7QBY <EOR>"
    assert [item[0].get("CALL") for item in fields(late)] == ["Q3AMB", None, "Q7QBY"]


def test_records_end_where_they_end_and_an_empty_one_is_none():
    assert fields("<EOR><CALL:5>Q3AMB <EOR><EOR>") == [({"CALL": "Q3AMB"}, "")]
    assert fields("<CALL:5>Q3AMB") == [({"CALL": "Q3AMB"}, "the record has no end")]
    assert fields("<CALL> <NAME:3>Amb <EOR>") == [({"NAME": "Amb"}, "")]


def test_only_so_many_records_are_read(monkeypatch):
    from umbra_awl.core.logbook import adif

    assert (adif.MOST_RECORDS, adif.MOST_VALUE) == (1_000_000, 100_000)
    monkeypatch.setattr(adif, "MOST_RECORDS", 3)
    assert len(fields("<CALL:5>Q3AMB <EOR>" * 5)) == 3
    assert [found[1] for found in fields("<CALL:5>Q3AMB <EOR>" * 3)] == ["", "", ""]


def test_a_value_as_long_as_is_taken_and_one_longer(monkeypatch):
    from umbra_awl.core.logbook import adif

    monkeypatch.setattr(adif, "MOST_VALUE", 6)
    assert fields("<NOTE:6>abcdef <EOR>") == [({"NOTE": "abcdef"}, "")]
    ((held, fault),) = fields("<NOTE:7>abcdefg <EOR>")
    assert held == {"NOTE": ""}
    assert "longer than is taken" in fault


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("<NAME:5>Grönö <EOR>", "Grönö"),
        ("<NAME:7>Grönö<EOR>", "Grönö"),
        ("<NAME:7>Grönö <CALL:5>Q3AMB <EOR>", "Grönö"),
        ("<NAME:8>Grönö a <EOR>", "Grönö a "),
        ("<NAME:2>é<EOR>", "é"),
        ("<NAME:3>ab", "ab"),
        ("<NAME:5>a<b>c <EOR>", "a<b>c"),
    ],
)
def test_values_by_characters_or_bytes_end_where_a_field_ends(text, value):
    assert next(records(text)).fields["NAME"] == value


def test_bytes_are_counted_only_up_to_a_length(monkeypatch):
    from umbra_awl.core.logbook import adif

    long = "ö" * 4_000
    assert next(records(f"<NOTE:8000>{long}<EOR>")).fields["NOTE"] == long
    longer = "ö" * 4_001
    assert next(records(f"<NOTE:8002>{longer}<EOR>")).fault
    monkeypatch.setattr(adif, "_MOST_COUNTED", 4)
    assert next(records("<NOTE:4>öö<EOR>")).fields["NOTE"] == "öö"


def test_numbers_beyond_all_reason_are_none():
    def frequency(text):
        return entry_of({"QSO_DATE": "20261127", "TIME_ON": "1000", "FREQ": text}, 1).hz

    assert frequency("999999.999999") == 999_999_999_999
    assert frequency("1000000") is None
    assert frequency("0") is None


def test_a_moment_is_written_to_the_second_and_no_further():
    assert "<TIME_ON:6>101530 " in adif_text([Entry("k", "2026-11-27T10:15:30.250Z")])
