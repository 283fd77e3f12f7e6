"""Bad input ends in a sentence, soon: too large, too deep, no file at all, damaged in the middle."""

import json
import os
import sqlite3
import threading
import time
import zipfile
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest

from umbra_awl.core.agenda.lead import DRAWS, LEAST_DRAWS, chart
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.sources import files_of
from umbra_awl.core.directory import download
from umbra_awl.core.directory.download import OfferedFile, fetch, offered
from umbra_awl.core.directory.errors import DownloadError, StoreFailedError
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.people_search import search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.track import read_track
from umbra_awl.core.fit.people import calls_in_log
from umbra_awl.core.keep.limits import MOST_CELLS
from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan
from umbra_awl.core.plan.model import Plan, Step
from umbra_awl.core.radio.profile_file import ProfileError, parse_profile
from umbra_awl.core.tables import gpx, records, table, xlsx
from umbra_awl.core.tables.errors import ReadError, SourceError
from umbra_awl.core.tables.table import open_table

NS = 'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"'
RELS = 'xmlns="http://schemas.openxmlformats.org/package/2006/relationships"'


def book(path, sheet, *, texts="", styles="", workbook="", prefix=""):
    """A spreadsheet of a sheet's inner XML."""
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(
            "xl/workbook.xml",
            f'<workbook {NS} xmlns:r="urn:r">{workbook}<sheets><sheet name="a" sheetId="1" r:id="rId1"/></sheets></workbook>',
        )
        archive.writestr(
            "xl/_rels/workbook.xml.rels",
            f'<Relationships {RELS}><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
        )
        if texts:
            archive.writestr("xl/sharedStrings.xml", f"<sst {NS}>{texts}</sst>")
        if styles:
            archive.writestr("xl/styles.xml", f"<styleSheet {NS}>{styles}</styleSheet>")
        p = f"{prefix}:" if prefix else ""
        named = NS.replace("xmlns", f"xmlns:{prefix}") if prefix else NS
        archive.writestr(
            "xl/worksheets/sheet1.xml", f"<{p}worksheet {named}><{p}sheetData>{sheet}</{p}sheetData></{p}worksheet>"
        )
    return path


def inline(*values):
    return "<row>" + "".join(f'<c t="inlineStr"><is><t>{value}</t></is></c>' for value in values) + "</row>"


def cells(path):
    return [row.cells for row in open_table(path).rows()]


def test_a_spreadsheets_kinds_of_cells(tmp_path):
    """Shared texts of several runs, phonetic aids passed over, dates by style, booleans, results of formulas, gaps."""
    sheet = (
        inline("call", "on", "seen", "text", "sum", "far")
        + '<row r="5"><c r="A5" t="s"><v>0</v></c><c r="B5" t="b"><v>1</v></c><c r="C5" s="1"><v>46328</v></c>'
        '<c r="D5" t="s"><v>9</v></c><c r="E5" t="str"><f>A1</f><v>done</v></c></row>'
        '<row><c s="2"><v>0.5</v></c><c t="e"><v>#N/A</v></c><c r="F6"><v>438.61250000000001</v></c></row>'
    )
    texts = "<si><r><t>Q0</t></r><rPh><t>loud</t></rPh><r><t>BLK</t></r></si>"
    styles = (
        '<numFmts><numFmt numFmtId="164" formatCode="yyyy&quot;Day&quot;"/>'
        '<numFmt numFmtId="165" formatCode="0&quot;d&quot;"/></numFmts>'
        '<cellXfs><xf numFmtId="0"/><xf numFmtId="164"/><xf numFmtId="165"/></cellXfs>'
    )
    path = book(tmp_path / "a.xlsx", sheet, texts=texts, styles=styles)
    assert cells(path) == [
        ["Q0BLK", "True", "2026-11-02", "", "done"],
        ["0.5", "#N/A", "", "", "", "438.6125"],
    ]
    assert [row.line for row in open_table(path).rows()] == [5, 6]


