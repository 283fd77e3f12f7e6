"""Any tabular file as rows; anything that is none is refused with a sentence."""

import json
import zipfile

import openpyxl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.table import LONGEST_LINE, open_table


def table_of(tmp_path, data, name="file.csv"):
    path = tmp_path / name
    path.write_bytes(data if isinstance(data, bytes) else data.encode())
    return open_table(path)


def cells(table):
    return [row.cells for row in table.rows()]


@pytest.mark.parametrize("mark", [",", ";", "\t", "|"])
def test_the_delimiter_is_found(tmp_path, mark):
    text = "\n".join(
        mark.join(row)
        for row in (["call", "mhz", "place"], ["Q0BLK", "438,6125" if mark != "," else "438.6125", "A b"])
    )
    table = table_of(tmp_path, text)
    assert table.delimiter == mark
    assert table.headers == ["call", "mhz", "place"]
    assert len(cells(table)[0]) == 3


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "latin-1", "cp1252"])
def test_encodings(tmp_path, encoding):
    table = table_of(tmp_path, "Rufzeichen;Ort\nQ0BLK;Höhenzügen\n".encode(encoding))
    assert table.headers == ["Rufzeichen", "Ort"]
    assert table.encoding == {"latin-1": "cp1252"}.get(encoding, encoding)
    assert cells(table) == [["Q0BLK", "Höhenzügen"]]


def test_one_file_in_two_encodings(tmp_path):
    data = "call;site\nQ0BLK;Höhe\n".encode() + "Q0NES;Düne\n".encode("latin-1")
    rows = list(table_of(tmp_path, data).rows())
    assert [row.cells[1] for row in rows] == ["Höhe", "Düne"]
    assert [row.mended for row in rows] == ["", "read as cp1252"]


def test_rows_can_be_read_again_and_know_their_lines(tmp_path):
    table = table_of(tmp_path, 'a,b\n\n1,"two\nlines"\n3,4\n')
    assert [row.line for row in table.rows()] == [3, 5]
    assert cells(table) == cells(table) == [["1", "two\nlines"], ["3", "4"]]


def test_a_file_without_headings(tmp_path):
    table = table_of(tmp_path, "Q0BLK,438.6125,7.6\nQ0NES,438.7875,7.6\n")
    assert table.headless
    assert table.headers == ["Column 1", "Column 2", "Column 3"]
    assert len(cells(table)) == 2


def test_doubled_and_missing_headings_are_told_apart(tmp_path):
    assert table_of(tmp_path, "a,a,,b\nx,y,z,w\n").headers == ["a", "a 2", "Column 3", "b"]


