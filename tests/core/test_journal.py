"""Differences of plans as the journal holds them, and the journal's own file: appended, cut, begun anew, removed."""

import os

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.dying import kill
from tests.days import LOCAL
from umbra_awl.core.plan.disk import journal as journals
from umbra_awl.core.plan.disk import patch as patches
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.journal import (
    Journal,
    Record,
    contents_of,
    digest,
    edits_since,
    journal_path,
    parse_line,
    record_line,
)
from umbra_awl.core.plan.disk.patch import Patch, PatchError, Span, apply, changed_span, check, difference
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Network, Plan

KEYS = st.lists(st.sampled_from("abc"), max_size=6).map("".join)


def nets(keys):
    return tuple(Network(key, key, "dmr") for key in keys)


def span_of(old, new):
    found = difference(Plan(networks=nets(old)), Plan(networks=nets(new))).spans.get("networks")
    return found and (found.at, found.gone, "".join(item["key"] for item in msgspec.json.decode(found.new)))


@pytest.mark.parametrize(
    ("old", "new", "span"),
    [
        ("abc", "abc", None),
        ("", "a", (0, 0, "a")),
        ("a", "", (0, 1, "")),
        ("abc", "xabc", (0, 0, "x")),
        ("abc", "abcx", (3, 0, "x")),
        ("abc", "axbc", (1, 0, "x")),
        ("abc", "axc", (1, 1, "x")),
        ("abc", "ac", (1, 1, "")),
        ("abc", "bc", (0, 1, "")),
        ("abc", "ab", (2, 1, "")),
        ("aa", "a", (1, 1, "")),
        ("a", "aa", (1, 0, "a")),
        ("aba", "aca", (1, 1, "c")),
        ("abcd", "xbcy", (0, 4, "xbcy")),
    ],
)
def test_a_difference_is_the_shortest_single_span(old, new, span):
    assert span_of(old, new) == span


@given(KEYS, KEYS)
def test_a_difference_leads_there_and_says_nothing_of_what_is_the_same(old, new):
    before, after = Plan(name="x", networks=nets(old)), Plan(name="x", networks=nets(new))
    patch = difference(before, after)
    assert apply(before, patch) == after
    start, end = changed_span(tuple(old), tuple(new))
    assert old[:start] == new[:start]
    assert old[len(old) - end :] == new[len(new) - end :]
    assert (patch == Patch()) is (old == new)
    assert not patch.whole


def test_equal_values_that_are_other_objects_are_the_same():
    old, new = Plan(networks=nets("ab")), Plan(networks=nets("ab"))
    assert difference(old, new) == Patch()
    assert list(difference(old, replace(new, name="N")).whole) == ["name"]


@pytest.mark.parametrize(
    ("at", "gone", "fits"),
    [
        (0, 0, True),
        (2, 0, True),
        (0, 2, True),
        (1, 1, True),
        (3, 0, False),
        (2, 1, False),
        (0, 3, False),
        (-1, 1, False),
        (1, -1, False),
    ],
)
def test_a_span_fits_inside_the_items_there_are(at, gone, fits):
    plan, patch = Plan(networks=nets("ab")), Patch({"networks": Span(at, gone, msgspec.Raw(b"[]"))})
    if fits:
        assert apply(plan, patch).networks == (*nets("ab")[:at], *nets("ab")[at + gone :])
    else:
        with pytest.raises(PatchError, match=f"a change of networks at {at} does not fit 2 items"):
            apply(plan, patch)


@pytest.mark.parametrize(("name", "words"), [("\ud800", r"\(U\+D800\)"), (object(), "no file can hold")])
def test_what_no_file_can_hold_is_refused(name, words):
    with pytest.raises(PatchError, match=words):
        difference(Plan(), replace(Plan(), name=name))


def test_what_would_not_come_back_is_named_by_its_collections():
    new = replace(Plan(), networks=(replace(nets("a")[0], name=float("nan")),), name="other")
    with pytest.raises(PatchError, match=r"belong there|networks, name"):
        check(Plan(), new, difference(Plan(), new))


# The file.


@pytest.fixture
def path(tmp_path):
    return tmp_path / "wren.awl.json"


@pytest.fixture
def journal(path):
    made = Journal(path)
    yield made
    os.close(made._handle)


def records(journal):
    return contents_of(journal.read())


def test_a_line_is_read_back_and_any_change_of_it_is_none():
    line = record_line(Record("edit", "Café"))
    assert parse_line(line.rstrip(b"\n")) == Record("edit", "Café")
    for at in range(len(line) - 1):
        assert parse_line(line[:at] + bytes([line[at] ^ 4]) + line[at + 1 : -1]) is None
    assert parse_line(b"0" + line.rstrip(b"\n")) is None


def test_contents_count_what_cannot_be_read():
    good = record_line(Record("base", "x"))
    assert contents_of(b"") == ([], 0, 0)
    assert contents_of(good) == ([Record("base", "x")], len(good), 0)
    assert contents_of(b"\n" + good) == ([], 0, 1)
    assert contents_of(good + b"bad\n\nworse\n" + good[:-1]) == ([Record("base", "x")], len(good), 3)


