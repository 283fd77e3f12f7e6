"""Values, columns and rows as directories write them."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.directory.errors import LayoutError
from umbra_awl.core.directory.export import write_access
from umbra_awl.core.directory.lists.entry import RefusedError, RowReader, join
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.lists.layout import (
    FIELDS,
    TableLayout,
    kept_layout,
    layout_text,
    parse_layout,
    save_layout,
)
from umbra_awl.core.directory.lists.values import (
    parse_amount,
    parse_any_hz,
    parse_day,
    parse_kind,
    parse_opens,
)
from umbra_awl.core.facts.frequency import FrequencyError
from umbra_awl.core.facts.modes import modes_in
from umbra_awl.core.facts.shift import read_shift
from umbra_awl.core.plan.model import DmrAir, DstarAir, FmAir, FusionAir
from umbra_awl.core.tables.table import open_table

NASTY = Path(__file__).parents[1] / "data" / "nasty.csv"


@pytest.mark.parametrize(
    ("text", "hz"),
    [
        ("438.6125", 438_612_500),
        ("438,6125", 438_612_500),
        ("438612.5", 438_612_500),
        ("438612,5 kHz", 438_612_500),
        ("438612500", 438_612_500),
        ("438 612 500", 438_612_500),
        ("438.612.500", 438_612_500),
        ("438,612.5", 438_612_500),
        ("145.7125 MHz", 145_712_500),
        ("0.4386125 GHz", 438_612_500),
        ("145", 145_000_000),
    ],
)
def test_frequencies_in_any_unit(text, hz):
    assert parse_any_hz(text) == hz


@pytest.mark.parametrize("text", ["", "fast", "12:30", "9999999999999", "-5"])
def test_what_is_no_frequency(text):
    with pytest.raises(FrequencyError):
        parse_any_hz(text)


@given(st.integers(28_000, 1_300_000))
def test_one_frequency_in_three_units(khz):
    assert parse_any_hz(f"{khz / 1000:.3f}") == parse_any_hz(f"{khz}") == parse_any_hz(f"{khz}000") == khz * 1000


@pytest.mark.parametrize(
    ("text", "sign", "size"),
    [
        ("-7.6", -1, 7_600_000),
        ("−7,6 MHz", -1, 7_600_000),
        ("+600 kHz", 1, 600_000),
        ("-7600", -1, 7_600_000),
        ("600000", None, 600_000),
        ("minus 7,6", -1, 7_600_000),
        ("7.6 MHz minus", -1, 7_600_000),
        ("DUP-", -1, None),
        ("DUP+", 1, None),
        ("plus", 1, None),
        ("negative", -1, None),
        ("7.6", None, 7_600_000),
        ("simplex", 0, 0),
        ("0", 0, 0),
        ("0.000", 0, 0),
        ("", None, None),
    ],
)
def test_offsets_in_numbers_and_words(text, sign, size):
    assert read_shift(text) == (sign, size)


def test_what_is_no_offset():
    with pytest.raises(ValueError, match="is no offset"):
        read_shift("sideways")


@pytest.mark.parametrize(
    ("text", "modes"),
    [
        ("FM", ["fm"]),
        ("NFM", ["fm"]),
        ("Analog", ["fm"]),
        ("DMR", ["dmr"]),
        ("FM/DMR", ["dmr", "fm"]),
        ("D-STAR", ["dstar"]),
        ("DV", ["dstar"]),
        ("C4FM", ["fusion"]),
        ("System Fusion, FM", ["fusion", "fm"]),
        ("smoke signals", []),
    ],
)
def test_modes_named_in_a_text(text, modes):
    assert modes_in(text) == tuple(modes)


@pytest.mark.parametrize(
    ("text", "dmr", "tone", "code"),
    [
        ("CC6", False, None, 6),
        ("6", True, None, 6),
        ("cc 12", False, None, 12),
        ("103,5", True, "103.5", None),
        ("88.5 Hz", False, "88.5", None),
        ("CTCSS 67.0", False, "67.0", None),
        ("D023", False, "D023N", None),
        ("", False, None, None),
        ("carrier", False, None, None),
    ],
)
def test_tone_or_color_code_from_one_column(text, dmr, tone, code):
    found = parse_opens(text, dmr)
    assert (found.tone, found.color_code) == (tone, code)


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2026-11-02", "2026-11-02"),
        ("02.11.2026", "2026-11-02"),
        ("2/11/2026", "2026-11-02"),
        ("11/30/2026", "2026-11-30"),
        ("2026-11-02T18:00:00Z", "2026-11-02"),
        ("10/2026", "2026-10-01"),
        ("2026", "2026-01-01"),
        ("2.11.26", "2026-11-02"),
        ("", ""),
    ],
)
def test_dates_in_any_usual_order(text, day):
    assert parse_day(text) == day


def test_month_first_where_the_layout_says_so():
    assert parse_day("2/11/2026", day_first=False) == "2026-02-11"
    with pytest.raises(ValueError, match="does not exist"):
        parse_day("31.02.2026")
    with pytest.raises(ValueError, match="is not a date"):
        parse_day("yesterday")


def test_small_words():
    assert [parse_kind(text) for text in ("Repeater", "personal hotspot", "Simplex calling", "")] == [
        "repeater",
        "hotspot",
        "simplex",
        "repeater",
    ]
    assert (parse_amount("25 W"), parse_amount("12,5"), parse_amount("none")) == (25.0, 12.5, None)


@given(st.text(max_size=30))
def test_any_text_is_read_or_refused_in_words(text):
    for read in (parse_any_hz, read_shift, lambda item: parse_opens(item, True), parse_day):
        try:
            read(text)
        except ValueError as error:
            assert str(error)


# columns


def test_columns_of_a_nasty_file_are_guessed():
    layout = guess(open_table(NASTY))
    assert layout.what == "access"
    assert layout.columns == {
        "call": "Rufzeichen",
        "site": "Standort",
        "place": "Insel",
        "rx": "Ausgabe [MHz]",
        "offset": "Ablage",
        "opens": "Zugang",
        "mode": "Betriebsart",
        "network": "Netz",
        "lat": "Breite",
        "lon": "Länge",
        "confirmed": "Stand",
        "note": "Bemerkung",
    }


@pytest.mark.parametrize(
    ("headers", "row", "what", "expected"),
    [
        ("RADIO_ID,CALLSIGN,FIRST_NAME,LAST_NAME,CITY,COUNTRY", "9990001,Q1AB,Ada,Tern,Stenby,Isles", "people",
         {"id": "RADIO_ID", "call": "CALLSIGN", "name": "FIRST_NAME", "surname": "LAST_NAME",
          "place": "CITY", "country": "COUNTRY"}),
        ("network,number,name,kind", "Lattice,99900,Isles-wide,group", "destinations",
         {"number": "number", "name": "name", "network": "network"}),
        ("callsign,tx freq,rx freq,grid square", "Q0BLK,438.6125,431.0125,HN46kl", "access",
         {"call": "callsign", "locator": "grid square"}),
        ("c1,c2,c3", "Q0BLK,438.6125,HN46kl", "access", {"call": "c1", "rx": "c2", "locator": "c3"}),
    ],
)  # fmt: skip
def test_columns_by_heading_and_by_value(tmp_path, headers, row, what, expected):
    path = tmp_path / "file.csv"
    path.write_text(f"{headers}\n{row}\n{row}\n", "utf-8")
    layout = guess(open_table(path))
    assert layout.what == what
    assert layout.columns.items() >= expected.items()


def test_a_layout_is_kept_and_used_again(tmp_path):
    layout = TableLayout("access", {"call": "A", "rx": "B", "sign": "C"}, "Club list", "club", offset_70cm_mhz=7.6)
    assert parse_layout(layout_text(layout)) == layout
    path = save_layout(layout, tmp_path)
    assert path.name == "club-list.toml"
    (tmp_path / "broken.toml").write_text("no = [", "utf-8")
    assert kept_layout(tmp_path, ["A", "B", "C"]) == layout
    assert kept_layout(tmp_path, ["A"]) is None
    assert kept_layout(tmp_path, ["A", "B", "C"], "people") is None


@pytest.mark.parametrize(
    ("columns", "headers", "words"),
    [
        ({"call": "A"}, ["A"], "No column is chosen for Output"),
        ({"call": "A", "rx": "X"}, ["A"], "has no column “X”"),
        ({"call": "A", "rx": "A"}, ["A"], "stands for two fields"),
        ({"call": "A", "rx": "B", "shoe size": "B"}, ["A", "B"], "is not a field"),
    ],
)
def test_layouts_that_cannot_be_used_say_why(columns, headers, words):
    assert any(words in fault for fault in TableLayout("access", columns).faults(headers))


def test_a_layout_file_of_another_kind():
    with pytest.raises(LayoutError, match="has the form"):
        parse_layout('what = "access"\ncolumns = {}\nformat = "other"\n')
    with pytest.raises(LayoutError, match="cannot be used"):
        parse_layout('what = "weather"\ncolumns = {}\n')


# rows


def read(row, **layout):
    layout = {"simplex": not {"tx", "offset", "sign"} & row.keys()} | layout
    headers = list(row)
    return RowReader(TableLayout("access", {field: field for field in headers}, **layout), headers).read(
        list(row.values())
    )


BASE = {"call": "Q0BLK", "site": "Blackfell", "rx": "438.6125"}


@pytest.mark.parametrize(
    ("more", "tx"),
    [
        ({"offset": "-7.6"}, 431_012_500),
        ({"offset": "7.6", "sign": "-"}, 431_012_500),
        ({"offset": "7.6", "sign": "+"}, 446_212_500),
        ({"offset": "7.6", "sign": "simplex"}, 438_612_500),
        ({"tx": "431.0125"}, 431_012_500),
        ({"tx": "431012.5 kHz", "offset": "+7.6"}, 431_012_500),
        ({"offset": "7.6"}, 431_012_500),
        ({"offset": ""}, 438_612_500),
    ],
)
def test_the_input_in_every_way_it_is_told(more, tx):
    assert read(BASE | more).access.services[0].tx_hz == tx


def test_an_offset_without_its_size():
    made = read(BASE | {"rx": "145.7125", "offset": "DUP-"})
    assert made.access.services[0].tx_hz == 145_112_500
    assert made.mended == ("offset size taken as 0.6000",)
    with pytest.raises(RefusedError, match="Set the size in the layout"):
        read(BASE | {"offset": "DUP-"})
    assert read(BASE | {"offset": "DUP-"}, offset_70cm_mhz=7.6).access.services[0].tx_hz == 431_012_500


def test_only_where_it_listens():
    assert read({"call": "Q0BLK", "tx": "431.0125", "offset": "-7.6"}).access.services[0].rx_hz == 438_612_500
    with pytest.raises(RefusedError, match="but not where it is heard"):
        read({"call": "Q0BLK", "tx": "431.0125"})


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ({"call": "", "site": "", "rx": "438.6"}, "no name"),
        ({"call": "Q0BLK", "rx": ""}, "no frequency"),
        ({"call": "Q0BLK", "rx": "high"}, "is not a frequency"),
        ({"call": "Q0BLK", "rx": "438.6", "offset": "sideways"}, "is no offset"),
    ],
)
def test_rows_that_are_refused_say_why(row, words):
    with pytest.raises(RefusedError, match=words):
        read(row)


def test_each_mode_gets_its_own_air():
    made = read(BASE | {"mode": "FM/DMR", "opens": "CC6", "network": "Lattice", "slots": "2"})
    assert {service.key: service.air for service in made.access.services} == {
        "dmr-438": DmrAir(6, "Lattice", (2,)),
        "fm-438": FmAir(),
    }
    assert read(BASE | {"mode": "D-STAR", "module": "c"}).access.services[0].air == DstarAir("C", True, "")
    assert read(BASE | {"mode": "C4FM", "dgid": "10"}).access.services[0].air == FusionAir(("DN",), 10)
    assert read(BASE | {"color_code": "3"}).access.services[0].air == DmrAir(3)


def test_a_wrong_tone_is_kept_for_the_verdict():
    made = read(BASE | {"mode": "FM", "tone": "103,4"})
    assert made.access.services[0].air.tone_tx == "103.4"
    assert "The nearest is 103.5" in made.mended[0]


def test_swapped_coordinates_are_swapped_back():
    made = read(BASE | {"lat": "-131.05", "lon": "46.52"})
    assert (made.access.lat, made.access.lon) == (46.52, -131.05)
    assert made.mended == ("latitude and longitude were swapped",)
    half = read(BASE | {"lat": "46.52", "lon": ""})
    assert half.access.lat is None
    assert "only one of latitude and longitude" in half.mended[0]


def test_rows_of_one_site_join():
    one = read(BASE | {"mode": "DMR", "opens": "CC6", "confirmed": "2026-01-01"}).access
    two = read(
        BASE | {"rx": "145.7125", "offset": "-0.6", "mode": "FM", "confirmed": "2026-05-01", "locator": "HN46kl"}
    ).access
    both = join(one, two)
    assert [service.key for service in both.services] == ["dmr-438", "fm-145"]
    assert both.confirmed == "2026-05-01"
    assert both.lat is not None
    assert join(both, two) == both


FIELD_TEXT = st.one_of(
    st.text(max_size=12), st.sampled_from(["438.6125", "-7.6", "FM", "DMR", "Q0BLK", "46.5", "HN46", "CC6", "103.5"])
)


@given(st.dictionaries(st.sampled_from(list(FIELDS["access"])), FIELD_TEXT, min_size=1))
def test_any_row_becomes_an_access_point_or_a_refusal(row):
    try:
        made = read(row)
    except RefusedError as error:
        assert str(error)
    else:
        assert made.access.services
        assert all(isinstance(service.rx_hz, int) for service in made.access.services)


@pytest.mark.parametrize("form", [".csv", ".geojson", ".gpx"])
def test_what_is_exported_comes_back(plan, tmp_path, form):
    path = tmp_path / f"isles{form}"
    points = [item for item in plan.access if item.call and item.lat is not None]
    write_access(path, points)
    table = open_table(path)
    layout = guess(table)
    assert layout.what == "access"
    assert not layout.faults(table.headers)
    reader = RowReader(layout, table.headers)
    back = {
        (item.call, item.site, item.services[0].mode, item.services[0].rx_hz, item.services[0].tx_hz)
        for item in (reader.read(row.cells).access for row in table.rows())
    }
    assert back == {(item.call, item.site, one.mode, one.rx_hz, one.tx_hz) for item in points for one in item.services}
