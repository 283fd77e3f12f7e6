"""The store: imports in one transaction, merges that keep what is the operator's, undo; nothing half done."""

import json
import sqlite3
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from umbra_awl.core.directory.errors import ImportCancelledError, StoreFailedError
from umbra_awl.core.directory.importing import read_incoming, report_csv, take, undo_import
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.private import differences, field_words, with_edits
from umbra_awl.core.directory.store import Store, encoded
from umbra_awl.core.directory.targets import import_targets, search_targets, undo_targets
from umbra_awl.core.plan.model import AccessPoint, FmAir, Service
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.core.tables.table import open_table

NASTY = Path(__file__).parents[1] / "data" / "nasty.csv"
NOW = "2026-11-24T12:00:00"
HEADERS = ["call", "site", "rx", "offset", "tone", "lat", "lon", "confirmed"]
LAYOUT = TableLayout("access", {name: name for name in HEADERS}, source="club")


@pytest.fixture
def store(tmp_path):
    made = Store(tmp_path / "directory.sqlite")
    yield made
    made.close()


def table(rows, name="club.csv"):
    return Table(name, "csv", HEADERS, lambda: (Row(at, list(row)) for at, row in enumerate(rows, 2)))


def bring(store, rows, **more):
    return take(store, read_incoming(store, table(rows), LAYOUT), NOW, **more)


def dump(store):
    """Everything that an import may touch, look-ups included."""
    queries = (
        "SELECT key, body, own, call, site, lat, lon, modes, bands, confirmed, gone, batch FROM entry ORDER BY key",
        "SELECT entry.key, rx_hz FROM output JOIN entry ON entry.id = output.entry ORDER BY 1, 2",
        "SELECT entry.key, min_lat, max_lon FROM entry_box JOIN entry USING (id) ORDER BY 1",
        "SELECT entry.key, words FROM entry_words JOIN entry ON entry.id = entry_words.rowid ORDER BY 1",
        "SELECT key, field, value FROM private ORDER BY 1, 2",
        "SELECT key, text FROM note ORDER BY 1",
    )
    return [store.db.execute(query).fetchall() for query in queries]


HILL = ("Q0BLK", "Blackfell", "145.7125", "-0.6", "103.5", "46.52", "-31.05", "2026-01-01")
CAIRN = ("Q0NES", "Cairnlow", "438.7875", "+7.6", "", "46.61", "-30.78", "2025-01-01")
OSS = ("Q0OSS", "Little Oss", "145.6375", "-0.6", "", "46.38", "-30.96", "")


def test_an_import_tells_what_it_would_do_and_changes_nothing(store):
    before = dump(store)
    incoming = read_incoming(store, table([HILL, CAIRN]), LAYOUT)
    assert [incoming.count(kind) for kind in ("added", "changed", "vanished")] == [2, 0, 0]
    assert dump(store) == before
    take(store, incoming, NOW)
    assert [entry.access.call for entry in store.all_entries()] == ["Q0BLK", "Q0NES"]
    assert store.counts()["access"] == 2


def test_a_newer_file_shows_added_changed_vanished(store):
    bring(store, [HILL, CAIRN])
    newer = ("Q0NES", "Cairnlow", "438.7875", "-7.6", "", "46.61", "-30.78", "2026-10-01")
    incoming = read_incoming(store, table([newer, OSS]), LAYOUT)
    changes = {change.label: change for change in incoming.changes}
    assert {label: change.kind for label, change in changes.items()} == {
        "Q0NES Cairnlow": "changed",
        "Q0OSS Little Oss": "added",
        "Q0BLK Blackfell": "vanished",
    }
    assert changes["Q0NES Cairnlow"].fields == {
        "confirmed": ("2025-01-01", "2026-10-01"),
        "fm-438/tx_hz": (446_387_500, 431_187_500),
    }
    take(store, incoming, NOW)
    assert store.entry("club/Q0BLK/blackfell").gone == "2026-11-24"
    again = read_incoming(store, table([HILL, newer, OSS]), LAYOUT)
    assert [(change.label, change.fields) for change in again.changes] == [
        ("Q0BLK Blackfell", {"listed": ("vanished", "again")})
    ]
    take(store, again, NOW)
    assert store.entry("club/Q0BLK/blackfell").gone == ""


def test_private_edits_and_notes_win_until_given_up(store):
    bring(store, [CAIRN])
    key = "club/Q0NES/cairnlow"
    store.set_edit(key, "fm-438/tx_hz", 431_187_500, NOW)
    store.set_edit(key, "site", "Cairn", NOW)
    store.set_note(key, "Ask the club", NOW)
    newer = ("Q0NES", "Cairnlow", "438.7875", "+7.6", "77.0", "46.61", "-30.78", "2026-10-01")
    incoming = read_incoming(store, table([newer]), LAYOUT)
    assert set(incoming.changes[0].held) == {"fm-438/tx_hz", "site"}
    take(store, incoming, NOW)
    entry = store.entry(key)
    assert (entry.access.site, entry.access.services[0].tx_hz, entry.note, entry.edited) == (
        "Cairn",
        431_187_500,
        "Ask the club",
        True,
    )
    assert entry.access.services[0].air.tone_tx == "77.0"
    assert store.imported(key).site == "Cairnlow"
    third = read_incoming(store, table([(*newer[:4], "88.5", *newer[5:])]), LAYOUT)
    batch = take(store, third, NOW, [key])
    entry = store.entry(key)
    assert (entry.access.site, entry.edited, entry.note) == ("Cairnlow", False, "Ask the club")
    undo_import(store, batch)
    assert store.entry(key).access.site == "Cairn"


