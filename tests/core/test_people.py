"""People of a registry: taken in one transaction, found while typing, undone."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from umbra_awl.core.directory.errors import ImportCancelledError, StoreFailedError
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people, undo_people
from umbra_awl.core.directory.people_search import anchors_of_people, page_from, page_of_people, search_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.tables.rows import Row, Table

HEADERS = ["id", "call", "name", "surname", "place", "country"]
LAYOUT = TableLayout("people", {name: name for name in HEADERS}, source="registry")
NOW = "2026-11-24T12:00:00"
FOLK = [
    ("9990001", "Q1ADA", "Ada", "Tern", "Stenby", "Velmar Isles"),
    ("9990002", "Q1BRA", "Bram", "Ternfell", "Oldmere", "Velmar Isles"),
    ("9990003", "Q2ADA", "Edda", "Größe", "Harrowquay", "Ostrand"),
]


@pytest.fixture
def store(tmp_path):
    made = Store(tmp_path / "directory.sqlite")
    yield made
    made.close()


def table(rows):
    return Table("people.csv", "csv", HEADERS, lambda: (Row(at, list(row)) for at, row in enumerate(rows, 2)))


def bring(store, rows, layout=LAYOUT):
    return import_people(store, table(rows), layout, NOW)


def everybody(store):
    return [(person.id, person.call, person.name) for person in page_of_people(store, 0, 1000)]


def test_people_are_taken(store):
    done = bring(store, FOLK)
    assert (done.rows, done.added, done.changed, done.vanished, done.report) == (3, 3, 0, 0, [])
    assert everybody(store)[0] == (9990001, "Q1ADA", "Ada Tern")


@pytest.mark.parametrize(
    ("text", "calls"),
    [
        ("Q1", ["Q1ADA", "Q1BRA"]),
        ("q2ada", ["Q2ADA"]),
        ("999", ["Q1ADA", "Q1BRA", "Q2ADA"]),
        ("9990002", ["Q1BRA"]),
        ("tern", ["Q1ADA", "Q1BRA"]),
        ("tern isles", ["Q1ADA", "Q1BRA"]),
        ("tern old", ["Q1BRA"]),
        ("grosse", ["Q2ADA"]),
        ("GRÖSSE harrow", []),
        ("größe harrow", ["Q2ADA"]),
        ("nobody", []),
        ("velmar", ["Q1ADA", "Q1BRA"]),
        ('"; DROP TABLE people', []),
        ("", ["Q1ADA", "Q1BRA", "Q2ADA"]),
    ],
)
def test_finding_while_typing(store, text, calls):
    bring(store, [*FOLK[:2], (*FOLK[2][:3], "Grosse" if text == "grosse" else "Größe", *FOLK[2][4:])])
    assert [person.call for person in search_people(store, text)] == calls


def test_bad_rows_are_refused_and_told(store):
    rows = [
        FOLK[0],
        ("", "Q1X", "", "", "", ""),
        ("12345678901", "Q1X", "", "", "", ""),
        ("9990009", "", "", "", "", ""),
        FOLK[0],
        ("9990010", "q1low"),
    ]
    done = bring(store, rows)
    assert [(line.line, line.what) for line in done.report] == [
        (3, "refused"),
        (4, "refused"),
        (5, "refused"),
        (6, "refused"),
    ]
    assert "on an earlier line" in done.report[-1].text
    assert not [line for line in done.report if "9990001" in line.text]  # IDs stay out of reports
    assert everybody(store) == [(9990001, "Q1ADA", "Ada Tern"), (9990010, "Q1LOW", "")]


def test_a_newer_file_replaces_its_source_and_tells_what_changed(store):
    bring(store, FOLK)
    bring(store, [("9990100", "Q9X", "Xan", "", "", "")], TableLayout("people", LAYOUT.columns, source="other"))
    done = bring(store, [FOLK[0], (*FOLK[1][:4], "Stenby", FOLK[1][5]), ("9990007", "Q7NEW", "New", "", "", "")])
    assert (done.added, done.changed, done.vanished) == (1, 1, 1)
    assert [person[1] for person in everybody(store)] == ["Q1ADA", "Q1BRA", "Q7NEW", "Q9X"]
    assert search_people(store, "edda") == []


def test_undo_brings_the_former_people_back_once(store):
    bring(store, FOLK)
    done = bring(store, FOLK[:1])
    undo_people(store, done.batch)
    assert len(everybody(store)) == 3
    assert [person.call for person in search_people(store, "edda")] == ["Q2ADA"]
    with pytest.raises(StoreFailedError, match="Only the newest"):
        undo_people(store, done.batch)
    with pytest.raises(StoreFailedError, match="Only the newest"):
        undo_people(store, done.batch - 1)


def test_cancelling_and_a_full_disk_leave_the_people_as_before(store):
    bring(store, FOLK)
    before = everybody(store)
    many = [(str(9_991_000 + at), f"Q1{at}", f"Name{at}", "Tern", "Stenby", "Isles") for at in range(9_000)]
    with pytest.raises(ImportCancelledError, match="as before"):
        import_people(store, table(many), LAYOUT, NOW, lambda _rows: None, lambda: True)
    assert everybody(store) == before
    pages = store.db.execute("PRAGMA page_count").fetchone()[0]
    store.db.execute(f"PRAGMA max_page_count = {pages + 20}")
    with pytest.raises(StoreFailedError, match="full"):
        bring(store, many)
    assert everybody(store) == before
    assert [person.call for person in search_people(store, "tern")] == ["Q1ADA", "Q1BRA"]


def test_pages_cost_the_same_everywhere(store):
    many = [(str(9_991_000 + 3 * at), f"Q1{at:04d}", "", "", "", "") for at in range(130)]
    bring(store, many)
    anchors = anchors_of_people(store, 50)
    assert len(anchors) == 3
    for page, first in enumerate(anchors):
        assert page_from(store, first, 50) == page_of_people(store, page * 50, 50)
    assert page_of_people(store, 0, 3, "call")[0].call == "Q10000"


IDS = st.integers(9_990_000, 9_990_030).map(str)
PEOPLE = st.lists(
    st.tuples(st.one_of(IDS, st.just("x")), st.sampled_from(["Q1AB", "Q2CD", ""]), st.sampled_from(["Ada", "Bram"])),
    max_size=12,
)


@given(PEOPLE, PEOPLE)
@settings(max_examples=25)
def test_counts_agree_with_the_tables(tmp_path_factory, older, newer):
    store = Store(tmp_path_factory.mktemp("people") / "s.sqlite")
    pad = [[(*row, "", "", "") for row in rows] for rows in (older, newer)]
    bring(store, pad[0])
    before = {person[0]: person[1:] for person in everybody(store)}
    done = bring(store, pad[1])
    after = {person[0]: person[1:] for person in everybody(store)}
    assert done.rows == len(after)
    assert done.added == len(after.keys() - before.keys())
    assert done.vanished == len(before.keys() - after.keys())
    assert done.changed == sum(before[key] != after[key] for key in before.keys() & after.keys())
    store.close()


@pytest.mark.parametrize("text", ["a_b", "1_2", "_", "é_x", "a_b c_d", 'a"b', "AND", "NEAR(", "a*", "٣_٤", "x²_y"])
def test_nothing_that_is_typed_breaks_the_search(store, text):
    assert isinstance(search_people(store, text), list)
