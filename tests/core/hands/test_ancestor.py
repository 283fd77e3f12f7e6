"""The common ancestor among the dated saves, and merging told in words."""

import shutil
from datetime import datetime, timedelta

from hypothesis import given, settings
from msgspec.structs import replace

from tests.core.hands.test_merge import changed
from tests.days import LOCAL, TODAY
from umbra_awl.core.hands.ancestor import ancestor_of, told_by_saves
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.hands.words import Wordings
from umbra_awl.core.plan.disk.saves import history_folder
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edit_access import remove_destination, set_air, set_service
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.demo.fresh import demo_plan

BASE = demo_plan(TODAY)
NOW = datetime(2026, 11, 20, 18, 0)


def saved(path, *edits):
    """A plan file with a dated save for each edit."""
    document = Document.create(path, BASE, LOCAL)
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
    document = Document.open(mine, LOCAL)
    document.edit(rename_plan("Two"))
    document.save(NOW + timedelta(days=1))
    document.close()
    shutil.copytree(history_folder(mine), history_folder(theirs))
    found = ancestor_of(mine, read_plan(mine), theirs, read_plan(theirs))
    assert found.certain


def test_without_one_my_saves_tell_what_i_changed_and_what_they_did(tmp_path):
    mine = tmp_path / "mine.awl.json"
    plan = saved(
        mine,
        rename_plan("One"),
        set_air("blackfell-dmr", "x", color_code=7),
        remove_destination("exercise", "Exercise"),
    )
    theirs = set_service("cairnlow-dmr", "x", tx_hz=431_187_500).apply(BASE)
    found = ancestor_of(mine, plan, tmp_path / "theirs.awl.json", theirs)
    assert not found.certain
    merged = merge(found.plan, plan, theirs)
    assert merged.questions == ()
    assert merged.plan.name == "One"
    services = {item.key: item for access in merged.plan.access for item in access.services}
    assert services["blackfell-dmr"].air.color_code == 7
    assert services["cairnlow-dmr"].tx_hz == 431_187_500
    assert "exercise" not in {item.key for item in merged.plan.destinations}
    assert ancestor_of(tmp_path / "none.awl.json", plan, tmp_path / "theirs.awl.json", theirs) is None


def test_what_both_changed_is_asked_even_where_my_latest_save_is_nearer_to_theirs(tmp_path):
    mine = tmp_path / "mine.awl.json"
    plan = saved(mine, rename_plan("Same"), set_air("blackfell-dmr", "x", color_code=7))
    theirs = set_air("blackfell-dmr", "x", color_code=8).apply(rename_plan("Same").apply(BASE))
    found = ancestor_of(mine, plan, tmp_path / "theirs.awl.json", theirs)
    assert [item.path[-1] for item in merge(found.plan, plan, theirs).questions] == ["color_code"]


@given(changed(), changed(), changed())
@settings(max_examples=25)
def test_nothing_that_both_sides_changed_is_taken_in_silence(base, mine, theirs):
    """Whatever the true ancestor was, as long as it is among the saves: what it would ask is asked, or was the same all along."""
    told = told_by_saves([base], mine, theirs)
    asked = {item.path for item in merge(told, mine, theirs).questions}
    truly = {item.path for item in merge(base, mine, theirs).questions}
    assert truly <= asked
    again = told_by_saves([base, mine], mine, theirs)
    assert truly <= {item.path for item in merge(again, mine, theirs).questions}


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