def test_an_empty_edit_takes_it_back(store):
    bring(store, [CAIRN])
    before = dump(store)
    store.set_edit("club/Q0NES/cairnlow", "lat", 40.0, NOW)
    assert store.entry("club/Q0NES/cairnlow").access.lat == 40.0
    store.set_edit("club/Q0NES/cairnlow", "lat", None, NOW)
    assert dump(store) == before


def test_undo_brings_back_what_was(store):
    bring(store, [HILL, CAIRN])
    store.set_edit("club/Q0NES/cairnlow", "site", "Cairn", NOW)
    before = dump(store)
    batch = bring(store, [("Q0NES", "Cairnlow", "438.7875", "-7.6", "", "46.61", "-30.78", ""), OSS])
    assert dump(store) != before
    with pytest.raises(StoreFailedError, match="Undo that one first"):
        undo_import(store, batch - 1)
    undo_import(store, batch)
    assert dump(store) == before
    with pytest.raises(StoreFailedError, match="not there any more"):
        undo_import(store, batch)
    undo_import(store, batch - 1)
    assert store.counts()["access"] == 0


def test_sources_do_not_touch_one_another(store):
    bring(store, [HILL])
    other = replace(LAYOUT, source="other")
    take(store, read_incoming(store, table([CAIRN]), other), NOW)
    assert store.counts()["access"] == 2
    assert store.sources("access") == ["other", "club"]
    assert not [entry for entry in store.all_entries() if entry.gone]


def test_rows_given_twice_and_bad_rows_are_reported(store):
    incoming = read_incoming(store, table([HILL, HILL, ("", "", "1", "", "", "", "", "")]), LAYOUT)
    assert incoming.rows == 2
    assert [(line.line, line.what) for line in incoming.report] == [
        (1, "mended"),
        (1, "mended"),
        (3, "mended"),
        (4, "refused"),
    ]
    assert report_csv(incoming.report).splitlines()[0] == "line,what,why or how"
    assert "joined with the first" in report_csv(incoming.report)


def test_cancelling_takes_nothing(store):
    rows = [HILL] * 2_000
    asked = []
    with pytest.raises(ImportCancelledError, match="nothing was taken"):
        read_incoming(store, table(rows), LAYOUT, asked.append, lambda: len(asked) > 2)
    assert asked == [0, 500, 1000]
    assert store.counts()["access"] == 0


def test_a_full_disk_in_the_middle_leaves_the_store_as_before(store):
    bring(store, [HILL])
    before = dump(store)
    rows = [(f"Q{at % 10}AAA", f"Site {at}", "145.7", "-0.6", "", "46", "-31", "") for at in range(3_000)]
    incoming = read_incoming(store, table(rows), LAYOUT)
    pages = store.db.execute("PRAGMA page_count").fetchone()[0]
    store.db.execute(f"PRAGMA max_page_count = {pages + 8}")
    with pytest.raises(StoreFailedError, match=r"full.*as before. Make room"):
        take(store, incoming, NOW)
    assert dump(store) == before
    assert [batch.file for batch in store.batches()] == ["club.csv"]
    store.db.execute("PRAGMA max_page_count = 1000000")
    take(store, incoming, NOW)
    assert store.counts()["access"] == 3_001


def test_two_stores_on_one_file_see_only_whole_imports(store, tmp_path):
    reader = Store(tmp_path / "directory.sqlite")
    with store.writing() as db:
        db.execute("INSERT INTO note VALUES ('k', 'text', '')")
        assert reader.db.execute("SELECT count(*) FROM note").fetchone()[0] == 0
    assert reader.db.execute("SELECT count(*) FROM note").fetchone()[0] == 1
    reader.close()


def test_what_is_no_store_is_refused(tmp_path):
    path = tmp_path / "other.sqlite"
    path.write_bytes(b"this is not a database at all, but long enough to be looked at" * 20)
    with pytest.raises(StoreFailedError, match="Move the file away"):
        Store(path)
    newer = tmp_path / "newer.sqlite"
    with sqlite3.connect(newer) as db:
        db.execute("PRAGMA user_version = 99")
    with pytest.raises(StoreFailedError, match="newer version"):
        Store(newer)


