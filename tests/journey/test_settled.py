"""The settled operator, keyboard first: an old radio becomes a plan, keys to press and a card for the glove box."""

import pytest
from PyQt6.QtCore import Qt

from umbra_awl.core.paper.taps import WAIT
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.desk.transfer.paper.pdf_pages import pictures_of
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
CTRL = Qt.KeyboardModifier.ControlModifier
OLD = (
    "Name,Mode,RX kHz,Shift,Shift kHz,Tone,Width,CC,TS,TG,Call,Zone\r\n"
    "BLK FM,FM,145712.5,down,600,103.5,narrow,,,,,Town\r\n"
    "BLK LOCAL,DMR,438612.5,down,7600,none,,6,1,8,group,Town\r\n"
    "BLK ISLES,DMR,438612.5,down,7600,none,,6,2,99900,group,Town\r\n"
    "NES ISLES,DMR,438787.5,up,7600,none,,2,2,99900,group,Away\r\n"
    "NES EXER,DMR,438787.5,up,7600,none,,6,2,99905,group,Away\r\n"
    "NES LOCAL,DMR,438787.5,up,7600,none,,2,1,8,group,Away\r\n"
)


def do(qtbot, window, words):
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(window.top.finder, words)
    qtbot.keyClick(window.top.finder, Qt.Key.Key_Return)


def test_an_old_radio_becomes_a_plan_keys_and_a_card(qtbot, empty_window, tmp_path):
    window = empty_window
    window.plans.new(tmp_path / "start.awl.json")
    window.stages.open("radios")
    window.stages["radios"].add(window.bench.profiles["tarn16"])
    do(qtbot, window, "Bring a radio in")
    assert (window.stages.current, window.stages["transfer"].pages.name) == ("transfer", "bring")
    (tmp_path / "memories.csv").write_text(OLD)
    page = window.stages["transfer"].bring
    page.sources.take_files([tmp_path / "memories.csv"])
    assert any("color code 6 where the others" in page.notes.item(at).text() for at in range(page.notes.count()))
    assert any("outside the band" in page.findings.item(at).text().lower() for at in range(page.findings.count()))
    page.into.setFocus()
    qtbot.keyClick(page.into, Qt.Key.Key_Space)
    assert [access.site for access in window.bench.plan.access] == ["BLK", "NES"]
    assert all(channel.receive_only for channel in window.bench.fit.memory.channels), "no licence yet: it only listens"

    do(qtbot, window, "Key sheet: enter")
    keys = window.stages["transfer"].keys
    assert window.stages["transfer"].pages.name == "keys"
    qtbot.keyClick(keys.list, Qt.Key.Key_Down)
    assert keys.sheet.memories[keys.list.currentRow()].steps[-1].saves
    assert all(key for item in keys.sheet.memories for step in item.steps for key in step.keys if key != WAIT)

    qtbot.keyClick(window, Qt.Key.Key_P, CTRL)
    card = window.stages["transfer"].card
    assert window.stages["transfer"].pages.name == "card"
    card.out.save_pdf(FilePlace(tmp_path / "card.pdf"))
    assert len(pictures_of((tmp_path / "card.pdf").read_bytes(), 300)) == card.made.bundle.pages

    do(qtbot, window, "Which radio carries")
    sheet = window.stages["radios"].compare.sheet
    sheet.setFocus()
    qtbot.keyClick(sheet, Qt.Key.Key_Right)
    qtbot.keyClick(sheet, Qt.Key.Key_Down)
    assert sheet.at == (1, 1)
    assert sheet.candidates[0].profile.key in {"moor4k", "tarn16"}
    do(qtbot, window, "Undo")
    assert not window.bench.plan.access


def test_what_was_read_of_a_radio_and_its_backup_are_brought_in(qtbot, window, demo):
    profile, memory, port = demo.radios["tarn"]
    window.stages.open("transfer")
    stage = window.stages["transfer"]
    with RadioProcess(profile, memory, port, speed=20):
        window.runner.read()
        qtbot.waitUntil(lambda: window.runner.held is not None, timeout=20_000)
    stage.show_page("bring")
    sources = stage.bring.sources
    sources._fill_menu()
    words = [action.text() for action in sources._menu.actions()]
    assert words[0] == "What was read of the Tarn 16"
    assert words[1].startswith("The backup of ")
    sources._menu.actions()[0].trigger()
    brought = stage.bring.found.brought
    assert len(brought.routes) == 29
    assert brought.matched == 8, "the radio was programmed with Cairnlow's right offset; the plan has it wrong"
    assert [access.site for access in brought.access] == ["NES"]
    sources._menu.actions()[1].trigger()
    assert stage.bring.source.where.startswith("the backup of")
    assert stage.bring.found.brought.fresh == brought.fresh
