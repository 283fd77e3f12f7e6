"""The simulated hotspot as a process: settings, a start that takes a minute, a link that waits, overs, faults."""

import pytest

from umbra_awl.core.hotspot.logs.reading import read_log_bytes
from umbra_awl.core.hotspot.match.layout import shipped_layouts, write_settings
from umbra_awl.core.hotspot.seek.errors import NotNowError, WrongKeyError
from umbra_awl.core.hotspot.seek.talk import Talk
from umbra_awl.standins.hotspot.machine import DEFAULT_KEY, STARTS_S, Machine, Refused
from umbra_awl.standins.hotspot.oscillator import Oscillator
from umbra_awl.standins.launch import BondProcess, HotspotProcess, StandInError, WifiProcess

VALUES = {
    "call": "Q4WRN", "id": "999421701", "tx_hz": "434012500", "rx_hz": "434012500", "modes": "dmr", "modem": "simplex-70",
    "master": "m.invalid", "color_code": "1",
}  # fmt: skip
OVER = {"mode": "dmr", "tx_hz": "434012500", "seconds": "3", "call": "Q4WRN", "to": "9", "color_code": "1", "slot": "2"}


@pytest.fixture
def spot():
    with HotspotProcess(pace=600, error_hz=300) as process:
        yield Talk(process.address)


def set_up(talk):
    layout = shipped_layouts()[0]
    Talk(talk.address, DEFAULT_KEY).apply(write_settings(talk.settings(), layout, VALUES))


def wait_up(talk):
    import time

    for _time in range(100):
        if talk.status().up:
            return
        time.sleep(0.02)
    pytest.fail("it never came up")


def test_from_a_bare_board_to_an_over_that_is_heard(spot):
    wait_up(spot)
    assert spot.status().default_password
    assert {item.rule.key for item in read_log_bytes(spot.log()).faults} >= {"no-mode", "wrong-modem"}
    assert not spot.over(OVER).heard
    set_up(spot)
    wait_up(spot)
    status = spot.status()
    assert (status.modem, status.logged_in) == ("ready", True)
    assert not read_log_bytes(spot.log()).faults
    heard = spot.over({**OVER, "correction": "300"})
    assert heard.beep
    assert heard.errors / heard.bits < 0.02
    lost = spot.over({**OVER, "correction": "-2500"})
    assert (lost.reached, lost.heard) == (True, False)
    assert not spot.over({**OVER, "tx_hz": "434025000"}).reached
    assert not spot.over({**OVER, "color_code": "7"}).reached


def test_setting_it_needs_the_pages_password_which_can_be_changed(spot):
    with pytest.raises(WrongKeyError):
        spot.apply("[air]\nsends=434012500\n")
    with pytest.raises(WrongKeyError):
        Talk(spot.address, "not that one").link("99900")
    with pytest.raises(NotNowError):
        Talk(spot.address, DEFAULT_KEY).set_key("short")
    assert not Talk(spot.address, DEFAULT_KEY).set_key("hush-hush").default_password
    with pytest.raises(WrongKeyError):
        Talk(spot.address, DEFAULT_KEY).link("99900")
    assert "hush" not in spot.settings()


def test_a_link_waits_until_it_is_up(spot):
    clock = [0.0]
    machine = Machine(lambda: clock[0], {"board.type": "simplex-70", "modes.dmr": "on"})
    with pytest.raises(Refused, match="starting"):
        machine.link("99900")
    clock[0] = STARTS_S
    machine.link("99900")
    assert machine.linked == "99900"
    machine.apply({"dmr.color": "3"})
    assert machine.linked == ""


CURES = [("login-twice", "station.login"), ("not-resolved", "dmr.master"), ("clock-wrong", "host.zone")]


@pytest.mark.parametrize(("fault", "key"), CURES)
def test_a_fault_goes_with_the_setting_it_is_about(fault, key):
    clock = [0.0]
    machine = Machine(lambda: clock[0], {"board.type": "simplex-70", "modes.dmr": "on"}, faults=(fault,))
    clock[0] = STARTS_S
    assert not machine.online
    machine.apply({"dmr.color": "3"})
    clock[0] += STARTS_S
    assert not machine.online
    machine.apply({key: "another"})
    clock[0] += STARTS_S
    assert machine.online


def test_the_oscillator_is_best_at_its_error():
    board = Oscillator(410)
    assert board.rate(410) < board.rate(300) < board.rate(0)
    assert board.rate(410 + 200) == pytest.approx(board.rate(410 - 200))


def test_a_fault_that_is_none_is_refused():
    with pytest.raises(StandInError, match="There is no fault"):
        HotspotProcess(faults=("nonsense",))


def test_wifi_and_pairing_answer_line_by_line_even_to_nonsense():
    with WifiProcess() as air:
        assert air.tell(do="set", phone="A", home="H", known=["A"])["display"] == "dark"
        air._process.stdin.write("not json\n[1]\n")
        air._process.stdin.flush()
        assert air.tell(do="phone", on=True)["event"] == "state"
    with BondProcess("app", "", ["wireless"]) as bond:
        assert bond.tell(do="radio", key="nonsense", value="x")["settings"] == {"wireless": "off"}
