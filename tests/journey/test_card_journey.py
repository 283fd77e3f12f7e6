"""There and back over the memory card in the real window, against the simulated radios; each slip told on the page."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.demo.fresh import start_card_radios
from umbra_awl.desk.app import set_demo_cards

pytestmark = pytest.mark.journey


@pytest.fixture
def radios(window, demo):
    running = start_card_radios(demo)
    set_demo_cards(window, running)
    yield running
    for radio in running.values():
        radio.stop()


class Card:
    """The page and the hands on the radio."""

    def __init__(self, window, radio, key, qtbot):
        window.bench.choose_radio(key)
        window.stages.open("transfer")
        self.window, self.radio, self.qtbot = window, radio, qtbot
        self.stage = window.stages["transfer"]
        assert self.stage.pages.name == "slot"
        self.page = self.stage.slot

    def out(self, **more):
        if not self.radio.state["on"]:
            self.radio.do("power")
        self.radio.do("write out", **more)
        self.radio.do("power")
        self.radio.do("push out")
        self.page.look()

    def back(self):
        self.radio.do("push in")
        self.radio.do("power")
        self.page.look()

    def load(self, scope="everything"):
        self.radio.do("read in", name=self.page.found.sent, scope=scope)
        while self.radio.state["asks"]:
            self.radio.do("answer", yes=True)

    def press(self):
        """Press the one action with the keyboard."""
        self.page.take_focus()
        assert self.page.main.hasFocus()
        QTest.keyClick(self.page.main, Qt.Key.Key_Space)
        self.qtbot.waitUntil(lambda: not self.window.runner.running)
        QTest.qWait(10)
        self.page.look()

    @property
    def said(self):
        return self.page._state.text()


@pytest.mark.parametrize("key", ["fell", "crag"])
def test_there_and_back(window, radios, qtbot, key):
    card = Card(window, radios[key], key, qtbot)
    assert not card.page.main.isEnabled()
    card.out()
    card.press()
    assert card.page.main.text().startswith("Send ")
    assert card.page.side._shown
    card.press()
    assert "PLAN0001.AWC" in card.said
    assert not card.page.main.isEnabled()
    card.back()
    card.load()
    card.out()
    assert card.page.main.text() == "Prove it"
    card.press()
    assert card.said.startswith("Proven")
    assert card.page.picture.steps[9].word == "prove"
    assert window.runner.held.image == radios[key].memory.read_bytes()
    shown = card.page.side._shown[0]
    card.back()
    radios[key].do("turn to", name=shown.name)
    state = radios[key].do("key")
    assert state["lines"] == [shown.name, f"TX {shown.keyed}"]


def test_each_slip_is_told_on_the_page(window, radios, qtbot):
    card = Card(window, radios["fell"], "fell", qtbot)
    card.out(scope="memories")
    assert "only the radio's memories" in card.said
    card.back()
    card.out()
    card.press()
    card.back()
    assert "nothing was sent" in card.said
    card.out()
    assert card.page.main.text().startswith("Send "), "what is on the card is what was read and compared"
    card.press()
    card.back()
    card.out()
    assert "has not taken" in card.said
    assert card.page.found.amiss
    card.back()
    card.load("memories")
    card.out()
    assert card.page.found.stage in {"half", "new"}


def test_a_radio_without_a_card_is_sent_to_its_own_way(window, radios, qtbot):
    card = Card(window, radios["fell"], "fell", qtbot)
    window.bench.choose_radio("tarn")
    assert card.stage.pages.name == "cable"
    card.stage.show_page("slot")
    assert card.stage.pages.is_blank
    assert "cable" in card.stage.pages._blank.shown.text


def test_the_simulated_radio_can_be_pressed_in_the_demo(window, radios, qtbot):
    from umbra_awl.desk.transfer.card.bench_radio import BenchRadio

    card = Card(window, radios["crag"], "crag", qtbot)
    card.page.open_bench()
    (shown,) = card.page.findChildren(BenchRadio)
    shown.do("write out")
    assert shown.line.text() == "ALL IS OVER"
    shown.do("power")
    shown._move_card()
    assert card.page.found.stage == "ready"
    shown.close()


def test_the_phone_app_there_and_back_by_keyboard(window, demo, qtbot):
    from umbra_awl.demo.fresh import start_phone
    from umbra_awl.desk.app import set_demo_phone

    with start_phone(demo) as phone:
        set_demo_phone(window, "fell", phone.address)
        window.bench.choose_radio("fell")
        window.stages.open("transfer", "app")
        page = window.stages["transfer"].app

        def press():
            page.take_focus()
            QTest.keyClick(page.main, Qt.Key.Key_Space)
            qtbot.waitUntil(lambda: not page.job.running)

        press()
        assert page.job.stand == "taken"
        shown = [row[:3] for row in page.table.texts.rows]
        assert ("own, stays", "access list", "Ferry Quay B") in [tuple(row) for row in shown]
        assert page.main.text().startswith("Hand over")
        press()
        assert page.job.stand == "proven"
        assert page.job.front.link == "connected"
        assert page.picture._front.lines[2] == "Q4WRN"
