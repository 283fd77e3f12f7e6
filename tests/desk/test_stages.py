"""The table of stages: each row is true, nothing of a stage is elsewhere, and commands know when they apply."""

import ast
from importlib import import_module
from pathlib import Path

import pytest

import umbra_awl.desk
from umbra_awl.core.findings.model import BESIDE_PARTS
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.desk.frame.find.offers import offers
from umbra_awl.desk.stages import PAGE_OF, STAGE_OF, STAGES


@pytest.mark.parametrize("key", STAGES)
def test_a_stage_has_the_pages_and_what_is_imported_for_it(window, key):
    entry = STAGES[key]
    assert entry.key == key
    window.stages.open(key)
    stage = window.stages[key]
    assert type(stage).__module__ == entry.module
    assert tuple(stage.pages.names) == entry.pages
    for name in entry.later:
        import_module(f"umbra_awl.{name}")
    for page in entry.pages:
        stage.show_page(page)
        assert stage.pages.name == page
        stage.take_focus()
    with pytest.raises(KeyError):
        stage.show_page("no such page")


@pytest.mark.parametrize("key", STAGES)
def test_every_command_of_a_stage_opens_it(window, key, monkeypatch):
    from umbra_awl.desk.transfer.stage import TransferStage

    monkeypatch.setattr(TransferStage, "read", lambda _self: None)
    monkeypatch.setattr("PyQt6.QtWidgets.QDialog.exec", lambda _self: 0)
    monkeypatch.setattr("PyQt6.QtWidgets.QFileDialog.getOpenFileName", lambda *_all: ("", ""))
    monkeypatch.setattr("PyQt6.QtWidgets.QFileDialog.getSaveFileName", lambda *_all, **_options: ("", ""))
    monkeypatch.setattr("PyQt6.QtWidgets.QMenu.popup", lambda *_all: None)
    other = next(item for item in STAGES if item != key)
    for command in STAGES[key].commands:
        window.stages.open(other)
        window.commands.run(command.name)
        assert window.stages.current == key, command.name


def test_every_kind_of_thing_is_worked_on_at_exactly_one_stage():
    assert set(STAGE_OF) == BESIDE_PARTS | {part.target for part in PARTS.values() if part.target}
    assert sum(len(entry.targets) for entry in STAGES.values()) == len(STAGE_OF)
    assert all(entry.page_of(page) in entry.pages for entry in STAGES.values() for page in entry.targets.values())


@pytest.mark.parametrize("part", PARTS)
def test_whatever_of_a_plan_has_a_name_is_found_and_shown_where_it_is_worked_on(window, qtbot, part):
    known = {offer.words: offer for offer in offers(window.bench, window.commands)}
    kind = "service" if part == "access" else PARTS[part].target
    for item in PARTS[part].of(window.bench.plan)[:3]:
        name = item.by_call if part == "access" else getattr(item, "name", "")
        found = known.get(f"{PARTS[part].word.capitalize()} {name}") or known.get(name)
        assert found is not None or part in {"routes", "silenced", "hotspots"}, f"{part}: {name}"
        if found is not None:
            window.stages.open(next(key for key in STAGES if key != STAGE_OF[kind]))
            found.does()
            qtbot.waitUntil(lambda: window.stages.current == STAGE_OF[kind])
            assert window.stages[window.stages.current].pages.name == STAGES[window.stages.current].page_of(
                PAGE_OF[kind]
            )


def test_a_hotspot_is_found_by_its_site_and_a_trip_opens_at_access(window, qtbot):
    known = {offer.words: offer for offer in offers(window.bench, window.commands)}
    trip = window.bench.plan.trips[0]
    known[f"Trip {trip.name}"].does()
    qtbot.waitUntil(lambda: window.stages.current == "access")
    known[f"Network {window.bench.plan.networks[0].name}"].does()
    qtbot.waitUntil(lambda: window.stages.current == "station")
    assert window.stages["station"].pages.name == "networks"
    site = window.bench.index.access[window.bench.plan.hotspots[0].access].by_site
    known[f"Hotspot {site}"].does()
    qtbot.waitUntil(lambda: window.stages.current == "hotspots")
    assert window.bench.selection.target.kind == "hotspot"
    assert window.stages["hotspots"].spot.hotspot == window.bench.plan.hotspots[0]


def test_stages_share_no_key_no_command_and_no_shortcut():
    commands = [item for entry in STAGES.values() for item in entry.commands]
    assert len({item.name for item in commands}) == len(commands)
    keys = [item.keys for item in commands if item.keys]
    assert len(set(keys)) == len(keys)


def test_what_cannot_be_done_now_is_not_offered_and_its_keys_say_why(empty_window):
    table = empty_window.commands
    offered = {item.name for item in table.offered()}
    assert {"open", "new", "find", "theme", "diary"} <= offered
    assert not {"save", "undo", "names", "read", "repair", "stage-routes"} & offered
    for name in ("save", "names", "stage-routes"):
        table.run(name)
        assert "Open a plan first" in empty_window.message.text()
        empty_window.message.close_all()


def test_a_plan_without_radios_reads_none(empty_window, tmp_path):
    empty_window.plans.new(tmp_path / "new.awl.json")
    empty_window.commands.run("read")
    assert "no radio yet" in empty_window.message.text()


def imports_of(path):
    """The modules a file names in its imports, those inside functions too."""
    tree = ast.parse(path.read_text("utf-8"))
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module:
            yield node.module
        elif isinstance(node, ast.Import):
            yield from (item.name for item in node.names)


def test_stages_reach_neither_into_one_another_nor_does_the_frame_into_them():
    """Whatever two stages need lies beside them; the window knows them by the table alone, which knows their entries."""
    desk = Path(umbra_awl.desk.__file__).parent
    wrong = []
    for path in desk.rglob("*.py"):
        room = path.relative_to(desk).parts[0]
        for module in imports_of(path):
            other = module.removeprefix("umbra_awl.desk.").split(".")[0] if module.startswith("umbra_awl.desk.") else ""
            entry = path.name == "stages.py" and module.endswith(".entry")
            if other in STAGES and other != room and not entry:
                wrong.append(f"{path.relative_to(desk)} imports {module}")
    assert wrong == []
    packages = {path.parent.name for path in desk.glob("*/entry.py")}
    assert packages == set(STAGES), "a stage's package is not in the table"
