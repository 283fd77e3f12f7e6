"""The common ancestor among the dated saves, and merging told in words."""

import shutil
from datetime import datetime, timedelta

from msgspec.structs import replace

from umbra_awl.core.hands.ancestor import ancestor_of
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.hands.words import Wordings
from umbra_awl.core.plan.edit_access import remove_destination, set_air, set_service
from umbra_awl.core.plan.edits import rename_plan
from umbra_awl.core.plan.saves import history_folder
from umbra_awl.core.plan.store import Document, read_plan
from umbra_awl.demo.fresh import demo_plan

BASE = demo_plan()
NOW = datetime(2026, 11, 20, 18, 0)


def saved(path, *edits):
    """A plan file with a dated save for each edit."""
    document = Document.create(path, BASE)
    for at, edit in enumerate(edits):
        document.edit(edit)
        document.save(NOW + timedelta(hours=at))
    plan = document.plan
    document.close()
    return plan


def test_a_save_that_both_have_is_certain(tmp_path):
    mine = tmp_path / "mine.awl.json"
    saved(mine, rename_plan("One"))
    theirs = tmp_path / "theirs.awl.json"
    shutil.copy(mine, theirs)
    document = Document.open(mine)
    document.edit(rename_plan("Two"))
    document.save(NOW + timedelta(days=1))
    document.close()
    shutil.copytree(history_folder(mine), history_folder(theirs))
    found = ancestor_of(mine, theirs, read_plan(theirs))
    assert found.certain


def test_else_the_save_that_differs_least_from_theirs_is_taken(tmp_path):
    mine = tmp_path / "mine.awl.json"
    middle = set_air("blackfell-dmr", "x", color_code=7)
    saved(mine, rename_plan("One"), middle, remove_destination("exercise", "Exercise"))
    theirs = rename_plan("Theirs").apply(middle.apply(BASE))
    found = ancestor_of(mine, tmp_path / "theirs.awl.json", theirs)
    assert not found.certain
    assert found.plan.access == theirs.access
    assert "exercise" in {item.key for item in found.plan.destinations}
    assert ancestor_of(tmp_path / "none.awl.json", tmp_path / "theirs.awl.json", theirs) is None


def test_merging_is_told_thing_by_thing_in_words():
    mine = set_air("blackfell-dmr", "x", color_code=7).apply(BASE)
    theirs = set_air("blackfell-dmr", "x", color_code=8).apply(BASE)
    theirs = set_service("cairnlow-dmr", "x", tx_hz=431_187_500).apply(theirs)
    theirs = remove_destination("exercise", "Exercise").apply(theirs)
    theirs = replace(theirs, destinations=tuple(
        replace(item, number=99_909) if item.key == "isles-wide" else item for item in theirs.destinations
    ))  # fmt: skip
    found = merge(BASE, mine, theirs)
    said = Wordings(mine, theirs, BASE)
    assert [said.question(item) for item in found.questions] == [
        ("the access point Blackfell, DMR", "color code", "7", "8")
    ]
    told = [said.taken(item) for item in found.taken]
    assert "theirs: the destination Exercise removed" in told
    assert "theirs: the destination Isles-wide changed: number 99900 → 99909" in told
    assert any(("the access point Cairnlow" in text and "transmit" not in text) or "changed" in text for text in told)
    assert all("{" not in text and "_" not in text for text in told)
    assert "destination" in said.summary(found.taken, "theirs")
    assert said.summary(found.taken, "mine") == "nothing"