@pytest.mark.parametrize(
    ("data", "name", "words"),
    [
        (b"", "empty.csv", "is empty"),
        (b"  \n \n", "blank.csv", "is empty"),
        (b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR", "picture.csv", "is not text"),
        (b"<!doctype html><html><body>Not found</body></html>", "page.csv", "is a page"),
        (b"PK\x03\x04 not really", "book.xlsx", "not a readable spreadsheet"),
        (b'{"no": "features"}', "a.geojson", "not a GeoJSON"),
        (b"{broken", "b.geojson", "not a GeoJSON"),
        (b'{"features": [{"geometry": {"type": "Point", "coordinates": [1]}}]}', "short.geojson", "not a GeoJSON"),
        (b'{"features": []}', "c.geojson", "no features"),
        (b"<gpx><broken", "d.gpx", "not a readable GPX"),
        (
            b"<?xml version='1.0'?><gpx version='1.1' creator='x' xmlns='http://www.topografix.com/GPX/1/1'></gpx>",
            "e.gpx",
            "no waypoints",
        ),
    ],
)
def test_what_is_no_directory_is_refused(tmp_path, data, name, words):
    with pytest.raises(ReadError, match=words):
        table_of(tmp_path, data, name)


def test_a_file_that_goes_away_while_it_is_read(tmp_path):
    table = table_of(tmp_path, "call,site\nQ0BLK,Hill\n")
    (tmp_path / "file.csv").unlink()
    with pytest.raises(ReadError, match="cannot be read any more"):
        cells(table)


def test_a_missing_file(tmp_path):
    with pytest.raises(ReadError, match="cannot be read"):
        open_table(tmp_path / "gone.csv")


def test_a_line_of_ten_million_characters(tmp_path):
    data = b"call,site\n" + b"Q0BLK,Hill\n" + b"x" * 10_000_000 + b"\nQ0NES,Cairn\n"
    rows = list(table_of(tmp_path, data).rows())
    assert [row.cells for row in rows if not row.fault] == [["Q0BLK", "Hill"], ["Q0NES", "Cairn"]]
    fault = next(row for row in rows if row.fault)
    assert f"longer than {LONGEST_LINE:,} characters" in fault.fault
    assert fault.line == 3


def test_a_first_line_without_end(tmp_path):
    with pytest.raises(ReadError, match="longer than"):
        table_of(tmp_path, b"y" * 3_000_000)


def test_a_quotation_mark_that_never_closes(tmp_path):
    rows = list(table_of(tmp_path, b'a,b\n1,2\n3,"' + b"z\n" * 200_000).rows())
    assert rows[0].cells == ["1", "2"]
    assert "quotation mark" in rows[1].fault


def book(tmp_path, rows, name="book.xlsx"):
    made = openpyxl.Workbook()
    for row in rows:
        made.active.append(row)
    made.save(tmp_path / name)
    return tmp_path / name


def test_a_spreadsheet(tmp_path):
    from datetime import datetime

    path = book(
        tmp_path,
        [["call", "MHz", "seen"], ["Q0BLK", 438.6125, datetime(2026, 11, 2)], [None, None, None], ["Q0OSS", 145, None]],
    )
    table = open_table(path)
    assert (table.kind, table.headers) == ("xlsx", ["call", "MHz", "seen"])
    assert cells(table) == [["Q0BLK", "438.6125", "2026-11-02"], ["Q0OSS", "145"]]


def test_a_spreadsheet_of_formulas_without_results(tmp_path):
    path = book(tmp_path, [["=1+1", "=A1"]])
    with pytest.raises(ReadError, match="formulas without their results"):
        open_table(path)


def test_an_empty_or_damaged_spreadsheet(tmp_path):
    with pytest.raises(ReadError, match="no rows"):
        open_table(book(tmp_path, []))
    with zipfile.ZipFile(tmp_path / "zip.xlsx", "w") as archive:
        archive.writestr("readme.txt", "no book")
    with pytest.raises(ReadError, match="not a readable spreadsheet"):
        open_table(tmp_path / "zip.xlsx")


def test_geojson_points_with_their_properties(tmp_path):
    features = [
        {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [-31.05, 46.52]},
            "properties": {"call": "Q0BLK", "modes": ["DMR", "FM"]},
        },
        {"type": "Feature", "geometry": None, "properties": {"call": "Q0NES", "note": None}},
    ]
    table = table_of(tmp_path, json.dumps({"type": "FeatureCollection", "features": features}), "a.geojson")
    assert table.headers == ["call", "modes", "longitude", "latitude", "note"]
    assert cells(table) == [["Q0BLK", "DMR FM", "-31.05", "46.52", ""], ["Q0NES", "", "", "", ""]]


def test_gpx_waypoints(tmp_path):
    text = (
        '<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1">'
        '<wpt lat="46.52" lon="-31.05"><name>Q0BLK</name><desc>DMR 438.6125</desc></wpt></gpx>'
    )
    table = table_of(tmp_path, text, "points.gpx")
    assert cells(table) == [["Q0BLK", "DMR 438.6125", "46.520000", "-31.050000"]]


@given(st.binary(max_size=400), st.sampled_from(["a.csv", "a.xlsx", "a.geojson", "a.gpx"]))
def test_any_bytes_are_read_or_refused(tmp_path_factory, data, name):
    path = tmp_path_factory.mktemp("bytes") / name
    path.write_bytes(data)
    try:
        table = open_table(path)
        assert all(row.fault or isinstance(row.cells, list) for row in table.rows())
    except ReadError as error:
        assert name in str(error)