def test_a_spreadsheet_that_counts_from_1904_and_one_with_prefixes(tmp_path):
    sheet = inline("call", "seen") + '<row><c t="inlineStr"><is><t>Q0BLK</t></is></c><c s="0"><v>44866</v></c></row>'
    styles = '<cellXfs><xf numFmtId="14"/></cellXfs>'
    path = book(tmp_path / "a.xlsx", sheet, styles=styles, workbook='<workbookPr date1904="1"/>')
    assert cells(path) == [["Q0BLK", "2026-11-02"]]
    prefixed = inline("call", "x").replace("<", "<m:").replace("<m:/", "</m:")
    prefixed += inline("Q0BLK", "y").replace("<", "<m:").replace("<m:/", "</m:")
    assert cells(book(tmp_path / "b.xlsx", prefixed, prefix="m")) == [["Q0BLK", "y"]]


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda path: book(path, inline("call", "x") + inline("y" * 400, "z") * 9_000), "larger than 1 MB"),
        (lambda path: book(path, inline("a", "b"), texts="<si><t>aaaaaaaa</t></si>" * 90_000), "larger than 1 MB"),
        (
            lambda path: book(path, '<row><c r="XFD1" t="inlineStr"><is><t>x</t></is></c></row>'),
            f"more than {MOST_CELLS:,} columns",
        ),
        (lambda path: book(path, inline("x" * 200_000, "y")), "longer than any"),
        (
            lambda path: book(path, "").write_bytes(b"PK\x03\x04" + b"x" * 90) and path,
            "not a readable spreadsheet",
        ),
    ],
)
def test_spreadsheets_too_large_for_a_directory(tmp_path, make, words, monkeypatch):
    monkeypatch.setattr(xlsx, "MOST_SHEET", 1_000_000)
    monkeypatch.setattr(xlsx, "MOST_STRINGS", 1_000_000)
    path = tmp_path / "a.xlsx"
    make(path)
    with pytest.raises(ReadError, match=words):
        cells(path)


def entities(inside, kind):
    defined = "".join(f'<!ENTITY {chr(98 + at)} "{f"&{chr(97 + at)};" * 10}">' for at in range(9))
    return f'<?xml version="1.0"?><!DOCTYPE {kind} [<!ENTITY a "AAAAAAAAAA">{defined}]>{inside}'


def test_files_that_define_entities_are_refused(tmp_path):
    gpx_text = entities('<gpx version="1.1"><wpt lat="1" lon="2"><name>&j;</name></wpt></gpx>', "gpx")
    (tmp_path / "a.gpx").write_text(gpx_text)
    for read in (open_table, read_track):
        with pytest.raises(ReadError, match="defines entities"):
            read(tmp_path / "a.gpx")


@pytest.mark.parametrize("read", [open_table, read_track])
@pytest.mark.parametrize(
    ("inside", "words"),
    [
        ('<wpt lat="91" lon="2"/><trkpt lat="91" lon="1"/>', "does not exist"),
        ('<wpt lon="2"/>', "missing 'lat'"),
        ('<wpt lat="x" lon="2"/>', "not a readable GPX"),
        ("<broken", "not a readable GPX"),
    ],
)
def test_points_that_are_none(tmp_path, read, inside, words):
    (tmp_path / "a.gpx").write_text(f'<gpx version="1.1">{inside}</gpx>')
    with pytest.raises(ReadError, match=words):
        read(tmp_path / "a.gpx")


def test_forms_that_are_too_large_are_refused_at_once(tmp_path, monkeypatch):
    for module, name in ((gpx, "a.gpx"), (records, "a.geojson")):
        monkeypatch.setattr(module, "MOST_FILE", 1_000)
        (tmp_path / name).write_text("<gpx>" + " " * 2_000 if name.endswith("gpx") else "{" + " " * 2_000)
        with pytest.raises(ReadError, match="larger than"):
            open_table(tmp_path / name)
    monkeypatch.setattr(table, "TABLE_BYTES", 1_000)
    (tmp_path / "a.csv").write_text("call,site\n" * 200)
    with pytest.raises(ReadError, match="larger than"):
        open_table(tmp_path / "a.csv")
    monkeypatch.setattr(table, "TABLE_BYTES", 100_000)
    monkeypatch.setattr(table, "MOST_ROWS", 50)
    with pytest.raises(ReadError, match="more than 50 lines"):
        cells(tmp_path / "a.csv")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('{"features":' + "[" * 100_000 + "]" * 100_000 + "}", "not a GeoJSON"),
        ('{"features":[{"properties":' + '{"a":' * 5_000 + "1" + "}" * 5_000 + "}]}", "not a GeoJSON"),
        (
            '{"features":[' + ",".join(f'{{"properties":{{"k{at}":1}}}}' for at in range(30_000)) + "]}",
            "more than 2,000 properties",
        ),
        ('{"features":[{"properties":[1]}]}', "not a GeoJSON"),
        ('{"features":5}', "not a GeoJSON"),
    ],
)
def test_geojson_that_is_too_deep_or_too_broad(tmp_path, text, words):
    (tmp_path / "a.geojson").write_text(text)
    with pytest.raises(ReadError, match=words):
        open_table(tmp_path / "a.geojson")


