"""People into a radio by cable in the real window: cut, told, resumed, proven; the finding goes only then."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from tests.days import TODAY
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import PeopleChoice
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.demo.furnish import furnish
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
PEOPLE = 150_000


def rules(window):
    return [item.rule.name for item in window.bench.worked.results.findings]


def test_150_000_people_cut_told_and_resumed(demo_window, demo, qtbot):
    window = demo_window
    furnish(demo, TODAY, PEOPLE + 50_000)
    profile, memory, port = demo.radios["moor"]
    before = memory.read_bytes()
    window.bench.choose_radio("moor")
    window.bench.do(set_fields(RADIOS, "moor", "Everybody", people=PeopleChoice(everybody=True)))
    window.stages.open("transfer", "lists")
    page = window.stages["transfer"].lists
    job = page.job
    assert job.chosen.total == PEOPLE
    assert "people-not-written" in rules(window)
    with RadioProcess(profile, memory, port, speed=200, faults=["unplug@6000000"]):
        page.take_focus()
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        assert page.stop.isVisible()
        qtbot.waitUntil(lambda: not job.running, timeout=60_000)
        assert "went away" in job.fault
        assert "people-not-written" in rules(window)
        qtbot.wait(2_500)
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        qtbot.waitUntil(lambda: not job.running, timeout=60_000)
    assert not job.fault
    assert job.success.startswith(f"Proven: {PEOPLE:,} people are in the radio")
    sent = int(job.success.split("; ")[1].split(" of ")[0].replace(",", ""))
    assert 3_000 < sent < 12_000, "what was sent before the cut is not sent again"
    assert memory.read_bytes() == before
    assert "people-not-written" not in rules(window)


def test_the_list_around_goes_over_the_card(demo_window, demo, qtbot):
    window = demo_window
    from umbra_awl.demo.fresh import start_card_radios
    from umbra_awl.desk.app import set_demo_cards

    radios = start_card_radios(demo)
    try:
        set_demo_cards(window, radios)
        window.bench.choose_radio("fell")
        window.stages.open("transfer", "lists")
        page = window.stages["transfer"].lists
        radio = radios["fell"]
        radio.do("power")
        radio.do("push out")
        whole = page.job.chosen.total
        page.job.take_from("elsewhere")
        assert page.job.chosen.total == 0
        page.job.take_from("elsewhere")
        assert page.job.chosen.total == whole
        assert page.of.text() == "all directories"
        page.take_focus()
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        qtbot.waitUntil(lambda: not page.job.running)
        assert page.job.success.startswith("Sent: ")
        for what in ("push in", "power", "list in"):
            radio.do(what)
        while radio.state["asks"]:
            radio.do("answer", yes=True)
        for what in ("list out", "power", "push out"):
            radio.do(what)
        page.job.look()
        assert page.job.found.taken
        assert "it has it" in page._todo.text()
    finally:
        for radio in radios.values():
            radio.stop()
