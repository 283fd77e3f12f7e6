"""Plans from many hands in the window: merging by keyboard, a club followed, a pack made and taken, all of it undone."""

import zipfile

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.core.hands.followed import followed_by
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.edit.edit_access import remove_destination, set_air
from umbra_awl.core.plan.edit.edit_station import set_station
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Licence, Use
from umbra_awl.core.plan.permit import transmit_state
from umbra_awl.desk.hands import actions
from umbra_awl.desk.hands.merge_window import Base, MergeSource, MergeWindow
from umbra_awl.desk.parts.saving import FilePlace


@pytest.fixture
def said(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    return told


@pytest.fixture
def opened(demo_window, monkeypatch):
    """Merge windows that are opened, without waiting for them."""
    made = []
    monkeypatch.setattr(MergeWindow, "exec", lambda self: made.append(self) or 0)
    return made


def window_on(demo_window, theirs, base=None):
    bench = demo_window.bench
    made = MergeWindow(
        bench, demo_window.theme, demo_window, MergeSource("theirs", theirs, [Base("a save", base or bench.plan)])
    )
    made.show()
    return made


def test_questions_are_answered_by_keyboard_and_all_is_one_step(demo_window, qtbot):
    bench, base = demo_window.bench, demo_window.bench.plan
    theirs = remove_destination("exercise", "Exercise").apply(set_air("blackfell-dmr", "x", color_code=8).apply(base))
    theirs = rename_plan("Theirs").apply(theirs)
    bench.do(set_air("blackfell-dmr", "x", color_code=7))
    bench.do(rename_plan("Mine"))
    mine = bench.plan
    made = window_on(demo_window, theirs, base)
    assert [item.path[-1] for item in made.found.questions] == ["name", "color_code"]
    assert not made.go.isEnabled()
    assert "Answer 2 questions" in made.go.text()
    made.questions.setFocus()
    made.questions.choose(0)
    QTest.keyClick(made.questions, Qt.Key.Key_M)
    QTest.keyClick(made.questions, Qt.Key.Key_T)
    assert made.questions.text(0, 4) == "yours"
    assert made.questions.text(1, 4) == "theirs"
    assert "destination" in made.came.text()
    assert "can be opened" in made.checks.text()
    made.go.click()
    assert bench.plan.name == "Mine"
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 8
    assert "exercise" not in bench.index.destinations
    bench.steps.back()
    assert bench.plan == mine


def test_an_edit_meanwhile_is_merged_too_and_closing_takes_nothing(demo_window):
    bench, base = demo_window.bench, demo_window.bench.plan
    made = window_on(demo_window, rename_plan("Theirs").apply(base), base)
    assert made.found.questions == ()
    bench.do(rename_plan("Mine"))
    assert [item.path for item in made.found.questions] == [("name",)]
    made.answer_rest("theirs")
    made.reject()
    assert bench.plan.name == "Mine"
    bench.do(rename_plan("Again"))  # nothing follows any more


def test_a_plan_is_merged_from_its_file_against_the_save_it_came_from(demo_window, opened, said, tmp_path):
    bench = demo_window.bench
    demo_window.plans.save()
    path = tmp_path / "theirs.awl.json"
    path.write_bytes(plan_bytes(rename_plan("Theirs").apply(bench.plan)))
    demo_window.hands.merge(path)
    (made,) = opened
    assert made.base.count() >= 1
    made.answer_rest("theirs")
    made.take()
    assert bench.plan.name == "Theirs"
    demo_window.hands.merge(tmp_path / "missing.awl.json")
    assert "missing" in said[-1]


def test_a_clubs_plan_is_followed_its_news_come_in_and_are_taken_back(demo_window, opened, said, tmp_path):
    bench, club = demo_window.bench, tmp_path / "club.awl.json"
    club.write_bytes(plan_bytes(bench.plan))
    demo_window.hands.following.show_news()
    assert "follows no club's plan" in said[-1]
    demo_window.hands.following.follow(club)
    assert "has all of it already" in said[-1]
    demo_window.hands.following.show_news()
    assert "no news" in said[-1]
    before = bench.plan
    club.write_bytes(plan_bytes(set_air("blackfell-dmr", "x", color_code=7).apply(before)))
    bench.do(rename_plan("Mine"))
    demo_window.hands.following.look_for_news()
    assert "has news" in said[-1]
    demo_window.hands.following.show_news()
    (made,) = opened
    assert made.found.questions == ()
    made.take()
    assert bench.plan.name == "Mine"
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 7
    document = bench.document
    assert followed_by(document.real).taken() != before
    bench.steps.back()
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 6
    assert followed_by(document.real).taken() == before, "one step takes all of it back"
    bench.steps.again()
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 7
    assert followed_by(document.real).taken() != before
    bench.steps.back()
    assert bench.index.services["blackfell-dmr"][1].air.color_code == 6
    demo_window.hands.following.leave()
    assert followed_by(document.real) is None
    demo_window.hands.following.follow(document.real)
    assert "cannot follow itself" in said[-1]


def test_a_pack_is_made_in_one_step_and_its_parts_are_taken_one_by_one(
    demo_window, opened, said, tmp_path, monkeypatch
):
    bench = demo_window.bench
    uses = (Use(430_000_000, 431_000_000, "hotspots"),)
    bench.do(rename_plan("Club"))
    bench.do(set_station("Uses", uses=uses))
    monkeypatch.setattr(actions, "ask_place", lambda *_asked: FilePlace(tmp_path / "pack.zip"))
    demo_window.commands.run("pack")
    assert "only what may be told" in said[-1]
    names = zipfile.ZipFile(tmp_path / "pack.zip").namelist()
    assert {"manifest.json", "plan/club.awl.json", "band-plan/band-plan.toml"} <= set(names)
    windows = []
    monkeypatch.setattr(actions.PackWindow, "exec", lambda self: windows.append(self) or 0)
    demo_window.hands.look_into(tmp_path / "pack.zip")
    (shown,) = windows
    kinds = [item.kind for item in shown.pack.parts]
    bench.do(set_station("No uses", uses=()))
    shown.table.choose(kinds.index("band-plan"))
    shown.take()
    assert "Ctrl Z" in shown.told.text()
    assert bench.plan.station.uses == uses
    shown.table.choose(kinds.index("steps"))
    shown.take()
    assert "Taken" in shown.told.text()
    assert "here already" in shown.table.text(kinds.index("steps"), 2)
    shown.take()
    assert "the very same" in shown.told.text()
    shown.table.choose(kinds.index("plan"))
    shown.take()
    assert len(opened) == 1
    (tmp_path / "bad.zip").write_bytes(b"PK nothing")
    demo_window.hands.look_into(tmp_path / "bad.zip")
    assert "was not looked into" in said[-1]


def test_a_packs_template_rules_and_layout_are_used_once_taken(demo_window, tmp_path):
    hands, folder = demo_window.hands, demo_window.bench.profiles.folder
    from umbra_awl.core.hands.pack import PackPart
    from umbra_awl.core.hotspot.match.layout import layout_text, shipped_layouts

    made = replace(shipped_layouts()[0], name="The club's")
    assert "Taken" in hands.take(PackPart("settings", "settings/x.toml", "The club's", layout_text(made)))
    assert (folder / "settings" / "the-club-s.toml").exists()
    demo_window.stages.open("hotspots", "match")
    offered = [name for name, _does in demo_window.stages["hotspots"].match.file.layouts()]
    assert "The club's" in offered


def test_a_packs_profile_replaces_none_that_is_here(demo_window, tmp_path):
    from umbra_awl.core.hands.pack import PackPart
    from umbra_awl.core.radio.profile_file import profile_text

    hands, bench = demo_window.hands, demo_window.bench
    shipped = bench.profiles["tarn16"]
    same = PackPart("profile", "profiles/t.toml", shipped.name, profile_text(shipped))
    assert "the very same" in hands.take(same)
    assert not list((bench.profiles.folder / "profiles").glob("*"))
    other = replace(shipped, limits=replace(shipped.limits, zones=7))
    told = hands.take(PackPart("profile", "profiles/t.toml", shipped.name, profile_text(other)))
    assert "Another profile here has the key “tarn16”" in told
    (key,) = bench.profiles.own
    assert (bench.profiles[key].limits.zones, bench.profiles["tarn16"]) == (7, shipped)
    assert "the very same" in hands.take(PackPart("profile", "profiles/t.toml", shipped.name, profile_text(other)))


def test_news_of_a_licensed_club_leave_a_newcomer_receive_only_and_say_so(demo_window, opened, tmp_path):
    bench, club = demo_window.bench, tmp_path / "club.awl.json"
    licensed = bench.plan
    bench.do(set_station("No licence", licence=Licence()))
    theirs = replace(
        licensed, destinations=(*licensed.destinations, replace(licensed.destinations[0], key="new", name="New"))
    )
    club.write_bytes(plan_bytes(theirs))
    demo_window.hands.merge(club)
    (made,) = opened
    made.base.setCurrentIndex(made.base.count() - 1)
    assert "licence and guard" in made.came.text()
    made.show()
    made.answer_rest("theirs")
    made.take()
    assert any(item.key == "new" for item in bench.plan.destinations)
    assert bench.plan.station.licence == Licence()
    assert "eceive-only" in transmit_state(bench.plan.station)
    assert all(row.receive_only for fit in bench.worked.results.fits.values() for row in fit.memory.channels)
    bench.steps.back()
    assert not any(item.key == "new" for item in bench.plan.destinations)