def test_rows_and_headings_of_too_many_columns(tmp_path):
    (tmp_path / "a.csv").write_text("call,site\n" + "," * 5_000 + "\nQ0BLK,Hill\n")
    rows = list(open_table(tmp_path / "a.csv").rows())
    assert "5,001 columns" in rows[0].fault
    assert rows[1].cells == ["Q0BLK", "Hill"]
    (tmp_path / "b.csv").write_text(",".join(["c"] * 3_000) + "\n1,2\n")
    with pytest.raises(ReadError, match="3,000 columns"):
        open_table(tmp_path / "b.csv")
    (tmp_path / "c.csv").write_text(",".join(["call"] * 400) + "\n" + ",".join(["x"] * 400) + "\n")
    headers = open_table(tmp_path / "c.csv").headers
    assert len(set(headers)) == 400
    assert headers[:3] == ["call", "call 2", "call 3"]


@pytest.mark.parametrize("name", ["UTFi8", "utf-7", "klingon"])
def test_an_encoding_that_nobody_knows_is_refused(tmp_path, name):
    (tmp_path / "a.gpx").write_text(f'<?xml version="1.0" encoding="{name}"?><gpx version="1.1"></gpx>')
    with pytest.raises(ReadError, match="not a readable GPX file"):
        read_track(tmp_path / "a.gpx")


@pytest.mark.parametrize("name", ["a.csv", "a.xlsx", "a.geojson", "a.gpx"])
def test_a_pipe_is_no_table(tmp_path, name):
    os.mkfifo(tmp_path / name)
    with pytest.raises(ReadError, match="no file"):
        open_table(tmp_path / name)
    with pytest.raises(ColumnsError, match="no file"):
        files_of([tmp_path / name])


def test_texts_of_settings_that_are_too_deep_or_hold_no_text():
    for text in ("a = " + "[" * 3_000 + "]" * 3_000, "\0", "a = '\ud800'".encode("utf-8", "replace").decode()):
        with pytest.raises(ProfileError):
            parse_profile(text)


@pytest.mark.parametrize(
    "data",
    [
        b'{"format":"umbra-awl plan","station":' + b'{"a":' * 20_000 + b"1" + b"}" * 20_000 + b"}",
        b"[" * 100_000,
        b'{"format":"umbra-awl plan","version":1,"station":{"identities":[{"key":"a","ids":[{"number":1,"suffix":"x"}]}]}}',
        b'{"format":"umbra-awl plan","version":1,"name":"\xed\xa0\x80"}',
        b'{"format":"umbra-awl plan","version":1,"station":{"region":9}}',
    ],
)
def test_plans_that_are_none_are_refused(data):
    with pytest.raises(PlanFormError):
        parse_plan(data)


@pytest.mark.night
def test_forty_thousand_doubled_keys_and_six_thousand_chained_steps_are_soon_gone_through(plan):
    from msgspec.structs import replace

    from umbra_awl.core.plan.check import structure_faults

    doubled = replace(
        plan, destinations=tuple(replace(plan.destinations[0], key=f"k{at // 2}") for at in range(40_000))
    )
    assert "Two entries" in structure_faults(doubled)[0]
    steps = tuple(Step(f"s{at}", f"S{at}", after=(f"s{at - 1}",) if at else ()) for at in range(6_000))
    chained = Plan(steps=steps[::-1])
    assert structure_faults(chained) == []
    from datetime import date

    drawn = chart(chained.steps, date(2026, 11, 24))
    assert [bar.step.key for bar in drawn.bars] == [f"s{at}" for at in range(6_000)]
    assert LEAST_DRAWS <= len(drawn.forecast.draws) < DRAWS
    ring = Plan(steps=(*steps[1:], replace(steps[0], after=("s5999",))))
    assert "and 5994 more wait for one another in a ring" in structure_faults(ring)[0]


def test_a_log_whose_lengths_are_no_numbers():
    assert calls_in_log("<call:" + "9" * 5_000 + ">Q0BLK<call:5>Q4WRN<CALL:3:S>Q9O") == ("Q4WRN", "Q9O")


# A store with a damaged page.


@pytest.fixture
def damaged(tmp_path):
    (tmp_path / "a.csv").write_text(
        "call,site,output MHz\n" + "".join(f"Q0A{at},Site {at},145.6\n" for at in range(400))
    )
    store = Store(tmp_path / "s.sqlite")
    read = open_table(tmp_path / "a.csv")
    take(store, read_incoming(store, read, guess(read, "access")), "2026-11-24T00:00:00")
    store.db.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    store.close()
    data = bytearray((tmp_path / "s.sqlite").read_bytes())
    for at in range(8_192, len(data) - 100, 4_096):
        data[at : at + 100] = b"\xff" * 100
    (tmp_path / "s.sqlite").write_bytes(data)
    return tmp_path / "s.sqlite"


