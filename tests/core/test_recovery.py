"""What comes back from a journal, and what is told of what does not."""

import msgspec
import pytest
from msgspec.structs import replace

from tests.core.dying import kill, tear
from tests.days import LOCAL
from umbra_awl.core.plan.disk import journal
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.journal import Record, contents_of, record_line
from umbra_awl.core.plan.disk.patch import Patch, Span
from umbra_awl.core.plan.disk.recovery import replay
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, rename_plan
from umbra_awl.core.plan.model import Route

TORN = b'89abcdef {"kind":"edit","text":"Bring in 400 rou'


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


def aside(path):
    return sorted(item for item in path.parent.iterdir() if ".journal.aside" in item.name)


def edit_on(path, *names):
    document = Document.open(path, LOCAL)
    for name in names:
        document.edit(rename_plan(name))
    return document


def raw(value):
    return msgspec.Raw(msgspec.json.encode(value))


def test_a_torn_tail_is_cut_kept_and_counted(path):
    tear(edit_on(path, "A", "B"), TORN)
    document = Document.open(path, LOCAL)
    assert (document.plan.name, document.recovered) == ("B", 2)
    assert document.notes == (f"1 record at the journal's end could not be read; kept in “{aside(path)[0].name}”.",)
    assert aside(path)[0].read_bytes() == TORN
    document.close()


def test_edits_after_a_torn_tail_are_not_lost_by_the_next_kill(path):
    """New records must not lie behind the torn one, where the next opening does not look."""
    tear(edit_on(path, "A"), TORN)
    second = Document.open(path, LOCAL)
    for number in range(30):
        second.edit(rename_plan(f"Work {number}"))
    tear(second, TORN[:20])
    third = Document.open(path, LOCAL)
    assert (third.plan.name, third.recovered) == ("Work 29", 31)
    assert len(aside(path)) == 2
    third.close()


def test_the_same_torn_tail_is_kept_once(path):
    for _time in range(3):
        tear(edit_on(path, "A"), TORN)
    assert len(aside(path)) <= 1
    Document.open(path, LOCAL).close()
    assert len(aside(path)) == 1


@pytest.mark.parametrize("spoil", [lambda data: data[5:], lambda _data: b"\xff" * 90 + b"\n" + b"\0" * 40])
def test_a_journal_that_is_unreadable_from_its_first_line_is_told_never_dropped(path, spoil):
    kill(edit_on(path, "A", "B"))
    place = journal.journal_path(path)
    spoiled = spoil(place.read_bytes())
    place.write_bytes(spoiled)
    document = Document.open(path, LOCAL)
    assert document.recovered == 0
    assert "could not be read" in document.notes[0]
    assert aside(path)[0].read_bytes() == spoiled
    document.close()


def test_a_damaged_line_in_the_middle_takes_what_follows_aside_by_number(path):
    kill(edit_on(path, "A", "B", "C", "D"))
    place = journal.journal_path(path)
    lines = place.read_bytes().splitlines(keepends=True)
    place.write_bytes(b"".join([*lines[:2], lines[2].replace(b"B", b"X"), *lines[3:]]))
    document = Document.open(path, LOCAL)
    assert (document.plan.name, document.recovered) == ("A", 1)
    assert document.notes[0].startswith("3 records at the journal's end could not be read")
    document.close()


@pytest.mark.parametrize(
    ("patch", "why"),
    [
        (Patch({"proofs": Span(0, 0, raw([]))}), "which this version does not know"),
        (Patch({}, {"colour": raw("blue")}), "which this version does not know"),
        (Patch({"routes": Span(900, 1, raw([]))}), "does not fit"),
        (Patch({"routes": Span(0, 0, raw([{"service": 5}]))}), "does not belong there"),
        (Patch({"routes": Span(-1, 0, raw([]))}), "does not fit"),
        (Patch({"routes": Span(0, 0, raw([Route("nowhere", "local")]))}), "not in the plan"),
        (Patch({"routes": Span(0, 0, raw([Route("calling-fm", "local", 3)]))}), "only 1 and 2"),
    ],
)
def test_a_record_that_does_not_fit_is_told_and_the_ones_before_it_stay(path, patch, why):
    kill(edit_on(path, "A"))
    place = journal.journal_path(path)
    later = record_line(Record("edit", "later", Patch({}, {"name": raw("LateChoices")})))
    place.write_bytes(place.read_bytes() + record_line(Record("edit", "odd", patch)) + later)
    document = Document.open(path, LOCAL)
    assert (document.plan.name, document.recovered) == ("A", 1)
    assert document.notes[0].startswith("2 edits did not come back: ")
    assert why in document.notes[0]
    document.edit(rename_plan("B"))
    kill(document)
    again = Document.open(path, LOCAL)
    assert (again.plan.name, again.recovered, again.notes) == ("B", 2, ())
    again.close()


def test_a_journal_for_another_state_of_the_file_is_set_aside_with_its_count(path, plan):
    tear(edit_on(path, "A", "B"), TORN)
    path.write_bytes(plan_bytes(replace(plan, name="Outside")))
    document = Document.open(path, LOCAL)
    assert document.plan.name == "Outside"
    assert (
        "2 edits that belong to its earlier state and 1 record that could not be read were set aside"
        in document.notes[0]
    )
    document.close()


def test_edits_undone_before_the_end_leave_nothing_to_recover(path):
    document = edit_on(path, "A")
    document.undo()
    kill(document)
    again = Document.open(path, LOCAL)
    assert (again.recovered, again.unsaved, again.notes) == (0, False, ())
    again.close()


def test_a_journal_removed_while_it_is_open_is_made_anew_with_everything_unsaved(path):
    document = edit_on(path, "A")
    journal.journal_path(path).unlink()
    document.edit(rename_plan("B"))
    kill(document)
    again = Document.open(path, LOCAL)
    assert again.plan.name == "B"
    again.close()


def test_replay_stops_before_the_first_that_does_not_fit(plan):
    good = Record("edit", "", Patch({}, {"name": raw("A")}))
    bad = Record("edit", "", Patch({"zones": Span(99, 1, raw([]))}))
    replayed = replay(plan, [good, bad, good])
    assert (replayed.plan.name, replayed.done) == ("A", 1)
    assert "zones at 99" in replayed.why


def test_a_line_without_its_end_counts_as_torn():
    line = record_line(Record("base", "x"))
    assert contents_of(line + line[:-1]) == ([Record("base", "x")], len(line), 1)


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda plan: replace(plan, name="bad \ud800"), r"U\+D800"),
        (lambda plan: replace(plan, station=replace(plan.station, lat=float("nan"))), "would not come back"),
        (lambda plan: replace(plan, station=replace(plan.station, lat=float("inf"))), "would not come back"),
        (lambda plan: replace(plan, routes=(*plan.routes, Route("calling-fm", "local", 3))), "only 1 and 2"),
        (lambda plan: replace(plan, routes=(*plan.routes, plan.routes[0])), "Two entries"),
        (lambda plan: replace(plan, access=()), "not in the plan"),
    ],
)
def test_an_edit_that_could_not_be_opened_again_is_refused_and_changes_nothing(path, make, why):
    document = Document.open(path, LOCAL)
    before = document.plan
    with pytest.raises(EditRefused, match=why):
        document.edit(Edit("Spoil", make))
    assert document.plan is before
    document.edit(rename_plan("After"))
    kill(document)
    again = Document.open(path, LOCAL)
    assert again.plan.name == "After"
    again.close()