def test_the_nasty_file_as_a_whole(store):
    found = open_table(NASTY)
    incoming = read_incoming(store, found, guess(found))
    assert (incoming.rows, incoming.lines("refused"), incoming.count("added")) == (9, 1, 8)
    assert {line.line: line.text for line in incoming.report if line.what == "refused"} == {9: "It has no frequency."}
    take(store, incoming, NOW)
    pairs = {
        entry.access.site: [(service.rx_hz, service.tx_hz) for service in entry.access.services]
        for entry in store.all_entries()
    }
    assert pairs["Blackfell"] == [(438_612_500, 431_012_500), (145_712_500, 145_112_500)]
    assert pairs["Harrowquay"] == [(439_250_000, 431_650_000)]
    assert pairs["Little Oss"] == [(145_637_500, 145_037_500)]
    assert pairs["Torrick Head"] == [(438_900_000, 431_300_000)] * 2
    assert pairs["Cairnlow"] == [(438_787_500, 446_387_500)]


ROWS = st.lists(
    st.tuples(
        st.sampled_from(["Q0BLK", "Q0NES", "Q0OSS", ""]),
        st.sampled_from(["Hill", "Cairn", "Quay", ""]),
        st.sampled_from(["145.7125", "438.7875", "438.8", "nothing"]),
        st.sampled_from(["-0.6", "-7.6", "+7.6", "", "sideways"]),
        st.sampled_from(["", "88.5", "103.4"]),
        st.sampled_from(["46.5", "", "95"]),
        st.sampled_from(["-31", "", "500"]),
        st.sampled_from(["", "2026-01-01", "soon"]),
    ),
    max_size=6,
)


@given(ROWS, ROWS, st.sampled_from(["site", "lat", "fm-438/tx_hz", "confirmed"]))
@settings(max_examples=25)
def test_merging_keeps_private_edits_and_undo_is_exact(tmp_path_factory, older, newer, field):
    store = Store(tmp_path_factory.mktemp("merge") / "s.sqlite")
    bring(store, older)
    value = {"site": "Mine", "lat": 1.5, "fm-438/tx_hz": 431_000_000, "confirmed": "2020-02-02"}[field]
    for entry in list(store.all_entries()):
        store.set_edit(entry.key, field, value, NOW)
        store.set_note(entry.key, "mine", NOW)
    before = dump(store)
    edits = {entry.key: store.edits_of(entry.key) for entry in store.all_entries()}
    batch = bring(store, newer)
    for key, held in edits.items():
        entry = store.entry(key)
        assert store.edits_of(key) == held
        assert entry.note == "mine"
        assert entry.access == with_edits(store.imported(key), held)
    undo_import(store, batch)
    assert dump(store) == before
    store.close()


@given(ROWS, ROWS)
@settings(max_examples=25)
def test_an_import_twice_is_an_import_once(tmp_path_factory, older, newer):
    store = Store(tmp_path_factory.mktemp("twice") / "s.sqlite")
    bring(store, older)
    bring(store, newer)
    again = read_incoming(store, table(newer), LAYOUT)
    assert again.changes == []
    store.close()


def test_differences_name_every_field():
    one = AccessPoint("", "Q0BLK", "Hill", services=(Service("fm-145", 145_700_000, 145_100_000, FmAir("88.5")),))
    other = replace(
        one,
        place="Isle",
        services=(Service("fm-145", 145_700_000, 145_100_000, FmAir("77.0")), Service("fm-438", 1, 2, FmAir())),
    )
    found = differences(one, other)
    assert found == {"place": ("", "Isle"), "fm-145/air/tone_tx": ("88.5", "77.0"), "fm-438": (None, "there")}
    assert [field_words(path) for path in found] == ["place", "FM tone", "FM service"]
    assert json.loads(encoded(one))["call"] == "Q0BLK"


# talk groups, reflectors and rooms


def test_destinations_are_taken_and_undone(store):
    headers = ["network", "number", "name", "kind"]
    layout = TableLayout("destinations", {name: name for name in headers}, source="list")
    rows = [
        ("Lattice", "99900", "Isles-wide", "group"),
        ("Skein", "", "VLR001 A", ""),
        ("Commons", "40010", "Velmar Commons", "room"),
    ]
    bad = [("Lattice", "16777215", "All", "group"), ("Lattice", "", "", "group")]

    def made(items):
        return Table("list.csv", "csv", headers, lambda: (Row(at, list(item)) for at, item in enumerate(items, 2)))

    done = import_targets(store, made(rows + bad), layout, NOW)
    assert (done.added, [line.line for line in done.report]) == (3, [5, 6])
    assert "all-call" in done.report[0].text
    assert [(item.kind, item.name) for item in search_targets(store, "")] == [
        ("room", "Velmar Commons"),
        ("group", "Isles-wide"),
        ("reflector", "VLR001 A"),
    ]
    assert [item.name for item in search_targets(store, "999")] == ["Isles-wide"]
    assert search_targets(store, "100%_") == []
    again = import_targets(store, made(rows[:1]), layout, NOW)
    assert again.vanished == 2
    undo_targets(store, again.batch)
    assert len(search_targets(store, "")) == 3