def test_edits_count_from_the_last_state_that_is_the_files():
    edits = [Record("edit", str(at)) for at in range(3)]
    found = [Record("base", "s0"), edits[0], Record("saving", "s1"), edits[1], Record("saving", "s0"), edits[2]]
    assert edits_since(found, "s0") == edits[2:]
    assert edits_since(found, "s1") == edits[1:]
    assert edits_since(found, "s9") is None
    assert edits_since([Record("edit", "s1")], "s1") is None


def test_records_follow_each_other_and_a_start_forgets_them(journal):
    journal.start("s0")
    journal.append("Name it", Plan(), Plan(name="A"))
    journal.saving("s1")
    journal.put(Record("edit", "again"))
    kinds = [(item.kind, item.text) for item in records(journal).records]
    assert kinds == [("base", "s0"), ("edit", "Name it"), ("saving", "s1"), ("edit", "again")]
    journal.start("s2")
    assert records(journal).records == [Record("base", "s2")]


def test_cutting_leaves_so_many_bytes(journal):
    journal.start("s0")
    before = journal.read()
    journal.put(Record("edit", "x"))
    journal.cut(len(before))
    assert journal.read() == before


def test_a_long_journal_is_read_whole_and_not_beyond_the_limit(journal, monkeypatch):
    data = bytes(range(256)) * 10_000
    os.write(journal._handle, data)
    assert journal.read() == data
    monkeypatch.setattr(journals, "JOURNAL_BYTES", 1_500_000)
    assert journal.read() == data[:1_500_000]


@pytest.mark.parametrize("short", [True, False])
def test_a_record_that_does_not_go_in_whole_leaves_nothing_of_it(journal, monkeypatch, short):
    journal.start("s0")
    before, real = journal.read(), os.write

    def full(handle, data):
        written = real(handle, data[:7])
        if short:
            return written
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "write", full)
    with pytest.raises(OSError, match="No space left"):
        journal.put(Record("edit", "lost"))
    assert journal.read() == before


def test_an_edit_that_would_not_come_back_is_not_written(journal):
    journal.start("s0")
    before = journal.read()
    with pytest.raises(PatchError):
        journal.append("x", Plan(), replace(Plan(), name="\ud800"))
    assert journal.read() == before
    journal.append("odd \ud800 sentence", Plan(), Plan(name="A"))
    assert records(journal).records[-1].text == "odd ? sentence"


def test_closing_keeps_the_file_unless_it_is_told(path):
    for remove, there in ((None, True), (False, True), (True, False)):
        made = Journal(path)
        made.close(**({} if remove is None else {"remove": remove}))
        assert journal_path(path).exists() is there


def test_closing_removes_no_file_of_another(path):
    made = Journal(path)
    journal_path(path).unlink()
    journal_path(path).write_text("another's")
    assert not made.there
    made.close(remove=True)
    assert journal_path(path).read_text() == "another's"


def test_syncing_reaches_the_disk(journal, monkeypatch):
    reached = []
    monkeypatch.setattr(os, "fsync", reached.append)
    journal.sync()
    assert reached == [journal._handle]


def test_a_digest_tells_states_apart():
    states = [b"", b"\0", b"\0\0", b"a", b"b", b"ab", b"ba"]
    assert len({digest(state) for state in states}) == len(states)


# With the plan.


@pytest.fixture
def on_disk(path, plan):
    path.write_bytes(plan_bytes(plan))
    return path


def test_a_kill_between_the_saving_record_and_the_short_journal_loses_nothing(on_disk, monkeypatch):
    """The file has its new bytes, the journal still the old beginning: only the “saving” record tells what is in it."""
    document = Document.open(on_disk, LOCAL)
    document.edit(rename_plan("A"))
    monkeypatch.setattr(Journal, "start", lambda *_: (_ for _ in ()).throw(OSError("killed")))
    from datetime import datetime

    document.save(datetime(2026, 11, 24))
    document.edit(rename_plan("B"))
    kill(document)
    monkeypatch.undo()
    again = Document.open(on_disk, LOCAL)
    assert (again.plan.name, again.recovered, again.notes) == ("B", 1, ())
    again.close()


def test_a_journal_of_another_state_begins_anew_so_that_the_next_edits_count(on_disk, plan):
    document = Document.open(on_disk, LOCAL)
    document.edit(rename_plan("A"))
    kill(document)
    on_disk.write_bytes(plan_bytes(replace(plan, name="Outside")))
    document = Document.open(on_disk, LOCAL)
    assert document.notes[0].startswith(
        "The plan file was changed outside. 1 edit that belongs to its earlier state were"
    )
    document.edit(rename_plan("B"))
    kill(document)
    again = Document.open(on_disk, LOCAL)
    assert (again.plan.name, again.recovered, again.notes) == ("B", 1, ())
    again.close()


def test_what_is_kept_aside_is_for_its_owner_alone(on_disk):
    document = Document.open(on_disk, LOCAL)
    kill(document)
    journal_path(on_disk).write_bytes(b"no journal at all\n")
    document = Document.open(on_disk, LOCAL)
    assert document.notes[0].startswith("The journal could not be read (1 record); it is kept in")
    (kept,) = on_disk.parent.glob("*.aside *")
    assert kept.stat().st_mode & 0o777 == 0o600
    document.close()
    assert patches.WHOLE == ("name", "station", "names", "evening")