def test_a_damaged_page_of_the_store_is_said_wherever_it_is_met(damaged):
    acts = (
        lambda store: list(store.all_entries()),
        lambda store: store.entry("a/Q0A1/site 1"),
        lambda store: search_people(store, "x"),
        lambda store: store.set_note("a", "b", "2026-11-24"),
        lambda store: store.counts(),
        lambda store: read_incoming(
            store, open_table(damaged.with_name("a.csv")), guess(open_table(damaged.with_name("a.csv")), "access")
        ),
    )
    faults = 0
    for act in acts:
        try:
            store = Store(damaged)
        except StoreFailedError as error:
            assert "damaged" in str(error) or "malformed" in str(error) or "cannot be" in str(error)
            faults += 1
            continue
        try:
            act(store)
        except SourceError as error:
            assert "Your plans are not in it" in str(error) or "could not be" in str(error)
            faults += 1
        finally:
            store.close()
    assert faults >= 3


def test_a_store_whose_entries_are_no_entries(tmp_path):
    (tmp_path / "a.csv").write_text("call,site,output MHz,input MHz\nQ0BLK,Hill,145.6,145.0\n")
    store = Store(tmp_path / "s.sqlite")
    read = open_table(tmp_path / "a.csv")
    take(store, read_incoming(store, read, guess(read, "access")), "2026-11-24T00:00:00")
    store.db.execute("UPDATE entry SET body = '{'")
    with pytest.raises(StoreFailedError, match="an entry is no entry"):
        list(store.all_entries())
    store.close()
    with pytest.raises(sqlite3.ProgrammingError):
        store.counts()


# A service that does not mean well.


@pytest.fixture
def hostile():
    """A service whose answers a test sets: path to a function that writes one."""
    answers = {}

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self):
            try:
                answers[self.path.lstrip("/")](self)
            except (BrokenPipeError, ConnectionResetError):
                self.close_connection = True

        def log_message(self, *_words):
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    server.daemon_threads = True
    thread = threading.Thread(target=server.serve_forever, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{server.server_port}", answers
    server.shutdown()
    server.server_close()
    thread.join(5)


def body(data, status=200, **headers):
    def answer(handler):
        handler.send_response(status)
        for name, value in headers.items():
            handler.send_header(name.replace("_", "-"), value)
        handler.end_headers()
        handler.wfile.write(data)

    return answer


def endless(chunk, pause=0.0):
    def answer(handler):
        handler.send_response(200)
        handler.end_headers()
        while True:
            handler.wfile.write(chunk)
            time.sleep(pause)

    return answer


def listed(*files):
    return body(json.dumps({"files": list(files)}).encode())


A_FILE = {"name": "a.csv", "what": "people", "size": 100, "sha256": "0" * 64}


@pytest.mark.parametrize(
    ("answer", "words"),
    [
        (endless(b'{"files":[' + b" " * 60_000), "more than any list"),
        (endless(b" ", pause=0.05), "has not finished"),
        (body(b"[" * 200_000), "not with a list"),
        (body(b'{"files":' + b'{"a":' * 20_000 + b"}" * 20_000), "not with a list"),
        (listed(*[A_FILE] * 600), "600 files"),
        (listed({**A_FILE, "size": "many"}), "not with a list"),
        (body(b"\xff\xfe"), "not with a list"),
        (body(b"", 302, Location="/index.json"), "from place to place"),
        (body(b"", 302, Location="file:///etc/passwd"), "another place"),
    ],
)
def test_lists_are_limited_in_size_depth_number_and_time(hostile, answer, words, monkeypatch):
    address, answers = hostile
    if words == "has not finished":  # on a busy machine the others would run into it as well
        monkeypatch.setattr(download, "_INDEX_S", 1.0)
    answers["index.json"] = answer
    with pytest.raises(DownloadError, match=words):
        offered(address)


def test_names_of_a_service_never_decide_where_a_file_goes(hostile):
    address, answers = hostile
    names = ["../../etc/passwd", "..", "/root/.bashrc", "a\0b", "", "x" * 400]
    answers["index.json"] = listed(*[{**A_FILE, "name": name} for name in names])
    for file in offered(address):
        assert "/" not in file.name
        assert "\0" not in file.name
        assert not file.name.startswith(".")
        assert 0 < len(file.name) <= 80


def test_a_download_stops_at_the_announced_size(hostile, tmp_path):
    address, answers = hostile
    answers["a.csv"] = endless(b"x" * 50_000)
    with pytest.raises(DownloadError, match="more than the 100 bytes it announced"):
        fetch(address, OfferedFile("a.csv", "people", "", 100, "0" * 64, ""), tmp_path)
    assert list(tmp_path.iterdir()) == []
